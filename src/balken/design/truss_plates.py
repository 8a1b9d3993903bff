"""Plates at the joints of a truss: placed, and the smallest that hold chosen, on both faces alike.

What a stick gives to a joint is the sum of what its elements end with there, so that a chord that runs on gives what its webs bring.
A plate lies within the truss's outline, covers every stick at the joint by the least bite (``plate_places.py``), and holds each of them
by its teeth, its steel along the lines where sticks part, and the wood between both plates.
"""

import itertools
import math
from collections.abc import Iterator

import numpy as np
import shapely
from msgspec.structs import replace
from numpy.typing import NDArray

from balken.catalog.gussets import THICK
from balken.catalog.sections import section
from balken.catalog.truss_plates import GAUGE, PlateSize
from balken.design.plate_places import (
    Around,
    Covered,
    Shape,
    covered,
    inside,
    line_near,
    near,
    places,
    reaching,
    sizes_of,
    tidy,
)
from balken.design.truss_demands import EVEN
from balken.design.trusses import TrussDesign
from balken.framing.truss_outline import height_on
from balken.framing.trusses import Stick, TrussFrame
from balken.geometry.plane import Point, Ring, area, clipped, dot, length_within, unit
from balken.geometry.under_boxes import Boxes, joined
from balken.standards.checks import FAR_OVER
from balken.standards.standard import Standard
from balken.standards.truss_demands import Joined, PlateDemand
from balken.value import Value

Array = NDArray[np.float64]
CHUNK = 8
MOST_TRIED = 24
"""Of so many sizes at a time so many places are looked at to the end."""
NO_FORCE = np.zeros(1), np.ones(1), np.zeros(1)
NONE = "no plate of the list reaches over all sticks"
LESS = 0.45
"""A force less than this part of the greatest never governs: strengths by direction differ less than that."""


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
    joined: Joined = "plates"
    nailed: tuple[tuple[str, int], ...] = ()
    """Into which sticks how many nails go through each of a pair of gussets."""

    trimmed: Ring = ()
    """Its outline where it is cut to that of its truss, mm."""

    @property
    def thick(self) -> float:
        """Thickness of each, mm."""
        return THICK if self.joined == "gussets" else GAUGE

    @property
    def boxes(self) -> Boxes:
        """It as a rectangle."""
        way = math.cos(math.radians(self.angle)), math.sin(math.radians(self.angle))
        return Boxes(np.array([self.at]), np.array([(self.length / 2.0, self.width / 2.0)]), np.array([way]))

    @property
    def ring(self) -> Ring:
        """Its outline, mm."""
        if self.trimmed:
            return self.trimmed
        c, s = math.cos(math.radians(self.angle)), math.sin(math.radians(self.angle))
        u, v = self.length / 2.0, self.width / 2.0
        corners = ((-u, -v), (u, -v), (u, v), (-u, v))
        return tuple((self.at[0] + a * c - b * s, self.at[1] + a * s + b * c) for a, b in corners)


class _Held(Value, frozen=True):
    """A stick at a joint: what of it is held, its axis, forces on the joint by combination (c, 2); places are seen from the joint."""

    stick: Stick
    covered: Covered
    axis: Point
    forces: Array
    durations: Array
    toward: Point | None


class _Joint(Value, frozen=True):
    """A joint: its name, itself as plates see it, its sticks, the slope between its chords where it is a heel; how much contact each stick
    needs at least, however a plate is turned, mm2; into which how many nails go through each gusset.
    """

    name: str
    around: Around
    held: list[_Held]
    heel: float | None
    needed: Array
    nailed: tuple[tuple[str, int], ...] = ()


