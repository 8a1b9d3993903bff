"""What closes a roof at its eaves: fascia boards before the tails, and blocks between the rafters over the walls.

Fascias stand plumb outside what overhangs, as high as the undersides of the deck there, and are mitred where two of them meet.  Blocks
stand on the plates in the outer face of the wall, of the deepest section that leaves air under the deck.
"""

import itertools
from collections.abc import Sequence

import shapely

from balken.catalog.sections import section
from balken.framing.pieces import Piece, split_run
from balken.framing.rafter_stations import THICK
from balken.framing.surface_roofs import SurfacePlan, eave
from balken.geometry.plane import Point, Ring, add, area, clipped, cross, distance, dot, left, meet, sub, unit
from balken.geometry.prism import Vec, box, upright
from balken.geometry.roof_joins import polygons_of
from balken.geometry.roof_surface import RoofLine
from balken.geometry.trimmed import leaning_of
from balken.model.naming import Places, piece_name, place_at
from balken.units.system import INCH

FASCIAS = ("2x4", "2x6", "2x8", "2x10", "2x12")
"""Of what fascias are made."""
BLOCKS = ("2x12", "2x10", "2x8", "2x6", "2x4")
"""Of what blocks are cut, the deepest first."""
WIDEST = 30.0 * INCH
"""Rafters farther apart have no block between them, mm."""
SHORTEST = 50.0
"""Nobody nails in a block shorter than this, mm."""
TOUCH = 1.0
"""Ends of eaves nearer than this are one, mm."""
GRID = 1e-3
LEAST = 1e3
"""What of a fascia is smaller in plan is none, mm2."""
SHARPEST = 0.1
"""Sine of the angle under which fascias are no longer mitred."""


def eave_pieces(plan: SurfacePlan, pieces: Sequence[Piece], framed: bool, stock: float) -> tuple[Piece, ...]:
    """Return the fascias and blocks of a roof; ``pieces``: all else it is made of, ``framed``: whether with rafters; ``stock``: how long
    lumber comes, mm.
    """
    blocks = eave_blocks(plan, pieces) if framed and plan.roof.eave_blocks else ()
    return (*fascias(plan, stock), *blocks)


# Fascias --------------------------------------------------------------------------------------------


def fascias(plan: SurfacePlan, stock: float) -> tuple[Piece, ...]:
    """Return the fascias of a roof, in lengths of ``stock``."""
    roof, found = plan.roof, list[Piece]()
    if roof.fascia is None:
        return ()
    lumber = section(roof.fascia)
    eaves = [line for line in plan.whole.lines if line.kind == "eave" and distance(*_plan(line)) > TOUCH]
    beside = shapely.union_all([shapely.Polygon(ring) for ring in plan.over], grid_size=GRID)
    beside = beside.buffer(lumber.breadth, join_style="mitre")
    places = Places()
    for line in eaves:
        edge = line.edges[0]
        a, b, way = _run(plan, line)
        out = left((-way[0], -way[1]))
        inner, outer = (a, b), [add(p, out, lumber.breadth) for p in (a, b)]
        for end, at in enumerate((a, b)):
            other = next((x for x in eaves if x is not line and _shares(x, at)), None)
            if other is not None:
                _, _, along = _run(plan, other)
                beyond = left((-along[0], -along[1]))
                met = meet(outer[end], way, add(at, beyond, lumber.breadth), along)
                if met is not None and abs(cross(way, along)) > SHARPEST:
                    outer[end] = met
        top = line.start[2] + plan.bearing + plan.plate_to_top - plan.edges[edge].pitch * lumber.breadth
        for whole in _beside_others((*inner, outer[1], outer[0]), beside):
            low, high = (pick(dot(way, sub(p, a)) for p in whole) for pick in (min, max))
            for u, v in split_run(high - low, stock):
                ring = _part(whole, a, way, (low + u, low + v))
                if len(ring) < 3:
                    continue
                begins = dot(way, sub(add(a, way, low + u), plan.outline.core[edge]))
                name = places.text("fascia", place_at(plan.outline.walls[edge], begins))
                ends = [(*add(a, way, low + x), top) for x in (u, v)]
                found.append(
                    Piece(
                        piece_name(roof.id, "fascia", name), "fascia", roof.id, roof.bearing.level,
                        upright(ring, top - lumber.depth, lumber.depth), "timber", ends[0], ends[1], v - u, roof.fascia,
                        roof.rafters.species, roof.rafters.grade,
                    )
                )  # fmt: skip
    return tuple(found)


