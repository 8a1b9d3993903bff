"""Combined footings: one slab under two columns, its middle under the resultant so that the soil presses evenly.

Along the columns it is a beam on an even pressure (for ACI 318-19, 13.3.4) with bars below and above; across, each
column spreads into a band as wide as itself and the depth at each side.  Always reinforced.
"""

import math

from balken.catalog.materials import weight
from balken.design.footing_design import THICKEST, WIDEST
from balken.standards.ground import CombinedCase, FootingDesign, FootingError
from balken.standards.standard import Standard
from balken.units import Units
from balken.units.system import INCH
from balken.value import Value


class CombinedDesign(Value, frozen=True):
    """A combined footing: ``before`` is how far it reaches beyond the first column's middle, mm."""

    case: CombinedCase
    before: float
    design: FootingDesign

    @property
    def length(self) -> float:
        """Its length along the columns, mm."""
        return self.design.length


def _outline(case: CombinedCase, beside: float, step: float) -> tuple[float, float]:
    """Return (reach beyond the first column's middle, length).

    Its middle lies under the resultant of all loads; it is as long as that and the columns ask for, and no
    shorter than the side of a square that the soil would carry.
    """
    p1, p2 = (max(load.dead + load.live + load.roof_live + load.snow, 1.0) for load in case.loads)
    middle = case.apart * p2 / (p1 + p2)
    reach1 = middle + case.sizes[0] / 2.0 + beside
    reach2 = case.apart - middle + case.sizes[1] / 2.0 + beside
    square = math.sqrt((p1 + p2) / (0.85 * case.bearing) * 1000.0)
    length = math.ceil(max(2.0 * reach1, 2.0 * reach2, square) / step - 1e-6) * step
    return length / 2.0 - middle, length


def design_combined(
    standard: Standard,
    case: CombinedCase,
    units: Units,
    width: float | None = None,
    thickness: float | None = None,
) -> CombinedDesign:
    """Choose width and thickness (steps of 2 in or 50 mm) and bars; raises FootingError when nothing is enough."""
    step = 2.0 * INCH if units is Units.IMPERIAL else 50.0
    if sum(max(load) for load in case.loads) <= 0.0:
        raise FootingError("no load presses on the footing; type loads above zero.")
    before, length = _outline(case, standard.least_footing.projection, step)
    least = standard.least_footing.reinforced
    made: CombinedDesign | None = None
    first = thickness if thickness is not None else math.ceil(least / step - 1e-6) * step
    for k in range(1 if thickness is not None else math.floor((THICKEST - first) / step) + 1):
        deep = first + k * step
        wide = width or _width(standard, case, before, length, deep, step)
        made = CombinedDesign(case, before, standard.check_combined(case, before, length, wide, deep))
        if made.design.works:
            break
    assert made is not None
    return made


def _width(standard: Standard, case: CombinedCase, before: float, length: float, deep: float, step: float) -> float:
    wide = math.ceil((max(case.sizes) + 2.0 * standard.least_footing.projection) / step - 1e-6) * step
    while wide <= WIDEST:
        own = weight("concrete") * deep * 1e-6 * length * wide
        steady = standard.wind_checks(case.loads[0].plus(case.loads[1]), own, min(wide, length), deep, case.sideways)
        kept = all(c.used <= 1.0 + 1e-9 for c in steady)
        if kept and standard.combined_pressure(case, before, length, wide, deep) <= case.bearing * (1.0 + 1e-9):
            return wide
        wide += step
    raise FootingError("no combined footing up to 25 ft (7.6 m) wide is enough; part the columns or use piles.")
