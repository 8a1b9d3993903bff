"""Edits of beams and of openings in floors: drawn from place to place, given a section, a pocket in a foundation wall for an end."""

from typing import Any

from balken.geometry.plane import Point
from balken.model.edits import add, change
from balken.model.errors import EditError
from balken.model.following import followed
from balken.model.kinds.beam import Beam
from balken.model.kinds.floor_opening import FloorOpening
from balken.model.lookup import next_id
from balken.model.records import Hang, Project, Recess
from balken.model.rules import check
from balken.model.ties import tie


def add_beam(project: Project, start: Point, end: Point, top: Hang, floor: str = "", **fields: Any) -> Project:
    """Draw a beam; ends at a crossing of axes are tied to it.  ``floor``: whose joists it carries, "" for none."""
    made = Beam(
        id=next_id(project, Beam), start=tie(project, start), end=tie(project, end), top=top, floor=floor, **fields
    )
    return add(project, made)


def place_beam(project: Project, beam_id: str, start: Point, end: Point) -> Project:
    """Move the ends of a beam; an end at a crossing of axes is tied to it."""
    return check(followed(project, change(project, beam_id, start=tie(project, start), end=tie(project, end))))


def floor_at(project: Project, level: str) -> str:
    """Return the id of the floor whose deck lies on a level, "" where there is none."""
    return next((floor.id for floor in project.floors if floor.level == level), "")


def add_floor_opening(project: Project, floor: str, start: Point, end: Point, **fields: Any) -> Project:
    """Leave a rectangle out of a floor, given by two opposite corners; raises EditError where there is no floor."""
    if not floor:
        raise EditError("there is no floor on this storey.", "Opening in a floor", "Lay the floor first.")
    low = (min(start[0], end[0]), min(start[1], end[1]))
    made = FloorOpening(
        id=next_id(project, FloorOpening), floors=(floor,), place=tie(project, low),
        width=abs(end[0] - start[0]), depth=abs(end[1] - start[1]), **fields,
    )  # fmt: skip
    return add(project, made)


def add_pocket(
    project: Project, foundation: str, wall: str, offset: float, width: float, height: float, top: float, depth: float
) -> Project:
    """Leave a pocket in a foundation wall for the end of a beam, mm."""
    pocket = Recess(
        id=next_id(project, Recess), foundation=foundation, wall=wall, offset=offset, width=width, height=height,
        top=top, depth=depth,
    )  # fmt: skip
    return add(project, pocket)
