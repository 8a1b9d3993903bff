"""Braces of gable frames: boards on edge beside their studs, from high on the frame down to a block between bottom chords, so that neither
wind nor its own weight tips a frame over on its plate (every second stud, about 45 degrees; common practice, no source).  Nothing checks
what they hold.
"""

import math
from collections.abc import Sequence
from typing import NamedTuple

import shapely

from balken.catalog.sections import section
from balken.framing.pieces import Piece
from balken.framing.surface_roofs import SurfacePlan
from balken.framing.truss_braces import AIR, SIZE, STEP, Standing
from balken.framing.truss_layout import BOARD, TrussRow
from balken.framing.truss_outline import height_on, moved
from balken.geometry.plane import Ring
from balken.geometry.prism import Prism, Vec
from balken.model.naming import piece_name
from balken.units.system import INCH

LEAST_TALL = 48.0 * INCH
"""Shorter studs have none."""
HIGHEST = 96.0 * INCH
"""Nor do they reach higher."""
EVERY = 48.0 * INCH
"""They stand so far apart along a frame, or a little more."""
FLATTEST, STEEPEST = 0.55, 1.75
"""Rise over run: 30 to 60 degrees."""
OVER_CEILING = 0.25 * INCH
"""Their lower ends, and the blocks, stay so far over the ceiling."""


Ends = tuple[Vec, Vec]
"""Both ends of a board's middle: along a truss, along the row, over the bearing, mm."""


class GableBrace(NamedTuple):
    """A brace beside a stud: from where to where along the frame, mm; its upper and its lower end: t, how high its middle is there; its block:
    along the frame, and along t, how high its underside lies.
    """

    along: tuple[float, float]
    high: tuple[float, float]
    low: tuple[float, float]
    block: tuple[float, float]
    between: tuple[float, float]
    under: float

    @property
    def slope(self) -> float:
        """Rise over run."""
        return (self.high[1] - self.low[1]) / abs(self.high[0] - self.low[0])


def gable_braces(
    frame: Standing, inside: Sequence[Standing], lying: Sequence[Ring], across: Sequence[Ends] = ()
) -> list[GableBrace]:
    """Return the braces of a frame; ``inside``: the trusses beside it, the nearest first, ``lying``: boards across trusses, as their planes
    cut them, ``across``: diagonals.
    """
    joints = frame.frame.joints
    studs = sorted(
        (joints[one.joints[0]][0], frame.sawn[one.name].length) for one in frame.frame.sticks if one.role == "web"
    )
    tall = [x for x, long in studs if long >= LEAST_TALL]
    found = list[GableBrace]()
    last = -math.inf
    for x in tall:
        if x - last < EVERY - 1.0 * INCH:
            continue
        one = next(
            (made for side in (1.0, -1.0) if (made := _beside(frame, inside, (lying, across), x, side)) is not None),
            None,
        )
        if one is not None:
            found.append(one)
            last = x
    return found


def _beside(
    frame: Standing, inside: Sequence[Standing], boards: tuple[Sequence[Ring], Sequence[Ends]], x: float, side: float
) -> GableBrace | None:
    """Return the brace on one side of a stud; None where nothing is free."""
    thick, half = section(SIZE).breadth, section(frame.frame.sizes.webs).depth / 2.0
    first, last = sorted((x + side * half, x + side * (half + thick)))
    past = sorted((x + side * (half + thick), x + side * (half + 2.0 * thick)))
    under = moved(frame.frame.outline.top, -section(frame.frame.sizes.top).depth)
    top = min(height_on(under, at) for at in (first, last)) - AIR
    inward = 1.0 if inside and inside[0].t > frame.t else -1.0
    for n in _bays(frame, inside, top):
        made = _over(frame, inside, (x, (first, last), (past[0], past[1])), top, inward, n)
        if made is not None and _free(made, (frame, *inside[:n]), *boards):
            return made
    return None


def _bays(frame: Standing, inside: Sequence[Standing], top: float) -> list[int]:
    """Return over how many trusses a brace may reach, the steepness nearest to 45 degrees first."""
    high = min(max(top, 1.0), HIGHEST)
    rows = [(abs(math.log(high / abs(one.t - frame.t))), n) for n, one in enumerate(inside, start=1)]
    return [n for _, n in sorted(rows)[:3]]


def _over(
    frame: Standing,
    inside: Sequence[Standing],
    where: tuple[float, tuple[float, float], tuple[float, float]],
    top: float,
    inward: float,
    n: int,
) -> GableBrace | None:
    """Return a brace whose lower end stands before the n-th truss; None where it would be too flat or too steep."""
    (_, along, block), foot = where, inside[n - 1]
    floor = max(height_on(foot.frame.outline.bottom, at) for at in along) + OVER_CEILING
    start, end = frame.t - inward * BOARD / 2.0, foot.t - inward * foot.half
    run, wide = abs(end - start), section(SIZE).depth
    top = min(top, floor + HIGHEST)
    rise = top - floor
    for _ in range(8):  # both ends are cut plumb: how high they are there follows from the slope
        plumb = wide * math.hypot(1.0, rise / run)
        rise = top - floor - plumb
    if not FLATTEST <= rise / run <= STEEPEST:
        return None
    before = inside[n - 2] if n > 1 else frame
    between = (before.t + inward * before.half, end)
    return GableBrace(along, (start, top - plumb / 2.0), (end, floor + plumb / 2.0), block, between, floor)


