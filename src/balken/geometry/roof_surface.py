"""Roof surfaces over any outline: a plane from each eave, rising inward until it meets others; gables stand still.

A weighted straight skeleton by a moving wavefront: at height z the roof above it lies within the fronts of its edges, each
moved inward by (z - start) / pitch.  Fronts shrink to nothing (edge events) or are cut in two (split events); the places
where two fronts meet trace hips, valleys and ridges.  After Aichholzer and Aurenhammer's straight skeleton, with weights,
edges that stand still, and edges that start at heights of their own.

Coordinates in mm, z up.  What cannot be settled is refused in words: the planes must add up to the outline.
"""

import itertools
import math
from collections.abc import Sequence
from dataclasses import dataclass, field
from typing import Literal, NamedTuple

import numpy as np
import shapely
from numpy.typing import NDArray

from balken.geometry.plane import Point, add, area, cross, distance, dot, left, sub, unit

Array = NDArray[np.float64]
EdgeKind = Literal["eave", "gable", "wall", "roof"]
"""``roof``: the planes run on over the roof beside it (``roof_joins``)."""
LineKind = Literal["eave", "rake", "wall", "ridge", "hip", "valley", "laid", "purlin"]
"""``laid``: where a plane comes down on a roof below."""
Place = tuple[float, float, float]
TOUCH = 0.02
"""Places nearer than this are one, mm."""
LEVEL = 1e-7
"""Heights that differ by less, as a part of the outline's size, are one."""
PARALLEL = 1e-9
STILL = 1e-12
"""What moves no faster than this stands still."""
ALIKE = 0.05
"""Eaves that begin less apart than this in height begin at one, mm."""
GRID = 0.005
"""To which places are rounded when faces are put together, mm."""
SAME_AREA = 1e-6
"""The planes add up to the outline to this part of it."""
MOST_EVENTS = 2_000
STEEPEST = 1e-4


class RoofError(ValueError):
    """A roof that cannot be made over an outline; the message says why."""


class RoofEdge(NamedTuple):
    """What a roof does at an edge of its outline: ``pitch`` rise over run of an eave, which begins at height ``start``, mm."""

    kind: EdgeKind = "eave"
    pitch: float = 0.5
    start: float = 0.0


def runs_up(edges: Sequence[RoofEdge], edge: int, beside: int) -> bool:
    """Whether a wall runs up beside the plane of an edge: under a gable, or under an eave that begins higher."""
    other = edges[beside % len(edges)]
    return other.kind == "gable" or (other.kind == "eave" and other.start > edges[edge].start + 1.0)


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


@dataclass(eq=False)
class _Front:
    """An edge on its way: its number in the outline, way along it, way inward, where its line is, speed in plan a mm of height."""

    number: int
    way: Point
    inward: Point
    at: float
    speed: float
    start: float

    def moving(self, z: float) -> float:
        """Return its speed at a height."""
        return self.speed if z >= self.start - 1e-9 else 0.0

    def line(self, z: float) -> float:
        """Return how far along its way inward its line lies at a height."""
        return self.at + self.speed * max(z - self.start, 0.0)


@dataclass(eq=False)
class _Corner:
    """Where two fronts meet, and how that place moves."""

    before: _Front
    after: _Front
    at: Point
    z: float
    by: Point = (0.0, 0.0)
    born: tuple[Point, float] = field(default=((0.0, 0.0), 0.0))

    def place(self, z: float) -> Point:
        """Return where it is at a height."""
        return add(self.at, self.by, z - self.z)


class _Arc(NamedTuple):
    """What a corner has traced, or two fronts that met all along: ends with heights, and both fronts."""

    start: Place
    end: Place
    one: _Front
    other: _Front


Loop = list[_Corner]


def roof_surface(outline: Sequence[Point], edges: Sequence[RoofEdge]) -> RoofSurface:
    """Return the roof over an outline; edge k runs from corner k to the next, corners either way round.

    Raises RoofError for an outline or edges over which none can be made.
    """
    ring, rows, order = in_order(outline, edges)
    size = max(max(x for x, _ in ring) - min(x for x, _ in ring), max(y for _, y in ring) - min(y for _, y in ring))
    fronts = [_front(order[i], ring[i], ring[(i + 1) % len(ring)], rows[i]) for i in range(len(ring))]
    arcs: list[_Arc] = []
    low = min(row.start for row in rows if row.kind == "eave")
    bases: list[_Arc] = []
    _shrink(_first_loop(ring, fronts, low), low, size, arcs, bases)
    arcs, bases = _snapped(ring, [*arcs, *bases], len(arcs))
    return _surface(ring, rows, order, fronts, arcs, bases)


