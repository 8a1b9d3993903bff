"""Rules that look for foundation walls which earth would break, push over or push away."""

import math
from collections.abc import Iterable

from msgspec.structs import replace

from balken.catalog.blocks import BLOCKS
from balken.derived.finding import Finding, Fix
from balken.derived.model import Model
from balken.framing.foundations import FoundationRun
from balken.model.lookup import wall_label
from balken.model.naming import wall_of
from balken.model.records import Foundation
from balken.standards.checks import Check, used_text
from balken.standards.ground import EarthWall
from balken.standards.measures import quantity_text
from balken.units import Units, say_inches, say_length
from balken.units.system import INCH

BOLTS, BASE = "anchor bolts, push into the floor", "sliding at the base"


def earth_pressure(c: Model) -> Iterable[Finding]:
    """Foundation walls that earth and water would break or push over (ACI 318-19 chapters 11, 14, TMS 402-16)."""
    bolted: set[str] = set()
    for run in c.runs:
        wall = c.earth_walls.get(run.id)
        if wall is None:
            continue
        if wall.waiting:
            yield _not_held(c, run, wall)
            continue
        strength = [k for k in wall.checks if k.used > 1.0001 and k.name not in (BOLTS, BASE)]
        if strength:
            yield _earth(c, run, wall, strength[0])
        base = next((k for k in wall.checks if k.name == BASE and k.used > 1.0001), None)
        if base is not None:
            yield _base_slides(c, run, wall, base)
        bolts = next((k for k in wall.checks if k.name == BOLTS and k.used > 1.0001), None)
        if bolts is not None and run.foundation.id not in bolted:
            bolted.add(run.foundation.id)
            yield _bolts(c, run, bolts)


def _not_held(c: Model, run: FoundationRun, wall: EarthWall) -> Finding:
    f = run.foundation
    return Finding(
        "not held",
        "foundations",
        f"{f.name}: the wall under {wall_label(c.project, run.wall)} is not held at its top yet",
        f"{say_length(wall.case.fill, c.units)} of earth stand against it and nothing holds its head. Lay the floor "
        "that holds it; until then wall and footing are not checked as they will stand.",
        (f.id, wall_of(run.id)),
        (*run.band.at(run.length / 2.0, 0.0), run.band.top),
    )


def _bolts(c: Model, run: FoundationRun, check: Check) -> Finding:
    f = run.foundation
    pushed = max(w.forces.top for r in c.runs if r.foundation.id == f.id and (w := c.earth_walls.get(r.id)) is not None)
    spacing = c.standard.bolt_spacing(pushed, f.bolt_spacing)
    enough = c.standard.check_bolts(pushed, spacing).used <= 1.0 and spacing >= LEAST_BOLT_SPACING
    return Finding(
        "anchor bolts",
        "foundations",
        f"{f.name}: anchor bolts used {used_text(check.used)}",
        f"Earth pushes the head of the wall under {wall_label(c.project, run.wall)} into the floor with "
        f"{quantity_text(check.demand, check.quantity, c.units)}; 1/2 in bolts at {say_inches(f.bolt_spacing, c.units)} "
        f"hold {quantity_text(check.capacity, check.quantity, c.units)} ({check.clause}).",
        (f.id,),
        (*run.band.at(run.length / 2.0, 0.0), run.band.top),
        fix=Fix(f"Space them at {say_inches(spacing, c.units)}", "change", (f.id,), (("bolt_spacing", spacing),))
        if enough
        else None,
    )


LEAST_BOLT_SPACING = 6.0 * INCH
"""As the rule of foundations has it, mm."""


def _base_slides(c: Model, run: FoundationRun, wall: EarthWall, check: Check) -> Finding:
    f = run.foundation
    values = [quantity_text(v, check.quantity, c.units) for v in (check.demand, check.capacity)]
    fillable = f.kind == "wall on footing" and (f.inside_ground is None or f.inside_ground > FILLED + 1.0)
    return Finding(
        "base slides",
        "foundations",
        f"{f.name}: nothing holds the base of the wall under {wall_label(c.project, run.wall)}",
        f"{say_length(wall.case.fill, c.units)} more earth outside than inside push it inward; 1.5 times that is "
        f"{values[0]}, friction under its footing holds {values[1]} ({check.clause}). Lay a slab inside, or fill the crawl "
        "space.",
        (f.id, wall_of(run.id)),
        (*run.band.at(run.length / 2.0, 0.0), run.band.bottom),
        fix=Fix(
            f"Fill inside to {say_inches(FILLED, c.units)} below the ground outside",
            "change",
            (f.id,),
            (("inside_ground", FILLED),),
        )
        if fillable
        else None,
    )


FILLED = 12.0 * INCH
"""How far below the ground outside a crawl space is filled by the fix, mm (common practice, no source)."""


def _earth(c: Model, run: FoundationRun, wall: EarthWall, check: Check) -> Finding:
    f = run.foundation
    thicker = None if f.upper_height or check.name == "dowels into the footing" else _thicker(c, f)
    return Finding(
        "earth",
        "foundations",
        f"{f.name}: wall under {wall_label(c.project, run.wall)} used {used_text(check.used)}",
        f"{check.name[0].upper()}{check.name[1:]} governs ({check.clause}) with "
        f"{say_length(wall.case.fill, c.units)} of earth against it"
        + ("" if wall.case.held else ", free at the top")
        + ".",
        (f.id, wall_of(run.id)),
        (*run.band.at(run.length / 2.0, 0.0), run.band.bottom),
        fix=Fix(f"Make the wall {say_inches(thicker, c.units)} thick", "change", (f.id,), (("thickness", thicker),))
        if thicker is not None
        else None,
    )


THICKEST_WALL = 24.0 * INCH


def _thicker(c: Model, f: Foundation) -> float | None:
    """Return the least thickness at which all walls of a foundation hold their earth; None when none does."""
    step = 2.0 * INCH if c.project.steps is Units.IMPERIAL else 50.0
    if f.made_of == "concrete":
        tried = [f.thickness + k * step for k in range(1, math.floor((THICKEST_WALL - f.thickness) / step + 1e-6) + 1)]
    else:
        tried = [b.thickness for b in BLOCKS[c.project.steps] if b.thickness > f.thickness + 1.0]
    walls = [w for r in c.runs if r.foundation.id == f.id and (w := c.earth_walls.get(r.id)) is not None]
    for thickness in tried:
        made = [
            c.standard.design_earth_wall(
                w.id, replace(w.case, thickness=round(w.case.thickness + thickness - f.thickness, 3)), c.project.soil,
                c.project.concrete, c.project.masonry, w.waiting,
            )
            for w in walls
        ]  # fmt: skip
        if all(k.used <= 1.0 for w in made for k in w.checks if k.name not in (BOLTS, BASE)):
            return thickness
    return None
