"""Edits of roofs of planes: what they do over each of their walls."""

from typing import Any

import msgspec

from balken.geometry.roof_surface import EdgeKind
from balken.model.edits import change
from balken.model.kinds.roof import Roof, RoofSide
from balken.model.lookup import by_id
from balken.model.records import Project

NEXT: dict[EdgeKind, EdgeKind] = {"eave": "gable", "gable": "wall", "wall": "eave"}
"""What an edge becomes when it is switched."""


def side_of(roof: Roof, wall: str) -> RoofSide:
    """Return what a roof does over a wall."""
    return next((side for side in roof.sides if side.wall == wall), RoofSide(wall=wall))


def set_side(project: Project, roof_id: str, wall: str, **fields: Any) -> Project:
    """Change what a roof of planes does over one of its walls: ``kind``, ``pitch``, ``overhang``; raises EditError."""
    roof = by_id(project.roofs)[roof_id]
    made = msgspec.structs.replace(side_of(roof, wall), **fields)
    others = tuple(side for side in roof.sides if side.wall != wall)
    plain = made == RoofSide(wall=wall)
    return change(project, roof_id, shape="planes", sides=others if plain else (*others, made))


def switch_side(project: Project, roof_id: str, wall: str) -> Project:
    """Make an eave a gable, a gable an edge that stands against a wall, that an eave again; raises EditError."""
    return set_side(project, roof_id, wall, kind=NEXT[side_of(by_id(project.roofs)[roof_id], wall).kind])
