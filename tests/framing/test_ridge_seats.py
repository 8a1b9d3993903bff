"""Ridge beams under the rafters: how high they lie, what bears on them how, which ridges lie so; by hand, manifold3d, sums."""

import math

import pytest
from hypothesis import Phase, example, given, settings
from hypothesis import strategies as st
from tests.framing.solids import apart
from tests.framing.test_eaves import gabled
from tests.framing.test_gablets import hipped
from tests.framing.test_surface_roofs import L_HOUSE, roofed
from tests.loads.test_beams import balanced

from balken.catalog.sections import section
from balken.derive import derive
from balken.documents.display import Text
from balken.documents.rafter_templates import draw_template, rafter_templates
from balken.documents.schedule import cut_list
from balken.findings.fixes import FIXES
from balken.framing.line_levels import line_drop
from balken.framing.ridge_seats import beams_under, resting
from balken.geometry.plane import dot, sub, unit
from balken.geometry.seated import Seated
from balken.model import edits
from balken.model.errors import EditError
from balken.model.member_edits import set_member
from balken.model.records import Choice
from balken.model.roof_edits import add_dormer, add_roof_opening, set_side
from balken.panel.card_content import card
from balken.panel.card_parts import Fact
from balken.panel.cards_roofs import roof_card
from balken.session.session import Session
from balken.units.system import FOOT, INCH, PSI

STEEP = math.hypot(1.0, 0.5)


def of(model, role):
    return [p for p in model.pieces.values() if p.role == role]


def rested(p=None, **fields):
    rafters = Choice(size="2x10", spacing=16.0 * INCH)
    return edits.change(p or gabled(), "roof-1", **{"ridge_made": "under", "rafters": rafters, **fields})


def winged(**fields):
    """A house with a wing, its main roof between two gables: valley jacks run up to its ridge."""
    p = roofed(L_HOUSE, **fields)
    for wall in ("wall-2", "wall-8"):
        p = set_side(p, "roof-1", wall, kind="gable")
    return p


def test_a_beam_under_rafters_by_hand():
    """2x10s at 6:12 over 3 1/2 in: the seat is 1 3/4 in long (a quarter of the rafter would allow 5.2), so the beam's upper face lies the
    plumb depth, 10.34 in, under the line of the planes; each rafter loses a triangle 1 3/4 in long and half as high, 1 1/2 in thick.
    """
    model = derive(rested(ridge_size="LVL 2-1.75x11.875"))
    between = derive(rested(ridge_made="beam", ridge_size="LVL 2-1.75x11.875"))
    plan, (beam,) = model.surfaces[0], of(model, "ridge board")
    top = max(z for face in plan.surface.faces for _, _, z in face.ring) + plan.level(0)
    assert beam.solid.heights[1] == pytest.approx(top - 9.25 * INCH * STEEP)
    rafters = of(model, "rafter")
    lengths = {round(p.length - q.length, 3) for p, q in zip(rafters, of(between, "rafter"), strict=True)}
    assert lengths == {round(1.75 * INCH * STEEP, 3)}  # they run to the middle, not to the beam's face
    wedge = 1.5 * 1.75**2 * 0.5 / 2.0 * INCH**3
    plumb = 9.25 * INCH * STEEP
    for p, q in zip(rafters, of(between, "rafter"), strict=True):
        assert p.volume - q.volume == pytest.approx(1.5 * INCH * 1.75 * INCH * plumb - wedge, rel=1e-6)
    assert of(between, "ridge board")[0].solid.heights[1] > beam.solid.heights[1] + 200.0
    # What bears on what is the same; a post in the gable wall ends under the beam.
    assert [r.used for k, r in model.results.items() if "ridge" in k] == [
        r.used for k, r in between.results.items() if "ridge" in k
    ]
    balanced(model)
    studs = [p for p in of(model, "post stud") if p.key.split("/")[0] == "wall-2"]
    assert len(studs) >= 2
    assert {round(p.solid.heights[1], 3) for p in studs} == {round(beam.solid.heights[0], 3)}


