"""What stands on decks loads the joists: walls across, along and at a slant, posts; by hand and by statics."""

import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from tests.houses import house
from tests.loads.test_columns_carry import balanced

from balken.derive import derive
from balken.documents.deck_marks import doubled
from balken.documents.display import Path, Text
from balken.documents.load_tree import flat, run_tree
from balken.documents.plan import plan
from balken.documents.plan_sheets import FLOORS
from balken.loads.cases import total
from balken.model import edits
from balken.model.naming import kind_of
from balken.model.records import Choice, Column, FreePoint, Hang
from balken.units.system import FOOT, INCH

INSIDE = "inside-2x4"


def with_wall(start, end, role="divides", p=None, buildup=INSIDE):
    """The test house, joists 20 ft long from front to back 16 in apart, with one more wall drawn on its deck."""
    p = p or house(joists=Choice(size="2x12", spacing=16 * INCH))
    foot, head = Hang(level="level-1"), Hang(level="level-2")
    return edits.add_wall(p, start, end, buildup, foot, head, "centre", role=role)


def on_joists(model):
    """Joists of the floor under what stands on it: by place across, (middle, force, width) of each load."""
    plan = model.floors[0]
    found = {}
    for name, rows in model.path.decks["floor-1"].joists.items():
        line = next(line for line in plan.lines if name.endswith(line.place))
        found[line] = [((r.low + r.high) / 2.0, r.force.dead, r.high - r.low) for r in rows]
    return found


def test_a_wall_across_loads_each_joist_with_its_bay():
    model = derive(with_wall((4 * FOOT, 8 * FOOT), (12 * FOOT, 8 * FOOT)))
    wall = model.project.walls[-1].id
    whole = model.path.walls[wall].foot.dead
    rows = on_joists(model)
    assert model.path.below[wall] == ("floor-1",)
    assert sum(force for loads in rows.values() for _, force, _ in loads) == pytest.approx(whole, rel=1e-9)
    inner = [sum(f for _, f, _ in loads) for loads in rows.values()][2:-2]
    assert inner == pytest.approx([whole / (8 * FOOT) * 16 * INCH] * len(inner), rel=1e-3)
    frame = model.floors[0].frame
    expected = frame.to((8 * FOOT, 8 * FOOT))[0]
    for loads in rows.values():
        assert all(at == pytest.approx(expected, abs=1.0) and wide >= 89.0 - 1e-6 for at, _, wide in loads)
    balanced(model)


def test_a_wall_along_two_joists_by_the_lever():
    """4 in from one joist and 12 in from the other: three quarters and one quarter."""
    p = house(joists=Choice(size="2x12", spacing=16 * INCH))
    plan = derive(p).floors[0]
    ts = sorted({line.t for line in plan.lines})
    t = ts[5] + 4 * INCH
    start, end = (plan.frame.back(plan.frame.to((0.0, y * FOOT))[0], t) for y in (4, 16))
    model = derive(with_wall(start, end, p=p))
    shares = {line.t: sum(f for _, f, _ in loads) for line, loads in on_joists(model).items()}
    gap = ts[6] - ts[5]
    whole = model.path.walls[model.project.walls[-1].id].foot.dead
    assert set(shares) == {ts[5], ts[6]}
    assert shares[ts[5]] == pytest.approx(whole * (1 - 4 * INCH / gap), rel=1e-6)
    assert shares[ts[6]] == pytest.approx(whole * 4 * INCH / gap, rel=1e-6)
    balanced(model)


@given(
    st.floats(1.0, 29.0), st.floats(1.0, 19.0), st.floats(0.0, 360.0), st.floats(3.0, 12.0), st.booleans()
)  # fmt: skip
def test_wherever_it_stands_forces_and_moments_balance(x, y, angle, long, bearing):
    """All of the wall comes down through the joists, and the bearings' moments about both axes are those of the wall."""
    dx, dy = math.cos(math.radians(angle)), math.sin(math.radians(angle))
    ends = [(x * FOOT, y * FOOT)]
    ends.append((min(max(x + long * dx, 1.0), 29.0) * FOOT, min(max(y + long * dy, 1.0), 19.0) * FOOT))
    if math.dist(*ends) < 2 * FOOT:
        return
    try:
        p = with_wall(*ends, "bearing" if bearing else "divides")
    except edits.EditError:
        return
    model = derive(p)
    wall = p.walls[-1].id
    if model.path.below[wall] != ("floor-1",):
        return
    made = model.path.decks["floor-1"]
    brought = np.array(model.path.shares[(wall, "floor-1")])
    rows = [(r.at, np.array(r.force)) for r in made.reactions]
    scale = max(1.0, abs(brought).max())
    assert sum(force for _, force in rows) == pytest.approx(brought, abs=1e-6 * scale)
    # The first moment in plan of what the wall hands over, from how its load lies along it.
    line = model.lines[wall]
    core = (line.core[0] + line.core[1]) / 2.0
    handed = model.path.along[wall]
    put = sum(
        (load * np.array(line.band.at(handed.low + (i + 0.5) * handed.step, core))[:, None]
         for i, load in enumerate(handed.loads)),
        np.zeros((2, 5)),
    )  # fmt: skip
    got = sum((np.outer(at, force) for at, force in rows), np.zeros((2, 5)))
    # A stretch of the diagram is at most 300 mm long: what lies in it is known to half of that.
    assert got == pytest.approx(put, abs=scale * 160.0)
    balanced(model)


