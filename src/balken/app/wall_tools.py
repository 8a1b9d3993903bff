"""The tools that draw walls and place openings."""

import math
from typing import TYPE_CHECKING

from PySide6.QtCore import QPointF, Qt
from PySide6.QtGui import QColor, QKeyEvent, QMouseEvent, QPainter, QPolygonF

from balken.geometry.plane import Point, add, distance, off_line, sub, turn, unit
from balken.model import edits
from balken.model.lookup import locate
from balken.model.records import Project
from balken.panel.snapping import heading_at
from balken.units import format_length

if TYPE_CHECKING:
    from balken.app.canvas import PlanCanvas

from balken.app.tools import Tool, label, vermilion


class WallTool(Tool):
    """Walls corner to corner: click or type a length (Tab: its angle, or by how much it turns from the last wall); Enter or Esc ends the
    chain.
    """

    name = "walls"
    hint = (
        "Click the first corner, then each next one; or type a length (Tab: angle, Tab again: turn from the last wall) and Enter. "
        "Shift silences snaps, Backspace takes the last wall back, Esc ends."
    )
    crosshair = True

    def __init__(self, canvas: "PlanCanvas") -> None:
        super().__init__(canvas)
        self.first: Point | None = None
        self.chain: list[str] = []

    def press(self, event: QMouseEvent) -> None:
        self.take_snap(event)
        self.place(self.snap.point)

    def place(self, point: Point) -> str:
        """Take a corner; returns why it cannot be, or ""."""
        if self.start is None:
            self.start = self.first = point
            self.chain = []
            self.canvas.update()
            return ""
        start = self.start
        closed = self.first is not None and len(self.chain) > 1 and distance(point, self.first) < 1.0
        chain = [w for w in self.chain if any(w == wall.id for wall in self.session.project.walls)]

        def draw(project: Project) -> Project:
            project = self.edit(project, start, point)
            if closed and self.canvas.settings.wall.role == "outside":
                return edits.orient_outline(project, (*chain, project.walls[-1].id))
            return project

        if not self.session.apply("Draw wall", draw):
            return self.canvas.last_error
        self.chain = [*chain, self.session.project.walls[-1].id]
        self.start = None if closed else point
        if closed:
            self.first = None
        self.session.try_out(None)
        self.canvas.update()
        return ""

    def edit(self, project: Project, start: Point, end: Point) -> Project:
        """Return the project with the wall; its outside is on the side away from the walls' middle."""
        s = self.canvas.settings.wall
        foot, head = s.heights(project, self.session.storey)
        return edits.add_wall(
            project, start, end, s.buildup, foot, head, s.set_out, self.canvas.side(start, end), s.role
        )

    def move(self, event: QMouseEvent) -> None:
        self.take_snap(event)
        if self.start is not None and distance(self.start, self.snap.point) > 100.0:
            start, point = self.start, self.snap.point
            reason = self.session.try_out(lambda p: self.edit(p, start, point))
            self.canvas.tell(reason)
        self.canvas.update()

    def key(self, event: QKeyEvent) -> bool:
        if event.key() in (Qt.Key.Key_Escape, Qt.Key.Key_Return, Qt.Key.Key_Enter):
            if self.start is not None:
                self.start = self.first = None
                self.session.try_out(None)
                self.canvas.update()
            else:
                self.canvas.use_tool("select")
            return True
        if event.key() == Qt.Key.Key_Backspace and self.start is not None:
            walls = self.session.project.walls
            self.session.undo()
            removed = [w for w in walls if w not in self.session.project.walls]
            if removed:
                self.start = locate(removed[-1].start, self.session.project.grids)
            self.canvas.update()
            return True
        text = event.text()
        if self.start is not None and text and (text.isdigit() or text in ".'-"):
            fields = [("length", "length"), ("angle", "angle"), ("or turn", "angle")]
            self.canvas.open_entry(fields if self._last() else fields[:2], text, self.typed)
            return True
        return False

    def typed(self, values: list[float | None]) -> str:
        """Place the next corner from a typed length and angle, or turn from the last wall: to the left above zero."""
        if self.start is None:
            return "Click the first corner first."
        length, angle, turned = (*values, None)[:3]
        if length is None or length <= 0.0:
            return "Type a length above zero."
        if angle is not None and turned is not None:
            return "Type an angle or a turn, not both."
        direction, last = self._heading(), self._last()
        if angle is not None:
            direction = turn((1.0, 0.0), angle)
        if turned is not None and last is not None:
            direction = turn(last, turned)
        return self.place(add(self.start, direction, length))

    def _last(self) -> Point | None:
        """Return the direction of the wall drawn before in this chain, None for the first."""
        walls = {wall.id: wall for wall in self.session.project.walls}
        last = next((walls[w] for w in reversed(self.chain) if w in walls), None)
        if last is None:
            return None
        grids = self.session.project.grids
        return unit(locate(last.start, grids), locate(last.end, grids))

    def _heading(self) -> Point:
        assert self.start is not None
        if distance(self.start, self.snap.point) < 1.0:
            return (1.0, 0.0)
        return unit(self.start, self.snap.point)

    def paint(self, painter: QPainter) -> None:
        if self.start is not None:
            a, b = self.canvas.to_widget(self.start), self.canvas.to_widget(self.snap.point)
            painter.setPen(vermilion())
            painter.drawLine(a, b)
            long = distance(self.start, self.snap.point)
            if long > 1.0:
                dx, dy = sub(self.snap.point, self.start)
                angle = math.degrees(math.atan2(dy, dx))
                text = f"{format_length(long, self.session.project.units)}   {angle:.0f}\u00b0"
                last = self._last()
                if last is not None:
                    turned = math.degrees(math.atan2(last[0] * dy - last[1] * dx, last[0] * dx + last[1] * dy))
                    text += f", turns {turned:.0f}\u00b0"
                label(painter, (a + b) / 2.0 + QPointF(8.0, -8.0), text)
        self.paint_snap(painter)