def test_no_seat_is_deeper_than_a_quarter_of_the_rafter():
    """2x6 at 12:12 on a beam 7 in thick: a quarter of 5 1/2 in, square, is a seat of 1.94 in; it lies at the beam's outer edge."""
    p = rested(pitch=1.0, rafters=Choice(size="2x6", spacing=16.0 * INCH), ridge_size="LVL 4-1.75x16")
    model = derive(p)
    (beam,) = of(model, "ridge board")
    plan = model.surfaces[0]
    top = max(z for face in plan.surface.faces for _, _, z in face.ring) + plan.level(0)
    seat = 0.25 * 5.5 * INCH * math.sqrt(2.0)
    assert top - beam.solid.heights[1] == pytest.approx(5.5 * INCH * math.sqrt(2.0) + 3.5 * INCH - seat)
    case = next(r.case for k, r in model.results.items() if "plane-rafter" in k)
    assert case.bearing == pytest.approx(seat, abs=0.01)
    apart(of(model, "rafter"), of(model, "ridge board"), 1.0)


def test_which_ridges_lie_so():
    assert beams_under(derive(rested()).surfaces[0])
    assert beams_under(derive(rested(hipped())).surfaces[0])  # two hips come to each of its ends
    assert not beams_under(derive(rested(roofed(L_HOUSE))).surfaces[0])[1:]  # a wing's ridge ends at valleys
    # Far too unlike pitches: the shallower rafters would hang over it.
    assert not beams_under(derive(rested(set_side(gabled(), "roof-1", "wall-1", pitch=1.5))).surfaces[0])
    (run,) = beams_under(derive(rested(winged())).surfaces[0])  # the main ridge; the wing's ends at valleys
    assert run.line.length == pytest.approx(44.0 * FOOT, abs=1.0)
    one, other = (derive(rested(winged(), ridge_made=made)) for made in ("under", "beam"))
    wing = min((k for k, p in one.pieces.items() if p.role == "ridge board"), key=lambda k: one.pieces[k].length)
    assert one.pieces[wing].solid == other.pieces[wing].solid


def posted(p):
    """A roof with posts set under the ends of its ridge where hips come to them."""
    while ends := [f for f in derive(p).findings if f.code == "end of hip"]:
        p = FIXES[ends[0].fix.command](p, *ends[0].fix.args, **dict(ends[0].fix.fields))
    return p


def test_hips_bear_on_its_ends():
    """By hand: past both ends it runs on by half of its 3 1/2 in; a hip at 45 degrees lies over it from where it meets the beam's corner, 3 1/2 in
    over the root of 2 before its head.
    """
    size = "LVL 2-1.75x11.875"
    model = derive(posted(rested(hipped(), ridge_size=size)))
    plan, (beam,) = model.surfaces[0], of(model, "ridge board")
    (run,) = beams_under(plan)
    thick = section(size).breadth
    (x0, *_), (x1, *_) = beam.solid.extent
    assert (x0, x1) == pytest.approx((run.line.start[0] - thick / 2.0, run.line.end[0] + thick / 2.0))
    assert beam.length == pytest.approx(run.line.length + thick)
    for one in of(model, "hip rafter"):
        solid = one.solid
        assert isinstance(solid, Seated)
        (_, (start, level)) = solid.seats
        assert level == pytest.approx(beam.solid.heights[1])
        assert dot(solid.way, one.end[:2]) - start == pytest.approx(thick / math.sqrt(2.0))
    # A post stands right under each end of it.
    posts = of(model, "column")
    assert len(posts) == 2
    assert {round(p.solid.heights[1], 3) for p in posts} == {round(beam.solid.heights[0], 3)}
    assert not [f for f in model.findings if f.code in ("end of hip", "ridge seat", "post head")]
    balanced(model)
    said = [draw_template(model, one, 16.0) for one in rafter_templates(model) if one.piece.role == "hip rafter"]
    for drawing in said:
        assert "at the head, on the ridge beam: seat" in " ".join(x.text for x in drawing.items if isinstance(x, Text))


