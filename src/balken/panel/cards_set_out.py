"""The cards of levels, grids and axes."""

from collections.abc import Callable
from functools import partial
from typing import Any

from balken.design.posts import PostDesign
from balken.exchange.dxf_reader import placed_lines, read_dxf
from balken.exchange.file_errors import FileError
from balken.findings.names import counted
from balken.framing.roof_openings import rectangle_over
from balken.model import base_drawing_edits, edits, grid_edits
from balken.model.floor_edits import floors_through, opening_from
from balken.model.lookup import axis_positions, by_id, listed, wall_label
from balken.model.records import AxisPoint, BaseDrawing, Column, Grid, Level, Project, Reference, SpotHeight
from balken.model.roof_edits import add_roof_opening
from balken.model.tracing import walls_from_lines
from balken.model.visitor import hanging
from balken.panel.card_parts import Button, Card, Entry, Fact, Part, Rows, entries, select_action, used_parts
from balken.panel.fields import FIELDS
from balken.session.session import Edit, Session
from balken.session.tool_settings import WallSettings
from balken.standards.checks import used_text
from balken.units import (
    UnitError,
    format_angle,
    format_force,
    format_length,
    parse_angle,
    parse_length,
    parse_spacings,
)
from balken.units.angle import parse_degrees


def level_card(session: Session, level: Level) -> Card:
    p = session.project
    parts = entries(session, [level], FIELDS[Level])
    parts.append("Levels")
    ordered = listed(p.levels)
    parts.append(
        Rows(
            ("Level", "Height", "Above this"),
            [
                (v.name, format_length(v.height, p.units), format_length(v.height - level.height, p.units))
                for v in ordered
            ],
        )
    )
    held = hanging(p, level.id)
    if held:
        parts += ["On it", Fact("Holds", counted(held))]
        ids = tuple(r.id for r in held)  # type: ignore[attr-defined]
        parts.append(Button("Select what hangs on it", action=lambda: session.select(ids)))
        others = [("", "choose a level"), *((v.id, v.name) for v in ordered if v.id != level.id)]
        move = Entry(
            "Hang all on",
            "",
            lambda typed: lambda q: edits.replace_level(q, level.id, typed) if typed else q,
            others,
            hint="what has an offset stays at its height; this level goes",
        )
        parts.append(move)
    if level.removed:
        parts.append(Button("Bring it back", edit=lambda q: edits.change(q, level.id, removed=False)))
        return Card(level.name, "Removed. It holds the height of what still hangs on it.", parts)
    parts.append(Button("Remove level", edit=lambda q: edits.remove(q, level.id)))
    return Card(level.name, "Everything hanging on it follows its height.", parts)


