"""Ceiling ties, hips, valleys and ridges changed by hand: taken out, of another section, of plies; what follows from it."""

import pytest
from tests.framing.solids import apart
from tests.framing.test_purlins import RECTANGLE
from tests.framing.test_roof_trim import of, roofed
from tests.framing.test_surface_roofs import roofed as winged
from tests.loads.test_beams import balanced

from balken.catalog.sections import one_ply, section, side_by_side
from balken.derive import derive
from balken.model.edits import EditError, change
from balken.model.member_edits import set_member
from balken.model.roof_edits import set_side
from balken.panel.card_content import card
from balken.session.session import Session
from balken.units.system import FOOT, INCH


def middle(model):
    """A tie in the middle of the house."""
    return min(
        model.planes["roof-1"].ties,
        key=lambda tie: abs(tie.line.t - 20.0 * FOOT) if tie.frame.angle == 0.0 else abs(abs(tie.line.t) - 20.0 * FOOT),
    )


def test_rafters_whose_tie_is_taken_out_are_told_and_its_ceiling_goes_to_those_beside():
    p = roofed()
    before = derive(p)
    tie = middle(before)
    model = derive(set_member(p, tie.key, removed=True))
    framing = model.planes["roof-1"]
    assert len(framing.ties) == len(before.planes["roof-1"].ties) - 1
    assert tie.key not in model.pieces
    assert set(framing.untied) == {*tie.rafters}
    (finding,) = [f for f in model.findings if f.code == "untied"]
    assert "2 rafters push outward" in finding.what
    assert "its tie is taken out" in finding.why
    wide = sorted(one.line.width / tie.line.width for one in framing.ties)
    assert wide[-2:] == pytest.approx([1.5, 1.5])
    assert wide[-3] == pytest.approx(1.0)
    assert framing.tied.result.used > before.planes["roof-1"].tied.result.used
    ceiling = [sum(r.force.dead for r in m.path.reactions if r.piece.startswith("roof-1/tie")) for m in (before, model)]
    assert ceiling[1] == pytest.approx(ceiling[0], rel=1e-6)
    balanced(model)


def test_one_of_another_section_is_made_and_checked_so():
    p = roofed()
    before = derive(p)
    tie = middle(before)
    was = before.planes["roof-1"]
    model = derive(set_member(set_member(p, tie.key, plies=2), tie.key, species="DF-L", grade="Select Structural"))
    piece, result = model.pieces[tie.key], model.planes["roof-1"].results[tie.key]
    assert piece.section == f"2-{was.tied.size}"
    assert piece.grade == "Select Structural"
    assert result.case.size == piece.section
    assert result.used < was.results[tie.key].used
    assert model.planes["roof-1"].tied.size == was.tied.size
    assert {x.section for x in of(model, "ceiling tie") if x.key != tie.key} == {was.tied.size}
    # It lies beside its rafter still, by half of its own thickness and half of that.
    (x, *_), (y, *_) = (m.pieces[tie.key].solid.extent for m in (before, model))
    assert abs(x[0] - y[0]) < section(piece.section).breadth
    assert tie.key in model.edited["roof-1"].made


def test_lost_edits_raised_ties_and_what_cannot_be_are_told():
    p = roofed()
    tie = middle(derive(p))
    gone = derive(change(set_member(p, tie.key, removed=True), "roof-1", ridge_made="beam"))
    assert [f.code for f in gone.findings if f.code == "hand edit lost"]
    raised = derive(change(p, "roof-1", tie_raise=300.0))
    one = middle(raised)
    model = derive(set_member(change(p, "roof-1", tie_raise=300.0), one.key, removed=True))
    assert one.key in model.pieces
    assert [f for f in model.findings if "ceiling hangs on a raised tie" in f.what + f.why]
    longer = derive(set_member(p, tie.key, longer=100.0))
    assert [f for f in longer.findings if "cut by their roof" in f.what + f.why]


def test_on_its_card():
    session = Session(roofed())
    tie = middle(session.model)
    session.select([tie.key])
    parts = card(session, 5).parts
    labels = [getattr(x, "label", "") for x in parts]
    assert "Own plies" in labels
    assert not {"More beside it", "Cut longer by"} & {*labels}
    button = next(x for x in parts if getattr(x, "label", "") == "Take this one out")
    assert session.apply("out", button.edit)
    assert tie.key not in session.model.pieces
    session.undo()
    assert tie.key in session.model.pieces


