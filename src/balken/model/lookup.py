"""Finding records by id, and where authored places and heights are."""

import math
from collections.abc import Mapping
from typing import Any, TypeVar

from balken.geometry.plane import Point, add, sub, turn
from balken.model.errors import EditError
from balken.model.naming import numbered_part
from balken.model.records import (
    COLLECTIONS,
    PREFIXES,
    Axis,
    AxisPoint,
    Foundation,
    Grid,
    Hang,
    Level,
    Place,
    Project,
    Record,
)
from balken.remembered import remembered

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


def find(project: Project, record_id: str) -> Record | None:
    """Return the record with that id, of whatever kind, or None."""
    for field in COLLECTIONS.values():
        found = by_id(getattr(project, field)).get(record_id)
        if found is not None:
            return found  # type: ignore[no-any-return]
    return None


def listed(levels: tuple[Level, ...]) -> list[Level]:
    """Return the levels that are offered and drawn, highest first; removed ones are not."""
    return sorted((level for level in levels if not level.removed), key=lambda v: -v.height)


def hanging_on(project: Project, level_id: str) -> tuple[Record, ...]:
    """Return what hangs on a level by foot, head, top or bearing, in the order of the work."""
    found: list[Record] = [w for w in project.walls if level_id in (w.foot.level, w.head.level)]
    found += [c for c in project.columns if level_id in (c.foot.level, c.head.level)]
    found += [f for f in project.foundations if level_id in (f.foot.level, f.head.level)]
    found += [pad for pad in project.pads if level_id in (pad.top.level, pad.head.level)]
    found += [v for v in project.slabs if v.level == level_id]
    found += [f for f in project.floors if f.level == level_id]
    found += [r for r in project.roofs if r.bearing.level == level_id]
    found += [u for u in project.underlays if u.level == level_id]
    return tuple(found)


PARTS = {"step": "steps", "slope": "slopes"}
"""Parts of a foundation that can be selected: as they stand in a reference, and their field."""


def foundation_part(project: Project, ref: str) -> tuple[Foundation, str, int] | None:
    """Return (foundation, "step" or "slope", its number) of a reference such as foundation-1/step/0, None for others."""
    named = numbered_part(ref)
    foundation = by_id(project.foundations).get(named[0]) if named is not None else None
    if named is None or foundation is None:
        return None
    _, kind, number = named
    return (foundation, kind, number) if number < len(getattr(foundation, PARTS[kind])) else None


def next_id(project: Project, kind: type[Record]) -> str:
    """Return a free id for a new record of that kind, such as wall-7."""
    prefix = PREFIXES[kind] + "-"
    taken = [
        int(record.id[len(prefix) :])
        for record in getattr(project, COLLECTIONS[kind])
        if record.id.startswith(prefix) and record.id[len(prefix) :].isdigit()
    ]
    return f"{prefix}{max(taken, default=0) + 1}"


def axis_positions(axes: tuple[Axis, ...]) -> list[float]:
    """Return each axis's distance from the grid's origin, mm."""
    positions: list[float] = []
    for axis in axes:
        positions.append((positions[-1] if positions else 0.0) + axis.gap)
    return positions


def axis_position(axes: tuple[Axis, ...], axis_id: str) -> float:
    """Return one axis's distance from the origin; raises KeyError."""
    return _positions_by_id(axes)[axis_id]


@remembered(500)
def _positions_by_id(axes: tuple[Axis, ...]) -> dict[str, float]:
    return {axis.id: at for axis, at in zip(axes, axis_positions(axes), strict=True)}


def grid_point(grid: Grid, x: float, y: float) -> Point:
    """Return the plan point at (x, y) of the grid's own directions; in a radial one x is degrees, y the radius."""
    if grid.kind == "radial":
        return add(grid.origin, turn((y, 0.0), grid.angle + x))
    return add(grid.origin, turn((x, y), grid.angle))


def grid_position(grid: Grid, point: Point) -> Point:
    """Return where a plan point is in the grid's own directions (degrees and radius in a radial one)."""
    x, y = turn(sub(point, grid.origin), -grid.angle)
    if grid.kind == "radial":
        return (math.degrees(math.atan2(y, x)) % 360.0, math.hypot(x, y))
    return (x, y)


@remembered(50_000)
def locate(place: Place, grids: tuple[Grid, ...]) -> Point:
    """Return where a place is in plan; raises KeyError when its grid or axis is gone."""
    if not isinstance(place, AxisPoint):
        return (place.x, place.y)
    grid = by_id(grids)[place.grid]
    x = axis_position(grid.x_axes, place.x_axis) + place.dx
    y = axis_position(grid.y_axes, place.y_axis) + place.dy
    return grid_point(grid, x, y)


def shown_grids(grids: tuple[Grid, ...], level: str) -> tuple[Grid, ...]:
    """Return the grids that show on the plan of a level ("" = all)."""
    return tuple(grid for grid in grids if not level or not grid.levels or level in grid.levels)


def height(hang: Hang, levels: tuple[Level, ...]) -> float:
    """Return the height of a level plus its offset; raises KeyError when the level is gone."""
    return by_id(levels)[hang.level].height + hang.offset


def ground(levels: tuple[Level, ...]) -> Level | None:
    """Return the level of the ground outside, if there is one."""
    return next((level for level in levels if level.role == "ground"), None)


def there(records: tuple[R, ...], record_id: str) -> R:
    """Return the record with that id; raises EditError when it is gone."""
    found = by_id(records).get(record_id)
    if found is None:
        raise EditError(f"there is nothing with the id '{record_id}' any more.")
    return found


def column_label(project: Project, column_id: str) -> str:
    """Return how a column is called in messages: 'Column 3'."""
    return f"Column {numbers(project.columns).get(column_id, 0)}"


def wall_label(project: Project, wall_id: str) -> str:
    """Return how a wall is called in messages: 'Wall 3'."""
    number = numbers(project.walls).get(wall_id)
    return f"Wall {number}" if number is not None else f"Wall '{wall_id}'"
