"""What wind pulls at collar ties, and their nails."""

import math

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from tests.framing.test_roof_trim import roofed
from tests.framing.test_surface_roofs import L_HOUSE
from tests.framing.test_surface_roofs import roofed as over
from tests.moving import turned

from balken.derive import derive
from balken.design.collar_nails import _pull
from balken.framing.roof_layout import SQUARE, RoofMember
from balken.framing.surface_members import SurfaceMember
from balken.loads.roof_wind import PartsWind
from balken.model import edits
from balken.model.lookup import lowest_ground
from balken.model.member_edits import set_member
from balken.model.records import Loads
from balken.standards.known import USUAL
from balken.units.speed import MPH
from balken.units.system import FOOT, INCH, PSF


def rafter(foot, apex, wall):
    run, rise = abs(apex[0] - foot[0]), apex[1] - foot[1]
    long, slope = math.hypot(run, rise), math.degrees(math.atan2(rise, run))
    m = RoofMember(
        "common rafter", (foot[0], 0.0, foot[1]), (apex[0], 0.0, apex[1]), (0,), long, long, slope, 0.0, 0.0, SQUARE, SQUARE
    )  # fmt: skip
    return SurfaceMember(wall, m, wall)


@settings(max_examples=60)
@given(
    st.floats(6.0, 20.0), st.floats(8.0, 20.0), st.floats(3.0, 5.9), st.floats(-2.0, 0.0), st.floats(0.4, 0.9), st.floats(0.5, 4.0),
)  # fmt: skip
def test_the_pull_holds_both_rafters_still(left_run, right_run, rise, step, at, wide):
    """Six equations of two rafters, hinged at their feet, that give one another a force plumb at the ridge alone, tied at a height: what wind
    and dead load do is summed up over a thousand pieces of each.
    """
    apex, feet = (0.0, rise * FOOT), ((-left_run * FOOT, 0.0), (right_run * FOOT, step * FOOT))
    level = at * apex[1]
    pair = rafter(feet[0], apex, "a"), rafter(feet[1], apex, "b")
    loads, wind, width = Loads(roof_dead=12.0 * PSF), PartsWind(1.1, 0.18, 900.0), wide * FOOT
    pull = _pull(pair, level, width, {"a": width, "b": width}, loads, wind, USUAL)
    # Unknown: both feet's forces, the tie's, and the plumb one at the ridge.
    rows, right = np.zeros((6, 6)), np.zeros(6)
    for k, (foot, one, side) in enumerate(zip(feet, pair, (1.0, -1.0), strict=True)):
        pitch = math.tan(math.radians(one.member.slope))
        up = USUAL.rafter_wind(wind, pitch, math.dist(foot, apex) * max(width, math.dist(foot, apex) / 3.0))
        s = (np.arange(1000) + 0.5) / 1000.0
        x, y = foot[0] + (apex[0] - foot[0]) * s, foot[1] + (apex[1] - foot[1]) * s
        long = math.dist(foot, apex)
        from_end = np.minimum(s, 1.0 - s) * long
        p = (
            np.where(from_end < min(up.far * math.hypot(1.0, pitch), long / 2.0), up.ends, up.along)
            / 1000.0
            * width
            * long
            / 1000.0
        )
        # Suction acts square to the slope: up and away from the ridge.
        fx = -side * p * (apex[1] - foot[1]) / long * 0.6
        fy = p * abs(apex[0] - foot[0]) / long * 0.6 - 0.6 * loads.roof_dead / 1000.0 * width * long / 1000.0
        rows[3 * k : 3 * k + 2, 2 * k : 2 * k + 2] = np.eye(2)
        rows[3 * k, 4], rows[3 * k + 1, 5] = side, side
        rows[3 * k + 2, 4], rows[3 * k + 2, 5] = -side * (level - foot[1]), side * (apex[0] - foot[0])
        right[3 * k], right[3 * k + 1] = -fx.sum(), -fy.sum()
        right[3 * k + 2] = -((x - foot[0]) * fy - (y - foot[1]) * fx).sum()
    tension = np.linalg.solve(rows, right)[4]
    assert 0.6 * (pull.dead + pull.wind) == pytest.approx(tension, rel=5e-3, abs=abs(0.6 * pull.wind) * 5e-3)


def windy(project, mph=115.0):
    return edits.set_loads(project, wind_speed=mph * MPH)


