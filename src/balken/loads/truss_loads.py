"""What lies on a roof truss: area loads over its strip, laid along the elements of its chords."""

import math
from collections.abc import Sequence
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from balken.analysis.frames import Loaded
from balken.catalog.beams import beam_section
from balken.framing.truss_outline import slope_on
from balken.framing.trusses import Element, TrussFrame
from balken.loads.cases import COUNT, Cases
from balken.units.system import POUND_FORCE
from balken.value import Value

Array = NDArray[np.float64]


DEAD, SNOW, WIND = (Cases._fields.index(name) for name in ("dead", "snow", "wind"))
MAN = 300.0 * POUND_FORCE
"""Someone who stands on a chord with what he carries, N (ASCE 7-16, Table 4.3-1, other primary members of roofs: from memory)."""


class Band(Value, frozen=True):
    """Snow beside the even: from where to where along a truss, mm, and how much on its plan, kN/m2 (with its sign)."""

    low: float
    high: float
    more: float


class Uneven(Value, frozen=True):
    """An arrangement of snow, or of roof live load (``case``), of its own: how it is called, and what of the even load is missing or added, by
    bands; the clause it rests on.
    """

    name: str
    bands: tuple[Band, ...]
    case: Literal["snow", "roof_live"] = "snow"
    clause: str = "ASCE 7-16, 7.6.1"

    @property
    def column(self) -> int:
        """The number of the case whose place it takes."""
        return Cases._fields.index(self.case)


def blown(
    low: float, ridge: float, high: float, to_right: bool, changes: tuple[float, float], more: float, reach: float
) -> Uneven:
    """Return snow blown over a ridge (ASCE 7-16, 7.6.1): ``changes`` of the even snow left and right of it, and ``more`` beside it on the
    lee side, ``reach`` far; kN/m2, mm.
    """
    heap = Band(ridge, ridge + reach, more) if to_right else Band(ridge - reach, ridge, more)
    name = f"snow blown to the {'right' if to_right else 'left'}"
    return Uneven(name, (Band(low, ridge, changes[0]), Band(ridge, high, changes[1]), heap))


class Plane(Value, frozen=True):
    """A plane of the roof over a truss: from where to where along it, mm, what lies on it (dead load on the slope), how many times as
    long as its plan it is.
    """

    low: float
    high: float
    q: Cases
    slope: float


class Hung(Value, frozen=True):
    """What hangs on the bottom chord of a truss, or rests on its top chord: where along it, mm, what it brings by case, N."""

    x: float
    force: Cases
    holds: bool = True
    """Whether it holds the bottom chord aside, as other trusses do and weights do not."""


class TrussLoads(Value, frozen=True):
    """Area loads on a truss, kN/m2: the top chord's dead load on the slope, all else on the plan; ``wind`` at strength level, up where
    below zero; the bottom chord's dead load on its slope; ``own``: whether its own weight is counted beside those.
    """

    spacing: float
    top: Cases
    bottom: Cases
    uneven: tuple[Uneven, ...] = ()
    over_wind: float = 0.0
    """Wind on overhangs, kN/m2 of plan."""
    planes: tuple[Plane, ...] = ()
    """On the top chord, where planes of a roof lie over it that are not alike; ``top`` is then that of the first of them."""
    lying: tuple[Band, ...] = ()
    """Snow beside the even that always lies there: drifts, what slid down."""
    below: float = 1.0
    """How wide the strip of ceiling is beside that of the roof."""
    own: bool = False
    hung: tuple[Hung, ...] = ()
    """Other trusses that hang on it, and weights."""
    rested: tuple[Hung, ...] = ()
    """What rests on its top chord: trusses of a roof over it."""
    man: float = 0.0
    """What someone who stands on a chord weighs, N (0: nobody does)."""


def laid_on(frame: TrussFrame, loads: TrussLoads) -> Loaded:
    """Return loads on a truss by case (columns: load cases, each uneven arrangement of snow, each place where someone stands), for the
    solver.
    """
    stood = frame.walked if loads.man > 0.0 else ()
    columns = COUNT + len(loads.uneven) + len(stood)
    along = np.zeros((len(frame.elements), 2, columns))
    nodes = np.zeros((len(frame.joints), 2, columns))
    for top in (True, False):
        some = [k for k, one in enumerate(frame.elements) if one.lies is not None and (one.stick[0] == "T") == top]
        elements = [frame.elements[k] for k in some]
        longs = np.array([frame.length(one) for one in elements])
        along[some, 1, : COUNT + len(loads.uneven)] = -_on(frame, elements, top, loads) / longs[:, None]
    if loads.own:
        roles = {stick.name: stick.role for stick in frame.sticks}
        own = [beam_section(frame.sizes.of(roles[one.stick])).own_line for one in frame.elements]
        along[:, 1, 0] -= np.array(own) * frame.sizes.plies
    at = [(frame.hung_at(one.x), one.force) for one in loads.hung]
    at += [(frame.rested_at(one.x), one.force) for one in loads.rested]
    for name, force in at:
        # Uneven loads leave what hangs or rests on it as under even ones.
        more = (*(force[u.column] for u in loads.uneven), *([0.0] * len(stood)))
        nodes[list(frame.joints).index(name), 1, :] -= (*force, *more)
    for k, (name, _) in enumerate(stood):
        nodes[list(frame.joints).index(name), 1, COUNT + len(loads.uneven) + k] -= loads.man
    return Loaded(nodes[None], along[None])


def _on(frame: TrussFrame, elements: list[Element], top: bool, loads: TrussLoads) -> Array:
    """Return all that lies on elements of a chord, N downward (elements, columns)."""
    stretches = np.array([one.lies for one in elements], dtype=float).reshape(-1, 2)
    low, high = stretches[:, 0], stretches[:, 1]
    wide = np.maximum(high - low, 1e-9)

    def under(bands: Sequence[Band | Plane]) -> Array:
        """How far each stretch lies under each of some bands, mm (elements, bands)."""
        ends = np.array([(b.low, b.high) for b in bands])
        found: Array = np.maximum(np.minimum(high[:, None], ends[:, 1]) - np.maximum(low[:, None], ends[:, 0]), 0.0)
        return found

    if top and loads.planes:
        each = np.array([p.q._replace(dead=p.q.dead * p.slope) for p in loads.planes])
        even = (under(loads.planes) / wide[:, None]) @ each
    else:
        line = frame.outline.top if top else frame.outline.bottom
        q = loads.top if top else loads.bottom.scaled(loads.below)
        even = np.tile(np.array(q), (len(elements), 1))
        even[:, DEAD] *= [math.hypot(1.0, slope_on(line, x)) for x in (low + high) / 2.0]
    if top and loads.lying:
        even[:, SNOW] += under(loads.lying) @ [b.more for b in loads.lying] / wide
    if top and loads.over_wind:
        first, last = frame.outline.bearings[0], frame.outline.bearings[-1]
        past = np.maximum(first.low - low, 0.0) + np.maximum(high - last.high, 0.0)
        part = np.minimum(past / wide, 1.0)
        wind = even[:, WIND]
        even[:, WIND] = np.where(wind != 0.0, wind * (1.0 - part) + loads.over_wind * part, wind)
    even *= (high - low)[:, None] * loads.spacing / 1000.0
    rows = [even]
    for uneven in loads.uneven:
        lies = even[:, uneven.column]
        if top and uneven.bands:
            lies = lies + under(uneven.bands) @ [b.more for b in uneven.bands] * loads.spacing / 1000.0
        rows.append(lies[:, None])
    return np.concatenate(rows, axis=1)
