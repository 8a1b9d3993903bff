"""Reading IFC: what Balken writes comes back equal; other files are read, simplified or refused with a reason."""

import json

import ifcopenshell
import ifcopenshell.guid
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from tests.houses import house
from tests.shop import shop

from balken.cli import main
from balken.demo import orchard_road
from balken.derive import derive
from balken.exchange.file_errors import FileError
from balken.exchange.ifc import _Writer, write_ifc
from balken.exchange.ifc_reader import read_ifc
from balken.model import column_edits, edits, wall_edits
from balken.model.lookup import by_id, height, locate
from balken.model.records import Hang
from balken.units.system import FOOT


def figure(project):
    """Return what must come back: levels, axes, walls in place with their layers, openings."""
    buildups = by_id(project.buildups)
    walls = []
    for w in project.walls:
        places = [round(c, 3) + 0.0 for p in (w.start, w.end) for c in locate(p, project.grids)]
        heights = [round(height(h, project.levels), 3) for h in (w.foot, w.head)]
        layers = [(v.material, round(v.thickness, 3), v.function) for v in buildups[w.buildup].layers]
        walls.append((places, heights, layers, w.set_out, w.outside, w.role))
    return {
        "levels": sorted((v.name, v.role, round(v.height, 3)) for v in project.levels),
        "grids": [(g.name, [a.label for a in g.x_axes], [a.label for a in g.y_axes]) for g in project.grids],
        "gaps": [[round(a.gap, 3) for a in (*g.x_axes, *g.y_axes)] for g in project.grids],
        "walls": walls,
        "openings": sorted(
            (
                project.walls.index(by_id(project.walls)[o.wall]),
                o.kind,
                *(round(v, 3) for v in (o.offset, o.width, o.height, o.sill)),
            )
            for o in project.openings
        ),
    }


def there_and_back(project, tmp_path):
    path = tmp_path / "there.ifc"
    write_ifc(derive(project), path)
    return read_ifc(path)


def test_the_demo_comes_back_equal(tmp_path, demo):
    back, report = there_and_back(demo, tmp_path)
    assert figure(back) == figure(demo)
    assert report.taken == {"levels": 5, "axes": 7, "walls": 5, "openings": 12, "columns": 0, "references": 0}
    assert report.approximated == []
    assert all(w.start.__class__.__name__ == "AxisPoint" for w in back.walls)  # tied to the axes again


def test_two_storeys_wings_and_columns_come_back_equal(tmp_path):
    p = orchard_road()
    foot, head = Hang(level="level-1"), Hang(level="level-2")
    p = column_edits.add_columns(p, "grid-1", ("x2", "x3"), ("y2",), foot, head, 140.0, 90.0)
    back, report = there_and_back(p, tmp_path)
    assert figure(back) == figure(p)
    assert report.taken["columns"] == len(p.columns) == 8
    for a, b in zip(p.columns, back.columns, strict=True):
        assert locate(a.place, p.grids) == pytest.approx(locate(b.place, back.grids))
        assert (a.width, a.depth, a.material) == pytest.approx((b.width, b.depth, b.material))
    assert all("derives" in row[3] for row in report.left_out if row[1] == "IfcColumn")  # the piers
    told = report.as_json()
    assert told["counts"]["walls"] == len(told["ids"]["walls"]) == 23


@settings(max_examples=15)
@given(
    st.floats(14 * FOOT, 50 * FOOT),
    st.floats(14 * FOOT, 50 * FOOT),
    st.booleans(),
    st.booleans(),
    st.floats(0, 360),
    st.sampled_from(["outside", "core outside", "centre", "inside"]),
)
def test_random_houses_come_back_equal(tmp_path_factory, long, wide, middle, clockwise, angle, set_out):
    p = house(long, wide, middle=middle, clockwise=clockwise)
    p = edits.add_opening(p, "wall-1", "door", 3 * FOOT, 3 * FOOT, 7 * FOOT, 0.0)
    p = edits.add_opening(p, "wall-2", "window", 5 * FOOT, 4 * FOOT, 3 * FOOT, 3 * FOOT)
    p = edits.change(p, "wall-1", set_out=set_out)
    p = wall_edits.turn_walls(p, tuple(w.id for w in p.walls), (1000.0, 2000.0), angle)
    back, _ = there_and_back(p, tmp_path_factory.mktemp("ifc"))
    got, want = figure(back), figure(p)
    for a, b in zip(got.pop("walls"), want.pop("walls"), strict=True):
        assert a[0] == pytest.approx(b[0], abs=0.01)
        assert a[1:3] == b[1:3]
        assert a[4:] == b[4:]
    assert got == want


