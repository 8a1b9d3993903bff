"""Joints of plywood gussets nailed on both faces of a truss, by ANSI/AWC NDS 2018, 12.3: each stick held by as many nails as find room.

6d common nails (0.113 in, 2 in), single shear, plywood 15/32 in thick as side member: the least of the yield modes of Table 12.3.1A with
KD = 2.2; dowel bearing of lumber 16,600 G^1.84 psi, of plywood 3,350 psi (Table 12.3.3B, other grades), Fyb 100,000 psi (Table I1); all from
memory.  Spacing of nails as the commentary has it for wood that is not prebored: ends 15 D, edges 2.5 D, along the grain 15 D, rows 5 D apart, those of
both faces staggered between one another.
"""

import math
from functools import cache

import numpy as np
from numpy.typing import NDArray

from balken.catalog.gussets import panel
from balken.standards.truss_demands import PlateDemand
from balken.standards.us.dowels import single_shear
from balken.standards.us.ply_nails import GRAVITY
from balken.standards.us.truss_plates import NO_BITE, along_lines, heel_factor, nothing_covered, steel_used
from balken.units.system import INCH, PSI

Array = NDArray[np.float64]
DIAMETER, LENGTH = 0.113 * INCH, 2.0 * INCH
SIDE, MAIN = 15.0 / 32.0 * INCH, 1.5 * INCH
"""Thickness of a gusset and of a stick, mm."""
STEEL, PLYWOOD = 100_000.0 * PSI, 3_350.0 * PSI
END_DISTANCE, EDGE_DISTANCE = 15.0 * DIAMETER, 2.5 * DIAMETER
PER_NAIL = 15.0 * DIAMETER * 5.0 * DIAMETER
"""Of a stick's face that each nail of a gusset takes up, mm2."""
LEAST_BITE = 2.5 * INCH
"""A gusset reaches so far over each stick at least (common practice, no source)."""
LEAST_NAILS = 3
"""In each stick, through each gusset (common practice, no source)."""


@cache
def nail_value(species: str) -> float:
    """Return Z of one nail through a gusset into a stick, N, before load duration; raises KeyError for a species without a specific gravity."""
    if species not in GRAVITY:
        raise KeyError(f"nails have no value in {species}; take {', '.join(GRAVITY)}.")
    fem = 16_600.0 * GRAVITY[species] ** 1.84 * PSI
    main = min(MAIN, LENGTH - SIDE)
    return single_shear(DIAMETER, SIDE, main, PLYWOOD, fem, STEEL) * min(main / (10.0 * DIAMETER), 1.0)


def nails_for(species: str, force: float, duration: float, heel: float | None) -> int:
    """Return how many nails through each gusset hold a stick; at heels more, as plates are cut by the factor for the moment there."""
    factor = heel_factor(heel) if heel is not None else 1.0
    return max(math.ceil(force / (2.0 * nail_value(species) * duration * factor) - 1e-9), LEAST_NAILS)


def least_contact(species: str, force: Array, duration: Array, heel: float | None) -> float:
    """Return the contact with one gusset below which its nails find no room, mm2."""
    return _most_nails(species, force, duration, heel) * PER_NAIL


def _most_nails(species: str, force: Array, duration: Array, heel: float | None) -> int:
    rows = zip(force.tolist(), duration.tolist(), strict=True)
    return max(nails_for(species, one, lasts, heel) for one, lasts in rows)


def gusset_used(case: PlateDemand) -> tuple[float, str]:
    """Return how far a pair of gussets is used by a stick at a joint, and by what: the most of all checks in all combinations."""
    room = math.floor(case.contact / PER_NAIL + 1e-6)
    if min(case.bite) < LEAST_BITE - 0.5 or room < 1:
        return NO_BITE, "bite"
    force = np.hypot(case.forces[:, 0], case.forces[:, 1])
    rows = [(LEAST_NAILS / room, "least nails")]
    rows.append((_most_nails(case.species, force, case.durations, case.heel) / room, "nails"))
    rows += [(float((steel_used(*line, panel()) / case.durations).max()), "plywood") for line in along_lines(case)]
    if nothing_covered(case):
        rows.append((NO_BITE, "bite"))
    return max(rows)
