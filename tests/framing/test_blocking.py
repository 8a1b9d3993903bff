"""What holds the head of a wall against earth: the floor at it, and blocking where the joists run along it."""

import itertools
from math import hypot

import pytest
from msgspec.structs import replace
from tests.houses import house

from balken.demo import orchard_road
from balken.derive import derive
from balken.framing.blocking import blocking_pieces
from balken.geometry.plane import add, distance, sub
from balken.geometry.prism import extent
from balken.model import edits
from balken.units.system import FOOT, INCH


def test_blocks_stand_between_the_first_joists_at_the_anchor_bolts():
    p = orchard_road()
    model = derive(p)
    wall = next(r for r in model.runs if r.id == "foundation-1/wall-3")
    blocks = [b for b in model.of_layouts("blocking") if b.wall == "wall-3"]
    joists = [j for j in model.of_layouts("joist") if j.owner == blocks[0].owner]
    assert {b.section for b in blocks} == {joists[0].section}
    # Two bays, the first between the edge joist and the first joist: at 16 in, 14 1/2 in clear.
    assert {round(b.length / INCH * 2) / 2 for b in blocks} <= {13.5, 14.0, 14.5}
    boxes = [extent(b.solid) for b in blocks]
    along = max((0, 1), key=lambda i: max(b[1][i] for b in boxes) - min(b[0][i] for b in boxes))
    first = sorted(b[0][along] for b, piece in zip(boxes, blocks, strict=True) if piece.key.endswith(".0"))
    gaps = [y - x for x, y in itertools.pairwise(first)]
    assert max(gaps) <= min(wall.foundation.bolt_spacing, 4 * FOOT) + 1e-6
    # As deep as the joists, in line with them, and in the way of none.
    for (low, high), _ in zip(boxes, blocks, strict=True):
        assert high[2] - low[2] == pytest.approx(9.25 * INCH)
        for other in map(extent, (j.solid for j in joists)):
            assert any(high[i] <= other[0][i] + 1e-6 or low[i] >= other[1][i] - 1e-6 for i in range(3))


def test_walls_on_which_joists_bear_need_none():
    model = derive(orchard_road())
    bears = {r.wall for r in model.runs for plan in model.floors if r.id in plan.bears_on}
    blocked = {b.wall for b in model.of_layouts("blocking") if b.wall}
    assert blocked == {"wall-3", "wall-15", "wall-23", "wall-22", "wall-17"}
    assert "wall-2" in bears
    assert "wall-2" not in blocked


def test_a_house_without_earth_against_it_needs_none():
    assert derive(house()).of_layouts("blocking")
    filled = edits.change(house(), "foundation-1", inside_ground=0.0)
    assert not derive(filled).of_layouts("blocking")


def test_the_floor_above_does_not_hold_a_basement():
    """The upper floor lies within the same walls, a storey higher; the shed's floor lies on the side of the earth."""
    p = orchard_road()
    assert all(w.case.held for w in derive(p).earth_walls.values())
    model = derive(edits.remove(p, "floor-1"))
    held = {name: w.case.held for name, w in model.earth_walls.items() if name.startswith("foundation-1/")}
    assert held
    assert not any(held.values())
    assert any(f.code == "not held" for f in model.findings)
    assert all(w.case.held for w in derive(edits.remove(p, "floor-2")).earth_walls.values())


def test_earth_said_to_lie_lower_inside_presses_without_a_floor_too():
    p = orchard_road()
    model = derive(edits.remove(p, "floor-1"))
    free = {name: w.case for name, w in model.earth_walls.items() if name.startswith("foundation-2/")}
    assert free
    assert not any(case.held for case in free.values())
    assert max(case.fill for case in free.values()) == pytest.approx(16 * INCH, abs=1.0)


def test_a_wall_a_little_off_the_joists_is_blocked_too():
    """No joist bears on it either; its blocks reach from the askew edge to the joists and shorten along it."""
    model = derive(orchard_road())
    plan = next(f for f in model.floors if "wall-3" in f.outline.walls)
    i = plan.outline.walls.index("wall-3")
    core = list(plan.outline.core)
    inward = sub(core[i - 1], core[i])
    core[i] = add(core[i], inward, 100.0 / hypot(*inward))
    askew = replace(plan, outline=replace(plan.outline, core=tuple(core)))
    square, made = (blocking_pieces(p, "2x10", 0.0, (("wall-3", 600.0),)) for p in (plan, askew))
    assert len(made) == len(square) > 10
    lengths = [{round(b.length, 1) for b in blocks if b.key.endswith(".0")} for blocks in (square, made)]
    assert len(lengths[0]) == 1
    # The edge boards square to the wall stand where the first and last block would: the others lie between.
    first, last = (b.start for b in made if b.key.endswith((f"/{i}.1.0", f"/{i}.{len(square) // 2}.0")))
    part = distance(first[:2], last[:2]) / distance(core[i], core[(i + 1) % len(core)])
    assert max(lengths[1]) - min(lengths[1]) == pytest.approx(100.0 * part, abs=1.0)
    assert max(lengths[1]) < min(lengths[0])
