"""What lies on each truss of a roof: dead and live loads on its strip, snow even, blown over the ridge and in drifts, wind that lifts."""

import itertools
import math
from collections.abc import Sequence

import numpy as np

from balken.framing.surface_roofs import SurfacePlan
from balken.framing.truss_hips import HungTruss
from balken.framing.truss_layout import (
    BOARD,
    HipEnd,
    Over,
    TrussPlace,
    TrussRow,
    at_wall,
    is_single,
    overs,
    ridge_of,
    slopes_of,
)
from balken.loads.area_loads import ceiling_cases, roof_cases
from balken.loads.cases import Cases
from balken.loads.roof_snow import PlaneSnow, RoofSnow, beside
from balken.loads.roof_wind import RoofWind
from balken.loads.truss_loads import MAN, Band, Plane, TrussLoads, Uneven, blown
from balken.model.records import Loads
from balken.standards.standard import Standard

STRETCHES = 12
"""Drifts are laid on so many stretches of each slope."""
FAR = 1e6
"""Beyond all ends, mm."""


class OnRoof:
    """What lies on the planes of a roof."""

    def __init__(
        self,
        plan: SurfacePlan,
        row: TrussRow,
        snow: RoofSnow,
        wind: RoofWind | None,
        loads: Loads,
        standard: Standard,
    ) -> None:
        self.plan, self.row, self.snow, self.wind, self.loads, self.standard = plan, row, snow, wind, loads, standard
        self.ridge, self.slopes = ridge_of(plan, row), slopes_of(plan, row)
        self.man = MAN if plan.roof.trusses.man else 0.0

    def of(self, edge: int) -> Cases:
        """Return what lies on a plane, kN/m2: dead load on its slope, all else on its plan."""
        pitch = self.plan.edges[edge].pitch
        q = roof_cases(self.loads, pitch, self.snow.planes[edge].laid)
        if self.wind is not None:
            q = q._replace(wind=-self.wind.end)
        # What ``roof_cases`` lays on the plan is brought back, for trusses lay dead load on the slope themselves.
        q = q._replace(dead=q.dead / math.hypot(1.0, pitch))
        return Cases(*(round(v, 9) for v in q))

    def on_overhang(self, edge: int) -> Cases:
        """Return what lies on what overhangs of a plane, all on its plan, kN/m2."""
        q = self.of(edge)
        dead = q.dead * math.hypot(1.0, self.plan.edges[edge].pitch)
        return q._replace(dead=dead, wind=self.over_wind if q.wind else 0.0)

    @property
    def eaves(self) -> tuple[int, int]:
        """The planes over both walls: of a single slope that one twice."""
        one, other = self.row.eaves
        return one, (one if is_single(self.plan) else other)

    @property
    def over_wind(self) -> float:
        """Wind on overhangs, kN/m2."""
        return -self.wind.end_over if self.wind is not None else 0.0


def loads_on(
    roof: OnRoof,
    place: TrussPlace,
    beside_it: tuple[float, float] = (0.0, 0.0),
    ceiling: float = 0.0,
    bare: tuple[float, float] = (0.0, 0.0),
) -> TrussLoads:
    """Return what lies on a truss square to the eaves; ``beside_it``: what of both eaves' planes it carries beyond its strip, mm2,
    ``bare``: what of that lies under other parts of the roof, ``ceiling``: of the ceiling.
    """
    plan, row = roof.plan, roof.row
    wide = place.roof[1] - place.roof[0]
    under = (place.ceiling[1] - place.ceiling[0]) + ceiling / row.wide
    if at_wall(plan, row.eaves[1]):
        under *= (row.wide + BOARD) / row.wide  # the ceiling goes on below the ledger
    return TrussLoads(
        round(wide, 6),
        roof.of(roof.eaves[0]),
        ceiling_cases(roof.loads),
        tuple(_within(u, 0.0, *_seen(roof, place)) for u in _uneven(roof, place)),
        roof.over_wind,
        planes=() if is_single(plan) else _planes_over(roof, place, beside_it, bare),
        lying=_lying(roof, place, *_seen(roof, place)),
        below=round(under / wide, 9),
        man=0.0 if place.gable else roof.man,
    )


