"""A widget that shows a display list: pan, zoom, fit, hit-testing; the picture is cached between changes."""

import contextlib
import traceback
from collections.abc import Callable, Iterable

from PySide6.QtCore import QPoint, QPointF, QRectF, Qt, QTimer
from PySide6.QtGui import QColor, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen, QPixmap, QTransform, QWheelEvent
from PySide6.QtWidgets import QWidget

from balken.app.painting import Prepared, hit, paint, prepare
from balken.derived.model import Model
from balken.documents.display import Area, Item
from balken.documents.style import SELECTED, SHEET
from balken.geometry.plane import Point

REACH = 6.0
"""How near (pixels) the pointer must be to a line to take it."""


FAULT = (
    "This view could not be drawn ({}). The project is unharmed: undo the last step, or go on in another view. "
    "Saving is possible."
)
AHEAD = 40
"""After a pause this long (ms) what is tried out is drawn."""
OVER = 12.0
"""How far (pixels) pens and letters may reach out of the boxes of their items."""


def changed_part(before: list[Prepared], after: list[Prepared]) -> QRectF | None:
    """Return the box in model mm of what two lists of items do not share; None when shared ones changed places."""
    old, new = {id(p) for p in before}, {id(p) for p in after}
    if [id(p) for p in before if id(p) in new] != [id(p) for p in after if id(p) in old]:
        return None
    boxes = [p.box for p in before if id(p) not in new] + [p.box for p in after if id(p) not in old]
    if not boxes:
        return QRectF()
    x0, y0 = min([b[0] for b in boxes]), min([b[1] for b in boxes])
    x1, y1 = max([b[2] for b in boxes]), max([b[3] for b in boxes])
    return QRectF(x0, y0, max(x1 - x0, 1.0), max(y1 - y0, 1.0))


