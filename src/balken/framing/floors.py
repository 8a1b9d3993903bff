"""Joist floors: where joists lie and what they bear on (lines), then the solids.

The lines depend on the plan alone, so that sizes can be chosen from spans before anything is made.
"""

import itertools
from collections.abc import Iterable, Iterator, Mapping

from msgspec.structs import replace

from balken.catalog.section_record import Section
from balken.catalog.sections import framed_of, rim_of, section, side_by_side, wood_of
from balken.framing.floor_edges import EdgeStrip, bare_edges, edge_strips
from balken.framing.floor_openings import Corners, Hole
from balken.framing.frames import Frame, edge_angle
from balken.framing.joist_lines import RIM, Crossed, JoistLines, seat_in_hanger
from balken.framing.joist_stations import ALONG, EDGE_JOISTS, joist_stations, longest_joist, thick
from balken.framing.outlines import Outline
from balken.framing.pieces import NOTHING_EDITED, Bearer, MadeOf, MemberLine, Piece, Snag, split_run
from balken.framing.section_solids import bar, cut_bar, level_bar
from balken.framing.tributary import Share
from balken.geometry.plane import (
    Point,
    Ring,
    add,
    area,
    bounds,
    cross,
    distance,
    sub,
    unit,
)
from balken.geometry.prism import box, upright
from balken.model.naming import Places, oldest, piece_name, place_at
from balken.model.records import Floor
from balken.units.system import FOOT, INCH
from balken.value import Value

AT_EDGE = 2.0 * INCH
"""A joist no farther than this from the edge of a floor lies on it, mm."""


class FloorPlan(Value, frozen=True):
    """Where the joists of a floor lie."""

    floor: Floor
    frame: Frame
    outline: Outline
    spacing: float
    lines: tuple[MemberLine, ...]
    edges: tuple[EdgeStrip, ...]
    bears_on: frozenset[str]
    snags: tuple[Snag, ...]
    holes: tuple[Hole, ...] = ()
    tributary: tuple[Share, ...] = ()
    """Of a slab that carries both ways, what comes where."""

    @property
    def headers(self) -> frozenset[str]:
        """The names of the headers of its openings."""
        return frozenset(hole.header(end) for hole in self.holes for end in (0, 1))

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


def floor_plan(
    floor: Floor,
    outline: Outline,
    level: float,
    bearers: tuple[Bearer, ...],
    spacing: float,
    openings: tuple[Corners, ...] = (),
    stock: float = 20.0 * FOOT,
    turned: float | None = None,
) -> FloorPlan:
    """Lay joists over an outline; ``level`` is the top of the deck, ``stock`` the longest board, mm.

    ``turned``: which way, where the floor leaves that open; without it, the shorter one.
    """
    usable = at_height(bearers, level - floor.deck)
    base = edge_angle(outline.core)
    way = turned if floor.direction is None else floor.direction
    if way is not None:
        plan = _laid(floor, outline, Frame(way), usable, spacing, level, (), None, stock)
        assert plan is not None
        return _with_openings(plan, usable, level, openings, stock)
    # A coarse look tells which way is likely better; the other is given up as soon as it is seen not to be.
    ways = [Frame(base + 90.0), Frame(base)]
    # Openings do not change the way.
    apart = [
        _laid(floor, outline, way, usable, max(spacing, _across(outline, way) / 4.0), level, (), None, stock)
        for way in ways
    ]
    first = min((0, 1), key=lambda i: (*_merit(apart[i]), i))
    better = _laid(floor, outline, ways[first], usable, spacing, level, (), None, stock)
    # The first way wins where both are as good.
    worse_from = (*_merit(better), first == 0)
    other = _laid(floor, outline, ways[1 - first], usable, spacing, level, (), worse_from, stock)
    plan = other or better
    assert plan is not None
    return _with_openings(plan, usable, level, openings, stock)


def _with_openings(
    plan: FloorPlan, bearers: tuple[Bearer, ...], level: float, openings: tuple[Corners, ...], stock: float
) -> FloorPlan:
    """Return a floor laid with its openings: trimmers lie in the spans beside them, the other spans stay as they are."""
    if not openings:
        return plan
    whole = _laid(plan.floor, plan.outline, plan.frame, bearers, plan.spacing, level, openings, None, stock)
    assert whole is not None
    if plan.floor.over == "lapped":  # those of the next span would lap on a trimmer
        return whole
    # Tails end at the headers.
    reach = [(hole.s0 - hole.thick - 1.0, hole.s1 + hole.thick + 1.0) for hole in whole.holes]

    def beside(line: MemberLine) -> bool:
        return any(line.low < high and line.high > low for low, high in reach)

    lines = [*(line for line in whole.lines if beside(line)), *(line for line in plan.lines if not beside(line))]
    lines.sort(key=lambda line: (line.t, line.low))
    # Where spans do not lie side by side, a part of the floor would be carried twice or not at all: then all stay trimmed.
    alike = abs(_carried(lines) - _carried(whole.lines)) < 1e-9 * _carried(whole.lines) and _same_edges(plan, whole)
    if not alike or len({line.place for line in lines}) < len(lines):
        return whole
    return replace(whole, lines=tuple(lines))