def loads_on_hung(roof: OnRoof, one: HungTruss) -> TrussLoads:
    """Return what lies on a jack or a corner girder: all of what it carries of the roof and ceiling, laid evenly along it."""
    place = one.place
    assert place.areas is not None
    wide = place.areas[0] / (one.long + one.over)
    planes: list[Plane] = []
    for edge, size in one.parts:
        if size > 0.0:
            part = one.bare / size if edge == one.parts[-1][0] else 0.0
            q = _mixed(roof.of(edge), part).scaled(size / place.areas[0])
            planes.append(Plane(-FAR, FAR, q, round(math.hypot(1.0, roof.plan.edges[edge].pitch), 9)))
    if one.bare > 0.0 and not one.parts:  # covered from its lower end up
        slope, q, until = round(math.hypot(1.0, one.pitch), 9), roof.of(place.edge), one.bare / wide - one.over
        planes = [Plane(-FAR, round(until, 6), _mixed(q, 1.0), slope), Plane(round(until, 6), FAR, q, slope)]
    return TrussLoads(
        round(wide, 6),
        roof.of(place.edge),
        ceiling_cases(roof.loads),
        (
            *(_over_plane(roof, place.edge, -one.over, one.long) if place.make == "jack" else ()),
            *_iced_hung(roof, one, planes),
        ),
        roof.over_wind,
        planes=tuple(planes),
        lying=_lying(roof, place, -one.over, one.long),
        below=round(place.areas[1] / one.long / wide, 9),
        man=roof.man,
    )


def loads_on_valley(roof: OnRoof, place: TrussPlace, span: float) -> TrussLoads:
    """Return what lies on a valley truss: both planes of its part as far as they are its own; no ceiling."""
    assert place.sides is not None
    off, strip = place.start - roof.row.start, place.roof[1] - place.roof[0]
    peak = roof.ridge - off
    planes = tuple(
        _plane(roof, edge, a, b, side.seen / strip / (b - a))
        for edge, (a, b), side in zip(roof.eaves, ((0.0, peak), (peak, span)), place.sides, strict=True)
    )
    # Drifts beside its ends lie on it, too.
    wider = sum(side.seen for side in place.sides) / (strip * span)
    lying = (Band(b.low, b.high, round(b.more * wider, 6)) for b in _lying(roof, place, 0.0, span))
    return TrussLoads(
        round(strip, 6),
        roof.of(roof.eaves[0]),
        Cases(),
        tuple(_within(u, off, 0.0, span) for u in _uneven(roof, place)),
        planes=planes,
        lying=tuple(lying),
        below=0.0,
        man=roof.man,
    )


def _mixed(q: Cases, bare: float) -> Cases:
    """Return what lies on a plane of which a part is covered: there is its dead load alone."""
    return q.scaled(1.0 - bare)._replace(dead=q.dead)


def _seen(roof: OnRoof, place: TrussPlace) -> tuple[float, float]:
    """Return from where to where along a truss square to the eaves the roof over it is not covered by other parts."""
    plan, row = roof.plan, roof.row
    if place.sides is None:
        low, high = overs(plan, row)
        return -low, row.wide + high
    one, other = place.sides
    return one.covered or -one.tail, row.wide - (other.covered or -other.tail)


def _within(uneven: Uneven, off: float, low: float, high: float) -> Uneven:
    """Return an arrangement of snow counted from elsewhere along a truss, and cut off where none lies."""
    rows = ((max(b.low - off, low), min(b.high - off, high), b.more) for b in uneven.bands)
    return Uneven(uneven.name, tuple(Band(a, b, more) for a, b, more in rows if b > a))


def _planes_over(
    roof: OnRoof, place: TrussPlace, beside_it: tuple[float, float], bare: tuple[float, float]
) -> tuple[Plane, ...]:
    """Return the planes over a truss as they lie over its strip on the mean: those of both eaves, between them those of hip ends."""
    row, over = roof.row, overs(roof.plan, roof.row)
    low, hips = _hip_line(roof, place)
    wide = sum(w for _, w in hips)
    ends = (-over[0], low), (low + wide, row.wide + over[1])
    strip, found = place.roof[1] - place.roof[0], list[Plane]()
    for k, (edge, (a, b), more) in enumerate(zip(roof.eaves, ends, beside_it, strict=True)):
        if place.sides is None:
            times = 1.0 + more / strip / max(b - a, 1e-9)
            found.append(_plane(roof, edge, a, b, times))
        else:
            found += _beside_parts(roof, edge, k == 0, (a, b), place.sides[k], strip, (more - bare[k], bare[k]))
    at = low
    for hip, w in hips:
        if w > 1e-9:
            found.append(_plane(roof, hip.edge, at, at + w, 1.0))
        at += w
    return tuple(found)


