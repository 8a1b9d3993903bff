"""Footings beside lower ones: their load must not press on those, nor stand in the backfill of the deeper dig."""

import itertools
from collections.abc import Iterable
from functools import cached_property

import numpy as np
import shapely
from shapely.ops import nearest_points

from balken.derived.finding import Finding, Fix
from balken.derived.model import Model
from balken.findings.names import footing_label
from balken.framing.foundations import FoundationRun
from balken.framing.pads import pad_ring
from balken.framing.slopes import Wedge, wedges
from balken.framing.steps_to_meet import can_step
from balken.model.naming import owner_of
from balken.remembered import remembered
from balken.units import say_length
from balken.value import Lazy

LEVEL = 55.0
"""Footings this near in height count as level, mm: a step of thickness, 2 in or 50 mm, more or less."""


class _Part(Lazy, frozen=True):
    """A stretch of a strip footing at one height, or a pad: its outline in plan and underside."""

    thing: str
    shape: shapely.Polygon
    underside: float
    run: FoundationRun | None = None

    @cached_property
    def box(self) -> tuple[float, float, float, float]:
        """Least x and y, greatest x and y of its outline."""
        x0, y0, x1, y1 = self.shape.bounds
        return x0, y0, x1, y1


def beside_lower(c: Model) -> Iterable[Finding]:
    """Footings nearer to a lower one than the slope between them allows (45 degrees unless typed).

    Common practice: the line from edge to edge stays at or below the slope at which the soil stands by itself.
    """
    parts = [*_strips(c), *_pads(c)]
    near: dict[tuple[str, bool], list[tuple[float, _Part, _Part, float]]] = {}
    for i, j in _candidates(parts, c.project.soil.spread):
        a, b = parts[i], parts[j]
        high = a.underside - b.underside
        if a.thing == b.thing:
            continue
        gap = _gap(a, b)
        if a.run is None or b.run is None:
            if gap <= 0.5:
                continue  # they overlap: said by another rule, or made one body
        elif _corner(a.run, b.run):
            continue
        short = high / c.project.soil.spread - gap
        if short > 1.0:
            near.setdefault((a.thing, _at_end(a, b)), []).append((short, a, b, gap))
    for (_, at_end), rows in near.items():
        _, a, b, gap = max(rows, key=lambda row: row[0])
        high = a.underside - b.underside
        where = "which it meets" if gap <= 0.5 else f"{say_length(gap, c.units)} away"
        fix = _step_fix(c, a, b, at_end, [row[2] for row in rows])
        then = "" if fix else " Bring both to one level, or move them apart."
        yield Finding(
            "beside lower",
            "foundations",
            f"{footing_label(c, a.thing)}: footing too near a lower one",
            f"It lies {say_length(high, c.units)} higher than that of {footing_label(c, b.thing)}, {where}; its load "
            f"would press on the lower one or its backfill (slope {c.project.soil.spread:g} to 1).{then}",
            (owner_of(a.thing), owner_of(b.thing)),
            (*nearest_points(a.shape, b.shape)[0].coords[0], a.underside),
            grave=False,
            fix=fix,
        )


def _strips(c: Model) -> Iterable[_Part]:
    for run in c.runs:
        if run.footing:
            yield from _parts(run, c.footings[run.id].width, c.footings[run.id].depth)


@remembered(4_000)
def _parts(run: FoundationRun, width: float, thick: float) -> list[_Part]:
    """Return the stretches of one strip footing, level and sloping ones."""
    rows = [(s.low, s.high, run.band.bottom - s.drop - thick) for s in run.segments]
    for w in (part for whole in wedges(run) for part in _sliced(whole)):
        under = run.band.bottom - run.drop_at((w.low + w.high) / 2.0) - thick
        rows.append((w.low, w.high, under - max(w.deep_low, w.deep_high)))
    return [_Part(run.id, shapely.Polygon(run.footing_ring(low, high, width)), under, run) for low, high, under in rows]


@remembered(20_000)
def _gap(a: _Part, b: _Part) -> float:
    return float(a.shape.distance(b.shape))


def _sliced(wedge: Wedge) -> list[Wedge]:
    """Return a slope in stretches of about a metre, each as deep as its deeper end."""
    count = max(1, round((wedge.high - wedge.low) / 1000.0))
    at = [wedge.low + (wedge.high - wedge.low) * k / count for k in range(count + 1)]
    return [wedge.part(a, b) for a, b in itertools.pairwise(at)]


def _pads(c: Model) -> Iterable[_Part]:
    for place in c.pad_places:
        result = c.pads.get(place.pad.id)
        if result is not None:
            ring = pad_ring(place, result.design.width, result.design.length, result.before)
            yield _Part(place.pad.id, shapely.Polygon(ring), place.top - result.design.thickness)


def _candidates(parts: list[_Part], spread: float) -> list[list[int]]:
    """Return (higher, lower) numbers of those that may be too near, by the distance of their boxes in plan."""
    if not parts:
        return []
    x0, y0, x1, y1 = np.array([part.box for part in parts]).T
    z = np.array([part.underside for part in parts])
    apart = np.maximum(x0[None, :] - x1[:, None], y0[None, :] - y1[:, None])
    high = z[:, None] - z[None, :]
    return np.argwhere((high >= LEVEL) & (np.maximum(apart, apart.T) * spread <= high)).tolist()


def _corner(a: FoundationRun, b: FoundationRun) -> bool:
    """Runs of one foundation that share an end: their heights there are another rule's."""
    ends = [(p, q) for p in (a.band.start, a.band.end) for q in (b.band.start, b.band.end)]
    return a.foundation.id == b.foundation.id and any(abs(p[0] - q[0]) + abs(p[1] - q[1]) < 1.0 for p, q in ends)


@remembered(20_000)
def _at_end(a: _Part, b: _Part) -> bool:
    """Whether the lower footing lies nearer to the end than to the start of the higher one's wall."""
    if a.run is None:
        return False
    x, y = nearest_points(a.shape, b.shape)[0].coords[0]
    return a.run.along((x, y)) > a.run.band.length / 2.0


def _step_fix(c: Model, a: _Part, b: _Part, at_end: bool, lower: list[_Part]) -> Fix | None:
    """Offer to step the higher run down to the lower footing, before it comes near any of those there."""
    if a.run is None or b.run is None:
        return None
    run = a.run
    alongs = []
    for part in lower:
        # All of it that is too near: one alongside is so far past its nearest point.
        reach = (a.underside - part.underside) / c.project.soil.spread
        shared = a.shape.buffer(reach).intersection(part.shape)
        near = shared if not shared.is_empty else nearest_points(a.shape, part.shape)[1]
        alongs += [run.along((x, y)) for x, y in shapely.get_coordinates(near).tolist()]
    edge = min(alongs) if at_end else max(alongs)
    # What comes too near may be a stretch before the last one, which goes down farther already.
    drop = run.band.bottom - c.footings[run.id].depth - a.underside
    there = run.segments[-1 if at_end else 0].drop
    high = max(a.underside - b.underside - (there - drop), 0.0)
    if not can_step(c.project, run, at_end, edge, high):
        return None
    return Fix("Step it down to the lower one", "step_to_meet", (run.foundation.id, run.wall, at_end, edge, high))
