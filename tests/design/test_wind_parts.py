"""Wind on parts of walls and roofs: pressures as published, rafters bent upward by hand, what is typed for walls against the speed."""

import math

import pytest
from hypothesis import given
from hypothesis import strategies as st
from msgspec.structs import replace
from tests.design.test_wind import blown, gabled
from tests.framing.test_surface_roofs import roofed
from tests.houses import house
from tests.loads.test_beams import balanced

from balken.catalog.sections import section
from balken.demo import orchard_road
from balken.derive import derive
from balken.findings.fixes import FIXES
from balken.loads.cases import Cases
from balken.loads.roof_wind import Lifting
from balken.model import edits
from balken.model.lookup import lowest_ground
from balken.model.records import Choice, Loads
from balken.model.roof_edits import set_side
from balken.standards.demands import MemberCase
from balken.standards.us import wind_parts
from balken.standards.us.members import check_member
from balken.standards.us.standard import US
from balken.units import Units
from balken.units.speed import MPH
from balken.units.system import FOOT, INCH, PSF, PSI

SQUARE = FOOT * FOOT
# IRC 2018, Table R301.2(2), 115 mph, mean roof height 30 ft, exposure B (from memory): by area in ft2, psf.
WALLS = {10: (25.8, 31.9), 20: (24.7, 29.7), 50: (23.3, 26.9), 100: (22.2, 24.7)}
# Of roofs, zones 2 and 3, at 110 mph.
ROOFS = {
    (20.0, 10): (34.7, 51.3), (20.0, 20): (31.9, 47.9), (20.0, 50): (28.2, 43.5), (20.0, 100): (25.5, 40.2),
    (40.0, 10): (25.5, 25.5), (40.0, 100): (21.8, 21.8),
}  # fmt: skip


@pytest.mark.parametrize("feet", list(WALLS))
def test_suction_on_walls_as_the_table_has_it(feet):
    found = wind_parts.on_walls(Loads(wind_speed=115.0 * MPH), 30.0 * FOOT, feet * SQUARE)
    assert [p / PSF for p in found] == pytest.approx(WALLS[feet], abs=0.15)


@pytest.mark.parametrize(("slope", "feet"), list(ROOFS))
def test_suction_on_roofs_as_the_table_has_it(slope, feet):
    wind = wind_parts.on_parts(Loads(wind_speed=110.0 * MPH), 30.0 * FOOT, 40.0 * FOOT)
    edge, corner, *_ = wind_parts.on_rafters(wind, math.tan(math.radians(slope)), feet * SQUARE)
    assert [edge / PSF, corner / PSF] == pytest.approx(ROOFS[(slope, feet)], abs=0.15)
    assert wind.edge == pytest.approx(4.0 * FOOT)  # a tenth of the least side


def test_flat_roofs_by_their_figure():
    """ASCE 7-16, Figure 30.3-2A (from memory): zones 2 and 3 at 10 ft2 2.3 and 3.2, from 500 on 1.4, and 0.18 inside; 110 mph, 30 ft, exposure B:
    0.00256 x 0.70 x 0.85 x 110^2 = 18.43 psf; zone 3 reaches 0.6 h.
    """
    wind = wind_parts.on_parts(Loads(wind_speed=110.0 * MPH), 30.0 * FOOT, 40.0 * FOOT)
    pitch = math.tan(math.radians(5.0))
    small, middle, large = (wind_parts.on_rafters(wind, pitch, a * SQUARE) for a in (10.0, 100.0, 500.0))
    assert [small.along / PSF, small.ends / PSF] == pytest.approx([2.48 * 18.43, 3.38 * 18.43], rel=2e-3)
    assert [large.along / PSF, large.ends / PSF] == pytest.approx([1.58 * 18.43] * 2, rel=2e-3)
    part = math.log(10.0) / math.log(50.0)
    assert middle.along / PSF == pytest.approx((2.48 - 0.9 * part) * 18.43, rel=2e-3)
    assert small.far == pytest.approx(18.0 * FOOT)
    assert wind_parts.on_rafters(wind, 0.5, 10.0 * SQUARE).far == pytest.approx(4.0 * FOOT)


