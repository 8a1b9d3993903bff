"""Sawn joists, rafters and ceiling ties by allowable stress design.

ANSI/AWC NDS 2018 for strength, IRC 2018 R301.7 for deflection.  Members are simple spans; compression edges are
held by deck or sheathing, so CL = 1 (NDS 4.4.1).  Dry service, no incising, normal temperature.  In a building a
span is that of NDS 3.2.1; the span tables of the IRC (AWC) take it clear between bearings.
"""

import math
from functools import lru_cache
from typing import Literal

from msgspec.structs import replace

from balken.analysis.beam import (
    TwoSpans,
    cantilever_moment,
    greatest_tied_moment,
    point_deflection,
    simple_deflection,
    simple_moment,
    simple_shear,
    sloped_deflection,
    tied_moment,
    two_spans,
)
from balken.loads.cases import Cases, Combination
from balken.standards.checks import Check, MemberResult, Span, worst_of
from balken.standards.demands import BeamCase, MemberCase, StudCase
from balken.standards.measures import Working, working
from balken.standards.us import i_joists
from balken.standards.us.asce7 import ASD
from balken.standards.us.engineered import VENEER
from balken.standards.us.stability import (
    SLENDEREST,
    beam_stability_factor,
    buckling_stress,
    design_span,
    repetitive_factor,
    stability_factor,
)
from balken.standards.us.uplift import uplift_check
from balken.standards.us.values import Values, reference_values, size_factors
from balken.standards.us.wind_parts import FLAT
from balken.units.system import INCH

NO_LOAD = Cases()
Kind = Literal["joist", "rafter", "ceiling tie"]

WET = ", times CM (wet) and Ci (incised, NDS 4.3.8)"
LEAST_BEARING = 1.5 * INCH
"""IRC R502.6 and R802.6: bearing on wood or metal."""


def wood_values(case: MemberCase | StudCase | BeamCase) -> tuple[str, Working]:
    """Return the reference values of a member's lumber, with their source."""
    if case.section.kind == "laminated veneer":
        return VENEER.source, values_row(reference_values(case.species, case.grade, case.section), "")[1]
    if isinstance(case, StudCase):
        return values_row(reference_values(case.species, case.grade, case.section), "Tables 4A and 4B")
    tables = "Tables 4A and 4B" + (WET if case.outdoors else "")
    return values_row(reference_values(case.species, case.grade, case.section, case.outdoors), tables)


def values_row(values: Values, tables: str) -> tuple[str, Working]:
    """Return reference values of the NDS Supplement as they are printed."""
    row = working(
        "Fb {}, Ft {}, Fv {}, Fc perp {}, Fc {}, E {}, Emin {}",
        (values.fb, "stress"),
        (values.ft, "stress"),
        (values.fv, "stress"),
        (values.fc_perp, "stress"),
        (values.fc, "stress"),
        (values.e, "stress"),
        (values.e_min, "stress"),
    )
    return f"NDS Supplement, {tables}", row


def repetitive(case: MemberCase) -> float:
    """Return Cr for its spacing."""
    return repetitive_factor(case.section.kind, case.spacing)


def end_force(case: MemberCase, combo: Combination) -> float:
    """Return what it brings to its most loaded bearing under a combination, N; below zero it lifts."""
    if any(case.bears):
        return combo.of(case.bears)
    beyond = 0.0 if case.tables else case.over + case.bearing
    return combo.of(case.line) * (case.clear / 2.0 + beyond)


def span_of(case: MemberCase, values: Values, combo: Combination) -> float:
    """Return the span for strength and sag (NDS 3.2.1), mm in plan."""
    if case.tables:
        return case.clear
    # Half the needed bearing at each end, never more than there is.
    need = abs(combo.of(case.line)) * case.clear / 2.0 / (values.fc_perp * case.section.breadth)
    return design_span(case.clear, min(need, case.bearing))


