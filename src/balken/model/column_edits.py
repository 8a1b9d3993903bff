"""Edits of columns: at the crossings of axes, thinned out or changed by region; spot heights of the ground."""

import msgspec

from balken.geometry.plane import Point, distance
from balken.model.errors import EditError
from balken.model.lookup import axis_position, by_id, grid_point, locate, next_id
from balken.model.records import Axis, AxisPoint, Column, Grid, Hang, Project, SpotHeight
from balken.model.rules import check

TOUCHING = 5.0
"""A column is already at a crossing when its centre is nearer than this, mm."""


def add_columns(
    project: Project,
    grid_id: str,
    x_axes: tuple[str, ...],
    y_axes: tuple[str, ...],
    foot: Hang,
    head: Hang,
    width: float,
    depth: float,
    material: str = "timber",
    size: str | None = "",
) -> Project:
    """Put columns at the crossings of the axes named (all where none is); crossings that have one are passed over.

    Raises EditError when every crossing is taken.
    """
    grid = by_id(project.grids).get(grid_id)
    if grid is None:
        raise EditError("there is no such grid.", "Columns", "Lay a grid first.")
    made: list[Column] = []
    number = int(next_id(project, Column).rpartition("-")[2])
    taken = [locate(c.place, project.grids) for c in project.columns if c.foot == foot]
    for x in grid.x_axes:
        for y in grid.y_axes:
            if (x_axes and x.id not in x_axes) or (y_axes and y.id not in y_axes):
                continue
            at = grid_point(grid, axis_position(grid.x_axes, x.id), axis_position(grid.y_axes, y.id))
            if any(distance(at, other) < TOUCHING for other in taken):
                continue
            angle = grid.angle + (axis_position(grid.x_axes, x.id) if grid.kind == "radial" else 0.0)
            made.append(
                Column(
                    id=f"column-{number + len(made)}",
                    place=AxisPoint(grid=grid_id, x_axis=x.id, y_axis=y.id),
                    foot=foot,
                    head=head,
                    width=width,
                    depth=depth,
                    material=material,  # type: ignore[arg-type]
                    size=size,
                    angle=angle,
                )
            )
    if not made:
        raise EditError(
            "every crossing chosen has a column already.",
            "Columns",
            "Choose other axes, or change the columns there in their card.",
        )
    return check(msgspec.structs.replace(project, columns=(*project.columns, *made)))


def named_axes(grid: Grid, way: str, text: str) -> tuple[str, ...]:
    """Return the ids of axes named by labels and ranges such as ``1, 3-5`` (empty or "all": every axis).

    Raises EditError for a label that is not there.
    """
    axes: tuple[Axis, ...] = getattr(grid, way)
    place = {axis.label.lower(): i for i, axis in enumerate(axes)}
    if text.strip().lower() in ("", "all"):
        return tuple(axis.id for axis in axes)
    found: dict[str, None] = {}

    def number(label: str) -> int:
        if label.strip().lower() not in place:
            there = ", ".join(axis.label for axis in axes)
            raise EditError(f"there is no axis '{label.strip()}' that way.", grid.name, f"Axes are {there}.")
        return place[label.strip().lower()]

    for part in text.replace(";", ",").split(","):
        if not part.strip():
            continue
        if part.strip().lower() in place:
            found[axes[number(part)].id] = None
            continue
        first, dash, last = part.partition("-")
        low, high = sorted((number(first), number(last if dash else first)))
        found.update(dict.fromkeys(axis.id for axis in axes[low : high + 1]))
    return tuple(found)


def add_spot(project: Project, point: Point, height: float) -> Project:
    """Give the height of the ground outside at a place; a spot already there is changed."""
    for spot in project.spots:
        if distance((spot.x, spot.y), point) < TOUCHING:
            spots = tuple(msgspec.structs.replace(s, height=height) if s is spot else s for s in project.spots)
            return check(msgspec.structs.replace(project, spots=spots))
    spot = SpotHeight(id=next_id(project, SpotHeight), x=point[0], y=point[1], height=height)
    return check(msgspec.structs.replace(project, spots=(*project.spots, spot)))


def slope_along_wall(project: Project, wall_id: str, start: float, end: float) -> Project:
    """Let the ground run in a straight line along a wall's outside, from one height to another (mm)."""
    wall = by_id(project.walls).get(wall_id)
    if wall is None:
        raise EditError("there is no such wall.", "Ground")
    for place, height in ((wall.start, start), (wall.end, end)):
        project = add_spot(project, locate(place, project.grids), height)
    return project
