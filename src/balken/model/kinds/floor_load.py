"""Loads typed somewhere on a floor: a bath, a safe, a stone floor, a partition; in a point, along a line or on a rectangle."""

import math
from typing import TYPE_CHECKING, Annotated, Protocol

from balken.model.base import Place, Record, To
from balken.model.errors import EditError
from balken.model.kinds.kind import Kind
from balken.model.rule_parts import placed
from balken.units.system import POUND_FORCE

if TYPE_CHECKING:
    from balken.model.records import Project

WIDEST = 50_000.0
HEAVIEST = 1e7


class FloorLoad(Record, frozen=True, kw_only=True):
    """A load on a floor: a corner of it, its sides along x and y of the plan turned by ``angle`` degrees, mm (0: a line, a
    point); all of it, N, beside what the floor carries everywhere.
    """

    id: str
    floor: Annotated[str, To(("floors",), "with")]
    place: Place
    name: str = ""
    width: float = 0.0
    depth: float = 0.0
    angle: float = 0.0
    dead: float = 0.0
    live: float = 300.0 * POUND_FORCE


def check_floor_load(project: "Project", load: FloorLoad) -> None:
    """Raise EditError unless a load lies somewhere on a floor and weighs something that can be."""
    where = load.name or "Load"
    placed(project, load.place, where)
    if all(floor.id != load.floor for floor in project.floors):
        raise EditError("the floor it lies on is not there.", where)
    check_measures(load, where)


class Lies(Protocol):
    """What a typed load is: how wide and deep, how turned, how much."""

    @property
    def width(self) -> float: ...
    @property
    def depth(self) -> float: ...
    @property
    def angle(self) -> float: ...
    @property
    def dead(self) -> float: ...
    @property
    def live(self) -> float: ...


def check_measures(load: Lies, where: str) -> None:
    """Raise EditError unless a typed load is as wide and heavy as one may be."""
    if not (0.0 <= load.width <= WIDEST and 0.0 <= load.depth <= WIDEST and math.isfinite(load.angle)):
        raise EditError("its sides must be 0 to 160 ft (50 m).", where, "Type 0 for a line or a point.")
    if not (0.0 <= load.dead <= HEAVIEST and 0.0 <= load.live <= HEAVIEST):
        raise EditError("it must press with 0 to 2,000 kip (10 MN).", where)


KIND = Kind(FloorLoad, "floor_loads", "load", "load", "loads", check_floor_load)
