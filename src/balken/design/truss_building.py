"""The trusses of a roof built from the top down: what hangs first, then what it hangs on; each make designed for the one of its places that
carries most; what all of them bring to the walls.
"""

import itertools
import math

import shapely
from msgspec.structs import replace as replace_struct

from balken.design.built_trusses import BuiltTrusses, HangingTruss
from balken.design.frame_lookouts import LoweredFrame, frame_lookouts, lifted_inside, loads_beside, loads_lowered
from balken.design.lookouts import GableLookouts
from balken.design.raftered_ends import OnTruss
from balken.design.truss_bearings import on_wall
from balken.design.truss_by_hand import by_hand
from balken.design.truss_laying import LaidPart, laid_out
from balken.design.truss_makes import VALLEY_CHORD, Asked, Makes
from balken.design.truss_roof_loads import OnRoof, loads_on, loads_on_hung, loads_on_valley
from balken.framing.frame_lookouts import tail_name
from balken.framing.lookouts import lookout_name
from balken.framing.surface_roofs import SurfacePlan
from balken.framing.truss_heels import butted
from balken.framing.truss_hips import HungTruss, girder_name, hung_outline
from balken.framing.truss_inside import InsideWall
from balken.framing.truss_layout import BOARD, TrussPlace, flat_at, outline_of
from balken.framing.truss_meetings import hangs_on, wall_at
from balken.framing.truss_outline import TrussError
from balken.framing.truss_parts import Part
from balken.framing.truss_valleys import Below, Valley, ValleySet, below_of, crossed, lever, on_other_roof, valley_set
from balken.geometry.plane import Point
from balken.loads.area_loads import Reaction
from balken.loads.cases import Cases, total
from balken.loads.roof_feet import Foot
from balken.loads.roof_snow import RoofSnow
from balken.loads.roof_wind import RoofWind
from balken.loads.truss_loads import Hung, TrussLoads
from balken.loads.typed import Weight
from balken.model.naming import piece_name
from balken.model.records import Loads, MemberEdit
from balken.standards.standard import Standard
from balken.units.system import INCH

FOOT_STEP = 1.0 * INCH
"""Feet of roofs above are taken to stand in steps along a truss."""
NO_HIP: tuple[tuple[float, float], float, tuple[float, float]] = ((0.0, 0.0), 0.0, (0.0, 0.0))


KnownLoads = dict[tuple[int, TrussPlace, tuple[tuple[float, float], float]], TrussLoads]
"""What lies on trusses by their part and places, and by what a girder carries beyond its strip: the same however deep their chords are."""


def build_trusses(
    plan: SurfacePlan,
    parts: tuple[Part, ...],
    spacing: float,
    girder_plies: int,
    snow: RoofSnow,
    wind: RoofWind | None,
    loads: Loads,
    stock: float,
    standard: Standard,
    feet: tuple[Foot, ...] = (),
    weights: tuple[Weight, ...] = (),
    edits: tuple[MemberEdit, ...] = (),
    inside: tuple[InsideWall, ...] = (),
    give_up: bool = False,
    known: KnownLoads | None = None,
    at_ends: tuple[OnTruss, ...] = (),
) -> tuple[BuiltTrusses, float]:
    """Design all trusses of a roof of one or more ``parts``; return them and how far the worst is used, gable frames aside.  Girders under
    hips have a ply less than those they hang on, two at most.

    ``feet``: what stands on it of roofs that run on over it; ``weights``: what hangs in it; ``edits``: single trusses changed by hand; ``inside``:
    walls on which they bear between their ends; ``at_ends``: what hip ends with rafters bring to the trusses there.

    Raises TrussError; with ``give_up`` TooWeak at the first make that does not work.
    """
    trusses, corner_plies = plan.roof.trusses, max(min(girder_plies - 1, 2), 1)
    laid = laid_out(plan, parts, spacing, girder_plies, corner_plies, inside)
    own_plies = {"girder": girder_plies, "carrier": girder_plies, "corner": corner_plies}
    low, why = frame_lookouts(plan, laid, loads, snow, standard)

    def build(low: dict[int, LoweredFrame]) -> BuiltTrusses:
        built = _Build([place for part in laid for place in part.row.places], own_plies, stock, give_up, low, plan)
        for part in laid:
            roof = OnRoof(part.part.plan, part.row, _snow_on(part.part, snow), wind, loads, standard)
            built.works.append(_Work(built, part, roof, trusses.plies, known if known is not None else {}))
        built.makes.hand = by_hand(plan, built.places, edits)
        return _built(plan, laid, built, spacing, feet, weights, at_ends)

    try:
        made = build(low)
    except TrussError as error:
        if not low:
            raise
        why |= {one.rows[0].made.row.gable: f"its frame cannot be set lower for them: {error}" for one in low.values()}
        low, made = {}, build({})
    used = max((design.used for key, _, design, _ in made.makes if key != "gable"), default=0.0)
    lookouts = _lookouts(plan, low, why, made.lookouts.beyond)
    return made._replace(lookouts=lookouts, low=tuple(low.values())), used


