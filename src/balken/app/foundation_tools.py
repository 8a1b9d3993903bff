"""The tools of foundations: steps placed along a run, openings and pockets, pads set singly."""

from typing import TYPE_CHECKING

from PySide6.QtCore import QPointF, Qt
from PySide6.QtGui import QMouseEvent, QPainter

from balken.framing.foundations import FoundationRun
from balken.geometry.plane import off_line
from balken.model import edits, foundation_edits
from balken.model.errors import EditError
from balken.model.lookup import listed, next_id
from balken.model.records import Hang, Project, Recess
from balken.units import Units, format_length
from balken.units.system import INCH

if TYPE_CHECKING:
    from balken.app.canvas import PlanCanvas

from balken.app.tools import SnapTool, Tool, label, vermilion


class RunTool(Tool):
    """Base: points at a foundation wall; ``at`` is the distance from its wall's start corner."""

    crosshair = True

    def __init__(self, canvas: "PlanCanvas") -> None:
        super().__init__(canvas)
        self.run: FoundationRun | None = None
        self.at = 0.0

    def point(self, event: QMouseEvent) -> None:
        """Find the run nearest to the pointer, and where along it."""
        pointer = self.canvas.to_model(event.position())
        best: tuple[float, FoundationRun | None, float] = (60.0 / self.canvas.zoom, None, 0.0)
        for run in self.session.model.runs:
            along, aside = off_line(pointer, run.band.start, run.band.end)
            if run.span[0] <= along <= run.span[1] and abs(aside) < best[0]:
                best = (abs(aside), run, along)
        _, self.run, along = best
        silent = event.modifiers() & Qt.KeyboardModifier.ShiftModifier
        step = 1.0 if silent else INCH if self.session.project.units is Units.IMPERIAL else 10.0
        self.at = round(along / step) * step

    def paint(self, painter: QPainter) -> None:
        if self.run is None:
            return
        near, far = self.run.faces
        ends = [self.canvas.to_widget(self.run.band.at(self.at, d)) for d in (near - 300.0, far + 300.0)]
        painter.setPen(vermilion(Qt.PenStyle.SolidLine))
        painter.drawLine(*ends)
        text = f"{format_length(self.at, self.session.project.units)} from the start corner"
        label(painter, self.canvas.pointer + QPointF(14.0, -12.0), text)


class StepTool(RunTool):
    """A step: point at a foundation wall and click, or type; then the drop."""

    name = "step"
    hint = "Point at a foundation wall and click; type where and how far it steps down (below zero: up), Enter."

    def move(self, event: QMouseEvent) -> None:
        self.point(event)
        if self.run is not None:
            run, at, drop = self.run, self.at, self.canvas.settings.drop
            self.canvas.tell(
                self.session.try_out(lambda p: foundation_edits.add_step(p, run.foundation.id, run.wall, at, drop))
            )
        else:
            self.session.try_out(None)
        self.canvas.update()

    def press(self, event: QMouseEvent) -> None:
        self.point(event)
        if self.run is None:
            return
        run, units = self.run, self.session.project.units

        def typed(values: list[float | None]) -> str:
            at = values[0] if values[0] is not None else self.at
            drop = values[1] if values[1] is not None else self.canvas.settings.drop
            self.canvas.settings.drop = drop
            self.session.try_out(None)
            ok = self.session.apply(
                "Step foundation", lambda p: foundation_edits.add_step(p, run.foundation.id, run.wall, at, drop)
            )
            return "" if ok else self.canvas.last_error

        self.canvas.open_entry([("along", "length"), ("drop", "length")], format_length(self.at, units), typed)
        self.canvas.entry.fields[1].setText(format_length(self.canvas.settings.drop, units).replace("\u2212", "-"))
        self.canvas.entry.fields[0].selectAll()


class RecessTool(RunTool):
    """A pocket or opening in a foundation wall; what it is like is changed in the card afterwards."""

    name = "recess"
    hint = "Point at a foundation wall and click where a girder pocket begins; the card changes it to an opening."

    def move(self, event: QMouseEvent) -> None:
        self.point(event)
        if self.run is not None:
            run, at = self.run, self.at
            self.canvas.tell(self.session.try_out(lambda p: _with_recess(p, run, at)))
        else:
            self.session.try_out(None)
        self.canvas.update()

    def press(self, event: QMouseEvent) -> None:
        self.point(event)
        if self.run is None:
            return
        run, at = self.run, self.at
        self.session.try_out(None)
        if self.session.apply("Place pocket", lambda p: _with_recess(p, run, at)):
            self.canvas.use_tool("select")
            self.session.select([self.session.project.recesses[-1].id])


def _with_recess(project: Project, run: FoundationRun, at: float) -> Project:
    depth = min(4.0 * INCH, run.foundation.thickness / 2.0)
    return edits.add(
        project,
        Recess(id=next_id(project, Recess), foundation=run.foundation.id, wall=run.wall, offset=at, depth=depth),
    )


class PadTool(SnapTool):
    """Pads set singly, each with its pier."""

    name = "pad"
    hint = "Click where a pad stands: an axis crossing, a column, any place. Its size and pier are in the card."

    def press(self, event: QMouseEvent) -> None:
        self.take_snap(event)
        point = self.snap.point
        try:
            top, head = pad_heights(self.session.project)
        except EditError as error:
            self.session.message.emit(str(error), True)
            return
        pier = 12.0 * INCH
        if self.session.apply("Set pad", lambda p: foundation_edits.add_pads(p, (point,), top, head, pier)):
            self.session.select([self.session.project.pads[-1].id])


def pad_heights(project: Project) -> tuple[Hang, Hang]:
    """Return where new pads and their piers' heads lie: the lowest top of footing, the top of foundation.

    Raises EditError when no level has those roles.
    """
    footings = [v for v in listed(project.levels) if v.role == "top of footing"]
    heads = [v for v in listed(project.levels) if v.role == "top of foundation"]
    if not footings or not heads:
        raise EditError(
            "no level is the top of a footing or of a foundation.", "Pads", "Add both in 1 Set out (Add level)."
        )
    foot = min(footings, key=lambda v: v.height)
    head = max(heads, key=lambda v: v.height)
    return Hang(level=foot.id), Hang(level=head.id)