def bending_value(case: MemberCase, values: Values, duration: float) -> float:
    """Return Fb' = Fb CD CF Cr (NDS Table 4.3.1), N/mm2."""
    cf = size_factors(case.species, case.grade, case.section)[0]
    return values.fb * duration * cf * repetitive(case)


@lru_cache(maxsize=8_192)
def check_member(case: MemberCase) -> MemberResult:
    """Check bending, shear, bearing and deflection (and axial force with bending, the overhang, what lifts).

    Raises KeyError for unknown sizes, species or grades.
    """
    if case.section.kind == "I-joist":
        return i_joists.check_joist(case)
    values = reference_values(case.species, case.grade, case.section, case.outdoors)
    combos = ASD.true_of(case.load.plus(case.tension).plus(case.thrust).plus(case.bears))
    found = [
        worst_of([_bending(case, values, c) for c in combos]),
        worst_of([_shear(case, values, c) for c in combos]),
        _deflection(case, values),
    ]
    if not case.nailed:
        found.append(worst_of([_bearing(case, values, c) for c in combos]))
    if case.propped > 0.0:
        found.append(worst_of([_on_purlin(case, values, c) for c in combos]))
    if case.let_in > 0.0:
        found += [worst_of([f(case, values, c) for c in combos]) for f in (_at_notch, _notch_shear)]
    if any(case.tension):
        found.append(worst_of([_tension(case, values, c) for c in combos]))
    if any(case.thrust):
        found += [worst_of([f(case, values, c) for c in combos]) for f in (_pressed, _pressed_and_bent)]
    if case.over > 0.0:
        found.append(worst_of([_overhang(case, values, c) for c in combos]))
        found += [_iced(case, values)] if case.ice > 0.0 else []
    if case.lifts.along > 0.0:
        found.append(_bent_upward(case, values))
        found += [_tail_upward(case, values)] if case.over > 0.0 else []
    lifted = min(combos, key=lambda combo: end_force(case, combo))
    if end_force(case, lifted) < -1e-6:
        found.append(uplift_check(-end_force(case, lifted), lifted.name))
    found.sort(key=lambda check: -check.used)
    return MemberResult(case, tuple(found))


def _moment(case: MemberCase, values: Values, combo: Combination) -> float:
    w, span = combo.of(case.line), span_of(case, values, combo)
    if case.tied_at > 0.0:
        return greatest_tied_moment(w, span, _lift(case, combo, span), case.tied_at)
    if case.propped > 0.0:
        return _over_purlin(case, w, span).most
    return abs(simple_moment(w, span))


def _parts(case: MemberCase, span: float) -> tuple[float, float]:
    """Return the two spans of a rafter over a purlin, mm in plan: each reaches as far into its end's bearing as the whole span does."""
    lower = case.propped + (span - case.clear) / 2.0
    return lower, span - lower


def _over_purlin(case: MemberCase, w: float, span: float) -> TwoSpans:
    """Return how a rafter over a purlin bears: in one piece over that, its overhang, which lessens the moments, left out."""
    return two_spans(w, *_parts(case, span))


def _lift(case: MemberCase, combo: Combination, span: float) -> float:
    """Return the pull of a raised tie times the rafter's rise, Nmm."""
    return combo.of(case.thrust) * case.pitch * span


TIED = "M = {}, with the tie's pull of {} at {} of the rise; S = {}"