@given(slope=st.floats(0.0, 45.0), area=st.floats(1.0, 2000.0), less=st.floats(0.0, 1.0))
def test_smaller_parts_are_never_sucked_less(slope, area, less):
    wind = wind_parts.on_parts(Loads(wind_speed=50.0), 20.0 * FOOT, 40.0 * FOOT)
    pitch = math.tan(math.radians(slope))
    large, small = (wind_parts.on_rafters(wind, pitch, a * SQUARE) for a in (area, area * less))
    assert all(a <= b + 1e-9 for a, b in zip(large, small, strict=True))
    assert large[0] <= large[1]


def test_parts_are_made_for_16_psf_at_least():
    """ASCE 7-16, 30.2.2."""
    calm = Loads(wind_speed=20.0)
    assert wind_parts.on_walls(calm, 20.0 * FOOT, 500.0 * SQUARE) == pytest.approx((16.0 * PSF, 16.0 * PSF))
    assert wind_parts.on_rafters(wind_parts.on_parts(calm, 20.0 * FOOT, 40.0 * FOOT), 0.5, SQUARE)[:2] == pytest.approx(
        (16.0 * PSF, 16.0 * PSF)
    )


def test_what_is_not_covered():
    assert wind_parts.on_walls(Loads(wind_speed=50.0), 61.0 * FOOT, SQUARE) is None
    assert wind_parts.on_parts(Loads(wind_speed=50.0), 61.0 * FOOT, 40.0 * FOOT) is None
    wind = wind_parts.on_parts(Loads(wind_speed=50.0), 20.0 * FOOT, 40.0 * FOOT)
    assert wind_parts.on_rafters(wind, 1.2, SQUARE) is None


def upward(case):
    return next(c for c in check_member(case).checks if c.name == "bending upward by wind")


def lying(dead):
    return Cases(dead=dead, roof_live=20.0 * PSF)


def rafter(size, lifts, load, clear=14.0 * FOOT):
    return MemberCase("rafter", size, "DF-L", "No. 2", clear, 16.0 * INCH, load, US.rafter_limit(0.5), 3.5 * INCH, 0.5, lifts=Lifting(*lifts))  # fmt: skip


def test_a_rafter_bent_upward_by_hand():
    """2x8 at 16 in, 6:12, 14 ft: 0.6 of 30 psf and of 45 at 3 ft of both ends, less 0.6 of 10 psf; 4.4.1.2(b) lets CL be 1."""
    dead = 10.0 * PSF * math.hypot(1.0, 0.5)
    case = rafter("2x8", (30.0 * PSF, 45.0 * PSF, 3.0 * FOOT), lying(dead))
    # In lb and in: the slope's normal part of what is dead is its cosine.
    steep = math.hypot(1.0, 0.5)
    long = (14.0 * 12.0) * steep
    up = (0.6 * 30.0 - 0.6 * 10.0 / steep) * 16.0 / 12.0 / 12.0
    more = 0.6 * 15.0 * 16.0 / 12.0 / 12.0
    moment = up * long**2 / 8.0 + more * (36.0 * steep) ** 2 / 2.0
    fb = moment / (1.5 * 7.25**2 / 6.0)
    allowed = 900.0 * 1.6 * 1.2 * 1.15
    assert upward(case).used == pytest.approx(fb / allowed, rel=0.01)


@pytest.mark.parametrize(("slope", "coefficient"), [(5.0, 3.2), (20.0, 3.7), (40.0, 2.0)])
def test_a_tail_bent_upward_by_hand(slope, coefficient):
    """ASCE 7-16, Figure 30.3-2A, and 7-10, Figures 30.4-2B and C, small overhangs at corners (zone 3), as the table's notes refer to: no pressure from inside is added."""
    pitch = math.tan(math.radians(slope))
    wind = wind_parts.on_parts(Loads(wind_speed=140.0 * MPH, wind_exposure="C"), 20.0 * FOOT, 40.0 * FOOT)
    lifts = wind_parts.on_rafters(wind, pitch, 60.0 * SQUARE)
    assert lifts.tail == pytest.approx(coefficient * wind.speed)
    steep, dead, over = math.hypot(1.0, pitch), 10.0 * PSF * math.hypot(1.0, pitch), 3.0 * FOOT
    case = MemberCase(
        "rafter", "2x8", "DF-L", "No. 2", 12.0 * FOOT, 16.0 * INCH, lying(dead), US.rafter_limit(pitch), 3.5 * INCH, pitch, over, 1.0 * INCH, lifts=lifts,
    )  # fmt: skip
    made = next(c for c in check_member(case).checks if c.name == "tail bent upward by wind")
    w = (0.6 * lifts.tail - 0.6 * 10.0 * PSF / steep) * 16.0 * INCH / 1000.0
    fb = w * (over * steep) ** 2 / 2.0 / (1.5 * INCH * (6.25 * INCH) ** 2 / 6.0)
    assert made.demand == pytest.approx(fb, rel=1e-6)
    assert made.capacity == pytest.approx(900.0 * 1.6 * 1.2 * 1.15 * PSI, rel=1e-6)


