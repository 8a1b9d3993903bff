"""Openings in planes of roofs: which rafters they cut, between which they lie, their headers."""

import math
from collections.abc import Sequence
from typing import NamedTuple

import shapely

from balken.framing.rafter_stations import THICK
from balken.framing.roof_layout import SHORTEST, Cut, RoofMember
from balken.geometry.plane import Point, add, distance, dot, left, sub, unit
from balken.geometry.roof_edges import Place, RoofEdge
from balken.geometry.roof_surface import RoofSurface
from balken.model.records import RoofOpening
from balken.units.system import FOOT
from balken.value import Value

CLEAR = 50.0
"""An opening keeps this far from the lines about its plane, mm."""
TRIMMER = 1.5 * THICK
"""Trimmers of three plies keep out of an opening where their middles are this far off it, mm."""
LONG = 4.0 * FOOT
"""Headers that span more are doubled (IRC R802.9)."""


class RoofHole(Value, frozen=True):
    """An opening in a plane: of which edge, from where to where along that and inward of it in plan, mm; ``problem``: why it
    is not framed.
    """

    opening: str
    kind: str
    edge: int
    along: tuple[float, float]
    inward: tuple[float, float]
    problem: str = ""


def roof_holes(
    openings: tuple[RoofOpening, ...],
    walls: tuple[str, ...],
    core: tuple[Point, ...],
    edges: tuple[RoofEdge, ...],
    surface: RoofSurface,
) -> tuple[RoofHole, ...]:
    """Return the openings of a roof, each in its plane; what does not fit says why."""
    found: list[RoofHole] = []
    for opening in openings:
        k = walls.index(opening.wall) if opening.wall in walls else -1
        steep = math.hypot(1.0, edges[k].pitch)
        along = opening.along - opening.width / 2.0, opening.along + opening.width / 2.0
        inward = opening.up / steep, (opening.up + opening.length) / steep
        found.append(fits_in(RoofHole(opening.id, opening.kind, k, along, inward), surface, core, found))
    return tuple(found)


def fits_in(hole: RoofHole, surface: RoofSurface, core: tuple[Point, ...], others: Sequence[RoofHole]) -> RoofHole:
    """Return an opening; where it does not lie within its plane, or lies over another, it says so."""
    face = next((face for face in surface.faces if face.edge == hole.edge), None)
    if face is None:
        return _but(hole, "there is no plane over its wall")
    box = _box(hole)
    ring = shapely.Polygon(in_plane(core, hole.edge, [p[:2] for p in face.ring]))
    if not ring.buffer(-CLEAR).covers(box):
        return _but(hole, "it does not lie within its plane: a hip, valley, ridge or edge runs through it or close by")
    for other in others:
        if other.edge == hole.edge and not other.problem and _box(other).buffer(CLEAR).intersects(box):
            return _but(hole, "it lies over another one")
    return hole


def _box(hole: RoofHole) -> shapely.Polygon:
    (s0, s1), (t0, t1) = hole.along, hole.inward
    return shapely.box(s0, t0, s1, t1)


def _but(hole: RoofHole, problem: str) -> RoofHole:
    return RoofHole(hole.opening, hole.kind, hole.edge, hole.along, hole.inward, problem)


def in_plane(core: tuple[Point, ...], edge: int, points: list[Point]) -> list[Point]:
    """Return places as (along an edge from its first corner, inward of it), mm."""
    start, way = core[edge], unit(core[edge], core[(edge + 1) % len(core)])
    inward = left(way)
    return [(dot(way, sub(p, start)), dot(inward, sub(p, start))) for p in points]


class OverPlane(NamedTuple):
    """A rectangle in a plane about an outline: over which edge, the middle of it along that, from where up the slope on, how wide and how
    long up the slope, mm.
    """

    edge: int
    along: float
    up: float
    width: float
    length: float