def test_a_hip_is_checked_where_it_is_cut_out_for_the_beam():
    """Shear on what is left over the plates and over the beam, by hand: Fv of veneer lumber 285 psi, two thirds of it."""
    model = derive(posted(rested(hipped(), ridge_size="LVL 2-1.75x11.875")))
    plan = model.surfaces[0]
    for line in model.planes["roof-1"].lines:
        if "hip" not in line.key:
            continue
        lumber, member = section(line.size), next(o.member for o in model.planes["roof-1"].members if o.key == line.key)
        steep, drop = 1.0 / math.cos(math.radians(member.slope)), line_drop(plan, member, lumber)
        lefts = (plan.plate_to_top - drop) / steep, (9.25 * INCH * STEEP - drop) / steep
        assert lefts[1] < lumber.depth  # it is cut out for the beam
        used = [
            v / (2.0 / 3.0 * 285.0 * PSI * lumber.breadth * left)
            for v, left in zip((line.foot, line.head), lefts, strict=True)
        ]
        made = next(c for c in line.result.checks if c.name.startswith("shear at the bird's mouth"))
        assert made.used == pytest.approx(max(used), rel=1e-3)


@given(
    pitch=st.sampled_from([0.25, 0.5, 0.9]), ends=st.sampled_from([0.5, 0.75, 1.25]), full=st.booleans(), one=st.booleans(),
    size=st.sampled_from([None, "LVL 3-1.75x16", "3-2x12"]), over=st.sampled_from([0.0, 450.0]), hips=st.sampled_from(["dropped", "backed"]),
)  # fmt: skip
@settings(max_examples=8, deadline=None, phases=(Phase.explicit, Phase.reuse, Phase.generate))
@example(pitch=0.5, ends=0.75, full=True, one=False, size=None, over=450.0, hips="dropped")
@example(pitch=0.9, ends=0.5, full=False, one=True, size="LVL 3-1.75x16", over=0.0, hips="backed")
def test_nothing_stands_in_anything_where_hips_come_to_it(pitch, ends, full, one, size, over, hips):
    """Hip ends steeper or flatter than the sides, so that hips come aslant; a gable at one end; rafters right at the corners of hips."""
    p = rested(hipped(), pitch=pitch, overhang=over, ridge_size=size, full_rafters=full, hips=hips)
    p = set_side(p, "roof-1", "wall-2", pitch=ends)
    p = set_side(p, "roof-1", "wall-4", kind="gable") if one else set_side(p, "roof-1", "wall-4", pitch=ends)
    p = posted(p)
    model = derive(p)
    assert beams_under(model.surfaces[0])
    balanced(model)
    others = [x for x in model.pieces.values() if x.role != "wall layer"]
    mine = [
        x for x in others if x.owner == "roof-1" and x.role in ("rafter", "ridge board", "hip rafter", "fly rafter")
    ]
    apart(mine, others, 2000.0)


def test_jacks_from_a_valley_bear_on_it_too():
    model = derive(rested(winged()))
    (beam,) = (p for p in of(model, "ridge board") if p.length > 40.0 * FOOT)
    level, jacks = beam.solid.heights[1], 0
    for one in model.planes["roof-1"].members:
        m = one.member
        if m.role == "valley jack" and m.on_beam:
            solid, way = model.piece(one.key).solid, unit(*m.ends)
            assert isinstance(solid, Seated)
            far = dot(way, sub(m.end[:2], m.start[:2]))
            at_end = [z for x, y, z in solid.corners() if dot(way, sub((x, y), m.start[:2])) > far - 1.0]
            assert min(at_end) == pytest.approx(level, abs=0.01)
            jacks += 1
    assert jacks > 6
    balanced(model)


@given(
    st.sampled_from(["gable", "wing"]), st.sampled_from(["plumb", "level"]), st.sampled_from([0.25, 0.5, 1.0]),
    st.sampled_from([0.0, 450.0]), st.sampled_from([None, "LVL 2-1.75x14", "3-2x12"]), st.booleans(),
)  # fmt: skip
@settings(max_examples=10, deadline=None, phases=(Phase.explicit, Phase.reuse, Phase.generate))
def test_nothing_stands_in_anything_and_all_arrives(shape, cut, pitch, over, size, purlins):
    p = rested(gabled() if shape == "gable" else winged(), tails=cut, pitch=pitch, overhang=over, ridge_size=size)
    if purlins:
        p = edits.change(p, "roof-1", purlins_at=6.0 * FOOT)
    model = derive(p)
    balanced(model)
    others = [p for p in model.pieces.values() if p.role != "wall layer"]
    apart([p for p in others if p.role in ("rafter", "ridge board", "lookout", "fly rafter")], others, 1000.0)


