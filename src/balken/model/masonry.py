"""The masonry module: how far walls and openings are off it, and making them fit.

Blocks and their joints repeat every ``size`` mm.  Between two free ends (outside corners, jambs) a
length of masonry is n x size - joint; an opening, with a joint at each side, is n x size + joint;
from an outside corner to an inside one it is n x size (common practice, no source).
"""

import math
from collections.abc import Callable
from typing import Literal

import msgspec

from balken.geometry.plane import TOUCH, Point, add, distance, dot, left, off_line, sub, turn, unit
from balken.model.buildups import core_band, set_out_depth
from balken.model.errors import EditError
from balken.model.lookup import axis_positions, by_id, grid_point, height, locate, wall_label
from balken.model.records import AxisPoint, FreePoint, Grid, Opening, Place, Project, Wall
from balken.model.rules import check
from balken.model.ties import tied_off
from balken.model.visitor import moved_places
from balken.units import say_inches
from balken.units.system import INCH
from balken.value import Value

MASONRY = ("concrete block", "brick")
ON = 0.5
"""Nearer to the module than this (mm) is on it."""


class Module(Value, frozen=True):
    """Length of a unit with its joint, and the joint, mm."""

    size: float = 200.0
    joint: float = 10.0

    def next(self, length: float, ends: int, shorten: float = 0.0) -> float:
        """Return the least length on the module not below ``length - shorten``.

        ``ends``: joints to add: -1 between free ends, 0 from free end to corner inside, 1 for an opening.
        """
        n = math.ceil((length - shorten - ends * self.joint) / self.size - 1e-9)
        return max(n, 1) * self.size + ends * self.joint

    def off(self, length: float, ends: int) -> float:
        """Return by how much a length must grow (below zero: shrink) to the nearest length on the module."""
        n = max(round((length - ends * self.joint) / self.size), 1)
        return n * self.size + ends * self.joint - length


class Measured(Value, frozen=True):
    """One length compared with the module: what it is of, how long, by how much it is off."""

    thing: str
    kind: Literal["wall", "pier", "opening"]
    length: float
    ends: int
    off: float

    @property
    def fits(self) -> bool:
        """Whether it is on the module."""
        return abs(self.off) <= ON


class _Run(Value, frozen=True):
    """A masonry wall measured on its outer core face, from the face of what it meets to the next."""

    wall: Wall
    start: Point
    end: Point
    low: float
    high: float
    ends: tuple[int, int]
    """At each end: -1 a free end or outside corner, 1 a corner inside."""

    @property
    def joints(self) -> int:
        """Joints to add to n modules."""
        return (self.ends[0] + self.ends[1]) // 2


def masonry_walls(project: Project, wall_ids: tuple[str, ...] = ()) -> tuple[Wall, ...]:
    """Return the walls with a core of block or brick (among those named, when any is)."""
    built = by_id(project.buildups)
    found = []
    for wall in project.walls:
        core = next(layer for layer in built[wall.buildup].layers if layer.function == "core")
        if core.material in MASONRY and (not wall_ids or wall.id in wall_ids):
            found.append(wall)
    return tuple(found)


def _runs(project: Project, walls: tuple[Wall, ...]) -> list[_Run]:
    figures = {}
    for wall in walls:
        a, b = locate(wall.start, project.grids), locate(wall.end, project.grids)
        aside = left(unit(a, b))
        inward = aside if wall.outside == "right" else (-aside[0], -aside[1])
        buildup = by_id(project.buildups)[wall.buildup]
        outer = core_band(buildup)[0] - set_out_depth(buildup, wall.set_out)
        inner = core_band(buildup)[1] - set_out_depth(buildup, wall.set_out)
        figures[wall.id] = (wall, a, b, inward, outer, inner)
    runs = []
    for wall, a, b, inward, outer, _ in figures.values():
        d, length = unit(a, b), distance(a, b)
        stops = []
        for at_end, point in ((False, a), (True, b)):
            stops.append(_stop(project, figures, wall, point, d, inward, at_end, length))
        (low, first), (high, last) = stops
        face = add(a, inward, outer)
        runs.append(_Run(wall, add(face, d, low), add(face, d, high), low, high, (first, last)))
    return runs


Figure = tuple[Wall, Point, Point, Point, float, float]


