"""Joists one by one: what a line across a floor bears on, where it is cut, and which strip of floor it carries."""

import itertools
from bisect import bisect_right

from msgspec.structs import replace

from balken.framing.floor_openings import Hole
from balken.framing.frames import Frame
from balken.framing.outlines import Outline
from balken.framing.pieces import Bearer, MemberLine
from balken.geometry.plane import Point, Ring, add, chords, distance, to_segment
from balken.model.records import Floor
from balken.units.system import INCH

RIM = 1.5 * INCH
"""Thickness of rim boards."""
HANGER = 1.5 * INCH
"""Length of bearing in a joist hanger (common practice, no source)."""
I_HANGER = 2.0 * INCH
"""The same of an I-joist's hanger (common practice, no source)."""
SHORTEST_PIECE = 3.0 * INCH
"""Nobody nails in a joist shorter than this."""
BEYOND = 300.0
"""A joist this far past a bearer's end still counts as crossing it, mm: corners are not yet cut there."""
EQUAL = 1e-6
"""Heights and lengths that differ by less are the same, mm."""

Patch = tuple[float, float, float, float]
"""A piece of floor between s low and high and between t low and high (a rectangle or its equal)."""
Hung = tuple[str, float]
"""What a joist end hangs on ("" for nothing), and how far behind the edge of the floor or opening it ends, mm."""
Bay = tuple[float, float]
"""The strip of floor nearest to one station, from t to t."""


def seat_in_hanger(floor: Floor) -> float:
    """Return how much of a joist of a floor lies in a hanger, mm."""
    return I_HANGER if floor.joists.made_of == "I-joist" else HANGER


class JoistLines:
    """The joists across one outline, all along s.

    Between the corners of the outline and the ends of what it bears on, all joists with bays as wide are alike;
    each is made once and repeated.
    """

    def __init__(
        self,
        ring: Ring,
        outline: Outline,
        bearers: tuple[Bearer, ...],
        frame: Frame,
        holes: tuple[Hole, ...] = (),
        hanger: float = HANGER,
    ) -> None:
        self.hanger = hanger
        self.holes, self.rings = holes, (ring, *(hole.ring for hole in holes))
        self.ring, self.outline, self.bearers = ring, outline, bearers
        self.crossed = Crossed(frame, bearers)
        self.hangs = frozenset(b.id for b in bearers if b.hung)
        self.corners = sorted({round(p[1], 6) for one in self.rings for p in one})
        self.marks = sorted({*self.corners, *self.crossed.marks()})
        self._level: dict[int, bool] = {}
        self._made: dict[tuple[int, float], list[MemberLine]] = {}

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
        key = (stretch, round(bay[1] - bay[0], 6))
        known = self._made.get(key)
        if known is not None:
            return [replace(line, t=t) for line in known], []
        runs = chords(self.rings, (0.0, t), (1.0, 0.0))
        mine, rest = _claimed(self.patches(bay), runs)
        made: list[MemberLine] = []
        for i, (low, high) in enumerate(runs):
            hung = self._hung((low, t)), self._hung((high, t))
            lines, short = _cut(t, mine[i], low, high, self.crossed.at(t), hung, self.hangs, self.hanger)
            made += lines
            rest += short
        if stretch >= 0 and not rest:
            self._made[key] = made
        return made, rest

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

    def _hung(self, end: Point) -> Hung:
        """Return what a joist end hangs on, and how thick what stands before it is.

        At the wall of another part of the building it meets a ledger on that wall's rim and stands in a hanger; what
        carries that rim carries it.  At an opening it hangs on the header.
        """
        s, t = end
        for hole in self.holes:
            if hole.t0 < t < hole.t1 and min(abs(s - hole.s0), abs(s - hole.s1)) < 1.0:
                return hole.header(0 if abs(s - hole.s0) < 1.0 else 1), hole.thick
        ring = self.ring
        for i, wall in enumerate(self.outline.walls):
            if self.outline.shared[i] and to_segment(end, ring[i], ring[(i + 1) % len(ring)]) < 1.0:
                return next((b.id for b in self.bearers if b.wall == wall), ""), RIM
        return "", RIM


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


