"""Hand edits of single members: loads, checks, lists and files follow; nothing carried is lost; a lost edit is said."""

import pytest
from hypothesis import given
from hypothesis import strategies as st
from tests.houses import house
from tests.shop import shop

from balken.derive import derive
from balken.documents.schedule import member_rows
from balken.exchange import project_file
from balken.findings.fixes import FIXES
from balken.framing.hand_edits import match
from balken.memo import Memo
from balken.model import edits, wall_edits
from balken.model.errors import EditError
from balken.model.kinds.member_edit import MemberEdit
from balken.model.member_edits import back_to_layout, edit_of, set_member
from balken.model.naming import kind_of, place_at, place_in
from balken.model.records import Choice
from balken.standards.demands import MemberCase
from balken.standards.us.members import check_member
from balken.standards.us.standard import US
from balken.units.system import FOOT, INCH, PSF

SIXTEEN = 16 * INCH


def laid_house(**more):
    return house(long=24 * FOOT, wide=12 * FOOT, joists=Choice(size="2x8", spacing=SIXTEEN), **more)


def joists(model):
    """Return the names of a floor's joists, in their order across it."""
    return [f"floor-1/joist/{line.place}" for line in sorted(model.floors[0].lines, key=lambda line: line.t)]


def carried(model, name):
    """Return the live load a joist hands to its bearings, N."""
    return sum(r.force.live for r in model.path.reactions if r.piece == name)


def test_a_joist_taken_out_is_carried_by_those_beside_it():
    p = laid_house()
    before = derive(p)
    names = joists(before)
    after = derive(set_member(p, names[5], removed=True))
    assert names[5] not in after.pieces
    for name in (names[4], names[6]):
        assert carried(after, name) == pytest.approx(1.5 * carried(before, name), rel=1e-6)
        case = after.results[name].case
        # By hand: the strip is 24 in wide now, so that bending goes up by half.
        assert case.spacing == pytest.approx(24 * INCH)
        alike = MemberCase(
            "joist", "2x8", "DF-L", "No. 2", case.clear, 24 * INCH, case.load, US.joist_limit, case.bearing
        )
        assert after.results[name].used == pytest.approx(check_member(alike).used)
    assert carried(after, names[3]) == pytest.approx(carried(before, names[3]))


def test_a_joist_moved_takes_from_one_and_leaves_to_the_other():
    p = laid_house()
    before = derive(p)
    names = joists(before)
    after = derive(set_member(p, names[5], moved=4 * INCH))
    long = before.floors[0].lines[5].load_high - before.floors[0].lines[5].load_low
    two_inches = 2 * INCH * long / 1e6 * before.project.loads.floor_live * 1000
    assert carried(after, names[4]) - carried(before, names[4]) == pytest.approx(two_inches)
    assert carried(after, names[6]) - carried(before, names[6]) == pytest.approx(-two_inches)
    assert carried(after, names[5]) == pytest.approx(carried(before, names[5]))
    moved = [after.pieces[names[5]].start[i] - before.pieces[names[5]].start[i] for i in range(2)]
    assert abs(sum(moved)) == pytest.approx(4 * INCH)


def test_one_more_shares_and_plies_stiffen():
    p = laid_house()
    before = derive(p)
    names = joists(before)
    after = derive(set_member(p, names[5], more=1))
    twins = [name for name in joists(after) if name not in names]
    assert len(twins) == 1
    assert carried(after, twins[0]) == pytest.approx(carried(before, names[5]) / 2)
    assert after.results[names[5]].used < before.results[names[5]].used
    double = derive(set_member(p, names[5], plies=2))
    assert double.pieces[names[5]].section == "2-2x8"
    assert double.pieces[names[5]].volume == pytest.approx(2 * before.pieces[names[5]].volume)
    assert double.results[names[5]].used == pytest.approx(before.results[names[5]].used / 2, rel=0.12)


