"""Walls and other things as many programs write them: taken over, shown as outlines, or left out, each with a reason."""

import math

import ifcopenshell
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from tests.exchange.foreign import Foreign

from balken.derive import derive
from balken.exchange.ifc_reader import read_ifc
from balken.model import edits


@pytest.fixture
def read(tmp_path):
    def there(f):
        f.file.write(str(tmp_path / "f.ifc"))
        return read_ifc(tmp_path / "f.ifc")

    return there


def only_line(project):
    (line,) = derive(project).lines.values()
    return line


def why(rows):
    return " | ".join(row[3] for row in rows)


@pytest.mark.parametrize("schema", ["IFC2X3", "IFC4", "IFC4X3"])
def test_a_wall_without_an_axis_is_taken_from_the_middle_of_its_body(read, schema):
    f = Foreign(schema, metres=False)
    f.thing("IfcWall", f.shape(f.block(1.0, 2.0, 7.0, 2.3, 2.75, low=0.25)))
    project, report = read(f)
    line = only_line(project)
    assert (line.band.start, line.band.end) == (pytest.approx((1000.0, 2150.0)), pytest.approx((7000.0, 2150.0)))
    assert line.thickness == pytest.approx(300.0)
    assert (line.band.bottom, line.band.top) == (pytest.approx(250.0), pytest.approx(3000.0))
    assert "middle of its body" in why(report.approximated)


@given(
    st.floats(0.5, 12.0), st.floats(0.08, 0.45), st.floats(0.0, 360.0), st.floats(-30.0, 30.0), st.floats(-30.0, 30.0)
)
@settings(max_examples=25, deadline=None)
def test_a_wall_of_triangles_becomes_a_wall_wherever_it_stands(tmp_path_factory, long, wide, angle, x, y):
    f = Foreign()
    f.thing("IfcWall", f.shape(f.box(long, wide, 2.5, (x, y, 0.0), angle)))
    path = tmp_path_factory.mktemp("f") / "f.ifc"
    f.file.write(str(path))
    project, _ = read_ifc(path)
    line = only_line(project)
    assert line.band.length == pytest.approx(max(long, wide) * 1000.0, abs=2.0)
    assert line.thickness == pytest.approx(min(long, wide) * 1000.0, abs=2.0)
    c, s = math.cos(math.radians(angle)), math.sin(math.radians(angle))
    middle = (x + (c * long - s * wide) / 2.0) * 1000.0, (y + (s * long + c * wide) / 2.0) * 1000.0
    b = line.band
    assert ((b.start[0] + b.end[0]) / 2.0, (b.start[1] + b.end[1]) / 2.0) == pytest.approx(middle, abs=2.0)


def test_a_bent_wall_is_shown_as_an_outline(read):
    f = Foreign()
    bend = [(0.0, 0.0), (4.0, 0.0), (4.0, 3.0), (3.8, 3.0), (3.8, 0.2), (0.0, 0.2)]
    f.thing("IfcWall", f.shape(f.ring(bend, 2.5)))
    project, report = read(f)
    assert not project.walls
    (outline,) = project.references
    assert (outline.kind, len(outline.ring), outline.top) == ("wall", 6, 2500.0)
    assert "no straight strip; shown as an outline" in why(report.approximated)
    assert not report.left_out
    assert report.as_json()["counts"]["references"] == 1


def test_a_leaning_wall_is_shown_as_an_outline(read):
    f = Foreign()
    lean = f.placed(0.0, 0.0, axis=(0.0, 0.3, 1.0))
    f.thing("IfcWall", f.shape(f.block(0.0, 0.0, 5.0, 0.2, 2.5), axis=f.axis((0.0, 0.0), (5.0, 0.0))), lean)
    project, report = read(f)
    assert (len(project.walls), len(project.references)) == (0, 1)
    assert "upright" in why(report.approximated)


def test_a_wall_without_shape_is_left_out(read):
    f = Foreign()
    f.thing("IfcWall")
    project, report = read(f)
    assert not project.walls + project.references
    assert "no shape" in why(report.left_out)


