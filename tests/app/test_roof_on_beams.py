"""A carport made in the window: beams selected, a roof put over them, saved and opened."""

import pytest
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest
from tests.app.conftest import User, _user
from tests.framing.test_roofs_on_beams import carport

from balken.model import edits
from balken.units.system import FOOT


@pytest.fixture
def roofer(qtbot, qapp, tmp_path) -> User:
    """A user before four beams on posts."""
    user = _user(qtbot, qapp, tmp_path, edits.remove(carport(), "roof-2"))
    user.stage(5)
    return user


def test_beams_selected_are_roofed(roofer, tmp_path):
    roofer.session.select(["beam-1", "beam-2", "beam-3", "beam-4"])
    roofer.press("Make roof")
    roofer.card_button("Place roof")
    roof = roofer.project.roofs[-1]
    assert set(roof.walls) == {"beam-1", "beam-2", "beam-3", "beam-4"}
    plan = roofer.session.model.surfaces[-1]
    assert plan.roof.id == roof.id
    assert not plan.problem
    # An edge is switched over a beam as over a wall.
    before = {side.wall: side.kind for side in roof.sides}
    roofer.press("Switch edge")
    roofer.click(60 * FOOT, 10 * FOOT)
    after = {side.wall: side.kind for side in roofer.project.roofs[-1].sides}
    assert before != after
    path = tmp_path / "carport.balken"
    assert roofer.session.save(path)
    kept = roofer.project
    assert roofer.session.open(path)
    assert roofer.project == kept


def test_beams_that_do_not_close_are_told(roofer):
    roofer.session.select(["beam-1", "beam-2", "beam-3"])
    roofer.press("Make roof")
    assert len(roofer.project.roofs) == 1
    assert "walls or beams" in roofer.window.hint_label.text()


def test_a_roof_is_drawn_corner_by_corner(qtbot, qapp, tmp_path):
    """Over a carport: beams, posts and pads come with it in one step, which is undone as one; what is no outline is told."""
    from tests.houses import house

    user = _user(qtbot, qapp, tmp_path, house(long=40.0 * FOOT, wide=28.0 * FOOT))
    user.stage(5)
    before = user.project
    user.press("Draw roof")
    for x, y in ((50, 0), (70, 0), (70, 16), (50, 16)):
        user.click(x * FOOT, y * FOOT)
    user.move(30 * FOOT, 10 * FOOT)
    assert user.session.trial is not None  # shown before it is closed
    assert len(user.session.trial.project.roofs) == len(before.roofs) + 1
    assert user.project == before
    user.click(50 * FOOT, 0)
    assert user.session.trial is None
    assert len(user.project.roofs) == len(before.roofs) + 1
    assert len(user.project.beams) == 4
    assert len(user.project.columns) == len(user.project.pads) >= 8
    assert user.session.selection == (user.project.roofs[-1].id,)
    user.menu("undo")
    assert user.project == before
    for x, y in ((50, 0), (70, 0)):
        user.click(x * FOOT, y * FOOT)
    QTest.keyClick(user.canvas, Qt.Key.Key_Return)
    assert user.project == before
    assert "three" in user.window.hint_label.text()
    user.menu("redo")
    assert user.session.save(tmp_path / "carport.balken")
    kept = user.project
    assert user.session.open(tmp_path / "carport.balken")
    assert user.project == kept
