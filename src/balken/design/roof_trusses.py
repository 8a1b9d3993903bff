"""The trusses of a roof: laid, loaded with roof, ceiling, snow as it lies and wind, designed as one make for the one that carries most;
what they bring to the walls.

All common trusses are built alike; frames over gable walls are designed for their own strip.
"""

import itertools
from dataclasses import dataclass, replace
from functools import lru_cache

import numpy as np
import shapely
from msgspec.structs import replace as replace_struct

from balken.catalog.sections import section
from balken.design.layouts import spacings
from balken.design.truss_demands import EVEN
from balken.design.truss_job import TrussJob, Wood
from balken.design.truss_plates import Plate, plates_of
from balken.design.truss_roof_loads import STRETCHES, loads_on
from balken.design.truss_stacks import used_in_stack
from balken.design.trusses import CHORD_SIZES, TrussDesign, design_truss, solve
from balken.framing.surface_roofs import SurfacePlan
from balken.framing.truss_heels import heel_of
from balken.framing.truss_layout import BOARD, TrussPlace, TrussRow, outline_of, slopes_of, truss_row, why_not
from balken.framing.truss_outline import TrussError, TrussOutline, moved
from balken.loads.area_loads import Reaction
from balken.loads.cases import Cases, total
from balken.loads.roof_snow import RoofSnow
from balken.loads.roof_wind import RoofWind
from balken.loads.truss_loads import TrussLoads
from balken.model.kinds.trusses import Trusses
from balken.model.naming import piece_name
from balken.model.records import Loads
from balken.standards.checks import Check
from balken.standards.standard import Standard
from balken.units import Units
from balken.units.system import INCH
from balken.value import Value

STORAGE = (42.0 * INCH, 24.0 * INCH)
"""A box so high and wide makes an attic a store (IRC Table R301.5, note b)."""
STEP = 0.5 * INCH
"""Steps in which it is moved along a truss."""
AIR = 0.1
"""It stands so far over the chord, mm: it does not lie in it."""


NOTHING = Cases()


class GableStud(Value, frozen=True):
    """A stud of a gable frame under wind: its clear length, mm, whether a board nailed square to its edge stiffens it, its check."""

    name: str
    clear: float
    braced: bool
    check: Check


@dataclass(frozen=True, eq=False)
class TrussRoof:
    """Trusses under a roof: ``common`` and ``gable``: as designed (None: there is none such); ``plates`` of each; ``problem``: why there
    are none, and then the roof stays framed with rafters.

    ``reactions``: on walls; ``heaps``: what of them lies in drifts and slides beside even snow, N; ``stores``: whether a box that makes the
    attic a store fits between webs.
    """

    row: TrussRow | None
    common: TrussDesign | None = None
    gable: TrussDesign | None = None
    plates: tuple[tuple[Plate, ...], tuple[Plate, ...]] = ((), ())
    reactions: tuple[Reaction, ...] = ()
    heaps: Cases = NOTHING
    stores: bool = False
    studs: tuple[GableStud, ...] = ()
    problem: str = ""

    def of(self, place: TrussPlace) -> TrussDesign | None:
        """Return what stands at a place."""
        return self.gable if place.gable else self.common

    @property
    def designs(self) -> tuple[tuple[str, TrussDesign, tuple[Plate, ...]], ...]:
        """Its makes: what they are called, as designed, their plates."""
        rows = (("Trusses", self.common, self.plates[0]), ("Gable frames", self.gable, self.plates[1]))
        return tuple((name, made, plates) for name, made, plates in rows if made is not None)

    @property
    def used(self) -> float:
        """How far the worst of them is used, plates too."""
        return max((max([made.used, *(p.used for p in plates)]) for _, made, plates in self.designs), default=0.0)


def lay_trusses(
    plan: SurfacePlan,
    snow: RoofSnow,
    wind: RoofWind | None,
    loads: Loads,
    pressure: float,
    stock: float,
    units: Units,
    standard: Standard,
) -> tuple[SurfacePlan, TrussRoof]:
    """Design the trusses of a roof; ``pressure``: of wind on gables at strength level, kN/m2, ``stock``: the longest board, mm; where they
    cannot be, the plan comes back as it is, and ``problem`` says why.  Where no spacing is typed: the widest usual one at which they work.
    """
    problem, typed = why_not(plan), plan.roof.trusses.spacing
    if problem:
        return plan, TrussRoof(None, problem=problem)
    best: tuple[SurfacePlan, TrussRoof] | None = None
    for spacing in spacings(units) if typed is None else (typed,):
        spaced = replace_struct(plan.roof.trusses, spacing=spacing)
        tried = replace(plan, roof=replace_struct(plan.roof, trusses=spaced))
        made = _laid(tried, spacing, snow, wind, loads, pressure, stock, standard)
        if made[1].problem:
            return plan, made[1]
        if best is None or made[1].used < best[1].used:
            best = made
        if made[1].used <= 1.0 + EVEN:
            return made
    assert best is not None
    return best


