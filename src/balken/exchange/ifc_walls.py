"""Walls of an IFC file with their openings: by axis and layers, or from the middle of a body that is a straight strip."""

import math
from typing import Any

import msgspec
import numpy as np

from balken.catalog.sections import BOARDS, SECTIONS
from balken.catalog.species import grade_name, species_name
from balken.exchange.ifc_entities import SETTINGS
from balken.exchange.ifc_layers import buildup_of, layers_of
from balken.exchange.ifc_shapes import (
    axes_of,
    extruded_corners,
    extrusion_of,
    extrusion_outline,
    inverse,
    mesh_outline,
    polyline,
    profile_ring,
    rounded,
    snapped,
    strip_of,
)
from balken.exchange.ifc_source import READ_ERRORS, NotHeld, Source, global_id
from balken.geometry.plane import Point, add, distance, left, sub, turn, unit
from balken.model.buildups import set_out_depth
from balken.model.errors import EditError
from balken.model.lookup import by_id
from balken.model.records import BuildUp, Framing, Hang, Level, Opening, Project, SetOut, Wall, WallRole
from balken.model.rules import check_kinds
from balken.model.ties import tie
from balken.value import Value


class _Strip(Value, frozen=True):
    """A body seen from above as a straight strip: its middle line, width, lowest and highest height, mm."""

    start: Point
    end: Point
    width: float
    low: float
    high: float


