"""How high the heels of trusses are: by that, and not by a bird's mouth, lies a roof that trusses carry."""

import math

from balken.catalog.sections import section
from balken.model.kinds.trusses import Trusses
from balken.units.system import INCH

BUTT = 0.25 * INCH
"""What is left of the bottom chord's end under the top chord at the outer face (common practice, no source)."""


WEDGES = ("2x4", "2x6", "2x8", "2x10", "2x12")
"""What wedges under top chords that bear are cut from."""


def wedge_of(high: float) -> str | None:
    """Return the least board from which a wedge so high at its inner end is cut, mm; None where none is as wide."""
    return next((size for size in WEDGES if section(size).depth >= high), None)


def heel_of(trusses: Trusses, steepest: float) -> float:
    """Return the typed heel, else that of a butt cut of 1/4 in under the top chord (2x4 where none is typed), mm."""
    return trusses.heel if trusses.heel is not None else butted(trusses.top or "2x4", steepest)


def butted(top: str, pitch: float) -> float:
    """Return how high a heel is where a butt cut is left of the bottom chord's end under a top chord, mm."""
    return section(top).depth * math.hypot(1.0, pitch) + BUTT
