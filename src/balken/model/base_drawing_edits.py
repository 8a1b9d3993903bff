"""Edits of base drawings: laid under a level, layers on and off, placed by points."""

import math

from balken.geometry.plane import TOUCH, Point, distance, sub
from balken.geometry.plane import add as shifted
from balken.model.edits import add, change
from balken.model.errors import EditError
from balken.model.lookup import next_id, there
from balken.model.records import BaseDrawing, Project


def lay_base_drawing(project: Project, path: str, name: str, level: str, scale: float) -> Project:
    """Lay a drawing under the plan of a level; ``scale`` is mm for one unit of the drawing."""
    return add(project, BaseDrawing(id=next_id(project, BaseDrawing), name=name, path=path, level=level, scale=scale))


def switch_layer(project: Project, drawing_id: str, layer: str, on: bool) -> Project:
    """Show or hide one layer of a base drawing."""
    drawing = there(project.base_drawings, drawing_id)
    off = [name for name in drawing.layers_off if name != layer]
    return change(project, drawing_id, layers_off=tuple(off if on else [*off, layer]))


def place_base_drawing(
    project: Project, drawing_id: str, first: Point, second: Point, length: float, to: Point | None = None
) -> Project:
    """Set a base drawing's scale by two of its points (in plan as it lies now) that are ``length`` mm apart.

    The first point stays, or comes to lie at ``to``.  Raises EditError when the points coincide.
    """
    drawing = there(project.base_drawings, drawing_id)
    now = distance(first, second)
    if now < TOUCH or not math.isfinite(length) or length <= 0.0:
        raise EditError(
            "two points apart and a length above zero are needed.", f"Base drawing '{drawing.name}'", "Pick them again."
        )
    factor = length / now
    target = to if to is not None else first
    origin = shifted(target, sub(drawing.origin, first), factor)
    return change(project, drawing_id, scale=drawing.scale * factor, origin=origin)
