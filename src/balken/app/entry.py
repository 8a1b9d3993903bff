"""The small entry at the cursor: digits typed while drawing become lengths (and Tab, an angle)."""

from collections.abc import Callable

from PySide6.QtCore import QEvent, QObject, QPoint, Qt
from PySide6.QtGui import QKeyEvent
from PySide6.QtWidgets import QHBoxLayout, QLineEdit, QWidget

from balken.app.plain import Label
from balken.units import UnitError, Units, parse_angle, parse_length

Place = Callable[[list[float | None]], str]
"""Receives what was typed, one value a field (None: left empty); returns why it cannot be, or ""."""


class CursorEntry(QWidget):
    """One or two fields beside the pointer; Tab changes field, Enter places, Esc closes."""

    def __init__(self, parent: QWidget) -> None:
        super().__init__(parent)
        self._canvas = parent
        self.setObjectName("cursorEntry")
        self.setStyleSheet("#cursorEntry { background: #FFFFFF; border: 1px solid #2E6A6A; }")
        self.setAttribute(Qt.WidgetAttribute.WA_StyledBackground)
        self._row = QHBoxLayout(self)
        self._row.setContentsMargins(6, 3, 6, 3)
        self.fields: list[QLineEdit] = []
        self._kinds: list[str] = []
        self._units = Units.IMPERIAL
        self._place: Place = lambda values: ""
        self.problem = Label()
        self.problem.setObjectName("problem")
        self.hide()

    def open(self, at: QPoint, fields: list[tuple[str, str]], units: Units, first: str, place: Place) -> None:
        """Show fields (label, kind: length or angle) with the first character already typed."""
        while self._row.count():
            item = self._row.takeAt(0)
            widget = item.widget() if item else None
            if widget is not None and widget is not self.problem:
                widget.deleteLater()
        self.fields, self._kinds, self._units, self._place = [], [], units, place
        for label, kind in fields:
            self._row.addWidget(Label(label))
            field = QLineEdit()
            field.setFixedWidth(92)
            field.installEventFilter(self)
            self._row.addWidget(field)
            self.fields.append(field)
            self._kinds.append(kind)
        self.problem.setText("")
        self._row.addWidget(self.problem)
        self.adjustSize()
        parent = self._canvas
        self.move(min(at.x() + 14, parent.width() - self.width() - 4), min(at.y() + 14, parent.height() - 40))
        self.show()
        self.raise_()
        self.fields[0].setText(first)
        self.fields[0].setFocus()

    def eventFilter(self, watched: QObject, event: QEvent) -> bool:
        if event.type() == QEvent.Type.KeyPress and isinstance(event, QKeyEvent):
            if event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
                self.commit()
                return True
            if event.key() == Qt.Key.Key_Escape:
                self.close_entry()
                return True
            if event.key() in (Qt.Key.Key_Tab, Qt.Key.Key_Backtab) and len(self.fields) > 1:
                i = self.fields.index(watched) if watched in self.fields else 0
                self.fields[(i + 1) % len(self.fields)].setFocus()
                return True
        return super().eventFilter(watched, event)

    def commit(self) -> None:
        """Read the fields and place; stays open with the reason when that fails."""
        values: list[float | None] = []
        try:
            for field, kind in zip(self.fields, self._kinds, strict=True):
                text = field.text().strip()
                if not text:
                    values.append(None)
                elif kind == "angle":
                    values.append(parse_angle(text))
                else:
                    values.append(parse_length(text, self._units))
        except UnitError as error:
            self._tell(str(error))
            return
        reason = self._place(values)
        if reason:
            self._tell(reason)
        else:
            self.close_entry()

    def _tell(self, reason: str) -> None:
        self.problem.setText(reason)
        self.adjustSize()
        parent = self._canvas
        self.move(max(4, min(self.x(), parent.width() - self.width() - 4)), self.y())

    def close_entry(self) -> None:
        """Hide and give the keyboard back to the canvas."""
        self.hide()
        self._canvas.setFocus()
