"""Studs of a build-up follow its core's thickness, its name follows its layers; what contradicts itself is a finding."""

import msgspec
import pytest
from tests.houses import house

from balken.derive import derive
from balken.findings.fixes import FIXES
from balken.model import edits
from balken.model.buildups import display_name, stud_size
from balken.model.errors import EditError
from balken.model.lookup import by_id
from balken.panel.fields import layer_field
from balken.units import Units
from balken.units.system import INCH


def copied():
    p = house()
    return edits.copy_buildup(p, "framed-2x6", tuple(w.id for w in p.walls))


def core_of(p):
    buildup = by_id(p.buildups)[p.walls[0].buildup]
    return buildup, next(i for i, layer in enumerate(buildup.layers) if layer.function == "core")


def typed(p, text):
    buildup, index = core_of(p)
    return edits.change(p, buildup.id, **layer_field(buildup, index).put(p, buildup, text))


@pytest.mark.parametrize(("text", "studs"), [("3 1/2", "2x4"), ("89 mm", "2x4"), ("5 1/2", "2x6"), ("140 mm", "2x6")])
def test_another_thickness_brings_other_studs_and_another_name(text, studs):
    p = typed(copied(), text)
    buildup, _ = core_of(p)
    assert stud_size(buildup) == studs
    assert f"{studs} studs" in display_name(buildup, Units.IMPERIAL)
    model = derive(p)
    assert {stick.size for stick in model.framed["wall-1"].wall.sticks if stick.role == "stud"} == {studs}
    assert not [f for f in model.findings if f.code == "build-up"]


def test_studs_of_no_such_depth_are_refused():
    with pytest.raises(EditError, match="no studs are that deep") as told:
        typed(copied(), "4 1/2")
    assert "2x4 studs 3.5 in" in told.value.do


def test_another_material_brings_its_depth():
    p = copied()
    buildup, index = core_of(p)
    p = edits.change_layer(p, buildup.id, index, material="2x4 studs")
    buildup, index = core_of(p)
    assert buildup.layers[index].thickness == pytest.approx(3.5 * INCH)
    p = edits.change_layer(p, buildup.id, index, material="concrete block", thickness=190.0)
    assert core_of(p)[0].layers[index].thickness == 190.0


def test_what_contradicts_itself_is_told():
    p = copied()
    buildup, index = core_of(p)
    layers = list(buildup.layers)
    layers[index] = msgspec.structs.replace(layers[index], thickness=89.0)  # as an older file may have it
    wrong = edits.change(p, buildup.id, layers=tuple(layers))
    (found,) = [f for f in derive(wrong).findings if f.code == "build-up"]
    assert "5 1/2" in found.what
    assert "3 1/2" in found.what
    named = edits.change(typed(p, "3 1/2"), buildup.id, name="Outside, 2x6")
    (found,) = [f for f in derive(named).findings if f.code == "build-up"]
    assert "named after studs of 2x6, made of 2x4" in found.what
    fixed = FIXES[found.fix.command](named, *found.fix.args, **dict(found.fix.fields))
    assert not [f for f in derive(fixed).findings if f.code == "build-up"]