def _stop(
    project: Project,
    figures: dict[str, Figure],
    wall: Wall,
    point: Point,
    d: Point,
    inward: Point,
    at_end: bool,
    length: float,
) -> tuple[float, int]:
    """Return where along the wall its masonry ends, and -1 for an outside corner or free end, 1 inside."""
    plain = length if at_end else 0.0
    for other, c, e, other_in, outer, inner in figures.values():
        if other is wall or not _beside(project, wall, other) or abs(dot(d, unit(c, e))) > 0.02:
            continue
        along, aside = off_line(point, c, e)
        corner = min(distance(point, c), distance(point, e)) < TOUCH
        if not corner and not (0.0 < along < distance(c, e) and abs(aside) < inner - outer + TOUCH):
            continue
        base = plain + dot(sub(add(c, unit(c, e), along), point), d)
        sign = dot(other_in, d)
        if corner and wall.role == other.role:
            far = e if distance(point, c) < TOUCH else c
            convex = dot(sub(far, point), inward) > 0.0
            return base + sign * outer, -1 if convex else 1
        # At a tee the masonry stops at the near face of the wall it meets.
        outside_face = (sign > 0.0) == at_end
        return base + sign * (outer if outside_face else inner), 1
    return plain, -1


def _beside(project: Project, a: Wall, b: Wall) -> bool:
    top = min(height(a.head, project.levels), height(b.head, project.levels))
    return top - max(height(a.foot, project.levels), height(b.foot, project.levels)) > 1.0


def sane(module: Module) -> None:
    """Raise EditError unless a module is one that walls can be built on."""
    if not 20.0 <= module.size <= 2000.0 or not 0.0 <= module.joint < module.size:
        raise EditError("the module must be 20 to 2000 mm and its joint shorter.", "Masonry module", "Type 200 and 10.")


