"""Stage 7: choosing among the sheets by button, list and key; what is written holds all of them."""

from PySide6.QtCore import Qt
from PySide6.QtTest import QTest

from balken.documents.display import Text


def texts(user):
    return {p.item.text for p in user.window.sheets.paper.prepared if isinstance(p.item, Text)}


def test_sheets_are_chosen_by_button_list_and_key(demo_user, qtbot):
    sheets = demo_user.window.sheets
    demo_user.stage(7)
    assert "Roof framing plan" in texts(demo_user)
    assert "Choose a sheet" in demo_user.window.hint_label.text()
    demo_user.press("Elevations")
    assert sheets.page.kind == "elevations"
    assert any(text.startswith("frost line") for text in texts(demo_user))
    demo_user.press("Framing")
    assert "Wall 1, framing from outside" in texts(demo_user)
    QTest.mouseClick(sheets.forward, Qt.MouseButton.LeftButton)
    assert "Wall 1, framing from outside" not in texts(demo_user)
    assert sheets.page.kind == "framing"
    QTest.keyClick(demo_user.window, Qt.Key.Key_PageUp)
    qtbot.waitUntil(lambda: sheets.page.title.startswith("Framing from outside, Wall 1 "))
    assert "Wall 1, framing from outside" in texts(demo_user)
    sheets.choice.setFocus()
    QTest.keyClick(sheets.choice, Qt.Key.Key_Home)
    assert sheets.at == 0
    assert not sheets.back.isEnabled()


def test_an_edit_keeps_the_sheet_in_view_and_draws_it_anew(demo_user):
    demo_user.stage(7)
    demo_user.press("Framing")
    demo_user.type_in_card("Drawn by", "A. Sample")
    assert demo_user.window.sheets.page.title.startswith("Framing from outside, Wall 1 ")
    assert "A. Sample" in texts(demo_user)
    demo_user.stage(2)
    demo_user.session.apply("Remove", lambda p: p)
    demo_user.stage(7)
    assert demo_user.window.sheets.page.title.startswith("Framing from outside, Wall 1 ")


def test_a_sheet_that_is_not_there_is_said(user):
    user.stage(7)
    user.press("Framing")
    assert "no wall with a core of studs" in user.window.hint_label.text()


def test_the_pdf_holds_every_sheet(demo_user, qtbot, tmp_path, choose):
    import pypdf

    demo_user.stage(7)
    path = tmp_path / "all.pdf"
    choose(path)
    demo_user.press("Write PDF")
    qtbot.waitUntil(path.exists, timeout=30000)
    qtbot.waitUntil(lambda: not demo_user.window.work.busy, timeout=30000)
    assert len(pypdf.PdfReader(path).pages) == len(demo_user.window.sheets.pages)
