"""Levels: heights on which things hang."""

import math
from typing import TYPE_CHECKING, Literal

from balken.model.base import Record
from balken.model.errors import EditError
from balken.model.kinds.kind import Kind

if TYPE_CHECKING:
    from balken.model.records import Project


LevelRole = Literal["top of footing", "top of foundation", "ground", "slab", "floor", "plate", "ridge", "other"]


class Level(Record, frozen=True, kw_only=True):
    """A named height on which vertical extents hang.

    ``removed``: taken away while things still hang on it; it holds their height until they hang elsewhere.
    """

    id: str
    name: str
    role: LevelRole = "other"
    height: float = 0.0
    removed: bool = False


def check_levels(project: "Project") -> None:
    """Raise EditError unless levels have names of their own and lie within bounds."""
    names: set[str] = set()
    for level in project.levels:
        if not level.name.strip():
            raise EditError("A level needs a name.", do="Type one, such as Floor 1.")
        if level.name.strip().lower() in names and not level.removed:
            raise EditError(f"There is already a level named '{level.name}'.", do="Type another name.")
        names.update(() if level.removed else (level.name.strip().lower(),))
        if not math.isfinite(level.height) or abs(level.height) > 1e6:
            raise EditError("its height is out of all bounds.", f"Level '{level.name}'", "Type a height within 1 km.")


KIND = Kind(Level, "levels", "level", "level", "levels", rules=(check_levels,))
