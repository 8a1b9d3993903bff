"""Overhangs over gables: a fly rafter along each rake and blocks between it and the rafter over the wall, a ladder under the deck.

The deck holds such a ladder (common practice up to a foot, no source); what reaches farther has lookouts (``lookouts.py``).
"""

import math
from typing import NamedTuple

import shapely

from balken.catalog.sections import section
from balken.framing.pieces import Piece
from balken.framing.rafter_stations import THICK
from balken.framing.surface_roofs import SurfacePlan
from balken.framing.tails import fly_cut, with_tail
from balken.geometry.leaning import Leaning
from balken.geometry.plane import Point, Ring, add, chords, distance, dot, left, sub, unit
from balken.geometry.prism import Prism
from balken.geometry.roof_edges import runs_up
from balken.geometry.roof_joins import LowerPlane
from balken.geometry.trimmed import Trimmed, trimmed
from balken.model.naming import piece_name
from balken.units.system import FOOT, INCH

BLOCK = "2x4"
APART = 24.0 * INCH
"""From block to block, up the slope."""
FARTHEST = 1.0 * FOOT
"""Farther than this no ladder is to reach, mm."""
NEAREST = 2.0 * THICK
"""A narrower overhang has no fly rafter, mm."""
BEFORE_HIP = 2.0 * THICK
"""A fly rafter under a hip ends so far before that one's middle, mm in plan."""
SQUARE = 0.02


class Rake(NamedTuple):
    """The end of a plane over a gable: its edge, the gable's, where along the edge its wall's face and its fly rafter's middle are, mm."""

    edge: int
    gable: int
    wall: float
    fly: float


def rakes(plan: SurfacePlan) -> list[Rake]:
    """Return the ends of planes that overhang over gables, and over walls that run up to a raised eave, square to their eaves."""
    core, n, found = plan.outline.core, len(plan.outline.core), []
    rings = {face.edge: [p[:2] for p in face.ring] for face in plan.whole.faces}
    for k in range(n):
        if plan.overhangs[k] < NEAREST:
            continue
        for edge, after in ((k - 1) % n, True), ((k + 1) % n, False):
            if not runs_up(plan.edges, edge, k):
                continue
            way, other = (unit(core[i], core[(i + 1) % n]) for i in (edge, k))
            if plan.edges[edge].kind == "eave" and abs(dot(way, other)) < SQUARE:
                wall = distance(core[edge], core[(edge + 1) % n]) if after else 0.0
                along = [dot(way, sub(p, core[edge])) for p in rings.get(edge, ())]
                beyond = max(along, default=0.0) - wall if after else -min(along, default=0.0)
                if beyond < NEAREST:
                    continue  # what lies there is another plane's
                out = plan.overhangs[k] - THICK / 2.0
                found.append(Rake(edge, k, wall, wall + out if after else -out))
    return found


def ladder_pieces(
    plan: SurfacePlan, rafter: str, without: frozenset[tuple[int, int]] = frozenset()
) -> tuple[Piece, ...]:
    """Return fly rafters and blocks; ``rafter``: the section of the roof's; ``without``: edges and gables where lookouts take the place
    of blocks.
    """
    found: list[Piece] = []
    faces = {face.edge: face for face in plan.whole.faces}
    for rake in rakes(plan):
        if rake.edge not in faces:
            continue
        a, b = plan.outline.core[rake.edge], plan.outline.core[(rake.edge + 1) % len(plan.outline.core)]
        way = unit(a, b)
        foot, inward = add(a, way, rake.fly), left(way)
        ring = tuple(p[:2] for p in faces[rake.edge].ring)
        for low, high in chords((ring,), foot, inward):
            if plan.edges[rake.gable].kind == "eave":
                high -= BEFORE_HIP
            if high - low > 4.0 * THICK:
                made = _ladder(plan, rake, rafter, (way, inward, a), (low, high))
                found += made[:1] if (rake.edge, rake.gable) in without else made
    return tuple(found)


