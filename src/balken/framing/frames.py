"""A plan frame turned to a direction: s runs along it, t to its left."""

import itertools
import math
from functools import lru_cache

from balken.geometry.plane import Point, Ring, turn
from balken.value import Value


@lru_cache(maxsize=256)
def _directions(angle: float) -> tuple[Point, Point]:
    return turn((1.0, 0.0), angle), turn((0.0, 1.0), angle)


class Frame(Value, frozen=True):
    """Coordinates (s, t) in mm about the plan's origin, s at ``angle`` degrees from x."""

    angle: float

    @property
    def s(self) -> Point:
        """Unit direction of s."""
        return _directions(self.angle)[0]

    @property
    def t(self) -> Point:
        """Unit direction of t."""
        return _directions(self.angle)[1]

    def to(self, point: Point) -> Point:
        """Return (s, t) of a plan point."""
        (sx, sy), (tx, ty) = _directions(self.angle)
        x, y = point
        return x * sx + y * sy, x * tx + y * ty

    def back(self, s: float, t: float) -> Point:
        """Return the plan point at (s, t)."""
        (sx, sy), (tx, ty) = _directions(self.angle)
        return sx * s + tx * t, sy * s + ty * t

    def ring(self, ring: Ring) -> Ring:
        """Return a ring in (s, t)."""
        return tuple(self.to(p) for p in ring)


def edge_angle(ring: Ring) -> float:
    """Return the direction of the longest edge, degrees in [0, 180)."""
    longest = max(range(len(ring)), key=lambda i: math.dist(ring[i - 1], ring[i]))
    a, b = ring[longest - 1], ring[longest]
    return round(math.degrees(math.atan2(b[1] - a[1], b[0] - a[0])) % 180.0, 9) % 180.0


def tributary(stations: list[float], low: float, high: float) -> list[float]:
    """Return the width each station carries: half-way to its neighbours, all the way to the sides.

    The widths add up to ``high - low``.
    """
    cuts = [low, *((a + b) / 2.0 for a, b in itertools.pairwise(stations)), high]
    return [b - a for a, b in itertools.pairwise(cuts)]
