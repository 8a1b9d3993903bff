"""A roof with wings as parts that trusses can be laid under: rectangles, each with a roof of its own; the wings' run on over the main one.

The main part is framed and decked whole; a wing's trusses stop where it comes in, the last of them a girder on which the main part's
hang, and valley trusses on the main part's deck carry what of the wing's planes lies over it (``truss_valleys.py``).
"""

import itertools
import math
from collections.abc import Mapping, Sequence
from typing import NamedTuple

import numpy as np
import shapely
from msgspec.structs import replace
from numpy.typing import NDArray

from balken.framing.frames import Frame
from balken.framing.outlines import Outline
from balken.framing.raftered_ends import RafteredEnd, other_heels, raftered_ends
from balken.framing.surface_roofs import SurfacePlan
from balken.framing.truss_layout import main_eaves, why_not, why_not_so
from balken.geometry.plane import Point, add, distance, dot, left, sub, unit
from balken.geometry.roof_edges import RoofEdge, RoofError
from balken.geometry.roof_joins import LowerPlane
from balken.geometry.roof_surface import RoofFace, RoofSurface, roof_surface

Array = NDArray[np.float64]
SAME = 1.0
"""Places no farther apart are one, heights that differ by no more are alike, mm."""
SQUARE = 1e-4
"""Sides are square to one another where the cosine between them is no more."""
STEP = 450.0
"""How far apart the heights of a roof are held against those of its parts, mm."""
RUNS_ON = (
    "trusses of a roof that runs on over another are laid over a rectangle with eaves along both sides of its open side"
)
WINGS = "trusses are laid over rectangles and over such with wings square to them"
LOW = f"{WINGS} that lie lower than their ridge, with eaves along both sides. Where this roof is none of these it stays framed with rafters"


class Coming(NamedTuple):
    """A wing that comes into the main part: at which side of that, between which places along it from the side's first corner, mm;
    ``wall``: the one that runs on there below the main part's trusses, or "".
    """

    side: int
    low: float
    high: float
    wall: str = ""


class Part(NamedTuple):
    """A part of a roof: its own plan over its four sides; which sides of the whole outline lie along each of them; which of its sides is
    open to the main part, and where it comes in there (of the main part: -1, None).
    """

    plan: SurfacePlan
    sides: tuple[tuple[int, ...], ...]
    inner: int = -1
    comes: Coming | None = None
    onto: LowerPlane | None = None
    """The plane of another roof onto which it runs on beyond its inner side."""
    cut: tuple[int, ...] = ()
    """Its sides before which hip ends with rafters lie."""
    ended: tuple[int, ...] = ()
    """The sides of the whole outline at those ends."""


def is_whole(parts: Sequence[Part]) -> bool:
    """Whether a roof's one part is all of it, side by side: no walls run on in one line with others along one of its sides."""
    return len(parts) == 1 and all(len(along) == 1 for along in parts[0].sides)


def tried(parts: tuple[Part, ...], plan: SurfacePlan) -> tuple[Part, ...]:
    """Return the parts of a roof with what is asked of its trusses in another plan of it."""
    if is_whole(parts) and parts[0].onto is None:
        return (parts[0]._replace(plan=plan),)
    trusses = replace(plan.roof.trusses, heel=plan.plate_to_top)
    roof = replace(plan.roof, trusses=trusses)
    return tuple(part._replace(plan=replace(part.plan, roof=roof, trussed=True)) for part in parts)


class Overlay(NamedTuple):
    """What of a wing's planes lies over the main part: how deep it reaches in, mm; in plan; the halves under both planes of the wing."""

    deep: float
    region: shapely.Polygon
    halves: tuple[shapely.Polygon, shapely.Polygon]


