"""What is dragged on the plan: for where the pointer is, the edit that a drag would make."""

import math
from collections.abc import Callable
from functools import partial
from typing import TYPE_CHECKING

from PySide6.QtCore import Qt
from PySide6.QtGui import QMouseEvent

from balken.framing.bands import Band
from balken.framing.roof_openings import in_plane
from balken.framing.surface_roofs import SurfacePlan
from balken.geometry.plane import Point, add, dot, off_line, sub, turn
from balken.model import beam_edits, edits, floor_edits, foundation_edits, grid_edits, wall_edits
from balken.model.lookup import by_id, foundation_part, locate
from balken.model.naming import grid_and_axis, owner_of, run_name
from balken.model.records import Dormer, Opening, Project, RoofOpening
from balken.model.ties import tie
from balken.session.session import Edit
from balken.units import Units, format_length
from balken.units.system import INCH

if TYPE_CHECKING:
    from balken.app.tools import SelectTool

NEAR = 12
"""How near (pixels) to a grip the pointer must be to take it."""

DragTo = Callable[[QMouseEvent], Edit]
"""For where the pointer is, the edit that a drag would make."""
Drag = tuple[str, DragTo]
"""What the edit is called, and it."""


def drag_of(tool: "SelectTool", event: QMouseEvent) -> Drag | None:
    """Return what a drag that begins here moves: something selected under the pointer, or nothing."""
    for kind in (_wall_end, _opening, _walls, _beam, _corner, _floor_opening, _roof_opening, _dormer, _step, _axis):
        found = kind(tool, event)
        if found is not None:
            return found
    return None


def _stepped(tool: "SelectTool", event: QMouseEvent, length: float) -> float:
    """Round a length to inches or 10 mm; not with Shift."""
    if event.modifiers() & Qt.KeyboardModifier.ShiftModifier:
        return length
    step = INCH if tool.session.project.units is Units.IMPERIAL else 10.0
    return round(length / step) * step


def _along(tool: "SelectTool", event: QMouseEvent, band: Band) -> float:
    along, _ = off_line(tool.canvas.to_model(event.position()), band.start, band.end)
    return _stepped(tool, event, along)


# Walls ---------------------------------------------------------------------------------------------


def _wall_end(tool: "SelectTool", event: QMouseEvent) -> Drag | None:
    for wall_id in tool.session.selection:
        line = tool.session.model.lines.get(wall_id)
        if line is None:
            continue
        for end, point, other in (
            ("start", line.band.start, line.band.end),
            ("end", line.band.end, line.band.start),
        ):
            if (tool.canvas.to_widget(point) - event.position()).manhattanLength() < NEAR:
                return "Move wall end", _to_point(tool, other, partial(edits.move_wall_end, wall_id=wall_id, end=end))
    return None


def _to_point(tool: "SelectTool", other: Point | None, moved: Callable[..., Project]) -> DragTo:
    """A drag of one place that snaps, seen from ``other``; ``moved``: the edit, all but its project and ``point``."""

    def drag(event: QMouseEvent) -> Edit:
        tool.start = other
        tool.take_snap(event)
        point = tool.snap.point
        return lambda p: moved(p, point=point)

    return drag


def _walls(tool: "SelectTool", event: QMouseEvent) -> Drag | None:
    """The walls selected, when the pointer is on one of them; those that meet them follow."""
    lines = tool.session.model.lines
    hit = tool.canvas.hit(event.position())
    chosen = tuple(r for r in tool.session.selection if r in lines)
    if hit not in chosen:
        return None
    begun = tool.canvas.to_model(event.position())
    band = lines[hit].band
    aside = (-band.direction[1], band.direction[0])

    def drag(event: QMouseEvent) -> Edit:
        tool.start = None
        tool.take_snap(event)
        if tool.snap.name:  # the wall's line goes through the point snapped to
            across = dot(sub(tool.snap.point, band.start), aside)
        else:
            across = _stepped(tool, event, dot(sub(tool.canvas.to_model(event.position()), begun), aside))
        dx, dy = aside[0] * across, aside[1] * across
        tool.told = format_length(across, tool.session.project.units)
        return lambda p: wall_edits.drag_walls(p, chosen, dx, dy)

    return "Move walls", drag


# Beams ---------------------------------------------------------------------------------------------


def _beam(tool: "SelectTool", event: QMouseEvent) -> Drag | None:
    """A beam that is selected: by one of its ends, or as a whole, aside."""
    beams = tool.session.model.path.beams
    for ref in tool.session.selection:
        if ref not in beams:
            continue
        line = beams[ref].line
        start, end = line.start, line.end
        for at_start, point, other in ((True, start, end), (False, end, start)):
            if (tool.canvas.to_widget(point) - event.position()).manhattanLength() < NEAR:
                return "Move beam's end", _to_beam_end(tool, ref, at_start, other)
        if tool.canvas.hit(event.position()) == ref:
            return "Move beam", _beam_aside(tool, ref, (start, end), line.direction, event)
    return None


