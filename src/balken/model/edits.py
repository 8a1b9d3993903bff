"""Edits: pure functions from a project to a new one; each raises EditError and changes nothing."""

from typing import Any

import msgspec

from balken.geometry.plane import TOUCH, Point, area, distance
from balken.model.base import To
from balken.model.buildups import LIBRARY, as_made_of, as_thick
from balken.model.errors import EditError
from balken.model.following import followed
from balken.model.lookup import by_id, find, locate, next_id, there
from balken.model.records import (
    COLLECTIONS,
    AxisPoint,
    BuildUp,
    Choice,
    CutLine,
    FreePoint,
    Grid,
    Hang,
    Layer,
    Level,
    LevelRole,
    Loads,
    Opening,
    Place,
    Project,
    Record,
    SetOut,
    SheetInfo,
    Wall,
    WallRole,
)
from balken.model.rules import check
from balken.model.ties import tie, tie_again
from balken.model.unit_defaults import fitted, in_units, is_bare
from balken.model.visitor import DROP, changed, hanging, mapped, moved_places, without
from balken.units import Units


def new_project(name: str = "Untitled", units: Units = Units.IMPERIAL) -> Project:
    """Return an empty project with one level and the build-up library."""
    project = Project(
        name=name, levels=(Level(id="level-1", name="Floor 1", role="floor", height=0.0),), buildups=LIBRARY
    )
    return in_units(project, units)


def add(project: Project, record: Record) -> Project:
    """Add a record to its collection."""
    field, record = COLLECTIONS[type(record)], fitted(record, project.steps)
    return check(msgspec.structs.replace(project, **{field: (*getattr(project, field), record)}))


def add_all(project: Project, *records: Record) -> Project:
    """Add several records that only together make sense."""
    for each in records:
        field, record = COLLECTIONS[type(each)], fitted(each, project.steps)
        project = msgspec.structs.replace(project, **{field: (*getattr(project, field), record)})
    return check(project)


def change(project: Project, record_id: str, **fields: Any) -> Project:
    """Change fields of the record with that id; ``joists__size`` reaches into a nested record."""
    record = find(project, record_id)
    if record is None:
        raise EditError(f"there is nothing with the id '{record_id}' any more.")
    return _swapped(project, record, with_fields(record, fields))


def with_fields(record: Record, fields: dict[str, Any]) -> Record:
    """Return a record with changed fields; ``joists__size`` reaches into a nested record."""
    plain: dict[str, Any] = {}
    for key, value in fields.items():
        outer, _, inner = key.partition("__")
        plain[outer] = with_fields(plain.get(outer, getattr(record, outer)), {inner: value}) if inner else value
    return msgspec.structs.replace(record, **plain)


def _swapped(project: Project, old: Record, new: Record) -> Project:
    if new == old:
        return project
    field = COLLECTIONS[type(old)]
    records = tuple(new if record is old else record for record in getattr(project, field))
    return check(msgspec.structs.replace(project, **{field: records}))


def remove(project: Project, record_id: str) -> Project:
    """Remove a record and what cannot be without it (a wall's openings, its place in layouts).

    A level on which things hang holds their height until they hang on another one; a finding says so.
    Raises EditError when walls are made of it (build-ups in use).
    """
    record = find(project, record_id)
    if record is None:
        raise EditError(f"there is nothing with the id '{record_id}' any more.")
    if isinstance(record, Level) and hanging(project, record_id):
        return change(project, record_id, removed=True)
    if isinstance(record, BuildUp):
        count = sum(1 for wall in project.walls if wall.buildup == record_id)
        if count:
            raise EditError(
                f"{count} walls are made of it." if count > 1 else "a wall is made of it.",
                f"'{record.name or record.id}'",
                "Give them another build-up first.",
            )
    if isinstance(record, Grid):
        project = moved_places(project, lambda place: _freed(place, project.grids, record_id))
    return check(without(project, record_id, COLLECTIONS[type(record)]))


def remove_all(project: Project, record_ids: tuple[str, ...]) -> Project:
    """Remove several records; those that went with an earlier one are passed over."""
    for record_id in record_ids:
        if find(project, record_id) is not None:
            project = remove(project, record_id)
    return project


def _freed(place: Place, grids: tuple[Grid, ...], grid_id: str) -> Place:
    """Return the place by coordinates where it was tied to a grid that goes."""
    if not isinstance(place, AxisPoint) or place.grid != grid_id:
        return place
    x, y = locate(place, grids)
    return FreePoint(x=x, y=y)


# Setting out -----------------------------------------------------------------------------------


