"""Rows of beams as the beams they are, edits of single ones, and the bay round a place."""

import math
from collections.abc import Iterable
from typing import Any

import msgspec

from balken.catalog.beams import beam_section
from balken.geometry.plane import Point, add, cross, distance, dot, meet, sub, turn, unit
from balken.model.edits import add as add_record
from balken.model.edits import change
from balken.model.errors import EditError
from balken.model.kinds.beam import WORDS, Beam
from balken.model.kinds.beam_row import MOST, BeamRow, BeamSingle
from balken.model.lookup import by_id, height, locate, next_id
from balken.model.places import axis_positions, grid_point, grid_position
from balken.model.records import FreePoint, Grid, Hang, Place, Project
from balken.model.spread import positions
from balken.model.ties import tied_off
from balken.remembered import remembered

OF = "."
"""Between a row's id and the number of one of its beams, in that beam's id."""
LEAST = 150.0
"""No beam lies nearer than this to a side of the bay, mm."""
SAME = 100.0
"""What is other about a beam stays with the one nearest to its place, no farther off than this, mm."""
NEAR_LEVEL = 600.0


@remembered(500)
def beams_of(row: BeamRow, grids: tuple[Grid, ...]) -> tuple[Beam, ...]:
    """Return the beams of a row, those left out not among them; raises KeyError where an axis is gone.

    Their ids are the row's with their number from its first side.
    """
    found = []
    for k, at, start, end in _lines(row, grids):
        single = _single(row, at)
        if single is not None and single.removed:
            continue
        size = single.size if single is not None and single.size is not None else row.size
        own = single is not None and single.size is not None
        found.append(
            Beam(
                id=f"{row.id}{OF}{k}", start=_free(start), end=_free(end), top=row.top, floor=row.floor, flush=row.flush,
                made_of=_word(size, row) if own else row.made_of, size=size, species=row.species, grade=row.grade, outdoors=row.outdoors,
            )
        )  # fmt: skip
    return tuple(found)


def all_beams(project: Project) -> tuple[Beam, ...]:
    """Return the beams drawn one by one, and those of rows."""
    return _joined(project.beams, project.beam_rows, project.grids) if project.beam_rows else project.beams


@remembered(50)
def _joined(beams: tuple[Beam, ...], rows: tuple[BeamRow, ...], grids: tuple[Grid, ...]) -> tuple[Beam, ...]:
    return (*beams, *(beam for row in rows for beam in beams_of(row, grids)))


def _free(point: Point) -> FreePoint:
    return FreePoint(x=round(point[0], 6), y=round(point[1], 6))


def _word(size: str | None, row: BeamRow) -> Any:
    """Return the kind of beam that a section of its own is."""
    return WORDS[beam_section(size).kind] if size is not None else row.made_of


def _lines(row: BeamRow, grids: tuple[Grid, ...]) -> list[tuple[int, float, Point, Point]]:
    """Return of each beam its number, how far it lies from the first side, where it begins and ends."""
    a, b, c, d = (locate(place, grids) for place in (row.a, row.b, row.c, row.d))
    way = unit(a, d) if row.angle is None else turn((1.0, 0.0), row.angle)
    if dot(way, sub(d, a)) < 0.0:
        way = (-way[0], -way[1])
    across = (way[1], -way[0]) if cross(way, sub(b, a)) < 0.0 else (-way[1], way[0])
    # Across the beams, from the nearest corner to the farthest.
    spread = [dot(sub(p, a), across) for p in (a, b, c, d)]
    low, high = min(spread), max(spread)
    found = []
    for k, at in enumerate(_places(row, high - low), 1):
        ends = _crossings((a, b, c, d), add(a, across, low + at), way)
        if len(ends) == 2 and distance(*ends) > LEAST:
            found.append((k, at, *ends))
    return found


def _places(row: BeamRow, width: float) -> list[float]:
    """Return how far beams lie from the first side of a bay."""
    if row.by == "spacing":
        found = positions(width, row.spacing, 0.0, LEAST, row.begin)
    else:
        count = row.number if row.by == "number" else math.ceil(width / row.spacing - 1e-6) - 1
        found = [width * (k + 1) / (count + 1) for k in range(count)]
    return found[:MOST]


def _crossings(corners: tuple[Point, ...], through: Point, way: Point) -> tuple[Point, ...]:
    """Return where a line crosses the sides of a bay, in its direction."""
    found = []
    for p, q in zip(corners, corners[1:] + corners[:1], strict=True):
        met = meet(through, way, p, unit(p, q))
        if met is not None and -1e-6 <= dot(sub(met, p), unit(p, q)) <= distance(p, q) + 1e-6:
            found.append((dot(sub(met, through), way), met))
    if not found:
        return ()
    first, last = min(found), max(found)
    return (first[1], last[1])


def _single(row: BeamRow, at: float) -> BeamSingle | None:
    """Return what is other about the beam nearest to a place."""
    near = min(row.singles, key=lambda one: abs(one.at - at), default=None)
    return near if near is not None and abs(near.at - at) <= SAME else None


def row_of(project: Project, beam_id: str) -> BeamRow | None:
    """Return the row that a beam belongs to, None for one drawn by itself."""
    row, dot_, number = beam_id.partition(OF)
    return by_id(project.beam_rows).get(row) if dot_ and number.isdigit() else None


