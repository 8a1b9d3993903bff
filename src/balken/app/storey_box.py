"""Which storey the plan shows, to choose at its corner."""

from PySide6.QtCore import QSignalBlocker, Qt
from PySide6.QtGui import QWheelEvent
from PySide6.QtWidgets import QComboBox, QWidget

from balken.model.lookup import listed
from balken.session.session import Session


class StoreyBox(QComboBox):
    """The storeys of the project from the top down; the one chosen is worked on."""

    def __init__(self, session: Session, parent: QWidget) -> None:
        super().__init__(parent)
        self.session = session
        self.setObjectName("storey")
        self.setAccessibleName("Storey")
        self.setToolTip("The storey that the plan shows. Or click between two levels in the height strip.")
        self.setFocusPolicy(Qt.FocusPolicy.TabFocus)
        self.setSizeAdjustPolicy(QComboBox.SizeAdjustPolicy.AdjustToContents)
        self.activated.connect(lambda i: session.set_storey(self.itemData(i)))
        self.move(10, 8)

    def refresh(self, by_storey: bool) -> None:
        """Show the storeys there are; nothing where the plan does not depend on them, or there is but one."""
        session = self.session
        levels = [v for v in listed(session.project.levels) if v.role in ("floor", "slab") or v.id == session.storey]
        rows = [(v.name, v.id) for v in levels]
        if rows != [(self.itemText(i), self.itemData(i)) for i in range(self.count())]:
            with QSignalBlocker(self):
                self.clear()
                for name, level in rows:
                    self.addItem(name, level)
                self.adjustSize()
        self.setCurrentIndex(max(self.findData(session.storey), 0))
        self.setVisible(by_storey and len(rows) > 1)

    def wheelEvent(self, event: QWheelEvent) -> None:
        """Zooming over the plan must not change the storey."""
        event.ignore()
