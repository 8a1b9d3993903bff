"""Bird's mouths of rafters under eaves of other pitches than the roof's own: all planes begin at one height over their walls."""

import math
from collections.abc import Iterable

from balken.catalog.sections import section
from balken.derived.finding import Finding, Fix
from balken.derived.model import Model
from balken.framing.ridge_seats import NEAR, resting, under_edges
from balken.framing.surface_roofs import seat_at
from balken.geometry.plane import to_segment
from balken.model.lookup import wall_label
from balken.model.records import Roof
from balken.units import format_pitch, say_length

DEEPEST = 0.25
"""Of a rafter's depth a notch at a bearing takes no more (IRC R802.7.1)."""
LEAST = 1.5 * 25.4
"""Rafters bear on no less (IRC R802.6), mm."""


def ridge_seats(c: Model) -> Iterable[Finding]:
    """Rafters that hang over the ridge beam under them, bear on too little of it, or are notched too deep for it."""
    for plan in c.surfaces:
        framing, below = c.planes.get(plan.roof.id), under_edges(plan)
        if framing is None or not below:
            continue
        ridges = [one for one in framing.members if one.member.role == "ridge" and frozenset(one.member.edges) in below]
        found = []
        for one in framing.members:
            m = one.member
            on = next((x for x in ridges if one.wall and to_segment(m.end[:2], *x.member.ends) < NEAR), None)
            if on is None or m.head.kind != "ridge":
                continue
            size = framing.boards.own.get(one.key, framing.boards.rafter)
            breadth = section(framing.boards.lines.get(on.key, framing.boards.ridge)).breadth
            seat, notch = resting(plan, m.edges[0], size, breadth)
            if seat < LEAST - 0.5 or notch > DEEPEST * section(size).depth + 0.5:
                found.append((one, size, seat, notch))
        if not found:
            continue
        one, size, seat, notch = min(found, key=lambda row: row[2])
        short = seat < LEAST - 0.5
        what = (
            f"bear on {say_length(max(seat, 0.0), c.units)} of the ridge beam"
            if short
            else "are cut too deep over the ridge beam"
        )
        why = (
            "Rafters bear on 1 1/2 in (38 mm) at least (IRC R802.6)."
            if short
            else f"Cut {say_length(notch, c.units)} deep; a quarter of {size} is allowed (IRC R802.7.1)."
        )
        yield Finding(
            "ridge seat",
            "roof",
            f"{plan.roof.name}: {len(found)} {'rafters' if len(found) > 1 else 'rafter'} {what}",
            f"{why} Make them as deep as the others, take a thicker beam, or lay the beam between the rafters.",
            (plan.roof.id, *(row[0].key for row in found)),
            (*one.member.end[:2], plan.level(one.member.edges[0])),
            grave=short,
        )


def seats(c: Model) -> Iterable[Finding]:
    """Rafters that do not come down on their plate, bear on too little of it, or are notched too deep for it."""
    for plan in c.surfaces:
        framing = c.planes.get(plan.roof.id)
        if framing is None or plan.tapered:
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
            typed = _typed(plan.roof, edge.pitch, c)
            yield Finding(
                "seat",
                "roof",
                f"{where}: {lies}",
                typed
                or f"All planes begin at one height over the outer faces of their walls, by the seats of the roof's own pitch of "
                f"{format_pitch(plan.roof.pitch, c.units)}; this eave has {format_pitch(edge.pitch, c.units)}. {do}",
                (plan.roof.id, wall),
                (*plan.outline.core[k], plan.bearing),
                grave=seat < LEAST - 0.5,
                fix=Fix(
                    "Cut bird's mouths as they may be",
                    "change",
                    (plan.roof.id,),
                    (("seat", None), ("above_plate", None)),
                )
                if typed
                else None,
            )


def _typed(roof: Roof, pitch: float, c: Model) -> str:
    """Return why rafters of the roof's own pitch are cut as they are, where that is typed; else ""."""
    if abs(pitch - roof.pitch) > 1e-6 or (roof.seat is None and roof.above_plate is None):
        return ""
    if roof.seat is not None:
        return f"Seats of {say_length(roof.seat, c.units)} are typed; a quarter of the rafter may be cut away (IRC R802.7.1). Type less, or auto."
    return (
        f"Their upper edges are typed to lie {say_length(roof.above_plate or 0.0, c.units)} above the plates; they bear on 1 1/2 in (38 mm) at "
        "least (IRC R802.6) and are cut no deeper than a quarter (R802.7.1). Type another height, or auto."
    )


SEAT_RULES = (seats, ridge_seats)
