"""Load cases, and what a standard makes of them: combinations with factors.

Which cases there are stands here, once; a standard says how they combine (``standards``).
"""

from collections.abc import Callable, Iterable, Sequence
from functools import cached_property, lru_cache
from operator import add, mul
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from balken.value import Lazy, Value

Array = NDArray[np.float64]
_made: Callable[[type["Cases"], Iterable[float]], "Cases"] = tuple.__new__
"""Makes cases of their values in a row; quicker than by name."""


class Cases(NamedTuple):
    """One quantity in each load case: dead, live (floors, attic), roof live, snow, wind.

    A case more is a field more here, with factors for it in the combinations of each standard.
    """

    dead: float = 0.0
    live: float = 0.0
    roof_live: float = 0.0
    snow: float = 0.0
    wind: float = 0.0

    def scaled(self, factor: float) -> "Cases":
        """Return every case times a factor."""
        return _made(Cases, [value * factor for value in self])

    def plus(self, other: "Cases") -> "Cases":
        """Return the case by case sum."""
        return _made(Cases, map(add, self, other))

    @property
    def all(self) -> float:
        """All cases together (for sums that must balance, not for design)."""
        return sum(self)


COUNT = len(Cases._fields)
"""How many cases there are: columns of every array of loads."""


def total(items: Iterable[Cases]) -> Cases:
    """Return the case by case sum of many."""
    columns = [sum(column, 0.0) for column in zip(*items, strict=True)]
    return Cases(*columns)


class Combination(Value, frozen=True):
    """Factors on the cases, and the load duration factor of its shortest load."""

    name: str
    factors: Cases
    duration: float

    def of(self, cases: Cases) -> float:
        """Return the combined value."""
        found: float = sum(map(mul, cases, self.factors))
        return found


class Combinations(Lazy, frozen=True, eq=False):
    """The combinations of a standard for allowable stress design.

    ``always``: number of a case whose combinations count whenever it is there, as it is always the shortest load (wind);
    ``sags``: what counts as live load for sag, by factors on the cases.
    """

    rows: tuple[Combination, ...]
    sags: tuple[Cases, ...]
    always: int

    @cached_property
    def factors(self) -> Array:
        """The factors (combinations, cases)."""
        return np.array([c.factors for c in self.rows])

    @cached_property
    def live(self) -> Array:
        """The factors of ``sags`` (rows, cases)."""
        return np.array(self.sags)

    def true_of(self, cases: Cases) -> tuple[Combination, ...]:
        """Return the combinations in which no factored case is missing, so that each duration is true.

        A load keeps its sign: one that lifts (below zero) is there as much as one that presses.
        """
        return _those_with(self, tuple([value != 0.0 for value in cases]))

    def numbers(self, among: Sequence[Combination]) -> list[int]:
        """Return which rows some of the combinations are."""
        return [self.rows.index(c) for c in among]

    def least(self, cases: Cases) -> tuple[float, Combination]:
        """Return the least combined value and its combination: below zero, it lifts (durations left out of account)."""
        return min(((c.of(cases), c) for c in self.true_of(cases)), key=lambda pair: pair[0])

    def worst(self, cases: Cases) -> tuple[float, Combination]:
        """Return the greatest combined value and its combination (durations left out of account)."""
        return max(((c.of(cases), c) for c in self.rows), key=lambda pair: pair[0])


@lru_cache(maxsize=256)
def _those_with(among: Combinations, present: tuple[bool, ...]) -> tuple[Combination, ...]:
    def true(c: Combination) -> bool:
        if c.factors[among.always] > 0.0:
            return present[among.always]
        return all(present[i] or factor == 0.0 for i, factor in enumerate(c.factors) if i > 0)

    return tuple(c for c in among.rows if true(c))


def most_by_duration(combos: Sequence[Combination], demands: Iterable[float]) -> list[tuple[Combination, float]]:
    """Return for each load duration the combination that asks most: one of these governs what duration alone allows."""
    found: dict[float, tuple[Combination, float]] = {}
    for combo, demand in zip(combos, demands, strict=True):
        known = found.get(combo.duration)
        if known is None or demand > known[1]:
            found[combo.duration] = combo, demand
    return list(found.values())
