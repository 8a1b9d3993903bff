"""The two unit systems a project can be shown in."""

from enum import StrEnum

INCH = 25.4
FOOT = 304.8
POUND_FORCE = 4.4482216152605
PSI = POUND_FORCE / INCH**2
"""One pound per square inch in N/mm2."""
PSF = POUND_FORCE / 0.3048**2 / 1000.0
"""One pound per square foot in kN/m2."""
PLF = POUND_FORCE / FOOT
"""One pound per foot in kN/m (N/mm)."""
PCF = 0.157087
"""One pound per cubic foot in kN/m3."""


class Units(StrEnum):
    """How lengths and loads are shown and how bare numbers are read."""

    IMPERIAL = "ft-in"
    METRIC = "mm"


class UnitError(ValueError):
    """A text that is not the quantity it should be; the message says what would be."""
