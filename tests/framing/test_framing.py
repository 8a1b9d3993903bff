"""Walls at corners, foundations, floors and roofs: places and volumes by hand."""

import pytest
import shapely
from hypothesis import example, given
from hypothesis import strategies as st
from tests.houses import house

from balken.derive import derive
from balken.framing.outlines import OutlineError, outline
from balken.framing.pieces import EVEN, split_run
from balken.geometry.prism import extent, volume
from balken.model import edits, split_walls
from balken.model.records import Choice
from balken.units.system import FOOT, INCH

sizes = st.floats(12 * FOOT, 60 * FOOT)


def pieces(model, role):
    return [p for p in model.pieces.values() if p.role == role]


def plan(piece):
    (x0, y0, _), (x1, y1, _) = extent(piece.solid)
    return shapely.box(x0, y0, x1, y1)


@pytest.mark.parametrize("clockwise", [False, True])
@given(long=sizes, wide=sizes)
@example(long=8179.3125, wide=8179.3125)
def test_layers_meet_at_corners_without_gap_or_overlap(clockwise, long, wide):
    model = derive(house(long, wide, clockwise=clockwise))
    for layer in range(4):
        boxes = [plan(model.pieces[f"wall-{i}/layer/{layer}"]) for i in (1, 2, 3, 4)]
        whole = shapely.union_all(boxes, grid_size=1e-3)  # joints meet to a thousandth of a mm
        # The grid of the union moves each edge by 0.0005 mm at most: so much area along all of them.
        edges = sum(b.length for b in boxes)
        assert whole.area == pytest.approx(sum(b.area for b in boxes), abs=0.0005 * edges)
        assert len(whole.interiors) == 1  # one closed ring


def test_concrete_is_counted_once_and_lines_up_with_the_sheathing(demo_model):
    walls = [plan(p) for p in pieces(demo_model, "foundation wall")]
    footings = [plan(p) for p in pieces(demo_model, "strip footing")]
    for group in (walls, footings):
        assert shapely.union_all(group).area == pytest.approx(sum(g.area for g in group))
    x0, y0, x1, y1 = shapely.union_all(walls).bounds
    half = 0.5 * INCH  # the sheathing outside the studs, which stand on the axes
    assert (x0, y0, x1, y1) == pytest.approx((-half, -half, 40 * FOOT + half, 28 * FOOT + half))
    for p in pieces(demo_model, "strip footing"):
        assert extent(p.solid)[1][2] == pytest.approx(-4 * FOOT - 4 * INCH)  # below the top-of-footing level


def test_the_demo_counts_and_cut_lengths(demo_model):
    joists = pieces(demo_model, "joist")
    assert len(joists) == 58  # 40 ft at 16 in: 29 inside the edge joists, two pieces each
    assert {round(p.length / INCH, 3) for p in joists} == {14 * 12 - 1.5}
    assert len(pieces(demo_model, "rafter")) == 62
    # Run to the ridge board 13'-11 1/4", overhang 1 ft, 6 in 12, 2x8 with plumb cuts.
    want = (14 * 12 - 0.75 + 12) * 1.25**0.5 + 7.25 * 0.5
    assert {round(p.length / INCH, 3) for p in pieces(demo_model, "rafter")} == {round(want, 3)}
    top = max(extent(p.solid)[1][2] for p in pieces(demo_model, "joist"))
    assert top == pytest.approx(-0.75 * INCH)  # under the deck, whose top is on the level
    assert min(extent(p.solid)[0][2] for p in joists) == pytest.approx(-10 * INCH)


def test_joists_bear_on_their_sills(demo_model):
    plan_ = demo_model.floors[0]
    for line in plan_.lines:
        assert line.bearings[0] >= 1.5 * INCH  # IRC R502.6
        assert line.bearings[1] >= 1.5 * INCH
    first = plan_.lines[0]
    assert sorted(first.bearings) == pytest.approx([2.75 * INCH, 4.0 * INCH])  # half a 2x6, and 2x6 less the rim
    assert first.clear == pytest.approx(14 * FOOT - 5.5 * INCH - 2.75 * INCH)


