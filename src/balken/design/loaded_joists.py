"""Joists under what stands on their deck: each solved under its own floor and those loads, doubled where one is not enough.

Depth and spacing stay those of the layout; plies are chosen.  The safe reading throughout: the span runs between the
middles of the bearings, a load near a bearing counts in full for shear, and Cr is not taken for fewer than three plies.
"""

from collections.abc import Mapping

import numpy as np
from msgspec.structs import replace
from numpy.typing import NDArray

from balken.analysis.lines import Line, solve_alike
from balken.catalog.sections import framed_of, section, side_by_side
from balken.design.running_joists import can_run, running_case
from balken.framing.floor_openings import MOST_PLIES
from balken.framing.floors import FloorPlan
from balken.framing.joist_lines import HANGER
from balken.framing.pieces import NOTHING_EDITED, MadeOf, MemberLine
from balken.loads.area_loads import floor_cases
from balken.loads.cases import COUNT, Cases
from balken.loads.decks import Floored, JoistLoad
from balken.model.naming import piece_name
from balken.model.records import Loads
from balken.standards.checks import MemberResult
from balken.standards.demands import BeamCase, BeamForces, GirderCase, Limit
from balken.standards.standard import Standard
from balken.value import Value

ALL_LOAD = Limit(240.0, "NDS 3.5.2")
Array = NDArray[np.float64]


class LoadedJoists(Value, frozen=True):
    """Joists under what stands on a deck, by name: how each is used, and what those are made of that are doubled."""

    results: dict[str, MemberResult]
    made: dict[str, MadeOf]


NONE_LOADED = LoadedJoists({}, {})


def design_loaded(
    plan: FloorPlan,
    size: str,
    loads: Loads,
    floored: Floored,
    standard: Standard,
    edited: Mapping[str, MadeOf] = NOTHING_EDITED,
) -> LoadedJoists:
    """Choose the plies of every joist that something stands on; ``edited``: what single joists were made of by hand.

    What was made by hand stays as it is and is checked.
    """
    lines = {piece_name(plan.floor.id, "joist", line.place): line for line in plan.lines}
    every = [(name, lines[name], rows) for name, rows in floored.joists.items()]
    results, least = _headers(plan, size, floored, standard, edited), _trimmers(plan)
    made: dict[str, MadeOf] = {}
    for name, line, rows in every:
        if can_run(line):
            runs = _Running(plan, line, rows, loads, standard)
            _take(name, runs, size, least, edited, results, made)
    joists = [row for row in every if not can_run(row[1])]
    if not joists:
        return LoadedJoists(results, made)
    combos = standard.combinations
    solved = solve_alike([_line(plan, line, rows, loads) for _, line, rows in joists])
    moments = solved.combined(combos.factors).greatest_moment()
    live = solved.combined(combos.live)
    sags, bent = np.abs(live.greatest_sag()[0]).max(axis=1), live.greatest_moment().max(axis=1)
    ends = solved.reactions @ combos.factors.T
    for k, (name, line, rows) in enumerate(joists):
        on = _OnJoist(plan, line, rows, loads, standard, moments[k], ends[k], float(sags[k]), float(bent[k]))
        _take(name, on, size, least, edited, results, made)
    return LoadedJoists(results, made)


def _take(
    name: str,
    on: "_OnJoist | _Running",
    size: str,
    least: Mapping[str, int],
    edited: Mapping[str, MadeOf],
    results: dict[str, MemberResult],
    made: dict[str, MadeOf],
) -> None:
    """Check a joist as it was made by hand, else choose its plies."""
    own = edited.get(name)
    if own is not None:
        results[name] = on.checked(own.sized(size), own)
        return
    board = framed_of(size) if name in least else size
    results[name], chosen = _plies(on, board, least.get(name, 1))
    if chosen != size:
        made[name] = MadeOf(chosen)


def _trimmers(plan: FloorPlan) -> dict[str, int]:
    """Return by name how many boards the trimmers of openings have at least (IRC R502.10)."""
    found = {}
    for hole in plan.holes:
        for line in plan.lines:
            if min(abs(line.t - t) for t in hole.trimmers) < 1.0 and line.low < hole.s1 and line.high > hole.s0:
                found[piece_name(plan.floor.id, "joist", line.place)] = hole.plies
    return found


