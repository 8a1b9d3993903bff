"""Lookouts over frames of trusses: frames set lower, what fills up to the deck, what they bring to the frame and lift at the truss inside."""

import math

import pytest
import shapely
from hypothesis import example, given, settings
from hypothesis import strategies as st
from tests.design.test_trusses import as_pynite
from tests.framing.solids import apart
from tests.framing.test_roof_trim import of
from tests.framing.test_roof_trusses import trussed
from tests.framing.test_truss_bearings import single_slope
from tests.framing.test_truss_wings import _apart, winged
from tests.loads.test_beams import balanced

from balken.catalog.sections import section
from balken.catalog.straps import MADE_UP
from balken.commands.truss import truss_report
from balken.derive import derive
from balken.design.frame_lookouts import TAIL, tail_under_wind
from balken.documents.calculation import calculation
from balken.documents.truss_drawing import truss_drawings
from balken.framing.truss_heels import butted
from balken.framing.truss_outline import height_on
from balken.loads.area_loads import roof_cases
from balken.model import edits
from balken.model.kinds.trusses import Trusses
from balken.model.roof_edits import set_side
from balken.panel.card_content import card
from balken.session.session import Session
from balken.units.speed import MPH
from balken.units.system import FOOT, INCH, PSF

OVER, EAVE = 18.0 * INCH, 16.0 * INCH


def gabled(over=OVER, pitch=0.5, eave=EAVE, trusses=None, walls=("wall-2",), **loads):
    p = edits.set_loads(trussed(pitch, trusses, overhang=eave), **({"ground_snow": 30.0 * PSF} | loads))
    p = edits.change(p, "roof-1", sides=tuple(side for side in p.roofs[0].sides))
    for wall in ("wall-2", "wall-4"):
        p = set_side(p, "roof-1", wall, overhang=over if wall in walls else 0.0)
    return p


def of_frame(model):
    made = model.trusses["roof-1"]
    (low,) = made.low
    return made, low, made.of(low.number)


def test_the_frame_is_set_lower_by_their_depth():
    """2x4 lookouts: the frame's top edge lies 3 1/2 in below the deck, square to the slope, and begins where 1/4 in of its bottom chord's
    end is left; those over the other gable and all between stay as high as before.
    """
    model, before = derive(gabled()), derive(gabled(over=0.0))
    assert not [f for f in model.findings if f.code == "gable overhang"]
    made, low, frame = of_frame(model)
    outline, depth = frame.frame.outline, section("2x4").depth
    common = made.common.frame.outline
    for x in (3.0 * FOOT, 11.0 * FOOT, 20.0 * FOOT):
        assert height_on(common.top, x) - height_on(outline.top, x) == pytest.approx(depth * 1.25**0.5)
    begin = (butted(made.common.frame.sizes.top, 0.5) - height_on(outline.top, 0.0)) / 0.5
    assert outline.start == pytest.approx(begin, abs=1e-3)
    assert low.rows[0].begin == pytest.approx(begin, abs=1e-3)
    assert height_on(outline.top, outline.start) == pytest.approx(butted(made.common.frame.sizes.top, 0.5), abs=1e-3)
    others = [make.design.frame.outline for make in made.makes if low.number not in make.numbers]
    assert {one.top for one in others} == {make.design.frame.outline.top for make in before.trusses["roof-1"].makes}
    # They run from the truss inside to the fly rafter.
    inner = 24.0 * INCH - 1.5 * INCH / 2.0 - 0.75 * INCH
    lengths = {round(x.length, 3) for x in of(model, "lookout")}
    assert lengths == {round(inner - 0.75 * INCH + 0.75 * INCH + 0.75 * INCH + OVER - 1.5 * INCH, 3)}
    assert len(of(model, "fly rafter")) == 2
    assert not of(model, "ladder block")


