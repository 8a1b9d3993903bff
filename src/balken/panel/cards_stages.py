"""The cards of stages with nothing selected, and of layouts about to be made."""

from collections.abc import Callable
from functools import partial
from typing import Any

from balken.design.not_checked import NOT_CHECKED, SHORT
from balken.documents.joist_schedule import hanger_schedule
from balken.documents.quantities import Quantities, quantities
from balken.model import edits
from balken.model.hanger_edits import take_hangers
from balken.model.level_stack import STACKS, set_stack
from balken.model.list_edits import take_beams, take_fittings, take_joists
from balken.model.lookup import bearer_label, label_of, listed
from balken.model.records import Project, Record
from balken.panel.card_parts import Button, Card, Entry, Fact, Note, Part, Rows, Used, select_action
from balken.panel.field_kinds import FieldDef
from balken.panel.project_fields import (
    CONCRETE_FIELDS,
    LOAD_FIELDS,
    MASONRY_FIELDS,
    SHEET_FIELDS,
    SNOW_FIELDS,
    SOIL_FIELDS,
    STRING_FIELDS,
    WIND_FIELDS,
)
from balken.session.session import Edit, Session
from balken.standards.checks import used_text
from balken.units import (
    Units,
    format_area_load,
    format_force,
    format_inches,
    format_length,
    parse_length,
)

EXAMPLE = {
    Units.IMPERIAL: "footing -4'8, floor 0, plate 8'1 1/8",
    Units.METRIC: "footing -1400, floor 0, plate 2450",
}
"""How levels are typed in one go."""


def stage_card(session: Session, stage: str) -> Card:
    p = session.project
    if stage == "set out":
        rows = [(v.name, format_length(v.height, p.units), v.role) for v in listed(p.levels)]
        parts: list[Part] = [
            Entry("Project", p.name, lambda typed: lambda q: edits.set_project(q, name=typed.strip() or "Untitled")),
            "Levels",
            Rows(("Level", "Height", "Role"), rows),
            Entry(
                "In one go",
                "",
                lambda typed: lambda q: set_stack(q, typed) if typed.strip() else q,
                hint=EXAMPLE[p.units],
            ),
        ]
        if not p.walls:  # later it would move what stands on them
            parts.append(
                Entry(
                    "Begin with",
                    None,
                    lambda typed: lambda q: set_stack(q, STACKS[typed][q.units]),
                    [(name, name) for name in STACKS],
                    prompt="choose a set of levels",
                )
            )
        parts += [Button(f"Select grid '{g.name}'", action=select_action(session, g.id)) for g in p.grids]
        hint = "Type levels in one go, or add them from one another; then lay the grid."
        return Card("Setting out", hint, parts)
    if stage == "check":
        return _loads_card(session)
    if stage == "sheets":
        return _sheet_card(session)
    counts = {"walls": len(p.walls), "foundations": len(p.foundations), "floors": len(p.floors), "roof": len(p.roofs)}
    nouns = {
        "walls": ("Walls", "Draw the outside walls corner to corner on the grid, then inside bearing walls."),
        "foundations": ("Foundations", "Lay a foundation under the walls; it shows in the height strip first."),
        "floors": ("Floors", "Lay a floor between the walls; joists are sized from their span and load."),
        "roof": (
            "Roof",
            "Put a roof over outside walls that close an outline, or over walls and beams selected first: hips all round, or a gable over a "
            "rectangle.",
        ),
    }
    title, sub = nouns[stage]
    parts = [Fact("Made so far", str(counts[stage]))]
    layouts: tuple[Any, ...] = {
        "foundations": (*p.foundations, *p.slabs),
        "floors": p.floors,
        "roof": (*p.roofs, *p.dormers),
    }.get(stage, ())
    parts += [Button(f"Select {layout.name}", action=select_action(session, layout.id)) for layout in layouts]
    if stage == "walls":
        parts += _strings_parts(session)
    if stage == "foundations":
        parts += _quantity_parts(session)
    if stage == "floors":
        parts += _hanger_parts(session)
        parts += _list_parts(session)
    return Card(title, sub, parts)


def _hanger_parts(session: Session) -> list[Part]:
    """Return the hangers of the floors, and of which list they are."""
    table, own = hanger_schedule(session.model), session.project.hangers
    if not table.rows and not own:
        return []
    parts: list[Part] = ["Hangers", Fact("List", f"own, {len(own)} in it" if own else "made up, ships with Balken")]
    if table.rows:
        parts.append(Rows(("Hanger", "No.", "For", "Used"), [(r[0], r[1], r[2], r[5]) for r in table.rows]))
    if own:
        parts.append(Button("Take the made-up list again", edit=lambda q: take_hangers(q, ())))
    return parts


