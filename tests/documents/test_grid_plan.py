"""Grids on plans: bubbles, chains and overall dimensions, rays and arcs."""

import itertools
import math

import pytest

from balken.derive import derive
from balken.documents.display import Circle, Path, Text
from balken.documents.grid_plan import arc_points, grid_items
from balken.model import edits, grid_edits
from balken.units import Units

SCALE = 50.0


def square(**fields):
    p = grid_edits.add_grid(edits.new_project("G", Units.METRIC), (6000.0, 4000.0), (5000.0,), "1", "A")
    return edits.change(p, p.grids[0].id, **fields) if fields else p


def drawn(p):
    return grid_items(p.grids[0], p.units, SCALE)


@pytest.mark.parametrize(("bubbles", "count"), [("start", 5), ("end", 5), ("both", 10)])
def test_bubbles_stand_at_the_ends_chosen(bubbles, count):
    items = drawn(square(bubbles=bubbles))
    assert len([i for i in items if isinstance(i, Circle)]) == count
    assert len([i for i in items if isinstance(i, Path) and i.pen == "axis"]) == 5


def test_chain_and_overall_say_the_spacings():
    words = [i.text.replace(" ", "") for i in drawn(square()) if isinstance(i, Text) and not i.bold]
    assert sorted(words) == ["10000", "4000", "5000", "6000"]


def test_a_turned_grid_is_drawn_turned():
    items = drawn(square(angle=30.0))
    axis = next(i for i in items if isinstance(i, Path) and i.pen == "axis")
    (x0, y0), (x1, y1) = axis.points
    assert math.degrees(math.atan2(y1 - y0, x1 - x0)) % 180.0 == pytest.approx(120.0)


def test_a_radial_grid_has_rays_and_arcs():
    p = grid_edits.add_radial_grid(edits.new_project("R", Units.METRIC), (30.0, 30.0), (3000.0, 2000.0), "1", "A")
    grid = p.grids[0]
    items = drawn(p)
    axes = [i for i in items if isinstance(i, Path) and i.pen == "axis"]
    rays = [a for a in axes if len(a.points) == 2]
    arcs = [a for a in axes if len(a.points) > 2]
    assert len(rays) == len(grid.x_axes)
    assert len(arcs) == len(grid.y_axes)
    for arc in arcs:
        radii = {round(math.dist(grid.origin, point), 3) for point in arc.points}
        assert len(radii) == 1
    assert [i.text for i in items if isinstance(i, Text) and "\u00b0" in i.text] == ["30\u00b0", "30\u00b0"]
    assert derive(p).project is p


def test_points_of_an_arc_lie_on_it_and_turn_evenly():
    p = grid_edits.add_radial_grid(edits.new_project("R", Units.METRIC), (45.0,), (3000.0,), "1", "A")
    points = arc_points(p.grids[0], 3000.0, 0.0, 90.0)
    turns = [math.dist(a, b) for a, b in itertools.pairwise(points)]
    assert max(turns) - min(turns) < 1e-6
