"""What wind lifts at the bearings of roofs, after 0.6 of the dead load: ties chosen, and followed down to the foundation.

How much roof lifts at a bearing follows from the roof live load it carries, which lies evenly on all of it.
"""

import math
from collections.abc import Mapping, Sequence
from typing import NamedTuple

import numpy as np
import shapely

from balken.catalog.straps import MADE_UP
from balken.design.uplift_feet import ACTS, FootLifted, Openings, feet_lifted
from balken.framing.bands import WallLine
from balken.framing.outlines import Outline
from balken.framing.roofs import RoofPlan
from balken.framing.surface_roofs import SurfacePlan
from balken.geometry.plane import Point, distance, off_line, to_segment, unit
from balken.loads.area_loads import Reaction
from balken.loads.path import LoadPath
from balken.loads.roof_wind import RoofWind, open_below
from balken.model.buildups import stud_size
from balken.model.naming import kind_of, owner_of
from balken.model.records import Loads, Opening, Roof
from balken.standards.standard import Standard
from balken.units.system import INCH
from balken.value import Value

BIN = 48.0 * INCH
"""Rafters farther apart than this are looked at in stretches so long, mm."""
TOGETHER = 400.0
"""Outlines no farther apart than twice this are one building, mm."""
AT_CORNER = 400.0
"""The foot of a hip lies no farther from the corner it comes down to, mm."""
HEADERS = "headers"
"""Over openings in a wall: both their ends, each tied to the studs there."""
AT_SIDE = 1.0
"""What bears so near to the side of an opening, mm, is taken to bear over it."""
HEAVIER = "rafters with wider strips"
"""Beside openings, and where others were taken out or moved."""
NO_BEAMS: Mapping[str, WallLine] = {}
NO_OPENINGS: Openings = {}
ALONG = ("plane", "rafter", "deck")
TRUSS = "truss"
RAFTER = "rafter"
LOOKOUT = "lookout"
"""What comes down on a gable's wall there is all overhang."""
ENDS = {
    "plane-hip": "end of a hip",
    "plane-valley": "end of a valley",
    "plane-ridge": "end of a ridge beam",
    "plane-purlin": "purlin",
}


Segment = tuple[Point, Point]
LEVEL = 1.0
"""The top of a single slope rises by no more from end to end, mm."""


class Blown(NamedTuple):
    """A roof that wind lifts: how high it lies in the mean, mm; ``ends``: its edges in plan along which end zones run;
    ``pitches`` over its eaves.
    """

    roof: Roof
    outline: Outline
    mean_height: float
    ends: tuple[Segment, ...]
    pitches: tuple[float, ...]


class Reach(NamedTuple):
    """At a wall: how far a roof overhangs there, mm; how many times its strip the rafter carries that carries most; how far in
    of its outer face the middle of its core lies, mm.
    """

    past: float
    times: float = 1.0
    deep: float = 0.0


class Lifted(Value, frozen=True):
    """A bearing of a roof that wind lifts: on which wall or post; ``what``: its rafters, or an end of a line; in an end zone or not.

    ``net``: N on one tie after 0.6 of the dead load, ``gross``: without that; ``tie``: the one chosen ("" where none holds it, or none is needed), ``used``
    how far.
    """

    roof: str
    bearer: str
    what: str
    end: bool
    gross: float
    net: float
    tie: str
    used: float


class Uplift(Value, frozen=True):
    """Wind on the roofs of a building: bearings, feet of walls and foundations; ``wind`` by roof; ``beyond``: roofs not covered."""

    wind: dict[str, RoofWind]
    lifted: tuple[Lifted, ...] = ()
    feet: tuple[FootLifted, ...] = ()
    beyond: tuple[str, ...] = ()


