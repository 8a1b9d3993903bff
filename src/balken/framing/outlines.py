"""Closed outlines from walls drawn corner to corner."""

from typing import Literal

import shapely

from balken.framing.bands import WallLine
from balken.geometry.plane import (
    TOUCH,
    Point,
    Ring,
    anticlockwise,
    area,
    distance,
    dot,
    left,
    meet,
    off_line,
    to_segment,
    unit,
)
from balken.value import Value


class OutlineError(ValueError):
    """The walls named do not close an outline; the message says where it is open or crosses."""


Edge = Literal["wall", "past", "side", "open", "free"]
"""What a side is: on its wall; the front of a part that reaches past it; a side of such a part; drawn on an inside wall or
another floor's edge; drawn on nothing.
"""


class Outline(Value, frozen=True):
    """Walls in order round a building, anticlockwise; ``walls`` pairs each ring side with its wall."""

    walls: tuple[str, ...]
    core: Ring
    """Ring through the outer core faces, mm; side i runs from corner i to i + 1 on wall i."""
    shared: tuple[bool, ...] = ()
    """Whether a side's wall turns its outside to the inside here (a wing's side on the house wall)."""
    edges: tuple[Edge, ...] = ()
    """What each side is; none where all lie on their walls."""

    def edge(self, side: int) -> Edge:
        """Return what a side is."""
        return self.edges[side] if self.edges else "wall"


def outline(
    wall_ids: tuple[str, ...], lines: dict[str, WallLine], inner: bool = False, along: frozenset[str] = frozenset()
) -> Outline:
    """Order walls into a closed outline on their outer core faces.

    Interior walls among them are passed over, but with ``inner`` bearing ones close what the others leave open; a wall may run past a corner, as the house wall does
    that a wing leans on.  ``along``: walls that are sides of it whatever they are, where that closes, as of a strip of roof between
    outside walls and knee walls.  Raises OutlineError when the outline is open or crosses itself.
    """
    chosen = [lines[w] for w in wall_ids if w in lines and lines[w].wall.role == "outside"]
    also = [lines[w] for w in dict.fromkeys(wall_ids) if w in along and w in lines and lines[w] not in chosen]
    if also and _closes([*chosen, *also]):
        chosen += also
    elif inner and not _closes(chosen):
        chosen = [lines[w] for w in wall_ids if w in lines and lines[w].wall.role != "divides"]
    if len(chosen) < 3:
        raise OutlineError(f"{len(chosen)} outside walls cannot close an outline; at least three are needed")
    try:
        sides, points = _chained(chosen)
    except OutlineError:
        found = _enclosed(chosen)
        if found is None:
            raise
        sides, points = found
    if area(points) < 0.0:
        points = [points[0], *points[:0:-1]]
        sides.reverse()
    ring = _offset_ring(sides, points)
    if area(ring) < 0.0 or not shapely.LinearRing(ring).is_simple:
        raise OutlineError("the outline is too narrow for its walls")
    shared = tuple(
        dot(line.band.inward, left(unit(p, q))) < 0.0
        for line, p, q in zip(sides, points, [*points[1:], points[0]], strict=True)
    )
    return Outline(tuple(line.wall.id for line in sides), ring, shared)


def _closes(chosen: list[WallLine]) -> bool:
    try:
        return len(chosen) > 2 and bool(_chained(chosen))
    except OutlineError:
        return _enclosed(chosen) is not None


def _chained(chosen: list[WallLine]) -> tuple[list[WallLine], list[Point]]:
    """Return walls that meet end to end, in order, and the corner at which each begins."""
    chain, left_over = [chosen[0]], chosen[1:]
    points = [chosen[0].band.start]
    end = chosen[0].band.end
    while left_over:
        points.append(end)
        for line in left_over:
            if distance(line.band.start, end) < TOUCH:
                following, end = line, line.band.end
                break
            if distance(line.band.end, end) < TOUCH:
                following, end = line, line.band.start
                break
        else:
            raise OutlineError("the outline is open where a wall ends without another starting there")
        chain.append(following)
        left_over.remove(following)
    if distance(end, points[0]) > TOUCH:
        raise OutlineError("the outline does not come back to where it starts")
    if not shapely.LinearRing(points).is_simple:
        raise OutlineError("the outline crosses itself")
    return chain, points


def _enclosed(chosen: list[WallLine]) -> tuple[list[WallLine], list[Point]] | None:
    """Return the outline round all that the walls' set-out lines enclose, when each of them is a side of it; else round the largest part of
    it of which each is one.
    """
    net = shapely.union_all([shapely.LineString([w.band.start, w.band.end]) for w in chosen], grid_size=0.1)
    parts = sorted(shapely.polygonize([net]).geoms, key=lambda part: -part.area)
    whole = shapely.union_all(parts)
    tried = [whole, *parts] if len(parts) > 1 else [whole]
    return next((found for faces in tried if (found := _round(faces, chosen)) is not None), None)


def _round(faces: shapely.Geometry, chosen: list[WallLine]) -> tuple[list[WallLine], list[Point]] | None:
    """Return the outline round something, when each wall is a side of it; None where one is not."""
    if not isinstance(faces, shapely.Polygon) or faces.is_empty or faces.interiors:
        return None
    corners = [(x, y) for x, y in faces.exterior.coords[:-1]]
    sides: list[WallLine] = []
    points: list[Point] = []
    for i, p in enumerate(corners):
        q = corners[(i + 1) % len(corners)]
        line = next(
            (w for w in chosen if all(to_segment(c, w.band.start, w.band.end) < TOUCH for c in (p, q))),
            None,
        )
        if line is None:
            return None
        if sides and sides[-1] is line:
            continue
        sides.append(line)
        points.append(p)
    if len(sides) > 1 and sides[0] is sides[-1]:
        sides.pop(0)
        points.pop(0)
    if len(sides) < 3 or {w.wall.id for w in sides} != {w.wall.id for w in chosen}:
        return None
    return sides, points


def _offset_ring(sides: list[WallLine], points: list[Point]) -> Ring:
    corners: list[Point] = []
    for i, (line, point) in enumerate(zip(sides, points, strict=True)):
        before = sides[i - 1]
        p, q = before.band.at(0.0, before.core[0]), line.band.at(0.0, line.core[0])
        corner = meet(p, before.band.direction, q, line.band.direction)
        if corner is None:
            along, _ = off_line(point, line.band.start, line.band.end)
            corner = line.band.at(along, line.core[0])
        corners.append(corner)
    return tuple(corners)


def outline_of_all(lines: dict[str, WallLine], foot: float | None = None) -> tuple[str, ...]:
    """Return the outside walls (of one storey when ``foot`` is given) that a new layout would take."""
    return tuple(
        w
        for w, line in lines.items()
        if line.wall.role == "outside" and (foot is None or abs(line.band.bottom - foot) < 1.0)
    )


__all__ = ["Outline", "OutlineError", "anticlockwise", "outline", "outline_of_all"]
