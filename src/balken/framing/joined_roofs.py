"""Roofs of planes that run on over one another: which lies on which, the lower as the upper one meets it, what each loses.

The lower roof is framed and sheathed whole; valley boards lie on its deck, and the rafters of the upper one stand on them
(a valley laid over, IRC R802.3 leaves it to the builder).  Of the lower one's overhang goes what would stand inside the upper.
"""

import math
from collections.abc import Mapping, Sequence

import shapely
from msgspec.structs import replace

from balken.catalog.sections import section
from balken.framing.outlines import Outline
from balken.framing.rafter_stations import THICK
from balken.framing.roof_layout import SHORTEST, RoofMember
from balken.framing.surface_roofs import USUAL, VALLEY_BOARD, SurfacePlan, shares_of
from balken.geometry.plane import Point, Ring, add, areas, chords, distance, dot, largest, left, polygons_of, sub, unit
from balken.geometry.roof_joins import LowerPlane, higher_part, slope_of
from balken.geometry.roof_surface import RoofFace, RoofLine, RoofSurface
from balken.model.records import Roof
from balken.model.roof_edits import side_of
from balken.value import Value

JUST_BEYOND = 100.0
"""So far beyond an open side it is looked which roof lies there, mm."""
FAR = 900.0
"""Beyond the walls of an upper roof that lies farther above than this nothing of a lower one is left out, mm."""
INSIDE = 300.0
"""Where an overhang lies less than this over the upper roof it is left out, mm."""
GRID = 1e-3
CLOSED = 0.1
"""Gaps between planes of an upper roof narrower than twice this are none, mm."""


class Beneath(Value, frozen=True):
    """A roof that another runs onto: its outline, and its planes as high as the tops of valley boards on their decks, mm."""

    roof: str
    core: Ring
    planes: tuple[LowerPlane, ...]


class Above(Value, frozen=True):
    """A roof that runs onto another: its outline, its planes as high as the undersides of their decks, mm."""

    roof: str
    core: Ring
    planes: tuple[LowerPlane, ...]


def runs_onto(
    roofs: Sequence[Roof], outlines: Mapping[str, Outline], heights: Mapping[str, float]
) -> dict[str, tuple[str, ...]]:
    """Return for each roof with open sides those that lie beyond them; of several over one place the one that bears most nearly alike."""
    shapes = {r.id: shapely.Polygon(outlines[r.id].core) for r in roofs if r.id in outlines and r.shape == "planes"}
    found: dict[str, tuple[str, ...]] = {}
    for roof in roofs:
        if roof.id not in shapes or all(side.kind != "roof" for side in roof.sides):
            continue
        around, on = outlines[roof.id], list[str]()
        for k, wall in enumerate(around.walls):
            if side_of(roof, wall).kind != "roof":
                continue
            a, b = around.core[k], around.core[(k + 1) % len(around.core)]
            at = shapely.Point(add(((a[0] + b[0]) / 2.0, (a[1] + b[1]) / 2.0), left(unit(b, a)), JUST_BEYOND))
            there = [other for other, shape in shapes.items() if other != roof.id and shape.covers(at)]
            if there:
                on.append(min(there, key=lambda other: abs(heights[other] - heights[roof.id])))
        found[roof.id] = tuple(dict.fromkeys(on))
    return found


def lower_first(roofs: Sequence[str], onto: Mapping[str, tuple[str, ...]]) -> tuple[tuple[str, ...], frozenset[str]]:
    """Return roofs in an order in which each comes after those it runs onto; and those that run onto one another in a circle."""
    done: list[str] = []
    left_over = list(roofs)
    while True:
        ready = [r for r in left_over if all(on in done for on in onto.get(r, ()))]
        if not ready:
            return (*done, *left_over), frozenset(left_over)
        done += ready
        left_over = [r for r in left_over if r not in ready]


