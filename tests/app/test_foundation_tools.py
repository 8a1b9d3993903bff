"""Stage 3 through the window: kinds of foundation, steps placed, typed and dragged, pads, pockets, slabs, sheets."""

import math

import pytest
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest
from tests.app.test_set_out_tools import enter

from balken.demo import orchard_road
from balken.documents.display import Text
from balken.documents.quantities import quantities
from balken.model import column_edits, edits
from balken.model.lookup import by_id, locate
from balken.units.system import FOOT, INCH


def run_point(user, wall, along):
    run = next(r for r in user.session.model.runs if r.wall == wall)
    return run.band.at(along, sum(run.faces) / 2.0)


def footing_of(user, wall):
    return next(f for k, f in user.session.model.footings.items() if k.endswith(f"/{wall}"))


def test_a_basement_is_laid_in_one_action_with_its_slab(demo_user):
    demo_user.session.apply("x", lambda p: edits.remove(p, "foundation-1"))
    demo_user.stage(3)
    demo_user.press("Lay foundation")
    assert "Ledge for veneer" in demo_user.window.card.entries  # whatever its kind: a veneer stands on it
    assert demo_user.session.trial is not None  # shown before it is placed
    demo_user.type_in_card("Kind", "basement")
    assert "needs a level" in demo_user.window.card.problem.text()
    demo_user.card_button("Cancel")
    demo_user.session.apply("x", lambda p: edits.add_level(p, "level-5", 4 * INCH, "Slab", "slab"))
    demo_user.press("Lay foundation")
    demo_user.type_in_card("Kind", "basement")
    assert "Ledge for veneer" in demo_user.window.card.entries
    demo_user.type_in_card("Wall thickness", '10"')
    demo_user.card_button("Place foundation")
    assert demo_user.project.foundations[0].kind == "basement"
    assert len(demo_user.project.slabs) == 1
    roles = {p.role for p in demo_user.session.model.pieces.values()}
    assert {"slab", "strip footing", "foundation wall"} <= roles
    demo_user.menu("undo")
    assert demo_user.project.slabs == ()
    assert demo_user.project.foundations == ()


def test_steps_are_clicked_typed_dragged_and_removed(demo_user):
    demo_user.stage(3)
    demo_user.press("Step")
    demo_user.click(*run_point(demo_user, "wall-1", 20 * FOOT))
    enter(demo_user, "15'", "2'")
    steps = demo_user.project.foundations[0].steps
    assert (steps[0].wall, steps[0].at, steps[0].drop) == ("wall-1", pytest.approx(15 * FOOT), pytest.approx(2 * FOOT))
    demo_user.click(*run_point(demo_user, "wall-1", 20 * FOOT))
    enter(demo_user, "16'", "1'")  # nearer than the lap
    assert "less than the lap" in demo_user.canvas.entry.problem.text()
    QTest.keyClick(demo_user.canvas.entry.fields[0], Qt.Key.Key_Escape)
    demo_user.key(Qt.Key.Key_Escape)
    demo_user.session.select(["foundation-1/step/0"])
    demo_user.type_in_card("Drop", "1'-4\"")
    assert demo_user.project.foundations[0].steps[0].drop == pytest.approx(16 * INCH)
    mark = next(
        p
        for p in demo_user.canvas.prepared
        if p.item.ref == "foundation-1/step/0" and getattr(p.item, "pen", "") == "outline"
    )
    (x, y), _ = mark.item.points
    demo_user.drag(demo_user.canvas, demo_user.at(x, y), demo_user.at(x + 5 * FOOT, y))
    assert demo_user.project.foundations[0].steps[0].at / FOOT == pytest.approx(20.0, abs=0.5)
    assert any(f.code == "corner" for f in demo_user.session.model.findings)
    demo_user.session.select(["foundation-1/step/0"])
    QTest.keyClick(demo_user.canvas, Qt.Key.Key_Delete)
    assert demo_user.project.foundations[0].steps == ()


