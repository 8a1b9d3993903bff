"""Hip ends framed with rafters beside trusses: where the truss stands that holds them, what comes to it, what cannot be so."""

import math

import msgspec
import pytest
from hypothesis import assume, given, settings
from hypothesis import strategies as st
from tests.design.test_trusses import as_pynite
from tests.framing.solids import apart
from tests.framing.test_joined_roofs import joined
from tests.framing.test_truss_hips import hipped
from tests.framing.test_truss_wings import L, T, winged
from tests.loads.test_beams import balanced

from balken.catalog.sections import section
from balken.commands.truss import truss_report
from balken.derive import derive
from balken.documents.calculation import calculation
from balken.documents.deck_sheets import deck_layouts
from balken.documents.display import Text
from balken.documents.load_tree import flat, run_tree
from balken.documents.roof_schedule import roof_schedule
from balken.documents.truss_drawing import truss_drawings
from balken.exchange.ifc import write_ifc
from balken.exchange.project_file import load, save
from balken.findings.fixes import FIXES
from balken.loads.area_loads import roof_cases
from balken.loads.cases import total
from balken.model import edits
from balken.model.naming import kind_of, place_in
from balken.model.records import MemberEdit
from balken.model.roof_edits import add_roof_opening, set_side
from balken.units.system import FOOT, INCH

BOTH = ("wall-2", "wall-4")
LONG_T = ((0, 0), (18, 0), (18, -20), (34, -20), (34, 0), (60, 0), (60, 28), (0, 28))
"""60 x 28 ft with a wing nearer to one end; its ends are walls 3, 6 and 8."""
CROSS = (*LONG_T[:7], (42, 28), (42, 50), (22, 50), (22, 28), (0, 28))
"""With a wing at the other side, too; its ends are walls 3, 6, 9 and 12."""


def ended(walls=("wall-2",), **fields):
    """The house of 40 x 28 ft under trusses, both its ends hips; those over some walls with rafters."""
    p = hipped(**fields)
    for wall in walls:
        p = set_side(p, "roof-1", wall, framed="rafters")
    return p


def carriers(model):
    made = model.trusses["roof-1"]
    return [(n, made.places[n], made.of(n)) for n in made.made_at if made.places[n].make == "carrier"]


def test_the_truss_stands_where_the_hips_meet():
    """28 ft wide, all planes at 6:12: the ridge ends 14 ft in of the end wall, and there a girder of plies has its outer face."""
    model = derive(ended())
    ((number, place, girder),) = carriers(model)
    assert number == 0
    plies = girder.frame.sizes.plies
    assert plies >= 2
    assert place.at(0.0)[0] == pytest.approx(40.0 * FOOT - 14.0 * FOOT - plies * 0.75 * INCH)
    # Trusses and rafters bear their planes at one height over the plates, which is that of the rafters by their bird's mouths.
    plan = model.surfaces[0]
    assert girder.heel == pytest.approx(plan.plate_to_top, abs=0.01)
    size = section(model.designs[("roof-1", "rafters")].size)
    seat = min(3.5 * INCH, size.depth / 4.0 * math.hypot(1.0, 0.5) / 0.5)
    assert plan.plate_to_top == pytest.approx(size.depth * math.hypot(1.0, 0.5) - seat * 0.5, abs=0.01)
    hips = [one.member for one in model.planes["roof-1"].members if one.member.role == "hip"]
    assert {tuple(round(v) for v in m.end) for m in hips} == {
        (round(26.0 * FOOT), round(14.0 * FOOT), round(7.0 * FOOT))
    }
    roles = {piece.role for group in model.layouts for piece in group if piece.owner == "roof-1"}
    assert roles >= {"rafter", "hip rafter", "ceiling joist", "truss top chord"}


def test_what_comes_to_it_by_hand():
    """Without overhangs each hip takes half of two triangles of 14 x 14 ft, as a load that grows from nothing at the corner: two
    thirds of it come to its upper end.  The ceiling's joists bring what the lever leaves of half of it.
    """
    model = derive(ended(overhang=0.0))
    ((_, _, girder),) = carriers(model)
    loads, deep = model.project.loads, 14.0 * FOOT
    q = roof_cases(loads, 0.5, model.snow["roof-1"].planes[1].laid)
    at_peak = total(h.force for h in girder.job.loads.rested)
    for case in ("dead", "roof_live", "snow"):
        by_hand = 2.0 * (2.0 / 3.0) * getattr(q, case) * deep**2 / 2.0 / 1000.0
        assert getattr(at_peak, case) == pytest.approx(by_hand, rel=2e-3)
    ceiling = total(h.force for h in girder.job.loads.hung)
    half = model.surfaces[0].deep[1]
    by_lever = loads.ceiling_dead * 28.0 * FOOT * deep * (deep / 2.0 - half) / (deep - half) / 1000.0
    assert ceiling.dead == pytest.approx(by_lever, rel=1e-6)
    assert ceiling.live == pytest.approx(by_lever * loads.attic_live / loads.ceiling_dead, rel=1e-6)
    balanced(model)


