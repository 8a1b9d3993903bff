"""Valleys laid over a lower roof: boards flat on its deck, members cut off where they come down on them."""

import math

import shapely

from balken.catalog.sections import section
from balken.framing.pieces import EVEN, Piece
from balken.framing.roof_layout import RoofMember
from balken.framing.surface_roofs import VALLEY_BOARD, SurfacePlan
from balken.geometry.leaning import Leaning
from balken.geometry.plane import Point, add, areas, clipped, cross, dot, largest, left, sub, unit
from balken.geometry.prism import Prism, Vec, cross3, dot3
from balken.geometry.roof_edges import Place
from balken.geometry.roof_joins import LowerPlane
from balken.geometry.roof_surface import RoofFace, RoofLine
from balken.geometry.seated import Seated
from balken.geometry.trimmed import Trimmed, trimmed
from balken.model.naming import piece_name
from balken.value import Value

BOARDS = ("2x6", "2x8", "2x10", "2x12")
ON = 10.0
"""A place no farther from a plane below lies on it, mm."""
REACH = 1.0


class LaidFoot(Value, frozen=True):
    """The foot of a jack that stands on a roof below, as a saw is set for it: the angle of its cut to the top edge in its side, and of
    the blade from square to that side, degrees.
    """

    seat: float
    bevel: float


def plane_under(plan: SurfacePlan, at: Place) -> LowerPlane | None:
    """Return the plane of a lower roof on which a place of this one lies."""
    for plane in plan.laid_on:
        near = abs(plane.height(at[:2]) - at[2]) < ON
        if near and shapely.Polygon(plane.ring).buffer(REACH).covers(shapely.Point(at[:2])):
            return plane
    return None


def on_boards(
    plan: SurfacePlan, m: RoofMember, solid: Leaning | Prism | Seated | Trimmed | None
) -> Leaning | Prism | Seated | Trimmed | None:
    """Return a member's solid, cut off where one of its ends comes down on the valley boards of a roof below."""
    made: Leaning | Prism | Seated | Trimmed | None = solid
    for end in (m.start, m.end) if plan.laid_on else ():
        plane = plane_under(plan, end)
        if plane is not None and isinstance(made, Leaning | Prism):
            lift = plan.bearing + plan.plate_to_top
            made = trimmed(made, (-plane.slope[0], -plane.slope[1], 1.0), plane.level + lift)
    return made


def laid_foot(plan: SurfacePlan, m: RoofMember) -> LaidFoot | None:
    """Return how the foot of a laid jack is sawn: its cut lies in the plane below."""
    plane = plane_under(plan, m.start) if m.laid else None
    if plane is None:
        return None
    way = unit(m.start[:2], m.end[:2])
    slope = math.tan(math.radians(m.slope))
    trace = math.degrees(math.atan(dot(plane.slope, way)))
    across = dot(plane.slope, left(way))
    # How far the plane turns from the line square to the side of the jack, seen along its trace there.
    bevel = math.degrees(math.atan(abs(across) * math.cos(math.radians(trace))))
    return LaidFoot(math.degrees(math.atan(slope)) - trace, bevel)


def valley_boards(plan: SurfacePlan, rafter: str) -> tuple[Piece, ...]:
    """Return the boards under the feet of laid jacks: flat on the lower deck, their outer edges along the valleys."""
    faces = {face.edge: face for face in plan.surface.faces}
    found = []
    for number, line in enumerate(plan.surface.lines):
        middle = _middle(line)
        plane = plane_under(plan, middle) if line.kind == "laid" else None
        if plane is None or line.length < 2.0 * VALLEY_BOARD:
            continue
        face = faces[line.edges[0]]
        wide = _seat(plan, face, line, plane, rafter) - EVEN
        size = next((s for s in BOARDS if section(s).depth >= wide), BOARDS[-1])
        solid = _board(plan, face, line, plane, section(size).depth)
        if solid is None:
            continue
        roof, lift = plan.roof, plan.bearing + plan.plate_to_top
        ends = [(x, y, z + lift) for x, y, z in (line.start, line.end)]
        key = piece_name(roof.id, "valley-board", f"{face.edge}", f"{number}")
        found.append(
            Piece(
                key, "valley board", roof.id, roof.bearing.level, solid, "timber", ends[0], ends[1], line.length, size,
                roof.rafters.species, roof.rafters.grade,
            )
        )  # fmt: skip
    return tuple(found)