def in_order(outline: Sequence[Point], edges: Sequence[RoofEdge]) -> tuple[list[Point], list[RoofEdge], list[int]]:
    """Return corners anticlockwise, their edges, and the numbers these have in the outline; raises RoofError where it is none."""
    n = len(outline)
    if n < 3 or len(edges) != n:
        raise RoofError("an outline needs three corners at least, and each edge what the roof does there")
    if any(not math.isfinite(v) for p in outline for v in p):
        raise RoofError("a corner is no place")
    if min(distance(outline[i], outline[(i + 1) % n]) for i in range(n)) < 1.0:
        raise RoofError("two corners of the outline lie at one place")
    if not shapely.LinearRing(outline).is_simple:
        raise RoofError("the outline crosses itself")
    for edge in edges:
        if edge.kind == "eave" and not STEEPEST < edge.pitch < 1.0 / STEEPEST:
            raise RoofError("an eave's pitch must be above level and less than upright")
    if all(edge.kind != "eave" for edge in edges):
        raise RoofError("no edge is an eave: nothing rises")
    edges = _together(edges)
    if area(list(outline)) > 0.0:
        return list(outline), edges, list(range(n))
    back = list(range(n))[::-1]
    return [outline[(i + 1) % n] for i in back], [edges[i] for i in back], back


def _together(edges: Sequence[RoofEdge]) -> list[RoofEdge]:
    """Return edges whose starts are one height where they differ by less than can be told apart."""
    heights: list[float] = []
    for start in sorted(edge.start for edge in edges):
        heights.append(heights[-1] if heights and start - heights[-1] < ALIKE else start)
    ranked = dict(zip(sorted(edge.start for edge in edges), heights, strict=True))
    return [edge._replace(start=ranked[edge.start]) for edge in edges]


def _front(number: int, p: Point, q: Point, edge: RoofEdge) -> _Front:
    way = unit(p, q)
    inward = left(way)
    speed = 1.0 / edge.pitch if edge.kind == "eave" else 0.0
    return _Front(number, way, inward, dot(inward, p), speed, edge.start)


def _first_loop(ring: list[Point], fronts: list[_Front], z: float) -> Loop:
    corners = [_Corner(fronts[i - 1], fronts[i], ring[i], z, born=(ring[i], z)) for i in range(len(ring))]
    return _moving(corners, z)


def _moving(corners: Loop, z: float) -> Loop:
    """Return corners with their ways; where fronts in line part, a step that stands still comes between them."""
    found: Loop = []
    for corner in corners:
        a, b = corner.before, corner.after
        turn, speed_a, speed_b = cross(a.inward, b.inward), a.moving(z), b.moving(z)
        if abs(turn) > PARALLEL:
            corner.by = (
                (speed_a * b.inward[1] - speed_b * a.inward[1]) / turn,
                (speed_b * a.inward[0] - speed_a * b.inward[0]) / turn,
            )
            found.append(corner)
        elif dot(a.inward, b.inward) < 0.0:
            corner.by = (0.0, 0.0)
            found.append(corner)
        elif abs(speed_a - speed_b) <= 1e-12 * max(speed_a, speed_b, 1.0):
            corner.by = (a.inward[0] * speed_a, a.inward[1] * speed_a)
            found.append(corner)
        else:
            way = a.inward if speed_b > speed_a else (-a.inward[0], -a.inward[1])
            inward = left(way)
            step = _Front(-1, way, inward, dot(inward, corner.at), 0.0, z)
            first = _Corner(a, step, corner.at, z, born=corner.born)
            second = _Corner(step, b, corner.at, z, born=(corner.at, z))
            found += _moving([first, second], z)
    return found


# Events --------------------------------------------------------------------------------------------


def _shrink(loop: Loop, z: float, size: float, arcs: list[_Arc], bases: list[_Arc]) -> None:
    """Let a loop shrink to nothing, cutting it where it splits; what its corners trace goes to ``arcs``, what its edges begin
    with to ``bases``.
    """
    waiting, same, events = [(loop, z)], LEVEL * size, 0
    _begin(loop, z, bases)
    while waiting:
        loop, z = waiting.pop()
        while True:
            events += 1
            if events > MOST_EVENTS:
                raise RoofError("its planes do not come to an end")
            at, hits = _next(loop, z, same)
            if not math.isfinite(at):
                raise RoofError("its planes never meet: too many edges stand still")
            z = at
            loops = _after(loop, z, hits, arcs)
            for part in loops:
                _begin(part, z, bases)
            if len(loops) == 1:
                loop = loops[0]
                continue
            waiting += [(part, z) for part in loops]
            break


def _begin(loop: Loop, z: float, bases: list[_Arc]) -> None:
    """Note the edges of a loop that begin to move at a height."""
    for corner, following in zip(loop, [*loop[1:], *loop[:1]], strict=True):
        front = corner.after
        if front.speed > 0.0 and abs(front.start - z) < 1e-6:
            bases.append(_Arc((*corner.place(z), z), (*following.place(z), z), front, front))


