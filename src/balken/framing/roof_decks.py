"""The decks of a roof of planes: whole planes, or with a flatter strip along eaves that have sprockets."""

import math

import shapely

from balken.framing.eave_breaks import flat_at, lift
from balken.framing.pieces import Piece
from balken.framing.roof_openings import RoofHole
from balken.framing.surface_roofs import THINNEST, SurfacePlan, eave
from balken.geometry.plane import Ring, clipped, distance, dot, left, sub, unit
from balken.geometry.prism import Prism
from balken.geometry.roof_surface import RoofFace
from balken.model.naming import piece_name

LEAST = 1e3
"""What of a plane is smaller in plan is none, mm2."""


def deck_faces(plan: SurfacePlan) -> list[tuple[str, RoofFace]]:
    """Return the planes that are decked, each with its name: along eaves with sprockets the strip over these by itself."""
    found = list[tuple[str, RoofFace]]()
    for face in plan.whole.faces:
        flat = flat_at(plan, face.edge)
        if flat is None:
            found.append((f"{face.edge}", face))
            continue
        corner, _, inward = eave(plan, face.edge)
        start, steep = dot(inward, corner) + plan.roof.sprocket_in, plan.edges[face.edge].pitch
        x, y, z = face.ring[0]
        base = z - steep * (dot(inward, (x, y)) - dot(inward, corner))
        ring: Ring = tuple(p[:2] for p in face.ring)
        upper, lower = clipped(ring, inward, start), clipped(ring, (-inward[0], -inward[1]), -start)
        for name, part, pitch in ((f"{face.edge}", upper, steep), (f"{face.edge} eave", lower, flat)):
            if len(part) < 3 or shapely.Polygon(part).area < LEAST:
                continue
            heights = (
                base + steep * t + (lift(plan, face.edge, t) if pitch == flat else 0.0)
                for t in (dot(inward, sub(p, corner)) for p in part)
            )
            found.append(
                (
                    name,
                    RoofFace(face.edge, pitch, tuple((px, py, h) for (px, py), h in zip(part, heights, strict=True))),
                )
            )
    return [*found, *((f"under {k + 1}", face) for k, face in enumerate(plan.under_decks))]


def deck_area(plan: SurfacePlan) -> float:
    """Return how much deck is seen from above, on the slope, mm2."""
    return sum(face.area for name, face in deck_faces(plan) if not name.startswith("under"))


def surface_pieces(plan: SurfacePlan) -> tuple[Piece, ...]:
    """Return the decks of a roof's planes, each as thick as typed square to it (a thin one where none is)."""
    roof, found = plan.roof, []
    for name, face in deck_faces(plan):
        ring, n = plan.outline.core, len(plan.outline.core)
        a, b = ring[face.edge], ring[(face.edge + 1) % n]
        way = unit(a, b)
        inward = left(way)
        steep = math.hypot(1.0, face.pitch)
        u = (way[0], way[1], 0.0)
        v = (inward[0] / steep, inward[1] / steep, face.pitch / steep)
        x, y, z = face.ring[0]
        base = z - face.pitch * dot(inward, sub((x, y), a))
        origin = (a[0], a[1], plan.bearing + plan.plate_to_top + base)
        profile = tuple((dot(way, sub((px, py), a)), dot(inward, sub((px, py), a)) * steep) for px, py, _ in face.ring)
        cut = tuple(_corners(hole, steep) for hole in plan.holes if hole.edge == face.edge and not hole.problem)
        rings = (profile, *cut) if roof.sprocket_pitch is None else _less(profile, cut)
        found.append(
            Piece(
                piece_name(roof.id, "plane", name), "roof plane", roof.id, roof.bearing.level,
                Prism(origin, u, v, rings, max(roof.deck, THINNEST)), "wood sheathing", (*a, origin[2]), (*b, origin[2]), distance(a, b),
            )
        )  # fmt: skip
    return tuple(found)


def _less(profile: Ring, cut: tuple[Ring, ...]) -> tuple[Ring, ...]:
    """Return what openings leave of a deck that some of them may only touch: its outline, then openings within."""
    shape = shapely.Polygon(profile).difference(shapely.union_all([shapely.Polygon(ring) for ring in cut]))
    whole = max(getattr(shape, "geoms", [shape]), key=lambda part: part.area)
    rings = (whole.exterior, *whole.interiors)
    turned = (ring if ring.is_ccw == (k == 0) else ring.reverse() for k, ring in enumerate(rings))
    return tuple(tuple((float(x), float(y)) for x, y in ring.coords[:-1]) for ring in turned)


def _corners(hole: RoofHole, steep: float) -> Ring:
    """Return an opening in its deck."""
    (s0, s1), (t0, t1) = hole.along, (t * steep for t in hole.inward)
    return ((s0, t0), (s1, t0), (s1, t1), (s0, t1))
