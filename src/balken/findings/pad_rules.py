"""Rules that look for faults of pads: soil, concrete, stability, and what lies over one another."""

from collections.abc import Iterable

import shapely

from balken.derived.finding import Finding, Fix
from balken.derived.model import Model
from balken.design.footings import PadResult
from balken.findings.names import pad_label
from balken.framing.pads import PadPlace, pad_ring
from balken.framing.stepping import LEAST_BURIAL
from balken.geometry.plane import Point, Ring
from balken.model.lookup import wall_label
from balken.remembered import remembered
from balken.standards.checks import used_text
from balken.standards.measures import quantity_text
from balken.units import say_length


@remembered(2_000)
def _within(ring: Ring, point: Point) -> bool:
    return bool(shapely.Polygon(ring).contains(shapely.Point(point)))


@remembered(2_000)
def _pad_shape(place: PadPlace, width: float, length: float, before: float) -> shapely.Polygon:
    return shapely.Polygon(pad_ring(place, width, length, before))


def pads(c: Model) -> Iterable[Finding]:
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
                    f"Its underside must lie {say_length(short, c.units)} deeper (IRC R403.1.4).",
                    (place.pad.id,),
                    at,
                    fix=Fix(f"Lower it by {say_length(short, c.units)}", "change", (place.pad.id,), (("top", top),)),
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
    c: Model, place: PadPlace, result: PadResult, label: str, at: tuple[float, float, float]
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


def _over_strips(c: Model, shapes: dict[str, shapely.Polygon]) -> Iterable[Finding]:
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