def _carried(lines: Iterable[MemberLine]) -> float:
    """Return the area of floor that joists carry, mm2."""
    return sum((high - low) * width for line in lines for low, high, width in line.loaded)


def _same_edges(one: FloorPlan, other: FloorPlan) -> bool:
    return len(one.edges) == len(other.edges) and all(
        a.bearer == b.bearer and abs(a.area - b.area) < 1.0 for a, b in zip(one.edges, other.edges, strict=True)
    )


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


AT_TRIMMER = 4.0 * INCH
"""A joist this near the middle of a trimmer's place is the trimmer, mm."""

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
    openings: tuple[Corners, ...] = (),
    better_than: tuple[bool, int, bool] | None = None,
    stock: float = 20.0 * FOOT,
) -> FloorPlan | None:
    """Lay the joists one way; None as soon as their lack of bearing and clear span are no better than those given.

    ``better_than`` ends with whether as good is not good enough.
    """
    ring = frame.ring(outline.core)
    t_low, t_high = min(p[1] for p in ring), max(p[1] for p in ring)
    crossed = Crossed(frame, bearers)
    stations, holes, snags = joist_stations(floor, outline, frame, spacing, level, openings, crossed)
    bays = _bays(floor, stations, spacing, (t_low, t_high))
    joists = JoistLines(
        ring,
        outline,
        bearers,
        frame,
        holes,
        seat_in_hanger(floor),
        "continuous" if floor.is_slab else floor.over,
        longest_joist(floor, stock),
        thick(floor),
    )
    left_over = [*joists.patches(bays[0]), *joists.patches(bays[-1])]
    lines: list[MemberLine] = []
    clear = 0.0
    for t, bay in zip(stations, bays[1:-1], strict=True):
        made, rest = joists.at(t, bay)
        lines += made
        left_over += rest
        for line in made:
            clear = max(clear, line.clear)
            for support, s in zip(line.supports, (line.low, line.high), strict=True):
                if not support:
                    at = (*frame.back(s, t), level)
                    what = "an end of a strip" if floor.is_slab else "a joist end"
                    snags.append(Snag("no bearing", f"{what} has nothing to bear on", floor.id, at))
        if _hopeless((len(snags) > 0, round(clear)), better_than):
            return None
    if _hopeless((len(snags) > 0, round(clear)), better_than):
        return None
    edges = edge_strips(ring, outline, frame, bearers, left_over)
    snags = [*_loose_headers(floor, frame, lines, holes, level), *snags, *bare_edges(floor, edges, level)]
    headers = {hole.header(end) for hole in holes for end in (0, 1)}
    bears_on = frozenset(s for line in lines for s, _, _ in line.stops if s and s not in headers)
    back = floor.start == "the other side"
    named = _named(lines, _datum(ring, outline, back), t_high if back else t_low)
    return FloorPlan(floor, frame, outline, spacing, named, edges, bears_on, tuple(snags[:20]), holes)


def _loose_headers(
    floor: Floor, frame: Frame, lines: list[MemberLine], holes: tuple[Hole, ...], level: float
) -> Iterator[Snag]:
    """Tell of headers that end where no trimmer runs."""
    for hole in holes if not floor.is_slab else ():
        for end in (0, 1):
            s = hole.header_at(end)
            for t in hole.trimmers:
                if not any(abs(m.t - t) < AT_TRIMMER and m.low - 1.0 <= s <= m.high + 1.0 for m in lines):
                    text = "a header at an opening ends where no joist runs beside the opening; move the opening inward"
                    yield Snag("opening", text, floor.id, (*frame.back(s, t), level))


