"""Walls from a drawing's lines: two parallel lines a wall's thickness apart are the faces of a wall."""

import msgspec
import numpy as np
from numpy.typing import NDArray

from balken.geometry.plane import Point, distance, meet, sub, unit
from balken.model.buildups import thickness
from balken.model.edits import add_all
from balken.model.errors import EditError
from balken.model.kinds import COLLECTIONS
from balken.model.kinds.opening import OpeningKind
from balken.model.lookup import height, locate, next_id
from balken.model.records import BuildUp, Hang, Layer, Opening, Project, Wall
from balken.model.ties import tie
from balken.units import Units
from balken.value import Value

THINNEST, THICKEST = 60.0, 600.0
SHORTEST = 300.0
NARROWEST = 450.0
"""Gaps between faces in one line no wider are none of doors or windows, mm."""
DOOR, WINDOW = (2032.0, 0.0), (1219.2, 914.4)
"""Height and sill of openings found, for nothing of them is seen in plan: 6 ft 8 in; 4 ft, 3 ft over the floor (common practice)."""
METRIC_DOOR, METRIC_WINDOW = (2000.0, 0.0), (1200.0, 900.0)
SAME = 12.0
"""Build-ups and faces nearer than this in thickness are taken for the same, mm."""
MOST = 400
"""So many walls at the most are made of one drawing."""


class Traced(Value, frozen=True):
    """A wall found: its centre line and thickness, mm; ``outside`` whether nothing but air lies to its right; ``gaps``: where its faces
    are cut by a door or window: both ends of each on its centre line, and which of the two it is.
    """

    start: Point
    end: Point
    thickness: float
    outside: bool
    gaps: tuple[tuple[Point, Point, OpeningKind], ...] = ()


def trace(segments: NDArray[np.float64], longest: int = 6000) -> tuple[Traced, ...]:
    """Find walls among line segments (n, 2, 2) in mm.

    Each line is paired with the nearest parallel one 60 to 600 mm away; where several overlap, the nearest
    wins.  Ends are brought together where centre lines meet.  Between pieces in one line no farther apart than an opening the wall
    runs on, with a gap: a window where some line runs on in it, else a door.  Raises EditError for too many lines.
    """
    lines = _joined(np.asarray(segments, dtype=float).reshape(-1, 2, 2))
    if len(lines) > longest:
        raise EditError(
            f"{len(lines)} lines are too many to look for walls in.", "Base drawing", "Switch off layers without walls."
        )
    found: list[tuple[Point, Point, float]] = []
    if len(lines) < 2:
        return ()
    a, b = lines[:, 0], lines[:, 1]
    length = np.linalg.norm(b - a, axis=1)
    d = (b - a) / length[:, None]
    normal = np.stack([-d[:, 1], d[:, 0]], axis=1)
    for i in range(len(lines)):
        parallel = np.abs(d @ normal[i]) < 0.005
        aside = (a - a[i]) @ normal[i]
        s0, s1 = (a - a[i]) @ d[i], (b - a[i]) @ d[i]
        low, high = np.maximum(np.minimum(s0, s1), 0.0), np.minimum(np.maximum(s0, s1), length[i])
        fits = parallel & (aside > THINNEST) & (aside < THICKEST) & (high - low > SHORTEST)
        taken: list[tuple[float, float]] = []
        for j in sorted(np.flatnonzero(fits).tolist(), key=lambda j: float(aside[j])):
            for p, q in _free((float(low[j]), float(high[j])), taken):
                if q - p < SHORTEST or _blocked(i, j, p, q, a, d, normal, length, parallel, aside, s0, s1):
                    continue
                taken.append((p, q))
                middle = a[i] + normal[i] * aside[j] / 2.0
                ends = [(float(x), float(y)) for x, y in (middle + d[i] * p, middle + d[i] * q)]
                found.append((ends[0], ends[1], float(aside[j])))
    return _closed(_merged(found), lines)


