"""The dialogs of setting out: a grid from typed spacings, columns at the crossings of axes."""

from PySide6.QtWidgets import QCheckBox, QComboBox, QLabel, QLineEdit, QWidget

from balken.app.dialogs import FormDialog
from balken.catalog.post_shapes import SIZES_OF
from balken.model import column_edits, grid_edits
from balken.model.errors import EditError
from balken.model.lookup import by_id, listed
from balken.model.records import Hang
from balken.session.session import Session
from balken.units import Units, format_length, parse_length, parse_spacings
from balken.units.angle import parse_degrees


class GridDialog(FormDialog):
    """A grid from spacings both ways, or of rays and arcs."""

    def __init__(self, parent: QWidget | None, session: Session) -> None:
        super().__init__(parent, "Lay a grid", session)
        self.kind = QComboBox()
        self.kind.addItems(["square", "radial: rays and arcs"])
        self.x_spacings, self.y_spacings = QLineEdit(), QLineEdit()
        self.x_first, self.y_first = QLineEdit("1"), QLineEdit("A")
        self.by_points = QCheckBox("place it by two points: origin and direction")
        self.form.addRow("Kind", self.kind)
        for label, widget in (
            ("Spacings along x", self.x_spacings),
            ("First label", self.x_first),
            ("Spacings along y", self.y_spacings),
            ("First label", self.y_first),
        ):
            self.form.addRow(label, widget)
        self.form.addRow("", self.by_points)
        self.kind.currentIndexChanged.connect(self._kind_chosen)
        self._kind_chosen()
        self.made = ""
        """The id of the grid laid."""

    @property
    def radial(self) -> bool:
        """Whether rays and arcs are asked for."""
        return self.kind.currentIndex() == 1

    def _kind_chosen(self) -> None:
        imperial = self.session.project.units is Units.IMPERIAL
        labels = (
            ("Degrees between rays", "Radii: first, then spacings")
            if self.radial
            else ("Spacings along x", "Spacings along y")
        )
        for label, field in zip(labels, (self.x_spacings, self.y_spacings), strict=True):
            name = self.form.labelForField(field)
            if isinstance(name, QLabel):
                name.setText(label)
        if self.radial:
            self.x_spacings.setPlaceholderText("5 x 15, 20")
            self.y_spacings.setPlaceholderText("20', 2 x 12'" if imperial else "6000, 2x4000")
        else:
            self.x_spacings.setPlaceholderText(
                "13', 14', 13'  or  3 x 12'  or  40' : 3" if imperial else "4x6000, 5200"
            )
            self.y_spacings.setPlaceholderText("2 x 14'" if imperial else "2x4200")

    def run(self) -> None:
        p = self.session.project
        ys = parse_spacings(self.y_spacings.text(), p.units)
        if self.radial:
            rays = parse_degrees(self.x_spacings.text())
            after = grid_edits.add_radial_grid(p, rays, ys, self.x_first.text(), self.y_first.text())
        else:
            xs = parse_spacings(self.x_spacings.text(), p.units)
            after = grid_edits.add_grid(p, xs, ys, self.x_first.text(), self.y_first.text())
        self.made = after.grids[-1].id
        self.session.apply("Lay grid", lambda q: after if q is p else q)


class ColumnsDialog(FormDialog):
    """Columns at the crossings of picked axes, or at all; of several sizes one after the other."""

    several = True

    def __init__(self, parent: QWidget | None, session: Session) -> None:
        super().__init__(parent, "Columns at crossings", session)
        p = session.project
        self.grid = QComboBox()
        for grid in p.grids:
            self.grid.addItem(grid.name if len(p.grids) < 2 else f"{grid.name} ({grid.id})", grid.id)
        self.x_axes, self.y_axes = QLineEdit(), QLineEdit()
        self.x_axes.setPlaceholderText("all, or such as 1, 3-5")
        self.y_axes.setPlaceholderText("all, or such as A, C")
        self.foot, self.head = QComboBox(), QComboBox()
        for level in listed(p.levels):
            for box in (self.foot, self.head):
                box.addItem(f"{level.name}  {format_length(level.height, p.units)}", level.id)
        storey = session.storey
        above = [
            v
            for v in listed(p.levels)
            if storey in by_id(p.levels) and v.height > by_id(p.levels)[storey].height + 1000.0
        ]
        head = min(above, key=lambda v: v.height).id if above else storey
        self.foot.setCurrentIndex(max(self.foot.findData(storey), 0))
        self.head.setCurrentIndex(max(self.head.findData(head), 0))
        self.head_offset = QLineEdit("0")
        self.width_field, self.depth_field = QLineEdit(), QLineEdit()
        size = '5 1/2"' if p.units is Units.IMPERIAL else "140"
        self.width_field.setText(size)
        self.depth_field.setText(size)
        self.material = QComboBox()
        self.material.addItems(["timber", "concrete", "steel"])
        self.section = QComboBox()
        self.material.currentTextChanged.connect(self._offer_sections)
        self._offer_sections(self.material.currentText())
        for label, widget in (
            ("Grid", self.grid),
            ("At axes along x", self.x_axes),
            ("At axes along y", self.y_axes),
            ("Foot on", self.foot),
            ("Head on", self.head),
            ("Head offset", self.head_offset),
            ("Material", self.material),
            ("Section", self.section),
            ("Width", self.width_field),
            ("Depth", self.depth_field),
        ):
            self.form.addRow(label, widget)

    def _offer_sections(self, material: str) -> None:
        sizes = SIZES_OF[material]
        self.section.clear()
        for text, value in (("width and depth", ""), *([("auto", "auto")] if sizes else []), *((s, s) for s in sizes)):
            self.section.addItem(text, value)
        # A steel section says nothing by its sides alone.
        self.section.setCurrentIndex(1 if material == "steel" else 0)

    def run(self) -> None:
        p = self.session.project
        grid = by_id(p.grids).get(str(self.grid.currentData()))
        if grid is None:
            raise EditError("there is no grid yet.", "Columns", "Lay a grid first.")
        xs = column_edits.named_axes(grid, "x_axes", self.x_axes.text())
        ys = column_edits.named_axes(grid, "y_axes", self.y_axes.text())
        width, depth = (parse_length(f.text(), p.units, "in") for f in (self.width_field, self.depth_field))
        foot = Hang(level=str(self.foot.currentData()))
        head = Hang(level=str(self.head.currentData()), offset=parse_length(self.head_offset.text(), p.units, "in"))
        chosen = str(self.section.currentData())
        size = None if chosen == "auto" else chosen
        material = self.material.currentText()
        after = column_edits.add_columns(p, grid.id, xs, ys, foot, head, width, depth, material, size)
        made = tuple(c.id for c in after.columns if c not in p.columns)
        self.session.apply("Set columns", lambda q: after if q is p else q)
        self.session.select(made)