# Hips, valleys and ridges ----------------------------------------------------------------------


def lines_of(model, role):
    return [x for x in model.planes["roof-1"].members if x.member.role == role]


def test_a_thicker_hip_is_checked_so_and_its_jacks_are_cut_for_it():
    p = winged(RECTANGLE, pitch=0.5)
    before = derive(p)
    key = lines_of(before, "hip")[0].key
    was = next(x for x in before.planes["roof-1"].lines if x.key == key)
    model = derive(set_member(p, key, size="LVL 1.75x14", plies=3))
    now = next(x for x in model.planes["roof-1"].lines if x.key == key)
    piece = model.pieces[key]
    assert (now.size, piece.section) == ("LVL 3-1.75x14", "LVL 3-1.75x14")
    assert now.result.used < was.result.used
    others = {x.key: x.size for x in model.planes["roof-1"].lines if x.key != key}
    assert others == {x.key: x.size for x in before.planes["roof-1"].lines if x.key != key}
    apart([piece], [x for x in model.pieces.values() if x.role in ("rafter", "ridge board", "hip rafter")], 100.0)
    jacks = [x for x in of(model, "rafter") if x.key in before.pieces and x.volume < before.pieces[x.key].volume - 1e4]
    assert jacks  # beside a thicker hip they are shorter
    assert key in model.hand_edited
    balanced(model)


def test_plies_go_by_what_was_chosen():
    p = winged(RECTANGLE, pitch=0.5, ridge_made="beam")
    before = derive(p)
    key = lines_of(before, "ridge")[0].key
    was = next(x.size for x in before.planes["roof-1"].lines if x.key == key)
    model = derive(set_member(p, key, plies=4))
    assert model.pieces[key].section == side_by_side(one_ply(was), 4)
    graded = derive(set_member(p, key, species="DF-L", grade="Select Structural"))
    assert graded.pieces[key].section == was
    # Veneer lumber has one grade, whatever is asked for; sawn lumber takes it.
    assert section(was).kind == "laminated veneer"
    assert graded.pieces[key].grade == "2.0E"
    sawn = derive(set_member(p, key, size="2x12", plies=3, species="DF-L", grade="Select Structural"))
    assert (sawn.pieces[key].section, sawn.pieces[key].grade) == ("3-2x12", "Select Structural")


def test_a_ridge_board_is_made_thicker_and_rafters_end_at_it():
    p = winged(RECTANGLE, pitch=0.5)
    key = lines_of(derive(p), "ridge")[0].key
    model = derive(set_member(p, key, plies=2))
    ridge = model.pieces[key]
    assert section(ridge.section).plies == 2
    apart([ridge], [x for x in model.pieces.values() if x.role in ("rafter", "hip rafter")], 100.0)


def test_ridge_beams_under_rafters_keep_their_seats():
    p = change(roofed(), "roof-1", ridge_made="under")
    key = lines_of(derive(p), "ridge")[0].key
    model = derive(set_member(p, key, size="2x12"))
    assert section(model.pieces[key].section).breadth >= 3.0 * INCH
    assert [f for f in model.findings if "as thick as those on offer" in f.what + f.why]
    thick = derive(set_member(p, key, size="2x14", plies=3))
    assert thick.pieces[key].section == "3-2x14"
    apart([thick.pieces[key]], of(thick, "rafter"), 1.0)


def test_lost_edits_of_lines_are_told_and_lines_are_not_moved():
    p = winged(RECTANGLE, pitch=0.5)
    key = lines_of(derive(p), "hip")[0].key
    edited = set_member(p, key, size="2x14")
    for wall in ("wall-2", "wall-4"):
        edited = set_side(edited, "roof-1", wall, kind="gable")
    assert [f.what for f in derive(edited).findings if f.code == "hand edit lost"] == [
        "A hip with a hand edit is not there any more"
    ]
    with pytest.raises(EditError, match="a single hip cannot be moved"):
        set_member(p, key, moved=100.0)
    session = Session(p)
    session.select([key])
    labels = [getattr(x, "label", "") for x in card(session, 5).parts]
    assert "Own section" in labels
    assert "Take this one out" not in labels
