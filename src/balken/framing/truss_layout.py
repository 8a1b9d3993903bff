"""Trusses under a roof of planes: where they stand, what they fill, how wide a strip of roof and of ceiling each carries.

They stand square to two eaves opposite one another, under one ridge, or to the one eave of a single slope; over a gable wall stands a
frame that the wall carries all along.
What other roofs have (hips, valleys, open sides) is told, and stays framed with rafters.
"""

import itertools
import math
from typing import NamedTuple

from balken.framing.frames import Frame
from balken.framing.surface_roofs import SurfacePlan
from balken.framing.truss_outline import Bearing, TrussOutline
from balken.geometry.plane import Point, dot, left, sub, unit
from balken.model.kinds.trusses import Trusses
from balken.units.system import INCH
from balken.value import Value

SQUARE = 0.01
"""Ends of a roof are square to its eaves where the cosine between them is no more."""
BOARD = 1.5 * INCH
"""Thickness of each ply of a truss, mm."""
LEAST_GAP = 6.0 * INCH
"""The last truss stands no closer to the end frame, mm (it is left out)."""


class TrussPlace(Value, frozen=True):
    """A truss in a roof: how far along its eaves its middle stands (t), the strips of roof and of ceiling it carries, mm along t;
    ``gable``: the wall that carries it all along, or "".
    """

    t: float
    roof: tuple[float, float]
    ceiling: tuple[float, float]
    gable: str = ""


class TrussRow(NamedTuple):
    """Trusses under a roof: s of ``frame`` runs from the outer face of the first eave's wall (at ``start``) to the other's.

    ``eaves``: numbers of both edges; ``walls``: under them; ``wide``: from outer face to outer face, ``spacing`` of trusses, mm.
    """

    frame: Frame
    start: float
    wide: float
    eaves: tuple[int, int]
    walls: tuple[str, str]
    places: tuple[TrussPlace, ...]
    spacing: float

    def at(self, x: float, place: TrussPlace) -> Point:
        """Return a place along a truss in plan."""
        return self.frame.back(self.start + x, place.t)


def why_not(plan: SurfacePlan) -> str:
    """Return why trusses cannot stand under a roof; "" where they can."""
    if plan.problem:
        return plan.problem
    eaves = [k for k, edge in enumerate(plan.edges) if edge.kind == "eave"]
    if any(edge.kind == "roof" for edge in plan.edges):
        return "it runs on over another roof, where valley trusses would be needed, which Balken does not lay"
    single = len(plan.surface.faces) == 1 and len(eaves) == 1
    if not single and (len(plan.surface.faces) != 2 or len(eaves) < 2):
        return "trusses are laid under one slope, or between two eaves opposite one another under one ridge; hips and valleys stay rafters"
    core = plan.outline.core
    ways = {k: unit(core[k], core[(k + 1) % len(core)]) for k in range(len(core))}
    first = ways[plan.surface.faces[0].edge]
    for k, way in ways.items():
        kind = plan.edges[k].kind
        if kind == "eave" and abs(abs(dot(way, first)) - 1.0) > SQUARE:
            return "its eaves do not run alongside one another"
        across = abs(dot(way, first))
        if kind != "eave" and across > SQUARE and not (single and abs(across - 1.0) <= SQUARE):
            return "its ends are not square to its eaves"
    if single and len(core) == 4 and plan.edges[(eaves[0] + 2) % 4].kind != "gable":
        return "its high side stands against a taller wall, on which no bearing for trusses is made: make that side a gable"
    if len(core) != 4:
        return "trusses are laid over rectangles; where its walls step back it stays framed with rafters"
    if plan.covered:
        return "another roof runs on over it, whose feet trusses are not designed for"
    return ""


