"""Roofs of planes worked on in stage 5: made over an L, edges switched by a click, pitches typed."""

import pytest
from PySide6.QtCore import QPoint, Qt
from PySide6.QtTest import QTest
from tests.app.conftest import User, _user, rendered
from tests.framing.test_surface_roofs import roofed
from tests.framing.test_two_pitches import attic

from balken.derive.roof_sketch import cut_faces
from balken.documents.cross_section import cut_view, effective_cut
from balken.exchange.project_file import from_bytes, to_bytes
from balken.findings.fixes import FIXES
from balken.model import edits
from balken.units.system import FOOT, INCH


@pytest.fixture
def roofer(qtbot, qapp, tmp_path) -> User:
    """A user before a house with a wing."""
    user = _user(qtbot, qapp, tmp_path, edits.remove(roofed(), "roof-1"))
    user.stage(5)
    return user


def make(user: User) -> None:
    user.press("Make roof")
    user.card_button("Place roof")


def test_an_l_is_roofed_in_one_go(roofer):
    make(roofer)
    (roof,) = roofer.project.roofs
    assert roof.shape == "planes"
    assert len(roofer.session.model.surfaces[0].whole.faces) == 8
    roofer.menu("undo")
    assert not roofer.project.roofs


def test_an_edge_is_switched_by_a_click(roofer):
    make(roofer)
    roofer.press("Switch edge")
    roofer.move(19 * FOOT, 46 * FOOT)
    assert roofer.session.trial is not None
    roofer.click(19 * FOOT, 46 * FOOT)
    assert [(s.wall, s.kind) for s in roofer.project.roofs[0].sides] == [("wall-5", "gable")]
    assert "wall-5" in roofer.session.model.gables
    roofer.click(19 * FOOT, 46 * FOOT)
    assert roofer.project.roofs[0].sides[0].kind == "wall"
    roofer.menu("undo")
    roofer.menu("undo")
    assert not roofer.project.roofs[0].sides
    # Beside every edge nothing is switched.
    roofer.click(20 * FOOT, 12 * FOOT)
    assert not roofer.project.roofs[0].sides


def test_pitches_and_overhangs_of_single_edges_are_typed(roofer):
    make(roofer)
    roofer.session.select(["roof-1"])
    roofer.type_in_card("Wall 1, pitch", "12:12")
    roofer.type_in_card("Wall 2, overhang", "2'")
    sides = {s.wall: s for s in roofer.project.roofs[0].sides}
    assert sides["wall-1"].pitch == pytest.approx(1.0)
    assert sides["wall-2"].overhang == pytest.approx(2 * FOOT)
    roofer.type_in_card("Wall 1, pitch", "the roof's")
    roofer.type_in_card("Wall 2", "gable")
    assert [(s.wall, s.kind) for s in roofer.project.roofs[0].sides] == [("wall-2", "gable")]
    roofer.type_in_card("Pitch", "9:12")
    assert roofer.session.model.surfaces[0].surface.top > 0.0
    assert "Ridge direction" not in roofer.window.card.entries


def test_an_eave_is_raised_and_purlins_are_laid_by_typing(roofer):
    make(roofer)
    roofer.session.select(["roof-1"])
    roofer.type_in_card("Wall 1, raised by", "2'")
    assert roofer.project.roofs[0].sides[0].raised == pytest.approx(2 * FOOT)
    assert "wall-1" in roofer.session.model.gables
    roofer.menu("undo")
    roofer.session.select(["roof-1"])
    roofer.type_in_card("Purlins in of the walls", "6'")
    assert roofer.session.model.planes["roof-1"].purlins
    roofer.type_in_card("Set posts under purlins", "8'")
    assert roofer.project.columns
    assert not [f for f in roofer.session.model.findings if f.code == "purlin"]


