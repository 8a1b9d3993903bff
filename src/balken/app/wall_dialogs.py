"""The small dialogs that change the walls selected: move or copy, turn, mirror, offset, split."""

from collections.abc import Callable

from PySide6.QtWidgets import QCheckBox, QComboBox, QLineEdit, QWidget

from balken.app.dialogs import FormDialog
from balken.design import split_roofs
from balken.documents.plan import storey_walls
from balken.geometry.plane import Point, add, turn
from balken.model import storey_edits, wall_edits
from balken.model.buildups import display_name
from balken.model.errors import EditError
from balken.model.lookup import axis_position, axis_positions, by_id, grid_point, listed
from balken.model.naming import grid_and_axis
from balken.model.records import Project
from balken.model.wall_edits import Circle
from balken.session.session import Session
from balken.units import format_length, parse_angle, parse_length


class WallsDialog(FormDialog):
    """Base: the walls selected, and one edit of them."""

    label = ""

    def __init__(self, parent: QWidget | None, session: Session) -> None:
        super().__init__(parent, self.label, session)
        self.walls = tuple(r for r in session.selection if r in session.model.lines)
        self.build()

    def build(self) -> None:
        """Make the fields; overridden."""

    def edit(self, project: Project) -> Project:
        """Return the changed project; raises UnitError or EditError. Overridden."""
        raise NotImplementedError

    def run(self) -> None:
        before = self.session.project
        after = self.edit(before)
        added = tuple(w.id for w in after.walls if w not in before.walls)
        self.session.apply(self.label, lambda p: after if p is before else self.edit(p))
        self.session.select(added or self.walls)

    def row(self, label: str, hint: str = "") -> QLineEdit:
        """Add a text field."""
        field = QLineEdit()
        field.setPlaceholderText(hint)
        field.setAccessibleName(label)
        self.form.addRow(label, field)
        return field

    def length(self, field: QLineEdit, empty: float | None = None) -> float:
        """Return the length typed; ``empty`` stands for nothing typed."""
        text = field.text().strip()
        if not text and empty is not None:
            return empty
        return parse_length(text, self.session.project.units)

    def middle(self) -> tuple[float, float]:
        """Return the middle of the walls selected."""
        bands = [self.session.model.lines[w].band for w in self.walls]
        points = [p for b in bands for p in (b.start, b.end)]
        return sum(p[0] for p in points) / len(points), sum(p[1] for p in points) / len(points)


class MoveDialog(WallsDialog):
    """Move or copy by a distance both ways."""

    label = "Move or copy walls"

    def build(self) -> None:
        self.dx, self.dy = self.row("Along x", "0, 12' or -3'-6\""), self.row("Along y", "0")
        self.copy = QCheckBox("leave the walls and move copies")
        self.form.addRow("", self.copy)

    def edit(self, project: Project) -> Project:
        dx, dy = self.length(self.dx, 0.0), self.length(self.dy, 0.0)
        return wall_edits.move_walls(project, self.walls, dx, dy, self.copy.isChecked())


class TurnDialog(WallsDialog):
    """Turn about the middle of the walls or the origin."""

    label = "Turn walls"

    def build(self) -> None:
        self.angle = self.row("Angle, anticlockwise", "90")
        self.about = QComboBox()
        self.about.addItems(["the middle of the walls", "the origin"])
        self.form.addRow("About", self.about)
        self.copy = QCheckBox("leave the walls and turn copies")
        self.form.addRow("", self.copy)

    def edit(self, project: Project) -> Project:
        degrees = parse_angle(self.angle.text())
        centre = self.middle() if self.about.currentIndex() == 0 else (0.0, 0.0)
        return wall_edits.turn_walls(project, self.walls, centre, degrees, self.copy.isChecked())


