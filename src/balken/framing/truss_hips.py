"""What closes a hip end under trusses: jacks from the end wall to the hip girder; at both corners a girder under the hip, which hangs on
the hip girder too, with jacks from both eaves to it.

Plan coordinates of a hip end: x along the hip girder from the first eave's outer face, u inward from the end's outer face, mm.
"""

import itertools
import math
from typing import NamedTuple

import numpy as np
import shapely
from numpy.typing import NDArray

from balken.framing.frames import Frame
from balken.framing.surface_roofs import SurfacePlan
from balken.framing.truss_layout import (
    BESIDE,
    BOARD,
    LEAST_GAP,
    LEAST_TAIL,
    SEAT,
    HipEnd,
    TrussPlace,
    TrussRow,
    slopes_of,
    tail_end,
    tidy,
)
from balken.framing.truss_outline import Bearing, TrussOutline
from balken.framing.trusses import SHORTEST
from balken.geometry.plane import Point, distance, unit
from balken.model.naming import piece_name
from balken.units.system import INCH

CLEAR = 6.0 * INCH
"""Jacks stand so far beside a corner girder's end, from middle to middle, mm."""
FAR = 1e6
NOTHING = shapely.Polygon()
Array = NDArray[np.float64]


class Opening(NamedTuple):
    """Where a wing comes in beside a hip end: from where to where inward of that, mm; how far out a valley runs there a mm along the eave."""

    low: float
    high: float
    ratios: tuple[float, float]
    walled: bool = False
    """Whether a wall runs on there, on which jacks bear."""


class Joins(NamedTuple):
    """How wings come in beside a hip end: at each eave, what its plane is in plan, and what of those of wings covers what runs on under them."""

    openings: tuple[tuple[Opening, ...], tuple[Opening, ...]]
    planes: tuple[shapely.Geometry, shapely.Geometry]
    covered: tuple[shapely.Geometry, shapely.Geometry]


class HungTruss(NamedTuple):
    """A jack or corner girder: its place, where its hung end meets its carrier (x along that), by which name that is known among those of
    its roof; its own name; how long it is from outer face to hung end, how far its top chord runs out, mm; its pitch.
    """

    name: str
    place: TrussPlace
    on: str
    x: float
    long: float
    over: float
    pitch: float
    drop: float = 0.0
    """How much lower its top lies than the planes' line over it: a hip whose edges meet the planes, mm."""
    parts: tuple[tuple[int, float], ...] = ()
    """Of which planes it carries how much, mm2, where there are several."""
    begins: float = 0.0
    """How far in of the corner it begins, clear of the girder of a wing beside it, mm."""
    bare: float = 0.0
    """How much of its (last) plane another part of the roof covers, mm2."""


class HipFraming(NamedTuple):
    """A hip end framed: the place of its girder in the row, what hangs, what the girder carries beside its own strip: of the planes of
    both eaves, and of the ceiling, mm2.
    """

    hip: HipEnd
    girder: int
    hung: tuple[HungTruss, ...]
    beside: tuple[float, float]
    ceiling: float
    bare: tuple[float, float] = (0.0, 0.0)
    """What of the planes beside it other parts of the roof cover, mm2."""


def girder_name(hip: HipEnd) -> str:
    """Return by which name a hip girder is known among its roof's trusses."""
    return piece_name("girder", hip.edge)


