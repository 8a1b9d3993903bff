"""Gablets: their width and ridge by hand, in the planes beside their hip; in nothing else; what they weigh on the hip's rafters."""

import math

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from tests.framing.solids import apart
from tests.houses import house
from tests.loads.test_beams import balanced

from balken.derive import derive
from balken.framing.dormers import deck_at
from balken.loads.cases import total
from balken.model import edits
from balken.model.records import Choice
from balken.model.roof_edits import add_dormer, set_side
from balken.units.system import FOOT, INCH


def hipped(pitch=0.5, size="2x10", **fields):
    p = house(long=40.0 * FOOT, wide=28.0 * FOOT)
    return edits.change(p, "roof-1", shape="planes", sides=(), pitch=pitch, rafters=Choice(size=size), **fields)


def with_gablet(p=None, wall="wall-2", front=8.0 * FOOT, **fields):
    return add_dormer(p or hipped(), "roof-1", wall, 14.0 * FOOT, front, shape="gablet", **fields)


def of(model, role):
    return [p for p in model.pieces.values() if p.owner == "dormer-1" and p.role == role]


def heights(plan):
    """Every corner of a roof's planes: its place in plan, the underside of the deck there."""
    lift = plan.bearing + plan.plate_to_top
    return [(x, y, z + lift, face) for face in plan.surface.faces for x, y, z in face.ring]


def test_its_planes_lie_in_those_beside_the_hip():
    """Wall 1 rises 9:12, wall 3 6:12: y in of wall 1 and 28 ft - y in of wall 3, over the height at which the roof's own begin."""
    model = derive(with_gablet(set_side(hipped(), "roof-1", "wall-1", pitch=0.75)))
    host, made = model.surfaces[0], model.dormers["dormer-1"]
    assert not made.problem
    begins = host.bearing + host.plate_to_top
    rows = heights(made.plan)
    assert len({face.edge for *_, face in rows}) == 2
    for _, y, z, face in rows:
        rises = 0.75 * y if face.pitch == 0.75 else 0.5 * (28.0 * FOOT - y)
        assert z == pytest.approx(begins + rises, abs=0.1)
    (ridge,) = (line for line in made.plan.surface.lines if line.kind == "ridge")
    (own,) = (line for line in host.surface.lines if line.kind == "ridge")
    assert ridge.start[1] == pytest.approx(own.start[1], abs=0.1)
    assert max(ridge.start[0], ridge.end[0]) == pytest.approx(32.0 * FOOT)


def test_its_width_by_hand():
    """Over its sole, a plate of 1 1/2 in on a deck of 5/8 in, stand rafters 5 1/2 in deep on seats of 3 1/2 in or a quarter of their depth."""
    model = derive(with_gablet(rafters=Choice(size="2x6")))
    host, made = model.surfaces[0], model.dormers["dormer-1"]
    slope, begins = math.hypot(1.0, 0.5), host.plate_to_top
    deck = begins + 0.5 * (8.0 * FOOT + 3.5 * INCH) + 5.0 / 8.0 * INCH * slope
    stands = made.plan.plate_to_top
    assert stands == pytest.approx(
        5.5 * INCH * slope - min(3.5 * INCH, 5.5 * INCH / 4.0 / (0.5 / slope)) * 0.5, abs=0.1
    )
    in_from_wall = (deck + 1.5 * INCH * slope + stands - begins) / 0.5
    assert made.place.s == pytest.approx((in_from_wall, 28.0 * FOOT - in_from_wall))
    (sole,) = of(model, "dormer plate")
    assert sole.length == pytest.approx(28.0 * FOOT - 2.0 * in_from_wall)
    assert len(of(model, "fly rafter")) == 2
    assert len(of(model, "valley board")) == 2
    # One stud every 16 in of the face but for the one in whose place the ridge runs out, and those too short to nail in.
    studs = of(model, "dormer stud")
    assert math.floor(sole.length / (16.0 * INCH)) - 2 <= len(studs) <= math.floor(sole.length / (16.0 * INCH))


