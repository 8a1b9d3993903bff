"""Nothing follows from where a house stands, which way it is turned, or in which order its parts were drawn."""

from itertools import pairwise

import pytest
from hypothesis import example, given, settings
from hypothesis import strategies as st
from msgspec.structs import replace

from balken.demo import orchard_road
from balken.derive import derive
from balken.model import edits
from balken.model.records import Choice, Hang, Roof, RoofSide
from balken.model.roof_edits import add_dormer
from balken.units.system import FOOT, INCH
from tests.framing.test_joined_roofs import joined
from tests.framing.test_truss_wings import winged
from tests.framing.test_two_pitches import attic, broken
from tests.moving import alike, shuffled, turned
from tests.shop import shop

HOUSES = {
    "demo": orchard_road,
    "shop": shop,
    "wing askew": lambda: joined(skew=0.2),
    "trusses": winged,
    "barn": lambda: broken(attic(), "wall-1", "wall-3"),
}


@pytest.mark.parametrize("house", HOUSES)
@pytest.mark.parametrize(("degrees", "by"), [(0.0, (1234.567, -987.654)), (90.0, (0.0, 0.0)), (37.0, (5000.0, 100.0))])
def test_turned_and_moved_it_is_the_same(house, degrees, by):
    project = edits.set_loads(HOUSES[house](), wind_speed=55.0)
    here, there = derive(project), derive(turned(project, degrees, by))
    alike(here, there)
    assert sorted(f.what for f in there.findings) == sorted(f.what for f in here.findings)


@pytest.mark.parametrize("house", ["shop", "wing askew", "trusses", "barn"])
@pytest.mark.parametrize("seed", [1, 2])
def test_drawn_in_another_order_it_is_the_same(house, seed):
    project = HOUSES[house]()
    alike(derive(project), derive(shuffled(project, seed)))


def test_no_corner_stays_open_under_a_shallower_wall_drawn_first():
    """The wing's foundation ends on a corner of the basement's, which lies deeper: whichever is drawn first, the slab stays within its walls."""
    project = orchard_road()
    first = next(f for f in project.foundations if f.id == "foundation-3")
    others = tuple(f for f in project.foundations if f is not first)
    model = derive(replace(project, foundations=(first, *others)))
    before = derive(project)
    slabs = [[round(p.solid.volume) for p in m.pieces.values() if p.role == "slab"] for m in (before, model)]
    assert sorted(slabs[0]) == sorted(slabs[1])


def under_a_wing(long, wide, wing, pitch, gables, dormer):
    """A house with a wing before its first wall whose roof runs on over the main one; measures in mm, ``wing``: from, to, how far out."""
    p = edits.new_project("Wing")
    p = edits.add_level(p, "level-1", 8.0 * FOOT, "Plate", "plate")
    a, b, out = wing
    main = ((0.0, 0.0), (long, 0.0), (long, wide), (0.0, wide))
    lines = [*zip(main, main[1:] + main[:1], strict=True), *pairwise(((a, 0.0), (a, -out), (b, -out), (b, 0.0)))]
    for start, end in lines:
        p = edits.add_wall(p, start, end, "framed-2x6", Hang(level="level-1"), Hang(level="level-2"))
    rafters, bearing = Choice(size="2x10", spacing=16.0 * INCH), Hang(level="level-2")
    sides = tuple(RoofSide(wall=w, kind="gable") for w in gables)
    walls = ("wall-1", "wall-2", "wall-3", "wall-4")
    p = edits.add(p, Roof(id="roof-1", name="Main", walls=walls, bearing=bearing, shape="planes", pitch=pitch, overhang=6.0 * INCH, sides=sides, rafters=rafters))  # fmt: skip
    sides = (RoofSide(wall="wall-1", kind="roof"), RoofSide(wall="wall-6", kind="gable"))
    walls = ("wall-5", "wall-6", "wall-7", "wall-1")
    p = edits.add(p, Roof(id="roof-2", name="Wing", walls=walls, bearing=bearing, shape="planes", pitch=0.5, overhang=FOOT, sides=sides, rafters=rafters))  # fmt: skip
    return add_dormer(p, "roof-1", "wall-3", *dormer) if dormer else p


@pytest.mark.parametrize("degrees", [0.0, 10.0, 37.0, 111.0, 200.3])
def test_overhangs_under_a_wing_are_cut_whichever_way_it_is_turned(degrees):
    """Two gables side by side, the wing near one of them: what is laid over one another must be of areas alone."""
    p = under_a_wing(
        9640.485232, 9039.373419, (5032.572186, 8269.425751, 2447.21161), 0.75, ("wall-2", "wall-3"), (5084.92666, 1455.621662)
    )  # fmt: skip
    here, there = derive(p), derive(turned(p, degrees, (5000.0, 100.0)))
    assert here.surfaces[0].gone
    alike(here, there)


@given(
    degrees=st.floats(0.0, 360.0), long=st.floats(9000.0, 14_000.0), wide=st.floats(7000.0, 10_000.0), at=st.floats(600.0, 3000.0),
    broad=st.floats(2500.0, 5000.0), out=st.floats(1800.0, 6000.0), pitch=st.sampled_from([0.33, 0.5, 0.75, 1.0]),
)  # fmt: skip
@settings(max_examples=8, deadline=None)
@example(degrees=37.0, long=14_600.0, wide=9723.0, at=1585.0, broad=2774.0, out=3078.0, pitch=0.33)
def test_both_valleys_of_any_wing_have_their_boards(degrees, long, wide, at, broad, out, pitch):
    p = under_a_wing(long, wide, (at, at + broad, out), pitch, (), None)
    model = derive(turned(p, degrees, (5000.0, 100.0)))
    problem = [plan.problem for plan in model.surfaces]
    assert problem == ["", derive(p).surfaces[1].problem]
    if problem[1]:
        return  # steeper than what it runs onto, it rises over the hip beside it, whichever way it lies
    laid = [line for line in model.surfaces[1].surface.lines if line.kind == "laid"]
    boards = [piece for piece in model.pieces.values() if piece.role == "valley board"]
    assert len(boards) == len(laid) == 2
    assert boards[0].section == boards[1].section
    assert boards[0].solid.volume == pytest.approx(boards[1].solid.volume, rel=1e-3)
