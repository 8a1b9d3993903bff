"""What stands on what: walls on walls, columns and decks, columns on pads, columns, walls and decks; in which order.

Walls go straight down, stretch by stretch: what lies over a wall stands on it, what lies over a deck alone loads its
joists, a stretch longer than a bay over nothing is lost, and named.
"""

from collections.abc import Iterator, Mapping, Sequence
from typing import NamedTuple

import shapely

from balken.framing.bands import Band, WallLine
from balken.framing.beams import BeamLine, hangs_on
from balken.framing.foundations import FoundationRun
from balken.framing.pads import PadPlace
from balken.geometry.plane import Point, bare, chords, distance, off_line
from balken.loads.decks import Deck
from balken.loads.stands import Stand
from balken.units.system import INCH

UNDER_WALL = 508.0
"""A column's head may lie this far below the foot of a wall that stands on it, mm: plate, floor and beam between."""
UP = 51.0
"""How far above it the foot of what stands there may begin lower, mm."""
ASIDE = 60.0
"""How far off the core of a wall, or the middle of another column, a column may stand, mm."""
BRIDGED = 610.0
"""What a wall's plates carry over by themselves, mm: one bay of studs (common practice, no source)."""
LEAST_COVERED = 0.95
"""A wall stands on walls alone when at least this part of its length has walls under it."""


class Seat(NamedTuple):
    """What something stands on: a wall, run, column, pad or deck, "" where nothing is under it.

    ``at``: the place along it, mm (of a column on a wall, or of a wall's column along the wall).  ``span``: the stretch of
    the wall above that stands there, for decks and for nothing.  ``along``, ``bearing``: of a beam's seat, the place along
    the beam and the length it bears there, mm.
    """

    on: str
    at: float = 0.0
    span: tuple[float, float] | None = None
    along: float = 0.0
    bearing: float = 0.0


On = tuple[Seat, ...]


class Standing(NamedTuple):
    """What stands on what, each after all that stands on it; ``circles``: what would stand on itself, and so on nothing."""

    on: dict[str, On]
    circles: tuple[tuple[str, ...], ...]


def stands_on(
    lines: dict[str, WallLine],
    runs: tuple[FoundationRun, ...],
    places: tuple[PadPlace, ...] = (),
    stands: tuple[Stand, ...] = (),
    decks: tuple[Deck, ...] = (),
    beams: tuple[BeamLine, ...] = (),
) -> Standing:
    """Return walls, columns, beams, decks that carry such, and runs, each after all that stands on it, with what takes its load."""
    run_of = {run.wall: run for run in runs}
    feet = {w: line.band.bottom for w, line in lines.items()} | {stand.id: stand.foot for stand in stands}
    feet |= {beam.id: beam.top for beam in beams}
    known = {stand.id: stand for stand in stands}
    by_beam = {beam.id: beam for beam in beams}
    found: dict[str, On] = {}
    for name in sorted(feet, key=lambda n: -feet[n]):
        if name in known:
            foot = under_column(known[name], stands, places, lines, runs, decks, beams)
            found[name] = () if foot is None else (foot,)
            continue
        if name in by_beam:
            found[name] = under_beam(by_beam[name], lines, runs, stands, beams)
            continue
        run = run_of.get(name)
        found[name] = (Seat(run.id),) if run else under_wall(lines[name], lines, stands, decks, beams)
    loaded = {seat.on for under in found.values() for seat in under}
    for deck in decks:
        if deck.id in loaded or deck.tails or deck.typed:
            found[deck.id] = tuple(Seat(bearer) for bearer in deck.bearers)
    found |= {run.id: () for run in runs}
    circles: list[tuple[str, ...]] = []
    while True:
        try:
            return Standing({name: found[name] for name in in_order(found)}, tuple(circles))
        except Circle as circle:
            circles.append(circle.names)
            found |= dict.fromkeys(circle.names, ())


def in_order(found: Mapping[str, On]) -> list[str]:
    """Return names so that each comes after all that stands on it, else as they come; raises ``Circle``."""
    above: dict[str, list[str]] = {name: [] for name in found}
    for name, under in found.items():
        for seat in under:
            if seat.on in above:
                above[seat.on].append(name)
    done: dict[str, None] = {}
    for first in found:
        way: list[tuple[str, Iterator[str]]] = [(first, iter(above[first]))] if first not in done else []
        on_the_way = {first}
        while way:
            name, rest = way[-1]
            upper = next((other for other in rest if other not in done), None)
            if upper is None:
                way.pop()
                on_the_way.discard(name)
                done[name] = None
            elif upper in on_the_way:
                raise Circle([n for n, _ in way[[n for n, _ in way].index(upper) :]])
            else:
                way.append((upper, iter(above[upper])))
                on_the_way.add(upper)
    return list(done)


