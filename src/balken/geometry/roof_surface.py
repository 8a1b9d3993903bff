"""Roof surfaces over any outline: a plane from each eave, rising inward until it meets others; gables stand still.

A weighted straight skeleton by a moving wavefront: at height z the roof above it lies within the fronts of its edges, each
moved inward by (z - start) / pitch; the places where two fronts meet trace hips, valleys and ridges (``roof_wavefront``).

Coordinates in mm, z up.  What cannot be settled is refused in words: the planes must add up to the outline.
"""

import math
from collections.abc import Sequence
from typing import Literal, NamedTuple

import shapely

from balken.geometry.plane import Point, add, area, distance, dot, left, unit
from balken.geometry.roof_edges import EdgeKind, Place, RoofEdge, RoofError, in_order
from balken.geometry.roof_wavefront import PARALLEL, TOUCH, Arc, Front, traced

LineKind = Literal["eave", "rake", "wall", "ridge", "hip", "valley", "laid", "purlin"]
"""``laid``: where a plane comes down on a roof below."""
GRID = 0.005
"""To which places are rounded when faces are put together, mm."""
SAME_AREA = 1e-6
"""The planes add up to the outline to this part of it."""


class RoofLine(NamedTuple):
    """A line of the surface: what it is, its ends, the numbers of the edges whose planes meet there (-1: a step between eaves)."""

    kind: LineKind
    start: Place
    end: Place
    edges: tuple[int, int]

    @property
    def length(self) -> float:
        """Its true length, mm."""
        return math.dist(self.start, self.end)


class RoofFace(NamedTuple):
    """The plane of an eave: its edge's number, pitch, outline in plan (anticlockwise), each corner with its height."""

    edge: int
    pitch: float
    ring: tuple[Place, ...]

    @property
    def plan_area(self) -> float:
        """Area in plan, mm2."""
        return abs(area([(x, y) for x, y, _ in self.ring]))

    @property
    def area(self) -> float:
        """Area on the slope, mm2."""
        return self.plan_area * math.hypot(1.0, self.pitch)


class RoofSurface(NamedTuple):
    """A roof: its faces by their edges, and the lines where they meet and end."""

    faces: tuple[RoofFace, ...]
    lines: tuple[RoofLine, ...]

    @property
    def top(self) -> float:
        """Height of its highest place, mm."""
        return max((z for face in self.faces for _, _, z in face.ring), default=0.0)


def roof_surface(outline: Sequence[Point], edges: Sequence[RoofEdge]) -> RoofSurface:
    """Return the roof over an outline; edge k runs from corner k to the next, corners either way round.

    Raises RoofError for an outline or edges over which none can be made.
    """
    ring, rows, order = in_order(outline, edges)
    fronts, arcs, bases = traced(ring, rows, order)
    arcs, bases = _snapped(ring, [*arcs, *bases], len(arcs))
    return _surface(ring, rows, order, fronts, arcs, bases)


def _surface(
    ring: list[Point], rows: list[RoofEdge], order: list[int], fronts: list[Front], arcs: list[Arc], bases: list[Arc]
) -> RoofSurface:
    """Put faces together from what was traced, and name the lines."""
    faces: list[RoofFace] = []
    shapes: dict[int, shapely.Polygon] = {}
    total = 0.0
    for front, row in zip(fronts, rows, strict=True):
        if row.kind != "eave":
            continue
        mine = [base for base in bases if base.one is front and _long(base)]
        mine += [
            a for a in arcs if front in (a.one, a.other) and _long(a) and max(a.start[2], a.end[2]) > front.start + 1e-6
        ]
        own = [shapely.LineString([a.start[:2], a.end[:2]]) for a in mine]
        cells = [c for c in shapely.polygonize(own).geoms if c.area > TOUCH * 10.0]
        if not cells:
            continue
        whole = max(cells, key=lambda c: c.area) if len(cells) == 1 else shapely.union_all(cells)
        if not isinstance(whole, shapely.Polygon) or whole.interiors:
            raise RoofError("a plane of it falls apart")
        total += whole.area
        shapes[front.number] = whole
        faces.append(RoofFace(front.number, row.pitch, _with_heights(whole, front, row)))
    if abs(total - area(ring)) > SAME_AREA * area(ring) + GRID * shapely.LinearRing(ring).length:
        raise RoofError("its planes do not add up to its outline")
    kinds = {order[i]: row.kind for i, row in enumerate(rows)}
    lines = [line for arc in arcs if _long(arc) and (line := _line(arc, kinds, shapes)) is not None]
    lines += [RoofLine("eave", b.start, b.end, (b.one.number, b.one.number)) for b in bases if _long(b)]
    return RoofSurface(tuple(sorted(faces)), tuple(_joined(lines)))


