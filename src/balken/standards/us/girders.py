"""Beams on two supports or more: wood by ANSI/AWC NDS 2018, steel W shapes by AISC 360-16, allowable stresses.

Live loads lie on any spans, each place taking the arrangement that is worst there.  The top edge is held as told; the
bottom edge at the supports alone, so that a stretch that hogs is as long as its span.
"""

from collections.abc import Callable
from functools import cached_property, lru_cache

import numpy as np
from msgspec.structs import replace
from numpy.typing import NDArray

from balken.analysis.lines import Line, Solved
from balken.analysis.patterns import extremes, parts_of
from balken.catalog.beams import BeamSection
from balken.loads.cases import COUNT, Cases, Combination
from balken.standards.checks import Check, GirderCurves, GirderResult, MemberResult, worst_of
from balken.standards.demands import GirderCase
from balken.standards.measures import Working, working
from balken.standards.us import i_joists, steel_beams
from balken.standards.us.asce7 import ASD
from balken.standards.us.engineered import (
    VENEER,
    WET_GLULAM,
    depth_factor,
    engineered,
    volume_factor,
)
from balken.standards.us.members import WET, values_row
from balken.standards.us.pressed_boards import pressed_values
from balken.standards.us.stability import (
    beam_stability_factor,
    bearing_area_factor,
    buckling_stress,
    repetitive_factor,
    stability_factor,
)
from balken.standards.us.uplift import uplift_check
from balken.standards.us.values import reference_values, size_factors
from balken.units.system import INCH
from balken.value import Value

Array = NDArray[np.float64]
MOVING = (Cases._fields.index("live"), Cases._fields.index("roof_live"))
PLACES = 48
"""Places a span at which moments and sags are looked at."""
COMES_AND_GOES = (Cases(live=1.0), Cases(roof_live=1.0), Cases(snow=1.0), Cases(wind=0.6))
"""Single loads that count for sag; wind is at strength level."""
LONG_TERM = 1.5
"""Kcr, NDS 3.5.2: seasoned lumber, glued and veneer lumber, dry."""
FROM_END = 3.0 * INCH


@lru_cache(maxsize=2_048)
def check_girder(case: GirderCase) -> GirderResult:
    """Solve and check a beam; raises KeyError for sizes, species, grades without values, LineError for bad supports."""
    bent = _Bent(case)
    if case.section.kind == "I-joist":
        return _i_joist(bent)
    wood = _wood(case) if case.section.shape is None else None
    checks = [*_sag_checks(bent, _modulus_of_elasticity(case))]
    if wood is not None:
        checks += [*_wood_bending(bent, wood), _wood_shear(bent, wood), _wood_bearing(bent, wood)]
        checks += _at_hangers(bent, wood)
        checks += _pressed_and_bent(bent, wood) if any(case.push) else []
    else:
        checks += [*_steel_bending(bent), _steel_shear(bent), _seats(bent)]
    checks.sort(key=lambda check: -check.used)
    return _whole(bent, MemberResult(case, tuple(checks)), _modulus_of_elasticity(case) * case.section.inertia)


def check_running(case: GirderCase) -> MemberResult:
    """Check a joist that runs on: as a beam, and what lifts at a bearing, which nothing holds down."""
    made = check_girder(case)
    least = min(low for _, low in made.extremes)
    if least > -1e-6:
        return made.result
    checks = (*made.result.checks, uplift_check(-least, "live load on some spans"))
    return replace(made.result, checks=tuple(sorted(checks, key=lambda check: -check.used)))


def _i_joist(bent: "_Bent") -> GirderResult:
    """Return an I-joist checked by its tabulated values."""
    case = bent.case
    assert case.section.made is not None
    values = i_joists.tabulated(case.section.made)
    moments = np.abs(bent.moments).max(axis=(0, 1))
    shears = np.abs(bent.shears).max(axis=(0, 1))
    live = np.abs(extremes(bent.line.moments @ bent._with_own(np.array([*COMES_AND_GOES])))).max()
    result = i_joists.check_line(
        case, bent.combos, moments.tolist(), shears.tolist(), bent.reactions[0].tolist(),
        [sag for sag, _ in bent.sags(values.ei)], float(live),
    )  # fmt: skip
    return _whole(bent, result, values.ei)


