"""Dimension strings outside the building: openings and corners, wall lengths, overall; and what they clear.

On each side of the building the strings stand outside all of it, row behind row, so that none can
run into a wing or into another string.  Openings in walls that lie behind others have a string of
their own beside their wall.
"""

import math
from dataclasses import dataclass

from balken.derive import Model
from balken.documents.dimensions import dimension_string
from balken.documents.display import Item
from balken.framing.bands import Band, WallLine
from balken.framing.frames import Frame
from balken.geometry.plane import Point, bounds
from balken.model.lookup import axis_positions, grid_point
from balken.model.records import Grid, Strings

NEAREST = 9.0
CLOSEST = 9.5
"""Paper mm that the first string keeps from the wall, and one string from the next."""


@dataclass(frozen=True, slots=True)
class _Facing:
    """A wall seen from one side: from where to where, how far out, its openings."""

    line: WallLine
    low: float
    high: float
    out: float
    openings: tuple[tuple[float, float], ...]


@dataclass(frozen=True, slots=True)
class OutsideStrings:
    """The strings, and how far they reach: (least x, least y, greatest x, greatest y) in ``frame``."""

    items: tuple[Item, ...]
    frame: Frame
    reach: tuple[float, float, float, float] | None


def outside_strings(model: Model, walls: tuple[str, ...], scale: float) -> OutsideStrings:
    """Return the strings round the outside walls among those named, to be read at 1:``scale``."""
    lines = [model.lines[w] for w in walls if model.lines[w].band.outside]
    wanted = model.project.strings
    if not lines or not (wanted.openings or wanted.walls or wanted.overall):
        return OutsideStrings((), Frame(0.0), None)
    frame = _main_frame(lines)
    ring = [frame.to(p) for line in lines for p in _face(line.band)]
    box = bounds(ring)
    items: list[Item] = []
    reach = list(box)
    for side in range(4):
        facing = _facing(model, lines, frame, side)
        made, far = _side(model, facing, frame, side, box, wanted, scale)
        items += made
        reach[(1, 2, 3, 0)[side]] = far
    for line in lines:
        if not _aligned(line.band, frame):
            items += _beside(model, line, scale, False)
    return OutsideStrings(tuple(items), frame, (reach[0], reach[1], reach[2], reach[3]))


def no_strings(model: Model) -> OutsideStrings:
    """Return no strings, but how far the building itself reaches, so that the grid's stand outside it."""
    lines = [line for line in model.lines.values() if line.band.outside]
    if not lines:
        return OutsideStrings((), Frame(0.0), None)
    frame = _main_frame(lines)
    return OutsideStrings((), frame, bounds([frame.to(p) for line in lines for p in _face(line.band)]))


def _main_frame(lines: list[WallLine]) -> Frame:
    """Return the frame along the longest wall."""
    longest = max(lines, key=lambda v: v.band.length).band
    angle = round(math.degrees(math.atan2(longest.direction[1], longest.direction[0])), 6) % 90.0
    return Frame(0.0 if angle > 89.999 else angle)


def _face(band: Band) -> tuple[Point, Point]:
    """Return the ends of the outer face of the core."""
    depth = band.layers[band.core[0]][0]
    return band.at(0.0, depth), band.at(band.length, depth)


def _aligned(band: Band, frame: Frame) -> bool:
    s, t = frame.s, band.direction
    return min(abs(s[0] * t[0] + s[1] * t[1]), abs(s[0] * t[1] - s[1] * t[0])) < 0.01


_OUT = ((1, -1.0), (0, 1.0), (1, 1.0), (0, -1.0))
"""Coordinate and sign of outward for the sides below, right, above, left."""


def _facing(model: Model, lines: list[WallLine], frame: Frame, side: int) -> list[_Facing]:
    across, sign = _OUT[side]
    along = 1 - across
    found = []
    for line in lines:
        b = line.band
        inward = frame.to(b.inward)
        if not _aligned(b, frame) or inward[across] * sign > -0.5:
            continue
        start, end = (frame.to(p) for p in _face(b))
        way = 1.0 if end[along] > start[along] else -1.0
        openings = tuple(
            tuple(sorted((start[along] + way * o.offset, start[along] + way * (o.offset + o.width))))
            for o in model.project.openings
            if o.wall == line.wall.id
        )
        low, high = sorted((start[along], end[along]))
        found.append(_Facing(line, low, high, sign * start[across], openings))  # type: ignore[arg-type]
    return found


