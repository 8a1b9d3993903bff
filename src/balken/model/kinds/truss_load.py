"""Weights hung from the trusses of a roof: a furnace, a water tank, a fan; in a point, along a line or on a rectangle."""

from typing import TYPE_CHECKING, Annotated

from balken.model.base import Place, Record, To
from balken.model.errors import EditError
from balken.model.kinds.floor_load import check_measures
from balken.model.kinds.kind import Kind
from balken.model.places import by_id
from balken.model.rule_parts import placed
from balken.units.system import POUND_FORCE

if TYPE_CHECKING:
    from balken.model.records import Project


class TrussLoad(Record, frozen=True, kw_only=True):
    """A weight on the bottom chords of a roof's trusses: a corner of it, its sides along x and y of the plan turned by ``angle`` degrees,
    mm (0: a line, a point); all of it, N, beside what ceilings weigh and attics carry everywhere.
    """

    id: str
    roof: Annotated[str, To(("roofs",), "with")]
    place: Place
    name: str = ""
    width: float = 0.0
    depth: float = 0.0
    angle: float = 0.0
    dead: float = 200.0 * POUND_FORCE
    live: float = 0.0


def check_truss_load(project: "Project", load: TrussLoad) -> None:
    """Raise EditError unless a weight hangs somewhere under a roof and is one that can be."""
    where = load.name or "Weight"
    placed(project, load.place, where)
    if load.roof not in by_id(project.roofs):
        raise EditError("the roof it hangs from is not there.", where)
    check_measures(load, where)


KIND = Kind(TrussLoad, "truss_loads", "weight", "weight", "weights", check_truss_load)
