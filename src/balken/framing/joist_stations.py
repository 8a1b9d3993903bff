"""Where across a floor joists lie: on centre, clear of notches, beside openings, at the sides of what reaches past walls."""

import math

from balken.catalog.joists import STRIP, VENEER
from balken.catalog.sections import section
from balken.framing.floor_openings import Corners, Hole, holes_in, with_trimmers
from balken.framing.frames import Frame
from balken.framing.joist_lines import RIM, Crossed, clear_of_notches
from balken.framing.outlines import Outline
from balken.framing.pieces import Snag
from balken.geometry.plane import Ring, distance
from balken.model.records import Floor
from balken.model.spread import positions
from balken.units.system import FOOT, INCH

ALONG, ACROSS = 0.985, 0.94
"""Cosines of the angles to the joists up to which a side lies along them, and from which on they run across it."""
LONGEST = {"I-joist": 40.0 * FOOT, "LVL": 48.0 * FOOT}
"""The longest there is of what is not sawn, mm (common practice, no source)."""
EDGE_JOISTS = ("side", "open", "free")
"""Sides on which a joist lies where they run along the joists."""
I_WIDEST = 3.5 * INCH
LEAST_GAP = 1.0 * INCH
"""Joists closer to the edge joist than this are left out."""


def joist_stations(
    floor: Floor,
    outline: Outline,
    frame: Frame,
    spacing: float,
    level: float,
    openings: tuple[Corners, ...],
    crossed: Crossed,
) -> tuple[list[float], tuple[Hole, ...], list[Snag]]:
    """Return where joists lie across a floor, its openings as they are framed, and what cannot be framed."""
    ring = frame.ring(outline.core)
    t_low, t_high = min(p[1] for p in ring), max(p[1] for p in ring)
    if floor.is_slab:
        strips = slab_strips(t_high - t_low, spacing)
        holes, unframed = holes_in(floor.id, openings, frame, ring, level, crossed.at, STRIP)
        return with_trimmers([t_low + t for t in strips], holes, grow=False), holes, [*unframed]
    offsets = positions(t_high - t_low, spacing, RIM, LEAST_GAP + RIM / 2.0, floor.start)
    stations = clear_of_notches(ring, [t_low + o for o in offsets])
    board = VENEER if floor.joists.made_of != "sawn" else RIM
    holes, unframed = holes_in(floor.id, openings, frame, ring, level, crossed.at, board)
    sides, askew = _sides_past(floor, outline, frame, ring, level)
    return with_edge_joists(with_trimmers(stations, holes), sides), holes, [*unframed, *askew]


def slab_strips(width: float, spacing: float) -> list[float]:
    """Return the middles of the strips, all as wide, into which a slab is cut."""
    count = max(round(width / spacing), 1)
    return [(k + 0.5) * width / count for k in range(count)]


def thick(floor: Floor) -> float:
    """Return how thick a joist of a floor is taken before it has a size, mm."""
    if floor.joists.size is not None:
        return section(floor.joists.size).breadth
    return {"sawn": RIM, "LVL": VENEER, "I-joist": I_WIDEST, "slab": STRIP}[floor.joists.made_of]


def longest_joist(floor: Floor, stock: float) -> float:
    """Return the longest joist there is for a floor, mm; ``stock``: the longest sawn board."""
    if floor.is_slab:
        return 1e9
    return LONGEST.get(floor.joists.made_of, stock)


def _sides_past(
    floor: Floor, outline: Outline, frame: Frame, ring: Ring, level: float
) -> tuple[list[float], list[Snag]]:
    """Return where joists lie at the sides of parts that reach past a wall, and what of those parts cannot be framed."""
    sides: list[float] = []
    snags: list[Snag] = []
    for i, p in enumerate(ring):
        q = ring[(i + 1) % len(ring)]
        long = distance(p, q)
        if outline.edge(i) == "wall" or long < 1.0:
            continue
        along = abs(q[0] - p[0]) / long
        if outline.edge(i) in EDGE_JOISTS and along > ALONG:
            sides.append((p[1] + q[1]) / 2.0 + math.copysign(thick(floor) / 2.0, q[0] - p[0]))
        elif outline.edge(i) == "past" and along > ACROSS:
            text = "joists run along a wall past which the floor reaches, and cannot carry it there"
            snags.append(Snag("cantilever", text, floor.id, (*frame.back(*p), level)))
    return sides, snags


def with_edge_joists(stations: list[float], sides: list[float]) -> list[float]:
    """Return the places of joists with those at the sides of parts that reach past a wall."""
    for t in sides:
        stations = [x for x in stations if abs(x - t) > RIM + LEAST_GAP]
    return sorted([*stations, *sides])
