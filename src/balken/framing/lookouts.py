"""Lookouts: boards on edge that run from the first rafter inside a gable wall over its end rafter, let into that, to the fly rafter.

The end rafter lies on the raking plate of its wall from end to end, so that what is let into it weakens nothing that spans.
"""

import itertools
import math
from collections.abc import Sequence
from typing import NamedTuple

import shapely
from msgspec.structs import replace

from balken.catalog.sections import section
from balken.framing.gable_ladders import BLOCK, FARTHEST, Rake, rakes
from balken.framing.pieces import Piece
from balken.framing.rafter_stations import THICK
from balken.framing.surface_members import SurfaceMember
from balken.framing.surface_roofs import SurfacePlan, eave
from balken.framing.walls import GableTop
from balken.geometry.notched import notched
from balken.geometry.plane import Ring, add, clipped, dot, sub
from balken.geometry.prism import Prism
from balken.model.naming import piece_name
from balken.units.system import INCH
from balken.value import Value

LEFT = 1.5 * INCH
"""So much of the end rafter's depth is left under a lookout at least."""
OVER_PLATE = 10.0
"""The lowest one stands so far in of the eave's wall, mm."""
AIR = 0.5
"""Room in a notch on each side, mm."""


class LookoutRow(Value, frozen=True):
    """Lookouts over a gable under one plane: its edge and the gable's, by their numbers; the end rafter they are let into and the rafter
    they run back to.

    ``wall``: the middle of the gable wall's core, ``end``: the end rafter's middle, ``face``: the inner rafter's face, ``past``: the inner
    face of the fly rafter, ``out``: the deck's edge, all along the eave, mm; ``places``: how far in of the eave each stands; ``strip``: how
    wide a strip of roof the inner rafter carries, mm.
    """

    edge: int
    gable: int
    rafters: tuple[str, str]
    wall: float
    end: float
    face: float
    past: float
    out: float
    places: tuple[float, ...]
    size: str
    strip: float

    @property
    def depth(self) -> float:
        """How deep they are, on edge, mm."""
        return section(self.size).depth

    @property
    def back(self) -> float:
        """From where they are held at the inner rafter to the middle of the end rafter, mm."""
        return abs(self.face - self.end)

    @property
    def lever(self) -> float:
        """How much of what lies on the overhang lifts the inner rafter: its middle from the end rafter's, over the back span."""
        return (self.over + THICK / 2.0) / 2.0 / self.back

    @property
    def over(self) -> float:
        """From the middle of the end rafter to the edge of the deck, mm."""
        return abs(self.out - self.end)


class Bin(NamedTuple):
    """What of an overhang one lookout carries, mm2 of plan, and how wide that is up the slope in plan, mm."""

    area: float
    wide: float


def reaching(plan: SurfacePlan) -> list[Rake]:
    """Return the overhangs over gables that reach too far for a ladder."""
    return [rake for rake in rakes(plan) if plan.overhangs[rake.gable] > FARTHEST + 1.0]


def lookout_row(
    plan: SurfacePlan, rake: Rake, members: Sequence[SurfaceMember], size: str, apart: float, tie: str = ""
) -> LookoutRow | None:
    """Return lookouts ``apart`` mm up the slope over a gable, none where a ceiling tie (``tie``: its section) lies beside the rafter they
    run back to; None where no two rafters stand there from eave to ridge.
    """
    edge = rake.edge
    corner, way, _ = eave(plan, edge)
    inward = 1.0 if rake.fly < rake.wall else -1.0  # along the eave, from the wall into the house
    mine = sorted(
        (inward * (dot(way, sub(one.member.start[:2], corner)) - rake.wall), one.key, one.member.head.half)
        for one in members
        if one.wall and one.member.edges[0] == edge and one.member.role == "common rafter" and one.member.at_eave
    )
    if len(mine) < 2 or not 0.0 < mine[0][0] < THICK:
        return None
    (end, first, half), (inner, second, _) = mine[:2]
    strip = (mine[2][0] - end) / 2.0 if len(mine) > 2 else inner - end
    steep = math.hypot(1.0, plan.edges[edge].pitch)
    begin, top = over_plates(plan, edge, size), top_at(plan, edge, rake.wall) - under_ridge(plan, edge, size, half)
    places = places_between(begin, top, apart / steep, _beside_tie(plan, edge, size, tie))
    if not places:
        return None
    return LookoutRow(
        edge, rake.gable, (first, second), rake.wall + inward * plan.deep[rake.gable], rake.wall + inward * end,
        rake.wall + inward * (inner - THICK / 2.0), rake.fly + inward * THICK / 2.0, rake.wall - inward * plan.overhangs[rake.gable],
        tuple(places), size, strip,
    )  # fmt: skip


