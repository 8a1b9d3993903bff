"""Load cases and their combinations for allowable stress design."""

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from functools import cache
from typing import NamedTuple


class Cases(NamedTuple):
    """One quantity in each load case: dead, live (floors, attic), roof live, snow, wind."""

    dead: float = 0.0
    live: float = 0.0
    roof_live: float = 0.0
    snow: float = 0.0
    wind: float = 0.0

    def scaled(self, factor: float) -> "Cases":
        """Return every case times a factor."""
        return Cases(
            self.dead * factor, self.live * factor, self.roof_live * factor, self.snow * factor, self.wind * factor
        )

    def plus(self, other: "Cases") -> "Cases":
        """Return the case by case sum."""
        return Cases(
            self.dead + other.dead,
            self.live + other.live,
            self.roof_live + other.roof_live,
            self.snow + other.snow,
            self.wind + other.wind,
        )

    @property
    def all(self) -> float:
        """All cases together (for sums that must balance, not for design)."""
        return self.dead + self.live + self.roof_live + self.snow + self.wind


def total(items: Iterable[Cases]) -> Cases:
    """Return the case by case sum of many."""
    dead = live = roof_live = snow = wind = 0.0
    for item in items:
        dead += item.dead
        live += item.live
        roof_live += item.roof_live
        snow += item.snow
        wind += item.wind
    return Cases(dead, live, roof_live, snow, wind)


@dataclass(frozen=True, slots=True)
class Combination:
    """Factors on the cases, and the load duration factor of its shortest load."""

    name: str
    factors: Cases
    duration: float

    def of(self, cases: Cases) -> float:
        """Return the combined value."""
        f = self.factors
        return (
            cases.dead * f.dead
            + cases.live * f.live
            + cases.roof_live * f.roof_live
            + cases.snow * f.snow
            + cases.wind * f.wind
        )


COMBINATIONS: tuple[Combination, ...] = (
    Combination("D", Cases(1.0), 0.9),
    Combination("D + L", Cases(1.0, 1.0), 1.0),
    Combination("D + Lr", Cases(1.0, 0.0, 1.0), 1.25),
    Combination("D + S", Cases(1.0, 0.0, 0.0, 1.0), 1.15),
    Combination("D + 0.75 L + 0.75 Lr", Cases(1.0, 0.75, 0.75), 1.25),
    Combination("D + 0.75 L + 0.75 S", Cases(1.0, 0.75, 0.0, 0.75), 1.15),
    Combination("D + 0.6 W", Cases(1.0, 0.0, 0.0, 0.0, 0.6), 1.6),
    Combination("D + 0.75 L + 0.75 Lr + 0.45 W", Cases(1.0, 0.75, 0.75, 0.0, 0.45), 1.6),
    Combination("D + 0.75 L + 0.75 S + 0.45 W", Cases(1.0, 0.75, 0.0, 0.75, 0.45), 1.6),
    Combination("0.6 D + 0.6 W", Cases(0.6, 0.0, 0.0, 0.0, 0.6), 1.6),
)
"""ASCE 7-16, 2.4.1, combinations 1 to 7 without earthquake; load duration factors NDS 2018, Table 2.3.2.

Wind is a pressure at strength level, so that 0.6 of it acts.
"""


def combinations_for(cases: Cases) -> tuple[Combination, ...]:
    """Return the combinations in which no factored case is missing, so that each duration is true.

    Wind is always the shortest load, so its combinations count whenever there is wind.  A load keeps its sign:
    one that lifts (below zero) is there as much as one that presses.
    """
    return _those_with(tuple([value != 0.0 for value in cases]))


@cache
def _those_with(present: tuple[bool, ...]) -> tuple[Combination, ...]:
    def true(c: Combination) -> bool:
        if c.factors.wind > 0.0:
            return present[4]
        return all(present[i] or factor == 0.0 for i, factor in enumerate(c.factors) if i > 0)

    return tuple(c for c in COMBINATIONS if true(c))


def most_by_duration(combos: Sequence[Combination], demands: Iterable[float]) -> list[tuple[Combination, float]]:
    """Return for each load duration the combination that asks most: one of these governs what duration alone allows."""
    found: dict[float, tuple[Combination, float]] = {}
    for combo, demand in zip(combos, demands, strict=True):
        known = found.get(combo.duration)
        if known is None or demand > known[1]:
            found[combo.duration] = combo, demand
    return list(found.values())


def least(cases: Cases) -> tuple[float, Combination]:
    """Return the least combined value and its combination: below zero, it lifts (durations left out of account)."""
    return min(((c.of(cases), c) for c in combinations_for(cases)), key=lambda pair: pair[0])


def worst(cases: Cases) -> tuple[float, Combination]:
    """Return the greatest combined value and its combination (durations left out of account)."""
    return max(((c.of(cases), c) for c in COMBINATIONS), key=lambda pair: pair[0])
