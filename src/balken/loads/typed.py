"""Loads typed on a floor as they lie on its deck: rectangles in strips, lines, points."""

import math
from typing import NamedTuple

from balken.geometry.plane import Point, Ring, add, turn
from balken.loads.along import Laid, laid_evenly
from balken.loads.cases import Cases
from balken.loads.decks import Spot
from balken.model.kinds.floor_load import FloorLoad
from balken.model.kinds.truss_load import TrussLoad
from balken.model.places import locate
from balken.model.records import Grid

STRIP = 300.0
"""A rectangle is laid in strips no wider than this, mm."""
POINT = 50.0
"""What lies in a point lies on so much, mm."""


class Weight(NamedTuple):
    """What hangs in a point, N."""

    at: Point
    force: Cases


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


def ring_of(load: FloorLoad | TrussLoad, grids: tuple[Grid, ...]) -> Ring:
    """Return the corners of where a load lies in plan; they lie in one place for a point."""
    at, way = locate(load.place, grids), turn((1.0, 0.0), load.angle)
    up, far = (-way[1], way[0]), add(at, way, load.width)
    return at, far, add(far, up, load.depth), add(at, up, load.depth)


def points_of(loads: tuple[TrussLoad, ...], grids: tuple[Grid, ...]) -> tuple[Weight, ...]:
    """Return weights hung from trusses as points no farther apart than a strip; raises KeyError where an axis is gone."""
    found = []
    for load in loads:
        at, way = locate(load.place, grids), turn((1.0, 0.0), load.angle)
        up = (-way[1], way[0])
        counts = [max(math.ceil(side / STRIP - 1e-9), 1) for side in (load.width, load.depth)]
        force = Cases(dead=load.dead, live=load.live).scaled(1.0 / (counts[0] * counts[1]))
        found += [
            Weight(add(add(at, way, load.width * (i + 0.5) / counts[0]), up, load.depth * (k + 0.5) / counts[1]), force)
            for i in range(counts[0])
            for k in range(counts[1])
            if any(force)
        ]
    return tuple(found)


def _strips(load: FloorLoad, at: Point, way: Point) -> list[tuple[Point, Point, float, float]]:
    """Return where the strips of a load begin, their direction and length, and how much of it lies on each."""
    up = (-way[1], way[0])
    if load.width <= POINT and load.depth <= POINT:
        return [(add(at, way, -POINT / 2.0), way, POINT, 1.0)]
    if load.width <= POINT:
        return [(at, up, load.depth, 1.0)]
    count = max(math.ceil(load.depth / STRIP), 1)
    return [(add(at, up, load.depth * (k + 0.5) / count), way, load.width, 1.0 / count) for k in range(count)]
