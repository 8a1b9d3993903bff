"""Wind that lifts roofs: factors as published, bearings by hand, all that lifts followed to the ground."""

import pytest
import shapely
from hypothesis import given
from hypothesis import strategies as st
from msgspec.structs import replace
from tests.framing.test_surface_roofs import roofed
from tests.shop import shop

from balken.catalog.straps import MADE_UP
from balken.derive import derive
from balken.design.roof_uplift import ACTS, HEADERS, HEAVIER, ends_of
from balken.findings.fixes import FIXES
from balken.model import edits
from balken.model.errors import EditError
from balken.model.records import Choice, Loads, Opening
from balken.model.roof_edits import add_roof_opening, set_side
from balken.standards.us import wind
from balken.units import UnitError, Units, format_speed, parse_speed
from balken.units.speed import MPH
from balken.units.system import FOOT, INCH, PSF

RECTANGLE = [(0, 0), (40, 0), (40, 28), (0, 28)]
ROOF_ZONES = {
    # ASCE 7-16, Figure 28.3-1: zones 2, 3, 2E, 3E; load case A at three slopes, load case B at any.
    "A 0 to 5": (-0.69, -0.37, -1.07, -0.53),
    "A 20": (-0.69, -0.48, -1.07, -0.69),
    "A 30 to 45": (0.21, -0.43, 0.27, -0.53),
    "B": (-0.69, -0.37, -1.07, -0.53),
}


def blown(p, speed=115.0, **fields):
    return edits.set_loads(p, wind_speed=speed * MPH, **fields)


@pytest.mark.parametrize(
    ("exposure", "feet", "factor"),
    [("C", 15.0, 0.85), ("D", 15.0, 1.03), ("C", 5.0, 0.85), ("B", 15.0, 0.70), ("B", 30.0, 0.70), ("C", 30.0, 0.98)],
)
def test_exposure_factor(exposure, feet, factor):
    """ASCE 7-16, Table 26.10-1."""
    assert wind.exposure_factor(exposure, feet * FOOT) == pytest.approx(factor, abs=0.006)


def test_velocity_pressure():
    """By hand: 0.00256 x 0.85 x 0.85 x 115^2 = 24.5 psf."""
    q = wind.velocity_pressure(115.0 * MPH, "C", 15.0 * FOOT)
    assert q / PSF == pytest.approx(0.00256 * 0.849 * 0.85 * 115.0**2, rel=2e-3)


def test_no_zone_of_a_roof_is_sucked_harder():
    for two, three, two_end, three_end in ROOF_ZONES.values():
        assert max(-two, -three) <= wind.UP
        assert max(-two_end, -three_end) <= wind.UP_AT_ENDS


def test_end_zone():
    """a: a tenth of the least side or 0.4 h, the lesser; no less than 4 % of it or 3 ft."""
    assert wind.end_zone(28.0 * FOOT, 12.0 * FOOT) == pytest.approx(2.0 * 3.0 * FOOT)
    assert wind.end_zone(60.0 * FOOT, 20.0 * FOOT) == pytest.approx(2.0 * 6.0 * FOOT)
    assert wind.end_zone(100.0 * FOOT, 10.0 * FOOT) == pytest.approx(2.0 * 4.0 * FOOT)


def test_tall_buildings_are_not_covered():
    loads = Loads(wind_speed=50.0)
    assert wind.on_roof(loads, 61.0 * FOOT, 100.0 * FOOT) is None
    assert wind.on_roof(loads, 30.0 * FOOT, 20.0 * FOOT) is None
    model = derive(blown(edits.change(roofed([(0, 0), (8, 0), (8, 8), (0, 8)]), "roof-1", pitch=2.0)))
    assert model.uplift.beyond == ("roof-1",)
    assert any("is not worked out" in f.what for f in model.findings)


