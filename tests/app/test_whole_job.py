"""From an empty project to sized frame, cut list, sheet and IFC file, by mouse and keys in the window."""

import pytest
from pypdf import PdfReader
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest

from balken.catalog.sections import section
from balken.units.system import FOOT, INCH


def test_from_empty_sheet_to_exported_files(user, written, warned):
    # Set out
    user.dialog("Add level", {"distance": "8'", "role": "plate", "name": "Plate"})
    user.dialog("Add level", {"source": "Floor 1", "distance": '-11 1/2"', "role": "top of foundation"})
    user.dialog("Add level", {"source": "Floor 1", "distance": "-20in", "role": "ground"})
    user.dialog("Add level", {"source": "Ground", "distance": "-2'-4\"", "role": "top of footing"})
    assert [(v.name, round(v.height / INCH, 3)) for v in user.project.levels] == [
        ("Floor 1", 0.0),
        ("Plate", 96.0),
        ("Top of foundation", -11.5),
        ("Ground", -20.0),
        ("Top of footing", -48.0),
    ]
    user.dialog("Lay grid", {"x_spacings": "2 x 16'", "y_spacings": "12', 12'"})
    assert [a.label for a in user.project.grids[0].x_axes] == ["1", "2", "3"]
    user.window.views.fit()

    # Walls: a click, a typed length, clicks on crossings; the last click closes the outline
    user.stage(2)
    user.press("Draw walls")
    user.click(0, 0)
    user.move(10 * FOOT, 0)
    assert user.session.trial is not None  # the wall shows before the click
    user.keys("32'")
    user.key(Qt.Key.Key_Return)
    user.click(32 * FOOT, 24 * FOOT)
    user.click(0, 24 * FOOT)
    user.click(0, 0)
    assert len(user.project.walls) == 4
    assert {w.outside for w in user.project.walls} == {"right"}
    assert all(w.start.__class__.__name__ == "AxisPoint" for w in user.project.walls)
    user.type_in_card("Role", "bearing")
    user.click(0, 12 * FOOT)
    user.click(32 * FOOT, 12 * FOOT)
    user.key(Qt.Key.Key_Escape)
    user.key(Qt.Key.Key_Escape)
    assert user.canvas.tool.name == "select"
    assert user.project.walls[4].role == "bearing"
    user.press("Place opening")
    user.move(8 * FOOT, 0)
    user.keys("3'")
    user.key(Qt.Key.Key_Return)
    assert user.project.openings[0].offset == pytest.approx(3 * FOOT)
    user.click(32 * FOOT, 6 * FOOT)
    assert len(user.project.openings) == 2
    user.key(Qt.Key.Key_Escape)

    # Foundations, floor, roof: the form in the card, shown dashed before it is placed
    user.stage(3)
    user.press("Lay foundation")
    assert any(p.role == "strip footing" for p in user.session.trial.pieces.values())
    assert user.window.strip.trial_lines
    user.type_in_card("Wall thickness", '10"')
    user.card_button("Place foundation")
    assert user.project.foundations[0].thickness == pytest.approx(10 * INCH)
    assert len(user.project.foundations[0].walls) == 5
    user.stage(4)
    user.press("Lay floor")
    user.type_in_card("Section", "auto")
    user.card_button("Place floor")
    user.stage(5)
    user.press("Make roof")
    user.type_in_card("Pitch", "8:12")
    user.card_button("Place roof")
    assert user.project.roofs[0].pitch == pytest.approx(8 / 12)
    model = user.session.model
    assert model.designs[("floor-1", "joists")].works
    assert not [f for f in model.findings if f.grave and f.code not in ("seat",)]

    # The seat: the deck's level and the auto depth disagree; one click mends it
    seat = [f for f in model.findings if f.code == "seat"]
    if seat:
        row = model.findings.index(seat[0])
        user.window.bottom.findings.table.selectRow(row)
        QTest.mouseClick(user.window.bottom.findings.fix, Qt.MouseButton.LeftButton)
        assert not any(f.code == "seat" for f in user.session.model.findings)

    # Check: loads are typed once; heavier snow uses the rafters further
    user.stage(6)
    before = user.session.model.designs[("roof-1", "rafters")].result.used
    size = user.session.model.designs[("roof-1", "rafters")].size
    user.press("Loads and soil")
    user.type_in_card("Ground snow", "60 psf")
    after = user.session.model.designs[("roof-1", "rafters")]
    assert section(after.size).depth > section(size).depth or after.result.used > before

    # A fault, its finding, the fix, and undo
    user.stage(4)
    user.session.select(["floor-1"])
    user.type_in_card("Section", "2x6")
    found = next(f for f in user.session.model.findings if f.code == "used")
    user.window.bottom.setCurrentIndex(0)
    user.window.bottom.findings.table.selectRow(user.session.model.findings.index(found))
    assert user.window.bottom.findings.fix.text() == found.fix.label
    QTest.mouseClick(user.window.bottom.findings.fix, Qt.MouseButton.LeftButton)
    assert not any(f.code == "used" for f in user.session.model.findings)
    user.menu("undo")
    assert any(f.code == "used" for f in user.session.model.findings)
    user.menu("redo")

    # Lists
    user.window.bottom.setCurrentIndex(1)
    assert user.window.bottom.members.model().rowCount() == len(user.session.model.members())
    user.window.bottom.setCurrentIndex(2)
    assert user.window.bottom.cuts.model().rowCount() > 5

    # Change an axis: everything follows, with undo
    joists = len([p for p in user.session.model.pieces.values() if p.role == "joist"])
    user.stage(1)
    user.session.select(["grid-1/x3"])
    user.type_in_card("From axis 2", "20'")
    assert len([p for p in user.session.model.pieces.values() if p.role == "joist"]) > joists
    user.menu("undo")

    # Sheets and files
    user.stage(7)
    user.press("Title block")
    user.type_in_card("Drawn by", "A. Tester")
    files = written(user)
    assert not user.session.dirty
    assert "A. Tester" in PdfReader(files["pdf"]).pages[0].extract_text()
    assert warned == []
