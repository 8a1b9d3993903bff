"""Points, directions, lines and rings in a plane.

A point is a pair of floats in mm, a ring a tuple of points without a repeated last one.  What is asked most often is written out: calls
would cost more than the sums.
"""

import math
from collections.abc import Iterable, Sequence
from math import hypot

import numpy as np
import shapely

Point = tuple[float, float]
Ring = tuple[Point, ...]

TOUCH = 1.0
"""Two points nearer than this (mm) are the same corner of a building."""
FINE = 1e6
"""``round(x * FINE) / FINE``: a coordinate to a millionth of a mm, where many are rounded (``round(x, 6)`` goes by text)."""


def add(a: Point, b: Point, factor: float = 1.0) -> Point:
    """Return ``a + factor * b``."""
    return (a[0] + factor * b[0], a[1] + factor * b[1])


def sub(a: Point, b: Point) -> Point:
    """Return ``a - b``."""
    return (a[0] - b[0], a[1] - b[1])


def dot(a: Point, b: Point) -> float:
    """Return the scalar product."""
    return a[0] * b[0] + a[1] * b[1]


def cross(a: Point, b: Point) -> float:
    """Return the z part of the vector product."""
    return a[0] * b[1] - a[1] * b[0]


def distance(a: Point, b: Point) -> float:
    """Return the distance between two points."""
    return hypot(b[0] - a[0], b[1] - a[1])


def unit(a: Point, b: Point) -> Point:
    """Return the unit direction from ``a`` to ``b``; raises ValueError when they coincide."""
    x, y = b[0] - a[0], b[1] - a[1]
    length = hypot(x, y)
    if length == 0.0:
        raise ValueError("no direction between two equal points")
    return (x / length, y / length)


def turn(point: Point, degrees: float) -> Point:
    """Turn a vector anticlockwise about the origin; quarter turns are exact."""
    quarter = degrees / 90.0
    if quarter == int(quarter):
        cos, sin = ((1.0, 0.0), (0.0, 1.0), (-1.0, 0.0), (0.0, -1.0))[int(quarter) % 4]
    else:
        cos, sin = math.cos(math.radians(degrees)), math.sin(math.radians(degrees))
    return (point[0] * cos - point[1] * sin, point[0] * sin + point[1] * cos)


def left(direction: Point) -> Point:
    """Return the direction turned a quarter to the left."""
    return (-direction[1], direction[0])


def meet(p: Point, d: Point, q: Point, e: Point) -> Point | None:
    """Return where the line through ``p`` along ``d`` meets that through ``q`` along ``e``.

    None when the lines are parallel (to within 0.06 degrees for unit directions).
    """
    (dx, dy), (ex, ey) = d, e
    across = dx * ey - dy * ex
    if -1e-3 < across < 1e-3:
        return None
    (px, py), (qx, qy) = p, q
    far = ((qx - px) * ey - (qy - py) * ex) / across
    return (px + far * dx, py + far * dy)


def off_line(point: Point, start: Point, end: Point) -> tuple[float, float]:
    """Return (distance along, distance to the left) of a point from the line start-end."""
    (x0, y0), (x1, y1) = start, end
    x, y = x1 - x0, y1 - y0
    length = hypot(x, y)
    if length == 0.0:
        raise ValueError("no direction between two equal points")
    x, y = x / length, y / length
    across, up = point[0] - x0, point[1] - y0
    return across * x + up * y, x * up - y * across


def to_segment(point: Point, start: Point, end: Point) -> float:
    """Return the distance of a point from a segment."""
    length = distance(start, end)
    if length == 0.0:
        return distance(point, start)
    along, aside = off_line(point, start, end)
    if along < 0.0:
        return distance(point, start)
    if along > length:
        return distance(point, end)
    return abs(aside)


def area(ring: Sequence[Point]) -> float:
    """Return the signed area of a ring (anticlockwise positive), mm2."""
    twice = 0.0
    x0, y0 = ring[-1] if ring else (0.0, 0.0)
    for x1, y1 in ring:
        twice += x0 * y1 - y0 * x1
        x0, y0 = x1, y1
    return 0.5 * twice