def test_layers_without_a_side_lie_about_the_middle_and_get_functions(read):
    f = Foreign()
    wall = f.thing("IfcWall", f.shape(f.block(0.0, 0.0, 6.0, 0.184, 2.5)))
    f.of(wall, f.layers(("Fibre siding", 0.02), ("OSB", 0.012), ("Wood studs", 0.14), ("Gypsum board", 0.012)))
    project, report = read(f)
    line = only_line(project)
    assert [(v.material, v.function) for v in line.buildup.layers] == [
        ("lap siding", "cladding"),
        ("wood sheathing", "sheathing"),
        ("2x6 studs", "core"),
        ("gypsum board", "lining"),
    ]
    assert line.band.bottom == 0.0
    assert len(report.approximated) == 1
    assert derive(project).framed  # the studs are laid at once


def test_a_single_material_names_the_core(read):
    f = Foreign()
    wall = f.thing("IfcWall", f.shape(f.block(0.0, 0.0, 6.0, 0.25, 2.5)))
    f.of(wall, f.new("IfcMaterial", "Concrete C25/30"))
    line = only_line(read(f)[0])
    assert [(v.material, v.thickness) for v in line.buildup.layers] == [("concrete", pytest.approx(250.0))]


@pytest.mark.parametrize("way", ["overlapping", "butted"])
def test_walls_from_bodies_close_their_corners(read, way):
    """A room of 10 m by 8 m outside; bodies overlap in the corners, or the short ones stop at the long ones' faces."""
    f = Foreign("IFC4", metres=False)
    t, at = 0.2, 0.0 if way == "overlapping" else 0.2
    for x, y, angle, long in ((0.0, 0.0, 0, 10.0), (10.0, at, 90, 8.0 - 2 * at), (10.0, 8.0, 180, 10.0)):
        wall = f.thing("IfcWall", f.shape(f.block(0.0, 0.0, long, t, 2.7)), f.placed(x, y, 0.0, angle))
        f.opening(wall, f.block(1.0, -0.1, 2.0, 0.4, 1.2, low=0.9), "IfcWindow")
    f.thing("IfcWall", f.shape(f.block(0.0, 0.0, 8.0 - 2 * at, t, 2.7)), f.placed(0.0, 8.0 - at, 0.0, 270))
    project, report = read(f)
    assert (len(project.walls), report.left_out) == (4, [])
    ends = {
        (round(x), round(y)) for line in derive(project).lines.values() for x, y in (line.band.start, line.band.end)
    }
    assert ends == {(100, 100), (9900, 100), (9900, 7900), (100, 7900)}
    for opening in project.openings:  # each still where the file has it: 1 m from the body's end
        line = derive(project).lines[opening.wall]
        x, y = line.band.at(opening.offset, 0.0)
        assert min(abs(v - w) for v in (x, y) for w in (1000.0, 9000.0, 7000.0, 1200.0)) < 0.01


def test_a_body_of_another_thickness_than_its_layers_is_told(read):
    f = Foreign()
    wall = f.thing("IfcWall", f.shape(f.block(0.0, 0.0, 6.0, 0.30, 2.5)))
    f.of(wall, f.layers(("Brick", 0.2)))
    _, report = read(f)
    assert "200 mm thick, its body 300 mm" in why(report.approximated)


def test_a_wall_cut_by_a_roof_keeps_the_height_it_was_drawn_with(read):
    f = Foreign()
    body = f.block(0.0, -0.1, 6.0, 0.1, 4.0)
    plane = f.new("IfcPlane", f.new("IfcAxis2Placement3D", f.point(0.0, 0.0, 3.0), f.up(), None))
    cut = f.new("IfcBooleanClippingResult", "DIFFERENCE", body, f.new("IfcHalfSpaceSolid", plane, False))
    f.thing("IfcWall", f.shape(cut, axis=f.axis((0.0, 0.0), (6.0, 0.0))))
    assert only_line(read(f)[0]).band.top == pytest.approx(4000.0)


def test_a_wall_in_no_storey_goes_to_the_nearest_below(read):
    f = Foreign()
    f.storeyed("First floor", 3.0)
    shape = f.shape(f.block(0.0, -0.1, 6.0, 0.1, 2.5), axis=f.axis((0.0, 0.0), (6.0, 0.0)))
    f.thing("IfcWall", shape, f.placed(0.0, 0.0, 3.2), storey=None)
    project, report = read(f)
    (wall,) = project.walls
    assert project.levels[1].id == wall.foot.level
    assert wall.foot.offset == pytest.approx(200.0)
    assert "in no storey" in why(report.approximated)