def places_between(begin: float, top: float, apart: float, taken: tuple[float, float] = (0.0, 0.0)) -> list[float]:
    """Return places from a first to a last, no farther apart than asked but for what is taken."""
    low, high = taken
    found = list[float]()
    t = high if low < begin < high else begin
    while t <= top + 1e-6:
        found.append(t)
        following = t + apart
        if low < following < high:
            following = low if low > t + AIR else high
        t = following
    if found and top - found[-1] > 0.5 * apart and not low < top < high:
        found.append(top)
    return found


def _beside_tie(plan: SurfacePlan, edge: int, size: str, tie: str) -> tuple[float, float]:
    """Return between which places in of the eave a lookout would stand in a ceiling tie, mm."""
    if not tie:
        return 0.0, 0.0
    pitch, lumber, low = plan.edges[edge].pitch, section(size), plan.roof.tie_raise - plan.plate_to_top
    steep = math.hypot(1.0, pitch)
    high = low + section(tie).depth
    return low / pitch - lumber.breadth / steep - OVER_PLATE, (high + lumber.depth * steep) / pitch + OVER_PLATE


def over_plates(plan: SurfacePlan, edge: int, size: str) -> float:
    """Return how far in of the eave the lowest lookout stands: past its wall's core, and over the plates of the gable's."""
    pitch = plan.edges[edge].pitch
    over = section(size).depth * math.hypot(1.0, pitch) - plan.plate_to_top
    return max(2.0 * plan.deep[edge], over / pitch) + OVER_PLATE


def under_ridge(plan: SurfacePlan, edge: int, size: str, half: float) -> float:
    """Return how far in of the ridge's middle the uppermost lookout stands, in plan, so that neither it nor its notch reaches into the board
    or beam, which is ``half`` so thick to each side.
    """
    pitch, lumber = plan.edges[edge].pitch, section(size)
    return half + THICK / 2.0 + (lumber.breadth + pitch * lumber.depth) / math.hypot(1.0, pitch)


def top_at(plan: SurfacePlan, edge: int, at: float) -> float:
    """Return how far in of an eave its plane ends beside a gable, mm."""
    corner, way, inward = eave(plan, edge)
    ring = next(face.ring for face in plan.surface.faces if face.edge == edge)
    near = [p[:2] for p in ring if abs(dot(way, sub(p[:2], corner)) - at) < 2.0]
    return max((dot(inward, sub(p, corner)) for p in near), default=0.0)


def carried(plan: SurfacePlan, row: LookoutRow) -> list[Bin]:
    """Return what each lookout of a row carries: the deck beyond the gable's core, half-way to the next ones."""
    corner, way, inward = eave(plan, row.edge)
    outer = 1.0 if row.out > row.end else -1.0
    ring: Ring = tuple(p[:2] for face in plan.whole.faces if face.edge == row.edge for p in face.ring)
    face = row.end + outer * THICK / 2.0
    beyond = clipped(ring, (way[0] * outer, way[1] * outer), outer * (dot(way, corner) + face))
    start = dot(inward, corner)
    ts = [dot(inward, p) - start for p in beyond]
    cuts = [min(ts), *((a + b) / 2.0 for a, b in itertools.pairwise(row.places)), max(ts)]
    found = []
    for low, high in itertools.pairwise(cuts):
        part = clipped(clipped(beyond, inward, start + low), (-inward[0], -inward[1]), -(start + high))
        shape = shapely.Polygon(part) if len(part) > 2 else shapely.Polygon()
        found.append(Bin(shape.area, high - low))
    return found


