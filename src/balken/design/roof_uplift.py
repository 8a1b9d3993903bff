"""What wind lifts at the bearings of roofs, after 0.6 of the dead load: ties chosen, and followed down to the foundation.

How much roof lifts at a bearing follows from the roof live load it carries, which lies evenly on all of it.
"""

import math
from collections.abc import Mapping, Sequence

import shapely

from balken.catalog.straps import MADE_UP
from balken.framing.bands import WallLine
from balken.framing.outlines import Outline
from balken.geometry.plane import distance, off_line
from balken.loads.area_loads import Reaction
from balken.loads.path import LoadPath
from balken.loads.roof_wind import RoofWind, open_below
from balken.model.naming import kind_of, owner_of
from balken.model.records import Loads, Roof
from balken.standards.standard import Standard
from balken.units.system import INCH
from balken.value import Value

ACTS = 0.6
"""Of the dead load and of the wind at strength level (ASCE 7-16, 2.4.1, combination 7: 0.6 D + 0.6 W)."""
APART = (48.0 * INCH, 32.0 * INCH, 16.0 * INCH)
"""How far apart ties stand along the foot of a wall: at every third, second or each stud."""
BIN = 48.0 * INCH
"""Rafters along so much of a wall share what lifts there alike, mm."""
TOGETHER = 400.0
"""Outlines no farther apart than twice this are one building, mm."""
HEAVIER = "rafters with wider strips"
"""Beside openings, and where others were taken out or moved."""
NO_BEAMS: Mapping[str, WallLine] = {}
ALONG = ("plane", "rafter", "deck")
TRUSS = "truss"
LOOKOUT = "lookout"
"""What comes down on a gable's wall there is all overhang."""
ENDS = {
    "plane-hip": "end of a hip",
    "plane-valley": "end of a valley",
    "plane-ridge": "end of a ridge beam",
    "plane-purlin": "purlin",
}


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


class FootLifted(Value, frozen=True):
    """What lifts at the foot of a wall, post or foundation: N in all after 0.6 of the dead load there, below zero: it stays down.

    ``tie``: what ties a wall to what is below it, ``apart`` mm along it; "" where nothing is needed or nothing does.
    """

    thing: str
    gross: float
    net: float
    tie: str
    apart: float


class Uplift(Value, frozen=True):
    """Wind on the roofs of a building: bearings, feet of walls and foundations; ``wind`` by roof; ``beyond``: roofs not covered."""

    wind: dict[str, RoofWind]
    lifted: tuple[Lifted, ...] = ()
    feet: tuple[FootLifted, ...] = ()
    beyond: tuple[str, ...] = ()


def roof_uplift(
    roofs: Sequence[tuple[Roof, Outline, float, float]],
    spacings: Mapping[str, float],
    reach: Mapping[tuple[str, str], tuple[float, float]],
    path: LoadPath,
    lines: dict[str, WallLine],
    ground: float,
    loads: Loads,
    standard: Standard,
    beams: Mapping[str, WallLine] = NO_BEAMS,
) -> Uplift:
    """Return what wind lifts; ``roofs``: each with its outline, what it bears at and how high it rises over that, mm; ``reach``: by
    roof and wall how far it overhangs there, mm, and how many times its own strip the rafter carries there that carries most;
    ``ground``: the lowest ground beside the building, mm; ``beams``: those on which roofs bear, as lines of walls.
    """
    if loads.wind_speed <= 0.0 or loads.roof_live <= 0.0:
        return Uplift({})
    wind, beyond = dict[str, RoofWind](), list[str]()
    lifted: list[Lifted] = []
    gross: dict[str, float] = {}
    sides = least_sides([outline for _, outline, _, _ in roofs])
    for (roof, outline, bearing, rise), least in zip(roofs, sides, strict=True):
        own = open_below(loads, any(wall in beams for wall in outline.walls))
        blows = standard.roof_wind(own, bearing + rise / 2.0 - ground, least)
        if blows is None:
            beyond.append(roof.id)
            continue
        wind[roof.id] = blows
        mine = [
            r
            for r in path.reactions
            if owner_of(r.piece) == roof.id and kind_of(r.piece) in (*ALONG, *ENDS, TRUSS, LOOKOUT)
        ]
        for row, whole in _bearings(
            roof, outline, mine, blows, spacings.get(roof.id, 609.6), reach, {**lines, **beams}, loads
        ):
            lifted.append(row)
            gross[row.bearer] = gross.get(row.bearer, 0.0) + whole
    return Uplift(wind, tuple(lifted), _feet(gross, path, lines), tuple(beyond))


