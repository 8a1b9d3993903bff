"""Joist floors: where joists lie and what they bear on (lines), then the solids.

The lines depend on the plan alone, so that sizes can be chosen from spans before anything is made.
"""

import itertools
from dataclasses import dataclass, replace

from balken.framing.frames import Frame, edge_angle, positions
from balken.framing.outlines import Outline
from balken.framing.pieces import Bearer, MemberLine, Piece, Snag, split_run
from balken.geometry.plane import (
    Point,
    Ring,
    add,
    area,
    bounds,
    chords,
    cross,
    distance,
    sub,
    to_segment,
    unit,
)
from balken.geometry.prism import box, upright
from balken.model.records import Floor
from balken.model.sections import section
from balken.units.system import INCH

RIM = 1.5 * INCH
"""Thickness of rim boards."""
HANGER = 1.5 * INCH
"""Length of bearing in a joist hanger (common practice, no source)."""
SHORTEST_PIECE = 3.0 * INCH
"""Nobody nails in a joist shorter than this."""
LEAST_GAP = 1.0 * INCH
"""Joists closer to the edge joist than this are left out."""


@dataclass(frozen=True, slots=True)
class EdgeStrip:
    """A strip of floor beside a wall parallel to the joists; the edge joist hands it to the wall."""

    bearer: str
    at: Point
    area: float


@dataclass(frozen=True, slots=True)
class FloorPlan:
    """Where the joists of a floor lie."""

    floor: Floor
    frame: Frame
    outline: Outline
    spacing: float
    lines: tuple[MemberLine, ...]
    edges: tuple[EdgeStrip, ...]
    bears_on: frozenset[str]
    snags: tuple[Snag, ...]

    @property
    def clear(self) -> float:
        """Greatest clear span, mm."""
        return max((line.clear for line in self.lines), default=0.0)

    @property
    def least_bearing(self) -> float:
        """Shortest bearing of any joist end that bears at all, mm."""
        return min(
            (b for line in self.lines for b, s in zip(line.bearings, line.supports, strict=True) if s), default=0.0
        )


def floor_plan(floor: Floor, outline: Outline, level: float, bearers: tuple[Bearer, ...], spacing: float) -> FloorPlan:
    """Lay joists over an outline; ``level`` is the top of the deck."""
    usable = at_height(bearers, level - floor.deck)
    base = edge_angle(outline.core)
    if floor.direction is not None:
        plan = _laid(floor, outline, Frame(floor.direction), usable, spacing, level)
        assert plan is not None
        return plan
    # A coarse look tells which way is likely better; the other is given up as soon as it is seen not to be.
    ways = [Frame(base + 90.0), Frame(base)]
    apart = [_laid(floor, outline, way, usable, max(spacing, _across(outline, way) / 4.0), level) for way in ways]
    first = min((0, 1), key=lambda i: (*_merit(apart[i]), i))
    better = _laid(floor, outline, ways[first], usable, spacing, level)
    # The first way wins where both are as good.
    worse_from = (*_merit(better), first == 0)
    other = _laid(floor, outline, ways[1 - first], usable, spacing, level, worse_from)
    plan = other or better
    assert plan is not None
    return plan


def _across(outline: Outline, frame: Frame) -> float:
    """Return the width of an outline square to joists, mm."""
    ts = [p[1] for p in frame.ring(outline.core)]
    return max(ts) - min(ts)


def _merit(plan: FloorPlan | None) -> tuple[bool, int]:
    """Return whether joists lack a bearing and their greatest span, whole mm; the lesser the better."""
    return (True, 0) if plan is None else (len(plan.snags) > 0, round(plan.clear))


def at_height(bearers: tuple[Bearer, ...], under_deck: float) -> tuple[Bearer, ...]:
    """Return those whose top could carry a joist under the deck: at most 20 in below it, 2 in above."""
    return tuple(b for b in bearers if -2.0 * INCH <= under_deck - b.top <= 20.0 * INCH)


REACH = 1500.0
"""What lies farther than this from a floor's outline has nothing to do with it, mm."""


def in_reach(bearers: tuple[Bearer, ...], outline: Outline) -> tuple[Bearer, ...]:
    """Return those near an outline, cut off where they run on: a wall changed far away leaves the floor alone."""
    x0, y0, x1, y1 = bounds(outline.core)
    low, high = (x0 - REACH, y0 - REACH), (x1 + REACH, y1 + REACH)
    found = []
    for b in bearers:
        span = _clipped(b.start, b.end, low, high)
        if span is None:
            continue
        # Rounded, so that what is in reach stays equal when only the far end of a line moves.
        start, end = ((round(x, 6), round(y, 6)) for x, y in span)
        found.append(b if (start, end) == (b.start, b.end) else replace(b, start=start, end=end))
    return tuple(found)