def _list_parts(session: Session) -> list[Part]:
    """Return which other lists of products are the project's own, and what gives back those that ship with Balken."""
    p = session.project
    parts: list[Part] = []
    if p.post_fittings or session.model.fittings:
        own = f"own, {len(p.post_fittings)} in it" if p.post_fittings else "made up, ships with Balken"
        parts += ["Caps and bases", Fact("List", own)]
    if p.post_fittings:
        parts.append(Button("Take the made-up caps and bases again", edit=lambda q: take_fittings(q, ())))
    if p.own_joists:
        parts += ["I-joists", Fact("List", f"own, {len(p.own_joists)} in it")]
        parts.append(Button("Take the I-joists of Balken again", edit=lambda q: take_joists(q, ())))
    for steel, noun in ((False, "wooden beams"), (True, "W shapes")):
        beams = [beam for beam in p.own_beams if (beam.made_of == "W") == steel]
        if beams:
            parts += [noun[0].upper() + noun[1:], Fact("List", f"own, {len(beams)} in it")]
            parts.append(Button(f"Take the {noun} of Balken again", edit=partial(take_beams, rows=(), steel=steel)))
    return parts


def _quantity_parts(session: Session) -> list[Part]:
    """Return concrete, formwork, bars, excavation and bolts."""
    p = session.project
    if not session.model.runs and not session.model.pads and not session.model.slabs:
        return []
    q = quantities(session.model)
    imperial = p.units is Units.IMPERIAL

    def cubic(m3: float) -> str:
        return f"{m3 * 1.30795:.1f} yd\u00b3" if imperial else f"{m3:.2f} m\u00b3"

    def square(m2: float) -> str:
        return f"{m2 * 10.7639:,.0f} ft\u00b2" if imperial else f"{m2:.1f} m\u00b2"

    rows = [(row.role, str(row.count), cubic(row.volume), square(row.formwork)) for row in q.concrete]
    steel = f"{q.steel * 2.20462:,.0f} lb" if imperial else f"{q.steel:,.0f} kg"
    return [
        "Quantities",
        Rows(("Concrete", "Pieces", "Volume", "Formwork"), rows),
        Fact("All concrete", cubic(q.volume)),
        Fact("Bars, laps included", steel if q.bars else "none"),
        *_block_parts(q, cubic),
        Fact("Excavation", cubic(q.excavation)),
        Fact("Anchor bolts", str(q.bolts)),
        *[
            Fact(
                f"Insulation inside, {format_inches(row.thickness, p.units)}",
                f"{square(row.area)}, notched round {row.notches} beams",
            )
            for row in q.linings
        ],
    ]


def _block_parts(q: Quantities, cubic: Callable[[float], str]) -> list[Part]:
    """Return the blocks of foundation walls."""
    if not q.blocks:
        return []
    rows = [(r.name, str(r.courses), str(r.whole), str(r.half), str(r.cut)) for r in q.blocks]
    grout = sum(r.grout for r in q.blocks)
    return [
        Rows(("Block", "Courses", "Whole", "Half", "Cut"), rows),
        Fact("Grout in cells", cubic(grout) if grout else "none"),
    ]


def _typed_once(p: Project, record: Record, fields: list[FieldDef], put: Callable[..., Project]) -> list[Part]:
    """Return entries of what is typed once for the project; ``put`` changes fields of that record in a project."""
    found: list[Part] = []
    for definition in fields:

        def commit(typed: str, definition: FieldDef = definition) -> Edit:
            changes = definition.put(p, record, typed)
            return lambda q: put(q, **changes)

        options = definition.choices(p, record) if definition.choices else None
        found.append(Entry(definition.label, definition.get(p, record), commit, options, definition.hint))
    return found


def _strings_parts(session: Session) -> list[Part]:
    """Return which dimension strings stand outside the building, and where."""
    p = session.project
    parts: list[Part] = ["Dimension strings"]
    parts += _typed_once(p, p.strings, STRING_FIELDS, edits.set_strings)
    return parts


def _wind_rows(session: Session) -> list[Part]:
    """Return what lifts at the bearings of roofs, and at the feet of what they stand on."""
    p, units, made = session.project, session.project.units, session.model.uplift
    rows = []
    for row in made.lifted:
        what = {"rafter": "rafters", "truss": "trusses", "lookout": "lookouts"}.get(row.what, row.what)
        where = f"{label_of(p, row.bearer) or 'nothing'}, {what}{' at ends' if row.end else ''}"
        if row.net > 0.0:
            rows.append(
                (where, format_force(row.net, units), f"{row.tie} {used_text(row.used)}" if row.tie else "nothing")
            )
    parts: list[Part] = [Rows(("On", "Lifts each", "Held by"), rows)] if rows else []
    feet = [
        (
            bearer_label(p, f.thing),
            format_force(f.net, units),
            f"{f.tie} @ {format_inches(f.apart, units)}" if f.apart else f.tie or "nothing",
        )
        for f in made.feet
        if f.net > 0.0
    ]
    if feet:
        parts += [Rows(("Foot of", "Lifts in all", "Held by"), feet)]
    return parts


