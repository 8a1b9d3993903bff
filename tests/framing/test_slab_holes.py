"""Holes of slabs go along with the axes they are tied to and the walls they lie at; askew grids turn them."""

import math

import pytest
import shapely

from balken.demo import orchard_road
from balken.derive import derive
from balken.geometry.plane import left
from balken.model import edits, foundation_edits, grid_edits, wall_edits
from balken.model.errors import EditError
from balken.model.kinds.slab import hole_ring
from balken.model.lookup import by_id, locate
from balken.model.records import AxisPoint, FreePoint, Hole


def holed():
    """The demo's slab with a rectangle near its middle, off all walls; return the project and its slab's id."""
    p = orchard_road()
    plan = next(v for v in derive(p).slabs if v.slab.id == "slab-2")
    x, y = shapely.Polygon(plan.ring).representative_point().coords[0]
    return foundation_edits.add_hole(p, "slab-2", [x - 300.0, y - 200.0, 600.0, 400.0]), "slab-2"


def at(p, slab):
    hole = by_id(p.slabs)[slab].holes[0]
    return hole, shapely.Polygon(hole_ring(hole, p.grids))


def test_a_hole_follows_its_axes():
    p, slab = holed()
    hole, before = at(p, slab)
    assert isinstance(hole.place, AxisPoint)
    grid = by_id(p.grids)[hole.place.grid]
    moved = (
        grid_edits.set_axis_gap(p, grid.id, hole.place.x_axis, 4321.0)
        if hole.place.x_axis != grid.x_axes[0].id
        else None
    )
    if moved is None:
        moved = grid_edits.set_axis_gap(p, grid.id, hole.place.y_axis, 4321.0)
    _, after = at(moved, slab)
    by = math.hypot(after.centroid.x - before.centroid.x, after.centroid.y - before.centroid.y)
    old = grid.x_axes if hole.place.x_axis != grid.x_axes[0].id else grid.y_axes
    name = hole.place.x_axis if old is grid.x_axes else hole.place.y_axis
    assert by == pytest.approx(abs(4321.0 - by_id(old)[name].gap))
    assert after.area == pytest.approx(before.area)


def test_a_hole_turns_with_its_grid():
    p, slab = holed()
    hole, before = at(p, slab)
    turned = edits.change(p, hole.place.grid, angle=by_id(p.grids)[hole.place.grid].angle + 30.0)
    _, after = at(turned, slab)
    a, b = (list(ring.exterior.coords) for ring in (before, after))
    way = [math.degrees(math.atan2(c[1][1] - c[0][1], c[1][0] - c[0][0])) for c in (a, b)]
    assert (way[1] - way[0]) % 360.0 == pytest.approx(30.0)


def test_a_hole_at_a_wall_goes_along_with_it_and_others_stay():
    p = orchard_road()
    model = derive(p)
    plan = next(v for v in model.slabs if v.slab.id == "slab-2")
    name = plan.sides[0]
    line = model.lines[name]
    x, y = line.band.at(line.band.length / 2.0, 100.0)
    near = Hole(place=FreePoint(x=x, y=y), diameter=150.0)
    far = shapely.Polygon(plan.ring).representative_point()
    p = edits.change(p, "slab-2", holes=(near, Hole(place=FreePoint(x=far.x, y=far.y), diameter=100.0)))
    n = left(line.band.direction)
    after = wall_edits.drag_walls(p, (name,), n[0] * 300.0, n[1] * 300.0)
    first, second = by_id(after.slabs)["slab-2"].holes
    got = locate(first.place, after.grids)
    assert math.dist(got, (x + n[0] * 300.0, y + n[1] * 300.0)) < 0.01
    assert locate(second.place, after.grids) == pytest.approx((far.x, far.y))


def test_holes_are_typed_again_and_told_when_they_are_off_the_slab():
    p, slab = holed()
    p = foundation_edits.change_hole(p, slab, 0, [1.0e5, 0.0, 900.0])
    hole, _ = at(p, slab)
    assert hole.diameter == 900.0
    assert locate(hole.place, p.grids) == pytest.approx((1.0e5, 0.0))
    assert "slab hole" in {f.code for f in derive(p).findings}
    with pytest.raises(EditError, match="x, y and diameter"):
        foundation_edits.change_hole(p, slab, 0, [1.0])
    other = Hole(place=FreePoint(x=0.0, y=0.0), outline=((0.0, 0.0), (500.0, 0.0), (0.0, 500.0)))
    p = edits.change(p, slab, holes=(other,))
    p = foundation_edits.change_hole(p, slab, 0, [700.0, 800.0])
    assert at(p, slab)[1].centroid.coords[0] == pytest.approx((700.0 + 500.0 / 3.0, 800.0 + 500.0 / 3.0))
