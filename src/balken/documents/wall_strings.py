"""Dimension strings outside the building: openings and corners, wall lengths, overall; and what they clear.

On each side of the building the strings stand outside all of it, row behind row, so that none can
run into a wing or into another string.  Openings in walls that lie behind others have a string of
their own beside their wall.
"""

from balken.derived.model import Model
from balken.documents.dimensions import dimension_string
from balken.documents.display import Item
from balken.documents.side_strings import (
    CLOSEST,
    NEAREST,
    SIDES,
    Box,
    Face,
    OutsideStrings,
    Span,
    axes_across,
    main_frame,
    merged,
    rows_beyond,
    seen,
)
from balken.framing.bands import Band, WallLine
from balken.framing.frames import Frame
from balken.geometry.plane import Point, bounds
from balken.model.records import Strings
from balken.value import Value


class _Facing(Value, frozen=True):
    """A wall seen from one side: its face, its openings from where to where."""

    line: WallLine
    face: Face
    openings: tuple[Span, ...]


def outside_strings(model: Model, walls: tuple[str, ...], scale: float) -> OutsideStrings:
    """Return the strings round the outside walls among those named, to be read at 1:``scale``."""
    lines = [model.lines[w] for w in walls if model.lines[w].band.outside]
    wanted = model.project.strings
    if not lines or not (wanted.openings or wanted.walls or wanted.overall):
        return OutsideStrings((), Frame(0.0), None)
    frame = main_frame([line.band for line in lines])
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


def no_strings(model: Model, beyond: float = 0.0) -> OutsideStrings:
    """Return no strings, but how far the building reaches (and ``beyond`` it, mm), so that the grid's stand outside."""
    lines = [line for line in model.lines.values() if line.band.outside]
    if not lines:
        return OutsideStrings((), Frame(0.0), None)
    frame = main_frame([line.band for line in lines])
    x0, y0, x1, y1 = bounds([frame.to(p) for line in lines for p in _face(line.band)])
    return OutsideStrings((), frame, (x0 - beyond, y0 - beyond, x1 + beyond, y1 + beyond))


def _face(band: Band) -> tuple[Point, Point]:
    """Return the ends of the outer face of the core."""
    depth = band.layers[band.core[0]][0]
    return band.at(0.0, depth), band.at(band.length, depth)


def _aligned(band: Band, frame: Frame) -> bool:
    s, t = frame.s, band.direction
    return min(abs(s[0] * t[0] + s[1] * t[1]), abs(s[0] * t[1] - s[1] * t[0])) < 0.01


def _facing(model: Model, lines: list[WallLine], frame: Frame, side: int) -> list[_Facing]:
    across, sign = SIDES[side]
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
        found.append(_Facing(line, Face(low, high, sign * start[across]), openings))  # type: ignore[arg-type]
    return found


def _side(
    model: Model, facing: list[_Facing], frame: Frame, side: int, box: Box, wanted: Strings, scale: float
) -> tuple[list[Item], float]:
    across, sign = SIDES[side]
    corners: set[float] = set()
    jambs: set[float] = set()
    items: list[Item] = []
    faces = [wall.face for wall in facing]
    for wall in facing:
        free = seen(wall.face, faces)
        corners |= {x for a, b in free for x in (a, b)}
        shown = [o for o in wall.openings if any(a - 1.0 <= sum(o) / 2.0 <= b + 1.0 for a, b in free)]
        jambs |= {x for o in shown for x in o}
        if wanted.openings and len(shown) < len(wall.openings):
            items += _beside(model, wall.line, scale, True)
    ends = (box[1 - across], box[3 - across])
    rows: list[list[float]] = []
    if wanted.openings and jambs:
        rows.append(merged([*corners, *jambs]))
    if wanted.walls and len(merged([*corners])) > 2:
        rows.append(merged([*corners]))
    axes = axes_across(model.project.grids, frame, across)
    if wanted.overall:
        rows.append([axes[0], axes[-1]] if wanted.to == "axes" and len(axes) > 1 else list(ends))
    edge = box[across] if sign < 0 else box[across + 2]
    spaces = max(wanted.first, NEAREST * scale), max(wanted.between, CLOSEST * scale)
    ref = facing[0].line.wall.id if len(facing) == 1 else ""
    made, far = rows_beyond(rows, frame, side, edge, spaces, model.project.units, scale, "walls", ref, axes)
    return [*items, *made], far


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
