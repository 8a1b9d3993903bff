"""I-joists by APA PRI-400: moment, shear, reactions and sag of what is tabulated there, written down from memory.

The tabulated values are for normal duration and are adjusted as those of sawn lumber (CD); there is no repetitive member
factor.  The sag has a part of its own from shear.  Joists side by side count each by itself.
"""

from collections.abc import Sequence
from functools import lru_cache

from msgspec.structs import replace

from balken.analysis.beam import simple_deflection, simple_moment
from balken.catalog.joists import series_of
from balken.catalog.own_joists import own_joist
from balken.catalog.section_record import Section
from balken.loads.cases import Combination, most_by_duration
from balken.standards.checks import Check, MemberResult, worst_of
from balken.standards.demands import BeamCase, BeamForces, GirderCase, Limit, MemberCase
from balken.standards.measures import Working, working
from balken.standards.us.asce7 import ASD
from balken.standards.us.uplift import uplift_check
from balken.units.system import FOOT, INCH, POUND_FORCE
from balken.value import Value

CLAUSE = "APA PRI-400"
SAG_LIMIT = Limit(480.0, "APA PRI-400")
"""Live-load sag of its floor spans, stricter than IRC R301.7."""
END_LEAST, END_FULL = 1.75 * INCH, 4.0 * INCH
"""Bearing at an end for the tabulated reaction, and that at which it may reach the shear; in between by interpolation."""
STIFFENED = 1550.0 * POUND_FORCE
"""An end reaction greater than this takes web stiffeners."""
INNER_LEAST = 3.5 * INCH
"""Bearing of a joist that runs on over it, for the tabulated reaction."""
STIFFENERS = ("web stiffeners at its ends",)
INNER_STIFFENERS = ("web stiffeners over its inner bearings",)


class IJoist(Value, frozen=True):
    """Tabulated values of one I-joist: moment (N mm), shear, end and inner reaction (N) without web stiffeners, ``ei``
    (N mm2), ``k`` of the sag from shear (N): w L2/k of an even load; what it bears with web stiffeners (0: not tabulated).
    """

    moment: float
    shear: float
    end: float
    inner: float
    ei: float
    k: float
    end_stiffened: float = 0.0
    inner_stiffened: float = 0.0

    def times(self, n: int) -> "IJoist":
        """Return so many of it side by side."""
        every = (
            self.moment,
            self.shear,
            self.end,
            self.inner,
            self.ei,
            self.k,
            self.end_stiffened,
            self.inner_stiffened,
        )
        return IJoist(*(n * v for v in every))

    def end_reaction(self, bearing: float) -> float:
        """Return what it bears at an end on a length of bearing, mm; none on less than the least."""
        if bearing < END_LEAST - 0.5:
            return 0.0
        if self.end_stiffened:
            return self.end
        part = min(max((bearing - END_LEAST) / (END_FULL - END_LEAST), 0.0), 1.0)
        return self.end + (self.shear - self.end) * part


# Series: by depth (in): EI 1e6 lb in2, M lb ft, V lb; then end and inner reaction by depth, lb.
_K = {9.5: 4.94, 11.875: 6.18, 14.0: 7.28, 16.0: 8.32}
_TABLE: dict[tuple[str, float], tuple[float, float, float, float, float]] = {
    ("PRI-40", 9.5): (193, 2735, 1120, 1080, 2160),
    ("PRI-40", 11.875): (330, 3545, 1420, 1200, 2500),
    ("PRI-40", 14.0): (482, 4270, 1710, 1200, 2500),
    ("PRI-40", 16.0): (657, 4950, 1970, 1200, 2500),
    ("PRI-60", 9.5): (231, 3780, 1120, 1080, 2160),
    ("PRI-60", 11.875): (396, 4900, 1420, 1200, 2500),
    ("PRI-60", 14.0): (584, 5895, 1710, 1200, 2500),
    ("PRI-60", 16.0): (799, 6835, 1970, 1200, 2500),
    ("PRI-80", 11.875): (547, 6940, 1420, 1280, 2760),
    ("PRI-80", 14.0): (802, 8360, 1710, 1280, 3020),
    ("PRI-80", 16.0): (1092, 9690, 1970, 1280, 3265),
    ("PRI-90", 11.875): (604, 9605, 1925, 1400, 3355),
    ("PRI-90", 14.0): (881, 11530, 2125, 1400, 3355),
    ("PRI-90", 16.0): (1192, 13365, 2330, 1400, 3355),
}


