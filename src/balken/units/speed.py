"""Speeds of wind: m/s inside."""

import math
import re

from balken.units.system import UnitError, Units

MPH = 0.44704
_SPEED = re.compile(r"^([\d.]+)\s*(mph|m/s|km/h)?$")
_IN = {"mph": MPH, "m/s": 1.0, "km/h": 1.0 / 3.6}


def parse_speed(text: str, units: Units = Units.IMPERIAL) -> float:
    """Read a speed (115 mph, 51 m/s, 185 km/h); returns m/s.

    A bare number is mph or m/s by ``units``.  Raises UnitError when it is none.
    """
    match = _SPEED.match(text.strip().lower())
    try:
        value = float(match[1]) if match else math.nan
    except ValueError:
        value = math.nan
    if match is None or not math.isfinite(value):
        raise UnitError(f"'{text}' is not a speed; type it like 115 mph or 51 m/s.")
    return value * _IN[match[2] or ("mph" if units is Units.IMPERIAL else "m/s")]


def format_speed(metres_a_second: float, units: Units = Units.IMPERIAL) -> str:
    """Print a speed: 115 mph or 51.4 m/s."""
    if units is Units.METRIC:
        return f"{metres_a_second:.1f} m/s"
    mph = metres_a_second / MPH
    return f"{mph:,.0f} mph" if abs(mph - round(mph)) < 0.05 else f"{mph:,.1f} mph"
