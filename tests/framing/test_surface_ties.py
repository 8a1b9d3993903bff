"""Ceiling ties under roofs of planes: rafters meet in pairs whatever the lengths, each pair has its tie, its pull by statics."""

import math

import pytest
import shapely
from tests.framing.test_surface_framing import overlaps
from tests.framing.test_surface_roofs import roofed
from tests.loads.test_beams import balanced

from balken.derive import derive
from balken.design.heel_joints import heel_joints
from balken.framing.surface_ties import leaning
from balken.geometry.plane import distance
from balken.model import edits
from balken.model.records import Hang
from balken.model.roof_edits import add_roof_opening, set_side
from balken.units.system import FOOT, INCH, POUND_FORCE

ODD = [(0, 0), (41.45, 0), (41.45, 27.3), (0, 27.3)]


def test_rafters_meet_at_the_ridge_and_each_pair_has_a_tie():
    model = derive(roofed(ODD, overhang=0.0))
    plan, framing = model.surfaces[0], model.planes["roof-1"]
    lean = leaning(plan, framing.members)
    assert lean.untied == ()
    commons = [m for m in framing.members if m.member.role == "common rafter" and m.member.head.kind == "ridge"]
    assert 2 * len(lean.pairs) == len(commons)
    for one, other in lean.pairs:
        assert distance(one.member.end[:2], other.member.end[:2]) < 1.5 * INCH  # IRC R802.3
    assert len(framing.ties) == len(lean.pairs)
    ties = model.of_layouts("ceiling tie")
    assert {piece.key for piece in ties} == {tie.key for tie in framing.ties}
    wide = shapely.Polygon(plan.outline.core).bounds[3]
    assert all(piece.length == pytest.approx(wide, abs=30.0) for piece in ties)
    # No tie stands in a rafter, none out of the roof.
    shapes = [shapely.Polygon(p.solid.plan[0]).buffer(-0.5) for p in (*ties, *model.of_layouts("rafter"))]
    tree = shapely.STRtree(shapes)
    for i, j in tree.query(shapes, predicate="intersects").T.tolist():
        assert not (i < len(ties) <= j) or shapes[i].intersection(shapes[j]).area < 100.0
    assert overlaps(model) == []
    balanced(model)


def test_the_pull_of_a_tie_by_hand():
    """Three hinges: H = W (r / 2) / h, with W the load of one rafter, r its run, h its rise; no overhang."""
    p = roofed(ODD, overhang=0.0)
    model = derive(p)
    framing, plan = model.planes["roof-1"], model.surfaces[0]
    tie = framing.ties[0]
    half = (shapely.Polygon(plan.outline.core).bounds[3] - shapely.Polygon(plan.outline.core).bounds[1]) / 2.0
    load = p.loads.ground_snow * half * tie.line.width / 1000.0
    pulled = framing.results[tie.key].case.tension
    assert pulled.snow == pytest.approx(load * (half / 2.0) / (half * 0.5), rel=1e-3)
    assert framing.results[tie.key].case.line.dead == pytest.approx(
        p.loads.ceiling_dead * tie.line.width / 1000.0, rel=1e-6
    )


def test_an_inside_wall_carries_ties_and_their_ceiling():
    p = roofed(ODD, overhang=0.0)
    core = derive(p).surfaces[0].outline.core
    (x0, y0), (x1, _) = core[0], core[1]
    middle = y0 + 12.0 * FOOT
    p = edits.add_wall(
        p, (x0, middle), (x1, middle), p.walls[0].buildup, p.walls[0].foot, Hang(level="level-2"), role="bearing"
    )
    model = derive(p)
    framing = model.planes["roof-1"]
    inner = p.walls[-1].id
    assert len(framing.ties) == 2 * len(leaning(model.surfaces[0], framing.members).pairs)
    ceiling = p.loads.ceiling_dead / 1000.0
    on_it = sum(r.force.dead for r in model.path.reactions if r.bearer == inner)
    both = sum(tie.line.high - tie.line.low for tie in framing.ties) * framing.ties[0].line.width
    assert on_it == pytest.approx(both / 2.0 * ceiling, rel=0.05)
    balanced(model)


