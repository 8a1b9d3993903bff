"""Panning, zooming and turning the views by wheel, mouse and keys; what comes into view is there."""

import math

import numpy as np
import pytest
from PySide6.QtCore import QPoint, QPointF, Qt
from PySide6.QtGui import QWheelEvent
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication

from balken.app.painting import prepare
from balken.app.space_picture import paced
from balken.documents.cross_section import cross_section, effective_cut
from balken.model import edits, grid_edits
from balken.units.system import FOOT


def wheel(widget, at, notches):
    where = QPointF(at)
    event = QWheelEvent(
        where,
        QPointF(widget.mapToGlobal(at)),
        QPoint(),
        QPoint(0, 120 * notches),
        Qt.MouseButton.NoButton,
        Qt.KeyboardModifier.NoModifier,
        Qt.ScrollPhase.NoScrollPhase,
        False,
    )
    QApplication.sendEvent(widget, event)


def drag(widget, button, start, by, parts=4):
    QTest.mousePress(widget, button, Qt.KeyboardModifier.NoModifier, start)
    for k in range(1, parts + 1):
        QTest.mouseMove(widget, start + by * k / parts)
    QTest.mouseRelease(widget, button, Qt.KeyboardModifier.NoModifier, start + by)


# Plans and sections ----------------------------------------------------------------------------------


def test_the_wheel_zooms_about_the_pointer(demo_user):
    canvas = demo_user.canvas
    at = QPoint(300, 200)
    under, zoom = canvas.to_model(at), canvas.zoom
    wheel(canvas, at, 2)
    assert canvas.zoom == pytest.approx(zoom * 1.44)
    assert canvas.to_model(at) == pytest.approx(under)
    wheel(canvas, at, -2)
    assert canvas.zoom == pytest.approx(zoom)
    for _ in range(80):
        wheel(canvas, at, 5)
    assert canvas.zoom <= 20.0


@pytest.mark.parametrize("button", [Qt.MouseButton.RightButton, Qt.MouseButton.MiddleButton])
def test_dragging_pans_and_what_was_under_the_pointer_stays_there(demo_user, button):
    canvas = demo_user.canvas
    start, by = QPoint(200, 150), QPoint(80, -40)
    under, selected = canvas.to_model(start), demo_user.session.selection
    drag(canvas, button, start, by)
    assert canvas.to_model(start + by) == pytest.approx(under)
    assert demo_user.session.selection == selected
    demo_user.session.apply("x", lambda p: edits.change(p, "roof-1", pitch=0.6))
    assert canvas.to_model(start + by) == pytest.approx(under)  # an edit leaves the view where it is


def test_keys_pan_zoom_and_bring_all_back(demo_user):
    canvas = demo_user.canvas
    canvas.setFocus()
    home, zoom = canvas.centre, canvas.zoom
    for key, (x, y) in {
        Qt.Key.Key_Left: (-1, 0),
        Qt.Key.Key_Right: (1, 0),
        Qt.Key.Key_Up: (0, 1),
        Qt.Key.Key_Down: (0, -1),
    }.items():
        before = canvas.centre
        QTest.keyClick(canvas, key)
        moved = canvas.centre[0] - before[0], canvas.centre[1] - before[1]
        assert (np.sign(moved[0]), np.sign(moved[1])) == (x, y)
    QTest.keyClick(canvas, Qt.Key.Key_Plus)
    assert canvas.zoom > zoom
    QTest.keyClick(canvas, Qt.Key.Key_Minus)
    assert canvas.zoom == pytest.approx(zoom)
    QTest.keyClick(canvas, Qt.Key.Key_Home)
    assert (canvas.zoom, canvas.centre) == (pytest.approx(zoom), pytest.approx(home))


def whole_section(user):
    model = user.session.model
    return cross_section(model, effective_cut(model), 40.0, marks=False, dimensions=False).items


def refs_in_view(strip, items):
    """Return what of a section lies in the strip's view, by the things it belongs to."""
    seen = strip.visible_part()
    found = set()
    for item in items:
        box = item_box(item)
        if box[2] >= seen.left() and box[0] <= seen.right():
            found.add(item.ref)
    return found


def item_box(item):
    return prepare([item])[0].box


def test_the_strip_draws_no_more_than_it_needs_and_all_of_that(demo_user):
    strip = demo_user.window.strip
    demo_user.session.apply("x", lambda p: grid_edits.set_axis_gap(p, "grid-1", "y2", 15 * FOOT))
    QApplication.processEvents()
    assert strip._until < math.inf
    shown = {made.item.ref for made in strip.prepared}
    assert refs_in_view(strip, whole_section(demo_user)) <= shown


