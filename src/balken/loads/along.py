"""How a load lies along a wall: where members bear, beside openings, from wall to wall down to the footing.

A diagram is a row of stretches of equal length with the load on each, N by case.  Whatever is moved from one
stretch or wall to another is moved whole: sums are kept.
"""

import math
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from balken.framing.bands import Band
from balken.geometry.plane import off_line
from balken.loads.cases import Cases
from balken.model.records import Opening

STRETCH = 300.0
"""About the length of one stretch, mm."""
MEMBER_SPREAD = 400.0
"""A member's reaction is spread over this length of plate, mm: about a joist spacing."""
MANY = 20_000
"""Loads times stretches above which sums along the wall are quicker than every load against every stretch."""
JAMB = 150.0
"""Width beside an opening onto which a header brings its load, mm: king and jack studs."""
Array = NDArray[np.float64]


@dataclass(frozen=True, eq=False, slots=True)
class Diagram:
    """Loads by stretch (n, 5), N, from ``low`` on along a wall's line, each ``step`` mm long."""

    low: float
    step: float
    loads: Array

    def __eq__(self, other: object) -> bool:
        return (
            isinstance(other, Diagram)
            and (self.low, self.step) == (other.low, other.step)
            and np.array_equal(self.loads, other.loads)
        )

    @property
    def cases(self) -> tuple[Cases, ...]:
        """The load of each stretch as cases."""
        return tuple(Cases(*row) for row in self.loads.tolist())

    def per_length(self) -> list[tuple[float, Cases]]:
        """Return (middle of each stretch, line load there in N/mm)."""
        return [(self.low + (i + 0.5) * self.step, c.scaled(1.0 / self.step)) for i, c in enumerate(self.cases)]

    def peak(self, window: float) -> tuple[Cases, float]:
        """Return the greatest line load (N/mm, all cases together) averaged over a window, and where it is."""
        rows = self.loads
        n = len(rows)
        width = min(max(round(window / self.step), 1), n)
        sums = np.cumsum(np.vstack([np.zeros(rows.shape[1]), rows]), axis=0)
        means = (sums[width:] - sums[:-width]) / (width * self.step)
        best = int(means.sum(axis=1).argmax())
        return Cases(*means[best].tolist()), self.low + (best + width / 2.0) * self.step


class Spread:
    """A diagram in the making."""

    def __init__(self, low: float, high: float) -> None:
        self.low = low
        self.count = max(1, math.ceil((high - low) / STRETCH - 1e-9))
        self.step = (high - low) / self.count
        self.high = high
        self.edges: Array = low + self.step * np.arange(self.count + 1, dtype=np.float64)
        self.rows: Array = np.zeros((self.count, 5))

    def put(self, a: float, b: float, load: Array) -> None:
        """Lay a load evenly from a to b; what lies beyond the ends is brought to the nearest stretch."""
        self.put_many(np.array([a]), np.array([b]), load.reshape(1, 5))

    def put_many(self, a: Array, b: Array, loads: Array) -> None:
        """Lay loads (m, 5) evenly, each from a to b (m,); what lies on a point goes to the stretch there."""
        a = np.minimum(np.maximum(a, self.low), self.high - 1.0)
        b = np.minimum(np.maximum(b, a + 1.0), self.high)
        if len(a) * self.count > MANY:
            self.rows += np.diff(self._up_to(a, b, loads), axis=0)
            return
        over = np.minimum(b[:, None], self.edges[1:]) - np.maximum(a[:, None], self.edges[:-1])
        np.maximum(over, 0.0, out=over)
        over /= (b - a)[:, None]
        self.rows += over.T @ loads

    def _up_to(self, a: Array, b: Array, loads: Array) -> Array:
        """Return what lies before each edge, N: rises from each a on, no more from each b on."""
        steep = loads / (b - a)[:, None]
        total = np.zeros((self.count + 1, loads.shape[1]))
        for ends, sign in ((a, 1.0), (b, -1.0)):
            order = np.argsort(ends)
            at, rise = ends[order], steep[order]
            nothing = np.zeros((1, loads.shape[1]))
            rises = np.concatenate([nothing, np.cumsum(rise, axis=0)])
            starts = np.concatenate([nothing, np.cumsum(rise * at[:, None], axis=0)])
            before = np.searchsorted(at, self.edges)
            total += sign * (rises[before] * self.edges[:, None] - starts[before])
        return total

    def put_evenly(self, load: Cases) -> None:
        """Lay a load evenly along the whole of it."""
        self.rows += np.array(load) / self.count

    def beside(self, openings: tuple[Opening, ...]) -> None:
        """Bring what lies over openings to their sides, half to each."""
        if not openings:
            return
        low = np.array([o.offset for o in openings])
        high = low + np.array([o.width for o in openings])
        over = np.minimum(high[:, None], self.edges[1:]) - np.maximum(low[:, None], self.edges[:-1])
        parts = np.maximum(over / self.step, 0.0)
        # Openings above one another share what lies over both.
        parts /= np.maximum(parts.sum(axis=0), 1.0)[None, :]
        taken = parts @ self.rows
        self.rows *= (1.0 - parts.sum(axis=0))[:, None]
        sides = np.concatenate([low - JAMB, high]), np.concatenate([low, high + JAMB])
        self.put_many(*sides, np.concatenate([taken, taken]) / 2.0)

    def done(self) -> Diagram:
        """Return the diagram."""
        return Diagram(self.low, self.step, self.rows)


@dataclass(frozen=True, eq=False, slots=True)
class Laid:
    """Loads on a wall's line: each lies evenly from ``low`` to ``high`` (m,) along it, mm; ``loads`` (m, 5), N."""

    low: Array
    high: Array
    loads: Array
    sum: Cases
    """All of them together, N."""

    def __eq__(self, other: object) -> bool:
        return (
            isinstance(other, Laid)
            and self.sum == other.sum
            and np.array_equal(self.low, other.low)
            and np.array_equal(self.high, other.high)
            and np.array_equal(self.loads, other.loads)
        )


Under = tuple[float, float, float, float]
"""A wall or run below: where along it the wall above starts, mm, and how far one goes along it for a mm of that one;
from where to where along it something can stand."""


def standing(line: Band, other: Band, low: float, high: float) -> Under:
    """Return how a wall stands on another line; the same, to the last figure, wherever the two stand together."""
    start, _ = off_line(line.start, other.start, other.end)
    (dx, dy), (ex, ey) = line.direction, other.direction
    return round(start, 6), round(dx * ex + dy * ey, 9), low, high


def hand_down(spread: Spread, below: tuple[Under, ...]) -> tuple[Laid, ...]:
    """Return what each wall or run below takes of a wall's load: each stretch goes to where it stands."""
    if not below:
        return ()
    half = spread.step / 2.0
    middles: Array = spread.low + (np.arange(spread.count, dtype=np.float64) + 0.5) * spread.step
    away, along = [], []
    if len(below) == 1:
        start, way, _, _ = below[0]
        at = start + middles * way
        return (Laid(at - half, at + half, spread.rows, Cases(*spread.rows.sum(axis=0).tolist())),)
    for start, way, low, high in below:
        places = start + middles * way
        along.append(places)
        away.append(np.maximum(np.maximum(low - places, places - high), 0.0))
    nearest = np.argmin(np.array(away), axis=0)
    taken = []
    for k in range(len(below)):
        mine = nearest == k
        at, rows = along[k][mine], spread.rows[mine]
        taken.append(Laid(at - half, at + half, rows, Cases(*rows.sum(axis=0).tolist())))
    return tuple(taken)
