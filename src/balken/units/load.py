"""Loads and stresses as typed and printed."""

import math
import re

from balken.units.system import PLF, POUND_FORCE, PSF, PSI, UnitError, Units

_AREA_UNITS = {"psf": PSF, "lb/ft2": PSF, "kn/m2": 1.0, "kpa": 1.0, "n/m2": 0.001, "pa": 0.001, "ksf": 1000 * PSF}
_AREA = re.compile(r"^([-+]?(?:\d+(?:\.\d*)?|\.\d+))\s*([a-z/0-9]*)$")


def parse_area_load(text: str, units: Units = Units.IMPERIAL) -> float:
    """Read an area load (40 psf, 1.9 kN/m2, 2 kPa); returns kN/m2.

    A bare number is psf or kN/m2 by ``units``.  Raises UnitError when it is no area load or
    below zero.
    """
    cleaned = text.strip().lower().replace("\u00b2", "2").replace("^", "").replace(" ", "").replace(",", "")
    match = _AREA.match(cleaned)
    unit = (match[2] if match else "") or ("psf" if units is Units.IMPERIAL else "kn/m2")
    if not match or unit not in _AREA_UNITS:
        raise UnitError(f"'{text}' is not an area load; type it like 40 psf or 1.9 kN/m2.")
    value = float(match[1]) * _AREA_UNITS[unit]
    if value < 0.0 or not math.isfinite(value):
        raise UnitError(f"The load '{text}' is below zero; type zero or more.")
    return value


def format_area_load(kn_m2: float, units: Units = Units.IMPERIAL) -> str:
    """Print an area load: 40 psf or 1.92 kN/m2."""
    if units is Units.METRIC:
        return f"{kn_m2:.2f} kN/m\u00b2"
    psf = kn_m2 / PSF
    return f"{psf:,.0f} psf" if abs(psf - round(psf)) < 0.05 else f"{psf:,.1f} psf"


def format_line_load(kn_m: float, units: Units = Units.IMPERIAL) -> str:
    """Print a line load: 480 plf or 7.00 kN/m."""
    return f"{kn_m:.2f} kN/m" if units is Units.METRIC else f"{kn_m / PLF:,.0f} plf"


def format_force(newton: float, units: Units = Units.IMPERIAL) -> str:
    """Print a force: 1,240 lb or 5.52 kN."""
    return f"{newton / 1000:,.2f} kN" if units is Units.METRIC else f"{newton / POUND_FORCE:,.0f} lb"


def format_stress(mpa: float, units: Units = Units.IMPERIAL) -> str:
    """Print a stress: 1,035 psi or 7.14 N/mm2."""
    return f"{mpa:,.2f} N/mm\u00b2" if units is Units.METRIC else f"{mpa / PSI:,.0f} psi"