@pytest.mark.parametrize("how", ["pan", "wheel", "keys", "wider", "whole section"])
def test_what_the_strip_left_out_comes_as_soon_as_it_comes_into_view(demo_user, how):
    strip = demo_user.window.strip
    demo_user.session.apply("x", lambda p: edits.change(p, "roof-1", pitch=0.55))
    QApplication.processEvents()
    every = {item.ref for item in whole_section(demo_user)}
    assert strip._until < math.inf
    middle = QPoint(strip.width() - 20, 40)
    if how == "pan":
        for _ in range(6):
            drag(strip, Qt.MouseButton.RightButton, middle, QPoint(-200, 0))
    elif how == "wheel":
        wheel(strip, QPoint(20, 40), -9)
    elif how == "keys":
        strip.setFocus()
        for _ in range(60):
            QTest.keyClick(strip, Qt.Key.Key_Right)
    elif how == "wider":
        strip.setMinimumWidth(900)
    else:
        strip.whole.click()
    for _ in range(5):
        QApplication.processEvents()
    assert refs_in_view(strip, whole_section(demo_user)) <= {made.item.ref for made in strip.prepared}
    assert strip._right() <= strip._until
    if how != "wider":
        assert {made.item.ref for made in strip.prepared} == every


# 3-D ---------------------------------------------------------------------------------------------------


def camera(picture):
    made = picture._renderer.GetActiveCamera()
    return np.array(made.GetPosition()), np.array(made.GetFocalPoint())


def test_turning_keeps_the_distance_and_never_goes_over_the_poles(picture):
    place, focus = camera(picture)
    drag(picture, Qt.MouseButton.LeftButton, QPoint(200, 200), QPoint(90, 30))
    turned, _ = camera(picture)
    assert np.linalg.norm(turned - place) > 100.0
    assert np.linalg.norm(turned - focus) == pytest.approx(np.linalg.norm(place - focus))
    drag(picture, Qt.MouseButton.LeftButton, QPoint(200, 10), QPoint(0, 900), 30)
    high, focus = camera(picture)
    steep = math.degrees(math.asin((high - focus)[2] / np.linalg.norm(high - focus)))
    assert 80.0 < abs(steep) <= 85.5
    for key in (Qt.Key.Key_Left, Qt.Key.Key_Right, Qt.Key.Key_Up, Qt.Key.Key_Down):
        before, _ = camera(picture)
        QTest.keyClick(picture, key)
        after, _ = camera(picture)
        assert abs(after - before).max() > 1.0 or key is Qt.Key.Key_Up


def test_wheel_and_drag_bring_nearer_and_aside_and_home_brings_all_back(picture):
    place, focus = camera(picture)
    wheel(picture, QPoint(100, 100), 3)
    near, same = camera(picture)
    assert np.linalg.norm(near - focus) < 0.8 * np.linalg.norm(place - focus)
    assert same == pytest.approx(focus)
    drag(picture, Qt.MouseButton.RightButton, QPoint(200, 200), QPoint(60, 0))
    panned, focus_panned = camera(picture)
    assert panned - near == pytest.approx(focus_panned - focus, abs=1e-6)
    assert abs((panned - near)[2]) < 1e-6  # aside, not up or down
    QTest.keyClick(picture, Qt.Key.Key_Home)
    picture.render()
    _, again = camera(picture)
    assert again == pytest.approx(focus, abs=1.0)


def test_the_menus_hide_roles_and_storeys_and_show_them_again(demo_user, picture):
    space = demo_user.window.space

    def shown():
        picture.render()
        return {key for keys in picture._keys.values() for key in keys}

    assert not any(key.startswith("roof-1/deck") for key in shown())  # hidden at first, to look inside
    space.show_all(space.hidden_roles)
    every = shown()
    space._fill_menus()
    roles = {action.text(): action for action in space.roles.menu().actions()}
    roles["rafter"].setChecked(False)
    assert shown() == {key for key in every if "/rafter/" not in key}
    roles["Show all"].trigger()
    assert shown() == every
    storeys = {action.text(): action for action in space.storeys.menu().actions()}
    storeys["Floor 1"].setChecked(False)
    left = shown()
    assert left < every
    pieces = demo_user.session.model.pieces
    assert {pieces[key].level for key in every - left} == {"level-1"}
    storeys["Show all"].trigger()
    space.show_framing_alone(True)
    framing = shown()
    assert any("/stud/" in key for key in framing)
    assert not any(key.endswith("/deck") for key in framing)


def test_escape_drops_the_selection(demo_user, picture):
    demo_user.session.select(["wall-1"])
    QTest.keyClick(picture, Qt.Key.Key_Escape)
    assert demo_user.session.selection == ()


def test_the_camera_keeps_its_pace(picture):
    """Pictures that take too long are rendered smaller while the camera moves, in full once it rests; picks and marks follow."""
    assert paced(1.0, 0.05) == 0.8
    assert paced(0.8, 0.01) == 1.0
    assert paced(0.5, 1.0) == 0.5
    assert paced(0.8, 0.03) == 0.8
    picture.whole()
    picture.render()
    full, middle = picture._image.size(), picture.rect().center().toPointF()
    picture.orbit(5.0, 0.0)
    picture._part = 0.5
    picture.render()
    assert picture._image.width() == full.width() // 2
    coarse = picture.pick(middle)
    QTest.qWait(300)
    picture.render()
    assert picture._image.size() == full
    assert picture.pick(middle) == coarse != ""