def foreign(schema: str, layers: bool = True, metres: bool = True) -> ifcopenshell.file:
    """Return a small file as another program might write it."""
    f = ifcopenshell.file(schema=schema)
    new = f.create_entity
    unit = new("IfcSIUnit", None, "LENGTHUNIT", None if metres else "MILLI", "METRE")
    origin = new("IfcCartesianPoint", (0.0, 0.0, 0.0))
    world = new("IfcAxis2Placement3D", origin, None, None)
    context = new("IfcGeometricRepresentationContext", None, "Model", 3, 1e-5, world, None)

    def root(kind, *rest):
        extra = ()
        if schema == "IFC2X3":
            person = new("IfcPerson", None, "X")
            organization = new("IfcOrganization", None, "X")
            both = new("IfcPersonAndOrganization", person, organization)
            program = new("IfcApplication", organization, "1", "X", "X")
            extra = (new("IfcOwnerHistory", both, program, None, "ADDED", None, None, None, 0),)
        return new(kind, ifcopenshell.guid.new(), *(extra or (None,)), *rest)

    project = root("IfcProject", "Elsewhere", None, None, None, None, [context], new("IfcUnitAssignment", [unit]))
    place = new("IfcLocalPlacement", None, world)
    storey = root("IfcBuildingStorey", "Ground floor", None, None, place, None, None, "ELEMENT", 0.0)
    root("IfcRelAggregates", None, None, project, [storey])
    k = 1.0 if metres else 1000.0
    line = new("IfcPolyline", [new("IfcCartesianPoint", (0.0, 0.0)), new("IfcCartesianPoint", (6.0 * k, 0.0))])
    axis = new("IfcShapeRepresentation", context, "Axis", "Curve2D", [line])
    ring = [(0.0, -0.1 * k), (6.0 * k, -0.1 * k), (6.0 * k, 0.1 * k), (0.0, 0.1 * k), (0.0, -0.1 * k)]
    profile = new(
        "IfcArbitraryClosedProfileDef", "AREA", None, new("IfcPolyline", [new("IfcCartesianPoint", p) for p in ring])
    )
    up = new("IfcDirection", (0.0, 0.0, 1.0))
    body = new(
        "IfcShapeRepresentation",
        context,
        "Body",
        "SweptSolid",
        [new("IfcExtrudedAreaSolid", profile, world, up, 2.75 * k)],
    )
    shape = new("IfcProductDefinitionShape", None, None, [axis, body])
    kind = "IfcWallStandardCase" if schema != "IFC4X3" else "IfcWall"
    wall = root(
        kind,
        "W1",
        None,
        None,
        new("IfcLocalPlacement", place, world),
        shape,
        None,
        *([] if schema == "IFC2X3" else [None]),
    )
    root("IfcRelContainedInSpatialStructure", None, None, [wall], storey)
    if layers:
        brick = new("IfcMaterialLayer", new("IfcMaterial", "Facing brick"), 0.2 * k, None)
        usage = new("IfcMaterialLayerSetUsage", new("IfcMaterialLayerSet", [brick]), "AXIS2", "POSITIVE", -0.1 * k)
        root("IfcRelAssociatesMaterial", None, None, [wall], usage)
    return f


@pytest.mark.parametrize("schema", ["IFC2X3", "IFC4", "IFC4X3"])
@pytest.mark.parametrize("metres", [True, False])
def test_other_schemas_and_units(tmp_path, schema, metres):
    path = tmp_path / "other.ifc"
    foreign(schema, metres=metres).write(str(path))
    project, report = read_ifc(path)
    assert [v.name for v in project.levels] == ["Ground floor"]
    line = derive(project).lines["wall-1"]
    assert line.band.length == pytest.approx(6000.0)
    assert line.thickness == pytest.approx(200.0)
    assert line.band.top == pytest.approx(2750.0)
    assert line.wall.set_out == "centre"
    assert line.buildup.layers[0].material == "brick"
    assert report.taken["walls"] == 1


def test_a_wall_without_layers_is_simplified_and_said(tmp_path):
    path = tmp_path / "other.ifc"
    foreign("IFC4", layers=False).write(str(path))
    project, report = read_ifc(path)
    assert len(project.walls) == 1
    assert "no layers" in report.approximated[0][3]
    assert len(report.approximated[0][0]) == 22  # a GlobalId


@pytest.mark.parametrize(
    ("content", "says"),
    [
        (b"", "not an IFC file"),
        (b"PK\x03\x04", "not an IFC file"),
        (b"ISO-10303-21;\nHEADER;\nnothing", "."),
        (
            b"ISO-10303-21;\nHEADER;\nFILE_DESCRIPTION((''),'2;1');\nFILE_NAME('','',(''),(''),'','','');\nFILE_SCHEMA(('AP214'));\nENDSEC;\nDATA;\nENDSEC;\nEND-ISO-10303-21;\n",
            ".",
        ),
    ],
)
def test_broken_files_are_refused_with_a_reason(tmp_path, capsys, content, says):
    path = tmp_path / "broken.ifc"
    path.write_bytes(content)
    with pytest.raises(FileError, match=says):
        read_ifc(path)
    assert main(["new", "--from", str(path), "-o", str(tmp_path / "x.balken")]) == 2
    assert "Traceback" not in capsys.readouterr().err
    assert not (tmp_path / "x.balken").exists()


def test_the_command_writes_project_and_report(tmp_path, capsys):
    source, target, told = tmp_path / "a.ifc", tmp_path / "a.balken", tmp_path / "a.json"
    source.write_text(_Writer(derive(shop()), None).write().to_string())
    assert main(["new", "--from", str(source), "-o", str(target), "--report", str(told)]) == 0
    report = json.loads(told.read_text())
    assert (report["levels"], report["axes"], report["walls"], report["openings"]) == (5, 7, 5, 12)
    assert {"id", "class", "name", "why"} == set(report["left_out"][0])
    assert "5 walls" in capsys.readouterr().out
    assert main(["build", str(target)]) == 0
    assert main(["new", "--report", str(told), "-o", str(target)]) == 2
