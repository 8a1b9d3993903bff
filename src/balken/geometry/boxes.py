"""Plan outlines with square corners as rectangles that do not overlap: what others leave of them."""

import itertools
import math
from functools import lru_cache

from balken.geometry.plane import Point, Ring, anticlockwise, chords, turn

Box = tuple[float, float, float, float]
"""Least x, y and greatest x, y, mm, in a plan turned by some angle."""
SQUARE = 1e-6
"""Sides that lean by less than this (mm a mm) are square to one another."""


@lru_cache(maxsize=4_096)
def as_boxes(ring: Ring, room: float = 0.0) -> tuple[float, tuple[Box, ...]] | None:
    """Return the degrees (0 to 90) an outline is turned by and its rectangles, ``room`` mm added all round.

    None when its corners are not square.
    """
    ring = anticlockwise(ring)
    (x0, y0), (x1, y1) = ring[0], ring[1]
    angle = round(math.degrees(math.atan2(y1 - y0, x1 - x0)) % 90.0, 6) % 90.0
    corners = [turn(p, -angle) for p in ring] if angle else list(ring)
    sides: list[tuple[bool, float]] = []
    """Whether each side runs along y, and where it lies, moved out by the room."""
    for i, (bx, by) in enumerate(corners):
        ax, ay = corners[i - 1]
        dx, dy = abs(bx - ax), abs(by - ay)
        if dx <= SQUARE * dy:
            sides.append((True, bx + (room if by > ay else -room)))
        elif dy <= SQUARE * dx:
            sides.append((False, by + (-room if bx > ax else room)))
        else:
            return None
    wide: list[Point] = []
    for i, (along_y, at) in enumerate(sides):
        after_y, then = sides[(i + 1) % len(sides)]
        if along_y == after_y:
            continue  # a point on a straight side
        wide.append((at, then) if along_y else (then, at))
    if len(wide) == 4:
        xs, ys = [p[0] for p in wide], [p[1] for p in wide]
        return angle, ((min(xs), min(ys), max(xs), max(ys)),)
    heights = sorted({p[1] for p in wide})
    boxes = [
        (left, low, right, high)
        for low, high in itertools.pairwise(heights)
        for left, right in chords((tuple(wide),), (0.0, (low + high) / 2.0), (1.0, 0.0))
    ]
    return angle, tuple(boxes)


def less(boxes: tuple[Box, ...], others: tuple[Box, ...]) -> list[Box]:
    """Return what others leave of rectangles, as rectangles that do not overlap."""
    left = list(boxes)
    for x0, y0, x1, y1 in others:
        rest: list[Box] = []
        for box in left:
            a0, b0, a1, b1 = box
            if a1 <= x0 or a0 >= x1 or b1 <= y0 or b0 >= y1:
                rest.append(box)
                continue
            low, high = max(b0, y0), min(b1, y1)
            if b0 < low:
                rest.append((a0, b0, a1, low))
            if high < b1:
                rest.append((a0, high, a1, b1))
            if a0 < x0:
                rest.append((a0, low, x0, high))
            if x1 < a1:
                rest.append((x1, low, a1, high))
        left = rest
    return left


def area_and_middle(boxes: list[Box], angle: float) -> tuple[float, Point]:
    """Return the area of rectangles that do not overlap, mm2, and the middle of it all in the plan not turned."""
    size = mx = my = 0.0
    for x0, y0, x1, y1 in boxes:
        part = (x1 - x0) * (y1 - y0)
        size += part
        mx += part * (x0 + x1) / 2.0
        my += part * (y0 + y1) / 2.0
    if size == 0.0:
        return 0.0, (0.0, 0.0)
    return size, turn((mx / size, my / size), angle)
