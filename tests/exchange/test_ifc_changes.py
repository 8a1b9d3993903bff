"""Reading the architect's file a second time: what changed is told and taken over, the structure stays."""

import ifcopenshell
import pytest
from tests.shop import shop

from balken.derive import derive
from balken.exchange.file_errors import FileError, Stopped
from balken.exchange.ifc import write_ifc
from balken.exchange.ifc_changes import changes
from balken.exchange.ifc_process import read_apart
from balken.exchange.ifc_reader import read_ifc
from balken.exchange.ifc_taking_over import apply_changes
from balken.model import column_edits, edits, foundation_edits, grid_edits, wall_edits
from balken.model.errors import EditError
from balken.model.lookup import axis_positions, by_id, height, locate
from balken.model.records import Floor, Foundation, FreePoint, Hang
from balken.units import Units
from balken.units.system import FOOT


def read(project, path, progress=None):
    write_ifc(derive(project), path)
    return read_ifc(path, progress)[0]


@pytest.fixture
def before():
    return shop()


@pytest.fixture
def ours(before, tmp_path):
    """The project as read, with a foundation and floor of the engineer's and a wall he moved."""
    p = read(before, tmp_path / "first.ifc")
    walls = tuple(w.id for w in p.walls[:4])
    top, foot = (next(v.id for v in p.levels if v.role == r) for r in ("top of foundation", "top of footing"))
    floor_level = next(v.id for v in p.levels if v.role == "floor")
    p = edits.add(p, Foundation(id="f", name="F", walls=walls, foot=Hang(level=foot), head=Hang(level=top)))
    return edits.add(p, Floor(id="fl", name="Floor", level=floor_level, walls=walls))


def again(project, ours, tmp_path):
    new = read(project, tmp_path / "again.ifc").reading
    return new, changes(ours.reading, new, Units.IMPERIAL)


def test_the_same_file_has_no_changes(before, ours, tmp_path):
    new, found = again(before, ours, tmp_path)
    assert found == ()
    assert apply_changes(ours, new, found).walls == ours.walls


def test_moved_added_and_removed_things_are_told_and_taken_over(before, ours, tmp_path):
    p = edits.set_level(before, "level-2", 9 * FOOT)
    p = grid_edits.set_axis_gap(p, "grid-1", "x4", 15 * FOOT)
    p = edits.change(p, "opening-1", width=5 * FOOT)
    p = edits.remove(p, "opening-3")
    p = edits.add_opening(p, "wall-2", "door", 12 * FOOT, 3 * FOOT, 7 * FOOT, 0.0)
    p = wall_edits.move_walls(p, ("wall-5",), 0.0, 2 * FOOT)
    new, found = again(p, ours, tmp_path)
    told = {(c.kind, c.way): c.detail for c in found}
    assert "higher" in told[("level", "changed")]
    assert "axis 4" in told[("grid", "changed")]
    assert ("opening", "added") in told
    assert ("opening", "removed") in told
    q = apply_changes(ours, new, found)
    assert [f.walls for f in q.foundations] == [f.walls for f in ours.foundations]
    assert len(q.floors) == 1
    for mine, theirs in zip(q.walls, new.walls, strict=True):
        for end in ("start", "end"):
            assert locate(getattr(mine, end), q.grids) == pytest.approx(
                locate(getattr(theirs, end), new.grids), abs=0.6
            )
        assert height(mine.head, q.levels) == pytest.approx(height(theirs.head, new.levels))
    assert sorted((o.kind, round(o.width)) for o in q.openings) == sorted(
        (o.kind, round(o.width)) for o in new.openings
    )
    assert changes(q.reading, new, Units.IMPERIAL) == ()
    derive(q)


def test_only_what_is_chosen_is_taken_and_the_rest_is_told_again(before, ours, tmp_path):
    p = edits.change(before, "opening-1", width=5 * FOOT)
    p = edits.change(p, "opening-2", width=4 * FOOT)
    new, found = again(p, ours, tmp_path)
    assert len(found) == 2
    q = apply_changes(ours, new, found[:1])
    assert q.openings[0].width == pytest.approx(5 * FOOT)
    assert q.openings[1].width == pytest.approx(3.5 * FOOT)
    assert changes(q.reading, new, Units.IMPERIAL) == found[1:]


