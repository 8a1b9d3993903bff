"""The fields of what is typed once for a project: loads, soil, concrete, block, strings of dimensions, title block."""

from typing import Any

from balken.model.records import (
    Project,
)
from balken.model.soils import PRESUMPTIVE, soil_class
from balken.panel.field_kinds import (
    Choices,
    FieldDef,
    density,
    either,
    length,
    load,
    number,
    pick,
    plain,
    reach,
    strength,
    text,
)
from balken.units import (
    format_angle,
    format_area_load,
    format_length,
    format_speed,
    parse_angle,
    parse_length,
    parse_speed,
)


def _soil_choices(p: Project, r: Any) -> Choices:
    units = p.units
    rows = [(s.name, f"{format_area_load(s.bearing, units)}: {s.name}") for s in PRESUMPTIVE]
    return rows if soil_class(r.soil_bearing) else [("", "by report, typed below"), *rows]


SOIL_CLASS = FieldDef(
    "Soil (IRC Table R401.4.1)",
    lambda p, r: found.name if (found := soil_class(r.soil_bearing)) else "",
    lambda p, r, value: {"soil_bearing": next((s.bearing for s in PRESUMPTIVE if s.name == value), r.soil_bearing)},
    _soil_choices,
    key="soil_class",
)


def factor(label: str, path: str, hint: str) -> FieldDef:
    """A number without a unit."""
    return FieldDef(
        label, lambda p, r: f"{reach(r, path):g}", lambda p, r, typed: {path: number(typed)}, hint=hint, key=path
    )


LOAD_FIELDS: list[FieldDef] = [
    load("Floor live", "floor_live"),
    load("Floor dead", "floor_dead"),
    load("Roof dead (on slope)", "roof_dead"),
    load("Roof live", "roof_live"),
    load("Ground snow", "ground_snow"),
    pick(
        "Snow on roofs",
        "snow_by",
        [("ground", "as on the ground, IRC R802.4"), ("roof", "by ASCE 7-16, chapter 7")],
    ),
    load("Ceiling dead", "ceiling_dead"),
    load("Attic live", "attic_live"),
    load("Wind on walls", "wind", "pressure at strength level, components and cladding (ASCE 7-16, 30)"),
    SOIL_CLASS,
    load("Soil bearing value", "soil_bearing", "from the soil above, or typed from a report"),
    length("Frost depth", "frost_depth"),
]
WIND_FIELDS: list[FieldDef] = [
    FieldDef(
        "Basic wind speed",
        lambda p, r: format_speed(r.wind_speed, p.units) if r.wind_speed else "not looked at",
        lambda p, r, typed: {
            "wind_speed": 0.0 if typed.strip().lower() in ("", "none", "not looked at") else parse_speed(typed, p.units)
        },
        hint="at strength level, ASCE 7-16, Figure 26.5-1: such as 115 mph",
        key="wind_speed",
    ),
    pick(
        "Exposure to wind",
        "wind_exposure",
        [("B", "B: towns, woods"), ("C", "C: open country"), ("D", "D: flat shores")],
    ),
    pick("Openings", "wind_openings", [("enclosed", "enclosed"), ("partly enclosed", "partly enclosed")]),
]
"""What wind that lifts roofs asks for."""
SNOW_FIELDS: list[FieldDef] = [
    factor("Exposure Ce", "snow_exposure", "ASCE 7-16, Table 7.3-1: 0.7 windswept to 1.2 sheltered"),
    factor("Thermal Ct", "snow_thermal", "Table 7.3-2: 1.0 heated, 1.1 cold ventilated attic, 1.2 unheated"),
    factor("Importance Is", "snow_importance", "Table 1.5-2: 1.0 for houses"),
    either(
        "Roofing", "snow_slippery", ("rough", "rough, or snow held back"), ("slippery", "slippery and unobstructed")
    ),
    either("Ice at eaves", "snow_ice", ("none", "none: cold, well insulated"), ("ice", "dams up on overhangs (7.4.5)")),
]
"""What snow on roofs by the standard asks for."""


SOIL_FIELDS: list[FieldDef] = [
    pick(
        "Earth pressure",
        "pressure",
        [("at rest", "at rest (walls held)"), ("active", "active (walls that move)"), ("equivalent fluid", "typed")],
    ),
    density("Soil weighs", "weight"),
    FieldDef(
        "Angle of friction",
        lambda p, r: format_angle(r.friction),
        lambda p, r, t: {"friction": parse_angle(t)},
        key="friction",
    ),
    density("Equivalent fluid", "fluid"),
    load("Surcharge", "surcharge", "on the ground beside walls"),
    FieldDef(
        "Water below ground",
        lambda p, r: "deep" if r.water_below is None else format_length(r.water_below, p.units),
        lambda p, r, t: {
            "water_below": None if t.strip().lower() in ("", "deep", "none") else parse_length(t, p.units)
        },
        hint="deep, or such as 6'",
        key="water_below",
    ),
    FieldDef(
        "Friction under footings",
        lambda p, r: f"{r.base_friction:g}",
        lambda p, r, t: {"base_friction": number(t)},
        key="base_friction",
    ),
    FieldDef(
        "Load spreads in soil (rise:run)",
        lambda p, r: f"{r.spread:g}",
        lambda p, r, t: {"spread": number(t)},
        key="spread",
    ),
]
MASONRY_FIELDS: list[FieldDef] = [
    strength("Walls of block f'm", "strength"),
    pick("Mortar", "mortar", plain("type M or S", "type N")),
]
CONCRETE_FIELDS: list[FieldDef] = [
    strength("Concrete f'c", "fc"),
    strength("Bars fy", "fy"),
    FieldDef(
        "Bars in footings and walls",
        lambda p, r: "where needed" if r.bars else "none",
        lambda p, r, value: {"bars": value == "where needed"},
        lambda p, r: plain("where needed", "none"),
        key="bars",
    ),
]


def _shown_or_not(label: str, path: str) -> FieldDef:
    return FieldDef(
        label,
        lambda p, r: "shown" if reach(r, path) else "left out",
        lambda p, r, value: {path: value == "shown"},
        lambda p, r: plain("shown", "left out"),
        key=path,
    )


STRING_FIELDS: list[FieldDef] = [
    _shown_or_not("Openings", "openings"),
    _shown_or_not("Walls", "walls"),
    _shown_or_not("Overall", "overall"),
    pick("Overall from", "to", [("faces", "face to face"), ("axes", "axis to axis")]),
    length("First string off the wall", "first", short=True),
    length("String to string", "between", short=True),
    length("In framing elevations", "elevation", short=True),
]
SHEET_FIELDS = [
    text("Sheet number", "number"),
    text("Title", "title"),
    text("Place", "place"),
    text("Drawn by", "drawn_by"),
    text("Date", "date"),
]
