"""Built-up posts made in framed walls under the columns that stand on them: studs side by side, right under each."""

import math
from typing import NamedTuple

from balken.design.headers import BUILT_UP
from balken.framing.studs import PostUnder, T
from balken.framing.walls import GableTop
from balken.loads.cases import Cases
from balken.loads.wall_law import HeadLoad, PointLoad
from balken.model.records import Framing, Opening
from balken.standards.checks import MemberResult
from balken.standards.demands import Limit, StudCase
from balken.standards.standard import Standard
from balken.value import Value

LEAST, MOST = 2, 4
"""Studs in a built-up post."""
NEAR_END = 75.0
"""What stands nearer than this to the end of a wall's plate, mm, does not spread its load beyond itself (NDS 3.10.4)."""


class WallPost(Value, frozen=True):
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
        return _post(stands, head, framing, stud, tall, length, bay, limit, standard, _covered(stands.at, gable))

    found: list[tuple[Standing, WallPost]] = []
    beside = [_alone(point) for point in head.points if over_opening(point, openings) is None]
    for stands in _at_one_place(sorted(beside, key=lambda one: one.at)):
        post = made(stands)
        while found and post.at - found[-1][1].at < (post.plies + found[-1][1].plies) * T / 2.0 - 0.5:
            if stands.last - found[-1][0].first > MOST * T:
                break  # no post reaches under both: there is no room, which is told
            stands = _together(found.pop()[0], stands)
            post = made(stands)
        found.append((stands, post))
    return tuple(post for _, post in found)


class Standing(NamedTuple):
    """What stands on one post: what it brings at most, N; where the first and the last of it have their middles, mm; all of it by name."""

    most: Cases
    first: float
    last: float
    sources: tuple[str, ...]

    @property
    def at(self) -> float:
        """The middle of its post."""
        return (self.first + self.last) / 2.0


def _alone(point: PointLoad) -> Standing:
    at = (point.low + point.high) / 2.0
    return Standing(point.most, at, at, (point.source,))


def _at_one_place(beside: list[Standing]) -> list[Standing]:
    """Take together what stands so near to one another that not even the narrowest posts would find room."""
    found: list[Standing] = []
    for stands in beside:
        if found and stands.at - found[-1].at < LEAST * T - 0.5 and stands.last - found[-1].first <= MOST * T:
            stands = _together(found.pop(), stands)
        found.append(stands)
    return found


def _together(one: Standing, other: Standing) -> Standing:
    """Return what stands on one post where two would stand in one another."""
    sources = tuple(dict.fromkeys((*one.sources, *other.sources)))
    return Standing(one.most.plus(other.most), min(one.first, other.first), max(one.last, other.last), sources)


def _covered(at: float, gable: GableTop | None) -> int:
    """Return under how many studs' width what stands on a wall lies, two thirds of the outermost at least; any where plates spread it."""
    wide = min((w for p, q, _, w in (gable.pockets if gable else ()) if p - 1.0 < at < q + 1.0), default=math.inf)
    return MOST if math.isinf(wide) else max(math.floor(wide / T + 2.0 / 3.0 + 0.02), 1)


def _post(
    stands: Standing,
    head: HeadLoad,
    framing: Framing,
    stud: str,
    tall: float,
    length: float,
    bay: tuple[float, Cases, float],
    limit: Limit,
    standard: Standard,
    covered: int,
) -> WallPost:
    """Choose a post that reaches under the middles of all that stands on it."""
    spacing, own, pressure = bay
    at = stands.at
    low, high = max(at - spacing / 2.0, 0.0), min(at + spacing / 2.0, length)
    beside = head.members.within(low, high).sum.plus(head.walls.within(low, high).sum)
    axial = stands.most.plus(beside).plus(own.scaled(spacing))
    most = max((n for n in range(LEAST, MOST + 1) if f"{n}-{stud}" in BUILT_UP), default=1)
    reach = math.ceil((stands.last - stands.first) / T - 0.01)
    for plies in range(min(max(LEAST, reach), most), most + 1):
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
    return WallPost(stands.sources[0], round(at, 3), plies, made, covered < most, stands.sources[1:])