def test_ridge_beams_need_no_ties():
    p = edits.change(roofed(ODD), "roof-1", ridge_made="beam")
    model = derive(p)
    assert model.planes["roof-1"].ties == ()
    assert not model.of_layouts("ceiling tie")
    assert not [f for f in model.findings if f.code == "untied"]


def test_over_a_gable_the_plates_hold_the_last_pair():
    p = set_side(roofed(ODD), "roof-1", "wall-2", kind="gable")
    model = derive(p)
    lean = leaning(model.surfaces[0], model.planes["roof-1"].members)
    assert len(lean.over_gables) == 2
    assert lean.untied == ()
    balanced(model)


def test_a_valley_leaves_pairs_untied_and_that_is_said():
    model = derive(roofed())
    (found,) = [f for f in model.findings if f.code == "untied"]
    assert found.fix is not None
    named = len(found.things) - 1
    assert f"{named} rafters push outward" in found.what


def test_heel_joints_by_hand():
    """NDS Table 12N: 141 lb a 16d common nail in Douglas fir; through two boards of 1 1/2 in only 1.5/1.62 of that (note 3)."""
    p = roofed(ODD, overhang=0.0)
    model = derive(p)
    roof, framing = model.project.roofs[0], model.planes["roof-1"]
    ((where, nails),) = heel_joints(
        roof, model.designs[("roof-1", "rafters")], model.designs[("roof-1", "ties")], framing, model.standard
    )
    assert where == ""
    assert nails.value / POUND_FORCE == pytest.approx(141.0 * 1.5 / 1.62, rel=0.01)
    pulled = framing.results[framing.ties[0].key].case.tension
    push = (pulled.dead + pulled.snow) / 1.15  # snow governs, and its duration
    assert nails.force == pytest.approx(push, rel=1e-6)
    assert nails.number == math.ceil(push / nails.value)
    assert nails.fits


def test_heel_joints_beside_openings_take_what_cut_rafters_push():
    p = add_roof_opening(roofed(ODD, overhang=0.0), "roof-1", "wall-1", 20.0 * FOOT, 4.0 * FOOT)
    model = derive(p)
    rows = dict(
        heel_joints(
            p.roofs[0], model.designs[("roof-1", "rafters")], model.designs[("roof-1", "ties")], model.planes["roof-1"],
            model.standard,
        )
    )  # fmt: skip
    assert rows["at doubled rafters"].number > rows[""].number


def test_flat_roofs_push_too_hard_for_nails():
    p = edits.set_loads(edits.change(roofed(ODD), "roof-1", pitch=0.12), ground_snow=3.5)
    assert [f for f in derive(p).findings if f.code == "heel joint"]


def test_under_flat_roofs_ridges_are_beams():
    flat = derive(edits.change(roofed(ODD), "roof-1", pitch=0.2))
    (found,) = [f for f in flat.findings if f.code == "ridge board"]
    mended = derive(edits.change(flat.project, *found.fix.args, **dict(found.fix.fields)))
    assert not [f for f in mended.findings if f.code == "ridge board"]


def test_a_ridge_board_typed_too_shallow_is_named():
    p = edits.change(roofed(ODD), "roof-1", ridge_size="2x6")
    (found,) = [f for f in derive(p).findings if f.code == "ridge depth"]
    mended = derive(edits.change(p, *found.fix.args, **dict(found.fix.fields)))
    assert not [f for f in mended.findings if f.code == "ridge depth"]


def test_neighbours_at_other_spacings_are_used_otherwise():
    model = derive(roofed(ODD, overhang=0.0))
    ties, apart = model.designs[("roof-1", "ties")], model.designs[("roof-1", "rafters")].spacing
    same = [n for n in ties.neighbours if n.size == ties.size]
    assert same
    for n in same:
        assert (n.used < ties.result.used) == (n.spacing < apart)
