"""How a load lies along a wall: where members bear, beside openings, from wall to wall down to the footing.

Loads lie where they are, each evenly from one place to another (``Laid``); what lies over openings goes to their
jambs, what stands on a wall is handed on exactly there.  A ``Diagram``, a row of stretches of equal length, shows the
same for drawings and footings.  Whatever is moved is moved whole: sums are kept.
"""

import itertools
import math
from collections.abc import Sequence
from typing import Protocol

import numpy as np
from numpy.typing import NDArray

from balken.geometry.plane import Point, off_line
from balken.loads.cases import COUNT, Cases, Combinations, total
from balken.model.records import Opening
from balken.value import Value

STRETCH = 300.0
"""About the length of one stretch, mm."""
MEMBER_SPREAD = 400.0
"""A member's reaction is spread over this length of plate, mm: about a joist spacing."""
MANY = 20_000
"""Loads times stretches above which sums along the wall are quicker than every load against every stretch."""
JAMB = 150.0
"""Width beside an opening onto which a header brings its load, mm: king and jack studs."""
Array = NDArray[np.float64]


class Diagram(Value, frozen=True, eq=False):
    """Loads by stretch (n, cases), N, from ``low`` on along a wall's line, each ``step`` mm long."""

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

    @property
    def length(self) -> float:
        """Length of the wall, mm."""
        return self.step * len(self.loads)

    def peak(self, spread: float, combos: Combinations) -> tuple[Cases, float]:
        """Return the line load (N/mm by case) to design for, and where it is.

        Each load spreads ``spread`` mm to both sides (at the wall's ends to one), so that the load at a place is the
        mean over what lies within that distance; the place taken is where the worst combination is greatest.  It is
        never less than the mean of the whole wall.
        """
        rows = self.loads
        n = len(rows)
        sums = np.concatenate([np.zeros((1, rows.shape[1])), np.cumsum(rows, axis=0)])
        reach = max(round(spread / self.step), 0)
        # Places at the ends of stretches and in their middles: both ends of the wall are among them.
        low, high = _windows(n, reach)
        means = (sums[high] - sums[low]) / ((high - low) * self.step)[:, None]
        factors = combos.factors
        best = int((means @ factors.T).max(axis=1).argmax())
        mean = sums[-1] / self.length
        if float((factors @ mean).max()) >= float((factors @ means[best]).max()):
            return Cases(*mean.tolist()), self.low + self.length / 2.0
        return Cases(*means[best].tolist()), self.low + (low[best] + high[best]) / 2.0 * self.step


def _windows(n: int, reach: int) -> tuple[NDArray[np.intp], NDArray[np.intp]]:
    """Return from and to which stretch edge loads count, about each stretch edge and each stretch's middle."""
    edges = np.arange(n + 1)
    low = np.concatenate([np.maximum(edges - reach, 0), np.maximum(edges[:-1] - reach, 0)])
    high = np.concatenate([np.minimum(edges + reach, n), np.minimum(edges[1:] + reach, n)])
    some = high > low
    return low[some], high[some]


class Spread:
    """A diagram in the making."""

    def __init__(self, low: float, high: float) -> None:
        self.low = low
        self.count = max(1, math.ceil((high - low) / STRETCH - 1e-9))
        self.step = (high - low) / self.count
        self.high = high
        self.edges: Array = low + self.step * np.arange(self.count + 1, dtype=np.float64)
        self.rows: Array = np.zeros((self.count, COUNT))

    def put(self, a: float, b: float, load: Array) -> None:
        """Lay a load evenly from a to b; what lies beyond the ends is brought to the nearest stretch."""
        self.put_many(np.array([a]), np.array([b]), load.reshape(1, COUNT))

    def put_many(self, a: Array, b: Array, loads: Array) -> None:
        """Lay loads (m, cases) evenly, each from a to b (m,); what lies on a point goes to the stretch there."""
        a = np.minimum(np.maximum(a, self.low), self.high - 1.0)
        b = np.minimum(np.maximum(b, a + 1.0), self.high)
        if len(a) * self.count > MANY:
            self.rows += np.diff(load_before(self.edges, a, b, loads), axis=0)
            return
        over = np.minimum(b[:, None], self.edges[1:]) - np.maximum(a[:, None], self.edges[:-1])
        np.maximum(over, 0.0, out=over)
        over /= (b - a)[:, None]
        self.rows += over.T @ loads

    def done(self) -> Diagram:
        """Return the diagram."""
        return Diagram(self.low, self.step, self.rows)


