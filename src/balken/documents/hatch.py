"""Hatching as short strokes, so that screen, print and DXF show the same."""

import math
from functools import lru_cache

import numpy as np
import shapely

from balken.geometry.plane import Point, Ring, bounds, chords, turn

Segments = tuple[tuple[Point, Point], ...]


def hatch(rings: tuple[Ring, ...], kind: str, scale: float) -> Segments:
    """Return the strokes of a hatch ("concrete", "concrete seen", "masonry", "earth", "timber") at 1:``scale``.

    Concrete that is seen, not cut, is strewn thinly.
    """
    key = tuple(tuple((round(x, 1), round(y, 1)) for x, y in ring) for ring in rings)
    if kind == "concrete":
        return _stipple(key, 1.6 * scale, 0.2 * scale)
    if kind == "concrete seen":
        return _stipple(key, 3.6 * scale, 0.25 * scale)
    if kind == "masonry":
        return _lines(key, 45.0, 2.2 * scale)
    if kind == "earth":
        return _lines(key, 45.0, 2.0 * scale) + _lines(key, 135.0, 6.0 * scale)
    if kind == "timber":
        return _lines(key, 45.0, 1.2 * scale)
    return ()


@lru_cache(maxsize=400)
def _lines(rings: tuple[Ring, ...], angle: float, spacing: float) -> Segments:
    """Parallel lines at fixed places of the plane, so that neighbours' hatches meet."""
    direction, aside = turn((1.0, 0.0), angle), turn((0.0, 1.0), angle)
    heights = [p[0] * aside[0] + p[1] * aside[1] for p in rings[0]]
    found: list[tuple[Point, Point]] = []
    first, last = math.ceil(min(heights) / spacing), math.floor(max(heights) / spacing)
    for k in range(first, min(last, first + 2000) + 1):
        foot = (aside[0] * k * spacing, aside[1] * k * spacing)
        for a, b in chords(rings, foot, direction):
            found.append(
                (
                    (foot[0] + direction[0] * a, foot[1] + direction[1] * a),
                    (foot[0] + direction[0] * b, foot[1] + direction[1] * b),
                )
            )
    return tuple(found)


@lru_cache(maxsize=400)
def _stipple(rings: tuple[Ring, ...], spacing: float, dot: float) -> Segments:
    """Dots and small triangles' sides strewn evenly from the least corner on; a shape that moves takes them along."""
    x0, y0, _, _ = bounds(rings[0])
    shape = tuple(tuple((round(x - x0, 1), round(y - y0, 1)) for x, y in ring) for ring in rings)
    return tuple(((a + x0, b + y0), (c + x0, d + y0)) for (a, b), (c, d) in _stippled(shape, spacing, dot))


@lru_cache(maxsize=400)
def _stippled(rings: tuple[Ring, ...], spacing: float, dot: float) -> Segments:
    x0, y0, x1, y1 = bounds(rings[0])
    nx, ny = int((x1 - x0) / spacing) + 1, int((y1 - y0) / spacing) + 1
    if nx * ny > 20_000:
        return ()
    rng = np.random.default_rng(7)
    grid = np.stack(np.meshgrid(np.arange(nx), np.arange(ny)), axis=-1).reshape(-1, 2).astype(float)
    points = (grid + rng.random(grid.shape)) * spacing + (x0, y0)
    inside = shapely.contains_xy(shapely.Polygon(rings[0], rings[1:]), points)
    found: list[tuple[Point, Point]] = []
    for i, (x, y) in enumerate(points[inside].tolist()):
        found.append(((x - dot, y), (x + dot, y)))
        if i % 5 == 0:
            found.append(((x - dot, y), (x, y + 1.7 * dot)))
            found.append(((x, y + 1.7 * dot), (x + dot, y)))
    return tuple(found)
