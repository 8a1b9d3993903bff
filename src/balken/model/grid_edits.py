"""Edits of grids: setting out, spacings, labels, single axes."""

import math
import re
from typing import Any

import msgspec

from balken.geometry.plane import TOUCH, Point
from balken.model.edits import add, change
from balken.model.errors import EditError
from balken.model.lookup import grid_point, locate, next_id, there
from balken.model.records import Axis, AxisPoint, Grid, Place, Project
from balken.model.rules import check
from balken.model.visitor import moved_places

LETTERS = "ABCDEFGHJKLMNPQRSTUVWXYZ"
"""Letters for axis labels; I and O are left out, as they read like 1 and 0 (ISO 7519 practice)."""


def labels(first: str, count: int) -> list[str]:
    """Return ``count`` labels from ``first`` on: 1, 2..., A, B... without I and O, or with a prefix: N1, N2...

    Raises EditError when the last part of ``first`` is neither a number nor a single letter.
    """
    first = first.strip() or "1"
    match = re.match(r"^(.*?)(\d+)$", first)
    if match:
        return [f"{match[1]}{int(match[2]) + i}" for i in range(count)]
    prefix, letter = first[:-1], first[-1].upper()
    if letter not in LETTERS or (prefix and prefix[-1].isalpha()):
        raise EditError(
            f"labels cannot start at '{first}'.",
            do="Start at a number or a letter other than I and O, such as 1, A or N-1.",
        )
    start = LETTERS.index(letter)
    found = []
    for i in range(start, start + count):
        rounds, place = divmod(i, len(LETTERS))
        found.append(prefix + LETTERS[place] * (rounds + 1))
    return found


def make_axes(spacings: tuple[float, ...], first_label: str, prefix: str) -> tuple[Axis, ...]:
    """Return one axis more than there are spacings, labelled from ``first_label`` on."""
    names = labels(first_label, len(spacings) + 1)
    gaps = (0.0, *spacings)
    return tuple(
        Axis(id=f"{prefix}{i + 1}", label=name, gap=gap) for i, (name, gap) in enumerate(zip(names, gaps, strict=True))
    )


def add_grid(
    project: Project,
    x_spacings: tuple[float, ...],
    y_spacings: tuple[float, ...],
    x_first: str = "1",
    y_first: str = "A",
    origin: Point = (0.0, 0.0),
) -> Project:
    """Set out a grid from spacings both ways (mm)."""
    return add(
        project,
        Grid(
            id=next_id(project, Grid),
            origin=origin,
            x_axes=make_axes(x_spacings, x_first, "x"),
            y_axes=make_axes(y_spacings, y_first, "y"),
        ),
    )


def add_radial_grid(
    project: Project,
    rays: tuple[float, ...],
    arcs: tuple[float, ...],
    ray_first: str = "1",
    arc_first: str = "A",
    origin: Point = (0.0, 0.0),
    angle: float = 0.0,
) -> Project:
    """Set out a radial grid: ``rays`` degrees between rays, ``arcs`` the first radius and the spacings outward, mm.

    Raises EditError without a first radius.
    """
    if not arcs:
        raise EditError("A radial grid needs the radius of its first arc.", do="Type such as 20', 2 x 12'.")
    axes = make_axes(arcs[1:], arc_first, "y")
    return add(
        project,
        Grid(
            id=next_id(project, Grid),
            name="Radial grid",
            kind="radial",
            origin=origin,
            angle=angle,
            x_axes=make_axes(rays, ray_first, "x"),
            y_axes=(msgspec.structs.replace(axes[0], gap=arcs[0]), *axes[1:]),
        ),
    )


def place_grid(project: Project, grid_id: str, origin: Point, toward: Point) -> Project:
    """Put a grid's origin at one point and its x direction toward another; raises EditError when they coincide."""
    if math.dist(origin, toward) < TOUCH:
        raise EditError("the two points are the same.", "Grid", "Choose a second point away from the first.")
    angle = math.degrees(math.atan2(toward[1] - origin[1], toward[0] - origin[0])) % 360.0
    return change(project, grid_id, origin=origin, angle=round(angle, 9))


