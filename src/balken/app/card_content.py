"""What the card says about what is selected: plain data, so that it can be tested without a window."""

from collections.abc import Callable, Sequence
from dataclasses import dataclass, field
from typing import Any

from balken.app.fields import (
    FIELDS,
    LOAD_FIELDS,
    RAFTER_FIELDS,
    SHEET_FIELDS,
    TIE_FIELDS,
    FieldDef,
    apply_to,
    layer_field,
    shown,
)
from balken.app.session import Edit, Session
from balken.design.layouts import LayoutDesign
from balken.design.members import Check, MemberResult
from balken.framing.pieces import Piece
from balken.loads.cases import Cases, worst
from balken.model import edits
from balken.model.buildups import display_name
from balken.model.lookup import axis_positions, by_id, find
from balken.model.records import Floor, Foundation, Grid, Level, Opening, Project, Record, Roof, Wall
from balken.model.rules import wall_label
from balken.units import (
    Units,
    format_force,
    format_inches,
    format_length,
    format_line_load,
    format_stress,
    parse_length,
    parse_spacings,
)


@dataclass
class Entry:
    """A value that can be typed or chosen; ``value`` None where the things selected differ."""

    label: str
    value: str | None
    commit: Callable[[str], Edit]
    choices: list[tuple[str, str]] | None = None
    hint: str = ""


@dataclass
class Fact:
    """A value that follows from others."""

    label: str
    value: str


@dataclass
class Used:
    """How far something is used, with the reason."""

    label: str
    used: float
    note: str


@dataclass
class Rows:
    """A small table."""

    headings: tuple[str, ...]
    rows: Sequence[tuple[str, ...]]


@dataclass
class Button:
    """A deed."""

    label: str
    edit: Edit | None = None
    action: Callable[[], None] | None = None
    primary: bool = False


Part = Entry | Fact | Used | Rows | Button | str
"""A str is a heading."""


@dataclass
class Card:
    """Title, a line under it, and the parts."""

    title: str
    sub: str = ""
    parts: list[Part] = field(default_factory=list)


def card(session: Session, stage: str) -> Card:
    """Return the card for the selection, or for the stage when nothing is selected."""
    refs = session.selection
    if not refs:
        return _stage_card(session, stage)
    if len(refs) == 1:
        single = _single(session, refs[0])
        if single is not None:
            return single
    return _many(session, refs)


def _single(session: Session, ref: str) -> Card | None:
    model, project = session.model, session.project
    if ref in model.pieces:
        return _piece_card(session, model.pieces[ref])
    record = find(project, ref)
    if isinstance(record, Wall):
        return _wall_card(session, record)
    if isinstance(record, Grid):
        return _grid_card(session, record)
    if isinstance(record, Foundation):
        return _foundation_card(session, record)
    if isinstance(record, Floor):
        return _floor_card(session, record)
    if isinstance(record, Roof):
        return _roof_card(session, record)
    if isinstance(record, Level):
        return _level_card(session, record)
    if isinstance(record, Opening):
        title = f"{record.kind.capitalize()} opening"
        return Card(title, f"in {wall_label(project, record.wall)}", entries(session, [record], FIELDS[Opening]))
    if ref == "cut":
        return Card("Cut line", "What the height strip and the cross-section show. Drag it on the plan.")
    grid_id, _, axis_id = ref.partition("/")
    grid = by_id(project.grids).get(grid_id)
    return _axis_card(session, grid, axis_id) if grid is not None else None


def _many(session: Session, refs: tuple[str, ...]) -> Card:
    records = [r for r in (find(session.project, ref) for ref in refs) if r is not None]
    kinds = {type(r) for r in records}
    pieces = [session.model.pieces[ref] for ref in refs if ref in session.model.pieces]
    if len(kinds) == 1 and not pieces:
        kind = kinds.pop()
        title = f"{len(records)} {kind.__name__.lower()}s"
        return Card(title, "A value typed here goes to all of them.", entries(session, records, FIELDS.get(kind, [])))
    parts: list[Part] = []
    if pieces:
        roles: dict[str, list[Piece]] = {}
        for piece in pieces:
            roles.setdefault(piece.role, []).append(piece)
        parts.append("Selected")
        for role, group in sorted(roles.items()):
            lengths = sum(p.length for p in group)
            parts.append(Fact(f"{len(group)} x {role}", f"{format_length(lengths, session.project.units)} in all"))
        results = [(session.model.results[p.key], p) for p in pieces if p.key in session.model.results]
        if results:
            result, _ = max(results, key=lambda row: row[0].used)
            parts += used_parts(result, session)
        owners = list(dict.fromkeys(p.owner for p in pieces))
        parts += [Button(f"Select {_name(session.project, o)}", action=_select(session, o)) for o in owners[:4]]
    for kind in kinds:
        parts.append(Fact(kind.__name__, str(sum(1 for r in records if type(r) is kind))))
    return Card(f"{len(refs)} things", "", parts)


