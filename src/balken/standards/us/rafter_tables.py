"""Spans of rafters as the tables of IRC 2018, R802.4.1, have them: solved by the checks from which those were made (``balken span``), for the
loads of the table that is met next.  Which table is for which load is from memory.
"""

import math

from balken.catalog.sections import section
from balken.loads.cases import Cases
from balken.standards.checks import TableSpan
from balken.standards.demands import Limit, MemberCase
from balken.standards.us.members import greatest_span
from balken.units.system import INCH, PSF

LIVE = 20.0 * PSF
TABLES = (
    (0.0, {180.0: 1, 240.0: 2}),
    (30.0 * PSF, {180.0: 3, 240.0: 5}),
    (50.0 * PSF, {180.0: 4, 240.0: 6}),
    (70.0 * PSF, {180.0: 7, 240.0: 8}),
)
"""By ground snow, with roof live load alone first: the numbers of the tables, by their limit of sag (without a ceiling on the rafters, and with
one).
"""
DEAD = (10.0 * PSF, 20.0 * PSF)
SPACINGS = tuple(v * INCH for v in (12.0, 16.0, 19.2, 24.0))


def rafter_span(case: MemberCase, spacing: float, dead: float, live: float, snow: float) -> TableSpan | None:
    """Return how far a rafter reaches by the tables at a spacing, mm, under loads, kN/m2 (dead on the slope); None where they have no row for it.

    A tie raised by k of the rise shortens it by sqrt(1/8 / (k - k^2/2)) (note a of the tables).
    """
    snows = [(lies, by[case.limit.n]) for lies, by in TABLES if snow <= lies + 1e-6 and case.limit.n in by]
    deads, wide = [q for q in DEAD if dead <= q + 1e-6], [s for s in SPACINGS if spacing <= s + 0.1]
    if not (snows and deads and wide) or live > LIVE + 1e-6 or section(case.size).kind != "sawn" or "-" in case.size:
        return None
    (lies, number), flat = snows[0], Cases(dead=deads[0], roof_live=LIVE, snow=snows[0][0])
    limit = Limit(case.limit.n, f"IRC Table R802.4.1({number})")
    as_listed = MemberCase("rafter", case.size, case.species, case.grade, 1000.0, wide[0], flat, limit, tables=True)
    k = case.tied_at
    factor = min(math.sqrt(0.125 / (k - k**2 / 2.0)), 1.0) if k > 0.0 else 1.0
    return TableSpan(
        limit.clause, wide[0], deads[0], lies, case.limit.n, factor, greatest_span(as_listed).length * factor
    )
