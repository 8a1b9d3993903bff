"""Edits of underlays: laid under a level, layers on and off, placed by points."""

import math

import msgspec

from balken.geometry.plane import TOUCH, Point, distance, sub, turn
from balken.geometry.plane import add as shifted
from balken.model.edits import add, change
from balken.model.errors import EditError
from balken.model.lookup import next_id, there
from balken.model.records import Project, Underlay


def lay_underlay(project: Project, path: str, name: str, level: str, scale: float) -> Project:
    """Lay a drawing under the plan of a level; ``scale`` is mm for one unit of the drawing."""
    return add(project, Underlay(id=next_id(project, Underlay), name=name, path=path, level=level, scale=scale))


def switch_layer(project: Project, underlay_id: str, layer: str, on: bool) -> Project:
    """Show or hide one layer of an underlay."""
    underlay = there(project.underlays, underlay_id)
    off = [name for name in underlay.layers_off if name != layer]
    return change(project, underlay_id, layers_off=tuple(off if on else [*off, layer]))


def move_underlay(project: Project, underlay_id: str, at: Point, to: Point) -> Project:
    """Move an underlay so that what lies at one plan point comes to lie at another."""
    underlay = there(project.underlays, underlay_id)
    return change(project, underlay_id, origin=shifted(underlay.origin, sub(to, at)))


def place_underlay(
    project: Project, underlay_id: str, first: Point, second: Point, length: float, to: Point | None = None
) -> Project:
    """Set an underlay's scale by two of its points (in plan as it lies now) that are ``length`` mm apart.

    The first point stays, or comes to lie at ``to``.  Raises EditError when the points coincide.
    """
    underlay = there(project.underlays, underlay_id)
    now = distance(first, second)
    if now < TOUCH or not math.isfinite(length) or length <= 0.0:
        raise EditError(
            "two points apart and a length above zero are needed.", f"Underlay '{underlay.name}'", "Pick them again."
        )
    factor = length / now
    target = to if to is not None else first
    origin = shifted(target, sub(underlay.origin, first), factor)
    return change(project, underlay_id, scale=underlay.scale * factor, origin=origin)


def turn_underlay(project: Project, underlay_id: str, about: Point, degrees: float) -> Project:
    """Turn an underlay anticlockwise about a plan point."""
    underlay = there(project.underlays, underlay_id)
    origin = shifted(about, turn(sub(underlay.origin, about), degrees))
    turned = msgspec.structs.replace(underlay, origin=origin, angle=(underlay.angle + degrees) % 360.0)
    return change(project, underlay_id, origin=turned.origin, angle=turned.angle)
