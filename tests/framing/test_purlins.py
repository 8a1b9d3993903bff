"""Purlins under rafters: where they lie, what they take; pairs of rafters over props against PyNiteFEA, any uneven load by integration."""

import itertools
import math

import numpy as np
import pytest
from hypothesis import example, given, settings
from hypothesis import strategies as st
from msgspec.structs import replace as replace_struct
from Pynite import FEModel3D
from tests.framing.solids import apart
from tests.framing.test_roof_trim import of, roofed
from tests.framing.test_roofs_on_beams import carport
from tests.framing.test_surface_roofs import roofed as winged
from tests.loads.test_beams import balanced

from balken.analysis.beam import two_spans
from balken.catalog.sections import section
from balken.derive import derive
from balken.design.purlin_posts import APART, purlin_ends
from balken.design.roof_posts import posts_under_purlins
from balken.documents.member_calculation import member_calculation
from balken.findings.fixes import FIXES
from balken.framing.purlins import FIRST, LAST, whole
from balken.framing.surface_ties import over_gable
from balken.loads.cases import Cases, total
from balken.loads.propped import Prop, Propped
from balken.loads.roof_sides import Side
from balken.loads.roof_snow import Band
from balken.loads.roof_statics import spread
from balken.model import edits
from balken.model.edits import EditError
from balken.model.kinds.choice import Choice
from balken.model.roof_edits import add_roof_opening, set_side
from balken.session.session import Session
from balken.standards.demands import Limit, MemberCase
from balken.standards.us.members import check_member
from balken.units.system import FOOT, INCH, PSF

RECTANGLE = [(0, 0), (40, 0), (40, 28), (0, 28)]


def held_up(p, most=APART):
    """The same house with posts under its purlins."""
    model = derive(p)
    return posts_under_purlins(p, "roof-1", purlin_ends(model.surfaces[0], model.planes["roof-1"]), most)


def over(at=7.0 * FOOT, pitch=0.75, **fields):
    return roofed(pitch, purlins_at=at, **fields)


def pair(run, at, w, pitch):
    """Solve a pair of rafters, pinned at both eaves and held upright at a purlin each, in PyNiteFEA: N, mm."""
    model = FEModel3D()
    model.add_material("wood", 1e4, 4e3, 0.3, 1e-9)
    model.add_section("rafter", 1e7, 1e8, 1e8, 1e8)
    places = (("a", 0.0), ("ap", at), ("top", run), ("bp", 2.0 * run - at), ("b", 2.0 * run))
    for name, x in places:
        model.add_node(name, x, pitch * min(x, 2.0 * run - x), 0.0)
        model.def_support(name, name in "ab", name != "top", True, True, True, False)
    for name, i, j in (("1", "a", "ap"), ("2", "ap", "top"), ("3", "top", "bp"), ("4", "bp", "b")):
        model.add_member(name, i, j, "wood", "rafter")
        model.add_member_dist_load(name, "FY", *(2 * [-w / math.hypot(1.0, pitch)]))
    model.def_releases("2", Rzj=True)
    model.analyze_linear()
    combo = "Combo 1"
    moments = [abs(f(model.members[m])) for m in "12" for f in (_most, _least)]
    feet = model.nodes["a"]
    return feet.RxnFX[combo], feet.RxnFY[combo], model.nodes["ap"].RxnFY[combo], max(moments)