def test_boards_and_lookouts_fill_the_place_under_the_deck():
    """Seen along the eaves: what lies between frame and deck, and out to the eave, is all wood and nothing twice."""
    model = derive(gabled())
    made, _low, frame = of_frame(model)
    outline, common = frame.frame.outline, made.common.frame.outline
    side = "roof-1"
    area = 0.0
    for role in ("frame packing", "tail board"):
        area += sum(x.solid.volume for x in of(model, role) if x.owner == side) / (1.5 * INCH)
    area += sum(section(x.section).breadth * section(x.section).depth for x in of(model, "lookout"))
    below = [*outline.top]
    over = [p for p in common.top if p[0] > -EAVE - 1.0]
    gap = shapely.Polygon([*over, *reversed(below)]).area
    # Past where the frame begins the tail goes on as deep, plumb at the eave.
    depth = section("2x4").depth * 1.25**0.5
    start = outline.start
    tail = 2.0 * (EAVE + start) * depth
    between = shapely.Polygon(
        [
            (start, height_on(common.top, start)),
            common.top[1],
            (outline.end, height_on(common.top, outline.end)),
            *reversed(below),
        ]
    ).area
    assert gap > 0.0
    assert area == pytest.approx(between + tail, rel=1e-4)
    (wedge, other) = list(of(model, "truss wedge"))
    low_, high = height_on(common.top, 0.0) - depth, height_on(common.top, start) - depth
    assert wedge.solid.volume == pytest.approx((low_ + high) / 2.0 * start * 1.5 * INCH, rel=1e-6)
    assert other.solid.volume == pytest.approx(wedge.solid.volume, rel=1e-6)


def test_what_lies_beyond_comes_to_the_gable_and_lifts_inside():
    """By moments about both supports; in all just what lies on the overhang comes down more."""
    model, before = derive(gabled()), derive(gabled(over=0.0))
    balanced(model)
    _, low, _ = of_frame(model)
    rows = [one.made for one in low.rows]
    q = roof_cases(model.project.loads, 0.5, model.snow["roof-1"].planes[rows[0].row.edge].laid)
    half = (14.0 * FOOT + EAVE) * OVER
    assert [sum(b.area for b in made.bins) for made in rows] == [pytest.approx(half, rel=1e-6)] * 2
    back = 24.0 * INCH - 0.75 * INCH - 0.75 * INCH
    lever = (0.75 * INCH + OVER / 2.0) / back
    assert rows[0].row.lever == pytest.approx(lever)

    def dead(one, wall):
        return sum(r.force.dead for r in one.path.reactions if r.piece.startswith("roof-1/") and r.bearer == wall)

    more = 2.0 * q.dead * half / 1000.0
    assert dead(model, "wall-2") - dead(before, "wall-2") == pytest.approx(more * (1.0 + lever), rel=1e-6)
    for wall in ("wall-1", "wall-3"):
        assert dead(model, wall) - dead(before, wall) == pytest.approx(-more * lever / 2.0, rel=1e-6)
    assert dead(model, "wall-4") == pytest.approx(dead(before, "wall-4"), rel=1e-9)
    after_all = list(model.trusses["roof-1"].lookouts.beyond)
    assert sum(r.force.snow for r in after_all) == pytest.approx(2.0 * q.snow * half / 1000.0 * lever, rel=1e-6)
    assert {r.bearer for r in after_all} == {"wall-1", "wall-3"}
    assert all(r.force.dead == 0.0 for r in after_all)


def test_they_press_on_the_frame_where_they_lie():
    """Each lookout's load by hand at its place on the top chord; the frame as PyNite solves it."""
    model = derive(gabled(snow_by="roof", wind_speed=115.0 * MPH))
    _, low, frame = of_frame(model)
    as_pynite(truss_report(frame, plates=False))
    rested = frame.job.loads.rested
    made = low.rows[0].made
    q = roof_cases(model.project.loads, 0.5, model.snow["roof-1"].planes[made.row.edge].laid)
    assert len(rested) == sum(len(one.made.row.places) for one in low.rows)
    half = section("2x4").breadth / 2.0 / 1.25**0.5
    assert [one.x for one in rested[: len(made.row.places)]] == pytest.approx(
        [t + half for t in made.row.places], abs=0.06
    )
    second = made.bins[1]
    assert second.wide == pytest.approx(made.apart / 1.25**0.5)
    assert second.area == pytest.approx(second.wide * OVER)
    assert rested[1].force.dead == pytest.approx(q.dead * second.area * (1.0 + made.row.lever) / 1000.0, rel=1e-6)
    assert rested[1].force.snow == pytest.approx(q.snow * second.area * (1.0 + made.row.lever) / 1000.0, rel=1e-6)
    joints = {round(frame.frame.joints[frame.frame.rested_at(one.x)][0], 1) for one in rested}
    assert len(joints) == len(rested)


