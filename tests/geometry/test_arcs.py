"""Arcs and circles as polygons, against the formulas of the circle."""

import math

import pytest
from hypothesis import given
from hypothesis import strategies as st

from balken.geometry.arcs import FLAT, arc, circle
from balken.geometry.plane import area


@given(
    st.floats(500.0, 30_000.0),
    st.floats(0.02, 1.5),
    st.booleans(),
    st.floats(0.0, 2 * math.pi),
)
def test_an_arc_lies_on_its_circle_and_encloses_its_segment(chord, part, inward, turn):
    rise = chord * part * (-1.0 if inward else 1.0)
    end = chord * math.cos(turn), chord * math.sin(turn)
    points = arc((0.0, 0.0), end, rise)
    assert points[0] == (0.0, 0.0)
    assert points[-1] == end
    radius = chord**2 / (8.0 * abs(rise)) + abs(rise) / 2.0
    # Its middle stands off the chord by the rise, to the right when that is positive.
    off = [(x * end[1] - y * end[0]) / chord for x, y in points]
    assert max(abs(o) for o in off) <= abs(rise) + 1e-6
    assert max(abs(o) for o in off) == pytest.approx(abs(rise), abs=FLAT)
    assert all(o * rise >= -1e-3 for o in off)
    angle = 4.0 * math.atan(2.0 * abs(rise) / chord)
    segment = radius**2 / 2.0 * (angle - math.sin(angle))
    assert abs(area(points)) == pytest.approx(segment, abs=FLAT * radius * angle + 1.0)


@given(st.floats(20.0, 20_000.0))
def test_a_circle_has_nearly_its_area(radius):
    ring = circle((100.0, -50.0), radius)
    assert math.pi * radius**2 - 2 * math.pi * radius * FLAT <= area(ring) <= math.pi * radius**2
    assert all(math.dist(p, (100.0, -50.0)) == pytest.approx(radius) for p in ring)
