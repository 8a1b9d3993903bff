"""Combined footings: one slab under two columns, its middle under the resultant so that the soil presses evenly.

Along the columns it is a beam on an even pressure (ACI 318-19, 13.3.4); across, each column spreads into a
band as wide as itself and the depth at each side.  Always reinforced.
"""

import math
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from balken.design import aci
from balken.design.checks import Check
from balken.design.footing_case import BarSet, FootingCase, FootingDesign, FootingError
from balken.design.footing_checks import LEAST_PROJECTION, kept_limit
from balken.design.footing_design import THICKEST, WIDEST
from balken.loads.cases import COMBINATIONS, Cases
from balken.model.materials import weight
from balken.units import Units
from balken.units.system import INCH

POINTS = 401
Array = NDArray[np.float64]


@dataclass(frozen=True, slots=True)
class CombinedCase:
    """Two columns ``apart`` mm from middle to middle, their loads (N) and sides (mm), soil and concrete."""

    loads: tuple[Cases, Cases]
    sizes: tuple[float, float]
    apart: float
    bearing: float
    fc: float
    fy: float


@dataclass(frozen=True, slots=True)
class CombinedDesign:
    """A combined footing: ``before`` is how far it reaches beyond the first column's middle, mm."""

    case: CombinedCase
    before: float
    design: FootingDesign

    @property
    def length(self) -> float:
        """Its length along the columns, mm."""
        return self.design.length


def _outline(case: CombinedCase, step: float) -> tuple[float, float]:
    """Return (reach beyond the first column's middle, length).

    Its middle lies under the resultant of all loads; it is as long as that and the columns ask for, and no
    shorter than the side of a square that the soil would carry.
    """
    p1, p2 = (load.all for load in case.loads)
    middle = case.apart * p2 / (p1 + p2)
    reach1 = middle + case.sizes[0] / 2.0 + LEAST_PROJECTION
    reach2 = case.apart - middle + case.sizes[1] / 2.0 + LEAST_PROJECTION
    square = math.sqrt((p1 + p2) / (0.85 * case.bearing) * 1000.0)
    length = math.ceil(max(2.0 * reach1, 2.0 * reach2, square) / step - 1e-6) * step
    return length / 2.0 - middle, length


def beam(case: CombinedCase, before: float, length: float, forces: tuple[float, float]) -> tuple[Array, Array, Array]:
    """Return (x, shear N, moment N mm) along the footing under two forces, sagging below positive.

    The columns' forces are spread over their sides; the soil presses evenly.
    """
    x = np.linspace(0.0, length, POINTS)
    up = sum(forces) / length
    shear, moment = up * x, up * x**2 / 2.0
    for force, at, size in zip(forces, (before, before + case.apart), case.sizes, strict=True):
        q, a = force / size, at - size / 2.0
        inside = np.clip(x - a, 0.0, size)
        shear = shear - q * inside
        moment = moment - q * (inside * (x - a) - inside**2 / 2.0)
    return x, shear, moment


def design_combined(
    case: CombinedCase, units: Units, width: float | None = None, thickness: float | None = None
) -> CombinedDesign:
    """Choose width and thickness (steps of 2 in or 50 mm) and bars; raises FootingError when nothing is enough."""
    step = 2.0 * INCH if units is Units.IMPERIAL else 50.0
    if sum(load.all for load in case.loads) <= 0.0:
        raise FootingError("no load presses on the footing; type loads above zero.")
    before, length = _outline(case, step)
    least = aci.LEAST_REINFORCED
    made: CombinedDesign | None = None
    first = thickness if thickness is not None else math.ceil(least / step - 1e-6) * step
    for k in range(1 if thickness is not None else math.floor((THICKEST - first) / step) + 1):
        deep = first + k * step
        wide = width or _width(case, before, length, deep, step)
        made = CombinedDesign(case, before, _checked(case, before, length, wide, deep))
        if made.design.works:
            break
    assert made is not None
    return made


def _service(case: CombinedCase, before: float, length: float, width: float, deep: float) -> tuple[float, str]:
    own = weight("concrete") * deep * 1e-6
    best = (0.0, "")
    for combo in COMBINATIONS:
        load = sum(combo.of(c) for c in case.loads)
        e = abs(_off_middle(case, before, combo.of(case.loads[0]), combo.of(case.loads[1]), length))
        q = (load / (length * width) * (1.0 + 6.0 * e / length) + own) * 1000.0
        best = max(best, (q, combo.name))
    return best


def _off_middle(case: CombinedCase, before: float, p1: float, p2: float, length: float) -> float:
    """Return how far the resultant of a combination lies from the footing's middle, mm."""
    if p1 + p2 <= 0.0:
        return 0.0
    return before + case.apart * p2 / (p1 + p2) - length / 2.0


