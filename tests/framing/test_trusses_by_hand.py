"""Single trusses changed by hand: other webs, plies, panel points; kept with their truss; what cannot be is told, and is as the others."""

import pytest
from hypothesis import example, given, settings
from hypothesis import strategies as st
from tests.app.conftest import User, _user
from tests.design.test_trusses import as_pynite
from tests.framing.test_roof_trusses import trussed
from tests.framing.test_truss_wings import _apart, winged
from tests.loads.test_beams import balanced

from balken.commands.truss import truss_report
from balken.derive import derive
from balken.design.truss_by_hand import truss_names
from balken.framing.truss_points import point_places
from balken.framing.truss_webs import HIPS, PATTERNS
from balken.mending import run_fix
from balken.model import edits
from balken.model.errors import EditError
from balken.model.kinds.member_edit import PanelPoint
from balken.model.kinds.trusses import Trusses
from balken.model.member_edits import back_to_layout, edit_of, set_member
from balken.model.wall_edits import drag_walls
from balken.units.system import FOOT, INCH


def names_of(model):
    plan = next(s for s in model.surfaces if s.roof.id == "roof-1")
    return truss_names(plan, model.trusses["roof-1"].places)


def by_hand(model):
    return [make for make in model.trusses["roof-1"].makes if make.by_hand]


def told(model):
    return [f for f in model.findings if f.code == "truss by hand"]


def test_one_gets_other_webs_and_plies():
    p = trussed()
    name = names_of(derive(p))[5]
    model = derive(set_member(p, name, webs="fan", plies=2))
    (make,) = by_hand(model)
    assert (make.numbers, make.design.shape, make.design.frame.sizes.plies) == ((5,), "fan", 2)
    laid = model.trusses["roof-1"].common
    assert (laid.shape, laid.frame.sizes.plies) == ("fink", 1)
    sizes = make.design.frame.sizes
    assert (sizes.top, sizes.bottom, sizes.webs) == (
        laid.frame.sizes.top,
        laid.frame.sizes.bottom,
        laid.frame.sizes.webs,
    )
    keys = [piece.key for piece in model.pieces.values() if piece.key.startswith("roof-1/truss/5/")]
    assert len(keys) == 2 * len(make.design.frame.sticks)
    assert {*keys} <= model.hand_edited
    assert all(model.marks[key].endswith("*") for key in keys)
    balanced(model)
    _apart(model)


def test_a_point_moved_is_where_it_was_typed_and_forces_are_as_pynite_has_them():
    """28 ft of fink: the first point of its bottom chord lies at a third, 9'-4"; moved by 14 in."""
    p = trussed()
    name = names_of(derive(p))[5]
    moved = PanelPoint(chord="bottom", number=1, by=14.0 * INCH)
    model = derive(set_member(p, name, points=(moved, PanelPoint(chord="top", number=3, by=-200.0))))
    (make,) = by_hand(model)
    joints = make.design.frame.joints
    assert joints["B1"][0] == pytest.approx(28.0 * FOOT / 3.0 + 14.0 * INCH)
    assert joints["T3"][0] == pytest.approx(21.0 * FOOT - 200.0)
    assert joints["B2"][0] == pytest.approx(28.0 * FOOT * 2.0 / 3.0)
    as_pynite(truss_report(make.design, plates=False))
    assert all(plate.used <= 1.0 for plate in make.plates)
    balanced(model)
    _apart(model)
    assert not by_hand(derive(back_to_layout(model.project, name)))


@given(
    st.sampled_from(["gable", "L"]), st.integers(0, 25), st.sampled_from(["top", "bottom"]), st.integers(1, 6),
    st.floats(-900.0, 900.0), st.sampled_from(["", "howe", "fan", "king-post"]),
)  # fmt: skip
@settings(max_examples=12, deadline=None)
@example("gable", 5, "top", 2, 100.0, "")  # the peak
@example("gable", 5, "bottom", 1, 1200.0, "king-post")
def test_any_point_goes_where_it_can_or_it_is_told(shape, which, chord, number, by, webs):
    p = trussed() if shape == "gable" else winged(gables=("wall-1", "wall-4"))
    names = names_of(derive(p))
    truss = sorted(names)[which % len(names)]
    p = set_member(p, names[truss], webs=webs, points=(PanelPoint(chord=chord, number=number, by=by),))
    model = derive(p)
    made = model.trusses["roof-1"]
    assert not made.problem
    if told(model):
        assert [n for n, _ in made.refused] == [truss]
        assert not by_hand(model)
    else:
        (make,) = by_hand(model)
        assert make.numbers == (truss,)
        bare = {(c, k): x for c, k, x in point_places(*_without(make.design))}
        now = {(c, k): x for c, k, x in point_places(make.design.pattern, make.design.frame.outline)}
        assert {key: now[key] - x for key, x in bare.items() if abs(now[key] - x) > 0.01} == (
            {(chord, number): pytest.approx(by)} if abs(by) > 0.01 else {}
        )
    balanced(model)
    _apart(model)


def _without(design):
    return (PATTERNS | HIPS)[design.shape](design.frame.outline), design.frame.outline


