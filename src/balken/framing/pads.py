"""Pads and their piers: where they lie, what stands on them, their solids."""

from balken.framing.uprights import Upright
from balken.geometry.plane import Point, Ring, add, distance, turn, unit
from balken.model.lookup import by_id, height, locate
from balken.model.records import Grid, Level, Pad
from balken.value import Value

UNDER = 60.0
"""A column stands on a pad when its middle is nearer than this to the pad's, mm."""


Foot = tuple[str, Point, float]
"""What stands free: its id, where it stands in plan, the height of its foot, mm."""


class PadPlace(Value, frozen=True):
    """A pad with its place and heights resolved, and the columns standing on it."""

    pad: Pad
    centre: Point
    top: float
    head: float
    columns: tuple[str, ...]
    second: Point | None = None
    """Middle of the other column of a combined footing."""


def pad_places(
    pads: tuple[Pad, ...], feet: tuple[Foot, ...], grids: tuple[Grid, ...], levels: tuple[Level, ...]
) -> tuple[PadPlace, ...]:
    """Resolve the pads; ``feet``: of all that stands free.  Raises KeyError when a reference is gone."""
    found = []
    for pad in pads:
        centre, top = locate(pad.place, grids), height(pad.top, levels)
        head = height(pad.head, levels) if pad.pier > 0.0 else top
        on = tuple(c for c, at, foot in feet if distance(at, centre) < UNDER and abs(foot - head) < 300.0)
        other = by_id(pads).get(pad.joined)
        second = locate(other.place, grids) if other is not None else None
        found.append(PadPlace(pad, centre, top, head, on, second))
    return tuple(found)


def carried(places: tuple[PadPlace, ...]) -> frozenset[str]:
    """Return the pads that lie in another one's combined footing and have none of their own."""
    return frozenset(p.pad.joined for p in places if p.pad.joined)


def pad_ring(place: PadPlace, width: float, length: float, before: float) -> Ring:
    """Return the plan outline of a pad: a square, or a rectangle along both columns of a combined footing.

    ``before``: how far that reaches beyond the first column's middle, mm.
    """
    if place.second is None:
        return square(place.centre, width, place.pad.angle)
    d = unit(place.centre, place.second)
    a = (-d[1], d[0])
    corners = ((-before, -width / 2.0), (length - before, -width / 2.0))
    corners = (*corners, (length - before, width / 2.0), (-before, width / 2.0))  # type: ignore[assignment]
    return tuple(add(add(place.centre, d, s), a, t) for s, t in corners)


def square(centre: Point, side: float, angle: float) -> Ring:
    """Return a square outline about a point."""
    half = side / 2.0
    return tuple(add(centre, turn((sx * half, sy * half), angle)) for sx, sy in ((-1, -1), (1, -1), (1, 1), (-1, 1)))


def pad_solid(place: PadPlace, width: float, thickness: float, length: float, before: float) -> Upright:
    """Return the pad."""
    return Upright(pad_ring(place, width, length, before), place.top - thickness, place.top)


def pier_solid(place: PadPlace) -> Upright | None:
    """Return the pier, or None where there is none."""
    if place.pad.pier <= 0.0:
        return None
    return Upright(square(place.centre, place.pad.pier, place.pad.angle), place.top, place.head)
