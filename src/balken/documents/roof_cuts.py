"""Where sections are cut through roofs that the project's own section does not meet: across their longest ridge, beside its middle."""

from typing import NamedTuple

import shapely

from balken.derived.model import Model
from balken.documents.cross_section import effective_cut
from balken.framing.surface_roofs import SurfacePlan
from balken.geometry.plane import Point, Ring, add, distance, dot, left, sub, unit
from balken.model.records import CutLine

PART = 0.43
"""How far along its ridge a roof is cut: not where a rafter is likely to stand."""
BEYOND = 1200.0
"""So far beyond a roof its section runs, mm."""
WELL_IN = 600.0
"""A section that runs through so much of a roof shows it, mm."""
LETTERS = "TUVWXYZ"


class RoofCut(NamedTuple):
    """A section through a roof: its letter, the roof's name, where it is cut."""

    letter: str
    roof: str
    cut: CutLine


def roof_cuts(model: Model) -> list[RoofCut]:
    """Return sections through roofs of their own, those that the project's section meets left out."""
    main = effective_cut(model)
    met, found = shapely.LineString([main.start, main.end]), list[RoofCut]()
    rows: list[tuple[str, Ring, tuple[Point, Point]]] = [
        (plan.roof.name, plan.outline.core, _ridge(plan))
        for plan in model.surfaces
        if plan.roof.id not in model.dormers and not plan.problem
    ]
    for roof in model.roofs:
        core = roof.outline.core
        ends = roof.frame.back(0.0, roof.t_low), roof.frame.back(0.0, roof.t_high)
        middle = roof.frame.to(_middle(core))[0]
        rows.append((roof.roof.name, core, (add(ends[0], roof.frame.s, middle), add(ends[1], roof.frame.s, middle))))
    for name, core, (a, b) in rows:
        if shapely.Polygon(core).intersection(met).length > WELL_IN or len(found) == len(LETTERS):
            continue
        way, at = unit(a, b), add(a, unit(a, b), PART * distance(a, b))
        across = left(way)
        reach = [dot(across, sub(p, at)) for p in core]
        ends = add(at, across, min(reach) - BEYOND), add(at, across, max(reach) + BEYOND)
        start, end = sorted(ends, key=lambda p: (round(p[0]), round(p[1])))
        found.append(RoofCut(LETTERS[len(found)], name, CutLine(start=start, end=end)))
    return found


def _middle(ring: Ring) -> Point:
    return sum(x for x, _ in ring) / len(ring), sum(y for _, y in ring) / len(ring)


def _ridge(plan: SurfacePlan) -> tuple[Point, Point]:
    """Return the longest ridge of a roof, else its longest eave."""
    for kind in ("ridge", "eave"):
        lines = [line for line in plan.surface.lines if line.kind == kind]
        if lines:
            line = max(lines, key=lambda one: one.length)
            return line.start[:2], line.end[:2]
    return plan.outline.core[0], plan.outline.core[1]
