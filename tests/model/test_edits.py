"""Edits: what they change, what they refuse, and that a refused edit changes nothing."""

import pytest
from hypothesis import given
from hypothesis import strategies as st
from tests.houses import house

from balken.model import edits, grid_edits
from balken.model.buildups import display_name, thickness
from balken.model.errors import EditError
from balken.model.lookup import axis_positions, by_id, find, locate
from balken.model.records import AxisPoint, BuildUp, FreePoint, Hang, Level, Wall
from balken.units import Units
from balken.units.system import FOOT, INCH


def test_a_level_is_made_from_another_by_a_distance_and_renamed():
    p = edits.add_level(edits.new_project(), "level-1", 9 * FOOT, "Floor 2", "floor")
    p = edits.change(p, "level-2", name="Flat")
    assert by_id(p.levels)["level-2"] == Level(id="level-2", name="Flat", role="floor", height=2743.2)


def test_two_levels_cannot_share_a_name(demo):
    with pytest.raises(EditError, match="already a level"):
        edits.change(demo, "level-2", name="floor 1")


def test_grid_labels_skip_i_and_o():
    p = grid_edits.add_grid(edits.new_project(), (1000.0,) * 15, (1000.0,) * 2, "A", "1")
    assert "".join(a.label for a in p.grids[0].x_axes) == "ABCDEFGHJKLMNPQR"
    with pytest.raises(EditError, match="I and O"):
        grid_edits.add_grid(edits.new_project(), (1000.0,), (1000.0,), "I", "1")


def test_walls_on_axis_crossings_follow_the_axes(demo):
    moved = grid_edits.set_axis_gap(demo, "grid-1", "x4", 14 * FOOT)
    wall = by_id(moved.walls)["wall-1"]
    assert isinstance(wall.end, AxisPoint)
    assert locate(wall.end, moved.grids) == pytest.approx((41 * FOOT, 0.0))


def test_changing_the_spacings_keeps_axes_and_continues_labels(demo):
    more = grid_edits.set_grid_spacings(demo, "grid-1", "x_axes", (13 * FOOT, 14 * FOOT, 13 * FOOT, 10 * FOOT))
    assert [a.label for a in more.grids[0].x_axes] == list("12345")
    assert axis_positions(more.grids[0].x_axes)[-1] == pytest.approx(50 * FOOT)
    with pytest.raises(EditError, match="tied to"):
        grid_edits.set_grid_spacings(demo, "grid-1", "x_axes", (10 * FOOT,))


def test_removing_a_grid_leaves_the_walls_where_they_are(demo):
    freed = edits.remove(demo, "grid-1")
    for before, after in zip(demo.walls, freed.walls, strict=True):
        assert isinstance(after.start, FreePoint)
        assert locate(after.start, ()) == pytest.approx(locate(before.start, demo.grids))


def test_removing_a_wall_takes_its_openings_and_its_place_in_layouts(demo):
    p = edits.remove(demo, "wall-5")
    assert all(o.wall != "wall-5" for o in p.openings)
    assert "wall-5" not in p.foundations[0].walls


def test_a_changed_layer_changes_name_and_thickness_at_once(demo):
    p = edits.change_layer(demo, "framed-2x6", 2, material="2x4 studs", thickness=3.5 * INCH)
    buildup = by_id(p.buildups)["framed-2x6"]
    assert display_name(buildup, Units.IMPERIAL) == '5" 2x4 studs, lap siding'
    assert thickness(buildup) == pytest.approx(5 * INCH)
    assert display_name(BuildUp(id="x", name="Mine", layers=buildup.layers), Units.METRIC) == "Mine"


def test_moving_a_corner_moves_both_walls_and_keeps_the_outline(demo):
    p = edits.move_wall_end(demo, "wall-1", "end", (45 * FOOT, 0.0))
    assert locate(by_id(p.walls)["wall-2"].start, p.grids) == (45 * FOOT, 0.0)
    longer = edits.set_wall_length(demo, "wall-1", 42 * FOOT)
    assert locate(by_id(longer.walls)["wall-1"].end, longer.grids) == pytest.approx((42 * FOOT, 0.0))


def test_an_outline_drawn_clockwise_is_turned_outside_out():
    p = house(clockwise=True)
    wrong = edits.flip_wall(edits.flip_wall(p, "wall-1"), "wall-2")
    wrong = edits.flip_wall(wrong, "wall-1")
    assert {w.outside for w in edits.orient_outline(wrong, tuple(w.id for w in p.walls)).walls} == {"left"}


