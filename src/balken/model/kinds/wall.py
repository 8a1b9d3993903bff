"""Walls: straight, from start to end along a set-out line, with their framing."""

import math
from collections.abc import Iterable
from typing import TYPE_CHECKING, Annotated, Literal

import numpy as np
import shapely

from balken.geometry.plane import distance, segments_cross
from balken.model.base import Hang, Place, Record, To
from balken.model.errors import EditError
from balken.model.kinds.kind import Kind
from balken.model.places import by_id, height, locate, wall_label
from balken.model.rule_parts import (
    FARTHEST,
    SHORTEST_WALL,
    check_spacing,
    graded,
    placed,
    upright,
)
from balken.units import say_length
from balken.units.system import INCH

if TYPE_CHECKING:
    from balken.model.records import Project


class Framing(Record, frozen=True, kw_only=True):
    """How a wall with a core of studs is framed; ``spacing`` None means Balken chooses ("auto").

    Studs are spaced on centre from the ``count_from`` end.  ``balloon``: studs run from foot to head
    past every floor between, which then bears on a ribbon let into them.
    """

    species: str = "DF-L"
    grade: str = "Stud"
    spacing: float | None = 16.0 * INCH
    count_from: Literal["start", "end"] = "start"
    balloon: bool = False
    header_species: str = "DF-L"
    header_grade: str = "No. 2"


SetOut = Literal["outside", "core outside", "centre", "core inside", "inside"]
WallRole = Literal["outside", "bearing", "divides"]


class Wall(Record, frozen=True, kw_only=True):
    """A straight wall from start to end along its set-out line.

    ``head_under``: id of the floor or roof to whose underside the head is fitted; ``head`` then only
    serves until that is known.  ``cover``: how far cladding and sheathing reach down below the foot,
    over the edge of the floor.  ``source``: identifier in the file it was read from.
    """

    id: str
    start: Place
    end: Place
    buildup: Annotated[str, To(("buildups",), "keep")]
    foot: Hang
    head: Hang
    set_out: SetOut = "core outside"
    outside: Literal["right", "left"] = "right"
    role: WallRole = "outside"
    framing: Framing = Framing()
    head_under: Annotated[str, To(("floors", "roofs"), "clear")] = ""
    cover: float = 0.0
    source: str = ""


def check_wall(project: "Project", wall: Wall) -> None:
    """Raise EditError unless a wall stands upright, has a length, and what it hangs on is there."""
    where = wall_label(project, wall.id)
    if wall.buildup not in by_id(project.buildups):
        raise EditError(f"its build-up '{wall.buildup}' is not there.", where, "Choose a build-up.")
    ends = (placed(project, wall.start, where), placed(project, wall.end, where))
    if any(not math.isfinite(c) or abs(c) > 10.0 * FARTHEST for end in ends for c in end):
        raise EditError("it is out of all bounds.", where, "Draw it within 10 km of the origin.")
    length = distance(*ends)
    if length < SHORTEST_WALL:
        raise EditError(f"it would be {say_length(length, project.units)} long.", where, "Draw at least 4 in (100 mm).")
    upright(project, wall.foot, wall.head, where)
    check_spacing(wall.framing.spacing, where)
    graded(wall.framing.species, wall.framing.grade, where)
    graded(wall.framing.header_species, wall.framing.header_grade, where)
    if wall.head_under and not (wall.head_under in by_id(project.floors) or wall.head_under in by_id(project.roofs)):
        raise EditError(f"its head is fitted to '{wall.head_under}', which is not there.", where)
    if not 0.0 <= wall.cover <= 2000.0:
        raise EditError("its outer layers can reach 0 to 6 ft (2 m) below its foot.", where)


def check_crossings(project: "Project") -> None:
    """Raise EditError unless no outside walls cross."""
    for first, second in crossing_walls(project):
        raise EditError(
            f"it crosses {wall_label(project, second)}.",
            wall_label(project, first),
            "Outside walls meet at corners; end it at the wall it meets.",
        )


def crossing_walls(project: "Project") -> Iterable[tuple[str, str]]:
    """Yield pairs of outside walls of one storey that cross, the one drawn later first.

    Only those are compared whose boxes meet, so that many walls stay quick.
    """
    rows = []
    for number, wall in enumerate(project.walls):
        if wall.role == "outside":
            a, b = locate(wall.start, project.grids), locate(wall.end, project.grids)
            low, high = height(wall.foot, project.levels), height(wall.head, project.levels)
            rows.append((min(a[0], b[0]), a, b, low, high, number))
    rows.sort(key=lambda row: row[0])
    if len(rows) < 2:
        return
    ends = np.array([(*a, *b) for _, a, b, *_ in rows])
    boxes = shapely.box(*(f(ends[:, k], ends[:, k + 2]) for f in (np.minimum, np.maximum) for k in (0, 1)))
    first, second = shapely.STRtree(boxes).query(boxes)
    for i, j in sorted(zip(*(side[second < first].tolist() for side in (first, second)), strict=True)):
        (_, a, b, low, high, number), (_, c, d, other_low, other_high, other) = rows[i], rows[j]
        if min(high, other_high) - max(low, other_low) > 1.0 and segments_cross(a, b, c, d):
            yield project.walls[max(number, other)].id, project.walls[min(number, other)].id


KIND = Kind(Wall, "walls", "wall", "wall", "walls", check_wall, (check_crossings,))
