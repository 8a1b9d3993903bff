"""Taking over what has changed in an architect's file: each change is applied to what has become of the thing here."""

from collections.abc import Callable, Iterable
from typing import Any, NamedTuple

from msgspec.structs import replace

from balken.exchange.ifc_changes import ORDER, SAME, Change, Kind, changes, left_behind, off_axes
from balken.exchange.ifc_recognising import recognised, renamed, with_new_sources
from balken.geometry.plane import distance
from balken.model.edits import remove
from balken.model.errors import EditError
from balken.model.lookup import by_id, height, locate, next_id
from balken.model.records import (
    AxisPoint,
    BuildUp,
    FreePoint,
    Hang,
    Place,
    Project,
    Reading,
)
from balken.model.rules import check
from balken.model.ties import tie, tie_again
from balken.model.visitor import moved_places
from balken.units import Units

FIELDS: dict[Kind, str] = {
    "level": "levels",
    "grid": "grids",
    "wall": "walls",
    "opening": "openings",
    "column": "columns",
    "outline": "references",
}
"""Where things of each kind stand, in readings and in the project."""


class Thing(NamedTuple):
    """One thing that changed: in the last reading, in the new one, and what has become of it here; None: not there."""

    old: Reading
    new: Reading
    before: Any
    theirs: Any
    ours: Any


def apply_changes(project: Project, new: Reading, chosen: Iterable[Change]) -> Project:
    """Take over the changes chosen and remember the new reading; raises EditError and changes nothing.

    A change whose thing is gone from the project is passed over.  What was not chosen is told again when
    the file is read the next time.
    """
    if project.reading is None:
        raise EditError("this project was not read from an architect's file.")
    wanted = list(chosen)
    picked = {(c.kind, c.source) for c in wanted}
    known = recognised(project.reading, new)
    old, called = known.old, {a: b for a, b in known.levels.items() if ("level", b) in picked}
    project = renamed(with_new_sources(project, known.sources), called)
    for change in sorted(wanted, key=lambda c: ORDER.index(c.kind)):
        before, theirs, ours = (_found(holder, change) for holder in (old, new, project))
        if change.way == "removed":
            project = remove(project, ours.id) if ours is not None else project
        elif ours is not None or change.way == "added" or change.kind in ("level", "grid"):
            project = TAKE[change.kind](project, Thing(old, new, before, theirs, ours))
    kept = _remembered(old, new, picked, project.units)
    passed = {b: a for a, b in known.levels.items() if a not in called}
    return check(
        replace(
            project,
            reading=replace(kept, levels=tuple(replace(v, name=passed.get(v.name, v.name)) for v in kept.levels)),
        )
    )


def _found(holder: Reading | Project, change: Change) -> Any:
    """Return the thing that changed in a reading or the project; None when it is not there."""
    named = "name" if change.kind in ("level", "grid") else "source"
    return next((row for row in getattr(holder, FIELDS[change.kind]) if getattr(row, named) == change.source), None)


def _put(project: Project, kind: Kind, thing: Thing, fields: dict[str, Any]) -> Project:
    """Return the project with fields of a thing changed; what is not there yet is added as theirs, with these fields."""
    rows = getattr(project, FIELDS[kind])
    if thing.ours is None:
        made = replace(thing.theirs, id=next_id(project, type(thing.theirs)), **fields)
        return replace(project, **{FIELDS[kind]: (*rows, made)})
    changed = replace(thing.ours, **fields)
    return replace(project, **{FIELDS[kind]: tuple(changed if row is thing.ours else row for row in rows)})


def _differing(thing: Thing, *names: str) -> dict[str, Any]:
    """Return those fields of a thing that its file changed; all of them when the file did not have it before."""
    a, b = thing.before, thing.theirs
    return {name: getattr(b, name) for name in names if a is None or getattr(a, name) != getattr(b, name)}


def _level(project: Project, thing: Thing) -> Project:
    return _put(project, "level", thing, {"height": thing.theirs.height})