def test_an_edit_stays_with_its_truss_when_the_roof_grows():
    p = trussed()
    name = names_of(derive(p))[5]
    p = set_member(p, name, webs="fan")
    before = derive(p).trusses["roof-1"].places[5].at(0.0)
    far = max(p.walls, key=lambda w: w.start.x + w.end.x)
    model = derive(drag_walls(p, (far.id,), 4.0 * FOOT, 0.0))
    (make,) = by_hand(model)
    assert not told(model)
    assert model.trusses["roof-1"].places[make.numbers[0]].at(0.0) == pytest.approx(before, abs=20.0)


def test_one_whose_truss_is_gone_is_told_and_given_to_the_nearest():
    p = trussed()
    p = set_member(p, names_of(derive(p))[5], webs="fan")
    p = edits.change(p, "roof-1", trusses__spacing=700.0)
    model = derive(p)
    (lost,) = [f for f in model.findings if f.code == "hand edit lost"]
    assert "nearest truss" in lost.fix.label
    after = derive(run_fix(p, lost.fix))
    assert not [f for f in after.findings if f.code == "hand edit lost"]
    assert len(by_hand(after)) == 1
    rafters = derive(edits.change(p, "roof-1", framed="rafters"))
    assert [f.what for f in rafters.findings if f.code == "hand edit"] == [
        "A change by hand waits for Roof to have trusses again"
    ]


def test_one_that_is_too_weak_is_told_and_leaves_the_others_as_they_are():
    p = edits.change(trussed(), "roof-1", trusses=Trusses(spacing=None, top="2x4", bottom="2x4", webs="2x4"))
    bare = derive(p)
    made = bare.trusses["roof-1"]
    p = set_member(p, names_of(bare)[3], webs="king-post")  # panels twice as long
    model = derive(p)
    (make,) = by_hand(model)
    assert make.design.used > 1.0
    assert [f for f in model.findings if f.code == "used" and f.things[0] == "roof-1"]
    assert model.trusses["roof-1"].row.spacing == made.row.spacing
    assert model.trusses["roof-1"].common.frame.sizes == made.common.frame.sizes


def test_what_no_truss_takes_is_refused():
    p = trussed()
    name = names_of(derive(p))[5]
    for fields in ({"webs": "zigzag"}, {"size": "2x8"}, {"removed": True}, {"moved": 100.0},
                   {"points": (PanelPoint(chord="top", number=0, by=1.0),)}):  # fmt: skip
        with pytest.raises(EditError):
            set_member(p, name, **fields)
    with pytest.raises(EditError, match="cannot be given other webs"):
        set_member(p, "floor-1/joist/wall-1+300", webs="fan")


@pytest.fixture
def roofer(qtbot, qapp, tmp_path) -> User:
    user = _user(qtbot, qapp, tmp_path, trussed())
    user.stage(5)
    return user


def test_in_the_window(roofer, tmp_path):
    session = roofer.session
    name = names_of(session.model)[5]
    session.select(["roof-1/truss/5/W1/0"])
    roofer.type_in_card("Bottom chord, point 1", "10'")
    edit = edit_of(roofer.project, name)
    assert (edit.webs, edit.points[0].by) == ("fink", pytest.approx((10.0 - 28.0 / 3.0) * FOOT))
    assert by_hand(session.model)[0].design.frame.joints["B1"][0] == pytest.approx(10.0 * FOOT)
    path = tmp_path / "trusses.balken"
    assert session.save(path)
    kept = roofer.project
    assert session.open(path)
    assert roofer.project == kept
    session.select(["roof-1/truss/5/BC1/0"])
    roofer.card_button("The same for all 19 of its outline")
    (make,) = by_hand(session.model)
    assert len(make.numbers) == 19
    session.undo()
    session.select(["roof-1/truss/5/BC1/0"])
    roofer.card_button("Back to the layout")
    assert not roofer.project.member_edits
    session.select(["roof-1/truss/5/BC1/0"])
    roofer.type_in_card("Own webs", "howe")
    assert by_hand(session.model)[0].design.shape == "howe"


def test_boards_across_end_beside_one_whose_bottom_chord_is_deeper_and_it_is_told():
    p = trussed()
    name = names_of(derive(p))[5]
    model = derive(set_member(p, name, webs="king-post"))  # far too weak: its chords grow
    made = model.trusses["roof-1"]
    assert made.unheld == {5}
    (told_,) = [f for f in model.findings if f.code == "truss unheld"]
    assert model.trusses["roof-1"].of(5).frame.sizes.bottom in told_.why
    at = made.places[5].at(0.0)[0]
    for brace in model.of_layouts("truss brace"):
        (low, _, _), (high, _, _) = brace.solid.extent
        assert not low < at < high, brace.key
    _apart(model)
    mended = derive(run_fix(model.project, told_.fix))
    assert not mended.trusses["roof-1"].unheld
    _apart(mended)
    # Its webs are held by no board that runs on: its sheet says by what.
    assert 5 in made.lone or not made.of(5).braces


def test_two_side_by_side_of_another_depth_hold_one_another_no_better():
    """Boards across those two alone reach no end of the row: both are told."""
    p = trussed()
    names = names_of(derive(p))
    for number in (5, 6):
        p = set_member(p, names[number], webs="king-post")
    model = derive(p)
    assert model.trusses["roof-1"].unheld == {5, 6}
    assert len([f for f in model.findings if f.code == "truss unheld"]) == 2
