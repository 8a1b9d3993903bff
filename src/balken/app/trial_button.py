"""A button that shows what it would do while the pointer rests on it."""

from collections.abc import Callable

from PySide6.QtCore import QEvent, QTimer
from PySide6.QtGui import QEnterEvent
from PySide6.QtWidgets import QPushButton

from balken.session.session import Edit, Session

REST = 250
"""How long (ms) the pointer rests on a button before what it would do is shown; longer where deriving takes long."""


class TrialButton(QPushButton):
    """Its edit is tried out, and shown dashed with the findings it would bring, as long as the pointer rests on it."""

    def __init__(self, text: str, session: Session, edit: Callable[[], Edit | None]) -> None:
        super().__init__(text)
        self._session, self._edit = session, edit
        self._showing = False
        self._rest = QTimer(self)
        self._rest.setSingleShot(True)
        self._rest.timeout.connect(self._show_trial)
        self.pressed.connect(self.drop_trial)

    def _show_trial(self) -> None:
        edit = self._edit()
        if edit is not None and self._session.trial is None:  # else a tool shows something
            self._showing = self._session.try_out(edit) == ""

    def drop_trial(self) -> None:
        """Show nothing any more; before the button goes, it has to be told to."""
        self._rest.stop()
        if self._showing:
            self._showing = False
            self._session.try_out(None)

    def enterEvent(self, event: QEnterEvent) -> None:
        super().enterEvent(event)
        if self.isEnabled():
            self._rest.start(max(REST, 2 * self._session.took))

    def leaveEvent(self, event: QEvent) -> None:
        super().leaveEvent(event)
        self.drop_trial()
