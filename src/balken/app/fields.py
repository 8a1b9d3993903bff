"""The fields of each kind of record: how a value is shown, read back and what may be chosen."""

import math
from collections.abc import Callable
from dataclasses import dataclass
from typing import Any

import msgspec

from balken.model import edits
from balken.model.blocks import BLOCKS, BONDS, block_of
from balken.model.buildups import display_name
from balken.model.lookup import by_id
from balken.model.records import (
    COLLECTIONS,
    BuildUp,
    Column,
    Floor,
    Foundation,
    Level,
    Opening,
    Pad,
    Project,
    Recess,
    Record,
    Roof,
    Slab,
    SpotHeight,
    Underlay,
    Wall,
)
from balken.model.sections import HEADER_SIZES, JOIST_SIZES, RIDGE_SIZES, TIE_SIZES
from balken.model.soils import PRESUMPTIVE, soil_class
from balken.model.species import SPECIES
from balken.units import (
    UnitError,
    Units,
    format_angle,
    format_area_load,
    format_force,
    format_inches,
    format_length,
    format_pitch,
    format_stress,
    parse_angle,
    parse_area_load,
    parse_force,
    parse_length,
    parse_pitch,
    parse_stress,
)
from balken.units.system import PCF

Choices = list[tuple[str, str]]


@dataclass(frozen=True)
class FieldDef:
    """A field: label, text shown, and the record's changes for a typed text (raises UnitError)."""

    label: str
    get: Callable[[Project, Any], str]
    put: Callable[[Project, Any, str], dict[str, Any]]
    choices: Callable[[Project, Any], Choices | None] | None = None
    hint: str = ""


def _reach(record: Any, path: str) -> Any:
    for part in path.split("__"):
        record = getattr(record, part)
    return record


def length(label: str, path: str, short: bool = False, auto: bool = False, hint: str = "") -> FieldDef:
    """A length; ``short`` ones are read and shown in inches, ``auto`` ones may be left to Balken."""

    def get(p: Project, r: Any) -> str:
        value = _reach(r, path)
        if value is None:
            return "auto"
        return format_inches(value, p.units) if short else format_length(value, p.units)

    def put(p: Project, r: Any, text: str) -> dict[str, Any]:
        if auto and text.strip().lower() in ("", "auto"):
            return {path: None}
        return {path: parse_length(text, p.units, "in" if short else "ft")}

    return FieldDef(label, get, put, hint=hint)


def text(label: str, path: str) -> FieldDef:
    """A plain text."""
    return FieldDef(label, lambda p, r: str(_reach(r, path)), lambda p, r, typed: {path: typed.strip()})


def load(label: str, path: str, hint: str = "") -> FieldDef:
    """An area load."""
    return FieldDef(
        label,
        lambda p, r: format_area_load(_reach(r, path), p.units),
        lambda p, r, typed: {path: parse_area_load(typed, p.units)},
        hint=hint,
    )


def force(label: str, path: str, hint: str = "") -> FieldDef:
    """A force."""
    return FieldDef(
        label,
        lambda p, r: format_force(_reach(r, path), p.units),
        lambda p, r, typed: {path: parse_force(typed, p.units)},
        hint=hint or "1200 lb, 5 kip, 20 kN",
    )


def _put_wall_of(p: Project, r: Foundation, value: str) -> dict[str, Any]:
    """Change what a foundation's walls are made of; their thickness goes over to the nearest block, or its module."""
    was, block = r.made_of != "concrete", value != "concrete"
    changes: dict[str, Any] = {"made_of": value}
    for path in ("thickness", "upper_thickness"):
        thick = getattr(r, path)
        if block and not was:
            changes[path] = min(BLOCKS[p.steps], key=lambda b: abs(b.thickness - thick)).thickness
        elif was and not block and block_of(thick) is not None:
            changes[path] = thick + BONDS[p.steps].joint
    if not r.upper_height:
        changes.pop("upper_thickness", None)
    return changes


WALL_OF = FieldDef(
    "Wall of",
    lambda p, r: r.made_of,
    _put_wall_of,
    lambda p, r: _plain("concrete", "hollow block", "grouted block"),
)


