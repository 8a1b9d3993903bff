"""The card of a roof of planes: what it does at each edge, its planes, lines and areas."""

from collections.abc import Callable

from balken.design.lookouts import GableLookouts, under_wind
from balken.design.one_roof import frame_through
from balken.design.purlin_posts import purlin_ends
from balken.design.roof_posts import posts_under_purlins, posts_under_roof
from balken.design.struts import HeldStrut, pushed
from balken.design.surface_design import SurfaceDesign
from balken.design.two_pitches import between_gables, break_slopes
from balken.documents.lowered_frames import tail_text
from balken.framing.joined_roofs import runs_onto
from balken.framing.raftered_ends import raftered_end
from balken.framing.ridge_seats import under_edges
from balken.framing.roof_decks import deck_area
from balken.framing.roof_drains import drains
from balken.framing.roof_layout import lengths
from balken.framing.surface_roofs import SurfacePlan
from balken.geometry.roof_edges import EdgeKind
from balken.model import edits
from balken.model.errors import EditError
from balken.model.kinds.roof import PlaneFramed
from balken.model.lookup import by_id, height, wall_label
from balken.model.records import Project, Roof, RoofOpening
from balken.model.roof_edits import raise_roof, set_side, side_of
from balken.panel.card_parts import Button, Card, Entry, Fact, Part, Rows, entries
from balken.panel.fields import FIELDS
from balken.session.session import Edit, Session
from balken.standards.checks import used_text
from balken.units import (
    Units,
    format_area,
    format_force,
    format_inches,
    format_length,
    format_pitch,
    parse_length,
    parse_pitch,
)
from balken.units.system import FOOT

KINDS: list[tuple[str, str]] = [
    ("eave", "eave"),
    ("gable", "gable"),
    ("wall", "stands against a wall"),
    ("roof", "runs on over the roof there"),
]
FRAMED: list[tuple[str, str]] = [("roof", "with trusses, as the roof"), ("rafters", "with rafters")]
NAMES = {
    "ridge": "Ridges",
    "hip": "Hips",
    "valley": "Valleys",
    "eave": "Eaves",
    "rake": "Rakes",
    "wall": "Against walls",
    "laid": "Valleys on roofs below",
}
AS_ROOF = "the roof's"
DIFFER = "they differ"


def surface_parts(session: Session, roof: Roof) -> list[Part]:
    """Return what can be typed of each edge, and what came of it."""
    plan = next((plan for plan in session.model.surfaces if plan.roof.id == roof.id), None)
    if plan is None:
        return []
    units = session.project.units
    parts: list[Part] = ["Edges"]
    if len(plan.outline.walls) > 2:
        parts.append(Fact("Several at once", "pick their walls too, with Ctrl"))
    for wall in dict.fromkeys(plan.outline.walls):
        parts += _side(session, roof, wall)
    broken = [w for w, edge in zip(plan.outline.walls, plan.edges, strict=True) if edge.kind == "eave"]
    if len(broken) > 1 and _can_break(session, roof, *broken):
        parts.append(Entry("All eaves, broken", "", _breaks(session, roof, *broken), hint=_break_hint(units)))
    parts += _through(session, roof)
    if plan.problem:
        return [*parts, Fact("No roof", plan.problem)]

    def square(mm2: float) -> str:
        return format_area(mm2, units)

    top = plan.bearing + plan.surface.top
    parts += [
        "Planes",
        Entry(
            "Highest over the bearing",
            format_length(plan.surface.top, units),
            _raised(roof.id, plan.surface.top, units),
        ),
        Fact("Highest", f"at {format_length(top, units)}"),
        Fact("On the slope", square(deck_area(plan))),
        Fact("In plan, with overhangs", square(plan.plan_area)),
    ]
    parts += [Fact(NAMES[kind], format_length(long, units)) for kind, long in lengths(plan.whole.lines).items()]
    framing = session.model.planes.get(roof.id)
    if framing is not None and framing.lines:
        parts += _carrying(session, plan, framing)
    parts += _ring(framing) if framing is not None else []
    parts += _lookouts(session, plan, session.model.lookouts(roof.id))
    runs_off = drains(plan)
    rows = [
        (
            wall_label(session.project, plan.outline.walls[f.edge]),
            format_pitch(f.pitch, units),
            square(f.area),
            square(runs_off.eaves.get(f.edge, 0.0)),
        )
        for f in plan.whole.faces
    ]
    rows += [("in a valley", "", "", square(size)) for size in runs_off.valleys.values()]
    rows += [("onto the roof below", "", "", square(runs_off.below))] if runs_off.below else []
    return [*parts, Rows(("Plane over", "Pitch", "On the slope", "Drains, in plan"), rows)]