def test_the_tail_is_a_beam_over_the_wall():
    """What lies on the tail lifts its upper end by moments about the wall, half the snow and no roof live load inside."""
    model = derive(gabled(eave=24.0 * INCH, pitch=1 / 3))
    _, low, _ = of_frame(model)
    made = low.rows[0].made
    row, tail = made.row, made.tail
    assert row.places[0] >= 0.75 * 24.0 * INCH
    q = roof_cases(model.project.loads, 1 / 3, model.snow["roof-1"].planes[row.edge].most)
    strip = (12.0 * INCH + 0.75 * INCH / 2.0 + OVER) + row.lever * OVER
    over, back = 24.0 * INCH + 0.75 * INCH, row.places[0] - 1.5 * INCH
    most = 0.0
    for up, down in ((q.dead + q.snow, q.dead + q.snow / 2.0), (q.dead + q.roof_live, q.dead)):
        lifted = strip / 1000.0 * (up * over**2 / 2.0 - down * (back + 0.75 * INCH) ** 2 / 2.0) / back
        most = max(most, lifted)
    assert tail.lifts == pytest.approx(most, rel=5e-3)
    assert next(one.up for one in MADE_UP if one.name == tail.tie) >= tail.lifts
    # Bent over the wall.
    bent = max(q.dead + q.snow, q.dead + q.roof_live) * strip / 1000.0 * over**2 / 2.0
    check = next(c for c in tail.result.checks if "hogging" in c.name)
    lumber = section(row.size)
    assert check.demand == pytest.approx(bent / (lumber.breadth * lumber.depth**2 / 6.0), rel=1e-3)


def test_wind_lifts_tails_at_the_wall():
    """0.6 W less 0.6 D on the strip, by moments about the upper end."""
    model = derive(gabled(wind_speed=115.0 * MPH))
    _, low, _ = of_frame(model)
    made, wind = low.rows[0].made, model.uplift.wind["roof-1"]
    used, tie, lifts = tail_under_wind(model.surfaces[0], made, model.project.loads, wind, model.standard)
    q = roof_cases(model.project.loads, 0.5, 0.0)
    strip = (made.row.back + 1.5 * INCH) / 2.0 + made.row.over
    net = (
        0.6 * (3.7 * wind.speed - q.dead) * strip / 1000.0
    )  # ASCE 7-10, Figure 30.4-2B, zone 3 of overhangs, from memory
    long, back = EAVE + made.row.places[0], made.row.places[0] - 1.5 * INCH
    assert lifts == pytest.approx(net * long * (long / 2.0 - 0.75 * INCH) / back, rel=1e-2)
    assert used <= 1.0
    assert next(one.up for one in MADE_UP if one.name == tie) >= lifts
    assert not [f for f in model.findings if f.code == "gable overhang"]


def test_what_has_none_is_told_and_why():
    def told(p):
        return [f.why for f in derive(p).findings if f.code == "gable overhang"]

    assert any("lift the truss" in why for why in told(gabled(4.0 * FOOT)))
    assert any("two slopes" in why for why in told(set_side(single_slope(gabled()), "roof-1", "wall-2", overhang=OVER)))
    assert any(TAIL in why for why in told(gabled(eave=7.0 * FOOT, pitch=0.25)))
    # There the frame stays as high as the trusses.
    made = derive(gabled(4.0 * FOOT)).trusses["roof-1"]
    assert not made.low
    assert {make.design.frame.outline.top for make in made.makes} == {made.common.frame.outline.top}


