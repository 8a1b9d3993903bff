"""Snaps without a window: what wins, and its name."""

import pytest
from tests.houses import house

from balken.derive import derive
from balken.geometry.plane import add, left, turn
from balken.model import edits, grid_edits, wall_edits
from balken.panel.snapping import heading_at, snap
from balken.units.system import FOOT, INCH

NEAR = 200.0


def test_ends_and_crossings_win_over_lines(demo_model):
    found = snap(demo_model, (40 * FOOT + 50, 60), NEAR)
    assert found.point == pytest.approx((40 * FOOT, 0.0))
    assert found.name in ("wall end", "axes 4 and A")
    crossing = snap(demo_model, (13 * FOOT + 80, 14 * FOOT - 30), NEAR)
    assert crossing.point == pytest.approx((13 * FOOT, 14 * FOOT))


def test_lines_are_met_at_right_angles(demo_model):
    found = snap(demo_model, (13 * FOOT + 60, 5 * FOOT), NEAR)
    assert found.name == "on axis 2"
    assert found.point == pytest.approx((13 * FOOT, 5 * FOOT))


def test_square_from_the_last_corner_to_a_line(demo_model):
    start = (5 * FOOT, 6 * FOOT)
    found = snap(demo_model, (13 * FOOT + 90, 6 * FOOT + 70), NEAR, start)
    assert found.name.startswith("square, on axis 2")
    assert found.point == pytest.approx((13 * FOOT, 6 * FOOT))


def test_square_lengths_come_in_whole_inches(demo_model):
    start = (3 * FOOT + 1.234, 6 * FOOT)
    found = snap(demo_model, (9 * FOOT + 3.3, 6 * FOOT + 20), NEAR, start)
    assert found.name == "square"
    assert (found.point[0] - start[0]) / INCH == pytest.approx(round((found.point[0] - start[0]) / INCH))


def test_silenced_snaps_take_the_pointer_as_it_is(demo_model):
    assert snap(demo_model, (12.3, 45.6), NEAR, None, silent=True).point == (12.3, 45.6)
    assert snap(demo_model, (12.3, 45.6), NEAR, None, silent=True).name == ""


def test_an_empty_project_has_nothing_to_snap_to():
    assert snap(derive(edits.new_project()), (1.0, 2.0), NEAR).name == ""


def turned():
    """Return a project with a grid turned 30 degrees, 20 by 16 ft."""
    project = grid_edits.add_grid(edits.new_project(), (20 * FOOT,), (16 * FOOT,), origin=(10 * FOOT, 5 * FOOT))
    return grid_edits.change(project, project.grids[0].id, angle=30.0)


def test_lines_are_squared_to_a_turned_grid_and_still_to_the_plan():
    model = derive(turned())
    start = (10 * FOOT, -20 * FOOT)
    for angle, word in ((30.0, "square to the grid"), (120.0, "square to the grid"), (0.0, "square"), (90.0, "square")):
        d = turn((1.0, 0.0), angle)
        meant = add(start, d, 100 * INCH)
        found = snap(model, add(meant, left(d), 1.5 * INCH), NEAR, start)
        assert found.name == word
        assert found.point == pytest.approx(meant)


def test_lines_are_squared_to_the_wall_they_go_on_from():
    walls = ("wall-1", "wall-2", "wall-3", "wall-4")
    model = derive(wall_edits.turn_walls(house(), walls, (0.0, 0.0), 17.0))
    end, away = model.lines["wall-1"].band.end, turn((-100 * INCH, 30.0), 107.0)
    found = snap(model, add(end, away), NEAR, end)
    assert found.name == "square to the wall"
    assert found.point == pytest.approx(add(end, turn((-100 * INCH, 0.0), 107.0)))
    free = add(end, (0.0, -60 * FOOT))
    assert snap(model, add(free, away), NEAR, free).name == ""


def test_a_rectangle_takes_the_angle_of_the_nearest_grid():
    project = turned()
    assert heading_at(project, (0.0, 0.0)) == 30.0
    assert heading_at(edits.new_project(), (0.0, 0.0)) == 0.0
    project = grid_edits.add_grid(project, (20 * FOOT,), (16 * FOOT,), origin=(200 * FOOT, 0.0))
    assert heading_at(project, (190 * FOOT, 5 * FOOT)) == 0.0
    assert heading_at(project, (40 * FOOT, 5 * FOOT)) == 30.0
