"""The law of lines, for joists under what stands on their deck: walls across and along them, posts.

What stands between two joists goes to both by the lever, between the last one and the wall beside it to that wall.  A
joist is a simple span between the middles of its bearings.
"""

import itertools
from functools import cached_property
from typing import Any, NamedTuple

import numpy as np
from msgspec import field
from numpy.typing import NDArray

from balken.framing.floors import FloorPlan
from balken.framing.pieces import MemberLine
from balken.geometry.plane import Point, Ring
from balken.loads.along import Laid
from balken.loads.area_loads import Reaction
from balken.loads.cases import COUNT, Cases, total
from balken.loads.joist_statics import shares
from balken.model.naming import piece_name
from balken.value import Lazy, Value

LEAST_WIDE = 89.0
"""A wall across a joist lies on at least this of it, mm: the plate of the thinnest wall."""
OBLIQUE = 100.0
"""What stands across joists at a slant is taken in steps of this, mm."""
STRAIGHT = 0.02
"""Sine of the angle up to which a wall counts as along, or square to, the joists."""
Array = NDArray[np.float64]


class Deck(Lazy, frozen=True):
    """A floor whose deck can be stood on; ``top``: its height, mm."""

    plan: FloorPlan
    top: float
    tails: tuple[Reaction, ...] = ()
    """What the joists cut off at openings hand to the headers there, of the floor's own load."""
    typed: tuple[Any, ...] = ()
    """Loads typed on it, as ``carry_deck`` takes them: spot, loads, spot, loads..."""

    @property
    def typed_sum(self) -> Cases:
        """All that was typed on it, N."""
        return total(laid.sum for laid in self.typed[1::2]) if self.typed else Cases()

    @property
    def id(self) -> str:
        """The floor's id."""
        return self.plan.floor.id

    @cached_property
    def rings(self) -> tuple[Ring, ...]:
        """Its outline in plan, and its openings."""
        back = self.plan.frame.back
        return (self.plan.outline.core, *(tuple(back(s, t) for s, t in hole.ring) for hole in self.plan.holes))

    @cached_property
    def bearers(self) -> tuple[str, ...]:
        """The walls and runs that may take a part of it."""
        edges = {strip.bearer for strip in self.plan.edges if strip.bearer}
        return tuple(sorted(self.plan.bears_on | edges))


class Spot(NamedTuple):
    """Where something stands on a deck: from where in plan and which way its loads are laid; what it is."""

    start: Point
    direction: Point
    source: str


class JoistLoad(NamedTuple):
    """What lies on one joist evenly between two places along the layout's s, N by case; from what."""

    low: float
    high: float
    force: Cases
    source: str


class HeaderLoad(NamedTuple):
    """What a joist that is cut off brings to a header: where along the layout's t, N by case; from what, by which joist."""

    t: float
    force: Cases
    source: str
    joist: str


class Floored(Value, frozen=True):
    """What stands on a deck: loads by the name of each joist, and what they hand down beside the floor's own
    load."""

    joists: dict[str, tuple[JoistLoad, ...]]
    reactions: tuple[Reaction, ...]
    headers: dict[str, tuple[HeaderLoad, ...]] = field(default_factory=dict)
    """What lies on the header of each opening, by its name."""

    @property
    def sum(self) -> Cases:
        """All that stands on it, N."""
        return total(r.force for r in self.reactions)


def carry_deck(deck: Deck, *parts: Spot | Laid) -> Floored:
    """Return what joists get from what stands on their deck, and hand down; ``parts``: spot, loads, spot, loads..."""
    plan = deck.plan
    shared = _Shared(plan)
    for spot, laid in zip(parts[::2], parts[1::2], strict=True):
        assert isinstance(spot, Spot)
        assert isinstance(laid, Laid)
        shared.put(spot, laid)
    made = _Handing(deck, shared)
    for i in range(len(plan.lines)):
        made.joist(i)
    for (bearer, s, t, source), force in shared.aside.items():
        at = plan.frame.back(s, t)
        made.reactions.append(Reaction(piece_name(deck.id, "deck"), bearer, at, Cases(*force.tolist()), source))
    headers = {name: tuple(rows) for name, rows in made.on_headers.items() if rows}
    return Floored(made.joists, tuple(made.reactions), headers)


