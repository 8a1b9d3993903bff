"""Ceiling ties under planes changed by hand: taken out, of another section, of plies; what they held is told, the ceiling goes to others."""

import pytest
from tests.framing.test_roof_trim import of, roofed
from tests.loads.test_beams import balanced

from balken.catalog.sections import section
from balken.derive import derive
from balken.model.edits import change
from balken.model.member_edits import set_member
from balken.panel.card_content import card
from balken.session.session import Session
from balken.units.system import FOOT


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
