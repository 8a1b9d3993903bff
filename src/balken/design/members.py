"""Sawn joists, rafters and ceiling ties by allowable stress design.

ANSI/AWC NDS 2018 for strength, IRC 2018 R301.7 for deflection.  Members are simple spans, clear
between bearings as the span tables of the IRC (AWC) take them; compression edges are held by deck
or sheathing, so CL = 1 (NDS 4.4.1).  Dry service, no incising, normal temperature.
"""

import math
from dataclasses import dataclass, replace
from functools import lru_cache
from typing import Literal

from balken.analysis.beam import (
    cantilever_moment,
    simple_deflection,
    simple_moment,
    simple_shear,
    sloped_deflection,
)
from balken.design.checks import Check, MemberResult
from balken.design.values import Values, reference_values, size_factors
from balken.loads.cases import Cases, Combination, combinations_for
from balken.model.sections import Section, section
from balken.units.system import INCH

NO_LOAD = Cases()
Kind = Literal["joist", "rafter", "ceiling tie", "header"]

REPETITIVE = 1.15
"""Repetitive member factor Cr, NDS 4.3.9: three or more members at most 24 in apart."""
REPETITIVE_SPACING = 24.0 * INCH
LEAST_BEARING = 1.5 * INCH
"""IRC R502.6 and R802.6: bearing on wood or metal."""


@dataclass(frozen=True, slots=True)
class MemberCase:
    """One member with all that decides whether it works (mm, kN/m2 on plan, N).

    ``clear``: horizontal clear span. ``limit``: n of the deflection limit L/n on the live part.
    ``bearing``: length of the shorter bearing. ``over``: overhang beyond the support, in plan.
    ``notch``: depth lost at the bird's mouth. ``tension``: axial force along it.
    """

    kind: Kind
    size: str
    species: str
    grade: str
    clear: float
    spacing: float
    load: Cases
    limit: float
    bearing: float = LEAST_BEARING
    pitch: float = 0.0
    over: float = 0.0
    notch: float = 0.0
    tension: Cases = NO_LOAD

    @property
    def section(self) -> Section:
        """Its section."""
        return section(self.size)

    @property
    def line(self) -> Cases:
        """Line load on plan by case, N/mm."""
        return self.load.scaled(self.spacing / 1000.0)

    @property
    def repetitive(self) -> float:
        """Cr for its spacing; a header's plies count when there are three."""
        if self.kind == "header":
            return REPETITIVE if self.section.plies >= 3 else 1.0
        return REPETITIVE if self.spacing <= REPETITIVE_SPACING + 0.5 else 1.0


def bending_value(case: MemberCase, values: Values, duration: float) -> float:
    """Return Fb' = Fb CD CF Cr (NDS Table 4.3.1), N/mm2."""
    cf = size_factors(case.species, case.grade, case.section)[0]
    return values.fb * duration * cf * case.repetitive


@lru_cache(maxsize=8_192)
def check_member(case: MemberCase) -> MemberResult:
    """Check bending, shear, bearing and deflection (and tension, and the overhang at the notch).

    Raises KeyError for unknown sizes, species or grades.
    """
    values = reference_values(case.species, case.grade, case.section)
    combos = combinations_for(case.load.plus(case.tension))
    found = [
        max((_bending(case, values, c) for c in combos), key=lambda check: check.used),
        max((_shear(case, values, c) for c in combos), key=lambda check: check.used),
        max((_bearing(case, values, c) for c in combos), key=lambda check: check.used),
        _deflection(case, values),
    ]
    if case.tension.all > 0.0:
        found.append(max((_tension(case, values, c) for c in combos), key=lambda check: check.used))
    if case.over > 0.0:
        found.append(max((_overhang(case, values, c) for c in combos), key=lambda check: check.used))
    found.sort(key=lambda check: -check.used)
    return MemberResult(case, tuple(found))


def _bending(case: MemberCase, values: Values, combo: Combination) -> Check:
    stress = simple_moment(combo.of(case.line), case.clear) / case.section.modulus
    return Check("bending", "NDS 3.3.1", stress, bending_value(case, values, combo.duration), "stress", combo.name)


def _shear(case: MemberCase, values: Values, combo: Combination) -> Check:
    """Loads within the depth of the support are left out, NDS 3.4.3.1(a); fv = 3 V / (2 b d), NDS 3.4.2."""
    force = simple_shear(combo.of(case.line), case.clear, case.section.depth)
    stress = 1.5 * force / case.section.area
    return Check("shear", "NDS 3.4.2", stress, values.fv * combo.duration, "stress", combo.name)


