"""Pads at the crossings of picked axes, or under the columns."""

from PySide6.QtWidgets import QComboBox, QLineEdit, QWidget

from balken.app.dialogs import FormDialog
from balken.app.foundation_tools import pad_heights
from balken.app.wall_dialogs import level_box
from balken.model import column_edits, foundation_edits
from balken.model.errors import EditError
from balken.model.lookup import by_id
from balken.model.records import Hang
from balken.session.session import Session
from balken.units import Units, parse_force, parse_length


class PadsDialog(FormDialog):
    """Many pads in one go; outer and inner ones on different levels take two goes, without closing."""

    several = True

    def __init__(self, parent: QWidget | None, session: Session) -> None:
        super().__init__(parent, "Pads", session)
        p = session.project
        self.where = QComboBox()
        self.where.addItem("under the columns selected, or all", "")
        for grid in p.grids:
            self.where.addItem(f"at crossings of {grid.name}", grid.id)
        self.x_axes, self.y_axes = QLineEdit(), QLineEdit()
        self.x_axes.setPlaceholderText("all, or such as 1, 3-5")
        self.y_axes.setPlaceholderText("all, or such as A, C")
        try:
            top, head = pad_heights(p)
        except EditError:
            top = head = Hang(level=session.storey)
        self.top, self.head = level_box(session, top.level), level_box(session, head.level)
        usual = '12"' if p.steps is Units.IMPERIAL else "300 mm"
        self.pier, self.dead, self.live = (QLineEdit(text) for text in (usual, "0", "0"))
        for label, widget in (
            ("Where", self.where),
            ("Axes along x", self.x_axes),
            ("Axes along y", self.y_axes),
            ("Top of pads on", self.top),
            ("Pier side (0: none)", self.pier),
            ("Top of piers on", self.head),
            ("Dead load of each", self.dead),
            ("Live load of each", self.live),
        ):
            self.form.addRow(label, widget)

    def run(self) -> None:
        p = self.session.project
        grid = by_id(p.grids).get(str(self.where.currentData()))
        if grid is None:
            places = foundation_edits.column_places(p, self.session.selection)
            if not places:
                places = foundation_edits.column_places(p, ())
            if not places:
                raise EditError("there is no column yet.", "Pads", "Set columns first, or choose crossings of a grid.")
        else:
            xs = column_edits.named_axes(grid, "x_axes", self.x_axes.text())
            ys = column_edits.named_axes(grid, "y_axes", self.y_axes.text())
            places = foundation_edits.crossings(p, grid.id, xs, ys)
        after = foundation_edits.add_pads(
            p,
            places,
            Hang(level=str(self.top.currentData())),
            Hang(level=str(self.head.currentData())),
            parse_length(self.pier.text(), p.units, "in"),
            dead=parse_force(self.dead.text(), p.units),
            live=parse_force(self.live.text(), p.units),
        )
        made = tuple(v.id for v in after.pads if v not in p.pads)
        self.session.apply("Set pads", lambda q: after if q is p else q)
        self.session.select(made)