def _middle(line: RoofLine) -> Place:
    (ax, ay, az), (bx, by, bz) = line.start, line.end
    return (ax + bx) / 2.0, (ay + by) / 2.0, (az + bz) / 2.0


def _seat(plan: SurfacePlan, face: RoofFace, line: RoofLine, plane: LowerPlane, rafter: str) -> float:
    """Return how wide the feet of jacks lie on a plane below, square to their valley in plan, mm."""
    core = plan.outline.core
    way = left(unit(core[face.edge], core[(face.edge + 1) % len(core)]))
    plumb = section(rafter).depth * math.hypot(1.0, face.pitch)
    steeper = face.pitch - dot(plane.slope, way)
    run = plumb / max(steeper, 1e-3)
    return run * abs(cross(way, unit(line.start[:2], line.end[:2])))


def _board(plan: SurfacePlan, face: RoofFace, line: RoofLine, plane: LowerPlane, wide: float) -> Prism | None:
    a, b = line.start[:2], line.end[:2]
    gx, gy = plane.slope
    steep = math.sqrt(1.0 + gx * gx + gy * gy)
    normal = (-gx / steep, -gy / steep, 1.0 / steep)
    along = unit(a, b)
    rise = dot(plane.slope, along)
    u = (along[0] / math.hypot(1.0, rise), along[1] / math.hypot(1.0, rise), rise / math.hypot(1.0, rise))
    v = cross3(normal, u)
    shape = shapely.Polygon([p[:2] for p in face.ring])
    side = left(along)
    inner = (
        1.0 if shapely.Polygon([a, b, add(b, side, wide), add(a, side, wide)]).intersection(shape).area > 1.0 else -1.0
    )
    flat = wide * abs(v[0] * side[0] + v[1] * side[1])
    far = 2.0 * wide
    core = plan.outline.core
    eave = unit(core[face.edge], core[(face.edge + 1) % len(core)])
    low, high = sorted((line.start, line.end), key=lambda p: p[2])
    toward = 1.0 if dot(eave, sub(high[:2], low[:2])) >= 0.0 else -1.0
    onward = (eave[0] * toward, eave[1] * toward)
    ends = ((a, -far, 0.0), (b, far, 0.0), (b, far, flat), (a, -far, flat))
    strip = tuple(add(add(p, along, s), side, t * inner) for p, s, t in ends)
    # It begins where the first jack may stand, not beside the wall below.
    strip = clipped(strip, onward, dot(onward, low[:2]))
    below = shapely.union_all([shapely.Polygon(core) for core in plan.beneath])
    whole = largest(areas(shapely.Polygon(strip).buffer(0.0).intersection(shape)).intersection(below))
    if whole is None or whole.area < 1e3:
        return None
    lift = plan.bearing + plan.plate_to_top

    def on_plane(p: Point) -> Vec:
        return p[0], p[1], plane.height(p) + lift

    origin = on_plane(a)
    origin = (
        origin[0] - VALLEY_BOARD * normal[0],
        origin[1] - VALLEY_BOARD * normal[1],
        origin[2] - VALLEY_BOARD * normal[2],
    )
    rows = []
    for x, y in whole.simplify(0.05).exterior.coords[:-1]:
        off = sub((x, y), a)
        p = (off[0], off[1], dot(plane.slope, off))
        rows.append((dot3(p, u), dot3(p, v)))
    ring = tuple(rows) if shapely.LinearRing(rows).is_ccw else tuple(rows[::-1])
    return Prism(origin, u, v, (ring,), VALLEY_BOARD)
