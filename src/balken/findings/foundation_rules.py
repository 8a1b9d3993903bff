"""The rules for foundations: frost, ground, corners, slabs; footings, pads and earth have rooms of their own."""

import math
from collections.abc import Iterable

import shapely

from balken.derived.finding import Finding, Fix, Stage
from balken.derived.model import Model
from balken.findings.courses import courses
from balken.findings.earth_rules import earth_pressure
from balken.findings.footing_levels import beside_lower
from balken.findings.footing_rules import footings
from balken.findings.pad_rules import pads
from balken.framing.bands import WallLine
from balken.framing.foundations import FoundationRun
from balken.framing.ground import Ground
from balken.framing.slopes import deeper_at
from balken.framing.stepping import LEAST_BURIAL
from balken.framing.steps_to_meet import can_step
from balken.geometry.plane import Point, distance
from balken.model.kinds.foundation import NO_SILL
from balken.model.lookup import by_id, ground, wall_label
from balken.model.records import Slab
from balken.remembered import remembered
from balken.units import say_inches, say_length
from balken.units.system import INCH

CELLAR = 24.0 * INCH
"""Foundation walls that rise so much over a slab keep the earth off it (common practice, no source)."""
FLOOR_ABOVE_GROUND = 6.0 * INCH
"""Common practice, no source: 6 to 8 in, so that water runs away from the house."""
WALL_ABOVE_GROUND = 6.0 * INCH
"""IRC R404.1.6: foundation wall at least 6 in above finished ground."""
FROST_STATION = 300.0


def middle(line: WallLine) -> Point:
    """Return the plan point in the middle of a wall."""
    return line.band.at(line.band.length / 2.0, line.thickness / 2.0)


def _earth_along(c: Model, line: WallLine) -> tuple[float, float]:
    """Return the lowest and highest ground along the outside of a wall, mm."""
    assert c.ground is not None
    heights = [z for _, z in c.ground.profile(line.band.start, line.band.end, 6)]
    return min(heights), max(heights)


@remembered(2_000)
def _least_buried(run: FoundationRun, depth: float, ground: Ground, need: float) -> tuple[float, float, float]:
    """Return by how much a footing lies above frost at most, where along it that is, and how deep it lies there, mm."""
    low, high = run.span
    count = max(2, math.ceil((high - low) / FROST_STATION)) if ground.sloping else 1
    ends = (run.band.at(low, run.faces[0]), run.band.at(high, run.faces[0]))
    rows = []
    for along, earth in ground.profile(*ends, count):
        bottom = run.band.bottom - run.drop_at(low + along) - depth - deeper_at(run, low + along)
        rows.append((bottom - (earth - need), low + along, earth - bottom))
    return max(rows, key=lambda row: row[0])


def frost(c: Model) -> Iterable[Finding]:
    """Footings above the frost line or less than 12 in below ground, anywhere along them (IRC R403.1.4)."""
    if c.ground is None:
        return
    need = max(c.project.loads.frost_depth, LEAST_BURIAL)
    worst: dict[str, tuple[float, FoundationRun, float, float]] = {}
    for run in c.runs:
        if not run.band.outside and run.footing:
            continue
        found = _least_buried(run, c.footings[run.id].depth if run.footing else 0.0, c.ground, need)
        if found[0] > 1.0 and found[0] > worst.get(run.foundation.id, (0.0,))[0]:
            worst[run.foundation.id] = (found[0], run, *found[1:])
    for short, run, along, covered in worst.values():
        f = run.foundation
        depth = c.footings[run.id].depth if run.footing else 0.0
        target = by_id(c.project.levels)[f.foot.level].height - short
        fix = Fix(
            f"Lower '{by_id(c.project.levels)[f.foot.level].name}' to {say_length(target, c.units)}",
            "set_level",
            (f.foot.level, target),
        )
        if c.ground.sloping and run.footing:
            thinnest = min(c.footings[r.id].depth for r in c.runs if r.foundation.id == f.id)
            fix = Fix("Step it down with the ground", "step_down", (f.id, thinnest))
        yield Finding(
            "frost",
            "foundations",
            f"{f.name}: footing above frost depth",
            f"Under {wall_label(c.project, run.wall)}, {_along(c, run, along)}, its underside is "
            f"{say_length(abs(covered), c.units)} {'below' if covered >= 0.0 else 'above'} the ground; it must be "
            f"{say_length(need, c.units)} below (IRC R403.1.4).",
            (f.id,),
            (*run.band.at(along, 0.0), run.band.bottom - depth),
            fix=fix,
        )