def parts_of(plan: SurfacePlan) -> tuple[tuple[Part, ...], str]:
    """Return the parts of a roof, the main one first; or none, and why trusses cannot stand under it."""
    core = plan.outline.core
    if any(edge.start > 0.0 for edge in plan.edges):
        return (), "some of its eaves are raised, and trusses are laid between eaves of one height"
    ends, why = raftered_ends(plan)
    why = why or other_heels(plan) if ends or why else ""
    if why and not plan.problem:
        return (), why
    if not plan.problem and any(edge.kind == "roof" for edge in plan.edges):
        return _running_on(plan)
    if plan.problem or len(core) == 4:
        if ends:
            return _between_ends(plan, ends)
        whole = (Part(plan, tuple((k,) for k in range(4))),)
        why = why_not(plan) or why_not_so(plan) or _under_others(plan, whole)
        return ((), why) if why else (whole, "")
    ways = [unit(core[k], core[(k + 1) % len(core)]) for k in range(len(core))]
    if any(min(abs(dot(ways[0], way)), abs(dot(left(ways[0]), way))) > SQUARE for way in ways):
        return (), LOW
    if why_not_so(plan):
        return (), why_not_so(plan)
    if not plan.roof.trusses.level:
        return (), "where wings come in their girders are level: make bottom chords level"
    said = LOW
    for rectangle, wings in _cut(plan, Frame(round(math.degrees(math.atan2(ways[0][1], ways[0][0])), 9))):
        made = _parts(plan, rectangle, wings, ends)
        if isinstance(made, str):
            said = made if made != LOW else said
            continue
        why = _under_others(plan, made)
        return ((), why) if why else (made, "")
    return (), said


def _between_ends(plan: SurfacePlan, ends: tuple[RafteredEnd, ...]) -> tuple[tuple[Part, ...], str]:
    """Return what of a roof over a rectangle lies between its hip ends with rafters as a part whose last trusses carry these; or why it
    cannot be.
    """
    core = plan.outline.core
    part = _part(plan, (core[0], core[1], core[2], core[3]), None, ends)
    if isinstance(part, str):
        return (), part
    why = why_not(part.plan)
    return ((), why) if why else ((_opened(part),), "")


def _opened(part: Part) -> Part:
    """Return a part whose trusses at its hip ends with rafters are girders."""
    edges = tuple(RoofEdge("roof") if k in part.cut else edge for k, edge in enumerate(part.plan.edges))
    return part._replace(plan=replace(part.plan, edges=edges)) if part.cut else part


def _running_on(plan: SurfacePlan) -> tuple[tuple[Part, ...], str]:
    """Return a roof that runs on over another as a part that ends at its open side; or why trusses cannot stand under it."""
    core, opened = plan.outline.core, [k for k, edge in enumerate(plan.edges) if edge.kind == "roof"]
    if why_not_so(plan):
        return (), why_not_so(plan)
    if plan.roof.trusses.heel is None:
        return (
            (),
            "it runs on over another roof, and is laid before its trusses are designed: type the height of its heels",
        )
    if len(core) != 4 or len(opened) != 1 or plan.covered or not plan.roof.trusses.level:
        return (), f"{RUNS_ON}, with level bottom chords, and with nothing standing on it"
    (inner,) = opened
    own = _part(plan, (core[0], core[1], core[2], core[3]), inner)
    if isinstance(own, str):
        return (), own
    why = why_not(own.plan)
    if why or set(_eaves(own)) != {(inner + 1) % 4, (inner + 3) % 4}:
        return (), why or RUNS_ON
    out = left(unit(core[(inner + 1) % 4], core[inner]))
    beyond = [_beyond(face.ring, core[inner], out) for face in plan.surface.faces]
    over = shapely.union_all(beyond)
    for plane in plan.laid_on:
        along = abs(dot(left(out), plane.slope)) < SQUARE and dot(out, plane.slope) > 0.0
        if along and shapely.Polygon(plane.ring).buffer(SAME).covers(over):
            if plane.height(core[inner]) < -SAME:
                return (
                    (),
                    "the roof below lies too low at its open side for valley trusses with heels like its own: make both alike high",
                )
            return (own._replace(inner=inner, onto=plane),), ""
    return (), f"{RUNS_ON}, over one plane of the roof below alone, whose eave lies along that side"


