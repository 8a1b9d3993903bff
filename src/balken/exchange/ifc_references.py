"""What an IFC file holds beside walls: columns, and outlines of slabs, roofs and all that is shown but not framed."""

import math
from typing import Any

import msgspec
import numpy as np

from balken.catalog.post_shapes import SIZES_OF, post_shape
from balken.catalog.species import grade_name, species_name
from balken.exchange.ifc_entities import SETTINGS
from balken.exchange.ifc_shapes import (
    direction_of,
    extruded_corners,
    extrusion_outline,
    mesh_outline,
    profile_ring,
    rounded,
    snapped,
)
from balken.exchange.ifc_source import LARGEST, NotHeld, Source, global_id
from balken.exchange.ifc_walls import head_at
from balken.framing.pads import square
from balken.geometry.plane import Point, distance, unit
from balken.model.errors import EditError
from balken.model.lookup import by_id
from balken.model.records import Column, Hang, Project, Reference
from balken.model.rules import check
from balken.model.ties import tie


class Columns:
    """Columns taken over so far."""

    def __init__(self, source: Source, base: Project) -> None:
        self.source, self.base = source, base
        self.columns: list[Column] = []

    def take(self, made: Any) -> None:
        """Take an upright column of a rectangular section over; raises NotHeld for any other."""
        from ifcopenshell.util.element import get_material

        source = self.source
        level = source.storey_of(made)
        item = source.single_item(made)
        if level is None or item is None or not item.is_a("IfcExtrudedAreaSolid"):
            raise NotHeld("it is in no storey, or not a plain extrusion")
        if profile_ring(item.SweptArea) is None:
            raise NotHeld("only upright columns of a rectangular section are held")
        points = source.place(made, extruded_corners(item, source.scale))
        low, high = float(points[2].min()), float(points[2].max())
        upright = abs(source.matrix(made.ObjectPlacement)[2, 2] - 1.0) < 1e-6
        upright = upright and len({round(float(z), 1) for z in points[2]}) == 2
        ring = [(float(x), float(y)) for x, y in points[:2].T[: points.shape[1] // 2]]
        kept = _kept(source.sets(made).get(SETTINGS), source.scale)
        if kept.get("size") and len(ring) > 4:
            ring = _round_pipe(ring, kept)
        if not upright or len(ring) != 4:
            raise NotHeld("only upright columns of a rectangular section are held")
        a, b, c = ring[0], ring[1], ring[2]
        d = unit(a, b)
        if abs(d[0] * (c[0] - b[0]) + d[1] * (c[1] - b[1])) > 1.0:
            raise NotHeld("only upright columns of a rectangular section are held")
        middle = rounded(((a[0] + c[0]) / 2.0, (a[1] + c[1]) / 2.0))
        text = str(getattr(get_material(made), "Name", "") or "").lower()
        kind = "steel" if "steel" in text else "concrete" if "concrete" in text else "timber"
        stands_on = by_id(self.base.levels)[level]
        above = low - stands_on.height
        column = Column(
            id=f"column-{len(self.columns) + 1}",
            place=tie(self.base, middle),
            foot=Hang(level=level, offset=snapped(above)),
            head=head_at(self.base, stands_on, above + high - low),
            width=round(distance(a, b), 6),
            depth=round(distance(b, c), 6),
            material=kind,  # type: ignore[arg-type]
            angle=snapped(direction_of(a, b) % 360.0),
            source=global_id(made),
        )
        shape = post_shape(kept["size"]) if kept.get("size") else None
        if shape is not None and abs(max(column.width, column.depth) - max(shape.breadth, shape.depth)) > 1.0:
            kept = {}  # another program gave it another section
        if kept.get("size", "") == "":
            kept = {k: v for k, v in kept.items() if k in ("species", "grade", "material")}
        column = msgspec.structs.replace(column, **kept)
        try:
            check(msgspec.structs.replace(self.base, columns=(column,)))
        except EditError as error:
            raise NotHeld(str(error)) from None
        self.columns.append(column)


def _kept(told: Any, scale: float) -> dict[str, Any]:
    """Return the fields that an earlier Balken wrote of a column; none in files of others, or where they are odd."""
    if not isinstance(told, dict):
        return {}
    size, species, grade = (told.get(name) for name in ("Section", "Species", "Grade"))
    sides = [told.get(name) for name in ("Width", "Depth")]
    numbers = all(isinstance(v, (int, float)) and not isinstance(v, bool) and math.isfinite(v) for v in sides)
    try:
        shape = post_shape(size) if size not in ("", "auto") else None
        fields: dict[str, Any] = {"species": species_name(species), "grade": grade_name(species, grade)}
    except (KeyError, AttributeError):
        return {}
    width, depth = (float(v) * scale if numbers else 0.0 for v in sides)  # type: ignore[arg-type]
    if told.get("Material") in SIZES_OF:
        fields["material"] = told["Material"]
    fields["size"] = None if size == "auto" else shape.name if shape is not None else ""
    if 50.0 <= width <= 3000.0 and 50.0 <= depth <= 3000.0:
        fields |= {"width": round(width, 6), "depth": round(depth, 6)}
    return fields


def _round_pipe(ring: list[Point], kept: dict[str, Any]) -> list[Point]:
    """Return the square about a pipe that is drawn as a polygon; its middle is that of its corners."""
    x, y = (sum(v) / len(ring) for v in zip(*ring, strict=True))
    return list(square((x, y), post_shape(kept["size"]).breadth, 0.0))


class References:
    """Outlines taken over so far."""

    def __init__(self, source: Source) -> None:
        self.source = source
        self.references: list[Reference] = []
        self.parts: set[int] = set()
        """Entity ids of what was taken as part of something larger."""

    def take(self, made: Any, why: str = "") -> None:
        """Take a thing as its outline with its lowest and highest height; raises NotHeld when it has no shape.

        ``why`` it is only an outline is reported; a slab that simply is one needs no reason.
        """
        item = self.source.single_item(made)
        if item is not None and item.is_a("IfcExtrudedAreaSolid") and profile_ring(item.SweptArea) is not None:
            points = self.source.place(made, extruded_corners(item, self.source.scale))
            outline = extrusion_outline(points)
        else:
            points, outline = self._meshed(made)
            why = why or "its shape was taken as an outline with its lowest and highest height"
        bounded = np.all(np.isfinite(points)) and float(np.abs(points).max()) <= LARGEST * 10.0
        if outline is None or not bounded:
            raise NotHeld("its outline has no area, or lies out of all bounds")
        if why:
            self.source.simplify(made, why)
        kind = made.is_a().removeprefix("Ifc").removesuffix("StandardCase").removesuffix("Element")
        self.references.append(
            Reference(
                id=f"reference-{len(self.references) + 1}",
                name=made.Name or kind,
                kind=kind.lower(),
                ring=tuple(rounded((float(x), float(y))) for x, y in outline.exterior.coords[:-1]),
                bottom=snapped(float(points[2].min())),
                top=snapped(float(points[2].max())),
                source=global_id(made),
            )
        )

    def call_last(self, kind: str) -> None:
        """Say what the last one is for."""
        self.references[-1] = msgspec.structs.replace(self.references[-1], kind=kind)

    def _meshed(self, made: Any) -> tuple[Any, Any]:
        """Return points and outline of a thing's mesh, or of its parts' together."""
        if made.Representation is not None:
            points, faces = self.source.mesh(made)
            return points, mesh_outline(points, faces)
        parts = [p for r in made.IsDecomposedBy or () for p in r.RelatedObjects if p.Representation is not None]
        if not parts or made.is_a("IfcRoof"):
            more = "; its parts were looked at" if parts else ""
            raise NotHeld(f"it has no shape of its own{more}")
        meshes = [self.source.mesh(part) for part in parts]
        self.parts.update(part.id() for part in parts)
        points = np.hstack([p for p, _ in meshes])
        before = np.cumsum([0, *(p.shape[1] for p, _ in meshes)])
        faces = np.vstack([f + first for (_, f), first in zip(meshes, before, strict=False)])
        return points, mesh_outline(points, faces)
