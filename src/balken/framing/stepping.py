"""Where a foundation steps down so that its footing stays below frost: the fewest steps on a module."""

import itertools
import math
from collections.abc import Callable
from dataclasses import dataclass

from msgspec.structs import replace

from balken.framing.bands import wall_lines
from balken.framing.foundations import FoundationRun, foundation_runs
from balken.framing.ground import Ground, ground_of
from balken.geometry.plane import off_line
from balken.model.edits import change
from balken.model.errors import EditError
from balken.model.lookup import locate, there
from balken.model.records import Foundation, Project, Step
from balken.units import Units
from balken.units.system import INCH

STATION = 150.0
"""The ground is looked at this often along a wall, mm."""
_MODULE = {Units.IMPERIAL: (8.0 * INCH, 24.0 * INCH), Units.METRIC: (200.0, 600.0)}
"""Height of a block course, and the greatest drop of one step (common practice, no source)."""


@dataclass(frozen=True, slots=True)
class Module:
    """Drops are multiples of ``course`` up to ``most``; steps lie at multiples of ``place`` from the start of their wall,
    at least ``apart`` from one another, mm."""

    course: float
    most: float
    apart: float
    place: float


_BOND = {Units.IMPERIAL: 8.0 * INCH, Units.METRIC: 200.0}
"""Half a block with its joint, and the height of a course."""
_ROUND = {Units.IMPERIAL: INCH, Units.METRIC: 10.0}
"""Places and drops are read off a tape in these steps."""
_STATION = {Units.IMPERIAL: 6.0 * INCH, Units.METRIC: 150.0}


def module_for(units: Units, foundation: Foundation, course: float = 0.0, place: float = 0.0) -> Module:
    """Return the module of a foundation's steps: block courses and half blocks, or what was typed.

    Steps are no closer than the lap and twice the course.
    """
    usual, most = _MODULE[units]
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


def places_to_meet(high: float, spread: float, lap: float, most: float) -> list[float]:
    """Return how far from a lower footing's edge the steps down to it lie, the farthest (highest) first, mm.

    Steps of at most ``most``, alike; each stretch keeps under the slope, and the steps keep the lap.
    """
    count = max(1, math.ceil(high / most - 1e-6))
    found: list[float] = []
    for j in range(count, 0, -1):
        above = high * (count - j + 1) / count  # of the stretch before this step over the lower footing
        found.append(max(above / spread + CLEAR, (found[-1] if found else 0.0) + lap + CLEAR))
    return found[::-1]


def _meeting(
    steps: list[Step], at_end: bool, edge: float, spread: float, lap: float, most: float
) -> tuple[list[Step], float]:
    """Return the steps of a wall, in their order, that already go down to a lower footing at an end, and by how much.

    At its start these are the steps that rise from there; what the wall begins with is not among them.
    """
    taken: list[Step] = []
    total = 0.0
    for step in reversed(steps) if at_end else steps:
        if step.at <= 0.5:
            continue
        down, away = (step.drop, edge - step.at) if at_end else (-step.drop, step.at - edge)
        if down <= 0.0 or away > places_to_meet(total + down, spread, lap, most)[0] + REACH:
            break
        taken.append(step)
        total += down
    return taken, total


def _of_wall(foundation: Foundation, wall: str) -> list[Step]:
    return sorted((s for s in foundation.steps if s.wall == wall), key=lambda s: s.at)


def room_to_step(run: FoundationRun, at_end: bool, edge: float, high: float, spread: float, units: Units) -> bool:
    """Tell whether a run is long enough to step down to a lower footing at an end, its steps there laid anew."""
    lap, most = run.foundation.lap, _MODULE[units][1]
    taken, total = _meeting(_of_wall(run.foundation, run.wall), at_end, edge, spread, lap, most)
    if high + total < 1.0:
        return False
    first = places_to_meet(high + total, spread, lap, most)[0]
    # Steps that lie past the end of a wall made shorter cut no stretch off it.
    behind = min(len(taken), len(run.segments) - 1)
    stretch = run.segments[-1 - behind if at_end else behind]
    place = edge - first if at_end else edge + first
    return stretch.low + lap < place if at_end else place < stretch.high - lap


