"""Blocks at the bearings of I-joists: squash blocks under walls that stand over a bearing, web stiffeners at their webs.

Squash blocks are pairs of 2x4, one at each side of a joist, a little longer than it is deep, so that what stands above goes
through them and not through flanges and web (APA PRI-400's construction details; common practice).  Web stiffeners are panel
pieces at both sides of the web, between the flanges with a gap.
"""

from collections.abc import Iterable, Mapping

from balken.catalog.sections import section
from balken.framing.bands import WallLine
from balken.framing.floors import FloorPlan
from balken.framing.joist_lines import RIM
from balken.framing.pieces import MadeOf, MemberLine, Piece
from balken.geometry.plane import Point, add, dot, sub
from balken.geometry.prism import upright
from balken.model.naming import parts_of_run, piece_name
from balken.units.system import INCH
from balken.value import Value

BLOCK = "2x4"
PROUD = 1.0 / 16.0 * INCH
"""How much longer than the joist is deep a squash block is."""
STIFFENER_WIDE, STIFFENER_GAP = 2.3125 * INCH, 0.125 * INCH
"""Width of a web stiffener along the joist; the gap it leaves to a flange."""
AT_FOOT = 5.0
"""A wall stands on a deck where its foot is no farther off it than this, mm."""


class Over(Value, frozen=True):
    """A joist over a bearing with a wall standing above: which joist, on what, under which wall, where along the joist."""

    place: str
    t: float
    s: float
    bearer: str
    wall: str
    outer: bool = False
    """Whether it ends at a rim board there."""


def under_walls(
    plan: FloorPlan, level: float, lines: Mapping[str, WallLine], below: Mapping[str, tuple[str, ...]]
) -> tuple[Over, ...]:
    """Return where joists lie over a bearing on which a wall above stands; ``below``: what takes the load of each wall."""
    above = [(w, line) for w, line in lines.items() if abs(line.band.bottom - level) < AT_FOOT and below.get(w)]
    rims = {wall for wall, shared in zip(plan.outline.walls, plan.outline.shared, strict=True) if wall and not shared}
    found: list[Over] = []
    for line in plan.lines:
        last = len(line.stops) - 1
        for k, (bearer, s, _) in enumerate(line.stops):
            if not bearer or bearer in plan.headers:
                continue
            at = plan.frame.back(s, line.t)
            for name, wall in above:
                if bearer in below[name] and _stands_at(wall, at):
                    on = parts_of_run(bearer)[1] or bearer
                    found.append(Over(line.place, line.t, s, bearer, name, k in (0, last) and on in rims))
    return tuple(found)


def _stands_at(wall: WallLine, at: Point) -> bool:
    b = wall.band
    off = sub(at, b.at(0.0, 0.0))
    along, deep = dot(off, b.direction), dot(off, b.inward)
    near = 4.0 * INCH
    return -near <= along <= b.length + near and wall.core[0] - near <= deep <= wall.core[1] + near


def squash_blocks(plan: FloorPlan, size: str, level: float, over: Iterable[Over]) -> tuple[Piece, ...]:
    """Return a pair of upright blocks beside each of these joists, their narrow side along it; beside blocks that stand there."""
    floor, block, depth = plan.floor, section(BLOCK), section(size).depth
    low, half = level - floor.deck - depth, section(size).breadth / 2.0
    beside = 0.0 if floor.blocking == "none" else (RIM + block.breadth) / 2.0
    lines = {line.place: line for line in plan.lines}
    pieces: list[Piece] = []
    for n, one in enumerate(over):
        line = lines[one.place]
        inward = 1.0 if line.low + line.high > 2.0 * one.s else -1.0
        s = _within(line, one.s if one.outer else one.s + inward * beside, block.breadth)
        for k, side in enumerate((-1.0, 1.0)):
            t = one.t + side * (half + block.depth / 2.0)
            ring = _ring(plan, (s, t), block.breadth, block.depth)
            x, y = plan.frame.back(s, t)
            key = piece_name(floor.id, "squash", f"{one.place}+{n}+{k}")
            pieces.append(
                Piece(
                    key, "squash block", floor.id, floor.level, upright(ring, low, depth), "timber", (x, y, low),
                    (x, y, low + depth), depth + PROUD, BLOCK, floor.joists.species, floor.joists.grade,
                )
            )  # fmt: skip
    return tuple(pieces)


def _within(line: MemberLine, s: float, wide: float) -> float:
    """Return a place along a joist at which a block so wide does not reach past its ends."""
    return min(max(s, line.low + wide / 2.0), line.high - wide / 2.0)


def web_stiffeners(
    plan: FloorPlan, size: str, level: float, at: Iterable[tuple[MemberLine, float]], made: Mapping[str, MadeOf]
) -> tuple[Piece, ...]:
    """Return a panel piece at each side of a joist's web, at places along joists."""
    floor = plan.floor
    pieces: list[Piece] = []
    for n, (line, where) in enumerate(at):
        own = made.get(piece_name(floor.id, "joist", line.place))
        lumber = section(own.sized(size) if own is not None else size)
        if not lumber.flange or lumber.plies > 1:
            continue
        low, high = level - floor.deck - lumber.depth + lumber.flange, level - floor.deck - lumber.flange
        thick = (lumber.breadth - lumber.web) / 2.0
        s = _within(line, where, STIFFENER_WIDE)
        for k, side in enumerate((-1.0, 1.0)):
            ring = _ring(plan, (s, line.t + side * (lumber.web + thick) / 2.0), STIFFENER_WIDE, thick)
            solid = upright(ring, low + STIFFENER_GAP, high - low - STIFFENER_GAP)
            x, y = plan.frame.back(s, line.t)
            key = piece_name(floor.id, "stiffener", f"{line.place}+{n}+{k}")
            long = high - low - STIFFENER_GAP
            pieces.append(
                Piece(
                    key,
                    "web stiffener",
                    floor.id,
                    floor.level,
                    solid,
                    "wood sheathing",
                    (x, y, low),
                    (x, y, high),
                    long,
                )
            )
    return tuple(pieces)


def _ring(plan: FloorPlan, at: Point, long: float, wide: float) -> tuple[Point, ...]:
    """Return a rectangle about a place in the floor's frame, so long along the joists, in plan."""
    a, b = long / 2.0, wide / 2.0
    return tuple(plan.frame.back(*add(at, (p, q))) for p, q in ((-a, -b), (a, -b), (a, b), (-a, b)))