def _bearing(case: MemberCase, values: Values, combo: Combination) -> Check:
    """Cb = 1 at member ends (NDS 3.10.4); Fc perp takes no load duration factor (NDS Table 4.3.1)."""
    length = case.clear / 2.0 + case.over + (case.bearing if case.over else 0.0)
    force = combo.of(case.line) * length
    stress = force / (case.section.breadth * max(case.bearing, 1.0))
    return Check("bearing", "NDS 3.10.2", stress, values.fc_perp, "stress", combo.name)


def _live(case: MemberCase) -> float:
    """Return the greatest live part of the line load, N/mm."""
    line = case.line
    return max(line.live, line.roof_live, line.snow, 0.75 * (line.live + max(line.roof_live, line.snow)))


def _deflection(case: MemberCase, values: Values) -> Check:
    if case.pitch > 0.0:
        sag = sloped_deflection(_live(case), case.clear, case.pitch, values.e, case.section.inertia)
    else:
        sag = simple_deflection(_live(case), case.clear, values.e, case.section.inertia)
    allowed = case.clear * math.hypot(1.0, case.pitch) / case.limit
    return Check(f"deflection L/{case.limit:g}", "IRC R301.7", sag, allowed, "length", "live part alone")


def _tension(case: MemberCase, values: Values, combo: Combination) -> Check:
    """Bending and tension together: ft / Ft' + fb / Fb* <= 1, NDS 3.9.1."""
    cf_bending, cf_tension, _ = size_factors(case.species, case.grade, case.section)
    ft = combo.of(case.tension) / case.section.area
    fb = simple_moment(combo.of(case.line), case.clear) / case.section.modulus
    ratio = ft / (values.ft * combo.duration * cf_tension) + fb / (
        values.fb * combo.duration * cf_bending * case.repetitive
    )
    return Check("bending and tension", "NDS 3.9.1", ratio, 1.0, "ratio", combo.name)


def _overhang(case: MemberCase, values: Values, combo: Combination) -> Check:
    """Bending of the tail over the bearing, on the depth left by the bird's mouth (NDS 3.2.3)."""
    left = case.section.depth - case.notch
    stress = cantilever_moment(combo.of(case.line), case.over) / (case.section.breadth * left**2 / 6.0)
    return Check(
        "bending at the bird's mouth",
        "NDS 3.2.3",
        stress,
        bending_value(case, values, combo.duration),
        "stress",
        combo.name,
    )


@dataclass(frozen=True, slots=True)
class Span:
    """The greatest clear span of a case (mm, in plan) and what limits it."""

    length: float
    governs: str
    clause: str
    result: MemberResult


def greatest_span(case: MemberCase) -> Span:
    """Return the greatest clear span at which every check is used to at most 100 %.

    Closed forms: bending L = sqrt(8 S Fb' / w), shear L = 2 (V' / w + d), bearing L = 2 R' / w,
    deflection L^3 = 384 E I / (5 w n).  The case's own ``clear`` is left out of account; overhang
    and tension must be zero.  Raises ValueError when nothing loads the member.
    """
    values = reference_values(case.species, case.grade, case.section)
    lumber = case.section
    limits: list[tuple[float, str, str]] = []
    for combo in combinations_for(case.load):
        w = combo.of(case.line)
        if w <= 0.0:
            continue
        fb = bending_value(case, values, combo.duration)
        limits.append((math.sqrt(8.0 * lumber.modulus * fb / w), "bending", "NDS 3.3.1"))
        shear = values.fv * combo.duration * lumber.area / 1.5
        limits.append((2.0 * (shear / w + lumber.depth), "shear", "NDS 3.4.2"))
        limits.append((2.0 * values.fc_perp * lumber.breadth * case.bearing / w, "bearing", "NDS 3.10.2"))
    live = _live(case)
    if live > 0.0:
        slope = math.hypot(1.0, case.pitch)
        cube = 384.0 * values.e * lumber.inertia / (5.0 * live * case.limit) / slope
        limits.append((cube ** (1.0 / 3.0), f"deflection L/{case.limit:g}", "IRC R301.7"))
    if not limits:
        raise ValueError("no load acts on the member; type a live, dead or snow load above zero")
    length, governs, clause = min(limits)
    return Span(length, governs, clause, check_member(replace(case, clear=length)))


def rafter_limit(pitch: float) -> float:
    """Return n of L/n for rafters with no ceiling attached: 180 steeper than 3 in 12, else 240 (IRC R301.7)."""
    return 180.0 if pitch > 0.25 else 240.0


JOIST_LIMIT = 360.0
"""Floors, IRC R301.7."""
CEILING_LIMIT = 240.0
"""Ceilings with flexible finish (gypsum board), IRC R301.7."""
