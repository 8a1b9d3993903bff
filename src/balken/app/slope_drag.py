"""Dragging a slope of a roof in the height strip: its pitch follows the pointer, shown at once in plan and strip."""

import math

from PySide6.QtCore import Qt

from balken.derive.roof_sketch import Handle, handle_at, pitch_at, sketched, with_pitch
from balken.documents.cross_section import cut_view, effective_cut
from balken.framing.surface_roofs import SurfacePlan
from balken.geometry.plane import Point
from balken.session.session import Session
from balken.units import Units, format_length, format_pitch

NEAR = 9.0
"""How near (pixels) to a slope the pointer must be to take it."""
STEP = 0.25 / 12.0
"""Pitches are whole steps of this, or of half a degree where lengths are metric; not with Shift."""


class SlopeDrag:
    """What is in hand: a plane of a roof that is selected, and what is said beside the pointer."""

    def __init__(self, session: Session) -> None:
        self.session = session
        self.handle: Handle | None = None
        self.told, self.at = "", (0.0, 0.0)

    def over(self, at: Point, zoom: float) -> Handle | None:
        """Return the slope of a selected roof that is cut at a place of the strip."""
        model = self.session.model
        chosen = {piece.owner if (piece := model.piece(ref)) is not None else ref for ref in self.session.selection}
        view = cut_view(effective_cut(model))
        chosen &= {roof.id for roof in model.project.roofs}  # the slopes of a dormer are typed in its card
        plans = (one for one in model.surfaces if one.roof.id in chosen and not one.problem)
        found = (handle_at(one, view, at, NEAR / zoom) for one in plans)
        return next((one for one in found if one is not None), None)

    def take(self, at: Point, zoom: float) -> None:
        """Take hold of the slope at a place, if there is one."""
        self.handle = self.over(at, zoom)

    def leave(self) -> None:
        """Let go of it, as it was."""
        self.handle, self.told = None, ""
        self.session.show_sketch(None)

    def move(self, at: Point, keys: Qt.KeyboardModifier) -> None:
        """Turn it so that it passes by the pointer."""
        pitch = self._pitch(at[1], keys)
        plan, units = self._plan(), self.session.project.units
        sketch = sketched(self.session.project, plan, self._held().edge, pitch)
        top = f"top {format_length(sketch.ridge, units)}" if not sketch.problem else "cannot be"
        self.told, self.at = f"{format_pitch(pitch, units)}, {top}", at
        self.session.show_sketch(sketch)

    def drop(self) -> None:
        """Make the pitch that is shown."""
        sketch, plan, edge = self.session.sketch, self._plan(), self._held().edge
        self.leave()
        if sketch is not None:
            self.session.apply("Change pitch", lambda p: with_pitch(p, plan, edge, sketch.pitch))

    def _held(self) -> Handle:
        assert self.handle is not None
        return self.handle

    def _plan(self) -> SurfacePlan:
        return next(one for one in self.session.model.surfaces if one.roof.id == self._held().roof)

    def _pitch(self, height: float, keys: Qt.KeyboardModifier) -> float:
        pitch = max(pitch_at(self._held(), height), 0.0)
        if keys & Qt.KeyboardModifier.ShiftModifier:
            return pitch
        if self.session.project.units is Units.IMPERIAL:
            return round(pitch / STEP) * STEP
        return math.tan(math.radians(round(math.degrees(math.atan(pitch)) * 2.0) / 2.0))