@lru_cache(maxsize=200)
def tabulated(section: Section) -> IJoist:
    """Return the values of an I-joist, all its plies together; raises KeyError for what has none."""
    own = own_joist(section.name)
    if own is not None:
        j, plies = own
        listed = IJoist(j.moment, j.shear, j.end, j.inner, j.ei, j.k, j.end_stiffened, j.inner_stiffened)
        return listed.times(plies)
    series, depth = series_of(section)
    if (series, depth) not in _TABLE:
        raise KeyError(f"There is no I-joist '{section.name}'; there are {', '.join(f'{s} {d:g}' for s, d in _TABLE)}.")
    ei, moment, shear, end, inner = _TABLE[(series, depth)]
    pound = POUND_FORCE
    one = IJoist(
        moment * pound * FOOT, shear * pound, end * pound, inner * pound, ei * 1e6 * pound * INCH**2,
        _K[depth] * 1e6 * pound,
    )  # fmt: skip
    return one.times(section.plies)


def section_row(section: Section) -> tuple[str, Working]:
    """Return the tabulated values that a check reads, with their source."""
    v = tabulated(section)
    row = working(
        "M {}, V {}, end reaction {}, EI {}, K {}",
        (v.moment * 1e-6, "moment"),
        (v.shear / 1000.0, "force"),
        (v.end / 1000.0, "force"),
        (v.ei * 1e-9, "stiffness"),
        (v.k / 1000.0, "force"),
    )
    return "list of the project" if own_joist(section.name) else "APA PRI-400, from memory", row


@lru_cache(maxsize=4_096)
def check_joist(case: MemberCase) -> MemberResult:
    """Check an I-joist under an even load: moment, shear, end reaction, sag with its part from shear."""
    v = tabulated(case.section)
    combos = ASD.true_of(case.load)
    # The span to the middles of the bearings it needs, PRI-400's own being clear spans with them.
    span = case.clear if case.tables else case.clear + END_LEAST
    limit = min(SAG_LIMIT, case.limit, key=lambda one: -one.n)
    live = max(case.line.live, case.line.roof_live, case.line.snow)
    moments = [simple_moment(max(c.of(case.line), 0.0), span) for c in combos]
    ends = [max(c.of(case.line), 0.0) * span / 2.0 for c in combos]
    sag = simple_deflection(live, span, v.ei, 1.0) + live * span**2 / v.k
    given = (working("span {}, w = {}", (span, "length"), (case.line.all, "line force")),)
    found = _strength(v, combos, moments, ends, ends, max(case.bearing, END_LEAST) if case.tables else case.bearing)
    lines = (*given, working("5 w L\u2074/(384 EI) + w L\u00b2/K, live part w = {}", (live, "line force")))
    found.append(_sag(limit, sag, span, lines))
    return _result(case, found)


def check_loaded(case: BeamCase, forces: BeamForces) -> MemberResult:
    """Check an I-joist under what stands on its deck, by the forces of its line.

    Sag from shear of a simple span is its moment over G A, which is K/8.
    """
    v, combos = tabulated(case.section), forces.combos
    found = _strength(v, combos, forces.moments, forces.most, forces.most, case.bearing)
    sag = forces.sag / v.ei + 8.0 * forces.live_moment / v.k
    lines = (working("of bending {}, of shear {}", (forces.sag / v.ei, "length"),
                     (8.0 * forces.live_moment / v.k, "length")),)  # fmt: skip
    found.append(_sag(SAG_LIMIT, sag, case.span, lines))
    if min(forces.least) < -1e-6:
        found.append(uplift_check(-min(forces.least), combos[forces.least.index(min(forces.least))].name))
    return _result(case, found)


def check_line(
    case: GirderCase,
    combos: Sequence[Combination],
    moments: list[float],
    shears: list[float],
    reactions: list[list[float]],
    sags: list[float],
    live_moment: float,
) -> MemberResult:
    """Check an I-joist that runs on, by what its line brings: moments, shears and reactions at each bearing by combination.

    ``sags``: of bending, of each overhang and span from the left; that from shear is taken as 8 M/K of the greatest moment.
    """
    assert case.section.made is not None
    v, found = tabulated(case.section.made), list[Check]()
    found += [
        worst_of([_of("moment", m * 1e-6, v.moment * 1e-6, c, "moment") for c, m in most_by_duration(combos, moments)]),
        worst_of([_of("shear", s / 1000.0, v.shear / 1000.0, c, "force") for c, s in most_by_duration(combos, shears)]),
    ]
    ends = [not case.stretches[0][2], *[False] * (len(case.supports) - 2), not case.stretches[-1][2]]
    for end, bearing, forces in zip(ends, case.bearings, reactions, strict=True):
        least, held = (END_LEAST, v.end_reaction(bearing)) if end else (INNER_LEAST, v.inner)
        if bearing < least - 0.5:
            short = working("bearing {}, {} at least", (bearing, "length"), (least, "length"))
            found.append(Check("length of bearing", CLAUSE, least, max(bearing, 1.0), "length", "", (short,)))
            continue
        stiff = v.end_stiffened if end else v.inner_stiffened
        found.append(_reaction("end reaction" if end else "inner reaction", held, stiff, bearing, combos, forces))
    limit = min(SAG_LIMIT, case.limit, key=lambda one: -one.n)
    shear = 8.0 * live_moment / v.k
    long = [(b - a) * (2.0 if over else 1.0) for a, b, over in case.stretches]
    sag, span = max(
        ((s + shear, length) for s, length in zip(sags, long, strict=True)), key=lambda row: row[0] / row[1]
    )
    found.append(_sag(limit, sag, span, (working("of shear {}", (shear, "length")),)))
    return _result(case, _worst_by_name(found))


