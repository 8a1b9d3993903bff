"""Places in plan tied to the axes of a grid: they follow when axes move."""

from collections.abc import Callable

import msgspec

from balken.geometry.plane import TOUCH, Point, distance
from balken.model.errors import EditError
from balken.model.lookup import axis_position, axis_positions, by_id, grid_position, locate, there
from balken.model.records import Axis, AxisPoint, FreePoint, Grid, Place, Project
from balken.model.rules import check

NOT_OFF = 1e-6
"""An offset from an axis of less than this (mm) is none."""


def tie(project: Project, point: Point) -> Place:
    """Return a place for a plan point: tied to an axis crossing, or as a wall's end that is there; else free."""
    for grid in project.grids:
        nearest = _nearest_axes(grid, point)
        if nearest is not None and abs(nearest.dx) + abs(nearest.dy) < 2.0 * TOUCH:
            on = msgspec.structs.replace(nearest, dx=0.0, dy=0.0)
            if distance(locate(on, project.grids), point) < TOUCH:
                return on
    for wall in project.walls:
        for place in (wall.start, wall.end):
            if (
                isinstance(place, AxisPoint)
                and _is_off(place)
                and distance(locate(place, project.grids), point) < TOUCH
            ):
                return place
    return FreePoint(x=point[0], y=point[1])


def tie_again(project: Project, place: Place, point: Point) -> Place:
    """Return the place of what moves to a point: one that stood off its axes stays tied to the nearest ones."""
    new = tie(project, point)
    if isinstance(new, FreePoint) and isinstance(place, AxisPoint) and _is_off(place):
        return tied_off(project, point, place.grid) or new
    return new


def tied_off(project: Project, point: Point, grid_id: str = "") -> AxisPoint | None:
    """Return a place tied to the nearest axes both ways, with its distances from them; None without such a grid.

    ``grid_id``: the grid to take; without it, that whose crossing is nearest.  Radial grids are passed over.
    """
    found: list[tuple[float, AxisPoint]] = []
    for grid in project.grids:
        place = _nearest_axes(grid, point)
        if place is not None and grid.kind != "radial" and grid_id in ("", grid.id):
            found.append((abs(place.dx) + abs(place.dy), place))
    return min(found, key=lambda row: row[0])[1] if found else None


def tie_to_axes(project: Project, wall_ids: tuple[str, ...]) -> Project:
    """Tie the free ends of walls to the nearest axes at the distance they stand off them, and what meets them there.

    Raises EditError when no end is free or there is no grid of straight axes.
    """
    if all(grid.kind == "radial" for grid in project.grids):
        raise EditError("there are no straight axes to tie walls to.", do="Set out a grid first.")
    made = _replaced(project, wall_ids, FreePoint, lambda point: tied_off(project, point))
    if made is project:
        raise EditError("both ends of every wall selected are tied already.", do="Move an axis: they follow.")
    return made


def let_go_of_axes(project: Project, wall_ids: tuple[str, ...]) -> Project:
    """Free the tied ends of walls, and of what meets them there, where they are; raises EditError when none is tied."""
    made = _replaced(project, wall_ids, AxisPoint, lambda point: FreePoint(x=point[0], y=point[1]))
    if made is project:
        raise EditError("no end of a wall selected is tied to axes.", do="Tie them first.")
    return made


def described(project: Project, place: Place) -> tuple[str, float, float] | None:
    """Return the labels of the axes a place is tied to ("4/C") and its distances from them, mm; None when free."""
    if not isinstance(place, AxisPoint):
        return None
    grid = by_id(project.grids)[place.grid]
    x, y = there(grid.x_axes, place.x_axis), there(grid.y_axes, place.y_axis)
    return f"{x.label}/{y.label}", place.dx, place.dy


def _is_off(place: AxisPoint) -> bool:
    return abs(place.dx) > NOT_OFF or abs(place.dy) > NOT_OFF


def _replaced(
    project: Project, wall_ids: tuple[str, ...], kind: type, make: Callable[[Point], Place | None]
) -> Project:
    """Give the ends of walls that are of a kind, and all ends of walls at the same points, another place."""
    chosen = [w for w in project.walls if w.id in wall_ids]
    if not chosen:
        raise EditError("No wall is selected.", do="Select one or more walls first.")
    points = [locate(p, project.grids) for w in chosen for p in (w.start, w.end) if isinstance(p, kind)]

    def placed(place: Place) -> Place:
        if not isinstance(place, kind):
            return place
        at = locate(place, project.grids)
        return (make(at) or place) if any(distance(at, p) < TOUCH for p in points) else place

    if not points:
        return project
    walls = tuple(msgspec.structs.replace(w, start=placed(w.start), end=placed(w.end)) for w in project.walls)
    return check(msgspec.structs.replace(project, walls=walls))


def _nearest_axes(grid: Grid, point: Point) -> AxisPoint | None:
    """Return a point as the nearest axes both ways and its distances from them; None for a grid without axes."""
    x, y = grid_position(grid, point)
    near_x, near_y = _nearest(grid.x_axes, x), _nearest(grid.y_axes, y)
    if near_x is None or near_y is None:
        return None
    dx, dy = x - axis_position(grid.x_axes, near_x.id), y - axis_position(grid.y_axes, near_y.id)
    return AxisPoint(grid=grid.id, x_axis=near_x.id, y_axis=near_y.id, dx=round(dx, 6), dy=round(dy, 6))


def _nearest(axes: tuple[Axis, ...], at: float) -> Axis | None:
    if not axes:
        return None
    return min(zip(axes, axis_positions(axes), strict=True), key=lambda row: abs(row[1] - at))[0]
