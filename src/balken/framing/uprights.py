"""Concrete in the ground as upright solids, cut where they meet so that nothing is counted twice.

Each solid is a plan outline between two heights.  They are taken in a set order of precedence; each later
one loses what an earlier one already fills.
"""

import itertools
from collections.abc import Iterable
from functools import lru_cache

import shapely

from balken.geometry.plane import FINE, Point, Ring, add, bounds, distance, dot, left, to_segment, unit
from balken.geometry.prism import Prism, Vec, upright
from balken.value import Value

SLIVER = 200.0
"""Rests of less plan area than this (mm2) are dropped: they come from rounding."""
CLOSE = 0.3
NO_WIDTH = 1e-3
"""Corners no farther than this off the line of those beside them are none, mm."""


class Upright(Value, frozen=True):
    """A plan outline with holes between two heights, mm."""

    outline: Ring
    bottom: float
    top: float
    holes: tuple[Ring, ...] = ()

    @property
    def polygon(self) -> shapely.Polygon:
        """The outline as a shapely polygon."""
        return shapely.Polygon(self.outline, self.holes)

    @property
    def box(self) -> tuple[float, float, float, float]:
        """Least x and y, greatest x and y."""
        return _bounds(self.outline)

    @property
    def middle(self) -> tuple[Vec, Vec]:
        """The ends of the middle line of its underside, along it where it is longest: as its longest side runs, or square to that."""
        (x0, y0), (x1, y1) = _middle(self.outline)
        return (x0, y0, self.bottom), (x1, y1, self.bottom)

    @property
    def long(self) -> float:
        """How long it is in plan, mm."""
        return distance(*_middle(self.outline))

    @property
    def prism(self) -> Prism:
        """The solid."""
        return upright(self.outline, self.bottom, self.top - self.bottom, self.holes)

    def moved(self, x: float, y: float) -> "Upright":
        """Return it moved in plan; to a millionth of a mm, so that what moves together stays equal to itself."""
        rings = [
            tuple([(round((px + x) * FINE) / FINE, round((py + y) * FINE) / FINE) for px, py in r])
            for r in (self.outline, *self.holes)
        ]
        return Upright(rings[0], self.bottom, self.top, tuple(rings[1:]))


@lru_cache(maxsize=4_096)
def _middle(outline: Ring) -> tuple[Point, Point]:
    sides = zip(outline, (*outline[1:], outline[0]), strict=True)
    way = unit(*max(sides, key=lambda side: round(distance(*side), 3)))
    aside = left(way)
    (s0, s1), (t0, t1) = ((min(row), max(row)) for row in ([dot(d, p) for p in outline] for d in (way, aside)))
    if s1 - s0 < t1 - t0:
        way, aside, (s0, s1), (t0, t1) = aside, (-way[0], -way[1]), (t0, t1), (-s1, -s0)
    t = (t0 + t1) / 2.0
    return add((way[0] * s0, way[1] * s0), aside, t), add((way[0] * s1, way[1] * s1), aside, t)


_bounds = lru_cache(maxsize=4_096)(bounds)
"""Asked for again and again for the same outlines."""
Extent = tuple[float, float, float, float, float, float]
"""Least x, y, z and greatest x, y, z."""


def extent(solid: Upright) -> Extent:
    """Return the box round a solid."""
    x0, y0, x1, y1 = solid.box
    return x0, y0, solid.bottom, x1, y1, solid.top


def meet(p: Extent, q: Extent) -> bool:
    """Tell whether two solids may overlap, by their boxes."""
    return (
        p[3] - q[0] > CLOSE
        and q[3] - p[0] > CLOSE
        and p[4] - q[1] > CLOSE
        and q[4] - p[1] > CLOSE
        and p[5] - q[2] > CLOSE
        and q[5] - p[2] > CLOSE
    )


def without(solid: Upright, cutters: Iterable[Upright]) -> tuple[Upright, ...]:
    """Return what is left of a solid when others are taken out; layer by layer, equal layers joined."""
    box = extent(solid)
    near = tuple(c for c in cutters if meet(box, extent(c)))
    return _left(solid, near) if near else (solid,)


