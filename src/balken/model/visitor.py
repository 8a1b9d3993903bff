"""One visitor over what records refer to: other records by id, levels they hang on, axes they are tied to.

Which fields refer is read from the types of the records (``To``, ``Hang``, ``Place``), so that no list of them is kept
by hand: what is removed, what hangs on a level, what moves with axes, what is copied all go through here.
"""

import types
import typing
from collections.abc import Callable, Iterator
from functools import cache
from typing import TYPE_CHECKING, Any, TypeVar, cast

import msgspec

from balken.model.base import AxisPoint, FreePoint, Hang, Place, Record, To
from balken.model.kinds import KINDS
from balken.value import Value

if TYPE_CHECKING:
    from balken.model.records import Project

R = TypeVar("R", bound=Record)
Sort = typing.Literal["id", "hang", "place", "records"]


class Field(Value, frozen=True):
    """A field that refers: an id (``to`` says whither), a height, a place, or records that refer themselves.

    ``row``: it holds a row of those.
    """

    name: str
    sort: Sort
    row: bool
    to: To | None = None


@cache
def fields_of(kind: type[Record]) -> tuple[Field, ...]:
    """Return the fields of a kind of record that refer to something."""
    hints = typing.get_type_hints(kind, include_extras=True)
    found = [_field(name, hints[name], row=False) for name in kind.__struct_fields__]
    return tuple(field for field in found if field is not None)


def _field(name: str, hint: Any, row: bool) -> Field | None:
    origin, args = typing.get_origin(hint), typing.get_args(hint)
    if origin is typing.Annotated:
        to = next((extra for extra in args[1:] if isinstance(extra, To)), None)
        return Field(name, "id", row, to) if to is not None else _field(name, args[0], row)
    if origin is tuple and len(args) == 2 and args[1] is Ellipsis:
        return _field(name, args[0], row=True)
    if origin in (typing.Union, types.UnionType):
        if set(args) == {FreePoint, AxisPoint}:
            return Field(name, "place", row)
        left = [a for a in args if a is not type(None)]
        return _field(name, left[0], row) if len(left) == 1 else None
    if hint is Hang:
        return Field(name, "hang", row)
    if isinstance(hint, type) and issubclass(hint, Record) and hint not in (FreePoint, AxisPoint) and fields_of(hint):
        return Field(name, "records", row)
    return None


class Reference(Value, frozen=True):
    """What a record refers to: an id, in which of these collections, and how."""

    id: str
    to: To


_LEVEL = To(("levels",), "keep", hangs=True)
_GRID = To(("grids",), "keep")


def references(record: Record) -> Iterator[Reference]:
    """Give everything a record and its parts refer to; empty ids refer to nothing."""
    for field in fields_of(type(record)):
        value = getattr(record, field.name)
        for item in value if field.row else (value,):
            if item is None or item == "":
                continue
            if field.sort == "id":
                yield Reference(item, cast(To, field.to))
            elif field.sort == "hang":
                yield Reference(item.level, _LEVEL)
            elif field.sort == "records":
                yield from references(item)
            elif isinstance(item, AxisPoint):
                yield Reference(item.grid, _GRID)


class _Drop:
    """What takes a part of a record away."""


DROP = _Drop()


def changed(
    record: R,
    ids: Callable[[str, To], Any] | None = None,
    hangs: Callable[[Hang], Hang] | None = None,
    places: Callable[[Place], Place] | None = None,
) -> R | _Drop:
    """Return a record with what it refers to changed; the same object where nothing is.

    ``ids`` returns another id, "" to clear, or ``DROP``: then the id leaves its row, or what refers goes with it (a part
    leaves its record; a record is given back as ``DROP``).
    """
    fields: dict[str, Any] = {}
    for field in fields_of(type(record)):
        value = getattr(record, field.name)
        if value is None:
            continue
        items = value if field.row else (value,)
        new = [_item(field, item, ids, hangs, places) for item in items]
        if all(a is b for a, b in zip(items, new, strict=True)):
            continue
        kept = tuple(item for item in new if item is not DROP)
        if not field.row and not kept:
            return DROP
        fields[field.name] = kept if field.row else kept[0]
    return msgspec.structs.replace(record, **fields) if fields else record


def _item(field: Field, item: Any, ids: Any, hangs: Any, places: Any) -> Any:
    if field.sort == "records":
        return changed(item, ids, hangs, places)
    if field.sort == "hang":
        return hangs(item) if hangs is not None else item
    if field.sort == "place":
        return places(item) if places is not None else item
    return ids(item, field.to) if ids is not None and item else item


def every(project: "Project") -> Iterator[Record]:
    """Give every record of a project, kind by kind."""
    for kind in KINDS:
        yield from getattr(project, kind.collection)


def mapped(project: "Project", change: Callable[[Record], Any], *collections: str) -> "Project":
    """Return a project with every record (of these collections, else of all) changed; ``DROP`` takes one away."""
    fields: dict[str, Any] = {}
    for kind in KINDS:
        if collections and kind.collection not in collections:
            continue
        records = getattr(project, kind.collection)
        new = tuple([made for record in records if (made := change(record)) is not DROP])
        if len(new) != len(records) or any(a is not b for a, b in zip(records, new, strict=True)):
            fields[kind.collection] = new
    return msgspec.structs.replace(project, **fields) if fields else project


def hanging(project: "Project", level_id: str) -> tuple[Record, ...]:
    """Return what hangs on a level, in the order of the kinds."""
    return tuple(
        record
        for record in every(project)
        if any(ref.id == level_id and "levels" in ref.to.collections and ref.to.hangs for ref in references(record))
    )


def referring(project: "Project", record_id: str) -> tuple[Record, ...]:
    """Return the records that refer to one by its id."""
    return tuple(record for record in every(project) if any(ref.id == record_id for ref in references(record)))


def moved_places(project: "Project", move: Callable[[Place], Place]) -> "Project":
    """Return a project with the place of everything that has one moved."""
    return mapped(project, lambda record: changed(record, places=move))


def without(project: "Project", record_id: str, collection: str) -> "Project":
    """Return a project without a record, and without what cannot be without it; others let go of it.

    Ids that are to be kept ("keep") stay as they are.
    """

    def gone(item: str, to: To) -> Any:
        if item != record_id or collection not in to.collections or to.gone == "keep":
            return item
        return "" if to.gone == "clear" else DROP

    def left(record: Record) -> Any:
        if getattr(record, "id", None) == record_id:
            return DROP
        return changed(record, ids=gone)

    return mapped(project, left)
