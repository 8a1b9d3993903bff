"""Wind that lifts a roof: pressures upward at strength level."""

from typing import NamedTuple

from msgspec.structs import replace

from balken.model.records import Loads
from balken.value import Value


class RoofWind(Value, frozen=True):
    """Pressures that lift a roof, kN/m2 of plan: of the air's speed, on planes and on overhangs, inside and in the end zones, which
    reach so far from each corner, mm.
    """

    speed: float
    inner: float
    end: float
    inner_over: float
    end_over: float
    reach: float


class WindAt(Value, frozen=True):
    """Where wind blows on a roof: loads that say how it blows there, the lowest ground beside the building and its least side, mm."""

    loads: Loads
    ground: float
    least_side: float


class PartsWind(Value, frozen=True):
    """Wind on parts of a roof: pressure of the air's speed, kN/m2; the coefficient of what presses inside; how far from its corners more sucks,
    and on a flat roof, mm.
    """

    speed: float
    inside: float
    edge: float
    flat_edge: float = 0.0


class Lifting(NamedTuple):
    """What sucks at a rafter: all along it, and more at its ends, kN/m2 square to it at strength level; how long those are, mm; at its tail."""

    along: float = 0.0
    ends: float = 0.0
    far: float = 0.0
    tail: float = 0.0


def open_below(loads: Loads, on_beams: bool) -> Loads:
    """Return loads with which wind lifts a roof: one on beams is open below, and wind is taken to press there as inside a partly enclosed
    building (a safe reading: chapter 27 gives less for roofs over open ground, ASCE 7-16, 27.3.2).
    """
    return replace(loads, wind_openings="partly enclosed") if on_beams else loads
