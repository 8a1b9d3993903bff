"""Roofs with their overhangs: the same planes, run on downward over the walls as far as each eave and rake reaches.

As a rule the outline is moved out and roofed anew.  Where that makes an edge vanish (the short side of a bay, eaves that run
into one another in a corner), each plane gets a skirt of its own instead: beside an outer corner the lower of two planes
governs, beside an inner one and where eaves meet the higher one.  An overhang that straight out from its wall reaches another
wall is refused: what it does there must be decided, by a smaller one.
"""

import itertools
import math
from collections.abc import Sequence
from typing import NamedTuple

import shapely

from balken.geometry.plane import Point, Ring, add, area, clipped, cross, distance, dot, left, meet, sub, unit
from balken.geometry.roof_edges import RoofEdge, RoofError, in_order
from balken.geometry.roof_surface import GRID, LineKind, RoofFace, RoofLine, RoofSurface, roof_surface
from balken.geometry.roof_wavefront import TOUCH

LEAST = 100.0
"""What is left of a plane somewhere and is smaller is nothing, mm2."""
SAME = 1e-4
"""Planes with their skirts add up to the outline to this part of it."""
CROSSES = "an overhang crosses another part of the building"


class Overhung(NamedTuple):
    """A roof with its overhangs: its outer outline, its planes and lines by the edges of the walls' outline (-1: none of them)."""

    ring: Ring
    surface: RoofSurface


def overhung(
    surface: RoofSurface, outline: Sequence[Point], edges: Sequence[RoofEdge], by: Sequence[float]
) -> Overhung:
    """Return a roof's surface with overhangs, given that over its outline; raises RoofError where there can be none."""
    if max(by, default=0.0) <= 0.0:
        return Overhung(tuple(outline), surface)
    try:
        ring, outer, numbers = with_overhangs(outline, edges, by)
        whole = roof_surface(ring, outer)
    except RoofError:
        if any(edge.kind != "eave" for edge in edges):
            raise
        return _skirted(surface, outline, edges, by)
    faces = tuple(sorted(face._replace(edge=numbers[face.edge]) for face in whole.faces))
    own = {-1: -1, **dict(enumerate(numbers))}
    lines = tuple(line._replace(edges=(own[line.edges[0]], own[line.edges[1]])) for line in whole.lines)
    return Overhung(tuple(ring), RoofSurface(faces, lines))


def with_overhangs(
    outline: Sequence[Point], edges: Sequence[RoofEdge], by: Sequence[float]
) -> tuple[list[Point], list[RoofEdge], list[int]]:
    """Return an outline with each edge moved outward by its own overhang, and what the roof does there: the same planes; and
    which edge of the outline each of them was (-1: a step).

    Eaves begin lower by what they run down.  Where edges in line move out unlike far a step stands between them.  Raises
    RoofError where an overhang crosses another part of the building.
    """
    ring, rows, order = in_order(outline, edges)
    off = [by[k] for k in order]
    n = len(ring)
    ways = [unit(ring[i], ring[(i + 1) % n]) for i in range(n)]
    lines = [add(ring[i], left(ways[i]), -off[i]) for i in range(n)]
    corners: list[Point] = []
    made: list[RoofEdge] = []
    numbers: list[int] = []
    for i in range(n):
        k = i - 1
        if abs(cross(ways[k], ways[i])) > 1e-6:
            met = meet(lines[k], ways[k], lines[i], ways[i])
            corners.append(met if met is not None else lines[i])
        elif abs(off[k] - off[i]) < 1.0:
            corners.append(lines[i])
        else:
            corners += [add(ring[i], left(ways[k]), -off[k]), lines[i]]
            made.append(RoofEdge("gable"))
            numbers.append(-1)
        row = rows[i]
        numbers.append(order[i])
        made.append(row._replace(start=row.start - off[i] * row.pitch) if row.kind == "eave" else row)
    left_over = [dot(sub(corners[(j + 1) % len(corners)], corners[j]), way) for j, way in _own_ways(made, ways)]
    if min(left_over, default=1.0) < 1.0 or not shapely.LinearRing(corners).is_simple or area(corners) <= 0.0:
        raise RoofError(CROSSES)
    return corners, made, numbers


def _own_ways(made: list[RoofEdge], ways: list[Point]) -> list[tuple[int, Point]]:
    """Return the numbers of the moved edges with their ways; steps between have none."""
    if len(made) == len(ways):
        return list(enumerate(ways))
    return []  # steps turn where they must; crossing is looked for apart


# Skirts -------------------------------------------------------------------------------------------------------------


class _Eave(NamedTuple):
    """An eave: its number, its start, its ways along and outward, its pitch, how far it overhangs."""

    number: int
    at: Point
    way: Point
    out: Point
    pitch: float
    over: float

    def height(self, p: Point) -> float:
        """Return how high its plane lies at a place over the bearing line."""
        return -dot(self.out, sub(p, self.at)) * self.pitch


