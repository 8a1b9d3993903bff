"""The makes of a roof's trusses as they are designed: those of one outline and alike loaded are one, made for the place that carries most."""

import itertools
from collections.abc import Sequence
from functools import lru_cache
from typing import NamedTuple

from msgspec.structs import replace as replace_struct

from balken.catalog.species import AUTO_GRADE
from balken.design.built_trusses import NAMES, TooWeak
from balken.design.truss_bearings import at_bearings
from balken.design.truss_by_hand import NOTHING, OwnWebs
from balken.design.truss_demands import EVEN
from balken.design.truss_groups import most_of
from balken.design.truss_job import TrussJob, Wood
from balken.design.truss_roof_loads import STRETCHES, OnRoof
from balken.design.truss_stacks import under_each
from balken.design.trusses import TrussDesign, design_truss
from balken.framing.surface_roofs import SurfacePlan
from balken.framing.truss_layout import TrussPlace
from balken.framing.truss_outline import TOP_PANEL, TrussError, TrussOutline, height_on
from balken.framing.truss_webs import LONGEST_JACK
from balken.framing.trusses import Sizes
from balken.loads.cases import Cases
from balken.loads.truss_loads import Hung, TrussLoads
from balken.standards.standard import Standard
from balken.units.system import INCH

VALLEY_CHORD = "2x4"
"""The top chord of valley trusses, which are no deeper than the place they fill."""
LOW_END = 14.0 * INCH
"""A jack no higher at its hung end has no upright there: between chords up to 2x6 it would find no room."""


class Asked(NamedTuple):
    """A truss to be designed: its number, place, outline, loads."""

    number: int
    place: TrussPlace
    outline: TrussOutline
    on: TrussLoads

    def carrying(self, hung: Sequence[Hung], rested: Sequence[Hung] = ()) -> "Asked":
        """Return it with what hangs and rests on it."""
        rows = (tuple(sorted(of, key=lambda h: h.x)) for of in (hung, rested))
        return self._replace(on=replace_struct(self.on, hung=next(rows), rested=next(rows)))


class Built(NamedTuple):
    """One as designed, under its own load; what comes to its bearings (x, N by case)."""

    asked: Asked
    design: TrussDesign
    bears: list[tuple[float, Cases]]


class _Make(NamedTuple):
    """A make as designed; of each of its places what comes to its bearings (x, N by case)."""

    design: TrussDesign
    bears: list[list[tuple[float, Cases]]]


