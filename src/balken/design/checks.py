"""One check and the result of all checks of a member; every standard returns them."""

import math
from dataclasses import dataclass
from typing import TYPE_CHECKING, Literal

from balken.value import Value

if TYPE_CHECKING:
    from balken.design.columns import ColumnCase
    from balken.design.members import MemberCase


class Check(Value, frozen=True):
    """One check: what, by which clause, demand and capacity, under which combination, and how they come about.

    Stresses in N/mm2, lengths in mm, pressures in kN/m2, forces in kN, moments in kN m, steel in mm2.
    """

    name: str
    clause: str
    demand: float
    capacity: float
    quantity: Literal["stress", "length", "ratio", "pressure", "force", "moment", "steel"]
    combination: str
    working: tuple[str, ...] = ()

    @property
    def used(self) -> float:
        """Demand over capacity."""
        return self.demand / self.capacity if self.capacity > 0.0 else math.inf


@dataclass(frozen=True, slots=True)
class MemberResult:
    """All checks of a member; the governing one first."""

    case: "MemberCase | ColumnCase"
    checks: tuple[Check, ...]

    @property
    def used(self) -> float:
        """How far the member is used: the greatest of its checks."""
        return self.checks[0].used

    @property
    def governs(self) -> Check:
        """The check that governs."""
        return self.checks[0]
