"""Slopes with two pitches: the lower part of a plane becomes a roof of its own, against a knee wall that bears the upper part.

As such roofs are framed: the knee wall stands on the floor in the roof, its studs carry the feet of the upper rafters and the heads of the
lower ones, whose tops meet over its outer face.  Everything stays a wall and a roof, to be moved and typed by itself.
"""

from collections.abc import Mapping, Sequence

from msgspec.structs import replace

from balken.framing.bands import WallLine
from balken.framing.surface_roofs import SurfacePlan, rafter_shape
from balken.geometry.plane import Point, add, cross, distance, dot, left, meet, sub, unit
from balken.model import edits
from balken.model.buildups import stud_size
from balken.model.errors import EditError
from balken.model.kinds.buildup import BuildUp
from balken.model.lookup import height, label_of, next_id, there
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

    ``size``: of the rafters, alike above and below so that their tops meet; ``lines``: of walls.  Raises EditError.
    """
    for wall in walls:
        project = _broken(project, plan, lines, size, wall, inward, pitch)
    roof: Roof = there(project.roofs, plan.roof.id)
    knees = [wall.id for wall in project.walls[-len(walls) :]]
    _check_reach(project, plan, roof, dict(zip(walls, knees, strict=True)), inward)
    made = _settled(roof)
    return edits.change(project, roof.id, sides=made.sides, bearing=made.bearing)


def _broken(
    project: Project,
    plan: SurfacePlan,
    lines: Mapping[str, WallLine],
    size: str,
    wall: str,
    inward: float,
    pitch: float,
) -> Project:
    roof: Roof = there(project.roofs, plan.roof.id)
    k, n = _breakable(project, roof, plan, wall), len(plan.outline.walls)
    start, end = _knee(plan, lines, k, inward)
    side, beside = side_of(roof, wall), [plan.outline.walls[(k + by) % n] for by in (-1, 1)]
    bearing = replace(roof.bearing, offset=roof.bearing.offset + side.raised)
    upper = replace(roof, rafters=replace(roof.rafters, made_of="sawn", size=size))
    lower = replace(
        upper, id=next_id(project, Roof), name=f"Lower slope over {label_of(project, wall)}", pitch=pitch, bearing=bearing,
        overhang=roof.overhang if side.overhang is None else side.overhang, purlins_at=0.0, tie_raise=0.0, ridge=None,
        ridge_size=None,
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
    project = edits.add_wall(project, start, end, buildup, foot, head, "core outside", "right", "bearing")
    knee = project.walls[-1].id
    gables = tuple(replace(side_of(roof, w), wall=w) for w in beside)
    sides = (*gables, RoofSide(wall=knee, kind="wall"))
    project = edits.add(project, replace(lower, walls=(wall, beside[1], knee, beside[0]), sides=sides))
    others = tuple(x for x in roof.sides if x.wall != wall)
    raised = RoofSide(wall=knee, pitch=side.pitch, overhang=0.0, raised=side.raised + high, boards=False)
    walls = tuple(knee if w == wall else w for w in roof.walls)
    return edits.change(project, roof.id, walls=walls, sides=(*others, raised), rafters=upper.rafters)


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


def between_gables(plan: SurfacePlan, wall: str) -> bool:
    """Whether the plane over a wall runs from its eave to two gables."""
    k, n = plan.outline.walls.index(wall), len(plan.edges)
    return plan.edges[k].kind == "eave" and all(plan.edges[(k + by) % n].kind == "gable" for by in (-1, 1))


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
    if not between_gables(plan, wall):
        raise EditError(
            "a slope is broken over an eave between two gables.",
            roof.name,
            "Make the edges beside it gables; breaks at hips are not made.",
        )
    within = [(x.roof, x.wall) for x in project.dormers] + [(x.roof, x.wall) for x in project.roof_openings]
    if (roof.id, wall) in within:
        raise EditError(
            "dormers and openings lie in this plane.", roof.name, "Take them out, break the slope, and set them again."
        )
    return plan.outline.walls.index(wall)


def _knee(plan: SurfacePlan, lines: Mapping[str, WallLine], k: int, inward: float) -> tuple[Point, Point]:
    """Return the outer face of a knee wall's core, from gable to gable; raises EditError where there is no room for it."""
    core, n = plan.outline.core, len(plan.outline.core)
    a, b = core[k], core[(k + 1) % n]
    way = unit(a, b)
    ends = []
    for edge, corner, far in (((k - 1) % n, a, core[k - 1]), ((k + 1) % n, b, core[(k + 2) % n])):
        line = lines.get(plan.outline.walls[edge])
        met = meet(add(a, left(way), inward), way, line.band.start, line.band.direction) if line is not None else None
        room = distance(corner, far) * abs(cross(way, unit(corner, far)))
        if met is None or not LEAST <= inward <= room - LEAST:
            raise EditError(
                "the break must lie between the eave and the far end of the gables beside it.",
                plan.roof.name,
                "Type how far in of the wall.",
            )
        ends.append(met)
    return ends[0], ends[1]


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