def test_the_ridge_height_is_typed_in_place_of_a_pitch(roofer):
    """Twice as high is twice as steep, edges of their own too."""
    make(roofer)
    roofer.session.select(["roof-1"])
    roofer.type_in_card("Wall 1, pitch", "8:12")
    top = roofer.session.model.surfaces[0].surface.top
    pitch = roofer.project.roofs[0].pitch
    roofer.type_in_card("Highest over the bearing", f"{2.0 * top:.6f}mm")
    assert roofer.session.model.surfaces[0].surface.top == pytest.approx(2.0 * top, abs=0.01)
    assert roofer.project.roofs[0].pitch == pytest.approx(2.0 * pitch)
    assert roofer.project.roofs[0].sides[0].pitch == pytest.approx(2.0 * 8.0 / 12.0)
    before = roofer.project
    for typed in ("0", "-3'", "400'"):
        roofer.type_in_card("Highest over the bearing", typed)
        assert roofer.project is before
    roofer.menu("undo")
    assert roofer.project.roofs[0].pitch == pytest.approx(pitch)


def test_a_window_is_placed_by_a_click_and_dragged(roofer):
    make(roofer)
    roofer.press("Roof window")
    roofer.move(22 * FOOT, 6 * FOOT)
    assert roofer.session.trial is not None
    roofer.click(22 * FOOT, 6 * FOOT)
    (window,) = roofer.project.roof_openings
    assert window.wall == "wall-1"
    assert window.along == pytest.approx(22 * FOOT, abs=30.0)
    assert roofer.session.selection == ("roof-opening-1",)
    assert len(roofer.session.model.planes["roof-1"].headers) == 2
    roofer.type_in_card("Width", "3'")
    assert roofer.project.roof_openings[0].width == pytest.approx(3 * FOOT)
    roofer.press("Select")
    canvas = roofer.window.canvas
    roofer.drag(canvas, roofer.at(22 * FOOT, 6 * FOOT), roofer.at(26 * FOOT, 6 * FOOT))
    assert roofer.project.roof_openings[0].along == pytest.approx(26 * FOOT, abs=2 * FOOT)
    assert roofer.project.roof_openings[0].along != pytest.approx(window.along)
    roofer.card_button("Remove opening")
    assert not roofer.project.roof_openings
    roofer.menu("undo")
    assert roofer.project.roof_openings


def test_beside_every_roof_no_window_is_placed(roofer):
    make(roofer)
    roofer.press("Roof window")
    roofer.click(60 * FOOT, 60 * FOOT)
    assert not roofer.project.roof_openings


def test_a_single_rafter_is_taken_out_in_its_card_and_comes_back(roofer):
    make(roofer)
    rafter = next(m for m in roofer.session.model.planes["roof-1"].members if m.member.role == "common rafter")
    roofer.session.select([rafter.key])
    roofer.type_in_card("Own plies", "2")
    assert roofer.session.model.piece(rafter.key).section.startswith("2-")
    roofer.card_button("Take this one out")
    assert roofer.session.model.piece(rafter.key) is None
    roofer.session.select(["roof-1"])
    (button,) = [label for label in buttons(roofer) if label.startswith("Back to the layout: rafter")]
    roofer.card_button(button)
    assert roofer.session.model.piece(rafter.key) is not None
    assert not roofer.project.member_edits


def buttons(user: User) -> list[str]:
    from PySide6.QtWidgets import QPushButton

    return [b.text() for b in user.window.findChildren(QPushButton)]


def test_eaves_are_closed_in_the_card(roofer):
    make(roofer)
    roofer.session.select(["roof-1"])
    roofer.type_in_card("Fascia boards", "2x6")
    roofer.type_in_card("Tails", "level")
    roofer.type_in_card("Plumb cut left", '4 1/2"')
    roofer.type_in_card("Blocks at eaves", "upright, between rafters")
    (roof,) = roofer.project.roofs
    assert (roof.fascia, roof.tails, roof.eave_blocks) == ("2x6", "level", True)
    assert roof.tail_plumb == pytest.approx(4.5 * 25.4)
    roles = {p.role for p in roofer.session.model.pieces.values()}
    assert {"fascia", "eave block"} <= roles
    roofer.type_in_card("Fascia boards", "none")
    roofer.type_in_card("Blocks at eaves", "none")
    roles = {p.role for p in roofer.session.model.pieces.values()}
    assert not {"fascia", "eave block"} & roles