def test_an_eave_by_hand():
    """A gable of 28 ft with 1 ft overhangs, rafters at 16 in tied in pairs: 14 ft and the overhang lift on each."""
    p = roofed(RECTANGLE, overhang=1.0 * FOOT)
    for wall in ("wall-2", "wall-4"):
        p = set_side(p, "roof-1", wall, kind="gable", overhang=0.0)
    model = derive(blown(p))
    blows = model.uplift.wind["roof-1"]
    plan = model.surfaces[0]
    half = (shapely.Polygon(plan.outline.core).bounds[3] - shapely.Polygon(plan.outline.core).bounds[1]) / 2.0
    apart = model.designs[("roof-1", "rafters")].spacing
    row = next(r for r in model.uplift.lifted if r.bearer == "wall-1" and r.what == "rafter" and not r.end)
    up = 0.6 * apart * (half * blows.inner + 1.0 * FOOT * blows.inner_over) / 1000.0
    dead = 0.6 * apart * (half + 1.0 * FOOT) * p.loads.roof_dead * (1.25**0.5) / 1000.0
    # Stretches of the load path and rafters do not quite fall together.
    assert up * 0.98 <= row.gross <= up * 1.15
    assert row.net == pytest.approx(row.gross * (up - dead) / up, rel=0.12)
    at_end = next(r for r in model.uplift.lifted if r.bearer == "wall-1" and r.what == "rafter" and r.end)
    assert at_end.net > row.net
    for r in (row, at_end):
        tie = next(t for t in MADE_UP if t.name == r.tie)
        assert tie.up >= r.net
        assert r.used == pytest.approx(r.net / tie.up)


@pytest.mark.parametrize("made", ["board", "beam"])
def test_all_that_lifts_is_followed_to_the_ground(made):
    p = blown(edits.change(roofed(overhang=0.0), "roof-1", ridge_made=made), speed=150.0, wind_exposure="D")
    model = derive(p)
    made_of = model.uplift
    area = shapely.Polygon(model.surfaces[0].outline.core).area
    blows = made_of.wind["roof-1"]
    reached = sum(f.gross for f in made_of.feet if f.thing in model.path.runs)
    on_walls = [f for f in made_of.feet if f.thing in model.lines]
    total = sum(f.gross for f in on_walls)
    assert 0.6 * area * blows.inner / 1000.0 * 0.9 <= total <= 0.6 * area * blows.end / 1000.0 * 1.001
    if made == "board":
        assert total >= 0.6 * area * blows.inner / 1000.0 * 0.999
        assert reached == pytest.approx(total, rel=1e-6)
    for foot in on_walls:
        assert foot.net == pytest.approx(foot.gross - 0.6 * model.path.walls[foot.thing].foot.dead)
        if foot.net > 0.0 and foot.tie:
            tie = next(t for t in MADE_UP if t.name == foot.tie)
            assert tie.up >= foot.net / model.lines[foot.thing].band.length * foot.apart - 1e-6


@pytest.mark.parametrize("offset", [4.0, 12.0, 19.0])
def test_headers_are_tied_for_what_lifts_over_their_openings(offset):
    """A garage door 16 ft wide: by hand half of what lifts over it after 0.6 of what is dead there comes to each end."""
    p = gabled(ridge_made="beam", rafters=Choice(size="2x8", spacing=16.0 * INCH))
    p = edits.change(p, "roof-1", overhang=0.0)
    p = edits.add(
        p, Opening(id="door", wall="wall-1", kind="door", offset=offset * FOOT, width=16.0 * FOOT, height=7.0 * FOOT)
    )
    model = derive(blown(p, speed=140.0))
    wind, dead = model.uplift.wind["roof-1"], p.loads.roof_dead * (1.25**0.5)
    rows = rows_of(model, HEADERS, "wall-1")
    assert len(rows) == 1
    row, inner = rows[0], ACTS * (wind.inner - dead) * 7.0 * 16.0 / 2.0 * FOOT**2 / 1000.0
    assert row.end == (offset < 6.0 or offset + 16.0 > 34.0)
    most = inner * (wind.end - dead) / (wind.inner - dead)
    assert inner * 0.98 <= row.net <= most * 1.02
    if not row.end:
        assert row.net == pytest.approx(inner, rel=0.03)
    assert row.tie
    assert next(t for t in MADE_UP if t.name == row.tie).up >= row.net
    # It is told on the roof plan; what lifts in all is as it was.
    assert not rows_of(model, HEADERS, "wall-3")
    plain = derive(blown(edits.remove(p, "door"), speed=140.0))
    gross = [{f.thing: f.gross for f in m.uplift.feet}["wall-1"] for m in (model, plain)]
    assert gross[0] == pytest.approx(gross[1])


def test_a_header_under_trusses_is_tied_for_those_over_it():
    p = edits.change(gabled(), "roof-1", framed="trusses")
    p = edits.add(
        p, Opening(id="door", wall="wall-1", kind="door", offset=12.0 * FOOT, width=9.0 * FOOT, height=7.0 * FOOT)
    )
    model = derive(blown(p, speed=140.0))
    each = max(r.net for r in rows_of(model, "truss", "wall-1") if not r.end)
    rows = rows_of(model, HEADERS, "wall-1")
    assert rows
    assert 1.0 * each <= max(r.net for r in rows) <= 3.5 * each


