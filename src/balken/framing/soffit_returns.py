"""Soffit returns: level boards beside tails, from their ends back to the wall, on which a soffit is nailed (common practice, no source)."""

from collections.abc import Sequence

from balken.catalog.sections import section
from balken.framing.eave_tails import LEAST, Tail, beside, tails_along
from balken.framing.pieces import Piece
from balken.framing.rafter_stations import THICK
from balken.framing.surface_roofs import SurfacePlan, eave
from balken.geometry.plane import Point, Ring, add, clipped, distance
from balken.geometry.prism import Prism
from balken.model.naming import Places, piece_name, place_at

SIZE = "2x4"


def soffit_returns(plan: SurfacePlan, pieces: Sequence[Piece], ends: Sequence[float]) -> tuple[Piece, ...]:
    """Return the returns of a roof whose tails are plumb, or level below; ``ends``: how far before the outer face of each eave's core they
    stop, mm.
    """
    if not plan.roof.soffit_returns:
        return ()
    found, places = list[Piece](), Places()
    for face in plan.surface.faces:
        k = face.edge
        if plan.edges[k].kind != "eave" or plan.overhangs[k] < LEAST:
            continue
        tails, taken = tails_along(plan, k, pieces), tails_along(plan, k, pieces, ("sprocket",))
        long = distance(plan.outline.core[k], plan.outline.core[(k + 1) % len(plan.outline.core)])
        for n, tail in enumerate(tails):
            others = tails[:n] + tails[n + 1 :] + taken
            along = beside(tail, others, long) if tail.square else None
            if along is None:
                continue
            ring = _ring(plan, k, tail, ends[k])
            if len(ring) > 2:
                name = places.text("soffit return", place_at(plan.outline.walls[k], along[0]))
                found.append(_piece(plan, k, along[0], ring, name))
    return tuple(found)


def _ring(plan: SurfacePlan, edge: int, tail: Tail, end: float) -> Ring:
    """Return a return from the side: in of the wall, and over the bearing; below the deck, mm."""
    pitch, low = plan.edges[edge].pitch, tail.low - plan.bearing
    high = low + section(SIZE).depth
    ring: Ring = ((tail.end, low), (-end, low), (-end, high), (tail.end, high))
    # Below the deck: y <= level + pitch t.
    return clipped(ring, (pitch, -1.0), plan.bearing - plan.level(edge))


def _piece(plan: SurfacePlan, edge: int, along: float, ring: Ring, name: str) -> Piece:
    corner, way, inward = eave(plan, edge)
    roof, base = plan.roof, plan.bearing
    foot = add(corner, way, along)
    x, y = foot
    # Extruded along u x v = inward x up: along the eave.
    solid = Prism((x, y, base), (*inward, 0.0), (0.0, 0.0, 1.0), (ring,), THICK)
    middle: Point = add(foot, way, THICK / 2.0)
    first, last = min(t for t, _ in ring), max(t for t, _ in ring)
    level = base + min(z for _, z in ring)
    start, end = ((*add(middle, inward, t), level) for t in (first, last))
    return Piece(
        piece_name(roof.id, "soffit-return", name), "soffit return", roof.id, roof.bearing.level, solid, "timber light", start, end,
        last - first, SIZE, roof.rafters.species, roof.rafters.grade,
    )  # fmt: skip
