"""The picture of the 3-D view: VTK renders off screen into an image that this widget paints; its camera, pointer and marks.

VTK is imported when the view is first shown.  Without a GL library VTK would take the program
down, so it is tried once in a child process first.
"""

import itertools
import time
from collections import defaultdict
from typing import TYPE_CHECKING, Any

import numpy as np
from PySide6.QtCore import QPointF, QSize, Qt, QTimer
from PySide6.QtGui import QColor, QImage, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QWheelEvent
from PySide6.QtWidgets import QWidget

from balken.app.space_meshes import Meshed, can_render, meshed
from balken.app.tools import Place3, label
from balken.derive.roof_sketch import ridge_lines
from balken.documents.cross_section import fill_of
from balken.documents.grid_plan import arc_points
from balken.documents.style import FILLS, SELECTED
from balken.framing.pieces import Piece
from balken.framing.references import reference_solid
from balken.model.lookup import axis_positions, grid_point
from balken.panel.trial_lines import trial_pieces

if TYPE_CHECKING:
    from balken.app.space import SpaceView

FITS, FILLED = 4, 0.94
"""How often the camera is brought nearer to fit, and how much of the picture the building then fills."""
_MISSING = (
    "3-D needs a GL library, which this machine lacks.\n"
    "Install it with:  apt-get install libgl1 libegl1 libgl1-mesa-dri"
)
FRAME = 1.0 / 30.0
"""So long a picture may take while the camera moves, s."""
LEAST_PART = 0.5
MOST_TRIED = 2_000
"""So many members of what is tried out are shown."""
MARK = 26.0
"""How near (pixels) to a mark a click is meant for it."""
HIDES = 1e-4
"""What lies no more than this nearer (of all that is seen from near to far) hides no mark."""


