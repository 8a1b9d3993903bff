"""Dormers: where they die into the roof by hand, their walls and roofs in nothing else, what they bring to the rafters below."""

import math
import random

import pytest
from hypothesis import example, given, settings
from hypothesis import strategies as st
from tests.framing.solids import apart
from tests.framing.test_joined_roofs import GABLES
from tests.houses import house
from tests.loads.test_beams import balanced

from balken.derive import derive
from balken.framing.dormers import deck_at
from balken.loads.cases import Cases, total
from balken.loads.roof_feet import Pressed, leaning_pressure, pressed_as_even
from balken.model import edits
from balken.model.errors import EditError
from balken.model.records import Choice
from balken.model.roof_edits import add_dormer, add_roof_opening
from balken.units import Units
from balken.units.system import FOOT, INCH


def roofed(pitch=0.75, **fields):
    p = house(long=40.0 * FOOT, wide=28.0 * FOOT)
    return edits.change(p, "roof-1", shape="planes", sides=GABLES, pitch=pitch, rafters=Choice(size="2x12"), **fields)


def with_dormer(p=None, **fields):
    made = {"wall": "wall-1", "along": 20.0 * FOOT, "front": 3.0 * FOOT} | fields
    return add_dormer(p if p is not None else roofed(), "roof-1", **made)


def test_a_gable_dormer_dies_into_the_roof_where_the_deck_is_as_high_as_its_plates():
    model = derive(with_dormer())
    made, host = model.dormers["dormer-1"], model.surfaces[0]
    assert not made.problem
    near, far = made.place.t
    assert far - near == pytest.approx(5.0 * FOOT / 0.75)  # plates 5 ft over a roof of 9:12
    assert made.place.bearing == pytest.approx(deck_at(host, 0, 3.0 * FOOT) + 5.0 * FOOT)
    (ridge,) = (line for line in made.plan.surface.lines if line.kind == "ridge")
    # Its ridge: half its width at 6:12 over the plates, and as far in as a roof of 9:12 takes to be as high (boards on its deck off).
    lift = made.plan.plate_to_top - 1.5 * INCH * math.hypot(1.0, 0.75)
    assert max(ridge.start[1], ridge.end[1]) == pytest.approx(far + (4.0 * FOOT * 0.5 + lift) / 0.75, abs=0.5)


def test_a_lean_to_dormer_dies_where_both_slopes_meet():
    model = derive(with_dormer(shape="lean-to", pitch=0.25, width=10.0 * FOOT))
    made = model.dormers["dormer-1"]
    assert not made.problem
    near, far = made.place.t
    lift = made.plan.plate_to_top - 1.5 * INCH * math.hypot(1.0, 0.75)
    assert far - near == pytest.approx((5.0 * FOOT + lift) / (0.75 - 0.25))
    (line,) = (line for line in made.plan.surface.lines if line.kind == "laid")
    assert {round(p[1]) for p in (line.start, line.end)} == {round(far)}


def test_its_walls_are_counted_as_a_carpenter_would():
    model = derive(with_dormer())
    pieces = [p for p in model.pieces.values() if p.owner == "dormer-1"]
    count = {
        role: sum(p.role == role for p in pieces) for role in ("dormer header", "valley board", "dormer sheathing")
    }
    assert count == {"dormer header": 1, "valley board": 2, "dormer sheathing": 3}
    # Each cheek: a sole and two plates; the face: a sole, two plates, a sill.
    assert sum(p.role == "dormer plate" for p in pieces) == 2 * 3 + 4
    cheek = [p for p in pieces if p.role == "dormer stud" and "dormer-1.left" in p.key]
    # From the face's back to where 5 ft come to nothing at 9:12, one every 16 in.
    start, end = 3.0 * FOOT + 3.5 * INCH, 3.0 * FOOT + 5.0 * FOOT / 0.75
    steps = (end - start) / (16.0 * INCH)
    assert len(cheek) in (math.floor(steps), math.ceil(steps))
    longest = max(p.length for p in cheek)
    assert longest == pytest.approx(5.0 * FOOT - 0.75 * 3.5 * INCH - 3.0 * INCH - 1.5 * INCH * 1.25, abs=1.0)


def test_what_it_brings_down_is_its_roof_ceiling_and_walls():
    p = with_dormer()
    model = derive(p)
    made, loads = model.dormers["dormer-1"], p.loads
    brought = total(foot.force for foot in made.feet)
    area = sum(face.plan_area for face in made.plan.whole.faces)
    assert brought.roof_live == pytest.approx(loads.roof_live * area / 1000.0, rel=1e-6)
    # Walls by hand: the face 8 ft wide, 5 ft high and its gable; two cheeks, triangles behind the face.
    face = 8.0 * FOOT * 5.0 * FOOT + 4.0 * FOOT * 2.0 * FOOT
    long = 5.0 * FOOT / 0.75
    cheeks = 2.0 * (long - 3.5 * INCH) ** 2 * 0.75 / 2.0
    lower = 0.75 * 1.75 * INCH * 8.0 * FOOT  # in the middle of its thickness the face stands on a higher place
    assert made.weight.dead == pytest.approx(11.0 * 4.4482216 / 0.3048**2 / 1e6 * (face + cheeks - lower), rel=0.01)
    balanced(model)


