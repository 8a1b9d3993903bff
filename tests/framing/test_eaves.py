"""Eaves: fascias mitred round a roof, tails cut square or level, blocks between rafters; by hand, shapely and manifold3d."""

import math

import pytest
import shapely
from hypothesis import Phase, given, settings
from hypothesis import strategies as st
from msgspec.structs import replace
from tests.framing.solids import apart
from tests.framing.test_gablets import hipped, with_gablet
from tests.framing.test_joined_roofs import joined
from tests.framing.test_surface_roofs import L_HOUSE, roofed
from tests.loads.test_beams import balanced

from balken.catalog.sections import section
from balken.derive import derive
from balken.findings.eave_rules import nominal_ratio
from balken.findings.fixes import FIXES
from balken.model import edits
from balken.model.errors import EditError
from balken.model.records import Choice
from balken.model.roof_edits import add_dormer, set_side
from balken.units.system import FOOT, INCH


def of(model, role):
    return [p for p in model.pieces.values() if p.role == role]


def closed(p=None, **fields):
    return edits.change(p or hipped(), "roof-1", **{"fascia": "2x6", "eave_blocks": True, **fields})


LEVEL = edits.change(set_side(hipped(overhang=600.0), "roof-1", "wall-2", pitch=1.0), "roof-1", level_fascias=True)


def outline(pieces):
    return shapely.union_all([shapely.Polygon(ring).buffer(1e-3) for p in pieces for ring in p.solid.plan])


@pytest.mark.parametrize("made", [hipped(), roofed(L_HOUSE), LEVEL])
def test_fascias_run_all_round_outside_the_deck(made):
    """In plan they fill what lies within 1 1/2 in outside the deck, mitred: by shapely."""
    model = derive(closed(made))
    ring = shapely.Polygon(model.surfaces[0].ring)
    around = ring.buffer(1.5 * INCH, join_style="mitre").difference(ring)
    found = outline(of(model, "fascia"))
    assert found.symmetric_difference(around).area < 2e-3 * around.area


def test_a_fascia_is_as_high_as_the_deck_before_it_by_hand():
    """On 6:12 with a foot of overhang its top lies 6 3/4 in under the deck's underside over the wall's face."""
    model = derive(closed(overhang=12.0 * INCH))
    plan = model.surfaces[0]
    boards = of(model, "fascia")
    for board in boards:
        assert board.solid.heights[1] == pytest.approx(plan.bearing + plan.plate_to_top - 0.5 * 13.5 * INCH)
        assert board.solid.heights[1] - board.solid.heights[0] == pytest.approx(5.5 * INCH)
    # 40 and 28 ft, two overhangs and two thicknesses longer at each corner's outside.
    round_it = 2.0 * (40.0 + 28.0) * FOOT + 4.0 * 2.0 * (12.0 + 1.5) * INCH
    assert sum(b.length for b in boards) == pytest.approx(round_it)
    assert max(b.length for b in boards) <= 16.0 * FOOT + 1.0


def test_between_gables_it_ends_over_the_fly_rafters_faces():
    p = hipped()
    for wall in ("wall-2", "wall-4"):
        p = set_side(p, "roof-1", wall, kind="gable")
    model = derive(closed(p, overhang=12.0 * INCH))
    assert sum(b.length for b in of(model, "fascia")) == pytest.approx(2.0 * 42.0 * FOOT)
    assert not derive(closed(p, fascia=None)).of_layouts("fascia")


def tails(model):
    plan = model.surfaces[0]
    return plan, [(one, model.piece(one.key)) for one in model.planes["roof-1"].members if one.member.over > 0.0]


def test_level_tails_end_at_one_height_all_round_by_hand():
    """Overhang 20 in on 6:12, 5 1/2 in of the plumb cut left: 15 1/2 in under the deck's underside over the wall."""
    model = derive(closed(overhang=20.0 * INCH, tails="level"))
    plan, rows = tails(model)
    level = plan.bearing + plan.plate_to_top - 0.5 * 20.0 * INCH - 5.5 * INCH
    assert len(rows) > 60
    for one, piece in rows:
        assert piece.solid.heights[0] == pytest.approx(level, abs=0.01), one.key
    common = next(p for one, p in rows if one.member.role == "common rafter")
    # Its board: from the ridge's face to the tail along the slope, and what of the plumb cut stands out before the end of its top edge.
    run = 14.0 * FOOT - 0.75 * INCH + 20.0 * INCH
    assert common.length == pytest.approx(run * math.hypot(1.0, 0.5) + 5.5 * INCH * 0.5 / math.hypot(1.0, 0.5), abs=0.5)


