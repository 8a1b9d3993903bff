"""The window gives its room to what has something to say: the panel below folds, 3-D shows the whole building."""

import numpy as np
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest

from balken.model import edits


def click_tab(user, index):
    bar = user.window.bottom.tabBar()
    QTest.mouseClick(bar, Qt.MouseButton.LeftButton, pos=bar.tabRect(index).center())
    QTest.qWait(20)


def test_the_panel_below_folds_while_there_is_nothing_to_say(demo_user):
    bottom, session = demo_user.window.bottom, demo_user.session
    QTest.qWait(20)
    assert not session.model.findings
    assert bottom.folded
    assert bottom.height() < 50
    assert "bracing" in bottom.told.text()
    plan = demo_user.canvas.height()
    # A finding opens it; taken back, it folds again.
    session.apply("x", lambda p: edits.set_loads(p, soil_bearing=20.0))
    QTest.qWait(20)
    assert session.model.findings
    assert not bottom.folded
    assert bottom.height() >= 120
    assert demo_user.canvas.height() < plan
    session.undo()
    QTest.qWait(20)
    assert bottom.folded


def test_a_click_on_the_tab_in_front_folds_and_opens_it(demo_user):
    bottom = demo_user.window.bottom
    click_tab(demo_user, 0)
    assert not bottom.folded
    demo_user.session.apply("x", lambda p: edits.set_loads(p, floor_live=2.0))
    assert not bottom.folded  # opened by a click it stays open
    click_tab(demo_user, 0)
    assert bottom.folded
    click_tab(demo_user, 2)
    assert not bottom.folded
    assert bottom.currentIndex() == 2
    tall = bottom.height()
    click_tab(demo_user, 2)
    assert bottom.folded
    click_tab(demo_user, 2)
    assert bottom.height() == tall
    # The list in front has something to say: an edit does not fold it.
    demo_user.session.apply("x", lambda p: edits.set_loads(p, floor_live=1.9))
    assert not bottom.folded


def test_3d_shows_the_whole_building_at_first_and_on_request(demo_user, picture):
    def fits():
        low, high = picture.seen_box()
        assert np.abs((low, high)).max() <= 1.0
        assert max(high - low) > 1.7  # and fills the picture one way
        assert np.abs(low + high).max() < 0.05

    fits()
    demo_user.window.resize(1280, 620)
    QTest.qWait(50)
    picture.render()
    fits()
    picture.orbit(70.0, 10.0)
    picture.pan(200.0, 90.0)
    picture.whole()
    picture.render()
    fits()
