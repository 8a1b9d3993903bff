"""Areas of buildings: in square feet or square metres."""

from balken.units.system import FOOT, Units


def format_area(mm2: float, units: Units = Units.IMPERIAL, digits: int = 1) -> str:
    """Print an area: 412 ft² in whole feet, or 38.3 m² to so many digits."""
    if units is Units.IMPERIAL:
        return f"{mm2 / FOOT**2:,.0f} ft\u00b2"
    return f"{mm2 * 1e-6:,.{digits}f} m\u00b2"
