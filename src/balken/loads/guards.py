"""Guards along the free edges of floors: where they stand, and what they weigh there."""

from balken.framing.floors import FloorPlan
from balken.geometry.plane import Point, add, distance, left, unit
from balken.loads.along import Laid, laid_evenly
from balken.loads.cases import Cases
from balken.loads.decks import Spot
from balken.units.system import PLF

WEIGHT = 10.0 * PLF
"""Of a guard of posts, rails and balusters (common practice, no source), N/mm."""
INSET = 40.0
"""A guard stands so far within the edge, mm."""
FREE = ("free", "past", "side")
SHORT = 100.0


def free_edges(plan: FloorPlan) -> tuple[tuple[Point, Point], ...]:
    """Return the edges of a floor beyond which nothing is."""
    ring = plan.outline.core
    return tuple(
        (p, q)
        for i, p in enumerate(ring)
        if plan.outline.edge(i) in FREE and distance(p, q := ring[(i + 1) % len(ring)]) > SHORT
    )


def guards_on(plan: FloorPlan) -> tuple[Spot | Laid, ...]:
    """Return what the guards of a floor weigh on it: spot, loads, spot, loads..."""
    found: list[Spot | Laid] = []
    for p, q in free_edges(plan):
        d = unit(p, q)
        start, long = add(add(p, left(d), INSET), d, INSET), distance(p, q) - 2.0 * INSET
        found += [Spot(start, d, plan.floor.id), laid_evenly(0.0, long, Cases(dead=WEIGHT * distance(p, q)))]
    return tuple(found)