def test_another_grade_is_checked_as_such():
    p = laid_house()
    names = joists(derive(p))
    after = derive(set_member(p, names[3], grade="No. 3"))
    assert after.results[names[3]].case.grade == "No. 3"
    assert after.results[names[3]].used > after.results[names[4]].used
    row = next(row for row in member_rows(after) if row.key == names[3])
    assert row.grade == "DF-L No. 3"
    assert row.mark != after.marks[names[4]]
    assert row.mark.endswith("*")


def test_a_joist_cut_too_short_bears_on_nothing():
    p = laid_house()
    names = joists(derive(p))
    after = derive(set_member(p, names[3], longer=-12 * INCH))
    assert any(f.code in ("no bearing", "bearing") and f.stage == "floors" for f in after.findings) or any(
        "bear" in f.what for f in after.findings
    )


@given(st.data())
def test_loads_in_equal_reactions_out_whatever_is_edited(data):
    p = data.draw(st.sampled_from([laid_house(), house(middle=True), shop()]))
    for _ in range(data.draw(st.integers(1, 5))):
        model = derive(p)
        names = [*joists(model), *(n for pair in pair_names(model) for n in pair)]
        names += [f"{model.roofs[0].roof.id}/tie/{tie.place}" for tie in model.roofs[0].ties]
        name = data.draw(st.sampled_from(names))
        fields = data.draw(
            st.sampled_from(
                [
                    {"removed": True},
                    {"moved": data.draw(st.floats(-300.0, 300.0))},
                    {"more": data.draw(st.integers(1, 2))},
                    {"plies": 2},
                    {"longer": data.draw(st.floats(-50.0, 300.0))},
                ]
            )
        )
        try:
            p = set_member(p, name, **fields)
        except EditError:
            continue
    model = derive(p)
    path = model.path
    lost = [sum(values) for values in zip((0.0,) * 5, *(r.force for r in path.lost), strict=True)]
    for put_on, arrived, away in zip(path.applied, path.arrived, lost, strict=True):
        assert put_on == pytest.approx(arrived + away, rel=1e-6, abs=1e-3)


@given(data=st.data())
def test_by_parts_as_from_cold_and_from_the_file(data, tmp_path_factory):
    p, memo = laid_house(), Memo()
    derive(p, memo)
    for _ in range(3):
        names = [n for n in derive(p).pieces if kind_of(n) in ("joist", "rim", "stud", "rafter", "tie")]
        name = data.draw(st.sampled_from(names))
        fields = data.draw(
            st.sampled_from(
                [
                    {"plies": 2},
                    {"grade": "No. 1"},
                    {"size": "2x10"},
                    {"removed": True},
                    {"moved": 40.0},
                    {"more": 1},
                    {"longer": 30.0},
                ]
            )
        )
        try:
            p = set_member(p, name, **fields)
        except EditError:
            continue
        hot, cold = derive(p, memo), derive(p)
        assert hot.pieces == cold.pieces
        assert hot.results == cold.results
        assert hot.findings == cold.findings
    file = tmp_path_factory.mktemp("edits") / "house.balken"
    project_file.save(p, file)
    assert project_file.load(file) == p


def test_back_to_the_layout_is_as_it_was():
    p = laid_house()
    names = joists(derive(p))
    edited = set_member(p, names[2], plies=2, moved=50.0)
    assert edit_of(edited, names[2]).plies == 2
    assert set_member(edited, names[2], plies=1, moved=0.0) == p
    assert back_to_layout(edited, names[2]) == p


def test_an_edit_stays_with_its_member_when_the_floor_grows():
    p = set_member(laid_house(), joists(derive(laid_house()))[4], plies=2)
    name = f"floor-1/joist/{p.member_edits[0].place.text}"
    longer = derive(wall_edits.drag_walls(p, ("wall-2",), 4 * FOOT, 0.0))
    assert longer.pieces[name].section == "2-2x8"
    assert not longer.lost_edits


