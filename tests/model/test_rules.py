"""What no project may hold: each is refused with what, where and (where it helps) what to do; nothing changes."""

import math

import pytest

from balken.demo import orchard_road
from balken.model import column_edits, edits, foundation_edits, grid_edits
from balken.model.errors import EditError
from balken.model.lookup import by_id
from balken.model.records import Column, FreePoint, Hang, Hole, Recess, Step
from balken.units.system import FOOT, INCH

F = "foundation-1"
ORIGIN = FreePoint(x=0.0, y=0.0)


@pytest.fixture(scope="module")
def p():
    p = edits.add(
        orchard_road(),
        Recess(id="recess-9", foundation=F, wall="wall-2", offset=10 * FOOT, width=5 * INCH, height=9 * INCH),
    )
    return grid_edits.add_radial_grid(p, (30.0, 30.0), (20 * FOOT, 10 * FOOT))


def changed(record_id, **fields):
    return lambda p: edits.change(p, record_id, **fields)


def step(wall, at, drop):
    return lambda p: edits.change(p, F, steps=(Step(wall=wall, at=at, drop=drop),))


def radial(p, way, **fields):
    grid = p.grids[-1]
    axes = getattr(grid, way)
    return edits.change(p, grid.id, **{way: (*axes[:-1], type(axes[-1])(**{**_fields(axes[-1]), **fields}))})


def _fields(record):
    return {name: getattr(record, name) for name in record.__struct_fields__}


WRONG = [
    (changed(F, thickness=50.0), "4 in to 5 ft"),
    (changed(F, footing_depth=20.0), "footing must be 4 in"),
    (changed(F, footing_width=100.0), "at least as wide as its wall"),
    (changed(F, inset=5 * FOOT), "set in or out"),
    (changed(F, footing_offset=6 * FOOT), "set in or out"),
    (changed(F, ledge=3 * FOOT), "ledge must be narrower"),
    (changed(F, upper_height=FOOT, upper_thickness=0.0), "upper part"),
    (changed(F, lap=-1.0), "lap must be"),
    (changed(F, bolt_spacing=20 * FOOT), "bolts"),
    (changed(F, blinding=-5.0), "blinding must be"),
    (changed(F, sill_size="3x7"), "3x7"),
    (changed(F, walls=("wall-2", "wall-99")), "wall-99"),
    (step("wall-2", 5 * FOOT, 30 * FOOT), "makes no sense"),
    (step("wall-2", 300 * FOOT, FOOT), "long"),
    (step("wall-5", 5 * FOOT, FOOT), "does not stand on this foundation"),
    (step("wall-2", 5 * FOOT, -20 * FOOT), "20 ft"),
    (step("wall-2", math.nan, FOOT), "within the wall"),
    (changed("recess-9", foundation="foundation-9"), "foundation wall is not there"),
    (changed("recess-9", depth=10 * FOOT), "shallower than the wall"),
    (changed("recess-9", offset=-FOOT), "within|past"),
    (changed("pad-1", width=20.0), "8 in to 25 ft"),
    (changed("pad-1", dead=-1.0), "zero or more"),
    (changed("pad-1", head=Hang(level="level-9")), "pier"),
    (changed("pad-1", joined="pad-9"), "pad"),
    (changed("slab-1", thickness=10.0), "2 in to 5 ft"),
    (changed("slab-1", subbase=9000.0), "layers, edges and haunches"),
    (changed("slab-1", seat=-1.0), "out of bounds"),
    (changed("slab-1", holes=(Hole(place=ORIGIN, outline=((0.0, 0.0), (1.0, 0.0))),)), "three corners"),
    (changed("slab-1", holes=(Hole(place=ORIGIN, width=100.0),)), "a width and a depth"),
    (changed("slab-1", holes=(Hole(place=ORIGIN, diameter=-1.0),)), "a width and a depth|below zero"),
    (changed("slab-1", holes=(Hole(place=FreePoint(x=math.nan, y=0.0), diameter=100.0),)), "no number"),
    (lambda p: foundation_edits.set_bow(p, "slab-1", "wall-2", 1e9), "bow"),
    (lambda p: foundation_edits.set_bow(p, "slab-9", "wall-2", 10.0), "any more"),
    (lambda p: edits.set_soil(p, weight=100.0), "soil weighs"),
    (lambda p: edits.set_soil(p, friction=80.0), "angle of friction"),
    (lambda p: edits.set_soil(p, spread=0.0), "spread"),
    (lambda p: edits.set_concrete(p, fc=1.0), "concrete must be"),
    (lambda p: edits.set_loads(p, soil_bearing=0.0), "bearing|soil"),
    (lambda p: edits.set_project(p, stock_length=10.0), "longest stock"),
    (changed("wall-1", head_under="roof-9"), "not there"),
    (changed("wall-1", start=FreePoint(x=math.inf, y=0.0)), "out of all bounds"),
    (changed("column-1", width=5.0), "2 in to 10 ft"),
    (lambda p: radial(p, "x_axes", gap=0.1), "half a degree"),
    (lambda p: radial(p, "x_axes", label=" "), "empty or used twice"),
    (lambda p: radial(p, "y_axes", gap=math.inf), "out of all bounds"),
    (changed("level-1", name="  "), "needs a name"),
    (lambda p: edits.set_level(p, "level-1", 1e9), "out of all bounds"),
    (lambda p: column_edits.add_spot(p, (0.0, math.inf), 0.0), "out of all bounds"),
    (changed("opening-1", header="4-9x9"), "9x9"),
    (changed("opening-1", wall="wall-99"), "wall-99"),
    (changed("roof-1", deck=9000.0), "roof deck"),
    (changed("floor-1", joists=edits.with_fields(orchard_road().floors[0].joists, {"size": "4x4x4"})), "4x4x4"),
    (
        lambda p: edits.add(
            p, Column(id="c9", place=FreePoint(x=0.0, y=0.0), foot=Hang(level="x"), head=Hang(level="level-1"))
        ),
        "x",
    ),
]


@pytest.mark.parametrize(("edit", "says"), WRONG)
def test_what_cannot_be_is_refused_with_its_reason(p, edit, says):
    with pytest.raises(EditError, match=says) as caught:
        edit(p)
    assert len(str(caught.value)) > 15


def test_every_record_of_the_demo_is_found_by_its_id(p):
    for group in (p.levels, p.walls, p.foundations, p.slabs, p.pads, p.floors, p.roofs):
        assert len(by_id(group)) == len(group)
