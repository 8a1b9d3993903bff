"""Writing IFC4 (ISO 16739-1): storeys, grid, walls with layers and openings, footings, members.

Entities are made directly and shared (points, directions, profiles, materials, quantities), which
is several times faster than going through a helper API.
"""

import math
from collections import defaultdict
from collections.abc import Callable
from functools import cached_property, partial
from pathlib import Path
from typing import Any

from balken import __version__
from balken.catalog.beams import beam_section
from balken.catalog.post_shapes import post_shape
from balken.catalog.sections import section
from balken.derived.model import Model
from balken.exchange.file_errors import Progress, Stopped
from balken.exchange.former_names import former_names
from balken.exchange.ifc_entities import NAMES, SETTINGS, Entities
from balken.exchange.ifc_trusses import Standing, trusses_of, write_assembly, write_plates
from balken.exchange.replacing import replacing
from balken.framing.bands import WallLine
from balken.framing.beams import profile
from balken.framing.pieces import Piece
from balken.framing.roles import ROLES
from balken.framing.section_solids import profile as section_profile
from balken.framing.walls import layer_profiles, wall_pieces
from balken.geometry.plane import Point, Ring
from balken.geometry.prism import Prism, Vec
from balken.geometry.seated import Seated
from balken.geometry.trimmed import Trimmed
from balken.model.buildups import display_name, thickness
from balken.model.lookup import axis_positions, by_id, grid_point, wall_label
from balken.model.naming import whole_of
from balken.model.records import Grid, Opening, Wall

_QUANTITIES = {
    "IfcBeam": "Qto_BeamBaseQuantities",
    "IfcMember": "Qto_MemberBaseQuantities",
    "IfcFooting": "Qto_FootingBaseQuantities",
    "IfcWall": "Qto_WallBaseQuantities",
    "IfcColumn": "Qto_ColumnBaseQuantities",
    "IfcSlab": "Qto_SlabBaseQuantities",
    "IfcCovering": "Qto_CoveringBaseQuantities",
    "IfcBuildingElementProxy": "Qto_BuildingElementProxyQuantities",
}
WITHIN_WALLS = frozenset({"wall layer"})
"""Roles whose pieces are the body of a wall, not things of their own."""


def write_ifc(model: Model, path: Path | str, progress: Progress | None = None) -> None:
    """Write the model as IFC4; raises FileError, or Stopped when ``progress`` says so."""
    made = _Writer(model, progress).write()
    with replacing(path) as scratch:
        scratch.write_text(made.to_string(), encoding="utf-8")


