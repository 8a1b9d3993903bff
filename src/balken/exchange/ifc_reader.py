"""Reading an architect's IFC (2x3, 4, 4x3): levels, grids, walls with layers and openings, columns, and a report.

What Balken can hold becomes records; slabs and roofs become outlines to work against.  What had to be
simplified, and what was left out, is told with the reason and the GlobalId.
"""

import math
from collections.abc import Callable
from dataclasses import dataclass, field
from itertools import pairwise
from pathlib import Path
from typing import Any, get_args

import msgspec
import numpy as np

from balken.exchange.errors import FileError, Progress, Stopped
from balken.geometry.plane import Point, add, distance, left, sub, turn, unit
from balken.geometry.prism import Vec, cross3, dot3
from balken.model.buildups import set_out_depth
from balken.model.edits import new_project, tie
from balken.model.lookup import by_id
from balken.model.materials import MATERIALS
from balken.model.records import (
    Axis,
    BuildUp,
    Column,
    Grid,
    Hang,
    Layer,
    LayerFunction,
    Level,
    LevelRole,
    Opening,
    Project,
    Reading,
    Reference,
    SetOut,
    Wall,
)
from balken.model.rules import EditError, check, crossing_walls, wall_label
from balken.units import Units

_ROLES: tuple[LevelRole, ...] = get_args(LevelRole)
_LARGEST = 1.0e6
_NOT_HELD = {
    "IfcStair": "stairs are not held yet",
    "IfcCurtainWall": "a curtain wall carries nothing",
}


@dataclass
class Report:
    """What became of an IFC file: (GlobalId, class, name, why) for each thing not taken over as it was."""

    taken: dict[str, int] = field(
        default_factory=lambda: {"levels": 0, "axes": 0, "walls": 0, "openings": 0, "columns": 0, "references": 0}
    )
    approximated: list[tuple[str, str, str, str]] = field(default_factory=list)
    left_out: list[tuple[str, str, str, str]] = field(default_factory=list)
    ids: dict[str, list[str]] = field(default_factory=dict)
    """GlobalIds of what was taken over, by the same keys as ``taken``."""

    def took(self, what: str, count: int = 1) -> None:
        """Count something taken over."""
        self.taken[what] += count

    def as_json(self) -> dict[str, Any]:
        """Return the report as plain data."""
        keys = ("id", "class", "name", "why")
        return {
            **self.taken,
            "counts": {**self.taken, "approximated": len(self.approximated), "left_out": len(self.left_out)},
            "ids": self.ids,
            "approximated": [dict(zip(keys, row, strict=True)) for row in self.approximated],
            "left_out": [dict(zip(keys, row, strict=True)) for row in self.left_out],
        }


def read_ifc(path: Path | str, progress: Progress | None = None) -> tuple[Project, Report]:
    """Return a new project from an IFC file, and the report.

    ``progress`` is told (done, all) and stops the work by returning False.  Raises FileError when it is
    no IFC, Stopped when it was stopped.
    """
    import ifcopenshell

    try:
        data = Path(path).read_bytes()
        if not data[:200].lstrip().startswith(b"ISO-10303-21"):
            raise FileError("this is not an IFC file.", path, "Choose a file that ends in .ifc.")
        if b"END-ISO-10303-21" not in data[-400:]:
            raise FileError("the IFC ends too early; part of it is missing.", path, "Export it, or copy it, again.")
        file = ifcopenshell.open(str(path))
        if file is None or not file.schema.upper().startswith(("IFC2X3", "IFC4")):
            raise FileError("its IFC version cannot be read.", path, "Save it as IFC2x3, IFC4 or IFC4x3.")
    except FileNotFoundError:
        raise FileError("there is no such file.", path, "Check the name.") from None
    except OSError as error:
        raise FileError(
            f"it could not be read ({error.strerror or error}).", path, "Check that you may read it."
        ) from None
    except (ifcopenshell.Error, RuntimeError) as error:
        raise FileError(f"the IFC is damaged ({str(error)[:120]}).", path, "Export it again.") from None
    try:
        return _Reader(file, Path(path).name, progress).read()
    except EditError as error:
        raise FileError(f"what it holds does not make sense: {error}", path, "Mend it where it came from.") from None