def _through(session: Session, roof: Roof) -> list[Part]:
    """Return what frames the joins of a roof with those that it runs on over through; nothing for others."""
    p, outlines = session.project, session.model.outlines
    heights = {r.id: height(r.bearing, p.levels) for r in p.roofs}
    names, parts = by_id(p.roofs), list[Part]()
    for lower in runs_onto(p.roofs, outlines, heights).get(roof.id, ()):
        parts.append(
            Button(
                f"Frame its valleys through: one roof with {names[lower].name}",
                edit=lambda q, on=lower: frame_through(q, roof.id, on),  # type: ignore[misc]
            )
        )
    return parts


def _ring(framing: SurfaceDesign) -> list[Part]:
    """Return the ring of plates that holds hips together; nothing where there is none."""
    ring = framing.ring
    if ring is None or not ring.works:
        return []
    plates = max(made.used for made in ring.plates.values())
    most = max(ring.nails.values(), key=lambda one: one.number)
    parts: list[Part] = [
        "Ring of plates under hips",
        Fact("Tension in one plate", f"used {used_text(plates)} (NDS 3.9.1)"),
        Fact("Nails", f"{most.text} ({most.clause})"),
    ]
    if ring.ridge is not None:
        parts.append(Fact("Ridge between hips", f"used {used_text(ring.ridge.used)} ({ring.ridge.clause})"))
    return [*parts, Fact("Holds", "under loads alike on both sides (IRC R802.4.3)")]


def _carrying(session: Session, plan: SurfacePlan, framing: SurfaceDesign) -> list[Part]:
    """Return hips, valleys, ridge beams and purlins, and what sets posts under them."""
    units, roof = session.project.units, plan.roof.id
    held = [
        (
            session.model.marks.get(x.key, ""),
            x.size,
            used_text(x.result.used),
            format_force(x.foot, units),
            format_force(x.head, units),
        )
        for x in framing.lines
    ]
    parts: list[Part] = ["What carries", Rows(("Mark", "Section", "Used", "Lower end", "Upper end"), held)]
    if plan.roof.ridge_made == "under":
        parts += _ridges(session, plan, framing)
    parts += _struts(session, framing)
    purlins = {one.key for one in framing.purlins}
    ends = tuple(
        end.at for end in framing.carried.settled.unheld if not purlins & {framing.carried.names[i] for i in end.lines}
    )
    if ends:
        count = f"{len(ends)} ends that nothing holds" if len(ends) > 1 else "the end that nothing holds"
        parts.append(Button(f"Set posts under {count}", edit=lambda q: posts_under_roof(q, roof, *ends)))
    if purlins:
        lines = purlin_ends(plan, framing)
        parts.append(
            Entry(
                "Set posts under purlins",
                "",
                lambda typed: lambda q: posts_under_purlins(q, roof, lines, parse_length(typed, units)),
                hint="how far apart at most",
            )
        )
    return parts


