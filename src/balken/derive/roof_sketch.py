"""A roof of planes as a drag of its pitch would leave it: its surface alone, made anew at every move of the pointer."""

import math
from itertools import pairwise
from typing import NamedTuple

from msgspec.structs import replace

from balken.framing.surface_roofs import SurfacePlan, eave, roof_sides
from balken.geometry.plane import Point, dot, sub
from balken.geometry.prism import View
from balken.geometry.roof_edges import Place, RoofError
from balken.geometry.roof_overhangs import overhung
from balken.geometry.roof_surface import RoofFace, roof_surface
from balken.model.edits import change
from balken.model.errors import EditError
from balken.model.lookup import there
from balken.model.records import Project, Roof
from balken.model.roof_edits import set_side, side_of
from balken.value import Value

LEAST_RUN = 300.0
"""Nearer to its bearing line a plane is no handle by which to turn it, mm."""
Segment = tuple[Point, Point]
"""Where a plane is cut: its ends in the picture."""


class Handle(NamedTuple):
    """Where a plane is taken hold of: its roof, the number of its edge, how far in of its bearing line, how high that lies, mm."""

    roof: str
    edge: int
    run: float
    low: float


class RoofSketch(Value, frozen=True, eq=False):
    """A roof with another pitch: laid over its outline, neither framed nor run on onto others; ``problem``: why it cannot be made."""

    plan: SurfacePlan
    pitch: float
    problem: str = ""

    @property
    def ridge(self) -> float:
        """How high its highest place lies, mm."""
        return _base(self.plan) + self.plan.surface.top


def _base(plan: SurfacePlan) -> float:
    """Return how high its planes lie over their bearing line where that has not been raised, mm."""
    return plan.bearing + plan.plate_to_top


def ridge_lines(sketch: RoofSketch) -> list[tuple[Place, Place]]:
    """Return the edges, ridges, hips and valleys of a roof being dragged."""
    base = _base(sketch.plan)
    rows = () if sketch.problem else sketch.plan.whole.lines
    return [((*line.start[:2], line.start[2] + base), (*line.end[:2], line.end[2] + base)) for line in rows]


def cut_faces(plan: SurfacePlan, view: View) -> list[tuple[RoofFace, Segment]]:
    """Return where the planes of a roof with its overhangs are cut by a picture plane that stands upright."""
    base, found = _base(plan), list[tuple[RoofFace, Segment]]()
    for face in plan.whole.faces:
        seen = [view.project((x, y, z + base)) for x, y, z in face.ring]
        met = []
        for (ax, az, a), (bx, bz, b) in zip(seen, (*seen[1:], seen[0]), strict=True):
            if (a < 0.0) != (b < 0.0):
                part = a / (a - b)
                met.append((ax + (bx - ax) * part, az + (bz - az) * part))
        found += [(face, pair) for k, pair in enumerate(pairwise(sorted(met))) if k % 2 == 0]
    return found


def handle_at(plan: SurfacePlan, view: View, at: Point, near: float) -> Handle | None:
    """Return the plane that is cut no farther from a place of the picture than ``near``, plumb, if it can be turned there."""
    rows = []
    for face, ((ax, az), (bx, bz)) in cut_faces(plan, view):
        if ax <= at[0] <= bx and bx - ax > 1.0:
            off = abs(az + (bz - az) * (at[0] - ax) / (bx - ax) - at[1])
            rows.append((off, face.edge))
    off, edge = min(rows, default=(math.inf, -1))
    if off > near:
        return None
    (x, y, _), (dx, dy, _) = view.origin, view.right
    corner, _, inward = eave(plan, edge)
    run = dot(inward, sub((x + dx * at[0], y + dy * at[0]), corner))
    return Handle(plan.roof.id, edge, run, plan.level(edge)) if run >= LEAST_RUN else None


def pitch_at(handle: Handle, height: float) -> float:
    """Return the pitch with which the plane passes through a height where it is taken hold of."""
    return (height - handle.low) / handle.run


def with_pitch(project: Project, plan: SurfacePlan, edge: int, pitch: float) -> Project:
    """Give the plane over an edge another pitch: that of its roof, unless it has one of its own; raises EditError."""
    roof: Roof = there(project.roofs, plan.roof.id)
    wall = plan.outline.walls[edge]
    if side_of(roof, wall).pitch is None:
        return change(project, roof.id, pitch=pitch)
    return set_side(project, roof.id, wall, pitch=pitch)


def sketched(project: Project, plan: SurfacePlan, edge: int, pitch: float) -> RoofSketch:
    """Return a roof with another pitch of the plane over an edge."""
    try:
        roof: Roof = there(with_pitch(project, plan, edge, pitch).roofs, plan.roof.id)
        roof = replace(roof, rafters=plan.roof.rafters)  # of the section that was chosen, until it is chosen anew
        edges, overhangs = roof_sides(roof, plan.outline)
        surface = roof_surface(plan.outline.core, edges)
        ring, whole = overhung(surface, plan.outline.core, edges, overhangs)
    except (EditError, RoofError) as error:
        return RoofSketch(plan, pitch, str(error))
    rows = {"edges": tuple(edges), "overhangs": tuple(overhangs), "surface": surface, "whole": whole, "ring": ring}
    return RoofSketch(replace(plan, roof=roof, **rows), pitch)
