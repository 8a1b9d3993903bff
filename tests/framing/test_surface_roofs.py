"""Roofs of planes in a project: decks, gable walls, what comes down to which wall; anything that cannot be is said."""

import math
import random

import pytest
import shapely
from hypothesis import given, settings
from hypothesis import strategies as st
from tests.geometry.test_roof_surface import outline as random_outline
from tests.loads.test_beams import balanced

from balken.derive import derive
from balken.geometry.plane import dot, left, unit
from balken.memo import Memo
from balken.model import edits
from balken.model.errors import EditError
from balken.model.records import Foundation, Hang, Roof
from balken.model.roof_edits import set_side, side_of, switch_side
from balken.units.system import FOOT, INCH

L_HOUSE = [(0, 0), (44, 0), (44, 26), (28, 26), (28, 46), (10, 46), (10, 26), (0, 26)]


def roofed(corners=L_HOUSE, overhang=1.5 * FOOT, **fields):
    """Walls along an outline in feet on a foundation, a roof of planes over them."""
    p = edits.new_project("Wing house")
    p = edits.add_level(p, "level-1", 8 * FOOT, "Plate", "plate")
    p = edits.add_level(p, "level-1", -12 * INCH, "Top of foundation", "top of foundation")
    p = edits.add_level(p, "level-1", -5 * FOOT, "Top of footing", "top of footing")
    p = edits.add_level(p, "level-1", -24 * INCH, "Ground", "ground")
    foot, head = Hang(level="level-1"), Hang(level="level-2")
    n = len(corners)
    for i, (x, y) in enumerate(corners):
        u, v = corners[(i + 1) % n]
        p = edits.add_wall(p, (x * FOOT, y * FOOT), (u * FOOT, v * FOOT), "framed-2x6", foot, head, outside="right")
    walls = tuple(w.id for w in p.walls)
    p = edits.add(
        p,
        Foundation(
            id="foundation-1", name="Foundation", walls=walls, foot=Hang(level="level-4"), head=Hang(level="level-3")
        ),
    )
    return edits.add(
        p, Roof(id="roof-1", name="Roof", walls=walls, bearing=head, shape="planes", overhang=overhang, **fields)
    )


def test_a_house_with_a_wing():
    model = derive(roofed())
    (plan,) = model.surfaces
    assert not plan.problem
    decks = model.of_layouts("roof plane")
    assert len(decks) == 8
    slope = sum(f.area for f in plan.whole.faces)
    assert slope == pytest.approx(plan.plan_area * math.hypot(1, 0.5), rel=1e-6)
    assert sum(p.volume for p in decks) == pytest.approx(slope * 0.625 * INCH, rel=1e-6)
    core = shapely.Polygon(plan.outline.core)
    assert plan.plan_area == pytest.approx(core.buffer(1.5 * FOOT, join_style="mitre").area, rel=1e-6)
    balanced(model)
    assert [f.code for f in model.findings if f.stage == "roof"] == ["end of hip"] * 4 + ["untied"]


def test_what_comes_to_each_wall_is_what_lies_above_its_eave():
    """A rectangle 40 x 28 ft: commons bring all of their load to the long walls, jacks half of theirs, the rest comes by the hips."""
    model = derive(roofed([(0, 0), (40, 0), (40, 28), (0, 28)], overhang=0.0))
    came, ends = {}, {}
    for r in model.path.reactions:
        if r.piece == "roof-1/plane":
            came[r.bearer] = came.get(r.bearer, 0.0) + r.force.roof_live
        elif r.piece.startswith("roof-1/plane-hip"):
            ends[r.bearer] = ends.get(r.bearer, 0.0) + r.force.roof_live
    core = shapely.Polygon(model.surfaces[0].outline.core)
    x0, y0, x1, y1 = core.bounds
    long, wide, load = x1 - x0, y1 - y0, model.project.loads.roof_live / 1000.0
    assert came["wall-2"] == pytest.approx(load * wide**2 / 8.0, rel=1e-6)
    assert came["wall-1"] == pytest.approx(load * ((long - wide) * wide / 2.0 + wide**2 / 8.0), rel=1e-6)
    # Nothing holds the hips' heads: all of each comes to its own corner, half to each wall there.
    assert ends == {f"wall-{k}": pytest.approx(load * wide**2 / 8.0, rel=1e-4) for k in (1, 2, 3, 4)}


def test_a_gable_runs_its_wall_up():
    p = set_side(roofed(), "roof-1", "wall-5", kind="gable")
    model = derive(p)
    top = model.gables["wall-5"]
    wide = 18 * FOOT
    assert top.height(top.breaks[0], False) - top.bearing == pytest.approx(wide / 4.0, abs=2.0 * INCH)
    assert model.framed["wall-5"].design.result.case.clear > 8 * FOOT
    assert not [f for f in model.findings if f.code == "gable"]
    balanced(model)


