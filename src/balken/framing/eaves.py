"""What closes a roof at its eaves: boards before the tails and along rakes (``fascias``), and blocks between the rafters over the walls.

Blocks stand on the plates in the outer face of the wall, of the deepest section that leaves air under the deck; upright, or square to
the rafters, leaning out over the wall.
"""

import itertools
import math
from collections.abc import Sequence
from typing import NamedTuple

import shapely

from balken.catalog.sections import section
from balken.framing.fascias import fascias, rake_boards
from balken.framing.pieces import Piece
from balken.framing.rafter_stations import THICK
from balken.framing.soffit_returns import soffit_returns
from balken.framing.sprockets import sprockets
from balken.framing.surface_roofs import SurfacePlan
from balken.geometry.plane import Point, Ring, add, area, clipped, distance, dot, left, sub, unit
from balken.geometry.prism import Prism, Vec
from balken.geometry.trimmed import leaning_of
from balken.model.naming import Places, piece_name, place_at
from balken.units.system import INCH

BLOCKS = ("2x12", "2x10", "2x8", "2x6", "2x4")
"""Of what blocks are cut, the deepest first."""
WIDEST = 30.0 * INCH
"""Rafters farther apart have no block between them, mm."""
SHORTEST = 50.0
"""Nobody nails in a block shorter than this, mm."""
LEANS = 12.0 * INCH
"""No block leans out farther, mm."""
TOUCH = 1.0
"""Pieces nearer than this touch, mm."""


def eave_pieces(plan: SurfacePlan, pieces: Sequence[Piece], framed: bool, stock: float) -> tuple[Piece, ...]:
    """Return the fascias, rake boards and blocks of a roof; ``pieces``: all else it is made of, ``framed``: whether with rafters;
    ``stock``: how long lumber comes, mm.
    """
    blocks = eave_blocks(plan, pieces) if framed and plan.roof.eave_blocks else ()
    faces = _faces(plan)
    beside = sprockets(plan, pieces, faces)
    boards = (*beside, *soffit_returns(plan, (*pieces, *beside), faces))
    return (*fascias(plan, stock), *rake_boards(plan, stock), *blocks, *boards)


def _faces(plan: SurfacePlan) -> list[float]:
    """Return how far before the outer face of each wall's core what stands before it reaches: layers, blocks that lean out."""
    found = []
    for k in range(len(plan.edges)):
        clad = plan.clad[k] if plan.clad else 0.0
        eaves = plan.edges[k].kind == "eave" and plan.roof.eave_blocks
        block = block_under(plan, k) if eaves else None
        found.append(max(clad, -block.reach[0] if block is not None else 0.0))
    return found


# Blocks ---------------------------------------------------------------------------------------------


class EaveBlock(NamedTuple):
    """A block under an eave, as it is seen along that: its section; its outline, how far in of the bearing line, how high over the plates, mm."""

    size: str
    side: Ring

    @property
    def reach(self) -> tuple[float, float]:
        """From where to where it reaches, mm in of the bearing line."""
        return min(t for t, _ in self.side), max(t for t, _ in self.side)

    @property
    def tall(self) -> float:
        """How high over the plates it reaches, mm."""
        return max(z for _, z in self.side)


def block_under(plan: SurfacePlan, edge: int) -> EaveBlock | None:
    """Return the block under an eave; None where there is no room for any: under the deck, or, of one that leans, behind the ends of
    tails.  Beside other roofs they stand upright: what leans out would stand in
    what those are made of.
    """
    pitch = plan.edges[edge].pitch if plan.roof.blocks_square and not _beside_others(plan, edge) else 0.0
    steep = math.hypot(1.0, pitch)
    for size in BLOCKS:
        deep = section(size).depth
        # Square to the rafters it stands on its outer lower edge, its upper one right under the deck there.
        lean = deep * pitch / steep
        if deep <= plan.plate_to_top / steep and lean <= plan.overhangs[edge]:
            up, along = (-pitch / steep, 1.0 / steep), (1.0 / steep, pitch / steep)
            corners = ((0.0, 0.0), (THICK, 0.0), (THICK, deep), (0.0, deep))
            side = tuple((a * along[0] + d * up[0], a * along[1] + d * up[1]) for a, d in corners)
            return EaveBlock(size, side)
    return None