def _select(session: Session, ref: str) -> Callable[[], None]:
    return lambda: session.select([ref])


def _name(project: Project, record_id: str) -> str:
    record = find(project, record_id)
    if isinstance(record, Wall):
        return wall_label(project, record_id)
    return getattr(record, "name", record_id)


def entries(session: Session, records: list[Any], fields: list[FieldDef]) -> list[Part]:
    """Return entries that put typed values into records of one kind."""
    ids = tuple(r.id for r in records)
    found: list[Part] = []
    for definition in fields:

        def commit(typed: str, definition: FieldDef = definition) -> Edit:
            return lambda p: apply_to(p, ids, definition, typed)

        options = definition.choices(session.project, records[0]) if definition.choices else None
        value = shown(session.project, records, definition)
        found.append(Entry(definition.label.strip(), value, commit, options, definition.hint))
    return found


# Cards of single things ----------------------------------------------------------------------------


def _level_card(session: Session, level: Level) -> Card:
    p = session.project
    parts = entries(session, [level], FIELDS[Level])
    parts.append("Levels")
    ordered = sorted(p.levels, key=lambda v: -v.height)
    parts.append(
        Rows(
            ("Level", "Height", "Above this"),
            [
                (v.name, format_length(v.height, p.units), format_length(v.height - level.height, p.units))
                for v in ordered
            ],
        )
    )
    parts.append(Button("Remove level", edit=lambda q: edits.remove(q, level.id)))
    return Card(level.name, "Everything hanging on it follows its height.", parts)


def _axis_card(session: Session, grid: Grid, axis_id: str) -> Card:
    for way in ("x_axes", "y_axes"):
        axes = getattr(grid, way)
        for i, axis in enumerate(axes):
            if axis.id == axis_id:
                label_entry = Entry(
                    "Label", axis.label, lambda typed: lambda p: edits.rename_axis(p, grid.id, axis_id, typed)
                )
                parts: list[Part] = [label_entry]
                if i:
                    before = axes[i - 1].label
                    parts.append(
                        Entry(
                            f"From axis {before}",
                            format_length(axis.gap, session.project.units),
                            lambda typed: _set_gap(session, grid.id, axis_id, typed),
                            hint="axes after it move along",
                        )
                    )
                parts.append(Button("Select the whole grid", action=_select(session, grid.id)))
                return Card(f"Axis {axis.label}", f"of {grid.name}", parts)
    return Card("Axis", "is not there any more")


def _set_gap(session: Session, grid_id: str, axis_id: str, typed: str) -> Edit:
    gap = parse_length(typed, session.project.units)
    return lambda p: edits.set_axis_gap(p, grid_id, axis_id, gap)


def spacings_text(grid: Grid, way: str, project: Project) -> str:
    """Return the spacings of a grid as they are typed: 13', 14', 13'."""
    found: list[tuple[int, str]] = []
    for axis in getattr(grid, way)[1:]:
        text = format_length(axis.gap, project.units)
        if found and found[-1][1] == text:
            found[-1] = (found[-1][0] + 1, text)
        else:
            found.append((1, text))
    return ", ".join(f"{n} x {t}" if n > 1 else t for n, t in found)


def _grid_card(session: Session, grid: Grid) -> Card:
    p = session.project
    parts: list[Part] = []
    for way, label in (("x_axes", "Spacings along x"), ("y_axes", "Spacings along y")):

        def commit(typed: str, way: str = way) -> Edit:
            spacings = parse_spacings(typed, p.units)
            return lambda q: edits.set_grid_spacings(q, grid.id, way, spacings)

        parts.append(Entry(label, spacings_text(grid, way, p), commit, hint="20', 2 x 12'6\" or 4x6000"))

    def run_past(typed: str) -> Edit:
        value = parse_length(typed, p.units)
        return lambda q: edits.change(q, grid.id, run_past=value)

    parts.append(Entry("Axes run past", format_length(grid.run_past, p.units), run_past))
    parts.append(
        Entry(
            "Bubbles",
            grid.bubbles,
            lambda typed: lambda q: edits.change(q, grid.id, bubbles=typed),
            [("start", "left and bottom"), ("end", "right and top"), ("both", "both ends")],
        )
    )
    overall = (axis_positions(grid.x_axes)[-1:], axis_positions(grid.y_axes)[-1:])
    if overall[0] and overall[1]:
        size = f"{format_length(overall[0][0], p.units)} x {format_length(overall[1][0], p.units)}"
        parts.append(Fact("Overall", size))
    parts.append(Button("Remove grid", edit=lambda q: edits.remove(q, grid.id)))
    return Card(grid.name, "Walls drawn on its crossings follow when axes move.", parts)


