"""Plates at the joints of a truss: placed, and the smallest that hold chosen, on both faces alike.

What a stick gives to a joint is the sum of what its elements end with there, so that a chord that runs on gives what its webs bring.
A plate lies within the truss's outline, covers every stick at the joint by the least bite, and holds each of them by its teeth, its
steel along the lines where sticks part, and the wood between both plates.
"""

import itertools
import math
from collections.abc import Iterator
from dataclasses import dataclass

import numpy as np
import shapely
import shapely.affinity
from numpy.typing import NDArray

from balken.catalog.sections import section
from balken.catalog.truss_plates import PlateSize, sizes
from balken.design.trusses import TrussDesign
from balken.framing.trusses import Stick, TrussFrame
from balken.geometry.plane import Point, Ring, dot, sub, unit
from balken.standards.checks import FAR_OVER
from balken.standards.standard import Standard
from balken.standards.truss_demands import PlateDemand
from balken.value import Value

Array = NDArray[np.float64]
INSETS = (6.0, 20.0, 45.0)
"""How far from a chord's outer face plates are tried, mm."""
SHIFTS = (0.0, -30.0, 30.0, -60.0, 60.0)
"""How far along the chord from the joint, mm."""
DOWN = tuple(20.0 - 10.0 * k for k in range(12))
"""How far over and under the chords' meeting at a peak level plates are tried, mm."""
CHUNK = 8
TOUCH = 3.0
"""Sticks no farther apart touch, mm."""
NONE = "no plate of the list reaches over all sticks"
NOTCH = 25.0
"""Ends of webs no farther from what they end at are joined to that, mm."""


class Plate(Value, frozen=True):
    """A pair of plates at a joint: its middle, its measures, the direction of its length (degrees), how far it is used, by what."""

    joint: str
    at: Point
    width: float
    length: float
    angle: float
    used: float
    governs: str
    price: float

    @property
    def ring(self) -> Ring:
        """Its outline, mm."""
        c, s = math.cos(math.radians(self.angle)), math.sin(math.radians(self.angle))
        u, v = self.length / 2.0, self.width / 2.0
        corners = ((-u, -v), (u, -v), (u, v), (-u, v))
        return tuple((self.at[0] + a * c - b * s, self.at[1] + a * s + b * c) for a, b in corners)


@dataclass(frozen=True)
class _Held:
    """A stick at a joint: what of it counts under a plate, its outline, its axis, forces on the joint by combination (c, 2), the lines
    along which it parts from the others.
    """

    stick: Stick
    counts: shapely.Polygon
    body: shapely.Polygon
    axis: Point
    forces: Array
    parts: tuple[tuple[Point, Point], ...]


def plates_of(made: TrussDesign, standard: Standard) -> tuple[Plate, ...]:
    """Return the plates of a truss: of each joint the smallest that hold, or, where none does, the one used least."""
    frame = made.frame
    bodies = {name: shapely.Polygon(one.ring) for name, one in made.sawn.items()}
    outline = _within(frame)
    found = []
    for joint in frame.joints:
        sticks = [one for one in frame.sticks if joint in one.joints]
        if len(sticks) < 2:
            continue
        held = [_held(made, joint, one, sticks, bodies, standard) for one in sticks]
        found.append(_chosen(made, joint, held, outline, standard))
    return tuple(found)


def _within(frame: TrussFrame) -> shapely.Polygon:
    """Return what the truss fills: plates stay within."""
    outline = frame.outline
    low = min(y for _, y in (*outline.bottom, *outline.top)) - 1.0
    under = [(outline.top[-1][0], low), (outline.top[0][0], low)]
    if len(outline.bottom) > 2 or outline.bottom[0][1] != outline.bottom[-1][1]:
        under = [(outline.top[-1][0], low), *((x, y) for x, y in reversed(outline.bottom)), (outline.top[0][0], low)]
    whole = shapely.Polygon([*outline.top, *under])
    return whole if whole.is_valid else whole.buffer(0.0)


def joint_forces(made: TrussDesign, joint: str, stick: str) -> Array:
    """Return what a stick gives to a joint in each combination (c, 2), N: the sum over its elements that end there."""
    frame, total = made.frame, np.zeros((len(made.combined), 2))
    for k, one in enumerate(frame.elements):
        if one.stick != stick or joint not in (one.i, one.j):
            continue
        (x0, y0), (x1, y1) = frame.joints[one.i], frame.joints[one.j]
        c, s = (x1 - x0) / math.hypot(x1 - x0, y1 - y0), (y1 - y0) / math.hypot(x1 - x0, y1 - y0)
        at, sign = (0.0, 1.0) if one.i == joint else (1.0, -1.0)
        n = made.solved.axial(at)[0, k] @ made.factors * sign
        v = -(made.solved.shear(at)[0, k] @ made.factors) * sign
        total += np.stack([n * c - v * s, n * s + v * c], axis=1)
    return total