def wall_thickness(label: str, path: str) -> FieldDef:
    """The thickness of a foundation wall: typed for concrete, one of the blocks for block."""
    plain = length(label, path, short=True)

    def name(thick: float, p: Project) -> str:
        block = block_of(thick)
        return block.name if block else format_inches(thick, p.units)

    def get(p: Project, r: Any) -> str:
        return plain.get(p, r) if r.made_of == "concrete" else name(_reach(r, path), p)

    def put(p: Project, r: Any, typed: str) -> dict[str, Any]:
        if r.made_of == "concrete":
            return plain.put(p, r, typed)
        typed_length = parse_length(typed, p.units, "in")
        # Blocks are called by their module: 8 in is 7 5/8 in thick.
        joint = BONDS[p.steps].joint
        found = next((b.thickness for b in BLOCKS[p.steps] if abs(b.thickness + joint - typed_length) < 1.0), None)
        return {path: typed_length if found is None else found}

    def choices(p: Project, r: Any) -> Choices | None:
        if r.made_of == "concrete":
            return None
        return [(b.name, f"{b.name} block, {format_inches(b.thickness, p.units)}") for b in BLOCKS[p.steps]]

    return FieldDef(label, get, put, choices)


def density(label: str, path: str) -> FieldDef:
    """A weight by volume: pcf or kN/m3."""

    def get(p: Project, r: Any) -> str:
        value = _reach(r, path)
        return f"{value / PCF:.0f} pcf" if p.units is Units.IMPERIAL else f"{value:.2f} kN/m\u00b3"

    def put(p: Project, r: Any, typed: str) -> dict[str, Any]:
        cleaned = typed.strip().lower().replace("\u00b3", "3").replace(" ", "")
        metric = cleaned.endswith("kn/m3") or (p.units is not Units.IMPERIAL and not cleaned.endswith("pcf"))
        return {path: _number(cleaned.removesuffix("kn/m3").removesuffix("pcf")) * (1.0 if metric else PCF)}

    return FieldDef(label, get, put)


def strength(label: str, path: str) -> FieldDef:
    """A strength of concrete or steel."""
    return FieldDef(
        label,
        lambda p, r: format_stress(_reach(r, path), p.units),
        lambda p, r, typed: {path: parse_stress(typed, p.units)},
        hint="2500 psi, 60 ksi, 20 MPa",
    )


def pick(label: str, path: str, options: Callable[[Project, Any], Choices] | Choices) -> FieldDef:
    """A choice among (value, label) pairs."""
    found = options if callable(options) else (lambda p, r: options)
    return FieldDef(label, lambda p, r: str(_reach(r, path)), lambda p, r, value: {path: value}, found)


def level_pick(label: str, path: str, slabs: bool = True) -> FieldDef:
    """A choice of level; without ``slabs`` for foundations, which never hang on a slab's top."""
    return pick(
        label,
        path,
        lambda p, r: [
            (v.id, f"{v.name}{' (removed)' if v.removed else ''}  {format_length(v.height, p.units)}")
            for v in sorted(p.levels, key=lambda v: -v.height)
            if ((slabs or v.role != "slab") and not v.removed) or v.id == str(_reach(r, path))
        ],
    )


def size_pick(label: str, path: str, sizes: tuple[str, ...]) -> FieldDef:
    """A choice of section, or auto."""

    def get(p: Project, r: Any) -> str:
        return _reach(r, path) or "auto"

    def put(p: Project, r: Any, value: str) -> dict[str, Any]:
        return {path: None if value == "auto" else value}

    return FieldDef(label, get, put, lambda p, r: [("auto", "auto"), *((s, s) for s in sizes)])


def choice_fields(path: str, sizes: tuple[str, ...], spacing: bool = True) -> list[FieldDef]:
    """The fields of a member choice: section, spacing, species, grade."""

    def put_species(p: Project, r: Any, value: str) -> dict[str, Any]:
        grade = _reach(r, f"{path}__grade")
        fits = grade if grade in SPECIES[value] else next(g for g in SPECIES[value] if "No. 2" in g)
        return {f"{path}__species": value, f"{path}__grade": fits}

    found = [size_pick("Section", f"{path}__size", sizes)]
    if spacing:
        found.append(length("Spacing", f"{path}__spacing", short=True, auto=True, hint='16", 24", 400, or auto'))
    found.append(
        FieldDef(
            "Species",
            lambda p, r: _reach(r, f"{path}__species"),
            put_species,
            lambda p, r: [(s, s) for s in SPECIES],
        )
    )
    found.append(pick("Grade", f"{path}__grade", lambda p, r: [(g, g) for g in SPECIES[_reach(r, f"{path}__species")]]))
    return found


