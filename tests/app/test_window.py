"""The parts of the window, each driven by mouse and keys."""

import itertools

import pytest
from PySide6.QtCore import QPoint, QSettings, Qt, QTimer
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication
from tests.names import named
from tests.shop import shop

from balken.app.window import MainWindow
from balken.demo import orchard_road
from balken.derive import derive
from balken.exchange.journal import Journal, leftovers
from balken.model import edits
from balken.model.lookup import by_id, locate
from balken.model.records import Hang
from balken.session.session import Session
from balken.units import Units
from balken.units.system import FOOT, INCH

JOIST = named(derive(shop()), "floor-1/joist/012a")


def on_joist(user):
    piece = user.session.model.pieces[JOIST]
    return piece.start[0], (piece.start[1] + piece.end[1]) / 2 + 400


# Selection -------------------------------------------------------------------------------------------


def test_a_member_selected_on_the_plan_is_selected_everywhere(demo_user):
    demo_user.stage(4)
    demo_user.window.bottom.setCurrentIndex(1)
    demo_user.canvas.zoom_at(demo_user.at(*on_joist(demo_user)), 3.0)
    demo_user.click(*on_joist(demo_user))
    assert demo_user.session.selection == (JOIST,)
    assert JOIST in demo_user.canvas.selected
    assert JOIST in demo_user.window.strip.selected
    table = demo_user.window.bottom.members
    rows = table.selectionModel().selectedRows()
    assert [table.model().index(r.row(), 0).data() for r in rows] == [demo_user.session.model.marks[JOIST]]
    assert demo_user.window.card.content().title == "2x10 joist"


def test_a_row_of_the_cut_list_selects_its_members(demo_user):
    demo_user.window.bottom.setCurrentIndex(2)
    table = demo_user.window.bottom.cuts
    row = next(r for r in range(table.model().rowCount()) if table.model().index(r, 1).data() == "joist")
    table.selectRow(row)
    assert len(demo_user.session.selection) == 58
    assert "58 x joist" in [p.label for p in demo_user.window.card.content().parts if hasattr(p, "label")]


def test_a_box_takes_what_it_touches_and_ctrl_adds(demo_user):
    demo_user.stage(2)
    demo_user.drag(demo_user.canvas, demo_user.at(-2 * FOOT, -2 * FOOT), demo_user.at(5 * FOOT, 5 * FOOT))
    assert {"wall-1", "wall-4"} <= set(demo_user.session.selection)
    demo_user.click(40 * FOOT + 5 * INCH, 9 * FOOT)
    only = demo_user.session.selection
    demo_user.click(38 * FOOT, 28 * FOOT - 2 * INCH, Qt.KeyboardModifier.ControlModifier)
    assert len(demo_user.session.selection) == len(only) + 1


def test_everything_like_this(demo_user):
    demo_user.session.select([named(demo_user.session.model, "roof-1/rafter/003a")])
    demo_user.menu("all")
    assert len(demo_user.session.selection) == 62


# Card ------------------------------------------------------------------------------------------------


def test_a_value_typed_for_several_walls_goes_to_all(demo_user):
    demo_user.stage(2)
    demo_user.session.select(["wall-1", "wall-5"])
    assert demo_user.card_text("Build-up") == "differs"
    demo_user.type_in_card("Head on", "Plate")
    demo_user.session.select(["wall-1", "wall-3"])
    demo_user.type_in_card("Build-up", "framed-2x4")
    assert by_id(demo_user.project.walls)["wall-3"].buildup == "framed-2x4"
    demo_user.menu("undo")
    assert {w.buildup for w in demo_user.project.walls[:4]} == {"framed-2x6"}


@pytest.mark.parametrize(
    ("label", "text", "says"),
    [
        ("Spacing", '0"', "spacing"),
        ("Spacing", '-16"', "spacing"),
        ("Spacing", "close", "not a length"),
        ("Deck", "9'", "deck"),
    ],
)
def test_wrong_values_are_explained_and_change_nothing(demo_user, label, text, says):
    demo_user.stage(4)
    demo_user.session.select(["floor-1"])
    before = demo_user.project
    demo_user.type_in_card(label, text)
    assert demo_user.project is before
    assert says in demo_user.window.card.problem.text()
    assert demo_user.card_text(label) == text  # what was typed is still there to be mended
    assert demo_user.session.undo_label == ""