def test_without_a_live_load_on_roofs_it_is_told_that_nothing_is_worked_out():
    p = edits.set_loads(blown(gabled()), roof_live=0.0)
    (finding,) = (f for f in derive(p).findings if f.code == "uplift")
    assert "not worked out" in finding.what
    fixed = derive(FIXES[finding.fix.command](p, *finding.fix.args, **dict(finding.fix.fields)))
    assert fixed.uplift.lifted
    assert not any("not worked out" in f.what for f in fixed.findings)


def test_ties_at_the_foot_of_a_wall_stand_beside_its_openings():
    """Half of a wall is open: what lifts it pulls at what stands between, by hand twice as hard along each length of it."""
    p = edits.change(gabled(), "roof-1", overhang=0.0)
    some = [
        Opening(
            id=f"o{k}", wall="wall-1", kind="door", offset=(2.0 + 10.0 * k) * FOOT, width=5.0 * FOOT, height=7.0 * FOOT
        )
        for k in range(4)
    ]
    open_ = p
    for o in some:
        open_ = edits.add(open_, o)
    speed = 170.0
    plain, half = (
        {f.thing: f for f in derive(blown(q, speed=speed, wind_exposure="D")).uplift.feet}["wall-1"] for q in (p, open_)
    )
    assert plain.net > 0.0
    for foot, long in ((plain, 40.0), (half, 20.0)):
        tie = next(t for t in MADE_UP if t.name == foot.tie)
        assert tie.up >= foot.net / (long * FOOT) * foot.apart


def test_gable_roofs_lift_too():
    model = derive(blown(shop()))
    rows = [r for r in model.uplift.lifted if r.what == "rafter"]
    assert rows
    assert {r.end for r in rows} == {True, False}


def test_without_a_speed_nothing_is_said_to_hold():
    model = derive(shop())
    assert model.uplift.lifted == ()
    from balken.design.not_checked import NOT_CHECKED

    assert any("no wind speed is typed" in text for text in NOT_CHECKED)


def test_what_no_tie_holds_is_a_finding():
    model = derive(
        blown(roofed(RECTANGLE, overhang=3.0 * FOOT), speed=250.0, wind_exposure="D", wind_openings="partly enclosed")
    )
    assert [f for f in model.findings if f.code == "uplift" and "no tie of the list" in f.what]
    assert [f for f in model.findings if f.code == "uplift" and "lifts its foot" in f.what]


def test_speeds():
    assert parse_speed("115 mph") == pytest.approx(51.41, abs=0.01)
    assert parse_speed("51.4", Units.METRIC) == pytest.approx(51.4)
    assert parse_speed("185 km/h") == pytest.approx(51.39, abs=0.01)
    assert format_speed(115.0 * MPH) == "115 mph"
    assert format_speed(51.4, Units.METRIC) == "51.4 m/s"
    with pytest.raises(UnitError, match="not a speed"):
        parse_speed("fast")
    with pytest.raises(EditError, match="blows no faster"):
        blown(shop(), speed=400.0)


@given(st.floats(1.0, 250.0))
def test_speeds_round_trip(mph):
    assert parse_speed(format_speed(mph * MPH)) == pytest.approx(mph * MPH, rel=0.06)


def test_partly_enclosed_lifts_more():
    loads = Loads(wind_speed=50.0)
    usual = wind.on_roof(loads, 12.0 * FOOT, 28.0 * FOOT)
    open_ = wind.on_roof(replace(loads, wind_openings="partly enclosed"), 12.0 * FOOT, 28.0 * FOOT)
    assert open_.inner - usual.inner == pytest.approx(usual.speed * 0.37)


def test_an_overhang_of_one_side_alone_lifts_that_side():
    p = blown(roofed(RECTANGLE, overhang=1.0 * FOOT))
    plain, wide = derive(p), derive(set_side(p, "roof-1", "wall-1", overhang=3.0 * FOOT))

    def net(model, wall):
        return max(r.net for r in model.uplift.lifted if r.bearer == wall and r.what == "rafter")

    assert net(wide, "wall-1") > net(plain, "wall-1") * 1.3
    assert net(wide, "wall-3") == pytest.approx(net(plain, "wall-3"), rel=0.02)


