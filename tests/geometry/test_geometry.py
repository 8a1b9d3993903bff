"""Prisms, cuts and views, against shapely and plain arithmetic."""

import math

import numpy as np
import pytest
import shapely
from hypothesis import assume, given
from hypothesis import strategies as st

from balken.geometry.plane import anticlockwise, area, chords, meet, segments_cross
from balken.geometry.prism import View, box, corners, cut_by, mesh, silhouette, upright, volume

size = st.floats(10.0, 5000.0)
L_SHAPE = ((0.0, 0.0), (3000.0, 0.0), (3000.0, 1000.0), (1000.0, 1000.0), (1000.0, 2000.0), (0.0, 2000.0))
HOLE = ((200.0, 200.0), (200.0, 600.0), (700.0, 600.0), (700.0, 200.0))


@given(size, size, size)
def test_volume_of_a_box(a, b, c):
    bar = box((0.0, 0.0, 0.0), (a, 0.0, 0.0), (0.0, 1.0, 0.0), b, c)
    assert volume(bar) == pytest.approx(a * b * c)


def test_a_box_stands_on_its_axis():
    bar = box((0.0, 0.0, 100.0), (1000.0, 0.0, 100.0), (0.0, 1.0, 0.0), 38.0, 235.0)
    points = np.array(corners(bar))
    assert points.min(0).tolist() == pytest.approx([0.0, -19.0, 100.0])
    assert points.max(0).tolist() == pytest.approx([1000.0, 19.0, 335.0])


@given(st.floats(1.0, 499.0), st.floats(0.0, 360.0))
def test_level_cut_of_an_upright_prism_is_its_outline(height, angle):
    solid = upright(L_SHAPE, 0.0, 500.0, (HOLE,))
    right = (math.cos(math.radians(angle)), math.sin(math.radians(angle)), 0.0)
    up = (-right[1], right[0], 0.0)
    found = cut_by(solid, View((0.0, 0.0, height), right, up))
    assert len(found) == 1
    cut = shapely.Polygon(found[0][0], found[0][1:])
    assert cut.area == pytest.approx(shapely.Polygon(L_SHAPE, [HOLE]).area)


@given(st.floats(-500.0, 3500.0), st.floats(0.0, 179.0))
def test_upright_cuts_agree_with_shapely(offset, angle):
    """The cut of a prism with a hole is the chord of its outline times its height."""
    solid = upright(L_SHAPE, 0.0, 500.0, (HOLE,))
    d = (math.cos(math.radians(angle)), math.sin(math.radians(angle)))
    start = (offset, 300.7)
    view = View((*start, 0.0), (*d, 0.0), (0.0, 0.0, 1.0))
    cut = sum(abs(area(rings[0])) for rings in cut_by(solid, view))
    line = shapely.LineString(
        [(start[0] - 9e3 * d[0], start[1] - 9e3 * d[1]), (start[0] + 9e3 * d[0], start[1] + 9e3 * d[1])]
    )
    want = shapely.Polygon(L_SHAPE, [HOLE]).intersection(line).length * 500.0
    assert cut == pytest.approx(want, rel=1e-6, abs=1e-3)


def test_oblique_cut_of_a_bar_is_stretched():
    bar = box((0.0, 0.0, 0.0), (1000.0, 0.0, 0.0), (0.0, 1.0, 0.0), 100.0, 100.0)
    d = (math.cos(math.radians(60)), math.sin(math.radians(60)), 0.0)
    found = cut_by(bar, View((500.0, 0.0, 0.0), d, (0.0, 0.0, 1.0)))
    assert abs(area(found[0][0])) == pytest.approx(100.0 * 100.0 / math.sin(math.radians(60)))


@given(st.floats(0.0, 360.0))
def test_mesh_is_closed_and_has_the_volume(angle):
    right = (math.cos(math.radians(angle)), math.sin(math.radians(angle)), 0.0)
    solid = upright(L_SHAPE, 10.0, 500.0, (HOLE,))
    triangles, edges = mesh(solid)
    signed = np.einsum("ij,ij->i", triangles[:, 0], np.cross(triangles[:, 1], triangles[:, 2])).sum() / 6.0
    assert signed == pytest.approx(volume(solid))
    assert len(edges) == 3 * (len(L_SHAPE) + len(HOLE))
    rings, low, high = silhouette(solid, View((0.0, 0.0, 0.0), right, (0.0, 0.0, 1.0)))
    assert high > low
    assert abs(area(rings[0])) > 0


@given(st.floats(-900, 900), st.floats(-900, 900), st.floats(1, 179), st.floats(1, 179))
def test_lines_meet_on_both(x, y, a, b):
    assume(abs(a - b) > 1)
    d = (math.cos(math.radians(a)), math.sin(math.radians(a)))
    e = (math.cos(math.radians(b)), math.sin(math.radians(b)))
    point = meet((x - 50 * d[0], y - 50 * d[1]), d, (x + 80 * e[0], y + 80 * e[1]), e)
    assert point == pytest.approx((x, y), abs=1e-6)


def test_rings_and_crossings():
    assert area(anticlockwise(tuple(reversed(L_SHAPE)))) == pytest.approx(4e6)
    assert chords((L_SHAPE,), (0.0, 1500.0), (1.0, 0.0)) == [(0.0, 1000.0)]
    assert segments_cross((0, 0), (10, 10), (0, 10), (10, 0), 0.1)
    assert not segments_cross((0, 0), (10, 0), (10, 0), (10, 10), 0.1)
