"""Slabs on ground: outline from walls, thickened edge, haunches under bearing walls, layers below."""

import shapely

from balken.framing.bands import WallLine
from balken.framing.foundations import FoundationRun
from balken.framing.outlines import Outline
from balken.framing.uprights import Upright, _parts
from balken.geometry.arcs import arc
from balken.geometry.plane import Point, Ring, anticlockwise, area
from balken.model.kinds.slab import hole_ring
from balken.model.records import Grid, Slab
from balken.value import Value


class SlabPlan(Value, frozen=True):
    """A slab with its outline and the height of its top; ``ring`` before foundation walls cut it."""

    slab: Slab
    ring: Ring
    top: float
    sides: tuple[str, ...] = ()
    """The walls along its edges."""
    problem: str = ""
    """Why an edge is not an arc though it was asked for."""
    holes: tuple[Ring, ...] = ()

    @property
    def bottom(self) -> float:
        """Height of its underside."""
        return self.top - self.slab.thickness


def slab_plan(
    slab: Slab,
    outline: Outline,
    top: float,
    runs: tuple[FoundationRun, ...],
    lines: dict[str, WallLine],
    grids: tuple[Grid, ...],
) -> SlabPlan:
    """Return a slab's plan.

    "flush": it reaches the outer core faces and foundation walls cut it back; "seat": its edge lies the
    seat's width on them.
    """
    ring, problem = _bowed(slab, outline)
    if slab.edge == "seat":
        inner = [r.faces[1] - lines[r.wall].core[0] for r in runs if r.wall in outline.walls]
        inset = max(max(inner, default=0.0) - slab.seat, 0.0)
        shape = shapely.Polygon(ring).buffer(-inset, join_style="mitre")
        if isinstance(shape, shapely.Polygon) and not shape.is_empty:
            ring = tuple((float(x), float(y)) for x, y in shape.exterior.coords[:-1])
    holes = tuple(hole_ring(hole, grids) for hole in slab.holes)
    return SlabPlan(slab, anticlockwise(ring), top, outline.walls, problem, holes)


def _bowed(slab: Slab, outline: Outline) -> tuple[Ring, str]:
    """Return the outline with the edges that are arcs; the straight one and the reason where arcs would cross it."""
    rises = {bow.wall: bow.rise for bow in slab.bows}
    points: list[Point] = []
    core = outline.core
    for i, wall in enumerate(outline.walls):
        points += arc(core[i], core[(i + 1) % len(core)], rises.get(wall, 0.0))[:-1]
    if not shapely.Polygon(points).is_valid or area(points) <= 0.0:
        return core, "its bowed edges cross one another"
    return tuple(points), ""


def seat_solids(plans: tuple[SlabPlan, ...]) -> tuple[Upright, ...]:
    """Return the slabs that lie on foundation walls, which give way to them."""
    return tuple(Upright(p.ring, p.bottom, p.top) for p in plans if p.slab.edge == "seat")


def slab_solids(plan: SlabPlan, lines: dict[str, WallLine]) -> list[tuple[str, Upright]]:
    """Return (name, solid) of a slab, its thickened edge, haunches and the layers below, as laid."""
    slab = plan.slab
    whole = shapely.Polygon(plan.ring)
    for hole in plan.holes:
        whole = whole.difference(shapely.Polygon(hole).buffer(0.0))
    found: list[tuple[str, Upright]] = [("slab", part) for part in _parts(whole, plan.bottom, plan.top)]
    if slab.edge_depth > slab.thickness:
        ring = whole.difference(whole.buffer(-slab.edge_width, join_style="mitre"))
        low = plan.top - slab.edge_depth
        found += [("slab edge", part) for part in _parts(ring, low, plan.bottom)]
    if slab.haunch > 0.0:
        for line in lines.values():
            b = line.band
            if line.wall.role == "bearing" and abs(b.bottom - plan.top) < 400.0:
                middle = (line.core[0] + line.core[1]) / 2.0
                strip = shapely.LineString([b.at(0.0, middle), b.at(b.length, middle)]).buffer(
                    slab.haunch_width / 2.0, cap_style="flat"
                )
                found += [
                    ("slab edge", part)
                    for part in _parts(strip.intersection(whole), plan.bottom - slab.haunch, plan.bottom)
                ]
    z = plan.bottom
    for name, thick in (("insulation", slab.insulation), ("subbase", slab.subbase), ("blinding", slab.blinding)):
        if thick > 0.0:
            found += [(name, part) for part in _parts(whole, z - thick, z)]
            z -= thick
    return found