def test_a_gable_under_unlike_pitches_is_run_up_to_both():
    """An 18 ft gable under 12:12 and 6:12: its peak a third of the way, 6 ft up."""
    p = set_side(set_side(roofed(overhang=0.0), "roof-1", "wall-5", kind="gable"), "roof-1", "wall-4", pitch=1.0)
    model = derive(p)
    plan, top = model.surfaces[0], model.gables["wall-5"]
    wide = top.eaves[1] - top.eaves[0]
    assert min(abs(top.breaks[0] - e) for e in top.eaves) == pytest.approx(wide / 3.0, abs=1.0)
    assert not [f for f in model.findings if f.code == "gable"]
    band = model.lines["wall-5"].band
    for along in (0.1 * wide, 0.3 * wide, 0.5 * wide, 0.9 * wide):
        at = band.at(top.eaves[0] + along, model.lines["wall-5"].core[0])
        heights = []
        for face in plan.surface.faces:
            if shapely.Polygon([q[:2] for q in face.ring]).buffer(30.0).covers(shapely.Point(at)):
                (x0, y0, z0), a = face.ring[0], plan.outline.core[face.edge]
                b = plan.outline.core[(face.edge + 1) % len(plan.outline.core)]
                inward = left(unit(a, b))
                heights.append(z0 + face.pitch * dot(inward, (at[0] - x0, at[1] - y0)))
        assert top.height(top.eaves[0] + along, True) == pytest.approx(
            plan.bearing + plan.plate_to_top + min(heights), abs=1.0
        )
    balanced(model)


def test_the_sides_of_a_lean_to_are_run_up():
    p = roofed([(0, 0), (20, 0), (20, 10), (0, 10)], overhang=0.0)
    for wall, kind in (("wall-1", "eave"), ("wall-2", "gable"), ("wall-3", "wall"), ("wall-4", "gable")):
        p = set_side(p, "roof-1", wall, kind=kind)
    model = derive(p)
    for wall in ("wall-2", "wall-4"):
        top, line = model.gables[wall], model.lines[wall]
        assert top.breaks == ()
        assert top.height(top.highest, True) - top.bearing > 4.5 * FOOT
        studs = [s for s in model.framed[wall].wall.sticks if s.role == "stud"]
        longest, shortest = max(s.length for s in studs), min(s.length for s in studs)
        assert longest - shortest > 3.0 * FOOT
        layers = [piece for piece in model.layers[wall] if piece.material]
        assert max(z for piece in layers for _, _, z in piece.solid.corners()) > line.band.top + 4.0 * FOOT
    assert not [f for f in model.findings if f.code == "gable"]
    balanced(model)


def test_edges_of_their_own_are_switched_and_switched_back():
    p = roofed()
    once = switch_side(p, "roof-1", "wall-1")
    assert side_of(once.roofs[0], "wall-1").kind == "gable"
    thrice = switch_side(switch_side(once, "roof-1", "wall-1"), "roof-1", "wall-1")
    assert thrice.roofs == p.roofs
    steep = derive(set_side(p, "roof-1", "wall-1", pitch=1.0, overhang=0.0))
    assert {round(f.pitch, 3) for f in steep.surfaces[0].whole.faces} == {0.5, 1.0}
    balanced(steep)
    with pytest.raises(EditError, match="none of the roof's"):
        set_side(p, "roof-1", "wall-99", kind="gable")
    with pytest.raises(EditError, match="pitch"):
        set_side(p, "roof-1", "wall-1", pitch=0.0)


def test_what_cannot_be_made_is_a_finding_and_nothing_is_lost():
    p = roofed()
    for wall in p.walls:
        p = set_side(p, "roof-1", wall.id, kind="gable")
    model = derive(p)
    assert model.surfaces[0].problem
    assert [f for f in model.findings if f.code == "roof" and "eave" in f.why]
    wide = derive(
        edits.change(
            roofed([(0, 0), (40, 0), (40, 20), (22, 20), (22, 14), (20, 14), (20, 20), (0, 20)]),
            "roof-1",
            overhang=3 * FOOT,
        )
    )
    assert any("overhang" in f.why for f in wide.findings if f.code == "roof")
    balanced(wide)


def test_by_parts_as_from_cold():
    p, memo = roofed(), Memo()
    derive(p, memo)
    for edit in (
        lambda q: set_side(q, "roof-1", "wall-5", kind="gable"),
        lambda q: edits.change(q, "roof-1", pitch=0.75),
        lambda q: edits.move_wall_end(q, "wall-5", "start", (28 * FOOT, 50 * FOOT)),
        lambda q: set_side(q, "roof-1", "wall-2", kind="wall"),
    ):
        p = edit(p)
        assert derive(p, memo).surfaces == derive(p).surfaces