def add_level(project: Project, source: str, distance_up: float, name: str, role: LevelRole = "other") -> Project:
    """Make a level from another by a distance (mm, upward positive)."""
    base = by_id(project.levels).get(source)
    if base is None:
        raise EditError(f"there is no level '{source}' to start from.")
    return add(
        project, Level(id=next_id(project, Level), name=name.strip(), role=role, height=base.height + distance_up)
    )


def set_level(project: Project, level_id: str, level_height: float) -> Project:
    """Move a level to a height; everything hanging on it follows."""
    return change(project, level_id, height=level_height)


def replace_level(project: Project, level_id: str, other: str) -> Project:
    """Remove a level, hanging all that hung on it on another at the same height.

    Floors lie on a level itself, so they move to the other's height.
    """
    levels = by_id(project.levels)
    if level_id == other or level_id not in levels or other not in levels or levels[other].removed:
        raise EditError("choose another level to hang things on.", "Level")
    shift = levels[level_id].height - levels[other].height

    def moved(hang: Hang) -> Hang:
        return Hang(level=other, offset=hang.offset + shift) if hang.level == level_id else hang

    def other_level(item: str, to: To) -> str:
        return other if item == level_id and "levels" in to.collections else item

    def rehung(record: Record) -> Any:
        if getattr(record, "id", None) == level_id:
            return DROP
        made = changed(record, ids=other_level, hangs=moved)
        # A grid that showed on both shows once.
        return (
            msgspec.structs.replace(made, levels=tuple(dict.fromkeys(made.levels))) if isinstance(made, Grid) else made
        )

    return check(mapped(project, rehung))


# Walls and openings ----------------------------------------------------------------------------


def add_wall(
    project: Project,
    start: Point,
    end: Point,
    buildup: str,
    foot: Hang,
    head: Hang,
    set_out: SetOut = "core outside",
    outside: str = "right",
    role: WallRole = "outside",
) -> Project:
    """Draw a wall; ends on an axis crossing are tied to it."""
    wall = Wall(
        id=next_id(project, Wall),
        start=tie(project, start),
        end=tie(project, end),
        buildup=buildup,
        foot=foot,
        head=head,
        set_out=set_out,
        outside="left" if outside == "left" else "right",
        role=role,
    )
    return add(project, wall)


def flip_wall(project: Project, wall_id: str) -> Project:
    """Put the outside of a wall on the other side of its set-out line."""
    wall = there(project.walls, wall_id)
    return change(project, wall_id, outside="left" if wall.outside == "right" else "right")


def orient_outline(project: Project, wall_ids: tuple[str, ...]) -> Project:
    """Turn the outside of walls that were drawn round a closed outline outward."""
    known = by_id(project.walls)
    ring = [locate(known[w].start, project.grids) for w in wall_ids]
    side = "right" if area(ring) >= 0.0 else "left"
    walls = tuple(
        msgspec.structs.replace(wall, outside=side) if wall.id in wall_ids else wall for wall in project.walls
    )
    return check(msgspec.structs.replace(project, walls=walls))


def move_wall_end(project: Project, wall_id: str, end: str, point: Point) -> Project:
    """Move a wall's start or end, and the ends of walls that meet it there."""
    wall = there(project.walls, wall_id)
    old = locate(getattr(wall, end), project.grids)
    place = tie_again(project, getattr(wall, end), point)
    walls = []
    for other in project.walls:
        moved = {
            side: place
            for side in ("start", "end")
            if other.role == wall.role and distance(locate(getattr(other, side), project.grids), old) < TOUCH
        }
        walls.append(msgspec.structs.replace(other, **moved) if moved else other)
    return check(followed(project, msgspec.structs.replace(project, walls=tuple(walls))))


def set_wall_length(project: Project, wall_id: str, length: float) -> Project:
    """Move a wall's end along its line so that the wall has that length."""
    wall = there(project.walls, wall_id)
    start, end = locate(wall.start, project.grids), locate(wall.end, project.grids)
    factor = length / distance(start, end)
    if length <= 0.0:
        raise EditError("the length must be more than zero.", "Wall")
    point = (start[0] + (end[0] - start[0]) * factor, start[1] + (end[1] - start[1]) * factor)
    return move_wall_end(project, wall_id, "end", point)


def add_opening(
    project: Project, wall: str, kind: str, offset: float, width: float, opening_height: float, sill: float
) -> Project:
    """Cut an opening into a wall."""
    return add(
        project,
        Opening(
            id=next_id(project, Opening),
            wall=wall,
            kind=kind,  # type: ignore[arg-type]
            offset=offset,
            width=width,
            height=opening_height,
            sill=sill,
        ),
    )