def _snow_rows(session: Session) -> list[Part]:
    """Return what snow lies on each roof."""
    p, units, rows = session.project, session.project.units, []
    for roof, snow in session.model.snow.items():
        name = label_of(p, roof)
        for plane in dict.fromkeys(plane for plane in snow.planes if plane.run > 0.0):
            more = ""
            if plane.band:
                more = (
                    f" and {format_area_load(plane.band, units)} over {format_length(plane.deep, units)} at the ridge"
                )
            rows.append((name, format_area_load(plane.balanced, units), f"{format_area_load(plane.even, units)}{more}"))
        for band in snow.bands:
            how = f"{format_area_load(band.peak, units)}, {band.told} over {format_length(band.wide, units)}"
            rows.append((name, "", how))
    alike = list(dict.fromkeys(rows))
    return [Rows(("Roof", "Balanced", "A plane by itself; beside walls"), alike)] if alike else []


def _loads_card(session: Session) -> Card:
    p = session.project
    parts: list[Part] = [Note(SHORT), "Loads, soil and frost"]
    parts += _typed_once(p, p.loads, LOAD_FIELDS, edits.set_loads)
    parts += ["Wind under roofs", *_typed_once(p, p.loads, WIND_FIELDS, edits.set_loads), *_wind_rows(session)]
    if p.loads.snow_by == "roof":
        parts += ["Snow on roofs", *_typed_once(p, p.loads, SNOW_FIELDS, edits.set_loads), *_snow_rows(session)]
    parts += ["Ground", *_typed_once(p, p.soil, SOIL_FIELDS, edits.set_soil)]
    parts += ["Concrete", *_typed_once(p, p.concrete, CONCRETE_FIELDS, edits.set_concrete)]
    parts += ["Block", *_typed_once(p, p.masonry, MASONRY_FIELDS, edits.set_masonry)]

    def stock(typed: str) -> Edit:
        value = parse_length(typed, p.units)
        return lambda q: edits.set_project(q, stock_length=value)

    steps: list[tuple[str, str]] = [
        ("ft-in", "inches: 2, 12, 16, 19.2, 24"),
        ("mm", "millimetres: 50, 300, 400, 480, 600"),
    ]
    parts.append(
        Entry("Auto sizes in", p.steps.value, lambda typed: lambda q: edits.set_project(q, steps=Units(typed)), steps)
    )
    parts.append(Entry("Longest stock", format_length(p.stock_length, p.units), stock))
    parts.append("Carried down to the soil")
    model = session.model
    parts.append(Fact("Put on, all cases", format_force(model.path.applied.all, p.units)))
    parts.append(Fact("Arrives at the footings", format_force(model.path.arrived.all, p.units)))
    if model.results:
        parts.append("Most used")
        best: dict[str, tuple[float, str]] = {}
        for key, result in model.results.items():
            role = model.pieces[key].role
            best[role] = max(best.get(role, (0.0, "")), (result.used, result.governs.name))
        parts += [Used(role.capitalize(), used, note) for role, (used, note) in best.items()]
        if model.footings:
            soil = max(model.footings.values(), key=lambda f: f.soil_used)
            parts.append(Used("Soil", soil.soil_used, soil.combination))
        if model.earth_walls:
            earth = max(model.earth_walls.values(), key=lambda w: w.used)
            parts.append(Used("Foundation walls", earth.used, earth.checks[0].name))
    parts += ["By which standards", Note(session.model.standard.title), "Not checked"]
    parts += [Note(text) for text in NOT_CHECKED]
    return Card("Check", "Loads are typed once and carried through the whole frame.", parts)


def _sheet_card(session: Session) -> Card:
    p = session.project
    parts: list[Part] = ["Title block", *_typed_once(p, p.sheet, SHEET_FIELDS, edits.set_sheet)]
    return Card("Sheets", "What the title block of every sheet says; number and title are those of the first.", parts)


def draft_card(
    session: Session, title: str, sub: str, draft: Record, fields: list[FieldDef], change: Callable[[Record], None]
) -> Card:
    """Return a card whose entries change a draft that is not yet in the project."""
    parts: list[Part] = []
    for definition in fields:

        def commit(typed: str, definition: FieldDef = definition) -> Edit:
            changes = definition.put(session.project, draft, typed)
            change(edits.with_fields(draft, changes))
            return lambda q: q

        options = definition.choices(session.project, draft) if definition.choices else None
        value = definition.get(session.project, draft)
        parts.append(Entry(definition.label.strip(), value, commit, options, definition.hint, tried=False))
    return Card(title, sub, parts)
