"""A small drawing inside a card."""

import math

from PySide6.QtCore import QRectF, QSize, Qt
from PySide6.QtGui import QIcon, QPainter, QPaintEvent, QPixmap, QResizeEvent, QTransform
from PySide6.QtWidgets import QWidget

from balken.app.painting import paint, prepare
from balken.documents.display import Diagram
from balken.panel.card_parts import Picture


def icon_of(drawn: Diagram, size: QSize, ratio: float) -> QIcon:
    """Return a small drawing as an icon, in the middle of a place so large; ``ratio``: how many pixels one of a widget's is."""
    made = QPixmap(size * ratio)
    made.setDevicePixelRatio(ratio)
    made.fill(Qt.GlobalColor.transparent)
    painter = QPainter(made)
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    zoom = min((size.width() - 2.0) / drawn.width, (size.height() - 2.0) / drawn.height)
    left, top = (size.width() - zoom * drawn.width) / 2.0, (size.height() - zoom * drawn.height) / 2.0
    whole = QRectF(-1.0, -drawn.height - 1.0, drawn.width + 2.0, drawn.height + 2.0)
    paint(painter, prepare(drawn.items), QTransform(zoom, 0.0, 0.0, -zoom, left, top), whole)
    painter.end()
    return QIcon(made)


class PictureView(QWidget):
    """A small drawing as wide as the card."""

    def __init__(self, picture: Picture) -> None:
        super().__init__()
        self.show_picture(picture)

    def show_picture(self, picture: Picture) -> None:
        """Show another drawing."""
        self.drawn, self.prepared = picture.drawn, prepare(picture.drawn.items)
        self.setAccessibleName(self.drawn.says)
        self._take_height()
        self.update()

    def resizeEvent(self, event: QResizeEvent) -> None:
        super().resizeEvent(event)
        self._take_height()

    def _take_height(self) -> None:
        self.setFixedHeight(math.ceil(self.width() / self.drawn.width * self.drawn.height))

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        zoom = self.width() / self.drawn.width
        whole = QRectF(-1.0, -self.drawn.height - 1.0, self.drawn.width + 2.0, self.drawn.height + 2.0)
        paint(painter, self.prepared, QTransform(zoom, 0.0, 0.0, -zoom, 0.0, 0.0), whole)