def _free(made: GableBrace, passed: Sequence[Standing], lying: Sequence[Ring], across: Sequence[Ends]) -> bool:
    """Whether nothing of the trusses it passes (``passed``: its frame first, last that before which it ends), and no board across them, is in a
    brace's way or its block's.
    """
    plumb = section(SIZE).depth * math.hypot(1.0, made.slope)
    low, high = min(made.along[0], made.block[0]) - AIR, max(made.along[1], made.block[1]) + AIR
    for one in passed:
        far, near = (abs(t - made.low[0]) for t in (one.t - one.half, one.t + one.half))
        heights = [made.low[1] + made.slope * run for run in (far, near)]
        strip = shapely.box(
            made.along[0] - AIR, min(heights) - plumb / 2.0 - AIR, made.along[1] + AIR, max(heights) + plumb / 2.0 + AIR
        )
        if (
            one is not passed[0]
            and one is not passed[-1]
            and any(strip.intersects(shapely.Polygon(s.ring)) for s in one.sawn.values())
        ):
            return False
        # Gussets lie on its faces, where the brace ends or a block does.
        block = shapely.box(made.block[0], made.under, made.block[1], made.under + section(SIZE).depth)
        if any(shapely.Polygon(ring).intersects(shapely.union(strip, block)) for ring in one.blocked):
            return False
    if any(min(x for x, _ in ring) < high and max(x for x, _ in ring) > low for ring in lying):
        return False
    return _clear_of(made, across, plumb)


def _clear_of(made: GableBrace, across: Sequence[Ends], plumb: float) -> bool:
    """Whether a brace is clear of diagonals across trusses, each as thick as it may be turned."""
    (t0, t1), wide = sorted((made.high[0], made.low[0])), section(SIZE).depth
    for (s0, u0, z0), (s1, u1, z1) in across:
        low, high = max(min(u0, u1) - wide, t0), min(max(u0, u1) + wide, t1)
        steps = max(math.ceil((high - low) / STEP), 1)
        for k in range(steps + 1) if high >= low else ():
            t = low + (high - low) * k / steps
            part = min(max((t - u0) / (u1 - u0), 0.0), 1.0)
            s, z = s0 + (s1 - s0) * part, z0 + (z1 - z0) * part
            y = made.low[1] + made.slope * abs(t - made.low[0])
            beside = made.along[0] - wide < s < made.along[1] + wide
            if beside and abs(y - z) < plumb / 2.0 + wide * math.hypot(1.0, (z1 - z0) / (u1 - u0)):
                return False
    return True


def ends_of(plan: SurfacePlan, row: TrussRow, pieces: Sequence[Piece]) -> list[Ends]:
    """Return where diagonals across trusses begin and end: along a truss, along the row, over the bearing, mm."""

    def place(p: Vec) -> Vec:
        s, t = row.frame.to(p[:2])
        return s - row.start, t, p[2] - plan.bearing

    return [(place(piece.start), place(piece.end)) for piece in pieces]


def frame_brace(number: int) -> str:
    """Return with what names of a frame's braces begin; ``number``: of its place along the roof."""
    return f"frame {number}"


def gable_brace_pieces(plan: SurfacePlan, row: TrussRow, made: Sequence[GableBrace], of: str) -> list[Piece]:
    """Return braces and their blocks as solids; ``of``: what their names begin with."""
    found = list[Piece]()
    for k, one in enumerate(made):
        found += [_brace(plan, row, one, f"{of}.{k + 1}"), _block(plan, row, one, f"{of}.{k + 1}.B")]
    return found


def _brace(plan: SurfacePlan, row: TrussRow, one: GableBrace, name: str) -> Piece:
    trusses, lumber = plan.roof.trusses, section(SIZE)
    plumb = lumber.depth * math.hypot(1.0, one.slope)
    ends = sorted((one.high, one.low))
    ring = tuple((t, y - plumb / 2.0) for t, y in ends) + tuple((t, y + plumb / 2.0) for t, y in reversed(ends))
    # In the plane of t and up, extruded along s: u x v = t x z.
    t, s = row.frame.t, row.frame.s
    out = t[1] * s[0] - t[0] * s[1] > 0.0
    x, y = row.frame.back(row.start + (one.along[0] if out else one.along[1]), 0.0)
    solid = Prism((x, y, plan.bearing), (*t, 0.0), (0.0, 0.0, 1.0), (ring,), lumber.breadth)
    middle = sum(one.along) / 2.0
    start, end = ((*row.frame.back(row.start + middle, at), plan.bearing + high) for at, high in (one.low, one.high))
    long = abs(one.high[0] - one.low[0]) * math.hypot(1.0, one.slope) + lumber.depth * one.slope
    return Piece(
        piece_name(plan.roof.id, "brace", name, 0), "truss brace", plan.roof.id, plan.roof.bearing.level, solid, "timber", start, end, long,
        SIZE, trusses.species, trusses.wood_grade,
    )  # fmt: skip


def _block(plan: SurfacePlan, row: TrussRow, one: GableBrace, name: str) -> Piece:
    trusses, lumber, level = plan.roof.trusses, section(SIZE), plan.bearing + one.under
    (x0, x1), (t0, t1) = one.block, sorted(one.between)
    ring = ((x0, 0.0), (x1, 0.0), (x1, lumber.depth), (x0, lumber.depth))
    x, y = row.frame.back(row.start, t1)
    start, end = ((*row.frame.back(row.start + (x0 + x1) / 2.0, t), level) for t in (t0, t1))
    return Piece(
        piece_name(plan.roof.id, "brace", name, 0), "truss brace", plan.roof.id, plan.roof.bearing.level,
        Prism((x, y, level), (*row.frame.s, 0.0), (0.0, 0.0, 1.0), (ring,), t1 - t0), "timber", start, end, t1 - t0, SIZE,
        trusses.species, trusses.wood_grade,
    )  # fmt: skip
