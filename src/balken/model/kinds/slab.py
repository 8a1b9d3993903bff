"""Slabs on ground."""

import math
from typing import TYPE_CHECKING, Annotated, Literal

from balken.model.base import Hang, LevelId, Record, To, WallIds
from balken.model.errors import EditError
from balken.model.kinds.kind import Kind
from balken.model.rule_parts import (
    hung,
    walls_there,
)
from balken.units.system import INCH

if TYPE_CHECKING:
    from balken.model.records import Project


class Bow(Record, frozen=True, kw_only=True):
    """An edge of a slab along a wall drawn as an arc: ``rise`` outward at its middle, mm (below zero: inward)."""

    wall: Annotated[str, To(("walls",), "with")]
    rise: float


class Slab(Record, frozen=True, kw_only=True):
    """A slab on ground whose top is on ``level``, bounded by walls.

    ``edge`` "flush": it stops at the foundation walls; "seat": it lies ``seat`` mm on them.  ``edge_depth``,
    ``edge_width``: of its thickened edge (0: none); ``haunch``: its depth below the slab under inside bearing
    walls.  ``holes``: outlines left out.  ``bows``: edges that are arcs.  Layers under it: insulation, subbase,
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
    holes: tuple[tuple[tuple[float, float], ...], ...] = ()
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
        if len(hole) < 3 or any(not math.isfinite(c) for p in hole for c in p):
            raise EditError("a hole needs three corners or more.", where)
    if any(not abs(bow.rise) <= 30_000.0 for bow in slab.bows):
        raise EditError("an edge can bow out or in by at most 100 ft (30 m).", where)


KIND = Kind(Slab, "slabs", "slab", "slab", "slabs", check_slab)
