"""Columns that stand free."""

from typing import TYPE_CHECKING, Literal

from balken.catalog.post_shapes import KINDS_OF, SIZES_OF, post_shape
from balken.model.base import Hang, Place, Record
from balken.model.errors import EditError
from balken.model.kinds.kind import Kind
from balken.model.rule_parts import (
    graded,
    named,
    placed,
    upright,
)
from balken.units.system import INCH

if TYPE_CHECKING:
    from balken.model.records import Project


ColumnMaterial = Literal["timber", "concrete", "steel"]


class Column(Record, frozen=True, kw_only=True):
    """A column, ``width`` along x of its grid and ``depth`` along y.

    ``size``: its section by name such as 6x6 or Pipe 4, None = Balken chooses, "" = a rectangle of width and depth.
    ``species``, ``grade``: of timber.  ``source``: identifier in the file it was read from.
    """

    id: str
    place: Place
    foot: Hang
    head: Hang
    width: float = 5.5 * INCH
    depth: float = 5.5 * INCH
    material: ColumnMaterial = "timber"
    angle: float = 0.0
    size: str | None = ""
    species: str = "DF-L"
    grade: str = "No. 2"
    source: str = ""
    outdoors: bool = False


def check_column(project: "Project", column: Column) -> None:
    """Raise EditError unless a column stands upright within bounds."""
    where = "Column"
    placed(project, column.place, where)
    upright(project, column.foot, column.head, where)
    if not (50.0 <= column.width <= 3000.0 and 50.0 <= column.depth <= 3000.0):
        raise EditError("its sides must be 2 in to 10 ft (50 to 3000 mm).", where, 'Type a width such as 5 1/2".')
    graded(column.species, column.grade, where)
    if column.size:
        named(post_shape, column.size, where)
        if post_shape(column.size).kind not in KINDS_OF[column.material]:
            sizes = ", ".join(SIZES_OF[column.material]) or "typed by their sides"
            raise EditError(f"{column.size} is no section of {column.material}.", where, f"Those are {sizes}.")


KIND = Kind(Column, "columns", "column", "column", "columns", check_column)