def _bending(case: MemberCase, values: Values, combo: Combination) -> Check:
    moment, span = _moment(case, values, combo), span_of(case, values, combo)
    allowed = bending_value(case, values, combo.duration)
    cf = size_factors(case.species, case.grade, case.section)[0]
    bent = working("M = w L\u00b2/8 = {}, S = {}", (moment * 1e-6, "moment"), (case.section.modulus, "modulus"))
    if case.tied_at > 0.0:
        bent = working(
            TIED,
            (moment * 1e-6, "moment"),
            (combo.of(case.thrust) / 1000.0, "force"),
            (case.tied_at, "factor"),
            (case.section.modulus, "modulus"),
        )
    if case.propped > 0.0:
        lower, upper = _parts(case, span)
        bent = working(
            "over the purlin {} and {} long: M = {}, S = {}",
            (lower, "length"),
            (upper, "length"),
            (moment * 1e-6, "moment"),
            (case.section.modulus, "modulus"),
        )
    lines = (
        working("span {} (NDS 3.2.1), w = {}", (span, "length"), (combo.of(case.line), "line force")),
        bent,
        working(
            f"Fb' = Fb CD CF Cr = {{}} x {combo.duration:g} x {cf:g} x {repetitive(case):g} = {{}}",
            (values.fb, "stress"),
            (allowed, "stress"),
        ),
    )
    return Check("bending", "NDS 3.3.1", moment / case.section.modulus, allowed, "stress", combo.name, lines)


def _shear(case: MemberCase, values: Values, combo: Combination) -> Check:
    """Loads within the depth of the support are left out, NDS 3.4.3.1(a); fv = 3 V / (2 b d), NDS 3.4.2."""
    force = simple_shear(abs(combo.of(case.line)), case.clear, case.section.depth)
    if case.tied_at > 0.0:
        force += abs(combo.of(case.thrust)) * case.pitch * (1.0 - case.tied_at)
    if case.propped > 0.0:
        w, span = combo.of(case.line), span_of(case, values, combo)
        made, (lower, upper) = _over_purlin(case, w, span), _parts(case, span)
        force = max(abs(w) * (part / 2.0 - case.section.depth) + made.over / part for part in (lower, upper))
    stress = 1.5 * force / case.section.area
    lines = (
        working("V at d from the face = {} (NDS 3.4.3.1)", (force / 1000.0, "force")),
        working(f"fv = 3 V/(2 b d), Fv' = {{}} x {combo.duration:g}", (values.fv, "stress")),
    )
    return Check("shear", "NDS 3.4.2", stress, values.fv * combo.duration, "stress", combo.name, lines)


def _bearing(case: MemberCase, values: Values, combo: Combination) -> Check:
    """Cb = 1 at member ends (NDS 3.10.4); Fc perp takes no load duration factor (NDS Table 4.3.1)."""
    force, length = max(end_force(case, combo), 0.0), max(case.bearing, 1.0)
    stress = force / (case.section.breadth * length)
    lines = (working("R = {} on {} of bearing", (force / 1000.0, "force"), (length, "length")),)
    return Check("bearing", "NDS 3.10.2", stress, values.fc_perp, "stress", combo.name, lines)


def _on_purlin(case: MemberCase, values: Values, combo: Combination) -> Check:
    """Across the grain on a purlin's edge; nothing added for the wood beside so short a bearing (Cb = 1, NDS 3.10.4)."""
    force = max(_over_purlin(case, combo.of(case.line), span_of(case, values, combo)).middle, 0.0)
    lines = (working("R = {} on {} of the purlin", (force / 1000.0, "force"), (case.prop_breadth, "length")),)
    stress = force / (case.section.breadth * max(case.prop_breadth, 1.0))
    return Check("bearing on the purlin", "NDS 3.10.2", stress, values.fc_perp, "stress", combo.name, lines)


def _left(case: MemberCase) -> float:
    """Return the depth that a purlin's notch leaves, mm."""
    return max(case.section.depth - case.let_in, 1.0)


