"""Grids: spreads, labels, single axes; walls stay where they are or follow, as they should."""

import pytest
from hypothesis import given
from hypothesis import strategies as st
from tests.shop import shop

from balken.model import edits, grid_edits
from balken.model.errors import EditError
from balken.model.lookup import axis_positions, by_id, locate
from balken.model.records import Hang
from balken.units import UnitError, Units, parse_spacings
from balken.units.system import FOOT


def positions(project, way="x_axes"):
    return axis_positions(getattr(project.grids[0], way))


def places(project):
    return [c for w in project.walls for p in (w.start, w.end) for c in locate(p, project.grids)]


def test_an_even_spread_over_a_length():
    assert parse_spacings("40' : 3") == pytest.approx((40 * FOOT / 3,) * 3)
    assert parse_spacings("1000, 6000 : 4", Units.METRIC) == pytest.approx((1000.0, 1500.0, 1500.0, 1500.0, 1500.0))
    with pytest.raises(UnitError, match="one bay"):
        parse_spacings("40' : 0")


@pytest.mark.parametrize(
    ("first", "count", "want"),
    [
        ("1", 3, ["1", "2", "3"]),
        ("8", 4, ["8", "9", "10", "11"]),
        ("H", 3, ["H", "J", "K"]),
        ("N", 3, ["N", "P", "Q"]),
        ("N-1", 3, ["N-1", "N-2", "N-3"]),
        ("Y", 4, ["Y", "Z", "AA", "BB"]),
        ("2-A", 2, ["2-A", "2-B"]),
    ],
)
def test_labels_follow_a_rule(first, count, want):
    assert grid_edits.labels(first, count) == want


def test_one_axis_is_moved_and_the_others_stay(demo):
    moved = grid_edits.move_axis(demo, "grid-1", "x2", 2 * FOOT)
    assert positions(moved) == pytest.approx([0, 15 * FOOT, 27 * FOOT, 40 * FOOT])
    with pytest.raises(EditError, match="origin"):
        grid_edits.move_axis(demo, "grid-1", "x1", FOOT)
    with pytest.raises(EditError, match="from the one before"):
        grid_edits.move_axis(demo, "grid-1", "x2", 14 * FOOT)


def test_an_axis_is_inserted_between_and_at_the_end(demo):
    more = grid_edits.insert_axis(demo, "grid-1", "x1", 5 * FOOT)
    assert [a.label for a in more.grids[0].x_axes] == ["1", "1A", "2", "3", "4"]
    assert positions(more) == pytest.approx([0, 5 * FOOT, 13 * FOOT, 27 * FOOT, 40 * FOOT])
    assert places(more) == pytest.approx(places(demo))
    twice = grid_edits.insert_axis(more, "grid-1", "x1", 2 * FOOT)
    assert twice.grids[0].x_axes[1].label == "1B"
    last = grid_edits.insert_axis(demo, "grid-1", "x4", 9 * FOOT, "Z")
    assert positions(last)[-1] == pytest.approx(49 * FOOT)


@pytest.mark.parametrize("axis", ["x1", "x2", "x4", "y1", "y2", "y3"])
def test_a_removed_axis_leaves_everything_in_place(demo, axis):
    less = grid_edits.remove_axis(demo, "grid-1", axis)
    assert sum(len(getattr(less.grids[0], w)) for w in ("x_axes", "y_axes")) == 6
    assert places(less) == pytest.approx(places(demo), abs=1e-6)
    way = "x_axes" if axis[0] == "x" else "y_axes"
    kept = [a.id for a in getattr(less.grids[0], way)]
    old = dict(zip([a.id for a in getattr(demo.grids[0], way)], positions(demo, way), strict=True))
    origin = less.grids[0].origin[0 if axis[0] == "x" else 1]
    assert [p + origin for p in positions(less, way)] == pytest.approx([old[i] for i in kept])


def test_axes_are_relabelled(demo):
    p = grid_edits.relabel_axes(demo, "grid-1", "x_axes", "N-1")
    assert [a.label for a in p.grids[0].x_axes] == ["N-1", "N-2", "N-3", "N-4"]


def test_a_turned_grid_turns_what_is_tied_to_it(demo):
    turned = edits.change(demo, "grid-1", angle=90.0)
    assert places(turned)[2:4] == pytest.approx([0.0, 40 * FOOT])


@given(st.lists(st.tuples(st.sampled_from("imr"), st.integers(0, 3), st.floats(0.1, 0.9)), max_size=8))
def test_other_axes_never_move(steps):
    p = shop()

    def where():
        grid = p.grids[0]
        return {a.id: x + grid.origin[0] for a, x in zip(grid.x_axes, positions(p), strict=True)}

    for what, i, part in steps:
        axes = p.grids[0].x_axes
        axis = axes[i % len(axes)]
        before = where()
        try:
            if what == "i":
                p = grid_edits.insert_axis(p, "grid-1", axis.id, part * 8 * FOOT)
            elif what == "m":
                p = grid_edits.move_axis(p, "grid-1", axis.id, (part - 0.5) * 8 * FOOT)
            else:
                p = grid_edits.remove_axis(p, "grid-1", axis.id)
        except EditError:
            continue
        after = where()
        for key in set(before) & set(after) - ({axis.id} if what == "m" else set()):
            assert after[key] == pytest.approx(before[key], abs=1e-6)


def test_a_level_is_removed_and_what_hung_on_it_stays_in_place(demo):
    gone = edits.replace_level(demo, "level-2", "level-1")
    assert all(v.id != "level-2" for v in gone.levels)
    assert gone.walls[0].head == Hang(level="level-1", offset=pytest.approx(8 * FOOT + 28.575))
    from balken.derive import derive

    assert derive(gone).soil == derive(demo).soil
    with pytest.raises(EditError, match="another level"):
        edits.replace_level(demo, "level-2", "level-2")


def test_a_level_removed_in_use_holds_its_things_until_they_hang_elsewhere(demo):
    from balken.derive import derive
    from balken.findings.fixes import FIXES

    gone = edits.remove(demo, "level-2")
    assert by_id(gone.levels)["level-2"].removed
    assert derive(gone).soil == derive(demo).soil
    found = next(f for f in derive(gone).findings if f.code == "removed level")
    assert "walls" in found.what
    assert found.stage == "set out"
    moved = FIXES[found.fix.command](gone, *found.fix.args)
    assert "level-2" not in by_id(moved.levels)
    assert not [f for f in derive(moved).findings if f.code == "removed level"]
    back = edits.change(gone, "level-2", removed=False)
    assert back == demo
    named = edits.add_level(gone, "level-1", 100.0, by_id(demo.levels)["level-2"].name)
    assert len(named.levels) == len(demo.levels) + 1
    with pytest.raises(EditError, match="another level"):
        edits.replace_level(gone, "level-1", "level-2")


def test_a_removed_level_goes_with_the_last_thing_on_it():
    p = edits.new_project("X")
    p = edits.add_level(p, "level-1", 2500.0, "Plate", "plate")
    p = edits.add_wall(p, (0.0, 0.0), (3000.0, 0.0), "framed-2x6", Hang(level="level-1"), Hang(level="level-2"))
    p = edits.remove(p, "level-2")
    assert [v.id for v in p.levels] == ["level-1", "level-2"]
    assert [v.id for v in edits.remove(p, "wall-1").levels] == ["level-1"]
    assert [v.id for v in edits.change(p, "wall-1", head=Hang(level="level-1", offset=2400.0)).levels] == ["level-1"]
    assert [v.id for v in edits.remove(edits.add_level(p, "level-1", 1.0, "Spare"), "level-3").levels][-1] == "level-2"
