"""How high the heels of trusses are: by that, and not by a bird's mouth, lies a roof that trusses carry."""

import math

from balken.catalog.sections import section
from balken.model.kinds.trusses import Trusses
from balken.units.system import INCH


def heel_of(trusses: Trusses, steepest: float) -> float:
    """Return the typed heel, else that of a butt cut of 1/4 in under the top chord (2x4 where none is typed), mm."""
    if trusses.heel is not None:
        return trusses.heel
    return section(trusses.top or "2x4").depth * math.hypot(1.0, steepest) + 0.25 * INCH
