"""The load path: area loads to members, members to bearings, walls to foundations, footings to soil."""

from collections.abc import Callable, Mapping
from typing import Any, Protocol, TypeVar

from msgspec import field
from msgspec.structs import replace

from balken.framing.bands import WallLine
from balken.framing.beams import BeamLine
from balken.framing.foundations import FoundationRun
from balken.framing.pads import PadPlace
from balken.geometry.plane import off_line
from balken.loads.along import (
    Diagram,
    Laid,
    Lying,
    Under,
    laid_evenly,
    laid_together,
    standing,
)
from balken.loads.area_loads import Reaction
from balken.loads.beam_law import NONE_MORE, Beamed, BeamMaker, BeamSeat, Extremes, carry_beam
from balken.loads.cases import Cases, total
from balken.loads.decks import Deck, Floored, Spot, carry_deck
from balken.loads.seats import On, Seat, core_line, stands_on
from balken.loads.stands import Columned, Maker, Stand, carry_column, onto_column
from balken.loads.wall_law import (
    MEMBERS_END,
    WALLS_END,
    Carried,
    HeadLoad,
    LineTotal,
    PointLoad,
    by_bearer,
    carry,
    lay,
)
from balken.model.buildups import stud_size
from balken.model.naming import owner_of
from balken.model.records import Opening, Pad
from balken.units.system import INCH
from balken.value import Value

T = TypeVar("T")


class LoadPath(Value, frozen=True):
    """Loads followed to the foundations' feet; ``lost`` is what found nothing to stand on."""

    reactions: tuple[Reaction, ...]
    walls: dict[str, LineTotal]
    runs: dict[str, LineTotal]
    applied: Cases
    lost: tuple[Reaction, ...]
    along: dict[str, Diagram]
    """How the load at its foot lies along each wall and run, by id."""
    below: dict[str, tuple[str, ...]]
    """For each wall and column, the walls, columns, runs or pads that take its load."""
    pads: dict[str, Cases]
    """What each pad carries on its top, N."""
    shares: dict[tuple[str, str], Cases]
    """What a wall (first id) hands to a wall or run below (second id), N."""
    heads: dict[str, "HeadLoad"]
    """What lies on the head of each wall, by id."""
    columns: dict[str, Columned]
    """What each column carries, and the post made for it."""
    decks: dict[str, Floored]
    """What stands on the deck of each floor that something stands on."""
    over_nothing: dict[str, tuple[tuple[float, float], ...]]
    """The stretches of walls (mm along them) that have nothing under them, where the rest of the wall has."""
    circles: tuple[tuple[str, ...], ...]
    """What would stand on itself by way of others, and so stands on nothing."""
    beams: dict[str, Beamed]
    """What each beam carries, and what it was made of for that."""
    extremes: dict[str, Extremes]
    """What arrangements of live load bring to columns, walls, runs and pads beyond all of it at once, and short of it."""
    beyond: dict[str, Laid]
    """The same of joists that run on, as it lies along foundation walls."""

    @property
    def arrived(self) -> Cases:
        """Sum at the feet of foundation walls and on pads, N."""
        return total((*(line.foot for line in self.runs.values()), *self.pads.values()))


class Keeper(Protocol):
    """What remembers the results of steps: see ``balken.memo.Memo``."""

    def step(self, name: str, make: Callable[..., T], *read: Any) -> T:
        """Return ``make(*read)``, or its last result when it read the same objects."""
        ...

    def keep(self, name: str, value: T) -> T:
        """Return the object kept under a name when it equals ``value``."""
        ...


NO_MAKERS: Mapping[str, Maker] = {}


class Beams(Value, frozen=True):
    """Beams, what designs them, how far apart joists hold the top edge of each (by id)."""

    lines: tuple[BeamLine, ...] = ()
    make: BeamMaker | None = None
    held: Mapping[str, float] = field(default_factory=dict)


NO_BEAMS = Beams()


class AtPlaces(Value, frozen=True):
    """What comes down in single places on walls and free standing posts: ends of hips, valleys, ridge beams, of girder trusses.

    ``undersides``: how high those are over each post, by its id, mm.
    """

    reactions: tuple[Reaction, ...] = ()
    undersides: Mapping[str, float] = field(default_factory=dict)