def axis_card(session: Session, grid: Grid, axis_id: str) -> Card:
    for way in ("x_axes", "y_axes"):
        axes = getattr(grid, way)
        for i, axis in enumerate(axes):
            if axis.id == axis_id:
                label_entry = Entry(
                    "Label", axis.label, lambda typed: lambda p: grid_edits.rename_axis(p, grid.id, axis_id, typed)
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
                    parts.append(
                        Entry("Move it alone by", "", _axis_entry(session, grid_edits.move_axis, grid.id, axis_id))
                    )
                parts.append(
                    Entry(
                        "Insert an axis after it, at",
                        "",
                        _axis_entry(session, grid_edits.insert_axis, grid.id, axis_id),
                    )
                )
                parts.append(Button("Remove axis", edit=lambda p: grid_edits.remove_axis(p, grid.id, axis_id)))
                parts.append(Button("Select the whole grid", action=select_action(session, grid.id)))
                drag = (
                    " Drag it on the plan; with Ctrl those after it move along." if i and grid.kind == "square" else ""
                )
                return Card(f"Axis {axis.label}", f"Of {grid.name}.{drag}", parts)
    return Card("Axis", "is not there any more")


def _axis_entry(
    session: Session, edit: Callable[[Project, str, str, float], Project], grid_id: str, axis_id: str
) -> Callable[[str], Edit]:
    def commit(typed: str) -> Edit:
        value = parse_length(typed, session.project.units)
        return lambda p: edit(p, grid_id, axis_id, value)

    return commit


def _set_gap(session: Session, grid_id: str, axis_id: str, typed: str) -> Edit:
    gap = parse_length(typed, session.project.units)
    return lambda p: grid_edits.set_axis_gap(p, grid_id, axis_id, gap)


def spacings_text(grid: Grid, way: str, project: Project, degrees: bool = False) -> str:
    """Return the spacings of a grid as they are typed: 13', 14', 13'."""
    found: list[tuple[int, str]] = []
    for axis in getattr(grid, way)[1:]:
        text = f"{axis.gap:g}" if degrees else format_length(axis.gap, project.units)
        if found and found[-1][1] == text:
            found[-1] = (found[-1][0] + 1, text)
        else:
            found.append((1, text))
    return ", ".join(f"{n} x {t}" if n > 1 else t for n, t in found)


def grid_card(session: Session, grid: Grid, place: Callable[[], None]) -> Card:
    p = session.project
    named = Entry("Name", grid.name, lambda typed: lambda q: edits.change(q, grid.id, name=typed.strip() or "Grid"))
    parts: list[Part] = [named, *_spacing_entries(p, grid), *_placing_entries(p, grid), *_showing_entries(p, grid)]
    parts.append(Button("Place it by two points", action=place))
    overall = (axis_positions(grid.x_axes)[-1:], axis_positions(grid.y_axes)[-1:])
    if overall[0] and overall[1]:
        size = f"{format_length(overall[0][0], p.units)} x {format_length(overall[1][0], p.units)}"
        parts.append(Fact("Overall", size))
    parts.append(Button("Remove grid", edit=lambda q: edits.remove(q, grid.id)))
    return Card(grid.name, "Walls drawn on its crossings follow when axes move.", parts)


def _spacing_entries(p: Project, grid: Grid) -> list[Part]:
    """Return spacings and labels both ways."""
    radial = grid.kind == "radial"
    parts: list[Part] = []
    for way, label in (
        ("x_axes", "Degrees between rays" if radial else "Spacings along x"),
        ("y_axes", "Spacings of arcs" if radial else "Spacings along y"),
    ):
        degrees = radial and way == "x_axes"

        def commit(typed: str, way: str = way, degrees: bool = degrees) -> Edit:
            spacings = parse_degrees(typed) if degrees else parse_spacings(typed, p.units)
            return lambda q: grid_edits.set_grid_spacings(q, grid.id, way, spacings)

        shown = spacings_text(grid, way, p, degrees)
        parts.append(Entry(label, shown, commit, hint="5 x 15, 20" if degrees else "20', 2 x 12'6\", 40' : 3"))
    for way, label in (("x_axes", "Labels along x from"), ("y_axes", "Labels along y from")):

        def relabel(typed: str, way: str = way) -> Edit:
            return lambda q: grid_edits.relabel_axes(q, grid.id, way, typed)

        axes = getattr(grid, way)
        parts.append(Entry(label, axes[0].label if axes else "", relabel, hint="1, A, N-1"))
    return parts


def _placing_entries(p: Project, grid: Grid) -> list[Part]:
    """Return angle, origin, and the distances at which axes end and dimensions stand."""

    def turned(typed: str) -> Edit:
        angle = parse_angle(typed)
        return lambda q: edits.change(q, grid.id, angle=angle % 360.0)

    def origin(typed: str, i: int) -> Edit:
        value = parse_length(typed, p.units)
        point = (value, grid.origin[1]) if i == 0 else (grid.origin[0], value)
        return lambda q: edits.change(q, grid.id, origin=point)

    parts: list[Part] = [
        Entry("Turned by", format_angle(grid.angle), turned),
        Entry("Origin x", format_length(grid.origin[0], p.units), lambda typed: origin(typed, 0)),
        Entry("Origin y", format_length(grid.origin[1], p.units), lambda typed: origin(typed, 1)),
    ]
    walls = grid_edits.lies_along(p, grid)
    if walls and grid.kind == "square":
        parts.append(
            Entry(
                "Lay it along",
                None,
                lambda wall: lambda q: grid_edits.lay_along(q, grid.id, wall),
                [(w, wall_label(p, w)) for w in walls],
            )
        )
    for field, label in (
        ("run_past", "Axes run past"),
        ("chain_at", "Dimension chain at"),
        ("overall_at", "Overall dimension at"),
    ):

        def distance(typed: str, field: str = field) -> Edit:
            value = parse_length(typed, p.units)
            return lambda q: edits.change(q, grid.id, **{field: value})

        parts.append(Entry(label, format_length(getattr(grid, field), p.units), distance))
    return parts


def _showing_entries(p: Project, grid: Grid) -> list[Part]:
    """Return on which levels it shows, and where its bubbles stand."""
    return [
        Entry(
            "Shows on",
            ", ".join(v.name for v in p.levels if v.id in grid.levels) or "all levels",
            lambda typed: _shown_on(p, grid.id, typed),
            hint="all levels, or names of levels with commas",
        ),
        Entry(
            "Bubbles",
            grid.bubbles,
            lambda typed: lambda q: edits.change(q, grid.id, bubbles=typed),
            [("start", "left and bottom"), ("end", "right and top"), ("both", "both ends")],
        ),
    ]


def _shown_on(project: Project, grid_id: str, typed: str) -> Edit:
    """Return the edit that shows a grid on the levels named; raises UnitError for a name that is not there."""
    if typed.strip().lower() in ("", "all", "all levels"):
        return lambda q: edits.change(q, grid_id, levels=())
    names = {v.name.lower(): v.id for v in listed(project.levels)}
    found = []
    for part in typed.split(","):
        if part.strip().lower() not in names:
            raise UnitError(f"There is no level named '{part.strip()}'.")
        found.append(names[part.strip().lower()])
    return lambda q: edits.change(q, grid_id, levels=tuple(found))


def _post_parts(session: Session, post: PostDesign) -> list[Part]:
    """Return what a column is made of and why: its load, its checks, the next sizes."""
    load, combination = session.model.standard.combinations.worst(post.load)
    parts: list[Part] = [Fact(f"Load on it ({combination.name})", format_force(load, session.project.units))]
    if post.result is None:
        return [*parts, Fact("Not checked", post.unchecked)]
    chosen = f"{post.shape.name}  (section chosen)" if post.auto else post.shape.name
    rows = [(n.size, used_text(n.used), n.governs) for n in sorted(post.neighbours, key=lambda n: -n.used)]
    return [
        Fact("Made of", chosen),
        *parts,
        *used_parts(post.result, session),
        "Neighbours",
        Rows(("Section", "Used", "Governs"), rows),
    ]


def _fitting_parts(session: Session, column: Column) -> list[Part]:
    """Return the cap and base of a post, and of which list they are."""
    found: list[Part] = [
        Fact(one.use.capitalize(), f"{one.fitting}, used {used_text(one.used)}" if one.fitting else one.why)
        for one in session.model.fittings
        if one.column == column.id
    ]
    return ["Cap and base", *found, Fact("List", "made up")] if found else []


def column_card(session: Session, column: Column, show: Callable[[str], None] = lambda thing: None) -> Card:
    parts = entries(session, [column], FIELDS[Column])
    post = session.model.posts.get(column.id)
    if post is not None:
        parts += _post_parts(session, post)
        parts += _fitting_parts(session, column)
        parts.append(Button("Calculation sheet", action=lambda: show(column.id)))
    parts.append(Button("Remove column", edit=lambda q: edits.remove(q, column.id)))
    tied = isinstance(column.place, AxisPoint)
    return Card("Column", "on an axis crossing; it follows the axes" if tied else "placed freely", parts)


def spot_card(session: Session, spot: SpotHeight) -> Card:
    parts = entries(session, [spot], FIELDS[SpotHeight])
    parts.append(Button("Remove spot height", edit=lambda q: edits.remove(q, spot.id)))
    return Card("Spot height", "The ground outside slopes evenly from one spot height to the next.", parts)


def base_drawing_card(session: Session, drawing: BaseDrawing, place: Callable[[], None]) -> Card:
    parts = entries(session, [drawing], FIELDS[BaseDrawing])
    parts.append(Button("Scale and place it by two points", action=place))
    try:
        lines = read_dxf(drawing.path)
    except FileError as error:
        parts.append(Fact("Problem", str(error)))
    else:
        parts.append("Layers")
        for name, rows in lines.layers.items():
            off = name in drawing.layers_off
            parts.append(
                Button(
                    f"{'show' if off else 'hide'} {name} ({len(rows)} lines)",
                    edit=lambda q, name=name, off=off: base_drawing_edits.switch_layer(q, drawing.id, name, off),  # type: ignore[misc]
                )
            )
        parts.append("Walls")
        parts.append(Fact("Made from", "two parallel lines a wall's thickness apart, on the layers shown"))
        parts.append(Button("Make walls from its lines", edit=lambda q: _walls_from(session, q, drawing.id)))
    parts.append(Button("Remove base drawing", edit=lambda q: edits.remove(q, drawing.id)))
    return Card(drawing.name, f"drawing {drawing.path}", parts)


def _walls_from(session: Session, project: Project, drawing_id: str) -> Project:
    """Return the project with walls traced from a base drawing's lines, on the storey it lies under."""
    drawing = by_id(project.base_drawings)[drawing_id]
    lines = placed_lines(drawing, read_dxf(drawing.path))
    foot, head = WallSettings().heights(project, drawing.level)
    return walls_from_lines(project, lines, foot, head)


def _as_opening(session: Session, reference: Reference) -> list[Part]:
    """Return what leaves a thing of the architect's file out of the floors it reaches."""
    p = session.project
    taken = any(o.source == reference.source != "" for o in p.floor_openings)
    if taken or reference.kind == "slab" or not floors_through(p, reference):
        return []
    return [Button("Leave it out of the floors it reaches", edit=lambda q: opening_from(q, reference.id))]


def _as_roof_opening(session: Session, reference: Reference) -> list[Part]:
    """Return what leaves a thing of the architect's file out of the plane of a roof that it lies in, or runs up through."""
    p = session.project
    if reference.kind in ("slab", "roof") or any(o.source == reference.source != "" for o in p.roof_openings):
        return []
    for plan in session.model.surfaces:
        over = rectangle_over(plan.surface, plan.outline.core, reference.ring)
        if over is None or plan.roof.id in session.model.dormers:
            continue
        low = plan.bearing + plan.plate_to_top
        high = low + plan.surface.top
        if not reference.bottom <= high + NEAR_ROOF or not reference.top >= low - NEAR_ROOF:
            continue
        kind = "window" if reference.kind == "window" else "chimney" if reference.kind == "chimney" else "shaft"
        wall, roof = plan.outline.walls[over.edge], plan.roof
        sizes: dict[str, Any] = {"width": over.width, "length": over.length, "kind": kind, "source": reference.source}
        return [
            Button(
                f"Leave it out of {roof.name}",
                edit=partial(add_roof_opening, roof_id=roof.id, wall=wall, along=over.along, up=over.up, **sizes),
            )
        ]
    return []


NEAR_ROOF = 600.0
"""What ends no farther below or above a roof's planes than this reaches them, mm."""


def reference_card(session: Session, reference: Reference) -> Card:
    p = session.project
    parts: list[Part] = [
        Fact("Kind", reference.kind),
        Fact("Bottom", format_length(reference.bottom, p.units)),
        Fact("Top", format_length(reference.top, p.units)),
        *_as_opening(session, reference),
        *_as_roof_opening(session, reference),
        Button("Remove it", edit=lambda q: edits.remove(q, reference.id)),
    ]
    return Card(reference.name, "From the architect's file; shown, not framed.", parts)
