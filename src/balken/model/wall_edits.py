"""Edits of walls as figures in plan: move, copy, turn, mirror, offset, split, join, extend or trim."""

import math
from collections.abc import Callable
from typing import TypeVar

import msgspec

from balken.geometry.plane import TOUCH, Point, add, distance, left, meet, off_line, turn, unit
from balken.model.edits import add_all, change, move_wall_end
from balken.model.errors import EditError
from balken.model.following import followed
from balken.model.lookup import by_id, locate, next_id, there, wall_label
from balken.model.records import Floor, Foundation, FreePoint, Opening, Project, Recess, Roof, Slab, Slope, Step, Wall
from balken.model.rules import check
from balken.model.ties import tie, tie_again
from balken.value import Value

Move = Callable[[Point], Point]
R = TypeVar("R", Opening, Recess)
L = TypeVar("L", bound=Foundation | Floor | Roof | Slab)


def chosen_walls(project: Project, wall_ids: tuple[str, ...]) -> list[Wall]:
    known = by_id(project.walls)
    found = [known[w] for w in wall_ids if w in known]
    if not found:
        raise EditError("No wall is selected.", do="Select one or more walls first.")
    return found


def wall_ends(project: Project, wall: Wall) -> tuple[Point, Point]:
    return locate(wall.start, project.grids), locate(wall.end, project.grids)


def transform(
    project: Project, wall_ids: tuple[str, ...], move: Move, copy: bool = False, flip: bool = False
) -> Project:
    """Put walls where ``move`` takes them; copies bring their openings along.

    ``flip``: the outside changes sides (a mirrored figure).  Ends that land on axis crossings are
    tied to them.
    """
    chosen = chosen_walls(project, wall_ids)
    made: list[Wall | Opening] = []
    moved: dict[str, Wall] = {}
    counting = project
    for wall in chosen:
        start, end = (tie_again(project, place, move(locate(place, project.grids))) for place in (wall.start, wall.end))
        outside = wall.outside
        if flip:
            outside = "left" if outside == "right" else "right"
        placed = msgspec.structs.replace(wall, start=start, end=end, outside=outside)
        if not copy:
            moved[wall.id] = placed
            continue
        # What is made here did not come from the architect's file, as its model did.
        placed = msgspec.structs.replace(placed, id=next_id(counting, Wall), source="")
        made.append(placed)
        counting = msgspec.structs.replace(counting, walls=(*counting.walls, placed))
        for opening in project.openings:
            if opening.wall == wall.id:
                twin = msgspec.structs.replace(opening, id=next_id(counting, Opening), wall=placed.id, source="")
                made.append(twin)
                counting = msgspec.structs.replace(counting, openings=(*counting.openings, twin))
    if copy:
        return add_all(project, *made)
    put = msgspec.structs.replace(project, walls=tuple(moved.get(w.id, w) for w in project.walls))
    return check(followed(project, put))


def move_walls(project: Project, wall_ids: tuple[str, ...], dx: float, dy: float, copy: bool = False) -> Project:
    """Move or copy walls by a distance."""
    return transform(project, wall_ids, lambda p: (p[0] + dx, p[1] + dy), copy)


def turn_walls(
    project: Project, wall_ids: tuple[str, ...], centre: Point, degrees: float, copy: bool = False
) -> Project:
    """Turn walls anticlockwise about a point."""

    def move(p: Point) -> Point:
        return add(centre, turn((p[0] - centre[0], p[1] - centre[1]), degrees))

    return transform(project, wall_ids, move, copy)


def mirror_walls(project: Project, wall_ids: tuple[str, ...], a: Point, b: Point, copy: bool = False) -> Project:
    """Mirror walls about the line through two points; outsides stay outside."""
    if distance(a, b) < TOUCH:
        raise EditError("The mirror line has no direction.", do="Choose two points apart.")
    aside = left(unit(a, b))

    def move(p: Point) -> Point:
        return add(p, aside, -2.0 * off_line(p, a, b)[1])

    return transform(project, wall_ids, move, copy, flip=True)


