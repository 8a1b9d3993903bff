"""Roofs of planes: those that cannot be made, what of them is not designed, gables that leave a gap, heads too low or high."""

from collections import Counter
from collections.abc import Iterable

from balken.catalog.sections import section
from balken.derived.finding import Finding, Fix
from balken.derived.model import Model
from balken.derived.roof_decks import roof_deck_of
from balken.design.heel_joints import heel_joints
from balken.design.surface_design import SurfaceDesign
from balken.findings.names import all_of
from balken.findings.purlin_rules import purlin_findings
from balken.framing.rafters import FLATTEST_BOARD
from balken.framing.roofs import RoofPlan
from balken.framing.surface_members import deep_enough
from balken.framing.surface_roofs import SurfacePlan, surface_gables
from balken.framing.surface_ties import in_the_air, leaning, tied_at
from balken.geometry.roof_edges import Place
from balken.model.lookup import bearer_label, by_id, label_of, wall_label
from balken.model.records import Hang
from balken.standards.checks import used_text
from balken.units import format_area_load, format_force, say_inches, say_length
from balken.units.system import PSF


def surfaces(c: Model) -> Iterable[Finding]:
    """What is wrong with, or missing of, roofs of planes."""
    for plan in c.surfaces:
        roof, at = plan.roof, (*plan.outline.core[0], plan.bearing)
        if plan.problem:
            yield Finding(
                "roof",
                "roof",
                f"{roof.name} cannot be made",
                f"{plan.problem[0].upper()}{plan.problem[1:]}. Make one of its edges an eave, or change a pitch or an overhang.",
                (roof.id,),
                at,
            )
            continue
        yield from _held(c, plan, at)
        _, open_ones = surface_gables(plan, c.lines)
        if open_ones:
            yield Finding(
                "gable",
                "roof",
                f"{roof.name}: a gap stays open over {all_of([wall_label(c.project, w) for w in open_ones])}",
                "Walls are run up under roofs that rise to one top from both ends; over these it steps, or dips between.",
                (roof.id, *open_ones),
                at,
            )
    yield from _drifts(c)
    yield from _too_flat(c)
    yield from _heels(c)
    yield from _collars(c)
    yield from _lifted(c)
    yield from _heads(c)
    yield from _weak_lines(c)
    yield from _decks(c)


def _decks(c: Model) -> Iterable[Finding]:
    """Decks of roofs that do not reach from rafter to rafter, or are too thin for the snow on them."""
    at = _corners(c)
    for roof in c.project.roofs:
        deck = roof_deck_of(c, roof)
        if deck is None or deck.works:
            continue
        thick, apart = say_inches(roof.deck, c.units), say_inches(deck.spacing, c.units)
        what = f"{roof.name}: its deck of {thick} is too thin to be one"
        why = "Panels of roofs are 3/8 in thick at least (IRC Table R503.2.1.1(1))."
        if deck.panel is not None and not deck.reaches:
            what = f"{roof.name}: its deck of {thick} does not reach over rafters {apart} apart"
            why = f"Panels {deck.panel.rating} span {say_inches(deck.panel.span, c.units)} with their edges held ({deck.panel.clause})."
        elif deck.panel is not None:
            what = f"{roof.name}: its deck of {thick} is used {used_text(deck.used)} by snow"
            why = (
                f"{format_area_load(deck.load, c.units)} lie on it where most does; panels {deck.panel.rating} carry "
                f"{format_area_load(deck.panel.carries, c.units)} over {apart} ({deck.panel.clause})."
            )
        fix = None
        if deck.works_with:
            text = f"Use panels of {say_inches(deck.works_with, c.units)}"
            fix = Fix(text, "change", (roof.id,), (("deck", deck.works_with),))
        yield Finding(
            "roof deck",
            "roof",
            what,
            f"{why} Take thicker panels, or a closer spacing.",
            (roof.id,),
            at[roof.id],
            fix=fix,
        )


def _corners(c: Model) -> dict[str, Place]:
    """Return a corner of each roof, to show, by its id."""
    found: dict[str, Place] = {plan.roof.id: (*plan.outline.core[0], plan.bearing) for plan in c.surfaces}
    return found | {plan.roof.id: (*plan.outline.core[0], plan.bearing) for plan in c.roofs}