def _to_beam_end(tool: "SelectTool", beam: str, at_start: bool, other: Point) -> DragTo:
    def drag(event: QMouseEvent) -> Edit:
        tool.start = other
        tool.take_snap(event)
        point = tool.snap.point
        ends = (point, other) if at_start else (other, point)
        return lambda p: beam_edits.place_beam(p, beam, *ends)

    return drag


def _beam_aside(
    tool: "SelectTool", beam: str, ends: tuple[Point, Point], direction: Point, event: QMouseEvent
) -> DragTo:
    begun = tool.canvas.to_model(event.position())
    aside = (-direction[1], direction[0])

    def drag(event: QMouseEvent) -> Edit:
        tool.start = None
        tool.take_snap(event)
        if tool.snap.name and not tool.snap.name.startswith("beam"):  # its line goes through the point snapped to
            across = dot(sub(tool.snap.point, ends[0]), aside)
        else:
            across = _stepped(tool, event, dot(sub(tool.canvas.to_model(event.position()), begun), aside))
        tool.told = format_length(across, tool.session.project.units)
        a, b = ((x + aside[0] * across, y + aside[1] * across) for x, y in ends)
        return lambda p: beam_edits.place_beam(p, beam, a, b)

    return drag


# Openings ------------------------------------------------------------------------------------------


def _opening(tool: "SelectTool", event: QMouseEvent) -> Drag | None:
    known = by_id(tool.session.project.openings)
    for ref in tool.session.selection:
        opening = known.get(ref)
        if opening is None:
            continue
        band = tool.session.model.lines[opening.wall].band
        begun, _ = off_line(tool.canvas.to_model(event.position()), band.start, band.end)
        for low_end, x in ((True, opening.offset), (False, opening.offset + opening.width)):
            at = tool.canvas.to_widget(band.at(x, band.set_out))
            if (at - event.position()).manhattanLength() < NEAR:
                return "Resize opening", _to_jamb(tool, opening, band, low_end)
        if tool.canvas.hit(event.position()) == ref:
            return "Move opening", _to_place(tool, opening, band, begun)
    return None


def _to_jamb(tool: "SelectTool", opening: Opening, band: Band, low_end: bool) -> DragTo:
    def drag(event: QMouseEvent) -> Edit:
        x = _along(tool, event, band)
        far = opening.offset + opening.width
        low, high = (min(x, far - 100.0), far) if low_end else (opening.offset, max(x, opening.offset + 100.0))
        tool.told = format_length(high - low, tool.session.project.units)
        return lambda p: edits.change(p, opening.id, offset=low, width=high - low)

    return drag


def _to_place(tool: "SelectTool", opening: Opening, band: Band, begun: float) -> DragTo:
    def drag(event: QMouseEvent) -> Edit:
        along, _ = off_line(tool.canvas.to_model(event.position()), band.start, band.end)
        moved = _stepped(tool, event, opening.offset + along - begun)
        offset = min(max(moved, 0.0), max(band.length - opening.width, 0.0))
        tool.told = f"{format_length(offset, tool.session.project.units)} from the start corner"
        return lambda p: edits.change(p, opening.id, offset=offset)

    return drag


# Floors and openings in them ------------------------------------------------------------------------


def _corner(tool: "SelectTool", event: QMouseEvent) -> Drag | None:
    """A corner of a drawn floor, or of an opening of any shape, that is selected."""
    p = tool.session.project
    corners = {f.id: f.corners for f in p.floors} | {o.id: o.corners for o in p.floor_openings}
    for ref in tool.session.selection:
        for number, corner in enumerate(corners.get(ref, ())):
            point = locate(corner, p.grids)
            if (tool.canvas.to_widget(point) - event.position()).manhattanLength() < NEAR:
                return "Move corner", _to_point(tool, None, partial(floor_edits.move_corner, owner=ref, number=number))
    return None


def _floor_opening(tool: "SelectTool", event: QMouseEvent) -> Drag | None:
    """A rectangular opening in a floor that is selected, when the pointer is on it."""
    known = by_id(tool.session.project.floor_openings)
    for ref in tool.session.selection:
        opening = known.get(ref)
        if opening is None or opening.corners or tool.canvas.hit(event.position()) != ref:
            continue
        return "Move opening", _opening_moved(tool, ref, locate(opening.place, tool.session.project.grids), event)
    return None


def _opening_moved(tool: "SelectTool", opening: str, corner: Point, event: QMouseEvent) -> DragTo:
    begun = tool.canvas.to_model(event.position())

    def drag(event: QMouseEvent) -> Edit:
        x, y = tool.canvas.to_model(event.position())
        dx, dy = _stepped(tool, event, x - begun[0]), _stepped(tool, event, y - begun[1])
        units = tool.session.project.units
        tool.told = f"{format_length(dx, units)}, {format_length(dy, units)}"
        return lambda p: edits.change(p, opening, place=tie(p, add(corner, (dx, dy))))

    return drag


