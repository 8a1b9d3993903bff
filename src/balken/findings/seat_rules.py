"""Bird's mouths of rafters under eaves of other pitches than the roof's own: all planes begin at one height over their walls."""

import math
from collections.abc import Iterable

from balken.catalog.sections import section
from balken.derived.finding import Finding
from balken.derived.model import Model
from balken.framing.surface_roofs import seat_at
from balken.model.lookup import wall_label
from balken.units import format_pitch, say_length

DEEPEST = 0.25
"""Of a rafter's depth a notch at a bearing takes no more (IRC R802.7.1)."""
LEAST = 1.5 * 25.4
"""Rafters bear on no less (IRC R802.6), mm."""


def seats(c: Model) -> Iterable[Finding]:
    """Rafters that do not come down on their plate, bear on too little of it, or are notched too deep for it."""
    for plan in c.surfaces:
        framing = c.planes.get(plan.roof.id)
        if framing is None:
            continue
        depth, told = section(framing.boards.rafter).depth, set[tuple[str, float]]()
        for k, edge in enumerate(plan.edges):
            wall = plan.outline.walls[k]
            if edge.kind != "eave" or (wall, edge.pitch) in told:
                continue
            told.add((wall, edge.pitch))
            seat = seat_at(plan.roof, edge.pitch, depth)
            notch = seat * edge.pitch / math.hypot(1.0, edge.pitch)
            where = (
                f"{plan.roof.name}, {wall_label(c.project, wall)}" if plan.roof.id not in c.dormers else plan.roof.name
            )
            if seat < LEAST - 0.5:
                over = -seat * edge.pitch
                lies = (
                    f"rafters lie {say_length(over, c.units)} over its plate"
                    if over > 0.5
                    else f"rafters bear on {say_length(max(seat, 0.0), c.units)} of its plate"
                )
                do = "Raise that plate, or make the roof's pitches more alike."
            elif notch > DEEPEST * depth + 0.5:
                lies = f"bird's mouths are cut {say_length(notch, c.units)} deep"
                do = "A quarter of the rafter is allowed (IRC R802.7.1). Lower that plate, take deeper rafters, or make pitches more alike."
            else:
                continue
            yield Finding(
                "seat",
                "roof",
                f"{where}: {lies}",
                f"All planes begin at one height over the outer faces of their walls, by the seats of the roof's own pitch of "
                f"{format_pitch(plan.roof.pitch, c.units)}; this eave has {format_pitch(edge.pitch, c.units)}. {do}",
                (plan.roof.id, wall),
                (*plan.outline.core[k], plan.bearing),
                grave=seat < LEAST - 0.5,
            )


SEAT_RULES = (seats,)
