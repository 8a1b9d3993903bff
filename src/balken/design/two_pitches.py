"""Slopes with two pitches: the lower part of a plane becomes a roof of its own, against a knee wall that bears the upper part.

As such roofs are framed: the knee wall stands on the floor in the roof, its studs carry the feet of the upper rafters and the heads of the
lower ones, whose tops meet over its outer face.  Everything stays a wall and a roof, to be moved and typed by itself.
"""

from collections.abc import Mapping, Sequence
from itertools import pairwise

from msgspec.structs import replace

from balken.framing.bands import WallLine
from balken.framing.surface_roofs import SurfacePlan, rafter_shape
from balken.geometry.plane import Point, add, cross, distance, dot, left, meet, sub, unit
from balken.model import edits
from balken.model.buildups import stud_size
from balken.model.errors import EditError
from balken.model.kinds.buildup import BuildUp
from balken.model.lookup import height, labels_of, next_id, there
from balken.model.records import Hang, Project, Roof, RoofSide
from balken.model.roof_edits import side_of
from balken.units.system import FOOT

LEAST = 1.0 * FOOT
"""The break lies no nearer to the bearing line, nor to the end of the edges beside it."""
LOWEST = 1.0 * FOOT
"""A knee wall is no lower."""
HIGHEST_DECK = 2.0 * FOOT
"""A floor whose deck lies no higher over the plates is that in the roof."""


def break_slopes(
    project: Project,
    plan: SurfacePlan,
    lines: Mapping[str, WallLine],
    size: str,
    walls: Sequence[str],
    inward: float,
    pitch: float,
) -> Project:
    """Break the planes over walls: below a knee wall ``inward`` mm in of its bearing line each rises at ``pitch``, above as before.

    Those that meet in hips or valleys are broken together, as one lower roof round the corners of their knee walls.
    ``size``: of the rafters, alike above and below so that their tops meet; ``lines``: of walls.  Raises EditError.
    """
    knees: dict[str, str] = {}
    for row in _in_rows(project, plan, walls):
        project, made = _broken(project, plan, lines, size, row, inward, pitch)
        knees |= dict(zip((plan.outline.walls[k] for k in row), made, strict=True))
    roof: Roof = there(project.roofs, plan.roof.id)
    _check_reach(project, plan, roof, knees, inward)
    settled = _settled(roof)
    return edits.change(project, roof.id, sides=settled.sides, bearing=settled.bearing)


def _broken(
    project: Project,
    plan: SurfacePlan,
    lines: Mapping[str, WallLine],
    size: str,
    row: Sequence[int],
    inward: float,
    pitch: float,
) -> tuple[Project, list[str]]:
    """Break the planes over edges that follow one another; return their knee walls too."""
    roof: Roof = there(project.roofs, plan.roof.id)
    walls, n = [plan.outline.walls[k] for k in row], len(plan.outline.walls)
    corners = _knees(plan, lines, row, inward)
    side, beside = side_of(roof, walls[0]), [plan.outline.walls[k % n] for k in (row[0] - 1, row[-1] + 1)]
    bearing = replace(roof.bearing, offset=roof.bearing.offset + side.raised)
    upper = replace(roof, rafters=replace(roof.rafters, made_of="sawn", size=size))
    over = roof.overhang if side.overhang is None else side.overhang
    lower = replace(
        upper, id=next_id(project, Roof), name=f"Lower slope{'s' * (len(row) > 1)} over {labels_of(project, walls)}", pitch=pitch,
        bearing=bearing, overhang=over, purlins_at=0.0, tie_raise=0.0, ridge=None, ridge_size=None,
    )  # fmt: skip
    above = replace(upper, pitch=roof.pitch if side.pitch is None else side.pitch)
    high, foot = round(pitch * inward + _over(lower) - _over(above), 3), _deck(project, bearing)
    if height(bearing, project.levels) + high - height(foot, project.levels) < LOWEST:
        raise EditError(
            "the knee wall under the break would be too low.",
            roof.name,
            "Break the slope farther in, or make it steeper below.",
        )
    head = replace(bearing, offset=bearing.offset + high)
    project, buildup = _of_studs(project)
    for start, end in pairwise(corners):
        project = edits.add_wall(project, start, end, buildup, foot, head, "core outside", "right", "bearing")
    knees = [wall.id for wall in project.walls[-len(row) :]]
    gables = tuple(replace(side_of(roof, w), wall=w) for w in dict.fromkeys(beside))
    eaves = (RoofSide(wall=w, overhang=x) for w in walls if (x := side_of(roof, w).overhang) not in (None, over))
    sides = (*gables, *eaves, *(RoofSide(wall=knee, kind="wall") for knee in knees))
    project = edits.add(project, replace(lower, walls=(*walls, beside[1], *reversed(knees), beside[0]), sides=sides))
    others = tuple(x for x in roof.sides if x.wall not in walls)
    raised = tuple(
        RoofSide(wall=knee, pitch=side.pitch, overhang=0.0, raised=side.raised + high, boards=False) for knee in knees
    )
    of = dict(zip(walls, knees, strict=True))
    round_it = tuple(of.get(w, w) for w in roof.walls)
    return edits.change(project, roof.id, walls=round_it, sides=(*others, *raised), rafters=upper.rafters), knees


