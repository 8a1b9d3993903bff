"""Roofs drawn corner by corner: what they bear on, what is laid and stood under them, what cannot be."""

import itertools
import math

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from tests.framing.test_roof_trim import roofed
from tests.houses import house
from tests.loads.test_beams import balanced

from balken.derive import derive
from balken.design.beam_posts import USUAL
from balken.design.drawn_roofs import draw_roof
from balken.geometry.plane import turn
from balken.model import edits
from balken.model.errors import EditError
from balken.model.lookup import height, locate
from balken.units.system import FOOT

LONG, WIDE = 40.0, 28.0
STOREY = "level-1"


def drawn(p, corners, **fields):
    return draw_roof(p, STOREY, [(x * FOOT, y * FOOT) for x, y in corners], **fields)


def plan_of(model, roof):
    return next(plan for plan in model.surfaces if plan.roof.id == roof.id)


def test_a_carport_clear_of_the_house():
    """24 x 20 ft: four beams, a post at each corner and every 8 ft at most between, each on a pad; gables over the short sides."""
    before = house(long=LONG * FOOT, wide=WIDE * FOOT)
    p = drawn(before, ((60, 0), (84, 0), (84, 20), (60, 20)))
    roof = p.roofs[-1]
    assert len(p.beams) == 4
    assert all(beam.outdoors for beam in p.beams)
    places = [locate(column.place, p.grids) for column in p.columns]
    assert {(round(x / FOOT), round(y / FOOT)) for x, y in places} >= {(60, 0), (84, 0), (84, 20), (60, 20)}
    # 24 ft in three bays, 20 ft in three: two more posts on each side.
    assert len(p.columns) == len(p.pads) == 4 + 4 * 2
    assert height(roof.bearing, p.levels) == height(before.walls[0].head, p.levels)
    model = derive(p)
    plan = plan_of(model, roof)
    assert not plan.problem
    gables = {plan.outline.walls[k] for k, edge in enumerate(plan.edges) if edge.kind == "gable"}
    assert gables == {"beam-2", "beam-4"}
    balanced(model)
    assert not [f for f in model.findings if f.grave and roof.id in f.things]


@pytest.mark.parametrize(("base", "kind"), [(house, "wall"), (roofed, "roof")])
def test_a_porch_along_a_wall_bears_on_it(base, kind):
    """Its side there is the house's wall; on the house's roof of planes it runs on, else it stands against the wall."""
    before = base(long=LONG * FOOT, wide=WIDE * FOOT) if base is house else base(0.5)
    p = drawn(before, ((10, 0), (30, 0), (30, -10), (10, -10)))
    roof = p.roofs[-1]
    assert "wall-1" in roof.walls
    assert len(p.beams) - len(before.beams) == 3
    assert {s.wall: s.kind for s in roof.sides}["wall-1"] == kind
    # Both side beams end in the middle of the wall's core, and bear there.
    model = derive(p)
    assert not plan_of(model, roof).problem
    core = model.lines["wall-1"].core
    ends = [model.path.beams[b].line for b in roof.walls if b.startswith("beam")]
    ys = sorted(max(line.start[1], line.end[1]) for line in ends)
    assert ys[1:] == pytest.approx([sum(core) / 2.0] * 2, abs=0.1)
    assert (
        sum("wall-1" in {seat.on for seat in model.path.beams[b].seats} for b in roof.walls if b.startswith("beam"))
        == 2
    )
    balanced(model)


def test_where_the_wall_runs_up_higher_it_stands_against_it():
    before = edits.change(house(long=LONG * FOOT, wide=WIDE * FOOT), "wall-1", head__offset=6.0 * FOOT)
    p = drawn(edits.remove(before, "roof-1"), ((10, 0), (30, 0), (30, -10), (10, -10)))
    # It bears as high as most walls of the storey do.
    assert p.roofs[-1].bearing == before.walls[1].head
    assert {s.wall: s.kind for s in p.roofs[-1].sides}["wall-1"] == "wall"
    assert not plan_of(derive(p), p.roofs[-1]).problem


@given(
    st.floats(-80.0, 80.0), st.floats(8.0, 30.0), st.floats(8.0, 30.0), st.booleans(), st.sampled_from([4.0, 8.0, 12.0])
)
@settings(max_examples=10, deadline=None)
def test_any_rectangle_closes_and_stands(angle, long, wide, back, most):
    """However it lies and whichever way round it is drawn: no post farther from the next than asked for, and all of it comes down."""
    own = [turn((x * FOOT, y * FOOT), angle) for x, y in ((0, 0), (long, 0), (long, wide), (0, wide))]
    corners = [(x + 90.0 * FOOT, y + 20.0 * FOOT) for x, y in own]
    before = house(long=LONG * FOOT, wide=WIDE * FOOT)
    p = draw_roof(before, STOREY, corners[::-1] if back else corners, most * FOOT)
    model = derive(p)
    assert not plan_of(model, p.roofs[-1]).problem
    for made in model.path.beams.values():
        at = sorted(seat.along for seat in made.seats)
        assert max(b - a for a, b in itertools.pairwise(at)) <= most * FOOT + 26.0
    per = 2.0 * (math.ceil(long / most - 1e-6) + math.ceil(wide / most - 1e-6))
    assert len(p.columns) <= per + 4
    balanced(model)


def test_over_corners_that_step_back():
    p = drawn(house(long=LONG * FOOT, wide=WIDE * FOOT), ((60, 0), (90, 0), (90, 12), (75, 12), (75, 30), (60, 30)))
    model = derive(p)
    assert len(p.beams) == 6
    assert len(plan_of(model, p.roofs[-1]).surface.faces) == 6
    balanced(model)


@pytest.mark.parametrize(
    ("corners", "said"),
    [
        (((60, 0), (84, 0)), "enclose nothing"),
        (((60, 0), (84, 0), (72, 0)), "enclose nothing"),
        (((60, 0), (84, 20), (84, 0), (60, 20)), "crosses itself"),
        (((60, 0), (84, 0), (84, 1), (60, 20)), "shorter than 2 ft"),
    ],
)
def test_what_is_no_outline_is_said(corners, said):
    before = house(long=LONG * FOOT, wide=WIDE * FOOT)
    with pytest.raises(EditError, match=said):
        drawn(before, corners)


def test_beams_already_there_carry_it():
    """A second roof beside the first takes its beam; nothing is laid twice."""
    p = drawn(house(long=LONG * FOOT, wide=WIDE * FOOT), ((60, 0), (84, 0), (84, 20), (60, 20)))
    after = drawn(p, ((84, 0), (96, 0), (96, 20), (84, 20)))
    assert len(after.beams) == 7
    assert "beam-2" in after.roofs[-1].walls
    assert (
        len(after.columns) - len(p.columns) == 2 + 2 * 1 + 2
    )  # corners, one in each side of 12 ft, two in that of 20 ft
    assert USUAL == 8.0 * FOOT
    balanced(derive(after))
