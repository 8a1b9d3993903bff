"""The moving wavefront of a roof: fronts that go inward from the edges of an outline, and what the places where they meet trace.

Fronts shrink to nothing (edge events) or are cut in two (split events).  After Aichholzer and Aurenhammer's straight skeleton, with weights,
edges that stand still, and edges that start at heights of their own.  Coordinates in mm, z up.
"""

import itertools
import math
from collections.abc import Sequence
from typing import NamedTuple

import numpy as np
from msgspec import Struct, field
from numpy.typing import NDArray

from balken.geometry.plane import Point, add, area, cross, distance, dot, left, sub, unit
from balken.geometry.roof_edges import Place, RoofEdge, RoofError

Array = NDArray[np.float64]
TOUCH = 0.02
"""Places nearer than this are one, mm."""
LEVEL = 1e-7
"""Heights that differ by less, as a part of the outline's size, are one."""
PARALLEL = 1e-9
STILL = 1e-12
"""What moves no faster than this stands still."""
MOST_EVENTS = 2_000


class Front(Struct, eq=False):
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


class Corner(Struct, eq=False):
    """Where two fronts meet, and how that place moves."""

    before: Front
    after: Front
    at: Point
    z: float
    by: Point = (0.0, 0.0)
    born: tuple[Point, float] = field(default=((0.0, 0.0), 0.0))

    def place(self, z: float) -> Point:
        """Return where it is at a height."""
        return add(self.at, self.by, z - self.z)


class Arc(NamedTuple):
    """What a corner has traced, or two fronts that met all along: ends with heights, and both fronts."""

    start: Place
    end: Place
    one: Front
    other: Front


Loop = list[Corner]


def traced(
    ring: Sequence[Point], rows: Sequence[RoofEdge], order: Sequence[int]
) -> tuple[list[Front], list[Arc], list[Arc]]:
    """Return the fronts of an outline in order, what their corners trace, and where they begin to move; ``order``: the edges' numbers.

    Raises RoofError where they never meet, or do not come to an end.
    """
    size = max(max(x for x, _ in ring) - min(x for x, _ in ring), max(y for _, y in ring) - min(y for _, y in ring))
    fronts = [_front(order[i], ring[i], ring[(i + 1) % len(ring)], rows[i]) for i in range(len(ring))]
    low, arcs, bases = min(row.start for row in rows if row.kind == "eave"), list[Arc](), list[Arc]()
    _shrink(_first_loop(list(ring), fronts, low), low, size, arcs, bases)
    return fronts, arcs, bases


def _front(number: int, p: Point, q: Point, edge: RoofEdge) -> Front:
    way = unit(p, q)
    inward = left(way)
    speed = 1.0 / edge.pitch if edge.kind == "eave" else 0.0
    return Front(number, way, inward, dot(inward, p), speed, edge.start)


def _first_loop(ring: list[Point], fronts: list[Front], z: float) -> Loop:
    corners = [Corner(fronts[i - 1], fronts[i], ring[i], z, born=(ring[i], z)) for i in range(len(ring))]
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
            step = Front(-1, way, inward, dot(inward, corner.at), 0.0, z)
            first = Corner(a, step, corner.at, z, born=corner.born)
            second = Corner(step, b, corner.at, z, born=(corner.at, z))
            found += _moving([first, second], z)
    return found


# Events --------------------------------------------------------------------------------------------


def _shrink(loop: Loop, z: float, size: float, arcs: list[Arc], bases: list[Arc]) -> None:
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


def _begin(loop: Loop, z: float, bases: list[Arc]) -> None:
    """Note the edges of a loop that begin to move at a height."""
    for corner, following in zip(loop, [*loop[1:], *loop[:1]], strict=True):
        front = corner.after
        if front.speed > 0.0 and abs(front.start - z) < 1e-6:
            bases.append(Arc((*corner.place(z), z), (*following.place(z), z), front, front))


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
    before: Front
    after: Front
    corner: Corner | None


def _after(loop: Loop, z: float, hits: list[Hit], arcs: list[Arc]) -> list[Loop]:
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


def _trace(corner: Corner, z: float, arcs: list[Arc]) -> None:
    start, at = corner.born, corner.place(z)
    if distance(start[0], at) > TOUCH / 4.0 or abs(start[1] - z) > TOUCH / 4.0:
        arcs.append(Arc((*start[0], start[1]), (*at, z), corner.before, corner.after))


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


def _renewed(nodes: list[_Node], z: float, arcs: list[Arc], kept: set[int]) -> Loop | None:
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
            corners.append(Corner(node.before, node.after, node.at, z, born=(node.at, z)))
    return _moving(corners, z)


def _steady(corner: Corner, z: float) -> bool:
    """Tell whether a corner goes on as it went: neither of its fronts begins to move here."""
    return all(abs(f.start - z) > 1e-6 or f.speed == 0.0 for f in (corner.before, corner.after))


def _ridges(nodes: list[_Node], z: float, arcs: list[Arc]) -> None:
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
            arcs.append(Arc((*p, z), (*q, z), over[0], over[1]))


def _nearest(values: list[float], at: float) -> float:
    return min(values, key=lambda v: abs(v - at))
