"""Flights of stairs as they lie on floors: half of one on the edge it lands on, half on the floor below where it begins; what
fills in openings that are no rectangles.

A flight is taken to fill its opening in plan and to carry the floor's own loads (IRC Table R301.5: 40 psf on stairs, or a
point of 300 lb, which is typed where it governs).
"""

from collections.abc import Iterable

from balken.framing.floors import FloorPlan
from balken.framing.stairs import Flight
from balken.geometry.plane import Point, add, distance, turn, unit
from balken.loads.along import Laid, laid_evenly
from balken.loads.area_loads import floor_cases
from balken.loads.cases import Cases
from balken.loads.decks import Spot
from balken.model.places import by_id, locate
from balken.model.records import Floor, FloorOpening, Grid, Level, Loads

BESIDE = 100.0
"""Its ends lie so far off the opening: on the joists that the header carries, mm."""


def stairs_on(
    floor: Floor,
    openings: Iterable[FloorOpening],
    floors: tuple[Floor, ...],
    levels: tuple[Level, ...],
    grids: tuple[Grid, ...],
    loads: Loads,
    framed: Iterable[Flight] = (),
) -> tuple[Spot | Laid, ...]:
    """Return what flights bring to a floor: spot, loads, spot, loads...; raises KeyError where an axis is gone.

    ``framed``: the flights of stringers, which say themselves where they begin and how long they are.
    """
    heights = by_id(levels)
    found: list[Spot | Laid] = []
    for opening in openings:
        if opening.kind != "stair" or opening.lands == "nothing" or opening.flight == "stringers":
            continue
        head, foot, area = _ends(opening, grids)
        for upper in (f for f in floors if f.id in opening.floors):
            below = [f for f in floors if heights[f.level].height < heights[upper.level].height - 1.0]
            lower = max(below, key=lambda f: heights[f.level].height, default=None)
            half = floor_cases(loads, upper).scaled(area / 2000.0)
            if upper.id == floor.id:
                found += _row(opening.id, head, half)
            if lower is not None and lower.id == floor.id:
                found += _row(opening.id, foot, half)
    for flight in framed:
        leads_to = next(f for f in floors if f.id == flight.upper)
        half = floor_cases(loads, leads_to).scaled(flight.run * flight.width / 2000.0)
        if flight.upper == floor.id:
            found += _row(flight.opening, _edge_at(flight, -BESIDE), half)
        if flight.below == floor.id:
            found += _row(flight.opening, _edge_at(flight, flight.run), half)
    return tuple(found)


def _edge_at(flight: Flight, along: float) -> tuple[Point, Point]:
    return flight.across(0.0, along), flight.across(flight.width, along)


def infill_on(plan: FloorPlan, loads: Loads) -> tuple[Spot | Laid, ...]:
    """Return what the deck between openings of other shapes and their headers and trimmers brings: half to each header.

    Spot, loads, spot, loads...
    """
    q, found = floor_cases(loads, plan.floor), list[Spot | Laid]()
    for hole in plan.holes:
        if hole.infill > 1.0:
            for s in (hole.s0 - BESIDE, hole.s1 + BESIDE):
                edge = plan.frame.back(s, hole.t0), plan.frame.back(s, hole.t1)
                found += _row(hole.opening, edge, q.scaled(hole.infill / 2000.0))
    return tuple(found)


def _row(source: str, edge: tuple[Point, Point], load: Cases) -> list[Spot | Laid]:
    start, end = edge
    return [Spot(start, unit(start, end), source), laid_evenly(0.0, distance(start, end), load)]


def _ends(opening: FloorOpening, grids: tuple[Grid, ...]) -> tuple[tuple[Point, Point], tuple[Point, Point], float]:
    """Return the edges at which a flight lands and begins, a little off the opening, and its area in plan, mm2."""
    at, way = locate(opening.place, grids), turn((1.0, 0.0), opening.angle)
    up = (-way[1], way[0])
    along, across = (up, way) if opening.depth >= opening.width else (way, up)
    long, wide = max(opening.depth, opening.width), min(opening.depth, opening.width)
    near, far = add(at, along, -BESIDE), add(at, along, long + BESIDE)
    start, end = (near, add(near, across, wide)), (far, add(far, across, wide))
    head, foot = (start, end) if opening.lands == "at its near end" else (end, start)
    return head, foot, long * wide
