"""Where ridges, hips and valleys run through the tops of gable walls: plates end at their sides, studs below them."""

import math
from collections.abc import Iterable

from msgspec.structs import replace

from balken.catalog.sections import section
from balken.framing.bands import WallLine
from balken.framing.line_levels import line_drop
from balken.framing.surface_members import Boards, SurfaceMember
from balken.framing.surface_roofs import SurfacePlan
from balken.framing.walls import GableTop
from balken.geometry.plane import Point, cross, dot, off_line, sub, unit
from balken.value import Value

NEAR = 2.0
"""A ridge that ends no farther from a wall's face than this ends in that, mm."""


class RidgeEnd(Value, frozen=True):
    """An end of a ridge, or the head of a hip or valley: where, which way it runs, how thick it is, how high its underside lies, mm, and
    how much lower a mm back along it.
    """

    at: Point
    way: Point
    breadth: float
    low: float
    falls: float = 0.0


def ridge_ends(plan: SurfacePlan, members: Iterable[SurfaceMember], boards: Boards) -> tuple[RidgeEnd, ...]:
    """Return the ends of a roof's ridges, and the heads of its hips and valleys."""
    found, high = [], plan.bearing + plan.plate_to_top
    for one in members:
        m = one.member
        if m.role not in ("ridge", "hip", "valley"):
            continue
        lumber, falls = section(boards.lines.get(one.key, boards.ridge)), math.tan(math.radians(m.slope))
        low = round(m.end[2] + high - line_drop(plan, m, lumber) - lumber.depth * math.hypot(1.0, falls), 6)
        ends = m.ends if m.role == "ridge" else m.ends[1:]
        found += [RidgeEnd(at, unit(*m.ends), lumber.breadth, low, falls) for at in ends]
    return tuple(found)


def let_through(
    plan: SurfacePlan, tops: dict[str, GableTop], lines: dict[str, WallLine], ends: Iterable[RidgeEnd]
) -> dict[str, GableTop]:
    """Return the tops of gable walls with the pockets of what ends in them."""
    found, core = dict(tops), plan.outline.core
    for end in ends:
        for k, wall in enumerate(plan.outline.walls):
            a, b = core[k], core[(k + 1) % len(core)]
            if wall not in found or abs(off_line(end.at, a, b)[1]) > NEAR:
                continue
            line = lines[wall]
            direct = line.band.direction
            deep, across = line.core[1] - line.core[0], max(abs(cross(end.way, direct)), 0.1)
            skew = abs(dot(end.way, direct)) / across
            s, half = dot(sub(end.at, line.band.start), direct), end.breadth / 2.0 / across
            low, high = s - half - skew * deep, s + half + skew * deep
            under = end.low - end.falls * (deep / across + half * skew)
            top = found[wall]
            found[wall] = replace(top, pockets=(*top.pockets, (low, high, under, 2.0 * half)))
    return found
