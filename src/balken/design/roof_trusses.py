"""The trusses of a roof: at which spacing, with which top chords and how many plies of hip girders they work; plates, studs of gable
frames, attics that can store things.
"""

import itertools
from collections.abc import Callable, Sequence
from functools import cached_property, lru_cache

import numpy as np
import shapely
from msgspec.structs import replace

from balken.catalog.sections import section
from balken.design.built_trusses import BuiltTrusses, HangingTruss, TooWeak
from balken.design.frame_lookouts import LoweredFrame
from balken.design.layouts import spacings
from balken.design.lookouts import GableLookouts
from balken.design.raftered_ends import FramedEnds, OnTruss
from balken.design.surface_design import SurfaceDesign
from balken.design.truss_building import KnownLoads, build_trusses
from balken.design.truss_demands import EVEN
from balken.design.truss_groups import CHORD_SIZES
from balken.design.truss_makes import VALLEY_CHORD
from balken.design.truss_plated import plated
from balken.design.truss_plates import Plate
from balken.design.trusses import TrussDesign
from balken.framing.hand_edits import Edited
from balken.framing.raftered_ends import TRUSS
from balken.framing.surface_roofs import SurfacePlan
from balken.framing.truss_braces import Standing, chord_stretches, web_stretches
from balken.framing.truss_inside import InsideWall
from balken.framing.truss_layout import TrussPlace, TrussRow
from balken.framing.truss_outline import TrussError, moved
from balken.framing.truss_parts import Part, parts_of, run_under
from balken.framing.truss_parts import tried as parts_tried
from balken.geometry.plane import Point
from balken.loads.area_loads import Reaction
from balken.loads.cases import Cases, total
from balken.loads.roof_feet import Foot
from balken.loads.roof_snow import RoofSnow
from balken.loads.roof_wind import RoofWind
from balken.loads.typed import Weight
from balken.model.kinds.trusses import Trusses
from balken.model.naming import piece_name
from balken.model.records import Loads, MemberEdit
from balken.standards.checks import Check
from balken.standards.standard import Standard
from balken.units import Units
from balken.units.system import INCH
from balken.value import Lazy, Value

STORAGE = (42.0 * INCH, 24.0 * INCH)
"""A box so high and wide makes an attic a store (IRC Table R301.5, note b)."""
STEP = 0.5 * INCH
"""Steps in which it is moved along a truss."""
GIRDER_PLIES = (2, 3, 4)
"""Tried of hip girders where nothing is typed."""
AIR = 0.1
"""It stands so far over the chord, mm: it does not lie in it."""


NOTHING = Cases()
NO_LOOKOUTS = GableLookouts()
AS_LAID: Edited[None] = Edited(None, {}, frozenset(), ())


class GableStud(Value, frozen=True):
    """A stud of a gable frame under wind: its clear length, mm, whether a board nailed square to its edge stiffens it, its check."""

    name: str
    clear: float
    braced: bool
    check: Check


class TrussMake(Value, frozen=True, eq=False):
    """Trusses alike: as what they are known (``common``, ``gable``, ``girder``, ...), what they are called, as designed, plates; which of a
    roof's trusses they are, by number.
    """

    key: str
    name: str
    design: TrussDesign
    plates: tuple[Plate, ...]
    numbers: tuple[int, ...]
    by_hand: bool = False
    """Whether it is made as the layout does not have it."""
    studs: tuple[GableStud, ...] = ()
    """Of frames over gables."""


