"""Walls that go on where another ends: no gap in any layer where a third wall meets them, nothing twice."""

import itertools
import math

import pytest
import shapely
from hypothesis import given
from hypothesis import strategies as st

from balken.demo import orchard_road
from balken.derive import derive
from balken.geometry.prism import TOP, silhouette
from balken.loads.area_loads import own_weight
from balken.model import edits
from balken.model.naming import run_of
from balken.model.records import Foundation, Hang
from balken.units.system import FOOT

FOOT_HANG, HEAD_HANG = Hang(level="level-1"), Hang(level="level-2")
BUILDUPS = ("framed-2x6", "framed-2x4", "block-8", "veneer-2x6")


def footprint(piece):
    """The outline in plan; to a millionth of a mm, as edges that differ in the last figure mislead the overlay."""
    rings = [[(round(x, 6), round(y, 6)) for x, y in ring] for ring in silhouette(piece.solid, TOP)[0]]
    return shapely.Polygon(rings[0], rings[1:])


def project(first, second, third, turn=0.0, outside="right", role="bearing", meet=4000.0):
    """Return two outside walls in one line and a third that ends where they meet, all turned about the origin."""

    def at(x, y):
        c, s = math.cos(turn), math.sin(turn)
        return (c * x - s * y, s * x + c * y)

    p = edits.new_project()
    p = edits.add_level(p, "level-1", 8 * FOOT, "Plate", "plate")
    inward = 5000.0 if outside == "right" else -5000.0
    p = edits.add_wall(p, at(0.0, 0.0), at(meet, 0.0), first, FOOT_HANG, HEAD_HANG, outside=outside)
    p = edits.add_wall(p, at(meet, 0.0), at(9000.0, 0.0), second, FOOT_HANG, HEAD_HANG, outside=outside)
    return edits.add_wall(p, at(meet, 0.0), at(meet, inward), third, FOOT_HANG, HEAD_HANG, "centre", role=role)


@given(
    st.sampled_from(BUILDUPS),
    st.sampled_from(("inside-2x6", "inside-2x4", "block-190")),
    st.floats(0.0, 2.0 * math.pi),
    st.sampled_from(("left", "right")),
    st.sampled_from(("bearing", "divides")),
)
def test_a_wall_divided_where_a_third_meets_it_is_whole_in_every_layer(buildup, third, turn, outside, role):
    p = project(buildup, buildup, third, turn, outside, role)
    model = derive(p)
    lines = model.lines
    count = len(lines["wall-1"].buildup.layers)
    core = lines["wall-1"].band.core
    for i in range(count):
        pieces = [piece for w in ("wall-1", "wall-2") for piece in model.layers[w] if f"/layer/{i}" in piece.key]
        near, far = lines["wall-1"].band.layers[i]
        whole = shapely.union_all([footprint(piece).buffer(0.01) for piece in pieces])
        area = 9000.0 * (far - near)
        if i <= core[1]:  # up to the core nothing passes: one piece without a gap
            assert isinstance(whole, shapely.Polygon)
            assert sum(footprint(piece).area for piece in pieces) == pytest.approx(area, rel=1e-6)
        else:  # linings stop at the core of the third wall
            wide = lines["wall-3"].core[1] - lines["wall-3"].core[0]
            assert sum(footprint(piece).area for piece in pieces) == pytest.approx(area - wide * (far - near), rel=1e-6)
    shapes = [footprint(piece) for w in lines for piece in model.layers[w]]
    assert shapely.union_all(shapes).area == pytest.approx(sum(s.area for s in shapes), rel=1e-6)


def test_the_third_wall_stops_at_the_thicker_one_and_both_have_studs_behind_its_lining():
    model = derive(project("framed-2x4", "framed-2x6", "inside-2x4"))
    ends = {w: model.joints[w].ends for w in model.lines}
    assert ends["wall-1"][1].kind == ends["wall-2"][0].kind == "free"
    assert ends["wall-3"][0].kind == "tee"
    start = model.joints["wall-3"].spans[model.lines["wall-3"].band.core[0]][0]
    inner = model.lines["wall-2"].core[1] - model.lines["wall-2"].band.set_out
    assert start == pytest.approx(inner)
    assert len(model.joints["wall-1"].tees) == len(model.joints["wall-2"].tees) == 1
    for w in ("wall-1", "wall-2"):
        sticks = model.framed[w].wall.sticks
        span = model.joints[w].spans[model.lines[w].band.core[0]]
        assert all(span[0] - 1e-6 <= min(s.ring)[0] and max(s.ring)[0] <= span[1] + 1e-6 for s in sticks)


