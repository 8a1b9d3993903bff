"""The catalogue entries that a project uses, carried in its file, so that what was drawn keeps its measures.

A name in a file means what it meant when it was saved.  Where today's catalogue has it with other measures, the file's own
entry is taken under a name that says them (``2x10 of 38 x 235 mm``); an entry that the catalogue does not know is refused,
for no standard has values for it.
"""

import re
from typing import Any

import msgspec

from balken.catalog import own_beams
from balken.catalog.beams import beam_section
from balken.catalog.own_joists import OwnJoist, fault_of, know
from balken.catalog.post_shapes import carry_shape, post_shape
from balken.catalog.sections import carry_section, section
from balken.model.kinds.foundation import NO_SILL
from balken.model.kinds.own_beam import OwnBeam
from balken.model.kinds.own_joist import SCALES

NAMED = ("size", "sill_size", "ridge_size", "header")
"""Fields of records that name an entry."""
SAME = 0.01
"""Measures nearer than this are the same, mm."""


class Entry(msgspec.Struct, frozen=True, forbid_unknown_fields=True, omit_defaults=True):
    """One entry: its name, breadth and depth, and the wall of a pipe or tube, mm."""

    name: str
    breadth: float
    depth: float
    wall: float = 0.0


def entries_of(project: dict[str, Any]) -> list[Entry]:
    """Return the entries that a project, as plain data, names, in the order of their names."""
    return [_entry(name) for name in sorted(_names(project))]


def _names(value: Any) -> set[str]:
    if isinstance(value, dict):
        own = {v for k, v in value.items() if k in NAMED and isinstance(v, str) and v not in ("", NO_SILL)}
        return own.union(*(_names(v) for v in value.values()))
    if isinstance(value, (list, tuple)):
        return set().union(*(_names(v) for v in value))
    return set()


def _entry(name: str) -> Entry:
    try:
        board = section(name)
        return Entry(board.name, board.breadth, board.depth)
    except KeyError:
        pass
    try:
        beam = beam_section(name)
        return Entry(beam.name, beam.breadth, beam.depth)
    except KeyError:
        shape = post_shape(name)
        made = Entry(shape.name, shape.breadth, shape.depth)
        return msgspec.structs.replace(made, wall=shape.wall) if shape.wall else made


def taken_over(project: dict[str, Any], rows: tuple[Entry, ...]) -> dict[str, Any]:
    """Return a project with the names under which the entries of its file are known; raises ValueError."""
    project, other = _own_joists(project)
    project = _own_beams(project, other)
    for row in rows:
        if row.name in other:
            continue
        if not all(1.0 <= v <= 2000.0 for v in (row.breadth, row.depth)) or not 0.0 <= row.wall < row.breadth / 2.0:
            raise ValueError(f"the entry {row.name} of its catalogue measures nothing that can be built with")
        plain = re.sub(r" of [\d.]+ x [\d.]+( x [\d.]+)? mm$", "", row.name)
        try:
            now = _entry(plain)
        except KeyError as error:
            raise ValueError(str(error.args[0])) from None
        known = (now.breadth, now.depth, now.wall), (row.breadth, row.depth, row.wall)
        if max(abs(a - b) for a, b in zip(*known, strict=True)) > SAME:
            other[row.name] = _carry(plain, row)
        elif row.name != plain:
            other[row.name] = plain  # the catalogue has come to measure what the file does
    return _renamed(project, other) if other else project


def _own_joists(project: dict[str, Any]) -> tuple[dict[str, Any], dict[str, str]]:
    """Make the I-joists of a file's own list known; returns the project with the names they have now, and what each was."""
    listed, other = [], dict[str, str]()
    for plain in project.get("own_joists", ()):
        row = OwnJoist(*(plain[field] * SCALES.get(field, 1) for field in OwnJoist._fields))
        if fault := fault_of(row):
            raise ValueError(f"its I-joist {row.name} {fault}")
        name = know(row)
        listed.append({**plain, "name": name})
        if name != row.name:
            other |= {f"{n}{row.name}": f"{n}{name}" for n in ("", "2-", "3-")}
    return ({**project, "own_joists": listed} if listed else project), other


def _own_beams(project: dict[str, Any], other: dict[str, str]) -> dict[str, Any]:
    """Make the beams of a file's own lists known; returns the project with the names they have now, adds to what each was."""
    listed = []
    for plain in project.get("own_beams", ()):
        row = msgspec.convert(plain, OwnBeam).row
        if fault := own_beams.fault_of(row):
            raise ValueError(f"its beam {row.name} {fault}")
        name = own_beams.know(row)
        listed.append({**plain, "name": name})
        if name != row.name:
            other |= {f"{n}{row.name}": f"{n}{name}" for n in ("", "2-", "3-", "4-")}
    return {**project, "own_beams": listed} if listed else project


def _carry(plain: str, row: Entry) -> str:
    try:
        return carry_section(plain, row.breadth, row.depth)
    except KeyError:
        pass
    try:
        return carry_shape(plain, row.breadth, row.depth, row.wall)
    except KeyError:
        raise ValueError(f"the entry {row.name} of its catalogue does not measure what its name says") from None


def _renamed(value: Any, other: dict[str, str]) -> Any:
    if isinstance(value, dict):
        return {
            k: other.get(v, v) if k in NAMED and isinstance(v, str) else _renamed(v, other) for k, v in value.items()
        }
    if isinstance(value, list):
        return [_renamed(v, other) for v in value]
    return value
