"""Prisms: a flat profile with holes, extruded square to its plane.

Every solid of a building in Balken is one, which keeps volumes, cuts and views exact: joists,
rafters with bird's mouths (profile seen from the side), gable walls with openings, footings.
"""

import math
from collections.abc import Iterable
from functools import lru_cache

import numpy as np
import shapely
from msgspec.structs import force_setattr
from numpy.typing import NDArray

from balken.geometry.plane import FINE, Point, Ring, anticlockwise, area, chords, distinct, rings_of
from balken.value import Value

Vec = tuple[float, float, float]
Array = NDArray[np.float64]


UP: Vec = (0.0, 0.0, 1.0)


def dot3(a: Vec, b: Vec) -> float:
    """Return the scalar product."""
    return a[0] * b[0] + a[1] * b[1] + a[2] * b[2]


def cross3(a: Vec, b: Vec) -> Vec:
    """Return the vector product."""
    return (a[1] * b[2] - a[2] * b[1], a[2] * b[0] - a[0] * b[2], a[0] * b[1] - a[1] * b[0])


def sub3(a: Vec, b: Vec) -> Vec:
    """Return ``a - b``."""
    return (a[0] - b[0], a[1] - b[1], a[2] - b[2])


def unit3(a: Vec, b: Vec) -> Vec:
    """Return the unit direction from ``a`` to ``b``; raises ValueError when they coincide."""
    d = sub3(b, a)
    length = math.sqrt(dot3(d, d))
    if length == 0.0:
        raise ValueError("no direction between two equal points")
    return (d[0] / length, d[1] / length, d[2] / length)


class Prism(Value, frozen=True):
    """A profile in the plane (origin, u, v), extruded ``depth`` mm along w = u x v.

    ``rings``: the outline anticlockwise, then any holes, in (u, v) mm.
    """

    origin: Vec
    u: Vec
    v: Vec
    rings: tuple[Ring, ...]
    depth: float

    @property
    def w(self) -> Vec:
        """The direction of extrusion."""
        return cross3(self.u, self.v)

    def at(self, a: float, b: float, t: float) -> Vec:
        """Return the point at (a, b) of the profile, ``t`` mm along w."""
        o, u, v, w = self.origin, self.u, self.v, self.w
        return (
            o[0] + a * u[0] + b * v[0] + t * w[0],
            o[1] + a * u[1] + b * v[1] + t * w[1],
            o[2] + a * u[2] + b * v[2] + t * w[2],
        )

    # What a solid is asked (solids.Solid).

    @property
    def volume(self) -> float:
        """Its volume, mm3."""
        return _profile_area(self.rings) * self.depth

    @property
    def extent(self) -> "tuple[Vec, Vec]":
        """Its least and greatest x, y, z."""
        return extent(self)

    @property
    def heights(self) -> tuple[float, float]:
        """The heights of its lowest and highest point."""
        if self.stands_upright and self.w[2] > 0.0:
            return self.origin[2], self.origin[2] + self.depth
        low, high = extent(self)
        return low[2], high[2]

    @property
    def stands_upright(self) -> bool:
        """Whether it is a plan outline between two heights."""
        return is_upright(self)

    @property
    def plan(self) -> tuple[Ring, ...]:
        """Its outline seen from above, with its holes."""
        if self.u == (1.0, 0.0, 0.0) and self.v == (0.0, 1.0, 0.0) and self.origin[:2] == (0.0, 0.0):
            return self.rings
        return silhouette(self, TOP)[0]

    def corners(self) -> list[Vec]:
        """Return the corners of its outline, first at one end, then at the other."""
        return corners(self)

    def faces(self) -> list[tuple[Vec, ...]]:
        """Return its faces as outlines, turning to the left seen from outside; holes are left out."""
        ring, n = self.rings[0], len(self.rings[0])
        near = tuple(self.at(a, b, 0.0) for a, b in ring)
        far = tuple(self.at(a, b, self.depth) for a, b in ring)
        sides = [(near[i], near[(i + 1) % n], far[(i + 1) % n], far[i]) for i in range(n)]
        return [near[::-1], far, *sides]

    def cut(self, view: "View") -> tuple[tuple[Ring, ...], ...]:
        """Return where a picture plane cuts it: polygons (outline, holes) in the picture's x, y."""
        return cut_by(self, view)

    def outline(self, view: "View") -> tuple[Ring, ...]:
        """Return what is seen of it: rings in the picture's x, y."""
        return silhouette(self, view)[0]

    def depths(self, view: "View") -> tuple[float, float]:
        """Return its least and greatest height toward the viewer."""
        return depths(self, view)

    def mesh(self) -> "tuple[Array, Array]":
        """Return triangles (n, 3, 3) and edges (m, 2, 3)."""
        return mesh(self)

    @property
    def sweep(self) -> Vec:
        """The way along which the profile is extruded, by u, v and w: square to it."""
        return (0.0, 0.0, 1.0)

    def swept(self) -> "Prism":
        """Return itself: a profile that is extruded."""
        return self