def _laid(
    plan: SurfacePlan,
    spacing: float,
    snow: RoofSnow,
    wind: RoofWind | None,
    loads: Loads,
    pressure: float,
    stock: float,
    standard: Standard,
) -> tuple[SurfacePlan, TrussRoof]:
    """Design the trusses of a roof at a spacing."""
    trusses = plan.roof.trusses
    plan = replace(plan, trussed=True)
    row = truss_row(plan, spacing, BOARD * trusses.plies)
    on = [loads_on(plan, row, place, snow, wind, loads, standard) for place in row.places]
    pairs = list(zip(row.places, on, strict=True))
    commons, gables = ([pair for pair in pairs if bool(pair[0].gable) == end] for end in (False, True))
    try:
        common = _common(plan, row, trusses, commons, stock, standard)
        if common is not None and trusses.heel is None and trusses.top is None:
            # Deeper top chords lie higher over the plates, and so does the roof.
            trusses = replace_struct(trusses, top=common.frame.sizes.top)
            plan = replace(plan, roof=replace_struct(plan.roof, trusses=trusses))
        level = replace_struct(trusses, bottom_pitch=0.0)  # frames stand on the level plates of their walls
        gable = _designed(plan, row, level, gables, "gable-end", stock, standard) if gables else None
    except TrussError as error:
        return replace(plan, trussed=False), TrussRoof(None, problem=str(error))
    plates = tuple(_known_plates(one, standard) if one is not None else () for one in (common, gable))
    made = TrussRoof(row, common, gable, (plates[0], plates[1]))
    reactions, heaps = _reactions(plan, made, pairs)
    stores = common is not None and stores_things(common)
    studs = _studs(gable, pressure, standard) if gable is not None else ()
    return plan, replace(made, reactions=reactions, heaps=heaps, stores=stores, studs=studs)


def _studs(gable: TrussDesign, pressure: float, standard: Standard) -> tuple[GableStud, ...]:
    """Check the studs of a gable frame under wind; those that do not work by themselves are stiffened."""
    frame, wood, found = gable.frame, gable.job.wood, list[GableStud]()
    webs = [stick for stick in frame.sticks if stick.role == "web"]
    at = {stick.name: frame.joints[stick.joints[0]][0] for stick in webs}
    places = sorted(at.values())
    spacing = max((b - a for a, b in itertools.pairwise(places)), default=24.0 * INCH)
    for stick in webs:
        size, clear = frame.sizes.webs, gable.sawn[stick.name].length
        for braced in (False, True):
            check = standard.check_gable_stud(size, wood.species, wood.grade, clear, spacing, pressure, braced)
            if check.used <= 1.0:
                break
        found.append(GableStud(stick.name, clear, braced, check))
    return tuple(found)


def _common(
    plan: SurfacePlan,
    row: TrussRow,
    trusses: Trusses,
    pairs: list[tuple[TrussPlace, TrussLoads]],
    stock: float,
    standard: Standard,
) -> TrussDesign | None:
    """Design common trusses; where neither heel nor top chord is typed, the heel follows the top chord, from 2x4 up."""
    if trusses.heel is not None or trusses.top is not None:
        return _designed(plan, row, trusses, pairs, trusses.pattern, stock, standard)
    best, problem = None, None
    for top in CHORD_SIZES:
        try:
            made = _designed(plan, row, replace_struct(trusses, top=top), pairs, trusses.pattern, stock, standard)
        except TrussError as error:
            problem = problem or error
            continue
        if made is None or made.used <= 1.0 + EVEN:
            return made
        best = made if best is None or made.used < best.used else best
    if best is None and problem is not None:
        raise problem
    return best


def _designed(
    plan: SurfacePlan,
    row: TrussRow,
    trusses: Trusses,
    pairs: list[tuple[TrussPlace, TrussLoads]],
    pattern: str,
    stock: float,
    standard: Standard,
) -> TrussDesign | None:
    """Design one make for the one of its places that carries most."""
    if not pairs:
        return None
    heel = heel_of(trusses, max(slopes_of(plan, row)))

    around = outline_of(plan, row, heel, trusses)
    # First for the one that carries most in all; then every place is looked at, and the worst is designed for where that is another.
    loads = [on for _, on in pairs]
    most = max(loads, key=lambda on: on.spacing * (_weight(on) + sum(b.more for b in on.lying) / STRETCHES))
    for _ in range(3):
        job = TrussJob(
            pattern, most, Wood(trusses.species, trusses.grade), trusses.top or "", trusses.bottom or "", trusses.webs or "",
            1 if pattern == "gable-end" else trusses.plies, stock=stock,
        )  # fmt: skip
        made = _known(job, around, standard)
        used = used_in_stack(made, [made.frame] * len(loads), loads, standard)
        worst = int(used.argmax())
        if used[worst] <= max(1.0, float(made.uses.worst()[0].max())) + EVEN or loads[worst] is most:
            break
        most = loads[worst]
    return made