def _whole(bent: "_Bent", result: MemberResult, ei: float) -> GirderResult:
    raw = bent.raw.sum(axis=0)
    return GirderResult(
        result,
        tuple(Cases(*row) for row in raw.tolist()),
        tuple(zip(bent.reactions[0].max(axis=1).tolist(), bent.reactions[1].min(axis=1).tolist(), strict=True)),
        (max(float(bent.moments[0].max()), 0.0), min(float(bent.moments[1].min()), 0.0)),
        float(np.abs(bent.shears).max()),
        tuple((Cases(*most), Cases(*least)) for most, least in zip(*extremes(bent.raw).tolist(), strict=True)),
        tuple(bent.sags(ei)),
    )


@lru_cache(maxsize=64)
def girder_curves(case: GirderCase) -> GirderCurves:
    """Return the moments and shears along a beam; raises KeyError and LineError as its check does."""
    bent = _Bent(case)
    sag, hog = bent.moments[0].max(axis=1), bent.moments[1].min(axis=1)
    after, before = (bent.shears[i : i + 2] for i in (0, 2))
    up = np.stack([before[0].max(axis=1), after[0].max(axis=1)], axis=1)
    down = np.stack([before[1].min(axis=1), after[1].min(axis=1)], axis=1)
    up[0, 0] = down[0, 0] = up[-1, 1] = down[-1, 1] = 0.0  # beyond its ends there is none
    twice = (np.repeat(bent.at, 2), np.repeat(sag, 2), np.repeat(hog, 2), up.ravel(), down.ravel())
    return GirderCurves(*(tuple(row.tolist()) for row in twice))


def girder_values(case: GirderCase) -> tuple[tuple[str, Working], ...]:
    """Return the values a check of a beam reads, with their sources."""
    section = case.section
    if section.shape is not None:
        row = working("Zx = {}, Sx = {}, Fy = {}", (section.shape.plastic, "modulus"), (section.modulus, "modulus"),
                      (steel_beams.FY, "stress"))  # fmt: skip
        source = "list of the project" if section.own is not None else "AISC Manual, Table 1-1"
        return ((f"ASTM A992, {source}", row),)
    if section.made is not None:
        return (i_joists.section_row(section.made),)
    if section.board is not None:
        tables = "Tables 4A and 4B" + (WET if case.outdoors else "")
        return (values_row(reference_values(case.species, case.grade, section.board, case.outdoors), tables),)
    v = engineered(section)
    row = working("Fb {}, hogging {}, Fv {}, Fc perp {}, E {}", (v.fb, "stress"), (v.fb_hogging, "stress"),
                  (v.fv, "stress"), (v.fc_perp, "stress"), (v.e, "stress"))  # fmt: skip
    return ((v.source, row),)


class _Line(Value, frozen=True, eq=False):
    """A beam's line solved, whatever its section: what is always there and each span's part of the loads that move.

    Arrays (parts, places, cases + 1); the last case is a weight of 1 N/mm along it.
    """

    parts: Solved
    at: Array
    moments: Array
    after: Array
    before: Array
    sags: Array


@lru_cache(maxsize=256)
def _solved(case: GirderCase) -> _Line:
    """Solve a beam without its section and weight."""
    parts = parts_of(_line(case), MOVING if case.skip else ())
    marks = [np.linspace(a, b, PLACES + 1) for a, b, _ in case.stretches]
    at = np.unique(np.concatenate([*marks, parts.corners.ravel()]))
    every = np.tile(at, (len(parts.length), 1))
    return _Line(parts, at, parts.moment(every), parts.shear(every), parts.shear(every, before=True), parts.sag(every))


