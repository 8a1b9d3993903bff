"""Foundation walls against earth and water: held at the floor or free at the top; plain or reinforced concrete.

Earth pressure by Rankine (active) or Jaky (at rest), or a typed equivalent fluid; strength by ACI 318-19
chapters 11 and 14, of block by TMS 402-16 (``block_walls``); stability of free walls by IBC 1807.2.3.
"""

import math
from dataclasses import dataclass
from functools import lru_cache

import numpy as np
from numpy.typing import NDArray

from balken.design import aci
from balken.design.block_walls import BlockForces, design_block, prescriptive_block
from balken.design.checks import Check
from balken.design.footing_case import BarSet
from balken.framing.floors import FloorPlan
from balken.framing.foundations import FoundationRun
from balken.framing.ground import Ground
from balken.framing.slabs import SlabPlan
from balken.loads.along import Diagram
from balken.loads.cases import Cases, worst
from balken.model.blocks import block_of
from balken.model.materials import weight
from balken.model.records import Concrete, Masonry, Soil, WallMaterial
from balken.remembered import remembered
from balken.units.system import FOOT, INCH, PCF

WATER = 9.807
"""Unit weight of water, kN/m3."""
SAFETY = 1.5
"""IBC 1807.2.3: factor against sliding and overturning."""
LEAST_PLAIN_WALL = 7.5 * INCH
"""ACI 318-19 14.3.1.2: exterior basement and foundation walls of plain concrete."""
EARTH_FACTOR = 1.6
"""5.3.8: earth pressure adding to the other loads."""
SHALLOW = 300.0
"""Earth that stands less than this higher outside than inside is not looked at, mm."""
POINTS = 241
USUAL_MASONRY = Masonry()


@dataclass(frozen=True)
class Pressing:
    """Earth and water on one metre of wall: heights above its base (mm), pressure there (kN/m2)."""

    z: tuple[float, ...]
    p: tuple[float, ...]

    @property
    def total(self) -> float:
        """Resultant, kN/m."""
        return float(np.trapezoid(self.p, self.z)) / 1000.0


@dataclass(frozen=True)
class EarthWall:
    """A foundation wall against earth; per metre of it.  Moments in kN m, forces in kN."""

    id: str
    unbalanced: float
    span: float
    restrained: bool
    pressing: Pressing
    top: float
    base: float
    moment: float
    moment_at: float
    reinforced: bool
    bars: tuple[BarSet, ...]
    checks: tuple[Check, ...]
    prescriptive: str
    made_of: WallMaterial = "concrete"

    @property
    def used(self) -> float:
        """How far it is used: the greatest of its checks."""
        return self.checks[0].used if self.checks else 0.0


def coefficient(soil: Soil, restrained: bool) -> float:
    """Return K: Ka = tan2(45 - phi/2) where the wall can move, K0 = 1 - sin phi where it is held (Jaky)."""
    phi = math.radians(soil.friction)
    if soil.pressure == "active" and not restrained:
        return math.tan(math.pi / 4.0 - phi / 2.0) ** 2
    return 1.0 - math.sin(phi)


def earth_pressure(soil: Soil, depth: NDArray[np.float64], restrained: bool) -> NDArray[np.float64]:
    """Return the sideways pressure (kN/m2) at depths below ground (mm); none above it."""
    below = np.maximum(depth, 0.0) / 1000.0
    if soil.pressure == "equivalent fluid":
        k = soil.fluid / soil.weight
        dry = soil.fluid * below
    else:
        k = coefficient(soil, restrained)
        dry = k * soil.weight * below
    p = dry + k * soil.surcharge
    if soil.water_below is not None:
        wet = np.maximum(below - soil.water_below / 1000.0, 0.0)
        p = p + wet * WATER * (1.0 - k)
    result: NDArray[np.float64] = np.where(depth >= 0.0, p, 0.0)
    return result


def pressing_on(soil: Soil, fill: float, span: float, restrained: bool) -> Pressing:
    """Return the pressure over the height of a wall ``span`` mm tall with ``fill`` mm of earth above its base."""
    z = np.linspace(0.0, span, POINTS)
    p = earth_pressure(soil, fill - z, restrained)
    return Pressing(tuple(z.tolist()), tuple(p.tolist()))


@dataclass(frozen=True, slots=True)
class Forces:
    """Reactions at top and base (kN/m), greatest moment (kN m/m) and where (mm above the base), shear near it."""

    top: float
    base: float
    moment: float
    at: float
    shear: float


