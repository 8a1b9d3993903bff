"""Sprockets: how the deck bends over them, what they are made of, where they lie; told and refused where they cannot be."""

import math

import pytest
import shapely
from hypothesis import example, given, settings
from hypothesis import strategies as st
from tests.app.conftest import _user
from tests.framing.solids import apart
from tests.framing.test_eaves import hipped
from tests.framing.test_roof_trim import of, roofed
from tests.framing.test_roof_trusses import trussed

from balken.catalog.sections import section
from balken.derive import derive
from balken.documents.deck_sheets import deck_layouts
from balken.documents.display import Path
from balken.documents.roof_marks import surface_items
from balken.exchange.project_file import load, save
from balken.framing.eave_tails import tails_along
from balken.framing.roof_decks import deck_area, deck_faces
from balken.model import edits
from balken.model.errors import EditError
from balken.model.records import Choice
from balken.model.roof_edits import set_side
from balken.units.system import FOOT, INCH

OVER, INSIDE = 16.0 * INCH, 12.0 * INCH


def sprung(p, flat=0.25, **fields):
    return edits.change(p, "roof-1", **({"sprocket_pitch": flat, "sprocket_in": INSIDE, "overhang": OVER} | fields))


def test_the_deck_bends_by_hand():
    """6:12 to 3:12 a foot in of the wall, 16 in of overhang: at the eave 7 in higher; 40 x 28 ft with gables."""
    model, plain = derive(sprung(trussed(0.5))), derive(sprung(trussed(0.5), flat=None))
    plan = model.surfaces[0]
    strips = [face for name, face in deck_faces(plan) if name.endswith("eave")]
    assert len(strips) == 2
    rise = (0.5 - 0.25) * (INSIDE + OVER)
    low = min(z for face in strips for _, _, z in face.ring)
    assert low == pytest.approx(0.5 * INSIDE - 0.25 * (INSIDE + OVER))
    assert low - min(z for face in plain.surfaces[0].whole.faces for _, _, z in face.ring) == pytest.approx(rise)
    assert {face.pitch for face in strips} == {0.25}
    long, run = 40.0 * FOOT + 2.0 * OVER, 14.0 * FOOT - INSIDE
    by_hand = 2.0 * long * (run * math.hypot(1.0, 0.5) + (INSIDE + OVER) * math.hypot(1.0, 0.25))
    assert deck_area(plan) == pytest.approx(by_hand)
    decks = of(model, "roof plane")
    assert len(decks) == 4
    assert sum(x.solid.volume for x in decks) == pytest.approx(by_hand * plan.roof.deck)
    assert sum(layout.area for layout in deck_layouts(model) if layout.ref == "roof-1") == pytest.approx(
        by_hand, rel=1e-6
    )


def test_each_lies_beside_its_tail_under_the_deck():
    """As deep as what lifts the deck at the eave and 2 1/2 in beside the tail: 7 in and that over 1.03, so 2x10 is the least."""
    p = sprung(trussed(0.5))
    for gable in ("wall-2", "wall-4"):
        p = set_side(p, "roof-1", gable, overhang=4.0 * INCH)
    model = derive(p)
    made, plan = of(model, "sprocket"), model.surfaces[0]
    assert len(made) == 2 * len(model.trusses["roof-1"].row.places)
    need = (0.25 * (INSIDE + OVER) + 2.5 * INCH) / math.hypot(1.0, 0.25)
    (size,) = {x.section for x in made}
    assert section(size).depth >= need > section("2x8").depth
    top = plan.bearing + plan.plate_to_top + 0.5 * INSIDE
    for piece in made:
        low, high = piece.solid.extent
        assert high[2] == pytest.approx(top, abs=0.01)
        ends = sorted(piece.solid.corners(), key=lambda p: p[1])
        outer = ends[0] if ends[0][1] < 0.0 else ends[-1]
        side = [z for _, y, z in piece.solid.corners() if abs(y - outer[1]) < 0.1]
        assert max(side) == pytest.approx(top - 0.25 * (INSIDE + OVER), abs=0.01)
        assert low[2] >= min(x.solid.heights[0] for x in of(model, "truss top chord")) - 0.01