def rows_of(model, what, bearer=None):
    return [r for r in model.uplift.lifted if r.what == what and bearer in (None, r.bearer)]


def gabled(overhang=0.0, **fields):
    p = roofed(RECTANGLE, overhang=1.0 * FOOT, **fields)
    for wall in ("wall-2", "wall-4"):
        p = set_side(p, "roof-1", wall, kind="gable", overhang=overhang)
    return p


def test_ends_of_ridges_at_gables_lie_in_the_end_zone():
    """ASCE 7-16, Figure 28.3-1: zones 2E and 3E reach over the whole roof beside a gable, 2 a wide, not at its corners alone."""
    model = derive(blown(edits.change(gabled(ridge_made="beam"), "roof-1", overhang=0.0)))
    wind = model.uplift.wind["roof-1"]
    rows = rows_of(model, "end of a ridge beam")
    assert {row.bearer for row in rows} == {"wall-2", "wall-4"}
    assert all(row.end for row in rows)
    # By hand: half of what the ridge carries, 20 x 14 ft, all of it taken as in the end zone.
    assert rows[0].gross == pytest.approx(ACTS * wind.end * 20.0 * 14.0 * FOOT**2 / 1000.0, rel=1e-3)


def test_lookouts_lie_in_the_end_zone_all_along_a_gable():
    model = derive(blown(gabled(2.0 * FOOT)))
    rows = rows_of(model, "lookout")
    assert {(row.bearer, row.end) for row in rows} == {("wall-2", True), ("wall-4", True)}
    # Each is a small part of an overhang: 3.7 times the pressure of the air's speed on its own area (ASCE 7-10, Figure 30.4-2B, from memory).
    most = max(
        r.force.roof_live for r in model.path.reactions if r.bearer == "wall-2" and r.piece.split("/")[1] == "lookout"
    )
    area = most / model.project.loads.roof_live
    assert rows[0].gross == pytest.approx(ACTS * 3.7 * model.uplift.wind["roof-1"].speed * area, rel=0.01)


@pytest.mark.parametrize("gentle", ["wall-1", "wall-3"])
def test_lookouts_of_the_gentler_plane_are_tied_by_its_own_coefficient(gentle):
    """A roof typed at 12:12 (2.0 at its overhangs) with one plane at 6:12 (3.7): what is tied is the latter's (ASCE 7-10, as above)."""
    model = derive(blown(set_side(edits.change(gabled(2.0 * FOOT), "roof-1", pitch=1.0), "roof-1", gentle, pitch=0.5)))
    wind = model.uplift.wind["roof-1"]
    rows = [r for r in model.path.reactions if r.piece == "roof-1/lookout" and r.bearer == "wall-2"]
    area = max(r.force.roof_live for r in rows) / model.project.loads.roof_live
    assert wind.end_over < 3.7 * wind.speed
    assert rows_of(model, "lookout")[0].gross == pytest.approx(ACTS * 3.7 * wind.speed * area, rel=0.01)


def test_rafters_at_the_ends_lift_as_much_where_lookouts_lie_beside_them():
    """Those 4 to 6 ft off a gable carry their whole strip in either case; what 8 ft of a wall share is no reason to take less."""
    plain, wide = (derive(blown(gabled(over, ridge_made="beam"))) for over in (0.0, 2.0 * FOOT))
    for end in (False, True):
        (a,), (b,) = ([r for r in rows_of(m, "rafter", "wall-1") if r.end == end] for m in (plain, wide))
        assert b.net == pytest.approx(a.net, rel=0.01)


@pytest.mark.parametrize("long", [2.5, 3.0, 5.0])
def test_short_walls_are_tied_for_all_that_they_carry(long):
    """A side of two walls in line: what lifts a rafter is its strip's, by hand, however short the wall is that it stands on."""
    p = roofed([(0, 0), (long, 0), (40, 0), (40, 28), (0, 28)], rafters=Choice(size="2x8", spacing=16.0 * INCH))
    p = edits.change(p, "roof-1", overhang=0.0)
    for wall in ("wall-3", "wall-5"):
        p = set_side(p, "roof-1", wall, kind="gable", overhang=0.0)
    model = derive(blown(p))
    (row,) = (r for r in rows_of(model, "rafter", "wall-1") if r.end)
    by_hand = ACTS * 16.0 * INCH * 14.0 * FOOT * model.uplift.wind["roof-1"].end / 1000.0
    assert row.gross == pytest.approx(by_hand, rel=0.03)


