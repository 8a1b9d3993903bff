"""Grids of an IFC file: two sets of straight axes that cross square, or rays and arcs."""

from itertools import pairwise
from typing import Any

import msgspec
import numpy as np

from balken.exchange.ifc_shapes import axes_of, circle_of, direction_of, polyline, rounded
from balken.exchange.ifc_source import READ_ERRORS, NotHeld, Source
from balken.geometry.plane import Point, distance, turn
from balken.model.errors import EditError
from balken.model.kinds.grid import check_grid
from balken.model.records import Axis, Grid, Project


def read_grids(source: Source, base: Project) -> tuple[Grid, ...]:
    """Return the grids that a project can hold; the others are reported."""
    grids: list[Grid] = []
    for made in source.file.by_type("IfcGrid"):
        try:
            matrix = source.matrix(made.ObjectPlacement)
            radial = any(circle_of(axis.AxisCurve) is not None for axis in made.VAxes or ())
            grid = (_radial if radial else _square)(source, made, f"grid-{len(grids) + 1}", matrix)
            check_grid(base, grid)
        except (NotHeld, EditError) as why:
            source.leave(made, str(why))
            continue
        except READ_ERRORS as error:
            source.leave(made, f"what the file says of it could not be read ({type(error).__name__}: {error})")
            continue
        grids.append(grid)
        source.report.took("axes", len(grid.x_axes) + len(grid.y_axes))
    return tuple(grids)


def _straight(source: Source, made: Any, axes: Any, matrix: Any) -> list[tuple[str, Point, Point]]:
    """Return label and ends of the straight axes of a set; others are reported."""
    found: list[tuple[str, Point, Point]] = []
    for axis in axes or ():
        points = polyline(axis.AxisCurve, matrix, source.scale)
        if points is None or len(points) != 2 or distance(*points) < 1.0:
            source.leave(made, f"axis {axis.AxisTag} is not a straight line")
            continue
        found.append((str(axis.AxisTag or ""), points[0], points[1]))
    return found


def _square(source: Source, made: Any, grid_id: str, matrix: Any) -> Grid:
    sets = [_straight(source, made, axes, matrix) for axes in (made.UAxes, made.VAxes)]
    if made.WAxes or not sets[0] or not sets[1]:
        raise NotHeld("only grids of two sets of straight axes are held")
    angle = direction_of(sets[1][0][1], sets[1][0][2]) % 180.0
    angle = angle - 180.0 if angle > 90.0 + 1e-9 else angle
    if abs(((direction_of(sets[0][0][1], sets[0][0][2]) - angle) % 180.0) - 90.0) > 0.01:
        raise NotHeld("its two sets of axes do not cross square")
    place = [sorted((turn(a, -angle)[i], label) for label, a, _ in lines) for i, lines in enumerate(sets)]
    for rows in place:
        if any(b - a < 50.0 for (a, _), (b, _) in pairwise(rows)):
            raise NotHeld("two axes lie less than 2 in (50 mm) apart")
    first = turn(sets[0][0][1], -angle)
    return Grid(
        id=grid_id,
        name=made.Name or "Grid",
        origin=rounded(turn((place[0][0][0], place[1][0][0]), angle)),
        angle=round(angle, 9),
        x_axes=_axes(place[0], "x"),
        y_axes=_axes(place[1], "y"),
        run_past=round(max(place[1][0][0] - first[1], 300.0), 6),
    )


def _radial(source: Source, made: Any, grid_id: str, matrix: Any) -> Grid:
    """Return a radial grid: straight rays from one centre and arcs about it."""
    centre: Point | None = None
    arcs: list[tuple[float, str]] = []
    for axis in made.VAxes or ():
        circle = circle_of(axis.AxisCurve)
        if circle is None:
            raise NotHeld(f"axis {axis.AxisTag} of a radial grid is not an arc")
        local = axes_of(circle.Position)[:3, 3] * source.scale
        x, y = (matrix @ np.array([*local, 1.0]))[:2]
        if centre is not None and distance(centre, (x, y)) > 1.0:
            raise NotHeld("its arcs have different centres")
        centre = rounded((float(x), float(y)))
        arcs.append((round(circle.Radius * source.scale, 6), str(axis.AxisTag or "")))
    if centre is None or made.WAxes:
        raise NotHeld("only radial grids of rays and arcs are held")
    rays: list[tuple[float, str]] = []
    for label, a, b in _straight(source, made, made.UAxes, matrix):
        far = b if distance(centre, b) > distance(centre, a) else a
        rays.append((direction_of(centre, far) % 360.0, label))
    if not rays:
        raise NotHeld("only radial grids of rays and arcs are held")
    first = rays[0][0]
    turned = sorted(((round(a - first, 9)) % 360.0, label) for a, label in rays)
    arcs.sort()
    made_arcs = _axes(arcs, "y")
    return Grid(
        id=grid_id,
        name=made.Name or "Radial grid",
        kind="radial",
        origin=centre,
        angle=round(first, 9),
        x_axes=_axes(turned, "x"),
        y_axes=(msgspec.structs.replace(made_arcs[0], gap=arcs[0][0]), *made_arcs[1:]),
    )


def _axes(rows: list[tuple[float, str]], prefix: str) -> tuple[Axis, ...]:
    found: list[Axis] = []
    used: set[str] = set()
    for i, (place, label) in enumerate(rows):
        name = label.strip() or f"{prefix}{i + 1}"
        while name in used:
            name += "'"
        used.add(name)
        gap = place - rows[i - 1][0] if i else 0.0
        found.append(Axis(id=f"{prefix}{i + 1}", label=name, gap=round(gap, 6)))
    return tuple(found)