def roof_uplift(
    roofs: Sequence[Blown],
    spacings: Mapping[str, float],
    reach: Mapping[tuple[str, str], Reach],
    path: LoadPath,
    lines: dict[str, WallLine],
    ground: float,
    loads: Loads,
    standard: Standard,
    beams: Mapping[str, WallLine] = NO_BEAMS,
    openings: Openings = NO_OPENINGS,
) -> Uplift:
    """Return what wind lifts; ``reach``: by roof and wall; ``ground``: the lowest ground beside the building, mm; ``beams``: those on
    which roofs bear, as lines of walls; ``openings``: by wall.
    """
    if loads.wind_speed <= 0.0 or loads.roof_live <= 0.0:
        return Uplift({})
    wind, beyond = dict[str, RoofWind](), list[str]()
    lifted: list[Lifted] = []
    gross: dict[str, float] = {}
    sides = least_sides([one.outline for one in roofs])
    for one, least in zip(roofs, sides, strict=True):
        roof = one.roof
        own = open_below(loads, any(wall in beams for wall in one.outline.walls))
        blows = standard.roof_wind(own, one.mean_height - ground, least)
        if blows is None:
            beyond.append(roof.id)
            continue
        wind[roof.id] = blows
        mine = [
            r
            for r in path.reactions
            if owner_of(r.piece) == roof.id and kind_of(r.piece) in (*ALONG, *ENDS, TRUSS, LOOKOUT)
        ]
        framed = {w: rows for w, rows in openings.items() if w in lines and stud_size(lines[w].buildup) is not None}
        for row, whole in _bearings(
            one,
            mine,
            blows,
            spacings.get(roof.id, 609.6),
            reach,
            {**lines, **beams},
            loads,
            framed,
            max(standard.overhang_wind(blows, pitch) for pitch in one.pitches),  # more at 6:12 than at 12:12
        ):
            lifted.append(row)
            gross[row.bearer] = gross.get(row.bearer, 0.0) + whole
    return Uplift(wind, tuple(lifted), feet_lifted(gross, path, lines, openings), tuple(beyond))


def _bearings(
    one: Blown,
    reactions: list[Reaction],
    wind: RoofWind,
    spacing: float,
    reach: Mapping[tuple[str, str], Reach],
    lines: dict[str, WallLine],
    loads: Loads,
    openings: Openings,
    small: float,
) -> list[tuple[Lifted, float]]:
    """Return the bearings of a roof, those alike as the worst of them, each with all that lifts there, N at 0.6; ``openings``: in framed walls;
    ``small``: what lifts small parts of overhangs, kN/m2.
    """
    roof, over_openings = one.roof, dict[str, list[_Over]]()
    found: dict[tuple[str, str, bool], list[tuple[float, float, float]]] = {}
    for bearer, what, places, area, dead, wide, part, along in (
        *_along(reactions, lines, loads, min(spacing, BIN)),
        *_singly(reactions, lines, loads, spacing),
    ):
        end = any(_at_an_end(one, at, wind.reach) for at in places)
        past, _, deep = reach.get((roof.id, bearer), Reach(roof.overhang))
        over = area if what == LOOKOUT else _overhanging(area / wide, past, deep) * wide if wide > 0.0 else 0.0
        if what == ENDS["plane-hip"]:
            # The load path lays what lies outside of the corner on the walls; it pulls at the hip's tail.
            over = _over_corner(one.outline, places[0], area, past)
            area += over
        on, under = (wind.end, wind.end_over) if end else (wind.inner, wind.inner_over)
        up = ACTS * ((area - over) * on + over * under) / 1000.0
        # Each lookout is a small part of an overhang; what lifts the wall under them is that of all together.
        alone = ACTS * area * small / 1000.0 if what == LOOKOUT else up
        found.setdefault((bearer, what, end), []).append((up, alone * part, (alone - ACTS * dead) * part))
        if bearer in openings:
            over_openings.setdefault(bearer, []).append(_Over(*along, up, up - ACTS * dead, end))
    made = [
        (_row(roof.id, wall, HEADERS, *worst), 0.0)
        for wall, rows in over_openings.items()
        for worst in _at_headers(rows, openings[wall])
    ]
    for (bearer, what, end), ups in found.items():
        gross, net = max(up for _, up, _ in ups), max(net for _, _, net in ups)
        made.append((_row(roof.id, bearer, what, end, gross, net), sum(whole for whole, _, _ in ups)))
        times = reach.get((roof.id, bearer), Reach(0.0)).times
        if what == RAFTER and times > 1.0:
            made.append((_row(roof.id, bearer, HEAVIER, end, gross * times, net * times), 0.0))
    return made


