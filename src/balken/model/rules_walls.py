"""Rules of walls: build-ups, walls, where they cross, openings."""

import math
from collections.abc import Iterable
from typing import Any

from balken.geometry.plane import distance, segments_cross
from balken.model.errors import EditError
from balken.model.lookup import by_id, height, locate, wall_label
from balken.model.materials import material
from balken.model.records import Opening, Project, Wall
from balken.model.rule_parts import FARTHEST, SHORTEST_WALL, check_spacing, graded, named, placed, upright
from balken.model.sections import section
from balken.units import format_length


def check_buildups(project: Project) -> None:
    """Raise EditError unless build-ups have a core and layers of known materials."""
    for buildup in project.buildups:
        where = f"Build-up {buildup.name or buildup.id}"
        if not any(layer.function == "core" for layer in buildup.layers):
            raise EditError("it has no core layer.", where, "Make one layer the core.")
        for layer in buildup.layers:
            if not 1.0 <= layer.thickness <= 2000.0:
                raise EditError(f"{layer.material} is {layer.thickness:g} mm thick.", where, "Type 1 to 2000 mm.")
            named(material, layer.material, where)


def check_wall(project: Project, wall: Wall) -> None:
    """Raise EditError unless a wall stands upright, has a length, and what it hangs on is there."""
    where = wall_label(project, wall.id)
    if wall.buildup not in by_id(project.buildups):
        raise EditError(f"its build-up '{wall.buildup}' is not there.", where, "Choose a build-up.")
    ends = (placed(project, wall.start, where), placed(project, wall.end, where))
    if any(not math.isfinite(c) or abs(c) > 10.0 * FARTHEST for end in ends for c in end):
        raise EditError("it is out of all bounds.", where, "Draw it within 10 km of the origin.")
    length = distance(*ends)
    if length < SHORTEST_WALL:
        raise EditError(
            f"it would be {format_length(length, project.units)} long.", where, "Draw at least 4 in (100 mm)."
        )
    upright(project, wall.foot, wall.head, where)
    check_spacing(wall.framing.spacing, where)
    graded(wall.framing.species, wall.framing.grade, where)
    graded(wall.framing.header_species, wall.framing.header_grade, where)
    if wall.head_under and not (wall.head_under in by_id(project.floors) or wall.head_under in by_id(project.roofs)):
        raise EditError(f"its head is fitted to '{wall.head_under}', which is not there.", where)
    if not 0.0 <= wall.cover <= 2000.0:
        raise EditError("its outer layers can reach 0 to 6 ft (2 m) below its foot.", where)


def check_crossings(project: Project) -> None:
    """Raise EditError unless no outside walls cross."""
    for first, second in crossing_walls(project):
        raise EditError(
            f"it crosses {wall_label(project, second)}.",
            wall_label(project, first),
            "Outside walls meet at corners; end it at the wall it meets.",
        )


def crossing_walls(project: Project) -> Iterable[tuple[str, str]]:
    """Yield pairs of outside walls of one storey that cross, the one drawn later first.

    Looked for by sweeping along x, so that many walls stay quick.
    """
    rows = []
    for number, wall in enumerate(project.walls):
        if wall.role == "outside":
            a, b = locate(wall.start, project.grids), locate(wall.end, project.grids)
            low, high = height(wall.foot, project.levels), height(wall.head, project.levels)
            rows.append((min(a[0], b[0]), max(a[0], b[0]), a, b, low, high, number))
    rows.sort(key=lambda row: row[0])
    near: list[Any] = []
    for row in rows:
        x, _, a, b, low, high, number = row
        near = [other for other in near if other[1] >= x]
        for _, _, c, d, other_low, other_high, other in near:
            apart = max(a[1], b[1]) < min(c[1], d[1]) or max(c[1], d[1]) < min(a[1], b[1])
            if apart or min(high, other_high) - max(low, other_low) <= 1.0:
                continue
            if segments_cross(a, b, c, d):
                yield project.walls[max(number, other)].id, project.walls[min(number, other)].id
        near.append(row)


def check_opening(project: Project, opening: Opening) -> None:
    """Raise EditError unless an opening lies within its wall."""
    wall = by_id(project.walls).get(opening.wall)
    if wall is None:
        raise EditError(f"its wall '{opening.wall}' is not there.", f"Opening {opening.id}")
    units = project.units
    where = f"{opening.kind.capitalize()} opening in {wall_label(project, wall.id)}"
    if opening.header is not None:
        named(section, opening.header, where)
    if opening.width < 50.0 or opening.height < 50.0:
        raise EditError("its width and height must be at least 2 in (50 mm).", where)
    length = distance(locate(wall.start, project.grids), locate(wall.end, project.grids))
    if opening.offset < 0.0 or opening.offset + opening.width > length + 0.01:
        raise EditError(
            f"it would run from {format_length(opening.offset, units)} to "
            f"{format_length(opening.offset + opening.width, units)}, "
            f"but the wall is {format_length(length, units)} long.",
            where,
            "Type a smaller width or offset.",
        )
    tall = height(wall.head, project.levels) - height(wall.foot, project.levels)
    if opening.sill < 0.0 or opening.sill + opening.height > tall + 0.01:
        raise EditError(
            f"its head would be {format_length(opening.sill + opening.height, units)} above the foot of the wall, "
            f"which is {format_length(tall, units)} tall.",
            where,
            "Type a lower sill or a smaller height.",
        )


def check_overlaps(project: Project) -> None:
    """Raise EditError unless no openings of a wall overlap."""
    by_wall: dict[str, list[Opening]] = {}
    for opening in project.openings:
        by_wall.setdefault(opening.wall, []).append(opening)
    for group in by_wall.values():
        for i, opening in enumerate(group):
            for other in group[:i]:
                _beside(project, opening, other)


def _beside(project: Project, opening: Opening, other: Opening) -> None:
    beside = (
        other.offset >= opening.offset + opening.width
        or opening.offset >= other.offset + other.width
        or other.sill >= opening.sill + opening.height
        or opening.sill >= other.sill + other.height
    )
    if not beside:
        raise EditError(
            f"it overlaps the {other.kind} opening at {format_length(other.offset, project.units)}.",
            f"{opening.kind.capitalize()} opening in {wall_label(project, opening.wall)}",
            "Move or narrow one of them.",
        )
