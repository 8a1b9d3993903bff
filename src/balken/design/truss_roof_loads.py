"""What lies on each truss of a roof: dead and live loads on its strip, snow even, blown over the ridge and in drifts, wind that lifts."""

import numpy as np

from balken.framing.surface_roofs import SurfacePlan
from balken.framing.truss_layout import TrussPlace, TrussRow, is_single, ridge_of, slopes_of
from balken.loads.area_loads import ceiling_cases, roof_cases
from balken.loads.cases import Cases
from balken.loads.roof_snow import PlaneSnow, RoofSnow, beside
from balken.loads.roof_wind import RoofWind
from balken.loads.truss_loads import Band, TrussLoads, Uneven, blown
from balken.model.records import Loads
from balken.standards.standard import Standard

STRETCHES = 12
"""Drifts are laid on so many stretches of each slope."""


def loads_on(
    plan: SurfacePlan,
    row: TrussRow,
    place: TrussPlace,
    snow: RoofSnow,
    wind: RoofWind | None,
    loads: Loads,
    standard: Standard,
) -> TrussLoads:
    """Return what lies on a truss."""
    wide = place.roof[1] - place.roof[0]
    pitches, planes = slopes_of(plan, row), _planes(plan, row, snow)
    tops = [roof_cases(loads, pitch, plane.laid) for pitch, plane in zip(pitches, planes, strict=True)]
    if wind is not None:
        tops = [q._replace(wind=-wind.end) for q in tops]
    # On the slope: what ``roof_cases`` lays on the plan is brought back, for the truss lays dead load on its slope itself.
    slopes = [(1.0 + pitch**2) ** 0.5 for pitch in pitches]
    tops = [q._replace(dead=q.dead / slope) for q, slope in zip(tops, slopes, strict=True)]
    tops = [Cases(*(round(v, 9) for v in q)) for q in tops]
    return TrussLoads(
        round(wide, 6),
        tops[0],
        ceiling_cases(loads),
        _uneven(plan, row, snow, loads, standard),
        -wind.end_over if wind is not None else 0.0,
        right=tops[1],
        lying=_lying(plan, row, place, snow),
        below=round((place.ceiling[1] - place.ceiling[0]) / wide, 9),
    )


def _planes(plan: SurfacePlan, row: TrussRow, snow: RoofSnow) -> tuple[PlaneSnow, PlaneSnow]:
    """Return the snow on the planes over both walls of a row."""
    one, other = row.eaves
    return snow.planes[one], snow.planes[one if is_single(plan) else other]


def _lying(plan: SurfacePlan, row: TrussRow, place: TrussPlace, snow: RoofSnow) -> tuple[Band, ...]:
    """Return drifts and slides on a strip, as far as they are more than even snow laid there already."""
    if not snow.bands:
        return ()
    ridge, planes = ridge_of(plan, row), _planes(plan, row, snow)
    over0, over1 = (plan.overhangs[k] for k in row.eaves)
    xs = np.linspace(-over0, row.wide + over1, 2 * STRETCHES + 1)
    ts = np.linspace(place.roof[0], place.roof[1], 8)
    ts, mids = (ts[:-1] + ts[1:]) / 2.0, (xs[:-1] + xs[1:]) / 2.0
    found = []
    for low, high, x in zip(xs[:-1], xs[1:], mids, strict=True):
        places = np.array([row.frame.back(row.start + x, t) for t in ts])
        lies = planes[0 if x < ridge else 1]
        more = np.maximum(beside(snow.bands, places) - (lies.laid - lies.balanced), 0.0).mean()
        if more > 1e-6:
            found.append(Band(*(round(float(v), 6) for v in (low, high, more))))
    return tuple(found)


def _uneven(plan: SurfacePlan, row: TrussRow, snow: RoofSnow, loads: Loads, standard: Standard) -> tuple[Uneven, ...]:
    """Return snow blown over the ridge, as it differs from the even snow that is laid (``PlaneSnow.laid``)."""
    if loads.snow_by == "ground" or loads.ground_snow <= 0.0 or is_single(plan):
        return ()
    over, pitches = [plan.overhangs[k] for k in row.eaves], [plan.edges[k].pitch for k in row.eaves]
    ridge = ridge_of(plan, row)
    runs = ridge + over[0], row.wide - ridge + over[1]
    planes = [snow.planes[k] for k in row.eaves]
    found = []
    for lee in (1, 0):
        heap = standard.unbalanced(loads.ground_snow, pitches[lee], runs[1 - lee])
        if heap is None:
            continue
        part, more, reach = heap
        changes = [planes[lee].balanced - planes[lee].laid] * 2
        changes[1 - lee] = part * planes[1 - lee].balanced - planes[1 - lee].laid
        found.append(blown(-over[0], ridge, row.wide + over[1], lee == 1, (changes[0], changes[1]), more, reach))
    return tuple(found)