class Makes:
    """The makes of a roof's trusses: how many plies each has, as designed; ``hand``: single ones changed by hand, ``refused``: those that cannot
    be so; ``give_up``: whether the first that does not work raises TooWeak.
    """

    def __init__(self, plies: dict[str, int], stock: float, give_up: bool) -> None:
        self.plies, self.stock, self.give_up = {"gable": 1, "jack": 1, "valley": 1, **plies}, stock, give_up
        self.makes: list[tuple[str, TrussDesign, tuple[int, ...]]] = []
        self.built: dict[int, Built] = {}
        self.hand = NOTHING
        self.refused: dict[int, str] = {}

    def named(self) -> tuple[tuple[str, str, TrussDesign, tuple[int, ...]], ...]:
        """Return its makes in the order in which they are listed: key, name, as designed, numbers."""
        found = []
        merged: dict[tuple[str, int], tuple[str, TrussDesign, tuple[int, ...]]] = {}
        for key, design, numbers in self.makes:  # those of several parts that are the same are one make
            known = merged.get((key, id(design)), (key, design, ()))
            merged[(key, id(design))] = key, design, (*known[2], *numbers)
        for key, name in NAMES.items():
            alike = sorted((row for row in merged.values() if row[0] == key), key=lambda row: -len(row[2]))
            for k, (_, design, numbers) in enumerate(alike, start=1):
                found.append((key, name if len(alike) == 1 else f"{name} {k}", design, numbers))
        return tuple(found)

    def design(self, make: str, asked: list[Asked], roof: OnRoof) -> None:
        """Design trusses of one kind: those of one outline, with loads hung at the same places, changed by hand alike, are one make; common ones
        of all makes have sections alike, as far as those work in what is changed by hand.
        """
        groups: dict[tuple[object, ...], list[Asked]] = {}
        for one in asked:
            places = [tuple(sorted(round(h.x, 1) for h in of)) for of in (one.on.hung, one.on.rested)]
            key = (one.outline, *places, tuple(u.name for u in one.on.uneven), self.hand.own.get(one.number))
            groups.setdefault(key, []).append(one)
        owns = []
        for group in groups.values():
            own, hand = self._first_of(make, group, roof)
            self._give_up(make, own.design, hand)
            owns.append((own, hand))
        laid = [own.design.frame.sizes for own, hand in owns if hand is None]
        job = owns[0][0].design.job if owns else None
        alike = most_of(job, laid) if make == "common" and len(groups) > 1 and laid and job is not None else None
        for group, (own, hand) in zip(groups.values(), owns, strict=True):
            same = alike in (None, own.design.frame.sizes)
            made, bears = own if same else self._alike(make, group, alike, own, hand, roof)
            self._give_up(make, made, hand)
            self.makes.append((make, made, tuple(one.number for one in group)))
            self.built |= {one.number: Built(one, made, at) for one, at in zip(group, bears, strict=True)}

    def _give_up(self, make: str, made: TrussDesign, hand: OwnWebs | None) -> None:
        """Raise TooWeak where others are tried before one that does not work."""
        if self.give_up and make != "gable" and hand is None and made.used > 1.0 + EVEN:
            raise TooWeak(made.used, make in self.plies and self.plies[make] > 1)

    def _first_of(self, make: str, group: list[Asked], roof: OnRoof) -> tuple[_Make, OwnWebs | None]:
        """Design one make by itself; what is changed by hand and cannot be so is made as the others, and said."""
        hand = self.hand.own.get(group[0].number)
        if hand is not None:
            try:
                if make != "common" and (hand.webs or hand.plies > 1):
                    raise TrussError("its webs and plies follow from its place in the roof")
                if hand.plies > 1 and roof.plan.roof.trusses.joined == "gussets":
                    raise TrussError("gussets join trusses of one ply: between two there is no room for them")
                return self._worst_of(make, group, None, hand, roof), hand
            except TrussError as error:
                self.refused |= {one.number: str(error) for one in group}
        return self._worst_of(make, group, None, None, roof), None

    def _job(
        self, make: str, outline: TrussOutline, on: TrussLoads, hand: OwnWebs | None, plan: SurfacePlan
    ) -> TrussJob:
        trusses = plan.roof.trusses
        jack = "jack" if outline.span <= LONGEST_JACK + 1.0 else "long jack"
        first = height_on(outline.top, outline.start + outline.span / 3.0)
        if jack == "long jack" and first < LOW_END and outline.span <= TOP_PANEL + 1.0:
            jack = "jack"  # no web finds room near its heel
        if jack == "jack" and outline.top[-1][1] < LOW_END:
            jack = "open jack"
        pattern = {
            "common": trusses.pattern, "gable": "gable-end", "flat": "flat-topped", "girder": "flat-topped", "jack": jack,
            "corner": jack, "valley": "valley", "carrier": "girder",
        }[make]  # fmt: skip
        plies, hand = self.plies.get(make, trusses.plies), hand or OwnWebs()
        top = VALLEY_CHORD if make == "valley" else trusses.top or ""
        return TrussJob(
            hand.webs or pattern, on, Wood(trusses.species, trusses.wood_grade, trusses.grade == AUTO_GRADE), top, trusses.bottom or "", trusses.webs or "",
            max(hand.plies, plies), _braced(outline, on), self.stock, shares=make not in ("girder", "corner", "carrier"),
            points=hand.points, camber=trusses.camber if make == "common" else 0.0,
            joined=trusses.joined,
        )  # fmt: skip

    def _alike(
        self, make: str, group: list[Asked], alike: Sizes | None, own: _Make, hand: OwnWebs | None, roof: OnRoof
    ) -> _Make:
        """Design one make of these sections, where they work no worse than its ``own``."""
        try:
            made = self._worst_of(make, group, alike, hand, roof)
        except TrussError:
            return own
        return made if made.design.used <= max(1.0, own.design.used) + EVEN else own

    def _worst_of(
        self, make: str, group: list[Asked], sizes: Sizes | None, hand: OwnWebs | None, roof: OnRoof
    ) -> _Make:
        """Design one make for the one of its places that carries most."""
        # First for the one that carries most in all; then every place is looked at, and the worst is designed for where that is another.
        loads, outline, standard = [one.on for one in group], group[0].outline, roof.standard
        most = max(loads, key=_weight)
        for _ in range(3):
            job = self._job(make, outline, most, hand, roof.plan)
            if sizes is not None:
                job = replace_struct(job, top=sizes.top, bottom=sizes.bottom, webs=sizes.webs, grades=sizes.grades)
            made = known_design(job, outline, standard)
            each = under_each(made, loads, standard)
            worst = max(range(len(each)), key=lambda k: each[k][0])
            if each[worst][0] <= max(1.0, float(made.uses.worst()[0].max())) + EVEN or loads[worst] is most:
                break
            most = loads[worst]
        return _Make(made, [at_bearings(made, row) for _, row in each])


@lru_cache(maxsize=2000)
def known_design(job: TrussJob, around: TrussOutline, standard: Standard) -> TrussDesign:
    """Design a truss, once for all that are the same: a roof that only moves, or a wall that moves beside it, changes none."""
    return design_truss(job, lambda sizes: around, standard)


def _braced(outline: TrussOutline, on: TrussLoads) -> float | None:
    """Return how far apart what hangs on a bottom chord holds it aside, mm; None where nothing does."""
    held = [h.x for h in on.hung if h.holds]
    if not held:
        return None
    at = sorted({outline.start, outline.end, *held})
    return max(b - a for a, b in itertools.pairwise(at))


def _weight(on: TrussLoads) -> float:
    more = (*on.hung, *on.rested)
    hung = sum(h.force.dead + h.force.snow + h.force.live + h.force.roof_live for h in more)
    return on.spacing * (on.top.all + on.bottom.all + sum(b.more for b in on.lying) / STRETCHES) + hung / 1000.0
