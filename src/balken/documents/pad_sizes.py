"""How sizes of pads are written on plans, sections and schedules."""

from balken.standards.ground import FootingDesign
from balken.units import Units, format_inches, format_length


def pad_size(design: FootingDesign, units: Units) -> str:
    """Return how the size of a pad is written: 30" sq. x 10", or 48" x 9'-6" x 20" of a combined one."""
    thick = format_inches(design.thickness, units)
    if abs(design.length - design.width) < 1.0:
        return f"{format_inches(design.width, units)} sq. x {thick}"
    return f"{format_inches(design.width, units)} x {format_length(design.length, units)} x {thick}"
