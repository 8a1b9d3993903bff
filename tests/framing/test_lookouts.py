"""Lookouts over gables: where they lie, let into what, what they bring to which wall; statics by hand, nothing stands in anything."""

import itertools
import math

import pytest
from hypothesis import example, given, settings
from hypothesis import strategies as st
from msgspec.structs import replace
from tests.framing.solids import apart
from tests.framing.test_roof_trim import of, roofed
from tests.loads.test_beams import balanced

from balken.catalog.sections import section
from balken.catalog.straps import MADE_UP
from balken.derive import derive
from balken.design.lookouts import gable_lookouts, under_wind
from balken.design.surface_design import SurfaceDesign
from balken.documents.display import Text
from balken.documents.rafter_templates import draw_template, rafter_templates
from balken.loads.area_loads import roof_cases
from balken.loads.cases import total
from balken.loads.roof_snow import Band
from balken.model import edits
from balken.model.records import Choice
from balken.model.roof_edits import set_side
from balken.panel.card_content import card
from balken.session.session import Session
from balken.standards.us.ply_nails import END_GRAIN, end_nails, nail_value
from balken.units import format_length
from balken.units.speed import MPH
from balken.units.system import FOOT, INCH, PSF

OVER = 18.0 * INCH


def lookouts_over(over=OVER, apart_=16.0 * INCH, pitch=0.5, **loads):
    p = roofed(pitch, overhang=12.0 * INCH, rafters=Choice(size="2x8", spacing=apart_))
    p = edits.set_loads(p, **({"ground_snow": 30.0 * PSF} | loads))
    return set_side(p, "roof-1", "wall-2", overhang=over)


def designed(model) -> SurfaceDesign:
    return model.planes["roof-1"]


def test_they_run_from_the_rafter_inside_to_the_fly_rafter():
    """Rafters at 16 in: the end rafter lies in the last 1 1/2 in, the one inside it where the 16 in leave it."""
    model = derive(lookouts_over())
    assert not [f for f in model.findings if f.code == "gable overhang"]
    rows = designed(model).lookouts.rows
    assert len(rows) == 2
    pieces, flies = of(model, "lookout"), of(model, "fly rafter")
    assert len(flies) == 4
    assert len(of(model, "ladder block")) > 0  # the other gable's foot of overhang keeps its ladder
    slope = math.hypot(1.0, 0.5)
    for row in rows:
        places = [t * slope for t in row.row.places]
        assert places[0] > 5.5 * INCH  # clear of the plates
        steps = [b - a for a, b in itertools.pairwise(places)]
        assert all(step == pytest.approx(24.0 * INCH) for step in steps[:-1])
        assert steps[-1] <= 24.0 * INCH + 1e-6
        # Between that inner rafter's face and the fly rafter's, both 1 1/2 in thick.
        inner = next(one for one in designed(model).members if one.key == row.row.rafters[1])
        gap = 40.0 * FOOT - inner.member.start[0] if inner.member.start[0] > 20.0 * FOOT else inner.member.start[0]
        mine = [x for x in pieces if x.key.split("/")[2] == str(row.row.edge)]
        assert len(mine) == len(places)
        assert {round(x.length, 3) for x in mine} == {round(gap - 0.75 * INCH + OVER - 1.5 * INCH, 3)}


def test_end_rafters_are_cut_for_them():
    """Each notch takes the lookout's section out of the end rafter, no more than a mm wider and deeper; others stay whole."""
    model = derive(lookouts_over())
    bare = derive(lookouts_over(over=12.0 * INCH))
    rows = designed(model).lookouts.rows
    ends = {row.row.rafters[0]: row for row in rows}
    for key, piece in bare.pieces.items():
        if piece.role == "rafter" and key in model.pieces:
            lost = piece.solid.volume - model.pieces[key].solid.volume
            row = ends.get(key)
            size = section(row.row.size) if row is not None else None
            each = size.breadth * size.depth * 1.5 * INCH if size is not None else 0.0
            count = len(row.row.places) if row is not None else 0
            assert each * count - 1.0 <= lost <= each * count * 1.05 + 1.0
    assert len(ends) == 2