class TrussRoof(Lazy, frozen=True, eq=False):
    """Trusses under a roof: ``rows``: of each of its parts those square to the eaves, first among ``places``; their makes; ``problem``: why
    there are none, and then the roof stays framed with rafters.

    ``sides``: of each row, which sides of the roof's outline lie along its part's own; ``reactions``: on walls; ``heaps``: what of them lies in drifts and slides beside even snow, ``weights``: what was hung in it, N; ``hung``: what hangs on others;
    ``stores``: whether a box that makes the attic a store fits between webs.
    """

    roof: str = ""
    rows: tuple[TrussRow, ...] = ()
    makes: tuple[TrussMake, ...] = ()
    places: tuple[TrussPlace, ...] = ()
    reactions: tuple[Reaction, ...] = ()
    heaps: Cases = NOTHING
    weights: Cases = NOTHING
    stores: bool = False
    problem: str = ""
    hung: tuple[HangingTruss, ...] = ()
    sides: tuple[tuple[tuple[int, ...], ...], ...] = ()
    onto: tuple[Foot, ...] = ()
    """What its valley trusses bring down on another roof."""
    edited: Edited[None] = AS_LAID
    refused: tuple[tuple[int, str], ...] = ()
    """Trusses changed by hand that cannot be so, by their numbers, and why."""
    lookouts: GableLookouts = NO_LOOKOUTS
    low: tuple[LoweredFrame, ...] = ()
    """Frames over gables that are set lower for lookouts."""

    @property
    def row(self) -> TrussRow | None:
        """Those of its main part."""
        return self.rows[0] if self.rows else None

    def common_over(self, edge: int) -> TrussDesign | None:
        """Return the trusses with a peak under the plane of a side of the outline; None where none are."""
        for k, (row, sides) in enumerate(zip(self.rows, self.sides, strict=True)):
            if any(edge in sides[eave] for eave in row.eaves):
                return next((made for _, made in self.across(k, "common")), None)
        return None

    @property
    def studs(self) -> tuple[GableStud, ...]:
        """The studs of all its frames over gables."""
        return tuple(stud for make in self.makes for stud in make.studs)

    def numbers(self, row: int) -> range:
        """Return the numbers of a row's trusses."""
        first = sum(len(r.places) for r in self.rows[:row])
        return range(first, first + len(self.rows[row].places))

    @property
    def eaves(self) -> frozenset[int]:
        """The sides of the outline between which they span."""
        return frozenset(
            e for row, sides in zip(self.rows, self.sides, strict=True) for k in row.eaves for e in sides[k]
        )

    @property
    def hips(self) -> frozenset[int]:
        """The sides of the outline at hip ends."""
        return frozenset(
            e for row, sides in zip(self.rows, self.sides, strict=True) for hip in row.hips for e in sides[hip.edge]
        )

    @cached_property
    def made_at(self) -> dict[int, TrussMake]:
        """The make of each truss by its number."""
        return {number: make for make in self.makes for number in make.numbers}

    def of(self, number: int) -> TrussDesign | None:
        """Return what stands at a place."""
        make = self.made_at.get(number)
        return make.design if make is not None else None

    def _first(self, key: str) -> TrussDesign | None:
        return next((make.design for make in self.makes if make.key == key), None)

    def across(self, row: int, *keys: str) -> list[tuple[float, TrussDesign]]:
        """Return trusses of a row that are of some makes: where along the eaves they stand, as designed; in their order."""
        own = self.numbers(row)
        rows = [
            (self.places[n].t, make.design) for make in self.makes if make.key in keys for n in make.numbers if n in own
        ]
        return sorted(rows, key=lambda row: row[0])

    @cached_property
    def on_studs(self) -> frozenset[str]:
        """The names, as in ``reactions``, of girders and of others of more plies than most: posts of studs stand under their ends."""
        plies = self.common.frame.sizes.plies if self.common is not None else 1
        heavy = (m for m in self.makes if m.key in ("girder", "carrier") or m.design.frame.sizes.plies > plies)
        return frozenset(piece_name(self.roof, "truss", number) for make in heavy for number in make.numbers)

    def standing(self, row: int, key: str) -> list[Standing]:
        """Return the trusses of a row that are of a kind, as what holds them aside meets them, in their order."""
        found = []
        for number in self.numbers(row):
            make = self.made_at.get(number)
            if make is not None and make.key == key:
                d = make.design
                blocked = tuple(p.ring for p in make.plates) if d.job.joined == "gussets" else ()
                found.append(Standing(number, self.places[number].t, d.frame, d.sawn, d.braced, d.braces, blocked))
        return sorted(found, key=lambda one: one.t)

    @cached_property
    def unheld(self) -> frozenset[int]:
        """Trusses whose bottom chords boards across are to hold aside and do not: those alone of their depth, and those side by side from which
        none of these boards reaches an end of the row.
        """
        found: set[int] = set()
        for k in range(len(self.rows)):
            stretches = chord_stretches(self.standing(k, "common"), self.standing(k, "flat"))
            every = [one.t for key in ("common", "flat") for one in self.standing(k, key)]
            for run, braces in stretches:
                ends = {run[0].t, run[-1].t} & {min(every), max(every)}
                if braces and (len(run) == 1 or not ends):
                    found |= {one.number for one in run}
        return frozenset(found)

    @cached_property
    def lone(self) -> frozenset[int]:
        """Trusses whose webs are to be held aside beside which none stands with such webs."""
        rows = (web_stretches(self.standing(k, "common")) for k in range(len(self.rows)))
        alone = {s.trusses[0].number for some in rows for s in some if len(s.trusses) == 1 and s.braces}
        return frozenset(alone | {n for m in self.makes if m.key not in ("common", "gable") for n in m.numbers})

    @property
    def common(self) -> TrussDesign | None:
        """Those with a peak."""
        return self._first("common")

    @property
    def gable(self) -> TrussDesign | None:
        """Frames over gables."""
        return self._first("gable")

    @property
    def designs(self) -> tuple[tuple[str, TrussDesign, tuple[Plate, ...]], ...]:
        """Its makes: what they are called, as designed, their plates."""
        return tuple((make.name, make.design, make.plates) for make in self.makes)

    @property
    def used(self) -> float:
        """How far the worst of them is used, plates too; those changed by hand left out."""
        laid = (make for make in self.makes if not make.by_hand)
        return max((max([make.design.used, *(p.used for p in make.plates)]) for make in laid), default=0.0)


