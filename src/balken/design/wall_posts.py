"""Built-up posts made in framed walls under the columns that stand on them: studs side by side, right under each."""

import math
from dataclasses import dataclass

from balken.design.headers import BUILT_UP
from balken.framing.studs import PostUnder, T
from balken.framing.walls import GableTop
from balken.loads.cases import Cases
from balken.loads.wall_law import HeadLoad, PointLoad
from balken.model.records import Framing, Opening
from balken.standards.checks import MemberResult
from balken.standards.demands import Limit, StudCase
from balken.standards.standard import Standard

LEAST, MOST = 2, 4
"""Studs in a built-up post."""
NEAR_END = 75.0
"""What stands nearer than this to the end of a wall's plate, mm, does not spread its load beyond itself (NDS 3.10.4)."""


@dataclass(frozen=True)
class WallPost:
    """A built-up post under a column: which, its middle along the wall, its studs, how far they are used; ``narrow``: more studs side by
    side would not count, since what stands there covers no more; ``more``: what else stands on it.
    """

    source: str
    at: float
    plies: int
    result: MemberResult
    narrow: bool = False
    more: tuple[str, ...] = ()

    @property
    def sources(self) -> tuple[str, ...]:
        """All that stands on it, each once."""
        return (self.source, *self.more)

    @property
    def under(self) -> PostUnder:
        """What the framing needs to know of it."""
        return PostUnder(self.source, self.at, self.plies)


def over_opening(point: PointLoad, openings: tuple[Opening, ...]) -> Opening | None:
    """Return the opening over which a column stands, so that its header carries it; None beside them."""
    return next((o for o in openings if point.low < o.offset + o.width and point.high > o.offset), None)


def wall_posts(
    head: HeadLoad,
    openings: tuple[Opening, ...],
    framing: Framing,
    stud: str,
    tall: float,
    length: float,
    bay: tuple[float, Cases, float],
    limit: Limit,
    standard: Standard,
    gable: GableTop | None = None,
) -> tuple[WallPost, ...]:
    """Choose the studs of each post; over openings there is none.

    ``stud``: the wall's studs, ``tall``: their height; ``bay``: their spacing (mm), the wall's own weight on a mm of it
    (N/mm) and the wind on it (kN/m2).  Each takes what else lies within half a spacing of its middle.
    ``gable``: the wall's top: under a ridge that runs through it no plates spread what it brings, and only studs under it count.
    Where posts would stand in one another, as under beams of several storeys one above the other, one stands for all of them.
    """

    def made(stands: Standing) -> WallPost:
        point, more = stands
        covered = _covered(point, gable)
        return _post(point, head, framing, stud, tall, length, bay, limit, standard, covered, more)

    found: list[tuple[Standing, WallPost]] = []
    beside = [(point, ()) for point in head.points if over_opening(point, openings) is None]
    for stands in _at_one_place(sorted(beside, key=_twice_middle)):
        post = made(stands)
        while found and post.at - found[-1][1].at < (post.plies + found[-1][1].plies) * T / 2.0 - 0.5:
            stands = _together(found.pop()[0], stands)
            post = made(stands)
        found.append((stands, post))
    return tuple(post for _, post in found)


Standing = tuple[PointLoad, tuple[str, ...]]
"""What stands on one post, taken together under the name of the first, and the names of the others."""


def _twice_middle(stands: Standing) -> float:
    return stands[0].low + stands[0].high


def _at_one_place(beside: list[Standing]) -> list[Standing]:
    """Take together what stands so near to one another that not even the narrowest posts would find room."""
    found: list[Standing] = []
    for stands in beside:
        if found and _twice_middle(stands) - _twice_middle(found[-1]) < 2.0 * LEAST * T - 1.0:
            stands = _together(found.pop(), stands)
        found.append(stands)
    return found


def _together(one: Standing, other: Standing) -> Standing:
    """Return what stands on one post where two would stand in one another."""
    (a, first), (b, second) = one, other
    names = tuple(dict.fromkeys((*first, b.source, *second)))
    low, high = min(a.low, b.low), max(a.high, b.high)
    whole = PointLoad(a.source, low, high, a.force.plus(b.force), a.more.plus(b.more))
    return whole, tuple(name for name in names if name != a.source)


def _covered(point: PointLoad, gable: GableTop | None) -> int:
    """Return under how many studs' width what stands on a wall lies, two thirds of the outermost at least; any where plates spread it."""
    at = (point.low + point.high) / 2.0
    wide = min((w for p, q, _, w in (gable.pockets if gable else ()) if p - 1.0 < at < q + 1.0), default=math.inf)
    return MOST if math.isinf(wide) else max(math.floor(wide / T + 2.0 / 3.0 + 0.02), 1)


def _post(
    point: PointLoad,
    head: HeadLoad,
    framing: Framing,
    stud: str,
    tall: float,
    length: float,
    bay: tuple[float, Cases, float],
    limit: Limit,
    standard: Standard,
    covered: int,
    more: tuple[str, ...],
) -> WallPost:
    spacing, own, pressure = bay
    at = (point.low + point.high) / 2.0
    low, high = max(at - spacing / 2.0, 0.0), min(at + spacing / 2.0, length)
    beside = head.members.within(low, high).sum.plus(head.walls.within(low, high).sum)
    axial = point.most.plus(beside).plus(own.scaled(spacing))
    most = max((n for n in range(LEAST, MOST + 1) if f"{n}-{stud}" in BUILT_UP), default=1)
    for plies in range(min(LEAST, most), most + 1):
        counted = min(plies, covered)
        made = standard.check_stud(
            StudCase(
                "built-up post",
                f"{counted}-{stud}" if counted > 1 else stud,
                framing.species,
                framing.grade,
                round(tall, 1),
                spacing,
                Cases(*(round(v, 2) for v in axial)),
                pressure,
                framing.header_species,
                limit,
                "end" if min(at, length - at) < NEAR_END + plies * 19.05 else "inner",
            )
        )
        if made.used <= 1.0 or plies >= covered:
            break
    return WallPost(point.source, round(at, 3), plies, made, covered < most, more)