def test_a_changed_layer_changes_all_walls_of_the_build_up(demo_user):
    demo_user.stage(2)
    demo_user.session.select(["wall-1"])
    demo_user.type_in_card("2x6 studs (core)", '7 1/4"')
    assert demo_user.session.model.lines["wall-3"].thickness == pytest.approx(8.75 * INCH)
    demo_user.card_button("Copy the build-up for this wall alone")
    assert by_id(demo_user.project.walls)["wall-1"].buildup != by_id(demo_user.project.walls)["wall-3"].buildup


def test_the_card_shows_neighbours_and_the_governing_clause(demo_user):
    demo_user.session.select([JOIST])
    content = demo_user.window.card.content()
    tables = [p for p in content.parts if p.__class__.__name__ == "Rows"]
    neighbours = tables[-1].rows
    assert {("2x8", '16"'), ("2x12", '16"'), ("2x10", '12"')} <= {r[:2] for r in neighbours}
    used = next(p for p in content.parts if p.__class__.__name__ == "Used")
    assert "NDS 3.3.1" in used.note


# Height strip ----------------------------------------------------------------------------------------


def strip_y(user, level):
    strip = user.window.strip
    return round(strip.level_y(by_id(user.project.levels)[level].height))


def test_a_level_dragged_in_the_height_strip_moves_what_hangs_on_it(demo_user):
    strip = demo_user.window.strip
    y = strip_y(demo_user, "level-2")
    demo_user.drag(strip, QPoint(150, y), QPoint(150, y - 40))
    level = by_id(demo_user.project.levels)["level-2"]
    assert level.height > 8.2 * FOOT
    assert demo_user.session.model.lines["wall-1"].band.top == level.height
    assert demo_user.session.undo_label == "Move level"
    demo_user.menu("undo")
    assert by_id(demo_user.project.levels)["level-2"].height == pytest.approx(8 * FOOT + 1.125 * INCH)


def test_a_height_is_typed_in_the_strip(demo_user):
    strip = demo_user.window.strip
    QTest.mouseDClick(
        strip, Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier, QPoint(150, strip_y(demo_user, "level-2"))
    )
    assert strip.field.isVisible()
    strip.field.selectAll()
    QTest.keyClicks(strip.field, "9'-6\"")
    QTest.keyClick(strip.field, Qt.Key.Key_Return)
    assert by_id(demo_user.project.levels)["level-2"].height == pytest.approx(9.5 * FOOT)


def test_an_impossible_height_is_refused(demo_user):
    strip = demo_user.window.strip
    strip.type_height("level-2")
    strip.field.selectAll()
    QTest.keyClicks(strip.field, "-9'")
    QTest.keyClick(strip.field, Qt.Key.Key_Return)
    assert "above its foot" in demo_user.window.hint_label.text()
    assert by_id(demo_user.project.levels)["level-2"].height > 0


def test_level_names_never_overprint(demo_user):
    demo_user.session.apply("x", lambda p: edits.add_level(p, "level-3", INCH, "Slab edge"))
    ys = [y for _, _, y in demo_user.window.strip.marks()]
    assert all(b - a >= 26.9 for a, b in itertools.pairwise(ys))


# Drawing ---------------------------------------------------------------------------------------------


def test_typed_length_and_angle(user):
    user.stage(2)
    user.press("Draw walls")
    user.window.canvas.zoom, user.window.canvas.centre = 0.05, (3000.0, 2000.0)
    user.click(0, 0)
    user.move(1000, 900)
    user.keys("10'")
    user.key(Qt.Key.Key_Tab)
    user.keys("30")
    user.key(Qt.Key.Key_Return)
    wall = user.project.walls[0]
    (x0, y0), (x1, y1) = locate(wall.start, ()), locate(wall.end, ())
    assert (x1 - x0, y1 - y0) == pytest.approx((10 * FOOT * 0.8660254, 5 * FOOT), abs=0.01)


