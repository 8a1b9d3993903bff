"""Footings of a given size checked: soil, what keeps them in place, plain and reinforced concrete, least sizes."""

import math

from balken.loads.cases import Cases
from balken.standards.checks import Check, kept_limit
from balken.standards.ground import BarSet, FootingCase, FootingDesign, FootingError, LeastFooting, OnSoil, Sideways
from balken.standards.measures import Quantity, working
from balken.standards.us import aci
from balken.standards.us.footing_bars import reinforced_checks
from balken.standards.us.footing_case import on_soil, own_weight, soil_pressure
from balken.standards.us.footing_plain import plain_checks
from balken.units.system import INCH, PSI

LEAST_PROJECTION = 2.0 * INCH
"""IRC R403.1.1: footing projection at least 2 in and not more than the footing's thickness."""
LEAST_WIDTH = 12.0 * INCH
"""IRC Table R403.1(1): no footing narrower than 12 in."""
LEAST_THICKNESS = 6.0 * INCH
"""IRC R403.1.1: spread footings at least 6 in thick."""
LEAST = LeastFooting(
    LEAST_WIDTH,
    LEAST_PROJECTION,
    max(aci.LEAST_PLAIN_FOOTING, LEAST_THICKNESS),
    max(aci.LEAST_REINFORCED, LEAST_THICKNESS),
)
SAFETY = 1.5
"""IBC 1807.2.3: factor against sliding and overturning by earth."""
UP = "0.6 D + 0.6 W"
"""ASCE 7-16, 2.4.1, combination 7."""


def check_footing(case: FootingCase, width: float, thickness: float, reinforced: bool) -> FootingDesign:
    """Check a footing of given size; with ``reinforced`` its bars are chosen.

    Raises FootingError for sizes or strengths that make no sense.
    """
    check_sane(case)
    q = soil_pressure(case, width, thickness)
    out = (width - case.size) / 2.0 - abs(case.off(width))
    checks = [
        _soil_check(case, width, thickness, q),
        *place_checks(case, width, thickness),
        Check("width, least", "IRC Table R403.1(1)", LEAST_WIDTH, width, "length", ""),
    ]
    if not case.flush:
        checks.append(Check("projection, least", "IRC R403.1.1", LEAST_PROJECTION, max(out, 0.0) + 1e-5, "length", ""))
    bars: tuple[BarSet, ...] = ()
    if reinforced:
        strength, bars = reinforced_checks(case, width, thickness)
        checks += strength
    else:
        checks += plain_checks(case, width, thickness)
    checks.sort(key=lambda c: (kept_limit(c), -c.used))
    length = 1000.0 if case.kind == "strip" else width
    return FootingDesign(case, width, length, thickness, reinforced, bars, q.pressure, tuple(checks))


def _soil_check(case: FootingCase, width: float, thickness: float, q: OnSoil) -> Check:
    whole = q.force if case.kind == "strip" else q.force * width / 1000.0
    unit: Quantity = "line force" if case.kind == "strip" else "force"
    turned = case.sideways.turning(thickness, 1.0, 1.0)
    lines = [
        working("own weight and what lies on it {}", (own_weight(case, thickness) * 1000.0, "pressure")),
        working("all load on the soil {}, width {}", (whole, unit), (width, "length")),
    ]
    if turned:
        side: Quantity = "line moment" if case.kind == "strip" else "moment"
        scale = 1e-3 if case.kind == "strip" else 1e-6
        lines.append(working("moment about the underside {} (earth H, wind W)", (turned * scale, side)))
    lines.append(working("eccentricity {}: q = {}", (abs(q.eccentricity), "length"), (q.pressure, "pressure")))
    return Check(
        "soil pressure", "IRC R401.4.1, statics", q.pressure, case.bearing, "pressure", q.combination, tuple(lines)
    )


def place_checks(case: FootingCase, width: float, thickness: float) -> list[Check]:
    """Return the checks of what keeps a footing in place: kern, and where something pushes or lifts it, the rest."""
    rows = on_soil(case, width, thickness)
    steady = [row for row in rows if not row.wind]
    checks = []
    if steady:
        far = max(steady, key=lambda row: abs(row.eccentricity))
        lines = (working("e = {}, B/6 = {}", (abs(far.eccentricity), "length"), (width / 6.0, "length")),)
        checks.append(
            Check(
                "load within the kern", "no tension under the footing: e <= B/6", abs(far.eccentricity), width / 6.0,
                "length", far.combination, lines,
            )
        )  # fmt: skip
    if case.sideways.earth > 0.0 or case.sideways.moment > 0.0:
        checks += _against_earth(case, width, thickness)
    if case.kind == "pad" and (case.load.wind < 0.0 or case.sideways.wind or case.sideways.wind_moment):
        checks += _against_wind(case, width, thickness)
    return checks


