"""What reaches out over the eaves of a roof, as boards beside it meet it: tails of rafters, of top chords, of boards on frames."""

from collections.abc import Sequence
from typing import NamedTuple

from balken.framing.pieces import Piece
from balken.framing.rafter_stations import THICK
from balken.framing.surface_roofs import SurfacePlan, eave
from balken.geometry.plane import clipped, dot, sub
from balken.units.system import INCH

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


def tails_along(
    plan: SurfacePlan, edge: int, pieces: Sequence[Piece], roles: tuple[str, ...] = TAILS, within: float | None = None
) -> list[Tail]:
    """Return what reaches out over an eave, that which touches as one, in its order; ``roles``: of what, ``within``: or all that lies no farther
    in of the bearing line than this, mm.
    """
    corner, way, inward = eave(plan, edge)
    rows = []
    for piece in pieces:
        if piece.role not in roles:
            continue
        rings = (
            clipped(ring, (-inward[0], -inward[1]), -dot(inward, corner) - (within or 0.0)) for ring in piece.solid.plan
        )
        out = [(dot(way, q), dot(inward, q)) for ring in rings if len(ring) > 2 for q in (sub(p, corner) for p in ring)]
        end = min((t for _, t in out), default=0.0)
        if not out or (within is None and end > -LEAST / 2.0):
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


def beside(tail: Tail, others: Sequence[Tail], long: float, outward: bool = False) -> tuple[float, float] | None:
    """Return where along the eave a board lies beside a tail, on the side toward the middle first (``outward``: away from it); None where no side
    is free.
    """
    after, before = (tail.along[1], tail.along[1] + THICK), (tail.along[0] - THICK, tail.along[0])
    sides = (after, before) if (sum(tail.along) < long) != outward else (before, after)
    for low, high in sides:
        clear = all(other.along[1] <= low + 0.1 or other.along[0] >= high - 0.1 for other in others)
        if clear and low >= 0.0 and high <= long:
            return low, high
    return None