class Walls:
    """Walls taken over so far; ``base`` has the levels, grids and build-ups a wall is checked against."""

    def __init__(self, source: Source, base: Project) -> None:
        self.source, self.base = source, base
        self.walls: list[Wall] = []
        self.openings: list[Opening] = []
        self.buildups: list[BuildUp] = list(base.buildups)
        self._sound: dict[int, BuildUp] = {}
        """Build-ups that no rule objects to, by identity."""
        self.loose: list[str] = []
        """Walls taken from the middle of their bodies; their ends do not lie in the corners yet."""

    def take(self, made: Any) -> None:
        """Take a wall over with its openings; raises NotHeld, with the reason, for one that no record can hold."""
        from ifcopenshell.util.element import get_material

        source = self.source
        matrix = source.matrix(made.ObjectPlacement)
        if abs(matrix[2, 2] - 1.0) > 1e-6:
            raise NotHeld("it does not stand upright")
        layered = _layered(get_material(made))
        body = self._body_strip(made, matrix)
        axis, height, base, width, central = self._extent(made, matrix, layered, body)
        if _cut_above(self.source.body(made)):
            source.simplify(made, "its top or an end is cut; its whole height and length were taken")
        start, end = axis
        if distance(start, end) < 100.0 or height < 50.0:
            raise NotHeld("it is shorter than 4 in (100 mm) or lower than 2 in (50 mm)")
        layers = layers_of(source, made, get_material(made), width, central)
        wide = width if width is not None else body.width if body is not None else None
        if wide is not None and abs(layers.thickness - wide) > TOLD:
            source.simplify(made, f"its layers are {layers.thickness:.0f} mm thick, its body {wide:.0f} mm")
        buildup = buildup_of(layers.layers, self.buildups)
        set_out, chosen_depth = _set_out(buildup, layers.depth)
        d = unit(start, end)
        inward = left(d) if layers.inside_left else (d[1], -d[0])
        start, end = (add(p, inward, chosen_depth - layers.depth) for p in (start, end))
        if body is not None and not central:
            off = _beside(body, (start, end), inward, layers.thickness / 2.0 - chosen_depth)
            if off > TOLD:
                source.simplify(made, f"its body lies {off:.0f} mm beside its layers; the layers were taken")
        wall = self._record(made, buildup, set_out, layers.inside_left, (start, end), base, height)
        buildup = next(b for b in self.buildups if b.id == wall.buildup)
        context = msgspec.structs.replace(self.base, buildups=(buildup,), walls=(wall,), openings=())
        new = () if id(buildup) in self._sound else ("buildups",)
        try:
            check_kinds(context, *new, "walls")
        except EditError as error:
            raise NotHeld(str(error).replace("Wall 1: ", "")) from None
        self._sound[id(buildup)] = buildup
        self.walls.append(wall)
        if central:
            self.loose.append(wall.id)
        own: list[Opening] = []
        frame = matrix.copy()
        frame[2, 3] = base
        for relation in made.HasOpenings or ():
            self._opening(context, wall, own, relation.RelatedOpeningElement, frame, start, end)

    def _extent(
        self, made: Any, matrix: Any, layered: bool, body: Any
    ) -> tuple[tuple[Point, Point], float, float, float | None, bool]:
        """Return axis, height, base, width (None: its layers say) and whether the axis is the middle of the body."""
        axis, height = self._axis(made, matrix), self._height(made)
        base, width, central = float(matrix[2, 3]) + self._raised(made), None, False
        if axis is None or height is None:
            strip = self._strip(made, matrix)
            central = axis is None
            told = (
                "it has no straight axis; the middle of its body was taken" if central else "its height is its body's"
            )
            self.source.simplify(made, told)
            return axis or (strip.start, strip.end), height or strip.high - strip.low, strip.low, strip.width, central
        if not layered and body is not None:
            # Nothing says how thick it is or where it lies beside its axis, but its body does.
            return _on_line(axis, body), height, base, body.width, True
        return axis, height, base, width, central

    def _record(
        self, made: Any, buildup: BuildUp, set_out: SetOut, inside_left: bool, ends: tuple[Point, Point],
        base: float, height: float,
    ) -> Wall:  # fmt: skip
        """Return the wall as it will stand in the project, with what an earlier Balken wrote of it."""
        level = self._level(made, base)
        above = base - level.height
        kept = settings_of(self.source, made)
        if kept is not None and kept.name and not buildup.name:
            buildup = self._named(buildup, kept.name)
        start, end = ends
        return Wall(
            id=f"wall-{len(self.walls) + 1}",
            start=tie(self.base, rounded(start)),
            end=tie(self.base, rounded(end)),
            buildup=buildup.id,
            foot=Hang(level=level.id, offset=snapped(above)),
            head=head_at(self.base, level, above + height),
            set_out=set_out,
            outside="right" if inside_left else "left",
            role=self._role(made),
            framing=kept.framing if kept is not None else Framing(),
            cover=kept.cover if kept is not None else 0.0,
            source=global_id(made),
        )

    def _named(self, buildup: BuildUp, name: str) -> BuildUp:
        """Return a build-up with the name that was typed for it."""
        named = msgspec.structs.replace(buildup, name=name)
        self.buildups = [named if b.id == buildup.id else b for b in self.buildups]
        return named

    def _body_strip(self, made: Any, matrix: Any) -> _Strip | None:
        """Return the body as a strip where that is one plain extrusion, which costs little to see."""
        body = self.source.body(made)
        item = extrusion_of(body.Items[0]) if body is not None and len(body.Items or ()) == 1 else None
        if item is None or profile_ring(item.SweptArea) is None:
            return None
        try:
            return self._strip(made, matrix)
        except (NotHeld, *READ_ERRORS):
            return None

    def _level(self, made: Any, base: float) -> Level:
        """Return the level of its storey; without one, the nearest level at or below its foot."""
        found = self.source.storey_of(made)
        levels = self.base.levels
        if found is not None:
            return by_id(levels)[found]
        self.source.simplify(made, "it is in no storey; the nearest level below it was taken")
        below = [level for level in levels if level.height <= base + 50.0] or list(levels)
        return min(below, key=lambda level: abs(level.height - base))

    def _axis(self, made: Any, matrix: Any) -> tuple[Point, Point] | None:
        for shape in made.Representation.Representations if made.Representation else ():
            if shape.RepresentationIdentifier == "Axis" and shape.Items:
                points = polyline(shape.Items[0], matrix, self.source.scale)
                if points is not None and len(points) >= 2:
                    if len(points) > 2:
                        self.source.simplify(made, "its axis bends; the straight line between its ends was taken")
                    return points[0], points[-1]
        return None

    def _height(self, made: Any) -> float | None:
        told = self.source.quantity(made, "Height")
        if told is not None:
            return told
        body = self.source.body(made)
        item = extrusion_of(body.Items[0]) if body is not None and body.Items else None
        if item is None:
            return None
        straight = abs(item.ExtrudedDirection.DirectionRatios[2]) > 0.999
        upright = item.Position is None or item.Position.Axis is None or item.Position.Axis.DirectionRatios[2] > 0.999
        return float(item.Depth) * self.source.scale if straight and upright else None

    def _raised(self, made: Any) -> float:
        """Return how far a plain extrusion begins above the wall's own place, mm."""
        body = self.source.body(made)
        item = extrusion_of(body.Items[0]) if body is not None and len(body.Items) == 1 else None
        if item is None or item.Position is None:
            return 0.0
        return float(axes_of(item.Position)[2, 3]) * self.source.scale

    def _strip(self, made: Any, matrix: Any) -> _Strip:
        """Return the body as a strip that runs the way of its placement; raises NotHeld when it is none."""
        body = self.source.body(made)
        item = extrusion_of(body.Items[0]) if body is not None and len(body.Items) == 1 else None
        if item is not None and profile_ring(item.SweptArea) is not None:
            points = self.source.place(made, extruded_corners(item, self.source.scale))
            outline = extrusion_outline(points)
        elif made.Representation is not None:
            points, faces = self.source.mesh(made)
            outline = mesh_outline(points, faces)
        else:
            raise NotHeld("it has no shape of its own")
        strip = strip_of(outline) if outline is not None else None
        if strip is None:
            raise NotHeld("seen from above it is no straight strip")
        start, end, width = strip
        if (end[0] - start[0]) * matrix[0, 0] + (end[1] - start[1]) * matrix[1, 0] < 0.0:
            start, end = end, start
        return _Strip(start, end, width, float(points[2].min()), float(points[2].max()))

    def _role(self, made: Any) -> WallRole:
        common = self.source.sets(made).get("Pset_WallCommon", {})
        if common.get("IsExternal", True):
            return "outside"
        return "bearing" if common.get("LoadBearing") else "divides"

    # Openings --------------------------------------------------------------------------------------

    def _opening(
        self, context: Project, wall: Wall, own: list[Opening], hole: Any, matrix: Any, start: Point, end: Point
    ) -> None:
        """Read one opening; ``own`` are those of this wall read before it."""
        try:
            corners = self._box(hole)
        except NotHeld as why:
            self.source.leave(hole, str(why))
            return
        turned_back = inverse(matrix)
        local = turned_back[:3, :3] @ corners + turned_back[:3, 3:]
        along = turn(sub(end, start), -math.degrees(math.atan2(matrix[1, 0], matrix[0, 0])))
        origin = turned_back @ np.array([*start, matrix[2, 3], 1.0])
        sign = 1.0 if along[0] >= 0.0 else -1.0
        xs = sign * (local[0] - origin[0])
        filled = [r.RelatedBuildingElement for r in hole.HasFillings or ()]
        thick = sum(layer.thickness for layer in by_id(context.buildups)[wall.buildup].layers)
        deep = float(np.ptp(local[1]))
        if deep < thick - NICHE and not filled:
            self.source.leave(
                hole, f"it is a niche {deep:.0f} mm deep in a wall {thick:.0f} mm thick, no opening through it"
            )
            return
        box_low = float(local[2].min())
        if box_low < -TOLD:
            self.source.simplify(hole, f"it reaches {-box_low:.0f} mm below the wall's foot; it begins at the foot")
        kind = "door" if any(f.is_a("IfcDoor") for f in filled) else "window" if filled else "plain"
        opening = Opening(
            id=f"opening-{len(self.openings) + 1}",
            wall=wall.id,
            kind=kind,  # type: ignore[arg-type]
            offset=snapped(float(xs.min())),
            width=round(float(xs.max() - xs.min()), 6),
            height=round(float(local[2].max() - max(local[2].min(), 0.0)), 6),
            sill=max(snapped(float(local[2].min())), 0.0),
            header=header_of(self.source, hole),
            source=global_id(hole),
        )
        try:
            check_kinds(msgspec.structs.replace(context, openings=(*own, opening)), "openings")
        except EditError as error:
            self.source.leave(hole, str(error))
            return
        own.append(opening)
        self.openings.append(opening)

    def _box(self, hole: Any) -> Any:
        """Return corners (3, n) of an opening in the building: of its extrusion, else of whatever body it has."""
        body = self.source.body(hole)
        item = body.Items[0] if body is not None and body.Items else None
        if item is None:
            raise NotHeld("it has no shape")
        if item.is_a("IfcExtrudedAreaSolid") and profile_ring(item.SweptArea) is not None:
            return self.source.place(hole, extruded_corners(item, self.source.scale))
        try:
            points, _ = self.source.mesh(hole)
        except READ_ERRORS as error:
            raise NotHeld(f"its shape could not be made out ({error})") from None
        self.source.simplify(hole, "its shape is not a plain extrusion; the box about it was taken")
        return points


