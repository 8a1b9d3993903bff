"""Slabs on ground."""

import math
from typing import TYPE_CHECKING, Annotated, Literal

from balken.geometry.arcs import circle
from balken.geometry.plane import Ring, add, is_simple, turn
from balken.model.base import AxisPoint, Hang, LevelId, Place, Record, To, WallIds
from balken.model.errors import EditError
from balken.model.kinds.kind import Kind
from balken.model.places import by_id, locate
from balken.model.rule_parts import (
    hung,
    placed,
    walls_there,
)
from balken.units.system import INCH

if TYPE_CHECKING:
    from balken.model.kinds.grid import Grid
    from balken.model.records import Project


class Bow(Record, frozen=True, kw_only=True):
    """An edge of a slab along a wall drawn as an arc: ``rise`` outward at its middle, mm (below zero: inward)."""

    wall: Annotated[str, To(("walls",), "with")]
    rise: float


class Hole(Record, frozen=True, kw_only=True):
    """What is left out of a slab: a rectangle from its corner on (``width`` along x, ``depth`` along y), a circle about its middle, or
    ``outline``, another shape, mm from its place.

    Its ``place`` is tied to axes where there are any; ``angle``: degrees from x of their grid, else of the plan.
    """

    place: Place
    width: float = 0.0
    depth: float = 0.0
    diameter: float = 0.0
    angle: float = 0.0
    outline: tuple[tuple[float, float], ...] = ()


def hole_ring(hole: Hole, grids: "tuple[Grid, ...]") -> Ring:
    """Return the outline of a hole in plan, mm."""
    at, angle = locate(hole.place, grids), hole.angle
    if isinstance(hole.place, AxisPoint):
        angle += by_id(grids)[hole.place.grid].angle
    corners: Ring = hole.outline
    if hole.diameter > 0.0:
        corners = circle((0.0, 0.0), hole.diameter / 2.0)
    elif not corners:
        corners = ((0.0, 0.0), (hole.width, 0.0), (hole.width, hole.depth), (0.0, hole.depth))
    return tuple(add(at, turn(p, angle)) for p in corners)


class Slab(Record, frozen=True, kw_only=True):
    """A slab on ground whose top is on ``level``, bounded by walls.

    ``edge`` "flush": it stops at the foundation walls; "seat": it lies ``seat`` mm on them.  ``edge_depth``,
    ``edge_width``: of its thickened edge (0: none); ``haunch``: its depth below the slab under inside bearing
    walls.  ``holes``: what is left out of it.  ``bows``: edges that are arcs.  Layers under it: insulation, subbase,
    blinding, mm.
    """

    id: str
    name: str
    walls: WallIds
    level: LevelId
    thickness: float = 4.0 * INCH
    edge: Literal["flush", "seat"] = "flush"
    seat: float = 4.0 * INCH
    edge_depth: float = 0.0
    edge_width: float = 12.0 * INCH
    haunch: float = 0.0
    haunch_width: float = 16.0 * INCH
    holes: tuple[Hole, ...] = ()
    bows: tuple[Bow, ...] = ()
    insulation: float = 0.0
    subbase: float = 4.0 * INCH
    blinding: float = 0.0


def check_slab(project: "Project", slab: Slab) -> None:
    """Raise EditError unless a slab, its edges, holes and layers are within bounds."""
    where = slab.name
    walls_there(project, slab.walls, where)
    hung(project, Hang(level=slab.level), where)
    if not 50.0 <= slab.thickness <= 1500.0:
        raise EditError("the slab must be 2 in to 5 ft (50 to 1500 mm) thick.", where)
    for value in (slab.insulation, slab.subbase, slab.blinding, slab.edge_depth, slab.haunch):
        if not 0.0 <= value <= 2000.0:
            raise EditError("layers, edges and haunches must be 0 to 6 ft (2 m).", where)
    if (
        not 0.0 <= slab.seat <= 1000.0
        or not 50.0 <= slab.edge_width <= 3000.0
        or not 50.0 <= slab.haunch_width <= 3000.0
    ):
        raise EditError("its seat, edge or haunch is out of bounds.", where)
    for hole in slab.holes:
        placed(project, hole.place, f"{where}, a hole")
        if hole.outline and (len(hole.outline) < 3 or not is_simple(hole.outline)):
            raise EditError("a hole needs three corners or more, in order round it.", where)
        if not hole.outline and hole.diameter <= 0.0 and not (hole.width > 0.0 and hole.depth > 0.0):
            raise EditError("a hole needs a width and a depth above zero, or a diameter.", where)
        if min(hole.width, hole.depth, hole.diameter) < 0.0 or not math.isfinite(hole.angle):
            raise EditError("a hole's sides cannot be below zero.", where)
    if any(not abs(bow.rise) <= 30_000.0 for bow in slab.bows):
        raise EditError("an edge can bow out or in by at most 100 ft (30 m).", where)


KIND = Kind(Slab, "slabs", "slab", "slab", "slabs", check_slab)