def _struts(session: Session, framing: SurfaceDesign) -> list[Part]:
    """Return the struts under purlins by the walls they stand on; nothing where there are none."""
    units, by_wall = session.project.units, dict[str, list[HeldStrut]]()
    for one in framing.struts:
        by_wall.setdefault(one.strut.wall, []).append(one)
    rows = [
        (
            wall_label(session.project, wall),
            str(len(some)),
            ", ".join(sorted({one.size for one in some})),
            used_text(max(one.result.used for one in some)),
            format_force(pushed(some, session.model.standard), units),
        )
        for wall, some in by_wall.items()
    ]
    return [Rows(("Struts on", "", "Section", "Used", "Push it aside"), rows)] if rows else []


def _ridges(session: Session, plan: SurfacePlan, framing: SurfaceDesign) -> list[Part]:
    """Return which ridge beams lie under the rafters, and which between them."""
    below, rows = under_edges(plan), (list[str](), list[str]())
    for one in framing.members:
        if one.member.role == "ridge":
            rows[frozenset(one.member.edges) not in below].append(session.model.marks.get(one.key, ""))
    under, between = (", ".join(sorted({*row})) for row in rows)
    parts: list[Part] = [Fact("Under the rafters", under or "none")]
    why = "they do not end at gables or between two hips, their planes differ too much in pitch, or valleys come there"
    return [*parts, Fact("Between the rafters", f"{between}: {why}")] if between else parts


def _lookouts(session: Session, plan: SurfacePlan, made: GableLookouts) -> list[Part]:
    """Return what is let into the end rafters of wide overhangs over gables, how it is nailed and tied."""
    model, units, wood = session.model, session.project.units, plan.roof.rafters
    wind, parts = model.uplift.wind.get(plan.roof.id), list[Part]()
    inside = "truss" if plan.trussed else "rafter"
    for one in made.rows:
        over = wall_label(session.project, plan.outline.walls[one.row.gable])
        said = Fact(
            f"Over {over}", f"{one.row.size} @ {format_inches(one.apart, units)}, used {used_text(one.result.used)}"
        )
        if said in parts:
            continue  # the other slope's are alike
        nailed = Fact("Nailed", f"through the {inside} inside, {one.nails.text}")
        parts += [said, nailed]
        if plan.trussed:
            parts.append(
                Fact("Of", f"{wood.species} {wood.grade}, on the frame set {format_inches(one.row.depth, units)} lower")
            )
        if one.tail is not None:
            parts.append(Fact("Tail beside them", f"{one.row.size}, used {used_text(one.tail.result.used)}"))
        parts += [Fact(what, how) for what, how in tail_text(model, plan, one)]
        if one.tie:
            parts.append(Fact("Tied", f"{one.tie} at the foot of the rafter inside, which they lift"))
        _, tie, lifts = under_wind(plan, one, model.project.loads, wind, model.standard) if wind else (0.0, "", 0.0)
        if lifts > 0.0:
            parts.append(
                Fact(
                    "Against wind",
                    f"{tie or 'nothing of the list holds'} at each, to the {'frame' if plan.trussed else 'wall'}",
                )
            )
    return ["Lookouts", *parts] if parts else []


def _side(session: Session, roof: Roof, wall: str) -> list[Part]:
    p, side = session.project, side_of(roof, wall)
    label = wall_label(p, wall)

    def kind(typed: str) -> Edit:
        kinds: dict[str, EdgeKind] = {"gable": "gable", "wall": "wall", "roof": "roof"}
        made = kinds.get(typed, "eave")
        return lambda q: set_side(q, roof.id, wall, kind=made)

    parts: list[Part] = [Entry(label, side.kind, kind, KINDS)]
    if side.kind == "eave":
        pitch = AS_ROOF if side.pitch is None else format_pitch(side.pitch, p.units)
        parts.append(
            Entry(
                f"{label}, pitch",
                pitch,
                _sets(roof.id, wall, "pitch", lambda t: float(parse_pitch(t, p.units))),
                hint=AS_ROOF,
            )
        )
        parts.append(
            Entry(
                f"{label}, raised by",
                format_length(side.raised, p.units),
                lambda typed: lambda q: set_side(q, roof.id, wall, raised=parse_length(typed, p.units)),
                hint="over what the roof bears on",
            )
        )
        if _can_have_rafters(session, roof, wall):
            parts.append(Entry(f"{label}, framed", side.framed, _framed(roof.id, wall), FRAMED))
        if roof.fascia is not None:
            boards = [("yes", "the roof's"), ("none", "none")]
            parts.append(Entry(f"{label}, boards", "yes" if side.boards else "none", _boards(roof.id, wall), boards))
        if _can_break(session, roof, wall):
            parts.append(Entry(f"{label}, broken", "", _breaks(session, roof, wall), hint=_break_hint(p.units)))
    if side.kind not in ("wall", "roof"):
        over = AS_ROOF if side.overhang is None else format_length(side.overhang, p.units)
        parts.append(
            Entry(
                f"{label}, overhang",
                over,
                _sets(roof.id, wall, "overhang", lambda t: parse_length(t, p.units)),
                hint=AS_ROOF,
            )
        )
    return parts


