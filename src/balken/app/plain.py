"""Texts shown as they are: what others typed is never taken for markup, nor for a picture to load."""

import html

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QLabel, QMessageBox, QWidget


class Label(QLabel):
    """A label whose text is plain text."""

    def __init__(self, text: str = "", parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setTextFormat(Qt.TextFormat.PlainText)
        self.setText(text)


def tip(text: str) -> str:
    """Return a text for a tool tip, which would else be looked through for markup."""
    return f"<qt>{html.escape(text)}</qt>" if text else ""


def warn(parent: QWidget | None, title: str, text: str) -> None:
    """Show a warning with a plain text."""
    QMessageBox.warning(parent, title, _shown(text))


def _shown(text: str) -> str:
    return tip(text) if "<" in text else text
