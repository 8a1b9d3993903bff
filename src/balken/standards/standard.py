"""What every standard offers: combinations of its cases, limits of sag, and checks of what is asked of it (``demands``).

A standard is an object passed in, chosen by the project; design asks it and knows no clause.
"""

from collections.abc import Mapping, Sequence
from typing import Protocol

from balken.catalog.sections import Section
from balken.loads.cases import Combination, Combinations
from balken.standards.checks import MemberResult
from balken.standards.demands import BeamCase, BeamForces, Limit, MemberCase, PostCase, StudCase


class Standard(Protocol):
    """One family of standards."""

    @property
    def id(self) -> str:
        """What a project names it by."""
        ...

    @property
    def title(self) -> str:
        """What it consists of."""
        ...

    @property
    def letters(self) -> Mapping[str, str]:
        """The letter of each load case."""
        ...

    @property
    def combinations(self) -> Combinations:
        """How load cases combine for allowable stresses."""
        ...

    @property
    def joist_limit(self) -> Limit:
        """The limit of sag of floor joists."""
        ...

    @property
    def tie_limit(self) -> Limit:
        """The limit of sag of ceiling ties."""
        ...

    def rafter_limit(self, pitch: float) -> Limit:
        """Return the limit of sag of rafters without a ceiling at a pitch (rise over run)."""
        ...

    def stud_limit(self, finishes: frozenset[str]) -> Limit:
        """Return the limit of sag of an outside wall under wind, by the materials of its layers."""
        ...

    def check_member(self, case: MemberCase) -> MemberResult:
        """Check a joist, rafter or tie; raises KeyError for sections, species and grades without values."""
        ...

    def check_stud(self, case: StudCase) -> MemberResult:
        """Check a stud; raises KeyError as above."""
        ...

    def check_beam(self, case: BeamCase, forces: BeamForces) -> MemberResult:
        """Check a beam for the forces of its line; raises KeyError as above."""
        ...

    def check_post(self, case: PostCase) -> MemberResult:
        """Check a post; raises KeyError as above."""
        ...

    def has_values(self, case: PostCase) -> bool:
        """Whether there are values for a post of this section, species and grade."""
        ...

    def across_grain(self, species: str, grade: str, lumber: Section) -> float:
        """Return what lumber bears across its grain, N/mm2."""
        ...

    def fails_bending(
        self, lumber: Section, wood: tuple[str, str], moments: Sequence[tuple[Combination, float]]
    ) -> bool:
        """Whether a beam held all along fails by bending alone under one of these moments (N mm); a quick look."""
        ...
