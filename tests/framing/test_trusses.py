"""Trusses as they are sawn: nothing stands in anything, all within the outline, lengths and cuts by hand; patterns and heels."""

import itertools
import math

import pytest
import shapely
from hypothesis import assume, given, settings
from hypothesis import strategies as st

from balken.catalog.sections import section
from balken.framing.truss_outline import TrussError, alongside, height_on, moved, ridged, sloped
from balken.framing.truss_sticks import sawn_sticks
from balken.framing.truss_webs import PATTERNS, chosen
from balken.framing.trusses import Sizes, truss_frame
from balken.units.system import FOOT, INCH


def outline(shape, span, pitch, heel, over, bearing=3.5 * INCH, lower=None):
    if shape == "one-sloped":
        return sloped(span, pitch, heel, over, bearing)
    if shape == "parallel":
        return alongside(span, pitch, heel, over, bearing)
    return ridged(span, pitch, heel, over, bearing, pitch / 2.0 if shape == "scissors" else (lower or 0.0))


def laid(shape, span=24.0 * FOOT, pitch=0.5, heel=None, over=FOOT, sizes=None, stock=None, bearing=3.5 * INCH):
    sizes = sizes or Sizes()
    heel = heel or section(sizes.top).depth * math.hypot(1.0, pitch) + 6.0
    heel = max(heel, 20.0 * INCH) if shape == "parallel" else heel
    around = outline(shape, span, pitch, heel, over, bearing)
    return truss_frame(around, PATTERNS[shape](around), sizes, stock)


@given(
    st.sampled_from(sorted(PATTERNS)),
    st.floats(10.0, 44.0),
    st.sampled_from([0.1, 0.25, 1 / 3, 0.5, 0.75, 1.0, 1.5]),
    st.floats(0.0, 18.0),
    st.sampled_from([0.0, 100.0, 600.0]),
    st.sampled_from(["2x4", "2x6", "2x8"]),
    st.sampled_from(["2x4", "2x6", "2x10"]),
    st.sampled_from(["2x4", "2x6"]),
)
@settings(max_examples=60, deadline=None)
def test_nothing_of_a_truss_stands_in_anything_else_of_it(shape, span, pitch, raised, over, top, bottom, webs):
    heel = section(top).depth * math.hypot(1.0, pitch) + 6.0 + raised * INCH
    try:
        frame = laid(shape, span * FOOT, pitch, heel, over, Sizes(top, bottom, webs))
        sawn = sawn_sticks(frame)
    except TrussError:
        assume(False)
    bodies = {name: shapely.Polygon(one.ring) for name, one in sawn.items()}
    for one, other in itertools.combinations(bodies, 2):
        assert bodies[one].intersection(bodies[other]).area < 10.0, (one, other)
    edge = frame.outline.top
    for name, one in sawn.items():
        assert bodies[name].is_valid
        for x, y in one.ring:
            assert y <= height_on(edge, x) + 0.5, name
            assert y >= height_on(frame.outline.bottom, x) - 0.5 or x < 0.5 or x > frame.outline.end - 0.5, name
    # The middle line of every web runs in its stick.
    for stick in frame.sticks:
        a, b = (frame.joints[name] for name in (stick.joints[0], stick.joints[-1]))
        if stick.role == "web":
            assert bodies[stick.name].intersection(shapely.LineString([a, b])).length > 20.0


def test_lengths_and_cuts_by_hand():
    """24 ft, 6:12, overhang 1 ft, 2x4: 26.6 degrees all round; the top chord 13 ft of plan and what its plumb end adds along it."""
    frame = laid("fink", stock=60.0 * FOOT)
    sawn = sawn_sticks(frame)
    top = sawn["TC1"]
    assert top.length == pytest.approx(13.0 * FOOT * math.hypot(1.0, 0.5) + 3.5 * INCH * 0.5, abs=0.5)
    assert top.cuts == ((26.57,), (26.57,))
    assert sawn["BC1"].length == pytest.approx(24.0 * FOOT)
    # Ends under the top chord: the saw stands at 63.4 degrees from square.
    assert sorted(sawn["BC1"].cuts[0])[-1] == pytest.approx(63.43, abs=0.01)
    assert len(sawn["BC1"].cuts[0]) == 2  # with what the butt cut leaves
    post = sawn_sticks(laid("king-post", stock=60.0 * FOOT))["W1"]
    # Upright under the peak: from the bottom chord's face to the undersides of both slopes.
    heel = 3.5 * INCH * math.hypot(1.0, 0.5) + 6.0
    peak = heel + 12.0 * FOOT * 0.5 - 3.5 * INCH * math.hypot(1.0, 0.5)
    assert post.length == pytest.approx(peak - 3.5 * INCH, abs=0.5)
    assert post.cuts[0] == (0.0,)
    assert post.cuts[1] == pytest.approx((26.57, 26.57), abs=0.01)


