"""Walls split and joined under roofs: what lies in the planes over them stays where it is."""

from collections.abc import Callable
from typing import TypeVar

from msgspec.structs import replace

from balken.framing.bands import wall_lines
from balken.framing.outlines import Outline, OutlineError, outline
from balken.geometry.plane import Point, add, distance, dot, sub, unit
from balken.model import split_walls
from balken.model.records import Dormer, Project, RoofOpening
from balken.model.rules import check

InPlane = TypeVar("InPlane", RoofOpening, Dormer)
SAME = 1.0
"""A place no farther beyond a side's end is over it, mm."""


def split_wall(project: Project, wall_id: str, along: float) -> Project:
    """Split a wall at a distance from its start, mm; raises EditError."""
    return _kept(project, (wall_id,), lambda p: split_walls.split_wall(p, wall_id, along))


def join_walls(project: Project, first_id: str, second_id: str) -> Project:
    """Make one wall of two in line; raises EditError."""
    return _kept(project, (first_id, second_id), lambda p: split_walls.join_walls(p, first_id, second_id))


def _kept(project: Project, walls: tuple[str, ...], edit: Callable[[Project], Project]) -> Project:
    """Make an edit of walls with openings and dormers over them where they were."""
    every: tuple[RoofOpening | Dormer, ...] = (*project.roof_openings, *project.dormers)
    over = [x for x in every if x.wall in walls]
    before = _outlines(project, {x.roof for x in over})
    places = {x.id: _place(before[x.roof], x) for x in over if x.roof in before}
    # Some lie over a wall that goes: they are moved with the edit, in one step.
    bare = replace(
        project,
        roof_openings=tuple(x for x in project.roof_openings if x.id not in places),
        dormers=tuple(x for x in project.dormers if x.id not in places),
    )
    made = edit(bare)
    after = _outlines(made, {x.roof for x in over})
    return check(
        replace(
            made,
            roof_openings=tuple(_moved(x, places, after) for x in project.roof_openings),
            dormers=tuple(_moved(x, places, after) for x in project.dormers),
        )
    )


def _outlines(project: Project, roofs: set[str]) -> dict[str, Outline]:
    """Return the outlines of some roofs over walls; none of those that do not close, or lie on beams."""
    lines, found = wall_lines(project.walls, project.buildups, project.grids, project.levels), dict[str, Outline]()
    for roof in project.roofs:
        if roof.id in roofs and set(roof.walls) <= set(lines):
            try:
                found[roof.id] = outline(roof.walls, lines, inner=True)
            except OutlineError:
                continue
    return found


def _place(around: Outline, one: RoofOpening | Dormer) -> Point:
    """Return where along its side something lies, in plan."""
    k = around.walls.index(one.wall)
    a, b = around.core[k], around.core[(k + 1) % len(around.core)]
    return add(a, unit(a, b), one.along)


def _moved(one: InPlane, places: dict[str, Point], after: dict[str, Outline]) -> InPlane:
    """Return something over the wall that is now below it."""
    at, around = places.get(one.id), after.get(one.roof)
    if at is None or around is None:
        return one
    for k, wall in enumerate(around.walls):
        a, b = around.core[k], around.core[(k + 1) % len(around.core)]
        way = unit(a, b)
        along, off = dot(way, sub(at, a)), way[0] * (at[1] - a[1]) - way[1] * (at[0] - a[0])
        if abs(off) < SAME and -SAME <= along <= distance(a, b) + SAME:
            return replace(one, wall=wall, along=along)
    return one