def test_rafters_are_set_out_in_the_card(roofer):
    make(roofer)
    roofer.session.select(["roof-1"])
    roofer.type_in_card("Jacks", "in pairs at hips and valleys")
    roofer.type_in_card("At tops of hips", "common rafters on each plane")
    roofer.type_in_card("Set out", "from the last corner")
    roofer.type_in_card("Least gap of rafters", '4"')
    (roof,) = roofer.project.roofs
    assert (roof.jacks, roof.full_rafters, roof.set_out) == ("pairs", True, "end")
    assert roof.least_gap == pytest.approx(4 * 25.4)
    members = roofer.session.model.planes["roof-1"].members
    assert any(m.member.head.point is not None for m in members)  # those between two hips


def test_a_dormer_is_set_by_a_click_typed_and_dragged(roofer):
    make(roofer)
    roofer.session.select(["roof-1"])
    roofer.type_in_card("Pitch", "9:12")
    roofer.press("Dormer")
    roofer.move(24 * FOOT, 2 * FOOT)
    assert roofer.session.trial is not None
    roofer.click(24 * FOOT, 2 * FOOT)
    (dormer,) = roofer.project.dormers
    assert (dormer.wall, dormer.name) == ("wall-1", "Dormer 1")
    assert dormer.along == pytest.approx(24 * FOOT, abs=40.0)
    assert dormer.front == pytest.approx(2 * FOOT, abs=200.0)
    assert roofer.session.selection == ("dormer-1",)
    roofer.type_in_card("Plates over the roof at its face", "4'-6\"")
    roofer.type_in_card("Window, height", "2'-6\"")
    roofer.type_in_card("Width over its cheeks", "7'")
    roofer.type_in_card("Shape", "lean-to")
    roofer.type_in_card("Pitch", "3:12")
    made = roofer.session.model.dormers["dormer-1"]
    assert made.framing is not None
    assert made.place.dormer.width == pytest.approx(7 * FOOT)
    roofer.press("Select")
    at = made.place.outline.core
    (x, y) = ((at[0][0] + at[2][0]) / 2.0, (at[0][1] + at[2][1]) / 2.0)
    on = next(
        (x + dx, y) for dx in range(-900, 900, 20)
        if (roofer.window.canvas.hit(roofer.at(x + dx, y)) or "").startswith("dormer-1")
    )  # fmt: skip
    roofer.drag(roofer.window.canvas, roofer.at(*on), roofer.at(on[0] + 2 * FOOT, on[1]))
    assert roofer.project.dormers[0].along > dormer.along + 1 * FOOT
    roofer.type_in_card("Studs", "2x6")
    roofer.type_in_card("Walls weigh", "15 psf")
    roofer.card_button("Remove dormer")
    assert not roofer.project.dormers
    roofer.menu("undo")
    assert roofer.project.dormers


