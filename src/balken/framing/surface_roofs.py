"""Roofs of planes over any outline: their surface with overhangs, what comes down to which wall, their decks, gable walls.

``shares`` tells how much of the roof lies over which stretch of which wall; what it hands down is worked out in ``loads``.
"""

import math
from dataclasses import dataclass

from balken.catalog.sections import section
from balken.framing.bands import WallLine
from balken.framing.outlines import Outline
from balken.framing.pieces import Piece
from balken.framing.rafters import RafterShape, deepest_seat
from balken.framing.roof_openings import RoofHole, roof_holes
from balken.framing.walls import GableTop
from balken.geometry.plane import Point, Ring, add, area, clipped, distance, dot, left, sub, unit
from balken.geometry.prism import Prism
from balken.geometry.roof_overhangs import overhung
from balken.geometry.roof_surface import RoofEdge, RoofError, RoofFace, RoofSurface, roof_surface
from balken.model.naming import piece_name
from balken.model.records import Roof, RoofOpening
from balken.model.roof_edits import side_of
from balken.units.system import INCH

STEP = 304.8
"""What comes to an eave comes there in stretches no longer than this, mm."""
USUAL = "2x8"
"""As deep rafters are taken for the height of the deck where no section is typed."""
SEAT = 3.5 * INCH
THINNEST = 1.0
"""A plane without a deck is shown this thick, mm."""
Share = tuple[str, Point, float, int]
"""A wall, a place on it, what of the roof comes there in plan, mm2; the number of that plane's edge."""


@dataclass(frozen=True)
class SurfacePlan:
    """A roof of planes: its surface within the outline and with overhangs, heights over the bearing line, mm.

    ``edges``: what it does at each side of the outline; ``ring``: with overhangs; ``shares``: what comes to which wall, in all
    and (``inside``) within the outline; ``deep``: how far in of each side the middle of its wall's core lies; ``problem``: why there
    is none, and then nothing of it.  ``holes``: openings in its planes.
    """

    roof: Roof
    outline: Outline
    bearing: float
    edges: tuple[RoofEdge, ...]
    overhangs: tuple[float, ...]
    surface: RoofSurface
    whole: RoofSurface
    ring: Ring
    shares: tuple[Share, ...]
    inside: tuple[Share, ...]
    deep: tuple[float, ...]
    problem: str = ""
    holes: tuple[RoofHole, ...] = ()

    @property
    def plate_to_top(self) -> float:
        """From the top of the plate to the underside of the deck over the outer face of the wall, plumb, mm."""
        return rafter_shape(self.roof, 1000.0, self.roof.pitch).top(0.0)

    @property
    def plan_area(self) -> float:
        """In plan with overhangs, mm2."""
        return abs(area(self.ring))


def rafter_shape(roof: Roof, run: float, pitch: float) -> RafterShape:
    """Return a common rafter of a roof from the side, by which its deck and gable walls lie."""
    depth = section(roof.rafters.size or USUAL).depth
    return RafterShape(run, roof.overhang, pitch, depth, deepest_seat(depth, pitch, SEAT))


def surface_plan(
    roof: Roof,
    outline: Outline,
    bearing: float,
    lines: dict[str, WallLine],
    openings: tuple[RoofOpening, ...] = (),
) -> SurfacePlan:
    """Lay a roof of planes over an outline; ``problem`` says why where none can be made."""
    edges, overhangs = [], []
    for wall in outline.walls:
        side = side_of(roof, wall)
        pitch = roof.pitch if side.pitch is None else side.pitch
        edges.append(RoofEdge(side.kind, pitch) if side.kind == "eave" else RoofEdge(side.kind))
        over = roof.overhang if side.overhang is None else side.overhang
        overhangs.append(0.0 if side.kind == "wall" else over)
    rows = tuple(edges), tuple(overhangs)
    deep = tuple((lines[w].core[1] - lines[w].core[0]) / 2.0 if w in lines else 0.0 for w in outline.walls)
    try:
        surface = roof_surface(outline.core, edges)
        ring, whole = overhung(surface, outline.core, edges, overhangs)
    except RoofError as error:
        nothing = RoofSurface((), ())
        return SurfacePlan(roof, outline, bearing, *rows, nothing, nothing, (), (), (), deep, str(error))
    holes = roof_holes(openings, outline.walls, outline.core, rows[0], surface)
    shares = tuple(s for face in whole.faces for s in _shares(face, outline, deep[face.edge]))
    inside = tuple(s for face in surface.faces for s in _shares(face, outline, deep[face.edge]))
    return SurfacePlan(roof, outline, bearing, *rows, surface, whole, ring, shares, inside, deep, holes=holes)


