"""What comes to each bearing of a joist from a load on it: by the lever on two, by the line's statics on more."""

from collections.abc import Iterable
from functools import lru_cache

import numpy as np

from balken.analysis.lines import line, solve_alike
from balken.framing.pieces import MemberLine

Row = tuple[float, float, float]
"""A load laid evenly: from where to where along a joist, mm, and how much in all."""


def shares(member: MemberLine, rows: Iterable[Row]) -> tuple[float, ...]:
    """Return what comes to each of its stops, in order; what lies past a bearing lifts at the other end."""
    if not member.inner:
        a, b = member.centres
        whole = high = 0.0
        for low, far, load in rows:
            whole += load
            high += load * ((low + far) / 2.0 - a) / (b - a)
        return whole - high, high
    origin = min(member.low, member.load_low)
    length = max(member.high, member.load_high) - origin
    supports = tuple(round(at - origin, 3) for _, at, _ in member.stops)
    return _solved(
        round(length, 3), supports, tuple((round(a - origin, 3), round(b - origin, 3), q) for a, b, q in rows)
    )


@lru_cache(maxsize=2_048)
def _solved(length: float, supports: tuple[float, ...], rows: tuple[Row, ...]) -> tuple[float, ...]:
    patches = [(a, b, (q / (b - a),), (q / (b - a),)) for a, b, q in rows if b - a >= 1.0]
    points = [((a + b) / 2.0, (q,)) for a, b, q in rows if b - a < 1.0]
    made = solve_alike([line(length, supports, patches, points)])
    return tuple(float(v) for v in np.asarray(made.reactions)[0, :, 0])
