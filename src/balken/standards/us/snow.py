"""Snow on roofs: ASCE 7-16, chapter 7.  kN/m2 and mm in and out; its formulas are in psf and feet."""

import math

from balken.loads.roof_snow import PlaneSnow
from balken.model.records import Loads
from balken.units.system import FOOT, PSF

LIGHT = 20.0 * PSF
"""Ground snow up to which least loads and rain on snow count (7.3.4, 7.10)."""
LOW = 15.0
"""Roofs of less slope than this take the least load, degrees (7.3.4)."""
RAIN = 5.0 * PSF
NARROW = 20.0 * FOOT
"""Rafters from ridge to eave no longer than this take all ground snow on the lee side (7.6.1)."""
FLATTEST, STEEPEST = 0.5 / 12.0, 7.0 / 12.0
"""Hip and gable roofs flatter or steeper than this need no unbalanced snow (7.6.1)."""
SHORTEST = 20.0 * FOOT
"""Drifts are as those of a roof this long at least (Figure 7.6-1)."""
SLIDES = 15.0 * FOOT
"""Over so much of the lower roof slides what comes down (7.9)."""
PCF = PSF / FOOT
LIGHT_DRIFT = 0.2
WINDWARD = 0.75


def flat_roof(loads: Loads) -> float:
    """Return the flat roof snow load pf (equation 7.3-1)."""
    return 0.7 * loads.snow_exposure * loads.snow_thermal * loads.snow_importance * loads.ground_snow


def ice_at_eaves(loads: Loads) -> float:
    """Return what lies on overhangs where ice dams up on them, with nothing else on the roof but what is dead: twice pf (7.4.5); kN/m2."""
    return 2.0 * flat_roof(loads) if loads.snow_ice and loads.snow_by == "roof" else 0.0


def least(loads: Loads) -> float:
    """Return the least load pm of low-slope roofs (7.3.4)."""
    return loads.snow_importance * min(loads.ground_snow, LIGHT)


def slope_factor(slope: float, thermal: float, slippery: bool) -> float:
    """Return Cs of a slope in degrees (7.4.1, 7.4.2, Figure 7.4-1): 1.0 up to a slope, then straight to nothing at 70 degrees."""
    if thermal <= 1.0:
        begins = 5.0 if slippery else 30.0
    elif thermal < 1.2:
        begins = 10.0 if slippery else 37.5
    else:
        begins = 15.0 if slippery else 45.0
    return min(max((70.0 - slope) / (70.0 - begins), 0.0), 1.0)


def density(ground: float) -> float:
    """Return how much snow weighs, kN/m2 a mm deep (equation 7.7-1)."""
    return min(0.13 * ground / PSF + 14.0, 30.0) * PCF


def drift_height(fetch: float, ground: float, importance: float) -> float:
    """Return the height of a drift blown over ``fetch`` mm of roof, mm (Figure 7.6-1)."""
    if ground <= 0.0:
        return 0.0
    feet = max(fetch, SHORTEST) / FOOT
    high = 0.43 * math.pow(feet, 1.0 / 3.0) * math.pow(ground / PSF + 10.0, 0.25) - 1.5
    return max(math.sqrt(importance) * high, 0.0) * FOOT


def on_plane(loads: Loads, pitch: float, run: float, alone: bool) -> PlaneSnow:
    """Return the snow on a plane ``run`` mm wide from eave to ridge; ``alone``: no ridge or hip joins it to another."""
    if loads.snow_by == "ground":
        return PlaneSnow(loads.ground_snow, loads.ground_snow, run=run, told="ground snow, as IRC R802.4.1")
    slope = math.degrees(math.atan(pitch))
    balanced = slope_factor(slope, loads.snow_thermal, loads.snow_slippery) * flat_roof(loads)
    told = "ASCE 7-16, 7.3, 7.4"
    if 0.0 < loads.ground_snow <= LIGHT and slope < run / FOOT / 50.0:
        balanced, told = balanced + RAIN, f"{told}, 7.10"
    if slope < LOW:
        balanced = max(balanced, least(loads))
    if alone or not FLATTEST <= pitch <= STEEPEST:
        return PlaneSnow(balanced, balanced, run=run, told=told)
    sloped = slope_factor(slope, loads.snow_thermal, loads.snow_slippery) * flat_roof(loads)
    if run <= NARROW + 1.0:
        return PlaneSnow(balanced, loads.snow_importance * loads.ground_snow, run=run, told=f"{told}, 7.6.1")
    high = drift_height(run, loads.ground_snow, loads.snow_importance)
    root = math.sqrt(1.0 / pitch)
    band, deep = high * density(loads.ground_snow) / root, 8.0 / 3.0 * high * root
    return PlaneSnow(balanced, sloped, band, min(deep, run), run, f"{told}, 7.6.1")


def unbalanced(ground: float, pitch: float, run: float, importance: float = 1.0) -> tuple[float, float, float] | None:
    """Return unbalanced snow over a ridge for what is no rafter from eave to ridge (7.6.1, Figure 7.6-2): the part of balanced snow on
    the windward side, what lies more beside the ridge on the lee side, kN/m2, and how far down it reaches, mm of plan.
    """
    if not FLATTEST <= pitch <= STEEPEST or ground <= 0.0:
        return None
    high, root = drift_height(run, ground, importance), math.sqrt(1.0 / pitch)
    return 0.3, high * density(ground) / root, min(8.0 / 3.0 * high * root, run)


def drift(loads: Loads, upper: float, lower: float, clear: float, balanced: float) -> tuple[float, float]:
    """Return the drift on a lower roof beside a taller part: its greatest load at the wall, and how far it reaches, mm (7.7.1).

    ``upper``, ``lower``: how long both roofs are square to the wall; ``clear``: from the lower to the upper roof, mm.
    """
    weighs = density(loads.ground_snow)
    lies = balanced / weighs
    free = clear - lies
    if loads.ground_snow <= 0.0 or free <= 0.0 or (lies > 0.0 and free / lies < LIGHT_DRIFT):
        return 0.0, 0.0
    ground, importance = loads.ground_snow, loads.snow_importance
    high = max(drift_height(upper, ground, importance), WINDWARD * drift_height(lower, ground, importance))
    if high <= free:
        return high * weighs, 4.0 * high
    return free * weighs, min(4.0 * high**2 / free, 8.0 * free)


def sliding(loads: Loads, run: float, pitch: float) -> float:
    """Return what slides from an upper roof onto each m2 of the lower one, over 15 ft, kN/m2; ``run``: from its ridge to its eave (7.9)."""
    begins = 0.25 / 12.0 if loads.snow_slippery else 2.0 / 12.0
    return 0.4 * flat_roof(loads) * run / SLIDES if pitch > begins else 0.0