def test_its_forces_as_pynite_has_them():
    model = derive(edits.set_loads(ended(overhang=300.0), wind_speed=50.0))
    ((_, _, girder),) = carriers(model)
    assert any(h.force.wind < 0.0 for h in girder.job.loads.rested)  # what lifts comes to it, too
    as_pynite(truss_report(girder, plates=False))


@given(
    st.sampled_from([("wall-2",), BOTH]), st.sampled_from([0.3, 0.5, 0.8]), st.sampled_from([None, 0.6, 1.0]),
    st.sampled_from([0.0, 300.0, 600.0]), st.sampled_from([None, 304.8, 609.6]), st.booleans(), st.sampled_from([0.8, 1.0, 1.25]),
)  # fmt: skip
@settings(max_examples=8, deadline=None)
def test_all_that_lies_on_it_comes_down(walls, pitch, end, overhang, spacing, snow, other):
    p = ended(walls, pitch=pitch, end=end, overhang=overhang)
    p = edits.change(set_side(p, "roof-1", "wall-1", pitch=pitch * other), "roof-1", rafters__spacing=spacing)
    model = derive(edits.set_loads(p, snow_by="roof") if snow else p)
    assume(not model.trusses["roof-1"].problem)  # a flat end may reach past the ridge
    assert len(carriers(model)) == len(walls)
    balanced(model)


@pytest.mark.parametrize(
    ("corners", "walls"),
    [
        (L, ("wall-1",)), (L, ("wall-4",)), (L, ("wall-1", "wall-4")), (T, ("wall-3",)),
        (LONG_T, ("wall-3", "wall-6", "wall-8")), (CROSS, ("wall-3", "wall-6", "wall-9", "wall-12")),
    ],
)  # fmt: skip
def test_at_the_ends_of_wings_and_beside_them(corners, walls):
    p = winged(corners)
    for wall in walls:
        p = set_side(p, "roof-1", wall, framed="rafters")
    model = derive(p)
    assert not model.trusses["roof-1"].problem
    wings = math.ceil((len(corners) - 4) / 4)
    assert len(carriers(model)) == len(walls) + wings  # those of the wings, too
    hips = [one for one in model.planes["roof-1"].members if one.member.role == "hip"]
    assert len(hips) == 2 * len(walls)
    balanced(model)


def test_an_end_off_the_middle_by_hand():
    """Planes at 6:12, 4.5:12 and 8:12: the ridge lies where both eaves' planes meet, 28 ft x 4.5 / (6 + 4.5) from the steeper one, 12 ft;
    there the end's plane at 8:12 is 9 ft deep.  Of what lies on the triangles beside them
    hips take half, the rest comes to the walls at once; two thirds of it come to their upper ends.
    """
    p = ended(overhang=0.0)
    p = set_side(p, "roof-1", "wall-3", pitch=0.375)
    model = derive(set_side(p, "roof-1", "wall-2", pitch=8.0 / 12.0))
    ((_, _, girder),) = carriers(model)
    peak = {
        tuple(round(v, 1) for v in one.member.end[:2])
        for one in model.planes["roof-1"].members
        if one.member.role == "hip"
    }
    assert peak == {(round(31.0 * FOOT, 1), round(12.0 * FOOT, 1))}
    deep = 9.0 * FOOT
    at_peak = total(h.force for h in girder.job.loads.rested)
    by_hand = 0.0
    for pitch, wide in ((0.5, 12.0 * FOOT), (0.375, 16.0 * FOOT), (8.0 / 12.0, 28.0 * FOOT)):
        q = roof_cases(model.project.loads, pitch, 0.0)
        by_hand += (2.0 / 3.0) * q.dead * (wide * deep / 2.0) / 2.0 / 1000.0
    assert at_peak.dead == pytest.approx(by_hand, rel=1e-3)
    balanced(model)