@given(seed=st.integers(0, 10**6), gables=st.floats(0.0, 0.4))
@settings(max_examples=25, deadline=None)
def test_loads_in_are_loads_out(seed, gables):
    rng = random.Random(seed)
    ring = random_outline(rng, rng.randint(1, 3), True)
    if ring is None:
        return
    try:
        p = roofed([(x / FOOT, y / FOOT) for x, y in ring])
    except EditError:
        return
    for wall in p.walls[1:]:
        if rng.random() < gables:
            p = set_side(p, "roof-1", wall.id, kind="gable")
    model = derive(p)
    balanced(model)
    for plan in model.surfaces:
        if not plan.problem:
            assert sum(s[2] for s in plan.shares) == pytest.approx(plan.plan_area, rel=1e-4)


def test_fascias_run_level_where_asked():
    p = set_side(roofed([(0, 0), (40, 0), (40, 28), (0, 28)], overhang=1.5 * FOOT), "roof-1", "wall-2", pitch=1.0)
    uneven = derive(p).surfaces[0]
    level = derive(edits.change(p, "roof-1", level_fascias=True)).surfaces[0]
    low = {round(over * edge.pitch, 6) for edge, over in zip(level.edges, level.overhangs, strict=True)}
    assert low == {round(1.5 * FOOT * 0.5, 6)}
    assert len({round(over * edge.pitch, 6) for edge, over in zip(uneven.edges, uneven.overhangs, strict=True)}) == 2
    heights = [z for face in level.whole.faces for _, _, z in face.ring]
    assert min(heights) == pytest.approx(-1.5 * FOOT * 0.5, abs=1.0)
    eaves = [line for line in level.whole.lines if line.kind == "eave"]
    assert {round(z) for line in eaves for _, _, z in (line.start, line.end)} == {round(-0.75 * FOOT)}
    # An overhang typed for one side stays what it is.
    typed = derive(
        set_side(edits.change(p, "roof-1", level_fascias=True), "roof-1", "wall-2", overhang=600.0)
    ).surfaces[0]
    assert typed.overhangs[1] == 600.0
    balanced(derive(edits.change(p, "roof-1", level_fascias=True)))


def test_rafters_set_out_alike_at_both_ends():
    p = roofed([(0, 0), (41.3, 0), (41.3, 27.7), (0, 27.7)], overhang=0.0)
    model = derive(edits.change(p, "roof-1", set_out="middle"))
    plan, framing = model.surfaces[0], model.planes["roof-1"]
    for edge in range(4):
        a, b = plan.outline.core[edge], plan.outline.core[(edge + 1) % 4]
        way = unit(a, b)
        along = sorted(
            dot(way, (m.member.start[0] - a[0], m.member.start[1] - a[1]))
            for m in framing.members
            if m.wall and m.member.edges[0] == edge
        )
        long = dot(way, (b[0] - a[0], b[1] - a[1]))
        # The shortest jacks may be left out at one end, so gaps are alike but for whole spacings.
        gap = along[0] - (long - along[-1])
        assert gap - 16.0 * INCH * round(gap / (16.0 * INCH)) == pytest.approx(0.0, abs=1.0)
    assert {tie.key for tie in framing.ties}
    assert not framing.untied
    balanced(model)


@pytest.mark.parametrize("snow", ["ground", "roof"])
def test_a_roof_of_a_quarter_in_a_foot_stands_on_its_beam(snow):
    """By hand: 14 ft at 1/4:12 rise 3 1/2 in; everything on it comes down; no flatter one is made, nor any so flat but of planes."""
    p = edits.set_loads(
        roofed([(0, 0), (40, 0), (40, 28), (0, 28)], pitch=0.25 / 12.0, ridge_made="beam"), snow_by=snow
    )
    p = set_side(set_side(p, "roof-1", "wall-2", kind="gable"), "roof-1", "wall-4", kind="gable")
    model = derive(p)
    plan = model.surfaces[0]
    assert plan.surface.top == pytest.approx(3.5 * INCH, abs=0.01)
    assert not [f for f in model.findings if f.code in ("untied", "seat", "roof bearing", "in the air")]
    balanced(model)
    with pytest.raises(EditError, match="between 1/4:12 and 75"):
        edits.change(p, "roof-1", pitch=0.01)
    with pytest.raises(EditError, match="between 1:12 and 75"):
        edits.change(p, "roof-1", pitch=0.03, shape="gable")
