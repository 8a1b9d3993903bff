"""Where ridge boards and ridge beams run through the tops of gable walls: plates end at their sides, studs below them."""

import dataclasses
from collections.abc import Iterable

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
    """An end of a ridge: where, which way it runs, how thick it is and how high its underside lies, mm."""

    at: Point
    way: Point
    breadth: float
    low: float


def ridge_ends(plan: SurfacePlan, members: Iterable[SurfaceMember], boards: Boards) -> tuple[RidgeEnd, ...]:
    """Return the ends of a roof's ridges."""
    found = []
    for one in members:
        m = one.member
        if m.role == "ridge":
            lumber = section(boards.lines.get(one.key, boards.ridge))
            low = m.start[2] + plan.bearing + plan.plate_to_top - line_drop(plan, m, lumber) - lumber.depth
            way = unit(*m.ends)
            found += [RidgeEnd(at, way, lumber.breadth, round(low, 6)) for at in m.ends]
    return tuple(found)


def let_through(
    plan: SurfacePlan, tops: dict[str, GableTop], lines: dict[str, WallLine], ends: Iterable[RidgeEnd]
) -> dict[str, GableTop]:
    """Return the tops of gable walls with the pockets of ridges that end in them."""
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
            top = found[wall]
            found[wall] = dataclasses.replace(top, pockets=(*top.pockets, (low, high, end.low, 2.0 * half)))
    return found