class Circle(ValueError):
    """Things that stand on one another in a circle: ``names``."""

    def __init__(self, names: list[str]) -> None:
        super().__init__(f"These stand on one another in a circle: {', '.join(names)}.")
        self.names = tuple(names)


# Walls ----------------------------------------------------------------------------------------------


def under_wall(
    line: WallLine,
    lines: dict[str, WallLine],
    stands: tuple[Stand, ...],
    decks: tuple[Deck, ...],
    beams: tuple[BeamLine, ...] = (),
) -> On:
    """Return what a wall stands on, where no foundation is under it."""
    b, along = line.band, beams_below(line, beams)
    # A column under a beam along the wall carries the beam.
    free = [s for s in stands if not any(on_beam(beam, s.at, s.half) is not None for beam in beams if along)]
    columns = on_columns(line, tuple(free))
    walls = (*walls_below(line, lines), *along)
    if columns:
        return (*(Seat(other) for other, _, _ in walls), *(Seat(c, along) for c, along, _ in columns))
    if sum(high - low for _, low, high in walls) >= LEAST_COVERED * b.length:
        return tuple(Seat(other) for other, _, _ in walls)
    seats = [Seat(other) for other, _, _ in walls]
    for low, high in bare(((low, high) for _, low, high in walls), b.length):
        if walls and high - low <= BRIDGED:
            continue
        on_decks = list(_over_decks(line, decks, low, high))
        seats += [Seat(deck, 0.0, span) for deck, span in on_decks]
        for span in bare((span for _, span in on_decks), high, low):
            if span[1] - span[0] > BRIDGED or not (walls or on_decks):
                seats.append(Seat("", 0.0, span))
    return tuple(seats) if any(seat.on for seat in seats) else ()


def _over_decks(
    line: WallLine, decks: tuple[Deck, ...], low: float, high: float
) -> Iterator[tuple[str, tuple[float, float]]]:
    """Give the decks under a stretch of a wall, each with what of the stretch stands on it.

    A wall that a floor ends at stands beside its joists, not on them.
    """
    start, direction = core_line(line)
    for deck in decks:
        if abs(line.band.bottom - deck.top) <= UP and line.wall.id not in (
            *deck.plan.floor.walls,
            *deck.plan.outline.walls,
        ):
            for a, b in chords(deck.rings, start, direction):
                if min(b, high) - max(a, low) > 1.0:
                    yield deck.id, (round(max(a, low), 6), round(min(b, high), 6))


def core_line(line: WallLine) -> tuple[Point, Point]:
    """Return where the middle of a wall's core starts in plan, and its direction."""
    b = line.band
    return b.at(0.0, (line.core[0] + line.core[1]) / 2.0), b.direction


def walls_below(line: WallLine, lines: dict[str, WallLine]) -> tuple[tuple[str, float, float], ...]:
    """Return the walls on which a wall stands, each with from where to where along the wall above, mm.

    They lie on its line, their heads at most 2 ft below its foot.
    """
    b = line.band
    found: list[tuple[str, float, float]] = []
    for other_id, other in lines.items():
        o = other.band
        if other is line or not 0.0 <= b.bottom - o.top < 610.0:
            continue
        along_a, aside_a = off_line(b.start, o.start, o.end)
        along_b, aside_b = off_line(b.end, o.start, o.end)
        if max(abs(aside_a), abs(aside_b)) >= 150.0:
            continue
        low, high = max(min(along_a, along_b), -150.0), min(max(along_a, along_b), o.length + 150.0)
        if high - low > 1.0:
            ends = (low - along_a, high - along_a) if along_b > along_a else (along_a - high, along_a - low)
            found.append((other_id, *ends))
    return tuple(found)


