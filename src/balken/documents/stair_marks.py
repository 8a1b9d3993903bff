"""Flights of stairs on a floor plan: the nosings within the opening, the way up, risers and treads in words."""

from balken.derived.model import Model
from balken.documents.dimensions import TEXT, reading
from balken.documents.display import Area, Item, Path, Text
from balken.documents.lettering import text_width
from balken.framing.stairs import Flight
from balken.units import Units, format_inches


def flight_items(model: Model, floors: set[str], scale: float, notes: bool) -> list[Item]:
    """Return the flights that lead up to floors; the arrow points up (ISO 7519)."""
    items: list[Item] = []
    for made in model.flights:
        flight = made.flight
        if flight.upper in floors:
            items += _treads(flight)
            items += _arrow(flight, scale)
            items += _note(flight, scale, model.units, f"{len(made.places)} x {made.size}") if notes else []
    return items


def _treads(flight: Flight) -> list[Item]:
    shown = min(flight.run, flight.length)
    count = int(shown / flight.tread + 1e-6)
    ends = [
        (flight.across(0.0, k * flight.tread), flight.across(flight.width, k * flight.tread))
        for k in range(1, count + 1)
    ]
    return [Path(pair, "thin", "floors", flight.opening) for pair in ends]


def _arrow(flight: Flight, scale: float) -> list[Item]:
    middle, barb = flight.width / 2.0, 1.6 * scale
    low, tip = flight.across(middle, min(flight.run, flight.length) - flight.tread / 2.0), flight.across(middle, 0.0)
    sides = [flight.across(middle + side * 0.6 * barb, 2.0 * barb) for side in (-1.0, 1.0)]
    return [
        Path((low, tip), "outline", "floors", flight.opening),
        *(Path((tip, side), "outline", "floors", flight.opening) for side in sides),
    ]


def _note(flight: Flight, scale: float, units: Units, made: str) -> list[Item]:
    """Return risers, treads and stringers beside the arrow, on a ground of their own."""
    risers = f"{flight.risers} R {format_inches(flight.riser, units)}"
    text = f"{risers}, T {format_inches(flight.tread, units)}; {made}"
    room, size = min(flight.run, flight.length), TEXT * scale * 0.9
    text = text if text_width(text, size) < room else risers
    angle = reading(flight.way)[0]
    x, y = flight.across(flight.width * 0.75, room / 2.0)
    along, aside = text_width(text, size) / 2.0 + 0.3 * size, 0.7 * size
    dx, dy = (along, aside) if angle == 0.0 else (aside, along)
    ring = ((x - dx, y - dy), (x + dx, y - dy), (x + dx, y + dy), (x - dx, y + dy))
    written = Text((x, y), text, size, angle=angle, pen="text", layer="floors", ref=flight.opening)
    return [Area((ring,), "sheet", "", "floors"), written]
