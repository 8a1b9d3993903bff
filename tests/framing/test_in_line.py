"""Walls that go on where another ends: no gap in any layer where a third wall meets them, nothing twice."""

import itertools
import math

import pytest
import shapely
from hypothesis import given
from hypothesis import strategies as st

from balken.demo import orchard_road
from balken.derive import derive
from balken.framing.foundations import run_of
from balken.geometry.prism import TOP, silhouette
from balken.model import edits
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


def test_foundation_walls_in_line_leave_no_hole_in_the_concrete():
    """Deep and shallow walls of different thickness go on in one line where an inside wall ends."""
    p = project("framed-2x6", "framed-2x6", "inside-2x6")
    p = edits.add_level(p, "level-1", -1 * FOOT, "Top of foundation", "top of foundation")
    top = Hang(level=p.levels[-1].id)
    for i, (walls, thick, deep) in enumerate(
        ((("wall-1",), 203.2, -5 * FOOT), (("wall-2", "wall-3"), 254.0, -9 * FOOT))
    ):
        foot = Hang(level="level-1", offset=deep)
        p = edits.add(p, Foundation(id=f"f{i}", name=f"F{i}", walls=walls, foot=foot, head=top, thickness=thick))
    model = derive(p)
    shapes = {run_of(piece.key): footprint(piece) for piece in model.of_foundations("foundation wall")}
    assert len(shapes) == 3
    whole = shapely.union_all([shape.buffer(0.01) for shape in shapes.values()])
    assert isinstance(whole, shapely.Polygon)
    assert not whole.interiors
    # Seen from outside the two make one face from end to end.
    face = shapely.LineString([(100.0, 20.0), (8900.0, 20.0)])
    assert whole.intersection(face).length == pytest.approx(8800.0, abs=1.0)
    for one, other in itertools.combinations(shapes.values(), 2):
        assert one.intersection(other).area < 1.0


def test_the_demo_has_no_gap_where_its_foundations_change():
    model = derive(orchard_road())
    for axis_y in (0.0, 8534.4):
        at = shapely.Point(3962.4, axis_y + (100.0 if axis_y == 0.0 else -100.0))
        held = [piece for piece in model.of_foundations("foundation wall") if footprint(piece).buffer(1.0).contains(at)]
        assert held
        cores = [footprint(p) for w in ("wall-1", "wall-2", "wall-4", "wall-5") for p in model.layers[w]]
        assert any(core.buffer(1.0).contains(at) for core in cores)