def beams_below(line: WallLine, beams: tuple[BeamLine, ...]) -> tuple[tuple[str, float, float], ...]:
    """Return the beams on which a wall stands, each with from where to where along the wall, mm: as of walls."""
    b = line.band
    found: list[tuple[str, float, float]] = []
    for beam in beams:
        if not -UP <= b.bottom - beam.top < 610.0:
            continue
        (along_a, aside_a), (along_b, aside_b) = (off_line(p, *core_ends(line)) for p in (beam.start, beam.end))
        if max(abs(aside_a), abs(aside_b)) >= 150.0:
            continue
        low, high = max(min(along_a, along_b), 0.0), min(max(along_a, along_b), b.length)
        if high - low > 1.0:
            found.append((beam.id, low, high))
    return tuple(found)


def core_ends(line: WallLine) -> tuple[Point, Point]:
    """Return the ends of the middle of a wall's core in plan."""
    depth = (line.core[0] + line.core[1]) / 2.0
    return line.band.at(0.0, depth), line.band.at(line.band.length, depth)


def gaps_under(
    line: WallLine, lines: dict[str, WallLine], under: tuple[str, ...], places: dict[str, Point]
) -> list[tuple[float, float]]:
    """Return the stretches of a wall longer than a bay that have neither wall nor column under them, mm along it.

    ``places``: where columns stand in plan, by id.
    """
    b = line.band
    covered = []
    for other in under:
        if other in places:
            along = off_line(places[other], b.start, b.end)[0]
            covered.append((along, along))
        elif other in lines:
            ends = [off_line(p, b.start, b.end)[0] for p in (lines[other].band.start, lines[other].band.end)]
            covered.append((min(ends), max(ends)))
    return [(low, high) for low, high in bare(covered, b.length) if high - low > BRIDGED]


# Columns --------------------------------------------------------------------------------------------


def on_columns(line: WallLine, stands: tuple[Stand, ...]) -> list[tuple[str, float, float]]:
    """Return the columns under a wall: id, place along it and half the side, mm."""
    b = line.band
    found = []
    for stand in stands:
        if not -UP <= b.bottom - stand.head <= UNDER_WALL:
            continue
        place = _along(b, line.core, stand)
        if place is not None:
            found.append((stand.id, place.at, stand.half))
    return found


class _Place(NamedTuple):
    """Where along a wall something stands on it, and how much of its width lies on it, mm, to the nearest."""

    at: float
    covered: int


def _place(at: float, half: float, length: float) -> _Place:
    covered = round(min(at + half, length) - max(at - half, 0.0))
    return _Place(round(min(max(at, 0.0), length), 6), covered)


def _along(b: Band, core: tuple[float, float], stand: Stand) -> _Place | None:
    """Return where along a wall a column stands under or on its core, None beside it."""
    along, aside = off_line(stand.at, b.start, b.end)
    depth = aside if _inward_is_left(b) else -aside
    near, far = core[0] - b.set_out, core[1] - b.set_out
    if not near - ASIDE <= depth <= far + ASIDE or not -stand.half - ASIDE <= along <= b.length + stand.half + ASIDE:
        return None
    return _place(along, stand.half, b.length)


def _inward_is_left(b: Band) -> bool:
    return b.direction[0] * b.inward[1] - b.direction[1] * b.inward[0] > 0.0


def under_column(
    stand: Stand,
    stands: tuple[Stand, ...],
    places: tuple[PadPlace, ...],
    lines: dict[str, WallLine],
    runs: tuple[FoundationRun, ...],
    decks: tuple[Deck, ...] = (),
    beams: tuple[BeamLine, ...] = (),
) -> Seat | None:
    """Return what a column's foot stands on: a pad, another column, a foundation wall, a beam, a wall, a deck; None on nothing.

    Of several walls side by side it is the one of which it covers most, where that is as much the one that reaches highest.
    """
    pad = next((place.pad.id for place in places if stand.id in place.columns), None)
    if pad is not None:
        return Seat(pad)
    for other in stands:
        over = -UP <= stand.foot - other.head <= UNDER_WALL
        if other is not stand and over and distance(stand.at, other.at) < ASIDE:
            return Seat(other.id)
    on: list[tuple[_Place, float, str]] = []
    for run in runs:
        if -UP <= stand.foot - run.bearer.top <= UNDER_WALL and run.band.layers:
            place = _along(lines[run.wall].band, run.band.layers[0], stand)
            on += [] if place is None else [(place, run.bearer.top, run.id)]
    if on:
        return _most(on)
    for beam in beams:
        if -UP <= stand.foot - beam.top <= UNDER_WALL and (along := on_beam(beam, stand.at, stand.half)) is not None:
            return Seat(beam.id, along)
    for name, line in lines.items():
        if line.wall.role != "divides" and -UP <= stand.foot - line.band.top <= UNDER_WALL:
            place = _along(line.band, line.core, stand)
            on += [] if place is None else [(place, line.band.top, name)]
    if on:
        return _most(on)
    return next((Seat(deck.id) for deck in decks if abs(stand.foot - deck.top) <= UP and _on(deck, stand.at)), None)


