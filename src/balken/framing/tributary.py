"""Slabs that carry both ways: every place of a field goes to the wall or beam at its edge that is nearest to it.

Between the walls and beams at its edges a convex field falls into triangles and trapezoids (45 degrees from square corners;
common practice for loads on supports of two-way slabs).  Free edges take nothing.
"""

import math

import shapely

from balken.framing.outlines import Outline
from balken.framing.pieces import Bearer
from balken.geometry.plane import (
    Point,
    Ring,
    add,
    anticlockwise,
    clipped,
    distance,
    dot,
    left,
    off_line,
    sub,
    to_segment,
    unit,
)

STEP = 304.8
"""What comes to a wall comes there in stretches no longer than this, mm."""
ON_EDGE = 400.0
"""An edge of a field no farther than this from the middle of a wall or beam lies on it, mm."""
ALONG = 0.02
STRAIGHT = 1e-6
Share = tuple[str, Point, float]
"""What carries, where on its middle line, and how much of the slab, mm2."""


def tributary(outline: Outline, bearers: tuple[Bearer, ...], holes: tuple[Ring, ...] = ()) -> tuple[Share, ...]:
    """Return what of a slab comes where; nothing where a field between walls and beams is not convex or nothing carries it."""
    ring = anticlockwise(outline.core)
    whole = shapely.Polygon(ring)
    middles = [(b, *b.middle()) for b in bearers]
    inner = [shapely.LineString(ends) for b, *ends in middles if not _at_edge(outline, ring, b)]
    cut = shapely.union_all([whole.boundary, *[line.intersection(whole) for line in inner]], grid_size=0.001)
    gaps = shapely.union_all([shapely.Polygon(hole) for hole in holes])
    found: list[Share] = []
    for field in shapely.polygonize([cut]).geoms:
        if not whole.buffer(1.0).contains(field.representative_point()):
            continue
        shares = _of_field(field, outline, ring, bearers, gaps)
        if shares is None:
            return ()
        found += shares
    return tuple(found)


def _at_edge(outline: Outline, ring: Ring, bearer: Bearer) -> bool:
    """Tell whether a bearer lies along an edge of the outline."""
    if bearer.wall and bearer.wall in outline.walls:
        return True
    a, b = bearer.middle()
    return any(
        max(to_segment(p, a, b) for p in (ring[i], ring[(i + 1) % len(ring)])) < ON_EDGE for i in range(len(ring))
    )


def _of_field(
    field: shapely.Polygon, outline: Outline, ring: Ring, bearers: tuple[Bearer, ...], gaps: shapely.Geometry
) -> list[Share] | None:
    corners: Ring = anticlockwise(tuple((float(x), float(y)) for x, y in field.exterior.coords[:-1]))
    if shapely.Polygon(corners).convex_hull.area > field.area * (1.0 + 1e-6) or field.interiors:
        return None
    sides = [(corners[i], corners[(i + 1) % len(corners)]) for i in range(len(corners))]
    on = [_bearer_at(side, outline, ring, bearers) for side in sides]
    planes = [
        (bearer, side, left(unit(*side)), dot(left(unit(*side)), side[0]))
        for side, bearer in zip(sides, on, strict=True)
        if bearer is not None and distance(*side) > 1.0
    ]
    if not planes:
        return None
    found: list[Share] = []
    for i, (bearer, side, normal, at) in enumerate(planes):
        mine = corners
        for j, (_, _, other, there) in enumerate(planes):
            nearer = sub(other, normal)
            if i != j and math.hypot(*nearer) > STRAIGHT:
                mine = clipped(mine, nearer, there - at)
        if len(mine) > 2:
            found += _slices(shapely.Polygon(mine).difference(gaps), bearer, side)
    return found


def _bearer_at(side: tuple[Point, Point], outline: Outline, ring: Ring, bearers: tuple[Bearer, ...]) -> Bearer | None:
    """Return what carries along an edge of a field."""
    middle = ((side[0][0] + side[1][0]) / 2.0, (side[0][1] + side[1][1]) / 2.0)
    for i, wall in enumerate(outline.walls):
        if wall and to_segment(middle, ring[i], ring[(i + 1) % len(ring)]) < 1.0:
            return next((b for b in bearers if b.wall == wall), None)
    near = []
    for b in bearers:
        a, c = b.middle()
        d = unit(a, c)
        if abs(d[0] * unit(*side)[1] - d[1] * unit(*side)[0]) < ALONG and to_segment(middle, a, c) < ON_EDGE:
            near.append((to_segment(middle, a, c), b.id, b))
    return min(near)[2] if near else None


def _slices(region: shapely.Geometry, bearer: Bearer, side: tuple[Point, Point]) -> list[Share]:
    """Return what of a region comes to each stretch of what carries it."""
    long, d = distance(*side), unit(*side)
    count = max(math.ceil(long / STEP - 1e-9), 1)
    inward, deep = left(d), math.sqrt(2.0) * max(region.length, 1.0)
    a, b = bearer.middle()
    way = unit(a, b)
    found = []
    for k in range(count):
        low, high = add(side[0], d, long * k / count), add(side[0], d, long * (k + 1) / count)
        # What lies beyond the edge's ends goes to its outer stretches.
        if k == 0:
            low = add(low, d, -deep)
        if k == count - 1:
            high = add(high, d, deep)
        box = shapely.Polygon(
            [add(low, inward, -deep), add(high, inward, -deep), add(high, inward, deep), add(low, inward, deep)]
        )
        size = float(region.intersection(box).area)
        if size > 1.0:
            at, _ = off_line(add(side[0], d, long * (k + 0.5) / count), a, b)
            found.append((bearer.id, add(a, way, min(max(at, 0.0), distance(a, b))), size))
    return found
