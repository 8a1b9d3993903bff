"""Diagonal braces of webs that boards across hold: on the webs' other edge, from low on one truss to high on another, so that what those
boards gather goes down (at each end of a row and every 20 ft; common practice, no source).  Nothing checks what they hold.
"""

import math
from collections.abc import Sequence
from typing import NamedTuple

import shapely

from balken.catalog.sections import section
from balken.framing.pieces import Piece
from balken.framing.surface_roofs import SurfacePlan
from balken.framing.truss_braces import AIR, SIZE, STEP, Stretch
from balken.framing.truss_layout import TrussRow
from balken.geometry.plane import Point, Ring, distance, dot, unit
from balken.geometry.prism import Prism
from balken.model.naming import piece_name
from balken.units.system import FOOT

APART = 20.0 * FOOT
"""Diagonals stand no farther apart along a row."""
SHORTEST_PART = 0.3
"""They reach over this part of a web at least on both sides of its middle, else there is no room for them."""


class _Edge(NamedTuple):
    """The edge of a web on which diagonals lie: its lower end, the way up along it, its length, the way out of that edge, how far out it
    lies, mm.
    """

    start: Point
    way: Point
    long: float
    out: Point
    half: float


class _Laid(NamedTuple):
    """A diagonal: t of the trusses at its lower and its upper end, how far up the web it lies at those."""

    low: tuple[float, float]
    high: tuple[float, float]


def diagonal_pieces(
    plan: SurfacePlan, row: TrussRow, stretch: Stretch, stock: float, lying: Sequence[Ring] = (), of: str = ""
) -> tuple[Piece, ...]:
    """Return the diagonals across a stretch of a row's trusses whose webs stand alike; ``lying``: the boards on bottom chords, as a truss's
    plane cuts them; ``of``: what their names begin with.
    """
    common, across = stretch
    if len(common) < 2:
        return ()
    frame, sawn, thick = common[0].frame, common[0].sawn, 2.0 * max(one.half for one in common)
    ts = sorted(one.t for one in common)
    bodies = {name: shapely.Polygon(one.ring) for name, one in sawn.items()}
    boards = [shapely.Polygon(ring) for ring in (*(ring for _, ring in across), *lying)]
    found: list[Piece] = []
    for name in dict.fromkeys(name.rpartition(".")[0] for name, _ in across):
        held = next(ring for own, ring in across if own.rpartition(".")[0] == name)
        edge = _edge(frame.joints, frame.stick(name).joints, held, section(frame.sizes.webs).depth / 2.0)
        blocked = shapely.union_all([*(body for other, body in bodies.items() if other != name), *boards])
        laid = _laid(edge, ts, thick, blocked, stock)
        found += [_piece(plan, row, f"{of}{name}.D", k, edge, one, thick) for k, one in enumerate(laid)]
        if laid:  # those of other webs keep off its whole edge
            boards.append(shapely.Polygon(_strip(edge, 0.0, edge.long)))
    return tuple(found)


def _edge(joints: dict[str, Point], ends: tuple[str, ...], held: Ring, half: float) -> _Edge:
    """Return the edge of a web across from the one that a board lies on."""
    low, high = sorted((joints[ends[0]], joints[ends[-1]]), key=lambda p: p[1])
    way = unit(low, high)
    aside = (-way[1], way[0])
    middle = sum(p[0] for p in held) / len(held), sum(p[1] for p in held) / len(held)
    side = -1.0 if dot(aside, (middle[0] - low[0], middle[1] - low[1])) > 0.0 else 1.0
    return _Edge(low, way, distance(low, high), (aside[0] * side, aside[1] * side), half)


def _strip(edge: _Edge, low: float, high: float) -> Ring:
    """Return what boards on an edge take up of a truss's plane between two places along the web."""
    deep = section(SIZE).breadth
    (x, y), (wx, wy), (ox, oy) = edge.start, edge.way, edge.out
    rows = ((low, edge.half), (high, edge.half), (high, edge.half + deep), (low, edge.half + deep))
    return tuple((x + wx * s + ox * t, y + wy * s + oy * t) for s, t in rows)