def _off(trusses: TrussRoof, number: int, at: Point) -> float:
    """Return how far a place is from a truss in plan, mm."""
    place, design = trusses.places[number], trusses.of(number)
    long = design.frame.outline.span if design is not None else 0.0
    return float(shapely.LineString([place.at(0.0), place.at(long)]).distance(shapely.Point(at)))


def on_carriers(ends: FramedEnds, trusses: TrussRoof) -> SurfaceDesign:
    """Return the rafters of hip ends with what hangs on the trusses there by the names of these."""
    carriers = [n for n, place in enumerate(trusses.places) if place.make == "carrier"]

    def nearest(at: Point) -> str:
        number = min(carriers, key=lambda n: _off(trusses, n, at))
        return piece_name(trusses.roof, "truss", number)

    hung = tuple(replace(one, on=nearest(one.at[:2])) if one.on == TRUSS else one for one in ends.framing.hung)
    return replace(ends.framing, hung=hung)


def lay_trusses(
    plan: SurfacePlan,
    snow: RoofSnow,
    wind: RoofWind | None,
    loads: Loads,
    pressure: float,
    stock: float,
    units: Units,
    standard: Standard,
    feet: tuple[Foot, ...] = (),
    weights: tuple[Weight, ...] = (),
    edits: tuple[MemberEdit, ...] = (),
    inside: tuple[InsideWall, ...] = (),
    at_ends: tuple[OnTruss, ...] = (),
) -> tuple[SurfacePlan, TrussRoof]:
    """Design the trusses of a roof; ``feet``: what stands on it of roofs that run on over it, ``weights``: what hangs in it, ``edits``: single trusses changed by hand,
    ``inside``: walls on which they bear between their ends, ``at_ends``: what hip ends with rafters bring, ``pressure``: of wind on gables at strength level, kN/m2, ``stock``: the longest board, mm; where they
    cannot be, the plan comes back as it is, and ``problem`` says why.  Where no spacing is typed: the widest usual one at which they work.
    """
    (parts, problem), typed = parts_of(plan), plan.roof.trusses.spacing
    if problem:
        return plan, TrussRoof(problem=problem)
    best: tuple[SurfacePlan, TrussRoof] | None = None
    for spacing in spacings(units) if typed is None else (typed,):
        spaced = replace(plan.roof.trusses, spacing=spacing)
        tried = replace(plan, roof=replace(plan.roof, trusses=spaced))
        made = _laid(
            tried, parts, spacing, snow, wind, loads, pressure, stock, standard, feet, weights, edits, inside, at_ends
        )
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
    parts: tuple[Part, ...],
    spacing: float,
    snow: RoofSnow,
    wind: RoofWind | None,
    loads: Loads,
    pressure: float,
    stock: float,
    standard: Standard,
    feet: tuple[Foot, ...],
    weights: tuple[Weight, ...],
    edits: tuple[MemberEdit, ...],
    inside: tuple[InsideWall, ...],
    at_ends: tuple[OnTruss, ...],
) -> tuple[SurfacePlan, TrussRoof]:
    """Design the trusses of a roof at a spacing."""
    plan = replace(plan, trussed=True)
    typed = plan.roof.trusses
    # Where neither heel nor top chord is typed, the heel follows the top chord, from 2x4 up: deeper ones lie higher over the plates, and so does
    # the roof.
    follows = typed.heel is None and typed.top is None
    tops = CHORD_SIZES if follows else (typed.top,)
    girders = GIRDER_PLIES if typed.girder_plies is None else (typed.girder_plies,)
    known: KnownLoads = {}

    def build(tried: SurfacePlan, plies: int, give_up: bool) -> BuiltTrusses:
        own = parts_tried(parts, tried)
        return build_trusses(
            tried,
            own,
            spacing,
            plies,
            snow,
            wind,
            loads,
            stock,
            standard,
            feet,
            weights,
            edits,
            inside,
            give_up,
            known,
            at_ends,
        )[0]

    best, problem = _best(plan, tops, girders, build)
    if best is None:
        assert problem is not None
        return replace(plan, trussed=False), TrussRoof(problem=str(problem))
    kept = best[0] if follows else replace(plan, roof=replace(plan.roof, trusses=typed))
    fixed = best[0].roof.trusses
    if len(parts) > 1:
        kept = run_under(kept, parts)
    return kept, replace(
        _finished(plan.roof.id, best[1], fixed, pressure, standard), weights=total(w.force for w in weights)
    )


