"""Drawings laid under the plan."""

import math
from typing import TYPE_CHECKING

from balken.model.base import Hang, LevelId, Record
from balken.model.errors import EditError
from balken.model.kinds.kind import Kind
from balken.model.rule_parts import (
    hung,
)

if TYPE_CHECKING:
    from balken.model.records import Project


class BaseDrawing(Record, frozen=True, kw_only=True):
    """A DXF drawing shown under the plan of one level.

    A drawing point p lies at ``origin`` + ``scale`` * p turned by ``angle`` degrees.
    """

    id: str
    name: str
    path: str
    level: LevelId
    scale: float = 1.0
    origin: tuple[float, float] = (0.0, 0.0)
    angle: float = 0.0
    layers_off: tuple[str, ...] = ()


def check_base_drawing(project: "Project", drawing: BaseDrawing) -> None:
    """Raise EditError unless a base drawing has a level and a scale."""
    where = f"Base drawing '{drawing.name}'"
    hung(project, Hang(level=drawing.level), where)
    if not (math.isfinite(drawing.scale) and 1e-6 < drawing.scale < 1e6):
        raise EditError("its scale must be more than zero.", where, "Set it by two points a known length apart.")


KIND = Kind(BaseDrawing, "base_drawings", "base-drawing", "base drawing", "base drawings", check_base_drawing)