def _joined(segments: NDArray[np.float64]) -> NDArray[np.float64]:
    """Drop what is too short; turn all lines one way; join those in one line that touch."""
    rows: dict[tuple[int, int], list[tuple[float, float, Point, Point]]] = {}
    for p, q in segments:
        if not np.all(np.isfinite(p)) or not np.all(np.isfinite(q)) or np.linalg.norm(q - p) < 20.0:
            continue
        direction = (q - p) / np.linalg.norm(q - p)
        if direction[0] < -1e-6 or (abs(direction[0]) <= 1e-6 and direction[1] < 0):
            p, q, direction = q, p, -direction
        angle = round(float(np.degrees(np.arctan2(direction[1], direction[0]))) * 5.0)
        off = round(float(direction[0] * p[1] - direction[1] * p[0]) / 2.0)
        row = (float(p @ direction), float(q @ direction), (float(p[0]), float(p[1])), (float(q[0]), float(q[1])))
        rows.setdefault((angle, off), []).append(row)
    made = []
    for group in rows.values():
        group.sort()
        start = group[0]
        reach, last = start[1], start[3]
        for row in group[1:]:
            if row[0] <= reach + 1.0:
                if row[1] > reach:
                    reach, last = row[1], row[3]
            else:
                made.append((start[2], last))
                start, reach, last = row, row[1], row[3]
        made.append((start[2], last))
    return np.array(made, dtype=float).reshape(-1, 2, 2)


def _free(span: tuple[float, float], taken: list[tuple[float, float]]) -> list[tuple[float, float]]:
    left = [span]
    for p, q in taken:
        left = [(u, v) for a, b in left for u, v in ((a, min(b, p)), (max(a, q), b)) if v - u > 1.0]
    return left


def _blocked(
    i: int,
    j: int,
    p: float,
    q: float,
    a: NDArray[np.float64],
    d: NDArray[np.float64],
    normal: NDArray[np.float64],
    length: NDArray[np.float64],
    parallel: NDArray[np.bool_],
    aside: NDArray[np.float64],
    s0: NDArray[np.float64],
    s1: NDArray[np.float64],
) -> bool:
    """Tell whether line i already has a nearer partner on its other side there (then j is across a room or gap)."""
    middle = (p + q) / 2.0
    covers = (np.minimum(s0, s1) < middle) & (np.maximum(s0, s1) > middle)
    other = parallel & covers & (aside < -THINNEST) & (aside > -aside[j] + SAME) & (aside > -THICKEST)
    return bool(np.any(other))


Gaps = tuple[tuple[Point, Point], ...]
_Row = tuple[Point, Point, float, Gaps]
"""A wall as it is put together: both ends, its thickness, gaps."""


def _merged(found: list[tuple[Point, Point, float]]) -> list[_Row]:
    """Join walls of one thickness in one line that are apart by no more than an opening; where they are, remember the gap."""
    rows = sorted(found, key=lambda row: row[0])
    merged: list[_Row] = []
    for start, end, thick in rows:
        for k, (c, e, other, gaps) in enumerate(merged):
            if abs(other - thick) > SAME or distance(c, e) < 1.0:
                continue
            d, r = unit(c, e), sub(start, e)
            gap, aside = r[0] * d[0] + r[1] * d[1], d[0] * r[1] - d[1] * r[0]
            own = unit(start, end)
            if abs(aside) < SAME and -1.0 <= gap <= 2600.0 and own[0] * d[0] + own[1] * d[1] > 0.999:
                merged[k] = (c, end, other, (*gaps, (e, start)) if gap > NARROWEST else gaps)
                break
        else:
            merged.append((start, end, thick, ()))
    return merged


def _closed(walls: list[_Row], lines: NDArray[np.float64]) -> tuple[Traced, ...]:
    """Bring ends of centre lines to where they meet the others, then find which walls are outermost."""
    made: list[_Row] = []
    for i, (start, end, thick, gaps) in enumerate(walls):
        ends = []
        for point in (start, end):
            best: tuple[float, Point] = (1e9, point)
            for j, (c, e, other, _) in enumerate(walls):
                if j == i:
                    continue
                met = meet(start, unit(start, end), c, unit(c, e))
                reach = (thick + other) / 2.0 + SAME
                if met is None or distance(met, point) > reach:
                    continue
                r = sub(met, c)
                d = unit(c, e)
                along = r[0] * d[0] + r[1] * d[1]
                if -reach <= along <= distance(c, e) + reach:
                    best = min(best, (distance(met, point), met))
            ends.append(best[1])
        if distance(*ends) >= SHORTEST:
            others = [row for j, row in enumerate(walls) if j != i]
            made.append((ends[0], ends[1], thick, tuple(gap for gap in gaps if not _crossed(gap, others))))
    return _outermost(made, lines)


def _crossed(gap: tuple[Point, Point], walls: list[_Row]) -> bool:
    """Whether a gap is where another wall runs in or across: as wide as that is thick."""
    (a, b), wide = gap, distance(*gap)
    for c, e, thick, _ in walls:
        met = meet(a, unit(a, b), c, unit(c, e))
        if met is None or wide > thick + 2.0 * SAME:
            continue
        along = sub(met, c)
        d = unit(c, e)
        s = along[0] * d[0] + along[1] * d[1]
        within = distance(met, a) <= wide and distance(met, b) <= wide
        if within and -THICKEST <= s <= distance(c, e) + THICKEST:
            return True
    return False


