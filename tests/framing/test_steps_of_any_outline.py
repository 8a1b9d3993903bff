"""Foundations under any outline stepped down with any ground: no gap, nothing above frost, whole figures, few steps."""

import itertools
import math

import pytest
from hypothesis import example, given, settings
from hypothesis import strategies as st
from tests.framing.test_ground_works import union

from balken.derive import derive
from balken.findings.fixes import FIXES
from balken.framing.stepping import LEAST_BURIAL
from balken.model import column_edits, edits
from balken.model.records import Foundation, Hang
from balken.units import Units
from balken.units.system import INCH

OUTLINES = {
    "rectangle": ((0, 0), (1, 0), (1, 1), (0, 1)),
    "L": ((0, 0), (1, 0), (1, 0.5), (0.5, 0.5), (0.5, 1), (0, 1)),
    "T": ((0, 0), (1, 0), (1, 0.4), (0.7, 0.4), (0.7, 1), (0.3, 1), (0.3, 0.4), (0, 0.4)),
    "U": ((0, 0), (1, 0), (1, 1), (0.65, 1), (0.65, 0.5), (0.35, 0.5), (0.35, 1), (0, 1)),
}


def stepped_house(shape, wide, deep, skew, ground, units=Units.METRIC, made_of="concrete"):
    """A foundation under an outline ``wide`` x ``deep`` mm; ``ground``: how far it falls at the four corners."""
    lean = math.tan(math.radians(skew))
    ring = [(x * wide + y * deep * lean, y * deep) for x, y in OUTLINES[shape]]
    p = edits.new_project("Steps", units=units)
    p = edits.add_level(p, "level-1", 2500.0, "Plate", "plate")
    p = edits.add_level(p, "level-1", -290.0, "Top of foundation", "top of foundation")
    p = edits.add_level(p, "level-1", -600.0, "Ground", "ground")
    p = edits.add_level(p, "level-1", -1890.0, "Top of footing", "top of footing")
    for a, b in zip(ring, [*ring[1:], ring[0]], strict=True):
        p = edits.add_wall(p, a, b, "framed-2x6", Hang(level="level-1"), Hang(level="level-2"))
    thickness = (
        7.625 * INCH if made_of != "concrete" and units is Units.IMPERIAL else 190.0 if made_of != "concrete" else 200.0
    )
    p = edits.add(
        p,
        Foundation(
            id="foundation-1", name="F", walls=tuple(w.id for w in p.walls), foot=Hang(level="level-5"),
            head=Hang(level="level-3"), inside_ground=300.0, thickness=thickness, made_of=made_of,
        ),
    )  # fmt: skip
    xs, ys = [x for x, _ in ring], [y for _, y in ring]
    corners = [
        (min(xs) - 500, min(ys) - 500),
        (max(xs) + 500, min(ys) - 500),
        (max(xs) + 500, max(ys) + 500),
        (min(xs) - 500, max(ys) + 500),
    ]
    for at, fall in zip(corners, ground, strict=True):
        p = column_edits.add_spot(p, (float(at[0]), float(at[1])), -600.0 - fall)
    return p


def stepped(p):
    depth = min(f.depth for f in derive(p).footings.values())
    return FIXES["step_down"](p, "foundation-1", depth), depth


falls = st.floats(0.0, 2500.0).map(lambda v: round(v / 50.0) * 50.0)