def lies_along(project: Project, grid: Grid) -> tuple[str, ...]:
    """Return the walls along which a grid can be laid: those whose ends do not hang on it, or they would go along with it."""
    return tuple(
        wall.id
        for wall in project.walls
        if not any(isinstance(end, AxisPoint) and end.grid == grid.id for end in (wall.start, wall.end))
    )


def lay_along(project: Project, grid_id: str, wall_id: str) -> Project:
    """Put a grid's origin at the start of a wall and its x direction along it; raises EditError for one that hangs on it."""
    wall = there(project.walls, wall_id)
    if wall_id not in lies_along(project, there(project.grids, grid_id)):
        raise EditError("the wall hangs on this grid and would go along.", "Grid", "Choose another wall.")
    return place_grid(project, grid_id, locate(wall.start, project.grids), locate(wall.end, project.grids))


def set_grid_spacings(project: Project, grid_id: str, field: str, spacings: tuple[float, ...]) -> Project:
    """Change the spacings one way (``field``: x_axes or y_axes); axes keep their ids and labels.

    Surplus axes are removed (raises EditError when a wall is tied to one); new ones continue the labels.
    """
    grid = there(project.grids, grid_id)
    axes: tuple[Axis, ...] = getattr(grid, field)
    names = labels(axes[0].label, len(spacings) + 1) if _regular(axes) else None
    made = []
    for i, gap in enumerate((axes[0].gap, *spacings)):
        if i < len(axes):
            made.append(msgspec.structs.replace(axes[i], gap=gap))
        else:
            label = names[i] if names else f"{axes[-1].label}+{i - len(axes) + 1}"
            made.append(Axis(id=f"{field[0]}{i + 1}", label=label, gap=gap))
    return change(project, grid_id, **{field: tuple(made)})


def _regular(axes: tuple[Axis, ...]) -> bool:
    try:
        return [axis.label for axis in axes] == labels(axes[0].label, len(axes))
    except EditError:
        return False


def set_axis_gap(project: Project, grid_id: str, axis_id: str, gap: float) -> Project:
    """Change the spacing between an axis and the one before it; those after it move along."""
    grid = there(project.grids, grid_id)
    changes: dict[str, Any] = {}
    for field in ("x_axes", "y_axes"):
        changes[field] = tuple(
            msgspec.structs.replace(axis, gap=gap) if axis.id == axis_id else axis for axis in getattr(grid, field)
        )
    return change(project, grid_id, **changes)


def _axes_of(grid: Grid, axis_id: str) -> tuple[str, int]:
    """Return the field and place of an axis; raises EditError when it is not there."""
    for way in ("x_axes", "y_axes"):
        for i, axis in enumerate(getattr(grid, way)):
            if axis.id == axis_id:
                return way, i
    raise EditError(f"there is no axis '{axis_id}' in {grid.name}.")


def move_axis(project: Project, grid_id: str, axis_id: str, by: float) -> Project:
    """Move one axis by a distance; the others stay. The first axis cannot be moved alone."""
    grid = there(project.grids, grid_id)
    way, i = _axes_of(grid, axis_id)
    axes = list(getattr(grid, way))
    if i == 0 and not (grid.kind == "radial" and way == "y_axes"):
        raise EditError("the first axis is the grid's origin.", f"Axis {axes[0].label}", "Move the grid instead.")
    axes[i] = msgspec.structs.replace(axes[i], gap=axes[i].gap + by)
    if i + 1 < len(axes):
        axes[i + 1] = msgspec.structs.replace(axes[i + 1], gap=axes[i + 1].gap - by)
    return change(project, grid_id, **{way: tuple(axes)})


