"""Ridge beams under the rafters: these meet over them and bear on their upper face by level seats, as on a plate.

A ridge lies so where its ends lie over gables, or where two hips come to them, no valley comes to it and its roof lies on no other; and,
where its planes are of two pitches, at one height both find room on it.  Any other lies between the rafters.  Past an end with hips the beam
runs on by half of what it is thick, so that they, too, bear on it.
"""

import math
from collections.abc import Sequence

from balken.catalog.sections import RIDGE_BEAMS, section
from balken.framing.rafters import deepest_seat
from balken.framing.roof_layout import LineRun, RoofMember, line_runs
from balken.framing.surface_roofs import USUAL, SurfacePlan
from balken.geometry.plane import Point, distance, to_segment
from balken.units.system import INCH

NEAR = 2.0
"""An end no farther from a wall's face lies over that wall, mm."""
ALIKE = 1e-6
FAR = 1e9
LEAST = 1.5 * INCH
"""Rafters bear on no less (IRC R802.6)."""


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
    ends = run.line.start, run.line.end
    hips = [_with_hips(plan, run, end[:2]) for end in ends]
    if not all(hip or _over_gable(plan, end[:2]) for hip, end in zip(hips, ends, strict=True)):
        return False
    if any(e < 0 for e in run.edges):
        return False
    if len({round(plan.edges[e].pitch / ALIKE) for e in run.edges}) > 1 and not _both_find_room(plan, run.edges):
        return False
    others = (x for x in plan.surface.lines if x.kind in ("hip", "valley"))
    a, b = ends[0][:2], ends[1][:2]
    met = [end[:2] for hip, end in zip(hips, ends, strict=True) if hip]
    return all(
        to_segment(p[:2], a, b) > NEAR or any(distance(p[:2], at) < NEAR for at in met)
        for x in others
        for p in (x.start, x.end)
    )


def _over_gable(plan: SurfacePlan, at: Point) -> bool:
    core = plan.outline.core
    gables = [(core[k], core[(k + 1) % len(core)]) for k in range(len(core)) if plan.edges[k].kind in ("gable", "wall")]
    return min((to_segment(at, *wall) for wall in gables), default=math.inf) <= NEAR


def _with_hips(plan: SurfacePlan, run: LineRun, at: Point) -> bool:
    """Whether two hips and nothing else come to an end of a ridge."""
    come = [
        x
        for i, x in enumerate(plan.surface.lines)
        if i not in run.numbers
        and x.kind in ("ridge", "hip", "valley")
        and min(distance(x.start[:2], at), distance(x.end[:2], at)) < NEAR
    ]
    return len(come) == 2 and all(x.kind == "hip" and {*x.edges} & {*run.edges} for x in come)


def past_hips(plan: SurfacePlan, m: RoofMember, breadth: float) -> tuple[float, float]:
    """Return how far a beam so thick under the rafters runs on past both ends of its ridge, mm: past those to which hips come."""
    run = next((one for one in beams_under(plan) if frozenset(one.edges) == frozenset(m.edges)), None)
    if run is None:
        return 0.0, 0.0
    first, last = (breadth / 2.0 if _with_hips(plan, run, end[:2]) else 0.0 for end in (m.start, m.end))
    return first, last


def bears_on(plan: SurfacePlan, m: RoofMember) -> tuple[int, ...]:
    """Return the edges of the ridge on whose beam a hip bears with its head; none where it bears on none."""
    if m.role != "hip":
        return ()
    at = m.end[:2]
    for run in beams_under(plan):
        if min(distance(at, run.line.start[:2]), distance(at, run.line.end[:2])) < NEAR and _with_hips(plan, run, at):
            return run.edges
    return ()