def _along(c: Model, run: FoundationRun, along: float) -> str:
    """Say where along a wall a place is; what runs past its corners is at them."""
    length = c.lines[run.wall].band.length
    if along <= 1.0:
        return "at its start"
    return "at its end" if along >= length - 1.0 else f"{say_length(along, c.units)} from its start"


def near_ground(c: Model) -> Iterable[Finding]:
    """Floors less than 6 in above ground (common practice), foundation walls likewise (IRC R404.1.6)."""
    if c.ground is None:
        if c.project.foundations:
            yield Finding(
                "ground",
                "set out",
                "No level is the ground",
                "Frost depth and the height of the floor above ground cannot be checked. "
                "Give one level the role 'ground'.",
                (),
                (0.0, 0.0, 0.0),
                grave=False,
            )
        return
    for plan in c.floors:
        sides = [c.lines[w] for w in plan.outline.walls if w in c.lines]
        if not sides:
            continue
        line = max(sides, key=lambda v: _earth_along(c, v)[1])
        above = c.level_height(plan.floor.level) - _earth_along(c, line)[1]
        if above < FLOOR_ABOVE_GROUND - 0.5:
            yield _too_low(c, plan.floor.id, f"{plan.floor.name}: floor too near the ground", above, "floors", line)
    for slab in c.project.slabs:
        free = _open_to_ground(c, slab)
        if free:
            line = max(free, key=lambda v: _earth_along(c, v)[1])
            above = c.level_height(slab.level) - _earth_along(c, line)[1]
            if above < FLOOR_ABOVE_GROUND - 0.5:
                what = f"{slab.name}: slab {'below' if above < 0.0 else 'too near'} the ground"
                yield _too_low(c, slab.id, what, above, "floors", line)
    seen: set[str] = set()
    for run in c.runs:
        line = c.lines[run.wall]
        above = run.band.top - _earth_along(c, line)[1]
        if run.foundation.id in seen or above >= WALL_ABOVE_GROUND - 0.5 or not run.band.outside:
            continue
        seen.add(run.foundation.id)
        what = f"{run.foundation.name}: foundation wall too low above ground"
        yield _too_low(c, run.foundation.id, what, above, "foundations", line)


def _open_to_ground(c: Model, slab: Slab) -> list[WallLine]:
    """Return the outside walls of a slab on ground against which no foundation wall keeps the earth off it, as round a basement."""
    top, found = c.level_height(slab.level), []
    for wall in slab.walls:
        line = c.lines.get(wall)
        if line is None or line.wall.role != "outside":
            continue
        if not any(run.wall == wall and run.band.top > top + CELLAR for run in c.runs):
            found.append(line)
    return found


def _too_low(c: Model, thing: str, what: str, above: float, stage: Stage, line: WallLine) -> Finding:
    need = FLOOR_ABOVE_GROUND
    earth = ground(c.project.levels)
    source = "common practice" if stage == "floors" else "IRC R404.1.6"
    where = "above" if above >= 0.0 else "below"
    fix = None
    if earth is not None and not c.project.spots:
        target = earth.height + above - need
        fix = Fix(f"Lower '{earth.name}' to {say_length(target, c.units)}", "set_level", (earth.id, target))
    return Finding(
        "above ground",
        stage,
        what,
        f"At {wall_label(c.project, line.wall.id)} its top is {say_length(abs(above), c.units)} {where} the ground; "
        f"{say_length(need, c.units)} above it is needed ({source})."
        f"{'' if fix else ' Raise it, or cut the ground back there.'}",
        (thing,),
        (*middle(line), line.band.bottom),
        fix=fix,
    )


