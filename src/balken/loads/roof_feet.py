"""What roofs that run on over a lower one bring down on it: where they stand, which of its rafters carry it, what of it they cover.

Under the upper roof no snow and no roof live load lies on the lower one; the feet of the upper one's jacks press on it there.
"""

from collections.abc import Sequence
from typing import NamedTuple

import numpy as np
import shapely
from numpy.typing import NDArray

from balken.framing.roof_layout import RoofMember
from balken.framing.roof_openings import in_plane
from balken.framing.surface_roofs import SurfacePlan
from balken.geometry.plane import Point, add, distance, unit
from balken.geometry.roof_edges import Place
from balken.loads.cases import Cases
from balken.loads.roof_snow import PLACES, as_even
from balken.value import Value

Array = NDArray[np.float64]
LAID = "on the roof below"
"""What holds ends that stand on a roof below."""
NEAR = 20.0
"""An end no farther than this over a roof below stands on it, mm."""


class Foot(Value, frozen=True):
    """What comes down on a lower roof: on which, where in plan, N by case."""

    roof: str
    at: Point
    force: Cases


class UnderRoofs(Value, frozen=True):
    """What lies over a lower roof: feet that stand on it, and outlines of what is covered, in plan."""

    feet: tuple[Foot, ...] = ()
    covered: tuple[tuple[Point, ...], ...] = ()


NOTHING = UnderRoofs()


def lower_at(plan: SurfacePlan, at: Point) -> str:
    """Return the lower roof on which a place of an upper one stands: that whose plane lies there, else the nearest; "" where none is."""
    rows = [(shapely.Polygon(p.ring).distance(shapely.Point(at)), p.roof) for p in plan.laid_on]
    return min(rows)[1] if rows else ""


def stands_on(plan: SurfacePlan, at: Place) -> bool:
    """Whether an end of a line of an upper roof comes down on a lower one."""
    return any(
        abs(plane.height(at[:2]) - at[2]) < NEAR
        and shapely.Polygon(plane.ring).buffer(1.0).covers(shapely.Point(at[:2]))
        for plane in plan.laid_on
    )


def planes_at(plan: SurfacePlan, places: Sequence[Point]) -> list[int]:
    """Return of places the edges of the planes in which, or nearest to which, they lie."""
    if not places or not plan.surface.faces:
        return [-1] * len(places)
    rings = {f.edge: shapely.Polygon([p[:2] for p in f.ring]) for f in plan.surface.faces}
    xs, ys = np.array([p[0] for p in places]), np.array([p[1] for p in places])
    found = np.full(len(places), -1)
    for edge, ring in rings.items():
        shapely.prepare(ring)
        found[(found < 0) & shapely.intersects_xy(ring, xs, ys)] = edge
    for i in np.nonzero(found < 0)[0].tolist():
        point = shapely.Point(places[i])
        found[i] = min(rings, key=lambda e: rings[e].distance(point))
    return [int(edge) for edge in found]


class Pressed(NamedTuple):
    """What stands on a rafter: how far in plan from its lower end, mm; N by case."""

    x: float
    force: Cases


def pressed_rafters(
    plan: SurfacePlan, members: Sequence[RoofMember], feet: tuple[Foot, ...]
) -> dict[int, list[Pressed]]:
    """Return what stands on rafters (by their numbers): on the two of a plane beside a foot, by the lever between them; beside the last
    one, and where none is near, it comes to the nearest.  ``members``: all rafters of the roof.
    """
    core, found = plan.outline.core, dict[int, list[Pressed]]()
    rows: dict[int, list[tuple[float, float, float, int]]] = {}
    for i, m in enumerate(members if feet else ()):
        edge = m.edges[0]
        (s, t0), (_, t1) = in_plane(core, edge, [m.start[:2], m.end[:2]])
        rows.setdefault(edge, []).append((s, t0, t1, i))
    for foot, edge in zip(feet, planes_at(plan, [foot.at for foot in feet]), strict=True):
        if edge not in rows:
            continue
        ((s, t),) = in_plane(core, edge, [foot.at])
        for (_, t0, t1, i), part in _beside(rows[edge], s, t):
            found.setdefault(i, []).append(Pressed(min(max(t - t0, 0.0), t1 - t0), foot.force.scaled(part)))
    return found


Standing = tuple[float, float, float, int]


