"""Roofs of planes over any outline: their surface with overhangs, what comes down to which wall, their decks, gable walls.

``shares`` tells how much of the roof lies over which stretch of which wall; what it hands down is worked out in ``loads``.
"""

import itertools
import math
from typing import NamedTuple

import shapely
from msgspec.structs import replace

from balken.catalog.sections import section
from balken.framing.bands import WallLine
from balken.framing.outlines import Outline
from balken.framing.past_heads import Around, alongside, around_of, head_level, shares_past
from balken.framing.rafters import RafterShape, deepest_seat
from balken.framing.roof_openings import RoofHole, roof_holes
from balken.framing.tapered import thinnest, why_not_tapered
from balken.framing.truss_heels import heel_of
from balken.framing.walls import GableTop
from balken.geometry.plane import Point, Ring, add, area, areas, clipped, distance, dot, left, sub, unit
from balken.geometry.roof_edges import RoofEdge, RoofError
from balken.geometry.roof_joins import LowerPlane, run_onto
from balken.geometry.roof_overhangs import overhung
from balken.geometry.roof_surface import RoofFace, RoofLine, RoofSurface, roof_surface
from balken.model.records import Roof, RoofOpening
from balken.model.roof_edits import side_of
from balken.units.system import INCH
from balken.value import Value

STEP = 304.8
"""What comes to an eave comes there in stretches no longer than this, mm."""
USUAL = "2x8"
"""As deep rafters are taken for the height of the deck where no section is typed."""
SEAT = 3.5 * INCH
VALLEY_BOARD = 1.5 * INCH
"""Boards on a lower roof's deck on which the rafters of an upper one stand, mm thick."""
THINNEST = 1.0
"""A plane without a deck is shown this thick, mm."""
LEAST_OVER = 1.0
"""What overhangs less does not, mm."""
Share = tuple[str, Point, float, int]
"""A wall, a place on it, what of the roof comes there in plan, mm2; the number of that plane's edge."""


class TrussAt(NamedTuple):
    """A truss at a hip end with rafters: the number of that end's side; its outer face in plan, from eave to peak to eave."""

    edge: int
    face: tuple[Point, Point, Point]


class SurfacePlan(Value, frozen=True):
    """A roof of planes: its surface within the outline and with overhangs, heights over the bearing line, mm.

    ``edges``: what it does at each side of the outline; ``ring``: with overhangs; ``shares``: what comes to which wall, in all
    and (``inside``) within the outline; ``deep``: how far in of each side the middle of its wall's core lies, ``lined``: how
    thick the layers inside of that core are; ``problem``: why there is none, and then nothing of it.  ``holes``: openings in its planes.

    ``laid_on``: planes of lower roofs that it runs on onto, as high as their valley boards, over its own planes' height 0,
    ``beneath``: the outlines of those; of a lower
    roof, ``covered``: what of it lies under others, ``gone``: what of its overhangs is left out there, ``over``: the outlines of the planes of those, in plan.  ``trussed``: trusses carry it;
    ``under``: what of its planes runs on under those of its own wings then, ``under_decks``: as far as there is room for a deck.
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
    laid_on: tuple[LowerPlane, ...] = ()
    beneath: tuple[Ring, ...] = ()
    covered: tuple[Ring, ...] = ()
    gone: tuple[Ring, ...] = ()
    over: tuple[Ring, ...] = ()
    trussed: bool = False
    under: tuple[RoofFace, ...] = ()
    under_decks: tuple[RoofFace, ...] = ()
    lined: tuple[float, ...] = ()
    clad: tuple[float, ...] = ()
    """How thick the layers before each side's core are, mm."""
    ends_at: tuple[TrussAt, ...] = ()
    """Trusses before which hip ends with rafters end."""
    tapered: float = 0.0
    """How thick strips on its level rafters are over the wall under its eave, mm (0: it has none, and rafters slope)."""

    @property
    def plate_to_top(self) -> float:
        """From the top of the plate to the underside of the deck over the outer face of the wall, plumb, mm."""
        if self.trussed:
            return heel_of(self.roof.trusses, self.steepest) + self.steepest * self.roof.trusses.past
        if self.tapered:
            return section(self.roof.rafters.size or USUAL).depth + self.tapered
        return rafter_shape(self.roof, 1000.0, self.roof.pitch).top(0.0)

    def level(self, edge: int) -> float:
        """How high the underside of the deck lies over the outer face of the wall under an edge, mm."""
        return self.bearing + self.plate_to_top + self.edges[edge].start

    @property
    def mean_height(self) -> float:
        """How high it lies in the mean, as wind counts it, mm."""
        return self.bearing + self.surface.top / 2.0

    @property
    def pitches(self) -> tuple[float, ...]:
        """Over each eave."""
        return tuple(e.pitch for e in self.edges if e.kind == "eave")

    @property
    def steepest(self) -> float:
        """The greatest pitch over any eave."""
        return max(self.pitches)

    @property
    def plan_area(self) -> float:
        """In plan with overhangs, mm2."""
        return abs(area(self.ring))


