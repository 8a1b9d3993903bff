"""Edits of floors: where they reach past their walls, loads put on them."""

from collections.abc import Sequence
from typing import Any

import msgspec
import shapely

from balken.geometry.plane import Point, distance, off_line, to_segment, unit
from balken.geometry.plane import add as add_to
from balken.model.edits import add, change
from balken.model.errors import EditError
from balken.model.kinds.floor import PastEdge, SideArc
from balken.model.kinds.floor_opening import HoleKind
from balken.model.lookup import by_id, next_id
from balken.model.places import height, locate
from balken.model.records import Floor, FloorLoad, FloorOpening, Project, Reference, Wall
from balken.model.ties import tie
from balken.model.typed_loads import between

USUAL = 609.6
"""How far a floor reaches past a wall where nothing else is said: 2 ft (common practice, no source), mm."""
NEAR = 150.0
"""What is drawn nearer than this to a wall's end reaches to it, mm."""
NEAR_LEVEL = 900.0
"""Walls that begin or end no farther than this from a deck may bound a floor, mm."""
REACHES = 200.0
WHERE = "Part that reaches past a wall"


def reach_past(
    project: Project, floor_id: str, wall: str, by: float = USUAL, start: float = 0.0, end: float | None = None
) -> Project:
    """Let a floor reach past one of its walls, from where to where along it; raises EditError."""
    floor = by_id(project.floors)[floor_id]
    return change(project, floor_id, past=(*floor.past, PastEdge(wall=wall, by=by, start=start, end=end)))


def change_past(project: Project, floor_id: str, number: int, **fields: Any) -> Project:
    """Change one of the parts in which a floor reaches past a wall; raises EditError."""
    past = list(by_id(project.floors)[floor_id].past)
    past[number] = msgspec.structs.replace(past[number], **fields)
    return change(project, floor_id, past=tuple(past))


def without_past(project: Project, floor_id: str, number: int) -> Project:
    """Take one of those parts back."""
    past = by_id(project.floors)[floor_id].past
    return change(project, floor_id, past=past[:number] + past[number + 1 :])


def past_between(project: Project, floor_id: str, corner: Point, other: Point) -> Project:
    """Let a floor reach past the wall nearest to the first of two corners, along it and as far as the other one says.

    Raises EditError where there is no floor, or the other corner does not lie past the wall.
    """
    floor, wall = _nearest(project, floor_id, corner)
    start, end, out = _lie(project, wall)
    long = distance(start, end)
    (a, _), (b, off) = off_line(corner, start, end), off_line(other, start, end)
    if off * out < 50.0:
        raise EditError("the second corner must lie outside the wall.", WHERE, "Click farther out.")
    low, high = sorted((min(max(a, 0.0), long), min(max(b, 0.0), long)))
    first = 0.0 if low < NEAR else round(low, 3)
    last = None if high > long - NEAR else round(high, 3)
    return reach_past(project, floor.id, wall.id, round(off * out, 3), first, last)


def past_ways(project: Project, floor_id: str, corner: Point, toward: Point) -> tuple[Point, Point]:
    """Return the directions along the wall nearest to a place, toward another one, and out of the floor there."""
    _, wall = _nearest(project, floor_id, corner)
    start, end, out = _lie(project, wall)
    dx, dy = unit(start, end)
    sign = 1.0 if off_line(toward, start, end)[0] >= off_line(corner, start, end)[0] else -1.0
    return (dx * sign, dy * sign), (-dy * out, dx * out)


def _lie(project: Project, wall: Wall) -> tuple[Point, Point, float]:
    """Return the ends of a wall, and whether its outside lies to its left (1) or right (-1)."""
    start, end = (locate(place, project.grids) for place in (wall.start, wall.end))
    return start, end, 1.0 if wall.outside == "left" else -1.0


def _nearest(project: Project, floor_id: str, point: Point) -> tuple[Floor, Wall]:
    """Return a floor and its outside wall nearest to a place; raises EditError where there is none."""
    floor = by_id(project.floors).get(floor_id)
    if floor is None:
        raise EditError("there is no floor on this storey.", WHERE, "Lay the floor first.")
    walls = [w for w in project.walls if w.id in floor.walls and w.role == "outside"]
    if not walls:
        raise EditError("the floor has no outside wall.", WHERE)
    return floor, min(walls, key=lambda w: to_segment(point, *_lie(project, w)[:2]))