def test_statics_by_hand():
    """A beam on two supports with an overhang under an even load beyond the end rafter's outer face."""
    p = lookouts_over()
    model = derive(p)
    made = designed(model).lookouts.rows[0]
    row, case = made.row, made.result.case
    assert row.back == pytest.approx(abs(row.face - row.end))
    assert row.over == pytest.approx(OVER + 0.75 * INCH)
    widest = max(b.wide for b in made.bins)
    q = roof_cases(p.loads, 0.5, designed(model).snow.planes[row.edge].most)
    (patch,) = case.patches
    assert (patch[0], patch[1]) == (
        pytest.approx(row.back + 0.75 * INCH, abs=0.01),
        pytest.approx(row.back + row.over, abs=0.01),
    )
    line = (q.dead + q.snow) * widest / 1000.0  # N/mm
    assert patch[2].dead + patch[2].snow == pytest.approx(line)
    # Hogging over the end rafter: the load times the lever of its middle.
    moment = line * OVER * (0.75 * INCH + OVER / 2.0)
    check = next(c for c in made.result.checks if "hogging" in c.name)
    lumber = section(row.size)
    assert check.demand == pytest.approx(moment / (lumber.breadth * lumber.depth**2 / 6.0), rel=1e-3)
    # What lifts at the inner end, over 1.15 for snow's duration (NDS Table 2.3.2), to nails in end grain (12.5.2.2).
    area = max(b.area for b in made.bins)
    lifts = (q.dead + q.snow) * area / 1000.0 * (0.75 * INCH + OVER / 2.0) / row.back
    assert made.nails.force == pytest.approx(lifts / 1.15, rel=1e-3)
    assert made.nails.value == pytest.approx(END_GRAIN * nail_value(p.roofs[0].rafters.species, 1.5 * INCH))
    assert made.nails.number == max(2, math.ceil(made.nails.force / made.nails.value))


def test_what_lies_beyond_comes_to_the_gable_and_lifts_inside():
    """By moments about both supports; in all the same load as before comes down."""
    model, before = derive(lookouts_over()), derive(lookouts_over(over=0.0))
    balanced(model)
    rows = designed(model).lookouts.rows
    q = roof_cases(model.project.loads, 0.5, designed(model).snow.planes[rows[0].row.edge].laid)
    half = (14.0 * FOOT + 12.0 * INCH) * OVER  # of each slope in plan, its eave's overhang with it
    assert [sum(b.area for b in row.bins) for row in rows] == [pytest.approx(half, rel=1e-6)] * 2
    lever = (0.75 * INCH + OVER / 2.0) / rows[0].row.back
    gable = sum(r.force.dead for r in model.path.reactions if r.piece == "roof-1/lookout")
    assert gable == pytest.approx(2.0 * q.dead * half / 1000.0 * (1.0 + lever), rel=1e-6)

    def of_roof(one):
        return sum(r.force.dead for r in one.path.reactions if r.piece.startswith("roof-1/"))

    assert of_roof(model) - of_roof(before) == pytest.approx(2.0 * q.dead * half / 1000.0, rel=1e-6)
    assert model.path.walls["wall-2"].members.dead == pytest.approx(gable, rel=1e-6)
    assert before.path.walls["wall-2"].members.dead == 0.0


def test_walls_under_the_eaves_are_made_for_snow_inside_alone():
    """What snow beyond the gable lifts off the rafter inside is no part of the balance where it may be missing: dead load alone is."""
    model = derive(lookouts_over())
    made = designed(model).lookouts
    q = roof_cases(model.project.loads, 0.5, designed(model).snow.planes[made.rows[0].row.edge].laid)
    area = sum(b.area for row in made.rows for b in row.bins)
    after_all = total(r.force for r in made.beyond)
    assert after_all.snow == pytest.approx(q.snow * area / 1000.0 * made.rows[0].row.lever, rel=1e-6)
    assert (after_all.dead, after_all.live) == (0.0, 0.0)
    assert {r.bearer for r in made.beyond} == {"wall-1", "wall-3"}
    more = [model.path.extremes[wall].more.snow for wall in ("wall-1", "wall-3") if wall in model.path.extremes]
    assert more or model.path.beyond


