"""Plates at the joints of a truss: placed, and the smallest that hold chosen, on both faces alike.

What a stick gives to a joint is the sum of what its elements end with there, so that a chord that runs on gives what its webs bring.
A plate lies within the truss's outline, covers every stick at the joint by the least bite, and holds each of them by its teeth, its
steel along the lines where sticks part, and the wood between both plates.
"""

import itertools
import math
from dataclasses import dataclass

import numpy as np
import shapely
from msgspec.structs import replace
from numpy.typing import NDArray

from balken.catalog.sections import section
from balken.catalog.truss_plates import PlateSize, sizes
from balken.design.trusses import TrussDesign
from balken.framing.trusses import Stick, TrussFrame
from balken.geometry.plane import Point, Ring, area, clipped, dot, sub, unit
from balken.geometry.under_boxes import Boxes, areas_under, spans_under
from balken.standards.checks import FAR_OVER
from balken.standards.standard import Standard
from balken.standards.truss_demands import PlateDemand
from balken.value import Value

Array = NDArray[np.float64]
INSETS = (6.0, 20.0, 45.0)
"""How far from a chord's outer face plates are tried, mm."""
PAST = (0.5, 0.3)
"""Or so that this part of a plate lies on the chord."""
SHIFTS = (0.0, -30.0, 30.0, -60.0, 60.0)
"""How far along the chord from the joint, mm."""
DOWN = tuple(20.0 - 10.0 * k for k in range(12))
"""How far over and under the chords' meeting at a peak level plates are tried, mm."""
CHUNK = 8
MOST_TRIED = 24
"""Of so many sizes at a time so many places are looked at to the end."""
TOUCH = 3.0
"""Sticks no farther apart touch, mm."""
EVEN = 0.1
"""Plates may reach so far past what they stay within, mm."""
NONE = "no plate of the list reaches over all sticks"
LESS = 0.45
"""A force less than this part of the greatest never governs: strengths by direction differ less than that."""
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
    def boxes(self) -> Boxes:
        """It as a rectangle."""
        way = math.cos(math.radians(self.angle)), math.sin(math.radians(self.angle))
        return Boxes(np.array([self.at]), np.array([(self.length / 2.0, self.width / 2.0)]), np.array([way]))

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
    counts: Ring
    body: Ring
    axis: Point
    forces: Array
    durations: Array
    toward: Point | None
    parts: tuple[tuple[Point, Point], ...]


def plates_of(made: TrussDesign, standard: Standard) -> tuple[Plate, ...]:
    """Return the plates of a truss: of each joint the smallest that hold, or, where none does, the one used least."""
    frame = made.frame
    bodies = {name: shapely.Polygon(one.ring) for name, one in made.sawn.items()}
    found: list[Plate] = []
    known: dict[_Like, Plate] = {}
    for joint in frame.joints:
        sticks = [one for one in frame.sticks if joint in one.joints]
        if len(sticks) < 2:
            continue
        # Webs first: they rule out most places.
        sticks.sort(key=lambda one: one.role != "web")
        held = [_held(made, joint, one, sticks, bodies, standard) for one in sticks]
        # Joints alike take plates alike, and so do those that mirror one another, where these hold.
        same, mirrored = _like(held), _like(held, mirrored=True)
        plate = _again(made, joint, known[same], held, standard) if same in known else None
        if plate is None and mirrored in known:
            plate = _again(made, joint, known[mirrored], held, standard, mirrored=True)
        plate = plate or _chosen(made, joint, held, standard)
        known[same] = plate
        found.append(plate)
    return tuple(found)


_Like = tuple[tuple[str, float, float, bool], ...]
"""What joints alike have in common: of each stick its role, its axis, whether it ends there."""


