"""Slabs above ground that carry one way: strips by ACI 318-19 chapter 7, with live load on any spans (6.4.2).

Clauses from memory of the code.  The safe reading throughout: moments over bearings are those over their middles, shear is
that at the face of a bearing, sag is kept by the least thickness alone (Table 7.3.1.1), bars do not help against pressure.
"""

import math
from collections.abc import Sequence
from functools import lru_cache

import numpy as np
from numpy.typing import NDArray

from balken.analysis.lines import Line
from balken.analysis.patterns import envelope
from balken.catalog.bars import BARS
from balken.loads.cases import COUNT, Cases
from balken.standards.checks import Check, MemberResult, kept_limit
from balken.standards.demands import SlabBars, SlabCase
from balken.standards.measures import Working, working
from balken.standards.us import aci
from balken.units.system import INCH, PSI
from balken.value import Value

Array = NDArray[np.float64]
MOVING = (Cases._fields.index("live"), Cases._fields.index("roof_live"))
NUMBERS = (3, 4, 5, 6)
"""Bars tried, the smallest first."""
CLOSEST = 4.0 * INCH
"""Common practice, no source: bars nearer than this are hard to place."""
COVER_INSIDE = 0.75 * INCH
"""Table 20.5.1.3.1: slabs not exposed to weather or ground, No. 11 bars and smaller."""
INTO_BEARING = 6.0 * INCH
"""7.7.3.8.1: bars below run so far into a bearing."""
LEAST_DEPTH = {(0, False): 20.0, (1, False): 24.0, (2, False): 28.0, (0, True): 10.0}
"""Table 7.3.1.1: span over least thickness, by how many ends of it run on, and for an overhang; fy = 60,000 psi."""
FACES = 1e-6


class _Bent(Value, frozen=True):
    """What bends and shears a strip: greatest and least moments along it, N mm, the greatest shear off its bearings, N."""

    at: Array
    sag: Array
    hog: Array
    shear: float
    shear_by: str
    sag_by: str
    hog_by: str


@lru_cache(maxsize=4_096)
def _bent(case: SlabCase) -> _Bent:
    ends = np.array([(a, b) for a, b, _, _ in case.patches]).reshape(-1, 2)
    loads = np.array([(p, q) for _, _, p, q in case.patches]).reshape(-1, 2, COUNT)
    points = np.array([x for x, _ in case.points])
    forces = np.array([f for _, f in case.points]).reshape(-1, COUNT)
    line = Line(case.length, case.supports, ends, loads, points, forces)
    made = envelope(line, np.array([c.factors for c in aci.STRENGTH]), MOVING)
    free = np.ones(len(made.at), dtype=bool)
    for middle, bearing in zip(case.supports, case.bearings, strict=True):
        free &= np.abs(made.at - middle) > bearing / 2.0 + FACES
    # Where a bearing begins the shear counts as well, just outside of it.
    shears = np.abs(made.shears).max(axis=0)
    off = np.where(free[:, None], shears, 0.0)
    faces = [
        np.abs(made.shears[:, [int(np.abs(made.at - face).argmin())], :]).max(axis=(0, 1))
        for middle, bearing in zip(case.supports, case.bearings, strict=True)
        for face in (middle - bearing / 2.0, middle + bearing / 2.0)
        if 0.0 < face < case.length
    ]
    every = np.vstack([off.max(axis=0), *faces])
    names = [c.name for c in aci.STRENGTH]
    most, least = made.moments
    return _Bent(
        made.at,
        most.max(axis=1),
        least.min(axis=1),
        float(every.max()),
        names[int(every.max(axis=0).argmax())],
        names[int(most.max(axis=0).argmax())],
        names[int(least.min(axis=0).argmin())],
    )


def cover(case: SlabCase) -> float:
    """Return the cover of its bars, mm (Table 20.5.1.3.1; up to No. 5 where exposed to weather)."""
    return aci.COVER_FORMED if case.outdoors else COVER_INSIDE


def depth_of(case: SlabCase, number: int) -> float:
    """Return the depth to the bars along the strip, the outer ones, mm."""
    return max(case.section.depth - cover(case) - BARS[number].diameter / 2.0, 10.0)