def test_drifts_on_the_overhang_bend_them():
    """Snow piled against something beside the gable, over the even snow, where it lies highest."""
    model = derive(lookouts_over())
    framing, plan = designed(model), model.surfaces[0]
    lines = {w: line for w, line in model.lines.items() if w in plan.outline.walls}
    x = 40.0 * FOOT + OVER
    band = Band((x, -900.0), (x, 28.0 * FOOT + 900.0), (-1.0, 0.0), 2.0, 3000.0, True)
    piled = replace(framing.snow, bands=(band,))
    sizes = framing.boards.rafter, framing.tied.size
    made = gable_lookouts(plan, framing.members, sizes, model.project.loads, piled, lines, model.standard).rows[0]
    (patch,) = made.result.case.patches
    lies = piled.planes[made.row.edge]
    most = max(lies.most, lies.balanced + 2.0 * (1.0 - 0.75 * INCH / 3000.0))
    assert patch[2].snow == pytest.approx(most * max(b.wide for b in made.bins) / 1000.0, rel=1e-3)


def test_end_rafters_notched_otherwise_are_another_kind():
    """A narrow overhang on one gable, a wide one on the other: lookouts of unlike depth, templates of their own."""
    p = set_side(lookouts_over(14.0 * INCH, apart_=24.0 * INCH), "roof-1", "wall-4", overhang=36.0 * INCH)
    model = derive(p)
    rows = designed(model).lookouts.rows
    assert len({(row.row.size, row.apart) for row in rows}) == 2
    marks = {row.row.gable: model.marks[row.row.rafters[0]] for row in rows}
    assert len(set(marks.values())) == 2


def test_what_lifts_the_rafter_inside_is_tied():
    """All snow beyond the gable, half of it on the roof (ASCE 7-16, 7.5)."""
    made = designed(derive(lookouts_over(24.0 * INCH))).lookouts.rows[0]
    model = derive(lookouts_over(24.0 * INCH))
    q = roof_cases(model.project.loads, 0.5, designed(model).snow.planes[made.row.edge].most)
    lever = (0.75 + 12.0) * INCH / made.row.back
    beyond = 24.0 * INCH * 15.0 * FOOT * lever
    inside = made.row.strip * 14.0 * FOOT
    by_hand = ((q.dead + q.snow) * beyond - (q.dead + q.snow / 2.0) * inside) / 1000.0
    live = ((q.dead + q.roof_live) * beyond - q.dead * inside) / 1000.0
    assert made.lifted == pytest.approx(max(by_hand, live), rel=1e-3)
    assert next(row for row in MADE_UP if row.name == made.tie).up >= made.lifted


def test_wind_lifts_them_off_the_gable():
    """0.6 W less 0.6 D beyond the gable, by moments about the inner end; none of the ties of the list holds beyond any map."""
    model = derive(lookouts_over(wind_speed=115.0 * MPH))
    made, wind = designed(model).lookouts.rows[0], model.uplift.wind["roof-1"]
    used, tie, lifts = under_wind(model.surfaces[0], made, model.project.loads, wind, model.standard)
    q = roof_cases(model.project.loads, 0.5, 0.0)
    # Of small parts of overhangs at corners: 3.7 of the air's pressure at 6:12 (ASCE 7-10, Figure 30.4-2B, zone 3, from memory).
    net = 0.6 * (3.7 * wind.speed - q.dead) * max(b.wide for b in made.bins) / 1000.0
    lever = (0.75 * INCH + OVER / 2.0) / made.row.back
    assert lifts == pytest.approx(net * OVER * (1.0 + lever), rel=1e-3)
    assert used <= 1.0
    assert tie
    row = next(row for row in model.uplift.lifted if row.what == "lookout")
    assert row.bearer == "wall-2"
    assert row.gross > 0.0
    stormy = derive(lookouts_over(36.0 * INCH, apart_=24.0 * INCH, wind_speed=250.0 * MPH))
    assert designed(stormy).lookouts.rows
    assert any("wind lifts its lookouts" in f.what for f in stormy.findings)


