"""Where rafters stand: full ones at the tops of hips, jacks in pairs and staggered, least gaps, from either corner."""

import itertools
import math
import random

import pytest
from hypothesis import Phase, example, given, settings
from hypothesis import strategies as st
from tests.framing.solids import apart
from tests.framing.test_surface_framing import RECTANGLE, in_their_planes, overlaps
from tests.framing.test_surface_roofs import roofed
from tests.geometry.test_roof_surface import outline as random_outline
from tests.loads.test_beams import balanced

from balken.catalog.sections import section
from balken.derive import derive
from balken.framing.rafter_stations import RafterSpacing, stations
from balken.geometry.plane import area, distance, dot, sub, unit
from balken.geometry.roof_edges import RoofEdge, RoofError
from balken.geometry.roof_surface import roof_surface
from balken.model import edits
from balken.model.errors import EditError
from balken.model.roof_edits import set_side
from balken.units.system import FOOT, INCH

SPACED = 16.0 * INCH


def along_each(model):
    """How far along each edge of the first roof its rafters stand."""
    plan = model.surfaces[0]
    core, found = plan.outline.core, {}
    for one in model.planes["roof-1"].members:
        if one.wall:
            k = one.member.edges[0]
            way = unit(core[k], core[(k + 1) % len(core)])
            found.setdefault(k, []).append(dot(way, sub(one.member.start[:2], core[k])))
    return {k: sorted(row) for k, row in found.items()}


def heads_on(model, line):
    """How far down a hip or valley of the first roof, in plan from its top, the middles of jacks meet it: by their edges."""
    low, high = sorted((line.start, line.end), key=lambda p: p[2])
    way, found = unit(high[:2], low[:2]), {}
    for one in model.planes["roof-1"].members:
        if one.wall and one.member.edges[0] in line.edges:
            for p in one.member.ends:
                far = dot(way, sub(p, high[:2]))
                if abs(distance(p, high[:2]) - far) < 0.1 and 1.0 < far < distance(low[:2], high[:2]) - 1.0:
                    found.setdefault(one.member.edges[0], []).append(far)
    return {k: sorted(row) for k, row in found.items()}


def hips(model, kind="hip"):
    return [line for line in model.surfaces[0].surface.lines if line.kind == kind]


def test_a_common_rafter_stands_on_each_plane_where_hips_meet_the_ridge():
    p = edits.change(roofed(RECTANGLE, overhang=0.0), "roof-1", full_rafters=True)
    model = derive(p)
    tops = {max(line.start, line.end, key=lambda q: q[2])[:2] for line in hips(model)}
    assert len(tops) == 2
    commons = [m.member for m in model.planes["roof-1"].members if m.member.role == "common rafter"]
    for top in tops:
        there = {m.edges[0] for m in commons if min(distance(top, q) for q in m.ends) < 0.1}
        assert len(there) == 3  # from both sides and from the hip end
    assert overlaps(model) == []
    in_their_planes(model)
    balanced(model)


@pytest.mark.parametrize("pitch", [0.5, 0.9])
def test_the_one_in_the_middle_of_a_hip_end_is_pointed_between_both_hips(pitch):
    """Its long point lies where the faces of both hips meet: of hips square to one another half their thickness / sin 45 before
    their middles; in general as its solid has it.
    """
    p = edits.change(roofed(RECTANGLE, overhang=0.0), "roof-1", full_rafters=True)
    model = derive(set_side(p, "roof-1", "wall-2", pitch=pitch))
    (top,) = {max(line.start, line.end, key=lambda q: q[2])[:2] for line in hips(model) if 1 in line.edges}
    (one,) = [m for m in model.planes["roof-1"].members if m.wall == "wall-2" and distance(m.member.end[:2], top) < 0.1]
    m = one.member
    assert m.role == "common rafter"
    if pitch == 0.5:
        hip = next(x for x in model.planes["roof-1"].members if x.member.role == "hip" and 1 in x.member.edges)
        thick = section(model.piece(hip.key).section).breadth
        assert m.head.point == pytest.approx(thick / 2.0 * math.sqrt(2.0))
    way = unit(*m.ends)
    far = max(dot(way, sub(q[:2], m.start[:2])) for q in model.piece(one.key).solid.corners())
    assert m.length == pytest.approx(far * math.hypot(1.0, pitch), abs=0.01)