def _beside_others(plan: SurfacePlan, edge: int) -> bool:
    """Whether an eave runs by a roof over this one, or one below it."""
    core = plan.outline.core
    near = shapely.LineString([core[edge], core[(edge + 1) % len(core)]]).buffer(LEANS)
    return any(near.intersects(shapely.Polygon(ring)) for ring in (*plan.over, *(low.ring for low in plan.laid_on)))


def has_room(plan: SurfacePlan) -> bool:
    """Whether blocks of a roof find room under any of its eaves."""
    return any(block_under(plan, face.edge) is not None for face in plan.surface.faces)


def eave_blocks(plan: SurfacePlan, pieces: Sequence[Piece]) -> tuple[Piece, ...]:
    """Return blocks between the rafters over the walls and beams under each eave, in what hips, ties and rafters leave free."""
    roof, core, places, found = plan.roof, plan.outline.core, Places(), list[Piece]()
    # A rafter's seat takes nothing off its outline in plan.
    near = [(p, (leaning_of(p.solid) or p.solid).extent) for p in pieces if p.role not in OVER]
    for face in plan.surface.faces:
        k, block = face.edge, block_under(plan, face.edge)
        if block is None:
            continue
        a, b = core[k], core[(k + 1) % len(core)]
        way, low = unit(a, b), plan.bearing + plan.edges[k].start
        inward = left(way)
        stands = _standing(near, (low, low + block.tall), block.reach, (a, way, inward), distance(a, b))
        for first, last in itertools.pairwise(stands):
            start, end = first[1], last[0]
            if not SHORTEST <= end - start <= WIDEST:
                continue
            ends = [(*add(add(a, way, s), inward, THICK / 2.0), low) for s in (start, end)]
            x, y = add(a, way, start)
            solid = Prism((x, y, low), (*inward, 0.0), (0.0, 0.0, 1.0), (block.side,), end - start)
            name = places.text("eave block", place_at(plan.outline.walls[k], start))
            found.append(
                Piece(
                    piece_name(roof.id, "eave-block", name), "eave block", roof.id, roof.bearing.level,
                    solid, "timber", ends[0], ends[1], end - start, block.size, roof.rafters.species, roof.rafters.grade,
                )
            )  # fmt: skip
    return tuple(found)


def _standing(
    pieces: Sequence[tuple[Piece, tuple[Vec, Vec]]],
    between: tuple[float, float],
    reach: tuple[float, float],
    seen: tuple[Point, Point, Point],
    long: float,
) -> list[tuple[float, float]]:
    """Return from where to where along an eave pieces stand between two heights where its blocks are to, those that touch as one;
    ``pieces``: with their extents, ``reach``: from where to where in of it blocks are to, ``seen``: the first corner of the eave, the ways along it and inward; ``long``: that is, mm.
    """
    origin, way, inward = seen
    x, y = origin
    aside = abs(inward[0]), abs(inward[1])
    rows = []
    for piece, (low, high) in pieces:
        if low[2] >= between[1] or high[2] <= between[0]:
            continue
        half = (aside[0] * (high[0] - low[0]) + aside[1] * (high[1] - low[1])) / 2.0
        middle = inward[0] * ((low[0] + high[0]) / 2.0 - x) + inward[1] * ((low[1] + high[1]) / 2.0 - y)
        if middle + half <= reach[0] or middle - half >= reach[1]:
            continue
        for ring in piece.solid.plan:
            start = dot(inward, origin)
            part = clipped(ring, inward, start + reach[0])
            part = clipped(part, (-inward[0], -inward[1]), -start - reach[1]) if len(part) > 2 else ()
            if len(part) > 2 and abs(area(part)) > 1.0:
                along = [min(max(dot(way, sub(p, origin)), 0.0), long) for p in part]
                if max(along) > min(along):
                    rows.append((min(along), max(along)))
    found: list[tuple[float, float]] = []
    for row in sorted(rows):
        if found and row[0] < found[-1][1] + TOUCH:
            found[-1] = found[-1][0], max(found[-1][1], row[1])
        else:
            found.append(row)
    return found


OVER = frozenset({"roof plane", "roof deck", "fascia", "rake board", "purlin", "collar tie", "valley board"})
"""What lies over the blocks, or nowhere near them."""
