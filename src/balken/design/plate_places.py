"""Where plates may lie at a joint of a truss: within its outline, over every stick by the least bite; all that follows from its shape alone.

Everything is seen from the joint, to a ten-thousandth of a mm and no farther than plates reach, so that joints alike, in one truss or in
several, under these loads or others, are looked at once.
"""

import itertools
import math
from functools import lru_cache
from typing import NamedTuple

import numpy as np
import shapely
from numpy.typing import NDArray

from balken.catalog.gussets import gusset_sizes
from balken.catalog.truss_plates import PlateSize, sizes
from balken.framing.truss_outline import height_on
from balken.geometry.plane import Point, Ring, clipped, dot, unit
from balken.geometry.under_boxes import Boxes, areas_under, spans_under
from balken.standards.truss_demands import Joined

Array = NDArray[np.float64]
REACH = 1000.0
"""No plate reaches so far from its joint, mm."""
DIGITS = 4
TOGETHER = 8
"""Places of so many sizes are looked at in one go."""
INSETS = (6.0, 20.0, 45.0)
"""How far from a chord's outer face plates are tried, mm."""
PAST = (0.5, 0.3)
"""Or so that this part of a plate lies on the chord."""
SHIFTS = (0.0, -30.0, 30.0, -60.0, 60.0)
"""How far along the chord from the joint, mm."""
DOWN = tuple(20.0 - 10.0 * k for k in range(12))
"""How far over and under the chords' meeting at a peak level plates are tried, mm."""
SLANTED = 0.02
"""Sine of the least slope of what is no longer level."""
TOUCH = 3.0
"""Sticks no farther apart touch, mm."""
EVEN = 0.1
"""Plates may reach so far past what they stay within, mm."""
NOTCH = 25.0
"""Ends of webs no farther from what they end at are joined to that, mm."""
NOTHING: Ring = ((0.0, 0.0),) * 3


class Shape(NamedTuple):
    """A stick near a joint: its role, its axis, its outline as far as plates reach."""

    role: str
    axis: Point
    ring: Ring


class Covered(NamedTuple):
    """What of a stick is held: what counts under a plate, its outline without notches, the lines along which it parts from the others."""

    counts: Ring
    body: Ring
    parts: tuple[tuple[Point, Point], ...]


class Around(NamedTuple):
    """A joint as plates see it: its sticks, webs first; how deep chords are, by role; the truss's top edge and underside near it, how low
    plates may reach beyond that; about where they lie; whether chords are spliced there; what of ends and edges counts for nothing, the least bite, mm;
    the contact that every stick needs at least, mm2.
    """

    sticks: tuple[Shape, ...]
    deep: tuple[tuple[str, float], ...]
    top: Ring
    bottom: Ring
    low: float
    middle: Point
    spliced: bool
    distances: tuple[float, float]
    bite: float
    least: float
    joined: Joined = "plates"

    @property
    def chords(self) -> list[Shape]:
        """Its sticks that are chords."""
        return [one for one in self.sticks if one.role != "web"]


class Places(NamedTuple):
    """Places of plates of one size: rectangles that may lie there, and how much of each stick they cover (n, sticks), mm2."""

    boxes: Boxes
    areas: Array


def sizes_of(joined: Joined) -> tuple[PlateSize, ...]:
    """Return the sizes to choose from, the smallest first."""
    return gusset_sizes() if joined == "gussets" else sizes()


def tidy(p: Point) -> Point:
    """Return a place to a ten-thousandth of a mm."""
    return round(p[0], DIGITS) + 0.0, round(p[1], DIGITS) + 0.0


def near(ring: Ring, at: Point) -> Ring:
    """Return what of an outline lies no farther from a joint than plates reach, seen from that."""
    if all(abs(x - at[0]) < REACH and abs(y - at[1]) < REACH for x, y in ring):
        return tuple(tidy((x - at[0], y - at[1])) for x, y in ring)
    seen: Ring = tuple((x - at[0], y - at[1]) for x, y in ring)
    # Chords run from left to right and webs bulge everywhere, so that what is left is in one piece.
    for normal in ((1.0, 0.0), (-1.0, 0.0), (0.0, 1.0), (0.0, -1.0)):
        seen = clipped(seen, normal, -REACH)
    return tuple(tidy(p) for p in seen) if len(seen) > 2 else ()


