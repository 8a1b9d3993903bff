"""The tools of floors: beams drawn from point to point, openings from corner to corner, parts that reach past walls."""

from collections.abc import Callable
from typing import TYPE_CHECKING

from PySide6.QtCore import QRectF, Qt
from PySide6.QtGui import QKeyEvent, QMouseEvent, QPainter, QPolygonF

from balken.geometry.plane import Point, add, distance, turn, unit
from balken.model.beam_edits import add_beam, add_floor_opening, floor_at
from balken.model.beam_rows import bay_around, fill_bay, grid_corners
from balken.model.floor_edits import (
    add_floor_load,
    add_shaped_opening,
    draw_floor,
    past_between,
    past_ways,
    room_around,
)
from balken.model.records import Hang, Project
from balken.model.roof_edits import hang_weight
from balken.units import format_length

if TYPE_CHECKING:
    from balken.app.canvas import PlanCanvas

from balken.app.tools import SnapTool, label, vermilion

SHORTEST = 300.0
CLOSES = 12
"""A click so near to the first corner closes the outline, pixels."""


class TwoPointTool(SnapTool):
    """Things drawn from one click to the next, or to typed figures; tried out while the pointer moves."""

    deed = ""
    """What undo calls it."""
    asked: tuple[tuple[str, str], tuple[str, str]]
    """What can be typed after the first click: (label, kind)."""

    def __init__(self, canvas: "PlanCanvas") -> None:
        super().__init__(canvas)
        self.start: Point | None = None

    def edit(self, project: Project, start: Point, end: Point) -> Project:
        """Return the project with the thing drawn."""
        raise NotImplementedError

    def newest(self, project: Project) -> str:
        """Return the id of the thing drawn last."""
        raise NotImplementedError

    def typed(self, values: list[float | None]) -> str:
        """End it at typed figures; returns why it cannot be, or ""."""
        raise NotImplementedError

    def move(self, event: QMouseEvent) -> None:
        self.take_snap(event)
        if self.start is not None and distance(self.start, self.snap.point) > SHORTEST:
            start, end = self.start, self.snap.point
            self.canvas.tell(self.session.try_out(lambda p: self.edit(p, start, end)))
        self.canvas.update()

    def press(self, event: QMouseEvent) -> None:
        self.take_snap(event)
        self.place(self.snap.point)

    def place(self, point: Point) -> str:
        """Take a point; returns why it cannot be, or ""."""
        if self.start is None:
            self.start = point
            self.canvas.update()
            return ""
        start = self.start
        self.session.try_out(None)
        if not self.session.apply(self.deed, lambda p: self.edit(p, start, point)):
            return self.canvas.last_error
        self.start = None
        self.session.select([self.newest(self.session.project)])
        self.canvas.update()
        return ""

    def key(self, event: QKeyEvent) -> bool:
        if event.key() == Qt.Key.Key_Escape and self.start is not None:
            self.start = None
            self.session.try_out(None)
            self.canvas.update()
            return True
        text = event.text()
        if self.start is not None and text and (text.isdigit() or text in ".'"):
            self.canvas.open_entry(list(self.asked), text, self.typed)
            return True
        return super().key(event)