class View(Value, frozen=True, cache_hash=True):
    """A picture plane: x to the ``right``, y ``up``, looked at against right x up."""

    origin: Vec
    right: Vec
    up: Vec
    toward: Vec = (0.0, 0.0, 0.0)
    """The direction from the plane to the viewer, whatever is given."""

    def __post_init__(self) -> None:
        force_setattr(self, "toward", cross3(self.right, self.up))

    def project(self, point: Vec) -> tuple[float, float, float]:
        """Return (x, y, height toward the viewer) of a point."""
        r = sub3(point, self.origin)
        return dot3(r, self.right), dot3(r, self.up), dot3(r, self.toward)


TOP = View((0.0, 0.0, 0.0), (1.0, 0.0, 0.0), (0.0, 1.0, 0.0))
"""Looking down."""


def box(start: Vec, end: Vec, side: Vec, width: float, height: float) -> Prism:
    """Return a bar from ``start`` to ``end``; the points lie at mid-width on its underside.

    ``side``: unit direction of its width, square to the axis.
    """
    axis = unit3(start, end)
    up = cross3(axis, side)
    half = width / 2.0
    return Prism(
        start,
        side,
        up,
        (((-half, 0.0), (half, 0.0), (half, height), (-half, height)),),
        math.dist(start, end),
    )


def is_upright(prism: Prism) -> bool:
    """Tell whether a prism is a plan outline between two heights."""
    return abs(prism.u[2]) < 1e-9 and abs(prism.v[2]) < 1e-9


def upright(ring: Ring, bottom: float, height: float, holes: tuple[Ring, ...] = ()) -> Prism:
    """Return a plan outline extruded upward from the height ``bottom``."""
    rings = (anticlockwise(ring), *holes)
    return Prism((0.0, 0.0, bottom), (1.0, 0.0, 0.0), (0.0, 1.0, 0.0), rings, height)


@lru_cache(maxsize=8_192)
def _profile_area(rings: tuple[Ring, ...]) -> float:
    return abs(area(rings[0])) - sum(abs(area(hole)) for hole in rings[1:])


def volume(prism: Prism) -> float:
    """Return the volume in mm3."""
    return _profile_area(prism.rings) * prism.depth


def extent_of(points: Iterable[Vec]) -> tuple[Vec, Vec]:
    """Return the least and greatest x, y, z of places."""
    xs, ys, zs = zip(*points, strict=True)
    return (min(xs), min(ys), min(zs)), (max(xs), max(ys), max(zs))


def depths_of(points: Iterable[Vec], view: View) -> tuple[float, float]:
    """Return the least and greatest height of places toward the viewer."""
    off = [view.project(p)[2] for p in points]
    return min(off), max(off)


def corners(prism: Prism) -> list[Vec]:
    """Return the corners of the outline, first at t = 0, then at t = depth; holes left out."""
    ring = prism.rings[0]
    return [prism.at(a, b, t) for t in (0.0, prism.depth) for a, b in ring]


def extent(prism: Prism) -> tuple[Vec, Vec]:
    """Return the least and greatest x, y, z."""
    (ox, oy, oz), (ux, uy, uz), (vx, vy, vz), (wx, wy, wz) = prism.origin, prism.u, prism.v, prism.w
    ring, t = prism.rings[0], prism.depth
    xs = [ox + a * ux + b * vx for a, b in ring]
    ys = [oy + a * uy + b * vy for a, b in ring]
    zs = [oz + a * uz + b * vz for a, b in ring]
    low = (min(xs) + min(t * wx, 0.0), min(ys) + min(t * wy, 0.0), min(zs) + min(t * wz, 0.0))
    return low, (max(xs) + max(t * wx, 0.0), max(ys) + max(t * wy, 0.0), max(zs) + max(t * wz, 0.0))