def _by_beams(c: Model, roof: str) -> Fix | None:
    """Return the fix that makes a roof's ridges beams; dormers have boards."""
    if roof in c.dormers:
        return None
    return Fix("Carry the ridges by beams", "change", (roof,), (("ridge_made", "beam"),))


def _held(c: Model, plan: SurfacePlan, at: Place) -> Iterable[Finding]:
    """What is not designed of what holds a roof up and together."""
    roof, framing = plan.roof, c.planes.get(plan.roof.id)
    if plan.trussed and framing is None:
        return
    if framing is None:
        yield Finding(
            "not designed", "roof", f"{roof.name} has no rafters", "Its planes are too small for any.", (roof.id,), at
        )
        return
    yield from purlin_findings(c, plan, framing, at)
    loose = {one.key for one in framing.purlins}
    for end in framing.carried.settled.unheld:
        keys = [framing.carried.names[i] for i in end.lines]
        if loose & {*keys}:
            continue  # told of purlins
        if framing.ring is not None and framing.ring.works:
            continue  # they keep one another in balance, held together by plates that are designed for it
        marks = Counter(c.marks.get(key, "") for key in keys)
        ended = all_of([f"{n} {mark}" if n > 1 else mark for mark, n in marks.items()])
        come = format_force(c.standard.combinations.worst(end.force)[0], c.units)
        yield Finding(
            "end of hip",
            "roof",
            f"{roof.name}: nothing holds up the ends of {ended}",
            f"{come} come there. Until a post does, they are taken to lean on one another and to bring it down to the walls' corners; "
            f"a ring of plates that takes their push does not hold (IRC R802.4.3): {_why_no_ring(framing)}.",
            (roof.id, *keys),
            (*end.at[:2], plan.bearing + end.at[2]),
            fix=Fix("Set a post under it", "posts_under_roof", (roof.id, end.at)),
        )
    yield from _openings(c, plan, framing, at)
    for snag in framing.snags:
        yield Finding(
            "hand edit room",
            "roof",
            f"{roof.name}: {snag.text}",
            "It stays where its layout has it. Move it less far, or move the next one first.",
            (roof.id,),
            snag.at,
            grave=False,
        )
    hanging = in_the_air(plan, framing.members)
    if hanging:
        count = f"{len(hanging)} rafters end" if len(hanging) > 1 else "a rafter ends"
        yield Finding(
            "step",
            "roof",
            f"{roof.name}: {count} at a step between its planes, over nothing",
            "Their upper ends need a wall or beam below, which is not made. Change a pitch or an edge so that the planes meet.",
            (roof.id, *(one.key for one in hanging)),
            (*hanging[0].member.end[:2], plan.bearing + hanging[0].member.end[2]),
        )
    yield from _ties(c, plan, framing, at)


THIRD = 1.0 / 3.0
"""Ceiling ties lie no higher than this part of the rise (IRC R802.5.2)."""


def _ties(c: Model, plan: SurfacePlan, framing: SurfaceDesign, at: Place) -> Iterable[Finding]:
    """Rafters that nothing ties, and ties that are too weak."""
    roof = plan.roof
    if framing.untied and framing.thrust > 0.0:
        count = f"{len(framing.untied)} rafters push" if len(framing.untied) > 1 else "a rafter pushes"
        yield Finding(
            "untied",
            "roof",
            f"{roof.name}: {count} outward and nothing ties them",
            f"They lean on a ridge board with up to {format_force(framing.thrust, c.units)} each, and one of each pair stands on a valley, or "
            "has none opposite, or a raised tie would meet it near the ridge or where an opening cuts it, or its tie is taken out: no ceiling tie holds it. Ridges "
            "made as beams need no ties.",
            (roof.id, *framing.untied),
            at,
            fix=_by_beams(c, roof.id),
        )
    high = max((tied_at(plan, m.member) for pair in leaning(plan, framing.members).pairs for m in pair), default=0.0)
    if high > THIRD + 1e-6:
        yield Finding(
            "raised ties",
            "roof",
            f"{roof.name}: ceiling ties lie higher than a third of the ridge's height",
            f"They meet rafters at {high:.2f} of that, and tables and rules end at 1/3 (IRC R802.5.2). Rafters are checked for it: they bend "
            "most at such ties. Lower the ties, or carry the ridges by beams.",
            (roof.id,),
            at,
            grave=False,
        )
    if framing.tied is not None and framing.tied.result.used > 1.0:
        check = framing.tied.result.governs
        yield Finding(
            "used",
            "roof",
            f"{roof.name}: ceiling {'joists' if plan.trussed else 'ties'} {framing.tied.size} used {used_text(framing.tied.result.used)}",
            f"{check.name[0].upper()}{check.name[1:]} governs ({check.clause}). "
            + (
                "Set its rafters closer, take a better grade, or frame the hip end with trusses."
                if plan.trussed
                else "Carry the ridges by beams, or set a bearing wall under the ties."
            ),
            (roof.id,),
            at,
            fix=None if plan.trussed else _by_beams(c, roof.id),
        )