def _beside_parts(
    roof: OnRoof,
    edge: int,
    first: bool,
    reach: tuple[float, float],
    side: Over,
    strip: float,
    more: tuple[float, float],
) -> list[Plane]:
    """Return an eave's plane over a truss that other parts of the roof stand beside or cover: what is covered, then what is seen."""
    a, b = reach
    found = []
    begin = side.covered or -side.tail
    if side.covered > 0.0:
        c = (0.0, side.covered) if first else (roof.row.wide - side.covered, roof.row.wide)
        under = _plane(roof, edge, *c, (side.bare + more[1]) / strip / side.covered)
        found.append(Plane(under.low, under.high, _mixed(under.q, 1.0), under.slope))
    seen = (min(begin, b - 1.0), b) if first else (a, max(roof.row.wide - begin, a + 1.0))
    found.append(_plane(roof, edge, *seen, (side.seen + more[0]) / strip / (seen[1] - seen[0])))
    return found


def _plane(roof: OnRoof, edge: int, low: float, high: float, times: float) -> Plane:
    slope = math.hypot(1.0, roof.plan.edges[edge].pitch)
    return Plane(round(low, 6), round(high, 6), roof.of(edge).scaled(round(times, 9)), round(slope, 9))


def _hip_line(roof: OnRoof, place: TrussPlace) -> tuple[float, list[tuple[HipEnd, float]]]:
    """Return where the first eave's plane ends over a strip, and how wide that of each hip end is, on the mean, mm."""
    (p0, p1), row = roof.slopes, roof.row
    top = p0 * roof.ridge
    t0, t1 = place.roof
    breaks = {t0, t1}
    for hip in row.hips:  # where its plane reaches the ridge
        u = top / hip.pitch
        breaks.add(row.along[0] + u if hip.first else row.along[1] - u)
    if len(row.hips) == 2:  # where both are as high
        a, b = row.hips
        breaks.add((a.pitch * row.along[0] + b.pitch * row.along[1]) / (a.pitch + b.pitch))
    ts = sorted(t for t in breaks if t0 <= t <= t1)
    low, wides = 0.0, [0.0] * len(row.hips)
    for s, t in itertools.pairwise(ts):
        middle = (s + t) / 2.0
        heights = [hip.pitch * row.inward(hip, middle) for hip in row.hips]
        # Linear between breaks: the middle is the mean.
        which = min(range(len(heights)), key=heights.__getitem__, default=-1)
        high = min(top, heights[which]) if which >= 0 else top
        part = (t - s) / (t1 - t0)
        low += part * high / p0
        if which >= 0:
            wides[which] += part * (row.wide - high / p0 - high / p1)
    return low, list(zip(row.hips, wides, strict=True))


def _lies(roof: OnRoof, place: TrussPlace, x: float) -> PlaneSnow:
    """Return the snow on the plane over a place of a truss."""
    if place.edge >= 0:
        return roof.snow.planes[place.edge]
    if not is_single(roof.plan):
        low, hips = _hip_line(roof, place)
        for hip, wide in hips:
            if low < x < low + wide:
                return roof.snow.planes[hip.edge]
            low += wide
    return roof.snow.planes[roof.eaves[0 if x < roof.ridge else 1]]


def _lying(roof: OnRoof, place: TrussPlace, low: float, high: float) -> tuple[Band, ...]:
    """Return drifts and slides on a strip, as far as they are more than even snow laid there already."""
    if not roof.snow.bands:
        return ()
    xs = np.linspace(low, high, 2 * STRETCHES + 1)
    ts = np.linspace(place.roof[0], place.roof[1], 8)
    ts, mids = (ts[:-1] + ts[1:]) / 2.0, (xs[:-1] + xs[1:]) / 2.0
    (x0, y0), (sx, sy), (tx, ty) = (place.frame.back(s, t) for s, t in ((0.0, 0.0), (1.0, 0.0), (0.0, 1.0)))
    along, across = np.meshgrid(place.start + mids, ts, indexing="ij")
    # Along the row: that of a valley truss begins within it.
    off = place.start - roof.row.start if place.edge < 0 else 0.0
    places = np.stack(
        [x0 + (sx - x0) * along + (tx - x0) * across, y0 + (sy - y0) * along + (ty - y0) * across], axis=-1
    )
    lies = [_lies(roof, place, float(x) + off) for x in mids]
    less = np.array([at.laid - at.balanced for at in lies])
    mores = np.maximum(beside(roof.snow.bands, places) - less[:, None], 0.0).mean(axis=1)
    return tuple(
        Band(*(round(float(v), 6) for v in band)) for band in zip(xs[:-1], xs[1:], mores, strict=True) if band[2] > 1e-6
    )


def _uneven(roof: OnRoof, place: TrussPlace) -> tuple[Uneven, ...]:
    """Return snow blown over the ridge, as it differs from the even snow that is laid (``PlaneSnow.laid``)."""
    return (*_blown(roof, place), *_iced(roof))