def _left(solid: Upright, near: tuple[Upright, ...]) -> tuple[Upright, ...]:
    """Return what those near a solid leave of it."""
    x, y = solid.outline[0]
    here = solid.moved(-x, -y)
    parts = _left_at_origin(here, tuple([other.moved(-x, -y) for other in near]))
    return (solid,) if parts == (here,) else tuple([part.moved(x, y) for part in parts])


@lru_cache(maxsize=4096)
def _left_at_origin(solid: Upright, near: tuple[Upright, ...]) -> tuple[Upright, ...]:
    """Return what is left of a solid whose first corner is the origin; kept, as most stay or move with what is near."""
    whole = solid.polygon
    shapes = {}
    for c in near:
        shape = c.polygon
        if whole.intersection(shape).area > SLIVER:
            shapes[c] = shape
    if not shapes:
        return (solid,)
    heights = sorted({solid.bottom, solid.top, *(z for c in shapes for z in (c.bottom, c.top))})
    heights = [z for z in heights if solid.bottom <= z <= solid.top]
    layers: list[tuple[shapely.Geometry, float, float]] = []
    for low, high in itertools.pairwise(heights):
        if high - low <= CLOSE:
            continue
        middle = (low + high) / 2.0
        here = [shape for c, shape in shapes.items() if c.bottom < middle < c.top]
        left = whole.difference(shapely.union_all(here)) if here else whole
        if layers and abs(layers[-1][2] - low) < 1e-6 and layers[-1][0].equals(left):
            layers[-1] = (left, layers[-1][1], high)
        else:
            layers.append((left, low, high))
    return tuple(part for shape, low, high in layers for part in _parts(shape, low, high))


def _parts(shape: shapely.Geometry, low: float, high: float) -> Iterable[Upright]:
    for part in getattr(shape, "geoms", [shape]):
        if not isinstance(part, shapely.Polygon) or part.area <= SLIVER or part.buffer(-CLOSE).is_empty:
            continue
        holes = tuple(ring for hole in part.interiors if len(ring := _ring(hole)) > 2)
        yield Upright(_ring(part.exterior), low, high, tuple(hole[::-1] for hole in holes))


def _ring(line: shapely.LinearRing) -> Ring:
    points = without_needless([(float(x), float(y)) for x, y in line.coords[:-1]])
    return tuple(points if line.is_ccw else points[::-1])


def without_needless(points: list[Point]) -> list[Point]:
    """Return a ring without corners in line with those beside them: what is cut along its own side leaves spikes of no width."""
    found, k = list(points), 0
    while len(found) > 2 and k < len(found):
        if to_segment(found[k], found[k - 1], found[(k + 1) % len(found)]) < NO_WIDTH or _turns_back(found, k):
            del found[k]
            k = max(k - 2, 0)
        else:
            k += 1
    return found


def _turns_back(points: list[Point], k: int) -> bool:
    """Whether a ring comes back at a corner the way that it went there."""
    a, b, c = points[k - 1], points[k], points[(k + 1) % len(points)]
    return min(to_segment(a, b, c), to_segment(c, a, b)) < NO_WIDTH


def counted_once(
    solids: Iterable[tuple[str, Upright]], before: Iterable[Upright] = ()
) -> dict[str, tuple[Upright, ...]]:
    """Cut named solids, earlier ones winning; ``before`` wins over all of them."""
    filled = [(*extent(solid), solid) for solid in before]
    left: dict[str, tuple[Upright, ...]] = {}
    for key, solid in solids:
        box = extent(solid)
        x0, y0, z0, x1, y1, z1 = (*(v + CLOSE for v in box[:3]), *(v - CLOSE for v in box[3:]))
        near = tuple(
            [
                other
                for a0, b0, c0, a1, b1, c1, other in filled
                if a0 < x1 and a1 > x0 and b0 < y1 and b1 > y0 and c0 < z1 and c1 > z0
            ]
        )
        parts = _left(solid, near) if near else (solid,)
        left[key] = (*left.get(key, ()), *parts)
        filled += [(*extent(part), part) for part in parts]
    return left