def _too_flat(c: Model) -> Iterable[Finding]:
    """Ridge boards under roofs of planes that are too flat for them."""
    for plan in c.surfaces:
        ridged = {e for line in plan.surface.lines if line.kind == "ridge" for e in line.edges}
        pitches = [face.pitch for face in plan.surface.faces if face.edge in ridged]
        if plan.roof.ridge_beams or min(pitches, default=1.0) >= FLATTEST_BOARD - 1e-6:
            continue
        yield Finding(
            "ridge board",
            "roof",
            f"{plan.roof.name}: flatter than 3:12, its ridge must be a beam",
            "Rafters of so flat a roof push too hard to lean on one another: what holds their heads is designed as a beam (IRC R802.4.4).",
            (plan.roof.id,),
            (*plan.outline.core[0], plan.bearing),
            fix=_by_beams(c, plan.roof.id),
        )
    for plan in c.surfaces:
        framing, rafters = c.planes.get(plan.roof.id), c.designs.get((plan.roof.id, "rafters"))
        typed = plan.roof.ridge_size
        if framing is None or rafters is None or typed is None or plan.roof.ridge_beams:
            continue
        steepest = max((face.pitch for face in plan.surface.faces), default=0.0)
        fits = deep_enough(rafters.size, 0.0, steepest)[0]
        if section(typed).depth < section(fits).depth - 0.5:
            yield Finding(
                "ridge depth",
                "roof",
                f"{plan.roof.name}: ridge board {typed} is shallower than the rafters' plumb cut",
                "It is no less deep than that (IRC R802.3).",
                (plan.roof.id,),
                (*plan.outline.core[0], plan.bearing),
                fix=Fix(f"Use a {fits} ridge board", "change", (plan.roof.id,), (("ridge_size", fits),)),
            )


def _heels(c: Model) -> Iterable[Finding]:
    """Heel joints that need more nails than find room."""
    at = _corners(c)
    for roof in (*c.project.roofs, *(plan.roof for plan in c.surfaces if plan.roof.id in c.dormers)):
        ties, rafters = c.designs.get((roof.id, "ties")), c.designs.get((roof.id, "rafters"))
        if ties is None or rafters is None:
            continue
        for where, nails in heel_joints(roof, rafters, ties, c.planes.get(roof.id), c.standard):
            if not nails.fits:
                yield Finding(
                    "heel joint",
                    "roof",
                    f"{roof.name}: {nails.number} nails at each heel joint{' ' + where if where else ''} find no room",
                    f"Rafters push with {format_force(nails.force, c.units)} at normal load duration, one 16d common nail holds "
                    f"{format_force(nails.value, c.units)} ({nails.clause}). Set rafters closer, make the roof steeper, or carry the "
                    "ridge by a beam.",
                    (roof.id,),
                    at[roof.id],
                )


def _collars(c: Model) -> Iterable[Finding]:
    """Collar ties that need more nails than find room."""
    at = _corners(c)
    for roof in c.project.roofs:
        worst = c.planes[roof.id].collared.worst if roof.id in c.planes else None
        if worst is not None and not worst.nails.fits:
            closer = roof.collar == "spaced"
            yield Finding(
                "collar tie",
                "roof",
                f"{roof.name}: {worst.nails.number} nails at each end of a collar tie find no room",
                f"Wind pulls at it with {format_force(worst.nails.force, c.units)} at normal load duration, one 16d common nail holds "
                f"{format_force(worst.nails.value, c.units)} ({worst.nails.clause}). "
                + (
                    "Set one across every pair."
                    if closer
                    else "Strap the rafters over the ridge, or carry it by a beam."
                ),
                (roof.id, worst.key),
                at[roof.id],
                fix=Fix("Collar ties across every pair", "change", (roof.id,), (("collar", "all"),))
                if closer
                else None,
            )


