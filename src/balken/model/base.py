"""What all authored records are made of: the base of records, heights, places, and what they refer to."""

from typing import Annotated, Literal

import msgspec

from balken.value import Value


class Record(msgspec.Struct, frozen=True, kw_only=True, forbid_unknown_fields=True):
    """Base of all authored records: immutable, compared by value."""


Gone = Literal["with", "drop", "clear", "keep"]


class To(Value, frozen=True):
    """Marks a field that holds the id of another record: of which collections, and what happens when that one goes.

    ``gone``: "with": the record (or the part of it that refers) goes along; "drop": the id leaves its row; "clear": the
    field is emptied; "keep": it stays, and what refers says so.  ``hangs``: whether it hangs there in height.
    """

    collections: tuple[str, ...]
    gone: Gone
    hangs: bool = False


LevelId = Annotated[str, To(("levels",), "keep", hangs=True)]
"""A level on which something lies: what lies there is moved to another before the level goes."""
WallIds = tuple[Annotated[str, To(("walls",), "drop")], ...]


class Hang(Record, frozen=True, kw_only=True):
    """A height: a level and an offset above it."""

    level: LevelId
    offset: float = 0.0


class FreePoint(Record, frozen=True, kw_only=True, tag="free"):
    """A place in plan by coordinates."""

    x: float
    y: float


class AxisPoint(Record, frozen=True, kw_only=True, tag="axes"):
    """A place tied to the crossing of two axes; it follows when they move."""

    grid: Annotated[str, To(("grids",), "keep")]
    x_axis: str
    y_axis: str
    dx: float = 0.0
    dy: float = 0.0


Place = FreePoint | AxisPoint
