"""Flights framed of stringers: steps by hand, what is left of a board, loads to header and floor below, the rules of IRC R311.7."""

import itertools
import math

import pytest
import shapely
from hypothesis import given, settings
from hypothesis import strategies as st
from tests.houses import house
from tests.loads.test_beams import balanced

from balken.demo import orchard_road
from balken.derive import derive
from balken.documents.plan import PlanOf, plan
from balken.framing.stairs import Flight, places_across, stringer_pieces, throat
from balken.loads.cases import Cases, total
from balken.model import edits
from balken.model.errors import EditError
from balken.model.floor_edits import draw_floor
from balken.model.kinds.floor_opening import FloorOpening
from balken.model.records import Choice, FreePoint
from balken.standards.demands import Limit, StringerCase
from balken.standards.us import stringers
from balken.units.system import FOOT, INCH, POUND_FORCE, PSF


def flight(rise=104.0 * INCH, risers=14, tread=10.0 * INCH, width=3.0 * FOOT, length=12 * FOOT):
    return Flight("o", "up", "low", ((0.0, 0.0), (width, 0.0)), (0.0, -1.0), rise, rise, risers, tread, length)


def two_floors(**fields):
    """A house whose floor is a landing's height above another one drawn below it, with a stair between."""
    p = house(long=30 * FOOT, wide=20 * FOOT, joists=Choice(size="2x12", spacing=12 * INCH))
    p = edits.change(p, "floor-1", level="level-2")
    corners = [(0.0, 0.0), (30 * FOOT, 0.0), (30 * FOOT, 20 * FOOT), (0.0, 20 * FOOT)]
    p = draw_floor(p, "level-1", corners, joists=Choice(size="2x12", spacing=12 * INCH))
    opening = FloorOpening(
        id="floor-opening-1", floors=("floor-1",), place=FreePoint(x=8 * FOOT, y=5 * FOOT), width=11 * FOOT, depth=3.5 * FOOT,
        lands="at its near end", flight="stringers", **fields,
    )  # fmt: skip
    return edits.add(p, opening)


def test_risers_and_treads_by_hand():
    """8 ft: 96/7.75 = 12.4, so 13 risers of 7.385 in, 12 treads of 10 in: 10 ft of run."""
    model = derive(two_floors())
    (made,) = model.flights
    f = made.flight
    assert (f.risers, f.riser / INCH) == (13, pytest.approx(96 / 13))
    assert f.run == pytest.approx(10 * FOOT)
    assert f.below == "floor-2"
    # 3.5 ft less a board, no farther apart than 16 in: three bays, four stringers.
    assert len(made.places) == 4
    assert {p.role for p in model.of_layouts("stringer")} == {"stringer"}
    assert len(model.of_layouts("stringer")) == 4
    assert model.marks[model.of_layouts("stringer")[0].key].startswith("ST")


def test_what_is_left_below_the_notches():
    """A 2x12 sawn out for 7 x 10 in: 11.25 - 70/12.21 = 5.52 in (any carpenter's square)."""
    f = flight(rise=14 * 7 * INCH)
    assert throat(f, 11.25 * INCH) / INCH == pytest.approx(11.25 - 70.0 / math.hypot(7.0, 10.0))


def test_a_stringer_from_the_side():
    """Its profile: the triangles of the notches taken from a board; it stands on the floor below, under its treads all along."""
    f = flight()
    (piece,) = stringer_pieces(f, "level", "2x12", "DF-L", "No. 2", (1.0 * FOOT,))
    low, high = piece.solid.heights
    assert low == pytest.approx(0.0)
    assert high == pytest.approx(f.rise - f.riser - 1.5 * INCH)
    ring = shapely.Polygon(piece.solid.rings[0])
    assert ring.is_valid
    assert ring.exterior.is_ccw
    x0, _, x1, _ = ring.bounds
    assert (x0, x1) == pytest.approx((0.0, f.run))
    for k in range(1, f.risers):  # each tread lies on it: level, a board below its height
        middle = ((k - 0.5) * f.tread, -k * f.riser - 1.5 * INCH)
        assert ring.boundary.distance(shapely.Point(middle)) < 1e-6
    # In the middle the distance from an inner corner square to the underside is the throat.
    k = 6
    inner = shapely.Point(k * f.tread, -(k + 1) * f.riser - 1.5 * INCH)
    slope = math.hypot(f.tread, f.riser)
    square = shapely.LineString(
        [(inner.x, inner.y), (inner.x - 900 * f.riser / slope, inner.y - 900 * f.tread / slope)]
    )
    assert square.intersection(ring).length == pytest.approx(throat(f, 11.25 * INCH), rel=1e-6)


