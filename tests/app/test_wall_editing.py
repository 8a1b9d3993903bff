"""Walls and openings dragged, chains and storeys selected, the next storey, masonry, build-ups: by mouse and keys."""

import pytest
from PySide6.QtCore import Qt, QTimer
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QLabel

from balken.documents.display import Text
from balken.geometry.plane import distance
from balken.model import edits
from balken.model.lookup import by_id, locate
from balken.model.records import AxisPoint, FreePoint, Hang
from balken.units.system import FOOT


def places(user, wall_id):
    wall = by_id(user.project.walls)[wall_id]
    return locate(wall.start, user.project.grids), locate(wall.end, user.project.grids)


def test_a_wall_is_dragged_and_its_corners_follow(demo_user):
    demo_user.stage(2)
    demo_user.session.select(["wall-2"])
    band = demo_user.session.model.lines["wall-2"].band
    start = demo_user.canvas.to_widget(band.at(band.length * 0.33, 100.0)).toPoint()
    end = demo_user.canvas.to_widget((band.start[0] + 5 * FOOT, band.at(band.length * 0.33, 0.0)[1])).toPoint()
    demo_user.drag(demo_user.canvas, start, end)
    moved = places(demo_user, "wall-2")[0][0] / FOOT
    assert moved == pytest.approx(45.0, abs=0.6)
    assert places(demo_user, "wall-1")[1] == pytest.approx(places(demo_user, "wall-2")[0])
    assert places(demo_user, "wall-3")[0] == pytest.approx(places(demo_user, "wall-2")[1])
    assert places(demo_user, "wall-5")[1][0] == pytest.approx(places(demo_user, "wall-2")[0][0])
    assert demo_user.session.undo_label == "Move walls"
    demo_user.menu("undo")
    assert places(demo_user, "wall-2")[0][0] == pytest.approx(40 * FOOT)


def test_an_opening_is_moved_resized_and_refused_past_the_end(demo_user):
    demo_user.stage(2)
    demo_user.session.select(["opening-1"])
    band = demo_user.session.model.lines["wall-1"].band
    middle = band.at(6 * FOOT, 80.0)
    demo_user.drag(demo_user.canvas, demo_user.at(*middle), demo_user.at(middle[0] + 2 * FOOT, middle[1]))
    moved = demo_user.project.openings[0]
    assert moved.offset / FOOT == pytest.approx(5.0, abs=0.4)
    edge = band.at(moved.offset + moved.width, band.set_out)
    demo_user.drag(demo_user.canvas, demo_user.at(*edge), demo_user.at(edge[0] - 2 * FOOT, edge[1]))
    assert demo_user.project.openings[0].width / FOOT == pytest.approx(4.0, abs=0.4)
    edge = band.at(moved.offset, band.set_out)
    before = demo_user.project
    demo_user.drag(demo_user.canvas, demo_user.at(*edge), demo_user.at(edge[0] - 9 * FOOT, edge[1]))
    assert demo_user.project is before
    assert "before the start of the wall" in demo_user.window.hint_label.text()
    demo_user.type_in_card("Width", "60'")
    assert "past the end of the wall" in demo_user.window.card.problem.text()
    demo_user.type_in_card("Height", "12'")
    assert "tall" in demo_user.window.card.problem.text()


def test_chains_roles_storeys_and_boxes_select(demo_user):
    demo_user.stage(2)
    demo_user.session.select(["wall-3"])
    demo_user.menu("chain")
    assert set(demo_user.session.selection) == {"wall-1", "wall-2", "wall-3", "wall-4"}
    demo_user.menu("storey_walls")
    assert len(demo_user.session.selection) == 5
    demo_user.session.select(["wall-5"])
    demo_user.menu("same_role")
    assert demo_user.session.selection == ("wall-5",)
    demo_user.menu("openings")
    assert len(demo_user.session.selection) == 12
    box = (demo_user.at(-2 * FOOT, 30 * FOOT), demo_user.at(20 * FOOT, 10 * FOOT))
    demo_user.session.select([])
    demo_user.drag(demo_user.canvas, *box)
    touching = set(demo_user.session.selection)
    assert {"wall-3", "wall-4", "wall-5"} <= touching
    demo_user.window.actions_by_name["box_inside"].setChecked(True)
    demo_user.drag(demo_user.canvas, *box)
    assert set(demo_user.session.selection) < touching
    assert "wall-3" not in demo_user.session.selection


def answer(user, deed, fill):
    told = []

    def run():
        box = QApplication.activeModalWidget()
        QTimer.singleShot(5000, box.reject)
        fill(box)
        box.try_accept()
        told.append(box.problem.text())
        if told[-1]:
            box.reject()

    QTimer.singleShot(0, run)
    deed()
    return told[0]


def test_the_next_storey_is_made_set_in_with_another_build_up(demo_user):
    demo_user.session.apply("level", lambda p: edits.add_level(p, "level-2", 12 * 25.4, "Floor 2", "floor"))
    demo_user.session.apply("level", lambda p: edits.add_level(p, "level-6", 8 * FOOT, "Plate 2", "plate"))
    demo_user.stage(2)

    def fill(box):
        box.buildup.setCurrentIndex(box.buildup.findData("framed-2x4"))
        QTest.keyClicks(box.inward, "1'")

    assert answer(demo_user, lambda: demo_user.press("Next storey"), fill) == ""
    upper = [w for w in demo_user.project.walls if w.foot.level == "level-6"]
    assert len(upper) == 5
    assert sum(w.buildup == "framed-2x4" for w in upper) == 4
    longest = max(distance(*places(demo_user, w.id)) for w in upper)
    assert longest == pytest.approx(40 * FOOT, abs=1.0)
    outside = [w for w in upper if w.role == "outside"]
    assert max(distance(*places(demo_user, w.id)) for w in outside) == pytest.approx(38 * FOOT, abs=1.0)
    assert all(w.cover > 0.0 for w in outside)
    demo_user.session.select(["wall-5"])
    assert answer(demo_user, lambda: demo_user.menu("copy_to_level"), lambda box: None) == ""
    assert len(demo_user.project.walls) == 11


