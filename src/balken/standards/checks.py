"""One check and the result of all checks of a member; every standard returns them."""

from typing import TYPE_CHECKING

from balken.standards.measures import Quantity, Working
from balken.value import Value

if TYPE_CHECKING:
    from balken.loads.cases import Cases
    from balken.standards.demands import BeamCase, GirderCase, MemberCase, PostCase, SlabCase, StringerCase, StudCase

FAR_OVER = 99.0
"""Used this far or more is said as that: what nothing holds has no last figure."""


def over(demand: float, capacity: float) -> float:
    """Return demand over capacity, at most ``FAR_OVER``; never infinite and never no number."""
    if not demand > 0.0:
        return 0.0 if demand == demand else FAR_OVER
    return min(demand / capacity, FAR_OVER) if capacity > 0.0 else FAR_OVER


def used_text(used: float) -> str:
    """Return how far something is used: 87%; beyond ten times over no figure says anything more."""
    return "over 1000%" if used > 9.995 else f"{used:.0%}"


class Check(Value, frozen=True):
    """One check: what, by which clause, demand and capacity, under which combination, and how they come about.

    Units are those of its quantity (``quantities.SI_UNITS``).
    """

    name: str
    clause: str
    demand: float
    capacity: float
    quantity: Quantity
    combination: str
    working: tuple[Working, ...] = ()

    @property
    def used(self) -> float:
        """Demand over capacity, at most ``FAR_OVER``."""
        return over(self.demand, self.capacity)


class MemberResult(Value, frozen=True):
    """All checks of a member; the governing one first.

    ``notes``: what it needs beside its section to be so strong.
    """

    case: "MemberCase | StudCase | BeamCase | PostCase | GirderCase | SlabCase | StringerCase"
    checks: tuple[Check, ...]
    notes: tuple[str, ...] = ()

    @property
    def used(self) -> float:
        """How far the member is used: the greatest of its checks."""
        return self.checks[0].used

    @property
    def governs(self) -> Check:
        """The check that governs."""
        return self.checks[0]


class Span(Value, frozen=True):
    """The greatest clear span of a case (mm, in plan) and what limits it."""

    length: float
    governs: str
    clause: str
    result: MemberResult


class TableSpan(Value, frozen=True):
    """How far a member reaches by a table: which, for which spacing (mm), dead load and snow (kN/m2), limit of sag (L/n), by which factor for a
    raised tie, mm in plan.
    """

    table: str
    spacing: float
    dead: float
    snow: float
    limit: float
    factor: float
    length: float


class GirderResult(Value, frozen=True):
    """A beam checked, and what its line brings.

    ``reactions``: with every span loaded, N by case at each support; ``extremes``: the most and least over combinations
    and arrangements, N.  ``moments``: greatest sagging and hogging, N mm; ``shear``: greatest, N.  ``by_case``: the most and
    least of each case at each support, over arrangements, N.  ``sags``: of each
    overhang and span from the left, under load that comes and goes and in all, mm.
    """

    result: MemberResult
    reactions: tuple["Cases", ...]
    extremes: tuple[tuple[float, float], ...]
    moments: tuple[float, float]
    shear: float
    by_case: tuple[tuple["Cases", "Cases"], ...]
    sags: tuple[tuple[float, float], ...]

    @property
    def used(self) -> float:
        """How far it is used."""
        return self.result.used


class GirderCurves(Value, frozen=True):
    """What a beam is bent and sheared by along its line: the most and least over combinations and arrangements.

    ``at``: places from its left end, mm; where the shear leaps a place stands twice.  ``sag``, ``hog``: moments, N mm, sagging
    ones positive; ``up``, ``down``: greatest and least shear, N.  All of one length.
    """

    at: tuple[float, ...]
    sag: tuple[float, ...]
    hog: tuple[float, ...]
    up: tuple[float, ...]
    down: tuple[float, ...]


def kept_limit(check: Check) -> bool:
    """A least or greatest size that is kept says nothing about how far something is used."""
    return (
        check.name.endswith(("least", "greatest")) or check.name == "tension-controlled"
    ) and check.used <= 1.0 + 1e-9


def worst_of(checks: list[Check]) -> Check:
    """Return the check that is used most."""
    return max(checks, key=lambda check: check.used)
