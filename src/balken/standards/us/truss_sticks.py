"""Sticks of wood trusses by ANSI/AWC NDS 2018, many at a time: axial force with bending, buckling both ways, shear.

Chords are held by deck and ceiling (CL = 1); columns by the equations of 3.7, their effective length the distance between joints or
braces (Ke = 1.0); truss chords repeated take Cr (4.3.9), no buckling stiffness factor CT is taken (4.4.2).  3.9.2 multiplies moments
by 1 / (1 - fc / FcE): whole halfway between steady joints, less beside them as a sine wave has it.
"""

from functools import lru_cache

import numpy as np
from numpy.typing import NDArray

from balken.catalog.sections import section
from balken.standards.checks import Check
from balken.standards.measures import working
from balken.standards.truss_demands import StickDemands, StickUses
from balken.standards.us.stability import SAWN, SLENDEREST, repetitive_factor
from balken.standards.us.stud_checks import WIND_FOR_SAG
from balken.standards.us.values import reference_values, size_factors

Array = NDArray[np.float64]
SLENDEREST_PULLED = 80.0
"""le/d of sticks in tension at most (ANSI/TPI 1, 6.3; from memory)."""
OVER = 99.0
"""Used where a column is past its buckling load."""


def check_sticks(case: StickDemands) -> StickUses:
    """Check elements of trusses under every combination.  Raises KeyError for unknown sizes, species or grades."""
    each = np.array(
        [_of_stick(case.species, grade, size) for size, grade in zip(case.sizes, case.grades, strict=True)]
    ).T
    depth, breadth = each[:2]
    area, modulus, fb, ft, fc, fv, e_min = each[2:, :, None]
    cr = np.where(case.chord, repetitive_factor("sawn", case.spacing), 1.0)[:, None]
    cd = case.durations[None, :]
    pull, press = np.maximum(case.most, 0.0) / case.plies, np.maximum(-case.least, 0.0) / case.plies
    bent, sheared = case.bent / case.plies, case.sheared / case.plies
    fb_all, ft_all, fc_star = fb * cd * cr, ft * cd, fc * cd
    stresses = bent / modulus, pull / area, press / area
    slender = case.inside / depth, case.aside / breadth
    fce = [_buckling(e_min, row[..., None]) for row in slender]
    fc_all = fc_star * _stability(np.minimum(*fce) / fc_star)
    used = stresses[2] / fc_all
    left = 1.0 - stresses[2] / fce[0]
    # What presses bends a stick further where it bows out, and at steady joints not at all.
    swells = 1.0 + (1.0 / np.maximum(left, 1e-9) - 1.0) * case.bows
    both = used**2 + (stresses[0] * swells).max(axis=0) / fb_all
    both = np.where(left > 0.0, both, OVER)
    pressed, pulled = (press > 1.0).astype(float), (pull > 1.0).astype(float)
    most = np.maximum(*slender)[..., None]
    web = (~case.chord).astype(float)[:, None]
    return StickUses(
        (
            ("compression", "NDS 3.6.3, 3.7.1", used),
            ("compression and bending", "NDS 3.9.2", both * pressed),
            ("tension and bending", "NDS 3.9.1", stresses[1] / ft_all + stresses[0].max(axis=0) / fb_all),
            ("shear", "NDS 3.4.2", 1.5 * sheared / area / (fv * cd)),
            ("slenderness le/d", "NDS 3.7.1.4", _past(pressed * most / SLENDEREST)),
            ("slenderness of what is pulled", "ANSI/TPI 1, 6.3", _past(web * pulled * most / SLENDEREST_PULLED)),
        )
    )


@lru_cache(maxsize=200)
def _of_stick(species: str, grade: str, size: str) -> tuple[float, ...]:
    """Return depth, breadth, area, modulus of a stick, and what its wood takes with size factors: Fb, Ft, Fc, Fv, Emin."""
    lumber = section(size)
    v, (cf_b, cf_t, cf_c) = reference_values(species, grade, lumber), size_factors(species, grade, lumber)
    measures = lumber.depth, lumber.breadth, lumber.area, lumber.modulus
    return *measures, v.fb * cf_b, v.ft * cf_t, v.fc * cf_c, v.fv, v.e_min


