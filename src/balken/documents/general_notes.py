"""General notes: standards, loads, soil, concrete, wood, and what is not checked; all read from the project, none typed."""

from balken.derived.model import Model
from balken.design.not_checked import SHORT
from balken.documents.paper_table import LETTERS, PaperTable
from balken.documents.plan import summary_note
from balken.documents.sheet import STANDARDS, wrapped
from balken.framing.roles import ROLES
from balken.units import Units, format_area_load, format_length, format_speed, format_stress

WIDE = 150.0
"""Lines of notes are no longer than this, paper mm."""
Note = tuple[str, str]


def general_notes(model: Model) -> PaperTable:
    """Return the general notes of a project; it has no rows where nothing is framed or founded."""
    if not model.pieces:
        return PaperTable("General notes", ("About", "Note"), [])
    rows: list[tuple[str, str]] = []
    for about, note in (*_loads(model), *_concrete(model), *_wood(model), *_rules(model)):
        lines = wrapped(note, LETTERS, WIDE)
        rows += zip((about, *[""] * (len(lines) - 1)), lines, strict=True)
    return PaperTable("General notes", ("About", "Note"), rows)


def _loads(model: Model) -> list[Note]:
    loads, units = model.project.loads, model.project.units
    wind = f"{format_area_load(loads.wind, units)} on walls"
    if loads.wind_speed:
        uplift = f"{format_speed(loads.wind_speed, units)}, exposure {loads.wind_exposure}, {loads.wind_openings}"
        wind += f"; uplift of roofs by a basic speed of {uplift}"
    else:
        wind += "; uplift of roofs is not looked at"
    roof = f"Roof live {format_area_load(loads.roof_live, units)}; ceilings dead {format_area_load(loads.ceiling_dead, units)}, "
    return [
        ("Loads", summary_note(model)),
        ("", f"{roof}attics without stairs {format_area_load(loads.attic_live, units)}."),
        ("Wind", f"{wind}."),
    ]


def _concrete(model: Model) -> list[Note]:
    made = {piece.material for piece in model.pieces.values()}
    units, concrete = model.project.units, model.project.concrete
    notes: list[Note] = []
    if made & {"concrete", "concrete block"}:
        bars = f"; bars fy {format_stress(concrete.fy, units)}" if concrete.bars else "; no bars"
        notes.append(("Concrete", f"f'c {format_stress(concrete.fc, units)}{bars}."))
    depth = model.project.loads.frost_depth
    if model.runs or model.pads:
        bearing = format_area_load(model.project.loads.soil_bearing, model.project.units)
        soil = f"Footings stand on undisturbed soil that bears {bearing} at least, {format_length(depth, units)} below ground or deeper."
        notes.append(("Soil", soil))
    return notes


def _wood(model: Model) -> list[Note]:
    """Return species and grades in use, each with what is made of it."""
    used: dict[str, set[str]] = {}
    for piece in model.pieces.values():
        if piece.material == "timber" and piece.species:
            used.setdefault(f"{piece.species} {piece.grade}", set()).add(piece.role)
    order = list(ROLES)
    notes: list[Note] = []
    for wood, roles in sorted(used.items(), key=lambda row: (-len(row[1]), row[0])):
        notes.append(("" if notes else "Wood", f"{wood}: {', '.join(sorted(roles, key=order.index))}."))
    return notes


def _rules(model: Model) -> list[Note]:
    unit = "Lengths are in feet and inches" if model.project.units is Units.IMPERIAL else "Lengths are in mm"
    return [
        ("Measures", f"{unit}; figures go before what is measured on the drawing. Compare with the walls as built before cutting."),
        ("Fastening", "Where nothing else is drawn or scheduled, nails by IRC 2018 Table R602.3(1)."),
        ("Standards", STANDARDS),
        ("Not checked", SHORT.removeprefix("Not checked: ")),
    ]  # fmt: skip