@pytest.mark.parametrize(
    ("at", "past", "beam"), [(5.0, 2.0, True), (8.0, 3.0, True), (7.0, 1.0, True), (6.0, 3.0, False)]
)
def test_an_overhang_turns_rafters_over_their_feet(at, past, beam):
    """PyNiteFEA: a level beam over three supports, the overhang before the first; of a pair that leans on a ridge board what it brings to
    its head comes to its foot.
    """
    made = "beam" if beam else "board"
    p = roofed(0.5, purlins_at=at * FOOT, overhang=past * FOOT, ridge_made=made)
    for wall in ("wall-2", "wall-4"):
        p = set_side(p, "roof-1", wall, kind="gable", overhang=0.0)
    model = derive(p)
    plan = model.surfaces[0]
    deep, run, w = plan.deep[0], 14.0 * FOOT, 1.0
    line = FEModel3D()
    line.add_material("wood", 1e4, 4e3, 0.3, 1e-9)
    line.add_section("rafter", 1e7, 1e8, 1e8, 1e8)
    places = [("o", -past * FOOT - deep), ("a", 0.0), ("p", at * FOOT), ("r", run)]
    for name, x in places:
        line.add_node(name, x, 0.0, 0.0)
        line.def_support(name, name == "a", name != "o", True, True, name != "o", False)
    for (i, _), (j, _) in itertools.pairwise(places):
        line.add_member(i + j, i, j, "wood", "rafter")
    # What hangs out presses beyond the outer face, deep before the middle of the bearing; the rest as the path takes it, from that on.
    line.add_member_dist_load("oa", "FY", -w, -w, 0.0, past * FOOT)
    for name in ("ap", "pr"):
        line.add_member_dist_load(name, "FY", -w, -w)
    line.analyze_linear()
    foot, middle, head = (line.nodes[name].RxnFY["Combo 1"] for name in ("a", "p", "r"))
    foot, head = (foot, head) if beam else (foot + head, 0.0)
    balanced(model)
    # Beside gables no purlin holds a strip: elsewhere, by length.
    (strip,) = (
        x
        for x in Side(plan, plan.surface.faces[0]).strips(0.0, (), (2.0 * FOOT, 38.0 * FOOT))
        if x.first < 20.0 * FOOT < x.last
    )
    side, prop = (
        Side(plan, plan.surface.faces[0]),
        Propped(plan, model.planes["roof-1"].purlins, len(plan.surface.lines)),
    )
    made = prop.over(0, strip, "wall-1", beam).with_past(side.past(strip, "wall-1"), False)
    assert made.foot * run + past * FOOT == pytest.approx(foot, rel=0.005)
    assert made.middle * run == pytest.approx(middle, rel=0.01)
    assert made.head * run == pytest.approx(head, rel=0.01)
    assert made.foot + made.middle + made.head == pytest.approx(1.0)
    bare = prop.over(0, strip, "wall-1", beam).with_past(side.past(strip, "wall-1"), True)
    assert bare.middle == prop.over(0, strip, "wall-1", beam).middle


def _most(member):
    return member.max_moment("Mz")


def _least(member):
    return member.min_moment("Mz")


@pytest.mark.parametrize(("run", "at", "w", "pitch"), [
    (4267.2, 2133.6, 1.7, 0.75), (4000.0, 1300.0, 2.3, 0.5), (5200.0, 3500.0, 0.9, 1.0), (3600.0, 1700.0, 3.0, 4 / 12),
])  # fmt: skip
def test_a_pair_over_purlins_as_pynite_solves_it(run, at, w, pitch):
    thrust, foot, prop, moment = pair(run, at, w, pitch)
    made = two_spans(w, at, run - at)
    assert prop == pytest.approx(made.middle, rel=2e-3)
    assert foot == pytest.approx(made.first + made.last, rel=2e-3)
    assert thrust == pytest.approx(made.last / pitch, rel=4e-3)
    assert moment == pytest.approx(made.most, rel=2e-3)
    # What ties are made for is that of the upper part by itself.
    assert thrust <= w * (run - at) / 2.0 / pitch * (1.0 + 1e-6)


@given(part=st.floats(FIRST, LAST), loads=st.lists(st.floats(0.0, 1.0), min_size=1, max_size=8))
@settings(max_examples=200)
@example(part=0.5, loads=[1.0, 0.0])
@example(part=0.7, loads=[1.0, 1.0, 0.0])
def test_no_uneven_load_bends_more_than_its_most_all_over(part, loads):
    """Forces of the middle support by its sag (unit load), integrated; snow on some of a rafter is covered by its most on all of it."""
    n = 1200
    x = (np.arange(n) + 0.5) / n
    q = np.array(loads)[np.minimum((x * len(loads)).astype(int), len(loads) - 1)] / n
    sag = _sag(x, part)
    middle = float((q * sag).sum() / _sag(np.array([part]), part)[0])
    last = float((q * x).sum() - middle * part)
    first = float(q.sum() - middle - last)
    moments = (
        first * x - np.array([(q[:k] * (x[k] - x[:k])).sum() for k in range(n)]) + middle * np.maximum(x - part, 0.0)
    )
    made = two_spans(max(loads), part, 1.0 - part)
    assert np.abs(moments).max() <= made.most + 2e-4
    assert middle <= made.middle + 2e-3


def _sag(x, at):
    """Sag of a simple beam of length 1 at x under a unit force at a place, times E I: handbook."""
    b = 1.0 - at
    left = b * x * (1.0 - b**2 - x**2) / 6.0
    y = 1.0 - x
    right = at * y * (1.0 - at**2 - y**2) / 6.0
    return np.where(x <= at, left, right)