def eave(plan: SurfacePlan, edge: int) -> tuple[Point, Point, Point]:
    """Return the first corner of an eave, the way along it, and the way inward."""
    core = plan.outline.core
    corner, way = core[edge], unit(core[edge], core[(edge + 1) % len(core)])
    return corner, way, left(way)


def rafter_shape(roof: Roof, run: float, pitch: float) -> RafterShape:
    """Return a common rafter of a roof from the side, by which its deck and gable walls lie."""
    depth = section(roof.rafters.size or USUAL).depth
    return RafterShape(run, roof.overhang, pitch, depth, _seat_of(roof, pitch, depth))


def _seat_of(roof: Roof, pitch: float, depth: float) -> float:
    """Return how long the seat of a rafter so deep is that rises at the pitch of its roof: as typed, or as follows from the height above the
    plate, mm; else 3 1/2 in, no deeper than a quarter of the rafter.
    """
    if roof.above_plate is not None:
        return (depth * math.hypot(1.0, pitch) - roof.above_plate) / pitch
    return roof.seat if roof.seat is not None else deepest_seat(depth, pitch, SEAT)


def seat_at(roof: Roof, pitch: float, depth: float) -> float:
    """Return how long the seat of a rafter ``depth`` mm deep is that rises from its eave at a pitch, mm; none, below 0, where it lies over
    the plate.

    All planes of a roof begin at one height over the outer faces of its walls, by the bird's mouths of its own pitch.
    """
    steep = math.hypot(1.0, roof.pitch)
    plumb = depth * steep - _seat_of(roof, roof.pitch, depth) * roof.pitch
    return (depth * math.hypot(1.0, pitch) - plumb) / pitch


def surface_plan(
    roof: Roof,
    outline: Outline,
    bearing: float,
    lines: dict[str, WallLine],
    openings: tuple[RoofOpening, ...] = (),
    onto: "tuple[tuple[Ring, tuple[LowerPlane, ...]], ...]" = (),
    thick: float = 0.0,
) -> SurfacePlan:
    """Lay a roof of planes over an outline; ``problem`` says why where none can be made.

    ``onto``: outlines and planes (by their true heights) of the roofs that it runs on onto at its open sides; ``thick``: of walls that
    are none of the project's, mm.
    """
    edges, overhangs = roof_sides(roof, outline)
    rows = tuple(edges), tuple(overhangs)
    # Where it runs on over others it is laid as high as trusses carry it, where it is to have such and it is known how high they are.
    trussed = roof.framed == "trusses" and roof.trusses.heel is not None and any(e.kind == "roof" for e in edges)
    deep = tuple((lines[w].core[1] - lines[w].core[0]) / 2.0 if w in lines else thick / 2.0 for w in outline.walls)
    try:
        surface = roof_surface(outline.core, edges)
        ring, whole = overhung(surface, outline.core, edges, overhangs)
        around = Around(outline.core, *rows, outline.walls, deep)
        shares = _shares(whole, outline, around)
        inside = tuple(s for face in surface.faces for s in shares_of(face, outline, deep[face.edge]))
        laid_on: tuple[LowerPlane, ...] = ()
        if trussed:
            laid_on = _lowered(onto, bearing + heel_of(roof.trusses, 0.0), boards=False)
        elif any(edge.kind == "roof" for edge in edges):
            laid_on = _lowered(onto, bearing + rafter_shape(roof, 1000.0, roof.pitch).top(0.0))
        if any(edge.kind == "roof" for edge in edges):
            surface, whole, ring = _run_on(surface, outline, rows, laid_on, tuple(core for core, _ in onto))
            beyond = (part for face in whole.faces for part in _beyond(face, surface))
            shares = (*inside, *(s for face in beyond for s in shares_of(face, outline, deep[face.edge])))
    except RoofError as error:
        nothing = RoofSurface((), ())
        return SurfacePlan(roof, outline, bearing, *rows, nothing, nothing, (), (), (), deep, str(error))
    holes = roof_holes(openings, outline.walls, outline.core, rows[0], surface)
    level = roof.tapered and not why_not_tapered(roof, around, surface)
    return SurfacePlan(
        roof,
        outline,
        bearing,
        *rows,
        surface,
        whole,
        ring,
        shares,
        inside,
        deep,
        holes=holes,
        laid_on=laid_on,
        beneath=tuple(core for core, _ in onto),
        trussed=trussed,
        lined=tuple(round(lines[w].thickness - lines[w].core[1], 6) if w in lines else 0.0 for w in outline.walls),
        clad=tuple(round(lines[w].core[0], 6) if w in lines else 0.0 for w in outline.walls),
        tapered=_thinnest(rows) if level else 0.0,
    )


