"""Ceilings under hip ends with rafters beside trusses: where hips leave no room for joists."""

from collections.abc import Iterable

from balken.derived.finding import Finding
from balken.derived.model import Model
from balken.framing.surface_roofs import SurfacePlan, TrussAt
from balken.geometry.plane import distance, dot, sub, unit
from balken.model.lookup import wall_label
from balken.model.naming import place_in
from balken.units import say_length

BEYOND = 50.0
"""Strips wider by this than joists are apart are told, mm."""


def bare_ceilings(c: Model) -> Iterable[Finding]:
    """Strips of ceiling beside walls, and whole ones, without joists."""
    for plan in c.surfaces:
        design = c.designs.get((plan.roof.id, "rafters"))
        for at in plan.ends_at if design is not None else ():
            assert design is not None
            wide, whole = _widest(c, plan, at)
            if not whole and wide <= design.spacing + 2.0 * max(plan.deep) + BEYOND:
                continue
            wall = plan.outline.walls[at.edge]
            what = (
                "no joists lie" if whole else f"no joists lie in a strip {say_length(wide, c.units)} wide beside a wall"
            )
            yield Finding(
                "ceiling of hip end",
                "roof",
                f"{plan.roof.name}, {wall_label(c.project, wall)}: under its hip end {what}",
                "Hips lie too low there. "
                + (
                    "What weighs on that ceiling is laid on the walls about it, none of it on the truss: hang it on joists of your own, and "
                    "hang what they bring to the truss on it as a weight."
                    if whole
                    else "What weighs on it is laid on the next joists: hang it on short ones from the wall to these."
                ),
                (plan.roof.id, wall),
                (*plan.outline.core[at.edge], plan.bearing),
                grave=whole,
            )


def _widest(c: Model, plan: SurfacePlan, at: TrussAt) -> tuple[float, bool]:
    """Return how wide the widest strip beside a side wall is that has no joists, mm; whether there are none at all."""
    core, wall = plan.outline.core, plan.outline.walls[at.edge]
    corner, other = core[at.edge], core[(at.edge + 1) % len(core)]
    way, long = unit(corner, other), distance(corner, other)
    joists = c.of_layouts("ceiling joist", owner=plan.roof.id)
    mine = [one for one in joists if (place := place_in(one.key)) is not None and place.datum == wall]
    along = sorted(dot(way, sub(one.start[:2], corner)) for one in mine)
    return (max(along[0], long - along[-1]), False) if along else (long, True)


RAFTERED_END_RULES = (bare_ceilings,)
