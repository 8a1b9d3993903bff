"""The height strip: a live section along the cut line, with the levels as lines across it."""

import math

from PySide6.QtCore import QPointF, Qt, QTimer
from PySide6.QtGui import QColor, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen, QPixmap
from PySide6.QtWidgets import QCheckBox, QLineEdit, QWidget

from balken.app.drawing_view import DrawingView
from balken.app.slope_drag import SlopeDrag
from balken.app.tools import label
from balken.derived.model import Model
from balken.documents.cross_section import cross_section, cut_view, effective_cut, low_and_high
from balken.documents.dimensions import spread
from balken.documents.display import Item
from balken.documents.lettering import FAMILY
from balken.documents.style import SELECTED
from balken.model import edits
from balken.model.lookup import by_id, listed
from balken.model.records import Level
from balken.panel.trial_lines import section_sketch_lines, section_trial_lines
from balken.session.session import Session
from balken.units import UnitError, format_length, parse_length

LEVEL_COLOUR = "#2E6A6A"
GRAB = 5.0
BEYOND = 2000.0
"""The section is drawn to a multiple of this that lies beyond the strip's right side, mm."""
AT_FIRST = 6000.0
"""As far it is drawn before it is known how much of it the strip shows, mm."""
NAMES = 116.0
"""Width of the column of level names, pixels."""


