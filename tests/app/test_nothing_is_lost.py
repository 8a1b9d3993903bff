"""Faults while drawing, files changed elsewhere, journals that cannot be written: said, and nothing is lost."""

import shutil

import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st
from PySide6.QtWidgets import QApplication, QMessageBox
from tests.app.conftest import User

from balken.app import canvas as canvas_module
from balken.demo import orchard_road
from balken.exchange import list_files, project_file
from balken.model import edits, wall_edits

NAMES = tuple(w.id for w in orchard_road().walls)


@pytest.fixture
def baker(qtbot, qapp, tmp_path) -> User:
    """A user before the whole demo."""
    from tests.app.conftest import _user

    return _user(qtbot, qapp, tmp_path, orchard_road())


@settings(max_examples=6, suppress_health_check=[HealthCheck.function_scoped_fixture, HealthCheck.too_slow])
@given(st.sampled_from(NAMES), st.floats(-4.0, 4.0), st.floats(-4.0, 4.0))
def test_any_small_drag_is_drawn_at_every_stage(baker, wall, dx, dy):
    session = baker.session
    before = session.project
    if not session.apply("drag", lambda p: wall_edits.drag_walls(p, (wall,), dx, dy)):
        return
    for stage in range(1, 8):
        baker.stage(stage)
        QApplication.processEvents()
        baker.window.grab()
        assert not baker.canvas.fault
        assert not baker.window.strip.fault
        assert not baker.window.sheets.paper.fault
    shown = {p.item.ref for p in baker.canvas.prepared}
    session.undo()
    assert session.project is before
    assert shown is not None


def test_a_fault_while_drawing_is_said_and_ends_nothing(demo_user, monkeypatch):
    def broken(*_):
        raise ValueError("no such line")

    demo_user.stage(2)
    monkeypatch.setattr(canvas_module, "plan", broken)
    demo_user.canvas.refresh()
    demo_user.window.grab()
    assert "could not be drawn" in demo_user.canvas.fault
    assert demo_user.canvas.prepared == []
    monkeypatch.undo()
    demo_user.session.apply("raise", lambda p: edits.set_level(p, "level-2", 2600.0))
    demo_user.window.grab()
    assert demo_user.canvas.fault == ""
    assert demo_user.canvas.prepared


def test_an_edit_that_fails_inside_changes_nothing(demo_user):
    before = demo_user.project

    def broken(p):
        raise ZeroDivisionError

    assert not demo_user.session.apply("break", broken)
    assert demo_user.project is before
    assert "nothing was changed" in demo_user.window.hint_label.text()


def answer(monkeypatch, label):
    """Click a button of the next message box by its label."""

    def execute(box):
        box.clickedButton = lambda: next(b for b in box.buttons() if b.text() == label)
        told.append(box.text() + box.informativeText())

    told: list[str] = []
    monkeypatch.setattr(QMessageBox, "exec", execute)
    return told


@pytest.mark.parametrize("label", ["Save elsewhere", "Take over what is there", "Replace it", "Cancel"])
def test_a_file_changed_on_disk_is_noticed_before_it_is_replaced(demo_user, tmp_path, monkeypatch, choose, label):
    session, file, other = demo_user.session, tmp_path / "house.balken", tmp_path / "other.balken"
    assert session.save(file)
    project_file.save(edits.set_level(session.project, "level-2", 3000.0), file)  # somebody else
    session.apply("here", lambda p: edits.set_level(p, "level-2", 2700.0))
    told = answer(monkeypatch, label)
    choose(other)
    done = demo_user.window.files.save()
    assert "changed on disk" in told[0]
    assert "levels: 1 differ" in told[0]
    there = project_file.load(file).levels[1].height
    if label == "Replace it":
        assert (done, there) == (True, pytest.approx(2700.0))
    elif label == "Save elsewhere":
        assert there == 3000.0
        assert project_file.load(other).levels[1].height == pytest.approx(2700.0)
    elif label == "Take over what is there":
        assert session.project.levels[1].height == pytest.approx(3000.0)
        session.undo()
        assert session.project.levels[1].height == pytest.approx(2700.0)
    else:
        assert (done, there) == (False, 3000.0)
        assert session.dirty


def test_a_file_open_in_another_window_is_said(demo_user, tmp_path, monkeypatch):
    from balken.exchange.journal import Journal
    from balken.session.session import Session

    file = tmp_path / "house.balken"
    assert demo_user.session.save(file)
    second = Session(None, Journal(tmp_path / "journal"))
    texts = []
    second.message.connect(lambda text, wrong: texts.append(text))
    assert second.open(file)
    assert any("another window" in t for t in texts)
    second.apply("there", lambda p: edits.set_level(p, "level-2", 2700.0))
    assert not second.save(file)
    assert second.save(file, over=True)
    # And here it is noticed that it changed.
    assert "changed on disk" in demo_user.session.in_the_way(file)


def test_a_journal_that_cannot_be_written_is_said_until_it_can(demo_user, tmp_path):
    session, folder = demo_user.session, demo_user.session.journal.folder
    shutil.rmtree(folder, ignore_errors=True)
    folder.write_text("a file where the folder should be")
    assert session.apply("one", lambda p: edits.set_level(p, "level-2", 2600.0))
    assert demo_user.window.kept_label.isVisible()
    assert "not kept" in demo_user.window.kept_label.text()
    folder.unlink()
    assert session.apply("two", lambda p: edits.set_level(p, "level-2", 2650.0))
    assert not demo_user.window.kept_label.isVisible()
    assert session.kept


def test_every_job_ends_with_an_answer(demo_user, tmp_path, monkeypatch, warned, qtbot):
    from balken.app.work import WriteRequest

    def full(*_):
        raise RuntimeError("disk full in the middle of it")

    monkeypatch.setattr(list_files, "write_xlsx", full)
    work = demo_user.window.work
    with qtbot.waitSignal(work.finished, timeout=5000):
        work.start(WriteRequest(demo_user.session.model, "xlsx", tmp_path / "cuts.xlsx"))
    assert not work.busy
    assert "could not be written" in warned[0]


def test_names_are_shown_as_they_are(demo_user):
    name = "<img src='file:///etc/passwd'><b>Level</b>"
    demo_user.session.apply("rename", lambda p: edits.change(p, "level-2", name=name))
    demo_user.session.select(["level-2"])
    from PySide6.QtCore import Qt
    from PySide6.QtWidgets import QLabel

    labels = demo_user.window.findChildren(QLabel)
    assert labels
    assert all(label.textFormat() == Qt.TextFormat.PlainText for label in labels if label.text())
