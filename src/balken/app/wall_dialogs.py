"""The small dialogs that change the walls selected: move or copy, turn, mirror, offset, split."""

from collections.abc import Callable

from PySide6.QtWidgets import QCheckBox, QComboBox, QLineEdit, QWidget

from balken.app.dialogs import FormDialog
from balken.app.session import Session
from balken.model import wall_edits
from balken.model.records import Project
from balken.model.rules import EditError
from balken.units import UnitError, parse_length


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
        text = self.angle.text().replace("\u00b0", "").strip()
        try:
            degrees = float(text)
        except ValueError:
            raise UnitError(f"'{text}' is not an angle; type degrees.") from None
        centre = self.middle() if self.about.currentIndex() == 0 else (0.0, 0.0)
        return wall_edits.turn_walls(project, self.walls, centre, degrees, self.copy.isChecked())


class MirrorDialog(WallsDialog):
    """Mirror about a line along x or y."""

    label = "Mirror walls"

    def build(self) -> None:
        self.way = QComboBox()
        self.way.addItems(["a line along y, at x =", "a line along x, at y ="])
        self.form.addRow("About", self.way)
        self.at = self.row("Place", "empty: through the middle of the walls")
        self.copy = QCheckBox("leave the walls and mirror copies")
        self.copy.setChecked(True)
        self.form.addRow("", self.copy)

    def edit(self, project: Project) -> Project:
        x, y = self.middle()
        if self.way.currentIndex() == 0:
            at = self.length(self.at, x)
            a, b = (at, 0.0), (at, 1000.0)
        else:
            at = self.length(self.at, y)
            a, b = (0.0, at), (1000.0, at)
        return wall_edits.mirror_walls(project, self.walls, a, b, self.copy.isChecked())


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
        return wall_edits.split_wall(project, self.walls[0], self.length(self.along))


DIALOGS: dict[str, type[WallsDialog]] = {
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
    return wall_edits.join_walls(project, *walls)


def reach_selected(session: Session) -> Callable[[Project], Project]:
    """Return the edit that brings the first thing selected, a wall, to the second: a wall or an axis."""
    lines, chosen = session.model.lines, session.selection
    if len(chosen) != 2 or chosen[0] not in lines:
        raise EditError("Select the wall to extend or trim first, then (with Ctrl) the wall or axis it should reach.")
    if chosen[1] in lines:
        band = lines[chosen[1]].band
        target = (band.start, band.end)
    else:
        found = axis_line(session, chosen[1])
        if found is None:
            raise EditError("The second thing selected is neither a wall nor an axis.")
        target = found
    return lambda p: wall_edits.reach_wall(p, chosen[0], target)


def axis_line(session: Session, ref: str) -> tuple[tuple[float, float], tuple[float, float]] | None:
    """Return two points of a grid axis, or None when the ref names none."""
    from balken.model.lookup import axis_position, by_id, grid_point

    grid_id, _, axis_id = ref.partition("/")
    grid = by_id(session.project.grids).get(grid_id)
    if grid is None or not axis_id:
        return None
    if any(a.id == axis_id for a in grid.x_axes):
        x = axis_position(grid.x_axes, axis_id)
        return grid_point(grid, x, 0.0), grid_point(grid, x, 1000.0)
    y = axis_position(grid.y_axes, axis_id)
    return grid_point(grid, 0.0, y), grid_point(grid, 1000.0, y)