@given(
    st.sampled_from(BUILDUPS),
    st.sampled_from(("inside-2x6", "inside-2x4", "block-190")),
    st.floats(0.0, 2.0 * math.pi),
    st.sampled_from(("left", "right")),
    st.booleans(),
)
def test_an_inside_wall_that_ends_where_an_outside_one_does_leaves_the_corner_whole(outer, inner, turn, outside, back):
    c, s = math.cos(turn), math.sin(turn)

    def at(x, y):
        return (c * x - s * y, s * x + c * y)

    p = edits.new_project()
    p = edits.add_level(p, "level-1", 8 * FOOT, "Plate", "plate")
    ends = [at(0.0, 0.0), at(5000.0, 0.0)]
    p = edits.add_wall(p, *(ends[::-1] if back else ends), outer, FOOT_HANG, HEAD_HANG, outside=outside)
    inward = 4000.0 if (outside == "right") != back else -4000.0
    p = edits.add_wall(p, at(5000.0, 0.0), at(5000.0, inward), inner, FOOT_HANG, HEAD_HANG, "centre", role="bearing")
    model = derive(p)
    shapes = [footprint(piece) for w in model.lines for piece in model.layers[w]]
    assert shapely.union_all(shapes).area == pytest.approx(sum(shape.area for shape in shapes), rel=1e-6)
    first, last = zip(*(line.band.core for line in model.lines.values()), strict=True)
    cores = [
        footprint(piece)
        for w, a, b in zip(model.lines, first, last, strict=True)
        for piece in model.layers[w]
        if a <= int(piece.key.rpartition("/")[2].partition(".")[0]) <= b
    ]
    assert narrow_gaps(cores, 60.0) == []
    kinds = sorted(joint.kind for w in model.lines for joint in model.joints[w].ends)
    assert kinds == ["free", "free", "tee", "through"]


def test_where_a_wall_runs_through_the_two_stop_at_it():
    """Walls that leave a third one to both sides do not go through it."""
    p = edits.new_project()
    p = edits.add_level(p, "level-1", 8 * FOOT, "Plate", "plate")
    for start, end in (((4000, -4000), (4000, 4000)), ((0, 0), (4000, 0)), ((4000, 0), (9000, 0))):
        p = edits.add_wall(p, start, end, "inside-2x4", FOOT_HANG, HEAD_HANG, "centre", role="bearing")
    joints = derive(p).joints
    assert joints["wall-2"].ends[1].kind == joints["wall-3"].ends[0].kind == "tee"
    assert joints["wall-2"].ends[1].other == "wall-1"
    assert len(joints["wall-1"].tees) == 2


def inline_foundations():
    """Return walls of 8 and 10 in, shallow and deep, in one line, and one that ends where they meet."""
    p = project("framed-2x6", "framed-2x6", "inside-2x6")
    p = edits.add_level(p, "level-1", -1 * FOOT, "Top of foundation", "top of foundation")
    top = Hang(level=p.levels[-1].id)
    for i, (walls, thick, deep) in enumerate(
        ((("wall-1",), 203.2, -5 * FOOT), (("wall-2", "wall-3"), 254.0, -9 * FOOT))
    ):
        foot = Hang(level="level-1", offset=deep)
        p = edits.add(p, Foundation(id=f"f{i}", name=f"F{i}", walls=walls, foot=foot, head=top, thickness=thick))
    return p


def test_foundation_walls_in_line_leave_no_hole_in_the_concrete():
    """Deep and shallow walls of different thickness go on in one line where an inside wall ends."""
    model = derive(inline_foundations())
    pieces = model.of_foundations("foundation wall")
    assert {run_of(piece.key) for piece in pieces} == {"f0/wall-1", "f1/wall-2", "f1/wall-3"}
    shapes = {piece.key: footprint(piece) for piece in pieces}
    assert len(shapes) == 4  # the inside wall is let in as far as the thinner one
    assert narrow_gaps(list(shapes.values()), 160.0) == []
    assert narrow_gaps([footprint(piece) for piece in model.of_foundations("strip footing")], 160.0) == []
    whole = shapely.union_all([shape.buffer(0.01) for shape in shapes.values()])
    assert isinstance(whole, shapely.Polygon)
    assert not whole.interiors
    # Seen from outside the two make one face from end to end.
    face = shapely.LineString([(100.0, 20.0), (8900.0, 20.0)])
    assert whole.intersection(face).length == pytest.approx(8800.0, abs=1.0)
    for one, other in itertools.combinations(shapes.values(), 2):
        assert one.intersection(other).area < 1.0


@pytest.mark.parametrize("built", [orchard_road, inline_foundations], ids=["demo", "in line"])
def test_all_concrete_of_a_wall_weighs_on_its_footing(built):
    """What is let in between two walls too."""
    model = derive(built())
    walls = [p for group in model.foundations for p in group if p.role in ("foundation wall", "sill plate")]
    assert any("let in" in piece.key for piece in walls)
    for run in model.runs:
        own = sum(own_weight(p).dead for p in walls if run_of(p.key) == run.id)
        assert model.path.runs[run.id].own.dead == pytest.approx(own, rel=1e-9)


def narrow_gaps(shapes, reach):
    """What is filled when an outline grows by some distance and shrinks again: gaps up to twice as wide."""
    whole = shapely.union_all([s.buffer(0.5, join_style="mitre") for s in shapes]).buffer(-0.5, join_style="mitre")
    closed = whole.buffer(reach, join_style="mitre").buffer(-reach, join_style="mitre")
    found = closed.difference(whole.buffer(1.0, join_style="mitre"))
    return [gap.bounds for gap in getattr(found, "geoms", [found]) if gap.area > 100.0]


def test_the_demo_has_no_narrow_gap_in_walls_concrete_or_footings():
    model = derive(orchard_road())
    for role in ("foundation wall", "strip footing"):
        assert narrow_gaps([footprint(p) for p in model.of_foundations(role)], 160.0) == []
    for foot in (0.0, 2000.0):
        storey = [w for w, line in model.lines.items() if foot <= line.band.bottom + 1.0 < foot + 2000.0]
        assert narrow_gaps([footprint(piece) for w in storey for piece in model.layers[w]], 70.0) == []
