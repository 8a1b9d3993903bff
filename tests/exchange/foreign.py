"""IFC files as other programs might write them, made piece by piece with ifcopenshell."""

import math
from typing import Any

import ifcopenshell
import ifcopenshell.guid

BOX = [
    (0, 1, 2), (0, 2, 3), (4, 6, 5), (4, 7, 6), (0, 4, 5), (0, 5, 1),
    (1, 5, 6), (1, 6, 2), (2, 6, 7), (2, 7, 3), (3, 7, 4), (3, 4, 0),
]  # fmt: skip
"""The twelve triangles of a box: its floor's corners, then its ceiling's."""


class Foreign:
    """A file with one storey at 0; lengths are typed in metres and written in the file's unit."""

    def __init__(self, schema: str = "IFC4", metres: bool = True) -> None:
        self.schema, self.k = schema, 1.0 if metres else 1000.0
        self.file = ifcopenshell.file(schema=schema)
        unit = self.new("IfcSIUnit", None, "LENGTHUNIT", None if metres else "MILLI", "METRE")
        self.world = self.new("IfcAxis2Placement3D", self.point(0.0, 0.0, 0.0), None, None)
        self.context = self.new("IfcGeometricRepresentationContext", None, "Model", 3, 1e-5, self.world, None)
        units = self.new("IfcUnitAssignment", [unit])
        self.project = self.root("IfcProject", "Elsewhere", None, None, None, None, [self.context], units)
        self.place = self.new("IfcLocalPlacement", None, self.world)
        self.storey = self.storeyed("Ground floor", 0.0)

    def new(self, kind: str, *values: Any) -> Any:
        return self.file.create_entity(kind, *values)

    def root(self, kind: str, *rest: Any) -> Any:
        owner: Any = None
        if self.schema == "IFC2X3":
            person, firm = self.new("IfcPerson", None, "X"), self.new("IfcOrganization", None, "X")
            both = self.new("IfcPersonAndOrganization", person, firm)
            program = self.new("IfcApplication", firm, "1", "X", "X")
            owner = self.new("IfcOwnerHistory", both, program, None, "ADDED", None, None, None, 0)
        return self.new(kind, ifcopenshell.guid.new(), owner, *rest)

    def storeyed(self, name: str, height: float) -> Any:
        placed = self.placed(0.0, 0.0, height)
        made = self.root("IfcBuildingStorey", name, None, None, placed, None, None, "ELEMENT", height * self.k)
        self.root("IfcRelAggregates", None, None, self.project, [made])
        return made

    def point(self, *at: float) -> Any:
        return self.new("IfcCartesianPoint", tuple(v * self.k for v in at))

    def placed(self, x: float, y: float, z: float = 0.0, angle: float = 0.0, axis: Any = None) -> Any:
        way = (math.cos(math.radians(angle)), math.sin(math.radians(angle)), 0.0)
        up = self.new("IfcDirection", axis) if axis else self.new("IfcDirection", (0.0, 0.0, 1.0))
        position = self.new("IfcAxis2Placement3D", self.point(x, y, z), up, self.new("IfcDirection", way))
        return self.new("IfcLocalPlacement", self.place if hasattr(self, "place") else None, position)

    def polyline(self, *points: tuple[float, float]) -> Any:
        return self.new("IfcPolyline", [self.point(*p) for p in points])

    def axis(self, *points: tuple[float, float]) -> Any:
        return self.new("IfcShapeRepresentation", self.context, "Axis", "Curve2D", [self.polyline(*points)])

    def block(self, x0: float, y0: float, x1: float, y1: float, high: float, low: float = 0.0) -> Any:
        """An extruded rectangle."""
        middle = self.new("IfcAxis2Placement2D", self.point((x0 + x1) / 2.0, (y0 + y1) / 2.0), None)
        sides = (x1 - x0) * self.k, (y1 - y0) * self.k
        profile = self.new("IfcRectangleProfileDef", "AREA", None, middle, *sides)
        position = self.new("IfcAxis2Placement3D", self.point(0.0, 0.0, low), None, None)
        return self.new("IfcExtrudedAreaSolid", profile, position, self.up(), high * self.k)

    def ring(self, points: list[tuple[float, float]], high: float) -> Any:
        """An extruded polygon."""
        profile = self.new("IfcArbitraryClosedProfileDef", "AREA", None, self.polyline(*points, points[0]))
        return self.new("IfcExtrudedAreaSolid", profile, self.world, self.up(), high * self.k)

    def up(self) -> Any:
        return self.new("IfcDirection", (0.0, 0.0, 1.0))

    def faces(self, points: list[tuple[float, float, float]], triangles: list[tuple[int, int, int]]) -> Any:
        """A body of triangles, as IFC4 writes it."""
        listed = self.new("IfcCartesianPointList3D", [tuple(v * self.k for v in p) for p in points])
        return self.new("IfcTriangulatedFaceSet", listed, None, None, [tuple(i + 1 for i in t) for t in triangles])

    def box(self, long: float, wide: float, high: float, at: tuple[float, float, float], angle: float = 0.0) -> Any:
        """A box of triangles standing at a point, turned."""
        c, s = math.cos(math.radians(angle)), math.sin(math.radians(angle))
        flat = [(0.0, 0.0), (long, 0.0), (long, wide), (0.0, wide)]
        corners = [(at[0] + c * x - s * y, at[1] + s * x + c * y, at[2] + z) for z in (0.0, high) for x, y in flat]
        return self.faces(corners, BOX)

    def shape(self, *items: Any, axis: Any = None) -> Any:
        body = self.new("IfcShapeRepresentation", self.context, "Body", "Whatever", list(items))
        return self.new("IfcProductDefinitionShape", None, None, [axis, body] if axis else [body])

    def thing(self, kind: str, shape: Any = None, place: Any = None, storey: Any = "first", name: str = "T") -> Any:
        made = self.root(kind, name, None, None, place or self.placed(0.0, 0.0), shape)
        if storey is not None:
            inside = self.storey if storey == "first" else storey
            self.root("IfcRelContainedInSpatialStructure", None, None, [made], inside)
        return made

    def opening(self, wall: Any, item: Any, filled: str = "") -> Any:
        hole = self.root("IfcOpeningElement", "O", None, None, wall.ObjectPlacement, self.shape(item))
        self.root("IfcRelVoidsElement", None, None, wall, hole)
        if filled:
            inside = self.thing(filled)
            self.root("IfcRelFillsElement", None, None, hole, inside)
        return hole

    def of(self, thing: Any, material: Any) -> None:
        self.root("IfcRelAssociatesMaterial", None, None, [thing], material)

    def layers(self, *rows: tuple[str, float]) -> Any:
        made = [self.new("IfcMaterialLayer", self.new("IfcMaterial", name), t * self.k, None) for name, t in rows]
        return self.new("IfcMaterialLayerSet", made)