class _End:
    """A hip end in its own coordinates: u inward, x along; both corners with their hip lines."""

    def __init__(
        self,
        plan: SurfacePlan,
        row: TrussRow,
        hip: HipEnd,
        spacing: float,
        plies: int,
        joins: "Joins | None",
    ) -> None:
        self.plan, self.row, self.hip, self.spacing = plan, row, hip, spacing
        self.openings = joins.openings if joins is not None else ((), ())
        self.flush = tuple(any(one.low < 1.0 for one in of) for of in self.openings)
        self.pitches = slopes_of(plan, row)
        self.overs = tuple(0.0 if flush else plan.overhangs[k] for k, flush in zip(row.eaves, self.flush, strict=True))
        self.covered = tuple(self._local(of) for of in joins.covered) if joins is not None else (NOTHING, NOTHING)
        planes = (self._local(of) for of in joins.planes) if joins is not None else ()
        # What of both eaves' planes is there: their own, and what runs on under a wing's.
        self.there = tuple(shapely.union_all([of, over]) for of, over in zip(planes, self.covered, strict=False))
        self.half = BOARD * plies / 2.0
        self.back = hip.set_back
        # Where both hip lines meet the girder's face.
        self.ends = hip.pitch * self.back / self.pitches[0], row.wide - hip.pitch * self.back / self.pitches[1]

    def begins(self, side: int) -> float:
        """Return how far in of the corner a corner girder begins: where another truss stands beside it, clear of that, mm."""
        if not self.flush[side]:
            return 0.0
        across = abs(self.ends[0] if side == 0 else self.row.wide - self.ends[1])
        return self.half * self.back / across

    def opening(self, side: int, u: float) -> Opening | None:
        """Return the wing that comes in where a jack from an eave stands."""
        return next((one for one in self.openings[side] if one.low - 1.0 <= u <= one.high + 1.0), None)

    def bears(self, side: int, u: float) -> bool:
        """Whether there is a wall under the foot of a jack from an eave: else it hangs on the girder of a wing."""
        found = self.opening(side, u)
        return found is None or found.walled

    def tail(self, side: int, u: float) -> float:
        """Return how far a jack from an eave runs out, mm: beside a wing as far as its valley."""
        whole = self.plan.overhangs[self.row.eaves[side]]
        tail = 0.0 if self.opening(side, u) is not None else whole
        for one in self.openings[side]:
            for at, ratio in zip((one.low, one.high), one.ratios, strict=True):
                tail = min(tail, max((abs(u - at) - BOARD / 2.0 - BESIDE) * ratio, 0.0))
        return tail if tail >= LEAST_TAIL or tail == whole else 0.0

    def _local(self, shape: shapely.Geometry) -> shapely.Geometry:
        return shapely.transform(shape, self._own) if not shape.is_empty else shape

    def _own(self, points: Array) -> Array:
        """Return places of the plan in its own coordinates."""
        low, high = self.row.along
        s, t = (points @ np.array(way) for way in (self.row.frame.s, self.row.frame.t))
        return np.stack([s - self.row.start, t - low if self.hip.first else high - t], axis=1)

    def plan_of(self, x: float, u: float) -> Point:
        """Return a place of the roof's plan."""
        low, high = self.row.along
        return self.row.frame.back(self.row.start + x, low + u if self.hip.first else high - u)

    def lies(self, a: Point, b: Point) -> tuple[Frame, float, float]:
        """Return the frame of a line from a to b (x, u), its start and t."""
        p, q = self.plan_of(*a), self.plan_of(*b)
        way = unit(p, q)
        frame = Frame(round(math.degrees(math.atan2(way[1], way[0])), 9))
        start, t = frame.to(p)
        return frame, start, t

    def regions(self, over: bool) -> tuple[shapely.Polygon, shapely.Polygon, shapely.Polygon]:
        """Return what lies under the end's plane and under those of both eaves in front of the girder, with overhangs or within walls."""
        wide, rate = self.row.wide, (self.hip.pitch / self.pitches[0], self.hip.pitch / self.pitches[1])
        low = -self.hip.over if over else 0.0
        x0, x1 = (
            (-self.plan.overhangs[self.row.eaves[0]], wide + self.plan.overhangs[self.row.eaves[1]])
            if over
            else (0.0, wide)
        )
        whole = shapely.box(x0, low, x1, self.back)
        # Under an eave's plane lies what is beyond the hip line x = rate u.
        left = shapely.Polygon([(low * rate[0], low), (self.back * rate[0], self.back), (-FAR, self.back), (-FAR, low)])
        right = shapely.Polygon(
            [
                (wide - low * rate[1], low),
                (wide + FAR, low),
                (wide + FAR, self.back),
                (wide - self.back * rate[1], self.back),
            ]
        )
        sides = whole.intersection(left), whole.intersection(right)
        middle = whole.difference(shapely.union_all(sides))
        if over and self.there:
            # Beside a flush wing the end's own plane runs on over that.
            middle = middle.intersection(shapely.box(-self.overs[0], -FAR, wide + self.overs[1], FAR))
            sides = sides[0].intersection(self.there[0]), sides[1].intersection(self.there[1])
        return middle, *sides

    def strip(self, region: shapely.Polygon, low: float, high: float, along_x: bool) -> float:
        """Return how much of a region lies between two places, mm2."""
        box = shapely.box(low, -FAR, high, FAR) if along_x else shapely.box(-FAR, low, FAR, high)
        return float(region.intersection(box).area)