def forces(pressing: Pressing, restrained: bool, depth: float) -> Forces:
    """Return the forces of a simple span held at base and top, or of a cantilever from its base.

    ``shear`` is at ``depth`` mm from the support.
    """
    z, p = np.array(pressing.z), np.array(pressing.p)
    span = float(z[-1])
    force = float(np.trapezoid(p, z)) / 1000.0
    first = float(np.trapezoid(p * z, z)) / 1000.0  # kN/m x mm
    load = np.concatenate([[0.0], np.cumsum((p[1:] + p[:-1]) / 2.0 * np.diff(z))]) / 1000.0
    if not restrained:
        shear = force - float(np.interp(depth, z, load))
        return Forces(0.0, force, first / 1000.0, 0.0, shear)
    top = first / span
    base = force - top
    shear_line = base - load
    moment = np.concatenate([[0.0], np.cumsum((shear_line[1:] + shear_line[:-1]) / 2.0 * np.diff(z))]) / 1000.0
    best = int(moment.argmax())
    near_base, near_top = np.interp(depth, z, shear_line), np.interp(span - depth, z, shear_line)
    return Forces(top, base, float(moment[best]), float(z[best]), max(abs(float(near_base)), abs(float(near_top))))


@lru_cache(maxsize=512)
def design_wall(
    run_id: str,
    soil: Soil,
    concrete: Concrete,
    thickness: float,
    fill: float,
    span: float,
    restrained: bool,
    line: Cases,
    least_dead: float,
    footing: tuple[float, float],
    made_of: WallMaterial = "concrete",
    masonry: Masonry = USUAL_MASONRY,
) -> EarthWall:
    """Design one wall, of concrete (ACI 318-19) or of block (TMS 402-16).

    ``fill``: earth outside above the base, ``span``: from the base to what holds its top, mm.  ``line``:
    greatest line load in it, ``least_dead``: the least dead load along it, N/mm.  ``footing``: width and
    thickness, for the stability of free walls.
    """
    pressing = pressing_on(soil, min(fill, span), span, restrained)
    f = forces(pressing, restrained, thickness)
    block = block_of(thickness) if made_of != "concrete" else None
    if block is None:
        checks, bars = _of_concrete(concrete, thickness, span, f, line, least_dead)
        table = prescriptive(thickness, span, fill, soil)
    else:
        axial, combination = worst(line)
        # A free wall buckles over twice its height; earth presses as it is.
        buckling = span if restrained else 2.0 * span
        acting = BlockForces(span, buckling, f.moment, f.shear, axial, least_dead, combination.name)
        checks, bars = design_block(block, made_of == "grouted block", masonry, acting, concrete.bars)
        table = prescriptive_block(span, fill, _fluid(soil) / PCF)
    if not restrained:
        checks = [*checks, *_stability(soil, pressing, least_dead, footing)]
    ordered = tuple(sorted(checks, key=lambda c: (_kept(c), -c.used)))
    return EarthWall(
        run_id,
        fill,
        span,
        restrained,
        pressing,
        f.top,
        f.base,
        f.moment,
        f.at,
        bool(bars),
        bars,
        ordered,
        table,
        made_of,
    )


def _of_concrete(
    concrete: Concrete, thickness: float, span: float, f: Forces, line: Cases, least_dead: float
) -> tuple[list[Check], tuple[BarSet, ...]]:
    """Return the checks of a wall of plain concrete, or with bars when it needs them and may have them."""
    axial, combo = max(((c.of(line), c) for c in aci.STRENGTH), key=lambda row: row[0])
    moment, shear = EARTH_FACTOR * f.moment, EARTH_FACTOR * f.shear
    plain = _plain(concrete.fc, thickness, span, axial, 0.9 * least_dead, moment, shear, combo.name)
    if not concrete.bars or max(c.used for c in plain) <= 1.0:
        return plain, ()
    made = [_reinforced(concrete, thickness, span, moment, shear, n) for n in (4, 5, 6, 7)]
    return next(
        (row for row in made if max(c.used for c in row[0]) <= 1.0),
        min(made, key=lambda row: max(c.used for c in row[0])),
    )


def _fluid(soil: Soil) -> float:
    """Return the weight of the fluid that presses as the soil does on a wall that is held, kN/m3."""
    return soil.fluid if soil.pressure == "equivalent fluid" else soil.weight * coefficient(soil, True)


def _kept(check: Check) -> bool:
    return check.name.endswith("least") and check.used <= 1.0 + 1e-9


