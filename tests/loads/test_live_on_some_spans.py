"""Joists that run on with live load on some spans only: what comes to a bearing beyond the whole, and who is made for it."""

from itertools import combinations, pairwise

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from tests.houses import house

from balken.catalog.hangers import made_up
from balken.derive import derive
from balken.design.beam_posts import girder_on_posts
from balken.design.footings import densest
from balken.documents.calculation import calculation
from balken.loads.along import laid_evenly
from balken.loads.area_loads import floor_beyond, floor_cases
from balken.loads.cases import Cases, total
from balken.loads.joist_statics import shares
from balken.loads.wall_law import MEMBERS_END, WALLS_END, carry
from balken.model import edits
from balken.model.beam_edits import add_beam
from balken.model.floor_edits import reach_past
from balken.model.records import Choice, Hang
from balken.units import format_line_load
from balken.units.system import FOOT, INCH, PSF

FLOOR = "floor-1"
LVL = Choice(made_of="LVL", size="LVL 1.75x11.875", spacing=16.0 * INCH)


def running(wide, *girders, long=20.0 * FOOT, **loads):
    """A house whose joists run on over girders on posts, at these distances from the front."""
    p = house(long=long, wide=wide, joists=LVL, **loads)
    for y in girders:
        p = girder_on_posts(p, FLOOR, (50.0, y), (long - 50.0, y), 7.0 * FOOT)
    return edits.change(p, FLOOR, over="continuous", direction=90.0)


def balanced(model):
    path = model.path
    for put_on, arrived, away in zip(path.applied, path.arrived, total(r.force for r in path.lost), strict=True):
        assert put_on == pytest.approx(arrived + away, rel=1e-6, abs=1e-2)


def floor_of(model):
    return next(plan for plan in model.floors if plan.floor.id == FLOOR)


def of(found, line, bearer):
    return total([r.force for r in found if r.piece.endswith(f"/{line.place}") and r.bearer == bearer] or [Cases()])


def test_two_and_three_equal_spans():
    """7/16 instead of 3/8 w L at the ends of two spans; of three 0.45 instead of 0.40 there and 1.20 instead of 1.10 between
    (coefficients of continuous beams in any handbook).
    """
    for girders, ends, inner in (((12.0,), 0.0625, 0.0), ((12.0, 24.0), 0.05, 0.10)):
        model = derive(running((12.0 * (len(girders) + 1)) * FOOT, *(y * FOOT for y in girders)))
        plan = floor_of(model)
        line = next(x for x in plan.lines if len(x.stops) == len(girders) + 2 and x.width > 15.9 * INCH)
        found = floor_beyond(plan, model.project.loads)
        q = floor_cases(model.project.loads, plan.floor).live * line.width / 1000.0
        span = (line.stops[-1][1] - line.stops[0][1]) / (len(girders) + 1)
        hand = [ends, *[inner] * len(girders), ends]
        for (bearer, _, _), part in zip(line.stops, hand, strict=True):
            more = of(found, line, bearer)
            # Spans differ by half a sill, and the floor past the middles of the sills counts as spans of its own.
            assert more.live / q / span == pytest.approx(part, abs=0.012)
            assert more.dead == 0.0


@settings(max_examples=25)
@given(
    wide=st.floats(16.0, 32.0), part=st.floats(0.3, 0.7), past=st.floats(0.0, 3.0), snow=st.booleans(),
)  # fmt: skip
def test_no_arrangement_brings_more(wide, part, past, snow):
    """Every set of spans loaded, one by one: the most that comes to a bearing is the whole and what is said to come beyond."""
    p = running(wide * FOOT, part * wide * FOOT)
    if past > 0.5:
        p = reach_past(p, FLOOR, "wall-1", past * FOOT, 0.0, None)
    if snow:
        p = edits.change(p, FLOOR, live=1.2)
    model = derive(p)
    plan = floor_of(model)
    found = floor_beyond(plan, model.project.loads)
    q = floor_cases(model.project.loads, plan.floor).live / 1000.0
    for line in [x for x in plan.lines if not x.simple][:3]:
        cuts = [line.load_low, *(at for _, at, _ in line.stops), line.load_high]
        (low, high, width), *rest = line.loaded
        assert not rest
        parts = [(max(a, low), min(b, high)) for a, b in pairwise(sorted(cuts))]
        rows = [(a, b, (b - a) * width) for a, b in parts if b - a > 0.1]
        subsets = [some for n in range(1, len(rows) + 1) for some in combinations(rows, n)]
        brought = np.array([shares(line, some) for some in subsets]) * q
        whole = np.array(shares(line, rows)) * q
        for k, (bearer, _, _) in enumerate(line.stops):
            if bearer:
                more = of(found, line, bearer).live
                assert whole[k] + more == pytest.approx(brought[:, k].max(), rel=1e-4, abs=0.1)
    balanced(model)


