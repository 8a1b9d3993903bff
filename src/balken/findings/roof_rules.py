"""Roofs of planes: those that cannot be made, what of them is not designed, gables that leave a gap, heads too low or high."""

from collections.abc import Iterable

from balken.derived.finding import Finding, Fix
from balken.derived.model import Model
from balken.findings.names import all_of
from balken.framing.surface_roofs import surface_gables
from balken.model.lookup import wall_label
from balken.units import format_length


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
            f"{roof.name}: its rafters, hips and valleys are not designed",
            "Its planes are laid, and their loads go down to the walls under its eaves as if rafters stood in pairs with ties; the "
            "members that carry them, what holds hips at their upper ends, and thrust without ties are for someone else to design.",
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
