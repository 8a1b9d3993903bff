"""Leaning solids against the general library: volume, extent, cuts, faces that close."""

import math

import numpy as np
import pytest
import shapely
from hypothesis import given, settings
from hypothesis import strategies as st

from balken.geometry.leaning import Leaning
from balken.geometry.prism import TOP, View, box

CORNERS = st.lists(st.tuples(st.floats(-500, 500), st.floats(-500, 500)), min_size=3, max_size=8)


def made(points, slope, tall):
    hull = shapely.MultiPoint(points).convex_hull
    if not isinstance(hull, shapely.Polygon) or hull.area < 100.0:
        return None
    ring = tuple((float(x), float(y)) for x, y in hull.exterior.coords[:-1])
    ring = ring if shapely.LinearRing(ring).is_ccw else ring[::-1]
    return Leaning(ring, (10.0, -20.0, 300.0), slope, tall)


@given(points=CORNERS, slope=st.tuples(st.floats(-1, 1), st.floats(-1, 1)), tall=st.floats(20, 400))
@settings(max_examples=60)
def test_its_faces_close_and_hold_its_volume(points, slope, tall):
    solid = made(points, slope, tall)
    if solid is None:
        return
    triangles, _ = solid.mesh()
    flux = float(np.einsum("ij,ij->i", triangles[:, 0], np.cross(triangles[:, 1], triangles[:, 2])).sum() / 6.0)
    assert flux == pytest.approx(solid.volume, rel=1e-6)
    low, high = solid.extent
    every = np.array(solid.corners())
    assert np.allclose(every.min(axis=0), low)
    assert np.allclose(every.max(axis=0), high)
    # Square to its underside it is cos of the slope as thick: what files hold has the same volume.
    swept = solid.swept()
    assert shapely.Polygon(swept.rings[0]).area * swept.depth * swept.sweep[2] == pytest.approx(solid.volume, rel=1e-6)
    assert math.hypot(*swept.sweep) == pytest.approx(1.0)


@given(
    points=CORNERS, slope=st.tuples(st.floats(-1, 1), st.floats(-1, 1)), turn=st.floats(0, 3.1), at=st.floats(-300, 300)
)
@settings(max_examples=60)
def test_plumb_sections_add_up_to_it(points, slope, turn, at):
    solid = made(points, slope, 200.0)
    if solid is None:
        return
    right = (math.cos(turn), math.sin(turn), 0.0)
    away = (-math.sin(turn), math.cos(turn))
    view = View((away[0] * at, away[1] * at, 0.0), right, (0.0, 0.0, 1.0))
    chord = (
        shapely.Polygon(solid.ring)
        .intersection(
            shapely.LineString([(away[0] * at + right[0] * s, away[1] * at + right[1] * s) for s in (-3000, 3000)])
        )
        .length
    )
    area = sum(shapely.Polygon(rings[0]).area for rings in solid.cut(view))
    assert area == pytest.approx(chord * 200.0, rel=1e-6, abs=1.0)


def test_a_plain_bar_is_the_same_as_a_prism():
    """A level bar both ways: volume, heights, plan, what is seen from above."""
    bar = box((0.0, 0.0, 100.0), (1000.0, 0.0, 100.0), (0.0, 1.0, 0.0), 38.0, 184.0)
    leaning = Leaning(
        ((0.0, -19.0), (1000.0, -19.0), (1000.0, 19.0), (0.0, 19.0)), (0.0, 0.0, 100.0), (0.0, 0.0), 184.0
    )
    assert leaning.volume == pytest.approx(bar.volume)
    assert leaning.heights == pytest.approx(bar.heights)
    assert shapely.Polygon(leaning.outline(TOP)[0]).equals_exact(
        shapely.Polygon(bar.outline(TOP)[0]).normalize(), 1e-6
    ) or (
        shapely.Polygon(leaning.outline(TOP)[0]).symmetric_difference(shapely.Polygon(bar.outline(TOP)[0])).area < 1e-3
    )
    assert leaning.depths(TOP) == pytest.approx(bar.depths(TOP))
    assert len(leaning.faces()) == len(bar.faces()) == 6