FLAT_USE = {"2x4": 1.10, "2x6": 1.15}
"""Cfu of lumber 2 in thick bent across its wide face (NDS Supplement, Table 4A; from memory)."""
SAG_OF_STUDS = 120.0


def check_gable_stud(
    size: str, species: str, grade: str, clear: float, spacing: float, pressure: float, braced: bool
) -> Check:
    """Check a stud of a gable frame against wind square to the frame: it lies flat, and bends across its thickness; where it is ``braced``
    a board of the same size nailed square to its edge takes all of it (NDS 3.3.1, 4.3.7; IRC R301.7).

    ``pressure``: kN/m2 at strength level, 0.6 of which acts (ASCE 7-16, 2.4.1).
    """
    lumber = section(size)
    values, factors = reference_values(species, grade, lumber), size_factors(species, grade, lumber)
    line = pressure * spacing / 1000.0
    modulus = lumber.modulus if braced else lumber.depth * lumber.breadth**2 / 6.0
    inertia = lumber.inertia if braced else lumber.depth * lumber.breadth**3 / 12.0
    flat = 1.0 if braced else FLAT_USE.get(size, 1.0)
    moment = 0.6 * line * clear**2 / 8.0
    allowed = values.fb * 1.6 * factors[0] * flat * repetitive_factor("sawn", spacing)
    sag, limit = 5.0 * WIND_FOR_SAG * line * clear**4 / (384.0 * values.e * inertia), clear / SAG_OF_STUDS
    lines = (
        working("clear {}, w = {}", (clear, "length"), (0.6 * line, "line force")),
        working("M = {}, Fb' = {}", (moment * 1e-6, "moment"), (allowed, "stress")),
    )
    if moment / modulus / allowed >= sag / limit:
        return Check("bending under wind", "NDS 3.3.1", moment / modulus, allowed, "stress", "0.6 W", lines)
    return Check(f"deflection H/{SAG_OF_STUDS:g}", "IRC R301.7", sag, limit, "length", "wind, serviceability", lines)


def _past(used: Array) -> Array:
    """Return how far limits are passed; below them they say nothing about strength."""
    found: Array = np.where(used > 1.0 + 1e-9, used, 0.0)
    return found


def check_seat(
    size: str, species: str, grade: str, force: float, length: float, combination: str, more: float = 0.0
) -> Check:
    """Check compression across the grain over a bearing, Cb = 1 at the end of a member (NDS 3.10.2, 3.10.4); ``more``: how much wider blocks
    beside it make it, mm.
    """
    lumber = section(size)
    values = reference_values(species, grade, lumber)
    stress = max(force, 0.0) / ((lumber.breadth + more) * max(length, 1.0))
    lines = (working("R = {} on {} of bearing", (force / 1000.0, "force"), (length, "length")),)
    if more > 0.0:
        lines = (
            working(
                "R = {} on {} of bearing, {} wide with blocks",
                (force / 1000.0, "force"),
                (length, "length"),
                (lumber.breadth + more, "length"),
            ),
        )
    return Check("bearing", "NDS 3.10.2", stress, values.fc_perp, "stress", combination, lines)


def _buckling(e_min: Array, slender: Array) -> Array:
    """Return FcE (NDS 3.7.1); without bound where nothing can buckle."""
    with np.errstate(divide="ignore"):
        found: Array = 0.822 * e_min / np.maximum(slender, 1e-6) ** 2
    return found


def _stability(ratio: Array) -> Array:
    """Return CP of FcE / Fc* (NDS equation 3.7-1)."""
    half = (1.0 + ratio) / (2.0 * SAWN)
    # The same as half - sqrt(half^2 - ratio / c), without loss of digits where the ratio is great.
    found: Array = (ratio / SAWN) / (half + np.sqrt(half**2 - ratio / SAWN))
    return found