def _plain(
    fc: float, h: float, span: float, axial: float, light: float, moment: float, shear: float, combo: str
) -> list[Check]:
    b, area, modulus = 1000.0, 1000.0 * h, 1000.0 * h**2 / 6.0
    pn = aci.PHI_PLAIN * aci.plain_axial(fc, area, span, h)
    mn = aci.PHI_PLAIN * 0.85 * fc * modulus
    pressed = axial * b / max(pn, 1e-9) + moment * 1e6 / mn
    tension = moment * 1e6 / modulus - light * b / area
    limit = aci.PHI_PLAIN * 5.0 * aci.root_fc(fc)
    v = aci.PHI_PLAIN * aci.plain_shear(fc, b, h)
    return [
        Check("thickness, least", "ACI 318-19 14.3.1.2", LEAST_PLAIN_WALL, h, "length", ""),
        Check(
            "tension from earth",
            "ACI 318-19 14.5.4.1",
            max(tension, 0.0),
            limit,
            "stress",
            "0.9 D + 1.6 H",
            (
                f"Mu = 1.6 H = {moment:.2f} kN m/m, Pu = 0.9 D = {light:.1f} kN/m",
                f"Mu/Sm - Pu/Ag = {tension:.3f} N/mm2, phi 5 sqrt f'c = {limit:.3f} N/mm2",
            ),
        ),
        Check(
            "axial load and earth",
            "ACI 318-19 14.5.4.1",
            pressed,
            1.0,
            "ratio",
            f"{combo} + 1.6 H",
            (f"Pu/phi Pn + Mu/phi Mn = {axial * b / max(pn, 1e-9):.3f} + {moment * 1e6 / mn:.3f}",),
        ),
        Check("shear from earth", "ACI 318-19 14.5.5.1", shear, v / 1000.0, "force", "1.6 H"),
    ]


def _reinforced(
    concrete: Concrete, h: float, span: float, moment: float, shear: float, number: int
) -> tuple[list[Check], tuple[BarSet, ...]]:
    b, bar = 1000.0, aci.BARS[number]
    d = h - aci.COVER_FORMED - bar.diameter / 2.0
    least = 0.0012 * b * h
    need = max(aci.steel_for(moment * 1e6, concrete.fc, concrete.fy, b, d), least)
    widest = aci.widest_spacing(h)
    spacing = min(widest, bar.area * b / need) if math.isfinite(need) else 3.0 * INCH
    spacing = max(math.floor(spacing / INCH + 1e-9) * INCH, 3.0 * INCH)
    steel = bar.area * b / spacing
    m_cap = aci.PHI_FLEXURE * aci.bending_strength(steel, concrete.fc, concrete.fy, b, d) * 1e-6
    v_cap = aci.PHI_SHEAR * aci.one_way_shear(concrete.fc, b, d, steel) / 1000.0
    across = 0.0020 * b * h
    flat = max(math.floor(min(widest, aci.BARS[4].area * b / across) / INCH) * INCH, 3.0 * INCH)
    checks = [
        Check(
            "bending from earth",
            "ACI 318-19 22.3",
            moment,
            m_cap,
            "moment",
            "1.6 H",
            (f"d = {d:.0f} mm, As = {steel:.0f} mm2/m: phi Mn = {m_cap:.2f} kN m/m",),
        ),
        Check("shear from earth", "ACI 318-19 22.5.5.1", shear, v_cap, "force", "1.6 H"),
        Check("upright steel, least", "ACI 318-19 11.6.1", least, steel, "steel", ""),
        Check("lying steel, least", "ACI 318-19 11.6.1", across, aci.BARS[4].area * b / flat, "steel", ""),
    ]
    count = math.ceil(b / spacing)
    return checks, (
        BarSet("upright, inside face", number, spacing, count, span),
        BarSet("lying", 4, flat, max(math.ceil(span / flat), 1), 1000.0),
    )


def _stability(soil: Soil, pressing: Pressing, dead: float, footing: tuple[float, float]) -> list[Check]:
    """Sliding and overturning about the inner edge of the footing, by 1.5 (IBC 1807.2.3)."""
    width, depth = footing
    z, p = np.array(pressing.z), np.array(pressing.p)
    push = pressing.total
    about = float(np.trapezoid(p * (z + depth), z)) / 1e6
    down = dead + weight("concrete") * width * depth * 1e-6
    hold, stand = soil.base_friction * down, down * width / 2000.0
    return [
        Check(
            "sliding",
            "IBC 1807.2.3",
            SAFETY * push,
            hold,
            "force",
            "D + H",
            (f"1.5 x {push:.2f} kN/m against {soil.base_friction:.2f} x {down:.2f} kN/m",),
        ),
        Check(
            "overturning",
            "IBC 1807.2.3",
            SAFETY * about,
            stand,
            "moment",
            "D + H",
            (f"1.5 x {about:.2f} kN m/m against {down:.2f} kN/m x {width / 2000.0:.3f} m",),
        ),
    ]


