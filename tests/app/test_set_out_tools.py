"""Setting out through the window: ground, columns, grids placed by two points, drawings under the plan."""

import pytest
from PySide6.QtCore import Qt, QTimer
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication
from tests.app.conftest import _user
from tests.exchange.test_dxf_reader import drawing

from balken.exchange.ifc import write_ifc
from balken.model import edits
from balken.model.lookup import locate
from balken.units import Units
from balken.units.system import FOOT


def enter(user, *texts):
    """Type into the entry at the cursor (Tab between fields), then Enter."""
    for i, text in enumerate(texts):
        field = user.canvas.entry.fields[i]
        field.setFocus()
        field.selectAll()
        QTest.keyClicks(field, text)
    QTest.keyClick(user.canvas.entry.fields[len(texts) - 1], Qt.Key.Key_Return)


def test_spot_heights_are_clicked_and_typed_and_the_ground_slopes(demo_user):
    demo_user.stage(1)
    demo_user.press("Ground")
    demo_user.click(-4 * FOOT, -3 * FOOT)
    enter(demo_user, "-1'8\"")
    demo_user.click(44 * FOOT, -3 * FOOT)
    enter(demo_user, "-4'")
    assert [s.height for s in demo_user.project.spots] == pytest.approx([-508.0, -1219.2])
    assert demo_user.session.model.ground.sloping
    demo_user.key(Qt.Key.Key_Escape)
    demo_user.session.select(["spot-2"])
    demo_user.type_in_card("Height", "-3'")
    assert demo_user.project.spots[1].height == pytest.approx(-914.4)
    demo_user.stage(2)
    demo_user.session.select(["wall-1"])
    demo_user.type_in_card("Ground along it", "-2', -5'")
    assert demo_user.session.model.ground.height((40 * FOOT, 0.0)) == pytest.approx(-5 * FOOT)
    demo_user.type_in_card("Ground along it", "steep")
    assert "not a length" in demo_user.window.card.problem.text()
    assert any(f.code == "frost" for f in demo_user.session.model.findings)


def test_columns_at_picked_crossings_thinned_and_changed_by_regions(demo_user):
    demo_user.stage(1)
    demo_user.dialog("Columns", {"x_axes": "2-3", "y_axes": "Q"})
    assert "no axis 'Q'" in demo_user.problem
    demo_user.dialog("Columns", {"x_axes": "1-4", "y_axes": "", "width_field": '4"'})
    assert len(demo_user.project.columns) == 12
    assert len(demo_user.session.selection) == 12
    demo_user.dialog("Columns", {"x_axes": "all"})
    assert "every crossing" in demo_user.problem
    # A polygon round the inner ones: make them stouter. A rectangle round the right-hand ones: take them away.
    demo_user.stage(2)
    demo_user.menu("region")
    for x, y in ((10, 10), (30, 10), (30, 18), (10, 18)):
        demo_user.click(x * FOOT, y * FOOT)
    demo_user.key(Qt.Key.Key_Return)
    inner = [r for r in demo_user.session.selection if r.startswith("column")]
    assert len(inner) == 2
    demo_user.session.select(inner)
    demo_user.type_in_card("Width", '8"')
    assert sorted(c.width for c in demo_user.project.columns)[-2:] == pytest.approx([203.2, 203.2])
    demo_user.drag(demo_user.canvas, demo_user.at(38.5 * FOOT, -1.5 * FOOT), demo_user.at(41.5 * FOOT, 29.5 * FOOT))
    right = [r for r in demo_user.session.selection if r.startswith("column")]
    assert len(right) == 3
    demo_user.session.select(right)
    QTest.keyClick(demo_user.canvas, Qt.Key.Key_Delete)
    assert len(demo_user.project.columns) == 9


def test_a_radial_grid_and_one_placed_by_two_points(user):
    user.stage(1)
    user.dialog("Lay grid", {"kind": "radial", "x_spacings": "3 x 20, 200 x 4", "y_spacings": "20'"})
    assert "more than once" in user.problem or "360" in user.problem
    user.dialog("Lay grid", {"kind": "radial", "x_spacings": "3 x 20", "y_spacings": "20', 10'"})
    grid = user.project.grids[0]
    assert (grid.kind, len(grid.x_axes), len(grid.y_axes)) == ("radial", 4, 2)
    user.session.select([grid.id])
    user.type_in_card("Degrees between rays", "2 x 30")
    assert [a.gap for a in user.project.grids[0].x_axes] == [0.0, 30.0, 30.0]
    user.session.select([])

    def tick():
        QApplication.activeModalWidget().by_points.setChecked(True)

    QTimer.singleShot(0, tick)
    user.dialog("Lay grid", {"x_spacings": "2 x 12'", "y_spacings": "10'"})
    assert user.canvas.tool.name == "place grid"
    user.click(0.0, 0.0)
    user.click(3000.0, 3000.0)
    placed = user.project.grids[1]
    assert placed.angle == pytest.approx(45.0, abs=1.0)
    assert user.session.selection == (placed.id,)
    user.type_in_card("Dimension chain at", "5'")
    user.type_in_card("Shows on", "Floor 1")
    assert user.project.grids[1].levels == ("level-1",)
    user.type_in_card("Shows on", "Attic")
    assert "no level named" in user.window.card.problem.text()


