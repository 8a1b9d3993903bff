"""Loads typed on a floor as they lie on its deck: rectangles in strips, lines, points."""

import math

from balken.geometry.plane import Point, Ring, add, turn
from balken.loads.along import Laid, laid_evenly
from balken.loads.cases import Cases
from balken.loads.decks import Spot
from balken.model.kinds.floor_load import FloorLoad
from balken.model.places import locate
from balken.model.records import Grid

STRIP = 300.0
"""A rectangle is laid in strips no wider than this, mm."""
POINT = 50.0
"""What lies in a point lies on so much, mm."""


def typed_on(loads: tuple[FloorLoad, ...], grids: tuple[Grid, ...]) -> tuple[Spot | Laid, ...]:
    """Return what lies on a deck of typed loads: spot, loads, spot, loads...; raises KeyError where an axis is gone."""
    found: list[Spot | Laid] = []
    for load in loads:
        at, way = locate(load.place, grids), turn((1.0, 0.0), load.angle)
        force = Cases(dead=load.dead, live=load.live)
        if not any(force):
            continue
        for start, direction, long, part in _strips(load, at, way):
            found += [Spot(start, direction, load.id), laid_evenly(0.0, long, force.scaled(part))]
    return tuple(found)


def ring_of(load: FloorLoad, grids: tuple[Grid, ...]) -> Ring:
    """Return the corners of where a load lies in plan; they lie in one place for a point."""
    at, way = locate(load.place, grids), turn((1.0, 0.0), load.angle)
    up, far = (-way[1], way[0]), add(at, way, load.width)
    return at, far, add(far, up, load.depth), add(at, up, load.depth)


def _strips(load: FloorLoad, at: Point, way: Point) -> list[tuple[Point, Point, float, float]]:
    """Return where the strips of a load begin, their direction and length, and how much of it lies on each."""
    up = (-way[1], way[0])
    if load.width <= POINT and load.depth <= POINT:
        return [(add(at, way, -POINT / 2.0), way, POINT, 1.0)]
    if load.width <= POINT:
        return [(at, up, load.depth, 1.0)]
    count = max(math.ceil(load.depth / STRIP), 1)
    return [(add(at, up, load.depth * (k + 0.5) / count), way, load.width, 1.0 / count) for k in range(count)]