def _worst_by_name(found: list[Check]) -> list[Check]:
    """Return of the checks of one name that which is used most."""
    return [worst_of([c for c in found if c.name == name]) for name in dict.fromkeys(c.name for c in found)]


def _strength(
    v: IJoist,
    combos: Sequence[Combination],
    moments: list[float],
    shears: list[float],
    ends: list[float],
    bearing: float,
) -> list[Check]:
    """Check moment, shear (that at the middle of the bearing: nothing is left out) and end reaction."""
    held = v.end_reaction(bearing)
    found = [
        worst_of([_of("moment", m * 1e-6, v.moment * 1e-6, c, "moment") for c, m in most_by_duration(combos, moments)]),
        worst_of([_of("shear", s / 1000.0, v.shear / 1000.0, c, "force") for c, s in most_by_duration(combos, shears)]),
    ]
    if held == 0.0:
        short = working("bearing {}, {} at least", (bearing, "length"), (END_LEAST, "length"))
        found.append(Check("length of bearing", CLAUSE, END_LEAST, max(bearing, 1.0), "length", "", (short,)))
        return found
    return [*found, _reaction("end reaction", held, v.end_stiffened, bearing, combos, ends)]


def _reaction(
    name: str, held: float, stiffened: float, bearing: float, combos: Sequence[Combination], forces: list[float]
) -> Check:
    """Check a reaction, with web stiffeners where that is tabulated and needed."""
    rows = most_by_duration(combos, forces)
    plain = (working("on {} of bearing", (bearing, "length")),)
    found = worst_of([_of(name, r / 1000.0, held / 1000.0, c, "force", plain) for c, r in rows])
    if found.used <= 1.0 or stiffened <= held:
        return found
    lines = (*plain, working("with web stiffeners; without {}", (held / 1000.0, "force")))
    return worst_of([_of(name, r / 1000.0, stiffened / 1000.0, c, "force", lines) for c, r in rows])


def _of(
    name: str, demand: float, value: float, combo: Combination, unit: str, lines: tuple[Working, ...] = ()
) -> Check:
    lines = (*lines, working(f"CD = {combo.duration:g}"))
    return Check(name, CLAUSE, demand, value * combo.duration, unit, combo.name, lines)  # type: ignore[arg-type]


def _sag(limit: Limit, sag: float, span: float, lines: tuple[Working, ...]) -> Check:
    return Check(f"deflection L/{limit.n:g}", limit.clause, sag, span / limit.n, "length", "live part alone", lines)


def _result(case: MemberCase | BeamCase | GirderCase, found: list[Check]) -> MemberResult:
    """Return the checks, that which governs first, and whether an end reaction takes web stiffeners."""
    made = case.section.made if isinstance(case, GirderCase) else case.section
    own = made is not None and own_joist(made.name) is not None
    most = STIFFENED * case.section.plies / 1000.0
    # Those of a list say how much they bear without; the others take them from a reaction on.
    ends = any(c.name == "end reaction" and (_is_stiffened(c) if own else c.demand > most) for c in found)
    inner = any(c.name == "inner reaction" and _is_stiffened(c) for c in found)
    notes = (*(STIFFENERS if ends else ()), *(INNER_STIFFENERS if inner else ()))
    return MemberResult(case, tuple(sorted(found, key=lambda check: -check.used)), notes)


def _is_stiffened(check: Check) -> bool:
    return any(row.text.startswith("with web stiffeners") for row in check.working)


def greatest_clear(case: MemberCase) -> float:
    """Return the greatest clear span that works, mm, by halving; raises ValueError when nothing loads it."""
    if case.load.all <= 0.0:
        raise ValueError("no load acts on the member; type a live, dead or snow load above zero")
    low, high = 0.0, 30_000.0
    while high - low > 0.01:
        middle = (low + high) / 2.0
        if check_joist(replace(case, clear=middle, tables=True)).used <= 1.0:
            low = middle
        else:
            high = middle
    return low