def load_before(edges: Array, a: Array, b: Array, loads: Array) -> Array:
    """Return what lies before each place (n,), N: each load (m, cases) rises evenly from its a on to its b (m,)."""
    steep = loads / (b - a)[:, None]
    total = np.zeros((len(edges), loads.shape[1]))
    for ends, sign in ((a, 1.0), (b, -1.0)):
        order = np.argsort(ends)
        at, rise = ends[order], steep[order]
        nothing = np.zeros((1, loads.shape[1]))
        rises = np.concatenate([nothing, np.cumsum(rise, axis=0)])
        starts = np.concatenate([nothing, np.cumsum(rise * at[:, None], axis=0)])
        before = np.searchsorted(at, edges)
        total += sign * (rises[before] * edges[:, None] - starts[before])
    return total


class Laid(Value, frozen=True, eq=False):
    """Loads on a wall's line: each lies evenly from ``low`` to ``high`` (m,) along it, mm; ``loads`` (m, cases), N."""

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

    def within(self, low: float, high: float) -> "Laid":
        """Return the parts of the loads that lie between two places."""
        return _cut(self, [(low, high)])[0]

    def total_in(self, low: Array, high: Array) -> Array:
        """Return what lies in each of many windows (w, cases), N; ``low``, ``high`` (w,)."""
        if len(low) * len(self.low) > MANY:
            ends = np.concatenate([low, np.maximum(low, high)])
            before = load_before(ends, self.low, self.high, self.loads)
            return before[len(low) :] - before[: len(low)]
        over = np.minimum(high[:, None], self.high) - np.maximum(low[:, None], self.low)
        return (np.maximum(over, 0.0) / (self.high - self.low)) @ self.loads  # type: ignore[no-any-return]

    def widened(self, by: float) -> "Laid":
        """Return the loads spread farther to both sides, mm."""
        return Laid(self.low - by, self.high + by, self.loads, self.sum)

    def reversed_about(self, start: float, way: float) -> "Laid":
        """Return the loads as they lie on another line: where this one's start is on it, and how far it goes a mm."""
        a, b = start + self.low * way, start + self.high * way
        return Laid(np.minimum(a, b), np.maximum(a, b), self.loads, self.sum)


def laid_together(parts: Sequence[Laid]) -> Laid:
    """Return several groups of loads as one."""
    if not parts:
        return NOTHING
    if len(parts) == 1:
        return parts[0]
    low, high, loads = (np.concatenate([getattr(part, name) for part in parts]) for name in ("low", "high", "loads"))
    return Laid(low, high, loads, total(part.sum for part in parts))


def laid_evenly(low: float, high: float, load: Cases) -> Laid:
    """Return one load that lies evenly from ``low`` to ``high``."""
    return Laid(np.array([low]), np.array([high]), np.array([load]), load)


NOTHING = Laid(np.zeros(0), np.zeros(0), np.zeros((0, COUNT)), Cases())


def _cut(laid: Laid, spans: Sequence[tuple[float, float]]) -> list[Laid]:
    """Return for each span the parts of the loads in it."""
    found = []
    for first, last in spans:
        low, high = np.maximum(laid.low, first), np.minimum(laid.high, last)
        part = (high - low) / (laid.high - laid.low)
        some = part > 0.0
        loads = laid.loads[some] * part[some][:, None]
        found.append(Laid(low[some], high[some], loads, Cases(*loads.sum(axis=0).tolist())))
    return found


