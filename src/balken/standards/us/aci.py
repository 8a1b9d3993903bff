"""Equations of ACI 318-19 used for footings and walls, one function each; N and mm, stresses in N/mm2.

Written from memory of the code; clause numbers are those of ACI 318-19.  The code's square root of f'c
is in psi; ``root_fc`` returns that stress in N/mm2, so that the code's factors can be kept.
Normal-weight concrete (lambda = 1, 19.2.4).
"""

import math

from balken.loads.cases import Cases, Combination
from balken.units.system import INCH, PSI

PHI_PLAIN = 0.60
"""Table 21.2.1: plain concrete."""
PHI_FLEXURE = 0.90
"""Table 21.2.2: tension-controlled sections."""
PHI_SHEAR = 0.75
"""Table 21.2.1: shear."""
PHI_BEARING = 0.65
"""Table 21.2.1: bearing."""
STEEL_MODULUS = 29_000_000.0 * PSI
COVER_EARTH = 3.0 * INCH
"""Table 20.5.1.3.1: cast against and permanently in contact with ground."""
COVER_FORMED = 1.5 * INCH
"""Table 20.5.1.3.1: exposed to weather or ground, No. 5 bars and smaller."""
LEAST_PLAIN_FOOTING = 8.0 * INCH
"""14.3.2.1."""
LEAST_BELOW_BARS = 6.0 * INCH
"""13.3.1.2: least effective depth of a reinforced footing."""
LEAST_REINFORCED = LEAST_BELOW_BARS + COVER_EARTH + 0.5 * INCH
"""No reinforced footing is thinner: 6 in above the bars, the bar, 3 in below (13.3.1.2, Table 20.5.1.3.1)."""
ROUGH_BOTTOM = 2.0 * INCH
"""14.5.1.7: thickness of plain concrete cast against soil is taken 2 in less."""

STRENGTH: tuple[Combination, ...] = (
    Combination("1.4 D", Cases(1.4), 1.0),
    Combination("1.2 D + 1.6 L", Cases(1.2, 1.6), 1.0),
    Combination("1.2 D + 1.6 L + 0.5 Lr", Cases(1.2, 1.6, 0.5), 1.0),
    Combination("1.2 D + 1.6 L + 0.5 S", Cases(1.2, 1.6, 0.0, 0.5), 1.0),
    Combination("1.2 D + 1.6 Lr + L", Cases(1.2, 1.0, 1.6), 1.0),
    Combination("1.2 D + 1.6 S + L", Cases(1.2, 1.0, 0.0, 1.6), 1.0),
    Combination("1.2 D + W + L + 0.5 S", Cases(1.2, 1.0, 0.0, 0.5, 1.0), 1.0),
    Combination("0.9 D + W", Cases(0.9, 0.0, 0.0, 0.0, 1.0), 1.0),
)
"""5.3.1, equations 5.3.1a to 5.3.1f without earthquake; the live load factor 1.0 beside others is kept."""


def factored(cases: Cases) -> tuple[float, Combination]:
    """Return the greatest factored value and its combination (5.3.1)."""
    return max(((c.of(cases), c) for c in STRENGTH), key=lambda pair: pair[0])


def root_fc(fc: float) -> float:
    """Return sqrt(f'c) as a stress, N/mm2; ``fc`` in N/mm2, at most 10,000 psi counts (22.5.3.1)."""
    return math.sqrt(min(fc / PSI, 10_000.0)) * PSI


# Plain concrete, chapter 14 ---------------------------------------------------------------------


def plain_moment(fc: float, width: float, height: float) -> float:
    """Return Mn = 5 sqrt(f'c) Sm (14.5.2.1a), N mm."""
    return 5.0 * root_fc(fc) * width * height**2 / 6.0


def plain_shear(fc: float, width: float, height: float) -> float:
    """Return Vn = 4/3 sqrt(f'c) b h one way (14.5.5.1a), N."""
    return 4.0 / 3.0 * root_fc(fc) * width * height


def plain_punching(fc: float, perimeter: float, height: float, beta: float) -> float:
    """Return Vn = (1 + 2/beta) 4/3 sqrt(f'c) bo h, at most 8/3 sqrt(f'c) bo h (14.5.5.1b, c), N."""
    return min(1.0 + 2.0 / beta, 2.0) * 4.0 / 3.0 * root_fc(fc) * perimeter * height


def plain_axial(fc: float, area: float, free: float, height: float) -> float:
    """Return Pn = 0.60 f'c Ag (1 - (lc / 32 h)^2) (14.5.3.1), N; ``free``: height between supports lc."""
    return 0.60 * fc * area * max(1.0 - (free / (32.0 * height)) ** 2, 0.0)


