"""Beams of the model designed: what lies on their line, in pieces no longer than the stock, spliced over seats alone; the
section typed or the cheapest that works.
"""

from collections.abc import Iterator
from functools import cached_property
from typing import NamedTuple

from msgspec.structs import replace

from balken.analysis.lines import LineError
from balken.catalog.beams import TRIED, BeamSection, CutKind, beam_section
from balken.design.beams import by_cost, with_own_weight
from balken.design.layouts import Neighbour
from balken.framing.beams import SEAT, BeamLine, plate_on
from balken.framing.linings import Passing
from balken.loads.along import Laid
from balken.loads.beam_law import Beamed, BeamSeat, Extremes
from balken.loads.cases import Cases, total
from balken.model.records import Beam
from balken.standards.checks import GirderResult, MemberResult
from balken.standards.demands import GirderCase, Limit, Patch
from balken.standards.standard import Standard
from balken.units.system import INCH
from balken.value import Lazy

SHORTEST_SEAT = 25.0
"""A seat is checked as at least this long, mm; that it is short is said apart."""
MARGIN: dict[CutKind, float] = {"sawn": 1.5, "laminated veneer": 1.25, "glulam": 1.4, "steel": 1.3}
"""CF, (12/d)^(1/9), CV, and plastic over elastic moduli with flanges that are not compact."""
NEXT = 2
NAILED = 1.5 * INCH
"""Hangers at the sides of beams are taken to be nailed up to so far below the joists' tops, mm (common practice, no source)."""
"""Sections shown as neighbours to each side."""
ALL_LOAD = Limit(240.0, "NDS 3.5.2")


class Part(NamedTuple):
    """A piece of a beam: from where to where along it, mm, and the numbers of its first and last seat."""

    low: float
    high: float
    first: int
    last: int


Whole = tuple[GirderResult, ...]
"""A beam checked, piece by piece."""


class GirderDesign(Lazy, frozen=True):
    """What a beam is made of and whether it works; ``made`` is empty where nothing can be worked out, for ``unchecked``.

    ``parts``: its pieces; ``made``: each checked.  ``own``: its weight, N; ``reactions``, ``extremes``: at each seat;
    ``least``: the least over combinations at each, N.  ``others``: sections near it, each with the cases of its pieces.
    ``asked``, ``names``: the cases of its pieces without a section, and those there are.
    """

    id: str
    section: BeamSection
    auto: bool
    own: Cases
    parts: tuple[Part, ...]
    reactions: tuple[Cases, ...] = ()
    extremes: tuple[Extremes, ...] = ()
    least: tuple[float, ...] = ()
    made: Whole = ()
    others: tuple[tuple[GirderCase, ...], ...] = ()
    unchecked: str = ""
    asked: tuple[GirderCase, ...] = ()
    names: tuple[str, ...] = ()
    standard: Standard | None = None

    @property
    def worst(self) -> GirderResult | None:
        """The piece that is used most."""
        return max(self.made, key=lambda made: made.used, default=None)

    @property
    def result(self) -> MemberResult | None:
        """The checks of that piece."""
        worst = self.worst
        return worst.result if worst is not None else None

    @property
    def used(self) -> float:
        """How far it is used, 0 where that is not known."""
        return max((made.used for made in self.made), default=0.0)

    @property
    def works(self) -> bool:
        """Whether it carries its load, as far as it is checked."""
        return bool(self.made) and self.used <= 1.0

    @cached_property
    def would_work(self) -> str:
        """The cheapest section that works where the typed one does not, "" where there is none."""
        if self.standard is None or self.auto or self.works or not self.asked:
            return ""
        tried = _tried(self.asked, list(self.names), self.standard)
        return next((name for name, made in tried if _used(made) <= 1.0), "")

    @cached_property
    def neighbours(self) -> tuple[Neighbour, ...]:
        """Sections near it and how far they would be used."""
        if self.standard is None:
            return ()
        found = []
        for cases in self.others:
            worst = max((self.standard.check_girder(case) for case in cases), key=lambda made: made.used)
            found.append(Neighbour(cases[0].size, 0.0, worst.used, worst.result.governs.name))
        return tuple(found)