def _wall_card(session: Session, wall: Wall) -> Card:
    p, line = session.project, session.model.lines[wall.id]

    def set_length(typed: str) -> Edit:
        value = parse_length(typed, p.units)
        return lambda q: edits.set_wall_length(q, wall.id, value)

    parts: list[Part] = [Entry("Length", format_length(line.band.length, p.units), set_length)]
    parts += entries(session, [wall], FIELDS[Wall])
    parts.append(Fact("Thickness", format_inches(line.thickness, p.units)))
    parts.append(Button("Flip outside and inside", edit=lambda q: edits.flip_wall(q, wall.id)))
    parts.append("Layers, outside to inside")
    buildup = line.buildup
    layers = [layer_field(buildup, i) for i in range(len(buildup.layers))]
    parts += entries(session, [buildup], layers)
    users = sum(1 for w in p.walls if w.buildup == buildup.id)
    if users > 1:
        parts.append(Fact("Changes", f"all {users} walls of this build-up"))
    parts.append(Button("Copy the build-up for this wall alone", edit=lambda q: copy_buildup(q, wall.id)))
    total = session.model.path.walls.get(wall.id)
    if total is not None:
        parts.append("Load path")
        parts += _line_parts(total.foot, total.per_length, session)
        parts.append(Fact("of which its own weight", format_force(total.own.all, p.units)))
        runs = [r for r in session.model.runs if r.wall == wall.id]
        parts.append(Fact("Stands on", runs[0].foundation.name if runs else "nothing"))
    openings = [o for o in p.openings if o.wall == wall.id]
    if openings:
        parts.append("Openings")
        for o in openings:
            text = f"{o.kind} {format_length(o.width, p.units)} at {format_length(o.offset, p.units)}"
            parts.append(Button(text, action=_select(session, o.id)))
    parts.append(Button("Remove wall", edit=lambda q: edits.remove(q, wall.id)))
    name = display_name(buildup, p.units)
    return Card(wall_label(p, wall.id), name, parts)


def copy_buildup(project: Project, wall_id: str) -> Project:
    """Give a wall a build-up of its own, copied from the one it has."""
    from msgspec.structs import replace

    from balken.model.lookup import next_id
    from balken.model.records import BuildUp

    wall = by_id(project.walls)[wall_id]
    old = by_id(project.buildups)[wall.buildup]
    new_id = next_id(project, BuildUp)
    project = edits.add(project, replace(old, id=new_id))
    return edits.change(project, wall_id, buildup=new_id)


def _line_parts(foot: Cases, per_length: Cases, session: Session) -> list[Part]:
    units = session.project.units
    load, combo = worst(per_length)
    return [
        Fact("Load at its foot", format_force(foot.all, units)),
        Fact(f"Line load ({combo.name})", format_line_load(load, units)),
    ]


def _foundation_card(session: Session, foundation: Foundation) -> Card:
    p, model = session.project, session.model
    parts = entries(session, [foundation], FIELDS[Foundation])
    parts.append("Footings")
    rows = []
    runs = [r for r in model.runs if r.foundation.id == foundation.id]
    for run in runs:
        result = model.footings[run.id]
        rows.append(
            (
                wall_label(p, run.wall),
                format_inches(result.width, p.units),
                format_line_load(result.load, p.units),
                f"{result.used:.0%}",
            )
        )
    parts.append(Rows(("Under", "Width", "Load", "Soil used"), rows))
    if runs:
        worst_run = max((model.footings[r.id] for r in runs), key=lambda f: f.used)
        parts.append(Used("Soil", worst_run.used, f"{worst_run.combination}, bearing value of the soil (IRC R401.4.1)"))
    missing = [w for w in p.walls if w.id not in foundation.walls and w.role != "divides"]
    if missing:
        extra = tuple(w.id for w in missing)
        parts.append(
            Button(
                f"Also under {len(missing)} more walls",
                edit=lambda q: edits.change(q, foundation.id, walls=(*foundation.walls, *extra)),
            )
        )
    parts.append(Button("Remove foundation", edit=lambda q: edits.remove(q, foundation.id)))
    return Card(foundation.name, f"foundation walls on strip footings under {len(foundation.walls)} walls", parts)


