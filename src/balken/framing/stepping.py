"""Where a foundation steps down so that its footing stays below frost: the fewest steps on a module."""

import itertools
import math
from collections.abc import Callable

from msgspec.structs import replace

from balken.framing.bands import wall_lines
from balken.framing.foundations import FoundationRun, foundation_runs
from balken.framing.ground import Ground, ground_of
from balken.model.edits import change
from balken.model.errors import EditError
from balken.model.lookup import there
from balken.model.records import Foundation, Project, Step
from balken.units import Units
from balken.units.system import INCH
from balken.value import Value

STATION = 150.0
"""The ground is looked at this often along a wall, mm."""
USUAL_MODULE = {Units.IMPERIAL: (8.0 * INCH, 24.0 * INCH), Units.METRIC: (200.0, 600.0)}
"""Height of a block course, and the greatest drop of one step (common practice, no source)."""


class Module(Value, frozen=True):
    """Drops are multiples of ``course`` up to ``most``; steps lie at multiples of ``place`` from the start of their wall,
    at least ``apart`` from one another, mm."""

    course: float
    most: float
    apart: float
    place: float


LEAST_BURIAL = 12.0 * INCH
"""IRC R403.1.4: at least 12 in below undisturbed ground."""
_BOND = {Units.IMPERIAL: 8.0 * INCH, Units.METRIC: 200.0}
"""Half a block with its joint, and the height of a course."""
_ROUND = {Units.IMPERIAL: INCH, Units.METRIC: 10.0}
"""Places and drops are read off a tape in these steps."""
_STATION = {Units.IMPERIAL: 6.0 * INCH, Units.METRIC: 150.0}


def module_for(units: Units, foundation: Foundation, course: float = 0.0, place: float = 0.0) -> Module:
    """Return the module of a foundation's steps: block courses and half blocks, or what was typed.

    Steps are no closer than the lap and twice the course.
    """
    usual, most = USUAL_MODULE[units]
    bond = _BOND[units] if foundation.made_of != "concrete" else _STATION[units]
    drop = course or usual
    return Module(drop, max(most, drop), max(foundation.lap, 2.0 * drop), place or bond)


def whole(units: Units, foundation: Foundation) -> tuple[float, float]:
    """Return the least steps of places and drops, mm: whole inches or 10 mm; half blocks and courses in block."""
    if foundation.made_of != "concrete":
        return _BOND[units], _BOND[units]
    return _ROUND[units], _ROUND[units]


def need(run: FoundationRun, ground: Ground, depth: float, below: float, along: float) -> float:
    """Return how far below the foundation's foot its footing (``depth`` thick) must stand at a place, mm.

    Its underside must be ``below`` mm under the ground beside it (the lower of both ends of the wall's
    thickness is the outside).
    """
    z = ground.height(run.band.at(along, run.faces[0]))
    return run.band.bottom - depth - (z - below)


def auto_steps(
    runs: list[FoundationRun],
    foundation: Foundation,
    ground: Ground,
    depths: dict[str, float],
    below: float,
    module: Module,
) -> tuple[Step, ...]:
    """Return the fewest steps that keep every footing of a foundation ``below`` mm under the ground.

    Runs that meet end to end are followed round the building, so that levels agree at corners; no step lies
    nearer than a footing's width to a corner.
    """
    steps: list[Step] = []
    for chain in _chains([r for r in runs if r.foundation.id == foundation.id]):
        steps += _chain_steps(chain, ground, depths, below, module)
    return tuple(steps)


def _chains(runs: list[FoundationRun]) -> list[list[tuple[FoundationRun, bool]]]:
    """Return runs end to end: (run, whether it is followed from start to end)."""
    left = list(runs)
    found = []
    while left:
        chain = [(left.pop(0), True)]
        for front in (False, True):
            growing = True
            while growing:
                growing = False
                run, forward = chain[0] if front else chain[-1]
                tip = run.band.end if forward != front else run.band.start
                for other in left:
                    for point, way in ((other.band.start, True), (other.band.end, False)):
                        if math.dist(tip, point) < 1.0:
                            left.remove(other)
                            if front:
                                chain.insert(0, (other, not way))
                            else:
                                chain.append((other, way))
                            growing = True
                            break
                    if growing:
                        break
        found.append(chain)
    return found


Station = tuple[FoundationRun, float, bool]
"""A run, a place along it, whether a step may lie there."""


