"""Buckling of columns and of bending members, and factors of bearing, by ANSI/AWC NDS 2018; N/mm2 and mm."""

import math
from typing import Literal

from balken.catalog.section_record import SectionKind
from balken.units.system import INCH

SAWN = 0.8
"""c of NDS 3.7.1 for sawn lumber."""
REPETITIVE: dict[SectionKind, float] = {
    "sawn": 1.15,
    "laminated veneer": 1.04,
    "glulam": 1.0,
    "I-joist": 1.0,
    "rim board": 1.0,
}
"""Cr: sawn lumber NDS 4.3.9, structural composite lumber 8.3.7; none for glulam (chapter 5) and I-joists (7.3)."""
REPETITIVE_SPACING = 24.0 * INCH
"""Three or more members, no further apart (NDS 4.3.9)."""
SLENDEREST = 50.0
"""le/d of columns at most, NDS 3.7.1.4; also RB of bending members, 3.3.3.7."""


def repetitive_factor(kind: SectionKind, spacing: float) -> float:
    """Return Cr for members at a spacing, mm."""
    return REPETITIVE[kind] if spacing <= REPETITIVE_SPACING + 0.5 else 1.0


def buckling_stress(e_min: float, slenderness: float) -> float:
    """Return FcE = 0.822 Emin' / (le / d)^2 (NDS 3.7.1), N/mm2."""
    return 0.822 * e_min / slenderness**2


def stability_factor(fc_star: float, e_min: float, length: float, depth: float) -> float:
    """Return CP (NDS 3.7.1, equation 3.7-1) for sawn lumber held against buckling the other way."""
    slender = length / depth
    if slender <= 0.0:
        return 1.0
    ratio = buckling_stress(e_min, slender) / fc_star
    half = (1.0 + ratio) / (2.0 * SAWN)
    return float(half - (half**2 - ratio / SAWN) ** 0.5)


def beam_stability_factor(fb_star: float, e_min: float, unbraced: float, breadth: float, depth: float) -> float:
    """Return CL (NDS 3.3.3, equation 3.3-6) of a member loaded all along with ends held against turning over.

    ``unbraced``: length between points that hold its compression edge, 0 where it is held all along.  The
    effective length is that of an even load (Table 3.3.3): 2.06 lu where lu/d < 7, else 1.63 lu + 3 d.
    """
    if unbraced <= 0.0 or depth <= breadth:
        return 1.0
    effective = 2.06 * unbraced if unbraced / depth < 7.0 else 1.63 * unbraced + 3.0 * depth
    slender = math.sqrt(effective * depth / breadth**2)
    if slender > SLENDEREST:
        return 1e-6
    ratio = 1.20 * e_min / slender**2 / fb_star
    half = (1.0 + ratio) / 1.9
    return half - math.sqrt(half**2 - ratio / 0.95)


def bearing_area_factor(length: float, where: Literal["inner", "end"]) -> float:
    """Return Cb = (lb + 0.375 in) / lb (NDS 3.10.4): bearings under 6 in long, 3 in or more from a member's end."""
    if where == "end" or length >= 6.0 * INCH or length <= 0.0:
        return 1.0
    return (length + 0.375 * INCH) / length


def design_span(clear: float, bearings: float) -> float:
    """Return the span of a simple, continuous or cantilevered member (NDS 3.2.1), mm.

    From face to face of the supports plus half the needed bearing at each end; ``bearings``: both halves together.
    """
    return clear + bearings