def _why_no_ring(framing: SurfaceDesign) -> str:
    """Return why no ring of plates holds hips together."""
    ring = framing.ring
    if ring is None or ring.problem:
        return ring.problem if ring is not None else "none of them is a hip"
    plates = max((made.used for made in ring.plates.values()), default=0.0)
    if plates > 1.0:
        return f"its plates would be used {used_text(plates)} in tension"
    if ring.ridge is not None and ring.ridge.used > 1.0:
        return f"the ridge would be used {used_text(ring.ridge.used)} in compression"
    most = max(ring.nails.values(), key=lambda one: one.number)
    return f"{most.number} 16d nails would be needed where they lap, more than find room"


def _openings(c: Model, plan: SurfacePlan, framing: SurfaceDesign, at: Place) -> Iterable[Finding]:
    """Openings in planes that are not framed, and what frames others too weakly."""
    for opening, why in framing.unframed:
        if opening in c.dormers:
            what = f"the opening below {c.dormers[opening].place.dormer.name}"
        else:
            what = f"a {by_id(c.project.roof_openings)[opening].kind}"
        yield Finding(
            "roof opening",
            "roof",
            f"{plan.roof.name}: {what} is not framed",
            f"{why[0].upper()}{why[1:]}. Move it, or make it smaller.",
            (opening, plan.roof.id),
            at,
        )
    rafters = c.designs[(plan.roof.id, "rafters")]
    keys = [one.key for one in framing.members if one.wall] if rafters.result.used <= 1.0 else []
    for key in (*keys, *(header.key for header in framing.headers)):
        result = framing.results[key]
        if result.used > 1.0:
            piece = c.piece(key)
            yield Finding(
                "used",
                "roof",
                f"{c.marks.get(key, '')}, {piece.section if piece is not None else ''}, of {plan.roof.name}: used {used_text(result.used)}",
                f"{result.governs.name[0].upper()}{result.governs.name[1:]} governs ({result.governs.clause}). It carries more than others: "
                "beside an opening, under another roof or a dormer, or where a rafter was taken out or moved. Give it more plies, or deeper "
                "rafters to all.",
                (key, plan.roof.id),
                c.place(key),
            )


def _weak_lines(c: Model) -> Iterable[Finding]:
    """Hips and valleys for which nothing tried is strong enough."""
    for roof, framing in c.planes.items():
        for line in framing.lines:
            if line.result.used > 1.0:
                check = line.result.governs
                yield Finding(
                    "used",
                    "roof",
                    f"{c.marks.get(line.key, '')}, {line.size}: used {used_text(line.result.used)}",
                    f"{check.name[0].upper()}{check.name[1:]} governs ({check.clause}). Hold it in between by a post, or lower the "
                    "spans by a wall or beam under it.",
                    (line.key, roof),
                    c.place(line.key),
                )


def _lifted(c: Model) -> Iterable[Finding]:
    """Bearings of roofs for which no tie is strong enough; walls that wind lifts off what they stand on."""
    at, loads = _corners(c), c.project.loads
    if at and loads.wind_speed > 0.0 >= loads.roof_live:
        least = 20.0 * PSF
        yield Finding(
            "uplift",
            "roof",
            "What wind lifts is not worked out without a live load on roofs",
            "How much of a roof comes to a bearing is read from that load; roofs have 12 to 20 psf of it (IRC Table R301.6).",
            (next(iter(at)),),
            next(iter(at.values())),
            fix=Fix(f"Take {format_area_load(least, c.units)} on roofs", "set_loads", (), (("roof_live", least),)),
        )
    for row in c.uplift.lifted:
        if row.net > 0.0 and not row.tie:
            yield Finding(
                "uplift",
                "roof",
                f"{by_id(c.project.roofs)[row.roof].name}: no tie of the list holds down {'its rafters' if row.what == 'rafter' else f'the {row.what}'} "
                f"on {label_of(c.project, row.bearer)}",
                f"Wind lifts {format_force(row.net, c.units)} there, after 0.6 of the dead load (ASCE 7-16, 2.4.1).",
                (row.roof, row.bearer),
                at[row.roof],
            )
    for foot in c.uplift.feet:
        if foot.net > 0.0 and not foot.tie:
            yield Finding(
                "uplift",
                "walls" if foot.thing in c.lines else "foundations",
                f"{bearer_label(c.project, foot.thing)}: wind lifts its foot with {format_force(foot.net, c.units)} in all",
                "Six tenths of all that is dead above it do not hold it down (ASCE 7-16, 2.4.1), and no tie of the list does. Hold it down by "
                "more weight, or make the overhangs shorter.",
                (foot.thing,),
                c.place(foot.thing),
            )
    for roof in c.uplift.beyond:
        yield Finding(
            "uplift",
            "roof",
            f"{by_id(c.project.roofs)[roof].name}: what wind lifts is not worked out",
            "The building is higher than 60 ft, or higher than it is wide: the rules for low-rise buildings do not cover it.",
            (roof,),
            at[roof],
        )