def design_girder(
    line: BeamLine, seats: tuple[BeamSeat, ...], laid: Laid, held: float | None, standard: Standard
) -> GirderDesign:
    """Take a beam's typed section or choose one, and check it for what lies on it."""
    beam = line.beam
    names = sizes_for(beam, line.listed)
    first = beam_section(beam.size or names[0])
    parts = parts_of(line, seats)
    unsolved = GirderDesign(
        beam.id, first, beam.size is None, Cases(dead=round(first.own_line, 6) * line.length), parts
    )
    if len(seats) < 2:
        return replace(unsolved, unchecked="it stands on nothing" if not seats else "it stands in one place alone")
    try:
        cases = tuple(_case(line, seats, part, laid, held, first.name, standard) for part in parts)
        return _designed(beam, cases, names, parts, len(seats), standard)
    except (KeyError, LineError) as error:  # no values of that grade, or supports that hold nothing
        return replace(unsolved, auto=False, unchecked=str(error.args[0]))


def sizes_for(beam: Beam, listed: tuple[str, ...] = ()) -> list[str]:
    """Return the sections tried for a beam, of a list where there is one, the cheapest first; under joists none narrower than they need
    to bear, where there are such.
    """
    names = listed or TRIED[beam.made_of]
    if not beam.flush:
        names = tuple(n for n in names if beam_section(n).breadth >= SEAT - 1.0) or names
    return by_cost(names, beam.species)


def parts_of(line: BeamLine, seats: tuple[BeamSeat, ...]) -> tuple[Part, ...]:
    """Return the pieces of a beam: as few as the stock allows, spliced over inner seats alone."""
    if len(seats) < 2:
        return (Part(0.0, line.length, 0, max(len(seats) - 1, 0)),)
    found: list[Part] = []
    low, first = 0.0, 0
    while True:
        ends = [(line.length, len(seats) - 1)]
        ends += [(seats[k].along, k) for k in range(len(seats) - 2, first, -1)]
        # The farthest within reach; where not even the next seat is, that one all the same: the stock is said to be short.
        high, last = next(((x, k) for x, k in ends if x - low <= line.stock + 1.0), ends[-1])
        found.append(Part(low, high, first, last))
        if high >= line.length:
            return tuple(found)
        low, first = high, last


def _case(
    line: BeamLine, seats: tuple[BeamSeat, ...], part: Part, laid: Laid, held: float | None, size: str,
    standard: Standard,
) -> GirderCase:  # fmt: skip
    """Return the case of one piece without its own weight; at a splice it lies on half of the seat."""
    beam = line.beam
    supports, bearings = [], []
    for k in range(part.first, part.last + 1):
        seat = seats[k]
        at, bearing = seat.along - part.low, max(seat.bearing, SHORTEST_SEAT)
        if k == part.first and part.low > 0.0:
            at, bearing = 0.0, bearing / 2.0
        if k == part.last and part.high < line.length:
            at, bearing = part.high - part.low, bearing / 2.0
        supports.append(round(at, 3))
        bearings.append(round(bearing, 3))
    return GirderCase(
        "beam", size, beam.species, beam.grade, round(part.high - part.low, 3), tuple(supports), tuple(bearings),
        _patches(laid, part), (), held, False, True, standard.joist_limit, ALL_LOAD, outdoors=beam.outdoors,
        nailed=NAILED if beam.flush else None,
    )  # fmt: skip


def _patches(laid: Laid, part: Part) -> tuple[Patch, ...]:
    """Return what lies on a piece, evenly along each stretch; what reaches over a splice is shared by length."""
    found = []
    for low, high, load in zip(laid.low.tolist(), laid.high.tolist(), laid.loads, strict=True):
        a, b = max(low, part.low), min(high, part.high)
        if b - a <= 1e-6:
            continue
        begin, end = round(a - part.low, 3), round(b - part.low, 3)
        if end - begin < 1e-3:
            end = begin + 1e-3
        q = Cases(*(round(v, 9) for v in (load * ((b - a) / (high - low)) / (end - begin)).tolist()))
        if any(q):
            found.append((begin, end, q, q))
    return tuple(found)


def _designed(
    beam: Beam, cases: tuple[GirderCase, ...], names: list[str], parts: tuple[Part, ...], seats: int, standard: Standard
) -> GirderDesign:
    if beam.size is not None:
        made = tuple(standard.check_girder(with_own_weight(case)) for case in cases)
        return _of(beam, made, cases, names, parts, seats, standard)
    best: Whole = ()
    for _, made in _tried(cases, names, standard):
        if not best or _used(made) < _used(best):
            best = made
        if _used(made) <= 1.0:
            best = made
            break
    return _of(beam, best, cases, names, parts, seats, standard)


