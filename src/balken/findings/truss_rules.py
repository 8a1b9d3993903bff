"""Trusses that cannot be, are too weak, are cut by openings, or carry a store."""

from collections.abc import Iterable

import shapely
from msgspec.structs import replace

from balken.derived.finding import Finding, Fix
from balken.derived.model import Model
from balken.design.roof_trusses import TrussRoof
from balken.design.truss_by_hand import truss_names
from balken.framing.bands import WallLine
from balken.framing.raftered_ends import asked_rafters
from balken.framing.roof_openings import RoofHole
from balken.framing.surface_roofs import SurfacePlan
from balken.framing.truss_layout import BOARD
from balken.geometry.plane import Point, add, left, unit
from balken.loads.typed import ring_of
from balken.model.lookup import by_id, label_of, locate, wall_label
from balken.model.naming import place_in
from balken.standards.checks import used_text
from balken.units import format_force, format_length, say_inches
from balken.units.system import INCH, PSF

AIR = 0.5 * INCH
"""Over walls that do not bear (common practice, no source)."""
MOST_SPREAD = 1.0 * INCH
"""Of a free bearing, under all loads (common practice, no source)."""
STORE = 20.0 * PSF
"""On attics where things can be stored (IRC Table R301.5)."""


def trusses(c: Model) -> Iterable[Finding]:
    """What is wrong with trusses."""
    for plan in c.surfaces:
        made, at = c.trusses.get(plan.roof.id), (*plan.outline.core[0], plan.bearing)
        if made is None:
            continue
        roof = plan.roof
        if made.problem:
            yield Finding(
                "no trusses",
                "roof",
                f"{roof.name} cannot have trusses: rafters stand in their place",
                f"{made.problem[0].upper()}{made.problem[1:]}.",
                (roof.id,),
                at,
                grave=False,
                fix=_instead(c, plan),
            )
            continue
        yield from _refused(c, plan, made)
        yield from _unheld(c, plan, made)
        yield from _level(plan, made)
        yield from _weak(c, plan, made)
        yield from _studs(plan, made)
        yield from _touched(c, plan, made)
        yield from _lifted_inside(c, plan, made)
        yield from _spread(plan, made, c)
        yield from _cut(plan, made)
        if made.stores and c.project.loads.attic_live < STORE - 1e-6:
            yield Finding(
                "attic store",
                "roof",
                f"{roof.name}: a box 42 in high and 24 in wide fits between its webs",
                "Where things can be stored so, 20 psf lie on the bottom chords (IRC Table R301.5, note b); less is typed for attics.",
                (roof.id,),
                at,
                fix=Fix("Lay 20 psf on attics", "set_loads", (), (("attic_live", STORE),)),
            )


def _instead(c: Model, plan: SurfacePlan) -> Fix:
    """Return what a roof can have instead of trusses that cannot be: at a hip end trusses too, else rafters all over."""
    ends = asked_rafters(plan) or asked_rafters(replace(plan, roof=by_id(c.project.roofs)[plan.roof.id]))
    if not ends:
        return Fix("Frame it with rafters", "change", (plan.roof.id,), (("framed", "rafters"),))
    wall = plan.outline.walls[ends[0]]
    label = f"Frame it with trusses over {wall_label(c.project, wall)}, too"
    return Fix(label, "set_side", (plan.roof.id, wall), (("framed", "roof"),))


def _refused(c: Model, plan: SurfacePlan, made: TrussRoof) -> Iterable[Finding]:
    """Trusses changed by hand that cannot be so."""
    names = truss_names(plan, made.places) if made.refused else {}
    for number, why in made.refused:
        yield Finding(
            "truss by hand",
            "roof",
            f"{plan.roof.name}: a truss, {_where(c, names[number])}, is made as the others, not as changed by hand",
            f"{why[0].upper()}{why[1:]}. Choose other webs or places for it, or go back to the layout.",
            (plan.roof.id,),
            (*made.places[number].at(0.0), plan.bearing),
            grave=False,
            fix=Fix("Back to the layout", "back_to_layout", (names[number],)),
        )


def _unheld(c: Model, plan: SurfacePlan, made: TrussRoof) -> Iterable[Finding]:
    """Trusses among others whose bottom chord boards across cannot hold aside, for it is deeper."""
    names = truss_names(plan, made.places) if made.unheld else {}
    for number in sorted(made.unheld):
        one = made.made_at[number].design
        apart, size = format_length(one.braced, c.units), one.frame.sizes.bottom
        yield Finding(
            "truss unheld",
            "roof",
            f"{plan.roof.name}: no board across holds the bottom chord of a truss, {_where(c, names[number])}",
            f"It is a {size} among others: those boards end beside it. Hold it by blocks between it and its neighbours, {apart} apart at "
            "most, or make all bottom chords as deep.",
            (plan.roof.id,),
            (*made.places[number].at(0.0), plan.bearing),
            fix=Fix("Make all bottom chords as deep", "change", (plan.roof.id,), (("trusses__bottom", size),)),
        )


