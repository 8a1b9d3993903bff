"""Joists that run on over bearings, lap on them, reach past walls; the blocks between them."""

from itertools import pairwise

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from tests.houses import house

from balken.catalog.sections import section
from balken.derive import derive
from balken.loads.area_loads import applied_area_loads, floor_cases
from balken.loads.cases import total
from balken.model import edits
from balken.model.errors import EditError
from balken.model.floor_edits import change_past, past_between, reach_past, without_past
from balken.model.kinds.floor import PastEdge
from balken.model.records import Choice
from balken.standards.demands import GirderCase
from balken.units.system import FOOT, INCH

FLOOR = "floor-1"


def floor_of(model):
    return next(plan for plan in model.floors if plan.floor.id == FLOOR)


def balanced(model):
    """All of the floors' own load, by area, comes to their bearings; wherever it lies."""
    handed = total(r.force for r in model.path.reactions if r.piece.startswith("floor") and not r.through)
    asked = applied_area_loads(model.floors, (), model.project.loads)
    assert handed.live == pytest.approx(asked.live, rel=1e-6)
    assert handed.dead == pytest.approx(asked.dead, rel=1e-6)


def two_spans(wide=24.0 * FOOT, **fields):
    p = house(wide=wide, middle=True, joists=Choice(made_of="LVL", size="LVL 1.75x11.875"))
    return edits.change(p, FLOOR, **fields)


