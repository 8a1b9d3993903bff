"""Edits that make a storey from the one below, and walls copied to other levels."""

import msgspec

from balken.geometry.plane import Point, add, left, meet, unit
from balken.model.buildups import core_band, set_out_depth
from balken.model.edits import add_all
from balken.model.errors import EditError
from balken.model.lookup import by_id, locate, next_id
from balken.model.records import Hang, Opening, Project, Wall
from balken.model.ties import tie


def copy_to_level(project: Project, wall_ids: tuple[str, ...], foot: str, head: str, openings: bool = True) -> Project:
    """Copy walls to another storey: feet on ``foot``, heads on ``head``; openings that fit come along."""
    made: list[Wall | Opening] = []
    counting = project
    levels = by_id(project.levels)
    if foot not in levels or head not in levels:
        raise EditError("choose the levels for foot and head.", "Copy to another storey")
    tall = levels[head].height - levels[foot].height
    for wall in _chosen(project, wall_ids):
        twin = msgspec.structs.replace(
            wall, id=next_id(counting, Wall), foot=Hang(level=foot), head=Hang(level=head), head_under="", source=""
        )
        made.append(twin)
        counting = msgspec.structs.replace(counting, walls=(*counting.walls, twin))
        for opening in project.openings if openings else ():
            if opening.wall == wall.id and opening.kind != "door" and opening.sill + opening.height <= tall:
                copied = msgspec.structs.replace(opening, id=next_id(counting, Opening), wall=twin.id, source="")
                made.append(copied)
                counting = msgspec.structs.replace(counting, openings=(*counting.openings, copied))
    return add_all(project, *made)


def _chosen(project: Project, wall_ids: tuple[str, ...]) -> list[Wall]:
    known = by_id(project.walls)
    found = [known[w] for w in wall_ids if w in known]
    if not found:
        raise EditError("No wall is selected.", do="Select the walls of the storey below first.")
    return found


def next_storey(
    project: Project,
    wall_ids: tuple[str, ...],
    foot: str,
    head: str,
    buildup: str = "",
    inward: float = 0.0,
    cover: float = 0.0,
) -> Project:
    """Make the walls of the next storey over those named: same outline, set in or out.

    ``buildup``: of the new outside walls ("" = as below). ``inward``: how far the outer core face is
    set in (out below zero), mm. ``cover``: how far the outer layers reach down over the edge of the
    floor, mm.  Walls in one line, end to end, become one.  Raises EditError.
    """
    walls = _chosen(project, wall_ids)
    buildups = by_id(project.buildups)
    if buildup and buildup not in buildups:
        raise EditError(f"the build-up '{buildup}' is not there.", "Next storey", "Choose a build-up.")
    figures = _merged(project, walls)
    built = [buildup if buildup and w.role == "outside" else w.buildup for w, _, _ in figures]
    lines = [
        _set_out_line(project, wall, new, a, b, inward if wall.role == "outside" else 0.0)
        for (wall, a, b), new in zip(figures, built, strict=True)
    ]
    made: list[Wall] = []
    counting = project
    for i, (wall, a, b) in enumerate(figures):
        ends = [_corner(figures, lines, i, point) for point in (a, b)]
        new = Wall(
            id=next_id(counting, Wall),
            start=tie(project, ends[0]),
            end=tie(project, ends[1]),
            buildup=built[i],
            foot=Hang(level=foot),
            head=Hang(level=head),
            set_out=wall.set_out,
            outside=wall.outside,
            role=wall.role,
            framing=wall.framing,
            cover=cover if wall.role == "outside" else 0.0,
        )
        made.append(new)
        counting = msgspec.structs.replace(counting, walls=(*counting.walls, new))
    return add_all(project, *made)


Figure = tuple[Wall, Point, Point]


def _merged(project: Project, walls: list[Wall]) -> list[Figure]:
    """Return the walls as (wall, start, end); those in one line, end to end and built alike, as one."""
    left_over: list[Figure] = [(w, locate(w.start, project.grids), locate(w.end, project.grids)) for w in walls]
    found: list[Figure] = []
    while left_over:
        wall, a, b = left_over.pop(0)
        again = True
        while again:
            again = False
            for other in left_over:
                w, c, d = other
                alike = (w.buildup, w.outside, w.set_out, w.role) == (
                    wall.buildup,
                    wall.outside,
                    wall.set_out,
                    wall.role,
                )
                u, v = unit(a, b), unit(c, d)
                if not alike or u[0] * v[0] + u[1] * v[1] < 1.0 - 1e-9:
                    continue
                if _same(b, c):
                    b = d
                elif _same(d, a):
                    a = c
                else:
                    continue
                left_over.remove(other)
                again = True
                break
        found.append((wall, a, b))
    return found


def _same(a: Point, b: Point) -> bool:
    return abs(a[0] - b[0]) < 1.0 and abs(a[1] - b[1]) < 1.0


def _inward(wall: Wall, a: Point, b: Point) -> Point:
    aside = left(unit(a, b))
    return aside if wall.outside == "right" else (-aside[0], -aside[1])


def _set_out_line(project: Project, wall: Wall, new: str, a: Point, b: Point, inward: float) -> tuple[Point, Point]:
    """Return a point on the new wall's set-out line and its direction; the outer core faces keep their distance."""
    old_built, new_built = by_id(project.buildups)[wall.buildup], by_id(project.buildups)[new]
    to_core = core_band(old_built)[0] - set_out_depth(old_built, wall.set_out)
    from_core = set_out_depth(new_built, wall.set_out) - core_band(new_built)[0]
    return add(a, _inward(wall, a, b), to_core + inward + from_core), unit(a, b)


def _corner(figures: list[Figure], lines: list[tuple[Point, Point]], i: int, point: Point) -> Point:
    """Return where the new line of wall ``i`` meets that of the wall it makes a corner with at ``point``."""
    wall, own = figures[i][0], lines[i]
    for j, (other, a, b) in enumerate(figures):
        if j != i and other.role == wall.role and (_same(a, point) or _same(b, point)):
            met = meet(own[0], own[1], lines[j][0], lines[j][1])
            if met is not None:
                return met
    r = (point[0] - own[0][0]) * own[1][0] + (point[1] - own[0][1]) * own[1][1]
    return add(own[0], own[1], r)