BAD = [
    (
        "opening past the end",
        lambda p: edits.add_opening(p, "wall-2", "window", 26 * FOOT, 4 * FOOT, 3 * FOOT, FOOT),
        "long",
    ),
    (
        "opening wider than its wall",
        lambda p: edits.add_opening(p, "wall-2", "window", 0, 60 * FOOT, 3 * FOOT, FOOT),
        "long",
    ),
    (
        "opening taller than its wall",
        lambda p: edits.add_opening(p, "wall-2", "door", 9 * FOOT, 3 * FOOT, 12 * FOOT, 0),
        "tall",
    ),
    (
        "overlapping openings",
        lambda p: edits.add_opening(p, "wall-1", "window", 4 * FOOT, 3 * FOOT, 3 * FOOT, 3 * FOOT),
        "overlaps",
    ),
    (
        "opening before the start",
        lambda p: edits.add_opening(p, "wall-2", "window", -1.0, 600, 600, 0),
        "before the start of the wall",
    ),
    ("zero spacing", lambda p: edits.set_choice(p, "floor-1", "joists", spacing=0.0), "spacing"),
    ("negative spacing", lambda p: edits.set_choice(p, "roof-1", "rafters", spacing=-400.0), "spacing"),
    ("zero grid spacing", lambda p: grid_edits.set_axis_gap(p, "grid-1", "x2", 0.0), "spacing|mm from"),
    ("unknown size", lambda p: edits.set_choice(p, "floor-1", "joists", size="2x9"), "sizes are"),
    ("grade of another species", lambda p: edits.set_choice(p, "floor-1", "joists", grade="Clear"), "grades are"),
    (
        "zero length wall",
        lambda p: edits.add_wall(p, (0, 0), (10, 0), "framed-2x6", Hang(level="level-1"), Hang(level="level-2")),
        "long",
    ),
    (
        "crossing outside walls",
        lambda p: edits.add_wall(
            p, (-FOOT, FOOT), (FOOT, 3 * FOOT), "framed-2x6", Hang(level="level-1"), Hang(level="level-2")
        ),
        "crosses",
    ),
    ("head below foot", lambda p: edits.set_level(p, "level-2", -FOOT), "above its foot"),
    ("foundation upside down", lambda p: edits.set_level(p, "level-5", FOOT), "above its foot"),
    ("flat roof", lambda p: edits.change(p, "roof-1", pitch=0.0), "pitch"),
    ("huge overhang", lambda p: edits.change(p, "roof-1", overhang=1e5), "overhang"),
    ("soil that bears nothing", lambda p: edits.set_loads(p, soil_bearing=0.0), "soil"),
    ("negative load", lambda p: edits.set_loads(p, floor_live=-1.0), "zero or more"),
    ("narrow footing", lambda p: edits.change(p, "foundation-1", footing_width=50.0), "wide"),
    ("unknown thing", lambda p: edits.change(p, "wall-99", role="bearing"), "wall-99"),
    ("build-up without a core", lambda p: edits.change(p, "framed-2x6", layers=()), "core"),
]


@pytest.mark.parametrize(("edit", "says"), [(e, s) for _, e, s in BAD], ids=[n for n, _, _ in BAD])
def test_wrong_edits_say_what_where_and_change_nothing(demo, edit, says):
    import msgspec

    before = msgspec.json.encode(demo)
    with pytest.raises(EditError, match=says):
        edit(demo)
    assert msgspec.json.encode(demo) == before


@given(st.lists(st.tuples(st.integers(0, 3), st.floats(8 * FOOT, 30 * FOOT)), max_size=6))
def test_any_order_of_axis_moves_keeps_walls_closed(moves):
    from tests.shop import shop

    from balken.derive import derive

    p = shop()
    for which, gap in moves:
        axis = ("x2", "x3", "x4", "y3")[which]
        try:
            p = grid_edits.set_axis_gap(p, "grid-1", axis, gap)
        except EditError:
            continue
    model = derive(p)
    assert "floor-1" in model.outlines
    assert model.path.arrived.all == pytest.approx(model.path.applied.all, rel=1e-6)


def test_wrong_references_are_found():
    p = edits.new_project()
    wall = Wall(
        id="w",
        start=FreePoint(x=0, y=0),
        end=FreePoint(x=5000, y=0),
        buildup="none",
        foot=Hang(level="level-1"),
        head=Hang(level="level-1", offset=2400),
    )
    with pytest.raises(EditError, match="build-up 'none'"):
        edits.add(p, wall)
    assert find(p, "w") is None
