"""Joists that run on: over bearings between their ends, or past the last one.  Solved as lines with live load on any span."""

from collections.abc import Iterable

from balken.framing.pieces import MadeOf, MemberLine
from balken.loads.area_loads import floor_cases
from balken.loads.cases import Cases
from balken.loads.decks import JoistLoad
from balken.model.records import Floor, Loads
from balken.standards.demands import GirderCase, Limit, Patch, Spot
from balken.standards.standard import Standard
from balken.units.system import INCH

ALL_LOAD = Limit(240.0, "NDS 3.5.2")
REPEATED = 24.0 * INCH
"""Joists no farther apart than this share their load (NDS 4.3.9)."""
POINT = 1.0
"""What lies on less of a joist than this lies in a point, mm."""


def running_case(
    floor: Floor,
    line: MemberLine,
    spacing: float,
    loads: Loads,
    size: str,
    standard: Standard,
    own: MadeOf | None = None,
    rows: Iterable[JoistLoad] = (),
) -> GirderCase:
    """Return the case of a joist that runs on, from the edge it reaches past its bearing to the other end.

    ``spacing``: it carries a strip at least as wide where no hand edit changed that; ``rows``: what stands on its deck.
    """
    origin = min(line.low, line.load_low)
    length = round(max(line.high, line.load_high) - origin, 3)
    q = floor_cases(loads, floor)

    def place(s: float) -> float:
        return round(min(max(s - origin, 0.0), length), 3)

    patches: list[Patch] = []
    wider = 1.0 if line.edited or line.width >= spacing or line.width < 1.0 else spacing / line.width
    for low, high, width in line.loaded:
        even = Cases(*(round(v * width * wider / 1000.0, 6) for v in q))
        patches.append((place(low), place(high), even, even))
    points: list[Spot] = []
    for row in rows:
        a, b = place(row.low), place(row.high)
        if b - a < POINT:
            points.append(((a + b) / 2.0, Cases(*(round(v, 3) for v in row.force))))
        else:
            even = Cases(*(round(v / (b - a), 6) for v in row.force))
            patches.append((a, b, even, even))
    own = own or MadeOf()
    stops = [stop for stop in line.stops if stop[0]]
    return GirderCase(
        "beam",
        own.sized(size),
        own.species or floor.joists.species,
        own.grade or floor.joists.grade,
        length,
        tuple(place(at) for _, at, _ in stops),
        tuple(round(max(bearing, 1.0), 3) for _, _, bearing in stops),
        tuple(patches),
        tuple(points),
        0.0,
        spacing <= REPEATED + 0.5,
        True,
        standard.joist_limit,
        ALL_LOAD,
        outdoors=floor.outdoors,
    )


def can_run(line: MemberLine) -> bool:
    """Tell whether a joist runs on and stands on two bearings at least."""
    return not line.simple and sum(1 for name, _, _ in line.stops if name) > 1