def _clipped(start: Point, end: Point, low: Point, high: Point) -> tuple[Point, Point] | None:
    """Return the part of a line inside a box."""
    for axis in (0, 1):
        if max(start[axis], end[axis]) < low[axis] or min(start[axis], end[axis]) > high[axis]:
            return None
        start, end = (
            _brought_in(start, end, axis, low[axis], high[axis]),
            _brought_in(end, start, axis, low[axis], high[axis]),
        )
    return start, end


def _brought_in(point: Point, other: Point, axis: int, low: float, high: float) -> Point:
    """Return a point moved along its line until its coordinate is within limits."""
    at = min(max(point[axis], low), high)
    if at == point[axis]:
        return point
    part = (at - point[axis]) / (other[axis] - point[axis])
    across = point[1 - axis] + (other[1 - axis] - point[1 - axis]) * part
    return (at, across) if axis == 0 else (across, at)


def _laid(
    floor: Floor,
    outline: Outline,
    frame: Frame,
    bearers: tuple[Bearer, ...],
    spacing: float,
    level: float,
    better_than: tuple[bool, int, bool] | None = None,
) -> FloorPlan | None:
    """Lay the joists one way; None as soon as their lack of bearing and clear span are no better than those given.

    ``better_than`` ends with whether as good is not good enough.
    """
    ring = frame.ring(outline.core)
    t_low, t_high = min(p[1] for p in ring), max(p[1] for p in ring)
    offsets = positions(t_high - t_low, spacing, RIM, LEAST_GAP + RIM / 2.0)
    stations = _clear_of_notches(ring, [t_low + o for o in offsets])
    fields = _fields(ring, stations, (t_low, t_high))
    crosser = _Crosser(frame, bearers)
    lines: list[MemberLine] = []
    snags: list[Snag] = []
    left_over = [*fields.pop(-1, []), *fields.pop(len(stations), [])]
    clear = 0.0
    for k, t in enumerate(stations):
        runs = chords((ring,), (0.0, t), (1.0, 0.0))
        mine, others = _claimed(fields.get(k, []), runs)
        left_over += others
        for i, (low, high) in enumerate(runs):
            patches = [(a, b, t1 - t0) for a, b, t0, t1 in mine[i]]
            hung = tuple(_hung(ring, outline, bearers, (s, t)) for s in (low, high))
            place = f"{k:03d}" + (f".{i}" if i else "")
            made = _pieces(place, t, patches, low, high, crosser, (hung[0], hung[1]))
            lines.extend(made)
            for line in made:
                clear = max(clear, line.clear)
                for support, s in zip(line.supports, (line.low, line.high), strict=True):
                    if not support:
                        snags.append(
                            Snag(
                                "no bearing", "a joist end has nothing to bear on", floor.id, (*frame.back(s, t), level)
                            )
                        )
        if _hopeless((len(snags) > 0, round(clear)), better_than):
            return None
    if _hopeless((len(snags) > 0, round(clear)), better_than):
        return None
    edges = _edges(ring, outline, frame, bearers, left_over)
    bears_on = frozenset(s for line in lines for s in line.supports if s)
    return FloorPlan(floor, frame, outline, spacing, tuple(lines), edges, bears_on, tuple(snags[:20]))


def _hopeless(so_far: tuple[bool, int], better_than: tuple[bool, int, bool] | None) -> bool:
    """Tell whether a layout can no more become better than another: neither part of its merit ever gets less."""
    if better_than is None:
        return False
    return so_far > better_than[:2] or (better_than[2] and so_far == better_than[:2])


Patch = tuple[float, float, float, float]
"""A piece of floor between s low and high and between t low and high (a rectangle or its equal)."""


def _notches(ring: Ring) -> list[tuple[float, bool]]:
    """Return t of the sides along s that are not the outermost ones, and whether the floor lies below (in t)."""
    low, high = min(p[1] for p in ring), max(p[1] for p in ring)
    found = []
    for i, p in enumerate(ring):
        q = ring[(i + 1) % len(ring)]
        if abs(p[1] - q[1]) < 1.0 and low + 1.0 < p[1] < high - 1.0:
            found.append((p[1], q[0] < p[0]))
    return found


def _clear_of_notches(ring: Ring, stations: list[float]) -> list[float]:
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