def test_masonry_is_listed_shown_and_fitted(demo_user):
    demo_user.stage(2)
    demo_user.press("Masonry")
    box = demo_user.window.views.masonry
    assert "No wall has a core" in box.problem.text() or "no wall has a core" in box.problem.text()
    box.close()
    QTest.qWait(20)
    demo_user.session.apply(
        "block", lambda p: edits.change(edits.change(p, "wall-1", buildup="block-190"), "wall-3", buildup="block-190")
    )
    demo_user.press("Masonry")
    box = demo_user.window.views.masonry
    assert box.table.topLevelItemCount() > 8
    assert "off the module" in box.note.text()
    box.shorten.setText("nothing")
    box.shorten.editingFinished.emit()
    assert box.problem.text() != ""
    box.shorten.setText("0 mm")
    QTest.mouseClick(box.preview, Qt.MouseButton.LeftButton)
    assert demo_user.session.trial is not None
    QTest.mouseClick(box.make_fit, Qt.MouseButton.LeftButton)
    assert ", 0 of them off" in box.note.text()
    assert demo_user.session.undo_label == "Fit to the masonry module"
    box.close()


def test_fitting_one_wall_does_not_say_that_all_fit(demo_user):
    demo_user.stage(2)
    demo_user.session.apply(
        "block", lambda p: edits.change(edits.change(p, "wall-1", buildup="block-190"), "wall-3", buildup="block-190")
    )
    demo_user.session.select(["wall-3"])
    said = []
    demo_user.session.message.connect(lambda text, wrong: said.append((text, wrong)))
    demo_user.press("Masonry")
    box = demo_user.window.views.masonry
    QTest.mouseClick(box.make_fit, Qt.MouseButton.LeftButton)
    assert ", 0 of them off" in box.note.text()
    text, wrong = said[-1]
    assert text.startswith("The walls chosen and their openings fit the module; ")
    assert text.endswith("off it.")
    assert wrong
    box.module.setText("0")
    box.module.editingFinished.emit()
    assert "20 to 2000 mm" in box.problem.text()
    box.close()


def test_a_build_up_is_copied_and_its_layers_changed(demo_user):
    demo_user.stage(2)
    demo_user.session.select(["wall-1"])
    demo_user.card_button("Copy the build-up for this wall alone")
    built = by_id(demo_user.project.walls)["wall-1"].buildup
    assert built != "framed-2x6"
    demo_user.type_in_card("Add a layer", "0|brick")
    layers = by_id(demo_user.project.buildups)[built].layers
    assert layers[0].material == "brick"
    demo_user.type_in_card("Remove a layer", "0")
    assert by_id(demo_user.project.buildups)[built].layers == layers[1:]
    demo_user.type_in_card("Remove a layer", "2")
    assert "no core layer" in demo_user.window.card.problem.text()
    demo_user.type_in_card("2x6 studs (core)", '3 1/2"')
    assert demo_user.session.model.lines["wall-1"].thickness == pytest.approx(5 * 25.4)
    assert demo_user.session.model.lines["wall-2"].thickness == pytest.approx(7 * 25.4)


def test_strings_can_be_left_out_and_set_off(demo_user):
    demo_user.stage(2)
    demo_user.session.select([])

    def figures():
        return sum(1 for p in demo_user.canvas.prepared if p.item.layer == "walls" and isinstance(p.item, Text))

    before = figures()
    demo_user.type_in_card("Openings", "left out")
    assert figures() < before
    demo_user.type_in_card("First string off the wall", '0"')
    assert "must be" in demo_user.window.card.problem.text()
    demo_user.type_in_card("Overall from", "axes")
    assert demo_user.project.strings.to == "axes"


def test_a_walls_ends_are_tied_and_freed_from_card_and_menu(demo_user):
    """A wing of two walls off axis 4."""
    demo_user.stage(2)
    foot, head = Hang(level="level-1"), Hang(level="level-2")
    corner = (55 * FOOT, 28 * FOOT)
    for start, end in (((40 * FOOT, 28 * FOOT), corner), (corner, (55 * FOOT, 0.0))):
        demo_user.session.apply("Wing", lambda p, a=start, b=end: edits.add_wall(p, a, b, "framed-2x6", foot, head))
    first, second = (w.id for w in demo_user.project.walls[-2:])
    demo_user.session.select([first])
    texts = [w.text() for w in demo_user.window.card.findChildren(QLabel)]
    assert "axes 4/C" in texts
    assert "no axis" in texts
    demo_user.card_button("Tie to the nearest axes")
    tied = by_id(demo_user.project.walls)[first].end
    assert isinstance(tied, AxisPoint)
    assert tied == by_id(demo_user.project.walls)[second].start
    texts = [w.text() for w in demo_user.window.card.findChildren(QLabel)]
    assert "axes 4/C + 15'-0\" in x" in texts
    demo_user.card_button("Let go of the axes")
    assert isinstance(by_id(demo_user.project.walls)[second].start, FreePoint)
    demo_user.session.select([first, second])
    demo_user.menu("tie_walls")
    assert demo_user.session.undo_label == "Tie walls to axes"
    assert by_id(demo_user.project.walls)[first].end == tied
    demo_user.menu("let_go")
    assert demo_user.session.undo_label == "Free walls of axes"
    demo_user.session.select([])
    before = demo_user.project
    demo_user.menu("tie_walls")
    assert demo_user.project is before
