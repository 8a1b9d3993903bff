"""Figures of authored records as they are written: lengths to a millionth of a mm, no odd tails, no infinities.

So a project is the same before it is saved and after it is opened again.
"""

import math
from typing import Any

import msgspec

from balken.model.errors import EditError
from balken.model.records import Project, Record

LARGEST = 1e9
"""No figure of a building is larger: a thousand kilometres in mm, N."""
NO_FIGURES = frozenset({str, int, bool, type(None)})
"""What fields hold that is never untidy."""
MOST_KNOWN = 500_000
"""So many records are remembered: more than a large project has, else each edit would look at all of them again."""
_known: dict[int, tuple[Record, Record]] = {}
"""Records looked at before, by identity; they are held, so that no other can come to have theirs."""


def tidied(project: Project) -> Project:
    """Return the project with tidy figures, itself where they are."""
    changed: dict[str, Any] = {}
    for field in Project.__struct_fields__:
        value = getattr(project, field)
        tidy = _tidy(value)
        if tidy is not value:
            changed[field] = tidy
    return msgspec.structs.replace(project, **changed) if changed else project


def check_figures(project: Project, *fields: str) -> None:
    """Raise EditError for a figure that is no number, or larger than anything in a building; ``fields``: looked at, none: all."""
    for field in fields or Project.__struct_fields__:
        _check(getattr(project, field), field)


_sound: dict[int, Record] = {}
"""Records whose figures are sound, by identity."""


def _check(value: Any, name: str) -> None:
    if isinstance(value, float):
        if not (math.isfinite(value) and abs(value) <= LARGEST):
            raise EditError(
                f"'{name.replace('_', ' ')}' is no number that a building can have.", do="Type another value."
            )
    elif isinstance(value, tuple):
        for item in value:
            _check(item, name)
    elif isinstance(value, Record) and id(value) not in _sound:
        for field in value.__struct_fields__:
            one = getattr(value, field)
            if type(one) not in NO_FIGURES:
                _check(one, field)
        if len(_sound) > MOST_KNOWN:
            _sound.clear()
        _sound[id(value)] = value


def tidy_figure(value: float) -> float:
    """Return a figure to a millionth; below one to twelve digits."""
    return round(value, 6) if abs(value) >= 1.0 else float(f"{value:.12g}")


def _tidy(value: Any) -> Any:
    kind = type(value)
    if kind is float:
        if not math.isfinite(value):
            return value
        figure = tidy_figure(value)
        return value if figure == value else figure
    if kind is tuple:
        items = [_tidy(item) for item in value]
        same = all(a is b for a, b in zip(items, value, strict=True))
        return value if same else tuple(items)
    if isinstance(value, Record):
        return _of_record(value)
    return value


def _of_record(record: Record) -> Record:
    known = _known.get(id(record))
    if known is not None:
        return known[1]
    changed: dict[str, Any] = {}
    for field in record.__struct_fields__:
        value = getattr(record, field)
        if type(value) in NO_FIGURES:
            continue
        tidy = _tidy(value)
        if tidy is not value:
            changed[field] = tidy
    made: Record = msgspec.structs.replace(record, **changed) if changed else record
    if len(_known) > MOST_KNOWN:
        _known.clear()
    _known[id(record)] = (record, made)
    _known[id(made)] = (made, made)
    return made
