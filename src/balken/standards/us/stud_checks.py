"""Studs of walls under axial load and wind by allowable stress design (ANSI/AWC NDS 2018).

Pinned at both ends; sheathing holds the weak axis all along, so only the strong axis can buckle.
"""

from collections.abc import Sequence
from functools import lru_cache

from balken.analysis.beam import simple_deflection, simple_moment
from balken.catalog.sections import section
from balken.loads.cases import Combination, most_by_duration
from balken.standards.checks import Check, MemberResult, worst_of
from balken.standards.demands import StudCase
from balken.standards.measures import working
from balken.standards.us.asce7 import ASD
from balken.standards.us.stability import (
    SLENDEREST,
    bearing_area_factor,
    buckling_stress,
    repetitive_factor,
    stability_factor,
)
from balken.standards.us.uplift import uplift_check
from balken.standards.us.values import Values, reference_values, size_factors

WIND_FOR_SAG = 0.42
"""Part of the wind pressure (strength level) that counts for deflection, IBC Table 1604.3 note f."""


@lru_cache(maxsize=4_096)
def check_stud(case: StudCase) -> MemberResult:
    """Check compression, compression with bending by wind, bearing on the plate, and sag under wind.

    Raises KeyError for unknown sizes, species or grades.
    """
    values = reference_values(case.species, case.grade, case.section)
    combos = ASD.true_of(case.axial.plus(case.line))
    pressed = [combo.of(case.axial) for combo in combos]
    allowed = {duration: _allowed(case, values, duration) for duration in {c.duration for c in combos}}
    found = [
        worst_of([_compression(case, c, allowed[c.duration]) for c, _ in most_by_duration(combos, pressed)]),
        _bearing(case, combos[pressed.index(max(pressed))]),
    ]
    slender = case.clear / case.section.depth
    if slender > SLENDEREST:
        found.append(Check("slenderness le/d", "NDS 3.7.1.4", slender, SLENDEREST, "ratio", ""))
    if case.pressure > 0.0:
        found.append(worst_of([_with_wind(case, values, c, allowed[c.duration]) for c in _hardest(combos, pressed)]))
        found.append(_sag(case, values))
    lifted, combo = ASD.least(case.axial)
    if lifted < -1e-6:
        found.append(uplift_check(-lifted, combo.name))
    found.sort(key=lambda check: -check.used)
    return MemberResult(case, tuple(found))


def _repetitive(case: StudCase) -> float:
    """Return Cr: common studs at most 24 in apart (NDS 4.3.9)."""
    return repetitive_factor(case.section.kind, case.spacing) if case.kind == "stud" else 1.0


def _hardest(combos: Sequence[Combination], pressed: Sequence[float]) -> list[Combination]:
    """Return the combinations that press most among those alike in duration and wind: one of them governs."""
    found: dict[tuple[float, float], tuple[float, Combination]] = {}
    for combo, force in zip(combos, pressed, strict=True):
        alike = combo.duration, combo.factors.wind
        if alike not in found or force > found[alike][0]:
            found[alike] = force, combo
    return [combo for _, combo in found.values()]


def _allowed(case: StudCase, values: Values, duration: float) -> tuple[float, float]:
    """Return (Fc', FcE)."""
    _, _, cf = size_factors(case.species, case.grade, case.section)
    fc_star = values.fc * duration * cf
    factor = stability_factor(fc_star, values.e_min, case.clear, case.section.depth)
    return fc_star * factor, buckling_stress(values.e_min, case.clear / case.section.depth)


def _pressed(case: StudCase, combo: Combination) -> float:
    return max(combo.of(case.axial), 0.0) / case.section.area


def _compression(case: StudCase, combo: Combination, strength: tuple[float, float]) -> Check:
    stress, (allowed, euler) = _pressed(case, combo), strength
    lines = (
        working("P = {}, le/d = {}", (stress * case.section.area / 1000.0, "force"),
                (case.clear / case.section.depth, "slenderness")),
        working("FcE = {}, Fc' = Fc CD CF CP = {}", (euler, "stress"), (allowed, "stress")),
    )  # fmt: skip
    return Check("compression", "NDS 3.6.3, 3.7.1", stress, allowed, "stress", combo.name, lines)


def _with_wind(case: StudCase, values: Values, combo: Combination, strength: tuple[float, float]) -> Check:
    """(fc / Fc')^2 + fb / (Fb' (1 - fc / FcE)) <= 1, NDS equation 3.9-3."""
    fc = _pressed(case, combo)
    fb = abs(simple_moment(combo.of(case.line), case.clear)) / case.section.modulus
    fc_allowed, fce = strength
    fb_allowed = (
        values.fb * combo.duration * size_factors(case.species, case.grade, case.section)[0] * _repetitive(case)
    )
    ratio = (fc / fc_allowed) ** 2 + fb / (fb_allowed * (1.0 - fc / fce)) if fc < fce else 99.0
    lines = (
        working("fc = {}, Fc' = {}, FcE = {}", (fc, "stress"), (fc_allowed, "stress"), (fce, "stress")),
        working("fb = {}, Fb' = {}", (fb, "stress"), (fb_allowed, "stress")),
    )
    return Check("compression and bending", "NDS 3.9.2", ratio, 1.0, "ratio", combo.name, lines)


def _bearing(case: StudCase, combo: Combination) -> Check:
    plate = reference_values(case.plate, "No. 1/No. 2" if case.plate == "S-P-F" else "No. 2", section("2x6"))
    factor = bearing_area_factor(case.section.breadth, case.stands)
    lines = (working(f"Fc perp' = {{}} x Cb {factor:.2f} (NDS 3.10.4)", (plate.fc_perp, "stress")),)
    allowed = plate.fc_perp * factor
    return Check("bearing on the plate", "NDS 3.10.2", _pressed(case, combo), allowed, "stress", combo.name, lines)


def _sag(case: StudCase, values: Values) -> Check:
    sag = simple_deflection(WIND_FOR_SAG * case.line.wind, case.clear, values.e, case.section.inertia)
    allowed = case.clear / case.limit.n
    lines = (working(f"{WIND_FOR_SAG:g} W on {{}}, E = {{}}", (case.spacing, "length"), (values.e, "stress")),)
    return Check(
        f"deflection H/{case.limit.n:g}", case.limit.clause, sag, allowed, "length", "wind, serviceability", lines
    )
