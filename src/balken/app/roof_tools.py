"""The tool of roofs: what a roof of planes does at an edge, switched by a click."""

from typing import TYPE_CHECKING

from PySide6.QtGui import QMouseEvent, QPainter

from balken.framing.surface_roofs import SurfacePlan
from balken.geometry.plane import to_segment
from balken.model.roof_edits import NEXT, side_of, switch_side

if TYPE_CHECKING:
    from balken.app.canvas import PlanCanvas

from balken.app.tools import SnapTool, label, vermilion

NEAR = 25.0
"""How near (pixels) to an edge the pointer must be."""
SAYS = {"eave": "make it an eave", "gable": "make it a gable", "wall": "let it stand against a wall"}


class EdgeTool(SnapTool):
    """Edges of roofs of planes: a click makes an eave a gable, that an edge against a wall, that an eave again."""

    name = "roof edge"
    hint = (
        "Click an edge of a roof: an eave becomes a gable, a gable stands against a wall, that becomes an eave again."
    )

    def __init__(self, canvas: "PlanCanvas") -> None:
        super().__init__(canvas)
        self.at: tuple[SurfacePlan, int] | None = None

    def move(self, event: QMouseEvent) -> None:
        self._point(event)
        if self.at is None:
            self.session.try_out(None)
        else:
            plan, side = self.at
            self.canvas.tell(self.session.try_out(lambda p: switch_side(p, plan.roof.id, plan.outline.walls[side])))
        self.canvas.update()

    def press(self, event: QMouseEvent) -> None:
        self._point(event)
        if self.at is None:
            return
        plan, side = self.at
        self.session.try_out(None)
        self.session.apply("Switch edge", lambda p: switch_side(p, plan.roof.id, plan.outline.walls[side]))
        self.session.select([plan.roof.id])
        self.canvas.update()

    def _point(self, event: QMouseEvent) -> None:
        """Find the edge under the pointer."""
        at, best = self.canvas.to_model(event.position()), NEAR / self.canvas.zoom
        self.at = None
        for plan in self.session.model.surfaces:
            core = plan.outline.core
            for i in range(len(core)):
                off = to_segment(at, core[i], core[(i + 1) % len(core)])
                if off < best:
                    best, self.at = off, (plan, i)

    def paint(self, painter: QPainter) -> None:
        if self.at is not None:
            plan, side = self.at
            core = plan.outline.core
            a, b = (self.canvas.to_widget(p) for p in (core[side], core[(side + 1) % len(core)]))
            painter.setPen(vermilion())
            painter.drawLine(a, b)
            roofs = {r.id: r for r in self.session.project.roofs}
            now = side_of(roofs[plan.roof.id], plan.outline.walls[side]).kind
            label(painter, (a + b) / 2.0, SAYS[NEXT[now]])
        super().paint(painter)