def distinct(ring: Ring, least: float = 1e-6) -> Ring:
    """Return a ring without corners that lie no farther than ``least`` mm from the one before, as clipping may leave them."""
    return tuple(p for k, p in enumerate(ring) if distance(p, ring[k - 1]) > least) if len(ring) > 1 else ring


def is_simple(ring: Sequence[Point]) -> bool:
    """Tell whether a ring of three corners or more does not cross itself."""
    return len(ring) > 2 and bool(shapely.LinearRing(ring).is_simple)


def anticlockwise(ring: Sequence[Point]) -> Ring:
    """Return the ring turning anticlockwise."""
    return tuple(ring) if area(ring) >= 0.0 else tuple(reversed(ring))


def bounds(points: Iterable[Point]) -> tuple[float, float, float, float]:
    """Return (least x, least y, greatest x, greatest y); raises ValueError when empty."""
    xs, ys = zip(*points, strict=True)
    return min(xs), min(ys), max(xs), max(ys)


def segments_cross(a: Point, b: Point, c: Point, d: Point, clear: float = TOUCH) -> bool:
    """Tell whether a-b and c-d cross away from their ends by more than ``clear`` mm."""
    point = meet(a, unit(a, b), c, unit(c, d))
    if point is None:
        return False
    along_ab, _ = off_line(point, a, b)
    along_cd, _ = off_line(point, c, d)
    return clear < along_ab < distance(a, b) - clear and clear < along_cd < distance(c, d) - clear


def chords(rings: Sequence[Ring], point: Point, direction: Point) -> list[tuple[float, float]]:
    """Return the stretches of a line inside a polygon with holes, as distances from ``point``.

    Even-odd rule; edges along the line count as outside on one side, so that a line through a
    corner gives each stretch once.
    """
    (px, py), (dx, dy) = point, direction
    cuts: list[float] = []
    for ring in rings:
        heights = [(y - py) * dx - (x - px) * dy for x, y in ring]
        (x0, y0), h0 = ring[-1], heights[-1]
        for (x1, y1), h1 in zip(ring, heights, strict=True):
            if (h0 < 0.0) != (h1 < 0.0):
                t = h0 / (h0 - h1)
                cuts.append((x0 + t * (x1 - x0) - px) * dx + (y0 + t * (y1 - y0) - py) * dy)
            x0, y0, h0 = x1, y1, h1
    cuts.sort()
    return [(cuts[i], cuts[i + 1]) for i in range(0, len(cuts) - 1, 2) if cuts[i + 1] - cuts[i] > 1e-6]


def bare(covered: Iterable[tuple[float, float]], end: float, start: float = 0.0) -> list[tuple[float, float]]:
    """Return what is left of a length from ``start`` to ``end`` between stretches that are covered, mm."""
    found, reached = [], start
    for low, high in [*sorted(covered), (end, end)]:
        if min(low, end) - reached > 1.0:
            found.append((reached, min(low, end)))
        reached = max(reached, high)
    return found


def near_pairs(
    boxes: Sequence[tuple[float, float, float, float]],
    reach: float,
    heights: Sequence[tuple[float, float]] | None = None,
) -> list[tuple[int, int]]:
    """Return the numbers (i < j) of boxes (least x, y, greatest x, y) at most ``reach`` mm apart, both ways.

    ``heights``: (foot, top) of each; only those are named that share some height.
    """
    if len(boxes) < 2:
        return []
    x0, y0, x1, y1 = np.array(boxes).T
    if heights is None:
        foot, top = np.zeros(len(boxes)), np.ones(len(boxes))
    else:
        foot, top = np.array(heights).T
    # The tree finds a few too many where boxes touch to the last figure; they are told apart exactly below.
    wide = reach / 2.0 + abs(reach) * 1e-9 + 1e-6
    shapes = shapely.box(x0 - wide, y0 - wide, x1 + wide, y1 + wide)
    i, j = shapely.STRtree(shapes).query(shapes)
    i, j = i[i < j], j[i < j]
    apart = np.maximum.reduce([x0[i] - x1[j], x0[j] - x1[i], y0[i] - y1[j], y0[j] - y1[i]])
    near = (apart <= reach) & (np.minimum(top[i], top[j]) > np.maximum(foot[i], foot[j]))
    return sorted(zip(i[near].tolist(), j[near].tolist(), strict=True))