def test_a_gablet_is_set_by_a_click_typed_and_dragged(roofer):
    make(roofer)
    roofer.press("Gablet")
    core = roofer.session.model.surfaces[0].outline.core
    middle, end = (core[4][0] + core[5][0]) / 2.0, core[4][1]  # of the wing
    roofer.click(middle, end - 4 * FOOT)
    (gablet,) = roofer.project.dormers
    assert (gablet.shape, gablet.name, gablet.wall) == ("gablet", "Gablet 1", "wall-5")
    made = roofer.session.model.dormers["dormer-1"]
    assert made.framing is not None
    roofer.type_in_card("Face in of the bearing line", "3'")
    assert roofer.project.dormers[0].front == pytest.approx(3 * FOOT)
    wider = roofer.session.model.dormers["dormer-1"].place.s
    assert wider[1] - wider[0] > made.place.s[1] - made.place.s[0]
    roofer.press("Select")
    y = end - 3 * FOOT - 100.0
    on = next(
        (middle + dx, y) for dx in range(-900, 900, 20)
        if (roofer.window.canvas.hit(roofer.at(middle + dx, y)) or "").startswith("dormer-1")
    )  # fmt: skip
    roofer.drag(roofer.window.canvas, roofer.at(*on), roofer.at(on[0], on[1] - 2 * FOOT))
    moved = roofer.project.dormers[0]
    assert moved.front > 4 * FOOT
    assert moved.along == gablet.along
    roofer.card_button("Remove gablet")
    assert not roofer.project.dormers


def test_a_wing_runs_on_over_the_roof_beside_it(qtbot, qapp, tmp_path):
    from tests.framing.test_joined_roofs import joined

    from balken.model.roof_edits import set_side

    user = _user(qtbot, qapp, tmp_path, set_side(joined(), "roof-2", "wall-1", kind="wall"))
    user.stage(5)
    assert not user.session.model.surfaces[0].covered
    user.session.select(["roof-2"])
    user.type_in_card("Wall 1", "roof")
    (triangle,) = user.session.model.surfaces[0].covered
    assert len(triangle) == 3
    assert any(p.role == "valley board" for p in user.session.model.pieces.values())
    user.menu("undo")
    assert not user.session.model.surfaces[0].covered
    # The same with a saved file.
    user.menu("redo")
    assert user.session.save(tmp_path / "joined.balken")
    assert user.session.open(tmp_path / "joined.balken")
    assert user.session.model.surfaces[0].covered == (triangle,)


def test_joins_are_framed_through_and_tails_cut_back_in_the_card(qtbot, qapp, tmp_path):
    from tests.framing.test_joined_roofs import joined

    user = _user(qtbot, qapp, tmp_path, joined())
    user.stage(5)
    user.session.select(["roof-2"])
    user.card_button("Frame its valleys through: one roof with Roof")
    assert [roof.id for roof in user.project.roofs] == ["roof-1"]
    assert any(p.role == "valley rafter" for p in user.session.model.pieces.values())
    user.session.select(["roof-1"])
    user.type_in_card("Tails", "cut back")
    user.type_in_card("Plumb cut left", '3 1/2"')
    assert user.project.roofs[0].tails == "cut back"
    assert user.project.roofs[0].tail_plumb == pytest.approx(3.5 * 25.4)
    for _ in range(3):
        user.menu("undo")
    assert len(user.project.roofs) == 2


def test_a_ledger_is_made_deeper_in_the_card_and_a_collar_tie_taken_out(qtbot, qapp, tmp_path):
    from tests.framing.test_wall_ledgers import porch

    user = _user(qtbot, qapp, tmp_path, porch())
    user.stage(5)
    user.session.select(["roof-2"])
    user.type_in_card("Ledgers", "2x10")
    (held,) = user.session.model.ledgers
    assert held.ledger.size == "2x10"
    tie = next(p.key for p in user.session.model.pieces.values() if p.role == "collar tie")
    user.session.select([tie])
    user.card_button("Take this one out")
    assert user.session.model.piece(tie) is None
    assert user.session.save(tmp_path / "porch.balken")
    assert user.session.open(tmp_path / "porch.balken")
    assert user.session.model.piece(tie) is None
    assert user.session.model.ledgers[0].ledger.size == "2x10"