@lru_cache(maxsize=8_192)
def cut_by(prism: Prism, view: View) -> tuple[tuple[Ring, ...], ...]:
    """Return where the picture plane cuts the prism: polygons (outline, holes) in (x, y).

    Remembered: most solids stay where they are from one edit to the next.
    """
    return tuple(_cut_by(prism, view))


@lru_cache(maxsize=4_096)
def _turned(u: Vec, v: Vec, view: View) -> tuple[Vec, Vec, Vec]:
    """Return how far a mm along u, v and w = u x v leads to the right, up and toward the viewer, each for u, v, w."""
    w = cross3(u, v)
    ways = [(dot3(way, u), dot3(way, v), dot3(way, w)) for way in (view.right, view.up, view.toward)]
    return ways[0], ways[1], ways[2]


def _cut_by(prism: Prism, view: View) -> list[tuple[Ring, ...]]:
    (xu, xv, xw), (yu, yv, yw), (nu, nv, nw) = _turned(prism.u, prism.v, view)
    x0, y0, c0 = view.project(prism.origin)
    # Most solids lie wholly on one side of the plane.
    reach = [nu * a + nv * b for a, b in prism.rings[0]]
    depth = prism.depth
    thick = nw * depth
    if min(reach) + min(thick, 0.0) > -c0 or max(reach) + max(thick, 0.0) < -c0:
        return []

    def seen(a: float, b: float, t: float) -> Point:
        return (x0 + a * xu + b * xv + t * xw, y0 + a * yu + b * yv + t * yw)

    if abs(nw) < 1e-9:
        size = math.hypot(nu, nv)
        foot = (-c0 * nu / size**2, -c0 * nv / size**2)
        run = (-nv / size, nu / size)
        found: list[tuple[Ring, ...]] = []
        for s0, s1 in chords(prism.rings, foot, run):
            a0, b0 = foot[0] + s0 * run[0], foot[1] + s0 * run[1]
            a1, b1 = foot[0] + s1 * run[0], foot[1] + s1 * run[1]
            found.append(((seen(a0, b0, 0.0), seen(a1, b1, 0.0), seen(a1, b1, depth), seen(a0, b0, depth)),))
        return found
    if math.hypot(nu, nv) < 1e-9:
        t = -c0 / nw
        if not 0.0 <= t < depth:
            return []
        return [tuple(tuple(seen(a, b, t) for a, b in ring) for ring in prism.rings)]
    return [
        tuple(tuple(seen(a, b, -(c0 + nu * a + nv * b) / nw) for a, b in ring) for ring in rings)
        for rings in _between(prism, (nu, nv), c0, nw)
    ]


def _between(prism: Prism, n: Point, c0: float, nw: float) -> list[tuple[Ring, ...]]:
    """Return the part of the profile over which an oblique plane stays inside the depth."""
    size = math.hypot(*n)
    d, e = (n[0] / size, n[1] / size), (-n[1] / size, n[0] / size)
    low, high = sorted(((-c0) / size, (-c0 - prism.depth * nw) / size))
    far = 1e6
    band = shapely.Polygon(
        [(d[0] * h + e[0] * s, d[1] * h + e[1] * s) for h, s in ((low, -far), (high, -far), (high, far), (low, far))]
    )
    part = shapely.Polygon(prism.rings[0], prism.rings[1:]).intersection(band)
    return rings_of(part, 1e-6)


def depths(prism: Prism, view: View) -> tuple[float, float]:
    """Return the least and greatest height of a prism toward the viewer, mm from the picture plane."""
    zu, zv, zw = _turned(prism.u, prism.v, view)[2]
    (ox, oy, oz), (px, py, pz), (nx, ny, nz) = prism.origin, view.origin, view.toward
    face = [a * zu + b * zv for a, b in prism.rings[0]]
    foot, thick = nx * (ox - px) + ny * (oy - py) + nz * (oz - pz), prism.depth * zw
    return foot + min(face) + min(thick, 0.0), foot + max(face) + max(thick, 0.0)


