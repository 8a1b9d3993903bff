"""What of an outline lies under many rectangles, each turned as it may be: areas, and how far it reaches along two directions.

Arrays over n rectangles: middles (n, 2), halves of length and width (n, 2), directions of the length (n, 2).
"""

from collections.abc import Sequence

import numpy as np
from numpy.typing import NDArray

from balken.geometry.plane import Point, Ring
from balken.value import Value

Array = NDArray[np.float64]
FLAT = 1e-9


class Boxes(Value, frozen=True, eq=False):
    """Rectangles in plan."""

    middles: Array
    halves: Array
    ways: Array

    def __getitem__(self, which: NDArray[np.int64] | NDArray[np.bool_]) -> "Boxes":
        """Return some of them."""
        return Boxes(self.middles[which], self.halves[which], self.ways[which])

    def local(self, ring: Ring) -> Array:
        """Return an outline's corners as each rectangle sees them (n, corners, 2)."""
        off = np.array(ring)[None] - self.middles[:, None]
        c, s = self.ways[:, None, 0], self.ways[:, None, 1]
        return np.stack([off[..., 0] * c + off[..., 1] * s, off[..., 1] * c - off[..., 0] * s], axis=-1)

    @property
    def corners(self) -> Array:
        """Their corners, anticlockwise (n, 4, 2)."""
        signs = np.array([(-1.0, -1.0), (1.0, -1.0), (1.0, 1.0), (-1.0, 1.0)])
        off = signs[None] * self.halves[:, None]
        c, s = self.ways[:, None, 0], self.ways[:, None, 1]
        turned = np.stack([off[..., 0] * c - off[..., 1] * s, off[..., 0] * s + off[..., 1] * c], axis=-1)
        found: Array = turned + self.middles[:, None]
        return found


def joined(some: Sequence[Boxes]) -> Boxes:
    """Return rectangles of several rows in one."""
    return Boxes(*(np.concatenate([getattr(one, of) for one in some]) for of in ("middles", "halves", "ways")))


def areas_under(ring: Ring, boxes: Boxes) -> Array:
    """Return the area of an outline (anticlockwise) under each rectangle (n): over x the heights of its upper edges less those of its
    lower ones, each held within the rectangle.
    """
    p = boxes.local(ring)
    q = np.roll(p, -1, axis=1)
    u, v = boxes.halves[:, None, 0], boxes.halves[:, None, 1]
    run = q[..., 0] - p[..., 0]
    level = np.abs(run) < FLAT
    safe = np.where(level, 1.0, run)
    a, b = np.clip(p[..., 0], -u, u), np.clip(q[..., 0], -u, u)
    slope = (q[..., 1] - p[..., 1]) / safe
    ya, yb = p[..., 1] + slope * (a - p[..., 0]), p[..., 1] + slope * (b - p[..., 0])

    def summed(y: Array) -> Array:
        size = np.abs(y)
        found: Array = np.where(size <= v, y**2 / 2.0, v * size - v**2 / 2.0)
        return found

    flat = np.abs(slope) < 1e-7
    leaning = (summed(yb) - summed(ya)) / np.where(flat, 1.0, slope)
    even = np.clip((ya + yb) / 2.0, -v, v) * (b - a)
    area = np.where(level, 0.0, np.where(flat, even, leaning))
    found: Array = np.maximum(-area.sum(axis=1), 0.0)
    return found


def spans_under(ring: Ring, boxes: Boxes, axis: Point) -> Array:
    """Return how far a convex outline (anticlockwise) under each rectangle reaches along and across an axis (n, 2); 0 where nothing does."""
    outline = np.array(ring)
    p = boxes.local(ring)
    q = np.roll(p, -1, axis=1)
    u, v = boxes.halves[:, None, 0], boxes.halves[:, None, 1]
    inside = (np.abs(p[..., 0]) <= u + FLAT) & (np.abs(p[..., 1]) <= v + FLAT)
    places, there = [np.broadcast_to(outline[None], (len(p), *outline.shape))], [inside]
    for k, other in ((0, 1), (1, 0)):
        half, across = boxes.halves[:, None, k], boxes.halves[:, None, other]
        run = q[..., k] - p[..., k]
        safe = np.where(np.abs(run) < FLAT, 1.0, run)
        for sign in (-1.0, 1.0):
            part = (sign * half - p[..., k]) / safe
            meets = p[..., other] + part * (q[..., other] - p[..., other])
            ok = (np.abs(run) >= FLAT) & (part >= 0.0) & (part <= 1.0) & (np.abs(meets) <= across + FLAT)
            places.append(outline[None] + part[..., None] * (np.roll(outline, -1, axis=0) - outline)[None])
            there.append(ok)
    corners = boxes.corners
    edges = np.roll(outline, -1, axis=0) - outline
    off = corners[:, :, None] - outline[None, None]
    left = edges[None, None, :, 0] * off[..., 1] - edges[None, None, :, 1] * off[..., 0]
    places.append(corners)
    there.append((left >= -1e-6).all(axis=2))
    points, ok = np.concatenate(places, axis=1), np.concatenate(there, axis=1)
    spans = []
    for way in (axis, (-axis[1], axis[0])):
        values = points @ np.array(way)
        high = np.where(ok, values, -np.inf).max(axis=1)
        low = np.where(ok, values, np.inf).min(axis=1)
        spans.append(np.where(np.isfinite(high), high - low, 0.0))
    return np.stack(spans, axis=1)