def _iced(roof: OnRoof) -> tuple[Uneven, ...]:
    """Return ice on overhangs, with no snow elsewhere (ASCE 7-16, 7.4.5); nothing where none is looked at, or nothing overhangs."""
    plan, row, ice = roof.plan, roof.row, roof.standard.ice_at_eaves(roof.loads)
    low, high = (
        over if plan.edges[k].kind == "eave" else 0.0 for k, over in zip(row.eaves, overs(plan, row), strict=True)
    )
    if ice <= 0.0 or max(low, high) <= 0.0:
        return ()
    laid = [roof.snow.planes[k].laid for k in roof.eaves]
    ridge = min(roof.ridge, row.wide)
    bands = [Band(-low, ridge, -laid[0]), Band(ridge, row.wide + high, -laid[1])]
    bands += [Band(-low, 0.0, ice)] if low > 0.0 else []
    bands += [Band(row.wide, row.wide + high, ice)] if high > 0.0 and not is_single(plan) else []
    return (_ice(bands),)


def _iced_hung(roof: OnRoof, one: HungTruss, planes: Sequence[Plane]) -> tuple[Uneven, ...]:
    """Return ice on the overhang of a jack or corner girder, with no snow elsewhere; nothing where another part of the roof covers its foot."""
    ice, covered = roof.standard.ice_at_eaves(roof.loads), one.bare > 0.0 and not one.parts
    if ice <= 0.0 or one.over <= 0.0 or covered:
        return ()
    laid = sum(plane.q.snow for plane in planes) if planes else roof.of(one.place.edge).snow
    return (_ice([Band(-one.over, one.long, -laid), Band(-one.over, 0.0, ice)]),)


def _ice(bands: Sequence[Band]) -> Uneven:
    return Uneven("ice at the eaves", tuple(b for b in bands if b.high > b.low), clause="ASCE 7-16, 7.4.5")


def _blown(roof: OnRoof, place: TrussPlace) -> tuple[Uneven, ...]:
    """Return snow blown over the ridge and onto hip ends."""
    plan, row, snow, loads, ridge = roof.plan, roof.row, roof.snow, roof.loads, roof.ridge
    if loads.snow_by == "ground" or loads.ground_snow <= 0.0 or is_single(plan):
        return ()
    over, pitches = overs(plan, row), [plan.edges[k].pitch for k in row.eaves]
    runs = ridge + over[0], row.wide - ridge + over[1]
    planes = [snow.planes[k] for k in row.eaves]
    found = []
    for lee in (1, 0):
        heap = roof.standard.unbalanced(loads.ground_snow, pitches[lee], runs[1 - lee])
        if heap is None:
            continue
        part, more, reach = heap
        changes = [planes[lee].balanced - planes[lee].laid] * 2
        changes[1 - lee] = part * planes[1 - lee].balanced - planes[1 - lee].laid
        found.append(blown(-over[0], ridge, row.wide + over[1], lee == 1, (changes[0], changes[1]), more, reach))
    return (*found, *(_onto_end(roof, place) if place.make in ("flat", "girder") else ()))


def _onto_end(roof: OnRoof, place: TrussPlace) -> tuple[Uneven, ...]:
    """Return snow that the wind has blown along the ridge onto a hip end, as it lies on a truss there."""
    row, (low, hips) = roof.row, _hip_line(roof, place)
    hip, wide = max(hips, key=lambda found: found[1])
    lies = roof.snow.planes[hip.edge]
    if not lies.band:
        return ()
    ends = sorted(row.inward(hip, t) for t in place.roof)
    part = min(max(ends[1] - lies.begins, 0.0) / (ends[1] - ends[0]), 1.0)
    more = lies.even - lies.laid + lies.band * part
    return (Uneven("snow blown onto the end", (Band(round(low, 6), round(low + wide, 6), round(more, 9)),)),)


def _over_plane(roof: OnRoof, edge: int, low: float, high: float) -> tuple[Uneven, ...]:
    """Return snow that the wind has blown over the top onto a plane, for what runs up it from its eave; from where to where, mm."""
    lies = roof.snow.planes[edge]
    if roof.loads.snow_by == "ground" or roof.loads.ground_snow <= 0.0 or not lies.band:
        return ()
    bands = [Band(low, high, round(lies.even - lies.laid, 9))]
    if lies.begins < high:
        bands.append(Band(lies.begins, high, round(lies.band, 9)))
    return (Uneven("snow blown onto its plane", tuple(bands)),)