class BeamTool(TwoPointTool):
    """Beams: click where one begins, then where it ends; or type its length (Tab: angle)."""

    name = "beam"
    hint = (
        "Click where the beam begins, then where it ends; or type its length (Tab: angle) and Enter. It carries the floor of "
        "this storey; its kind, section and posts are in the card."
    )

    deed = "Draw beam"
    asked = (("length", "length"), ("angle", "angle"))

    def edit(self, project: Project, start: Point, end: Point) -> Project:
        """Return the project with the beam, under the floor of the storey shown."""
        storey = self.session.storey or project.levels[0].id
        return add_beam(project, start, end, Hang(level=storey), floor_at(project, storey))

    def newest(self, project: Project) -> str:
        return project.beams[-1].id

    def typed(self, values: list[float | None]) -> str:
        """End the beam at a typed length and angle."""
        if self.start is None:
            return "Click where the beam begins first."
        length, angle = values
        if length is None:
            return "Type its length."
        if angle is not None:
            way = turn((1.0, 0.0), angle)
        elif distance(self.start, self.snap.point) > 1.0:
            way = unit(self.start, self.snap.point)
        else:
            return "Point to where it runs, or type an angle (Tab)."
        return self.place(add(self.start, way, length))

    def paint(self, painter: QPainter) -> None:
        if self.start is not None:
            painter.setPen(vermilion())
            a, b = self.canvas.to_widget(self.start), self.canvas.to_widget(self.snap.point)
            painter.drawLine(a, b)
            long = format_length(distance(self.start, self.snap.point), self.session.project.units)
            label(painter, (a + b) / 2.0, long)
        self.paint_snap(painter)


class OutlineTool(SnapTool):
    """Outlines drawn corner by corner."""

    deed = ""
    """What undo calls it."""

    def outlined(self, project: Project, storey: str, corners: tuple[Point, ...]) -> Project:
        """Return the project with what lies within the corners."""
        raise NotImplementedError

    def newest(self, project: Project) -> str:
        """Return the id of what was drawn last."""
        raise NotImplementedError

    def other(self, event: QMouseEvent, storey: str) -> bool:
        """Do what a click with a key held does at the beginning; tells whether it did."""
        return False

    def __init__(self, canvas: "PlanCanvas") -> None:
        super().__init__(canvas)
        self.corners: list[Point] = []

    @property
    def storey(self) -> str:
        """The storey that is worked on, else the lowest level."""
        return self.session.storey or self.session.project.levels[0].id

    def move(self, event: QMouseEvent) -> None:
        self.take_snap(event)
        self.canvas.update()

    def press(self, event: QMouseEvent) -> None:
        self.take_snap(event)
        storey = self.storey
        if not self.corners and self.other(event, storey):
            return
        if len(self.corners) > 2:
            first = self.canvas.to_widget(self.corners[0])
            if (first - event.position()).manhattanLength() < CLOSES:
                self.close()
                return
        self.corners.append(self.snap.point)
        self.canvas.update()

    def close(self) -> None:
        """Make what lies within the corners clicked."""
        corners, storey = tuple(self.corners), self.storey
        if self.lay(lambda p: self.outlined(p, storey, corners)):
            self.corners = []
            self.canvas.update()

    def lay(self, edit: Callable[[Project], Project]) -> bool:
        """Run an edit and select what it made; tells whether it could be."""
        done = bool(self.session.apply(self.deed, edit))
        if done:
            self.session.select([self.newest(self.session.project)])
        return done

    def key(self, event: QKeyEvent) -> bool:
        if event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter) and self.corners:
            self.close()
            return True
        if event.key() in (Qt.Key.Key_Escape, Qt.Key.Key_Backspace) and self.corners:
            self.corners = self.corners[:-1] if event.key() == Qt.Key.Key_Backspace else []
            self.canvas.update()
            return True
        return super().key(event)

    def paint(self, painter: QPainter) -> None:
        if self.corners:
            painter.setPen(vermilion())
            points = [self.canvas.to_widget(p) for p in (*self.corners, self.snap.point)]
            painter.drawPolyline(QPolygonF(points))
        self.paint_snap(painter)


