"""Reference design values of visually graded dimension lumber, 2 to 4 in thick.

NDS Supplement 2018: Table 4A (DF-L, Hem-Fir, S-P-F), Table 4B (Southern Pine) and Table 4C (machine-rated), psi as printed,
written down from memory.  Southern Pine values are tabulated by depth and include the size factor.
"""

from functools import lru_cache

from msgspec.structs import replace

from balken.catalog.section_record import Section
from balken.catalog.species import grade_name, species_name
from balken.standards.us.engineered import VENEER, VENEER_FC, VENEER_FT, depth_factor
from balken.units.system import PSI
from balken.value import Value


class Values(Value, frozen=True):
    """Reference design values, N/mm2 (NDS symbols)."""

    fb: float
    ft: float
    fv: float
    fc_perp: float
    fc: float
    e: float
    e_min: float


_4A: dict[str, dict[str, tuple[float, ...]]] = {
    "DF-L": {
        "Select Structural": (1500, 1000, 180, 625, 1700, 1_900_000, 690_000),
        "No. 1": (1000, 675, 180, 625, 1500, 1_700_000, 620_000),
        "No. 2": (900, 575, 180, 625, 1350, 1_600_000, 580_000),
        "No. 3": (525, 325, 180, 625, 775, 1_400_000, 510_000),
        "Stud": (700, 450, 180, 625, 850, 1_400_000, 510_000),
    },
    "Hem-Fir": {
        "Select Structural": (1400, 925, 150, 405, 1500, 1_600_000, 580_000),
        "No. 1": (975, 625, 150, 405, 1350, 1_500_000, 550_000),
        "No. 2": (850, 525, 150, 405, 1300, 1_300_000, 470_000),
        "No. 3": (500, 300, 150, 405, 725, 1_200_000, 440_000),
        "Stud": (675, 400, 150, 405, 800, 1_200_000, 440_000),
    },
    "S-P-F": {
        "Select Structural": (1250, 700, 135, 425, 1400, 1_500_000, 550_000),
        "No. 1/No. 2": (875, 450, 135, 425, 1150, 1_400_000, 510_000),
        "No. 3": (500, 250, 135, 425, 650, 1_200_000, 440_000),
        "Stud": (675, 350, 135, 425, 725, 1_200_000, 440_000),
    },
}

# Southern Pine: by nominal depth 4, 6, 8, 10, 12: (Fb, Ft, Fc); then (E, Emin); Fv 175, Fc perp 565.
_4B: dict[str, tuple[dict[int, tuple[float, float, float]], tuple[float, float]]] = {
    "Select Structural": (
        {
            4: (2350, 1650, 1900),
            6: (2100, 1450, 1800),
            8: (1950, 1350, 1700),
            10: (1700, 1150, 1650),
            12: (1600, 1100, 1650),
        },
        (1_800_000, 660_000),
    ),
    "No. 1": (
        {
            4: (1500, 1000, 1650),
            6: (1350, 875, 1550),
            8: (1250, 800, 1500),
            10: (1050, 700, 1450),
            12: (1000, 650, 1400),
        },
        (1_600_000, 580_000),
    ),
    "No. 2": (
        {4: (1100, 675, 1450), 6: (1000, 600, 1400), 8: (925, 550, 1350), 10: (800, 475, 1300), 12: (750, 450, 1250)},
        (1_400_000, 510_000),
    ),
    "No. 3": (
        {4: (650, 400, 850), 6: (575, 350, 800), 8: (525, 325, 775), 10: (475, 275, 750), 12: (450, 250, 725)},
        (1_300_000, 470_000),
    ),
}

# Machine stress-rated lumber, 2 in thick (NDS Supplement 2018, Table 4C, from memory): Fb, Ft, Fc, E, Emin; shear and bearing are those of
# the species.
_4C: dict[str, tuple[float, float, float, float, float]] = {
    "1650f-1.5E": (1650, 1020, 1700, 1_500_000, 760_000),
    "1800f-1.6E": (1800, 1175, 1750, 1_600_000, 810_000),
    "2100f-1.8E": (2100, 1575, 1875, 1_800_000, 910_000),
    "2400f-2.0E": (2400, 1925, 1975, 2_000_000, 1_020_000),
}

# Size factor CF by nominal depth: (Fb 2 and 3 in thick, Fb 4 in thick, Ft, Fc), NDS Supplement Table 4A.
_CF: dict[int, tuple[float, float, float, float]] = {
    4: (1.5, 1.5, 1.5, 1.15),
    6: (1.3, 1.3, 1.3, 1.1),
    8: (1.2, 1.3, 1.2, 1.05),
    10: (1.1, 1.2, 1.1, 1.0),
    12: (1.0, 1.1, 1.0, 1.0),
    14: (0.9, 1.0, 0.9, 0.9),
}
_CF_STUD: dict[int, tuple[float, float, float, float]] = {4: (1.1, 1.1, 1.1, 1.05), 6: (1.0, 1.0, 1.0, 1.0)}


