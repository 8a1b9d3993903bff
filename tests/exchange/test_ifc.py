"""The IFC file read back by ifcopenshell: valid, the counts match, and things are where they should be."""

from collections import Counter

import ifcopenshell
import ifcopenshell.geom
import ifcopenshell.validate
import numpy as np
import pytest
from ifcopenshell.util.element import get_material, get_psets
from ifcopenshell.util.placement import get_local_placement
from tests.framing.test_joined_roofs import joined
from tests.framing.test_roof_trim import roofed
from tests.houses import house
from tests.names import name_of, named

from balken.demo import orchard_road
from balken.derive import derive
from balken.exchange.ifc import Stopped, expected_counts, write_ifc
from balken.geometry.prism import extent
from balken.geometry.trimmed import Trimmed
from balken.model import edits, foundation_edits
from balken.model.records import Slope
from balken.model.roof_edits import set_side
from balken.units.system import INCH


@pytest.fixture(scope="module")
def file(demo_model, tmp_path_factory):
    path = tmp_path_factory.mktemp("ifc") / "demo.ifc"
    write_ifc(demo_model, path)
    return ifcopenshell.open(str(path))


def test_schema_and_counts(file, demo_model):
    assert file.schema == "IFC4"
    for kind, count in expected_counts(demo_model).items():
        assert len(file.by_type(kind, include_subtypes=False)) == count, kind
    assert len(file.by_type("IfcGrid")) == 1
    guids = Counter(e.GlobalId for e in file.by_type("IfcRoot"))
    assert max(guids.values()) == 1


def test_no_validation_errors_with_the_rules_of_the_schema(tmp_path):
    path = tmp_path / "small.ifc"
    write_ifc(derive(house()), path)
    log = ifcopenshell.validate.json_logger()
    ifcopenshell.validate.validate(str(path), log, express_rules=True)
    assert log.statements == []


def test_no_validation_errors_in_the_demo(file):
    log = ifcopenshell.validate.json_logger()
    ifcopenshell.validate.validate(file, log)
    assert log.statements == []


def world(entity):
    """Return the corners of an element's first extrusion in world mm."""
    matrix = get_local_placement(entity.ObjectPlacement)
    solid = next(r for r in entity.Representation.Representations if r.RepresentationIdentifier == "Body").Items[0]
    profile = solid.SweptArea
    if profile.is_a("IfcRectangleProfileDef"):
        cx, cy = profile.Position.Location.Coordinates
        x, y = profile.XDim / 2, profile.YDim / 2
        ring = [(cx - x, cy - y), (cx + x, cy - y), (cx + x, cy + y), (cx - x, cy + y)]
    else:
        ring = [p.Coordinates for p in profile.OuterCurve.Points]
    points = np.array([(a, b, t, 1.0) for t in (0.0, solid.Depth) for a, b in ring])
    return (matrix @ points.T).T[:, :3]


@pytest.mark.parametrize(
    "key", ["floor-1/joist/003a", "roof-1/rafter/003b", "roof-1/ridge/0", "foundation-1/wall-2/footing"]
)
def test_members_are_where_the_model_has_them(file, demo_model, key):
    key = named(demo_model, key)
    entity = next(e for e in file.by_type("IfcElement") if name_of(e) == key)
    points = world(entity)
    low, high = extent(demo_model.pieces[key].solid)
    assert points.min(0) == pytest.approx(low, abs=0.01)
    assert points.max(0) == pytest.approx(high, abs=0.01)


def test_material_profile_and_quantities(file, demo_model):
    key = named(demo_model, "floor-1/joist/003a")
    joist = next(e for e in file.by_type("IfcBeam") if name_of(e) == key)
    piece = demo_model.pieces[key]
    profiles = get_material(joist)
    assert profiles.MaterialProfiles[0].Material.Name == "DF-L No. 2"
    assert profiles.MaterialProfiles[0].Profile.YDim == pytest.approx(9.25 * 25.4)
    sets = get_psets(joist)
    assert sets["Qto_BeamBaseQuantities"]["Length"] == pytest.approx(piece.length)
    assert sets["Qto_BeamBaseQuantities"]["NetVolume"] == pytest.approx(piece.volume * 1e-9)
    assert sets["Balken_Check"]["Used"] == pytest.approx(demo_model.results[key].used, abs=1e-4)