def _floor_card(session: Session, floor: Floor) -> Card:
    parts = entries(session, [floor], FIELDS[Floor])
    design = session.model.designs.get((floor.id, "joists"))
    if design is not None:
        parts += design_parts(session, design, "Joists", floor.id, "joists")
    parts.append(Button("Remove floor", edit=lambda q: edits.remove(q, floor.id)))
    return Card(floor.name, "joist layout", parts)


def _roof_card(session: Session, roof: Roof) -> Card:
    parts = entries(session, [roof], FIELDS[Roof])
    for noun, name, fields in (("Rafters", "rafters", RAFTER_FIELDS), ("Ceiling ties", "ties", TIE_FIELDS)):
        parts.append(noun)
        parts += entries(session, [roof], fields)
        design = session.model.designs.get((roof.id, name))
        if design is not None:
            parts += design_parts(session, design, "", roof.id, name)
    parts.append(Button("Remove roof", edit=lambda q: edits.remove(q, roof.id)))
    return Card(roof.name, "gable roof", parts)


def design_parts(session: Session, design: LayoutDesign, heading: str, layout: str, name: str) -> list[Part]:
    """Return what was chosen, why, and the neighbours."""
    units = session.project.units
    parts: list[Part] = [heading] if heading else []
    how = [w for w, auto in (("section", design.size_auto), ("spacing", design.spacing_auto)) if auto]
    chosen = f"{design.size} @ {format_inches(design.spacing, units)}"
    if how:
        chosen += f"  ({' and '.join(how)} chosen)"
    parts.append(Fact("Made of", chosen))
    parts.append(Fact("Clear span", format_length(design.result.case.clear, units)))
    parts += used_parts(design.result, session)
    rows = [
        (n.size, format_inches(n.spacing, units), f"{n.used:.0%}", n.governs)
        for n in sorted(design.neighbours, key=lambda n: -n.used)
    ]
    parts.append("Neighbours")
    parts.append(Rows(("Section", "Spacing", "Used", "Governs"), rows))
    return parts


def used_parts(result: MemberResult, session: Session) -> list[Part]:
    """Return the governing check as a bar and all checks as a table."""
    units = session.project.units
    g = result.governs
    parts: list[Part] = [Used("Used", result.used, f"{g.name} governs: {g.clause}, {g.combination}")]
    rows = [
        (c.name, f"{_value(c, c.demand, units)} / {_value(c, c.capacity, units)}", f"{c.used:.0%}")
        for c in result.checks
    ]
    parts.append(Rows(("Check", "Demand / capacity", "Used"), rows))
    return parts


def _value(check: Check, value: float, units: Any) -> str:
    if check.quantity == "stress":
        return format_stress(value, units)
    if check.quantity == "length":
        return f'{value / 25.4:.2f}"' if units.value == "ft-in" else f"{value:.1f} mm"
    return f"{value:.2f}"


def _piece_card(session: Session, piece: Piece) -> Card:
    p, model = session.project, session.model
    title = f"{piece.section} {piece.role}".strip().capitalize()
    parts: list[Part] = [Fact("Length", format_length(piece.length, p.units))]
    if piece.section:
        parts.append(Fact("Made of", f"{piece.species} {piece.grade}"))
    else:
        parts.append(Fact("Material", piece.material))
    parts.append(
        Fact(
            "Volume",
            f"{piece.volume * 1e-9 * 35.3147:.1f} ft\u00b3"
            if p.units.value == "ft-in"
            else f"{piece.volume * 1e-9:.3f} m\u00b3",
        )
    )
    reactions = [r for r in model.path.reactions if r.piece == piece.key]
    if reactions:
        parts.append("Bears on")
        for r in reactions:
            load, combo = worst(r.force)
            parts.append(Fact(_bearer_name(session, r.bearer), f"{format_force(load, p.units)} ({combo.name})"))
    result = model.results.get(piece.key)
    if result is not None:
        parts.append("Load")
        line, combo = worst(result.case.line)
        parts.append(Fact(f"Line load ({combo.name})", format_line_load(line, p.units)))
        parts.append(Fact("Clear span", format_length(result.case.clear, p.units)))
        parts += used_parts(result, session)
    run = model.path.runs.get(piece.key.rsplit("/", 1)[0])
    if run is not None and piece.role in ("foundation wall", "strip footing"):
        parts.append("Load path")
        parts += _line_parts(run.foot, run.per_length, session)
        footing = model.footings[run.id]
        parts.append(
            Used("Soil", footing.used, f"{footing.combination}, footing {format_inches(footing.width, p.units)} wide")
        )
    owner = find(p, piece.owner)
    if owner is not None:
        parts.append(f"Layout: {_name(p, piece.owner)}")
        parts += _layout_entries(session, piece, owner)
        parts.append(Button(f"Select {_name(p, piece.owner)}", action=_select(session, piece.owner)))
    return Card(title, piece.key, parts)