class DrawingView(QWidget):
    """Shows items in model mm, y upward."""

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setMouseTracking(True)
        self.setMinimumSize(120, 120)
        self.zoom = 0.05
        self.centre: Point = (0.0, 0.0)
        self.bright: frozenset[str] | None = None
        self.selected: frozenset[str] = frozenset()
        self.prepared: list[Prepared] = []
        self.fault = ""
        """Why what should be shown could not be drawn, or ""; nothing old is left to look at then."""
        self.trial_lines: list[Prepared] = []
        self.fitted = False
        self.moved = False
        """Whether the user has panned or zoomed since the last fit."""
        self.true_widths = False
        """Whether lines are drawn as wide as on paper (a sheet) instead of as wide as on a plan."""
        self.background = SHEET
        self._cache: QPixmap | None = None
        self._cache_look: tuple[object, ...] = ()
        self._dirty: QRectF | None = None
        """The part of the model plane in which the cached picture is out of date."""
        self._cache_at: tuple[float, Point] = (0.0, (0.0, 0.0))
        self._pan_from: QPoint | None = None
        self._settle = QTimer(self)
        self._settle.setSingleShot(True)
        self._settle.setInterval(70)
        self._settle.timeout.connect(self._redraw)
        self._tried: Model | None = None
        self._ahead = QTimer(self)
        self._ahead.setSingleShot(True)
        self._ahead.setInterval(AHEAD)
        self._ahead.timeout.connect(self._draw_ahead)

    # What is shown -------------------------------------------------------------------------------

    def set_items(self, items: tuple[Item, ...] | list[Item]) -> None:
        """Show other items; the view stays where it is."""
        before, self.prepared = self.prepared, prepare(items)
        dirty = changed_part(before, self.prepared)
        if dirty is None or self._cache is None or self._cache_look != self._look():
            self._redraw()
        elif not dirty.isNull():
            self._dirty = dirty if self._dirty is None else self._dirty.united(dirty)
            self.update()
        if not self.fitted and self.prepared and self.isVisible():
            self.fit()

    def show_made(self, make: Callable[[], Iterable[Item]]) -> None:
        """Show what ``make`` draws; a fault of Balken's own while drawing is said in the view and ends nothing."""
        try:
            items = list(make())
            self.fault = ""
            self.set_items(items)
        except Exception as error:
            traceback.print_exc()
            self.fault = FAULT.format(type(error).__name__)
            self.prepared = []
            self._redraw()

    def set_selected(self, refs: frozenset[str]) -> None:
        """Paint these things in vermilion."""
        if refs != self.selected:
            self.selected = refs
            self._redraw()

    def _look(self) -> tuple[object, ...]:
        """Return what else the picture depends on, beside its items and where they stand."""
        return self.bright, self.selected, self.background, self.true_widths

    def _redraw(self) -> None:
        self._cache = self._dirty = None
        self.update()

    def content_box(self) -> tuple[float, float, float, float] | None:
        """Return the bounds of what is shown."""
        if not self.prepared:
            return None
        boxes = [p.box for p in self.prepared]
        return (
            min(b[0] for b in boxes),
            min(b[1] for b in boxes),
            max(b[2] for b in boxes),
            max(b[3] for b in boxes),
        )

    def fit(self) -> None:
        """Show everything."""
        box = self.content_box()
        if box is None or self.width() < 20 or self.height() < 20:
            return
        x0, y0, x1, y1 = box
        self.zoom = 0.94 * min(self.width() / max(x1 - x0, 1.0), self.height() / max(y1 - y0, 1.0))
        self.centre = ((x0 + x1) / 2.0, (y0 + y1) / 2.0)
        self.fitted, self.moved = True, False
        self._redraw()

    # Coordinates ---------------------------------------------------------------------------------

    def transform(self) -> QTransform:
        """Return model to widget."""
        cx, cy = self.centre
        w, h, z = self.width() / 2.0, self.height() / 2.0, self.zoom
        return QTransform(z, 0.0, 0.0, -z, w - z * cx, h + z * cy)

    def to_model(self, at: QPointF | QPoint) -> Point:
        """Return the model point under a widget point."""
        x = (at.x() - self.width() / 2.0) / self.zoom + self.centre[0]
        y = self.centre[1] - (at.y() - self.height() / 2.0) / self.zoom
        return (x, y)

    def to_widget(self, p: Point) -> QPointF:
        """Return where a model point is in the widget."""
        return self.transform().map(QPointF(*p))

    def visible_part(self) -> QRectF:
        """Return the visible part of the model plane."""
        x0, y1 = self.to_model(QPointF(0.0, 0.0))
        x1, y0 = self.to_model(QPointF(self.width(), self.height()))
        return QRectF(x0, y0, x1 - x0, y1 - y0)

    def hit(self, at: QPointF | QPoint) -> str:
        """Return the ref of the thing under a widget point, or ""."""
        return hit(self.prepared, self.to_model(at), REACH / self.zoom, self.bright)

    # Painting ------------------------------------------------------------------------------------

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        try:
            self._paint(painter)
        except Exception as error:
            traceback.print_exc()
            self.fault, self.prepared, self._cache, self._dirty = FAULT.format(type(error).__name__), [], None, None
            painter.resetTransform()
            painter.fillRect(self.rect(), QColor(self.background))
        if self.fault:
            painter.setPen(QColor(SELECTED))
            painter.drawText(self.rect().adjusted(16, 16, -16, -16), int(Qt.TextFlag.TextWordWrap), self.fault)
        painter.end()

    def _paint(self, painter: QPainter) -> None:
        ratio = self.devicePixelRatioF()
        if self._cache is None or self._cache.size() != self.size() * ratio:
            if self._cache is not None and not self.fitted:
                self.fit()
            self._cache = QPixmap(self.size() * ratio)
            self._cache.setDevicePixelRatio(ratio)
            self._paint_items(self._cache, None)
            self._cache_at, self._cache_look = (self.zoom, self.centre), self._look()
        elif self._dirty is not None and self._cache_at == (self.zoom, self.centre):
            # While it is being panned or stretched, the picture is drawn anew as a whole as soon as that settles.
            self._paint_items(self._cache, self._dirty)
        self._dirty = None
        self._paint_cache(painter)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        self.paint_over(painter)

    def _paint_items(self, picture: QPixmap, part: QRectF | None) -> None:
        """Paint the items onto a picture; only a part of the model plane when one is given."""
        inner = QPainter(picture)
        try:
            self._paint_part(inner, part)
        finally:
            inner.end()

    def _paint_part(self, inner: QPainter, part: QRectF | None) -> None:
        seen = self.visible_part()
        if part is not None:
            corners = (self.to_widget((part.left(), part.top())), self.to_widget((part.right(), part.bottom())))
            area = QRectF(*corners).normalized().adjusted(-OVER, -OVER, OVER, OVER).toAlignedRect()
            inner.setClipRect(area)
            (x0, y1), (x1, y0) = self.to_model(area.topLeft()), self.to_model(area.bottomRight())
            more = OVER / self.zoom
            seen = QRectF(x0, y0, x1 - x0, y1 - y0).adjusted(-more, -more, more, more)
        inner.fillRect(self.rect(), QColor(self.background))
        inner.setRenderHint(QPainter.RenderHint.Antialiasing)
        pixels = self.zoom if self.true_widths else None
        paint(inner, self.prepared, self.transform(), seen, self.bright, self.selected, pixels)

    def _paint_cache(self, painter: QPainter) -> None:
        """Draw the cached picture where it now belongs (moved or stretched while panning and zooming)."""
        assert self._cache is not None
        zoom, centre = self._cache_at
        painter.fillRect(self.rect(), QColor(self.background))
        if (zoom, centre) == (self.zoom, self.centre):
            painter.drawPixmap(0, 0, self._cache)
            return
        if not self._settle.isActive():
            self._settle.start()  # whatever moved the view, it is drawn sharp in a moment
        stretch = self.zoom / zoom
        middle = self.to_widget(centre)
        wide, tall = self.width() * stretch, self.height() * stretch
        target = QRectF(middle.x() - wide / 2.0, middle.y() - tall / 2.0, wide, tall)
        painter.drawPixmap(target, self._cache, QRectF(self._cache.rect()))

    def drawn(self, model: Model) -> list[Item]:
        """Return what is shown of a model; overridden by views that draw one."""
        return []

    def draw_ahead(self, trial: Model) -> None:
        """In the next pause, draw what is tried out as it will be shown when it is made: that is remembered then."""
        self._tried = trial
        self._ahead.start()

    def _draw_ahead(self) -> None:
        trial, self._tried = self._tried, None
        if trial is not None and self.isVisible():
            with contextlib.suppress(Exception):  # it is said when it is shown
                prepare(self.drawn(trial))

    def set_trial_lines(self, items: list[Item]) -> None:
        """Show outlines dashed over the drawing: what is about to be made or moved."""
        if items or self.trial_lines:
            self.trial_lines = prepare(items)
            self.update()

    def paint_trial_lines(self, painter: QPainter) -> None:
        """Paint the trial lines in dashed vermilion, areas filled."""
        painter.setTransform(self.transform())
        pen = QPen(QColor(SELECTED), 1.3, Qt.PenStyle.DashLine)
        pen.setCosmetic(True)
        painter.setPen(pen)
        for line in self.trial_lines:
            painter.setBrush(QColor(216, 64, 31, 38) if isinstance(line.item, Area) else Qt.BrushStyle.NoBrush)
            painter.drawPath(line.path)
        painter.resetTransform()

    def paint_over(self, painter: QPainter) -> None:
        """Paint what changes with the pointer; overridden."""

    # Pan and zoom --------------------------------------------------------------------------------

    def wheelEvent(self, event: QWheelEvent) -> None:
        steps = event.angleDelta().y() / 120.0
        self.zoom_at(event.position(), 1.2**steps)

    def zoom_at(self, at: QPointF, factor: float) -> None:
        """Zoom about a widget point."""
        before = self.to_model(at)
        self.moved = True
        self.zoom = min(max(self.zoom * factor, 1e-4), 20.0)
        after = self.to_model(at)
        self.centre = (self.centre[0] + before[0] - after[0], self.centre[1] + before[1] - after[1])
        self._settle.start()
        self.update()

    def mousePressEvent(self, event: QMouseEvent) -> None:
        if event.button() in (Qt.MouseButton.MiddleButton, Qt.MouseButton.RightButton):
            self._pan_from = event.position().toPoint()
            self.setCursor(Qt.CursorShape.ClosedHandCursor)

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        if self._pan_from is not None:
            now = event.position().toPoint()
            shift = now - self._pan_from
            self._pan_from = now
            self.moved = True
            self.centre = (self.centre[0] - shift.x() / self.zoom, self.centre[1] + shift.y() / self.zoom)
            self._settle.start()
            self.update()

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        if self._pan_from is not None:
            self._pan_from = None
            self.unsetCursor()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        key = event.key()
        step = 60.0 / self.zoom
        moves = {
            Qt.Key.Key_Left: (-step, 0.0),
            Qt.Key.Key_Right: (step, 0.0),
            Qt.Key.Key_Up: (0.0, step),
            Qt.Key.Key_Down: (0.0, -step),
        }
        middle = QPointF(self.width() / 2.0, self.height() / 2.0)
        if key in moves:
            dx, dy = moves[Qt.Key(key)]
            self.moved = True
            self.centre = (self.centre[0] + dx, self.centre[1] + dy)
            self._redraw()
        elif key in (Qt.Key.Key_Plus, Qt.Key.Key_Equal):
            self.zoom_at(middle, 1.25)
        elif key == Qt.Key.Key_Minus:
            self.zoom_at(middle, 0.8)
        elif key == Qt.Key.Key_Home:
            self.fit()
        else:
            super().keyPressEvent(event)

    def resizeEvent(self, event: object) -> None:
        if not self.moved:
            self.fit()
        self._redraw()

    def showEvent(self, event: object) -> None:
        if not self.fitted:
            self.fit()
