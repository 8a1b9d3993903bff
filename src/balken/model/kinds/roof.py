"""Gable roofs over walls."""

from typing import TYPE_CHECKING

from balken.catalog.sections import sawn_section
from balken.model.base import Hang, Record, WallIds
from balken.model.errors import EditError
from balken.model.kinds.kind import Kind
from balken.model.rule_parts import (
    hung,
    named,
    walls_there,
)
from balken.units.system import INCH

if TYPE_CHECKING:
    from balken.model.records import Project


from balken.model.kinds.choice import Choice, check_choice


class Roof(Record, frozen=True, kw_only=True):
    """A gable roof over walls; ``pitch`` is rise over run, ``ridge`` its direction (None = the longer way)."""

    id: str
    name: str
    walls: WallIds
    bearing: Hang
    pitch: float = 0.5
    overhang: float = 12.0 * INCH
    ridge: float | None = None
    rafters: Choice = Choice()
    ties: Choice = Choice()
    ridge_size: str | None = None
    deck: float = 0.625 * INCH


def check_roof(project: "Project", roof: Roof) -> None:
    """Raise EditError unless a roof's walls are there, its pitch and overhang are within bounds."""
    walls_there(project, roof.walls, roof.name)
    hung(project, roof.bearing, roof.name)
    check_choice(roof.rafters, roof.name)
    check_choice(roof.ties, roof.name)
    if roof.rafters.made_of != "sawn" or roof.ties.made_of != "sawn":
        raise EditError("its rafters and ties are sawn lumber.", roof.name, "Choose a section such as 2x8.")
    if roof.ridge_size is not None:
        named(sawn_section, roof.ridge_size, roof.name)
    if not 0.05 <= roof.pitch <= 3.8:
        raise EditError("a gable roof needs a pitch between 1:12 and 75 degrees.", roof.name, "Type one such as 6:12.")
    if not 0.0 <= roof.overhang <= 3000.0:
        raise EditError("the overhang must be 0 to 10 ft (3 m).", roof.name)
    if not 0.0 <= roof.deck <= 500.0:
        raise EditError("the roof deck must be 0 to 20 in (500 mm) thick.", roof.name)


KIND = Kind(Roof, "roofs", "roof", "roof", "roofs", check_roof)