def offset_wall(project: Project, wall_id: str, by: float) -> Project:
    """Copy a wall parallel to itself, ``by`` mm outward (inward when below zero), without its openings."""
    (wall,) = chosen_walls(project, (wall_id,))
    start, end = wall_ends(project, wall)
    inward = left(unit(start, end))
    sign = -1.0 if wall.outside == "right" else 1.0
    moved = [tie(project, add(p, inward, sign * by)) for p in (start, end)]
    twin = msgspec.structs.replace(wall, id=next_id(project, Wall), start=moved[0], end=moved[1], source="")
    return add_all(project, twin)


def split_slope(slope: Slope, second: str, along: float) -> list[Slope]:
    """Return a slope's parts on the two walls that one was split into; scraps under 4 in are left out."""
    new = msgspec.structs.replace
    moved = new(slope, wall=second, start=slope.start - along, end=slope.end - along)
    if slope.start >= along or slope.end <= along:
        return [moved if slope.start >= along else slope]
    part = (along - slope.start) / (slope.end - slope.start)
    deep = slope.deeper_start + part * (slope.deeper_end - slope.deeper_start)
    both = [new(slope, end=along, deeper_end=deep), new(moved, start=0.0, deeper_start=deep)]
    return [s for s in both if s.end - s.start > 100.0]


class Circle(Value, frozen=True):
    """An arc that a wall is brought to, as a full circle: centre in plan and radius, mm."""

    centre: Point
    radius: float


def reach_wall(project: Project, wall_id: str, target: tuple[Point, Point] | Circle, shorter: bool = False) -> Project:
    """Extend or trim a wall to a line or an arc: its end nearer to the nearest crossing moves onto it.

    ``shorter``: of a wall that crosses it, the shorter part is kept.  Openings, recesses, steps and slopes stay where they are.
    Raises EditError when they do not meet, or when a wall of which the shorter part should stay does not cross it.
    """
    (wall,) = chosen_walls(project, (wall_id,))
    start, end = wall_ends(project, wall)
    long, way, where = distance(start, end), unit(start, end), wall_label(project, wall_id)
    places = _crossings(start, way, target)
    if not places:
        what = "does not meet the arc" if isinstance(target, Circle) else "is parallel to what it should reach"
        raise EditError(f"it {what}.", where)
    if shorter:
        places = [at for at in places if TOUCH < at < long - TOUCH]
        if not places:
            raise EditError(
                "it does not cross that, so there is nothing to choose.", where, "Extend or trim it instead."
            )
    at = min(places, key=lambda x: min(abs(x), abs(x - long)))
    at_start = (abs(at) < abs(at - long)) != shorter
    place = tie(project, add(start, way, at))
    changed = msgspec.structs.replace(wall, start=place) if at_start else msgspec.structs.replace(wall, end=place)
    project = msgspec.structs.replace(project, walls=tuple(changed if w is wall else w for w in project.walls))
    return check(_begun_at(project, wall_id, at) if at_start else project)


def _crossings(start: Point, way: Point, target: tuple[Point, Point] | Circle) -> list[float]:
    """Return where along a line from ``start`` it meets a line or a circle, mm."""
    if isinstance(target, Circle):
        middle, aside = off_line(target.centre, start, add(start, way))
        half = target.radius**2 - aside**2
        return [middle - math.sqrt(half), middle + math.sqrt(half)] if half > 0.0 else []
    point = meet(start, way, target[0], unit(*target))
    return [] if point is None else [off_line(point, start, add(start, way))[0]]


