"""Stringers of stairs, sawn out for treads and risers: checked by what is left below the notches (NDS 3.1.2, 3.3, 3.4).

A simple span in plan.  The net depth counts all along, for bending, shear and sag alike; no size factor above 1 is taken from
the board, for the throat is what is left of it.  A load of 300 lb stands on one tread and on one stringer alone (IRC Table
R301.5, note c); bearing is that of the plumb cut in its hanger.
"""

import math

from balken.analysis.beam import simple_moment, sloped_deflection
from balken.loads.cases import Cases, Combination
from balken.standards.checks import Check, MemberResult, worst_of
from balken.standards.demands import StringerCase
from balken.standards.measures import Working, working
from balken.standards.us.asce7 import ASD
from balken.standards.us.members import values_row
from balken.standards.us.stability import repetitive_factor
from balken.standards.us.values import Values, reference_values, size_factors
from balken.units.system import INCH

MOST_RISER, LEAST_TREAD = 7.75 * INCH, 10.0 * INCH
"""IRC R311.7.5.1 and R311.7.5.2."""
LEAST_WIDTH, HEADROOM = 36.0 * INCH, 80.0 * INCH
"""IRC R311.7.1 and R311.7.2."""
LEAST_THROAT = 5.0 * INCH
"""Of the board that is left below the notches (common practice, no source)."""
POINT = Cases(live=300.0 * 4.4482216)
"""IRC Table R301.5, note c: on an area of 4 square inches of a tread."""
TOGETHER = 24.0 * INCH
"""Three or more no farther apart than this share their load (NDS 4.3.9)."""


def check_stringer(case: StringerCase) -> MemberResult:
    """Check a stringer; raises KeyError for sizes, species and grades without values."""
    values = reference_values(case.species, case.grade, case.section)
    cf = min(size_factors(case.species, case.grade, case.section)[0], 1.0)
    cr = repetitive_factor(case.section.kind, 0.0) if case.count >= 3 and case.width <= TOGETHER else 1.0
    combos = ASD.true_of(case.load.plus(case.point))
    found = [
        worst_of([_bending(case, values, cf, cr, c) for c in combos]),
        worst_of([_shear(case, values, c) for c in combos]),
        worst_of([_bearing(case, values, c) for c in combos]),
        _sag(case, values),
        Check("throat, least", "common practice, no source", LEAST_THROAT, max(case.throat, 1.0), "length", ""),
    ]
    found.sort(key=lambda check: (check.name.endswith("least") and check.used <= 1.0, -check.used))
    return MemberResult(case, tuple(found))


def _net(case: StringerCase) -> tuple[float, float, float]:
    """Return area, section modulus and second moment of the throat, mm."""
    b, d = case.section.breadth, max(case.throat, 1.0)
    return b * d, b * d**2 / 6.0, b * d**3 / 12.0


def _forces(case: StringerCase, combo: Combination) -> tuple[float, float]:
    """Return the greatest moment and end force: the flight's load, or its dead load with 300 lb on a tread."""
    whole = combo.of(case.line)
    alone = combo.of(Cases(dead=case.line.dead))
    point = combo.of(case.point)
    moment = max(simple_moment(whole, case.run), simple_moment(alone, case.run) + point * case.run / 4.0)
    return moment, max(whole * case.run / 2.0, alone * case.run / 2.0 + point)


def _bending(case: StringerCase, values: Values, cf: float, cr: float, combo: Combination) -> Check:
    moment, _ = _forces(case, combo)
    _, modulus, _ = _net(case)
    allowed = values.fb * cf * combo.duration * cr
    lines = (
        working("throat {} below the notches: S = {}", (case.throat, "length"), (modulus, "modulus")),
        working("span in plan {}, M = {}", (case.run, "length"), (moment * 1e-6, "moment")),
        working(f"Fb' = {{}} x {cf:g} x {combo.duration:g} x {cr:g}", (values.fb, "stress")),
    )
    return Check("bending", "NDS 3.3.1", moment / modulus, allowed, "stress", combo.name, lines)


def _shear(case: StringerCase, values: Values, combo: Combination) -> Check:
    _, force = _forces(case, combo)
    slope = math.hypot(case.run, case.rise) / case.run
    area, _, _ = _net(case)
    stress = 1.5 * force / slope / area
    lines = (working("V square to it = {}", (force / slope / 1000.0, "force")),)
    return Check("shear", "NDS 3.4.2", stress, values.fv * combo.duration, "stress", combo.name, lines)


def _bearing(case: StringerCase, values: Values, combo: Combination) -> Check:
    _, force = _forces(case, combo)
    stress = force / (case.section.breadth * max(case.bearing, 1.0))
    lines = (working("R = {} on {} of bearing", (force / 1000.0, "force"), (case.bearing, "length")),)
    return Check("bearing", "NDS 3.10.2", stress, values.fc_perp, "stress", combo.name, lines)


def _sag(case: StringerCase, values: Values) -> Check:
    _, _, inertia = _net(case)
    pitch = case.rise / case.run
    sag = sloped_deflection(case.line.live, case.run, pitch, values.e, inertia)
    allowed = case.run * math.hypot(1.0, pitch) / case.limit.n
    lines = (
        working(
            "live part w = {}, E = {}, I = that of the throat", (case.line.live, "line force"), (values.e, "stress")
        ),
    )
    return Check(f"deflection L/{case.limit.n:g}", case.limit.clause, sag, allowed, "length", "live part alone", lines)


def stringer_values(case: StringerCase) -> tuple[tuple[str, Working], ...]:
    """Return the values a check of a stringer reads."""
    return (values_row(reference_values(case.species, case.grade, case.section), "Tables 4A and 4B"),)
