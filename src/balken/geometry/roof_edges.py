"""What a roof does at the edges of its outline: eaves with their pitches, gables, walls, other roofs; outlines put in order."""

import math
from collections.abc import Sequence
from typing import Literal, NamedTuple

import shapely

from balken.geometry.plane import Point, area, distance

EdgeKind = Literal["eave", "gable", "wall", "roof"]
"""``roof``: the planes run on over the roof beside it (``roof_joins``)."""
Place = tuple[float, float, float]
ALIKE = 0.05
"""Eaves that begin less apart than this in height begin at one, mm."""
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