def _at_notch(case: MemberCase, values: Values, combo: Combination) -> Check:
    """Bending on the depth left over the purlin (NDS 3.2.3), with the force along a rafter that leans, out of the middle of that depth by half
    the notch, added straight: fb / Fb' + fc / Fc' <= 1, no less than NDS 3.9.2 where the wood is held against buckling.  One that bears on no
    purlin counts as bent most there.
    """
    left, w, span = _left(case), combo.of(case.line), span_of(case, values, combo)
    moment = _over_purlin(case, w, span).over if case.propped > 0.0 else _moment(case, values, combo)
    part = 1.0 - case.propped / case.clear if case.propped > 0.0 else 1.0
    push = max(rafter_push(case, combo, part), 0.0) if any(case.thrust) else 0.0
    moment += push * case.let_in / 2.0
    fb, fc = moment / (case.section.breadth * left**2 / 6.0), push / (case.section.breadth * left)
    fb_allowed, fc_allowed = bending_value(case, values, combo.duration), _column_values(case, values, combo)[0]
    lines = (
        working("M = {} on a depth of {}: fb = {}", (moment * 1e-6, "moment"), (left, "length"), (fb, "stress")),
        working("Fb' = {}, fc = {}, Fc' = {}", (fb_allowed, "stress"), (fc, "stress"), (fc_allowed, "stress")),
    )
    ratio = fb / fb_allowed + fc / fc_allowed
    return Check("bending at the purlin's notch", "NDS 3.2.3, 3.9.2", ratio, 1.0, "ratio", combo.name, lines)


def _notch_shear(case: MemberCase, values: Values, combo: Combination) -> Check:
    """Shear at the purlin on the depth left, as of a member notched at its end: V <= 2/3 Fv' b dn (dn / d)^2 (NDS 3.4.3.2(a))."""
    left, w, span = _left(case), combo.of(case.line), span_of(case, values, combo)
    force = abs(w) * span / 2.0
    if case.propped > 0.0:
        made, parts = _over_purlin(case, w, span), _parts(case, span)
        force = max(abs(w) * part / 2.0 + made.over / part for part in parts)
    value = values.fv * combo.duration
    allowed = 2.0 / 3.0 * value * case.section.breadth * left * (left / case.section.depth) ** 2
    lines = (working("V = {} on a depth of {}", (force / 1000.0, "force"), (left, "length")),)
    name = "shear at the purlin's notch"
    return Check(name, "NDS 3.4.3.2(a)", force / 1000.0, allowed / 1000.0, "force", combo.name, lines)


def _live(case: MemberCase) -> float:
    """Return the greatest live part of the line load, up or down, N/mm."""
    return _live_of(case.line)


def _live_of(line: Cases) -> float:
    down = max(line.live, line.roof_live, line.snow, 0.75 * (line.live + max(line.roof_live, line.snow)))
    return max(down, -min(line.live, line.roof_live, line.snow, 0.0))


def _deflection(case: MemberCase, values: Values) -> Check:
    live = _live(case)
    span = case.clear
    if not case.tables:
        need = live * case.clear / 2.0 / (values.fc_perp * case.section.breadth)
        span = design_span(case.clear, min(need, case.bearing))
    if case.propped > 0.0:
        span = max(_parts(case, span))  # as if each part lay by itself
    if case.pitch > 0.0:
        sag = sloped_deflection(live, span, case.pitch, values.e, case.section.inertia)
        if case.tied_at > 0.0:
            slope = math.hypot(1.0, case.pitch)
            pull, long = _live_of(case.thrust) * case.pitch / slope, span * slope
            sag += point_deflection(pull, case.tied_at * long, long, values.e, case.section.inertia)
    else:
        sag = simple_deflection(live, span, values.e, case.section.inertia)
    allowed = span * math.hypot(1.0, case.pitch) / case.limit.n
    lines = (working("live part w = {}, E = {}", (live, "line force"), (values.e, "stress")),)
    return Check(f"deflection L/{case.limit.n:g}", case.limit.clause, sag, allowed, "length", "live part alone", lines)