def _bearings(
    roof: Roof,
    outline: Outline,
    reactions: list[Reaction],
    wind: RoofWind,
    spacing: float,
    reach: Mapping[tuple[str, str], tuple[float, float]],
    lines: dict[str, WallLine],
    loads: Loads,
) -> list[tuple[Lifted, float]]:
    """Return the bearings of a roof, those alike as the worst of them, each with all that lifts there, N at 0.6."""
    bins: dict[tuple[str, str, bool, int], list[Reaction]] = {}
    for r in reactions:
        end = any(distance(r.at, corner) <= wind.reach for corner in outline.core)
        kind = kind_of(r.piece)
        place = 0
        if r.bearer in lines and kind in ALONG:
            place = math.floor(off_line(r.at, lines[r.bearer].band.start, lines[r.bearer].band.end)[0] / BIN)
        elif kind in ENDS or kind in (TRUSS, LOOKOUT):
            place = round(r.at[0]) * 100_003 + round(r.at[1])
        what = "rafter" if kind in ALONG else ENDS.get(kind, kind)
        bins.setdefault((r.bearer, what, end, place), []).append(r)
    found: dict[tuple[str, str, bool], list[tuple[float, float, float]]] = {}
    for (bearer, what, end, _), rows in bins.items():
        area = sum(r.force.roof_live for r in rows) / loads.roof_live * 1000.0
        dead = sum(r.force.dead for r in rows)
        along = what == "rafter" and bearer in lines
        past = reach.get((roof.id, bearer), (roof.overhang, 1.0))[0]
        wide = BIN if along else spacing if what == TRUSS else 0.0
        over = area if what == LOOKOUT else min(past * wide, area)
        on, under = (wind.end, wind.end_over) if end else (wind.inner, wind.inner_over)
        up = ACTS * ((area - over) * on + over * under) / 1000.0
        part = min(spacing / BIN, 1.0) if along else 1.0
        found.setdefault((bearer, what, end), []).append((up, up * part, (up - ACTS * dead) * part))
    made = []
    for (bearer, what, end), ups in found.items():
        gross, net = max(up for _, up, _ in ups), max(net for _, _, net in ups)
        made.append((_row(roof.id, bearer, what, end, gross, net), sum(whole for whole, _, _ in ups)))
        times = reach.get((roof.id, bearer), (0.0, 1.0))[1]
        if what == "rafter" and times > 1.0:
            made.append((_row(roof.id, bearer, HEAVIER, end, gross * times, net * times), 0.0))
    return made


def _row(roof: str, bearer: str, what: str, end: bool, gross: float, net: float) -> Lifted:
    tie = next((row for row in MADE_UP if row.up >= net), None) if net > 0.0 else None
    return Lifted(
        roof, bearer, what, end, gross, net, tie.name if tie is not None else "", net / tie.up if tie else 0.0
    )


def _feet(gross: dict[str, float], path: LoadPath, lines: dict[str, WallLine]) -> tuple[FootLifted, ...]:
    """Follow what lifts down: at each foot 0.6 of all that is dead above it holds it down."""
    up, found = dict(gross), []
    heights = {w: line.band.bottom for w, line in lines.items()} | {
        c: made.stand.foot for c, made in path.columns.items()
    }
    heights |= {b: made.line.top for b, made in path.beams.items()}
    for name in (*sorted(heights, key=lambda n: -heights[n]), *path.runs, *path.pads):
        if up.get(name, 0.0) <= 0.0:
            continue
        net, long = up[name] - ACTS * _dead(name, path), lines[name].band.length if name in lines else 0.0
        found.append(FootLifted(name, up[name], net, *_tied(net, long)))
        below = path.below.get(name, ())
        shares = [max(path.shares[(name, b)].dead, 0.0) if (name, b) in path.shares else 0.0 for b in below]
        for b, share in zip(below, shares, strict=True):
            part = share / sum(shares) if sum(shares) > 0.0 else 1.0 / len(below)
            up[b] = up.get(b, 0.0) + up[name] * part
    return tuple(found)


def _dead(name: str, path: LoadPath) -> float:
    """Return what is dead at a foot, N."""
    if name in path.columns:
        return path.columns[name].foot.dead
    if name in path.beams:
        return path.beams[name].load.dead
    if name in path.pads:
        return path.pads[name].dead
    return (path.walls.get(name) or path.runs[name]).foot.dead


def _tied(net: float, long: float) -> tuple[str, float]:
    """Return the tie of a wall's foot and how far apart, mm: as few as hold it; ("", 0) where none is needed or none does."""
    if net <= 0.0:
        return "", 0.0
    if long <= 0.0:  # a post: one tie
        return next((row.name for row in MADE_UP if row.up >= net), ""), 0.0
    for apart in APART:
        for row in MADE_UP:
            if row.up >= net / long * apart:
                return row.name, apart
    return "", 0.0


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
