"""Beams drawn by mouse and keys in stage 4, and worked on in their card."""

import pytest
from PySide6.QtCore import Qt
from tests.app.conftest import User, _user
from tests.houses import house

from balken.model import edits
from balken.units.system import FOOT


@pytest.fixture
def builder(qtbot, qapp, tmp_path) -> User:
    """A user before a house whose floor spans too far."""
    user = _user(qtbot, qapp, tmp_path, house(long=36 * FOOT, wide=28 * FOOT))
    user.stage(4)
    return user


def drawn(user):
    user.press("Draw beam")
    user.click(100.0, 14 * FOOT)
    user.click(36 * FOOT - 100.0, 14 * FOOT)
    return user.project.beams[-1]


def test_a_beam_is_drawn_by_two_clicks_and_undone(builder):
    beam = drawn(builder)
    assert beam.floor == "floor-1"
    assert builder.session.selection == (beam.id,)
    assert "Carries the floor" in builder.window.card.entries
    assert any("Beam 1" in f.what for f in builder.session.model.findings)
    builder.menu("undo")
    assert not builder.project.beams
    builder.menu("redo")
    assert builder.project.beams == (beam,)


def test_the_card_of_a_joist_used_ten_times_over_shows(builder):
    """Its neighbours are sorted by how far they are used, not by what is written: "over 1000%" is no number."""
    user = builder
    user.session.apply("weak", lambda p: edits.set_choice(p, "floor-1", "joists", size="2x6", spacing=609.6))
    user.session.apply("heavy", lambda p: edits.set_loads(p, floor_live=9.0))
    name = next(n for n in user.session.model.pieces if n.startswith("floor-1/joist"))
    assert user.session.model.results[name].used > 10.0
    user.session.select([name])
    assert "Own section" in user.window.card.entries


def test_its_length_is_typed(builder):
    builder.press("Draw beam")
    builder.click(1000.0, 2000.0)
    builder.move(3000.0, 2000.0)
    builder.keys("12")
    builder.key(Qt.Key.Key_Tab)
    builder.keys("0")
    builder.key(Qt.Key.Key_Return)
    (beam,) = builder.project.beams
    assert beam.end.x - beam.start.x == pytest.approx(12 * FOOT, abs=1.0)
    # Escape gives a beam begun up, then goes back to selecting.
    builder.click(1000.0, 4000.0)
    builder.key(Qt.Key.Key_Escape)
    assert builder.canvas.tool.name == "beam"
    builder.key(Qt.Key.Key_Escape)
    assert builder.canvas.tool.name == "select"
    assert len(builder.project.beams) == 1


def test_posts_kind_and_section_from_its_card(builder):
    drawn(builder)
    builder.type_in_card("Set posts under it, at most", "8'")
    assert len(builder.project.columns) == 4
    assert len(builder.project.pads) == 4
    assert builder.session.model.girders["beam-1"].works
    builder.type_in_card("Kind", "W")
    assert builder.project.beams[0].made_of == "W"
    assert builder.session.model.girders["beam-1"].section.kind == "steel"
    builder.type_in_card("Section", "W8x18")
    assert builder.project.beams[0].size == "W8x18"
    builder.type_in_card("Joists", "hang on it")
    assert builder.project.beams[0].flush
    builder.card_button("Remove beam")
    assert not builder.project.beams


def test_it_is_picked_on_the_plan_and_follows_its_axes(builder):
    drawn(builder)
    builder.press("Select")
    builder.click(10 * FOOT, 14 * FOOT)
    assert builder.session.selection == ("beam-1",)


def test_it_is_dragged_aside_and_by_its_end(builder):
    drawn(builder)
    builder.press("Select")
    canvas = builder.canvas
    builder.drag(canvas, builder.at(20 * FOOT, 14 * FOOT), builder.at(20 * FOOT, 11 * FOOT))
    (beam,) = builder.project.beams
    assert beam.start.y == beam.end.y < 12 * FOOT
    assert builder.session.model.path.beams["beam-1"].line.start[1] == beam.start.y
    y = beam.start.y
    builder.drag(canvas, builder.at(beam.end.x, y), builder.at(25 * FOOT, y))
    assert builder.project.beams[0].end.x == pytest.approx(25 * FOOT, abs=60.0)
    builder.menu("undo")
    assert builder.project.beams[0] == beam


def test_an_opening_is_left_by_two_corners_or_typed(builder):
    builder.press("Opening")
    builder.click(10 * FOOT, 2 * FOOT)
    builder.click(13 * FOOT, 8 * FOOT)
    (opening,) = builder.project.floor_openings
    assert opening.floors == ("floor-1",)
    assert builder.session.model.floors[0].holes
    builder.type_in_card("Kind", "chimney")
    assert builder.project.floor_openings[0].kind == "chimney"
    builder.type_in_card("Depth", "4'")
    assert builder.project.floor_openings[0].depth == pytest.approx(4 * FOOT)
    builder.press("Opening")
    builder.click(20 * FOOT, 4 * FOOT)
    builder.move(22 * FOOT, 6 * FOOT)
    builder.keys("3")
    builder.key(Qt.Key.Key_Tab)
    builder.keys("8")
    builder.key(Qt.Key.Key_Return)
    assert len(builder.project.floor_openings) == 2
    assert builder.project.floor_openings[1].width == pytest.approx(3 * FOOT, abs=1.0)
    builder.card_button("Remove opening")
    assert len(builder.project.floor_openings) == 1
    builder.menu("undo")
    assert len(builder.project.floor_openings) == 2


def test_the_fix_of_joists_that_span_too_far(builder):
    user = builder
    user.session.apply(
        "type the joists", lambda p: edits.set_choice(p, "floor-1", "joists", size="2x10", spacing=406.4)
    )
    finding = next(f for f in user.session.model.findings if f.code == "used")
    assert finding.fix.label.startswith("Lay a girder")
    assert user.session.run_fix(finding.fix)
    assert user.session.model.girders["beam-1"].works
    assert not [f for f in user.session.model.findings if f.code == "used"]
    user.menu("undo")
    assert not user.project.beams
    assert not user.project.columns