def _beyond(ring: Sequence[tuple[float, float, float]], at: Point, out: Point) -> shapely.Geometry:
    """Return what of a plane lies beyond a line through a place, on the side of ``out``, in plan."""
    far, way = 1e6, left(out)
    corners = [add(add(at, way, s), out, t) for s, t in ((-far, 0.0), (far, 0.0), (far, far), (-far, far))]
    return shapely.Polygon([p[:2] for p in ring]).intersection(shapely.Polygon(corners), grid_size=1e-3)


def run_on(plan: SurfacePlan, part: Part) -> tuple[dict[int, shapely.Geometry], float]:
    """Return what of a roof lies beyond its open side with its overhangs, by the sides of its part; how deep it reaches in there, mm."""
    core, inner = plan.outline.core, part.inner
    out = left(unit(core[(inner + 1) % 4], core[inner]))
    found: dict[int, shapely.Geometry] = {}
    for k, along in enumerate(part.sides):
        faces = [_beyond(face.ring, core[inner], out) for face in plan.whole.faces if face.edge in along]
        found[k] = shapely.union_all(faces) if faces else shapely.Polygon()
    deep = max(dot(out, sub(p[:2], core[inner])) for face in plan.surface.faces for p in face.ring)
    return found, deep


def _under_others(plan: SurfacePlan, parts: Sequence[Part]) -> str:
    """Return why trusses cannot carry what of other roofs lies over theirs; "" where they can."""
    if not plan.covered:
        return ""
    over = shapely.union_all([shapely.Polygon(ring) for ring in plan.covered])
    faces = {face.edge: shapely.Polygon([p[:2] for p in face.ring]) for face in plan.surface.faces}
    sides = {e for part in parts for k in _eaves(part) for e in part.sides[k]}
    ends = [face for edge, face in faces.items() if edge not in sides]
    valleys = [overlay_of(parts[0], part).region for part in parts[1:]]
    if len(faces) == 1 or any(over.intersection(shape).area > 1e4 for shape in (*ends, *valleys)):
        return "another roof runs on over a hip end, a valley or a single slope of it, whose feet trusses are not designed for"
    return ""


Rectangle = tuple[Point, Point, Point, Point]


def _cut(plan: SurfacePlan, frame: Frame) -> list[tuple[Rectangle, list[Rectangle]]]:
    """Return ways to cut an outline into a rectangle and others along its sides, the greatest first; corners in plan, anticlockwise."""
    own = [frame.to(p) for p in plan.outline.core]
    shape = shapely.Polygon(own)
    xs, ys = (_apart(sorted(p[k] for p in own)) for k in (0, 1))
    found = []
    for (x0, x1), (y0, y1) in itertools.product(itertools.combinations(xs, 2), itertools.combinations(ys, 2)):
        box = shapely.box(x0, y0, x1, y1)
        if not shape.covers(box.buffer(-SAME)):
            continue
        rest = shape.difference(box, grid_size=1e-3)
        others = [part for part in getattr(rest, "geoms", [rest]) if part.area > 1e4]
        if any(part.area < shapely.envelope(part).area * (1.0 - 1e-6) for part in others):
            continue
        rows = [_corners(frame, *part.bounds) for part in others]
        found.append((box.area, _corners(frame, x0, y0, x1, y1), rows))
    return [(whole, rows) for _, whole, rows in sorted(found, key=lambda row: -row[0])]


def _apart(values: list[float]) -> list[float]:
    found = values[:1]
    for value in values[1:]:
        if value - found[-1] > SAME:
            found.append(value)
    return found


def _corners(frame: Frame, x0: float, y0: float, x1: float, y1: float) -> Rectangle:
    return frame.back(x0, y0), frame.back(x1, y0), frame.back(x1, y1), frame.back(x0, y1)


