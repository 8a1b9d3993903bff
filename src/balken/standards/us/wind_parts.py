"""Wind on parts of buildings (components and cladding), written down from memory: walls and roofs up to 7 degrees by ASCE 7-16, Figures 30.3-1 and
30.3-2A, steeper roofs as IRC 2018 Table R301.2(2) has them: ASCE 7-10, Figures 30.4-2B and C.  Near the edges of those ASCE 7-16 asks more.
kN/m2, mm and degrees.
"""

import math
from typing import NamedTuple

from balken.loads.roof_wind import Lifting, PartsWind, RoofWind
from balken.model.records import Loads
from balken.standards.us.wind import INSIDE, LOWEST, end_zone, velocity_pressure
from balken.units.system import FOOT, PSF

SQUARE_FOOT = FOOT * FOOT


class _Falls(NamedTuple):
    """A coefficient GCp that falls with the logarithm of the area that a part carries, ft2: from ``small`` up to 10 to ``large`` from ``until`` on."""

    small: float
    large: float
    until: float

    def at(self, area: float) -> float:
        """Return it for an area, mm2."""
        feet = min(max(area / SQUARE_FOOT, 10.0), self.until)
        return self.small + (self.large - self.small) * math.log10(feet / 10.0) / math.log10(self.until / 10.0)


LEAST = 16.0 * PSF
"""Parts are made for so much at least (ASCE 7-16, 30.2.2)."""
WALLS = _Falls(1.1, 0.8, 500.0), _Falls(1.4, 0.8, 500.0)
"""Suction on walls, zones 4 and 5 (beside corners)."""
FLAT = 7.0
"""Roofs no steeper are flat ones, degrees."""
FLAT_REACH = 0.6
"""So far, as a part of their mean height, zone 3 of those reaches along their edges (ASCE 7-16, Figure 30.3-2A)."""
ROOFS = (
    (FLAT, _Falls(2.3, 1.4, 500.0), _Falls(3.2, 1.4, 500.0), 3.2),
    (27.0, _Falls(1.7, 1.2, 100.0), _Falls(2.6, 2.0, 100.0), 3.7),
    (45.0, _Falls(1.2, 1.0, 100.0), _Falls(1.2, 1.0, 100.0), 2.0),
)
"""Suction on roofs up to so many degrees: zones 2 (along edges, and ridges) and 3 (at corners); on small overhangs at corners, from above and
below together.
"""


def on_walls(loads: Loads, height: float, area: float) -> tuple[float, float] | None:
    """Return the suction on parts of walls that carry an area (mm2), and beside corners, kN/m2 at strength level; ``height``: of the roof in the
    mean over ground, mm; None where it is too high for these rules.
    """
    if height > LOWEST:
        return None
    q, inside = velocity_pressure(loads.wind_speed, loads.wind_exposure, height), INSIDE[loads.wind_openings]
    inner, corner = (falls.at(area) for falls in WALLS)
    return max(q * (inner + inside), LEAST), max(q * (corner + inside), LEAST)


def on_parts(loads: Loads, height: float, least_side: float) -> PartsWind | None:
    """Return the wind on parts of a roof of a mean height over ground and a least side, mm; None where it is too high for these rules."""
    if height > LOWEST:
        return None
    q = velocity_pressure(loads.wind_speed, loads.wind_exposure, height)
    edge = end_zone(least_side, height) / 2.0
    return PartsWind(q, INSIDE[loads.wind_openings], edge, max(FLAT_REACH * height, edge))


def on_small_overhang(wind: RoofWind, pitch: float) -> float:
    """Return what lifts a small part of an overhang of a roof of a pitch, as at its corners, kN/m2 of plan at strength level: no less than what
    lifts overhangs of the whole (chapter 28), which alone is known of slopes over 45 degrees.
    """
    slope = math.degrees(math.atan(pitch))
    over = next((row[3] for row in ROOFS if slope <= row[0] + 1e-6), 0.0)
    return max(wind.speed * over, wind.end_over)


def on_rafters(wind: PartsWind, pitch: float, area: float) -> Lifting | None:
    """Return what sucks at a rafter of a pitch that carries an area (mm2), all of it in zone 2, its ends and its tail in zone 3; None where it is
    steeper than these rules go.
    """
    slope = math.degrees(math.atan(pitch))
    for steepest, edge, corner, over in ROOFS:
        if slope <= steepest + 1e-6:
            along, ends = (max(wind.speed * (falls.at(area) + wind.inside), LEAST) for falls in (edge, corner))
            far = wind.flat_edge if steepest == FLAT else wind.edge
            return Lifting(along, ends, far, max(wind.speed * over, LEAST))
    return None
