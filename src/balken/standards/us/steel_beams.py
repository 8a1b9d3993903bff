"""Steel W shapes of ASTM A992 in bending about the strong axis, by AISC 360-16 with allowable strengths; N, mm.

Cb is taken as 1 (permitted by F1; the safe reading).
"""

import math

from balken.catalog.own_beams import WShape
from balken.units.system import PSI

FY = 50_000.0 * PSI
"""ASTM A992."""
E = 29_000_000.0 * PSI
BENDING_SAFETY = 1.67
"""Omega_b (F1)."""


def flexural_strength(w: WShape, unbraced: float) -> tuple[float, str]:
    """Return Mn / 1.67 (N mm) and the clause that sets it; ``unbraced``: between points that hold the pressed flange."""
    plastic = FY * w.plastic
    found = [(plastic, "AISC 360-16 F2.1"), (_turning(w, unbraced, plastic), "AISC 360-16 F2.2")]
    ratio, compact, slender = w.width / (2.0 * w.flange), 0.38 * math.sqrt(E / FY), math.sqrt(E / FY)
    if ratio > compact:  # Table B4.1b, case 10; no W shape has a slender flange at this strength
        part = (ratio - compact) / (slender - compact)
        found.append((plastic - (plastic - 0.7 * FY * w.modulus) * part, "AISC 360-16 F3.2"))
    strength, clause = min(found)
    return strength / BENDING_SAFETY, clause


def _turning(w: WShape, unbraced: float, plastic: float) -> float:
    """Return Mn for lateral-torsional buckling (F2-2 to F2-6)."""
    lp = 1.76 * w.gyration * math.sqrt(E / FY)
    if unbraced <= lp:
        return plastic
    yielding = 0.7 * FY
    thin = w.torsion / (w.modulus * w.between)
    lr = 1.95 * w.rts * E / yielding * math.sqrt(thin + math.sqrt(thin**2 + 6.76 * (yielding / E) ** 2))
    if unbraced <= lr:
        return min(plastic - (plastic - yielding * w.modulus) * (unbraced - lp) / (lr - lp), plastic)
    slender = unbraced / w.rts
    critical = math.pi**2 * E / slender**2 * math.sqrt(1.0 + 0.078 * thin * slender**2)
    return min(critical * w.modulus, plastic)


def shear_strength(w: WShape) -> tuple[float, str]:
    """Return Vn / omega (N) and its clause: 0.6 Fy d tw Cv1 (G2.1), Cv1 by G2.1(b) for webs that are not stocky."""
    slender = (w.depth - 2.0 * w.k) / w.web
    if slender <= 2.24 * math.sqrt(E / FY):
        return 0.6 * FY * w.depth * w.web / 1.50, "AISC 360-16 G2.1(a)"
    limit = 1.10 * math.sqrt(5.34 * E / FY)
    factor = 1.0 if slender <= limit else limit / slender
    return 0.6 * FY * w.depth * w.web * factor / 1.67, "AISC 360-16 G2.1(b)"


def seat_strength(w: WShape, bearing: float, inner: bool) -> tuple[float, str]:
    """Return what the web takes over a seat (N) and the clause: yielding (J10.2) or crippling (J10.3).

    ``inner``: the seat lies at least the beam's depth from its end (for crippling half of it would do).
    """
    yielding = FY * w.web * ((5.0 if inner else 2.5) * w.k + bearing) / 1.50
    thin = (w.web / w.flange) ** 1.5
    long = bearing / w.depth
    part = 3.0 * long if inner or long <= 0.2 else 4.0 * long - 0.2
    root = math.sqrt(E * FY * w.flange / w.web)
    crippling = (0.80 if inner else 0.40) * w.web**2 * (1.0 + part * thin) * root / 2.00
    return min((yielding, "AISC 360-16 J10.2"), (crippling, "AISC 360-16 J10.3"))
