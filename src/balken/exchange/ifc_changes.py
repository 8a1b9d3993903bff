"""Reading an architect's file again: what has changed in it since (``ifc_taking_over.py`` takes that over).

The last reading is kept with the project.  Old and new reading are compared thing by thing (walls,
openings, columns and outlines by their GlobalId, levels, grids and axes by their names), and each change is
applied to what has become of that thing in the project since; all else, the structure above all, stays.  Where GlobalIds are new,
things are recognised by their places first (``ifc_recognising.py``).
"""

from collections.abc import Iterable
from typing import Any, Literal, TypeVar, get_args

import msgspec

from balken.exchange.ifc_recognising import recognised
from balken.geometry.plane import distance
from balken.model.lookup import axis_positions, by_id, height, locate
from balken.model.records import (
    AxisPoint,
    Column,
    Grid,
    Hang,
    Opening,
    Place,
    Reading,
    Record,
    Wall,
)
from balken.units import Units, say_length
from balken.value import Value

Kind = Literal["level", "grid", "wall", "opening", "column", "outline"]
ORDER: tuple[Kind, ...] = get_args(Kind)
"""In which changes are told and taken over: what others hang on comes first."""
Way = Literal["added", "changed", "removed"]
R = TypeVar("R", bound=Record)
SAME = 0.5
"""Lengths that differ by less than this have not changed, mm."""


class Change(Value, frozen=True):
    """One thing that differs between two readings; ``source`` its GlobalId or name."""

    kind: Kind
    way: Way
    source: str
    name: str
    detail: str = ""


def changes(old: Reading, new: Reading, units: Units) -> tuple[Change, ...]:
    """Return what has changed from one reading to the next, levels first."""
    known = recognised(old, new)
    old, found = known.old, [Change("level", "changed", b, b, f"called {a} before") for a, b in known.levels.items()]
    for a, b, level in _pairs({v.name: v for v in old.levels}, {v.name: v for v in new.levels}):
        if a is None or b is None:
            found.append(Change("level", "added" if a is None else "removed", level, level))
        elif abs(a.height - b.height) > SAME:
            found.append(Change("level", "changed", level, level, f"{_up(b.height - a.height, units)}"))
    for c, d, name in _pairs({g.name: g for g in old.grids}, {g.name: g for g in new.grids}):
        if c is None or d is None:
            found.append(Change("grid", "added" if c is None else "removed", name, name))
        elif detail := _grid_detail(c, d, units):
            found.append(Change("grid", "changed", name, name, detail))
    numbers = {w.source: f"Wall {i + 1}" for i, w in enumerate((*old.walls, *new.walls)) if w.source}
    numbers |= {w.source: f"Wall {i + 1}" for i, w in enumerate(new.walls)}
    for a, b, source in _pairs(_sourced(old.walls), _sourced(new.walls)):
        if a is None or b is None:
            found.append(Change("wall", "added" if a is None else "removed", source, numbers[source]))
        elif detail := _wall_detail(a, b, old, new, units):
            found.append(Change("wall", "changed", source, numbers[source], detail))
    for a, b, source in _pairs(_sourced(old.openings), _sourced(new.openings)):
        one = b or a
        assert one is not None
        if a is None or b is None:
            found.append(Change("opening", "added" if a is None else "removed", source, one.kind))
        elif detail := _opening_detail(a, b, units):
            found.append(Change("opening", "changed", source, one.kind, detail))
    for number, (a, b, source) in enumerate(_pairs(_sourced(old.columns), _sourced(new.columns)), 1):
        if a is None or b is None:
            found.append(Change("column", "added" if a is None else "removed", source, f"Column {number}"))
        elif detail := _column_detail(a, b, old, new, units):
            found.append(Change("column", "changed", source, f"Column {number}", detail))
    for a, b, source in _pairs(_sourced(old.references), _sourced(new.references)):
        one = b or a
        assert one is not None
        if a is None or b is None:
            found.append(Change("outline", "added" if a is None else "removed", source, one.name))
        elif msgspec.structs.replace(a, id="") != msgspec.structs.replace(b, id=""):
            found.append(Change("outline", "changed", source, one.name, "its outline or heights"))
    return tuple(found)


def _sourced(records: tuple[Any, ...]) -> dict[str, Any]:
    return {r.source: r for r in records if r.source}


def _pairs(old: dict[str, R], new: dict[str, R]) -> Iterable[tuple[R | None, R | None, str]]:
    for key in dict.fromkeys((*old, *new)):
        yield old.get(key), new.get(key), key


def _up(by: float, units: Units) -> str:
    return f"{say_length(abs(by), units)} {'higher' if by > 0 else 'lower'}"


def _shift(by: float, units: Units) -> str:
    return f"{say_length(abs(by), units)} {'on' if by > 0 else 'back'}"


