"""What has changed in the architect's file since it was last read, to be taken over or left."""

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QDialog, QDialogButtonBox, QTreeWidget, QTreeWidgetItem, QVBoxLayout, QWidget

from balken.app.plain import Label, tip
from balken.exchange.ifc_changes import changes
from balken.exchange.ifc_taking_over import apply_changes
from balken.model.records import Reading
from balken.session.session import Session


class ChangesDialog(QDialog):
    """Each change has a tick; those ticked are taken over as one step of undo."""

    def __init__(self, parent: QWidget | None, session: Session, new: Reading) -> None:
        super().__init__(parent)
        self.session, self.new = session, new
        self.setWindowTitle("Changes in the architect's file")
        self.resize(640, 420)
        column = QVBoxLayout(self)
        assert session.project.reading is not None
        self.found = changes(session.project.reading, new, session.project.units)
        told = f"{len(self.found)} things have changed" if self.found else "Nothing has changed"
        column.addWidget(Label(f"{new.file}\n{told} since it was last read."))
        self.table = QTreeWidget()
        self.table.setHeaderLabels(["What", "Change", "Detail"])
        self.table.setColumnWidth(0, 200)
        for change in self.found:
            item = QTreeWidgetItem([f"{change.kind.capitalize()} {change.name}", change.way, change.detail])
            item.setToolTip(0, tip(change.source))
            item.setCheckState(0, Qt.CheckState.Checked)
            self.table.addTopLevelItem(item)
        column.addWidget(self.table, 1)
        self.problem = Label()
        self.problem.setObjectName("problem")
        self.problem.setWordWrap(True)
        column.addWidget(self.problem)
        buttons = QDialogButtonBox()
        if self.found:
            take = buttons.addButton("Take over what is ticked", QDialogButtonBox.ButtonRole.AcceptRole)
            take.setObjectName("primary")
        buttons.addButton("Close", QDialogButtonBox.ButtonRole.RejectRole)
        buttons.accepted.connect(self.take)
        buttons.rejected.connect(self.reject)
        column.addWidget(buttons)

    def take(self) -> None:
        """Take over what is ticked; says why when it cannot be."""
        ticked = [
            change
            for i, change in enumerate(self.found)
            if (item := self.table.topLevelItem(i)) is not None and item.checkState(0) is Qt.CheckState.Checked
        ]
        told: list[str] = []
        note = lambda text, wrong: told.append(text if wrong else "")  # noqa: E731
        self.session.message.connect(note)
        done = self.session.apply("Take over the architect's changes", lambda p: apply_changes(p, self.new, ticked))
        self.session.message.disconnect(note)
        if done:
            self.accept()
        else:
            self.problem.setText(told[-1] if told else "It cannot be done.")