def _in_rows(project: Project, plan: SurfacePlan, walls: Sequence[str]) -> list[list[int]]:
    """Return the edges over walls in rows that follow one another round the outline; raises EditError where they cannot be broken together."""
    roof: Roof = there(project.roofs, plan.roof.id)
    among, n = {_breakable(project, roof, plan, wall) for wall in walls}, len(plan.outline.walls)
    rows: list[list[int]] = []
    for first in sorted(k for k in among if (k - 1) % n not in among):
        rows.append([first])
        while (rows[-1][-1] + 1) % n in among:
            rows[-1].append((rows[-1][-1] + 1) % n)
    if not rows:
        raise EditError(
            "slopes all round a roof are not broken together.",
            roof.name,
            "Make one of its edges a gable and leave it out.",
        )
    for row in rows:
        if any(plan.edges[k % n].kind != "gable" for k in (row[0] - 1, row[-1] + 1)):
            raise EditError(
                "a slope is broken together with those that it meets in hips and valleys, between two gables.",
                roof.name,
                "Break all eaves at once, or make the edges beside it gables.",
            )
        sides = [side_of(roof, plan.outline.walls[k]) for k in row]
        if any((x.pitch, x.raised) != (sides[0].pitch, sides[0].raised) for x in sides):
            raise EditError(
                "slopes that meet in hips and valleys are broken together where they are alike alone.",
                roof.name,
                "Give them one pitch and one height first.",
            )
    return rows


def _check_reach(project: Project, plan: SurfacePlan, roof: Roof, knees: Mapping[str, str], inward: float) -> None:
    """Raise EditError where a knee wall stands higher than the slopes opposite reach there."""
    core, n = plan.outline.core, len(plan.outline.core)
    rows = []
    for k, wall in enumerate(plan.outline.walls):
        side = side_of(roof, knees.get(wall, wall))
        if side.kind == "eave":
            way = unit(core[k], core[(k + 1) % n])
            rise = roof.pitch if side.pitch is None else side.pitch
            rows.append((wall, side.raised, rise, core[k], left(way), inward if wall in knees else 0.0))
    for wall, high, own, at, aside, _ in rows:
        if wall not in knees:
            continue
        mine = add(at, aside, inward)
        over = [
            low + rise * (dot(other, sub(mine, corner)) - back) - (own + rise) * LEAST
            for w, low, rise, corner, other, back in rows
            if w != wall and dot(other, aside) < 0.0
        ]
        if over and min(over) < high:
            raise EditError(
                "the slopes opposite do not reach as high as the break there.",
                roof.name,
                "Break it nearer to its wall or less steep below, or break both at once.",
            )


def meet_slopes(project: Project, roof_id: str, knee: str, by: float) -> Project:
    """Raise a knee wall and the eave on it by so much, mm, so that the planes above and below it meet; raises EditError."""
    roof: Roof = there(project.roofs, roof_id)
    side, wall = side_of(roof, knee), there(project.walls, knee)
    others = tuple(x for x in roof.sides if x.wall != knee)
    made = _settled(replace(roof, sides=(*others, replace(side, raised=side.raised + by))))
    project = edits.change(project, roof_id, sides=made.sides, bearing=made.bearing)
    return edits.change(project, knee, head=replace(wall.head, offset=wall.head.offset + by))


def between_gables(plan: SurfacePlan, walls: Sequence[str]) -> bool:
    """Whether the planes over walls run from their eaves to gables, or to one another."""
    n, among = len(plan.edges), {plan.outline.walls.index(wall) for wall in walls}
    beside = [plan.edges[(k + by) % n].kind for k in among for by in (-1, 1) if (k + by) % n not in among]
    return bool(beside) and {*beside} == {"gable"} and all(plan.edges[k].kind == "eave" for k in among)


