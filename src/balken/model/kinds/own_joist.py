"""I-joists of a list that the user read in: joists left to auto are chosen among them."""

from typing import TYPE_CHECKING

from balken.catalog import own_joists
from balken.model.base import Record
from balken.model.errors import EditError
from balken.model.kinds.kind import Kind

if TYPE_CHECKING:
    from balken.model.records import Project


SCALES = {"ei": 1e9, "moment": 1e6, "k": 1e3}
"""What its figures are multiplied with for N and mm."""


class OwnJoist(Record, frozen=True, kw_only=True):
    """An I-joist: mm; E I kN m2, moment kN m, forces N, without and with web stiffeners; ``k`` of the sag from shear, kN."""

    id: str
    name: str
    depth: float
    width: float
    flange: float
    web: float
    ei: float
    moment: float
    shear: float
    end: float
    end_stiffened: float
    inner: float
    inner_stiffened: float
    k: float

    @property
    def row(self) -> own_joists.OwnJoist:
        """Return it as the catalogue holds it."""
        return own_joists.OwnJoist(
            *(getattr(self, field) * SCALES.get(field, 1) for field in own_joists.OwnJoist._fields)
        )


def check_own_joist(project: "Project", joist: OwnJoist) -> None:
    """Raise EditError unless an I-joist measures and carries something, and is known by its name."""
    where = f"I-joist {joist.name}"
    if fault := own_joists.fault_of(joist.row):
        raise EditError(f"it {fault}.", where)
    if own_joists.know(joist.row) != joist.name:
        raise EditError("another I-joist has its name.", where, "Give it another in the list.")


KIND = Kind(OwnJoist, "own_joists", "own-joist", "I-joist", "I-joists", check_own_joist)