def _like(held: list[_Held], mirrored: bool = False) -> _Like:
    """Return what joints like this one, or like its mirror image, have in common."""
    rows = []
    for one in held:
        x, y = one.axis
        x, y = (-x, -y) if x < -1e-6 or (abs(x) <= 1e-6 and y < 0.0) else (x, y)
        y = -y if mirrored and abs(x) > 1e-6 else y
        rows.append((one.stick.role, round(x, 3) + 0.0, round(y, 3) + 0.0, one.toward is None))
    return tuple(sorted(rows))


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
    body = bodies[stick.name]
    whole = _ring(body.convex_hull)
    others = shapely.union_all([bodies[one.name] for one in sticks if one is not stick])
    parts = _ends(body, others) if stick.role == "web" else _touching(body, others)
    forces, durations = joint_forces(made, joint, stick.name), np.array([c.duration for c in made.combined])
    toward = _toward(made.frame, joint, stick, axis)
    kept = _counting(forces, durations, toward)
    return _Held(
        stick,
        _shrunk(whole, axis, *standard.plate_distances),
        whole,
        axis,
        forces[kept],
        durations[kept],
        toward,
        tuple(parts),
    )


def _shrunk(ring: Ring, axis: Point, end: float, edge: float) -> Ring:
    """Return what of an outline that bulges everywhere lies ``end`` within it along an axis and ``edge`` across it (net area method)."""
    found = ring
    for a, b in zip(ring, (*ring[1:], ring[0]), strict=True):
        if math.dist(a, b) < 1e-6:
            continue
        way = unit(a, b)
        inward = (-way[1], way[0])
        by = abs(dot(inward, axis)) * end + abs(dot(way, axis)) * edge
        found = clipped(found, inward, dot(inward, a) + by)
    return found if len(found) > 2 else ((0.0, 0.0),) * 3


def _counting(forces: Array, durations: Array, toward: Point | None) -> NDArray[np.bool_]:
    """Return which combinations may govern: others are so much smaller than the greatest that no direction makes up for it."""
    size = np.hypot(forces[:, 0], forces[:, 1])
    pull = forces @ np.array(toward) if toward is not None else np.zeros(len(forces))
    found = np.zeros(len(forces), dtype=bool)
    for row in (size, size / durations, pull, pull / durations):
        found |= (row >= LESS * row.max()) & (row > 0.0)
    if not found.any():
        found[0] = True
    return found


def _ring(shape: shapely.Polygon) -> Ring:
    if shape.is_empty or shape.geom_type != "Polygon":
        return ((0.0, 0.0),) * 3
    return tuple((float(x), float(y)) for x, y in shapely.orient_polygons(shape).exterior.coords[:-1])


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


def _again(
    made: TrussDesign, joint: str, like: Plate, held: list[_Held], standard: Standard, mirrored: bool = False
) -> Plate | None:
    """Return the plate of a joint like this one, or like its mirror image, where it holds here too."""
    there, here = made.frame.joints[like.joint], made.frame.joints[joint]
    aside, up = like.at[0] - there[0], like.at[1] - there[1]
    plate = replace(
        like,
        joint=joint,
        at=(here[0] + (-aside if mirrored else aside), here[1] + up),
        angle=-like.angle if mirrored else like.angle,
    )
    if not _inside(made.frame, plate.boxes)[0]:
        return None
    for one in held:
        if not _bitten(one, plate.boxes, _needed(made, joint, one, standard), standard.plate_bite)[0][0]:
            return None
    used, said = max(_used(made, one, plate, joint, standard) for one in held)
    return replace(plate, used=used, governs=said) if used <= 1.0 else None


