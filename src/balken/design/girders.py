"""Beams of the model designed: their line with what lies on it, the section typed or the cheapest that works."""

from collections.abc import Iterator
from dataclasses import dataclass, replace
from functools import cached_property

from balken.analysis.lines import LineError
from balken.catalog.beams import TRIED, BeamSection, beam_section
from balken.design.beams import by_cost, with_own_weight
from balken.design.layouts import Neighbour
from balken.framing.beams import SEAT, BeamLine, plate_on
from balken.loads.along import Laid
from balken.loads.beam_law import BeamSeat, Extremes
from balken.loads.cases import Cases
from balken.model.records import Beam
from balken.standards.checks import GirderResult, MemberResult
from balken.standards.demands import GirderCase, Limit
from balken.standards.standard import Standard

SHORTEST_SEAT = 25.0
"""A seat is checked as at least this long, mm; that it is short is said apart."""
NEXT = 2
"""Sections shown as neighbours to each side."""


@dataclass(frozen=True)
class GirderDesign:
    """What a beam is made of and whether it works; ``made`` is None where nothing can be worked out, for ``unchecked``.

    ``own``: its weight, N; ``reactions``, ``extremes``: at each seat.  ``others``: sections near it, each with its case.
    """

    id: str
    section: BeamSection
    auto: bool
    own: Cases
    reactions: tuple[Cases, ...]
    extremes: tuple[Extremes, ...]
    made: GirderResult | None
    others: tuple[GirderCase, ...] = ()
    unchecked: str = ""
    would_work: str = ""
    standard: Standard | None = None

    @property
    def result(self) -> MemberResult | None:
        """Its checks."""
        return self.made.result if self.made is not None else None

    @property
    def works(self) -> bool:
        """Whether it carries its load, as far as it is checked."""
        return self.made is not None and self.made.used <= 1.0

    @cached_property
    def neighbours(self) -> tuple[Neighbour, ...]:
        """Sections near it and how far they would be used."""
        if self.standard is None:
            return ()
        rows = [(case.size, self.standard.check_girder(case)) for case in self.others]
        return tuple(Neighbour(size, 0.0, r.used, r.result.governs.name) for size, r in rows)


def design_girder(
    line: BeamLine, seats: tuple[BeamSeat, ...], laid: Laid, held: float | None, standard: Standard
) -> GirderDesign:
    """Take a beam's typed section or choose one, and check it for what lies on it."""
    beam = line.beam
    first = beam_section(beam.size) if beam.size else beam_section(sizes_for(beam)[0])
    if len(seats) < 2:
        own = Cases(dead=round(first.own_line * line.length, 3))
        why = "it stands on nothing" if not seats else "it stands in one place alone"
        return GirderDesign(beam.id, first, beam.size is None, own, (), (), None, unchecked=why)
    case = girder_case(line, seats, laid, held, first.name, standard)
    try:
        return _designed(beam, case, standard)
    except (KeyError, LineError) as error:  # no values of that grade, or supports that hold nothing
        own = Cases(dead=round(first.own_line * line.length, 3))
        return GirderDesign(beam.id, first, False, own, (), (), None, unchecked=str(error.args[0]))


def sizes_for(beam: Beam) -> list[str]:
    """Return the sections tried for a beam, the cheapest first; under joists none narrower than they need to bear."""
    names = TRIED[beam.made_of]
    if not beam.flush:
        names = tuple(n for n in names if beam_section(n).breadth >= SEAT - 1.0)
    return by_cost(names, beam.species)


def girder_case(
    line: BeamLine, seats: tuple[BeamSeat, ...], laid: Laid, held: float | None, size: str, standard: Standard
) -> GirderCase:
    """Return the case of a beam without its own weight."""
    beam = line.beam
    patches = tuple(
        (low, high, q, q)
        for low, high, load in zip(laid.low.round(3).tolist(), laid.high.round(3).tolist(), laid.loads, strict=True)
        for q in (Cases(*(round(v, 9) for v in (load / (high - low)).tolist())),)
        if any(q)
    )
    return GirderCase(
        "beam",
        size,
        beam.species,
        beam.grade,
        round(line.length, 3),
        tuple(round(seat.along, 3) for seat in seats),
        tuple(round(max(seat.bearing, SHORTEST_SEAT), 3) for seat in seats),
        patches,
        (),
        held,
        False,
        True,
        standard.joist_limit,
        Limit(240.0, "NDS 3.5.2"),
    )


def _designed(beam: Beam, case: GirderCase, standard: Standard) -> GirderDesign:
    names = sizes_for(beam)
    if beam.size is not None:
        made = standard.check_girder(with_own_weight(case))
        better = "" if made.used <= 1.0 else next((n for n, r in _tried(case, names, standard) if r.used <= 1.0), "")
        return _of(beam, made, case, names, False, standard, better)
    best: GirderResult | None = None
    for _, made in _tried(case, names, standard):
        if best is None or made.used < best.used:
            best = made
        if made.used <= 1.0:
            best = made
            break
    assert best is not None
    return _of(beam, best, case, names, True, standard, "")


def _tried(case: GirderCase, names: list[str], standard: Standard) -> Iterator[tuple[str, GirderResult]]:
    """Give each section checked, without those that one already checked shows to be too weak."""
    weak: list[tuple[float, float, float]] = []
    for name in names:
        s = beam_section(name)
        measures = (s.modulus, s.inertia, s.area)
        if any(all(a <= b for a, b in zip(measures, known, strict=True)) for known in weak):
            continue
        made = standard.check_girder(with_own_weight(replace(case, size=name)))
        if made.used > 1.0:
            weak.append(measures)
        yield name, made


def _of(
    beam: Beam, made: GirderResult, case: GirderCase, names: list[str], auto: bool, standard: Standard, better: str
) -> GirderDesign:
    size = made.result.case.size
    section = beam_section(size)
    i = names.index(size) if size in names else len(names)
    near = [*names[max(i - NEXT, 0) : i], *names[i + 1 : i + 1 + NEXT]]
    others = tuple(with_own_weight(replace(case, size=n)) for n in near)
    beyond = tuple(
        Extremes(_apart(most, whole), _apart(least, whole))
        for (most, least), whole in zip(made.by_case, made.reactions, strict=True)
    )
    own = Cases(dead=round(section.own_line, 6) * case.length)
    whole = tuple(Cases(*(round(v, 6) for v in r)) for r in made.reactions)
    return GirderDesign(beam.id, section, auto, own, whole, beyond, made, others, "", better, standard)


def _apart(value: Cases, whole: Cases) -> Cases:
    return Cases(*(round(a - b, 3) for a, b in zip(value, whole, strict=True)))


def underside(line: BeamLine, section: BeamSection) -> float:
    """Return the height of a beam's underside, mm."""
    return line.top - plate_on(line.beam, section) - section.depth