def measure(project: Project, module: Module, wall_ids: tuple[str, ...] = ()) -> tuple[Measured, ...]:
    """Compare every masonry wall, its openings and the piers between them with the module; raises EditError for one that is none."""
    sane(module)
    rows: list[Measured] = []
    for run in _runs(project, masonry_walls(project)):
        if wall_ids and run.wall.id not in wall_ids:
            continue
        length = run.high - run.low
        rows.append(_measured(run.wall.id, "wall", length, run.joints, module))
        free, kind = run.low, run.ends[0]
        for o in _openings(project, run.wall.id):
            rows.append(_measured(o.id, "pier", o.offset - free, (kind - 1) // 2, module))
            rows.append(_measured(o.id, "opening", o.width, 1, module))
            free, kind = o.offset + o.width, -1
    return tuple(rows)


def _measured(
    thing: str, kind: Literal["wall", "pier", "opening"], length: float, ends: int, module: Module
) -> Measured:
    return Measured(thing, kind, length, ends, module.off(length, ends))


def _openings(project: Project, wall_id: str) -> list[Opening]:
    return sorted((o for o in project.openings if o.wall == wall_id), key=lambda o: (o.offset, o.sill))


def fit(project: Project, module: Module, shorten: float = 0.0, wall_ids: tuple[str, ...] = ()) -> Project:
    """Make masonry walls and openings fit the module by the least lengthening, keeping corners closed.

    No wall becomes shorter than now less ``shorten`` mm.  All that stands on the same lines (axes, walls
    of other storeys, columns) moves along.  Raises EditError when the walls are not square to one another
    or a ring of them cannot be on the module.
    """
    sane(module)
    if shorten < 0.0:
        raise EditError("the limit of shortening must be zero or more.", "Masonry module")
    walls = masonry_walls(project, wall_ids)
    if not walls:
        raise EditError("no wall has a core of block or brick.", "Masonry module", "Choose a masonry build-up.")
    angle = _angle(project, walls)
    runs = _runs(project, masonry_walls(project))
    chosen = {w.id for w in walls}
    wanted = {o.id: _opening_fit(o, module, shorten) for o in project.openings if o.wall in chosen}
    shifts = []
    for way in (0, 1):
        shifts.append(_solve(project, [r for r in runs if r.wall.id in chosen], way, angle, module, shorten, wanted))
    moved = _moved(project, shifts, angle)
    return check(_openings_fitted(project, moved, module, chosen, wanted))


def _angle(project: Project, walls: tuple[Wall, ...]) -> float:
    angles = []
    for wall in walls:
        a, b = locate(wall.start, project.grids), locate(wall.end, project.grids)
        angles.append(math.degrees(math.atan2(b[1] - a[1], b[0] - a[0])) % 90.0)
    first = angles[0]
    for wall, angle in zip(walls, angles, strict=True):
        if min(abs(angle - first), 90.0 - abs(angle - first)) > 0.05:
            raise EditError(
                "it is not square to the other masonry walls.",
                wall_label(project, wall.id),
                "Fit it by hand, or select walls that are square to one another.",
            )
    return first if first < 89.95 else 0.0


def _opening_fit(opening: Opening, module: Module, shorten: float) -> float:
    return module.next(opening.width, 1, shorten)


Shift = Callable[[float], float]


def _solve(
    project: Project,
    runs: list[_Run],
    way: int,
    angle: float,
    module: Module,
    shorten: float,
    wanted: dict[str, float],
) -> Shift:
    """Place the lines square to one direction: difference constraints, longest path from the least line."""
    spans: list[tuple[float, float, float, int, _Run]] = []
    for run in runs:
        a, b = turn(run.start, -angle), turn(run.end, -angle)
        if abs(a[1 - way] - b[1 - way]) > TOUCH:
            continue
        low, high = sorted((a[way], b[way]))
        least = max(high - low - shorten, _least(project, run, module, wanted))
        spans.append((round(low, 1), round(high, 1), least, run.joints, run))
    lines = sorted({x for low, high, *_ in spans for x in (low, high)})
    place: dict[float, float] = {}
    for group in _connected(lines, [(low, high) for low, high, *_ in spans]):
        inside = [s for s in spans if s[0] in group]
        residue = _residues(group, inside, module, project)
        steps = dict.fromkeys(group, None) | {group[0]: 0}
        count: dict[float, int] = {x: _nearest(x, group[0], residue, module, shorten) for x in steps}
        for _ in range(len(group) + 1):
            changed = False
            for low, high, least, _, _ in inside:
                need = math.ceil((least - (residue[high] - residue[low])) / module.size - 1e-6)
                if count[high] - count[low] < need:
                    count[high] = count[low] + need
                    changed = True
            if not changed:
                break
        for x in group:
            place[x] = group[0] + residue[x] + count[x] * module.size
    return _interpolated(place, 10.0 if module.size % 10.0 < 1e-6 else INCH)


def _nearest(x: float, root: float, residue: dict[float, float], module: Module, shorten: float) -> int:
    """Return how many modules a line lies from the first, not below where it is now less the limit."""
    return math.ceil((x - root - residue[x] - shorten) / module.size - 1e-6)


def _least(project: Project, run: _Run, module: Module, wanted: dict[str, float]) -> float:
    """Return the least length that its fitted openings and their piers need."""
    need, kind = 0.0, run.ends[0]
    for o in _openings(project, run.wall.id):
        need += module.size + (kind - 1) // 2 * module.joint + wanted.get(o.id, o.width)
        kind = -1
    return need + module.size + (run.ends[1] - 1) // 2 * module.joint if need else 0.0


def _connected(lines: list[float], spans: list[tuple[float, float]]) -> list[list[float]]:
    group = {x: i for i, x in enumerate(lines)}
    for low, high in spans:
        a, b = group[low], group[high]
        if a != b:
            group = {x: (a if g == b else g) for x, g in group.items()}
    found: dict[int, list[float]] = {}
    for x in lines:
        found.setdefault(group[x], []).append(x)
    return list(found.values())


def _residues(
    group: list[float], spans: list[tuple[float, float, float, int, _Run]], module: Module, project: Project
) -> dict[float, float]:
    """Return each line's place from the first, modulo the module; raises EditError where a ring cannot close."""
    residue = {group[0]: 0.0}
    again = True
    while again:
        again = False
        for low, high, _, joints, run in spans:
            by = joints * module.joint
            for known, new, sign in ((low, high, 1.0), (high, low, -1.0)):
                if known in residue and new not in residue:
                    residue[new] = (residue[known] + sign * by) % module.size
                    again = True
            if low in residue and high in residue:
                off = (residue[high] - residue[low] - by) % module.size
                if min(off, module.size - off) > ON:
                    raise EditError(
                        f"it and the walls beside it cannot all be on a module of {say_inches(module.size, project.units)}.",
                        wall_label(project, run.wall.id),
                        "Fit the walls in parts: select some of them.",
                    )
    return residue


def _interpolated(place: dict[float, float], step: float) -> Shift:
    """Return the shift of any coordinate: that of a line within a wall's thickness of it, else between lines, in whole steps."""
    lines = sorted(place)
    reach = 450.0

    def shift(x: float) -> float:
        if not lines:
            return 0.0
        near = min(lines, key=lambda line: abs(line - x))
        if abs(near - x) <= reach or x < lines[0] or x > lines[-1]:
            if x < lines[0]:
                near = lines[0]
            elif x > lines[-1]:
                near = lines[-1]
            return place[near] - near
        k = next(i for i, line in enumerate(lines) if line > x)
        a, b = lines[k - 1], lines[k]
        t = (x - a) / (b - a)
        return round(((1.0 - t) * (place[a] - a) + t * (place[b] - b)) / step) * step

    return shift


def _moved(project: Project, shifts: list[Shift], angle: float) -> Project:
    """Move axes, walls and columns by the shifts of their places."""

    def move(point: Point) -> Point:
        x, y = turn(point, -angle)
        return turn((x + shifts[0](x), y + shifts[1](y)), angle)

    grids = tuple(_moved_grid(grid, move, angle) for grid in project.grids)

    def placed(place: Place) -> Place:
        target = move(locate(place, project.grids))
        if isinstance(place, AxisPoint) and distance(locate(place, grids), target) < 0.01:
            return place
        if isinstance(place, AxisPoint) and (place.dx or place.dy):
            kept = tied_off(msgspec.structs.replace(project, grids=grids), target, place.grid)
            if kept is not None:
                return kept
        return FreePoint(x=round(target[0], 6), y=round(target[1], 6))

    return msgspec.structs.replace(moved_places(project, placed), grids=grids)


def _moved_grid(grid: Grid, move: Callable[[Point], Point], angle: float) -> Grid:
    turned = (grid.angle - angle) % 90.0
    if grid.kind == "radial" or not grid.x_axes or not grid.y_axes or min(turned, 90.0 - turned) > 0.01:
        return grid
    origin = move(grid.origin)
    changes: dict[str, object] = {"origin": (round(origin[0], 6), round(origin[1], 6))}
    for field, way in (("x_axes", 0), ("y_axes", 1)):
        axes = getattr(grid, field)
        places = []
        for at in axis_positions(axes):
            point = move(grid_point(grid, *((at, 0.0) if way == 0 else (0.0, at))))
            places.append(turn(sub(point, origin), -grid.angle)[way])
        changes[field] = tuple(
            msgspec.structs.replace(axis, gap=round(places[i] - (places[i - 1] if i else 0.0), 6))
            for i, axis in enumerate(axes)
        )
    return msgspec.structs.replace(grid, **changes)


def _openings_fitted(
    before: Project, project: Project, module: Module, chosen: set[str], wanted: dict[str, float]
) -> Project:
    """Bring widths and jambs onto the module: each pier the nearest length to what it was."""
    fitted: dict[str, Opening] = {}
    old = {run.wall.id: run for run in _runs(before, masonry_walls(before))}
    for run in _runs(project, masonry_walls(project)):
        if run.wall.id not in chosen:
            continue
        free, old_free, kind = run.low, old[run.wall.id].low, run.ends[0]
        group = _openings(before, run.wall.id)
        for i, o in enumerate(group):
            ends = (kind - 1) // 2
            pier = max(o.offset - old_free, 0.0)
            pier += module.off(pier, ends)
            rest = sum(module.size - module.joint + wanted[other.id] for other in group[i + 1 :])
            last = module.size + (run.ends[1] - 1) // 2 * module.joint
            while pier > module.size and free + pier + wanted[o.id] + rest + last > run.high + ON:
                pier -= module.size
            offset = free + pier
            fitted[o.id] = msgspec.structs.replace(o, offset=round(max(offset, 0.0), 6), width=wanted[o.id])
            old_free, free, kind = o.offset + o.width, offset + wanted[o.id], -1
    return msgspec.structs.replace(project, openings=tuple(fitted.get(o.id, o) for o in project.openings))
