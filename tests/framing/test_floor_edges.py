"""The half bays beside walls along the joists: they come to what bears under a floor's sides, whichever walls bound it."""

import pytest
from tests.loads.test_beams import balanced

from balken.derive import derive
from balken.loads.cases import total
from balken.model import edits
from balken.model.records import Choice, Floor, Foundation, FreePoint, Hang
from balken.model.wall_edits import move_walls
from balken.units.system import FOOT, INCH

LONG, WIDE = 32 * FOOT, 24 * FOOT
CORNERS = ((0.0, 0.0), (LONG, 0.0), (LONG, WIDE), (0.0, WIDE))


def two_storeys(parted=False, by_lower=False):
    """Two storeys; the upper floor, its joists across, is bounded by the walls that stand on it, or by those below (``by_lower``).

    ``parted``: the wall under one of its sides along the joists is two walls, 8 ft and 16 ft long.
    """
    p = edits.new_project("Two storeys")
    p = edits.add_level(p, "level-1", -11.5 * INCH, "Top of foundation", "top of foundation")
    p = edits.add_level(p, "level-1", -4 * FOOT, "Top of footing", "top of footing")
    p = edits.add_level(p, "level-1", 8 * FOOT, "Plate 1", "plate")
    p = edits.add_level(p, "level-4", 10 * INCH, "Floor 2", "floor")
    p = edits.add_level(p, "level-5", 8 * FOOT, "Plate 2", "plate")
    lower = list(zip(CORNERS, CORNERS[1:] + CORNERS[:1], strict=True))
    if parted:
        lower[1:2] = [(CORNERS[1], (LONG, 8 * FOOT)), ((LONG, 8 * FOOT), CORNERS[2])]
    for start, end in lower:
        p = edits.add_wall(p, start, end, "framed-2x6", Hang(level="level-1"), Hang(level="level-4"))
    below = tuple(wall.id for wall in p.walls)
    for start, end in zip(CORNERS, CORNERS[1:] + CORNERS[:1], strict=True):
        p = edits.add_wall(p, start, end, "framed-2x6", Hang(level="level-5"), Hang(level="level-6"))
    above = tuple(wall.id for wall in p.walls[len(below) :])
    p = edits.add(
        p, Foundation(id="foundation-1", name="F", walls=below, foot=Hang(level="level-3"), head=Hang(level="level-2"))
    )
    floor = Floor(
        id="floor-1", name="Upper floor", level="level-5", walls=below if by_lower else above, direction=90.0,
        joists=Choice(size="2x12", spacing=16 * INCH),
    )  # fmt: skip
    return edits.add(p, floor), below


def edges(model):
    return [r for r in model.path.reactions if r.piece == "floor-1/rim"]


def test_walls_below_carry_the_edges_of_a_floor_bounded_by_walls_above():
    """By hand: half of what is left beside the outermost joists, 24 ft long, at 40 psf."""
    model, other = derive(two_storeys()[0]), derive(two_storeys(by_lower=True)[0])
    assert {r.bearer for r in edges(model)} == {"wall-2", "wall-4"}
    assert not [r for r in model.path.lost if r.force.all > 1.0 and r.piece.startswith("floor")]
    plan = model.floors[0]
    first, last = plan.lines[0].t, plan.lines[-1].t
    width = (abs(LONG - (max(first, last) - min(first, last)))) / 2.0
    live = total(r.force for r in edges(model)).live
    assert live == pytest.approx(width * WIDE / 1e6 * model.project.loads.floor_live * 1000.0, rel=0.03)
    assert total(r.force for r in edges(other)).live == pytest.approx(live, rel=1e-6)
    balanced(model)


def test_two_walls_under_one_side_take_their_parts():
    model = derive(two_storeys(parted=True)[0])
    short, long = (sum(r.force.live for r in edges(model) if r.bearer == wall) for wall in ("wall-2", "wall-3"))
    assert long / short == pytest.approx(2.0, rel=0.05)
    balanced(model)


def test_a_long_gap_under_an_edge_is_told_and_a_short_one_bridged():
    """Of two walls under a side of 24 ft the longer goes: 16 ft bear on nothing; a gap of a foot is reached over."""
    p, below = two_storeys(parted=True)
    model = derive(edits.change(p, below[2], role="divides"))
    assert [f.what for f in model.findings if f.code == "no bearing"] == [
        "Upper floor: edge joists have nothing to bear on"
    ]
    whole = total(r.force for r in edges(derive(p)) if r.bearer in ("wall-2", "wall-3")).live
    rows = [r for r in edges(model) if r.bearer != "wall-5"]
    assert sum(r.force.live for r in rows if not r.bearer) == pytest.approx(whole * 2.0 / 3.0, rel=0.05)
    assert sum(r.force.live for r in rows) == pytest.approx(whole, rel=1e-6)
    balanced(model)
    near = derive(edits.change(p, below[1], end=FreePoint(x=LONG, y=7 * FOOT)))
    assert not [f for f in near.findings if f.code == "no bearing"]
    assert sum(r.force.live for r in edges(near) if r.bearer in ("wall-2", "wall-3")) == pytest.approx(whole, rel=1e-6)


def test_a_wall_beside_the_edge_carries_nothing_of_it():
    """Set 4 in out, its core lies clear of the joist at the floor's side."""
    p, below = two_storeys()
    off = derive(move_walls(p, (below[1],), 6.0 * INCH, 0.0))
    assert "wall-2" not in {r.bearer for r in edges(off)}
    assert [f.what for f in off.findings if f.code == "no bearing"]


def test_an_edge_over_nothing_is_told():
    p, below = two_storeys()
    model = derive(edits.change(p, below[1], role="divides"))
    found = [f for f in model.findings if f.code == "no bearing"]
    assert [f.what for f in found] == ["Upper floor: edge joists have nothing to bear on"]
    assert found[0].why.startswith("1 edge reaches no sill or wall")
    assert found[0].grave
    off = derive(move_walls(p, (below[3],), 4 * FOOT, 0.0))
    assert [f.what for f in off.findings if f.code == "no bearing"]
