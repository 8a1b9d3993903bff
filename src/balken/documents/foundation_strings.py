"""Dimension strings round the foundations: corners and steps of the walls; axes and pads; overall."""

import itertools
from collections.abc import Sequence
from functools import lru_cache

import shapely
from shapely.geometry.polygon import orient

from balken.documents.display import Item
from balken.documents.side_strings import (
    CLOSEST,
    SIDES,
    Box,
    Face,
    OutsideStrings,
    axes_across,
    joined,
    main_frame,
    merged,
    rows_beyond,
    seen,
)
from balken.framing.foundations import FoundationRun
from balken.framing.frames import Frame
from balken.framing.pads import PadPlace
from balken.geometry.plane import Point, Ring, bounds
from balken.model.records import Grid, Strings
from balken.remembered import remembered
from balken.units import Units

CLEAR, KEYED_CLEAR = 13.0, 21.0
"""Paper mm between the walls and the first string: marks of steps stand there, and those of sections."""
PAD_NOTE = 28.0
"""Paper mm beside a pad taken by its mark."""


@remembered(64)
def foundation_strings(
    runs: tuple[FoundationRun, ...],
    places: tuple[PadPlace, ...],
    grids: tuple[Grid, ...],
    wanted: Strings,
    units: Units,
    scale: float,
    keyed: bool,
) -> OutsideStrings:
    """Return the strings on all sides, to be read at 1:``scale``; none where there are no foundation walls.

    On each side stand, one beyond the other: the corners and steps seen from there; the axes with the pads
    nearest to that side, where there are pads or the grid has no chain of its own; the whole length.
    ``keyed``: whether marks of sections stand round the walls.
    """
    if not runs:
        return OutsideStrings((), Frame(0.0), None)
    frame = main_frame([run.band for run in runs])
    outlines = _outlines(_rings(runs, frame))
    if not outlines:
        return OutsideStrings((), frame, None)
    box = bounds([p for outline in outlines for p in outline])
    pads = [frame.to(place.centre) for place in places if not place.pad.joined]
    edges = _edges(box, pads, scale)
    items: list[Item] = []
    reach = list(box)
    for side, (across, _) in enumerate(SIDES):
        along = 1 - across
        faces = joined(_faces(outlines, side))
        corners = {x for face in faces for span in seen(face, faces) for x in span}
        steps = _steps(runs, frame, side, faces)
        mine = [p[along] for p in pads if _nearest_side(p, box, across) == side]
        axes = axes_across(grids, frame, across)
        chained = bool(grids) and grids[0].bubbles != "end" and side in (0, 3)
        ends = [box[along], box[along + 2]]
        stations = merged([*corners, *steps])
        rows = [stations] if wanted.walls else []
        if wanted.walls and axes and (mine or not chained):
            rows.append(merged([*axes, *mine, *ends]))
        if wanted.overall and (not rows or len(stations) > 2):
            rows.append(ends)
        spaces = max(wanted.first, (KEYED_CLEAR if keyed else CLEAR) * scale), max(wanted.between, CLOSEST * scale)
        made, far = rows_beyond(rows, frame, side, edges[side], spaces, units, scale, "foundations", crossed=axes)
        items += made
        reach[(1, 2, 3, 0)[side]] = far
    return OutsideStrings(tuple(items), frame, (reach[0], reach[1], reach[2], reach[3]))


def _rings(runs: Sequence[FoundationRun], frame: Frame) -> tuple[Ring, ...]:
    """Return the footprints of the layers of foundation walls in the frame."""
    rings = []
    for run in runs:
        b = run.band
        for (near, far), (low, high) in zip(b.layers, run.spans, strict=True):
            corners = ((low, near), (high, near), (high, far), (low, far))
            rings.append(tuple(frame.to(b.at(s, t)) for s, t in corners))
    return tuple(rings)


@lru_cache(maxsize=16)
def _outlines(rings: tuple[Ring, ...]) -> tuple[Ring, ...]:
    """Return the outlines of footprints taken together, anticlockwise."""
    # On a grid of a tenth, so that walls that only touch join.
    whole = shapely.union_all([shapely.Polygon(ring) for ring in rings], grid_size=0.1)
    return tuple(tuple(orient(p).exterior.coords[:-1]) for p in shapely.get_parts(whole) if p.area > 1.0)


def _faces(outlines: Sequence[Ring], side: int) -> list[Face]:
    """Return the edges of the outlines that look out to a side."""
    across, sign = SIDES[side]
    along = 1 - across
    found = []
    for outline in outlines:
        for a, b in itertools.pairwise((*outline, outline[0])):
            long = b[along] - a[along]
            # Anticlockwise, the outside lies to the right of the way: below goes in +x, right in +y.
            way = -sign if across == 1 else sign
            if long * way > 1.0 and abs(b[across] - a[across]) < 0.01 * abs(long):
                found.append(Face(min(a[along], b[along]), max(a[along], b[along]), sign * a[across]))
    return found


def _steps(runs: Sequence[FoundationRun], frame: Frame, side: int, faces: Sequence[Face]) -> list[float]:
    """Return where the walls seen from a side step."""
    across, sign = SIDES[side]
    found = []
    for run in runs:
        outward = -frame.to(run.band.inward)[across] * sign
        if not run.band.outside or outward < 0.99:
            continue
        for segment in run.segments[:-1]:
            point = frame.to(run.band.at(segment.high, run.faces[0]))
            at, out = point[1 - across], sign * point[across]
            if any(abs(f.out - out) < 60.0 and any(a <= at <= b for a, b in seen(f, faces)) for f in faces):
                found.append(at)
    return found


def _nearest_side(pad: Point, box: Box, across: int) -> int:
    """Return which of the two sides across a direction a pad is nearer to."""
    low = abs(pad[across] - box[across]) <= abs(pad[across] - box[across + 2])
    return next(i for i, (axis, sign) in enumerate(SIDES) if axis == across and (sign < 0.0) == low)


def _edges(box: Box, pads: Sequence[Point], scale: float) -> list[float]:
    """Return how far out walls and pads with their marks reach on each side."""
    xs, ys, beside = [p[0] for p in pads], [p[1] for p in pads], PAD_NOTE * scale
    low_x, high_x = min([box[0], *xs]), max([box[2], *(x + beside for x in xs)])
    low_y, high_y = min([box[1], *ys]), max([box[3], *ys])
    return [low_y, high_x, high_y, low_x]