def _beside(rows: list[Standing], s: float, t: float) -> list[tuple[Standing, float]]:
    """Return the rafters that a place presses on, and how much of it comes to each."""
    there = [row for row in rows if row[1] - 1.0 <= t <= row[2] + 1.0]
    before = max((row for row in there if row[0] <= s), default=None)
    after = min((row for row in there if row[0] > s), default=None)
    if before is not None and after is not None:
        part = (s - before[0]) / (after[0] - before[0])
        return [(row, p) for row, p in ((before, 1.0 - part), (after, part)) if p > 0.0]
    if before is not None or after is not None:
        return [(before or after or rows[0], 1.0)]
    return [(min(rows, key=lambda row: abs(s - row[0]) + max(row[1] - t, t - row[2], 0.0)), 1.0)]


def pressed_as_even(rows: list[Pressed], run: float) -> Cases:
    """Return the even load on a rafter ``run`` mm wide in plan, N a mm of it, that bends it and presses its ends no less than what stands
    on it does, each case by itself.
    """
    if not rows:
        return Cases()
    x = np.clip([row.x for row in rows], 0.0, run)
    forces = np.array([row.force for row in rows])
    low = ((run - x)[:, None] * forces).sum(axis=0) / run
    high = forces.sum(axis=0) - low
    before = np.maximum(x[:, None] - x[None, :], 0.0)  # how far each stands behind the others
    moments = np.abs(low[None, :] * x[:, None] - before @ forces).max(axis=0)
    even = np.maximum(8.0 * moments / run**2, 2.0 * np.maximum(np.abs(low), np.abs(high)) / run)
    return Cases(*(float(v) for v in even))


class Pressing(NamedTuple):
    """What stands on a rafter: as an even load, N a mm; what it and the one opposite it add to its thrust, and to what it bears at its
    foot, N.
    """

    even: Cases
    thrust: Cases
    foot: Cases


def leaning_part(run: float, pitch: float, other: float) -> float:
    """Return what part of a load, for each mm that it stands off the foot of a rafter, comes to the foot of the one on which that leans
    at a ridge board: three hinges, moments about its foot and about the ridge.

    ``pitch``, ``other``: of both, as rise over run.  That holds at whatever heights their feet stand, as one does on a valley.
    """
    return 1.0 / (run * (1.0 + pitch / other))


def leaning_pressure(rows: list[Pressed], run: float, pitch: float, other: float) -> tuple[Cases, Cases, Cases]:
    """Return what loads on a rafter that leans on another at a ridge board bring to its own foot, to the other's, and as thrust, N;
    ``run``: its own in plan, mm, ``pitch``, ``other``: as ``leaning_part`` takes them.
    """
    part = leaning_part(run, pitch, other)
    far, all_of = Cases(), Cases()
    for x, force in rows:
        far = far.plus(force.scaled(min(max(x, 0.0), run) * part))
        all_of = all_of.plus(force)
    return all_of.plus(far.scaled(-1.0)), far, far.scaled(1.0 / other)


def open_parts(covered: tuple[tuple[Point, ...], ...], feet: Array, heads: Array) -> list[float]:
    """Return what part of an even load lies on rafters beside what is covered: as even ones that bend and press them no less.

    ``feet``, ``heads``: (rafters, 2), mm.
    """
    if not covered or not len(feet):
        return [1.0] * len(feet)
    shape = shapely.union_all([shapely.Polygon(ring) for ring in covered])
    shapely.prepare(shape)
    parts = np.linspace(0.0, 1.0, PLACES)
    places = feet[:, None, :] + parts[None, :, None] * (heads - feet)[:, None, :]
    free = 1.0 - shapely.contains_xy(shape, places[..., 0], places[..., 1]).astype(float)
    runs = np.maximum(np.hypot(*(heads - feet).T), 1e-6)
    return [min(float(v), 1.0) for v in as_even(free, runs)]


def covered_on(covered: tuple[tuple[Point, ...], ...], foot: Point, head: Point) -> tuple[float, float]:
    """Return how much of a line across a roof is covered, mm, and how far along it the middle of that lies (0 to 1)."""
    long = distance(foot, head)
    if not covered or long <= 0.0:
        return 0.0, 0.5
    line, whole, about = shapely.LineString([foot, head]), 0.0, 0.0
    for ring in covered:
        met = line.intersection(shapely.Polygon(ring))
        for part in getattr(met, "geoms", [met]):
            if part.geom_type == "LineString" and part.length > 0.0:
                (a, b) = (distance(foot, (p[0], p[1])) for p in (part.coords[0], part.coords[-1]))
                whole += part.length
                about += part.length * (a + b) / 2.0
    return (whole, about / whole / long) if whole > 0.0 else (0.0, 0.5)


def along_line(foot: Point, head: Point, part: float) -> Point:
    """Return a place between two."""
    return add(foot, unit(foot, head), distance(foot, head) * part)