def _tension(case: MemberCase, values: Values, combo: Combination) -> Check:
    """Bending and tension together: ft / Ft' + fb / Fb* <= 1, NDS 3.9.1."""
    cf_bending, cf_tension, _ = size_factors(case.species, case.grade, case.section)
    force = max(combo.of(case.tension), 0.0)
    ft = force / case.section.area
    fb = _moment(case, values, combo) / case.section.modulus
    ft_allowed = values.ft * combo.duration * cf_tension
    fb_allowed = values.fb * combo.duration * cf_bending * repetitive(case)
    lines = (
        working("T = {}: ft = {}, Ft' = {}", (force / 1000.0, "force"), (ft, "stress"), (ft_allowed, "stress")),
        working("fb = {}, Fb* = {}", (fb, "stress"), (fb_allowed, "stress")),
    )
    ratio = ft / ft_allowed + fb / fb_allowed
    return Check("bending and tension", "NDS 3.9.1", ratio, 1.0, "ratio", combo.name, lines)


def rafter_push(case: MemberCase, combo: Combination, part: float) -> float:
    """Return the force that presses along a rafter, N, at a part of its run from the ridge (0) to the eave (1).

    Statics of a pair that leans on its ridge: the sideways thrust is alike all along, what it carries grows downward.
    """
    slope = math.hypot(1.0, case.pitch)
    upright = combo.of(case.line) * case.clear * part
    return (combo.of(case.thrust) + upright * case.pitch) / slope


def _column_values(case: MemberCase, values: Values, combo: Combination) -> tuple[float, float, float]:
    """Return (Fc', FcE, le/d): it buckles square to the roof over its length on the slope; sheathing holds it sideways."""
    _, _, cf = size_factors(case.species, case.grade, case.section)
    fc_star = values.fc * combo.duration * cf
    length, depth = span_of(case, values, combo) * math.hypot(1.0, case.pitch), case.section.depth
    allowed = fc_star * stability_factor(fc_star, values.e_min, length, depth)
    return allowed, buckling_stress(values.e_min, length / depth), length / depth


def _pressed(case: MemberCase, values: Values, combo: Combination) -> Check:
    """Compression where it is greatest, at the eave: fc <= Fc' (NDS 3.6.3, 3.7.1)."""
    force = max(rafter_push(case, combo, 1.0), 0.0)
    allowed, _, slender = _column_values(case, values, combo)
    if slender > SLENDEREST:
        return Check("slenderness le/d", "NDS 3.7.1.4", slender, SLENDEREST, "ratio", combo.name)
    lines = (working("P at the eave = {}, le/d = {}", (force / 1000.0, "force"), (slender, "slenderness")),)
    stress = force / case.section.area
    return Check("compression", "NDS 3.6.3, 3.7.1", stress, allowed, "stress", combo.name, lines)


PARTS = tuple(0.5 + 0.02 * k for k in range(11))
"""Where along a rafter force and moment are looked at together: from its middle toward the eave."""
ALL_PARTS = tuple(0.05 * k for k in range(1, 20))
"""The same of one with a raised tie, which bends most near that."""


def _pressed_and_bent(case: MemberCase, values: Values, combo: Combination) -> Check:
    """(fc / Fc')^2 + fb / (Fb' (1 - fc / FcE)) <= 1 (NDS 3.9.2), at the section where it is greatest."""
    fc_allowed, fce, _ = _column_values(case, values, combo)
    fb_allowed, most = bending_value(case, values, combo.duration), _moment(case, values, combo)
    best: tuple[float, float, float] = (0.0, 0.0, 0.0)
    w, span = combo.of(case.line), span_of(case, values, combo)
    for part in PARTS if case.tied_at <= 0.0 else (*ALL_PARTS, 1.0 - case.tied_at):
        fc = max(rafter_push(case, combo, part), 0.0) / case.section.area
        fb = 4.0 * part * (1.0 - part) * most / case.section.modulus
        if case.tied_at > 0.0:
            lift = _lift(case, combo, span)
            fb = abs(tied_moment(w, span, lift, case.tied_at, (1.0 - part) * span)) / case.section.modulus
        if case.propped > 0.0:  # bent most over the purlin; pressed there no more than at the eave
            fc, fb = max(rafter_push(case, combo, 1.0), 0.0) / case.section.area, most / case.section.modulus
        ratio = (fc / fc_allowed) ** 2 + fb / (fb_allowed * (1.0 - fc / fce)) if fc < fce else 99.0
        best = max(best, (ratio, fc, fb))
    ratio, fc, fb = best
    lines = (
        working("fc = {}, Fc' = {}, FcE = {}", (fc, "stress"), (fc_allowed, "stress"), (fce, "stress")),
        working("fb = {}, Fb' = {}", (fb, "stress"), (fb_allowed, "stress")),
    )
    return Check("compression and bending", "NDS 3.9.2", ratio, 1.0, "ratio", combo.name, lines)


