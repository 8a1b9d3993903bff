"""Where rafters stand along the eaves of a roof: on centre, at walls that run up, at the tops of hips, meeting at hips as asked."""

import itertools
import math
from collections.abc import Sequence
from typing import NamedTuple

from balken.geometry.plane import Point, distance, dot, sub, unit
from balken.geometry.roof_edges import RoofEdge, runs_up
from balken.geometry.roof_surface import RoofFace, RoofLine, RoofSurface
from balken.model.kinds.roof import Jacks
from balken.units.system import INCH

THICK = 1.5 * INCH
"""Thickness of rafters, ridges, hips and valleys, mm."""
OVER = 1.0
"""A gap wider by more than this than the spacing takes one rafter more, mm."""
ALONG = 0.05
"""A line that runs along an eave by less than this part of its length has no jacks on it."""


class RafterSpacing(NamedTuple):
    """How rafters are set out: their spacing; how far from the first corner of each edge they begin; whether a common rafter stands on
    each plane at the top of a hip; how jacks meet; how near to those that are fixed others may come.  Lengths in mm.
    """

    spacing: float
    begins: tuple[float, ...] = ()
    full: bool = False
    jacks: Jacks = "set out"
    least: float = 0.0


def stations(
    surface: RoofSurface, outline: Sequence[Point], edges: Sequence[RoofEdge], how: RafterSpacing
) -> dict[int, list[float]]:
    """Return for the edge of each plane how far along it from its first corner rafters stand, mm."""
    beside: dict[int, list[RoofLine]] = {}
    for line in surface.lines:
        for edge in {*line.edges}:
            beside.setdefault(edge, []).append(line)
    ends = list(itertools.pairwise([*outline, outline[0]]))
    ways = [unit(p, q) for p, q in ends]
    found = {}
    for face in surface.faces:
        eave = _Eave(face.edge, ends[face.edge][0], ways[face.edge], distance(*ends[face.edge]), ways)
        found[face.edge] = _of_face(eave, face, beside.get(face.edge, []), edges, how)
    return found


class _Eave(NamedTuple):
    """An edge of the outline: its number, first corner, way, length, all ways of the outline."""

    number: int
    corner: Point
    way: Point
    long: float
    ways: Sequence[Point]

    def along(self, at: Sequence[float]) -> float:
        """Return how far along it a place lies."""
        return dot(self.way, sub((at[0], at[1]), self.corner))


def _of_face(
    eave: _Eave, face: RoofFace, lines: list[RoofLine], edges: Sequence[RoofEdge], how: RafterSpacing
) -> list[float]:
    along = [eave.along(p) for p in face.ring]
    ends, centred = _on_centre(eave, (min(along), max(along)), edges, how)
    tops: list[float] = []
    if how.full or how.jacks != "set out":
        kinds = ("hip",) if how.jacks == "set out" else ("hip", "valley")
        tops = [eave.along(max(x.start, x.end, key=lambda p: p[2])) for x in lines if x.kind in kinds]
    if how.jacks != "set out":
        ranges, meeting = _at_lines(eave, lines, how)
        centred = [at for at in centred if not any(low < at < high for low, high in ranges)] + meeting
    return _filled(_kept(ends, tops, centred, how.least), (min(along), max(along)), how.spacing)


def _on_centre(
    eave: _Eave, ends_at: tuple[float, float], edges: Sequence[RoofEdge], how: RafterSpacing
) -> tuple[list[float], list[float]]:
    """Return where rafters stand beside walls that run up at the ends of an edge, and on centre from where they begin."""
    n, half, edge, long = len(edges), THICK / 2.0, eave.number, eave.long
    ends = [half] if runs_up(edges, edge, edge - 1) else []
    if runs_up(edges, edge, edge + 1):
        ends.append(long - half)
    begin = how.begins[edge] if how.begins else 0.0
    low, high = ((at - begin) / how.spacing for at in ends_at)
    places = (begin + k * how.spacing for k in range(math.ceil(low - 1e-9), math.floor(high + 1e-9) + 1))
    # At its first corner there is none but where its plane runs on beyond that.
    found = [at for at in places if abs(at) > 1e-6 or edges[edge - 1].kind == "roof" or ends_at[0] < -OVER]
    # Beside a roof that it runs on over, the last one stands before that roof's wall, not in it.
    beside = [
        corner + way * THICK
        for corner, way, k in ((0.0, 1.0, edge - 1), (long, -1.0, (edge + 1) % n))
        if edges[k].kind == "roof"
    ]
    return ends, [next((b for b in beside if abs(b - at) < 2.0 * THICK), at) for at in found]


def _at_lines(eave: _Eave, lines: list[RoofLine], how: RafterSpacing) -> tuple[list[tuple[float, float]], list[float]]:
    """Return the stretches of an edge before hips and valleys, and where jacks stand there: from the top of each down, their steps along
    it alike on both sides, neither wider than the spacing; staggered, those of one side half a step on.
    """
    ranges: list[tuple[float, float]] = []
    found: list[float] = []
    for line in sorted((x for x in lines if x.kind in ("hip", "valley")), key=lambda x: x.kind):
        low, high = sorted((line.start, line.end), key=lambda p: p[2])
        way = unit(high[:2], low[:2])
        parts = {edge: abs(dot(way, eave.ways[edge])) for edge in line.edges if edge >= 0}
        if parts[eave.number] < ALONG:
            continue
        step = how.spacing / max(parts.values())
        first = step if how.jacks == "pairs" or eave.number == min(parts) else step / 2.0
        top, on = eave.along(high), dot(way, eave.way)
        count = math.floor((distance(low[:2], high[:2]) - first) / step + 1e-9) + 1
        stands = [top + (first + k * step) * on for k in range(max(count, 0))]
        found += [at for at in stands if not any(a < at < b for a, b in ranges)]
        ends = top, eave.along(low)
        ranges.append((min(ends), max(ends)))
    return ranges, found


def _kept(ends: list[float], tops: list[float], others: list[float], least: float) -> list[float]:
    """Return them all in order: none of the others nearer than ``least`` to one before it in rank, none in one another."""
    kept = list(ends)
    for group, apart in ((tops, THICK), (others, max(THICK, least))):
        for at in sorted(group):
            if all(abs(at - other) > apart for other in kept):
                kept.append(at)
    return sorted(kept)


def _filled(found: list[float], reach: tuple[float, float], spacing: float) -> list[float]:
    """Return them with more between two that are farther apart than the spacing, evenly, and so from them to where the plane ends."""
    bounds = [reach[0], *(at for at in found if reach[0] < at < reach[1]), reach[1]]
    more = [
        a + (b - a) * k / parts
        for a, b in itertools.pairwise(bounds)
        for parts in (math.ceil((b - a - OVER) / spacing),)
        for k in range(1, parts)
    ]
    return sorted([*found, *more])
