"""The load path drawn on a plan: arrows from areas of floor to what carries them, figures at seats, posts and pads."""

from collections.abc import Iterable

from balken.derived.model import Model
from balken.documents.dimensions import TEXT, reading
from balken.documents.display import Area, Bounds, Circle, Item, Path, Text, meets
from balken.documents.lettering import text_width
from balken.framing.floors import FloorPlan
from balken.framing.pieces import MemberLine
from balken.geometry.plane import Point, Ring, add, bounds, distance, unit
from balken.loads.area_loads import Reaction
from balken.loads.beam_law import NONE_MORE
from balken.loads.cases import Cases, total
from balken.model.naming import piece_name
from balken.units import format_force, format_line_load

BARB = 2.2
"""Length of an arrow's barbs, paper mm."""
FROM, TO = 0.30, 0.06
"""An arrow runs from this part of a joist off what it bears on to that part off it."""
BESIDE = (0.18, 0.24, 0.30, 0.36, 0.42)
"""The figure of an arrow stands at the first of these parts of the joist where no other stands."""
NEAR_HEAD = 500.0
"""A post whose head lies no farther than this from the underside of a floor carries it, mm."""


def load_path_items(model: Model, floors: Iterable[FloorPlan], scale: float) -> list[Item]:
    """Return what floors hand to their bearings, and what beams, posts and pads below hand on."""
    items: list[Item] = []
    shown = list(floors)
    ids = {plan.floor.id for plan in shown}
    for name, made in model.path.beams.items():
        if made.line.beam.floor not in ids or not made.design.made:
            continue
        for seat, whole, beyond in zip(made.seats, made.design.reactions, made.design.extremes, strict=True):
            most = model.standard.combinations.worst(whole.plus(beyond.more))[0]
            items += _label(made.line.at(seat.along), (1.0, 0.0), format_force(most, model.units), scale, name, -1.9)
    tops = [model.level_height(plan.floor.level) for plan in shown]
    for name, carried in model.path.columns.items():
        stand = carried.stand
        if any(top - 900.0 - NEAR_HEAD < stand.head <= top + 1.0 for top in tops):
            items.append(Circle(stand.at, 2.4 * scale, "outline", "", "floors", name))
            post = model.posts.get(name)
            most = model.standard.combinations.worst(post.load if post is not None else carried.foot)[0]
            items += _label(stand.at, (1.0, 0.0), f"P {format_force(most, model.units)}", scale, name, 3.4)
    items += _on_pads(model, shown, scale)
    taken = [bounds(item.rings[0]) for item in items if isinstance(item, Area)]
    return [*(item for plan in shown for item in _from_joists(model, plan, scale, taken)), *items]


def _from_joists(model: Model, plan: FloorPlan, scale: float, taken: list[Bounds]) -> list[Item]:
    """Return an arrow for each row of joists onto each thing it bears on, with what comes to it by length."""
    rows: dict[tuple[str, int], list[tuple[MemberLine, Reaction]]] = {}
    known = {piece_name(plan.floor.id, "joist", line.place): line for line in plan.lines}
    for r in model.path.reactions:
        line = known.get(r.piece)
        if line is not None:
            side = 0 if plan.frame.to(r.at)[0] < (line.low + line.high) / 2.0 else 1
            rows.setdefault((r.bearer, side), []).append((line, r))
    items: list[Item] = []
    for (bearer, side), found in rows.items():
        lines = {line.place: line for line, _ in found}
        mark = sorted(lines.values(), key=lambda line: line.t)[len(lines) // 2]
        end = mark.high if side else mark.low
        way = -1.0 if side else 1.0
        long = mark.high - mark.low
        tail, tip = (plan.frame.back(end + way * part * long, mark.t) for part in (FROM, TO))
        items += _arrow(tail, tip, scale, bearer)
        wide = sum(line.width for line in lines.values())
        load = total(r.force for _, r in found)
        text = _per_length(model, load, wide)
        made = [
            _label(plan.frame.back(end + way * part * long, mark.t), plan.frame.s, text, scale, bearer, 1.4)
            for part in BESIDE
        ]
        free = (label for label in made if not meets(label, taken))
        items += next(free, made[0])
    return items


def _per_length(model: Model, load: Cases, wide: float) -> str:
    return format_line_load(model.standard.combinations.worst(load.scaled(1.0 / max(wide, 1.0)))[0], model.units)


def _on_pads(model: Model, floors: list[FloorPlan], scale: float) -> list[Item]:
    """Return what comes to the pads and strip footings under the lowest floors shown."""
    lowest = {run for plan in floors for run in plan.bears_on}
    items: list[Item] = []
    if not any(run.id in lowest for run in model.runs):
        return items
    for place in model.pad_places:
        load = model.path.pads.get(place.pad.id)
        if load is not None:
            beyond = model.path.extremes.get(place.pad.id, NONE_MORE).more
            most = model.standard.combinations.worst(load.plus(beyond))[0]
            text = f"pad {format_force(most, model.units)}"
            items += _label(place.centre, (1.0, 0.0), text, scale, place.pad.id, -3.6)
    for run in model.runs:
        made = model.footings.get(run.id)
        if made is not None and run.id in lowest:
            at = run.band.at(run.span[0] + 0.3 * run.length, run.faces[1] + 3.0 * scale)
            items += _label(
                at, run.band.direction, f"footing {format_line_load(made.load, model.units)}", scale, run.id, 0.0
            )
    return items


def _arrow(tail: Point, tip: Point, scale: float, ref: str) -> list[Item]:
    if distance(tail, tip) < 1.0:
        return []
    d = unit(tail, tip)
    aside, barb = (-d[1], d[0]), BARB * scale
    items: list[Item] = [Path((tail, tip), "cut line", "floors", ref)]
    for sign in (1.0, -1.0):
        items.append(Path((tip, add(add(tip, d, -barb), aside, sign * 0.35 * barb)), "outline", "floors", ref))
    return items


def _label(at: Point, way: Point, text: str, scale: float, ref: str, off: float) -> list[Item]:
    """Return a figure beside a place, ``off`` letters to the left of the way it is read along, on a ground of its own."""
    angle, size = reading(way)[0], TEXT * scale
    x, y = at
    x, y = (x, y + off * size) if angle == 0.0 else (x - off * size, y)
    along, aside = text_width(text, size, True) / 2.0 + 0.3 * size, 0.75 * size
    dx, dy = (along, aside) if angle == 0.0 else (aside, along)
    ring: Ring = ((x - dx, y - dy), (x + dx, y - dy), (x + dx, y + dy), (x - dx, y + dy))
    return [
        Area((ring,), "sheet", "", "floors", ref),
        Text((x, y), text, size, angle=angle, pen="text", layer="floors", ref=ref, bold=True),
    ]
