"""The plan canvas: the plan of the stage and storey, and the tool at work on it."""

import math
from collections.abc import Callable
from functools import partial

import numpy as np
from numpy.typing import NDArray
from PySide6.QtCore import QPointF, Qt, QTimer, Signal
from PySide6.QtGui import QColor, QKeyEvent, QMouseEvent, QPainter, QPainterPath, QPen
from PySide6.QtWidgets import QWidget

from balken.app.drawing_view import DrawingView
from balken.app.entry import CursorEntry, Place
from balken.app.floor_tools import (
    BeamTool,
    DrawFloorTool,
    FillBayTool,
    FloorLoadTool,
    FloorOpeningTool,
    HangWeightTool,
    PastWallTool,
    ShapedOpeningTool,
)
from balken.app.foundation_tools import PadTool, RecessTool, StepTool
from balken.app.painting import write_centred
from balken.app.roof_tools import DormerTool, DrawRoofTool, EdgeTool, GabletTool, RoofOpeningTool
from balken.app.set_out_tools import BaseDrawingTool, GridPlaceTool, SpotTool
from balken.app.storey_box import StoreyBox
from balken.app.tools import CutTool, PolygonTool, SelectTool, Tool, outside_of
from balken.app.wall_tools import OpeningTool, RectangleTool, WallTool
from balken.derived.model import Model
from balken.documents.cross_section import effective_cut
from balken.documents.dimensions import TEXT
from balken.documents.display import Area, Circle, Item, Path, Strokes, Text
from balken.documents.plan import PlanOf, cut_line_items, plan
from balken.exchange.dxf_reader import placed_lines, read_dxf
from balken.exchange.file_errors import FileError
from balken.geometry.plane import Point
from balken.model import edits, foundation_edits
from balken.model.beam_rows import row_of, without_singles
from balken.model.errors import EditError
from balken.model.lookup import by_id, find, foundation_part
from balken.model.naming import grid_and_axis
from balken.model.records import BaseDrawing, CutLine
from balken.panel.kinds_selected import kinds_of, named, owners_of_pads
from balken.panel.trial_lines import plan_sketch_lines, plan_trial_lines
from balken.session.session import Session
from balken.session.tool_settings import Settings

TOOLS: dict[str, type[Tool]] = {
    tool.name: tool
    for tool in (
        SelectTool,
        PolygonTool,
        WallTool,
        RectangleTool,
        OpeningTool,
        CutTool,
        SpotTool,
        GridPlaceTool,
        BaseDrawingTool,
        StepTool,
        RecessTool,
        PadTool,
        BeamTool,
        FloorOpeningTool,
        ShapedOpeningTool,
        PastWallTool,
        FillBayTool,
        DrawFloorTool,
        DrawRoofTool,
        FloorLoadTool,
        EdgeTool,
        RoofOpeningTool,
        DormerTool,
        GabletTool,
        HangWeightTool,
    )
}
FIGURE_PIXELS = 6.2
"""Capitals of dimension figures are about this high at any zoom: the drawing's scale follows it."""
LEAST_PIXELS = 5.2
FINEST = 40.0
"""The scale that fitting begins with."""


def scale_for(zoom: float) -> float:
    """Return the scale whose text heights suit a zoom (pixels a mm), in steps so that it seldom changes."""
    wanted = FIGURE_PIXELS / (TEXT * zoom)
    return float(round(1.15 ** round(math.log(max(wanted, 1.0), 1.15)), 3))