def widest(case: SlabCase) -> float:
    """Return the greatest spacing of bars: 3 h, 18 in (7.7.2.3), and that which keeps cracks narrow (24.3.2), mm."""
    fs = 2.0 / 3.0 * case.fy / PSI
    cracks = min(15.0 * 40_000.0 / fs - 2.5 * cover(case) / INCH, 12.0 * 40_000.0 / fs) * INCH
    return min(aci.widest_spacing(case.section.depth), cracks)


def least_share(fy: float) -> float:
    """Return the least part of steel (7.6.1.1, 24.4.3.2)."""
    return 0.0018 if fy <= 60_500.0 * PSI else max(0.0018 * 60_000.0 * PSI / fy, 0.0014)


def slab_bars(cases: Sequence[SlabCase]) -> SlabBars:
    """Return the bars of strips of one slab, alike for all: the smallest that hold every one of them, else the strongest."""
    found = [_with_number(cases, number) for number in NUMBERS]
    good = (bars for bars in found if all(check_slab(case, bars).used <= 1.0 for case in cases))
    return next(good, found[-1])


def _with_number(cases: Sequence[SlabCase], number: int) -> SlabBars:
    below, above, far = math.inf, math.inf, 0.0
    for case in cases:
        bent = _bent(case)
        below = min(below, _spacing(case, number, float(bent.sag.max())))
        if _hogs(bent):
            above = min(above, _spacing(case, number, -float(bent.hog.min())))
            far = max(far, _reach(case, number))
    flat = least_share(cases[0].fy) * cases[0].section.depth
    across_number = 3 if BARS[3].area / flat >= 8.0 * INCH else 4
    widest_flat = min(5.0 * cases[0].section.depth, 18.0 * INCH)
    across = max(math.floor(min(BARS[across_number].area / flat, widest_flat) / INCH + 1e-9) * INCH, CLOSEST)
    far = math.ceil(far / (3.0 * INCH) - 1e-9) * 3.0 * INCH
    return SlabBars(number, below, above if math.isfinite(above) else 0.0, across_number, across, far)


def _hogs(bent: _Bent) -> bool:
    return float(-bent.hog.min()) > 1e-3 * max(float(bent.sag.max()), 1.0)


def _spacing(case: SlabCase, number: int, moment: float) -> float:
    """Return the spacing for a moment on a strip, whole inches, mm."""
    need = aci.steel_for(max(moment, 0.0), case.fc, case.fy, case.width, depth_of(case, number))
    need = max(need, least_share(case.fy) * case.width * case.section.depth)
    spaced = BARS[number].area * case.width / need if math.isfinite(need) else 0.0
    return max(math.floor(min(spaced, widest(case)) / INCH + 1e-9) * INCH, CLOSEST)


def _reach(case: SlabCase, number: int) -> float:
    """Return how far bars above run from the middle of a bearing: past the last place that hogs by d, 12 db, ln/16 (7.7.3.5, 7.7.3.8.4)."""
    bent = _bent(case)
    hogging = bent.at[bent.hog < -1e-3 * max(float(bent.sag.max()), 1.0)]
    spans = [(a, b) for a, b, over in case.stretches if not over]
    far = 0.0
    for x in hogging.tolist():
        if case.supports[0] <= x <= case.supports[-1]:
            far = max(far, min(abs(x - at) for at in case.supports))
        else:
            far = max(far, min(abs(x - case.supports[0]), abs(x - case.supports[-1])))
    more = max(depth_of(case, number), 12.0 * BARS[number].diameter, max((b - a for a, b in spans), default=0.0) / 16.0)
    return far + more


