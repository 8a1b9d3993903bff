"""Studs and other timber columns under axial load and wind by allowable stress design (ANSI/AWC NDS 2018).

Pinned at both ends; sheathing holds the weak axis all along, so only the strong axis can buckle.
"""

from dataclasses import dataclass
from functools import lru_cache
from typing import Literal

from balken.analysis.beam import simple_deflection, simple_moment
from balken.design.checks import Check, MemberResult
from balken.design.values import Values, reference_values, size_factors
from balken.loads.cases import Cases, Combination, combinations_for
from balken.model.sections import Section, section
from balken.units.system import INCH

REPETITIVE = 1.15
"""Cr, NDS 4.3.9: three or more studs at most 24 in apart, joined by sheathing."""
SAWN = 0.8
"""c of NDS 3.7.1 for sawn lumber."""
WIND_LIMIT = 120.0
"""Outside walls with flexible finishes, IRC Table R301.7."""
WIND_FOR_SAG = 0.42
"""Part of the wind pressure (strength level) that counts for deflection, IBC Table 1604.3 note f."""


@dataclass(frozen=True, slots=True)
class ColumnCase:
    """A stud with all that decides whether it works (mm, N, kN/m2).

    ``clear``: height between its plates. ``axial``: force by case. ``pressure``: wind on the wall at
    strength level over a width of ``spacing``. ``plate``: species of the plate it bears on.
    """

    kind: Literal["stud", "king stud", "jack stud"]
    size: str
    species: str
    grade: str
    clear: float
    spacing: float
    axial: Cases
    pressure: float = 0.0
    plate: str = "DF-L"
    limit: float = WIND_LIMIT

    @property
    def section(self) -> Section:
        """Its section."""
        return section(self.size)

    @property
    def repetitive(self) -> float:
        """Cr: common studs at most 24 in apart."""
        return REPETITIVE if self.kind == "stud" and self.spacing <= 24.0 * INCH + 0.5 else 1.0

    @property
    def line(self) -> Cases:
        """Line load square to the wall by case, N/mm."""
        return Cases(wind=self.pressure * self.spacing / 1000.0)


def stability_factor(fc_star: float, e_min: float, length: float, depth: float) -> float:
    """Return CP (NDS 3.7.1, equation 3.7-1) for sawn lumber held against buckling the other way."""
    slender = length / depth
    ratio = buckling_stress(e_min, slender) / fc_star
    half = (1.0 + ratio) / (2.0 * SAWN)
    return float(half - (half**2 - ratio / SAWN) ** 0.5)


def buckling_stress(e_min: float, slenderness: float) -> float:
    """Return FcE = 0.822 Emin' / (le / d)^2 (NDS 3.7.1), N/mm2."""
    return 0.822 * e_min / slenderness**2


def bearing_area_factor(length: float) -> float:
    """Return Cb = (lb + 0.375 in) / lb (NDS 3.10.4) for a bearing under 6 in long, away from the plate's end."""
    return (length + 0.375 * INCH) / length if length < 6.0 * INCH else 1.0


@lru_cache(maxsize=4_096)
def check_column(case: ColumnCase) -> MemberResult:
    """Check compression, compression with bending by wind, bearing on the plate, and sag under wind.

    Raises KeyError for unknown sizes, species or grades.
    """
    values = reference_values(case.species, case.grade, case.section)
    combos = combinations_for(case.axial.plus(case.line)) or combinations_for(Cases(dead=1.0))
    found = [
        max((_compression(case, values, c) for c in combos), key=lambda check: check.used),
        max((_bearing(case, c) for c in combos), key=lambda check: check.used),
    ]
    if case.pressure > 0.0:
        found.append(max((_with_wind(case, values, c) for c in combos), key=lambda check: check.used))
        found.append(_sag(case, values))
    found.sort(key=lambda check: -check.used)
    return MemberResult(case, tuple(found))


def _allowed(case: ColumnCase, values: Values, combo: Combination) -> tuple[float, float]:
    """Return (Fc', FcE)."""
    _, _, cf = size_factors(case.species, case.grade, case.section)
    fc_star = values.fc * combo.duration * cf
    factor = stability_factor(fc_star, values.e_min, case.clear, case.section.depth)
    return fc_star * factor, buckling_stress(values.e_min, case.clear / case.section.depth)


def _compression(case: ColumnCase, values: Values, combo: Combination) -> Check:
    stress = combo.of(case.axial) / case.section.area
    return Check("compression", "NDS 3.6.3, 3.7.1", stress, _allowed(case, values, combo)[0], "stress", combo.name)


def _with_wind(case: ColumnCase, values: Values, combo: Combination) -> Check:
    """(fc / Fc')^2 + fb / (Fb' (1 - fc / FcE)) <= 1, NDS equation 3.9-3."""
    fc = combo.of(case.axial) / case.section.area
    fb = simple_moment(combo.of(case.line), case.clear) / case.section.modulus
    fc_allowed, fce = _allowed(case, values, combo)
    fb_allowed = values.fb * combo.duration * size_factors(case.species, case.grade, case.section)[0] * case.repetitive
    ratio = (fc / fc_allowed) ** 2 + fb / (fb_allowed * (1.0 - fc / fce)) if fc < fce else 99.0
    return Check("compression and bending", "NDS 3.9.2", ratio, 1.0, "ratio", combo.name)


def _bearing(case: ColumnCase, combo: Combination) -> Check:
    plate = reference_values(case.plate, "No. 1/No. 2" if case.plate == "S-P-F" else "No. 2", section("2x6"))
    stress = combo.of(case.axial) / case.section.area
    allowed = plate.fc_perp * bearing_area_factor(case.section.breadth)
    return Check("bearing on the plate", "NDS 3.10.2", stress, allowed, "stress", combo.name)


def _sag(case: ColumnCase, values: Values) -> Check:
    sag = simple_deflection(WIND_FOR_SAG * case.line.wind, case.clear, values.e, case.section.inertia)
    return Check(
        f"deflection H/{case.limit:g}", "IRC R301.7", sag, case.clear / case.limit, "length", "wind, serviceability"
    )