class RectangleTool(Tool):
    """Four walls from two opposite corners, or a corner and two typed lengths; along the grid it stands in, where there is one."""

    name = "rectangle"
    hint = "Click one corner, then the opposite one; or type the length along x (of the grid, where one is near), Tab, along y, Enter."
    crosshair = True

    def press(self, event: QMouseEvent) -> None:
        self.take_snap(event)
        if self.start is None:
            self.start = self.snap.point
        else:
            self.place(self.snap.point)
        self.canvas.update()

    def place(self, corner: Point) -> str:
        """Draw the four walls; returns why not, or ""."""
        assert self.start is not None
        start = self.start
        if not self.session.apply("Draw rectangle", lambda p: self.edit(p, start, corner)):
            return self.canvas.last_error
        self.start = None
        self.session.try_out(None)
        return ""

    def edit(self, project: Project, a: Point, b: Point) -> Project:
        """Return the project with four walls round the rectangle, anticlockwise, outside outward."""
        s = self.canvas.settings.wall
        foot, head = s.heights(project, self.session.storey)
        corners = self.corners(a, b)
        for i, start in enumerate(corners):
            project = edits.add_wall(
                project, start, corners[(i + 1) % 4], s.buildup, foot, head, s.set_out, "right", s.role
            )
        return project

    def corners(self, a: Point, b: Point) -> tuple[Point, Point, Point, Point]:
        """Return the corners anticlockwise, the sides along and across the nearest grid."""
        angle = heading_at(self.session.project, a, self.session.storey)
        wide, tall = turn(sub(b, a), -angle)
        xs, ys = sorted((0.0, wide)), sorted((0.0, tall))
        p, q, r, s = (add(a, turn((xs[i], ys[j]), angle)) for i, j in ((0, 0), (1, 0), (1, 1), (0, 1)))
        return p, q, r, s

    def move(self, event: QMouseEvent) -> None:
        start, self.start = self.start, None
        self.take_snap(event)
        self.start = start
        if start is not None and distance(start, self.snap.point) > 300.0:
            point = self.snap.point
            self.canvas.tell(self.session.try_out(lambda p: self.edit(p, start, point)))
        self.canvas.update()

    def key(self, event: QKeyEvent) -> bool:
        if event.key() == Qt.Key.Key_Escape:
            if self.start is None:
                self.canvas.use_tool("select")
            self.start = None
            self.session.try_out(None)
            self.canvas.update()
            return True
        if self.start is not None and event.text().isdigit():
            self.canvas.open_entry([("along x", "length"), ("along y", "length")], event.text(), self.typed)
            return True
        return False

    def typed(self, values: list[float | None]) -> str:
        """Place the opposite corner from two typed lengths."""
        wide, tall = values
        if self.start is None or not wide or not tall:
            return "Type both lengths; Tab goes to the second."
        angle = heading_at(self.session.project, self.start, self.session.storey)
        return self.place(add(self.start, turn((wide, tall), angle)))

    def paint(self, painter: QPainter) -> None:
        if self.start is not None:
            corners = self.corners(self.start, self.snap.point)
            painter.setPen(vermilion())
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawPolygon(QPolygonF([self.canvas.to_widget(p) for p in corners]))
            units = self.session.project.units
            wide, tall = distance(corners[0], corners[1]), distance(corners[1], corners[2])
            b = self.canvas.to_widget(self.snap.point)
            label(painter, b + QPointF(12.0, 20.0), f"{format_length(wide, units)} x {format_length(tall, units)}")
        self.paint_snap(painter)


