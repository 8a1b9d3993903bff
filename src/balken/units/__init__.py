"""Lengths, loads and slopes: what people type and read, and the mm, N, MPa and kN/m2 used inside.

Inside Balken every length is a float in millimetres, every force in newtons, every stress in
N/mm2 (MPa), every area load in kN/m2 and every line load in kN/m (which is also N/mm).
"""

from balken.units.angle import format_angle, parse_angle
from balken.units.area import format_area
from balken.units.length import (
    format_inches,
    format_length,
    parse_length,
    parse_spacings,
    say_both,
    say_inches,
    say_length,
)
from balken.units.load import (
    format_area_load,
    format_force,
    format_line_load,
    format_stress,
    parse_area_load,
    parse_force,
    parse_line_load,
    parse_stress,
)
from balken.units.slope import Pitch, format_pitch, parse_pitch
from balken.units.speed import format_speed, parse_speed
from balken.units.system import UnitError, Units

__all__ = [
    "Pitch",
    "UnitError",
    "Units",
    "format_angle",
    "format_area",
    "format_area_load",
    "format_force",
    "format_inches",
    "format_length",
    "format_line_load",
    "format_pitch",
    "format_speed",
    "format_stress",
    "parse_angle",
    "parse_area_load",
    "parse_force",
    "parse_length",
    "parse_line_load",
    "parse_pitch",
    "parse_spacings",
    "parse_speed",
    "parse_stress",
    "say_both",
    "say_inches",
    "say_length",
]
