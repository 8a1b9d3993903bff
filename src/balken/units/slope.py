"""Roof pitches as typed and printed: 6:12, 30 deg, 50 %."""

import math
import re
from typing import NewType

from balken.units.system import UnitError, Units

Pitch = NewType("Pitch", float)
"""Rise over run (the tangent of the slope)."""

_NUMBER = r"(\d+(?:\.\d*)?|\.\d+)"
_RATIO = re.compile(rf"^{_NUMBER}\s*(?::|/|in)\s*{_NUMBER}$")
_FRACTION = re.compile(rf"^(?:(\d+)\s+)?(\d+)/(\d+)\s*(?::|in)\s*{_NUMBER}$")
"""A rise in parts: 1/4:12, 4 1/2:12."""
_DEGREES = re.compile(rf"^{_NUMBER}\s*(?:deg|degrees|\u00b0)$")
_PERCENT = re.compile(rf"^{_NUMBER}\s*%$")
_BARE = re.compile(rf"^{_NUMBER}$")
_STEEPEST = math.tan(math.radians(75.0))


def parse_pitch(text: str, units: Units = Units.IMPERIAL) -> Pitch:
    """Read a pitch; a bare number is the rise in 12, or degrees when metric.

    Raises UnitError when it is no pitch or not between 0 and 75 degrees.
    """
    cleaned = text.strip().lower()
    if match := _FRACTION.match(cleaned):
        parts, run = float(match[3]), float(match[4])
        value = (float(match[1] or 0) + float(match[2]) / parts) / run if parts and run else math.inf
    elif match := _RATIO.match(cleaned):
        run = float(match[2])
        value = float(match[1]) / run if run else math.inf
    elif match := _DEGREES.match(cleaned):
        value = math.tan(math.radians(min(float(match[1]), 89.9)))
    elif match := _PERCENT.match(cleaned):
        value = float(match[1]) / 100.0
    elif match := _BARE.match(cleaned):
        number = float(match[1])
        value = number / 12.0 if units is Units.IMPERIAL else math.tan(math.radians(min(number, 89.9)))
    else:
        raise UnitError(f"'{text}' is not a pitch; type it like 6:12 or 30 deg.")
    if not 0.0 <= value <= _STEEPEST:
        raise UnitError(f"The pitch '{text}' is steeper than 75 degrees; type a flatter one.")
    return Pitch(value)


def format_pitch(pitch: float, units: Units = Units.IMPERIAL) -> str:
    """Print a pitch: 6:12 or 26.6 deg."""
    if units is Units.METRIC:
        return f"{math.degrees(math.atan(pitch)):.1f}\u00b0"
    rise = pitch * 12.0
    return f"{rise:.0f}:12" if abs(rise - round(rise)) < 0.005 else f"{rise:.2f}:12"
