"""Loads typed in one place of a floor, and floors with loads, decks and ceilings of their own."""

import math

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from tests.houses import house

from balken.catalog.materials import weight
from balken.demo import orchard_road
from balken.derive import derive
from balken.documents.display import Text
from balken.documents.plan import PlanOf, plan
from balken.exchange.project_file import from_bytes, to_bytes
from balken.findings.floor_rules import build_up
from balken.loads.cases import total
from balken.model import edits
from balken.model.errors import EditError
from balken.model.floor_edits import add_floor_load
from balken.model.kinds.floor_opening import FloorOpening
from balken.model.records import Choice, FloorLoad, FreePoint
from balken.units.system import FOOT, INCH, POUND_FORCE, PSF

FLOOR = "floor-1"
FEET_INCHES = 12.7


def put(p, x, y, **fields):
    load = FloorLoad(id=f"load-{len(p.floor_loads) + 1}", floor=FLOOR, place=FreePoint(x=x, y=y), **fields)
    return edits.add(p, load)


def through(model, source):
    """What a load brings to each bearing, with where."""
    return [r for r in model.path.reactions if r.through == source]


def test_a_point_by_hand():
    """1,000 lb on a joist 5 ft from one bearing of some 20 ft: by the lever."""
    p = edits.change(house(joists=Choice(size="2x12", spacing=16.0 * INCH)), FLOOR, direction=90.0)
    bare = derive(p).floors[0]
    x = bare.frame.back(0.0, bare.lines[len(bare.lines) // 2].t)[0]
    model = derive(put(p, x, 5.0 * FOOT, live=1000.0 * POUND_FORCE))
    floor = model.floors[0]
    rows = through(model, "load-1")
    line = floor.lines[len(floor.lines) // 2]
    a, b = line.centres
    low, high = (sum(r.force.live for r in rows if (r.at[1] > 10.0 * FOOT) == upper) for upper in (False, True))
    at = floor.frame.to((x, 5.0 * FOOT))[0]
    far = (at - a) / (b - a)
    assert total(r.force for r in rows).live == pytest.approx(1000.0 * POUND_FORCE)
    assert max(low, high) == pytest.approx(1000.0 * POUND_FORCE * max(far, 1.0 - far), rel=0.02)


@settings(max_examples=25)
@given(
    x=st.floats(0.15, 0.55),
    y=st.floats(0.15, 0.55),
    width=st.floats(0.0, 3000.0),
    depth=st.floats(0.0, 1500.0),
    angle=st.floats(0.0, 80.0),
    turned_=st.sampled_from([0.0, 90.0]),
)
def test_any_load_anywhere_comes_down(x, y, width, depth, angle, turned_):
    """All of it, about its own middle: the bearings' forces and moments are those of the load."""
    p = edits.change(house(), FLOOR, direction=turned_)
    p = put(p, x * 30 * FOOT, y * 20 * FOOT, width=width, depth=depth, angle=angle, dead=700.0, live=5000.0)
    model = derive(p)
    if any(f.code == "load beside" for f in model.findings):
        return
    rows = through(model, "load-1")
    assert total(r.force for r in rows).live == pytest.approx(5000.0, rel=1e-6)
    assert total(r.force for r in rows).dead == pytest.approx(700.0, rel=1e-6)
    u = (math.cos(math.radians(angle)), math.sin(math.radians(angle)))
    v = (-u[1], u[0])
    half = (width if width > 50.0 else 0.0) / 2.0, (depth if width <= 50.0 or depth > 0.0 else 0.0) / 2.0
    middle = [p.floor_loads[0].place.x, p.floor_loads[0].place.y]
    middle = [middle[i] + u[i] * half[0] + v[i] * half[1] for i in (0, 1)]
    frame = model.floors[0].frame
    s = frame.to(tuple(middle))[0]
    lever = sum(r.force.live * frame.to(r.at)[0] for r in rows) / 5000.0
    assert lever == pytest.approx(s, abs=60.0)
    assert model.soil.live - derive(edits.remove(p, "load-1")).soil.live == pytest.approx(5000.0, rel=1e-6)


def test_it_doubles_joists_and_stands_on_the_plan():
    p = house(joists=Choice(size="2x10", spacing=16.0 * INCH), middle=True)
    heavy = put(p, 8 * FOOT, 4 * FOOT, width=3 * FOOT, depth=2 * FOOT, live=9000.0 * POUND_FORCE / 2.0, name="Safe")
    model = derive(heavy)
    assert any(made.size for made in model.loaded[FLOOR].made.values())
    drawn = plan(model, PlanOf("Floors", frozenset({"floors"}), storey="level-1"), 50.0)
    assert any("Safe" in i.text and "4,500 lb" in i.text for i in drawn.items if isinstance(i, Text))
    assert from_bytes(to_bytes(heavy)) == heavy


def test_what_cannot_be():
    p = house()
    for wrong in ({"live": -1.0}, {"width": -5.0}, {"width": 1e9}):
        with pytest.raises(EditError):
            put(p, 1000.0, 1000.0, **wrong)
    with pytest.raises(EditError, match="no floor"):
        add_floor_load(p, "", (0.0, 0.0), (0.0, 0.0))
    beside = derive(put(p, -5000.0, 1000.0, width=1000.0, depth=1000.0))
    assert any(f.code == "load beside" for f in beside.findings)
    assert edits.remove(put(p, 1000.0, 1000.0), FLOOR).floor_loads == ()
    point = add_floor_load(p, FLOOR, (2000.0, 2000.0), (2010.0, 2005.0)).floor_loads[0]
    assert (point.width, point.depth) == (0.0, 0.0)


def test_a_floor_with_its_own_loads():
    """100 psf of live load on it alone: joists are sized for that, and that comes down."""
    p = house(joists=Choice(size=None, spacing=16.0 * INCH), middle=True)
    shop = edits.change(p, FLOOR, live=100.0 * PSF, dead=20.0 * PSF)
    before, after = derive(p), derive(shop)
    case = after.designs[(FLOOR, "joists")].result.case
    assert case.load.live == pytest.approx(100.0 * PSF)
    assert case.load.dead == pytest.approx(20.0 * PSF)
    share = total(r.force for r in after.path.reactions if r.piece.startswith("floor")).live
    usual = total(r.force for r in before.path.reactions if r.piece.startswith("floor")).live
    assert share / usual == pytest.approx(100.0 * PSF / p.loads.floor_live)
    with pytest.raises(EditError):
        edits.change(p, FLOOR, live=-1.0)


def test_decks_span_as_far_as_their_table_says():
    """IRC Table R503.2.1.1(1), from memory: 3/4 in to 24 in, 5/8 in to 20 in, 1/2 in to 16 in; nothing thinner than 7/16."""
    standard = derive(house()).standard
    for inches, span in (
        (0.75, 24.0),
        (0.719, 24.0),
        (0.625, 20.0),
        (0.594, 20.0),
        (0.5, 16.0),
        (0.4375, 16.0),
        (1.125, 48.0),
    ):
        assert standard.deck_panel(inches * INCH).span == pytest.approx(span * INCH)
    assert standard.deck_panel(0.375 * INCH) is None
    thin = edits.change(house(joists=Choice(size="2x12", spacing=24.0 * INCH)), FLOOR, deck=0.625 * INCH)
    finding = next(f for f in derive(thin).findings if f.code == "deck span")
    mended = edits.change(thin, *finding.fix.args, **dict(finding.fix.fields))
    assert not [f for f in derive(mended).findings if f.code == "deck span"]


def test_a_ceiling_under_light_joists_over_a_basement():
    """IRC R302.13: I-joists over a basement without gypsum board are found; over a crawl space they are not; nor is 2x10."""
    p = edits.change(house(), FLOOR, joists__made_of="I-joist", joists__size=None)
    assert not [f for f in derive(p).findings if f.code == "ceiling"]
    basement = edits.change(p, "foundation-1", kind="basement", inside_ground=None)
    finding = next(f for f in derive(basement).findings if f.code == "ceiling")
    with_one = edits.change(basement, *finding.fix.args, **dict(finding.fix.fields))
    assert not [f for f in derive(with_one).findings if f.code == "ceiling"]
    sawn = edits.change(basement, FLOOR, joists__made_of="sawn", joists__size="2x10")
    assert not [f for f in derive(sawn).findings if f.code == "ceiling"]


def test_what_a_floor_weighs_by_hand():
    """3/4 in of panel at 600 kg/m3, 2x10 at 16 in, 1/2 in of gypsum board at 800: kN/m2."""
    floor = edits.change(house(), FLOOR, ceiling="gypsum board").floors[0]
    g = 9.80665 / 1000.0
    joists = weight("timber") * 38.1 * 234.95 * 1e-6 / 0.4064
    hand = 600.0 * g * 0.01905 + joists + 800.0 * g * FEET_INCHES / 1000.0
    assert build_up(floor, "2x10", 16.0 * INCH) == pytest.approx(hand, rel=1e-6)
    light = derive(edits.change(house(), FLOOR, dead=0.05))
    finding = next(f for f in light.findings if f.code == "dead load")
    assert finding.fix is not None


@pytest.mark.parametrize(("lands", "high"), [("at its near end", False), ("at its far end", True)])
def test_a_flight_of_stairs(lands, high):
    """3 ft x 9 ft at 40 + 10 psf: half of it on the edge it lands on, by the lever between the joists' bearings there.

    The other half goes to the floor below; with none it stands on the ground.
    """
    p = edits.change(house(joists=Choice(size="2x12", spacing=16.0 * INCH)), FLOOR, direction=90.0)
    stair = FloorOpening(
        id="floor-opening-1", floors=(FLOOR,), kind="stair", place=FreePoint(x=9.0 * FOOT, y=4.0 * FOOT), width=3.0 * FOOT,
        depth=9.0 * FOOT, lands=lands,
    )  # fmt: skip
    p = edits.add(p, stair)
    model = derive(p)
    bare = derive(edits.change(p, "floor-opening-1", lands="nothing"))
    half = p.loads.floor_live * 3.0 * 9.0 * FOOT**2 / 2000.0
    # What joists cut off at the opening bring goes by its name, too: the flight is what is more.
    more, usual = through(model, "floor-opening-1"), through(bare, "floor-opening-1")
    live = total(r.force for r in more).live - total(r.force for r in usual).live
    assert live == pytest.approx(half, rel=1e-6)
    assert total(r.force for r in more).dead - total(r.force for r in usual).dead == pytest.approx(half / 4.0, rel=1e-6)
    moment = sum(r.force.live * r.at[1] for r in more) - sum(r.force.live * r.at[1] for r in usual)
    edge = (13.0 * FOOT + 100.0) if high else (4.0 * FOOT - 100.0)
    assert moment / half == pytest.approx(edge, abs=80.0)
    assert model.soil.live - bare.soil.live == pytest.approx(half, rel=1e-6)


def test_a_flight_between_two_floors():
    """In the demo the stair goes through two floors: the upper flight stands on both, the lower one on the upper edge alone."""
    p = orchard_road()
    stair = next(o for o in p.floor_openings if o.kind == "stair")
    p = edits.change(p, stair.id, flight="load alone")
    model = derive(p)
    flight = p.loads.floor_live * stair.width * stair.depth / 1000.0
    bare = derive(edits.change(p, stair.id, lands="nothing"))

    def brought(made, floor):
        return total(r.force for r in through(made, stair.id) if r.piece.startswith(floor)).live

    by_floor = {f.id: brought(model, f.id) - brought(bare, f.id) for f in p.floors}
    assert by_floor["floor-2"] == pytest.approx(flight / 2.0, rel=1e-6)
    assert by_floor["floor-1"] == pytest.approx(flight, rel=1e-6)
