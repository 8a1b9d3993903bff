"""A slope of a footing as it is suggested: over the longest stretch that is free, falling with the ground as far as it may."""

import math

from balken.framing.foundations import FoundationRun
from balken.framing.ground import Ground
from balken.model.kinds.foundation import DEEPEST_SLOPE, SHORTEST_SLOPE, STEEPEST
from balken.model.records import Slope
from balken.units import Units
from balken.units.system import INCH

LEVEL = 8.0
"""So many inches, or tens of mm, a footing is suggested to fall where the ground does not."""


def suggested_slope(run: FoundationRun, wall_length: float, ground: Ground | None, units: Units) -> Slope | None:
    """Return a slope that is accepted as it is, in round figures; None where steps and other slopes leave no room for one."""
    step = INCH if units is Units.IMPERIAL else 10.0
    best: tuple[float, float] | None = None
    for low, high in _free(run, wall_length):
        # Rounded inward: what is shown is what is typed.
        start, end = math.ceil(round(low / step, 6)) * step, math.floor(round(high / step, 6)) * step
        if end - start > SHORTEST_SLOPE + step and (best is None or end - start > best[1] - best[0]):
            best = start, end
    if best is None:
        return None
    start, end = best
    first, last = (ground.height(run.band.at(at, run.faces[0])) if ground is not None else 0.0 for at in best)
    falls = abs(last - first) if abs(last - first) > step else LEVEL * step
    fall = math.floor(min(falls, STEEPEST * (end - start), DEEPEST_SLOPE) / step + 1e-6) * step
    deep = (fall, 0.0) if last > first + step else (0.0, fall)
    return Slope(wall=run.wall, start=start, end=end, deeper_start=deep[0], deeper_end=deep[1])


def _free(run: FoundationRun, wall_length: float) -> list[tuple[float, float]]:
    """Return the stretches between steps, within the wall, that no slope lies under yet."""
    found = [(max(s.low, 0.0), min(s.high, wall_length)) for s in run.segments]
    for slope in run.foundation.slopes:
        if slope.wall == run.wall:
            found = [
                part for low, high in found for part in ((low, min(high, slope.start)), (max(low, slope.end), high))
            ]
    return [(low, high) for low, high in found if high > low]