def _thinnest(rows: tuple[tuple[RoofEdge, ...], tuple[float, ...]]) -> float:
    """Return how thick strips on level rafters are over the wall under the eave, mm."""
    return next(thinnest(edge.pitch, over) for edge, over in zip(*rows, strict=True) if edge.kind == "eave")


def roof_sides(roof: Roof, outline: Outline) -> tuple[list[RoofEdge], list[float]]:
    """Return what a roof does at each side of its outline, and how far it overhangs there, mm."""
    edges, overhangs = list[RoofEdge](), list[float]()
    for wall in outline.walls:
        side = side_of(roof, wall)
        pitch = roof.pitch if side.pitch is None else side.pitch
        edges.append(RoofEdge(side.kind, pitch, side.raised) if side.kind == "eave" else RoofEdge(side.kind))
        over = side.overhang
        if over is None:
            level = roof.level_fascias and side.kind == "eave"
            over = roof.overhang * roof.pitch / pitch if level else roof.overhang
        overhangs.append(0.0 if side.kind in ("wall", "roof") or over < LEAST_OVER else over)
    return edges, overhangs


def _lowered(
    onto: "tuple[tuple[Ring, tuple[LowerPlane, ...]], ...]", by: float, boards: bool = True
) -> tuple[LowerPlane, ...]:
    """Return planes below by their heights over an upper one's; without ``boards``: as high as their decks."""

    def less(plane: LowerPlane) -> float:
        return by if boards else by + VALLEY_BOARD * math.hypot(1.0, *plane.slope)

    return tuple(replace(plane, level=plane.level - less(plane)) for _, planes in onto for plane in planes)


def _beyond(face: RoofFace, surface: RoofSurface) -> list[RoofFace]:
    """Return what of a plane overhangs; heights are left out."""
    shape = shapely.Polygon([p[:2] for p in face.ring])
    for own in surface.faces:
        if own.edge == face.edge:
            shape = areas(shape.difference(shapely.Polygon([p[:2] for p in own.ring]), grid_size=1e-3))
    rings = [part.exterior.coords[:-1] for part in getattr(shape, "geoms", [shape]) if part.area > 1.0]
    return [face._replace(ring=tuple((float(x), float(y), 0.0) for x, y in ring)) for ring in rings]


def _run_on(
    surface: RoofSurface,
    outline: Outline,
    rows: tuple[tuple[RoofEdge, ...], tuple[float, ...]],
    laid_on: tuple[LowerPlane, ...],
    beneath: tuple[Ring, ...],
) -> tuple[RoofSurface, RoofSurface, Ring]:
    """Run a roof on over those beyond its open sides; raises RoofError."""
    if not laid_on:
        raise RoofError(
            "at an open side there is no roof of planes that it could run onto: let it stand against the wall, or make that a gable"
        )
    joined = run_onto(surface, outline.core, *rows, laid_on, beneath)
    if len(joined.region) != 1:
        raise RoofError("what runs on over the roof below does not hang together")
    return joined.surface, joined.whole, joined.region[0]


def shares_of(face: RoofFace, outline: Outline, deep: float) -> list[Share]:
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


def _flat(face: RoofFace) -> Ring:
    return tuple(p[:2] for p in face.ring)


def _shares(whole: RoofSurface, outline: Outline, around: Around) -> tuple[Share, ...]:
    """Return what of a roof with overhangs comes to which wall."""
    rows = ((face, shares_of(face, outline, around.deep[face.edge])) for face in whole.faces)
    return tuple(s for face, own in rows for s in shares_past(around, face.edge, _flat(face), own, STEP))


def covered_areas(plan: SurfacePlan) -> list[tuple[RoofFace, float]]:
    """Return the planes of a roof of which something lies under others, and how much, in plan, mm2."""
    if not plan.covered:
        return []
    shape = shapely.union_all([shapely.Polygon(ring) for ring in plan.covered])
    rows = [(face, shapely.Polygon([p[:2] for p in face.ring]).intersection(shape).area) for face in plan.whole.faces]
    return [(face, size) for face, size in rows if size > 0.0]


