"""Convex solids cut off by a plane: jacks whose feet lie on a roof below, ridges that run out on one."""

import itertools
import math
from functools import lru_cache

import numpy as np
from numpy.typing import NDArray

from balken.geometry.leaning import Leaning
from balken.geometry.plane import Ring, area
from balken.geometry.prism import TOP, Prism, Vec, View, cross3, depths_of, dot3, extent_of, hull, sub3
from balken.geometry.solids import Swept
from balken.value import Value

Array = NDArray[np.float64]
SAME = 1e-6
"""Corners nearer than this are one, mm."""


class Trimmed(Value, frozen=True):
    """A convex solid, of which what lies beyond a plane stays: normal . p >= least, ``normal`` of length 1, mm."""

    whole: "Leaning | Prism | Trimmed"
    normal: Vec
    least: float

    @property
    def volume(self) -> float:
        """Its volume, mm3, by its faces (divergence theorem)."""
        found = 0.0
        for first, *rest in _faces(self):
            for b, c in itertools.pairwise(rest):
                found += dot3(first, cross3(b, c))
        return found / 6.0

    @property
    def extent(self) -> tuple[Vec, Vec]:
        """Its least and greatest x, y, z."""
        return extent_of(self.corners())

    @property
    def heights(self) -> tuple[float, float]:
        """The heights of its lowest and highest point."""
        low, high = self.extent
        return low[2], high[2]

    @property
    def stands_upright(self) -> bool:
        """Whether it is a plan outline between two heights: it never is."""
        return False

    @property
    def plan(self) -> tuple[Ring, ...]:
        """Its outline seen from above."""
        return self.outline(TOP)

    @property
    def there(self) -> bool:
        """Whether anything is left of it."""
        return len(_faces(self)) > 3

    def corners(self) -> list[Vec]:
        """Return its corners."""
        return list(dict.fromkeys(p for face in _faces(self) for p in face))

    def faces(self) -> list[tuple[Vec, ...]]:
        """Return its faces as outlines, turning to the left seen from outside."""
        return list(_faces(self))

    def cut(self, view: View) -> tuple[tuple[Ring, ...], ...]:
        """Return where a picture plane cuts it: no polygon or one."""
        points = []
        for p, q in _edges(self):
            (px, py, a), (qx, qy, b) = view.project(p), view.project(q)
            if (a >= 0.0) != (b >= 0.0):
                t = a / (a - b)
                points.append((px + (qx - px) * t, py + (qy - py) * t))
        ring = hull(points) if len(points) > 2 else ()
        return ((ring,),) if len(ring) > 2 and abs(area(ring)) > SAME else ()

    def outline(self, view: View) -> tuple[Ring, ...]:
        """Return what is seen of it."""
        return (hull([view.project(p)[:2] for p in self.corners()]),)

    def depths(self, view: View) -> tuple[float, float]:
        """Return its least and greatest height toward the viewer."""
        return depths_of(self.corners(), view)

    def mesh(self) -> tuple[Array, Array]:
        """Return triangles (n, 3, 3) and edges (m, 2, 3)."""
        triangles = [(f[0], f[i], f[i + 1]) for f in _faces(self) for i in range(1, len(f) - 1)]
        return np.array(triangles), np.array(_edges(self))

    def swept(self) -> Swept:
        """Return it before it is cut off, as a profile that is extruded."""
        return self.whole.swept()


def trimmed(solid: Leaning | Prism | Trimmed, normal: Vec, least: float) -> Leaning | Prism | Trimmed | None:
    """Return what of a convex solid lies beyond a plane (normal . p >= least): itself where all does, None where nothing does."""
    off = [dot3(normal, p) - least for p in solid.corners()]
    if min(off) >= -SAME:
        return solid
    if max(off) <= SAME:
        return None
    size = math.sqrt(dot3(normal, normal))
    made = Trimmed(solid, (normal[0] / size, normal[1] / size, normal[2] / size), least / size)
    return made if made.there else None


def leaning_of(solid: object) -> Leaning | None:
    """Return the leaning solid that one is, or was before it was cut off or seated."""
    solid = getattr(solid, "whole", solid)
    return solid if isinstance(solid, Leaning) else None


@lru_cache(maxsize=8_192)
def _faces(solid: Trimmed) -> tuple[tuple[Vec, ...], ...]:
    """Return the faces of the whole as far as they stay, and the one along the plane."""
    found: list[tuple[Vec, ...]] = []
    on: list[Vec] = []
    for face in solid.whole.faces():
        kept: list[Vec] = []
        for p, q in zip(face, (*face[1:], face[0]), strict=True):
            a, b = (dot3(solid.normal, x) - solid.least for x in (p, q))
            if a >= 0.0:
                kept.append(p)
            if (a > 0.0 > b) or (a < 0.0 < b):
                t = a / (a - b)
                met = (p[0] + (q[0] - p[0]) * t, p[1] + (q[1] - p[1]) * t, p[2] + (q[2] - p[2]) * t)
                met = next((x for x in on if math.dist(x, met) < SAME), met)
                kept.append(met)
                on.append(met)
            elif a == 0.0:
                on.append(p)
        ring = [p for k, p in enumerate(kept) if math.dist(p, kept[k - 1]) > SAME]
        if len(ring) > 2:
            found.append(tuple(ring))
    cap = _around(list(dict.fromkeys(on)), solid.normal)
    return (*found, cap) if len(cap) > 2 else tuple(found)


def _around(points: list[Vec], normal: Vec) -> tuple[Vec, ...]:
    """Return places in a plane in order round their middle, turning to the left seen against ``normal``, from outside."""
    if len(points) < 3:
        return ()
    middle = tuple(sum(p[k] for p in points) / len(points) for k in range(3))
    u = sub3(points[0], (middle[0], middle[1], middle[2]))
    v = cross3(u, normal)

    def angle(p: Vec) -> float:
        off = sub3(p, (middle[0], middle[1], middle[2]))
        return math.atan2(dot3(off, v) * math.sqrt(dot3(u, u) / max(dot3(v, v), 1e-30)), dot3(off, u))

    return tuple(sorted(points, key=angle))


def _edges(solid: Trimmed) -> list[tuple[Vec, Vec]]:
    found: dict[tuple[Vec, Vec], tuple[Vec, Vec]] = {}
    for face in _faces(solid):
        for p, q in zip(face, (*face[1:], face[0]), strict=True):
            found.setdefault((min(p, q), max(p, q)), (p, q))
    return list(found.values())