def test_square_tails_by_hand():
    """Cut square, the lower corner of a 2x10 lies 9 1/4 in from the end of its top edge, and the board is no longer than that edge."""
    model, plumb = derive(closed(overhang=20.0 * INCH, tails="square")), derive(closed(overhang=20.0 * INCH))
    plan, rows = tails(model)
    slope = math.atan(0.5)
    for one, piece in rows:
        m = one.member
        if m.role not in ("common rafter", "hip jack"):
            continue
        top = plan.bearing + plan.plate_to_top - 0.5 * 20.0 * INCH
        assert piece.solid.heights[0] == pytest.approx(top - section(piece.section).depth * math.cos(slope), abs=0.01)
        was = plumb.piece(one.key)
        assert was.length - piece.length == pytest.approx(section(piece.section).depth * 0.5, abs=0.01)
        wedge = section(piece.section).depth ** 2 * 0.5 / 2.0 * section(piece.section).breadth
        assert was.volume - piece.volume == pytest.approx(wedge, rel=1e-6)


def test_tails_cut_back_by_hand():
    """Overhang 20 in on 6:12 of 2x10s, 3 1/2 in of the plumb cut left: a triangle is gone from the wall out, and the top edge stays."""
    model, plumb = (
        derive(closed(overhang=20.0 * INCH, tails=cut, tail_plumb=3.5 * INCH)) for cut in ("cut back", "plumb")
    )
    plan, rows = tails(model)
    end = plan.bearing + plan.plate_to_top - 0.5 * 20.0 * INCH - 3.5 * INCH
    kinds = set()
    for one, piece in rows:
        m = one.member
        kinds.add(m.role)
        if m.role == "hip":
            assert piece.solid.volume < plumb.piece(one.key).solid.volume
            continue
        if m.role not in ("common rafter", "hip jack"):
            continue
        lumber, steep = section(piece.section), math.hypot(1.0, 0.5)
        deep = lumber.depth * steep
        low = plan.bearing + plan.plate_to_top - deep
        assert piece.solid.heights[0] == pytest.approx(min(end, low), abs=0.01)
        was = plumb.piece(one.key)
        gone = lumber.breadth * 20.0 * INCH * (deep - 3.5 * INCH) / 2.0
        assert was.volume - piece.volume == pytest.approx(gone, rel=1e-6)
        assert was.length - piece.length == pytest.approx((deep - 3.5 * INCH) * 0.5 / steep, abs=0.01)
    assert {"common rafter", "hip", "hip jack"} <= kinds
    # Where it leaves the wall, and anywhere farther out, what is left bends no harder than the whole tail does at the wall.
    d0, d1 = section("2x10").depth * math.hypot(1.0, 0.5), 3.5 * INCH
    for part in (0.0, 0.2, 0.5, 0.8, 0.95):
        depth = d0 + (d1 - d0) * part
        assert (1.0 - part) ** 2 / depth**2 <= 1.0 / d0**2 + 1e-12
    # As deep as it is: nothing to cut back.
    assert [
        p.volume for _, p in tails(derive(closed(overhang=20.0 * INCH, tails="cut back", tail_plumb=20.0 * INCH)))[1]
    ] == pytest.approx([p.volume for _, p in tails(plumb)[1]])


def test_plumb_tails_are_as_they_were_and_nothing_else_follows_from_the_cut():
    one, other = derive(closed(tails="plumb")), derive(closed(tails="level"))
    assert {k: r.used for k, r in one.results.items()} == {k: r.used for k, r in other.results.items()}
    # Where a cut would lie above the plates it ends there: overhang 1 in, next to nothing of the plumb cut left.
    short = derive(closed(overhang=1.0 * INCH, tails="level", tail_plumb=1.5 * INCH))
    plan, rows = tails(short)
    assert max(p.solid.heights[0] for _, p in rows) <= plan.bearing + 0.01
    stub = derive(closed(overhang=1.0 * INCH, tails="square"))
    assert [p.volume for _, p in tails(stub)[1]] == pytest.approx(
        [p.volume for _, p in tails(derive(closed(overhang=1.0 * INCH)))[1]]
    )