def _both_find_room(plan: SurfacePlan, edges: tuple[int, ...]) -> bool:
    """Whether rafters of unlike pitches bear as long as they must on any of the beams there are to choose from, none notched too deep."""
    meeting = [{*x.edges} for x in plan.surface.lines if x.kind == "ridge" and {*x.edges} & {*edges}]
    alone = all(x <= {*edges} for x in meeting)  # no plane of theirs meets others at another ridge
    return alone and all(
        under_drop(plan, edges, thick) <= min(_wants(plan, e, thick)[2] for e in edges) for thick in _thick(plan)
    )


def _thick(plan: SurfacePlan) -> list[float]:
    typed = plan.roof.ridge_size
    return [section(size).breadth for size in ((typed,) if typed is not None else RIDGE_BEAMS)]


def lowest_drop(plan: SurfacePlan, edges: Sequence[int]) -> float:
    """Return how far below the line of its planes the upper face of a beam under rafters lies at least, by those there are to choose from, mm."""
    return min(under_drop(plan, edges, thick) for thick in _thick(plan))


def _wants(plan: SurfacePlan, edge: int, breadth: float) -> tuple[float, float, float]:
    """Return how far below the line of the planes the upper face of a beam so thick lies for rafters of a plane, mm: where they bear on half of it
    all along; at least, so that no notch is deeper than a quarter of them (IRC R802.7.1); at most, so that they bear on 1 1/2 in.
    """
    pitch, depth = plan.edges[edge].pitch, section(plan.roof.rafters.size or USUAL).depth
    flush, half = depth * math.hypot(1.0, pitch), breadth / 2.0
    return flush, flush + pitch * (half - deepest_seat(depth, pitch, FAR)), flush + pitch * (half - LEAST)


def _meeting(plan: SurfacePlan, edge: int) -> tuple[int, ...]:
    """Return the edges whose planes meet at the ridge over a beam under the rafters of one: by that alone where all are of one pitch."""
    pitches = {round(e.pitch / ALIKE) for e in plan.edges if e.kind == "eave"}
    found = {e for edges in under_edges(plan) if edge in edges for e in edges} if len(pitches) > 1 else set()
    return tuple(sorted(found)) or (edge,)


def head_seat(plan: SurfacePlan, edge: int, breadth: float) -> float:
    """Return how long the seat of a rafter of an edge's plane on a beam so thick under its head is, level, mm: half of that, no deeper than
    a quarter of the rafter (IRC R802.7.1); less where it lies higher than rafters of another pitch that it meets there.
    """
    over = under_drop(plan, _meeting(plan, edge), breadth) - _wants(plan, edge, breadth)[0]
    return max(breadth / 2.0 - max(over, 0.0) / plan.edges[edge].pitch, 0.0)


def seats_between(plan: SurfacePlan, edge: int) -> tuple[float, float]:
    """Return the shortest and the longest that seat may come to be, by the beams there are to choose from, mm."""
    thick = _thick(plan)
    return head_seat(plan, edge, min(thick)), head_seat(plan, edge, max(thick))


def resting(plan: SurfacePlan, edge: int, rafter: str, breadth: float) -> tuple[float, float]:
    """Return how long a rafter of a section bears on a beam so thick under its head, and how deep it is notched for that, square to it, mm:
    one that is shallower than the roof's own hangs over it.
    """
    pitch, depth = plan.edges[edge].pitch, section(rafter).depth
    steep = math.hypot(1.0, pitch)
    above = under_drop(plan, _meeting(plan, edge), breadth) - depth * steep
    seat = breadth / 2.0 - max(above, 0.0) / pitch
    return seat, (pitch * breadth / 2.0 - above) / steep


def under_drop(plan: SurfacePlan, edges: Sequence[int], breadth: float) -> float:
    """Return how far the upper face of a beam so thick lies below the line of the planes, mm; ``edges``: those of its planes.  Of two pitches the
    steeper rafters are notched deeper, so that the others bear on half of it, as far as a quarter of them allows.
    """
    wants = [_wants(plan, edge, breadth) for edge in edges]
    return max(min(flush for flush, _, _ in wants), max(least for _, least, _ in wants))
