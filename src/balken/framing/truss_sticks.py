"""The sticks of a truss as they are sawn: outlines in the truss's plane, lengths, angles of their ends.

Top chords are whole, plumb at tips and peaks; bottom chords end under them; webs end at the faces of chords and, where several
meet, at the lines halfway between.
"""

import itertools
import math
from typing import NamedTuple

import shapely

from balken.catalog.sections import section
from balken.framing.truss_outline import TrussError, TrussOutline, height_on, moved, slope_on
from balken.framing.trusses import Stick, TrussFrame
from balken.geometry.plane import Point, Ring, area, clipped, distinct, dot, length_within, unit
from balken.units.system import INCH

LEAST = 1.5 * INCH
"""So much of a tail's plumb cut is left at least, mm."""
LEAST_LENGTH = 25.0
"""So much of a web's middle line lies in it at least, mm."""
LEAST_AREA = 100.0
"""A stick whose outline is smaller is none, mm2."""
BESIDE_BEND = 0.3
"""Where a chord bends its upper face bends aside of its middle line, no farther than this part of its depth."""
NEAR = 1.0
"""A web's joint at a bend of a chord lies no farther from it, mm."""


class Sawn(NamedTuple):
    """A stick as it is sawn: its outline (anticlockwise), its whole length from long point to long point, the angles between its edges
    and the cuts of its ends: of its lower or left, and of its upper or right end, each from square, degrees.
    """

    ring: Ring
    length: float
    cuts: tuple[tuple[float, ...], tuple[float, ...]]


def sawn_sticks(frame: TrussFrame) -> dict[str, Sawn]:
    """Return every stick as it is sawn, by name; raises TrussError where nothing is left of one."""
    found = {}
    for stick in frame.sticks:
        ring = distinct(_web(frame, stick) if stick.role == "web" else _chord(frame, stick))
        if len(ring) < 3 or abs(area(ring)) < LEAST_AREA or not _holds(frame, stick, ring):
            raise TrussError(
                f"no room is left between its chords for {stick.name}: it needs to be steeper or deeper, or have other webs"
            )
        found[stick.name] = _measured(frame, stick, ring)
    return found


def _holds(frame: TrussFrame, stick: Stick, ring: Ring) -> bool:
    """Whether a web's middle line still runs in what is left of it."""
    if stick.role != "web":
        return True
    return length_within(ring, *(frame.joints[name] for name in stick.joints)) >= LEAST_LENGTH


class _Line(NamedTuple):
    """A straight face of a chord: a place on it and its slope."""

    at: Point
    slope: float

    def below(self, ring: Ring) -> Ring:
        """Return what of a ring lies under it."""
        normal = unit((0.0, 0.0), (self.slope, -1.0))
        return clipped(ring, normal, dot(normal, self.at))

    def above(self, ring: Ring) -> Ring:
        """Return what of a ring lies over it."""
        normal = unit((0.0, 0.0), (-self.slope, 1.0))
        return clipped(ring, normal, dot(normal, self.at))


def _faces(line: tuple[Point, ...]) -> list[_Line]:
    return [_Line(a, (b[1] - a[1]) / (b[0] - a[0])) for a, b in itertools.pairwise(line)]


def _undersides(frame: TrussFrame) -> list[_Line]:
    return _faces(moved(frame.outline.top, -section(frame.sizes.top).depth))