def test_a_rectangle_gets_gables_and_a_wing_runs_on(qtbot, qapp, tmp_path):
    """The short sides of a rectangle are gables; a wing of the same height as the house runs on over its roof, a lower one stands against
    its wall.
    """
    from tests.framing.test_joined_roofs import joined

    for lower, kind in ((0.0, "roof"), (600.0, "wall")):
        p = edits.remove(joined(lower=lower), "roof-2")
        user = _user(qtbot, qapp, tmp_path, p)
        user.stage(5)
        user.session.select(["wall-5", "wall-6", "wall-7", "wall-1"])
        make(user)
        roof = user.project.roofs[-1]
        assert roof.shape == "planes"
        assert {(s.wall, s.kind) for s in roof.sides} == {("wall-1", kind), ("wall-6", "gable")}
        assert not user.session.model.surfaces[-1].problem
        bare = edits.remove(edits.remove(joined(), "roof-2"), "roof-1")
        user.session.replace(bare, None)
        user.session.select(["wall-1", "wall-2", "wall-3", "wall-4"])
        make(user)
        assert {(s.wall, s.kind) for s in user.project.roofs[0].sides} == {("wall-2", "gable"), ("wall-4", "gable")}


def test_a_roof_is_framed_with_trusses_in_its_card(qtbot, qapp, tmp_path):
    """Chosen, their webs, spacing, heel and plies typed, undone, saved and opened; a value that cannot be is said, and nothing is lost."""
    from tests.framing.test_roof_trim import roofed as rectangle

    user = _user(qtbot, qapp, tmp_path, rectangle())
    user.stage(5)
    user.session.select(["roof-1"])
    user.type_in_card("Framed with", "trusses")
    model = user.session.model
    assert model.trusses["roof-1"].common.shape == "fink"
    assert any(p.role == "truss web" for p in model.pieces.values())
    assert "Ridges" not in user.window.card.entries
    user.type_in_card("Webs", "howe")
    user.type_in_card("Spacing", '19.2"')
    user.type_in_card("Heel", '12"')
    user.type_in_card("Plies", "2")
    made = user.session.model.trusses["roof-1"]
    assert made.common.shape == "howe"
    assert made.common.heel == pytest.approx(304.8)
    assert made.common.frame.sizes.plies == 2
    assert user.project.roofs[0].trusses.spacing == pytest.approx(19.2 * 25.4)
    before = user.project
    user.type_in_card("Heel", "9'")
    assert user.project == before
    assert user.session.save(tmp_path / "trusses.balken")
    assert user.session.open(tmp_path / "trusses.balken")
    assert user.session.model.trusses["roof-1"].common.shape == "howe"
    user.session.select(["roof-1"])
    user.type_in_card("Framed with", "rafters")
    assert not any(p.role == "truss web" for p in user.session.model.pieces.values())
    user.menu("undo")
    assert any(p.role == "truss web" for p in user.session.model.pieces.values())


def test_flat_rafters_are_laid_level_in_the_card(qtbot, qapp, tmp_path):
    from tests.framing.test_past_heads import sloped

    user = _user(qtbot, qapp, tmp_path, sloped(0.25))
    user.stage(5)
    user.session.select(["roof-1"])
    assert "Flat rafters" not in user.window.card.entries  # too steep for it
    user.type_in_card("Pitch", "1/4:12")
    user.type_in_card("Flat rafters", "level")
    assert any(p.role == "tapered strip" for p in user.session.model.pieces.values())
    user.menu("undo")
    assert not any(p.role == "tapered strip" for p in user.session.model.pieces.values())


