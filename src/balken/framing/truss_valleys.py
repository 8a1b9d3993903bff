"""Valley trusses: triangles on the deck of a roof's main part, under what of a wing's planes lies over it.

Each lies level along the slope below, as its own eave does, and stands on the trusses there; what it brings to its studs goes to those on
both sides of them by the lever.  Its chords end where they are as far apart as at a butted heel, a little within the valley.  Beyond the
smallest the deck is packed up from that below.
"""

import itertools
import math
from collections.abc import Sequence
from typing import NamedTuple

import shapely

from balken.framing.pieces import EVEN
from balken.framing.surface_roofs import SurfacePlan
from balken.framing.truss_layout import BOARD, LEAST_GAP, SEAT, Over, TrussPlace, TrussRow
from balken.framing.truss_meetings import strip_of
from balken.framing.truss_outline import Bearing, TrussOutline
from balken.framing.truss_parts import Overlay, Part, overlay_of, run_on
from balken.framing.trusses import SHORTEST
from balken.geometry.plane import Point, add, dot, left, sub, unit
from balken.units.system import INCH

FAR = 1e6
LEAST_RISE = 4.0 * INCH
"""Chords of smaller ones would find no room; the deck at the tip of a valley is packed up from that below."""
STUDS = 24.0 * INCH
MOST = 30
"""Studs on another roof stand so far apart, no more than so many beside the peak."""
APART = 50.0
"""Trusses below that are crossed nearer to one another than this are one bearing, mm."""
PARALLEL = 0.2


class Below(NamedTuple):
    """A truss of the main part in plan: its number, where it begins, its way, how long it is, mm."""

    number: int
    start: Point
    way: Point
    long: float


class Crossed(NamedTuple):
    """A truss below where a valley truss crosses it: how far along that, and along it, mm; its number."""

    x: float
    along: float
    number: int


class Valley(NamedTuple):
    """A valley truss: its place, what it fills; the trusses below its line, from left to right; how deep in the main part it stands, mm."""

    place: TrussPlace
    outline: TrussOutline
    crossed: tuple[Crossed, ...]
    deep: float


def lever(crossings: Sequence[Crossed], x: float) -> list[tuple[Crossed, float]]:
    """Return on which trusses what comes down at x along a line rests, by the lever between those on both sides of it."""
    before = [one for one in crossings if one.x <= x + 1e-6]
    after = [one for one in crossings if one.x > x + 1e-6]
    if not before or not after:
        return [(before[-1] if before else after[0], 1.0)] if crossings else []
    a, b = before[-1], after[0]
    part = (x - a.x) / (b.x - a.x)
    return [(a, 1.0 - part), (b, part)] if part > 1e-9 else [(a, 1.0)]


class ValleySet(NamedTuple):
    """All valley trusses of a wing, from its last own truss on; which of its row that is, and what of both planes of the wing beyond the
    main part's side it carries, mm2.
    """

    wing: int
    trusses: tuple[Valley, ...]
    last: int
    on_last: tuple[float, float]


class _Laying:
    """Valley trusses of a wing as they are laid: ``halves``: what of both its planes lies beyond its inner side, ``deep``: how far that
    reaches in, ``low``: the slope below, ``begin``: how high the deck there lies at that side over the wing's own eaves' line, ``heel``: the
    least gap of their chords, mm.
    """

    def __init__(
        self,
        part: Part,
        row: TrussRow,
        halves: tuple[shapely.Geometry, shapely.Geometry],
        deep: float,
        low: float,
        begin: float,
        heel: float,
        below: Sequence[Below],
    ) -> None:
        self.part, self.row, self.heel, self.below = part, row, heel, below
        self.halves, self.deep, self.low, self.begin = halves, deep, low, begin
        self.pitches = tuple(part.plan.edges[k].pitch for k in row.eaves)
        # Counted along the wing from where both parts meet.
        self.first = part.inner == _first_end(part, row)
        self.inner, self.into = (row.along[0], -1.0) if self.first else (row.along[1], 1.0)

    def base(self, deep: float) -> float:
        """Return how high the underside of one lies over the eaves' line, with its higher corner on the deck, mm."""
        return self.begin + self.low * (deep + BOARD / 2.0)

    def ends(self, deep: float) -> tuple[float, float]:
        """Return where along the wing's width one begins and ends."""
        p0, p1 = self.pitches
        high = self.base(deep) + self.heel
        return high / p0, self.row.wide - high / p1

    def fits(self, deep: float) -> bool:
        """Whether one can be made so deep in the main part."""
        (s0, s1), (p0, p1) = self.ends(deep), self.pitches
        peak = self.row.wide * p1 / (p0 + p1)
        tall = p0 * (peak - s0)
        return s1 - s0 >= SHORTEST - EVEN and s0 + SEAT < peak < s1 - SEAT and tall >= LEAST_RISE - EVEN

    def deeps(self, spacing: float) -> list[float]:
        """Return how deep in the main part they stand: a spacing apart from the girder on, the last no farther than that from the tip."""
        found, at = list[float](), spacing - abs(self.inner - self.girder.t)
        while at < self.deep and self.fits(at):
            found.append(at)
            at += spacing
        last = self.deep - spacing
        if found and last - found[-1] > LEAST_GAP and self.fits(last):
            found.append(last)
        return found

    @property
    def girder(self) -> TrussPlace:
        """The last truss of the wing itself."""
        return self.row.places[self.last]

    @property
    def last(self) -> int:
        """Its number in its row."""
        return 0 if self.first else len(self.row.places) - 1

    def within(self, low: float, high: float) -> tuple[float, float]:
        """Return what of both planes over the main part lies between two depths, mm2."""
        strip = strip_of(self.row, (self.inner + self.into * low, self.inner + self.into * high))
        return self.halves[0].intersection(strip).area, self.halves[1].intersection(strip).area