def test_joists_take_the_shorter_way_or_the_one_typed():
    model = derive(house(30 * FOOT, 16 * FOOT))
    assert model.floors[0].clear == pytest.approx(16 * FOOT - 11 * INCH)
    turned = edits.change(house(30 * FOOT, 16 * FOOT), "floor-1", direction=0.0)
    assert derive(turned).floors[0].clear == pytest.approx(30 * FOOT - 11 * INCH)


@given(st.floats(14 * FOOT, 40 * FOOT), st.floats(12 * FOOT, 30 * FOOT), st.floats(0.3, 1.2))
def test_rafters_meet_the_ridge_and_the_gable_walls_meet_the_roof(long, wide, pitch):
    model = derive(house(long, wide, pitch))
    ridge = extent(pieces(model, "ridge board")[0].solid)
    tops = [extent(p.solid)[1][2] for p in pieces(model, "rafter")]
    assert max(tops) == pytest.approx(ridge[1][2], abs=0.01)
    roof = model.roofs[0]
    for wall in roof.gable_walls:
        studs, sheathing = model.pieces[f"{wall}/layer/2"], model.pieces[f"{wall}/layer/1"]
        assert extent(studs.solid)[1][2] < extent(sheathing.solid)[1][2] <= ridge[1][2] + 40.0
    for wall in roof.eave_walls:
        assert extent(model.pieces[f"{wall}/layer/2"].solid)[1][2] == pytest.approx(8 * FOOT)


def test_openings_take_their_volume_out_of_every_layer():
    p = house()
    before = derive(p)
    p = edits.add_opening(p, "wall-1", "door", 5 * FOOT, 3 * FOOT, 7 * FOOT, 0.0)
    p = edits.add_opening(p, "wall-1", "window", 12 * FOOT, 4 * FOOT, 4 * FOOT, 3 * FOOT)
    after = derive(p)
    for i, layer in enumerate(after.lines["wall-1"].buildup.layers):
        gone = volume(before.pieces[f"wall-1/layer/{i}"].solid) - volume(after.pieces[f"wall-1/layer/{i}"].solid)
        assert gone == pytest.approx((21 + 16) * FOOT**2 * layer.thickness)


@given(st.floats(100, 60_000), st.floats(2000, 7000))
def test_runs_are_cut_to_stock(length, stock):
    parts = split_run(length, stock)
    assert sum(b - a for a, b in parts) == pytest.approx(length)
    assert all(b - a <= stock + EVEN for a, b in parts)


def test_open_and_crossing_outlines_say_so(demo_model):
    lines = demo_model.lines
    with pytest.raises(OutlineError, match=r"open|come back"):
        outline(("wall-1", "wall-2", "wall-3"), lines)
    with pytest.raises(OutlineError, match="three"):
        outline(("wall-5",), lines)


def test_a_turned_house_weighs_the_same():
    """Everything about a house is the same wherever it stands."""
    a = derive(house(joists=Choice()))
    b = derive(house(joists=Choice(), origin=(123_456.7, -98_765.4)))
    assert a.soil.all == pytest.approx(b.soil.all)
    assert len(a.pieces) == len(b.pieces)


def test_a_bearing_wall_in_two_parts_bears_like_one():
    """Joists beside the joint rest on one part or the other, never on a piece of no length."""

    p = house(middle=True, joists=Choice(size="2x10"))
    whole = derive(p)
    for along in (10 * FOOT, 12 * FOOT - 20.0, 16 * FOOT + 0.3):
        model = derive(split_walls.split_wall(p, "wall-5", along))
        assert len(pieces(model, "joist")) == len(pieces(whole, "joist"))
        assert len(pieces(model, "ceiling tie")) == len(pieces(whole, "ceiling tie"))
        assert model.path.arrived.live == pytest.approx(whole.path.arrived.live)
