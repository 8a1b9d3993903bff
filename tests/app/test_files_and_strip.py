"""Files through the menus (unsaved work, pages of framing, calculations, spoilt files) and the height strip's keys."""

import pypdf
import pytest
from PySide6.QtCore import QPoint, Qt, QTimer
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QMessageBox
from tests.shop import shop

from balken.exchange.ifc import write_ifc
from balken.model import edits
from balken.model.lookup import by_id
from balken.units.system import FOOT


def answer(label):
    """Press a button of the message box that opens next."""

    def press():
        box = QApplication.activeModalWidget()
        assert isinstance(box, QMessageBox)
        next(b for b in box.buttons() if b.text().replace("&", "") == label).click()

    QTimer.singleShot(0, press)


def renamed(user, name):
    user.session.apply("x", lambda p: edits.set_project(p, name=name))


def test_unsaved_work_is_asked_about_before_another_project(demo_user, choose, warned, tmp_path):
    renamed(demo_user, "Mill")
    answer("Cancel")
    demo_user.menu("new")
    assert demo_user.project.name == "Mill"
    choose(tmp_path / "mill.balken")
    answer("Save")
    demo_user.menu("new")
    assert (tmp_path / "mill.balken").exists()
    assert demo_user.project.walls == ()
    renamed(demo_user, "Barn")
    answer("Do not save")
    demo_user.menu("demo")
    assert demo_user.project.name == "Orchard Road Bakery"
    assert demo_user.project.walls
    assert warned == []


def test_saving_under_no_name_keeps_the_work_unsaved(demo_user, choose):
    renamed(demo_user, "Mill")
    choose()
    answer("Save")
    demo_user.menu("new")
    assert demo_user.project.name == "Mill"
    assert demo_user.session.dirty


def test_framing_elevations_are_written_a_page_a_wall(demo_user, qtbot, choose, warned, tmp_path):
    path = tmp_path / "framing.pdf"
    walls = list(demo_user.session.model.framed)[:3]
    demo_user.session.select(walls)
    choose(path)
    with qtbot.waitSignal(demo_user.window.work.finished, timeout=60_000):
        demo_user.menu("framing_pdf")
    assert len(pypdf.PdfReader(path).pages) == 3
    assert warned == []


def test_nothing_to_write_is_said(user, choose):
    user.menu("framing_pdf")
    assert "no framing to write" in user.window.hint_label.text()
    user.window.files.write_calculation()
    assert "nothing to calculate" in user.window.hint_label.text()
    user.window.files.read_again()
    assert "not begun from an architect's file" in user.window.hint_label.text()


def test_calculation_sheets_of_all_footings(demo_user, qtbot, choose, tmp_path):
    path = tmp_path / "calculation.pdf"
    choose(path)
    with qtbot.waitSignal(demo_user.window.work.finished, timeout=60_000):
        demo_user.window.files.write_calculation()
    pages = pypdf.PdfReader(path).pages
    assert len(pages) >= len(demo_user.session.model.footings)
    assert "ACI 318-19" in "".join(page.extract_text() for page in pages)


def test_a_broken_ifc_leaves_everything_as_it_is(demo_user, qtbot, choose, warned, tmp_path):
    path = tmp_path / "half.ifc"
    write_ifc(demo_user.session.model, path)
    path.write_bytes(path.read_bytes()[:5000])
    before = demo_user.project
    choose(path)
    with qtbot.waitSignal(demo_user.window.work.finished, timeout=60_000):
        demo_user.window.files.read_ifc()
    assert demo_user.project is before
    assert "half.ifc" in warned[0]


def test_a_broken_drawing_is_told(demo_user, choose, warned, tmp_path):
    path = tmp_path / "half.dxf"
    path.write_text("0\nSECTION\n2\nENTI")
    before = demo_user.project
    choose(path)
    demo_user.window.files.lay_dxf()
    assert demo_user.project is before
    assert "half.dxf" in warned[0]


def strip_y(user, level):
    return round(user.window.strip.level_y(by_id(user.project.levels)[level].height))


def test_the_strip_selects_levels_and_what_it_shows_and_goes_to_a_storey(demo_user):
    strip = demo_user.window.strip
    QTest.mouseMove(strip, QPoint(20, strip_y(demo_user, "level-2")))
    QTest.mouseClick(strip, Qt.MouseButton.LeftButton, pos=QPoint(150, strip_y(demo_user, "level-2")))
    assert demo_user.session.selection == ("level-2",)
    QTest.keyClick(strip, Qt.Key.Key_F2)
    assert strip.field.isVisible()
    strip.field.selectAll()
    QTest.keyClicks(strip.field, "ten feet")
    QTest.keyClick(strip.field, Qt.Key.Key_Return)
    assert "ten feet" in demo_user.window.hint_label.text()
    strip.field.selectAll()
    QTest.keyClicks(strip.field, "9'")
    QTest.keyClick(strip.field, Qt.Key.Key_Return)
    assert by_id(demo_user.project.levels)["level-2"].height == pytest.approx(9 * FOOT)
    assert not strip.field.isVisible()
    demo_user.session.set_storey("level-5")
    empty = strip.to_widget((-50_000.0, 4 * FOOT)).toPoint()
    QTest.mouseClick(strip, Qt.MouseButton.LeftButton, pos=QPoint(strip.width() - 3, empty.y()))
    if not demo_user.session.selection:
        assert demo_user.session.storey == "level-1"


def test_the_whole_section_is_shown_on_request(demo_user):
    strip = demo_user.window.strip
    zoom = strip.zoom
    strip.whole.click()
    assert strip.zoom < zoom
    box = strip.content_box()
    assert strip.to_widget((box[2], 0.0)).x() <= strip.width()
    strip.whole.click()
    assert strip.zoom == pytest.approx(zoom)


def test_a_copy_of_the_demo_is_equal(demo_user, choose, tmp_path):
    choose(tmp_path / "a.balken")
    demo_user.menu("copy")
    choose(tmp_path / "a.balken")
    demo_user.menu("open")
    assert demo_user.project == shop()
