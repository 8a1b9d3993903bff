"""Solid blocking between joists: over their bearings and in their spans, and beside walls pressed by earth.

Over bearings it holds the ends of joists that meet there, and the undersides of those that run on, against turning over
(IRC R502.7); in the span it stands every 8 ft at most, always where sawn joists are deeper than 2x12 (R502.7.1).

A wall pressed by earth along which joists run pushes its sill plate against the edge joist across that joist's weak side.  Blocks between it and the first
two joists, as deep as they are, stand at the anchor bolts and no farther apart than 4 ft (common practice, no source).
"""

import itertools
import math
from bisect import bisect_left, bisect_right
from collections import Counter
from collections.abc import Mapping

from balken.catalog.sections import rim_of, section, wood_of
from balken.framing.floors import FloorPlan, joist_faces
from balken.framing.joist_lines import RIM
from balken.framing.pieces import NOTHING_EDITED, MadeOf, MemberLine, Piece
from balken.framing.section_solids import level_bar
from balken.geometry.plane import Point, Ring
from balken.model.naming import Places, piece_name, place_at
from balken.units.system import FOOT, INCH

FARTHEST = 4.0 * FOOT
BAYS = 2
ALONG = 0.364
"""Tangent of 20 degrees: joists nearer to the line of a wall do not bear on it."""
FARTHEST_IN_SPAN = 8.0 * FOOT
DEEPEST_FREE = {"sawn": 12, "laminated veneer": 24, "I-joist": 24}
"""Nominal depth up to which joists need no blocks in their span, in (IRC R502.7.1; those that are made by their deck)."""
SAME_LINE = 1.6 * INCH
"""Joists nearer than this lie beside one another, mm."""
LEAST_BLOCK = 2.0 * INCH
"""Nothing shorter is nailed in."""


def blocking_pieces(
    plan: FloorPlan,
    size: str,
    height: float,
    pushed: tuple[tuple[str, float], ...],
    made: Mapping[str, MadeOf] = NOTHING_EDITED,
    there: tuple[Piece, ...] = (),
) -> tuple[Piece, ...]:
    """Return the blocks of a floor whose deck top is at ``height``; ``pushed``: walls and how far apart, mm.

    ``made``: what single joists are made of that are not as the layout; ``there``: blocks that stand already, which do as well.
    """
    standing = [(plan.frame.to(b.start[:2]), plan.frame.to(b.end[:2])[1]) for b in there if b.role == "blocking"]
    apart = dict(pushed)
    frame, floor, block = plan.frame, plan.floor, rim_of(size)
    lumber = section(block)
    species, grade = wood_of(block, floor.joists.species, floor.joists.grade)
    low = height - floor.deck - lumber.depth
    pieces: list[Piece] = []
    for i, (wall, (first, last, t, rise, inward)) in enumerate(zip(plan.outline.walls, _sides(plan), strict=True)):
        if wall not in apart or not inward or plan.outline.edge(i) != "wall":
            continue
        count = max(round_up((last - first - 2.0 * INCH) / min(apart[wall], FARTHEST)), 1)
        step = (last - first - 2.0 * INCH) / count
        for k in range(count + 1):
            s = first + INCH + k * step
            at = t + rise * (s - first)
            edge = at + inward * (RIM + abs(rise) * lumber.breadth / 2.0)
            for n, lines in enumerate(_beside(plan, s, at, inward, lumber.breadth / 2.0)):
                faces = [_faces(plan, line, size, made) for line in lines]
                both = min(low for low, _ in faces), max(high for _, high in faces)
                face, beyond = both if inward > 0.0 else both[::-1]
                length = (face - edge) * inward
                t0, t1 = sorted((edge, face))
                stands = any(abs(x - s) < lumber.breadth and a < t1 and b > t0 for (x, a), b in standing)
                if length >= LEAST_BLOCK and not stands:
                    start, end = (*frame.back(s, edge), low), (*frame.back(s, face), low)
                    solid = level_bar(start, end, lumber.breadth, lumber.depth)
                    pieces.append(
                        Piece(
                            piece_name(floor.id, "blocking", f"{i}.{k}.{n}"), "blocking", floor.id, floor.level, solid, "timber", start,
                            end, length, block, species, grade, wall,
                        )
                    )  # fmt: skip
                edge = beyond
    return tuple(pieces)