def line_near(line: Ring, at: Point) -> Ring:
    """Return a polyline from left to right as far as plates reach, seen from a joint."""
    low, high = at[0] - REACH, at[0] + REACH
    inner = [(x, y) for x, y in line if low < x < high]
    first, last = ([(x, height_on(line, x))] if line[0][0] <= x <= line[-1][0] else [] for x in (low, high))
    return tuple(tidy((x - at[0], y - at[1])) for x, y in (*first, *inner, *last))


@lru_cache(maxsize=8_000)
def covered(around: Around) -> tuple[Covered, ...]:
    """Return what is held of each stick of a joint."""
    bodies = [shapely.Polygon(one.ring) if len(one.ring) > 2 else shapely.Polygon() for one in around.sticks]
    found = []
    for k, one in enumerate(around.sticks):
        others = shapely.union_all([body for i, body in enumerate(bodies) if i != k])
        parts = _ends(bodies[k], others) if one.role == "web" else _touching(bodies[k], others)
        whole = _ring(bodies[k].convex_hull)
        found.append(Covered(_shrunk(whole, one.axis, *around.distances), whole, tuple(parts)))
    return tuple(found)


def places(around: Around, number: int) -> Places:
    """Return where plates of one size of the list may lie at a joint, but for how far they reach over its sticks (``reaching``)."""
    return _some(around, number // TOGETHER)[number % TOGETHER]


@lru_cache(maxsize=8_000)
def _some(around: Around, which: int) -> list[Places]:
    """Return the places of so many sizes together."""
    sizes = sizes_of(around.joined)[which * TOGETHER : (which + 1) * TOGETHER]
    table = _tried(around, np.array([(size.length / 2.0, size.width / 2.0) for size in sizes]))
    of = np.repeat(np.arange(len(sizes)), table.shape[1])
    table = table.reshape(-1, 6)
    boxes = Boxes(table[:, 0:2], table[:, 2:4], table[:, 4:6])
    # Gussets are cut to the truss's outline where they would reach past it.
    ok = np.ones(len(table), dtype=bool) if around.joined == "gussets" else inside(around, boxes)
    left, of = boxes[ok], of[ok]
    columns: list[Array] = []
    for one in covered(around):
        area = areas_under(one.counts, left)
        ok = area >= around.least - 1e-6
        left, of, columns = left[ok], of[ok], [*(column[ok] for column in columns), area[ok]]
    areas = np.stack(columns, axis=1)
    return [Places(left[of == k], areas[of == k]) for k in range(len(sizes))]


def reaching(around: Around, boxes: Boxes) -> NDArray[np.intp]:
    """Return the numbers of those plates that reach over every stick by the least bite."""
    left = np.arange(len(boxes.middles))
    for one, stick in zip(covered(around), around.sticks, strict=True):
        left = left[spans_under(one.body, boxes[left], stick.axis).min(axis=1) >= around.bite - 0.5]
    return left


def _shrunk(ring: Ring, axis: Point, end: float, edge: float) -> Ring:
    """Return what of an outline that bulges everywhere lies ``end`` within it along an axis and ``edge`` across it (net area method)."""
    found = ring
    for a, b in zip(ring, (*ring[1:], ring[0]), strict=True):
        if math.dist(a, b) < 1e-6:
            continue
        way = unit(a, b)
        inward = (-way[1], way[0])
        by = abs(dot(inward, axis)) * end + abs(dot(way, axis)) * edge
        found = clipped(found, inward, dot(inward, a) + by)
    return found if len(found) > 2 else NOTHING


def _ring(shape: shapely.Geometry) -> Ring:
    if shape.is_empty or shape.geom_type != "Polygon":
        return NOTHING
    return tuple((float(x), float(y)) for x, y in shapely.orient_polygons(shape).exterior.coords[:-1])


def _ends(body: shapely.Polygon, others: shapely.Geometry) -> list[tuple[Point, Point]]:
    """Return the edges of a web that end at others; in the notch of two bottom chords it leaves some air."""
    edges = [((a[0], a[1]), (b[0], b[1])) for a, b in itertools.pairwise(body.exterior.coords)]
    by = [max(others.distance(shapely.Point(p)) for p in edge) < NOTCH for edge in edges]
    return [edge for edge, ok in zip(edges, by, strict=True) if ok and math.dist(*edge) > 1.0]


def _touching(body: shapely.Polygon, others: shapely.Geometry) -> list[tuple[Point, Point]]:
    """Return the stretches of an outline along which others lie."""
    lines = body.exterior.intersection(others.buffer(TOUCH))
    return [
        ((a[0], a[1]), (b[0], b[1]))
        for line in getattr(lines, "geoms", [lines])
        if line.geom_type == "LineString"
        for a, b in itertools.pairwise(line.coords)
        if math.dist(a, b) > 2.5 * TOUCH
    ]


def _tried(around: Around, halves: Array) -> Array:
    """Return where plates of some sizes are tried (sizes, places, 6: their middles, halves, ways): along and across each chord at a joint, from
    its outer face inward; level under a peak too.  ``halves``: of each size half its length and width (sizes, 2), mm.
    """
    (x0, y0), deep_of = around.middle, dict(around.deep)
    rows: list[Array] = []

    def put(middles: Array, way: Point) -> None:
        """Put in places (sizes or 1, places, 2)."""
        made = np.empty((len(halves), middles.shape[1], 6))
        made[:, :, :2], made[:, :, 2:4], made[:, :, 4:] = middles, halves[:, None], way
        rows.append(made)

    for one in around.chords:
        inward = (-one.axis[1], one.axis[0]) if one.role == "bottom chord" else (one.axis[1], -one.axis[0])
        deep = deep_of[one.role] / 2.0
        off = -dot(inward, around.middle)  # the chord's middle line beside that place
        shifts = np.array((0.0,) if around.spliced else SHIFTS)
        for way, side in ((one.axis, 1), ((-one.axis[1], one.axis[0]), 0)):
            across = 2.0 * halves[:, side, None]
            first = np.tile(np.array(INSETS[:1] if around.spliced else INSETS), (len(halves), 1))
            insets = (
                [deep - across / 2.0, first] if around.spliced else [first, *(2.0 * deep - p * across for p in PAST)]
            )
            far = off + np.concatenate(insets, axis=1) + across / 2.0 - deep
            x = x0 + inward[0] * far[:, :, None] + one.axis[0] * shifts
            y = y0 + inward[1] * far[:, :, None] + one.axis[1] * shifts
            put(np.stack([x, y], axis=-1).reshape(len(halves), -1, 2), way)
    chords = around.chords
    if len(chords) == 2 and chords[0].role == chords[1].role and not around.spliced:
        top, down = np.array(around.top), np.array(DOWN)
        for way, k in (((1.0, 0.0), 0), ((0.0, 1.0), 1)):
            wide, tall = halves[:, k], halves[:, 1 - k]
            # Under deep chords at a steep peak plates lie lower than that: from where they just fit.
            edge = np.minimum(*(np.interp(x0 + sign * wide, top[:, 0], top[:, 1]) for sign in (-1.0, 1.0)))
            fits = edge - tall - y0
            lower = np.where(fits >= DOWN[-1], 0.0, fits - DOWN[0])[:, None] + down
            put(np.stack([np.full_like(lower, x0), y0 + lower], axis=-1), way)
        for at, way in _halfway(chords[0].axis, chords[1].axis, around.middle):
            put(np.array([[at]]), way)
    return np.concatenate(rows, axis=1)


def _halfway(one: Point, other: Point, base: Point) -> list[tuple[Point, Point]]:
    """Return places, with the way of a plate's length, along the line halfway between two chords that meet, where that is not level: as bottom chords do where a ceiling steps up."""
    one, other = (axis if axis[0] > 0.0 else (-axis[0], -axis[1]) for axis in (one, other))
    way = unit((0.0, 0.0), (one[0] + other[0], one[1] + other[1]))
    if abs(way[1]) < SLANTED:
        return []
    up = (-way[1], way[0])
    return [
        ((base[0] + up[0] * off + way[0] * shift, base[1] + up[1] * off + way[1] * shift), way)
        for off in (*DOWN, *(40.0 + 20.0 * k for k in range(6)))
        for shift in SHIFTS
    ]


def inside(around: Around, boxes: Boxes) -> NDArray[np.bool_]:
    """Return which plates stay within a truss: under its top edge, over its underside, short of its tips."""
    corners = boxes.corners
    top, bottom = np.array(around.top), np.array(around.bottom)
    x, y = corners[..., 0], corners[..., 1]
    over = y <= np.interp(x, top[:, 0], top[:, 1]) + EVEN
    found: NDArray[np.bool_] = (over & (x >= top[0, 0] - EVEN) & (x <= top[-1, 0] + EVEN)).all(axis=1)
    low = around.low
    found &= (y >= np.interp(x, bottom[:, 0], bottom[:, 1], left=low, right=low) - EVEN).all(axis=1)
    for bend in bottom[1:-1]:
        seen = boxes.local(((bend[0], bend[1]),))[:, 0]
        found &= ~(np.abs(seen) < boxes.halves - EVEN).all(axis=1)
    return found
