"""The tools of the plan canvas: each knows pointer, keys and what it paints over the plan."""

from typing import TYPE_CHECKING

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QColor, QKeyEvent, QMouseEvent, QPainter, QPainterPath, QPen, QPolygonF

from balken.app.drags import DragTo, drag_of
from balken.documents.lettering import FAMILY
from balken.documents.style import SELECTED
from balken.geometry.plane import Point, add, cross, dot, sub, unit
from balken.model import edits
from balken.model.lookup import by_id
from balken.panel.snapping import Snap, snap
from balken.session.session import Edit

if TYPE_CHECKING:
    from balken.app.canvas import PlanCanvas

SNAP_PIXELS = 11.0


def vermilion(style: Qt.PenStyle = Qt.PenStyle.DashLine) -> QPen:
    """Return the pen of what is being drawn."""
    return QPen(QColor(SELECTED), 1.6, style)


Place3 = tuple[float, float, float]


class Tool:
    """Base: does nothing; ``hint`` says what to do next."""

    name = ""
    hint = ""
    crosshair = False
    in_space = False
    """Whether it can be used in 3-D alone."""

    def __init__(self, canvas: "PlanCanvas") -> None:
        self.canvas = canvas
        self.session = canvas.session
        self.snap = Snap((0.0, 0.0), "")
        self.start: Point | None = None

    # What the canvas calls ---------------------------------------------------------------------

    def press(self, event: QMouseEvent) -> None:
        """Left button down."""

    def move(self, event: QMouseEvent) -> None:
        """Pointer moved."""

    def release(self, event: QMouseEvent) -> None:
        """Left button up."""

    def key(self, event: QKeyEvent) -> bool:
        """A key; True when it was taken.  Escape goes back to selecting."""
        if event.key() == Qt.Key.Key_Escape:
            self.canvas.use_tool("select")
            return True
        return False

    def paint(self, painter: QPainter) -> None:
        """Paint over the plan."""

    def leave(self) -> None:
        """Another tool is taken up."""
        self.session.try_out(None)

    # What the 3-D view calls -------------------------------------------------------------------

    def marks(self) -> list[tuple[Place3, str]]:
        """Return the marks that it sets in 3-D, each clicked by its number: where, and what it says."""
        return []

    def press_mark(self, number: int) -> None:
        """A mark clicked in 3-D."""

    # Help --------------------------------------------------------------------------------------

    def take_snap(self, event: QMouseEvent) -> None:
        """Find the point meant; Shift silences snaps."""
        silent = bool(event.modifiers() & Qt.KeyboardModifier.ShiftModifier)
        pointer = self.canvas.to_model(event.position())
        reach, lines = SNAP_PIXELS / self.canvas.zoom, self.canvas.base_drawing_lines()
        self.snap = snap(self.session.model, pointer, reach, self.start, silent, lines, self.session.storey)

    def paint_snap(self, painter: QPainter) -> None:
        """Mark the snapped point and name it at the cursor."""
        at = self.canvas.to_widget(self.snap.point)
        painter.setPen(vermilion(Qt.PenStyle.SolidLine))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        if self.snap.name:
            painter.drawRect(QRectF(at.x() - 4.5, at.y() - 4.5, 9.0, 9.0))
            label(painter, at + QPointF(12.0, -10.0), self.snap.name)
        else:
            painter.drawLine(at - QPointF(6, 0), at + QPointF(6, 0))
            painter.drawLine(at - QPointF(0, 6), at + QPointF(0, 6))


class SnapTool(Tool):
    """Base of tools that click points: the point meant is marked and named while the pointer moves."""

    crosshair = True

    def move(self, event: QMouseEvent) -> None:
        self.take_snap(event)
        self.canvas.update()

    def paint(self, painter: QPainter) -> None:
        self.paint_snap(painter)


def label(painter: QPainter, at: QPointF, text: str) -> None:
    """Paint a small label readable on anything."""
    font = painter.font()
    font.setFamily(FAMILY)
    font.setPixelSize(12)
    painter.setFont(font)
    metrics = painter.fontMetrics()
    box = QRectF(at.x() - 3, at.y() - metrics.ascent() - 1, metrics.horizontalAdvance(text) + 6, metrics.height() + 2)
    painter.fillRect(box, QColor(255, 255, 255, 225))
    painter.setPen(QColor("#22303C"))
    painter.drawText(at, text)


