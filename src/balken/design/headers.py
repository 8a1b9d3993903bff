"""Headers over openings: built-up size from the load that lies over the opening, jack studs from bearing, king studs.

The header is a simple span between its jacks (NDS 3.2.1) under what lies over it: members and walls at their places,
its own part of the wall evenly.
"""

from collections.abc import Sequence
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from balken.analysis.lines import Line, Solved, solve_alike
from balken.catalog.sections import HEADER_DEPTHS, section
from balken.loads.along import Laid, kept_within, laid_evenly, laid_together
from balken.loads.cases import COUNT, Cases, Combination, Combinations, most_by_duration
from balken.loads.wall_law import HeadLoad
from balken.model.records import Framing, Opening
from balken.standards.checks import MemberResult
from balken.standards.demands import BeamCase, BeamForces, Limit, StudCase
from balken.standards.standard import Standard
from balken.units.system import INCH
from balken.value import Value

Array = NDArray[np.float64]
JACK = section("2x4").breadth
"""Thickness of a jack stud, mm."""
MOST_JACKS = 5
MOST_KINGS = 4
TIDY = 6
"""Ends of loads are taken to so many digits of a mm."""
CLOSE = 4.0 * INCH
"""A header that hangs farther than this below the plates is not held by them against turning over, mm."""


class OpeningCase(Value, frozen=True):
    """An opening to be framed: sizes in mm, what lies over it, wind.

    ``over``: what lies from jack to jack, by place along the wall: members, walls, and the wall above the opening;
    ``gap``: between its head and the plates.  ``full``, ``jack``: heights of king and jack studs.  ``pressure``: wind at
    strength level, kN/m2.  ``beside``: load on the head a mm beside the opening, N/mm.
    """

    id: str
    low: float
    width: float
    members: Laid
    walls: Laid
    gap: float
    full: float
    jack: float
    pressure: float
    beside: Cases
    door: bool
    tall: float
    """Height of the opening itself, mm."""

    @property
    def high(self) -> float:
        """Its end along the wall, mm."""
        return self.low + self.width


class HeaderDesign(Value, frozen=True):
    """Header, jacks and kings of one opening, and how far each is used."""

    opening: str
    size: str
    auto: bool
    jacks: int
    kings: int
    header: MemberResult
    jack: MemberResult
    king: MemberResult

    @property
    def used(self) -> float:
        """The greatest of the three."""
        return max(self.header.used, self.jack.used, self.king.used)


