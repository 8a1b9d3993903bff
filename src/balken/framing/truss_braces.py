"""What holds trusses aside: boards that run across all of them, on their bottom chords and along webs that would buckle.

They lie where nothing of a truss is in their way, from the frame at one end to that at the other, butted over trusses where the stock ends.
"""

import itertools
import math
from collections import Counter
from collections.abc import Callable, Mapping, Sequence
from typing import NamedTuple

import shapely

from balken.catalog.sections import section
from balken.framing.pieces import EVEN, Piece
from balken.framing.surface_roofs import SurfacePlan
from balken.framing.truss_layout import BOARD, CLEAR, TrussRow
from balken.framing.truss_outline import height_on, moved
from balken.framing.truss_sticks import Sawn
from balken.framing.trusses import TrussFrame
from balken.geometry.plane import Point, Ring, unit
from balken.geometry.prism import Prism
from balken.model.naming import piece_name
from balken.units.system import INCH

SIZE = "2x4"
AIR = 3.0
"""Braces keep so far from sticks they do not lie on, mm."""
STEP = 1.0 * INCH
"""A brace in the way of a web is moved aside by steps."""


class Standing(NamedTuple):
    """A truss in a row as braces meet it: its number, where it stands, as laid out and sawn; how far apart its bottom chord is to be held, mm,
    how many braces each web wants.
    """

    number: int
    t: float
    frame: TrussFrame
    sawn: dict[str, Sawn]
    braced: float
    webs: Mapping[str, int]
    blocked: tuple[Ring, ...] = ()
    """What else lies on its faces, thick enough to be in a board's way: gussets."""

    @property
    def half(self) -> float:
        """Half as thick as it is, mm."""
        return section(self.frame.sizes.top).breadth * self.frame.sizes.plies / 2.0


Braces = list[tuple[str, Ring]]
"""Boards across trusses, named by what they hold, as a truss's plane cuts them."""


class Stretch(NamedTuple):
    """Trusses side by side across which boards run: on bottom chords as deep, along webs that stand alike."""

    trusses: tuple[Standing, ...]
    braces: Braces


def chord_stretches(common: Sequence[Standing], flat: Sequence[Standing]) -> list[Stretch]:
    """Return the boards along bottom chords: across common trusses, and flat-topped ones beside, that are as deep, clear of all their webs."""
    found, some = list[Stretch](), sorted([*common, *flat], key=lambda one: one.t)
    mine = {one.number for one in common}
    for run in _runs(some, lambda one: one.frame.sizes.bottom):
        if not any(one.number in mine for one in run):
            continue
        usual = _usual([one for one in run if one.number in mine])
        bodies = {name: shapely.Polygon(one.ring) for name, one in usual.sawn.items()}
        frames = {id(one.frame): one for one in run if one.frame is not usual.frame}
        more = [shapely.Polygon(x.ring) for one in frames.values() for name, x in one.sawn.items() if name[0] != "B"]
        more += [shapely.Polygon(ring) for one in {id(one.frame): one for one in run}.values() for ring in one.blocked]
        braced = min(one.braced for one in run)
        found.append(Stretch(run, _along_chord(usual.frame, bodies, braced, more)))
    return found


def web_stretches(common: Sequence[Standing]) -> list[Stretch]:
    """Return the boards along webs: as many on each as any truss beside wants there."""
    found = list[Stretch]()
    for run in _runs(sorted(common, key=lambda one: one.t), _webs):
        wanted: dict[str, int] = {}
        for one in run:
            wanted |= {web: max(n, wanted.get(web, 0)) for web, n in one.webs.items()}
        bodies = {name: shapely.Polygon(one.ring) for name, one in run[0].sawn.items()}
        bodies |= {f"gusset {k}": shapely.Polygon(ring) for one in run for k, ring in enumerate(one.blocked)}
        found.append(Stretch(run, _along_webs(run[0].frame, bodies, wanted)))
    return found


def _runs(some: Sequence[Standing], alike: Callable[[Standing], object]) -> list[tuple[Standing, ...]]:
    return [tuple(run) for _, run in itertools.groupby(some, key=alike)]


def _webs(one: Standing) -> object:
    """Return where the webs of a truss stand."""
    places = (
        (round(x, 1), round(y, 1))
        for x, y in (one.frame.joints[k] for w in one.frame.sticks if w.role == "web" for k in w.joints)
    )
    return one.frame.sizes.webs, tuple(places)


def _usual(some: Sequence[Standing]) -> Standing:
    """Return one of those that are most."""
    count = Counter(id(one.frame) for one in some)
    return max(some, key=lambda one: count[id(one.frame)])


def _along_chord(
    frame: TrussFrame, bodies: dict[str, shapely.Polygon], braced: float, more: Sequence[shapely.Polygon]
) -> list[tuple[str, Ring]]:
    outline, lumber = frame.outline, section(SIZE)
    top = moved(outline.bottom, section(frame.sizes.bottom).depth)
    low, high = outline.bearings[0].high, outline.bearings[-1].low
    webs = shapely.union_all([*(body for name, body in bodies.items() if name[0] != "B"), *more])
    found: list[tuple[str, Ring]] = []
    at = low
    while high - at > braced + 1e-6:
        even = (high - at) / math.ceil((high - at) / braced - 1e-9)
        # Back from an even share, else on from it, never farther from the last one than asked for.
        back = [at + even - n * STEP for n in range(int((even - lumber.depth) / STEP))]
        on = [at + even + n * STEP for n in range(1, int((braced - even) / STEP) + 1)]
        rings = ((x, _flat(top, x, lumber.depth, lumber.breadth)) for x in (*back, *on))
        free = next(((x, ring) for x, ring in rings if not shapely.Polygon(ring).buffer(AIR).intersects(webs)), None)
        if free is None:
            break  # no room anywhere: webs stand as close
        at = free[0]
        found.append((f"BC.{len(found) + 1}", free[1]))
    return found