def test_bending_by_hand():
    """2x12 DF-L No. 2, throat 5.25 in, 12 in apart, 10 ft, 10 + 40 psf: M = 50 x 100/8 = 625 lb ft; S = 1.5 x 5.25^2/6 = 6.89 in3;
    fb = 1088 psi; Fb' = 900 x 1.0 x 1.15 = 1035 (CF of a 2x12 is 1.0; Cr).  300 lb on a tread: 125 + 750 lb ft governs."""
    case = StringerCase(
        "2x12", "DF-L", "No. 2", 10 * FOOT, 7 * FOOT, 5.25 * INCH, 12 * INCH, 4, Cases(dead=10 * PSF, live=40 * PSF),
        stringers.POINT, Limit(360.0, "IRC R301.7"), 1.5 * INCH,
    )  # fmt: skip
    made = stringers.check_stringer(case)
    bending = next(c for c in made.checks if c.name == "bending")
    psi = POUND_FORCE / INCH**2
    assert bending.capacity / psi == pytest.approx(900 * 1.15, rel=1e-6)
    assert bending.demand / psi == pytest.approx((125.0 + 750.0) * 12.0 / (1.5 * 5.25**2 / 6.0), rel=1e-3)
    shear = next(c for c in made.checks if c.name == "shear")
    across = 350.0 * 10.0 / math.hypot(10.0, 7.0)  # 50 + 300 lb at its end, square to it
    assert shear.demand / psi == pytest.approx(1.5 * across / (1.5 * 5.25), rel=1e-3)


def test_half_of_it_comes_to_each_end():
    p = two_floors()
    model, bare = derive(p), derive(edits.change(p, "floor-opening-1", lands="nothing"))
    balanced(model)
    f = model.flights[0].flight
    whole = p.loads.floor_live * f.run * f.width / 1000.0

    def through(made, floor):
        rows = (r for r in made.path.reactions if r.through == "floor-opening-1" and r.piece.startswith(floor))
        return total(rows_force.force for rows_force in rows).live

    for floor in ("floor-1", "floor-2"):
        assert through(model, floor) - through(bare, floor) == pytest.approx(whole / 2.0, rel=1e-6)


def test_what_is_against_the_rules_is_said():
    model = derive(two_floors())
    assert not [f for f in model.findings if f.code in ("headroom", "treads", "stair width", "stair on nothing")]
    short = derive(edits.change(two_floors(), "floor-opening-1", width=7 * FOOT))
    assert [f.code for f in short.findings if f.code == "headroom"] == ["headroom"]
    steep = derive(edits.change(two_floors(), "floor-opening-1", tread=9 * INCH))
    (finding,) = [f for f in steep.findings if f.code == "treads"]
    assert finding.fix is not None
    narrow = derive(edits.change(two_floors(), "floor-opening-1", depth=2.5 * FOOT))
    assert [f for f in narrow.findings if f.code == "stair width"]
    beside = derive(
        edits.change(
            two_floors(),
            "floor-opening-1",
            lands="at its far end",
            place=FreePoint(x=2 * FOOT, y=5 * FOOT),
            tread=16 * INCH,
        )
    )
    assert [f for f in beside.findings if f.code == "stair on nothing"]
    weak = derive(edits.change(two_floors(), "floor-opening-1", stringers__size="2x8"))
    assert [f for f in weak.findings if f.code == "used" and "stair" in f.what]
    with pytest.raises(EditError, match="6 to 24 in"):
        edits.change(two_floors(), "floor-opening-1", tread=10.0)


def test_a_landing_takes_the_foot():
    """A floor drawn on a level of its own between two storeys, where the flight begins: it takes half of it."""
    p = two_floors()
    p = edits.add_level(p, "level-1", 4.0 * FOOT, "Landing", "other")
    level = p.levels[-1].id
    p = draw_floor(
        p, level, [(13 * FOOT, 4 * FOOT), (20 * FOOT, 4 * FOOT), (20 * FOOT, 10 * FOOT), (13 * FOOT, 10 * FOOT)]
    )
    p = edits.change(p, "floor-opening-1", place=FreePoint(x=8 * FOOT, y=5 * FOOT), width=6 * FOOT)
    (made,) = derive(p).flights
    assert made.flight.below == p.floors[-1].id
    assert made.flight.rise == pytest.approx(4 * FOOT)


@given(width=st.floats(700.0, 2500.0), spacing=st.floats(200.0, 700.0))
@settings(max_examples=60)
def test_stringers_stand_at_both_sides_and_no_farther_apart(width, spacing):
    places = places_across(flight(width=width), 38.1, spacing)
    assert places[0] == pytest.approx(19.05)
    assert places[-1] == pytest.approx(width - 19.05)
    assert max(b - a for a, b in itertools.pairwise(places)) <= spacing + 1e-6


def test_the_demos_stair_is_framed_and_drawn():
    model = derive(orchard_road())
    assert [f.flight.upper for f in model.flights] == ["floor-1", "floor-2"]
    assert all(f.result.used <= 1.0 for f in model.flights)
    assert not model.findings
    items = plan(model, PlanOf("Floors", frozenset({"floors"}), frozenset(), "level-6"), 64.0).items
    assert any(" R " in getattr(item, "text", "") for item in items)
