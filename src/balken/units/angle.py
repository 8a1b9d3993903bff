"""Angles as typed and printed: degrees, anticlockwise."""

import math

from balken.units.system import UnitError


def parse_angle(text: str) -> float:
    """Read an angle such as ``30``, ``30°`` or ``-12.5 deg``, degrees; raises UnitError."""
    try:
        value = float(text.replace("\u00b0", "").replace("deg", "").strip())
    except ValueError:
        value = math.nan
    if not math.isfinite(value) or abs(value) > 36_000.0:
        raise UnitError(f"'{text}' is not an angle; type degrees, anticlockwise, such as 30.")
    return value


def format_angle(degrees: float) -> str:
    """Print an angle: 30°, 12.5°."""
    return f"{degrees:g}\u00b0"