def lookout_pieces(plan: SurfacePlan, rows: Sequence[LookoutRow]) -> list[Piece]:
    """Return lookouts as solids, their upper edges under the deck."""
    found = []
    for row in rows:
        lumber, pitch = section(row.size), plan.edges[row.edge].pitch
        steep, level = math.hypot(1.0, pitch), plan.level(row.edge)
        corner, way, inward = eave(plan, row.edge)
        first, last = sorted((row.face, row.past))
        up = (inward[0] / steep, inward[1] / steep, pitch / steep)
        down = (inward[0] * pitch / steep, inward[1] * pitch / steep, -1.0 / steep)
        wide = last - first
        profile: Ring = ((0.0, 0.0), (wide, 0.0), (wide, lumber.breadth), (0.0, lumber.breadth))
        for k, t in enumerate(row.places):
            x, y = add(add(corner, way, first), inward, t)
            top = (x, y, level + pitch * t)
            origin = tuple(c + lumber.depth * d for c, d in zip(top, down, strict=True))
            prism = Prism((origin[0], origin[1], origin[2]), (*way, 0.0), up, (profile,), lumber.depth)
            ends = [(*add(add(corner, way, s), inward, t), level + pitch * t) for s in (first, last)]
            found.append(
                Piece(
                    lookout_name(plan.roof.id, row, k), "lookout", plan.roof.id, plan.roof.bearing.level, prism, "timber",
                    ends[0], ends[1], wide, row.size, plan.roof.rafters.species, plan.roof.rafters.grade,
                )
            )  # fmt: skip
    return found


def lookout_name(roof: str, row: LookoutRow, number: int) -> str:
    """Return the name of a lookout of a row."""
    return piece_name(roof, "lookout", f"{row.edge}", f"{row.gable}", f"{number}")


def soffited(plan: SurfacePlan, tops: dict[str, GableTop], rows: Sequence[LookoutRow]) -> dict[str, GableTop]:
    """Return gables whose cladding and sheathing end under what carries the overhang over them: lookouts, or the blocks of a ladder."""
    deep = {rake.gable: section(BLOCK).breadth for rake in rakes(plan)}
    for row in rows:
        deep[row.gable] = max(deep.get(row.gable, 0.0), section(row.size).depth)
    found = dict(tops)
    for k, by in deep.items():
        wall = plan.outline.walls[k]
        if wall in found:
            steep = max(
                math.hypot(1.0, rise) for rise, _, _ in found[wall].slopes
            )  # alike, so that both meet at the peak
            slopes = ((rise, over - by * steep, under) for rise, over, under in found[wall].slopes)
            found[wall] = replace(found[wall], slopes=tuple(slopes))
    return found


def let_in(plan: SurfacePlan, rows: Sequence[LookoutRow], pieces: tuple[Piece, ...]) -> tuple[Piece, ...]:
    """Return a roof's members with lookouts let into their end rafters."""
    by_end = {row.rafters[0]: row for row in rows}
    return tuple(_notched(plan, by_end[piece.key], piece) if piece.key in by_end else piece for piece in pieces)


def _notched(plan: SurfacePlan, row: LookoutRow, piece: Piece) -> Piece:
    """Return an end rafter with a notch for each lookout, down from its upper edge."""
    lumber, pitch = section(row.size), plan.edges[row.edge].pitch
    steep, (corner, _, inward) = math.hypot(1.0, pitch), eave(plan, row.edge)
    start, level = dot(inward, corner), plan.level(row.edge)
    along, down = (1.0 / steep, pitch / steep), (pitch / steep, -1.0 / steep)
    box = ((-AIR, -1.0), (lumber.breadth + AIR, -1.0), (lumber.breadth + AIR, lumber.depth), (-AIR, lumber.depth))
    cuts = [
        tuple((start + t + a * along[0] + b * down[0], level + pitch * t + a * along[1] + b * down[1]) for a, b in box)
        for t in row.places
    ]
    return replace(piece, solid=notched(piece.solid, inward, cuts))
