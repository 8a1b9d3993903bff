"""Where rain runs off a roof of planes: straight down each plane, to its eave, into a valley, or onto the roof below."""

from typing import NamedTuple

from balken.framing.surface_roofs import SurfacePlan, eave
from balken.geometry.plane import area, clipped, dot
from balken.geometry.roof_surface import RoofFace, RoofLine

LEAST = 1000.0
"""Smaller parts are none, mm2."""


class Drains(NamedTuple):
    """What of a roof in plan, with its overhangs, runs off where, mm2: at eaves, by their numbers; at the low ends of valleys, by the numbers
    of those among the lines of the whole surface; onto roofs below.
    """

    eaves: dict[int, float]
    valleys: dict[int, float]
    below: float


def drains(plan: SurfacePlan) -> Drains:
    """Return where rain runs off.

    Every plane is in one piece along its slope, so that what lies over a stretch of its lower side runs down to that.
    """
    eaves, valleys, below = dict[int, float](), dict[int, float](), 0.0
    for face in plan.whole.faces:
        rest = face.plan_area
        for i, line in enumerate(plan.whole.lines):
            if face.edge not in line.edges or line.kind not in ("valley", "laid"):
                continue
            size = _over(plan, face, line)
            rest -= size
            if line.kind == "valley":
                valleys[i] = valleys.get(i, 0.0) + size
            else:
                below += size
        if rest > LEAST:
            eaves[face.edge] = eaves.get(face.edge, 0.0) + rest
    return Drains(eaves, {i: size for i, size in valleys.items() if size > LEAST}, below)


def _over(plan: SurfacePlan, face: RoofFace, line: RoofLine) -> float:
    """Return how much of a plane lies over a stretch of its lower side, mm2."""
    _, way, _ = eave(plan, face.edge)
    low, high = sorted(dot(way, p[:2]) for p in (line.start, line.end))
    ring = clipped(clipped([p[:2] for p in face.ring], way, low), (-way[0], -way[1]), -high)
    return abs(area(ring)) if len(ring) > 2 else 0.0
