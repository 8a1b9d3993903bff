"""The real window on the offscreen platform, with helpers that act as a user does."""

import itertools
from pathlib import Path
from typing import Any

import ezdxf
import ifcopenshell
import pytest
from PySide6.QtCore import QPoint, QPointF, Qt, QTimer
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QComboBox, QFileDialog, QLineEdit, QMessageBox
from tests.shop import shop

from balken.app.look import dress
from balken.app.window import MainWindow
from balken.exchange import project_file
from balken.exchange.ifc import expected_counts
from balken.exchange.journal import Journal
from balken.session.session import Session


class User:
    """Someone at the window."""

    def __init__(self, window: MainWindow) -> None:
        self.window = window
        self.session = window.session
        self.canvas = window.canvas

    @property
    def project(self) -> Any:
        return self.session.project

    def stage(self, number: int) -> None:
        QTest.mouseClick(self.window.stage_buttons[number - 1], Qt.MouseButton.LeftButton)

    def press(self, label: str) -> None:
        """Click a button of the tool row."""
        QTest.mouseClick(self.window.tool_buttons[label], Qt.MouseButton.LeftButton)

    def card_button(self, label: str) -> None:
        QTest.mouseClick(self.window.card.buttons[label], Qt.MouseButton.LeftButton)

    def type_in_card(self, label: str, text: str) -> None:
        field = self.window.card.entries[label]
        if isinstance(field, QComboBox):
            index = next(
                i for i in range(field.count()) if field.itemText(i).startswith(text) or field.itemData(i) == text
            )
            field.setCurrentIndex(index)
            field.activated.emit(index)
        else:
            field.setFocus()
            field.selectAll()
            QTest.keyClicks(field, text)
            QTest.keyClick(field, Qt.Key.Key_Return)

    def card_text(self, label: str) -> str:
        field = self.window.card.entries[label]
        return field.currentText() if isinstance(field, QComboBox) else field.text()

    def at(self, x: float, y: float) -> QPoint:
        return self.canvas.to_widget((x, y)).toPoint()

    def move(self, x: float, y: float) -> None:
        QTest.mouseMove(self.canvas, self.at(x, y))

    def click(self, x: float, y: float, modifiers: Qt.KeyboardModifier = Qt.KeyboardModifier.NoModifier) -> None:
        self.move(x, y)
        QTest.mouseClick(self.canvas, Qt.MouseButton.LeftButton, modifiers, self.at(x, y))

    def drag(self, widget: Any, start: QPoint, end: QPoint) -> None:
        QTest.mousePress(widget, Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier, start)
        for part in (0.3, 0.7, 1.0):
            middle = QPointF(start) + (QPointF(end) - QPointF(start)) * part
            QTest.mouseMove(widget, middle.toPoint())
        QTest.mouseRelease(widget, Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier, end)

    def keys(self, text: str) -> None:
        """Type on the canvas; once the entry at the cursor is open, into it."""
        for character in text:
            target = self.window.focusWidget() if self.canvas.entry.isVisible() else self.canvas
            QTest.keyClicks(target, character)

    def key(self, key: Qt.Key) -> None:
        target = self.window.focusWidget() if self.canvas.entry.isVisible() else self.canvas
        QTest.keyClick(target, key)

    def menu(self, name: str) -> None:
        self.window.actions_by_name[name].trigger()

    def dialog(self, button: str, fill: dict[str, str]) -> None:
        """Press a tool that opens a dialog, fill its fields (by name) and accept."""

        def answer() -> None:
            box = QApplication.activeModalWidget()
            for name, value in fill.items():
                widget = getattr(box, name)
                if isinstance(widget, QLineEdit):
                    widget.setFocus()
                    widget.selectAll()
                    QTest.keyClicks(widget, value)
                else:
                    widget.setCurrentIndex(
                        next(i for i in range(widget.count()) if widget.itemText(i).startswith(value))
                    )
            box.try_accept()
            self.problem = box.problem.text()
            if self.problem:
                box.reject()

        QTimer.singleShot(0, answer)
        self.press(button)


@pytest.fixture
def warned(monkeypatch):
    """Collects warnings instead of blocking on them."""
    found: list[str] = []
    monkeypatch.setattr(QMessageBox, "warning", lambda *args: found.append(args[2]))
    return found


@pytest.fixture
def choose(monkeypatch):
    """Answers the next file dialogs with these paths."""

    def answer(*paths: Path) -> None:
        rest = itertools.chain(map(str, paths), itertools.repeat(""))
        for name in ("getSaveFileName", "getOpenFileName"):
            monkeypatch.setattr(QFileDialog, name, lambda *args, **kwargs: (next(rest), ""))

    return answer


def _user(qtbot, qapp, tmp_path, project=None) -> User:
    if not qapp.styleSheet():
        dress(qapp)
    window = MainWindow(Session(project, Journal(tmp_path / "journal")))
    qtbot.addWidget(window, before_close_func=lambda w: setattr(w.files, "may_leave", lambda: True))
    window.resize(1280, 800)
    window.show()
    window.activateWindow()
    QTest.qWait(30)
    return User(window)


@pytest.fixture
def user(qtbot, qapp, tmp_path) -> User:
    """A user before an empty project."""
    return _user(qtbot, qapp, tmp_path)


@pytest.fixture
def demo_user(qtbot, qapp, tmp_path) -> User:
    """A user before the demo project."""
    return _user(qtbot, qapp, tmp_path, shop())


def rendered(user: User) -> Any:
    """The 3-D view of a user, rendered once."""
    user.window.views.show_view("space")
    QTest.qWait(50)
    picture = user.window.space.picture
    if picture._message:
        pytest.skip("no GL library here: " + picture._message)
    picture.render()
    return picture


@pytest.fixture
def picture(demo_user):
    """The 3-D view of the demo user, rendered once."""
    return rendered(demo_user)


@pytest.fixture
def written(qtbot, choose, tmp_path):
    """Writes every kind of file of a user's project by the menu, and saves it; drawings are sound, things of the IFC counted."""

    def write(user: User) -> dict[str, Path]:
        files = {k: tmp_path / f"house.{k}" for k in ("pdf", "dxf", "ifc", "xlsx", "csv")}
        for kind, path in files.items():
            choose(path)
            with qtbot.waitSignal(user.window.work.finished, timeout=60_000):
                user.menu(kind)
            assert path.exists(), kind
        assert not ezdxf.readfile(files["dxf"]).audit().errors
        file = ifcopenshell.open(str(files["ifc"]))
        for kind, count in expected_counts(user.session.model).items():
            assert len(file.by_type(kind, include_subtypes=False)) == count
        choose(tmp_path / "house.balken")
        user.menu("save")
        assert project_file.load(tmp_path / "house.balken") == user.project
        return files

    return write