def _used(made: Whole) -> float:
    return max(one.used for one in made)


def _tried(cases: tuple[GirderCase, ...], names: list[str], standard: Standard) -> Iterator[tuple[str, Whole]]:
    """Give each section checked, without those that one already checked shows to be far too weak; the strongest always."""
    known: _Known | None = None
    strongest = max(names, key=lambda name: beam_section(name).modulus)
    for name in names:
        if known is not None and name != strongest and known.rules_out(beam_section(name)):
            continue
        made = tuple(standard.check_girder(with_own_weight(replace(case, size=name))) for case in cases)
        known = _Known.of(made)
        yield name, made


class _Known(NamedTuple):
    """How far a section was used, and what that tells of others of its kind, of the same wood: each grows as its measure shrinks.

    Margins: how far factors of size differ at most within a kind; shear counts a depth away from seats.
    """

    section: BeamSection
    bending: float
    sag: float
    shear: float

    @staticmethod
    def of(made: Whole) -> "_Known":
        """Return what the checks of a beam tell."""
        rows = [check for one in made for check in one.result.checks]

        def most(word: str) -> float:
            return max((check.used for check in rows if check.name.startswith(word)), default=0.0)

        return _Known(beam_section(made[0].result.case.size), most("bending"), most("deflection"), most("shear"))

    def rules_out(self, other: BeamSection) -> bool:
        """Whether another section cannot work."""
        mine = self.section
        return (mine.own is None and other.own is None) and (
            self.bending * mine.modulus / other.modulus > MARGIN[mine.kind]
            or self.sag * mine.inertia / other.inertia > 1.05
            or self.shear * mine.area / other.area > 1.5
        )


def _of(
    beam: Beam, made: Whole, cases: tuple[GirderCase, ...], names: list[str], parts: tuple[Part, ...], seats: int,
    standard: Standard,
) -> GirderDesign:  # fmt: skip
    size = made[0].result.case.size
    section = beam_section(size)
    i = names.index(size) if size in names else len(names)
    near = [*names[max(i - NEXT, 0) : i], *names[i + 1 : i + 1 + NEXT]]
    others = tuple(tuple(with_own_weight(replace(case, size=n)) for case in cases) for n in near)
    reactions, extremes, least = [Cases()] * seats, [Extremes()] * seats, [0.0] * seats
    for part, one in zip(parts, made, strict=True):
        for k, whole, (most, low), (_, lowest) in zip(
            range(part.first, part.last + 1), one.reactions, one.by_case, one.extremes, strict=True
        ):
            reactions[k] = reactions[k].plus(whole)
            extremes[k] = extremes[k].plus(Extremes(_apart(most, whole), _apart(low, whole)))
            least[k] += lowest
    own = total(Cases(dead=round(section.own_line, 6) * case.length) for case in cases)
    rounded = tuple(Cases(*(round(v, 6) for v in r)) for r in reactions)
    return GirderDesign(
        beam.id, section, beam.size is None, own, parts, rounded, tuple(extremes), tuple(least), made, others, "",
        cases, tuple(names), standard,
    )  # fmt: skip


def _apart(value: Cases, whole: Cases) -> Cases:
    return Cases(*(round(a - b, 3) for a, b in zip(value, whole, strict=True)))


def underside(line: BeamLine, section: BeamSection) -> float:
    """Return the height of a beam's underside, mm."""
    return line.top - plate_on(line.beam, section) - section.depth


def passing(made: Beamed) -> Passing:
    """Return a beam as the linings that it passes through meet it."""
    line, chosen = made.line, made.design.section
    bottom = underside(line, chosen)
    return Passing(line.start, line.end, chosen.breadth, bottom, bottom + chosen.depth)


class Girders:
    """Designs beams: one object, so that the memo finds it the same."""

    def design(
        self, line: BeamLine, seats: tuple[BeamSeat, ...], laid: Laid, held: float | None, standard: Standard
    ) -> GirderDesign:
        """Design a beam for what lies on it."""
        return design_girder(line, seats, laid, held, standard)

    def underside(self, line: BeamLine, section: BeamSection) -> float:
        """Return the height of a beam's underside, mm."""
        return underside(line, section)


GIRDERS = Girders()