def test_blocks_stand_in_every_bay_by_hand():
    """Between end rafters of two gables 40 ft apart at 16 in: as many bays as rafters less one; a 2x8 under the deck of 2x10s of 6:12."""
    p = hipped()
    for wall in ("wall-2", "wall-4"):
        p = set_side(p, "roof-1", wall, kind="gable")
    model = derive(closed(p, ridge_made="beam"))
    plan, blocks = model.surfaces[0], of(model, "eave block")
    rafters = [one for one in model.planes["roof-1"].members if one.wall]
    assert len(blocks) == len(rafters) - 2
    assert {b.section for b in blocks} == {"2x8"}
    assert plan.plate_to_top > 7.25 * INCH
    assert max(b.length for b in blocks) == pytest.approx(14.5 * INCH)
    assert {round(z, 3) for b in blocks for z in b.solid.heights} == {
        round(plan.bearing, 3),
        round(plan.bearing + 7.25 * INCH, 3),
    }


def gabled():
    p = hipped()
    for wall in ("wall-2", "wall-4"):
        p = set_side(p, "roof-1", wall, kind="gable")
    return p


@pytest.mark.parametrize("made", [gabled(), set_side(roofed(L_HOUSE), "roof-1", "wall-2", kind="gable")])
def test_boards_along_rakes_and_eaves_close_the_roof_all_round(made):
    """A 2x6 with a 1x8 before it: in plan they fill what lies within 2 1/4 in outside the deck, corners and all, and overlap nowhere."""
    model = derive(closed(made, overhang=12.0 * INCH, face_board="1x8", rake_boards=True))
    plan = model.surfaces[0]
    ring = shapely.Polygon(plan.ring)
    around = ring.buffer(2.25 * INCH, join_style="mitre").difference(ring)
    boards = [*of(model, "fascia"), *of(model, "rake board")]
    assert outline(boards).symmetric_difference(around).area < 2e-3 * around.area
    assert sum(shapely.Polygon(r).area for b in boards for r in b.solid.plan) == pytest.approx(around.area, rel=1e-6)
    rakes = of(model, "rake board")
    assert {b.section for b in rakes} == {"2x6", "1x8"}
    for board in rakes:
        x, y, z = board.end
        edge = next(f.edge for f in plan.whole.faces if plan.outline.walls[f.edge] in board.key)
        core = plan.outline.core
        a, b = core[edge], core[(edge + 1) % len(core)]
        long = math.dist(a, b)
        inward = (a[1] - b[1]) / long * (x - a[0]) + (b[0] - a[0]) / long * (y - a[1])
        assert z == pytest.approx(
            plan.level(edge) + inward * plan.edges[edge].pitch, abs=0.01
        )  # along the deck's underside
    assert not derive(closed(made, overhang=0.0, rake_boards=True)).of_layouts("rake board")


def test_a_rake_board_is_as_long_as_it_runs_by_hand():
    """28 ft wide, 12 in over, 6:12: 14 ft + 12 in + 1 1/2 in of the fascia it covers, on the slope, and its plumb cuts."""
    boards = of(derive(closed(gabled(), overhang=12.0 * INCH, rake_boards=True)), "rake board")
    ends = {}
    for b in boards:
        ends.setdefault((round(b.start[0]), "wall-1" in b.key), []).append(b)
    assert len(ends) == 4
    slope = (15.0 * 12.0 + 1.5) * INCH * math.hypot(1.0, 0.5)
    for row in ends.values():
        assert sum(math.dist(b.start, b.end) for b in row) == pytest.approx(slope)
        for b in row:
            assert b.length == pytest.approx(math.dist(b.start, b.end) + 5.5 * INCH * 0.5)
            assert b.length <= 16.0 * FOOT + 4.0 * INCH