@lru_cache(maxsize=8_192)
def check_slab(case: SlabCase, bars: SlabBars) -> MemberResult:
    """Return the checks of a strip with its bars; raises LineError for what stands on nothing."""
    bent, d, width, depth = _bent(case), depth_of(case, bars.number), case.width, case.section.depth
    area = BARS[bars.number].area
    steel = area * width / bars.below
    checks = [*_thickness(case), *_bending(case, "bending, bars below", float(bent.sag.max()), steel, d, bent.sag_by)]
    shear_steel = steel
    if _hogs(bent):
        above = area * width / bars.above if bars.above else 0.0
        checks += _bending(case, "bending, bars above", -float(bent.hog.min()), above, d, bent.hog_by)
        shear_steel = min(steel, above) if bars.above else steel
    cap = aci.PHI_SHEAR * aci.one_way_shear(case.fc, width, d, shear_steel) * aci.size_effect(d)
    lines = (
        working("at the face of the bearing Vu = {}", (bent.shear / 1000.0, "force")),
        working(
            "phi Vc = 0.75 x 8 lambda_s rho^(1/3) sqrt f'c b d = {}, b = {}, d = {}",
            (cap / 1000.0, "force"),
            (width, "length"),
            (d, "length"),
        ),
    )
    checks += [
        Check("one-way shear", "ACI 318-19 22.5.5.1", bent.shear / 1000.0, cap / 1000.0, "force", bent.shear_by, lines),
        Check("steel, least", "ACI 318-19 7.6.1.1", least_share(case.fy) * width * depth, steel, "steel", "",
              (working("0.0018 b h, b = {}", (width, "length")),)),
        Check("spacing of bars, greatest", "ACI 318-19 7.7.2.3, 24.3.2", max(bars.below, bars.above), widest(case), "length", ""),
        _anchorage(case, bars, steel, d, bent),
    ]  # fmt: skip
    checks.sort(key=lambda check: (kept_limit(check), -check.used))
    return MemberResult(case, tuple(checks))


def _thickness(case: SlabCase) -> list[Check]:
    """Return the check of the least thickness, at the span that asks for most (Table 7.3.1.1)."""
    factor = 1.0 if abs(case.fy - 60_000.0 * PSI) < 500.0 * PSI else 0.4 + case.fy / PSI / 100_000.0
    rows, parts = [], case.stretches
    for i, (a, b, over) in enumerate(parts):
        runs_on = 0 if over else (i > 0) + (i < len(parts) - 1)
        ratio = LEAST_DEPTH[(runs_on, over)]
        rows.append(((b - a) / ratio * factor, b - a, ratio))
    need, span, ratio = max(rows)
    lines = (working(f"span {{}} / {ratio:g} x {factor:.2f}", (span, "length")),)
    return [Check("thickness against sag", "ACI 318-19 Table 7.3.1.1", need, case.section.depth, "length", "", lines)]


def _bending(case: SlabCase, name: str, moment: float, steel: float, d: float, by: str) -> list[Check]:
    cap = aci.PHI_FLEXURE * aci.bending_strength(steel, case.fc, case.fy, case.width, d) if steel > 0.0 else 0.0
    strain = aci.net_strain(steel, case.fc, case.fy, case.width, d) if steel > 0.0 else 1.0
    limit = case.fy / aci.STEEL_MODULUS + 0.003
    lines = (
        working("b = {}, d = {}, As = {}", (case.width, "length"), (d, "length"), (steel, "steel")),
        working("phi Mn = 0.90 As fy (d - a/2) = {}", (cap * 1e-6, "moment")),
    )
    return [
        Check(name, "ACI 318-19 22.3", max(moment, 0.0) * 1e-6, cap * 1e-6, "moment", by, lines),
        Check("tension-controlled", "ACI 318-19 7.3.3.1", limit, strain, "ratio", "", (working("strain {}", (strain, "strain")),)),
    ]  # fmt: skip


def _anchorage(case: SlabCase, bars: SlabBars, steel: float, d: float, bent: _Bent) -> Check:
    """Return the check that bars below take up their force where the slab ends: ld <= 1.3 Mn/Vu + la (7.7.3.8.3)."""
    bar = BARS[bars.number]
    nominal = aci.bending_strength(steel, case.fc, case.fy, case.width, d)
    beyond = min(INTO_BEARING, min(case.bearings[0], case.bearings[-1]) / 2.0 + INTO_BEARING / 2.0)
    room = 1.3 * nominal / max(bent.shear, 1.0) + beyond
    need = aci.development(bar.diameter, case.fc, case.fy)
    lines = (working("1.3 Mn/Vu + la = {}", (room, "length")),)
    return Check("anchorage of bars below", "ACI 318-19 7.7.3.8.3", need, room, "length", "", lines)


def slab_values(case: SlabCase) -> tuple[tuple[str, Working], ...]:
    """Return the values a check of a slab reads."""
    row = working("f'c = {}, fy = {}, cover {}", (case.fc, "stress"), (case.fy, "stress"), (cover(case), "length"))
    return (("concrete and bars of the project; cover by ACI 318-19 Table 20.5.1.3.1", row),)
