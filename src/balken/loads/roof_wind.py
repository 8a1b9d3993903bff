"""Wind that lifts a roof: pressures upward at strength level."""

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
