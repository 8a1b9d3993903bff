"""Rafters with bird's mouths: volume, faces, cuts and outlines by general libraries."""

import itertools
import math

import manifold3d
import numpy as np
import pytest
import shapely
from hypothesis import assume, given
from hypothesis import strategies as st
from tests.framing.solids import body

from balken.geometry.leaning import Leaning
from balken.geometry.notched import notched
from balken.geometry.prism import View
from balken.geometry.seated import Seated, bevelled, on_head, seated
from balken.geometry.trimmed import leaning_of, trimmed


@st.composite
def rafters(draw):
    """A rafter that rises from its bearing line at (0, 0), with a tail or none, its head cut askew."""
    turn, pitch = draw(st.floats(-3.0, 3.0)), draw(st.floats(0.1, 1.5))
    over, run, skew = (
        draw(st.sampled_from([0.0, 300.0, 900.0])),
        draw(st.floats(600.0, 5000.0)),
        draw(st.floats(-60.0, 60.0)),
    )
    u, v = (math.cos(turn), math.sin(turn)), (-math.sin(turn), math.cos(turn))
    ring = tuple(
        (s * u[0] + t * v[0], s * u[1] + t * v[1])
        for s, t in ((-over, -19.0), (run, -19.0), (run + skew, 19.0), (-over, 19.0))
    )
    tall = 184.0 * math.hypot(1.0, pitch)
    seat = draw(st.floats(20.0, 140.0))
    whole = Leaning(ring, (0.0, 0.0, 1000.0 - seat * pitch), (u[0] * pitch, u[1] * pitch), tall)
    assume(seat * pitch < 0.8 * tall)
    return whole, u, seat, pitch, over


@given(rafters())
def test_what_is_taken_away_is_a_wedge_under_the_seat(given_):
    whole, way, seat, pitch, over = given_
    made = seated(whole, way, 0.0, 1000.0)
    assert isinstance(made, Seated)
    assert made.volume == pytest.approx(whole.volume - 38.0 * seat**2 * pitch / 2.0, rel=1e-9)
    solid = body(made)
    assert solid.status() == manifold3d.Error.NoError
    assert solid.volume() == pytest.approx(made.volume, rel=1e-4)
    assert leaning_of(made) is whole
    assert made.heights == pytest.approx(whole.heights if over else (1000.0, whole.heights[1]))
    # Faces are flat, turn outward and enclose it: by the divergence theorem they give its volume.
    total = 0.0
    for first, *rest in made.faces():
        for b, c in itertools.pairwise(rest):
            total += float(np.dot(first, np.cross(b, c)))
    assert total / 6.0 == pytest.approx(made.volume, rel=1e-6)


@given(rafters(), st.sampled_from(["level", "square"]), st.floats(40.0, 170.0))
def test_tails_are_cut_off(given_, cut, left):
    """Level: what of a triangle lies below; square: the wedge between a plumb cut and a square one.  Volume by manifold3d and by faces."""
    whole, way, seat, pitch, over = given_
    assume(over > 0.0)
    plain, steep = seated(whole, way, 0.0, 1000.0), math.hypot(1.0, pitch)
    top = 1000.0 - seat * pitch + whole.tall - over * pitch
    if cut == "level":
        off = (0.0, 0.0, 1.0), min(top - left, 1000.0)
        rise = off[1] - (top - whole.tall)
        run = min(rise / pitch, over)
        gone = 38.0 * (rise * run - pitch * run**2 / 2.0)
    else:
        assume(over > 184.0 * pitch / steep + 40.0)
        normal = (way[0] / steep, way[1] / steep, pitch / steep)
        off = normal, -over / steep + pitch / steep * top
        gone = 38.0 * 184.0**2 * pitch / 2.0
    made = seated(whole, way, 0.0, 1000.0, off)
    assert plain.volume - made.volume == pytest.approx(gone, rel=1e-6, abs=1.0)
    solid = body(made)
    assert solid.status() == manifold3d.Error.NoError
    assert solid.volume() == pytest.approx(made.volume, rel=1e-4)
    total = 0.0
    for first, *rest in made.faces():
        for b, c in itertools.pairwise(rest):
            total += float(np.dot(first, np.cross(b, c)))
    assert total / 6.0 == pytest.approx(made.volume, rel=1e-6)


@given(rafters(), st.floats(-250.0, 500.0))
def test_cuts_and_outline_from_the_side(given_, height):
    """In its own plane it is its outline from the side; cut level, what of it is as high."""
    assume(abs(height) > 1.0)  # in the seat itself
    whole, way, seat, _, _ = given_
    made = seated(whole, way, 0.0, 1000.0)
    side = View((0.0, 0.0, 0.0), (*way, 0.0), (0.0, 0.0, 1.0))
    (((*cut,),),) = (made.cut(side),)
    shape = shapely.Polygon(cut[0] if isinstance(cut[0][0], tuple) else cut)
    assert shape.area * 38.0 == pytest.approx(made.volume, rel=0.05)
    (outline,) = made.outline(side)
    assert shapely.Polygon(outline).buffer(0.01).covers(shape)
    for corner in ((0.0, 1000.0), (seat, 1000.0)):
        assert min(math.dist(corner, p) for p in outline) < 0.01
    level = View((0.0, 0.0, 1000.0 + height), (1.0, 0.0, 0.0), (0.0, 1.0, 0.0))
    area = sum(shapely.Polygon(rings[0]).area for rings in made.cut(level))
    found = body(made).slice(1000.0 + height).area()
    assert area == pytest.approx(found, rel=1e-3, abs=2.0)