class HeightStrip(DrawingView):
    """Section to scale; levels are dragged, typed (double click) and chosen (click between two); so are the slopes of a roof that is selected."""

    def __init__(self, session: Session, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.session = session
        self.setMinimumWidth(236)
        self.setAccessibleName("Height strip")
        self._dragged: str | None = None
        self._marks: tuple[tuple[object, ...], QPixmap] | None = None
        """The levels as painted last, with what they were painted from."""
        self._until = math.inf
        """How far along the cut the section is drawn."""
        self._drag_height = 0.0
        self._pressed: QPointF | None = None
        self._slope = SlopeDrag(session)
        self.whole = QCheckBox("whole section", self)
        self.whole.toggled.connect(self.refresh)
        self.field = QLineEdit(self)
        self.field.setFixedWidth(96)
        self.field.hide()
        self.field.returnPressed.connect(self._commit_field)
        self.field.editingFinished.connect(self.field.hide)
        self._field_level = ""
        session.changed.connect(self.refresh)
        session.trial_changed.connect(self._show_trial)
        session.hidden_changed.connect(self.refresh)
        session.storey_changed.connect(self.update)
        session.selection_changed.connect(lambda: self.set_selected(session.lit))
        self.refresh()

    def refresh(self) -> None:
        """Draw the section anew; fit when its extent has changed."""
        self._draw(self._needed())

    def _needed(self) -> float:
        """Return how far along the cut the strip needs the section."""
        if self.moved or self.whole.isChecked():
            return math.inf
        if not self.fitted:
            return AT_FIRST
        # Left out is what lies well beyond the strip's right side, in whole steps, so that most stays as it was drawn;
        # when it comes into view all the same, paintEvent sees to it.
        return math.ceil(self._right() / BEYOND + 0.5) * BEYOND

    def _draw(self, until: float) -> None:
        self._until = until
        self.set_trial_lines([])
        self.show_made(lambda: self.drawn(self.session.model))
        if not self.moved:
            self._fit_levels()

    def _draw_ahead(self) -> None:
        drawn, self._until = self._until, self._needed()
        super()._draw_ahead()
        self._until = drawn

    def drawn(self, model: Model) -> list[Item]:
        if not any(model.groups):
            return []
        drawing = cross_section(model, effective_cut(model), 40.0, marks=False, dimensions=False, until=self._until)
        return [item for item in drawing.items if not self.session.is_hidden(item.ref)]

    def _fit_levels(self) -> None:
        """Fit the wall at the start of the cut (or the whole section), beside the levels' names."""
        box = self.content_box()
        heights = [v.height for v in self.session.project.levels]
        if box is None:
            middle = sum(heights) / len(heights) if heights else 0.0
            box = (0.0, middle - 2000.0, 4000.0, middle + 2000.0)
        lowest, highest = low_and_high(self.session.model)
        low, high = min([lowest, *heights]), max([highest, *heights])
        tall, free = self.height() - 40.0, self.width() - NAMES
        if self.whole.isChecked() or not heights:
            self.zoom = min(tall / (1.1 * (high - low) + 1.0), free / max(box[2] - box[0], 100.0))
            left = box[0]
        else:
            high = max(min(high, max(heights) + 1500.0), low + 3600.0)
            self.zoom = tall / (1.08 * (high - low) + 1.0)
            left = self._outer_face(box[0]) - 0.28 * free / self.zoom
        middle = (low + high) / 2.0 - 8.0 / self.zoom
        self.centre = (left + (self.width() / 2.0 - NAMES) / self.zoom, middle)
        self.fitted, self.moved = True, False
        if (self.zoom, self.centre) != self._cache_at:
            self._redraw()

    def _right(self) -> float:
        """Return how far along the cut the strip shows the section."""
        return self.centre[0] + self.width() / 2.0 / self.zoom

    def paintEvent(self, event: QPaintEvent) -> None:
        super().paintEvent(event)
        if self._right() > self._until:  # panned, zoomed or made wider: what was left out is needed now
            self._until = math.inf
            QTimer.singleShot(0, lambda: self._draw(math.inf))

    def _outer_face(self, default: float) -> float:
        """Return where along the cut the building begins."""
        found = [p.box[0] for p in self.prepared if p.item.layer in ("walls", "foundations")]
        return min(found, default=default)

    def fit(self) -> None:
        self._fit_levels()

    def resizeEvent(self, event: object) -> None:
        self.whole.move(self.width() - self.whole.width() - 10, self.height() - self.whole.height() - 4)
        if not self.moved:
            self._fit_levels()
        self._redraw()

    def _show_trial(self) -> None:
        trial = self.session.trial
        view = cut_view(effective_cut(self.session.model))
        lines = section_trial_lines(trial, self.session.model, view) if trial is not None else []
        if self.session.sketch is not None:
            lines += section_sketch_lines(self.session.sketch, view)
        self.set_trial_lines(lines)
        if trial is not None:
            self.draw_ahead(trial)

    # Painting ------------------------------------------------------------------------------------

    def level_y(self, height: float) -> float:
        """Return where a height is in the widget."""
        return self.to_widget((0.0, height)).y()

    def marks(self) -> list[tuple[Level, float, float]]:
        """Return (level, y of its line, y of its text), texts spread so that none overprints another."""
        ordered = listed(self.session.project.levels)
        lines = [self.level_y(v.height) for v in ordered]
        gap = min(27.0, (self.height() - 24.0) / max(len(lines), 1))
        texts = spread(lines, gap)
        lowest, highest = self.height() - 16.0, 16.0
        count = len(texts)
        texts = [min(t, lowest - (count - 1 - i) * gap) for i, t in enumerate(texts)]
        texts = [max(t, highest + i * gap) for i, t in enumerate(texts)]
        return list(zip(ordered, lines, texts, strict=True))

    def paint_over(self, painter: QPainter) -> None:
        self.paint_trial_lines(painter)
        self._paint_storey(painter)
        marks, ratio = self.marks(), self.devicePixelRatioF()
        wanted = (marks, self.session.selection, self.session.project.units, self.size(), ratio)
        if self._marks is None or self._marks[0] != wanted:
            picture = QPixmap(self.size() * ratio)
            picture.setDevicePixelRatio(ratio)
            picture.fill(Qt.GlobalColor.transparent)
            inner = QPainter(picture)
            inner.setRenderHint(QPainter.RenderHint.Antialiasing)
            self._paint_marks(inner, marks)
            inner.end()
            self._marks = (wanted, picture)
        painter.drawPixmap(0, 0, self._marks[1])
        if self._dragged is not None:
            y = self.level_y(self._drag_height)
            painter.setPen(QPen(QColor(SELECTED), 1.4, Qt.PenStyle.DashLine))
            painter.drawLine(QPointF(0.0, y), QPointF(self.width(), y))
            label(painter, QPointF(NAMES, y - 5.0), format_length(self._drag_height, self.session.project.units))
        if self._slope.told:
            wide = painter.fontMetrics().horizontalAdvance(self._slope.told) + 6.0
            at = self.to_widget(self._slope.at) + QPointF(-wide / 2.0, -14.0)
            label(painter, QPointF(max(min(at.x(), self.width() - wide), 6.0), at.y()), self._slope.told)

    def _paint_marks(self, painter: QPainter, marks: list[tuple[Level, float, float]]) -> None:
        """Paint the levels: lines across, triangles, heights and names at the left edge."""
        painter.fillRect(0, 0, int(NAMES) - 4, self.height(), QColor(251, 248, 241, 235))
        font = painter.font()
        font.setFamily(FAMILY)
        for level, y, text_y in marks:
            chosen = level.id in self.session.selection
            colour = QColor(SELECTED if chosen else LEVEL_COLOUR)
            painter.setPen(QPen(colour, 1.6 if chosen else 1.0))
            edge = NAMES - 4.0
            painter.drawLine(QPointF(edge, y), QPointF(self.width(), y))
            painter.drawLine(QPointF(edge - 14.0, text_y), QPointF(edge, y))
            painter.drawLine(QPointF(2.0, text_y), QPointF(edge - 14.0, text_y))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            tip = QPointF(8.0, text_y)
            painter.drawPolygon([tip, tip + QPointF(-4.0, -7.0), tip + QPointF(4.0, -7.0)])
            font.setPixelSize(12)
            painter.setFont(font)
            painter.drawText(QPointF(15.0, text_y - 2.0), format_length(level.height, self.session.project.units))
            font.setPixelSize(11)
            painter.setFont(font)
            name = painter.fontMetrics().elidedText(level.name, Qt.TextElideMode.ElideRight, int(NAMES) - 8)
            painter.drawText(QPointF(2.0, text_y + 11.0), name)

    def _paint_storey(self, painter: QPainter) -> None:
        """Mark the storey at work by a bar at the right edge."""
        level = by_id(self.session.project.levels).get(self.session.storey)
        if level is None:
            return
        above = [v.height for v in listed(self.session.project.levels) if v.height > level.height + 1.0]
        top = self.level_y(min(above)) if above else 0.0
        bottom = self.level_y(level.height)
        painter.fillRect(self.width() - 5, int(top), 5, max(int(bottom - top), 2), QColor(LEVEL_COLOUR))

    # Pointer and keys ------------------------------------------------------------------------------

    def _level_at(self, at: QPointF) -> str | None:
        marks = self.marks()
        for level, _, text_y in marks:
            if at.x() < 60.0 and text_y - 14.0 <= at.y() <= text_y + 13.0:
                return level.id
        near = min(marks, key=lambda row: abs(row[1] - at.y()), default=None)
        return near[0].id if near is not None and abs(near[1] - at.y()) <= GRAB else None

    def mousePressEvent(self, event: QMouseEvent) -> None:
        self.setFocus()
        if event.button() != Qt.MouseButton.LeftButton:
            super().mousePressEvent(event)
            return
        self._pressed = event.position()
        self._dragged = None

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        super().mouseMoveEvent(event)
        if self._pressed is None:
            over = self._level_at(event.position()) or self._slope.over(self.to_model(event.position()), self.zoom)
            self.setCursor(Qt.CursorShape.SizeVerCursor if over else Qt.CursorShape.ArrowCursor)
            return
        if self._dragged is None and self._slope.handle is None:
            if (event.position() - self._pressed).manhattanLength() < 5:
                return
            self._dragged = self._level_at(self._pressed)
            if self._dragged is None:
                self._slope.take(self.to_model(self._pressed), self.zoom)
        if self._slope.handle is not None:
            self._slope.move(self.to_model(event.position()), event.modifiers())
        if self._dragged is None:
            return
        start = by_id(self.session.project.levels)[self._dragged].height
        step = 12.7 if self.session.project.units.value == "ft-in" else 5.0
        moved = (self._pressed.y() - event.position().y()) / self.zoom
        self._drag_height = round((start + moved) / step) * step
        level_id, height = self._dragged, self._drag_height
        self.session.try_out(lambda p: edits.set_level(p, level_id, height))
        self.update()

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        super().mouseReleaseEvent(event)
        if event.button() != Qt.MouseButton.LeftButton or self._pressed is None:
            return
        dragged, height = self._dragged, self._drag_height
        self._pressed = self._dragged = None
        if self._slope.handle is not None:
            self._slope.drop()
            return
        self.session.try_out(None)
        if dragged is not None:
            self.session.apply("Move level", lambda p: edits.set_level(p, dragged, height))
            return
        level = self._level_at(event.position())
        ref = self.hit(event.position())
        if level is not None:
            self.session.select([level])
        elif ref:
            self.session.select([ref])
        else:
            self.session.select([])
            self._choose_storey(event.position())
        self.update()

    def _choose_storey(self, at: QPointF) -> None:
        z = self.to_model(at)[1]
        below = [
            v for v in listed(self.session.project.levels) if v.height <= z and v.role in ("floor", "slab", "other")
        ]
        if below:
            self.session.set_storey(max(below, key=lambda v: v.height).id)

    def mouseDoubleClickEvent(self, event: QMouseEvent) -> None:
        level_id = self._level_at(event.position())
        if level_id is None:
            return
        self._pressed = None
        self.type_height(level_id)

    def type_height(self, level_id: str) -> None:
        """Open a field on a level's line to type its height."""
        level = by_id(self.session.project.levels)[level_id]
        self._field_level = level_id
        self.field.setText(format_length(level.height, self.session.project.units).replace("\u2212", "-"))
        self.field.move(70, max(0, min(int(self.level_y(level.height)) - 12, self.height() - 28)))
        self.field.show()
        self.field.setFocus()
        self.field.selectAll()

    def _commit_field(self) -> None:
        try:
            height = parse_length(self.field.text(), self.session.project.units)
        except UnitError as error:
            self.session.message.emit(str(error), True)
            return
        level_id = self._field_level
        self.field.hide()
        self.session.apply("Move level", lambda p: edits.set_level(p, level_id, height))

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.key() == Qt.Key.Key_Escape and self._slope.handle is not None:
            self._slope.leave()
            self._pressed = None
            return
        if event.key() == Qt.Key.Key_F2 and self.session.selection:
            chosen = self.session.selection[0]
            if chosen in by_id(self.session.project.levels):
                self.type_height(chosen)
                return
        super().keyPressEvent(event)