def beneath(plan: SurfacePlan) -> Beneath | None:
    """Return a roof as one that runs onto it meets it; None where it cannot be made."""
    if plan.problem:
        return None
    planes = []
    for face in plan.whole.faces:
        slope, level = slope_of(face.ring)
        thick = (plan.roof.deck + VALLEY_BOARD) * math.hypot(1.0, face.pitch)
        lift = plan.bearing + plan.plate_to_top + thick
        planes.append(LowerPlane(plan.roof.id, face.edge, _flat(face), slope, level + lift))
    return Beneath(plan.roof.id, plan.outline.core, tuple(planes))


def above(plan: SurfacePlan) -> Above | None:
    """Return a roof as one that it runs onto meets it; None where it cannot be made."""
    if plan.problem or not plan.laid_on:
        return None
    lift, planes = plan.bearing + plan.plate_to_top, []
    for face in plan.whole.faces:
        slope, level = slope_of(face.ring)
        planes.append(LowerPlane(plan.roof.id, face.edge, _flat(face), slope, level + lift))
    return Above(plan.roof.id, plan.outline.core, tuple(planes))


def _flat(face: RoofFace) -> Ring:
    return tuple((x, y) for x, y, _ in face.ring)


def run_under(plan: SurfacePlan, uppers: tuple[Above, ...]) -> SurfacePlan:
    """Return a lower roof less what of its overhangs would stand inside those that run onto it, and what of it they cover."""
    if not uppers or plan.problem:
        return plan
    core = shapely.Polygon(plan.outline.core)
    over = shapely.union_all([shapely.Polygon(plane.ring) for u in uppers for plane in u.planes], grid_size=GRID)
    covers = over.buffer(CLOSED).buffer(-CLOSED).intersection(core, grid_size=GRID)
    faces, lost = [], list[shapely.Geometry]()
    for face in plan.whole.faces:
        shape = shapely.Polygon(_flat(face))
        skirt = areas(shape.difference(core, grid_size=GRID))
        off = shapely.union_all([part for u in uppers for part in _inside(plan, face, skirt, u)])
        # It reaches a little past the edge, so that rounding leaves no strip there and what is gone is no hole.
        off = areas(areas(off).difference(core, grid_size=GRID))
        whole = largest(shape.difference(off, grid_size=GRID))
        if whole is None or whole.area <= 1e3 or off.area < 1e3:
            faces.append(face)
            continue
        lost.append(areas(shape.difference(whole, grid_size=GRID)))
        slope, level = slope_of(face.ring)
        ring = [(float(x), float(y)) for x, y in shapely.Polygon(whole.exterior).simplify(0.02).exterior.coords[:-1]]
        if shapely.LinearRing(ring).is_ccw is False:
            ring.reverse()
        faces.append(face._replace(ring=tuple((x, y, level + slope[0] * x + slope[1] * y) for x, y in ring)))
    gone = shapely.union_all(lost) if lost else shapely.Polygon()
    lines = tuple(part for line in plan.whole.lines for part in _beside_gone(line, gone))
    whole_surface = RoofSurface(tuple(faces), lines)
    return replace(
        plan,
        whole=whole_surface,
        shares=tuple(s for face in faces for s in shares_of(face, plan.outline, plan.deep[face.edge])),
        covered=tuple(_ring(p) for p in polygons_of(covers) if p.area > 1e3),
        gone=tuple(_ring(p) for p in polygons_of(gone) if p.area > 1e3),
        over=tuple(plane.ring for u in uppers for plane in u.planes),
    )


def _inside(plan: SurfacePlan, face: RoofFace, skirt: shapely.Geometry, upper: Above) -> list[shapely.Geometry]:
    """Return what of a plane's overhang lies within an upper roof or hardly over it."""
    slope, level = slope_of(face.ring)
    lift, found = plan.bearing + plan.plate_to_top, list[shapely.Geometry]()
    for plane in upper.planes:
        part = areas(skirt.intersection(shapely.Polygon(plane.ring), grid_size=GRID))
        if part.area < 1e3:
            continue
        own = LowerPlane(plan.roof.id, face.edge, (), slope, level + lift)
        inside = higher_part(part, (plane.slope, plane.level + INSIDE), own)
        core = shapely.Polygon(upper.core)
        # Beyond its walls an upper roof far above leaves the lower one as it is.
        near = higher_part(areas(inside.difference(core, grid_size=GRID)), (slope, level + lift + FAR), plane)
        found += [
            part.buffer(0.05, join_style="mitre")
            for part in (inside.intersection(core, grid_size=GRID), near)
            if part.area > 1e3
        ]
    return found


