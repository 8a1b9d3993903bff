"""Walls split in two and joined to one, with all that goes by them: openings, recesses, steps, what roofs and floors do over them."""

import math
from typing import TypeVar

import msgspec

from balken.geometry.plane import TOUCH, add, distance, unit
from balken.model.errors import EditError
from balken.model.kinds.floor import PastEdge
from balken.model.kinds.roof import RoofSide
from balken.model.lookup import next_id, wall_label
from balken.model.records import Floor, Foundation, Project, Roof, Slab, Step, Wall
from balken.model.roof_edits import side_of
from balken.model.rules import check
from balken.model.ties import tie
from balken.model.wall_edits import chosen_walls, split_slope, wall_ends

L = TypeVar("L", bound=Foundation | Floor | Roof | Slab)


def split_wall(project: Project, wall_id: str, along: float) -> Project:
    """Split a wall at a distance from its start; openings go with their part, layouts take both.

    Raises EditError when the place is outside the wall or inside an opening.
    """
    (wall,) = chosen_walls(project, (wall_id,))
    start, end = wall_ends(project, wall)
    length = distance(start, end)
    where = wall_label(project, wall_id)
    if not 100.0 <= along <= length - 100.0:
        raise EditError("it can be split only between its ends.", where, "Type a distance within the wall.")
    for o in project.openings:
        if o.wall == wall_id and o.offset < along < o.offset + o.width:
            raise EditError(f"a {o.kind} is there.", where, "Split it beside the opening.")
    for r in project.recesses:
        if r.wall == wall_id and r.offset < along < r.offset + r.width:
            raise EditError(f"its foundation has a {r.kind} there.", where, "Split it beside that.")
    middle = tie(project, add(start, unit(start, end), along))
    second = msgspec.structs.replace(wall, id=next_id(project, Wall), start=middle, source="")
    first = msgspec.structs.replace(wall, end=middle)
    walls: list[Wall] = []
    for w in project.walls:
        walls += [first, second] if w is wall else [w]
    openings = tuple(
        msgspec.structs.replace(o, wall=second.id, offset=o.offset - along)
        if o.wall == wall_id and o.offset >= along
        else o
        for o in project.openings
    )
    for slab in project.slabs:
        if any(bow.wall == wall_id for bow in slab.bows):
            raise EditError("the edge of a slab along it is an arc.", where, "Draw that edge straight first.")
    changes: dict[str, object] = {"walls": tuple(walls), "openings": openings}
    changes["recesses"] = tuple(
        msgspec.structs.replace(r, wall=second.id, offset=r.offset - along)
        if r.wall == wall_id and r.offset >= along
        else r
        for r in project.recesses
    )
    for field in ("foundations", "floors", "roofs", "slabs"):
        changes[field] = tuple(layout_split(layout, wall_id, second.id, along) for layout in getattr(project, field))
    return check(msgspec.structs.replace(project, **changes))


def layout_split(layout: L, first: str, second: str, along: float) -> L:
    """Return a layout on both walls that one was split into; its steps and slopes go with their part."""
    walls: tuple[str, ...] = layout.walls
    if first not in walls:
        return layout
    i = walls.index(first) + 1
    if isinstance(layout, Foundation) and any(s.wall == first for s in layout.steps):
        own = sorted((s for s in layout.steps if s.wall == first), key=lambda s: s.at)
        reached = sum(s.drop for s in own if s.at < along)
        later = [msgspec.structs.replace(s, wall=second, at=s.at - along) for s in own if s.at >= along]
        begins = [] if abs(reached) < 1e-9 else [Step(wall=second, at=0.0, drop=reached)]
        if begins and later and later[0].at < 1e-9:  # a step just where it is split
            begins = [msgspec.structs.replace(begins[0], drop=reached + later.pop(0).drop)]
        kept = [s for s in layout.steps if s.wall != first or s.at < along]
        layout = msgspec.structs.replace(layout, steps=(*kept, *begins, *later))
    if isinstance(layout, Foundation) and layout.slopes:
        parts = (split_slope(s, second, along) if s.wall == first else [s] for s in layout.slopes)
        layout = msgspec.structs.replace(layout, slopes=tuple(s for row in parts for s in row))
    if isinstance(layout, Roof):
        sides = ([s, msgspec.structs.replace(s, wall=second)] if s.wall == first else [s] for s in layout.sides)
        layout = msgspec.structs.replace(layout, sides=tuple(s for row in sides for s in row))
    if isinstance(layout, Floor):
        past = (_split_past(edge, second, along) if edge.wall == first else [edge] for edge in layout.past)
        layout = msgspec.structs.replace(layout, past=tuple(edge for row in past for edge in row))
    return msgspec.structs.replace(layout, walls=(*walls[:i], second, *walls[i:]))


