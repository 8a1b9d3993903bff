"""What a footing carries and stands on, what is made of it, and the pressure of the soil under it.

The footing's own weight presses on the soil and is counted there; for the strength of the concrete only
the net pressure of the factored load counts, since the weight is carried straight down.
"""

from dataclasses import dataclass
from functools import cached_property
from typing import Literal

from balken.catalog.materials import weight
from balken.loads.cases import Cases, Combination
from balken.standards.checks import Check
from balken.standards.us import aci
from balken.standards.us.asce7 import ASD
from balken.units.system import PSI

Kind = Literal["strip", "pad"]
Support = Literal["concrete", "masonry", "plate"]
EARTH_FACTOR = 1.6
"""ACI 318-19 5.3.8: earth pressure adding to the other loads, strength; in service it counts as it is (ASCE 7-16, 2.4.1)."""


class FootingError(ValueError):
    """A footing that cannot be designed: what is wrong and what to do."""


@dataclass(frozen=True, slots=True)
class Sideways:
    """What pushes a footing sideways at its top, and turns it.

    ``earth``: shear (N/mm under a wall, N) and ``moment`` (N mm/mm, N mm) at the top of the footing, in service, from
    earth and water.  ``wind``, ``wind_moment``: the same by wind at strength level; it comes from either side.
    ``friction``: between footing and soil.  ``light``: least dead load along a wall, N/mm, that holds it.
    """

    earth: float = 0.0
    moment: float = 0.0
    wind: float = 0.0
    wind_moment: float = 0.0
    friction: float = 0.35
    light: float | None = None

    def turning(self, thickness: float, earth: float, wind: float) -> float:
        """Return the moment about the underside of the footing with factors on earth and wind."""
        return earth * (self.moment + self.earth * thickness) + wind * (self.wind_moment + self.wind * thickness)


NOTHING = Sideways()


@dataclass(frozen=True)
class FootingCase:
    """What a footing carries and stands on.

    ``load``: on its top, N/mm under a wall, N under a column; ``size``: thickness of the wall or side of the
    column, mm.  ``bearing``: value of the soil, ``overburden``: what lies on the footing, kN/m2.
    ``fc``, ``fy``: N/mm2; without ``fy`` it is plain concrete.  ``eccentricity``: of the load from the
    footing's middle, mm, above zero toward where ``sideways`` turns it.  ``flush``: the wall stands at the footing's
    edge, which grows to the other side alone; +1 where the wall stands toward the side to which it is turned, else -1.
    """

    kind: Kind
    load: Cases
    size: float
    bearing: float
    fc: float = 2500.0 * PSI
    fy: float | None = None
    eccentricity: float = 0.0
    support: Support = "concrete"
    overburden: float = 0.0
    sideways: Sideways = NOTHING
    flush: int = 0

    def off(self, width: float) -> float:
        """Return how far the load stands off the middle of a footing of a width, mm."""
        return self.flush * max((width - self.size) / 2.0, 0.0) if self.flush else self.eccentricity

    @property
    def half(self) -> float:
        """Half of what counts as support for moment and shear (ACI 318-19, Table 13.2.7.1), mm.

        Concrete: its face; masonry: half-way from its middle to its face; a steel plate: half-way from its edge to
        the face of the column, taken as half as wide as the plate.
        """
        return self.size * {"concrete": 0.5, "masonry": 0.25, "plate": 0.375}[self.support]

    @cached_property
    def pressed_by(self) -> tuple[tuple[Cases, Combination, str], ...]:
        """Loads and combinations under which the soil is looked at, each with its name."""
        earth = " + H" if self.sideways.earth or self.sideways.moment else ""
        side = self.sideways
        wind = bool(self.load.wind or side.wind or side.wind_moment)
        rows = [(self.load, c, c.name + earth) for c in ASD.rows if wind or not c.factors.wind]
        if side.light is not None and earth:
            rows.append((Cases(dead=side.light), ASD.rows[0], "D + H, lightest stretch"))
        return tuple(rows)


@dataclass(frozen=True, slots=True)
class BarSet:
    """Bars alike: number of the bar, spacing (mm), how many across the footing, length of one, hooked ends.

    ``hooks``: how many of its ends are, where it is hooked.
    """

    use: str
    number: int
    spacing: float
    count: int
    length: float
    hooked: bool = False
    hooks: int = 2

    @property
    def area(self) -> float:
        """Steel of one bar, mm2."""
        return aci.BARS[self.number].area

    @property
    def mass(self) -> float:
        """Mass of all, kg."""
        return self.count * self.cut_length / 1000.0 * aci.BARS[self.number].mass

    @property
    def cut_length(self) -> float:
        """Length of one bar with its hooks, 12 bar diameters each (25.3.1), mm."""
        return self.length + (self.hooks * 16.0 * aci.BARS[self.number].diameter if self.hooked else 0.0)