def test_hip_ends_lie_in_end_zones_along_their_walls():
    """Wind along the ridge meets them first; a half-hip's raised eave as well; a pyramid's walls all."""
    hip = derive(blown(roofed(RECTANGLE)))
    assert {r.end for r in rows_of(hip, "rafter", "wall-2")} == {True}
    assert {r.end for r in rows_of(hip, "rafter", "wall-1")} == {True, False}
    half = derive(blown(set_side(roofed(RECTANGLE), "roof-1", "wall-2", raised=3.0 * FOOT)))
    assert {r.end for r in rows_of(half, "rafter", "wall-2")} == {True}
    pyramid = derive(roofed([(0, 0), (28, 0), (28, 28), (0, 28)]))
    assert len(ends_of(pyramid.surfaces[0])) == 4


@pytest.mark.parametrize("past", [1.0, 2.0, 3.0])
def test_what_overhangs_at_the_foot_of_a_hip(past):
    """By moments about a hip's upper end: the square outside of the corner lies half its diagonal beyond the foot."""
    plain, wide = (derive(blown(roofed(RECTANGLE, overhang=over * FOOT))) for over in (0.0, past))
    q = wide.uplift.wind["roof-1"]
    inner, outer = (max(r.gross for r in rows_of(m, "end of a hip")) for m in (plain, wide))
    corner = (past * FOOT) ** 2 * (1.0 + past / 28.0)
    assert outer == pytest.approx(inner + ACTS * q.end_over * corner / 1000.0, rel=0.01)


@pytest.mark.parametrize(("wide", "past"), [(12.0, 1.0), (12.0, 3.0), (16.0, 2.0), (28.0, 1.5)])
def test_a_porch_under_one_slope_overhangs_by_the_lever(wide, past):
    """Moments about the head: more lifts what overhangs, and a narrow roof hands all of that and more to its eave."""
    p = roofed([(0, 0), (40, 0), (40, wide), (0, wide)], overhang=past * FOOT)
    for wall in ("wall-2", "wall-3", "wall-4"):
        p = set_side(p, "roof-1", wall, kind="gable", overhang=0.0)
    model = derive(blown(edits.change(p, "roof-1", pitch=0.25)))
    wind, deep = model.uplift.wind["roof-1"], model.surfaces[0].deep[0]
    apart = model.designs[("roof-1", "rafters")].spacing
    row = next(r for r in rows_of(model, "rafter", "wall-1") if not r.end)
    between, head = (wide * FOOT) - 2.0 * deep, wide * FOOT - deep
    moment = wind.inner * wide * FOOT * (head - wide * FOOT / 2.0)
    moment += wind.inner_over * past * FOOT * (head + past * FOOT / 2.0)
    by_hand = ACTS * apart * moment / between / 1000.0
    assert by_hand * 0.999 <= row.gross <= by_hand * 1.02


def test_rafters_beside_an_opening_are_tied_for_all_they_carry():
    p = add_roof_opening(blown(roofed(RECTANGLE)), "roof-1", "wall-1", 20.0 * FOOT, 4.0 * FOOT)
    model = derive(p)
    framing, apart = model.planes["roof-1"], model.designs[("roof-1", "rafters")].spacing
    usual = max(r.net for r in model.uplift.lifted if r.bearer == "wall-1" and r.what == "rafter" and not r.end)
    heavier = next(r for r in model.uplift.lifted if r.bearer == "wall-1" and r.what == HEAVIER and not r.end)
    widest = max(framing.widths[key] for header in framing.headers for key in header.trimmers)
    # By hand: half of what is cut below, all of what is cut above (it leans on the ridge) come to both trimmers by halves, and of that
    # to their feet what three hinges leave there.
    (hole,) = model.surfaces[0].holes
    one = next(m.member for m in framing.members if m.key == framing.headers[0].trimmers[0])
    run, span = one.end[1] - one.start[1], framing.headers[0].between[1] - framing.headers[0].between[0]
    (low, high), comes = hole.inward, 0.0
    for x, cut in ((low, low / 2.0), (high, run - high)):
        comes += cut * span / 2.0 * (1.0 - x / (2.0 * run))
    assert widest == pytest.approx(apart + comes / (run + one.over), rel=0.01)
    assert widest > 1.3 * apart
    assert heavier.net == pytest.approx(usual * widest / apart, rel=1e-6)