def _chord(frame: TrussFrame, stick: Stick) -> Ring:
    outline, sizes = frame.outline, frame.sizes
    over = stick.role == "top chord"
    deep = section(sizes.of(stick.role)).depth
    edge = outline.top if over else outline.bottom
    faces = (edge, moved(edge, -deep)) if over else (moved(edge, deep), edge)
    ends = [frame.joints[name][0] for name in (stick.joints[0], stick.joints[-1])]
    same = [one for one in frame.sticks if one.role == stick.role]
    low = edge[0][0] if stick is same[0] else ends[0]
    high = edge[-1][0] if stick is same[-1] else ends[1]
    middle = (low + high) / 2.0
    slope = slope_on(edge, middle)
    wide = 2.0 * deep
    lines = [_Line((middle, height_on(face, middle)), slope) for face in faces]
    ring: Ring = ((low - wide, -1e5), (high + wide, -1e5), (high + wide, 1e5), (low - wide, 1e5))
    ring = lines[1].above(lines[0].below(ring))
    for x, name, sign in ((low, stick.joints[0], 1.0), (high, stick.joints[-1], -1.0)):
        way = unit((0.0, 0.0), (1.0, slope)) if name in frame.splices else _mitre(faces, x)
        at = (x, frame.joints[name][1])
        normal = (way[0] * sign, way[1] * sign)
        ring = clipped(ring, normal, dot(normal, at))
    if over:
        for k, mine in ((0, stick is same[0]), (-1, stick is same[-1])):
            ring = _tail(outline, k, deep, ring) if mine else ring
        return ring
    for face in _undersides(frame):
        ring = face.below(ring)
    return _seated(frame, ring)


def _tail(outline: TrussOutline, end: int, deep: float, ring: Ring) -> Ring:
    """Return a top chord with its overhang at an end of the truss (0 the first, -1 the last) cut as asked; one too short for a square cut is
    left plumb, and no level cut leaves less than ``LEAST`` of the plumb one.
    """
    tail, (x, y), heel = outline.tails[end], outline.top[end], outline.heels[end]
    sign = 1.0 if end == 0 else -1.0
    over = sign * (heel - x)
    if tail is None or over <= 0.0:
        return ring
    if tail.level is not None:
        level = y - tail_plumb(outline, end)
        outer = clipped(ring, (-sign, 0.0), -sign * heel)
        return clipped(ring, (0.0, 1.0), level) if min((p[1] for p in outer), default=level) < level else ring
    slope = slope_on(outline.top, x + sign)
    if over < deep * abs(slope) / math.hypot(1.0, slope) + LEAST:
        return ring
    normal = unit((0.0, 0.0), (sign, sign * slope))
    return clipped(ring, normal, dot(normal, (x, y)))


def tail_plumb(outline: TrussOutline, end: int) -> float:
    """Return how deep the plumb cut of a tail is left that is level below it, mm."""
    tail, (_, y) = outline.tails[end], outline.top[end]
    return max(y - tail.level, LEAST) if tail is not None and tail.level is not None else 0.0


def _mitre(faces: tuple[tuple[Point, ...], tuple[Point, ...]], x: float) -> Point:
    """Return the direction square to the cut of a chord's end: plumb, or, where both its edges bend, through both bends."""
    for p, q in zip(*(face[1:-1] for face in faces), strict=True):
        middle = ((p[0] + q[0]) / 2.0, (p[1] + q[1]) / 2.0)
        if abs(middle[0] - x) < NEAR and abs(p[0] - q[0]) > 1e-6:
            way = unit(q, p) if p[1] > q[1] else unit(p, q)
            return way[1], -way[0]
    return 1.0, 0.0


def _seated(frame: TrussFrame, ring: Ring) -> Ring:
    """Return the outline of a bottom chord with its level seats over bearings."""
    body = shapely.Polygon(ring)
    for bearing in frame.outline.bearings:
        under = shapely.box(bearing.low, bearing.level - 1e4, bearing.high, bearing.level)
        if body.intersection(under).area > 1.0:
            body = body.difference(under)
    if body.geom_type != "Polygon":
        body = max(body.geoms, key=lambda part: part.area)
    kept: Ring = tuple((float(x), float(y)) for x, y in shapely.orient_polygons(body).exterior.coords[:-1])
    return kept


