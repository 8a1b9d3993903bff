"""Grids on plans: axes with bubbles, the chain between them, the overall dimension; rays and arcs."""

import itertools
import math

from balken.documents.dimensions import TEXT, dimension_string
from balken.documents.display import Circle, Item, Path, Text
from balken.documents.lettering import text_width
from balken.geometry.plane import Point, Ring, add, turn, unit
from balken.model.lookup import axis_positions, grid_point
from balken.model.naming import axis_name
from balken.model.records import Grid
from balken.units import Units

GRID_FIRST, GRID_NEXT, BUBBLE_CLEAR = 9.0, 9.0, 6.0
"""Paper mm that the chain keeps from the first axes, the overall dimension from it, bubbles from both."""


def grid_items(
    grid: Grid, units: Units, scale: float, dimensions: bool = True, clear: tuple[float, float] = (0.0, 0.0)
) -> list[Item]:
    """Return axes with bubbles, the chain between axes and the overall dimension.

    ``clear``: how far other strings reach below and to the left of the first axes, mm; the grid's stand beyond.
    """
    xs, ys = axis_positions(grid.x_axes), axis_positions(grid.y_axes)
    if not xs or not ys:
        return []
    if grid.kind == "radial":
        return _radial_items(grid, units, scale, dimensions)
    radius = 4.5 * scale
    chains = [max(grid.chain_at, reach + (GRID_NEXT if reach else GRID_FIRST) * scale) for reach in clear]
    overalls = [max(grid.overall_at, chain + GRID_NEXT * scale) for chain in chains]
    pasts = [grid.run_past, grid.run_past]
    if dimensions:
        pasts = [max(grid.run_past, overall + BUBBLE_CLEAR * scale) for overall in overalls]
    after = grid.run_past if grid.bubbles != "start" else grid.run_past / 3.0
    before = [past if grid.bubbles != "end" else past / 3.0 for past in pasts]
    items: list[Item] = []
    for axis, x in zip(grid.x_axes, xs, strict=True):
        ends = ((x, ys[0] - before[0]), (x, ys[-1] + after))
        items += _axis(grid, axis_name(grid.id, axis.id), axis.label, ends, radius, scale)
    for axis, y in zip(grid.y_axes, ys, strict=True):
        ends = ((xs[0] - before[1], y), (xs[-1] + after, y))
        items += _axis(grid, axis_name(grid.id, axis.id), axis.label, ends, radius, scale)
    if dimensions:
        right, up = turn((1.0, 0.0), grid.angle), turn((0.0, 1.0), grid.angle)
        start = grid_point(grid, 0.0, ys[0])
        side = grid_point(grid, xs[0], 0.0)
        for i, (axes, origin, way, sign) in enumerate(((xs, start, right, -1.0), (ys, side, up, 1.0))):
            rows = [(axes, chains[i])] if len(axes) > 1 else []
            if len(axes) > 2:
                rows.append(([axes[0], axes[-1]], overalls[i]))
            for stations, at in rows:
                items += dimension_string(
                    stations, origin, way, sign * at, units, scale, "set out", 0.0, grid.id, crossed=axes
                )
    return items


ARC_STEPS = 48


def arc_points(grid: Grid, radius: float, low: float, high: float) -> Ring:
    """Return points along an arc of a radial grid from one angle to another (degrees of the grid)."""
    steps = max(2, round(ARC_STEPS * abs(high - low) / 180.0))
    return tuple(grid_point(grid, low + (high - low) * k / steps, radius) for k in range(steps + 1))


def _radial_items(grid: Grid, units: Units, scale: float, dimensions: bool) -> list[Item]:
    rays, arcs = axis_positions(grid.x_axes), axis_positions(grid.y_axes)
    past, radius = grid.run_past, 4.5 * scale
    inner = max(arcs[0] - past / 3.0, 0.0)
    items: list[Item] = []
    for axis, angle in zip(grid.x_axes, rays, strict=True):
        ends = (grid_point(grid, angle, inner), grid_point(grid, angle, arcs[-1] + past))
        items += _line_axis(grid, axis_name(grid.id, axis.id), axis.label, ends, radius, scale, "end")
    for axis, r in zip(grid.y_axes, arcs, strict=True):
        # Run past the first and last ray by the same length as the rays run past the arcs.
        spare = min(math.degrees(past / max(r, 1.0)), 12.0)
        points = arc_points(grid, r, rays[0] - spare, rays[-1] + spare)
        ref = axis_name(grid.id, axis.id)
        items.append(Path(points, "axis", "set out", ref))
        for end, before in ((points[0], points[1]), (points[-1], points[-2])):
            first = end is points[0]
            if grid.bubbles == "both" or (grid.bubbles == "start") == first:
                items += _bubble(add(end, unit(before, end), radius), axis.label, radius, scale, ref)
    if dimensions and len(arcs) > 1:
        way = unit(grid.origin, grid_point(grid, rays[0], 1000.0))
        items += dimension_string(arcs, grid.origin, way, -grid.chain_at, units, scale, "set out", 0.0, grid.id)
    for (a, b), gap in zip(itertools.pairwise(rays), grid.x_axes[1:], strict=True):
        if dimensions:
            at = grid_point(grid, (a + b) / 2.0, arcs[-1] + 0.5 * past)
            items.append(Text(at, f"{gap.gap:g}\u00b0", TEXT * scale, pen="note", layer="set out", ref=grid.id))
    return items


def _bubble(centre: Point, label: str, radius: float, scale: float, ref: str) -> list[Item]:
    size = min(3.2 * scale, 1.3 * radius * 3.2 * scale / max(text_width(label, 3.2 * scale, True), 1.0))
    return [
        Circle(centre, radius, "bubble", "sheet", "set out", ref),
        Text(centre, label, size, pen="text", layer="set out", ref=ref, bold=True),
    ]


def _line_axis(
    grid: Grid, ref: str, label: str, ends: tuple[Point, Point], radius: float, scale: float, bubbles: str
) -> list[Item]:
    """Return a straight axis between two plan points with bubbles beyond its ends."""
    a, b = ends
    way = unit(a, b)
    items: list[Item] = [Path((a, b), "axis", "set out", ref)]
    for end, sign, shown in ((a, -1.0, bubbles != "end"), (b, 1.0, bubbles != "start")):
        if shown:
            items += _bubble(add(end, way, sign * radius), label, radius, scale, ref)
    return items


def _axis(grid: Grid, ref: str, label: str, ends: tuple[Point, Point], radius: float, scale: float) -> list[Item]:
    placed = (grid_point(grid, *ends[0]), grid_point(grid, *ends[1]))
    return _line_axis(grid, ref, label, placed, radius, scale, grid.bubbles)