def test_a_body_that_begins_above_its_place_stands_there(read):
    f = Foreign()
    shape = f.shape(f.block(0.0, -0.1, 6.0, 0.1, 2.5, low=0.4), axis=f.axis((0.0, 0.0), (6.0, 0.0)))
    f.opening(f.thing("IfcWall", shape), f.block(1.0, -0.2, 2.0, 0.2, 1.2, low=1.3))
    project, _ = read(f)
    line = only_line(project)
    assert (line.band.bottom, line.band.top) == (pytest.approx(400.0), pytest.approx(2900.0))
    assert project.openings[0].sill == pytest.approx(900.0)


def test_a_building_on_map_coordinates_is_brought_near_and_stays_when_it_grows(tmp_path):
    """5,400 km north of the equator, 480 km east of a meridian, as surveyors give it."""

    def there(extra):
        f = Foreign("IFC4")
        far = f.placed(480_000.0, 5_400_000.0)
        for i in range(2 + extra):
            placed = f.new("IfcLocalPlacement", far, f.placed(0.0, 4.0 * i).RelativePlacement)
            body = f.block(0.0, -0.1, 6.0, 0.1, 2.5) if i % 2 else f.box(6.0, 0.2, 2.5, (0.0, -0.1, 0.0))
            f.thing("IfcWall", f.shape(body), placed)
        f.file.write(str(tmp_path / "far.ifc"))
        return read_ifc(tmp_path / "far.ifc")

    project, report = there(0)
    assert "map coordinates" in why(report.approximated)
    starts = [line.band.start for line in derive(project).lines.values()]
    assert all(abs(c) < 1e7 for p in starts for c in p)
    assert starts[1][1] - starts[0][1] == pytest.approx(4000.0, abs=0.5)
    later = [line.band.start for line in derive(there(3)[0]).lines.values()]
    assert later[:2] == [pytest.approx(p) for p in starts]


def test_an_axis_trimmed_by_parameters_is_understood(read):
    f = Foreign("IFC4", metres=False)
    line = f.new("IfcLine", f.point(0.0, 0.0), f.new("IfcVector", f.new("IfcDirection", (1.0, 0.0)), 1000.0))
    ends = [[f.new("IfcParameterValue", v)] for v in (0.0, 6.0)]
    trimmed = f.new("IfcTrimmedCurve", line, *ends, True, "PARAMETER")
    axis = f.new("IfcShapeRepresentation", f.context, "Axis", "Curve2D", [trimmed])
    f.thing("IfcWall", f.shape(f.block(0.0, -0.1, 6.0, 0.1, 2.5), axis=axis))
    assert only_line(read(f)[0]).band.length == pytest.approx(6000.0)


def test_openings_of_triangles_are_boxes_and_odd_ones_are_told(read):
    f = Foreign()
    wall = f.thing("IfcWall", f.shape(f.block(0.0, -0.1, 6.0, 0.1, 2.5), axis=f.axis((0.0, 0.0), (6.0, 0.0))))
    f.opening(wall, f.box(0.9, 0.4, 2.0, (1.0, -0.2, 0.0)), "IfcDoor")
    f.opening(wall, f.block(3.0, -0.2, 4.2, 0.2, 1.2, low=0.9), "IfcWindow")
    f.opening(wall, f.block(5.5, -0.2, 7.0, 0.2, 1.2, low=0.9))
    project, report = read(f)
    rows = [(o.kind, round(o.offset), round(o.width), round(o.sill), round(o.height)) for o in project.openings]
    assert rows == [("door", 1000, 900, 0, 2000), ("window", 3000, 1200, 900, 1200)]
    assert "the box about it" in why(report.approximated)
    assert [row[1] for row in report.left_out] == ["IfcOpeningElement"]


def test_stairs_and_curtain_walls_are_outlines_made_of_their_parts(read):
    f = Foreign()
    stair = f.thing("IfcStair")
    flights = [f.thing("IfcStairFlight", f.shape(f.box(3.0, 1.0, 1.5, (0.0, y, 0.0))), storey=None) for y in (0.0, 1.0)]
    f.root("IfcRelAggregates", None, None, stair, flights)
    f.thing("IfcCurtainWall", f.shape(f.box(5.0, 0.1, 3.0, (0.0, 5.0, 0.0))))
    project, report = read(f)
    assert [(r.kind, round(r.top)) for r in project.references] == [("stair", 1500), ("curtainwall", 3000)]
    xs, ys = zip(*project.references[0].ring, strict=True)
    assert (max(xs) - min(xs), max(ys) - min(ys)) == (pytest.approx(3000.0, abs=2.0), pytest.approx(2000.0, abs=2.0))
    assert report.left_out == []
    assert "stairs are not held" in why(report.approximated)


