"""Walls as figures: move, copy, turn, mirror, offset, split, join, reach."""

import msgspec
import pytest
from hypothesis import assume, given
from hypothesis import strategies as st
from tests.houses import house

from balken.derive import derive
from balken.geometry.plane import distance
from balken.geometry.prism import volume
from balken.model import edits, foundation_edits, split_walls, wall_edits
from balken.model.errors import EditError
from balken.model.lookup import by_id, locate
from balken.model.records import Foundation, Hang, Recess, Slope, Step
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
        assert distance(*ends(q, wall)) == pytest.approx(distance(*ends(p, wall)), abs=1e-5)


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
    split = split_walls.split_wall(p, "wall-1", 12 * FOOT)
    assert [o.wall for o in split.openings] == ["wall-1", "wall-5"]
    assert split.openings[1].offset == pytest.approx(8 * FOOT)
    assert split.floors[0].walls == ("wall-1", "wall-5", "wall-2", "wall-3", "wall-4")
    model = derive(split)
    assert "floor-1" in model.outlines
    assert model.path.arrived.all == pytest.approx(model.path.applied.all)
    joined = split_walls.join_walls(split, "wall-1", "wall-5")
    assert joined.openings[1].offset == pytest.approx(20 * FOOT)
    assert ends(joined, "wall-1") == ends(p, "wall-1")
    assert joined.floors[0].walls == p.floors[0].walls


def concrete(p):
    """Return the volume of the foundation walls, mm3."""
    return sum(volume(v.solid) for v in derive(p).pieces.values() if v.role == "foundation wall")


@given(
    st.lists(st.tuples(st.floats(800, 9000), st.sampled_from([200.0, 300.0, 600.0])), min_size=1, max_size=3),
    st.floats(1000, 8000),  # clear of the corners
)
def test_splitting_a_wall_splits_its_steps_and_joining_brings_them_back(rows, along):
    p = house()
    try:
        for at, drop in rows:
            p = foundation_edits.add_step(p, "foundation-1", "wall-1", at, drop)
        split = split_walls.split_wall(p, "wall-1", along)
    except EditError:
        assume(False)
    own = [s for s in p.foundations[0].steps if s.wall == "wall-1"]
    assume(all(abs(s.at - along) > 300.0 for s in own))

    def drop(project, wall, at):
        return sum(s.drop for s in project.foundations[0].steps if s.wall == wall and s.at <= at)

    for at in (100.0, along - 50.0):
        assert drop(split, "wall-1", at) == pytest.approx(drop(p, "wall-1", at))
    for at in (along + 50.0, 9_500.0):
        if at > along:
            assert drop(split, "wall-5", at - along) == pytest.approx(drop(p, "wall-1", at))
    assert concrete(split) == pytest.approx(concrete(p), rel=1e-6)
    joined = split_walls.join_walls(split, "wall-1", "wall-5")
    back = sorted((s.at, s.drop) for s in joined.foundations[0].steps if s.wall == "wall-1")
    assert back == [pytest.approx(row) for row in sorted((s.at, s.drop) for s in own)]


@given(st.floats(3000, 7000), st.sampled_from(ALL))
def test_a_roof_stays_over_walls_that_are_split(along, wall):
    p = house()
    whole = derive(p)
    split = derive(split_walls.split_wall(p, wall, min(along, 3000.0) if wall in ("wall-2", "wall-4") else along))
    assert {f.code for f in split.findings} <= {f.code for f in whole.findings} | {"framing"}
    assert len(split.roofs) == 1
    assert split.soil.all == pytest.approx(whole.soil.all, rel=1e-2)  # footings of shorter runs may come out narrower
    assert split.path.arrived.all == pytest.approx(split.path.applied.all)
    roof = [p.solid for p in whole.pieces.values() if p.owner == "roof-1"]
    assert [p.solid for p in split.pieces.values() if p.owner == "roof-1"] == roof
    rafters = {k for k, piece in whole.pieces.items() if piece.role == "rafter"}
    assert {k for k, piece in split.pieces.items() if piece.role == "rafter"} == rafters


def test_only_the_model_of_a_copy_came_from_the_file():
    p = edits.add_opening(house(), "wall-1", "window", 3 * FOOT, 4 * FOOT, 4 * FOOT, 3 * FOOT)
    p = edits.change(edits.change(p, "wall-1", source="abc"), "opening-1", source="def")
    for q in (
        wall_edits.move_walls(p, ("wall-1",), 0.0, -60 * FOOT, copy=True),
        split_walls.split_wall(p, "wall-1", 15 * FOOT),
        wall_edits.offset_wall(p, "wall-1", 4 * FOOT),
    ):
        assert [w.id for w in q.walls if w.source] == ["wall-1"]
        assert [o.id for o in q.openings if o.source] == ["opening-1"]


