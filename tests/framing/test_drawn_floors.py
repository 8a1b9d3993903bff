"""Floors drawn corner by corner or by a click in a room; several on one storey, each with its own layout."""

import pytest
import shapely
from hypothesis import given, settings
from hypothesis import strategies as st
from tests.houses import house

from balken.derive import derive
from balken.exchange.project_file import from_bytes, to_bytes
from balken.framing.drawn_outlines import drawn_outline
from balken.framing.outlines import OutlineError
from balken.loads.area_loads import applied_area_loads
from balken.loads.cases import total
from balken.model import edits
from balken.model.beam_edits import add_beam
from balken.model.errors import EditError
from balken.model.floor_edits import draw_floor, room_around
from balken.model.records import Choice, FreePoint, Hang
from balken.units.system import FOOT, INCH

LONG, WIDE = 30 * FOOT, 20 * FOOT


def bare(**more):
    """A house 30 x 20 ft with a bearing wall along its middle and no floor."""
    return edits.remove(house(middle=True, **more), "floor-1")


def balanced(model):
    handed = total(r.force for r in model.path.reactions if r.piece.startswith("floor") and not r.through)
    asked = applied_area_loads(model.floors, (), model.project.loads)
    assert handed.live == pytest.approx(asked.live, rel=1e-6)
    assert all(r.bearer for r in model.path.reactions if r.piece.startswith("floor"))


def test_a_room_by_one_click():
    """The half of the house that is clicked in: to the outside walls' cores and the middle of the wall inside."""
    p = bare()
    ring = room_around(p, (3000.0, 1500.0), "level-1")
    assert shapely.Polygon(ring).area == pytest.approx(LONG * WIDE / 2.0)
    model = derive(draw_floor(p, "level-1", ring))
    (plan,) = model.floors
    assert sorted(plan.outline.edges) == ["open", "wall", "wall", "wall"]
    assert plan.bears_on == {"foundation-1/wall-1", "foundation-1/wall-5"}
    balanced(model)
    with pytest.raises(EditError, match="close a room"):
        room_around(p, (-9000.0, 0.0), "level-1")


def test_zones_that_differ():
    """Left joists of 2x8 along one way, right I-joists the other way on a beam between; all of the house is floor once."""
    p = bare()
    x = 12 * FOOT
    p = draw_floor(p, "level-1", ((0, 0), (x, 0), (x, WIDE), (0, WIDE)), joists=Choice(size="2x8"), direction=90.0)
    p = draw_floor(
        p, "level-1", ((x, 0), (LONG, 0), (LONG, WIDE), (x, WIDE)), joists=Choice(made_of="I-joist", size="PRI-40 9.5"),
        direction=90.0,
    )  # fmt: skip
    model = derive(p)
    assert [plan.outline.edges.count("open") for plan in model.floors] == [1, 1]
    assert model.designs[("floor-1", "joists")].size != model.designs[("floor-2", "joists")].size
    balanced(model)
    area = sum(shapely.Polygon(plan.outline.core).area for plan in model.floors)
    assert area == pytest.approx(LONG * WIDE)
    # No joist, block or rim of one lies in another's.
    boxes = [shapely.box(*shapely.MultiPoint([c[:2] for c in m.solid.corners()]).bounds).buffer(-1.0)
             for m in model.pieces.values() if m.owner.startswith("floor") and m.section]  # fmt: skip
    tree = shapely.STRtree(boxes)
    pairs = tree.query(boxes, predicate="intersects")
    both = [(i, j) for i, j in pairs.T.tolist() if i < j]
    assert all(boxes[i].intersection(boxes[j]).area < 1.0 for i, j in both)
    assert from_bytes(to_bytes(p)) == p


def test_an_edge_along_a_beam():
    """The floor ends on a beam drawn across the house: joists bear on it, and the beam carries half of them."""
    p = edits.remove(house(joists=Choice(size="2x10")), "floor-1")
    x = 14 * FOOT
    p = draw_floor(p, "level-1", ((0, 0), (x, 0), (x, WIDE), (0, WIDE)), joists=Choice(size="2x10"), direction=0.0)
    p = add_beam(p, (x, 0.0), (x, WIDE), Hang(level="level-1"), "floor-1", made_of="LVL")
    model = derive(p)
    assert model.floors[0].bears_on == {"foundation-1/wall-4", "beam-1"}
    balanced(model)
    live = applied_area_loads(model.floors, (), p.loads).live
    assert 0.4 * live < model.path.beams["beam-1"].load.live < 0.6 * live
    off = derive(
        edits.change(p, "beam-1", end=FreePoint(x=x - 2 * FOOT, y=WIDE), start=FreePoint(x=x - 2 * FOOT, y=0.0))
    )
    assert any(max(line.overhangs) > 20 * INCH for line in off.floors[0].lines)
    balanced(off)


def test_what_is_no_outline():
    p = bare()
    lines = derive(p).lines
    for corners, said in (
        (((0, 0), (1000, 1000), (0, 1000), (1000, 0)), "crosses itself"),
        (((0, 0), (1000, 0), (2000, 0)), "enclose nothing"),
    ):
        with pytest.raises(OutlineError, match=said):
            drawn_outline(corners, lines)
    with pytest.raises(EditError, match="three corners"):
        draw_floor(p, "level-1", ((0, 0), (1000, 0)))
    crossed = draw_floor(p, "level-1", ((0, 0), (5000, 4000), (0, 4000), (5000, 0)))
    model = derive(crossed)
    assert not model.floors
    assert any("crosses itself" in f"{f.what} {f.why}" for f in model.findings)


@settings(max_examples=20)
@given(
    x=st.floats(0.2, 0.8),
    y=st.floats(0.25, 0.75),
    ways=st.lists(st.sampled_from([None, 0.0, 90.0]), min_size=4, max_size=4),
    over=st.sampled_from(["butted", "lapped", "continuous"]),
)
def test_four_zones_anywhere(x, y, ways, over):
    """A house cut in four anywhere: whatever carries or not, no load of a zone is lost but at ends that bear on nothing."""
    p = bare()
    a, b = x * LONG, y * WIDE
    rings = [
        ((0, 0), (a, 0), (a, b), (0, b)),
        ((a, 0), (LONG, 0), (LONG, b), (a, b)),
        ((a, b), (LONG, b), (LONG, WIDE), (a, WIDE)),
        ((0, b), (a, b), (a, WIDE), (0, WIDE)),
    ]
    for ring, way in zip(rings, ways, strict=True):
        p = draw_floor(p, "level-1", ring, joists=Choice(size="2x10"), direction=way, over=over)
    model = derive(p)
    assert len(model.floors) == 4
    handed = total(r.force for r in model.path.reactions if r.piece.startswith("floor") and not r.through)
    assert handed.live == pytest.approx(applied_area_loads(model.floors, (), p.loads).live, rel=1e-6)
    lost = [r for r in model.path.reactions if r.piece.startswith("floor") and not r.bearer]
    if lost:
        assert any(f.code == "no bearing" for f in model.findings)