def test_our_own_edits_stay_where_the_file_did_not_change(before, ours, tmp_path):
    mine = edits.change(ours, ours.walls[0].id, role="bearing")
    mine = edits.change(mine, mine.openings[0].id, sill=500.0)
    p = edits.change(before, "opening-1", width=5 * FOOT)
    new, found = again(p, mine, tmp_path)
    q = apply_changes(mine, new, found)
    assert q.walls[0].role == "bearing"
    assert (q.openings[0].sill, q.openings[0].width) == pytest.approx((500.0, 5 * FOOT))


def test_a_wall_removed_by_the_architect_leaves_the_layouts(before, ours, tmp_path):
    new, found = again(edits.remove(before, "wall-5"), ours, tmp_path)
    assert ("wall", "removed") in {(c.kind, c.way) for c in found}
    q = apply_changes(ours, new, found)
    assert len(q.walls) == 4
    with pytest.raises(EditError, match="not read from"):
        apply_changes(edits.new_project(), new, ())


def test_reading_can_be_stopped(before, tmp_path):
    seen = []

    def stop(done, of):
        seen.append((done, of))
        return False

    with pytest.raises(Stopped):
        read(before, tmp_path / "first.ifc", stop)
    assert seen


def test_slabs_and_roofs_come_in_as_outlines(before, tmp_path):
    write_ifc(derive(before), tmp_path / "first.ifc")
    f = ifcopenshell.open(str(tmp_path / "first.ifc"))
    storey = f.by_type("IfcBuildingStorey")[0]
    context = next(c for c in f.by_type("IfcGeometricRepresentationSubContext") if c.ContextIdentifier == "Body")
    new = f.create_entity
    ring = [(0.0, 0.0), (6000.0, 0.0), (6000.0, 3000.0), (3000.0, 3000.0), (3000.0, 5000.0), (0.0, 5000.0), (0.0, 0.0)]
    curve = new("IfcPolyline", [new("IfcCartesianPoint", p) for p in ring])
    profile = new("IfcArbitraryClosedProfileDef", "AREA", None, curve)
    solid = new("IfcExtrudedAreaSolid", profile, None, new("IfcDirection", (0.0, 0.0, 1.0)), 200.0)
    points = new(
        "IfcCartesianPointList3D",
        [(0.0, 0.0, 0.0), (4000.0, 0.0, 0.0), (4000.0, 3000.0, 2000.0), (0.0, 3000.0, 2000.0)],
    )
    sloping = new("IfcTriangulatedFaceSet", points, None, None, [(1, 2, 3), (1, 3, 4)])
    for kind, item, form in (("IfcSlab", solid, "SweptSolid"), ("IfcRoof", sloping, "Tessellation")):
        shape = new("IfcShapeRepresentation", context, "Body", form, [item])
        made = new(kind, ifcopenshell.guid.new(), None, "Theirs", None, None, storey.ObjectPlacement)
        made.Representation = new("IfcProductDefinitionShape", None, None, [shape])
    f.write(str(tmp_path / "slabs.ifc"))
    p, report = read_ifc(tmp_path / "slabs.ifc")
    slab, roof = p.references
    assert (slab.kind, len(slab.ring), round(slab.top - slab.bottom)) == ("slab", 6, 200)
    assert (roof.kind, round(roof.top - roof.bottom)) == ("roof", 2000)
    assert max(x for x, _ in roof.ring) == pytest.approx(4000.0, abs=3.0)
    assert report.taken["references"] == 2
    assert by_id(p.references)[slab.id] is slab


def test_reading_in_a_process_of_its_own_gives_the_same_and_can_be_stopped(before, tmp_path):
    path = tmp_path / "first.ifc"
    there = read(before, path)
    told = []
    project, report = read_apart(path, lambda done, of: told.append((done, of)) or True)
    assert project == there
    assert report.taken["walls"] == 5
    with pytest.raises(Stopped):
        read_apart(path, lambda done, of: False)
    (tmp_path / "bad.ifc").write_bytes(path.read_bytes()[:4000])
    with pytest.raises(FileError):
        read_apart(tmp_path / "bad.ifc", lambda done, of: True)