class _Handing:
    """Joists hand what lies on them to their bearings; those cut off at an opening to its headers, and these to the trimmers.

    A joist is done when all headers that hang on it are.
    """

    def __init__(self, deck: Deck, shared: "_Shared") -> None:
        self.plan, self.shared, self.owner = deck.plan, shared, deck.id
        self.joists: dict[str, tuple[JoistLoad, ...]] = {}
        self.reactions: list[Reaction] = []
        self.holes = {hole.header(end): (hole, end) for hole in self.plan.holes for end in (0, 1)}
        self.on_headers: dict[str, list[HeaderLoad]] = {name: [] for name in self.holes}
        for r in deck.tails:
            hole, _ = self.holes[r.bearer]
            self.on_headers[r.bearer].append(HeaderLoad(self.plan.frame.to(r.at)[1], r.force, hole.opening, r.piece))
        lines = self.plan.lines
        self.hung = {name: [i for i, line in enumerate(lines) if name in line.supports] for name in self.holes}
        self.bears = {name: self._trimmers(name) for name in self.holes}
        self.done: set[int | str] = set()

    def _trimmers(self, name: str) -> tuple[int, int]:
        """Return the numbers of the joists between which a header runs."""
        hole, end = self.holes[name]
        s = hole.header_at(end)
        found = []
        for t in hole.trimmers:
            there = [
                (abs(line.t - t), i) for i, line in enumerate(self.plan.lines) if line.low - 1.0 <= s <= line.high + 1.0
            ]
            found.append(min(there)[1])
        return found[0], found[1]

    def joist(self, i: int) -> None:
        """Hand on what lies on a joist, after the headers that hang on it."""
        if i in self.done:
            return
        self.done.add(i)
        for name, (low, high) in self.bears.items():
            if i in (low, high):
                self.header(name)
        rows = self.shared.on.get(i)
        if not rows:
            return
        line = self.plan.lines[i]
        name = piece_name(self.owner, "joist", line.place)
        self.joists[name] = tuple(
            JoistLoad(low, high, Cases(*force.tolist()), source) for (low, high, source), force in rows.items()
        )
        for r in _handed(self.plan, line, name, self.joists[name]):
            if r.bearer in self.on_headers:
                self.on_headers[r.bearer].append(HeaderLoad(line.t, r.force, r.through, name))
            else:
                self.reactions.append(r)

    def header(self, name: str) -> None:
        """Share what hangs on a header out to the joists it runs between, by the lever."""
        if name in self.done:
            return
        self.done.add(name)
        for i in self.hung[name]:
            self.joist(i)
        hole, end = self.holes[name]
        (low, high), s = self.bears[name], hole.header_at(end)
        a, b = (self.plan.lines[i].t for i in (low, high))
        for load in self.on_headers[name]:
            # Where one trimmer is missing (told as a finding) all of it goes to the other.
            part = min(max((load.t - a) / (b - a), 0.0), 1.0) if low != high else 0.0
            force: Array = np.array(load.force)
            self.shared.hang(low, s, force * (1.0 - part), load.source)
            self.shared.hang(high, s, force * part, load.source)


def _handed(plan: FloorPlan, line: MemberLine, name: str, loads: tuple[JoistLoad, ...]) -> list[Reaction]:
    """Return what a joist hands to its bearings, by what stands on it."""
    found = []
    for source in dict.fromkeys(load.source for load in loads):
        mine = [load for load in loads if load.source == source]
        parts = zip(
            *(shares(line, [(m.low, m.high, m.force[case]) for m in mine]) for case in range(COUNT)), strict=True
        )
        for (support, at, _), force in zip(line.stops, parts, strict=True):
            found.append(Reaction(name, support, plan.frame.back(at, line.t), Cases(*force), source))
    return found