def test_two_equal_spans_run_on():
    """3/8, 10/8, 3/8 w L, and w L2/8 over the middle (any handbook): one board over both spans."""
    model = derive(two_spans(over="continuous"))
    plan = floor_of(model)
    line = plan.lines[len(plan.lines) // 2]
    assert len(line.stops) == 3
    (_, a, _), (_, b, _), (_, c, _) = line.stops
    assert b - a == pytest.approx(c - b, abs=1.0)
    one = [r for r in model.path.reactions if r.piece.endswith(line.place) and not r.through]
    span, q = b - a, floor_cases(model.project.loads, plan.floor).live * line.width / 1000.0
    past = a - line.load_low  # the floor between the edge and the middle of the sill, beyond the span
    assert total(r.force for r in one).live == pytest.approx(q * (line.load_high - line.load_low))
    middle = next(r.force.live for r in one if r.bearer == line.stops[1][0])
    # The bits beyond the sills turn over them: M = q past2/2 at both ends takes 3 M / L off the middle.
    assert middle == pytest.approx(10.0 / 8.0 * q * span - 3.0 * q * past**2 / 2.0 / span, rel=1e-4)
    result = next(r for name, r in model.results.items() if name.endswith(line.place))
    assert isinstance(result.case, GirderCase)
    assert any(check.name == "bending, hogging" for check in result.checks)
    balanced(model)


def test_boards_are_no_longer_than_they_come():
    p = house(wide=24.0 * FOOT, middle=True, joists=Choice(size="2x10"))
    for stock, boards in ((20.0, 2), (26.0, 1)):
        q = edits.change(edits.set_project(p, stock_length=stock * FOOT), FLOOR, over="continuous")
        plan = floor_of(derive(q))
        t = plan.lines[len(plan.lines) // 2].t
        assert sum(abs(line.t - t) < 1.0 for line in plan.lines) == boards


def test_lapped_joists_lie_beside_one_another():
    """IRC R502.6.1: they lap 3 in at least; each bears on all of the plate, and none lies in another."""
    model = derive(two_spans(over="lapped"))
    plan = floor_of(model)
    thick = section("LVL 1.75x11.875").breadth
    rows = sorted(plan.lines, key=lambda line: line.t)
    for line in rows:
        near = [o for o in rows if o is not line and 0.0 < o.t - line.t < 2.0 * thick]
        for other in near:
            assert other.t - line.t == pytest.approx(thick)
            assert min(line.high, other.high) - max(line.low, other.low) >= 3.0 * INCH - 1e-6
    for line in rows:
        assert max(line.bearings) > 3.4 * INCH
    balanced(model)


def test_i_joists_are_not_lapped():
    p = house(middle=True)
    with pytest.raises(EditError, match="not lapped"):
        edits.change(p, FLOOR, over="lapped", joists__made_of="I-joist", joists__size=None)


def past_front(by=2.0 * FOOT, **more):
    """A house 30 x 20 ft with a bearing wall along its middle; joists run across the front, past which the floor reaches."""
    p = house(middle=True, joists=Choice(size="2x10", spacing=16.0 * INCH))
    return reach_past(p, FLOOR, "wall-1", by, **more)


def test_a_joist_past_its_wall_by_hand():
    """Reactions by the lever, and moments w a2/2 over the wall; the greatest in the span with the overhang empty."""
    model = derive(past_front())
    plan = floor_of(model)
    ends = [line for line in plan.lines if max(line.overhangs) > 0.0]
    line = ends[len(ends) // 2]
    assert max(line.overhangs) == pytest.approx(2.0 * FOOT - 1.5 * INCH, abs=2.0)
    side = 0 if line.overhangs[0] > 0.0 else 1
    root, back = line.centres[side], line.centres[1 - side]
    tip, far = (line.load_low, line.load_high) if side == 0 else (line.load_high, line.load_low)
    over, span, behind = abs(tip - root), abs(root - back), abs(far - back)
    q = floor_cases(model.project.loads, plan.floor).live * line.width / 1000.0
    mine = [r for r in model.path.reactions if r.piece.endswith(line.place)]
    at_back = next(r.force.live for r in mine if r.bearer == line.supports[1 - side])
    whole = q * (over + span + behind)
    lever = q * ((span + behind) ** 2 / 2.0 - over**2 / 2.0) / span
    assert at_back == pytest.approx(lever, rel=1e-6)
    assert total(r.force for r in mine).live == pytest.approx(whole)
    result = next(r for name, r in model.results.items() if name.endswith(line.place))
    hogging = next(check for check in result.checks if check.name == "bending, hogging")
    loads = floor_cases(model.project.loads, plan.floor)
    w = (loads.dead + loads.live) * max(line.width, plan.spacing) / 1000.0
    modulus = section("2x10").modulus
    # Wholly loaded past the wall; what the far end's bit turns is below a hundredth of it.
    assert hogging.demand == pytest.approx(w * over**2 / 2.0 / modulus, rel=0.01)
    balanced(model)


def test_what_lifts_at_the_back_is_named():
    """6 ft past the wall behind a span of 10 ft: live load there alone lifts the other end; no hold-down is designed."""
    model = derive(edits.set_loads(past_front(6.0 * FOOT), floor_dead=0.3))
    names = {c.name for r in model.results.values() for c in r.checks}
    assert "uplift at the bearing" in names
    assert any("used over" in f.what for f in model.findings)


def test_joists_along_the_wall_cannot_carry_it():
    p = reach_past(edits.change(house(middle=True), FLOOR, direction=90.0), FLOOR, "wall-2", 2.0 * FOOT)
    model = derive(p)
    assert any(f.code == "cantilever" for f in model.findings)


def test_a_bay():
    """A part of a wall: joists lie at its two sides, a rim board across its front alone, its area counts."""
    p = past_front(start=6.0 * FOOT, end=12.0 * FOOT)
    before, model = derive(without_past(p, FLOOR, 0)), derive(p)
    plan = floor_of(model)
    assert [plan.outline.edge(i) for i in range(len(plan.outline.core))].count("side") == 2
    out = [line for line in plan.lines if max(line.overhangs) > 0.0]
    ts = sorted(line.t for line in out)
    assert ts[-1] - ts[0] == pytest.approx(6.0 * FOOT - 1.5 * INCH, abs=1.0)
    assert all(b - a <= plan.spacing + 1.0 for a, b in pairwise(ts))
    more = [applied_area_loads(m.floors, (), p.loads).live for m in (model, before)]
    assert more[0] - more[1] == pytest.approx(p.loads.floor_live * 12.0 * FOOT**2 / 1000.0, rel=1e-6)
    balanced(model)
    assert not [f for f in model.findings if f.grave]


@settings(max_examples=12)
@given(
    by=st.floats(100.0, 1500.0),
    start=st.floats(0.0, 4000.0),
    long=st.floats(400.0, 4000.0),
    wall=st.sampled_from(["wall-1", "wall-2", "wall-3", "wall-4"]),
    over=st.sampled_from(["butted", "lapped", "continuous"]),
    turned=st.sampled_from([None, 0.0, 90.0]),
    clockwise=st.booleans(),
)
def test_wherever_it_reaches(by, start, long, wall, over, turned, clockwise):
    """Whatever part of whatever wall: all of the floor's load comes to bearings, and the part is as large as it was drawn."""
    p = edits.change(house(middle=True, clockwise=clockwise), FLOOR, over=over, direction=turned)
    q = reach_past(p, FLOOR, wall, by, start, start + long)
    model, before = derive(q), derive(p)
    assert not [f for f in model.findings if f.code == "outline"]
    balanced(model)
    more = applied_area_loads(model.floors, (), p.loads).live - applied_area_loads(before.floors, (), p.loads).live
    ring = floor_of(before).outline
    side = ring.walls.index(wall)
    a, b = ring.core[side], ring.core[(side + 1) % 4]
    whole = ((b[0] - a[0]) ** 2 + (b[1] - a[1]) ** 2) ** 0.5
    assert more <= p.loads.floor_live * by * (min(long, whole) + 60.0) / 1000.0 + 1.0
    assert more >= p.loads.floor_live * by * (min(long, whole - start) - 60.0) / 1000.0 - 1.0


def test_past_two_walls_at_a_corner():
    p = reach_past(past_front(), FLOOR, "wall-2", FOOT)
    ring = floor_of(derive(p)).outline.core
    xs, ys = [x for x, _ in ring], [y for _, y in ring]
    assert max(xs) - min(xs) == pytest.approx(31.0 * FOOT)
    assert max(ys) - min(ys) == pytest.approx(22.0 * FOOT)
    assert len(ring) == 4


def test_rules_and_edits():
    p = past_front()
    assert change_past(p, FLOOR, 0, by=900.0).floors[0].past[0].by == 900.0
    for wrong in ({"by": 10.0}, {"by": 5000.0}, {"start": -1.0}, {"start": 100.0, "end": 200.0}):
        with pytest.raises(EditError):
            change_past(p, FLOOR, 0, **wrong)
    with pytest.raises(EditError, match="overlap"):
        reach_past(p, FLOOR, "wall-1", 500.0, 1000.0, 3000.0)
    with pytest.raises(EditError, match="none of the floor's"):
        reach_past(p, FLOOR, "wall-5", 500.0)
    drawn = past_between(house(), FLOOR, (1000.0, 10.0), (3000.0, -700.0)).floors[0].past
    assert drawn == (PastEdge(wall="wall-1", by=700.0, start=1000.0, end=3000.0),)
    with pytest.raises(EditError, match="outside the wall"):
        past_between(house(), FLOOR, (1000.0, 10.0), (3000.0, 700.0))
    assert edits.remove(p, "wall-1").floors[0].past == ()


def blocks(model, owner=FLOOR):
    return [m for m in model.pieces.values() if m.owner == owner and m.role == "blocking"]


@pytest.mark.parametrize("over", ["butted", "lapped", "continuous"])
def test_blocks_over_the_middle_bearing(over):
    """One in every bay over the bearing, from joist to joist, none in another's way (IRC R502.7)."""
    p = two_spans(over=over)
    with_, without = derive(p), derive(edits.change(p, FLOOR, blocking="none"))
    plan = floor_of(with_)
    made = {m.key for m in blocks(with_)} - {m.key for m in blocks(without)}
    there = [m for m in blocks(with_) if m.key in made]
    stations = sorted({round(line.t) for line in plan.lines})
    bays = [(a, b) for a, b in pairwise(stations) if b - a > 3.0 * INCH]
    assert len(there) == len(bays)
    spans = sorted((plan.frame.to(m.start[:2])[1], plan.frame.to(m.end[:2])[1]) for m in there)
    assert all(b <= c + 1e-6 for (_, b), (c, _) in pairwise(spans))
    middle = {round(plan.frame.to(m.start[:2])[0]) for m in there}
    assert max(middle) - min(middle) < 2.0


def test_blocks_in_the_span():
    """12 ft spans: one row, so that none is farther than 8 ft from the next; joists of 2x14 have it unasked (R502.7.1)."""
    p = edits.change(house(joists=Choice(size="2x14")), FLOOR)
    deep = derive(p)
    assert blocks(deep)
    plan = floor_of(deep)
    rows = sorted({round(plan.frame.to(m.start[:2])[0]) for m in blocks(deep) if not m.wall})
    line = plan.lines[0]
    marks = [line.centres[0] + line.bearings[0] / 2.0, *rows, line.centres[1] - line.bearings[1] / 2.0]
    assert all(b - a <= 8.0 * FOOT + 1.0 for a, b in pairwise(marks))
    shallow = derive(edits.change(house(joists=Choice(size="2x12")), FLOOR, blocking="over bearings and in the span"))
    assert len({round(plan.frame.to(m.start[:2])[0]) for m in blocks(shallow) if not m.wall}) == 2