def corners_level(c: Model) -> Iterable[Finding]:
    """Runs of one foundation that meet at a corner at different heights, where no step was made."""
    seen: set[str] = set()
    for i, a in enumerate(c.runs):
        for b in c.runs[:i]:
            if a.foundation.id != b.foundation.id or a.foundation.id in seen or not a.foundation.steps:
                continue
            for point, along_a in ((a.band.start, a.span[0]), (a.band.end, a.span[1])):
                for other, along_b in ((b.band.start, b.span[0]), (b.band.end, b.span[1])):
                    off = a.drop_at(along_a) - b.drop_at(along_b)
                    if distance(point, other) < 1.0 and abs(off) > 1.0 and a.foundation.id not in seen:
                        seen.add(a.foundation.id)
                        higher = a if off < 0 else b
                        yield Finding(
                            "corner",
                            "foundations",
                            f"{a.foundation.name}: footings meet {say_length(abs(off), c.units)} apart in height",
                            f"Where {wall_label(c.project, a.wall)} and {wall_label(c.project, b.wall)} meet, one footing "
                            "would hang in the air. Bring both to one level there, or step before the corner.",
                            (a.foundation.id,),
                            (*point, higher.band.bottom),
                            fix=_level_fix(c, higher, along_a if higher is a else along_b, abs(off)),
                        )


def _level_fix(c: Model, higher: FoundationRun, along: float, off: float) -> Fix | None:
    """Return what brings the higher of two footings down to the other at a corner: an inside one by steps of its own, those outside with
    the ground.
    """
    f = higher.foundation
    if higher.band.outside:
        return (
            Fix("Step it down with the ground", "step_down", (f.id, c.footings[higher.id].depth)) if c.ground else None
        )
    at_end = along > higher.band.length / 2.0
    wide = max(c.footings[r.id].width for r in c.runs if r.foundation.id == f.id and r.footing) / 2.0
    edge = along - wide if at_end else along + wide
    if not can_step(c.project, higher, at_end, edge, off):
        return None
    label = f"Step that of {wall_label(c.project, higher.wall)} down to it"
    return Fix(label, "step_to_meet", (f.id, higher.wall, at_end, edge, off))


def sills_in_walls(c: Model) -> Iterable[Finding]:
    """Walls that stand on the concrete itself, in the room of a sill plate."""
    told: set[str] = set()
    for run in c.runs:
        f, line = run.foundation, c.lines[run.wall]
        plate, _ = f.plate
        room = line.band.bottom - run.band.top
        if f.id in told or plate <= 0.0 or not run.sill_span[1] > run.sill_span[0] or not -0.5 <= room < plate - 0.5:
            continue
        told.add(f.id)
        yield Finding(
            "sill in a wall",
            "foundations",
            f"{f.name}: its sill plate lies in {wall_label(c.project, run.wall)}",
            f"The wall begins {say_inches(max(room, 0.0), c.units)} over the foundation, where the plate is {say_inches(plate, c.units)} "
            "thick. A framed wall brings its own plate, one of block or brick stands on the concrete.",
            (f.id, run.wall),
            (*middle(line), run.band.top),
            fix=Fix("Leave the sill plate out", "change", (f.id,), (("sill_size", NO_SILL),)),
        )


def slab_holes(c: Model) -> Iterable[Finding]:
    """Holes of slabs that lie beside them, or over their edges."""
    for plan in c.slabs:
        whole = shapely.Polygon(plan.ring)
        for k, ring in enumerate(plan.holes, start=1):
            if shapely.Polygon(ring).within(whole):
                continue
            beside = not shapely.Polygon(ring).intersects(whole)
            yield Finding(
                "slab hole",
                "foundations",
                f"{plan.slab.name}: hole {k} {'lies beside the slab' if beside else 'runs over its edge'}",
                "It is left out as far as it lies on the slab. Type its place again in the card of the slab, or remove it.",
                (plan.slab.id,),
                (*ring[0], plan.top),
                grave=False,
            )


def slab_edges(c: Model) -> Iterable[Finding]:
    """Slabs whose edges cannot be the arcs that were asked for."""
    for plan in c.slabs:
        if plan.problem:
            yield Finding(
                "slab edge",
                "foundations",
                f"{plan.slab.name}: {plan.problem}",
                "It is drawn with straight edges until they bow less.",
                (plan.slab.id,),
                (*plan.ring[0], plan.top),
                fix=Fix("Make its edges straight", "change", (plan.slab.id,), (("bows", ()),)),
            )


FOUNDATION_RULES = (
    frost,
    near_ground,
    corners_level,
    footings,
    pads,
    earth_pressure,
    beside_lower,
    slab_edges,
    slab_holes,
    sills_in_walls,
    courses,
)
