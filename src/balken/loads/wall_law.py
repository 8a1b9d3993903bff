"""The law of walls: straight down, stretch by stretch; openings hand theirs to both sides."""

from typing import Any, NamedTuple

import numpy as np

from balken.geometry.plane import FINE
from balken.loads.along import (
    MEMBER_SPREAD,
    Diagram,
    Laid,
    Lying,
    Spread,
    Under,
    beside_openings,
    hand_down,
    kept_within,
    laid_evenly,
    laid_together,
)
from balken.loads.area_loads import Reaction
from balken.loads.cases import Cases, total
from balken.model.records import Opening
from balken.value import Value


class LineTotal(Value, frozen=True):
    """All that a wall or foundation wall carries to its foot, in newtons by case."""

    id: str
    length: float
    members: Cases
    walls: Cases
    own: Cases

    @property
    def foot(self) -> Cases:
        """Load at its foot, N."""
        return total((self.members, self.walls, self.own))

    @property
    def own_line(self) -> Cases:
        """Its own weight along it, N/mm, to the nearest 0.01."""
        return _rounded(self.own, self.length)

    @property
    def per_length(self) -> Cases:
        """Line load at its foot, N/mm (kN/m)."""
        return self.foot.scaled(1.0 / self.length) if self.length else Cases()


def _rounded(cases: Cases, length: float) -> Cases:
    return Cases(*(round(c / length, 2) for c in cases)) if length else Cases()


class PointLoad(NamedTuple):
    """A column or beam on a wall: which, from where to where along the wall it stands, what it brings, N.

    ``more``: what some arrangement of live loads brings beyond that; posts and headers are made for both.
    """

    source: str
    low: float
    high: float
    force: Cases
    more: Cases = Cases()

    @property
    def most(self) -> Cases:
        """What it brings at most."""
        return self.force.plus(self.more)


class HeadLoad(Value, frozen=True):
    """What lies on a wall's head, where it lies: members that bear on it, walls and columns that stand on it."""

    members: Laid
    walls: Laid
    points: tuple[PointLoad, ...] = ()

    @property
    def standing(self) -> Laid:
        """Walls and columns together."""
        return laid_together((self.walls, *(laid_evenly(p.low, p.high, p.most) for p in self.points)))

    @property
    def all(self) -> Laid:
        """All together."""
        return laid_together((self.members, self.standing))


class Carried(Value, frozen=True):
    """What one wall or run carries: its totals, how they lie along it, what it hands down to each under it.

    ``points``: of what it hands down, the columns on it that stand beside its openings; ``handed`` is the rest.
    """

    total: LineTotal
    along: Diagram
    handed: tuple[Laid, ...]
    head: HeadLoad
    points: tuple[tuple[PointLoad, ...], ...]
    beyond: Laid | None = None
    """What joists that run on bring beyond their full load, as it lies at its foot; no part of the rest."""
    beyond_below: tuple[Laid, ...] = ()


def by_bearer(reactions: tuple[Reaction, ...]) -> dict[str, tuple[Reaction, ...]]:
    """Return the reactions of one layout by the wall or run they go to."""
    found: dict[str, list[Reaction]] = {}
    for r in reactions:
        found.setdefault(r.bearer, []).append(r)
    return {bearer: tuple(rows) for bearer, rows in found.items()}


Span = tuple[float, float]
"""From where to where along its line something can bear on a wall or run, mm."""


def lay(reactions: tuple[Reaction, ...], band: Lying, span: Span) -> Laid:
    """Return reactions as they lie along the line of their bearer; an edge joist lies along all of it."""
    first, last = span
    (x0, y0), (dx, dy), half = band.start, band.direction, MEMBER_SPREAD / 2.0
    lows, highs = [], []
    for r in reactions:
        if r.piece.endswith(("/rim", "/ceiling")):
            lows.append(first)
            highs.append(last)
        else:
            x, y = r.at
            at = round(((x - x0) * dx + (y - y0) * dy) * FINE) / FINE
            lows.append(at - half)
            highs.append(at + half)
    forces = np.array([r.force for r in reactions])
    return Laid(np.array(lows), np.array(highs), forces, Cases(*forces.sum(axis=0).tolist()))


MEMBERS_END, WALLS_END = "members", "walls"
"""Stand between what a wall carries and what is under it, so that a keeper sees each thing by itself."""


def carry(
    name: str,
    span: Span,
    own: Cases,
    openings: tuple[Opening, ...],
    points: tuple[PointLoad, ...],
    beyond: Laid | None,
    *parts: Any,
) -> Carried:
    """Return what one wall or run carries, from members that bear on it, walls that stand on it, and its own weight.

    ``points``: columns that stand on it; ``beyond``: what joists that run on bring beyond their full load, for which its studs
    and headers, and what is under it, are made, too; ``parts``: loads of members, MEMBERS_END, loads of walls, WALLS_END, how it stands on what is under it.
    """
    first, second = parts.index(MEMBERS_END), parts.index(WALLS_END)
    members, walls, below = parts[:first], parts[first + 1 : second], parts[second + 1 :]
    low, high = span
    placed = tuple(_kept(point, low, high) for point in points)
    on = kept_within(laid_together(walls), low, high)
    whole = kept_within(laid_together(members), low, high)
    more = kept_within(beyond, low, high) if beyond is not None else None
    head = HeadLoad(whole if more is None else laid_together((whole, more)), on, placed)
    own_laid = laid_evenly(low, high, own)
    over = tuple(p for p in placed if over_one(p, openings))
    straight = tuple(p for p in placed if p not in over)
    standing = laid_together((head.walls, *(laid_evenly(p.low, p.high, p.force) for p in over)))
    foot = kept_within(beside_openings(laid_together((standing, whole, own_laid)), openings), low, high)
    spread = Spread(low, high)
    spread.put_many(foot.low, foot.high, foot.loads)
    for point in straight:
        spread.put(point.low, point.high, np.array(point.force))
    above = total((*(laid.sum for laid in walls), *(point.force for point in points)))
    sums = total(laid.sum for laid in members), above
    made = LineTotal(name, high - low, *sums, own)
    at_foot = None if more is None else beside_openings(more, openings)
    down = () if at_foot is None else hand_down(at_foot, below)
    return Carried(made, spread.done(), hand_down(foot, below), head, _points_down(straight, below), at_foot, down)


def over_one(point: PointLoad, openings: tuple[Opening, ...]) -> bool:
    """Whether a column stands over an opening, so that what it brings goes to the sides of that."""
    return any(point.low < o.offset + o.width and point.high > o.offset for o in openings)


def _points_down(points: tuple[PointLoad, ...], below: tuple[Under, ...]) -> tuple[tuple[PointLoad, ...], ...]:
    """Return the columns on a wall as they come down on each wall or run below."""
    found: list[list[PointLoad]] = [[] for _ in below]
    for point in points:
        parts = hand_down(laid_evenly(point.low, point.high, point.force), below)
        for rows, part in zip(found, parts, strict=True):
            for low, high, load in zip(part.low.tolist(), part.high.tolist(), part.loads.tolist(), strict=True):
                rows.append(PointLoad(point.source, low, high, Cases(*load), point.more))
    return tuple(tuple(rows) for rows in found)


def _kept(point: PointLoad, low: float, high: float) -> PointLoad:
    a = min(max(point.low, low), high - 1.0)
    return point._replace(low=a, high=min(max(point.high, a + 1.0), high))