def test_ten_thousand_axes_are_refused_and_nothing_is_lost(user):
    user.stage(1)
    user.dialog("Lay grid", {"x_spacings": "10000x100 mm", "y_spacings": "10'"})
    assert "too many bays" in user.problem
    user.dialog("Lay grid", {"x_spacings": "450x1'", "y_spacings": "10'"})
    assert "more than a drawing can hold" in user.problem
    assert user.project.grids == ()


def test_a_drawing_is_laid_scaled_snapped_to_and_turned_into_walls(user, tmp_path, choose, warned):
    path = drawing(tmp_path / "plan.dxf", 0)
    user.stage(1)
    choose(path)
    user.press("Lay drawing")
    assert user.session.selection == ("base-drawing-1",)
    user.card_button(
        "hide furniture (53 lines)"
        if "hide furniture (53 lines)" in user.window.card.buttons
        else next(b for b in user.window.card.buttons if b.startswith("hide furniture"))
    )
    assert user.project.base_drawings[0].layers_off == ("furniture",)
    user.card_button("Scale and place it by two points")
    user.canvas.fit()
    user.click(0.0, 0.0)
    assert user.canvas.tool.snap.name == "end of a line"
    user.click(8000.0, 0.0)
    enter(user, "40'", "0", "0")
    assert user.project.base_drawings[0].scale == pytest.approx(40 * FOOT / 8000.0)
    user.menu("undo")
    user.session.select(["base-drawing-1"])
    user.card_button("Make walls from its lines")
    assert [w.role for w in user.project.walls].count("outside") == 4
    bad = tmp_path / "bad.dxf"
    bad.write_bytes(b"no drawing")
    choose(bad)
    user.menu("lay_dxf")
    assert "not a DXF" in warned[0]
    assert len(user.project.base_drawings) == 1


def test_the_architects_file_is_read_again_and_changes_taken_over(demo_user, tmp_path, choose, qtbot):
    path = tmp_path / "first.ifc"
    before = demo_user.project
    write_ifc(demo_user.session.model, path)
    demo_user.menu("read_again")
    assert "not begun from" in demo_user.window.hint_label.text()
    choose(path)
    demo_user.menu("read_ifc")
    qtbot.waitUntil(lambda: not demo_user.window.work.busy, timeout=60000)
    demo_user.window.files.report.close()
    assert len(demo_user.project.walls) == 5
    from balken.derive import derive

    write_ifc(derive(edits.change(before, "opening-1", width=5 * FOOT)), path)
    choose(path)
    demo_user.menu("read_again")
    qtbot.waitUntil(lambda: not demo_user.window.work.busy, timeout=60000)
    changes = demo_user.window.files.changes
    assert changes.table.topLevelItemCount() == 1
    changes.take()
    assert demo_user.project.openings[0].width == pytest.approx(5 * FOOT)
    assert locate(demo_user.project.walls[0].start, demo_user.project.grids) == pytest.approx((0.0, 0.0))
    demo_user.menu("undo")
    assert demo_user.project.openings[0].width == pytest.approx(6 * FOOT)


def test_a_new_project_in_millimetres_begins_with_round_figures(qtbot, qapp, tmp_path):
    user = _user(qtbot, qapp, tmp_path, edits.new_project())
    box = user.window.units_box
    box.setCurrentIndex(1)
    box.activated.emit(1)
    assert user.project.steps is Units.METRIC
    assert user.project.loads.floor_live == 2.0
    assert user.window.settings.opening.width == 1200.0
    assert "round figures" in user.window.hint_label.text()
    user.menu("undo")
    assert user.project.steps is Units.IMPERIAL
    assert user.window.settings.opening.width == pytest.approx(4 * 304.8)


def test_several_levels_are_added_without_closing_the_dialog(user):
    """Three levels, each from the one before, in one opening of the dialog; what cannot be is said and keeps it open."""
    seen = []

    def answer():
        box = QApplication.activeModalWidget()
        for up, name in (("9'", "Upper"), ("nine", ""), ("9'", "Attic")):
            box.distance.setText(up)
            if name:
                box.name.setText(name)
            box.more.click()
            seen.append((box.isVisible(), box.problem.text(), box.source.count()))
            if name:
                box.source.setCurrentIndex(box.source.findData(user.project.levels[-1].id))
        box.reject()

    before = len(user.project.levels)
    QTimer.singleShot(0, answer)
    user.press("Add level")
    assert [row[0] for row in seen] == [True, True, True]
    assert not seen[0][1]
    assert "nine" in seen[1][1]
    assert [row[2] for row in seen] == [before + 1, before + 1, before + 2]
    upper, attic = user.project.levels[-2:]
    assert (upper.name, attic.name) == ("Upper", "Attic")
    assert attic.height - upper.height == pytest.approx(9 * FOOT)


def test_columns_without_a_grid_say_what_to_do_first(user):
    user.stage(1)
    user.press(next(label for label in user.window.tool_buttons if "olumns" in label))
    assert QApplication.activeModalWidget() is None
    assert "Lay grid" in user.window.hint_label.text()