def _overhang(case: MemberCase, values: Values, combo: Combination) -> Check:
    """Bending of the tail over the bearing, on the depth left by the bird's mouth (NDS 3.2.3)."""
    left = case.section.depth - case.notch
    moment = abs(cantilever_moment(combo.of(case.line), case.over))
    stress = moment / (case.section.breadth * left**2 / 6.0)
    lines = (working("M = w a\u00b2/2 = {} on a depth of {}", (moment * 1e-6, "moment"), (left, "length")),)
    allowed = bending_value(case, values, combo.duration)
    return Check("bending at the bird's mouth", "NDS 3.2.3", stress, allowed, "stress", combo.name, lines)


HELD_AT_ENDS = 4.0
"""Nominal depth over thickness of boards that need be held against turning over at their ends alone (NDS 4.4.1.2(b))."""
ICE = 1.15
"""Load duration of snow (NDS Table 2.3.2)."""


def _iced(case: MemberCase, values: Values) -> Check:
    """Bending of the tail under ice and dead load alone (ASCE 7-16, 7.4.5), on the depth left by the bird's mouth."""
    left = case.section.depth - case.notch
    moment = abs(cantilever_moment(case.line.dead + case.ice * case.spacing / 1000.0, case.over))
    stress = moment / (case.section.breadth * left**2 / 6.0)
    lines = (working("M = w a\u00b2/2 = {} on a depth of {}", (moment * 1e-6, "moment"), (left, "length")),)
    allowed = bending_value(case, values, ICE)
    return Check("ice on the tail", "ASCE 7-16, 7.4.5; NDS 3.2.3", stress, allowed, "stress", "D + ice", lines)


def _suction_by(case: MemberCase) -> str:
    """Return by what wind on a rafter is taken."""
    return "ASCE 7-16, Figure 30.3-2A" if math.degrees(math.atan(case.pitch)) <= FLAT + 1e-6 else "IRC Table R301.2(2)"


def _bent_upward(case: MemberCase, values: Values) -> Check:
    """Bending by wind that sucks at it, its lower edge pressed and held at its ends alone, against 0.6 of what is dead; over its whole length,
    whatever purlin or tie is between: nothing is known to hold it down there.  Boards no deeper than four times their thickness (nominal)
    need no more than that (NDS 4.4.1.2(b)), deeper ones turn over (3.3.3).
    """
    along, ends, far, _ = case.lifts
    steep, combo = math.hypot(1.0, case.pitch), ASD.rows[-1]
    span = span_of(case, values, combo) * steep
    held = combo.factors.dead * case.line.dead / steep**2
    up = combo.factors.wind * along * case.spacing / 1000.0 - held
    more = combo.factors.wind * max(ends - along, 0.0) * case.spacing / 1000.0
    moment = max(simple_moment(up, span) + more * min(far * steep, span / 2.0) ** 2 / 2.0, 0.0)
    star = bending_value(case, values, combo.duration)
    thick, deep = case.section.nominal
    factor, said = 1.0, "NDS 4.4.1.2"
    if deep > HELD_AT_ENDS * thick * case.section.plies:
        factor = beam_stability_factor(star, values.e_min, span, case.section.breadth, case.section.depth)
        said = "NDS 3.3.3, lu = the span"
    lines = (
        working("wind {} and at its ends {}, square to the slope", (along, "pressure"), (ends, "pressure")),
        working("span on the slope {}, M = {}", (span, "length"), (moment * 1e-6, "moment")),
        working(f"Fb' = Fb CD CF Cr CL = {{}}, CL = {factor:.3f} ({said})", (star * factor, "stress")),
    )
    stress, clause = moment / case.section.modulus, f"{_suction_by(case)}; NDS 3.3.1"
    return Check("bending upward by wind", clause, stress, max(star * factor, 1e-3), "stress", combo.name, lines)


