"""How much of a line lies in an outline that bulges everywhere, against shapely."""

import math

import pytest
import shapely
from hypothesis import given
from hypothesis import strategies as st

from balken.geometry.plane import length_within

COORDINATE = st.floats(-500.0, 500.0, allow_nan=False)
PLACE = st.tuples(COORDINATE, COORDINATE)


@given(st.lists(st.floats(0.0, 2.0 * math.pi), min_size=3, max_size=9, unique=True), st.floats(0.3, 3.0), PLACE, PLACE)
def test_a_line_within_an_outline_is_as_long_as_shapely_has_it(
    turns: list[float], flat: float, a: tuple[float, float], b: tuple[float, float]
) -> None:
    ring = [(300.0 * math.cos(t), 300.0 * flat * math.sin(t)) for t in sorted(turns)]
    shape = shapely.Polygon(ring)
    if shape.area < 1.0:
        return
    assert length_within(ring, a, b) == pytest.approx(shapely.LineString((a, b)).intersection(shape).length, abs=1e-3)


def test_lines_beside_along_and_through_a_square() -> None:
    square = ((0.0, 0.0), (10.0, 0.0), (10.0, 10.0), (0.0, 10.0))
    assert length_within(square, (-5.0, 4.0), (25.0, 4.0)) == pytest.approx(10.0)
    assert length_within(square, (2.0, 2.0), (5.0, 6.0)) == pytest.approx(5.0)
    assert length_within(square, (0.0, -3.0), (0.0, 4.0)) == pytest.approx(4.0)
    assert length_within(square, (-5.0, 11.0), (25.0, 11.0)) == 0.0
    assert length_within(square, (12.0, 5.0), (25.0, 5.0)) == 0.0
