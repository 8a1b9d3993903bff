"""Shapes of an IFC file as points and outlines: axis placements, profiles, curves, meshes.

Lengths are in the file's own units unless a scale (mm a unit) is given.
"""

import math
from typing import Any

import numpy as np
import shapely

from balken.exchange.ifc_known import raw_of
from balken.geometry.plane import Point, distance
from balken.geometry.prism import Vec, cross3, dot3

THICKEST = 1200.0
"""What is thicker than this is no wall, mm."""
LEAST_FILLED = 0.93
"""A strip fills at least this part of the rectangle about it; mitred ends take little away."""


def axes_of(placement: Any) -> Any:
    """Return an axis placement as a 4 x 4 matrix (ISO 10303-42: z along the axis, x as near the reference as can be)."""
    at = (*placement.Location.Coordinates, 0.0)[:3]
    reference = placement.RefDirection
    if placement.is_a("IfcAxis2Placement2D"):
        if reference is None:
            return _placed((1.0, 0.0, 0.0), (0.0, 1.0, 0.0), (0.0, 0.0, 1.0), at)
        a, b = reference.DirectionRatios[:2]
        long = math.hypot(a, b) or 1.0
        return _placed((a / long, b / long, 0.0), (-b / long, a / long, 0.0), (0.0, 0.0, 1.0), at)
    axis = placement.Axis
    if axis is None and reference is None:
        return _placed((1.0, 0.0, 0.0), (0.0, 1.0, 0.0), (0.0, 0.0, 1.0), at)
    z = _unit3(axis.DirectionRatios if axis is not None else (0.0, 0.0, 1.0))
    x = reference.DirectionRatios if reference is not None else (1.0, 0.0, 0.0)
    along = dot3(x, z)
    x = (x[0] - along * z[0], x[1] - along * z[1], x[2] - along * z[2])
    if dot3(x, x) < 1e-12:  # the reference lies along the axis: any direction square to it will do
        x = cross3(z, (0.0, 1.0, 0.0) if abs(z[1]) < 0.9 else (1.0, 0.0, 0.0))
    x = _unit3(x)
    return _placed(x, cross3(z, x), z, at)


def _placed(x: Any, y: Any, z: Any, at: Any) -> Any:
    """Return the matrix of a frame by its axes and its origin."""
    return np.array(
        [[x[0], y[0], z[0], at[0]], [x[1], y[1], z[1], at[1]], [x[2], y[2], z[2], at[2]], [0.0, 0.0, 0.0, 1.0]]
    )


def _unit3(v: Any) -> Vec:
    long = math.sqrt(dot3(v, v)) or 1.0
    return (v[0] / long, v[1] / long, v[2] / long)


def inverse(matrix: Any) -> Any:
    """Return the inverse of a placement: turned back and moved back."""
    made = matrix.T.copy()
    made[3] = 0.0, 0.0, 0.0, 1.0
    made[:3, 3] = -made[:3, :3] @ matrix[:3, 3]
    return made


def profile_ring(profile: Any) -> list[Point] | None:
    """Return a profile's outline in the file's units; None for a shape other than rectangle and polygon."""
    if profile.is_a("IfcRectangleProfileDef"):
        x, y = profile.XDim / 2.0, profile.YDim / 2.0
        if profile.Position is not None:
            cx, cy = profile.Position.Location.Coordinates[:2]
            d = profile.Position.RefDirection
            u = tuple(float(v) for v in d.DirectionRatios[:2]) if d is not None else (1.0, 0.0)
        else:
            (cx, cy), u = (0.0, 0.0), (1.0, 0.0)
        corners = ((-x, -y), (x, -y), (x, y), (-x, y))
        return [(cx + a * u[0] - b * u[1], cy + a * u[1] + b * u[0]) for a, b in corners]
    if profile.is_a("IfcArbitraryClosedProfileDef"):
        curve = profile.OuterCurve
        if curve.is_a("IfcPolyline"):
            raw = [p.Coordinates[:2] for p in curve.Points]
        elif curve.is_a("IfcIndexedPolyCurve") and not any(s.is_a("IfcArcIndex") for s in curve.Segments or ()):
            raw = [c[:2] for c in curve.Points.CoordList]
        else:
            return None
        ring = [(float(x), float(y)) for x, y in raw]
        return ring[:-1] if ring and ring[0] == ring[-1] else ring
    return None


def polyline(curve: Any, matrix: Any, scale: float) -> list[Point] | None:
    """Return a curve of straight pieces placed in the building, mm; None for any other curve."""
    if curve is None:
        return None
    if curve.is_a("IfcPolyline"):
        raw = [p.Coordinates for p in curve.Points]
    elif curve.is_a("IfcIndexedPolyCurve") and not any(s.is_a("IfcArcIndex") for s in curve.Segments or ()):
        raw = curve.Points.CoordList
    elif curve.is_a("IfcTrimmedCurve") and curve.BasisCurve.is_a("IfcLine"):
        ends = [_trimmed(curve.BasisCurve, trim) for trim in (curve.Trim1, curve.Trim2)]
        if ends[0] is None or ends[1] is None:
            return None
        raw = ends
    else:
        return None
    found: list[Point] = []
    for c in raw:
        w = matrix @ np.array([c[0] * scale, c[1] * scale, 0.0, 1.0])
        found.append((float(w[0]), float(w[1])))
    return found