def test_radial_grids_come_back_and_their_changes_are_told(before, tmp_path):
    p = grid_edits.add_radial_grid(before, (30.0, 30.0), (20 * FOOT, 10 * FOOT), origin=(40 * FOOT, 0.0), angle=15.0)
    p = edits.change(p, p.grids[-1].id, name="Apse")
    first = read(p, tmp_path / "first.ifc")
    grid = next(g for g in first.grids if g.name == "Apse")
    assert grid.kind == "radial"
    assert [a.label for a in grid.x_axes] == [a.label for a in p.grids[-1].x_axes]
    assert axis_positions(grid.x_axes) == pytest.approx(axis_positions(p.grids[-1].x_axes))
    assert axis_positions(grid.y_axes) == pytest.approx(axis_positions(p.grids[-1].y_axes))
    assert grid.origin == pytest.approx(p.grids[-1].origin, abs=0.01)
    wider = grid_edits.set_axis_gap(p, p.grids[-1].id, p.grids[-1].y_axes[1].id, 12 * FOOT)
    new = read(wider, tmp_path / "again.ifc").reading
    found = changes(first.reading, new, Units.IMPERIAL)
    assert [(c.kind, c.way) for c in found] == [("grid", "changed")]
    q = apply_changes(first, new, found)
    assert axis_positions(next(g for g in q.grids if g.name == "Apse").y_axes)[1] == pytest.approx(32 * FOOT)


def test_columns_move_come_and_go_and_our_pads_stay(before, tmp_path):
    foot, head = Hang(level="level-1"), Hang(level="level-2")
    p = column_edits.add_columns(before, "grid-1", ("x2", "x3"), ("y2",), foot, head, 140.0, 90.0)
    ours = read(p, tmp_path / "first.ifc")
    deep, floor = Hang(level=ours.levels[0].id, offset=-900.0), Hang(level=ours.levels[0].id)
    ours = foundation_edits.add_pads(ours, ((1000.0, 1000.0),), deep, floor, 200.0)
    q = edits.change(p, p.columns[0].id, width=190.0, angle=30.0)
    q = edits.change(q, p.columns[0].id, place=FreePoint(x=5000.0, y=4000.0), head=Hang(level="level-2", offset=-100.0))
    q = column_edits.add_columns(q, "grid-1", ("x4",), ("y1",), foot, head, 140.0, 140.0)
    q = edits.remove(q, p.columns[1].id)
    new, found = again(q, ours, tmp_path)
    assert [(c.kind, c.way) for c in found] == [("column", "changed"), ("column", "removed"), ("column", "added")]
    assert all(word in found[0].detail for word in ("moved", "head", "section", "turned"))
    r = apply_changes(ours, new, found)
    assert len(r.columns) == 2
    assert r.pads == ours.pads
    assert locate(r.columns[0].place, r.grids) == pytest.approx((5000.0, 4000.0))
    assert r.columns[0].width == pytest.approx(190.0)
    assert changes(r.reading, new, Units.IMPERIAL) == ()
    kept = apply_changes(ours, new, [c for c in found if c.way == "added"])
    assert len(kept.columns) == 3
    assert {c.way for c in changes(kept.reading, new, Units.IMPERIAL)} == {"changed", "removed"}


def test_levels_come_and_go(before, ours, tmp_path):
    p = edits.add_level(before, "level-2", 10 * FOOT, "Attic", "other")
    new, found = again(p, ours, tmp_path)
    assert [(c.kind, c.way) for c in found] == [("level", "added")]
    q = apply_changes(ours, new, found)
    assert "Attic" in {v.name for v in q.levels}
    third = read(before, tmp_path / "third.ifc").reading
    gone = changes(q.reading, third, Units.IMPERIAL)
    assert [(c.kind, c.way) for c in gone] == [("level", "removed")]
    assert "Attic" not in {v.name for v in apply_changes(q, third, gone).levels}


# GlobalIds that are new ------------------------------------------------------------------------------


def with_new_guids(path):
    """Give everything in a file a GlobalId of its own anew, as some programs do each time they write."""
    file = ifcopenshell.open(str(path))
    for thing in file.by_type("IfcRoot"):
        thing.GlobalId = ifcopenshell.guid.new()
    file.write(str(path))


def read_anew(project, path):
    write_ifc(derive(project), path)
    with_new_guids(path)
    return read_ifc(path)[0].reading


