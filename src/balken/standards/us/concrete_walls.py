"""Foundation walls of concrete against earth, by ACI 318-19 chapters 11, 14 and 22; what holds them; the IRC's tables."""

import math

from balken.catalog.bars import BARS
from balken.catalog.materials import weight
from balken.model.records import Concrete, Soil
from balken.standards.checks import Check
from balken.standards.earth_pressure import Forces, fluid_weight
from balken.standards.ground import BarSet, EarthCase
from balken.standards.measures import working
from balken.standards.us import aci
from balken.standards.us.anchor_bolts import bolt_check
from balken.standards.us.footing_case import EARTH_FACTOR
from balken.standards.us.footing_checks import SAFETY
from balken.units.system import FOOT, INCH, PCF

LEAST_PLAIN_WALL = 7.5 * INCH
"""ACI 318-19, Table 14.3.1.1: exterior basement and foundation walls of plain concrete."""


WALL_BARS = (4, 5, 6, 7)


def light_at(case: EarthCase, at: float) -> float:
    """Return the least dead load at a height above the base, N/mm: without the wall's own weight below that section."""
    kind = {"concrete": "concrete", "hollow block": "concrete block", "grouted block": "grouted block"}[case.made_of]
    return max(case.light - weight(kind) * case.thickness * (at + case.below) * 1e-6, 0.0)


def of_concrete(concrete: Concrete, case: EarthCase, f: Forces, light: float) -> tuple[list[Check], tuple[BarSet, ...]]:
    """Return the checks of a wall of plain concrete, or with bars when it needs them and may have them."""
    axial, combo = max(((c.of(case.line), c) for c in aci.STRENGTH), key=lambda row: row[0])
    moment, shear = EARTH_FACTOR * f.moment, EARTH_FACTOR * f.shear
    # A free wall buckles over twice its height.
    free = case.span if case.held else 2.0 * case.span
    plain = _plain(concrete.fc, case.thickness, free, axial, 0.9 * light, moment, shear, combo.name)
    if not concrete.bars or max(c.used for c in plain) <= 1.0:
        return plain, ()
    made = [_reinforced(concrete, case, moment, shear, n) for n in WALL_BARS]
    return next(
        (row for row in made if max(c.used for c in row[0]) <= 1.0),
        min(made, key=lambda row: max(c.used for c in row[0])),
    )


def kept_least(check: Check) -> bool:
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
        Check("thickness, least", "ACI 318-19 Table 14.3.1.1", LEAST_PLAIN_WALL, h, "length", ""),
        Check(
            "tension from earth",
            "ACI 318-19 14.5.4.1",
            max(tension, 0.0),
            limit,
            "stress",
            "0.9 D + 1.6 H",
            (
                working("Mu = 1.6 H = {}, Pu = 0.9 D = {}", (moment, "line moment"), (light, "line force")),
                working("Mu/Sm - Pu/Ag = {}, phi 5 sqrt f'c = {}", (tension, "stress"), (limit, "stress")),
            ),
        ),
        Check(
            "axial load and earth",
            "ACI 318-19 14.5.4.1",
            pressed,
            1.0,
            "ratio",
            f"{combo} + 1.6 H",
            (
                working(
                    "Pu/phi Pn + Mu/phi Mn = {} + {}",
                    (axial * b / max(pn, 1e-9), "factor"),
                    (moment * 1e6 / mn, "factor"),
                ),
            ),
        ),
        Check("shear from earth", "ACI 318-19 14.5.5.1", shear, v / 1000.0, "line force", "1.6 H"),
    ]


def cover_formed(diameter: float) -> float:
    """Return the cover of bars in a formed face against earth or weather, mm (Table 20.5.1.3.1)."""
    return aci.COVER_FORMED if diameter <= 0.626 * INCH else 2.0 * INCH


def upright_least(number: int) -> float:
    """Return the least part of upright steel in a wall (11.6.1): 0.0012 up to No. 5, 0.0015 above."""
    return 0.0012 if number <= 5 else 0.0015


def _reinforced(
    concrete: Concrete, case: EarthCase, moment: float, shear: float, number: int
) -> tuple[list[Check], tuple[BarSet, ...]]:
    b, bar, h = 1000.0, BARS[number], case.thickness
    d = max(h - cover_formed(bar.diameter) - bar.diameter / 2.0, 10.0)  # hardly anything is left in a very thin wall
    least = upright_least(number) * b * h
    need = max(aci.steel_for(moment * 1e6, concrete.fc, concrete.fy, b, d), least)
    widest = aci.widest_spacing(h)
    spacing = min(widest, bar.area * b / need) if math.isfinite(need) else 3.0 * INCH
    spacing = max(math.floor(spacing / INCH + 1e-9) * INCH, 3.0 * INCH)
    steel = bar.area * b / spacing
    m_cap = aci.PHI_FLEXURE * aci.bending_strength(steel, concrete.fc, concrete.fy, b, d) * 1e-6
    v_cap = aci.PHI_SHEAR * aci.one_way_shear(concrete.fc, b, d, steel) * aci.size_effect(d) / 1000.0
    across = 0.0020 * b * h
    flat = max(math.floor(min(widest, BARS[4].area * b / across) / INCH) * INCH, 3.0 * INCH)
    lines = (working("d = {}, As = {}: phi Mn = {}", (d, "length"), (steel, "line steel"), (m_cap, "line moment")),)
    checks = [
        Check("bending from earth", "ACI 318-19 22.3", moment, m_cap, "line moment", "1.6 H", lines),
        Check("shear from earth", "ACI 318-19 22.5.5.1", shear, v_cap, "line force", "1.6 H"),
        Check("upright steel, least", "ACI 318-19 11.6.1", least, steel, "line steel", ""),
        Check("lying steel, least", "ACI 318-19 11.6.1", across, BARS[4].area * b / flat, "line steel", ""),
    ]
    face = "inside face" if case.held else "earth side"
    return checks, (
        BarSet(f"upright, {face}", number, spacing, math.ceil(b / spacing), case.span),
        BarSet("lying", 4, flat, max(math.ceil(case.span / flat), 1), 1000.0),
    )


