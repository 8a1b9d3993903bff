"""What holds the posts of guards: how far apart they stand, and how hard the load at their top pulls at their upper bolt.

Posts stand at the rim between two bolts, one above the other, 1 1/2 in from its edges.  The load of 200 lb acts at the top in any
direction (IRC Table R301.5): about the lower bolt T = P (height + lever) / lever.
"""

import math

from balken.catalog.sections import section
from balken.framing.floors import FloorPlan
from balken.geometry.plane import distance
from balken.loads.guards import free_edges
from balken.standards.demands import GuardRules
from balken.units.system import FOOT, INCH
from balken.value import Value

APART = 6.0 * FOOT
"""Guard posts stand no farther apart than this, mm (common practice, no source)."""
FROM_EDGE = 1.5 * INCH
"""Of a bolt from the edge of the rim, mm."""


class Guard(Value, frozen=True):
    """The guard of a floor: its height, how long all of it is, how many posts it has; the pull at each one's upper bolt, N."""

    height: float
    length: float
    posts: int
    pull: float


def guard_of(plan: FloorPlan, size: str, rules: GuardRules) -> Guard | None:
    """Return the guard of a floor; None where it has none, or no edge is free."""
    edges = free_edges(plan)
    if plan.floor.guard <= 0.0 or not edges:
        return None
    lever = max(section(size).depth - 2.0 * FROM_EDGE, 1.0)
    above = plan.floor.guard + plan.floor.deck + FROM_EDGE
    posts = sum(math.ceil(distance(p, q) / APART - 1e-9) + 1 for p, q in edges)
    return Guard(plan.floor.guard, sum(distance(p, q) for p, q in edges), posts, rules.load * (above + lever) / lever)