def _snapped(ring: list[Point], arcs: list[Arc], first: int) -> tuple[list[Arc], list[Arc]]:
    """Return arcs whose ends are one where they lie at one place, within what fronts that met may be apart.

    In two lists, so many in the first.
    """
    near, known = 6.0 * TOUCH, dict[tuple[int, int], list[Point]]()

    def snap(p: Point) -> Point:
        cell = (round(p[0] / near), round(p[1] / near))
        for i in (-1, 0, 1):
            for j in (-1, 0, 1):
                for q in known.get((cell[0] + i, cell[1] + j), ()):
                    if distance(p, q) < near:
                        return q
        known.setdefault(cell, []).append(p)
        return p

    for corner in ring:
        snap(corner)
    made = [
        arc._replace(start=(*snap(arc.start[:2]), arc.start[2]), end=(*snap(arc.end[:2]), arc.end[2])) for arc in arcs
    ]
    return made[:first], made[first:]


def _long(arc: Arc) -> bool:
    return distance(arc.start[:2], arc.end[:2]) > TOUCH


def _with_heights(shape: shapely.Polygon, front: Front, row: RoofEdge) -> tuple[Place, ...]:
    outer = shapely.remove_repeated_points(shape, GRID * 4.0).normalize().exterior
    points = [(float(x), float(y)) for x, y in outer.coords[:-1]]
    if area(points) < 0.0:
        points.reverse()
    heights = (row.start + (dot(front.inward, p) - front.at) * row.pitch for p in points)
    return tuple((x, y, z) for (x, y), z in zip(points, heights, strict=True))


def _one_plane(one: Front, other: Front, z: float) -> bool:
    """Tell whether two eaves are those of one plane: in line, of one pitch."""
    alike = dot(one.inward, other.inward) > 1.0 - PARALLEL and abs(one.speed - other.speed) < PARALLEL * one.speed
    return alike and abs(one.line(z) - other.line(z)) < TOUCH


def _line(arc: Arc, kinds: dict[int, EdgeKind], shapes: dict[int, shapely.Polygon]) -> RoofLine | None:
    """Return a traced line with its kind; None where no plane lies beside it."""
    top = max(arc.start[2], arc.end[2])
    moving = [f for f in (arc.one, arc.other) if f.speed > 0.0 and top > f.start + 1e-6]
    numbers = (arc.one.number, arc.other.number)
    if not moving:
        return None
    if len(moving) == 1:
        still = arc.one if moving[0] is arc.other else arc.other
        kind: LineKind = "wall" if kinds.get(still.number) == "wall" else "rake"
        return RoofLine(kind, arc.start, arc.end, (moving[0].number, still.number))
    if _one_plane(moving[0], moving[1], top):
        return None
    if (
        abs(arc.start[2] - arc.end[2]) < 0.01 * distance(arc.start[:2], arc.end[:2])
        and abs(arc.start[2] - arc.end[2]) < 1.0
    ):
        return RoofLine("ridge", arc.start, arc.end, numbers)
    one, other = moving
    middle = ((arc.start[0] + arc.end[0]) / 2.0, (arc.start[1] + arc.end[1]) / 2.0)
    aside = left(unit(arc.start[:2], arc.end[:2]))
    step = min(1.0, 0.05 * distance(arc.start[:2], arc.end[:2]))
    tries = [add(middle, aside, side * step) for side in (1.0, -1.0)]
    within = next(
        (p for p in tries if one.number in shapes and shapes[one.number].contains(shapely.Point(p))), tries[0]
    )
    z_one, z_other = (f.start + (dot(f.inward, within) - f.at) / f.speed for f in (one, other))
    return RoofLine("hip" if z_one < z_other else "valley", arc.start, arc.end, numbers)


def _joined(lines: list[RoofLine]) -> list[RoofLine]:
    """Return lines with those in line between the same two planes as one."""
    alike: dict[tuple[str, int, int], list[RoofLine]] = {}
    for line in lines:
        whole = line
        rows = alike.setdefault((line.kind, min(line.edges), max(line.edges)), [])
        while True:
            made = next(((other, both) for other in rows if (both := _end_to_end(other, whole)) is not None), None)
            if made is None:
                break
            rows.remove(made[0])
            whole = made[1]
        rows.append(whole)
    return [line for rows in alike.values() for line in rows]


def _end_to_end(a: RoofLine, b: RoofLine) -> RoofLine | None:
    for p, q in ((a.start, a.end), (a.end, a.start)):
        for r, s in ((b.start, b.end), (b.end, b.start)):
            if math.dist(q, r) < 4.0 * TOUCH and abs(math.dist(p, q) + math.dist(r, s) - math.dist(p, s)) < TOUCH:
                return RoofLine(a.kind, p, s, a.edges)
    return None