def dowels_of(upright: BarSet, case: EarthCase, concrete: Concrete) -> tuple[Check, BarSet]:
    """Return the check of the dowels that tie a free wall's bars to its footing, and the dowels.

    A hook in the footing (25.4.3), lapped with the bars of the wall (25.5.2, class B: 1.3 ld).
    """
    bar = BARS[upright.number]
    room = case.footing[1] - aci.COVER_EARTH
    hook = aci.hooked_development(bar.diameter, concrete.fc, concrete.fy, upright.spacing)
    lap = 1.3 * aci.development(bar.diameter, concrete.fc, concrete.fy)
    lines = (working("hook {} below the top of the footing, lap 1.3 ld = {}", (hook, "length"), (lap, "length")),)
    check = Check("dowels into the footing", "ACI 318-19 25.4.3", hook, max(room, 1e-6), "length", "", lines)
    length = min(hook, max(room, hook)) + case.below + lap
    return check, BarSet("dowels, earth side", upright.number, upright.spacing, upright.count, length, True, 1)


def holding(case: EarthCase, soil: Soil, f: Forces) -> list[Check]:
    """Return the checks of what takes the push of a held wall: at its base where there is no slab, and at its top."""
    found = []
    if not case.slab:
        width, depth = case.footing
        down = case.light + weight("concrete") * width * depth * 1e-6
        lines = (
            working(
                f"no slab holds the base: {SAFETY:g} x {{}} against {soil.base_friction:.2f} x {{}}",
                (f.base, "line force"),
                (down, "line force"),
            ),
        )
        grip = soil.base_friction * down
        found.append(Check("sliding at the base", "IBC 1807.2.3", SAFETY * f.base, grip, "line force", "D + H", lines))
    if case.bolts > 0.0 and f.top > 0.0:
        found.append(bolt_check(f.top, case.bolts))
    return found


_R404_8IN: dict[int, dict[int, tuple[str, str, str]]] = {
    8: {
        5: ("no bars", "no bars", "no bars"),
        6: ("no bars", "no bars", "#6 at 37 in"),
        7: ("no bars", "#6 at 36 in", "#6 at 35 in"),
        8: ("#6 at 41 in", "#6 at 35 in", "#6 at 26 in"),
    },
    9: {
        5: ("no bars", "no bars", "no bars"),
        6: ("no bars", "no bars", "#6 at 35 in"),
        7: ("no bars", "#6 at 35 in", "#6 at 32 in"),
        8: ("#6 at 36 in", "#6 at 32 in", "#6 at 23 in"),
        9: ("#6 at 35 in", "#6 at 25 in", "#6 at 18 in"),
    },
    10: {
        5: ("no bars", "no bars", "no bars"),
        6: ("no bars", "no bars", "#6 at 35 in"),
        7: ("no bars", "#6 at 35 in", "#6 at 29 in"),
        8: ("#6 at 35 in", "#6 at 29 in", "#6 at 21 in"),
        9: ("#6 at 34 in", "#6 at 22 in", "#6 at 16 in"),
        10: ("#6 at 27 in", "#6 at 17 in", "#6 at 13 in"),
    },
}
"""IRC Table R404.1.2(3), walls 8 in thick: upright bars by the greatest height and feet of unbalanced fill, for soils of 30, 45 and
60 pcf.  From memory."""


def prescriptive(thickness: float, span: float, fill: float, soil: Soil) -> str:
    """Return what the IRC asks of such a wall without calculation, or why its table does not reach; lower walls as the next higher ones,
    thicker walls as those of 8 in, which need no less.
    """
    feet, tall = max(math.ceil(fill / FOOT - 1e-6), 1), max(math.ceil(span / FOOT - 1e-6), 8)
    if thickness < 7.49 * INCH:
        return "IRC Table R404.1.2(2) is for walls of 6 in; it is not held here; see the design"
    table = "IRC Table R404.1.2(3)" + (" (8 in; safe for thicker walls)" if thickness > 8.5 * INCH else "")
    if tall > 10 or feet > tall:
        return f"{table}: beyond its 10 ft of height; see the design"
    pcf = fluid_weight(soil) / PCF
    if pcf > 60.0:
        return f"{table}: heavier than its 60 pcf; see the design"
    if feet <= 4:
        return f"{table}, {feet} ft of fill: no bars"
    column = 0 if pcf <= 30.0 else 1 if pcf <= 45.0 else 2
    return f"{table}, {tall} ft high, {feet} ft of fill, {(30, 45, 60)[column]} pcf: {_R404_8IN[tall][feet][column]}"