def _plain(*names: str) -> Choices:
    return [(n, n) for n in names]


def _direction(label: str, path: str, auto: str) -> FieldDef:
    options = [("auto", auto), ("0", "along x"), ("90", "along y")]

    def get(p: Project, r: Any) -> str:
        value = _reach(r, path)
        return "auto" if value is None else f"{value:g}"

    return FieldDef(
        label,
        get,
        lambda p, r, value: {path: None if value == "auto" else float(value)},
        lambda p, r: options if get(p, r) in ("auto", "0", "90") else [*options, (get(p, r), f"{get(p, r)}\u00b0")],
    )


LEVEL_ROLES = _plain("floor", "plate", "top of foundation", "top of footing", "ground", "slab", "ridge", "other")


def _number(typed: str) -> float:
    try:
        value = float(typed.strip())
    except ValueError:
        value = math.nan
    if not math.isfinite(value):
        raise UnitError(f"'{typed}' is not a number.")
    return value


def _fit_choices(p: Project, r: Any) -> Choices:
    above: tuple[Floor | Roof, ...] = (*p.floors, *p.roofs)
    return [("", "its level"), *((x.id, f"underside of {x.name}") for x in above)]


def _grades(path: str) -> tuple[FieldDef, FieldDef]:
    """Species and grade of a framing record; the grade follows when the species does not have it."""

    def put(p: Project, r: Any, value: str) -> dict[str, Any]:
        grade = _reach(r, f"{path}grade")
        fits = grade if grade in SPECIES[value] else next(g for g in SPECIES[value] if "No. 2" in g)
        return {f"{path}species": value, f"{path}grade": fits}

    species = FieldDef("Species", lambda p, r: _reach(r, f"{path}species"), put, lambda p, r: [(s, s) for s in SPECIES])
    return species, pick("Grade", f"{path}grade", lambda p, r: [(g, g) for g in SPECIES[_reach(r, f"{path}species")]])


FRAMING_FIELDS: list[FieldDef] = [
    length("Stud spacing", "framing__spacing", short=True, auto=True, hint='16", 24", 400, or auto'),
    pick("Counted from", "framing__count_from", [("start", "the start corner"), ("end", "the end corner")]),
    FieldDef(
        "Kind",
        lambda p, r: "balloon" if r.framing.balloon else "platform",
        lambda p, r, value: {"framing__balloon": value == "balloon"},
        lambda p, r: [("platform", "platform: floors sit on walls"), ("balloon", "balloon: studs run past floors")],
    ),
    *_grades("framing__"),
]

