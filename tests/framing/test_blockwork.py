"""Blocks of foundation walls: they fill the wall, whole where it fits the module, cut round steps and openings."""

import msgspec
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from balken.catalog.blocks import BONDS
from balken.derive import derive
from balken.findings.fixes import FIXES
from balken.framing.blockwork import NEAR, blockwork
from balken.model import edits, foundation_edits
from balken.model.errors import EditError
from balken.model.records import Foundation, Hang, Recess, Step
from balken.units import Units

METRIC = BONDS[Units.METRIC]


def walled(long=5990.0, tall=2400.0, steps=(), **fields):
    """A single bearing wall on a foundation wall of block, metric."""
    p = edits.new_project("Block", Units.METRIC)
    p = edits.add_level(p, "level-1", 2600.0, "Plate", "plate")
    p = edits.add_level(p, "level-1", -200.0, "Top of foundation", "top of foundation")
    p = edits.add_level(p, "level-3", -tall, "Top of footing", "top of footing")
    foot, head = Hang(level="level-1"), Hang(level="level-2")
    p = edits.add_wall(p, (0.0, 0.0), (long, 0.0), "inside-2x6", foot, head, "centre", role="bearing")
    f = Foundation(
        id="f",
        name="F",
        walls=("wall-1",),
        foot=Hang(level="level-4"),
        head=Hang(level="level-3"),
        thickness=190.0,
        made_of="hollow block",
        steps=steps,
        **fields,
    )
    return edits.add(p, f)


def laid(p):
    (run,) = derive(p).runs
    return blockwork(run, p.recesses, METRIC)


def test_a_wall_on_the_module_has_whole_and_half_blocks_only():
    """5990 = 15 x 400 - 10: 12 courses, six of 15 whole blocks, six of 14 and a half at each end."""
    made = laid(walled())
    assert made.courses == 12
    assert made.off == 0.0
    assert made.count("whole", 190.0) == 6 * 15 + 6 * 14
    assert made.count("half", 190.0) == 12
    assert made.count("cut", 190.0) == 0


def test_a_wall_off_the_module_ends_in_a_cut_block_in_every_course():
    made = laid(walled(5890.0))
    assert made.count("cut", 190.0) == 12


def test_a_wall_too_low_for_its_last_course_is_cut_all_along():
    p = walled(tall=2300.0)
    made = laid(p)
    assert (made.courses, made.off) == (12, pytest.approx(100.0))
    assert {b.kind for b in made.blocks if b.course == 11} == {"cut"}
    (found,) = [f for f in derive(p).findings if f.code == "courses"]
    assert not [
        f
        for f in derive(FIXES[found.fix.command](p, *found.fix.args, **dict(found.fix.fields))).findings
        if f.code == "courses"
    ]


def test_a_step_on_the_courses_cuts_nothing():
    p = walled(steps=(Step(wall="wall-1", at=2400.0, drop=400.0),), lap=600.0)
    made = laid(p)
    assert made.courses == 14
    assert min(b.low for b in made.blocks if b.course < 2) == pytest.approx(2400.0)
    off = foundation_edits.change_step(p, "f", 0, drop=300.0)
    (found,) = [f for f in derive(off).findings if f.code == "courses"]
    mended = FIXES[found.fix.command](off, *found.fix.args)
    assert [step.drop for step in mended.foundations[0].steps] == [400.0]
    assert not [f for f in derive(mended).findings if f.code == "courses"]


@given(st.lists(st.tuples(st.floats(0.0, 5000.0), st.floats(-400.0, 700.0)), min_size=1, max_size=6))
def test_steps_made_whole_courses_never_rise_and_stay_within_one_course(rows):
    rows = [(round(at, 3), drop) for at, drop in rows]  # as a project holds them: to a millionth of a mm
    steps = tuple(Step(wall="wall-1", at=at, drop=drop) for at, drop in rows)
    p = walled()
    p = msgspec.structs.replace(p, foundations=(msgspec.structs.replace(p.foundations[0], steps=steps),))
    try:
        mended = foundation_edits.steps_on_courses(p, "f", 200.0)
    except EditError:
        return  # what was wrong before (a step above the top of the wall) is refused, not mended
    for at in (-1.0, *(at for at, _ in rows)):
        was = sum(s.drop for s in steps if s.at <= at)
        now = sum(s.drop for s in mended.foundations[0].steps if s.at <= at + 1e-5)
        assert now % 200.0 == pytest.approx(0.0, abs=1e-6) or now % 200.0 == pytest.approx(200.0, abs=1e-6)
        assert was - 0.2 <= now < was + 200.0


def test_an_opening_takes_blocks_out_and_a_pocket_cuts_them():
    p = walled()
    hole = Recess(
        id="r", foundation="f", wall="wall-1", kind="opening", offset=2000.0, width=810.0, height=400.0, top=800.0
    )
    made = laid(edits.add(p, hole))
    inside = [b for b in made.blocks if b.course in (6, 7) and b.low > 2000.0 and b.high < 2810.0]
    assert not inside
    pocket = Recess(id="r", foundation="f", wall="wall-1", offset=3000.0, width=120.0, height=200.0)
    made = laid(edits.add(p, pocket))
    assert {b.course for b in made.blocks if b.kind == "cut"} == {11}


@settings(max_examples=60, deadline=None)
@given(st.integers(600, 9000), st.integers(600, 3600), st.integers(0, 3))
def test_blocks_and_joints_fill_the_wall(long, tall, drops):
    steps = tuple(
        Step(wall="wall-1", at=700.0 * (i + 1), drop=150.0) for i in range(drops) if 700 * (i + 1) < long - 100
    )
    p = walled(float(long), float(tall), steps, lap=600.0)
    (run,) = derive(p).runs
    made = blockwork(run, (), METRIC)
    area = 0.0
    for b in made.blocks:
        up = METRIC.joint if run.band.top - b.top > 1.0 else 0.0
        on = (
            METRIC.joint
            if min((c.low for c in made.blocks if c.course == b.course and c.low > b.low), default=1e9) - b.high
            < METRIC.joint + NEAR
            else 0.0
        )
        area += (b.high - b.low + on) * (b.top - b.bottom + (up if b.top - b.bottom > 100.0 else 0.0))
        assert b.high - b.low <= METRIC.length - METRIC.joint + METRIC.joint + NEAR
    wall = sum((s.high - s.low) * (run.band.top - run.band.bottom + s.drop) for s in run.segments)
    assert area == pytest.approx(wall, rel=0.04)


def test_walls_of_block_are_as_thick_as_a_block():
    p = walled()
    with pytest.raises(EditError, match="no block"):
        edits.change(p, "f", thickness=200.0)
    with pytest.raises(EditError, match="ledge is cast"):
        edits.change(p, "f", ledge=50.0)
    with pytest.raises(EditError, match="cast with its slab"):
        edits.change(p, "f", kind="thickened edge")
