"""The rules for foundations: frost, ground, steps, soil, footings, pads, earth pressure."""

import math
from collections.abc import Iterable

import shapely

from balken.design.footings import LEAST_PROJECTION
from balken.findings.context import Context
from balken.findings.courses import courses
from balken.findings.finding import Finding, Fix, Stage
from balken.findings.footing_levels import beside_lower
from balken.findings.names import pad_label
from balken.framing.bands import WallLine
from balken.framing.foundations import FoundationRun
from balken.framing.ground import Ground
from balken.framing.pads import PadPlace, pad_ring
from balken.framing.slopes import deeper_at
from balken.framing.stepping import LEAST_BURIAL
from balken.geometry.plane import Point, Ring, distance
from balken.model.blocks import BLOCKS
from balken.model.lookup import by_id, ground, wall_label
from balken.model.records import Foundation
from balken.remembered import remembered
from balken.units import format_force, format_inches, format_length
from balken.units.system import INCH

FLOOR_ABOVE_GROUND = 6.0 * INCH
"""Common practice, no source: 6 to 8 in, so that water runs away from the house."""
WALL_ABOVE_GROUND = 6.0 * INCH
"""IRC R404.1.6: foundation wall at least 6 in above finished ground."""
FROST_STATION = 300.0


def middle(line: WallLine) -> Point:
    """Return the plan point in the middle of a wall."""
    return line.band.at(line.band.length / 2.0, line.thickness / 2.0)


def _earth_along(c: Context, line: WallLine) -> tuple[float, float]:
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


def frost(c: Context) -> Iterable[Finding]:
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
            f"Lower '{by_id(c.project.levels)[f.foot.level].name}' to {format_length(target, c.units)}",
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
            f"Under {wall_label(c.project, run.wall)}, {format_length(along, c.units)} along, its underside is "
            f"{format_length(covered, c.units)} below the ground; {format_length(need, c.units)} is needed "
            "(IRC R403.1.4).",
            (f.id,),
            (*run.band.at(along, 0.0), run.band.bottom - depth),
            fix=fix,
        )


def near_ground(c: Context) -> Iterable[Finding]:
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
        sides = [c.lines[w] for w in plan.outline.walls]
        line = max(sides, key=lambda v: _earth_along(c, v)[1])
        above = c.level_height(plan.floor.level) - _earth_along(c, line)[1]
        if above < FLOOR_ABOVE_GROUND - 0.5:
            yield _too_low(c, plan.floor.id, f"{plan.floor.name}: floor too near the ground", above, "floors", line)
    seen: set[str] = set()
    for run in c.runs:
        line = c.lines[run.wall]
        above = run.band.top - _earth_along(c, line)[1]
        if run.foundation.id in seen or above >= WALL_ABOVE_GROUND - 0.5 or not run.band.outside:
            continue
        seen.add(run.foundation.id)
        what = f"{run.foundation.name}: foundation wall too low above ground"
        yield _too_low(c, run.foundation.id, what, above, "foundations", line)


def _too_low(c: Context, thing: str, what: str, above: float, stage: Stage, line: WallLine) -> Finding:
    need = FLOOR_ABOVE_GROUND
    earth = ground(c.project.levels)
    source = "common practice" if stage == "floors" else "IRC R404.1.6"
    where = "above" if above >= 0.0 else "below"
    fix = None
    if earth is not None and not c.project.spots:
        target = earth.height + above - need
        fix = Fix(f"Lower '{earth.name}' to {format_length(target, c.units)}", "set_level", (earth.id, target))
    return Finding(
        "above ground",
        stage,
        what,
        f"At {wall_label(c.project, line.wall.id)} its top is {format_length(abs(above), c.units)} {where} the ground; "
        f"{format_length(need, c.units)} above it is needed ({source}).",
        (thing,),
        (*middle(line), line.band.bottom),
        fix=fix,
    )


def corners_level(c: Context) -> Iterable[Finding]:
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
                            f"{a.foundation.name}: footings meet {format_length(abs(off), c.units)} apart in height",
                            f"Where {wall_label(c.project, a.wall)} and {wall_label(c.project, b.wall)} meet, one footing "
                            "would hang in the air. Bring both to one level there, or step before the corner.",
                            (a.foundation.id,),
                            (*point, higher.band.bottom),
                            fix=Fix(
                                "Step it down with the ground",
                                "step_down",
                                (a.foundation.id, c.footings[a.id].depth),
                            )
                            if c.ground is not None
                            else None,
                        )


