"""A calculation sheet on screen, page by page, and written to PDF."""

from collections.abc import Callable

from PySide6.QtCore import QTimer
from PySide6.QtWidgets import QDialog, QHBoxLayout, QPushButton, QVBoxLayout, QWidget

from balken.app.drawing_view import DrawingView
from balken.app.plain import Label
from balken.documents.calculation import calculation_pages
from balken.session.session import Session


class CalculationDialog(QDialog):
    """Follows the model while it is open."""

    def __init__(self, parent: QWidget | None, session: Session, ref: str, write: Callable[[str], None]) -> None:
        super().__init__(parent)
        self.session, self.ref = session, ref
        self.setWindowTitle("Calculation sheet")
        self.resize(760, 760)
        self.page = 0
        self.view = DrawingView()
        self.view.background = "#C9C4B8"
        self.view.true_widths = True
        column = QVBoxLayout(self)
        column.addWidget(self.view, 1)
        row = QHBoxLayout()
        self.back, self.forward = QPushButton("Page before"), QPushButton("Next page")
        self.number = Label()
        self.pdf, done = QPushButton("Write PDF..."), QPushButton("Close")
        self.pdf.setObjectName("primary")
        self.back.clicked.connect(lambda: self.turn(-1))
        self.forward.clicked.connect(lambda: self.turn(1))
        self.pdf.clicked.connect(lambda: write(ref))
        done.clicked.connect(self.accept)
        for widget in (self.back, self.number, self.forward):
            row.addWidget(widget)
        row.addStretch(1)
        row.addWidget(self.pdf)
        row.addWidget(done)
        column.addLayout(row)
        session.changed.connect(self.refresh)
        self.refresh()
        QTimer.singleShot(0, self.view.fit)

    def turn(self, by: int) -> None:
        """Go some pages on."""
        self.page += by
        self.refresh()
        self.view.fit()

    def refresh(self) -> None:
        """Draw the page anew; closes when what it was about is gone."""
        try:
            pages = calculation_pages(self.session.model, self.ref)
        except KeyError:
            self.reject()
            return
        self.page = min(max(self.page, 0), len(pages) - 1)
        self.view.set_items(pages[self.page].items)
        self.number.setText(f"{self.page + 1} of {len(pages)}")
        self.back.setEnabled(self.page > 0)
        self.forward.setEnabled(self.page + 1 < len(pages))
