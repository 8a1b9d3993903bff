"""Quantities of checks and how each is printed: every number carries its unit, in the units that are shown."""

from typing import Literal

from balken.units import Units, format_area_load, format_force, format_length, format_stress
from balken.units.system import FOOT, INCH, PCF, PLF, POUND_FORCE
from balken.value import Value

Quantity = Literal[
    "stress",
    "length",
    "ratio",
    "factor",
    "pressure",
    "force",
    "moment",
    "steel",
    "line force",
    "line moment",
    "line steel",
    "modulus",
    "line modulus",
    "density",
    "count",
    "strain",
    "angle",
    "slenderness",
    "stiffness",
]
"""What a number is.  In N/mm2 stress; mm length; kN/m2 pressure; kN force; kN m moment; mm2 steel; per metre of wall
those that begin with "line"; mm3 modulus; kN m2 stiffness (EI); kN/m3 density; a ratio, factor or count has no unit."""

SI_UNITS: dict[Quantity, str] = {
    "stress": "N/mm2",
    "length": "mm",
    "ratio": "",
    "factor": "",
    "pressure": "kN/m2",
    "force": "kN",
    "moment": "kN m",
    "steel": "mm2",
    "line force": "kN/m",
    "line moment": "kN m/m",
    "line steel": "mm2/m",
    "modulus": "mm3",
    "line modulus": "mm3/m",
    "density": "kN/m3",
    "count": "",
    "strain": "",
    "angle": "deg",
    "slenderness": "",
    "stiffness": "kN m2",
}

_POUND_FOOT = POUND_FORCE * FOOT * 1e-6
"""One pound foot in kN m."""


def quantity_text(value: float, quantity: Quantity, units: Units) -> str:
    """Return a value with its unit: 2,332 lb ft/ft or 10.37 kN m/m."""
    plain = _plain(value, quantity)
    if plain is not None:
        return plain
    return _imperial(value, quantity) if units is Units.IMPERIAL else _metric(value, quantity)


def _plain(value: float, quantity: Quantity) -> str | None:
    """Return what has no unit, or the same in both systems."""
    if quantity in ("ratio", "factor"):
        return f"{value:.4f}" if abs(value) < 0.1 else f"{value:.3f}" if quantity == "factor" else f"{value:.2f}"
    if quantity == "strain":
        return f"{value:.4f}"
    if quantity == "count":
        return f"{value:g}"
    if quantity == "slenderness":
        return f"{value:.1f}"
    return f"{value:.1f}\u00b0" if quantity == "angle" else None


def _imperial(value: float, quantity: Quantity) -> str:
    if quantity == "pressure":
        return format_area_load(value, Units.IMPERIAL)
    if quantity == "stress":
        return _psi(value)
    if quantity == "length":
        return f'{value / INCH:.2f}"'
    if quantity == "force":
        return format_force(value * 1000.0, Units.IMPERIAL)
    if quantity == "moment":
        return f"{value / _POUND_FOOT:,.0f} lb ft"
    if quantity == "steel":
        return f"{value / INCH**2:.2f} in\u00b2"
    if quantity == "line force":
        return f"{value / PLF:,.0f} lb/ft"
    if quantity == "line moment":
        return f"{value / _POUND_FOOT * 0.3048:,.0f} lb ft/ft"
    if quantity == "line steel":
        return f"{value * 0.3048 / INCH**2:.3f} in\u00b2/ft"
    if quantity == "modulus":
        return f"{value / INCH**3:,.1f} in\u00b3"
    if quantity == "line modulus":
        return f"{value * 0.3048 / INCH**3:,.1f} in\u00b3/ft"
    if quantity == "stiffness":
        return f"{value * 1e9 / POUND_FORCE / INCH**2:,.0f} lb in\u00b2"
    return f"{value / PCF:.0f} pcf"


def _psi(value: float) -> str:
    psi = format_stress(value, Units.IMPERIAL)
    small = abs(value) / 0.00689475729
    return psi if small >= 100.0 or small < 1e-9 else f"{value / 0.00689475729:,.1f} psi"


def _metric(value: float, quantity: Quantity) -> str:
    if quantity == "length":
        return f"{value:.1f} mm" if abs(value) < 9999.5 else f"{format_length(value, Units.METRIC)} mm"
    if quantity == "modulus":
        return f"{value * 1e-3:,.0f} cm\u00b3"
    if quantity == "line modulus":
        return f"{value * 1e-3:,.0f} cm\u00b3/m"
    if quantity in ("steel", "line steel"):
        return f"{value:,.0f} {_raised(SI_UNITS[quantity])}"
    decimals = 3 if quantity == "stress" and abs(value) < 1.0 else 2
    return f"{value:,.{decimals}f} {_raised(SI_UNITS[quantity])}"


def _raised(unit: str) -> str:
    return unit.replace("2", "\u00b2").replace("3", "\u00b3")


class Working(Value, frozen=True):
    """A line that shows how a demand or capacity comes about: a text with a {} for each quantity."""

    text: str
    values: tuple[tuple[float, Quantity], ...] = ()

    def shown(self, units: Units) -> str:
        """Return the line with its quantities in the units shown."""
        return self.text.format(*(quantity_text(value, quantity, units) for value, quantity in self.values))


def working(text: str, *values: tuple[float, Quantity]) -> Working:
    """Return a line of working; ``text`` has a {} for each value."""
    return Working(text, values)