def test_a_wrong_typed_length_is_explained_in_the_entry(user):
    user.stage(2)
    user.press("Draw walls")
    user.click(0, 0)
    user.move(2000, 0)
    user.keys("5x")
    user.key(Qt.Key.Key_Return)
    assert "not a length" in user.canvas.entry.problem.text()
    user.key(Qt.Key.Key_Escape)
    assert user.project.walls == ()


def test_a_crossing_wall_is_refused(demo_user):
    demo_user.stage(2)
    demo_user.press("Draw walls")
    count = len(demo_user.project.walls)
    demo_user.click(-2 * FOOT, 5 * FOOT, Qt.KeyboardModifier.ShiftModifier)
    demo_user.click(6 * FOOT, 9 * FOOT, Qt.KeyboardModifier.ShiftModifier)
    assert len(demo_user.project.walls) == count
    assert "crosses Wall 4" in demo_user.window.hint_label.text()


def test_rectangle_by_typed_lengths_and_backspace(user):
    user.stage(2)
    user.press("Draw rectangle")
    user.click(0, 0)
    user.keys("24'")
    user.key(Qt.Key.Key_Tab)
    user.keys("16'")
    user.key(Qt.Key.Key_Return)
    assert len(user.project.walls) == 4
    assert user.session.model.lines["wall-2"].band.length == pytest.approx(16 * FOOT)
    user.menu("undo")
    assert user.project.walls == ()


def test_drawn_clockwise_the_outside_is_still_outside(user):
    user.dialog("Lay grid", {"x_spacings": "20'", "y_spacings": "16'"})
    user.window.views.fit()
    user.stage(2)
    user.press("Draw walls")
    for corner in ((0, 0), (0, 16), (20, 16), (20, 0), (0, 0)):
        user.click(corner[0] * FOOT, corner[1] * FOOT)
    assert len(user.project.walls) == 4
    assert {w.outside for w in user.project.walls} == {"left"}
    xs = [p for line in user.session.model.lines.values() for p in (line.band.at(0, 0)[0], line.band.at(0, 0)[1])]
    assert min(xs) < 0


def test_an_opening_too_wide_is_refused(demo_user):
    demo_user.stage(2)
    demo_user.press("Place opening")
    count = len(demo_user.project.openings)
    demo_user.type_in_card("Width", "60'")
    demo_user.move(5 * FOOT, 14 * FOOT)
    demo_user.click(5 * FOOT, 14 * FOOT)
    assert len(demo_user.project.openings) == count
    assert "long" in demo_user.window.hint_label.text()


def test_a_wall_end_is_dragged(demo_user):
    demo_user.stage(2)
    demo_user.session.select(["wall-1"])
    demo_user.drag(demo_user.canvas, demo_user.at(40 * FOOT, 0), demo_user.at(43 * FOOT, 0))
    assert demo_user.session.model.lines["wall-1"].band.length == pytest.approx(43 * FOOT, abs=4 * INCH)
    assert locate(by_id(demo_user.project.walls)["wall-2"].start, demo_user.project.grids)[0] > 42 * FOOT


def test_the_cut_line_is_dragged_and_set(demo_user):
    demo_user.stage(1)
    cut = demo_user.canvas.cut()
    at = (cut.start[0], 10 * FOOT)
    demo_user.drag(demo_user.canvas, demo_user.at(*at), demo_user.at(at[0] + 5 * FOOT, at[1]))
    assert demo_user.project.cut.start[0] == pytest.approx(cut.start[0] + 5 * FOOT, abs=3 * INCH)
    demo_user.press("Cut line")
    demo_user.click(-2 * FOOT, 7 * FOOT)
    demo_user.click(42 * FOOT, 7 * FOOT)
    assert abs(demo_user.project.cut.start[1] - demo_user.project.cut.end[1]) < 1.0