def _parts(
    plan: SurfacePlan, rectangle: Rectangle, wings: list[Rectangle], ends: tuple[RafteredEnd, ...]
) -> tuple[Part, ...] | str:
    main = _part(plan, rectangle, None, ends)
    if isinstance(main, str):
        return main
    why = why_not(main.plan)
    if why:
        return LOW
    found, eaves = [main], _eaves(main)
    around = main.plan.outline.core
    rectangle = around[0], around[1], around[2], around[3]
    for corners in wings:
        comes = _coming(rectangle, corners)
        if comes is None or comes[1].side not in eaves:
            return LOW
        wing = _part(plan, corners, comes[0], ends)
        if isinstance(wing, str):
            return wing
        why = why_not(wing.plan)
        if why or set(_eaves(wing)) != {(comes[0] + 1) % 4, (comes[0] + 3) % 4}:
            return why if "hip end" in why else LOW
        wall = _wall_below(plan, main, comes[1])
        # Over a wall it ends as at a gable without one of its own; else by a girder.
        inner = wing.plan.edges[comes[0]] if wall else RoofEdge("roof")
        edges = tuple(inner if k == comes[0] else edge for k, edge in enumerate(_opened(wing).plan.edges))
        found.append(
            wing._replace(plan=replace(wing.plan, edges=edges), inner=comes[0], comes=comes[1]._replace(wall=wall))
        )
    over = [overlay_of(main, wing) for wing in found[1:]]
    near = {face.edge: shapely.Polygon([p[:2] for p in face.ring]) for face in main.plan.surface.faces}
    for wing, lies in zip(found[1:], over, strict=True):
        assert wing.comes is not None
        if not near[wing.comes.side].buffer(SAME).covers(lies.region):
            return (
                "a wing's roof runs on over more than one plane of the main part, or over its ridge, where valley trusses are not laid. "
                "Make it lower or narrower"
            )
    if any(a.region.intersection(b.region).area > 1e4 for a, b in itertools.combinations(over, 2)):
        return "the roofs of two wings meet over the main part, where valley trusses are not laid"
    if {end.edge for end in ends} != {e for part in found for e in part.ended}:
        return LOW
    return (_opened(found[0]), *found[1:]) if _alike(plan, found) else LOW


def _part(
    plan: SurfacePlan, corners: Rectangle, inner: int | None, raftered: tuple[RafteredEnd, ...] = ()
) -> Part | str:
    """Return a part over a rectangle; at side ``inner`` it ends as at a gable, and so it does before hip ends with rafters."""
    around, edges, overs, walls, deep = plan.outline, list[RoofEdge](), list[float](), list[str](), list[float]()
    sides: list[tuple[int, ...]] = []
    cut: dict[int, RafteredEnd] = {}
    for k in range(4):
        along = () if k == inner else _along(around, corners[k], corners[(k + 1) % 4])
        if not along and k != inner:
            return LOW
        end = next((end for end in raftered if along == (end.edge,)), None)
        if end is not None:
            cut[k], along = end, ()
        if len({(plan.edges[e], round(plan.overhangs[e], 3)) for e in along}) > 1:
            return "along one side of a part of it pitches or overhangs are not alike, which trusses side by side are not laid for"
        first = along[0] if along else -1
        edges.append(plan.edges[first] if along else RoofEdge("gable"))
        overs.append(plan.overhangs[first] if along else 0.0)
        walls.append(around.walls[first] if along else "")
        deep.append(plan.deep[first] if along else 0.0)
        sides.append(along)
    corners = _shortened(corners, cut)
    try:
        surface = roof_surface(corners, edges)
    except RoofError:
        return LOW
    roof = replace(plan.roof, trusses=replace(plan.roof.trusses, heel=plan.plate_to_top))
    own = replace(
        plan, roof=roof, outline=Outline(tuple(walls), corners), edges=tuple(edges), overhangs=tuple(overs), surface=surface,
        whole=RoofSurface((), ()), ring=(), shares=(), inside=(), deep=tuple(deep), holes=(), covered=(), gone=(), lined=(), clad=(),
    )  # fmt: skip
    return Part(own, tuple(sides), cut=tuple(cut), ended=tuple(end.edge for end in cut.values()))


