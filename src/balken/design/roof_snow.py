"""Snow on roofs as a standard has it: on every plane, and in drifts and slides beside taller parts."""

from balken.framing.frames import Frame, edge_angle
from balken.framing.outlines import Outline
from balken.framing.surface_roofs import SurfacePlan
from balken.framing.taller_parts import Taller
from balken.geometry.plane import dot, left, sub, unit
from balken.loads.roof_snow import Band, PlaneSnow, RoofSnow
from balken.model.records import Loads, Roof
from balken.standards.standard import Standard


def gable_snow(
    roof: Roof, outline: Outline, bearing: float, taller: tuple[Taller, ...], loads: Loads, standard: Standard
) -> RoofSnow:
    """Return the snow on a gable roof over a rectangle."""
    frame = Frame((edge_angle(outline.core) if roof.ridge is None else roof.ridge) - 90.0)
    across = [s for s, _ in frame.ring(outline.core)]
    half = (max(across) - min(across)) / 2.0
    plane = standard.roof_snow(loads, roof.pitch, half + roof.overhang, False)
    heights = [0.0] * len(outline.core)
    return RoofSnow((plane,), _bands(outline, bearing, [plane] * len(heights), heights, taller, loads, standard))


def surface_snow(plan: SurfacePlan, taller: tuple[Taller, ...], loads: Loads, standard: Standard) -> RoofSnow:
    """Return the snow on a roof of planes."""
    core, n = plan.outline.core, len(plan.outline.core)
    joined = {e for line in plan.surface.lines if line.kind in ("ridge", "hip") for e in line.edges}
    faces = {face.edge: face for face in plan.surface.faces}
    planes, heights = [], []
    for k in range(n):
        inward = left(unit(core[k], core[(k + 1) % n]))
        ring = faces[k].ring if k in faces else ()
        run = max((dot(inward, sub((x, y), core[k])) + plan.overhangs[k] for x, y, _ in ring), default=0.0)
        planes.append(standard.roof_snow(loads, plan.edges[k].pitch, run, k not in joined))
        on_side = [
            z
            for line in plan.surface.lines
            if k in line.edges and line.kind in ("wall", "rake")
            for _, _, z in (line.start, line.end)
        ]
        heights.append(min(on_side, default=0.0))
    return RoofSnow(tuple(planes), _bands(plan.outline, plan.bearing, planes, heights, taller, loads, standard))


def _bands(
    outline: Outline,
    bearing: float,
    planes: list[PlaneSnow],
    heights: list[float],
    taller: tuple[Taller, ...],
    loads: Loads,
    standard: Standard,
) -> tuple[Band, ...]:
    """Return drifts and slides; ``heights``: of the roof over its bearing at each side."""
    if loads.snow_by == "ground":
        return ()
    found = []
    for part in taller:
        core = outline.core
        inward = left(unit(core[part.side], core[(part.side + 1) % len(core)]))
        square = [dot(inward, p) for p in core]
        balanced = min(
            (plane.balanced for plane in planes if plane.run > 0.0), default=0.0
        )  # it leaves the highest free wall
        clear = part.bearing - bearing - heights[part.side]
        peak, wide = standard.snow_drift(loads, part.long, max(square) - min(square), clear, balanced)
        if peak > 0.0:
            found.append(Band(part.start, part.end, inward, peak, wide, True, "drift"))
        if part.eave is not None:
            slides, reach = standard.snow_sliding(loads, *part.eave)
            if slides > 0.0:
                found.append(Band(part.start, part.end, inward, slides, reach, False, "sliding"))
    return tuple(found)