def footings(c: Context) -> Iterable[Finding]:
    """Soil over its bearing value, concrete too weak, footings projecting too little or too far (IRC R403.1.1)."""
    seen: set[tuple[str, str]] = set()
    for run in c.runs:
        f, result = run.foundation, c.footings[run.id]
        place = (*run.band.at(result.at, 0.0), run.band.bottom - run.drop_at(result.at))
        where = wall_label(c.project, run.wall)
        if result.problem and (f.id, "problem") not in seen:
            seen.add((f.id, "problem"))
            yield Finding(
                "no footing",
                "foundations",
                f"{f.name}: no footing is enough under {where}",
                f"{result.problem[0].upper()}{result.problem[1:]}",
                (f.id, f"{run.id}/footing"),
                place,
            )
            continue
        if result.soil_used > 1.0001 and (f.id, "soil") not in seen:
            seen.add((f.id, "soil"))
            yield Finding(
                "soil",
                "foundations",
                f"{f.name}: soil used {result.soil_used:.0%}",
                f"Under {where} the footing {format_inches(result.width, c.units)} wide presses harder than the bearing "
                f"value ({result.combination}).",
                (f.id, f"{run.id}/footing"),
                place,
                fix=Fix("Let Balken choose the width", "change", (f.id,), (("footing_width", None),))
                if f.footing_width is not None
                else None,
            )
        out = (result.width - f.thickness) / 2.0 - abs(f.footing_offset)
        far = (result.width - f.thickness) / 2.0 + abs(f.footing_offset)
        bad = run.footing and (
            out < LEAST_PROJECTION - 0.5 or (far > result.depth + 0.5 and not result.design.reinforced)
        )
        if bad and (f.id, "out") not in seen:
            seen.add((f.id, "out"))
            step = 2.0 * INCH
            deeper = math.ceil(far / step - 1e-6) * step
            shown = out if out < LEAST_PROJECTION - 0.5 else far
            fix = (
                Fix(f"Make it {format_inches(deeper, c.units)} thick", "change", (f.id,), (("footing_depth", deeper),))
                if far > result.depth
                else Fix("Let Balken choose the width", "change", (f.id,), (("footing_width", None),))
            )
            yield Finding(
                "projection",
                "foundations",
                f"{f.name}: footing projects {format_inches(shown, c.units)} beside its wall",
                f"Under {where} it should project at least {format_inches(LEAST_PROJECTION, c.units)} and, of plain "
                f"concrete, at most its thickness, {format_inches(result.depth, c.units)} (IRC R403.1.1).",
                (f.id, f"{run.id}/footing"),
                place,
                fix=fix,
            )
        strength = [
            k
            for k in result.design.checks
            if k.used > 1.0001 and k.name not in ("soil pressure", "projection, greatest", "projection, least")
        ]
        if strength and run.footing and not bad and (f.id, "strength") not in seen:
            seen.add((f.id, "strength"))
            check = strength[0]
            yield Finding(
                "footing strength",
                "foundations",
                f"{f.name}: footing used {check.used:.0%}",
                f"Under {where}: {check.name} governs ({check.clause}).",
                (f.id, f"{run.id}/footing"),
                place,
                fix=Fix("Let Balken choose the thickness", "change", (f.id,), (("footing_depth", None),))
                if f.footing_depth is not None
                else None,
            )


@remembered(2_000)
def _within(ring: Ring, point: Point) -> bool:
    return bool(shapely.Polygon(ring).contains(shapely.Point(point)))


@remembered(2_000)
def _pad_shape(place: PadPlace, width: float, length: float, before: float) -> shapely.Polygon:
    return shapely.Polygon(pad_ring(place, width, length, before))