def test_it_presses_on_the_hips_rafters_and_all_of_it_comes_down():
    p = with_gablet()
    model, without = derive(p), derive(hipped())
    made = model.dormers["dormer-1"]
    brought = total(foot.force for foot in made.feet)
    area = sum(face.plan_area for face in made.plan.whole.faces)
    assert brought.roof_live == pytest.approx(p.loads.roof_live * area / 1000.0, rel=1e-6)
    # Its face: a triangle over what its eaves lie above the hip's deck in the middle of its thickness.
    eaves = made.plan.bearing + made.plan.plate_to_top - deck_at(model.surfaces[0], 1, 8.0 * FOOT + 1.75 * INCH)
    s0, s1 = made.place.s
    face = (s1 - s0) * (eaves + made.plan.surface.top / 2.0)
    assert made.weight.dead == pytest.approx(11.0 * 4.4482216 / 0.3048**2 / 1e6 * face, rel=1e-3)
    balanced(model)
    # No roof live load lies twice where it covers the hip.
    whole = [sum(r.force.roof_live for r in m.planes["roof-1"].walls) for m in (model, without)]
    assert whole[0] == pytest.approx(whole[1], rel=0.02)
    host, bare = model.planes["roof-1"], without.planes["roof-1"]
    more = [k for k in host.results if k in bare.results and host.results[k].used > bare.results[k].used + 1e-6]
    assert any("wall-2" in k or "plane-hip" in k for k in more)


@given(
    st.sampled_from([0.25, 1.0 / 3.0, 0.5, 0.75, 1.0]),
    st.sampled_from([0.3, 0.5, 0.75, 1.2]),
    st.floats(0.0, 14.0),
    st.sampled_from(["2x4", "2x6", "2x8", None]),
    st.sampled_from(["2x4", "2x6"]),
    st.sampled_from([0.0, 150.0, 500.0]),
    st.sampled_from(["board", "beam"]),
)
@settings(max_examples=20, deadline=None)
def test_any_gablet_stands_in_nothing_and_balances_or_says_why_not(pitch, end, front, size, studs, over, ridge):
    p = set_side(hipped(pitch, "2x12", ridge_made=ridge), "roof-1", "wall-2", pitch=end)
    model = derive(with_gablet(p, front=front * FOOT, rafters=Choice(size=size), studs=studs, overhang=over))
    made = model.dormers["dormer-1"]
    balanced(model)
    assert bool(made.problem) == any(f.code == "dormer" for f in model.findings)
    if made.framing is None:
        assert made.problem
        return
    begins = model.surfaces[0].bearing + model.surfaces[0].plate_to_top
    for _, y, z, _ in heights(made.plan):
        assert z == pytest.approx(begins + pitch * min(y, 28.0 * FOOT - y), abs=0.5)
    others = [p for p in model.pieces.values() if p.role != "wall layer"]
    apart([p for p in others if p.owner == "dormer-1"], others, 2000.0)


@pytest.mark.parametrize(("fields", "told"), [
    ({"front": 12.0 * FOOT}, "too narrow"),
    ({"front": 20.0 * FOOT}, "needs a hip at either side"),
    ({"wall": "wall-1"}, "do not meet over the hip"),
    ({"front": 100.0, "rafters": Choice(size="2x12", spacing=12.0 * INCH)}, ""),
])  # fmt: skip
def test_what_cannot_stand_says_why(fields, told):
    model = derive(with_gablet(**fields))
    rows = [f for f in model.findings if f.code == "dormer"]
    assert [told in f.why for f in rows] == ([True] if told else [])
    assert bool(told) == bool(model.dormers["dormer-1"].problem)


def test_none_on_a_flat_roof_a_gable_or_beside_a_skew_side():
    for p, told in (
        (hipped(0.2), "flat"),
        (set_side(hipped(), "roof-1", "wall-2", kind="gable"), "no plane over its wall"),
    ):
        assert told in derive(with_gablet(p)).dormers["dormer-1"].problem
    from tests.framing.test_surface_framing import roofed

    p = roofed([(0, 0), (44, 0), (40, 28), (0, 28)])
    assert "square" in derive(with_gablet(p, front=6.0 * FOOT)).dormers["dormer-1"].problem


def test_it_goes_on_a_half_hip_and_follows_it():
    p = set_side(hipped(), "roof-1", "wall-2", raised=2.0 * FOOT)
    model = derive(with_gablet(p, front=5.0 * FOOT))
    made = model.dormers["dormer-1"]
    assert not made.problem
    begins = model.surfaces[0].bearing + model.surfaces[0].plate_to_top
    for _, y, z, _ in heights(made.plan):
        assert z == pytest.approx(begins + 0.5 * min(y, 28.0 * FOOT - y), abs=0.1)
    steeper = derive(edits.change(with_gablet(p, front=5.0 * FOOT), "roof-1", pitch=0.75))
    assert steeper.dormers["dormer-1"].plan.surface.top > made.plan.surface.top