_R404_8IN: dict[int, tuple[str, str, str]] = {
    4: ("no bars", "no bars", "no bars"),
    5: ("no bars", "no bars", "no bars"),
    6: ("no bars", "no bars", "#6 at 37 in"),
    7: ("no bars", "#6 at 36 in", "#6 at 35 in"),
    8: ("#6 at 41 in", "#6 at 35 in", "#6 at 26 in"),
}
"""IRC Table R404.1.2(3), walls 8 in thick and up to 8 ft high: upright bars by feet of unbalanced fill, for
soils of 30, 45 and 60 pcf.  From memory."""


def prescriptive(thickness: float, span: float, fill: float, soil: Soil) -> str:
    """Return what the IRC asks of such a wall without calculation, or why its table does not reach."""
    feet = max(math.ceil(fill / FOOT - 1e-6), 1)
    if thickness < 7.49 * INCH:
        return "IRC R404.1.2: walls under 7 1/2 in need a design"
    if feet <= 4:
        return f"IRC Table R404.1.2(3), {feet} ft of fill: no bars"
    if span > 8.0 * FOOT + 1.0 or feet > 8 or thickness > 9.0 * INCH:
        return "IRC R404.1.2: beyond the table for 8 in walls up to 8 ft; see the design"
    pcf = _fluid(soil) / PCF
    column = 0 if pcf <= 30.0 else 1 if pcf <= 45.0 else 2
    return f"IRC Table R404.1.2(3), {feet} ft of fill, {(30, 45, 60)[column]} pcf: {_R404_8IN[feet][column]}"


# Of a project ------------------------------------------------------------------------------------------


def floors_over(runs: tuple[FoundationRun, ...], floors: tuple[FloorPlan, ...]) -> dict[str, bool]:
    """Return for each run whether a floor at its head holds it."""
    held = {wall for plan in floors for wall in plan.outline.walls}
    bearing = {bearer for plan in floors for bearer in plan.bears_on}
    return {run.id: run.wall in held or run.id in bearing for run in runs}


def design_earth_walls(
    runs: tuple[FoundationRun, ...],
    along: dict[str, Diagram],
    slabs: tuple[SlabPlan, ...],
    ground: Ground | None,
    soil: Soil,
    concrete: Concrete,
    held: dict[str, bool],
    sizes: dict[str, tuple[float, float]],
    masonry: Masonry = USUAL_MASONRY,
) -> dict[str, EarthWall]:
    """Return the design of every foundation wall with clearly more earth outside than inside."""
    found: dict[str, EarthWall] = {}
    if ground is None:
        return found
    for run in runs:
        if run.band.outside and run.foundation.kind != "thickened edge":
            made = _of_run(run, along[run.id], slabs, ground, soil, concrete, held[run.id], *sizes[run.id], masonry)
            if made is not None:
                found[run.id] = made
    return found


@remembered(5_000)
def _of_run(
    run: FoundationRun,
    diagram: Diagram,
    slabs: tuple[SlabPlan, ...],
    ground: Ground,
    soil: Soil,
    concrete: Concrete,
    held: bool,
    width: float,
    depth: float,
    masonry: Masonry,
) -> EarthWall | None:
    """Return the design of one foundation wall, None where there is not clearly more earth outside than inside."""
    outside = max(z for _, z in ground.profile(run.band.start, run.band.end, 6))
    base = run.lowest
    inside = [p.top for p in slabs if run.wall in p.slab.walls and run.lowest <= p.top < run.band.top]
    if not inside and not held:
        return None  # neither slab nor floor: there is as much earth inside as outside
    base = max([base, *inside])
    fill, span = min(outside, run.band.top) - base, run.band.top - base
    if fill < SHALLOW or span < SHALLOW:
        return None
    line, _ = diagram.peak(1000.0)
    least = min(c.dead for c in diagram.cases) / diagram.step
    thickness = run.band.layers[run.band.core[0]][1] - run.band.layers[run.band.core[0]][0]
    return design_wall(
        run.id,
        soil,
        concrete,
        round(thickness, 3),
        round(fill, 1),
        round(span, 1),
        held,
        Cases(*(round(c, 2) for c in line)),
        round(least, 2),
        (width, depth),
        run.foundation.made_of,
        masonry,
    )
