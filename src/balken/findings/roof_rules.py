"""Roofs of planes: those that cannot be made, what of them is not designed, gables that leave a gap, heads too low or high."""

from collections.abc import Iterable

from balken.derived.finding import Finding, Fix
from balken.derived.model import Model
from balken.findings.names import all_of
from balken.framing.surface_roofs import surface_gables
from balken.model.lookup import by_id, wall_label
from balken.standards.checks import used_text
from balken.units import format_force, format_length


def surfaces(c: Model) -> Iterable[Finding]:
    """What is wrong with, or missing of, roofs of planes."""
    for plan in c.surfaces:
        roof, at = plan.roof, (*plan.outline.core[0], plan.bearing)
        if plan.problem:
            yield Finding(
                "roof",
                "roof",
                f"{roof.name} cannot be made",
                f"{plan.problem[0].upper()}{plan.problem[1:]}. Make one of its edges an eave, or change a pitch or an overhang.",
                (roof.id,),
                at,
            )
            continue
        yield Finding(
            "not designed",
            "roof",
            f"{roof.name}: what holds its hips and valleys, and its ties, are not designed",
            f"Rafters, hips and valleys are{_pulls(c, roof.id)}. All loads are carried to the walls under the eaves, as pairs with ties "
            "do; posts or struts under the upper ends of hips and valleys, what stands under their lower ends in the walls, ceiling ties "
            "and their nails are for someone else to design.",
            (roof.id,),
            at,
        )
        _, open_ones = surface_gables(plan, c.lines)
        if open_ones:
            yield Finding(
                "gable",
                "roof",
                f"{roof.name}: a gap stays open over {all_of([wall_label(c.project, w) for w in open_ones])}",
                "Walls are run up under gables of one pitch with their peak in the middle; these have another shape.",
                (roof.id, *open_ones),
                at,
            )
    yield from _heads(c)
    yield from _weak_lines(c)


def _pulls(c: Model, roof: str) -> str:
    """Return in words what must be held that is not designed."""
    framing = c.planes.get(roof)
    if framing is None:
        return " not chosen"
    head = max((line.head for line in framing.lines), default=0.0)
    foot = max((line.foot for line in framing.lines), default=0.0)
    held = ""
    if head > 0.0:
        up, down = format_force(head, c.units), format_force(foot, c.units)
        held = f"; up to {up} come to the upper end of one, up to {down} to a lower one"
    return f" checked{held}, and each pair leans on its ties with {format_force(framing.thrust, c.units)} at most"


def _weak_lines(c: Model) -> Iterable[Finding]:
    """Hips and valleys for which nothing tried is strong enough; changes by hand that such roofs do not take."""
    for roof, framing in c.planes.items():
        for line in framing.lines:
            if line.result.used > 1.0:
                check = line.result.governs
                yield Finding(
                    "used",
                    "roof",
                    f"{c.marks.get(line.key, '')}, {line.size}: used {used_text(line.result.used)}",
                    f"{check.name[0].upper()}{check.name[1:]} governs ({check.clause}). Hold it in between by a post, or lower the "
                    "spans by a wall or beam under it.",
                    (line.key, roof),
                    c.place(line.key),
                )
        edits = [edit for edit in c.project.member_edits if edit.owner == roof]
        if edits:
            yield Finding(
                "hand edit",
                "roof",
                f"{len(edits)} changes by hand wait for {by_id(c.project.roofs)[roof].name} to be a gable again",
                "Members of a roof of planes are not changed one by one yet; the changes are kept.",
                (roof,),
                (0.0, 0.0, 0.0),
                grave=False,
            )


def _heads(c: Model) -> Iterable[Finding]:
    for plan in c.surfaces:
        for wall, edge in zip(plan.outline.walls, plan.edges, strict=True):
            line = c.lines.get(wall)
            if line is None or edge.kind != "eave" or abs(line.band.top - plan.bearing) <= 1.0 or plan.problem:
                continue
            yield Finding(
                "roof bearing",
                "roof",
                f"{wall_label(c.project, wall)}: the roof does not sit on its head",
                f"Its head is at {format_length(line.band.top, c.units)}, the roof bears at "
                f"{format_length(plan.bearing, c.units)}.",
                (wall, plan.roof.id),
                (*line.band.at(line.band.length / 2.0, 0.0), line.band.top),
                fix=Fix(
                    "Bring the head to the bearing",
                    "set_wall_head",
                    (wall, plan.roof.bearing.level, plan.roof.bearing.offset),
                ),
            )


ROOF_RULES = (surfaces,)