def _stations(chain: list[tuple[FoundationRun, bool]], depths: dict[str, float], module: Module) -> list[Station]:
    """Return the places at which the ground is looked at: both ends of each run and multiples of the module between."""
    stations: list[Station] = []
    every = module.place * max(1, round(STATION / module.place))
    for run, forward in chain:
        low, high = run.span
        inner = [k * every for k in range(math.ceil(low / every + 1e-6), math.floor(high / every - 1e-6) + 1)]
        places = [low, *(x for x in inner if low + 1.0 < x < high - 1.0), high]
        near = depths[run.id] + STATION
        row = [(run, along, min(along - low, high - along) > near) for along in places]
        stations += row if forward else row[::-1]
    return stations


def _needs(
    stations: list[Station], ground: Ground, depths: dict[str, float], below: float, module: Module
) -> list[int]:
    """Return the least level, in courses below the foot, at each station: that of the ground a station to both sides, and
    wherever between them its slope changes.
    """
    found = []
    breaks: dict[str, list[float]] = {}
    for run, along, _ in stations:
        low, high = run.span
        step = module.place * max(1, round(STATION / module.place))
        if run.id not in breaks:
            a, b = (run.band.at(x, run.faces[0]) for x in (low, high))
            breaks[run.id] = [low + x for x in ground.breaks(a, b)]
        between = [x for x in breaks[run.id] if along - step < x < along + step]
        around = (max(along - step, low), along, min(along + step, high), *between)
        more = max(need(run, ground, depths[run.id], below, x) for x in around)
        found.append(max(0, math.ceil(more / module.course - 1e-6)))
    return found


def _caps(stations: list[Station], needs: list[int], closed: bool) -> list[int]:
    """Return how deep each station may lie at most: on a level high side no deeper than it and its corners need.

    A side is level and high where its need is the least of all along the whole run.
    """
    least, count = min(needs), len(needs)
    caps = [10**9] * count
    runs: dict[str, list[int]] = {}
    for i, (run, _, _) in enumerate(stations):
        runs.setdefault(run.id, []).append(i)
    for mine in runs.values():
        if any(needs[i] != least for i in mine):
            continue
        # Near a corner no step can lie, so what the neighbour needs there this side needs, too.
        reach = least
        for start, way in ((mine[0], -1), (mine[-1], 1)):
            i = start + way
            while (closed or 0 <= i < count) and not stations[i % count][2] and i % count not in mine:
                reach = max(reach, needs[i % count])
                i += way
        for i in mine:
            caps[i] = reach
    return caps


def _chain_steps(
    chain: list[tuple[FoundationRun, bool]], ground: Ground, depths: dict[str, float], below: float, module: Module
) -> list[Step]:
    """Dynamic programme over stations and levels: fewest steps, then least depth.

    Nothing lies deeper than needed by more than the greatest drop, else the fewest steps would be none at all; a level
    high side lies no deeper than it needs.
    """
    stations = _stations(chain, depths, module)
    needs = _needs(stations, ground, depths, below, module)
    if max(needs) == 0:
        return []
    first, last = chain[0], chain[-1]
    begin = first[0].band.start if first[1] else first[0].band.end
    close = last[0].band.end if last[1] else last[0].band.start
    closed = len(chain) > 2 and math.dist(begin, close) < 1.0
    for caps in (_caps(stations, needs, closed), [10**9] * len(needs)):
        best = _best_path(stations, needs, caps, closed, module)
        if best is not None:
            return _as_steps(chain, stations, best, module)
    return []


def _best_path(
    stations: list[Station], needs: list[int], caps: list[int], closed: bool, module: Module
) -> list[int] | None:
    """Return the cheapest levels at the stations; None when the caps leave no way on the module."""
    most = max(int(module.most / module.course + 1e-6), 1)
    every = module.place * max(1, round(STATION / module.place))
    apart = max(math.ceil(module.apart / every - 1e-6), 1)
    deepest = max(needs)
    capped = min(caps) < 10**9

    def waste(i: int, level: int) -> int:
        """Price of a station that lies too deep: as much as a step when some 6 m do."""
        return 25 * max(0, level - needs[i] - most) + (10**6 if level > caps[i] else 0)

    # A ring must come back to the level at which it begins: each such level is tried.
    levels = range(deepest + 1)
    begins = [[v] for v in levels if needs[0] <= v <= needs[0] + most] if closed else [list(levels)]
    best: tuple[tuple[int, int], list[int]] | None = None
    for starts in begins:
        made = _cheapest(needs, [s[2] for s in stations], starts, closed, most, apart, deepest, waste)
        if best is None or made[0] < best[0]:
            best = made
    assert best is not None
    return None if capped and best[0][0] >= 10**6 else best[1]