def _best(
    plan: SurfacePlan,
    tops: Sequence[str | None],
    girders: Sequence[int],
    build: Callable[[SurfacePlan, int, bool], BuiltTrusses],
) -> tuple[tuple[SurfacePlan, BuiltTrusses] | None, TrussError | None]:
    """Return the first top chords and plies of girders with which trusses work, with its plan; else those that are used least; or why there
    are none.
    """
    problem: TrussError | None = None
    weak: list[tuple[float, SurfacePlan, int]] = []
    hopeless: set[str | None] = (
        set()
    )  # top chords with which trusses do not work that more plies of girders do not help
    for top, plies in ((top, plies) for top in tops for plies in girders):
        if top in hopeless:
            continue
        tried = replace(plan, roof=replace(plan.roof, trusses=replace(plan.roof.trusses, top=top)))
        try:
            return (tried, build(tried, plies, True)), None
        except TooWeak as found:
            weak.append((found.used, tried, plies))
            if not found.girders:
                hopeless.add(top)
        except TrussError as error:
            problem = problem or error
    # None works: that which is used least, so that what is too weak is told.
    for _, tried, plies in sorted(weak, key=lambda row: (round(row[0], 3), -row[2])):
        try:
            return (tried, build(tried, plies, False)), None
        except TrussError as error:
            problem = problem or error
    return None, problem


def _finished(roof: str, built: BuiltTrusses, fixed: Trusses, pressure: float, standard: Standard) -> TrussRoof:
    """Return the trusses of a roof with their plates, and what else is to be known of them; ``fixed``: as they are asked for."""
    own = built.hand.own.keys() - built.refused.keys()
    rows = []
    for key, name, design, numbers in built.makes:
        top = VALLEY_CHORD if key == "valley" else fixed.top or ""
        truss, plates = plated(design, (top, fixed.bottom or "", fixed.webs or ""), standard)
        studs = _studs(truss, pressure, standard) if key == "gable" else ()
        rows.append(TrussMake(key, name, truss, plates, numbers, own.issuperset(numbers), studs))
    makes = tuple(rows)
    made = TrussRoof(
        roof,
        built.rows,
        makes,
        built.places,
        built.reactions,
        built.heaps,
        hung=_with_plies(built.hung, makes),
        onto=built.onto,
        sides=built.sides,
        edited=Edited(None, {}, _sticks(roof, makes), built.hand.lost),
        refused=tuple(sorted(built.refused.items())),
        lookouts=built.lookouts,
        low=built.low,
    )
    return replace(made, stores=any(stores_things(make.design) for make in makes if make.key in ("common", "flat")))


def _sticks(roof: str, makes: tuple[TrussMake, ...]) -> frozenset[str]:
    """Return the names of all sticks of trusses changed by hand."""
    return frozenset(
        piece_name(roof, "truss", number, stick.name, ply)
        for make in makes
        if make.by_hand
        for number in make.numbers
        for stick in make.design.frame.sticks
        for ply in range(make.design.frame.sizes.plies)
    )


def _with_plies(hung: tuple[HangingTruss, ...], makes: tuple[TrussMake, ...]) -> tuple[HangingTruss, ...]:
    plies = {number: make.design.frame.sizes.plies for make in makes for number in make.numbers}
    return tuple(replace(one, plies=(plies[one.number], plies[one.on])) for one in hung)


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
            check = standard.check_gable_stud(
                size, wood.species, frame.sizes.grade("web", wood.grade), clear, spacing, pressure, braced
            )
            if check.used <= 1.0:
                break
        found.append(GableStud(stick.name, clear, braced, check))
    return tuple(found)


@lru_cache(maxsize=500)
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
