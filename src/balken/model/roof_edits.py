"""Edits of roofs of planes: what they do over each of their walls."""

import math
from typing import Any

import msgspec
import shapely

from balken.geometry.plane import Point
from balken.geometry.roof_edges import EdgeKind
from balken.model.edits import add, change
from balken.model.errors import EditError
from balken.model.kinds.choice import Choice
from balken.model.kinds.dormer import Dormer
from balken.model.kinds.roof import Roof, RoofSide
from balken.model.kinds.roof_opening import RoofOpening
from balken.model.lookup import by_id, height, locate, next_id
from balken.model.records import Project, TrussLoad
from balken.model.typed_loads import between
from balken.units import Units

METRIC_DORMER = {
    "width": 2400.0,
    "height": 1500.0,
    "overhang": 200.0,
    "window_width": 1200.0,
    "window_height": 900.0,
    "weight": 0.5,
}
"""A dormer's measures where nobody says, in whole mm."""
NEXT: dict[EdgeKind, EdgeKind] = {"eave": "gable", "gable": "wall", "wall": "roof", "roof": "eave"}
"""What an edge becomes when it is switched."""


def side_of(roof: Roof, wall: str) -> RoofSide:
    """Return what a roof does over a wall."""
    return next((side for side in roof.sides if side.wall == wall), RoofSide(wall=wall))


def set_side(project: Project, roof_id: str, wall: str, **fields: Any) -> Project:
    """Change what a roof of planes does over one of its walls: ``kind``, ``pitch``, ``overhang``, ``raised``; raises EditError."""
    roof = by_id(project.roofs)[roof_id]
    made = msgspec.structs.replace(side_of(roof, wall), **fields)
    others = tuple(side for side in roof.sides if side.wall != wall)
    plain = made == RoofSide(wall=wall)
    return change(project, roof_id, shape="planes", sides=others if plain else (*others, made))


def add_roof_opening(project: Project, roof_id: str, wall: str, along: float, up: float, **fields: Any) -> Project:
    """Leave an opening out of the plane over a wall; raises EditError."""
    made = RoofOpening(
        id=next_id(project, RoofOpening), roof=roof_id, wall=wall, along=along, up=max(up, 0.0), **fields
    )
    return add(project, made)


def add_dormer(project: Project, roof_id: str, wall: str, along: float, front: float, **fields: Any) -> Project:
    """Set a dormer on the plane over a wall, in whole figures of the project's units; raises EditError."""
    if project.units is Units.METRIC:
        fields = METRIC_DORMER | fields
    roof = by_id(project.roofs).get(roof_id)
    if roof is not None:
        wood = Choice(species=roof.rafters.species, grade=roof.rafters.grade)
        fields = {"rafters": wood, "ties": wood} | fields
    number = 1 + max((int(d.id.rpartition("-")[2]) for d in project.dormers), default=0)
    called = "Gablet" if fields.get("shape") == "gablet" else "Dormer"
    made = Dormer(
        id=next_id(project, Dormer), name=f"{called} {number}", roof=roof_id, wall=wall, along=along, front=max(front, 0.0), **fields
    )  # fmt: skip
    return add(project, made)


def hang_weight(project: Project, start: Point, end: Point, **fields: Any) -> Project:
    """Hang a weight between two opposite corners, both in one place for a point, from the trusses over its middle; raises EditError."""
    middle = (start[0] + end[0]) / 2.0, (start[1] + end[1]) / 2.0
    roof = _trussed_over(project, middle)
    if roof is None:
        raise EditError("no roof of trusses is over that place.", "Weight", "Frame the roof there with trusses first.")
    return add(project, TrussLoad(id=next_id(project, TrussLoad), roof=roof, **between(project, start, end), **fields))


def _trussed_over(project: Project, at: Point) -> str | None:
    """Return the roof of trusses whose walls lie about a place, the lowest one."""
    found = []
    for roof in project.roofs:
        if roof.framed == "trusses":
            lines = [(w.id, w.start, w.end) for w in project.walls] + [(b.id, b.start, b.end) for b in project.beams]
            corners = [locate(p, project.grids) for line, *ends in lines if line in roof.walls for p in ends]
            if len(corners) > 2 and shapely.MultiPoint(corners).convex_hull.covers(shapely.Point(at)):
                found.append((height(roof.bearing, project.levels), roof.id))
    return min(found)[1] if found else None


def as_planes(project: Project, roof_id: str, gables: tuple[str, ...], against: tuple[str, ...] = ()) -> Project:
    """Make a gable roof one of planes over the same walls: gables stay such, those against a taller part without overhang."""
    project = change(project, roof_id, shape="planes", sides=())
    for wall in gables:
        project = set_side(project, roof_id, wall, kind="gable", **({"overhang": 0.0} if wall in against else {}))
    return project


def raise_roof(project: Project, roof_id: str, times: float) -> Project:
    """Make every pitch of a roof of planes so many times as steep: its ridges rise alike; raises EditError."""
    if not (math.isfinite(times) and times > 0.0):
        raise EditError("a ridge lies higher than what its roof bears on.", do="Type a height above nothing.")
    roof = by_id(project.roofs)[roof_id]
    if any(side.raised > 0.0 for side in roof.sides):
        raise EditError(
            "some of its eaves are raised: its ridge follows from pitches and those.", roof.name, "Type a pitch."
        )
    sides = tuple(s if s.pitch is None else msgspec.structs.replace(s, pitch=s.pitch * times) for s in roof.sides)
    return change(project, roof_id, pitch=roof.pitch * times, sides=sides)


def next_kind(project: Project, roof_id: str, wall: str) -> EdgeKind:
    """Return what an edge becomes when it is switched: it runs on over another roof only where there is another of planes."""
    found = NEXT[side_of(by_id(project.roofs)[roof_id], wall).kind]
    others = any(other.id != roof_id and other.shape == "planes" for other in project.roofs)
    return NEXT[found] if found == "roof" and not others else found


def switch_side(project: Project, roof_id: str, wall: str) -> Project:
    """Make an eave a gable, a gable an edge that stands against a wall, that one that runs on over the roof there, that an eave again;
    raises EditError.
    """
    return set_side(project, roof_id, wall, kind=next_kind(project, roof_id, wall))