@settings(max_examples=40)
@given(
    st.sampled_from(list(OUTLINES)),
    st.floats(9000.0, 18_000.0),
    st.floats(9000.0, 15_000.0),
    st.floats(-25.0, 25.0),
    st.tuples(falls, falls, falls, falls),
    st.sampled_from(list(Units)),
)
@example("L", 12_000.0, 9000.0, 0.0, (0.0, 2000.0, 2000.0, 0.0), Units.IMPERIAL)
@example("L", 12_000.0, 9000.0, 0.0, (0.0, 2000.0, 2000.0, 0.0), Units.METRIC)
@example("T", 15_000.0, 12_000.0, 20.0, (0.0, 1500.0, 2500.0, 300.0), Units.METRIC)
@example("T", 9789.0, 11_525.0, 12.5, (0.0, 2250.0, 0.0, 1800.0), Units.METRIC)
@example("rectangle", 12_472.867, 9000.0, 9.04135, (0.0, 1600.0, 0.0, 1600.0), Units.IMPERIAL)
@example("rectangle", 11_237.0, 9000.0, 9.0, (0.0, 1600.0, 0.0, 1600.0), Units.IMPERIAL)
def test_nothing_is_left_to_mend_after_the_action(shape, wide, deep, skew, ground, units):
    p, depth = stepped(stepped_house(shape, wide, deep, skew, ground, units))
    model = derive(p)
    assert not [f.what for f in model.findings if f.code in ("frost", "corner", "beside lower")]
    unit = INCH if units is Units.IMPERIAL else 10.0
    course = 8 * INCH if units is Units.IMPERIAL else 200.0
    for step in p.foundations[0].steps:
        assert step.at / unit == pytest.approx(round(step.at / unit), abs=1e-6)
        assert step.drop / course == pytest.approx(round(step.drop / course), abs=1e-6)
    need = max(p.loads.frost_depth, LEAST_BURIAL)
    for run in model.runs:
        low, high = run.span
        for k in range(41):
            along = low + (high - low) * k / 40.0
            under = run.band.bottom - run.drop_at(along) - depth
            # Steps stand at whole cm: where the ground falls 1 in 5 that is up to 2 mm.
            assert under <= model.ground.height(run.band.at(along, run.faces[0])) - need + 2.0
    # Once more changes nothing.
    assert stepped(p)[0].foundations == p.foundations


@settings(max_examples=8)
@given(st.sampled_from(list(OUTLINES)), st.tuples(falls, falls, falls, falls))
@example("L", (0.0, 2000.0, 2000.0, 0.0))
def test_stepped_footings_are_one_body_without_a_gap(shape, ground):
    p, _ = stepped(stepped_house(shape, 12_000.0, 10_000.0, 0.0, ground))
    pieces = [v for v in derive(p).pieces.values() if v.role in ("strip footing", "foundation wall")]
    assert len(union([v.solid for v in pieces]).decompose()) == 1


@settings(max_examples=15)
@given(st.sampled_from(list(OUTLINES)), st.floats(-25.0, 25.0), st.tuples(falls, falls, falls, falls))
def test_askew_the_footings_meet_at_every_corner(shape, skew, ground):
    p, _ = stepped(stepped_house(shape, 12_000.0, 10_000.0, skew, ground))
    runs = {r.wall: r for r in derive(p).runs}
    walls = [w.id for w in p.walls]
    for a, b in zip(walls, [*walls[1:], walls[0]], strict=True):
        assert runs[a].segments[-1].drop == pytest.approx(runs[b].segments[0].drop)
    for run in runs.values():
        for s, t in itertools.pairwise(run.segments):
            # The lower footing runs on under the upper one, an upright piece joins them.
            assert abs(s.drop - t.drop) <= 600.0 + 1e-6


def test_the_flat_high_side_lies_no_deeper_than_it_needs():
    """L 12 x 9 m, the ground level along its short side and falling 2 m along the long one."""
    p, depth = stepped(stepped_house("L", 12_000.0, 9000.0, 0.0, (0.0, 2000.0, 2000.0, 0.0)))
    model = derive(p)
    side = next(r for r in model.runs if r.wall == "wall-6")
    assert {s.drop for s in side.segments} == {0.0}
    assert side.band.bottom - depth <= -600.0 - p.loads.frost_depth
    assert sum(s.at > 0.0 for s in p.foundations[0].steps) <= 6


def test_steps_land_on_the_module_typed():
    p = stepped_house("L", 12_000.0, 9000.0, 0.0, (0.0, 2000.0, 2000.0, 0.0))
    q = FIXES["step_down"](p, "foundation-1", 200.0, 300.0, 250.0)
    for step in q.foundations[0].steps:
        assert step.at % 250.0 == pytest.approx(0.0, abs=1e-6)
        assert step.drop % 300.0 == pytest.approx(0.0, abs=1e-6)
    assert not [f for f in derive(q).findings if f.code in ("frost", "corner")]


def test_steps_of_block_land_on_half_blocks_and_courses():
    p, _ = stepped(stepped_house("L", 12_000.0, 9000.0, 0.0, (0.0, 2000.0, 2000.0, 0.0), made_of="hollow block"))
    for step in p.foundations[0].steps:
        assert step.at % 200.0 == pytest.approx(0.0, abs=1e-6)
        assert step.drop % 200.0 == pytest.approx(0.0, abs=1e-6)