def insert_axis(project: Project, grid_id: str, axis_id: str, after: float, label: str = "") -> Project:
    """Insert an axis ``after`` mm behind another; the others stay. Its label follows: 1A behind 1."""
    grid = there(project.grids, grid_id)
    way, i = _axes_of(grid, axis_id)
    axes = list(getattr(grid, way))
    taken = {axis.label for axis in axes}
    base = axes[i].label
    name = label.strip() or next(n for n in (f"{base}{c}" for c in LETTERS) if n not in taken)
    number = 1 + max(int(axis.id[1:]) for axis in axes if axis.id[1:].isdigit())
    axes.insert(i + 1, Axis(id=f"{way[0]}{number}", label=name, gap=after))
    if i + 2 < len(axes):
        axes[i + 2] = msgspec.structs.replace(axes[i + 2], gap=axes[i + 2].gap - after)
    return change(project, grid_id, **{way: tuple(axes)})


def remove_axis(project: Project, grid_id: str, axis_id: str) -> Project:
    """Remove an axis; the others stay, and walls tied to it are tied to its neighbour at the same place."""
    grid = there(project.grids, grid_id)
    way, i = _axes_of(grid, axis_id)
    axes = list(getattr(grid, way))
    if len(axes) < 2:
        raise EditError("it is the only axis that way.", f"Axis {axes[0].label}", "Remove the grid instead.")
    gone = axes.pop(i)
    origin, turned = grid.origin, 0.0
    if i == 0 and grid.kind == "radial":
        neighbour, shift = axes[0], -axes[0].gap
        turned = 0.0 if way == "y_axes" else axes[0].gap
        first = gone.gap + axes[0].gap if way == "y_axes" else 0.0
        axes[0] = msgspec.structs.replace(axes[0], gap=first)
    elif i == 0:
        neighbour, shift = axes[0], -axes[0].gap
        origin = grid_point(grid, *((axes[0].gap, 0.0) if way == "x_axes" else (0.0, axes[0].gap)))
        axes[0] = msgspec.structs.replace(axes[0], gap=0.0)
    else:
        neighbour, shift = axes[i - 1], gone.gap
        if i < len(axes):
            axes[i] = msgspec.structs.replace(axes[i], gap=axes[i].gap + gone.gap)
    axis_field, shift_field = ("x_axis", "dx") if way == "x_axes" else ("y_axis", "dy")

    def tied(place: Place) -> Place:
        if isinstance(place, AxisPoint) and place.grid == grid_id and getattr(place, axis_field) == axis_id:
            moved = {axis_field: neighbour.id, shift_field: getattr(place, shift_field) + shift}
            return msgspec.structs.replace(place, **moved)
        return place

    changed = msgspec.structs.replace(grid, origin=origin, angle=grid.angle + turned, **{way: tuple(axes)})
    grids = tuple(changed if g is grid else g for g in project.grids)
    return check(msgspec.structs.replace(moved_places(project, tied), grids=grids))


def relabel_axes(project: Project, grid_id: str, way: str, first: str) -> Project:
    """Label all axes one way (x_axes or y_axes) anew from a first label."""
    grid = there(project.grids, grid_id)
    axes: tuple[Axis, ...] = getattr(grid, way)
    names = labels(first, len(axes))
    renamed = tuple(msgspec.structs.replace(axis, label=name) for axis, name in zip(axes, names, strict=True))
    return change(project, grid_id, **{way: renamed})


def rename_axis(project: Project, grid_id: str, axis_id: str, label: str) -> Project:
    """Change one axis's label."""
    grid = there(project.grids, grid_id)
    changes: dict[str, Any] = {}
    for field in ("x_axes", "y_axes"):
        changes[field] = tuple(
            msgspec.structs.replace(axis, label=label.strip()) if axis.id == axis_id else axis
            for axis in getattr(grid, field)
        )
    return change(project, grid_id, **changes)
