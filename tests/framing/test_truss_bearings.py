"""Trusses that bear on inside walls, too, and trusses whose heels stand out past their walls: points, forces, sums; what cannot be is told."""

import math

import pytest
from hypothesis import example, given, settings
from hypothesis import strategies as st
from msgspec.structs import replace
from tests.app.conftest import _user
from tests.design.test_trusses import as_pynite
from tests.framing.solids import apart
from tests.framing.test_roof_trusses import trussed
from tests.framing.test_truss_wings import _apart, winged
from tests.loads.test_beams import balanced

from balken.catalog.sections import section
from balken.commands.truss import truss_report
from balken.derive import derive
from balken.design.trusses import _sag_limits
from balken.documents.truss_drawing import shop_notes
from balken.exchange.project_file import load, save
from balken.framing.truss_camber import lifted
from balken.framing.truss_outline import Bearing, TrussError, height_on, ridged
from balken.framing.truss_points import on_bearings
from balken.framing.truss_webs import PATTERNS
from balken.geometry.plane import off_line
from balken.mending import run_fix
from balken.model import edits
from balken.model.errors import EditError
from balken.model.kinds.trusses import Trusses
from balken.model.records import FreePoint, Hang, RoofSide, Wall
from balken.units import Units
from balken.units.system import FOOT, INCH


def walled(p, a, b, lower=0.0):
    """With an inside bearing wall from a to b, ft."""
    ends = (FreePoint(x=x * FOOT, y=y * FOOT) for x, y in (a, b))
    wall = Wall(
        id="wall-9", start=next(ends), end=next(ends), buildup="inside-2x6", foot=Hang(level="level-1"),
        head=Hang(level="level-2", offset=-lower), set_out="centre", role="bearing",
    )  # fmt: skip
    return edits.add(p, wall)


def bearing_inside(p, **fields):
    return derive(edits.change(p, "roof-1", trusses__inner=True, **fields))


# On inside walls --------------------------------------------------------------------------------------


def test_a_point_with_a_web_over_an_inside_wall():
    """12 ft in of 28 ft under a fink: in the panel under the peak, a web runs up to that; three bearings as a general library has them."""
    model = bearing_inside(walled(trussed(), (0.6, 12.0), (39.4, 12.0)))
    made = model.trusses["roof-1"]
    design = made.common
    joints = design.frame.joints
    assert joints["B2"][0] == pytest.approx(12.0 * FOOT)
    assert any(set(stick.joints) == {"B2", "T2"} for stick in design.frame.sticks)
    assert set(design.frame.held) == {"bearing left", "B2", "bearing right"}
    assert len(design.bearing) == 3
    as_pynite(truss_report(design, plates=False))
    assert all(plate.used <= 1.0 for make in made.makes for plate in make.plates)
    on = [r for r in made.reactions if r.bearer == "wall-9"]
    assert len(on) == 19
    assert all(r.at[1] == pytest.approx(12.0 * FOOT, abs=1.0) for r in on)
    balanced(model)
    _apart(model)
    assert not [f for f in model.findings if f.code == "air over wall"]


def test_only_what_lies_over_it_bears_on_it():
    """A wall under half the length of the house: those beyond its end are of another make, and span from end to end."""
    model = bearing_inside(walled(trussed(), (0.6, 16.0), (21.0, 16.0)))
    made = model.trusses["roof-1"]
    xs = {n: made.places[n].at(0.0)[0] for make in made.makes if make.key == "common" for n in make.numbers}
    for number, x in xs.items():
        assert bool(made.places[number].inner) == (x < 21.0 * FOOT), x / FOOT
        assert len(made.of(number).frame.held) == (3 if x < 21.0 * FOOT else 2)
    balanced(model)
    _apart(model)


def test_one_a_little_low_does_not_bear_and_is_told_as_before():
    model = bearing_inside(walled(trussed(), (0.6, 12.0), (39.4, 12.0), lower=6.0))
    assert not any(place.inner for place in model.trusses["roof-1"].places)
    assert [f for f in model.findings if f.code == "air over wall"]
    off = derive(walled(trussed(), (0.6, 12.0), (39.4, 12.0)))
    assert [f for f in off.findings if f.code == "air over wall"]


