"""Boards that close the edges of a roof: fascias before its tails, one before another where asked, and boards along its rakes.

They stand plumb outside what overhangs, as high as the undersides of the deck there; fascias are mitred where two of them meet, boards
of rakes run past their ends.
"""

import math
from collections.abc import Sequence
from typing import NamedTuple

import shapely

from balken.catalog.sections import section
from balken.framing.eave_breaks import flat_at, lift
from balken.framing.gable_ladders import lower_planes, rakes
from balken.framing.pieces import Piece, split_run
from balken.framing.surface_roofs import SurfacePlan, eave
from balken.geometry.leaning import Leaning
from balken.geometry.plane import (
    Point,
    Ring,
    add,
    anticlockwise,
    cross,
    distance,
    dot,
    largest,
    left,
    meet,
    polygons_of,
    sub,
)
from balken.geometry.prism import upright
from balken.geometry.roof_surface import RoofLine
from balken.geometry.trimmed import Trimmed, trimmed
from balken.model.naming import Places, piece_name, place_at
from balken.model.roof_edits import side_of

FASCIAS = ("1x4", "1x6", "1x8", "1x10", "1x12", "2x4", "2x6", "2x8", "2x10", "2x12")
"""Of what fascias are made."""
TOUCH = 1.0
"""Ends of eaves nearer than this are one, mm."""
GRID = 1e-3
LEAST = 1e3
"""What of a board is smaller in plan is none, mm2."""
SHARPEST = 0.1
"""Sine of the angle under which fascias are no longer mitred."""


class Course(NamedTuple):
    """A board before the edge of a roof: its section, how far out of the edge of the deck its faces lie, mm."""

    size: str
    inner: float
    outer: float


def courses(plan: SurfacePlan) -> list[Course]:
    """Return the boards before the edge of a roof, the inner one first."""
    found: list[Course] = []
    for size in (plan.roof.fascia, plan.roof.face_board):
        if size is not None:
            inner = found[-1].outer if found else 0.0
            found.append(Course(size, inner, inner + section(size).breadth))
    return found


def fascias(plan: SurfacePlan, stock: float) -> tuple[Piece, ...]:
    """Return the fascias of a roof, in lengths of ``stock``."""
    rows, places = courses(plan), Places()
    beside, ends = _others(plan, rows), _rake_ends(plan)
    return tuple(piece for row in rows for piece in _round(plan, row, ends, beside, stock, places))


def _boarded(plan: SurfacePlan) -> list[RoofLine]:
    """Return the eaves before which boards run."""
    walls, eaves = plan.outline.walls, (line for line in plan.whole.lines if line.kind == "eave")
    return [line for line in eaves if side_of(plan.roof, walls[line.edges[0]]).boards]


def _others(plan: SurfacePlan, rows: list[Course]) -> shapely.Geometry:
    """Return where roofs that run on over this one lie in plan, with boards of their own."""
    shape = shapely.union_all([shapely.Polygon(ring) for ring in plan.over], grid_size=GRID)
    return shape.buffer(rows[-1].outer, join_style="mitre") if rows else shape


def _round(
    plan: SurfacePlan,
    course: Course,
    rake_ends: Sequence[Point],
    beside: shapely.Geometry,
    stock: float,
    places: Places,
) -> list[Piece]:
    """Return one course of fascias all round; ``rake_ends``: where rakes with boards begin, ``beside``: what others' boards take."""
    roof, lumber, found = plan.roof, section(course.size), list[Piece]()
    eaves = [line for line in _boarded(plan) if distance(*_plan(line)) > TOUCH]
    for line in eaves:
        edge = line.edges[0]
        a, b, way = _run(plan, line)
        out = left((-way[0], -way[1]))
        ends = [_corner(plan, eaves, line, at, course, (way, out), rake_ends) for at in (a, b)]
        flat = flat_at(plan, edge)
        pitch = plan.edges[edge].pitch if flat is None else flat
        top = line.start[2] + plan.bearing + plan.plate_to_top - pitch * course.outer
        top += lift(plan, edge, -plan.overhangs[edge])
        for whole in _beside_others((ends[0][0], ends[1][0], ends[1][1], ends[0][1]), beside):
            low, high = (pick(dot(way, sub(p, a)) for p in whole) for pick in (min, max))
            for u, v in split_run(high - low, stock):
                ring = _part(whole, a, way, (low + u, low + v))
                if len(ring) < 3:
                    continue
                begins = dot(way, sub(add(a, way, low + u), plan.outline.core[edge]))
                name = places.text("fascia", place_at(plan.outline.walls[edge], begins))
                tops = [(*add(a, way, low + x), top) for x in (u, v)]
                found.append(
                    Piece(
                        piece_name(roof.id, "fascia", name), "fascia", roof.id, roof.bearing.level,
                        upright(ring, top - lumber.depth, lumber.depth), "timber", tops[0], tops[1], v - u, course.size,
                        roof.rafters.species, roof.rafters.grade,
                    )
                )  # fmt: skip
    return found


