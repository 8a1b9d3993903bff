"""Hangers of a list that the user read in: they take the place of those that ship with Balken."""

import math
from typing import TYPE_CHECKING

from balken.catalog.hangers import MOST_TURNED
from balken.model.base import Record
from balken.model.errors import EditError
from balken.model.kinds.kind import Kind

if TYPE_CHECKING:
    from balken.model.records import Project


class Hanger(Record, frozen=True, kw_only=True):
    """A hanger: for joists so wide, at least and at most so deep, on a seat so long, mm; what it carries at normal load
    duration and holds down, N; its price, dollars; by how much what hangs in it may be turned from square, degrees.
    """

    id: str
    name: str
    width: float
    least_depth: float
    most_depth: float
    seat: float
    down: float
    up: float = 0.0
    price: float = 0.0
    turned_from: float = 0.0
    turned_to: float = 0.0


def check_hanger(project: "Project", hanger: Hanger) -> None:
    """Raise EditError unless a hanger measures and carries something."""
    figures = (hanger.width, hanger.least_depth, hanger.most_depth, hanger.seat, hanger.down, hanger.up, hanger.price)
    if not hanger.name or not all(math.isfinite(v) and 0.0 <= v < 1e7 for v in figures) or min(figures[:5]) <= 0.0:
        raise EditError("it needs a name, and width, depths, seat and strength above zero.", f"Hanger {hanger.name}")
    if hanger.least_depth > hanger.most_depth:
        raise EditError("its least depth is more than its greatest.", f"Hanger {hanger.name}")
    if not 0.0 <= hanger.turned_from <= hanger.turned_to <= MOST_TURNED:
        raise EditError(f"it is turned by 0 to {MOST_TURNED:g} degrees.", f"Hanger {hanger.name}")


KIND = Kind(Hanger, "hangers", "hanger", "hanger", "hangers", check_hanger)
