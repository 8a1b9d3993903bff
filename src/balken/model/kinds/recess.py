"""Pockets and openings of foundation walls."""

from typing import TYPE_CHECKING, Annotated, Literal

from balken.geometry.plane import distance
from balken.model.base import Record, To
from balken.model.errors import EditError
from balken.model.kinds.kind import Kind
from balken.model.places import by_id, locate
from balken.model.rule_parts import off_its_wall
from balken.units.system import INCH

if TYPE_CHECKING:
    from balken.model.records import Project


class Recess(Record, frozen=True, kw_only=True):
    """An opening through a foundation wall, or a pocket for a girder in its inside face.

    ``offset`` from the wall's start corner, ``top`` below the foundation wall's top, mm.
    """

    id: str
    foundation: Annotated[str, To(("foundations",), "with")]
    wall: Annotated[str, To(("walls",), "with")]
    kind: Literal["opening", "pocket"] = "pocket"
    offset: float = 0.0
    width: float = 5.0 * INCH
    height: float = 10.0 * INCH
    top: float = 0.0
    depth: float = 4.0 * INCH


def check_recess(project: "Project", recess: Recess) -> None:
    """Raise EditError unless a pocket or opening lies within its foundation wall."""
    where = f"{recess.kind.capitalize()} in a foundation wall"
    foundation = by_id(project.foundations).get(recess.foundation)
    if foundation is None or recess.wall not in foundation.walls:
        raise EditError("its foundation wall is not there.", where)
    wall = by_id(project.walls)[recess.wall]
    length = distance(locate(wall.start, project.grids), locate(wall.end, project.grids))
    if recess.width < 20.0 or recess.height < 20.0:
        raise EditError("it must be at least 1 in (20 mm) wide and high.", where, "Type a larger one.")
    if recess.offset < 0.0 or recess.offset + recess.width > length:
        off = off_its_wall(recess.offset, recess.offset + recess.width, length, project.units)
        raise EditError(off, where, "Type a place within the wall.")
    if recess.top < 0.0 or (recess.kind == "pocket" and not 10.0 <= recess.depth < foundation.thickness):
        raise EditError("a pocket must be shallower than the wall is thick.", where)


KIND = Kind(Recess, "recesses", "recess", "recess", "recesses", check_recess)