def _ring(shape: shapely.Polygon) -> Ring:
    return tuple((float(x), float(y)) for x, y in shape.simplify(0.5).exterior.coords[:-1])


def _beside_gone(line: RoofLine, gone: shapely.Geometry) -> list[RoofLine]:
    """Return what of a line of the roof with its overhangs is still there."""
    if gone.is_empty:
        return [line]
    (a, b), found = (line.start, line.end), []
    rest = shapely.LineString([a[:2], b[:2]]).difference(gone.buffer(1.0, join_style="mitre"))
    if rest.length > 0.999 * distance(a[:2], b[:2]):
        return [line]
    for part in getattr(rest, "geoms", [rest]):
        if part.length > 1.0:
            parts = sorted(
                distance(a[:2], (x, y)) / distance(a[:2], b[:2]) for x, y in (part.coords[0], part.coords[-1])
            )
            ends = [(*add(a[:2], sub(b[:2], a[:2]), s), a[2] + (b[2] - a[2]) * s) for s in parts]
            found.append(line._replace(start=ends[0], end=ends[1]))
    return found


def without_tails(plan: SurfacePlan, members: Sequence[RoofMember]) -> list[RoofMember]:
    """Return members, their tails cut off where their plane's overhang ends before them: beside or inside another roof."""
    if not plan.gone and not plan.laid_on:
        return list(members)
    rings = {face.edge: (_flat(face),) for face in plan.whole.faces}
    gone = shapely.union_all([shapely.Polygon(ring).buffer(1.0) for ring in plan.gone])
    thick = 2.0 * THICK if plan.gone else THICK  # beside another roof they may come to be doubled
    found = []
    for m in members:
        over = m.over
        if over > 0.0 and distance(*m.ends) > 0.0:
            out = unit(m.end[:2], m.start[:2])
            if len(m.edges) == 1:
                over = min(
                    over, tail_reach(rings.get(m.edges[0], ()), m.start[:2], out, thick), _over_lower(plan, m, out)
                )
            elif gone.covers(shapely.Point(add(m.start[:2], out, over / 2.0))):
                over = 0.0
        if over < m.over - 0.5:
            over = over if over > SHORTEST else 0.0
            steep = 1.0 / math.cos(math.radians(m.slope))
            m = m._replace(over=over, length=m.length - (m.over - over) * steep)
        found.append(m)
    return found


def _over_lower(plan: SurfacePlan, m: RoofMember, out: Point) -> float:
    """Return how far a tail reaches before its underside meets a roof below, mm."""
    pitch, depth = math.tan(math.radians(m.slope)), section(plan.roof.rafters.size or USUAL).depth
    found, base = math.inf, m.start[2] - depth * math.hypot(1.0, pitch)
    for plane in plan.laid_on:
        if not shapely.Polygon(plane.ring).buffer(1.0).covers(shapely.Point(m.start[:2])):
            continue
        steep = math.hypot(1.0, *plane.slope)
        room = base - (plane.height(m.start[:2]) - VALLEY_BOARD * steep)
        falls = pitch + dot(plane.slope, out)  # toward the roof below, on the way out
        if falls > 0.0:
            found = min(found, max(room / falls, 0.0))
    return found


def tail_reach(rings: tuple[Ring, ...], at: Point, out: Point, thick: float = THICK) -> float:
    """Return how far a plane runs on beyond a place on its bearing line, over all of a rafter's or truss's thickness, mm."""
    reach = []
    for aside in (-thick / 2.0, thick / 2.0):
        rows = chords(rings, add(at, left(out), aside), out)
        reach.append(max((high for low, high in rows if low < 1.0), default=0.0))
    return max(min(reach), 0.0)
