"""Edits of foundations: steps, recesses, pads under columns and at crossings, slabs with their holes."""

import math
from typing import Any

import msgspec

from balken.geometry.plane import Point, distance
from balken.model.edits import add, add_all, change
from balken.model.errors import EditError
from balken.model.lookup import PARTS, axis_position, by_id, grid_point, height, locate, next_id, there, wall_label
from balken.model.records import Bow, Foundation, FreePoint, Hang, Hole, Pad, Project, Slab, Slope, Step
from balken.model.rules import check
from balken.model.ties import tie, tie_again, tied_off
from balken.units import Units
from balken.units.system import INCH


def add_step(project: Project, foundation_id: str, wall: str, at: float, drop: float) -> Project:
    """Step a foundation down (up, below zero) from a distance along a wall on."""
    foundation = there(project.foundations, foundation_id)
    steps = (*foundation.steps, Step(wall=wall, at=at, drop=drop))
    return change(project, foundation_id, steps=steps)


def change_step(project: Project, foundation_id: str, index: int, **fields: float) -> Project:
    """Move a step or change its drop."""
    return _change_part(project, foundation_id, "step", index, fields)


def remove_step(project: Project, foundation_id: str, index: int) -> Project:
    """Take one step away."""
    return remove_part(project, foundation_id, "step", index)


STOREY = 610.0
"""A wall stands on a foundation when its foot is within this of the foundation's top, mm: sill, joists and deck."""


def could_stand_on(project: Project, foundation: Foundation) -> tuple[str, ...]:
    """Return the walls without a foundation whose feet are at its top; those of upper storeys are none of them."""
    standing = {w for f in project.foundations for w in f.walls}
    top = height(foundation.head, project.levels)
    return tuple(
        w.id
        for w in project.walls
        if w.role != "divides" and w.id not in standing and 0.0 <= height(w.foot, project.levels) - top + 1.0 < STOREY
    )


def take_wall_out(project: Project, foundation_id: str, wall: str) -> Project:
    """Take a wall out from under a foundation, with its steps, slopes, openings and pockets there."""
    foundation = there(project.foundations, foundation_id)
    if wall not in foundation.walls:
        raise EditError("the wall does not stand on it.", foundation.name)
    if len(foundation.walls) == 1:
        raise EditError("it is its only wall.", foundation.name, "Remove the foundation instead.")
    left = _without(foundation, wall)
    return check(
        msgspec.structs.replace(
            project,
            foundations=tuple(left if f.id == foundation_id else f for f in project.foundations),
            recesses=tuple(r for r in project.recesses if (r.foundation, r.wall) != (foundation_id, wall)),
        )
    )


def run_apart(project: Project, foundation_id: str, wall: str) -> tuple[Project, str]:
    """Give a wall a foundation of its own, made as the one it stands on, with its steps, slopes, openings and pockets there; return the
    project and which foundation stands under the wall then: the same where that is its only wall.
    """
    foundation = there(project.foundations, foundation_id)
    if wall not in foundation.walls:
        raise EditError("the wall does not stand on it.", foundation.name)
    if len(foundation.walls) == 1:
        return project, foundation_id
    own = msgspec.structs.replace(
        foundation,
        id=next_id(project, Foundation),
        name=f"{foundation.name}, under {wall_label(project, wall)}",
        walls=(wall,),
        steps=tuple(s for s in foundation.steps if s.wall == wall),
        slopes=tuple(s for s in foundation.slopes if s.wall == wall),
    )
    recesses = tuple(
        msgspec.structs.replace(r, foundation=own.id) if (r.foundation, r.wall) == (foundation_id, wall) else r
        for r in project.recesses
    )
    rows = tuple(
        one for f in project.foundations for one in ((_without(f, wall), own) if f.id == foundation_id else (f,))
    )
    return check(msgspec.structs.replace(project, foundations=rows, recesses=recesses)), own.id


def _without(foundation: Foundation, wall: str) -> Foundation:
    """Return a foundation without a wall, and without its steps and slopes there."""
    return msgspec.structs.replace(
        foundation,
        walls=tuple(w for w in foundation.walls if w != wall),
        steps=tuple(s for s in foundation.steps if s.wall != wall),
        slopes=tuple(s for s in foundation.slopes if s.wall != wall),
    )