def valley_set(
    main: Part, part: Part, wing: int, row: TrussRow, spacing: float, heel: float, below: Sequence[Below]
) -> ValleySet:
    """Lay the valley trusses of a wing, number ``wing`` among the parts, whose own trusses stand in ``row``; ``heel``: the least gap of
    their chords, mm.
    """
    assert part.comes is not None
    over, low = overlay_of(main, part), main.plan.edges[part.comes.side].pitch
    begin = part.plan.roof.deck * math.hypot(1.0, low)
    return _set(_Laying(part, row, _by_eave(over, row), over.deep, low, begin, heel, below), wing, spacing)


def on_other_roof(plan: SurfacePlan, part: Part, row: TrussRow, spacing: float, heel: float) -> ValleySet:
    """Lay the valley trusses of a roof that runs on over another."""
    assert part.onto is not None
    beyond, deep = run_on(plan, part)
    core, inner = plan.outline.core, part.inner
    out = left(unit(core[(inner + 1) % 4], core[inner]))
    halves = beyond[row.eaves[0]], beyond[row.eaves[1]]
    low, begin = dot(out, part.onto.slope), part.onto.height(core[inner])
    return _set(_Laying(part, row, halves, deep, low, begin, heel, ()), 0, spacing)


def _set(laying: _Laying, wing: int, spacing: float) -> ValleySet:
    deeps, deep = laying.deeps(spacing), laying.deep
    if not deeps:
        return ValleySet(wing, (), laying.last, laying.within(0.0, FAR))
    half = max((deeps[0] - abs(laying.inner - laying.girder.t)) / 2.0, 0.0)
    cuts = [half, *((a + b) / 2.0 for a, b in itertools.pairwise(deeps)), deep]
    found = [_valley(laying, at, low, high) for at, low, high in zip(deeps, cuts[:-1], cuts[1:], strict=True)]
    return ValleySet(wing, tuple(found), laying.last, laying.within(0.0, half))


def _first_end(part: Part, row: TrussRow) -> int:
    """Return the side of a part at the first end of its row."""
    core = part.plan.outline.core
    ends = [k for k in range(4) if k not in row.eaves]
    return min(ends, key=lambda k: row.frame.to(core[k])[1] + row.frame.to(core[(k + 1) % 4])[1])


def _by_eave(over: Overlay, row: TrussRow) -> tuple[shapely.Polygon, shapely.Polygon]:
    """Return both halves of what lies over the main part in the order of the row's eaves."""
    one, other = sorted(over.halves, key=lambda half: row.frame.to((half.centroid.x, half.centroid.y))[0])
    return one, other


def _valley(laying: _Laying, deep: float, low: float, high: float) -> Valley:
    """Lay a valley truss; ``low``, ``high``: from what depth to what depth it carries the roof."""
    row, (p0, p1), heel = laying.row, laying.pitches, laying.heel
    (s0, s1), t = laying.ends(deep), laying.inner + laying.into * deep
    span, peak = s1 - s0, row.wide * p1 / (p0 + p1) - s0
    below = crossed(row.frame.back(row.start + s0, t), row.frame.s, laying.below)
    # On another roof, which is framed later, they stand evenly from the peak on.
    xs = [one.x for one in below] if laying.below else [peak + k * STUDS for k in range(-MOST, MOST + 1)]
    top = ((0.0, heel), (peak, heel + p0 * peak), (span, heel))
    inner = (
        Bearing(x - BOARD / 2.0, x + BOARD / 2.0, widens=False) for x in xs if SEAT + BOARD < x < span - SEAT - BOARD
    )
    bearings = (Bearing(0.0, SEAT, widens=False), *inner, Bearing(span - SEAT, span, widens=False))
    areas, half = laying.within(low, high), (high - low) / 2.0
    place = TrussPlace(
        "valley", row.frame, row.start + s0, t, ("", ""), (t - half, t + half), (t, t), lift=laying.base(deep) + laying.part.plan.plate_to_top,
        sides=(Over(0.0, 0.0, areas[0], 0.0), Over(0.0, 0.0, areas[1], 0.0)),
    )  # fmt: skip
    return Valley(place, _even(top, span, bearings), below, deep)


def _even(top: tuple[Point, ...], span: float, bearings: tuple[Bearing, ...]) -> TrussOutline:
    rows = tuple((round(x, 6), round(y, 6)) for x, y in top)
    seats = tuple(Bearing(round(b.low, 3), round(b.high, 3), widens=b.widens) for b in bearings)
    return TrussOutline(rows, ((0.0, 0.0), (round(span, 6), 0.0)), seats)


def crossed(at: Point, way: Point, below: Sequence[Below]) -> tuple[Crossed, ...]:
    """Return where a line in plan crosses trusses of the main part, in order along it."""
    found: list[Crossed] = []
    for one in below:
        across = dot(left(way), one.way)
        if abs(across) < PARALLEL:
            continue
        along = dot(left(way), sub(at, one.start)) / across
        if -1.0 <= along <= one.long + 1.0:
            x = dot(way, sub(add(one.start, one.way, along), at))
            found.append(Crossed(x, min(max(along, 0.0), one.long), one.number))
    found.sort()
    kept: list[Crossed] = []
    for row in found:
        if not kept or row.x - kept[-1].x > APART:
            kept.append(row)
    return tuple(kept)


def below_of(number: int, place: TrussPlace, long: float) -> Below:
    """Return a truss of the main part as valley trusses cross it."""
    a = place.at(0.0)
    return Below(number, a, unit(a, place.at(1000.0)), long)