def test_a_rafter_over_a_purlin_by_hand():
    """A 2x6 of SPF No. 2 at 16 in over 7 ft and 7 ft, 30 psf of snow: w a2/8 over the purlin, 5/8 of all on it, 5/8 of a part as shear."""
    load = Cases(dead=10.0 * PSF, snow=30.0 * PSF)
    case = MemberCase(
        "rafter", "2x6", "S-P-F", "No. 2", 14.0 * FOOT, 16.0 * INCH, load, Limit(180.0, "IRC R301.7"), 0.0, 0.5,
        propped=7.0 * FOOT, prop_breadth=1.5 * INCH,
    )  # fmt: skip
    found = {check.name: check for check in check_member(case).checks}
    w, a = 40.0 * PSF * 16.0 * INCH / 1000.0, 7.0 * FOOT
    wood = section("2x6")
    assert found["bending"].demand == pytest.approx(w * a**2 / 8.0 / wood.modulus, rel=1e-6)
    assert found["shear"].demand == pytest.approx(1.5 * w * (0.625 * a - wood.depth) / wood.area, rel=1e-6)
    assert found["bearing on the purlin"].demand == pytest.approx(1.25 * w * a / (1.5 * INCH) ** 2, rel=1e-6)
    sag = next(c for name, c in found.items() if name.startswith("deflection"))
    alone = check_member(MemberCase(*(getattr(case, f) for f in ("kind", "size", "species", "grade")), a, *(
        getattr(case, f) for f in ("spacing", "load", "limit", "bearing", "pitch")), tables=True))  # fmt: skip
    assert sag.demand == pytest.approx(next(c for c in alone.checks if c.name == sag.name).demand, rel=1e-6)


def test_from_gable_to_gable_it_takes_five_eighths_of_what_lies_on_it():
    model = derive(over(overhang=0.0))
    plan, framing = model.surfaces[0], model.planes["roof-1"]
    laid = spread(plan, model.project.loads, framing.snow, (), laid=framing.purlins)
    q = model.project.loads.roof_live / 1000.0
    assert len(framing.purlins) == 2
    for one in framing.purlins:
        # Between the inner faces of both gables, as the deck of the outer half bays lies on these.
        assert one.wood == pytest.approx((6.5 * INCH, 40.0 * FOOT - 6.5 * INCH), abs=0.1)
        number = len(plan.surface.lines) + framing.purlins.index(one)
        on = total(p.force for p in laid.lines[number].patches)
        assert on.roof_live == pytest.approx(q * 0.625 * 14.0 * FOOT * (one.holds[1] - one.holds[0]), rel=1e-3)
    whole_roof = q * 40.0 * 28.0 * FOOT**2
    every = total((*(r.force for r in laid.walls), *(p.force for on in laid.lines.values() for p in on.patches)))
    assert every.roof_live == pytest.approx(whole_roof, rel=1e-6)


def test_it_lets_rafters_be_less_deep_and_ties_be_pulled_less():
    without, held = derive(roofed(0.75)), derive(held_up(over()))
    assert (
        section(held.designs["roof-1", "rafters"].size).depth < section(without.designs["roof-1", "rafters"].size).depth
    )
    typed = {"rafters": Choice(size="2x8", spacing=16.0 * INCH)}
    pulls = []
    for p in (roofed(0.75, **typed), held_up(over(**typed))):
        framing = derive(p).planes["roof-1"]
        pulls.append(framing.results[framing.ties[0].key].case.tension.roof_live)
    assert pulls[1] == pytest.approx(pulls[0] / 2.0, rel=1e-3)


