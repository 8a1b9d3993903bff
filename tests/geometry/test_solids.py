"""A solid answers for itself: volume by its faces, outline and cut by shapely, nothing else looks into a prism."""

import itertools
import math
import re
from pathlib import Path

import numpy as np
import pytest
import shapely
from hypothesis import given
from hypothesis import strategies as st

import balken
from balken.geometry.prism import TOP, Prism, View, box, cross3, dot3, sub3, upright

SOURCES = Path(balken.__file__).parent
lengths = st.floats(10.0, 5000.0)


@st.composite
def solids(draw):
    a, b, t, turn = draw(lengths), draw(lengths), draw(lengths), draw(st.floats(0.0, 6.28))
    if draw(st.booleans()):
        ring = ((0.0, 0.0), (a, 0.0), (a, b / 2), (a / 2, b / 2), (a / 2, b), (0.0, b))
        return upright(ring, draw(st.floats(-3000, 3000)), t)
    along = (math.cos(turn), math.sin(turn), 0.0)
    return box((0.0, 0.0, 0.0), (t * along[0], t * along[1], 0.0), (-along[1], along[0], 0.0), a, b)


@given(solids())
def test_faces_enclose_the_volume(solid):
    """Divergence theorem: the volume is a sixth of the sum of triple products over its faces."""
    total = 0.0
    for face in solid.faces():
        a = face[0]
        for b, c in itertools.pairwise(face):
            total += dot3(a, cross3(b, c))
    assert total / 6.0 == pytest.approx(solid.volume, rel=1e-6)


@given(solids())
def test_plan_heights_and_extent_agree(solid):
    low, high = solid.extent
    assert solid.heights == pytest.approx((low[2], high[2]))
    x0, y0, x1, y1 = shapely.Polygon(solid.plan[0]).bounds
    assert (x0, y0, x1, y1) == pytest.approx((low[0], low[1], high[0], high[1]), abs=0.02)
    if solid.stands_upright:
        assert shapely.Polygon(solid.plan[0]).area * (high[2] - low[2]) == pytest.approx(solid.volume)


@given(solids())
def test_a_level_cut_is_the_plan_of_what_stands_upright(solid):
    if not solid.stands_upright:
        return
    low, high = solid.heights
    level = View((0.0, 0.0, (low + high) / 2.0), (1.0, 0.0, 0.0), (0.0, 1.0, 0.0))
    (rings,) = solid.cut(level)
    assert shapely.Polygon(rings[0]).equals_exact(shapely.Polygon(solid.plan[0]), 1e-6)
    assert solid.outline(TOP)[0] == solid.plan[0]


def test_edges_of_the_mesh_are_its_corners():
    solid = box((0.0, 0.0, 0.0), (0.0, 1000.0, 0.0), (1.0, 0.0, 0.0), 40.0, 200.0)
    triangles, edges = solid.mesh()
    assert {tuple(p) for p in triangles.reshape(-1, 3)} == set(solid.corners())
    assert len(edges) == 12
    assert sub3(solid.extent[1], solid.extent[0]) == (40.0, 1000.0, 200.0)


def test_a_hole_is_left_out():
    tube = upright(((0, 0), (100, 0), (100, 100), (0, 100)), 0.0, 10.0, (((10, 10), (10, 90), (90, 90), (90, 10)),))
    assert isinstance(tube, Prism)
    assert tube.volume == pytest.approx((100**2 - 80**2) * 10.0)


def test_nothing_but_geometry_looks_into_a_solid():
    inside = re.compile(r"\bsolid\.(rings|origin|depth|u|v|w)\b")
    allowed = {"ifc.py"}  # writes what is swept as it is
    found = [
        f"{file.relative_to(SOURCES)}: {line.strip()}"
        for file in SOURCES.rglob("*.py")
        if file.parent.name != "geometry" and file.name not in allowed
        for line in file.read_text(encoding="utf-8").splitlines()
        if inside.search(line)
    ]
    assert not found


def test_triangles_of_everything_look_outward(demo_model):
    """By the divergence theorem what they enclose is each solid's volume, above 0: only then may the 3-D view leave out what looks away."""
    pieces = [piece for group in demo_model.groups for piece in group]
    pieces += [piece for wall in demo_model.framed.values() for piece in wall.pieces]
    for piece in pieces:
        triangles, _ = piece.solid.mesh()
        a, b, c = (triangles[:, k] - triangles[0, 0] for k in range(3))
        within = np.einsum("ij,ij->i", a, np.cross(b, c)).sum() / 6.0
        assert within == pytest.approx(piece.solid.volume, rel=1e-3, abs=10.0), piece.key


def test_a_profile_with_a_hair_is_cut_into_triangles():
    """Two corners a hundred-millionth of a mm apart, as clipping left them."""
    ring = ((100.0, 0.0), (100.0, 1e-8), (50.0, 90.0), (-10.0, 80.0), (0.0, 0.0))
    triangles, _ = upright(ring, 0.0, 40.0).mesh()
    a, b, c = (triangles[:, k] for k in range(3))
    assert np.einsum("ij,ij->i", a, np.cross(b, c)).sum() / 6.0 == pytest.approx(upright(ring, 0.0, 40.0).volume)