def kept_within(laid: Laid, low: float, high: float) -> Laid:
    """Return the loads as they lie on a wall from ``low`` to ``high``: what lies beyond its ends comes to them."""
    a = np.minimum(np.maximum(laid.low, low), high - 1.0)
    b = np.minimum(np.maximum(laid.high, a + 1.0), high)
    return Laid(a, b, laid.loads, laid.sum)


def beside_openings(laid: Laid, openings: tuple[Opening, ...]) -> Laid:
    """Bring what lies over openings to the jambs at their sides, by the lever of each load; sums are kept.

    Openings above one another, or side by side without a jamb between, count as one.
    """
    if not openings or not len(laid.low):
        return laid
    holes = _holes(openings)
    ends = [-math.inf, *(x for hole in holes for x in hole), math.inf]
    parts = [p for p in _cut(laid, list(zip(ends[::2], ends[1::2], strict=True))) if len(p.low)]
    for (low, high), over in zip(holes, _cut(laid, holes), strict=True):
        if not len(over.low):
            continue
        middle = (over.low + over.high) / 2.0
        right = (middle - (low - JAMB / 2.0)) / (high - low + JAMB)
        sums = ((1.0 - right) @ over.loads, right @ over.loads)
        for (a, b), load in zip(((low - JAMB, low), (high, high + JAMB)), sums, strict=True):
            parts.append(Laid(np.array([a]), np.array([b]), load.reshape(1, -1), Cases(*load.tolist())))
    together = laid_together(parts)
    return Laid(together.low, together.high, together.loads, laid.sum)


def _holes(openings: tuple[Opening, ...]) -> list[tuple[float, float]]:
    found: list[tuple[float, float]] = []
    for low, high in sorted((o.offset, o.offset + o.width) for o in openings):
        if found and low <= found[-1][1] + 1.0:
            found[-1] = (found[-1][0], max(found[-1][1], high))
        else:
            found.append((low, high))
    return found


Under = tuple[float, float, float, float]
"""A wall or run below: where along it the wall above starts, mm, and how far one goes along it for a mm of that one;
from where to where along it something can stand."""


class Lying(Protocol):
    """What has a line in plan: a wall, a foundation wall, a beam."""

    @property
    def start(self) -> Point:
        """Where it starts."""
        ...

    @property
    def end(self) -> Point:
        """Where it ends."""
        ...

    @property
    def direction(self) -> Point:
        """Its unit direction."""
        ...


def standing(line: Lying, other: Lying, low: float, high: float) -> Under:
    """Return how a wall stands on another line; the same, to the last figure, wherever the two stand together."""
    start, _ = off_line(line.start, other.start, other.end)
    (dx, dy), (ex, ey) = line.direction, other.direction
    return round(start, 6), round(dx * ex + dy * ey, 9), low, high


def hand_down(laid: Laid, below: tuple[Under, ...]) -> tuple[Laid, ...]:
    """Return what each wall or run below takes of a wall's load: each part of it goes to what is nearest under it."""
    if not below:
        return ()
    if len(below) == 1:
        start, way, low, high = below[0]
        return (kept_within(laid.reversed_about(start, way), low, high),)
    # From where to where along the wall above each of them can take load; half-way between two is the boundary.
    rows = []
    for k, (start, way, low, high) in enumerate(below):
        a, b = (low - start) / way, (high - start) / way
        rows.append((min(a, b), max(a, b), k))
    rows.sort()
    between = [(a[1] + b[0]) / 2.0 for a, b in itertools.pairwise(rows)]
    ends = [-math.inf, *np.maximum.accumulate(between).tolist(), math.inf]
    parts = _cut(laid, list(itertools.pairwise(ends)))
    taken: list[Laid] = [NOTHING] * len(below)
    for (_, _, k), part in zip(rows, parts, strict=True):
        start, way, low, high = below[k]
        taken[k] = kept_within(part.reversed_about(start, way), low, high)
    return tuple(taken)