def test_posts_hold_it_and_it_is_spliced_over_them():
    model = derive(over())
    told = [f for f in model.findings if f.code == "purlin"]
    assert len(told) == 2
    p = FIXES[told[0].fix.command](model.project, *told[0].fix.args)
    model = derive(p)
    assert not [f for f in model.findings if f.code == "purlin"]
    balanced(model)
    framing = model.planes["roof-1"]
    assert len(framing.purlins) == 6
    assert len({framing.boards.lines[one.key] for one in framing.purlins}) == 1
    assert all(one.wood[1] - one.wood[0] <= p.stock_length for one in framing.purlins)
    assert [one.wood for one in whole(framing.purlins)] == [
        one.wood for one in whole(derive(over()).planes["roof-1"].purlins)
    ]
    places = sorted(c.stand.at[0] for c in model.path.columns.values() if c.stand.at[1] < 14.0 * FOOT)
    assert len(places) == 6
    assert max(b - a for a, b in itertools.pairwise(places)) <= 8.0 * FOOT
    with pytest.raises(EditError, match="as close as that already"):
        held_up(p)
    # Posts stand up to its lower edge.
    for post in model.path.columns.values():
        near = [one for one in of(model, "purlin") if abs(one.start[1] - post.stand.at[1]) < 1.0]
        assert post.stand.head == pytest.approx(near[0].solid.heights[0], abs=0.5)
    assert "A purlin holds it" in {line.text for line in member_calculation(model, "roof-1")}


def test_nothing_stands_in_anything_and_rafters_lie_on_it():
    for pitch in (0.4, 0.75, 1.0):
        model = derive(held_up(over(6.0 * FOOT, pitch)))
        mine = of(model, "purlin")
        assert len(mine) >= 4
        others = [p for p in model.pieces.values() if p.key not in {x.key for x in mine}]
        apart(mine, others, 1.0)
        apart(of(model, "column"), [*mine, *of(model, "rafter")], 1.0)
        plan = model.surfaces[0]
        rafter = section(model.designs["roof-1", "rafters"].size)
        for one in mine:
            own = plan.bearing + plan.plate_to_top + pitch * 6.0 * FOOT - rafter.depth * math.hypot(1.0, pitch)
            assert one.start[2] == pytest.approx(own, abs=0.01)


def test_it_ends_at_hips_and_holds_the_jacks_that_reach_over_it():
    model = derive(winged(RECTANGLE, pitch=0.75, purlins_at=7.0 * FOOT))
    framing = model.planes["roof-1"]
    by_edge = {one.edge: one for one in framing.purlins}
    # Those of hip ends too: their jacks are longest in the middle.
    assert len(by_edge) == 4
    long = by_edge[0]
    assert 10.0 * FOOT - 16.0 * INCH <= long.wood[0] <= 10.0 * FOOT + 16.0 * INCH  # there jacks run 7 ft / 0.7
    held = [r for r in framing.results.values() if isinstance(r.case, MemberCase) and r.case.propped > 0.0]
    runs = [r.case.clear for r in held]
    assert min(runs) >= 7.0 * FOOT / 0.7 - 5.5 * INCH - 1.0
    assert len([f for f in model.findings if f.code == "purlin"]) == 4
    balanced(derive(held_up(model.project)))


@given(
    at=st.floats(1.0, 16.0), pitch=st.floats(0.3, 1.2), overhang=st.floats(0.0, 2.0), hips=st.booleans(), made=st.sampled_from(["board", "beam"]),
)  # fmt: skip
@settings(max_examples=12)
@example(at=7.0, pitch=0.75, overhang=1.0, hips=True, made="beam")
@example(at=5.0, pitch=0.5, overhang=1.5, hips=False, made="board")
@example(at=2.02, pitch=1.0, overhang=1e-5, hips=True, made="board")
def test_all_loads_come_down(at, pitch, overhang, hips, made):
    p = winged(pitch=pitch, overhang=overhang * FOOT, purlins_at=at * FOOT, ridge_made=made)
    if not hips:
        p = over(at * FOOT, pitch, overhang=overhang * FOOT, ridge_made=made)
    model = derive(p)
    if model.planes["roof-1"].purlins:
        model = derive(held_up(p, 10.0 * FOOT))
        assert not [f for f in model.findings if f.code == "purlin" and "nothing holds" in f.what]
    balanced(model)


def test_openings_in_its_way_break_it_and_cut_rafters_are_not_held():
    p = over()
    model = derive(
        add_roof_opening(p, "roof-1", "wall-1", 20.0 * FOOT, 7.0 * FOOT, width=3.0 * FOOT, length=4.0 * FOOT)
    )
    framing = model.planes["roof-1"]
    mine = [one for one in framing.purlins if one.edge == 0]
    assert len(mine) == 2
    assert mine[0].wood[1] < 18.5 * FOOT < 21.5 * FOOT < mine[1].wood[0]
    high = derive(
        add_roof_opening(p, "roof-1", "wall-1", 20.0 * FOOT, 13.0 * FOOT, width=3.0 * FOOT, length=2.0 * FOOT)
    )
    framing = high.planes["roof-1"]
    assert len([one for one in framing.purlins if one.edge == 0]) == 1
    for header in framing.headers:
        for key in header.trimmers:  # headers press on them: checked without it
            assert framing.results[key].case.propped == 0.0