def _layout_entries(session: Session, piece: Piece, owner: Record) -> list[Part]:
    fields: list[FieldDef] = []
    field_name = ""
    if isinstance(owner, Floor):
        fields, field_name = FIELDS[Floor][2:6], "joists"
    elif isinstance(owner, Roof):
        fields, field_name = (TIE_FIELDS, "ties") if piece.role == "ceiling tie" else (RAFTER_FIELDS, "rafters")
    elif isinstance(owner, Foundation):
        fields = FIELDS[Foundation][1:9]
    parts = entries(session, [owner], fields)
    design = session.model.designs.get((piece.owner, field_name))
    if design is not None and piece.key in session.model.results:
        units = session.project.units
        rows = [(n.size, format_inches(n.spacing, units), f"{n.used:.0%}", n.governs) for n in design.neighbours]
        parts += [
            "Neighbours",
            Rows(("Section", "Spacing", "Used", "Governs"), sorted(rows, key=lambda r: -float(r[2][:-1]))),
        ]
    return parts


def _bearer_name(session: Session, bearer: str) -> str:
    if bearer in session.model.lines:
        return wall_label(session.project, bearer)
    foundation, _, wall = bearer.partition("/")
    if wall:
        return f"{_name(session.project, foundation)}, under {wall_label(session.project, wall)}"
    return "nothing"


# Cards of stages -----------------------------------------------------------------------------------


def _stage_card(session: Session, stage: str) -> Card:
    p = session.project
    if stage == "set out":
        rows = [(v.name, format_length(v.height, p.units), v.role) for v in sorted(p.levels, key=lambda v: -v.height)]
        parts: list[Part] = [
            Entry("Project", p.name, lambda typed: lambda q: edits.set_project(q, name=typed.strip() or "Untitled")),
            "Levels",
            Rows(("Level", "Height", "Role"), rows),
        ]
        parts += [Button(f"Select grid '{g.name}'", action=_select(session, g.id)) for g in p.grids]
        hint = "Add levels from one another by a distance, then lay the grid."
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
        "roof": ("Roof", "Put a gable roof over four outside walls."),
    }
    title, sub = nouns[stage]
    parts = [Fact("Made so far", str(counts[stage]))]
    layouts: tuple[Any, ...] = {"foundations": p.foundations, "floors": p.floors, "roof": p.roofs}.get(stage, ())
    parts += [Button(f"Select {layout.name}", action=_select(session, layout.id)) for layout in layouts]
    return Card(title, sub, parts)


def _loads_card(session: Session) -> Card:
    p = session.project
    parts: list[Part] = ["Loads, soil and frost"]
    for definition in LOAD_FIELDS:

        def commit(typed: str, definition: FieldDef = definition) -> Edit:
            changes = definition.put(p, p.loads, typed)
            return lambda q: edits.set_loads(q, **changes)

        parts.append(Entry(definition.label, definition.get(p, p.loads), commit, hint=definition.hint))

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
    parts.append(Fact("Put on, with own weight", format_force(model.path.applied.all, p.units)))
    parts.append(Fact("Arrives at the footings", format_force(model.path.arrived.all, p.units)))
    if model.results:
        parts.append("Most used")
        best: dict[str, tuple[float, str]] = {}
        for key, result in model.results.items():
            role = model.pieces[key].role
            best[role] = max(best.get(role, (0.0, "")), (result.used, result.governs.name))
        parts += [Used(role.capitalize(), used, note) for role, (used, note) in best.items()]
        if model.footings:
            soil = max(model.footings.values(), key=lambda f: f.used)
            parts.append(Used("Soil", soil.used, soil.combination))
    return Card("Check", "Loads are typed once and carried through the whole frame.", parts)


def _sheet_card(session: Session) -> Card:
    p = session.project
    parts: list[Part] = ["Title block"]
    for definition in SHEET_FIELDS:

        def commit(typed: str, definition: FieldDef = definition) -> Edit:
            changes = definition.put(p, p.sheet, typed)
            return lambda q: edits.set_sheet(q, **changes)

        parts.append(Entry(definition.label, definition.get(p, p.sheet), commit))
    return Card("Sheets", "Three plans and the cross-section on one sheet, to scale.", parts)


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
        parts.append(
            Entry(definition.label.strip(), definition.get(session.project, draft), commit, options, definition.hint)
        )
    return Card(title, sub, parts)
