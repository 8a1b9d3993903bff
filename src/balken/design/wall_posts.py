"""Built-up posts made in framed walls under the columns that stand on them: studs side by side, right under each."""

from dataclasses import dataclass

from balken.design.headers import BUILT_UP
from balken.framing.studs import PostUnder
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
    """A built-up post under a column: which, its middle along the wall, its studs, how far they are used."""

    source: str
    at: float
    plies: int
    result: MemberResult

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
) -> tuple[WallPost, ...]:
    """Choose the studs of each post; over openings there is none.

    ``stud``: the wall's studs, ``tall``: their height; ``bay``: their spacing (mm), the wall's own weight on a mm of it
    (N/mm) and the wind on it (kN/m2).  Each takes what else lies within half a spacing of its middle.
    """
    return tuple(
        _post(point, head, framing, stud, tall, length, bay, limit, standard)
        for point in head.points
        if over_opening(point, openings) is None
    )


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
) -> WallPost:
    spacing, own, pressure = bay
    at = (point.low + point.high) / 2.0
    low, high = max(at - spacing / 2.0, 0.0), min(at + spacing / 2.0, length)
    beside = head.members.within(low, high).sum.plus(head.walls.within(low, high).sum)
    axial = point.most.plus(beside).plus(own.scaled(spacing))
    most = max((n for n in range(LEAST, MOST + 1) if f"{n}-{stud}" in BUILT_UP), default=1)
    for plies in range(min(LEAST, most), most + 1):
        made = standard.check_stud(
            StudCase(
                "built-up post",
                f"{plies}-{stud}" if plies > 1 else stud,
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
        if made.used <= 1.0:
            break
    return WallPost(point.source, round(at, 3), plies, made)
