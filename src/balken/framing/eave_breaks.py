"""Where the deck of a roof runs out flatter over sprockets at its eaves, and how high it lies there."""

import math

from balken.catalog.sections import section
from balken.framing.surface_roofs import SurfacePlan
from balken.units.system import INCH

SIZES = ("2x4", "2x6", "2x8", "2x10", "2x12")
"""Of what sprockets are made."""
LAP = 2.5 * INCH
"""So much of a sprocket lies beside its tail at the end of that, at least."""
LEAST_OVER = 6.0 * INCH
"""Along narrower overhangs there are none."""


def sprocket_size(plan: SurfacePlan, edge: int) -> str:
    """Return the least board of which the sprockets along an eave are; "" where none is deep enough to reach down beside its tail, and where
    there are to be none.
    """
    flat, over = plan.roof.sprocket_pitch, plan.overhangs[edge]
    if flat is None or plan.edges[edge].kind != "eave" or over < LEAST_OVER:
        return ""
    deep = ((plan.edges[edge].pitch - flat) * (plan.roof.sprocket_in + over) + LAP) / math.hypot(1.0, flat)
    return next((size for size in SIZES if section(size).depth >= deep), "")


def flat_at(plan: SurfacePlan, edge: int) -> float | None:
    """Return how steep the deck is over the sprockets along an eave; None where there are none."""
    return plan.roof.sprocket_pitch if sprocket_size(plan, edge) else None


def lift(plan: SurfacePlan, edge: int, inward: float) -> float:
    """Return how much higher than the plane of an eave the deck lies over its sprockets, so far in of the bearing line, mm."""
    flat = flat_at(plan, edge)
    return 0.0 if flat is None else (plan.edges[edge].pitch - flat) * max(plan.roof.sprocket_in - inward, 0.0)
