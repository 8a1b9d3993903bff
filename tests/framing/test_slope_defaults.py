"""Slopes of footings as they are suggested: every one is accepted as it is, by every run of any house, on any ground."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from balken.demo import orchard_road
from balken.derive import derive
from balken.framing.slope_defaults import suggested_slope
from balken.model import edits, foundation_edits
from balken.model.records import SpotHeight
from balken.units import Units
from balken.units.system import FOOT, INCH

DEMO = orchard_road()


@pytest.mark.parametrize("units", [Units.IMPERIAL, Units.METRIC])
def test_every_run_of_the_demo_takes_the_slope_suggested(units):
    """Under steps, corners in and out, on ground that falls; and then the next one beside it."""
    model, tried = derive(DEMO), 0
    for run in model.runs:
        if not run.footing:
            continue
        project, mine = DEMO, run
        for _ in range(2):
            slope = suggested_slope(mine, model.lines[run.wall].band.length, model.ground, units)
            if slope is None:
                break
            project = foundation_edits.add_slope(project, run.foundation.id, slope)
            mine = next(r for r in derive(project).runs if r.id == run.id)
            tried += 1
            assert max(slope.deeper_start, slope.deeper_end) > 0.0
    assert tried > 10


@given(
    heights=st.tuples(*[st.floats(-3000.0, 0.0) for _ in range(3)]),
    at=st.floats(700.0, 6000.0),
    drop=st.sampled_from([0.0, 8.0 * INCH, 16.0 * INCH]),
    units=st.sampled_from([Units.IMPERIAL, Units.METRIC]),
)
def test_on_any_ground_beside_any_step(heights, at, drop, units):
    places = ((-5000.0, -5000.0), (20_000.0, -3000.0), (4000.0, 18_000.0))
    p = DEMO
    for n, ((x, y), z) in enumerate(zip(places, heights, strict=True)):
        p = edits.add(p, SpotHeight(id=f"spot-new-{n}", x=x, y=y, height=z))
    foundation, wall = DEMO.foundations[0], DEMO.foundations[0].walls[1]
    if drop:
        p = foundation_edits.add_step(p, foundation.id, wall, at, drop)
    model = derive(p)
    run = next(r for r in model.runs if r.wall == wall)
    slope = suggested_slope(run, model.lines[wall].band.length, model.ground, units)
    assert slope is not None
    foundation_edits.add_slope(p, foundation.id, slope)
    low, high = (model.ground.height(run.band.at(s, run.faces[0])) for s in (slope.start, slope.end))
    if abs(high - low) > 26.0:  # deeper where the ground is lower
        assert (slope.deeper_end > 0.0) == (high < low) or slope.deeper_end == slope.deeper_start


def test_no_room_is_told():
    model = derive(DEMO)
    run = next(r for r in model.runs if r.footing)
    assert suggested_slope(run, 100.0, None, Units.IMPERIAL) is None
    level = suggested_slope(run, 20.0 * FOOT, None, Units.IMPERIAL)
    assert level is not None
    assert level.deeper_end == pytest.approx(8.0 * INCH)