def _lookouts(
    plan: SurfacePlan, low: dict[int, LoweredFrame], why: dict[int, str], beyond: tuple[Reaction, ...]
) -> GableLookouts:
    rows = tuple(one.made for frame in low.values() for one in frame.rows)
    results = {
        lookout_name(plan.roof.id, made.row, k): made.result for made in rows for k in range(len(made.row.places))
    } | {tail_name(plan.roof.id, made.row): made.tail.result for made in rows if made.tail is not None}
    return GableLookouts(rows, tuple(why.items()), (), results, beyond)


def _built(
    plan: SurfacePlan,
    laid: list[LaidPart],
    built: "_Build",
    spacing: float,
    feet: tuple[Foot, ...],
    weights: tuple[Weight, ...],
    at_ends: tuple[OnTruss, ...],
) -> BuiltTrusses:
    """Design all trusses of a roof that are laid out."""
    main, *wings = built.works
    for one in at_ends:
        min(built.works, key=lambda work: work.from_carrier(one)).carry(one)
    for foot in feet:
        min(built.works, key=lambda work: work.away(foot.at)).put(foot)
    for weight in weights:
        min(built.works, key=lambda work: work.away(weight.at)).hang(weight)
    for wing in wings:
        wing.lay_valleys(main, spacing)
    main.run_on(plan, spacing)
    for work in (main, *wings):
        work.build()
    reactions = [work.reactions() for work in built.works]
    return BuiltTrusses(
        tuple(part.row for part in laid),
        tuple(built.places),
        built.makes.named(),
        (*(r for rows, _ in reactions for r in rows), *built.unhung),
        total(heap for _, heap in reactions),
        tuple(built.hanging),
        tuple(part.part.sides for part in laid),
        tuple(main.onto),
        built.makes.hand,
        built.makes.refused,
        GableLookouts(beyond=tuple(r for work in built.works for r in work.beyond)),
    )


def _snow_on(part: Part, whole: RoofSnow) -> RoofSnow:
    """Return the snow on the planes of a part: of sides along which there are several, the most."""
    planes = [
        max((whole.planes[k] for k in along), key=lambda lies: lies.laid, default=whole.planes[0])
        for along in part.sides
    ]
    return replace_struct(whole, planes=tuple(planes))


class _Build:
    """All trusses of a roof as they are designed: places by their numbers, makes, what hangs on what; ``brought``: what hangs, ``rested``: what
    rests on each.
    """

    def __init__(
        self,
        places: list[TrussPlace],
        plies: dict[str, int],
        stock: float,
        give_up: bool,
        low: dict[int, LoweredFrame],
        plan: SurfacePlan,
    ) -> None:
        self.plan, self.places, self.low = plan, places, low
        self.makes = Makes(plies, stock, give_up)
        self.works: list[_Work] = []
        self.hanging: list[HangingTruss] = []
        self.brought: dict[int, list[Hung]] = {}
        self.rested: dict[int, list[Hung]] = {}
        self.unhung: list[Reaction] = []
        """What comes down where no truss stands on either side."""

    def hangs(self, number: int, on: int, x: float, at: Point, force: Cases) -> None:
        """Hang an end of a truss on another, x along that."""
        self.brought.setdefault(on, []).append(Hung(round(x, 6), force))
        self.hanging.append(HangingTruss(number, on, at, force, (0, 0)))