class _Bent:
    """A beam with its section: what every arrangement of its loads brings, by the combinations that are true of it."""

    def __init__(self, case: GirderCase) -> None:
        self.case = case
        present = _present(case)
        self.combos: tuple[Combination, ...] = ASD.true_of(Cases(*present.tolist()))
        self.line = _solved(replace(case, size="", own=0.0, species="", grade="", held=None, repetitive=False))
        self.at = self.line.at
        self.factors = self._with_own(np.array([c.factors for c in self.combos]))

    def _with_own(self, factors: Array) -> Array:
        """Return factors (cases + 1, rows) with what they make of its own weight."""
        dead = factors[:, :1] * self.case.own
        return np.concatenate([factors, dead], axis=1).T

    @cached_property
    def raw(self) -> Array:
        """Reactions (parts, supports, cases) with its own weight among the dead load, N."""
        found: Array = self.line.parts.reactions[:, :, :-1].copy()
        found[:, :, 0] += self.line.parts.reactions[:, :, -1] * self.case.own
        return found

    @cached_property
    def reactions(self) -> Array:
        """Most and least (2, supports, combinations), N."""
        return extremes(self.line.parts.reactions @ self.factors)

    @cached_property
    def moments(self) -> Array:
        """Most and least (2, places, combinations), N mm."""
        return extremes(self.line.moments @ self.factors)

    @cached_property
    def shears(self) -> Array:
        """Most and least shear, just after and just before each place (4, places, combinations), N."""
        line = self.line
        return np.concatenate([extremes(line.after @ self.factors), extremes(line.before @ self.factors)])

    def in_stretch(self, a: float, b: float) -> NDArray[np.bool_]:
        """Return which places lie in a stretch."""
        inside: NDArray[np.bool_] = (self.at >= a - 1e-6) & (self.at <= b + 1e-6)
        return inside

    def sags(self, ei: float) -> list[tuple[float, float]]:
        """Return for each stretch the greatest sag under what comes and goes, and with 1.5 D, up or down, mm."""
        live = extremes(self.line.sags @ self._with_own(np.array([*COMES_AND_GOES]))) / ei
        steady = (self.line.sags @ self._with_own(np.array([Cases(dead=LONG_TERM)]))).sum(axis=0) / ei
        whole = np.abs(np.concatenate([steady, steady + live[0], steady + live[1]], axis=1)).max(axis=1)
        most = np.abs(live).max(axis=(0, 2))
        rows = [self.in_stretch(a, b) for a, b, _ in self.case.stretches]
        return [(_peak(self.at[row], most[row]), _peak(self.at[row], whole[row])) for row in rows]


def _peak(at: Array, values: Array) -> float:
    """Return the greatest of a smooth curve looked at in places: the top of the parabola through the greatest and its neighbours."""
    k = int(values.argmax())
    if not 0 < k < len(values) - 1:
        return float(values[k])
    (before, after), (fall, rise) = at[[k - 1, k + 1]] - at[k], values[[k - 1, k + 1]] - values[k]
    if min(-before, after) < 1.0:  # too near each other to tell a slope
        return float(values[k])
    bend = (fall / before - rise / after) / (before - after)
    slope = fall / before - bend * before
    return float(values[k] - (slope * slope / (4.0 * bend) if bend < 0.0 else 0.0))


def _present(case: GirderCase) -> Array:
    """Return which cases there are: a load that lifts is there as much as one that presses."""
    found = np.zeros(COUNT)
    found[0] += abs(case.own)
    for low, high, a, b in case.patches:
        found += (np.abs(a) + np.abs(b)) * (high - low)
    for _, force in case.points:
        found += np.abs(force)
    return found


def _line(case: GirderCase) -> Line:
    """Return a beam's line with one case more: a weight of 1 N/mm along it."""
    ends: dict[tuple[float, float], Array] = {(0.0, case.length): np.array([[0.0] * COUNT + [1.0]] * 2)}
    for low, high, a, b in case.patches:  # those over one stretch are one
        loads = np.array([[*a, 0.0], [*b, 0.0]])
        ends[(low, high)] = ends[(low, high)] + loads if (low, high) in ends else loads
    return Line(
        case.length,
        case.supports,
        np.array(list(ends), dtype=np.float64).reshape(-1, 2),
        np.array(list(ends.values())).reshape(-1, 2, COUNT + 1),
        np.array([x for x, _ in case.points], dtype=np.float64),
        np.array([[*f, 0.0] for _, f in case.points], dtype=np.float64).reshape(-1, COUNT + 1),
    )