def test_deep_boards_turn_over():
    """NDS 3.3.3 for a 2x12: lu the slope's length, le = 1.63 lu + 3 d; nominally six times as deep as thick, its lower edge free."""
    lifts, dead = (30.0 * PSF, 30.0 * PSF, 3.0 * FOOT), 10.0 * PSF * math.hypot(1.0, 0.5)
    made = upward(rafter("2x12", lifts, lying(dead)))
    lu, d, b = 14.0 * 12.0 * math.hypot(1.0, 0.5), 11.25, 1.5
    rb2 = (1.63 * lu + 3.0 * d) * d / b**2
    star = 900.0 * 1.6 * 1.15 * 1.0
    ratio = 1.2 * 580_000.0 / rb2 / star
    half = (1.0 + ratio) / 1.9
    cl = half - math.sqrt(half**2 - ratio / 0.95)
    up = (0.6 * 30.0 - 0.6 * 10.0 / math.hypot(1.0, 0.5)) * 16.0 / 144.0
    fb = up * lu**2 / 8.0 / (1.5 * 11.25**2 / 6.0)
    assert made.used == pytest.approx(fb / (star * cl), rel=0.01)
    assert "CL" in made.working[-1].shown(Units.IMPERIAL)


def test_rafters_of_a_house_are_chosen_for_it():
    plain, stormy = (derive(blown(gabled(), speed=v, wind_exposure="D")) for v in (100.0, 200.0))
    used = []
    for model in (plain, stormy):
        results = [r for key, r in model.results.items() if "plane-rafter" in key]
        used.append(max(c.used for r in results for c in r.checks if c.name == "bending upward by wind"))
    assert used[1] > 2.0 * used[0]
    still = derive(gabled())
    assert not any(c.name.startswith("bending upward") for r in still.results.values() for c in r.checks)
    # Pressures follow the height over ground, what is open, the slope; one of 45 degrees and more is not looked at.
    steep = derive(blown(edits.change(gabled(), "roof-1", pitch=1.05), speed=115.0))
    assert not any(c.name.startswith("bending upward") for r in steep.results.values() for c in r.checks)


def test_a_ridge_beam_bent_upward_by_hand():
    """Half of what lifts 14 ft at both sides, by zone 2, less 0.6 of what is dead, over its whole length; its lower edge is free."""
    p = edits.change(gabled(ridge_made="beam", ridge_size="LVL 3-1.75x16"), "roof-1", overhang=0.0)
    for speed in (115.0, 160.0):
        model = derive(blown(p, speed=speed, wind_exposure="C"))
        (line,) = model.planes["roof-1"].lines
        made = next((c for c in line.result.checks if c.name == "bending, hogging"), None)
        wind = US.parts_wind(model.project.loads, plan_height(model), 28.0 * FOOT)
        up, *_ = US.rafter_wind(wind, 0.5, 1e9)
        dead = 10.0 * PSF * math.hypot(1.0, 0.5)
        w = (0.6 * up - 0.6 * dead) * 14.0 * FOOT / 1000.0
        moment = w * (40.0 * FOOT) ** 2 / 8.0
        assert made is not None
        assert made.demand * line.result.case.section.modulus == pytest.approx(moment, rel=0.01)
        # It is no part of what goes down: that has no wind in it.
        assert all(r.force.wind == 0.0 for r in model.path.reactions)
        balanced(model)


def plan_height(model):
    plan = model.surfaces[0]
    return plan.bearing + plan.surface.top / 2.0 - lowest_ground(model.project)


def test_a_hip_is_chosen_for_what_lifts_it():
    calm, stormy = (derive(blown(roofed(ridge_made="beam"), speed=v, wind_exposure="C")) for v in (90.0, 180.0))
    names = [{line.key: section(line.size) for line in m.planes["roof-1"].lines} for m in (calm, stormy)]
    assert any(names[1][k].area > names[0][k].area for k in names[0] if "hip" in k)
    for line in stormy.planes["roof-1"].lines:
        assert line.result.used <= 1.0