def test_round_hips_strips_meet_and_leave_no_gap():
    """Seen from above they and the planes above make up the whole roof; along a hip both are as high."""
    model = derive(sprung(hipped(), fascia="2x6", flat=0.2))
    plan = model.surfaces[0]
    rings = [shapely.Polygon([p[:2] for p in face.ring]) for _, face in deck_faces(plan)]
    assert sum(r.area for r in rings) == pytest.approx(plan.plan_area)
    assert shapely.union_all(rings, grid_size=1e-3).area == pytest.approx(plan.plan_area, rel=1e-6)
    heights = {}
    for _, face in deck_faces(plan):
        for x, y, z in face.ring:
            heights.setdefault((round(x), round(y)), set()).add(round(z, 3))
    shared = [zs for zs in heights.values() if len(zs) > 1]
    assert all(max(zs) - min(zs) < 0.01 for zs in heights.values()), shared
    # Fascias stand as high as the deck's underside there.
    tops = {round(x.solid.heights[1], 2) for x in of(model, "fascia")}
    low = plan.bearing + plan.plate_to_top + plan.roof.pitch * INSIDE - 0.2 * (INSIDE + OVER) - 0.2 * 1.5 * INCH
    assert list(tops) == [pytest.approx(low, abs=0.01)]
    assert any(isinstance(i, Path) and i.pen == "hidden" for i in surface_items(model, plan, 48.0, True))


def test_where_they_cannot_be_it_is_told_or_refused():
    steep = derive(sprung(roofed(1.5), flat=0.1, overhang=30.0 * INCH))
    assert not of(steep, "sprocket")
    assert [f for f in steep.findings if f.code == "no sprockets"]
    assert len(of(steep, "roof plane")) == 2
    bare = derive(sprung(roofed(0.5), overhang=2.0 * INCH))
    assert [f for f in bare.findings if f.code == "no sprockets"]
    for fields in (
        {"flat": 0.5},
        {"tails": "cut back"},
        {"fascia": "2x6", "rake_boards": True},
        {"sprocket_in": 9000.0},
    ):
        with pytest.raises(EditError):
            sprung(roofed(0.5), **fields)
    with pytest.raises(EditError, match="alike"):
        set_side(sprung(roofed(0.5)), "roof-1", "wall-1", pitch=0.75)


def test_typed_in_the_window_and_saved(qtbot, qapp, tmp_path):
    user = _user(qtbot, qapp, tmp_path, edits.change(trussed(0.5), "roof-1", overhang=OVER))
    user.stage(4)
    user.window.session.select(["roof-1"])
    user.type_in_card("Sprockets", "3:12")
    assert user.project.roofs[0].sprocket_pitch == pytest.approx(0.25)
    assert of(user.window.session.model, "sprocket")
    user.type_in_card("Sprockets begin", "1'-6\"")
    assert user.project.roofs[0].sprocket_in == pytest.approx(18.0 * INCH)
    file = tmp_path / "house.balken"
    save(user.project, file)
    assert load(file) == user.project
    user.type_in_card("Sprockets", "none")
    assert not of(user.window.session.model, "sprocket")
    user.window.session.undo()
    assert of(user.window.session.model, "sprocket")


@given(
    st.sampled_from([0.5, 0.75, 1.0]),
    st.sampled_from([0.1, 0.25, 0.4]),
    st.sampled_from([0.0, 8.0, 20.0]),
    st.sampled_from([8.0, 16.0]),
    st.sampled_from(["rafters", "trusses"]),
    st.sampled_from(["plumb", "level", "square"]),
    st.booleans(),
)
@example(0.5, 0.25, 20.0, 16.0, "rafters", "plumb", False)
@settings(max_examples=10, deadline=None)
def test_they_stand_in_nothing(pitch, flat, inside, over, framed, tails, returns):
    p = roofed(pitch, framed=framed, rafters=Choice(size="2x10", spacing=16.0 * INCH))
    p = edits.change(p, "roof-1", sprocket_pitch=flat, sprocket_in=inside * INCH, overhang=over * INCH, tails=tails,
                     soffit_returns=returns and tails != "square", fascia="2x8")  # fmt: skip
    model = derive(p)
    made = of(model, "sprocket")
    pieces = [x for x in model.pieces.values() if x.owner == "roof-1" and x.role != "roof plane"]
    pieces += [x for x in model.pieces.values() if x.owner.startswith("wall") and x.role != "wall layer"]
    apart(made, pieces, 1e4)
    decks = [x for x in of(model, "roof plane") if "eave" in x.key]
    apart(made, decks, 1e4)
    # Beside lookouts end rafters have no free side: told.
    told = sum(
        int(f.what.split(": ")[1].split(" ")[0])
        for f in model.findings
        if f.code == "no sprockets" and "without" in f.what
    )
    tails = sum(one.square for k in (0, 2) for one in tails_along(model.surfaces[0], k, pieces))
    assert len(made) + told == tails or not made
