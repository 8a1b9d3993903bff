"""How low hips, valleys and ridges lie under the line of their planes, and how hips that are backed are bevelled."""

import math

from balken.catalog.section_record import Section
from balken.framing.ridge_seats import under_drop, under_edges
from balken.framing.roof_layout import RoofMember
from balken.framing.surface_roofs import SurfacePlan, eave
from balken.geometry.plane import dot, left, unit
from balken.geometry.seated import Off


def line_drop(plan: SurfacePlan, m: RoofMember, lumber: Section) -> float:
    """Return how far a hip, valley or ridge lies below the line of its planes, mm: hips and ridges so that no edge stands above them, beams
    under rafters by these.
    """
    if m.role == "ridge" and frozenset(m.edges) in under_edges(plan):
        return under_drop(plan, m.edges, lumber.breadth)
    if m.role not in ("hip", "ridge") or is_backed(plan, m, lumber):
        return 0.0
    return hip_drop(plan, m, lumber.breadth)


def is_backed(plan: SurfacePlan, m: RoofMember, lumber: Section) -> bool:
    """Whether a hip is backed: one of sawn lumber (what is made is not cut along its edges, R502.8.2), of a roof that lies on no other."""
    return m.role == "hip" and plan.roof.hips == "backed" and lumber.kind == "sawn" and not plan.laid_on


def planes_beside(plan: SurfacePlan, m: RoofMember) -> tuple[Off, ...]:
    """Return the planes at both sides of a hip, below which it lies."""
    found: list[Off] = []
    for edge in (e for e in m.edges if e >= 0):
        corner, _, inward = eave(plan, edge)
        pitch = plan.edges[edge].pitch
        steep = math.hypot(1.0, pitch)
        least = (pitch * dot(inward, corner) - plan.level(edge)) / steep
        found.append(((inward[0] * pitch / steep, inward[1] * pitch / steep, -1.0 / steep), least))
    return tuple(found)


def hip_drop(plan: SurfacePlan, member: RoofMember, thick: float) -> float:
    """Return how far a hip lies below the line of its planes, so that its edges meet them, mm."""
    return max((thick / 2.0 * fall for fall in _falls(plan, member)), default=0.0)


def backing(plan: SurfacePlan, member: RoofMember) -> tuple[float, ...]:
    """Return how far the planes at both sides of a hip turn from level, seen along it, degrees: by so much its top edge is bevelled where it
    is backed.
    """
    level = math.cos(math.radians(member.slope))
    return tuple(math.degrees(math.atan(fall * level)) for fall in _falls(plan, member))


def _falls(plan: SurfacePlan, member: RoofMember) -> list[float]:
    """Return how fast the planes at both sides of a hip fall away from it, plumb, square to it in plan."""
    core = plan.outline.core
    aside = left(unit(member.start[:2], member.end[:2]))
    ways = ((e, left(unit(core[e], core[(e + 1) % len(core)]))) for e in member.edges if e >= 0)
    return [plan.edges[e].pitch * abs(dot(inward, aside)) for e, inward in ways]
