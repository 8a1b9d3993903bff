"""Outlines of floors drawn corner by corner: their sides found on walls, on other floors' sides, or free."""

from collections.abc import Iterable, Mapping

import shapely

from balken.framing.bands import WallLine
from balken.framing.outlines import Edge, Outline, OutlineError
from balken.geometry.arcs import arc
from balken.geometry.plane import Point, Ring, add, anticlockwise, area, cross, distance, dot, left, meet, sub, unit

ON = 60.0
"""A side no farther than this off a wall's core lies on it, mm."""
ALONG = 0.02
"""Sine of the angle up to which a side runs along a wall."""
LEAST = 10_000.0
"""Least area of a floor, mm2."""


def drawn_outline(corners: tuple[Point, ...], lines: Mapping[str, WallLine], others: Iterable[Ring] = ()) -> Outline:
    """Return the outline of a floor drawn corner by corner; sides on outside walls lie on the outer faces of their cores.

    ``others``: outlines of other floors on its level.  A side on an inside wall, or along another floor's, is "open": joists
    end there without a rim board; one on nothing is "free".  Raises OutlineError for what is no outline.
    """
    cleaned = _cleaned(corners)
    if len(cleaned) < 3 or shapely.MultiPoint(cleaned).convex_hull.area < LEAST:
        raise OutlineError("its corners enclose nothing; draw three at least")
    if not shapely.LinearRing(cleaned).is_simple:
        raise OutlineError("its outline crosses itself")
    ring = anticlockwise(cleaned)
    sides = [(ring[i], ring[(i + 1) % len(ring)]) for i in range(len(ring))]
    beside = list(others)
    found = [_side(side, lines, beside) for side in sides]
    moved = [line for line, _, _ in found]
    points = []
    for i, (p, q) in enumerate(moved):
        before = moved[i - 1]
        met = meet(before[0], unit(*before), p, unit(p, q))
        points.append(met if met is not None and distance(met, sides[i][0]) < 2_000.0 else p)
    if area(tuple(points)) < LEAST or not shapely.LinearRing(points).is_simple:
        raise OutlineError("it is too narrow for its walls")
    shared = tuple(
        wall in lines and kind == "wall" and dot(lines[wall].band.inward, left(unit(p, q))) < 0.0
        for (_, wall, kind), (p, q) in zip(found, sides, strict=True)
    )
    return Outline(tuple(wall for _, wall, _ in found), tuple(points), shared, tuple(kind for _, _, kind in found))


def with_arcs(corners: Ring, arcs: Mapping[int, float], flat: float) -> Ring:
    """Return drawn corners with arcs, each as chords no farther off it than ``flat``; ``arcs``: how far sides bow out, mm.

    Raises OutlineError where one bows so far that it is no arc of less than a half circle.
    """
    sign = 1.0 if area(corners) > 0.0 else -1.0
    points: list[Point] = []
    for i, p in enumerate(corners):
        q, rise = corners[(i + 1) % len(corners)], arcs.get(i, 0.0)
        if abs(rise) > distance(p, q) / 2.0:
            raise OutlineError("a side bows out by more than half of its length")
        points += arc(p, q, sign * rise, flat)[:-1]
    return tuple(points)


def _cleaned(corners: tuple[Point, ...]) -> Ring:
    """Return the corners without those that lie at one place or in line."""
    kept = [p for i, p in enumerate(corners) if distance(p, corners[i - 1]) > 1.0]
    return tuple(
        p
        for i, p in enumerate(kept)
        if len(kept) < 4 or abs(cross(unit(kept[i - 1], p), unit(p, kept[(i + 1) % len(kept)]))) > 1e-4
    )


def _side(
    side: tuple[Point, Point], lines: Mapping[str, WallLine], others: list[Ring]
) -> tuple[tuple[Point, Point], str, Edge]:
    """Return a side as it lies, the wall it is on ("" for none), and what it is."""
    best: tuple[float, str] = (0.5 * distance(*side), "")
    for name, line in lines.items():
        best = max(best, (_overlap(side, line), name))
    name = best[1]
    if name:
        line = lines[name]
        if line.wall.role != "outside":
            return side, name, "open"
        off = line.core[0] - _depth(line, side[0])
        p, q = (add(point, line.band.inward, line.core[0] - _depth(line, point)) for point in side)
        return ((p, q) if abs(off) > 1e-9 else side), name, "wall"
    if any(_along_ring(side, ring) for ring in others):
        return side, "", "open"
    return side, "", "free"


def _depth(line: WallLine, point: Point) -> float:
    """Return how far inward of its outside face a point lies of a wall, mm."""
    return dot(sub(point, line.band.at(0.0, 0.0)), line.band.inward)


def _overlap(side: tuple[Point, Point], line: WallLine) -> float:
    """Return over what length a side lies on a wall, 0 where it does not."""
    b = line.band
    if abs(cross(unit(*side), b.direction)) > ALONG:
        return 0.0
    near, far = line.core[0] - ON, line.core[1] + ON
    if not all(near <= _depth(line, p) <= far for p in side):
        return 0.0
    s = sorted(dot(sub(p, b.start), b.direction) for p in side)
    return max(min(s[1], b.length + line.thickness) - max(s[0], -line.thickness), 0.0)


def _along_ring(side: tuple[Point, Point], ring: Ring) -> bool:
    """Tell whether a side lies along one of another outline for most of its length."""
    edge = shapely.LinearRing(ring).buffer(5.0) if len(ring) > 2 else None
    return edge is not None and edge.intersection(shapely.LineString(side)).length > 0.5 * distance(*side)