class _Bears(NamedTuple):
    """What bears alike: on what, what it is, where; how much of the roof it brings, mm2, what is dead of that, N; from how wide a strip, mm
    (0: from no strip); which part of it pulls at one tie; from where to where along a wall, mm.
    """

    bearer: str
    what: str
    places: list[Point]
    area: float
    dead: float
    wide: float
    part: float = 1.0
    along: tuple[float, float] = (0.0, 0.0)


class _Over(NamedTuple):
    """What lifts a stretch of a wall's head, or one place on it: from where to where along, mm; N before and after 0.6 of the dead load;
    whether in an end zone.
    """

    low: float
    high: float
    gross: float
    net: float
    end: bool


def _at_headers(rows: list[_Over], openings: tuple[Opening, ...]) -> list[tuple[bool, float, float]]:
    """Return what lifts the ends of headers most, in end zones and elsewhere: each takes by the lever what lifts over its opening."""
    worst: dict[bool, tuple[float, float]] = {}
    for o in openings:
        # What lies in one place right at a side of the opening is taken to lift that end: sums of floats do not tell.
        low, high = o.offset - AT_SIDE, o.offset + o.width + AT_SIDE
        ends, zone = {0: [0.0, 0.0], 1: [0.0, 0.0]}, False
        for row in rows:
            a, b = max(row.low, low), min(row.high, high)
            part = (b - a) / (row.high - row.low) if row.high > row.low else 1.0
            if b < a or part <= 0.0:
                continue
            zone |= row.end
            far = min(max(((a + b) / 2.0 - o.offset) / o.width, 0.0), 1.0)
            for side, share in ((0, 1.0 - far), (1, far)):
                ends[side][0] += row.gross * part * share
                ends[side][1] += row.net * part * share
        gross, net = max(ends.values(), key=lambda end: end[1])
        if gross > 0.0 and (zone not in worst or net > worst[zone][1]):
            worst[zone] = gross, net
    return [(zone, gross, net) for zone, (gross, net) in worst.items()]


def _along(reactions: list[Reaction], lines: dict[str, WallLine], loads: Loads, long: float) -> list[_Bears]:
    """Return what rafters bring along walls and beams, in stretches about so ``long``; each to both sides as far as to the next."""
    rows: dict[str, list[Reaction]] = {}
    for r in reactions:
        if kind_of(r.piece) in ALONG and r.bearer in lines:
            rows.setdefault(r.bearer, []).append(r)
    found = []
    for bearer, some in rows.items():
        band = lines[bearer].band
        t = np.array([off_line(r.at, band.start, band.end)[0] for r in some])
        gaps = np.diff(np.unique(t.round()))
        half = min(float(gaps.max()), long) / 2.0 if len(gaps) else long / 2.0
        edges = np.linspace(t.min() - half, t.max() + half, max(round((float(np.ptp(t)) + 2.0 * half) / long), 1) + 1)
        wide, whole = float(edges[1] - edges[0]), float(edges[-1] - edges[0])
        over = np.minimum(t[:, None] + half, edges[1:]) - np.maximum(t[:, None] - half, edges[:-1])
        brought = np.array([(r.force.roof_live, r.force.dead) for r in some])
        sums = (np.maximum(over, 0.0) / (2.0 * half)).T @ brought
        for k, (live, dead) in enumerate(sums.tolist()):
            if live <= 0.0:
                continue  # an opening, or a roof beside it
            places = [r.at for r, o in zip(some, over[:, k].tolist(), strict=True) if o > 0.0]
            found.append(
                _Bears(
                    bearer,
                    RAFTER,
                    places,
                    live / loads.roof_live * 1000.0,
                    dead,
                    wide,
                    min(long, whole) / wide,
                    (float(edges[k]), float(edges[k + 1])),
                )
            )
    return found


def _singly(reactions: list[Reaction], lines: dict[str, WallLine], loads: Loads, spacing: float) -> list[_Bears]:
    """Return what bears in single places, what is brought to one of them together; rafters on posts."""
    rows: dict[tuple[str, str, int], list[Reaction]] = {}
    for r in reactions:
        kind, place = kind_of(r.piece), 0
        if kind in ALONG and r.bearer in lines:
            continue
        if kind in ENDS or kind in (TRUSS, LOOKOUT):
            place = round(r.at[0]) * 100_003 + round(r.at[1])
        rows.setdefault((r.bearer, RAFTER if kind in ALONG else ENDS.get(kind, kind), place), []).append(r)
    found = []
    for (bearer, what, _), some in rows.items():
        area, dead = sum(r.force.roof_live for r in some) / loads.roof_live * 1000.0, sum(r.force.dead for r in some)
        t = 0.0
        if bearer in lines:
            t = off_line(some[0].at, lines[bearer].band.start, lines[bearer].band.end)[0]
        wide = spacing if what == TRUSS else 0.0
        found.append(_Bears(bearer, what, [r.at for r in some], area, dead, wide, along=(t, t)))
    return found


