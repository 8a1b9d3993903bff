"""Beams under uniform load in closed form (any statics handbook, e.g. AISC Manual Table 3-23).

w in N/mm, lengths in mm, E in N/mm2, inertia in mm4; moments in N mm, forces in N.
"""

import math
from typing import NamedTuple


class TwoSpans(NamedTuple):
    """What two spans in one piece bring to their supports, in order, and the moments: over the middle one (its size), the greatest."""

    first: float
    middle: float
    last: float
    over: float
    most: float


def two_spans(w: float, a: float, b: float) -> TwoSpans:
    """Return supports' forces and moments of a beam over two spans a and b, evenly loaded all along.

    Three moments (Clapeyron) give w (a^3 + b^3) / (8 (a + b)) over the middle support; between supports the moment is greatest
    where shear is nothing.
    """
    over = w * (a**3 + b**3) / (8.0 * (a + b))
    first, last = w * a / 2.0 - over / a, w * b / 2.0 - over / b
    spans = (force**2 / (2.0 * abs(w)) if w else 0.0 for force in (first, last))
    return TwoSpans(first, w * (a + b) - first - last, last, abs(over), max(abs(over), *spans))


def simple_moment(w: float, span: float) -> float:
    """Greatest moment of a simple beam: w L^2 / 8."""
    return w * span**2 / 8.0


def simple_shear(w: float, span: float, from_end: float = 0.0) -> float:
    """Shear at a distance from the face of the support: w (L / 2 - x), not below zero."""
    return max(w * (span / 2.0 - from_end), 0.0)


def simple_deflection(w: float, span: float, modulus: float, inertia: float) -> float:
    """Deflection at mid-span of a simple beam: 5 w L^4 / (384 E I)."""
    return 5.0 * w * span**4 / (384.0 * modulus * inertia)


def sloped_deflection(w: float, run: float, pitch: float, modulus: float, inertia: float) -> float:
    """Deflection square to a sloped beam whose load w lies on its plan length ``run``.

    The part of the load square to the beam is w cos^2 a mm of slope; the length is run / cos a.
    """
    cos2 = 1.0 / (1.0 + pitch**2)
    return simple_deflection(w * cos2, run / math.sqrt(cos2), modulus, inertia)


def tied_moment(w: float, run: float, lift: float, at: float, x: float) -> float:
    """Moment at x of a rafter ``run`` in plan, evenly loaded, that a raised tie pulls inward at ``at`` of its run.

    ``lift``: the tie's pull times the rise of the rafter.  Moments of the half pair about the place: the pull bends as a load at
    the tie on a simple beam does.  With the pull that the same load causes, times the rise w run^2 / (2 (1 - at)), that at the tie is
    w run^2 (at - at^2/2): the span factors of IRC R802.4.1 are the roots of 1/8 over that.  The greatest stands above the tie where
    that lies lower than 0.29, w run^2 / (8 (1 - at)^2), and is what is asked for here.
    """
    pulled = lift * (1.0 - at) * x / run if x <= at * run else lift * at * (1.0 - x / run)
    return w * x * (run - x) / 2.0 + pulled


def greatest_tied_moment(w: float, run: float, lift: float, at: float) -> float:
    """Return the greatest moment of such a rafter, in size: at the tie, or where shear is nothing beside it."""
    places = [0.5 * run, at * run]
    if w != 0.0:
        below = run / 2.0 + lift * (1.0 - at) / (w * run)
        above = run / 2.0 - lift * at / (w * run)
        places += [min(max(below, 0.0), at * run), min(max(above, at * run), run)]
    return max(abs(tied_moment(w, run, lift, at, x)) for x in places)


def point_deflection(force: float, at: float, span: float, modulus: float, inertia: float) -> float:
    """Greatest deflection of a simple beam under a force at ``at`` from one end: F a (L^2 - a^2)^1.5 / (9 sqrt(3) L E I), a the
    nearer end's distance.
    """
    a = min(at, span - at)
    return force * a * math.sqrt(span**2 - a**2) * (span**2 - a**2) / (9.0 * math.sqrt(3.0) * span * modulus * inertia)


def cantilever_moment(w: float, reach: float) -> float:
    """Moment at the root of a cantilever: w a^2 / 2."""
    return w * reach**2 / 2.0
