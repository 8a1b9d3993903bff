"""Snaps: the point meant when the pointer is near something, and its name."""

import math

import numpy as np
from numpy.typing import NDArray

from balken.derived.model import Model
from balken.geometry.plane import Point, add, cross, distance, dot, left, meet, off_line, sub, turn, unit
from balken.model.lookup import axis_positions, grid_point, grid_position, shown_grids
from balken.model.records import Project
from balken.units.system import INCH
from balken.value import Value


class Snap(Value, frozen=True):
    """A point and what it was taken from ("" when nothing was near)."""

    point: Point
    name: str


NO_LINES: NDArray[np.float64] = np.zeros((0, 2, 2))


def snap(
    model: Model,
    pointer: Point,
    reach: float,
    start: Point | None = None,
    silent: bool = False,
    drawing: NDArray[np.float64] = NO_LINES,
    storey: str = "",
) -> Snap:
    """Return the point meant; ``reach`` in mm, ``start`` the last corner when a line is drawn.

    ``drawing``: lines (n, 2, 2) of drawings laid under the plan.  Ends and axis crossings win over lines; with ``start`` a line nearly
    square to the plan, to a grid or to a wall that ends there is squared up and its length rounded to the inch (or 10 mm).
    """
    if silent:
        return Snap(pointer, "")
    points = _points(model, storey)
    near = min(points, key=lambda row: distance(row[0], pointer), default=None)
    if near is not None and distance(near[0], pointer) <= reach:
        return Snap(near[0], near[1])
    drawn = _drawn_point(drawing, pointer, reach)
    if drawn is not None:
        return Snap(drawn, "end of a line")
    lines = _lines(model, storey)
    if start is not None and distance(start, pointer) > 1.0:
        squared, word = _squared(pointer, start, reach, _headings(model, start, storey))
        if squared is not None:
            for a, b, name in lines:
                crossing = meet(start, unit(start, squared), a, unit(a, b))
                if crossing is not None and distance(crossing, squared) <= reach:
                    return Snap(crossing, f"{word}, on {name}")
            return Snap(_rounded(squared, start, model), word)
    for a, b, name in lines:
        along, aside = off_line(pointer, a, b)
        if abs(aside) <= reach and -reach <= along <= distance(a, b) + reach:
            return Snap(add(a, unit(a, b), along), f"on {name}")
    drawn = _drawn_line(drawing, pointer, reach)
    return Snap(drawn, "on a line") if drawn is not None else Snap(pointer, "")


def _drawn_point(lines: NDArray[np.float64], pointer: Point, reach: float) -> Point | None:
    """Return the nearest end of a base drawing's lines within reach."""
    if not len(lines):
        return None
    points = lines.reshape(-1, 2)
    away = np.hypot(points[:, 0] - pointer[0], points[:, 1] - pointer[1])
    best = int(away.argmin())
    return (float(points[best, 0]), float(points[best, 1])) if away[best] <= reach else None


def _drawn_line(lines: NDArray[np.float64], pointer: Point, reach: float) -> Point | None:
    """Return the nearest point on a base drawing's lines within reach."""
    if not len(lines):
        return None
    a, d = lines[:, 0], lines[:, 1] - lines[:, 0]
    long = np.maximum((d**2).sum(axis=1), 1e-9)
    t = np.clip(((np.array(pointer) - a) * d).sum(axis=1) / long, 0.0, 1.0)
    on = a + d * t[:, None]
    away = np.hypot(on[:, 0] - pointer[0], on[:, 1] - pointer[1])
    best = int(away.argmin())
    return (float(on[best, 0]), float(on[best, 1])) if away[best] <= reach else None


