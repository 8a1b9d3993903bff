"""Where a roof stands beside a taller part of the building: along which of its sides, how long that part's roof is there."""

import math
from collections.abc import Iterable

import shapely

from balken.framing.outlines import Outline
from balken.geometry.plane import Point, add, distance, dot, left, unit
from balken.model.records import Roof
from balken.model.roof_edits import side_of
from balken.value import Value

TALLER = 600.0
"""A roof that bears this much higher is that of a taller part, mm."""
BESIDE = 400.0
"""A part no farther off than this stands beside, mm."""
LEAST = 900.0
"""Over less than this of a side nothing stands beside it, mm."""


class Taller(Value, frozen=True):
    """A taller part beside a side of a roof: from where to where; how long its roof is square to that, how high its wall stands
    there (where its side is no eave, up to its ridge), mm.

    ``eave``: run (mm) and pitch of its plane that sheds onto the lower roof, None where its side there is no eave.
    """

    side: int
    start: Point
    end: Point
    long: float
    bearing: float
    eave: tuple[float, float] | None


def taller_parts(
    outline: Outline, bearing: float, others: tuple[tuple[Roof, Outline, float], ...]
) -> tuple[Taller, ...]:
    """Return the taller parts beside a roof; ``others``: other roofs, their outlines and what they bear at."""
    found, core = [], outline.core
    for other, around, height in others:
        near = shapely.Polygon(around.core).buffer(BESIDE)
        for k, a in enumerate(core):
            b = core[(k + 1) % len(core)]
            part = shapely.LineString([a, b]).intersection(near)
            way = unit(a, b)
            along = [dot(way, (x - a[0], y - a[1])) for x, y in _coords(part)]
            if not along or max(along) - min(along) < LEAST or _crosses(a, b, near):
                continue
            square = [dot(left(way), p) for p in around.core]
            long = max(square) - min(square)
            sheds = _sheds(other, around, a, b, long)
            beside = [dot(way, p) for p in around.core]
            # The wall of a gable end stands up to its ridge; a lean-to ends at what it stands against.
            up = (
                long * _steepest(other)
                if _leans(other, around, a, b)
                else other.pitch * (max(beside) - min(beside)) / 2.0
            )
            top = height if sheds is not None else height + up
            if top < bearing + TALLER:
                continue
            ends = add(a, way, min(along)), add(a, way, max(along))
            found.append(Taller(k, *ends, long, top, sheds))
    return tuple(found)


def _coords(shape: shapely.Geometry) -> list[Point]:
    parts = getattr(shape, "geoms", [shape])
    return [(float(x), float(y)) for part in parts if part.geom_type == "LineString" for x, y in part.coords]


def _crosses(a: Point, b: Point, near: shapely.Geometry) -> bool:
    """Whether a side runs into the taller part instead of along it."""
    inner = near.buffer(-2.0 * BESIDE)
    return bool(shapely.LineString([a, b]).intersection(inner).length > LEAST)


def _steepest(roof: Roof) -> float:
    return max((roof.pitch, *(side.pitch for side in roof.sides if side.kind == "eave" and side.pitch is not None)))


def _along(around: Outline, a: Point, b: Point) -> Iterable[int]:
    """Yield the sides of another outline that lie along one."""
    way, core = unit(a, b), around.core
    for k, p in enumerate(core):
        alike = abs(abs(dot(unit(p, core[(k + 1) % len(core)]), way)) - 1.0) < 1e-4
        if alike and abs(dot(left(way), (p[0] - a[0], p[1] - a[1]))) <= BESIDE:
            yield k


def _leans(other: Roof, around: Outline, a: Point, b: Point) -> bool:
    """Whether a roof stands against a wall along a side."""
    walls = (around.walls[k] for k in _along(around, a, b))
    return other.shape == "planes" and any(side_of(other, wall).kind == "wall" for wall in walls)


def _sheds(other: Roof, around: Outline, a: Point, b: Point, long: float) -> tuple[float, float] | None:
    way = unit(a, b)
    for k in _along(around, a, b):
        run = long / 2.0 + other.overhang
        if other.shape == "planes":
            side = side_of(other, around.walls[k])
            if side.kind == "eave":
                return run, other.pitch if side.pitch is None else side.pitch
        else:
            ridge = math.radians(_ridge(other, around))
            if abs(dot((math.cos(ridge), math.sin(ridge)), way)) > 0.99:
                return run, other.pitch
    return None


def _ridge(roof: Roof, around: Outline) -> float:
    """Return the direction of a gable's ridge, degrees."""
    if roof.ridge is not None:
        return roof.ridge
    sides = [(distance(p, around.core[(k + 1) % len(around.core)]), k) for k, p in enumerate(around.core)]
    k = max(sides)[1]
    (x0, y0), (x1, y1) = around.core[k], around.core[(k + 1) % len(around.core)]
    return math.degrees(math.atan2(y1 - y0, x1 - x0))
