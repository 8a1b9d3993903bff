"""Openings of any shape in floors: framed as the rectangle about them, the rest filled in and carried; from an architect's file."""

import math

import msgspec
import pytest
import shapely
from hypothesis import given, settings
from hypothesis import strategies as st
from tests.framing.test_floor_openings import laid
from tests.loads.test_beams import balanced

from balken.derive import derive
from balken.geometry.arcs import circle
from balken.geometry.plane import area
from balken.model import edits
from balken.model.errors import EditError
from balken.model.floor_edits import add_shaped_opening, move_corner, opening_from
from balken.model.records import Reference
from balken.units.system import FOOT, INCH

L_SHAPE = [(10, 3), (16, 3), (16, 6), (13, 6), (13, 8), (10, 8)]


def shaped(points, **fields):
    return add_shaped_opening(laid(), "floor-1", [(x * FOOT, y * FOOT) for x, y in points], **fields)


def test_a_round_shaft_is_framed_square_and_cut_round():
    ring = circle((14 * FOOT, 6 * FOOT), 2 * FOOT)
    model = derive(add_shaped_opening(laid(), "floor-1", ring, kind="shaft"))
    (hole,) = model.floors[0].holes
    assert (hole.s1 - hole.s0, hole.t1 - hole.t0) == (
        pytest.approx(4 * FOOT, abs=2.0),
        pytest.approx(4 * FOOT, abs=2.0),
    )
    deck, whole = (next(p for p in m.of_layouts("floor deck")) for m in (model, derive(laid())))
    assert whole.volume - deck.volume == pytest.approx(math.pi * (2 * FOOT) ** 2 * 0.75 * INCH, rel=0.004)
    assert len(model.of_layouts("floor header")) == 2
    balanced(model)


def test_what_is_filled_in_comes_to_the_headers():
    model, bare = derive(shaped(L_SHAPE)), derive(laid())
    (hole,) = model.floors[0].holes
    left = abs(area([(x * FOOT, y * FOOT) for x, y in L_SHAPE]))
    assert hole.infill == pytest.approx(6 * FOOT * 5 * FOOT - left)
    # Live load stays on all but what is left out.
    live = bare.path.applied.live - model.path.applied.live
    assert live == pytest.approx(bare.project.loads.floor_live * left / 1000.0)
    balanced(model)


def test_askew_ones_are_framed_where_they_fill_their_rectangle():
    """Turned by 5 degrees 4 x 5 ft fill 86 % of what is framed; 1 x 10 ft turned by 40 degrees hardly any of it."""
    fits = derive(edits.add(laid(), msgspec.structs.replace(rectangle(4, 5), angle=5.0)))
    assert len(fits.floors[0].holes) == 1
    balanced(fits)
    slim = derive(edits.add(laid(), msgspec.structs.replace(rectangle(1, 8), angle=40.0)))
    assert not slim.floors[0].holes
    assert any(f.code == "floor opening" and "askew" in f.what for f in slim.findings)
    balanced(slim)


def rectangle(width, depth):
    from balken.model.records import FloorOpening, FreePoint

    return FloorOpening(
        id="floor-opening-1",
        floors=("floor-1",),
        place=FreePoint(x=14 * FOOT, y=4 * FOOT),
        width=width * FOOT,
        depth=depth * FOOT,
    )


def test_its_corners_are_moved_and_nonsense_is_refused():
    p = shaped(L_SHAPE)
    p = move_corner(p, "floor-opening-1", 1, (17 * FOOT, 3 * FOOT))
    (hole,) = derive(p).floors[0].holes
    assert max(hole.s1 - hole.s0, hole.t1 - hole.t0) == pytest.approx(7 * FOOT)
    with pytest.raises(EditError, match="crosses itself"):
        move_corner(p, "floor-opening-1", 1, (12 * FOOT, 7 * FOOT))
    with pytest.raises(EditError, match="three corners"):
        shaped(L_SHAPE[:2])
    with pytest.raises(EditError, match="6 in"):
        shaped([(1, 1), (1.1, 1), (1.1, 1.1)])


@given(st.lists(st.tuples(st.floats(10.0, 18.0), st.floats(3.0, 10.0)), min_size=3, max_size=8))
@settings(max_examples=30, deadline=None)
def test_loads_in_are_loads_out_for_any_shape(points):
    hull = shapely.MultiPoint(points).convex_hull
    if not isinstance(hull, shapely.Polygon):
        return
    try:
        p = shaped(list(hull.exterior.coords[:-1]))
    except EditError:
        return
    balanced(derive(p))


def test_from_a_thing_of_the_architects_file():
    ring = ((10 * FOOT, 3 * FOOT), (14 * FOOT, 3 * FOOT), (14 * FOOT, 9 * FOOT), (10 * FOOT, 9 * FOOT))
    stair = Reference(
        id="reference-1", name="Main stair", kind="stair", ring=ring, bottom=-9 * FOOT, top=0.0, source="abc"
    )
    p = msgspec.structs.replace(laid(), references=(stair,))
    p = opening_from(p, "reference-1")
    (opening,) = p.floor_openings
    assert (opening.kind, opening.floors, opening.source) == ("stair", ("floor-1",), "abc")
    assert len(derive(p).floors[0].holes) == 1
    high = msgspec.structs.replace(stair, bottom=20 * FOOT, top=30 * FOOT)
    with pytest.raises(EditError, match="no floor"):
        opening_from(msgspec.structs.replace(laid(), references=(high,)), "reference-1")
