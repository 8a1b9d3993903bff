"""Steps of a foundation down to a lower footing that it comes near: between both the ground stands on a slope that holds."""

import itertools
import math

from msgspec.structs import replace

from balken.framing.foundations import FoundationRun
from balken.framing.stepping import USUAL_MODULE, whole
from balken.geometry.plane import off_line, unit
from balken.model.edits import change
from balken.model.lookup import locate, there
from balken.model.records import Foundation, Project, Step
from balken.model.split_walls import layout_joined, layout_split
from balken.units import Units

TOUCH = 1.0
"""Walls that end no farther apart meet, mm."""
IN_LINE = 1e-3
"""Directions that differ by less are one."""
BESIDE = 300.0
"""Half a footing and a little: steps keep this and the lap from a wall that ends beside them, mm."""
REACH = 300.0
"""Steps this much farther from a lower footing than they need be still belong to it, mm."""
CLEAR = 10.0
"""Steps keep this much more than they need from one another and from lower footings, mm."""


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
    lap, most = run.foundation.lap, USUAL_MODULE[units][1]
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
    """Step a foundation down under one wall until its footing is level with the lower one it comes near; where that wall is too short
    for it, under the walls that go on in line, too.

    ``at_end``: which end of the wall; ``edge``: where along it the lower footing's edge lies; ``high``: how
    much higher its footing is, mm.  Steps that go down to that end already are laid anew, deeper.
    """
    foundation = there(project.foundations, foundation_id)
    wall, edge = _nearest(project, foundation, wall, at_end, edge)
    made = _stepped(project, foundation, wall, at_end, edge, high)
    return change(project, foundation_id, steps=made.steps)


def can_step(project: Project, run: FoundationRun, at_end: bool, edge: float, high: float) -> bool:
    """Tell whether a run, with those that go on in line, is long enough to step down to a lower footing at an end."""
    foundation = there(project.foundations, run.foundation.id)
    wall, edge = _nearest(project, foundation, run.wall, at_end, edge)
    if wall == run.wall and room_to_step(run, at_end, edge, high, project.soil.spread, project.steps):
        return True
    if _goes_on(project, foundation, wall, at_end) is None:
        return False
    made = _stepped(project, foundation, wall, at_end, edge, high)
    before = {(s.wall, s.at, s.drop) for s in foundation.steps}
    touched = {s.wall for s in made.steps if (s.wall, s.at, s.drop) not in before}
    return all(_sound(made, wall, _length(project, wall)) for wall in touched)


def _nearest(project: Project, foundation: Foundation, wall: str, at_end: bool, edge: float) -> tuple[str, float]:
    """Return the wall in line under which a lower footing's edge lies, and where along that, for one beyond the end of a wall."""
    long = _length(project, wall) if any(w.id == wall for w in project.walls) else 0.0
    if (edge > long) if at_end else (edge < 0.0):
        other = _goes_on(project, foundation, wall, not at_end)
        if other is not None:
            return _nearest(
                project, foundation, other, at_end, edge - long if at_end else edge + _length(project, other)
            )
    return wall, edge


def _stepped(
    project: Project,
    foundation: Foundation,
    wall: str,
    at_end: bool,
    edge: float,
    high: float,
    joints: tuple[float, ...] = (),
) -> Foundation:
    """Return a foundation stepped down under a wall: as if that and those that go on in line were one, where it is too short alone;
    ``joints``: where along it such meet.
    """
    made = _under_one(project, foundation, wall, at_end, edge, high, joints)
    beside = _goes_on(project, foundation, wall, at_end)
    if beside is None or _sound(made, wall, _length(project, wall)):
        return made
    first, second = (beside, wall) if at_end else (wall, beside)
    long, by_id = _length(project, first), {w.id: w for w in project.walls}
    whole_wall = replace(by_id[first], end=by_id[second].end)
    walls = tuple(whole_wall if w.id == first else w for w in project.walls if w.id != second)
    joined = layout_joined(foundation, first, second, long)
    foundations = tuple(joined if f.id == foundation.id else f for f in project.foundations)
    one, by = replace(project, walls=walls, foundations=foundations), long if at_end else 0.0
    joints = (long, *(x + by for x in joints))
    return layout_split(_stepped(one, joined, first, at_end, edge + by, high, joints), first, second, long)


