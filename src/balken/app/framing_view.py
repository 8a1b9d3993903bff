"""Framing elevations of the walls selected (all walls when none is), one above the other."""

from collections.abc import Callable

from PySide6.QtCore import Qt
from PySide6.QtGui import QMouseEvent, QPainter
from PySide6.QtWidgets import QWidget

from balken.app.canvas import scale_for
from balken.app.drawing_view import DrawingView
from balken.app.painting import write_centred
from balken.documents.display import Item
from balken.documents.elevation import framed_walls, stacked
from balken.documents.foundation_elevation import foundation_runs_of, stacked_foundations
from balken.model.naming import run_of
from balken.session.session import Session

COARSEST = 70.0
"""No drawing scale coarser than this: the strings would grow larger than the walls."""


class FramingView(DrawingView):
    """Shows the walls that were selected last; a click selects a member."""

    def __init__(self, session: Session, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.session = session
        self.walls: tuple[str, ...] = ()
        self.scale = 32.0
        self.foundations = False
        """Whether foundation walls are shown instead of framed ones."""
        self.shown_refs: tuple[str, ...] = ()
        self.setAccessibleName("Elevations of framing or foundations")
        session.changed.connect(self.refresh)
        session.selection_changed.connect(self._selection_changed)
        session.hidden_changed.connect(self.refresh)

    def showEvent(self, event: object) -> None:
        self._choose()
        self.refresh()
        super().showEvent(event)

    def refresh(self) -> None:
        """Draw the elevations anew; nothing is done while they are not seen."""
        if not self.isVisible():
            return
        model = self.session.model
        if self.foundations:
            chosen = foundation_runs_of(model, self.shown_refs)
            self._show_unhidden(lambda: stacked_foundations(model, chosen, self.scale).items if chosen else ())
            self.set_selected(self._shown_selection())
            return
        self.walls = tuple(w for w in self.walls if w in model.framed)
        shown = framed_walls(model, self.walls)
        self._show_unhidden(lambda: stacked(model, shown, self.scale, lists=False).items if shown else ())
        self.set_selected(self._shown_selection())

    def _show_unhidden(self, make: Callable[[], tuple[Item, ...]]) -> None:
        self.show_made(lambda: [item for item in make() if not self.session.is_hidden(item.ref)])

    def _shown_selection(self) -> frozenset[str]:
        """Members and openings selected; the walls themselves are what is drawn, so they are not marked."""
        drawn = {*self.session.model.lines, *(f.id for f in self.session.project.foundations)}
        return frozenset(r for r in self.session.selection if r not in drawn)

    def fit(self) -> None:
        super().fit()
        for _ in range(3):  # strings grow with the figures, and the drawing with them
            scale = min(scale_for(self.zoom), COARSEST)
            if scale == self.scale:
                return
            self.scale = scale
            self.refresh()
            super().fit()

    def _redraw(self) -> None:
        scale = min(scale_for(self.zoom), COARSEST)
        if self.fitted and self.moved and scale != self.scale:
            self.scale = scale
            self.refresh()
            return
        super()._redraw()

    def _choose(self) -> bool:
        """Take over the walls selected; returns whether they are others than before."""
        if self.foundations:
            known = {r for run in self.session.model.runs for r in (run.id, run.wall, run.foundation.id)}
            chosen = tuple(r for r in self.session.selection if r in known or run_of(r) in known)
            if chosen and foundation_runs_of(self.session.model, chosen) != self.shown_refs:
                self.shown_refs = foundation_runs_of(self.session.model, chosen)
                return True
            return False
        walls = tuple(r for r in self.session.selection if r in self.session.model.framed)
        if walls and walls != self.walls:
            self.walls = walls
            return True
        return False

    def _selection_changed(self) -> None:
        if self._choose():
            self.refresh()
            self.fit()
        self.set_selected(self._shown_selection())

    def show_foundations(self, on: bool) -> None:
        """Show foundation walls (or framed walls again)."""
        if on != self.foundations:
            self.foundations, self.shown_refs = on, ()
            if self.isVisible():
                self._choose()
                self.refresh()
                self.fit()

    def show_all(self) -> None:
        """Show every framed wall."""
        self.walls = ()
        self.refresh()
        self.fit()

    def mousePressEvent(self, event: QMouseEvent) -> None:
        self.setFocus()
        if event.button() != Qt.MouseButton.LeftButton:
            super().mousePressEvent(event)
            return
        ref = self.hit(event.position())
        chosen = self.session.selection
        if event.modifiers() & Qt.KeyboardModifier.ControlModifier:
            kept = [r for r in chosen if r != ref]
            self.session.select(kept if ref in chosen else [*chosen, *([ref] if ref else [])])
        else:
            self.session.select([ref] if ref else [])

    def paint_over(self, painter: QPainter) -> None:
        if not self.prepared:
            text = "No wall has a core of studs yet.\nDraw framed walls in 2 Walls."
            if self.foundations:
                text = "There is no foundation yet.\nLay one in 3 Foundations."
            write_centred(painter, self.rect(), text)