@pytest.mark.parametrize("what", ["off centre", "dormer", "window"])
def test_a_ridge_off_the_middle_and_what_stands_in_the_planes(what):
    """One eave 2 ft higher, of the same pitch: the ridge lies 2 ft off the middle; a dormer's trimmers; an opening right below the ridge."""
    p = rested(tails="level", overhang=450.0, pitch=0.75 if what == "dormer" else 0.5)
    if what == "off centre":
        p = set_side(p, "roof-1", "wall-1", raised=2.0 * FOOT)
    elif what == "dormer":
        p = add_dormer(p, "roof-1", "wall-1", 20.0 * FOOT, 4.0 * FOOT)
    else:
        p = add_roof_opening(p, "roof-1", "wall-1", 20.0 * FOOT, 11.5 * FOOT, width=900.0, length=1000.0)
    model = derive(p)
    plan = model.surfaces[0]
    (run,) = beams_under(plan)
    if what == "off centre":
        ys = [y for _, y in plan.outline.core]
        assert run.line.start[1] - (min(ys) + max(ys)) / 2.0 == pytest.approx(-2.0 * FOOT)
    balanced(model)
    assert not told(model)
    others = [x for x in model.pieces.values() if x.role != "wall layer"]
    mine = [x for x in others if x.owner == "roof-1" and x.role in ("rafter", "ridge board", "lookout", "fly rafter")]
    apart(mine, others, 2000.0)


@pytest.mark.parametrize("other", [7.0 / 12.0, 8.0 / 12.0, 5.0 / 12.0])
def test_rafters_of_two_pitches_bear_on_it(other):
    """By hand: its upper face lies by the plumb depth of the shallower rafters below the ridge, where these bear on half of it; the steeper are
    notched deeper there, no more than a quarter of them.
    """
    size = "LVL 3-1.75x16"
    p = set_side(rested(tails="level", overhang=450.0, ridge_size=size), "roof-1", "wall-1", pitch=other)
    model = derive(p)
    plan, (beam,) = model.surfaces[0], of(model, "ridge board")
    (run,) = beams_under(plan)
    depth, half = section(model.designs[("roof-1", "rafters")].size).depth, section(size).breadth / 2.0
    flat, steep = sorted((0.5, other))
    quarter = depth * (math.hypot(1.0, steep) * 0.75) + steep * half
    drop = max(depth * math.hypot(1.0, flat), quarter)
    ridge = run.line.start[2] + plan.level(0)
    assert ridge - beam.solid.heights[1] == pytest.approx(drop)
    for edge, pitch in ((k, e.pitch) for k, e in enumerate(plan.edges) if e.kind == "eave"):
        seat, notch = resting(plan, edge, model.designs[("roof-1", "rafters")].size, 2.0 * half)
        assert seat >= 1.5 * INCH - 0.1
        assert notch <= depth / 4.0 + 0.1
        assert seat == pytest.approx(half - max(drop - depth * math.hypot(1.0, pitch), 0.0) / pitch)
    assert not told(model)
    balanced(model)
    others = [x for x in model.pieces.values() if x.role != "wall layer"]
    mine = [x for x in others if x.owner == "roof-1" and x.role in ("rafter", "ridge board", "lookout", "fly rafter")]
    apart(mine, others, 2000.0)
    rows = [r.case for key, r in model.results.items() if "plane-rafter" in key]
    assert min(case.bearing for case in rows) >= 1.5 * INCH - 0.1


def test_a_beam_too_thin_for_both_is_refused():
    with pytest.raises(EditError, match="3 in"):
        rested(ridge_size="2x12")
    assert section("2-2x12").breadth == pytest.approx(3.0 * INCH)
    assert rested(ridge_size="2-2x12")