# Wood -----------------------------------------------------------------------------------------------


class _Wood(Value, frozen=True):
    """Stresses that a beam's wood takes before load duration and stability, N/mm2; ``volume``: whether CV applies."""

    fb: float
    fb_hogging: float
    fv: float
    fc_perp: float
    e_turning: float
    volume: bool
    said: str


def _wood(case: GirderCase) -> _Wood:
    section, cr = case.section, 1.0
    if case.repetitive:
        cr = repetitive_factor(section.kind, 0.0)  # type: ignore[arg-type]
    if section.board is not None:
        lumber, cf = (
            reference_values(case.species, case.grade, section.board, case.outdoors),
            size_factors(case.species, case.grade, section.board)[0],
        )
        fb = lumber.fb * cf * cr
        return _Wood(fb, fb, lumber.fv, lumber.fc_perp, lumber.e_min, False, "Fb CD CF Cr CL")
    if section.kind == "laminated veneer":
        v = engineered(section)
        deep = depth_factor(section.depth, v.depth_exponent) * cr
        said = "1/9" if v is VENEER else f"{v.depth_exponent:g}"
        return _Wood(
            v.fb * deep, v.fb_hogging * deep, v.fv, v.fc_perp, v.e_turning, False, f"Fb (12/d)^({said}) CD Cr CL"
        )
    g = engineered(section)
    if case.outdoors:
        m = WET_GLULAM
        said = "Fb CM CD (CL or CV)"
        return _Wood(
            m.fb * g.fb, m.fb * g.fb_hogging, m.fv * g.fv, m.fc_perp * g.fc_perp, m.e * g.e_turning, True, said
        )
    return _Wood(g.fb, g.fb_hogging, g.fv, g.fc_perp, g.e_turning, True, "Fb CD (CL or CV)")


def _modulus_of_elasticity(case: GirderCase) -> float:
    section = case.section
    if section.shape is not None:
        return steel_beams.E
    if section.board is not None:
        return reference_values(case.species, case.grade, section.board, case.outdoors).e
    if section.kind == "laminated veneer":
        return engineered(section).e
    return engineered(section).e * (WET_GLULAM.e if case.outdoors else 1.0)


def _wood_bending(bent: _Bent, wood: _Wood) -> list[Check]:
    sagging, hogging = [], []
    for a, b, over in bent.case.stretches:
        row = bent.in_stretch(a, b)
        for k, combo in enumerate(bent.combos):
            up, down = float(bent.moments[0][row, k].max()), float(-bent.moments[1][row, k].min())
            if up > 0.0:
                unbraced = bent.case.held if bent.case.held is not None else b - a
                sagging.append(_bending(bent, wood, combo, up, wood.fb, unbraced, (a, b, 1.0)))
            if down > 0.0:
                hogging.append(_bending(bent, wood, combo, down, wood.fb_hogging, b - a, (a, b, -1.0), over))
    return [worst_of(rows) for rows in (sagging, hogging) if rows]


def _bending(
    bent: _Bent, wood: _Wood, combo: Combination, moment: float, fb: float, unbraced: float,
    where: tuple[float, float, float], over: bool = False,
) -> Check:  # fmt: skip
    section = bent.case.section
    star = fb * combo.duration
    stable = _stability(bent, star, wood.e_turning, unbraced)
    factor, said = stable, f"CL = {stable:.3f} (NDS 3.3.3), lu = {{}}"
    if wood.volume:
        between = _between_no_moment(bent, *where)
        volume = volume_factor(between, section)
        factor = min(stable, volume)
        said = f"CV = {volume:.3f} over {{}} between points of no moment (NDS 5.3.6), CL = {stable:.3f}, lu = {{}}"
    allowed = star * factor
    lengths = ((between, "length"),) if wood.volume else ()
    lines = (
        working("M = {}, S = {}", (moment * 1e-6, "moment"), (section.modulus, "modulus")),
        working(f"Fb' = {wood.said} = {{}}", (allowed, "stress")),
        working(said, *lengths, (unbraced, "length")),
    )
    name = "bending" if where[2] > 0.0 else "bending, hogging"
    return Check(name, "NDS 3.3.1", moment / section.modulus, allowed, "stress", combo.name, lines)