def _where(c: Model, name: str) -> str:
    """Return where a truss stands, by its name, in words."""
    place = place_in(name)
    return f"{format_length(float(place.at), c.units)} along {wall_label(c.project, place.datum)}" if place else ""


def _level(plan: SurfacePlan, made: TrussRoof) -> Iterable[Finding]:
    """Trusses that are to be built up in their middle and cannot be."""
    if plan.roof.trusses.camber > 0.0 and any(m.key == "common" and m.design.camber <= 0.0 for m in made.makes):
        yield Finding(
            "no camber",
            "roof",
            f"{plan.roof.name}: some of its trusses cannot be built up in their middle",
            "Their bottom chords are of one piece, in which nothing bends, or they bear inside or stand out past their walls. Type shorter stock, "
            "or no camber.",
            (plan.roof.id,),
            (*plan.outline.core[0], plan.bearing),
            grave=False,
            fix=Fix("Build them level", "change", (plan.roof.id,), (("trusses__camber", 0.0),)),
        )


def _weak(c: Model, plan: SurfacePlan, made: TrussRoof) -> Iterable[Finding]:
    """Makes of trusses used by more than all they have."""
    roof, at = plan.roof, (*plan.outline.core[0], plan.bearing)
    for name, one, plates in made.designs:
        if one.used > 1.0:
            stick, row = max(one.sticks.items(), key=lambda item: item[1][0])
            check = max(one.others, key=lambda found: found.used)
            said = f"{one.frame.stick(stick).role} {one.frame.sizes.of(one.frame.stick(stick).role)}: {row[1]} ({row[2]}, {row[3]})"
            if check.used > row[0]:
                said = f"{check.name} ({check.clause}, {check.combination})"
            yield Finding(
                "used",
                "roof",
                f"{roof.name}: {name.lower()} used {used_text(one.used)}",
                f"{said[0].upper()}{said[1:]}. Set them closer, take more plies, a better grade, deeper sections or other webs.",
                (roof.id,),
                at,
            )
        over = [plate for plate in plates if plate.used > 1.0]
        if over:
            yield Finding(
                "plates",
                "roof",
                f"{roof.name}: no {one.job.joined[:-1]}{' of the list' if one.job.joined == 'plates' else ''} holds {len(over)} joint{'s' if len(over) > 1 else ''} of its {name.lower()}",
                f"{over[0].governs[0].upper()}{over[0].governs[1:]}. Take deeper chords, more plies, a closer spacing or other webs.",
                (roof.id,),
                at,
            )


def _studs(plan: SurfacePlan, made: TrussRoof) -> Iterable[Finding]:
    """Studs of gable frames that wind bends too far, stiffened or not."""
    weak = [stud for stud in made.studs if stud.check.used > 1.0]
    if weak and made.row is not None:
        worst = max(weak, key=lambda stud: stud.check.used)
        yield Finding(
            "gable studs",
            "roof",
            f"{plan.roof.name}: wind bends {len(weak)} stud{'s' if len(weak) > 1 else ''} of its gable frames too far",
            f"Stiffened by a board nailed to its edge the worst is used {used_text(worst.check.used)} ({worst.check.name}, "
            f"{worst.check.clause}). Brace the frame in its height, or let the wall run up under a gable of rafters.",
            (plan.roof.id,),
            (*made.row.places[0].at(made.row.wide / 2.0), plan.bearing),
        )


def _lifted_inside(c: Model, plan: SurfacePlan, made: TrussRoof) -> Iterable[Finding]:
    """Trusses that something lifts off an inside wall on which they bear."""
    worst: dict[str, float] = {}
    for number, make in made.made_at.items():
        for joint, row in make.design.reactions().items():
            x = make.design.frame.joints[joint][0]
            wall = next((w for low, high, w in made.places[number].inner if low <= x <= high), "")
            if wall and min(row.values()) < -1.0:
                worst[wall] = min(worst.get(wall, 0.0), *row.values())
    for wall, force in worst.items():
        yield Finding(
            "lifted inside",
            "roof",
            f"{plan.roof.name}: its trusses are lifted off {wall_label(c.project, wall)} by {format_force(-force, c.units)} each",
            "They are solved as held down there (ASD combinations, unlike loads on both sides of it included): tie each to the wall and that down to "
            "what weighs as much. Neither is chosen or followed down here.",
            (wall, plan.roof.id),
            (*c.lines[wall].band.start, plan.bearing),
        )


