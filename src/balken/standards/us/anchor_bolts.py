"""Anchor bolts of a sill plate that take the push of a foundation wall into the floor (ANSI/AWC NDS 2018, 12.3).

The plate is pushed across its grain.  One bolt, single shear, plate on concrete: the least of the yield modes of
Table 12.3.1A.  Dowel bearing of concrete 7500 psi (Table 12E, note), of wood across the grain 6100 G^1.45 / sqrt D
(12.3.3), steel Fyb 45,000 psi.  From memory.
"""

import math

from balken.standards.checks import Check
from balken.standards.measures import working
from balken.units.system import INCH, PSI

DIAMETER = 0.5 * INCH
"""IRC R403.1.6: bolts at least 1/2 in, 7 in into the concrete."""
EMBEDDED = 7.0 * INCH
PLATE = 1.5 * INCH
GRAVITY = 0.55
"""Specific gravity of Southern Pine, of which treated plates are taken to be (NDS Table 12.3.3A)."""
CONCRETE, STEEL = 7500.0 * PSI, 45_000.0 * PSI
PERMANENT = 0.9
"""Load duration: earth presses for good (NDS Table 2.3.2)."""


def bolt_value(diameter: float = DIAMETER) -> float:
    """Return Z across the grain of one bolt, N, before load duration (NDS Table 12.3.1A, 12.3.1B)."""
    fes = 6100.0 * GRAVITY**1.45 / math.sqrt(diameter / INCH) * PSI
    fem, fyb, lm, ls = CONCRETE, STEEL, EMBEDDED, PLATE
    re, rt = fem / fes, lm / ls
    k1 = (math.sqrt(re + 2.0 * re**2 * (1.0 + rt + rt**2) + rt**2 * re**3) - re * (1.0 + rt)) / (1.0 + re)
    k2 = -1.0 + math.sqrt(2.0 * (1.0 + re) + 2.0 * fyb * (1.0 + 2.0 * re) * diameter**2 / (3.0 * fem * lm**2))
    k3 = -1.0 + math.sqrt(2.0 * (1.0 + re) / re + 2.0 * fyb * (2.0 + re) * diameter**2 / (3.0 * fem * ls**2))
    turned = 1.25  # K theta at 90 degrees
    modes = (
        diameter * lm * fem / (4.0 * turned),
        diameter * ls * fes / (4.0 * turned),
        k1 * diameter * ls * fes / (3.6 * turned),
        k2 * diameter * lm * fem / ((1.0 + 2.0 * re) * 3.2 * turned),
        k3 * diameter * ls * fem / ((2.0 + re) * 3.2 * turned),
        diameter**2 / (3.2 * turned) * math.sqrt(2.0 * fem * fyb / (3.0 * (1.0 + re))),
    )
    return float(min(modes))


def bolt_check(push: float, spacing: float) -> Check:
    """Return the check of anchor bolts at a spacing (mm) under a push at the head of the wall, kN/m."""
    each = PERMANENT * bolt_value() / 1000.0
    per_metre = each / (spacing / 1000.0)
    lines = (
        working("1/2 in bolts every {}: Z' = Z x 0.9 = {} each across the plate", (spacing, "length"), (each, "force")),
    )
    return Check("anchor bolts, push into the floor", "NDS 12.3", push, per_metre, "line force", "H", lines)


def bolt_spacing_for(push: float, usual: float) -> float:
    """Return the greatest spacing (mm, whole inches) at which bolts take a push, kN/m, no more than the usual one."""
    each = PERMANENT * bolt_value() / 1000.0
    need = each / push * 1000.0 if push > 0.0 else usual
    return max(math.floor(min(need, usual) / INCH + 1e-9) * INCH, 4.0 * INCH)