def header_sizes(core: float) -> tuple[str, ...]:
    """Return the built-up headers that fit into a wall core of that thickness (mm), shallowest first."""
    plies = max(1, min(int((core + 0.5) // JACK), 3))
    return tuple(f"{n}-2x{d}" if n > 1 else f"2x{d}" for d in HEADER_DEPTHS for n in range(min(2, plies), plies + 1))


def opening_case(
    o: Opening,
    head: HeadLoad,
    own: float,
    plates: float,
    heights: tuple[float, float],
    pressure: float,
    spacing: float,
    combos: Combinations,
) -> OpeningCase:
    """Return what frames an opening and what lies over it.

    ``own``: weight of the wall above the opening, N/mm; ``plates``: height of the underside of the plates above the
    wall's foot; ``heights``: of king and jack studs, mm.
    """
    reach = MOST_JACKS * JACK
    low, high = o.offset, o.offset + o.width
    above = laid_evenly(low - reach, high + reach, Cases(dead=own * (o.width + 2.0 * reach)))
    every = head.all
    beside = [every.within(low - spacing, low).sum, every.within(high, high + spacing).sum]
    most = max(beside, key=lambda c: combos.worst(c)[0]).scaled(1.0 / spacing)
    full, jack = heights
    return OpeningCase(
        o.id,
        low,
        o.width,
        laid_together((head.members.within(low - reach, high + reach), above)),
        head.standing.within(low - reach, high + reach),
        max(plates - (o.sill + o.height), 0.0),
        full,
        jack,
        pressure,
        most.plus(Cases(dead=own)),
        o.sill <= 0.0,
        o.height,
    )


class _Spanning(Value, frozen=True):
    """A header's line solved between its bearings, under what lies over the opening; alike for every size.

    ``shears``: by the depth of a header, the shear by case at that depth from both jacks (2, cases), N;
    ``moments``: greatest by combination, N mm; ``sag``: E I times the greatest under live load, N mm3; ``ends``: what
    the jacks at both sides carry by their number less one (5, 2, cases), N.
    """

    case: OpeningCase
    shears: dict[float, Array]
    span: float
    load: Cases
    combos: tuple[Combination, ...]
    factors: Array
    moments: Array
    sag: float
    ends: Array


def _between(case: OpeningCase, framing: Framing, sizes: Sequence[str], standard: Standard) -> Line:
    """Return the line between the middles of the needed bearings; the thinnest size needs the longest."""
    wood = framing.header_species, framing.header_grade
    per_mm = min(standard.across_grain(*wood, section(s)) * section(s).breadth for s in sizes)
    every = laid_together((case.members, case.walls))
    over = every.within(case.low, case.high)
    middle = (over.low + over.high) / 2.0
    right = ((middle - case.low) / case.width) @ over.loads if len(middle) else np.zeros(COUNT)
    most = np.maximum(np.stack([np.array(over.sum) - right, right]) @ standard.combinations.factors.T, 0.0).max(axis=1)
    needs = np.minimum(most / per_mm, 2.0 * MOST_JACKS * JACK) / 2.0
    begin, span = case.low - float(needs[0]), case.width + float(needs.sum())
    on = kept_within(every.within(begin, begin + span), begin, begin + span)
    # What lies on the same stretch, as that of several storeys does, is one load.
    patches: Array
    patches, which = np.unique(
        np.round(np.stack([on.low - begin, on.high - begin], axis=1), TIDY), axis=0, return_inverse=True
    )
    forces = np.zeros((len(patches), COUNT))
    np.add.at(forces, which.ravel(), on.loads)
    loads = np.repeat((forces / (patches[:, 1] - patches[:, 0])[:, None])[:, None, :], 2, axis=1)
    return Line(span, (0.0, span), patches, loads, np.zeros(0), np.zeros((0, COUNT)))


class Openings(Value, frozen=True):
    """The openings of one wall and what its framing is made of; sizes of headers in the order they are tried."""

    cases: tuple[OpeningCase, ...]
    typed: tuple[str | None, ...]
    framing: Framing
    sizes: tuple[str, ...]
    stud: str
    limit: Limit
    """Of the studs' sag under wind."""
    standard: Standard

    def tried(self, i: int) -> tuple[str, ...]:
        """Return the header sizes that one of its openings may have."""
        typed = self.typed[i]
        return self.sizes if typed is None else (typed,)


def design_headers(walls: Sequence[Openings]) -> list[dict[str, HeaderDesign]]:
    """Choose for each opening the smallest header that works (or take the typed one), then jacks and kings.

    The openings of many walls are solved in one go; returned wall by wall, by the opening's id.
    """
    rows = [(wall, i) for wall in walls for i in range(len(wall.cases))]
    if not rows:
        return [{} for _ in walls]
    combinations = walls[0].standard.combinations
    solved = solve_alike([_between(wall.cases[i], wall.framing, wall.tried(i), wall.standard) for wall, i in rows])
    moments = solved.combined(combinations.factors).greatest_moment()
    sags = np.abs(solved.combined(combinations.live).greatest_sag()[0]).max(axis=1)
    shears = _shears_at(solved, rows)
    found: dict[int, dict[str, HeaderDesign]] = {id(wall): {} for wall in walls}
    for k, (wall, i) in enumerate(rows):
        case = wall.cases[i]
        load = Cases(*(solved.q_begin[k] * (solved.finish[k] - solved.begin[k])[:, None]).sum(axis=0).tolist())
        wind = Cases(wind=case.pressure) if case.pressure > 0.0 else Cases()
        combos = combinations.true_of(load.plus(wind))
        among = combinations.numbers(combos)
        span, ends = float(solved.length[k]), _end_forces(case, float(solved.length[k]), solved.reactions[k])
        made = _Spanning(
            case, shears[k], span, load, combos, combinations.factors[among], moments[k, among], float(sags[k]), ends
        )
        found[id(wall)][case.id] = _framed(made, wall, i)
    return [found[id(wall)] for wall in walls]


def _shears_at(solved: Solved, rows: Sequence[tuple[Openings, int]]) -> list[dict[float, Array]]:
    """Return for each opening, by the depth of a header, the shear by case at that depth from both jacks (2, cases)."""
    depths = [sorted({section(size).depth for size in wall.tried(i)}) for wall, i in rows]
    most = max(len(row) for row in depths)
    clear = np.array([wall.cases[i].width for wall, i in rows])[:, None]
    half = (solved.length[:, None] - clear) / 2.0
    d = np.minimum(np.array([row + row[-1:] * (most - len(row)) for row in depths]), clear / 2.0)
    shear = solved.shear(np.concatenate([half + d, solved.length[:, None] - half - d], axis=1))
    return [{depth: shear[k, [n, most + n]] for n, depth in enumerate(row)} for k, row in enumerate(depths)]


def _framed(made: _Spanning, wall: Openings, i: int) -> HeaderDesign:
    wood = wall.framing.header_species, wall.framing.header_grade
    jacks = 1
    result: MemberResult | None = None
    tried = wall.tried(i)
    bent = most_by_duration(made.combos, made.moments.tolist())
    for name in tried:
        if name != tried[-1] and wall.standard.fails_bending(section(name), wood, bent):
            continue  # held all along it would fail already
        jacks = _jacks(name, made, wall)
        result = _check_header(made, name, jacks, wall)
        if result.used <= 1.0:
            break
    assert result is not None
    jack = _jack(made, jacks, wall)
    while jack.used > 1.0 and jacks < MOST_JACKS:
        jacks += 1
        jack = _jack(made, jacks, wall)
    kings, king = _kings(made.case, wall)
    return HeaderDesign(made.case.id, result.case.size, wall.typed[i] is None, jacks, kings, result, jack, king)


def _kings(case: OpeningCase, wall: Openings) -> tuple[int, MemberResult]:
    framing, stud = wall.framing, wall.stud
    half_bay, kings = (framing.spacing or 406.4) / 2.0, 1
    while True:
        king = wall.standard.check_stud(
            StudCase(
                "king stud",
                stud if kings == 1 else f"{kings}-{stud}",
                framing.species,
                framing.grade,
                case.full,
                case.width / 2.0 + half_bay,
                Cases(*(round(v, 3) for v in case.beside.scaled(half_bay))),
                case.pressure,
                framing.header_species,
                wall.limit,
                "end" if case.door else "inner",
            )
        )
        if king.used <= 1.0 or kings >= MOST_KINGS or f"{kings + 1}-{stud}" not in BUILT_UP:
            return kings, king
        kings += 1


BUILT_UP = frozenset(f"{n}-2x{d}" for n in (2, 3, 4) for d in (4, 6, 8, 10, 12, 14))


def _end_forces(case: OpeningCase, span: float, reactions: Array) -> Array:
    """Return what the jacks carry (jacks less one, side, case), N: the header's end and what lies straight over them."""
    every = laid_together((case.members, case.walls))
    half = (span - case.width) / 2.0
    wide = JACK * np.arange(1, MOST_JACKS + 1)
    reach = np.maximum(wide, half)
    direct = np.stack(
        [
            every.total_in(case.low - reach, np.full(MOST_JACKS, case.low - half)),
            every.total_in(np.full(MOST_JACKS, case.high + half), case.high + reach),
        ],
        axis=1,
    )
    ends: Array = direct + reactions[None, :, :]
    return ends


def _jacks(header: str, made: _Spanning, wall: Openings) -> int:
    """Return the number of jack studs each side on which the header is not crushed."""
    lumber, standard = section(header), wall.standard
    across = standard.across_grain(wall.framing.header_species, wall.framing.header_grade, lumber)
    jacks = 1
    while jacks < MOST_JACKS:
        reaction = float((made.ends[jacks - 1] @ standard.combinations.factors.T).max())
        if reaction <= across * lumber.breadth * jacks * JACK * (1.0 + 1e-9):
            break
        jacks += 1
    return jacks


def _jack(made: _Spanning, jacks: int, wall: Openings) -> MemberResult:
    framing, sides = wall.framing, made.ends[jacks - 1]
    most = Cases(*(sides[int((sides @ wall.standard.combinations.factors.T).max(axis=1).argmax())] / jacks).tolist())
    stands: Literal["inner", "end"] = "end" if made.case.door else "inner"
    return wall.standard.check_stud(
        StudCase(
            "jack stud",
            wall.stud,
            framing.species,
            framing.grade,
            made.case.jack,
            0.0,
            Cases(*(round(v, 3) for v in most)),
            plate=framing.header_species,
            stands=stands,
        )
    )


def _check_header(made: _Spanning, size: str, jacks: int, wall: Openings) -> MemberResult:
    """Check a header: bending, shear, bearing, sag, and with wind across it."""
    case, lumber, framing = made.case, section(size), wall.framing
    hangs = case.gap - lumber.depth > CLOSE
    # Half the opening and half the wall above it lean on the header; one right under the plates is held by them.
    tall = (case.tall + max(case.gap, 0.0)) / 2.0
    checked = BeamCase(
        "header", size, framing.header_species, framing.header_grade, case.width, made.span, made.load,
        jacks * JACK, made.span if hangs else 0.0, case.pressure, tall,
    )  # fmt: skip
    at_jacks = made.ends[jacks - 1] @ made.factors.T
    forces = BeamForces(
        made.combos,
        made.moments.tolist(),
        _shears(made, lumber.depth).tolist(),
        at_jacks.max(axis=0).tolist(),
        at_jacks.min(axis=0).tolist(),
        made.sag,
    )
    return wall.standard.check_beam(checked, forces)


def _shears(made: _Spanning, depth: float) -> Array:
    """Return the greatest shear by combination, N, loads near the supports left out as NDS 3.4.3.1(a) permits.

    What lies evenly within the depth of a support does not count; what a wall brings there counts by its distance
    from the support over the depth.
    """
    case = made.case
    d = min(depth, case.width / 2.0)
    shear = np.abs(made.shears[depth] @ made.factors.T)
    if len(case.walls.low):
        for k, (a, b) in enumerate(((case.low, case.low + d), (case.high - d, case.high))):
            near = case.walls.within(a, b)
            if len(near.low):
                middle = (near.low + near.high) / 2.0
                part = ((middle - a) if k == 0 else (b - middle)) / d
                shear[k] += np.abs((part @ near.loads) @ made.factors.T)
    most: Array = shear.max(axis=0)
    return most