def solid_blocks(
    plan: FloorPlan, size: str, height: float, made: Mapping[str, MadeOf] = NOTHING_EDITED
) -> tuple[Piece, ...]:
    """Return the blocks over bearings and in spans of a floor whose deck top is at ``height``, as it asks for them.

    ``made``: what single joists are made of that are not as the layout.
    """
    floor = plan.floor
    rows: list[tuple[float, MemberLine, MemberLine]] = []
    if floor.blocking != "none":
        rows += _over_bearings(plan)
    if floor.blocking == "over bearings and in the span" or section(size).nominal[1] > DEEPEST_FREE[section(size).kind]:
        rows += _in_spans(plan)
    block = rim_of(size)
    lumber = section(block)
    species, grade = wood_of(block, floor.joists.species, floor.joists.grade)
    low = height - floor.deck - lumber.depth
    pieces, places = [], Places()
    by_t = sorted(plan.lines, key=lambda line: line.t)
    at_t = [line.t for line in by_t]

    def there(s: float, low: float, high: float) -> list[tuple[float, float]]:
        """The faces of all joists between two t that a block at s touches: those of both spans, where they butt."""
        near = by_t[bisect_left(at_t, low) : bisect_right(at_t, high)]
        reach = lumber.breadth / 2.0 + 1.0
        return [_faces(plan, line, size, made) for line in near if line.low - reach < s < line.high + reach]

    for s, one, other in rows:
        t0 = max((high for _, high in there(s, one.t - SAME_LINE, one.t + SAME_LINE)), default=one.t)
        t1 = min((low for low, _ in there(s, other.t - SAME_LINE, other.t + SAME_LINE)), default=other.t)
        if t1 - t0 < LEAST_BLOCK:
            continue
        start, end = (*plan.frame.back(s, t0), low), (*plan.frame.back(s, t1), low)
        solid = level_bar(start, end, lumber.breadth, lumber.depth)
        name = piece_name(floor.id, "blocking", places.text("between", place_at(one.place, s)))
        pieces.append(
            Piece(name, "blocking", floor.id, floor.level, solid, "timber", start, end, t1 - t0, block, species, grade)
        )
    return tuple(pieces)


def _faces(plan: FloorPlan, line: MemberLine, size: str, made: Mapping[str, MadeOf]) -> tuple[float, float]:
    return joist_faces(plan, line, size, made.get(piece_name(plan.floor.id, "joist", line.place)))


def _neighbours(plan: FloorPlan) -> list[tuple[MemberLine, MemberLine]]:
    """Return joists side by side, those of the lesser t first, no farther apart than two bays."""
    lines = sorted(plan.lines, key=lambda line: line.t)
    found = []
    for i, one in enumerate(lines):
        taken: list[tuple[float, float]] = []
        for other in itertools.islice(lines, i + 1, None):
            if other.t - one.t > 2.0 * plan.spacing:
                break
            low, high = max(one.low, other.low), min(one.high, other.high)
            if other.t - one.t < SAME_LINE or high - low < 1.0 or any(a < high and b > low for a, b in taken):
                continue
            taken.append((low, high))
            found.append((one, other))
    return found


