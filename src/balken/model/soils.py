"""Presumptive bearing values of soils, for where no report says more."""

from balken.units.system import PSF
from balken.value import Value


class SoilClass(Value, frozen=True):
    """A class of soil with its bearing value, kN/m2."""

    name: str
    bearing: float


PRESUMPTIVE = (
    SoilClass("crystalline bedrock", 12_000.0 * PSF),
    SoilClass("sedimentary and foliated rock", 4000.0 * PSF),
    SoilClass("gravel, sandy gravel (GW, GP)", 3000.0 * PSF),
    SoilClass("sand, silty or clayey sand or gravel (SW, SP, SM, SC, GM, GC)", 2000.0 * PSF),
    SoilClass("clay, silt (CL, ML, MH, CH)", 1500.0 * PSF),
)
"""IRC 2018, Table R401.4.1 (from memory)."""


def soil_class(bearing: float) -> SoilClass | None:
    """Return the class whose value a bearing value (kN/m2) is, None for any other."""
    return next((s for s in PRESUMPTIVE if abs(s.bearing - bearing) < 0.05), None)
