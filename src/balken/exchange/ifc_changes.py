"""Reading an architect's file again: what has changed in it since, and taking that over.

The last reading is kept with the project.  Old and new reading are compared thing by thing (walls,
openings, columns and outlines by their GlobalId, levels, grids and axes by their names), and each change is
applied to what has become of that thing in the project since; all else, the structure above all, stays.
"""

from collections.abc import Iterable
from dataclasses import dataclass
from typing import Any, Literal, TypeVar, get_args

import msgspec

from balken.geometry.plane import distance
from balken.model.edits import remove
from balken.model.errors import EditError
from balken.model.lookup import axis_positions, by_id, height, locate, next_id
from balken.model.records import (
    AxisPoint,
    BuildUp,
    Column,
    FreePoint,
    Grid,
    Hang,
    Level,
    Opening,
    Place,
    Project,
    Reading,
    Record,
    Reference,
    Wall,
)
from balken.model.rules import check
from balken.model.ties import tie, tie_again
from balken.units import Units, format_length

Kind = Literal["level", "grid", "wall", "opening", "column", "outline"]
ORDER: tuple[Kind, ...] = get_args(Kind)
"""In which changes are told and taken over: what others hang on comes first."""
Way = Literal["added", "changed", "removed"]
R = TypeVar("R", bound=Record)
SAME = 0.5
"""Lengths that differ by less than this have not changed, mm."""


@dataclass(frozen=True, slots=True)
class Change:
    """One thing that differs between two readings; ``source`` its GlobalId or name."""

    kind: Kind
    way: Way
    source: str
    name: str
    detail: str = ""


def changes(old: Reading, new: Reading, units: Units) -> tuple[Change, ...]:
    """Return what has changed from one reading to the next, levels first."""
    found: list[Change] = []
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
    return f"{format_length(abs(by), units)} {'higher' if by > 0 else 'lower'}"


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
                texts.append(f"axis {label} by {format_length(after[label] - before[label], units)}")
    return ", ".join(texts)


def _hung_detail(a: Wall | Column, b: Wall | Column, old: Reading, new: Reading, units: Units) -> list[str]:
    """Return how foot and head of a thing have moved."""
    ups = {end: height(getattr(b, end), new.levels) - height(getattr(a, end), old.levels) for end in ("foot", "head")}
    return [f"its {end} {_up(up, units)}" for end, up in ups.items() if abs(up) > SAME]


def _wall_detail(a: Wall, b: Wall, old: Reading, new: Reading, units: Units) -> str:
    texts = []
    for end in ("start", "end"):
        by = distance(locate(getattr(a, end), old.grids), locate(getattr(b, end), new.grids))
        if by > SAME:
            texts.append(f"its {end} by {format_length(by, units)}")
    texts += _hung_detail(a, b, old, new, units)
    if by_id(old.buildups)[a.buildup].layers != by_id(new.buildups)[b.buildup].layers:
        texts.append("its layers")
    texts += [f"its {f.replace('_', ' ')}" for f in ("set_out", "outside", "role") if getattr(a, f) != getattr(b, f)]
    return ", ".join(texts)


def _column_detail(a: Column, b: Column, old: Reading, new: Reading, units: Units) -> str:
    texts = []
    by = distance(locate(a.place, old.grids), locate(b.place, new.grids))
    if by > SAME:
        texts.append(f"moved by {format_length(by, units)}")
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
            texts.append(f"{noun} by {format_length(by, units)}")
    if a.kind != b.kind:
        texts.append(f"now a {b.kind}")
    return ", ".join(texts)


def apply_changes(project: Project, new: Reading, chosen: Iterable[Change]) -> Project:
    """Take over the changes chosen and remember the new reading; raises EditError and changes nothing.

    A change whose thing is gone from the project is passed over.  What was not chosen is told again when
    the file is read the next time.
    """
    if project.reading is None:
        raise EditError("this project was not read from an architect's file.")
    old = project.reading
    wanted = list(chosen)
    picked = {(c.kind, c.source) for c in wanted}
    for change in sorted(wanted, key=lambda c: ORDER.index(c.kind)):
        if change.kind == "level":
            project = _level(project, new, change)
        elif change.kind == "grid":
            project = _grid(project, old, new, change)
        elif change.kind == "wall":
            project = _wall(project, old, new, change)
        elif change.kind == "opening":
            project = _opening(project, new, change, old)
        elif change.kind == "column":
            project = _column(project, old, new, change)
        else:
            project = _outline(project, new, change)
    return check(msgspec.structs.replace(project, reading=_remembered(old, new, picked, project.units)))


