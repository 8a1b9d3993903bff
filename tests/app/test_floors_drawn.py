"""Floors worked on in stage 4: what their joists are, what they do over bearings, where they reach past walls."""

import pytest
from PySide6.QtCore import Qt
from tests.app.conftest import User, _user
from tests.houses import house

from balken.model import edits
from balken.units.system import FOOT


@pytest.fixture
def builder(qtbot, qapp, tmp_path) -> User:
    """A user before a house with a bearing wall along its middle."""
    user = _user(qtbot, qapp, tmp_path, house(middle=True))
    user.stage(4)
    return user


def test_a_part_past_a_wall_is_drawn_by_two_clicks(builder):
    builder.press("Cantilever")
    builder.click(8 * FOOT, 0.0)
    builder.move(14 * FOOT, -2 * FOOT)
    builder.click(14 * FOOT, -2 * FOOT)
    (edge,) = builder.project.floors[0].past
    assert (edge.wall, edge.end is not None) == ("wall-1", True)
    assert edge.by == pytest.approx(2 * FOOT, abs=60.0)
    assert builder.session.selection == ("floor-1",)
    assert any(max(line.overhangs) > 0.0 for line in builder.session.model.floors[0].lines)
    builder.menu("undo")
    assert not builder.project.floors[0].past


def test_its_figures_are_typed(builder):
    builder.press("Cantilever")
    builder.click(8 * FOOT, 0.0)
    builder.move(10 * FOOT, -FOOT)
    builder.keys("6")
    builder.key(Qt.Key.Key_Tab)
    builder.keys("2")
    builder.key(Qt.Key.Key_Return)
    (edge,) = builder.project.floors[0].past
    assert edge.by == pytest.approx(2 * FOOT, abs=30.0)
    assert edge.end - edge.start == pytest.approx(6 * FOOT, abs=1.0)
    # A place inside the wall says why it cannot be; nothing is lost.
    builder.press("Cantilever")
    builder.click(20 * FOOT, 0.0)
    builder.click(24 * FOOT, 3 * FOOT)
    assert builder.project.floors[0].past == (edge,)
    assert "outside the wall" in builder.canvas.last_error


def test_from_the_card(builder):
    user = builder
    user.session.select(["floor-1"])
    user.type_in_card("Past one more wall", "wall-3")
    wall = next(label for label in user.window.card.entries if label.endswith(" by")).removesuffix(" by")
    user.type_in_card(f"{wall} by", "1'-6")
    assert user.project.floors[0].past[0].by == pytest.approx(1.5 * FOOT)
    user.type_in_card(f"{wall} to", "10'")
    assert user.project.floors[0].past[0].end == pytest.approx(10 * FOOT)
    user.type_in_card(f"{wall} to", "its end")
    assert user.project.floors[0].past[0].end is None
    user.card_button(f"Not past {wall}")
    assert not user.project.floors[0].past


def test_kinds_of_joists_from_the_card(builder):
    user = builder
    user.session.select(["floor-1"])
    user.type_in_card("Over bearings", "lapped")
    assert user.project.floors[0].over == "lapped"
    assert "Species" in user.window.card.entries
    user.type_in_card("Joists of", "I-joist")
    floor = user.project.floors[0]
    assert (floor.joists.made_of, floor.joists.size, floor.over) == ("I-joist", None, "butted")
    assert "Species" not in user.window.card.entries
    user.type_in_card("Section", "PRI-60 11.875")
    assert user.session.model.designs[("floor-1", "joists")].size == "PRI-60 11.875"
    user.type_in_card("Over bearings", "continuous")
    assert any(line.inner for line in user.session.model.floors[0].lines)
    user.type_in_card("Blocking", "none")
    assert user.project.floors[0].blocking == "none"
    name = next(n for n in user.session.model.pieces if n.startswith("floor-1/joist"))
    user.session.select([name])
    assert "Own section" in user.window.card.entries
    user.type_in_card("Own section", "LVL 1.75x11.875")
    assert user.session.model.piece(name).section == "LVL 1.75x11.875"


@pytest.fixture
def spanning(qtbot, qapp, tmp_path) -> User:
    """A user before a house that spans too far."""
    user = _user(qtbot, qapp, tmp_path, house(long=36 * FOOT, wide=28 * FOOT))
    user.stage(4)
    return user