def pads(c: Context) -> Iterable[Finding]:
    """Pads that overlap, are too weak, lift, or lie above frost; piers with nothing on them."""
    shapes = {}
    for place in c.pad_places:
        if place.pad.id not in c.pads:
            continue  # it lies in another one's combined footing
        result = c.pads[place.pad.id]
        at = (*place.centre, place.top)
        label = pad_label(c, place.pad.id)
        shapes[place.pad.id] = _pad_shape(place, result.design.width, result.design.length, result.before)
        if result.problem or not result.design.works:
            check = result.design.checks[0]
            yield Finding(
                "pad",
                "foundations",
                f"{label}: used {result.design.used:.0%}",
                result.problem or f"{check.name[0].upper()}{check.name[1:]} governs ({check.clause}).",
                (place.pad.id,),
                at,
                fix=Fix("Let Balken choose its size", "change", (place.pad.id,), (("width", None), ("thickness", None)))
                if place.pad.width is not None or place.pad.thickness is not None
                else None,
            )
        if result.uplift > result.held:
            yield Finding(
                "uplift",
                "foundations",
                f"{label} lifts",
                f"0.6 W lifts {format_force(result.uplift, c.units)}, 0.6 D holds {format_force(result.held, c.units)} "
                "(ASCE 7-16, 2.4.1). Make the pad heavier, or take wind from its post.",
                (place.pad.id,),
                at,
            )
        if result.push > result.grip:
            yield Finding(
                "sliding",
                "foundations",
                f"{label} slides",
                f"0.6 W pushes {format_force(result.push, c.units)}, friction under what 0.6 D leaves holds "
                f"{format_force(result.grip, c.units)} (ASCE 7-16, 2.4.1). Make the pad heavier, or hold the post sideways above.",
                (place.pad.id,),
                at,
            )
        if c.ground is not None:
            need = max(c.project.loads.frost_depth, LEAST_BURIAL)
            short = place.top - result.design.thickness - (c.ground.height(place.centre) - need)
            inside = any(_within(p.outline.core, place.centre) for p in c.floors)
            if short > 1.0 and not inside:
                target = place.pad.top.offset - short
                top = type(place.pad.top)(level=place.pad.top.level, offset=target)
                yield Finding(
                    "frost",
                    "foundations",
                    f"{label}: above frost depth",
                    f"Its underside must lie {format_length(short, c.units)} deeper (IRC R403.1.4).",
                    (place.pad.id,),
                    at,
                    fix=Fix(f"Lower it by {format_length(short, c.units)}", "change", (place.pad.id,), (("top", top),)),
                )
    ids = list(shapes)
    tops = {p.pad.id: p.top for p in c.pad_places}
    for i, a in enumerate(ids):
        for b in ids[:i]:
            if abs(tops[a] - tops[b]) < 300.0 and shapes[a].intersection(shapes[b]).area > 100.0:
                yield Finding(
                    "pads overlap",
                    "foundations",
                    f"{pad_label(c, b)} and {pad_label(c, a)} overlap",
                    "The soil between them would be loaded twice. Make one footing under both, or move them apart.",
                    (a, b),
                    (*shapes[a].centroid.coords[0], tops[a]),
                    fix=Fix("Make one footing under both", "change", (b,), (("joined", a),))
                    if not (c.pads[a].combined or c.pads[b].combined)
                    else None,
                )


def earth_pressure(c: Context) -> Iterable[Finding]:
    """Foundation walls that earth and water would break or push over (ACI 318-19 chapters 11, 14, TMS 402-16)."""
    for run in c.runs:
        wall = c.earth_walls.get(run.id)
        if wall is None or wall.used <= 1.0001:
            continue
        f, check = run.foundation, wall.checks[0]
        thicker = _thicker(c, f)
        yield Finding(
            "earth",
            "foundations",
            f"{f.name}: wall under {wall_label(c.project, run.wall)} used {wall.used:.0%}",
            f"{check.name[0].upper()}{check.name[1:]} governs ({check.clause}) with "
            f"{format_length(wall.unbalanced, c.units)} of earth against it"
            + ("" if wall.restrained else ", free at the top")
            + ".",
            (f.id, f"{run.id}/wall"),
            (*run.band.at(run.length / 2.0, 0.0), run.band.bottom),
            fix=Fix(
                f"Make the wall {format_inches(thicker, c.units)} thick", "change", (f.id,), (("thickness", thicker),)
            )
            if not f.upper_height and thicker is not None
            else None,
        )


def _thicker(c: Context, f: Foundation) -> float | None:
    """Return the next thickness of a foundation's walls, None when there is no thicker block."""
    if f.made_of == "concrete":
        return f.thickness + 2.0 * INCH
    return next((b.thickness for b in BLOCKS[c.project.steps] if b.thickness > f.thickness + 1.0), None)


def slab_edges(c: Context) -> Iterable[Finding]:
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
    courses,
)
