"""Columns in the load path: what stands on a column's head, and on what its foot stands."""

from collections.abc import Callable
from dataclasses import dataclass
from typing import Any

from balken.framing.bands import Band, WallLine
from balken.framing.foundations import FoundationRun
from balken.framing.pads import PadPlace
from balken.geometry.plane import Point, distance, off_line
from balken.loads.along import Laid, Under, laid_evenly
from balken.loads.cases import Cases, total

UNDER_WALL = 508.0
"""A column's head may lie this far below the foot of a wall that stands on it, mm: plate, floor and beam between."""
UP = 51.0
"""How far above it the foot of what stands there may begin lower, mm."""
ASIDE = 60.0
"""How far off the core of a wall, or the middle of another column, a column may stand, mm."""
LEAST_HALF = 50.0
"""A column's load lies on at least twice this along a wall, mm."""


@dataclass(frozen=True, slots=True)
class Stand:
    """What stands free, where it stands: its middle in plan, the heights of foot and head, half its side, mm.

    ``kind``: the collection of the project it is in.
    """

    kind: str
    record: Any
    at: Point
    foot: float
    head: float

    side: float

    @property
    def id(self) -> str:
        """Its record's id."""
        return str(self.record.id)

    @property
    def half(self) -> float:
        """Half its side along a wall, mm."""
        return max(self.side / 2.0, LEAST_HALF)


@dataclass(frozen=True)
class Columned:
    """What a column carries: loads on its head from above and typed at its pad, N; the post made for that.

    ``post``: what the design gave (it has an ``own`` weight).  ``foot``: what it hands down, without what was typed.
    """

    head: Cases
    post: Any
    foot: Cases
    handed: tuple[Laid, ...]
    stand: Stand


def on_columns(line: WallLine, stands: tuple[Stand, ...]) -> list[tuple[str, float, float]]:
    """Return the columns under a wall: id, place along it and half the side, mm."""
    b = line.band
    found = []
    for stand in stands:
        if not -UP <= b.bottom - stand.head <= UNDER_WALL:
            continue
        along = _along(b, line.core, stand)
        if along is not None:
            found.append((stand.id, along, stand.half))
    return found


def _along(b: Band, core: tuple[float, float], stand: Stand) -> float | None:
    """Return where along a wall a column stands under or on its core, None beside it."""
    along, aside = off_line(stand.at, b.start, b.end)
    depth = aside if _inward_is_left(b) else -aside
    near, far = core[0] - b.set_out, core[1] - b.set_out
    if not near - ASIDE <= depth <= far + ASIDE or not -stand.half - ASIDE <= along <= b.length + stand.half + ASIDE:
        return None
    return round(min(max(along, 0.0), b.length), 6)


def _inward_is_left(b: Band) -> bool:
    return b.direction[0] * b.inward[1] - b.direction[1] * b.inward[0] > 0.0


def under_column(
    stand: Stand,
    stands: tuple[Stand, ...],
    places: tuple[PadPlace, ...],
    lines: dict[str, WallLine],
    runs: tuple[FoundationRun, ...],
) -> tuple[str, float] | None:
    """Return what a column's foot stands on, and where along it: a pad, another column, a foundation wall, a wall."""
    pad = next((place.pad.id for place in places if stand.id in place.columns), None)
    if pad is not None:
        return pad, 0.0
    for other in stands:
        over = -UP <= stand.foot - other.head <= UNDER_WALL
        if other is not stand and over and distance(stand.at, other.at) < ASIDE:
            return other.id, 0.0
    for run in runs:
        if -UP <= stand.foot - run.bearer.top <= UNDER_WALL:
            line = lines[run.wall]
            along = _along(line.band, run.band.layers[0], stand) if run.band.layers else None
            if along is not None:
                return run.id, along
    for name, line in lines.items():
        if line.wall.role != "divides" and -UP <= stand.foot - line.band.top <= UNDER_WALL:
            along = _along(line.band, line.core, stand)
            if along is not None:
                return name, along
    return None


Maker = Callable[[Any, float, Cases], Any]
"""Designs what a record says, of a height (mm), for a load on its head (N)."""


def carry_column(stand: Stand, make: Maker, typed: Cases, on: tuple[str, float] | None, *laid: Laid) -> Columned:
    """Return what a column carries and hands down; ``typed``: at the pad it stands on, ``laid``: by what stands on it."""
    brought = Cases(*(round(v, 6) for v in total(part.sum for part in laid)))
    post = make(stand.record, stand.head - stand.foot, brought.plus(typed))
    foot = brought.plus(post.own)
    handed: tuple[Laid, ...] = ()
    if on is not None:
        handed = (laid_evenly(on[1] - stand.half, on[1] + stand.half, foot),)
    return Columned(brought.plus(typed), post, foot, handed, stand)


def onto_column(along: float, half: float) -> Under:
    """Return how a wall stands on a column under it."""
    return 0.0, 1.0, along - half, along + half


BRIDGED = 610.0
"""What a wall's plates carry over by themselves, mm: one bay of studs (common practice, no source)."""


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
    found, reached = [], 0.0
    for low, high in [*sorted(covered), (b.length, b.length)]:
        if low - reached > BRIDGED:
            found.append((reached, min(low, b.length)))
        reached = max(reached, high)
    return found
