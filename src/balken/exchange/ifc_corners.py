"""Ends of walls taken from bodies, brought to where the middle lines meet: bodies overlap at corners or stop at faces."""

from collections.abc import Iterable

import msgspec
import shapely

from balken.exchange.ifc_shapes import rounded
from balken.geometry.plane import Point, cross, distance, dot, meet, off_line, sub, unit
from balken.model.buildups import thickness
from balken.model.errors import EditError
from balken.model.lookup import by_id, height, locate
from balken.model.records import Opening, Project, Wall
from balken.model.rules import check
from balken.model.ties import tie
from balken.value import Value

SPARE = 60.0
"""Bodies that miss one another by no more than this (mm) still meet."""
LEAST_TURN = 0.25
"""Sine of the least angle at which walls make a corner."""


class _Line(Value, frozen=True):
    wall: Wall
    start: Point
    end: Point
    thick: float
    low: float
    high: float

    @property
    def direction(self) -> Point:
        return unit(self.start, self.end)


def meet_at_corners(project: Project, loose: Iterable[str]) -> Project:
    """Move the ends of these walls along their own lines to the lines of walls they touch.

    A wall whose openings would no longer fit stays as it is.
    """
    buildups = by_id(project.buildups)
    lines = {
        w.id: _Line(
            w,
            locate(w.start, project.grids),
            locate(w.end, project.grids),
            thickness(buildups[w.buildup]),
            height(w.foot, project.levels),
            height(w.head, project.levels),
        )
        for w in project.walls
    }
    ids = list(lines)
    tree = shapely.STRtree([shapely.LineString([v.start, v.end]) for v in lines.values()])
    walls, openings = dict(by_id(project.walls)), dict(by_id(project.openings))
    own: dict[str, list[Opening]] = {}
    for opening in project.openings:
        own.setdefault(opening.wall, []).append(opening)
    for wall_id in loose:
        line = lines[wall_id]
        reach = line.thick + SPARE
        near = [lines[ids[i]] for i in tree.query(shapely.LineString([line.start, line.end]).buffer(3.0 * reach))]
        start = _corner(line, line.start, near)
        end = _corner(line, line.end, near)
        if (start, end) == (line.start, line.end) or dot(sub(end, start), line.direction) < 100.0:
            continue
        by = dot(sub(start, line.start), line.direction)
        wall = msgspec.structs.replace(line.wall, start=tie(project, rounded(start)), end=tie(project, rounded(end)))
        moved = [msgspec.structs.replace(o, offset=round(o.offset - by, 6)) for o in own.get(wall_id, [])]
        try:
            check(msgspec.structs.replace(project, walls=(wall,), openings=tuple(moved), columns=(), references=()))
        except EditError:
            continue
        walls[wall_id] = wall
        openings.update((o.id, o) for o in moved)
    return msgspec.structs.replace(project, walls=tuple(walls.values()), openings=tuple(openings.values()))


def _corner(line: _Line, tip: Point, near: list[_Line]) -> Point:
    """Return where an end belongs: on the nearest line of a wall that it touches, or where it is."""
    best, least = tip, float("inf")
    for other in near:
        if other.wall.id == line.wall.id or min(line.high, other.high) - max(line.low, other.low) < 1.0:
            continue
        if abs(cross(line.direction, other.direction)) < LEAST_TURN:
            continue
        at = meet(line.start, line.direction, other.start, other.direction)
        if at is None:
            continue
        by = distance(at, tip)
        along, _ = off_line(at, other.start, other.end)
        past = max(-along, along - distance(other.start, other.end))
        if by <= other.thick + SPARE and past <= line.thick + SPARE and by < least:
            best, least = at, by
    return best