@dataclass(frozen=True, slots=True)
class FootingDesign:
    """A footing as designed: sizes in mm, soil pressure in kN/m2, bars, all checks with the governing one first.

    ``length`` of a strip is one metre of wall.
    """

    case: FootingCase
    width: float
    length: float
    thickness: float
    reinforced: bool
    bars: tuple[BarSet, ...]
    pressure: float
    checks: tuple[Check, ...]

    @property
    def used(self) -> float:
        """How far it is used: the greatest of its checks."""
        return self.checks[0].used

    @property
    def works(self) -> bool:
        """Whether every check is kept."""
        return self.used <= 1.0 + 1e-9

    @property
    def soil(self) -> Check:
        """The check of the soil pressure."""
        return next(c for c in self.checks if c.name == "soil pressure")

    @property
    def stable(self) -> tuple[Check, ...]:
        """The checks of what keeps it in place: kern, uplift, sliding, overturning."""
        return tuple(c for c in self.checks if c.name in STABILITY)


STABILITY = ("load within the kern", "uplift", "sliding", "overturning")


@dataclass(frozen=True, slots=True)
class Pressure:
    """A linear pressure across a footing from its more loaded edge: ``high`` there, ``low`` at ``contact``.

    Beyond ``contact`` (mm) nothing presses.  Pressures in N/mm2.
    """

    high: float
    low: float
    contact: float

    def between(self, a: float, b: float) -> tuple[float, float]:
        """Return the force per mm between two distances from the high edge, and its distance from that edge."""
        a, b = max(a, 0.0), min(b, self.contact)
        if b - a <= 1e-9:
            return 0.0, a
        qa, qb = self._at(a), self._at(b)
        force = (qa + qb) / 2.0 * (b - a)
        if force <= 0.0:
            return 0.0, a
        return force, a + (b - a) * (qa + 2.0 * qb) / (3.0 * (qa + qb))

    def _at(self, x: float) -> float:
        return self.high + (self.low - self.high) * x / self.contact


def pressure(force: float, width: float, eccentricity: float) -> Pressure:
    """Return the pressure (N/mm2) under a force per mm (N/mm) off the middle; no tension is taken by the soil.

    A force at or beyond the edge is taken as one a mm inside it: far more than any soil carries.
    """
    e = abs(eccentricity)
    if e <= width / 6.0:
        mean = force / width
        return Pressure(mean * (1.0 + 6.0 * e / width), mean * (1.0 - 6.0 * e / width), width)
    rest = max(width / 2.0 - e, 1.0)
    return Pressure(2.0 * force / (3.0 * rest), 0.0, min(3.0 * rest, width))


def own_weight(case: FootingCase, thickness: float) -> float:
    """Return what the footing and what lies on it weigh, N/mm2 of its plan."""
    return (weight("concrete") * thickness / 1000.0 + case.overburden) / 1000.0


@dataclass(frozen=True, slots=True)
class OnSoil:
    """What the soil feels under one combination: force a mm across (N/mm), its eccentricity (mm), pressure (kN/m2)."""

    force: float
    eccentricity: float
    pressure: float
    combination: str
    wind: bool


def on_soil(case: FootingCase, width: float, thickness: float) -> list[OnSoil]:
    """Return what presses on the soil under each combination in which anything does.

    The footing's weight and what lies on it act in the middle.
    """
    own = own_weight(case, thickness)
    per = 1.0 if case.kind == "strip" else width
    off, found = case.off(width), []
    for load, combo, name in case.pressed_by:
        per_mm = combo.of(load) / per
        whole = per_mm + own * width * (combo.factors.dead or 1.0)
        if whole <= 0.0:
            continue
        standing = per_mm * off
        turned = case.sideways.turning(thickness, 1.0, combo.factors.wind) / per
        by_wind = combo.factors.wind * abs(case.sideways.wind_moment + case.sideways.wind * thickness) / per
        # Wind comes from either side.
        e = max(standing + turned, standing + turned - 2.0 * by_wind, key=abs) / whole
        q = pressure(whole, width, e).high * 1000.0
        found.append(OnSoil(whole, e, q, name, by_wind > 0.0))
    return found


def soil_pressure(case: FootingCase, width: float, thickness: float) -> OnSoil:
    """Return what presses hardest on the soil; raises FootingError when nothing presses."""
    found = on_soil(case, width, thickness)
    if not found or not any(case.load):
        raise FootingError("no load presses on the footing; type a load above zero.")
    return max(found, key=lambda row: row.pressure)
