"""Openings in planes of roofs: windows, chimneys, shafts."""

from typing import TYPE_CHECKING, Annotated, Literal

from balken.model.base import Record, To
from balken.model.errors import EditError
from balken.model.kinds.kind import Kind
from balken.model.places import by_id
from balken.units.system import INCH

if TYPE_CHECKING:
    from balken.model.records import Project

RoofHoleKind = Literal["window", "chimney", "shaft"]
LEAST, MOST = 150.0, 6_000.0
USUAL = 46.0 * INCH
"""How long a window is up the slope where nobody says, mm."""


class RoofOpening(Record, frozen=True, kw_only=True):
    """A rectangle left out of the plane over a wall: ``along`` that from its corner to the rectangle's middle, ``up`` the slope from
    the bearing line to its lower edge, ``length`` up the slope, mm; ``source``: from which thing of the architect's file.
    """

    id: str
    roof: Annotated[str, To(("roofs",), "with")]
    wall: Annotated[str, To(("walls", "beams"), "with")]
    along: float
    up: float
    width: float = 22.5 * INCH
    length: float = USUAL
    kind: RoofHoleKind = "window"
    source: str = ""


def check_roof_opening(project: "Project", opening: RoofOpening) -> None:
    """Raise EditError unless an opening lies over a wall of its roof and is of a size that can be framed."""
    where = "Opening in a roof"
    roof = by_id(project.roofs).get(opening.roof)
    if roof is None:
        raise EditError("its roof is not there.", where)
    if opening.wall not in roof.walls:
        raise EditError("it lies over a wall that is none of its roof's.", where, "Place it over an eave of that roof.")
    if not (LEAST <= opening.width <= MOST and LEAST <= opening.length <= MOST):
        raise EditError("its sides must be 6 in to 20 ft (150 mm to 6 m).", where, 'Type such as 22 1/2" and 46".')
    if not (-1e5 < opening.along < 1e6 and 0.0 <= opening.up < 1e5):
        raise EditError(
            "it lies far off its roof, or below its eave.", where, "Type a distance up the slope such as 5'."
        )


KIND = Kind(RoofOpening, "roof_openings", "roof-opening", "opening in a roof", "openings in roofs", check_roof_opening)
