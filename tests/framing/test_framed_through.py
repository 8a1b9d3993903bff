"""Joins of roofs framed through: one roof of two, by hand and against the roof over all walls; what cannot be is refused, nothing lost."""

import pytest
import shapely
from tests.framing.solids import apart
from tests.framing.test_joined_roofs import GABLES, joined, plans
from tests.loads.test_beams import balanced

from balken.derive import derive
from balken.design.one_roof import frame_through
from balken.model import edits
from balken.model.errors import EditError
from balken.model.roof_edits import add_dormer, add_roof_opening, set_side, side_of
from balken.panel.card_parts import Button
from balken.panel.cards_roofs import roof_card
from balken.session.session import Session
from balken.units.system import FOOT, INCH


def test_a_wing_and_the_house_become_one_roof_with_valleys_framed_through():
    """By hand: two valleys at 45 degrees from the corners of the wing up to its ridge, 7 ft in of the wall; no valley boards."""
    p = joined()
    before = derive(p)
    assert [x.role for x in before.pieces.values()].count("valley board") == 2
    q = frame_through(p, "roof-2", "roof-1")
    assert [r.id for r in q.roofs] == ["roof-1"]
    model = derive(q)
    (plan,) = model.surfaces
    assert not plan.problem
    valleys = [line for line in plan.surface.lines if line.kind == "valley"]
    assert len(valleys) == 2
    for line in valleys:
        (x0, y0, _), (x1, y1, _) = sorted((line.start, line.end), key=lambda at: at[2])
        assert (y0, abs(x1 - x0), y1) == (pytest.approx(0.0), pytest.approx(7.0 * FOOT), pytest.approx(7.0 * FOOT))
    roles = [x.role for x in model.pieces.values()]
    assert roles.count("valley rafter") == 2
    assert roles.count("valley board") == 0
    jacks = {m.member.role for m in model.planes["roof-1"].members if m.wall}
    assert "valley jack" in jacks
    own = [x for x in model.pieces.values() if x.owner == "roof-1" and x.role != "roof plane"]
    apart([x for x in own if "rafter" in x.role or x.role == "ridge board"], own, 2e4)
    balanced(model)
    # In plan it lies where both lay.
    union = shapely.union_all([shapely.Polygon(one.ring) for one in before.surfaces])
    assert shapely.Polygon(plan.ring).symmetric_difference(union).area < 1e4


def test_sides_keep_their_pitch_overhang_and_height():
    p = joined(wing_pitch=0.75, over=18.0 * INCH)
    p = edits.change(p, "roof-2", overhang=6.0 * INCH)
    q = frame_through(p, "roof-2", "roof-1")
    (roof,) = q.roofs
    for wall in ("wall-5", "wall-7"):
        side = side_of(roof, wall)
        assert (side.kind, side.pitch, side.overhang) == ("eave", 0.75, pytest.approx(6.0 * INCH))
    assert side_of(roof, "wall-6").kind == "gable"
    assert side_of(roof, "wall-1").pitch is None
    balanced(derive(q))
    # A wing that bears higher: its eaves are raised by so much; one that bears lower: the house's are.
    high = joined(lower=-4.0 * INCH)
    (roof,) = frame_through(high, "roof-2", "roof-1").roofs
    assert side_of(roof, "wall-5").raised == pytest.approx(4.0 * INCH)
    assert side_of(roof, "wall-1").raised == 0.0
    low = joined(lower=6.0 * INCH)
    (roof,) = frame_through(low, "roof-2", "roof-1").roofs
    assert side_of(roof, "wall-3").raised == pytest.approx(6.0 * INCH)
    assert side_of(roof, "wall-5").raised == 0.0
    assert roof.bearing == low.roofs[1].bearing


def test_what_stands_on_the_upper_roof_goes_with_it():
    p = add_roof_opening(joined(wing=(6.0, 28.0, 16.0)), "roof-2", "wall-5", 6.0 * FOOT, 3.0 * FOOT)
    q = frame_through(p, "roof-2", "roof-1")
    assert [(x.roof, x.wall) for x in q.roof_openings] == [("roof-1", "wall-5")]
    (hole,) = derive(q).surfaces[0].holes
    assert not hole.problem


def test_what_is_no_roof_together_is_refused_in_words():
    p = joined()
    with pytest.raises(EditError, match="does not run on over another"):
        frame_through(p, "roof-1", "roof-2")
    with pytest.raises(EditError, match="does not run on over another"):
        frame_through(set_side(p, "roof-2", "wall-1", kind="wall"), "roof-2", "roof-1")
    gone = edits.change(p, "roof-1", walls=("wall-1", "wall-2", "wall-3"), sides=GABLES[:1])
    with pytest.raises(EditError):
        frame_through(gone, "roof-2", "roof-1")


def test_the_card_offers_it_and_undo_brings_both_back():
    session = Session(joined())
    card = roof_card(session, session.project.roofs[1])
    (button,) = (x for x in card.parts if isinstance(x, Button) and "valleys through" in x.label)
    assert button.label == "Frame its valleys through: one roof with Roof"
    assert session.apply(button.label, button.edit)
    assert len(session.project.roofs) == 1
    session.undo()
    assert len(session.project.roofs) == 2
    assert not [
        x for x in roof_card(session, session.project.roofs[0]).parts if isinstance(x, Button) and "through" in x.label
    ]


def test_dormers_go_along():
    p = add_dormer(joined(wing=(4.0, 36.0, 20.0)), "roof-2", "wall-5", 10.0 * FOOT, 2.0 * FOOT)
    q = frame_through(p, "roof-2", "roof-1")
    assert [d.roof for d in q.dormers] == ["roof-1"]
    assert plans(derive(q))["roof-1"].problem == ""
