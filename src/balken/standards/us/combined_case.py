"""Footings under two columns: soil pressure under both, and strength along, across and round them by ACI 318-19."""

import math
from functools import cached_property

import numpy as np
from numpy.typing import NDArray

from balken.analysis.linear_pressure import pressure
from balken.catalog.bars import BARS, Bar
from balken.catalog.materials import weight
from balken.standards.checks import Check, kept_limit
from balken.standards.ground import BarSet, CombinedCase, FootingCase, FootingDesign
from balken.standards.measures import working
from balken.standards.us import aci
from balken.standards.us.asce7 import ASD
from balken.standards.us.footing_bars import spacing_check
from balken.standards.us.footing_checks import wind_checks
from balken.units.system import INCH
from balken.value import Lazy

POINTS = 401
Array = NDArray[np.float64]


def beam(case: CombinedCase, before: float, length: float, forces: tuple[float, float]) -> tuple[Array, Array, Array]:
    """Return (x, shear N, moment N mm) along the footing under two forces, sagging below positive.

    The columns' forces are spread over their sides; the soil presses evenly, or linearly where the forces are not in
    the proportion for which it was laid out.
    """
    x = np.linspace(0.0, length, POINTS)
    whole = sum(forces)
    e = before + case.apart * forces[1] / whole - length / 2.0 if whole > 0.0 else 0.0
    up, grows = whole / length * (1.0 - 6.0 * e / length), 12.0 * whole * e / length**3
    shear, moment = up * x + grows * x**2 / 2.0, up * x**2 / 2.0 + grows * x**3 / 6.0
    for force, at, size in zip(forces, (before, before + case.apart), case.sizes, strict=True):
        q, a = force / size, at - size / 2.0
        inside = np.clip(x - a, 0.0, size)
        shear = shear - q * inside
        moment = moment - q * (inside * (x - a) - inside**2 / 2.0)
    return x, shear, moment


def service_pressure(case: CombinedCase, before: float, length: float, width: float, deep: float) -> tuple[float, str]:
    """Return the greatest soil pressure (kN/m2) and its combination; wind turns it over its narrower side."""
    own = weight("concrete") * deep * 1e-6 * length * width
    short, long = min(width, length), max(width, length)
    best = (0.0, "")
    for combo in ASD.rows:
        loads = [combo.of(c) for c in case.loads]
        whole = sum(loads) + own * (combo.factors.dead or 1.0)
        if whole <= 0.0:
            continue
        turned = abs(case.sideways.turning(deep, 0.0, combo.factors.wind))
        if turned > 0.0:
            q = pressure(whole / long, short, turned / whole).high
        else:
            e = abs(off_middle(case, before, loads[0], loads[1], length)) * sum(loads) / whole
            q = pressure(whole / width, length, e).high
        best = max(best, (q * 1000.0, combo.name))
    return best


def off_middle(case: CombinedCase, before: float, p1: float, p2: float, length: float) -> float:
    """Return how far the resultant of a combination lies from the footing's middle, mm."""
    if p1 + p2 <= 0.0:
        return 0.0
    return before + case.apart * p2 / (p1 + p2) - length / 2.0


def checked_combined(case: CombinedCase, before: float, length: float, width: float, deep: float) -> FootingDesign:
    q, combo = service_pressure(case, before, length, width, deep)
    bar = BARS[6]
    d = deep - aci.COVER_EARTH - bar.diameter
    made = _Section(case, before, length, width, deep, d, bar)
    own = weight("concrete") * deep * 1e-6 * length * width
    total = case.loads[0].plus(case.loads[1])
    checks = [
        Check("soil pressure", "IRC R401.4.1, statics", q, case.bearing, "pressure", combo),
        Check("depth above the bars, least", "ACI 318-19 13.3.1.2", aci.LEAST_BELOW_BARS, max(d, 1.0), "length", ""),
    ]
    if total.wind < 0.0 or case.sideways.wind or case.sideways.wind_moment:
        checks += wind_checks(total, own, min(width, length), deep, case.sideways)
    along, sets, steel = _along(made)
    checks += along
    checks.append(_one_way(made, steel))
    for k in (0, 1):
        checks.append(_punching(made, k))
        across, bars = _across(made, k)
        checks += across
        sets.append(bars)
    checks.sort(key=lambda c: (kept_limit(c), -c.used))
    stand_in = FootingCase("pad", total, max(case.sizes), case.bearing, case.fc, case.fy)
    return FootingDesign(stand_in, width, length, deep, True, tuple(sets), q, tuple(checks))