class _Shared:
    """Loads shared out to joists (by number) and to the walls beside the last ones."""

    def __init__(self, plan: FloorPlan) -> None:
        self.plan = plan
        self.t: Array = np.array([line.t for line in plan.lines])
        self.low: Array = np.array([line.load_low for line in plan.lines])
        self.high: Array = np.array([line.load_high for line in plan.lines])
        self.edges = [(strip.bearer, *plan.frame.to(strip.at)) for strip in plan.edges if strip.bearer]
        self.on: dict[int, dict[tuple[float, float, str], Array]] = {}
        self.aside: dict[tuple[str, float, float, str], Array] = {}

    def put(self, spot: Spot, laid: Laid) -> None:
        """Lay what stands along a line in plan, piece by piece between joists and joist ends."""
        s0, t0 = self.plan.frame.to(spot.start)
        ds, dt = self.plan.frame.to(spot.direction)
        for low, high, load in zip(laid.low.tolist(), laid.high.tolist(), laid.loads, strict=True):
            for a, b in self._pieces(low, high, (s0, t0), (ds, dt)):
                middle = (a + b) / 2.0
                ends = s0 + ds * a, s0 + ds * b
                part = load * ((b - a) / (high - low))
                self._share(ends, t0 + dt * middle, part, spot.source)

    def _pieces(self, low: float, high: float, at: Point, way: Point) -> list[tuple[float, float]]:
        """Cut a stretch where it crosses a joist or passes the end of one, and finely where it runs at a slant."""
        (s0, t0), (ds, dt) = at, way
        cuts: list[float] = []
        if abs(dt) > STRAIGHT:
            cuts += ((self.t - t0) / dt).tolist()
        if abs(ds) > STRAIGHT:
            cuts += ((self.low - s0) / ds).tolist() + ((self.high - s0) / ds).tolist()
        if min(abs(ds), abs(dt)) > STRAIGHT:
            cuts += np.arange(low, high, OBLIQUE).tolist()
        inner = sorted({round(c, 6) for c in cuts if low + 1e-3 < c < high - 1e-3})
        marks = [low, *inner, high]
        return list(itertools.pairwise(marks))

    def _share(self, ends: tuple[float, float], t: float, load: Array, source: str) -> None:
        s = (ends[0] + ends[1]) / 2.0
        near = (self.low - 1.0 <= s) & (s <= self.high + 1.0)
        before = np.flatnonzero(near & (self.t <= t + 1e-6))
        behind = np.flatnonzero(near & (self.t >= t - 1e-6))
        lower = int(before[self.t[before].argmax()]) if len(before) else -1
        upper = int(behind[self.t[behind].argmin()]) if len(behind) else -1
        if lower >= 0 and upper >= 0:
            gap = float(self.t[upper] - self.t[lower])
            part = (t - float(self.t[lower])) / gap if gap > 1e-6 else 0.0
            self._joist(lower, ends, load * (1.0 - part), source)
            self._joist(upper, ends, load * part, source)
            return
        only, side = (lower, 1) if lower >= 0 else (upper, -1)
        edge = self._edge(s, t, side if only >= 0 else 0)
        if edge is None and only >= 0:
            self._joist(only, ends, load, source)
            return
        bearer, edge_t = edge or ("", t)
        gap = abs(edge_t - float(self.t[only])) if only >= 0 else 0.0
        part = min(abs(t - float(self.t[only])) / gap, 1.0) if gap > 1e-6 else 1.0
        if only >= 0:
            self._joist(only, ends, load * (1.0 - part), source)
        key = (bearer, round(s, 3), round(edge_t, 3), source)
        self.aside[key] = self.aside.get(key, 0.0) + load * part

    def _joist(self, i: int, ends: tuple[float, float], load: Array, source: str) -> None:
        if not np.abs(load).max() > 1e-9:
            return
        line = self.plan.lines[i]
        wide, middle = max(abs(ends[1] - ends[0]), LEAST_WIDE), (ends[0] + ends[1]) / 2.0
        wide = min(wide, line.high - line.low)
        low = min(max(middle - wide / 2.0, line.low), line.high - wide)
        rows = self.on.setdefault(i, {})
        key = (round(low, 3), round(low + wide, 3), source)
        rows[key] = rows.get(key, 0.0) + load

    def hang(self, i: int, s: float, load: Array, source: str) -> None:
        """Hang a load on a joist at a place along it."""
        self._joist(i, (s, s), load, source)

    def _edge(self, s: float, t: float, side: int) -> tuple[str, float] | None:
        """Return the wall beside the last joist on a side (0: on either) and where it is across the joists."""
        rows = [
            (abs(edge_t - t) + 0.01 * abs(edge_s - s), bearer, edge_t)
            for bearer, edge_s, edge_t in self.edges
            if (edge_t - t) * side >= -1e-6
        ]
        if not rows:
            return None
        _, bearer, edge_t = min(rows)
        return bearer, edge_t
