"""The tools of roofs: what a roof of planes does at an edge, switched by a click; openings in its planes."""

import math
from collections.abc import Callable
from typing import TYPE_CHECKING

from PySide6.QtCore import QPointF
from PySide6.QtGui import QMouseEvent, QPainter

from balken.framing.roof_openings import in_plane
from balken.framing.surface_roofs import SurfacePlan
from balken.geometry.plane import Point, chords, to_segment
from balken.geometry.roof_surface import RoofFace
from balken.model.kinds.roof_opening import USUAL
from balken.model.records import Project
from balken.model.roof_edits import add_dormer, add_roof_opening, next_kind, switch_side
from balken.session.session import Session
from balken.units import Units
from balken.units.system import INCH

if TYPE_CHECKING:
    from balken.app.canvas import PlanCanvas

from balken.app.tools import SnapTool, label, vermilion

NEAR = 25.0
"""How near (pixels) to an edge the pointer must be."""
SAYS = {
    "eave": "make it an eave",
    "gable": "make it a gable",
    "wall": "let it stand against a wall",
    "roof": "let it run on over the roof there",
}


class EdgeTool(SnapTool):
    """Edges of roofs of planes: a click makes an eave a gable, that an edge against a wall, that one over another roof, that an eave."""

    name = "roof edge"
    hint = (
        "Click an edge of a roof: an eave becomes a gable, a gable stands against a wall, that runs on over the roof "
        "beside it, that becomes an eave again."
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
            core = plan.outline.core if plan.roof.id not in self.session.model.dormers else ()
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
            wall = plan.outline.walls[side]
            label(painter, (a + b) / 2.0, SAYS[next_kind(self.session.project, plan.roof.id, wall)])
        super().paint(painter)


class PlacingTool(SnapTool):
    """Tools that place a thing in a plane of a roof by a click, and select it."""

    does: str
    collection: str

    def placed(self, position: QPointF) -> Callable[[Project], Project] | None:
        """Return the edit that places one under the pointer; None where no plane is."""
        raise NotImplementedError

    def move(self, event: QMouseEvent) -> None:
        self.canvas.tell(self.session.try_out(self.placed(event.position())))
        self.canvas.update()

    def press(self, event: QMouseEvent) -> None:
        edit = self.placed(event.position())
        self.session.try_out(None)
        if edit is None:
            self.canvas.tell("No plane of a roof is there. Click within one.")
        elif self.session.apply(self.does, edit):
            self.session.select([getattr(self.session.project, self.collection)[-1].id])
        self.canvas.update()


class RoofOpeningTool(PlacingTool):
    """Openings in planes of roofs: a click places one with its middle there."""

    name = "roof opening"
    hint = "Click where in a roof the middle of a window is to be. Its size, and whether it is a chimney or shaft, is in its card."
    does = "Leave opening"
    collection = "roof_openings"

    def placed(self, position: QPointF) -> Callable[[Project], Project] | None:
        """Return the edit that leaves an opening out of the plane under the pointer."""
        found = plane_at(self.session, self.canvas.to_model(position))
        if found is None:
            return None
        (plan, face, (s, t)), step = found, whole_step(self.session)
        up = t * math.hypot(1.0, face.pitch) - USUAL / 2.0
        wall = plan.outline.walls[face.edge]
        along, up = round(s / step) * step, max(round(up / step) * step, 0.0)
        return lambda p: add_roof_opening(p, plan.roof.id, wall, along, up)


def plane_at(session: Session, at: Point) -> tuple[SurfacePlan, RoofFace, Point] | None:
    """Return the plane of a roof (not of a dormer) at a place, and the place along its eave and in of it."""
    for plan in session.model.surfaces:
        for face in plan.surface.faces if plan.roof.id not in session.model.dormers else ():
            ring = tuple(p[:2] for p in face.ring)
            if any(low <= 0.0 <= high for low, high in chords((ring,), at, (1.0, 0.0))):
                (place,) = in_plane(plan.outline.core, face.edge, [at])
                return plan, face, place
    return None


def whole_step(session: Session) -> float:
    """Return to what what is clicked is rounded, mm."""
    return INCH if session.project.units is Units.IMPERIAL else 25.0


class DormerTool(PlacingTool):
    """Dormers: a click sets one with the middle of its face there."""

    name = "dormer"
    hint = "Click where in a roof the middle of a dormer's face is to stand. Its shape, width, height and window are in its card."
    does = "Set dormer"
    collection = "dormers"

    def placed(self, position: QPointF) -> Callable[[Project], Project] | None:
        """Return the edit that sets a dormer on the plane under the pointer."""
        found = plane_at(self.session, self.canvas.to_model(position))
        if found is None:
            return None
        (plan, face, (s, t)), step = found, whole_step(self.session)
        along, front = round(s / step) * step, max(round(t / step) * step, 0.0)
        wall = plan.outline.walls[face.edge]
        return lambda p: add_dormer(p, plan.roof.id, wall, along, front)
