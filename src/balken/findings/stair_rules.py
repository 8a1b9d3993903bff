"""Flights of stairs: stringers that are too weak, treads, widths and headroom less than they must be, a foot on nothing."""

from collections.abc import Iterable

from balken.catalog.sections import section
from balken.derived.finding import Finding, Fix
from balken.derived.model import Model
from balken.design.stairs import FlightDesign, headroom
from balken.framing.stairs import throat
from balken.model.lookup import by_id
from balken.standards.checks import used_text
from balken.units import say_inches, say_length


def thicknesses(c: Model) -> dict[str, float]:
    """Return how thick the floors are, deck and joists, by their ids, mm."""
    return {
        plan.floor.id: plan.floor.deck + section(c.designs[(plan.floor.id, "joists")].size).depth for plan in c.floors
    }


def flights(c: Model) -> Iterable[Finding]:
    """What is wrong with flights framed of stringers."""
    under = thicknesses(c)
    for made in c.flights:
        yield from _weak(c, made)
        yield from _shape(c, made)
        yield from _headroom(c, made, under)


def _stair(c: Model, made: FlightDesign) -> tuple[str, tuple[str, str], tuple[float, float, float]]:
    """Return what a flight is called, the things it belongs to, and its place."""
    flight = made.flight
    name = by_id(c.project.floors)[flight.upper].name
    at = (*flight.across(flight.width / 2.0, 0.0), flight.top)
    return f"The stair up to {name}", (flight.opening, flight.upper), at


def _weak(c: Model, made: FlightDesign) -> Iterable[Finding]:
    flight, (stair, things, at) = made.flight, _stair(c, made)
    if made.result.used > 1.0:
        check = made.result.governs
        left = say_inches(throat(flight, section(made.size).depth), c.units)
        better = next((size for size, used in made.others if used <= 1.0), "")
        yield Finding(
            "used",
            "floors",
            f"{stair}: stringers {made.size} used {used_text(made.result.used)}",
            f"{check.name[0].upper()}{check.name[1:]} governs ({check.clause}); {left} are left below the notches over a run of "
            f"{say_length(flight.run, c.units)}. Set them closer, or give it a landing.",
            things,
            at,
            fix=Fix(f"Use {better}", "change", things[:1], (("stringers__size", better),)) if better else None,
        )
    if not flight.below:
        foot = flight.across(flight.width / 2.0, flight.run)
        yield Finding(
            "stair on nothing",
            "floors",
            f"{stair} begins where nothing is",
            f"{flight.risers} risers run {say_length(flight.run, c.units)}; neither floor nor slab lies under its foot. Turn it, "
            "move it, or lay a landing there: a floor on a level of its own.",
            things,
            (*foot, flight.top - flight.rise),
        )


def _shape(c: Model, made: FlightDesign) -> Iterable[Finding]:
    flight, rules, (stair, things, at) = made.flight, c.standard.stair_rules, _stair(c, made)
    if flight.tread < rules.tread - 0.5:
        least = say_inches(rules.tread, c.units)
        yield Finding(
            "treads",
            "floors",
            f"{stair}: treads of {say_inches(flight.tread, c.units)} are too shallow",
            f"They must be {least} deep ({rules.tread_clause}).",
            things,
            at,
            fix=Fix(f"Make them {least}", "change", things[:1], (("tread", rules.tread),)),
        )
    if flight.width < rules.width - 0.5:
        yield Finding(
            "stair width",
            "floors",
            f"{stair} is only {say_length(flight.width, c.units)} wide",
            f"It must be {say_length(rules.width, c.units)} ({rules.width_clause}).",
            things,
            at,
        )


def _headroom(c: Model, made: FlightDesign, under: dict[str, float]) -> Iterable[Finding]:
    flight, rules, (stair, things, at) = made.flight, c.standard.stair_rules, _stair(c, made)
    over = headroom(flight, under)
    if over is not None and over < rules.headroom - 0.5:
        need = (rules.headroom + under.get(flight.upper, 0.0)) * flight.tread / flight.riser
        yield Finding(
            "headroom",
            "floors",
            f"{stair}: {say_length(over, c.units)} of headroom at the edge of its opening",
            f"It must be {say_length(rules.headroom, c.units)} ({rules.headroom_clause}): the opening must be "
            f"{say_length(min(need, flight.run), c.units)} long.",
            things,
            at,
        )


STAIR_RULES = (flights,)