class MirrorDialog(WallsDialog):
    """Mirror about a line along x or y, at an angle through a place, or about a straight axis."""

    label = "Mirror walls"

    def build(self) -> None:
        self.way = QComboBox()
        self.way.addItems(
            ["a line along y, at x =", "a line along x, at y =", "a line at an angle, through their middle"]
        )
        self.axes = straight_axes(self.session.project)
        self.way.addItems([name for name, _ in self.axes])
        self.form.addRow("About", self.way)
        self.at = self.row("Place", "empty: through the middle of the walls")
        self.angle = self.row("Angle, anticlockwise from x", "45")
        self.way.currentIndexChanged.connect(self._rows)
        self._rows()
        self.copy = QCheckBox("leave the walls and mirror copies")
        self.copy.setChecked(True)
        self.form.addRow("", self.copy)

    def _rows(self) -> None:
        """Show the fields the chosen line needs."""
        way = self.way.currentIndex()
        self.form.setRowVisible(self.at, way < 2)
        self.form.setRowVisible(self.angle, way == 2)

    def edit(self, project: Project) -> Project:
        x, y = self.middle()
        a: Point
        b: Point
        if self.way.currentIndex() > 2:
            a, b = self.axes[self.way.currentIndex() - 3][1]
        elif self.way.currentIndex() == 2:
            a = (x, y)
            b = add(a, turn((1000.0, 0.0), parse_angle(self.angle.text())))
        elif self.way.currentIndex() == 0:
            at = self.length(self.at, x)
            a, b = (at, 0.0), (at, 1000.0)
        else:
            at = self.length(self.at, y)
            a, b = (0.0, at), (1000.0, at)
        return wall_edits.mirror_walls(project, self.walls, a, b, self.copy.isChecked())


def straight_axes(project: Project) -> list[tuple[str, tuple[Point, Point]]]:
    """Return each straight axis by its name and two points on it, mm."""
    found: list[tuple[str, tuple[Point, Point]]] = []
    for grid in project.grids:
        of = f" of {grid.name}" if len(project.grids) > 1 else ""
        for axis, x in zip(grid.x_axes, axis_positions(grid.x_axes), strict=True):
            along = ((x, 0.0), (x, 1000.0))
            found.append((f"axis {axis.label}{of}", (grid_point(grid, *along[0]), grid_point(grid, *along[1]))))
        if grid.kind == "radial":
            continue
        for axis, y in zip(grid.y_axes, axis_positions(grid.y_axes), strict=True):
            along = ((0.0, y), (1000.0, y))
            found.append((f"axis {axis.label}{of}", (grid_point(grid, *along[0]), grid_point(grid, *along[1]))))
    return found


class OffsetDialog(WallsDialog):
    """Copy parallel to itself."""

    label = "Offset wall"

    def build(self) -> None:
        self.by = self.row("Distance outward (\u2212 inward)", "4'")

    def edit(self, project: Project) -> Project:
        by = self.length(self.by)
        for wall in self.walls:
            project = wall_edits.offset_wall(project, wall, by)
        return project


class SplitDialog(WallsDialog):
    """Split one wall at a distance from its start."""

    label = "Split wall"

    def build(self) -> None:
        self.along = self.row("Distance from its start", "12'-6\"")

    def edit(self, project: Project) -> Project:
        if len(self.walls) != 1:
            raise EditError("Select the one wall to split.")
        return split_roofs.split_wall(project, self.walls[0], self.length(self.along))


def level_box(session: Session, chosen: str) -> QComboBox:
    """Return a choice of levels, highest first."""
    box = QComboBox()
    p = session.project
    for level in listed(p.levels):
        box.addItem(f"{level.name}  {format_length(level.height, p.units)}", level.id)
    box.setCurrentIndex(max(box.findData(chosen), 0))
    return box


def _levels_above(session: Session, walls: tuple[str, ...]) -> tuple[str, str]:
    """Return the floor above the walls' heads and the level above that, for a next storey."""
    lines, p = session.model.lines, session.project
    top = max((lines[w].band.top for w in walls), default=0.0)
    ordered = listed(p.levels)[::-1]
    floors = [v for v in ordered if v.role in ("floor", "slab") and v.height > top - 300.0] or ordered[-1:]
    foot = floors[0]
    heads = [v for v in ordered if v.height > foot.height + 1000.0] or [foot]
    return foot.id, heads[0].id


