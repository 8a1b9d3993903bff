"""Rows of beams: a bay filled with parallel beams by a spacing or a number; they follow when its corners move."""

import math
from typing import TYPE_CHECKING, Annotated, Literal

from balken.catalog.beams import beam_section
from balken.geometry.plane import Point, area, distance
from balken.model.base import Hang, Place, Record, To
from balken.model.errors import EditError
from balken.model.kinds.beam import WORDS, BeamWord
from balken.model.kinds.choice import Start
from balken.model.kinds.kind import Kind
from balken.model.rule_parts import graded, hung, named, placed

if TYPE_CHECKING:
    from balken.model.records import Project

MOST = 200
SMALLEST = 300.0
By = Literal["spacing", "spacing at most", "number"]


class BeamSingle(Record, frozen=True, kw_only=True):
    """What is other about one beam of a row: ``at`` mm from the row's first side; left out, or its own section."""

    at: float
    removed: bool = False
    size: str | None = None


class BeamRow(Record, frozen=True, kw_only=True):
    """Parallel beams over a bay with four corners in order; they run from the side a-b to the side d-c, along a-d.

    ``angle``: they run so instead, degrees from x.  ``by``: how many there are: a ``spacing``, one that is no greater, or a
    ``number``; ``begin``: from where a fixed spacing is set out.  ``floor``, ``flush``, ``top``, ``made_of``, ``size``,
    ``species``, ``grade``: as of a beam, for all of them but ``singles``.
    """

    id: str
    a: Place
    b: Place
    c: Place
    d: Place
    top: Hang
    floor: Annotated[str, To(("floors",), "clear")] = ""
    flush: bool = False
    by: By = "spacing at most"
    spacing: float = 1828.8
    number: int = 3
    begin: Start = "one side"
    angle: float | None = None
    made_of: BeamWord = "sawn"
    size: str | None = None
    species: str = "DF-L"
    grade: str = "No. 2"
    outdoors: bool = False
    singles: tuple[BeamSingle, ...] = ()


def check_row(project: "Project", row: BeamRow) -> None:
    """Raise EditError unless a row fills a bay that is one, with beams there are."""
    where = "Row of beams"
    corners: list[Point] = [placed(project, place, where) for place in (row.a, row.b, row.c, row.d)]
    if min(distance(p, q) for p, q in zip(corners, corners[1:] + corners[:1], strict=True)) < SMALLEST:
        raise EditError("its bay must be at least 1 ft (300 mm) long and wide.", where, "Choose other corners.")
    if abs(area(tuple(corners))) < SMALLEST**2:
        raise EditError("its bay crosses itself.", where, "Choose its corners one after the other round it.")
    hung(project, row.top, where)
    if not 50.0 <= row.spacing <= 30_000.0:
        raise EditError("the spacing must be 2 in to 100 ft (50 mm to 30 m).", where)
    if not 1 <= row.number <= MOST:
        raise EditError(f"1 to {MOST} beams.", where, "Type another number.")
    if row.angle is not None and not math.isfinite(row.angle):
        raise EditError("its angle is no number.", where)
    if row.floor and all(f.id != row.floor for f in project.floors):
        raise EditError("the floor it carries is not there.", where)
    if row.flush and not row.floor:
        raise EditError("joists hang on it, but it carries no floor.", where, "Choose its floor first.")
    if row.outdoors and row.made_of == "LVL":
        raise EditError("veneer lumber does not stand outdoors.", where, "Choose sawn lumber, glued timber or steel.")
    graded(row.species, row.grade, where)
    for size in (row.size, *(single.size for single in row.singles)):
        if size is not None:
            named(beam_section, size, where)
    if row.size is not None and WORDS.get(beam_section(row.size).kind) != row.made_of:
        raise EditError(f"{row.size} is no beam of that kind ({row.made_of}).", where, "Choose its kind first.")


KIND = Kind(BeamRow, "beam_rows", "beams", "row of beams", "rows of beams", check_row)