def edge_width(project: Project) -> float:
    """Return the least thickness of a thickened edge: that of a footing (IRC Table R403.1(1)), mm."""
    return 12.0 * 25.4 if project.steps is Units.IMPERIAL else 310.0


def steps_on_courses(project: Project, foundation_id: str, course: float) -> Project:
    """Let every stretch of a foundation stand a whole number of courses below its foot, deeper where it must change.

    Stretches that were level with one another stay so; a step whose drop vanishes is taken away.
    """
    foundation = there(project.foundations, foundation_id)
    kept: list[Step] = []
    for wall in foundation.walls:
        was = now = 0.0
        for step in sorted((s for s in foundation.steps if s.wall == wall), key=lambda s: s.at):
            was += step.drop
            wanted = math.ceil(round(was / course, 3)) * course
            if abs(wanted - now) > 1e-6:
                kept.append(msgspec.structs.replace(step, drop=wanted - now))
            now = wanted
    return change(project, foundation_id, steps=tuple(kept))


def add_slope(project: Project, foundation_id: str, slope: Slope) -> Project:
    """Slope the underside of a footing over a stretch."""
    foundation = there(project.foundations, foundation_id)
    return change(project, foundation_id, slopes=(*foundation.slopes, slope))


def change_slope(project: Project, foundation_id: str, index: int, **fields: float) -> Project:
    """Move a slope's ends or change how deep it is there."""
    return _change_part(project, foundation_id, "slope", index, fields)


def remove_slope(project: Project, foundation_id: str, index: int) -> Project:
    """Make the underside level again."""
    return remove_part(project, foundation_id, "slope", index)


def remove_part(project: Project, foundation_id: str, kind: str, index: int) -> Project:
    """Take a step or a slope (``kind``) away."""
    parts = _parts(project, foundation_id, kind, index)
    return change(project, foundation_id, **{PARTS[kind]: parts[:index] + parts[index + 1 :]})


def _change_part(project: Project, foundation_id: str, kind: str, index: int, fields: dict[str, float]) -> Project:
    parts = list(_parts(project, foundation_id, kind, index))
    parts[index] = msgspec.structs.replace(parts[index], **fields)
    return change(project, foundation_id, **{PARTS[kind]: tuple(parts)})


def _parts(project: Project, foundation_id: str, kind: str, index: int) -> tuple[Step | Slope, ...]:
    """Return the steps or slopes of a foundation; raises EditError when there is none of that number."""
    foundation = there(project.foundations, foundation_id)
    parts: tuple[Step | Slope, ...] = getattr(foundation, PARTS[kind])
    if not 0 <= index < len(parts):
        raise EditError(f"that {kind} is not there any more.", foundation.name)
    return parts


def lay(project: Project, foundation: Foundation, slab_level: str = "") -> Project:
    """Add a foundation and, where its kind has one, the slab within its walls on ``slab_level``.

    Raises EditError when a slab is needed and no level is named for it.
    """
    if foundation.kind == "wall on footing":
        return add(project, foundation)
    if slab_level not in by_id(project.levels):
        raise EditError(
            f"a {foundation.kind} needs a level for the top of its slab.",
            foundation.name,
            "Add a level with the role 'slab', or choose the kind 'wall on footing'.",
        )
    if foundation.kind == "thickened edge":
        thickness = max(foundation.thickness, edge_width(project))
        foundation = msgspec.structs.replace(foundation, thickness=thickness)
    slab = Slab(
        id=next_id(project, Slab),
        name=f"{foundation.name} slab",
        walls=foundation.walls,
        level=slab_level,
        edge_depth=12.0 * 25.4 if foundation.kind == "thickened edge" else 0.0,
    )
    return add_all(project, foundation, slab)


UNDER_COLUMNS = 24.0 * INCH
PIER = 12.0 * INCH