@lru_cache(maxsize=2000)
def size_factors(species: str, grade: str, section: Section) -> tuple[float, float, float]:
    """Return CF on (Fb, Ft, Fc), NDS Supplement Tables 4A and 4B (notes on the size factor).

    Stud grade 8 in and deeper takes No. 3 values and factors.  Veneer lumber takes its makers' (12/d)^(1/9) on Fb.
    """
    if section.kind == "laminated veneer":
        return depth_factor(section.depth), 1.0, 1.0
    thick, deep = section.nominal
    if grade in _4C:
        if thick == 2:
            return 1.0, 1.0, 1.0
        grade = "No. 2"
    if species == "Southern Pine":
        factor = (1.1 if thick == 4 and deep >= 8 else 1.0) * (0.9 if deep > 12 else 1.0)
        return factor, 0.9 if deep > 12 else 1.0, 0.9 if deep > 12 else 1.0
    table = _CF_STUD if grade == "Stud" and deep <= 6 else _CF
    fb_thin, fb_thick, ft, fc = table[deep]
    return (fb_thick if thick >= 4 else fb_thin), ft, fc


# Posts and timbers, 5 in and thicker, no more than 2 in deeper than thick (NDS Supplement 2018, Table 4D), psi.
_4D: dict[str, dict[str, tuple[float, ...]]] = {
    "DF-L": {
        "Select Structural": (1500, 1000, 170, 625, 1150, 1_600_000, 580_000),
        "No. 1": (1200, 825, 170, 625, 1000, 1_600_000, 580_000),
        "No. 2": (750, 475, 170, 625, 700, 1_300_000, 470_000),
    },
    "Hem-Fir": {
        "Select Structural": (1200, 800, 140, 405, 975, 1_300_000, 470_000),
        "No. 1": (975, 650, 140, 405, 850, 1_300_000, 470_000),
        "No. 2": (575, 375, 140, 405, 575, 1_100_000, 400_000),
    },
    "S-P-F": {
        "Select Structural": (1050, 700, 125, 425, 800, 1_300_000, 470_000),
        "No. 1/No. 2": (500, 325, 125, 425, 500, 1_000_000, 370_000),
    },
    "Southern Pine": {
        "Select Structural": (1500, 1000, 165, 375, 950, 1_500_000, 550_000),
        "No. 1": (1350, 900, 165, 375, 825, 1_500_000, 550_000),
        "No. 2": (850, 550, 165, 375, 525, 1_200_000, 440_000),
    },
}


@lru_cache(maxsize=200)
def timber_values(species: str, grade: str, outdoors: bool = False) -> Values:
    """Return the values of posts and timbers in N/mm2; S-P-F No. 1/No. 2 takes those of No. 2.

    ``outdoors``: times CM (Table 4D); timbers are not incised.  Raises KeyError for unknown names, and for grades that there
    are no timbers of.
    """
    rows, found = _4D[species_name(species)], grade_name(species, grade)
    if found not in rows:
        raise KeyError(f"There are no posts and timbers of grade {found}; grades are {', '.join(rows)}.")
    dry = Values(*(value * PSI for value in rows[found]))
    return replace(dry, fc_perp=0.67 * dry.fc_perp, fc=0.91 * dry.fc) if outdoors else dry


@lru_cache(maxsize=2000)
def reference_values(species: str, grade: str, section: Section, outdoors: bool = False) -> Values:
    """Return tabulated values in N/mm2, before any factor; ``outdoors``: times CM and Ci of treated lumber that gets wet.

    Raises KeyError for unknown names, for I-joists and rim boards, and outdoors for all that is not sawn.
    """
    if outdoors and section.kind != "sawn":
        raise KeyError(f"{section.name} has no values outdoors.")
    if section.kind == "laminated veneer":
        return Values(VENEER.fb, VENEER_FT, VENEER.fv, VENEER.fc_perp, VENEER_FC, VENEER.e, VENEER.e_turning)
    if section.kind != "sawn":
        raise KeyError(f"{section.name} has no values of lumber.")
    species = species_name(species)
    grade = grade_name(species, grade)
    if grade in _4C and section.nominal[0] > 2:
        # Only lumber 2 in thick is rated by machine; thicker is taken for no more than No. 2.
        return reference_values(species, grade_name(species, "No. 2"), section, outdoors)
    if grade in _4C:
        fb, ft, fc, e, e_min = _4C[grade]
        fv, fc_perp = (175, 565) if species == "Southern Pine" else _4A[species]["No. 3"][2:4]
        row: tuple[float, ...] = (fb, ft, fv, fc_perp, fc, e, e_min)
    elif species == "Southern Pine":
        by_depth, (e, e_min) = _4B[grade]
        fb, ft, fc = by_depth[min(section.nominal[1], 12)]
        row = (fb, ft, 175, 565, fc, e, e_min)
    else:
        if grade == "Stud" and section.nominal[1] > 6:
            grade = "No. 3"
        row = _4A[species][grade]
    dry = Values(*(value * PSI for value in row))
    return _wet(dry, size_factors(species, grade, section)) if outdoors else dry


def _wet(v: Values, cf: tuple[float, float, float]) -> Values:
    """Return values times CM (NDS Supplement, Tables 4A and 4B) and Ci of incised lumber (NDS 4.3.8)."""
    bending = 1.0 if v.fb * cf[0] <= 1150.0 * PSI else 0.85
    pressed = 1.0 if v.fc * cf[2] <= 750.0 * PSI else 0.8
    return Values(
        0.8 * bending * v.fb, 0.8 * v.ft, 0.8 * 0.97 * v.fv, 0.67 * v.fc_perp, 0.8 * pressed * v.fc, 0.95 * 0.9 * v.e,
        0.95 * 0.9 * v.e_min,
    )  # fmt: skip
