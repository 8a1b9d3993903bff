"""What is asked of the sticks of trusses: forces in every combination, lengths over which they buckle, braces."""

import math
from typing import NamedTuple

import numpy as np
from msgspec.structs import replace
from numpy.typing import NDArray

from balken.analysis.frames import Solved
from balken.catalog.sections import section
from balken.design.truss_job import Combined, TrussJob
from balken.framing.truss_webs import Pattern
from balken.framing.trusses import Element, TrussFrame
from balken.geometry.plane import Point
from balken.standards.standard import Standard
from balken.standards.truss_demands import StickDemands, StickUses
from balken.units.system import FOOT

Array = NDArray[np.float64]
PARTS = tuple(k / 10.0 for k in range(11))
"""Where along elements moments and sag are looked at."""
MOST_BRACES = 2
"""Webs that need more braces against buckling are made bigger."""
EVEN = 1e-9
"""Differences that are none."""
BRACED = (10.0, 8.0, 6.0, 4.0, 2.0)
"""Spacings, ft, tried of what holds the bottom chord aside."""


def stick_demands(
    job: TrussJob, frame: TrussFrame, pattern: Pattern, solved: Solved, factors: Array, combos: tuple[Combined, ...]
) -> StickDemands:
    """Return what is asked of each element: forces in every combination, lengths over which it can buckle."""
    roles = {stick.name: stick.role for stick in frame.sticks}
    ends = solved.axials((0.0, 1.0)) @ factors
    # The greatest moment stands at an end or where the shear is nothing; combined first, for places differ.
    whole = Solved(
        solved.length, solved.moves @ factors, solved.reactions @ factors, solved.first @ factors, solved.own @ factors,
        solved.moved @ factors, solved.bending,
    )  # fmt: skip
    shears = np.abs(whole.shears((0.0, 1.0))).max(axis=0)
    shears[:, [k for k, one in enumerate(frame.elements) if _over_bearing(frame, one)]] = 0.0
    panels = panels_of(frame, pattern)
    inside = np.array(
        [max(math.dist(*panel), frame.length(one)) for panel, one in zip(panels, frame.elements, strict=True)]
    )
    bent = np.abs(np.concatenate([whole.moments(PARTS), whole.greatest_moments[None]]))
    bows = _bows(frame, panels, whole)
    aside = np.array([frame.length(one) if roles[one.stick] == "web" else 0.0 for one in frame.elements])
    return StickDemands(
        tuple(frame.sizes.of(roles[one.stick]) for one in frame.elements),
        job.wood.species,
        tuple(frame.sizes.grade(roles[one.stick], job.wood.grade) for one in frame.elements),
        frame.sizes.plies,
        job.loads.spacing if job.shares else math.inf,
        np.array([roles[one.stick] != "web" for one in frame.elements]),
        inside,
        aside,
        ends.max(axis=0),
        ends.min(axis=0),
        bent,
        bows,
        shears,
        np.array([one.duration for one in combos]),
    )


def _over_bearing(frame: TrussFrame, one: Element) -> bool:
    """Whether an element of the bottom chord lies over a bearing, within a depth of it: shear counts beyond that (NDS 3.4.3.1)."""
    if frame.outline.on_top:
        return False
    deep = section(frame.sizes.bottom).depth
    low, high = sorted((frame.joints[one.i][0], frame.joints[one.j][0]))
    (first, *inner), last = frame.outline.bearings, frame.outline.bearings[-1]
    past = frame.outline.past
    ends = (past[0] <= 0.0 and high <= first.high + deep) or (past[1] <= 0.0 and low >= last.low - deep)
    return one.stick[0] == "B" and (ends or any(b.low - deep <= low and high <= b.high + deep for b in (first, *inner)))


def _steady(frame: TrussFrame, pattern: Pattern, chord: str) -> list[Point]:
    """Return the joints of a chord that cannot move in the truss's plane: where webs meet it, its ends, heels, bends.

    The joints at the walls of a room hold nothing: what stands there can sway with it.
    """
    sticks = [one for one in frame.sticks if one.role == f"{chord} chord"]
    webbed = {name for one in frame.sticks if one.role == "web" for name in one.joints}
    ends = {name for one in sticks for name in (one.joints[0], one.joints[-1])} - set(frame.splices)
    walls = [x for of, low, high in pattern.whole if of == "bottom" for x in (low, high)] if chord == "top" else []
    names = {
        name
        for one in sticks
        for name in one.joints
        if name in webbed | ends or name.startswith(("heel", "bearing", "free"))
    }
    at = [frame.joints[name] for name in names]
    return sorted(p for p in at if all(abs(p[0] - x) > 1.0 for x in walls))