def _at_an_end(one: Blown, at: Point, reach: float) -> bool:
    """Whether a bearing lies in an end zone: near a corner, or near an edge towards which wind may blow along the ridge."""
    return any(distance(at, corner) <= reach for corner in one.outline.core) or any(
        to_segment(at, *end) <= reach for end in one.ends
    )


def _overhanging(wide: float, past: float, deep: float) -> float:
    """Return how much of a strip of roof ``wide`` mm that comes to a wall overhangs: ``past`` mm outside of it and what that adds by the lever.

    Of a span l between bearings half comes to the wall, and past (1 + (past / 2 + deep) / l): solved for l.
    """
    if past <= 0.0:
        return 0.0
    rest = wide - past
    root = rest * rest - 2.0 * past * (past / 2.0 + deep)
    return wide if rest <= 0.0 or root < 0.0 else wide - (rest + math.sqrt(root)) / 2.0


def _over_corner(outline: Outline, at: Point, area: float, past: float) -> float:
    """Return what of a roof lies outside of both walls at the foot of a hip, mm2, with what that adds by the lever; 0 at its upper end.

    ``area`` of the planes comes to the foot: a third of what lies on the hip, at a square corner a sixth of its run squared.
    """
    core, n = outline.core, len(outline.core)
    k = min(range(n), key=lambda i: distance(at, core[i]))
    if distance(at, core[k]) > AT_CORNER:
        return 0.0
    (ax, ay), (bx, by) = unit(core[k - 1], core[k]), unit(core[k], core[(k + 1) % n])
    corner = past * past / max(abs(ax * by - ay * bx), 0.1)
    return corner * (1.0 + past / (2.0 * math.sqrt(6.0 * max(area, corner)))) if corner > 0.0 else 0.0


def _row(roof: str, bearer: str, what: str, end: bool, gross: float, net: float) -> Lifted:
    tie = next((row for row in MADE_UP if row.up >= net), None) if net > 0.0 else None
    return Lifted(
        roof, bearer, what, end, gross, net, tie.name if tie is not None else "", net / tie.up if tie else 0.0
    )


def ends_of(plan: RoofPlan | SurfacePlan) -> tuple[Segment, ...]:
    """Return the edges along which end zones run: gables, and eaves of planes between two hips that have no ridge."""
    core = plan.outline.core
    sides = [(core[k], core[(k + 1) % len(core)]) for k in range(len(core))]
    if isinstance(plan, RoofPlan):
        return tuple(side for side, wall in zip(sides, plan.outline.walls, strict=True) if wall in plan.gable_walls)
    lines = plan.surface.lines
    rakes = tuple((x.start[:2], x.end[:2]) for x in lines if x.kind == "rake" and abs(x.start[2] - x.end[2]) > LEVEL)
    ridged = {edge for x in lines if x.kind in ("ridge", "wall") for edge in x.edges}
    hipped = {edge for x in lines if x.kind == "hip" for edge in x.edges}
    return rakes + tuple(sides[k] for k in sorted(hipped - ridged) if k >= 0)


def least_sides(outlines: Sequence[Outline]) -> list[float]:
    """Return the least side of the building that each outline is a part of, mm: those that stand by one another are one."""
    shapes = [shapely.Polygon(o.core).buffer(TOGETHER) for o in outlines]
    whole = shapely.union_all(shapes)
    parts = list(getattr(whole, "geoms", [whole]))
    found = []
    for shape in shapes:
        part = next(p for p in parts if p.intersects(shape.representative_point()))
        box = shapely.minimum_rotated_rectangle(part).exterior.coords
        found.append(min(math.dist(box[0], box[1]), math.dist(box[1], box[2])) - 2.0 * TOGETHER)
    return found
