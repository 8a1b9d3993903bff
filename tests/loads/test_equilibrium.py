"""Loads put on equal the reactions at the footings, whatever the house (statics)."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from tests.houses import house

from balken.derive import derive
from balken.loads.along import Spread, load_before
from balken.loads.area_loads import floor_reactions, own_weight, roof_reactions, thrust
from balken.loads.cases import total
from balken.model.records import Choice
from balken.units.system import FOOT, INCH, PSF

lengths = st.floats(12 * FOOT, 60 * FOOT)
psf = st.floats(0.0, 100.0).map(lambda v: v * PSF)


@given(
    long=lengths,
    wide=lengths,
    pitch=st.floats(0.1, 1.5),
    overhang=st.floats(0.0, 3 * FOOT),
    middle=st.booleans(),
    joists=st.floats(8 * INCH, 30 * INCH),
    rafters=st.floats(8 * INCH, 30 * INCH),
    live=psf,
    dead=psf,
    snow=psf,
    ceiling=psf,
)
def test_what_is_put_on_arrives_at_the_footings(
    long, wide, pitch, overhang, middle, joists, rafters, live, dead, snow, ceiling
):
    model = derive(
        house(
            long,
            wide,
            pitch,
            overhang,
            middle,
            Choice(size="2x12", spacing=joists),
            Choice(size="2x12", spacing=rafters),
            floor_live=live,
            floor_dead=dead,
            roof_dead=dead,
            ground_snow=snow,
            ceiling_dead=ceiling,
        )
    )
    assert not model.path.lost
    for put_on, arrived in zip(model.path.applied, model.path.arrived, strict=True):
        assert arrived == pytest.approx(put_on, rel=1e-3)
    footings = [p for p in model.pieces.values() if p.role == "strip footing"]
    assert model.soil.all == pytest.approx(
        model.path.applied.all + total(own_weight(f) for f in footings).all, rel=1e-3
    )


def test_area_loads_by_hand(demo_model):
    """40 ft x 28 ft at 40 psf live; snow on 40 ft x 30 ft at 30 psf; attic 10 psf."""
    lb = 4.4482216152605
    floors = total(r.force for r in floor_reactions(demo_model.floors[0], demo_model.project.loads))
    assert floors.live / lb == pytest.approx(40 * 28 * 40)
    roof = total(r.force for r in roof_reactions(demo_model.roofs[0], demo_model.project.loads))
    assert roof.snow / lb == pytest.approx(40 * 30 * 30)
    assert roof.live / lb == pytest.approx(40 * 28 * 10)
    assert roof.dead / lb == pytest.approx(40 * 30 * 10 * 1.25**0.5 + 40 * 28 * 5)


def test_moments_balance_about_the_middle_wall(demo_model):
    """A joist's two reactions have their load's moment about any point."""
    loads = demo_model.project.loads
    line = demo_model.floors[0].lines[0]
    pair = floor_reactions(demo_model.floors[0], loads)[:2]
    moment = sum(r.force.live * demo_model.floors[0].frame.to(r.at)[0] for r in pair)
    middle = (line.load_low + line.load_high) / 2
    assert moment == pytest.approx(sum(r.force.live for r in pair) * middle)


def test_thrust_of_a_pair_of_rafters(demo_model):
    """Three-hinged arch by hand: H = w (L^2 - a^2) / (2 rise), w = 30 psf snow x 16 in."""
    plan = demo_model.roofs[0]
    w = 30 * 16 / 12  # lb/ft
    want = w * (14**2 - 1) / 2 / 7
    assert thrust(plan, demo_model.project.loads).snow / 4.4482216 == pytest.approx(want, rel=1e-3)


def test_thrust_against_a_frame_program(demo_model):
    """A pair of rafters with overhangs and a tie in anastruct (weightless overhang load as end forces)."""
    from anastruct import SystemElements

    plan, loads = demo_model.roofs[0], demo_model.project.loads
    run, rise, over = plan.half / 1000, plan.half * plan.roof.pitch / 1000, plan.roof.overhang / 1000
    w = loads.ground_snow * max(s.width for s in plan.stations) / 1000  # kN/m on plan
    frame = SystemElements(EA=1e9, EI=1e5)
    frame.add_element([[-over, -over * plan.roof.pitch], [0, 0]])
    frame.add_element([[0, 0], [run, rise]], spring={2: 0})
    frame.add_element([[run, rise], [2 * run, 0]])
    frame.add_element([[2 * run, 0], [2 * run + over, -over * plan.roof.pitch]])
    frame.add_truss_element([[0, 0], [2 * run, 0]])
    frame.add_support_hinged(frame.find_node_id([0, 0]))
    frame.add_support_roll(frame.find_node_id([2 * run, 0]))
    cos = 1 / (1 + plan.roof.pitch**2) ** 0.5
    for element in (1, 2, 3, 4):
        frame.q_load(q=-w * cos, element_id=element, direction="y")
    frame.solve()
    tie = frame.get_element_results(5)["Nmax"]
    assert tie == pytest.approx(thrust(plan, loads).snow / 1000, rel=0.01)


def test_a_bearing_wall_on_nothing_is_lost_and_said():
    from balken.model import edits

    p = house(middle=True)
    p = edits.change(p, "foundation-1", walls=("wall-1", "wall-2", "wall-3", "wall-4"))
    p = edits.remove(p, "floor-1")  # whose joists would carry it
    model = derive(p)
    assert model.path.lost
    assert any(f.code == "nothing below" and "wall-5" in f.things for f in model.findings)


@given(
    st.lists(st.tuples(st.floats(-500, 9000), st.floats(0, 3000), st.floats(0, 1e4)), min_size=1, max_size=30),
    st.integers(1, 40),
)
def test_many_loads_lie_as_each_of_them_does(rows, stretches):
    """Sums along the wall give the same diagram as every load laid by itself."""
    one, many = Spread(0.0, 300.0 * stretches), Spread(0.0, 300.0 * stretches)
    low = np.array([a for a, _, _ in rows])
    high = low + np.array([b for _, b, _ in rows])
    loads = np.array([[c, 0.5 * c, 0.0, 1.0, 0.0] for _, _, c in rows])
    one.put_many(low, high, loads)
    a = np.minimum(np.maximum(low, 0.0), many.high - 1.0)
    b = np.minimum(np.maximum(high, a + 1.0), many.high)
    many.rows += np.diff(load_before(many.edges, a, b, loads), axis=0)
    assert many.rows == pytest.approx(one.rows, abs=1e-6 * max(1.0, loads.sum()))
    assert many.rows.sum(axis=0) == pytest.approx(loads.sum(axis=0), rel=1e-9, abs=1e-6)
