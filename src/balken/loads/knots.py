"""Knots: what can only be solved together.  A pair of rafters that lean on one another, with the tie between their feet.

Three hinges, statics alone: the feet and the ridge turn freely, the tie holds the feet together.
"""

from typing import NamedTuple

from balken.loads.cases import Cases


class Pair(NamedTuple):
    """What a pair of rafters hands down: upright to each eave, and sideways, which its tie takes; N by case."""

    low: Cases
    high: Cases
    thrust: Cases


def rafter_pair(half: float, rise: float, over: float, low: Cases, high: Cases) -> Pair:
    """Solve a pair of rafters, each ``half`` mm in plan from eave to ridge and ``over`` beyond the eave.

    ``low``, ``high``: load on each of the two, lying evenly over all of it, N by case.  Moments about one eave give the
    other's reaction, those of one rafter about the ridge the thrust.
    """
    centre = (half - over) / 2.0
    near, far = (2.0 * half - centre) / (2.0 * half), centre / (2.0 * half)
    at_low = low.scaled(near).plus(high.scaled(far))
    at_high = high.scaled(near).plus(low.scaled(far))
    thrust = at_low.scaled(half / rise).plus(low.scaled(-(half - centre) / rise))
    return Pair(at_low, at_high, thrust)