def test_a_drift_goes_by_the_lever_and_whole_where_boards_are_chosen():
    """By hand: 1 kN/m2 over 2 ft about 3 1/2 ft in of one wall, a purlin 7 ft in: half of it to that; all of it where it is chosen."""
    model = derive(over(overhang=0.0))
    plan, framing = model.surfaces[0], model.planes["roof-1"]
    number = len(plan.surface.lines) + next(k for k, one in enumerate(framing.purlins) if one.edge == 0)
    band = Band((0.0, 2.5 * FOOT), (40.0 * FOOT, 2.5 * FOOT), (0.0, 1.0), 1.0, 2.0 * FOOT, False)
    drifted = replace_struct(framing.snow, bands=(band,))
    long = framing.purlins[0].holds[1] - framing.purlins[0].holds[0]

    def on_it(snow, most):
        laid = spread(plan, model.project.loads, snow, (), most=most, laid=framing.purlins)
        every = total((*(r.force for r in laid.walls), *(p.force for on in laid.lines.values() for p in on.patches)))
        return total(p.force for p in laid.lines[number].patches).snow, every.snow

    (bare, all_bare), (more, all_more) = on_it(framing.snow, False), on_it(drifted, False)
    assert more - bare == pytest.approx(1.0 * 2.0 * FOOT / 1000.0 * long * 0.5, rel=0.04)
    assert all_more - all_bare == pytest.approx(1.0 * 2.0 * FOOT / 1000.0 * 40.0 * FOOT, rel=0.03)
    assert on_it(drifted, True)[0] - on_it(framing.snow, True)[0] == pytest.approx(
        1.0 * 2.0 * FOOT / 1000.0 * long, rel=0.03
    )
    assert Prop(0, 0.4, 0.1, 0.7, 0.2).lever(0.7) == pytest.approx(0.5)


def test_end_rafters_over_a_beam_are_held_by_no_wall():
    model = derive(carport(purlins_at=5.0 * FOOT))
    (framing,) = model.planes.values()
    assert framing.purlins
    plan = model.surfaces[0]
    ends = [one for one in framing.members if one.wall and over_gable(plan, one.member)]
    assert len(ends) == 4
    assert all(framing.results[one.key].case.propped == 0.0 for one in ends)
    assert any(r.case.propped > 0.0 for r in framing.results.values() if isinstance(r.case, MemberCase))


def test_beside_a_raised_eave_it_ends_before_the_wall():
    p = set_side(
        winged(RECTANGLE, pitch=0.5, overhang=0.0, purlins_at=7.0 * FOOT), "roof-1", "wall-2", raised=5.0 * FOOT
    )
    model = derive(held_up(p))
    mine = of(model, "purlin")
    assert max(c[0] for one in mine for c in one.solid.corners()) < 40.0 * FOOT - 5.5 * INCH
    apart(mine, [x for x in model.pieces.values() if x.role != "purlin"], 1.0)
    balanced(model)


def test_what_does_not_work_is_said():
    with pytest.raises(EditError, match="raised ties"):
        over(tie_raise=500.0)
    with pytest.raises(EditError, match="1 to 33 ft"):
        over(at=100.0)
    assert [f.what for f in derive(over(at=13.0 * FOOT)).findings if f.code == "purlin"] == [
        "Roof: purlins 13'-0\" in of its walls hold no rafters"
    ]
    low = derive(over(4.5 * FOOT, 0.25))
    assert any("lies in the ceiling ties" in f.what for f in low.findings)
    with pytest.raises(EditError, match="apart"):
        held_up(over(), most=10.0)


def test_posts_under_it_are_tied_against_wind():
    p = edits.set_loads(held_up(over(0.0 + 7.0 * FOOT, 0.5)), wind_speed=60.0)
    rows = [row for row in derive(p).uplift.lifted if row.what == "purlin"]
    assert rows
    assert all(row.tie for row in rows if row.net > 0.0)


def test_its_card_sets_posts_when_a_distance_is_typed():
    from balken.panel.card_content import card

    session = Session(over())
    session.select(["roof-1"])
    entry = next(x for x in card(session, 5).parts if getattr(x, "label", "") == "Set posts under purlins")
    assert session.apply("posts", entry.commit("8'"))
    assert len(session.project.columns) == 12
