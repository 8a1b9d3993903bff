"""Snow on planes of a roof as it is carried: even, more along the ridge on the lee side, drifts beside taller parts.

Values come from the standard that a project goes by; all in kN/m2 of plan and mm.
"""

import math
from collections.abc import Callable

import numpy as np
from msgspec.structs import replace

from balken.geometry.plane import Point, add, distance, dot, sub, unit
from balken.model.records import Loads
from balken.value import Value

PLACES = 41
"""Places along a rafter at which uneven snow is looked at."""


class PlaneSnow(Value, frozen=True):
    """Snow on a plane that is ``run`` mm wide from eave to ridge.

    ``balanced``: lies on all planes at once; ``even``: what the plane must bear by itself when the wind has blown, with ``band``
    more over the ``deep`` mm next to the ridge.  ``told``: by which rule.
    """

    balanced: float
    even: float
    band: float = 0.0
    deep: float = 0.0
    run: float = 0.0
    told: str = ""

    @property
    def laid(self) -> float:
        """Lying evenly, what bends a rafter from eave to ridge and loads its ends no less than this snow does."""
        if not self.band:
            return max(self.even, self.balanced)
        more = as_even(lambda t: self.band if t > self.run - self.deep else 0.0, 0.0, self.run)
        return max(self.even + more, self.balanced)

    @property
    def most(self) -> float:
        """The most anywhere: hips, valleys and ridge beams are checked under it all over."""
        return max(self.even + self.band, self.balanced)


class Band(Value, frozen=True):
    """Snow beside the foot of a taller part: along a line, ``peak`` at it, falling to nothing ``wide`` mm off (or even to there).

    ``inward``: the way off the line, onto the roof.
    """

    start: Point
    end: Point
    inward: Point
    peak: float
    wide: float
    tapers: bool
    told: str = ""

    def at(self, place: Point) -> float:
        """Return how much lies at a place beside the balanced snow."""
        off = sub(place, self.start)
        away, along = dot(self.inward, off), dot(unit(self.start, self.end), off)
        if not (-1.0 <= away < self.wide and -1.0 <= along <= distance(self.start, self.end) + 1.0):
            return 0.0
        return self.peak * (1.0 - max(away, 0.0) / self.wide) if self.tapers else self.peak


def beside(bands: tuple[Band, ...], place: Point) -> float:
    """Return what lies at a place beside the balanced snow: the most of what may."""
    return max((band.at(place) for band in bands), default=0.0)


def as_even(field: Callable[[float], float], low: float, high: float) -> float:
    """Return the even load that bends a simple span from ``low`` to ``high`` no less, and presses its ends no less, than a field does."""
    length = high - low
    if length <= 0.0:
        return 0.0
    step = length / (PLACES - 1)
    q = np.array([field(low + length * k / (PLACES - 1)) for k in range(PLACES)])
    if not q.any():
        return 0.0
    x = np.linspace(0.0, length, PLACES)
    lumps = q * step
    lumps[[0, -1]] /= 2.0
    right = float((lumps * x).sum() / length)
    left = float(lumps.sum()) - right
    moment = left * x - np.array([float((lumps[:k] * (x[k] - x[:k])).sum()) for k in range(PLACES)])
    return max(8.0 * float(moment.max()) / length**2, 2.0 * left / length, 2.0 * right / length)


def on_rafter(snow: PlaneSnow, bands: tuple[Band, ...], foot: Point, head: Point, begins: float) -> float:
    """Return the even snow for which a rafter is checked; ``begins``: how far in of the eave its foot lies, mm in plan."""
    run = distance(foot, head)
    found = max(snow.even, snow.balanced)
    if snow.band:
        edge = snow.run - snow.deep
        found = max(found, snow.even + as_even(lambda t: snow.band if t > edge else 0.0, begins, begins + run))
    if bands and run > 0.0:
        way = unit(foot, head)
        found = max(found, snow.balanced + as_even(lambda t: beside(bands, add(foot, way, t)), 0.0, run))
    return found


def heaped(bands: tuple[Band, ...], first: Point, last: Point) -> tuple[float, float]:
    """Return what bands lay on a line across a roof, kN/m2 times mm, and how far along the line its middle lies (0 to 1)."""
    long = distance(first, last)
    if not bands or long <= 0.0:
        return 0.0, 0.5
    count = max(math.ceil(long / 100.0), 8)
    way = unit(first, last)
    rows = [beside(bands, add(first, way, long * (k + 0.5) / count)) for k in range(count)]
    whole = sum(rows)
    if whole <= 0.0:
        return 0.0, 0.5
    return whole * long / count, sum(q * (k + 0.5) for k, q in enumerate(rows)) / whole / count


class RoofSnow(Value, frozen=True):
    """Snow on a roof: on each of its planes (by the number of its edge; a gable roof's one for both), and beside taller parts."""

    planes: tuple[PlaneSnow, ...]
    bands: tuple[Band, ...] = ()


def snowed(loads: Loads, snow: RoofSnow | None) -> Loads:
    """Return a project's loads with the snow that a gable roof carries as that on the ground."""
    return loads if snow is None else replace(loads, ground_snow=snow.planes[0].laid, snow_by="ground")