def plates_of(made: TrussDesign, standard: Standard) -> tuple[Plate, ...]:
    """Return the plates of a truss: of each joint the smallest that hold, or, where none does, the one used least."""
    frame = made.frame
    found: list[Plate] = []
    known: dict[_Like, Plate] = {}
    for name, at in frame.joints.items():
        sticks = [one for one in frame.sticks if name in one.joints]
        if len(sticks) < 2:
            continue
        # Webs first: they rule out most places.
        sticks.sort(key=lambda one: one.role != "web")
        joint = _joint(made, name, sticks, standard)
        # Joints alike take plates alike, and so do those that mirror one another, where these hold.
        same, mirrored = _like(joint.held), _like(joint.held, mirrored=True)
        plate = _again(made, joint, known[same], standard) if same in known else None
        if plate is None and mirrored in known:
            plate = _again(made, joint, known[mirrored], standard, mirrored=True)
        plate = plate or _chosen(made, joint, standard)
        known[same] = plate
        plate = replace(plate, at=(plate.at[0] + at[0], plate.at[1] + at[1]))
        found.append(_within(frame, plate) if plate.joined == "gussets" and plate.used < FAR_OVER else plate)
    return tuple(found)


def _within(frame: TrussFrame, plate: Plate) -> Plate:
    """Return a gusset cut to its truss's outline between the ends of its bottom chord, where it reaches past that."""
    outline = frame.outline
    ends = ((x, height_on(outline.top, x)) for x in (outline.start, outline.end))
    whole = shapely.Polygon([next(ends), *outline.top[1:-1], next(ends), *reversed(outline.bottom)])
    rest = shapely.Polygon(plate.ring).intersection(whole)
    if rest.geom_type != "Polygon" or rest.area > shapely.Polygon(plate.ring).area - 1.0:
        return plate
    corners = shapely.orient_polygons(rest).exterior.coords[:-1]
    return replace(plate, trimmed=tuple((float(x), float(y)) for x, y in corners))


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
    axial, shear = made.at_ends
    for k, one in enumerate(frame.elements):
        if one.stick != stick or joint not in (one.i, one.j):
            continue
        (x0, y0), (x1, y1) = frame.joints[one.i], frame.joints[one.j]
        c, s = (x1 - x0) / math.hypot(x1 - x0, y1 - y0), (y1 - y0) / math.hypot(x1 - x0, y1 - y0)
        at, sign = (0, 1.0) if one.i == joint else (1, -1.0)
        n, v = axial[at, k] * sign, -shear[at, k] * sign
        total += np.stack([n * c - v * s, n * s + v * c], axis=1)
    return total


def _joint(made: TrussDesign, name: str, sticks: list[Stick], standard: Standard) -> _Joint:
    frame = made.frame
    around, heel = _around(made, name, sticks, standard), _heel_pitch(frame, name)
    held = []
    for stick, one in zip(sticks, covered(around), strict=True):
        axis = _axis(frame, stick)
        forces, durations = joint_forces(made, name, stick.name), np.array([c.duration for c in made.combined])
        toward = _toward(frame, name, stick, axis)
        kept = _counting(forces, durations, toward)
        held.append(_Held(stick, one, axis, forces[kept], durations[kept], toward))
    needed = np.array([_needed(made, one, heel, standard) for one in held])
    return _Joint(name, around, held, heel, needed, _nails(made, held, heel, standard))


def _nails(made: TrussDesign, held: list[_Held], heel: float | None, standard: Standard) -> tuple[tuple[str, int], ...]:
    """Return into which sticks of a joint how many nails go through each gusset."""
    if made.job.joined != "gussets":
        return ()
    found = {}
    for one in held:
        rows = zip(one.forces.tolist(), one.durations.tolist(), strict=True)
        found[one.stick.name] = max(
            standard.gusset_nails(made.job.wood.species, math.hypot(fx, fy), duration, heel)
            for (fx, fy), duration in rows
        )
    return tuple(sorted(found.items()))


def _axis(frame: TrussFrame, stick: Stick) -> Point:
    return unit(*(frame.joints[name] for name in (stick.joints[0], stick.joints[-1])))