def _shortened(corners: Rectangle, cut: Mapping[int, RafteredEnd]) -> Rectangle:
    """Return a rectangle up to the trusses before hip ends with rafters, by its sides."""
    found = [*corners]
    for side, end in cut.items():
        for k in (side, (side + 1) % 4):
            found[k] = add(found[k], end.inward, end.deep)
    return found[0], found[1], found[2], found[3]


def _along(around: Outline, a: Point, b: Point) -> tuple[int, ...]:
    """Return which sides of an outline lie on a line from a to b."""
    way, found = unit(a, b), []
    for k, p in enumerate(around.core):
        q = around.core[(k + 1) % len(around.core)]
        if abs(dot(left(way), sub(p, a))) > SAME or abs(dot(left(way), sub(q, a))) > SAME:
            continue
        low, high = sorted((dot(way, sub(p, a)), dot(way, sub(q, a))))
        if min(high, distance(a, b)) - max(low, 0.0) > SAME:
            found.append(k)
    return tuple(found)


def _coming(main: Rectangle, wing: Rectangle) -> tuple[int, Coming] | None:
    """Return which side of a wing lies on which side of the main part, and where along that; None where it is no whole side."""
    for k in range(4):
        a, b = main[k], main[(k + 1) % 4]
        way, long = unit(a, b), distance(a, b)
        for j in range(4):
            p, q = wing[j], wing[(j + 1) % 4]
            if abs(dot(left(way), sub(p, a))) > SAME or abs(dot(left(way), sub(q, a))) > SAME:
                continue
            low, high = sorted((dot(way, sub(p, a)), dot(way, sub(q, a))))
            if low >= -SAME and high <= long + SAME:
                return j, Coming(k, low, high)
    return None


def _wall_below(plan: SurfacePlan, main: Part, comes: Coming) -> str:
    """Return the wall that runs on where a wing comes in: the one on both sides of it; "" where there is none."""
    core, around = main.plan.outline.core, plan.outline
    a, way = core[comes.side], unit(core[comes.side], core[(comes.side + 1) % 4])
    beside_it = ["", ""]
    for k in main.sides[comes.side]:
        p, q = (dot(way, sub(around.core[j % len(around.core)], a)) for j in (k, k + 1))
        for which, corner in enumerate((comes.low, comes.high)):
            if min(abs(p - corner), abs(q - corner)) < SAME:
                beside_it[which] = around.walls[k]
    return beside_it[0] if beside_it[0] == beside_it[1] else ""


def _eaves(part: Part) -> tuple[int, ...]:
    """Return the sides of a part between which its trusses span; none of one slope alone."""
    return tuple(sorted(main_eaves(part.plan) or ()))


def wing_heights(wing: Part, points: Array) -> Array:
    """Return how high a wing's planes are at places, run on beyond its inner side (n), mm over its bearing line."""
    core, rows = wing.plan.outline.core, []
    for k in ((wing.inner + 1) % 4, (wing.inner + 3) % 4):
        inward = np.array(left(unit(core[k], core[(k + 1) % 4])))
        rows.append(wing.plan.edges[k].pitch * ((points - np.array(core[k])) @ inward))
    found: Array = np.minimum(rows[0], rows[1])
    return found


def _face_heights(surface: RoofSurface, points: Array) -> Array:
    """Return the heights of a surface at places within its faces (n); NaN elsewhere."""
    found = np.full(len(points), np.nan)
    for face in surface.faces:
        ring = np.array(face.ring)
        inside = shapely.contains_xy(shapely.Polygon(ring[:, :2]), points[:, 0], points[:, 1])
        plane, *_ = np.linalg.lstsq(np.column_stack([ring[:, :2] - ring[0, :2], np.ones(len(ring))]), ring[:, 2])
        found[inside] = np.column_stack([points[inside] - ring[0, :2], np.ones(inside.sum())]) @ plane
    return found