def test_a_wall_is_not_split_through_a_pocket():
    p = edits.add(house(), Recess(id="r", foundation="foundation-1", wall="wall-1", offset=3000.0))
    with pytest.raises(EditError, match="pocket there"):
        split_walls.split_wall(p, "wall-1", p.recesses[0].offset + 10.0)


@pytest.mark.parametrize(
    ("edit", "says"),
    [
        (lambda p: split_walls.split_wall(p, "wall-1", 40 * FOOT), "between its ends"),
        (lambda p: split_walls.split_wall(p, "wall-1", 4 * FOOT), "a window is there"),
        (lambda p: split_walls.join_walls(p, "wall-1", "wall-2"), "one line"),
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


def lone(end=(3000.0, 0.0), start=(0.0, 0.0)):
    p = edits.new_project()
    foot, head = Hang(level="level-1"), Hang(level="level-1", offset=2400.0)
    return edits.add_wall(p, start, end, "inside-2x4", foot, head, "centre", role="divides")


def test_of_a_wall_that_crosses_either_part_is_kept():
    line = ((2000.0, -1000.0), (2000.0, 1000.0))
    assert ends(wall_edits.reach_wall(lone(), "wall-1", line), "wall-1")[1] == pytest.approx((2000.0, 0.0))
    kept = wall_edits.reach_wall(lone(), "wall-1", line, shorter=True)
    assert ends(kept, "wall-1") == (pytest.approx((2000.0, 0.0)), (3000.0, 0.0))
    with pytest.raises(EditError, match="does not cross"):
        wall_edits.reach_wall(lone(), "wall-1", ((5000.0, 0.0), (5000.0, 900.0)), shorter=True)


def test_a_wall_reaches_the_crossing_of_an_arc_nearest_to_it():
    """By hand: 3 4 5 and 5 12 13 triangles."""
    arc = wall_edits.Circle((0.0, 0.0), 5000.0)
    grown = wall_edits.reach_wall(lone((3500.0, 3000.0), (1000.0, 3000.0)), "wall-1", arc)
    assert ends(grown, "wall-1") == ((1000.0, 3000.0), pytest.approx((4000.0, 3000.0)))
    other = wall_edits.reach_wall(lone((3500.0, 3000.0), (-3900.0, 3000.0)), "wall-1", arc)
    assert ends(other, "wall-1")[0] == pytest.approx((-4000.0, 3000.0))
    cut = wall_edits.reach_wall(
        lone((15_000.0, 5000.0), (10_000.0, 5000.0)), "wall-1", wall_edits.Circle((0, 0), 13_000.0)
    )
    assert ends(cut, "wall-1") == (pytest.approx((12_000.0, 5000.0)), (15_000.0, 5000.0))
    with pytest.raises(EditError, match="does not meet the arc"):
        wall_edits.reach_wall(lone((900.0, 6000.0), (0.0, 6000.0)), "wall-1", arc)


@given(st.floats(-3000.0, 2900.0))
def test_what_lies_along_a_wall_stays_where_it_is_when_its_start_is_moved(x):
    p = lone((9000.0, 0.0))
    p = edits.add_opening(p, "wall-1", "door", 3000.0, 900.0, 2000.0, 0.0)
    foot, head = Hang(level="level-1", offset=-3000.0), Hang(level="level-1")
    p = edits.add(p, Foundation(id="f1", name="F", walls=("wall-1",), foot=foot, head=head))
    steps = (Step(wall="wall-1", at=1000.0, drop=200.0), Step(wall="wall-1", at=6000.0, drop=400.0))
    slope = Slope(wall="wall-1", start=2500.0, end=5500.0, deeper_start=0.0, deeper_end=300.0)
    p = msgspec.structs.replace(
        p, foundations=(msgspec.structs.replace(p.foundations[0], steps=steps, slopes=(slope,)),)
    )
    assume(abs(x) > 1.0 and abs(x - 1000.0) > 1.0)
    q = wall_edits.reach_wall(p, "wall-1", ((x, -100.0), (x, 100.0)))
    (door,), (made,) = q.openings, q.foundations
    assert x + door.offset == pytest.approx(3000.0)
    for at in (max(x, 0.0) + 200.0, 4000.0, 8000.0):
        was = sum(s.drop for s in steps if s.at <= at)
        assert sum(s.drop for s in made.steps if x + s.at <= at) == pytest.approx(was)
    (left,) = made.slopes
    for at in (3000.0, 4500.0):
        part = (x + left.end - at) / (left.end - left.start)
        assert left.deeper_end - part * (left.deeper_end - left.deeper_start) == pytest.approx((at - 2500.0) / 10.0)
