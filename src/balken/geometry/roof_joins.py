"""Roofs that run on over a lower one: the upper envelope of both, the lower one whole beneath.

Where an upper roof has an open side its planes run on beyond the outline, as at a gable that stands nowhere, and end where
they come down on the planes below: those lines are *laid* ones, valleys on the lower roof's deck.  What stays of the upper
roof is all of it that does not lie over the lower outline, and of the rest what lies higher than the lower planes and hangs
together with it.

Coordinates in mm; heights over the upper roof's bearing line.
"""

import itertools
import math
from collections.abc import Iterator, Sequence
from typing import NamedTuple

import shapely

from balken.geometry.plane import (
    Point,
    Ring,
    add,
    area,
    areas,
    clipped,
    distance,
    dot,
    left,
    polygons_of,
    sub,
    to_segment,
    unit,
)
from balken.geometry.roof_edges import Place, RoofEdge, RoofError
from balken.geometry.roof_overhangs import overhung
from balken.geometry.roof_surface import LineKind, RoofFace, RoofLine, RoofSurface
from balken.value import Value

GRID = 1e-3
"""To which places are rounded where planes are cut, mm."""
CLOSE = 0.05
"""What lies closer to a line than this lies on it, mm."""
LEAST = 1e4
"""Less of a plane than this in plan is none, mm2."""
OVER = 200.0
"""An eave may stand this far over the roof that it runs onto, mm: less than a fascia covers."""
BEYOND = 500.0
"""So much farther than needed planes are run on before they are cut, mm."""


class LowerPlane(Value, frozen=True):
    """A plane below: of which roof and edge, its outline in plan, its height as level + slope . (x, y)."""

    roof: str
    edge: int
    ring: Ring
    slope: Point
    level: float

    def height(self, p: Point) -> float:
        """Return its height at a place."""
        return self.level + dot(self.slope, p)


class Joined(NamedTuple):
    """An upper roof as it runs on: its planes and lines over the bearing lines and with overhangs; all of it in plan."""

    surface: RoofSurface
    whole: RoofSurface
    region: tuple[Ring, ...]


def run_onto(
    surface: RoofSurface,
    outline: Sequence[Point],
    edges: Sequence[RoofEdge],
    overhangs: Sequence[float],
    lower: Sequence[LowerPlane],
    beneath: Sequence[Ring],
) -> Joined:
    """Run a roof on over the planes below beyond its open sides.

    ``lower``: planes with their overhangs, ``beneath``: the outlines of the roofs they belong to.  Raises RoofError where an eave
    would stand in the air, the roof would rise over what it runs onto, or run out past that.
    """
    core = shapely.Polygon(outline)
    under = shapely.union_all([shapely.Polygon(ring) for ring in beneath])
    sides = {k for k, edge in enumerate(edges) if edge.kind == "roof"}
    rows = []
    for own in ([0.0] * len(edges), overhangs):
        by = [_reach(k, outline, lower) if edge.kind == "roof" else own[k] for k, edge in enumerate(edges)]
        try:
            rows.append(overhung(surface, outline, edges, by).surface)
        except RoofError as error:
            raise RoofError("beyond its open side its planes run into its own outline") from error
    framed, whole = rows[0], rows[1]
    kept = _kept(framed, core, under, lower, within=False)
    _eaves_end(framed, kept, core, lower)
    made, _ = _cut(framed, kept, core, sides)
    skirted = _kept(whole, core, under, lower, within=True)
    decks, region = _cut(whole, skirted, core, sides)
    return Joined(made, decks, region)


def _reach(edge: int, outline: Sequence[Point], lower: Sequence[LowerPlane]) -> float:
    a, b = outline[edge], outline[(edge + 1) % len(outline)]
    out = left(unit(b, a))
    return max((dot(out, sub(p, a)) for plane in lower for p in plane.ring), default=0.0) + BEYOND


Kept = dict[int, shapely.Geometry]


def _kept(
    surface: RoofSurface, core: shapely.Polygon, under: shapely.Geometry, lower: Sequence[LowerPlane], within: bool
) -> Kept:
    """Return what of each plane stays, before what does not hang together with the rest is let go.

    ``within``: the planes below have their overhangs, beneath which the upper roof runs on inside its own outline.
    """
    covered = shapely.union_all([shapely.Polygon(p.ring) for p in lower]) if within else under
    found: Kept = {}
    for face in surface.faces:
        shape = shapely.Polygon([p[:2] for p in face.ring])
        parts = [areas(shape.difference(covered, grid_size=GRID))]
        if within:
            parts.append(areas(shape.intersection(areas(core.difference(under)), grid_size=GRID)))
        for plane in lower:
            over = areas(shape.intersection(shapely.Polygon(plane.ring), grid_size=GRID))
            if not within:
                over = areas(over.intersection(under, grid_size=GRID))
            if over.area > 1.0:
                parts.append(higher_part(over, slope_of(face.ring), plane))
        found[face.edge] = _without_seams(shapely.union_all(parts, grid_size=GRID))
    return found


