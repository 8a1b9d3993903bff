"""The rules for foundations: frost, ground, steps, soil, footings, pads, earth pressure."""

import math
from collections.abc import Iterable
from dataclasses import replace

import shapely

from balken.design.anchor_bolts import bolt_check, bolt_spacing_for
from balken.design.checks import Check, used_text
from balken.design.earth_walls import EarthWall, design_wall
from balken.design.footing_case import STABILITY, FootingError
from balken.design.footing_checks import check_footing
from balken.design.footing_design import design_footing
from balken.design.footings import LEAST_PROJECTION, PadResult, RunFooting
from balken.design.quantities import quantity_text
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
from balken.model.foundation_edits import edge_width
from balken.model.lookup import by_id, ground, wall_label
from balken.model.records import Foundation
from balken.remembered import remembered
from balken.units import Units, format_inches, format_length
from balken.units.system import INCH

FLOOR_ABOVE_GROUND = 6.0 * INCH
"""Common practice, no source: 6 to 8 in, so that water runs away from the house."""
WALL_ABOVE_GROUND = 6.0 * INCH
"""IRC R404.1.6: foundation wall at least 6 in above finished ground."""
FROST_STATION = 300.0
BOLTS, BASE = "anchor bolts, push into the floor", "sliding at the base"


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
        if not run.footing:
            narrow = _narrow_edge(c, run, result, place)
            if narrow is not None and (f.id, "edge") not in seen:
                seen.add((f.id, "edge"))
                yield narrow
            continue
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
                f"{f.name}: soil used {used_text(result.soil_used)}",
                f"Under {where} the footing {format_inches(result.width, c.units)} wide presses harder than the bearing "
                f"value ({result.combination}).",
                (f.id, f"{run.id}/footing"),
                place,
                fix=_left_to_balken(c, f, True, False, ("soil pressure",)),
            )
        off = abs(run.footing_off(result.width))
        out, far = (result.width - f.thickness) / 2.0 - off, (result.width - f.thickness) / 2.0 + off
        short = out < LEAST_PROJECTION - 0.5 and not run.boundary
        bad = run.footing and (short or (far > result.depth + 0.5 and not result.design.reinforced))
        if bad and (f.id, "out") not in seen:
            seen.add((f.id, "out"))
            shown = out if short else far
            fix = _left_to_balken(
                c, f, bool(short), far > result.depth + 0.5, ("projection, least", "projection, greatest")
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
            if k.used > 1.0001
            and k.name not in ("soil pressure", *STABILITY, "projection, greatest", "projection, least")
        ]
        loose = [k for k in result.design.stable if k.used > 1.0001]
        if loose and run.footing and (f.id, "stable") not in seen:
            seen.add((f.id, "stable"))
            yield _loose(c, run, result, max(loose, key=lambda k: k.used), place)
        if strength and run.footing and not bad and (f.id, "strength") not in seen:
            seen.add((f.id, "strength"))
            check = strength[0]
            yield Finding(
                "footing strength",
                "foundations",
                f"{f.name}: footing used {used_text(check.used)}",
                f"Under {where}: {check.name} governs ({check.clause}).",
                (f.id, f"{run.id}/footing"),
                place,
                fix=_left_to_balken(c, f, False, True, ()),
            )


def _narrow_edge(
    c: Context, run: FoundationRun, result: RunFooting, place: tuple[float, float, float]
) -> Finding | None:
    """A thickened edge is its own footing: as wide as one, and wide enough for the soil."""
    f, over = run.foundation, [k for k in result.design.checks if k.used > 1.0001]
    if not over:
        return None
    wide = _wide_enough(c, f)
    return Finding(
        "narrow edge",
        "foundations",
        f"{f.name}: its thickened edge is {format_inches(f.thickness, c.units)} wide",
        f"Under {wall_label(c.project, run.wall)} it is its own footing; {over[0].name} governs ({over[0].clause}). Where "
        f"{format_inches(WIDEST_EDGE, c.units)} is not enough, use a wall on a footing.",
        (f.id, f"{run.id}/wall"),
        place,
        fix=Fix(
            f"Make it {format_inches(wide, c.units)} wide",
            "change",
            (f.id,),
            (("thickness", wide), ("footing_width", None)),
        )
        if wide is not None
        else None,
    )


WIDEST_EDGE = 18.0 * INCH
"""Wider than this a thickened edge is better a wall on a footing (common practice, no source)."""