def _width(case: CombinedCase, before: float, length: float, deep: float, step: float) -> float:
    wide = math.ceil((max(case.sizes) + 2.0 * LEAST_PROJECTION) / step - 1e-6) * step
    while wide <= WIDEST:
        if _service(case, before, length, wide, deep)[0] <= case.bearing * (1.0 + 1e-9):
            return wide
        wide += step
    raise FootingError("no combined footing up to 25 ft (7.6 m) wide is enough; part the columns or use piles.")


def _checked(case: CombinedCase, before: float, length: float, width: float, deep: float) -> FootingDesign:
    q, combo = _service(case, before, length, width, deep)
    bar = aci.BARS[6]
    d = deep - aci.COVER_EARTH - bar.diameter
    factored = [(c.of(case.loads[0]), c.of(case.loads[1]), c.name) for c in aci.STRENGTH]
    p1, p2, name = max(factored, key=lambda row: row[0] + row[1])
    x, shear, moment = beam(case, before, length, (p1, p2))
    faces = [(before + i * case.apart - s / 2.0, before + i * case.apart + s / 2.0) for i, s in enumerate(case.sizes)]
    clear = np.ones_like(x, dtype=bool)
    for low, high in faces:
        clear &= (x <= low - d) | (x >= high + d)
    v = float(np.abs(shear[clear]).max()) if clear.any() else 0.0
    sag, hog = max(float(moment.max()), 0.0), max(float(-moment.min()), 0.0)
    least = aci.least_steel(width, deep)
    below, above = (max(aci.steel_for(m, case.fc, case.fy, width, d), least / 2.0) for m in (sag, hog))
    checks = [
        Check("soil pressure", "IRC R401.4.1, statics", q, case.bearing, "pressure", combo),
        Check("depth above the bars, least", "ACI 318-19 13.3.1.2", aci.LEAST_BELOW_BARS, max(d, 1.0), "length", ""),
    ]
    sets: list[BarSet] = []
    for use, need, m in (("along, below", below, sag), ("along, above", above, hog)):
        count = max(math.ceil(need / bar.area - 1e-9) if math.isfinite(need) else 40, 3)
        cap = aci.PHI_FLEXURE * aci.bending_strength(count * bar.area, case.fc, case.fy, width, d)
        checks.append(Check(f"bending, {use}", "ACI 318-19 13.3.4, 22.3", m * 1e-6, cap * 1e-6, "moment", name))
        spacing = (width - 2.0 * aci.COVER_EARTH) / (count - 1)
        sets.append(BarSet(use, bar.number, spacing, count, length - 2.0 * aci.COVER_EARTH))
    steel = sets[0].count * bar.area
    checks.append(
        Check(
            "one-way shear",
            "ACI 318-19 22.5.5.1",
            v / 1000.0,
            aci.PHI_SHEAR * aci.one_way_shear(case.fc, width, d, steel) / 1000.0,
            "force",
            name,
        )
    )
    for i, (force, size) in enumerate(zip((p1, p2), case.sizes, strict=True), 1):
        side = size + d
        inside = force - (p1 + p2) / (length * width) * min(side, width) ** 2
        cap = aci.PHI_SHEAR * aci.two_way_shear(case.fc, 4.0 * side, d, 1.0)
        clause = "ACI 318-19 22.6.5.2"
        checks.append(
            Check(f"punching shear, column {i}", clause, max(inside, 0.0) / 1000.0, cap / 1000.0, "force", name)
        )
        band = min(size + 2.0 * d, length)
        out = (width - size) / 2.0
        across = force / width * out**2 / 2.0
        need = max(aci.steel_for(across, case.fc, case.fy, band, d), aci.least_steel(band, deep))
        count = max(math.ceil(need / bar.area - 1e-9) if math.isfinite(need) else 40, 2)
        cap = aci.PHI_FLEXURE * aci.bending_strength(count * bar.area, case.fc, case.fy, band, d)
        checks.append(
            Check(f"bending across, column {i}", "ACI 318-19 13.3.4, 22.3", across * 1e-6, cap * 1e-6, "moment", name)
        )
        sets.append(BarSet(f"across, column {i}", bar.number, band / count, count, width - 2.0 * aci.COVER_EARTH))
    checks.sort(key=lambda c: (kept_limit(c), -c.used))
    total = Cases(*(a + b for a, b in zip(*case.loads, strict=True)))
    stand_in = FootingCase("pad", total, max(case.sizes), case.bearing, case.fc, case.fy)
    return FootingDesign(stand_in, width, length, deep, True, tuple(sets), q, tuple(checks))
