"""Linings of foundation walls: insulation on their inside face, from slab or footing up to their top, notched round beams."""

import math

import shapely

from balken.framing.foundations import FoundationRun
from balken.framing.pieces import Piece
from balken.framing.slabs import SlabPlan
from balken.framing.uprights import Upright, counted_once
from balken.geometry.plane import Point, chords, cross, off_line
from balken.model.naming import piece_name
from balken.value import Value

AIR = 12.7
"""Left free beside and below a beam that passes through, mm (IRC R317.1 in pockets)."""
LEAST = 50.0
"""No piece of lining is narrower or lower, mm."""
NEAR_WALL = 300.0
"""A slab whose edge is no farther than this from a wall's inside face ends at its lining, mm."""


class Passing(Value, frozen=True):
    """A beam as a lining meets it: its ends in plan, breadth, underside and top, mm."""

    start: Point
    end: Point
    breadth: float
    bottom: float
    top: float


def notches(run: FoundationRun, beams: tuple[Passing, ...]) -> tuple[tuple[float, float, float, float], ...]:
    """Return where beams pass through a run's lining: from and to along the wall, heights from and to, in order."""
    b, thick = run.band, run.foundation.lining
    inner = run.faces[1]
    low, high = run.span
    ring = (b.at(low, inner), b.at(high, inner), b.at(high, inner + thick), b.at(low, inner + thick))
    found = []
    for beam in beams:
        if beam.bottom > b.top - 1.0 or beam.top < run.lowest:
            continue
        long = math.dist(beam.start, beam.end)
        way = ((beam.end[0] - beam.start[0]) / long, (beam.end[1] - beam.start[1]) / long)
        across = abs(cross(way, b.direction))
        if across < 0.2:  # it runs along the wall
            continue
        for s0, s1 in chords((ring,), beam.start, way):
            if min(s1, long) - max(s0, 0.0) < 1.0:
                continue
            middle = (max(s0, 0.0) + min(s1, long)) / 2.0
            at = off_line(
                (beam.start[0] + way[0] * middle, beam.start[1] + way[1] * middle), b.at(0.0, 0.0), b.at(1000.0, 0.0)
            )[0]
            half = (beam.breadth / 2.0 + AIR) / across
            found.append((at - half, at + half, beam.bottom - AIR, min(beam.top, b.top)))
    return tuple(sorted(found))


def linings(
    runs: tuple[FoundationRun, ...], beams: tuple[Passing, ...], slabs: tuple[SlabPlan, ...], walls: tuple[Upright, ...]
) -> tuple[Piece, ...]:
    """Return the linings of all runs that have one; ``walls``: the concrete and block that they end at."""
    named: list[tuple[str, Upright]] = []
    by_key: dict[str, FoundationRun] = {}
    for run in runs:
        if run.foundation.lining <= 0.0 or not run.band.outside:
            continue
        key = piece_name(run.id, "lining")
        by_key[key] = run
        named += [(key, solid) for solid in _of_run(run, notches(run, beams), slabs)]
    left = counted_once(named, walls) if named else {}
    pieces = []
    for key, run in by_key.items():
        b = run.band
        for i, solid in enumerate(left.get(key, ())):
            (x0, y0), (x1, y1) = solid.outline[0], solid.outline[1]
            long = max(math.dist(p, q) for p, q in zip(solid.outline, solid.outline[1:], strict=False))
            pieces.append(
                Piece(
                    key + (f"/{i}" if i else ""), "wall lining", run.foundation.id, run.foundation.head.level, solid.prism,
                    "rigid insulation", (x0, y0, solid.bottom), (x1, y1, min(solid.top, b.top)), long, wall=run.wall,
                )
            )  # fmt: skip
    return tuple(pieces)


def _of_run(
    run: FoundationRun, cuts: tuple[tuple[float, float, float, float], ...], slabs: tuple[SlabPlan, ...]
) -> list[Upright]:
    """Return a run's lining stretch by stretch: whole between beams, below and above them where one passes."""
    found: list[Upright] = []
    for segment in run.segments:
        low, high = max(segment.low, run.span[0]), min(segment.high, run.span[1])
        bottom = _foot(run, (low + high) / 2.0, segment.drop, slabs)
        at = low
        for a, b, under, over in cuts:
            a, b = max(a, low), min(b, high)
            if b - a < 1.0:
                continue
            found += _piece(run, at, a, bottom, run.band.top)
            found += _piece(run, a, b, bottom, min(under, run.band.top))
            found += _piece(run, a, b, max(over, bottom), run.band.top)
            at = max(at, b)
        found += _piece(run, at, high, bottom, run.band.top)
    return found


def _piece(run: FoundationRun, low: float, high: float, bottom: float, top: float) -> list[Upright]:
    if high - low < LEAST or top - bottom < LEAST:
        return []
    b, near = run.band, run.faces[1]
    far = near + run.foundation.lining
    ring = (b.at(low, near), b.at(high, near), b.at(high, far), b.at(low, far))
    return [Upright(ring if cross(b.direction, b.inward) > 0.0 else ring[::-1], bottom, top)]


def _foot(run: FoundationRun, along: float, drop: float, slabs: tuple[SlabPlan, ...]) -> float:
    """Return from which height a lining begins: the slab inside the wall, else the top of its footing."""
    foot = run.band.bottom - drop
    at = run.band.at(along, run.faces[1])
    inside = [s.top for s in slabs if run.wall in s.sides and run.lowest <= s.top < run.band.top and _near(s, at)]
    return max([foot, *inside])


def _near(slab: SlabPlan, at: Point) -> bool:
    return bool(shapely.Polygon(slab.ring).distance(shapely.Point(at)) < NEAR_WALL)