@given(
    st.sampled_from(["gable", "L"]), st.floats(3.0, 24.0), st.floats(-4.0, 4.0),
    st.sampled_from(["auto", "howe", "fan", "double-fink"]), st.sampled_from([0.25, 0.5, 1.0]),
)  # fmt: skip
@settings(max_examples=5, deadline=None)
@example("gable", 28.0 / 3.0, 0.0, "fink", 0.5)  # at a point of the pattern
@example("gable", 14.0, 0.0, "king-post", 0.5)
@example("L", 8.0, 0.0, "auto", 0.5)  # where the top of a girder bends
def test_walls_anywhere_carry_what_comes_to_them(shape, at, skew, pattern, pitch):
    p = trussed(pitch) if shape == "gable" else winged(gables=("wall-1", "wall-4"))
    p = walled(edits.change(p, "roof-1", trusses__pattern=pattern), (0.7, at), (18.0, at + skew))
    model = bearing_inside(p)
    made = model.trusses["roof-1"]
    assert not made.problem
    balanced(model)
    _apart(model)
    for make in made.makes:
        for number in make.numbers:
            held = sorted(make.design.frame.joints[name][0] for name in make.design.frame.held)
            for low, high, _ in made.places[number].inner:
                assert any(abs(x - (low + high) / 2.0) < 1.0 for x in held)


def test_what_wind_lifts_off_an_inside_wall_is_told():
    """A wall near the end: what lies on the long side lifts the short one."""
    p = walled(trussed(), (0.6, 4.0), (39.4, 4.0))
    calm = bearing_inside(p)
    rows = calm.trusses["roof-1"].common.reactions()
    windy = derive(edits.set_loads(calm.project, wind_speed=60.0))
    told = [f for f in windy.findings if f.code == "lifted inside"]
    lifted = [row for name, row in windy.trusses["roof-1"].common.reactions().items() if name.startswith("B")]
    assert bool(told) == any(min(row.values()) < -1.0 for row in lifted)
    assert told
    assert "Neither is chosen" in told[0].why
    assert min(rows["B1"].values()) > 0.0


def test_where_no_web_can_run_up_it_is_said():
    outline = ridged(36.0 * FOOT, 1.0, 300.0, 0.0, 89.0)
    room = PATTERNS["room"](outline)
    low, high, wide = *outline.bearings, 18.0 * FOOT
    inside = Bearing(wide - 45.0, wide + 45.0)
    with pytest.raises(TrussError, match="no point to which a web could run up"):
        on_bearings(room, replace(outline, bearings=(low, inside, high)))


# Past the walls ---------------------------------------------------------------------------------------


def past(by, pitch=0.5, over=700.0, **trusses):
    return edits.change(trussed(pitch), "roof-1", trusses=Trusses(past=by, **trusses), overhang=over)


def test_heels_past_the_walls_by_hand():
    """18 in past both walls at 6:12: the roof lies 9 in higher; an upright over each wall, each bearing carries half of all."""
    bare, model = derive(past(0.0)), derive(past(18.0 * INCH))
    one, other = bare.trusses["roof-1"].common, model.trusses["roof-1"].common
    assert other.frame.sizes.top == one.frame.sizes.top
    lifted = model.surfaces[0].plate_to_top - bare.surfaces[0].plate_to_top
    assert lifted == pytest.approx(9.0 * INCH)
    outline = other.frame.outline
    assert outline.past == pytest.approx((18.0 * INCH, 18.0 * INCH))
    assert outline.bottom[0][0] == pytest.approx(-18.0 * INCH)
    uprights = [
        s
        for s in other.frame.sticks
        if s.role == "web" and len({round(other.frame.joints[j][0]) for j in s.joints}) == 1
    ]
    assert sorted(other.frame.joints[s.joints[0]][0] for s in uprights) == pytest.approx(
        [b.middle for b in (outline.bearings[0], outline.bearings[-1])]
    )
    as_pynite(truss_report(other, plates=False))
    for a, b in zip(sorted(one.reactions()), sorted(other.reactions()), strict=True):
        for name, force in one.reactions()[a].items():
            assert other.reactions()[b][name] == pytest.approx(force, rel=1e-6)
    balanced(model)
    _apart(model)


