"""Walls in plan as bands of layers, and how the bands meet at corners and tees.

At a corner the wall that ends there runs through and the one that starts there butts against
it, layer by layer, so that no volume is counted twice.  At a tee the wall stops at the face it
meets.
"""

from dataclasses import dataclass

from balken.geometry.plane import TOUCH, Point, add, distance, left, meet, off_line, sub, unit
from balken.model.buildups import core_band, set_out_depth, sheathing_face, thickness
from balken.model.lookup import by_id, height, locate
from balken.model.records import BuildUp, Grid, Level, Wall


@dataclass(frozen=True, slots=True)
class Band:
    """Parallel layers along a set-out line; depths in mm from the wall's outside face, inward.

    ``set_out``: depth of the line start-end itself. ``layers``: (outer, inner) depth of each.
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

    def at(self, along: float, depth: float) -> Point:
        """Return the plan point ``along`` mm from the start at a depth."""
        return add(add(self.start, self.direction, along), self.inward, depth - self.set_out)

    @property
    def length(self) -> float:
        """Length of the set-out line, mm."""
        return distance(self.start, self.end)


@dataclass(frozen=True, slots=True)
class WallLine:
    """A wall with its places, heights and build-up resolved."""

    wall: Wall
    buildup: BuildUp
    band: Band
    core: tuple[float, float]
    sheathing: float

    @property
    def thickness(self) -> float:
        """Total thickness, mm."""
        return self.band.layers[-1][1]

    def strip(self, suffix: str, near: float, far: float, bottom: float, top: float) -> Band:
        """Return another band on the same set-out line, such as the foundation wall below."""
        b = self.band
        return Band(
            f"{b.id}{suffix}", b.start, b.end, b.direction, b.inward, b.set_out, ((near, far),), bottom, top, b.outside
        )


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
    )
    assert abs(thickness(buildup) - depth) < 1e-6
    return WallLine(wall, buildup, band, core_band(buildup), sheathing_face(buildup))


def wall_lines(
    walls: tuple[Wall, ...], buildups: tuple[BuildUp, ...], grids: tuple[Grid, ...], levels: tuple[Level, ...]
) -> dict[str, WallLine]:
    """Resolve all walls, by id."""
    known = by_id(buildups)
    return {wall.id: wall_line(wall, known[wall.buildup], grids, levels) for wall in walls}


Stretches = tuple[tuple[float, float], ...]


def stretches(bands: list[Band]) -> dict[str, Stretches]:
    """Return for each band, layer by layer, from where to where it runs along its set-out line (mm)."""
    corners: dict[tuple[int, int], list[tuple[Band, bool]]] = {}
    for band in bands:
        for point, at_end in ((band.start, False), (band.end, True)):
            corners.setdefault((round(point[0] / TOUCH), round(point[1] / TOUCH)), []).append((band, at_end))
    found: dict[str, Stretches] = {}
    for band in bands:
        starts = _limits(band, False, _partner(band, False, corners), bands)
        ends = _limits(band, True, _partner(band, True, corners), bands)
        found[band.id] = tuple((min(a, b - 1.0), b) for a, b in zip(starts, ends, strict=True))
    return found


def _overlap(a: Band, b: Band) -> bool:
    return min(a.top, b.top) - max(a.bottom, b.bottom) > 1.0


def _partner(
    band: Band, at_end: bool, corners: dict[tuple[int, int], list[tuple[Band, bool]]]
) -> tuple[Band, bool] | None:
    """Return the band it makes a corner with at that end, and whether that one ends there."""
    point = band.end if at_end else band.start
    cell = (round(point[0] / TOUCH), round(point[1] / TOUCH))
    near = [
        (other, other_end)
        for other, other_end in corners[cell]
        if other is not band
        and other.outside == band.outside
        and _overlap(band, other)
        and abs(band.direction[0] * other.direction[1] - band.direction[1] * other.direction[0]) > 0.02
    ]
    return near[0] if near else None


def _limits(band: Band, at_end: bool, partner: tuple[Band, bool] | None, bands: list[Band]) -> list[float]:
    plain = band.length if at_end else 0.0
    if partner is not None:
        other, other_end = partner
        through = at_end if at_end != other_end else band.id < other.id
        found = []
        for i, layer in enumerate(band.layers):
            near, far = _matching(band, other, i)
            found.append(_reach(band, layer, other, near if through else far, plain))
        return found
    point = band.end if at_end else band.start
    far_point = band.start if at_end else band.end
    for other in bands:
        if other is band or not _overlap(band, other):
            continue
        along, _ = off_line(point, other.start, other.end)
        depth = _depth(other, point)
        last = other.layers[-1][1]
        if -TOUCH <= along <= other.length + TOUCH and other.layers[0][0] - TOUCH <= depth <= last + TOUCH:
            middle = (other.layers[0][0] + last) / 2.0
            face = last if _depth(other, far_point) > middle else other.layers[0][0]
            return [_reach(band, layer, other, face, plain) for layer in band.layers]
    return [plain] * len(band.layers)


def _depth(band: Band, point: Point) -> float:
    r = sub(point, band.start)
    return r[0] * band.inward[0] + r[1] * band.inward[1] + band.set_out


def _matching(band: Band, other: Band, index: int) -> tuple[float, float]:
    """Return the layer of ``other`` that continues layer ``index`` of ``band`` round a corner."""
    if len(band.layers) == len(other.layers):
        return other.layers[index]
    if index == 0:
        return other.layers[0]
    return other.layers[max(0, len(other.layers) - (len(band.layers) - index))]


def _reach(band: Band, layer: tuple[float, float], other: Band, depth: float, plain: float) -> float:
    middle = band.at(0.0, (layer[0] + layer[1]) / 2.0)
    point = meet(middle, band.direction, other.at(0.0, depth), other.direction)
    if point is None:
        return plain
    along = (point[0] - middle[0]) * band.direction[0] + (point[1] - middle[1]) * band.direction[1]
    return along if abs(along - plain) < 3000.0 else plain
