"""Floors that reach past their walls: the outline pushed out there, with sides where only a part of a wall is passed."""

from collections.abc import Mapping
from itertools import pairwise

import shapely

from balken.framing.bands import WallLine
from balken.framing.outlines import Edge, Outline, OutlineError
from balken.geometry.plane import Point, add, area, cross, distance, meet, off_line, unit
from balken.model.kinds.floor import PastEdge

NEAR = 25.0
"""A part that ends nearer to a corner than this runs to it, mm."""
ALONG = 0.17
"""Sine of the angle under which two sides go on in one line: there a side stands between them."""
Part = tuple[float, float, float]
"""From where to where along a side of an outline, and how far out, mm."""


def pushed(closed: Outline, lines: Mapping[str, WallLine], past: tuple[PastEdge, ...]) -> Outline:
    """Return an outline pushed out past its walls; raises OutlineError where it crosses itself then."""
    if not past:
        return closed
    ring, count = closed.core, len(closed.core)
    sides = [(ring[i], ring[(i + 1) % count]) for i in range(count)]
    parts = [
        [] if closed.shared[i] else _parts(*side, lines, [e for e in past if e.wall == wall], wall)
        for i, (side, wall) in enumerate(zip(sides, closed.walls, strict=True))
    ]
    corners = [_corner(sides[i - 1], _out_at(parts[i - 1], sides[i - 1], 1), sides[i], _out_at(parts[i], sides[i], 0))
               for i in range(count)]  # fmt: skip
    points: list[Point] = []
    found: list[tuple[str, Edge]] = []
    for i, wall in enumerate(closed.walls):
        ahead = corners[(i + 1) % count]
        if len(corners[i]) == 2:  # a side between two that go on in one line
            points.append(corners[i][0])
            found.append((wall, "side"))
        mine, kinds = _along(sides[i], parts[i], corners[i][-1], ahead[0])
        points += mine[:-1]
        found += [(wall, closed.edge(i) if kind == "wall" else kind) for kind in kinds]
    if area(tuple(points)) < 0.0 or not shapely.LinearRing(points).is_simple:
        raise OutlineError("it reaches so far past a wall that its outline crosses itself")
    shared = dict(zip(closed.walls, closed.shared, strict=True))
    return Outline(
        tuple(wall for wall, _ in found),
        tuple(points),
        tuple(shared[wall] for wall, _ in found),
        tuple(kind for _, kind in found),
    )


def _parts(p: Point, q: Point, lines: Mapping[str, WallLine], past: list[PastEdge], wall: str) -> list[Part]:
    """Return where a side is pushed out, from p on; what ends near a corner runs to it."""
    long, found = distance(p, q), list[Part]()
    for edge in past:
        line = lines[wall]
        whole = distance(line.band.start, line.band.end)
        ends = (line.band.at(edge.start, 0.0), line.band.at(whole if edge.end is None else edge.end, 0.0))
        a, b = sorted(off_line(end, p, q)[0] for end in ends)
        if edge.start <= NEAR and edge.end is None:
            a, b = 0.0, long
        a, b = (0.0 if a < NEAR else a), (long if b > long - NEAR else b)
        if b - a > NEAR:
            found.append((a, b, edge.by))
    return sorted(found)


def _out_at(parts: list[Part], side: tuple[Point, Point], end: int) -> float:
    """Return how far a side is pushed out at its first (0) or last corner."""
    if not parts:
        return 0.0
    a, b, by = parts[-end]
    return by if (b >= distance(*side) - 1e-6 if end else a <= 1e-6) else 0.0


def _shifted(side: tuple[Point, Point], by: float) -> tuple[Point, Point]:
    """Return a side moved outward."""
    d = unit(*side)
    return add(side[0], (d[1], -d[0]), by), add(side[1], (d[1], -d[0]), by)


def _corner(
    before: tuple[Point, Point], out_before: float, after: tuple[Point, Point], out_after: float
) -> tuple[Point, ...]:
    """Return the corner between two sides as they are pushed, or two where they go on in one line."""
    if out_before == 0.0 and out_after == 0.0:
        return (after[0],)
    one, two = _shifted(before, out_before), _shifted(after, out_after)
    d, e = unit(*before), unit(*after)
    if abs(cross(d, e)) < ALONG:
        return (one[1], two[0]) if abs(out_before - out_after) > 1.0 else (two[0],)
    met = meet(one[0], d, two[0], e)
    assert met is not None
    return (met,)


def _along(side: tuple[Point, Point], parts: list[Part], first: Point, last: Point) -> tuple[list[Point], list[Edge]]:
    """Return the corners of one side from its first to its last, and what lies between each two."""
    points, kinds, long, d = [first], list[Edge](), distance(*side), unit(*side)
    for a, b, by in parts:
        if a > 1e-6:
            points += [add(side[0], d, a), add(_shifted(side, by)[0], d, a)]
            kinds += ["wall", "side"]
        kinds.append("past")
        if b < long - 1e-6:
            points += [add(_shifted(side, by)[0], d, b), add(side[0], d, b)]
            kinds.append("side")
    points.append(last)
    if not parts or parts[-1][1] < long - 1e-6:
        kinds.append("wall")
    assert len(kinds) == len(list(pairwise(points)))
    return points, kinds