def _held(
    made: TrussDesign,
    joint: str,
    stick: Stick,
    sticks: list[Stick],
    bodies: dict[str, shapely.Polygon],
    standard: Standard,
) -> _Held:
    axis = unit(*(made.frame.joints[name] for name in (stick.joints[0], stick.joints[-1])))
    body, counts = bodies[stick.name], bodies[stick.name]
    end, edge = standard.plate_distances
    for way, far in ((axis, end), ((-axis[1], axis[0]), edge)):
        for sign in (1.0, -1.0):
            counts = counts.intersection(shapely.affinity.translate(counts, way[0] * far * sign, way[1] * far * sign))
    others = shapely.union_all([bodies[one.name] for one in sticks if one is not stick])
    parts = _ends(body, others) if stick.role == "web" else _touching(body, others)
    return _Held(stick, counts, body, axis, joint_forces(made, joint, stick.name), tuple(parts))


def _ends(body: shapely.Polygon, others: shapely.Geometry) -> list[tuple[Point, Point]]:
    """Return the edges of a web that end at others; in the notch of two bottom chords it leaves some air."""
    edges = [((a[0], a[1]), (b[0], b[1])) for a, b in itertools.pairwise(body.exterior.coords)]
    near = [max(others.distance(shapely.Point(p)) for p in edge) < NOTCH for edge in edges]
    return [edge for edge, ok in zip(edges, near, strict=True) if ok and math.dist(*edge) > 1.0]


def _touching(body: shapely.Polygon, others: shapely.Geometry) -> list[tuple[Point, Point]]:
    """Return the stretches of an outline along which others lie."""
    lines = body.exterior.intersection(others.buffer(TOUCH))
    return [
        ((a[0], a[1]), (b[0], b[1]))
        for line in getattr(lines, "geoms", [lines])
        if line.geom_type == "LineString"
        for a, b in itertools.pairwise(line.coords)
        if math.dist(a, b) > 2.5 * TOUCH
    ]


def _chosen(made: TrussDesign, joint: str, held: list[_Held], outline: shapely.Polygon, standard: Standard) -> Plate:
    needed = [_needed(made, joint, one, standard) for one in held]
    every = [size for size in sizes() if size.area >= sum(needed)]
    best: Plate | None = None
    for begin in range(0, len(every), CHUNK):
        tried = [one for size in every[begin : begin + CHUNK] for one in _tried(made.frame, joint, held, size)]
        rings = shapely.polygons([one.ring for one in tried])
        left = np.nonzero(shapely.covers(outline, rings))[0]
        for one, least in zip(held, needed, strict=True):
            left = left[_bitten(one, rings[left], least, standard.plate_bite)]
        for k in left.tolist():
            used, said = max(_used(made, one, tried[k], joint, standard) for one in held)
            if best is None or used < best.used:
                at = tried[k]
                best = Plate(joint, at.at, at.width, at.length, at.angle, used, said, at.price)
            if used <= 1.0:
                return best
    if best is None:
        size = sizes()[-1]
        best = Plate(joint, made.frame.joints[joint], size.width, size.length, 0.0, FAR_OVER, NONE, size.price)
    return best


def _tried(frame: TrussFrame, joint: str, held: list[_Held], size: PlateSize) -> Iterator[Plate]:
    """Yield places of a plate: along and across each chord at a joint, from its outer face inward; level under a peak too."""
    base = _middle_of(frame, joint, held)
    chords = [one for one in held if one.stick.role != "web"]
    for one in chords:
        inward = (-one.axis[1], one.axis[0]) if one.stick.role == "bottom chord" else (one.axis[1], -one.axis[0])
        half = section(frame.sizes.of(one.stick.role)).depth / 2.0
        along = math.degrees(math.atan2(one.axis[1], one.axis[0]))
        # The chord's middle line beside that place.
        off = dot(inward, sub(frame.joints[joint], base))
        for turned in (0.0, 90.0):
            across = size.width if turned == 0.0 else size.length
            spliced = joint in frame.splices
            for inset in (half - across / 2.0,) if spliced else INSETS:
                far = off + inset + across / 2.0 - half
                for shift in (0.0,) if spliced else SHIFTS:
                    at = (
                        base[0] + inward[0] * far + one.axis[0] * shift,
                        base[1] + inward[1] * far + one.axis[1] * shift,
                    )
                    yield Plate(joint, at, size.width, size.length, along + turned, 0.0, "", size.price)
    if len(chords) == 2 and chords[0].stick.role == chords[1].stick.role and joint not in frame.splices:
        for turned in (0.0, 90.0):
            for down in DOWN:
                yield Plate(joint, (base[0], base[1] + down), size.width, size.length, turned, 0.0, "", size.price)