@given(
    st.sampled_from([0.25, 0.5, 1.0]), st.floats(150.0, 1219.0), st.sampled_from([0.0, 150.0, 500.0]),
    st.sampled_from([None, 250.0, 400.0]), st.sampled_from(["auto", "howe", "queen-post"]), st.booleans(),
)  # fmt: skip
@settings(max_examples=10, deadline=None)
@example(0.25, 156.0, 150.0, 400.0, "auto", False)  # gable overhangs on lookouts over lowered frames
def test_any_heels_past_the_walls_hold_or_it_is_told(pitch, by, more, heel, pattern, single):
    p = past(by, pitch, by + more, heel=heel, pattern=pattern if not single else "auto")
    if single:
        p = single_slope(p)
    model = derive(p)
    made = model.trusses["roof-1"]
    if made.problem:
        assert "no room for an upright" in made.problem or "too high for its chords" in made.problem, made.problem
        assert [f for f in model.findings if f.code == "no trusses"]
        return
    balanced(model)
    solid = [
        x for x in model.pieces.values() if x.role.startswith("truss") or x.role in ("stud", "top plate", "header")
    ]
    apart([x for x in solid if x.role.startswith("truss")], solid, 1e4)
    frame = made.common.frame
    assert all(name.startswith("B") or name == "bearing right" for name in frame.held)
    walls = [frame.outline.bearings[0].middle, frame.outline.bearings[-1].middle]
    assert sorted(frame.joints[name][0] for name in frame.held) == pytest.approx(walls, abs=1.0)


def single_slope(p):
    walls = [w.id for w in p.walls]
    return edits.change(p, "roof-1", sides=tuple(RoofSide(wall=w, kind="gable") for w in walls[1:]))


def test_where_heels_cannot_stand_past_walls_it_is_told():
    def problem(p):
        return derive(p).trusses["roof-1"].problem

    assert "its overhang is" in problem(past(500.0, over=300.0))
    assert "level bottom chords" in problem(past(500.0, pattern="scissors", bottom_pitch=0.25))
    assert "between two gables" in problem(edits.change(winged(), "roof-1", trusses__past=500.0, overhang=600.0))
    with pytest.raises(EditError, match="6 in to 4 ft"):
        past(20.0)


def test_both_are_typed_on_the_card(qtbot, qapp, tmp_path):
    user = _user(qtbot, qapp, tmp_path, walled(trussed(), (0.6, 12.0), (39.4, 12.0)))
    user.stage(5)
    user.session.select(["roof-1"])
    user.type_in_card("Inside bearing walls", "yes")
    assert len(user.session.model.trusses["roof-1"].common.frame.held) == 3
    user.type_in_card("Overhang", "2'6")
    user.type_in_card("Heels past the walls", "1'6")
    made = user.session.model.trusses["roof-1"]
    assert made.common.frame.outline.past[0] == pytest.approx(18.0 * INCH)
    assert len(made.common.frame.held) == 3
    user.session.undo()
    assert user.project.roofs[0].trusses.past == 0.0


# Built up in the middle -------------------------------------------------------------------------------


def test_camber_by_hand():
    """28 ft at 6:12, an inch up: top chords rise 14'-0" by 7'-1"; the splice of the bottom chord lies on a parabola, 4 u (1 - u) in."""
    level, model = derive(trussed()), derive(edits.change(trussed(), "roof-1", trusses__camber=INCH))
    made, one = model.trusses["roof-1"].common, level.trusses["roof-1"].common
    assert made.camber == INCH
    assert one.camber == 0.0
    run, rise = 14.0 * FOOT, 7.0 * FOOT
    frame = lifted(made.frame, INCH)
    peak, heel = frame.outline.top[1], height_on(frame.outline.top, 0.0)
    assert peak[1] - heel == pytest.approx(rise + INCH)
    tip = made.frame.outline.top[0][0]
    plumb = section("2x6").depth
    by_hand = [math.hypot(run - tip, (rise + up) * (run - tip) / run) + plumb * (rise + up) / run for up in (0.0, INCH)]
    got = [of["TC1"].length for of in (made.sawn, made.cut)]
    assert got == pytest.approx(by_hand, abs=0.6)
    (splice,) = (made.frame.joints[name] for name in made.frame.splices)
    u = splice[0] / (28.0 * FOOT)
    after = frame.joints["splice bottom 1"]
    assert after[1] - splice[1] == pytest.approx(INCH * 4.0 * u * (1.0 - u), abs=0.05)
    for name in made.cut:
        assert model.pieces[f"roof-1/truss/5/{name}/0"].length == made.cut[name].length
    said = next(text for text in shop_notes(made, Units.IMPERIAL) if text.startswith("Built up by 1"))
    assert "16'-4\"" in said
    # As it lies it is the same truss.
    assert made.sawn == one.sawn
    assert made.reactions() == one.reactions()
    column = list(made.frame.joints).index("B1")
    assert 0.0 < -made.solved.moves[0, column, 1, 0] <= made.dead_sag