def test_a_hip_end_beside_trusses_is_framed_with_rafters_in_the_card(qtbot, qapp, tmp_path):
    """Chosen for one end, its rafters and ceiling joists typed, undone, saved and opened."""
    from tests.framing.test_truss_hips import hipped

    user = _user(qtbot, qapp, tmp_path, hipped())
    user.stage(5)
    user.session.select(["roof-1"])
    assert "Wall 1, framed" not in user.window.card.entries  # no hip end
    assert "Jacks" not in user.window.card.entries
    user.type_in_card("Wall 2, framed", "rafters")
    model = user.session.model
    assert sum(p.role == "hip rafter" for p in model.pieces.values()) == 2
    assert sum(place.make == "girder" for place in model.trusses["roof-1"].places) == 1
    assert "Wall 2, framed" in user.window.card.entries
    before = {p.section for p in model.pieces.values() if p.role == "ceiling joist"}
    user.session.select([next(p.key for p in model.pieces.values() if p.role == "ceiling joist")])
    user.type_in_card("Section", "2x12")
    after = {p.section for p in user.session.model.pieces.values() if p.role == "ceiling joist"}
    assert before != after == {"2x12"}
    user.menu("undo")
    assert user.session.save(tmp_path / "ends.balken")
    assert user.session.open(tmp_path / "ends.balken")
    assert [(s.wall, s.framed) for s in user.project.roofs[0].sides if s.framed != "roof"] == [("wall-2", "rafters")]
    user.session.select(["roof-1"])
    user.type_in_card("Wall 2, framed", "roof")
    assert not any(p.role == "hip rafter" for p in user.session.model.pieces.values())
    user.menu("undo")
    assert any(p.role == "hip rafter" for p in user.session.model.pieces.values())


def test_what_trusses_cannot_do_is_told_and_set_right_by_its_fix(roofer):
    make(roofer)
    roofer.session.select(["roof-1"])
    roofer.type_in_card("Framed with", "trusses")
    assert not [f for f in roofer.session.model.findings if f.code == "no trusses"]
    for wall in ("Wall 4", "Wall 6"):  # its wing's ridge would rise over that of the house
        roofer.type_in_card(f"{wall}, pitch", "12:12")
    finding = next(f for f in roofer.session.model.findings if f.code == "no trusses")
    assert "trusses" in finding.why
    assert roofer.session.run_fix(finding.fix)
    assert roofer.project.roofs[0].framed == "rafters"
    assert not [f for f in roofer.session.model.findings if f.code == "no trusses"]


def test_several_edges_are_set_at_once(roofer):
    make(roofer)
    roofer.session.select(["roof-1", "wall-1", "wall-3", "wall-6"])
    roofer.type_in_card("Pitch", "10:12")
    roofer.type_in_card("Overhang", "20in")
    sides = {s.wall: s for s in roofer.project.roofs[0].sides}
    assert set(sides) == {"wall-1", "wall-3", "wall-6"}
    assert {round(s.pitch * 12) for s in sides.values()} == {10}
    assert {round(s.overhang) for s in sides.values()} == {508}
    assert roofer.card_text("Pitch") == "10:12"
    roofer.session.select(["roof-1", "wall-1", "wall-2"])
    assert roofer.card_text("Pitch") == "they differ"
    roofer.type_in_card("Edges", "gable")
    kinds = {s.wall: s.kind for s in roofer.project.roofs[0].sides}
    assert (kinds["wall-1"], kinds["wall-2"]) == ("gable", "gable")
    roofer.menu("undo")
    assert {s.wall for s in roofer.project.roofs[0].sides} == {"wall-1", "wall-3", "wall-6"}
    # A wall of another roof, or a pitch that is none, changes nothing.
    before = roofer.project
    roofer.type_in_card("Pitch", "steep")
    assert roofer.project == before