def truss_row(plan: SurfacePlan, spacing: float, thick: float) -> TrussRow:
    """Lay trusses under a roof for which ``why_not`` has nothing to say; ``spacing``, ``thick``: of one, mm."""
    core, n = plan.outline.core, len(plan.outline.core)
    one = plan.surface.faces[0].edge
    other = plan.surface.faces[1].edge if len(plan.surface.faces) == 2 else (one + 2) % n
    a, b = core[one], core[(one + 1) % n]
    inward = left(unit(a, b))
    frame = Frame(round(math.degrees(math.atan2(inward[1], inward[0])), 9))
    start = frame.to(a)[0]
    wide = abs(dot(inward, sub(core[other], a)))
    low, high = sorted((frame.to(a)[1], frame.to(b)[1]))
    ends = {}
    for k in range(n):
        if k not in (one, other):
            middle = (frame.to(core[k])[1] + frame.to(core[(k + 1) % n])[1]) / 2.0
            ends[abs(middle - low) < abs(middle - high)] = k
    gables = [plan.outline.walls[ends[end]] if plan.edges[ends[end]].kind == "gable" else "" for end in (True, False)]
    over = [plan.overhangs[ends[end]] for end in (True, False)]
    ts = _stations(low, high, spacing, thick, plan.roof.set_out == "middle")
    cuts = [(x + y) / 2.0 for x, y in itertools.pairwise(ts)]
    roofs = list(itertools.pairwise([low - over[0], *cuts, high + over[1]]))
    ceilings = list(itertools.pairwise([low, *cuts, high]))
    on = [gables[0], *([""] * (len(ts) - 2)), gables[1]]
    places = tuple(
        TrussPlace(t, roof, ceiling, wall) for t, roof, ceiling, wall in zip(ts, roofs, ceilings, on, strict=True)
    )
    return TrussRow(
        frame, start, wide, (one, other), (plan.outline.walls[one], plan.outline.walls[other]), places, spacing
    )


def _stations(low: float, high: float, spacing: float, thick: float, alike: bool) -> list[float]:
    """Return where trusses stand: one at each end, its outer face flush, the others at a spacing from the first end, or from the middle."""
    first, last = low + thick / 2.0, high - thick / 2.0
    if alike:
        count = max(math.ceil((high - low) / spacing - 1e-9) - 1, 0)
        begin = (low + high) / 2.0 - spacing * (count - 1) / 2.0
    else:
        count, begin = math.ceil((high - low) / spacing - 1e-9) - 1, low + spacing
    between = [begin + k * spacing for k in range(max(count, 0))]
    return [first, *(t for t in between if first + LEAST_GAP <= t <= last - LEAST_GAP), last]


def is_single(plan: SurfacePlan) -> bool:
    """Whether a roof is of one slope."""
    return len(plan.surface.faces) == 1


def slopes_of(plan: SurfacePlan, row: TrussRow) -> tuple[float, float]:
    """Return the pitches over both walls of a row: of a single slope its own twice."""
    one, other = row.eaves
    return plan.edges[one].pitch, plan.edges[one if is_single(plan) else other].pitch


def ridge_of(plan: SurfacePlan, row: TrussRow) -> float:
    """Return where the peak lies along a truss, mm: where both slopes meet; of a single slope past its end."""
    p0, p1 = slopes_of(plan, row)
    return math.inf if is_single(plan) else row.wide * p1 / (p0 + p1)


def outline_of(plan: SurfacePlan, row: TrussRow, heel: float, trusses: Trusses) -> TrussOutline:
    """Return what trusses of a row fill: the roof's surface cut square to its eaves, over the ceiling."""
    p0, p1 = slopes_of(plan, row)
    over0, over1 = (plan.overhangs[k] for k in row.eaves)
    lengths = [2.0 * plan.deep[k] for k in row.eaves]
    bearings = Bearing(0.0, lengths[0]), Bearing(row.wide - lengths[1], row.wide)
    level = ((0.0, 0.0), (row.wide, 0.0))
    if is_single(plan):
        high = row.wide + over1
        return _tidy(((-over0, heel - p0 * over0), (high, heel + p0 * high)), level, bearings)
    ridge = ridge_of(plan, row)
    top = ((-over0, heel - p0 * over0), (ridge, heel + p0 * ridge), (row.wide + over1, heel - p1 * over1))
    lower = trusses.bottom_pitch
    if lower <= 0.0:
        return _tidy(top, level, bearings)
    sinks = -lower * max(lengths)
    middle = row.wide / 2.0
    return _tidy(top, ((0.0, sinks), (middle, sinks + lower * middle), (row.wide, sinks)), bearings)


def _tidy(top: tuple[Point, ...], bottom: tuple[Point, ...], bearings: tuple[Bearing, ...]) -> TrussOutline:
    """Return an outline to a millionth of a mm: what only moves is the same."""

    def even(line: tuple[Point, ...]) -> tuple[Point, ...]:
        return tuple((round(x, 6), round(y, 6)) for x, y in line)

    return TrussOutline(
        even(top), even(bottom), tuple(Bearing(round(b.low, 6), round(b.high, 6), b.level) for b in bearings)
    )
