"""Solids with notches: what is cut out of members seen from the side."""

import math
from collections.abc import Sequence

import shapely
from msgspec.structs import replace

from balken.geometry.leaning import Leaning
from balken.geometry.plane import Point, Ring, add, clipped, dot, left
from balken.geometry.prism import Prism
from balken.geometry.seated import Off, Seated
from balken.geometry.solids import Solid
from balken.geometry.trimmed import Trimmed

FAR = 1e6
SPLINTER = 2_500.0
"""What a cut close to its end parts from a member and is smaller falls off, mm2."""


def notched(solid: Solid, way: Point, cuts: Sequence[Ring]) -> Solid:
    """Return a member that rises along ``way`` with cuts out of it from side to side; each as its outline: how far along that way from
    the origin, how high.  One that is not so made, or that a cut would part in two, is returned whole.
    """
    side = from_the_side(solid) if isinstance(solid, Leaning) else solid
    if isinstance(solid, Trimmed) and isinstance(solid.whole, Leaning):
        side, cuts = from_the_side(solid.whole), [*cuts, _beyond(way, (solid.normal, solid.least))]
    if isinstance(solid, Seated):
        side = from_the_side(solid.whole)
        far = FAR
        cuts = [*cuts, *([_beyond(way, solid.off)] if solid.off is not None else [])]
        for start, level in solid.seats:
            cuts = [*cuts, ((start, -far), (far, -far), (far, level), (start, level))]
    if not isinstance(side, Prism) or side.v != (0.0, 0.0, 1.0) or math.dist(side.u[:2], way) > 1e-6:
        return solid
    start, low = dot(way, side.origin[:2]), side.origin[2]
    shape = shapely.Polygon(side.rings[0])
    for cut in cuts:
        shape = shape.difference(shapely.Polygon([(s - start, z - low) for s, z in cut]))
    parts = sorted(getattr(shape, "geoms", [shape]), key=lambda part: -part.area)
    if not isinstance(parts[0], shapely.Polygon) or sum(part.area for part in parts[1:]) > SPLINTER:
        return solid
    shape = parts[0]
    ring: Ring = tuple((float(x), float(y)) for x, y in shapely.orient_polygons(shape).exterior.coords[:-1])
    return replace(side, rings=(ring, *side.rings[1:]))


def _beyond(way: Point, off: Off) -> Ring:
    """Return what a plane cuts off, seen from the side."""
    (x, y, z), least = off
    box: Ring = ((-FAR, -FAR), (FAR, -FAR), (FAR, FAR), (-FAR, FAR))
    return clipped(box, (-dot(way, (x, y)), -z), -least)


def from_the_side(solid: Leaning) -> Prism | None:
    """Return a member whose ends are square in plan as its outline from the side, as thick as it is; None where they are not."""
    steep = math.hypot(*solid.slope)
    if len(solid.ring) != 4 or steep < 1e-9:
        return None
    way: Point = (solid.slope[0] / steep, solid.slope[1] / steep)
    side = left(way)
    xs, ys = [dot(way, p) for p in solid.ring], [dot(side, p) for p in solid.ring]
    box = (max(xs) - min(xs)) * (max(ys) - min(ys))
    if abs(shapely.Polygon(solid.ring).area - box) > 1.0:
        return None
    # Out of the left face: its thickness runs to the right of its way.
    x, y = add(add((0.0, 0.0), way, min(xs)), side, max(ys))
    z, run = solid.low((x, y)), max(xs) - min(xs)
    ring: Ring = ((0.0, 0.0), (run, run * steep), (run, run * steep + solid.tall), (0.0, solid.tall))
    return Prism((x, y, z), (*way, 0.0), (0.0, 0.0, 1.0), (ring,), max(ys) - min(ys))