class _Reader:
    """One file being read; lengths in mm by the file's own units."""

    def __init__(self, file: Any, name: str, progress: Progress | None) -> None:
        from ifcopenshell.util.unit import calculate_unit_scale

        self.file, self.name, self.progress = file, name, progress
        self.scale = float(calculate_unit_scale(file)) * 1000.0
        if not (math.isfinite(self.scale) and 1e-3 <= self.scale <= 1e6):
            raise EditError(f"its unit of length is {self.scale:g} mm.", do="Set its units to mm, m, inches or feet.")
        self.report = Report()
        self.storeys: dict[int, str] = {}
        self.placements: dict[int, Any] = {}
        self._last_sets: tuple[int, dict[str, dict[str, Any]]] = (0, {})
        self.walls: list[Wall] = []
        self.openings: list[Opening] = []
        self.buildups: list[BuildUp] = []
        self.columns: list[Column] = []
        self.column_ids: list[str] = []
        self.references: list[Reference] = []
        self.base = new_project()
        """Levels, grids and build-ups read so far: what a wall is checked against."""

    def read(self) -> tuple[Project, Report]:
        """Build the project."""
        projects = self.file.by_type("IfcProject")
        name = (projects[0].Name if projects else None) or "From IFC"
        imperial = any(abs(self.scale - s) < 1e-6 for s in (304.8, 25.4))
        base = new_project(name, Units.IMPERIAL if imperial else Units.METRIC)
        base = msgspec.structs.replace(base, levels=self._levels() or base.levels)
        self.base = check(msgspec.structs.replace(base, grids=self._grids()))
        self.buildups = list(base.buildups)
        work: list[tuple[Callable[[Any], None], Any]] = [(self._wall, w) for w in self.file.by_type("IfcWall")]
        work += [(self._column, c) for c in self.file.by_type("IfcColumn")]
        for kind in ("IfcSlab", "IfcRoof"):
            work += [(self._reference, thing) for thing in self.file.by_type(kind)]
        for i, (take, thing) in enumerate(work):
            if self.progress is not None and i % 10 == 0 and not self.progress(i, len(work)):
                raise Stopped
            try:
                take(thing)
            except (AttributeError, IndexError, KeyError, TypeError, ValueError, RuntimeError) as error:
                self._leave(thing, f"what the file says of it could not be read ({type(error).__name__}: {error})")
        for kind in ("IfcBeam", "IfcMember", "IfcFooting", "IfcStair", "IfcPlate", "IfcCurtainWall"):
            for thing in self.file.by_type(kind):
                why = _NOT_HELD.get(kind, "Balken derives these itself")
                self._leave(thing, why)
        project = msgspec.structs.replace(
            self.base,
            buildups=tuple(self.buildups),
            walls=tuple(self.walls),
            openings=tuple(self.openings),
            columns=tuple(self.columns),
            references=tuple(self.references),
        )
        project = check(self._without_crossings(project))
        self.report.took("walls", len(project.walls))
        self.report.took("openings", len(project.openings))
        self.report.took("columns", len(project.columns))
        self.report.took("references", len(project.references))
        self.report.ids = {
            "levels": [s.GlobalId for s in self.file.by_type("IfcBuildingStorey") if s.id() in self.storeys],
            "axes": [g.GlobalId for g in self.file.by_type("IfcGrid")],
            "walls": [w.source for w in project.walls],
            "openings": [o.source for o in project.openings],
            "columns": self.column_ids,
            "references": [r.source for r in project.references],
        }
        return msgspec.structs.replace(project, reading=reading_of(project, self.name)), self.report

    def _without_crossings(self, project: Project) -> Project:
        """Leave out outside walls that cross others, which no building has."""
        gone: set[str] = set()
        for first, second in crossing_walls(project):
            if first in gone or second in gone:
                continue
            wall = by_id(project.walls)[first]
            gone.add(first)
            other = by_id(project.walls)[second]
            self.report.left_out.append(
                (
                    wall.source,
                    "IfcWall",
                    wall_label(project, first),
                    f"it crosses another outside wall ({other.source})",
                )
            )
        return msgspec.structs.replace(
            project,
            walls=tuple(w for w in project.walls if w.id not in gone),
            openings=tuple(o for o in project.openings if o.wall not in gone),
        )

    def _leave(self, thing: Any, why: str) -> None:
        self.report.left_out.append((thing.GlobalId, thing.is_a(), thing.Name or "", why))

    def _simplify(self, thing: Any, why: str) -> None:
        self.report.approximated.append((thing.GlobalId, thing.is_a(), thing.Name or "", why))

    def _matrix(self, placement: Any) -> Any:
        """Return a placement in the building as a 4 x 4 matrix, mm; each is worked out once."""
        if placement is None:
            return np.eye(4)
        known = self.placements.get(placement.id())
        if known is None:
            own = _axes_of(placement.RelativePlacement)
            own[:3, 3] *= self.scale
            known = self._matrix(placement.PlacementRelTo) @ own
            self.placements[placement.id()] = known
        return known.copy()

    # Levels and grids ----------------------------------------------------------------------------

    def _levels(self) -> tuple[Level, ...]:
        found: list[Level] = []
        for storey in sorted(self.file.by_type("IfcBuildingStorey"), key=lambda s: s.id()):
            height = self._matrix(storey.ObjectPlacement)[2, 3] if storey.ObjectPlacement else None
            if height is None:
                height = (storey.Elevation or 0.0) * self.scale
            if abs(height) > _LARGEST:
                self._leave(storey, "its height is more than 1 km; the file's units are probably wrong")
                continue
            level_id = f"level-{len(found) + 1}"
            names = {v.name.lower() for v in found}
            name = storey.Name or f"Level {len(found) + 1}"
            if name.lower() in names:
                name = f"{name} ({len(found) + 1})"
                self._simplify(storey, "another storey has the same name; a number was added")
            role: LevelRole = next((r for r in _ROLES if r == storey.Description), "floor")
            found.append(Level(id=level_id, name=name, role=role, height=round(float(height), 6)))
            self.storeys[storey.id()] = level_id
        self.report.took("levels", len(found))
        return tuple(found)

    def _grids(self) -> tuple[Grid, ...]:
        grids: list[Grid] = []
        for made in self.file.by_type("IfcGrid"):
            grid = self._grid(made, f"grid-{len(grids) + 1}")
            if grid is not None:
                grids.append(grid)
                self.report.took("axes", len(grid.x_axes) + len(grid.y_axes))
        return tuple(grids)

    def _grid(self, made: Any, grid_id: str) -> Grid | None:
        matrix = self._matrix(made.ObjectPlacement)
        if any(_circle(axis.AxisCurve) is not None for axis in made.VAxes or ()):
            return self._radial(made, grid_id, matrix)
        sets: list[list[tuple[str, Point, Point]]] = []
        for axes in (made.UAxes, made.VAxes):
            lines: list[tuple[str, Point, Point]] = []
            for axis in axes or ():
                points = self._polyline(axis.AxisCurve, matrix)
                if points is None or len(points) != 2 or distance(*points) < 1.0:
                    self._leave(made, f"axis {axis.AxisTag} is not a straight line")
                    continue
                lines.append((str(axis.AxisTag or ""), points[0], points[1]))
            sets.append(lines)
        if made.WAxes or not sets[0] or not sets[1]:
            self._leave(made, "only grids of two sets of straight axes are held")
            return None
        angle = _angle(sets[1][0][1], sets[1][0][2]) % 180.0
        angle = angle - 180.0 if angle > 90.0 + 1e-9 else angle
        if abs(((_angle(sets[0][0][1], sets[0][0][2]) - angle) % 180.0) - 90.0) > 0.01:
            self._leave(made, "its two sets of axes do not cross square")
            return None
        place = [sorted((turn(a, -angle)[i], label) for label, a, _ in lines) for i, lines in enumerate(sets)]
        for rows in place:
            if any(b - a < 50.0 for (a, _), (b, _) in pairwise(rows)):
                self._leave(made, "two axes lie less than 2 in (50 mm) apart")
                return None
        first = turn(sets[0][0][1], -angle)
        return Grid(
            id=grid_id,
            name=made.Name or "Grid",
            origin=_rounded(turn((place[0][0][0], place[1][0][0]), angle)),
            angle=round(angle, 9),
            x_axes=_axes(place[0], "x"),
            y_axes=_axes(place[1], "y"),
            run_past=round(max(place[1][0][0] - first[1], 300.0), 6),
        )

    def _radial(self, made: Any, grid_id: str, matrix: Any) -> Grid | None:
        """Return a radial grid: straight rays from one centre and arcs about it."""
        from ifcopenshell.util.placement import get_axis2placement

        centre: Point | None = None
        arcs: list[tuple[float, str]] = []
        for axis in made.VAxes or ():
            circle = _circle(axis.AxisCurve)
            if circle is None:
                self._leave(made, f"axis {axis.AxisTag} of a radial grid is not an arc")
                return None
            local = np.array(get_axis2placement(circle.Position), dtype=float)[:3, 3] * self.scale
            x, y = (matrix @ np.array([*local, 1.0]))[:2]
            if centre is not None and distance(centre, (x, y)) > 1.0:
                self._leave(made, "its arcs have different centres")
                return None
            centre = _rounded((float(x), float(y)))
            arcs.append((round(circle.Radius * self.scale, 6), str(axis.AxisTag or "")))
        rays: list[tuple[float, str]] = []
        assert centre is not None
        for axis in made.UAxes or ():
            points = self._polyline(axis.AxisCurve, matrix)
            if points is None or len(points) != 2 or distance(*points) < 1.0:
                self._leave(made, f"axis {axis.AxisTag} is not a straight line")
                continue
            rays.append(
                (_angle(centre, max(points, key=lambda p: distance(centre, p))) % 360.0, str(axis.AxisTag or ""))
            )
        if not rays or made.WAxes:
            self._leave(made, "only radial grids of rays and arcs are held")
            return None
        first = rays[0][0]
        turned = sorted(((round(a - first, 9)) % 360.0, label) for a, label in rays)
        arcs.sort()
        made_arcs = _axes(arcs, "y")
        return Grid(
            id=grid_id,
            name=made.Name or "Radial grid",
            kind="radial",
            origin=centre,
            angle=round(first, 9),
            x_axes=_axes(turned, "x"),
            y_axes=(msgspec.structs.replace(made_arcs[0], gap=arcs[0][0]), *made_arcs[1:]),
        )

    def _polyline(self, curve: Any, matrix: Any) -> list[Point] | None:
        if curve is None:
            return None
        if curve.is_a("IfcPolyline"):
            raw = [p.Coordinates for p in curve.Points]
        elif curve.is_a("IfcIndexedPolyCurve") and not curve.Segments:
            raw = curve.Points.CoordList
        elif curve.is_a("IfcTrimmedCurve") and curve.BasisCurve.is_a("IfcLine"):
            ends = [t[0] for t in (curve.Trim1, curve.Trim2)]
            if any(isinstance(t, float) or not hasattr(t, "Coordinates") for t in ends):
                return None
            raw = [t.Coordinates for t in ends]
        else:
            return None
        found: list[Point] = []
        for c in raw:
            x, y = c[0] * self.scale, c[1] * self.scale
            w = matrix @ np.array([x, y, 0.0, 1.0])
            found.append((float(w[0]), float(w[1])))
        return found

    # Walls ---------------------------------------------------------------------------------------

    def _wall(self, made: Any) -> None:
        from ifcopenshell.util.element import get_container, get_material

        if made.Tag and "/" in made.Tag and made.is_a() == "IfcWall":
            self._leave(made, "a foundation wall; Balken derives these from a foundation")
            return
        container = get_container(made)
        level = self.storeys.get(container.id()) if container is not None else None
        if level is None:
            self._leave(made, "it is in no storey")
            return
        matrix = self._matrix(made.ObjectPlacement)
        if abs(matrix[2, 2] - 1.0) > 1e-6:
            self._leave(made, "it does not stand upright")
            return
        axis = self._axis(made, matrix)
        height = self._height(made)
        if axis is None or height is None:
            self._leave(made, "it has neither a straight axis nor a plain extruded body")
            return
        start, end = axis
        if distance(start, end) < 100.0 or height < 50.0:
            self._leave(made, "it is shorter than 4 in (100 mm) or lower than 2 in (50 mm)")
            return
        buildup, axis_depth, inward_left = self._buildup(made, get_material(made))
        base = float(matrix[2, 3]) - by_id(self.base.levels)[level].height
        set_out, chosen_depth = _set_out(buildup, axis_depth)
        d = unit(start, end)
        inward = left(d) if inward_left else (d[1], -d[0])
        start, end = (add(p, inward, chosen_depth - axis_depth) for p in (start, end))
        wall = Wall(
            id=f"wall-{len(self.walls) + 1}",
            start=tie(self.base, _rounded(start)),
            end=tie(self.base, _rounded(end)),
            buildup=buildup.id,
            foot=Hang(level=level, offset=_snap(base)),
            head=self._head(level, base, height),
            set_out=set_out,
            outside="right" if inward_left else "left",
            role=self._role(made),
            source=made.GlobalId,
        )
        context = msgspec.structs.replace(self.base, buildups=(buildup,), walls=(wall,), openings=())
        try:
            check(context)
        except EditError as error:
            self._leave(made, str(error).replace("Wall 1: ", ""))
            return
        self.walls.append(wall)
        own: list[Opening] = []
        for relation in made.HasOpenings or ():
            self._opening(context, wall, own, relation.RelatedOpeningElement, matrix, start, end)

    def _body(self, made: Any) -> Any:
        for shape in made.Representation.Representations if made.Representation else ():
            if shape.RepresentationIdentifier == "Body":
                return shape
        return None

    def _axis(self, made: Any, matrix: Any) -> tuple[Point, Point] | None:
        for shape in made.Representation.Representations if made.Representation else ():
            if shape.RepresentationIdentifier == "Axis" and shape.Items:
                points = self._polyline(shape.Items[0], matrix)
                if points is not None and len(points) >= 2:
                    if len(points) > 2:
                        self._simplify(made, "its axis bends; the straight line between its ends was taken")
                    return points[0], points[-1]
        return None

    def _sets(self, made: Any) -> dict[str, dict[str, Any]]:
        """Return the properties and quantities of a thing by the names of their sets; those of the last one are kept."""
        if self._last_sets[0] != made.id():
            from ifcopenshell.util.element import get_psets

            self._last_sets = (made.id(), get_psets(made))
        return self._last_sets[1]

    def _height(self, made: Any) -> float | None:
        for name, values in self._sets(made).items():
            if name.startswith(("Qto_", "BaseQuantities")) and values.get("Height"):
                return float(values["Height"]) * self.scale
        body = self._body(made)
        item = body.Items[0] if body is not None and body.Items else None
        while item is not None and item.is_a("IfcBooleanResult"):
            item = item.FirstOperand
        if item is not None and item.is_a("IfcExtrudedAreaSolid"):
            if abs(item.ExtrudedDirection.DirectionRatios[2]) > 0.999 and item.Position is None:
                return float(item.Depth) * self.scale
            if item.Position is None or item.Position.Axis is None:
                return float(item.Depth) * self.scale
        return None

    def _buildup(self, made: Any, material: Any) -> tuple[BuildUp, float, bool]:
        """Return the build-up, the depth of the axis from the outside face, and whether the inside is left."""
        if material is not None and material.is_a("IfcMaterialLayerSetUsage"):
            to_left = material.DirectionSense == "POSITIVE"
            raw = material.ForLayerSet.MaterialLayers
            offset = float(material.OffsetFromReferenceLine) * self.scale
            layers = [self._layer(layer) for layer in raw]
            total = sum(layer.thickness for layer in layers)
            depth = -offset if to_left else offset
            if not -1.0 <= depth <= total + 1.0:
                depth = min(max(depth, 0.0), total)
                self._simplify(made, "its axis lies outside its layers; the nearest face was taken")
        else:
            width = self._width(made) or 150.0
            self._simplify(made, "it has no layers; one core layer of its thickness was made")
            layers = [Layer(material="concrete block", thickness=width, function="core")]
            depth, to_left = width / 2.0, True
        if not any(layer.function == "core" for layer in layers):
            thickest = max(range(len(layers)), key=lambda i: layers[i].thickness)
            layers[thickest] = msgspec.structs.replace(layers[thickest], function="core")
        wanted = tuple(layers)
        for known in self.buildups:
            if len(known.layers) == len(wanted) and all(
                a.material == b.material and a.function == b.function and abs(a.thickness - b.thickness) < 0.01
                for a, b in zip(known.layers, wanted, strict=True)
            ):
                return known, depth, to_left
        new = BuildUp(id=f"buildup-{len(self.buildups) + 1}", layers=wanted)
        self.buildups.append(new)
        return new, depth, to_left

    def _width(self, made: Any) -> float | None:
        from ifcopenshell.util.element import get_psets

        for values in get_psets(made, qtos_only=True).values():
            if values.get("Width"):
                return float(values["Width"]) * self.scale
        return None

    def _layer(self, layer: Any) -> Layer:
        name = (layer.Material.Name if layer.Material else "") or "layer"
        label = getattr(layer, "Name", None)
        lower = name.lower()
        bears = any(word in lower for word in ("stud", "concrete", "block", "brick", "cmu", "masonry", "clt"))
        functions: tuple[LayerFunction, ...] = ("cladding", "sheathing", "core", "lining")
        default: LayerFunction = "core" if bears else "lining"
        function = next((f for f in functions if f == label), default)
        if name not in MATERIALS:
            near = {"brick": "brick", "block": "concrete block", "concrete": "concrete", "gypsum": "gypsum board"}
            name = next((ours for word, ours in near.items() if word in lower), "timber")
        thickness = max(float(layer.LayerThickness) * self.scale, 1.0)
        return Layer(material=name, thickness=round(thickness, 6), function=function)

    def _head(self, level: str, base: float, height: float) -> Hang:
        top = by_id(self.base.levels)[level].height + base + height
        for other in self.base.levels:
            if abs(other.height - top) < 0.5:
                return Hang(level=other.id)
        return Hang(level=level, offset=_snap(base + height))

    def _role(self, made: Any) -> Any:
        common = self._sets(made).get("Pset_WallCommon", {})
        if common.get("IsExternal", True):
            return "outside"
        return "bearing" if common.get("LoadBearing") else "divides"

    def _opening(
        self, context: Project, wall: Wall, own: list[Opening], hole: Any, matrix: Any, start: Point, end: Point
    ) -> None:
        """Read one opening; ``own`` are those of this wall read before it."""
        box = self._box(hole)
        if box is None:
            self._leave(hole, "its shape is not a plain extrusion")
            return
        inverse = _inverse(matrix)
        local = inverse @ self._matrix(hole.ObjectPlacement) @ box
        along = turn(sub(end, start), -math.degrees(math.atan2(matrix[1, 0], matrix[0, 0])))
        origin = inverse @ np.array([*start, matrix[2, 3], 1.0])
        sign = 1.0 if along[0] >= 0.0 else -1.0
        xs = sign * (local[0] - origin[0])
        filled = [r.RelatedBuildingElement for r in hole.HasFillings or ()]
        kind = "door" if any(f.is_a("IfcDoor") for f in filled) else "window" if filled else "plain"
        opening = Opening(
            id=f"opening-{len(self.openings) + 1}",
            wall=wall.id,
            kind=kind,  # type: ignore[arg-type]
            offset=_snap(float(xs.min())),
            width=round(float(xs.max() - xs.min()), 6),
            height=round(float(local[2].max() - max(local[2].min(), 0.0)), 6),
            sill=max(_snap(float(local[2].min())), 0.0),
            source=hole.GlobalId,
        )
        try:
            check(msgspec.structs.replace(context, openings=(*own, opening)))
        except EditError as error:
            self._leave(hole, str(error))
            return
        own.append(opening)
        self.openings.append(opening)

    def _box(self, hole: Any) -> Any:
        """Return the corners (4, 8) of an opening's extrusion in its own frame."""
        body = self._body(hole)
        item = body.Items[0] if body is not None and body.Items else None
        if item is None or not item.is_a("IfcExtrudedAreaSolid"):
            return None
        ring = _profile_ring(item.SweptArea)
        if ring is None:
            return None
        way = np.array(item.ExtrudedDirection.DirectionRatios, dtype=float) * float(item.Depth)
        flat = np.array([(a, b, 0.0) for a, b in ring])
        points = np.vstack([flat, flat + way]) * self.scale
        corners = np.vstack([points.T, np.ones(len(points))])
        if item.Position is not None:
            position = _axes_of(item.Position)
            position[:3, 3] *= self.scale
            corners = position @ corners
        return corners

    # Columns, slabs and roofs -----------------------------------------------------------------------

    def _derived(self, made: Any) -> bool:
        """Whether Balken itself wrote it from a layout (its tag is the key of a piece)."""
        return bool(made.Tag and "/" in made.Tag and not made.Tag.endswith("/column"))

    def _column(self, made: Any) -> None:
        from ifcopenshell.util.element import get_container, get_material

        if self._derived(made):
            self._leave(made, "Balken derives these itself")
            return
        container = get_container(made)
        level = self.storeys.get(container.id()) if container is not None else None
        body = self._body(made)
        item = body.Items[0] if body is not None and body.Items else None
        matrix = self._matrix(made.ObjectPlacement)
        if level is None or item is None or not item.is_a("IfcExtrudedAreaSolid"):
            self._leave(made, "it is in no storey, or not a plain extrusion")
            return
        points = self._solid_points(item, made.ObjectPlacement)
        low, high = float(points[2].min()), float(points[2].max())
        upright = abs(matrix[2, 2] - 1.0) < 1e-6 and len({round(float(z), 1) for z in points[2]}) == 2
        ring = [(float(x), float(y)) for x, y in points[:2].T[: points.shape[1] // 2]]
        if not upright or len(ring) not in (4, 5):
            self._leave(made, "only upright columns of a rectangular section are held")
            return
        a, b, c = ring[0], ring[1], ring[2]
        d = unit(a, b)
        if abs(d[0] * (c[0] - b[0]) + d[1] * (c[1] - b[1])) > 1.0:
            self._leave(made, "only upright columns of a rectangular section are held")
            return
        middle = _rounded(((a[0] + c[0]) / 2.0, (a[1] + c[1]) / 2.0))
        material = get_material(made)
        text = str(getattr(material, "Name", "") or "").lower()
        kind = "steel" if "steel" in text else "concrete" if "concrete" in text else "timber"
        base = low - by_id(self.base.levels)[level].height
        column = Column(
            id=f"column-{len(self.columns) + 1}",
            place=tie(self.base, middle),
            foot=Hang(level=level, offset=_snap(base)),
            head=self._head(level, base, high - low),
            width=round(distance(a, b), 6),
            depth=round(distance(b, c), 6),
            material=kind,  # type: ignore[arg-type]
            angle=_snap(_angle(a, b) % 360.0),
        )
        try:
            check(msgspec.structs.replace(self.base, columns=(column,)))
        except EditError as error:
            self._leave(made, str(error))
            return
        self.columns.append(column)
        self.column_ids.append(made.GlobalId)

    def _solid_points(self, item: Any, placement: Any) -> Any:
        """Return the corners (3, 2n) of an extrusion in the building: the profile's, then the far end's."""
        from ifcopenshell.util.placement import get_axis2placement

        ring = _profile_ring(item.SweptArea)
        if ring is None:
            raise ValueError("its profile is not a rectangle or polygon")
        flat = np.array([(x, y, 0.0) for x, y in ring]) * self.scale
        way = np.array(item.ExtrudedDirection.DirectionRatios, dtype=float)
        way = way / np.linalg.norm(way) * float(item.Depth) * self.scale
        corners = np.vstack([np.vstack([flat, flat + way]).T, np.ones(2 * len(flat))])
        if item.Position is not None:
            matrix = np.array(get_axis2placement(item.Position), dtype=float)
            matrix[:3, 3] *= self.scale
            corners = matrix @ corners
        return (self._matrix(placement) @ corners)[:3]

    def _reference(self, made: Any) -> None:
        """Take a slab or roof as an outline with its lowest and highest height."""
        if self._derived(made):
            self._leave(made, "Balken derives these itself")
            return
        if made.Representation is None:
            parts = [p for r in made.IsDecomposedBy or () for p in r.RelatedObjects]
            self._leave(made, "it has no shape of its own" + ("; its parts were looked at" if parts else ""))
            return
        body = self._body(made)
        item = body.Items[0] if body is not None and len(body.Items) == 1 else None
        if item is not None and item.is_a("IfcExtrudedAreaSolid") and _profile_ring(item.SweptArea) is not None:
            points = self._solid_points(item, made.ObjectPlacement)
            ring = _hull_or_ring(points)
        else:
            points, ring = self._from_mesh(made)
            self._simplify(made, "its shape was taken as an outline with its lowest and highest height")
        if len(ring) < 3 or not np.all(np.isfinite(points)) or float(np.abs(points).max()) > _LARGEST * 10.0:
            self._leave(made, "its outline has no area, or lies out of all bounds")
            return
        self.references.append(
            Reference(
                id=f"reference-{len(self.references) + 1}",
                name=made.Name or made.is_a().removeprefix("Ifc"),
                kind=made.is_a().removeprefix("Ifc").lower(),
                ring=tuple(_rounded(p) for p in ring),
                bottom=_snap(float(points[2].min())),
                top=_snap(float(points[2].max())),
                source=made.GlobalId,
            )
        )

    def _from_mesh(self, made: Any) -> tuple[Any, list[Point]]:
        import ifcopenshell.geom
        import shapely

        settings = ifcopenshell.geom.settings()
        settings.set("use-world-coords", True)
        shape = ifcopenshell.geom.create_shape(settings, made)
        points = np.array(shape.geometry.verts, dtype=float).reshape(-1, 3).T * 1000.0
        faces = np.array(shape.geometry.faces).reshape(-1, 3)
        triangles = [shapely.Polygon(points[:2, face].T) for face in faces]
        whole = shapely.union_all([t.buffer(0.5) for t in triangles if t.area > 1.0]).simplify(2.0)
        if not isinstance(whole, shapely.Polygon):
            whole = whole.convex_hull
        return points, [(float(x), float(y)) for x, y in whole.exterior.coords[:-1]] if whole.area > 1.0 else []


def _hull_or_ring(points: Any) -> list[Point]:
    """Return the plan outline of an extrusion: its profile when it goes straight up, else the hull of all."""
    import shapely

    n = points.shape[1] // 2
    first, last = points[:2, :n].T, points[:2, n:].T
    if np.allclose(first, last, atol=1.0):
        outline = shapely.Polygon(first)
    else:
        outline = shapely.MultiPoint(points[:2].T).convex_hull
    if not isinstance(outline, shapely.Polygon) or outline.area < 1.0 or not outline.is_valid:
        return []
    return [(float(x), float(y)) for x, y in outline.exterior.coords[:-1]]


def _axes_of(placement: Any) -> Any:
    """Return an axis placement as a 4 x 4 matrix (ISO 10303-42: z along the axis, x as near the reference as can be)."""
    made = np.eye(4)
    location = placement.Location.Coordinates
    made[: len(location), 3] = location
    reference = placement.RefDirection
    if placement.is_a("IfcAxis2Placement2D"):
        if reference is not None:
            a, b = reference.DirectionRatios[:2]
            long = math.hypot(a, b) or 1.0
            made[0, 0], made[1, 0] = a / long, b / long
            made[0, 1], made[1, 1] = -b / long, a / long
        return made
    axis = placement.Axis
    if axis is None and reference is None:
        return made
    z = _unit3(axis.DirectionRatios if axis is not None else (0.0, 0.0, 1.0))
    x = reference.DirectionRatios if reference is not None else (1.0, 0.0, 0.0)
    along = dot3(x, z)
    x = (x[0] - along * z[0], x[1] - along * z[1], x[2] - along * z[2])
    if dot3(x, x) < 1e-12:  # the reference lies along the axis: any direction square to it will do
        x = cross3(z, (0.0, 1.0, 0.0) if abs(z[1]) < 0.9 else (1.0, 0.0, 0.0))
    x = _unit3(x)
    made[:3, 0], made[:3, 1], made[:3, 2] = x, cross3(z, x), z
    return made


def _unit3(v: Any) -> Vec:
    long = math.sqrt(dot3(v, v)) or 1.0
    return (v[0] / long, v[1] / long, v[2] / long)


def _inverse(matrix: Any) -> Any:
    """Return the inverse of a placement: turned back and moved back."""
    made = np.eye(4)
    made[:3, :3] = matrix[:3, :3].T
    made[:3, 3] = -made[:3, :3] @ matrix[:3, 3]
    return made


def _profile_ring(profile: Any) -> list[Point] | None:
    """Return a profile's outline in the file's units; None for a shape other than rectangle and polygon."""
    if profile.is_a("IfcRectangleProfileDef"):
        x, y = profile.XDim / 2.0, profile.YDim / 2.0
        if profile.Position is not None:
            cx, cy = profile.Position.Location.Coordinates[:2]
            d = profile.Position.RefDirection
            u = tuple(float(v) for v in d.DirectionRatios[:2]) if d is not None else (1.0, 0.0)
        else:
            (cx, cy), u = (0.0, 0.0), (1.0, 0.0)
        corners = ((-x, -y), (x, -y), (x, y), (-x, y))
        return [(cx + a * u[0] - b * u[1], cy + a * u[1] + b * u[0]) for a, b in corners]
    if profile.is_a("IfcArbitraryClosedProfileDef"):
        curve = profile.OuterCurve
        if curve.is_a("IfcPolyline"):
            raw = [p.Coordinates[:2] for p in curve.Points]
        elif curve.is_a("IfcIndexedPolyCurve") and not any(s.is_a("IfcArcIndex") for s in curve.Segments or ()):
            raw = [c[:2] for c in curve.Points.CoordList]
        else:
            return None
        ring = [(float(x), float(y)) for x, y in raw]
        return ring[:-1] if ring and ring[0] == ring[-1] else ring
    return None


def _circle(curve: Any) -> Any:
    """Return the circle of an arc or full circle, else None."""
    if curve is not None and curve.is_a("IfcTrimmedCurve"):
        curve = curve.BasisCurve
    return curve if curve is not None and curve.is_a("IfcCircle") else None


def _angle(a: Point, b: Point) -> float:
    return math.degrees(math.atan2(b[1] - a[1], b[0] - a[0]))


def _axes(rows: list[tuple[float, str]], prefix: str) -> tuple[Axis, ...]:
    found: list[Axis] = []
    used: set[str] = set()
    for i, (place, label) in enumerate(rows):
        name = label.strip() or f"{prefix}{i + 1}"
        while name in used:
            name += "'"
        used.add(name)
        gap = place - rows[i - 1][0] if i else 0.0
        found.append(Axis(id=f"{prefix}{i + 1}", label=name, gap=round(gap, 6)))
    return tuple(found)


def _rounded(p: Point) -> Point:
    return (round(p[0], 6) + 0.0, round(p[1], 6) + 0.0)


def _snap(value: float) -> float:
    return 0.0 if abs(value) < 1e-6 else round(value, 6)


def reading_of(project: Project, name: str) -> Reading:
    """Return what was read, to compare the next reading of the same file with."""
    return Reading(
        file=name,
        levels=project.levels,
        grids=project.grids,
        buildups=project.buildups,
        walls=project.walls,
        openings=project.openings,
        references=project.references,
    )


def _set_out(buildup: BuildUp, depth: float) -> tuple[SetOut, float]:
    """Return the set-out line nearest to the axis' depth, and its own depth."""
    options: tuple[SetOut, ...] = ("outside", "core outside", "centre", "core inside", "inside")
    name = min(options, key=lambda option: abs(set_out_depth(buildup, option) - depth))
    return name, set_out_depth(buildup, name)