class _Work:
    """The trusses of a part as they are designed."""

    def __init__(self, whole: _Build, laid: LaidPart, roof: OnRoof, plies: int, known: KnownLoads) -> None:
        self.whole, self.laid, self.roof, self.common_plies, self.known = whole, laid, roof, plies, known
        self.hung = [one for hip in laid.hips for one in hip.hung]
        self.names = {one.name: len(whole.places) + k for k, one in enumerate(self.hung)}
        self.names |= {girder_name(hip.hip): laid.first + hip.girder for hip in laid.hips}
        whole.places += (one.place for one in self.hung)
        self.valleys: ValleySet | None = None
        self.onto: list[Foot] = []
        self.rests: dict[int, list[float]] = {}
        self.beyond: list[Reaction] = []
        """What of that which lookouts lift comes to walls after all, where what comes and goes lies inside alone."""
        self.mine: list[int] = [laid.first + k for k in range(len(laid.row.places))]
        self.mine += [self.names[one.name] for one in self.hung]

    @property
    def girder(self) -> int:
        """The number of the girder at the inner end of a wing."""
        row, part = self.laid.row, self.laid.part
        inner = row.frame.to(part.plan.outline.core[part.inner])[1]
        carriers = [k for k, p in enumerate(row.places) if p.make == "carrier"]
        return self.laid.first + min(carriers, key=lambda k: abs(row.places[k].t - inner))

    def lay_valleys(self, main: "_Work", spacing: float) -> None:
        """Lay and design a wing's valley trusses; what they bring rests on the main part's."""
        laid, rested = self.laid, self.whole.rested
        heel, below = self._valley_heel(), main.lines()
        valleys = valley_set(main.laid.part, laid.part, laid.number, laid.row, spacing, heel, below)
        for number, one in self._stand(valleys):
            for x, force in self.forces(number, wind=True):
                for other, part in lever(one.crossed, x):
                    rested.setdefault(other.number, []).append(Hung(round(other.along, 1), force.scaled(part)))
            for other in one.crossed:  # where others of their make have something
                main.rests.setdefault(other.number, []).append(round(other.along, 1))

    def run_on(self, plan: SurfacePlan, spacing: float) -> None:
        """Lay and design the valley trusses of a roof that runs on over another; what they bring stands on that."""
        part = self.laid.part
        if part.onto is None:
            return
        for number, one in self._stand(on_other_roof(plan, part, self.laid.row, spacing, self._valley_heel())):
            self.onto += [Foot(part.onto.roof, one.place.at(x), force) for x, force in self.forces(number, wind=True)]

    def _valley_heel(self) -> float:
        pitches = (self.laid.part.plan.edges[k].pitch for k in self.laid.row.eaves)
        return butted(VALLEY_CHORD, max(pitches))

    def _stand(self, valleys: ValleySet) -> list[tuple[int, Valley]]:
        """Take in valley trusses and design them; return them with their numbers."""
        self.valleys = valleys
        numbered = [(len(self.whole.places) + k, one) for k, one in enumerate(valleys.trusses)]
        self.whole.places += (one.place for one in valleys.trusses)
        self.mine += (number for number, _ in numbered)
        asked = [
            Asked(number, one.place, one.outline, loads_on_valley(self.roof, one.place, one.outline.span))
            for number, one in numbered
        ]
        self.whole.makes.design("valley", asked, self.roof)
        return numbered

    def away(self, at: Point) -> float:
        """Return how far beside the part a place lies, mm."""
        return float(shapely.Polygon(self.laid.part.plan.outline.core).distance(shapely.Point(at)))

    def lines(self) -> list[Below]:
        """Return the part's trusses in plan."""
        laid = self.laid
        rows = [below_of(laid.first + k, place, laid.row.wide) for k, place in enumerate(laid.row.places)]
        return rows + [below_of(self.names[one.name], one.place, one.long) for one in self.hung]

    def put(self, foot: Foot) -> None:
        """Put what stands on the part's roof on the trusses on both sides of it, by the lever."""
        beside_it = crossed(foot.at, self.laid.row.frame.t, self.lines())
        shares = lever(beside_it, 0.0)
        if not shares:
            self.whole.unhung.append(Reaction(piece_name(self.roof.plan.roof.id, "foot"), "", foot.at, foot.force))
        for one, part in shares:
            x = round(one.along / FOOT_STEP) * FOOT_STEP
            self.whole.rested.setdefault(one.number, []).append(Hung(x, foot.force.scaled(part)))
            self.rests.setdefault(one.number, []).append(x)

    def nearest_carrier(self, one: OnTruss) -> int:
        """Return which girder of the row stands nearest to what a hip end with rafters brings."""
        row, t = self.laid.row, self.laid.row.frame.to(one.at)[1]
        carriers = [k for k, place in enumerate(row.places) if place.make == "carrier"]
        return min(carriers, key=lambda k: abs(row.places[k].t - t))

    def from_carrier(self, one: OnTruss) -> float:
        """Return how far a girder of the row is from what a hip end with rafters brings, mm."""
        row = self.laid.row
        if not any(place.make == "carrier" for place in row.places):
            return math.inf
        place = row.places[self.nearest_carrier(one)]
        line = shapely.LineString([place.at(0.0), place.at(row.wide)])
        return float(line.distance(shapely.Point(one.at)))

    def carry(self, one: OnTruss) -> None:
        """Put on the truss at a hip end with rafters what those bring, or hang on it what its ceiling does."""
        row = self.laid.row
        s, _ = row.frame.to(one.at)
        number = self.laid.first + self.nearest_carrier(one)
        x = round(min(max(s - row.start, 0.0), row.wide), 1)
        if one.hangs:
            self.whole.brought.setdefault(number, []).append(Hung(x, one.force))
            return
        self.whole.rested.setdefault(number, []).append(Hung(x, one.force))
        self.rests.setdefault(number, []).append(x)

    def hang(self, weight: Weight) -> None:
        """Hang a weight on the trusses on both sides of it, by the lever; on each what hangs at one place together."""
        shares = lever(crossed(weight.at, self.laid.row.frame.t, self.lines()), 0.0)
        if not shares:  # beside them all: told as lost
            self.whole.unhung.append(
                Reaction(piece_name(self.roof.plan.roof.id, "weight"), "", weight.at, weight.force)
            )
        for one, part in shares:
            rows = self.whole.brought.setdefault(one.number, [])
            x, force = round(one.along, 1), weight.force.scaled(part)
            same = next((row for row in rows if not row.holds and abs(row.x - x) < 1.0), None)
            if same is not None:
                rows.remove(same)
                force = force.plus(same.force)
            rows.append(Hung(x, force, holds=False))

    def build(self) -> None:
        """Design the part's trusses from the top down; those of wings after what hangs on them."""
        mains = self._mains()
        for make in ("common", "flat", "gable"):
            self.whole.makes.design(make, mains.get(make, []), self.roof)
        for make in ("jack", "corner"):  # corner girders carry jacks
            some = [one for one in self.hung if one.place.make == make]
            self.whole.makes.design(make, [self._asked_hung(one) for one in some], self.roof)
            for one in some:
                number = self.names[one.name]
                self.whole.hangs(number, self.names[one.on], one.x, one.place.at(one.long), self.hangs(number))
        for make in ("girder", "carrier"):
            some_mains = [
                one.carrying(self.whole.brought.get(one.number, ()), one.on.rested) for one in mains.get(make, [])
            ]
            self.whole.makes.design(make, some_mains, self.roof)
        for number in self.mine:
            self._hang_on_wings(number)

    def _asked_hung(self, one: HungTruss) -> Asked:
        number, heel = self.names[one.name], self.laid.part.plan.plate_to_top
        asked = Asked(number, one.place, hung_outline(self.laid.part.plan, one, heel), loads_on_hung(self.roof, one))
        return asked.carrying(self.whole.brought.get(number, ()), self._rested(number))

    def _rested(self, number: int) -> list[Hung]:
        """Return what rests on a truss, joints alike with those beside it: nothing where nothing does."""
        summed: dict[float, list[Cases]] = {}
        for one in self.whole.rested.get(number, ()):
            summed.setdefault(one.x, []).append(one.force)
        return [Hung(x, total(forces)) for x, forces in summed.items()]

    def _hang_on_wings(self, number: int) -> None:
        """Hang the ends of a truss of the main part that no wall is under on the girders of wings."""
        met, place = self.laid.met, self.whole.places[number]
        if met is None or not met.wings or place.make == "valley":
            return
        row, part = self.laid.row, self.laid.part
        span = self.whole.makes.built[number].design.frame.outline.span
        square = number < self.laid.first + len(row.places)
        for k in (0, 1):
            if place.walls[k] or place.gable or (not square and k == 1):
                continue
            at = place.at(span if k else 0.0)
            sides = row.eaves if not square else (row.eaves[k],)
            on = next((w for side in sides if (w := hangs_on(part, met, side, at)) is not None), None)
            if on is None:
                continue
            wing = self.whole.works[on]
            x = wing.laid.row.frame.to(at)[0] - wing.laid.row.start
            self.whole.hangs(number, wing.girder, min(max(x, 0.0), wing.laid.row.wide), at, self.hangs(number, not k))

    def _mains(self) -> dict[str, list[Asked]]:
        """Return what stands square to the eaves by its make; girders as yet without what hangs on them."""
        plan, row, laid = self.laid.part.plan, self.laid.row, self.laid
        trusses, heel = plan.roof.trusses, plan.plate_to_top
        girders = {hip.girder: hip for hip in laid.hips}
        rows: dict[str, list[Asked]] = {}
        deepest = self._deepest()
        for k, place in enumerate(row.places):
            hip = girders.get(k)
            plies = self.whole.makes.plies["girder"] if hip is not None else self.common_plies
            flat = flat_at(plan, row, place.t, BOARD * plies) if place.make in ("flat", "girder") else None
            low = self.whole.low.get(laid.first + k)
            outline = (
                low.outline
                if low is not None
                else outline_of(plan, row, place, heel, trusses.over_gables if place.gable else trusses, flat)
            )
            beside_it, ceiling, bare = (hip.beside, hip.ceiling, hip.bare) if hip is not None else NO_HIP
            if self.valleys is not None and k == self.valleys.last:
                beside_it = self.valleys.on_last
            strip = place if low is None else _wider(place, low.wider)
            key = laid.number, strip, (beside_it, ceiling)
            if key not in self.known:
                self.known[key] = loads_on(self.roof, strip, beside_it, ceiling, bare)
            on = self.known[key]
            if low is not None:
                on = loads_lowered(on, low, place.roof[1] - place.roof[0], self._on_slopes())
            inside = next((one for one in self.whole.low.values() if one.inner == laid.first + k), None)
            if inside is not None:
                wide = place.roof[1] - place.roof[0]
                on = loads_beside(on, inside, wide, (outline.top[0][0], outline.top[-1][0]), self.roof.ridge)
            asked = Asked(laid.first + k, place, outline, on)
            covered = place.sides is not None and any(side.covered > 0.0 for side in place.sides)
            hung = self.whole.brought.get(laid.first + k, ())
            if low is None and deepest and (covered or laid.first + k in self.whole.rested):
                asked = asked.carrying(hung, self._padded(laid.first + k, deepest))
            elif hung:
                asked = asked.carrying(hung, asked.on.rested)
            rows.setdefault(place.make, []).append(asked)
        return rows

    def _on_slopes(self) -> tuple[Cases, Cases]:
        """Return what lies on both slopes of the part, as lookouts carry it: kN/m2 of plan, wind as on overhangs."""
        one, other = (self.roof.on_overhang(edge) for edge in self.roof.eaves)
        return one, other

    def lifted(self, number: int) -> dict[float, Cases]:
        """Return what lookouts lift at the ends of a truss beside a frame that is set lower, N by case by where along it they bear."""
        low = next((low for low in self.whole.low.values() if low.inner == number), None)
        if low is None:
            return {}
        rows = [x for x, _ in self.whole.makes.built[number].bears]
        first, last = min(rows), max(rows)
        shares: dict[float, list[Cases]] = {first: [], last: []}
        for x, force in lifted_inside(low, self._on_slopes()):
            part = min(max((x - first) / (last - first), 0.0), 1.0)
            shares[first].append(force.scaled(1.0 - part))
            shares[last].append(force.scaled(part))
        return {x: total(some)._replace(wind=0.0) for x, some in shares.items()}

    def _deepest(self) -> list[float]:
        """Return all places along trusses of the part's row where something rests on any of them."""
        last = self.laid.first + len(self.laid.row.places)
        xs = {x for number, some in self.rests.items() if self.laid.first <= number < last for x in some}
        return sorted(xs)

    def _padded(self, number: int, places: list[float]) -> list[Hung]:
        """Return what rests on a truss at all places where something rests on any: trusses of one make have joints alike."""
        mine = {one.x: one.force for one in self._rested(number)}
        return [Hung(x, mine.get(x, Cases())) for x in places]

    def forces(self, number: int, wind: bool) -> list[tuple[float, Cases]]:
        """Return what comes to each bearing of a truss under its own load (x, N by case), uneven snow aside, which comes and goes; ``wind``:
        with what lifts it.
        """
        rows = self.whole.makes.built[number].bears
        return rows if wind else [(x, force._replace(wind=0.0)) for x, force in rows]

    def hangs(self, number: int, at_start: bool = False) -> Cases:
        """Return what a truss brings to what it hangs on at an end."""
        rows = self.forces(number, wind=True)
        end = (min if at_start else max)(x for x, _ in rows)
        force = total(force for x, force in rows if abs(end - x) < 1.0)  # both chords of an open jack
        return Cases(*(round(v, 6) for v in force))

    def _below(self, wall: str, at: Point) -> str:
        """Return which wall is below a place on a side of the part along which several stand in one line; ``wall``: one of them."""
        whole, sides = self.whole.plan, self.laid.part.sides
        names = whole.outline.walls
        side = next((k for k, along in enumerate(sides) if len(along) > 1 and wall in [names[e] for e in along]), None)
        return wall if side is None else wall_at(whole, self.laid.part, side, at)

    def reactions(self) -> tuple[tuple[Reaction, ...], Cases]:
        """Return what trusses bring to walls, each under all that lies on its own strip; and what of it are drifts."""
        plan, found, heaps = self.roof.plan, list[Reaction](), list[Cases]()
        for number in sorted(self.mine):
            one, design, _ = self.whole.makes.built[number]
            place, on, outline = one.place, one.on, design.frame.outline
            middle = (outline.start + outline.end) / 2.0
            key, lifted = piece_name(plan.roof.id, "truss", number), self.lifted(number)
            # What wind lifts is followed by itself.
            for x, force in self.forces(number, wind=False):
                inside = next((w for low, high, w in place.inner if low <= x <= high), "")
                at = on_wall(plan, self.roof.row, place, x)
                wall = inside or self._below(place.gable or place.walls[0 if x < middle else 1], at)
                if wall and x in lifted:
                    self.beyond.append(Reaction(key, wall, at, lifted[x]._replace(dead=0.0)))
                    force = force.plus(lifted[x].scaled(-1.0))
                if wall:
                    found.append(Reaction(key, wall, at, force))
            longer = sum(math.dist(a, b) - (b[0] - a[0]) for a, b in itertools.pairwise(outline.bottom))
            sloping = on.bottom.dead * longer * on.spacing * on.below / 1000.0
            heaps.append(
                Cases(dead=sloping, snow=sum(b.more * (b.high - b.low) for b in on.lying) * on.spacing / 1000.0)
            )
        return tuple(found), total(heaps)


def _wider(place: TrussPlace, by: float) -> TrussPlace:
    """Return a place with a strip of roof so much wider."""
    return replace_struct(place, roof=(place.roof[0], place.roof[1] + by))
