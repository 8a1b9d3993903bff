"""Soffit returns: level boards beside tails, from their ends back to the wall, on which a soffit is nailed (common practice, no source)."""

from collections.abc import Sequence
from typing import NamedTuple

from balken.catalog.sections import section
from balken.framing.pieces import Piece
from balken.framing.rafter_stations import THICK
from balken.framing.surface_roofs import SurfacePlan, eave
from balken.geometry.plane import Point, Ring, add, clipped, distance, dot, sub
from balken.geometry.prism import Prism
from balken.model.naming import Places, piece_name, place_at
from balken.units.system import INCH

SIZE = "2x4"
TAILS = ("rafter", "truss top chord", "tail board", "hip rafter", "valley rafter", "fly rafter")
"""What reaches out over an eave."""
LEVEL = 2.5 * INCH
"""Tails that end no more than this higher have returns level with the others', mm."""
SQUARE = 4.0
"""A tail square to its eave is no wider along it than its plies and so much, mm."""
LEAST = 6.0 * INCH
"""Narrower overhangs have none."""


class Tail(NamedTuple):
    """What reaches out over an eave, seen along it: from where to where along the eave, where in of the wall its end is (below zero), how high
    its lowest point lies; whether it runs square to the eave.
    """

    along: tuple[float, float]
    end: float
    low: float
    square: bool


def soffit_returns(plan: SurfacePlan, pieces: Sequence[Piece], ends: Sequence[float]) -> tuple[Piece, ...]:
    """Return the returns of a roof whose tails are plumb, or level below; ``ends``: how far before the outer face of each eave's core they
    stop, mm.
    """
    if not plan.roof.soffit_returns:
        return ()
    near = [piece for piece in pieces if piece.role in TAILS]
    found, places = list[Piece](), Places()
    for face in plan.surface.faces:
        k = face.edge
        if plan.edges[k].kind != "eave" or plan.overhangs[k] < LEAST:
            continue
        tails = _tails(plan, k, near)
        long = distance(plan.outline.core[k], plan.outline.core[(k + 1) % len(plan.outline.core)])
        for n, tail in enumerate(tails):
            others = tails[:n] + tails[n + 1 :]
            along = _beside(tail, others, long) if tail.square else None
            if along is None:
                continue
            ring = _ring(plan, k, tail, ends[k])
            if len(ring) > 2:
                name = places.text("soffit return", place_at(plan.outline.walls[k], along[0]))
                found.append(_piece(plan, k, along[0], ring, name))
    return tuple(found)


def _tails(plan: SurfacePlan, edge: int, pieces: Sequence[Piece]) -> list[Tail]:
    """Return what reaches out over an eave, that which touches as one, in its order."""
    corner, way, inward = eave(plan, edge)
    rows = []
    for piece in pieces:
        rings = (clipped(ring, (-inward[0], -inward[1]), -dot(inward, corner)) for ring in piece.solid.plan)
        out = [(dot(way, q), dot(inward, q)) for ring in rings if len(ring) > 2 for q in (sub(p, corner) for p in ring)]
        end = min((t for _, t in out), default=0.0)
        if end > -LEAST / 2.0:
            continue
        ss = [s for s, _ in out]
        square = max(ss) - min(ss) <= THICK + SQUARE and piece.role != "fly rafter"
        rows.append(Tail((min(ss), max(ss)), end, piece.solid.heights[0], square))
    found = list[Tail]()
    for row in sorted(rows):
        if found and row.square and found[-1].square and row.along[0] < found[-1].along[1] + 1.0:
            last = found.pop()
            row = Tail(
                (last.along[0], max(last.along[1], row.along[1])), max(last.end, row.end), max(last.low, row.low), True
            )
        found.append(row)
    # One level along an eave: that of the lowest, below which the board over a lower frame ends higher.
    low = min((row.low for row in found if row.square), default=0.0)
    return [row._replace(low=low) if row.square and row.low < low + LEVEL else row for row in found]


def _beside(tail: Tail, others: Sequence[Tail], long: float) -> tuple[float, float] | None:
    """Return where along the eave a return lies beside a tail, toward the middle first; None where no side is free."""
    after, before = (tail.along[1], tail.along[1] + THICK), (tail.along[0] - THICK, tail.along[0])
    sides = (after, before) if sum(tail.along) < long else (before, after)
    for low, high in sides:
        clear = all(other.along[1] <= low + 0.1 or other.along[0] >= high - 0.1 for other in others)
        if clear and low >= 0.0 and high <= long:
            return low, high
    return None


def _ring(plan: SurfacePlan, edge: int, tail: Tail, end: float) -> Ring:
    """Return a return from the side: in of the wall, and over the bearing; below the deck, mm."""
    pitch, low = plan.edges[edge].pitch, tail.low - plan.bearing
    high = low + section(SIZE).depth
    ring: Ring = ((tail.end, low), (-end, low), (-end, high), (tail.end, high))
    # Below the deck: y <= level + pitch t.
    return clipped(ring, (pitch, -1.0), plan.bearing - plan.level(edge))


def _piece(plan: SurfacePlan, edge: int, along: float, ring: Ring, name: str) -> Piece:
    corner, way, inward = eave(plan, edge)
    roof, base = plan.roof, plan.bearing
    foot = add(corner, way, along)
    x, y = foot
    # Extruded along u x v = inward x up: along the eave.
    solid = Prism((x, y, base), (*inward, 0.0), (0.0, 0.0, 1.0), (ring,), THICK)
    middle: Point = add(foot, way, THICK / 2.0)
    first, last = min(t for t, _ in ring), max(t for t, _ in ring)
    level = base + min(z for _, z in ring)
    start, end = ((*add(middle, inward, t), level) for t in (first, last))
    return Piece(
        piece_name(roof.id, "soffit-return", name), "soffit return", roof.id, roof.bearing.level, solid, "timber light", start, end,
        last - first, SIZE, roof.rafters.species, roof.rafters.grade,
    )  # fmt: skip