def _stability(bent: _Bent, star: float, e_min: float, unbraced: float) -> float:
    """Return CL; where more than an even load bends it, the longer effective length of Table 3.3.3's note counts."""
    section = bent.case.section
    plain = beam_stability_factor(star, e_min, unbraced, section.breadth, section.depth)
    if not bent.case.points or unbraced / section.depth <= 14.3:
        return plain
    # 1.84 lu in place of 1.63 lu + 3 d: as if it were held so much farther apart.
    longer = max(unbraced, (1.84 * unbraced - 3.0 * section.depth) / 1.63)
    return beam_stability_factor(star, e_min, longer, section.breadth, section.depth)


def _between_no_moment(bent: _Bent, a: float, b: float, sign: float) -> float:
    """Return the length over which the moment of a stretch keeps its sign, in whatever arrangement, mm."""
    values = bent.moments[0 if sign > 0.0 else 1].max(axis=1) if sign > 0.0 else -bent.moments[1].min(axis=1)
    inside = bent.in_stretch(a, b)
    best = int(np.where(inside, values, -np.inf).argmax())
    low = high = best
    while low > 0 and values[low - 1] > 0.0:
        low -= 1
    while high < len(values) - 1 and values[high + 1] > 0.0:
        high += 1
    low, high = max(low - 1, 0), min(high + 1, len(values) - 1)
    return float(bent.at[high] - bent.at[low])


def _wood_shear(bent: _Bent, wood: _Wood) -> Check:
    """Shear as NDS 3.4.3.1(a): even loads within the depth of a support's face do not count, others by x/d."""
    section, case = bent.case.section, bent.case
    most = np.abs(_shears_for_wood(bent)).max(axis=0)
    rows = []
    for k, combo in enumerate(bent.combos):
        force = float(most[k])
        lines = (working("V = {}, d = {}", (force / 1000.0, "force"), (section.depth, "length")),)
        stress = 1.5 * force / section.area
        clause = "NDS 3.4.2, 3.4.3.1(a)"
        rows.append(Check("shear", clause, stress, wood.fv * combo.duration, "stress", combo.name, lines))
    assert case.supports
    return worst_of(rows)


def _pressed_and_bent(bent: _Bent, wood: _Wood) -> list[Check]:
    """(fc / Fc')^2 + fb / (Fb' (1 - fc / FcE)) <= 1 (NDS 3.9.2), at the place that bends most: it buckles across its depth over its whole
    length, what hangs at its sides holds it the other way.
    """
    case, section, rows = bent.case, bent.case.section, list[Check]()
    length = max(b - a for a, b, _ in case.stretches)
    fc_plain, e_min = pressed_values(case.section, case.species, case.grade, case.outdoors)
    for k, combo in enumerate(bent.combos):
        fc = max(combo.of(case.push), 0.0) / section.area
        star = fc_plain * combo.duration
        fce = buckling_stress(e_min, length / section.depth)
        fc_allowed = star * stability_factor(star, e_min, length, section.depth) if star > 0.0 else 0.0
        moment = max(float(bent.moments[0][:, k].max()), float(-bent.moments[1][:, k].min()), 0.0)
        unbraced = case.held if case.held is not None else length
        fb_star = wood.fb * combo.duration
        fb_allowed = fb_star * _stability(bent, fb_star, wood.e_turning, unbraced)
        fb = moment / section.modulus
        works = fc_plain > 0.0 and fc < fce
        ratio = (fc / fc_allowed) ** 2 + fb / (fb_allowed * (1.0 - fc / fce)) if works else 99.0
        lines = (
            working("fc = {}, Fc' = {}, FcE = {}", (fc, "stress"), (fc_allowed, "stress"), (fce, "stress")),
            working("fb = {}, Fb' = {}", (fb, "stress"), (fb_allowed, "stress")),
        )
        rows.append(Check("compression and bending", "NDS 3.9.2", ratio, 1.0, "ratio", combo.name, lines))
    return [worst_of(rows)]


