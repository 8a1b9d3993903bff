"""Pads and their piers: where they lie, what stands on them, their solids."""

from dataclasses import dataclass

from balken.framing.uprights import Upright
from balken.geometry.plane import Point, Ring, add, distance, turn
from balken.model.lookup import height, locate
from balken.model.records import Column, Grid, Level, Pad

UNDER = 60.0
"""A column stands on a pad when its middle is nearer than this to the pad's, mm."""


@dataclass(frozen=True, slots=True)
class PadPlace:
    """A pad with its place and heights resolved, and the columns standing on it."""

    pad: Pad
    centre: Point
    top: float
    head: float
    columns: tuple[str, ...]


def pad_places(
    pads: tuple[Pad, ...], columns: tuple[Column, ...], grids: tuple[Grid, ...], levels: tuple[Level, ...]
) -> tuple[PadPlace, ...]:
    """Resolve the pads; raises KeyError when a reference is gone."""
    standing = [(c.id, locate(c.place, grids), height(c.foot, levels)) for c in columns]
    found = []
    for pad in pads:
        centre, top = locate(pad.place, grids), height(pad.top, levels)
        head = height(pad.head, levels) if pad.pier > 0.0 else top
        on = tuple(c for c, at, foot in standing if distance(at, centre) < UNDER and abs(foot - head) < 300.0)
        found.append(PadPlace(pad, centre, top, head, on))
    return tuple(found)


def square(centre: Point, side: float, angle: float) -> Ring:
    """Return a square outline about a point."""
    half = side / 2.0
    return tuple(add(centre, turn((sx * half, sy * half), angle)) for sx, sy in ((-1, -1), (1, -1), (1, 1), (-1, 1)))


def pad_solid(place: PadPlace, width: float, thickness: float) -> Upright:
    """Return the pad."""
    return Upright(square(place.centre, width, place.pad.angle), place.top - thickness, place.top)


def pier_solid(place: PadPlace) -> Upright | None:
    """Return the pier, or None where there is none."""
    if place.pad.pier <= 0.0:
        return None
    return Upright(square(place.centre, place.pad.pier, place.pad.angle), place.top, place.head)