def _touched(c: Model, plan: SurfacePlan, made: TrussRoof) -> Iterable[Finding]:
    """Inside walls that reach up to the bottom chords, which then bear where they are not made to; or past them, where those lie below the
    plates.
    """
    under, drop = plan.bearing - plan.roof.trusses.drop, plan.roof.trusses.drop
    inside = shapely.Polygon(plan.outline.core).buffer(-AIR)
    borne = {wall for place in made.places for _, _, wall in place.inner}
    for wall, line in c.lines.items():
        band = line.band
        if (
            (wall in borne and not _beside_borne(made, line))
            or wall in plan.roof.walls
            or band.top < under - AIR + 0.1
            or band.top > plan.bearing + AIR - 0.1
            or band.bottom > under
        ):
            continue
        middle = ((band.start[0] + band.end[0]) / 2.0, (band.start[1] + band.end[1]) / 2.0)
        if not inside.covers(shapely.Point(middle)):
            continue
        own = line.wall
        label = wall_label(c.project, wall)
        yield Finding(
            "air over wall",
            "roof",
            f"{label} {'touches' if drop <= 0.0 else 'stands in'} the trusses of {plan.roof.name}",
            "They are designed to bear at their ends alone: over walls inside they want half an inch of air (common practice), "
            "and the wall is fastened to them by clips that slide. Or let them bear on inside bearing walls (on the card of the roof).",
            (wall, plan.roof.id),
            (*middle, band.top),
            grave=drop > 0.0,
            fix=Fix(
                "Lower its head by half an inch" if drop <= 0.0 else "Lower its head to half an inch under them",
                "set_wall_head",
                (wall, own.head.level, own.head.offset - AIR - (band.top - under)),
            ),
        )


def _beside_borne(made: TrussRoof, line: WallLine) -> bool:
    """Whether trusses that do not bear on a wall lie over it though others do."""
    band, (near, far) = line.band, line.core
    corners = [band.at(x, depth) for x, depth in ((0.0, near), (band.length, near), (band.length, far), (0.0, far))]
    core = shapely.Polygon(corners).buffer(-1.0)
    for number, make in made.made_at.items():
        place, outline = made.places[number], make.design.frame.outline
        if make.key in ("valley", "gable") or any(wall == line.wall.id for _, _, wall in place.inner):
            continue
        if shapely.LineString([place.at(outline.start), place.at(outline.end)]).intersects(core):
            return True
    return False


def _spread(plan: SurfacePlan, made: TrussRoof, c: Model) -> Iterable[Finding]:
    """Scissors trusses that push their free bearing out too far."""
    if made.common is not None and made.common.spread > MOST_SPREAD:
        yield Finding(
            "spread",
            "roof",
            f"{plan.roof.name}: its trusses push a bearing out by {say_inches(made.common.spread, c.units)}",
            f"More than {say_inches(MOST_SPREAD, c.units)} under all that lies on them bends the wall below (common practice, no source). Make "
            "the bottom chord flatter, or the chords deeper.",
            (plan.roof.id,),
            (*plan.outline.core[0], plan.bearing),
        )


def _cut(plan: SurfacePlan, made: TrussRoof) -> Iterable[Finding]:
    """Openings that trusses run through, whichever way these run."""
    for hole in plan.holes:
        if hole.problem:
            continue
        ring = shapely.Polygon(_ring(plan, hole))
        through = [number for number in sorted(made.made_at) if _strip(made, number).intersection(ring).area > 1.0]
        if through:
            count = f"{len(through)} trusses run" if len(through) > 1 else "a truss runs"
            yield Finding(
                "truss cut",
                "roof",
                f"{plan.roof.name}: {count} through an opening",
                "Trusses are not cut. Move the opening between two of them, make it narrower, or set them farther apart.",
                (plan.roof.id, hole.opening),
                (*made.places[through[0]].at(0.0), plan.bearing),
            )


def _ring(plan: SurfacePlan, hole: RoofHole) -> list[Point]:
    """Return an opening in plan."""
    core, (s0, s1), (t0, t1) = plan.outline.core, hole.along, hole.inward
    a, way = core[hole.edge], unit(core[hole.edge], core[(hole.edge + 1) % len(core)])
    return [add(add(a, way, s), left(way), t) for s, t in ((s0, t0), (s1, t0), (s1, t1), (s0, t1))]


def _strip(made: TrussRoof, number: int) -> shapely.Polygon:
    """Return a truss in plan, from tip to tip."""
    frame, place = made.made_at[number].design.frame, made.places[number]
    ends = [place.at(x) for x in (frame.outline.top[0][0], frame.outline.top[-1][0])]
    return shapely.LineString(ends).buffer(BOARD * frame.sizes.plies / 2.0, cap_style="flat")


def weights(c: Model) -> Iterable[Finding]:
    """Weights typed where no trusses carry them."""
    for load in c.project.truss_loads:
        made = c.trusses.get(load.roof)
        plan = next((x for x in c.surfaces if x.roof.id == load.roof), None)
        roof = label_of(c.project, load.roof)
        places = shapely.MultiPoint(ring_of(load, c.project.grids))
        under = plan is not None and shapely.Polygon(plan.outline.core).buffer(1.0).covers(places)
        if made is not None and not made.problem and under:
            continue
        why = "it lies beside them" if made is not None and not made.problem else "that roof has none"
        yield Finding(
            "weight on nothing",
            "roof",
            f"{load.name or 'A weight'} does not hang on the trusses of {roof}",
            f"Nothing carries all of it: {why}. Move it under trusses, or frame that roof with trusses.",
            (load.id, load.roof),
            (*locate(load.place, c.project.grids), plan.bearing if plan is not None else 0.0),
        )


TRUSS_RULES = (trusses, weights)