def test_deleting(demo_user):
    demo_user.stage(2)
    demo_user.session.select(["opening-1", "wall-5"])
    demo_user.canvas.setFocus()
    QTest.keyClick(demo_user.canvas, Qt.Key.Key_Delete)
    # Two kinds at once: what would go is said first.
    assert len(demo_user.project.walls) == 5
    assert "1 wall" in demo_user.window.hint_label.text()
    assert "1 opening" in demo_user.window.hint_label.text()
    QTest.keyClick(demo_user.canvas, Qt.Key.Key_Delete)
    assert len(demo_user.project.walls) == 4
    demo_user.menu("undo")
    demo_user.session.select(["opening-1", "wall-5"])
    QTest.keyClick(demo_user.canvas, Qt.Key.Key_Delete)
    assert len(demo_user.project.walls) == 5
    demo_user.session.select(["wall-5"])
    QTest.keyClick(demo_user.canvas, Qt.Key.Key_Delete)
    assert len(demo_user.project.walls) == 4
    demo_user.menu("undo")
    demo_user.session.select([JOIST])
    QTest.keyClick(demo_user.canvas, Qt.Key.Key_Delete)
    assert "layout" in demo_user.window.hint_label.text()


# Units, stages, dialogs --------------------------------------------------------------------------------


def switch_units(user, answer):
    user.window.units_box.setCurrentIndex(1)
    QTimer.singleShot(0, lambda: answer(QApplication.activeModalWidget()))
    user.window.units_box.activated.emit(1)


def test_with_content_a_switch_of_units_asks_what_it_is_to_change(demo_user):
    before = demo_user.project
    switch_units(demo_user, lambda box: box.reject())
    assert demo_user.project is before
    assert demo_user.window.units_box.currentIndex() == 0
    switch_units(demo_user, lambda box: box.both.click())
    assert demo_user.project.units is demo_user.project.steps is Units.METRIC
    assert demo_user.project.loads == before.loads
    assert "steps" in demo_user.window.hint_label.text()
    demo_user.menu("undo")
    assert demo_user.project == before


def test_switching_units_does_not_change_the_model(demo_user):
    before = demo_user.session.model
    switch_units(demo_user, lambda box: box.accept())
    assert demo_user.project.units is Units.METRIC
    assert demo_user.project.steps is Units.IMPERIAL
    assert demo_user.session.model.pieces == before.pieces
    demo_user.session.select(["wall-1"])
    assert demo_user.card_text("Length") == "12192"
    demo_user.type_in_card("Length", "12500")
    assert demo_user.session.model.lines["wall-1"].band.length == pytest.approx(12_500)


def test_dialogs_explain_what_is_wrong(user):
    user.dialog("Add level", {"distance": "high"})
    assert "not a length" in user.problem
    user.dialog("Add level", {"distance": "3'", "name": "floor 1"})
    assert "already a level" in user.problem
    user.dialog("Lay grid", {"x_spacings": "0", "y_spacings": "12'"})
    assert "more than zero" in user.problem
    assert len(user.project.levels) == 1
    assert user.project.grids == ()


def test_layouts_before_walls_say_what_to_do(user):
    for stage, button, says in (
        (3, "Lay foundation", "Draw walls"),
        (4, "Lay floor", "outline"),
        (5, "Make roof", "close an outline"),
    ):
        user.stage(stage)
        user.press(button)
        assert says in user.window.hint_label.text()
        assert user.window.draft is None


def test_a_foundation_needs_its_levels(user):
    user.stage(2)
    user.press("Draw rectangle")
    user.click(0, 0)
    user.click(5000, 4000)
    user.stage(3)
    user.press("Lay foundation")
    assert "role 'top of foundation'" in user.window.hint_label.text()


def test_stage_counts_and_findings_lead_to_their_place(demo_user):
    demo_user.session.apply("x", lambda p: edits.change(p, "wall-1", head=Hang(level="level-2", offset=-100.0)))
    assert "\u2691" in demo_user.window.stage_buttons[4].text()
    demo_user.window.bottom.findings.table.selectRow(0)
    assert demo_user.window.stage.name == demo_user.session.model.findings[0].stage
    assert set(demo_user.session.model.findings[0].things) <= set(demo_user.session.selection)


def test_every_stage_paints(demo_user):
    for number in range(1, 8):
        demo_user.stage(number)
        image = demo_user.window.grab().toImage()
        assert image.width() == 1280
    for part in ("Show roof", "Show foundations", "Show floor"):
        demo_user.stage(6)
        demo_user.press(part)
        demo_user.canvas.grab()


# Files -----------------------------------------------------------------------------------------------