def add_floor_load(project: Project, floor: str, start: Point, end: Point, **fields: Any) -> Project:
    """Put a load on a floor between two opposite corners; both in one place for a point.  Raises EditError without a floor."""
    if not floor:
        raise EditError("there is no floor on this storey.", "Load", "Lay the floor first.")
    return add(
        project, FloorLoad(id=next_id(project, FloorLoad), floor=floor, **between(project, start, end), **fields)
    )


def draw_floor(project: Project, level: str, corners: Sequence[Point], **fields: Any) -> Project:
    """Lay a floor within an outline drawn corner by corner; corners at crossings of axes are tied to them.

    Raises EditError.
    """
    count = 1 + sum(1 for floor in project.floors if floor.name.startswith("Floor framing"))
    made = Floor(
        id=next_id(project, Floor), name="Floor framing" if count == 1 else f"Floor framing {count}", level=level, walls=(),
        corners=tuple(tie(project, p) for p in corners), **fields,
    )  # fmt: skip
    return add(project, made)


def room_around(project: Project, point: Point, level: str) -> tuple[Point, ...]:
    """Return the outline, along the set-out lines of walls that can carry a floor on a level, of the room round a place.

    Raises EditError where no walls close one.
    """
    at = by_id(project.levels)[level].height
    net = []
    for wall in project.walls:
        ends = (height(wall.foot, project.levels), height(wall.head, project.levels))
        if wall.role != "divides" and min(abs(z - at) for z in ends) < NEAR_LEVEL:
            start, end, _ = _lie(project, wall)
            d = unit(start, end)
            # A little longer than they are, so that walls that only just meet close a room.
            net.append(shapely.LineString([add_to(start, d, -REACHES), add_to(end, d, REACHES)]))
    rooms = shapely.polygonize([shapely.union_all(net, grid_size=0.1)]).geoms if net else ()
    for room in rooms:
        if room.contains(shapely.Point(point)):
            ring = shapely.remove_repeated_points(room, 1.0).exterior.coords[:-1]
            return tuple((float(x), float(y)) for x, y in ring)
    raise EditError(
        "no walls that could carry it close a room here.", "Floor", "Click inside one, or draw its corners."
    )


def bow_side(project: Project, floor_id: str, side: int, rise: float) -> Project:
    """Let a side of a drawn floor bow out by so much at its middle, mm (below zero: in; 0: straight); raises EditError."""
    floor = by_id(project.floors)[floor_id]
    others = tuple(arc for arc in floor.arcs if arc.side != side)
    return change(project, floor_id, arcs=(*others, SideArc(side=side, rise=rise)) if rise else others)


def move_corner(project: Project, owner: str, number: int, point: Point) -> Project:
    """Move a corner of a drawn floor, or of an opening of any shape; at a crossing of axes it is tied to that.  Raises EditError."""
    thing = by_id(project.floors).get(owner) or by_id(project.floor_openings)[owner]
    corners = list(thing.corners)
    corners[number] = tie(project, point)
    return change(project, owner, corners=tuple(corners))


def add_shaped_opening(project: Project, floor: str, corners: Sequence[Point], **fields: Any) -> Project:
    """Leave a shape out of a floor, given corner by corner; raises EditError where there is no floor."""
    if not floor:
        raise EditError("there is no floor on this storey.", "Opening in a floor", "Lay the floor first.")
    made = FloorOpening(
        id=next_id(project, FloorOpening), floors=(floor,), place=tie(project, corners[0]),
        corners=tuple(tie(project, p) for p in corners), **fields,
    )  # fmt: skip
    return add(project, made)


KINDS_OF: dict[str, HoleKind] = {
    "stair": "stair",
    "stairflight": "stair",
    "ramp": "stair",
    "rampflight": "stair",
    "chimney": "chimney",
}
"""What an opening made from a thing of the architect's file is for; else a shaft."""


def floors_through(project: Project, reference: Reference) -> tuple[str, ...]:
    """Return the floors that a thing of the architect's file stands in or reaches up to, in their order."""
    heights = {v.id: v.height for v in project.levels}
    return tuple(
        f.id
        for f in project.floors
        if reference.bottom - NEAR <= heights[f.level] <= max(reference.top, reference.bottom) + NEAR
    )


def opening_from(project: Project, reference_id: str) -> Project:
    """Leave the outline of a thing of the architect's file out of the floors it reaches; raises EditError where there is none."""
    reference = by_id(project.references)[reference_id]
    floors = floors_through(project, reference)
    if not floors:
        raise EditError("it reaches no floor.", reference.name, "Lay the floor first.")
    kind = KINDS_OF.get(reference.kind, "shaft")
    made = add_shaped_opening(project, floors[0], reference.ring, kind=kind, source=reference.source)
    return change(made, made.floor_openings[-1].id, floors=floors)