NEAR_END = 5.0
"""A connection nearer to an end than so many depths is one at an end (NDS 3.4.3.3)."""


def _at_hangers(bent: _Bent, wood: _Wood) -> list[Check]:
    """Return the check of shear where joists hang at its sides (NDS 3.4.3.3): only the depth from their uppermost nails down
    counts, near an end less of it by (de/d)2; loads near a support count in full.
    """
    case, section = bent.case, bent.case.section
    if case.nailed is None:
        return []
    deep = max(section.depth - case.nailed, 1.0)
    shears = np.abs(bent.shears).max(axis=0)
    ends = np.minimum(bent.at, case.length - bent.at) < NEAR_END * section.depth
    rows = []
    for k, combo in enumerate(bent.combos):
        for where, factor, here in (
            ("near an end", (deep / section.depth) ** 2, ends),
            ("away from the ends", 1.0, ~ends),
        ):
            if not here.any():
                continue
            force = float(shears[here, k].max())
            cap = 2.0 / 3.0 * wood.fv * combo.duration * section.breadth * deep * factor
            lines = (working(f"{where}: de = {{}} of d = {{}}", (deep, "length"), (section.depth, "length")),)
            rows.append(
                Check("shear at hangers", "NDS 3.4.3.3", force / 1000.0, cap / 1000.0, "force", combo.name, lines)
            )
    return [worst_of(rows)]


def _shears_for_wood(bent: _Bent) -> Array:
    """Return shears (s, combinations) that count: beyond the depth from each support's face, and at that place."""
    case, d, found = bent.case, bent.case.section.depth, []
    zones = []
    for at, bearing in zip(case.supports, case.bearings, strict=True):
        for way in (-1.0, 1.0):
            room = _room(case, at, way)
            if room <= 1.0:
                continue
            reach = min(bearing / 2.0 + d, room)
            zones.append((min(at, at + way * reach), max(at, at + way * reach)))
            found.append(_at_face(bent, at, way, bearing / 2.0, reach))
    free = np.ones(len(bent.at), dtype=bool)
    for a, b in zones:
        free &= ~((bent.at > a - 1e-6) & (bent.at < b + 1e-6))
    if free.any():
        found.append(bent.shears[:, free].reshape(-1, len(bent.combos)))
    return np.concatenate(found)


def _room(case: GirderCase, at: float, way: float) -> float:
    """Return how far it is from a support to the middle of its span, or to the end of its overhang, mm."""
    marks = [0.0, *case.supports, case.length]
    beyond = [abs(x - at) for x in marks if (x - at) * way > 1.0]
    if not beyond:
        return 0.0
    to_support = [abs(x - at) for x in case.supports if (x - at) * way > 1.0]
    return min(to_support) / 2.0 if to_support else min(beyond)


def _at_face(bent: _Bent, at: float, way: float, half: float, reach: float) -> Array:
    """Return the extremes of the shear beside a support (2, combinations): that at ``reach``, points nearer by x/d."""
    solved = bent.line.parts
    place = np.full((len(solved.length), 1), at + way * reach)
    # On the far side of the place nothing of it counts: just after it going right, just before it going left.
    shear = solved.shear(place, before=way < 0.0)[:, 0]
    if solved.points.shape[1]:
        away = (solved.points - at) * way
        part = np.where((away > 0.0) & (away <= reach), np.maximum(away - half, 0.0) / max(reach - half, 1.0), 0.0)
        shear = shear + way * (solved.forces * part[:, :, None]).sum(axis=1)
    return extremes(shear @ bent.factors)