def _larger(noun: str, by: float, units: Units) -> str:
    if noun == "sill":
        return f"sill {_up(by, units)}"
    if noun == "moved":
        return f"moved {_shift(by, units)}"
    return f"{noun} {say_length(abs(by), units)} {'larger' if by > 0 else 'smaller'}"


def _grid_detail(a: Grid, b: Grid, units: Units) -> str:
    texts = []
    if distance(a.origin, b.origin) > SAME or abs(a.angle - b.angle) > 1e-4 or a.kind != b.kind:
        texts.append("it lies elsewhere")
    for field in ("x_axes", "y_axes"):
        before = dict(zip((x.label for x in getattr(a, field)), axis_positions(getattr(a, field)), strict=True))
        after = dict(zip((x.label for x in getattr(b, field)), axis_positions(getattr(b, field)), strict=True))
        for label in dict.fromkeys((*before, *after)):
            if label not in before:
                texts.append(f"axis {label} is new")
            elif label not in after:
                texts.append(f"axis {label} is gone")
            elif abs(before[label] - after[label]) > SAME:
                texts.append(f"axis {label} {_shift(after[label] - before[label], units)}")
    return ", ".join(texts)


def _hung_detail(a: Wall | Column, b: Wall | Column, old: Reading, new: Reading, units: Units) -> list[str]:
    """Return how foot and head of a thing have moved."""
    texts = []
    for end in ("foot", "head"):
        up = height(getattr(b, end), new.levels) - height(getattr(a, end), old.levels)
        if abs(up) > SAME:
            texts.append(f"its {end} {_up(up, units)}")
        elif left_behind(getattr(a, end), getattr(b, end), old, new):
            texts.append(f"its {end} stays where it was while {by_id(old.levels)[getattr(a, end).level].name} moves")
    return texts


def left_behind(a: Hang, b: Hang, old: Reading, new: Reading) -> bool:
    """Whether a foot or head stays while the level it hung on moves: what hangs on that here would go along."""
    name = by_id(old.levels)[a.level].name
    level = next((v for v in new.levels if v.name == name), None)
    return level is not None and abs(height(b, new.levels) - level.height - a.offset) > SAME


def off_axes(a: Place, b: Place, old: Reading, new: Reading) -> bool:
    """Whether a place stays while an axis moves that it was tied to: what is tied to that here would go along."""
    grid = by_id(new.grids).get(a.grid) if isinstance(a, AxisPoint) else None
    if not isinstance(a, AxisPoint) or grid is None:
        return False
    before, axes = by_id(old.grids)[a.grid], []
    for field, axis in (("x_axes", a.x_axis), ("y_axes", a.y_axis)):
        label = next(x.label for x in getattr(before, field) if x.id == axis)
        axes.append(next((x.id for x in getattr(grid, field) if x.label == label), ""))
    if "" in axes:
        return False
    followed = locate(msgspec.structs.replace(a, grid=grid.id, x_axis=axes[0], y_axis=axes[1]), new.grids)
    return distance(followed, locate(b, new.grids)) > SAME


def _wall_detail(a: Wall, b: Wall, old: Reading, new: Reading, units: Units) -> str:
    texts = []
    for end in ("start", "end"):
        by = distance(locate(getattr(a, end), old.grids), locate(getattr(b, end), new.grids))
        if by > SAME:
            texts.append(f"its {end} by {say_length(by, units)}")
        elif off_axes(getattr(a, end), getattr(b, end), old, new):
            texts.append(f"its {end} stays where it was while its axis moves")
    texts += _hung_detail(a, b, old, new, units)
    if by_id(old.buildups)[a.buildup].layers != by_id(new.buildups)[b.buildup].layers:
        texts.append("its layers")
    texts += [f"its {f.replace('_', ' ')}" for f in ("set_out", "outside", "role") if getattr(a, f) != getattr(b, f)]
    return ", ".join(texts)


def _column_detail(a: Column, b: Column, old: Reading, new: Reading, units: Units) -> str:
    texts = []
    by = distance(locate(a.place, old.grids), locate(b.place, new.grids))
    if by > SAME:
        texts.append(f"moved by {say_length(by, units)}")
    elif off_axes(a.place, b.place, old, new):
        texts.append("it stays where it was while its axis moves")
    texts += _hung_detail(a, b, old, new, units)
    if abs(a.width - b.width) > SAME or abs(a.depth - b.depth) > SAME:
        texts.append("its section")
    if abs((a.angle - b.angle + 180.0) % 360.0 - 180.0) > 0.01:
        texts.append("turned")
    if a.material != b.material:
        texts.append(f"now of {b.material}")
    return ", ".join(texts)


def _opening_detail(a: Opening, b: Opening, units: Units) -> str:
    texts = []
    for field, noun in (("offset", "moved"), ("width", "width"), ("height", "height"), ("sill", "sill")):
        by = getattr(b, field) - getattr(a, field)
        if abs(by) > SAME:
            texts.append(_larger(noun, by, units))
    if a.kind != b.kind:
        texts.append(f"now a {b.kind}")
    return ", ".join(texts)