def _trimmed(line: Any, trims: Any) -> tuple[float, float] | None:
    """Return where a line is cut: at a point, or at a parameter along its vector."""
    for trim in trims:
        if hasattr(trim, "Coordinates"):
            return (float(trim.Coordinates[0]), float(trim.Coordinates[1]))
    for trim in trims:
        value = getattr(trim, "wrappedValue", trim)
        if isinstance(value, float):
            (x, y), (dx, dy) = line.Pnt.Coordinates[:2], line.Dir.Orientation.DirectionRatios[:2]
            by = value * line.Dir.Magnitude / (math.hypot(dx, dy) or 1.0)
            return (x + dx * by, y + dy * by)
    return None


def circle_of(curve: Any) -> Any:
    """Return the circle of an arc or full circle, else None."""
    if curve is not None and curve.is_a("IfcTrimmedCurve"):
        curve = curve.BasisCurve
    return curve if curve is not None and curve.is_a("IfcCircle") else None


def extrusion_of(item: Any) -> Any:
    """Return the extrusion that what is cut by clippings and openings began as, else None."""
    while item is not None and item.is_a("IfcBooleanResult"):
        item = item.FirstOperand
    return item if item is not None and item.is_a("IfcExtrudedAreaSolid") else None


def extruded_corners(item: Any, scale: float) -> Any:
    """Return the corners (3, 2n) of an extrusion in its own frame, mm: the profile's, then the far end's.

    Raises ValueError for a profile that is no polygon.
    """
    ring = profile_ring(item.SweptArea)
    if ring is None:
        raise ValueError("its profile is not a rectangle or polygon")
    dx, dy, dz = item.ExtrudedDirection.DirectionRatios
    far = float(item.Depth) / math.sqrt(dx * dx + dy * dy + dz * dz)
    rows = [(x, y, 0.0) for x, y in ring] + [(x + dx * far, y + dy * far, dz * far) for x, y in ring]
    corners = np.array(rows, dtype=float).T
    if item.Position is not None:
        position = axes_of(item.Position)
        corners = position[:3, :3] @ corners + position[:3, 3:]
    return corners * scale


def mesh_of(thing: Any) -> tuple[Any, Any]:
    """Return the points (3, n) in the building, mm, and triangles (m, 3) of a thing without its openings cut.

    Raises RuntimeError when it has no shape that can be meshed.
    """
    import ifcopenshell.geom

    settings = ifcopenshell.geom.settings()
    settings.set("use-world-coords", True)
    settings.set("disable-opening-subtractions", True)
    shape = ifcopenshell.geom.create_shape(settings, raw_of(thing))
    points = np.array(shape.geometry.verts, dtype=float).reshape(-1, 3).T * 1000.0
    return points, np.array(shape.geometry.faces, dtype=int).reshape(-1, 3)


def mesh_outline(points: Any, faces: Any) -> shapely.Polygon | None:
    """Return the outline of a mesh seen from above as one polygon without holes; None when it has no area."""
    triangles = [shapely.Polygon(points[:2, face].T) for face in faces]
    flat = [t.buffer(0.5) for t in triangles if t.area > 1.0]
    if not flat:
        return None
    whole = shapely.union_all(flat).buffer(-0.5, join_style="mitre").simplify(1.0)
    if not isinstance(whole, shapely.Polygon):
        whole = whole.convex_hull
    return shapely.Polygon(whole.exterior) if isinstance(whole, shapely.Polygon) and whole.area > 1.0 else None


def extrusion_outline(points: Any) -> shapely.Polygon | None:
    """Return the plan outline of an extrusion's corners: its profile when it goes straight up, else the hull of all."""
    n = points.shape[1] // 2
    first, last = points[:2, :n].T, points[:2, n:].T
    straight = np.allclose(first, last, atol=1.0)
    outline = shapely.Polygon(first) if straight else shapely.MultiPoint(points[:2].T).convex_hull
    if not isinstance(outline, shapely.Polygon) or outline.area < 1.0 or not outline.is_valid:
        return None
    return outline


def strip_of(outline: shapely.Polygon) -> tuple[Point, Point, float] | None:
    """Return the ends of the middle line and the width of an outline that is a straight strip, mm; else None."""
    around = outline.minimum_rotated_rectangle
    if not isinstance(around, shapely.Polygon) or outline.area < LEAST_FILLED * around.area:
        return None
    a, b, c, d = ((float(x), float(y)) for x, y in around.exterior.coords[:4])
    if distance(a, b) < distance(b, c):
        a, b, c, d = b, c, d, a
    long, wide = distance(a, b), distance(b, c)
    if wide > THICKEST or long < wide:
        return None
    return ((a[0] + d[0]) / 2.0, (a[1] + d[1]) / 2.0), ((b[0] + c[0]) / 2.0, (b[1] + c[1]) / 2.0), wide


def direction_of(a: Point, b: Point) -> float:
    """Return the direction from one point to another, degrees."""
    return math.degrees(math.atan2(b[1] - a[1], b[0] - a[0]))


def rounded(p: Point) -> Point:
    """Return a point to the millionth of a millimetre, without minus zero."""
    return (round(p[0], 6) + 0.0, round(p[1], 6) + 0.0)


def snapped(value: float) -> float:
    """Return a length to the millionth of a millimetre; next to nothing is nothing."""
    return 0.0 if abs(value) < 1e-6 else round(value, 6)
