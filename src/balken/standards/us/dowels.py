"""Dowels in single shear: yield modes of ANSI/AWC NDS 2018, Table 12.3.1A, for nails and the like no thicker than 0.17 in (from memory)."""

import math

KD = 2.2
"""Reduction term for diameters up to 0.17 in (Table 12.3.1B)."""


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
