"""Headers and joists under what stands on them, checked by ANSI/AWC NDS 2018 (strength) and IRC R301.7 (sag), for the
forces of their line.
"""

import math

from balken.loads.cases import Combination, most_by_duration
from balken.standards.checks import Check, MemberResult, worst_of
from balken.standards.demands import BeamCase, BeamForces
from balken.standards.measures import working
from balken.standards.us import i_joists
from balken.standards.us.stability import beam_stability_factor, repetitive_factor
from balken.standards.us.stud_checks import WIND_FOR_SAG
from balken.standards.us.uplift import uplift_check
from balken.standards.us.values import Values, reference_values, size_factors

HEADER_LIMIT = 360.0
"""Live-load deflection of headers and girders, IRC R301.7 (L/360 under a floor)."""
SIDEWAYS_LIMIT = 180.0
"""Deflection of a header under wind, as the wall it is in (IRC Table R301.7, note d)."""


def check_beam(case: BeamCase, forces: BeamForces) -> MemberResult:
    """Check a header: bending, shear, bearing, sag, and with wind across it where nothing holds its edge."""
    if case.section.kind == "I-joist":
        return i_joists.check_loaded(case, forces)
    values = reference_values(case.species, case.grade, case.section, case.outdoors)
    combos = forces.combos
    hardest = forces.most.index(max(forces.most))
    found = [
        worst_of([_bending(case, values, c, m) for c, m in most_by_duration(combos, forces.moments)]),
        worst_of([_shear(case, values, c, v) for c, v in most_by_duration(combos, forces.shears)]),
        _bearing(case, values, combos[hardest], forces.most[hardest]),
        _sag(case, values, forces.sag),
    ]
    if case.pressure > 0.0 and case.unbraced > 0.0:
        windy = [(c, m) for c, m in zip(combos, forces.moments, strict=True) if c.factors.wind]
        found.append(worst_of([_across(case, values, c, m) for c, m in windy]))
        found.append(_sideways(case, values))
    lifted = min(forces.least)
    if lifted < -1e-6:
        found.append(uplift_check(-lifted, combos[forces.least.index(lifted)].name))
    found.sort(key=lambda check: -check.used)
    return MemberResult(case, tuple(found))


def _repetitive(case: BeamCase) -> float:
    """Return Cr: its plies count when there are three (NDS 4.3.9)."""
    return repetitive_factor(case.section.kind, 0.0) if case.section.plies >= 3 else 1.0


def _strength(case: BeamCase, values: Values, combo: Combination) -> tuple[float, float]:
    """Return (Fb', CL)."""
    cf, lumber = size_factors(case.species, case.grade, case.section)[0], case.section
    star = values.fb * combo.duration * cf * _repetitive(case)
    factor = beam_stability_factor(star, values.e_min, case.unbraced, lumber.breadth, lumber.depth)
    return star * factor, factor


def _bending(case: BeamCase, values: Values, combo: Combination, moment: float) -> Check:
    allowed, factor = _strength(case, values, combo)
    lines = (
        working("span {} (NDS 3.2.1), M = {}, S = {}", (case.span, "length"), (moment * 1e-6, "moment"),
                (case.section.modulus, "modulus")),
        working(f"Fb' = Fb CD CF Cr CL = {{}}, CL = {factor:.3f} (NDS 3.3.3)", (allowed, "stress")),
    )  # fmt: skip
    return Check("bending", "NDS 3.3.1", moment / case.section.modulus, allowed, "stress", combo.name, lines)


def _shear(case: BeamCase, values: Values, combo: Combination, force: float) -> Check:
    lines = (working("V = {} (NDS 3.4.3.1)", (force / 1000.0, "force")),)
    stress = 1.5 * force / case.section.area
    return Check("shear", "NDS 3.4.2", stress, values.fv * combo.duration, "stress", combo.name, lines)


def _bearing(case: BeamCase, values: Values, combo: Combination, force: float) -> Check:
    force = max(force, 0.0)
    lines = (working("R = {} on {} of bearing", (force / 1000.0, "force"), (case.bearing, "length")),)
    stress = force / (case.section.breadth * case.bearing)
    return Check("bearing", "NDS 3.10.2", stress, values.fc_perp, "stress", combo.name, lines)


def _sag(case: BeamCase, values: Values, times_ei: float) -> Check:
    sag = times_ei / (values.e * case.section.inertia)
    allowed = case.span / HEADER_LIMIT
    lines = (working("E = {}", (values.e, "stress")),)
    return Check(f"deflection L/{HEADER_LIMIT:g}", "IRC R301.7", sag, allowed, "length", "live part alone", lines)


def _wind_moment(case: BeamCase, factor: float) -> float:
    return factor * case.pressure * case.tall / 1000.0 * case.span**2 / 8.0


def _across(case: BeamCase, values: Values, combo: Combination, moment: float) -> Check:
    """Wind bends the header across while it carries: fb1/Fb1' + fb2/(Fb2' (1 - (fb1/FbE)^2)) <= 1 (NDS 3.9.2)."""
    strong, _ = _strength(case, values, combo)
    fb1 = moment / case.section.modulus
    fb2 = _wind_moment(case, combo.factors.wind) / case.section.weak_modulus
    weak = values.fb * combo.duration * size_factors(case.species, case.grade, case.section)[0]
    critical = _critical(case, values)
    ratio = fb1 / strong + fb2 / (weak * (1.0 - (fb1 / critical) ** 2)) if fb1 < critical else 99.0
    lines = (
        working("fb1 = {}, Fb1' = {}", (fb1, "stress"), (strong, "stress")),
        working("wind over {} of wall: fb2 = {}, Fb2' = {}", (case.tall, "length"), (fb2, "stress"), (weak, "stress")),
    )
    return Check("bending both ways", "NDS 3.9.2", ratio, 1.0, "ratio", combo.name, lines)


def _critical(case: BeamCase, values: Values) -> float:
    """Return FbE = 1.20 Emin / RB^2 (NDS 3.3.3.8), very great where its edge is held."""
    if case.unbraced <= 0.0:
        return math.inf
    lumber = case.section
    effective = 1.63 * case.unbraced + 3.0 * lumber.depth
    return 1.20 * values.e_min * lumber.breadth**2 / (effective * lumber.depth)


def _sideways(case: BeamCase, values: Values) -> Check:
    """Sag across the wall under wind, boards side by side each by itself."""
    lumber = case.section
    inertia = lumber.weak_modulus * lumber.breadth / lumber.plies / 2.0
    w = WIND_FOR_SAG * case.pressure * case.tall / 1000.0
    sag = 5.0 * w * case.span**4 / (384.0 * values.e * inertia)
    allowed = case.span / SIDEWAYS_LIMIT
    return Check(
        f"deflection L/{SIDEWAYS_LIMIT:g} across", "IRC R301.7", sag, allowed, "length", "wind, serviceability"
    )
