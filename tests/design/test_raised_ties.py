"""Ceiling ties raised over the plates: span factors and heel-joint factors as published, a pair of rafters against PyNiteFEA."""

import math

import pytest
from msgspec.structs import replace
from Pynite import FEModel3D
from tests.framing.test_roof_trim import of, roofed
from tests.loads.test_beams import balanced

from balken.analysis.beam import greatest_tied_moment, point_deflection, simple_moment, tied_moment
from balken.derive import derive
from balken.design.heel_joints import heel_joints
from balken.framing.surface_ties import leaning
from balken.loads.area_loads import ceiling_cases
from balken.model import edits
from balken.model.records import Choice
from balken.standards.us.members import check_member
from balken.units.system import FOOT

# IRC 2018 Table R802.4.1(1), note a: factors on spans by HC/HR (from memory).
SPAN_FACTORS = [(1 / 3, 0.67), (1 / 4, 0.76), (1 / 5, 0.83), (1 / 6, 0.90), (1 / 7.5, 1.00)]
# IRC 2018 Table R802.5.2, note f: factors on nails (from memory).
HEEL_FACTORS = [(1 / 3, 1.50), (1 / 4, 1.33), (1 / 5, 1.25), (1 / 6, 1.20), (1 / 10, 1.11)]


@pytest.mark.parametrize(("at", "factor"), SPAN_FACTORS)
def test_span_factors_as_printed(at, factor):
    w, run = 2.0, 4000.0
    lift = w * run**2 / 2.0 / (1.0 - at)  # the pull times the rise: moments of the half pair about the ridge
    most = greatest_tied_moment(w, run, lift, at)
    assert most == pytest.approx(max(tied_moment(w, run, lift, at, run * k / 4000.0) for k in range(4001)), rel=1e-4)
    # What is printed follows from the moment at the tie; the greatest stands above it and asks for a little more.
    there = tied_moment(w, run, lift, at, at * run)
    assert min(math.sqrt(simple_moment(w, run) / there), 1.0) == pytest.approx(factor, abs=0.006)
    if at < 0.29:
        assert math.sqrt(simple_moment(w, run) / most) == pytest.approx(1.0 - at, rel=1e-9)


def _model(**fields):
    return derive(roofed(**fields))


def _tie_case(model):
    framing = model.planes["roof-1"]
    return framing.results[framing.ties[0].key].case


@pytest.mark.parametrize(("at", "factor"), HEEL_FACTORS)
def test_heel_factors_as_printed(at, factor):
    """Without a ceiling on them, raised ties are pulled so much harder."""
    low, rise = _model(), 14.0 * FOOT * 0.5
    bare = edits.set_loads(low.project, ceiling_dead=0.0, attic_live=0.0)
    bare = edits.change(bare, "roof-1", rafters=Choice(size="2x12", spacing=406.4))
    low, high = derive(bare), derive(edits.change(bare, "roof-1", tie_raise=at * rise))
    pulls = [_tie_case(m).tension.all for m in (low, high)]
    assert pulls[1] / pulls[0] == pytest.approx(factor, abs=0.006)


def frame(run, pitch, w, hung, at):
    """Solve a pair of rafters on rollers with its tie in PyNiteFEA: N, mm; return pull, moments and shear of a rafter."""
    model = FEModel3D()
    model.add_material("wood", 1e4, 4e3, 0.3, 1e-9)
    model.add_section("rafter", 1e7, 1e8, 1e8, 1e8)
    rise = run * pitch
    for name, x, y in (
        ("a", 0, 0), ("at", at * run, at * rise), ("top", run, rise), ("bt", (2 - at) * run, at * rise), ("b", 2 * run, 0)
    ):  # fmt: skip
        model.add_node(name, x, y, 0)
        model.def_support(name, name == "a", name in "ab", True, True, True, False)
    for name, i, j in (("1", "a", "at"), ("2", "at", "top"), ("3", "top", "bt"), ("4", "bt", "b"), ("tie", "at", "bt")):
        model.add_member(name, i, j, "wood", "rafter")
    model.def_releases("2", Rzj=True)
    model.def_releases("tie", Rzi=True, Rzj=True)
    slope = math.hypot(1.0, pitch)
    for name in "1234":
        model.add_member_dist_load(name, "FY", -w / slope, -w / slope)
    for name in ("at", "bt"):
        model.add_node_load(name, "FY", -hung)
    model.analyze_linear()
    pull = model.members["tie"].max_axial()
    bent = (
        max(abs(model.members[m].max_moment("Mz")) for m in "12"),
        max(abs(model.members[m].min_moment("Mz")) for m in "12"),
    )
    shear = max(abs(model.members["1"].max_shear("Fy")), abs(model.members["1"].min_shear("Fy")))
    return abs(pull), max(bent), shear


