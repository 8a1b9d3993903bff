"""Dormers that cannot stand where they are, that stand in one another, whose windows find no room."""

import itertools
from collections.abc import Iterable

import shapely

from balken.derived.finding import Finding
from balken.derived.model import Model
from balken.framing.dormers import in_plan
from balken.standards.checks import used_text

TOUCHING = 1e4
"""Roofs of dormers that lie over one another by less do not, mm2."""


def dormers(c: Model) -> Iterable[Finding]:
    """Dormers that cannot stand where they are, windows that find no room, headers over them that are too weak."""
    roofs = {plan.roof.id: plan for plan in c.surfaces}
    rings = {name: roofs[name].ring for name, made in c.dormers.items() if name in roofs and made.framing is not None}
    for one, other in itertools.combinations(rings, 2):
        if shapely.Polygon(rings[one]).intersection(shapely.Polygon(rings[other])).area > TOUCHING:
            names = [roofs[name].roof.name for name in (one, other)]
            yield Finding(
                "dormer",
                "roof",
                f"{names[0]} and {names[1]} stand in one another",
                "Their roofs lie over one another. Move them apart, or make them narrower.",
                (one, other),
                (*rings[one][0], roofs[one].bearing),
            )
    for dormer in c.project.dormers:
        made, host = c.dormers.get(dormer.id), roofs.get(dormer.roof)
        why = made.problem if made is not None else "the roof it stands on is none of planes"
        at = (*host.outline.core[0], host.bearing) if host is not None else (0.0, 0.0, 0.0)
        if made is not None and made.place.outline is not None:
            at = (*made.place.outline.core[0], made.place.bearing)
        if why:
            stands = made is not None and made.framing is not None
            yield Finding(
                "dormer",
                "roof",
                f"{dormer.name} {'is not as asked' if stands else 'cannot be made'}",
                f"{why[0].upper()}{why[1:]}.",
                (dormer.id, dormer.roof),
                at,
            )
        if made is not None and made.result is not None and made.result.used > 1.0:
            yield Finding(
                "used",
                "roof",
                f"{dormer.name}: header {made.header} over its window used {used_text(made.result.used)}",
                f"{made.result.governs.name[0].upper()}{made.result.governs.name[1:]} governs ({made.result.governs.clause}). Make the "
                "window narrower.",
                (dormer.id,),
                at,
            )


def covered_openings(c: Model) -> Iterable[Finding]:
    """Windows, chimneys and shafts in a roof that lie under a dormer or under another roof."""
    kinds = {opening.id: opening.kind for opening in c.project.roof_openings}
    for plan in c.surfaces:
        over = shapely.union_all([shapely.Polygon(ring) for ring in plan.covered])
        for hole in plan.holes if plan.covered else ():
            if hole.opening not in kinds:
                continue
            (s0, s1), (t0, t1) = hole.along, hole.inward
            corners = [in_plan(plan, hole.edge, s, t) for s, t in ((s0, t0), (s1, t0), (s1, t1), (s0, t1))]
            if shapely.Polygon(corners).intersection(over).area > TOUCHING:
                yield Finding(
                    "roof opening",
                    "roof",
                    f"{plan.roof.name}: a {kinds[hole.opening]} lies under another roof or a dormer",
                    "What lies over it closes it. Move it out from below.",
                    (hole.opening, plan.roof.id),
                    (*corners[0], plan.bearing),
                )


DORMER_RULES = (dormers, covered_openings)
