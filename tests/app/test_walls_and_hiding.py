"""Changing the walls selected, axes in the card, and hiding, through the window."""

import pytest
from PySide6.QtCore import QTimer
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QCheckBox, QLineEdit

from balken.app.wall_dialogs import straight_axes
from balken.model import edits
from balken.model.lookup import axis_positions, by_id, locate
from balken.units.system import FOOT


def change(user, name, fill):
    """Open a dialog of the walls menu, fill it, accept; returns what it complained about."""
    told = []

    def answer():
        box = QApplication.activeModalWidget()
        QTimer.singleShot(3000, box.reject)  # whatever happens below, the test goes on
        for field, value in fill.items():
            widget = getattr(box, field)
            if isinstance(widget, QLineEdit):
                QTest.keyClicks(widget, value)
            elif isinstance(widget, QCheckBox):
                widget.setChecked(value)
            else:
                widget.setCurrentIndex(value)
        box.try_accept()
        told.append(box.problem.text())
        if told[-1]:
            box.reject()

    QTimer.singleShot(0, answer)
    user.menu(name)
    return told[0] if told else ""


def start(user, wall):
    return locate(by_id(user.project.walls)[wall].start, user.project.grids)


def test_copy_offset_and_turn(demo_user):
    demo_user.stage(2)
    demo_user.session.select(["wall-5"])
    assert change(demo_user, "move_walls", {"dx": "0", "dy": "6'", "copy": True}) == ""
    assert len(demo_user.project.walls) == 6
    assert demo_user.session.selection == ("wall-6",)
    assert start(demo_user, "wall-6")[1] == pytest.approx(20 * FOOT)
    assert change(demo_user, "turn_walls", {"angle": "ninety"}) != ""
    assert change(demo_user, "turn_walls", {"angle": "90"}) == ""
    assert start(demo_user, "wall-6")[0] == pytest.approx(20 * FOOT)
    demo_user.menu("undo")
    demo_user.menu("undo")
    assert len(demo_user.project.walls) == 5
    demo_user.session.select(["wall-5"])
    assert change(demo_user, "offset_wall", {"by": "3'"}) == ""
    assert len(demo_user.project.walls) == 6
    demo_user.session.select(["wall-6"])
    assert change(demo_user, "mirror_walls", {"way": 1, "at": "14'", "copy": False}) == ""


def test_mirrored_about_an_axis_and_about_a_line_at_an_angle(demo_user):
    demo_user.stage(2)
    grids, wall = demo_user.project.grids, by_id(demo_user.project.walls)["wall-5"]
    (x, y), (xe, ye) = locate(wall.start, grids), locate(wall.end, grids)
    names = [name for name, _ in straight_axes(demo_user.project)]
    demo_user.session.select(["wall-5"])
    assert change(demo_user, "mirror_walls", {"way": 3 + names.index("axis C"), "copy": True}) == ""
    assert start(demo_user, "wall-6") == pytest.approx((x, 2 * 28 * FOOT - y))
    demo_user.menu("undo")
    demo_user.session.select(["wall-5"])
    assert "not an angle" in change(demo_user, "mirror_walls", {"way": 2, "angle": "steep"})
    assert change(demo_user, "mirror_walls", {"way": 2, "angle": "45", "copy": False}) == ""
    middle = ((x + xe) / 2, (y + ye) / 2)
    assert start(demo_user, "wall-5") == pytest.approx((middle[0] + y - middle[1], middle[1] + x - middle[0]))


def test_split_join_and_reach(demo_user):
    demo_user.stage(2)
    demo_user.session.select(["wall-5"])
    assert "there" in change(demo_user, "split_wall", {"along": "10'"})
    assert change(demo_user, "split_wall", {"along": "20'"}) == ""
    assert len(demo_user.project.walls) == 6
    demo_user.session.select(["wall-5", "wall-6"])
    demo_user.menu("join_walls")
    assert len(demo_user.project.walls) == 5
    demo_user.session.select(["wall-5", "grid-1/x3"])
    demo_user.menu("reach_wall")
    ends = [
        locate(p, demo_user.project.grids)[0]
        for p in (by_id(demo_user.project.walls)["wall-5"].start, by_id(demo_user.project.walls)["wall-5"].end)
    ]
    assert sorted(ends) == pytest.approx([0.0, 27 * FOOT]) or "long" in demo_user.window.hint_label.text()
    demo_user.menu("undo")
    demo_user.session.select(["wall-5", "grid-1/x2"])
    demo_user.menu("reach_wall_shorter")
    assert start(demo_user, "wall-5")[0] == pytest.approx(13 * FOOT) or "long" in demo_user.window.hint_label.text()
    demo_user.session.select([])
    demo_user.menu("move_walls")
    assert "Select one or more walls" in demo_user.window.hint_label.text()