@given(rafters())
def test_notches_are_cut_beside_the_seat(given_):
    """As an outline from the side: what its seat and the notch take away is missing of its volume."""
    whole, way, _, _, _ = given_
    made = seated(whole, way, 0.0, 1000.0)
    start = 400.0
    top = whole.low((way[0] * start, way[1] * start)) + whole.tall
    box = ((start, top - 60.0), (start + 40.0, top - 60.0), (start + 40.0, top + 500.0), (start, top + 500.0))
    cut = notched(made, way, [box])
    if cut is made:
        assert max(whole.cheeks()[1], default=1.0) > 0.0  # no outline from the side tells a head that is cut askew
    else:
        assert cut.volume < made.volume - 38.0 * 40.0 * 60.0 + 40.0


def below(way, start, level):
    """All that lies below a level beyond a plumb plane, as a large box of manifold3d."""
    far = 2e4
    turned = math.degrees(math.atan2(way[1], way[0]))
    box = manifold3d.Manifold.cube((far, 2.0 * far, far)).translate((start, -far, level - far))
    return box.rotate((0.0, 0.0, turned))


@given(rafters(), st.sampled_from(["plain", "seat", "cut"]), st.floats(20.0, 90.0), st.floats(0.1, 0.9))
def test_a_second_seat_at_the_head(given_, first, long, deep):
    """On a ridge beam under it: what lies below is gone, whatever its foot is like and however its head is cut; by manifold3d."""
    whole, way, _, pitch, _ = given_
    run = max(way[0] * x + way[1] * y for x, y in whole.ring)
    start = run - long
    under = whole.low((way[0] * start, way[1] * start))
    level = under + deep * pitch * long
    solids = {"plain": whole, "seat": seated(whole, way, 0.0, 1000.0)}
    solids["cut"] = trimmed(whole, (0.0, 0.0, 1.0), min(1000.0, level - 50.0))
    before = solids[first]
    made = on_head(before, way, start, level)
    if made is before:  # a head cut so far askew that nothing of it lies so low there
        return
    assert isinstance(made, Seated)
    gone = (body(before) ^ below(way, start, level)).volume()
    assert made.volume == pytest.approx(before.volume - gone, rel=1e-5, abs=50.0)
    solid = body(made)
    assert solid.status() == manifold3d.Error.NoError
    assert solid.volume() == pytest.approx(made.volume, rel=1e-4)
    total = 0.0
    for face in made.faces():
        for b, c in itertools.pairwise(face[1:]):
            total += float(np.dot(face[0], np.cross(b, c)))
    assert total / 6.0 == pytest.approx(made.volume, rel=1e-6)
    assert leaning_of(made) is whole


@given(rafters(), st.sampled_from(["plain", "seat", "cut"]), st.floats(0.05, 0.6), st.floats(0.05, 0.6))
def test_upper_edges_are_bevelled(given_, first, one, other):
    """As of a backed hip: along its middle it is as high as it was, to both sides it falls; by manifold3d and by faces."""
    whole, way, _, pitch, _over = given_
    solids = {"plain": whole, "seat": seated(whole, way, 0.0, 1000.0)}
    solids["cut"] = trimmed(whole, (0.0, 0.0, 1.0), whole.heights[0] + 60.0)
    before, side = solids[first], (-way[1], way[0])
    tops, planes = [], []
    for sign, fall in ((1.0, one), (-1.0, other)):
        # z <= top along the middle + pitch s - fall |t|: its normal points down.
        normal = (pitch * way[0] - sign * fall * side[0], pitch * way[1] - sign * fall * side[1], -1.0)
        top = whole.low((0.0, 0.0)) + whole.tall
        size = math.sqrt(sum(v * v for v in normal))
        tops.append((tuple(v / size for v in normal), -top / size))
        planes.append((tuple(v / size for v in normal), -top / size))
    made = bevelled(before, way, tuple(tops))
    solid = body(before)
    for normal, least in planes:
        solid = solid.trim_by_plane(normal, least)
    assert made.volume == pytest.approx(solid.volume(), rel=1e-4)
    own = body(made)
    assert own.status() == manifold3d.Error.NoError
    assert own.volume() == pytest.approx(made.volume, rel=1e-4)
    assert made.heights[1] <= before.heights[1] + 1e-6
    total = 0.0
    for face in made.faces():
        for b, c in itertools.pairwise(face[1:]):
            total += float(np.dot(face[0], np.cross(b, c)))
    assert total / 6.0 == pytest.approx(made.volume, rel=1e-6)


def test_no_seat_where_it_lies_above_the_plate():
    whole = Leaning(((0.0, -19.0), (2000.0, -19.0), (2000.0, 19.0), (0.0, 19.0)), (0.0, 0.0, 1010.0), (0.5, 0.0), 200.0)
    assert seated(whole, (1.0, 0.0), 0.0, 1000.0) is whole
