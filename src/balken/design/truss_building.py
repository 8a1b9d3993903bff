"""The trusses of a roof built from the top down: what hangs first, then what it hangs on; each make designed for the one of its places that
carries most; what all of them bring to the walls.
"""

import itertools
from functools import lru_cache
from typing import NamedTuple

from msgspec.structs import replace as replace_struct

from balken.design.truss_demands import EVEN
from balken.design.truss_job import TrussJob, Wood
from balken.design.truss_roof_loads import STRETCHES, OnRoof, loads_on, loads_on_hung
from balken.design.truss_stacks import used_in_stack
from balken.design.trusses import TrussDesign, design_truss, solve
from balken.framing.surface_roofs import SurfacePlan
from balken.framing.truss_heels import heel_of
from balken.framing.truss_hips import HipFraming, HungTruss, girder_name, hip_framing, hung_outline
from balken.framing.truss_layout import BOARD, TrussPlace, TrussRow, flat_at, outline_of, truss_row
from balken.framing.truss_outline import TrussOutline, height_on
from balken.framing.truss_webs import LONGEST_JACK, TOP_PANEL
from balken.geometry.plane import Point
from balken.loads.area_loads import Reaction
from balken.loads.cases import Cases, total
from balken.loads.roof_snow import RoofSnow
from balken.loads.roof_wind import RoofWind
from balken.loads.truss_loads import Hung, TrussLoads
from balken.model.naming import piece_name
from balken.model.records import Loads
from balken.standards.standard import Standard
from balken.units.system import INCH
from balken.value import Value

NAMES = {
    "common": "Trusses", "flat": "Flat-topped trusses", "girder": "Hip girders", "corner": "Corner girders", "jack": "Jacks",
    "gable": "Gable frames",
}  # fmt: skip
"""How makes are called, in the order in which they are listed."""


LOW_END = 14.0 * INCH
"""A jack no higher at its hung end has no upright there: between chords up to 2x6 it would find no room."""


class HangingTruss(Value, frozen=True):
    """A truss that hangs on another: numbers of both, where in plan, what comes to its hanger by case, N; plies of both."""

    number: int
    on: int
    at: Point
    force: Cases
    plies: tuple[int, int]


class BuiltTrusses(NamedTuple):
    """The trusses of a roof: ``makes``: key, name, as designed, numbers of places; the row first among ``places``."""

    row: TrussRow
    places: tuple[TrussPlace, ...]
    makes: tuple[tuple[str, str, TrussDesign, tuple[int, ...]], ...]
    reactions: tuple[Reaction, ...]
    heaps: Cases
    hung: tuple[HangingTruss, ...]


class _Asked(NamedTuple):
    """A truss to be designed: its number, place, outline, loads."""

    number: int
    place: TrussPlace
    outline: TrussOutline
    on: TrussLoads

    def carrying(self, hung: tuple[Hung, ...]) -> "_Asked":
        """Return it with what hangs on it."""
        return self._replace(on=replace_struct(self.on, hung=tuple(sorted(hung, key=lambda h: h.x))))


class _Built(NamedTuple):
    """One as designed, under its own load."""

    asked: _Asked
    design: TrussDesign


KnownLoads = dict[tuple[TrussPlace, tuple[tuple[float, float], float]], TrussLoads]
"""What lies on trusses by their places, and by what a hip girder carries beyond its strip: the same however deep their chords are."""


class TooWeak(Exception):
    """A make of trusses that is used by more than all it has, where others are to be tried; how far."""

    def __init__(self, used: float) -> None:
        super().__init__(used)
        self.used = used


def build_trusses(
    plan: SurfacePlan,
    spacing: float,
    girder_plies: int,
    snow: RoofSnow,
    wind: RoofWind | None,
    loads: Loads,
    stock: float,
    standard: Standard,
    give_up: bool = False,
    known: KnownLoads | None = None,
) -> tuple[BuiltTrusses, float]:
    """Design all trusses of a roof; return them and how far the worst is used, gable frames aside.  Girders under hips have a ply less than
    those they hang on.

    Raises TrussError; with ``give_up`` TooWeak at the first make that does not work.
    """
    trusses, corner_plies = plan.roof.trusses, max(girder_plies - 1, 1)
    row = truss_row(plan, spacing, trusses.plies, girder_plies)
    roof = OnRoof(plan, row, snow, wind, loads, standard)
    work = _Work(roof, stock, {"girder": girder_plies, "corner": corner_plies}, give_up)
    hips = tuple(hip_framing(plan, row, hip, spacing, corner_plies) for hip in row.hips)
    heel = plan.plate_to_top
    every = [one for hip in hips for one in hip.hung]
    names = {one.name: len(row.places) + k for k, one in enumerate(every)}
    names |= {girder_name(hip.hip): hip.girder for hip in hips}
    brought: dict[str, list[Hung]] = {}
    mains = _mains(roof, hips, heel, girder_plies, known if known is not None else {})
    for make in ("common", "flat", "gable"):
        work.design(make, mains.get(make, []))
    for make in ("jack", "corner"):  # corner girders carry jacks
        mine = [one for one in every if one.place.make == make]
        asked = [
            _Asked(
                names[one.name], one.place, hung_outline(plan, one, heel),
                replace_struct(loads_on_hung(roof, one), hung=tuple(brought.get(one.name, ()))),
            )
            for one in mine
        ]  # fmt: skip
        work.design(make, asked)
        for one in mine:
            brought.setdefault(one.on, []).append(Hung(round(one.x, 6), work.hangs(names[one.name])))
    carried = {hip.girder: tuple(brought.get(girder_name(hip.hip), ())) for hip in hips}
    work.design("girder", [one.carrying(carried[one.number]) for one in mains.get("girder", [])])
    reactions, heaps = work.reactions()
    used = max((design.used for key, design, _ in work.makes if key != "gable"), default=0.0)
    places = (*row.places, *(one.place for one in every))
    hung = tuple(work.hanging(names[one.name], names[one.on], one) for one in every)
    return BuiltTrusses(row, places, work.named(), reactions, heaps, hung), used


