"""What lies in many windows of a long wall: summed up along it, and load by load, the same."""

import numpy as np
import pytest

from balken.loads.along import MANY, Laid
from balken.loads.cases import Cases


def test_many_windows_are_summed_as_few_are():
    rng = np.random.default_rng(5)
    low = rng.uniform(0.0, 90_000.0, 900)
    loads = rng.uniform(-500.0, 2000.0, (900, 5))
    laid = Laid(low, low + rng.uniform(1.0, 3000.0, 900), loads, Cases(*loads.sum(axis=0)))
    starts = rng.uniform(-1000.0, 92_000.0, 400)
    ends = starts + rng.uniform(-50.0, 2000.0, 400)
    assert len(starts) * len(low) > MANY
    together = laid.total_in(starts, ends)
    one_by_one = np.concatenate([laid.total_in(starts[i : i + 1], ends[i : i + 1]) for i in range(400)])
    assert together == pytest.approx(one_by_one, rel=1e-9, abs=1e-4)