def off_square(way: Point, on: Point) -> float:
    """Return by how much what comes a way to a line along another is turned from square to it, degrees; above 0 where it comes from the
    right as one faces the line.
    """
    across = cross(on, way)
    return round(math.degrees(math.atan2(dot(way, on), abs(across))) * (1.0 if across < 0.0 else -1.0), 1) + 0.0


def clipped(ring: Sequence[Point], normal: Point, least: float) -> Ring:
    """Return the part of an outline where normal . p is no less than ``least``; of one that is not convex the right area, its
    parts joined along the cut.
    """
    kept: list[Point] = []
    if not ring:
        return ()
    nx, ny = normal
    px, py = ring[-1]
    a = nx * px + ny * py - least
    for q in ring:
        qx, qy = q
        b = nx * qx + ny * qy - least
        if (a >= 0.0) != (b >= 0.0):
            part = a / (a - b)
            kept.append((px + part * (qx - px), py + part * (qy - py)))
        if b >= 0.0:
            kept.append(q)
        px, py, a = qx, qy, b
    return tuple(kept)


def length_within(ring: Sequence[Point], a: Point, b: Point) -> float:
    """Return how much of a straight line lies within an outline that bulges everywhere (anticlockwise), mm."""
    first, last = 0.0, 1.0
    for k in range(len(ring)):
        p, q = ring[k - 1], ring[k]
        x, y = q[0] - p[0], q[1] - p[1]
        # How far both its ends lie left of each edge, times that edge's length.
        left, right = x * (a[1] - p[1]) - y * (a[0] - p[0]), x * (b[1] - p[1]) - y * (b[0] - p[0])
        if left < 0.0 and right < 0.0:
            return 0.0
        if left < 0.0:
            first = max(first, left / (left - right))
        elif right < 0.0:
            last = min(last, left / (left - right))
    return max(last - first, 0.0) * math.dist(a, b)


def rings_of(shape: shapely.Geometry, least: float = 0.0) -> list[tuple[Ring, ...]]:
    """Return the outline and holes of each polygon of a shape larger than ``least`` mm2, as shapely turns them."""
    return [
        (tuple(p.exterior.coords[:-1]), *(tuple(hole.coords[:-1]) for hole in p.interiors))
        for p in getattr(shape, "geoms", [shape])
        if isinstance(p, shapely.Polygon) and p.area > least
    ]


def polygons_of(shape: shapely.Geometry) -> list[shapely.Polygon]:
    """Return what of a shape has an area."""
    return [part for part in getattr(shape, "geoms", [shape]) if part.geom_type == "Polygon"]


def areas(shape: shapely.Geometry) -> shapely.MultiPolygon:
    """Return a shape without lines and points where others only touched it: what is laid over another must be of areas alone."""
    return shapely.MultiPolygon(polygons_of(shape))


def largest(shape: shapely.Geometry) -> shapely.Polygon | None:
    """Return the largest of what of a shape has an area; None where nothing has."""
    return max(polygons_of(shape), key=lambda part: part.area, default=None)


def polygons(rings: Sequence[Ring]) -> list[shapely.Polygon]:
    """Return rings as polygons; those of four corners, which most are, all at once."""
    square = [i for i, ring in enumerate(rings) if len(ring) == 4]
    found = [shapely.Polygon(ring) if len(ring) != 4 else None for ring in rings]
    if square:
        made = shapely.polygons(np.array([rings[i] for i in square]))
        for i, shape in zip(square, made, strict=True):
            found[i] = shape
    return found