def test_studs_of_all_frames_are_checked():
    """A lower and a higher frame are two makes: both studs are told under wind."""
    model = derive(gabled(pitch=1.5, wind=50.0 * PSF))
    made = model.trusses["roof-1"]
    frames = [make for make in made.makes if make.key == "gable"]
    assert len(frames) == 2
    assert all(make.studs for make in frames)
    weak = sum(stud.check.used > 1.0 for make in frames for stud in make.studs)
    (finding,) = [f for f in model.findings if f.code == "gable studs"]
    assert f"bends {weak} studs" in finding.what


def test_a_wings_gable_has_them_too():
    """The gable at the end of a wing 16 ft wide, and that of the main roof: frames of two makes, each set lower."""
    p = winged(gables=("wall-1", "wall-4"))
    for wall in ("wall-1", "wall-4"):
        p = set_side(p, "roof-1", wall, overhang=OVER)
    model = derive(p)
    balanced(model)
    made = model.trusses["roof-1"]
    assert not [f for f in model.findings if f.code == "gable overhang"]
    assert {made.places[low.number].gable for low in made.low} == {"wall-1", "wall-4"}
    assert len({id(made.of(low.number)) for low in made.low}) == 2
    for low in made.low:
        plain = height_on(made.of(low.inner).frame.outline.top, 5.0 * FOOT)
        assert plain - height_on(made.of(low.number).frame.outline.top, 5.0 * FOOT) == pytest.approx(
            section("2x4").depth * 1.25**0.5
        )
    _apart(model)


def test_card_drawing_and_calculation_say_them():
    p = gabled(wind_speed=115.0 * MPH)
    session = Session(p)
    session.select(["roof-1"])
    said = str(card(session, lambda *_: None, lambda *_: None))
    for text in ("Lookouts", "through the truss inside", "Tail beside them", "3 1/2"):
        assert text in said
    notes = [str(drawing) for _, drawing in truss_drawings(session.model)]
    assert sum("lower, square to the slope" in one for one in notes) == 1
    whole = str(calculation(session.model, "roof-1"))
    assert "Lookouts over" in whole
    assert "Tail beside them" in whole
    piece = next(x for x in of(session.model, "lookout"))
    assert session.model.results[piece.key].used <= 1.0


@given(
    st.sampled_from([0.25, 1 / 3, 0.5, 0.75, 1.0]),
    st.sampled_from([14.0, 18.0, 24.0]),
    st.sampled_from([16.0, 19.2, 24.0]),
    st.sampled_from([0.0, 300.0, 600.0]),
    st.sampled_from([None, 7.0, 12.0, 18.0]),
    st.floats(0.3, 1.2),
    st.sampled_from(["plumb", "square", "level"]),
    st.sampled_from([0.0, 7.0, 14.0]),
)
@example(0.5, 18.0, 24.0, 300.0, None, 0.5, "plumb", 0.0)
@example(1.0, 14.0, 16.0, 600.0, 7.0, 0.35, "square", 14.0)
@settings(max_examples=10, deadline=None)
def test_nothing_stands_in_anything_and_all_comes_down(pitch, over, spacing, eave, heel, other, tails, drop):
    """Both slopes of unlike pitch, heels typed or not, bottom chords lower or not."""
    typed = Trusses(spacing=spacing * INCH, heel=heel * INCH if heel and not drop else None, drop=drop * INCH)
    p = edits.change(trussed(pitch, typed, overhang=eave), "roof-1", tails=tails)
    p = set_side(p, "roof-1", "wall-3", pitch=round(other, 3))
    for wall in ("wall-2", "wall-4"):
        p = set_side(p, "roof-1", wall, overhang=over * INCH)
    model = derive(p)
    balanced(model)
    made = model.trusses["roof-1"]
    if made.problem:
        return
    pieces = [x for x in model.pieces.values() if x.owner == "roof-1" or x.owner.startswith("wall")]
    roles = ("lookout", "fly rafter", "frame packing", "tail board", "truss wedge")
    apart([x for x in pieces if x.role in roles or x.role.startswith("truss")], pieces, 1e4)
    for low in made.low:
        assert math.isclose(
            sum(b.area for one in low.rows for b in one.made.bins),
            low.beyond * (model.surfaces[0].plan_area / (40.0 * FOOT + 2.0 * over * INCH)),
            rel_tol=1e-6,
        )
