"""Joists one by one: what a line across a floor bears on, where it is cut, and which strip of floor it carries."""

import itertools
from bisect import bisect_right

from msgspec.structs import replace

from balken.framing.floor_openings import Hole
from balken.framing.frames import Frame
from balken.framing.joist_cuts import End, Patch, Running, cut
from balken.framing.outlines import Outline
from balken.framing.pieces import Bearer, MemberLine
from balken.geometry.plane import Point, Ring, add, chords, distance, to_segment
from balken.model.kinds.floor import Floor, Over
from balken.units.system import INCH

RIM = 1.5 * INCH
"""Thickness of rim boards."""
HANGER = 1.5 * INCH
"""Length of bearing in a joist hanger (common practice, no source)."""
I_HANGER = 2.0 * INCH
"""The same of an I-joist's hanger (common practice, no source)."""
MOST_PLIES = 3
"""Joists, trimmers and edges are of no more plies."""
BEYOND = 300.0
"""A joist this far past a bearer's end still counts as crossing it, mm: corners are not yet cut there."""
EQUAL = 1e-6
"""Heights and lengths that differ by less are the same, mm."""

Bay = tuple[float, float]
"""The strip of floor nearest to one station, from t to t."""


def seat_in_hanger(floor: Floor) -> float:
    """Return how much of a joist of a floor lies in a hanger, mm."""
    return I_HANGER if floor.joists.made_of == "I-joist" else HANGER


class JoistLines:
    """The joists across one outline, all along s.

    Between the corners of the outline and the ends of what it bears on, all joists with bays as wide are alike;
    each is made once and repeated.  ``hanger``: how much of one lies in a hanger; ``over``: what they do over bearings;
    ``longest``: the longest there is; ``aside``: how thick they are, by which they lie beside one another where they lap, mm.
    """

    def __init__(
        self,
        ring: Ring,
        outline: Outline,
        bearers: tuple[Bearer, ...],
        frame: Frame,
        holes: tuple[Hole, ...] = (),
        hanger: float = HANGER,
        over: Over = "butted",
        longest: float = 0.0,
        aside: float = RIM,
    ) -> None:
        self.holes, self.rings = holes, (ring, *(hole.ring for hole in holes))
        self.ring, self.outline, self.bearers = ring, outline, bearers
        self.crossed = Crossed(frame, bearers)
        self.how = Running(over, longest, hanger, frozenset(b.id for b in bearers if b.hung))
        self.corners = sorted({round(p[1], 6) for one in self.rings for p in one})
        self.marks = sorted({*self.corners, *self.crossed.marks()})
        self._level: dict[int, bool] = {}
        self._made: dict[tuple[int, float, Over], list[MemberLine]] = {}
        self.aside = aside

    def patches(self, bay: Bay) -> list[Patch]:
        """Return the floor in a bay, cut again where a corner of the outline lies.

        Each patch takes the chord at its mid-height, which is exact for straight sides.
        """
        inner = [bay[0], *(c for c in self.corners if bay[0] + EQUAL < c < bay[1] - EQUAL), bay[1]]
        return [
            (s0, s1, a, b)
            for a, b in itertools.pairwise(inner)
            if b - a > 1e-9
            for s0, s1 in chords(self.rings, (0.0, (a + b) / 2.0), (1.0, 0.0))
        ]

    def at(self, t: float, bay: Bay) -> tuple[list[MemberLine], list[Patch]]:
        """Return the joists on one line, and what of the bay lies beside none of them."""
        stretch = self._stretch(bay)
        # At openings, and at the sides of bays, joists butt: trimmers and edges are where they are, and one beside them would stand in them.
        room = self.aside + MOST_PLIES * RIM
        plain = any(hole.trimmers[0] - room <= t <= hole.trimmers[1] + room for hole in self.holes)
        plain = plain or any(abs(t - c) <= room for c in self.corners[1:-1])
        how = self.how._replace(over="butted") if plain and self.how.over == "lapped" else self.how
        key = (stretch, round(bay[1] - bay[0], 6), how.over)
        known = self._made.get(key)
        if known is not None:
            return self._placed(known, t, how), []
        runs = chords(self.rings, (0.0, t), (1.0, 0.0))
        mine, rest = _claimed(self.patches(bay), runs)
        made: list[MemberLine] = []
        for i, (low, high) in enumerate(runs):
            ends = self._end((low, t)), self._end((high, t))
            lines, short = cut(t, mine[i], low, high, self.crossed.at(t), ends, how)
            made += lines
            rest += short
        if stretch >= 0 and not rest:
            self._made[key] = made
        return self._placed(made, t, how), rest

    def _placed(self, lines: list[MemberLine], t: float, how: Running) -> list[MemberLine]:
        """Return joists at a place across the floor; every other one beside it where they lap."""
        aside = self.aside if how.over == "lapped" else 0.0
        return [replace(line, t=t + aside * (k % 2)) for k, line in enumerate(lines)]

    def _stretch(self, bay: Bay) -> int:
        """Return the number of the stretch in which a bay lies and all lines are alike; -1 when there is none."""
        i = bisect_right(self.marks, bay[0] + EQUAL)
        if not 0 < i < len(self.marks) or bay[1] > self.marks[i] + EQUAL:
            return -1
        if i not in self._level:
            self._level[i] = self._is_level(self.marks[i - 1], self.marks[i])
        return i if self._level[i] else -1

    def _is_level(self, low: float, high: float) -> bool:
        """Tell whether all lines across a stretch begin, end and cross bearers at the same s."""
        middle = (low + high) / 2.0
        for i, (s1, t1) in enumerate(self.ring):
            s0, t0 = self.ring[i - 1]
            if min(t0, t1) < middle < max(t0, t1) and abs(s1 - s0) > EQUAL:
                return False
        return self.crossed.is_level(middle)

    def _end(self, end: Point) -> End:
        """Return what a joist end hangs on, how thick what stands before it is, and whether it may reach past its bearing.

        At the wall of another part of the building it meets a ledger on that wall's rim and stands in a hanger; what
        carries that rim carries it.  At an opening it hangs on the header.
        """
        s, t = end
        for hole in self.holes:
            if hole.t0 < t < hole.t1 and min(abs(s - hole.s0), abs(s - hole.s1)) < 1.0:
                return End(hole.header(0 if abs(s - hole.s0) < 1.0 else 1), hole.thick)
        ring = self.ring
        for i, wall in enumerate(self.outline.walls):
            if not self.outline.shared[i] and self.outline.edge(i) == "wall":
                continue
            if to_segment(end, ring[i], ring[(i + 1) % len(ring)]) < 1.0:
                if self.outline.edge(i) != "wall":
                    return End("", 0.0 if self.outline.edge(i) == "open" else RIM, past=True)
                return End(next((b.id for b in self.bearers if b.wall == wall), ""), RIM)
        return End("", RIM)