def test_gable_roofs_of_the_older_kind_and_dormers():
    """By hand on the clear span; a dormer's rafters are looked at with the wind on the roof it stands on."""
    model = derive(blown(house(), speed=150.0, wind_exposure="C"))
    (plan,) = model.roofs
    result = next(r for key, r in model.results.items() if key.startswith("roof-1/rafter"))
    made, case = next(c for c in result.checks if c.name == "bending upward by wind"), result.case
    steep = math.hypot(1.0, plan.roof.pitch)
    long = plan.clear * steep
    wind = US.parts_wind(
        model.project.loads, plan.bearing + plan.half * plan.roof.pitch / 2.0 - lowest_ground(model.project), 1e4
    )
    edge, corner, *_ = US.rafter_wind(wind, plan.roof.pitch, long * long / 3.0)
    assert case.lifts[:2] == pytest.approx((edge, corner), rel=1e-6)
    assert made.demand > 0.0
    with_dormer = derive(blown(orchard_road(), speed=150.0))
    for dormer in with_dormer.dormers.values():
        rafters = [r for key, r in dormer.framing.results.items() if "plane-rafter" in key]
        assert rafters
        assert all(any(c.name == "bending upward by wind" for c in r.checks) for r in rafters)


def test_closer_rafters_under_a_storm():
    """Auto spacing gives way where wind alone governs."""
    p = edits.change(gabled(), "roof-1", rafters=Choice(size="2x8", spacing=None))
    calm, stormy = (derive(blown(p, speed=v, wind_exposure="D")) for v in (90.0, 190.0))
    at = [m.designs[("roof-1", "rafters")].spacing for m in (calm, stormy)]
    assert at[1] < at[0]


def test_where_none_works_that_which_is_used_least_is_taken():
    """The deepest turn over: they are not the strongest under wind."""
    p = roofed([(0, 0), (44, 0), (44, 40), (0, 40)], overhang=1.0 * FOOT, rafters=Choice())
    for wall in ("wall-2", "wall-4"):
        p = set_side(p, "roof-1", wall, kind="gable", overhang=0.0)
    model = derive(blown(p, speed=230.0, wind_exposure="D"))
    design = model.designs[("roof-1", "rafters")]
    assert not design.works
    rows = {n.size: n.used for n in design.neighbours if n.spacing == design.spacing}
    assert design.result.used <= min(rows.values()) + 1e-9


def told(model):
    return [f for f in model.findings if f.code == "wind on walls"]


def test_a_speed_that_brings_more_than_is_typed_on_walls_is_told_and_mended():
    p = house()
    assert not told(derive(p))
    for speed, exposure in ((115.0, "B"), (150.0, "D")):
        windy = edits.set_loads(p, wind_speed=speed * MPH, wind_exposure=exposure)
        (finding,) = told(derive(windy))
        assert finding.grave
        fixed = FIXES[finding.fix.command](windy, *finding.fix.args, **dict(finding.fix.fields))
        assert not told(derive(fixed))
        assert fixed.loads.wind > p.loads.wind
        tall = 8.0  # about: studs between plates; zone 5 on its height by a third of it
        q = 0.00256 * {"B": 0.70, "D": 1.03}[exposure] * 0.85 * speed**2
        corner = 1.7532 - 0.3532 * math.log10(tall**2 / 3.0) + 0.18
        assert fixed.loads.wind / PSF == pytest.approx(q * corner, rel=0.04)
    assert not told(derive(edits.set_loads(p, wind_speed=90.0 * MPH)))


def test_in_metric_it_is_rounded_to_metric_steps():
    p = edits.set_loads(edits.set_project(house(), units=Units.METRIC), wind_speed=70.0)
    (finding,) = told(derive(p))
    assert "kN/m" in finding.what
    (field,) = finding.fix.fields
    assert field[1] / 0.05 == pytest.approx(round(field[1] / 0.05))


def test_partly_enclosed_presses_harder():
    usual = wind_parts.on_walls(Loads(wind_speed=50.0), 15.0 * FOOT, 10.0 * SQUARE)
    open_ = wind_parts.on_walls(
        replace(Loads(wind_speed=50.0), wind_openings="partly enclosed"), 15.0 * FOOT, 10.0 * SQUARE
    )
    assert (open_[0] - usual[0]) / (open_[1] - usual[1]) == pytest.approx(1.0)
    assert open_[0] / usual[0] == pytest.approx((1.1 + 0.55) / (1.1 + 0.18))