class SelectTool(Tool):
    """Click selects (Ctrl adds), a dragged box takes things; what is selected is dragged (``drags.py``), and the cut."""

    name = "select"
    hint = (
        "Click selects, Ctrl adds; drag a box to take several (Alt: only what lies wholly inside). "
        "Drag what is selected to move it. Right-drag pans, the wheel zooms."
    )

    def __init__(self, canvas: "PlanCanvas") -> None:
        super().__init__(canvas)
        self._press: QPointF | None = None
        self._box: QRectF | None = None
        self._drag: tuple[str, DragTo] | None = None
        self._edit: Edit | None = None
        self._cut_from: tuple[Point, Point] | None = None

    def press(self, event: QMouseEvent) -> None:
        self._press = event.position()
        self._drag = drag_of(self, event)
        if self._drag is None and self.canvas.hit(event.position()) == "cut":
            cut = self.canvas.cut()
            self._cut_from = (cut.start, cut.end)

    # Pointer ---------------------------------------------------------------------------------------

    told = ""
    """What a drag has come to, shown at the pointer."""

    def move(self, event: QMouseEvent) -> None:
        if self._press is None:
            return
        far = (event.position() - self._press).manhattanLength() > 5
        if self._drag is not None and far:
            self.told = ""
            self._edit = self._drag[1](event)
            self.canvas.tell(self.session.try_out(self._edit))
        elif self._cut_from is not None and far:
            self.canvas.move_cut(self._shifted_cut(event), final=False)
        elif far:
            self._box = QRectF(self._press, event.position()).normalized()
        self.canvas.update()

    def _shifted_cut(self, event: QMouseEvent) -> tuple[Point, Point]:
        assert self._cut_from is not None
        assert self._press is not None
        a, b = self._cut_from
        d = unit(a, b)
        shift = sub(self.canvas.to_model(event.position()), self.canvas.to_model(self._press))
        aside = (-d[1], d[0])
        by = dot(shift, aside)
        return add(a, aside, by), add(b, aside, by)

    def release(self, event: QMouseEvent) -> None:
        adds = bool(event.modifiers() & Qt.KeyboardModifier.ControlModifier)
        if self._drag is not None and self._edit is not None:
            self.session.apply(self._drag[0], self._edit)
        elif (
            self._cut_from is not None
            and self._press is not None
            and (event.position() - self._press).manhattanLength() > 5
        ):
            self.canvas.move_cut(self._shifted_cut(event), final=True)
        elif self._box is not None:
            inside = self.canvas.settings.box_inside != bool(event.modifiers() & Qt.KeyboardModifier.AltModifier)
            found = self._inside(self._box, inside)
            self.session.select([*self.session.selection, *found] if adds else found)
        elif self._press is not None:
            ref = self.canvas.hit(event.position())
            if adds and ref in self.session.selection:
                self.session.select([r for r in self.session.selection if r != ref])
            else:
                self.session.select(([*self.session.selection] if adds else []) + ([ref] if ref else []))
        self._press = self._box = self._drag = self._edit = self._cut_from = self.start = None
        self.told = ""
        self.session.try_out(None)
        self.canvas.update()

    def _inside(self, box: QRectF, wholly: bool) -> list[str]:
        x0, y1 = self.canvas.to_model(box.topLeft())
        x1, y0 = self.canvas.to_model(box.bottomRight())
        region = QPainterPath()
        region.addRect(QRectF(x0, y0, x1 - x0, y1 - y0))
        return self.canvas.within(region, wholly)

    def key(self, event: QKeyEvent) -> bool:
        if event.key() == Qt.Key.Key_Escape:
            self.session.select([])
            return True
        if event.key() in (Qt.Key.Key_Delete, Qt.Key.Key_Backspace):
            self.canvas.delete_selected()
            return True
        return False

    def paint(self, painter: QPainter) -> None:
        if self._box is not None:
            painter.setPen(QPen(QColor(SELECTED), 1.0, Qt.PenStyle.DashLine))
            painter.setBrush(QColor(216, 64, 31, 24))
            painter.drawRect(self._box)
        painter.setPen(QPen(QColor(SELECTED), 1.4))
        painter.setBrush(QColor("#FFFFFF"))
        openings = by_id(self.session.project.openings)
        for ref in self.session.selection:
            line, opening = self.session.model.lines.get(ref), openings.get(ref)
            if line is not None:
                for point in (line.band.start, line.band.end):
                    painter.drawEllipse(self.canvas.to_widget(point), 4.5, 4.5)
            elif opening is not None:
                band = self.session.model.lines[opening.wall].band
                for x in (opening.offset, opening.offset + opening.width):
                    at = self.canvas.to_widget(band.at(x, band.set_out))
                    painter.drawRect(QRectF(at.x() - 4.0, at.y() - 4.0, 8.0, 8.0))
        if self._edit is not None and self._drag is not None:
            if self._drag[0] in ("Move wall end", "Move walls") and self.snap.name:
                self.paint_snap(painter)
            if self.told:
                label(painter, self.canvas.pointer + QPointF(16.0, -14.0), self.told)


