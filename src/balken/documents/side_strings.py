"""What strings round a building share: what is seen from each side of it, rows of dimensions one beyond the other."""

import math
from collections.abc import Sequence

from balken.documents.dimensions import LEVEL, dimension_string, figure_levels
from balken.documents.display import Item, Layer
from balken.framing.bands import Band
from balken.framing.frames import Frame
from balken.model.lookup import axis_positions, grid_point
from balken.model.records import Grid
from balken.units import Units
from balken.value import Value

NEAREST = 9.0
CLOSEST = 9.5
"""Paper mm that the first string keeps from the wall, and one string from the next."""
SIDES = ((1, -1.0), (0, 1.0), (1, 1.0), (0, -1.0))
"""Coordinate and sign of outward for the sides below, right, above, left."""
Span = tuple[float, float]
Box = tuple[float, float, float, float]


class Face(Value, frozen=True):
    """A face seen from one side: from where to where along it, and how far out it stands, mm."""

    low: float
    high: float
    out: float


class OutsideStrings(Value, frozen=True):
    """The strings, and how far they reach: (least x, least y, greatest x, greatest y) in ``frame``."""

    items: tuple[Item, ...]
    frame: Frame
    reach: Box | None


def main_frame(bands: Sequence[Band]) -> Frame:
    """Return the frame along the longest wall."""
    longest = max(bands, key=lambda b: b.length)
    angle = round(math.degrees(math.atan2(longest.direction[1], longest.direction[0])), 6) % 90.0
    return Frame(0.0 if angle > 89.999 else angle)


def seen(face: Face, others: Sequence[Face]) -> list[Span]:
    """Return the stretches of a face that none farther out hides."""
    free = [(face.low, face.high)]
    for other in others:
        if other.out > face.out + 100.0:
            free = [
                (u, v) for a, b in free for u, v in ((a, min(b, other.low)), (max(a, other.high), b)) if v - u > 50.0
            ]
    return free


def joined(faces: Sequence[Face]) -> list[Face]:
    """Return faces with those that go on from one another nearly in line (a jog of up to 60 mm) made one."""
    found: list[Face] = []
    for face in sorted(faces, key=lambda f: f.low):
        before = next((f for f in found if abs(f.out - face.out) < 60.0 and abs(f.high - face.low) < 60.0), None)
        if before is None:
            found.append(face)
        else:
            found[found.index(before)] = Face(before.low, face.high, max(before.out, face.out))
    return found


def merged(stations: Sequence[float]) -> list[float]:
    """Return rising stations without those nearer than 5 mm to the one before."""
    kept: list[float] = []
    for s in sorted(stations):
        if not kept or s - kept[-1] > 5.0:
            kept.append(s)
    return kept


def rows_beyond(
    rows: Sequence[list[float]],
    frame: Frame,
    side: int,
    edge: float,
    spaces: tuple[float, float],
    units: Units,
    scale: float,
    layer: Layer,
    ref: str = "",
    crossed: Sequence[float] = (),
) -> tuple[list[Item], float]:
    """Return rows of dimensions beyond an edge, the first nearest, and how far out the last one reaches.

    ``spaces``: what the first keeps from the edge, and each from the one before, mm; ``crossed``: where axes cross the side.
    """
    across, sign = SIDES[side]
    items: list[Item] = []
    far, out, raised = edge, 0.0, 0.0
    for i, row in enumerate(rows):
        # Raised figures stand on the inner side of strings below and right, on the outer side above and left.
        inner = side in (0, 1)
        # Between two strings there is room for one level of raised figures, beside the marks at the walls for none.
        levels = max(figure_levels(row, units, scale) - (i > 0 or not inner), 0) * LEVEL * scale
        out += spaces[i > 0] + (levels if inner else raised)
        raised = levels
        far = edge + sign * out
        origin = frame.back(0.0, far) if across == 1 else frame.back(far, 0.0)
        direction = frame.s if across == 1 else frame.t
        outward = sign if across == 1 else -sign
        items += dimension_string(
            row, origin, direction, outward * 1e-6, units, scale, layer, 3.0, ref, crossed=crossed
        )
    return items, far + sign * (raised if side in (2, 3) else 0.0)


def axes_across(grids: Sequence[Grid], frame: Frame, across: int) -> list[float]:
    """Return where the axes stand that cut a side, of the grids set the same way as ``frame``, mm."""
    places: list[float] = []
    for grid in grids:
        turned = (grid.angle - frame.angle) % 360.0
        if grid.kind == "square" and min(turned, 360.0 - turned) < 0.01:
            axes = grid.x_axes if across == 1 else grid.y_axes
            for at in axis_positions(axes):
                point = frame.to(grid_point(grid, *((at, 0.0) if across == 1 else (0.0, at))))
                places.append(point[1 - across])
    return sorted(places)


def clear_of(grid: Grid, strings: OutsideStrings) -> tuple[float, float]:
    """Return how far the strings reach out below and to the left of a grid's first axes, mm."""
    turned = (grid.angle - strings.frame.angle) % 360.0
    if strings.reach is None or grid.kind != "square" or min(turned, 360.0 - turned) > 0.01:
        return 0.0, 0.0
    x0, y0 = strings.frame.to(grid_point(grid, 0.0, 0.0))
    return max(y0 - strings.reach[1], 0.0), max(x0 - strings.reach[0], 0.0)
