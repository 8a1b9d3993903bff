"""Stringers of flights chosen and checked: the least board that works, as many as their spacing asks."""

from collections.abc import Mapping

from balken.catalog.sections import section
from balken.framing.joist_lines import HANGER
from balken.framing.stairs import Flight, places_across, throat
from balken.loads.area_loads import floor_cases
from balken.model.kinds.choice import Choice
from balken.model.records import Floor, Loads
from balken.standards.checks import MemberResult
from balken.standards.demands import StringerCase
from balken.standards.standard import Standard
from balken.units.system import INCH
from balken.value import Value

TRIED = ("2x10", "2x12", "2x14", "3x12", "3x14", "4x12", "4x14")
"""Boards tried for stringers left to auto, in rising order."""
USUAL = 16.0 * INCH
"""How far apart stringers stand at most where that is left open (common practice, no source)."""


class FlightDesign(Value, frozen=True):
    """A flight's stringers: their size, where they stand across it, the checks of one; whether the size was chosen."""

    flight: Flight
    size: str
    auto: bool
    places: tuple[float, ...]
    result: MemberResult
    others: tuple[tuple[str, float], ...] = ()
    """The next boards and how far they would be used."""


def design_flight(flight: Flight, choice: Choice, upper: Floor, loads: Loads, standard: Standard) -> FlightDesign:
    """Choose and check the stringers of a flight, under the loads of the floor it leads to."""
    spacing = choice.spacing or USUAL
    q = floor_cases(loads, upper)

    def checked(size: str) -> tuple[MemberResult, tuple[float, ...]]:
        places = places_across(flight, section(size).breadth, spacing)
        apart = places[1] - places[0] if len(places) > 1 else flight.width
        case = StringerCase(
            size, choice.species, choice.grade, round(flight.run, 3), round(flight.rise - flight.riser, 3),
            round(max(throat(flight, section(size).depth), 1.0), 3), round(apart, 3), len(places), q,
            standard.stair_rules.point, standard.joist_limit, HANGER,
        )  # fmt: skip
        return standard.check_stringer(case), places

    tried = TRIED if choice.size is None else (choice.size,)
    made = [(size, *checked(size)) for size in tried]
    size, result, places = next((row for row in made if row[1].used <= 1.0), min(made, key=lambda row: row[1].used))
    at = TRIED.index(size) if size in TRIED else 0
    near = [*TRIED[max(at - 1, 0) : at], *TRIED[at + 1 : at + 2]]
    others = tuple((name, checked(name)[0].used) for name in near if name != size)
    return FlightDesign(flight, size, choice.size is None, places, result, others)


def headroom(flight: Flight, under: Mapping[str, float]) -> float | None:
    """Return the height over the nosings at the far edge of the opening, mm; None where the flight ends within it.

    ``under``: how thick the floors are, with their decks, by id.
    """
    if flight.run <= flight.length:
        return None
    return flight.riser * flight.length / flight.tread - under.get(flight.upper, 0.0)