def test_footings_are_made_for_it():
    """Two spans of 12 ft, 40 psf: along the front footing 40 x 12 / 16 = 30 plf beyond; under the girder's ends none."""
    model = derive(running(24.0 * FOOT, 12.0 * FOOT))
    run = next(r for r in model.runs if r.wall == "wall-1")
    tall = run.band.top - run.band.bottom
    line, _ = model.path.along[run.id].peak(max(tall, 300.0), model.standard.combinations)
    more = model.footings[run.id].line.live - line.live
    assert more == pytest.approx(40.0 * PSF * 12.0 * FOOT / 16.0 / 1000.0, rel=0.15)
    assert model.path.beyond[run.id].sum.dead == 0.0
    said = next(x for x in calculation(model, run.id) if "some spans only" in x.text)
    assert said.right == f"L {format_line_load(more, model.units)}"
    balanced(model)
    lapped = derive(edits.change(model.project, FLOOR, over="simple"))
    assert lapped.path.beyond == {}
    assert run.id in lapped.path.runs


def test_a_hanger_at_the_back_of_a_cantilever_holds_it_down():
    """40 psf on 3 ft past the front wall alone turn over it: q a2 / 2 L lift the hanger 5 ft behind, but for the dead load."""
    p = house(long=20.0 * FOOT, wide=20.0 * FOOT, joists=Choice(size="2x10", spacing=16.0 * INCH))
    p = edits.change(p, FLOOR, direction=90.0)
    level = Hang(level="level-1")
    p = add_beam(p, (50.0, 5.0 * FOOT), (20.0 * FOOT - 50.0, 5.0 * FOOT), level, FLOOR, flush=True, size="4-2x10")
    model = derive(reach_past(p, FLOOR, "wall-1", 3.0 * FOOT, 0.0, None))
    plan = floor_of(model)
    lines = [x for x in plan.lines if max(x.overhangs) > 0.0 and x.width > 15.9 * INCH]
    line = lines[len(lines) // 2]
    (back,) = [h for h in model.hangers if h.member.endswith(f"/{line.place}") and h.on == "beam-1"]
    (_, a, _), (_, b, _) = line.stops
    root, far, tip = (a, b, line.load_low) if line.overhangs[0] > 0.0 else (b, a, line.load_high)
    q = floor_cases(model.project.loads, plan.floor).live * line.width / 1000.0
    live = q * (tip - root) ** 2 / 2.0 / abs(far - root)
    assert live > back.load.dead > 0.0
    assert back.lifts == pytest.approx(live - back.load.dead, rel=1e-3)
    row = next(row for row in made_up() if row.name == back.hanger)
    assert row.up >= back.lifts


def test_footings_at_the_end_of_a_wall():
    """As much by length over half a stretch at the wall's end as over a whole one in it."""
    laid = laid_evenly(0.0, 6000.0, Cases(live=6000.0))
    assert densest(laid, 2000.0, (0.0, 6000.0)).live == pytest.approx(1.0)
    at_end = laid_evenly(0.0, 1000.0, Cases(live=1500.0))
    assert densest(at_end, 2000.0, (0.0, 6000.0)).live == pytest.approx(1.0)  # 1500 N on 500 + 1000 mm
    assert densest(at_end, 2000.0, (-1000.0, 6000.0)).live == pytest.approx(0.75)


def test_girders_posts_and_pads_are_made_for_it():
    model = derive(running(36.0 * FOOT, 12.0 * FOOT, 24.0 * FOOT))
    beyond = floor_beyond(floor_of(model), model.project.loads)
    for name in ("beam-1", "beam-2"):
        made = model.path.beams[name]
        more = total(r.force for r in beyond if r.bearer == name)
        assert more.live > 0.05 * made.load.live
        asked = total(row for one in made.design.made for row in loads_of(one.result.case))
        assert asked.live == pytest.approx(made.load.live + more.live, rel=1e-6)
        assert total(made.design.reactions).live == pytest.approx(made.load.live, rel=1e-6)
        for seat, extreme in zip(made.seats, made.design.extremes, strict=True):
            if seat.on in model.path.columns:
                post = model.posts[seat.on]
                assert post.load.live == pytest.approx(
                    model.path.columns[seat.on].foot.live + extreme.more.live, rel=1e-6
                )
        alone = sum(x.more.live for x in made.design.extremes)
        assert alone > more.live  # that of the beam's own spans comes to it
    balanced(model)


def loads_of(case):
    """What lies on a beam's case, N."""
    return [
        *(Cases(*((u + v) / 2.0 * (b - a) for u, v in zip(x, y, strict=True))) for a, b, x, y in case.patches),
        *(force for _, force in case.points),
    ]


def test_a_wall_hands_it_on_beside_the_rest():
    whole, more = Cases(dead=900.0, live=3000.0), Cases(live=500.0)
    on, beyond = laid_evenly(0.0, 4000.0, whole), laid_evenly(1000.0, 3000.0, more)
    parts = (on, MEMBERS_END, WALLS_END, (100.0, 1.0, 0.0, 5000.0))
    made = carry("wall", (0.0, 4000.0), Cases(dead=100.0), (), (), beyond, *parts)
    plain = carry("wall", (0.0, 4000.0), Cases(dead=100.0), (), (), None, *parts)
    assert made.total == plain.total
    assert made.handed == plain.handed
    assert made.along == plain.along
    assert made.head.members.sum == whole.plus(more)
    (down,) = made.beyond_below
    assert (down.sum, down.low.tolist(), down.high.tolist()) == (more, [1100.0], [3100.0])
    assert plain.beyond_below == ()
