"""Walls whose heads follow what lies over them: under joists, along and across a roof, balloon frames."""

import pytest
from tests.houses import house

from balken.catalog.sections import section
from balken.derive import derive
from balken.framing.roles import STUD_ROLES
from balken.model import edits
from balken.model.errors import EditError
from balken.model.records import Floor, Framing, Hang
from balken.units.system import FOOT, INCH


def with_partition(start, end, role="divides"):
    p = house(middle=True)
    foot, head = Hang(level="level-1"), Hang(level="level-2")
    return edits.add_wall(p, start, end, "inside-2x4", foot, head, "centre", role=role)


def tops(model, wall):
    layers = [q for q in model.pieces.values() if q.wall == wall and q.role == "wall layer"]
    return [max(q.solid.at(a, b, t)[2] for a, b in q.solid.rings[0] for t in (0.0, q.solid.depth)) for q in layers]


def test_a_wall_fitted_to_a_floor_ends_under_its_joists_and_follows_them():
    p = with_partition((10 * FOOT, 1 * FOOT), (10 * FOOT, 9 * FOOT))
    p = edits.add_level(p, "level-2", 1.1 * FOOT, "Upper floor", "floor")
    level = p.levels[-1]
    upper = Floor(id="floor-2", name="Upper", level=level.id, walls=tuple(w.id for w in p.walls[:4]))
    p = edits.add(p, upper)
    wall = p.walls[-1].id
    p = edits.change(p, wall, head_under="floor-2")
    model = derive(p)
    under = level.height - upper.deck - section(model.designs[("floor-2", "joists")].size).depth
    assert max(tops(model, wall)) == pytest.approx(under)
    studs = [q for q in model.pieces.values() if q.owner == wall and q.role in STUD_ROLES]
    assert studs
    assert max(max(q.start[2], q.end[2]) for q in studs) <= under + 1.0
    lower = derive(edits.set_level(p, level.id, level.height - 3 * INCH))
    assert max(tops(lower, wall)) == pytest.approx(under - 3 * INCH)
    # The floor goes: the wall falls back on its level.
    assert derive(edits.remove(p, "floor-2")).lines[wall].band.top == pytest.approx(8 * FOOT)
    with pytest.raises(EditError, match="not there"):
        edits.change(p, wall, head_under="floor-9")


def test_walls_fitted_to_a_roof_rake_across_it_and_stay_level_along_it():
    across = with_partition((10 * FOOT, 1 * FOOT), (10 * FOOT, 9 * FOOT))
    wall = across.walls[-1].id
    model = derive(edits.change(across, wall, head_under="roof-1"))
    plan = model.roofs[0]
    heights = tops(model, wall)
    assert max(heights) > plan.bearing + 3 * FOOT  # towards the ridge in the middle of 20 ft at 6 in 12
    for layer in (q for q in model.pieces.values() if q.wall == wall and q.role == "wall layer"):
        corners = {(round(x), round(y), round(z)) for x, y, z in _corners(layer.solid)}
        top = {z for _, _, z in corners if z > plan.bearing - 1}
        assert len(top) > 1  # it rakes

    along = with_partition((8 * FOOT, 5 * FOOT), (18 * FOOT, 5 * FOOT))
    wall = along.walls[-1].id
    model = derive(edits.change(along, wall, head_under="roof-1"))
    head = model.lines[wall].band.top
    eave = plan.bearing
    # About 5 ft in from the eave at 6 in 12: some 2 ft 6 in up, less what the bird's mouth takes.
    assert eave + 2 * FOOT < head < eave + 3 * FOOT
    steeper = derive(edits.change(edits.change(along, wall, head_under="roof-1"), "roof-1", pitch=1.0))
    assert steeper.lines[wall].band.top > head + 2 * FOOT


def test_a_balloon_wall_carries_a_floor_on_a_ribbon():
    p = house()
    p = edits.add_level(p, "level-2", 8 * FOOT, "Plate 2", "plate")
    p = edits.add_level(p, "level-2", 1 * FOOT, "Upper floor", "floor")
    level = p.levels[-1]
    plate = next(v for v in p.levels if v.name == "Plate 2")
    for w in p.walls[:4]:
        p = edits.change(p, w.id, head=Hang(level=plate.id), framing=Framing(balloon=True))
    p = edits.add(p, Floor(id="floor-2", name="Upper", level=level.id, walls=tuple(w.id for w in p.walls[:4])))
    model = derive(p)
    plan = next(f for f in model.floors if f.floor.id == "floor-2")
    assert {s for line in plan.lines for s in line.supports} <= {w.id for w in p.walls}
    assert not plan.snags
    assert model.path.lost == ()


def _corners(solid):
    return [solid.at(a, b, t) for a, b in solid.rings[0] for t in (0.0, solid.depth)]