def _can_have_rafters(session: Session, roof: Roof, wall: str) -> bool:
    """Whether it is asked for a plane of a roof under trusses if rafters carry it: a hip end, or one that has been said so."""
    if roof.framed != "trusses":
        return False
    plan = next((plan for plan in session.model.surfaces if plan.roof.id == roof.id), None)
    if side_of(roof, wall).framed != "roof":
        return True
    sides = [k for k, name in enumerate(plan.outline.walls) if name == wall] if plan is not None else []
    return plan is not None and not plan.problem and any(raftered_end(plan, k) is not None for k in sides)


def _framed(roof: str, wall: str) -> Callable[[str], Edit]:
    """Whether rafters carry a hip end of a roof under trusses."""

    def commit(typed: str) -> Edit:
        made: PlaneFramed = "rafters" if typed == "rafters" else "roof"
        return lambda q: set_side(q, roof, wall, framed=made)

    return commit


def _boards(roof: str, wall: str) -> Callable[[str], Edit]:
    """Whether the fascia of a roof runs before one of its eaves."""

    def commit(typed: str) -> Edit:
        return lambda q: set_side(q, roof, wall, boards=typed != "none")

    return commit


def _can_break(session: Session, roof: Roof, *walls: str) -> bool:
    """Whether a break of the planes over walls is offered."""
    plan = next((plan for plan in session.model.surfaces if plan.roof.id == roof.id), None)
    whole = plan is not None and not plan.problem and all(plan.outline.walls.count(wall) == 1 for wall in walls)
    return plan is not None and whole and roof.framed == "rafters" and between_gables(plan, walls)


def _break_hint(units: Units) -> str:
    return f"such as {format_length(5.0 * FOOT if units is Units.IMPERIAL else 1500.0, units)} at {format_pitch(1.5, units)} below"


def _breaks(session: Session, roof: Roof, *walls: str) -> Callable[[str], Edit]:
    """How far in of walls their planes are broken, and the pitch below."""
    model, units = session.model, session.project.units
    plan = next(plan for plan in model.surfaces if plan.roof.id == roof.id)
    design = model.designs.get((roof.id, "rafters"))

    def commit(typed: str) -> Edit:
        if not typed.strip():
            return lambda q: q
        inward, at, pitch = typed.partition(" at ")
        if not at:
            raise EditError(
                "type how far in the slope is broken, and the pitch below.", roof.name, f"Type {_break_hint(units)}."
            )
        if design is None:
            raise EditError("it has no rafters yet.", roof.name, "Mend what its findings tell first.")
        below = pitch.strip().removesuffix("below")
        row = (plan, model.lines, design.size, walls, parse_length(inward, units), float(parse_pitch(below, units)))
        return lambda q: break_slopes(q, *row)

    return commit


