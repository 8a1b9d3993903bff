"""Solid blocking between joists that run along a wall pressed by earth: it hands the push on to the deck.

The wall pushes its sill plate against the edge joist across that joist's weak side.  Blocks between it and the first
two joists, as deep as they are, stand at the anchor bolts and no farther apart than 4 ft (common practice, no source).
"""

from balken.catalog.sections import rim_of, section, wood_of
from balken.framing.floors import FloorPlan
from balken.framing.joist_lines import RIM
from balken.framing.pieces import MemberLine, Piece
from balken.geometry.plane import Point, Ring
from balken.geometry.prism import box
from balken.model.naming import piece_name
from balken.units.system import FOOT, INCH

FARTHEST = 4.0 * FOOT
BAYS = 2
ALONG = 0.364
"""Tangent of 20 degrees: joists nearer to the line of a wall do not bear on it."""
LEAST_BLOCK = 2.0 * INCH
"""Nothing shorter is nailed in."""


def blocking_pieces(
    plan: FloorPlan, size: str, height: float, pushed: tuple[tuple[str, float], ...]
) -> tuple[Piece, ...]:
    """Return the blocks of a floor whose deck top is at ``height``; ``pushed``: walls and how far apart, mm."""
    apart = dict(pushed)
    frame, floor, joist, block = plan.frame, plan.floor, section(size), rim_of(size)
    lumber = section(block)
    species, grade = wood_of(block, floor.joists.species, floor.joists.grade)
    low = height - floor.deck - lumber.depth
    pieces: list[Piece] = []
    for i, (wall, (first, last, t, rise, inward)) in enumerate(zip(plan.outline.walls, _sides(plan), strict=True)):
        if wall not in apart or not inward:
            continue
        count = max(round_up((last - first - 2.0 * INCH) / min(apart[wall], FARTHEST)), 1)
        step = (last - first - 2.0 * INCH) / count
        for k in range(count + 1):
            s = first + INCH + k * step
            at = t + rise * (s - first)
            edge = at + inward * (RIM + abs(rise) * lumber.breadth / 2.0)
            for n, line in enumerate(_beside(plan.lines, s, at, inward)):
                face = line.t - inward * joist.breadth / 2.0
                length = (face - edge) * inward
                if length >= LEAST_BLOCK:
                    start, end = (*frame.back(s, edge), low), (*frame.back(s, face), low)
                    solid = box(start, end, (*frame.s, 0.0), lumber.breadth, lumber.depth)
                    pieces.append(
                        Piece(
                            piece_name(floor.id, "blocking", f"{i}.{k}.{n}"), "blocking", floor.id, floor.level, solid, "timber", start,
                            end, length, block, species, grade, wall,
                        )
                    )  # fmt: skip
                edge = line.t + inward * joist.breadth / 2.0
    return tuple(pieces)


def round_up(x: float) -> int:
    """Return the least whole number not less than x, but for rounding."""
    return int(-(-(x - 1e-6) // 1.0))


def _sides(plan: FloorPlan) -> list[tuple[float, float, float, float, float]]:
    """Return of each side of a floor s from and to, its t there and how that rises a mm of s, and which way is inward.

    Inward is 1 or -1, and 0 for sides more than 20 degrees off the joists: those bear on the wall there.
    """
    ring: Ring = plan.frame.ring(plan.outline.core)
    found = []
    for i, p in enumerate(ring):
        q: Point = ring[(i + 1) % len(ring)]
        (s0, t0), (s1, t1) = sorted((p, q))
        along = abs(t1 - t0) < ALONG * (s1 - s0)
        rise = (t1 - t0) / (s1 - s0) if along else 0.0
        found.append((s0, s1, t0, rise, (1.0 if q[0] > p[0] else -1.0) if along else 0.0))
    return found


def _beside(lines: tuple[MemberLine, ...], s: float, t: float, inward: float) -> list[MemberLine]:
    """Return the joists nearest to an edge where a block stands, the nearest first, no more than there are bays."""
    near = [line for line in lines if line.low - 1.0 < s < line.high + 1.0 and (line.t - t) * inward > 0.0]
    # Where two joists butt over a bearing, one of them counts.
    by_place = {round(line.t, 3): line for line in near}
    return sorted(by_place.values(), key=lambda line: (line.t - t) * inward)[:BAYS]