def _wide_enough(c: Context, f: Foundation) -> float | None:
    """Return the least thickness at which all thickened edges of a foundation carry what stands on them, mm."""
    step = 2.0 * INCH if c.project.steps is Units.IMPERIAL else 50.0
    runs = [r for r in c.runs if r.foundation.id == f.id]
    edges = [c.footings[r.id] for r in runs]
    first = math.ceil(max(f.thickness, edge_width(c.project)) / step - 1e-6)
    for k in range(first, math.floor(WIDEST_EDGE / step + 1e-6) + 1):
        wide = k * step
        made = []
        for e, run in zip(edges, runs, strict=True):
            # A wider edge makes its runs shorter at the corners: what stood there comes on the stretch at the end.
            spread = min(e.depth, run.length)
            load = e.design.case.load.scaled(1.0 + 1.05 * (wide - f.thickness) / spread)
            made.append(check_footing(replace(e.design.case, size=wide * 0.5, load=load), wide, e.depth, False))
        names = {check.name for e in edges for check in e.design.checks}
        # Some is kept in hand: where exactly the load comes down is known once the edge is that wide.
        if all(
            check.used <= (0.92 if check.name == "soil pressure" else 1.0)
            for design in made
            for check in design.checks
            if check.name in names
        ):
            return wide
    return None


def _left_to_balken(c: Context, f: Foundation, width: bool, depth: bool, names: tuple[str, ...]) -> Fix | None:
    """Return the fix that leaves width or thickness of a footing to Balken, where that keeps the checks named.

    No name: those of strength.  Nothing is offered that would not help under every wall of the foundation.
    """
    fields = [("footing_width", None)] if width and f.footing_width is not None else []
    fields += [("footing_depth", None)] if depth and f.footing_depth is not None else []
    if not fields:
        return None
    given = {"footing_width": f.footing_width, "footing_depth": f.footing_depth} | dict(fields)
    plain = False if given["footing_depth"] is not None else None
    for run in c.runs:
        if run.foundation.id != f.id:
            continue
        case = c.footings[run.id].design.case
        if given["footing_width"] is None and not case.flush and abs(f.footing_offset) > f.thickness / 2.0:
            case = replace(case, flush=1 if f.footing_offset > 0.0 else -1)
        try:
            made = design_footing(case, c.project.steps, given["footing_width"], given["footing_depth"], plain)
        except FootingError:
            return None
        for k in made.checks:
            asked = k.name in names if names else k.name not in ("soil pressure", *STABILITY)
            if asked and k.used > 1.0001:
                return None
    what = " and ".join(name.removeprefix("footing_").replace("depth", "thickness") for name, _ in fields)
    return Fix(f"Let Balken choose the {what}", "change", (f.id,), tuple(fields))


_LOOSE = {
    "load within the kern": "its load stands too near the edge: part of it would lift",
    "sliding": "earth would push it inward",
    "overturning": "earth would tip it over",
}


