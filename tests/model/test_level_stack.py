"""Levels typed in one go: names and heights read, roles told by words, what is there moved, nothing lost."""

import pytest
from hypothesis import given
from hypothesis import strategies as st
from tests.app.conftest import _user
from tests.houses import house

from balken.model import edits
from balken.model.errors import EditError
from balken.model.level_stack import STACKS, parse_stack, set_stack
from balken.units import Units, format_length
from balken.units.system import FOOT, INCH


def told(p):
    return {v.name: (v.role, round(v.height, 3)) for v in p.levels if not v.removed}


def test_as_a_detailer_types_it():
    p = set_stack(edits.new_project("x"), "footing -4'8, ground -1'8, floor 0, plate 8'1 1/8")
    assert told(p) == {
        "Floor 1": ("floor", 0.0),
        "Footing": ("top of footing", round(-4.0 * FOOT - 8.0 * INCH, 3)),
        "Ground": ("ground", round(-1.0 * FOOT - 8.0 * INCH, 3)),
        "Plate": ("plate", round(8.0 * FOOT + 1.125 * INCH, 3)),
    }
    moved = set_stack(p, "ground -2'")
    assert told(moved)["Ground"] == ("ground", round(-2.0 * FOOT, 3))
    assert len(moved.levels) == len(p.levels)


def test_metric_and_several_floors():
    p = set_stack(
        edits.new_project("x", Units.METRIC), "Floor 1 0; Floor 2 2800; Floor 3 5600; Attic 8400\nground \u2212450"
    )
    assert told(p) == {
        "Floor 1": ("floor", 0.0),
        "Floor 2": ("floor", 2800.0),
        "Floor 3": ("floor", 5600.0),
        "Attic": ("other", 8400.0),
        "Ground": ("ground", -450.0),
    }


def test_what_hangs_on_levels_follows_and_none_goes():
    p = house()
    raised = set_stack(p, "Plate 9'")
    assert told(raised)["Plate"] == ("plate", round(9.0 * FOOT, 3))
    assert {v.id for v in p.levels} == {v.id for v in raised.levels}


@pytest.mark.parametrize("text", ["", " , ;", "ground", "ground low", "-4'8", "plate 1e9'"])
def test_what_cannot_be_read_is_told_and_nothing_changes(text):
    with pytest.raises(EditError):
        set_stack(edits.new_project("x"), text)


@pytest.mark.parametrize("units", list(Units))
@pytest.mark.parametrize("name", list(STACKS))
def test_sets_to_begin_with(name, units):
    p = set_stack(edits.new_project("x", units), STACKS[name][units])
    roles = [v.role for v in p.levels]
    assert {"top of footing", "top of foundation", "ground", "floor", "plate"} <= set(roles)
    assert ("slab" in roles) == (name != "crawl space")
    if units is Units.METRIC:
        assert all(v.height % 10.0 == 0.0 for v in p.levels)
    assert set_stack(p, STACKS[name][units]) == p


@given(
    st.dictionaries(
        st.sampled_from(["Footing", "Ground", "Attic", "Plate", "Ridge"]), st.integers(-400, 400), min_size=1
    )
)
def test_what_is_printed_is_read_back(heights):
    text = ", ".join(f"{name} {format_length(n * INCH, Units.IMPERIAL)}" for name, n in heights.items())
    read = {one.name: one.height for one in parse_stack(text, Units.IMPERIAL)}
    assert read == {name: pytest.approx(n * INCH) for name, n in heights.items()}


def test_in_the_card_of_the_stage(qtbot, qapp, tmp_path):
    user = _user(qtbot, qapp, tmp_path, edits.new_project("x"))
    user.stage(1)
    user.type_in_card("Begin with", "basement")
    assert len(user.project.levels) == 6
    user.menu("undo")
    user.type_in_card("In one go", "footing -4'8, plate 8'1 1/8")
    assert {v.name for v in user.project.levels} == {"Floor 1", "Footing", "Plate"}
    before = user.project
    user.type_in_card("In one go", "footing low")
    assert user.project is before
    user.session.replace(house(), None)
    assert "Begin with" not in user.window.card.entries  # it would move what stands on them
    assert "In one go" in user.window.card.entries