def _cut(
    t: float,
    patches: list[Patch],
    low: float,
    high: float,
    crossed: list[tuple[float, float, str]],
    hung: tuple[Hung, Hung],
    hangs: frozenset[str],
    hanger: float = HANGER,
) -> tuple[list[MemberLine], list[Patch]]:
    """Return the joists on one stretch of a line, from edge to edge, cut over the bearers between.

    With them the floor beside pieces too short to be nailed in.  ``hangs``: bearers at whose faces they hang, ``hanger``: how
    much of them lies in a hanger.
    """
    inside = [c for c in crossed if c[1] > low + 1.0 and c[0] < high - 1.0]
    first = next((c for c in inside if c[0] <= low + 60.0), None)
    last = next((c for c in reversed(inside) if c[1] >= high - 60.0), None)
    middle = [c for c in inside if c is not first and c is not last]
    stops: list[tuple[float, float, str]] = [
        first or (low, low + (hung[0][1] + hanger if hung[0][0] else 0.0), hung[0][0]),
        *middle,
        last or (high - (hung[1][1] + hanger if hung[1][0] else 0.0), high, hung[1][0]),
    ]
    found: list[MemberLine] = []
    short: list[Patch] = []
    for i, (a, b) in enumerate(itertools.pairwise(stops)):
        at_edge = (i == 0, i == len(stops) - 2)
        start = low + hung[0][1] if at_edge[0] else (a[0] + a[1]) / 2.0
        end = high - hung[1][1] if at_edge[1] else (b[0] + b[1]) / 2.0
        load = (low if at_edge[0] else start, high if at_edge[1] else end)
        if a[2] in hangs and not at_edge[0]:
            start, a = a[1], (a[1], a[1] + hanger, a[2])
        if b[2] in hangs and not at_edge[1]:
            end, b = b[0], (b[0] - hanger, b[0], b[2])
        bears = (max(0.0, a[1] - start), max(0.0, end - b[0]))
        centres = (start + bears[0] / 2.0, end - bears[1] / 2.0)
        beside = [(max(p, load[0]), min(q, load[1]), t0, t1) for p, q, t0, t1 in patches]
        if end - start < SHORTEST_PIECE:
            short += [patch for patch in beside if patch[1] - patch[0] > EQUAL]
            continue
        own = _merged([(p, q, t1 - t0) for p, q, t0, t1 in beside])
        found.append(
            MemberLine(
                "",
                t,
                max((w for _, _, w in _stacked(own)), default=0.0),
                start,
                end,
                *load,
                (a[2], b[2]),
                centres,
                bears,
                (b[0] if b[2] else end) - (a[1] if a[2] else start),
                own if len(own) != 1 or own[0][:2] != load else (),
            )
        )
    return found, short


def _merged(patches: list[tuple[float, float, float]]) -> tuple[tuple[float, float, float], ...]:
    """Return patches of some length; those over the same stretch are one, as wide as both."""
    wide: dict[tuple[float, float], float] = {}
    for low, high, width in patches:
        if high - low > 1e-6:
            key = (round(low, 6), round(high, 6))
            wide[key] = wide.get(key, 0.0) + width
    return tuple((low, high, round(width, 6)) for (low, high), width in wide.items())


def _stacked(patches: tuple[tuple[float, float, float], ...]) -> list[tuple[float, float, float]]:
    """Return the patches cut at one another's ends, widths added where they lie side by side."""
    marks = sorted({x for low, high, _ in patches for x in (low, high)})
    return [
        (a, b, sum(w for low, high, w in patches if low <= a + 1e-6 and high >= b - 1e-6))
        for a, b in itertools.pairwise(marks)
    ]