def test_blocks_square_to_the_rafters_by_hand():
    """On 6:12 under 2x10s: what is left over the plates is 9 1/4 x 1.118 - 1.75 = 8.59 in plumb, 7.68 square to the slope: a 2x8.  It
    stands on the outer edge of the plate and leans out by 7 1/4 x 0.447 = 3.24 in; its upper edge lies 0.43 in under the deck, square.
    """
    p = closed(gabled(), overhang=12.0 * INCH, ridge_made="beam", blocks_square=True)
    p = edits.change(p, "roof-1", rafters=Choice(size="2x10", spacing=16.0 * INCH))
    model = derive(p)
    plan, blocks = model.surfaces[0], of(model, "eave block")
    upright = of(derive(edits.change(p, "roof-1", blocks_square=False)), "eave block")
    assert len(blocks) == len(upright) > 50
    assert {b.section for b in blocks} == {"2x8"}
    for b in blocks:
        assert b.solid.heights[0] == pytest.approx(plan.bearing)
        assert b.solid.heights[1] == pytest.approx(plan.bearing + (7.25 + 1.5 * 0.5) * INCH / math.hypot(1.0, 0.5))
        ys = sorted(y for _, y, _ in b.solid.corners())
        y0, y1 = (min(y for _, y in plan.outline.core), max(y for _, y in plan.outline.core))
        out = max(y0 - ys[0], ys[-1] - y1)
        assert out == pytest.approx(7.25 * INCH * 0.5 / math.hypot(1.0, 0.5))
        assert b.volume == pytest.approx(b.length * 1.5 * 7.25 * INCH**2)
    # Without an overhang to lean into there is none, and what depends on them is told.
    assert not of(derive(edits.change(p, "roof-1", overhang=0.0)), "eave block")


overs = st.sampled_from([0.0, 6.0, 18.0]).map(lambda v: v * INCH)


@given(
    st.sampled_from(["hip", "L", "skew", "half-hip", "gable"]), st.sampled_from(["plumb", "square", "level", "cut back"]), overs,
    st.sampled_from([0.3, 0.5, 1.0]), st.sampled_from(["board", "beam"]), st.sampled_from(["2x4", "2x8"]), st.booleans(),
)  # fmt: skip
@settings(max_examples=12, deadline=None, phases=(Phase.explicit, Phase.reuse, Phase.generate))
def test_nothing_at_eaves_stands_in_anything(shape, cut, over, pitch, ridge, board, more):
    p = (
        roofed(L_HOUSE)
        if shape == "L"
        else roofed([(0, 0), (40, 3), (38, 30), (-4, 25)])
        if shape == "skew"
        else hipped()
    )
    if shape == "skew":  # there plates end square a little outside the corner
        over = max(over, 6.0 * INCH)
    if shape == "half-hip":
        p = set_side(p, "roof-1", "wall-2", raised=2.0 * FOOT)
    if shape == "gable":
        p = set_side(p, "roof-1", "wall-2", kind="gable")
    extra = {"face_board": "1x6", "rake_boards": True, "blocks_square": True} if more else {}
    model = derive(closed(p, overhang=over, pitch=pitch, tails=cut, ridge_made=ridge, fascia=board, **extra))
    balanced(model)
    others = [p for p in model.pieces.values() if p.role != "wall layer"]
    roles = {"fascia", "rake board", "eave block", "hip rafter", "valley rafter", "fly rafter"}
    if shape != "skew":
        roles.add("rafter")
    apart([p for p in others if p.role in roles], others, 1000.0)


def test_tails_of_hips_and_corner_girders_stay_within_both_eaves():
    for framed in ("rafters", "trusses"):
        model = derive(closed(framed=framed, overhang=18.0 * INCH))
        ring = shapely.Polygon(model.surfaces[0].ring).buffer(0.5, join_style="mitre")
        for piece in model.pieces.values():
            if piece.owner == "roof-1" and piece.role not in ("fascia", "roof plane"):
                for plan in piece.solid.plan:
                    assert ring.covers(shapely.Polygon(plan)), piece.key


def chords(cut):
    """The top chords of the hipped roof under trusses that run on over a wall, by their names, and the roof's plan."""
    made = derive(closed(framed="trusses", overhang=18.0 * INCH, tails=cut, tail_plumb=3.0 * INCH))
    plan = made.surfaces[0]
    core = shapely.Polygon(plan.outline.core)
    rows = [p for p in of(made, "truss top chord") if shapely.Polygon(p.solid.plan[0]).difference(core).area > 1e3]
    makes = [place.make for place in made.trusses["roof-1"].places]
    return plan, {(makes[int(p.key.split("/")[2])], p.key): p for p in rows}