@pytest.mark.parametrize("pitch", [0.5, 0.75, 1.0])
def test_jacks_meet_at_a_hip_in_pairs(pitch):
    p = edits.change(roofed(RECTANGLE, overhang=0.0), "roof-1", jacks="pairs")
    model = derive(set_side(p, "roof-1", "wall-2", pitch=pitch))
    assert len(hips(model)) == 4
    for hip in hips(model):
        one, other = heads_on(model, hip).values()
        assert len(one) == len(other) >= 5
        assert one == pytest.approx(other, abs=0.01)
        ways = [unit(*_edge(model, e)) for e in hip.edges]
        low, high = sorted((hip.start, hip.end), key=lambda q: q[2])
        parts = [abs(dot(unit(low[:2], high[:2]), way)) for way in ways]
        steps = [b - a for a, b in itertools.pairwise(one)]
        assert max(parts) * max(steps) == pytest.approx(SPACED, abs=0.1)  # on the side where they are farther apart
    assert overlaps(model) == []
    balanced(model)


def test_jacks_meet_a_hip_half_a_step_apart():
    model = derive(edits.change(roofed(RECTANGLE, overhang=0.0), "roof-1", jacks="staggered"))
    for hip in hips(model):
        both = sorted(itertools.chain(*heads_on(model, hip).values()))
        steps = [b - a for a, b in itertools.pairwise(both)]
        assert len(both) >= 10
        assert steps == pytest.approx([SPACED * math.sqrt(2.0) / 2.0] * len(steps), abs=0.1)
    assert overlaps(model) == []
    balanced(model)


def test_jacks_meet_at_a_valley_in_pairs():
    model = derive(edits.change(set_side(roofed(), "roof-1", "wall-5", kind="gable"), "roof-1", jacks="pairs"))
    assert hips(model, "valley")
    for valley in hips(model, "valley"):
        few, many = sorted(heads_on(model, valley).values(), key=len)
        # A jack so short at the inner corner that the lines there take its place may be missing on one side.
        assert len(few) >= max(len(many) - 1, 4)
        # Rafters that run from the valley to a hip stand as that has them.
        ends = [unit(*_edge(model, k)) for k in valley.edges]
        low, high = sorted((valley.start, valley.end), key=lambda q: q[2])
        part = abs(dot(unit(high[:2], low[:2]), ends[0]))
        tops = [max(x.start, x.end, key=lambda q: q[2]) for x in hips(model) if {*x.edges} & {*valley.edges}]
        free = min(abs(dot(sub(high[:2], top[:2]), way)) for top in tops for way in ends) / part
        assert len([at for at in few if at < free]) >= 3
        assert all(min(abs(at - other) for other in many) < 0.01 for at in few if at < free)
    assert overlaps(model) == []
    in_their_planes(model)
    balanced(model)


def test_none_comes_nearer_than_asked_and_a_gap_that_leaves_takes_one_more():
    long = 40.0 * FOOT + 3.0 * INCH
    ring = [(0.0, 0.0), (long, 0.0), (long, 28.0 * FOOT), (0.0, 28.0 * FOOT)]
    rows = [RoofEdge(), RoofEdge("gable"), RoofEdge(), RoofEdge("gable")]
    made = roof_surface(ring, rows)
    near = stations(made, ring, rows, RafterSpacing(SPACED))[0]
    assert near[-1] - near[-2] == pytest.approx(2.25 * INCH)
    clear = stations(made, ring, rows, RafterSpacing(SPACED, least=6.0 * INCH))[0]
    gaps = [b - a for a, b in itertools.pairwise(clear)]
    assert len(clear) == len(near)  # the one too near is left out, and the gap of 18 1/4 in is halved
    assert gaps[-2:] == pytest.approx([9.125 * INCH] * 2)
    assert min(gaps) >= 6.0 * INCH


