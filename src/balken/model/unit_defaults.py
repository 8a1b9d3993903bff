"""What a project begins with in either kind of units: every default a round figure in its own.

Records keep their defaults in inches and feet; in a metric project a value that is still such a default is a round one in millimetres
as the record is added.  Products (lumber, decks, columns) keep the sizes in which they are bought.
"""

import math
from typing import TYPE_CHECKING, Any, TypeVar

import msgspec

from balken.model.base import Record
from balken.units import Units
from balken.units.system import INCH

if TYPE_CHECKING:
    from balken.model.records import Project

R = TypeVar("R", bound=Record)
LOADS: dict[str, float] = {
    "floor_live": 2.0, "floor_dead": 0.5, "roof_dead": 0.5, "roof_live": 1.0, "ground_snow": 1.5, "ceiling_dead": 0.25, "attic_live": 0.5,
    "wind": 1.2, "soil_bearing": 70.0, "frost_depth": 800.0,
}  # fmt: skip
"""Loads of a metric project to begin with, kN/m2 and mm: those in pounds, rounded to the safe side."""
SOIL = {"weight": 19.0, "fluid": 9.5}
"""Earth of a metric project, kN/m3: 120 and 60 pcf, rounded to the safe side."""
CONCRETE = {"fc": 20.0, "fy": 420.0}
"""Concrete and bars of a metric project, N/mm2: no weaker than 2500 psi; bars of Grade 420 (ASTM A615M), from memory."""
MASONRY = {"strength": 13.5}
"""Walls of block of a metric project, N/mm2: 2000 psi, rounded to the safe side."""
STOCK = 4800.0
"""The longest board of a metric project to begin with, mm: no longer than 16 ft."""
PITCH = math.tan(math.radians(30.0))
"""Rise over run of roofs of a metric project to begin with; 6:12 is no round number of degrees."""
BOUGHT = {"deck", "subbase", "stock"}
"""Fields of what is bought in sizes of its own."""
BOUGHT_OF = {"Column", "Layer", "BuildUp", "OwnJoist", "OwnBeam", "Hanger", "PostFitting"}
"""Records of what is."""


def metric(value: float) -> float:
    """Return a round figure near a length that is round in inches or feet, mm."""
    step = 5.0 if value < 150.0 else 50.0 if value < 1000.0 else 100.0
    return round(value / step) * step


def fitted(record: Record, steps: Units) -> Record:
    """Return a record in which lengths that are still defaults are round in the units of a project."""
    if steps is not Units.METRIC or type(record).__name__ in BOUGHT_OF:
        return record
    found: dict[str, Any] = {}
    for field in msgspec.structs.fields(type(record)):
        value = getattr(record, field.name)
        if isinstance(value, Record):
            inner = fitted(value, steps)
            if inner != value:
                found[field.name] = inner
        elif isinstance(value, float) and value == field.default and field.name not in BOUGHT and _in_inches(value):
            found[field.name] = metric(value)
        elif field.name == "pitch" and value == field.default == 0.5:
            found[field.name] = PITCH
    return msgspec.structs.replace(record, **found) if found else record


def _in_inches(value: float) -> bool:
    """Whether a length is round in sixteenths of an inch, and no small one."""
    return value > 10.0 and round(value / INCH * 16.0, 6) % 1.0 == 0.0


def is_bare(project: "Project") -> bool:
    """Whether nothing but levels has been made yet."""
    kept = {"levels", "buildups"}
    rows = (f.name for f in msgspec.structs.fields(type(project)) if f.name not in kept)
    return not any(isinstance(getattr(project, name), tuple) and getattr(project, name) for name in rows)


def _swapped(record: R, round_ones: dict[str, float], units: Units) -> R:
    """Return a record in which what is still the default of one kind of units is that of the other."""
    usual, found = {f.name: f.default for f in msgspec.structs.fields(type(record))}, dict[str, Any]()
    for name, round_one in round_ones.items():
        here, there = (usual[name], round_one) if units is Units.METRIC else (round_one, usual[name])
        if getattr(record, name) == here:
            found[name] = there
    return msgspec.structs.replace(record, **found) if found else record


def in_units(project: "Project", units: Units) -> "Project":
    """Return a project that begins in units: its steps, and loads, stock and strings that are still defaults."""
    stock = {f.name: f.default for f in msgspec.structs.fields(type(project))}["stock_length"]
    lengths = (stock, STOCK) if units is Units.METRIC else (STOCK, stock)
    strings = fitted(project.strings, units) if units is Units.METRIC else type(project.strings)()
    return msgspec.structs.replace(
        project,
        units=units,
        steps=units,
        loads=_swapped(project.loads, LOADS, units),
        soil=_swapped(project.soil, SOIL, units),
        concrete=_swapped(project.concrete, CONCRETE, units),
        masonry=_swapped(project.masonry, MASONRY, units),
        stock_length=lengths[1] if project.stock_length == lengths[0] else project.stock_length,
        strings=strings
        if units is Units.METRIC or project.strings == fitted(type(project.strings)(), Units.METRIC)
        else project.strings,
    )
