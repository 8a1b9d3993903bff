"""Kinds of fields: how a length, a load, a choice is shown, read back and what may be chosen."""

import math
from collections.abc import Callable, Mapping
from typing import Any

from msgspec import field

from balken.catalog.species import SPECIES
from balken.documents.display import Diagram
from balken.model import edits
from balken.model.lookup import by_id
from balken.model.records import (
    COLLECTIONS,
    Project,
)
from balken.units import (
    UnitError,
    Units,
    format_angle,
    format_area_load,
    format_force,
    format_inches,
    format_length,
    format_line_load,
    format_pitch,
    format_stress,
    parse_angle,
    parse_area_load,
    parse_force,
    parse_length,
    parse_line_load,
    parse_pitch,
    parse_stress,
)
from balken.units.system import PCF
from balken.value import Value

LEAST = "least timber"
OUTDOORS = "outdoors, treated"
Choices = list[tuple[str, str]]


class FieldDef(Value, frozen=True):
    """A field: label, text shown, and the record's changes for a typed text (raises UnitError).

    ``key``: by which it is found, whatever it is called and wherever it stands: the path of what it changes.
    """

    label: str
    get: Callable[[Project, Any], str]
    put: Callable[[Project, Any, str], dict[str, Any]]
    choices: Callable[[Project, Any], Choices | None] | None = None
    hint: str = ""
    key: str = ""
    pictures: Mapping[str, Diagram] = field(default_factory=dict)
    """Of values that are shown as small drawings, too."""


def only(fields: list[FieldDef], *keys: str) -> list[FieldDef]:
    """Return the fields of these keys, in their own order; raises KeyError for one that is not there."""
    missing = set(keys) - {field.key for field in fields}
    if missing:
        raise KeyError(f"There is no field {', '.join(sorted(missing))}.")
    return [field for field in fields if field.key in keys]


def reach(record: Any, path: str) -> Any:
    for part in path.split("__"):
        record = getattr(record, part)
    return record


def length(
    label: str, path: str, short: bool = False, auto: bool = False, hint: str = "", none: str = "auto"
) -> FieldDef:
    """A length; ``short`` ones are read and shown in inches, ``auto`` ones may be left open, which shows as ``none``."""

    def get(p: Project, r: Any) -> str:
        value = reach(r, path)
        if value is None:
            return none
        return format_inches(value, p.units) if short else format_length(value, p.units)

    def put(p: Project, r: Any, text: str) -> dict[str, Any]:
        if auto and text.strip().lower() in ("", none):
            return {path: None}
        return {path: parse_length(text, p.units, "in" if short else "ft")}

    return FieldDef(label, get, put, hint=hint, key=path)


def pitched(label: str, path: str, none: str = "") -> FieldDef:
    """A pitch: rise over run, in the project's own way or in degrees; one that may be left open shows as ``none`` then."""

    def get(p: Project, r: Any) -> str:
        value = reach(r, path)
        return none if value is None else format_pitch(value, p.units)

    def put(p: Project, r: Any, typed: str) -> dict[str, Any]:
        if none and typed.strip().lower() in ("", none):
            return {path: None}
        return {path: float(parse_pitch(typed, p.units))}

    return FieldDef(label, get, put, hint=f"6:12, 30 deg or {none}" if none else "6:12 or 30 deg", key=path)


def text(label: str, path: str) -> FieldDef:
    """A plain text."""
    return FieldDef(label, lambda p, r: str(reach(r, path)), lambda p, r, typed: {path: typed.strip()}, key=path)


def load(label: str, path: str, hint: str = "", none: str = "") -> FieldDef:
    """An area load; one that may be left open shows as ``none`` then."""

    def get(p: Project, r: Any) -> str:
        value = reach(r, path)
        return none if value is None else format_area_load(value, p.units)

    def put(p: Project, r: Any, typed: str) -> dict[str, Any]:
        if none and typed.strip().lower() in ("", none):
            return {path: None}
        return {path: parse_area_load(typed, p.units)}

    return FieldDef(label, get, put, hint=hint, key=path)


def line_load(label: str, path: str, hint: str = "") -> FieldDef:
    """A load along a line."""
    return FieldDef(
        label,
        lambda p, r: format_line_load(reach(r, path), p.units),
        lambda p, r, typed: {path: parse_line_load(typed, p.units)},
        hint=hint or "200 plf, 3 kN/m",
        key=path,
    )


def force(label: str, path: str, hint: str = "") -> FieldDef:
    """A force."""
    return FieldDef(
        label,
        lambda p, r: format_force(reach(r, path), p.units),
        lambda p, r, typed: {path: parse_force(typed, p.units)},
        hint=hint or "1200 lb, 5 kip, 20 kN",
        key=path,
    )


def density(label: str, path: str) -> FieldDef:
    """A weight by volume: pcf or kN/m3."""

    def get(p: Project, r: Any) -> str:
        value = reach(r, path)
        return f"{value / PCF:.0f} pcf" if p.units is Units.IMPERIAL else f"{value:.2f} kN/m\u00b3"

    def put(p: Project, r: Any, typed: str) -> dict[str, Any]:
        cleaned = typed.strip().lower().replace("\u00b3", "3").replace(" ", "")
        metric = cleaned.endswith("kn/m3") or (p.units is not Units.IMPERIAL and not cleaned.endswith("pcf"))
        return {path: number(cleaned.removesuffix("kn/m3").removesuffix("pcf")) * (1.0 if metric else PCF)}

    return FieldDef(label, get, put, key=path)


