"""Soffit returns: one beside each tail, from its end to the wall's face, level with its lowest point, below the deck, in nothing."""

import msgspec
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from tests.app.conftest import _user
from tests.framing.solids import apart
from tests.framing.test_eaves import hipped
from tests.framing.test_frame_lookouts import gabled
from tests.framing.test_roof_trim import of, roofed
from tests.framing.test_roof_trusses import trussed

from balken.derive import derive
from balken.model import edits
from balken.model.errors import EditError
from balken.model.kinds.trusses import Trusses
from balken.model.records import Choice
from balken.units.system import INCH

OVER = 18.0 * INCH


def returned(p, **fields):
    return edits.change(p, "roof-1", soffit_returns=True, **({"overhang": OVER} | fields))


def clad(model):
    """How far layers stand before the core of the first wall."""
    return model.lines[model.surfaces[0].outline.walls[0]].core[0]


def test_beside_each_truss_tail_by_hand():
    """28 ft at 6:12, 18 in of overhang, tails plumb: level with their lower corners, from there to the wall's face, 3 1/2 in deep less what the
    deck cuts off.
    """
    model = derive(returned(trussed(0.5)))
    made = of(model, "soffit return")
    trusses = len(model.trusses["roof-1"].row.places)
    assert len(made) == 2 * trusses
    plan, frame = model.surfaces[0], model.trusses["roof-1"].common.frame
    plumb = 3.5 * INCH * 1.25**0.5 if frame.sizes.top == "2x4" else 5.5 * INCH * 1.25**0.5
    low = plan.bearing + plan.plate_to_top - 0.5 * OVER - plumb
    for piece in made:
        assert piece.solid.heights[0] == pytest.approx(low, abs=0.01)
        assert piece.length == pytest.approx(OVER - clad(model))
        assert piece.solid.volume == pytest.approx(1.5 * INCH * 3.5 * INCH * (OVER - clad(model)), rel=1e-6)
        assert piece.section == "2x4"


def test_shallow_tails_leave_less_of_them_below_the_deck():
    """Level tails with 1 1/2 in of plumb cut: the deck takes a corner off, a triangle by hand."""
    model = derive(returned(trussed(0.5), tails="level", tail_plumb=1.5 * INCH))
    (volume,) = {round(piece.solid.volume, 1) for piece in of(model, "soffit return")}
    whole = 1.5 * INCH * 3.5 * INCH * (OVER - clad(model))
    corner = 1.5 * INCH * (2.0 * INCH) ** 2 / 0.5 / 2.0
    assert volume == pytest.approx(whole - corner, rel=1e-4)


def test_beside_rafters_and_round_hips():
    """Beside every rafter that reaches out, hips left out; none in another or in the deck."""
    model = derive(returned(hipped(), fascia="2x6", eave_blocks=True, blocks_square=True))
    made = of(model, "soffit return")
    reach = [x for x in of(model, "rafter") if x.solid.extent[0][0] < -8.0 * INCH or x.solid.extent[0][1] < -8.0 * INCH]
    assert len(made) >= len(reach) / 2
    pieces = [x for x in model.pieces.values() if x.owner == "roof-1" or x.owner.startswith("wall")]
    apart(made, pieces, 1e4)


def test_lowered_frames_have_them_beside_their_tail_boards():
    """All at one level: that of the deeper tails of the trusses beside."""
    model = derive(edits.change(gabled(), "roof-1", soffit_returns=True))
    trusses = len(model.trusses["roof-1"].row.places)
    made = of(model, "soffit return")
    assert len(made) == 2 * trusses
    assert {round(x.solid.heights[0], 1) for x in made} == {
        min(round(x.solid.heights[0], 1) for x in of(model, "truss top chord"))
    }


def test_with_square_tails_it_is_refused():
    with pytest.raises(EditError, match="plumb"):
        returned(trussed(0.5), tails="square")
    with pytest.raises(EditError, match="plumb"):
        edits.change(returned(trussed(0.5)), "roof-1", tails="cut back")


def test_chosen_in_the_window(qtbot, qapp, tmp_path):
    user = _user(qtbot, qapp, tmp_path, edits.change(trussed(0.5), "roof-1", overhang=OVER))
    user.stage(4)
    user.window.session.select(["roof-1"])
    user.type_in_card("Soffit returns", "boards back to the wall")
    assert user.project.roofs[0].soffit_returns
    assert of(user.window.session.model, "soffit return")
    user.window.session.undo()
    assert not of(user.window.session.model, "soffit return")


@given(
    st.sampled_from(["plumb", "level"]),
    st.sampled_from([0.25, 0.5, 1.0]),
    st.sampled_from([8.0, 16.0, 30.0]),
    st.sampled_from(["rafters", "trusses"]),
    st.sampled_from([None, "2x6"]),
    st.booleans(),
)
@settings(max_examples=8, deadline=None)
def test_they_stand_in_nothing(tails, pitch, over, framed, fascia, blocks):
    p = roofed(
        pitch, framed=framed, rafters=Choice(size="2x8", spacing=16.0 * INCH), trusses=Trusses(spacing=24.0 * INCH)
    )
    p = edits.change(
        p, "roof-1", soffit_returns=True, tails=tails, overhang=over * INCH, fascia=fascia, eave_blocks=blocks
    )
    model = derive(p)
    made = of(model, "soffit return")
    assert made
    apart(made, [x for x in model.pieces.values() if x.owner == "roof-1" or x.owner.startswith("wall")], 1e4)
    assert msgspec.json.encode(p)
