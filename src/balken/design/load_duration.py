"""Loads of any duration as if they lay for the normal one."""

from balken.loads.beam_law import Extremes
from balken.loads.cases import Cases
from balken.standards.standard import Standard


def normal_duration(load: Cases, beyond: Extremes, standard: Standard) -> tuple[float, float]:
    """Return the most that presses, as if it lay for the normal duration of loads (NDS 2.3.2), and the most that lifts, N."""
    low, high = load.plus(beyond.less), load.plus(beyond.more)
    combos = standard.combinations.true_of(high) or standard.combinations.rows[:1]
    most = max((combo.of(high) / combo.duration for combo in combos), default=0.0)
    return most, max(-min((combo.of(low) for combo in combos), default=0.0), 0.0)
