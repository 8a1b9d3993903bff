"""What a roof truss fills: the top edge of its top chord, the underside of its bottom chord, what it bears on.

x along the truss from the outer face of its first bearing, y upward from the head of that bearing, mm.
"""

import itertools
import math

from balken.geometry.plane import Point
from balken.units.system import FOOT
from balken.value import Value

STEEP = 0.36
"""Tangent of the least angle between a web beside a heel and the top chord: 20 degrees."""


TOP_PANEL = 8.0 * FOOT
"""Panels of the top chord are no longer in plan where nothing is typed (common practice, no source)."""
BOTTOM_PANEL = 10.5 * FOOT
"""Panels of the bottom chord are no longer (common practice, no source)."""
STEP = 0.01
"""An upright step of an outline runs over so much, mm."""


class TrussError(ValueError):
    """A truss that cannot be made so, in words; raised before anything is solved."""


class Bearing(Value, frozen=True):
    """What a truss bears on: from where to where along it, and how high, mm; ``widens``: whether blocks beside the truss bear there, too,
    as they do on a wall and not in a hanger.
    """

    low: float
    high: float
    level: float = 0.0
    widens: bool = True

    @property
    def middle(self) -> float:
        """Its middle."""
        return (self.low + self.high) / 2.0


class TailEnd(Value, frozen=True):
    """How a top chord ends that runs on over a bearing: square to itself (``level`` None), or plumb and below a level cut off there, mm."""

    level: float | None = None


class TrussOutline(Value, frozen=True):
    """Both outlines as polylines from left to right, and bearings.

    ``top`` runs from the tip of one overhang to that of the other, ``bottom`` over the span from outer face to outer face; ``tails``: how
    the top chord ends at both, None: plumb; ``on_top``: it bears on its top chord, and its bottom chord ends inside what it bears on.
    """

    top: tuple[Point, ...]
    bottom: tuple[Point, ...]
    bearings: tuple[Bearing, ...]
    tails: tuple[TailEnd | None, TailEnd | None] = (None, None)
    on_top: bool = False
    panels: tuple[float, float] = (TOP_PANEL, BOTTOM_PANEL)
    """How long panels of its top and of its bottom chord may be where webs are chosen, mm in plan."""
    covers: tuple[tuple[float, float], tuple[float, float]] | None = None
    """From where to where roof and ceiling reach that it carries; None: its top chord the one, from bearing to bearing the other."""

    @property
    def heels(self) -> tuple[float, float]:
        """Where its top chord comes in over its outermost bearings from outside."""
        return (self.bearings[0].low, self.bearings[-1].high) if self.on_top else (self.start, self.end)

    @property
    def under(self) -> tuple[Point, ...]:
        """What plates stay over, from left to right: its underside, and the heads of what it bears on with its top chord."""
        if not self.on_top:
            return self.bottom
        (first, last), (low, high) = (self.bearings[0], self.bearings[-1]), (self.start, self.end)
        return (
            (first.low, first.level),
            (low - STEP, first.level),
            *self.bottom,
            (high + STEP, last.level),
            (last.high, last.level),
        )

    @property
    def span(self) -> float:
        """From outer face to outer face, mm."""
        return self.bottom[-1][0] - self.bottom[0][0]

    @property
    def start(self) -> float:
        """Where it begins: the outer face of its first bearing."""
        return self.bottom[0][0]

    @property
    def end(self) -> float:
        """Where it ends."""
        return self.bottom[-1][0]

    @property
    def past(self) -> tuple[float, float]:
        """How far its heels stand out past its outermost bearings at both ends, mm."""
        return self.bearings[0].low - self.start, self.end - self.bearings[-1].high


def height_on(line: tuple[Point, ...], x: float) -> float:
    """Return the height of a polyline at x; beyond its ends it runs on straight."""
    for (x0, y0), (x1, y1) in itertools.pairwise(line):
        if x <= x1 or (x1, y1) == line[-1]:
            return y0 + (y1 - y0) * (x - x0) / (x1 - x0)
    return line[0][1]


def slope_on(line: tuple[Point, ...], x: float) -> float:
    """Return the slope of a polyline just before x (rise over run)."""
    for (x0, y0), (x1, y1) in itertools.pairwise(line):
        if x <= x1 or (x1, y1) == line[-1]:
            return (y1 - y0) / (x1 - x0)
    return 0.0


def moved(line: tuple[Point, ...], by: float) -> tuple[Point, ...]:
    """Return a polyline moved square to itself, upward where ``by`` is above zero; its ends stay at their x."""
    rows = []
    for (x0, y0), (x1, y1) in itertools.pairwise(line):
        pitch = (y1 - y0) / (x1 - x0)
        rows.append((x0, y0 + by * math.hypot(1.0, pitch), pitch))
    first, last = rows[0], rows[-1]
    made = [(line[0][0], first[1])]
    for (xa, ya, pa), (xb, yb, pb) in itertools.pairwise(rows):
        x = xb if abs(pa - pb) < 1e-12 else (yb - ya + pa * xa - pb * xb) / (pa - pb)
        made.append((x, ya + pa * (x - xa)))
    x = line[-1][0]
    return (*made, (x, last[1] + last[2] * (x - last[0])))


def ridged(
    span: float, pitch: float, heel: float, over: float, bearing: float, bottom_pitch: float = 0.0
) -> TrussOutline:
    """Return the outline under two slopes alike; ``heel``: from bearing to top edge at the outer face.

    A bottom chord that rises to the middle begins at the inner edge of its bearings, so that they lie under it whole.
    """
    half = span / 2.0
    top = ((-over, heel - pitch * over), (half, heel + pitch * half), (span + over, heel - pitch * over))
    sinks = -bottom_pitch * bearing
    level = ((0.0, 0.0), (span, 0.0))
    bottom = level if bottom_pitch == 0.0 else ((0.0, sinks), (half, sinks + bottom_pitch * half), (span, sinks))
    return TrussOutline(top, bottom, (Bearing(0.0, bearing), Bearing(span - bearing, span)))


def sloped(span: float, pitch: float, heel: float, over: float, bearing: float) -> TrussOutline:
    """Return the outline under one slope that rises to the right; the top chord runs on over the lower bearing alone."""
    top = ((-over, heel - pitch * over), (span, heel + pitch * span))
    return TrussOutline(top, ((0.0, 0.0), (span, 0.0)), (Bearing(0.0, bearing), Bearing(span - bearing, span)))


def alongside(span: float, pitch: float, heel: float, over: float, bearing: float) -> TrussOutline:
    """Return the outline of chords that run alongside one another.

    Where they rise, the second bearing lies higher; both bear on the lower corner of their seats, which are cut level.
    """
    sinks = -pitch * bearing
    rise = pitch * span
    top = ((-over, heel - pitch * over), (span + over, heel + rise + pitch * over))
    # The seat of the upper bearing: the underside at its lower edge.
    upper = Bearing(span - bearing, span, sinks + rise)
    return TrussOutline(top, ((0.0, sinks), (span, sinks + rise)), (Bearing(0.0, bearing), upper))
