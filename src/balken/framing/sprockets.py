"""Sprockets: boards beside the lower ends of rafters and top chords, on which the deck runs out flatter over the eave (common practice, no
source).  Each is nailed to its tail all along; nothing checks by what nails.
"""

import math
from collections.abc import Sequence

import shapely

from balken.catalog.sections import section
from balken.framing.eave_breaks import flat_at, sprocket_size
from balken.framing.eave_tails import Tail, beside, tails_along
from balken.framing.pieces import Piece
from balken.framing.rafter_stations import THICK
from balken.framing.surface_roofs import SurfacePlan, eave
from balken.geometry.plane import Point, Ring, add, distance
from balken.geometry.prism import Prism
from balken.model.naming import Places, piece_name, place_at

INSIDE = ("ceiling tie", "ceiling joist", "bearing block", "lookout")
"""What lies beside rafters and trusses near the plates."""
OVER_PLATE = 1.0
"""They stay so far over the plates, mm."""


def sprockets(plan: SurfacePlan, pieces: Sequence[Piece], faces: Sequence[float]) -> tuple[Piece, ...]:
    """Return the sprockets of a roof; ``faces``: how far before the outer face of each eave's core layers of its wall lie, mm."""
    found, places = list[Piece](), Places()
    for k in _edges(plan):
        for tail, along in _sides(plan, k, pieces):
            ring = _ring(plan, k, tail, faces[k]) if along is not None else ()
            if along is not None and len(ring) > 2:
                name = places.text("sprocket", place_at(plan.outline.walls[k], along[0]))
                found.append(_piece(plan, k, along[0], ring, name))
    return tuple(found)


def bare_tails(plan: SurfacePlan, pieces: Sequence[Piece]) -> dict[int, int]:
    """Return how many tails along each eave with sprockets have none, since no side of them is free."""
    rows = {k: sum(along is None for _, along in _sides(plan, k, pieces)) for k in _edges(plan)}
    return {k: count for k, count in rows.items() if count}


def _edges(plan: SurfacePlan) -> list[int]:
    return [face.edge for face in plan.surface.faces if flat_at(plan, face.edge) is not None]


def _sides(plan: SurfacePlan, edge: int, pieces: Sequence[Piece]) -> list[tuple[Tail, tuple[float, float] | None]]:
    """Return the tails along an eave, each with where a board beside it lies; None where no side is free."""
    tails, near = tails_along(plan, edge, pieces), tails_along(plan, edge, pieces, INSIDE, plan.roof.sprocket_in)
    core = plan.outline.core
    long = distance(core[edge], core[(edge + 1) % len(core)])
    others = [tails[:n] + tails[n + 1 :] + near for n in range(len(tails))]
    return [(one, beside(one, rest, long, outward=True)) for one, rest in zip(tails, others, strict=True) if one.square]


def _ring(plan: SurfacePlan, edge: int, tail: Tail, face: float) -> Ring:
    """Return a sprocket from the side: in of the wall, and over the bearing: under the deck, over the lower end of its tail, clear of the
    plates.
    """
    flat, inner, outer = plan.roof.sprocket_pitch, plan.roof.sprocket_in, tail.end
    assert flat is not None
    plumb = section(sprocket_size(plan, edge)).depth * math.hypot(1.0, flat)
    level, pitch = plan.level(edge) - plan.bearing, plan.edges[edge].pitch
    tops = [level + pitch * inner + flat * (t - inner) for t in (outer, inner)]
    board = shapely.Polygon([(outer, tops[0] - plumb), (inner, tops[1] - plumb), (inner, tops[1]), (outer, tops[0])])
    low = tail.low - plan.bearing
    plates = shapely.box(-face, min(low, 0.0) - 2.0 * plumb, inner + 1.0, plan.edges[edge].start + OVER_PLATE)
    kept = board.intersection(shapely.box(outer, low, inner, max(tops) + 1.0)).difference(plates)
    whole = max(getattr(kept, "geoms", [kept]), key=lambda part: part.area)
    ring = shapely.geometry.polygon.orient(whole).exterior.coords[:-1] if whole.area > 0.0 else ()
    return tuple((float(x), float(y)) for x, y in ring)


def _piece(plan: SurfacePlan, edge: int, along: float, ring: Ring, name: str) -> Piece:
    corner, way, inward = eave(plan, edge)
    roof, base = plan.roof, plan.bearing
    x, y = foot = add(corner, way, along)
    # Extruded along u x v = inward x up: along the eave.
    solid = Prism((x, y, base), (*inward, 0.0), (0.0, 0.0, 1.0), (ring,), THICK)
    middle: Point = add(foot, way, THICK / 2.0)
    first, last = min(t for t, _ in ring), max(t for t, _ in ring)
    tops = [max(z for t, z in ring if abs(t - at) < 1.0) for at in (first, last)]
    start, end = ((*add(middle, inward, t), base + z) for t, z in zip((first, last), tops, strict=True))
    size, flat = sprocket_size(plan, edge), roof.sprocket_pitch or 0.0
    long = (last - first) * math.hypot(1.0, flat) + section(size).depth * flat
    return Piece(
        piece_name(roof.id, "sprocket", name), "sprocket", roof.id, roof.bearing.level, solid, "timber", start, end, long, size,
        roof.rafters.species, roof.rafters.grade,
    )  # fmt: skip