def lower_planes(plan: SurfacePlan, places: list[Point]) -> list[LowerPlane]:
    """Return the planes of lower roofs that lie below any of some places, their heights over the plane's own."""
    return [
        plane for plane in plan.laid_on if any(shapely.Polygon(plane.ring).covers(shapely.Point(p)) for p in places)
    ]


def _ladder(
    plan: SurfacePlan, rake: Rake, rafter: str, at: tuple[Point, Point, Point], ends: tuple[float, float]
) -> list[Piece]:
    (way, inward, corner), (low, high) = at, ends
    roof, pitch, lumber = plan.roof, plan.edges[rake.edge].pitch, section(rafter)
    steep = math.hypot(1.0, pitch)
    level = plan.level(rake.edge)

    def place(s: float, t: float) -> Point:
        return add(add(corner, way, s), inward, t)

    half, plumb = lumber.breadth / 2.0, lumber.depth * steep
    corners = ((-half, low), (half, low), (half, high), (-half, high))
    ring: Ring = tuple(place(rake.fly + s, t) for s, t in corners)
    solid = Leaning(ring, (*corner, level - plumb), (inward[0] * pitch, inward[1] * pitch), plumb)
    off = fly_cut(plan, rake.edge, place(rake.fly, low), lumber.depth)
    kept = with_tail(solid, off)
    for below in lower_planes(plan, [place(rake.fly, low), place(rake.fly, high)]):
        if isinstance(kept, Leaning):
            cut = trimmed(kept, (-below.slope[0], -below.slope[1], 1.0), below.level + level)
            kept = cut if isinstance(cut, Leaning | Trimmed) else kept
    name = (f"{rake.edge}", f"{rake.gable}")
    ends3 = [(*place(rake.fly, t), level + pitch * t) for t in ends]
    long = (high - low) * steep + lumber.depth * pitch
    if off is not None:
        (nx, ny, nz), (x, y) = off[0], place(rake.fly, low)
        left_over = 0.0 if roof.tails == "square" else level + pitch * low - (off[1] - nx * x - ny * y) / nz
        long -= max(plumb - left_over, 0.0) * pitch / steep
    made = [
        Piece(
            piece_name(roof.id, "fly", *name), "fly rafter", roof.id, roof.bearing.level, kept, "timber", ends3[0], ends3[1], long,
            rafter, roof.rafters.species, roof.rafters.grade,
        )
    ]  # fmt: skip
    first, last = sorted((rake.wall, rake.fly - math.copysign(half, rake.fly - rake.wall)))
    block = section(BLOCK)
    v = (inward[0] / steep, inward[1] / steep, pitch / steep)
    down = (inward[0] * pitch / steep, inward[1] * pitch / steep, -1.0 / steep)
    profile: Ring = ((0.0, 0.0), (last - first, 0.0), (last - first, block.depth), (0.0, block.depth))
    t, number = 0.0, 0
    while t + block.depth / steep < high - THICK:
        x, y = place(first, t)
        under = [place(s, t + up) for s in (first, last) for up in (0.0, block.depth / steep)]
        deep = block.breadth * steep
        if any(below.height(p) > pitch * t - deep for below in lower_planes(plan, under) for p in under):
            break  # there the roof below begins
        origin = tuple(c + block.breadth * d for c, d in zip((x, y, level + pitch * t), down, strict=True))
        prism = Prism((origin[0], origin[1], origin[2]), (*way, 0.0), v, (profile,), block.breadth)
        low3, high3 = ((*place(s, t), level + pitch * t) for s in (first, last))
        made.append(
            Piece(
                piece_name(roof.id, "ladder", *name, f"{number}"), "ladder block", roof.id, roof.bearing.level, prism, "timber", low3,
                high3, last - first, BLOCK, roof.rafters.species, roof.rafters.grade,
            )
        )  # fmt: skip
        t, number = t + APART / steep, number + 1
    return made