def _begun_at(project: Project, wall_id: str, by: float) -> Project:
    """Measure what lies along a wall from a start corner ``by`` mm further along it, so that it stays where it is."""
    new = msgspec.structs.replace

    def moved(records: tuple[R, ...]) -> tuple[R, ...]:
        return tuple(new(r, offset=r.offset - by) if r.wall == wall_id else r for r in records)

    def layout(foundation: Foundation) -> Foundation:
        passed = [s for s in foundation.steps if s.wall == wall_id and s.at <= max(by, 0.0)]
        drop = sum(s.drop for s in passed)
        begins = [Step(wall=wall_id, at=0.0, drop=drop)] if abs(drop) > 1e-9 else []
        steps = (new(s, at=s.at - by) if s.wall == wall_id else s for s in foundation.steps if s not in passed)
        left_over = (s for s in foundation.slopes if s.wall != wall_id or s.end - by > 100.0)
        # What remains of a slope is the last of its parts.
        slopes = (split_slope(s, wall_id, by)[-1] if s.wall == wall_id else s for s in left_over)
        return new(foundation, steps=(*begins, *steps), slopes=tuple(slopes))

    changes = {"openings": moved(project.openings), "recesses": moved(project.recesses)}
    if any(wall_id in f.walls and (f.steps or f.slopes) for f in project.foundations):
        changes["foundations"] = tuple(layout(f) if wall_id in f.walls else f for f in project.foundations)
    return new(project, **changes)


def beside_opening(project: Project, opening_id: str) -> tuple[float, float]:
    """Return where what stands beside an opening ends: the jambs of its neighbours, or the corners of its wall; mm from the start corner."""
    opening = there(project.openings, opening_id)
    wall = there(project.walls, opening.wall)
    long = distance(locate(wall.start, project.grids), locate(wall.end, project.grids))
    others = [o for o in project.openings if o.wall == opening.wall and o.id != opening.id]
    middle = opening.offset + opening.width / 2.0
    before = max((o.offset + o.width for o in others if o.offset + o.width / 2.0 < middle), default=0.0)
    after = min((o.offset for o in others if o.offset + o.width / 2.0 >= middle), default=long)
    return before, after


def place_opening(project: Project, opening_id: str, at: float, end: bool = False, middle: bool = False) -> Project:
    """Move an opening so that its jamb there, or its ``middle``, lies so far from the start corner of its wall, or from the ``end`` one,
    mm; raises EditError where it would not lie in its wall.
    """
    opening = there(project.openings, opening_id)
    wall = there(project.walls, opening.wall)
    long = distance(locate(wall.start, project.grids), locate(wall.end, project.grids))
    back = opening.width / 2.0 if middle else opening.width if end else 0.0
    return change(project, opening_id, offset=round((long - at if end else at) - back, 6))


def centre_opening(project: Project, opening_id: str, low: float, high: float) -> Project:
    """Centre an opening between two distances from its wall's start corner, mm."""
    opening = there(project.openings, opening_id)
    return change(project, opening_id, offset=(low + high - opening.width) / 2.0)


def drag_walls(project: Project, wall_ids: tuple[str, ...], dx: float, dy: float) -> Project:
    """Move walls; what meets them at an end or a tee slides along its own line, so that no direction changes.

    Walls in line with a dragged one, end to end with it, go along across their line.  Raises EditError where a wall
    that is not dragged would have no length left.
    """
    chosen = chosen_walls(project, wall_ids)
    figures = {w.id: wall_ends(project, w) for w in project.walls}
    moves = _moving(figures, [w.id for w in chosen], (dx, dy))
    walls = []
    for wall in project.walls:
        targets = [_dragged(wall.id, point, figures, moves) for point in figures[wall.id]]
        changed = {
            side: tie_again(project, getattr(wall, side), target)
            for side, point, target in zip(("start", "end"), figures[wall.id], targets, strict=True)
            if distance(target, point) > 1e-9
        }
        if changed:
            _keeps_direction(project, wall, figures[wall.id], (targets[0], targets[1]))
        walls.append(msgspec.structs.replace(wall, **changed) if changed else wall)
    return check(followed(project, msgspec.structs.replace(project, walls=tuple(walls))))


Figure = tuple[Point, Point]
IN_LINE = math.sin(math.radians(5.0))
"""Two walls that meet at less than this sine of an angle count as in line."""


