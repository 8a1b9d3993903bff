"""Roofs over outlines drawn corner by corner, as over porches and carports: sides along walls and beams lie on these, under the others
beams are laid on posts.
"""

from collections.abc import Mapping, Sequence

import shapely

from balken.design.beam_posts import USUAL, bears_as_often, foot_of_posts, posts_under, stood
from balken.framing.bands import WallLine, wall_lines
from balken.framing.beams import BeamLine, beam_lines
from balken.framing.outlines import Outline, OutlineError, outline
from balken.framing.roof_beams import beam_sides
from balken.framing.roofs import is_gable_outline
from balken.geometry.plane import Point, add, anticlockwise, cross, distance, dot, left, off_line, sub, unit
from balken.geometry.roof_edges import EdgeKind
from balken.loads.stands import column_stands
from balken.model.beam_edits import add_beam
from balken.model.edits import add as add_record
from balken.model.errors import EditError
from balken.model.kinds.roof import RoofSide
from balken.model.lookup import by_id, height, listed, next_id
from balken.model.records import Choice, Hang, Project, Roof
from balken.units.system import FOOT, INCH

ON = 12.0 * INCH
"""A side drawn no farther beside a wall or a beam lies on it, mm."""
ALONG = 0.02
"""Sine of the angle up to which a side runs along a wall."""
ALIKE = 25.0
"""What bears no farther apart in height bears alike, mm."""
LEAST = 600.0
"""Sides of a drawn roof are no shorter, mm."""
OUTLINE = "Roof over a drawn outline"


def draw_roof(project: Project, storey: str, corners: Sequence[Point], most: float = USUAL) -> Project:
    """Draw a roof over corners in plan; beams run from corner to corner where no wall or beam lies along a side, on posts at their ends and no
    farther apart than ``most``, mm, those on pads.  It bears as high as the walls of the storey, on lower ones along it as these do.

    Raises EditError for what is no outline.
    """
    ring = _ring(corners)
    lines = wall_lines(project.walls, project.buildups, project.grids, project.levels)
    bearing = _bearing(project, storey, ring, lines)
    high = height(bearing, project.levels)
    sides, after = list[str](), project
    for k, a in enumerate(ring):
        b = ring[(k + 1) % len(ring)]
        on = _along(a, b, high, lines, _beams(after))
        if not on:
            ends = [_to_wall(p, q, lines) for p, q in ((a, b), (b, a))]
            after = add_beam(after, ends[0], ends[1], bearing, outdoors=True)
            on = after.beams[-1].id
        sides.append(on)
    made = [one for one in sides if one not in by_id(project.beams) and one not in lines]
    after = _posted(after, made, bearing, most)
    walls = tuple(dict.fromkeys(sides))
    around = _closed(after, walls)
    roof = Roof(
        id=next_id(after, Roof), name="Roof" if not after.roofs else f"Roof {len(after.roofs) + 1}", walls=walls, bearing=bearing,
        ties=Choice(), shape="planes", sides=first_sides(after, around, high, lines),
    )  # fmt: skip
    return add_record(after, roof)


def first_sides(
    project: Project, around: Outline, bearing: float, lines: Mapping[str, WallLine]
) -> tuple[RoofSide, ...]:
    """Return what a new roof does over its sides: over a rectangle gables at its short ones, or, where it leans on a house, there and opposite;
    there it runs on over the house's roof, if that bears alike, else it stands against the wall.  Along walls that run up higher it stands
    against these.
    """
    taller = {w for w in around.walls if w in lines and lines[w].band.top > bearing + ALIKE}
    kinds: dict[str, EdgeKind] = dict.fromkeys(taller, "wall")
    if is_gable_outline(around):
        long = [distance(p, around.core[(k + 1) % 4]) for k, p in enumerate(around.core)]
        shared = [k for k in range(4) if around.shared and around.shared[k]]
        first = shared[0] if len(shared) == 1 else min(range(4), key=lambda k: round(long[k]))
        for k in (first, (first + 2) % 4):
            wall = around.walls[k]
            roofs = [r for r in project.roofs if r.shape == "planes" and wall in r.walls]
            roofs = [r for r in roofs if abs(height(r.bearing, project.levels) - bearing) < ALIKE]
            kind: EdgeKind = ("roof" if roofs else "wall") if k in shared else "gable"
            kinds.setdefault(wall, kind)
    return tuple(RoofSide(wall=wall, kind=kinds[wall]) for wall in around.walls if wall in kinds)


def _ring(corners: Sequence[Point]) -> tuple[Point, ...]:
    """Return corners anticlockwise, none twice; raises EditError where they enclose nothing."""
    ring = [p for k, p in enumerate(corners) if distance(p, corners[k - 1]) > 1.0]
    if len(ring) < 3 or shapely.MultiPoint(ring).convex_hull.area < LEAST**2:
        raise EditError("its corners enclose nothing.", OUTLINE, "Click three at least, one after the other.")
    if not shapely.LinearRing(ring).is_simple:
        raise EditError("its outline crosses itself.", OUTLINE, "Click its corners in their order.")
    if any(distance(p, ring[k - 1]) < LEAST for k, p in enumerate(ring)):
        raise EditError("one of its sides is shorter than 2 ft (600 mm).", OUTLINE, "Click corners farther apart.")
    return tuple(anticlockwise(tuple(ring)))


