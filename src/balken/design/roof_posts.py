"""Posts set under ends of hips, valleys and ridge beams, each on the wall right below, else on the deck below, else on a pad."""

import shapely

from balken.design.beam_posts import foot_of_posts, stood
from balken.framing.bands import wall_lines
from balken.geometry.plane import Point, off_line
from balken.loads.seats import ASIDE
from balken.model.errors import EditError
from balken.model.lookup import height, there
from balken.model.records import Hang, Project, Roof
from balken.units.system import FOOT

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