TOLD = 1.0
"""Every difference of more than this is told, mm."""
NICHE = 5.0
"""An opening that stops this much short of the wall's thickness does not go through it, mm."""


def _layered(material: Any) -> bool:
    """Tell whether a material says how thick a wall is."""
    return material is not None and (
        material.is_a("IfcMaterialLayerSetUsage")
        or (material.is_a("IfcMaterialLayerSet") and bool(material.MaterialLayers))
    )


def _on_line(axis: tuple[Point, Point], body: _Strip) -> tuple[Point, Point]:
    """Return the ends of an axis brought beside to the middle line of the body."""
    d = unit(body.start, body.end)
    found = []
    for p in axis:
        along = (p[0] - body.start[0]) * d[0] + (p[1] - body.start[1]) * d[1]
        found.append(add(body.start, d, along))
    return found[0], found[1]


def _cut_above(body: Any) -> bool:
    """Tell whether a body is an extrusion from which something is cut."""
    return body is not None and any(item.is_a("IfcBooleanResult") for item in body.Items or ())


def _beside(body: _Strip, axis: tuple[Point, Point], inward: Point, middle: float) -> float:
    """Return how far the middle of a body lies beside that of the layers, mm; ``middle``: inward of the axis."""
    (x, y), (bx, by) = add(axis[0], inward, middle), body.start
    d = unit(body.start, body.end)
    return abs((x - bx) * d[1] - (y - by) * d[0])


