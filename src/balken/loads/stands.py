"""The law of points: what stands free takes what lies on its head and hands it down at its foot."""

from collections.abc import Callable
from typing import Any

from balken.catalog.post_shapes import TRIED, post_shape
from balken.framing.columns import column_heights
from balken.geometry.plane import Point
from balken.loads.along import Laid, Under, laid_evenly
from balken.loads.cases import Cases, total
from balken.model.lookup import locate
from balken.model.records import Column, Grid, Level
from balken.value import Value

LEAST_HALF = 50.0
"""A column's load lies on at least twice this along a wall, mm."""


class Stand(Value, frozen=True):
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


class Columned(Value, frozen=True):
    """What a column carries: loads on its head from above and typed at its pad, N; the post made for that.

    ``post``: what the design gave (it has an ``own`` weight).  ``foot``: what it hands down, without what was typed.
    """

    head: Cases
    post: Any
    foot: Cases
    handed: tuple[Laid, ...]
    stand: Stand


def column_stands(columns: tuple[Column, ...], grids: tuple[Grid, ...], levels: tuple[Level, ...]) -> tuple[Stand, ...]:
    """Return where columns stand."""
    return tuple(
        Stand("columns", c, locate(c.place, grids), *column_heights(c, levels), narrow_side(c)) for c in columns
    )


def narrow_side(column: Column) -> float:
    """Return the narrower side of a column, mm: of its section, as typed, or of the narrowest that Balken may choose.

    What stands or lies on it bears on no more than that, whichever way it is turned.
    """
    if column.size:
        shape = post_shape(column.size)
        return min(shape.breadth, shape.depth)
    if column.size is None and TRIED.get(column.material):
        return min(min(s.breadth, s.depth) for s in map(post_shape, TRIED[column.material]))
    return min(column.width, column.depth)


Plates = tuple[str, str]
"""Species of the wooden plates under a foot and over a head, "" where there is none."""
Maker = Callable[[Any, float, Cases, Plates, Any], Any]
"""Designs what a record says, of a height (mm), for a load on its head (N), between plates, by a standard."""


def carry_column(
    stand: Stand, make: Maker, typed: Cases, at: float | None, plates: Plates, by: Any, more: Cases, *laid: Laid
) -> Columned:
    """Return what a column carries and hands down.

    ``typed``: at the pad it stands on; ``at``: where along what is under it, None on nothing; ``more``: what
    some arrangement of live loads brings beyond ``laid``, by what stands on it; the post is made for both.
    """
    brought = Cases(*(round(v, 6) for v in total(part.sum for part in laid)))
    post = make(stand.record, stand.head - stand.foot, brought.plus(typed).plus(more), plates, by)
    foot = brought.plus(post.own)
    handed: tuple[Laid, ...] = ()
    if at is not None:
        handed = (laid_evenly(at - stand.half, at + stand.half, foot),)
    return Columned(brought.plus(typed), post, foot, handed, stand)


def onto_column(along: float, half: float) -> Under:
    """Return how a wall stands on a column under it."""
    return 0.0, 1.0, along - half, along + half
