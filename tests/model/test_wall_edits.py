"""Walls as figures: move, copy, turn, mirror, offset, split, join, reach."""

import pytest
from hypothesis import given
from hypothesis import strategies as st
from tests.houses import house

from balken.derive import derive
from balken.geometry.plane import distance
from balken.model import edits, wall_edits
from balken.model.lookup import by_id, locate
from balken.model.records import Hang
from balken.model.rules import EditError
from balken.units.system import FOOT

ALL = ("wall-1", "wall-2", "wall-3", "wall-4")


def ends(p, wall):
    w = by_id(p.walls)[wall]
    return locate(w.start, p.grids), locate(w.end, p.grids)


@given(st.floats(-90_000, 90_000), st.floats(-90_000, 90_000), st.floats(-360, 360))
def test_moving_and_turning_keep_lengths_and_volumes(dx, dy, angle):
    p = house()
    q = wall_edits.turn_walls(wall_edits.move_walls(p, ALL, dx, dy), ALL, (dx, dy), angle)
    for wall in ALL:
        assert distance(*ends(q, wall)) == pytest.approx(distance(*ends(p, wall)), abs=1e-6)


def test_a_moved_house_carries_the_same_loads():
    p = house()
    q = wall_edits.move_walls(p, ALL, 5000.0, -3000.0)
    assert derive(q).soil.all == pytest.approx(derive(p).soil.all)
    back = wall_edits.turn_walls(wall_edits.turn_walls(p, ALL, (0, 0), 90.0), ALL, (0, 0), -90.0)
    for wall in ALL:
        for got, want in zip(ends(back, wall), ends(p, wall), strict=True):
            assert got == pytest.approx(want, abs=1e-6)


def test_a_quarter_turned_house_carries_the_same_loads():
    p = house()
    q = wall_edits.turn_walls(p, ALL, (0, 0), 90.0)
    assert derive(q).soil.all == pytest.approx(derive(p).soil.all)


def test_a_copy_brings_its_openings():
    p = edits.add_opening(house(), "wall-1", "window", 3 * FOOT, 4 * FOOT, 4 * FOOT, 3 * FOOT)
    q = wall_edits.move_walls(p, ("wall-1", "wall-2"), 0.0, -60 * FOOT, copy=True)
    assert len(q.walls) == 6
    assert len(q.openings) == 2
    assert q.openings[1].wall == "wall-5"
    assert q.openings[1].id != q.openings[0].id
    assert q.walls[:4] == p.walls


@given(st.floats(-50_000, 50_000), st.floats(-50_000, 50_000), st.floats(100, 50_000))
def test_mirroring_twice_is_nothing(x, y, d):
    p = house()
    a, b = (x, y), (x + d, y + d / 2)
    twice = wall_edits.mirror_walls(wall_edits.mirror_walls(p, ALL, a, b), ALL, a, b)
    for wall in ALL:
        for got, want in zip(ends(twice, wall), ends(p, wall), strict=True):
            assert got == pytest.approx(want, abs=1e-5)
    assert [w.outside for w in twice.walls] == [w.outside for w in p.walls]


def test_a_mirrored_house_still_has_its_outside_outside():
    p = house()
    q = wall_edits.mirror_walls(p, ALL, (0, 0), (0, 1000))
    assert {w.outside for w in q.walls} == {"left"}
    assert derive(q).soil.all == pytest.approx(derive(p).soil.all)


def test_offset_goes_outward():
    p = wall_edits.offset_wall(house(), "wall-1", 4 * FOOT)
    assert ends(p, "wall-5")[0][1] == pytest.approx(-4 * FOOT)
    p = wall_edits.offset_wall(house(), "wall-2", -4 * FOOT)
    assert ends(p, "wall-5")[0][0] == pytest.approx(26 * FOOT)


def test_split_and_join_are_each_others_undoing():
    p = edits.add_opening(house(), "wall-1", "window", 3 * FOOT, 4 * FOOT, 4 * FOOT, 3 * FOOT)
    p = edits.add_opening(p, "wall-1", "door", 20 * FOOT, 3 * FOOT, 7 * FOOT, 0.0)
    split = wall_edits.split_wall(p, "wall-1", 12 * FOOT)
    assert [o.wall for o in split.openings] == ["wall-1", "wall-5"]
    assert split.openings[1].offset == pytest.approx(8 * FOOT)
    assert split.floors[0].walls == ("wall-1", "wall-5", "wall-2", "wall-3", "wall-4")
    model = derive(split)
    assert "floor-1" in model.outlines
    assert model.path.arrived.all == pytest.approx(model.path.applied.all)
    joined = wall_edits.join_walls(split, "wall-1", "wall-5")
    assert joined.openings[1].offset == pytest.approx(20 * FOOT)
    assert ends(joined, "wall-1") == ends(p, "wall-1")
    assert joined.floors[0].walls == p.floors[0].walls


@pytest.mark.parametrize(
    ("edit", "says"),
    [
        (lambda p: wall_edits.split_wall(p, "wall-1", 40 * FOOT), "between its ends"),
        (lambda p: wall_edits.split_wall(p, "wall-1", 4 * FOOT), "a window is there"),
        (lambda p: wall_edits.join_walls(p, "wall-1", "wall-2"), "one line"),
        (lambda p: wall_edits.reach_wall(p, "wall-1", ((0, 900), (900, 900))), "parallel"),
        (lambda p: wall_edits.move_walls(p, ("none",), 1, 1), "No wall"),
        (lambda p: wall_edits.mirror_walls(p, ALL, (0, 0), (0, 0)), "direction"),
        (lambda p: wall_edits.move_walls(p, ("wall-1",), 3 * FOOT, 3 * FOOT, copy=True), "crosses"),
    ],
)
def test_what_cannot_be_says_why(edit, says):
    p = edits.add_opening(house(), "wall-1", "window", 3 * FOOT, 4 * FOOT, 4 * FOOT, 3 * FOOT)
    with pytest.raises(EditError, match=says):
        edit(p)


def test_a_wall_is_extended_and_trimmed_to_another():
    p = edits.new_project()
    foot, head = Hang(level="level-1"), Hang(level="level-1", offset=2400.0)
    p = edits.add_wall(p, (0, 0), (3000, 0), "inside-2x4", foot, head, "centre", role="divides")
    line = ((5000.0, -1000.0), (5000.0, 1000.0))
    longer = wall_edits.reach_wall(p, "wall-1", line)
    assert ends(longer, "wall-1") == ((0.0, 0.0), pytest.approx((5000.0, 0.0)))
    shorter = wall_edits.reach_wall(p, "wall-1", ((2000.0, -1000.0), (2000.0, 1000.0)))
    assert ends(shorter, "wall-1")[1] == pytest.approx((2000.0, 0.0))
