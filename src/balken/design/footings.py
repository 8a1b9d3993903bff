"""Strip footings: width from load and soil bearing value, and the limits of IRC R403.1."""

import math
from dataclasses import dataclass

from balken.loads.cases import Cases, worst
from balken.model.materials import weight
from balken.model.records import Foundation
from balken.units import Units
from balken.units.system import INCH

LEAST_PROJECTION = 2.0 * INCH
"""IRC R403.1.1: footing projection at least 2 in and not more than the footing's thickness."""
LEAST_WIDTH = 12.0 * INCH
"""IRC Table R403.1(1): no footing narrower than 12 in."""
LEAST_BURIAL = 12.0 * INCH
"""IRC R403.1.4: at least 12 in below undisturbed ground."""


@dataclass(frozen=True, slots=True)
class FootingResult:
    """A strip footing under one foundation wall: soil pressure (kN/m2) against its bearing value."""

    id: str
    width: float
    depth: float
    load: float
    own: float
    pressure: float
    bearing_value: float
    combination: str
    auto: bool

    @property
    def used(self) -> float:
        """Soil pressure over bearing value."""
        return self.pressure / self.bearing_value


def footing_width(line: Cases, foundation: Foundation, bearing_value: float, units: Units) -> float:
    """Return the width (mm) at which the soil carries the line load (N/mm) and the footing itself.

    b = P / (q - gamma t), rounded up to 2 in (50 mm), at least 12 in and 2 in beyond the wall each side.
    """
    load, _ = worst(line)
    net = bearing_value - weight("concrete") * foundation.footing_depth / 1000.0
    need = load / net * 1000.0 if net > 0.0 else 6000.0
    need = max(need, LEAST_WIDTH, foundation.thickness + 2.0 * LEAST_PROJECTION)
    step = 2.0 * INCH if units is Units.IMPERIAL else 50.0
    return min(math.ceil(need / step - 1e-6) * step, 6000.0)


def check_footing(
    footing_id: str, line: Cases, foundation: Foundation, width: float, bearing_value: float
) -> FootingResult:
    """Return the soil pressure under a strip footing, its own weight included."""
    load, combo = worst(line)
    own = weight("concrete") * width * foundation.footing_depth * 1e-6
    return FootingResult(
        footing_id,
        width,
        foundation.footing_depth,
        load,
        own,
        (load + own) / width * 1000.0,
        bearing_value,
        combo.name,
        foundation.footing_width is None,
    )
