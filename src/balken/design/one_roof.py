"""Joins framed through: a roof that runs on over another becomes one with it, so that their planes meet in valley rafters with jacks on
both sides, where before its valleys lay on the lower roof's deck.
"""

from msgspec.structs import replace

from balken.framing.bands import wall_lines
from balken.framing.outlines import OutlineError, outline
from balken.framing.surface_roofs import surface_plan
from balken.model.edits import remove
from balken.model.errors import EditError
from balken.model.kinds.roof import Roof, RoofSide
from balken.model.lookup import height, there
from balken.model.records import Project
from balken.model.roof_edits import side_of
from balken.model.rules import check

SAME = 1.0
"""Roofs whose bearings are no farther apart than this bear alike, mm."""


def frame_through(project: Project, upper_id: str, lower_id: str) -> Project:
    """Make one roof of one that runs on over another and that one: over the walls of both, each side with its pitch and overhang as before;
    what stands on the upper one stands on it, too.

    Raises EditError where both together are no roof.
    """
    upper: Roof = there(project.roofs, upper_id)
    lower: Roof = there(project.roofs, lower_id)
    kinds = {side_of(upper, wall).kind for wall in upper.walls}
    if "roof" not in kinds or "planes" not in (upper.shape, lower.shape):
        raise EditError("it does not run on over another roof.", upper.name)
    made = _of_both(project, upper, lower)
    lines = wall_lines(project.walls, project.buildups, project.grids, project.levels)
    if not set(made.walls) <= set(lines):
        raise EditError(
            "sides of it lie on beams.", upper.name, "Roofs over walls alone are made one; leave its valleys laid over."
        )
    try:
        around = outline(made.walls, lines, inner=True)
    except OutlineError as error:
        raise EditError(f"{error}.", f"{upper.name} with {lower.name}", "Leave its valleys laid over.") from None
    if set(around.walls) != set(made.walls):
        raise EditError("the walls of both do not close one outline.", f"{upper.name} with {lower.name}")
    plan = surface_plan(made, around, height(made.bearing, project.levels), lines)
    if plan.problem:
        raise EditError(f"{plan.problem}.", f"{upper.name} with {lower.name}", "Leave its valleys laid over.")

    on, whose = {"roof": lower.id}, {"owner": lower.id}
    project = replace(
        project,
        roofs=tuple(made if roof.id == lower.id else roof for roof in project.roofs),
        roof_openings=tuple(replace(x, **on) if x.roof == upper.id else x for x in project.roof_openings),
        dormers=tuple(replace(x, **on) if x.roof == upper.id else x for x in project.dormers),
        truss_loads=tuple(replace(x, **on) if x.roof == upper.id else x for x in project.truss_loads),
        member_edits=tuple(replace(x, **whose) if x.owner == upper.id else x for x in project.member_edits),
    )
    return check(remove(project, upper.id))


def _of_both(project: Project, upper: Roof, lower: Roof) -> Roof:
    """Return the roof over the walls of both, that bears on the lower of their bearings."""
    higher = height(upper.bearing, project.levels) - height(lower.bearing, project.levels)
    higher = 0.0 if abs(higher) < SAME else higher
    low = upper.bearing if higher < 0.0 else lower.bearing
    mine = [w for w in upper.walls if side_of(upper, w).kind != "roof" and w not in lower.walls]
    sides = [_said(upper, lower, w, max(higher, 0.0)) for w in mine]
    sides += [_said(lower, lower, w, max(-higher, 0.0)) for w in lower.walls]
    kept = tuple(side for side in sides if side != RoofSide(wall=side.wall))
    return replace(lower, walls=(*lower.walls, *mine), sides=kept, bearing=low)


def _said(roof: Roof, whole: Roof, wall: str, higher: float) -> RoofSide:
    """Return what a roof does over a wall as a side of a ``whole`` one that bears so much lower: what that says otherwise is said of it."""
    side = side_of(roof, wall)
    pitch = side.pitch if side.pitch is not None or roof.pitch == whole.pitch else roof.pitch
    over = side.overhang if side.overhang is not None or roof.overhang == whole.overhang else roof.overhang
    raised = round(side.raised + higher, 3) if side.kind == "eave" else 0.0
    return replace(side, pitch=pitch, overhang=over, raised=raised)
