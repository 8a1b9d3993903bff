"""Posts checked: timber by ANSI/AWC NDS 2018 (3.7, built up 15.3), steel by AISC 360-16 (chapter E), allowable stresses.

A post stands free: pinned at head and foot, nothing holds it between them either way, and its load stands in its middle.
"""

import math
from functools import lru_cache

from balken.catalog.sections import section
from balken.loads.cases import Combination, most_by_duration
from balken.standards.checks import Check, MemberResult, worst_of
from balken.standards.demands import PostCase
from balken.standards.measures import Working, working
from balken.standards.us.asce7 import ASD
from balken.standards.us.members import WET, values_row
from balken.standards.us.stability import SLENDEREST, buckling_stress, stability_factor
from balken.standards.us.uplift import uplift_check
from balken.standards.us.values import Values, reference_values, size_factors, timber_values
from balken.units.system import PSI

NAILED = 0.6
"""Kf across the plies of built-up columns nailed as NDS 15.3.3 asks."""
STEEL_E = 29_000_000.0 * PSI
YIELD = {"pipe": 35_000.0 * PSI, "tube": 50_000.0 * PSI}
"""Fy of ASTM A53 grade B pipes and of ASTM A500 grade C tubes (AISC 360-16 manual, Table 2-4, from memory)."""
SAFETY = 1.67
"""Omega for compression (AISC 360-16, E1)."""
STEEL_SLENDEREST = 200.0
"""L/r of steel columns, preferably at most (AISC 360-16, E2, user note)."""


@lru_cache(maxsize=1_024)
def check_post(case: PostCase) -> MemberResult:
    """Check a post of timber or steel from the list.

    Raises KeyError for species and grades that there are none of.
    """
    combos = ASD.true_of(case.axial)
    pressed = [max(combo.of(case.axial), 0.0) for combo in combos]
    steel = case.shape.kind in ("pipe", "tube")
    if steel:
        most = pressed.index(max(pressed))
        found = [*_steel(case, combos[most], pressed[most])]
    else:
        found = [worst_of([_timber(case, c, force) for c, force in most_by_duration(combos, pressed)])]
        found += [worst_of([_end_grain(case, c, force) for c, force in most_by_duration(combos, pressed)])]
        slender = case.clear / min(case.shape.breadth, case.shape.depth)
        found.append(Check("slenderness le/d", _SLENDER[case.shape.kind], slender, SLENDEREST, "slenderness", ""))
        most = pressed.index(max(pressed))
        found += [_plate(case, end, combos[most], pressed[most]) for end in (0, 1) if case.plates[end]]
    lifted, combo = ASD.least(case.axial)
    if lifted < -1e-6:
        found.append(uplift_check(-lifted, combo.name))
    found.sort(key=lambda check: -check.used)
    return MemberResult(case, tuple(found))


_SLENDER = {"timber": "NDS 3.7.1.4", "built-up": "NDS 15.3.2"}


def has_values(case: PostCase) -> bool:
    """Whether there are design values for a post of this section, species and grade."""
    if case.shape.kind in ("pipe", "tube"):
        return True
    try:
        values_of(case)
    except KeyError:
        return False
    return True


def post_values(case: PostCase) -> tuple[tuple[str, Working], ...]:
    """Return the values a check of a post reads, with their sources."""
    shape = case.shape
    if shape.kind in ("pipe", "tube"):
        row = working("A = {}, r = {}, Fy = {}", (shape.area, "steel"), (shape.gyration, "length"),
                      (YIELD[shape.kind], "stress"))  # fmt: skip
        return (("", row),)
    table = "Table 4D" if shape.timber else "Tables 4A and 4B"
    table += WET if case.outdoors else ""
    return values_row(values_of(case)[0], table), ("", working("A = {}", (shape.area, "steel")))


