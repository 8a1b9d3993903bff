"""Outlines of trusses given by span, pitch and heel, for whatever sections they come to be made of."""

import math
from collections.abc import Callable

from balken.framing.truss_heels import butted
from balken.framing.truss_outline import TrussOutline, alongside, ridged, sloped
from balken.framing.trusses import Sizes
from balken.units.system import FOOT, INCH
from balken.value import Value

SHALLOWEST = 14.0
"""Parallel chords are a so manieth part of their span deep, where nothing is typed (common practice, no source)."""


class Given(Value, frozen=True):
    """A truss by its measures, mm and rise over run; ``heel`` None: a butt cut, or of parallel chords by the span."""

    shape: str
    span: float
    pitch: float
    over: float
    heel: float | None
    bearing: float
    bottom_pitch: float = 0.0


def heel_of(given: Given, sizes: Sizes) -> float:
    """Return the typed heel, else the usual one for the depth of the top chord."""
    if given.heel is not None:
        return given.heel
    if given.shape == "parallel":
        return max(math.ceil(given.span / SHALLOWEST / INCH) * INCH, 1.0 * FOOT)
    return butted(sizes.top, given.pitch)


def outlined(given: Given) -> Callable[[Sizes], TrussOutline]:
    """Return what makes the outline of a truss for its sections."""

    def made(sizes: Sizes) -> TrussOutline:
        heel = heel_of(given, sizes)
        if given.shape == "one-sloped":
            return sloped(given.span, given.pitch, heel, given.over, given.bearing)
        if given.shape == "parallel":
            return alongside(given.span, given.pitch, heel, given.over, given.bearing)
        return ridged(given.span, given.pitch, heel, given.over, given.bearing, given.bottom_pitch)

    return made
