"""The tools of setting out: spot heights of the ground, a grid placed by two points, a base drawing scaled by two."""

from typing import TYPE_CHECKING

from PySide6.QtCore import QPointF
from PySide6.QtGui import QMouseEvent, QPainter

from balken.geometry.plane import Point, distance
from balken.model import base_drawing_edits, column_edits, grid_edits
from balken.model.lookup import by_id, ground
from balken.units import format_length

if TYPE_CHECKING:
    from balken.app.canvas import PlanCanvas

from balken.app.tools import SnapTool, label, vermilion


class SpotTool(SnapTool):
    """Spot heights: click a place, type the height of the ground there."""

    name = "ground"
    hint = "Click a place outside the building and type the height of the ground there; Enter without one repeats it."

    def __init__(self, canvas: "PlanCanvas") -> None:
        super().__init__(canvas)
        level = ground(self.session.project.levels)
        if level is not None and not self.session.project.spots:
            canvas.settings.ground = level.height

    def press(self, event: QMouseEvent) -> None:
        self.take_snap(event)
        point = self.snap.point
        last = format_length(self.canvas.settings.ground, self.session.project.units).replace("\u2212", "-")

        def typed(values: list[float | None]) -> str:
            height = values[0] if values[0] is not None else self.canvas.settings.ground
            self.canvas.settings.ground = height
            ok = self.session.apply("Set ground height", lambda p: column_edits.add_spot(p, point, height))
            return "" if ok else self.canvas.last_error

        self.canvas.open_entry([("height of the ground", "length")], last, typed)
        self.canvas.entry.fields[0].selectAll()


class GridPlaceTool(SnapTool):
    """Place a grid: click where its first axes cross, then a point in the direction of x."""

    name = "place grid"
    hint = "Click where the first axes cross; then a second point, toward which the grid's x direction runs."

    def move(self, event: QMouseEvent) -> None:
        self.take_snap(event)
        if self.start is not None and distance(self.start, self.snap.point) > 50.0:
            start, point, grid = self.start, self.snap.point, self.canvas.settings.placing
            self.canvas.tell(self.session.try_out(lambda p: grid_edits.place_grid(p, grid, start, point)))
        self.canvas.update()

    def press(self, event: QMouseEvent) -> None:
        self.take_snap(event)
        if self.start is None:
            self.start = self.snap.point
            return
        start, point, grid = self.start, self.snap.point, self.canvas.settings.placing
        if self.session.apply("Place grid", lambda p: grid_edits.place_grid(p, grid, start, point)):
            self.canvas.use_tool("select")
            self.session.select([grid])

    def paint(self, painter: QPainter) -> None:
        if self.start is not None:
            painter.setPen(vermilion())
            painter.drawLine(self.canvas.to_widget(self.start), self.canvas.to_widget(self.snap.point))
        self.paint_snap(painter)


class BaseDrawingTool(SnapTool):
    """Scale and place a base drawing: click two of its points, type how far apart they are in truth."""

    name = "place base drawing"
    hint = "Click two points of the drawing and type how far apart they really are; Tab: where the first belongs."

    def __init__(self, canvas: "PlanCanvas") -> None:
        super().__init__(canvas)
        self.points: list[Point] = []

    def press(self, event: QMouseEvent) -> None:
        self.take_snap(event)
        self.points.append(self.snap.point)
        if len(self.points) < 2:
            self.start = None
            return
        first, second = self.points[0], self.points[1]
        if distance(first, second) < 1.0:
            self.points.pop()
            return

        def typed(values: list[float | None]) -> str:
            length, x, y = values
            if length is None:
                return "Type how far apart the two points are."
            to = None if x is None and y is None else (x or 0.0, y or 0.0)
            drawing = self.canvas.settings.placing
            ok = self.session.apply(
                "Place base drawing",
                lambda p: base_drawing_edits.place_base_drawing(p, drawing, first, second, length, to),
            )
            if ok:
                self.canvas.use_tool("select")
                self.session.select([drawing])
                return ""
            return self.canvas.last_error

        now = format_length(distance(first, second), self.session.project.units)
        fields = [("true distance", "length"), ("first point at x", "length"), ("y", "length")]
        self.canvas.open_entry(fields, now, typed)
        self.canvas.entry.fields[0].selectAll()

    def paint(self, painter: QPainter) -> None:
        marks = [self.canvas.to_widget(p) for p in self.points]
        painter.setPen(vermilion())
        if len(marks) == 1:
            painter.drawLine(marks[0], self.canvas.to_widget(self.snap.point))
        elif len(marks) > 1:
            painter.drawLine(marks[0], marks[1])
        for mark in marks:
            painter.drawEllipse(mark, 4.0, 4.0)
        name = getattr(by_id(self.session.project.base_drawings).get(self.canvas.settings.placing), "name", "")
        if name and not marks:
            label(painter, self.canvas.pointer + QPointF(14.0, 22.0), f"a point of {name}")
        self.paint_snap(painter)
