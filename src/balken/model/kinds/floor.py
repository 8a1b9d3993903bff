"""Floors: a layout of joists on a level."""

from typing import TYPE_CHECKING

from balken.model.base import Hang, LevelId, Record, WallIds
from balken.model.errors import EditError
from balken.model.kinds.kind import Kind
from balken.model.rule_parts import (
    hung,
    walls_there,
)
from balken.units.system import INCH

if TYPE_CHECKING:
    from balken.model.records import Project


from balken.model.kinds.choice import Choice, Start, check_choice


class Floor(Record, frozen=True, kw_only=True):
    """A floor whose deck top is on ``level``, bounded by walls.

    ``direction`` of span in degrees, None = the shorter way; ``start``: from where its joists are set out.
    """

    id: str
    name: str
    level: LevelId
    walls: WallIds
    joists: Choice = Choice()
    direction: float | None = None
    start: Start = "one side"
    deck: float = 0.75 * INCH


def check_floor(project: "Project", floor: Floor) -> None:
    """Raise EditError unless a floor's walls are there and its choice can be made."""
    walls_there(project, floor.walls, floor.name)
    hung(project, Hang(level=floor.level), floor.name)
    check_choice(floor.joists, floor.name)
    if not 0.0 <= floor.deck <= 500.0:
        raise EditError("the deck must be 0 to 20 in (500 mm) thick.", floor.name)


KIND = Kind(Floor, "floors", "floor", "floor", "floors", check_floor)
