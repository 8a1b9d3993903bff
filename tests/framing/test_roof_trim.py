"""Collar ties, and fly rafters with their blocks over gables: counted by hand; nothing stands in anything."""

import itertools
import math

import pytest
from hypothesis import example, given, settings
from hypothesis import strategies as st
from tests.framing.solids import apart
from tests.framing.test_dormers import with_dormer
from tests.framing.test_joined_roofs import GABLES
from tests.houses import house

from balken.derive import derive
from balken.model import edits
from balken.model.roof_edits import set_side
from balken.units.system import FOOT, INCH


def roofed(pitch=0.5, **fields):
    p = house(long=40.0 * FOOT, wide=28.0 * FOOT)
    return edits.change(p, "roof-1", shape="planes", sides=GABLES, pitch=pitch, **fields)


def of(model, role):
    return [p for p in model.pieces.values() if p.role == role]


def test_collar_ties_stand_in_the_upper_third_no_farther_than_four_feet_apart():
    model = derive(roofed())
    ties = of(model, "collar tie")
    places = sorted(p.start[0] for p in ties)
    assert len(ties) > 8
    assert max(b - a for a, b in itertools.pairwise(places)) <= 4.0 * FOOT + 1.0
    plan = model.surfaces[0]
    top = plan.surface.top
    for tie in ties:
        low, high = tie.solid.heights
        assert low - plan.bearing - plan.plate_to_top == pytest.approx(top * 2.0 / 3.0, abs=1.0)
        assert high - low == pytest.approx(3.5 * INCH)
    # At a third of the height below the ridge both slopes are a third of the span apart.
    assert ties[0].length == pytest.approx(28.0 * FOOT / 3.0, rel=0.02)


def test_on_every_pair_or_none():
    pairs = len({tie.rafters for tie in derive(roofed()).planes["roof-1"].ties})
    assert len(of(derive(roofed(collar="all")), "collar tie")) == pairs
    assert not of(derive(roofed(collar="none")), "collar tie")
    assert not of(derive(roofed(ridge_made="beam")), "collar tie")


def test_ladders_counted_by_hand():
    """Four rakes; up each from the bearing line to the ridge a block every 24 in."""
    model = derive(roofed(overhang=1.0 * FOOT))
    flies, blocks = of(model, "fly rafter"), of(model, "ladder block")
    assert len(flies) == 4
    slope = 14.0 * FOOT * math.hypot(1.0, 0.5)
    assert len(blocks) == 4 * (math.floor((slope - 3.5 * INCH) / (24.0 * INCH)) + 1)
    for block in blocks:
        assert block.length == pytest.approx(12.0 * INCH - 1.5 * INCH)
    long = (14.0 + 1.0) * FOOT * math.hypot(1.0, 0.5) + 7.25 * INCH * 0.5
    assert flies[0].length == pytest.approx(long, rel=1e-3)


def test_what_no_ladder_reaches_is_told():
    wide = derive(set_side(roofed(framed="trusses"), "roof-1", "wall-2", overhang=2.0 * FOOT))
    assert any("too far for a ladder" in f.what for f in wide.findings)
    assert not any(f.code == "gable overhang" for f in derive(roofed()).findings)
    flush = derive(roofed(overhang=0.0))
    assert not of(flush, "fly rafter")


@given(
    st.sampled_from([1 / 3, 0.5, 0.75, 1.0]),
    st.sampled_from([0.0, 150.0, 300.0, 600.0]),
    st.booleans(),
    st.booleans(),
    st.sampled_from([0.0, 100.0, 450.0, 1300.0]),
)
@example(0.75, 0.0, True, True, 0.0)  # the trimmer of the dormer is the last of its row: its tie lies off the opening
@example(0.75, 0.0, False, True, 450.0)
@settings(max_examples=8, deadline=None)
def test_nothing_of_them_stands_in_anything(pitch, overhang, hip, dormer, raised):
    p = roofed(pitch, overhang=overhang, tie_raise=raised)
    p = set_side(p, "roof-1", "wall-2", kind="eave") if hip else p
    p = with_dormer(p) if dormer else p
    model = derive(p)
    pieces = [x for x in model.pieces.values() if x.owner in ("roof-1", "dormer-1")]
    roles = ("fly rafter", "ladder block", "collar tie", *(("ceiling tie",) if raised else ()))
    apart([x for x in pieces if x.role in roles], pieces, 1e4)
