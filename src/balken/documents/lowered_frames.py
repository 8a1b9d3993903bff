"""Frames of trusses set lower for lookouts, in words: for their shop drawings, the roof's card and the calculation."""

import math

from balken.derived.model import Model
from balken.design.frame_lookouts import LaidSlope, LoweredFrame, tail_under_wind
from balken.design.lookouts import Lookouts
from balken.design.roof_trusses import TrussMake
from balken.framing.surface_roofs import SurfacePlan
from balken.units import Units, format_inches, format_length


def lowered_notes(model: Model, roof: str, make: TrussMake) -> list[str]:
    """Return what is to be known of a make of frames that are set lower; of others nothing."""
    low = next((one for one in model.trusses[roof].low if one.number in make.numbers), None)
    if low is None:
        return []
    plan = next(plan for plan in model.surfaces if plan.roof.id == roof)
    return [
        _lower(low, model.units),
        *dict.fromkeys(text for one in low.rows for text in _slope(plan, one, model.units)),
    ]


def _lower(low: LoweredFrame, units: Units) -> str:
    made = low.rows[0].made
    return (
        f"Set {format_inches(made.row.depth, units)} lower, square to the slope: lookouts {made.row.size} on edge @ {format_inches(made.apart, units)} lie "
        "on its top chord from the truss inside to the fly rafter, and boards as deep fill up to the deck between them"
    )


def _slope(plan: SurfacePlan, one: LaidSlope, units: Units) -> list[str]:
    row = one.made.row
    steep = math.hypot(1.0, plan.edges[row.edge].pitch)
    sides = ", ".join(format_length(t * steep, units) for t in row.places)
    said = [f"Lower sides of lookouts up the slope from over the wall's outer face: {sides}"]
    if one.begin > 0.0:
        said.append(
            f"It begins {format_length(one.begin, units)} inside of that face: a wedge on the plates fills up to the tail there"
        )
    return said


def tail_text(model: Model, plan: SurfacePlan, made: Lookouts) -> list[tuple[str, str]]:
    """Return how a tail over a frame is tied; nothing where there is none, or nothing lifts it."""
    if made.tail is None:
        return []
    said, wind = list[tuple[str, str]](), model.uplift.wind.get(plan.roof.id)
    if made.tail.tie:
        said.append(("Tail's upper end", f"{made.tail.tie} to the top chord"))
    if wind is not None:
        _, tie, lifts = tail_under_wind(plan, made, model.project.loads, wind, model.standard)
        if lifts > 0.0:
            said.append(("Tail at the wall", f"{tie or 'nothing of the list holds'}, against wind"))
    return said