def add_pads(project: Project, places: tuple[Point, ...], top: Hang, head: Hang, pier: float, **fields: Any) -> Project:
    """Put a pad at each place that has none at that height yet; raises EditError when all have one."""
    taken = [locate(p.place, project.grids) for p in project.pads if p.top == top]
    number = int(next_id(project, Pad).rpartition("-")[2])
    made: list[Pad] = []
    for point in places:
        if any(distance(point, other) < 5.0 for other in taken):
            continue
        pad = Pad(id=f"pad-{number + len(made)}", place=tie(project, point), top=top, head=head, pier=pier, **fields)
        made.append(pad)
        taken.append(point)
    if not made:
        raise EditError(
            "every place chosen has a pad already.",
            "Pads",
            "Choose other places, or change the pads there in their card.",
        )
    return check(msgspec.structs.replace(project, pads=(*project.pads, *made)))


def pad_under(project: Project, column_id: str) -> Project:
    """Put a pad two feet under a column's foot, with a pier up to it; raises EditError for a column that is gone."""
    column = there(project.columns, column_id)
    foot = column.foot
    top = Hang(level=foot.level, offset=foot.offset - UNDER_COLUMNS)
    return add_pads(project, column_places(project, (column_id,)), top, foot, max(column.width, column.depth, PIER))


def crossings(project: Project, grid_id: str, x_axes: tuple[str, ...], y_axes: tuple[str, ...]) -> tuple[Point, ...]:
    """Return the plan points where the axes named cross."""
    grid = there(project.grids, grid_id)
    return tuple(
        grid_point(grid, axis_position(grid.x_axes, x), axis_position(grid.y_axes, y)) for x in x_axes for y in y_axes
    )


def column_places(project: Project, column_ids: tuple[str, ...]) -> tuple[Point, ...]:
    """Return where columns stand; all when none is named."""
    chosen = [c for c in project.columns if not column_ids or c.id in column_ids]
    return tuple(locate(c.place, project.grids) for c in chosen)


def add_hole(project: Project, slab_id: str, values: list[float]) -> Project:
    """Leave a rectangle (x, y of its corner, width, depth) or a circle (x, y of its middle, diameter) out of a slab, mm; where there are
    axes it is tied to the nearest, and lies along their grid.
    """
    slab = there(project.slabs, slab_id)
    return change(project, slab_id, holes=(*slab.holes, _hole(project, values)))


def change_hole(project: Project, slab_id: str, index: int, values: list[float]) -> Project:
    """Put a hole of a slab elsewhere, or make it another size: the values of ``add_hole``; one of another shape takes x and y alone."""
    slab = there(project.slabs, slab_id)
    old = slab.holes[index]
    if old.outline and len(values) == 2:
        point = (values[0], values[1])
        new = msgspec.structs.replace(old, place=tie_again(project, old.place, point))
    else:
        new = msgspec.structs.replace(_hole(project, values), angle=old.angle)
    return change(project, slab_id, holes=(*slab.holes[:index], new, *slab.holes[index + 1 :]))


def _hole(project: Project, values: list[float]) -> Hole:
    if len(values) not in (3, 4) or min(values[2:]) <= 0.0:
        raise EditError(
            "a hole needs x, y, width and depth above zero, or x, y and diameter.",
            "Slab",
            "Type such as 4', 6', 3', 3' for a rectangle, 4', 6', 2' for a circle.",
        )
    place = tied_off(project, (values[0], values[1])) or FreePoint(x=values[0], y=values[1])
    if len(values) == 3:
        return Hole(place=place, diameter=values[2])
    return Hole(place=place, width=values[2], depth=values[3])


def set_bow(project: Project, slab_id: str, wall: str, rise: float) -> Project:
    """Make a slab's edge along a wall an arc that rises so far outward, mm; 0 makes it straight again."""
    slab = there(project.slabs, slab_id)
    others = tuple(bow for bow in slab.bows if bow.wall != wall)
    return change(project, slab_id, bows=(*others, Bow(wall=wall, rise=rise)) if rise else others)


def remove_hole(project: Project, slab_id: str, index: int) -> Project:
    """Close a hole of a slab."""
    slab = there(project.slabs, slab_id)
    return change(project, slab_id, holes=slab.holes[:index] + slab.holes[index + 1 :])