def set_single(project: Project, beam_id: str, **fields: Any) -> Project:
    """Set what is other about one beam of a row: ``removed``, ``size``; raises EditError for one that is not there."""
    row = row_of(project, beam_id)
    if row is None:
        raise EditError("it is no beam of a row.", "Beam")
    number = int(beam_id.partition(OF)[2])
    at = next((at for k, at, _, _ in _lines(row, project.grids) if k == number), None)
    if at is None:
        raise EditError("there is no such beam any more.", "Row of beams")
    known = _single(row, at) or BeamSingle(at=round(at, 3))
    made = msgspec.structs.replace(known, **fields)
    rest = tuple(one for one in row.singles if one != known)
    plain = not made.removed and made.size is None
    return change(project, row.id, singles=rest if plain else (*rest, made))


def without_singles(project: Project, beam_ids: Iterable[str]) -> Project:
    """Leave beams out of their rows."""
    for beam_id in beam_ids:
        project = set_single(project, beam_id, removed=True)
    return project


def turned(project: Project, row_id: str) -> Project:
    """Let the beams of a row run the other way over their bay."""
    row = by_id(project.beam_rows)[row_id]
    return change(project, row_id, a=row.a, b=row.d, c=row.c, d=row.b, singles=())


def fill_bay(project: Project, corners: Iterable[Point], top: Hang, floor: str = "", **fields: Any) -> Project:
    """Fill a bay with beams that run its shorter way; its corners are tied to the nearest axes; raises EditError."""
    a, b, c, d = corners
    if distance(a, b) < distance(a, d):
        b, d = d, b
    places: list[Place] = [tied_off(project, p) or FreePoint(x=p[0], y=p[1]) for p in (a, b, c, d)]
    made = BeamRow(
        id=next_id(project, BeamRow), a=places[0], b=places[1], c=places[2], d=places[3], top=top, floor=floor, **fields
    )
    return add_record(project, made)


def bay_around(project: Project, point: Point, level: str) -> tuple[Point, Point, Point, Point]:
    """Return the bay round a place: between the nearest axes, walls and beams on a level, both ways of the grid there.

    Raises EditError where nothing bounds it on a side.
    """
    square = [g for g in project.grids if g.kind == "square" and (not g.levels or level in g.levels)]
    angle = square[0].angle if square else 0.0
    ways = [turn((1.0, 0.0), angle + k * 90.0) for k in range(4)]
    bounds = [math.inf] * 4
    for grid in square:
        x, y = grid_position(grid, point)
        for axes, at, pair in ((grid.x_axes, x, (0, 2)), (grid.y_axes, y, (1, 3))):
            for place in axis_positions(axes):
                side = pair[0] if place >= at else pair[1]
                if grid.angle == angle and abs(place - at) > 1.0:
                    bounds[side] = min(bounds[side], abs(place - at))
    for p, q in _obstacles(project, level):
        for k, way in enumerate(ways):
            met = meet(point, way, p, unit(p, q))
            far = dot(sub(met, point), way) if met is not None else -1.0
            if met is not None and far > 1.0 and 0.0 <= dot(sub(met, p), unit(p, q)) <= distance(p, q):
                bounds[k] = min(bounds[k], far)
    if max(bounds) == math.inf:
        what = "no axis, wall or beam bounds a bay here on each side."
        raise EditError(what, "Row of beams", "Click inside a bay, or one corner and then the one opposite.")
    east, north, west, south = bounds
    (ux, uy), (vx, vy) = ways[0], ways[1]

    def corner(s: float, t: float) -> Point:
        return (point[0] + ux * s + vx * t, point[1] + uy * s + vy * t)

    return corner(-west, -south), corner(east, -south), corner(east, north), corner(-west, north)


def _obstacles(project: Project, level: str) -> list[tuple[Point, Point]]:
    """Return the lines of walls that end or begin about a level, and of beams there."""
    levels, grids = project.levels, project.grids
    at = by_id(levels)[level].height
    found = []
    for wall in project.walls:
        ends = (height(wall.foot, levels), height(wall.head, levels))
        if wall.role != "divides" and min(abs(end - at) for end in ends) < NEAR_LEVEL:
            found.append((locate(wall.start, grids), locate(wall.end, grids)))
    for beam in all_beams(project):
        top = by_id(project.floors)[beam.floor].level if beam.floor in by_id(project.floors) else beam.top.level
        if abs(by_id(levels)[top].height - at) < NEAR_LEVEL:
            found.append((locate(beam.start, grids), locate(beam.end, grids)))
    return [(p, q) for p, q in found if distance(p, q) > 1.0]


def grid_corners(project: Project, p: Point, q: Point) -> tuple[Point, Point, Point, Point]:
    """Return the corners of a rectangle along the first grid, given two opposite ones."""
    grid = next((g for g in project.grids if g.kind == "square"), None)
    if grid is None:
        return p, (q[0], p[1]), q, (p[0], q[1])
    (x0, y0), (x1, y1) = grid_position(grid, p), grid_position(grid, q)
    return p, grid_point(grid, x1, y0), q, grid_point(grid, x0, y1)