class DrawFloorTool(OutlineTool):
    """Floors drawn corner by corner; or, with Ctrl, one click inside a room."""

    name = "draw floor"
    hint = (
        "Click the corners of the floor one after the other; Enter, or a click on the first one, closes it. Or click inside a room "
        "with Ctrl held. Joists bear on the walls and beams they cross."
    )
    deed = "Draw floor"

    def outlined(self, project: Project, storey: str, corners: tuple[Point, ...]) -> Project:
        """Return the project with the floor."""
        return draw_floor(project, storey, corners)

    def newest(self, project: Project) -> str:
        return project.floors[-1].id

    def other(self, event: QMouseEvent, storey: str) -> bool:
        """Lay a floor in the room clicked with Ctrl held."""
        if not event.modifiers() & Qt.KeyboardModifier.ControlModifier:
            return False
        at = self.canvas.to_model(event.position())
        self.lay(lambda p: draw_floor(p, storey, room_around(p, at, storey)))
        return True


class ShapedOpeningTool(OutlineTool):
    """Openings of any shape in floors, corner by corner."""

    name = "shaped opening"
    hint = (
        "Click the corners of the opening one after the other; Enter, or a click on the first one, closes it. Headers and trimmers "
        "frame the rectangle about it."
    )
    deed = "Leave opening"

    def outlined(self, project: Project, storey: str, corners: tuple[Point, ...]) -> Project:
        """Return the project with the opening in the floor of the storey shown."""
        return add_shaped_opening(project, floor_at(project, storey), corners)

    def newest(self, project: Project) -> str:
        return project.floor_openings[-1].id


class CornersTool(TwoPointTool):
    """Rectangles by two opposite corners, or by one and typed sides; the hint beside the pointer says how large it is."""

    begin = "Click one corner first."

    def typed(self, values: list[float | None]) -> str:
        """Take typed sides; they run to where the pointer is."""
        if self.start is None:
            return self.begin
        one, other = values
        if one is None or other is None:
            return f"Type its {self.asked[0][0]}, and (Tab) its {self.asked[1][0]}."
        (x, y), (px, py) = self.start, self.snap.point
        return self.place((x + (one if px >= x else -one), y + (other if py >= y else -other)))

    def paint(self, painter: QPainter) -> None:
        if self.start is not None:
            painter.setPen(vermilion())
            a, b = self.canvas.to_widget(self.start), self.canvas.to_widget(self.snap.point)
            painter.drawRect(QRectF(a, b).normalized())
            units, (x0, y0), (x1, y1) = self.session.project.units, self.start, self.snap.point
            label(painter, b, f"{format_length(abs(x1 - x0), units)} x {format_length(abs(y1 - y0), units)}")
        self.paint_snap(painter)


class FillBayTool(CornersTool):
    """Bays filled with beams: click inside a bay between axes, walls or beams; or, with Ctrl, two opposite corners."""

    name = "fill bay"
    hint = (
        "Click inside a bay between axes, walls or beams to fill it; or, with Ctrl held, one corner, then the one opposite. How "
        "far apart its beams lie, their kind and section are in the card."
    )

    deed = "Fill bay"
    asked = (("length", "length"), ("width", "length"))
    begin = "Click one corner with Ctrl held first."

    def edit(self, project: Project, start: Point, end: Point) -> Project:
        """Return the project with beams over the rectangle, under the floor of the storey shown."""
        storey = self.session.storey or project.levels[0].id
        return fill_bay(project, grid_corners(project, start, end), Hang(level=storey), floor_at(project, storey))

    def newest(self, project: Project) -> str:
        return project.beam_rows[-1].id

    def press(self, event: QMouseEvent) -> None:
        self.take_snap(event)
        if self.start is not None or event.modifiers() & Qt.KeyboardModifier.ControlModifier:
            self.place(self.snap.point)
            return
        at = self.canvas.to_model(event.position())
        storey = self.session.storey or self.session.project.levels[0].id

        def fill(p: Project) -> Project:
            return fill_bay(p, bay_around(p, at, storey), Hang(level=storey), floor_at(p, storey))

        if self.session.apply(self.deed, fill):
            self.session.select([self.newest(self.session.project)])
        self.canvas.update()