def test_new_guids_alone_are_no_change(before, ours, tmp_path):
    new = read_anew(before, tmp_path / "anew.ifc")
    assert not {w.source for w in new.walls} & {w.source for w in ours.reading.walls}
    assert changes(ours.reading, new, Units.IMPERIAL) == ()
    q = apply_changes(ours, new, ())
    # What is here has the new GlobalIds, and everything stands as it did.
    assert [w.source for w in q.walls] == [w.source for w in new.walls]
    assert {o.source for o in q.openings} == {o.source for o in new.openings}
    assert [edits_of(w) for w in q.walls] == [edits_of(w) for w in ours.walls]
    assert q.foundations == ours.foundations
    assert q.floors == ours.floors
    assert changes(q.reading, new, Units.IMPERIAL) == ()


def edits_of(wall):
    return wall.start, wall.end, wall.foot, wall.head, wall.buildup


def test_things_are_recognised_by_their_places_and_what_changed_is_told(before, ours, tmp_path):
    """A wall moved by 18 in, an opening widened, one removed, a wall added: with new GlobalIds told as with the old ones."""
    p = edits.change(before, "opening-1", width=5 * FOOT)
    p = edits.remove(p, "opening-3")
    p = wall_edits.move_walls(p, ("wall-5",), 0.0, 1.5 * FOOT)
    kept = changes(ours.reading, read(p, tmp_path / "kept.ifc").reading, Units.IMPERIAL)
    new = read_anew(p, tmp_path / "anew.ifc")
    found = changes(ours.reading, new, Units.IMPERIAL)
    assert sorted((c.kind, c.way, c.detail) for c in found) == sorted((c.kind, c.way, c.detail) for c in kept)
    assert {c.way for c in found if c.kind == "wall"} == {"changed"}
    q = apply_changes(ours, new, found)
    assert len(q.walls) == len(ours.walls)
    assert [f.walls for f in q.foundations] == [f.walls for f in ours.foundations]
    assert next(f for f in q.floors).walls == next(f for f in ours.floors).walls
    for mine, theirs in zip(q.walls, new.walls, strict=True):
        assert mine.source == theirs.source
        for end in ("start", "end"):
            assert locate(getattr(mine, end), q.grids) == pytest.approx(
                locate(getattr(theirs, end), new.grids), abs=0.6
            )
    assert changes(q.reading, new, Units.IMPERIAL) == ()


def test_a_wall_far_from_all_others_is_new_and_one_that_is_gone_is_gone(before, ours, tmp_path):
    p = wall_edits.move_walls(before, ("wall-5",), 0.0, 60 * FOOT)
    found = changes(ours.reading, read_anew(p, tmp_path / "anew.ifc"), Units.IMPERIAL)
    assert sorted(c.way for c in found if c.kind == "wall") == ["added", "removed"]


def test_with_most_guids_kept_a_wall_in_the_place_of_another_is_a_new_one(before, ours, tmp_path):
    """The architect takes a wall out and draws another there: its GlobalId says so."""
    path = tmp_path / "one.ifc"
    write_ifc(derive(before), path)
    file = ifcopenshell.open(str(path))
    wall = file.by_type("IfcWall")[4]
    wall.GlobalId = ifcopenshell.guid.new()
    file.write(str(path))
    found = changes(ours.reading, read_ifc(path)[0].reading, Units.IMPERIAL)
    assert sorted(c.way for c in found if c.kind == "wall") == ["added", "removed"]


def test_a_renamed_storey_is_renamed(before, ours, tmp_path):
    level = next(v for v in before.levels if v.role == "floor")
    p = edits.change(before, level.id, name="Ground floor")
    new = read(p, tmp_path / "named.ifc").reading
    found = changes(ours.reading, new, Units.IMPERIAL)
    assert [(c.kind, c.way, c.name, c.detail) for c in found] == [
        ("level", "changed", "Ground floor", f"called {level.name} before")
    ]
    q = apply_changes(ours, new, found)
    assert [v.name for v in q.levels] == [
        v.name.replace(level.name, "Ground floor") if v.name == level.name else v.name for v in ours.levels
    ]
    assert [v.id for v in q.levels] == [v.id for v in ours.levels]
    assert q.walls == ours.walls
    assert changes(q.reading, new, Units.IMPERIAL) == ()
    # Passed over, it is told again.
    passed = apply_changes(ours, new, ())
    assert passed.levels == ours.levels
    assert changes(passed.reading, new, Units.IMPERIAL) == found
