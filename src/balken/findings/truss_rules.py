"""Trusses that cannot be, are too weak, are cut by openings, or carry a store."""

from collections.abc import Iterable

from balken.derived.finding import Finding, Fix
from balken.derived.model import Model
from balken.design.roof_trusses import TrussRoof
from balken.framing.roof_openings import RoofHole
from balken.framing.surface_roofs import SurfacePlan
from balken.geometry.plane import add, unit
from balken.standards.checks import used_text
from balken.units.system import INCH, PSF

STORE = 20.0 * PSF
"""On attics where things can be stored (IRC Table R301.5)."""


def trusses(c: Model) -> Iterable[Finding]:
    """What is wrong with trusses."""
    for plan in c.surfaces:
        made, at = c.trusses.get(plan.roof.id), (*plan.outline.core[0], plan.bearing)
        if made is None:
            continue
        roof = plan.roof
        if made.problem:
            yield Finding(
                "no trusses",
                "roof",
                f"{roof.name} cannot have trusses: rafters stand in their place",
                f"{made.problem[0].upper()}{made.problem[1:]}.",
                (roof.id,),
                at,
                grave=False,
                fix=Fix("Frame it with rafters", "change", (roof.id,), (("framed", "rafters"),)),
            )
            continue
        yield from _weak(c, plan, made)
        yield from _cut(plan, made)
        if made.stores and c.project.loads.attic_live < STORE - 1e-6:
            yield Finding(
                "attic store",
                "roof",
                f"{roof.name}: a box 42 in high and 24 in wide fits between its webs",
                "Where things can be stored so, 20 psf lie on the bottom chords (IRC Table R301.5, note b); less is typed for attics.",
                (roof.id,),
                at,
                fix=Fix("Lay 20 psf on attics", "set_loads", (), (("attic_live", STORE),)),
            )


def _weak(c: Model, plan: SurfacePlan, made: TrussRoof) -> Iterable[Finding]:
    """Makes of trusses used by more than all they have."""
    roof, at = plan.roof, (*plan.outline.core[0], plan.bearing)
    for name, one, plates in made.designs:
        if one.used > 1.0:
            stick, row = max(one.sticks.items(), key=lambda item: item[1][0])
            check = max((*one.bearing, one.sag), key=lambda found: found.used)
            said = f"{one.frame.stick(stick).role} {one.frame.sizes.of(one.frame.stick(stick).role)}: {row[1]} ({row[2]}, {row[3]})"
            if check.used > row[0]:
                said = f"{check.name} ({check.clause}, {check.combination})"
            yield Finding(
                "used",
                "roof",
                f"{roof.name}: {name.lower()} used {used_text(one.used)}",
                f"{said[0].upper()}{said[1:]}. Set them closer, take more plies, a better grade, deeper sections or other webs.",
                (roof.id,),
                at,
            )
        over = [plate for plate in plates if plate.used > 1.0]
        if over:
            yield Finding(
                "plates",
                "roof",
                f"{roof.name}: no plate of the list holds {len(over)} joint{'s' if len(over) > 1 else ''} of its {name.lower()}",
                f"{over[0].governs[0].upper()}{over[0].governs[1:]}. Take deeper chords, more plies, a closer spacing or other webs.",
                (roof.id,),
                at,
            )


def _cut(plan: SurfacePlan, made: TrussRoof) -> Iterable[Finding]:
    """Openings that trusses run through."""
    if made.row is None:
        return
    thick = 1.5 * INCH * plan.roof.trusses.plies
    for hole in plan.holes:
        if hole.problem:
            continue
        low, high = _along(plan, made, hole)
        through = [p for p in made.row.places if low - thick / 2.0 < p.t < high + thick / 2.0]
        if through:
            count = f"{len(through)} trusses run" if len(through) > 1 else "a truss runs"
            yield Finding(
                "truss cut",
                "roof",
                f"{plan.roof.name}: {count} through an opening",
                "Trusses are not cut. Move the opening between two of them, make it narrower, or set them farther apart.",
                (plan.roof.id, hole.opening),
                (*made.row.at(made.row.wide / 2.0, through[0]), plan.bearing),
            )


def _along(plan: SurfacePlan, made: TrussRoof, hole: RoofHole) -> tuple[float, float]:
    """Return between which places along the eaves an opening lies."""
    assert made.row is not None
    core = plan.outline.core
    a, b = core[hole.edge], core[(hole.edge + 1) % len(core)]
    ends = sorted(made.row.frame.to(add(a, unit(a, b), s))[1] for s in hole.along)
    return ends[0], ends[1]


TRUSS_RULES = (trusses,)