def test_chords_meet_at_heels_as_they_are_made():
    """Middle lines cross where both say: 6:12, heel 3.913 + 0.236 in: (heel - 1.957 - 1.75) / 0.5 outside the outer face."""
    frame = laid("fink")
    heel = (3.5 * math.hypot(1.0, 0.5) + 6.0 / 25.4) * INCH
    out = (heel - 3.5 * INCH * math.hypot(1.0, 0.5) / 2.0 - 1.75 * INCH) / 0.5
    assert frame.joints["heel left"] == pytest.approx((-out, 1.75 * INCH), abs=1e-6)
    raised = laid("fink", heel=14.0 * INCH)
    assert raised.joints["heel left"][0] == pytest.approx(1.75 * INCH)
    uprights = [s.joints for s in raised.sticks if s.role == "web" and s.joints[0] == "bearing left"]
    assert ("bearing left", "heel left") in uprights
    assert ("bearing left", "strut left") in uprights
    strut, seat, peak = (raised.joints[name] for name in ("strut left", "bearing left", "T2"))
    steep = math.atan2(strut[1] - seat[1], strut[0] - seat[0]) - math.atan(0.5)
    assert math.degrees(steep) == pytest.approx(20.0, abs=0.5)
    assert peak[1] > strut[1]


def test_chords_are_spliced_at_quarters_no_longer_than_the_stock():
    frame = laid("double-fink", 44.0 * FOOT, 0.5)
    sawn = sawn_sticks(frame)
    assert frame.splices
    assert max(one.length for one in sawn.values()) <= 20.0 * FOOT + 4.0 * INCH
    xs = sorted(frame.joints[name][0] for name in frame.joints if name.startswith("B"))
    for name in frame.splices:
        x = frame.joints[name][0]
        if name.startswith("splice bottom"):
            low = max((a for a in (0.0, *xs) if a <= x), default=0.0)
            high = min((a for a in (*xs, 44.0 * FOOT) if a > x), default=44.0 * FOOT)
            part = (x - low) / (high - low)
            assert min(abs(part - 0.25), abs(part - 0.75), abs(part - 0.5)) < 0.02
    hinged = {one.i for one in frame.elements if one.hinge_i} | {one.j for one in frame.elements if one.hinge_j}
    assert set(frame.splices) <= hinged
    assert not laid("double-fink", 44.0 * FOOT, 0.5, stock=60.0 * FOOT).splices


def test_the_pattern_follows_the_span():
    names = [chosen(ridged(feet * FOOT, 0.5, 4.2 * INCH, 0.0, 3.5 * INCH)) for feet in (14, 20, 28, 46, 60)]
    assert names == ["king-post", "queen-post", "fink", "double-fink", "howe"]
    assert chosen(sloped(12.0 * FOOT, 0.25, 4.0 * INCH, 0.0, 3.5 * INCH)) == "one-sloped"


def test_panels_are_no_longer_than_their_limits():
    for feet in range(10, 90, 7):
        around = ridged(feet * FOOT, 0.5, 4.2 * INCH, 0.0, 3.5 * INCH)
        pattern = PATTERNS[chosen(around)](around)
        row = (0.0, *pattern.top, feet * FOOT)
        assert max(b - a for a, b in itertools.pairwise(row)) <= 8.0 * FOOT + 1.0


def test_a_gable_end_has_studs_no_farther_apart_than_typed():
    around = ridged(28.0 * FOOT, 0.5, 4.2 * INCH, 0.0, 3.5 * INCH)
    pattern = PATTERNS["gable-end"](around)
    assert pattern.all_along
    assert max(b - a for a, b in itertools.pairwise(pattern.top)) <= 24.0 * INCH + 1e-6
    frame = truss_frame(around, pattern, Sizes())
    assert len(frame.held) == len(pattern.bottom) + 2


def test_a_room_is_as_high_as_it_must_be():
    frame = laid("room", 32.0 * FOOT, 1.0, sizes=Sizes("2x8", "2x10", "2x4"))
    bodies = {name: shapely.Polygon(one.ring) for name, one in sawn_sticks(frame).items()}
    floor = max(y for x, y in moved(frame.outline.bottom, section("2x10").depth))
    tie = min(y for _, y in bodies["W2"].exterior.coords)
    assert tie - floor >= 7.0 * FOOT - 1.0
    walls = [frame.joints[name][0] for name in ("B1", "B2")]
    inside = shapely.box(walls[0] + 50.0, floor + 1.0, walls[1] - 50.0, floor + 4.0 * FOOT)
    assert all(body.intersection(inside).area < 1.0 for body in bodies.values())


def test_what_cannot_be_laid_says_why():
    for kwargs, said in (
        ({"heel": 2.0 * INCH}, "plumb depth"), ({"span": 0.9 * FOOT}, "span"), ({"pitch": 0.02, "span": 8.0 * FOOT}, "too close"),
        ({"span": 24.0 * FOOT, "stock": 2.0 * FOOT}, "stock"),
    ):  # fmt: skip
        with pytest.raises(TrussError, match=said):
            laid("fink", **kwargs)
    with pytest.raises(TrussError, match="7 ft"):
        laid("room", 20.0 * FOOT, 0.4)