def test_the_frost_finding_steps_the_foundation_down(demo_user):
    for x, z in ((-5.0, -20 * INCH), (45.0, -6 * FOOT)):
        for y in (-5.0, 33.0):
            demo_user.session.apply("g", lambda p, x=x, y=y, z=z: column_edits.add_spot(p, (x * FOOT, y * FOOT), z))
    finding = next(f for f in demo_user.session.model.findings if f.code == "frost")
    assert finding.fix.label == "Step it down with the ground"
    demo_user.session.run_fix(finding.fix)
    assert len(demo_user.project.foundations[0].steps) >= 2
    assert not any(f.code in ("frost", "corner") for f in demo_user.session.model.findings)
    demo_user.stage(3)
    demo_user.session.select(["foundation-1"])
    demo_user.card_button("Remove all steps")
    demo_user.session.select(["foundation-1"])
    demo_user.card_button("Step it down with the ground")
    assert demo_user.project.foundations[0].steps


def test_pads_under_columns_at_crossings_and_singly(demo_user):
    demo_user.stage(1)
    demo_user.dialog("Columns", {"x_axes": "2-3", "y_axes": "A"})
    demo_user.stage(3)
    demo_user.dialog("Pads", {"dead": "5 kip", "live": "8 kip", "pier": '12"'})
    assert len(demo_user.project.pads) == 2
    assert all(r.design.works for r in demo_user.session.model.pads.values())
    demo_user.dialog("Pads", {"where": "at crossings", "x_axes": "1", "y_axes": "Q"})
    assert "no axis" in demo_user.problem
    demo_user.dialog("Pads", {"where": "at crossings", "x_axes": "1,4", "y_axes": "C"})
    assert len(demo_user.project.pads) == 4
    demo_user.press("One pad")
    demo_user.click(20 * FOOT, 34 * FOOT)
    assert len(demo_user.project.pads) == 5
    demo_user.type_in_card("Live from above", "40 kip")
    assert demo_user.session.model.pads["pad-5"].design.width > 3 * FOOT
    demo_user.type_in_card("Wind uplift", "400 kip")
    assert any(f.code == "uplift" for f in demo_user.session.model.findings)
    demo_user.type_in_card("Live from above", "lots")
    assert "not a force" in demo_user.window.card.problem.text()
    demo_user.card_button("Calculation sheet")
    dialog = demo_user.window.views.calculation
    texts = [p.item.text for p in dialog.view.prepared if isinstance(p.item, Text)]
    assert "Pad 5" in texts
    assert any("uplift" in t.lower() for t in texts) or dialog.forward.isEnabled()
    dialog.close()


def test_a_pocket_becomes_an_opening(demo_user):
    demo_user.stage(3)
    demo_user.press("Pocket")
    demo_user.click(*run_point(demo_user, "wall-1", 20 * FOOT))
    recess = demo_user.project.recesses[0]
    assert recess.offset == pytest.approx(20 * FOOT, abs=INCH)
    demo_user.type_in_card("Kind", "opening")
    demo_user.type_in_card("Width", '24"')
    assert demo_user.project.recesses[0].width == pytest.approx(24 * INCH)
    demo_user.type_in_card("Width", "60'")
    assert "past the end of the wall" in demo_user.window.card.problem.text()