def _chosen(made: TrussDesign, joint: str, held: list[_Held], standard: Standard) -> Plate:
    needed = [_needed(made, joint, one, standard) for one in held]
    every = [size for size in sizes() if size.area >= sum(needed)]
    best: Plate | None = None
    for begin in range(0, len(every), CHUNK):
        boxes, of = _tried(made.frame, joint, held, every[begin : begin + CHUNK])
        left = np.nonzero(_inside(made.frame, boxes))[0]
        spare = np.full(len(left), np.inf)
        for one, least in zip(held, needed, strict=True):
            ok, part = _bitten(one, boxes[left], least, standard.plate_bite)
            left, spare = left[ok], np.minimum(spare[ok], part)
        # Those first that have most to spare where they have least.
        for k in left[np.argsort(-spare, kind="stable")][:MOST_TRIED].tolist():
            plate = _plate(joint, boxes, k, every[begin + int(of[k])])
            used, said = max(_used(made, one, plate, joint, standard) for one in held)
            if best is None or used < best.used:
                best = replace(plate, used=used, governs=said)
            if used <= 1.0:
                return best
    if best is None:
        size = sizes()[-1]
        best = Plate(joint, made.frame.joints[joint], size.width, size.length, 0.0, FAR_OVER, NONE, size.price)
    return best


def _plate(joint: str, boxes: Boxes, k: int, size: PlateSize) -> Plate:
    (x, y), (c, s) = boxes.middles[k].tolist(), boxes.ways[k].tolist()
    return Plate(joint, (x, y), size.width, size.length, math.degrees(math.atan2(s, c)), 0.0, "", size.price)


def _tried(frame: TrussFrame, joint: str, held: list[_Held], some: list[PlateSize]) -> tuple[Boxes, NDArray[np.int64]]:
    """Return places of plates, and which of the sizes each is: along and across each chord at a joint, from its outer face inward; level
    under a peak too.
    """
    base = _middle_of(frame, joint, held)
    chords = [one for one in held if one.stick.role != "web"]
    spliced = joint in frame.splices
    rows: list[tuple[float, float, float, float, float, float, int]] = []
    for which, size in enumerate(some):
        half = size.length / 2.0, size.width / 2.0
        for one in chords:
            inward = (-one.axis[1], one.axis[0]) if one.stick.role == "bottom chord" else (one.axis[1], -one.axis[0])
            deep = section(frame.sizes.of(one.stick.role)).depth / 2.0
            # The chord's middle line beside that place.
            off = dot(inward, sub(frame.joints[joint], base))
            for way, across in ((one.axis, size.width), ((-one.axis[1], one.axis[0]), size.length)):
                insets = (*INSETS, *(2.0 * deep - part * across for part in PAST))
                for inset in (deep - across / 2.0, INSETS[0]) if spliced else insets:
                    far = off + inset + across / 2.0 - deep
                    x, y = base[0] + inward[0] * far, base[1] + inward[1] * far
                    for shift in (0.0,) if spliced else SHIFTS:
                        rows.append((x + one.axis[0] * shift, y + one.axis[1] * shift, *half, *way, which))
        if len(chords) == 2 and chords[0].stick.role == chords[1].stick.role and not spliced:
            for way, wide, tall in (((1.0, 0.0), *half), ((0.0, 1.0), *half[::-1])):
                # Under deep chords at a steep peak plates lie lower than that: from where they just fit.
                top = np.array(frame.outline.top)
                fits = min(float(np.interp(base[0] + x, top[:, 0], top[:, 1])) for x in (-wide, wide)) - tall - base[1]
                downs = DOWN if fits >= DOWN[-1] else tuple(fits + down - DOWN[0] for down in DOWN)
                rows += [(base[0], base[1] + down, *half, *way, which) for down in downs]
    table = np.array(rows)
    return Boxes(table[:, 0:2], table[:, 2:4], table[:, 4:6]), table[:, 6].astype(np.int64)


