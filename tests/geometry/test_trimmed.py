"""Solids cut off by a plane: volume by a general library, and both parts make up the whole."""

import math

import manifold3d
import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from balken.geometry.leaning import Leaning
from balken.geometry.prism import View, box, dot3, sub3
from balken.geometry.trimmed import Trimmed, leaning_of, trimmed

angles = st.floats(-3.0, 3.0)


@st.composite
def whole(draw):
    long, wide, turn = draw(st.floats(50, 4000)), draw(st.floats(20, 200)), draw(angles)
    u, v = (math.cos(turn), math.sin(turn)), (-math.sin(turn), math.cos(turn))
    skew = draw(st.floats(-40, 40))
    if draw(st.booleans()):
        return box((0.0, 0.0, 100.0), (long * u[0], long * u[1], 100.0), (v[0], v[1], 0.0), wide, 200.0)
    ring = tuple(
        (s * u[0] + t * v[0], s * u[1] + t * v[1])
        for s, t in ((0, 0), (long, 0), (long + skew, wide), (skew * 0.3, wide))
    )
    return Leaning(ring, (0.0, 0.0, 50.0), (draw(st.floats(-1, 1)), draw(st.floats(-1, 1))), 180.0)


@given(whole(), angles, st.floats(-1.4, 1.4), st.floats(0.02, 0.98))
def test_two_parts_make_up_the_whole(solid, turn, lift, part):
    normal = (math.cos(turn) * math.cos(lift), math.sin(turn) * math.cos(lift), math.sin(lift))
    offs = [dot3(normal, p) for p in solid.corners()]
    least = min(offs) + part * (max(offs) - min(offs))
    one = trimmed(solid, normal, least)
    other = trimmed(solid, tuple(-c for c in normal), -least)
    assert isinstance(one, Trimmed)
    assert isinstance(other, Trimmed)
    assert one.volume + other.volume == pytest.approx(solid.volume, rel=1e-6)
    assert all(dot3(normal, p) >= least - 1e-6 for p in one.corners())


@given(whole(), angles, st.floats(-1.4, 1.4), st.floats(0.1, 0.9))
def test_volume_by_manifold3d(solid, turn, lift, part):
    normal = (math.cos(turn) * math.cos(lift), math.sin(turn) * math.cos(lift), math.sin(lift))
    offs = [dot3(normal, p) for p in solid.corners()]
    least = min(offs) + part * (max(offs) - min(offs))
    body = manifold3d.Manifold.hull_points(np.array(solid.corners()))
    assert trimmed(solid, normal, least).volume == pytest.approx(
        body.trim_by_plane(normal, least).volume(), rel=1e-4, abs=50
    )


def test_all_or_nothing():
    solid = box((0.0, 0.0, 0.0), (1000.0, 0.0, 0.0), (0.0, 1.0, 0.0), 40.0, 200.0)
    assert trimmed(solid, (0.0, 0.0, 1.0), -1.0) is solid
    assert trimmed(solid, (0.0, 0.0, 1.0), 201.0) is None


def test_a_board_cut_level():
    solid = box((0.0, 0.0, 0.0), (1000.0, 0.0, 0.0), (0.0, 1.0, 0.0), 40.0, 200.0)
    half = trimmed(solid, (0.0, 0.0, 2.0), 100.0)  # any length of normal: 2 z >= 100
    assert half.volume == pytest.approx(1000.0 * 40.0 * 150.0)
    assert half.heights == (50.0, 200.0)
    view = View((500.0, 0.0, 0.0), (0.0, 1.0, 0.0), (0.0, 0.0, 1.0))
    ((ring,),) = half.cut(view)
    assert {round(y) for _, y in ring} == {50, 200}
    assert leaning_of(half) is None
    triangles, edges = half.mesh()
    assert len(edges) == 12
    assert len(triangles) == 12
    assert sub3(half.extent[1], half.extent[0]) == pytest.approx((1000.0, 40.0, 150.0))
