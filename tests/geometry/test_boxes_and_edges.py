"""Rectangles out of outlines, and outlines that touch, against shapely."""

import itertools
import math

import pytest
import shapely
from hypothesis import assume, example, given
from hypothesis import strategies as st

from balken.geometry.boxes import area_and_middle, as_boxes, less
from balken.geometry.edges import joined_outlines, shared_length
from balken.geometry.plane import turn

whole = st.integers(0, 40).map(lambda k: k * 250.0)
angles = st.sampled_from((0.0, 12.5, 30.0, 45.0, 89.0))


@st.composite
def rectangles(draw):
    x0, x1 = sorted((draw(whole), draw(whole)))
    y0, y1 = sorted((draw(whole), draw(whole)))
    assume(x1 > x0 and y1 > y0)
    return ((x0, y0), (x1, y0), (x1, y1), (x0, y1))


@st.composite
def ells(draw):
    """An L: a rectangle with a corner cut out, either way round."""
    x, y = draw(st.integers(2, 20)) * 500.0, draw(st.integers(2, 20)) * 500.0
    a, b = draw(st.floats(0.1, 0.9)) * x, draw(st.floats(0.1, 0.9)) * y
    ring = ((0.0, 0.0), (x, 0.0), (x, b), (a, b), (a, y), (0.0, y))
    return ring if draw(st.booleans()) else ring[::-1]


def turned(ring, angle):
    return tuple(turn(p, angle) for p in ring)


@given(ells(), angles, st.sampled_from((0.0, 300.0)))
def test_room_round_a_square_cornered_outline_is_that_of_a_mitred_buffer(ring, angle, room):
    made = as_boxes(turned(ring, angle), room)
    assert made is not None
    size, middle = area_and_middle(list(made[1]), made[0])
    shape = shapely.Polygon(turned(ring, angle)).buffer(room, join_style="mitre")
    assert size == pytest.approx(shape.area, rel=1e-6)
    assert middle == pytest.approx(shape.centroid.coords[0], abs=0.1)


@given(rectangles(), st.lists(rectangles(), max_size=6), angles)
def test_what_others_leave_of_a_rectangle(ring, others, angle):
    base = as_boxes(turned(ring, angle))
    made = [as_boxes(turned(r, angle)) for r in others]
    assert base is not None
    left = less(base[1], tuple(box for other in made if other is not None for box in other[1]))
    size, middle = area_and_middle(left, base[0])
    shape = shapely.Polygon(turned(ring, angle)).difference(
        shapely.union_all([shapely.Polygon(turned(r, angle)) for r in others])
    )
    assert size == pytest.approx(shape.area, rel=1e-6, abs=1.0)
    if shape.area > 1.0:
        assert middle == pytest.approx(shape.centroid.coords[0], abs=0.1)


def test_outlines_without_square_corners_are_not_boxes():
    assert as_boxes(((0.0, 0.0), (1000.0, 0.0), (500.0, 800.0))) is None
    assert as_boxes(((0.0, 0.0), (1000.0, 0.0), (1100.0, 500.0), (0.0, 500.0))) is None


def test_length_over_which_outlines_run_together():
    a = (((0.0, 0.0), (1000.0, 0.0), (1000.0, 300.0), (0.0, 300.0)),)
    beside = (((400.0, 300.4), (1700.0, 300.4), (1700.0, 600.0), (400.0, 600.0)),)
    corner = (((1000.0, 300.0), (1500.0, 300.0), (1500.0, 800.0), (1000.0, 800.0)),)
    away = (((0.0, 302.0), (1000.0, 302.0), (1000.0, 600.0), (0.0, 600.0)),)
    inside = (((-50.0, -50.0), (2000.0, -50.0), (2000.0, 900.0), (-50.0, 900.0)), a[0][::-1])
    assert shared_length(a, beside) == pytest.approx(600.0)
    assert shared_length(a, corner) == 0.0
    assert shared_length(a, away) == 0.0
    assert shared_length(a, inside) == pytest.approx(2600.0)


@given(rectangles(), rectangles(), angles)
def test_shared_length_is_the_same_both_ways_round(a, b, angle):
    p, q = (turned(a, angle),), (turned(b, angle),)
    assert shared_length(p, q) == pytest.approx(shared_length(q, p), abs=1e-3)


@example([((0.0, 0.0), (500.0, 0.0), (500.0, 500.0), (0.0, 500.0))] * 2, 0.0)
@given(st.lists(rectangles(), min_size=1, max_size=8), angles)
def test_joined_outlines_are_the_edge_of_the_union(rings, angle):
    union = shapely.union_all([shapely.Polygon(r) for r in rings])  # before turning, where touching sides are exact
    lines = joined_outlines([turned(r, angle) for r in rings])
    assert sum(_length(line, closed) for line, closed in lines) == pytest.approx(union.length, abs=2.0 * len(rings))
    assert all(closed for _, closed in lines)
    assert sum(_area(line) for line, _ in lines) == pytest.approx(union.area, rel=1e-6)


@given(st.lists(rectangles(), min_size=1, max_size=5), st.lists(st.floats(-0.02, 0.02), min_size=10, max_size=10))
def test_joints_open_by_rounding_do_not_show(rings, off):
    """Two edges that are one lie at most 0.04 mm apart, less than is looked for outside an edge (0.05 mm)."""
    moved = [tuple((x + off[2 * i % 10], y + off[(2 * i + 1) % 10]) for x, y in ring) for i, ring in enumerate(rings)]
    union = shapely.union_all([shapely.Polygon(r) for r in rings])
    length = sum(_length(line, closed) for line, closed in joined_outlines(moved))
    assert length == pytest.approx(union.length, abs=2.0 * len(rings))


def _length(line, closed):
    ends = (*line, line[0]) if closed else line
    return sum(math.dist(p, q) for p, q in itertools.pairwise(ends))


def _area(line):
    return 0.5 * sum(line[i - 1][0] * line[i][1] - line[i][0] * line[i - 1][1] for i in range(len(line)))