def _fields(ring: Ring, stations: list[float], sides: tuple[float, float]) -> dict[int, list[Patch]]:
    """Return the floor cut into patches by the station that is nearest (-1 and n: the two outer half bays).

    Bands between stations are cut again where a corner of the outline lies, and each takes the
    chord at its mid-height, which is exact for straight sides.
    """
    marks = [sides[0], *stations, sides[1]]
    cuts = [sides[0], *((a + b) / 2.0 for a, b in itertools.pairwise(marks)), sides[1]]
    corners = sorted({round(p[1], 6) for p in ring})
    found: dict[int, list[Patch]] = {}
    for k, (low, high) in enumerate(itertools.pairwise(cuts)):
        inner = [low, *(c for c in corners if low + 1e-6 < c < high - 1e-6), high]
        for a, b in itertools.pairwise(inner):
            if b - a > 1e-9:
                for s0, s1 in chords((ring,), (0.0, (a + b) / 2.0), (1.0, 0.0)):
                    found.setdefault(k - 1, []).append((s0, s1, a, b))
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


BEYOND = 300.0
"""A joist this far past a bearer's end still counts as crossing it, mm: corners are not yet cut there."""


class _Crosser:
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


def apart(crossings: list[tuple[float, float, float, str]]) -> list[tuple[float, float, str]]:
    """Return crossings (how far beyond the bearer's end, low, high, id) that do not overlap, in order."""
    kept: list[tuple[float, float, str]] = []
    for _, low, high, name in sorted(crossings):
        if all(high <= a or low >= b for a, b, _ in kept):
            kept.append((low, high, name))
    return sorted(kept)


