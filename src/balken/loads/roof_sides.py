"""A plane of a roof seen from its eave: s along it, t inward; cut into strips, and what holds the rafters there at both ends."""

import itertools
import math
from collections.abc import Iterator, Mapping
from typing import NamedTuple

import shapely

from balken.framing.surface_roofs import STEP, SurfacePlan
from balken.geometry.plane import Point, add, chords, distance, dot, left, sub, to_segment, unit
from balken.geometry.roof_edges import Place
from balken.geometry.roof_surface import RoofFace
from balken.loads.area_loads import Reaction
from balken.loads.cases import Cases
from balken.loads.roof_feet import LAID

NEAR = 2.0
"""What lies closer than this lies at one place, mm."""


EVEN = 0.01
"""Rafters whose lengths differ by no more than this part of them are alike."""


class Patch(NamedTuple):
    """What lies on a line: from where to where along it in plan from its lower end, mm; how much at both ends, N a mm."""

    start: float
    end: float
    first: Cases
    last: Cases

    @property
    def force(self) -> Cases:
        """All of it, N."""
        return self.first.plus(self.last).scaled((self.end - self.start) / 2.0)


class Strip(NamedTuple):
    """What of a plane lies between two places along its eave: where, how far in its lower and its upper end are, mm."""

    first: float
    last: float
    low: tuple[float, float]
    high: tuple[float, float]

    @property
    def long(self) -> float:
        """From foot to head in plan, in the middle, mm."""
        return (sum(self.high) - sum(self.low)) / 2.0

    @property
    def area(self) -> float:
        """In plan, mm2."""
        return self.long * (self.last - self.first)


