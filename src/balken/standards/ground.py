"""What is asked of a standard in the ground, and what it gives back: footings, combined footings, walls against earth.

Records of dimensions, loads and results alone; no value and no clause of any standard stands here.
"""

from typing import Literal

from balken.catalog.bars import BARS
from balken.loads.cases import Cases
from balken.model.records import WallMaterial
from balken.standards.checks import Check
from balken.standards.earth_pressure import Forces, Pressing
from balken.units.system import PSI
from balken.value import Value

Kind = Literal["strip", "pad"]
Support = Literal["concrete", "masonry", "plate"]


class FootingError(ValueError):
    """A footing that cannot be designed: what is wrong and what to do."""


class Sideways(Value, frozen=True):
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


class FootingCase(Value, frozen=True):
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


class CombinedCase(Value, frozen=True):
    """Two columns ``apart`` mm from middle to middle, their loads (N) and sides (mm), soil and concrete."""

    loads: tuple[Cases, Cases]
    sizes: tuple[float, float]
    apart: float
    bearing: float
    fc: float
    fy: float
    sideways: Sideways = NOTHING


class OnSoil(Value, frozen=True):
    """What the soil feels under one combination: force a mm across (N/mm), its eccentricity (mm), pressure (kN/m2)."""

    force: float
    eccentricity: float
    pressure: float
    combination: str
    wind: bool


class BarSet(Value, frozen=True):
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
        return BARS[self.number].area

    @property
    def mass(self) -> float:
        """Mass of all, kg."""
        return self.count * self.cut_length / 1000.0 * BARS[self.number].mass

    @property
    def cut_length(self) -> float:
        """Length of one bar with its hooks, 12 bar diameters each, mm."""
        return self.length + (self.hooks * 16.0 * BARS[self.number].diameter if self.hooked else 0.0)


STABILITY = ("load within the kern", "uplift", "sliding", "overturning")
"""The checks of what keeps a footing in place."""


class FootingDesign(Value, frozen=True):
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


class LeastFooting(Value, frozen=True):
    """The least a footing may measure, mm: width, projection beside its wall, thickness plain and with bars."""

    width: float
    projection: float
    plain: float
    reinforced: float


class EarthCase(Value, frozen=True):
    """A wall against earth: what it is made of, how it stands, what presses and what it carries.

    ``fill``: earth outside above the base, ``span``: from the base to what holds its top (or its free top), mm.
    ``held``: at its top by a floor; ``slab``: at its base by a slab.  ``below``: from the base down to the top of the
    footing.  ``line``: greatest line load in it, ``light``: the least dead load at its foot, N/mm.  ``footing``: width
    and thickness.  ``bolts``: spacing of the sill's anchor bolts, 0 where there is no sill.
    """

    thickness: float
    fill: float
    span: float
    held: bool
    slab: bool
    line: Cases
    light: float
    footing: tuple[float, float]
    made_of: WallMaterial = "concrete"
    below: float = 0.0
    bolts: float = 0.0


class EarthWall(Value, frozen=True):
    """A foundation wall against earth; per metre of it.  Moments in kN m, forces in kN.

    ``face``: the face that is in tension.  ``waiting``: it is meant to be held by a floor that is not there yet.
    """

    id: str
    case: EarthCase
    pressing: Pressing
    forces: Forces
    bars: tuple[BarSet, ...]
    checks: tuple[Check, ...]
    prescriptive: str
    waiting: bool = False

    @property
    def used(self) -> float:
        """How far it is used: the greatest of its checks."""
        return self.checks[0].used if self.checks else 0.0

    @property
    def face(self) -> str:
        """The face in tension: a cantilever bends away from the earth, a wall held at both ends toward the inside."""
        return "inside" if self.case.held else "earth side"

    @property
    def reinforced(self) -> bool:
        """Whether it has bars."""
        return bool(self.bars)