Hit = tuple[int, int]
"""The number of a corner, and of the edge (that after a corner of this number) that it has come to lie on."""


def _next(loop: Loop, z: float, same: float) -> tuple[float, list[Hit]]:
    """Return the next height at which something happens to a loop, and which corners then meet which edges across it."""
    n = len(loop)
    fronts = [corner.after for corner in loop]
    here = np.array([corner.place(z) for corner in loop])
    by = np.array([corner.by for corner in loop])
    way, inward = np.array([f.way for f in fronts]), np.array([f.inward for f in fronts])
    speed = np.array([f.moving(z) for f in fronts])
    first = min((f.start for f in fronts if f.speed > 0.0 and f.start > z + same), default=math.inf)
    long = ((np.roll(here, -1, axis=0) - here) * way).sum(axis=1)
    rate = ((np.roll(by, -1, axis=0) - by) * way).sum(axis=1)
    closing = rate < -STILL
    if closing.any():
        first = min(first, z + float((np.maximum(long[closing], 0.0) / -rate[closing]).min()))
    # How far each corner (row) lies before each front (column), and how fast that gets less.
    off = here @ inward.T - np.array([f.line(z) for f in fronts])
    comes = by @ inward.T - speed
    with np.errstate(divide="ignore", invalid="ignore"):
        when = z + np.maximum(off, 0.0) / -comes
    maybe = (off >= -TOUCH) & (comes < -STILL) & (when <= first + same)
    corners = np.arange(n)
    maybe[corners, corners] = maybe[corners, corners - 1] = False
    hits: list[tuple[float, Hit]] = []
    for k, i in zip(*(index.tolist() for index in np.nonzero(maybe)), strict=True):
        if _meets(loop, k, i, here, float(off[k, i]), float(when[k, i])):
            hits.append((float(when[k, i]), (k, i)))
    first = min([first, *(at for at, _ in hits)])
    return first, [hit for at, hit in hits if at <= first + same]


def _meets(loop: Loop, k: int, i: int, here: Array, off: float, when: float) -> bool:
    """Tell whether a corner lies on an edge, between its ends, when it comes to its line."""
    j, front = (i + 1) % len(loop), loop[i].after
    if front is loop[k].before or front is loop[k].after:
        return False
    if off < TOUCH and min(math.dist(here[k], here[i]), math.dist(here[k], here[j])) < TOUCH:
        return False  # it lies at an end of that edge, behind a step that has just come between them
    q, a, b = (loop[m].place(when) for m in (k, i, j))
    along, long = dot(front.way, sub(q, a)), dot(front.way, sub(b, a))
    return -TOUCH <= along <= long + TOUCH


class _Node(NamedTuple):
    """A place of a loop at an event: its fronts, and the corner that has come there, if it is one."""

    at: Point
    before: _Front
    after: _Front
    corner: _Corner | None


def _after(loop: Loop, z: float, hits: list[Hit], arcs: list[_Arc]) -> list[Loop]:
    """Return what is left of a loop after an event at a height."""
    nodes: list[_Node] = []
    places = [c.place(z) for c in loop]
    for i, corner in enumerate(loop):
        nodes.append(_Node(places[i], corner.before, corner.after, corner))
        front = corner.after
        on = sorted({k for k, edge in hits if edge == i}, key=lambda k: dot(front.way, sub(places[k], places[i])))
        far = distance(places[i], places[(i + 1) % len(loop)])
        for k in on:
            along = dot(front.way, sub(places[k], places[i]))
            if TOUCH < along < far - TOUCH:
                nodes.append(_Node(places[k], front, front, None))
    found: list[Loop] = []
    kept: set[int] = set()
    for part in _apart(_merged(nodes)):
        made = _renewed(part, z, arcs, kept)
        if made is not None:
            found.append(made)
    for corner in loop:
        if id(corner) not in kept:
            _trace(corner, z, arcs)
    return found


def _trace(corner: _Corner, z: float, arcs: list[_Arc]) -> None:
    start, at = corner.born, corner.place(z)
    if distance(start[0], at) > TOUCH / 4.0 or abs(start[1] - z) > TOUCH / 4.0:
        arcs.append(_Arc((*start[0], start[1]), (*at, z), corner.before, corner.after))


def _merged(nodes: list[_Node]) -> list[_Node]:
    """Return nodes with those at one place, one after the other, as one; those within one front are left out."""
    found: list[_Node] = []
    for node in nodes:
        if found and distance(found[-1].at, node.at) < TOUCH:
            found[-1] = _Node(found[-1].at, found[-1].before, node.after, None)
        else:
            found.append(node)
    while len(found) > 1 and distance(found[0].at, found[-1].at) < TOUCH:
        last = found.pop()
        found[0] = _Node(found[0].at, last.before, found[0].after, None)
    return found