def hip_framing(
    plan: SurfacePlan,
    row: TrussRow,
    hip: HipEnd,
    spacing: float,
    plies: int,
    joins: Joins | None = None,
) -> HipFraming:
    """Lay what hangs at a hip end; ``plies``: of its girders, ``joins``: how wings come in beside it."""
    end = _End(plan, row, hip, spacing, plies, joins)
    roof, ceiling = end.regions(True), end.regions(False)
    bare = [side.intersection(over) for side, over in zip(roof[1:], end.covered, strict=True)]
    xs, ups = _stations(end)
    hung, beside, under, lost = list[HungTruss](), [0.0, 0.0], 0.0, [0.0, 0.0]
    cuts = [
        -FAR,
        xs[0] / 2.0,
        *((a + b) / 2.0 for a, b in itertools.pairwise(xs)),
        (xs[-1] + row.wide) / 2.0,
        FAR,
    ]
    for k, x in enumerate(xs):
        areas = tuple(end.strip(of[0], cuts[k + 1], cuts[k + 2], True) for of in (roof, ceiling))
        hung.append(_end_jack(end, x, (areas[0], areas[1])))
    for side in (0, 1):
        shares = [end.strip(roof[0], *((cuts[0], cuts[1]) if side == 0 else (cuts[-2], cuts[-1])), True)]
        inside = end.strip(ceiling[0], *((cuts[0], cuts[1]) if side == 0 else (cuts[-2], cuts[-1])), True)
        us = ups[side]
        breaks = [-FAR, us[0] / 2.0 if us else end.back / 2.0]
        breaks += [
            *((a + b) / 2.0 for a, b in itertools.pairwise(us)),
            *([(us[-1] + end.back) / 2.0] if us else []),
            FAR,
        ]
        for k, u in enumerate(us):
            areas = tuple(end.strip(of[1 + side], breaks[k + 1], breaks[k + 2], False) for of in (roof, ceiling))
            covers = end.strip(bare[side], breaks[k + 1], breaks[k + 2], False)
            hung.append(_side_jack(end, side, u, (areas[0], areas[1]), covers))
        lost[side] = end.strip(bare[side], breaks[-2], breaks[-1], False)
        beside[side] = end.strip(roof[1 + side], breaks[-2], breaks[-1], False)
        under += end.strip(ceiling[1 + side], breaks[-2], breaks[-1], False)
        shares.append(end.strip(roof[1 + side], breaks[0], breaks[1], False))
        inside += end.strip(ceiling[1 + side], breaks[0], breaks[1], False)
        covers = end.strip(bare[side], breaks[0], breaks[1], False)
        hung.append(_corner(end, side, (shares[0], shares[1]), inside, covers))
    girder = 0 if hip.first else len(row.places) - 1
    return HipFraming(hip, girder, tuple(hung), (beside[0], beside[1]), under, (lost[0], lost[1]))


def _stations(end: _End) -> tuple[list[float], tuple[list[float], list[float]]]:
    """Return where jacks stand, no farther apart than asked for: along the end wall, along both eaves.

    Those beside a corner girder's hanger stand clear of it.
    """
    wide, (x0, x1) = end.row.wide, end.ends
    low, high = x0 + CLEAR, x1 - CLEAR
    if high - low < CLEAR:  # both corner girders hang close together
        low = high = (x0 + x1) / 2.0
    lefts = [x for x in _shared(low, end.spacing) if _length(end, 0, x, along_end=True) >= SHORTEST]
    rights = [wide - x for x in _shared(wide - high, end.spacing) if _length(end, 1, x, along_end=True) >= SHORTEST]
    count = math.ceil((high - low) / end.spacing - 1e-9)
    between = [low + k * end.spacing for k in range(count)]
    if between and high - between[-1] < LEAST_GAP:
        between.pop()
    ups = tuple(
        [u for u in _shared(end.back, end.spacing) if _length(end, side, u, along_end=False) >= SHORTEST]
        for side in (0, 1)
    )
    return [*lefts, *between, high, *reversed(rights)], (ups[0], ups[1])


def _shared(reach: float, spacing: float) -> list[float]:
    """Return places between nothing and a reach, evenly, no farther apart than a spacing."""
    count = math.ceil(reach / spacing - 1e-9)
    return [reach * k / count for k in range(1, count)]


def _length(end: _End, side: int, offset: float, along_end: bool) -> float:
    """Return how long a jack is that ends at a corner girder: to its face, square cut; ``offset``: from the corner."""
    rate = end.hip.pitch / end.pitches[side]  # x a u of the hip line
    reach = offset / rate if along_end else offset * rate
    # Between the jack and the hip in plan: the jack runs along u (x) there.
    turn = math.atan(rate) if along_end else math.atan(1.0 / rate)
    return reach - end.half / math.sin(turn) - BOARD / 2.0 / math.tan(turn)


def _end_jack(end: _End, x: float, areas: tuple[float, float]) -> HungTruss:
    x0, x1 = end.ends
    side = 0 if x < x0 else 1 if x > x1 else None
    if side is None:
        long, on, at = end.back, girder_name(end.hip), x
    else:
        offset = x if side == 0 else end.row.wide - x
        long, on = _length(end, side, offset, along_end=True), _corner_name(end, side)
        at = math.hypot(offset, offset * end.pitches[side] / end.hip.pitch) - end.begins(side)
    frame, start, t = end.lies((x, 0.0), (x, end.back))
    wall = end.plan.outline.walls[end.hip.edge]
    half = end.spacing / 2.0
    place = TrussPlace(
        "jack", frame, start, t, (wall, ""), (t - half, t + half), (t - half, t + half), areas=areas, edge=end.hip.edge
    )
    name = piece_name("jack", end.hip.edge, round(x))
    return HungTruss(name, place, on, at, long, end.hip.over, end.hip.pitch)