FIELDS: dict[type[Record], list[FieldDef]] = {
    Level: [text("Name", "name"), length("Height", "height"), pick("Role", "role", LEVEL_ROLES)],
    Wall: [
        pick("Build-up", "buildup", lambda p, r: [(b.id, display_name(b, p.units)) for b in p.buildups]),
        pick("Set-out line", "set_out", _plain("outside", "core outside", "centre", "core inside", "inside")),
        pick("Role", "role", _plain("outside", "bearing", "divides")),
        level_pick("Foot on", "foot__level"),
        length("  offset", "foot__offset", short=True),
        level_pick("Head on", "head__level"),
        length("  offset", "head__offset", short=True),
        pick("Head fitted to", "head_under", _fit_choices),
        length("Outer layers reach below by", "cover", short=True, hint="to cover the edge of the floor"),
    ],
    Opening: [
        pick("Kind", "kind", _plain("window", "door", "plain")),
        length("From start corner", "offset"),
        length("Width", "width"),
        length("Height", "height"),
        length("Sill above foot", "sill"),
        size_pick("Header", "header", HEADER_SIZES),
    ],
    Column: [
        length("Width", "width", short=True),
        length("Depth", "depth", short=True),
        pick("Material", "material", _plain("timber", "concrete", "steel")),
        level_pick("Foot on", "foot__level"),
        length("  offset", "foot__offset", short=True),
        level_pick("Head on", "head__level"),
        length("  offset", "head__offset", short=True),
    ],
    SpotHeight: [length("Height", "height"), length("x", "x"), length("y", "y")],
    Underlay: [
        text("Name", "name"),
        level_pick("Under the plan of", "level"),
        FieldDef(
            "Scale", lambda p, r: f"{r.scale:g}", lambda p, r, typed: {"scale": _number(typed)}, hint="25.4 for inches"
        ),
        FieldDef("Turned by", lambda p, r: format_angle(r.angle), lambda p, r, typed: {"angle": parse_angle(typed)}),
    ],
    Foundation: [
        text("Name", "name"),
        pick("Kind", "kind", _plain("wall on footing", "basement", "slab on ground", "thickened edge")),
        WALL_OF,
        wall_thickness("Wall thickness", "thickness"),
        level_pick("Top of wall on", "head__level", slabs=False),
        length("  offset", "head__offset", short=True),
        level_pick("Top of footing on", "foot__level", slabs=False),
        length("  offset", "foot__offset", short=True),
        length("Footing width", "footing_width", short=True, auto=True, hint="auto: from load and soil"),
        length("Footing thickness", "footing_depth", short=True, auto=True, hint="auto: ACI 318-19; typed: plain"),
        length("Footing off the wall's middle", "footing_offset", short=True, hint="outward, for a boundary"),
        length("Set in from the sheathing line", "inset", short=True),
        length("Ledge for veneer", "ledge", short=True),
        length("Ledge below top", "ledge_drop", short=True),
        length("Thinner upper part, height", "upper_height", short=True, hint="0: none"),
        wall_thickness("Thinner upper part, thickness", "upper_thickness"),
        length("Lap at steps", "lap", short=True),
        length("Blinding under footings", "blinding", short=True, hint="0: none"),
        pick("Sill plate", "sill_size", _plain("2x4", "2x6", "2x8", "2x10")),
        length("Anchor bolts every", "bolt_spacing", hint="IRC R403.1.6: 6' at most"),
    ],
    Recess: [
        pick("Kind", "kind", _plain("pocket", "opening")),
        length("From start corner", "offset"),
        length("Width", "width", short=True),
        length("Height", "height", short=True),
        length("Top below wall top", "top", short=True),
        length("Depth of pocket", "depth", short=True),
    ],
    Pad: [
        length("Side", "width", short=True, auto=True, hint="auto: from load and soil"),
        length("Thickness", "thickness", short=True, auto=True, hint="auto: ACI 318-19"),
        level_pick("Top of pad on", "top__level", slabs=False),
        length("  offset", "top__offset", short=True),
        length("Pier side", "pier", short=True, hint="0: no pier"),
        level_pick("Top of pier on", "head__level"),
        length("  offset", "head__offset", short=True),
        force("Dead from above", "dead"),
        force("Live from above", "live"),
        force("Snow from above", "snow"),
        force("Wind uplift", "uplift", "at strength level"),
        force("Wind sideways", "push", "at strength level"),
    ],
    Slab: [
        text("Name", "name"),
        level_pick("Top on", "level"),
        length("Thickness", "thickness", short=True),
        pick("At the walls", "edge", [("flush", "stops at them"), ("seat", "lies on them")]),
        length("Seat", "seat", short=True),
        length("Thickened edge, depth", "edge_depth", short=True, hint="0: none"),
        length("Thickened edge, width", "edge_width", short=True),
        length("Haunch under bearing walls", "haunch", short=True, hint="0: none"),
        length("Insulation", "insulation", short=True),
        length("Subbase", "subbase", short=True),
        length("Blinding", "blinding", short=True),
    ],
    Floor: [
        text("Name", "name"),
        level_pick("Top of deck on", "level"),
        *choice_fields("joists", JOIST_SIZES),
        _direction("Span direction", "direction", "auto: the shorter way"),
        length("Deck", "deck", short=True),
    ],
    Roof: [
        text("Name", "name"),
        FieldDef(
            "Pitch",
            lambda p, r: format_pitch(r.pitch, p.units),
            lambda p, r, typed: {"pitch": float(parse_pitch(typed, p.units))},
            hint="6:12 or 30 deg",
        ),
        length("Overhang", "overhang"),
        level_pick("Rafters bear on", "bearing__level"),
        length("  offset", "bearing__offset", short=True),
        _direction("Ridge direction", "ridge", "auto: the longer way"),
        size_pick("Ridge board", "ridge_size", RIDGE_SIZES),
        length("Roof deck", "deck", short=True),
    ],
}
RAFTER_FIELDS = choice_fields("rafters", JOIST_SIZES)
TIE_FIELDS = choice_fields("ties", TIE_SIZES, spacing=False)


def _soil_choices(p: Project, r: Any) -> Choices:
    units = p.units
    rows = [(s.name, f"{format_area_load(s.bearing, units)}: {s.name}") for s in PRESUMPTIVE]
    return rows if soil_class(r.soil_bearing) else [("", "by report, typed below"), *rows]