class Picture(QWidget):
    """The rendered image and its camera."""

    def __init__(self, space: "SpaceView") -> None:
        super().__init__()
        self.space = space
        self.setMinimumSize(160, 120)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName("3-D view")
        self.setToolTip("Drag orbits, right-drag pans, the wheel zooms, click selects")
        self._vtk: Any = None
        self._image: QImage | None = None
        self._stale = True
        self._press: QPointF | None = None
        self._last: QPointF | None = None
        self._message = ""
        self._keys: dict[Any, list[str]] = {}
        self._touched = False
        self._moving, self._part = False, 1.0
        """Whether the camera moves; at which part of its size the picture is rendered while it does."""
        self._drawn_at: QSize | None = None
        self._settle = QTimer(self)
        self._settle.setSingleShot(True)
        self._settle.setInterval(180)
        self._settle.timeout.connect(self._fine)

    # Scene ---------------------------------------------------------------------------------------

    def stale(self) -> None:
        """Build the meshes anew when next painted: of what changed, quickly first, with smooth edges once all rests."""
        self._stale = True
        if self._vtk is not None and self._image is not None:
            self._window.SetMultiSamples(0)
            self._settle.start()
        self.update()

    def _start(self) -> bool:
        if self._vtk is not None:
            return True
        if self._message:
            return False
        if not can_render():
            self._message = _MISSING
            return False
        import vtkmodules.vtkRenderingOpenGL2  # noqa: F401 - registers the renderer
        from vtkmodules import vtkRenderingCore as core

        self._vtk = core
        self._renderer = core.vtkRenderer()
        self._renderer.SetBackground(*_rgb("#F4F1EA"))
        self._renderer.SetBackground2(*_rgb("#C9D6DC"))
        self._renderer.GradientBackgroundOn()
        self._window = core.vtkRenderWindow()
        self._window.SetOffScreenRendering(1)
        self._window.SetMultiSamples(4)
        self._window.AddRenderer(self._renderer)
        camera = self._renderer.GetActiveCamera()
        camera.SetFocalPoint(0.0, 0.0, 0.0)
        camera.SetPosition(0.75, -1.0, 0.55)
        camera.SetViewUp(0.0, 0.0, 1.0)
        return True

    def _build(self) -> None:
        """One merged mesh a material, and one line mesh for all edges."""
        self._renderer.RemoveAllViewProps()
        self._keys = {}
        groups: dict[str, list[Meshed]] = defaultdict(list)
        for mesh in self._meshes():
            groups[mesh.fill].append(mesh)
        lines = []
        for fill, rows in groups.items():
            actor = self._surface(np.concatenate([row.triangles for row in rows]), FILLS[fill])
            self._keys[actor] = [key for row in rows for key in row.keys]
            lines += [row.edges for row in rows]
            self._renderer.AddActor(actor)
        if lines:
            self._renderer.AddActor(self._lines(np.concatenate(lines), "#3A3A34", 1.0))
        self._add_references()
        axes = self._axes()
        if len(axes):
            self._renderer.AddActor(self._lines(axes, "#2E6A6A", 1.0))
        self._chosen: list[Any] = []
        self._add_chosen()
        self._tried: list[Any] = []
        self._add_trial()
        self._stale = False
        self._renderer.ResetCameraClippingRange()

    def _meshes(self) -> list[Meshed]:
        """Return what is shown, group by group; a group that no edit touched is not meshed again."""
        model, space = self.space.session.model, self.space
        groups = list(model.groups)
        if space.framing_alone:
            groups += [wall.pieces for wall in model.framed.values()]
        found: list[Meshed] = []
        for group in groups:
            by_fill: dict[str, list[Piece]] = defaultdict(list)
            for piece in group:
                if space.shown(piece):
                    by_fill[fill_of(piece)].append(piece)
            found += [meshed(fill, tuple(pieces)) for fill, pieces in by_fill.items()]
        return found

    def _add_references(self) -> None:
        """Show what came from the architect's file and is not framed, so that what lies behind shows through."""
        session = self.space.session
        shown = [r for r in session.project.references if not session.is_hidden(r.id)]
        if not shown:
            return
        meshes = [reference_solid(r).mesh() for r in shown]
        actor = self._surface(np.concatenate([t for t, _ in meshes]), "#A9B4C2")
        actor.GetProperty().SetOpacity(0.35)
        actor.GetProperty().BackfaceCullingOff()
        self._keys[actor] = [r.id for r, (t, _) in zip(shown, meshes, strict=True) for _ in range(len(t))]
        self._renderer.AddActor(actor)
        self._renderer.AddActor(self._lines(np.concatenate([e for _, e in meshes]), "#6C7A89", 1.0))

    def _axes(self) -> Any:
        """Return the grid's axes as segments (n, 2, 3), on the ground or the lowest level."""
        session = self.space.session
        p = session.project
        z = (
            session.model.ground.level
            if session.model.ground is not None
            else min((v.height for v in p.levels), default=0.0)
        )
        segments: list[Any] = []
        for grid in p.grids:
            xs, ys = axis_positions(grid.x_axes), axis_positions(grid.y_axes)
            if not xs or not ys or session.is_hidden(grid.id):
                continue
            past = grid.run_past
            if grid.kind == "radial":
                segments += [(grid_point(grid, x, ys[0]), grid_point(grid, x, ys[-1] + past)) for x in xs]
                for r in ys:
                    ring = arc_points(grid, r, xs[0], xs[-1])
                    segments += list(itertools.pairwise(ring))
                continue
            segments += [(grid_point(grid, x, ys[0] - past), grid_point(grid, x, ys[-1] + past)) for x in xs]
            segments += [(grid_point(grid, xs[0] - past, y), grid_point(grid, xs[-1] + past, y)) for y in ys]
        return np.array([((*a, z), (*b, z)) for a, b in segments], dtype=float).reshape(-1, 2, 3)

    def _poly(self, points: Any, per_cell: int, lines: bool) -> Any:
        from vtkmodules.util.numpy_support import numpy_to_vtk, numpy_to_vtkIdTypeArray
        from vtkmodules.vtkCommonCore import vtkPoints
        from vtkmodules.vtkCommonDataModel import vtkCellArray, vtkPolyData

        flat = np.ascontiguousarray(points.reshape(-1, 3), dtype=np.float32)
        made = vtkPoints()
        made.SetData(numpy_to_vtk(flat, deep=True))
        count = len(flat) // per_cell
        offsets = np.arange(0, per_cell * (count + 1), per_cell, dtype=np.int64)
        cells = vtkCellArray()
        cells.SetData(
            numpy_to_vtkIdTypeArray(offsets, deep=True),
            numpy_to_vtkIdTypeArray(np.arange(len(flat), dtype=np.int64), deep=True),
        )
        poly = vtkPolyData()
        poly.SetPoints(made)
        (poly.SetLines if lines else poly.SetPolys)(cells)
        return poly

    def _actor(self, poly: Any, colour: str) -> Any:
        mapper = self._vtk.vtkPolyDataMapper()
        mapper.SetInputData(poly)
        actor = self._vtk.vtkActor()
        actor.SetMapper(mapper)
        actor.GetProperty().SetColor(*_rgb(colour))
        return actor

    def _surface(self, points: Any, colour: str) -> Any:
        actor = self._actor(self._poly(points, 3, False), colour)
        actor.GetProperty().SetInterpolationToFlat()
        actor.GetProperty().SetAmbient(0.35)
        actor.GetProperty().SetDiffuse(0.7)
        # All triangles of solids look outward; those that look away lie behind others, and cost as much.
        actor.GetProperty().BackfaceCullingOn()
        actor.GetMapper().SetResolveCoincidentTopologyToPolygonOffset()
        return actor

    def _lines(self, edges: Any, colour: str, width: float) -> Any:
        actor = self._actor(self._poly(edges, 2, True), colour)
        actor.GetProperty().LightingOff()
        actor.GetProperty().SetLineWidth(width)
        actor.PickableOff()
        return actor

    def show_selection(self) -> None:
        """Mark what is selected in vermilion."""
        if self._vtk is not None and not self._stale:
            self._add_chosen()
            self._image = None
        self.update()

    def show_trial(self) -> None:
        """Show what is about to be made or moved, over what stands; when the view comes to be seen, if it is not."""
        if self._vtk is None or self._stale:
            return
        if not self.isVisible():
            self._stale = self._stale or bool(self._tried or self.space.session.trial or self.space.session.sketch)
            return
        self._add_trial()
        self._renderer.ResetCameraClippingRange()
        self._image = None
        self.update()

    def _add_trial(self) -> None:
        for actor in self._tried:
            self._renderer.RemoveActor(actor)
        self._tried, session = [], self.space.session
        meshes, lines = list[Any](), list[Any]()
        if session.trial is not None:
            pieces = [p for p in trial_pieces(session.trial, session.model) if self.space.shown(p)]
            meshes = [p.solid.mesh() for p in pieces[:MOST_TRIED]]
            lines = [e for _, e in meshes]
        if session.sketch is not None:
            lines += [np.array([ends]) for ends in ridge_lines(session.sketch)]
        if meshes:
            surface = self._surface(np.concatenate([t for t, _ in meshes]), SELECTED)
            surface.GetProperty().SetOpacity(0.4)
            self._tried.append(surface)
        if lines:
            self._tried.append(self._lines(np.concatenate(lines), SELECTED, 1.5))
        for actor in self._tried:
            actor.PickableOff()
            self._renderer.AddActor(actor)

    def _add_chosen(self) -> None:
        for actor in self._chosen:
            self._renderer.RemoveActor(actor)
        self._chosen = []
        session = self.space.session
        chosen = set(session.lit)
        pieces = [
            p
            for key, p in session.model.pieces.items()
            if (key in chosen or p.owner in chosen or (p.role == "wall layer" and p.wall in chosen))
            and self.space.shown(p)
        ]
        meshes = [p.solid.mesh() for p in pieces]
        meshes += [reference_solid(r).mesh() for r in session.project.references if r.id in chosen]
        if not meshes:
            return
        surface = self._surface(np.concatenate([t for t, _ in meshes]), SELECTED)
        surface.PickableOff()
        surface.GetProperty().SetAmbient(0.75)
        # Nearer than the same faces beneath, so that the mark always shows.
        surface.GetMapper().SetRelativeCoincidentTopologyPolygonOffsetParameters(-2.0, -2.0)
        lines = self._lines(np.concatenate([e for _, e in meshes]), "#7A1E08", 2.0)
        for actor in (surface, lines):
            self._chosen.append(actor)
            self._renderer.AddActor(actor)

    # Painting ------------------------------------------------------------------------------------

    def render(self) -> None:  # type: ignore[override]
        """Render the scene into the image."""
        if not self._start():
            return
        if self._stale:
            self._build()
        from vtkmodules.util.numpy_support import vtk_to_numpy
        from vtkmodules.vtkCommonCore import vtkUnsignedCharArray

        part, begun = self._part if self._moving else 1.0, time.perf_counter()
        wide, tall = max(int(self.width() * part), 16), max(int(self.height() * part), 16)
        self._window.SetSize(wide, tall)
        if not self._touched and self._keys:
            self._fit_camera()
        self._window.Render()
        pixels = vtkUnsignedCharArray()
        self._window.GetRGBACharPixelData(0, 0, wide - 1, tall - 1, 1, pixels, 0)
        array = np.ascontiguousarray(vtk_to_numpy(pixels).reshape(tall, wide, 4)[::-1])
        self._image = QImage(array.data, wide, tall, 4 * wide, QImage.Format.Format_RGBA8888).copy()
        self._drawn_at = self.size()
        if self._moving:
            self._part = paced(self._part, time.perf_counter() - begun)

    def paintEvent(self, event: QPaintEvent) -> None:
        if self._stale or self._image is None or self._drawn_at != self.size():
            self.render()
        painter = QPainter(self)
        if self._image is not None:
            painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
            painter.drawImage(self.rect(), self._image)
            for _, at, text in self.marks():
                label(painter, at - QPointF(painter.fontMetrics().horizontalAdvance(text) / 2.0, -5.0), text)
        else:
            painter.fillRect(self.rect(), QColor("#F4F1EA"))
            painter.drawText(self.rect(), int(Qt.AlignmentFlag.AlignCenter), self._message)

    def _fine(self) -> None:
        """Render with smooth edges, in full, once the camera rests."""
        self._moving = False
        if self._vtk is not None:
            self._window.SetMultiSamples(4)
            self._image = None
            self.update()

    def _moved(self) -> None:
        self._touched = self._moving = True
        self._window.SetMultiSamples(0)
        self._renderer.ResetCameraClippingRange()
        self._image = None
        self._settle.start()
        self.update()

    def _fit_camera(self) -> None:
        """Let the building fill the picture, all of it within: its box is brought to the middle and as near as it fits."""
        camera = self._renderer.GetActiveCamera()
        camera.SetViewAngle(30.0)
        self._renderer.ResetCamera()
        for _ in range(FITS):
            low, high = self.seen_box()
            self._shift((low + high) / 2.0)
            low, high = self.seen_box()
            camera.Dolly(FILLED / max(float(np.abs((low, high)).max()), 1e-3))
        self._renderer.ResetCameraClippingRange()

    def seen_box(self) -> tuple[Any, Any]:
        """Return where the corners of the building's box are seen: the least and the greatest of both ways, the picture from -1 to 1."""
        rows = np.array([actor.GetBounds() for actor in self._keys])
        ends = [(rows[:, 2 * k].min(), rows[:, 2 * k + 1].max()) for k in range(3)]
        flat = self._flat([(x, y, z) for x in ends[0] for y in ends[1] for z in ends[2]])[:, :2]
        return flat.min(axis=0), flat.max(axis=0)

    def _flat(self, places: list[Place3]) -> Any:
        """Return where places are seen, the picture from -1 to 1, and how far away, from 0 to 1 (n, 3)."""
        points = np.array([(*place, 1.0) for place in places]).reshape(-1, 4)
        aspect = max(self.width(), 16) / max(self.height(), 16)
        made = self._renderer.GetActiveCamera().GetCompositeProjectionTransformMatrix(aspect, 0.0, 1.0)
        matrix = np.array([[made.GetElement(i, j) for j in range(4)] for i in range(4)])
        seen = points @ matrix.T
        return seen[:, :3] / seen[:, 3:]

    def marks(self) -> list[tuple[int, QPointF, str]]:
        """Return the marks of what is in hand that nothing hides: number, where, text."""
        rows = self.space.tool().marks()
        if self._vtk is None or not rows:
            return []
        found, wide, high = [], self.width() / 2.0, self.height() / 2.0
        for number, ((x, y, far), (_, text)) in enumerate(
            zip(self._flat([p for p, _ in rows]).tolist(), rows, strict=True)
        ):
            if abs(x) > 1.0 or abs(y) > 1.0:
                continue
            at = QPointF((1.0 + x) * wide, (1.0 - y) * high)
            if far <= self._renderer.GetZ(*(int(v) for v in self._pixel(at))) + HIDES:
                found.append((number, at, text))
        return found

    def _pixel(self, at: QPointF) -> tuple[float, float]:
        """Return a place of the widget among the pixels rendered, counted upward."""
        wide, tall = self._window.GetSize()
        return at.x() * wide / self.width(), (self.height() - at.y() - 1.0) * tall / self.height()

    def _shift(self, by: Any) -> None:
        """Move the camera square to its view by parts of half the picture."""
        camera = self._renderer.GetActiveCamera()
        focus, place = np.array(camera.GetFocalPoint()), np.array(camera.GetPosition())
        half = np.linalg.norm(place - focus) * np.tan(np.radians(camera.GetViewAngle() / 2.0))
        up = np.array(camera.GetViewUp())
        ahead = (focus - place) / np.linalg.norm(focus - place)
        right = np.cross(ahead, up) / np.linalg.norm(np.cross(ahead, up))
        up = np.cross(right, ahead)
        aspect = max(self.width(), 16) / max(self.height(), 16)
        move = right * by[0] * half * aspect + up * by[1] * half
        camera.SetFocalPoint(*(focus + move))
        camera.SetPosition(*(place + move))

    def whole(self) -> None:
        """Show the whole building."""
        if self._vtk is not None:
            self._touched = False
            self._image = None
            self.update()

    # Pointer and keys ------------------------------------------------------------------------------

    def mousePressEvent(self, event: QMouseEvent) -> None:
        self.setFocus()
        self._press = self._last = event.position()

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        if self._last is None or self._vtk is None:
            return
        dx, dy = (event.position() - self._last).x(), (event.position() - self._last).y()
        self._last = event.position()
        if event.buttons() & Qt.MouseButton.LeftButton:
            self.orbit(-0.4 * dx, 0.4 * dy)
        elif event.buttons() & (Qt.MouseButton.RightButton | Qt.MouseButton.MiddleButton):
            self.pan(dx, dy)

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        clicked = self._press is not None and (event.position() - self._press).manhattanLength() < 4
        self._press = self._last = None
        if clicked and event.button() == Qt.MouseButton.LeftButton and self._vtk is not None:
            rows = [((at - event.position()).manhattanLength(), number) for number, at, _ in self.marks()]
            off, number = min(rows, default=(MARK, -1))
            if off < MARK:
                self.space.tool().press_mark(number)
                return
            key = self.pick(event.position())
            adds = bool(event.modifiers() & Qt.KeyboardModifier.ControlModifier)
            session = self.space.session
            session.select([*(session.selection if adds else ()), *([key] if key else [])])

    def wheelEvent(self, event: QWheelEvent) -> None:
        if self._vtk is not None:
            self._renderer.GetActiveCamera().Dolly(1.15 ** (event.angleDelta().y() / 120.0))
            self._moved()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        turns = {
            Qt.Key.Key_Left: (8.0, 0.0),
            Qt.Key.Key_Right: (-8.0, 0.0),
            Qt.Key.Key_Up: (0.0, 6.0),
            Qt.Key.Key_Down: (0.0, -6.0),
        }
        if self._vtk is not None and event.key() in turns:
            self.orbit(*turns[Qt.Key(event.key())])
        elif event.key() == Qt.Key.Key_Home:
            self.whole()
        elif event.key() == Qt.Key.Key_Escape:
            if self.space.tool().in_space:
                self.space.tool().key(event)
            else:
                self.space.session.select([])
        else:
            super().keyPressEvent(event)

    def orbit(self, azimuth: float, elevation: float) -> None:
        """Turn the camera about the building, never over the poles."""
        camera = self._renderer.GetActiveCamera()
        camera.Azimuth(azimuth)
        normal = camera.GetViewPlaneNormal()
        steep = np.degrees(np.arcsin(np.clip(normal[2], -1.0, 1.0)))
        camera.Elevation(float(np.clip(elevation, -85.0 - steep, 85.0 - steep)))
        camera.SetViewUp(0.0, 0.0, 1.0)
        self._moved()

    def pan(self, dx: float, dy: float) -> None:
        """Shift the camera square to its view."""
        wide, high = max(self.width(), 16), max(self.height(), 16)
        self._shift((-2.0 * dx / wide, 2.0 * dy / high))
        self._moved()

    def pick(self, at: QPointF) -> str:
        """Return the key of the piece under a point of the widget; a wall's id for its layers."""
        picker = self._vtk.vtkCellPicker()
        picker.SetTolerance(0.0005)
        picker.Pick(*self._pixel(at), 0.0, self._renderer)
        keys = self._keys.get(picker.GetActor())
        if not keys or picker.GetCellId() < 0:
            return ""
        key = keys[picker.GetCellId()]
        piece = self.space.session.model.piece(key)
        return piece.wall if piece is not None and piece.role == "wall layer" else key


def paced(part: float, took: float) -> float:
    """Return at which part of its size the next picture is rendered while the camera moves, where this one took so long, s: smaller where that is
    too long to look smooth, larger again where there is time to spare.
    """
    if took > FRAME:
        return max(part * 0.8, LEAST_PART)
    return min(part / 0.8, 1.0) if took < 0.5 * FRAME else part


def _rgb(colour: str) -> tuple[float, float, float]:
    return tuple(int(colour[i : i + 2], 16) / 255.0 for i in (1, 3, 5))  # type: ignore[return-value]
