"""The law of lines, for beams: what lies on them goes to their seats by statics, whole for the balance, and the most and
least of every arrangement of live load for what stands below.
"""

from collections.abc import Mapping, Sequence
from typing import Any, NamedTuple, Protocol

import msgspec
from msgspec.structs import replace

from balken.framing.beams import BeamLine, hangs_on
from balken.loads.along import Laid, kept_within, laid_evenly, laid_together
from balken.loads.cases import Cases
from balken.value import Value

LEAST_LONG = 50.0
"""A beam's reaction lies on at least this length of what is under it, mm."""


class Extremes(NamedTuple):
    """What an arrangement of live loads brings beyond all of them together: most (above zero) and least, N by case."""

    more: Cases = Cases()
    less: Cases = Cases()

    def plus(self, other: "Extremes") -> "Extremes":
        """Return both together, as if the worst of each came at once."""
        return Extremes(self.more.plus(other.more), self.less.plus(other.less))


NONE_MORE = Extremes()


class BeamSeat(NamedTuple):
    """Where a beam bears: along it and how long, mm; where along what is under it."""

    on: str
    along: float
    bearing: float
    at: float


class Beamed(Value, frozen=True):
    """What a beam carries and hands down: all that lies on it, its design, what each seat takes, whole and beyond.

    ``held``: how far apart its top edge is held, None where nothing but its seats holds it.
    """

    line: BeamLine
    seats: tuple[BeamSeat, ...]
    laid: Laid
    held: float | None
    design: Any
    handed: tuple[Laid, ...]
    extremes: tuple[Extremes, ...]

    @property
    def load(self) -> Cases:
        """All that lies on it and itself, N."""
        return self.laid.sum.plus(Cases(*self.design.own))


class HungSeat(NamedTuple):
    """An end of a beam at the side of another one: which of its seats and of its pieces, and on what."""

    seat: int
    piece: int
    on: Beamed


def hung_seats(beamed: Mapping[str, Beamed], beam: str) -> tuple[HungSeat, ...]:
    """Return the ends of a beam that hang on other ones."""
    made, found = beamed[beam], []
    for k, seat in enumerate(made.seats):
        on = beamed.get(seat.on)
        piece = next((n for n, part in enumerate(made.design.parts) if part.first <= k <= part.last), None)
        if on is not None and piece is not None and hangs_on(made.line, on.line):
            found.append(HungSeat(k, piece, on))
    return tuple(found)


def typed_along(line: BeamLine) -> Cases:
    """Return what was typed along a beam, all of it, N."""
    beam = line.beam
    return Cases(dead=beam.dead, live=beam.live, snow=beam.snow).scaled(line.length)


class BeamMaker(Protocol):
    """What designs beams."""

    def design(self, line: BeamLine, seats: tuple[BeamSeat, ...], laid: Laid, held: float | None, standard: Any) -> Any:
        """Design a beam by a standard; what it gives has ``own`` (its weight), ``reactions``, ``extremes``, one a seat."""
        ...

    def underside(self, line: BeamLine, section: Any) -> float:
        """Return the height of a beam's underside, mm."""
        ...


def carry_beam(
    line: BeamLine,
    make: BeamMaker,
    seats: tuple[BeamSeat, ...],
    held: float | None,
    by: Any,
    beyond: Laid | None,
    *parts: Laid,
) -> Beamed:
    """Return what a beam carries and hands down; on fewer than two seats it stands on nothing.

    ``beyond``: what joists that run on bring beyond their full load.  It is made for that, too; to its seats it hands it on as
    what arrangements of live load bring, beside the whole.
    """
    typed = typed_along(line)
    own = (laid_evenly(0.0, line.length, typed),) if any(typed) else ()
    laid = kept_within(laid_together((*parts, *own)), 0.0, line.length)
    design = make.design(line, seats, laid, held, by)
    if beyond is not None and design.reactions:
        design = _with_beyond(line, make, seats, laid, held, by, beyond)
    reactions: Sequence[Cases] = design.reactions
    handed = tuple(
        laid_evenly(seat.at - long / 2.0, seat.at + long / 2.0, force)
        for seat, force in zip(seats, reactions, strict=False)
        for long in (max(seat.bearing, LEAST_LONG),)
    )
    return Beamed(line, seats, laid, held, design, handed, tuple(design.extremes))


def _with_beyond(
    line: BeamLine, make: BeamMaker, seats: tuple[BeamSeat, ...], laid: Laid, held: float | None, by: Any, beyond: Laid
) -> Any:
    """Return a beam's design for all that may come to it, whose reactions are those of the whole."""
    heavier = make.design(line, seats, laid_together((laid, kept_within(beyond, 0.0, line.length))), held, by)
    same = replace(line, beam=msgspec.structs.replace(line.beam, size=heavier.section.name))
    whole = make.design(same, seats, laid, held, by)
    more = []
    for most, full, extremes in zip(heavier.reactions, whole.reactions, heavier.extremes, strict=True):
        added = Cases(*(max(a - b, 0.0) for a, b in zip(most, full, strict=True)))
        more.append(extremes.plus(Extremes(added)))
    return replace(heavier, own=whole.own, reactions=whole.reactions, extremes=tuple(more))