def _opening_in(gap: tuple[Point, Point], thick: float, lines: NDArray[np.float64]) -> OpeningKind:
    """Return window where some line runs along in a gap, as a pane, a sill or an unbroken face does, else door."""
    a, b = np.array(gap[0]), np.array(gap[1])
    wide = float(np.linalg.norm(b - a))
    d = (b - a) / wide
    s = (lines - a) @ d
    aside = (lines - a) @ np.array([-d[1], d[0]])
    low, high = np.maximum(s.min(axis=1), 0.0), np.minimum(s.max(axis=1), wide)
    along = (np.abs(aside[:, 0] - aside[:, 1]) < 1.0) & (np.abs(aside).max(axis=1) <= thick / 2.0 + 1.0)
    return "window" if bool(np.any(along & (high - low > 0.6 * wide))) else "door"


def _outermost(walls: list[_Row], lines: NDArray[np.float64]) -> tuple[Traced, ...]:
    import shapely

    if not walls:
        return ()
    bars = [shapely.LineString([a, b]).buffer(t / 2.0 + 1.0, cap_style="square") for a, b, t, _ in walls]
    whole = shapely.union_all(bars)
    parts = whole.geoms if isinstance(whole, shapely.MultiPolygon) else [whole]
    solid = shapely.union_all([shapely.Polygon(part.exterior) for part in parts])
    found = []
    for a, b, t, gaps in walls:
        d = unit(a, b)
        middle = ((a[0] + b[0]) / 2.0, (a[1] + b[1]) / 2.0)
        sides = []
        for sign in (-1.0, 1.0):
            beyond = (middle[0] - d[1] * sign * (t / 2 + 60.0), middle[1] + d[0] * sign * (t / 2 + 60.0))
            sides.append(not solid.contains(shapely.Point(beyond)))
        right, left = sides
        if left and not right:
            a, b = b, a
        cut = tuple((_round(p), _round(q), _opening_in((p, q), t, lines)) for p, q in gaps)
        found.append(Traced(_round(a), _round(b), round(t, 3), left != right, cut))
    return tuple(found)


def _round(p: Point) -> Point:
    return (round(float(p[0]), 3), round(float(p[1]), 3))


def walls_from_lines(project: Project, segments: NDArray[np.float64], foot: Hang, head: Hang) -> Project:
    """Add the walls found among lines: outermost ones as outside walls, the others as dividing.

    The build-up is one of the same thickness, or a new one with a single core layer; gaps in walls become doors and windows of usual
    heights.  Walls that are there already are not made again.  Raises EditError when no wall is found, none that is new, or too many.
    """
    traced = trace(segments)
    found = tuple(row for row in traced if not _there(project, row, foot))
    if traced and not found:
        raise EditError(
            "all walls of its lines are drawn already.",
            "Base drawing",
            "Remove those walls first, to have them made again.",
        )
    if not found:
        raise EditError(
            "no two lines are parallel and a wall's thickness (60 to 600 mm) apart.",
            "Base drawing",
            "Check its scale, and that the layer with the walls is on.",
        )
    if len(found) > MOST:
        raise EditError(f"{len(found)} walls would be made.", "Base drawing", "Switch off layers that hold no walls.")
    made: list[BuildUp | Wall] = []
    counting = project
    for row in found:
        buildup = _buildup(counting, row)
        if all(b.id != buildup.id for b in counting.buildups):
            made.append(buildup)
            counting = _with(counting, buildup)
        wall = Wall(
            id=next_id(counting, Wall),
            start=tie(project, row.start),
            end=tie(project, row.end),
            buildup=buildup.id,
            foot=foot,
            head=head,
            set_out="outside" if row.outside and len(buildup.layers) > 1 else "centre",
            role="outside" if row.outside else "divides",
        )
        if wall.set_out == "outside":
            d = unit(row.start, row.end)
            half = row.thickness / 2.0
            shifted = [(p[0] + d[1] * half, p[1] - d[0] * half) for p in (row.start, row.end)]
            wall = Wall(**{f: getattr(wall, f) for f in wall.__struct_fields__} | _ends(project, shifted))
        made.append(wall)
        counting = _with(counting, wall)
    walls = _corners_brought_together(project, made)
    return add_all(add_all(project, *walls), *_openings(project, found, walls))


