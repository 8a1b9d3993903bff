"""Flights of stairs: where they run, before floors are laid; their stringers designed and made."""

from typing import NamedTuple

from balken.derive.laying import Closed, Laid
from balken.design.stairs import FlightDesign, design_flight
from balken.framing.pieces import Piece
from balken.framing.stairs import Flight, flights_of, stringer_pieces
from balken.memo import Memo
from balken.model.lookup import by_id
from balken.model.records import Loads, Project
from balken.standards.checks import MemberResult
from balken.standards.known import STANDARDS

Flights = tuple[Flight, ...]


class Stairs(NamedTuple):
    """The flights designed, the solids of their stringers, the checks by their names."""

    designs: tuple[FlightDesign, ...] = ()
    pieces: tuple[Piece, ...] = ()
    results: dict[str, MemberResult] = {}  # noqa: RUF012 (never written on)


def flights(memo: Memo, p: Project, closed: Closed) -> Flights:
    """Return the flights that are framed of stringers."""
    framed = tuple(o for o in p.floor_openings if o.flight == "stringers")
    if not framed:
        return ()
    outlines = memo.keep("outlines under stairs", {name: o.core for name, o in closed.outlines.items()})
    rules = STANDARDS[p.standard].stair_rules
    return memo.step(
        "flights framed", flights_of, memo.keep("openings of flights", framed), p.floors, p.slabs, p.levels, p.grids, outlines,
        rules.riser,
    )  # fmt: skip


def stairs(memo: Memo, p: Project, loads: Loads, laid: Laid, flights: Flights) -> Stairs:
    """Design the stringers of every flight and make them."""
    if not flights:
        return Stairs()
    openings, floors = by_id(p.floor_openings), {plan.floor.id: plan.floor for plan in laid.floors}
    designs: list[FlightDesign] = []
    pieces: list[Piece] = []
    results: dict[str, MemberResult] = {}
    for flight in flights:
        if flight.upper not in floors:
            continue
        name, choice, upper = (
            f"{flight.opening} {flight.upper}",
            openings[flight.opening].stringers,
            floors[flight.upper],
        )
        kept = memo.keep(f"flight {name}", flight)
        made = memo.step(f"stringers {name}", design_flight, kept, choice, upper, loads, STANDARDS[p.standard])
        designs.append(made)
        group = memo.step(
            f"stringer pieces {name}", stringer_pieces, kept, upper.level, made.size, choice.species, choice.grade,
            memo.keep(f"stringers across {name}", made.places),
        )  # fmt: skip
        pieces += group
        results |= {piece.key: made.result for piece in group}
    return Stairs(memo.keep("flights designed", tuple(designs)), memo.keep("all stringers", tuple(pieces)), results)
