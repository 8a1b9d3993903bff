"""The small entities of an IFC file in the making: points, placements, profiles, solids, sets, each made once."""

import uuid
from typing import Any

from balken.geometry.plane import Point, Ring, area, dot
from balken.geometry.prism import Vec, cross3, dot3, sub3
from balken.geometry.seated import Seated
from balken.geometry.solids import Swept
from balken.geometry.trimmed import Trimmed

BOUND = 2000.0
"""Longer than any seat, and farther aside than any rafter is thick, mm."""
_NAMESPACE = uuid.UUID("6b1f0c52-52a5-4a0e-9a8e-0d2c7f3b8a11")

NAMES = "Balken_Names"
"""Property set of what a thing is called within Balken; people see its mark."""
SETTINGS = "Balken_Settings"
"""Property set of what was decided here and has no place of its own in IFC."""


class Entities:
    """An IFC4 file with its shared entities; ``name``: the project's, from which GlobalIds are made."""

    body: Any
    """The context of bodies."""

    def __init__(self, name: str) -> None:
        import ifcopenshell

        self.name = name
        self.file = ifcopenshell.file(schema="IFC4")
        self.shared: dict[tuple[Any, ...], Any] = {}

    def new(self, kind: str, *values: Any) -> Any:
        """Create an entity."""
        return self.file.create_entity(kind, *values)

    def share(self, kind: str, *values: Any) -> Any:
        """Create an entity, or return the equal one made before."""
        key = (kind, *(v.id() if hasattr(v, "id") else v for v in values))
        if key not in self.shared:
            self.shared[key] = self.new(kind, *values)
        return self.shared[key]

    def gid(self, *names: str) -> str:
        """Return a GlobalId that is the same each time the same thing is written."""
        import ifcopenshell.guid

        name = "/".join((self.name, *names))
        return str(ifcopenshell.guid.compress(uuid.uuid5(_NAMESPACE, name).hex))

    def point(self, p: Vec | Point) -> Any:
        """A point, mm, to a millionth."""
        return self.share("IfcCartesianPoint", tuple(round(c, 6) + 0.0 for c in p))

    def direction(self, d: Vec) -> Any:
        """A unit direction."""
        return self.share("IfcDirection", tuple(round(c, 12) + 0.0 for c in d))

    def placement(self, parent: Any, origin: Vec, z: Vec | None = None, x: Vec | None = None) -> Any:
        """A placement within another; ``z``, ``x``: its axes, where they are not those of the parent."""
        axes = self.new(
            "IfcAxis2Placement3D",
            self.point(origin),
            self.direction(z) if z else None,
            self.direction(x) if x else None,
        )
        return self.new("IfcLocalPlacement", parent, axes)

    def profile(self, rings: tuple[Ring, ...], name: str | None) -> Any:
        """A profile of an outline and its holes, mm; a rectangle where it is one."""
        ring = rings[0]
        xs, ys = [p[0] for p in ring], [p[1] for p in ring]
        wide, tall = max(xs) - min(xs), max(ys) - min(ys)
        if len(rings) == 1 and len(ring) == 4 and abs(abs(area(ring)) - wide * tall) < 1e-3:
            centre = self.point(((min(xs) + max(xs)) / 2.0, (min(ys) + max(ys)) / 2.0))
            place = self.share("IfcAxis2Placement2D", centre, None)
            return self.share("IfcRectangleProfileDef", "AREA", name, place, round(wide, 6), round(tall, 6))
        key = ("profile", name, tuple(tuple((round(x, 4), round(y, 4)) for x, y in r) for r in rings))
        if key not in self.shared:
            curves = [self.new("IfcPolyline", [self.point(p) for p in (*r, r[0])]) for r in rings]
            self.shared[key] = (
                self.new("IfcArbitraryClosedProfileDef", "AREA", name, curves[0])
                if len(curves) == 1
                else self.new("IfcArbitraryProfileDefWithVoids", "AREA", name, curves[0], curves[1:])
            )
        return self.shared[key]

    def solid(self, swept: Swept, name: str | None, position: Any = None) -> Any:
        """A profile extruded."""
        profile = self.profile(swept.rings, name)
        return self.new("IfcExtrudedAreaSolid", profile, position, self.direction(swept.sweep), round(swept.depth, 6))

    def body_of(self, swept: Swept, name: str | None) -> Any:
        """Return a body representation; its solid is one for all pieces of the same shape."""
        key = ("solid", name, swept.rings, round(swept.depth, 6), swept.sweep)
        if key not in self.shared:
            self.shared[key] = self.solid(swept, name)
        return self.new("IfcShapeRepresentation", self.body, "Body", "SweptSolid", [self.shared[key]])

    def clipped(self, swept: Swept, name: str | None, off: Trimmed) -> Any:
        """Return the body of a solid that is cut off by a plane, in the frame of its profile."""
        beyond = self._beyond(swept, off.normal, off.least)
        made = self.new("IfcBooleanClippingResult", "DIFFERENCE", self.solid(swept, name), beyond)
        return self.new("IfcShapeRepresentation", self.body, "Body", "Clipping", [made])

    def _beyond(self, swept: Swept, normal: Vec, least: float) -> Any:
        """Return what lies against a plane's normal, in the frame of a profile."""
        x, y, z = (dot3(normal, axis) for axis in (swept.u, cross3(swept.w, swept.u), swept.w))
        far = least - dot3(normal, swept.origin)
        at, axis = self.point((x * far, y * far, z * far)), self.direction((x, y, z))
        return self.new(
            "IfcHalfSpaceSolid", self.new("IfcPlane", self.new("IfcAxis2Placement3D", at, axis, None)), True
        )

    def seated(self, swept: Swept, name: str | None, one: Seated) -> Any:
        """Return the body of a rafter with its bird's mouth, and its seat on a ridge beam, in the frame of its profile: what lies below is
        taken away, within a strip that begins at the plumb cut.
        """
        made = self.solid(swept, name)
        for start, level in one.seats:
            made = self.new("IfcBooleanClippingResult", "DIFFERENCE", made, self._below(swept, one, start, level))
        for off in (one.off, *one.tops):
            if off is not None:
                made = self.new("IfcBooleanClippingResult", "DIFFERENCE", made, self._beyond(swept, *off))
        return self.new("IfcShapeRepresentation", self.body, "Body", "Clipping", [made])

    def _below(self, swept: Swept, one: Seated, start: float, level: float) -> Any:
        """Return what lies below a seat beyond its plumb cut."""
        axes = swept.u, cross3(swept.w, swept.u), swept.w

        def within(p: Vec) -> Vec:
            return dot3(p, axes[0]), dot3(p, axes[1]), dot3(p, axes[2])

        side = (-one.way[1], one.way[0])
        aside = dot(side, one.whole.ring[0])
        corner = (one.way[0] * start + side[0] * aside, one.way[1] * start + side[1] * aside, level)
        at = self.point(within(sub3(corner, swept.origin)))
        up, along = self.direction(within((0.0, 0.0, 1.0))), self.direction(within((*one.way, 0.0)))
        place = self.new("IfcAxis2Placement3D", at, up, along)
        far = BOUND
        ring = ((0.0, -far), (far, -far), (far, far), (0.0, far))
        bound = self.new("IfcPolyline", [self.point(p) for p in (*ring, ring[0])])
        return self.new("IfcPolygonalBoundedHalfSpace", self.new("IfcPlane", place), True, place, bound)

    def quantity(self, kind: str, name: str, value: float) -> Any:
        """One quantity of a set, in the units of the file."""
        return self.share(kind, name, None, None, round(value, 9), None)

    def set_of(self, kind: str, name: str, items: list[Any]) -> Any:
        """A set of quantities or properties; one for all things that have the same."""
        key = (kind, name, *(item.id() for item in items))
        if key not in self.shared:
            gid = self.gid(name, str(len(self.shared)))
            if kind == "IfcElementQuantity":
                self.shared[key] = self.new(kind, gid, None, name, None, None, items)
            else:
                self.shared[key] = self.new(kind, gid, None, name, None, items)
        return self.shared[key]

    def single(self, name: str, kind: str, value: Any) -> Any:
        """One property of a set."""
        key = ("single", name, kind, value)
        if key not in self.shared:
            self.shared[key] = self.new(
                "IfcPropertySingleValue", name, None, self.file.create_entity(kind, value), None
            )
        return self.shared[key]