def _roof_opening(tool: "SelectTool", event: QMouseEvent) -> Drag | None:
    """An opening in a roof that is selected, when the pointer is on it."""
    known = by_id(tool.session.project.roof_openings)
    for ref in tool.session.selection:
        hole = next((h for plan in tool.session.model.surfaces for h in plan.holes if h.opening == ref), None)
        if ref not in known or hole is None or tool.canvas.hit(event.position()) != ref:
            continue
        plan = next(plan for plan in tool.session.model.surfaces if hole in plan.holes)
        return "Move opening", _in_its_plane(tool, known[ref], plan, hole.edge, event)
    return None


def _dormer(tool: "SelectTool", event: QMouseEvent) -> Drag | None:
    """A dormer that is selected, when the pointer is on it."""
    model, known = tool.session.model, by_id(tool.session.project.dormers)
    hit = tool.canvas.hit(event.position())
    for ref in tool.session.selection:
        if ref not in known or hit is None or owner_of(hit) != ref:
            continue
        plan = next((plan for plan in model.surfaces if plan.roof.id == known[ref].roof), None)
        if plan is not None and known[ref].wall in plan.outline.walls:
            return "Move dormer", _dormer_moved(tool, known[ref], plan, event)
    return None


def _dormer_moved(tool: "SelectTool", dormer: Dormer, plan: SurfacePlan, event: QMouseEvent) -> DragTo:
    core, edge = plan.outline.core, plan.outline.walls.index(dormer.wall)
    ((s0, t0),) = in_plane(core, edge, [tool.canvas.to_model(event.position())])

    def drag(event: QMouseEvent) -> Edit:
        ((s, t),) = in_plane(core, edge, [tool.canvas.to_model(event.position())])
        along, up = _stepped(tool, event, s - s0), _stepped(tool, event, t - t0)
        units = tool.session.project.units
        tool.told = f"{format_length(along, units)} along, {format_length(up, units)} in"
        if dormer.shape == "gablet":  # it stands where the planes beside it let it
            along, tool.told = 0.0, f"{format_length(up, units)} in"
        return lambda p: edits.change(p, dormer.id, along=dormer.along + along, front=max(dormer.front + up, 0.0))

    return drag


def _in_its_plane(tool: "SelectTool", opening: RoofOpening, plan: SurfacePlan, edge: int, event: QMouseEvent) -> DragTo:
    core, steep = plan.outline.core, math.hypot(1.0, plan.edges[edge].pitch)
    ((s0, t0),) = in_plane(core, edge, [tool.canvas.to_model(event.position())])

    def drag(event: QMouseEvent) -> Edit:
        ((s, t),) = in_plane(core, edge, [tool.canvas.to_model(event.position())])
        along, up = _stepped(tool, event, s - s0), _stepped(tool, event, (t - t0) * steep)
        units = tool.session.project.units
        tool.told = f"{format_length(along, units)} along, {format_length(up, units)} up"
        return lambda p: edits.change(p, opening.id, along=opening.along + along, up=max(opening.up + up, 0.0))

    return drag


# Steps of foundations, axes ------------------------------------------------------------------------


def _step(tool: "SelectTool", event: QMouseEvent) -> Drag | None:
    """A step of a foundation that is selected, when the pointer is on it."""
    ref = tool.canvas.hit(event.position())
    part = foundation_part(tool.session.project, ref)
    if part is None or part[1] != "step" or ref not in tool.session.selection:
        return None
    foundation, _, number = part
    step = foundation.steps[number]
    band = next(r.band for r in tool.session.model.runs if r.id == run_name(foundation.id, step.wall))

    def drag(event: QMouseEvent) -> Edit:
        at = _along(tool, event, band)
        tool.told = f"{format_length(at, tool.session.project.units)} from the start corner"
        return lambda p: foundation_edits.change_step(p, foundation.id, number, at=at)

    return "Move step", drag


def _axis(tool: "SelectTool", event: QMouseEvent) -> Drag | None:
    """An axis of a square grid that is selected, when the pointer is on it; with Ctrl those after it move along."""
    ref = tool.canvas.hit(event.position())
    grid_id, axis_id = grid_and_axis(ref)
    grid = by_id(tool.session.project.grids).get(grid_id)
    if grid is None or grid.kind != "square" or ref not in tool.session.selection:
        return None
    axes = grid.x_axes if any(axis.id == axis_id for axis in grid.x_axes) else grid.y_axes
    number = next(i for i, axis in enumerate(axes) if axis.id == axis_id)
    if number == 0:  # the grid's origin: the grid as a whole is placed by it
        return None
    before, gap = axes[number - 1].label, axes[number].gap
    way = turn((1.0, 0.0) if axes is grid.x_axes else (0.0, 1.0), grid.angle)
    begun = tool.canvas.to_model(event.position())

    def drag(event: QMouseEvent) -> Edit:
        moved = _stepped(tool, event, gap + dot(sub(tool.canvas.to_model(event.position()), begun), way))
        along = bool(event.modifiers() & Qt.KeyboardModifier.ControlModifier)
        tool.told = f"{format_length(moved, tool.session.project.units)} from axis {before}"
        if along:
            return lambda p: grid_edits.set_axis_gap(p, grid_id, axis_id, moved)
        return lambda p: grid_edits.move_axis(p, grid_id, axis_id, moved - gap)

    return "Move axis", drag
