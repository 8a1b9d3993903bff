"""Rafters of single slopes that run on past the wall at their heads: how far, and what lies on that.

Such a wall is a gable alongside the eave; there the rafters pass over its plates, and what overhangs bears on it and lifts a little at
the eave, by the lever.
"""

import math
from collections.abc import Sequence
from typing import TYPE_CHECKING

from balken.framing.rafters import deepest_seat
from balken.geometry.plane import Point, Ring, add, area, clipped, cross, distance, dot, left, sub, to_segment, unit
from balken.geometry.roof_edges import EdgeKind, RoofEdge
from balken.value import Value

if TYPE_CHECKING:
    from balken.framing.roof_layout import RoofMember
    from balken.framing.surface_roofs import Share, SurfacePlan

ALONG = 1e-3
"""Sine of the angle up to which a gable runs alongside an eave."""
ON = 1.0
LEAST = 1.0
INSIDE = 20.0
"""A plane that reaches a gable lies within it for so far, mm."""


class Around(Value, frozen=True):
    """What is to be known of a roof's sides: corners, what it does there, how far it overhangs, its walls, how far in of each side the middle of
    its wall's core lies, mm.
    """

    core: Ring
    edges: tuple[RoofEdge, ...]
    overhangs: tuple[float, ...]
    walls: tuple[str, ...]
    deep: tuple[float, ...]

    def side(self, k: int) -> tuple[Point, Point]:
        """Return the ends of a side."""
        return self.core[k], self.core[(k + 1) % len(self.core)]

    def out(self, k: int) -> Point:
        """Return the way out over a side."""
        return left(unit(*self.side(k)[::-1]))


def alongside(around: Around, eave: int, kinds: tuple[EdgeKind, ...] = ("gable",)) -> list[int]:
    """Return the gables alongside an eave, opposite it, on which rafters lie with their heads; or edges of other ``kinds`` there."""
    way = unit(*around.side(eave))
    return [
        k
        for k, edge in enumerate(around.edges)
        if edge.kind in kinds
        and abs(cross(way, unit(*around.side(k)))) < ALONG
        and dot(around.out(k), around.out(eave)) < 0.0
    ]


def passed_over(around: Around, eave: int, ring: Ring) -> list[int]:
    """Return those gables alongside an eave at which its plane (``ring``) ends: others may lie in line far from it."""
    return [k for k in alongside(around, eave) if abs(area(_before(around, k, ring, -INSIDE, 0.0, 0.0))) > ON]


def _before(around: Around, k: int, ring: Ring, low: float, high: float, more: float) -> Ring:
    """Return what of a plane lies before a side, from so far to so far out of it (below 0: within), no more than so far past its ends, mm."""
    a, b = around.side(k)
    way, out = unit(a, b), around.out(k)
    for normal, least in (
        (out, dot(out, a) + low),
        ((-out[0], -out[1]), -dot(out, a) - high),
        (way, dot(way, a) - more),
        ((-way[0], -way[1]), -dot(way, b) - more),
    ):
        if len(ring) < 3:
            return ()
        ring = clipped(ring, normal, least)
    return ring if len(ring) > 2 else ()


def around_of(plan: "SurfacePlan") -> Around:
    """Return the sides of a roof."""
    return Around(plan.outline.core, plan.edges, plan.overhangs, plan.outline.walls, plan.deep)


def with_past(plan: "SurfacePlan", members: "Sequence[RoofMember]") -> "list[RoofMember]":
    """Return rafters, those that end over a wall alongside their eave as long as they run on past it."""
    found = []
    for m in members:
        on = lies_on(plan, m)
        if on is not None and plan.overhangs[on] > LEAST:
            past = plan.overhangs[on]
            m = m._replace(past=past, length=m.length + past / math.cos(math.radians(m.slope)))
        found.append(m)
    return found


def lies_on(plan: "SurfacePlan", m: "RoofMember") -> int | None:
    """Return the side of the wall alongside its eave on which a rafter lies with its head; None where it lies on none."""
    if len(m.edges) != 1 or m.head.kind != "rake" or m.head.between <= 89.9:
        return None
    around = around_of(plan)
    return next((k for k in alongside(around, m.edges[0]) if to_segment(m.end[:2], *around.side(k)) < ON), None)


def head_seat(plan: "SurfacePlan", side: int, pitch: float, depth: float) -> float:
    """Return how far in of a wall's inner face a rafter so deep lies on its plates with its head, cut out for them by a quarter of its
    depth at most (IRC R802.7.1), mm.
    """
    wide = 2.0 * plan.deep[side]
    return min(wide, deepest_seat(depth, pitch, wide))


def head_level(plan: "SurfacePlan", side: int, pitch: float, depth: float, top: float) -> float:
    """Return how high the plates of such a wall end under rafters whose tops lie so high over its core's outer face, mm."""
    lower = pitch * (2.0 * plan.deep[side] - head_seat(plan, side, pitch, depth))
    return top - depth * math.hypot(1.0, pitch) - lower


def shares_past(around: Around, edge: int, ring: Ring, own: "list[Share]", step: float) -> "list[Share]":
    """Return what of a plane with overhangs comes to which wall; ``own``: all of it at the eave's, as it lies without walls alongside."""
    found, n = list(own), len(around.core)
    for k in (k for k in passed_over(around, edge, ring) if around.overhangs[k] > LEAST):
        a, b = around.side(k)
        way, out = unit(a, b), around.out(k)
        more = max(around.overhangs[(k - 1) % n], around.overhangs[(k + 1) % n]) + ON
        beyond = _before(around, k, ring, 0.0, around.overhangs[k] + ON, more)
        if abs(area(beyond)) < ON:
            continue
        # Back from the end of the gable on, as the eave's stretches run.
        span = abs(dot(out, sub(around.core[edge], a)))
        bears = span - around.deep[edge] - around.deep[k]
        off = (around.overhangs[k] / 2.0 + around.deep[k]) / max(bears, 1.0)
        low, high = min(dot(way, p) for p in beyond), max(dot(way, p) for p in beyond)
        count = max(math.ceil((high - low) / step - 1e-9), 1)
        first, last = dot(way, a), dot(way, b)
        for stretch in range(count):
            s0, s1 = (low + (high - low) * j / count for j in (stretch, stretch + 1))
            part = clipped(clipped(beyond, way, s0), (-way[0], -way[1]), -s1)
            size = abs(area(part)) if len(part) > 2 else 0.0
            if size < ON:
                continue
            at = add(add(a, way, min(max((s0 + s1) / 2.0, first), last) - first), out, -around.deep[k])
            foot = add(at, out, -bears)
            found.append((around.walls[k], at, size * (1.0 + off), edge))
            found.append((around.walls[edge], foot, -size * off, edge))
            found = _less(found, size, foot, around.walls[edge], edge)
    return found


def _less(rows: "list[Share]", size: float, at: Point, wall: str, edge: int) -> "list[Share]":
    """Return shares with so much less at the eave, near a place."""
    mine = [k for k, row in enumerate(rows) if row[0] == wall and row[3] == edge and row[2] > 0.0]
    for k in sorted(mine, key=lambda k: distance(rows[k][1], at)):
        taken = min(size, rows[k][2])
        rows[k] = (rows[k][0], rows[k][1], rows[k][2] - taken, edge)
        size -= taken
        if size <= 0.0:
            break
    return rows
