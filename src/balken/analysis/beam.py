"""Beams under uniform load in closed form (any statics handbook, e.g. AISC Manual Table 3-23).

w in N/mm, lengths in mm, E in N/mm2, inertia in mm4; moments in N mm, forces in N.
"""

import math


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


def cantilever_moment(w: float, reach: float) -> float:
    """Moment at the root of a cantilever: w a^2 / 2."""
    return w * reach**2 / 2.0
