"""Walls tied to axes from a distance: they follow, stay together and stay square."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from balken.derive import derive
from balken.findings.fixes import FIXES
from balken.model import edits, grid_edits, ties, wall_edits
from balken.model.errors import EditError
from balken.model.lookup import by_id, grid_point, locate
from balken.model.records import AxisPoint, FreePoint, Hang
from balken.units.system import FOOT

BAY = 12 * FOOT


def gridded(angle=0.0):
    """A grid of three by three axes, one wall on axis 1-A to 2-A, a wing of three walls off it."""
    p = edits.new_project("Ties")
    p = edits.add_level(p, "level-1", 8 * FOOT, "Plate", "plate")
    p = edits.change(grid_edits.add_grid(p, (BAY, BAY), (BAY, BAY)), "grid-1", angle=angle)
    for a, b in (((0, 0), (1, 0)), ((1, 0), (1, -0.5)), ((1, -0.5), (0, -0.5)), ((0, -0.5), (0, 0))):
        start, end = (at(p, x * BAY, y * BAY) for (x, y) in (a, b))
        p = edits.add_wall(p, start, end, "framed-2x6", Hang(level="level-1"), Hang(level="level-2"))
    return p


def at(p, x, y):
    return grid_point(p.grids[0], x, y)


def ends(p, wall_id):
    wall = by_id(p.walls)[wall_id]
    return locate(wall.start, p.grids), locate(wall.end, p.grids)


@given(st.sampled_from((0.0, 17.0, 90.0)), st.floats(5.0, 30.0))
def test_a_tied_wing_moves_with_its_axis_and_keeps_its_corners(angle, feet):
    p = ties.tie_to_axes(gridded(angle), ("wall-3",))
    moved = grid_edits.set_axis_gap(p, "grid-1", p.grids[0].x_axes[1].id, feet * FOOT)
    for first, second in (("wall-1", "wall-2"), ("wall-2", "wall-3"), ("wall-3", "wall-4"), ("wall-4", "wall-1")):
        assert ends(moved, first)[1] == pytest.approx(ends(moved, second)[0], abs=1e-3)
    assert ends(moved, "wall-2")[1] == pytest.approx(at(moved, feet * FOOT, -0.5 * BAY), abs=1e-3)
    assert not [f for f in derive(moved).findings if f.code == "square"]


def test_tying_changes_no_place_and_letting_go_gives_it_back():
    p = gridded()
    tied = ties.tie_to_axes(p, ("wall-3",))
    for wall in p.walls:
        for before, after in zip(ends(p, wall.id), ends(tied, wall.id), strict=True):
            assert after == pytest.approx(before, abs=1e-5)
    corner = by_id(tied.walls)["wall-2"].end
    assert isinstance(corner, AxisPoint)
    assert corner == by_id(tied.walls)["wall-3"].start
    assert ties.described(tied, corner) == ("2/A", 0.0, pytest.approx(-0.5 * BAY))
    free = ties.let_go_of_axes(tied, ("wall-3",))
    assert isinstance(by_id(free.walls)["wall-2"].end, FreePoint)
    assert isinstance(by_id(free.walls)["wall-2"].start, AxisPoint)  # wall 3 does not reach there
    with pytest.raises(EditError, match="tied already"):
        ties.tie_to_axes(tied, ("wall-3",))
    with pytest.raises(EditError, match="no end"):
        ties.let_go_of_axes(free, ("wall-3",))


def test_a_new_wall_from_a_tied_corner_and_a_dragged_wing_stay_tied():
    p = ties.tie_to_axes(gridded(), ("wall-3",))
    corner = ends(p, "wall-3")[0]
    p = edits.add_wall(
        p, corner, (corner[0] + BAY, corner[1]), "framed-2x6", Hang(level="level-1"), Hang(level="level-2")
    )
    assert p.walls[-1].start == by_id(p.walls)["wall-3"].start
    dragged = wall_edits.drag_walls(p, ("wall-3",), 0.0, -FOOT)
    place = by_id(dragged.walls)["wall-3"].start
    assert isinstance(place, AxisPoint)
    assert place.dy == pytest.approx(-0.5 * BAY - FOOT)
    assert by_id(dragged.walls)["wall-2"].end == place
    home = wall_edits.drag_walls(dragged, ("wall-3",), 0.0, FOOT)
    assert by_id(home.walls)["wall-3"].start.dy == pytest.approx(-0.5 * BAY)
    with pytest.raises(EditError, match="no length left"):
        wall_edits.drag_walls(p, ("wall-3",), 0.0, 1.5 * BAY)  # wall 2 would turn round


def test_without_straight_axes_there_is_nothing_to_tie_to():
    p = edits.new_project("No grid")
    p = edits.add_level(p, "level-1", 8 * FOOT, "Plate", "plate")
    p = edits.add_wall(p, (0.0, 0.0), (3000.0, 0.0), "framed-2x6", Hang(level="level-1"), Hang(level="level-2"))
    with pytest.raises(EditError, match="no straight axes"):
        ties.tie_to_axes(p, ("wall-1",))
    p = grid_edits.add_radial_grid(p, (30.0, 30.0), (2000.0, 2000.0))
    with pytest.raises(EditError, match="no straight axes"):
        ties.tie_to_axes(p, ("wall-1",))


def test_a_wall_left_out_of_square_is_found_and_set_square():
    p = gridded()
    moved = grid_edits.set_axis_gap(p, "grid-1", p.grids[0].x_axes[1].id, BAY + 40.0)
    found = [f for f in derive(moved).findings if f.code == "square"]
    assert [f.things for f in found] == [("wall-2",)]
    mended = FIXES[found[0].fix.command](moved, *found[0].fix.args)
    # The end on the axes stays; the free corner comes in line, and the next wall with it.
    assert ends(mended, "wall-2")[0] == pytest.approx((BAY + 40.0, 0.0))
    assert ends(mended, "wall-2")[1] == pytest.approx((BAY + 40.0, -0.5 * BAY))
    assert ends(mended, "wall-3")[0] == pytest.approx(ends(mended, "wall-2")[1])
    assert not [f for f in derive(mended).findings if f.code == "square"]
    skew = wall_edits.turn_walls(p, ("wall-1", "wall-2", "wall-3", "wall-4"), (0.0, 0.0), 30.0)
    assert not [f for f in derive(skew).findings if f.code == "square"]