def step_to_meet(project: Project, foundation_id: str, wall: str, at_end: bool, edge: float, high: float) -> Project:
    """Step a foundation down under one wall until its footing is level with the lower one it comes near.

    ``at_end``: which end of the wall; ``edge``: where along it the lower footing's edge lies; ``high``: how
    much higher its footing is, mm.  Steps that go down to that end already are laid anew, deeper.
    """
    foundation = there(project.foundations, foundation_id)
    lap, most, spread = foundation.lap, _MODULE[project.steps][1], project.soil.spread
    unit, rise = whole(project.steps, foundation)
    own = _of_wall(foundation, wall)
    taken, total = _meeting(own, at_end, edge, spread, lap, most)
    # A little deeper rather than an odd figure: a drop is read off a tape.
    high = math.ceil((high + total) / rise - 1e-3) * rise
    places = places_to_meet(high, spread, lap, most)
    places = _clear_of(places, [abs(edge - x) for x in _tees(project, foundation, wall)], lap)
    drops = _shared(high, len(places), rise)
    if at_end:
        begins = [s for s in own if s not in taken]
        at = [math.floor((edge - x) / unit + 1e-6) * unit for x in places]
        steps = [*begins, *(Step(wall=wall, at=round(x, 6), drop=d) for x, d in zip(at, drops, strict=True))]
    else:
        drop = sum(s.drop for s in own if s.at <= 0.5) - total + high
        at = [math.ceil((edge + x) / unit - 1e-6) * unit for x in places]
        steps = [
            Step(wall=wall, at=0.0, drop=drop),
            *(Step(wall=wall, at=round(x, 6), drop=-d) for x, d in zip(at, drops, strict=True)),
            *(s for s in own if s.at > 0.5 and s not in taken),
        ]
    others = [s for s in foundation.steps if s.wall != wall]
    return change(project, foundation_id, steps=(*others, *steps))


def _tees(project: Project, foundation: Foundation, wall: str) -> list[float]:
    """Return where along a wall others of its foundation end on it, mm."""
    lines = {w.id: w for w in project.walls if w.id in foundation.walls}
    if wall not in lines:
        return []  # refused by the rule of foundations
    start, end = (locate(place, project.grids) for place in (lines[wall].start, lines[wall].end))
    found = []
    for other in lines.values():
        for place in (other.start, other.end) if other.id != wall else ():
            along, aside = off_line(locate(place, project.grids), start, end)
            if abs(aside) < 350.0 and 350.0 < along < math.dist(start, end) - 350.0:
                found.append(along)
    return found


def _clear_of(places: list[float], tees: list[float], lap: float) -> list[float]:
    """Return the places of steps, the farthest first, moved away from where other walls end on this one.

    A wall that ended on a step would meet two footings at once.
    """
    found: list[float] = []
    for place in reversed(places):
        place = max(place, found[-1] + lap + CLEAR if found else 0.0)
        for tee in sorted(tees):
            if abs(place - tee) < lap + BESIDE:
                place = tee + lap + BESIDE
        found.append(place)
    return found[::-1]


BESIDE = 300.0
"""Half a footing and a little: steps keep this and the lap from a wall that ends beside them, mm."""


def _shared(high: float, count: int, rise: float) -> list[float]:
    """Return ``count`` drops of whole ``rise`` that make ``high`` together, as alike as can be."""
    units = max(round(high / rise), count)
    return [(units * (k + 1) // count - units * k // count) * rise for k in range(count)]


REACH = 300.0
"""Steps this much farther from a lower footing than they need be still belong to it, mm."""
CLEAR = 10.0
"""Steps keep this much more than they need from one another and from lower footings, mm."""
LEAST_BURIAL = 12.0 * INCH
"""IRC R403.1.4: at least 12 in below undisturbed ground."""
