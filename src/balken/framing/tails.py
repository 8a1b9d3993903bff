"""How the tails of rafters, hips and valleys end: plumb, square to the rafter, plumb and below that level, for a soffit, or cut back: ever
shallower from the wall to what is left of the plumb cut.

A tail is bent most where it leaves the wall; what these cuts take off it lies farther out, and never above the plates.  One that is cut back
loses depth no faster than what bends it falls off toward its end.
"""

import math

from balken.catalog.sections import section
from balken.framing.line_levels import line_drop
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
    if roof.tails == "cut back":
        drop = line_drop(plan, m, section(size))
        over = max((m.over, *(plan.overhangs[e] for e in m.edges if e >= 0 and len(m.edges) == 1)))
        left_over = soffit(plan, m) + plan.roof.tail_plumb if len(m.edges) > 1 else m.start[2] + lift - pitch * over
        return _back(
            unit(*m.ends),
            pitch,
            m.start[:2],
            m.start[2] + lift - drop,
            over,
            left_over,
            roof.tail_plumb,
            section(size).depth,
        )
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
    if roof.tails == "cut back":
        over = -dot(way, sub(foot, corner))
        return _back(way, pitch, add(foot, way, over), plan.level(edge), over, top, roof.tail_plumb, depth)
    return _square(way, pitch, foot, top)


def _square(way: Point, pitch: float, foot: Point, top: float) -> Off:
    """Return the plane square to a rafter through the lower end of its top edge."""
    steep = math.hypot(1.0, pitch)
    normal = (way[0] / steep, way[1] / steep, pitch / steep)
    return normal, normal[0] * foot[0] + normal[1] * foot[1] + normal[2] * top


def _back(
    way: Point, pitch: float, at: Point, top: float, over: float, end: float, left_over: float, depth: float
) -> Off | None:
    """Return the plane from the underside of a member over the wall (``at``, its top edge ``top`` high) out to where ``left_over`` is left of
    its plumb cut, below ``end``; None where it is no deeper there.
    """
    low, out = top - depth * math.hypot(1.0, pitch), end - left_over
    if over < LEAST or out <= low - pitch * over + 1.0:
        return None
    rise = (low - out) / over
    steep = math.hypot(1.0, rise)
    normal = (-way[0] * rise / steep, -way[1] * rise / steep, 1.0 / steep)
    return normal, normal[0] * at[0] + normal[1] * at[1] + normal[2] * low


def left_of(plan: SurfacePlan, m: RoofMember, cut: Off) -> float:
    """Return how deep the plumb cut of a tail is left under its planes, mm."""
    top = m.start[2] + plan.bearing + plan.plate_to_top - math.tan(math.radians(m.slope)) * m.over
    x, y = add(m.start[:2], unit(*m.ends), -m.over)
    (nx, ny, nz), least = cut
    return top - (least - nx * x - ny * y) / nz


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
    return max(section(size).depth / math.cos(slope) - (left_of(plan, m, cut) - drop), 0.0) * math.sin(slope)


def with_tail(solid: Leaning, cut: Off | None) -> Leaning | Trimmed:
    """Return a member that has no seat with its tail cut."""
    made = trimmed(solid, *cut) if cut is not None else solid
    return made if isinstance(made, Leaning | Trimmed) else solid