def set_wall_head(project: Project, wall_id: str, level: str, offset: float) -> Project:
    """Hang a wall's head on a level."""
    return change(project, wall_id, head=Hang(level=level, offset=offset))


def copy_buildup(project: Project, buildup_id: str, wall_ids: tuple[str, ...] = ()) -> Project:
    """Copy a build-up and give the copy to the walls named."""
    old = by_id(project.buildups).get(buildup_id)
    if old is None:
        raise EditError(f"the build-up '{buildup_id}' is not there.")
    new = msgspec.structs.replace(old, id=next_id(project, BuildUp), name=f"{old.name} (copy)" if old.name else "")
    walls = tuple(msgspec.structs.replace(w, buildup=new.id) if w.id in wall_ids else w for w in project.walls)
    return check(msgspec.structs.replace(project, buildups=(*project.buildups, new), walls=walls))


def add_layer(project: Project, buildup_id: str, index: int, layer: Layer) -> Project:
    """Put a layer into a build-up before place ``index`` (0 is the outside face)."""
    layers = list(there(project.buildups, buildup_id).layers)
    layers.insert(index, layer)
    return change(project, buildup_id, layers=tuple(layers))


def remove_layer(project: Project, buildup_id: str, index: int) -> Project:
    """Take a layer out of a build-up; raises EditError for its only core layer."""
    layers = list(there(project.buildups, buildup_id).layers)
    del layers[index]
    return change(project, buildup_id, layers=tuple(layers))


def change_layer(project: Project, buildup_id: str, index: int, **fields: Any) -> Project:
    """Change one layer of a build-up; its walls change at once, and studs with its thickness; raises EditError."""
    buildup = there(project.buildups, buildup_id)
    layers = list(buildup.layers)
    layer = layers[index]
    if "material" in fields:
        layer = as_made_of(layer, fields.pop("material"))
    if "thickness" in fields:
        layer = as_thick(layer, fields.pop("thickness"))
    layers[index] = msgspec.structs.replace(layer, **fields)
    return change(project, buildup_id, layers=tuple(layers))


# The project as a whole ------------------------------------------------------------------------


def set_project(project: Project, **fields: Any) -> Project:
    """Change fields of the project itself (name, units, stock_length)."""
    return check(msgspec.structs.replace(project, **fields))


def set_units(project: Project, units: Units) -> Project:
    """Show lengths in units; while nothing but levels has been made, all that is left to Balken comes in round figures of them, too."""
    return check(in_units(project, units)) if is_bare(project) else set_project(project, units=units)


def set_loads(project: Project, **fields: float | str | bool) -> Project:
    """Change loads, snow, soil bearing or frost depth."""
    loads: Loads = msgspec.structs.replace(project.loads, **fields)
    return check(msgspec.structs.replace(project, loads=loads))


def set_soil(project: Project, **fields: Any) -> Project:
    """Change how the ground presses on walls."""
    return check(msgspec.structs.replace(project, soil=msgspec.structs.replace(project.soil, **fields)))


def set_concrete(project: Project, **fields: Any) -> Project:
    """Change the strengths of concrete and bars."""
    return check(msgspec.structs.replace(project, concrete=msgspec.structs.replace(project.concrete, **fields)))


def set_masonry(project: Project, **fields: Any) -> Project:
    """Change the strength and mortar of block walls."""
    return check(msgspec.structs.replace(project, masonry=msgspec.structs.replace(project.masonry, **fields)))


def set_sheet(project: Project, **fields: str) -> Project:
    """Change what the title block says."""
    info: SheetInfo = msgspec.structs.replace(project.sheet, **fields)
    return msgspec.structs.replace(project, sheet=info)


def set_strings(project: Project, **fields: Any) -> Project:
    """Change which dimension strings are drawn, and how far they stand."""
    return check(msgspec.structs.replace(project, strings=msgspec.structs.replace(project.strings, **fields)))


def set_cut(project: Project, start: Point, end: Point) -> Project:
    """Move the cut line of the height strip and cross-section."""
    return check(msgspec.structs.replace(project, cut=CutLine(start=start, end=end)))


def set_choice(project: Project, layout_id: str, field: str, **fields: Any) -> Project:
    """Change the section, spacing, species or grade of a layout (``field``: joists, rafters, ties)."""
    layout = find(project, layout_id)
    choice: Choice = getattr(layout, field)
    return change(project, layout_id, **{field: msgspec.structs.replace(choice, **fields)})