def _alike(plan: SurfacePlan, parts: Sequence[Part]) -> bool:
    """Whether the roof is what its parts make together, the higher of both where wings run on over the main part."""
    x0, y0, x1, y1 = shapely.Polygon(plan.outline.core).bounds
    grid = np.meshgrid(np.arange(x0 + 37.0, x1, STEP), np.arange(y0 + 53.0, y1, STEP))
    points = np.stack([axis.ravel() for axis in grid], axis=1)
    true = _face_heights(plan.surface, points)
    main = _face_heights(parts[0].plan.surface, points)
    for wing in parts[1:]:
        over = shapely.contains_xy(overlay_of(parts[0], wing).region, points[:, 0], points[:, 1])
        main = np.where(over, wing_heights(wing, points), main)
        own = _face_heights(wing.plan.surface, points)
        main = np.where(np.isnan(main), own, main)
    known = ~np.isnan(true) & ~np.isnan(main)
    return bool(known.any() and np.abs(true - main)[known].max() < SAME)


def overlay_of(main: Part, wing: Part, gap: float = 0.0, begin: float = 0.0) -> Overlay:
    """Return what of a wing's planes lies over the main part, by more than a ``gap``, mm plumb; from ``begin`` inward of its side."""
    assert wing.comes is not None
    core, k = main.plan.outline.core, wing.comes.side
    a, way = core[k], unit(core[k], core[(k + 1) % 4])
    inward, wide = left(way), wing.comes.high - wing.comes.low
    # The wing's planes by where they begin along the main part's side.
    own = wing.plan.outline.core
    one, other = sorted(
        ((wing.inner + 1) % 4, (wing.inner + 3) % 4), key=lambda j: dot(way, add(own[j], own[(j + 1) % 4]))
    )
    p0, p1, low = wing.plan.edges[one].pitch, wing.plan.edges[other].pitch, main.plan.edges[k].pitch
    peak = wide * p1 / (p0 + p1)
    deep = (p0 * peak - gap) / low
    s0, s1 = (gap + low * begin) / p0, wide - (gap + low * begin) / p1

    def at(s: float, y: float) -> Point:
        return add(add(a, way, wing.comes.low + s), inward, y)  # type: ignore[union-attr]

    halves = (
        shapely.Polygon([at(s0, begin), at(peak, begin), at(peak, deep)]),
        shapely.Polygon([at(peak, begin), at(s1, begin), at(peak, deep)]),
    )
    return Overlay(deep, shapely.Polygon([at(s0, begin), at(s1, begin), at(peak, deep)]), halves)


def run_under(plan: SurfacePlan, parts: Sequence[Part]) -> SurfacePlan:
    """Return a roof with what of its main part's planes runs on under those of its wings: with the deck on which valley trusses stand."""
    main, under, decks = parts[0], list[RoofFace](), list[RoofFace]()
    for wing in parts[1:]:
        assert wing.comes is not None
        k, core = wing.comes.side, main.plan.outline.core
        pitch, a = main.plan.edges[k].pitch, core[k]
        inward = left(unit(a, core[(k + 1) % 4]))
        # The wing's own deck begins where it lies on this one, whose lower edge, square to it, stays clear of the girder.
        steep = math.hypot(1.0, pitch)
        for rows, gap, begin in ((under, 0.0, 0.0), (decks, plan.roof.deck * steep, plan.roof.deck * pitch / steep)):
            region = overlay_of(main, wing, gap, begin).region
            if region.area > 1e4:
                ring = [(float(x), float(y)) for x, y in region.exterior.coords[:-1]]
                ring = ring if shapely.LinearRing(ring).is_ccw else ring[::-1]
                places = tuple((x, y, pitch * dot(inward, sub((x, y), a))) for x, y in ring)
                rows.append(RoofFace(main.sides[k][0], pitch, places))
    return replace(plan, under=tuple(under), under_decks=tuple(decks))