def strength(label: str, path: str) -> FieldDef:
    """A strength of concrete or steel."""
    return FieldDef(
        label,
        lambda p, r: format_stress(reach(r, path), p.units),
        lambda p, r, typed: {path: parse_stress(typed, p.units)},
        hint="2500 psi, 60 ksi, 20 MPa",
        key=path,
    )


def pick(
    label: str,
    path: str,
    options: Callable[[Project, Any], Choices] | Choices,
    pictures: Mapping[str, Diagram] | None = None,
) -> FieldDef:
    """A choice among (value, label) pairs; ``pictures``: of some values."""
    found = options if callable(options) else (lambda p, r: options)
    return FieldDef(
        label,
        lambda p, r: str(reach(r, path)),
        lambda p, r, value: {path: value},
        found,
        key=path,
        pictures=pictures or {},
    )


def either(label: str, path: str, off: tuple[str, str], on: tuple[str, str]) -> FieldDef:
    """A choice of what is a yes or no in the record, as (value, label) of both."""
    return FieldDef(
        label,
        lambda p, r: on[0] if reach(r, path) else off[0],
        lambda p, r, value: {path: value == on[0]},
        lambda p, r: [off, on],
        key=path,
    )


def level_pick(label: str, path: str, slabs: bool = True) -> FieldDef:
    """A choice of level; without ``slabs`` for foundations, which never hang on a slab's top."""
    return pick(
        label,
        path,
        lambda p, r: [
            (v.id, f"{v.name}{' (removed)' if v.removed else ''}  {format_length(v.height, p.units)}")
            for v in sorted(p.levels, key=lambda v: -v.height)
            if ((slabs or v.role != "slab") and not v.removed) or v.id == str(reach(r, path))
        ],
    )


Sizes = tuple[str, ...] | Callable[[Project, Any], tuple[str, ...]]
"""Sections offered: always the same ones, or by the record."""


def size_pick(label: str, path: str, sizes: Sizes) -> FieldDef:
    """A choice of section, or auto."""
    offered = sizes if callable(sizes) else (lambda p, r: sizes)

    def get(p: Project, r: Any) -> str:
        return reach(r, path) or "auto"

    def put(p: Project, r: Any, value: str) -> dict[str, Any]:
        return {path: None if value == "auto" else value}

    return FieldDef(label, get, put, lambda p, r: [("auto", "auto"), *((s, s) for s in offered(p, r))], key=path)


def choice_fields(path: str, sizes: Sizes, spacing: bool = True) -> list[FieldDef]:
    """The fields of a member choice: section, spacing, species, grade."""
    found = [size_pick("Section", f"{path}__size", sizes)]
    if spacing:
        found.append(length("Spacing", f"{path}__spacing", short=True, auto=True, hint='16", 24", 400, or auto'))
    return [*found, *species_fields(f"{path}__")]


def species_fields(at: str = "", chosen: tuple[tuple[str, str], ...] = ()) -> list[FieldDef]:
    """The fields of what lumber is: species and grade; ``at``: path of the record that has them, ``chosen``: what else a grade can be."""

    def put(p: Project, r: Any, value: str) -> dict[str, Any]:
        grade = reach(r, f"{at}grade")
        fits = (
            grade
            if grade in (*SPECIES[value], *(name for name, _ in chosen))
            else next(g for g in SPECIES[value] if "No. 2" in g)
        )
        return {f"{at}species": value, f"{at}grade": fits}

    return [
        FieldDef(
            "Species",
            lambda p, r: reach(r, f"{at}species"),
            put,
            lambda p, r: [(s, s) for s in SPECIES],
            key=f"{at}species",
        ),
        pick("Grade", f"{at}grade", lambda p, r: [*chosen, *((g, g) for g in SPECIES[reach(r, f"{at}species")])]),
    ]


def plain(*names: str) -> Choices:
    return [(n, n) for n in names]


def turned_by(path: str) -> FieldDef:
    """An angle from x, anticlockwise."""
    return FieldDef(
        "Turned by",
        lambda p, r: format_angle(reach(r, path)),
        lambda p, r, typed: {path: parse_angle(typed)},
        key=path,
    )


def outdoors() -> FieldDef:
    """Whether a thing stands outdoors."""
    return FieldDef(
        "Stands",
        lambda p, r: OUTDOORS if r.outdoors else "indoors",
        lambda p, r, value: {"outdoors": value == OUTDOORS},
        lambda p, r: plain("indoors", OUTDOORS),
        key="outdoors",
    )


def direction(label: str, path: str, auto: str, least: str = "") -> FieldDef:
    """A direction; ``least``: what the way with the least timber is called, where it may be asked for."""
    open_ones = [("auto", auto), *([(LEAST, least)] if least else [])]
    options = [*open_ones, ("0", "along x"), ("90", "along y")]

    def get(p: Project, r: Any) -> str:
        value = reach(r, path)
        if value is None:
            return LEAST if least and r.way == LEAST else "auto"
        return f"{value:g}"

    def put(p: Project, r: Any, value: str) -> dict[str, Any]:
        if value not in ("auto", LEAST):
            return {path: float(value)}
        return {path: None, **({"way": LEAST if value == LEAST else "shorter"} if least else {})}

    return FieldDef(
        label,
        get,
        put,
        lambda p, r: options if get(p, r) in dict(options) else [*options, (get(p, r), f"{get(p, r)}\u00b0")],
        key=path,
    )


def number(typed: str) -> float:
    try:
        value = float(typed.strip())
    except ValueError:
        value = math.nan
    if not math.isfinite(value):
        raise UnitError(f"'{typed}' is not a number.")
    return value


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