# Reinforced concrete ------------------------------------------------------------------------------


def steel_for(moment: float, fc: float, fy: float, width: float, depth: float) -> float:
    """Return As (mm2) for phi Mn = Mu with a rectangular stress block (22.2, 22.3); inf when it cannot be."""
    k = 2.0 * moment / (PHI_FLEXURE * 0.85 * fc * width * depth**2)
    if k >= 1.0:
        return math.inf
    return 0.85 * fc * width * depth * (1.0 - math.sqrt(1.0 - k)) / fy


def bending_strength(steel: float, fc: float, fy: float, width: float, depth: float) -> float:
    """Return Mn = As fy (d - a/2), a = As fy / (0.85 f'c b) (22.2, 22.3), N mm."""
    a = steel * fy / (0.85 * fc * width)
    return steel * fy * (depth - a / 2.0)


def beta_one(fc: float) -> float:
    """Return beta1 (Table 22.2.2.4.3)."""
    return min(max(0.85 - 0.05 * (fc / PSI - 4000.0) / 1000.0, 0.65), 0.85)


def net_strain(steel: float, fc: float, fy: float, width: float, depth: float) -> float:
    """Return the net tensile strain at nominal strength (21.2.2); at least fy/Es + 0.003 is tension-controlled."""
    neutral = steel * fy / (0.85 * fc * width) / beta_one(fc)
    return 0.003 * (depth - neutral) / neutral if neutral > 0.0 else math.inf


def one_way_shear(fc: float, width: float, depth: float, steel: float) -> float:
    """Return Vc = 8 (rho_w)^(1/3) sqrt(f'c) b d (Table 22.5.5.1c), at most 5 sqrt(f'c) b d, N.

    The size effect is left out, as 13.2.6.2 permits for footings.
    """
    rho = steel / (width * depth)
    return float(min(8.0 * rho ** (1.0 / 3.0), 5.0) * root_fc(fc) * width * depth)


def size_effect(depth: float) -> float:
    """Return lambda_s = sqrt(2 / (1 + d/10)), d in inches, at most 1 (22.5.5.1.3); footings may leave it out (13.2.6.2)."""
    return min(math.sqrt(2.0 / (1.0 + depth / INCH / 10.0)), 1.0)


def two_way_shear(fc: float, perimeter: float, depth: float, beta: float, alpha: float = 40.0) -> float:
    """Return Vc (Table 22.6.5.2) without the size effect (13.2.6.2), N; ``alpha``: 40 for an inside column."""
    factor = min(4.0, 2.0 + 4.0 / beta, 2.0 + alpha * depth / perimeter)
    return factor * root_fc(fc) * perimeter * depth


def least_steel(width: float, height: float) -> float:
    """Return As,min = 0.0018 Ag (7.6.1.1, 8.6.1.1, 24.4.3.2), mm2."""
    return 0.0018 * width * height


def widest_spacing(height: float) -> float:
    """Return the greatest bar spacing, 3 h but at most 18 in (7.7.2.3), mm."""
    return min(3.0 * height, 18.0 * INCH)


def development(diameter: float, fc: float, fy: float) -> float:
    """Return ld in tension (25.4.2.3) for bars well apart with cover of a bar or more, at least 12 in, mm."""
    factor = 25.0 if diameter <= 0.76 * INCH else 20.0
    grade = 1.0 if fy <= 60_500.0 * PSI else 1.15 if fy <= 80_500.0 * PSI else 1.3
    return max(fy * grade / (factor * root_fc(fc)) * diameter, 12.0 * INCH)


def hooked_development(diameter: float, fc: float, fy: float, spacing: float = 0.0) -> float:
    """Return ldh of a standard hook (25.4.3.1) with psi_c by f'c, at least 8 db and 6 in, mm.

    psi_r = 1.0 for bars six diameters apart or more, else 1.6; with 1.0 psi_o = 1.25 is taken (Table 25.4.3.2).
    """
    psi_c = fc / PSI / 15_000.0 + 0.6 if fc < 6000.0 * PSI else 1.0
    apart = 1.25 if spacing >= 6.0 * diameter else 1.6
    length = fy * apart * psi_c / (55.0 * root_fc(fc)) * (diameter / INCH) ** 1.5 * INCH
    return float(max(length, 8.0 * diameter, 6.0 * INCH))


def bearing_strength(fc: float, loaded: float, below: float) -> float:
    """Return Bn = 0.85 f'c A1 sqrt(A2/A1), the root at most 2 (22.8.3.2), N."""
    return 0.85 * fc * loaded * min(math.sqrt(max(below / loaded, 1.0)), 2.0)
