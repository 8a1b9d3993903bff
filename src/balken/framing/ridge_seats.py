"""Ridge beams under the rafters: these meet over them and bear on their upper face by level seats, as on a plate.

A ridge lies so where both its ends lie over gables, no hip or valley comes to it, its planes are of one pitch and its roof lies on no
other; any other lies between the rafters.
"""

import math

from balken.catalog.sections import RIDGE_BEAMS, section
from balken.framing.rafters import deepest_seat
from balken.framing.roof_layout import LineRun, line_runs
from balken.framing.surface_roofs import USUAL, SurfacePlan
from balken.geometry.plane import to_segment

NEAR = 2.0
"""An end no farther from a wall's face lies over that wall, mm."""
ALIKE = 1e-6


def beams_under(plan: SurfacePlan) -> tuple[LineRun, ...]:
    """Return the ridges of a roof whose beams lie under its rafters."""
    if plan.roof.ridge_made != "under" or plan.laid_on:
        return ()
    return tuple(run for run in line_runs(plan.surface) if run.line.kind == "ridge" and _is_free(plan, run))


def under_edges(plan: SurfacePlan) -> frozenset[frozenset[int]]:
    """Return the edges whose planes meet at each of those ridges."""
    found: set[frozenset[int]] = set()
    for run in beams_under(plan):
        found |= {frozenset(run.edges), *(frozenset(plan.surface.lines[i].edges) for i in run.numbers)}
    return frozenset(found)


def _is_free(plan: SurfacePlan, run: LineRun) -> bool:
    core, ends = plan.outline.core, (run.line.start, run.line.end)
    gables = [(core[k], core[(k + 1) % len(core)]) for k in range(len(core)) if plan.edges[k].kind in ("gable", "wall")]
    if any(min((to_segment(end[:2], *wall) for wall in gables), default=math.inf) > NEAR for end in ends):
        return False
    if any(e < 0 for e in run.edges) or len({round(plan.edges[e].pitch / ALIKE) for e in run.edges}) > 1:
        return False
    others = (x for x in plan.surface.lines if x.kind in ("hip", "valley"))
    a, b = ends[0][:2], ends[1][:2]
    return all(to_segment(p[:2], a, b) > NEAR for x in others for p in (x.start, x.end))


def head_seat(plan: SurfacePlan, edge: int, breadth: float) -> float:
    """Return how long the seat of a rafter of an edge's plane on a beam so thick under its head is, level, mm: half of that, no deeper than
    a quarter of the rafter (IRC R802.7.1).
    """
    return deepest_seat(section(plan.roof.rafters.size or USUAL).depth, plan.edges[edge].pitch, breadth / 2.0)


def seats_between(plan: SurfacePlan, edge: int) -> tuple[float, float]:
    """Return the shortest and the longest that seat may come to be, by the beams there are to choose from, mm."""
    typed = plan.roof.ridge_size
    thick = [section(size).breadth for size in ((typed,) if typed is not None else RIDGE_BEAMS)]
    return head_seat(plan, edge, min(thick)), head_seat(plan, edge, max(thick))


def resting(plan: SurfacePlan, edge: int, rafter: str, breadth: float) -> tuple[float, float]:
    """Return how long a rafter of a section bears on a beam so thick under its head, and how deep it is notched for that, square to it, mm:
    one that is shallower than the roof's own hangs over it.
    """
    pitch, depth = plan.edges[edge].pitch, section(rafter).depth
    steep = math.hypot(1.0, pitch)
    above = under_drop(plan, edge, breadth) - depth * steep
    seat = breadth / 2.0 - max(above, 0.0) / pitch
    return seat, (pitch * breadth / 2.0 - above) / steep


def under_drop(plan: SurfacePlan, edge: int, breadth: float) -> float:
    """Return how far the upper face of a beam so thick lies below the line of the planes, mm; ``edge``: of one of its planes."""
    pitch, depth = plan.edges[edge].pitch, section(plan.roof.rafters.size or USUAL).depth
    return depth * math.hypot(1.0, pitch) + pitch * (breadth / 2.0 - head_seat(plan, edge, breadth))