class CopyToLevelDialog(WallsDialog):
    """Copy to another storey."""

    label = "Copy walls to another storey"

    def build(self) -> None:
        foot, head = _levels_above(self.session, self.walls)
        self.foot, self.head = level_box(self.session, foot), level_box(self.session, head)
        self.form.addRow("Feet on", self.foot)
        self.form.addRow("Heads on", self.head)
        self.openings = QCheckBox("windows and plain openings too")
        self.openings.setChecked(True)
        self.form.addRow("", self.openings)

    def edit(self, project: Project) -> Project:
        foot, head = str(self.foot.currentData()), str(self.head.currentData())
        return storey_edits.copy_to_level(project, self.walls, foot, head, self.openings.isChecked())


class NextStoreyDialog(WallsDialog):
    """The next storey from the one below: same outline, another build-up, set in or out."""

    label = "Next storey"

    def build(self) -> None:
        p = self.session.project
        if not self.walls:
            storey = storey_walls(self.session.model, self.session.storey)
            self.walls = tuple(w for w in storey if self.session.model.lines[w].wall.role != "divides")
        foot, head = _levels_above(self.session, self.walls)
        self.foot, self.head = level_box(self.session, foot), level_box(self.session, head)
        self.buildup = QComboBox()
        self.buildup.addItem("as below", "")
        for buildup in p.buildups:
            self.buildup.addItem(display_name(buildup, p.units), buildup.id)
        self.form.addRow("Feet on", self.foot)
        self.form.addRow("Heads on", self.head)
        self.form.addRow("Outside walls", self.buildup)
        self.inward = self.row("Set in by (\u2212 out)", "0")
        self.cover = self.row("Outer layers reach below by", "empty: down to the heads below")

    def edit(self, project: Project) -> Project:
        foot, head = str(self.foot.currentData()), str(self.head.currentData())
        gap = by_id(project.levels)[foot].height - max(
            (self.session.model.lines[w].band.top for w in self.walls), default=0.0
        )
        cover = self.length(self.cover, max(gap, 0.0))
        return storey_edits.next_storey(
            project, self.walls, foot, head, str(self.buildup.currentData()), self.length(self.inward, 0.0), cover
        )


DIALOGS: dict[str, type[WallsDialog]] = {
    "copy_to_level": CopyToLevelDialog,
    "next_storey": NextStoreyDialog,
    "move_walls": MoveDialog,
    "turn_walls": TurnDialog,
    "mirror_walls": MirrorDialog,
    "offset_wall": OffsetDialog,
    "split_wall": SplitDialog,
}


def join_selected(project: Project, walls: tuple[str, ...]) -> Project:
    """Join the two walls selected."""
    if len(walls) != 2:
        raise EditError("Select the two walls to join.")
    return split_roofs.join_walls(project, *walls)


def reach_selected(session: Session, shorter: bool = False) -> Callable[[Project], Project]:
    """Return the edit that brings the first thing selected, a wall, to the second: a wall or an axis.

    ``shorter``: of a wall that crosses it, the shorter part is kept.  Raises EditError when something else is selected.
    """
    lines, chosen = session.model.lines, session.selection
    if len(chosen) != 2 or chosen[0] not in lines:
        raise EditError("Select the wall to extend or trim first, then (with Ctrl) the wall or axis it should reach.")
    if chosen[1] in lines:
        band = lines[chosen[1]].band
        target: tuple[Point, Point] | Circle = (band.start, band.end)
    else:
        found = axis_line(session, chosen[1])
        if found is None:
            raise EditError("The second thing selected is neither a wall nor an axis.")
        target = found
    return lambda p: wall_edits.reach_wall(p, chosen[0], target, shorter)


def axis_line(session: Session, ref: str) -> tuple[Point, Point] | Circle | None:
    """Return two points of a grid axis, or the circle of an arc; None when the ref names none."""
    grid_id, axis_id = grid_and_axis(ref)
    grid = by_id(session.project.grids).get(grid_id)
    if grid is None or not axis_id:
        return None
    if any(a.id == axis_id for a in grid.x_axes):
        x = axis_position(grid.x_axes, axis_id)
        return grid_point(grid, x, 0.0), grid_point(grid, x, 1000.0)
    y = axis_position(grid.y_axes, axis_id)
    if grid.kind == "radial":
        return Circle(grid.origin, y)
    return grid_point(grid, 0.0, y), grid_point(grid, 1000.0, y)