def _most(on: list[tuple[_Place, float, str]]) -> Seat:
    """Return the seat on the wall of which most is covered, on the highest of such."""
    place, _, name = max(on, key=lambda row: (row[0].covered, round(row[1], 1)))
    return Seat(name, place.at)


def _on(deck: Deck, at: Point) -> bool:
    return any(low <= 0.0 <= high for low, high in chords(deck.rings, at, (1.0, 0.0)))


# Beams ----------------------------------------------------------------------------------------------

DEEPEST = 900.0
"""What carries a beam has its head at most this far below the beam's top, mm: no beam is deeper."""
LEAST_SEAT = 12.0
"""A beam that reaches less than this into a wall does not bear there, mm."""
JOINT = 1.0
"""A beam whose middle lies no farther than this beyond a wall's end lies on it, mm."""
WHOLE = 0.95
"""A beam of whose breadth so much lies on a wall lies on it whole."""
CLOSE = 150.0
"""Seats nearer to one another than this are one, mm."""
AT_END = 100.0
"""A beam ends on another where its end lies within this of that one's face, mm."""
HUNG = 2.5 * INCH
"""So long a beam bears in a hanger, mm; hangers with a shorter seat are not chosen for it (common practice, no source)."""


def on_beam(beam: BeamLine, point: Point, half: float = 0.0) -> float | None:
    """Return where along a beam a place lies on it, None beside it."""
    along, aside = off_line(point, beam.start, beam.end)
    if abs(aside) > ASIDE + beam.breadth / 2.0 or not -half - ASIDE <= along <= beam.length + half + ASIDE:
        return None
    return round(min(max(along, 0.0), beam.length), 6)


def under_beam(
    beam: BeamLine,
    lines: dict[str, WallLine],
    runs: tuple[FoundationRun, ...],
    stands: tuple[Stand, ...],
    beams: tuple[BeamLine, ...],
) -> On:
    """Return the seats of a beam in their order along it: columns, foundation walls, walls that bear, other beams.

    Each is as long as the beam lies on it.  Where two lie at one place, the column counts, then the foundation; of two walls the one
    on which more of its breadth lies, where that is as much the one that reaches higher.
    """
    found = [seat for stand in stands if (seat := _on_column(beam, stand)) is not None]
    pockets: list[tuple[Seat, int, float]] = []
    for run in runs:
        band = run.band
        if band.layers and band.bottom + 200.0 <= beam.top <= band.top + DEEPEST:
            pockets += _in_wall(beam, run.id, band, band.layers[0])
    on_walls: list[tuple[Seat, int, float]] = []
    for name, line in lines.items():
        if (
            line.wall.role != "divides"
            and line.band.bottom + 200.0 <= beam.top
            and -UP * 2 <= beam.top - line.band.top <= DEEPEST
        ):
            on_walls += _in_wall(beam, name, line.band, line.core)
    cores = [(run.band, run.band.layers[0]) for run in runs if run.band.layers]
    for rows, under in ((pockets, cores), (on_walls, [(line.band, line.core) for line in lines.values()])):
        for seat, covered, top in sorted(rows, key=lambda row: (-row[1], -round(row[2], 1))):
            beside = covered < beam.breadth - JOINT
            found.append(_lies_on(beam, seat, top, under) if beside else seat)
    found += [seat for other in beams if other.id != beam.id and (seat := _on_other(beam, other)) is not None]
    kept: list[Seat] = []
    for seat in found:
        if all(abs(seat.along - other.along) > CLOSE for other in kept):
            kept.append(seat)
    return tuple(sorted(kept, key=lambda seat: seat.along))


def _on_column(beam: BeamLine, stand: Stand) -> Seat | None:
    if not -UNDER_WALL <= beam.top - stand.head <= DEEPEST or stand.foot > beam.top - 300.0:
        return None
    along = on_beam(beam, stand.at, stand.half)
    if along is None:
        return None
    low, high = max(along - stand.side / 2.0, 0.0), min(along + stand.side / 2.0, beam.length)
    return Seat(stand.id, 0.0, None, round((low + high) / 2.0, 6), round(high - low, 6))


