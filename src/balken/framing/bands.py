"""Walls in plan as bands of layers along a set-out line, with places, heights and build-up resolved."""

from msgspec import structs
from msgspec.structs import replace

from balken.geometry.plane import Point, distance, left, unit
from balken.model.buildups import core_band, set_out_depth, sheathing_face, thickness
from balken.model.lookup import by_id, height, locate
from balken.model.records import BuildUp, FreePoint, Grid, Level, Wall
from balken.remembered import remembered
from balken.value import Value

EXACT = 6
"""Places along walls are rounded to this many digits of a mm, so that they stay equal where a wall only moves."""
NOWHERE = FreePoint(x=0.0, y=0.0)


class Band(Value, frozen=True):
    """Parallel layers along a set-out line; depths in mm from the wall's outside face, inward.

    ``set_out``: depth of the line start-end itself. ``layers``: (outer, inner) depth of each, and
    ``core`` the numbers of the first and last core layer.
    """

    id: str
    start: Point
    end: Point
    direction: Point
    inward: Point
    set_out: float
    layers: tuple[tuple[float, float], ...]
    bottom: float
    top: float
    outside: bool
    core: tuple[int, int] = (0, 0)

    def at(self, along: float, depth: float) -> Point:
        """Return the plan point ``along`` mm from the start at a depth."""
        (x, y), (dx, dy), (ix, iy), aside = self.start, self.direction, self.inward, depth - self.set_out
        return (x + along * dx + aside * ix, y + along * dy + aside * iy)

    @property
    def length(self) -> float:
        """Length of the set-out line, mm."""
        return distance(self.start, self.end)


BEAM = "beam"
"""The build-up of beams that are sides of roofs (``roof_beams``)."""


class WallLine(Value, frozen=True):
    """A wall with its places, heights and build-up resolved."""

    wall: Wall
    buildup: BuildUp
    band: Band
    core: tuple[float, float]
    sheathing: float

    @property
    def is_beam(self) -> bool:
        """Whether it is a beam as the side of a roof: nothing runs up from it."""
        return self.buildup.id == BEAM

    @property
    def thickness(self) -> float:
        """Total thickness, mm."""
        return self.band.layers[-1][1]

    def by_itself(self) -> "WallLine":
        """Return the wall as it would be at the origin along x; a wall that only moves stays equal in this.

        What does not look at where a wall stands is made from it, and not again when the wall moves.
        """
        return _by_itself(self)

    def strip(self, suffix: str, near: float, far: float, bottom: float, top: float) -> Band:
        """Return another band on the same set-out line, such as the foundation wall below."""
        b = self.band
        return Band(
            f"{b.id}{suffix}", b.start, b.end, b.direction, b.inward, b.set_out, ((near, far),), bottom, top, b.outside
        )


@remembered(20_000)
def _by_itself(line: WallLine) -> WallLine:
    inward = (0.0, 1.0 if line.wall.outside == "right" else -1.0)
    end = (round(line.band.length, EXACT), 0.0)
    band = replace(line.band, start=(0.0, 0.0), end=end, direction=(1.0, 0.0), inward=inward)
    return replace(line, wall=structs.replace(line.wall, start=NOWHERE, end=NOWHERE), band=band)


def _core_numbers(buildup: BuildUp) -> tuple[int, int]:
    found = [i for i, layer in enumerate(buildup.layers) if layer.function == "core"]
    return found[0], found[-1]


def wall_line(wall: Wall, buildup: BuildUp, grids: tuple[Grid, ...], levels: tuple[Level, ...]) -> WallLine:
    """Resolve a wall; raises KeyError when a reference is gone."""
    start, end = locate(wall.start, grids), locate(wall.end, grids)
    direction = unit(start, end)
    aside = left(direction)
    inward = aside if wall.outside == "right" else (-aside[0], -aside[1])
    depth, layers = 0.0, []
    for layer in buildup.layers:
        layers.append((depth, depth + layer.thickness))
        depth += layer.thickness
    band = Band(
        wall.id,
        start,
        end,
        direction,
        inward,
        set_out_depth(buildup, wall.set_out),
        tuple(layers),
        height(wall.foot, levels),
        height(wall.head, levels),
        wall.role == "outside",
        _core_numbers(buildup),
    )
    assert abs(thickness(buildup) - depth) < 1e-6
    return WallLine(wall, buildup, band, core_band(buildup), sheathing_face(buildup))


def wall_lines(
    walls: tuple[Wall, ...], buildups: tuple[BuildUp, ...], grids: tuple[Grid, ...], levels: tuple[Level, ...]
) -> dict[str, WallLine]:
    """Resolve all walls, by id."""
    known = by_id(buildups)
    return {wall.id: _line(wall, known[wall.buildup], grids, levels) for wall in walls}


_line = remembered(20_000)(wall_line)
