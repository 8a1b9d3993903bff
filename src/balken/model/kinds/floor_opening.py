"""Openings in floors: stairs, chimneys, shafts, through one floor or several."""

from typing import TYPE_CHECKING, Annotated, Literal

from balken.geometry.plane import is_simple
from balken.model.base import Place, Record, To
from balken.model.errors import EditError
from balken.model.kinds.choice import Choice, check_choice
from balken.model.kinds.kind import Kind
from balken.model.places import by_id
from balken.model.rule_parts import placed
from balken.units.system import FOOT, INCH

if TYPE_CHECKING:
    from balken.model.records import Project

Lands = Literal["nothing", "at its near end", "at its far end"]
"""At which end of its longer side, from its corner on, a stair lands; "nothing": no flight is carried."""
FlightOf = Literal["load alone", "stringers"]
"""What a flight is: brought by someone else, or framed here."""
HoleKind = Literal["stair", "chimney", "shaft"]
LEAST, MOST = 150.0, 12_000.0
MOST_CORNERS = 200


class FloorOpening(Record, frozen=True, kw_only=True):
    """A rectangle left out of floors: its corner, its sides along x and y of the plan turned by ``angle`` degrees, mm;
    where a stair in it lands.  ``flight``: whether it is framed of ``stringers``, with treads so deep, or comes as a load alone.
    ``corners``: another shape in its place, corner by corner; ``source``: from which thing of the
    architect's file.
    """

    id: str
    floors: tuple[Annotated[str, To(("floors",), "drop")], ...]
    place: Place
    kind: HoleKind = "stair"
    width: float = 3.0 * FOOT
    depth: float = 10.0 * FOOT
    angle: float = 0.0
    lands: Lands = "nothing"
    flight: FlightOf = "load alone"
    stringers: Choice = Choice()
    tread: float = 10.0 * INCH
    corners: tuple[Place, ...] = ()
    source: str = ""


def check_floor_opening(project: "Project", opening: FloorOpening) -> None:
    """Raise EditError unless an opening lies somewhere and is of a size that can be framed."""
    where = "Opening in a floor"
    placed(project, opening.place, where)
    known = by_id(project.floors)
    for floor in opening.floors:
        if floor not in known:
            raise EditError("a floor it goes through is not there.", where)
    if not 150.0 <= opening.tread <= 600.0:
        raise EditError("its treads must be 6 to 24 in (150 to 600 mm) deep.", where, "Type such as 10 in.")
    check_choice(opening.stringers, where)
    if opening.stringers.made_of != "sawn":
        raise EditError("its stringers are of sawn lumber.", where)
    if opening.corners:
        _check_corners(project, opening)
        return
    if not (LEAST <= opening.width <= MOST and LEAST <= opening.depth <= MOST):
        raise EditError("its sides must be 6 in to 40 ft (150 mm to 12 m).", where, "Type such as 3' and 10'.")


def _check_corners(project: "Project", opening: FloorOpening) -> None:
    """Raise EditError unless its corners enclose a plain shape."""
    where = "Opening in a floor"
    ring = [placed(project, corner, where) for corner in opening.corners]
    if not 3 <= len(ring) <= MOST_CORNERS:
        raise EditError("it needs three corners at least.", where, "Click them one after the other.")
    if not is_simple(ring):
        raise EditError("its outline crosses itself.", where, "Click its corners in order round it.")
    (x0, y0), (x1, y1) = (
        (min(p[0] for p in ring), min(p[1] for p in ring)),
        (max(p[0] for p in ring), max(p[1] for p in ring)),
    )
    if not (LEAST <= x1 - x0 <= MOST and LEAST <= y1 - y0 <= MOST):
        raise EditError("it must be 6 in to 40 ft (150 mm to 12 m) wide.", where)


KIND = Kind(
    FloorOpening, "floor_openings", "floor-opening", "opening in a floor", "openings in floors", check_floor_opening
)
