"""Framed walls that stand on concrete: plates treated and bolted down, drawn where they lie; those on floors as before."""

import pytest
from tests.houses import house

from balken.derive import derive
from balken.derived.bolted import bolted_plates
from balken.documents.foundation_plan import _bolts
from balken.documents.quantities import quantities
from balken.model import edits
from balken.model.kinds.foundation import NO_SILL
from balken.units.system import FOOT, INCH


def on_slab():
    """Walls whose feet are the tops of their foundations, without a sill plate."""
    p = house()
    f = p.foundations[0]
    for wall in p.walls:
        if wall.id in f.walls:
            p = edits.change(p, wall.id, foot=f.head)
    return edits.change(p, f.id, sill_size=NO_SILL)


def test_plates_on_concrete_are_treated_and_bolted():
    p = on_slab()
    model = derive(p)
    told = 0
    for run in model.runs:
        framed = model.framed[run.wall]
        assert framed.on_concrete
        plates = [x for x in framed.pieces if x.role == "bottom plate"]
        assert {(x.species, x.grade) for x in plates} == {
            (model.lines[run.wall].wall.framing.header_species, "No. 2 treated")
        }
        assert {x.grade for x in framed.pieces if x.role == "stud"} == {"Stud"}
        spans, depth = bolted_plates(model, run)
        assert len(spans) == len(plates)
        assert sum(b - a for a, b in spans) == pytest.approx(sum(x.length for x in plates), abs=1.0)
        # The middle of the plates is that of the wall's core.
        line = model.lines[run.wall]
        x, y = line.band.at(1000.0, sum(line.core) / 2.0)
        sx, sy = run.sill.at(0.0, depth)
        inward = run.sill.inward
        assert (x - sx) * inward[0] + (y - sy) * inward[1] == pytest.approx(0.0, abs=0.01)
        told += sum(max(2, -(-(b - a) // run.foundation.bolt_spacing)) for a, b in spans)
    assert quantities(model).bolts >= told  # two a plate, and none farther apart than typed
    strokes = [i for i in _bolts(model, 48.0) if i.segments]
    assert sum(len(i.segments) for i in strokes) == 2 * quantities(model).bolts


def test_plates_on_floors_stay_as_they_are():
    model = derive(house())
    assert not any(f.on_concrete for f in model.framed.values())
    for run in model.runs:
        assert bolted_plates(model, run) == ((), None)
    assert {x.grade for f in model.framed.values() for x in f.pieces if x.role == "bottom plate"} == {"No. 2"}


def test_inside_walls_on_a_slab_are_treated_too():
    p = edits.add_level(house(), "level-1", -4.0 * INCH, "Slab", "slab")
    from balken.model.records import FreePoint, Hang, Slab, Wall

    level = p.levels[-1].id
    outside = tuple(w.id for w in p.walls if w.role == "outside")
    p = edits.add(p, Slab(id="slab-1", name="Slab", walls=outside, level=level))
    p = edits.add(
        p,
        Wall(id="wall-9", start=FreePoint(x=3000.0, y=1000.0), end=FreePoint(x=3000.0, y=1000.0 + 8.0 * FOOT), buildup="inside-2x4",
             foot=Hang(level=level), head=Hang(level=level, offset=8.0 * FOOT), role="divides"),
    )  # fmt: skip
    model = derive(p)
    assert model.framed["wall-9"].on_concrete