def _side_jack(end: _End, side: int, u: float, areas: tuple[float, float], bare: float) -> HungTruss:
    edge, row = end.row.eaves[side], end.row
    rate = end.hip.pitch / end.pitches[side]
    begin = 0.0 if side == 0 else row.wide
    frame, start, t = end.lies((begin, u), (row.wide - begin, u))
    half = end.spacing / 2.0
    place = TrussPlace(
        "jack",
        frame,
        start,
        t,
        (row.walls[side] if end.bears(side, u) else "", ""),
        (t - half, t + half),
        (t - half, t + half),
        areas=areas,
        edge=edge,
    )
    return HungTruss(
        piece_name("jack", edge, end.hip.edge, round(u)), place, _corner_name(end, side), math.hypot(u, u * rate) - end.begins(side),
        _length(end, side, u, along_end=False), end.tail(side, u), end.pitches[side], bare=bare,
    )  # fmt: skip


def _corner_name(end: _End, side: int) -> str:
    return piece_name("corner", end.hip.edge, side)


def _corner(end: _End, side: int, shares: tuple[float, float], inside: float, bare: float) -> HungTruss:
    """Lay the girder under a hip: from the corner of the walls to the hip girder, dropped so that its edges meet both planes."""
    row, x = end.row, end.ends[side]
    corner = (0.0, 0.0) if side == 0 else (row.wide, 0.0)
    reach = abs(x - corner[0])
    whole = math.hypot(reach, end.back)
    frame, start, t = end.lies(corner, (x, end.back))
    begins = end.begins(side)
    across, along = reach / whole, end.back / whole
    # Square at its end, the corners of its tail stay within both eaves.
    over = min((end.hip.over - end.half * across) / along, (end.overs[side] - end.half * along) / across)
    over = max(over, 0.0)
    # Its end is cut square on its hanger, clear of the hip girder's face.
    long = whole - begins - end.half * across / along
    edge = row.eaves[side]
    place = TrussPlace(
        "corner", frame, start + begins, t, (end.plan.outline.walls[end.hip.edge], ""), (t - end.half, t + end.half), (t - end.half, t + end.half),
        areas=(sum(shares), inside), edge=end.hip.edge,
    )  # fmt: skip
    drop = end.half * max(end.hip.pitch * across, end.pitches[side] * along) - end.hip.pitch * along * begins
    return HungTruss(
        _corner_name(end, side), place, girder_name(end.hip), x, long, over, end.hip.pitch * along, drop,
        ((end.hip.edge, shares[0]), (edge, shares[1])), begins, bare,
    )  # fmt: skip


def hung_outline(plan: SurfacePlan, one: HungTruss, heel: float) -> TrussOutline:
    """Return what a jack or corner girder fills; it bears on its wall and hangs at its higher end."""
    first = heel - one.drop
    deep = 2.0 * plan.deep[one.place.edge] if one.place.walls[0] else SEAT
    if one.place.make == "corner":
        a, b = one.parts[0][0], one.parts[1][0]
        deep = min(2.0 * plan.deep[a] * _stretch(one, plan), math.hypot(2.0 * plan.deep[a], 2.0 * plan.deep[b]))
        deep -= one.begins
    top = ((-one.over, first - one.pitch * one.over), (one.long, first + one.pitch * one.long))
    edges = tuple(edge for edge, _ in one.parts) if one.place.make == "corner" else (one.place.edge,)
    bearings = (
        Bearing(0.0, deep, widens=bool(one.place.walls[0]) and one.place.make != "corner"),
        Bearing(max(one.long - SEAT, deep), one.long, widens=False),
    )
    return tidy(top, ((0.0, 0.0), (one.long, 0.0)), bearings, (tail_end(plan, edges, one.over), None))


def _stretch(one: HungTruss, plan: SurfacePlan) -> float:
    """Return how many times its depth a wall is crossed by a corner girder."""
    end = plan.outline.core[one.place.edge], plan.outline.core[(one.place.edge + 1) % len(plan.outline.core)]
    way, wall = unit(one.place.at(0.0), one.place.at(1.0)), unit(*end)
    return 1.0 / max(abs(way[0] * wall[1] - way[1] * wall[0]), 0.2) if distance(*end) > 0.0 else 1.0