NO_PLACES = AtPlaces()
END = 1.5 * INCH
"""An end of a hip or valley lies on so much of a wall to each side of its middle, mm."""


def load_path(
    keeper: Keeper,
    reactions: tuple[tuple[Reaction, ...], ...],
    area_loads: Cases,
    lines: dict[str, WallLine],
    wall_weights: dict[str, Cases],
    runs: tuple[FoundationRun, ...],
    run_weights: dict[str, Cases],
    openings: dict[str, tuple[Opening, ...]],
    pads: dict[str, Cases],
    places: tuple[PadPlace, ...] = (),
    stands: tuple[Stand, ...] = (),
    makers: Mapping[str, Maker] = NO_MAKERS,
    decks: tuple[Deck, ...] = (),
    by: Any = None,
    beams: Beams = NO_BEAMS,
    beyond: tuple[tuple[Reaction, ...], ...] = (),
    ends: AtPlaces = NO_PLACES,
) -> LoadPath:
    """Follow the reactions down through walls, decks and columns to the feet of the foundation walls and to the pads.

    ``reactions`` of each layout; ``wall_weights``, ``run_weights``: own weights, ``pads``: what was put on each pad by
    itself, N.  ``stands``: what stands free, ``makers``: what designs those of each kind for what they carry; ``decks``:
    the floors that can be stood on; ``by``: the standard that they go by; ``beams``: beams and what designs them; ``beyond``:
    what joists that run on bring to their bearings beyond their full load; it is no part of the balance; ``ends``: what comes in single places.  Each carrier is a step of its own that the keeper remembers.
    """
    below, circles = keeper.step("stands on", stands_on, lines, runs, places, stands, decks, beams.lines)
    sweep = _Sweep(keeper, lines, runs, places, stands, makers, wall_weights | run_weights, openings, decks, by, beams)
    sweep.bring(ends)
    sweep.run(below, reactions, beyond)
    every = (
        *(r for group in reactions for r in group),
        *ends.reactions,
        *(r for made in sweep.floored.values() for r in made.reactions),
    )
    sweep.lost += [r for r in every if r.bearer not in sweep.spans and r.bearer not in sweep.columns]
    own = sweep.own_weights()
    on_pads = {pad: total((put, *(laid.sum for laid in sweep.handed.get(pad, ())))) for pad, put in pads.items()}
    carried = sweep.carried
    return LoadPath(
        every,
        {w: carried[w].total for w in lines},
        {run.id: carried[run.id].total for run in runs},
        total((area_loads, *own, *pads.values())),
        tuple(sweep.lost),
        {name: made.along for name, made in carried.items()},
        {name: tuple(seat.on for seat in on if seat.on) for name, on in below.items() if name in sweep.stand},
        on_pads,
        sweep.shares,
        {w: carried[w].head for w in lines},
        sweep.columned,
        sweep.floored,
        {name: gaps for name, on in below.items() if (gaps := tuple(s.span for s in on if not s.on and s.span))},
        circles,
        sweep.beamed,
        sweep.extremes,
        {run.id: more for run in runs if (more := carried[run.id].beyond) is not None},
    )