def _around(made: TrussDesign, name: str, sticks: list[Stick], standard: Standard) -> Around:
    """Return a joint as plates see it."""
    frame, at, joined = made.frame, made.frame.joints[name], made.job.joined
    shapes = []
    for one in sticks:
        x, y = _axis(frame, one)
        shapes.append(Shape(one.role, (round(x, 9) + 0.0, round(y, 9) + 0.0), near(made.sawn[one.name].ring, at)))
    outline = frame.outline
    low = min(y for _, y in (*outline.bottom, *outline.top)) - at[1]
    alone = Around(
        tuple(shapes),
        tuple((role, section(frame.sizes.of(role)).depth) for role in ("top chord", "bottom chord")),
        line_near(outline.top, at),
        line_near(outline.under, at),
        round(low, 4),
        (0.0, 0.0),
        name in frame.splices,
        standard.plate_distances(joined),
        standard.plate_bite(joined),
        round(standard.plate_needs(joined, made.job.wood.species, *NO_FORCE, _heel_pitch(frame, name)), 3) - 0.001,
        joined,
    )
    return alone._replace(middle=_middle_of(frame, name, alone))


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


def _again(made: TrussDesign, joint: _Joint, like: Plate, standard: Standard, mirrored: bool = False) -> Plate | None:
    """Return the plate of a joint like this one, or like its mirror image, where it holds here too."""
    aside, up = like.at
    plate = replace(
        like,
        joint=joint.name,
        nailed=joint.nailed,
        at=(-aside if mirrored else aside, up),
        angle=-like.angle if mirrored else like.angle,
    )
    if joint.around.joined != "gussets" and not inside(joint.around, plate.boxes)[0]:
        return None
    asked, least = [], joint.around.bite - 0.5
    for one, needed in zip(joint.held, joint.needed.tolist(), strict=True):
        demand = _demand(made, joint, one, plate)
        if demand.contact < needed - 1e-6 or min(demand.bite) < least:
            return None
        asked.append(demand)
    used, said = max(_said(standard.plate_used(demand), one) for demand, one in zip(asked, joint.held, strict=True))
    return replace(plate, used=used, governs=said) if used <= 1.0 else None


def _chosen(made: TrussDesign, joint: _Joint, standard: Standard) -> Plate:
    least = float(joint.needed.sum())
    every = [k for k, size in enumerate(sizes_of(made.job.joined)) if size.area >= least]
    best: Plate | None = None
    for begin in range(0, len(every), CHUNK):
        for plate in itertools.islice(_in_order(joint, every[begin : begin + CHUNK]), MOST_TRIED):
            used, said = max(_said(standard.plate_used(_demand(made, joint, one, plate)), one) for one in joint.held)
            if best is None or used < best.used - EVEN:
                best = replace(plate, used=used, governs=said)
            if used <= 1.0:
                return best
    if best is None:
        size = sizes_of(made.job.joined)[-1]
        none = NONE if made.job.joined == "plates" else NONE.replace("plate of the list", "gusset")
        best = Plate(joint.name, (0.0, 0.0), size.width, size.length, 0.0, FAR_OVER, none, size.price, made.job.joined)
    return best


def _in_order(joint: _Joint, numbers: list[int]) -> Iterator[Plate]:
    """Yield plates of some sizes where they may lie at a joint, those first that have most to spare where they have least."""
    some = [places(joint.around, number) for number in numbers]
    areas, boxes = np.concatenate([one.areas for one in some]), joined([one.boxes for one in some])
    of = np.repeat(numbers, [len(one.areas) for one in some])
    enough = np.nonzero((areas >= joint.needed - 1e-6).all(axis=1))[0]
    spare = (areas[enough] / np.maximum(joint.needed, 1e-6)).min(axis=1)
    order = enough[np.argsort(-spare, kind="stable")]
    for begin in range(0, len(order), MOST_TRIED):
        rows = order[begin : begin + MOST_TRIED]
        for k in rows[reaching(joint.around, boxes[rows])].tolist():
            yield _plate(joint, boxes, k, sizes_of(joint.around.joined)[int(of[k])])