def _against_earth(case: FootingCase, width: float, thickness: float) -> list[Check]:
    """Sliding and overturning about the edge toward which earth turns the wall, by 1.5 (IBC 1807.2.3)."""
    side, own = case.sideways, own_weight(case, thickness) * width
    dead = side.light if side.light is not None else case.load.dead
    about = side.turning(thickness, 1.0, 0.0)
    stand = dead * max(width / 2.0 - case.off(width), 0.0) + own * width / 2.0
    grip = side.friction * (dead + own)
    slides = working(
        f"{SAFETY:g} x {{}} against {side.friction:.2f} x {{}}", (side.earth, "line force"), (dead + own, "line force")
    )
    turns = working(
        f"{SAFETY:g} x {{}} about the edge against {{}} of the weight",
        (about * 1e-3, "line moment"),
        (stand * 1e-3, "line moment"),
    )
    combo, clause = "D + H", "IBC 1807.2.3"
    return [
        Check("sliding", clause, SAFETY * side.earth, grip, "line force", combo, (slides,)),
        Check("overturning", clause, SAFETY * about * 1e-3, stand * 1e-3, "line moment", combo, (turns,)),
    ]


def _against_wind(case: FootingCase, width: float, thickness: float) -> list[Check]:
    lean = 0.6 * case.load.dead * abs(case.off(width))
    return wind_checks(case.load, own_weight(case, thickness) * width**2, width, thickness, case.sideways, lean)


def wind_checks(
    load: Cases, own: float, width: float, thickness: float, side: Sideways, lean: float = 0.0
) -> list[Check]:
    """Return uplift, sliding and overturning of a pad by 0.6 W against 0.6 D (ASCE 7-16, 2.4.1, combination 7).

    ``own``: its weight, N; ``width``: across which it would turn over, mm; ``lean``: moment of dead load that stands
    off its middle, N mm.
    """
    up, down = 0.6 * max(-load.wind, 0.0), 0.6 * (load.dead + own)
    push = 0.6 * abs(side.wind)
    about = 0.6 * abs(side.wind_moment + side.wind * thickness) + up * width / 2.0
    stand = down * width / 2.0 - lean
    clause = "ASCE 7-16, 2.4.1"
    checks = []
    if up > 0.0:
        checks.append(Check("uplift", clause, up / 1000.0, down / 1000.0, "force", UP))
    if push > 0.0:
        grip = side.friction * max(down - up, 0.0)
        lines = (working(f"friction {side.friction:.2f} x {{}}", (max(down - up, 0.0) / 1000.0, "force")),)
        checks.append(Check("sliding", clause, push / 1000.0, grip / 1000.0, "force", UP, lines))
    if push > 0.0 or side.wind_moment:
        lines = (
            working("0.6 W about the edge {}, 0.6 D {}", (about * 1e-6, "moment"), (max(stand, 0.0) * 1e-6, "moment")),
        )
        checks.append(Check("overturning", clause, about * 1e-6, max(stand, 0.0) * 1e-6, "moment", UP, lines))
    return checks


def check_sane(case: FootingCase) -> None:
    """Raise FootingError for strengths and sizes that make no sense."""
    if not 1000.0 * PSI <= case.fc <= 15_000.0 * PSI:
        raise FootingError(
            f"concrete of {case.fc / PSI:,.0f} psi ({case.fc:.1f} N/mm2) is out of bounds; type 2500 to 10,000 psi."
        )
    if case.fy is not None and not 30_000.0 * PSI <= case.fy <= 100_000.0 * PSI:
        raise FootingError(f"steel of {case.fy / PSI:,.0f} psi is out of bounds; type such as 60 ksi.")
    if case.bearing <= 0.0:
        raise FootingError("the soil bearing value must be more than zero; type one such as 1500 psf.")
    if not 20.0 <= case.size <= 3000.0:
        raise FootingError(f"a wall or column of {case.size:.0f} mm is out of bounds; type such as 8in.")
    if not all(math.isfinite(v) for v in case.load):
        raise FootingError("the load is no number; type one such as 3000 plf.")