class PolygonTool(Tool):
    """Select by a region: click its corners; Enter or a click on the first corner closes it."""

    name = "region"
    hint = "Click the corners of a region; Enter, or a click on the first corner, selects what lies in it. Ctrl adds."
    crosshair = True

    def __init__(self, canvas: "PlanCanvas") -> None:
        super().__init__(canvas)
        self.corners: list[Point] = []
        self._at: QPointF | None = None
        self._adds = False

    def press(self, event: QMouseEvent) -> None:
        self._adds = bool(event.modifiers() & Qt.KeyboardModifier.ControlModifier)
        if self.corners:
            first = self.canvas.to_widget(self.corners[0])
            if len(self.corners) > 2 and (first - event.position()).manhattanLength() < 12:
                self.close()
                return
        self.corners.append(self.canvas.to_model(event.position()))
        self.canvas.update()

    def move(self, event: QMouseEvent) -> None:
        self._at = event.position()
        self.canvas.update()

    def close(self) -> None:
        """Select what lies in the region and go back to selecting."""
        if len(self.corners) > 2:
            region = QPainterPath()
            region.addPolygon(QPolygonF([QPointF(*p) for p in (*self.corners, self.corners[0])]))
            found = self.canvas.within(region, self.canvas.settings.box_inside)
            kept = self.session.selection if self._adds else ()
            self.canvas.use_tool("select")
            self.session.select([*kept, *found])
        else:
            self.canvas.use_tool("select")

    def key(self, event: QKeyEvent) -> bool:
        if event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            self.close()
            return True
        if event.key() == Qt.Key.Key_Backspace and self.corners:
            self.corners.pop()
            self.canvas.update()
            return True
        if event.key() == Qt.Key.Key_Escape:
            self.canvas.use_tool("select")
            return True
        return False

    def paint(self, painter: QPainter) -> None:
        points = [self.canvas.to_widget(p) for p in self.corners]
        if self._at is not None and points:
            points.append(self._at)
        painter.setPen(vermilion())
        painter.setBrush(QColor(216, 64, 31, 24))
        painter.drawPolygon(QPolygonF(points))


class CutTool(SnapTool):
    """The cut line of the height strip: two clicks; it looks to the left of the way drawn."""

    name = "cut"
    hint = "Click where the cut starts and where it ends; the section looks to the left. Drag it later."

    def press(self, event: QMouseEvent) -> None:
        self.take_snap(event)
        if self.start is None:
            self.start = self.snap.point
        else:
            a, b = self.start, self.snap.point
            if self.session.apply("Move cut line", lambda p: edits.set_cut(p, a, b)):
                self.canvas.use_tool("select")
        self.canvas.update()

    def paint(self, painter: QPainter) -> None:
        if self.start is not None:
            painter.setPen(QPen(QColor("#2E6A6A"), 2.0, Qt.PenStyle.DashDotLine))
            painter.drawLine(self.canvas.to_widget(self.start), self.canvas.to_widget(self.snap.point))
        self.paint_snap(painter)


def outside_of(start: Point, end: Point, middle: Point | None) -> str:
    """Return on which side of a wall the outside is, given a point inside the building."""
    if middle is None:
        return "right"
    return "right" if cross(sub(end, start), sub(middle, start)) >= 0.0 else "left"