def _breakable(project: Project, roof: Roof, plan: SurfacePlan, wall: str) -> int:
    """Return the number of a wall's edge; raises EditError where its plane cannot be broken."""
    if plan.problem or plan.outline.walls.count(wall) != 1:
        raise EditError(
            "the plane over this wall cannot be broken.",
            roof.name,
            "It needs one edge over it, and a roof that closes.",
        )
    if roof.framed == "trusses":
        raise EditError("slopes of trusses are not broken.", roof.name, "Frame it with rafters first.")
    if plan.edges[plan.outline.walls.index(wall)].kind != "eave":
        raise EditError("a slope is broken over an eave.", roof.name, "Choose an edge that is one.")
    within = [(x.roof, x.wall) for x in project.dormers] + [(x.roof, x.wall) for x in project.roof_openings]
    if (roof.id, wall) in within:
        raise EditError(
            "dormers and openings lie in this plane.", roof.name, "Take them out, break the slope, and set them again."
        )
    return plan.outline.walls.index(wall)


def _knees(plan: SurfacePlan, lines: Mapping[str, WallLine], row: Sequence[int], inward: float) -> list[Point]:
    """Return the corners of the outer faces of knee walls' cores, from gable to gable; raises EditError where there is no room for them."""
    core, n = plan.outline.core, len(plan.outline.core)

    def inside(k: int) -> tuple[Point, Point]:
        way = unit(core[k], core[(k + 1) % n])
        return add(core[k], left(way), inward), way

    found = [_at_gable(plan, lines, inside(row[0]), row[0] - 1, core[row[0]], core[row[0] - 1], inward)]
    for j, k in pairwise(row):
        # Eaves in line have their knee walls in line.
        found.append(meet(*inside(j), *inside(k)) or inside(k)[0])
    last, far = (row[-1] + 1) % n, core[(row[-1] + 2) % n]
    found.append(_at_gable(plan, lines, inside(row[-1]), last, core[last], far, inward))
    for k, (start, end) in zip(row, pairwise(found), strict=True):
        if dot(sub(end, start), inside(k)[1]) < LEAST:
            raise EditError(
                "the break leaves no room for the slope above it.", plan.roof.name, "Break it nearer to its walls."
            )
    return found


def _at_gable(
    plan: SurfacePlan,
    lines: Mapping[str, WallLine],
    knee: tuple[Point, Point],
    edge: int,
    corner: Point,
    far: Point,
    inward: float,
) -> Point:
    """Return where the line of a knee wall meets the gable wall that runs from a corner to the next."""
    line = lines.get(plan.outline.walls[edge])
    met = meet(*knee, line.band.start, line.band.direction) if line is not None else None
    room = distance(corner, far) * abs(cross(knee[1], unit(corner, far)))
    if met is None or not LEAST <= inward <= room - LEAST:
        raise EditError(
            "the break must lie between the eave and the far end of the gables beside it.",
            plan.roof.name,
            "Type how far in of the wall.",
        )
    return met


def _deck(project: Project, bearing: Hang) -> Hang:
    """Return on what a knee wall stands: the deck of a floor that lies on the plates, else what the roof bears on."""
    low = height(bearing, project.levels)
    decks = [(height(Hang(level=floor.level), project.levels), floor.level) for floor in project.floors]
    on = [(z, level) for z, level in decks if low - 1.0 <= z <= low + HIGHEST_DECK]
    return Hang(level=min(on)[1]) if on else bearing


def _over(roof: Roof) -> float:
    """Return how high the tops of its rafters lie over its bearing line, mm."""
    return rafter_shape(roof, 1000.0, roof.pitch).top(0.0)


def _of_studs(project: Project) -> tuple[Project, str]:
    """Return a project with a build-up of a knee wall, and its id: the first of studs without cladding, lined on the room's side alone, since
    rafters end at its core; raises EditError where there is none of studs.
    """
    for one in project.buildups:
        if stud_size(one) is not None and all(layer.function not in ("cladding", "sheathing") for layer in one.layers):
            first = next(k for k, layer in enumerate(one.layers) if layer.function == "core")
            alike = next((x.id for x in project.buildups if x.layers == one.layers[first:]), "")
            if alike:
                return project, alike
            made = BuildUp(id=next_id(project, BuildUp), layers=one.layers[first:])
            return edits.add(project, made), made.id
    raise EditError(
        "no build-up of studs without cladding is there for a knee wall.", do="Add one such as 2x6 studs, lined."
    )


def _settled(roof: Roof) -> Roof:
    """Return a roof that bears on the lowest of its eaves."""
    sides = [side_of(roof, w) for w in roof.walls]
    low = min((side.raised for side in sides if side.kind == "eave"), default=0.0)
    if low == 0.0:
        return roof
    over = (replace(x, raised=round(x.raised - low, 3)) if x.kind == "eave" else x for x in sides)
    bearing: Hang = replace(roof.bearing, offset=roof.bearing.offset + low)
    return replace(roof, sides=tuple(x for x in over if x != RoofSide(wall=x.wall)), bearing=bearing)