def _pieces(
    place: str,
    t: float,
    patches: list[tuple[float, float, float]],
    low: float,
    high: float,
    crosser: _Crosser,
    hung: tuple[str, str],
) -> list[MemberLine]:
    inside = [c for c in crosser.at(t) if c[1] > low + 1.0 and c[0] < high - 1.0]
    first = next((c for c in inside if c[0] <= low + 60.0), None)
    last = next((c for c in reversed(inside) if c[1] >= high - 60.0), None)
    middle = [c for c in inside if c is not first and c is not last]
    stops: list[tuple[float, float, str]] = [
        first or (low, low + (RIM + HANGER if hung[0] else 0.0), hung[0]),
        *middle,
        last or (high - (RIM + HANGER if hung[1] else 0.0), high, hung[1]),
    ]
    found: list[MemberLine] = []
    for i, (a, b) in enumerate(itertools.pairwise(stops)):
        at_edge = (i == 0, i == len(stops) - 2)
        start = low + RIM if at_edge[0] else (a[0] + a[1]) / 2.0
        end = high - RIM if at_edge[1] else (b[0] + b[1]) / 2.0
        load = (low if at_edge[0] else start, high if at_edge[1] else end)
        bears = (max(0.0, a[1] - start), max(0.0, end - b[0]))
        centres = (start + bears[0] / 2.0, end - bears[1] / 2.0)
        if end - start < SHORTEST_PIECE:
            continue
        own = _merged([(max(p, load[0]), min(q, load[1]), w) for p, q, w in patches])
        letter = chr(ord("a") + i) if i < 26 else str(i)
        found.append(
            MemberLine(
                f"{place}{letter}",
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
    return found


def _hung(ring: Ring, outline: Outline, bearers: tuple[Bearer, ...], end: Point) -> str:
    """Return what a joist end hangs on where the wall there belongs to another part of the building.

    It meets a ledger on that wall's rim and stands in a hanger; what carries that rim carries it.
    """
    for i, wall in enumerate(outline.walls):
        if outline.shared[i] and to_segment(end, ring[i], ring[(i + 1) % len(ring)]) < 1.0:
            return next((b.id for b in bearers if b.wall == wall), "")
    return ""


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


def _edges(
    ring: Ring, outline: Outline, frame: Frame, bearers: tuple[Bearer, ...], patches: list[Patch]
) -> tuple[EdgeStrip, ...]:
    """Return the floor that no joist carries (half bays beside walls along the joists), handed to those walls."""
    areas: dict[int, tuple[float, float]] = {}
    for s0, s1, a, b in patches:
        middle = ((s0 + s1) / 2.0, (a + b) / 2.0)
        side = min(range(len(ring)), key=lambda i: _apart_from(ring, i, middle))
        size = (s1 - s0) * (b - a)
        known = areas.get(side, (0.0, 0.0))
        areas[side] = (known[0] + size, known[1] + size * middle[0])
    found = []
    for side, (size, moment) in sorted(areas.items()):
        if size < 1.0:
            continue
        wall = outline.walls[side]
        bearer = next((b.id for b in bearers if b.wall == wall), "")
        p, q = ring[side], ring[(side + 1) % len(ring)]
        s = min(max(moment / size, min(p[0], q[0])), max(p[0], q[0]))
        t = p[1] + (q[1] - p[1]) * ((s - p[0]) / (q[0] - p[0]) if abs(q[0] - p[0]) > 1.0 else 0.5)
        found.append(EdgeStrip(bearer, frame.back(s, t), size))
    return tuple(found)


def _apart_from(ring: Ring, side: int, point: Point) -> float:
    """Return how far a point is from a side; sides square to the joists count as farther."""
    p, q = ring[side], ring[(side + 1) % len(ring)]
    steep = abs(q[1] - p[1]) > abs(q[0] - p[0])
    return to_segment(point, p, q) + (1e5 if steep else 0.0)


def floor_pieces(plan: FloorPlan, size: str, level: float, stock: float) -> tuple[Piece, ...]:
    """Return joists, rim boards and deck of a floor whose deck top is at ``level``."""
    floor, frame = plan.floor, plan.frame
    lumber = section(size)
    top = level - floor.deck
    low = top - lumber.depth
    made_of = {"section": size, "species": floor.joists.species, "grade": floor.joists.grade}
    side = (*frame.t, 0.0)
    pieces: list[Piece] = []
    for line in plan.lines:
        start = (*frame.back(line.low, line.t), low)
        end = (*frame.back(line.high, line.t), low)
        solid = box(start, end, side, lumber.breadth, lumber.depth)
        key = f"{floor.id}/joist/{line.place}"
        pieces.append(
            Piece(key, "joist", floor.id, floor.level, solid, "timber", start, end, line.high - line.low, **made_of)
        )
    pieces.extend(_rims(plan, size, low, stock))
    ring = plan.outline.core
    deck = upright(ring, top, floor.deck) if floor.deck > 0.0 else None
    if deck is not None:
        (x0, y0), (x1, y1) = ring[0], ring[1]
        pieces.append(
            Piece(
                f"{floor.id}/deck",
                "floor deck",
                floor.id,
                floor.level,
                deck,
                "wood sheathing",
                (x0, y0, top),
                (x1, y1, top),
                distance(ring[0], ring[1]),
            )
        )
    return tuple(pieces)


def _rims(plan: FloorPlan, size: str, low: float, stock: float) -> list[Piece]:
    """Rim boards run through where joists meet them; edge joists fit between."""
    ring, frame, floor = plan.outline.core, plan.frame, plan.floor
    lumber = section(size)
    pieces = []
    for i, wall in enumerate(plan.outline.walls):
        p, q = ring[i], ring[(i + 1) % len(ring)]
        d = unit(p, q)
        inward = (-d[1], d[0])
        parallel = abs(d[0] * frame.s[0] + d[1] * frame.s[1]) > 0.707
        start, end = (add(p, d, _inset(ring, i, parallel)), add(q, d, -_inset(ring, i + 1, parallel)))
        line_start = add(start, inward, RIM / 2.0)
        for j, (a, b) in enumerate(split_run(distance(start, end), stock)):
            pa, pb = (*add(line_start, d, a), low), (*add(line_start, d, b), low)
            solid = box(pa, pb, (*inward, 0.0), RIM, lumber.depth)
            pieces.append(
                Piece(
                    f"{floor.id}/rim/{i}.{j}",
                    "rim board",
                    floor.id,
                    floor.level,
                    solid,
                    "timber",
                    pa,
                    pb,
                    b - a,
                    size,
                    floor.joists.species,
                    floor.joists.grade,
                    wall,
                )
            )
    return pieces


def _inset(ring: Ring, corner: int, parallel: bool) -> float:
    """Return by how much a rim board starts after a corner: those along the joists fit between the others."""
    n = len(ring)
    a, b, c = ring[corner % n - 1], ring[corner % n], ring[(corner + 1) % n]
    turn = cross(sub(b, a), sub(c, b)) / max(distance(a, b) * distance(b, c), 1.0)
    if abs(turn) < 0.02:
        return 0.0
    if turn > 0.0:
        return RIM if parallel else 0.0
    return 0.0 if parallel else -RIM


def floor_area(plan: FloorPlan) -> float:
    """Return the floor's area to the outer core faces, mm2."""
    return area(plan.outline.core)