@lru_cache(maxsize=8_192)
def silhouette(prism: Prism, view: View) -> tuple[tuple[Ring, ...], float, float]:
    """Return the outline seen (rings in x, y) and the least and greatest height toward the viewer.

    Exact when looking along or square to the extrusion of a convex profile; otherwise the hull.  Remembered.
    """
    (xu, xv, xw), (yu, yv, yw), (zu, zv, zw) = _turned(prism.u, prism.v, view)
    x0, y0, z0 = view.project(prism.origin)
    ring, depth = prism.rings[0], prism.depth
    near = [z0 + a * zu + b * zv for a, b in ring]
    low, high = min(near) + min(depth * zw, 0.0), max(near) + max(depth * zw, 0.0)
    if abs(zw) > 1.0 - 1e-9:
        rings = (tuple((x0 + a * xu + b * xv, y0 + a * yu + b * yv) for a, b in r) for r in prism.rings)
        return tuple(rings), low, high
    dx, dy = depth * xw, depth * yw
    if abs(yw) > 1.0 - 1e-12:  # an upright one seen from the side: a rectangle as wide as its outline
        across = [x0 + a * xu + b * xv for a, b in ring]
        left, right = min(across), max(across)
        bottom, top = (y0, y0 + dy) if dy > 0.0 else (y0 + dy, y0)
        return (((left, bottom), (right, bottom), (right, top), (left, top)),), low, high
    if abs(zv) > 1.0 - 1e-12:  # the profile is seen edge-on: a rectangle between its ends
        along = [a for a, _ in ring]
        ends = [(x0 + a * xu, y0 + a * yu) for a in (min(along), max(along))]
        (ax, ay), (bx, by) = ends
        seen = ((ax, ay), (bx, by), (bx + dx, by + dy), (ax + dx, ay + dy))
        return (anticlockwise(seen),), low, high
    face = [(x0 + a * xu + b * xv, y0 + a * yu + b * yv) for a, b in ring]
    return (hull([*face, *((x + dx, y + dy) for x, y in face)]),), low, high


def hull(points: list[Point]) -> Ring:
    """Return the convex hull, anticlockwise (monotone chain)."""
    ordered = sorted({(round(x * FINE) / FINE, round(y * FINE) / FINE) for x, y in points})
    if len(ordered) < 3:
        return tuple(ordered)

    def half(run: list[Point]) -> list[Point]:
        chain: list[Point] = []
        for p in run:
            while (
                len(chain) > 1
                and (
                    (chain[-1][0] - chain[-2][0]) * (p[1] - chain[-2][1])
                    - (chain[-1][1] - chain[-2][1]) * (p[0] - chain[-2][0])
                )
                <= 1e-9
            ):
                chain.pop()
            chain.append(p)
        return chain[:-1]

    return tuple(half(ordered) + half(ordered[::-1]))


@lru_cache(maxsize=20_000)
def _caps(rings: tuple[Ring, ...]) -> tuple[Ring, ...]:
    """Return the profile as triangles."""
    if len(rings) == 1 and len(rings[0]) == 4:
        a, b, c, d = anticlockwise(rings[0])
        return ((a, b, c), (a, c, d))
    outer, *holes = (distinct(ring) for ring in rings)  # hairs cannot be cut into triangles
    cut = shapely.constrained_delaunay_triangles(shapely.Polygon(outer, holes))
    return tuple(anticlockwise(tuple(t.exterior.coords[:3])) for t in cut.geoms)


def mesh(prism: Prism) -> tuple[Array, Array]:
    """Return triangles (n, 3, 3) and edge segments (m, 2, 3) in mm."""
    triangles: list[tuple[Vec, Vec, Vec]] = []
    edges: list[tuple[Vec, Vec]] = []
    (ox, oy, oz), (ux, uy, uz), (vx, vy, vz), (wx, wy, wz) = prism.origin, prism.u, prism.v, prism.w
    depth = prism.depth

    def near(p: Point) -> Vec:
        a, b = p
        return (ox + a * ux + b * vx, oy + a * uy + b * vy, oz + a * uz + b * vz)

    def far(p: Vec) -> Vec:
        return (p[0] + depth * wx, p[1] + depth * wy, p[2] + depth * wz)

    for a, b, c in _caps(prism.rings):
        a0, b0, c0 = near(a), near(b), near(c)
        triangles.append((c0, b0, a0))
        triangles.append((far(a0), far(b0), far(c0)))
    for i, ring in enumerate(prism.rings):
        outward = (area(ring) > 0.0) == (i == 0)
        starts = [near(p) for p in ring]
        ends = [far(p) for p in starts]
        for j in range(len(ring)):
            k = (j + 1) % len(ring)
            first, last = (j, k) if outward else (k, j)
            p0, q0, p1, q1 = starts[first], starts[last], ends[first], ends[last]
            triangles += [(p0, q0, q1), (p0, q1, p1)]
            edges += [(p0, q0), (p1, q1), (p0, p1)]
    return np.asarray(triangles, dtype=float), np.asarray(edges, dtype=float)
