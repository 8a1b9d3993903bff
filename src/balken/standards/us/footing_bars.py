"""Footings with bars: bending, shear, punching by ACI 318-19, chapters 13 and 22; bars that can be anchored, chapter 25.

What a bar cannot develop between the section and its end does not count, neither for bending nor for shear.
"""

import math

from balken.catalog.bars import BARS, Bar
from balken.standards.checks import Check, worst_of
from balken.standards.ground import BarSet, FootingCase, FootingError
from balken.standards.measures import Quantity, working
from balken.standards.us import aci
from balken.standards.us.footing_case import support_half
from balken.standards.us.footing_demands import Demands, Side, demands
from balken.standards.us.footing_plain import punching_force
from balken.units.system import INCH

BAR_NUMBERS = (4, 5, 6, 7, 8, 9)
CLOSEST_BARS = 4.0 * INCH
"""Common practice, no source: bars nearer than this are hard to place."""
AGGREGATE = 0.75 * INCH
"""Greatest size of the aggregate that is taken (common practice, no source)."""


def reinforced_checks(case: FootingCase, width: float, thickness: float) -> tuple[list[Check], tuple[BarSet, ...]]:
    """Return the checks and the bars: the lightest bar that fits and can be anchored, else the least overused."""
    if case.fy is None:
        raise FootingError("reinforced concrete needs the strength of its steel; type such as 60 ksi.")
    best: tuple[float, list[Check], tuple[BarSet, ...]] | None = None
    for number in BAR_NUMBERS:
        checks, bars = _with_bar(case, width, thickness, number)
        used = max(c.used for c in checks)
        if used <= 1.0 + 1e-9:
            return checks, bars
        if best is None or used < best[0]:
            best = (used, checks, bars)
    assert best is not None
    return best[1], best[2]


def clear_spacing(diameter: float) -> float:
    """Return the least clear spacing of bars in a layer: 1 in, a bar, 4/3 of the aggregate (25.2.1), mm."""
    return max(1.0 * INCH, diameter, 4.0 / 3.0 * AGGREGATE)


def spacing_check(spacing: float, diameter: float) -> Check:
    """Return the check of the clear spacing."""
    clear = max(spacing - diameter, 1e-6)
    return Check("clear spacing, least", "ACI 318-19 25.2.1", clear_spacing(diameter), clear, "length", "")


def _with_bar(case: FootingCase, width: float, thickness: float, number: int) -> tuple[list[Check], tuple[BarSet, ...]]:
    assert case.fy is not None
    bar, fy, fc, pad = BARS[number], case.fy, case.fc, case.kind == "pad"
    d = thickness - aci.COVER_EARTH - (bar.diameter if pad else bar.diameter / 2.0)
    depth = Check("depth above the bars, least", "ACI 318-19 13.3.1.2", aci.LEAST_BELOW_BARS, max(d, 1.0), "length", "")
    if d < 20.0:
        return [depth], ()
    wide = width if pad else 1000.0
    made = demands(case, width, thickness, d)
    least = aci.least_steel(wide, thickness)
    needs = [aci.steel_for(side.moment, fc, fy, wide, d) for side in made.sides]
    spacing, count = _spaced(max(*needs, least), bar.area, wide, thickness, pad)
    steel = count * bar.area if pad else bar.area * 1000.0 / spacing
    held = [_anchored(side, need, steel, bar, fc, fy) for side, need in zip(made.sides, needs, strict=True)]
    hooked = any(row[2] for row in held)
    strain, limit = aci.net_strain(steel, fc, fy, wide, d), fy / aci.STEEL_MODULUS + 0.003
    checks = [
        depth,
        worst_of([_bending(case, side, steel * row[0], wide, d, least) for side, row in zip(made.sides, held, strict=True)]),
        Check("steel, least", "ACI 318-19 7.6.1.1, 8.6.1.1", least, steel, "steel" if pad else "line steel", "",
              (working("0.0018 b h"),)),
        Check("tension-controlled", "ACI 318-19 21.2.2", limit, strain, "ratio", "", (working("strain {}", (strain, "strain")),)),
        worst_of([_shear(case, side, steel * row[0], wide, d) for side, row in zip(made.sides, held, strict=True)]),
        worst_of([row[1] for row in held]),
        spacing_check(spacing, bar.diameter),
    ]  # fmt: skip
    if pad:
        checks += _of_pad(case, width, thickness, d, made)
    return checks, _bar_sets(case, width, thickness, number, spacing, count, hooked)


def _anchored(side: Side, need: float, steel: float, bar: Bar, fc: float, fy: float) -> tuple[float, Check, bool]:
    """Return what part of the steel is developed at the section, the check of its anchorage, and whether it is hooked.

    What the bars must carry may be less than what they can (25.4.10.1), but never under the least lengths.
    """
    room = side.projection - aci.COVER_EARTH
    straight, hook = aci.development(bar.diameter, fc, fy), aci.hooked_development(bar.diameter, fc, fy)
    part = min(need / steel, 1.0) if math.isfinite(need) else 1.0
    wants = max(straight * part, 12.0 * INCH) if side.moment > 1.0 else 0.0
    hooked = wants > room
    if hooked:
        wants = max(hook * part, 8.0 * bar.diameter, 6.0 * INCH)
    full = hook if hooked else straight
    check = Check(
        "anchorage of the bars",
        "ACI 318-19 25.4.3" if hooked else "ACI 318-19 25.4.2",
        wants,
        max(room, 1e-6),
        "length",
        "",
        (working(f"{'hooked' if hooked else 'straight'}: {{}} from the section, {{}} there", (wants, "length"),
                 (max(room, 0.0), "length")),),
    )  # fmt: skip
    return min(max(room, 0.0) / full, 1.0), check, hooked