class Settings(Value, frozen=True):
    """What Balken wrote of a wall that IFC has no place for."""

    framing: Framing
    cover: float
    name: str


def settings_of(source: Source, made: Any) -> Settings | None:
    """Return what an earlier Balken wrote of a wall, None in files of others; odd values are passed over."""
    told = source.sets(made).get(SETTINGS)
    if not isinstance(told, dict):
        return None

    def text(name: str, default: str) -> str:
        value = told.get(name)
        return value if isinstance(value, str) and value else default

    def number(name: str, low: float, high: float) -> float | None:
        value = told.get(name)
        if not isinstance(value, (int, float)) or isinstance(value, bool):
            return None
        value = float(value) * source.scale
        return round(value, 6) if low <= value <= high else None

    usual = Framing()
    try:
        species, header = (
            species_name(text(n, d))
            for n, d in (("StudSpecies", usual.species), ("HeaderSpecies", usual.header_species))
        )
        framing = Framing(
            species=species,
            grade=grade_name(species, text("StudGrade", usual.grade)),
            spacing=number("StudSpacing", 100.0, 1300.0),
            count_from="end" if told.get("CountFrom") == "end" else "start",
            balloon=told.get("Balloon") is True,
            header_species=header,
            header_grade=grade_name(header, text("HeaderGrade", usual.header_grade)),
        )
    except KeyError:
        framing = usual
    return Settings(framing, number("Cover", 0.0, 1500.0) or 0.0, text("BuildUpName", ""))


def header_of(source: Source, hole: Any) -> str | None:
    """Return the header that was typed for an opening, None where it is left to Balken."""
    told = source.sets(hole).get(SETTINGS)
    name = told.get("Header") if isinstance(told, dict) else None
    return name if isinstance(name, str) and name in SECTIONS and name not in BOARDS else None


def head_at(base: Project, level: Level, above: float) -> Hang:
    """Return the head ``above`` a level: on the level that is there, else hung on this one."""
    top = level.height + above
    for other in base.levels:
        if abs(other.height - top) < 0.5:
            return Hang(level=other.id)
    return Hang(level=level.id, offset=snapped(above))


def _set_out(buildup: BuildUp, depth: float) -> tuple[SetOut, float]:
    """Return the set-out line nearest to the axis' depth, and its own depth."""
    options: tuple[SetOut, ...] = ("outside", "core outside", "centre", "core inside", "inside")
    name = min(options, key=lambda option: abs(set_out_depth(buildup, option) - depth))
    return name, set_out_depth(buildup, name)