@pytest.mark.parametrize(("run", "pitch", "w", "hung", "at"), [
    (4000.0, 0.5, 1.7, 0.0, 0.3), (3600.0, 0.75, 2.1, 900.0, 0.2), (5100.0, 4 / 12, 0.9, 1500.0, 1 / 3), (3000.0, 1.0, 3.0, 400.0, 0.6),
])  # fmt: skip
def test_a_pair_with_a_raised_tie_as_pynite_solves_it(run, pitch, w, hung, at):
    pull, moment, shear = frame(run, pitch, w, hung, at)
    thrust = (w * run / 2.0 + hung * at) / pitch / (1.0 - at)
    assert pull == pytest.approx(thrust, rel=1e-3)
    own = [tied_moment(w, run, thrust * pitch * run, at, run * k / 400.0) for k in range(401)]
    ceiling = [hung * run * min((1.0 - at) * k / 400.0, at * (1.0 - k / 400.0)) for k in range(401)]
    assert max(abs(a + b) for a, b in zip(own, ceiling, strict=True)) == pytest.approx(moment, rel=2e-3)
    # Square to the rafter: what stands at its foot, by the cosine.
    assert shear == pytest.approx((w * run + hung) / math.hypot(1.0, pitch), rel=1e-3)


def test_point_deflection_as_in_tables():
    # In the middle F L^3 / (48 E I).
    assert point_deflection(1000.0, 1500.0, 3000.0, 1e4, 1e7) == pytest.approx(1000.0 * 3000.0**3 / (48.0 * 1e4 * 1e7))
    assert point_deflection(1000.0, 900.0, 3000.0, 1e4, 1e7) == point_deflection(1000.0, 2100.0, 3000.0, 1e4, 1e7)


def test_raised_ties_in_a_house_lie_between_the_rafters_and_all_loads_come_down():
    model = _model(tie_raise=500.0, rafters=Choice(size="2x12", spacing=406.4))
    plan, framing = model.surfaces[0], model.planes["roof-1"]
    assert framing.ties
    assert len(framing.ties) == len(leaning(plan, framing.members).pairs)
    for piece in of(model, "ceiling tie"):
        assert piece.solid.heights[0] == pytest.approx(plan.bearing + 500.0)
        for _x, y, z in piece.solid.corners():
            reach = min(y, 28.0 * FOOT - y)
            assert z <= plan.bearing + plan.plate_to_top + reach * 0.5 + 1.0
    balanced(model)
    case, rafter = (
        _tie_case(model),
        next(r.case for k, r in framing.results.items() if r.case.kind == "rafter" and r.case.tied_at),
    )
    at = 500.0 / (14.0 * FOOT * 0.5)
    assert rafter.tied_at == pytest.approx(at, abs=1e-6)
    # By hand: half the pair about the ridge, ceiling at the tie.
    run, wide = 14.0 * FOOT, 406.4 / 1000.0
    hung = ceiling_cases(model.project.loads).dead * run * wide
    assert case.bears.dead == pytest.approx(hung, rel=1e-6)
    assert case.nailed
    assert not any(c.name == "bearing" for c in check_member(case).checks)
    nails = heel_joints(
        model.project.roofs[0], model.designs["roof-1", "rafters"], framing.tied, framing, model.standard
    )
    # Dead load and snow govern, at CD 1.15; the ceiling's weight pulls down on the nails as the dead load pulls along the tie.
    by_hand = (math.hypot(case.tension.dead, case.bears.dead) + case.tension.snow) / 1.15
    assert nails[0][1].force == pytest.approx(by_hand, rel=1e-6)


def test_ties_bend_rafters_so_that_they_are_bigger_and_high_ones_are_told():
    sizes = [_model(tie_raise=h).designs["roof-1", "rafters"] for h in (0.0, 600.0)]
    assert sizes[1].result.used > 0.0
    assert (sizes[0].size, sizes[0].spacing) != (sizes[1].size, sizes[1].spacing)
    assert not [f for f in _model(tie_raise=700.0).findings if f.code == "raised ties"]
    assert [f for f in _model(tie_raise=800.0).findings if f.code == "raised ties"]
    assert [f for f in _model(tie_raise=1900.0).findings if f.code == "untied"]


def test_without_a_pull_a_raised_tie_changes_nothing():
    case = next(
        r.case for r in _model().planes["roof-1"].results.values() if r.case.kind == "rafter" and any(r.case.thrust)
    )
    none = replace(case, thrust=type(case.thrust)())
    same = replace(none, tied_at=0.3)
    assert {c.name: c.used for c in check_member(none).checks} == pytest.approx(
        {c.name: c.used for c in check_member(same).checks}
    )