def _split_past(edge: PastEdge, second: str, along: float) -> list[PastEdge]:
    """Return the parts of a floor's edge past the two walls that one was split into."""
    new = msgspec.structs.replace
    end = math.inf if edge.end is None else edge.end
    rows = list[PastEdge]()
    if edge.start < along:
        rows.append(new(edge, end=None if end >= along else edge.end))
    if end > along:
        rows.append(
            new(edge, wall=second, start=max(edge.start - along, 0.0), end=None if edge.end is None else end - along)
        )
    return rows


def join_walls(project: Project, first_id: str, second_id: str) -> Project:
    """Make one wall of two in line that meet end to end and are built alike; the first takes the openings."""
    first, second = chosen_walls(project, (first_id, second_id))
    ends = (*wall_ends(project, first), *wall_ends(project, second))
    if distance(ends[1], ends[2]) > TOUCH and distance(ends[3], ends[0]) < TOUCH:
        first, second = second, first
        ends = (*wall_ends(project, first), *wall_ends(project, second))
    d, e = unit(ends[0], ends[1]), unit(ends[2], ends[3])
    alike = (first.buildup, first.outside, first.set_out, first.foot, first.head) == (
        second.buildup,
        second.outside,
        second.set_out,
        second.foot,
        second.head,
    )
    if distance(ends[1], ends[2]) > TOUCH or math.hypot(d[0] - e[0], d[1] - e[1]) > 1e-3 or not alike:
        raise EditError(
            "Only walls in one line, end to end, with the same build-up, heights and outside can be joined."
        )
    length = distance(ends[0], ends[1])
    joined = msgspec.structs.replace(first, end=second.end)
    openings = tuple(
        msgspec.structs.replace(o, wall=first.id, offset=o.offset + length) if o.wall == second.id else o
        for o in project.openings
    )
    walls = tuple(joined if w is first else w for w in project.walls if w is not second)
    changes: dict[str, object] = {"walls": walls, "openings": openings}
    changes["recesses"] = tuple(
        msgspec.structs.replace(r, wall=first.id, offset=r.offset + length) if r.wall == second.id else r
        for r in project.recesses
    )
    for field in ("foundations", "floors", "roofs", "slabs"):
        changes[field] = tuple(layout_joined(layout, first.id, second.id, length) for layout in getattr(project, field))
    return check(msgspec.structs.replace(project, **changes))


def layout_joined(layout: L, first: str, second: str, length: float) -> L:
    """Return a layout without the second wall; its steps go on along the first one."""
    walls = tuple(w for w in layout.walls if w != second)
    if isinstance(layout, Foundation) and any(s.wall in (first, second) for s in layout.steps):
        reached = sum(s.drop for s in layout.steps if s.wall == first)
        begins = sum(s.drop for s in layout.steps if s.wall == second and s.at <= 0.0)
        moved = [
            msgspec.structs.replace(s, wall=first, at=s.at + length)
            for s in layout.steps
            if s.wall == second and s.at > 0.0
        ]
        bridge = [] if abs(begins - reached) < 1e-9 else [Step(wall=first, at=length, drop=begins - reached)]
        kept = [s for s in layout.steps if s.wall != second]
        layout = msgspec.structs.replace(layout, steps=(*kept, *bridge, *moved))
    if isinstance(layout, Foundation) and layout.slopes:
        slopes = (
            msgspec.structs.replace(s, wall=first, start=s.start + length, end=s.end + length)
            if s.wall == second
            else s
            for s in layout.slopes
        )
        layout = msgspec.structs.replace(layout, slopes=tuple(slopes))
    if isinstance(layout, Roof):
        layout = msgspec.structs.replace(layout, sides=_one_side(layout, first, second))
    if isinstance(layout, Floor):
        layout = msgspec.structs.replace(layout, past=_one_edge(layout, first, second, length))
    return msgspec.structs.replace(layout, walls=walls)


def _one_side(roof: Roof, first: str, second: str) -> tuple[RoofSide, ...]:
    """Return a roof's sides with one over two walls that become one; raises EditError where it does not do the same over both."""
    one, other = (side_of(roof, wall) for wall in (first, second))
    if first in roof.walls and second in roof.walls and msgspec.structs.replace(other, wall=first) != one:
        raise EditError("it does not do the same over both walls.", roof.name, "Make its edges over them alike first.")
    if first not in roof.walls:
        return tuple(msgspec.structs.replace(s, wall=first) if s.wall == second else s for s in roof.sides)
    return tuple(s for s in roof.sides if s.wall != second)


def _one_edge(floor: Floor, first: str, second: str, length: float) -> tuple[PastEdge, ...]:
    """Return what reaches past two walls that become one, those that meet as one."""
    new, found = msgspec.structs.replace, list[PastEdge]()
    for edge in floor.past:
        if edge.wall == second:
            end = None if edge.end is None else edge.end + length
            edge = new(edge, wall=first, start=edge.start + length, end=end)
        elif edge.wall == first and edge.end is None:
            edge = new(edge, end=length)
        before = next(
            (x for x in found if x.wall == first == edge.wall and x.by == edge.by and x.end == edge.start), None
        )
        if before is not None:
            found.remove(before)
            edge = new(edge, start=before.start)
        found.append(edge)
    return tuple(found)
