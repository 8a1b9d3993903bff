"""Hand edits of single rafters of roofs of planes: they survive, neighbours carry what is gone, nothing is dropped in silence."""

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from tests.framing.test_surface_framing import in_their_planes, overlaps
from tests.framing.test_surface_roofs import roofed
from tests.loads.test_beams import balanced

from balken.catalog.sections import section
from balken.derive import derive
from balken.design.purlin_posts import purlin_ends
from balken.design.roof_posts import posts_under_purlins
from balken.geometry.plane import distance
from balken.model import edits
from balken.model.errors import EditError
from balken.model.member_edits import back_to_layout, can_edit, set_member
from balken.model.roof_edits import add_roof_opening, set_side
from balken.units.system import FOOT, INCH

RECTANGLE = [(0, 0), (40, 0), (40, 28), (0, 28)]
APART = 16.0 * INCH


def house():
    return edits.change(roofed(RECTANGLE), "roof-1", ridge_made="beam")


def commons(model, wall="wall-1"):
    rows = [m for m in model.planes["roof-1"].members if m.wall == wall and m.member.role == "common rafter"]
    return sorted(rows, key=lambda m: m.member.start[0])


def test_one_is_taken_out_and_its_neighbours_carry_it():
    p = house()
    rows = commons(derive(p))
    a, gone, b = rows[3:6]
    q = set_member(p, gone.key, removed=True)
    model = derive(q)
    assert model.piece(gone.key) is None
    for key in (a.key, b.key):
        assert model.planes["roof-1"].results[key].case.spacing == pytest.approx(1.5 * APART)
    assert model.planes["roof-1"].results[rows[1].key].case.spacing == pytest.approx(APART)
    balanced(model)
    # After another change of the roof it is still out; back to the layout it is there again.
    again = derive(edits.change(q, "roof-1", pitch=0.6))
    assert again.piece(gone.key) is None
    assert derive(back_to_layout(q, gone.key)).piece(gone.key) is not None


def test_one_is_moved():
    p = house()
    rows = commons(derive(p))
    one = rows[4]
    model = derive(set_member(p, one.key, moved=4.0 * INCH))
    now = next(m for m in model.planes["roof-1"].members if m.key == one.key)
    assert distance(now.member.start[:2], one.member.start[:2]) == pytest.approx(4.0 * INCH)
    assert model.planes["roof-1"].results[rows[3].key].case.spacing == pytest.approx(APART + 2.0 * INCH)
    assert overlaps(model) == []
    in_their_planes(model)
    # Past the next one it finds no place, and that is said.
    blocked = derive(set_member(p, one.key, moved=17.0 * INCH))
    assert [f for f in blocked.findings if f.code == "hand edit room"]
    assert next(m for m in blocked.planes["roof-1"].members if m.key == one.key).member == one.member


def test_a_jack_that_moves_is_cut_anew_for_its_hip():
    p = house()
    jacks = [m for m in derive(p).planes["roof-1"].members if m.member.role == "hip jack" and m.wall == "wall-1"]
    jack = sorted(jacks, key=lambda m: m.member.start[0])[3]
    model = derive(set_member(p, jack.key, moved=3.0 * INCH))
    now = next(m for m in model.planes["roof-1"].members if m.key == jack.key)
    assert now.member.theoretical - jack.member.theoretical == pytest.approx(3.0 * INCH * 1.118, abs=1.0)
    in_their_planes(model)
    assert overlaps(model) == []


def test_one_is_made_of_something_else_and_its_tail_is_cut_longer():
    p = house()
    one = commons(derive(p))[4]
    q = set_member(p, one.key, size="2x10", plies=2, species="Southern Pine", grade="No. 1", longer=6.0 * INCH)
    model = derive(q)
    piece = model.piece(one.key)
    assert (piece.section, piece.species, piece.grade) == ("2-2x10", "Southern Pine", "No. 1")
    assert section(piece.section).breadth == pytest.approx(3.0 * INCH)
    case = model.planes["roof-1"].results[one.key].case
    assert (case.size, case.species, case.grade) == ("2-2x10", "Southern Pine", "No. 1")
    now = next(m for m in model.planes["roof-1"].members if m.key == one.key)
    assert now.member.length - one.member.length == pytest.approx(6.0 * INCH, abs=0.5)
    assert one.key in model.hand_edited
    with pytest.raises(EditError, match="single rafter cannot be given another"):
        set_member(p, one.key, more=1)


def test_what_is_gone_is_told():
    p = house()
    one = commons(derive(p))[4]
    q = set_member(p, one.key, removed=True)
    model = derive(edits.change(q, "roof-1", rafters__spacing=19.2 * INCH))
    lost = [f for f in model.findings if f.code == "hand edit lost"]
    assert len(lost) == len(model.lost_edits)
    assert lost or model.piece(one.key) is None


def test_a_post_in_the_way_of_one_that_is_too_weak_is_named():
    p = house()
    rows = commons(derive(p))
    for m in (rows[3], rows[4], rows[6], rows[7]):
        p = set_member(p, m.key, removed=True)
    model = derive(p)
    over = [f for f in model.findings if f.code == "used" and rows[5].key in f.things]
    assert bool(over) == (model.planes["roof-1"].results[rows[5].key].used > 1.0)
    assert model.planes["roof-1"].results[rows[5].key].case.spacing == pytest.approx(3.0 * APART)