def _inside(frame: TrussFrame, boxes: Boxes) -> NDArray[np.bool_]:
    """Return which plates stay within a truss: under its top edge, over its underside, short of its tips."""
    outline, corners = frame.outline, boxes.corners
    top, bottom = np.array(outline.top), np.array(outline.bottom)
    x, y = corners[..., 0], corners[..., 1]
    low = min(bottom[:, 1].min(), top[:, 1].min())
    over = y <= np.interp(x, top[:, 0], top[:, 1]) + EVEN
    under = y >= np.interp(x, bottom[:, 0], bottom[:, 1], left=low, right=low) - EVEN
    found: NDArray[np.bool_] = (over & under & (x >= top[0, 0] - EVEN) & (x <= top[-1, 0] + EVEN)).all(axis=1)
    for bend in bottom[1:-1]:
        seen = boxes.local(((bend[0], bend[1]),))[:, 0]
        found &= ~(np.abs(seen) < boxes.halves - EVEN).all(axis=1)
    return found


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
    for (fx, fy), duration in zip(
        (held.forces / made.frame.sizes.plies).tolist(), held.durations.tolist(), strict=True
    ):
        force = math.hypot(fx, fy)
        way = (fx / force, fy / force) if force > 1e-6 else held.axis
        grain = math.degrees(math.acos(min(abs(dot(way, held.axis)), 1.0)))
        found = max(found, standard.plate_needs(made.job.wood.species, force, duration, grain, heel))
    return found


def _bitten(held: _Held, boxes: Boxes, least: float, bite: float) -> tuple[NDArray[np.bool_], Array]:
    """Return which plates reach far enough over a stick, and over so much of it that their teeth may hold it; and, of those, how many
    times as much.
    """
    areas = areas_under(held.counts, boxes)
    found: NDArray[np.bool_] = areas >= least - 1e-6
    found[found] = spans_under(held.body, boxes[found], held.axis).min(axis=1) >= bite - 0.5
    return found, areas[found] / max(least, 1e-6)


def _part_under(ring: Ring, plate: Plate) -> Ring:
    """Return what of an outline lies under a plate."""
    c, s = math.cos(math.radians(plate.angle)), math.sin(math.radians(plate.angle))
    for way, half in (((c, s), plate.length / 2.0), ((-s, c), plate.width / 2.0)):
        for normal in (way, (-way[0], -way[1])):
            ring = clipped(ring, normal, dot(normal, plate.at) - half)
    return ring


def _reach(ring: Ring, axis: Point) -> tuple[float, float]:
    """Return how far an outline reaches along and across an axis, mm."""
    if len(ring) < 3:
        return 0.0, 0.0
    along, across = [dot(axis, p) for p in ring], [dot((-axis[1], axis[0]), p) for p in ring]
    return max(along) - min(along), max(across) - min(across)


def _used(made: TrussDesign, one: _Held, plate: Plate, joint: str, standard: Standard) -> tuple[float, str]:
    """Return how far a plate is used by a stick, and by what."""
    size, plies = made.frame.sizes.of(one.stick.role), made.frame.sizes.plies
    contact, bitten = _part_under(one.counts, plate), _part_under(one.body, plate)
    ring = shapely.Polygon(plate.ring)
    lines = tuple((a, b, float(shapely.LineString((a, b)).intersection(ring).length)) for a, b in one.parts)
    used, said = standard.plate_used(
        PlateDemand(
            made.job.wood.species, made.job.wood.grade, size, section(size).breadth, one.axis, plate.angle, one.forces / plies,
            one.durations, abs(area(contact)), _reach(contact, one.axis)[1], lines,
            _reach(bitten, one.axis), _heel_pitch(made.frame, joint), one.toward,
        )
    )  # fmt: skip
    return used, f"{said}, {one.stick.name}"


def _toward(frame: TrussFrame, joint: str, stick: Stick, axis: Point) -> Point | None:
    """Return the direction from a joint along a stick that ends there; None where it runs on."""
    joints = [name for name in stick.joints if not name.startswith(("tip", "end", "bearing"))]
    if stick.role == "web":
        joints = list(stick.joints)
    at = joints.index(joint) if joint in joints else -1
    if len(joints) < 2 or at not in (0, len(joints) - 1):
        return None
    sign = 1.0 if at == 0 else -1.0
    return axis[0] * sign, axis[1] * sign


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