def test_storeys_grid_layers_and_openings(file, demo_model):
    assert {s.Name: s.Elevation for s in file.by_type("IfcBuildingStorey")} == {
        v.name: pytest.approx(v.height) for v in demo_model.project.levels
    }
    grid = file.by_type("IfcGrid")[0]
    assert [a.AxisTag for a in grid.UAxes] == ["1", "2", "3", "4"]
    assert [a.AxisTag for a in grid.VAxes] == ["A", "B", "C"]
    wall = next(w for w in file.by_type("IfcWall") if name_of(w) == "wall-1")
    usage = get_material(wall)
    assert [v.LayerThickness for v in usage.ForLayerSet.MaterialLayers] == pytest.approx([12.7, 12.7, 139.7, 12.7])
    assert usage.OffsetFromReferenceLine == pytest.approx(-25.4)  # set out on the core's outside
    assert len(wall.HasOpenings) == 4
    assert all(e.ContainedInStructure for e in file.by_type("IfcElement") if not e.is_a("IfcOpeningElement"))


def test_writing_can_be_stopped_and_leaves_nothing(tmp_path, demo_model):
    path = tmp_path / "demo.ifc"
    with pytest.raises(Stopped):
        write_ifc(demo_model, path, lambda done, of: done < 40)
    assert list(tmp_path.iterdir()) == []


def test_the_same_model_gives_the_same_ids(tmp_path, demo_model):
    a, b = tmp_path / "a.ifc", tmp_path / "b.ifc"
    write_ifc(demo_model, a)
    write_ifc(demo_model, b)
    ids = [{e.GlobalId for e in ifcopenshell.open(str(p)).by_type("IfcRoot")} for p in (a, b)]
    assert ids[0] == ids[1]


def test_the_foundations_of_the_demo_have_quantities_that_agree(tmp_path):
    from ifcopenshell.util.element import get_psets

    from balken.demo import orchard_road

    made = derive(orchard_road())
    path = tmp_path / "demo.ifc"
    write_ifc(made, path)
    f = ifcopenshell.open(str(path))
    by_tag = {name_of(e): e for kind in ("IfcFooting", "IfcSlab", "IfcWall", "IfcColumn") for e in f.by_type(kind)}
    seen = set()
    for key, piece in made.pieces.items():
        if piece.role not in ("strip footing", "pad footing", "slab", "foundation wall", "pier"):
            continue
        element = by_tag[key]
        seen.add(element.is_a())
        values = next(v for k, v in get_psets(element, qtos_only=True).items() if k.startswith("Qto_"))
        volume = values.get("NetVolume", values.get("GrossVolume"))
        assert volume == pytest.approx(piece.volume * 1e-9, abs=1e-8)
    assert seen == {"IfcFooting", "IfcSlab", "IfcWall", "IfcColumn"}
    kinds = {e.PredefinedType for e in f.by_type("IfcFooting")}
    assert {"STRIP_FOOTING", "PAD_FOOTING"} <= kinds
    assert len(f.by_type("IfcFooting")) == sum(p.role in ("strip footing", "pad footing") for p in made.pieces.values())


def test_walls_of_block_and_sloping_footings_are_written(tmp_path):
    p = edits.change(orchard_road(), "foundation-3", made_of="hollow block", thickness=7.625 * INCH)
    slope = Slope(wall="wall-3", start=2000.0, end=6000.0, deeper_end=300.0)
    model = derive(foundation_edits.add_slope(p, "foundation-1", slope))
    path = tmp_path / "block.ifc"
    write_ifc(model, path)
    log = ifcopenshell.validate.json_logger()
    ifcopenshell.validate.validate(str(path), log)
    assert log.statements == []
    written = ifcopenshell.open(str(path))
    walls = {n: w for w in written.by_type("IfcWall") if (n := name_of(w)).startswith("foundation-3/")}
    assert walls
    assert {get_material(w).Name for w in walls.values()} == {"concrete block"}
    (wedge,) = [e for e in written.by_type("IfcFooting") if "/footing/slope/" in name_of(e)]
    values = next(v for k, v in get_psets(wedge, qtos_only=True).items() if k.startswith("Qto_"))
    volume = values.get("NetVolume", values.get("GrossVolume"))
    assert volume == pytest.approx(model.pieces[name_of(wedge)].volume * 1e-9)