def test_trimmers_stand_below_its_cheeks_and_carry_it():
    p = with_dormer()
    model, without = derive(p), derive(roofed())
    host = model.planes["roof-1"]
    rows = {one.key: one.member for one in host.members}
    trimmers = [rows[f"roof-1/dormer-trimmer/dormer-1/{k}"] for k in "ab"]
    x = [m.start[0] for m in trimmers]
    assert x == pytest.approx([20.0 * FOOT + side * (4.0 * FOOT - 1.75 * INCH) for side in (-1.0, 1.0)], abs=0.5)
    mates = [rows[f"roof-1/dormer-mate/dormer-1/{k}"] for k in "ab"]
    assert [m.start[0] for m in mates] == pytest.approx(x, abs=0.5)
    assert len(host.untied) == len(without.planes["roof-1"].untied) == 0
    assert all(host.boards.own[f"roof-1/dormer-trimmer/dormer-1/{k}"][0] in "23" for k in "ab")
    before, after = (sum(r.force.dead for r in m.planes["roof-1"].walls) for m in (without, model))
    assert after > before


def test_points_as_an_even_load_by_hand():
    """One load in the middle: M = P L / 4 is that of an even 2 P / L; one near an end presses: 2 P (L - x) / L / L."""
    (middle,) = [pressed_as_even([Pressed(1500.0, Cases(dead=900.0))], 3000.0)]
    assert middle.dead == pytest.approx(2.0 * 900.0 / 3000.0)
    (end,) = [pressed_as_even([Pressed(300.0, Cases(snow=900.0))], 3000.0)]
    assert end.snow == pytest.approx(2.0 * 900.0 * 0.9 / 3000.0)


@given(
    st.lists(st.tuples(st.floats(0.0, 1.0), st.floats(1.0, 5000.0)), min_size=1, max_size=6), st.floats(900.0, 6000.0)
)
def test_an_even_load_bends_and_presses_no_less_than_points_do(rows, run):
    even = pressed_as_even([Pressed(x * run, Cases(dead=p)) for x, p in rows], run).dead
    right = sum(p * x for x, p in rows)
    left = sum(p for _, p in rows) - right
    assert even * run / 2.0 >= max(left, right) * (1.0 - 1e-9)
    for at, _ in rows:
        moment = left * at * run - sum(p * (at - x) * run for x, p in rows if x < at)
        assert even * run**2 / 8.0 >= moment * (1.0 - 1e-9)


@given(
    st.floats(0.05, 0.95),
    st.floats(1000.0, 6000.0),
    st.floats(1000.0, 6000.0),
    st.floats(0.2, 1.5),
    st.floats(0.2, 1.5),
)
@example(0.5, 2000.0, 4000.0, 0.5, 0.5)  # the foot of one stands on a valley, halfway up
def test_a_load_on_one_of_two_that_lean_is_held_as_three_hinges_have_it(part, run, other, pitch, second):
    """Six equations of two bars, solved by NumPy: feet, ridge, one load; pitches unlike, feet at unlike heights."""
    import numpy as np

    own, far, thrust = leaning_pressure([Pressed(part * run, Cases(dead=1000.0))], run, pitch, second)
    rise, fall = run * pitch, other * second
    # Unknowns: Ax, Ay, Bx, By, and Cx, Cy that the far bar gives the near one at the ridge.
    a = np.array(
        [
            [1, 0, 0, 0, 1, 0],
            [0, 1, 0, 0, 0, 1],
            [0, 0, 0, 0, -rise, run],
            [0, 0, 1, 0, -1, 0],
            [0, 0, 0, 1, 0, -1],
            [0, 0, 0, 0, fall, other],
        ],
        dtype=float,
    )
    b = np.array([0.0, 1000.0, 1000.0 * part * run, 0.0, 0.0, 0.0])
    ax, ay, bx, by, _, _ = np.linalg.solve(a, b)
    assert own.dead == pytest.approx(ay, rel=1e-6)
    assert far.dead == pytest.approx(by, rel=1e-6)
    assert thrust.dead == pytest.approx(abs(ax), rel=1e-6)
    assert abs(ax) == pytest.approx(abs(bx), rel=1e-9)