class _Writer(Entities):
    """One IFC file in the making."""

    def __init__(self, model: Model, progress: Progress | None) -> None:
        super().__init__(model.project.name)
        self.model = model
        self.progress = progress
        self.contained: dict[str, list[Any]] = defaultdict(list)
        self.materials: dict[Any, list[Any]] = defaultdict(list)
        self.properties: dict[Any, list[Any]] = defaultdict(list)
        self.storeys: dict[str, Any] = {}
        self.former = former_names(model)
        self.assemblies: dict[str, tuple[Any, list[Any]]] = {}
        """Trusses: each with the placement of its parts and these."""

    # The file ----------------------------------------------------------------------------------

    def write(self) -> Any:
        """Build the whole file."""
        self._header()
        self._spatial()
        # A role without a class raises KeyError: nothing is left out unseen.
        pieces = [p for p in self.model.pieces.values() if p.role not in WITHIN_WALLS]
        work: list[Callable[[], None]] = [partial(self._grid, grid) for grid in self.model.project.grids]
        work += [partial(self._wall, wall_id) for wall_id in self.model.lines]
        work += [partial(self._piece, piece) for piece in pieces]
        for i, task in enumerate(work):
            if self.progress is not None and i % 20 == 0 and not self.progress(i, len(work)):
                raise Stopped
            task()
        self._relate()
        return self.file

    def _header(self) -> None:
        f, p = self.file, self.model.project
        f.header.file_name.name = f"{p.name}.ifc"
        f.header.file_name.originating_system = f"Balken {__version__}"
        f.header.file_description.description = ("ViewDefinition [ReferenceView_V1.2]",)
        units = self.new(
            "IfcUnitAssignment",
            [
                self.new("IfcSIUnit", None, "LENGTHUNIT", "MILLI", "METRE"),
                self.new("IfcSIUnit", None, "AREAUNIT", None, "SQUARE_METRE"),
                self.new("IfcSIUnit", None, "VOLUMEUNIT", None, "CUBIC_METRE"),
                self.new("IfcSIUnit", None, "PLANEANGLEUNIT", None, "RADIAN"),
                self.new("IfcSIUnit", None, "FORCEUNIT", None, "NEWTON"),
            ],
        )
        world = self.new("IfcAxis2Placement3D", self.point((0.0, 0.0, 0.0)), None, None)
        context = self.new("IfcGeometricRepresentationContext", None, "Model", 3, 1e-5, world, None)
        self.body = self._sub(context, "Body", "MODEL_VIEW")
        self.axis = self._sub(context, "Axis", "GRAPH_VIEW")
        self.foot = self._sub(context, "FootPrint", "PLAN_VIEW")
        self.project = self.new(
            "IfcProject", self.gid("project"), None, p.name, None, None, None, None, [context], units
        )

    def _sub(self, context: Any, name: str, view: str) -> Any:
        return self.new(
            "IfcGeometricRepresentationSubContext",
            name,
            "Model",
            None,
            None,
            None,
            None,
            context,
            None,
            view,
            None,
        )

    def _spatial(self) -> None:
        p = self.model.project
        ground = self.placement(None, (0.0, 0.0, 0.0))
        site = self.new("IfcSite", self.gid("site"), None, "Site", None, None, ground, None, None, "ELEMENT")
        self.site_placement = self.placement(ground, (0.0, 0.0, 0.0))
        building = self.new(
            "IfcBuilding", self.gid("building"), None, p.name, None, None, self.site_placement, None, None, "ELEMENT"
        )
        for level in sorted(p.levels, key=lambda v: v.height):
            storey = self.new(
                "IfcBuildingStorey",
                self.gid(level.id),
                None,
                level.name,
                level.role,
                None,
                self.placement(self.site_placement, (0.0, 0.0, level.height)),
                None,
                None,
                "ELEMENT",
                level.height,
            )
            self.storeys[level.id] = storey
        self.new("IfcRelAggregates", self.gid("has site"), None, None, None, self.project, [site])
        self.new("IfcRelAggregates", self.gid("has building"), None, None, None, site, [building])
        if self.storeys:
            storeys = list(self.storeys.values())
            self.new("IfcRelAggregates", self.gid("has storeys"), None, None, None, building, storeys)

    def _storey_of(self, level: str) -> tuple[Any, float]:
        return self.storeys[level].ObjectPlacement, by_id(self.model.project.levels)[level].height

    # Things ------------------------------------------------------------------------------------

    def _grid(self, grid: Grid) -> None:
        xs, ys = axis_positions(grid.x_axes), axis_positions(grid.y_axes)
        if not xs or not ys:
            return
        past = grid.run_past
        curves: list[Any] = []

        def axis(label: str, curve: Any) -> Any:
            curves.append(curve)
            return self.new("IfcGridAxis", label, curve, True)

        def straight(a: Point, b: Point) -> Any:
            return self.new("IfcPolyline", [self.point(grid_point(grid, *a)), self.point(grid_point(grid, *b))])

        us = [
            axis(a.label, straight((x, ys[0] - past), (x, ys[-1] + past))) for a, x in zip(grid.x_axes, xs, strict=True)
        ]
        if grid.kind == "radial":
            vs = [axis(a.label, self._arc(grid, r, xs)) for a, r in zip(grid.y_axes, ys, strict=True)]
        else:
            vs = [
                axis(a.label, straight((xs[0] - past, y), (xs[-1] + past, y)))
                for a, y in zip(grid.y_axes, ys, strict=True)
            ]
        shape = self.new(
            "IfcShapeRepresentation",
            self.foot,
            "FootPrint",
            "GeometricCurveSet",
            [self.new("IfcGeometricCurveSet", curves)],
        )
        lowest = min(self.model.project.levels, key=lambda v: v.height)
        made = self.new(
            "IfcGrid",
            self.gid(grid.id),
            None,
            grid.name,
            None,
            None,
            self.placement(self.storeys[lowest.id].ObjectPlacement, (0.0, 0.0, 0.0)),
            self.new("IfcProductDefinitionShape", None, None, [shape]),
            us,
            vs,
            None,
            "RADIAL" if grid.kind == "radial" else "RECTANGULAR",
        )
        self.contained[lowest.id].append(made)

    def _arc(self, grid: Grid, radius: float, rays: list[float]) -> Any:
        centre = self.point(grid.origin)
        reference = grid_point(grid, rays[0], 1.0)
        way = (reference[0] - grid.origin[0], reference[1] - grid.origin[1])
        place = self.new("IfcAxis2Placement2D", centre, self.share("IfcDirection", tuple(round(c, 12) for c in way)))
        circle = self.new("IfcCircle", place, round(radius, 6))
        sweep = math.radians(rays[-1] - rays[0])
        ends = [[self.file.create_entity("IfcParameterValue", t)] for t in (0.0, sweep)]
        return self.new("IfcTrimmedCurve", circle, ends[0], ends[1], True, "PARAMETER")

    def _piece(self, piece: Piece) -> None:
        kind, predefined = ROLES[piece.role].ifc
        parent, z = self._storey_of(piece.level)
        whole = whole_of(piece.key)
        if whole:
            parent = self._assembly(whole, piece.level).ObjectPlacement
        solid = piece.solid.swept()
        x0, y0, z0 = solid.origin
        place = self.placement(parent, (x0, y0, z0 - z), solid.w, solid.u)
        off = piece.solid if isinstance(piece.solid, Trimmed) else None
        if off is not None:
            body = self.clipped(solid, piece.section or None, off)
        elif isinstance(piece.solid, Seated):
            body = self.seated(solid, piece.section or None, piece.solid)
        else:
            body = self.body_of(solid, piece.section or None)
        shape = self.new("IfcProductDefinitionShape", None, None, [body])
        mark = self.model.marks[piece.key]
        name = f"{mark} {piece.section} {piece.role}".replace("  ", " ")
        object_type = piece.role.upper() if predefined == "USERDEFINED" else None
        made = self.new(kind, self.gid(piece.key), None, name, None, object_type, place, shape, mark, predefined)
        if whole:
            self.assemblies[whole][1].append(made)
        else:
            self.contained[piece.level].append(made)
        if piece.section:
            self.materials[self._lumber(piece)].append(made)
        else:
            self.materials[self.share("IfcMaterial", piece.material, None, None)].append(made)
        self.properties[self._quantities(kind, piece)].append(made)
        self.properties[self._common(kind, piece.role)].append(made)
        result = self.model.results.get(piece.key)
        if result is not None:
            self.properties[self._checked(result.used, result.governs.name, result.governs.clause)].append(made)
        names = [self.single("Name", "IfcIdentifier", piece.key)]
        if piece.key in self.former:
            names.append(self.single("FormerName", "IfcIdentifier", self.former[piece.key]))
        self.properties[self.set_of("IfcPropertySet", NAMES, names)].append(made)
        if piece.role == "column":
            self.properties[self.set_of("IfcPropertySet", SETTINGS, self._column_settings(piece))].append(made)

    def _assembly(self, name: str, level: str) -> Any:
        """Return the assembly of a truss; the first of its sticks brings it and its plates."""
        if name not in self.assemblies:
            parent, z = self._storey_of(level)
            truss = self.trusses[name]
            made = write_assembly(self, name, truss.mark, self.placement(parent, (0.0, 0.0, 0.0)))
            self.contained[level].append(made)
            plates = write_plates(self, name, truss, made.ObjectPlacement, z)
            steel = self.share("IfcMaterial", "galvanized steel", None, None)
            self.materials[steel].extend(plates)
            self.assemblies[name] = made, plates
        return self.assemblies[name][0]

    @cached_property
    def trusses(self) -> dict[str, Standing]:
        """Trusses by their names."""
        return trusses_of(self.model)

    def _column_settings(self, piece: Piece) -> list[Any]:
        column = by_id(self.model.project.columns)[piece.owner]
        return [
            self.single("Section", "IfcLabel", "auto" if column.size is None else column.size),
            self.single("Width", "IfcLengthMeasure", round(column.width, 6)),
            self.single("Depth", "IfcLengthMeasure", round(column.depth, 6)),
            self.single("Material", "IfcLabel", column.material),
            self.single("Species", "IfcLabel", column.species),
            self.single("Grade", "IfcLabel", column.grade),
        ]

    def _lumber(self, piece: Piece) -> Any:
        named, category = (f"{piece.species} {piece.grade}", "wood") if piece.species else (piece.material, None)
        material = self.share("IfcMaterial", named, None, category)
        key = ("lumber", material.id(), piece.section)
        if key not in self.shared:
            profile = self.new(
                "IfcMaterialProfile",
                piece.section,
                None,
                material,
                self.profile(_profile_of(piece)[0], piece.section),
                None,
                None,
            )
            self.shared[key] = self.new("IfcMaterialProfileSet", piece.section, None, [profile], None)
        return self.shared[key]

    def _quantities(self, kind: str, piece: Piece) -> Any:
        items = [self.quantity("IfcQuantityLength", "Length", piece.length)]
        if piece.section:
            items.append(self.quantity("IfcQuantityArea", "CrossSectionArea", _profile_of(piece)[1] * 1e-6))
        volume = "GrossVolume" if kind == "IfcFooting" else "NetVolume"
        items.append(self.quantity("IfcQuantityVolume", volume, piece.volume * 1e-9))
        if kind in ("IfcSlab", "IfcCovering", "IfcBuildingElementProxy"):
            items = items[1:]
        return self.set_of("IfcElementQuantity", _QUANTITIES[kind], items)

    def _common(self, kind: str, role: str) -> Any:
        name = f"Pset_{kind.removeprefix('Ifc')}Common"
        if kind in ("IfcFooting", "IfcCovering", "IfcBuildingElementProxy"):
            return self.set_of("IfcPropertySet", name, [self.single("Reference", "IfcIdentifier", role)])
        return self.set_of("IfcPropertySet", name, [self.single("LoadBearing", "IfcBoolean", True)])

    def _checked(self, used: float, governs: str, clause: str) -> Any:
        items = [
            self.single("Used", "IfcRatioMeasure", round(used, 4)),
            self.single("GovernedBy", "IfcLabel", governs),
            self.single("Clause", "IfcLabel", clause),
        ]
        return self.set_of("IfcPropertySet", "Balken_Check", items)

    def _wall(self, wall_id: str) -> None:
        m = self.model
        line = m.lines[wall_id]
        b, wall = line.band, line.wall
        level = wall.foot.level
        parent, z = self._storey_of(level)
        place = self.placement(parent, (*b.start, b.bottom - z), (0.0, 0.0, 1.0), (*b.direction, 0.0))
        axis = self.new(
            "IfcShapeRepresentation",
            self.axis,
            "Axis",
            "Curve2D",
            [self.new("IfcPolyline", [self.point((0.0, 0.0)), self.point((b.length, 0.0))])],
        )
        side = 1.0 if wall.outside == "right" else -1.0
        body = self.new("IfcShapeRepresentation", self.body, "Body", "SweptSolid", self._layer_solids(wall_id))
        made = self.new(
            "IfcWall",
            self.gid(wall_id),
            None,
            wall_label(m.project, wall_id),
            None,
            None,
            place,
            self.new("IfcProductDefinitionShape", None, None, [axis, body]),
            m.marks[wall_id],
            "ELEMENTEDWALL" if any("studs" in layer.material for layer in line.buildup.layers) else "SOLIDWALL",
        )
        self.contained[level].append(made)
        self.materials[self._layer_usage(wall_id, side)].append(made)
        self._wall_sets(made, line)
        for opening in m.project.openings:
            if opening.wall == wall_id:
                self._opening(opening, made, place, level, side)

    def _layer_solids(self, wall_id: str) -> list[Any]:
        """Return the layers of a wall, without its openings, as solids in the wall's own frame."""
        line, joints = self.model.lines[wall_id], self.model.joints[wall_id]
        b, d = line.band, line.band.direction

        def local(v: Vec) -> Vec:
            """Turn a vector into the wall's own frame: x along it, y to its left."""
            return (v[0] * d[0] + v[1] * d[1], v[1] * d[0] - v[0] * d[1], v[2])

        found = []
        for piece in wall_pieces(line, joints, layer_profiles(line, joints, (), self.model.gables.get(wall_id))):
            solid = piece.solid.swept()
            origin = local((solid.origin[0] - b.start[0], solid.origin[1] - b.start[1], solid.origin[2] - b.bottom))
            axes = self.direction(local(solid.w)), self.direction(local(solid.u))
            position = self.new("IfcAxis2Placement3D", self.point(origin), *axes)
            found.append(self.solid(solid, None, position))
        return found

    def _wall_sets(self, made: Any, line: WallLine) -> None:
        """Write a wall's quantities, common properties and settings."""
        b, wall = line.band, line.wall
        volume = sum(p.volume for p in self.model.pieces.values() if p.owner == wall.id) * 1e-9
        items = [
            self.quantity("IfcQuantityLength", "Length", b.length),
            self.quantity("IfcQuantityLength", "Height", b.top - b.bottom),
            self.quantity("IfcQuantityLength", "Width", line.thickness),
            self.quantity("IfcQuantityVolume", "NetVolume", volume),
        ]
        common = [
            self.single("IsExternal", "IfcBoolean", wall.role == "outside"),
            self.single("LoadBearing", "IfcBoolean", wall.role != "divides"),
        ]
        for kind, name, values in (
            ("IfcElementQuantity", "Qto_WallBaseQuantities", items),
            ("IfcPropertySet", "Pset_WallCommon", common),
            ("IfcPropertySet", SETTINGS, self._settings(wall)),
            ("IfcPropertySet", NAMES, [self.single("Name", "IfcIdentifier", wall.id)]),
        ):
            self.properties[self.set_of(kind, name, values)].append(made)

    def _settings(self, wall: Wall) -> list[Any]:
        """Return what IFC has no place for, so that it comes back when the file is read again."""
        framing, plain = wall.framing, self.model.project
        named = next((b.name for b in plain.buildups if b.id == wall.buildup), "")
        return [
            self.single("Cover", "IfcLengthMeasure", round(wall.cover, 6)),
            self.single("StudSpacing", "IfcLengthMeasure", round(framing.spacing or 0.0, 6)),
            self.single("CountFrom", "IfcLabel", framing.count_from),
            self.single("Balloon", "IfcBoolean", framing.balloon),
            self.single("StudSpecies", "IfcLabel", framing.species),
            self.single("StudGrade", "IfcLabel", framing.grade),
            self.single("HeaderSpecies", "IfcLabel", framing.header_species),
            self.single("HeaderGrade", "IfcLabel", framing.header_grade),
            self.single("BuildUpName", "IfcLabel", named),
        ]

    def _layer_usage(self, wall_id: str, side: float) -> Any:
        line = self.model.lines[wall_id]
        key = ("layers", line.buildup.id)
        if key not in self.shared:
            layers = [
                self.new(
                    "IfcMaterialLayer",
                    self.share("IfcMaterial", layer.material, None, None),
                    round(layer.thickness, 6),
                    None,
                    layer.function,
                    None,
                    None,
                    None,
                )
                for layer in line.buildup.layers
            ]
            name = display_name(line.buildup, self.model.project.units)
            self.shared[key] = self.new("IfcMaterialLayerSet", layers, name, None)
        sense = "POSITIVE" if side > 0 else "NEGATIVE"
        offset = round(-side * line.band.set_out, 6)
        assert math.isclose(sum(v.thickness for v in line.buildup.layers), thickness(line.buildup))
        return self.share("IfcMaterialLayerSetUsage", self.shared[key], "AXIS2", sense, offset, None)

    def _opening(self, o: Opening, wall: Any, wall_place: Any, level: str, side: float) -> None:
        line = self.model.lines[o.wall]
        out = 50.0
        near, far = -line.band.set_out - out, line.thickness - line.band.set_out + out
        y0 = near if side > 0 else -far
        place = self.placement(wall_place, (o.offset, y0, o.sill), (0.0, 0.0, 1.0), (1.0, 0.0, 0.0))
        ring: Ring = ((0.0, 0.0), (o.width, 0.0), (o.width, far - near), (0.0, far - near))
        solid = Prism((0.0, 0.0, 0.0), (1.0, 0.0, 0.0), (0.0, 1.0, 0.0), (ring,), o.height)
        shape = self.new("IfcProductDefinitionShape", None, None, [self.body_of(solid, None)])
        hole = self.new(
            "IfcOpeningElement",
            self.gid(o.id),
            None,
            o.kind,
            None,
            None,
            place,
            shape,
            self.model.marks[o.id],
            "OPENING",
        )
        self.new("IfcRelVoidsElement", self.gid(o.id, "voids"), None, None, None, wall, hole)
        header = [self.single("Header", "IfcLabel", o.header or "auto")]
        self.properties[self.set_of("IfcPropertySet", SETTINGS, header)].append(hole)
        if o.kind == "plain":
            return
        own = self.placement(place, (0.0, 0.0, 0.0))
        mark = self.model.marks[o.id]
        values = (self.gid(o.id, "fill"), None, o.kind, None, None, own, None, mark, o.height, o.width)
        filling = (
            self.new("IfcDoor", *values, "DOOR", "NOTDEFINED", None)
            if o.kind == "door"
            else self.new("IfcWindow", *values, "WINDOW", "NOTDEFINED", None)
        )
        self.new("IfcRelFillsElement", self.gid(o.id, "fills"), None, None, None, hole, filling)
        self.contained[level].append(filling)

    def _relate(self) -> None:
        for name, (whole, parts) in self.assemblies.items():
            self.new("IfcRelAggregates", self.gid(name, "parts"), None, None, None, whole, parts)
        for level, things in self.contained.items():
            self.new(
                "IfcRelContainedInSpatialStructure",
                self.gid(level, "contains"),
                None,
                None,
                None,
                things,
                self.storeys[level],
            )
        for i, (material, things) in enumerate(self.materials.items()):
            self.new("IfcRelAssociatesMaterial", self.gid("material", str(i)), None, None, None, things, material)
        for i, (properties, things) in enumerate(self.properties.items()):
            self.new("IfcRelDefinesByProperties", self.gid("properties", str(i)), None, None, None, things, properties)


