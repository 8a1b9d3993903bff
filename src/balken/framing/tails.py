"""How the tails of rafters, hips and valleys end: plumb, square to the rafter, or plumb and below that level, for a soffit.

A tail is bent most where it leaves the wall; what these cuts take off it lies farther out, and never above the plates.
"""

import math

from balken.catalog.sections import section
from balken.framing.roof_layout import RoofMember
from balken.framing.surface_roofs import SurfacePlan, eave
from balken.geometry.leaning import Leaning
from balken.geometry.plane import Point, add, dot, sub, unit
from balken.geometry.seated import Off
from balken.geometry.trimmed import Trimmed, trimmed
from balken.units.system import INCH

LEAST = 1.5 * INCH
"""So much of a plumb cut is left at least, mm."""


def tail_cut(plan: SurfacePlan, m: RoofMember, size: str) -> Off | None:
    """Return the plane along which a member's tail is cut off below (what lies beyond it stays); None where it ends plumb."""
    roof = plan.roof
    if roof.tails == "plumb" or m.over <= 0.0 or m.role == "ridge":
        return None
    pitch, lift = math.tan(math.radians(m.slope)), plan.bearing + plan.plate_to_top
    top = m.start[2] + lift - pitch * m.over
    if roof.tails == "level":
        return (0.0, 0.0, 1.0), min(soffit(plan, m), top - LEAST, plan.bearing + m.start[2])
    depth, steep = section(size).depth, math.hypot(1.0, pitch)
    if len(m.edges) > 1 or not m.at_eave or m.foot.kind or m.over < depth * pitch / steep + LEAST:
        return None  # hips and valleys end in cheeks along both eaves; too short a tail would be cut off at the wall
    way = unit(*m.ends)
    return _square(way, pitch, add(m.start[:2], way, -m.over), top)


def fly_cut(plan: SurfacePlan, edge: int, foot: Point, depth: float) -> Off | None:
    """Return the plane along which the tail of a fly rafter over an edge's plane is cut; ``foot``: its lower end in plan."""
    roof, (corner, _, way), pitch = plan.roof, eave(plan, edge), plan.edges[edge].pitch
    if roof.tails == "plumb":
        return None
    top = plan.level(edge) + pitch * dot(way, sub(foot, corner))
    if roof.tails == "level":
        return (0.0, 0.0, 1.0), top - min(roof.tail_plumb, depth * math.hypot(1.0, pitch))
    return _square(way, pitch, foot, top)


def _square(way: Point, pitch: float, foot: Point, top: float) -> Off:
    """Return the plane square to a rafter through the lower end of its top edge."""
    steep = math.hypot(1.0, pitch)
    normal = (way[0] / steep, way[1] / steep, pitch / steep)
    return normal, normal[0] * foot[0] + normal[1] * foot[1] + normal[2] * top


def soffit(plan: SurfacePlan, m: RoofMember) -> float:
    """Return how high the level cuts of tails lie under a member's eaves: so far below the undersides of the deck there as plumb cuts are
    left deep.
    """
    rows = [plan.level(e) - plan.edges[e].pitch * plan.overhangs[e] for e in m.edges if e >= 0]
    return min(rows) - plan.roof.tail_plumb


def shorter(plan: SurfacePlan, m: RoofMember, size: str, drop: float = 0.0) -> float:
    """Return by how much the board of a member is shorter than one that ends plumb, mm; ``drop``: how far it lies below its planes."""
    cut = tail_cut(plan, m, size)
    if cut is None:
        return 0.0
    slope = math.radians(m.slope)
    if plan.roof.tails == "square":
        return section(size).depth * math.tan(slope)
    top = m.start[2] + plan.bearing + plan.plate_to_top - math.tan(slope) * m.over - drop
    return max(section(size).depth / math.cos(slope) - (top - cut[1]), 0.0) * math.sin(slope)


def with_tail(solid: Leaning, cut: Off | None) -> Leaning | Trimmed:
    """Return a member that has no seat with its tail cut."""
    made = trimmed(solid, *cut) if cut is not None else solid
    return made if isinstance(made, Leaning | Trimmed) else solid