class OpeningTool(Tool):
    """Openings: point at a wall and click, or type the distance from its start corner."""

    name = "opening"
    hint = "Point at a wall and click; or type the distance from the wall's start corner (Tab: width) and Enter."
    crosshair = True

    def __init__(self, canvas: "PlanCanvas") -> None:
        super().__init__(canvas)
        self.wall = ""
        self.offset = 0.0

    def move(self, event: QMouseEvent) -> None:
        pointer = self.canvas.to_model(event.position())
        best = (40.0 / self.canvas.zoom, "")
        for wall_id, line in self.session.model.lines.items():
            along, aside = off_line(pointer, line.band.start, line.band.end)
            if 0.0 <= along <= line.band.length:
                best = min(best, (abs(aside), wall_id))
        self.wall = best[1]
        if self.wall:
            band = self.session.model.lines[self.wall].band
            along, _ = off_line(pointer, band.start, band.end)
            step = 25.4 if self.session.project.units.value == "ft-in" else 10.0
            wide = self.canvas.settings.opening.width
            free = max(band.length - wide, 0.0)
            self.offset = min(max(round((along - wide / 2.0) / step) * step, 0.0), free)
            self.canvas.tell(self.session.try_out(lambda p: self.edit(p, self.offset)))
        else:
            self.session.try_out(None)
        self.canvas.update()

    def edit(self, project: Project, offset: float, width: float | None = None) -> Project:
        """Return the project with the opening."""
        s = self.canvas.settings.opening
        sill = 0.0 if s.kind == "door" else s.sill
        return edits.add_opening(project, self.wall, s.kind, offset, width or s.width, s.height, sill)

    def press(self, event: QMouseEvent) -> None:
        self.move(event)
        if self.wall:
            offset = self.offset
            self.session.try_out(None)
            self.session.apply("Place opening", lambda p: self.edit(p, offset))

    def key(self, event: QKeyEvent) -> bool:
        if event.key() == Qt.Key.Key_Escape:
            self.canvas.use_tool("select")
            return True
        if self.wall and event.text().isdigit():
            self.canvas.open_entry([("from corner", "length"), ("width", "length")], event.text(), self.typed)
            return True
        return False

    def typed(self, values: list[float | None]) -> str:
        """Place at a typed distance from the start corner."""
        offset, width = values
        if offset is None:
            return "Type the distance from the corner."
        self.session.try_out(None)
        ok = self.session.apply("Place opening", lambda p: self.edit(p, offset, width))
        return "" if ok else self.canvas.last_error

    def paint(self, painter: QPainter) -> None:
        line = self.session.model.lines.get(self.wall)
        if line is None:
            return
        b, wide = line.band, self.canvas.settings.opening.width
        corners = [
            self.canvas.to_widget(b.at(s, d))
            for s, d in (
                (self.offset, 0.0),
                (self.offset + wide, 0.0),
                (self.offset + wide, line.thickness),
                (self.offset, line.thickness),
            )
        ]
        painter.setPen(vermilion(Qt.PenStyle.SolidLine))
        painter.setBrush(QColor(255, 255, 255, 190))
        painter.drawPolygon(corners)
        text = f"{format_length(self.offset, self.session.project.units)} from the start corner"
        label(painter, corners[0] + QPointF(10.0, -12.0), text)
