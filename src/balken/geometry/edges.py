"""Where outlines run along one another, and what shows of many that touch: edge by edge."""

import math
from collections.abc import Sequence
from functools import lru_cache
from itertools import zip_longest

from balken.geometry.plane import FINE, Point, Ring, area, bounds, near_pairs

NEAR = 1.0
"""Two edges no farther apart than this (mm) run together."""
LEAST = 5.0
"""Outlines that run together over less than this (mm) only meet at a corner."""
JUST_OUTSIDE = 0.05
"""How far outside an edge one looks for what covers it, mm."""
SAME = 0.2
"""Ends of edges nearer than this are one corner, mm."""

CELLS = ((0, 0), *((i, j) for i in (-1, 0, 1) for j in (-1, 0, 1) if i or j))
"""A cell of a mm and those beside it, itself first."""

Edge = tuple[float, float, float, float, float]
"""Start (x, y), unit direction (x, y), length, mm."""
Span = tuple[float, float]


@lru_cache(maxsize=4_096)
def edges(rings: tuple[Ring, ...]) -> tuple[Edge, ...]:
    """Return the edges of an outline and its holes in order; those without length are left out."""
    found: list[Edge] = []
    for ring in rings:
        x0, y0 = ring[-1]
        for x1, y1 in ring:
            length = math.hypot(x1 - x0, y1 - y0)
            if length > 1e-9:
                found.append((x0, y0, (x1 - x0) / length, (y1 - y0) / length, length))
            x0, y0 = x1, y1
    return tuple(found)


def shared_length(a: tuple[Ring, ...], b: tuple[Ring, ...]) -> float:
    """Return along what length two outlines run together, mm."""
    total = 0.0
    others = edges(b)
    for x, y, dx, dy, length in edges(a):
        for px, py, ex, ey, long in others:
            aside = dx * (py - y) - dy * (px - x)
            if not -NEAR <= aside <= NEAR:
                continue
            if abs(aside + long * (dx * ey - dy * ex)) > NEAR:
                continue
            start = dx * (px - x) + dy * (py - y)
            end = start + long * (dx * ex + dy * ey)
            low, high = (start, end) if start < end else (end, start)
            total += max(min(high, length) - max(low, 0.0), 0.0)
    return total if total > LEAST else 0.0


_box = lru_cache(maxsize=4_096)(bounds)


def joined_outlines(rings: Sequence[Ring]) -> list[tuple[Ring, bool]]:
    """Return what is seen of many outlines that touch or overlap, without the joints between them.

    Each with whether it closes.  Outlines turn anticlockwise, what they enclose between them clockwise.
    """
    beside: list[list[int]] = [[] for _ in rings]
    for i, j in near_pairs([_box(ring) for ring in rings], SAME):
        beside[i].append(j)
        beside[j].append(i)
    open_edges: list[Part] = []
    for i, ring in enumerate(rings):
        earlier = tuple([rings[j] for j in beside[i] if j < i])
        open_edges += _open(ring, earlier, tuple([rings[j] for j in beside[i] if j > i]))
    return _chained(open_edges)


Part = tuple[Point, Point]


@lru_cache(maxsize=2_048)
def _open(ring: Ring, earlier: tuple[Ring, ...], later: tuple[Ring, ...]) -> tuple[Part, ...]:
    """Return the parts of a ring's edges that no other ring covers; what two share is left to the earlier one."""
    x, y = ring[0]

    def here(other: Ring) -> Ring:
        return tuple([(round((px - x) * FINE) / FINE, round((py - y) * FINE) / FINE) for px, py in other])

    parts = _open_at_origin(here(ring), tuple([here(r) for r in earlier]), tuple([here(r) for r in later]))
    return tuple([((x + a, y + b), (x + c, y + d)) for (a, b), (c, d) in parts])