class _Section(Lazy, frozen=True):
    """A combined footing of given size with its bars' diameter, and the beam along it by strength combination."""

    case: CombinedCase
    before: float
    length: float
    width: float
    deep: float
    d: float
    bar: Bar

    @cached_property
    def beams(self) -> list[tuple[str, tuple[float, float], Array, Array, Array]]:
        """(combination, forces, x, shear, moment) of each strength combination that presses."""
        found = []
        for c in aci.STRENGTH:
            forces = (c.of(self.case.loads[0]), c.of(self.case.loads[1]))
            if min(forces) >= 0.0 and sum(forces) > 0.0:
                found.append((c.name, forces, *beam(self.case, self.before, self.length, forces)))
        return found

    @property
    def faces(self) -> list[tuple[float, float]]:
        """From where to where each column stands, mm along the footing."""
        at = [self.before + k * self.case.apart for k in (0, 1)]
        return [(x - s / 2.0, x + s / 2.0) for x, s in zip(at, self.case.sizes, strict=True)]


def _along(made: _Section) -> tuple[list[Check], list[BarSet], float]:
    """Return the checks of bars along it, below and above, the bars, and the steel below that is developed, mm2."""
    case, bar, d, width = made.case, made.bar, made.d, made.width
    least = aci.least_steel(width, made.deep)
    checks: list[Check] = []
    sets: list[BarSet] = []
    below = 0.0
    for use, sign in (("along, below", 1.0), ("along, above", -1.0)):
        rows = [(float((sign * m).max()), float(x[(sign * m).argmax()]), name) for name, _, x, _, m in made.beams]
        moment, at, name = max(rows, default=(0.0, made.length / 2.0, ""))
        moment = max(moment, 0.0)
        tension = moment > 1e3
        need = max(aci.steel_for(moment, case.fc, case.fy, width, d), least if tension else least / 2.0)
        spacing, count = evenly(need, bar.area, width, made.deep)
        steel = count * bar.area
        room = min(at, made.length - at) - aci.COVER_EARTH
        straight, hook = (
            aci.development(bar.diameter, case.fc, case.fy),
            aci.hooked_development(bar.diameter, case.fc, case.fy, spacing),
        )
        part = min(need / steel, 1.0)
        hooked = tension and max(straight * part, 12.0 * INCH) > room
        wants = max(hook * part, 8.0 * bar.diameter, 6.0 * INCH) if hooked else max(straight * part, 12.0 * INCH)
        developed = min(max(room, 0.0) / (hook if hooked else straight), 1.0) * steel if tension else steel
        cap = aci.PHI_FLEXURE * aci.bending_strength(developed, case.fc, case.fy, width, d) if developed else 0.0
        checks += [
            Check(f"bending, {use}", "ACI 318-19 13.3.4, 22.3", moment * 1e-6, cap * 1e-6, "moment", name),
            Check(f"steel {use}, least", "ACI 318-19 8.6.1.1", least if tension else least / 2.0, steel, "steel", ""),
            spacing_check(spacing, bar.diameter),
        ]
        # Next to no moment: a hook or a bar's end is no matter; what is not developed is not counted above.
        if tension and moment > 0.05 * aci.bending_strength(steel, case.fc, case.fy, width, d):
            checks.append(Check(f"anchorage, {use}", "ACI 318-19 25.4", wants, max(room, 1e-6), "length", ""))
        sets.append(BarSet(use, bar.number, spacing, count, made.length - 2.0 * aci.COVER_EARTH, hooked))
        below = developed if sign > 0.0 else below
    return checks, sets, below


def evenly(need: float, area: float, width: float, deep: float) -> tuple[float, int]:
    """Return spacing (mm) and number of bars across a width: enough steel, no wider apart than 7.7.2.3 lets."""
    free = max(width - 2.0 * aci.COVER_EARTH, 1.0)
    count = math.ceil(need / area - 1e-9) if math.isfinite(need) else math.ceil(free / (2.0 * INCH)) + 1
    count = max(count, math.ceil(free / aci.widest_spacing(deep)) + 1, 2)
    return free / (count - 1), count


def _one_way(made: _Section, steel: float) -> Check:
    best = (0.0, "")
    for name, _, x, shear, _ in made.beams:
        clear = np.ones_like(x, dtype=bool)
        for low, high in made.faces:
            clear &= (x <= low - made.d) | (x >= high + made.d)
        if clear.any():
            best = max(best, (float(np.abs(shear[clear]).max()), name))
    cap = aci.PHI_SHEAR * aci.one_way_shear(made.case.fc, made.width, made.d, steel)
    return Check("one-way shear", "ACI 318-19 22.5.5.1", best[0] / 1000.0, cap / 1000.0, "force", best[1])