def test_each_of_three_ends_comes_to_its_own_truss():
    """As above by hand: 14 ft deep at both ends of the main part, 8 ft at the wing's; what lifts there goes with the area."""
    p = winged(LONG_T, overhang=0.0)
    for wall in ("wall-3", "wall-6", "wall-8"):
        p = set_side(p, "roof-1", wall, framed="rafters")
    model = derive(edits.set_loads(p, wind_speed=50.0))
    rested = [total(h.force for h in girder.job.loads.rested) for _, _, girder in carriers(model)]
    rested = sorted((force for force in rested if force.dead), key=lambda force: force.dead)
    loads, areas = model.project.loads, [(2.0 / 3.0) * (deep * FOOT) ** 2 / 1000.0 for deep in (8.0, 14.0, 14.0)]
    q = roof_cases(loads, 0.5, model.snow["roof-1"].planes[2].laid)
    assert [force.dead for force in rested] == pytest.approx([q.dead * area for area in areas], rel=2e-3)
    hung = model.planes["roof-1"].hung  # as the card of each truss has it
    for number, _, girder in carriers(model):
        if any(h.force.dead for h in girder.job.loads.rested):
            mine = total(one.force for one in hung if one.on == f"roof-1/truss/{number}")
            assert mine.dead == pytest.approx(total(h.force for h in girder.job.loads.hung).dead, rel=1e-6)
    drawings = [
        item.text for one in dict(truss_drawings(model)).values() for item in one.items if isinstance(item, Text)
    ]
    assert sum("ceiling joists hang on its bottom chord" in text for text in drawings) == 3
    assert rested[0].wind < 0.0
    assert [force.wind / rested[0].wind for force in rested] == pytest.approx(
        [1.0, (14 / 8) ** 2, (14 / 8) ** 2], rel=2e-3
    )
    balanced(model)


@pytest.mark.parametrize(
    "fields",
    [{"overhang": 0.0}, {"walls": BOTH, "end": 0.75, "overhang": 0.0}, {"pitch": 0.35, "end": 0.3, "overhang": 0.0}],
)
def test_nothing_of_it_stands_in_anything(fields):
    p = set_side(ended(**fields), "roof-1", "wall-1", pitch=fields.get("pitch", 0.5) * 0.9)
    model = derive(edits.change(p, "roof-1", eave_blocks=True))
    assert not model.trusses["roof-1"].problem
    pieces = [x for x in model.pieces.values() if x.owner in ("roof-1", "wall-1", "wall-2", "wall-3", "wall-4")]
    mine = [x for x in pieces if x.owner == "roof-1" and x.role != "roof plane"]
    assert {"rafter", "hip rafter", "ceiling joist"} <= {x.role for x in mine}
    apart(mine, pieces, 1e4)


def test_rafters_are_made_deeper_where_trusses_as_high_do_not_work():
    """At 11:12 top chords of the depth that loads ask for find no room at heels as high as 2x8 rafters lie."""
    p = ended(BOTH, pitch=0.9)
    model = derive(p)
    made = model.trusses["roof-1"]
    assert made.used <= 1.0
    assert model.designs[("roof-1", "rafters")].size == "2x10"
    typed = derive(edits.change(p, "roof-1", rafters__size="2x8"))
    assert typed.trusses["roof-1"].used > 1.0
    assert any(f.code == "used" and "trusses" in f.what for f in typed.findings)


@pytest.mark.parametrize(
    ("change", "said"),
    [
        (lambda p: edits.change(p, "roof-1", trusses__heel=300.0), "leave the height of heels open"),
        (lambda p: set_side(p, "roof-1", "wall-1", framed="rafters"), "rafters are made at hip ends"),
        (lambda p: edits.change(p, "roof-1", trusses__joined="gussets"), "one that carries hips has plates"),
        (lambda p: edits.change(p, "roof-1", trusses__bottom_pitch=0.2), "level"),
        (lambda p: edits.change(p, "roof-1", trusses__past=300.0, overhang=400.0), "over the walls"),
    ],
)
def test_what_cannot_be_is_told_and_rafters_stand_in_its_place(change, said):
    model = derive(change(ended()))
    finding = next(f for f in model.findings if f.code == "no trusses")
    assert said in finding.why
    assert not any(p.role.startswith("truss") for p in model.pieces.values())
    assert sum(p.role == "hip rafter" for p in model.pieces.values()) == 4
    balanced(model)


def test_under_another_roof_and_on_one_it_is_told():
    p = joined()
    lower = next(r for r in p.roofs if all(s.kind != "roof" for s in r.sides))
    for wall in ("wall-2", "wall-4"):
        p = set_side(p, lower.id, wall, kind="eave", framed="rafters" if wall == "wall-2" else "roof")
    p = edits.change(p, lower.id, framed="trusses")
    model = derive(p)
    assert any(f.code == "no trusses" for f in model.findings)
    balanced(model)


