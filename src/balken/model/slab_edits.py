"""Edits of floors as slabs: made so and back, copied to another level, the walls below cut to their underside."""

import msgspec
import shapely

from balken.catalog.joists import JoistWord
from balken.geometry.plane import distance
from balken.model.edits import add, change
from balken.model.errors import EditError
from balken.model.kinds.choice import Choice
from balken.model.kinds.floor import Floor, Over
from balken.model.lookup import by_id, next_id
from balken.model.places import height, locate
from balken.model.records import Project, Wall
from balken.units.system import INCH

DECK = 0.75 * INCH
"""The usual deck of joists."""
NEAR_HEAD = 900.0
"""Walls that end no farther than this from a floor may end under it, mm."""
SAME = 50.0
"""Walls whose ends lie no farther apart than this stand over one another, mm."""


def recast(floor: Floor, word: JoistWord) -> Floor:
    """Return a floor of another kind of joists, or as a slab of concrete."""
    if word == floor.joists.made_of:
        return floor
    joists = msgspec.structs.replace(floor.joists, made_of=word, size=None)
    if word == "slab":
        return msgspec.structs.replace(floor, joists=joists, deck=0.0, ceiling="none", over="continuous")
    over: Over = "butted" if floor.is_slab or (word == "I-joist" and floor.over == "lapped") else floor.over
    deck = DECK if floor.is_slab else floor.deck
    return msgspec.structs.replace(floor, joists=joists, deck=deck, over=over, carries="one way")


def copy_floor(project: Project, floor_id: str, level: str, size: str | None = None) -> Project:
    """Copy a floor to another level, on the walls that stand over its own there; openings in it go through both.

    ``size``: of the copy's joists, or its thickness, where that is another.  Raises EditError.
    """
    floor = by_id(project.floors)[floor_id]
    if level not in by_id(project.levels):
        raise EditError("there is no such level.", floor.name, "Choose another.")
    if level == floor.level:
        raise EditError("it lies on that level already.", floor.name, "Choose another.")
    over = {w: _over(project, w, level) for w in floor.walls}
    joists: Choice = floor.joists if size is None else msgspec.structs.replace(floor.joists, size=size)
    twin = msgspec.structs.replace(
        floor,
        id=next_id(project, Floor),
        name=_free_name(project, floor, level),
        level=level,
        walls=tuple(dict.fromkeys(over.values())),
        past=tuple(msgspec.structs.replace(edge, wall=over.get(edge.wall, edge.wall)) for edge in floor.past),
        joists=joists,
        uncut=(),
    )
    project = add(project, twin)
    for opening in project.floor_openings:
        if floor_id in opening.floors:
            project = change(project, opening.id, floors=(*opening.floors, twin.id))
    return project


def _free_name(project: Project, floor: Floor, level: str) -> str:
    taken, base = {f.name for f in project.floors}, f"{floor.name}, {by_id(project.levels)[level].name}"
    return next(name for k in range(1, 1000) if (name := base if k == 1 else f"{base} {k}") not in taken)


def _over(project: Project, wall_id: str, level: str) -> str:
    """Return the wall that ends or begins near a level over (or under) another one; that itself where there is none."""
    at, mine = by_id(project.levels)[level].height, by_id(project.walls).get(wall_id)
    if mine is None:
        return wall_id
    ends = {locate(mine.start, project.grids), locate(mine.end, project.grids)}
    best = (NEAR_HEAD, wall_id)
    for wall in project.walls:
        there = (locate(wall.start, project.grids), locate(wall.end, project.grids))
        if all(min(distance(p, q) for q in ends) < SAME for p in there):
            off = abs(height(wall.head, project.levels) - at)
            best = min(best, (off, wall.id))
    return best[1]


def walls_under(project: Project, floor_id: str, ring: tuple[tuple[float, float], ...]) -> tuple[str, ...]:
    """Return the walls that end near a floor within its outline: what may be cut to its underside.  ``ring``: that outline."""
    floor = by_id(project.floors)[floor_id]
    at, shape = by_id(project.levels)[floor.level].height, shapely.Polygon(ring).buffer(SAME)
    found: list[str] = []
    for wall in project.walls:
        line = shapely.LineString([locate(wall.start, project.grids), locate(wall.end, project.grids)])
        # Where only its foot is near, it stands on the floor.
        off_head, off_foot = (abs(height(end, project.levels) - at) for end in (wall.head, wall.foot))
        if off_head < min(NEAR_HEAD, off_foot) and shape.intersection(line).length > 0.5 * line.length:
            found.append(wall.id)
    return tuple(found)


def cut_walls(project: Project, floor_id: str, walls: tuple[str, ...]) -> Project:
    """Fit the heads of walls to the underside of a floor, but for those it leaves out; raises EditError where there is none."""
    floor, known = by_id(project.floors)[floor_id], by_id(project.walls)
    cut = [w for w in walls if w in known and w not in floor.uncut]
    if not cut:
        raise EditError("no wall ends under it.", floor.name, "Draw walls up to its level first.")
    for wall in cut:
        project = change(project, wall, head_under=floor_id)
    return project


def leave_out(project: Project, floor_id: str, wall: str) -> Project:
    """Let a wall end where its own level says, and leave it out when those below are cut again."""
    floor, mine = by_id(project.floors)[floor_id], by_id(project.walls)[wall]
    if mine.head_under == floor_id:
        project = change(project, wall, head_under="")
    return change(project, floor_id, uncut=tuple(dict.fromkeys((*floor.uncut, wall))))


def take_in(project: Project, floor_id: str, wall: str) -> Project:
    """Cut a wall that was left out, after all."""
    floor = by_id(project.floors)[floor_id]
    project = change(project, floor_id, uncut=tuple(w for w in floor.uncut if w != wall))
    return change(project, wall, head_under=floor_id)


def cut_by(project: Project, floor_id: str) -> tuple[Wall, ...]:
    """Return the walls whose heads are fitted to a floor."""
    return tuple(w for w in project.walls if w.head_under == floor_id)
