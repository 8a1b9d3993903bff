"""Pads designed: what stands on each and was put on it, and its footing, alone or together with another."""

import shapely

from balken.catalog.materials import weight
from balken.design.footings import PadResult, RunFooting, design_pad, design_two
from balken.framing.foundations import FoundationRun
from balken.framing.pads import PadPlace, carried, pier_solid, square
from balken.framing.pieces import Piece
from balken.geometry.plane import Ring, distance
from balken.loads.cases import Cases, total
from balken.model.records import Concrete
from balken.standards.standard import Standard
from balken.units import Units
from balken.units.system import INCH
from balken.value import Value

NEAR = 900.0
"""A pad left to Balken reaches about this far, and strips this much higher or lower belong to it, mm."""


class Strip(Value, frozen=True):
    """A stretch of a strip footing: its outline in plan, its underside and top (mm), the line load on it (N/mm)."""

    ring: Ring
    bottom: float
    top: float
    line: Cases


def loads_on_pads(places: tuple[PadPlace, ...]) -> dict[str, Cases]:
    """Return what was put on each pad by itself, N: its pier by its weight, and what was typed."""
    found = {}
    for place in places:
        pad, pier = place.pad, pier_solid(place)
        parts = [Cases(dead=pad.dead, live=pad.live, snow=pad.snow)]
        if pier is not None:
            parts.append(Cases(dead=weight("concrete") * pier.prism.volume * 1e-6))
        found[pad.id] = total(parts)
    return found


def design_pads(
    places: tuple[PadPlace, ...],
    on_pads: dict[str, Cases],
    columns: tuple[Piece, ...],
    bearing: float,
    concrete: Concrete,
    units: Units,
    friction: float,
    standard: Standard,
    strips: tuple[Strip, ...] = (),
) -> dict[str, PadResult]:
    """Design every pad; one that is joined to another lies in the footing of both.

    ``strips``: what those cast with strip footings carry of walls.
    """
    sides = {piece.owner: _side(piece) for piece in columns}
    known = {place.pad.id: place for place in places}
    in_another = carried(places)
    found = {}

    def column(place: PadPlace) -> float:
        return min((sides[c] for c in place.columns if c in sides), default=5.5 * INCH)

    for place in places:
        pad, other = place.pad, known.get(place.pad.joined)
        if pad.id in in_another:
            continue
        if other is None:
            found[pad.id] = design_pad(
                pad, on_pads[pad.id], bearing, concrete, units, column(place), friction, _arm(place),
                _walls_over(place, strips) if pad.with_strip else Cases(), standard=standard,
            )  # fmt: skip
            continue
        both = (on_pads[pad.id], on_pads[other.pad.id])
        apart, columns_ = distance(place.centre, other.centre), (column(place), column(other))
        arms = (_arm(place), _arm(other))
        found[pad.id] = design_two(
            (pad, other.pad), both, apart, bearing, concrete, units, columns_, friction, arms, standard=standard
        )
    return found


def strips_of(runs: tuple[FoundationRun, ...], footings: dict[str, RunFooting]) -> tuple[Strip, ...]:
    """Return the stretches of all strip footings."""
    found = []
    for run in runs:
        made = footings[run.id]
        for s in run.segments if run.footing else ():
            top = run.band.bottom - s.drop
            found.append(Strip(run.footing_ring(s.low, s.high, made.width), top - made.depth, top, made.line))
    return tuple(found)


def _walls_over(place: PadPlace, strips: tuple[Strip, ...]) -> Cases:
    """Return the line load of the walls over whose strips a pad stands, at its height, N/mm."""
    shape = shapely.Polygon(square(place.centre, max(place.pad.width or 0.0, NEAR), place.pad.angle))
    loads = [
        s.line
        for s in strips
        if s.bottom - NEAR < place.top < s.top + NEAR and shapely.Polygon(s.ring).intersection(shape).area > 100.0
    ]
    return total(loads)


def _arm(place: PadPlace) -> float:
    """Return how high above the top of a pad wind pushes: at the head of its pier, mm."""
    return max(place.head - place.top, 0.0) if place.pad.pier > 0.0 else 0.0


def _side(piece: Piece) -> float:
    ring = piece.solid.plan[0]
    return min(distance(ring[0], ring[1]), distance(ring[1], ring[2]))