def values_of(case: PostCase) -> tuple[Values, float]:
    """Return the reference values of a post's timber, and CF on its Fc."""
    if case.shape.timber:
        # CF of posts and timbers is for bending alone (NDS Supplement, Table 4D).
        return timber_values(case.species, case.grade, case.outdoors), 1.0
    sides = sorted((case.shape.breadth / case.shape.plies, case.shape.depth))
    thick, deep = (round(side / 25.4 + 0.5) for side in sides)
    board = section(f"{thick}x{deep}")
    return reference_values(case.species, case.grade, board, case.outdoors), size_factors(
        case.species, case.grade, board
    )[2]


def _timber(case: PostCase, combo: Combination, force: float) -> Check:
    """Compression along the grain: fc <= Fc' = Fc CD CF CP, about the axis that buckles sooner (NDS 3.7.1, 15.3.2)."""
    values, cf = values_of(case)
    star, shape = values.fc * combo.duration * cf, case.shape
    ways = [(min(shape.breadth, shape.depth), 1.0)]
    if shape.kind == "built-up":
        ways = [(shape.depth, 1.0), (shape.breadth, NAILED)]
    allowed, side, kf = min((kf * star * stability_factor(star, values.e_min, case.clear, d), d, kf) for d, kf in ways)
    lines = (
        working("P = {}, A = {}, le/d = {}", (force / 1000.0, "force"), (shape.area, "steel"),
                (case.clear / side, "slenderness")),
        working(
            f"Fc* = Fc CD CF = {{}}, FcE = {{}}, Fc' = Fc* CP = {{}}{f' with Kf = {kf:g} across the plies' if kf < 1 else ''}",
            (star, "stress"), (buckling_stress(values.e_min, case.clear / side), "stress"), (allowed, "stress"),
        ),
    )  # fmt: skip
    clause = "NDS 15.3.2" if shape.kind == "built-up" else "NDS 3.6.3, 3.7.1"
    return Check("compression", clause, force / shape.area, allowed, "stress", combo.name, lines)


def _end_grain(case: PostCase, combo: Combination, force: float) -> Check:
    """Its ends on steel caps and bases: fc <= Fc* (NDS 3.10.1)."""
    values, cf = values_of(case)
    lines = (working("ends on steel plates (NDS 3.10.1.3), Fc* = Fc CD CF"),)
    allowed = values.fc * combo.duration * cf
    return Check("end grain bearing", "NDS 3.10.1", force / case.shape.area, allowed, "stress", combo.name, lines)


def _plate(case: PostCase, end: int, combo: Combination, force: float) -> Check:
    """The plate under its foot or over its head: fc perp <= Fc perp' (NDS 3.10.2), Cb not taken: it may stand at an end."""
    species = case.plates[end]
    plate = reference_values(species, "No. 1/No. 2" if species == "S-P-F" else "No. 2", section("2x6"))
    where = "under its foot" if end == 0 else "over its head"
    lines = (working("P = {} on A = {}", (force / 1000.0, "force"), (case.shape.area, "steel")),)
    stress = force / case.shape.area
    return Check(f"bearing on the plate {where}", "NDS 3.10.2", stress, plate.fc_perp, "stress", combo.name, lines)


def _steel(case: PostCase, combo: Combination, force: float) -> tuple[Check, Check]:
    """Flexural buckling: P/A <= Fcr / Omega (AISC 360-16, E3); the walls of those listed are not slender (B4.1a)."""
    fy, slender = YIELD[case.shape.kind], case.clear / case.shape.gyration
    euler = math.pi**2 * STEEL_E / slender**2
    fcr = 0.658 ** (fy / euler) * fy if fy / euler <= 2.25 else 0.877 * euler
    lines = (
        working(
            "P = {}, A = {}, L/r = {}", (force / 1000.0, "force"), (case.shape.area, "steel"), (slender, "slenderness")
        ),
        working("Fe = {}, Fcr = {}, Fcr/1.67", (euler, "stress"), (fcr, "stress")),
    )
    return (
        Check("compression", "AISC 360 E3", force / case.shape.area, fcr / SAFETY, "stress", combo.name, lines),
        Check("slenderness L/r", "AISC 360 E2", slender, STEEL_SLENDEREST, "slenderness", ""),
    )
