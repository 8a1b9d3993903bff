"""Inside bearing walls that trusses bear on between the walls at their ends."""

from collections.abc import Mapping, Sequence

from msgspec.structs import replace

from balken.framing.bands import WallLine
from balken.framing.truss_layout import BOARD, TrussPlace
from balken.geometry.plane import Point
from balken.model.records import Roof
from balken.units.system import INCH
from balken.value import Value

LEVEL = 1.0
"""A wall bears whose head lies no farther than this from that of the roof's walls, mm."""
FROM_END = 24.0 * INCH
"""Nearer to the ends nothing is made to bear: those walls are told as touched."""
APART = 24.0 * INCH
"""Nor nearer to another wall inside."""


class InsideWall(Value, frozen=True):
    """A wall that may bear: both faces of its core in plan, from its start to its end."""

    wall: str
    faces: tuple[tuple[Point, Point], tuple[Point, Point]]


def inside_walls(roof: Roof, bearing: float, lines: Mapping[str, WallLine]) -> tuple[InsideWall, ...]:
    """Return the inside bearing walls on which a roof's trusses can bear; none where they are not to."""
    if not roof.trusses.inner or roof.framed != "trusses" or not roof.trusses.level:
        return ()
    found = []
    for name, line in lines.items():
        band = line.band
        if name in roof.walls or line.wall.role != "bearing" or abs(band.top - bearing) > LEVEL:
            continue
        near, far = ((band.at(0.0, depth), band.at(band.length, depth)) for depth in line.core)
        found.append(InsideWall(name, (near, far)))
    return tuple(found)


def bearing_inside(place: TrussPlace, wide: float, walls: Sequence[InsideWall]) -> TrussPlace:
    """Return a truss square to the eaves, ``wide`` mm from wall to wall, with what it bears on inside: walls that run on under all of its
    thickness, no nearer to its ends or to one another than a plate needs.
    """
    if place.gable or not walls:
        return place
    rows = sorted(row for wall in walls if (row := _crossed(place, wall)) is not None)
    kept: list[tuple[float, float, str]] = []
    for low, high, name in rows:
        if low >= FROM_END and high <= wide - FROM_END and (not kept or low - kept[-1][1] >= APART):
            kept.append((low, high, name))
    return replace(place, inner=tuple(kept)) if kept else place


def _crossed(place: TrussPlace, wall: InsideWall) -> tuple[float, float, str] | None:
    """Return from where to where a truss lies on a wall; None where it does not lie on it with all its thickness."""
    xs = []
    for a, b in wall.faces:
        (s0, t0), (s1, t1) = place.frame.to(a), place.frame.to(b)
        if min(t0, t1) > place.t - BOARD or max(t0, t1) < place.t + BOARD:
            return None
        xs.append(s0 + (s1 - s0) * (place.t - t0) / (t1 - t0) - place.start)
    return round(min(xs), 6), round(max(xs), 6), wall.wall
