"""Wind that lifts roofs of low-rise buildings: ASCE 7-16, chapters 26 and 28 (main system).  kN/m2, m/s and mm in and out."""

import math

from balken.loads.roof_wind import RoofWind
from balken.model.records import Loads
from balken.units.system import FOOT, PSF

EXPOSURES = {"B": (7.0, 1200.0, 30.0), "C": (9.5, 900.0, 15.0), "D": (11.5, 700.0, 15.0)}
"""Alpha, zg (ft) and the least height (ft) of each exposure (Table 26.11-1; 30 ft in exposure B for low-rise buildings)."""
DIRECTIONALITY = 0.85
"""Kd of main systems and of parts of buildings (Table 26.6-1)."""
UP, UP_AT_ENDS = 0.69, 1.07
"""GCpf of roofs, zones 2 and 2E, load case B: any slope (Figure 28.3-1); no zone of the roof is sucked harder."""
INSIDE = {"enclosed": 0.18, "partly enclosed": 0.55}
"""GCpi (Table 26.13-1)."""
UNDER_OVERHANG = 0.7
"""Pressure on soffits (28.3.3)."""
LOWEST = 60.0 * FOOT
MPH = 0.44704


def exposure_factor(exposure: str, height: float) -> float:
    """Return Kz at a height (mm) above ground (Table 26.10-1, note 1)."""
    alpha, top, least = EXPOSURES[exposure]
    return 2.01 * math.pow(max(height / FOOT, least) / top, 2.0 / alpha)


def velocity_pressure(speed: float, exposure: str, height: float) -> float:
    """Return qz: 0.00256 Kz Kzt Kd Ke V2 in psf and mph, Kzt and Ke 1.0 (equation 26.10-1)."""
    return 0.00256 * exposure_factor(exposure, height) * DIRECTIONALITY * (speed / MPH) ** 2 * PSF


def end_zone(least_side: float, height: float) -> float:
    """Return how far from a corner the end zones of a building reach, 2 a (Figure 28.3-1, note 9)."""
    a = max(min(0.1 * least_side, 0.4 * height), 0.04 * least_side, 3.0 * FOOT)
    return 2.0 * a


def on_roof(loads: Loads, height: float, least_side: float) -> RoofWind | None:
    """Return the wind that lifts a roof whose mean height is ``height``; None where chapter 28 does not cover the building."""
    if height > LOWEST or height > least_side:
        return None
    q = velocity_pressure(loads.wind_speed, loads.wind_exposure, height)
    inside = INSIDE[loads.wind_openings]
    return RoofWind(
        q,
        q * (UP + inside),
        q * (UP_AT_ENDS + inside),
        q * (UP + UNDER_OVERHANG),
        q * (UP_AT_ENDS + UNDER_OVERHANG),
        end_zone(least_side, height),
    )
