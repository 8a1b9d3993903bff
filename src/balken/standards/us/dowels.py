"""Dowels in single shear: yield modes of ANSI/AWC NDS 2018, Table 12.3.1A, and of AWC TR 12 across a gap, for nails and the like no thicker than 0.17 in (from memory)."""

import math

KD = 2.2
"""Reduction term for diameters up to 0.17 in (Table 12.3.1B)."""


def across_a_gap(d: float, side: float, main: float, gap: float, fes: float, fem: float, fyb: float) -> float:
    """Return Z of a dowel in single shear across a gap that bears nothing, N: the least of the roots that the general dowel equations of
    AWC TR 12 (Table 1-1, from memory) have, over KD = 2.2; lengths in mm, strengths in N/mm2.  Without a gap it is ``single_shear``.
    """
    qs, qm, hinge = fes * d, fem * d, fyb * d**3 / 6.0
    rows = (
        (1.0 / (4.0 * qs) + 1.0 / (4.0 * qm), (side + main) / 2.0 + gap, (qs * side**2 + qm * main**2) / 4.0),  # II
        (1.0 / (2.0 * qs) + 1.0 / (4.0 * qm), main / 2.0 + gap, hinge + qm * main**2 / 4.0),  # III m
        (1.0 / (4.0 * qs) + 1.0 / (2.0 * qm), side / 2.0 + gap, hinge + qs * side**2 / 4.0),  # III s
        (1.0 / (2.0 * qs) + 1.0 / (2.0 * qm), gap, 2.0 * hinge),  # IV
    )
    roots = [(-b + math.sqrt(b**2 + 4.0 * a * c)) / (2.0 * a) for a, b, c in rows]
    return min(qs * side, qm * main, *roots) / KD


def single_shear(d: float, side: float, main: float, fes: float, fem: float, fyb: float) -> float:
    """Return Z of a dowel in single shear without a gap, N: the least of the yield modes of NDS Table 12.3.1A with KD = 2.2 (D <= 0.17 in);
    lengths in mm, bearing strengths of side and main member and bending yield strength in N/mm2.
    """
    re, rt = fem / fes, main / side
    k1 = (math.sqrt(re + 2.0 * re**2 * (1.0 + rt + rt**2) + rt**2 * re**3) - re * (1.0 + rt)) / (1.0 + re)
    k2 = -1.0 + math.sqrt(2.0 * (1.0 + re) + 2.0 * fyb * (1.0 + 2.0 * re) * d**2 / (3.0 * fem * main**2))
    k3 = -1.0 + math.sqrt(2.0 * (1.0 + re) / re + 2.0 * fyb * (2.0 + re) * d**2 / (3.0 * fem * side**2))
    modes = (
        d * main * fem / KD,
        d * side * fes / KD,
        k1 * d * side * fes / KD,
        k2 * d * main * fem / ((1.0 + 2.0 * re) * KD),
        k3 * d * side * fem / ((2.0 + re) * KD),
        d**2 / KD * math.sqrt(2.0 * fem * fyb / (3.0 * (1.0 + re))),
    )
    return min(modes)
