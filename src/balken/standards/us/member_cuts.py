"""Notches and holes in joists: where they may be (IRC 2018, R502.8.1; NDS 4.4.3) and what is left of the section there.

Sawn lumber alone: what is made takes no cut but by its maker's rules (R502.8.2).
"""

from collections.abc import Callable

from balken.catalog.sections import section
from balken.standards.checks import Check
from balken.standards.demands import CutCase
from balken.standards.measures import working
from balken.standards.us.values import Values, reference_values, size_factors
from balken.units.system import INCH

RULE, MADE = "IRC R502.8.1", "IRC R502.8.2"
EDGE = 2.0 * INCH
"""Holes stay as far from the edges and from other cuts."""
PART = 1.0 + 1e-6


def cut_faults(case: CutCase) -> tuple[str, ...]:
    """Return in words what no cut of its kind may be."""
    if case.section.kind != "sawn":
        return (f"{case.section.name} takes no notch or hole but by its maker's rules ({MADE})",)
    d, found = case.section.depth, []
    if case.kind == "hole":
        if case.deep > d / 3.0 * PART:
            found.append(f"a hole is no wider than a third of the depth ({RULE})")
        if min(case.up - case.deep / 2.0, d - case.up - case.deep / 2.0) < EDGE / PART:
            found.append(f"a hole stays 2 in from the edges ({RULE})")
    elif case.at_end:
        if case.deep > d / 4.0 * PART:
            found.append(f"a notch at an end is no deeper than a quarter of the depth ({RULE})")
    else:
        if case.deep > d / 6.0 * PART:
            found.append(f"a notch is no deeper than a sixth of the depth ({RULE})")
        if case.long > d / 3.0 * PART:
            found.append(f"a notch is no longer than a third of the depth ({RULE})")
        if case.middle_third:
            found.append(f"no notch lies in the middle third of a span ({RULE})")
        if case.kind == "notch below" and case.section.board >= 3.4 * INCH:
            found.append(f"members 4 in thick are not notched on their tension side but at ends ({RULE})")
    if case.nearest < EDGE / PART and case.kind == "hole":
        found.append(f"a hole stays 2 in from other cuts ({RULE})")
    return tuple(found)


def cut_checks(case: CutCase) -> list[Check]:
    """Return what is left of the section at a cut against what bends and shears it there."""
    if case.section.kind != "sawn":
        return []
    values = reference_values(case.species, case.grade, case.section)
    cf = size_factors(case.species, case.grade, case.section)[0]
    found = [_bending(case, values.fb * cf)]
    return [*found, _shear(case, values)]


def seat_shear(size: str, species: str, grade: str, left: float, force: float) -> Check:
    """Return the check of shear at a bird's mouth: its seat runs out in the underside at the slope of the member, and so gradual a change
    leaves nearly what a member as deep as what is left carries (NDS 3.4.3.2(d), from memory).  Load duration is left out, on the safe side.

    Raises KeyError for unknown sizes, species or grades.
    """
    lumber = section(size)
    values = reference_values(species, grade, lumber)
    allowed = 2.0 / 3.0 * values.fv * lumber.breadth * max(left, 1.0)
    lines = (working("V = {} on a depth of {}", (force / 1000.0, "force"), (left, "length")),)
    return Check(
        "shear at the bird's mouth", "NDS 3.4.3.2(d)", max(force, 0.0) / 1000.0, allowed / 1000.0, "force", "", lines
    )


def _bending(case: CutCase, allowed: float) -> Check:
    lumber = case.section
    modulus = net_modulus(lumber.breadth, lumber.depth, case)
    lines = (working("M = {}, S left = {}", (case.moment * 1e-6, "moment"), (modulus, "modulus")),)
    return Check("bending at the cut", "NDS 3.2.3", case.moment / modulus, allowed, "stress", "", lines)


def net_modulus(b: float, d: float, case: CutCase) -> float:
    """Return the section modulus left beside a cut, mm3: of the rest of the depth, or of both parts beside a hole."""
    if case.kind != "hole":
        return b * (d - case.deep) ** 2 / 6.0
    parts = [(0.0, case.up - case.deep / 2.0), (case.up + case.deep / 2.0, d)]
    parts = [(low, high) for low, high in parts if high > low]
    area = sum(high - low for low, high in parts)
    if area <= 0.0:
        return 1.0
    middle = sum((high - low) * (high + low) / 2.0 for low, high in parts) / area
    inertia = sum(
        b * (high - low) ** 3 / 12.0 + b * (high - low) * ((high + low) / 2.0 - middle) ** 2 for low, high in parts
    )
    return inertia / max(middle - parts[0][0], parts[-1][1] - middle)


def _shear(case: CutCase, values: Values) -> Check:
    """Shear on what is left; at an end notched below NDS 3.4.3.2(a), above 3.4.3.2(e)."""
    b, d = case.section.breadth, case.section.depth
    left = max(d - case.deep, 1.0)
    plain: Callable[[float], float] = lambda depth: 2.0 / 3.0 * values.fv * b * depth  # noqa: E731
    if case.at_end and case.kind == "notch below":
        allowed, clause = plain(left) * (left / d) ** 2, "NDS 3.4.3.2(a)"
    elif case.at_end and case.kind == "notch above":
        e = min(case.beyond, left)
        allowed, clause = plain(d - (d - left) / left * e), "NDS 3.4.3.2(e)"
    else:
        allowed, clause = plain(left), "NDS 3.4.2"
    lines = (working("V = {} on a depth of {}", (case.shear / 1000.0, "force"), (left, "length")),)
    return Check("shear at the cut", clause, case.shear / 1000.0, allowed / 1000.0, "force", "", lines)
