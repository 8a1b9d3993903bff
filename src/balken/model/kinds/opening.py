"""Openings: doors, windows and plain holes through walls."""

from typing import TYPE_CHECKING, Annotated, Literal

from balken.catalog.sections import lumber_section
from balken.geometry.plane import distance
from balken.model.base import Record, To
from balken.model.errors import EditError
from balken.model.kinds.kind import Kind
from balken.model.places import by_id, height, locate, wall_label
from balken.model.rule_parts import (
    named,
    off_its_wall,
)
from balken.units import say_length

if TYPE_CHECKING:
    from balken.model.records import Project


OpeningKind = Literal["door", "window", "plain"]


class Opening(Record, frozen=True, kw_only=True):
    """A hole through all layers of a wall; ``offset`` from the wall's start corner, ``sill`` above its foot.

    ``header``: its header such as 2-2x10, None = Balken chooses.
    """

    id: str
    wall: Annotated[str, To(("walls",), "with")]
    kind: OpeningKind
    offset: float
    width: float
    height: float
    sill: float = 0.0
    header: str | None = None
    source: str = ""


def check_opening(project: "Project", opening: Opening) -> None:
    """Raise EditError unless an opening lies within its wall."""
    wall = by_id(project.walls).get(opening.wall)
    if wall is None:
        raise EditError(f"its wall '{opening.wall}' is not there.", f"Opening {opening.id}")
    units = project.units
    where = f"{opening.kind.capitalize()} opening in {wall_label(project, wall.id)}"
    if opening.header is not None:
        named(lumber_section, opening.header, where)
    if opening.width < 50.0 or opening.height < 50.0:
        raise EditError("its width and height must be at least 2 in (50 mm).", where)
    length = distance(locate(wall.start, project.grids), locate(wall.end, project.grids))
    if opening.offset < 0.0 or opening.offset + opening.width > length + 0.01:
        off = off_its_wall(opening.offset, opening.offset + opening.width, length, units)
        raise EditError(off, where, "Type a smaller width, or another place along the wall.")
    tall = height(wall.head, project.levels) - height(wall.foot, project.levels)
    if opening.sill < 0.0:
        raise EditError(
            f"its sill would be {say_length(-opening.sill, units)} under the foot of the wall.",
            where,
            "Type 0 or more.",
        )
    if opening.sill + opening.height > tall + 0.01:
        raise EditError(
            f"its head would be {say_length(opening.sill + opening.height, units)} above the foot of the wall, "
            f"which is {say_length(tall, units)} tall.",
            where,
            "Type a lower sill or a smaller height.",
        )


def check_overlaps(project: "Project") -> None:
    """Raise EditError unless no openings of a wall overlap."""
    by_wall: dict[str, list[Opening]] = {}
    for opening in project.openings:
        by_wall.setdefault(opening.wall, []).append(opening)
    for group in by_wall.values():
        for i, opening in enumerate(group):
            for other in group[:i]:
                _beside(project, opening, other)


def _beside(project: "Project", opening: Opening, other: Opening) -> None:
    beside = (
        other.offset >= opening.offset + opening.width
        or opening.offset >= other.offset + other.width
        or other.sill >= opening.sill + opening.height
        or opening.sill >= other.sill + other.height
    )
    if not beside:
        raise EditError(
            f"it overlaps the {other.kind} opening at {say_length(other.offset, project.units)}.",
            f"{opening.kind.capitalize()} opening in {wall_label(project, opening.wall)}",
            "Move or narrow one of them.",
        )


KIND = Kind(Opening, "openings", "opening", "opening", "openings", check_opening, (check_overlaps,))