def _corner(
    plan: SurfacePlan,
    eaves: Sequence[RoofLine],
    line: RoofLine,
    at: Point,
    course: Course,
    ways: tuple[Point, Point],
    rake_ends: Sequence[Point],
) -> tuple[Point, Point]:
    """Return where the inner and the outer face of a fascia end at an end of its eave: mitred with another, past the inner boards of a rake."""
    way, out = ways
    faces = add(at, out, course.inner), add(at, out, course.outer)
    other = next((x for x in eaves if x is not line and _shares(x, at)), None)
    if other is None:
        beyond = course.inner if any(distance(at, end) < TOUCH for end in rake_ends) else 0.0
        past = 1.0 if dot(way, sub(at, _middle(line))) > 0.0 else -1.0
        return add(faces[0], way, past * beyond), add(faces[1], way, past * beyond)
    _, _, along = _run(plan, other)
    if abs(cross(way, along)) <= SHARPEST:
        return faces
    aside = left((-along[0], -along[1]))
    met = [meet(p, way, add(at, aside, off), along) for p, off in zip(faces, course[1:], strict=True)]
    return met[0] or faces[0], met[1] or faces[1]


def _middle(line: RoofLine) -> Point:
    (x, y), (u, v) = _plan(line)
    return (x + u) / 2.0, (y + v) / 2.0


# Rakes ----------------------------------------------------------------------------------------------


def rake_boards(plan: SurfacePlan, stock: float) -> tuple[Piece, ...]:
    """Return the boards along the rakes of a roof that overhang, in lengths of ``stock``; each runs down past what closes the eave."""
    if not plan.roof.rake_boards:
        return ()
    rows, places = courses(plan), Places()
    beside = _others(plan, rows)
    return tuple(
        piece for line in _rakes(plan) for row in rows for piece in _along_rake(plan, line, row, beside, stock, places)
    )


def _rakes(plan: SurfacePlan) -> list[RoofLine]:
    """Return the rakes of a roof that overhang and rise square to an eave."""
    if not plan.roof.rake_boards:
        return []
    over = {(rake.edge, rake.gable) for rake in rakes(plan)}
    return [line for line in plan.whole.lines if line.kind == "rake" and line.edges in over]


def _rake_ends(plan: SurfacePlan) -> list[Point]:
    """Return where rakes with boards begin."""
    return [min(line.start, line.end, key=lambda p: p[2])[:2] for line in _rakes(plan)]


def _along_rake(
    plan: SurfacePlan, line: RoofLine, course: Course, beside: shapely.Geometry, stock: float, places: Places
) -> list[Piece]:
    roof, lumber, edge = plan.roof, section(course.size), line.edges[0]
    low, high = sorted((line.start, line.end), key=lambda p: p[2])
    corner, way, inward = eave(plan, edge)
    pitch, level = plan.edges[edge].pitch, plan.level(edge)
    steep = math.hypot(1.0, pitch)
    ring = next(face.ring for face in plan.whole.faces if face.edge == edge)
    middle = sum(dot(way, sub(p[:2], low[:2])) for p in ring)
    out = (-way[0], -way[1]) if middle > 0.0 else way
    at_eave = any(_shares(x, low[:2]) for x in _boarded(plan))
    run = distance(low[:2], high[:2])
    start = -course.outer if at_eave else 0.0
    found = []
    for u, v in split_run((run - start) * steep, stock):
        ends = [add(low[:2], inward, start + x / steep) for x in (u, v)]
        corners = [
            add(p, out, off)
            for p, off in zip((*ends, *ends[::-1]), (course.inner,) * 2 + (course.outer,) * 2, strict=True)
        ]
        plumb = lumber.depth * steep
        for part in _beside_others(tuple(corners), beside):
            solid = Leaning(
                anticlockwise(part), (*corner, level - plumb), (inward[0] * pitch, inward[1] * pitch), plumb
            )
            kept: Leaning | Trimmed | None = solid
            for below in lower_planes(plan, ends):
                if isinstance(kept, Leaning):
                    cut = trimmed(kept, (-below.slope[0], -below.slope[1], 1.0), below.level + level)
                    kept = cut if isinstance(cut, Leaning | Trimmed) else None
            if kept is None:
                continue
            tops = [(*p, level + pitch * dot(inward, sub(p, corner))) for p in ends]
            name = places.text("rake board", place_at(plan.outline.walls[edge], dot(way, sub(ends[0], corner))))
            found.append(
                Piece(
                    piece_name(roof.id, "rake-board", name), "rake board", roof.id, roof.bearing.level, kept, "timber",
                    tops[0], tops[1], v - u + lumber.depth * pitch, course.size, roof.rafters.species, roof.rafters.grade,
                )
            )  # fmt: skip
    return found


# In plan --------------------------------------------------------------------------------------------


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
    shape = largest(shapely.Polygon(ring).intersection(strip))
    if shape is None or shape.area < 1.0:
        return ()
    made = [(float(x), float(y)) for x, y in shapely.orient_polygons(shape).exterior.coords[:-1]]
    return tuple(made)