def test_an_edge_is_switched_in_3d(roofer):
    """Each edge has a mark there; a click on it switches that edge, elsewhere it selects."""
    make(roofer)
    picture = rendered(roofer)
    assert not roofer.window.space.tool().marks()
    roofer.press("Switch edge")
    assert picture.isVisible()
    marks = roofer.window.space.tool().marks()
    plan = roofer.session.model.surfaces[0]
    assert [text for _, text in marks] == ["eave"] * len(plan.outline.core)
    # Those that something hides are not shown.
    shown = picture.marks()
    assert 2 <= len(shown) < len(marks)
    number, at, _ = shown[0]
    wall = plan.outline.walls[number]
    QTest.mouseClick(picture, Qt.MouseButton.LeftButton, pos=at.toPoint())
    assert [(s.wall, s.kind) for s in roofer.project.roofs[0].sides] == [(wall, "gable")]
    assert roofer.window.space.tool().marks()[number][1] == "gable"
    before = roofer.project
    QTest.mouseClick(picture, Qt.MouseButton.LeftButton, pos=QPoint(3, 3))
    assert roofer.project is before
    QTest.keyClick(picture, Qt.Key.Key_Escape)
    assert roofer.canvas.tool.name == "select"
    roofer.menu("undo")
    assert not roofer.project.roofs[0].sides


@pytest.fixture
def barn(qtbot, qapp, tmp_path) -> User:
    """A user before a house under a gable roof of planes, with a floor in its roof."""
    user = _user(qtbot, qapp, tmp_path, attic())
    user.stage(5)
    return user


def test_slopes_are_broken_by_one_line_typed(barn):
    barn.session.select(["roof-1"])
    barn.type_in_card("All eaves, broken", "5'")
    assert len(barn.project.roofs) == 1
    assert "how far in the slope is broken" in barn.window.card.problem.text()
    barn.session.select(["roof-1"])
    barn.type_in_card("All eaves, broken", "5' at 18:12")
    assert [roof.name for roof in barn.project.roofs[1:]] == ["Lower slope over Wall 1", "Lower slope over Wall 3"]
    barn.menu("undo")
    assert len(barn.project.roofs) == 1
    assert len(barn.project.walls) == 5


def test_a_wall_moved_under_a_broken_slope_is_told_and_mended_by_the_fix(barn):
    barn.session.select(["roof-1"])
    barn.type_in_card("All eaves, broken", "5' at 18:12")
    lower = next(roof for roof in barn.project.roofs if roof.name.endswith("Wall 1"))
    barn.session.select([lower.id])
    barn.type_in_card("Pitch", "16:12")
    (finding,) = [f for f in barn.session.model.findings if f.code == "broken slope"]
    assert barn.session.apply(finding.fix.label, lambda p: FIXES[finding.fix.command](p, *finding.fix.args))
    assert not [f for f in barn.session.model.findings if f.code == "broken slope"]


def test_purlins_are_let_in_and_ties_taken_out_on_their_cards(barn):
    barn.session.select(["roof-1"])
    barn.type_in_card("Purlins in of the walls", "9' 4 1/2\"")
    barn.type_in_card("Purlins let in by", '1 1/2"')
    (told,) = [f for f in barn.session.model.findings if "notched" in f.what]
    assert "sixth" in told.why
    barn.menu("undo")
    assert barn.project.roofs[0].purlins_in == 0.0
    tie = barn.session.model.planes["roof-1"].ties[5].key
    barn.session.select([tie])
    barn.card_button("Take this one out")
    assert tie not in barn.session.model.pieces
    barn.menu("undo")
    assert tie in barn.session.model.pieces


def on_slope(user: User, inward: float) -> QPoint:
    """Where a slope of the first roof is cut in the strip, so far in of its first wall."""
    (plan,) = user.session.model.surfaces
    view = cut_view(effective_cut(user.session.model))
    (ax, az), (bx, bz) = next(ends for face, ends in cut_faces(plan, view) if face.edge == 0)
    x = ax + plan.roof.overhang + inward
    return user.window.strip.to_widget((x, az + (bz - az) * (x - ax) / (bx - ax))).toPoint()