def _bending(case: FootingCase, side: Side, steel: float, wide: float, d: float, least: float) -> Check:
    assert case.fy is not None
    unit, area = _units(case)
    cap = aci.PHI_FLEXURE * aci.bending_strength(steel, case.fc, case.fy, wide, d) if steel > 0.0 else 0.0
    need = aci.steel_for(side.moment, case.fc, case.fy, wide, d)
    lines = [
        working("d = {}, Mu at the critical section (13.2.7.1) {}", (d, "length"), (side.moment * 1e-6, unit)),
        working("As developed there {}: phi Mn = 0.90 As fy (d - a/2) = {}", (steel, area), (cap * 1e-6, unit)),
    ]
    if math.isfinite(need):
        lines.insert(1, working("As for it = {}, least 0.0018 b h = {}", (need, area), (least, area)))
    return Check("bending", "ACI 318-19 22.3", side.moment * 1e-6, cap * 1e-6, unit, side.moment_by, tuple(lines))


def _shear(case: FootingCase, side: Side, steel: float, wide: float, d: float) -> Check:
    unit: Quantity = "line force" if case.kind == "strip" else "force"
    cap = aci.PHI_SHEAR * aci.one_way_shear(case.fc, wide, d, steel)
    lines = (
        working("at d from the critical section (13.2.7.2): Vu = {}", (side.shear / 1000.0, unit)),
        working("phi Vc = 0.75 x 8 rho^(1/3) sqrt f'c b d = {}, rho = {}", (cap / 1000.0, unit),
                (steel / (wide * d), "strain")),
    )  # fmt: skip
    return Check("one-way shear", "ACI 318-19 22.5.5.1", side.shear / 1000.0, cap / 1000.0, unit, side.shear_by, lines)


def _units(case: FootingCase) -> tuple[Quantity, Quantity]:
    return ("line moment", "line steel") if case.kind == "strip" else ("moment", "steel")


def _of_pad(case: FootingCase, width: float, thickness: float, d: float, made: Demands) -> list[Check]:
    side = 2.0 * support_half(case) + d
    perimeter = 4.0 * side
    inside = punching_force(made, width, side, d)
    cap = aci.PHI_SHEAR * aci.two_way_shear(case.fc, perimeter, d, 1.0)
    below = min(case.size + 4.0 * thickness, width) ** 2
    bearing = aci.PHI_BEARING * aci.bearing_strength(case.fc, case.size**2, below)
    lines = (
        working("at d/2: bo = 4 ({} + {}) = {}, Vu = {}", (2.0 * support_half(case), "length"), (d, "length"),
                (perimeter, "length"), (inside / 1000.0, "force")),
        working("phi Vc = {}", (cap / 1000.0, "force")),
    )  # fmt: skip
    return [
        Check("punching shear", "ACI 318-19 22.6.5.2", inside / 1000.0, cap / 1000.0, "force", made.load_by, lines),
        Check(
            "bearing under the column", "ACI 318-19 22.8.3", made.load / 1000.0, bearing / 1000.0, "force", made.load_by
        ),
    ]


def _spaced(need: float, area: float, wide: float, thickness: float, pad: bool) -> tuple[float, int]:
    """Return spacing (whole inches, mm) and number of bars across ``wide``."""
    widest = aci.widest_spacing(thickness)
    if not math.isfinite(need):
        return CLOSEST_BARS, math.ceil(wide / CLOSEST_BARS)
    if pad:
        free = max(wide - 2.0 * aci.COVER_EARTH, 1.0)
        count = max(math.ceil(need / area - 1e-9), math.ceil(free / widest) + 1, 2)
        return free / (count - 1), count
    spacing = min(widest, area * 1000.0 / need)
    spacing = max(math.floor(spacing / INCH + 1e-9) * INCH, INCH)
    return spacing, math.ceil(1000.0 / spacing)


def _bar_sets(
    case: FootingCase, width: float, thickness: float, number: int, spacing: float, count: int, hooked: bool
) -> tuple[BarSet, ...]:
    length = width - 2.0 * aci.COVER_EARTH
    if case.kind == "pad":
        one = BarSet("each way", number, spacing, count, length, hooked)
        return one, one
    along = aci.least_steel(width, thickness)
    number_along = 4 if along / BARS[4].area <= 8 else 5
    free = max(length, 1.0)
    n = max(math.ceil(along / BARS[number_along].area - 1e-9), math.ceil(free / aci.widest_spacing(thickness)) + 1, 2)
    return (
        BarSet("across", number, spacing, count, length, hooked),
        BarSet("along", number_along, free / (n - 1), n, 1000.0),
    )