@pytest.mark.parametrize(
    ("change", "said"), [({"past": 457.0}, "stand out"), ({"inner": True}, "bear inside"), ({}, "one piece")]
)
def test_where_nothing_bends_it_is_told(change, said):
    p = edits.change(
        walled(trussed(), (0.6, 12.0), (39.4, 12.0)), "roof-1", overhang=700.0, trusses=Trusses(camber=20.0, **change)
    )
    if not change:
        p = edits.set_project(p, stock_length=40.0 * FOOT)
    model = derive(p)
    (told,) = [f for f in model.findings if f.code == "no camber"]
    assert said in told.why
    assert model.trusses["roof-1"].common.cut == model.trusses["roof-1"].common.sawn
    assert not [f for f in derive(run_fix(p, told.fix)).findings if f.code == "no camber"]
    with pytest.raises(EditError, match="2 in"):
        edits.change(p, "roof-1", trusses__camber=80.0)


# Ceilings that rise -----------------------------------------------------------------------------------


@pytest.mark.parametrize("pattern", ["fink", "fan", "double-fink", "king-post", "howe"])
def test_where_a_bottom_chord_bends_it_has_a_joint_and_a_web(pattern):
    """Any pattern over a bottom chord that rises to the middle: no stick is bent, and forces are as a general library has them."""
    p = edits.change(trussed(1.0), "roof-1", trusses=Trusses(pattern=pattern, bottom_pitch=0.25))
    model = derive(p)
    design = model.trusses["roof-1"].common
    straight(design)
    middle = 14.0 * FOOT
    bend = next(name for name, (x, _) in design.frame.joints.items() if name[0] == "B" and abs(x - middle) < 1.0)
    assert any(bend in stick.joints for stick in design.frame.sticks if stick.role == "web")
    as_pynite(truss_report(design, plates=False))
    balanced(model)


def straight(design):
    for stick in design.frame.sticks:
        a, b = (design.frame.joints[name] for name in (stick.joints[0], stick.joints[-1]))
        for name in stick.joints[1:-1]:
            assert abs(off_line(design.frame.joints[name], a, b)[1]) < 0.01, (stick.name, name)


def test_auto_takes_scissors_over_a_bottom_chord_that_rises():
    model = derive(edits.change(trussed(), "roof-1", trusses=Trusses(bottom_pitch=0.25)))
    assert model.trusses["roof-1"].common.shape == "scissors"


@given(
    st.sampled_from([0.5, 0.75, 1.0]), st.floats(100.0, 900.0), st.floats(700.0, 2500.0),
    st.sampled_from(["auto", "fink", "howe", "queen-post", "scissors", "double-fink"]),
    st.none() | st.floats(700.0, 5000.0),
)  # fmt: skip
@settings(max_examples=6, deadline=None)
@example(1.0, 600.0, 4.0 * FOOT, "auto", None)
@example(0.5, 175.0, 6.0 * FOOT, "auto", 15.0 * FOOT)
@example(0.75, 700.0, 2250.0, "king-post", 4100.0)
def test_ceilings_that_step_up(pitch, step, step_in, pattern, right):
    trusses = Trusses(pattern=pattern, step=step, step_in=step_in, step_right=right)
    p = edits.change(trussed(pitch), "roof-1", trusses=trusses)
    model = derive(p)
    made = model.trusses["roof-1"]
    if made.problem:
        assert [f for f in model.findings if f.code == "no trusses"]
        return
    design = made.common
    straight(design)
    run, bottom = max(step, 12.0 * INCH), design.frame.outline.bottom
    far = 28.0 * FOOT - (right or step_in)
    assert [x for x, _ in bottom] == pytest.approx([0.0, step_in, step_in + run, far - run, far, 28.0 * FOOT])
    assert [y for _, y in bottom] == pytest.approx([0.0, 0.0, step, step, 0.0, 0.0])
    as_pynite(truss_report(design, plates=False))
    balanced(model)
    _apart(model)


