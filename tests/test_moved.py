"""Nothing follows from where a house stands, which way it is turned, or in which order its parts were drawn."""

import pytest
from msgspec.structs import replace

from balken.demo import orchard_road
from balken.derive import derive
from balken.model import edits
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