def _tail_upward(case: MemberCase, values: Values) -> Check:
    """Bending of the tail by wind that sucks at it from above and presses from below, on the depth left by the bird's mouth (NDS 3.2.3)."""
    steep, combo = math.hypot(1.0, case.pitch), ASD.rows[-1]
    held = combo.factors.dead * case.line.dead / steep**2
    up = combo.factors.wind * case.lifts.tail * case.spacing / 1000.0 - held
    moment, left = max(cantilever_moment(up, case.over * steep), 0.0), case.section.depth - case.notch
    stress = moment / (case.section.breadth * left**2 / 6.0)
    lines = (
        working("wind {} on the overhang, square to the slope", (case.lifts.tail, "pressure")),
        working("M = w a\u00b2/2 = {} on a depth of {}", (moment * 1e-6, "moment"), (left, "length")),
    )
    allowed, clause = bending_value(case, values, combo.duration), f"{_suction_by(case)}; NDS 3.2.3"
    return Check("tail bent upward by wind", clause, stress, allowed, "stress", combo.name, lines)


def greatest_span(case: MemberCase) -> Span:
    """Return the greatest clear span at which every check is used to at most 100 %, as the span tables take it.

    Closed forms: bending L = sqrt(8 S Fb' / w), shear L = 2 (V' / w + d), bearing L = 2 R' / w,
    deflection L^3 = 384 E I / (5 w n).  The case's own ``clear`` is left out of account; overhang, axial
    force and typed reactions must be zero.  Raises ValueError when nothing loads the member.
    """
    case = replace(case, tables=True)
    if case.section.kind == "I-joist":
        length = i_joists.greatest_clear(case)
        result = i_joists.check_joist(replace(case, clear=length))
        return Span(length, result.governs.name, result.governs.clause, result)
    values = reference_values(case.species, case.grade, case.section, case.outdoors)
    lumber = case.section
    limits: list[tuple[float, str, str]] = []
    for combo in ASD.true_of(case.load):
        w = combo.of(case.line)
        if w <= 0.0:
            continue
        fb = bending_value(case, values, combo.duration)
        limits.append((math.sqrt(8.0 * lumber.modulus * fb / w), "bending", "NDS 3.3.1"))
        shear = values.fv * combo.duration * lumber.area / 1.5
        limits.append((2.0 * (shear / w + lumber.depth), "shear", "NDS 3.4.2"))
        limits.append((2.0 * values.fc_perp * lumber.breadth * case.bearing / w, "bearing", "NDS 3.10.2"))
    live = _live(case)
    if live > 0.0:
        slope = math.hypot(1.0, case.pitch)
        cube = 384.0 * values.e * lumber.inertia / (5.0 * live * case.limit.n) / slope
        limits.append((cube ** (1.0 / 3.0), f"deflection L/{case.limit.n:g}", case.limit.clause))
    if not limits:
        raise ValueError("no load acts on the member; type a live, dead or snow load above zero")
    length, governs, clause = min(limits)
    return Span(length, governs, clause, check_member(replace(case, clear=length)))
