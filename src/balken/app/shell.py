"""What the parts of the main window may ask of it: the widgets it is composed of, and a few deeds."""

from collections.abc import Callable
from typing import Any, Protocol

from PySide6.QtWidgets import QSplitter, QToolButton, QWidget

from balken.app.canvas import PlanCanvas
from balken.app.framing_view import FramingView
from balken.app.height_strip import HeightStrip
from balken.app.sheet_view import SheetView
from balken.app.space import SpaceView
from balken.app.tables import BottomPanel
from balken.app.work import WorkBar
from balken.documents.plan import PlanOf
from balken.panel.stages import Stage
from balken.session.session import Session

Deeds = dict[str, Callable[[], Any]]
"""What runs commands, by their names (``panel/commands``)."""


class Shell(Protocol):
    """The main window as its parts see it."""

    session: Session
    stage: Stage
    check_part: str
    canvas: PlanCanvas
    space: SpaceView
    framing: FramingView
    strip: HeightStrip
    sheets: SheetView
    bottom: BottomPanel
    work: WorkBar
    middle: QSplitter
    view_buttons: dict[str, QToolButton]

    @property
    def itself(self) -> QWidget:
        """The widget that dialogs belong to."""
        ...

    @property
    def said(self) -> str:
        """What the status line says."""
        ...

    def say(self, text: str, wrong: bool) -> None:
        """Show a text in the status line."""
        ...

    def set_stage(self, index: int) -> None:
        """Go to a stage."""
        ...

    def what(self) -> PlanOf | None:
        """Return the plan that is shown."""
        ...