def _seen(facing: _Facing, others: list[_Facing]) -> list[tuple[float, float]]:
    """Return the stretches of a wall that no wall farther out hides."""
    free = [(facing.low, facing.high)]
    for other in others:
        if other.out > facing.out + 100.0:
            free = [
                (u, v) for a, b in free for u, v in ((a, min(b, other.low)), (max(a, other.high), b)) if v - u > 50.0
            ]
    return free


def _side(
    model: Model,
    facing: list[_Facing],
    frame: Frame,
    side: int,
    box: tuple[float, float, float, float],
    wanted: Strings,
    scale: float,
) -> tuple[list[Item], float]:
    across, sign = _OUT[side]
    corners: set[float] = set()
    jambs: set[float] = set()
    items: list[Item] = []
    for wall in facing:
        seen = _seen(wall, facing)
        corners |= {x for a, b in seen for x in (a, b)}
        shown = [o for o in wall.openings if any(a - 1.0 <= sum(o) / 2.0 <= b + 1.0 for a, b in seen)]
        jambs |= {x for o in shown for x in o}
        if wanted.openings and len(shown) < len(wall.openings):
            items += _beside(model, wall.line, scale, True)
    ends = (box[1 - across], box[3 - across])
    rows: list[list[float]] = []
    if wanted.openings and jambs:
        rows.append(_merged(sorted(corners | jambs)))
    if wanted.walls and len(_merged(sorted(corners))) > 2:
        rows.append(_merged(sorted(corners)))
    if wanted.overall:
        rows.append(list(_axis_ends(model, frame, across) or ends) if wanted.to == "axes" else list(ends))
    edge = box[across] if sign < 0 else box[across + 2]
    far = edge
    for i, row in enumerate(rows):
        first, between = max(wanted.first, NEAREST * scale), max(wanted.between, CLOSEST * scale)
        far = edge + sign * (first + i * between)
        origin = frame.back(0.0, far) if across == 1 else frame.back(far, 0.0)
        direction = frame.s if across == 1 else frame.t
        outward = sign if across == 1 else -sign
        ref = facing[0].line.wall.id if len(facing) == 1 else ""
        items += dimension_string(row, origin, direction, outward * 1e-6, model.project.units, scale, "walls", 3.0, ref)
    return items, far


def _merged(stations: list[float]) -> list[float]:
    kept: list[float] = []
    for s in stations:
        if not kept or s - kept[-1] > 5.0:
            kept.append(s)
    return kept


def _axis_ends(model: Model, frame: Frame, across: int) -> tuple[float, float] | None:
    """Return the first and last axis one way, of the grids set the same way."""
    places: list[float] = []
    for grid in model.project.grids:
        turned = (grid.angle - frame.angle) % 360.0
        if grid.kind == "square" and min(turned, 360.0 - turned) < 0.01:
            axes = grid.x_axes if across == 1 else grid.y_axes
            for at in axis_positions(axes):
                point = frame.to(grid_point(grid, *((at, 0.0) if across == 1 else (0.0, at))))
                places.append(point[1 - across])
    return (min(places), max(places)) if len(places) > 1 else None


def _beside(model: Model, line: WallLine, scale: float, hidden: bool) -> list[Item]:
    """Return a string along one wall, outside it: of a skew wall, or of openings behind another wall."""
    b = line.band
    cuts = [s for o in model.project.openings if o.wall == line.wall.id for s in (o.offset, o.offset + o.width)]
    if hidden and not cuts:
        return []
    strings = model.project.strings
    out = -1.0 if line.wall.outside == "right" else 1.0
    clear = b.set_out + max(strings.first, NEAREST * scale)
    stations = [0.0, b.length, *cuts] if strings.openings else [0.0, b.length]
    return dimension_string(
        stations, b.start, b.direction, out * clear, model.project.units, scale, "walls", 3.0, line.wall.id
    )


def clear_of(grid: Grid, strings: OutsideStrings) -> tuple[float, float]:
    """Return how far the strings reach out below and to the left of a grid's first axes, mm."""
    turned = (grid.angle - strings.frame.angle) % 360.0
    if strings.reach is None or grid.kind != "square" or min(turned, 360.0 - turned) > 0.01:
        return 0.0, 0.0
    x0, y0 = strings.frame.to(grid_point(grid, 0.0, 0.0))
    return max(y0 - strings.reach[1], 0.0), max(x0 - strings.reach[0], 0.0)