def test_templates_tell_both_seats():
    """Of 2x10s at 6:12: a bird's mouth 3 1/2 in long, and on a beam 3 1/2 in thick 1 3/4 in with a plumb cut of half that; jacks from the
    valley have the last alone.
    """
    model = derive(rested(winged(overhang=450.0), ridge_size="LVL 2-1.75x11.875"))
    seen = set()
    for one in rafter_templates(model):
        if one.member is None or not one.on_beam:
            continue
        said = " ".join(item.text for item in draw_template(model, one, 16.0).items if isinstance(item, Text))
        assert 'at the head, on the ridge beam: seat 1 3/4", plumb 7/8"' in said, one.mark
        if one.member.role == "common rafter" and one.member.foot.kind == "":
            assert "bird's mouth: seat 3 1/2\"" in said
        seen.add((one.member.role, one.lookouts is not None))
    assert {("common rafter", False), ("common rafter", True), ("valley jack", False)} <= seen


def told(model):
    return [f for f in model.findings if f.code == "ridge seat"]


def test_a_rafter_too_shallow_to_reach_the_beam_is_told():
    """A 2x8 among 2x10s hangs over it: its underside lies 2 in x 1.118 higher, and the beam's seat is cut for 1 3/4 in x 1/2."""
    p = rested(ridge_size="LVL 2-1.75x11.875")
    assert not told(derive(p))
    one = next(m for m in derive(p).planes["roof-1"].members if m.wall == "wall-1" and "+4876" in m.key)
    (found,) = told(derive(set_member(p, one.key, size="2x8")))
    assert found.grave
    assert one.key in found.things
    plan = derive(p).surfaces[0]
    seat, _ = resting(plan, one.member.edges[0], "2x8", 3.5 * INCH)
    assert seat == pytest.approx(1.75 * INCH - 2.0 * INCH * STEEP / 0.5)
    # One deeper is cut deeper: 2 in x 1.118 more plumb.
    _, notch = resting(plan, one.member.edges[0], "2x12", 3.5 * INCH)
    assert notch == pytest.approx(1.75 * INCH * 0.5 / STEEP + 2.0 * INCH)
    assert not told(derive(set_member(p, one.key, size="2x12")))  # 2.78 in: a quarter of 11 1/4 in is 2.81
    (found,) = told(derive(edits.change(set_member(p, one.key, size="2x12"), "roof-1", ridge_size="LVL 4-1.75x16")))
    assert "too deep" in found.what
    assert not found.grave


def test_so_narrow_a_seat_is_told():
    """2x4 at 45 in 12: a quarter of 3 1/2 in, square, is a seat of 0.91 in, less than 1 1/2."""
    p = rested(pitch=3.75, rafters=Choice(size="2x4", spacing=12.0 * INCH), ridge_size="2-2x10")
    (found,) = told(derive(p))
    assert found.grave
    assert "R802.6" in found.why


def test_the_card_says_which_ridges_lie_under_the_rafters():
    session = Session(rested(winged()))
    facts = {p.label: p.value for p in roof_card(session, session.project.roofs[0]).parts if isinstance(p, Fact)}
    beams = {p.length > 40.0 * FOOT: session.model.marks[p.key] for p in of(session.model, "ridge board")}
    assert facts["Under the rafters"] == beams[True]
    assert facts["Between the rafters"].startswith(f"{beams[False]}: ")


def test_what_is_not_sawn_is_listed_as_what_it_is():
    """Veneer lumber has neither the species nor the grade of the rafters; a ridge that carries is a beam."""
    model = derive(rested(hipped(), ridge_size="LVL 2-1.75x11.875"))
    rows = [row for row in cut_list(model) if row.section.startswith("LVL")]
    assert {row.role for row in rows} >= {"ridge board", "hip rafter"}
    assert {row.grade for row in rows} == {"LVL 2.0E"}
    session = Session(model.project)
    for role, called in (("ridge board", "ridge beam"), ("hip rafter", "hip rafter")):
        piece = of(model, role)[0]
        session.select([piece.key])
        shown = card(session, 5)
        assert shown.title == f"{piece.section} {called}"
        assert any(getattr(x, "value", "") == "laminated veneer lumber" for x in shown.parts)
    board = derive(rested(hipped(), ridge_made="board"))
    session = Session(board.project)
    session.select([of(board, "ridge board")[0].key])
    assert card(session, 5).title.endswith("ridge board")