def test_every_role_is_written(tmp_path):
    """No role of the model is left out: each piece, by its key, stands in the file, but for layers, which are walls."""
    from balken.exchange.ifc import WITHIN_WALLS

    p = orchard_road()
    p = edits.change(p, "slab-1", insulation=50.0, subbase=100.0, blinding=50.0, edge_depth=300.0)
    model = derive(p)
    roles = {piece.role for piece in model.pieces.values()}
    assert {"insulation", "subbase", "blinding"} <= roles
    file = tmp_path / "house.ifc"
    write_ifc(model, file)
    read = ifcopenshell.open(str(file))
    tags = {name_of(e) for e in read.by_type("IfcElement")}
    missing = {piece.role for key, piece in model.pieces.items() if key not in tags} - WITHIN_WALLS
    assert not missing


def test_what_ifc_has_no_place_for_comes_back(tmp_path):
    from balken.exchange.ifc_reader import read_ifc

    p = house()
    p = edits.change(p, "wall-1", cover=250.0, framing__spacing=610.0, framing__balloon=True, framing__count_from="end")
    p = edits.change(p, "wall-2", framing__species="S-P-F", framing__grade="No. 1/No. 2", framing__spacing=None)
    p = edits.add_opening(p, "wall-1", "window", 2000.0, 1500.0, 1200.0, 800.0)
    p = edits.change(p, "opening-1", header="2-2x10")
    p = edits.change(p, p.walls[0].buildup, name="Street wall")
    file = tmp_path / "house.ifc"
    write_ifc(derive(p), file)
    q, report = read_ifc(file)
    assert not report.approximated
    first, second = q.walls[0], q.walls[1]
    assert (first.cover, first.framing.spacing, first.framing.balloon, first.framing.count_from) == (
        250.0,
        610.0,
        True,
        "end",
    )
    assert (second.framing.species, second.framing.grade, second.framing.spacing) == ("S-P-F", "No. 1/No. 2", None)
    assert q.openings[0].header == "2-2x10"
    assert next(b.name for b in q.buildups if b.id == first.buildup) == "Street wall"


def test_elements_show_marks_never_names(file, demo_model):
    marks = set(demo_model.marks.values())
    for element in file.by_type("IfcElement"):
        if element.is_a("IfcOpeningElement"):
            continue
        assert element.Tag in marks, element
        assert "/" not in element.Name
    joists = [e for e in file.by_type("IfcBeam") if e.PredefinedType == "JOIST"]
    assert all(j.Name.startswith(f"{j.Tag} 2x") for j in joists)
    former = [p for p in file.by_type("IfcPropertySingleValue") if p.Name == "FormerName"]
    assert {"floor-1/joist/003a", "roof-1/rafter/003b"} <= {p.NominalValue.wrappedValue for p in former}


def _read_back(model, path):
    """Write a model, see that the file is valid, and return it read, its members by their names, the settings of the kernel."""
    write_ifc(model, path)
    log = ifcopenshell.validate.json_logger()
    ifcopenshell.validate.validate(str(path), log)
    assert log.statements == []
    written = ifcopenshell.open(str(path))
    return written, {name_of(e): e for e in written.by_type("IfcMember")}, ifcopenshell.geom.settings()


def test_members_cut_off_by_a_roof_below_are_clipped(tmp_path):
    """Read back by ifcopenshell's geometry kernel: every jack, ridge and valley board has the volume that it has here."""
    import ifcopenshell.geom
    import ifcopenshell.util.shape

    model = derive(joined())
    path = tmp_path / "joined.ifc"
    _written, by_name, settings = _read_back(model, path)
    cut = {key: p for key, p in model.pieces.items() if isinstance(p.solid, Trimmed) or p.role == "valley board"}
    assert len(cut) > 8
    for key, piece in cut.items():
        shape = ifcopenshell.geom.create_shape(settings, by_name[key])
        made = ifcopenshell.util.shape.get_volume(shape.geometry)
        assert made == pytest.approx(piece.volume * 1e-9, rel=1e-4, abs=1e-7), key


@pytest.mark.parametrize("tails", ["square", "level", "cut back"])
def test_cut_tails_are_clipped(tmp_path, tails):
    """Read back by ifcopenshell's geometry kernel: rafters, hips and fly rafters have the volume that they have here."""
    import ifcopenshell.geom
    import ifcopenshell.util.shape
    from tests.framing.test_gablets import hipped

    p = set_side(hipped(overhang=450.0, fascia="2x6"), "roof-1", "wall-4", kind="gable")
    model = derive(edits.change(p, "roof-1", tails=tails))
    path = tmp_path / "tails.ifc"
    _written, by_name, settings = _read_back(model, path)
    for role in ("rafter", "hip rafter", "fly rafter", "fascia"):
        rows = [p for p in model.pieces.values() if p.role == role]
        for piece in (*rows[:4], *rows[-4:]):
            shape = ifcopenshell.geom.create_shape(settings, by_name[piece.key])
            made = ifcopenshell.util.shape.get_volume(shape.geometry)
            assert made == pytest.approx(piece.volume * 1e-9, rel=1e-4, abs=1e-7), piece.key


