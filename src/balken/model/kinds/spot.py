"""Spot heights of the ground outside."""

import math
from typing import TYPE_CHECKING

from balken.model.base import Record
from balken.model.errors import EditError
from balken.model.kinds.kind import Kind
from balken.model.rule_parts import (
    FARTHEST,
)

if TYPE_CHECKING:
    from balken.model.records import Project


class SpotHeight(Record, frozen=True, kw_only=True):
    """The height of the ground outside at a place in plan."""

    id: str
    x: float
    y: float
    height: float


def check_spot(project: "Project", spot: SpotHeight) -> None:
    """Raise EditError unless a spot height lies within bounds."""
    if not all(math.isfinite(v) and abs(v) < FARTHEST for v in (spot.x, spot.y, spot.height)):
        raise EditError("it is out of all bounds.", "Spot height", "Type a height within 1 km.")


KIND = Kind(SpotHeight, "spots", "spot", "spot height", "spot heights", check_spot)