def _grid(project: Project, thing: Thing) -> Project:
    ours, theirs = thing.ours, thing.theirs
    if ours is None:
        return _put(project, "grid", thing, {})
    axes: dict[str, Any] = {}
    for field in ("x_axes", "y_axes"):
        known = {axis.label: axis.id for axis in getattr(ours, field)}
        taken, made_axes = set(known.values()), []
        for axis in getattr(theirs, field):
            axis_id = known.get(axis.label)
            if axis_id is None:
                axis_id = next(f"{field[0]}{i}" for i in range(1, 10_000) if f"{field[0]}{i}" not in taken)
                taken.add(axis_id)
            made_axes.append(replace(axis, id=axis_id))
        axes[field] = tuple(made_axes)
    moved = replace(ours, origin=theirs.origin, angle=theirs.angle, kind=theirs.kind, **axes)
    there = {f: {axis.id for axis in axes[f]} for f in axes}

    def placed(place: Place) -> Place:
        if not isinstance(place, AxisPoint) or place.grid != ours.id:
            return place
        if place.x_axis in there["x_axes"] and place.y_axis in there["y_axes"]:
            return place
        x, y = locate(place, project.grids)
        return FreePoint(x=x, y=y)

    grids = tuple(moved if g is ours else g for g in project.grids)
    return replace(moved_places(project, placed), grids=grids)


def _wall(project: Project, thing: Thing) -> Project:
    before, theirs = thing.before, thing.theirs
    project, buildup = _with_buildup(project, by_id(thing.new.buildups)[theirs.buildup])
    fields = _moved(project, thing, ("start", "end")) | _differing(thing, "set_out", "outside", "role")
    was = None if before is None else by_id(thing.old.buildups)[before.buildup].layers
    if was != by_id(thing.new.buildups)[theirs.buildup].layers:
        fields["buildup"] = buildup
    return _put(project, "wall", thing, fields)


def _moved(project: Project, thing: Thing, places: tuple[str, ...]) -> dict[str, Any]:
    """Return the places, foot and head of a thing that its file changed, as the project holds them."""
    old, new, before, theirs, ours = thing
    fields: dict[str, Any] = {}
    for field in places:
        there = getattr(theirs, field)
        at, was = locate(there, new.grids), None if before is None else getattr(before, field)
        if was is None or distance(at, locate(was, old.grids)) > SAME or off_axes(was, there, old, new):
            fields[field] = tie_again(project, getattr(ours, field), at) if ours else tie(project, at)
    for end in ("foot", "head"):
        z = height(getattr(theirs, end), new.levels)
        was = None if before is None else getattr(before, end)
        if was is None or abs(z - height(was, old.levels)) > SAME or left_behind(was, getattr(theirs, end), old, new):
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
    made = replace(wanted, id=next_id(project, BuildUp))
    return replace(project, buildups=(*project.buildups, made)), made.id


def _opening(project: Project, thing: Thing) -> Project:
    if thing.ours is not None:
        return _put(project, "opening", thing, _differing(thing, "kind", "offset", "width", "height", "sill"))
    source = by_id(thing.new.walls)[thing.theirs.wall].source
    wall = next((w for w in project.walls if w.source == source), None)
    if wall is None and not any(w.source == source for w in thing.old.walls):
        raise EditError(f"a {thing.theirs.kind} lies in a new wall that is passed over.", do="Take that over with it.")
    return _put(project, "opening", thing, {"wall": wall.id}) if wall is not None else project


def _column(project: Project, thing: Thing) -> Project:
    fields = _moved(project, thing, ("place",)) | _differing(thing, "width", "depth", "angle", "material")
    return _put(project, "column", thing, fields)


def _outline(project: Project, thing: Thing) -> Project:
    fields = {name: getattr(thing.theirs, name) for name in thing.theirs.__struct_fields__ if name != "id"}
    return _put(project, "outline", thing, {} if thing.ours is None else fields)


TAKE: dict[Kind, Callable[[Project, Thing], Project]] = {
    "level": _level,
    "grid": _grid,
    "wall": _wall,
    "opening": _opening,
    "column": _column,
    "outline": _outline,
}


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
    return replace(
        new,
        buildups=tuple(buildups.values()),
        walls=tuple(walls),
        openings=tuple(openings),
        columns=tuple(columns),
        references=tuple(references),
    )
