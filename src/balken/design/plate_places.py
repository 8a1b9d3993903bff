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
    shape = shapely.clip_by_rect(shapely.Polygon(ring), at[0] - REACH, at[1] - REACH, at[0] + REACH, at[1] + REACH)
    if shape.geom_type != "Polygon":
        parts = [part for part in getattr(shape, "geoms", []) if part.geom_type == "Polygon"]
        shape = max(parts, key=lambda part: part.area, default=shapely.Polygon())
    if shape.is_empty:
        return ()
    corners = shapely.orient_polygons(shape).exterior.coords[:-1]
    return tuple(tidy((float(x) - at[0], float(y) - at[1])) for x, y in corners)


def line_near(line: Ring, at: Point) -> Ring:
    """Return a polyline from left to right as far as plates reach, seen from a joint."""
    xs, ys = np.array(line)[:, 0], np.array(line)[:, 1]
    low, high = at[0] - REACH, at[0] + REACH
    inner = [(x, y) for x, y in line if low < x < high]
    first = [] if xs[0] > low else [(low, float(np.interp(low, xs, ys)))]
    last = [] if xs[-1] < high else [(high, float(np.interp(high, xs, ys)))]
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
    """Return where plates of one size of the list may lie at a joint."""
    return _some(around, number // TOGETHER)[number % TOGETHER]


@lru_cache(maxsize=8_000)
def _some(around: Around, which: int) -> list[Places]:
    """Return the places of so many sizes together."""
    numbers = range(which * TOGETHER, min((which + 1) * TOGETHER, len(sizes_of(around.joined))))
    rows = [_tried(around, number) for number in numbers]
    of = np.repeat(np.arange(len(rows)), [len(row) for row in rows])
    table = np.concatenate([np.array(row) for row in rows])
    boxes, held = Boxes(table[:, 0:2], table[:, 2:4], table[:, 4:6]), covered(around)
    # Gussets are cut to the truss's outline where they would reach past it.
    ok = np.ones(len(table), dtype=bool) if around.joined == "gussets" else inside(around, boxes)
    left, of = boxes[ok], of[ok]
    columns: list[Array] = []
    for one in held:
        area = areas_under(one.counts, left)
        ok = area >= around.least - 1e-6
        ok[ok] = spans_under(one.body, left[ok], around.sticks[len(columns)].axis).min(axis=1) >= around.bite - 0.5
        left, of, columns = left[ok], of[ok], [*(column[ok] for column in columns), area[ok]]
    areas = np.stack(columns, axis=1)
    return [Places(left[of == k], areas[of == k]) for k in range(len(rows))]


def bitten(around: Around, boxes: Boxes) -> Array:
    """Return how much of each stick rectangles cover (n, sticks), mm2; 0 of one they reach over too little of."""
    rows = []
    for one, stick in zip(covered(around), around.sticks, strict=True):
        area = areas_under(one.counts, boxes)
        enough = spans_under(one.body, boxes, stick.axis).min(axis=1) >= around.bite - 0.5
        rows.append(np.where(enough, area, 0.0))
    return np.stack(rows, axis=1)


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


def _tried(around: Around, number: int) -> list[tuple[float, float, float, float, float, float]]:
    """Return where plates of one size are tried (their middles, halves, ways): along and across each chord at a joint, from its outer face inward; level under a peak
    too.
    """
    size, base, deep_of = sizes_of(around.joined)[number], around.middle, dict(around.deep)
    half = size.length / 2.0, size.width / 2.0
    rows: list[tuple[float, float, float, float, float, float]] = []
    for one in around.chords:
        inward = (-one.axis[1], one.axis[0]) if one.role == "bottom chord" else (one.axis[1], -one.axis[0])
        deep = deep_of[one.role] / 2.0
        off = -dot(inward, base)  # the chord's middle line beside that place
        for way, across in ((one.axis, size.width), ((-one.axis[1], one.axis[0]), size.length)):
            insets = (*INSETS, *(2.0 * deep - part * across for part in PAST))
            for inset in (deep - across / 2.0, INSETS[0]) if around.spliced else insets:
                far = off + inset + across / 2.0 - deep
                x, y = base[0] + inward[0] * far, base[1] + inward[1] * far
                for shift in (0.0,) if around.spliced else SHIFTS:
                    rows.append((x + one.axis[0] * shift, y + one.axis[1] * shift, *half, *way))
    chords = around.chords
    if len(chords) == 2 and chords[0].role == chords[1].role and not around.spliced:
        top = np.array(around.top)
        for way, wide, tall in (((1.0, 0.0), *half), ((0.0, 1.0), *half[::-1])):
            # Under deep chords at a steep peak plates lie lower than that: from where they just fit.
            fits = min(float(np.interp(base[0] + x, top[:, 0], top[:, 1])) for x in (-wide, wide)) - tall - base[1]
            downs = DOWN if fits >= DOWN[-1] else tuple(fits + down - DOWN[0] for down in DOWN)
            rows += [(base[0], base[1] + down, *half, *way) for down in downs]
        rows += _halfway(chords[0].axis, chords[1].axis, base, half)
    return rows


def _halfway(
    one: Point, other: Point, base: Point, half: tuple[float, float]
) -> list[tuple[float, float, float, float, float, float]]:
    """Return places along the line halfway between two chords that meet, where that is not level: as bottom chords do where a ceiling steps up."""
    one, other = (axis if axis[0] > 0.0 else (-axis[0], -axis[1]) for axis in (one, other))
    way = unit((0.0, 0.0), (one[0] + other[0], one[1] + other[1]))
    if abs(way[1]) < SLANTED:
        return []
    up = (-way[1], way[0])
    return [
        (base[0] + up[0] * off + way[0] * shift, base[1] + up[1] * off + way[1] * shift, *half, *way)
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