def test_steps_that_find_no_room_or_company_are_told():
    narrow = derive(edits.change(trussed(), "roof-1", trusses=Trusses(step=900.0, step_in=3200.0)))
    assert "between the slopes of its ceiling" in narrow.trusses["roof-1"].problem
    hips = derive(edits.change(winged(), "roof-1", trusses=Trusses(step=300.0)))
    assert "bottom chords" in hips.trusses["roof-1"].problem
    with pytest.raises(EditError, match="not both"):
        edits.change(trussed(), "roof-1", trusses=Trusses(step=300.0, bottom_pitch=0.25))
    with pytest.raises(EditError, match="of its right wall"):
        edits.change(trussed(), "roof-1", trusses=Trusses(step=300.0, step_right=100.0))
    with pytest.raises(EditError, match="4 in to 5 ft"):
        edits.change(trussed(), "roof-1", trusses=Trusses(step=20.0))


def test_nearer_to_either_wall_alike():
    """Mirrored, and where it steps down just below the peak."""
    one, other = (
        derive(edits.change(trussed(0.75), "roof-1", trusses=Trusses(step=12.0 * INCH, step_in=a, step_right=b)))
        for a, b in ((4.0 * FOOT, 14.0 * FOOT), (14.0 * FOOT, 4.0 * FOOT))
    )
    designs = [model.trusses["roof-1"].common for model in (one, other)]
    assert designs[0].used == pytest.approx(designs[1].used)
    assert designs[0].frame.sizes == designs[1].frame.sizes


def test_nearer_to_one_wall_as_typed_on_the_card(qtbot, qapp, tmp_path):
    user = _user(qtbot, qapp, tmp_path, trussed(0.75))
    user.stage(5)
    user.session.select(["roof-1"])
    user.type_in_card("Ceiling steps up by", '12"')
    assert user.window.card.entries["In of the right one"].text() == "as much"
    user.type_in_card("In of the right one", "14'")
    bottom = user.session.model.trusses["roof-1"].common.frame.outline.bottom
    assert [round(x / FOOT, 6) for x, _ in bottom] == [0.0, 4.0, 5.0, 13.0, 14.0, 28.0]
    save(user.project, tmp_path / "uneven.balken")
    assert load(tmp_path / "uneven.balken") == user.project
    user.session.undo()
    assert user.project.roofs[0].trusses.step_right is None


@pytest.mark.parametrize(
    ("pitch", "step", "step_in"), [(1.0, 600.0, 4.0 * FOOT), (0.75, 300.0, 1500.0), (1.0, 1000.0, 4.0 * FOOT)]
)
def test_plates_find_room_where_a_ceiling_steps_up(pitch, step, step_in):
    """They lie along the line halfway between both chords there."""
    made = derive(edits.change(trussed(pitch), "roof-1", trusses=Trusses(step=step, step_in=step_in))).trusses["roof-1"]
    make = next(m for m in made.makes if m.key == "common")
    assert max(plate.used for plate in make.plates) <= 1.0
    slanted = next(plate for plate in make.plates if plate.joint == "B1")
    half = math.degrees(math.atan(step / max(step, 12.0 * INCH))) / 2.0
    assert min(abs(slanted.angle % 90.0 - a) for a in (0.0, half, 2.0 * half)) < 0.1


def test_each_span_and_heel_has_a_limit_of_sag_of_its_own():
    """4 ft and 24 ft between bearings: what sags in the short span is held against that; a heel against twice how far it stands out."""
    beside = bearing_inside(walled(trussed(), (0.6, 4.0), (39.4, 4.0))).trusses["roof-1"].common
    limit = _sag_limits(beside.job, beside.frame, beside.pattern)
    held = sorted(beside.frame.joints[name][0] for name in beside.frame.held)
    assert limit(600.0) == pytest.approx((held[1] - held[0]) / 240.0)
    assert limit(5000.0) == pytest.approx((held[2] - held[1]) / 240.0)
    out = derive(past(900.0, over=1000.0)).trusses["roof-1"].common
    limit = _sag_limits(out.job, out.frame, out.pattern)
    assert limit(-500.0) == pytest.approx(2.0 * (900.0 + out.frame.outline.bearings[0].middle) / 240.0)
    for one in (beside, out):
        assert one.sag.capacity in [
            pytest.approx(_sag_limits(one.job, one.frame, one.pattern)(x)) for x in (-500.0, 600.0, 5000.0)
        ]
