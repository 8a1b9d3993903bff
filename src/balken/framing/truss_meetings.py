"""How the parts of a roof under trusses meet: what bears or hangs where, how far tails reach, what of their planes is seen or covered."""

import math
from collections.abc import Sequence
from typing import NamedTuple

import shapely
from msgspec.structs import replace as replace_struct

from balken.framing.joined_roofs import tail_reach
from balken.framing.surface_roofs import SurfacePlan
from balken.framing.truss_hips import Joins, Opening
from balken.framing.truss_layout import BESIDE, BOARD, LEAST_TAIL, Over, TrussPlace, TrussRow
from balken.framing.truss_parts import SAME, Coming, Part, overlay_of
from balken.geometry.plane import Point, add, areas, distance, dot, left, sub, unit


class Beside(NamedTuple):
    """How the trusses of a part meet the others: what of the whole roof its eaves' planes are, in plan; what of others covers them; the
    wings that come in at its sides, by their numbers among the parts.
    """

    planes: tuple[shapely.Geometry, shapely.Geometry]
    covered: tuple[shapely.Geometry, shapely.Geometry]
    wings: tuple[tuple[int, Coming], ...]


def beside(whole: SurfacePlan, parts: Sequence[Part], number: int, row: TrussRow) -> Beside:
    """Return how a part of a roof with wings meets the others."""
    part = parts[number]
    faces = {face.edge: shapely.Polygon([p[:2] for p in face.ring]) for face in whole.whole.faces}
    others = shapely.union_all([shapely.Polygon(ring) for ring in whole.covered])
    own = [shapely.union_all([faces[e] for e in part.sides[k] if e in faces], grid_size=1e-3) for k in row.eaves]
    planes = [areas(plane.difference(areas(others), grid_size=1e-3)) for plane in own]
    wings = tuple((k, wing.comes) for k, wing in enumerate(parts) if wing.comes is not None) if number == 0 else ()
    over = [
        shapely.union_all(
            [
                plane.intersection(others),
                *(overlay_of(parts[0], parts[k]).region for k, comes in wings if comes.side == side),
            ]
        )
        for plane, side in zip(own, row.eaves, strict=True)
    ]
    return Beside((planes[0], planes[1]), (over[0], over[1]), wings)


def _comes_in(part: Part, met: Beside, side: int, at: Point) -> tuple[int, Coming] | None:
    """Return the wing that comes in at a place of a side."""
    core = part.plan.outline.core
    along = dot(unit(core[side], core[(side + 1) % 4]), sub(at, core[side]))
    return next(
        (row for row in met.wings if row[1].side == side and row[1].low - SAME <= along <= row[1].high + SAME), None
    )


def hangs_on(part: Part, met: Beside, side: int, at: Point) -> int | None:
    """Return the number of the wing on whose girder a truss hangs that ends at a place of a side; None where a wall is below it."""
    found = _comes_in(part, met, side, at)
    return found[0] if found is not None and not found[1].wall else None


def wall_at(whole: SurfacePlan, part: Part, side: int, at: Point) -> str:
    """Return the wall of the roof's outline that lies at a place of a part's side."""
    core = whole.outline.core

    def off(k: int) -> float:
        line = shapely.LineString([core[k], core[(k + 1) % len(core)]])
        return float(line.distance(shapely.Point(at)))

    return whole.outline.walls[min(part.sides[side], key=off)]


def dressed(whole: SurfacePlan, parts: Sequence[Part], number: int, row: TrussRow, met: Beside, plies: int) -> TrussRow:
    """Return a row with what its trusses bear or hang on, how far their tails reach, what lies over them; ``plies``: of its girders."""
    part, places = parts[number], list[TrussPlace]()
    for place in row.places:
        thick = BOARD * (plies if place.make in ("girder", "carrier") else part.plan.roof.trusses.plies)
        rows = [_over(whole, parts, number, row, met, place, k, thick) for k in (0, 1)]
        walls = [
            "" if hangs is not None else wall_at(whole, part, row.eaves[k], place.at(row.wide if k else 0.0))
            for k, (hangs, _) in enumerate(rows)
        ]
        places.append(replace_struct(place, walls=(walls[0], walls[1]), sides=(rows[0][1], rows[1][1])))
    return row._replace(places=tuple(places))