def test_save_open_copy(demo_user, choose, warned, tmp_path):
    choose(tmp_path / "a.balken", tmp_path / "b")
    demo_user.session.apply("x", lambda p: edits.set_project(p, name="Mill"))
    assert demo_user.window.windowTitle().startswith("Mill*")
    demo_user.menu("save")
    assert demo_user.session.path.name == "a.balken"
    assert "*" not in demo_user.window.windowTitle()
    demo_user.menu("copy")
    assert (tmp_path / "b.balken").exists()
    assert demo_user.session.path.name == "a.balken"
    choose(tmp_path / "a.balken")
    demo_user.session.apply("x", lambda p: edits.set_project(p, name="Other"))
    demo_user.menu("save")
    demo_user.menu("open")
    assert demo_user.project.name == "Other"
    assert demo_user.session.undo_label == ""
    assert warned == []


def test_a_spoilt_file_is_explained_and_what_is_open_stays(demo_user, choose, warned, tmp_path):
    bad = tmp_path / "bad.balken"
    bad.write_text("{ not a project")
    choose(bad)
    before = demo_user.project
    demo_user.menu("open")
    assert "bad.balken" in warned[0]
    assert demo_user.project is before


def test_a_folder_that_cannot_be_written(demo_user, choose, warned, tmp_path):
    choose(tmp_path / "none" / "a.balken")
    demo_user.session.apply("x", lambda p: edits.set_project(p, name="Mill"))
    demo_user.menu("save")
    assert "folder is not there" in warned[0]
    assert demo_user.session.dirty
    assert demo_user.session.undo_label == "x"


def test_a_write_that_fails_is_told(demo_user, qtbot, choose, warned, tmp_path):
    choose(tmp_path / "none" / "a.ifc")
    with qtbot.waitSignal(demo_user.window.work.finished, timeout=30_000):
        demo_user.menu("ifc")
    assert "folder is not there" in warned[0]


def test_unsaved_work_of_a_killed_session_is_offered_back(qtbot, qapp, tmp_path, monkeypatch):
    folder = tmp_path / "journal"
    killed = Session(shop(), Journal(folder))
    killed.apply("x", lambda p: edits.set_project(p, name="Half done"))
    import os

    os.close(killed.journal._lock)  # what the system does to the lock of a killed process
    window = MainWindow(Session(None, Journal(folder)))
    qtbot.addWidget(window)
    monkeypatch.setattr("balken.app.files.LeftoverDialog.exec", lambda self: self.DialogCode.Accepted)
    window.files.offer_leftovers()
    assert window.session.project.name == "Half done"
    assert window.session.dirty
    assert leftovers(folder) == []
    monkeypatch.setattr(window.files, "may_leave", lambda: True)


def test_the_layout_of_the_window_is_remembered(qtbot, tmp_path, monkeypatch):
    store = QSettings(str(tmp_path / "layout.ini"), QSettings.Format.IniFormat)
    first = MainWindow(Session(shop()), store)
    first.resize(780, 600)  # the offscreen screen is 800 wide
    first.show()
    first.across.setSizes([230, 210, 330])
    sizes = first.across.sizes()
    first.close()
    second = MainWindow(Session(shop()), store)
    qtbot.addWidget(second)
    second.show()
    assert second.across.sizes() == sizes


def test_an_ifc_file_is_read_with_its_report(demo_user, qtbot, choose, warned, tmp_path):
    path = tmp_path / "demo.ifc"
    choose(path)
    with qtbot.waitSignal(demo_user.window.work.finished, timeout=30_000):
        demo_user.menu("ifc")
    choose(path)
    with qtbot.waitSignal(demo_user.window.work.finished, timeout=30_000):
        demo_user.menu("read_ifc")
    assert len(demo_user.project.walls) == 5
    assert demo_user.project.foundations == ()
    assert demo_user.session.dirty  # read, but not yet saved as a project
    demo_user.window.files.may_leave = lambda: True
    table = demo_user.window.files.report.table
    assert table.topLevelItem(0).text(0) == "Left out"
    assert table.topLevelItem(0).childCount() > 2
    demo_user.window.files.report.reject()
    (tmp_path / "bad.ifc").write_bytes(b"nothing")
    choose(tmp_path / "bad.ifc")
    with qtbot.waitSignal(demo_user.window.work.finished, timeout=30_000):
        demo_user.menu("read_ifc")
    assert "not an IFC file" in warned[0]
    assert len(demo_user.project.walls) == 5