dormers = st.builds(
    dict,
    wall=st.sampled_from(["wall-1", "wall-3"]),
    along=st.floats(8.0, 32.0).map(lambda v: v * FOOT),
    front=st.sampled_from([0.0, 1.0, 3.0, 5.0]).map(lambda v: v * FOOT),
    width=st.floats(3.0, 14.0).map(lambda v: v * FOOT),
    height=st.floats(3.0, 7.0).map(lambda v: v * FOOT),
    shape=st.sampled_from(["gable", "lean-to"]),
    pitch=st.sampled_from([0.25, 1 / 3, 0.5, 0.75]),
    overhang=st.sampled_from([0.0, 150.0, 500.0]),
    studs=st.sampled_from(["2x4", "2x6"]),
    window_width=st.sampled_from([0.0, 900.0, 1200.0]),
)


@given(dormers, st.sampled_from([0.5, 0.75, 1.0]), st.sampled_from(["board", "beam"]))
@settings(max_examples=20, deadline=None)
def test_any_dormer_balances_or_says_why_not(fields, pitch, made):
    model = derive(with_dormer(roofed(pitch, ridge_made=made), **fields))
    balanced(model)
    dormer = model.dormers["dormer-1"]
    if dormer.framing is None:
        assert dormer.problem
    assert bool(dormer.problem) == any(f.code == "dormer" for f in model.findings)


LEANING = {
    "wall": "wall-1", "along": 5000.0, "front": 0.0, "width": 8.0 * FOOT, "height": 3.0 * FOOT, "shape": "lean-to", "pitch": 0.25,
    "overhang": 150.0, "studs": "2x4", "window_width": 0.0,
}  # fmt: skip


@given(dormers, st.integers(0, 10**6))
@example(LEANING, 0)
@settings(max_examples=10, deadline=None)
def test_nothing_of_a_dormer_stands_in_anything(fields, seed):
    # Under a narrow flat one the ridge board hangs down to the ties.
    model = derive(with_dormer(**fields | {"width": max(fields["width"], 8.0 * FOOT)}))
    pieces = [p for p in model.pieces.values() if p.owner in ("roof-1", "dormer-1")]
    mine = [p for p in pieces if p.owner == "dormer-1" and p.role != "roof plane"]
    apart(random.Random(seed).sample(mine, min(len(mine), 40)), pieces, 3e4)


@pytest.mark.parametrize(
    ("fields", "told"),
    [
        ({"height": 12.0 * FOOT}, "does not stand within its plane"),
        ({"height": 5.5 * FOOT, "width": 16.0 * FOOT, "front": 4.0 * FOOT}, "does not die into the roof"),
        ({"shape": "lean-to", "pitch": 0.75}, "as steep as"),
        ({"height": 2.5 * FOOT}, "window reaches down"),
        ({"width": 5.0 * FOOT, "window_width": 4.5 * FOOT}, "no room for jacks"),
        ({"along": 1.0 * FOOT}, "does not stand within its plane"),
    ],
)
def test_what_cannot_stand_says_why(fields, told):
    model = derive(with_dormer(**fields))
    assert any(told in f.why for f in model.findings)
    balanced(model)


def test_bad_input_is_refused_in_words():
    for fields, told in (
        ({"pitch": 0.2}, "3:12"),
        ({"width": 100.0}, "width"),
        ({"height": 100.0}, "plates"),
        ({"wall": "wall-9"}, "none of its roof"),
        ({"studs": "2x8"}, "framed of"),
    ):
        with pytest.raises(EditError, match=told):
            with_dormer(**fields)


def test_two_in_one_another_are_told():
    model = derive(with_dormer(with_dormer(), along=22.0 * FOOT))
    assert any("stand in one another" in f.what for f in model.findings)


def test_one_under_a_gable_of_the_older_kind_waits():
    p = edits.change(with_dormer(), "roof-1", shape="gable", sides=())
    assert any("none of planes" in f.why for f in derive(p).findings)


def test_it_goes_with_its_roof_and_is_copied_by_nothing_else():
    p = with_dormer()
    assert edits.remove(p, "roof-1").dormers == ()
    again = add_roof_opening(p, "roof-1", "wall-1", 20.0 * FOOT, 6.0 * FOOT)
    assert any("lies over another" in f.why for f in derive(again).findings)


def test_a_window_under_a_dormers_roof_is_told():
    beside = add_roof_opening(with_dormer(), "roof-1", "wall-1", 26.5 * FOOT, 5.0 * FOOT)
    assert not [f for f in derive(beside).findings if "lies under" in f.what]
    under = add_roof_opening(
        with_dormer(), "roof-1", "wall-1", 20.0 * FOOT, 13.1 * FOOT, width=2.0 * FOOT, length=1.5 * FOOT
    )
    assert [f for f in derive(under).findings if "lies under another roof or a dormer" in f.what]


def test_metric_ones_have_whole_metric_figures():
    import msgspec

    p = msgspec.structs.replace(roofed(), units=Units.METRIC)
    (dormer,) = with_dormer(p).dormers
    assert (dormer.width, dormer.height, dormer.window_width) == (2400.0, 1500.0, 1200.0)