class PlanCanvas(DrawingView):
    """Shows ``what`` of the session's model; runs one tool at a time."""

    tool_changed = Signal(str)
    hint = Signal(str)

    def __init__(self, session: Session, settings: Settings, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.session, self.settings = session, settings
        self.what: Callable[[], PlanOf | None] = lambda: None
        self.last_error = ""
        self.entry = CursorEntry(self)
        self._asked: tuple[str, ...] = ()
        """Of what the last message has said that it would be deleted."""
        self._pointer = QPointF(0.0, 0.0)
        self.scale = 64.0
        self._lines: dict[object, NDArray[np.float64]] = {}
        self._moving_cut: tuple[Point, Point] | None = None
        self.tool: Tool = SelectTool(self)
        self.storeys = StoreyBox(session, self)
        session.changed.connect(self.refresh)
        session.selection_changed.connect(self._show_selection)
        session.trial_changed.connect(self._show_trial)
        session.storey_changed.connect(self.refresh)
        session.hidden_changed.connect(self.refresh)
        session.message.connect(self._note_error)

    # What is shown -------------------------------------------------------------------------------

    def refresh(self) -> None:
        """Draw the plan anew."""
        what = self.what()
        self.storeys.refresh(what is not None and bool(what.storey))
        if what is not None:
            self.set_trial_lines([])
            self.show_made(lambda: self.drawn(self.session.model))
            self._show_selection()

    def drawn(self, model: Model) -> list[Item]:
        what = self.what()
        if what is None:
            return []
        items = [*self._base_drawings(), *plan(model, what, self.scale).items]
        if any(model.groups) or model.project.grids:
            items += cut_line_items(model, effective_cut(model), self.scale)
        if self.session.hidden:
            items = [item for item in items if not self.session.is_hidden(item.ref)]
        return items

    # Base drawings -------------------------------------------------------------------------------------

    def _shown_base_drawings(self) -> list[tuple[BaseDrawing, NDArray[np.float64]]]:
        """Return the base drawings of the storey with their lines in plan; one that cannot be read has none."""
        found = []
        for drawing in self.session.project.base_drawings:
            if drawing.level != self.session.storey or self.session.is_hidden(drawing.id):
                continue
            key = (drawing.path, drawing.scale, drawing.origin, drawing.angle, drawing.layers_off)
            if key not in self._lines:
                try:
                    self._lines[key] = placed_lines(drawing, read_dxf(drawing.path))
                except FileError as error:
                    self._lines[key] = np.zeros((0, 2, 2))
                    QTimer.singleShot(0, partial(self.session.message.emit, str(error), True))
            found.append((drawing, self._lines[key]))
        return found

    def _base_drawings(self) -> list[Item]:
        items: list[Item] = []
        for drawing, lines in self._shown_base_drawings():
            rows = tuple(((a, b), (c, d)) for (a, b), (c, d) in lines.tolist())
            name = drawing.name if rows else f"{drawing.name}: the drawing cannot be read"
            at = (float(lines[:, :, 0].min()), float(lines[:, :, 1].min())) if rows else drawing.origin
            items.append(Strokes(rows, "base drawing", "notes", ""))
            below = (at[0], at[1] - 4.0 * self.scale)
            items.append(Text(below, name, TEXT * self.scale, "left", pen="note", layer="notes", ref=drawing.id))
        return items

    def base_drawing_lines(self) -> NDArray[np.float64]:
        """Return all lines (n, 2, 2) of the base drawings shown, to snap to."""
        shown = [lines for _, lines in self._shown_base_drawings()]
        return np.concatenate(shown) if shown else np.zeros((0, 2, 2))

    # Zoom and scale --------------------------------------------------------------------------------

    def fit(self) -> None:
        """Show everything, at the finest scale at which figures can be read."""
        if self.width() < 20 or self.height() < 20:
            return
        scale = FINEST
        for _ in range(4):  # what stands round the building grows with the figures
            if scale != self.scale:
                self.scale = scale
                self.refresh()
            super().fit()
            if TEXT * self.scale * self.zoom >= LEAST_PIXELS:
                return
            scale = scale_for(self.zoom)

    def _redraw(self) -> None:
        if self.fitted and self.moved and scale_for(self.zoom) != self.scale:
            self.scale = scale_for(self.zoom)
            self.refresh()
            return
        super()._redraw()

    def cut(self) -> CutLine:
        """Return the cut line shown."""
        return effective_cut(self.session.model)

    def _show_selection(self) -> None:
        self.set_selected(self.session.lit)

    def _show_trial(self) -> None:
        """Show what the trial has and the model has not."""
        trial = self.session.trial
        shown = [p.item for p in self.prepared]
        lines = plan_trial_lines(trial, self.session.model, shown) if trial is not None else []
        if self.session.sketch is not None:
            lines += plan_sketch_lines(self.session.sketch)
        self.set_trial_lines(lines)
        if trial is not None:
            self.tell("")
            self.draw_ahead(trial)

    def _note_error(self, text: str, wrong: bool) -> None:
        self.last_error = text if wrong else ""

    def tell(self, reason: str) -> None:
        """Show in the hint line why what is tried out cannot be made, or which findings it would bring."""
        self.hint.emit(reason or self.session.foretold() or self.tool.hint)

    # Tools -----------------------------------------------------------------------------------------

    def use_tool(self, name: str) -> None:
        """Take up a tool by name."""
        self.tool.leave()
        self.entry.hide()
        self.tool = TOOLS[name](self)
        self.setCursor(Qt.CursorShape.CrossCursor if self.tool.crosshair else Qt.CursorShape.ArrowCursor)
        self.hint.emit(self.tool.hint)
        self.tool_changed.emit(name)
        self.update()

    def open_entry(self, fields: list[tuple[str, str]], first: str, place: Place) -> None:
        """Open the typed entry at the cursor."""
        self.entry.open(self._pointer.toPoint(), fields, self.session.project.units, first, place)

    def side(self, start: Point, end: Point) -> str:
        """Return the outside of a new wall: away from the walls already there, or to the right."""
        lines = list(self.session.model.lines.values())
        tool = self.tool
        first = getattr(tool, "first", None)
        chain = [line.band.start for line in lines] + [line.band.end for line in lines]
        if not chain and first is None:
            return "right"
        if len(lines) < 2:
            # With a single corner there is no inside yet: keep the way of the chain.
            return lines[0].wall.outside if lines else "right"
        middle = (sum(p[0] for p in chain) / len(chain), sum(p[1] for p in chain) / len(chain))
        return outside_of(start, end, middle)

    def delete_selected(self) -> None:
        """Remove the records selected; members of layouts cannot be removed one by one."""
        found = (foundation_part(self.session.project, ref) for ref in self.session.selection)
        part = next((part for part in found if part is not None), None)
        if part is not None:
            foundation, kind, number = part
            self.session.apply(f"Remove {kind}", lambda p: foundation_edits.remove_part(p, foundation.id, kind, number))
            return
        singles = [r for r in self.session.selection if row_of(self.session.project, r) is not None]
        if singles:
            self.session.apply("Leave out of its row", lambda p: without_singles(p, singles))
            return
        refs = owners_of_pads(self.session.model, self.session.selection)
        records = [r for r in refs if find(self.session.project, r) is not None]
        if not records:
            if self.session.selection:
                self.session.message.emit(
                    "Members follow from their layout and cannot be deleted singly; change the layout in the card.",
                    True,
                )
            return
        kinds = kinds_of(self.session.project, self.session.model, records)
        if len(kinds) > 1 and self._asked != self.session.selection:
            self._asked = self.session.selection
            self.session.message.emit(
                f"Delete again takes {named(kinds)} away; or choose one kind of them in the card first.", False
            )
            return
        self._asked = ()
        self.session.apply(f"Delete {named(kinds)}", lambda p: edits.remove_all(p, tuple(records)))

    @property
    def pointer(self) -> QPointF:
        """Where the pointer was seen last."""
        return self._pointer

    def within(self, region: QPainterPath, wholly: bool) -> list[str]:
        """Return what lies in a region of the plan: wholly inside, or touching it."""
        found: dict[str, None] = {}
        partly: set[str] = set()
        grids, columns = by_id(self.session.project.grids), by_id(self.session.project.columns)
        for made in self.prepared:
            item = made.item
            if isinstance(item, Text) or not item.ref or item.ref == "cut":
                continue
            if grid_and_axis(item.ref)[0] in grids:
                # An axis runs through everything; it is meant where a region holds one of its bubbles.
                if isinstance(item, Circle) and region.contains(made.path.boundingRect()):
                    found[item.ref] = None
                continue
            if (
                self.bright is not None
                and item.layer not in self.bright
                and not (item.ref in columns and "set out" in self.bright)
            ):
                continue
            if not isinstance(item, Area | Path | Circle):
                continue
            if wholly:
                if region.contains(made.path) or (made.path.isEmpty() and region.contains(made.path.boundingRect())):
                    found[item.ref] = None
                else:
                    partly.add(item.ref)
            elif made.path.intersects(region):
                found[item.ref] = None
        return [ref for ref in found if ref not in partly]

    def move_cut(self, line: tuple[Point, Point], final: bool) -> None:
        """Drag the cut line; the model changes when it is let go."""
        self._moving_cut = None if final else line
        if final:
            self.session.apply("Move cut line", lambda p: edits.set_cut(p, *line))
        self.update()

    # Events ----------------------------------------------------------------------------------------

    def mousePressEvent(self, event: QMouseEvent) -> None:
        self.setFocus()
        self._pointer = event.position()
        if event.button() == Qt.MouseButton.LeftButton:
            try:
                self.tool.press(event)
            except EditError as error:
                self.session.message.emit(str(error), True)
        else:
            super().mousePressEvent(event)

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        super().mouseMoveEvent(event)
        self._pointer = event.position()
        if self._pan_from is None and not self.entry.isVisible():
            self.tool.move(event)

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        if event.button() == Qt.MouseButton.LeftButton:
            self.tool.release(event)
        else:
            super().mouseReleaseEvent(event)
            self.setCursor(Qt.CursorShape.CrossCursor if self.tool.crosshair else Qt.CursorShape.ArrowCursor)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if not self.tool.key(event):
            super().keyPressEvent(event)

    def paint_over(self, painter: QPainter) -> None:
        self.paint_trial_lines(painter)
        if self._moving_cut is not None:
            painter.setPen(QPen(QColor("#2E6A6A"), 2.0, Qt.PenStyle.DashDotLine))
            painter.drawLine(*(self.to_widget(p) for p in self._moving_cut))
        if not self.prepared and not self.trial_lines and not self.tool.crosshair:
            self._paint_nothing(painter)
        self.tool.paint(painter)

    def _paint_nothing(self, painter: QPainter) -> None:
        """Say on the empty sheet what to do first."""
        text = "An empty sheet.\nAdd levels and lay the grid in 1 Set out, then draw the walls in 2 Walls."
        write_centred(painter, self.rect(), text)