def test_a_bay_is_filled_by_one_click(spanning):
    user = spanning
    user.press("Fill bay")
    user.click(10 * FOOT, 9 * FOOT)
    (row,) = user.project.beam_rows
    assert row.floor == "floor-1"
    assert user.session.selection == (row.id,)
    before = len(user.session.model.path.beams)
    user.type_in_card("Laid by", "number")
    user.type_in_card("Number", "2")
    assert len(user.session.model.path.beams) == 2 != before
    user.type_in_card("Kind", "GLB")
    assert all(made.design.section.kind == "glulam" for made in user.session.model.path.beams.values())
    user.card_button("Let them run the other way")
    assert user.project.beam_rows[0].b == row.d
    user.menu("undo")
    # One of them is picked on the plan, given its own section, then left out.
    user.press("Select")
    user.session.select([f"{row.id}.1"])
    user.type_in_card("Own section", "GLB 6.75x36")
    assert user.session.model.girders[f"{row.id}.1"].section.name == "GLB 6.75x36"
    user.menu("delete")
    assert [s.removed for s in user.project.beam_rows[0].singles] == [True]
    assert len(user.session.model.path.beams) == 1
    user.session.select([row.id])
    user.card_button("All as the row")
    assert len(user.session.model.path.beams) == 2
    user.card_button("Remove row")
    assert not user.project.beam_rows


def test_a_bay_by_its_corners_and_by_figures(spanning):
    user = spanning
    user.press("Fill bay")
    user.click(0.0, 0.0, modifiers=Qt.KeyboardModifier.ControlModifier)
    user.move(3000.0, 3000.0)
    user.keys("20")
    user.key(Qt.Key.Key_Tab)
    user.keys("28")
    user.key(Qt.Key.Key_Return)
    (row,) = user.project.beam_rows
    assert abs(row.c.x - row.a.x) == pytest.approx(20 * FOOT, abs=1.0)
    assert abs(row.c.y - row.a.y) == pytest.approx(28 * FOOT, abs=1.0)


def test_a_load_is_put_on_the_floor(builder):
    user = builder
    user.press("Load")
    user.click(8 * FOOT, 4 * FOOT)
    user.click(8 * FOOT, 4 * FOOT)
    (load,) = user.project.floor_loads
    assert (load.width, load.depth) == (0.0, 0.0)
    user.type_in_card("Live", "2 kip")
    user.type_in_card("Name", "Bath")
    user.type_in_card("Width", "5'")
    user.type_in_card("Depth", "2'-6")
    assert user.project.floor_loads[0].live == pytest.approx(8896.4, abs=1.0)
    assert any(r.through == load.id for r in user.session.model.path.reactions)
    user.card_button("Remove load")
    assert not user.project.floor_loads
    user.session.select(["floor-1"])
    user.type_in_card("Live load", "60 psf")
    assert user.project.floors[0].live == pytest.approx(2.873, abs=0.01)
    user.type_in_card("Live load", "the project's")
    assert user.project.floors[0].live is None
    user.type_in_card("Ceiling under it", "gypsum board")
    assert user.project.floors[0].ceiling == "gypsum board"


def test_a_floor_by_its_corners_and_by_a_room(builder):
    user = builder
    user.session.apply("bare", lambda p: edits.remove(p, "floor-1"))
    user.press("Draw floor")
    user.click(4 * FOOT, 5 * FOOT, modifiers=Qt.KeyboardModifier.ControlModifier)
    (room,) = user.project.floors
    assert len(room.corners) == 4
    assert user.session.selection == (room.id,)
    assert user.session.model.floors[0].lines
    user.press("Draw floor")
    for x, y in ((0.0, 10 * FOOT), (12 * FOOT, 10 * FOOT), (12 * FOOT, 20 * FOOT), (0.0, 20 * FOOT)):
        user.click(x, y)
    user.key(Qt.Key.Key_Return)
    assert len(user.project.floors) == 2
    assert len(user.session.model.floors) == 2
    user.press("Draw floor")
    user.click(20 * FOOT, 12 * FOOT)
    user.key(Qt.Key.Key_Escape)
    assert user.canvas.tool.name == "draw floor"
    user.key(Qt.Key.Key_Escape)
    assert user.canvas.tool.name == "select"