def edges_card(session: Session, roof: Roof, walls: tuple[str, ...]) -> Card:
    """Return the card of several edges of a roof, picked with it: what is typed goes to all of them, pitches to eaves alone."""
    p, sides = session.project, [side_of(roof, wall) for wall in walls]

    def all_of(**fields: object) -> Edit:
        def edit(q: Project) -> Project:
            for wall, side in zip(walls, sides, strict=True):
                if not {"pitch", "raised"} & {*fields} or side.kind == "eave":
                    q = set_side(q, roof.id, wall, **fields)
            return q

        return edit

    def kind(typed: str) -> Edit:
        return all_of(kind=typed) if typed else lambda q: q

    def read(field: str, reader: Callable[[str], float]) -> Callable[[str], Edit]:
        def commit(typed: str) -> Edit:
            if typed.strip() == DIFFER:
                return lambda q: q
            value = None if typed.strip().lower() in ("", AS_ROOF) else reader(typed)
            return all_of(**{field: value})

        return commit

    kinds = {side.kind for side in sides}
    shown = [
        _shared([AS_ROOF if s.pitch is None else format_pitch(s.pitch, p.units) for s in sides if s.kind == "eave"]),
        _shared([AS_ROOF if s.overhang is None else format_length(s.overhang, p.units) for s in sides]),
    ]
    parts: list[Part] = [
        Fact("Edges over", ", ".join(wall_label(p, wall) for wall in walls)),
        Entry(
            "Edges",
            next(iter(kinds)) if len(kinds) == 1 else "",
            kind,
            [*([("", "choose what all are")] if len(kinds) > 1 else []), *KINDS],
        ),
    ]
    if any(side.kind == "eave" for side in sides):
        parts.append(Entry("Pitch", shown[0], read("pitch", lambda t: float(parse_pitch(t, p.units))), hint=AS_ROOF))
        raised = _shared([format_length(s.raised, p.units) for s in sides if s.kind == "eave"])
        parts.append(Entry("Raised by", raised, read("raised", lambda t: parse_length(t, p.units))))
    parts.append(Entry("Overhang", shown[1], read("overhang", lambda t: parse_length(t, p.units)), hint=AS_ROOF))
    return Card(f"{len(walls)} edges of {roof.name}", "A value typed here goes to all of them.", parts)


def _shared(values: list[str]) -> str:
    return values[0] if values and len(set(values)) == 1 else DIFFER


def _raised(roof: str, top: float, units: Units) -> Callable[[str], Edit]:
    """A height typed in place of pitches: all of them change alike."""

    def commit(typed: str) -> Edit:
        if typed.strip() == format_length(top, units):
            return lambda q: q
        times = parse_length(typed, units) / top
        return lambda q: raise_roof(q, roof, times)

    return commit


def _sets(roof: str, wall: str, field: str, read: Callable[[str], float]) -> Callable[[str], Edit]:
    def commit(typed: str) -> Edit:
        value = None if typed.strip().lower() in ("", AS_ROOF) else read(typed)
        return lambda q: set_side(q, roof, wall, **{field: value})

    return commit


def roof_opening_card(session: Session, opening: RoofOpening) -> Card:
    """Return what can be typed of an opening in a roof, and what frames it."""
    model, p = session.model, session.project
    parts: list[Part] = entries(session, [opening], FIELDS[RoofOpening])
    framing = model.planes.get(opening.roof)
    mine = [header for header in framing.headers if header.opening == opening.id] if framing is not None else []
    if framing is not None and mine:
        rows = []
        for header in mine:
            where = "above it" if header.end else "below it"
            rows.append((f"header {where}", header.size, used_text(framing.results[header.key].used)))
        for key, side in zip(mine[0].trimmers, ("left", "right"), strict=True):
            size = framing.boards.own.get(key, framing.boards.rafter)
            rows.append((f"trimmer, {side}", size, f"{used_text(framing.results[key].used)} each ply"))
        parts += ["Framed by", Rows(("What", "Section", "Used"), rows)]
    for thing, why in framing.unframed if framing is not None else ():
        if thing == opening.id:
            parts.append(Fact("Not framed", why))
    parts.append(Button("Remove opening", edit=lambda q: edits.remove(q, opening.id)))
    return Card(f"{opening.kind.capitalize()} in a roof", f"over {wall_label(p, opening.wall)}", parts)
