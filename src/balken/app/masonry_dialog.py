"""The masonry module: every length and what it is off by; one action makes them fit, shown before it is done."""

from PySide6.QtCore import Qt
from PySide6.QtGui import QBrush, QColor
from PySide6.QtWidgets import (
    QHBoxLayout,
    QLineEdit,
    QPushButton,
    QTreeWidget,
    QTreeWidgetItem,
    QVBoxLayout,
    QWidget,
)

from balken.app.plain import Label
from balken.model.errors import EditError
from balken.model.lookup import by_id, wall_label
from balken.model.masonry import Measured, Module, fit, measure
from balken.model.records import Opening, Project
from balken.session.session import Session
from balken.units import UnitError, Units, format_length, parse_length, say_inches

CAUTION = "#A82A10"


class MasonryDialog(QWidget):
    """Stays open beside the plan; the plan shows dashed what would move."""

    def __init__(self, parent: QWidget | None, session: Session) -> None:
        super().__init__(parent, Qt.WindowType.Tool)
        self.session = session
        self.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        self.setWindowTitle("Masonry module")
        self.resize(560, 420)
        self.walls = tuple(r for r in session.selection if r in session.model.lines)
        column = QVBoxLayout(self)
        row = QHBoxLayout()
        usual = ("8 in", "3/8 in", "0 in") if session.project.steps is Units.IMPERIAL else ("200 mm", "10 mm", "0 mm")
        self.module, self.joint, self.shorten = (QLineEdit(text) for text in usual)
        for label, field in (
            ("Module (unit and joint)", self.module),
            ("Joint", self.joint),
            ("May shorten by", self.shorten),
        ):
            row.addWidget(Label(label))
            field.setFixedWidth(84)
            field.setAccessibleName(label)
            field.editingFinished.connect(self.refresh)
            row.addWidget(field)
        row.addStretch(1)
        column.addLayout(row)
        what = f"the {len(self.walls)} walls selected" if self.walls else "all walls of block and brick"
        self.note = Label(f"Measured on outer core faces: {what}.")
        column.addWidget(self.note)
        self.table = QTreeWidget()
        self.table.setHeaderLabels(["What", "Length", "Off by", "Becomes"])
        self.table.setColumnWidth(0, 250)
        self.table.itemSelectionChanged.connect(self._chosen)
        column.addWidget(self.table, 1)
        self.problem = Label()
        self.problem.setObjectName("problem")
        self.problem.setWordWrap(True)
        column.addWidget(self.problem)
        buttons = QHBoxLayout()
        self.preview, self.make_fit = QPushButton("Show what moves"), QPushButton("Make them fit")
        self.make_fit.setObjectName("primary")
        self.close_button = QPushButton("Close")
        self.preview.clicked.connect(self.show_moves)
        self.make_fit.clicked.connect(self.apply)
        self.close_button.clicked.connect(self.close)
        buttons.addStretch(1)
        for button in (self.preview, self.make_fit, self.close_button):
            buttons.addWidget(button)
        column.addLayout(buttons)
        session.changed.connect(self.refresh)
        self.refresh()

    def _read(self) -> tuple[Module, float]:
        units = self.session.project.units
        return (
            Module(parse_length(self.module.text(), units, "in"), parse_length(self.joint.text(), units, "in")),
            parse_length(self.shorten.text(), units, "in"),
        )

    def _fitted(self, project: Project) -> Project:
        module, shorten = self._read()
        return fit(project, module, shorten, self.walls)

    def refresh(self) -> None:
        """Measure anew."""
        self.table.clear()
        self.problem.setText("")
        p = self.session.project
        try:
            module, _ = self._read()
            rows = measure(p, module, self.walls)
        except (UnitError, EditError) as error:
            self.problem.setText(str(error))
            return
        after: dict[tuple[str, str], float] = {}
        try:
            after = {(r.thing, r.kind): r.length for r in measure(self._fitted(p), module, self.walls)}
        except (UnitError, EditError) as error:
            self.problem.setText(str(error))
        off = 0
        for row in rows:
            becomes = after.get((row.thing, row.kind), row.length)
            off += not row.fits
            item = QTreeWidgetItem(self._texts(row, becomes))
            item.setData(0, Qt.ItemDataRole.UserRole, row.thing)
            if not row.fits:
                item.setForeground(2, QBrush(QColor(CAUTION)))
            self.table.addTopLevelItem(item)
        if not rows and not self.problem.text():
            self.problem.setText("No wall has a core of block or brick.")
        self.note.setText(f"{len(rows)} lengths on outer core faces, {off} of them off the module.")

    def _texts(self, row: Measured, becomes: float) -> list[str]:
        p = self.session.project
        record = by_id(p.openings).get(row.thing)
        if isinstance(record, Opening):
            name = f"{wall_label(p, record.wall)}: {record.kind}"
            name += ", pier before it" if row.kind == "pier" else ""
        else:
            name = wall_label(p, row.thing)
        kept = abs(becomes - row.length) < 0.5
        return [
            name,
            format_length(row.length, p.units),
            "on it" if row.fits else ("+" if row.off > 0.0 else "") + say_inches(row.off, p.units),
            "" if kept else format_length(becomes, p.units),
        ]

    def _chosen(self) -> None:
        chosen = [str(item.data(0, Qt.ItemDataRole.UserRole)) for item in self.table.selectedItems()]
        if chosen:
            self.session.select(chosen)

    def show_moves(self) -> None:
        """Show dashed on the plan what would move."""
        try:
            self.problem.setText(self.session.try_out(self._fitted))
        except UnitError as error:
            self.problem.setText(str(error))

    def apply(self) -> None:
        """Make walls and openings fit, as one step of undo."""
        self.session.try_out(None)
        try:
            done = self.session.apply("Fit to the masonry module", self._fitted)
        except UnitError as error:
            self.problem.setText(str(error))
            return
        if done and not self.problem.text():
            said, off = self._said(self.session.project)
            self.session.message.emit(said, off)

    def _said(self, project: Project) -> tuple[str, bool]:
        """Return how far all fits now, those walls too that were not chosen, and whether something is off the module."""
        module = self._read()[0]
        every = sum(not row.fits for row in measure(project, module))
        off = sum(not row.fits for row in measure(project, module, self.walls))
        others = every - off
        if off:
            count = f"{off} lengths stay" if off > 1 else "One length stays"
            return f"{count} off the module: what was chosen does not let them fit (see Off by).", True
        if others:
            count = f"{others} lengths of other walls are" if others > 1 else "one length of another wall is"
            return f"The walls chosen and their openings fit the module; {count} off it.", True
        return "Walls and openings fit the module.", False

    def closeEvent(self, event: object) -> None:
        self.session.changed.disconnect(self.refresh)
        self.session.try_out(None)