def test_soil_and_concrete_are_typed_and_everything_follows(demo_user):
    demo_user.stage(3)
    demo_user.session.select(["foundation-1"])
    demo_user.type_in_card("Footing thickness", "auto")
    before = footing_of(demo_user, "wall-5").width
    demo_user.press("Ground and concrete")
    demo_user.type_in_card("Soil bearing value", "900 psf")
    assert footing_of(demo_user, "wall-5").width > before
    demo_user.type_in_card("Soil (IRC Table R401.4.1)", "gravel, sandy gravel (GW, GP)")
    assert demo_user.card_text("Soil bearing value") == "3,000 psf"
    demo_user.type_in_card("Soil bearing value", "900 psf")
    assert demo_user.card_text("Soil (IRC Table R401.4.1)").startswith("by report")
    demo_user.type_in_card("Soil bearing value", "0")
    assert "more than zero" in demo_user.window.card.problem.text()
    demo_user.type_in_card("Soil bearing value", "60 psf")
    assert any(f.code == "no footing" for f in demo_user.session.model.findings)
    demo_user.menu("undo")
    demo_user.type_in_card("Concrete f'c", "4000 psi")
    demo_user.type_in_card("Earth pressure", "equivalent fluid")
    demo_user.type_in_card("Equivalent fluid", "45 pcf")
    assert demo_user.project.soil.fluid == pytest.approx(45 * 0.157087)
    demo_user.type_in_card("Water below ground", "2'")
    assert demo_user.project.soil.water_below == pytest.approx(2 * FOOT)


def test_elevations_card_and_calculation_of_a_footing(demo_user, choose, tmp_path, qtbot):
    demo_user.stage(3)
    demo_user.press("Elevations")
    assert demo_user.window.framing.isVisible()
    demo_user.session.select(["foundation-1/wall-1/footing"])
    texts = {p.item.text for p in demo_user.window.framing.prepared if isinstance(p.item, Text)}
    assert any("Foundation under Wall 1" in t for t in texts)
    assert not any("Wall 2" in t for t in texts)
    labels = [type(p).__name__ for p in demo_user.window._card().parts]
    assert labels.count("Rows") >= 3  # checks, neighbours, load path
    path = tmp_path / "calc.pdf"
    choose(path)
    demo_user.menu("calculation")
    qtbot.waitUntil(path.exists, timeout=20000)
    qtbot.waitUntil(lambda: not demo_user.window.work.busy, timeout=20000)
    import pypdf

    text = "".join(page.extract_text() for page in pypdf.PdfReader(path).pages)
    assert "ACI 318-19 14.5.2.1" in text
    assert "Shop floor" in text
    demo_user.stage(7)
    demo_user.press("Foundations")
    texts = {p.item.text for p in demo_user.window.sheets.paper.prepared if isinstance(p.item, Text)}
    assert "Schedule of footings" in texts
    assert "Section A" in texts
    demo_user.press("Plans")
    texts = {p.item.text for p in demo_user.window.sheets.paper.prepared if isinstance(p.item, Text)}
    assert "Roof framing plan" in texts


def test_a_slab_with_a_hole(demo_user):
    demo_user.session.apply("x", lambda p: edits.add_level(p, "level-5", 4 * INCH, "Slab", "slab"))
    demo_user.stage(3)
    demo_user.press("Lay slab")
    demo_user.card_button("Place slab")
    demo_user.session.select(["slab-1"])
    solid = sum(p.volume for p in demo_user.session.model.pieces.values() if p.role == "slab")
    demo_user.type_in_card("Add a hole", "4', 4', 3', 6'")
    holed = sum(p.volume for p in demo_user.session.model.pieces.values() if p.role == "slab")
    assert solid - holed == pytest.approx(3 * 6 * FOOT**2 * 4 * INCH, rel=1e-6)
    demo_user.type_in_card("Add a hole", "4', 4'")
    assert "x, y, width and depth" in demo_user.window.card.problem.text()
    demo_user.type_in_card("Add a hole", "12', 6', 2'")
    round_too = sum(p.volume for p in demo_user.session.model.pieces.values() if p.role == "slab")
    assert holed - round_too == pytest.approx(math.pi * FOOT**2 * 4 * INCH, rel=0.01)
    demo_user.type_in_card("Hole 2, size", "1'")
    assert by_id(demo_user.project.slabs)["slab-1"].holes[1].diameter == pytest.approx(FOOT)
    demo_user.type_in_card("Hole 1, place", "5', 4'")
    moved = by_id(demo_user.project.slabs)["slab-1"].holes[0]
    assert (moved.width, moved.depth) == (pytest.approx(3 * FOOT), pytest.approx(6 * FOOT))
    assert locate(moved.place, demo_user.project.grids) == pytest.approx((5 * FOOT, 4 * FOOT))
    demo_user.session.undo()
    demo_user.session.undo()
    demo_user.type_in_card("Wall 1", "3'")
    bowed = sum(p.volume for p in demo_user.session.model.pieces.values() if p.role == "slab")
    assert bowed > round_too + FOOT**2 * 4 * INCH
    demo_user.type_in_card("Wall 1", "0")
    demo_user.type_in_card("Thickened edge, depth", '12"')
    assert any(p.role == "slab edge" for p in demo_user.session.model.pieces.values())