def test_tails_of_trusses_are_cut_as_those_of_rafters():
    """Level: all end 9 + 3 in under the deck's underside over the wall, jacks and corner girders too; square: each common chord is shorter
    by its depth x tan, and its lower corner lies square under the tip.
    """
    _, plumb = chords("plumb")
    plan, level = chords("level")
    _, square = chords("square")
    assert len(plumb) == len(level) == len(square) > 50
    low = plan.bearing + plan.plate_to_top - 12.0 * INCH
    assert {round(p.solid.heights[0] - low, 3) for p in level.values()} == {0.0}
    commons = 0
    for key, was in plumb.items():
        assert level[key].volume < was.volume
        if key[0] == "corner":
            assert square[key].volume == pytest.approx(was.volume)
            continue
        commons += 1
        depth = section(was.section).depth
        assert was.length - square[key].length == pytest.approx(depth * 0.5, abs=0.02)
        gone = depth**2 * 0.5 / 2.0 * was.solid.depth
        assert was.volume - square[key].volume == pytest.approx(gone, rel=1e-3)
        tip = plan.bearing + plan.plate_to_top - 9.0 * INCH
        assert square[key].solid.heights[0] == pytest.approx(tip - depth / math.hypot(1.0, 0.5), abs=0.05)
    assert commons > 40


def test_rafters_that_may_turn_over_are_told():
    """IRC R802.8: 2x12 is 6 to 1; with a 2x tie beside it 3 to 1; of two plies 3 to 1; 2x10 is 5 to 1, which is not more than 5."""
    assert [nominal_ratio(*x) for x in (("2x12",), ("2x12", "2x6"), ("2-2x12",), ("2x10",))] == [6.0, 3.0, 3.0, 5.0]
    deep = Choice(size="2x12", spacing=24.0 * INCH)
    model = derive(edits.change(hipped(), "roof-1", rafters=deep, ridge_made="beam"))
    (told,) = (f for f in model.findings if f.code == "turning")
    assert "R802.8" in told.why
    mended = FIXES[told.fix.command](model.project, *told.fix.args, **dict(told.fix.fields))
    assert not [f for f in derive(mended).findings if f.code == "turning"]
    # Under a ridge board commons are tied; jacks of the hips, without ties, are not.
    board = derive(edits.change(hipped(), "roof-1", rafters=deep))
    (told,) = (f for f in board.findings if f.code == "turning")
    assert int(told.what.split(": ")[1].split()[0]) < len([x for x in board.planes["roof-1"].members if x.wall])
    assert not [f for f in derive(hipped(ridge_made="beam")).findings if f.code == "turning"]


def test_bad_input_is_refused_in_words():
    bare = {"fascia": None}
    for fields, told in (
        ({"face_board": "1x6"} | bare, "behind it"),
        ({"rake_boards": True} | bare, "along rakes"),
        ({"fascia": "3x7"}, "lumber size"),
        ({"tail_plumb": 10.0}, "plumb cut"),
    ):
        with pytest.raises(EditError, match=told):
            closed(**fields)


@pytest.mark.parametrize("cut", ["square", "level"])
def test_end_rafters_notched_for_lookouts_keep_the_cut_of_their_tails(cut):
    p = hipped(overhang=20.0 * INCH, fascia="2x6")
    for wall in ("wall-2", "wall-4"):
        p = set_side(p, "roof-1", wall, kind="gable")
    model, plumb = derive(edits.change(p, "roof-1", tails=cut)), derive(p)
    (row, *_) = model.planes["roof-1"].lookouts.rows
    key = row.row.rafters[0]
    common = next(
        k
        for k, x in plumb.pieces.items()
        if x.role == "rafter" and k not in {r for y in plumb.planes["roof-1"].lookouts.rows for r in y.row.rafters}
    )
    gone = [plumb.pieces[k].volume - model.pieces[k].volume for k in (key, common)]
    assert gone[0] == pytest.approx(gone[1], rel=1e-3)
    assert gone[0] > 1e4


EVERYTHING = {"face_board": "1x6", "rake_boards": True, "blocks_square": True, "jacks": "pairs", "hips": "backed"}


@pytest.mark.parametrize("more", [{}, {**EVERYTHING, "ridge_made": "under"}])
def test_beside_another_roof_a_fascia_ends_before_that_ones(more):
    """A wing that runs on over the main roof: both with fascias, tails and blocks, its own run through."""
    p = joined()
    for roof in ("roof-1", "roof-2"):
        p = edits.change(p, roof, fascia="2x6", eave_blocks=True, tails="level", overhang=18.0 * INCH, **more)
    model = derive(p)
    balanced(model)
    others = [p for p in model.pieces.values() if p.role != "wall layer"]
    apart([p for p in others if p.role in ("fascia", "rake board", "eave block")], others, 1000.0)
    assert of(model, "eave block")


