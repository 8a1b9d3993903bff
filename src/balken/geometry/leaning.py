"""Leaning solids: a convex plan outline between two planes alike in slope, as far apart as the solid is tall, plumb.

Rafters that end at hips and valleys are such: their sides and cheek cuts stand plumb, their edges lie in the roof's slope.
"""

import math
from functools import lru_cache
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from balken.geometry.plane import Point, Ring, area
from balken.geometry.prism import Vec, View, cross3, depths_of, dot3, hull
from balken.value import Value

Array = NDArray[np.float64]
LEVEL = 1e-9


class Swept(NamedTuple):
    """A leaning solid as files describe it: its underside, extruded plumb, that is aslant to it."""

    origin: Vec
    u: Vec
    w: Vec
    rings: tuple[Ring, ...]
    depth: float
    sweep: Vec


class Leaning(Value, frozen=True):
    """A convex outline in plan, anticlockwise; ``base``: a place in the plane of its underside, ``slope``: how that rises along x
    and y, ``tall``: from there to its top, plumb, mm.
    """

    ring: Ring
    base: Vec
    slope: Point
    tall: float

    def low(self, p: Point) -> float:
        """Return the height of its underside at a place."""
        return self.base[2] + self.slope[0] * (p[0] - self.base[0]) + self.slope[1] * (p[1] - self.base[1])

    @property
    def volume(self) -> float:
        """Its volume, mm3."""
        return abs(area(self.ring)) * self.tall

    @property
    def extent(self) -> tuple[Vec, Vec]:
        """Its least and greatest x, y, z."""
        xs, ys = [x for x, _ in self.ring], [y for _, y in self.ring]
        zs = [self.low(p) for p in self.ring]
        return (min(xs), min(ys), min(zs)), (max(xs), max(ys), max(zs) + self.tall)

    @property
    def heights(self) -> tuple[float, float]:
        """The heights of its lowest and highest point."""
        zs = [self.low(p) for p in self.ring]
        return min(zs), max(zs) + self.tall

    @property
    def lying(self) -> Ring:
        """Its top edge laid flat: (true length up the slope from its lowest corner, aside to the left), mm."""
        sx, sy = self.slope
        flat = math.hypot(sx, sy)
        ux, uy = (sx / flat, sy / flat) if flat > LEVEL else (1.0, 0.0)
        steep = math.hypot(1.0, flat)
        rows = [((x * ux + y * uy) * steep, y * ux - x * uy) for x, y in self.ring]
        low = min(s for s, _ in rows)
        middle = (min(t for _, t in rows) + max(t for _, t in rows)) / 2.0
        return tuple((s - low, t - middle) for s, t in rows)

    @property
    def hands(self) -> tuple[Ring, Ring]:
        """Its outline laid flat, to whole mm, and the same seen in a mirror, each beginning alike: which is which tells its hand."""
        rows = self.lying
        ways = [[(round(s), round(t * sign)) for s, t in rows] for sign in (1.0, -1.0)]
        # A point may come of two corners or of one, as sums of floats have it.
        return tuple(sorted({*ways[0]})), tuple(sorted({*ways[1]}))

    def cheeks(self) -> tuple[tuple[float, ...], tuple[float, ...]]:
        """Return by how much the faces of its foot and of its head turn from square in plan, degrees; none where it is cut square."""
        steep = math.hypot(1.0, *self.slope)
        rows = [(s / steep, t) for s, t in self.lying]
        middle = max(s for s, _ in rows) / 2.0
        found: tuple[list[float], list[float]] = ([], [])
        for k, (s, t) in enumerate(rows):
            before = rows[k - 1]
            ds, dt = abs(s - before[0]), abs(t - before[1])
            if dt < 0.5:
                continue  # one of its long sides
            bevel = math.degrees(math.atan2(ds, dt))
            if bevel > 0.5:
                found[(s + before[0]) / 2.0 > middle].append(bevel)
        return tuple(found[0]), tuple(found[1])

    @property
    def stands_upright(self) -> bool:
        """Whether it is a plan outline between two heights: it never is."""
        return False

    @property
    def plan(self) -> tuple[Ring, ...]:
        """Its outline seen from above."""
        return (self.ring,)

    def corners(self) -> list[Vec]:
        """Return its corners, those below first."""
        under = [(x, y, self.low((x, y))) for x, y in self.ring]
        return [*under, *((x, y, z + self.tall) for x, y, z in under)]

    def faces(self) -> list[tuple[Vec, ...]]:
        """Return its faces as outlines, turning to the left seen from outside."""
        every, n = self.corners(), len(self.ring)
        near, far = every[:n], every[n:]
        sides = [(near[i], near[(i + 1) % n], far[(i + 1) % n], far[i]) for i in range(n)]
        return [tuple(near[::-1]), tuple(far), *sides]

    def cut(self, view: View) -> tuple[tuple[Ring, ...], ...]:
        """Return where a picture plane cuts it: no polygon or one."""
        return _cut(self, view)

    def outline(self, view: View) -> tuple[Ring, ...]:
        """Return what is seen of it."""
        return (hull([view.project(p)[:2] for p in self.corners()]),)

    def depths(self, view: View) -> tuple[float, float]:
        """Return its least and greatest height toward the viewer."""
        return depths_of(self.corners(), view)

    def mesh(self) -> tuple[Array, Array]:
        """Return triangles (n, 3, 3) and edges (m, 2, 3)."""
        triangles = [(f[0], f[i], f[i + 1]) for f in self.faces() for i in range(1, len(f) - 1)]
        return np.array(triangles), np.array(_edges(self))

    def swept(self) -> Swept:
        """Return its underside extruded plumb."""
        sx, sy = self.slope
        steep = math.sqrt(1.0 + sx**2 + sy**2)
        normal = (-sx / steep, -sy / steep, 1.0 / steep)
        flat = math.hypot(sx, sy)
        across = (-sy / flat, sx / flat, 0.0) if flat > LEVEL else (1.0, 0.0, 0.0)
        v = cross3(normal, across)
        flatly = [(x - self.base[0], y - self.base[1], self.low((x, y)) - self.base[2]) for x, y in self.ring]
        ring = tuple((dot3(p, across), dot3(p, v)) for p in flatly)
        up = (0.0, 0.0, 1.0)
        return Swept(self.base, across, normal, (ring,), self.tall, (dot3(up, across), dot3(up, v), dot3(up, normal)))


def _edges(solid: Leaning) -> list[tuple[Vec, Vec]]:
    every, n = solid.corners(), len(solid.ring)
    near, far = every[:n], every[n:]
    around = [(row[i], row[(i + 1) % n]) for row in (near, far) for i in range(n)]
    return [*around, *zip(near, far, strict=True)]


@lru_cache(maxsize=4_096)
def _cut(solid: Leaning, view: View) -> tuple[tuple[Ring, ...], ...]:
    points: list[Point] = []
    for p, q in _edges(solid):
        (px, py, a), (qx, qy, b) = view.project(p), view.project(q)
        if (a >= 0.0) != (b >= 0.0):
            t = a / (a - b)
            points.append((px + (qx - px) * t, py + (qy - py) * t))
    ring = hull(points) if len(points) > 2 else ()
    return ((ring,),) if len(ring) > 2 and abs(area(ring)) > 1e-6 else ()