def _laid(edge: _Edge, ts: list[float], thick: float, blocked: shapely.Geometry, stock: float) -> list[_Laid]:
    """Return the diagonals on one web of a row: rising inward from both ends, others between them."""
    steps = (ts[-1] - ts[0]) / (len(ts) - 1)
    wanted = max(round(0.8 * edge.long / steps), 1)  # about as steep as long
    for n in range(min(wanted, len(ts) - 1), 0, -1):
        span = n * steps
        room = _room(edge, span, thick, blocked)
        if room is None:
            continue
        low, high = room
        if _length(low, high, span + thick) > stock:
            continue
        return [_Laid((ts[a], low), (ts[b], high)) for a, b in _stations(len(ts), n, ts)]
    return []


def _stations(count: int, n: int, ts: list[float]) -> list[tuple[int, int]]:
    """Return from which truss to which diagonals rise over n spacings: none over another."""
    last = count - 1
    if last < 2 * n + 1:
        return [(0, n)]
    found = [(0, n)]
    between = max(math.ceil((ts[-1] - ts[0]) / APART - 1e-9) - 1, 0)
    for k in range(between):
        begin = round(last * (k + 1) / (between + 1))
        if begin >= found[-1][1] + 1 and begin + n < last - n:
            found.append((begin, begin + n))
    return [*found, (last, last - n)]


def _room(edge: _Edge, span: float, thick: float, blocked: shapely.Geometry) -> tuple[float, float] | None:
    """Return from where to where up the web a diagonal may rise over a span clear of all else in the planes of its trusses."""
    wide, middle = section(SIZE).depth, edge.long / 2.0
    reach = middle
    while reach >= SHORTEST_PART * edge.long:
        low, high = middle - reach, middle + reach
        rise = (high - low) / span
        half = wide / 2.0 * math.hypot(1.0, rise) + rise * thick / 2.0
        strip = shapely.Polygon(_strip(edge, low - half, high + half))
        if low - half >= 0.0 and high + half <= edge.long and not strip.buffer(AIR).intersects(blocked):
            return low, high
        reach -= STEP
    return None


def _length(low: float, high: float, span: float) -> float:
    """Return how long a board is that rises so over a span, its ends cut along the trusses, to the long points."""
    rise = (high - low) / span
    return span * math.hypot(1.0, rise) + section(SIZE).depth * rise


def _piece(plan: SurfacePlan, row: TrussRow, name: str, k: int, edge: _Edge, one: _Laid, thick: float) -> Piece:
    trusses, lumber = plan.roof.trusses, section(SIZE)
    (t0, s0), (t1, s1) = one.low, one.high
    sign = 1.0 if t1 > t0 else -1.0
    rise = (s1 - s0) / (t1 - t0)
    ends = (t0 - sign * thick / 2.0, t1 + sign * thick / 2.0)
    half = lumber.depth / 2.0 * math.hypot(1.0, rise)
    sides = [(t, s0 + rise * (t - t0)) for t in sorted(ends)]
    (ta, sa), (tb, sb) = sides
    ring = ((ta, sa - half), (tb, sb - half), (tb, sb + half), (ta, sa + half))
    u = (*row.frame.t, 0.0)
    v = (edge.way[0] * row.frame.s[0], edge.way[0] * row.frame.s[1], edge.way[1])
    # Its profile is extruded along u x v: out of the web's edge, or from its far face back.
    outward = edge.way[1] * edge.out[0] - edge.way[0] * edge.out[1] > 0.0
    off = edge.half if outward else edge.half + lumber.breadth
    x, y = edge.start[0] + edge.out[0] * off, edge.start[1] + edge.out[1] * off
    px, py = row.frame.back(row.start + x, 0.0)
    solid = Prism((px, py, plan.bearing + y), u, v, (ring,), lumber.breadth)
    middles = [solid.at(t, s, lumber.breadth / 2.0) for t, s in sides]
    long = _length(s0, s1, abs(t1 - t0)) + thick * math.hypot(1.0, rise)
    return Piece(
        piece_name(plan.roof.id, "brace", name, k), "truss brace", plan.roof.id, plan.roof.bearing.level, solid, "timber",
        middles[0], middles[1], long, SIZE, trusses.species, trusses.wood_grade,
    )  # fmt: skip
