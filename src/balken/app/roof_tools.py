"""The tools of roofs: what a roof of planes does at an edge, switched by a click; openings in its planes."""

import math
from collections.abc import Callable
from typing import TYPE_CHECKING, Any, ClassVar

from PySide6.QtCore import QPointF
from PySide6.QtGui import QKeyEvent, QMouseEvent, QPainter

from balken.design.drawn_roofs import draw_roof
from balken.framing.roof_openings import in_plane
from balken.framing.surface_roofs import SurfacePlan
from balken.geometry.plane import Point, add, chords, left, to_segment, unit
from balken.model.kinds.roof_opening import USUAL
from balken.model.records import Project
from balken.model.roof_edits import add_dormer, add_roof_opening, next_kind, switch_side
from balken.units import Units
from balken.units.system import INCH

if TYPE_CHECKING:
    from balken.app.canvas import PlanCanvas

from balken.app.floor_tools import OutlineTool
from balken.app.tools import Place3, SnapTool, label, vermilion

NEAR = 25.0
"""How near (pixels) to an edge the pointer must be."""
CLEAR_OF = 150.0
"""So far out of an overhang its mark stands in 3-D, mm."""
SAYS = {
    "eave": "make it an eave",
    "gable": "make it a gable",
    "wall": "let it stand against a wall",
    "roof": "let it run on over the roof there",
}


class EdgeTool(SnapTool):
    """Edges of roofs of planes: a click makes an eave a gable, that an edge against a wall, that one over another roof, that an eave."""

    name = "roof edge"
    in_space = True
    hint = (
        "Click an edge of a roof: an eave becomes a gable, a gable stands against a wall, that runs on over the roof "
        "beside it, that becomes an eave again. In 3-D each edge has a mark to click."
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
        if self.at is not None:
            self._switch(*self.at)

    def _switch(self, plan: SurfacePlan, side: int) -> None:
        self.session.try_out(None)
        self.session.apply("Switch edge", lambda p: switch_side(p, plan.roof.id, plan.outline.walls[side]))
        self.session.select([plan.roof.id])
        self.canvas.update()

    def _sides(self) -> list[tuple[SurfacePlan, int]]:
        """Return the edges of all roofs of planes, those of dormers aside."""
        model = self.session.model
        return [(s, i) for s in model.surfaces if s.roof.id not in model.dormers for i in range(len(s.outline.core))]

    def marks(self) -> list[tuple[Place3, str]]:
        found: list[tuple[Place3, str]] = []
        for plan, i in self._sides():
            core, edge = plan.outline.core, plan.edges[i]
            a, b = core[i], core[(i + 1) % len(core)]
            over = plan.overhangs[i] + CLEAR_OF
            x, y = add(((a[0] + b[0]) / 2.0, (a[1] + b[1]) / 2.0), left(unit(b, a)), over)
            high = plan.bearing if plan.problem else plan.level(i)
            found.append(((x, y, high - (edge.pitch * over if edge.kind == "eave" else 0.0)), edge.kind))
        return found

    def press_mark(self, number: int) -> None:
        self._switch(*self._sides()[number])

    def _point(self, event: QMouseEvent) -> None:
        """Find the edge under the pointer."""
        at, best = self.canvas.to_model(event.position()), NEAR / self.canvas.zoom
        self.at = None
        for plan, i in self._sides():
            core = plan.outline.core
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


class DrawRoofTool(OutlineTool):
    """Roofs drawn corner by corner, as over porches: on the walls and beams along their sides, else on beams on posts."""

    name = "draw roof"
    hint = (
        "Click the corners of the roof one after the other; Enter, or a click on the first one, closes it. Along walls and beams it lies on "
        "these; elsewhere beams are laid from corner to corner, on posts."
    )
    deed = "Draw roof"

    def move(self, event: QMouseEvent) -> None:
        """Show what the roof would be with a corner under the pointer."""
        super().move(event)
        corners, storey = (*self.corners, self.snap.point), self.storey
        drawn = len(self.corners) > 1
        self.canvas.tell(self.session.try_out((lambda p: draw_roof(p, storey, corners)) if drawn else None))

    def close(self) -> None:
        self.session.try_out(None)
        super().close()

    def key(self, event: QKeyEvent) -> bool:
        taken = super().key(event)
        if len(self.corners) < 2:
            self.session.try_out(None)
        return taken

    def outlined(self, project: Project, storey: str, corners: tuple[Point, ...]) -> Project:
        """Return the project with the roof, and with the beams and posts under it."""
        return draw_roof(project, storey, corners)

    def newest(self, project: Project) -> str:
        return project.roofs[-1].id


class PlacingTool(SnapTool):
    """Tools that place a thing in a plane of a roof by a click, and select it."""

    does: str
    collection: str

    def placed(self, position: QPointF) -> Callable[[Project], Project] | None:
        """Return the edit that places one under the pointer; None where no plane is."""
        raise NotImplementedError

    def plane_at(self, position: QPointF) -> tuple[str, str, float, Point] | None:
        """Return the plane of a roof (not of a dormer) under the pointer: its roof, wall and pitch, the place along its eave and in of it."""
        at, model = self.canvas.to_model(position), self.session.model
        for plan in model.surfaces:
            for face in plan.surface.faces if plan.roof.id not in model.dormers else ():
                ring = tuple(p[:2] for p in face.ring)
                if any(low <= 0.0 <= high for low, high in chords((ring,), at, (1.0, 0.0))):
                    (place,) = in_plane(plan.outline.core, face.edge, [at])
                    return plan.roof.id, plan.outline.walls[face.edge], face.pitch, place
        return None

    def whole(self, length: float) -> float:
        """Return a length to the whole inch, or to 25 mm."""
        step = INCH if self.session.project.units is Units.IMPERIAL else 25.0
        return round(length / step) * step

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
        found = self.plane_at(position)
        if found is None:
            return None
        roof, wall, pitch, (s, t) = found
        along, up = self.whole(s), max(self.whole(t * math.hypot(1.0, pitch) - USUAL / 2.0), 0.0)
        return lambda p: add_roof_opening(p, roof, wall, along, up)


class DormerTool(PlacingTool):
    """Dormers: a click sets one with the middle of its face there."""

    name = "dormer"
    hint = "Click where in a roof the middle of a dormer's face is to stand. Its shape, width, height and window are in its card."
    does = "Set dormer"
    collection = "dormers"
    fields: ClassVar[dict[str, Any]] = {}

    def placed(self, position: QPointF) -> Callable[[Project], Project] | None:
        """Return the edit that sets a dormer on the plane under the pointer."""
        found = self.plane_at(position)
        if found is None:
            return None
        roof, wall, _, (s, t) = found
        along, front = self.whole(s), max(self.whole(t), 0.0)
        return lambda p: add_dormer(p, roof, wall, along, front, **self.fields)


class GabletTool(DormerTool):
    """Gablets: a click sets one with its face there."""

    name = "gablet"
    hint = (
        "Click in the plane of a hip where the face of a small gable is to stand: the planes beside it run on to there."
    )
    does = "Set gablet"
    fields: ClassVar[dict[str, Any]] = {"shape": "gablet"}