def test_a_symmetric_pair_by_hand():
    """Span 28 ft at 6:12, ties on every pair at two thirds of the rise: p s^2 / 2 less 0.6 D r^2 / 2, over the height of the tie."""
    model = derive(windy(roofed(collar="all")))
    framing, plan = model.planes["roof-1"], model.surfaces[0]
    held = {one.key: one for one in framing.collared.rows}
    tie = sorted((p for p in model.pieces.values() if p.role == "collar tie"), key=lambda p: p.start[0])[5]
    run, spacing = 14.0 * FOOT - 5.5 * INCH * 0.0, framing.widths
    one = next(m for m in framing.members if m.wall and abs(m.member.start[0] - tie.start[0]) < 3.0 * INCH)
    run = math.dist(*one.member.ends)
    width, long = spacing[one.key], run * math.hypot(1.0, 0.5)
    wind = model.standard.parts_wind(
        model.project.loads, plan.mean_height - model.ground.level if model.ground else 0.0, 28.0 * FOOT
    )
    assert wind is not None
    up = model.standard.rafter_wind(wind, 0.5, long * max(width, long / 3.0))
    opens = 0.6 * (up.along * long**2 / 2.0 + (up.ends - up.along) * wind.edge * math.hypot(1.0, 0.5) * long)
    dead = 0.6 * model.project.loads.roof_dead * math.hypot(1.0, 0.5) * run**2 / 2.0
    high = tie.start[2] - plan.bearing - plan.plate_to_top + 3.5 * INCH / 2.0
    pull = (opens - dead) * width / 1000.0 / high / 1.6
    assert held[tie.key].nails.force == pytest.approx(pull, rel=0.01)
    assert held[tie.key].nails.number == max(math.ceil(pull / held[tie.key].nails.value), 3)


@pytest.mark.parametrize(
    "make",
    [lambda: roofed(), lambda: roofed(collar="all"), lambda: over(L_HOUSE), lambda: over(L_HOUSE, collar="none")],
)
def test_every_pair_is_held_once_or_wants_a_strap(make):
    model = derive(windy(make()))
    framing = model.planes["roof-1"]
    calm = derive(make()).planes["roof-1"].collared
    assert framing.collared.loose == calm.loose
    assert calm.strap == 0.0
    assert all(row.nails.number == 3 for row in calm.rows)
    if model.project.roofs[0].collar == "none":
        assert not framing.collared.rows
        assert framing.collared.loose > 5
        assert framing.collared.strap > 500.0
    else:
        assert {row.key for row in framing.collared.rows} == {p.key for p in framing.collars}
        assert framing.collared.loose == 0


def test_straps_are_told_for_the_whole_pull():
    """By hand, at the ridge: (0.6 p s^2 / 2 - 0.6 D r^2 / 2) / h; steel holds no more for a short time."""
    model = derive(windy(roofed(collar="none")))
    framing, loads, plan = model.planes["roof-1"], model.project.loads, model.surfaces[0]
    wind = model.standard.parts_wind(loads, plan.mean_height - lowest_ground(model.project), 28.0 * FOOT)
    worst = 0.0
    for one in framing.members:
        if one.wall:
            run, width = math.dist(*one.member.ends), framing.widths[one.key]
            long = run * math.hypot(1.0, 0.5)
            up = model.standard.rafter_wind(wind, 0.5, long * max(width, long / 3.0))
            opens = up.along * long**2 / 2.0 + (up.ends - up.along) * up.far * math.hypot(1.0, 0.5) * long
            shuts = loads.roof_dead * math.hypot(1.0, 0.5) * run**2 / 2.0
            worst = max(worst, 0.6 * (opens - shuts) * width / 1000.0 / (run * 0.5))
    assert framing.collared.strap == pytest.approx(worst, rel=0.03)


def test_a_tie_taken_out_leaves_pairs_that_want_straps():
    p = windy(roofed())
    ties = sorted((x for x in derive(p).pieces.values() if x.role == "collar tie"), key=lambda x: x.start[0])
    model = derive(set_member(p, ties[3].key, removed=True))
    assert ties[3].key not in model.pieces
    held = model.planes["roof-1"].collared
    assert held.loose >= 1
    assert held.strap > 0.0


def test_more_nails_than_find_room_are_told_and_mended():
    p = windy(roofed(), 190.0)
    found = [f for f in derive(p).findings if f.code == "collar tie"]
    assert found
    assert found[0].fix is not None
    assert found[0].fix.fields == (("collar", "all"),)
    closer = edits.change(p, "roof-1", collar="all")
    assert (
        derive(closer).planes["roof-1"].collared.worst.nails.force
        < derive(p).planes["roof-1"].collared.worst.nails.force / 2.0
    )


@pytest.mark.parametrize("degrees", [45.0, 135.0, -45.0, 225.0])
def test_ties_follow_one_another_whichever_way_a_house_lies(degrees):
    """At 45 degrees the sum of x and y is the same all along a ridge."""
    still, made = (derive(q).planes["roof-1"] for q in (windy(roofed()), turned(windy(roofed()), degrees)))
    assert [p.key for p in made.collars] == [p.key for p in still.collars]
    for a, b in zip(still.collared.rows, made.collared.rows, strict=True):
        assert a.nails.force == pytest.approx(b.nails.force, rel=1e-6)
