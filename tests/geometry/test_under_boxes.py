"""Areas and spans of outlines under rectangles, against shapely."""

import math

import numpy as np
import pytest
import shapely
from hypothesis import given, settings
from hypothesis import strategies as st

from balken.geometry.under_boxes import Boxes, areas_under, spans_under


@given(st.integers(0, 10_000))
@settings(max_examples=60, deadline=None)
def test_as_shapely_has_them(seed):
    rng = np.random.default_rng(seed)
    hull = shapely.MultiPoint(rng.uniform(-100, 100, (int(rng.integers(3, 9)), 2))).convex_hull
    if hull.geom_type != "Polygon":
        return
    ring = tuple(shapely.orient_polygons(hull).exterior.coords[:-1])
    angles = np.append(rng.uniform(0, 2 * math.pi, 18), [0.0, math.pi / 2])
    boxes = Boxes(
        rng.uniform(-120, 120, (20, 2)), rng.uniform(2, 90, (20, 2)), np.stack([np.cos(angles), np.sin(angles)], axis=1)
    )
    turn = float(rng.uniform(0, math.pi))
    axis = (math.cos(turn), math.sin(turn))
    areas, spans = areas_under(ring, boxes), spans_under(ring, boxes, axis)
    for k, corners in enumerate(boxes.corners):
        both = hull.intersection(shapely.Polygon(corners))
        assert areas[k] == pytest.approx(both.area, rel=1e-9, abs=1e-6)
        points = shapely.get_coordinates(both)
        for column, way in enumerate((axis, (-axis[1], axis[0]))):
            values = points @ np.array(way)
            assert spans[k, column] == pytest.approx(np.ptp(values) if len(values) else 0.0, rel=1e-9, abs=1e-5)


def test_sides_that_run_along_those_of_a_box():
    ring = ((0.0, 0.0), (10.0, 0.0), (10.0, 5.0), (0.0, 5.0))
    boxes = Boxes(
        np.array([(10.0, 5.0), (5.0, 2.5), (30.0, 0.0)]), np.array([(4.0, 2.0)] * 3), np.array([(1.0, 0.0)] * 3)
    )
    assert areas_under(ring, boxes) == pytest.approx([8.0, 32.0, 0.0])
    assert spans_under(ring, boxes, (1.0, 0.0)) == pytest.approx(np.array([(4.0, 2.0), (8.0, 4.0), (0.0, 0.0)]))
    assert areas_under(ring, boxes[np.array([1])]) == pytest.approx([32.0])
