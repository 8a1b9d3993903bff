"""What many rules ask: is it there, does it stand upright, is it within bounds."""

from collections.abc import Iterable
from typing import TYPE_CHECKING

from balken.catalog.species import grade_name
from balken.model.base import Hang, Place
from balken.model.errors import EditError
from balken.model.places import by_id, height, locate
from balken.units import Units, say_length

if TYPE_CHECKING:
    from balken.model.records import Project

SHORTEST_WALL = 100.0
CLOSEST_SPACING = 50.0
FARTHEST = 1e6
"""1 km: nothing of a building lies farther from its origin, mm."""
WIDEST_SPACING = 3000.0


def named(find: object, name: str, where: str) -> None:
    """Raise EditError when ``find`` knows no such name."""
    try:
        find(name)  # type: ignore[operator]
    except KeyError as error:
        raise EditError(str(error.args[0]), where) from None


def placed(project: "Project", place: Place, where: str) -> tuple[float, float]:
    """Return where a place is; raises EditError when the axes it is tied to are gone."""
    try:
        return locate(place, project.grids)
    except KeyError as error:
        raise EditError(f"it is tied to {error.args[0]}, which is not there.", where, "Place it again.") from None


def hung(project: "Project", hang: Hang, where: str) -> float:
    """Return a height; raises EditError when its level is gone."""
    try:
        return height(hang, project.levels)
    except KeyError:
        raise EditError(f"it hangs on the level '{hang.level}', which is not there.", where) from None


def upright(project: "Project", foot: Hang, head: Hang, where: str) -> float:
    """Return how tall a thing is; raises EditError unless its head is above its foot."""
    low, high = hung(project, foot, where), hung(project, head, where)
    if high - low < 50.0:
        names = by_id(project.levels)
        raise EditError(
            f"its head ({names[head.level].name}, {say_length(high, project.units)}) would not be above "
            f"its foot ({names[foot.level].name}, {say_length(low, project.units)}).",
            where,
            "Choose a higher head or a lower foot.",
        )
    return high - low


def walls_there(project: "Project", walls: Iterable[str], where: str) -> None:
    """Raise EditError when one of the walls is gone."""
    known = by_id(project.walls)
    for wall_id in walls:
        if wall_id not in known:
            raise EditError(f"its wall '{wall_id}' is not there.", where)


def graded(species: str, grade: str, where: str) -> None:
    """Raise EditError when there is no such species or grade."""
    try:
        grade_name(species, grade)
    except KeyError as error:
        raise EditError(str(error.args[0]), where) from None


def check_spacing(spacing: float | None, where: str) -> None:
    """Raise EditError unless the spacing is None (auto) or between 2 in and 10 ft."""
    if spacing is not None and not CLOSEST_SPACING <= spacing <= WIDEST_SPACING:
        raise EditError(
            "the spacing must be more than 2 in (50 mm) and less than 10 ft (3 m).",
            where,
            "Type one such as 16in, 400 mm or auto.",
        )


def off_its_wall(start: float, end: float, length: float, units: Units) -> str:
    """Say how a stretch along a wall that is ``length`` mm long leaves it, in figures that are all above zero."""
    if start < 0.0:
        return f"it would begin {say_length(-start, units)} before the start of the wall."
    return f"it would end {say_length(end - length, units)} past the end of the wall, which is {say_length(length, units)} long."