def _plate(joint: _Joint, boxes: Boxes, k: int, size: PlateSize) -> Plate:
    (x, y), (c, s) = boxes.middles[k].tolist(), boxes.ways[k].tolist()
    angle = math.degrees(math.atan2(s, c))
    return Plate(
        joint.name, (x, y), size.width, size.length, angle, 0.0, "", size.price, joint.around.joined, joint.nailed
    )


def _middle_of(frame: TrussFrame, joint: str, around: Around) -> Point:
    """Return about where plates lie: at the joint; at a heel where chords meet in the middle of the line along which they part."""
    if _heel_pitch(frame, joint) is None:
        return 0.0, 0.0
    rows = zip(around.sticks, covered(around), strict=True)
    parts = [part for stick, one in rows if stick.role == "top chord" for part in one.parts]
    if not parts:
        return 0.0, 0.0
    longs = [math.dist(a, b) for a, b in parts]
    return tidy(
        (
            sum((a[0] + b[0]) / 2.0 * long for (a, b), long in zip(parts, longs, strict=True)) / sum(longs),
            sum((a[1] + b[1]) / 2.0 * long for (a, b), long in zip(parts, longs, strict=True)) / sum(longs),
        )
    )


def _needed(made: TrussDesign, held: _Held, heel: float | None, standard: Standard) -> float:
    """Return how much contact a stick needs at least, however a plate is turned, mm2."""
    forces = held.forces / made.frame.sizes.plies
    size = np.hypot(forces[:, 0], forces[:, 1])
    along = np.abs(forces @ np.array(held.axis))
    grain = np.degrees(np.arccos(np.minimum(along / np.maximum(size, 1e-9), 1.0)))
    grain[size <= 1e-6] = 0.0
    return standard.plate_needs(made.job.joined, made.job.wood.species, size, held.durations, grain, heel)


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


def _said(used: tuple[float, str], one: _Held) -> tuple[float, str]:
    return used[0], f"{used[1]}, {one.stick.name}"


def _demand(made: TrussDesign, joint: _Joint, one: _Held, plate: Plate) -> PlateDemand:
    """Return a stick as a plate holds it."""
    size, plies = made.frame.sizes.of(one.stick.role), made.frame.sizes.plies
    contact, over = _part_under(one.covered.counts, plate), _part_under(one.covered.body, plate)
    lines = tuple((a, b, _covers(plate, a, b)) for a, b in one.covered.parts)
    return PlateDemand(
        made.job.wood.species, made.frame.sizes.grade(one.stick.role, made.job.wood.grade), size, section(size).breadth, one.axis, plate.angle, one.forces / plies,
        one.durations, abs(area(contact)), _reach(contact, one.axis)[1], lines,
        _reach(over, one.axis), joint.heel, one.toward, made.job.joined,
    )  # fmt: skip


SPREAD = 0.25
"""Part of a line by which the force in a gusset spreads past each of its ends: at 30 degrees over nails that reach half as far along a stick
as it is wide."""


def _covers(plate: Plate, a: Point, b: Point) -> float:
    """Return how much of a line a plate covers, mm; a gusset a little past both ends, as far as it reaches."""
    covered = length_within(plate.ring, a, b)
    if plate.joined == "plates" or covered <= 0.0:
        return covered
    way, more = unit(a, b), SPREAD * covered
    longer = (a[0] - way[0] * more, a[1] - way[1] * more), (b[0] + way[0] * more, b[1] + way[1] * more)
    return length_within(plate.ring, *longer)


def _toward(frame: TrussFrame, joint: str, stick: Stick, axis: Point) -> Point | None:
    """Return the direction from a joint along a stick that ends there; None where it runs on."""
    joints = [name for name in stick.joints if not name.startswith(("tip", "end", "bearing", "free"))]
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
