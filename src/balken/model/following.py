"""What lies on a wall or beam goes along when that moves: ends of beams, bays of beams, drawn floors, openings, loads."""

from typing import Any

import msgspec

from balken.geometry.plane import Point, add, distance, dot, left, off_line, sub, unit
from balken.model.kinds.beam import Beam
from balken.model.kinds.beam_row import BeamRow
from balken.model.kinds.floor import Floor
from balken.model.kinds.floor_load import FloorLoad
from balken.model.kinds.floor_opening import FloorOpening
from balken.model.kinds.slab import Hole, Slab
from balken.model.kinds.truss_load import TrussLoad
from balken.model.places import height, locate
from balken.model.records import Project, Record
from balken.model.ties import tie_again

ON = 250.0
"""What lies no farther than this off the line of a wall, or a beam's, is on it, mm."""
STILL = 1e-6
PARALLEL = 0.01
"""Sine of the angle up to which a wall that moves has kept its direction."""
PLACES: dict[type[Record], tuple[str, ...]] = {
    Beam: ("start", "end"),
    BeamRow: ("a", "b", "c", "d"),
    Floor: ("corners",),
    FloorOpening: ("place", "corners"),
    FloorLoad: ("place",),
    TrussLoad: ("place",),
    Slab: ("holes",),
}
"""The fields of places by which things lie on walls and beams."""
NEAR_LEVEL = 900.0
"""What lies no farther than this below or above a wall is at its height, mm."""
Move = tuple[Point, Point, Point, tuple[float, float]]
"""A line as it was, from and to, by how much it has moved aside, and between which heights things go along, mm."""


def followed(before: Project, after: Project) -> Project:
    """Return a project in which what lay on walls and beams that have moved goes along with them, square to their lines.

    A corner on two of them goes along with both.  What has moved itself stays where it was put.
    """
    moves = [*_moves(before, after, "walls"), *_moves(before, after, "beams")]
    if not moves:
        return after
    for kind, fields in PLACES.items():
        collection = {
            Beam: "beams", BeamRow: "beam_rows", Floor: "floors", FloorOpening: "floor_openings", FloorLoad: "floor_loads",
            TrussLoad: "truss_loads",
            Slab: "slabs",
        }[kind]  # fmt: skip
        was = {record.id: record for record in getattr(before, collection)}
        rows = tuple(
            _gone_along(after, record, fields, moves) if was.get(record.id) == record else record
            for record in getattr(after, collection)
        )
        if any(a is not b for a, b in zip(rows, getattr(after, collection), strict=True)):
            after = msgspec.structs.replace(after, **{collection: rows})
    return after


def _moves(before: Project, after: Project, collection: str) -> list[Move]:
    was = {record.id: record for record in getattr(before, collection)}
    found = []
    for record in getattr(after, collection):
        old = was.get(record.id)
        if old is None or (old.start == record.start and old.end == record.end):
            continue
        p, q = (locate(place, before.grids) for place in (old.start, old.end))
        r, s = (locate(place, after.grids) for place in (record.start, record.end))
        if distance(p, q) < 1.0 or distance(r, s) < 1.0:
            continue
        way, now = unit(p, q), unit(r, s)
        if abs(way[0] * now[1] - way[1] * now[0]) > PARALLEL:
            continue
        aside = left(way)
        off = dot(sub(r, p), aside)
        if abs(off) > STILL:
            found.append((p, q, (aside[0] * off, aside[1] * off), _reach(after, record)))
    return found


def _reach(project: Project, record: Any) -> tuple[float, float]:
    """Return between which heights a wall or beam takes things along."""
    if isinstance(record, Beam):
        at = _levels_of(project, record)
        return min(at) - NEAR_LEVEL, max(at) + NEAR_LEVEL
    low, high = height(record.foot, project.levels), height(record.head, project.levels)
    return low - NEAR_LEVEL, high + NEAR_LEVEL


def _levels_of(project: Project, record: Any) -> list[float]:
    """Return the heights of the levels on which something lies."""
    heights = {v.id: v.height for v in project.levels}
    decks = {f.id: heights[f.level] for f in project.floors}
    if isinstance(record, (Floor, Slab)):
        return [heights[record.level]]
    if isinstance(record, FloorOpening):
        return [decks[f] for f in record.floors if f in decks]
    if isinstance(record, TrussLoad):
        return [height(roof.bearing, project.levels) for roof in project.roofs if roof.id == record.roof]
    if record.floor in decks:
        return [decks[record.floor]]
    return [heights[record.top.level]] if isinstance(record, (Beam, BeamRow)) else []


def _gone_along(project: Project, record: Any, fields: tuple[str, ...], moves: list[Move]) -> Any:
    changed: dict[str, Any] = {}
    at = _levels_of(project, record)
    moves = [move for move in moves if any(move[3][0] <= z <= move[3][1] for z in at)]
    for field in fields if moves else ():
        value = getattr(record, field)
        if isinstance(value, tuple):
            places = tuple(_part_moved(project, part, moves) for part in value)
            if any(a is not b for a, b in zip(places, value, strict=True)):
                changed[field] = places
        else:
            place = _moved(project, value, moves)
            if place is not value:
                changed[field] = place
    return msgspec.structs.replace(record, **changed) if changed else record


def _part_moved(project: Project, part: Any, moves: list[Move]) -> Any:
    """Return a place, or a hole with its place, that goes along."""
    if not isinstance(part, Hole):
        return _moved(project, part, moves)
    place = _moved(project, part.place, moves)
    return part if place is part.place else msgspec.structs.replace(part, place=place)


def _moved(project: Project, place: Any, moves: list[Move]) -> Any:
    """Return a place that goes along with the lines it lies on; alike moves of several in line count once."""
    at = locate(place, project.grids)
    by: list[Point] = []
    for p, q, move, _ in moves:
        along, off = off_line(at, p, q)
        if (
            abs(off) <= ON
            and -ON <= along <= distance(p, q) + ON
            and all(abs(dot(move, m)) < 0.5 * distance(move, (0.0, 0.0)) * distance(m, (0.0, 0.0)) for m in by)
        ):
            by.append(move)
    if not by:
        return place
    for move in by:
        at = add(at, move)
    return tie_again(project, place, at)