class Crossed:
    """Where lines along s cross the bearers: each bearer's two faces as straight lines in (s, t)."""

    def __init__(self, frame: Frame, bearers: tuple[Bearer, ...]) -> None:
        self.faces: list[tuple[str, float, float, float, Point, Point]] = []
        for b in bearers:
            ds, dt = frame.to(b.direction)
            if abs(dt) < 0.34:
                continue  # less than 20 degrees: the line runs along it
            near, far = (frame.to(add(b.start, b.inward, depth)) for depth in (b.near, b.far))
            self.faces.append((b.id, distance(b.start, b.end), ds, dt, near, far))

    def at(self, t: float) -> list[tuple[float, float, str]]:
        """Return (s low, s high, id) of the bearers crossed at t.

        Where two in one line meet, the one that the line really crosses counts.
        """
        found: list[tuple[float, float, float, str]] = []
        for name, length, ds, dt, (s0, t0), (s1, t1) in self.faces:
            first, second = (t - t0) / dt, (t - t1) / dt
            beyond = max(0.0, -first, -second, first - length, second - length)
            if beyond <= BEYOND:
                a, b = s0 + first * ds, s1 + second * ds
                found.append((beyond, a, b, name) if a < b else (beyond, b, a, name))
        return apart(found)

    def marks(self) -> list[float]:
        """Return the t between which it stays the same what is crossed, and from how far beyond its ends."""
        return [
            round(t + along * dt, 6)
            for _, length, _, dt, (_, t0), (_, t1) in self.faces
            for t in (t0, t1)
            for along in (-BEYOND, 0.0, length, length + BEYOND)
        ]

    def is_level(self, t: float) -> bool:
        """Tell whether all bearers crossed at t are crossed between their ends and square on."""
        for _, length, ds, dt, (_, t0), (_, t1) in self.faces:
            first, second = (t - t0) / dt, (t - t1) / dt
            beyond = max(-first, -second, first - length, second - length)
            if beyond <= BEYOND and (beyond > 0.0 or abs(ds) > 1e-9):
                return False
        return True


def apart(crossings: list[tuple[float, float, float, str]]) -> list[tuple[float, float, str]]:
    """Return crossings (how far beyond the bearer's end, low, high, id) that do not overlap, in order."""
    kept: list[tuple[float, float, str]] = []
    for _, low, high, name in sorted(crossings):
        if all(high <= a or low >= b for a, b, _ in kept):
            kept.append((low, high, name))
    return sorted(kept)


def clear_of_notches(ring: Ring, stations: list[float]) -> list[float]:
    """Move joists that would run into the rim board of a notch beside it."""
    notches = _notches(ring)
    moved = []
    for t in stations:
        for side, below in notches:
            inside = side - t if below else t - side
            if -RIM / 2.0 < inside < 1.5 * RIM:
                t = side - 1.5 * RIM if below else side + 1.5 * RIM
        moved.append(t)
    return sorted(set(moved))


def _notches(ring: Ring) -> list[tuple[float, bool]]:
    """Return t of the sides along s that are not the outermost ones, and whether the floor lies below (in t)."""
    low, high = min(p[1] for p in ring), max(p[1] for p in ring)
    found = []
    for i, p in enumerate(ring):
        q = ring[(i + 1) % len(ring)]
        if abs(p[1] - q[1]) < 1.0 and low + 1.0 < p[1] < high - 1.0:
            found.append((p[1], q[0] < p[0]))
    return found


def _claimed(patches: list[Patch], runs: list[tuple[float, float]]) -> tuple[list[list[Patch]], list[Patch]]:
    """Share patches out to the stretches of a joist line that they lie beside; the rest goes to the walls."""
    mine: list[list[Patch]] = [[] for _ in runs]
    rest: list[Patch] = []
    for s0, s1, a, b in patches:
        at = s0
        for i, (low, high) in enumerate(runs):
            p, q = max(at, low), min(s1, high)
            if q - p > 1e-9:
                if p - at > 1e-9:
                    rest.append((at, p, a, b))
                mine[i].append((p, q, a, b))
                at = q
        if s1 - at > 1e-9:
            rest.append((at, s1, a, b))
    return mine, rest