def rectangle_over(surface: RoofSurface, core: tuple[Point, ...], ring: Sequence[Point]) -> OverPlane | None:
    """Return the rectangle about an outline seen from above, in the plane under its middle; None where no plane is."""
    outline = shapely.Polygon(ring)
    for face in surface.faces:
        if not shapely.Polygon([p[:2] for p in face.ring]).covers(outline.centroid):
            continue
        ss, ts = zip(*in_plane(core, face.edge, list(ring)), strict=True)
        steep = math.hypot(1.0, face.pitch)
        return OverPlane(
            face.edge, (min(ss) + max(ss)) / 2.0, min(ts) * steep, max(ss) - min(ss), (max(ts) - min(ts)) * steep
        )
    return None


class Beside(NamedTuple):
    """The rafters by an opening: by their numbers, the two that it lies between, those that it cuts; where the two stand along the
    edge, mm.  ``problem``: why it cannot be framed.
    """

    trimmers: tuple[int, int] = (-1, -1)
    cut: tuple[int, ...] = ()
    at: tuple[float, float] = (0.0, 0.0)
    problem: str = ""


def rafters_beside(hole: RoofHole, core: tuple[Point, ...], members: list[tuple[int, RoofMember]]) -> Beside:
    """Return the rafters of a hole's plane that frame it; ``members``: those of that plane, with their numbers."""
    low, high = hole.inward
    ends = in_plane(core, hole.edge, [p[:2] for _, m in members for p in (m.start, m.end)])
    rows = sorted(
        (s, t0, t1, number) for (number, _), (s, t0), (_, t1) in zip(members, ends[::2], ends[1::2], strict=True)
    )
    reach = 2.0 * THICK  # headers of two plies
    whole = [r for r in rows if r[1] <= low - reach and r[2] >= high + reach]
    before = [r for r in whole if r[0] <= hole.along[0] - TRIMMER]
    after = [r for r in whole if r[0] >= hole.along[1] + TRIMMER]
    if not before or not after:
        return Beside(
            problem="no rafter beside it reaches from below to above it: move it off the hip, valley or gable"
        )
    a, b = before[-1], after[0]
    cut = [r for r in rows if a[0] < r[0] < b[0] and r[1] < high and r[2] > low]
    return Beside((a[3], b[3]), tuple(r[3] for r in cut), (a[0], b[0]))


def tails(
    m: RoofMember, hole: RoofHole, core: tuple[Point, ...], thick: float
) -> tuple[RoofMember | None, RoofMember | None]:
    """Return what is left of a rafter below and above an opening, its headers ``thick`` mm."""
    way = unit(m.start[:2], m.end[:2])
    ((_, t0), (_, t1)) = in_plane(core, hole.edge, [m.start[:2], m.end[:2]])
    rise = (m.end[2] - m.start[2]) / max(t1 - t0, 1e-9)
    side = left(way)

    def at(t: float) -> Place:
        return (*add(m.start[:2], way, t - t0), m.start[2] + rise * (t - t0))

    def cut(place: Place) -> Cut:
        p = place[:2]
        return Cut(90.0, thick / 2.0, "header", (add(p, side, -1000.0), add(p, side, 1000.0)))

    below, above = at(hole.inward[0] - thick / 2.0), at(hole.inward[1] + thick / 2.0)
    lower = _part(m, m.start, below, m.foot, cut(below), m.over)
    upper = _part(m, above, m.end, cut(above), m.head, 0.0)
    return lower, upper


def _part(m: RoofMember, start: Place, end: Place, foot: Cut, head: Cut, over: float) -> RoofMember | None:
    steep, run = 1.0 / math.cos(math.radians(m.slope)), distance(start[:2], end[:2])
    past = m.past if head is m.head else 0.0
    net = run + over + past - head.shorter + head.longer(THICK) - foot.shorter + foot.longer(THICK)
    if net < SHORTEST or dot(unit(m.start[:2], m.end[:2]), sub(end[:2], start[:2])) <= 0.0:
        return None
    bevel, top = (m.bevel, m.top_edge) if head is m.head else (0.0, 0.0)
    return m._replace(
        role="tail rafter", start=start, end=end, theoretical=run * steep, length=net * steep, foot=foot, head=head, over=over,
        bevel=bevel, top_edge=top, past=past,
    )  # fmt: skip