@settings(max_examples=15)
@given(st.data())
def test_any_edit_leaves_the_roof_whole(data):
    p = house()
    members = [m for m in derive(p).planes["roof-1"].members if m.wall and can_edit(m.key)]
    for _ in range(3):
        one = data.draw(st.sampled_from(members))
        fields = data.draw(
            st.sampled_from([{"removed": True}, {"moved": 40.0}, {"moved": -120.0}, {"plies": 2}, {"longer": 100.0}])
        )
        p = set_member(p, one.key, **fields)
    model = derive(p)
    balanced(model)
    assert overlaps(model) == []
    assert all(distance(m.member.start[:2], m.member.end[:2]) < 20 * FOOT for m in model.planes["roof-1"].members)


def purlined():
    p = edits.change(roofed(RECTANGLE, pitch=0.75), "roof-1", purlins_at=7.0 * FOOT)
    p = set_side(set_side(p, "roof-1", "wall-2", kind="gable"), "roof-1", "wall-4", kind="gable")
    model = derive(p)
    return posts_under_purlins(p, "roof-1", purlin_ends(model.surfaces[0], model.planes["roof-1"]), 8.0 * FOOT)


def test_a_purlin_of_its_own_section_carries_what_the_others_do_and_stands_lower_on_its_posts():
    p = purlined()
    before = derive(p)
    one, other = (x.key for x in before.planes["roof-1"].purlins[:2])
    size = before.planes["roof-1"].boards.lines[one]
    q = set_member(p, one, size="2x12", plies=2, species="DF-L", grade="No. 1")
    model = derive(q)
    piece = model.piece(one)
    assert (piece.section, piece.grade) == ("2-2x12", "No. 1")
    assert model.piece(other).section == size
    case = model.results[one].case
    assert (case.size, case.grade) == ("2-2x12", "No. 1")
    assert model.results[one].used < before.results[one].used
    balanced(model)
    assert piece.solid.heights[0] < before.piece(one).solid.heights[0] - 30.0
    # It stays where another one comes or goes, and lost ones are told.
    assert derive(edits.change(q, "roof-1", purlins_at=7.5 * FOOT)).piece(one).section == "2-2x12"
    gone = derive(edits.change(q, "roof-1", purlins_at=0.0))
    assert [f for f in gone.findings if f.code == "hand edit lost"]
    with pytest.raises(EditError, match="cannot be taken out"):
        set_member(p, one, removed=True)


def test_purlins_in_pieces_are_changed_one_by_one():
    p = edits.set_project(purlined(), stock_length=14.0 * FOOT)
    keys = [x.key for x in derive(p).planes["roof-1"].purlins]
    assert len(keys) > 3
    assert all(can_edit(key) for key in keys)
    model = derive(set_member(p, keys[1], plies=3))
    sections = [model.piece(key).section for key in keys]
    assert sections[1].startswith("3-")
    assert len({*sections}) == 2


def test_a_header_of_an_opening_is_made_of_what_is_typed():
    p = add_roof_opening(house(), "roof-1", "wall-1", 16.0 * FOOT, 4.0 * FOOT, width=6.0 * FOOT)
    before = derive(p)
    low, high = before.planes["roof-1"].headers
    deep = section(before.planes["roof-1"].boards.rafter).depth
    size = next(name for name in ("2x6", "2x8", "2x10", "2x12") if section(name).depth == deep)
    weak = derive(set_member(p, high.key, size=size, grade="No. 3"))
    assert weak.piece(high.key).grade == "No. 3"
    assert weak.piece(high.key).section == size
    assert weak.results[high.key].used > before.results[high.key].used
    assert weak.piece(low.key).section == before.piece(low.key).section
    strong = derive(set_member(p, high.key, size=size, plies=4))
    assert section(strong.piece(high.key).section).breadth == pytest.approx(6.0 * INCH)
    assert strong.results[high.key].used < before.results[high.key].used
    assert overlaps(strong) == []
    balanced(strong)
    with pytest.raises(EditError, match="cannot be taken out"):
        set_member(p, high.key, removed=True)
    gone = derive(edits.remove(set_member(p, high.key, plies=3), high.opening))
    assert [f for f in gone.findings if f.code == "hand edit lost"]


def test_collar_ties_are_taken_out_and_made_of_something_else():
    p = edits.change(roofed(RECTANGLE), "roof-1", pitch=0.75)
    p = set_side(set_side(p, "roof-1", "wall-2", kind="gable"), "roof-1", "wall-4", kind="gable")
    before = derive(p)
    keys = [x.key for x in before.pieces.values() if x.role == "collar tie"]
    assert len(keys) > 5
    assert all(can_edit(key) for key in keys)
    q = set_member(set_member(p, keys[2], removed=True), keys[3], size="2x6", grade="No. 1")
    model = derive(q)
    left = [x.key for x in model.pieces.values() if x.role == "collar tie"]
    assert left == [key for key in keys if key != keys[2]]
    piece = model.piece(keys[3])
    assert (piece.section, piece.grade) == ("2x6", "No. 1")
    assert piece.solid.heights[1] - piece.solid.heights[0] == pytest.approx(5.5 * INCH)
    assert overlaps(model) == []
    # One too deep for the room below the ridge stays as its layout has it, and that is told.
    deep = derive(set_member(edits.change(p, "roof-1", pitch=0.35), keys[3], size="2x12"))
    assert [f.what for f in deep.findings if f.code == "hand edit room"]
    again = derive(edits.change(q, "roof-1", overhang=2.0 * FOOT))
    assert again.piece(keys[2]) is None
    assert again.piece(keys[3]).section == "2x6"