def _without_seams(shape: shapely.Geometry) -> shapely.Geometry:
    """Return a plane put together from parts that only rounding keeps apart as one."""
    if len(polygons_of(shape)) < 2:
        return shape
    return shape.buffer(CLOSE / 2.0, join_style="mitre").buffer(-CLOSE / 2.0, join_style="mitre")


def higher_part(shape: shapely.Geometry, plane: tuple[Point, float], below: LowerPlane) -> shapely.Geometry:
    """Return where a plane lies higher than one below it."""
    (gx, gy), level = plane
    normal, least = (gx - below.slope[0], gy - below.slope[1]), below.level - level
    shape = areas(shape)
    if math.hypot(*normal) < 1e-6:
        return shape if least < 0.0 else shapely.MultiPolygon()
    if shape.is_empty:
        return shape
    x0, y0, x1, y1 = shape.buffer(1.0).bounds
    ring = clipped(((x0, y0), (x1, y0), (x1, y1), (x0, y1)), normal, least)
    if len(ring) < 3 or abs(area(ring)) <= 1.0:
        return shapely.MultiPolygon()
    return areas(shape.intersection(shapely.Polygon(ring), grid_size=GRID))


def slope_of(ring: Sequence[Place]) -> tuple[Point, float]:
    """Return how the plane through an outline rises along x and y, and its height at the origin: by its greatest triangle from the first."""
    (x0, y0, z0), best, made = ring[0], 0.0, ((0.0, 0.0), ring[0][2])
    for (x1, y1, z1), (x2, y2, z2) in itertools.combinations(ring[1:], 2):
        ax, ay, bx, by = x1 - x0, y1 - y0, x2 - x0, y2 - y0
        turn = ax * by - ay * bx
        if abs(turn) > best:
            gx, gy = ((z1 - z0) * by - (z2 - z0) * ay) / turn, ((z2 - z0) * ax - (z1 - z0) * bx) / turn
            best, made = abs(turn), ((gx, gy), z0 - gx * x0 - gy * y0)
    return made


def _eaves_end(surface: RoofSurface, kept: Kept, core: shapely.Polygon, lower: Sequence[LowerPlane]) -> None:
    """Raise RoofError where an eave that runs on beyond the outline stands over the roof below."""
    for line in surface.lines:
        if line.kind != "eave" or line.edges[0] not in kept:
            continue
        run = shapely.LineString([line.start[:2], line.end[:2]])
        inside = kept[line.edges[0]].buffer(CLOSE)
        for x, y in _coords(run.intersection(inside).difference(core.buffer(CLOSE))):
            stands = [line.start[2] - plane.height((x, y)) for plane in lower if _holds(plane, (x, y))]
            if max(stands, default=0.0) > OVER:
                raise RoofError(
                    "at its open side an eave stands over the roof that it runs onto: let its walls run on to where that is as high, or lower its bearing"
                )


def _holds(plane: LowerPlane, p: Point) -> bool:
    return bool(shapely.Polygon(plane.ring).buffer(CLOSE).covers(shapely.Point(p)))


def _cut(
    surface: RoofSurface, kept: Kept, core: shapely.Polygon, open_sides: set[int]
) -> tuple[RoofSurface, tuple[Ring, ...]]:
    """Return planes and lines of what hangs together with an outline, and that in plan."""
    every = shapely.union_all([shape.buffer(CLOSE, join_style="mitre") for shape in kept.values()])
    own = [part for part in getattr(every, "geoms", [every]) if part.intersection(core).area > LEAST]
    if len(own) != 1:
        raise RoofError("what runs on over the roof below does not hang together")
    faces = []
    for face in surface.faces:
        parts = [p for p in polygons_of(kept[face.edge].intersection(own[0])) if p.area > LEAST]
        if not parts:
            continue
        if len(parts) > 1 or parts[0].interiors:
            raise RoofError("the roof below cuts one of its planes in two")
        faces.append(_faced(face, parts[0]))
    shape = shapely.union_all([shapely.Polygon([p[:2] for p in f.ring]).buffer(CLOSE) for f in faces])
    lines = [part for line in surface.lines for part in _part_of(line, shape)]
    laid = [line for face in faces for line in _laid(face, lines, core)]
    if any(line.kind == "rake" and open_sides.intersection(line.edges[1:]) for line in lines):
        raise RoofError("it rises over the roof that it runs onto, or runs out past it")
    outlines = tuple(_ring_of(p) for p in polygons_of(shape))
    return RoofSurface(tuple(faces), (*lines, *laid)), outlines