@lru_cache(maxsize=2_048)
def _open_at_origin(ring: Ring, earlier: tuple[Ring, ...], later: tuple[Ring, ...]) -> tuple[Part, ...]:
    """Do so for a ring whose first corner is the origin: what moves together is looked at once."""
    if area(ring) < 0.0:
        ring = ring[::-1]
    # Those next to it in the list first: they are often layers of the same wall, which cover a whole side.
    others = [(other, *_box(other), True) for other in reversed(earlier)]
    others = [
        row for pair in zip_longest(others, [(other, *_box(other), False) for other in later]) for row in pair if row
    ]
    found: list[Part] = []
    for x, y, dx, dy, length in edges((ring,)):
        covered: list[Span] = []
        left, right = (x, x + length * dx) if dx > 0.0 else (x + length * dx, x)
        low, high = (y, y + length * dy) if dy > 0.0 else (y + length * dy, y)
        for other, x0, y0, x1, y1, before in others:
            if x0 - SAME < right and x1 + SAME > left and y0 - SAME < high and y1 + SAME > low:
                inside = _inside(other, x + JUST_OUTSIDE * dy, y - JUST_OUTSIDE * dx, dx, dy)
                if inside and inside[0][0] < SAME and inside[0][1] > length - SAME:
                    covered = [(0.0, length)]
                    break
                covered += inside
                if before:
                    covered += _along(other, x, y, dx, dy)
        at = 0.0
        for low, high in (*sorted(covered), (length, length)):
            if min(low, length) - at > SAME:
                stop = min(low, length)
                found.append(((x + at * dx, y + at * dy), (x + stop * dx, y + stop * dy)))
            at = max(at, high)
            if at >= length:
                break
    return tuple(found)


def _inside(ring: Ring, x: float, y: float, dx: float, dy: float) -> list[Span]:
    """Return where a line runs inside a ring, as distances from its point."""
    cuts: list[float] = []
    x0, y0 = ring[-1]
    h0 = (y0 - y) * dx - (x0 - x) * dy
    for x1, y1 in ring:
        h1 = (y1 - y) * dx - (x1 - x) * dy
        if (h0 < 0.0) != (h1 < 0.0):
            t = h0 / (h0 - h1)
            cuts.append((x0 + t * (x1 - x0) - x) * dx + (y0 + t * (y1 - y0) - y) * dy)
        x0, y0, h0 = x1, y1, h1
    cuts.sort()
    return list(zip(cuts[::2], cuts[1::2], strict=True))


def _along(ring: Ring, x: float, y: float, dx: float, dy: float) -> list[Span]:
    """Return where edges of a ring run along a line, the same way round."""
    spans: list[Span] = []
    way = 1.0 if area(ring) >= 0.0 else -1.0
    for px, py, ex, ey, long in edges((ring,)):
        if way * (dx * ex + dy * ey) < 0.999999 or abs(dx * (py - y) - dy * (px - x)) > JUST_OUTSIDE:
            continue
        start = dx * (px - x) + dy * (py - y)
        spans.append((start, start + long) if way > 0.0 else (start - long, start))
    return spans


def _chained(parts: list[tuple[Point, Point]]) -> list[tuple[Ring, bool]]:
    """Return pieces of edges as lines that run on from one to the next, those in one direction as one."""
    starts: dict[tuple[int, int], list[int]] = {}
    for i, (p, _) in enumerate(parts):
        starts.setdefault((round(p[0]), round(p[1])), []).append(i)
    left = dict.fromkeys(range(len(parts)))
    followed = set[int]()
    after = [_next(end, parts, starts, followed) for _, end in parts]
    lines: list[tuple[Ring, bool]] = []
    # Lines that do not close begin where nothing leads.
    for first in (*(i for i in range(len(parts)) if i not in followed), *range(len(parts))):
        if first not in left:
            continue
        points: list[Point] = []
        at = first
        while at >= 0 and at in left:
            del left[at]
            points.append(parts[at][0])
            last, at = at, after[at]
        closed = at == first
        if not closed:
            points.append(parts[last][1])
        lines.append((_straightened(points, closed), closed))
    return lines


def _next(
    end: Point, parts: list[tuple[Point, Point]], starts: dict[tuple[int, int], list[int]], followed: set[int]
) -> int:
    """Return the piece that starts where one ends and that no other runs on into; -1 when there is none."""
    x, y = round(end[0]), round(end[1])
    for i, j in CELLS:
        for k in starts.get((x + i, y + j), ()):
            if k not in followed and math.dist(parts[k][0], end) < SAME:
                followed.add(k)
                return k
    return -1


def _straightened(points: list[Point], closed: bool) -> Ring:
    """Leave out the points that lie on a straight line."""
    kept = []
    for i, b in enumerate(points):
        if not closed and i in (0, len(points) - 1):
            kept.append(b)
            continue
        a, c = points[i - 1], points[(i + 1) % len(points)]
        turn = (b[0] - a[0]) * (c[1] - b[1]) - (b[1] - a[1]) * (c[0] - b[0])
        if abs(turn) > SAME * max(math.dist(a, c), 1.0):
            kept.append(b)
    return tuple(kept)