def test_slabs_of_every_kind_are_outlines_without_more_ado(read):
    f = Foreign("IFC4")
    f.thing("IfcSlab", f.shape(f.block(0.0, 0.0, 8.0, 6.0, 0.2)))
    f.thing("IfcSlabStandardCase", f.shape(f.block(0.0, 0.0, 8.0, 6.0, 0.2, low=3.0)))
    project, report = read(f)
    assert [(r.kind, r.bottom) for r in project.references] == [("slab", 0.0), ("slab", 3000.0)]
    assert report.approximated == report.left_out == []


def test_an_opening_in_a_slab_is_an_outline_to_be_left_out_of_floors(read):
    f = Foreign("IFC4")
    slab = f.thing("IfcSlab", f.shape(f.block(0.0, 0.0, 8.0, 6.0, 0.2)), f.placed(0.0, 0.0))
    f.opening(slab, f.block(2.0, 1.0, 3.2, 4.0, 0.4, low=-0.1))
    project, report = read(f)
    slab_outline, hole = project.references
    assert (slab_outline.kind, hole.kind) == ("slab", "opening")
    xs, ys = zip(*hole.ring, strict=True)
    assert (min(xs), max(xs), min(ys), max(ys)) == pytest.approx((2000.0, 3200.0, 1000.0, 4000.0))
    assert "left out of floors" in why(report.approximated)


def test_a_round_column_is_an_outline_and_the_rest_is_told(read):
    f = Foreign()
    profile = f.new("IfcCircleProfileDef", "AREA", None, f.new("IfcAxis2Placement2D", f.point(0.0, 0.0), None), 0.2)
    round_one = f.new("IfcExtrudedAreaSolid", profile, f.world, f.up(), 3.0)
    f.thing("IfcColumn", f.shape(round_one), f.placed(2.0, 2.0))
    f.thing("IfcBeam", f.shape(f.block(0.0, 0.0, 4.0, 0.1, 0.2)))
    f.thing("IfcWindow")
    f.thing("IfcBuildingElementProxy", name="Oven")
    project, report = read(f)
    assert [r.kind for r in project.references] == ["column"]
    told = {row[1]: row[3] for row in report.left_out}
    assert "derives" in told["IfcBeam"]
    assert "no opening" in told["IfcWindow"]
    assert "does not hold" in told["IfcBuildingElementProxy"]


def grid(f, u, v, w=None):
    sets = []
    for rows in (u, v, w or []):
        axes = [f.new("IfcGridAxis", label, curve, True) for label, curve in rows]
        sets.append(axes or None)
    made = f.root("IfcGrid", "G", None, None, f.placed(0.0, 0.0), None, *sets)
    f.root("IfcRelContainedInSpatialStructure", None, None, [made], f.storey)


@pytest.mark.parametrize(
    ("kind", "says"),
    [
        ("three sets", "two sets of straight axes"),
        ("skew", "do not cross square"),
        ("close", "less than 2 in"),
        ("bent", "not a straight line"),
        ("no rays", "rays and arcs"),
        ("thousands", "more than a drawing can hold"),
    ],
)
def test_grids_that_are_not_held_are_told_and_the_rest_is_read(read, kind, says):
    f = Foreign()
    across = [("1", f.polyline((0.0, 0.0), (0.0, 9.0))), ("2", f.polyline((5.0, 0.0), (5.0, 9.0)))]
    along = [("A", f.polyline((0.0, 0.0), (9.0, 0.0))), ("B", f.polyline((0.0, 6.0), (9.0, 6.0)))]
    third = None
    if kind == "three sets":
        third = [("W", f.polyline((0.0, 0.0), (9.0, 9.0)))]
    if kind == "skew":
        along = [("A", f.polyline((0.0, 0.0), (9.0, 1.0)))]
    if kind == "close":
        across.append(("3", f.polyline((5.02, 0.0), (5.02, 9.0))))
    if kind == "bent":
        across = [("1", f.polyline((0.0, 0.0), (0.0, 9.0), (1.0, 9.0)))]
    if kind == "thousands":
        across = [(str(i), f.polyline((i * 0.1, 0.0), (i * 0.1, 9.0))) for i in range(2_000)]
    if kind == "no rays":
        circle = f.new("IfcCircle", f.new("IfcAxis2Placement2D", f.point(0.0, 0.0), None), 5.0)
        across, along = [("1", f.polyline((0.0, 0.0), (0.0, 9.0), (1.0, 9.0)))], [("A", circle)]
    grid(f, across, along, third)
    f.thing("IfcWall", f.shape(f.block(0.0, -0.1, 6.0, 0.1, 2.5)))
    project, report = read(f)
    assert says in why(report.left_out)
    assert not project.grids
    assert len(project.walls) == 1


