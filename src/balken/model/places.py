"""Finding records by id, and where authored places and heights are."""

import math
from collections.abc import Mapping
from typing import TYPE_CHECKING, Any, TypeVar

from balken.geometry.plane import Point, add, sub, turn
from balken.model.base import AxisPoint, Hang, Place, Record
from balken.remembered import remembered

if TYPE_CHECKING:
    from balken.model.kinds.grid import Axis, Grid
    from balken.model.kinds.level import Level
    from balken.model.records import Project

R = TypeVar("R", bound=Record)
_recent: dict[int, tuple[tuple[Any, ...], dict[str, Any]]] = {}


def by_id(records: tuple[R, ...]) -> Mapping[str, R]:
    """Return the records of a collection by id; remembered for the last few collections."""
    known = _recent.get(id(records))
    if known is not None and known[0] is records:
        return known[1]
    made = {record.id: record for record in records}  # type: ignore[attr-defined]
    if len(_recent) > 200:
        _recent.clear()
    _recent[id(records)] = (records, made)
    return made


_numbered: dict[int, tuple[tuple[Any, ...], dict[str, int]]] = {}


def numbers(records: tuple[R, ...]) -> Mapping[str, int]:
    """Return each record's number in its collection, from 1; remembered for the last few collections."""
    known = _numbered.get(id(records))
    if known is not None and known[0] is records:
        return known[1]
    made = {record.id: i for i, record in enumerate(records, 1)}  # type: ignore[attr-defined]
    if len(_numbered) > 50:
        _numbered.clear()
    _numbered[id(records)] = (records, made)
    return made


def axis_positions(axes: "tuple[Axis, ...]") -> list[float]:
    """Return each axis's distance from the grid's origin, mm."""
    positions: list[float] = []
    for axis in axes:
        positions.append((positions[-1] if positions else 0.0) + axis.gap)
    return positions


def axis_position(axes: "tuple[Axis, ...]", axis_id: str) -> float:
    """Return one axis's distance from the origin; raises KeyError."""
    return _positions_by_id(axes)[axis_id]


@remembered(500)
def _positions_by_id(axes: "tuple[Axis, ...]") -> dict[str, float]:
    return {axis.id: at for axis, at in zip(axes, axis_positions(axes), strict=True)}


def grid_point(grid: "Grid", x: float, y: float) -> Point:
    """Return the plan point at (x, y) of the grid's own directions; in a radial one x is degrees, y the radius."""
    if grid.kind == "radial":
        return add(grid.origin, turn((y, 0.0), grid.angle + x))
    return add(grid.origin, turn((x, y), grid.angle))


def grid_position(grid: "Grid", point: Point) -> Point:
    """Return where a plan point is in the grid's own directions (degrees and radius in a radial one)."""
    x, y = turn(sub(point, grid.origin), -grid.angle)
    if grid.kind == "radial":
        return (math.degrees(math.atan2(y, x)) % 360.0, math.hypot(x, y))
    return (x, y)


@remembered(50_000)
def locate(place: Place, grids: "tuple[Grid, ...]") -> Point:
    """Return where a place is in plan; raises KeyError when its grid or axis is gone."""
    if not isinstance(place, AxisPoint):
        return (place.x, place.y)
    grid = by_id(grids)[place.grid]
    x = axis_position(grid.x_axes, place.x_axis) + place.dx
    y = axis_position(grid.y_axes, place.y_axis) + place.dy
    return grid_point(grid, x, y)


def height(hang: Hang, levels: "tuple[Level, ...]") -> float:
    """Return the height of a level plus its offset; raises KeyError when the level is gone."""
    return by_id(levels)[hang.level].height + hang.offset


def wall_label(project: "Project", wall_id: str) -> str:
    """Return how a wall is called in messages: 'Wall 3'; a beam that is a side of a roof: 'Beam 2'."""
    number = numbers(project.walls).get(wall_id)
    if number is None and (beam := numbers(project.beams).get(wall_id)) is not None:
        return f"Beam {beam}"
    return f"Wall {number}" if number is not None else f"Wall '{wall_id}'"