def test_a_foundation_wall_of_block_takes_the_size_of_a_block(demo_user):
    demo_user.stage(3)
    demo_user.session.select(["foundation-1"])
    demo_user.type_in_card("Wall of", "hollow block")
    assert by_id(demo_user.project.foundations)["foundation-1"].thickness == pytest.approx(7.625 * INCH)
    demo_user.type_in_card("Wall thickness", "10 in")
    assert by_id(demo_user.project.foundations)["foundation-1"].thickness == pytest.approx(9.625 * INCH)
    demo_user.session.select([])
    rows = quantities(demo_user.session.model).blocks
    assert [row.name for row in rows] == ["10 in"]
    assert demo_user.session.model.pieces["foundation-1/wall-1/wall"].material == "concrete block"
    finding = next(f for f in demo_user.session.model.findings if f.code == "courses" and f.fix)
    demo_user.session.run_fix(finding.fix)
    assert finding.what not in [f.what for f in demo_user.session.model.findings]
    demo_user.session.select(["foundation-1"])
    demo_user.type_in_card("Wall of", "concrete")
    assert by_id(demo_user.project.foundations)["foundation-1"].thickness == pytest.approx(10 * INCH)


def test_a_footing_is_sloped_changed_and_made_level_again(demo_user):
    demo_user.stage(3)
    demo_user.session.select(["foundation-1/wall-2/footing"])
    fill = {"start": "2'", "end": "20'", "deep_start": "0", "deep_end": "10"}
    demo_user.dialog("Slope", fill)
    (slope,) = by_id(demo_user.project.foundations)["foundation-1"].slopes
    assert (slope.wall, slope.end, slope.deeper_end) == ("wall-2", pytest.approx(20 * FOOT), pytest.approx(10 * INCH))
    assert demo_user.session.selection == ("foundation-1/slope/0",)
    demo_user.type_in_card("Deeper at its end", "30")
    assert "1 in 10 is the most" in demo_user.window.card.problem.text()
    demo_user.type_in_card("Deeper at its end", "12")
    assert demo_user.project.foundations[0].slopes[0].deeper_end == pytest.approx(12 * INCH)
    assert "foundation-1/wall-2/footing/slope/0" in demo_user.session.model.pieces
    demo_user.session.undo()
    demo_user.card_button("Remove slope")
    assert demo_user.project.foundations[0].slopes == ()


def test_all_findings_of_a_kind_are_fixed_in_one_step(demo_user):
    user = demo_user
    user.session.replace(orchard_road(), None, saved=False)
    user.stage(3)
    user.session.apply("Lower", lambda p: edits.change(p, "foundation-1", foot__offset=-8 * INCH))
    panel = user.window.bottom.findings
    low = [f for f in panel.findings if f.code == "beside lower"]
    assert len(low) > 2
    row = next(i for i, f in enumerate(panel.findings) if f.code == "beside lower")
    panel.table.selectRow(panel.table.sorting.mapFromSource(panel.table.rows_model.index(row, 0)).row())
    assert panel.alike.text() == f"Fix all {len(low)} alike"
    assert panel.why.text() == low[0].why
    QTest.mouseClick(panel.alike, Qt.MouseButton.LeftButton)
    assert not [f for f in user.session.model.findings if f.code == "beside lower"]
    assert "all alike" in user.session.undo_label
    user.menu("undo")
    assert len([f for f in user.session.model.findings if f.code == "beside lower"]) == len(low)