def test_an_edit_of_nearly_the_same_place_goes_to_the_nearest():
    near = MemberEdit(id="e", owner="f", sort="joist", datum="wall-1", at=400, plies=2)
    places = [place_at("wall-1", x).text for x in (0.0, 390.0, 412.0, 800.0)]
    found = match([near], places)
    assert list(found.by_place) == [place_at("wall-1", 390.0).text]
    assert not found.lost
    far = MemberEdit(id="e", owner="f", sort="joist", datum="wall-1", at=430, plies=2)
    assert [row[0].id for row in match([far], places).lost] == []
    lost = match([MemberEdit(id="e", owner="f", sort="joist", datum="wall-1", at=600, plies=2)], places).lost
    assert lost[0][1] == place_at("wall-1", 412.0).text


def test_each_member_takes_one_edit():
    two = [
        MemberEdit(id="a", owner="f", sort="joist", datum="w", at=400, plies=2),
        MemberEdit(id="b", owner="f", sort="joist", datum="w", at=404, plies=3),
    ]
    found = match(two, [place_at("w", 402.0).text])
    assert len(found.by_place) == 1
    assert len(found.lost) == 1


def test_a_lost_edit_is_a_finding_and_offers_the_nearest():
    p = laid_house()
    names = joists(derive(p))
    p = set_member(p, names[-1], plies=2)
    shorter = wall_edits.drag_walls(p, ("wall-2",), -6 * FOOT, 0.0)
    model = derive(shorter)
    (finding,) = [f for f in model.findings if f.code == "hand edit lost"]
    assert len(model.lost_edits) == 1
    mended = FIXES[finding.fix.command](shorter, *finding.fix.args, **dict(finding.fix.fields))
    assert not [f for f in derive(mended).findings if f.code == "hand edit lost"]
    assert any(piece.section == "2-2x8" for piece in derive(mended).pieces.values())


def test_a_stud_taken_out_loads_its_neighbours():
    p = laid_house(wind=25 * PSF)
    before = derive(p)
    wall = before.framed["wall-1"]
    module = [s.key("wall-1") for s in wall.wall.sticks if s.role == "stud" and s.place.startswith("start+")]
    middle = sorted(module, key=lambda n: place_in(n).at)[6]
    after = derive(set_member(p, middle, removed=True))
    assert middle not in after.pieces
    beside = [n for n in module if abs(place_in(n).at - place_in(middle).at) in range(300, 420)]
    assert len(beside) == 2
    for name in beside:
        assert after.results[name].case.spacing == pytest.approx(24 * INCH, rel=0.02)
        assert after.results[name].used > before.results[name].used


def test_studs_rafters_ties_and_rims_of_another_make():
    p = laid_house()
    model = derive(p)
    for sort, want in (("stud", "2-2x6"), ("rafter", None), ("tie", None), ("rim", "2-2x8")):
        name = next(n for n in model.pieces if kind_of(n) == sort)
        after = derive(set_member(p, name, plies=2))
        assert after.pieces[name].section == (want or f"2-{model.pieces[name].section}")
        assert name in after.hand_edited
        if sort in ("rafter", "tie"):
            assert after.results[name].used < model.results[name].used


def pair_names(model):
    """Return the names of a roof's pairs of rafters, in their order along the ridge."""
    plan = model.roofs[0]
    rows = sorted(plan.stations, key=lambda s: s.t)
    return [tuple(f"{plan.roof.id}/rafter/{plan.rafter_place(s, side)}" for side in (0, 1)) for s in rows]


def snow(model, name):
    return sum(r.force.snow for r in model.path.reactions if r.piece == name)


def test_a_pair_of_rafters_taken_out_is_carried_by_those_beside_it():
    p = laid_house()
    before = derive(p)
    pairs = pair_names(before)
    after = derive(set_member(p, pairs[3][1], removed=True))
    assert not set(pairs[3]) & set(after.pieces)
    for name in (*pairs[2], *pairs[4]):
        assert snow(after, name) == pytest.approx(1.5 * snow(before, name), rel=1e-6)
        assert after.results[name].case.spacing == pytest.approx(1.5 * before.results[name].case.spacing, abs=0.01)
    assert len(after.roofs[0].ties) == len(before.roofs[0].ties) - 1
    # The ties beside it take half of its ceiling each, and the widest pair's thrust.
    wide = max(tie.width for tie in before.roofs[0].ties)
    assert max(tie.width for tie in after.roofs[0].ties) == pytest.approx(1.5 * wide, abs=1.0)
    assert after.path.applied == pytest.approx(before.path.applied, rel=0.05)