def _there(project: Project, row: Traced, foot: Hang) -> bool:
    """Whether a wall stands along most of a traced one already, on the same level."""
    a, d, long = row.start, unit(row.start, row.end), distance(row.start, row.end)
    thick = {b.id: thickness(b) for b in project.buildups}
    covered = 0.0
    for wall in project.walls:
        if wall.foot.level != foot.level:
            continue
        ends = [sub(locate(end, project.grids), a) for end in (wall.start, wall.end)]
        aside = [d[0] * y - d[1] * x for x, y in ends]
        along = sorted(d[0] * x + d[1] * y for x, y in ends)
        reach = (thick[wall.buildup] + row.thickness) / 2.0 + SAME
        if abs(aside[0] - aside[1]) < 0.02 * max(along[1] - along[0], 1.0) and max(map(abs, aside)) <= reach:
            covered += max(min(along[1], long) - max(along[0], 0.0), 0.0)
    return covered > 0.5 * long


def _openings(project: Project, found: tuple[Traced, ...], made: list[BuildUp | Wall]) -> list[Opening]:
    """Return doors and windows in the gaps of traced walls, by places along the walls as they were made."""
    counting, openings = project, list[Opening]()
    sizes: dict[OpeningKind, tuple[float, float]] = {"door": DOOR, "window": WINDOW}
    if project.steps is Units.METRIC:
        sizes = {"door": METRIC_DOOR, "window": METRIC_WINDOW}
    for row, wall in zip(found, (m for m in made if isinstance(m, Wall)), strict=True):
        start, end = locate(wall.start, project.grids), locate(wall.end, project.grids)
        d, tall = unit(start, end), height(wall.head, project.levels) - height(wall.foot, project.levels)
        for p, q, kind in row.gaps:
            ends = sorted(d[0] * (x - start[0]) + d[1] * (y - start[1]) for x, y in (p, q))
            high, sill = sizes[kind]
            high = min(high, tall - sill - 150.0)
            if ends[0] < 0.0 or ends[1] > distance(start, end) or high < 300.0:
                continue
            one = Opening(
                id=next_id(counting, Opening), wall=wall.id, kind=kind, offset=round(ends[0], 3), width=round(ends[1] - ends[0], 3),
                height=high, sill=sill,
            )  # fmt: skip
            openings.append(one)
            counting = _with(counting, one)
    return openings


def _ends(project: Project, points: list[Point]) -> dict[str, object]:
    return {"start": tie(project, points[0]), "end": tie(project, points[1])}


def _corners_brought_together(project: Project, made: list[BuildUp | Wall]) -> list[BuildUp | Wall]:
    """Set-out lines on outside faces end short of the corner; extend each to where it meets the next."""
    from balken.model.wall_edits import TEE_REACH

    walls = [m for m in made if isinstance(m, Wall)]
    figures = {w.id: (locate(w.start, project.grids), locate(w.end, project.grids)) for w in walls}
    changed: list[BuildUp | Wall] = []
    for record in made:
        if not isinstance(record, Wall):
            changed.append(record)
            continue
        a, b = figures[record.id]
        ends = []
        for point in (a, b):
            target = point
            for other in walls:
                if other is record or other.role != record.role:
                    continue
                c, e = figures[other.id]
                met = meet(a, unit(a, b), c, unit(c, e))
                if met is None or distance(met, point) > TEE_REACH:
                    continue
                if min(distance(met, c), distance(met, e)) < TEE_REACH:
                    target = met
                    break
            ends.append(_round(target))
        changed.append(Wall(**{f: getattr(record, f) for f in record.__struct_fields__} | _ends(project, ends)))
    return changed


def _with(project: Project, record: BuildUp | Wall | Opening) -> Project:
    field = COLLECTIONS[type(record)]
    return msgspec.structs.replace(project, **{field: (*getattr(project, field), record)})


def _buildup(project: Project, row: Traced) -> BuildUp:
    """Return the build-up nearest in thickness: of outside walls with cladding, of others without."""
    alike = [b for b in project.buildups if abs(thickness(b) - row.thickness) <= SAME]
    alike = [b for b in alike if (b.layers[0].function == "cladding") == row.outside] or alike
    if alike:
        return min(alike, key=lambda b: abs(thickness(b) - row.thickness))
    core = Layer(
        material="concrete block" if row.thickness > 160.0 else "timber", thickness=row.thickness, function="core"
    )
    return BuildUp(id=next_id(project, BuildUp), layers=(core,))
