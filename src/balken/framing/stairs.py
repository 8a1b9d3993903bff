"""Flights of stairs framed of stringers: where they run, their risers and treads, their solids.

A flight runs from the header on whose edge it lands down to the floor or slab below; as many risers, all alike, as keep
each within the most there may be.  The first tread lies a riser below the upper deck.
"""

import math
from collections.abc import Mapping

import shapely
from msgspec.structs import replace

from balken.catalog.sections import section
from balken.framing.pieces import Piece
from balken.geometry.plane import Point, add, turn
from balken.geometry.prism import UP, Prism, Vec, cross3
from balken.model.lookup import by_id
from balken.model.naming import piece_name
from balken.model.places import locate
from balken.model.records import Floor, FloorOpening, Grid, Level, Slab
from balken.value import Value

TREAD = 38.1
"""Thickness of a tread of a 2x board, mm (common practice, no source)."""
Outlines = Mapping[str, tuple[Point, ...]]


class Flight(Value, frozen=True):
    """A flight between two decks; mm.

    ``head``: the two ends of the edge it lands on, at its sides; ``way``: down it in plan; ``rise``, ``run``: of the whole;
    ``risers``: how many.  ``below``: the floor or slab it begins on, "" for none.  ``length``: of the opening along it.
    """

    opening: str
    upper: str
    below: str
    head: tuple[Point, Point]
    way: Point
    top: float
    rise: float
    risers: int
    tread: float
    length: float

    @property
    def riser(self) -> float:
        """Height of one riser."""
        return self.rise / self.risers

    @property
    def run(self) -> float:
        """Its length in plan, from the face of the header to the face of its lowest riser."""
        return (self.risers - 1) * self.tread

    @property
    def width(self) -> float:
        """How wide it is."""
        return math.dist(*self.head)

    def across(self, at: float, along: float) -> Point:
        """Return a place so far from its first side, and so far down it in plan."""
        a, b = self.head
        side = ((b[0] - a[0]) / self.width, (b[1] - a[1]) / self.width)
        return add(add(a, side, at), self.way, along)


def flights_of(
    openings: tuple[FloorOpening, ...],
    floors: tuple[Floor, ...],
    slabs: tuple[Slab, ...],
    levels: tuple[Level, ...],
    grids: tuple[Grid, ...],
    outlines: Outlines,
    most_riser: float,
) -> tuple[Flight, ...]:
    """Return the flights framed of stringers, one for each floor their openings go through that has something below it."""
    heights = by_id(levels)
    below: tuple[Floor | Slab, ...] = (*floors, *slabs)
    decks = [(heights[f.level].height, f.id) for f in below if f.id in outlines]
    shapes = {name: shapely.Polygon(outlines[name]) for _, name in decks}
    found: list[Flight] = []
    for o in openings:
        if o.kind != "stair" or o.lands == "nothing" or o.flight != "stringers" or o.corners:
            continue
        head, way, long = _edge(o, grids)
        for upper in (f for f in floors if f.id in o.floors and f.id in outlines):
            top = heights[upper.level].height
            under = sorted(((z, name) for z, name in decks if z < top - most_riser), reverse=True)
            made = [
                Flight(o.id, upper.id, name, head, way, top, top - z, _risers(top - z, most_riser), o.tread, long)
                for z, name in under
            ]
            stands = [f for f in made if shapes[f.below].covers(shapely.Point(f.across(f.width / 2.0, f.run)))]
            if made:
                found.append(stands[0] if stands else replace(made[0], below=""))
    return tuple(found)


def _risers(rise: float, most: float) -> int:
    return max(math.ceil(rise / most - 1e-9), 2)


def _edge(o: FloorOpening, grids: tuple[Grid, ...]) -> tuple[tuple[Point, Point], Point, float]:
    """Return the edge of an opening on which its flight lands, the way down it, and how long it is along that."""
    at, x = locate(o.place, grids), turn((1.0, 0.0), o.angle)
    y = (-x[1], x[0])
    along, across = (y, x) if o.depth >= o.width else (x, y)
    long, wide = max(o.depth, o.width), min(o.depth, o.width)
    near = (at, add(at, across, wide))
    far = (add(near[0], along, long), add(near[1], along, long))
    if o.lands == "at its near end":
        return near, along, long
    return far, (-along[0], -along[1]), long


def places_across(flight: Flight, breadth: float, spacing: float) -> tuple[float, ...]:
    """Return the middles of the stringers from a side of a flight: at both sides, none farther apart than asked."""
    clear = max(flight.width - breadth, 1.0)
    count = max(math.ceil(clear / spacing - 1e-9), 1)
    return tuple(breadth / 2.0 + k * clear / count for k in range(count + 1))


def throat(flight: Flight, depth: float) -> float:
    """Return what is left of a stringer's depth below its notches for treads and risers, mm."""
    return depth - flight.riser * flight.tread / math.hypot(flight.riser, flight.tread)


def stringer_pieces(
    flight: Flight, level: str, size: str, species: str, grade: str, places: tuple[float, ...]
) -> tuple[Piece, ...]:
    """Return the stringers of a flight, sawn out for treads and risers, plumb at their head, level at their foot."""
    lumber = section(size)
    ring = _profile(flight, lumber.depth)
    side: Vec = cross3((*flight.way, 0.0), UP)
    found = []
    for k, at in enumerate(places):
        x, y = flight.across(at, 0.0)
        half = lumber.breadth / 2.0
        # The profile lies in the plane of the way down and up; it is extruded along their product.
        origin = (x - side[0] * half, y - side[1] * half, flight.top)
        solid = Prism(origin, (*flight.way, 0.0), UP, (ring,), lumber.breadth)
        foot = flight.across(at, flight.run)
        key = piece_name(flight.upper, "stringer", f"{flight.opening}+{k}")
        long = math.hypot(flight.run, flight.rise - flight.riser)
        found.append(
            Piece(
                key, "stringer", flight.opening, level, solid, "timber", (x, y, flight.top - flight.riser),
                (*foot, flight.top - flight.rise), long, size, species, grade,
            )
        )  # fmt: skip
    return tuple(found)


def _profile(flight: Flight, depth: float) -> tuple[Point, ...]:
    """Return a stringer from the side: x down the flight from the header's face, y from the upper deck; anticlockwise."""
    r, t, n = flight.riser, flight.tread, flight.risers
    slope = math.hypot(r, t)
    # The line through the inner corners of the notches, and the underside so far below it.
    left = throat(flight, depth)
    low = left * slope / t  # measured plumb
    teeth: list[Point] = [(0.0, -r - TREAD)]
    for k in range(1, n):
        teeth += [(k * t, -k * r - TREAD), (k * t, -min((k + 1) * r, flight.rise) - (TREAD if k < n - 1 else 0.0))]
    under_head = -r - TREAD - low  # the underside at the header's face, plumb below the first inner corner
    floor = -flight.rise
    foot = (under_head - floor) * t / r  # where the underside meets the floor
    end = (n - 1) * t
    below: list[Point] = (
        [(max(min(foot, end), 0.0), floor), (0.0, under_head)] if under_head > floor else [(0.0, floor)]
    )
    ring = [*reversed(teeth), *reversed(below)]
    kept = [p for i, p in enumerate(ring) if math.dist(p, ring[i - 1]) > 1e-6]
    return tuple(kept)
