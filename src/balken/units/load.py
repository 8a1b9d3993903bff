"""Loads and stresses as typed and printed."""

import math
import re

from balken.units.system import PCF, PLF, POUND_FORCE, PSF, PSI, UnitError, Units

_AREA_UNITS = {"psf": PSF, "lb/ft2": PSF, "kn/m2": 1.0, "kpa": 1.0, "n/m2": 0.001, "pa": 0.001, "ksf": 1000 * PSF}
_AREA = re.compile(r"^([-+]?(?:\d+(?:\.\d*)?|\.\d+))\s*([a-z/0-9]*)$")


def _cleaned(text: str) -> str:
    """Return a quantity without spaces; commas part thousands (1,500 psf) or decimals (1,5 kN/m2), else they are refused."""
    plain = text.strip().lower().replace("\u00b2", "2").replace("^", "").replace(" ", "")
    if "," not in plain:
        return plain
    if re.match(r"^[-+]?\d{1,3}(,\d{3})+(\.\d*)?([a-z/].*)?$", plain) and not re.search(r"kn|mpa|n/|pa$", plain):
        return plain.replace(",", "")
    if plain.count(",") == 1 and "." not in plain and not re.search(r",\d{3}(?!\d)", plain):
        return plain.replace(",", ".")
    raise UnitError(f"'{text}' could mean two things; type it without the comma, with a point for decimals.")


def parse_area_load(text: str, units: Units = Units.IMPERIAL) -> float:
    """Read an area load (40 psf, 1.9 kN/m2, 2 kPa); returns kN/m2.

    A bare number is psf or kN/m2 by ``units``.  Raises UnitError when it is no area load or
    below zero.
    """
    cleaned = _cleaned(text)
    match = _AREA.match(cleaned)
    unit = (match[2] if match else "") or ("psf" if units is Units.IMPERIAL else "kn/m2")
    if not match or unit not in _AREA_UNITS:
        raise UnitError(f"'{text}' is not an area load; type it like 40 psf or 1.9 kN/m2.")
    value = float(match[1]) * _AREA_UNITS[unit]
    if value < 0.0 or not math.isfinite(value):
        raise UnitError(f"The load '{text}' is below zero; type zero or more.")
    return value


_FORCE_UNITS = {
    "lb": POUND_FORCE,
    "lbf": POUND_FORCE,
    "lbs": POUND_FORCE,
    "kip": 1000 * POUND_FORCE,
    "kips": 1000 * POUND_FORCE,
    "k": 1000 * POUND_FORCE,
    "n": 1.0,
    "kn": 1000.0,
}
_LINE_UNITS = {"plf": PLF, "lb/ft": PLF, "klf": 1000 * PLF, "kip/ft": 1000 * PLF, "kn/m": 1.0, "n/mm": 1.0}
_DENSITY_UNITS = {"pcf": PCF, "lb/ft3": PCF, "kn/m3": 1.0}
_STRESS_UNITS = {"psi": PSI, "ksi": 1000 * PSI, "mpa": 1.0, "n/mm2": 1.0}


def _quantity(text: str, known: dict[str, float], bare: str, noun: str, like: str) -> float:
    cleaned = _cleaned(text)
    match = _AREA.match(cleaned)
    unit = (match[2] if match else "") or bare
    if not match or unit not in known:
        raise UnitError(f"'{text}' is not {noun}; type it like {like}.")
    value = float(match[1]) * known[unit]
    if value < 0.0 or not math.isfinite(value):
        raise UnitError(f"'{text}' is below zero; type zero or more.")
    return value


def parse_force(text: str, units: Units = Units.IMPERIAL) -> float:
    """Read a force (40 kip, 1200 lb, 180 kN); returns N. A bare number is lb or kN. Raises UnitError."""
    return _quantity(text, _FORCE_UNITS, "lb" if units is Units.IMPERIAL else "kn", "a force", "40 kip or 180 kN")


def parse_line_load(text: str, units: Units = Units.IMPERIAL) -> float:
    """Read a line load (3000 plf, 44 kN/m); returns N/mm (kN/m). A bare number is plf or kN/m. Raises UnitError."""
    bare = "plf" if units is Units.IMPERIAL else "kn/m"
    return _quantity(text, _LINE_UNITS, bare, "a line load", "3000 plf or 44 kN/m")


def parse_density(text: str, units: Units = Units.IMPERIAL) -> float:
    """Read a weight of a volume (110 pcf, 18 kN/m3); returns kN/m3. A bare number is pcf or kN/m3. Raises UnitError."""
    bare = "pcf" if units is Units.IMPERIAL else "kn/m3"
    cubic = text.replace("\u00b3", "3")
    return _quantity(cubic, _DENSITY_UNITS, bare, "a weight of earth", "110 pcf or 18 kN/m3")


def parse_stress(text: str, units: Units = Units.IMPERIAL) -> float:
    """Read a strength (2500 psi, 60 ksi, 20 MPa); returns N/mm2. A bare number is psi or MPa. Raises UnitError."""
    bare = "psi" if units is Units.IMPERIAL else "mpa"
    return _quantity(text, _STRESS_UNITS, bare, "a strength", "2500 psi, 60 ksi or 20 MPa")


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