def _lies_on(beam: BeamLine, seat: Seat, top: float, under: Sequence[tuple[Band, tuple[float, float]]]) -> Seat:
    """Return a seat at the end of a wall with its bearing as much shorter as less of the beam's breadth lies on that, and on walls as high
    that it meets there.
    """
    half, (dx, dy) = seat.bearing / 2.0, beam.direction
    corners = [(seat.along + s * half, t * beam.breadth / 2.0) for s, t in ((-1, -1), (1, -1), (1, 1), (-1, 1))]
    (x, y), foot = beam.start, list[Point]()
    for along, aside in corners:
        foot.append((x + dx * along - dy * aside, y + dy * along + dx * aside))
    lies = shapely.Polygon(foot)
    near = [shapely.Polygon(_core(band, core)) for band, core in under if abs(band.top - top) <= UP]
    part = lies.intersection(shapely.union_all([ring for ring in near if ring.intersects(lies)])).area / lies.area
    return seat if part > WHOLE else seat._replace(bearing=round(seat.bearing * part, 6))


def _core(b: Band, core: tuple[float, float], past: float = 0.0) -> tuple[Point, ...]:
    """Return the core of a wall in plan, so much longer at both ends."""
    low, high = -past, b.length + past
    return tuple(b.at(x, core[k]) for x, k in ((low, 0), (high, 0), (high, 1), (low, 1)))


def _in_wall(beam: BeamLine, name: str, b: Band, core: tuple[float, float]) -> list[tuple[Seat, int, float]]:
    """Return the seats of a beam where its line crosses a wall's core or ends in it, each with how much of its breadth lies on the wall, and
    how high that reaches, mm.
    """
    # A beam in the joint of two walls lies on both, whatever sums of floats say.
    ring = _core(b, core, JOINT)
    found = []
    (dx, dy), (ex, ey) = beam.direction, b.direction
    if abs(dx * ey - dy * ex) < 0.34:
        return []  # it runs along the wall
    for low, high in chords((ring,), beam.start, beam.direction):
        low, high = max(low, 0.0), min(high, beam.length)
        if high - low >= LEAST_SEAT:
            middle = beam.at((low + high) / 2.0)
            place = _place(off_line(middle, b.start, b.end)[0], beam.breadth / 2.0, b.length)
            seat = Seat(name, place.at, None, round((low + high) / 2.0, 6), round(high - low, 6))
            found.append((seat, place.covered, b.top))
    return found


def _on_other(beam: BeamLine, other: BeamLine) -> Seat | None:
    """Return the seat of a beam on another one: where it ends at that one's side, or crosses over it."""
    (dx, dy), (ex, ey) = beam.direction, other.direction
    if abs(dx * ey - dy * ex) < 0.34 or abs(beam.top - other.top) > DEEPEST:
        return None
    half = other.breadth / 2.0
    for along, end in ((0.0, beam.start), (beam.length, beam.end)):
        at, aside = off_line(end, other.start, other.end)
        if abs(aside) <= half + AT_END and AT_END < at < other.length - AT_END:
            hung = hangs_on(beam, other) and beam.beam.made_of != "W"
            return Seat(
                other.id,
                round(at, 6),
                None,
                along,
                min(round(other.breadth, 6), HUNG) if hung else round(other.breadth, 6),
            )
    if hangs_on(beam, other):
        return None
    crossed = chords((_around(other),), beam.start, beam.direction)
    inside = [(a, b) for a, b in crossed if min(b, beam.length) - max(a, 0.0) > LEAST_SEAT]
    if not inside:
        return None
    low, high = max(inside[0][0], 0.0), min(inside[0][1], beam.length)
    at = off_line(beam.at((low + high) / 2.0), other.start, other.end)[0]
    return Seat(other.id, round(at, 6), None, round((low + high) / 2.0, 6), round(high - low, 6))


def _around(beam: BeamLine) -> tuple[Point, ...]:
    b = beam.bearer
    return tuple(
        (p[0] + b.inward[0] * depth, p[1] + b.inward[1] * depth)
        for p, depth in ((b.start, b.near), (b.end, b.near), (b.end, b.far), (b.start, b.far))
    )
