"""Beams of lists that the user read in: beams left to auto are chosen among them."""

from typing import TYPE_CHECKING

from balken.catalog import own_beams
from balken.model.base import Record
from balken.model.errors import EditError
from balken.model.kinds.kind import Kind

if TYPE_CHECKING:
    from balken.model.records import Project


class OwnBeam(Record, frozen=True, kw_only=True):
    """A beam of a list: mm, its price in dollars a metre, its values (N/mm2) or, of steel, its shape."""

    id: str
    name: str
    made_of: own_beams.OwnWord
    breadth: float
    depth: float
    price: float
    wood: own_beams.WoodValues | None = None
    shape: own_beams.WShape | None = None

    @property
    def row(self) -> own_beams.OwnBeam:
        """Return it as the catalogue holds it."""
        return own_beams.OwnBeam(*(getattr(self, field) for field in own_beams.OwnBeam._fields))


def check_own_beam(project: "Project", beam: OwnBeam) -> None:
    """Raise EditError unless a beam of a list measures and carries something, and is known by its name."""
    where = f"Beam {beam.name}"
    if (beam.made_of == "W") != (beam.shape is not None) or (beam.wood is None) != (beam.shape is not None):
        raise EditError("its figures are not those of what it is made of.", where)
    if fault := own_beams.fault_of(beam.row):
        raise EditError(f"it {fault}.", where)
    if own_beams.know(beam.row) != beam.name:
        raise EditError("another beam has its name.", where, "Give it another in the list.")


KIND = Kind(OwnBeam, "own_beams", "own-beam", "listed beam", "listed beams", check_own_beam)