def surface_gables(plan: SurfacePlan, lines: dict[str, WallLine]) -> tuple[dict[str, GableTop], tuple[str, ...]]:
    """Return the tops of walls that run up: under gables, and under eaves that begin higher than the walls end; and those under which a gap
    stays open.
    """
    tops: dict[str, GableTop] = {}
    others: list[str] = []
    for i, (wall, edge) in enumerate(zip(plan.outline.walls, plan.edges, strict=True)):
        raised = edge.kind == "eave" and edge.start > 0.0
        if not (edge.kind == "gable" or raised) or (plan.outline.shared and plan.outline.shared[i]):
            continue
        if wall not in lines or lines[wall].is_beam:
            continue
        sides = [line for line in plan.surface.lines if line.kind == "rake" and line.edges[1] == i]
        if raised:
            if lines[wall].band.top > plan.bearing + edge.start - 1.0:
                continue  # it ends there by itself
            sides += [line for line in plan.surface.lines if line.kind == "eave" and line.edges[0] == i]
        top = _gable_top(plan, lines[wall], i, sides)
        if top is not None:
            # Frames of trusses stand on the plates of gable walls; sheathing and cladding run up before them.
            if plan.tapered and plan.overhangs[i] > LEAST_OVER:
                continue  # rafters pass over it, level
            tops[wall] = replace(top, shell=plan.trussed or plan.tapered > 0.0)
        elif sides:
            others.append(wall)
    return tops, tuple(others)


Row = tuple[float, float, float, float, int]
"""What lies over a stretch of a wall: from where along it and at which height over the bearing to where and at which; the edge of the plane."""


def _gable_top(plan: SurfacePlan, line: WallLine, side: int, sides: list[RoofLine]) -> GableTop | None:
    """Return the top of a wall that runs up; None where what lies over it does not run from end to end without a step, or dips between."""
    band, core = line.band, plan.outline.core
    pitches = {face.edge: face.pitch for face in plan.surface.faces}
    rows: list[Row] = []
    for one in sides:
        if one.edges[0] not in pitches:
            return None
        (x0, z0), (x1, z1) = sorted((dot(sub(p[:2], band.start), band.direction), p[2]) for p in (one.start, one.end))
        if x1 - x0 > 1.0:
            rows.append((x0, z0, x1, z1, one.edges[0]))
    rows.sort()
    ends = sorted(dot(sub(p, band.start), band.direction) for p in (core[side], core[(side + 1) % len(core)]))
    whole = rows and abs(rows[0][0] - ends[0]) < 2.0 and abs(rows[-1][2] - ends[1]) < 2.0
    met = all(abs(a[2] - b[0]) < 2.0 and abs(a[3] - b[1]) < 2.0 for a, b in itertools.pairwise(rows))
    rises = [(z1 - z0) / (x1 - x0) for x0, z0, x1, z1, _ in rows]
    dips = any(a < b - 1e-9 for a, b in itertools.pairwise(rises))
    if not whole or not met or dips:
        return None
    slopes = tuple(_slope(plan, row, pitches[row[4]], row[4] == side) for row in rows)
    if not (plan.trussed or plan.tapered):
        heads = {row[4] for row in rows if side in alongside(around_of(plan), row[4])}
        slopes = tuple(
            _under_heads(plan, side, pitches[row[4]], at) if row[4] in heads else at
            for row, at in zip(rows, slopes, strict=True)
        )
    floors = tuple(plan.bearing + plan.edges[row[4]].start for row in rows)
    breaks = [
        # Plates that rake end where they meet level ones.
        (b[2] - a[2]) / (a[0] - b[0]) if (a[0] == 0.0) != (b[0] == 0.0) else row[2]
        for row, a, b in zip(rows, slopes, slopes[1:], strict=False)
    ]
    return GableTop((ends[0], ends[1]), tuple(breaks), slopes, min(floors), floors=floors)


def _under_heads(
    plan: SurfacePlan, side: int, pitch: float, at: tuple[float, float, float]
) -> tuple[float, float, float]:
    """Return the top of a wall on which rafters lie with their heads: where they pass over it, all of its layers end at their seats."""
    rise, over, _ = at
    low = head_level(plan, side, pitch, section(plan.roof.rafters.size or USUAL).depth, over)
    return rise, low if plan.overhangs[side] > LEAST_OVER else over, low


def _slope(plan: SurfacePlan, row: Row, pitch: float, eave: bool) -> tuple[float, float, float]:
    """Return the slope of a wall's top under rafters of a pitch that run along it, or (``eave``) come down on its level plates."""
    x0, z0, x1, z1, edge = row
    size = plan.roof.rafters.size or USUAL
    depth = section((plan.roof.trusses.top or "2x4") if plan.trussed else size).depth
    if eave:
        level = plan.bearing + plan.edges[edge].start
        return 0.0, level + plan.plate_to_top, level
    rise = (z1 - z0) / (x1 - x0)
    over = plan.bearing + plan.plate_to_top + z0 - rise * x0
    return rise, over, over - depth * math.hypot(1.0, pitch)