def _apart(nodes: list[_Node]) -> list[list[_Node]]:
    """Return the loops into which one falls where it touches itself."""
    n = len(nodes)
    for i in range(n):
        for k in range(i + 1, n):
            if distance(nodes[i].at, nodes[k].at) < TOUCH:
                one = [_Node(nodes[i].at, nodes[k].before, nodes[i].after, None), *nodes[i + 1 : k]]
                other = [_Node(nodes[k].at, nodes[i].before, nodes[k].after, None), *nodes[k + 1 :], *nodes[:i]]
                return [*_apart(_merged(one)), *_apart(_merged(other))]
    return [nodes]


def _renewed(nodes: list[_Node], z: float, arcs: list[_Arc], kept: set[int]) -> Loop | None:
    """Return a loop of nodes to go on with; None for one that has shrunk to a line or a place, whose ridges are traced."""
    nodes = [node for node in nodes if node.before is not node.after]
    if len(nodes) < 2:
        return None
    ring = [node.at for node in nodes]
    around = sum(distance(ring[i - 1], ring[i]) for i in range(len(ring)))
    if len(nodes) == 2 or abs(area(ring)) < TOUCH * around:
        _ridges(nodes, z, arcs)
        return None
    corners: Loop = []
    for node in nodes:
        old = node.corner
        if old is not None and old.before is node.before and old.after is node.after and _steady(old, z):
            kept.add(id(old))
            old.at, old.z = old.place(z), z
            corners.append(old)
        else:
            corners.append(_Corner(node.before, node.after, node.at, z, born=(node.at, z)))
    return _moving(corners, z)


def _steady(corner: _Corner, z: float) -> bool:
    """Tell whether a corner goes on as it went: neither of its fronts begins to move here."""
    return all(abs(f.start - z) > 1e-6 or f.speed == 0.0 for f in (corner.before, corner.after))


def _ridges(nodes: list[_Node], z: float, arcs: list[_Arc]) -> None:
    """Trace where the fronts of a loop without area lie on one another: each stretch of it with the two that met there."""
    ring = [node.at for node in nodes]
    far = max(((p, q) for p in ring for q in ring), key=lambda pair: distance(*pair))
    if distance(*far) < TOUCH:
        return
    way, origin = unit(*far), far[0]
    along = [dot(way, sub(p, origin)) for p in ring]
    marks = sorted({round(s / TOUCH) * TOUCH for s in along})
    for low, high in itertools.pairwise(marks):
        middle = (low + high) / 2.0
        over = [
            nodes[i].after
            for i in range(len(nodes))
            if min(along[i], along[(i + 1) % len(nodes)]) < middle < max(along[i], along[(i + 1) % len(nodes)])
        ]
        if len(over) >= 2 and over[0] is not over[1]:
            p, q = (add(origin, way, _nearest(along, s)) for s in (low, high))
            arcs.append(_Arc((*p, z), (*q, z), over[0], over[1]))


def _nearest(values: list[float], at: float) -> float:
    return min(values, key=lambda v: abs(v - at))


# Faces and lines --------------------------------------------------------------------------------------


def _surface(
    ring: list[Point], rows: list[RoofEdge], order: list[int], fronts: list[_Front], arcs: list[_Arc], bases: list[_Arc]
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


def _snapped(ring: list[Point], arcs: list[_Arc], first: int) -> tuple[list[_Arc], list[_Arc]]:
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


def _long(arc: _Arc) -> bool:
    return distance(arc.start[:2], arc.end[:2]) > TOUCH


def _with_heights(shape: shapely.Polygon, front: _Front, row: RoofEdge) -> tuple[Place, ...]:
    outer = shapely.remove_repeated_points(shape, GRID * 4.0).normalize().exterior
    points = [(float(x), float(y)) for x, y in outer.coords[:-1]]
    if area(points) < 0.0:
        points.reverse()
    heights = (row.start + (dot(front.inward, p) - front.at) * row.pitch for p in points)
    return tuple((x, y, z) for (x, y), z in zip(points, heights, strict=True))


def _one_plane(one: _Front, other: _Front, z: float) -> bool:
    """Tell whether two eaves are those of one plane: in line, of one pitch."""
    alike = dot(one.inward, other.inward) > 1.0 - PARALLEL and abs(one.speed - other.speed) < PARALLEL * one.speed
    return alike and abs(one.line(z) - other.line(z)) < TOUCH


def _line(arc: _Arc, kinds: dict[int, EdgeKind], shapes: dict[int, shapely.Polygon]) -> RoofLine | None:
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