def _wood_bearing(bent: _Bent, wood: _Wood) -> Check:
    case, rows = bent.case, []
    for at, bearing, most in zip(case.supports, case.bearings, bent.reactions[0], strict=True):
        k = int(most.argmax())
        where = "inner" if min(at, case.length - at) - bearing / 2.0 >= FROM_END else "end"
        factor = bearing_area_factor(bearing, where)  # type: ignore[arg-type]
        force = max(float(most[k]), 0.0)
        lines = (
            working(
                f"R = {{}} on {{}}, Cb = {factor:.2f} (NDS 3.10.4)", (force / 1000.0, "force"), (bearing, "length")
            ),
        )
        stress = force / (case.section.breadth * bearing)
        allowed = wood.fc_perp * factor
        rows.append(Check("bearing", "NDS 3.10.2", stress, allowed, "stress", bent.combos[k].name, lines))
    return worst_of(rows)


# Steel ----------------------------------------------------------------------------------------------


def _steel_bending(bent: _Bent) -> list[Check]:
    sagging, hogging = [], []
    for a, b, _ in bent.case.stretches:
        row = bent.in_stretch(a, b)
        for k, combo in enumerate(bent.combos):
            up, down = float(bent.moments[0][row, k].max()), float(-bent.moments[1][row, k].min())
            held = bent.case.held if bent.case.held is not None else b - a
            if up > 0.0:
                sagging.append(_flexure(bent.case.section, "bending", combo, up, held))
            if down > 0.0:
                hogging.append(_flexure(bent.case.section, "bending, hogging", combo, down, b - a))
    return [worst_of(rows) for rows in (sagging, hogging) if rows]


def _flexure(section: BeamSection, name: str, combo: Combination, moment: float, unbraced: float) -> Check:
    assert section.shape is not None
    strength, clause = steel_beams.flexural_strength(section.shape, unbraced)
    lines = (working("Mn/1.67 = {}, Lb = {}, Cb = 1", (strength * 1e-6, "moment"), (unbraced, "length")),)
    return Check(name, clause, moment * 1e-6, strength * 1e-6, "moment", combo.name, lines)


def _steel_shear(bent: _Bent) -> Check:
    assert bent.case.section.shape is not None
    strength, clause = steel_beams.shear_strength(bent.case.section.shape)
    most = np.abs(bent.shears).max(axis=(0, 1))
    k = int(most.argmax())
    return Check("shear", clause, float(most[k]) / 1000.0, strength / 1000.0, "force", bent.combos[k].name)


def _seats(bent: _Bent) -> Check:
    case, shape, rows = bent.case, bent.case.section.shape, []
    assert shape is not None
    for at, bearing, most in zip(case.supports, case.bearings, bent.reactions[0], strict=True):
        k = int(most.argmax())
        inner = min(at, case.length - at) > shape.depth
        strength, clause = steel_beams.seat_strength(shape, bearing, inner)
        force = max(float(most[k]), 0.0)
        lines = (working("R = {} on {}", (force / 1000.0, "force"), (bearing, "length")),)
        name = "web over the seat"
        rows.append(Check(name, clause, force / 1000.0, strength / 1000.0, "force", bent.combos[k].name, lines))
    return worst_of(rows)


# Sag ------------------------------------------------------------------------------------------------


def _sag_checks(bent: _Bent, e: float) -> list[Check]:
    case = bent.case
    sags = bent.sags(e * case.section.inertia)
    length: Callable[[tuple[float, float, bool]], float] = lambda s: (s[1] - s[0]) * (2.0 if s[2] else 1.0)  # noqa: E731
    live = [(sag[0] / length(s), sag[0], length(s)) for sag, s in zip(sags, case.stretches, strict=True)]
    whole = [(sag[1] / length(s), sag[1], length(s)) for sag, s in zip(sags, case.stretches, strict=True)]
    found = []
    for rows, limit, name, combo in (
        (live, case.limit, "deflection L/{:g}", "the greatest load that comes and goes"),
        (whole, case.total_limit, "deflection L/{:g}, all load", "1.5 D and that"),
    ):
        _, sag, long = max(rows)
        lines = (working("E = {}, L = {}", (e, "stress"), (long, "length")),)
        found.append(Check(name.format(limit.n), limit.clause, sag, long / limit.n, "length", combo, lines))
    return found