def _remembered(old: Reading, new: Reading, picked: set[tuple[Kind, str]], units: Units) -> Reading:
    """Return the new reading, with what was not taken over as it was before, so that it is told again."""
    left = [c for c in changes(old, new, units) if (c.kind, c.source) not in picked]
    if any(c.kind in ("level", "grid") for c in left):
        return old  # walls of the new reading would hang on what is not there
    walls, openings = list(new.walls), list(new.openings)
    columns, references = list(new.columns), list(new.references)
    buildups = {b.id: b for b in old.buildups} | {b.id: b for b in new.buildups}
    if any(b != buildups[b.id] for b in old.buildups):
        return old
    for kind, now, before in (
        ("wall", walls, old.walls),
        ("opening", openings, old.openings),
        ("column", columns, old.columns),
        ("outline", references, old.references),
    ):
        passed = {c.source for c in left if c.kind == kind}
        now[:] = [r for r in now if r.source not in passed] + [r for r in before if r.source in passed]  # type: ignore[assignment]
    return msgspec.structs.replace(
        new,
        buildups=tuple(buildups.values()),
        walls=tuple(walls),
        openings=tuple(openings),
        columns=tuple(columns),
        references=tuple(references),
    )


def _put(project: Project, field: str, ours: Record | None, made: Record) -> Project:
    """Return the project with a record in place of ours, or added to those of its field."""
    rows = getattr(project, field)
    changed = (*rows, made) if ours is None else tuple(made if row is ours else row for row in rows)
    return msgspec.structs.replace(project, **{field: changed})


def _level(project: Project, new: Reading, change: Change) -> Project:
    ours = next((v for v in project.levels if v.name == change.source), None)
    theirs = next((v for v in new.levels if v.name == change.source), None)
    if change.way == "removed":
        return remove(project, ours.id) if ours is not None else project
    assert theirs is not None
    if ours is None:
        made = msgspec.structs.replace(theirs, id=next_id(project, Level))
        return _put(project, "levels", None, made)
    moved = msgspec.structs.replace(ours, height=theirs.height)
    return _put(project, "levels", ours, moved)


def _grid(project: Project, old: Reading, new: Reading, change: Change) -> Project:
    ours = next((g for g in project.grids if g.name == change.source), None)
    theirs = next((g for g in new.grids if g.name == change.source), None)
    if change.way == "removed":
        return remove(project, ours.id) if ours is not None else project
    assert theirs is not None
    if ours is None:
        made = msgspec.structs.replace(theirs, id=next_id(project, Grid))
        return msgspec.structs.replace(project, grids=(*project.grids, made))
    axes: dict[str, Any] = {}
    for field in ("x_axes", "y_axes"):
        known = {axis.label: axis.id for axis in getattr(ours, field)}
        taken, made_axes = set(known.values()), []
        for axis in getattr(theirs, field):
            axis_id = known.get(axis.label)
            if axis_id is None:
                axis_id = next(f"{field[0]}{i}" for i in range(1, 10_000) if f"{field[0]}{i}" not in taken)
                taken.add(axis_id)
            made_axes.append(msgspec.structs.replace(axis, id=axis_id))
        axes[field] = tuple(made_axes)
    moved = msgspec.structs.replace(ours, origin=theirs.origin, angle=theirs.angle, kind=theirs.kind, **axes)
    there = {f: {axis.id for axis in axes[f]} for f in axes}

    def placed(place: Place) -> Place:
        if not isinstance(place, AxisPoint) or place.grid != ours.id:
            return place
        if place.x_axis in there["x_axes"] and place.y_axis in there["y_axes"]:
            return place
        x, y = locate(place, project.grids)
        return FreePoint(x=x, y=y)

    replace = msgspec.structs.replace
    return replace(
        project,
        grids=tuple(moved if g is ours else g for g in project.grids),
        walls=tuple(replace(w, start=placed(w.start), end=placed(w.end)) for w in project.walls),
        columns=tuple(replace(c, place=placed(c.place)) for c in project.columns),
        pads=tuple(replace(v, place=placed(v.place)) for v in project.pads),
    )


def _wall(project: Project, old: Reading, new: Reading, change: Change) -> Project:
    ours = next((w for w in project.walls if w.source == change.source), None)
    if change.way == "removed":
        return remove(project, ours.id) if ours is not None else project
    theirs = next(w for w in new.walls if w.source == change.source)
    if change.way == "changed" and ours is None:
        return project
    before = next((w for w in old.walls if w.source == change.source), None)
    project, buildup = _with_buildup(project, by_id(new.buildups)[theirs.buildup])
    fields = _moved(project, (old, new), (before, theirs), ours, ("start", "end"))
    if before is None or by_id(old.buildups)[before.buildup].layers != by_id(new.buildups)[theirs.buildup].layers:
        fields["buildup"] = buildup
    for field in ("set_out", "outside", "role"):
        if before is None or getattr(before, field) != getattr(theirs, field):
            fields[field] = getattr(theirs, field)
    if ours is None:
        made = msgspec.structs.replace(theirs, id=next_id(project, Wall), **fields)
        return _put(project, "walls", None, made)
    moved = msgspec.structs.replace(ours, **fields)
    return _put(project, "walls", ours, moved)