def test_a_slope_is_dragged_in_the_strip(roofer):
    make(roofer)
    strip, session = roofer.window.strip, roofer.session
    at, shown = on_slope(roofer, 3.0 * FOOT), []
    session.trial_changed.connect(lambda: shown.append(session.sketch))
    # A roof that is not selected stays.
    session.select([])
    roofer.drag(strip, at, at - QPoint(0, 30))
    assert not shown
    assert roofer.project.roofs[0].pitch == 0.5
    session.select(["roof-1"])
    QTest.mousePress(strip, Qt.MouseButton.LeftButton, pos=at)
    QTest.mouseMove(strip, at - QPoint(0, 30))
    assert session.sketch is not None
    assert roofer.canvas.trial_lines
    assert strip.trial_lines
    QTest.keyClick(strip, Qt.Key.Key_Escape)
    assert session.sketch is None
    assert not roofer.canvas.trial_lines
    QTest.mouseRelease(strip, Qt.MouseButton.LeftButton, pos=at)
    assert roofer.project.roofs[0].pitch == 0.5
    session.select(["roof-1"])
    roofer.drag(strip, at, at - QPoint(0, 30))
    pitch = roofer.project.roofs[0].pitch
    assert pitch == pytest.approx(0.5 + 30.0 / strip.zoom / (3.0 * FOOT), abs=0.25 / 12.0)
    assert round(pitch * 48.0) == pytest.approx(pitch * 48.0)
    assert session.sketch is None
    assert session.model.surfaces[0].edges[0].pitch == pitch
    # Upside down it cannot be: the reason is said, nothing is lost.
    at = on_slope(roofer, 3.0 * FOOT)
    roofer.drag(strip, at, at + QPoint(0, 200))
    assert roofer.project.roofs[0].pitch == pitch
    assert session.sketch is None
    roofer.menu("undo")
    assert roofer.project.roofs[0].pitch == 0.5


def vermilion(picture) -> int:
    """How many places of the 3-D picture are tinted with what is tried out."""
    picture.render()
    image = picture._image
    seen = (image.pixelColor(x, y) for x in range(0, image.width(), 3) for y in range(0, image.height(), 3))
    return sum(colour.red() > colour.green() + 60 and colour.red() > colour.blue() + 60 for colour in seen)


def test_what_is_tried_out_shows_in_3d(roofer):
    picture = rendered(roofer)
    roofer.window.views.show_view("both")
    QTest.qWait(50)
    assert vermilion(picture) == 0
    roofer.press("Make roof")
    QTest.qWait(200)
    assert roofer.session.trial is not None
    assert vermilion(picture) > 500
    key = picture.pick(picture.rect().center().toPointF())
    assert "rafter" not in key  # what is not made yet is not picked
    roofer.card_button("Place roof")
    roofer.session.select([])
    assert vermilion(picture) == 0
    roofer.session.select(["roof-1"])
    before = vermilion(picture)
    at = on_slope(roofer, 3.0 * FOOT)
    QTest.mousePress(roofer.window.strip, Qt.MouseButton.LeftButton, pos=at)
    QTest.mouseMove(roofer.window.strip, at - QPoint(0, 30))
    assert len(picture._tried) == 1
    assert vermilion(picture) != before
    QTest.mouseRelease(roofer.window.strip, Qt.MouseButton.LeftButton, pos=at - QPoint(0, 30))
    assert not picture._tried


def test_a_birds_mouth_is_typed_by_its_seat_or_by_the_height_above_the_plate(roofer):
    """Each takes the place of the other; both are kept in the file."""
    make(roofer)
    roofer.session.select(["roof-1"])
    roofer.type_in_card("Bird's mouth, seat", '2 1/2"')
    assert roofer.project.roofs[0].seat == pytest.approx(2.5 * INCH)
    roofer.type_in_card("Above the plate", '6"')
    assert roofer.project.roofs[0].seat is None
    assert roofer.session.model.surfaces[0].plate_to_top == pytest.approx(6.0 * INCH)
    assert from_bytes(to_bytes(roofer.project)).roofs[0].above_plate == pytest.approx(6.0 * INCH)
    roofer.type_in_card("Above the plate", "auto")
    assert roofer.project.roofs[0].above_plate is None