def _skirted(
    surface: RoofSurface, outline: Sequence[Point], edges: Sequence[RoofEdge], by: Sequence[float]
) -> Overhung:
    ring, rows, order = in_order(outline, edges)
    n = len(ring)
    eaves = []
    for i in range(n):
        way = unit(ring[i], ring[(i + 1) % n])
        eaves.append(_Eave(order[i], ring[i], way, (way[1], -way[0]), rows[i].pitch, by[order[i]]))
    core = shapely.Polygon(ring)
    inner = core.buffer(-GRID, join_style="mitre")
    if any(_reaches(eaves, i, core) for i in range(n)):
        raise RoofError(CROSSES)
    strips = [_at_edge(_strip(eaves, i).difference(inner), ring[i], ring[(i + 1) % n]) for i in range(n)]
    skirts = [_less_higher(i, eaves, strips) for i in range(n)]
    faces, shapes = [], {face.edge: shapely.Polygon([p[:2] for p in face.ring]) for face in surface.faces}
    for eave, skirt in zip(eaves, skirts, strict=True):
        if eave.number in shapes:
            faces.append(_face(eave, shapes[eave.number], skirt))
    whole = shapely.union_all(
        [core.buffer(2.0 * GRID), *(skirt.buffer(2.0 * GRID, join_style="mitre") for skirt in skirts)]
    )
    size = sum(face.plan_area for face in faces)
    if not isinstance(whole, shapely.Polygon) or abs(size - whole.area) > SAME * size:
        raise RoofError("its overhangs do not add up to one outline")
    within = [line for line in surface.lines if line.kind != "eave" or eaves[order.index(line.edges[0])].over <= 0.0]
    lines = [*within, *_lines(eaves, skirts, core)]
    outer = tuple((float(x), float(y)) for x, y in whole.simplify(GRID * 2.0).exterior.coords[:-1])
    return Overhung(outer if area(outer) > 0.0 else outer[::-1], RoofSurface(tuple(sorted(faces)), tuple(lines)))


def _reaches(eaves: list[_Eave], i: int, core: shapely.Polygon) -> bool:
    """Tell whether an overhang, straight out from its wall, reaches a wall it does not meet at a corner."""
    own, n = eaves[i], len(eaves)
    end = eaves[(i + 1) % n].at
    ring: Ring = (own.at, add(own.at, own.out, own.over + 1.0), add(end, own.out, own.over + 1.0), end)
    for other, turn in (
        (eaves[i - 1], cross(eaves[i - 1].way, own.way)),
        (eaves[(i + 1) % n], cross(own.way, eaves[(i + 1) % n].way)),
    ):
        if turn < -1e-6:
            ring = clipped(ring, *_over(own, other))
    met = _polygon(ring).intersection(core)
    return bool(own.over > 0.0 and met.area > 50.0)


def _polygon(ring: Ring) -> shapely.Polygon:
    """Return an outline as a polygon, none where hardly anything is left of it."""
    kept: list[Point] = []
    for x, y in ring:
        p = (round(x, 4), round(y, 4))
        if not kept or (distance(p, kept[-1]) > GRID and distance(p, kept[0]) > GRID):
            kept.append(p)
    return shapely.Polygon(kept) if len(kept) > 2 and abs(area(kept)) > 1.0 else shapely.Polygon()


def _at_edge(shape: shapely.Geometry, a: Point, b: Point) -> shapely.Geometry:
    """Return what of a strip hangs together with the eave it belongs to; beyond the building nothing does."""
    parts = getattr(shape, "geoms", [shape])
    middle = shapely.Point((a[0] + b[0]) / 2.0, (a[1] + b[1]) / 2.0)
    return next((p for p in parts if p.area > 1.0 and p.distance(middle) < 4.0 * GRID), shapely.Polygon())


def _over(one: _Eave, other: _Eave) -> tuple[Point, float]:
    """Return where one plane lies no lower than another, as normal . p >= least."""
    (x, y), (u, v) = one.out, other.out
    normal = (u * other.pitch - x * one.pitch, v * other.pitch - y * one.pitch)
    return normal, other.pitch * dot(other.out, other.at) - one.pitch * dot(one.out, one.at)