def _drifts(c: Model) -> Iterable[Finding]:
    """Drifts beside gable roofs, whose rafters do not take them."""
    for plan in c.roofs:
        for band in c.snow[plan.roof.id].bands:
            far = f"{format_area_load(band.peak, c.units)}, over {say_length(band.wide, c.units)}"
            yield Finding(
                "drift",
                "roof",
                f"{plan.roof.name}: its rafters are not made for the snow that {'drifts' if band.tapers else 'slides'} onto it",
                f"Beside a taller part up to {far} come on top of the rest (ASCE 7-16, 7.7, 7.9). A roof of planes carries it.",
                (plan.roof.id,),
                (*band.start, plan.bearing),
                fix=Fix("Make it a roof of planes", "as_planes", (plan.roof.id, plan.gable_walls, _shared(plan))),
            )


def _shared(plan: RoofPlan) -> tuple[str, ...]:
    """Return the walls of a roof that are those of another part, too."""
    return tuple(w for w, shared in zip(plan.outline.walls, plan.outline.shared, strict=True) if shared)


def _beam_head(c: Model, plan: SurfacePlan, beam: str, bears: float) -> Iterable[Finding]:
    """A beam under a side of a roof whose top does not lie where the roof bears there."""
    line = c.path.beams[beam].line
    if plan.problem or abs(line.top - bears) <= 1.0:
        return
    name = wall_label(c.project, beam)
    yield Finding(
        "roof bearing",
        "roof",
        f"{name}: the roof does not sit on its top",
        f"Its top is at {say_length(line.top, c.units)}, the roof bears at {say_length(bears, c.units)}."
        + (
            " It lies under the joists of a floor, which say how high: leave it out of the roof's sides."
            if line.beam.floor
            else ""
        ),
        (beam, plan.roof.id),
        (*line.at(line.length / 2.0), line.top),
        fix=None
        if line.beam.floor
        else Fix("Bring its top to the bearing", "change", (beam,), (("top", _raised(plan, bears)),)),
    )


def _raised(plan: SurfacePlan, bears: float) -> Hang:
    """Return a height as it hangs from the level on which a roof bears."""
    on = plan.roof.bearing
    return Hang(level=on.level, offset=on.offset + bears - plan.bearing)


def _heads(c: Model) -> Iterable[Finding]:
    for plan in c.surfaces:
        for i, (wall, edge) in enumerate(zip(plan.outline.walls, plan.edges, strict=True)):
            line = c.lines.get(wall)
            if line is None and wall in c.path.beams:
                yield from _beam_head(c, plan, wall, plan.bearing + edge.start)
            beside = [x.edges[0] for x in plan.surface.lines if x.kind == "rake" and x.edges[1] == i]
            # A wall that ends lower runs up to a raised eave; beside a half-hip it would stand out of the roof if it ended higher.
            at = plan.bearing + min((plan.edges[k].start for k in beside), default=edge.start)
            fits = line is not None and (abs(line.band.top - at) <= 1.0 or (not beside and wall in c.gables))
            if line is None or edge.kind != "eave" or fits or plan.problem:
                continue
            yield Finding(
                "roof bearing",
                "roof",
                f"{wall_label(c.project, wall)}: the roof does not sit on its head",
                f"Its head is at {say_length(line.band.top, c.units)}, the roof bears at {say_length(at, c.units)}.",
                (wall, plan.roof.id),
                (*line.band.at(line.band.length / 2.0, 0.0), line.band.top),
                fix=Fix(
                    "Bring the head to the bearing",
                    "set_wall_head",
                    (wall, plan.roof.bearing.level, plan.roof.bearing.offset + at - plan.bearing),
                ),
            )


ROOF_RULES = (surfaces,)