def _ring_of(shape: shapely.Polygon) -> Ring:
    outer = shapely.remove_repeated_points(shape.simplify(CLOSE / 2.0), 2.0 * CLOSE).exterior
    ring = tuple((float(x), float(y)) for x, y in outer.coords[:-1])
    return ring if area(ring) > 0.0 else ring[::-1]


def _faced(face: RoofFace, shape: shapely.Polygon) -> RoofFace:
    (gx, gy), level = slope_of(face.ring)
    return face._replace(ring=tuple((x, y, level + gx * x + gy * y) for x, y in _ring_of(shape)))


def _coords(shape: shapely.Geometry) -> list[Point]:
    parts = getattr(shape, "geoms", [shape])
    return [(float(x), float(y)) for p in parts if p.geom_type == "LineString" for x, y in p.coords]


def _part_of(line: RoofLine, shape: shapely.Geometry) -> Iterator[RoofLine]:
    """Yield what of a line stays."""
    a, b = line.start, line.end
    met = shapely.LineString([a[:2], b[:2]]).intersection(shape)
    way, long = unit(a[:2], b[:2]), distance(a[:2], b[:2])
    for part in getattr(met, "geoms", [met]):
        if part.geom_type != "LineString" or part.length < 4.0 * CLOSE:
            continue
        ends = []
        for p in (part.coords[0], part.coords[-1]):
            s = min(max(dot(way, sub((p[0], p[1]), a[:2])), 0.0), long)
            s = 0.0 if s < 2.0 * CLOSE else long if s > long - 2.0 * CLOSE else s
            ends.append((*add(a[:2], way, s), a[2] + (b[2] - a[2]) * s / long))
        ends.sort(key=lambda p: distance(p[:2], a[:2]))
        yield line._replace(start=ends[0], end=ends[1])


def _laid(face: RoofFace, lines: Sequence[RoofLine], core: shapely.Polygon) -> Iterator[RoofLine]:
    """Yield the sides of a plane that lie on no line of the roof: it comes down there on the roof below, or stands against it."""
    own = [line for line in lines if face.edge in line.edges]
    sides = []
    for p, q in zip(face.ring, (*face.ring[1:], face.ring[0]), strict=True):
        middle = ((p[0] + q[0]) / 2.0, (p[1] + q[1]) / 2.0)
        if not any(to_segment(middle, x.start[:2], x.end[:2]) < 6.0 * CLOSE for x in own):
            sides.append((p, q))
    for p, q in _run_together(sides):
        if distance(p[:2], q[:2]) < 4.0 * CLOSE:
            continue
        middle = ((p[0] + q[0]) / 2.0, (p[1] + q[1]) / 2.0)
        along = core.exterior.distance(shapely.Point(middle)) < 6.0 * CLOSE
        kind: LineKind = "wall" if along else "laid"
        yield RoofLine(kind, p, q, (face.edge, -1))


def _run_together(sides: list[tuple[Place, Place]]) -> list[tuple[Place, Place]]:
    """Return sides of an outline, those that run on in line as one."""
    rows = list(sides)
    for i in range(len(rows)):
        while True:
            p, q = rows[i]
            on = next(
                (k for k, (a, b) in enumerate(rows) if k != i and math.dist(q, a) < CLOSE and _straight(p, q, b)), -1
            )
            if on < 0:
                break
            rows[i] = (p, rows[on][1])
            rows[on] = (rows[i][1], rows[i][1])
    return [(p, q) for p, q in rows if math.dist(p, q) > CLOSE]


def _straight(p: Place, q: Place, r: Place) -> bool:
    if distance(p[:2], q[:2]) < CLOSE or distance(q[:2], r[:2]) < CLOSE:
        return False
    return to_segment(q[:2], p[:2], r[:2]) < CLOSE and dot(unit(p[:2], q[:2]), unit(q[:2], r[:2])) > 0.999