def _loose(
    c: Context, run: FoundationRun, result: RunFooting, check: Check, place: tuple[float, float, float]
) -> Finding:
    f = run.foundation
    values = [quantity_text(v, check.quantity, c.units) for v in (check.demand, check.capacity)]
    where = wall_label(c.project, run.wall)
    return Finding(
        "footing stability",
        "foundations",
        f"{f.name}: footing under {where}: {_LOOSE.get(check.name, check.name)}",
        f"{check.name[0].upper()}{check.name[1:]}: {values[0]} against {values[1]} ({check.clause}, {check.combination}). "
        "Hold the wall at its top with a floor, or widen the footing.",
        (f.id, f"{run.id}/footing"),
        place,
        fix=_left_to_balken(c, f, True, False, STABILITY),
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
        yield from _pad_checks(c, place, result, label, at)
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
    yield from _over_strips(c, shapes)
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


_PAD_WORDS = {
    "uplift": (
        "uplift",
        "{} lifts",
        "0.6 W lifts {}, 0.6 D holds {} ({}). Make the pad heavier, or take wind from its post.",
    ),
    "sliding": (
        "sliding",
        "{} slides",
        "0.6 W pushes {}, friction under what 0.6 D leaves holds {} ({}). Make the pad heavier, or hold the post sideways "
        "above.",
    ),
    "overturning": (
        "overturning",
        "{} tips over",
        "0.6 W turns it by {}, 0.6 D holds it by {} ({}). Make the pad wider or heavier, or hold the post sideways above.",
    ),
}


def _pad_checks(
    c: Context, place: PadPlace, result: PadResult, label: str, at: tuple[float, float, float]
) -> Iterable[Finding]:
    pad, typed = place.pad, place.pad.width is not None or place.pad.thickness is not None
    let = (
        Fix("Let Balken choose its size", "change", (pad.id,), (("width", None), ("thickness", None)))
        if typed
        else None
    )
    other = [k for k in result.design.checks if k.used > 1.0001 and k.name not in _PAD_WORDS]
    if result.problem or other:
        why = result.problem and f"{result.problem[0].upper()}{result.problem[1:]}"
        check = other[0] if other else result.design.checks[0]
        yield Finding(
            "pad",
            "foundations",
            f"{label}: used {used_text(check.used)}" if other else f"{label}: no size is enough",
            why or f"{check.name[0].upper()}{check.name[1:]} governs ({check.clause}).",
            (pad.id,),
            at,
            fix=let,
        )
    for name, (code, what, text) in _PAD_WORDS.items():
        found = result.check(name)
        if found is not None and found.used > 1.0001:
            values = [quantity_text(v, found.quantity, c.units) for v in (found.demand, found.capacity)]
            yield Finding(
                code, "foundations", what.format(label), text.format(*values, found.clause), (pad.id,), at,
                fix=None if result.problem or other else let,
            )  # fmt: skip


def _over_strips(c: Context, shapes: dict[str, shapely.Polygon]) -> Iterable[Finding]:
    """Pads that lie over a strip footing at their height: the soil there is loaded by both."""
    cast = {p.pad.id for p in c.pad_places if p.pad.with_strip}
    heights = {p.pad.id: (p.top - c.pads[p.pad.id].design.thickness, p.top) for p in c.pad_places if p.pad.id in shapes}
    for run in c.runs if shapes else ():
        result = c.footings[run.id]
        if not run.footing:
            continue
        for s in run.segments:
            top = run.band.bottom - s.drop
            strip = shapely.Polygon(run.footing_ring(s.low, s.high, result.width))
            for pad_id, shape in shapes.items():
                if pad_id in cast:
                    continue
                low, high = heights[pad_id]
                if min(high, top) - max(low, top - result.depth) < 1.0:
                    continue
                shared = shape.intersection(strip)
                if shared.area > 100.0:
                    yield Finding(
                        "pad over strip",
                        "foundations",
                        f"{pad_label(c, pad_id)} lies over the footing under {wall_label(c.project, run.wall)}",
                        "The soil there would carry both, and neither is designed for that. Cast them as one, or move the pad "
                        "clear of it.",
                        (pad_id, run.foundation.id),
                        (*shared.centroid.coords[0], top),
                        fix=Fix("Make one footing of both", "change", (pad_id,), (("with_strip", True),)),
                    )


def earth_pressure(c: Context) -> Iterable[Finding]:
    """Foundation walls that earth and water would break or push over (ACI 318-19 chapters 11, 14, TMS 402-16)."""
    bolted: set[str] = set()
    for run in c.runs:
        wall = c.earth_walls.get(run.id)
        if wall is None:
            continue
        if wall.waiting:
            yield _not_held(c, run, wall)
            continue
        strength = [k for k in wall.checks if k.used > 1.0001 and k.name not in (BOLTS, BASE)]
        if strength:
            yield _earth(c, run, wall, strength[0])
        base = next((k for k in wall.checks if k.name == BASE and k.used > 1.0001), None)
        if base is not None:
            yield _base_slides(c, run, wall, base)
        bolts = next((k for k in wall.checks if k.name == BOLTS and k.used > 1.0001), None)
        if bolts is not None and run.foundation.id not in bolted:
            bolted.add(run.foundation.id)
            yield _bolts(c, run, bolts)


def _not_held(c: Context, run: FoundationRun, wall: EarthWall) -> Finding:
    f = run.foundation
    return Finding(
        "not held",
        "foundations",
        f"{f.name}: the wall under {wall_label(c.project, run.wall)} is not held at its top yet",
        f"{format_length(wall.case.fill, c.units)} of earth stand against it and nothing holds its head. Lay the floor "
        "that holds it; until then wall and footing are not checked as they will stand.",
        (f.id, f"{run.id}/wall"),
        (*run.band.at(run.length / 2.0, 0.0), run.band.top),
    )


def _bolts(c: Context, run: FoundationRun, check: Check) -> Finding:
    f = run.foundation
    pushed = max(w.forces.top for r in c.runs if r.foundation.id == f.id and (w := c.earth_walls.get(r.id)) is not None)
    spacing = bolt_spacing_for(pushed, f.bolt_spacing)
    enough = bolt_check(pushed, spacing).used <= 1.0 and spacing >= LEAST_BOLT_SPACING
    return Finding(
        "anchor bolts",
        "foundations",
        f"{f.name}: anchor bolts used {used_text(check.used)}",
        f"Earth pushes the head of the wall under {wall_label(c.project, run.wall)} into the floor with "
        f"{quantity_text(check.demand, check.quantity, c.units)}; 1/2 in bolts at {format_inches(f.bolt_spacing, c.units)} "
        f"hold {quantity_text(check.capacity, check.quantity, c.units)} ({check.clause}).",
        (f.id,),
        (*run.band.at(run.length / 2.0, 0.0), run.band.top),
        fix=Fix(f"Space them at {format_inches(spacing, c.units)}", "change", (f.id,), (("bolt_spacing", spacing),))
        if enough
        else None,
    )


LEAST_BOLT_SPACING = 6.0 * INCH
"""As the rule of foundations has it, mm."""


def _base_slides(c: Context, run: FoundationRun, wall: EarthWall, check: Check) -> Finding:
    f = run.foundation
    values = [quantity_text(v, check.quantity, c.units) for v in (check.demand, check.capacity)]
    fillable = f.kind == "wall on footing" and (f.inside_ground is None or f.inside_ground > FILLED + 1.0)
    return Finding(
        "base slides",
        "foundations",
        f"{f.name}: nothing holds the base of the wall under {wall_label(c.project, run.wall)}",
        f"{format_length(wall.case.fill, c.units)} more earth outside than inside push it inward; 1.5 times that is "
        f"{values[0]}, friction under its footing holds {values[1]} ({check.clause}). Lay a slab inside, or fill the crawl "
        "space.",
        (f.id, f"{run.id}/wall"),
        (*run.band.at(run.length / 2.0, 0.0), run.band.bottom),
        fix=Fix(
            f"Fill inside to {format_inches(FILLED, c.units)} below the ground outside",
            "change",
            (f.id,),
            (("inside_ground", FILLED),),
        )
        if fillable
        else None,
    )


FILLED = 12.0 * INCH
"""How far below the ground outside a crawl space is filled by the fix, mm (common practice, no source)."""


def _earth(c: Context, run: FoundationRun, wall: EarthWall, check: Check) -> Finding:
    f = run.foundation
    thicker = None if f.upper_height or check.name == "dowels into the footing" else _thicker(c, f)
    return Finding(
        "earth",
        "foundations",
        f"{f.name}: wall under {wall_label(c.project, run.wall)} used {used_text(check.used)}",
        f"{check.name[0].upper()}{check.name[1:]} governs ({check.clause}) with "
        f"{format_length(wall.case.fill, c.units)} of earth against it"
        + ("" if wall.case.held else ", free at the top")
        + ".",
        (f.id, f"{run.id}/wall"),
        (*run.band.at(run.length / 2.0, 0.0), run.band.bottom),
        fix=Fix(f"Make the wall {format_inches(thicker, c.units)} thick", "change", (f.id,), (("thickness", thicker),))
        if thicker is not None
        else None,
    )


THICKEST_WALL = 24.0 * INCH


def _thicker(c: Context, f: Foundation) -> float | None:
    """Return the least thickness at which all walls of a foundation hold their earth; None when none does."""
    step = 2.0 * INCH if c.project.steps is Units.IMPERIAL else 50.0
    if f.made_of == "concrete":
        tried = [f.thickness + k * step for k in range(1, math.floor((THICKEST_WALL - f.thickness) / step + 1e-6) + 1)]
    else:
        tried = [b.thickness for b in BLOCKS[c.project.steps] if b.thickness > f.thickness + 1.0]
    walls = [w for r in c.runs if r.foundation.id == f.id and (w := c.earth_walls.get(r.id)) is not None]
    for thickness in tried:
        made = [
            design_wall(
                w.id, replace(w.case, thickness=round(w.case.thickness + thickness - f.thickness, 3)), c.project.soil,
                c.project.concrete, c.project.masonry, w.waiting,
            )
            for w in walls
        ]  # fmt: skip
        if all(k.used <= 1.0 for w in made for k in w.checks if k.name not in (BOLTS, BASE)):
            return thickness
    return None


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