def _moved(
    project: Project,
    readings: tuple[Reading, Reading],
    versions: tuple[R | None, R],
    ours: R | None,
    places: tuple[str, ...],
) -> dict[str, Any]:
    """Return the places, foot and head of a thing that its file changed, as the project holds them.

    ``readings`` and ``versions`` of the thing: the last one and the new one; ``ours``: what has become of it here.
    """
    (old, new), (before, theirs) = readings, versions
    fields: dict[str, Any] = {}
    for field in places:
        at = locate(getattr(theirs, field), new.grids)
        if before is None or distance(at, locate(getattr(before, field), old.grids)) > SAME:
            fields[field] = tie_again(project, getattr(ours, field), at) if ours else tie(project, at)
    for end in ("foot", "head"):
        z = height(getattr(theirs, end), new.levels)
        if before is None or abs(z - height(getattr(before, end), old.levels)) > SAME:
            fields[end] = _hang(project, new, getattr(theirs, end))
    return fields


def _hang(project: Project, new: Reading, hang: Hang) -> Hang:
    """Return a height of the file on the project's own levels: the one of the same name, else the nearest."""
    level = by_id(new.levels)[hang.level]
    ours = next((v for v in project.levels if v.name == level.name), None)
    if ours is None:
        ours = min(project.levels, key=lambda v: abs(v.height - level.height))
    return Hang(level=ours.id, offset=level.height + hang.offset - ours.height)


def _with_buildup(project: Project, wanted: BuildUp) -> tuple[Project, str]:
    known = next((b for b in project.buildups if b.layers == wanted.layers), None)
    if known is not None:
        return project, known.id
    made = msgspec.structs.replace(wanted, id=next_id(project, BuildUp))
    return msgspec.structs.replace(project, buildups=(*project.buildups, made)), made.id


def _opening(project: Project, new: Reading, change: Change, old: Reading) -> Project:
    ours = next((o for o in project.openings if o.source == change.source), None)
    if change.way == "removed":
        return remove(project, ours.id) if ours is not None else project
    theirs = next(o for o in new.openings if o.source == change.source)
    if ours is None:
        wall_source = by_id(new.walls)[theirs.wall].source
        wall = next((w for w in project.walls if w.source == wall_source), None)
        if change.way == "changed" or wall is None:
            return project
        made = msgspec.structs.replace(theirs, id=next_id(project, Opening), wall=wall.id)
        return _put(project, "openings", None, made)
    before = next((o for o in old.openings if o.source == change.source), None)
    fields = {
        f: getattr(theirs, f)
        for f in ("kind", "offset", "width", "height", "sill")
        if before is None or getattr(before, f) != getattr(theirs, f)
    }
    moved = msgspec.structs.replace(ours, **fields)
    return _put(project, "openings", ours, moved)


def _column(project: Project, old: Reading, new: Reading, change: Change) -> Project:
    ours = next((c for c in project.columns if c.source == change.source), None)
    if change.way == "removed":
        return remove(project, ours.id) if ours is not None else project
    theirs = next(c for c in new.columns if c.source == change.source)
    if change.way == "changed" and ours is None:
        return project
    before = next((c for c in old.columns if c.source == change.source), None)
    fields = _moved(project, (old, new), (before, theirs), ours, ("place",))
    for field in ("width", "depth", "angle", "material"):
        if before is None or getattr(before, field) != getattr(theirs, field):
            fields[field] = getattr(theirs, field)
    if ours is None:
        made = msgspec.structs.replace(theirs, id=next_id(project, Column), **fields)
        return _put(project, "columns", None, made)
    moved = msgspec.structs.replace(ours, **fields)
    return _put(project, "columns", ours, moved)


def _outline(project: Project, new: Reading, change: Change) -> Project:
    ours = next((r for r in project.references if r.source == change.source), None)
    if change.way == "removed":
        return remove(project, ours.id) if ours is not None else project
    theirs = next(r for r in new.references if r.source == change.source)
    if ours is None:
        if change.way == "changed":
            return project
        made = msgspec.structs.replace(theirs, id=next_id(project, Reference))
        return _put(project, "references", None, made)
    moved = msgspec.structs.replace(theirs, id=ours.id)
    return _put(project, "references", ours, moved)