def test_a_typed_heel_as_high_as_the_rafters_is_taken():
    high = derive(ended()).surfaces[0].plate_to_top
    model = derive(edits.change(ended(), "roof-1", trusses__heel=round(high, 1)))
    assert not model.trusses["roof-1"].problem


def test_ceilings_without_joists_beside_walls_are_told():
    """Hips so deep leave no room for joists near the side walls."""
    model = derive(ended())
    finding = next(f for f in model.findings if f.code == "ceiling of hip end")
    assert "Wall 2" in finding.what
    assert not finding.grave
    joists = [p for p in model.pieces.values() if p.role == "ceiling joist"]
    first = min(p.start[1] for p in joists)
    # Just outside of the first one there would be a hip above it: its underside there is no higher than the joist's upper edge.
    hip = model.planes["roof-1"].lines[0]
    lumber, plan = section(hip.size), model.surfaces[0]
    slope = 0.5 / math.sqrt(2.0)
    under = plan.plate_to_top + 0.5 * (first - 16.0 * INCH) - lumber.depth * math.hypot(1.0, slope)
    assert under < section(joists[0].section).depth + 60.0


def test_joists_hang_on_the_truss_in_hangers_of_the_list():
    model = derive(ended())
    ends = [one for one in model.hangers if kind_of(one.member) == "end-joist"]
    assert len(ends) == sum(p.role == "ceiling joist" for p in model.pieces.values())
    assert {one.on for one in ends} == {"roof-1/truss/0"}
    assert all(one.hanger for one in ends)
    worst = model.designs[("roof-1", "ties")].result
    assert worst.used == pytest.approx(max(model.results[one.member].used for one in ends))


def test_changes_by_hand_of_rafters_and_of_trusses_both_stay():
    model = derive(ended())
    rafter = next(
        one.key for one in model.planes["roof-1"].members if one.wall == "wall-2" and one.member.head.kind == "hip"
    )
    place = place_in(rafter)
    own = (
        MemberEdit(id="edit-1", owner="roof-1", sort="plane-rafter", datum=place.datum, at=place.at, removed=True),
        MemberEdit(id="edit-2", owner="roof-1", sort="plane-rafter", datum="wall-4", at=3000, removed=True),
    )
    after = derive(msgspec.structs.replace(model.project, member_edits=own))
    assert rafter not in after.pieces
    assert [edit.id for edit, _ in after.lost_edits] == ["edit-2"]  # no rafter stands there: trusses do
    assert not [f for f in after.findings if f.code == "hand edit" and "wait" in f.what]
    balanced(after)


def test_an_opening_in_such_an_end_is_framed_and_cuts_no_truss():
    p = add_roof_opening(ended(), "roof-1", "wall-2", 14.0 * FOOT, 3.0 * FOOT, width=800.0, length=1200.0)
    model = derive(p)
    assert sum(piece.role == "rafter header" for piece in model.pieces.values()) == 2
    assert not [f for f in model.findings if f.code in ("roof opening", "cut")]
    balanced(model)


def test_documents_show_both(tmp_path):
    model = derive(ended(BOTH))
    told = [line.text for line in calculation(model, "roof-1")]
    assert any(text.endswith("trusses") for text in told)
    assert any("rafters and ceiling joists of hip ends" in text for text in told)
    assert any("at hip ends" in cell for row in roof_schedule(model).rows for cell in row)
    layout = next(one for one in deck_layouts(model) if one.ref == "roof-1")
    assert layout.pieces
    run = next(run.id for run in model.runs if run.wall == "wall-2")
    assert "ceiling joists" in " ".join(branch.label for _, branch in flat(run_tree(model, run)))
    write_ifc(model, tmp_path / "ends.ifc")
    text = (tmp_path / "ends.ifc").read_text()
    assert text.count("IFCELEMENTASSEMBLY(") == len(model.trusses["roof-1"].places)
    assert "JOIST" in text


def test_it_is_saved_and_read_again(tmp_path):
    p = ended(BOTH)
    path = tmp_path / "ends.balken"
    save(p, path)
    assert load(path) == p


def test_what_cannot_be_is_set_right_by_its_fix():
    p = edits.change(ended(), "roof-1", trusses__joined="gussets", trusses__heel=None)
    model = derive(set_side(p, "roof-1", "wall-4", kind="gable"))
    fix = next(f for f in model.findings if f.code == "no trusses").fix
    assert fix.command == "set_side"
    after = derive(FIXES[fix.command](model.project, *fix.args, **dict(fix.fields)))
    assert not any(side.framed == "rafters" for side in after.project.roofs[0].sides)
