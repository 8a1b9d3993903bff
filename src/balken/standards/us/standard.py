"""The standards of the United States as one object."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field

from balken.catalog.sections import Section
from balken.loads.cases import Cases, Combination, Combinations
from balken.standards.checks import MemberResult
from balken.standards.demands import BeamCase, BeamForces, Limit, MemberCase, PostCase, StudCase
from balken.standards.us import beam_checks, members, post_checks, stud_checks
from balken.standards.us.asce7 import ASD
from balken.standards.us.stability import repetitive_factor
from balken.standards.us.values import reference_values, size_factors

SAG = "IRC R301.7"
FLOORS, CEILINGS = Limit(360.0, SAG), Limit(240.0, SAG)
_LETTERS = dict(zip(Cases._fields, ("D", "L", "Lr", "S", "W"), strict=True))


@dataclass(frozen=True)
class UnitedStates:
    """ASCE 7-16, NDS 2018, ACI 318-19, TMS 402-16, AISC 360-16, IRC 2018."""

    id: str = "us"
    title: str = "United States: ASCE 7-16, NDS 2018, ACI 318-19, TMS 402-16, AISC 360-16, IRC 2018"
    letters: Mapping[str, str] = field(default_factory=lambda: _LETTERS)
    combinations: Combinations = ASD
    joist_limit: Limit = FLOORS
    tie_limit: Limit = CEILINGS
    """Ceilings with flexible finish (gypsum board)."""

    def rafter_limit(self, pitch: float) -> Limit:
        """Return L/180 for rafters steeper than 3 in 12 with no ceiling attached, else L/240."""
        return Limit(180.0 if pitch > 0.25 else 240.0, SAG)

    def stud_limit(self, finishes: frozenset[str]) -> Limit:
        """Return H/n by the finishes of the wall (IRC Table R301.7 and note d)."""
        if finishes & {"plaster", "stucco"}:
            return Limit(360.0, SAG)
        if finishes & {"brick", "stone"}:
            return Limit(240.0, SAG)
        return Limit(180.0 if "gypsum board" in finishes else 120.0, SAG)

    def check_member(self, case: MemberCase) -> MemberResult:
        """Check a joist, rafter or tie by NDS."""
        return members.check_member(case)

    def check_stud(self, case: StudCase) -> MemberResult:
        """Check a stud by NDS."""
        return stud_checks.check_stud(case)

    def check_beam(self, case: BeamCase, forces: BeamForces) -> MemberResult:
        """Check a beam by NDS."""
        return beam_checks.check_beam(case, forces)

    def check_post(self, case: PostCase) -> MemberResult:
        """Check a post by NDS or AISC 360."""
        return post_checks.check_post(case)

    def has_values(self, case: PostCase) -> bool:
        """Whether NDS or AISC 360 has values for a post."""
        return post_checks.has_values(case)

    def across_grain(self, species: str, grade: str, lumber: Section) -> float:
        """Return Fc perp (NDS 3.10.2; no load duration factor, Table 4.3.1)."""
        return reference_values(species, grade, lumber).fc_perp

    def fails_bending(
        self, lumber: Section, wood: tuple[str, str], moments: Sequence[tuple[Combination, float]]
    ) -> bool:
        """Look at Fb' with CL = 1 (NDS 3.3.1)."""
        values, cf = reference_values(*wood, lumber), size_factors(*wood, lumber)[0]
        cr = repetitive_factor(lumber.kind, 0.0) if lumber.plies >= 3 else 1.0
        allowed = values.fb * cf * cr * lumber.modulus
        return any(moment > allowed * combo.duration for combo, moment in moments)


US = UnitedStates()