def _bays(floor: Floor, stations: list[float], spacing: float, edges: tuple[float, float]) -> list[tuple[float, float]]:
    """Return the strip of floor that each station takes, with the two that go to the walls at the edges first and last.

    Each takes the floor that is nearest to it; one at the very edge, and the outer strips of a slab, take all of it.
    """
    t_low, t_high = edges
    marks = [t_low, *stations, t_high]
    cuts = [(a + b) / 2.0 for a, b in itertools.pairwise(marks)]
    edge = max(spacing, AT_EDGE) if floor.is_slab else AT_EDGE
    cuts[0] = t_low if stations and stations[0] - t_low < edge else cuts[0]
    cuts[-1] = t_high if stations and t_high - stations[-1] < edge else cuts[-1]
    return list(itertools.pairwise([t_low, *cuts, t_high]))


def _datum(ring: Ring, outline: Outline, back: bool = False) -> str:
    """Return the wall from which joists are counted: the first along them, or ``back`` from the last."""
    sides = [(ring[i], ring[(i + 1) % len(ring)], wall) for i, wall in enumerate(outline.walls)]
    sign, nearer = (-1.0, max) if back else (1.0, min)
    along = [(round(sign * nearer(p[1], q[1])), wall) for p, q, wall in sides if abs(q[0] - p[0]) > abs(q[1] - p[1])]
    first = min((t for t, _ in along), default=0)
    return oldest([wall for t, wall in along if t == first] or list(outline.walls))


def _named(lines: list[MemberLine], datum: str, zero: float) -> tuple[MemberLine, ...]:
    """Give each joist the place that is its name: how far from the wall they are counted from, and what it runs between."""
    places = Places()
    return tuple(
        replace(line, place=places.text("joist", place_at(datum, abs(line.t - zero), line.supports))) for line in lines
    )


def _hopeless(so_far: tuple[bool, int], better_than: tuple[bool, int, bool] | None) -> bool:
    """Tell whether a layout can no more become better than another: neither part of its merit ever gets less."""
    if better_than is None:
        return False
    return so_far > better_than[:2] or (better_than[2] and so_far == better_than[:2])