def _beams(project: Project) -> tuple[BeamLine, ...]:
    return beam_lines(project.beams, project.grids, project.levels, project.floors, {})


def _bearing(project: Project, storey: str, ring: Sequence[Point], lines: Mapping[str, WallLine]) -> Hang:
    """Return on what a drawn roof bears: the lowest of the heads of walls along it and of what most outside walls of the storey have; without
    walls the plate above that.
    """
    mine = [w for w, line in lines.items() if line.wall.foot.level == storey]
    found = [lines[w].wall.head for w in _beside(ring, {w: lines[w] for w in mine})]
    all_round = [lines[w].wall.head for w in mine if lines[w].wall.role == "outside"]
    if all_round:
        found.append(max(all_round, key=lambda head: (all_round.count(head), -height(head, project.levels))))
    if found:
        return min(found, key=lambda head: height(head, project.levels))
    level = by_id(project.levels)[storey]
    plates = [v for v in listed(project.levels) if v.role == "plate" and v.height > level.height + 4.0 * FOOT]
    lowest = min(plates, key=lambda v: v.height, default=None)
    return Hang(level=lowest.id) if lowest is not None else Hang(level=storey, offset=8.0 * FOOT)


def _beside(ring: Sequence[Point], lines: Mapping[str, WallLine]) -> list[str]:
    """Return the walls along the sides of an outline."""
    sides = [(a, ring[(k + 1) % len(ring)]) for k, a in enumerate(ring)]
    return [w for a, b in sides for w, line in lines.items() if _covers(line.band.start, line.band.end, a, b)]


def _covers(start: Point, end: Point, a: Point, b: Point) -> bool:
    """Whether a line runs along a side and as far as it, but for what corners take."""
    if abs(cross(unit(start, end), unit(a, b))) > ALONG:
        return False
    places = [off_line(p, start, end) for p in (a, b)]
    long = distance(start, end)
    return all(abs(off) < ON and -2.0 * ON < s < long + 2.0 * ON for s, off in places)


def _along(a: Point, b: Point, high: float, lines: Mapping[str, WallLine], beams: Sequence[BeamLine]) -> str:
    """Return the wall that reaches up to the bearing along a side, or the beam whose top lies there; "" where there is none."""
    walls = [
        (abs(line.band.top - high), w)
        for w, line in lines.items()
        if line.wall.role == "outside"
        and line.band.bottom < high - FOOT
        and line.band.top > high - ALIKE
        and _covers(line.band.start, line.band.end, a, b)
    ]
    if walls:
        return min(walls)[1]
    on = [one.id for one in beams if abs(one.top - high) < ALIKE and _covers(one.start, one.end, a, b)]
    return on[0] if on else ""


def _to_wall(at: Point, other: Point, lines: Mapping[str, WallLine]) -> Point:
    """Return where a beam ends that comes to a corner: in the middle of the core of the wall there, else at the corner."""
    way = unit(other, at)
    for line in lines.values():
        band = line.band
        s, off = off_line(at, band.start, band.end)
        if (
            line.wall.role != "outside"
            or abs(cross(band.direction, way)) < 0.5
            or not (abs(off) < ON and -ON < s < band.length + ON)
        ):
            continue
        middle = add(band.start, band.inward, sum(line.core) / 2.0)
        far = dot(sub(middle, at), band.inward) / dot(way, band.inward)
        return add(at, way, far)
    return at


def _posted(project: Project, beams: Sequence[str], bearing: Hang, most: float) -> Project:
    """Set posts under the ends of beams that nothing holds, one where two meet, and between."""
    for beam in beams:
        line = next(one for one in _beams(project) if one.id == beam)
        for at in (line.start, line.end):
            stands = column_stands(project.columns, project.grids, project.levels)
            if any(distance(stand.at, at) < ON for stand in stands) or _in_wall(project, at):
                continue
            foot, on_pads = foot_of_posts(project, "", line.top, [at])
            project = stood(project, [at], foot, bearing, on_pads)
    for beam in beams:
        if not bears_as_often(project, beam, most):
            project = posts_under(project, beam, most)
    return project


def _in_wall(project: Project, at: Point) -> bool:
    """Whether a place in plan lies in an outside wall."""
    lines = wall_lines(project.walls, project.buildups, project.grids, project.levels)
    for line in lines.values():
        s, off = off_line(at, line.band.start, line.band.end)
        inward = off * (1.0 if dot(left(line.band.direction), line.band.inward) > 0.0 else -1.0)
        if line.wall.role == "outside" and -1.0 < inward < line.thickness + 1.0 and -1.0 < s < line.band.length + 1.0:
            return True
    return False


def _closed(project: Project, walls: tuple[str, ...]) -> Outline:
    """Return the outline of a roof's sides; raises EditError where they do not close."""
    lines = wall_lines(project.walls, project.buildups, project.grids, project.levels)
    own = {w: line for w, line in lines.items() if w in walls}
    try:
        return outline(walls, own | beam_sides(walls, lines, _beams(project)), inner=True)
    except OutlineError as error:
        raise EditError(
            f"its sides do not close: {error}.", OUTLINE, "Click corners of walls, or such as lie clear of them."
        ) from None