def _turned(a: Figure, b: Figure) -> float:
    """Return the sine of the angle between two walls, without its sign."""
    (dx, dy), (ex, ey) = unit(*a), unit(*b)
    return abs(dx * ey - dy * ex)


def _moving(figures: dict[str, Figure], chosen: list[str], by: Point) -> dict[str, Point]:
    """Return how far each wall moves: those dragged, and across their line those that go on in line from them."""
    moves = dict.fromkeys(chosen, by)
    waiting = list(chosen)
    while waiting:
        figure = figures[waiting.pop()]
        for other, ends in figures.items():
            meets = any(distance(p, q) < TOUCH for p in figure for q in ends)
            if other in moves or not meets or _turned(figure, ends) > IN_LINE:
                continue
            d = unit(*ends)
            along = by[0] * d[0] + by[1] * d[1]
            moves[other] = (by[0] - along * d[0], by[1] - along * d[1])
            waiting.append(other)
    return moves


def _dragged(wall: str, point: Point, figures: dict[str, Figure], moves: dict[str, Point]) -> Point:
    """Return where an end of a wall comes: on its own line, moved or not, where it crosses the one it meets."""
    figure, own = figures[wall], moves.get(wall, (0.0, 0.0))
    direction, moved = unit(*figure), add(point, own)
    # Sooner on what moves too, then on what stays; a corner sooner than a tee.
    partners = [
        (other not in moves, not _at_end(point, ends), other)
        for other, ends in figures.items()
        if other != wall
        and (wall in moves or other in moves)
        and _meets(point, ends)
        and _turned(figure, ends) > IN_LINE
    ]
    for _, _, other in sorted(partners):
        a, b = figures[other]
        by = moves.get(other, (0.0, 0.0))
        before = meet(point, direction, a, unit(a, b))
        met = meet(moved, direction, add(a, by), unit(a, b))
        if met is not None and before is not None:
            # An end that stood a little off the other's line keeps that distance.
            return (point[0] + met[0] - before[0], point[1] + met[1] - before[1])
    return moved


def _at_end(point: Point, figure: Figure) -> bool:
    return any(distance(point, end) < TOUCH for end in figure)


def _meets(point: Point, figure: Figure) -> bool:
    along, aside = off_line(point, *figure)
    return _at_end(point, figure) or (TOUCH < along < distance(*figure) - TOUCH and abs(aside) < TEE_REACH)


def _keeps_direction(project: Project, wall: Wall, before: Figure, after: Figure) -> None:
    d, way = unit(*before), (after[1][0] - after[0][0], after[1][1] - after[0][1])
    if way[0] * d[0] + way[1] * d[1] < 1.0:
        raise EditError(
            "it would have no length left.", wall_label(project, wall.id), "Drag less far, or drag it along too."
        )


def square_wall(project: Project, wall_id: str, direction: Point) -> Project:
    """Bring a wall in line with a direction by moving one end across it: a free one sooner than one tied to axes."""
    (wall,) = chosen_walls(project, (wall_id,))
    start, end = wall_ends(project, wall)
    side = "start" if isinstance(wall.start, FreePoint) and not isinstance(wall.end, FreePoint) else "end"
    fixed, moved = (end, start) if side == "start" else (start, end)
    along = (moved[0] - fixed[0]) * direction[0] + (moved[1] - fixed[1]) * direction[1]
    return move_wall_end(project, wall_id, side, add(fixed, direction, along))


TEE_REACH = 350.0
"""An end nearer than this to a wall's set-out line joins it at a tee, mm."""


def chain(project: Project, wall_id: str) -> tuple[str, ...]:
    """Return the walls that hang together end to end with one, of the same role, in the order found."""
    (first,) = chosen_walls(project, (wall_id,))
    found, waiting = [first.id], [first]
    while waiting:
        ends = wall_ends(project, waiting.pop(0))
        for other in project.walls:
            if other.id in found or other.role != first.role or other.foot != first.foot:
                continue
            if any(distance(p, q) < TOUCH for p in ends for q in wall_ends(project, other)):
                found.append(other.id)
                waiting.append(other)
    return tuple(found)