def test_set_out_from_the_last_corner():
    p = roofed([(0, 0), (41.3, 0), (41.3, 27.7), (0, 27.7)], overhang=0.0)
    model = derive(edits.change(p, "roof-1", set_out="end"))
    for k, row in along_each(model).items():
        a, b = _edge(model, k)
        off = [(distance(a, b) if k in (0, 1) else 0.0) - at for at in row]
        assert [round(v / SPACED, 4) % 1.0 for v in off] == [0.0] * len(off)


def test_a_gap_out_of_bounds_is_told():
    with pytest.raises(EditError, match="stay clear"):
        edits.change(roofed(RECTANGLE), "roof-1", least_gap=1200.0)


@given(seed=st.integers(0, 10**6), jacks=st.sampled_from(["set out", "pairs", "staggered"]), full=st.booleans())
@settings(max_examples=60, deadline=None)
@example(seed=64, jacks="set out", full=False)
def test_over_any_outline_no_gap_is_wider_than_the_spacing_nor_closer_than_asked(seed, jacks, full):
    rng = random.Random(seed)
    ring = random_outline(rng, rng.randint(1, 4), bool(seed % 2))
    if ring is None:
        return
    edges = [RoofEdge("gable") if rng.random() < 0.15 else RoofEdge(pitch=rng.choice([0.5, 0.5, 1.0])) for _ in ring]
    try:
        made = roof_surface(ring, edges)
    except RoofError:
        return
    how = RafterSpacing(SPACED, full=full, jacks=jacks, least=rng.choice([0.0, 4.0 * INCH]))
    for edge, row in stations(made, ring, edges, how).items():
        gaps = [b - a for a, b in itertools.pairwise(row)]
        assert all(1.5 * INCH - 1e-6 < gap <= SPACED + 1.0 + 1e-6 for gap in gaps)
        # Nor does a plane run on farther than a spacing beyond its first and last one.
        reach = [
            dot(unit(*_pair(ring, edge)), sub(p[:2], ring[edge])) for f in made.faces if f.edge == edge for p in f.ring
        ]
        if not row:  # a corner narrower than that between its hips and valleys
            assert max(reach) - min(reach) <= SPACED
            continue
        assert row[0] - min(reach) <= SPACED + 1.0
        assert max(reach) - row[-1] <= SPACED + 1.0
        ends = {round(0.75 * INCH, 3), round(distance(*_pair(ring, edge)) - 0.75 * INCH, 3)}
        tops = [p for line in made.lines for p in (line.start, line.end)]
        way, corner = unit(*_pair(ring, edge)), ring[edge]
        fixed = ends | {round(dot(way, sub(p[:2], corner)), 3) for p in tops}
        for a, b in itertools.pairwise(row):
            assert b - a >= how.least - 1e-6 or {round(a, 3), round(b, 3)} <= fixed


@given(seed=st.integers(0, 10**6), jacks=st.sampled_from(["pairs", "staggered"]))
@settings(max_examples=10, deadline=None, phases=(Phase.explicit, Phase.reuse, Phase.generate))
@example(seed=1092, jacks="pairs")  # planes that are one, side by side under a hip that goes on
@example(seed=252, jacks="staggered")  # and over a valley's top
@example(seed=5707, jacks="staggered")  # refused in words
def test_over_any_house_they_stand_in_nothing_and_all_that_bears_arrives(seed, jacks):
    rng = random.Random(seed)
    ring = random_outline(rng, rng.randint(1, 3), True)
    if ring is None:
        return
    if area(ring) < 0.0:  # walls have their outsides to the right
        ring = ring[::-1]
    try:
        p = roofed([(x / FOOT, y / FOOT) for x, y in ring], overhang=rng.choice([0.0, 1.0]) * FOOT)
    except EditError:
        return
    model = derive(edits.change(p, "roof-1", jacks=jacks))
    if model.surfaces[0].problem:  # an overhang in a notch narrower than two of it
        assert "Roof cannot be made" in [f.what for f in model.findings]
        return
    in_their_planes(model)
    assert overlaps(model) == []
    balanced(model)
    others = [p for p in model.pieces.values() if p.role != "wall layer"]
    apart([p for p in others if p.role in ("rafter", "ceiling tie", "collar tie")], others, 2e4)


def _edge(model, k):
    return _pair(model.surfaces[0].outline.core, k)


def _pair(ring, k):
    return ring[k], ring[(k + 1) % len(ring)]