def test_a_pair_moved_takes_roof_from_one_and_leaves_it_to_the_other():
    p = laid_house()
    before = derive(p)
    pairs = pair_names(before)
    after = derive(set_member(p, pairs[3][0], moved=4 * INCH))
    bay = 16 * INCH
    for k, share in ((2, 1 + 2 * INCH / bay), (3, 1.0), (4, 1 - 2 * INCH / bay)):
        for name in pairs[k]:
            assert snow(after, name) == pytest.approx(share * snow(before, name), rel=1e-6)
    for name in pairs[3]:
        assert after.pieces[name].start != before.pieces[name].start
    far = derive(set_member(p, pairs[3][0], moved=20 * INCH))
    assert far.pieces[pairs[3][0]].start == before.pieces[pairs[3][0]].start
    assert any(f.code == "hand edit room" for f in far.findings)
    end = derive(set_member(p, pairs[0][0], removed=True))
    assert pairs[0][0] in end.pieces
    assert any(f.code == "hand edit room" for f in end.findings)


def test_a_pair_doubled_shares_and_its_tie_takes_all():
    p = laid_house()
    before = derive(p)
    name = pair_names(before)[3][0]
    after = derive(set_member(p, name, more=1))
    both = [n for n in after.pieces if n in (name, f"{name}.1")]
    assert len(both) == 2
    assert all(snow(after, n) == pytest.approx(snow(before, name) / 2.0, rel=1e-6) for n in both)
    assert len(after.roofs[0].ties) == len(before.roofs[0].ties)
    tie = next(n for n in before.pieces if kind_of(n) == "tie")
    assert after.results[tie].case.tension == before.results[tie].case.tension


def test_a_tail_cut_longer_by_itself():
    p = laid_house()
    before = derive(p)
    name = pair_names(before)[3][0]
    after = derive(set_member(p, name, longer=6 * INCH))
    assert after.pieces[name].length == pytest.approx(before.pieces[name].length + 6 * INCH)
    assert after.pieces[pair_names(before)[3][1]] == before.pieces[pair_names(before)[3][1]]


def test_a_tie_taken_out_is_said_and_its_ceiling_carried():
    p = laid_house()
    before = derive(p)
    name = next(n for n in before.pieces if kind_of(n) == "tie")
    after = derive(set_member(p, name, removed=True))
    assert name not in after.pieces
    assert any(f.code == "no tie" and f.grave for f in after.findings)
    assert after.path.arrived == pytest.approx(before.path.arrived, rel=0.01)
    ceiling = sum(r.force.dead for r in before.path.reactions if kind_of(r.piece) in ("tie", "ceiling"))
    still = sum(r.force.dead for r in after.path.reactions if kind_of(r.piece) in ("tie", "ceiling"))
    assert still == pytest.approx(ceiling, rel=1e-9)
    with pytest.raises(EditError, match="cannot be moved"):
        set_member(p, name, moved=20.0)


def test_a_rim_board_taken_out_is_said():
    p = laid_house()
    name = next(n for n in derive(p).pieces if kind_of(n) == "rim")
    after = derive(set_member(p, name, removed=True))
    assert name not in after.pieces
    assert any(f.code == "no rim" for f in after.findings)
    with pytest.raises(EditError, match="cannot be moved or lengthened"):
        set_member(p, name, moved=20.0, longer=10.0)


def test_what_is_no_member_cannot_be_edited():
    with pytest.raises(EditError, match="cannot be changed alone"):
        set_member(laid_house(), "foundation-1/wall-1/footing", plies=2)


def test_with_its_layout_the_edit_goes():
    p = laid_house()
    p = set_member(p, joists(derive(p))[3], plies=2)
    assert not edits.remove(p, "floor-1").member_edits