@lru_cache(maxsize=48)
def _known(job: TrussJob, around: TrussOutline, standard: Standard) -> TrussDesign:
    """Design a truss, once for all that are the same: a roof that only moves, or a wall that moves beside it, changes none."""
    return design_truss(job, lambda sizes: around, standard)


@lru_cache(maxsize=48)
def _known_plates(made: TrussDesign, standard: Standard) -> tuple[Plate, ...]:
    return plates_of(made, standard)


def _weight(on: TrussLoads) -> float:
    return on.top.all + on.bottom.all


def _reactions(
    plan: SurfacePlan, made: TrussRoof, pairs: list[tuple[TrussPlace, TrussLoads]]
) -> tuple[tuple[Reaction, ...], Cases]:
    """Return what trusses bring to walls, each under all that lies on its own strip; and what of it are drifts."""
    assert made.row is not None
    found: list[Reaction] = []
    heaps: list[Cases] = []
    for number, (place, on) in enumerate(pairs):
        design = made.of(place)
        if design is None:
            continue
        # Uneven snow and wind come and go: walls take even snow and drifts; what wind lifts is followed by itself.
        bare = replace_struct(
            on,
            uneven=(),
            top=on.top._replace(wind=0.0),
            right=on.right._replace(wind=0.0) if on.right is not None else None,
        )
        key = piece_name(plan.roof.id, "truss", number)
        for x, force in _bearing_forces(design, bare):
            wall = place.gable or (made.row.walls[0] if x < made.row.wide / 2.0 else made.row.walls[1])
            found.append(Reaction(key, wall, _on_wall(plan, made.row, place, x), force))
        slope = (1.0 + plan.roof.trusses.bottom_pitch**2) ** 0.5
        ceiling = (place.ceiling[1] - place.ceiling[0]) * made.row.wide / 1000.0
        sloping = on.bottom.dead * (slope - 1.0) * ceiling if not place.gable else 0.0
        heaps.append(Cases(dead=sloping, snow=sum(b.more * (b.high - b.low) for b in on.lying) * on.spacing / 1000.0))
    return tuple(found), total(heaps)


def _on_wall(plan: SurfacePlan, row: TrussRow, place: TrussPlace, x: float) -> tuple[float, float]:
    """Return where a truss bears, in plan: in the middle of the wall's core."""
    if not place.gable:
        return row.at(x, place)
    k = plan.outline.walls.index(place.gable)
    inner = min(abs(place.t - row.places[0].t), abs(place.t - row.places[-1].t)) < 1.0
    sign = 1.0 if abs(place.t - row.places[0].t) < 1.0 else -1.0
    edge = place.ceiling[0] if sign > 0.0 else place.ceiling[1]
    t = edge + sign * plan.deep[k] if inner else place.t
    return row.frame.back(row.start + min(max(x, 0.0), row.wide), t)


def _bearing_forces(design: TrussDesign, on: TrussLoads) -> list[tuple[float, Cases]]:
    """Return what comes to each bearing of a truss (x, N by case): as it is solved for this load."""
    _, solved = solve(design.frame, on, design.e)
    names = list(design.frame.joints)
    return [
        (
            design.frame.joints[name][0],
            Cases(*(float(v) for v in solved.reactions[0, names.index(name), 1, : len(Cases._fields)])),
        )
        for name in design.frame.held
    ]


def stores_things(design: TrussDesign) -> bool:
    """Whether a box 42 in high and 24 in wide stands somewhere on the bottom chord, clear of all webs (IRC Table R301.5, note b)."""
    sticks = shapely.union_all([shapely.Polygon(one.ring) for one in design.sawn.values()])
    outline, high, wide = design.frame.outline, *STORAGE
    upper = moved(outline.bottom, section(design.frame.sizes.bottom).depth)
    inside = shapely.Polygon([*outline.top, *reversed(outline.bottom)])
    # It stands level, where the chord's upper edge is highest under it.
    x = np.arange(outline.start, outline.end - wide, STEP)
    xs, ys = (np.array(row) for row in zip(*upper, strict=True))
    low = np.maximum(np.interp(x, xs, ys), np.interp(x + wide, xs, ys))
    for bend, height in upper[1:-1]:
        low = np.where((x < bend) & (bend < x + wide), np.maximum(low, height), low)
    boxes = shapely.box(x, low + AIR, x + wide, low + AIR + high)
    shapely.prepare((inside, sticks))
    return bool((shapely.covers(inside, boxes) & ~shapely.intersects(sticks, boxes)).any())
