"""What holds trusses aside: boards that run across all of them, on their bottom chords and along webs that would buckle.

They lie where nothing of a truss is in their way, from the frame at one end to that at the other, butted over trusses where the stock ends.
"""

import itertools
import math
from collections.abc import Sequence
from typing import NamedTuple

import shapely

from balken.catalog.sections import section
from balken.framing.pieces import Piece
from balken.framing.surface_roofs import SurfacePlan
from balken.framing.truss_layout import BOARD, TrussRow
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
    """A truss in a row as braces meet it: where it stands, as laid out and sawn."""

    t: float
    frame: TrussFrame
    sawn: dict[str, Sawn]


def brace_places(
    frame: TrussFrame, sawn: dict[str, Sawn], braced: float, webs: dict[str, int], others: Sequence[Standing] = ()
) -> tuple[list[tuple[str, Ring]], list[tuple[str, Ring]]]:
    """Return braces along bottom chords, then those along webs, as they are cut by a truss's plane: named by what they hold; ``braced``: how
    far apart they hold the bottom chord, mm, ``webs``: how many hold a web; ``others``: trusses of other webs across which the first run on.
    """
    bodies = {name: shapely.Polygon(one.ring) for name, one in sawn.items()}
    more = [shapely.Polygon(one.ring) for x in others for name, one in x.sawn.items() if name[0] != "B"]
    return _along_chord(frame, bodies, braced, more), _along_webs(frame, bodies, webs)


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


def row_braces(
    common: Sequence[Standing], flat: Sequence[Standing], braced: float, webs: dict[str, int]
) -> tuple[list[tuple[str, Ring]], list[tuple[str, Ring]]]:
    """Return the braces of a row as a truss's plane cuts them: along its bottom chords, clear of the webs of all makes, and along webs."""
    (_, frame, sawn), beside = common[0], _as_deep(common, flat)
    others = [*(one for one in common if one.frame is not frame), *beside]
    return brace_places(frame, sawn, braced, webs, others)


def brace_pieces(
    plan: SurfacePlan,
    row: TrussRow,
    common: Sequence[Standing],
    flat: Sequence[Standing],
    braced: float,
    webs: dict[str, int],
    stock: float,
    of: str = "",
) -> tuple[Piece, ...]:
    """Return braces across the common trusses of a row, in pieces no longer than the stock, which end on trusses; those of bottom chords
    run on across flat-topped ones beside, whose bottom chords are as deep.  ``of``: what their names begin with.
    """
    if len(common) < 2:
        return ()
    frame, beside = common[0].frame, _as_deep(common, flat)
    thick = section(frame.sizes.top).breadth * frame.sizes.plies
    gables = [place.t for place in row.places if place.gable]
    found: list[Piece] = []
    chords, sticks = row_braces(common, flat, braced, webs)
    for rings, some in ((chords, [*common, *beside]), (sticks, common)):
        ts = sorted(one.t for one in some)
        ends = [ts[0] - thick / 2.0, ts[-1] + thick / 2.0]
        for t in gables:  # they reach to the frames at the ends, where no hip is between
            k = 0 if abs(t - row.along[0]) < abs(t - row.along[1]) else 1
            ends[k] = t + (BOARD / 2.0 if k == 0 else -BOARD / 2.0)
        cuts = _cut(ts, (ends[0], ends[1]), stock)
        for name, ring in rings:
            found += [
                _brace(plan, row, f"{of}{name}", k, ring, span) for k, span in enumerate(itertools.pairwise(cuts))
            ]
    return tuple(found)


def _as_deep(common: Sequence[Standing], flat: Sequence[Standing]) -> list[Standing]:
    """Return flat-topped trusses next to the common ones, as long as their bottom chords are as deep."""
    ts, found = [one.t for one in common], list[Standing]()
    for side in ([x for x in flat if x.t > max(ts)], [x for x in reversed(flat) if x.t < min(ts)]):
        for one in side:
            if one.frame.sizes.bottom != common[0].frame.sizes.bottom:
                break
            found.append(one)
    return found


def _cut(ts: list[float], ends: tuple[float, float], stock: float) -> list[float]:
    """Return where braces begin, are butted over trusses, and end."""
    cuts = [ends[0]]
    for k, t in enumerate(ts[1:], start=1):
        following = ts[k + 1] if k + 1 < len(ts) else ends[1]
        if following - cuts[-1] > stock:
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
        SIZE, trusses.species, trusses.grade,
    )  # fmt: skip