# 3-D -------------------------------------------------------------------------------------------------


def test_space_shows_picks_and_hides(demo_user, picture):
    before = picture._image.copy()
    colours = {
        before.pixelColor(x, y).name() for x in range(0, before.width(), 9) for y in range(0, before.height(), 9)
    }
    assert len(colours) > 20
    found = {
        picture.pick(QPoint(x, y)) for x in range(40, picture.width(), 40) for y in range(40, picture.height(), 40)
    }
    found.discard("")
    assert any("rafter" in f for f in found)
    assert any(f.startswith("wall-") for f in found)
    demo_user.window.space.show_group(demo_user.window.space.hidden_roles, "rafter", False)
    picture.render()
    again = {
        picture.pick(QPoint(x, y)) for x in range(40, picture.width(), 40) for y in range(40, picture.height(), 40)
    }
    assert not any("rafter" in f for f in again)
    QTest.mouseClick(
        picture,
        Qt.MouseButton.LeftButton,
        Qt.KeyboardModifier.NoModifier,
        QPoint(picture.width() // 2, picture.height() // 2),
    )
    assert demo_user.session.selection
    demo_user.drag(picture, QPoint(200, 200), QPoint(320, 240))
    picture.render()
    assert picture._image != before


# Floors of each storey -----------------------------------------------------------------------------


def refs_on(canvas):
    return {made.ref for made in canvas.prepared}


def test_the_floors_of_the_storey_worked_on_are_shown(user):
    """What is selected elsewhere brings its storey up."""
    user.session.replace(orchard_road(), None)
    joists = [named(user.session.model, f"floor-{n}/joist/000a") for n in (1, 2)]
    user.stage(4)
    assert user.session.storey == "level-1"
    assert joists[0] in refs_on(user.canvas)
    assert joists[1] not in refs_on(user.canvas)
    user.session.select([joists[1]])
    upper = next(f.level for f in user.project.floors if f.id == "floor-2")
    assert user.session.storey == upper
    assert joists[1] in refs_on(user.canvas)
    assert joists[0] not in refs_on(user.canvas)
    user.stage(5)
    user.session.select([joists[0]])
    assert user.session.storey == upper  # the roof plan shows no floor
    user.stage(4)
    user.session.apply("Weak", lambda p: edits.set_choice(p, "floor-1", "joists", size="2x6"))
    finding = next(f for f in user.session.model.findings if f.code == "used")
    user.window.views.show_finding(finding)
    assert user.session.storey == "level-1"


def test_the_storey_is_chosen_at_the_corner_of_the_plan(user):
    user.session.replace(orchard_road(), None)
    box = user.canvas.storeys
    names = {v.id: v.name for v in user.project.levels}
    for stage, shown in ((1, True), (2, True), (3, False), (4, True), (5, False)):
        user.stage(stage)
        assert box.isVisible() is shown, stage
    user.stage(4)
    assert [box.itemText(i) for i in range(box.count())] == ["Floor 2", "Floor 1", "Basement slab"]
    assert box.currentText() == names[user.session.storey] == "Floor 1"
    QTest.keyClick(box, Qt.Key.Key_Up)
    assert names[user.session.storey] == "Floor 2"
    joists = [named(user.session.model, f"floor-{n}/joist/000a") for n in (1, 2)]
    assert joists[1] in refs_on(user.canvas)
    user.session.set_storey(box.itemData(2))
    assert box.currentText() == "Basement slab"
    assert not any("/joist/" in ref for ref in refs_on(user.canvas))
    user.session.replace(shop(), None)
    assert not box.isVisible()  # one storey: nothing to choose


def test_every_command_is_run_by_something(user):
    from balken.panel.commands import BY_NAME

    assert set(user.window.deeds) == {name for name, command in BY_NAME.items() if command.edit is None}
    assert all(callable(deed) for deed in user.window.deeds.values())
