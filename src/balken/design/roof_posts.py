"""Posts set under ends of hips, valleys and ridge beams, and under purlins, each on the wall right below, else on the deck below, else on a
pad.
"""

import itertools
import math

import shapely

from balken.design.beam_posts import foot_of_posts, stood
from balken.framing.bands import wall_lines
from balken.geometry.plane import Point, add, distance, meet, off_line, unit
from balken.loads.seats import ASIDE
from balken.model.errors import EditError
from balken.model.lookup import height, locate, there
from balken.model.records import Hang, Project, Roof
from balken.units.system import FOOT

HELD = 300.0
"""No post is set nearer than this to another, mm."""
LOW = 600.0
"""A wall whose head lies no farther than this below what the roof bears on is right below, mm."""


def posts_under_roof(project: Project, roof_id: str, *ends: tuple[float, float, float]) -> Project:
    """Set posts under places of a roof (x, y and how far over its bearing, mm); raises EditError."""
    roof: Roof = there(project.roofs, roof_id)
    if not ends:
        raise EditError("no end of a hip, valley or ridge wants a post.", roof.name)
    for x, y, z in ends:
        head = Hang(level=roof.bearing.level, offset=round(roof.bearing.offset + max(z, 1.0 * FOOT), 1))
        foot, on_pads = _foot(project, roof, (x, y))
        project = stood(project, [(x, y)], foot, head, on_pads)
    return project


Ends = tuple[Point, Point, float]
"""Where the posts under the ends of a purlin stand, and how far over the bearing it is there, mm."""


def posts_under_purlins(project: Project, roof_id: str, lines: tuple[Ends, ...], most: float) -> Project:
    """Set posts under purlins: at their ends, over every bearing wall that they cross, and between so that none is farther from the next
    than ``most``, mm; raises EditError.
    """
    roof: Roof = there(project.roofs, roof_id)
    if not 300.0 <= most <= 30_000.0:
        raise EditError("posts must be 1 to 100 ft (0.3 to 30 m) apart.", roof.name, "Type such as 8 ft.")
    places: list[tuple[float, float, float]] = []
    for start, end, z in lines:
        places += [(*add(start, unit(start, end), s), z) for s in _stations(project, roof, start, end, most)]
    taken = [locate(c.place, project.grids) for c in project.columns]
    free = [p for p in places if all(distance(p[:2], at) > HELD for at in taken)]
    if not free:
        raise EditError("posts stand under its purlins as close as that already.", roof.name)
    return posts_under_roof(project, roof_id, *free)


def _stations(project: Project, roof: Roof, start: Point, end: Point, most: float) -> list[float]:
    """Return where along a purlin posts stand, mm."""
    bearing, long = height(roof.bearing, project.levels), distance(start, end)
    marks = [0.0, long]
    for line in wall_lines(project.walls, project.buildups, project.grids, project.levels).values():
        below = bearing - line.band.top
        if line.wall.role == "divides" or not -1.0 < below <= LOW:
            continue
        middle = sum(line.core) / 2.0
        a, b = line.band.at(0.0, middle), line.band.at(line.band.length, middle)
        at = meet(start, unit(start, end), a, unit(a, b))
        if at is None:
            continue
        s, along = off_line(at, start, end)[0], off_line(at, a, b)[0]
        if 0.0 <= along <= line.band.length and all(abs(s - m) > HELD for m in marks) and 0.0 < s < long:
            marks.append(s)
    marks.sort()
    more = []
    for low, high in itertools.pairwise(marks):
        bays = math.ceil((high - low) / most - 1e-6)
        more += [low + (high - low) * k / bays for k in range(1, bays)]
    return sorted((*marks, *more))


def _foot(project: Project, roof: Roof, at: Point) -> tuple[Hang, Hang | None]:
    bearing = height(roof.bearing, project.levels)
    for line in wall_lines(project.walls, project.buildups, project.grids, project.levels).values():
        along, _ = off_line(at, line.band.start, line.band.end)
        near, far = (line.band.at(along, depth) for depth in line.core)
        core = shapely.LineString([near, far]).buffer(ASIDE / 2.0)
        below = bearing - line.band.top
        bears = line.wall.role != "divides" and 0.0 <= along <= line.band.length and -1.0 < below <= LOW
        if bears and core.covers(shapely.Point(at)):
            return Hang(level=roof.bearing.level, offset=round(roof.bearing.offset - below, 1)), None
    return foot_of_posts(project, "", bearing, [at])
