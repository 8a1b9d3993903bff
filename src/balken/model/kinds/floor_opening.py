"""Openings in floors: stairs, chimneys, shafts, through one floor or several."""

from typing import TYPE_CHECKING, Annotated, Literal

from balken.model.base import Place, Record, To
from balken.model.errors import EditError
from balken.model.kinds.kind import Kind
from balken.model.places import by_id
from balken.model.rule_parts import placed
from balken.units.system import FOOT

if TYPE_CHECKING:
    from balken.model.records import Project

Lands = Literal["nothing", "at its near end", "at its far end"]
"""At which end of its longer side, from its corner on, a stair lands; "nothing": no flight is carried."""
HoleKind = Literal["stair", "chimney", "shaft"]
LEAST, MOST = 150.0, 12_000.0


class FloorOpening(Record, frozen=True, kw_only=True):
    """A rectangle left out of floors: its corner, its sides along x and y of the plan turned by ``angle`` degrees, mm;
    where a stair in it lands.
    """

    id: str
    floors: tuple[Annotated[str, To(("floors",), "drop")], ...]
    place: Place
    kind: HoleKind = "stair"
    width: float = 3.0 * FOOT
    depth: float = 10.0 * FOOT
    angle: float = 0.0
    lands: Lands = "nothing"


def check_floor_opening(project: "Project", opening: FloorOpening) -> None:
    """Raise EditError unless an opening lies somewhere and is of a size that can be framed."""
    where = "Opening in a floor"
    placed(project, opening.place, where)
    known = by_id(project.floors)
    for floor in opening.floors:
        if floor not in known:
            raise EditError("a floor it goes through is not there.", where)
    if not (LEAST <= opening.width <= MOST and LEAST <= opening.depth <= MOST):
        raise EditError("its sides must be 6 in to 40 ft (150 mm to 12 m).", where, "Type such as 3' and 10'.")


KIND = Kind(
    FloorOpening, "floor_openings", "floor-opening", "opening in a floor", "openings in floors", check_floor_opening
)
