"""Bird's mouths by a typed seat, or by a typed height above the plate."""

import math

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from tests.framing.test_surface_roofs import L_HOUSE, roofed

from balken.catalog.sections import section
from balken.derive import derive
from balken.findings.fixes import FIXES
from balken.framing.surface_roofs import seat_at
from balken.geometry.plane import add, dot, unit
from balken.geometry.prism import Prism
from balken.geometry.seated import Seated
from balken.model import edits
from balken.model.errors import EditError
from balken.model.records import Choice
from balken.model.roof_edits import set_side
from balken.units.system import FOOT, INCH


def of(model, role):
    return [p for p in model.pieces.values() if p.role == role]


def told(model):
    return [f for f in model.findings if f.code == "seat"]


@settings(max_examples=25, deadline=None)
@given(
    pitch=st.floats(0.25, 1.0), above=st.floats(4.0, 9.0), size=st.sampled_from(["2x6", "2x8", "2x10"]), overhang=st.sampled_from([0.0, 1.5]),
)  # fmt: skip
def test_heights_above_the_plate_hold_all_round(pitch, above, size, overhang):
    """The deck lies at that height over the outer face of every wall, hips with it; seats follow: depth plumb less height, over the pitch."""
    p = roofed(
        L_HOUSE,
        overhang=overhang * FOOT,
        pitch=pitch,
        above_plate=above * INCH,
        rafters=Choice(size=size, spacing=24.0 * INCH),
    )
    model = derive(p)
    (plan,) = model.surfaces
    assert plan.plate_to_top == pytest.approx(above * INCH)
    depth = section(size).depth
    seat = (depth * math.hypot(1.0, pitch) - above * INCH) / pitch
    assert seat_at(plan.roof, pitch, depth) == pytest.approx(seat)
    notch = seat * pitch / math.hypot(1.0, pitch)
    assert bool(told(model)) == (seat < 1.5 * INCH - 0.5 or notch > depth / 4.0 + 0.5)
    if told(model):
        return
    members = {one.key: one.member for one in model.planes["roof-1"].members}
    seen = set()
    for piece in of(model, "rafter"):
        m = members[piece.key]
        if not m.at_eave:
            continue
        way = unit(*m.ends)
        seen.add(type(piece.solid))
        if isinstance(piece.solid, Seated):
            # Its underside comes through the level of the plate that far in.
            assert piece.solid.level == pytest.approx(plan.bearing)
            assert piece.solid.whole.low(add(m.start[:2], way, seat)) == pytest.approx(plan.bearing, abs=0.01)
        elif isinstance(piece.solid, Prism):
            level = [dot(way, (x, y)) for x, y, z in piece.solid.corners() if abs(z - plan.bearing) < 0.01]
            assert max(level) - min(level) == pytest.approx(seat, abs=0.01)
    assert seen & {Seated, Prism}
    for piece in of(model, "hip rafter"):
        assert min(z for _, _, z in piece.solid.corners()) < plan.bearing + above * INCH


def test_a_typed_seat():
    p = roofed(rafters=Choice(size="2x8", spacing=16.0 * INCH), seat=2.5 * INCH)
    model = derive(p)
    (plan,) = model.surfaces
    # By hand: 7 1/4 in deep at 6:12, plumb 8.106 in, less 2 1/2 in at 6:12.
    assert plan.plate_to_top == pytest.approx((7.25 * math.hypot(1.0, 0.5) - 1.25) * INCH)
    assert not told(model)
    usual = derive(roofed(rafters=Choice(size="2x8", spacing=16.0 * INCH)))
    assert plan.plate_to_top > usual.surfaces[0].plate_to_top
    cases = [
        model.planes["roof-1"].results[one.key].case
        for one in model.planes["roof-1"].members
        if one.wall and one.member.at_eave
    ]
    assert max(case.bearing for case in cases) == pytest.approx(2.5 * INCH)
    assert max(case.notch for case in cases) == pytest.approx(2.5 * INCH * 0.5 / math.hypot(1.0, 0.5), abs=0.01)
    # Too long: cut deeper than a quarter, told, and mended by one click.
    deep = edits.change(p, "roof-1", seat=5.5 * INCH)
    found = told(derive(deep))[0]
    assert "R802.7.1" in found.why
    mended = FIXES[found.fix.command](deep, *found.fix.args, **dict(found.fix.fields))
    assert not told(derive(mended))
    assert mended.roofs[0].seat is None


def test_rafters_typed_to_lie_over_their_plates_are_told():
    high = roofed(rafters=Choice(size="2x6", spacing=16.0 * INCH), above_plate=8.0 * INCH)
    found = told(derive(high))
    assert found
    assert all(f.grave for f in found)
    assert "Type another height" in found[0].why


def test_eaves_of_other_pitches_begin_as_high():
    p = roofed(rafters=Choice(size="2x10", spacing=16.0 * INCH), above_plate=6.0 * INCH)
    p = set_side(p, "roof-1", "wall-2", pitch=0.75)
    (plan,) = derive(p).surfaces
    assert seat_at(plan.roof, 0.75, 9.25 * INCH) == pytest.approx((9.25 * math.hypot(1.0, 0.75) - 6.0) / 0.75 * INCH)


@pytest.mark.parametrize(
    ("fields", "says"),
    [
        ({"seat": 10.0}, "1 1/2 in"),
        ({"above_plate": 10.0}, "1 to 24 in"),
        ({"seat": 60.0, "above_plate": 150.0}, "one of the two"),
    ],
)
def test_what_cannot_be_typed_is_said(fields, says):
    with pytest.raises(EditError, match=says):
        edits.change(roofed(), "roof-1", **fields)