def _beside_others(ring: Ring, others: shapely.Geometry) -> list[Ring]:
    """Return what of a fascia in plan lies beside roofs that run on over this one and their own fascias."""
    if others.is_empty:
        return [ring]
    shape = shapely.Polygon(ring).difference(others, grid_size=GRID)
    rings = ([(float(x), float(y)) for x, y in p.exterior.coords[:-1]] for p in polygons_of(shape) if p.area > LEAST)
    return [tuple(corners) for corners in rings]


def _plan(line: RoofLine) -> tuple[Point, Point]:
    return line.start[:2], line.end[:2]


def _run(plan: SurfacePlan, line: RoofLine) -> tuple[Point, Point, Point]:
    """Return the ends of an eave, and its way with its plane to the left."""
    _, way, _ = eave(plan, line.edges[0])
    a, b = sorted(_plan(line), key=lambda p: dot(way, p))
    return a, b, way


def _shares(line: RoofLine, at: Point) -> bool:
    return any(distance(at, p) < TOUCH for p in _plan(line))


def _part(ring: Ring, origin: Point, way: Point, between: tuple[float, float]) -> Ring:
    """Return what of an outline lies between two places along a way."""
    reach = 1e4
    corners = [add(add(origin, way, s), left(way), t) for s in between for t in (-reach, reach)]
    strip = shapely.Polygon([corners[0], corners[2], corners[3], corners[1]])
    shape = shapely.Polygon(ring).intersection(strip)
    if not isinstance(shape, shapely.Polygon) or shape.area < 1.0:
        return ()
    made = [(float(x), float(y)) for x, y in shapely.orient_polygons(shape).exterior.coords[:-1]]
    return tuple(made)


# Blocks ---------------------------------------------------------------------------------------------


def block_size(plan: SurfacePlan) -> str | None:
    """Return of what the blocks of a roof are cut; None where there is no room for any."""
    return next((size for size in BLOCKS if section(size).depth <= plan.plate_to_top), None)


def eave_blocks(plan: SurfacePlan, pieces: Sequence[Piece]) -> tuple[Piece, ...]:
    """Return blocks between the rafters over the walls and beams under each eave, in what hips, ties and rafters leave free."""
    roof, core, places, size = plan.roof, plan.outline.core, Places(), block_size(plan)
    if size is None:
        return ()
    lumber, found = section(size), list[Piece]()
    # A rafter's seat takes nothing off its outline in plan.
    near = [(p, (leaning_of(p.solid) or p.solid).extent) for p in pieces if p.role not in OVER]
    for face in plan.surface.faces:
        k = face.edge
        a, b = core[k], core[(k + 1) % len(core)]
        way, low = unit(a, b), plan.bearing + plan.edges[k].start
        inward = left(way)
        stands = _standing(near, (low, low + lumber.depth), (a, way, inward), distance(a, b))
        for first, last in itertools.pairwise(stands):
            start, end = first[1], last[0]
            if not SHORTEST <= end - start <= WIDEST:
                continue
            ends = [(*add(add(a, way, s), inward, THICK / 2.0), low) for s in (start, end)]
            solid = box(ends[0], ends[1], (*inward, 0.0), THICK, lumber.depth)
            name = places.text("eave block", place_at(plan.outline.walls[k], start))
            found.append(
                Piece(
                    piece_name(roof.id, "eave-block", name), "eave block", roof.id, roof.bearing.level,
                    solid, "timber", ends[0], ends[1], end - start, size, roof.rafters.species, roof.rafters.grade,
                )
            )  # fmt: skip
    return tuple(found)


def _standing(
    pieces: Sequence[tuple[Piece, tuple[Vec, Vec]]],
    between: tuple[float, float],
    seen: tuple[Point, Point, Point],
    long: float,
) -> list[tuple[float, float]]:
    """Return from where to where along an eave pieces stand between two heights where its blocks are to, those that touch as one;
    ``pieces``: with their extents, ``seen``: the first corner of the eave, the ways along it and inward; ``long``: that is, mm.
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
        if middle + half <= 0.0 or middle - half >= THICK:
            continue
        for ring in piece.solid.plan:
            start = dot(inward, origin)
            part = clipped(ring, inward, start)
            part = clipped(part, (-inward[0], -inward[1]), -start - THICK) if len(part) > 2 else ()
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


OVER = frozenset({"roof plane", "roof deck", "fascia", "purlin", "collar tie", "valley board"})
"""What lies over the blocks, or nowhere near them."""