def _points(model: Model, storey: str) -> list[tuple[Point, str]]:
    found: list[tuple[Point, str]] = []
    for line in model.lines.values():
        found += [(line.band.start, "wall end"), (line.band.end, "wall end")]
        found.append((add(line.band.start, line.band.direction, line.band.length / 2.0), "middle of wall"))
    found += [(made.stand.at, "column") for made in model.path.columns.values()]
    for made in model.path.beams.values():
        found += [(made.line.start, "beam end"), (made.line.end, "beam end")]
    for grid in shown_grids(model.project.grids, storey):
        for a, x in zip(grid.x_axes, axis_positions(grid.x_axes), strict=True):
            for b, y in zip(grid.y_axes, axis_positions(grid.y_axes), strict=True):
                found.append((grid_point(grid, x, y), f"axes {a.label} and {b.label}"))
    return found


def _lines(model: Model, storey: str) -> list[tuple[Point, Point, str]]:
    found: list[tuple[Point, Point, str]] = []
    for line in model.lines.values():
        found.append((line.band.start, line.band.end, "wall"))
    found += [(made.line.start, made.line.end, "beam") for made in model.path.beams.values()]
    for grid in shown_grids(model.project.grids, storey):
        xs, ys = axis_positions(grid.x_axes), axis_positions(grid.y_axes)
        if not xs or not ys:
            continue
        p = grid.run_past
        if grid.kind == "radial":
            for a, x in zip(grid.x_axes, xs, strict=True):
                found.append((grid_point(grid, x, 0.0), grid_point(grid, x, ys[-1] + p), f"axis {a.label}"))
            continue
        for a, x in zip(grid.x_axes, xs, strict=True):
            found.append((grid_point(grid, x, ys[0] - p), grid_point(grid, x, ys[-1] + p), f"axis {a.label}"))
        for a, y in zip(grid.y_axes, ys, strict=True):
            found.append((grid_point(grid, xs[0] - p, y), grid_point(grid, xs[-1] + p, y), f"axis {a.label}"))
    return found


def heading_at(project: Project, point: Point, storey: str = "") -> float:
    """Return the angle, degrees, a rectangle drawn at a point takes: of the straight grid nearest to it; 0.0 without one."""
    best = (math.inf, 0.0)
    for grid in shown_grids(project.grids, storey):
        if grid.kind == "radial" or not grid.x_axes or not grid.y_axes:
            continue
        x, y = grid_position(grid, point)
        xs, ys = axis_positions(grid.x_axes), axis_positions(grid.y_axes)
        off = math.hypot(max(xs[0] - x, x - xs[-1], 0.0), max(ys[0] - y, y - ys[-1], 0.0))
        best = min(best, (off, grid.angle))
    return best[1]


def _headings(model: Model, start: Point, storey: str) -> list[tuple[Point, str]]:
    """Return the directions a line from ``start`` is squared to, each with its word: of the plan, the grids and the walls ending there."""
    found: list[tuple[Point, str]] = [((1.0, 0.0), "square")]
    for grid in shown_grids(model.project.grids, storey):
        if grid.kind != "radial":
            found.append((turn((1.0, 0.0), grid.angle), "square to the grid"))
    for line in model.lines.values():
        if min(distance(line.band.start, start), distance(line.band.end, start)) < 1.0:
            found.append((line.band.direction, "square to the wall"))
    return found


def _squared(pointer: Point, start: Point, reach: float, headings: list[tuple[Point, str]]) -> tuple[Point | None, str]:
    """Return the point on the nearest of the directions or at right angles to it, and its word; of those alike the first."""
    r = sub(pointer, start)
    best, at, word = reach * 1.5, None, ""
    for heading, name in headings:
        for d in (heading, left(heading)):
            off = abs(cross(r, d))
            if off < best - 0.1:
                best, at, word = off, add(start, d, dot(r, d)), name
    return at, word


def _rounded(point: Point, start: Point, model: Model) -> Point:
    step = INCH if model.project.units.value == "ft-in" else 10.0
    length = round(distance(start, point) / step) * step
    return add(start, unit(start, point), length) if length > 0.0 else point
