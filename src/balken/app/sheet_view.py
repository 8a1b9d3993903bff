"""The sheets of the project, one at a time: a list to choose from, the sheet as it will be printed."""

from PySide6.QtCore import QSignalBlocker, Qt, QTimer
from PySide6.QtGui import QShowEvent
from PySide6.QtWidgets import QComboBox, QHBoxLayout, QPushButton, QVBoxLayout, QWidget

from balken.app.drawing_view import DrawingView
from balken.documents.sheet_set import Page, sheet_set
from balken.session.session import Session


class SheetView(QWidget):
    """Draws the chosen sheet when it is seen; nothing is drawn while it is hidden."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.pages: tuple[Page, ...] = ()
        self.at = 0
        self._stale = True
        self.paper = DrawingView()
        self.paper.background = "#C9C4B8"
        self.paper.true_widths = True
        self.choice = QComboBox()
        self.choice.setAccessibleName("Sheet shown")
        self.choice.setFocusPolicy(Qt.FocusPolicy.TabFocus)
        self.choice.activated.connect(self.show_page)
        self.back, self.forward = QPushButton("Sheet before"), QPushButton("Next sheet")
        self.back.setShortcut("PgUp")
        self.forward.setShortcut("PgDown")
        self.back.clicked.connect(lambda: self.show_page(self.at - 1))
        self.forward.clicked.connect(lambda: self.show_page(self.at + 1))
        row = QHBoxLayout()
        row.setContentsMargins(8, 4, 8, 4)
        row.addWidget(self.choice, 1)
        row.addWidget(self.back)
        row.addWidget(self.forward)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        column.addWidget(self.paper, 1)
        column.addLayout(row)
        session.changed.connect(self.refresh)

    def showEvent(self, event: QShowEvent) -> None:
        if self._stale:
            self.refresh()
        super().showEvent(event)

    @property
    def page(self) -> Page:
        """The sheet shown."""
        return self.pages[self.at]

    def refresh(self) -> None:
        """List and draw the sheets anew; the same one stays in view."""
        if not self.isVisible():
            self._stale = True
            return
        shown = self._place(self.at) if self.pages else None
        self.pages = sheet_set(self.session.model)
        self._stale = False
        with QSignalBlocker(self.choice):
            self.choice.clear()
            self.choice.addItems([f"{page.number}   {page.title}" for page in self.pages])
        at = next((i for i in range(len(self.pages)) if self._place(i) == shown), self.at)
        self._show(min(at, len(self.pages) - 1))

    def _place(self, at: int) -> tuple[str, int]:
        """Return which of its kind a sheet is: its number changes with what is bound before it."""
        kind = self.pages[at].kind
        return kind, sum(page.kind == kind for page in self.pages[:at])

    def show_page(self, at: int) -> None:
        """Show one of the sheets by its place in the list."""
        if 0 <= at < len(self.pages):
            size = self.paper.content_box()
            self._show(at)
            if self.paper.content_box() != size:
                self.paper.fit()

    def show_kind(self, kind: str) -> bool:
        """Show the first sheet of a kind; False when there is none."""
        if self._stale:
            self.refresh()
        at = next((i for i, page in enumerate(self.pages) if page.kind == kind), None)
        if at is not None:
            self.show_page(at)
        return at is not None

    def _show(self, at: int) -> None:
        self.at = at
        first = not self.paper.prepared
        self.paper.show_made(lambda: self.pages[at].make().items)
        self.choice.setCurrentIndex(at)
        self.back.setEnabled(at > 0)
        self.forward.setEnabled(at + 1 < len(self.pages))
        if first:
            QTimer.singleShot(0, self.paper.fit)