def test_axes_in_the_card(demo_user):
    demo_user.stage(1)
    demo_user.session.select(["grid-1/x2"])
    demo_user.type_in_card("Move it alone by", "2'")
    assert axis_positions(demo_user.project.grids[0].x_axes)[1:3] == pytest.approx([15 * FOOT, 27 * FOOT])
    demo_user.type_in_card("Insert an axis after it, at", "4'")
    assert [a.label for a in demo_user.project.grids[0].x_axes] == ["1", "2", "2A", "3", "4"]
    demo_user.type_in_card("Label", "2'")
    assert demo_user.project.grids[0].x_axes[1].label == "2'"
    demo_user.card_button("Remove axis")
    assert len(demo_user.project.grids[0].x_axes) == 4
    demo_user.session.select(["grid-1"])
    demo_user.type_in_card("Labels along x from", "N-1")
    assert demo_user.project.grids[0].x_axes[0].label == "N-1"
    demo_user.type_in_card("Turned by", "north")
    assert "not an angle" in demo_user.window.card.problem.text()


def test_a_level_is_removed_and_what_hung_on_it_goes_to_another(demo_user):
    top = demo_user.session.model.lines["wall-1"].band.top
    demo_user.session.select(["level-2"])
    demo_user.card_button("Remove level")
    assert [f.things for f in demo_user.session.model.findings if f.code == "removed level"] == [("level-2",)]
    assert "level-2" not in [level.id for level, _, _ in demo_user.window.strip.marks()]
    demo_user.card_button("Select what hangs on it")
    assert "wall-1" in demo_user.session.selection
    demo_user.session.select(["level-2"])
    demo_user.type_in_card("Hang all on", "level-1")
    assert len(demo_user.project.levels) == 4
    assert demo_user.session.model.lines["wall-1"].band.top == pytest.approx(top)
    assert not [f for f in demo_user.session.model.findings if f.code == "removed level"]


def test_hide_show_alone_show_all(demo_user):
    demo_user.stage(5)
    rafters = [k for k, p in demo_user.session.model.pieces.items() if p.role == "rafter"]
    demo_user.session.select(rafters)
    demo_user.menu("hide")
    refs = {p.item.ref for p in demo_user.canvas.prepared}
    assert not refs.intersection(rafters)
    assert "roof-1/ridge/0" in refs
    pieces = demo_user.session.model.pieces
    assert not demo_user.window.space.shown(pieces[rafters[0]])
    demo_user.menu("show")
    assert demo_user.window.space.shown(pieces[rafters[0]])
    demo_user.session.select(["wall-1"])
    demo_user.menu("alone")
    assert demo_user.window.space.shown(pieces["wall-1/layer/0"])
    assert not demo_user.window.space.shown(pieces["wall-2/layer/0"])
    assert not demo_user.window.space.shown(pieces[rafters[0]])
    demo_user.menu("show")
    demo_user.session.select([])
    demo_user.menu("hide")
    assert "Select what to hide" in demo_user.window.hint_label.text()


def test_undo_goes_all_the_way_back_and_forth(demo_user):
    first = demo_user.project
    steps = [
        lambda p: edits.set_level(p, "level-2", 2600.0),
        lambda p: edits.change(p, "roof-1", pitch=0.7),
        lambda p: edits.remove(p, "wall-5"),
        lambda p: edits.set_loads(p, ground_snow=3.0),
    ]
    for i, step in enumerate(steps):
        assert demo_user.session.apply(f"step {i}", step)
    last = demo_user.project
    for _ in steps:
        demo_user.menu("undo")
    assert demo_user.project is first
    assert not demo_user.session.dirty
    for _ in steps:
        demo_user.menu("redo")
    assert demo_user.project is last
