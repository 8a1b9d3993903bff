"""Rafter lengths against the tables stamped on framing squares (common practice; exact by Pythagoras)."""

import math

import pytest
from hypothesis import given
from hypothesis import strategies as st

from balken.framing.rafters import RafterShape, common_length, deepest_seat, hip_length, jack_difference
from balken.geometry.plane import area
from balken.units.system import FOOT, INCH

SQUARE = [  # rise in 12; common, hip: in per ft of run; jacks differ by: 16 in, 24 in spacing
    (3, 12.37, 17.23, 16.49, 24.74),
    (4, 12.65, 17.44, 16.87, 25.30),
    (6, 13.42, 18.00, 17.89, 26.83),
    (8, 14.42, 18.76, 19.23, 28.84),
    (12, 16.97, 20.78, 22.63, 33.94),
]


@pytest.mark.parametrize("row", SQUARE, ids=lambda r: f"{r[0]} in 12")
def test_framing_square(row):
    rise, common, hip, jack16, jack24 = row
    pitch = rise / 12
    assert round(common_length(FOOT, pitch) / INCH, 2) == common
    assert round(hip_length(FOOT, pitch) / INCH, 2) == hip
    assert jack_difference(16 * INCH, pitch) / INCH == pytest.approx(jack16, abs=0.011)
    assert jack_difference(24 * INCH, pitch) / INCH == pytest.approx(jack24, abs=0.011)


@given(st.floats(1000, 9000), st.floats(0, 1500), st.floats(0.1, 2.0), st.floats(80, 300))
def test_a_rafter_seen_from_the_side(run, over, pitch, depth):
    seat = deepest_seat(depth, pitch, 89.0)
    shape = RafterShape(run, over, pitch, depth, seat)
    assert seat * pitch / math.hypot(1, pitch) <= 0.25 * depth + 1e-9  # IRC R802.7.1
    assert area(shape.profile) > 0
    # The board it is cut from holds it: length x depth, less what the plumb cuts and the notch take off.
    assert area(shape.profile) < shape.length * depth
    assert shape.length == pytest.approx(common_length(run + over, pitch) + depth * pitch)
    assert shape.top(0.0) - shape.under(0.0) == pytest.approx(depth * math.hypot(1, pitch))