class _Sweep:
    """One way down: each carrier takes what was handed to it, by its law, and hands on."""

    def __init__(
        self,
        keeper: Keeper,
        lines: dict[str, WallLine],
        runs: tuple[FoundationRun, ...],
        places: tuple[PadPlace, ...],
        stands: tuple[Stand, ...],
        makers: Mapping[str, Maker],
        weights: dict[str, Cases],
        openings: dict[str, tuple[Opening, ...]],
        decks: tuple[Deck, ...],
        by: Any,
        beams: Beams,
    ) -> None:
        self.keeper, self.lines, self.weights, self.openings = keeper, lines, weights, openings
        self.columns, self.makers = {stand.id: stand for stand in stands}, makers
        self.on_pad = {column: place.pad for place in places for column in place.columns}
        self.bands = {w: line.band for w, line in lines.items()} | {run.id: lines[run.wall].band for run in runs}
        self.on_lines: dict[str, Lying] = {**self.bands, **{beam.id: beam for beam in beams.lines}}
        self.spans = {name: keeper.keep(f"span {name}", span) for name, span in _spans(lines, runs).items()}
        self.decks, self.by = {deck.id: deck for deck in decks}, by
        self.beams, self.girders = {beam.id: beam for beam in beams.lines}, beams
        self.spans |= {name: keeper.keep(f"span {name}", (0.0, round(b.length, 6))) for name, b in self.beams.items()}
        self.beamed: dict[str, Beamed] = {}
        self.extremes: dict[str, Extremes] = {}
        self.heads: dict[str, float] = {}
        self.stand = {*lines, *self.columns, *self.beams}
        self.handed: dict[str, list[Laid]] = {}
        self.points: dict[str, list[PointLoad]] = {}
        self.over: dict[str, str] = {}
        self.spots: dict[str, list[Spot]] = {}
        self.through: dict[str, list[Laid]] = {}
        self.floored: dict[str, Floored] = {}
        self.carried: dict[str, Carried] = {}
        self.columned: dict[str, Columned] = {}
        self.shares: dict[tuple[str, str], Cases] = {}
        self.lost: list[Reaction] = []
        self.beyond: dict[str, list[Laid]] = {}

    def own_weights(self) -> tuple[Cases, ...]:
        """Return what walls, posts and beams themselves weigh, N."""
        walls = (c.total.own for c in self.carried.values())
        posts, beams = (c.post.own for c in self.columned.values()), (b.design.own for b in self.beamed.values())
        return (*walls, *posts, *beams)

    def bring(self, ends: AtPlaces) -> None:
        """Put what comes in single places on walls, beams and posts; on a wall, what lies at one place together."""
        self.heads |= {post: z for post, z in ends.undersides.items() if post in self.columns}
        on_walls: dict[tuple[str, str], dict[float, list[Cases]]] = {}
        for r in ends.reactions:
            if r.bearer in self.columns:
                laid = self.keeper.keep(f"end {r.piece} on {r.bearer}", laid_evenly(-END, END, r.force))
                self.handed.setdefault(r.bearer, []).append(laid)
            elif r.bearer in self.spans:
                band = self.on_lines[r.bearer]
                along = round(off_line(r.at, band.start, band.end)[0], 3)
                on_walls.setdefault((owner_of(r.piece), r.bearer), {}).setdefault(along, []).append(r.force)
        for (owner, wall), rows in on_walls.items():
            for k, (along, forces) in enumerate(sorted(rows.items())):
                if wall in self.beams:
                    at = min(max(along, END), self.beams[wall].length - END)
                    laid = self.keeper.keep(
                        f"end {owner} {k} on {wall}", laid_evenly(at - END, at + END, total(forces))
                    )
                    self.handed.setdefault(wall, []).append(laid)
                    continue
                point = PointLoad(f"{owner}.{wall}.{k}", along - END, along + END, total(forces))
                self.points.setdefault(wall, []).append(point)

    def run(
        self,
        below: dict[str, On],
        reactions: tuple[tuple[Reaction, ...], ...],
        beyond: tuple[tuple[Reaction, ...], ...],
    ) -> None:
        """Go from above to below."""
        self.beyond = _laid_on(self.keeper, beyond, self.on_lines, self.spans, "beyond ")
        on = _laid_on(self.keeper, reactions, self.on_lines, self.spans)
        for name, under in below.items():
            if name in self.columns:
                self._column(name, under)
            elif name in self.decks:
                self._deck(self.decks[name])
            elif name in self.beams:
                self._beam(name, under, [*on.get(name, ()), *self.through.get(name, ())])
            else:
                self._wall(name, under, [*on.get(name, ()), *self.through.get(name, ())])

    def _column(self, name: str, under: On) -> None:
        stand = self.columns[name]
        typed = self.keeper.keep(f"typed {name}", typed_at(self.on_pad.get(name)))
        at, laid = under[0].at if under else None, self.handed.get(name, ())
        plates = self.keeper.keep(
            f"plates {name}", (self._plate(under[0].on if under else ""), self.over.get(name, ""))
        )
        maker = self.makers[stand.kind]
        if name in self.heads:  # a beam lies on it
            stand = self.keeper.keep(f"cut {name}", replace(stand, head=self.heads[name]))
        beyond = self.extremes.get(name, NONE_MORE)
        more = self.keeper.keep(f"more on {name}", beyond.more)
        made = self.keeper.step(f"carried {name}", carry_column, stand, maker, typed, at, plates, self.by, more, *laid)
        self.columned[name] = made
        if not under:
            self.lost.append(Reaction(name, "", stand.at, made.foot))
        elif under[0].on in self.decks:
            self._on_deck(name, under[0].on, Spot(stand.at, self.decks[under[0].on].plan.frame.t, name))
        elif under[0].on in self.spans and under[0].on not in self.beams:
            self._point(name, under[0].on, made.handed[0], beyond)
            return
        if under:
            self._beyond(under[0].on, beyond)
        self._hand(name, under, made.handed)

    def _point(self, name: str, wall: str, handed: Laid, beyond: Extremes) -> None:
        """Put a column or the end of a beam on a wall or run."""
        point = PointLoad(name, float(handed.low[0]), float(handed.high[0]), handed.sum, beyond.more)
        self.points.setdefault(wall, []).append(point)
        self._shared(name, wall, handed.sum)
        self._beyond(wall, beyond)

    def _beyond(self, name: str, beyond: Extremes) -> None:
        if any(beyond.more) or any(beyond.less):
            self.extremes[name] = self.extremes.get(name, NONE_MORE).plus(beyond)

    def _beam(self, name: str, under: On, members: list[Laid]) -> None:
        """Solve a beam with what lies on it; what it hands down goes to its seats."""
        keep, beam, make = self.keeper.keep, self.beams[name], self.girders.make
        assert make is not None
        line = keep(f"beam {name}", beam)
        seats = keep(f"seats of {name}", tuple(BeamSeat(s.on, s.along, s.bearing, s.at) for s in under))
        held = keep(f"held {name}", self.girders.held.get(name))
        laid = (*members, *self.handed.get(name, ()))
        more = self._more(name)
        made = self.keeper.step(f"carried {name}", carry_beam, line, make, seats, held, self.by, more, *laid)
        self.beamed[name] = made
        if not made.handed:
            self.lost.append(Reaction(name, "", beam.start, made.load))
            return
        bottom = round(make.underside(beam, made.design.section), 6)
        for seat, handed, beyond in zip(under, made.handed, made.extremes, strict=True):
            if seat.on in self.columns:
                self.heads[seat.on] = min(bottom, self.heads.get(seat.on, bottom))
                self.over[seat.on] = beam.beam.species if made.design.section.board is not None else ""
            if seat.on in self.lines or (seat.on in self.spans and seat.on not in self.beams):
                self._point(name, seat.on, handed, beyond)
                continue
            self._beyond(seat.on, beyond)
            self._hand(name, (seat,), (handed,))

    def _more(self, name: str) -> Laid | None:
        """Return what joists that run on bring beyond their full load."""
        parts = self.beyond.get(name)
        return self.keeper.keep(f"beyond on {name}", laid_together(parts)) if parts else None

    def _plate(self, wall: str) -> str:
        """Return the species of a framed wall's plates, "" for anything else."""
        line = self.lines.get(wall)
        return line.wall.framing.header_species if line is not None and stud_size(line.buildup) is not None else ""

    def _deck(self, deck: Deck) -> None:
        """Lay on the joists of a floor what stands on its deck; what they hand down goes to their bearings."""
        keeper, parts = self.keeper, list[Any](deck.typed)
        for spot, laid in zip(self.spots.get(deck.id, ()), self.handed.get(deck.id, ()), strict=True):
            parts += [spot, laid]
        made = keeper.step(f"carried {deck.id}", carry_deck, deck, *parts)
        self.floored[deck.id] = made
        for bearer, rows in keeper.step(f"bearers under {deck.id}", by_bearer, made.reactions).items():
            if bearer in self.spans:
                laid = keeper.step(
                    f"laid through {deck.id} {bearer}", lay, rows, self.on_lines[bearer], self.spans[bearer]
                )
                self.through.setdefault(bearer, []).append(laid)

    def _wall(self, name: str, under: On, members: list[Laid]) -> None:
        keep = self.keeper.keep
        made = self.keeper.step(
            f"carried {name}",
            carry,
            name,
            self.spans[name],
            self.weights[name],
            self.openings.get(name, ()) if name in self.lines else (),
            keep(f"points on {name}", tuple(self.points.get(name, ()))),
            self._more(name),
            *members,
            MEMBERS_END,
            *self.handed.get(name, ()),
            WALLS_END,
            *[keep(f"{name} on {seat.on} {i}", self._how(name, seat)) for i, seat in enumerate(under)],
        )
        self.carried[name] = made
        if name in self.lines and not under:
            self.lost.append(Reaction(name, "", self.bands[name].start, made.total.foot))
        handed: list[Laid] = []
        for seat, rest, points in zip(under, made.handed, made.points, strict=True):
            down = [laid_evenly(p.low, p.high, p.force) for p in points]
            if seat.on in self.lines:  # posts go on in the wall below
                self.points.setdefault(seat.on, []).extend(points)
                self._shared(name, seat.on, total(p.force for p in points))
                down = []
            laid = keep(f"{name} to {seat.on} {len(handed)}", laid_together((rest, *down))) if down else rest
            handed.append(laid)
            if not seat.on and seat.span:
                at = self.bands[name].at(sum(seat.span) / 2.0, self.bands[name].set_out)
                self.lost.append(Reaction(name, "", at, laid.sum))
            elif seat.on in self.columns:
                self.over[seat.on] = self._plate(name)
            elif seat.on in self.decks:
                self._on_deck(name, seat.on, Spot(*core_line(self.lines[name]), name))
        for seat, more in zip(under, made.beyond_below, strict=False):
            if seat.on in self.spans:
                self.beyond.setdefault(seat.on, []).append(keep(f"beyond {name} {seat.on}", more))
            elif seat.on:
                self._beyond(seat.on, Extremes(more.sum))
        for seat in under:
            if seat.on and name in self.extremes:  # each may have all of it
                self._beyond(seat.on, self.extremes[name])
        self._hand(name, under, tuple(handed))

    def _on_deck(self, name: str, deck: str, spot: Spot) -> None:
        rows = self.spots.setdefault(deck, [])
        rows.append(self.keeper.keep(f"spot of {name} on {deck} {len(rows)}", spot))

    def _how(self, name: str, seat: Seat) -> Under:
        """Return how a wall stands on a wall, run, column or deck under it."""
        if seat.span is not None:
            return (0.0, 1.0, *seat.span)
        if seat.on in self.columns:
            return onto_column(seat.at, self.columns[seat.on].half)
        return standing(self.bands[name], self.on_lines[seat.on], *self.spans[seat.on])

    def _hand(self, name: str, under: On, parts: tuple[Laid, ...]) -> None:
        for seat, laid in zip(under, parts, strict=True):
            if seat.on:
                self.handed.setdefault(seat.on, []).append(laid)
                self._shared(name, seat.on, laid.sum)

    def _shared(self, name: str, other: str, load: Cases) -> None:
        known = self.shares.get((name, other))
        self.shares[(name, other)] = load if known is None else known.plus(load)