def test_under_a_gablet_on_a_backed_hip_nothing_stands_in_anything():
    model = derive(with_gablet(closed(overhang=18.0 * INCH, tails="level", **EVERYTHING)))
    balanced(model)
    others = [p for p in model.pieces.values() if p.role != "wall layer"]
    apart([p for p in others if p.role in ("rafter", "hip rafter", "fascia", "eave block")], others, 1500.0)


def test_boards_close_edges_and_carry_nothing():
    """Boards of 1 in have no design values (NDS Supplement Table 4A is of lumber 2 to 4 in thick): only fascias and ridge boards are."""
    p = edits.change(hipped(), "roof-1", ridge_size="1x12", fascia="1x8")
    trusses = p.roofs[0].trusses
    for fields in (
        {"ridge_made": "beam"}, {"ridge_size": None, "purlins_at": 6.0 * FOOT, "purlin_size": "1x8"},
        {"framed": "trusses", "trusses": replace(trusses, webs="1x6")}, {"rafters": Choice(size="1x8")},
    ):  # fmt: skip
        with pytest.raises(EditError, match=r"board and carries nothing|not a size"):
            edits.change(p, "roof-1", **fields)
    p = edits.add_opening(p, "wall-1", "window", 3000.0, 900.0, 1200.0, 900.0)
    for size in ("1x8", "2-1x8"):
        with pytest.raises(EditError, match="board and carries nothing"):
            edits.change(p, p.openings[-1].id, header=size)


def reach(piece):
    """How long a board is, by the corners of its solid along it."""
    way = [b - a for a, b in zip(piece.start, piece.end, strict=True)]
    size = math.hypot(*way)
    rows = [sum(c * w for c, w in zip(corner, way, strict=True)) / size for corner in piece.solid.corners()]
    return max(rows) - min(rows)


@pytest.mark.parametrize("cut", ["square", "level"])
def test_boards_are_as_long_as_their_solids(cut):
    """Rafters and fly rafters to the mm; of hips, whose ends are cheeks, what the cut takes off is the same by solid and by list."""
    p = set_side(hipped(overhang=20.0 * INCH), "roof-1", "wall-4", kind="gable")
    model, plumb = derive(edits.change(p, "roof-1", tails=cut)), derive(p)
    for key, piece in model.pieces.items():
        if piece.role == "fly rafter" or (piece.role == "rafter" and piece.wall in ("wall-1", "wall-3")):
            member = next((x.member for x in model.planes["roof-1"].members if x.key == key), None)
            if member is None or member.role == "common rafter":
                assert piece.length == pytest.approx(reach(piece), abs=1.0), key
        if piece.role in ("hip rafter", "rafter", "fly rafter"):
            was = plumb.pieces[key]
            assert was.length - piece.length == pytest.approx(reach(was) - reach(piece), abs=0.5), key


def test_where_no_block_finds_room_rafters_are_told_all_the_same():
    """Blocks are asked for, but rafters stand 32 in apart, where none is set: nothing holds them (R802.8)."""
    deep = Choice(size="2x12", spacing=32.0 * INCH)
    model = derive(edits.change(hipped(), "roof-1", rafters=deep, ridge_made="beam", eave_blocks=True))
    (told,) = (f for f in model.findings if f.code == "turning")
    assert told.fix is None
    assert "shallower" in told.why
    near = derive(edits.change(model.project, "roof-1", rafters=Choice(size="2x12", spacing=24.0 * INCH)))
    assert not [f for f in near.findings if f.code == "turning"]


def test_deep_rafters_of_a_dormer_are_told():
    p = add_dormer(hipped(), "roof-1", "wall-1", 20.0 * FOOT, 3.0 * FOOT, shape="lean-to", pitch=0.2, height=2.0 * FOOT,
                   window_width=0.0, rafters=Choice(size="2x12"))  # fmt: skip
    model = derive(p)
    assert model.dormers["dormer-1"].framing is not None
    told = [f for f in model.findings if f.code == "turning" and "dormer-1" in f.things]
    assert len(told) == 1
    assert told[0].fix is None