def expected_counts(model: Model) -> dict[str, int]:
    """Return how many entities of each class the file has for this model, to check a file read back."""
    counts: dict[str, int] = defaultdict(int)
    for piece in model.pieces.values():
        if piece.role not in WITHIN_WALLS:
            counts[ROLES[piece.role].ifc[0]] += 1
    for truss in trusses_of(model).values():
        counts["IfcElementAssembly"] += 1
        counts["IfcPlate"] += 2 * len(truss.plates) * truss.made.frame.sizes.plies
    counts["IfcWall"] += len(model.lines)
    counts["IfcOpeningElement"] = len(model.project.openings)
    counts["IfcBuildingStorey"] = len(model.project.levels)
    counts["IfcGridAxis"] = sum(len(g.x_axes) + len(g.y_axes) for g in model.project.grids)
    return dict(counts)


def _profile_of(piece: Piece) -> tuple[tuple[Ring, ...], float]:
    """Return the outlines of what a piece is cut from, and its area, mm2."""
    if ROLES[piece.role].post:
        shape = post_shape(piece.section)
        return shape.rings, shape.area
    if ROLES[piece.role].beam:
        made_of = beam_section(piece.section)
        return (profile(made_of),), made_of.area
    board = section(piece.section)
    if board.flange:
        return (section_profile(board),), board.area
    return (((0.0, 0.0), (board.breadth, 0.0), (board.breadth, board.depth), (0.0, board.depth)),), board.area