def _cheapest(
    needs: list[int],
    may_step: list[bool],
    starts: list[int],
    closed: bool,
    most: int,
    apart: int,
    deepest: int,
    waste: Callable[[int, int], int],
) -> tuple[tuple[int, int], list[int]]:
    """Return (price, depth) and the level at every station; with ``closed`` it ends at the level it starts."""
    infinite = (10**9, 10**9)
    # By (level, for how many stations it was held, up to ``apart``): price and depth so far.
    cost = {(v, apart): (waste(0, v), v) if v >= needs[0] else infinite for v in starts}
    back: list[dict[tuple[int, int], tuple[int, int]]] = []
    for i in range(1, len(needs)):
        new: dict[tuple[int, int], tuple[int, int]] = {}
        trail: dict[tuple[int, int], tuple[int, int]] = {}

        def offer(key: tuple[int, int], price: tuple[int, int], origin: tuple[int, int]) -> None:
            if price < new.get(key, infinite):  # noqa: B023 - called at once
                new[key] = price  # noqa: B023
                trail[key] = origin  # noqa: B023

        for (v, held), (count, depth) in cost.items():
            if count >= 10**9:
                continue
            if v >= needs[i]:
                offer((v, min(held + 1, apart)), (count + waste(i, v), depth + v), (v, held))
            if held >= apart and may_step[i]:
                for w in range(max(0, v - most), min(deepest, v + most) + 1):
                    # The station itself is the step: both sides must be deep enough there.
                    if w != v and w >= needs[i] and min(v, w) >= needs[i]:
                        offer((w, 1), (count + 1000 + waste(i, w), depth + w), (v, held))
        if not new:  # no way on the module: go straight down where it is needed, at a price above every other way
            best = min(cost, key=lambda key: cost[key])
            new = {(deepest, apart): (cost[best][0] + 10**6, cost[best][1])}
            trail = {(deepest, apart): best}
        cost = new
        back.append(trail)
    ends = [key for key in cost if not closed or key[0] == starts[0]]
    state = min(ends or cost, key=lambda key: cost[key])
    price = cost[state] if ends else infinite
    path = [state[0]]
    for trail in reversed(back):
        state = trail[state]
        path.append(state[0])
    path.reverse()
    return price, path


def _as_steps(
    chain: list[tuple[FoundationRun, bool]],
    stations: list[tuple[FoundationRun, float, bool]],
    path: list[int],
    module: Module,
) -> list[Step]:
    steps: list[Step] = []
    for run, forward in chain:
        own = [(along, level) for (r, along, _), level in zip(stations, path, strict=True) if r is run]
        if not forward:
            own.reverse()
        if own[0][1]:
            steps.append(Step(wall=run.wall, at=0.0, drop=own[0][1] * module.course))
        for (earlier, before), (along, level) in itertools.pairwise(own):
            if level != before:
                at = along if forward else earlier
                steps.append(Step(wall=run.wall, at=round(at, 1), drop=(level - before) * module.course))
    return steps


def step_down(project: Project, foundation_id: str, depth: float, course: float = 0.0, place: float = 0.0) -> Project:
    """Let a foundation follow the ground: replace its steps by the fewest that keep it below frost.

    ``depth``: thickness of its footing; ``course``, ``place``: the module of drops and of their places, 0 for the usual,
    mm.  Raises EditError without ground.
    """
    foundation = there(project.foundations, foundation_id)
    ground = ground_of(project.spots, project.levels)
    if ground is None:
        raise EditError("nothing says where the ground is.", foundation.name, "Set spot heights or a ground level.")
    if course < 0.0 or place < 0.0 or 0.0 < course < 20.0 or 0.0 < place < 20.0:
        raise EditError("a module of steps is 3/4 in (20 mm) or more.", foundation.name, 'Type such as 8", 16".')
    lines = wall_lines(project.walls, project.buildups, project.grids, project.levels)
    plain = replace(foundation, steps=())
    runs = [r for r in foundation_runs((plain,), lines, project.levels) if r.band.outside]
    module = module_for(project.steps, foundation, course, place)
    below = max(project.loads.frost_depth, LEAST_BURIAL)
    steps = auto_steps(runs, plain, ground, {r.id: depth for r in runs}, below, module)
    return change(project, foundation_id, steps=steps)
