"""Planes of a roof over purlins: what of a strip's load comes to its purlin, and what to both its ends.

A rafter over a purlin is one piece over two spans, pressed square to its slope; a purlin on upright posts takes of what lies on it in plan
as much as the middle support of a level one does.
"""

from collections.abc import Sequence
from typing import NamedTuple

from balken.analysis.beam import two_spans
from balken.framing.purlins import Purlin, purlin_line
from balken.framing.surface_roofs import SurfacePlan
from balken.geometry.roof_surface import RoofLine
from balken.loads.cases import Cases
from balken.loads.roof_feet import LAID
from balken.loads.roof_sides import NEAR, Patch, Strip

POINT = 50.0
"""What comes to a line at a place lies on so much of it, mm."""
NEAREST = 0.25
"""A strip that a purlin crosses nearer to its ends than this part of it bears at its ends alone."""


class Prop(NamedTuple):
    """How a strip bears over a purlin: the number of that, at which part of it, which parts of what lies evenly on the strip come to its
    foot, to that, to its head.
    """

    number: int
    at: float
    foot: float
    middle: float
    head: float

    def with_past(self, moment: float, bare: bool) -> "Prop":
        """Return it with what hangs out before the foot: its moment there over what lies evenly times the strip's length, both squared, turns
        the rafter over that, presses foot and head and lifts the purlin; ``bare``: that is not to count, as it may lie bare.
        """
        if moment <= 0.0:
            return self
        foot, head = moment / self.at * (1.0 + self.at / 2.0), moment * self.at / 2.0 / (1.0 - self.at)
        part = min(self.middle / (foot + head), 1.0)
        foot, head = (foot * part, head * part) if self.head > 0.0 else ((foot + head) * part, 0.0)
        off = 0.0 if bare else foot + head
        return self._replace(foot=self.foot + foot, middle=self.middle - off, head=self.head + head)

    def lever(self, far: float) -> float:
        """Return which part of what lies about one place of the strip (0 at its foot, 1 at its head) comes to the purlin."""
        return far / self.at if far <= self.at else (1.0 - far) / (1.0 - self.at)


class Propped:
    """The purlins of a roof as its load is spread; ``first``: the number by which the first goes."""

    def __init__(self, plan: SurfacePlan, laid: Sequence[Purlin], first: int) -> None:
        self.plan = plan
        self.laid = {first + k: one for k, one in enumerate(laid)}

    @property
    def lines(self) -> dict[int, RoofLine]:
        """Their lines by their numbers."""
        return {number: purlin_line(self.plan, one) for number, one in self.laid.items()}

    def cuts(self, edge: int) -> tuple[float, ...]:
        """Return where along an edge a plane begins or ends to lie on a purlin, mm."""
        return tuple(s for one in self.laid.values() if one.edge == edge for s in one.holds)

    def at(self, edge: int, s: float, on: int | str | None) -> tuple[int, float] | None:
        """Return which purlin holds the plane of an edge at a place along it, and how far in; None where none does; ``on``: what holds the
        foot there.
        """
        if not isinstance(on, str) or on == LAID:
            return None
        rows = ((n, one) for n, one in self.laid.items() if one.edge == edge and one.holds[0] <= s <= one.holds[1])
        return next(((n, one.inward) for n, one in rows), None)

    def over(self, edge: int, strip: Strip, foot: int | str | None, held: bool) -> Prop | None:
        """Return how a strip bears; ``foot``: what holds its feet; ``held``: whether anything holds its heads, else what would come there
        comes to its feet.
        """
        there = self.at(edge, (strip.first + strip.last) / 2.0, foot)
        if there is None or strip.long <= 0.0 or abs(sum(strip.low)) > 2.0 * NEAR:
            return None
        part = (there[1] - sum(strip.low) / 2.0) / strip.long
        if not NEAREST <= part <= 1.0 - NEAREST:
            return None
        made = two_spans(1.0, part, 1.0 - part)
        first, last = (made.first, made.last) if held else (made.first + made.last, 0.0)
        return Prop(there[0], part, first, made.middle, last)

    def patch(self, number: int, strip: Strip, force: Cases) -> Patch:
        """Return what a strip brings to a purlin, as it lies along that."""
        one = self.laid[number]
        long = one.ends[1] - one.ends[0]
        low, high = max(strip.first - one.ends[0], 0.0), min(strip.last - one.ends[0], long)
        if high - low < POINT:
            low = min(max((low + high - POINT) / 2.0, 0.0), max(long - POINT, 0.0))
            high = min(low + POINT, long)
        each = force.scaled(1.0 / (high - low))
        return Patch(low, high, each, each)
