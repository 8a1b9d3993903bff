"""Hips whose heads no post holds, in balance: they lean on one another and on the ridge between, and the plates round the building hold
their feet together as a ring in tension (IRC R802.4.3: designed to carry the load at that point).

Such balance there is only under load alike on both sides, where hips come down at the corners of the outline.
"""

import math
from collections.abc import Mapping, Sequence
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from balken.framing.roof_layout import line_runs
from balken.framing.surface_roofs import SurfacePlan
from balken.geometry.plane import Point, distance, unit
from balken.geometry.roof_edges import Place
from balken.loads.cases import Cases
from balken.loads.roof_settling import Unheld
from balken.loads.roof_sides import NEAR
from balken.loads.roof_snow import RoofSnow
from balken.loads.roof_statics import LineLoad
from balken.value import Value

Array = NDArray[np.float64]
ALIKE = 0.02
"""What two ends bring that differs by less than this part is alike."""
LEAST = 1.0
"""What is less is nothing, N."""


class HipRing(Value, frozen=True):
    """Hips in balance: with what each hip and ridge (by the number of its line) is pressed along it, N by case; what pulls at the plates along each side of the
    outline, N by case; or why there is none.
    """

    pushes: Mapping[int, Cases] = {}
    pulls: Mapping[int, Cases] = {}
    problem: str = ""


class _Balance(NamedTuple):
    """Of one head, for each N that comes there: how hard each hip and each ridge is pressed."""

    hips: dict[int, float]
    ridges: dict[int, float]
    foot: dict[int, tuple[int, Point, float]]
    """Of each hip the corner it comes down at, its way in plan outward there, and how much of its push is level."""


def hip_ring(
    plan: SurfacePlan, unheld: Sequence[Unheld], lines: Mapping[int, LineLoad], snow: RoofSnow
) -> HipRing | None:
    """Return how hips of which ends are ``unheld`` keep one another in balance; None where no end is; ``lines``: those that carry."""
    if not unheld:
        return None
    try:
        if any(lies.band or lies.even > lies.balanced + 1e-9 for lies in snow.planes) or snow.bands:
            raise _NoneError("uneven snow presses harder on one side than on the other")
        made = [(end, _balanced(plan, end, lines)) for end in unheld]
        _ridges_alike(made)
        pushes, pulls = _pushes(made), _pulls(plan, made)
    except _NoneError as why:
        return HipRing(problem=str(why))
    return HipRing(pushes, pulls)


class _NoneError(Exception):
    """There is no balance; the message says why."""


def _balanced(plan: SurfacePlan, end: Unheld, lines: Mapping[int, LineLoad]) -> _Balance:
    """Solve one head: hips and ridges press on it along themselves, and hold up what comes there."""
    core, at = plan.outline.core, np.array(end.at)
    hips, foot = dict[int, Array](), dict[int, tuple[int, Point, float]]()
    for i, on in lines.items():
        if distance(on.high[:2], end.at[:2]) >= NEAR or on.low[2] > end.at[2] - 0.01:
            continue
        corner = next((k for k, c in enumerate(core) if distance(c, on.low[:2]) < NEAR), None)
        if on.line.kind != "hip" or corner is None:
            raise _NoneError("not all that leads down from there are hips that stand on corners")
        run, rise = on.run, end.at[2] - on.low[2]
        long = math.hypot(run, rise)
        hips[i] = (at - np.array(on.low)) / long
        foot[i] = corner, unit(on.high[:2], on.low[:2]), run / long
    if len(hips) < 2:
        raise _NoneError("one hip alone leads down from there")
    ridges = {
        run.numbers[0]: _pressing(end.at, run.line.start, run.line.end)
        for run in line_runs(plan.surface)
        if run.line.kind == "ridge" and min(distance(end.at[:2], p[:2]) for p in (run.line.start, run.line.end)) < NEAR
    }
    rows = [*hips.values(), *ridges.values()]
    matrix, load = np.array(rows).T, np.array([0.0, 0.0, 1.0])
    found, *_ = np.linalg.lstsq(matrix, load, rcond=None)
    if np.abs(matrix @ found - load).max() > 1e-6 or found.min() < -1e-9:
        raise _NoneError("its hips do not balance one another")
    share = [float(n * u[2]) for n, u in zip(found, hips.values(), strict=False)]
    if max(share) - min(share) > ALIKE * max(share):
        raise _NoneError("its hips do not share alike what comes there")
    pressed = [float(n) for n in found]
    return _Balance(dict(zip(hips, pressed, strict=False)), dict(zip(ridges, pressed[len(hips) :], strict=True)), foot)


def _pressing(at: Place, start: Place, end: Place) -> Array:
    """Return the way in which a ridge that is pressed pushes at its end there."""
    far = start if distance(end[:2], at[:2]) < NEAR else end
    way = np.array(at) - np.array(far)
    made: Array = way / np.linalg.norm(way)
    return made


def _ridges_alike(made: Sequence[tuple[Unheld, _Balance]]) -> None:
    """Raise where a ridge is pressed otherwise at its one end than at the other."""
    rows: dict[int, list[Cases]] = {}
    for end, balance in made:
        for k, part in balance.ridges.items():
            if part > 1e-9:
                rows.setdefault(k, []).append(end.force.scaled(part))
    for ends in rows.values():
        if len(ends) != 2 or not _alike(*ends):
            raise _NoneError("what presses on its ridge from both ends is not alike")


def _alike(a: Cases, b: Cases) -> bool:
    return all(abs(x - y) <= ALIKE * max(abs(x), abs(y)) + LEAST for x, y in zip(a, b, strict=True))


def _pushes(made: Sequence[tuple[Unheld, _Balance]]) -> dict[int, Cases]:
    """Return with what hips and ridges are pressed along themselves."""
    found = {i: end.force.scaled(n) for end, balance in made for i, n in balance.hips.items()}
    for end, balance in made:
        for k, n in balance.ridges.items():
            found[k] = Cases(*(max(x, n * y) for x, y in zip(found.get(k, Cases()), end.force, strict=True)))
    return found


def _pulls(plan: SurfacePlan, made: Sequence[tuple[Unheld, _Balance]]) -> dict[int, Cases]:
    """Return what pulls at the plates of each side: at each of its corners the plates of both sides hold the hip's foot."""
    core, n = plan.outline.core, len(plan.outline.core)
    ends: dict[int, dict[int, Cases]] = {}
    for end, balance in made:
        for i, pressed in balance.hips.items():
            k, out, level = balance.foot[i]
            ways = unit(core[k], core[(k + 1) % n]), unit(core[k], core[k - 1])
            pull = np.linalg.solve(np.array(ways).T, -np.array(out) * pressed * level)
            if pull.min() < -1e-9:
                raise _NoneError("the plates of a corner would be pressed, not pulled")
            for side, part in ((k, float(pull[0])), ((k - 1) % n, float(pull[1]))):
                rows = ends.setdefault(side, {})
                rows[k] = rows.get(k, Cases()).plus(end.force.scaled(part))
    found = {}
    for side, rows in ends.items():
        pulled = [rows.get(k, Cases()) for k in (side, (side + 1) % n)]
        if not _alike(*pulled):
            raise _NoneError("the plates of a side are not pulled alike at both of its corners")
        found[side] = Cases(*(max(x, y) for x, y in zip(*pulled, strict=True)))
    return found
