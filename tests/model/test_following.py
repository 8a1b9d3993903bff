"""What lies on a wall or beam goes along when that is moved, and nothing else does."""

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from tests.houses import house

from balken.derive import derive
from balken.model import edits
from balken.model.beam_edits import add_beam, add_floor_opening, place_beam
from balken.model.beam_rows import all_beams, fill_bay
from balken.model.floor_edits import draw_floor
from balken.model.lookup import by_id, locate
from balken.model.records import Hang
from balken.model.wall_edits import drag_walls, move_walls
from balken.units.system import FOOT

LEVEL = Hang(level="level-1")


def bay(p):
    corners = ((0.0, 0.0), (30 * FOOT, 0.0), (30 * FOOT, 10 * FOOT), (0.0, 10 * FOOT))
    return fill_bay(p, corners, LEVEL, spacing=4 * FOOT)


def test_a_bay_between_walls_follows_one_that_is_dragged():
    p = bay(house(long=30 * FOOT, wide=20 * FOOT, middle=True))
    before = [locate(b.start, p.grids) for b in all_beams(p)]
    moved = drag_walls(p, ("wall-5",), 0.0, 2 * FOOT)
    ys = sorted({round(locate(end, moved.grids)[1]) for b in all_beams(moved) for end in (b.start, b.end)})
    assert ys[-1] == pytest.approx(12 * FOOT, abs=1.0)
    assert ys[0] == pytest.approx(0.0, abs=1.0)
    assert len(all_beams(moved)) == len(before)


def test_beams_openings_and_drawn_floors_on_it_follow_the_rest_stays():
    p = house(long=30 * FOOT, wide=20 * FOOT, middle=True)
    p = edits.remove(p, "floor-1")
    p = draw_floor(p, "level-1", [(0.0, 0.0), (30 * FOOT, 0.0), (30 * FOOT, 10 * FOOT), (0.0, 10 * FOOT)])
    p = add_beam(p, (10 * FOOT, 0.0), (10 * FOOT, 10 * FOOT), LEVEL, "")
    p = add_beam(p, (20 * FOOT, 2 * FOOT), (20 * FOOT, 7 * FOOT), LEVEL, "")
    p = add_floor_opening(p, "floor-1", (4 * FOOT, 3 * FOOT), (7 * FOOT, 6 * FOOT))
    moved = drag_walls(p, ("wall-5",), 0.0, FOOT)
    beams = by_id(moved.beams)
    assert locate(beams["beam-1"].end, moved.grids)[1] == pytest.approx(11 * FOOT)
    assert locate(beams["beam-1"].start, moved.grids)[1] == pytest.approx(0.0)
    assert beams["beam-2"] == by_id(p.beams)["beam-2"]
    assert moved.floor_openings == p.floor_openings
    assert [round(locate(c, moved.grids)[1] / FOOT, 3) for c in moved.floors[0].corners] == [0.0, 0.0, 11.0, 11.0]
    derive(moved)


def test_what_lies_on_another_storey_stays():
    p = house(long=30 * FOOT, wide=20 * FOOT)
    p = edits.add_level(p, "level-2", 20 * FOOT, "Far up", "other")
    p = add_beam(p, (10 * FOOT, 0.0), (10 * FOOT, 10 * FOOT), Hang(level=p.levels[-1].id), "")
    assert drag_walls(p, ("wall-1",), 0.0, -FOOT).beams == p.beams


def test_a_corner_on_two_walls_that_move_goes_along_with_both():
    p = bay(house(long=30 * FOOT, wide=20 * FOOT, middle=True))
    moved = move_walls(p, tuple(w.id for w in p.walls), 3 * FOOT, 5 * FOOT)
    row, was = moved.beam_rows[0], p.beam_rows[0]
    for side in "abcd":
        (x0, y0), (x1, y1) = locate(getattr(was, side), p.grids), locate(getattr(row, side), moved.grids)
        assert (x1 - x0, y1 - y0) == (pytest.approx(3 * FOOT), pytest.approx(5 * FOOT))


def test_a_beam_that_is_moved_takes_along_what_ends_on_it():
    p = house(long=30 * FOOT, wide=20 * FOOT)
    p = add_beam(p, (0.0, 10 * FOOT), (30 * FOOT, 10 * FOOT), LEVEL, "")
    p = add_beam(p, (10 * FOOT, 0.0), (10 * FOOT, 10 * FOOT), LEVEL, "")
    moved = place_beam(p, "beam-1", (0.0, 12 * FOOT), (30 * FOOT, 12 * FOOT))
    assert locate(by_id(moved.beams)["beam-2"].end, moved.grids) == (pytest.approx(10 * FOOT), pytest.approx(12 * FOOT))


@given(dy=st.floats(-5.0, 5.0))
@settings(max_examples=30, deadline=None)
def test_there_and_back_again(dy):
    p = bay(house(long=30 * FOOT, wide=20 * FOOT, middle=True))
    there = drag_walls(p, ("wall-5",), 0.0, dy * FOOT)
    back = drag_walls(there, ("wall-5",), 0.0, -dy * FOOT)
    for b, a in zip(all_beams(back), all_beams(p), strict=True):
        for end in ("start", "end"):
            assert locate(getattr(b, end), p.grids) == pytest.approx(locate(getattr(a, end), p.grids), abs=0.01)