def _shares(face: RoofFace, outline: Outline, deep: float) -> list[Share]:
    """Return what of a plane comes to the wall under its eave, stretch by stretch; beyond its ends to those."""
    side, core = face.edge, outline.core
    wall, a, b = outline.walls[side], core[side], core[(side + 1) % len(core)]
    way, long = unit(a, b), distance(a, b)
    rest: Ring = tuple((x, y) for x, y, _ in face.ring)
    count = max(math.ceil(long / STEP - 1e-9), 1)
    inward, start, back = left(way), dot(way, a), (-way[0], -way[1])
    found = []
    for k in range(count):
        part, end = rest, start + long * (k + 1) / count
        if k < count - 1:
            part, rest = clipped(rest, back, -end), clipped(rest, way, end)
        size = abs(area(part)) if len(part) > 2 else 0.0
        if size > 1.0:
            found.append((wall, add(add(a, way, long * (k + 0.5) / count), inward, deep), size, side))
    return found


def surface_pieces(plan: SurfacePlan) -> tuple[Piece, ...]:
    """Return the decks of a roof's planes, each as thick as typed square to it (a thin one where none is)."""
    roof, found = plan.roof, []
    for face in plan.whole.faces:
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
        found.append(
            Piece(
                piece_name(roof.id, "plane", f"{face.edge}"), "roof plane", roof.id, roof.bearing.level,
                Prism(origin, u, v, (profile, *cut), max(roof.deck, THINNEST)), "wood sheathing", (*a, origin[2]), (*b, origin[2]), distance(a, b),
            )
        )  # fmt: skip
    return tuple(found)


def _corners(hole: RoofHole, steep: float) -> Ring:
    """Return an opening in its deck."""
    (s0, s1), (t0, t1) = hole.along, (t * steep for t in hole.inward)
    return ((s0, t0), (s1, t0), (s1, t1), (s0, t1))


def surface_gables(plan: SurfacePlan, lines: dict[str, WallLine]) -> tuple[dict[str, GableTop], tuple[str, ...]]:
    """Return the raking tops of walls under gables with one peak and one pitch; and the gable walls that have another shape."""
    tops: dict[str, GableTop] = {}
    others: list[str] = []
    core, by_edge = plan.outline.core, {face.edge: face for face in plan.surface.faces}
    for i, (wall, edge) in enumerate(zip(plan.outline.walls, plan.edges, strict=True)):
        if edge.kind != "gable" or (plan.outline.shared and plan.outline.shared[i]) or wall not in lines:
            continue
        rakes = [line for line in plan.surface.lines if line.kind == "rake" and line.edges[1] == i]
        pitches = {round(by_edge[line.edges[0]].pitch, 9) for line in rakes if line.edges[0] in by_edge}
        a, b = core[i], core[(i + 1) % len(core)]
        feet = [end for line in rakes for end in (line.start, line.end) if end[2] < 1.0]
        square = all(
            abs(abs(dot(unit(line.start[:2], line.end[:2]), unit(a, b))) - 1.0) < 1e-6
            and abs(
                abs(line.start[2] - line.end[2]) - by_edge[line.edges[0]].pitch * distance(line.start[:2], line.end[:2])
            )
            < 1.0
            for line in rakes
        )
        if len(rakes) == 2 and len(pitches) == 1 and len(feet) == 2 and square:
            tops[wall] = _gable_top(plan, lines[wall], a, b, pitches.pop())
        elif rakes:
            others.append(wall)
    return tops, tuple(others)


def _gable_top(plan: SurfacePlan, line: WallLine, a: Point, b: Point, pitch: float) -> GableTop:
    band = line.band
    ends = tuple(dot(sub(p, band.start), band.direction) for p in (a, b))
    shape = rafter_shape(plan.roof, distance(a, b) / 2.0, pitch)
    lift = plan.plate_to_top - shape.top(0.0)
    return GableTop(
        (ends[0], ends[1]), sum(ends) / 2.0, plan.bearing + shape.under(0.0) + lift, plan.bearing + shape.top(0.0) + lift, pitch,
        plan.bearing,
    )  # fmt: skip