def _mains(
    roof: OnRoof, hips: tuple[HipFraming, ...], heel: float, girder_plies: int, known: KnownLoads
) -> dict[str, list[_Asked]]:
    """Return what stands square to the eaves by its make; girders as yet without what hangs on them; ``known``: loads laid before."""
    plan, row, trusses = roof.plan, roof.row, roof.plan.roof.trusses
    girders = {hip.girder: hip for hip in hips}
    level = replace_struct(trusses, bottom_pitch=0.0)  # frames over gables stand on the level plates of their walls
    rows: dict[str, list[_Asked]] = {}
    for number, place in enumerate(row.places):
        hip = girders.get(number)
        plies = girder_plies if hip is not None else trusses.plies
        flat = flat_at(plan, row, place.t, BOARD * plies) if place.make in ("flat", "girder") else None
        outline = outline_of(plan, row, heel, level if place.gable else trusses, flat)
        more = (hip.beside, hip.ceiling) if hip is not None else ((0.0, 0.0), 0.0)
        if (place, more) not in known:
            known[place, more] = loads_on(roof, place, *more)
        on = known[place, more]
        rows.setdefault(place.make, []).append(_Asked(number, place, outline, on))
    return rows


class _Work:
    """Trusses of a roof as they are designed."""

    def __init__(self, roof: OnRoof, stock: float, plies: dict[str, int], give_up: bool) -> None:
        self.roof, self.stock, self.give_up = roof, stock, give_up
        self.plies = {"gable": 1, "jack": 1, **plies}
        self.makes: list[tuple[str, TrussDesign, tuple[int, ...]]] = []
        self.built: dict[int, _Built] = {}

    def named(self) -> tuple[tuple[str, str, TrussDesign, tuple[int, ...]], ...]:
        """Return its makes in the order in which they are listed: key, name, as designed, numbers."""
        found = []
        for key, name in NAMES.items():
            alike = [row for row in self.makes if row[0] == key]
            for k, (_, design, numbers) in enumerate(alike, start=1):
                found.append((key, name if len(alike) == 1 else f"{name} {k}", design, numbers))
        return tuple(found)

    def hanging(self, number: int, on: int, one: HungTruss) -> HangingTruss:
        """Return a truss as it hangs on another."""
        plies = tuple(self.built[k].design.frame.sizes.plies for k in (number, on))
        return HangingTruss(number, on, one.place.at(one.long), self.hangs(number), (plies[0], plies[1]))

    def design(self, make: str, asked: list[_Asked]) -> None:
        """Design trusses of one kind: those of one outline, with loads hung at the same places, are one make."""
        groups: dict[tuple[object, ...], list[_Asked]] = {}
        for one in asked:
            places = tuple(sorted(round(h.x, 1) for h in one.on.hung))
            key = (one.outline, places, tuple(u.name for u in one.on.uneven))
            groups.setdefault(key, []).append(one)
        for group in groups.values():
            made = self._designed(make, group)
            if self.give_up and make != "gable" and made.used > 1.0 + EVEN:
                raise TooWeak(made.used)
            self.makes.append((make, made, tuple(one.number for one in group)))
            self.built |= {one.number: _Built(one, made) for one in group}

    def _job(self, make: str, outline: TrussOutline, on: TrussLoads) -> TrussJob:
        trusses = self.roof.plan.roof.trusses
        raised = (
            trusses.heel is not None
            and trusses.heel > heel_of(replace_struct(trusses, heel=None), self.roof.plan.steepest) + 1.0
        )
        jack = ("raised jack" if raised else "jack") if outline.span <= LONGEST_JACK + 1.0 else "long jack"
        first = height_on(outline.top, outline.start + outline.span / 3.0)
        if jack == "long jack" and first < LOW_END and outline.span <= TOP_PANEL + 1.0:
            jack = "jack"  # no web finds room near its heel
        if jack == "jack" and outline.top[-1][1] < LOW_END:
            jack = "open jack"
        pattern = {
            "common": trusses.pattern, "gable": "gable-end", "flat": "flat-topped", "girder": "flat-topped", "jack": jack,
            "corner": jack,
        }[make]  # fmt: skip
        plies = self.plies.get(make, trusses.plies)
        return TrussJob(
            pattern, on, Wood(trusses.species, trusses.grade), trusses.top or "", trusses.bottom or "", trusses.webs or "", plies,
            _braced(outline, on), self.stock, shares=make not in ("girder", "corner"),
        )  # fmt: skip

    def _designed(self, make: str, group: list[_Asked]) -> TrussDesign:
        """Design one make for the one of its places that carries most."""
        # First for the one that carries most in all; then every place is looked at, and the worst is designed for where that is another.
        loads, outline, standard = [one.on for one in group], group[0].outline, self.roof.standard
        most = max(loads, key=_weight)
        for _ in range(3):
            made = _known(self._job(make, outline, most), outline, standard)
            used = used_in_stack(made, [made.frame] * len(loads), loads, standard)
            worst = int(used.argmax())
            if used[worst] <= max(1.0, float(made.uses.worst()[0].max())) + EVEN or loads[worst] is most:
                break
            most = loads[worst]
        return made

    def forces(self, number: int, wind: bool) -> list[tuple[float, Cases]]:
        """Return what comes to each bearing of a truss under its own load (x, N by case); ``wind``: with what lifts it."""
        one, design = self.built[number]
        # Uneven snow comes and goes: even snow and drifts go down.
        on = replace_struct(one.on, uneven=())
        if not wind:
            on = replace_struct(
                on,
                top=on.top._replace(wind=0.0),
                planes=tuple(replace_struct(p, q=p.q._replace(wind=0.0)) for p in on.planes),
                hung=tuple(replace_struct(h, force=h.force._replace(wind=0.0)) for h in on.hung),
            )
        return bearing_forces(design, on)

    def hangs(self, number: int) -> Cases:
        """Return what a jack or corner girder brings to what it hangs on."""
        rows = self.forces(number, wind=True)
        end = max(x for x, _ in rows)
        force = total(force for x, force in rows if end - x < 1.0)  # both chords of an open jack
        return Cases(*(round(v, 6) for v in force))

    def reactions(self) -> tuple[tuple[Reaction, ...], Cases]:
        """Return what trusses bring to walls, each under all that lies on its own strip; and what of it are drifts."""
        plan, found, heaps = self.roof.plan, list[Reaction](), list[Cases]()
        lower = plan.roof.trusses.bottom_pitch
        for number in sorted(self.built):
            one, design = self.built[number]
            place, on, wide = one.place, one.on, design.frame.outline.span
            key = piece_name(plan.roof.id, "truss", number)
            # What wind lifts is followed by itself.
            for x, force in self.forces(number, wind=False):
                wall = place.gable or place.walls[0 if x < wide / 2.0 else 1]
                if wall:
                    found.append(Reaction(key, wall, _on_wall(plan, self.roof.row, place, x), force))
            sloping = 0.0
            if lower > 0.0 and not place.gable:
                sloping = on.bottom.dead * (((1.0 + lower**2) ** 0.5) - 1.0) * on.spacing * on.below * wide / 1000.0
            heaps.append(
                Cases(dead=sloping, snow=sum(b.more * (b.high - b.low) for b in on.lying) * on.spacing / 1000.0)
            )
        return tuple(found), total(heaps)