def floor_pieces(
    plan: FloorPlan, size: str, level: float, stock: float, made: Mapping[str, MadeOf] = NOTHING_EDITED
) -> tuple[Piece, ...]:
    """Return joists, rim boards and deck of a floor whose deck top is at ``level``.

    ``made``: what single members are made of that are not as the layout, by name.
    """
    floor, frame = plan.floor, plan.frame
    if floor.is_slab:
        return slab_pieces(plan, section(size).depth, level)
    top = level - floor.deck
    side = (*frame.t, 0.0)
    pieces: list[Piece] = []
    for line in plan.lines:
        key = piece_name(floor.id, "joist", line.place)
        lumber, name, species, grade = _made(floor, size, made.get(key))
        low, t = top - lumber.depth, sum(joist_faces(plan, line, size, made.get(key))) / 2.0
        start = (*frame.back(line.low, t), low)
        end = (*frame.back(line.high, t), low)
        cuts = made[key].cuts if key in made else ()
        solid = cut_bar(start, end, side, lumber, cuts) if cuts else bar(start, end, side, lumber)
        long = line.high - line.low
        pieces.append(
            Piece(key, "joist", floor.id, floor.level, solid, "timber", start, end, long, name, species, grade)
        )
    pieces.extend(_rims(plan, size, top, stock, made))
    ring = plan.outline.core
    pieces.extend(_headers(plan, size, top, made))
    openings = tuple(hole.left_out(frame) for hole in plan.holes)
    deck = upright(ring, top, floor.deck, openings) if floor.deck > 0.0 else None
    if deck is not None:
        (x0, y0), (x1, y1) = ring[0], ring[1]
        pieces.append(
            Piece(
                piece_name(floor.id, "deck"),
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


def slab_pieces(plan: FloorPlan, thickness: float, level: float) -> tuple[Piece, ...]:
    """Return the solid of a slab above ground with its holes."""
    floor, ring = plan.floor, plan.outline.core
    holes = tuple(hole.left_out(plan.frame) for hole in plan.holes)
    solid = upright(ring, level - thickness, thickness, holes)
    (x0, y0), (x1, y1) = ring[0], ring[1]
    start, end = (x0, y0, level - thickness), (x1, y1, level - thickness)
    name = piece_name(floor.id, "slab")
    return (
        Piece(name, "floor slab", floor.id, floor.level, solid, "concrete", start, end, distance(ring[0], ring[1])),
    )


def joist_faces(plan: FloorPlan, line: MemberLine, size: str, own: MadeOf | None) -> tuple[float, float]:
    """Return between which t a joist lies as it is made; more plies of a trimmer go away from its opening."""
    one = section(size).breadth
    wide = _made(plan.floor, size, own)[0].breadth if own is not None else one
    for hole in plan.holes if wide != one else ():
        if line.high > hole.s0 and line.low < hole.s1:
            if abs(line.t - hole.trimmers[0]) < 1.0:
                return hole.t0 - wide, hole.t0
            if abs(line.t - hole.trimmers[1]) < 1.0:
                return hole.t1, hole.t1 + wide
    return line.t - wide / 2.0, line.t + wide / 2.0


def _headers(plan: FloorPlan, size: str, top: float, made: Mapping[str, MadeOf]) -> list[Piece]:
    """Return the headers of openings, between their trimmers."""
    floor, frame = plan.floor, plan.frame
    pieces = []
    for hole in plan.holes:
        board = side_by_side(framed_of(size), hole.plies)
        for end in (0, 1):
            key, s = hole.header(end), hole.header_at(end)
            lumber, name, species, grade = _made(floor, board, made.get(key))
            low = top - lumber.depth
            a, b = (*frame.back(s, hole.t0), low), (*frame.back(s, hole.t1), low)
            solid = level_bar(a, b, lumber.breadth, lumber.depth)
            long = hole.t1 - hole.t0
            pieces.append(
                Piece(key, "floor header", floor.id, floor.level, solid, "timber", a, b, long, name, species, grade)
            )
    return pieces


def _made(floor: Floor, size: str, own: MadeOf | None) -> tuple[Section, str, str, str]:
    """Return the section of a joist or rim board, with its name, species and grade."""
    own = own or MadeOf()
    name = own.sized(size)
    species, grade = wood_of(name, own.species or floor.joists.species, own.grade or floor.joists.grade)
    return section(name), name, species, grade


class RimBoard(Value, frozen=True):
    """A rim board before it has a height: its place as part of its name, its wall, its ends in plan and the way inward."""

    place: str
    wall: str
    start: Point
    end: Point
    inward: Point


def rim_boards(plan: FloorPlan, stock: float) -> list[RimBoard]:
    """Return the rim boards; they run through where joists meet them, edge joists fit between."""
    ring, frame = plan.outline.core, plan.frame
    boards, places = [], Places()
    for i, wall in enumerate(plan.outline.walls):
        p, q = ring[i], ring[(i + 1) % len(ring)]
        d = unit(p, q)
        inward = (-d[1], d[0])
        along = abs(d[0] * frame.s[0] + d[1] * frame.s[1])
        kind = plan.outline.edge(i)
        if kind == "open" or (kind in EDGE_JOISTS and along > ALONG):
            continue  # a joist lies there, or joists end at those of another floor
        parallel = along > 0.707
        n = len(ring)
        # Where the next side is a joist that runs on past this one, the rim stops at it.
        ends = [
            max(_inset(ring, corner, parallel), 0.0 if plan.outline.edge(beside % n) in EDGE_JOISTS else -RIM)
            for corner, beside in ((i, i - 1), (i + 1, i + 1))
        ]
        start, end = add(p, d, ends[0]), add(q, d, -ends[1])
        line_start = add(start, inward, RIM / 2.0)
        for a, b in split_run(distance(start, end), stock):
            place = places.text("rim", place_at(wall, a))
            boards.append(RimBoard(place, wall, add(line_start, d, a), add(line_start, d, b), inward))
    return boards


def _rims(plan: FloorPlan, size: str, top: float, stock: float, made: Mapping[str, MadeOf]) -> list[Piece]:
    floor, board = plan.floor, rim_of(size)
    pieces = []
    for rim in rim_boards(plan, stock):
        key = piece_name(floor.id, "rim", rim.place)
        if key in made and made[key].gone:
            continue
        lumber, name, species, grade = _made(floor, board, made.get(key))
        low = top - lumber.depth
        start, end = (*rim.start, low), (*rim.end, low)
        # The outer face stays where it is; more plies go inward.
        shift = (lumber.breadth - RIM) / 2.0
        pa, pb = ((x + shift * rim.inward[0], y + shift * rim.inward[1], z) for x, y, z in (start, end))
        solid = box(pa, pb, (*rim.inward, 0.0), lumber.breadth, lumber.depth)
        long = distance(rim.start, rim.end)
        pieces.append(
            Piece(
                key, "rim board", floor.id, floor.level, solid, "timber", pa, pb, long, name, species, grade, rim.wall
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
    """Return the floor's area to the outer core faces, without its openings, mm2."""
    return area(plan.outline.core) - sum((h.s1 - h.s0) * (h.t1 - h.t0) for h in plan.holes)