class Side:
    """A plane, seen from its eave: s along it, t inward."""

    def __init__(self, plan: SurfacePlan, face: RoofFace) -> None:
        core = plan.outline.core
        self.plan, self.edge = plan, face.edge
        self.start, end = core[face.edge], core[(face.edge + 1) % len(core)]
        self.way, self.long = unit(self.start, end), distance(self.start, end)
        self.inward = left(self.way)
        self.ring = [self.local(p) for p in face.ring]
        self.lines = [(i, x) for i, x in enumerate(plan.surface.lines) if face.edge in x.edges]

    def local(self, p: Place) -> Point:
        """Return a place along the eave and inward of it, mm."""
        off = sub(p[:2], self.start)
        return dot(self.way, off), dot(self.inward, off)

    def back(self, s: float, t: float) -> Point:
        """Return a place in plan."""
        return add(add(self.start, self.way, s), self.inward, t)

    @property
    def pitch(self) -> float:
        """Its rise over run."""
        return self.plan.edges[self.edge].pitch

    @property
    def wall(self) -> str:
        """The wall under its eave."""
        return self.plan.outline.walls[self.edge]

    def chord(self, s: float, t: float) -> tuple[float, float, float]:
        """Return how far in the rafter through a place of the plane begins and ends, and where along the eave it lies, mm."""
        low, high = min(u for u, _ in self.ring), max(u for u, _ in self.ring)
        s = min(max(s, low + 1.0), high - 1.0)
        rows = chords((tuple(self.ring),), (s, 0.0), (0.0, 1.0))
        a, b = min(rows, key=lambda row: max(row[0] - t, t - row[1], 0.0), default=(0.0, 1.0))
        return a, b, s

    def bears(self, s: float, t: float, on: int | str) -> Point:
        """Return where on a wall, or on a line, an end at a place presses."""
        if on == self.wall and abs(t) < NEAR:
            return self.back(min(max(s, 0.0), self.long), self.plan.deep[self.edge])
        return self.back(s, t)

    def strips(
        self, widest: float = 0.0, covered: tuple[tuple[Point, ...], ...] = (), cuts_at: tuple[float, ...] = ()
    ) -> Iterator[Strip]:
        """Cut the plane where its lines end, at corners of what is ``covered``, and where asked (``cuts_at``), no strip wider than
        ``widest`` (0: any); within each its ends are straight.
        """
        places = (
            {s for s, _ in self.ring} | {*cuts_at} | {self.local(p)[0] for _, x in self.lines for p in (x.start, x.end)}
        )
        if covered:
            places |= {self.local((*p, 0.0))[0] for ring in covered for p in ring} | {
                self.local((*p, 0.0))[0] for ring in covered for p in self._met(ring)
            }
        low, high = min(s for s, _ in self.ring), max(s for s, _ in self.ring)
        cuts: list[float] = []
        for s in sorted(places):
            if low <= s <= high and (not cuts or s - cuts[-1] > 0.01):
                cuts.append(s)
        if widest > 0.0:
            counts = [max(math.ceil((b - a) / widest - 1e-9), 1) for a, b in itertools.pairwise(cuts)]
            fine = [
                a + (b - a) * k / n
                for (a, b), n in zip(itertools.pairwise(cuts), counts, strict=True)
                for k in range(n)
            ]
            cuts = [*fine, cuts[-1]]
        sides = list(zip(self.ring, (*self.ring[1:], self.ring[0]), strict=True))
        for first, last in itertools.pairwise(cuts):
            middle, met = (first + last) / 2.0, []
            for p, q in sides:
                if (p[0] < middle) != (q[0] < middle):
                    met.append(tuple(p[1] + (s - p[0]) / (q[0] - p[0]) * (q[1] - p[1]) for s in (first, last)))
            met.sort(key=sum)
            for down, up in zip(met[::2], met[1::2], strict=False):
                yield Strip(first, last, (down[0], down[1]), (up[0], up[1]))

    def _met(self, ring: tuple[Point, ...]) -> list[Point]:
        """Return where an outline crosses the sides of the plane."""
        own = [self.back(*p) for p in self.ring]
        met = shapely.LinearRing(own).intersection(shapely.LinearRing(ring))
        return [(float(x), float(y)) for x, y in shapely.get_coordinates(met)]

    def held(self, strip: Strip, end: int, carrying: Mapping[int, int]) -> int | str | None:
        """Return what holds the rafters of a strip at their feet (0) or heads (1): the number of a line, a wall, a roof below, nothing.

        ``carrying``: for each line that carries, the number by which it goes.
        """
        row = strip.high if end else strip.low
        return self.held_at((strip.first + strip.last) / 2.0, sum(row) / 2.0, carrying)

    def past(self, strip: Strip, foot: int | str | None) -> float:
        """Return the moment over their bearings of what hangs out before a strip of common rafters, past (past / 2 + deep), over the square of
        its length.
        """
        plan = self.plan
        past, uneven = plan.overhangs[self.edge], abs(strip.high[0] - strip.high[1])
        if foot != self.wall or past <= 0.0 or abs(sum(strip.low)) > NEAR or uneven > EVEN * strip.long:
            return 0.0
        return past * (past / 2.0 + plan.deep[self.edge]) / strip.long**2

    def lifts(self, strip: Strip, foot: int | str | None, head: int | str | None) -> float:
        """Return what the overhang before a strip of common rafters brings to their feet by the lever, off their heads, as a part of what
        lies on the strip; no more than heads have.
        """
        plan, walls = self.plan, self.plan.outline.walls
        deep = plan.deep[self.edge]
        on = walls.index(head) if isinstance(head, str) and head in walls else -1
        # Over a gable heads lie on its plates, at a taller wall they hang on its face.
        between = strip.long - deep - (plan.deep[on] if on >= 0 and plan.edges[on].kind == "gable" else 0.0)
        moment = self.past(strip, foot)
        return min(moment * strip.long / between, 0.5) if between > 0.0 else 0.5 if moment > 0.0 else 0.0

    def held_at(self, s: float, t: float, carrying: Mapping[int, int]) -> int | str | None:
        """Return what holds the end of a rafter at a place."""
        at = self.back(s, t)
        near = [(to_segment(at, x.start[:2], x.end[:2]), i, x) for i, x in self.lines]
        off, i, line = min(near, key=lambda one: one[0], default=(math.inf, 0, None))
        if line is None or off > NEAR:
            return None
        if i in carrying:
            return carrying[i]
        walls = self.plan.outline.walls
        if line.kind == "laid":
            return LAID
        if line.kind == "eave":
            return walls[self.edge]
        other = next((e for e in line.edges if e != self.edge and e >= 0), None)
        return walls[other] if line.kind in ("rake", "wall") and other is not None else None

    def patch(self, strip: Strip, end: int, on: tuple[Place, Place], q: Cases) -> Patch:
        """Return what the ends of a strip lay on a line between two places; ``q``: N a mm2 of plan."""
        low, high = on
        row = strip.high if end else strip.low
        way = unit(low[:2], high[:2])
        rows = []
        for s, t, a, b in zip((strip.first, strip.last), row, strip.low, strip.high, strict=True):
            rows.append((dot(way, sub(self.back(s, t), low[:2])), b - a))
        (u0, d0), (u1, d1) = sorted(rows)
        thick = (strip.last - strip.first) / max(u1 - u0, 1e-6)
        return Patch(u0, u1, q.scaled(max(d0, 0.0) * thick), q.scaled(max(d1, 0.0) * thick))

    def middle(self, strip: Strip) -> tuple[Point, Point]:
        """Return foot and head of a strip's middle in plan."""
        s = (strip.first + strip.last) / 2.0
        return self.back(s, sum(strip.low) / 2.0), self.back(s, sum(strip.high) / 2.0)

    def heap(self, strip: Strip, end: int, on: tuple[Place, Place], force: Cases) -> list[Patch]:
        """Return what is heaped on a strip as its end lays it on a line."""
        even = self.patch(strip, end, on, force)
        long = max(even.end - even.start, 1e-3)
        q = force.scaled(1.0 / long)
        return [Patch(even.start, even.start + long, q, q)] if any(force) else []

    def onto(self, strip: Strip, end: int, wall: str | None, q: Cases, key: str) -> Iterator[Reaction]:
        """Yield what the ends of a strip lay on a wall (None: that under the plane's own eave), stretch by stretch."""
        walls, row = self.plan.outline.walls, strip.high if end else strip.low
        own = wall is None or (wall == walls[self.edge] and abs(sum(row)) < NEAR)
        wide = strip.last - strip.first
        count = max(math.ceil(wide / STEP - 1e-9), 1)
        ends = strip.high[0] - strip.low[0], strip.high[1] - strip.low[1]
        for k in range(count):
            part = (k + 0.5) / count
            size = (ends[0] + (ends[1] - ends[0]) * part) * wide / count
            s = strip.first + wide * part
            at = self.back(s, row[0] + (row[1] - row[0]) * part)
            if own:
                at = self.back(min(max(s, 0.0), self.long), self.plan.deep[self.edge])
            if abs(size) > 1e-6:
                yield Reaction(key, walls[self.edge] if wall is None else wall, at, q.scaled(size))