def _middle_of(frame: TrussFrame, joint: str, held: list[_Held]) -> Point:
    """Return about where plates lie: at the joint; at a heel where chords meet in the middle of the line along which they part."""
    parts = [part for one in held if one.stick.role == "top chord" for part in one.parts]
    if _heel_pitch(frame, joint) is None or not parts:
        return frame.joints[joint]
    longs = [math.dist(a, b) for a, b in parts]
    return (
        sum((a[0] + b[0]) / 2.0 * long for (a, b), long in zip(parts, longs, strict=True)) / sum(longs),
        sum((a[1] + b[1]) / 2.0 * long for (a, b), long in zip(parts, longs, strict=True)) / sum(longs),
    )


def _needed(made: TrussDesign, joint: str, held: _Held, standard: Standard) -> float:
    """Return how much contact a stick needs at least, however a plate is turned, mm2."""
    heel, found = _heel_pitch(made.frame, joint), 0.0
    for (fx, fy), combo in zip((held.forces / made.frame.sizes.plies).tolist(), made.combined, strict=True):
        force = math.hypot(fx, fy)
        way = (fx / force, fy / force) if force > 1e-6 else held.axis
        grain = math.degrees(math.acos(min(abs(dot(way, held.axis)), 1.0)))
        found = max(found, standard.plate_needs(made.job.wood.species, force, combo.duration, grain, heel))
    return found


def _bitten(held: _Held, rings: NDArray[np.object_], least: float, bite: float) -> NDArray[np.bool_]:
    """Return which plates reach far enough over a stick, and over so much of it that their teeth may hold it."""
    found: NDArray[np.bool_] = shapely.area(shapely.intersection(held.counts, rings)) >= least - 1e-6
    spans = _spans(shapely.intersection(held.body, rings[found]), held.axis)
    found[found] = spans.min(axis=1) >= bite - 0.5
    return found


def _used(made: TrussDesign, one: _Held, plate: Plate, joint: str, standard: Standard) -> tuple[float, str]:
    """Return how far a plate is used by a stick, and by what."""
    size, plies = made.frame.sizes.of(one.stick.role), made.frame.sizes.plies
    ring = shapely.Polygon(plate.ring)
    contact = one.counts.intersection(ring)
    bite = _spans(np.array([one.body.intersection(ring)]), one.axis)[0]
    lines = tuple((a, b, float(shapely.LineString((a, b)).intersection(ring).length)) for a, b in one.parts)
    used, said = standard.plate_used(
        PlateDemand(
            made.job.wood.species, made.job.wood.grade, size, section(size).breadth, one.axis, plate.angle, one.forces / plies,
            np.array([c.duration for c in made.combined]), float(contact.area), float(_spans(np.array([contact]), one.axis)[0, 1]),
            lines, (float(bite[0]), float(bite[1])), _heel_pitch(made.frame, joint), _toward(made.frame, joint, one),
        )
    )  # fmt: skip
    return used, f"{said}, {one.stick.name}"


def _toward(frame: TrussFrame, joint: str, one: _Held) -> Point | None:
    """Return the direction from a joint along a stick that ends there; None where it runs on."""
    joints = [name for name in one.stick.joints if not name.startswith(("tip", "end", "bearing"))]
    if one.stick.role == "web":
        joints = list(one.stick.joints)
    at = joints.index(joint) if joint in joints else -1
    if len(joints) < 2 or at not in (0, len(joints) - 1):
        return None
    sign = 1.0 if at == 0 else -1.0
    return one.axis[0] * sign, one.axis[1] * sign


def _heel_pitch(frame: TrussFrame, joint: str) -> float | None:
    """Return the slope between both chords at a heel where they meet, None at other joints."""
    chords = [one for one in frame.sticks if one.role != "web" and joint in one.joints]
    if {one.role for one in chords} != {"top chord", "bottom chord"}:
        return None
    slopes = []
    for one in chords:
        (x0, y0), (x1, y1) = frame.joints[one.joints[0]], frame.joints[one.joints[-1]]
        slopes.append((y1 - y0) / (x1 - x0))
    return abs(math.tan(math.atan(slopes[0]) - math.atan(slopes[1])))


def _spans(shapes: NDArray[np.object_], axis: Point) -> Array:
    """Return how far shapes reach along and across an axis (shapes, 2), mm."""
    found = np.zeros((len(shapes), 2))
    coords, index = shapely.get_coordinates(shapes, return_index=True)
    if not len(coords):
        return found
    for column, way in enumerate((axis, (-axis[1], axis[0]))):
        values = coords @ np.array(way)
        low, high = np.full(len(shapes), np.inf), np.full(len(shapes), -np.inf)
        np.minimum.at(low, index, values)
        np.maximum.at(high, index, values)
        found[:, column] = np.maximum(np.where(np.isfinite(high), high - low, 0.0), 0.0)
    return found