def _headers(
    plan: FloorPlan, size: str, floored: Floored, standard: Standard, edited: Mapping[str, MadeOf]
) -> dict[str, MemberResult]:
    """Check the headers of openings, in hangers between their trimmers, under the joists that hang on them."""
    joists = plan.floor.joists
    found: dict[str, MemberResult] = {}
    for hole in plan.holes:
        made = side_by_side(framed_of(size), hole.plies)
        for name in (hole.header(0), hole.header(1)):
            rows = floored.headers.get(name, ())
            own = edited.get(name, MadeOf())
            long = hole.t1 - hole.t0
            points = tuple(
                (round(min(max(row.t - hole.t0, 0.0), long), 3), Cases(*(round(v, 3) for v in row.force)))
                for row in rows
            )
            if points:
                half = HANGER / 2.0
                case = GirderCase(
                    "beam", own.sized(made), own.species or joists.species, own.grade or joists.grade, round(long, 3),
                    (half, round(long - half, 3)), (HANGER, HANGER), (), points, 0.0, False, False,
                    standard.joist_limit, ALL_LOAD, outdoors=plan.floor.outdoors,
                )  # fmt: skip
                found[name] = standard.check_girder(case).result
    return found


def _plies(on: "_OnJoist | _Running", size: str, least: int) -> tuple[MemberResult, str]:
    """Return the first that works of one joist, two, three; the most where none does."""
    tried = list(dict.fromkeys(side_by_side(size, n) for n in range(1, MOST_PLIES + 1)))
    tried = tried[least - 1 :] or tried
    for name in tried:
        result = on.checked(name, MadeOf())
        if result.used <= 1.0:
            break
    return result, name


def _line(plan: FloorPlan, line: MemberLine, rows: tuple[JoistLoad, ...], loads: Loads) -> Line:
    """Return a joist between the middles of its bearings: its own floor evenly, what stands on it where it is."""
    a, b = line.centres
    span = b - a
    own = np.array(floor_cases(loads, plan.floor)) * _width(plan, line) / 1000.0
    ends = np.array([(0.0, span), *((_in(r.low - a, span), _in(r.high - a, span)) for r in rows)])
    # What lies over a bearing does not bend the joist, but comes down through it.
    ends[:, 1] = np.maximum(ends[:, 1], ends[:, 0] + 1e-3)
    each = [own, *(np.array(r.force) / (e[1] - e[0]) for r, e in zip(rows, ends[1:], strict=True))]
    return Line(
        span,
        (0.0, span),
        ends,
        np.repeat(np.array(each)[:, None, :], 2, axis=1),
        np.zeros(0),
        np.zeros((0, COUNT)),
    )


def _in(x: float, span: float) -> float:
    return min(max(x, 0.0), span - 1e-3)


def _width(plan: FloorPlan, line: MemberLine) -> float:
    """Return the width of floor a joist carries: by the layout's spacing at least, but as it is after a hand edit."""
    return line.width if line.edited else max(line.width, plan.spacing)


class _Running(Value, frozen=True):
    """A joist that runs on, under what stands on its deck."""

    plan: FloorPlan
    line: MemberLine
    rows: tuple[JoistLoad, ...]
    loads: Loads
    standard: Standard

    def checked(self, size: str, own: MadeOf) -> MemberResult:
        """Check it made of a section."""
        plan, floor = self.plan, self.plan.floor
        case = running_case(floor, self.line, plan.spacing, self.loads, size, self.standard, own, self.rows)
        return self.standard.check_running(replace(case, repetitive=case.section.plies >= 3))


class _OnJoist(Value, frozen=True):
    """One joist solved: moments and end forces (2,) by combination, E I times its greatest live sag."""

    plan: FloorPlan
    line: MemberLine
    rows: tuple[JoistLoad, ...]
    loads: Loads
    standard: Standard
    moments: Array
    ends: Array
    sag: float
    live_moment: float

    def checked(self, size: str, own: MadeOf) -> MemberResult:
        """Check it made of a section."""
        line, floor = self.line, self.plan.floor
        a, b = line.centres
        q = floor_cases(self.loads, floor).scaled(_width(self.plan, line) / 1000.0)
        load = q.scaled(b - a)
        for row in self.rows:
            load = load.plus(row.force)
        bearing = min([x for x, s in zip(line.bearings, line.supports, strict=True) if s], default=1.0)
        case = BeamCase(
            "joist under load",
            size,
            own.species or floor.joists.species,
            own.grade or floor.joists.grade,
            round(line.clear, 3),
            round(b - a, 3),
            Cases(*(round(v, 3) for v in load)),
            round(max(bearing, 1.0), 3),
            0.0,
            0.0,
            0.0,
            floor.outdoors,
        )
        combos = self.standard.combinations.true_of(load)
        among = self.standard.combinations.numbers(combos)
        # Of the floor itself, what lies within the depth of a bearing does not count (NDS 3.4.3.1(a)).
        near = min(section(size).depth + bearing / 2.0, (b - a) / 2.0)
        most = self.ends[:, among].max(axis=0)
        shears = [max(end - c.of(q) * near, 0.0) for end, c in zip(most.tolist(), combos, strict=True)]
        return self.standard.check_beam(
            case,
            BeamForces(
                combos,
                self.moments[among].tolist(),
                shears,
                most.tolist(),
                self.ends[:, among].min(axis=0).tolist(),
                self.sag,
                self.live_moment,
            ),
        )