def _over_bearings(plan: FloorPlan) -> list[tuple[float, MemberLine, MemberLine]]:
    """Return where blocks stand over bearings within the floor: along the joists, and between which two."""
    on: dict[str, list[tuple[float, MemberLine]]] = {}
    ends = Counter((round(line.t, 1), round(e, 1)) for line in plan.lines for e in (line.low, line.high))
    for line in plan.lines:
        for name, at, bearing in _inside(line):
            # Joists that butt meet in the middle of their bearing; those of a floor that ends there keep theirs inside it.
            met = next((e for e in (line.low, line.high) if abs(e - at) <= bearing / 2.0 + 1.0), at)
            alone = met != at and ends[(round(line.t, 1), round(met, 1))] == 1
            aside = math.copysign(RIM / 2.0, line.high + line.low - 2.0 * met) if alone else 0.0
            on.setdefault(name, []).append((met + aside if plan.floor.over == "butted" or alone else at, line))
    found, by_t = [], sorted(plan.lines, key=lambda line: line.t)
    at_t = [line.t for line in by_t]
    for rows in on.values():
        rows.sort(key=lambda row: row[1].t)
        for (s, one), (_, other) in itertools.pairwise(rows):
            if SAME_LINE < other.t - one.t <= 2.0 * plan.spacing and other.low - 1.0 <= s <= other.high + 1.0:
                # What another thing holds there, such as tails beside an opening, lies between all the same.
                near = by_t[bisect_right(at_t, one.t + SAME_LINE) : bisect_left(at_t, other.t - SAME_LINE)]
                between = [line for line in near if line.low - 1.0 <= s <= line.high + 1.0]
                row = itertools.pairwise([one, *between, other])
                found += [(s, a, b) for a, b in row if b.t - a.t > SAME_LINE]
    return found


def _inside(line: MemberLine) -> list[tuple[str, float, float]]:
    """Return those bearings of a joist over which no rim board, ledger, header or flush beam holds it."""
    stops, over = list(line.stops), line.overhangs
    # What ends at one of those stops short of the floor it carries.
    if over[1] == 0.0 and line.load_high - line.high > 1.0:
        stops.pop()
    if over[0] == 0.0 and line.low - line.load_low > 1.0:
        stops.pop(0)
    return [stop for stop in stops if stop[0]]


def _in_spans(plan: FloorPlan) -> list[tuple[float, MemberLine, MemberLine]]:
    """Return where blocks stand in spans longer than 8 ft: evenly, no farther apart than that."""
    found = []
    for one, other in _neighbours(plan):
        for (_, a, x), (_, b, y) in itertools.pairwise(one.stops):
            low, high = max(a + x / 2.0, other.low), min(b - y / 2.0, other.high)
            count = round_up((high - low) / FARTHEST_IN_SPAN) - 1
            found += [(low + (k + 1) * (high - low) / (count + 1), one, other) for k in range(count)]
    return found


def round_up(x: float) -> int:
    """Return the least whole number not less than x, but for rounding."""
    return int(-(-(x - 1e-6) // 1.0))


def _sides(plan: FloorPlan) -> list[tuple[float, float, float, float, float]]:
    """Return of each side of a floor s from and to, its t there and how that rises a mm of s, and which way is inward.

    Inward is 1 or -1, and 0 for sides more than 20 degrees off the joists: those bear on the wall there.
    """
    ring: Ring = plan.frame.ring(plan.outline.core)
    found = []
    for i, p in enumerate(ring):
        q: Point = ring[(i + 1) % len(ring)]
        (s0, t0), (s1, t1) = sorted((p, q))
        along = abs(t1 - t0) < ALONG * (s1 - s0)
        rise = (t1 - t0) / (s1 - s0) if along else 0.0
        found.append((s0, s1, t0, rise, (1.0 if q[0] > p[0] else -1.0) if along else 0.0))
    return found


def _beside(plan: FloorPlan, s: float, t: float, inward: float, half: float) -> list[list[MemberLine]]:
    """Return the joists nearest to an edge where a block stands, the nearest first, no more than there are bays; ``half`` of its thickness.

    Those that butt or lap over a bearing count as one: a block ends at whichever of them it touches.
    """
    reach, more = (BAYS + 0.5) * plan.spacing, half + 1.0
    near = [
        line for line in plan.lines if line.low - more < s < line.high + more and 0.0 < (line.t - t) * inward < reach
    ]
    found: list[list[MemberLine]] = []
    for line in sorted(near, key=lambda line: (line.t - t) * inward):
        if found and abs(line.t - found[-1][0].t) < SAME_LINE:
            found[-1].append(line)
        else:
            found.append([line])
    return [lines for lines in found if any(line.low - 1.0 < s < line.high + 1.0 for line in lines)][:BAYS]
