"""The cards of levels, grids and axes."""

from collections.abc import Callable

from balken.app.card_parts import Button, Card, Entry, Fact, Part, Rows, entries, select_action
from balken.app.fields import (
    FIELDS,
)
from balken.app.session import Edit, Session
from balken.model import edits, grid_edits
from balken.model.lookup import axis_positions
from balken.model.records import AxisPoint, Column, Grid, Level, Project, Reference, SpotHeight, Underlay
from balken.units import (
    UnitError,
    format_length,
    parse_length,
    parse_spacings,
)


def level_card(session: Session, level: Level) -> Card:
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
    others = [(v.id, f"hang all on {v.name}") for v in ordered if v.id != level.id]
    parts.append(Entry("Remove and", None, lambda typed: lambda q: edits.replace_level(q, level.id, typed), others))
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
                return Card(f"Axis {axis.label}", f"of {grid.name}", parts)
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


def grid_card(session: Session, grid: Grid) -> Card:
    p = session.project
    parts: list[Part] = []
    for way, label in (("x_axes", "Spacings along x"), ("y_axes", "Spacings along y")):

        def commit(typed: str, way: str = way) -> Edit:
            spacings = parse_spacings(typed, p.units)
            return lambda q: grid_edits.set_grid_spacings(q, grid.id, way, spacings)

        parts.append(Entry(label, spacings_text(grid, way, p), commit, hint="20', 2 x 12'6\", 40' : 3"))

    for way, label in (("x_axes", "Labels along x from"), ("y_axes", "Labels along y from")):

        def relabel(typed: str, way: str = way) -> Edit:
            return lambda q: grid_edits.relabel_axes(q, grid.id, way, typed)

        axes = getattr(grid, way)
        parts.append(Entry(label, axes[0].label if axes else "", relabel, hint="1, A, N-1"))

    def turned(typed: str) -> Edit:
        try:
            angle = float(typed.replace("\u00b0", "").replace("deg", ""))
        except ValueError:
            raise UnitError(f"'{typed}' is not an angle; type degrees anticlockwise.") from None
        return lambda q: edits.change(q, grid.id, angle=angle % 360.0)

    parts.append(Entry("Turned by", f"{grid.angle:g}\u00b0", turned))

    def origin(typed: str, i: int) -> Edit:
        value = parse_length(typed, p.units)
        point = (value, grid.origin[1]) if i == 0 else (grid.origin[0], value)
        return lambda q: edits.change(q, grid.id, origin=point)

    parts.append(Entry("Origin x", format_length(grid.origin[0], p.units), lambda typed: origin(typed, 0)))
    parts.append(Entry("Origin y", format_length(grid.origin[1], p.units), lambda typed: origin(typed, 1)))

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


def column_card(session: Session, column: Column) -> Card:
    parts = entries(session, [column], FIELDS[Column])
    parts.append(Button("Remove column", edit=lambda q: edits.remove(q, column.id)))
    tied = isinstance(column.place, AxisPoint)
    return Card("Column", "on an axis crossing; it follows the axes" if tied else "placed freely", parts)


def spot_card(session: Session, spot: SpotHeight) -> Card:
    parts = entries(session, [spot], FIELDS[SpotHeight])
    parts.append(Button("Remove spot height", edit=lambda q: edits.remove(q, spot.id)))
    return Card("Spot height", "The ground outside slopes evenly from one spot height to the next.", parts)


def underlay_card(session: Session, underlay: Underlay) -> Card:
    parts = entries(session, [underlay], FIELDS[Underlay])
    parts.append(Button("Remove underlay", edit=lambda q: edits.remove(q, underlay.id)))
    return Card(underlay.name, f"drawing {underlay.path}", parts)


def reference_card(session: Session, reference: Reference) -> Card:
    p = session.project
    parts: list[Part] = [
        Fact("Kind", reference.kind),
        Fact("Bottom", format_length(reference.bottom, p.units)),
        Fact("Top", format_length(reference.top, p.units)),
        Button("Remove it", edit=lambda q: edits.remove(q, reference.id)),
    ]
    return Card(reference.name, "From the architect's file; shown, not framed.", parts)