def _goes_on(project: Project, foundation: Foundation, wall: str, at_end: bool) -> str | None:
    """Return the wall of a foundation that goes on in line beyond the far end of one."""
    by_id = {w.id: w for w in project.walls if w.id in foundation.walls}
    if wall not in by_id:
        return None
    start, end = (locate(place, project.grids) for place in (by_id[wall].start, by_id[wall].end))
    for other in by_id.values():
        a, b = (locate(place, project.grids) for place in (other.start, other.end))
        meets = math.dist(b, start) if at_end else math.dist(a, end)
        if other.id != wall and meets < TOUCH and math.dist(unit(a, b), unit(start, end)) < IN_LINE:
            return other.id
    return None


def _length(project: Project, wall: str) -> float:
    one = there(project.walls, wall)
    return math.dist(locate(one.start, project.grids), locate(one.end, project.grids))


def _sound(foundation: Foundation, wall: str, length: float) -> bool:
    """Whether the steps of a wall keep the lap from one another and from its ends."""
    steps = _of_wall(foundation, wall)
    places = [s.at for s in steps if s.at > 0.5]
    gaps = (b - a for a, b in itertools.pairwise((0.0, *places, length)))
    return all(s.drop != 0.0 for s in steps) and all(gap >= foundation.lap - 1e-6 for gap in gaps)


def _under_one(
    project: Project,
    foundation: Foundation,
    wall: str,
    at_end: bool,
    edge: float,
    high: float,
    joints: tuple[float, ...],
) -> Foundation:
    """Return a foundation stepped down under one wall."""
    lap, most, spread = foundation.lap, USUAL_MODULE[project.steps][1], project.soil.spread
    place, rise = whole(project.steps, foundation)
    own = _of_wall(foundation, wall)
    taken, total = _meeting(own, at_end, edge, spread, lap, most)
    # A little deeper rather than an odd figure: a drop is read off a tape.
    high = math.ceil((high + total) / rise - 1e-3) * rise
    places = places_to_meet(high, spread, lap, most)
    near, room = places, _length(project, wall) - edge if not at_end else edge
    # Before a wall that ends on this one the lower stretch ends so far off, where there is room, that both may stand on their slope.
    for more in (high / len(near) / spread, 0.0):
        keep = [(abs(edge - x), lap + BESIDE + more, lap + BESIDE) for x in _tees(project, foundation, wall)]
        keep += [(abs(edge - x), lap + CLEAR, lap + CLEAR) for x in joints]
        places = _clear_of(near, keep, lap)
        if places[0] <= room - lap:
            break
    drops = _shared(high, len(places), rise)
    if at_end:
        begins = [s for s in own if s not in taken]
        at = [math.floor((edge - x) / place + 1e-6) * place for x in places]
        steps = [*begins, *(Step(wall=wall, at=round(x, 6), drop=d) for x, d in zip(at, drops, strict=True))]
    else:
        drop = sum(s.drop for s in own if s.at <= 0.5) - total + high
        at = [math.ceil((edge + x) / place - 1e-6) * place for x in places]
        steps = [
            Step(wall=wall, at=0.0, drop=drop),
            *(Step(wall=wall, at=round(x, 6), drop=-d) for x, d in zip(at, drops, strict=True)),
            *(s for s in own if s.at > 0.5 and s not in taken),
        ]
    others = [s for s in foundation.steps if s.wall != wall]
    return replace(foundation, steps=(*others, *steps))


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


def _clear_of(places: list[float], tees: list[tuple[float, float, float]], lap: float) -> list[float]:
    """Return the places of steps, the farthest first, moved away from where other walls end on this one, or meet it: how far they stand
    before each of those at least, and how far behind it.

    A wall that ended on a step would meet two footings at once.
    """
    found: list[float] = []
    for place in reversed(places):
        place = max(place, found[-1] + lap + CLEAR if found else 0.0)
        for tee, before, behind in sorted(tees):
            if tee - before < place < tee + behind:
                place = tee + behind
        found.append(place)
    return found[::-1]


def _shared(high: float, count: int, rise: float) -> list[float]:
    """Return ``count`` drops of whole ``rise`` that make ``high`` together, as alike as can be."""
    units = max(round(high / rise), count)
    return [(units * (k + 1) // count - units * k // count) * rise for k in range(count)]