def test_what_has_none_is_told_and_why():
    shallow = derive(edits.change(lookouts_over(), "roof-1", rafters=Choice(size="2x4", spacing=16.0 * INCH)))
    assert any("too shallow" in f.why for f in shallow.findings if f.code == "gable overhang")
    far = derive(lookouts_over(8.0 * FOOT))
    assert any(
        "no tie of the list" in f.why or "up to 2x8" in f.why for f in far.findings if f.code == "gable overhang"
    )


def test_the_card_and_the_calculation_say_them():
    session = Session(lookouts_over(24.0 * INCH))
    session.select(["roof-1"])
    said = str(card(session, lambda *_: None, lambda *_: None))
    assert "Lookouts" in said
    assert "16d common nails into its end" in said


def test_the_template_of_an_end_rafter_says_its_notches():
    """A template of its own beside that of the other rafters; its bird's mouth is that of theirs."""
    model = derive(lookouts_over())
    made = rafter_templates(model)
    (one,) = [t for t in made if t.lookouts is not None]
    assert one.times + one.mirrored == 2
    drawn = draw_template(model, one, 16.0)
    said = [i.text for i in drawn.items if isinstance(i, Text)]
    assert "notched for lookouts" in drawn.title
    first = one.lookouts.places[0] * math.hypot(1.0, 0.5)
    assert any(format_length(first, model.units) in text for text in said if text.startswith("notches for 2x4"))
    usual = next(t for t in made if t.lookouts is None and t.member is not None and t.member.role == "common rafter")
    theirs = [i.text for i in draw_template(model, usual, 16.0).items if isinstance(i, Text)]
    mouths = [next(t for t in row if t.startswith("bird's mouth")) for row in (said, theirs)]
    assert mouths[0] == mouths[1]


def test_more_nails_than_find_room_do_not_fit():
    made = end_nails(("S-P-F", "S-P-F"), 1.5 * INCH, 3.5 * INCH, 3.01 * END_GRAIN * nail_value("S-P-F", 1.5 * INCH))
    assert (made.number, made.fits) == (4, False)


@given(
    st.sampled_from([1 / 3, 0.5, 0.75, 1.0]),
    st.sampled_from([14.0, 18.0, 24.0, 31.0]),
    st.sampled_from([12.0, 16.0, 19.2, 24.0]),
    st.sampled_from(["2x6", "2x8", "2x12"]),
    st.sampled_from([0.0, 300.0, 700.0]),
    st.floats(0.3, 1.2),
)
@example(0.5, 18.0, 16.0, "2x8", 300.0, 0.5)
@settings(max_examples=10, deadline=None)
def test_nothing_stands_in_anything_and_all_comes_down(pitch, over, spacing, size, eave, other):
    """Both slopes of unlike pitch: the ridge stands off the middle."""
    p = roofed(pitch, overhang=eave, rafters=Choice(size=size, spacing=spacing * INCH))
    p = set_side(p, "roof-1", "wall-3", pitch=round(other, 3))
    for wall in ("wall-2", "wall-4"):
        p = set_side(p, "roof-1", wall, overhang=over * INCH)
    model = derive(p)
    balanced(model)
    if model.planes.get("roof-1") is None:
        return
    pieces = [x for x in model.pieces.values() if x.owner == "roof-1" or x.owner.startswith("wall")]
    apart([x for x in pieces if x.role in ("lookout", "fly rafter")], pieces, 1e4)