def test_backed_hips_are_clipped(tmp_path):
    """Read back by ifcopenshell's geometry kernel: hips with bird's mouths, cut tails and bevelled edges."""
    import ifcopenshell.geom
    import ifcopenshell.util.shape
    from tests.framing.test_backed_hips import backed

    model = derive(backed(tails="level", overhang=450.0))
    _written, by_name, settings = _read_back(model, tmp_path / "hips.ifc")
    rows = [p for p in model.pieces.values() if p.role == "hip rafter"]
    assert len(rows) == 4
    for piece in rows:
        assert piece.solid.tops
        shape = ifcopenshell.geom.create_shape(settings, by_name[piece.key])
        volume = ifcopenshell.util.shape.get_volume(shape.geometry)
        assert volume == pytest.approx(piece.volume * 1e-9, rel=1e-4, abs=1e-7), piece.key


def test_seats_on_a_ridge_beam_are_clipped(tmp_path):
    """Read back by ifcopenshell's geometry kernel: rafters with bird's mouth, cut tail and seat at the head, jacks with the last alone."""
    import ifcopenshell.geom
    import ifcopenshell.util.shape
    from tests.framing.test_ridge_seats import rested, winged

    model = derive(rested(winged(), tails="level"))
    _written, by_name, settings = _read_back(model, tmp_path / "ridge.ifc")
    made = [one for one in model.planes["roof-1"].members if one.wall and one.member.on_beam]
    rows = [one.key for one in made if one.member.role == "valley jack"][:4] + [one.key for one in made][:4]
    assert len(rows) == 8
    for key in rows:
        shape = ifcopenshell.geom.create_shape(settings, by_name[key])
        volume = ifcopenshell.util.shape.get_volume(shape.geometry)
        assert volume == pytest.approx(model.pieces[key].volume * 1e-9, rel=1e-4, abs=1e-7), key


def test_trusses_are_assemblies_of_their_sticks_and_plates(tmp_path):
    model = derive(edits.change(roofed(), "roof-1", framed="trusses"))
    write_ifc(model, tmp_path / "house.ifc")
    log = ifcopenshell.validate.json_logger()
    ifcopenshell.validate.validate(str(tmp_path / "house.ifc"), log, express_rules=True)
    assert log.statements == []
    file = ifcopenshell.open(str(tmp_path / "house.ifc"))
    for kind, count in expected_counts(model).items():
        assert len(file.by_type(kind, include_subtypes=False)) == count, kind
    assemblies, made = file.by_type("IfcElementAssembly"), model.trusses["roof-1"]
    assert len(assemblies) == len(made.row.places)
    assert {a.PredefinedType for a in assemblies} == {"TRUSS"}
    common = next(a for a in assemblies if a.Tag == "T1")
    parts = [part for relation in common.IsDecomposedBy for part in relation.RelatedObjects]
    assert Counter(part.is_a() for part in parts) == {
        "IfcMember": len(made.common.frame.sticks),
        "IfcPlate": 2 * len(made.makes[0].plates),
    }
    assert not any(part.ContainedInStructure for part in parts)
    assert common.ContainedInStructure
    # Where they are: sticks and plates as high as in the model.
    settings = ifcopenshell.geom.settings()
    settings.set("use-world-coords", True)
    high = {
        kind: max(max(ifcopenshell.geom.create_shape(settings, p).geometry.verts[2::3]) for p in parts if p.is_a(kind))
        for kind in ("IfcMember", "IfcPlate")
    }
    top = max(p.solid.heights[1] for p in model.pieces.values() if p.role == "truss top chord")
    plate = max(y for p in made.makes[0].plates for _, y in p.ring) + model.surfaces[0].bearing
    assert high["IfcMember"] == pytest.approx(top / 1000.0, abs=1e-4)
    assert high["IfcPlate"] == pytest.approx(plate / 1000.0, abs=1e-4)
