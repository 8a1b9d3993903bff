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


def parse_degrees(text: str) -> tuple[float, ...]:
    """Read angles between rays such as ``5 x 15, 20``; raises UnitError."""
    found: list[float] = []
    for part in text.replace(";", ",").split(","):
        if not part.strip():
            continue
        count, times, angle = part.lower().replace("\u00d7", "x").partition("x")
        try:
            number, value = (int(count), parse_angle(angle)) if times else (1, parse_angle(count))
        except (ValueError, UnitError):
            raise UnitError(f"'{part.strip()}' is not an angle; type degrees such as 15 or 5 x 15.") from None
        if not 1 <= number <= 360 or not 0.0 < value < 360.0:
            raise UnitError(f"'{part.strip()}' must be between 0 and 360 degrees, at most 360 times.")
        found += [value] * number
    if not found:
        raise UnitError("Type at least one angle, such as 5 x 15.")
    return tuple(found)