def typed_at(pad: Pad | None) -> Cases:
    """Return what was typed at a pad as coming from above, N: it comes through the column on it."""
    return Cases() if pad is None else Cases(dead=pad.dead, live=pad.live, snow=pad.snow, wind=-pad.uplift)


def _spans(lines: dict[str, WallLine], runs: tuple[FoundationRun, ...]) -> dict[str, tuple[float, float]]:
    """Return from where to where along its line each wall and run lies, mm.

    Rounded, so that a wall that only moves with what is on and under it carries what it carried.
    """
    spans = {w: (0.0, round(line.band.length, 6)) for w, line in lines.items()}
    return spans | {run.id: (round(run.span[0], 6), round(run.span[1], 6)) for run in runs}


def _laid_on(
    keeper: Keeper,
    reactions: tuple[tuple[Reaction, ...], ...],
    bands: dict[str, Lying],
    spans: dict[str, tuple[float, float]],
    what: str = "",
) -> dict[str, list[Laid]]:
    """Return by wall or run what the members of each layout lay on it."""
    on: dict[str, list[Laid]] = {}
    for group in reactions:
        layout = owner_of(group[0].piece) if group else ""
        for bearer, rows in keeper.step(f"{what}bearers of {layout}", by_bearer, group).items():
            if bearer in spans:
                laid = keeper.step(f"{what}laid {layout} {bearer}", lay, rows, bands[bearer], spans[bearer])
                on.setdefault(bearer, []).append(laid)
    return on