def _strip(eaves: list[_Eave], i: int) -> shapely.Geometry:
    """Return what lies under an eave's overhang, as far as its two neighbours leave it."""
    n, own = len(eaves), eaves[i]
    end = eaves[(i + 1) % n].at
    far = 4.0 * max(eave.over for eave in eaves) + 4.0 * own.over / own.pitch * max(eave.pitch for eave in eaves)
    a, b = add(own.at, own.way, -far), add(end, own.way, far)
    rings: list[Ring] = [(a, add(a, own.out, own.over), add(b, own.out, own.over), b)]
    for step, corner in ((-1, own.at), (1, end)):
        other, third = eaves[(i + step) % n], eaves[(i + 2 * step) % n]
        turn = cross(own.way, other.way) * step
        if abs(turn) < 1e-6:
            normal = (-own.way[0] * step, -own.way[1] * step)
            rings = [clipped(ring, normal, dot(normal, corner)) for ring in rings]
        elif turn > 0.0:  # an outer corner: the lower governs, and it ends where its neighbour's overhang does
            back = (-other.out[0], -other.out[1])
            rings = [clipped(clipped(r, *_over(other, own)), back, dot(back, other.at) - other.over) for r in rings]
        else:  # an inner one: the higher, where both reach; past a short neighbour what comes after it
            past = (other, third) if cross(other.way, third.way) * step > 1e-6 else (other,)
            ended = other.out, dot(other.out, other.at) + other.over
            rings = [clipped(ring, *half) for ring in rings for half in (*(_over(own, one) for one in past), ended)]
    return shapely.union_all([_polygon(ring) for ring in rings])


def _less_higher(i: int, eaves: list[_Eave], strips: list[shapely.Geometry]) -> shapely.Geometry:
    """Return a strip less where that of another edge lies higher."""
    mine, n = strips[i], len(eaves)
    for j in range(n):
        if j == i or not mine.intersects(strips[j]):
            continue
        both = mine.intersection(strips[j])
        if both.area < 1.0:
            continue
        own, other = eaves[i], eaves[j]
        normal, least = _over(other, own)
        x0, y0, x1, y1 = both.bounds
        lost = _polygon(clipped(((x0, y0), (x1, y0), (x1, y1), (x0, y1)), normal, least))
        if j < i or math.hypot(*normal) > 1e-6:
            # A little more, so that no sliver stays at its edge.
            mine = mine.difference(both.intersection(lost).buffer(GRID, join_style="mitre"))
    return mine


def _face(eave: _Eave, shape: shapely.Polygon, skirt: shapely.Polygon) -> RoofFace:
    """Return a plane with its skirt."""
    parts = [skirt, *getattr(skirt, "geoms", [])][1:] or [skirt]
    joined = shapely.union_all([shape, *(p.buffer(GRID, join_style="mitre") for p in parts if p.area > LEAST)])
    holes = [shapely.Polygon(hole).area for hole in getattr(joined, "interiors", ())]
    if not isinstance(joined, shapely.Polygon) or max(holes, default=0.0) > 1.0:
        raise RoofError(CROSSES)
    outer = shapely.remove_repeated_points(shapely.Polygon(joined.exterior).simplify(GRID * 2.0), GRID * 4.0).exterior
    points = [(float(x), float(y)) for x, y in outer.coords[:-1]]
    if area(points) < 0.0:
        points.reverse()
    return RoofFace(eave.number, eave.pitch, tuple((x, y, eave.height((x, y))) for x, y in points))


def _lines(eaves: list[_Eave], skirts: list[shapely.Polygon], core: shapely.Polygon) -> list[RoofLine]:
    """Return the lines of skirts: fascias, and hips and valleys between two."""
    found = []
    tree = shapely.STRtree(skirts)
    n = len(eaves)
    for i, skirt in enumerate(skirts):
        for part in getattr(skirt, "geoms", [skirt]):
            if part.area < 1.0:
                continue
            points = [(float(x), float(y)) for x, y in part.exterior.coords]
            for p, q in itertools.pairwise(points):
                middle = ((p[0] + q[0]) / 2.0, (p[1] + q[1]) / 2.0)
                if distance(p, q) < TOUCH or core.distance(shapely.Point(middle)) < 10.0 * GRID:
                    continue
                near = shapely.Point(middle).buffer(4.0 * GRID)
                beside = [j for j in tree.query(near, predicate="intersects").tolist() if j != i]
                ends = tuple((*e, eaves[i].height(e)) for e in (p, q))
                j = beside[0] if beside else i
                drop = max(abs(eaves[i].height(e) - eaves[j].height(e)) for e in (p, q))
                if j == i or drop > 1.0:  # nothing beside it, or what lies lower
                    level = abs(ends[0][2] - ends[1][2]) < 1.0
                    kind: LineKind = "eave" if level else "rake"
                    if j == i or eaves[i].height(middle) > eaves[j].height(middle):
                        found.append(RoofLine(kind, ends[0], ends[1], (eaves[i].number, eaves[i].number)))
                elif i < j:
                    step = 1 if j - i == 1 else -1
                    outer = j - i in (1, n - 1) and cross(eaves[i].way, eaves[j].way) * step > 0.0
                    numbers = (eaves[i].number, eaves[j].number)
                    found.append(RoofLine("hip" if outer else "valley", ends[0], ends[1], numbers))
    return found
