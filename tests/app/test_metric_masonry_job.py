"""A house of block in millimetres, from an empty project to files, by the window's own commands."""

import numpy as np
import pytest
from pypdf import PdfReader
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication

from balken.app.masonry_dialog import MasonryDialog
from balken.model.kinds.foundation import NO_SILL
from balken.model.lookup import by_id
from balken.units import Units


def draw(user):
    """Levels, grid, four outside walls and one inside, five openings; not on the module yet."""
    user.window.units_box.setCurrentIndex(1)
    user.window.units_box.activated.emit(1)
    user.type_in_card("Begin with", "slab")
    user.dialog("Lay grid", {"x_spacings": "3x4000", "y_spacings": "2x4200"})
    user.window.views.fit()
    user.stage(2)
    user.press("Draw walls")
    user.type_in_card("Build-up", "190 concrete block")
    for corner in ((0, 0), (12_000, 0), (12_000, 8400), (0, 8400), (0, 0)):
        user.click(*corner)
    user.type_in_card("Role", "bearing")
    user.click(0, 4200)
    user.click(12_000, 4200)
    user.key(Qt.Key.Key_Escape)
    user.press("Place opening")
    user.type_in_card("Sill above foot", "1000")
    user.move(6000, 0)
    user.keys("1500")
    user.key(Qt.Key.Key_Return)
    user.click(8000, 8400)
    user.click(12_000, 3000)
    user.type_in_card("Kind", "door")
    user.type_in_card("Width", "1000")
    user.type_in_card("Height", "2000")
    user.click(0, 2000)
    user.click(6000, 4200)
    user.key(Qt.Key.Key_Escape)
    user.session.select([])


def test_every_default_is_round_in_millimetres(user):
    draw(user)
    assert user.project.steps is Units.METRIC
    assert all(v.height % 50.0 == 0.0 for v in user.project.levels)
    user.stage(3)
    user.press("Lay foundation")
    shown = {
        name: user.card_text(name) for name in ("Wall thickness", "Footing thickness", "Ledge below top", "Sill plate")
    }
    assert shown == {
        "Wall thickness": "200",
        "Footing thickness": "250",
        "Ledge below top": "200",
        "Sill plate": "none",
    }
    user.card_button("Place foundation")
    (made,) = user.project.foundations
    assert (made.thickness, made.footing_depth, made.sill_size) == (200.0, 250.0, NO_SILL)  # as it was shown
    user.stage(5)
    user.press("Make roof")
    assert [user.card_text(n) for n in ("Pitch", "Overhang", "Spacing")] == ["30.0\u00b0", "300", "400"]


def test_a_metric_house_of_block(user, written, warned):
    draw(user)
    p = user.project
    assert len(p.walls) == 5
    assert [o.kind for o in p.openings] == ["window"] * 3 + ["door"] * 2

    # Walls, piers and openings on the module, axes with them
    user.press("Masonry")
    dialog = next(
        w for w in QApplication.topLevelWidgets() if isinstance(w, MasonryDialog) and w.session is user.session
    )
    assert (dialog.module.text(), dialog.joint.text()) == ("200 mm", "10 mm")
    QTest.mouseClick(dialog.make_fit, Qt.MouseButton.LeftButton)
    assert "0 of them off the module" in dialog.note.text()
    dialog.close()
    for o in user.project.openings:
        assert (o.width - 10.0) % 200.0 == pytest.approx(0.0, abs=0.01)
        if o.wall != "wall-5":  # measured from an outer corner: whole and half blocks, less a joint
            assert (o.offset + 10.0) % 200.0 in (pytest.approx(0.0, abs=0.01), pytest.approx(200.0, abs=0.01))
    # Axes on which no wall of block stands go to whole 10 mm.
    assert [round(a.gap, 3) % 10.0 for a in user.project.grids[0].x_axes[1:3]] == [0.0, 0.0]
    model = user.session.model
    assert [round(model.lines[w].band.length + 10.0, 2) % 200.0 for w in ("wall-1", "wall-2")] == [0.0, 0.0]

    # Foundation with its slab, roof
    user.stage(3)
    user.press("Lay foundation")
    user.type_in_card("Kind", "slab on ground")
    user.card_button("Place foundation")
    assert len(user.project.slabs) == 1
    user.stage(5)
    user.press("Make roof")
    user.card_button("Place roof")
    model = user.session.model
    assert not [f for f in model.findings if f.grave]
    assert {"walls not designed", "stock"} == {f.code for f in model.findings}
    fix = next(f for f in model.findings if f.code == "stock").fix
    assert fix.label.endswith(" mm")
    while [f for f in user.session.model.findings if f.code == "stock"]:
        user.session.run_fix(next(f for f in user.session.model.findings if f.code == "stock").fix)

    # What comes down to the soil is what lies on the roof: by hand, overhangs of 300 mm all round
    model = user.session.model
    down = np.array([list(line.foot) for line in model.path.runs.values()]).sum(axis=0)
    over, inside = 12.79 * 9.19, 12.19 * 8.59
    assert down[3] == pytest.approx(1500.0 * over, rel=1e-5)  # snow, 1.5 kN/m2 of plan
    assert down[2] == pytest.approx(1000.0 * over, rel=1e-5)  # live on the roof
    assert down[1] == pytest.approx(500.0 * inside, rel=1e-5)  # in the attic
    blocks = sum(v.volume for v in model.pieces.values() if v.owner in by_id(user.project.walls)) / 1e9
    assert down[0] > blocks * 10_000.0
    assert max(v.used for v in model.footings.values()) <= 1.0

    # One axis moves: the inside wall, slab and roof follow, and one undo takes it back
    before = user.project
    user.stage(1)
    user.session.select(["grid-1/y2"])
    user.type_in_card("From axis A", "4000")
    moved = user.session.model.lines["wall-5"].band.start[1]
    assert abs(moved - model.lines["wall-5"].band.start[1]) == pytest.approx(300.0, abs=0.1)
    user.menu("undo")
    assert user.project == before

    # Files
    user.stage(7)
    files = written(user)
    text = " ".join(page.extract_text() for page in PdfReader(files["pdf"]).pages)
    assert "12190" in text
    assert "8590" in text
    assert warned == []