def panels_of(frame: TrussFrame, pattern: Pattern) -> list[tuple[Point, Point]]:
    """Return for each element between which places it can buckle in the truss's plane."""
    steady = {chord[0].upper(): _steady(frame, pattern, chord) for chord in ("top", "bottom")}
    return [_panel(frame, one, steady) for one in frame.elements]


def _panel(frame: TrussFrame, one: Element, steady: dict[str, list[Point]]) -> tuple[Point, Point]:
    """Return between which places an element can buckle in the truss's plane: a web its own ends, a chord steady joints."""
    a, b = frame.joints[one.i], frame.joints[one.j]
    if one.lies is None:
        return a, b
    at, x = steady[one.stick[0]], (a[0] + b[0]) / 2.0
    before = max((p for p in at if p[0] <= x), default=a)
    after = min((p for p in at if p[0] > x), default=b)
    return min(before, a), max(after, b)


def _bows(frame: TrussFrame, panels: list[tuple[Point, Point]], solved: Solved) -> Array:
    """Return how far elements bow out at places along them and where they are bent most (s, b, e, c)."""
    ends = np.array([(frame.joints[one.i][0], frame.joints[one.j][0]) for one in frame.elements])
    low, high = (np.array([panel[k][0] for panel in panels]) for k in range(2))
    wide = np.maximum(high - low, 1e-6)
    begins, ends_at = (ends[:, 0] - low) / wide, (ends[:, 1] - low) / wide

    most = solved.where_greatest
    parts = np.concatenate(
        [np.broadcast_to(np.array(PARTS)[:, None, None, None], (len(PARTS), *most.shape)), most[None]]
    )
    t = begins[:, None] + (ends_at - begins)[:, None] * parts
    found: Array = np.sin(math.pi * np.clip(t, 0.0, 1.0))
    return found


class Held(NamedTuple):
    """Sticks as braces hold them: how far apart those of the bottom chord stand, mm; demands and uses with them; of each web that needs them
    how many hold it.
    """

    braced: float
    demands: StickDemands
    uses: StickUses
    webs: dict[str, int]


def held_aside(job: TrussJob, frame: TrussFrame, demands: StickDemands, standard: Standard) -> Held:
    """Check sticks held aside by braces: the bottom chord's as far apart as works, else where closer ones no longer help; as few of webs as
    hold them.  The deck holds the top chord all along.
    """
    spacings = [job.braced] if job.braced is not None else [feet * FOOT for feet in BRACED]
    kinds = [one.stick[0] for one in frame.elements]
    bottom, web = (np.array([kind == of for kind in kinds]) for of in ("B", "W"))
    # All that is tried is checked in one go: a row for each spacing along the chord, a row for each number of braces of webs.
    rows = max(len(spacings), MOST_BRACES + 1)
    tried = np.tile(demands.aside, (rows, 1))
    for k in range(rows):
        tried[k, bottom] = spacings[min(k, len(spacings) - 1)]
        tried[k, web] /= min(k, MOST_BRACES) + 1
    uses = standard.check_sticks(replace(demands, aside=tried))
    used = uses.worst()[0]
    best = _widest(used[: len(spacings), bottom].max(axis=1, initial=0.0).tolist())
    chosen, braces = np.where(bottom, best, 0), dict[str, int]()
    for count in range(1, MOST_BRACES + 1):
        for k in np.nonzero(web)[0].tolist():
            now = used[chosen[k], k]
            if now > 1.0 and used[count, k] < now - EVEN:
                chosen[k] = braces[frame.elements[k].stick] = count
    each = np.arange(len(kinds))
    kept = tuple(
        (name, clause, np.broadcast_to(row, (rows, *row.shape[1:]))[chosen, each][None])
        for name, clause, row in uses.rows
    )
    return Held(spacings[best], replace(demands, aside=tried[chosen, each]), StickUses(kept), braces)


def _widest(used: list[float]) -> int:
    """Return the first of spacings, the widest first, that works; else that beyond which closer ones no longer help."""
    best = 0
    for k, one in enumerate(used):
        if one < used[best] - 1e-6:
            best = k
        if one <= 1.0 + EVEN:
            break
    return best