def _flat(top: tuple[Point, ...], x: float, wide: float, thick: float) -> Ring:
    """Return a board lying flat on a chord, its middle at x."""
    a, b = ((x + side, height_on(top, x + side)) for side in (-wide / 2.0, wide / 2.0))
    way = unit(a, b)
    up = (-way[1] * thick, way[0] * thick)
    return a, b, (b[0] + up[0], b[1] + up[1]), (a[0] + up[0], a[1] + up[1])


def _along_webs(frame: TrussFrame, bodies: dict[str, shapely.Polygon], webs: dict[str, int]) -> list[tuple[str, Ring]]:
    lumber, found = section(SIZE), []
    half = section(frame.sizes.webs).depth / 2.0
    for name, count in webs.items():
        a, b = (frame.joints[joint] for joint in frame.stick(name).joints)
        way = unit(a, b)
        others = shapely.union_all([body for other, body in bodies.items() if other != name])
        for k in range(count):
            part = (k + 1) / (count + 1)
            at = (a[0] + (b[0] - a[0]) * part, a[1] + (b[1] - a[1]) * part)
            for side in (1.0, -1.0):
                out = (-way[1] * side, way[0] * side)
                near, far = half, half + lumber.breadth
                ring: Ring = tuple(
                    (at[0] + way[0] * s + out[0] * t, at[1] + way[1] * s + out[1] * t)
                    for s, t in (
                        (-lumber.depth / 2.0, near), (lumber.depth / 2.0, near), (lumber.depth / 2.0, far), (-lumber.depth / 2.0, far)
                    )
                )  # fmt: skip
                if not shapely.Polygon(ring).buffer(AIR).intersects(others):
                    found.append((f"{name}.{k + 1}", ring if side < 0.0 else ring[::-1]))
                    break
    return found


def brace_pieces(
    plan: SurfacePlan,
    row: TrussRow,
    stretches: Sequence[Stretch],
    every: Sequence[Standing],
    stock: float,
    of: str = "",
) -> tuple[Piece, ...]:
    """Return braces across trusses of a row, in pieces no longer than the stock, which end on trusses; one alone has none.  ``every``: all
    that stand in the row; ``of``: what their names begin with.
    """
    found: list[Piece] = []
    first, last = min(one.t for one in every), max(one.t for one in every)
    gables = [place.t for place in row.places if place.gable]
    for n, (run, braces) in enumerate(stretches):
        if len(run) < 2:
            continue
        for name, ring in braces:
            ends = [run[0].t - run[0].half, run[-1].t + run[-1].half]
            for t in gables:  # they reach to the frames at the ends, where no hip and no other truss is between
                k = 0 if abs(t - row.along[0]) < abs(t - row.along[1]) else 1
                if (run[0].t == first, run[-1].t == last)[k]:
                    ends[k] = _end_of(plan, row, t, k, min(y for _, y in ring))
            cuts = _cut([one.t for one in run], (ends[0], ends[1]), stock)
            key = f"{of}{stretch_name(n)}{name}"
            found += [_brace(plan, row, key, k, ring, span) for k, span in enumerate(itertools.pairwise(cuts))]
    return tuple(found)


def _end_of(plan: SurfacePlan, row: TrussRow, t: float, end: int, low: float) -> float:
    """Return where a brace ends that reaches an end of the row (0 the first): at the frame over its gable, or, ``low`` below the plates, short
    of the gable's wall.
    """
    sign = 1.0 if end == 0 else -1.0
    if low >= 0.0:
        return t + sign * BOARD / 2.0
    gable = next(place.gable for place in row.places if place.gable and place.t == t)
    side = plan.outline.walls.index(gable)
    return row.along[end] + sign * (2.0 * plan.deep[side] + plan.lined[side] + CLEAR)


def stretch_name(n: int) -> str:
    """Return with what names of boards across the n-th stretch of a row begin."""
    return f"stretch {n + 1} " if n else ""


def _cut(ts: list[float], ends: tuple[float, float], stock: float) -> list[float]:
    """Return where braces begin, are butted over trusses, and end."""
    cuts = [ends[0]]
    for k, t in enumerate(ts[1:], start=1):
        following = ts[k + 1] if k + 1 < len(ts) else ends[1]
        if following - cuts[-1] > stock + EVEN:
            cuts.append(t)
    return [*cuts, ends[1]]


def _brace(plan: SurfacePlan, row: TrussRow, name: str, k: int, ring: Ring, span: tuple[float, float]) -> Piece:
    t0, t1 = span
    trusses, (x, y) = plan.roof.trusses, row.frame.back(row.start, t1)
    at = (sum(p[0] for p in ring) / 4.0, sum(p[1] for p in ring) / 4.0)
    start, end = ((*row.frame.back(row.start + at[0], t), plan.bearing + at[1]) for t in span)
    return Piece(
        piece_name(plan.roof.id, "brace", name, k), "truss brace", plan.roof.id, plan.roof.bearing.level,
        Prism((x, y, plan.bearing), (*row.frame.s, 0.0), (0.0, 0.0, 1.0), (ring,), t1 - t0), "timber", start, end, t1 - t0,
        SIZE, trusses.species, trusses.wood_grade,
    )  # fmt: skip
