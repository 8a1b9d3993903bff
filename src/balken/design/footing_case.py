"""What a footing carries and stands on, what is made of it, and the pressure of the soil under it.

The footing's own weight presses on the soil and is counted there; for the strength of the concrete only
the net pressure of the factored load counts, since the weight is carried straight down.
"""

from dataclasses import dataclass
from typing import Literal

from balken.design import aci
from balken.design.checks import Check
from balken.loads.cases import COMBINATIONS, Cases, Combination
from balken.model.materials import weight
from balken.units.system import PSI

Kind = Literal["strip", "pad"]
Support = Literal["concrete", "masonry", "plate"]


class FootingError(ValueError):
    """A footing that cannot be designed: what is wrong and what to do."""


@dataclass(frozen=True, slots=True)
class FootingCase:
    """What a footing carries and stands on.

    ``load``: on its top, N/mm under a wall, N under a column; ``size``: thickness of the wall or side of the
    column, mm.  ``bearing``: value of the soil, ``overburden``: what lies on the footing, kN/m2.
    ``fc``, ``fy``: N/mm2; without ``fy`` it is plain concrete.  ``eccentricity``: of the load from the
    footing's middle, mm.
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


@dataclass(frozen=True, slots=True)
class BarSet:
    """Bars alike: number of the bar, spacing (mm), how many across the footing, length of one, hooked ends."""

    use: str
    number: int
    spacing: float
    count: int
    length: float
    hooked: bool = False

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
        return self.length + (2.0 * 16.0 * aci.BARS[self.number].diameter if self.hooked else 0.0)


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
    """Return the pressure (N/mm2) under a force per mm (N/mm) off the middle; no tension is taken by the soil."""
    e = abs(eccentricity)
    if e <= width / 6.0:
        mean = force / width
        return Pressure(mean * (1.0 + 6.0 * e / width), mean * (1.0 - 6.0 * e / width), width)
    rest = max(width / 2.0 - e, 1.0)
    return Pressure(2.0 * force / (3.0 * rest), 0.0, min(3.0 * rest, width))


def soil_pressure(case: FootingCase, width: float, thickness: float) -> tuple[float, float, Combination]:
    """Return the greatest soil pressure (kN/m2), the eccentricity of all load (mm), and the combination.

    The footing's weight and what lies on it act in the middle.
    """
    own = (weight("concrete") * thickness / 1000.0 + case.overburden) / 1000.0
    best: tuple[float, float, Combination] | None = None
    for combo in COMBINATIONS:
        load = combo.of(case.load)
        per_mm = load if case.kind == "strip" else load / width
        whole = per_mm + own * width * (combo.factors.dead or 1.0)
        if whole <= 0.0:
            continue
        e = per_mm * case.eccentricity / whole
        q = pressure(whole, width, e).high * 1000.0
        if best is None or q > best[0]:
            best = (q, e, combo)
    if best is None:
        raise FootingError("no load presses on the footing; type a load above zero.")
    return best