def test_a_bearing_wall_doubles_its_joists_and_is_named():
    p = house(middle=True, joists=Choice(size="2x12", spacing=12 * INCH))
    p = edits.change(p, "foundation-1", walls=("wall-1", "wall-2", "wall-3", "wall-4"))
    model = derive(p)
    plan = model.floors[0]
    made = {piece.section for piece in model.of_layouts("joist")}
    assert made & {"2-2x12", "3-2x12"}
    assert model.designs[("floor-1", "joists")].size == "2x12"  # depth and size of the layout stay
    assert [f.things for f in model.findings if f.code == "wall on deck"] == [("wall-5", "floor-1")]
    assert len(model.path.decks["floor-1"].joists) == len(plan.lines)
    for name, result in model.loaded["floor-1"].results.items():
        assert model.results[name] is result
        assert model.piece(name).section == result.case.size
    balanced(model)


def test_one_joist_by_hand():
    """A 2x12 joist, simple span between the middles of its bearings, with its floor and one wall across: M by statics."""
    model = derive(with_wall((4 * FOOT, 8 * FOOT), (12 * FOOT, 8 * FOOT)))
    plan = model.floors[0]
    name, rows = sorted(model.path.decks["floor-1"].joists.items())[4]
    line = next(line for line in plan.lines if name.endswith(line.place))
    result = model.results[name]
    (a, b), (load,) = line.centres, rows
    span = b - a
    w = (10 + 40) * 0.0478802589804 * plan.spacing / 1000.0  # N/mm of dead 10 psf and live 40 psf
    low, high, p = load.low - a, load.high - a, load.force.dead
    x = np.linspace(0.0, span, 200_001)
    reaction = w * span / 2 + p * (span - (low + high) / 2) / span
    q = p / (high - low)
    moment = reaction * x - w * x**2 / 2 - q * (np.clip(x - low, 0, None) ** 2 - np.clip(x - high, 0, None) ** 2) / 2
    breadth = 38.1 * int(result.case.size[0] if "-" in result.case.size else 1)
    bending = next(c for c in result.checks if c.name == "bending")
    assert bending.combination == "D + L"
    assert bending.demand == pytest.approx(moment.max() / (breadth * 285.75**2 / 6), rel=1e-4)


def test_a_column_on_the_deck_loads_what_is_under_it():
    p = house(joists=Choice(size="2x12", spacing=16 * INCH))
    p = edits.add_level(p, "level-1", 7 * FOOT, "Shelf", "other")
    top = p.levels[-1].id
    place = FreePoint(x=10 * FOOT, y=8 * FOOT)
    p = edits.add(p, Column(id="column-1", place=place, foot=Hang(level="level-1"), head=Hang(level=top), size="6x6"))
    model = derive(p)
    assert model.path.below["column-1"] == ("floor-1",)
    assert model.path.decks["floor-1"].sum.dead == pytest.approx(model.path.columns["column-1"].foot.dead, rel=1e-9)
    assert [f.things for f in model.findings if f.code == "column on deck"] == [("column-1", "floor-1")]
    balanced(model)


def test_part_of_a_wall_over_nothing_is_lost_and_named():
    """A wall that runs out over the deck's end by 6 ft: what is beyond is lost, and said."""
    model = derive(with_wall((20 * FOOT, 8 * FOOT), (36 * FOOT, 8 * FOOT)))
    wall = model.project.walls[-1].id
    ((low, high),) = model.path.over_nothing[wall]
    assert high - low == pytest.approx(6 * FOOT, abs=6 * INCH)
    found = [f for f in model.findings if f.code == "nothing below" and f.things == (wall,)]
    assert len(found) == 1
    assert found[0].grave
    balanced(model)


def test_nothing_but_the_loaded_joists_changes():
    before = derive(house(joists=Choice(size="2x12", spacing=16 * INCH)))
    after = derive(with_wall((4 * FOOT, 8 * FOOT), (12 * FOOT, 8 * FOOT)))
    loaded = set(after.path.decks["floor-1"].joists)
    for name, result in before.results.items():
        if kind_of(name) == "joist" and name not in loaded:
            assert after.results[name] == result


def test_the_load_tree_says_through_what_it_comes():
    model = derive(with_wall((4 * FOOT, 8 * FOOT), (12 * FOOT, 8 * FOOT)))
    for run in model.runs:
        rows = [branch for _, branch in flat(run_tree(model, run.id)) if "through the joists of Floor" in branch.label]
        brought = total(r.force for r in model.path.reactions if r.bearer == run.id and r.through)
        assert len(rows) == (1 if any(brought) else 0)
        assert total(branch.load for branch in rows) == pytest.approx(brought, rel=1e-9)
        tree = run_tree(model, run.id)
        assert total(child.load for child in tree.children) == pytest.approx(tree.load, rel=1e-9, abs=1e-6)


def test_the_plan_shows_what_stands_on_the_deck_and_what_is_doubled():
    p = with_wall((4 * FOOT, 8 * FOOT), (12 * FOOT, 8 * FOOT))
    model = derive(p)
    wall, plan_of_floor = p.walls[-1].id, model.floors[0]
    items = plan(model, FLOORS, 50.0).items
    (outline,) = [item for item in items if isinstance(item, Path) and item.pen == "above"]
    assert outline.ref == wall
    xs, ys = zip(*outline.points, strict=True)
    assert (max(xs) - min(xs), max(ys) - min(ys)) == pytest.approx((8 * FOOT, 3.5 * INCH), abs=1.0)
    ((made, lines),) = doubled(model, plan_of_floor)
    assert made == "2-2x12"
    assert len(lines) == len(model.loaded["floor-1"].made)
    mark = model.marks[next(iter(model.loaded["floor-1"].made))]
    said = [i.text for i in items if isinstance(i, Text) and made in i.text]
    assert said == [f"{mark}  {len(lines)} x {made} under Wall 5"]
    assert not [i for i in plan(derive(house()), FLOORS, 50.0).items if isinstance(i, Path) and i.pen == "above"]
