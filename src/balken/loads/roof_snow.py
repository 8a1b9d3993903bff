"""Snow on planes of a roof as it is carried: even, more along the ridge on the lee side, drifts beside taller parts.

Values come from the standard that a project goes by; all in kN/m2 of plan and mm.
"""

import math
from collections.abc import Sequence

import numpy as np
from msgspec.structs import replace
from numpy.typing import NDArray

from balken.geometry.plane import Point, distance, unit
from balken.model.records import Loads
from balken.value import Value

Array = NDArray[np.float64]
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
        inward = np.linspace(0.0, self.run, PLACES)
        more = as_even(np.where(inward > self.begins, self.band, 0.0)[None, :], np.array([self.run]))
        return max(self.even + float(more[0]), self.balanced)

    @property
    def begins(self) -> float:
        """How far in of the eave the band begins, mm."""
        return self.run - self.deep

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

    def over(self, places: Array) -> Array:
        """Return how much lies at places (..., 2) beside the balanced snow."""
        off = places - np.array(self.start)
        away, along = off @ np.array(self.inward), off @ np.array(unit(self.start, self.end))
        there = (away >= -1.0) & (away < self.wide) & (along >= -1.0) & (along <= distance(self.start, self.end) + 1.0)
        lies = self.peak * (1.0 - np.maximum(away, 0.0) / self.wide) if self.tapers else np.full(away.shape, self.peak)
        return np.where(there, lies, 0.0)


def beside(bands: tuple[Band, ...], places: Array) -> Array:
    """Return what lies at places (..., 2) beside the balanced snow: the most of what may."""
    most = np.zeros(places.shape[:-1])
    for band in bands:
        most = np.maximum(most, band.over(places))
    return most


def as_even(loads: Array, lengths: Array) -> Array:
    """Return the even loads that bend simple spans no less, and press their ends no less, than uneven ones do.

    ``loads``: (spans, PLACES) at places evenly from end to end; ``lengths``: (spans,).
    """
    steps = lengths / (PLACES - 1)
    x = np.linspace(0.0, 1.0, PLACES) * lengths[:, None]
    lumps = loads * steps[:, None]
    lumps[:, [0, -1]] /= 2.0
    right = (lumps * x).sum(axis=1) / lengths
    left = lumps.sum(axis=1) - right
    before, about = np.cumsum(lumps, axis=1) - lumps, np.cumsum(lumps * x, axis=1) - lumps * x
    moments = left[:, None] * x - (before * x - about)
    found: Array = np.maximum(8.0 * moments.max(axis=1) / lengths**2, 2.0 * np.maximum(left, right) / lengths)
    return found


def on_rafters(
    snow: Sequence[PlaneSnow], bands: tuple[Band, ...], feet: Array, heads: Array, begins: Array
) -> list[float]:
    """Return the even snow for which rafters are checked; ``snow``: of the plane of each, ``feet``, ``heads``: (rafters, 2),
    ``begins``: how far in of the eave each foot lies, mm in plan.
    """
    even, balanced, band, edge = (
        np.array([getattr(s, name) for s in snow]) for name in ("even", "balanced", "band", "begins")
    )
    found = np.maximum(even, balanced)
    runs = np.maximum(np.hypot(*(heads - feet).T), 1e-6)
    parts = np.linspace(0.0, 1.0, PLACES)
    if band.any():
        inward = begins[:, None] + parts * runs[:, None]
        more = as_even(np.where(inward > edge[:, None], band[:, None], 0.0), runs)
        found = np.maximum(found, even + more)
    if bands:
        places = feet[:, None, :] + parts[None, :, None] * (heads - feet)[:, None, :]
        found = np.maximum(found, balanced + as_even(beside(bands, places), runs))
    return [float(v) for v in found]


def most_on_rafters(snow: Sequence[PlaneSnow], bands: tuple[Band, ...], feet: Array, heads: Array) -> list[float]:
    """Return the most snow that lies anywhere on rafters, as ``on_rafters`` takes them: those over purlins are checked under it all over,
    for an even load that does the same on one span does not on two.
    """
    found = np.array([s.most for s in snow])
    if bands:
        parts = np.linspace(0.0, 1.0, PLACES)
        places = feet[:, None, :] + parts[None, :, None] * (heads - feet)[:, None, :]
        found = np.maximum(found, np.array([s.balanced for s in snow]) + beside(bands, places).max(axis=1))
    return [float(v) for v in found]


def heaped(bands: tuple[Band, ...], first: Point, last: Point) -> tuple[float, float]:
    """Return what bands lay on a line across a roof, kN/m2 times mm, and how far along the line its middle lies (0 to 1)."""
    long = distance(first, last)
    if not bands or long <= 0.0:
        return 0.0, 0.5
    count = max(math.ceil(long / 100.0), 8)
    parts = (np.arange(count) + 0.5) / count
    rows = beside(bands, np.array(first) + parts[:, None] * (np.array(last) - np.array(first)))
    whole = float(rows.sum())
    if whole <= 0.0:
        return 0.0, 0.5
    return whole * long / count, float((rows * parts).sum()) / whole


class RoofSnow(Value, frozen=True):
    """Snow on a roof: on each of its planes (by the number of its edge; a gable roof's one for both), and beside taller parts."""

    planes: tuple[PlaneSnow, ...]
    bands: tuple[Band, ...] = ()


def snowed(loads: Loads, snow: RoofSnow | None) -> Loads:
    """Return a project's loads with the snow that a gable roof carries as that on the ground."""
    return loads if snow is None else replace(loads, ground_snow=snow.planes[0].laid, snow_by="ground")