SOIL_CLASS = FieldDef(
    "Soil (IRC Table R401.4.1)",
    lambda p, r: found.name if (found := soil_class(r.soil_bearing)) else "",
    lambda p, r, value: {"soil_bearing": next((s.bearing for s in PRESUMPTIVE if s.name == value), r.soil_bearing)},
    _soil_choices,
)
LOAD_FIELDS: list[FieldDef] = [
    load("Floor live", "floor_live"),
    load("Floor dead", "floor_dead"),
    load("Roof dead (on slope)", "roof_dead"),
    load("Roof live", "roof_live"),
    load("Ground snow", "ground_snow", "taken as roof snow, IRC R802.4"),
    load("Ceiling dead", "ceiling_dead"),
    load("Attic live", "attic_live"),
    load("Wind on walls", "wind", "pressure at strength level, components and cladding (ASCE 7-16, 30)"),
    SOIL_CLASS,
    load("Soil bearing value", "soil_bearing", "from the soil above, or typed from a report"),
    length("Frost depth", "frost_depth"),
]


SOIL_FIELDS: list[FieldDef] = [
    pick(
        "Earth pressure",
        "pressure",
        [("at rest", "at rest (walls held)"), ("active", "active (walls that move)"), ("equivalent fluid", "typed")],
    ),
    density("Soil weighs", "weight"),
    FieldDef("Angle of friction", lambda p, r: format_angle(r.friction), lambda p, r, t: {"friction": parse_angle(t)}),
    density("Equivalent fluid", "fluid"),
    load("Surcharge", "surcharge", "on the ground beside walls"),
    FieldDef(
        "Water below ground",
        lambda p, r: "deep" if r.water_below is None else format_length(r.water_below, p.units),
        lambda p, r, t: {
            "water_below": None if t.strip().lower() in ("", "deep", "none") else parse_length(t, p.units)
        },
        hint="deep, or such as 6'",
    ),
    FieldDef(
        "Friction under footings", lambda p, r: f"{r.base_friction:g}", lambda p, r, t: {"base_friction": _number(t)}
    ),
    FieldDef("Load spreads in soil (rise:run)", lambda p, r: f"{r.spread:g}", lambda p, r, t: {"spread": _number(t)}),
]
MASONRY_FIELDS: list[FieldDef] = [
    strength("Walls of block f'm", "strength"),
    pick("Mortar", "mortar", _plain("type M or S", "type N")),
]
CONCRETE_FIELDS: list[FieldDef] = [
    strength("Concrete f'c", "fc"),
    strength("Bars fy", "fy"),
    FieldDef(
        "Bars in footings and walls",
        lambda p, r: "where needed" if r.bars else "none",
        lambda p, r, value: {"bars": value == "where needed"},
        lambda p, r: _plain("where needed", "none"),
    ),
]


def _shown_or_not(label: str, path: str) -> FieldDef:
    return FieldDef(
        label,
        lambda p, r: "shown" if _reach(r, path) else "left out",
        lambda p, r, value: {path: value == "shown"},
        lambda p, r: _plain("shown", "left out"),
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


def layer_field(buildup: BuildUp, index: int) -> FieldDef:
    """The thickness of one layer of a build-up."""
    layer = buildup.layers[index]

    def put(p: Project, r: Any, typed: str) -> dict[str, Any]:
        layers = list(r.layers)
        layers[index] = msgspec.structs.replace(layers[index], thickness=parse_length(typed, p.units, "in"))
        return {"layers": tuple(layers)}

    return FieldDef(
        f"{layer.material} ({layer.function})",
        lambda p, r: format_inches(r.layers[index].thickness, p.units),
        put,
    )


def apply_to(project: Project, record_ids: tuple[str, ...], field: FieldDef, typed: str) -> Project:
    """Return the project with a typed value put into every record named; raises UnitError or EditError."""
    for record_id in record_ids:
        for collection in COLLECTIONS.values():
            record = by_id(getattr(project, collection)).get(record_id)
            if record is not None:
                project = edits.change(project, record_id, **field.put(project, record, typed))
    return project


def shown(project: Project, records: list[Any], field: FieldDef) -> str | None:
    """Return the value all records share, or None when they differ."""
    values = {field.get(project, record) for record in records}
    return values.pop() if len(values) == 1 else None