# Where a wall lies --------------------------------------------------------------------------------------


def _plain_file(tmp_path, edit):
    """Our own file of a house, changed by ``edit``; what it is then is what others write."""
    from tests.houses import house

    from balken.exchange.ifc import write_ifc

    p = edits.add_opening(house(), "wall-1", "window", 2000.0, 1200.0, 1200.0, 800.0)
    file = tmp_path / "house.ifc"
    write_ifc(derive(p), file)
    model = ifcopenshell.open(str(file))
    edit(model)
    out = tmp_path / "changed.ifc"
    model.write(str(out))
    return read_ifc(out)


def _axis_wall(model, name="Wall 1"):
    return next(w for w in model.by_type("IfcWall") if w.Name == name)


def _one_body(model, wall, y0, y1):
    """Give a wall one plain body from y0 to y1 beside its axis, mm, as most programs write it."""
    points = wall.Representation.Representations[0].Items[0].Points
    long = points[1].Coordinates[0]
    ring = [(0.0, y0), (long, y0), (long, y1), (0.0, y1), (0.0, y0)]
    curve = model.create_entity("IfcPolyline", [model.create_entity("IfcCartesianPoint", p) for p in ring])
    profile = model.create_entity("IfcArbitraryClosedProfileDef", "AREA", None, curve)
    place = model.create_entity(
        "IfcAxis2Placement3D", model.create_entity("IfcCartesianPoint", (0.0, 0.0, 0.0)), None, None
    )
    solid = model.create_entity(
        "IfcExtrudedAreaSolid", profile, place, model.create_entity("IfcDirection", (0.0, 0.0, 1.0)), 2438.4
    )
    wall.Representation.Representations[1].Items = [solid]
    return solid


def test_a_wall_without_layers_lies_where_its_body_does(tmp_path):
    def edit(model):
        wall = _axis_wall(model)
        _one_body(model, wall, -60.0, 190.0)
        for relation in list(wall.HasAssociations):
            relation.RelatedObjects = [o for o in relation.RelatedObjects if o != wall] or [model.by_type("IfcSite")[0]]

    project, _ = _plain_file(tmp_path, edit)
    line = derive(project).lines[project.walls[0].id].band
    assert line.layers[-1][1] == pytest.approx(250.0)
    (_, y0), (_, y1) = line.at(0.0, 0.0), line.at(0.0, line.layers[-1][1])
    assert sorted((y0, y1)) == pytest.approx([-60.0, 190.0], abs=1.0)


def test_what_differs_between_body_and_layers_is_told(tmp_path):
    project, report = _plain_file(tmp_path, lambda model: _one_body(model, _axis_wall(model), 300.0, 400.0))
    told = [why for _, _, name, why in report.approximated if name == "Wall 1"]
    assert any("its body 100 mm" in why for why in told)
    assert any("beside its layers" in why for why in told)
    assert len(project.walls) == 4


def test_cut_tops_and_niches_are_told(tmp_path):
    def edit(model):
        wall = _axis_wall(model)
        solid = _one_body(model, wall, 0.0, 150.0)
        plane = model.create_entity(
            "IfcPlane",
            model.create_entity(
                "IfcAxis2Placement3D", model.create_entity("IfcCartesianPoint", (0.0, 0.0, 2000.0)), None, None
            ),
        )
        half = model.create_entity("IfcHalfSpaceSolid", plane, False)
        wall.Representation.Representations[1].Items = [
            model.create_entity("IfcBooleanClippingResult", "DIFFERENCE", solid, half)
        ]
        hole = wall.HasOpenings[0].RelatedOpeningElement
        for relation in list(hole.HasFillings):
            model.remove(relation)
        body = hole.Representation.Representations[0].Items[0]
        ring = [(0.0, 0.0), (1200.0, 0.0), (1200.0, 110.0), (0.0, 110.0), (0.0, 0.0)]
        body.SweptArea = model.create_entity(
            "IfcArbitraryClosedProfileDef",
            "AREA",
            None,
            model.create_entity("IfcPolyline", [model.create_entity("IfcCartesianPoint", p) for p in ring]),
        )

    project, report = _plain_file(tmp_path, edit)
    assert any("is cut" in why for _, _, name, why in report.approximated if name == "Wall 1")
    assert any("niche 110 mm deep" in why for _, _, _, why in report.left_out)
    assert project.openings == ()