def perimeters(side: float, to_edges: tuple[float, float, float, float]) -> list[tuple[float, float, float]]:
    """Return (perimeter, area within, alpha of Table 22.6.5.3) of the sections at which a column may punch through.

    ``side``: of the square at d/2 round it; ``to_edges``: from the column's middle to the footing's edges, left,
    right, near, far.  Near an edge, three sides that run out to it may be shorter than four (22.6.4.3); near a
    corner two.
    """
    left, right, near, far = to_edges
    half = side / 2.0
    along = [(side, 0)] if min(left, right) >= half else []
    across = [(side, 0)] if min(near, far) >= half else []
    along.append((min(left, right) + half, 1))
    across.append((min(near, far) + half, 1))
    if left < half and right < half:
        along.append((left + right, 2))
    if near < half and far < half:
        across.append((near + far, 2))
    found = []
    for long, cut_x in along:
        for wide, cut_y in across:
            # Each side that runs out at an edge is not there.
            perimeter = (2 - cut_x) * wide + (2 - cut_y) * long
            if perimeter > 0.0:
                cuts = cut_x + cut_y
                found.append((perimeter, long * wide, 40.0 if not cuts else 30.0 if cuts == 1 else 20.0))
    return found


def _punching(made: _Section, k: int) -> Check:
    case, at = made.case, made.before + k * made.case.apart
    side = case.sizes[k] + made.d
    edges = (at, made.length - at, made.width / 2.0, made.width / 2.0)
    worst: tuple[float, float, float, str, float] | None = None
    for name, forces, _, _, _ in made.beams:
        q = sum(forces) / (made.length * made.width)
        for perimeter, inside, alpha in perimeters(side, edges):
            cap = aci.PHI_SHEAR * aci.two_way_shear(case.fc, perimeter, made.d, 1.0, alpha)
            force = max(forces[k] - q * inside, 0.0)
            if worst is None or force / cap > worst[0]:
                worst = (force / cap, force, cap, name, perimeter)
    _, force, cap, name, perimeter = worst or (0.0, 0.0, 1.0, "", 0.0)
    lines = (working("bo = {}", (perimeter, "length")),)
    what = f"punching shear, column {k + 1}"
    return Check(what, "ACI 318-19 22.6.4.3, 22.6.5.2", force / 1000.0, cap / 1000.0, "force", name, lines)


def _across(made: _Section, k: int) -> tuple[list[Check], BarSet]:
    """Return the checks of the bars across under one column, in a band as wide as it and d to both sides."""
    case, bar, d, size = made.case, made.bar, made.d, made.case.sizes[k]
    at = made.before + k * case.apart
    band = max(min(at + size / 2.0 + d, made.length) - max(at - size / 2.0 - d, 0.0), 1.0)
    out = (made.width - size) / 2.0
    force, name = max(((forces[k], name) for name, forces, *_ in made.beams), default=(0.0, ""))
    moment = force / made.width * out**2 / 2.0
    least = aci.least_steel(band, made.deep)
    need = max(aci.steel_for(moment, case.fc, case.fy, band, d), least)
    count = max(math.ceil(need / bar.area - 1e-9) if math.isfinite(need) else 40, 2)
    count = max(count, math.ceil(band / aci.widest_spacing(made.deep)))
    steel, room = count * bar.area, out - aci.COVER_EARTH
    straight = aci.development(bar.diameter, case.fc, case.fy)
    hook = aci.hooked_development(bar.diameter, case.fc, case.fy, band / count)
    part = min(need / steel, 1.0)
    hooked = max(straight * part, 12.0 * INCH) > room
    wants = max(hook * part, 8.0 * bar.diameter, 6.0 * INCH) if hooked else max(straight * part, 12.0 * INCH)
    developed = min(max(room, 0.0) / (hook if hooked else straight), 1.0) * steel
    cap = aci.PHI_FLEXURE * aci.bending_strength(developed, case.fc, case.fy, band, d) if developed else 0.0
    what = f"across, column {k + 1}"
    checks = [
        Check(f"bending {what}", "ACI 318-19 13.3.4, 22.3", moment * 1e-6, cap * 1e-6, "moment", name),
        Check(f"anchorage {what}", "ACI 318-19 25.4", wants if moment > 1e3 else 0.0, max(room, 1e-6), "length", ""),
        spacing_check(band / count, bar.diameter),
    ]
    return checks, BarSet(what, bar.number, band / count, count, made.width - 2.0 * aci.COVER_EARTH, hooked)