def test_a_hole_from_the_card_of_a_joist(builder):
    user = builder
    name = next(n for n in user.session.model.pieces if n.startswith("floor-1/joist"))
    user.session.select([name])
    user.type_in_card("Notch or hole", "hole")
    user.type_in_card("Hole 1, from its start", "24")
    user.type_in_card("Hole 1, across", "2")
    (edit,) = user.project.member_edits
    assert (edit.cuts[0].at, edit.cuts[0].deep) == (pytest.approx(609.6), pytest.approx(50.8))
    user.type_in_card("Notch or hole", "notch below")
    user.type_in_card("Notch 2, deep", "4")
    assert any(f.code == "notch or hole" for f in user.session.model.findings)
    user.card_button("No notch 2")
    user.card_button("No hole 1")
    assert not user.project.member_edits


def test_an_opening_of_any_shape_is_drawn_and_its_corner_dragged(builder):
    builder.press("Opening")
    builder.click(10 * FOOT, 3 * FOOT, Qt.KeyboardModifier.ControlModifier)
    for x, y in ((16, 3), (16, 6), (10, 8)):
        builder.click(x * FOOT, y * FOOT)
    builder.key(Qt.Key.Key_Return)
    (opening,) = builder.project.floor_openings
    assert len(opening.corners) == 4
    assert builder.session.selection == ("floor-opening-1",)
    assert "Width" not in builder.window.card.entries
    builder.press("Select")
    builder.drag(builder.canvas, builder.at(16 * FOOT, 6 * FOOT), builder.at(16 * FOOT, 7 * FOOT))
    ys = [corner.y for corner in builder.project.floor_openings[0].corners]
    assert sorted(ys)[2] == pytest.approx(7 * FOOT, abs=120.0)
    builder.menu("undo")
    assert builder.project.floor_openings == (opening,)


def test_a_rectangular_opening_is_dragged(builder):
    builder.press("Opening")
    builder.click(10 * FOOT, 2 * FOOT)
    builder.click(14 * FOOT, 8 * FOOT)
    before = builder.project.floor_openings[0].place
    builder.press("Select")
    builder.drag(builder.canvas, builder.at(12 * FOOT, 5 * FOOT), builder.at(15 * FOOT, 5 * FOOT))
    after = builder.project.floor_openings[0].place
    assert after.x - before.x == pytest.approx(3 * FOOT, abs=120.0)


def test_a_slab_from_the_card_its_walls_cut_and_copied(builder):
    user = builder
    user.session.select(["floor-1"])
    user.type_in_card("Joists of", "slab")
    floor = user.project.floors[0]
    assert floor.is_slab
    assert floor.deck == 0.0
    assert "Blocking" not in user.window.card.entries
    user.type_in_card("Carries", "both ways")
    assert any(f.code == "not designed" for f in user.session.model.findings)
    user.type_in_card("Carries", "one way")
    user.type_in_card("Section", "slab 9 in")
    user.type_in_card("Copy to another level", "level-2")
    assert [f.level for f in user.project.floors] == ["level-1", "level-2"]
    assert user.project.floors[1].joists.size == "slab 9 in"
    user.type_in_card("Floor, Plate", "slab 10 in")
    assert user.project.floors[1].joists.size == "slab 10 in"
    user.session.select([user.project.floors[1].id])
    user.card_button("Cut the walls below to its underside")
    cut = [w.id for w in user.project.walls if w.head_under == user.project.floors[1].id]
    assert len(cut) == 5
    user.type_in_card("Leave one out", cut[0])
    assert user.project.floors[1].uncut == (cut[0],)
    user.type_in_card("Joists of", "sawn")
    assert user.project.floors[1].deck > 0.0


def test_a_side_of_a_drawn_floor_is_bowed(builder):
    from balken.model.floor_edits import draw_floor

    corners = [(0.0, 0.0), (30 * FOOT, 0.0), (30 * FOOT, 20 * FOOT), (0.0, 20 * FOOT)]
    builder.session.apply("x", lambda p: draw_floor(edits.remove(p, "floor-1"), "level-1", corners))
    builder.session.select(["floor-1"])
    builder.type_in_card("Bow another side", "0")
    (arc,) = builder.project.floors[0].arcs
    assert arc.rise == pytest.approx(30 * FOOT / 8.0)
    label = next(label for label in builder.window.card.entries if "bows out by" in label)
    builder.type_in_card(label, "2'")
    assert builder.project.floors[0].arcs[0].rise == pytest.approx(2 * FOOT)
    assert len(builder.session.model.outlines["floor-1"].core) > 8
    builder.type_in_card(label, "0")
    assert not builder.project.floors[0].arcs