def _over(
    whole: SurfacePlan,
    parts: Sequence[Part],
    number: int,
    row: TrussRow,
    met: Beside,
    place: TrussPlace,
    k: int,
    thick: float,
) -> tuple[int | None, Over]:
    """Return on which wing's girder a truss hangs at an end, and what of that eave's plane lies over it."""
    part, side = parts[number], row.eaves[k]
    end = place.at(row.wide if k else 0.0)
    hangs = hangs_on(part, met, side, end)
    strip, wide = strip_of(row, place.roof), place.roof[1] - place.roof[0]
    mine = met.covered[k].intersection(strip).area
    seen = met.planes[k].intersection(strip).area
    tail = part.plan.overhangs[side]
    if _comes_in(part, met, side, end) is not None:
        tail = 0.0
    else:
        if whole.gone or whole.laid_on:  # what of its overhang would stand in the roof above is left out
            out = unit(row.frame.back(row.start + row.wide / 2.0, place.t), end)
            rings = [[p[:2] for p in face.ring] for face in whole.whole.faces if face.edge in part.sides[side]]
            tail = min(tail, tail_reach(tuple(tuple(ring) for ring in rings), end, out, thick))
        for corner, ratio in _inner_corners(parts, number, row, k):
            tail = min(tail, max((distance(end, corner) - thick / 2.0 - BESIDE) * ratio, 0.0))
        tail = tail if tail >= LEAST_TAIL or tail == part.plan.overhangs[side] else 0.0
    return hangs, Over(round(tail, 3), round(mine / wide, 6), seen, mine)


def strip_of(row: TrussRow, between: tuple[float, float]) -> shapely.Polygon:
    """Return what lies between two places along a row, in plan."""
    far = 1e6
    low, high = between
    return shapely.Polygon([row.frame.back(s, t) for s, t in ((-far, low), (far, low), (far, high), (-far, high))])


def _inner_corners(parts: Sequence[Part], number: int, row: TrussRow, k: int) -> list[tuple[Point, float]]:
    """Return the inner corners at an eave of a part, with how far out the valley there runs a mm along that eave."""
    main, found = parts[0].plan, []
    core = main.outline.core
    onto = parts[number].onto
    if onto is not None:  # of the roof below at its open side
        inner = parts[number].inner
        side = row.eaves[k]
        corner = core[inner] if side == (inner + 3) % 4 else core[(inner + 1) % 4]
        return [(corner, math.hypot(*onto.slope) / main.edges[side].pitch)]
    for j, wing in enumerate(parts):
        if wing.comes is None or (number not in (0, j)):
            continue
        comes = wing.comes
        a, way = core[comes.side], unit(core[comes.side], core[(comes.side + 1) % 4])
        long = distance(core[comes.side], core[(comes.side + 1) % 4])
        for place in (comes.low, comes.high):
            if place < SAME or place > long - SAME:
                continue  # flush with an end of the main part: no corner
            corner = add(a, way, place)
            at = _eave_at(wing, corner)
            pitches = wing.plan.edges[at].pitch, main.edges[comes.side].pitch
            if number == 0 and row.eaves[k] == comes.side:
                found.append((corner, pitches[0] / pitches[1]))
            elif number == j and row.eaves[k] == at:
                found.append((corner, pitches[1] / pitches[0]))
    return found


def _eave_at(wing: Part, corner: Point) -> int:
    """Return the eave of a wing that ends at a corner of its inner side."""
    own = wing.plan.outline.core

    def off(k: int) -> float:
        return abs(dot(left(unit(own[k], own[(k + 1) % 4])), sub(corner, own[k])))

    return min(((wing.inner + 1) % 4, (wing.inner + 3) % 4), key=off)


def joins_at(met: Beside, parts: Sequence[Part], row: TrussRow, first: bool) -> Joins:
    """Return how wings come in beside a hip end of the main part."""
    main = parts[0].plan
    core = main.outline.core
    found: tuple[list[Opening], list[Opening]] = ([], [])
    for number, comes in met.wings:
        if comes.side not in row.eaves:
            continue
        a, way = core[comes.side], unit(core[comes.side], core[(comes.side + 1) % 4])
        low = main.edges[comes.side].pitch
        ends = []
        for x in (comes.low, comes.high):
            corner = add(a, way, x)
            t = row.frame.to(corner)[1]
            inward = t - row.along[0] if first else row.along[1] - t
            ends.append((inward, parts[number].plan.edges[_eave_at(parts[number], corner)].pitch / low))
        ends.sort()
        opening = Opening(ends[0][0], ends[1][0], (ends[0][1], ends[1][1]), bool(comes.wall))
        found[row.eaves.index(comes.side)].append(opening)
    return Joins((tuple(found[0]), tuple(found[1])), met.planes, met.covered)