class FloorLoadTool(CornersTool):
    """Loads in one place: click one corner, then the one opposite; twice the same place for a point."""

    name = "floor load"
    hint = (
        "Click one corner of where the load lies, then the one opposite; or twice the same place for a point. How much it is "
        "stands in the card: 300 lb of live load to begin with."
    )

    deed = "Put load"
    asked = (("width", "length"), ("depth", "length"))

    def edit(self, project: Project, start: Point, end: Point) -> Project:
        """Return the project with the load on the floor of the storey shown."""
        storey = self.session.storey or project.levels[0].id
        return add_floor_load(project, floor_at(project, storey), start, end)

    def newest(self, project: Project) -> str:
        return project.floor_loads[-1].id


class HangWeightTool(FloorLoadTool):
    """Weights on trusses: click one corner, then the one opposite; twice the same place for a point."""

    name = "hang weight"
    hint = (
        "Click one corner of where the weight hangs under trusses, then the one opposite; or twice the same place for a point. How "
        "much it is stands in the card: 200 lb dead to begin with."
    )

    deed = "Hang weight"

    def edit(self, project: Project, start: Point, end: Point) -> Project:
        """Return the project with the weight under the roof of trusses over that place."""
        return hang_weight(project, start, end)

    def newest(self, project: Project) -> str:
        return project.truss_loads[-1].id


class PastWallTool(TwoPointTool):
    """Parts of a floor that reach past a wall: click on the wall where one begins, then its far corner outside."""

    name = "past wall"
    hint = (
        "Click on the wall where the part begins, then its far corner outside the wall; or type how long it is (Tab: how far it "
        "reaches) and Enter. Joists run on over the wall; figures are in the card of the floor."
    )

    deed = "Reach past wall"
    asked = (("length", "length"), ("reach", "length"))

    def edit(self, project: Project, start: Point, end: Point) -> Project:
        """Return the project with the floor of the storey shown reaching past the wall there."""
        storey = self.session.storey or project.levels[0].id
        return past_between(project, floor_at(project, storey), start, end)

    def newest(self, project: Project) -> str:
        return floor_at(project, self.session.storey or project.levels[0].id)

    def typed(self, values: list[float | None]) -> str:
        """Take typed figures: along the wall to where the pointer is, and outward."""
        if self.start is None:
            return "Click on the wall where it begins first."
        length, reach = values
        if length is None or reach is None:
            return "Type its length, and (Tab) how far it reaches."
        project = self.session.project
        floor = floor_at(project, self.session.storey or project.levels[0].id)
        along, out = past_ways(project, floor, self.start, self.snap.point)
        return self.place(add(add(self.start, along, length), out, reach))

    def paint(self, painter: QPainter) -> None:
        if self.start is not None:
            painter.setPen(vermilion())
            a, b = self.canvas.to_widget(self.start), self.canvas.to_widget(self.snap.point)
            painter.drawLine(a, b)
        self.paint_snap(painter)


class FloorOpeningTool(CornersTool):
    """Openings in floors: click one corner, then the one opposite; or type width and depth."""

    name = "floor opening"
    hint = (
        "Click one corner of the opening, then the one opposite; or type its width (Tab: depth) and Enter. With Ctrl held the "
        "first click begins one of any shape. What it is for and through which floors it goes is in the card."
    )

    deed = "Leave opening"
    asked = (("width", "length"), ("depth", "length"))

    def press(self, event: QMouseEvent) -> None:
        """Take a corner; with Ctrl held, begin an opening of any shape with it."""
        if self.start is None and event.modifiers() & Qt.KeyboardModifier.ControlModifier:
            self.canvas.use_tool(ShapedOpeningTool.name)
            self.canvas.tool.press(event)
            return
        super().press(event)

    def edit(self, project: Project, start: Point, end: Point) -> Project:
        """Return the project with the opening in the floor of the storey shown."""
        storey = self.session.storey or project.levels[0].id
        return add_floor_opening(project, floor_at(project, storey), start, end)

    def newest(self, project: Project) -> str:
        return project.floor_openings[-1].id