def _web(frame: TrussFrame, stick: Stick) -> Ring:
    sizes, (i, j) = frame.sizes, stick.joints
    a, b = frame.joints[i], frame.joints[j]
    way = unit(a, b)
    half, past = section(sizes.webs).depth / 2.0, 3.0 * max(section(s).depth for s in (sizes.top, sizes.bottom))
    side = (-way[1] * half, way[0] * half)
    one, other = (a[0] - way[0] * past, a[1] - way[1] * past), (b[0] + way[0] * past, b[1] + way[1] * past)
    ring: Ring = (
        (one[0] - side[0], one[1] - side[1]), (other[0] - side[0], other[1] - side[1]), (other[0] + side[0], other[1] + side[1]),
        (one[0] + side[0], one[1] + side[1]),
    )  # fmt: skip
    for face in _undersides(frame):
        ring = face.below(ring)
    upper = moved(frame.outline.bottom, section(sizes.bottom).depth)
    for at, far in ((a, b), (b, a)):
        if _on_bottom(frame, at):
            ring = _above_bottom(ring, upper, at, far, section(sizes.bottom).depth)
    for name, at, far in ((i, a, b), (j, b, a)):
        for other_web in frame.sticks:
            if other_web.role == "web" and other_web is not stick and name in other_web.joints:
                away = other_web.joints[0] if other_web.joints[1] == name else other_web.joints[1]
                u, v = unit(at, far), unit(at, frame.joints[away])
                normal = unit((0.0, 0.0), (u[0] - v[0], u[1] - v[1]))
                ring = clipped(ring, normal, dot(normal, at))
    return ring


def _on_bottom(frame: TrussFrame, at: Point) -> bool:
    line = moved(frame.outline.bottom, section(frame.sizes.bottom).depth / 2.0)
    return abs(height_on(line, at[0]) - at[1]) < NEAR


def _above_bottom(ring: Ring, upper: tuple[Point, ...], at: Point, far: Point, deep: float) -> Ring:
    """Cut a web's lower end at the upper face of the bottom chord, ``deep`` mm deep: where that bends upward at both its faces; at a bend
    downward level, over its top, where the web stands upright, else at the face to its own side.
    """
    near = max(BESIDE_BEND * deep, NEAR)
    bend = min((p for p in upper[1:-1] if abs(p[0] - at[0]) < near), key=lambda p: abs(p[0] - at[0]), default=None)
    if bend is None:
        return _Line((at[0], height_on(upper, at[0])), slope_on(upper, at[0])).above(ring)
    faces = [_Line(bend, slope_on(upper, bend[0] + side * 2.0 * NEAR)) for side in (-1.0, 1.0)]
    if faces[1].slope > faces[0].slope:
        return faces[1].above(faces[0].above(ring))
    aside = far[0] - at[0]
    if abs(aside) < 0.1 * abs(far[1] - at[1]):
        return _Line(bend, 0.0).above(ring)
    return faces[1 if aside > 0.0 else 0].above(ring)


def _measured(frame: TrussFrame, stick: Stick, ring: Ring) -> Sawn:
    a, b = frame.joints[stick.joints[0]], frame.joints[stick.joints[-1]]
    if stick.role == "web" and a[1] > b[1] + NEAR:
        a, b = b, a
    way = unit(a, b)
    along = [dot(way, p) for p in ring]
    cuts: tuple[list[float], list[float]] = ([], [])
    middle = (min(along) + max(along)) / 2.0
    for p, q in zip(ring, (*ring[1:], ring[0]), strict=True):
        if math.dist(p, q) < NEAR:
            continue
        lies = unit(p, q)
        angle = math.degrees(math.acos(min(abs(lies[0] * way[0] + lies[1] * way[1]), 1.0)))
        if angle > 0.5:
            cuts[0 if (dot(way, p) + dot(way, q)) / 2.0 < middle else 1].append(round(90.0 - angle, 2))
    return Sawn(ring, max(along) - min(along), (tuple(cuts[0]), tuple(cuts[1])))