class _Told:
    """What a file's reader would report."""

    def __init__(self):
        self.why = []

    def simplify(self, thing, why):
        self.why.append(why)


@pytest.mark.parametrize(("rows", "functions", "said"), [
    # An outer leaf of brick never bears before another, thick as it may be.
    ((("brick", 102.0), ("air gap", 50.0), ("concrete block", 190.0)), ["cladding", "cladding", "core"], "concrete block 190 mm"),
    ((("brick", 215.0), ("air gap", 50.0), ("concrete block", 100.0)), ["cladding", "cladding", "core"], "concrete block 100 mm"),
    # Two leaves of block alike: the inner one bears; a thicker outer one does.
    ((("concrete block", 100.0), ("mineral wool", 100.0), ("concrete block", 100.0), ("gypsum board", 12.5)),
     ["cladding", "cladding", "core", "lining"], "concrete block 100 mm"),
    ((("concrete", 200.0), ("air gap", 40.0), ("concrete block", 100.0)), ["core", "lining", "lining"], "concrete 200 mm"),
    # One leaf of two layers side by side is one.
    ((("brick", 102.0), ("concrete block", 100.0)), ["core", "core"], ""),
])  # fmt: skip
def test_the_bearing_leaf_of_a_cavity_wall_is_its_core_and_the_guess_is_told(rows, functions, said):
    from balken.exchange.ifc_layers import _BEARING, _with_functions
    from balken.model.records import Layer

    made = [
        (Layer(material=m, thickness=t, function="core" if any(w in m for w in _BEARING) else "lining"), False)
        for m, t in rows
    ]
    told = _Told()
    found = _with_functions(told, None, made)
    assert [layer.function for layer in found] == functions
    assert [(layer.material, layer.thickness) for layer in found] == list(rows)  # it keeps its leaves
    assert (said in told.why[0]) if said else not told.why


def test_a_wall_of_which_nothing_bears_says_what_was_guessed():
    from balken.exchange.ifc_layers import _with_functions
    from balken.model.records import Layer

    told = _Told()
    rows = [("plaster", 15.0), ("rigid insulation", 80.0), ("plaster", 15.0)]
    found = _with_functions(told, None, [(Layer(material=m, thickness=t, function="lining"), False) for m, t in rows])
    assert [layer.function for layer in found] == ["cladding", "core", "lining"]
    assert "thickest" in told.why[0]


def test_openings_of_a_wall_that_is_no_wall_are_told(tmp_path):
    def edit(model):
        _axis_wall(model).ObjectPlacement.RelativePlacement.Axis = model.create_entity("IfcDirection", (0.0, 0.5, 0.8))

    _, report = _plain_file(tmp_path, edit)
    assert any("its wall was not taken over" in why for _, _, _, why in report.left_out)


def test_roof_windows_and_chimneys_are_outlines_to_be_left_out_of_roofs(read):
    f = Foreign("IFC4")
    slab = f.thing("IfcSlab", f.shape(f.block(0.0, 0.0, 8.0, 6.0, 0.2, low=5.0)))
    f.opening(slab, f.block(2.0, 1.0, 2.8, 2.2, 0.4, low=4.9), filled="IfcWindow")
    f.opening(slab, f.block(5.0, 1.0, 5.8, 2.2, 0.4, low=4.9))
    f.thing("IfcChimney", f.shape(f.block(6.0, 4.0, 6.6, 4.6, 9.0)))
    project, report = read(f)
    assert [r.kind for r in project.references] == ["slab", "chimney", "window", "opening"]
    assert "left out of floors and roofs" in why(report.approximated)
    assert report.left_out == []
    old = Foreign("IFC2X3")
    old.thing("IfcSlab", old.shape(old.block(0.0, 0.0, 8.0, 6.0, 0.2)))
    assert [r.kind for r in read(old)[0].references] == ["slab"]