@lru_cache(maxsize=96)
def _known(job: TrussJob, around: TrussOutline, standard: Standard) -> TrussDesign:
    """Design a truss, once for all that are the same: a roof that only moves, or a wall that moves beside it, changes none."""
    return design_truss(job, lambda sizes: around, standard)


def _braced(outline: TrussOutline, on: TrussLoads) -> float | None:
    """Return how far apart what hangs on a bottom chord holds it aside, mm; None where nothing does."""
    if not on.hung:
        return None
    at = sorted({outline.start, outline.end, *(h.x for h in on.hung)})
    return max(b - a for a, b in itertools.pairwise(at))


def _weight(on: TrussLoads) -> float:
    hung = sum(h.force.dead + h.force.snow + h.force.live + h.force.roof_live for h in on.hung)
    return on.spacing * (on.top.all + on.bottom.all + sum(b.more for b in on.lying) / STRETCHES) + hung / 1000.0


def _on_wall(plan: SurfacePlan, row: TrussRow, place: TrussPlace, x: float) -> Point:
    """Return where a truss bears, in plan: in the middle of the wall's core."""
    if not place.gable:
        return place.at(x)
    k = plan.outline.walls.index(place.gable)
    first = abs(place.t - row.along[0]) < abs(place.t - row.along[1])
    t = row.along[0] + plan.deep[k] if first else row.along[1] - plan.deep[k]
    return row.frame.back(row.start + min(max(x, 0.0), row.wide), t)


def bearing_forces(design: TrussDesign, on: TrussLoads) -> list[tuple[float, Cases]]:
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
