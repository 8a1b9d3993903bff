"""Snaps without a window: what wins, and its name."""

import pytest

from balken.derive import derive
from balken.model import edits
from balken.panel.snapping import snap
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
