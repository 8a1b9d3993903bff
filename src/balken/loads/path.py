"""The load path: area loads to members, members to bearings, walls to foundations, footings to soil."""

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from typing import Any, Protocol, TypeVar

import numpy as np

from balken.catalog.materials import weight
from balken.framing.bands import Band, WallLine
from balken.framing.floors import FloorPlan, floor_area
from balken.framing.foundations import FoundationRun
from balken.framing.pads import PadPlace
from balken.framing.pieces import MemberLine, Piece
from balken.framing.roofs import RoofPlan
from balken.geometry.plane import FINE, Point, off_line
from balken.loads.along import (
    MEMBER_SPREAD,
    Diagram,
    Laid,
    Spread,
    Under,
    beside_openings,
    hand_down,
    kept_within,
    laid_evenly,
    laid_together,
    standing,
)
from balken.loads.cases import Cases, total
from balken.loads.stands import Columned, Maker, Stand, carry_column, on_columns, onto_column, under_column
from balken.model.naming import owner_of, piece_name
from balken.model.records import Loads, Opening, Pad
from balken.value import Value

T = TypeVar("T")


class Reaction(Value, frozen=True):
    """What one member (or strip) hands to one bearer: newtons by case, at a plan point."""

    piece: str
    bearer: str
    at: Point
    force: Cases


@dataclass(frozen=True, slots=True)
class LineTotal:
    """All that a wall or foundation wall carries to its foot, in newtons by case."""

    id: str
    length: float
    members: Cases
    walls: Cases
    own: Cases

    @property
    def foot(self) -> Cases:
        """Load at its foot, N."""
        return total((self.members, self.walls, self.own))

    @property
    def own_line(self) -> Cases:
        """Its own weight along it, N/mm, to the nearest 0.01."""
        return _rounded(self.own, self.length)

    @property
    def per_length(self) -> Cases:
        """Line load at its foot, N/mm (kN/m)."""
        return self.foot.scaled(1.0 / self.length) if self.length else Cases()


def _rounded(cases: Cases, length: float) -> Cases:
    return Cases(*(round(c / length, 2) for c in cases)) if length else Cases()


@dataclass(frozen=True, slots=True)
class LoadPath:
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

    @property
    def arrived(self) -> Cases:
        """Sum at the feet of foundation walls and on pads, N."""
        return total((*(line.foot for line in self.runs.values()), *self.pads.values()))


def floor_cases(loads: Loads) -> Cases:
    """Return a floor's area load by case, kN/m2."""
    return Cases(dead=loads.floor_dead, live=loads.floor_live)


def roof_cases(loads: Loads, pitch: float) -> Cases:
    """Return a roof's load by case per m2 of plan, kN/m2.

    Dead load lies on the slope and is brought to plan; ground snow is taken as roof snow, as the
    span tables of IRC R802.4.1 do.
    """
    return Cases(dead=loads.roof_dead * (1.0 + pitch**2) ** 0.5, roof_live=loads.roof_live, snow=loads.ground_snow)


def ceiling_cases(loads: Loads) -> Cases:
    """Return the ceiling's area load by case, kN/m2."""
    return Cases(dead=loads.ceiling_dead, live=loads.attic_live)


def _split(line: MemberLine) -> tuple[float, float]:
    """Return the areas (mm2) whose load goes to the low and the high support."""
    a, b = line.centres
    high = whole = 0.0
    for low_end, high_end, width in line.loaded:
        part = (high_end - low_end) * width
        whole += part
        high += part * ((high_end + low_end) / 2.0 - a) / (b - a)
    return whole - high, high


def _line_reactions(
    key: str, line: MemberLine, area_load: Cases, place: Callable[[float, float], Point]
) -> list[Reaction]:
    return [
        Reaction(key, support, place(centre, line.t), area_load.scaled(part / 1000.0))
        for support, centre, part in zip(line.supports, line.centres, _split(line), strict=True)
    ]


def floor_reactions(plan: FloorPlan, loads: Loads) -> tuple[Reaction, ...]:
    """Return what the joists and edge joists of a floor hand down; kN/m2 x mm2 / 1000 = N."""
    q = floor_cases(loads)
    found: list[Reaction] = []
    for line in plan.lines:
        found += _line_reactions(piece_name(plan.floor.id, "joist", line.place), line, q, plan.frame.back)
    for strip in plan.edges:
        found.append(Reaction(piece_name(plan.floor.id, "rim"), strip.bearer, strip.at, q.scaled(strip.area / 1000.0)))
    return tuple(found)


def roof_reactions(plan: RoofPlan, loads: Loads) -> tuple[Reaction, ...]:
    """Return what rafters, ties and the ceiling beside the gables hand down.

    Rafter pairs lean on one another: under load alike on both sides the ridge carries nothing
    upright, so each rafter brings all of its load to its eave (three-hinged arch); the thrust
    stays in the tie.
    """
    q, c, roof = roof_cases(loads, plan.roof.pitch), ceiling_cases(loads), plan.roof
    found: list[Reaction] = []
    for station in plan.stations:
        for side, s in enumerate((plan.low, plan.high)):
            wall = plan.eave_at(side, station.t)
            load = q.scaled((plan.half + roof.overhang) * station.width / 1000.0)
            inward = plan.plate / 2.0 if side == 0 else -plan.plate / 2.0
            found.append(
                Reaction(
                    piece_name(roof.id, "rafter", plan.rafter_place(station, side)),
                    wall,
                    plan.frame.back(s + inward, station.t),
                    load,
                )
            )
    for tie in plan.ties:
        found += _line_reactions(piece_name(roof.id, "tie", tie.place), tie, c, plan.frame.back)
    for parts, area, t in zip(plan.gables, plan.gable_strips, (plan.t_low, plan.t_high), strict=True):
        long = sum(part.high - part.low for part in parts)
        for part in parts:
            at, share = plan.frame.back((part.low + part.high) / 2.0, t), (part.high - part.low) / long
            found.append(Reaction(piece_name(roof.id, "ceiling"), part.wall, at, c.scaled(area * share / 1000.0)))
    return tuple(found)


def thrust(plan: RoofPlan, loads: Loads, width: float | None = None) -> Cases:
    """Return the tension in one tie from its pair of rafters, N by case; the widest apart unless ``width`` is given.

    Three-hinged arch: horizontal thrust = (moment of the half-roof's load about the eave) / rise.
    """
    over = plan.roof.overhang
    rise = plan.half * plan.roof.pitch
    if width is None:
        width = max((station.width for station in plan.stations), default=0.0)
    arm = (plan.half**2 - over**2) / 2.0
    return roof_cases(loads, plan.roof.pitch).scaled(max(arm, 0.0) * width / rise / 1000.0)


def applied_area_loads(floors: tuple[FloorPlan, ...], roofs: tuple[RoofPlan, ...], loads: Loads) -> Cases:
    """Return area loads times areas, N: worked out from outlines, not from members, to check against."""
    found = [floor_cases(loads).scaled(floor_area(plan) / 1000.0) for plan in floors]
    for plan in roofs:
        along, across = plan.t_high - plan.t_low, plan.high - plan.low
        roof_plan_area = (across + 2.0 * plan.roof.overhang) * along
        found.append(roof_cases(loads, plan.roof.pitch).scaled(roof_plan_area / 1000.0))
        found.append(ceiling_cases(loads).scaled(across * along / 1000.0))
    return total(found)


def own_weight(piece: Piece) -> Cases:
    """Return a piece's own weight, N."""
    return Cases(dead=weight(piece.material) * piece.volume * 1e-6)


def weigh(pieces: tuple[Piece, ...]) -> Cases:
    """Return the own weight of pieces together, N; the same, to the last figure, wherever they stand."""
    return Cases(dead=round(sum(own_weight(p).dead for p in pieces), 6))


class Keeper(Protocol):
    """What remembers the results of steps: see ``balken.memo.Memo``."""

    def step(self, name: str, make: Callable[..., T], *read: Any) -> T:
        """Return ``make(*read)``, or its last result when it read the same objects."""
        ...

    def keep(self, name: str, value: T) -> T:
        """Return the object kept under a name when it equals ``value``."""
        ...


@dataclass(frozen=True, slots=True)
class HeadLoad:
    """What lies on a wall's head, where it lies: of members that bear on it, and of walls that stand on it."""

    members: Laid
    walls: Laid

    @property
    def all(self) -> Laid:
        """Both together."""
        return laid_together((self.members, self.walls))


@dataclass(frozen=True, slots=True)
class Carried:
    """What one wall or run carries: its totals, how they lie along it, what it hands down to each under it."""

    total: LineTotal
    along: Diagram
    handed: tuple[Laid, ...]
    head: HeadLoad


NO_MAKERS: Mapping[str, Maker] = {}
On = tuple[tuple[str, float], ...]
"""What something stands on, each with the place of a column along it, mm (0 for walls)."""


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
) -> LoadPath:
    """Follow the reactions down through walls and columns to the feet of the foundation walls and to the pads.

    ``reactions`` of each layout; ``wall_weights``, ``run_weights``: own weights, ``pads``: what was put on each
    pad by itself, N.  ``stands``: the columns, ``makers``: what designs
    those of each kind for what they carry.  Each wall, run and
    column is a step of its own that the keeper remembers.
    """
    every = tuple(r for group in reactions for r in group)
    below = keeper.step("stands on", stands_on, lines, runs, places, stands)
    sweep = _Sweep(keeper, lines, runs, places, stands, makers, wall_weights | run_weights, openings)
    sweep.lost = [r for r in every if r.bearer not in below]
    sweep.run(below, reactions)
    own = (*(c.total.own for c in sweep.carried.values()), *(c.post.own for c in sweep.columned.values()))
    on_pads = {pad: total((put, *(laid.sum for laid in sweep.handed.get(pad, ())))) for pad, put in pads.items()}
    carried = sweep.carried
    return LoadPath(
        every,
        {w: carried[w].total for w in lines},
        {run.id: carried[run.id].total for run in runs},
        total((area_loads, *own, *pads.values())),
        tuple(sweep.lost),
        {name: made.along for name, made in carried.items()},
        {name: tuple(o for o, _ in on) for name, on in below.items() if name in lines or name in sweep.columns},
        on_pads,
        sweep.shares,
        {w: carried[w].head for w in lines},
        sweep.columned,
    )


class _Sweep:
    """One way down: each wall, run and column takes what was handed to it and hands on."""

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
    ) -> None:
        self.keeper, self.lines, self.weights, self.openings = keeper, lines, weights, openings
        self.columns, self.makers = {stand.id: stand for stand in stands}, makers
        self.on_pad = {column: place.pad for place in places for column in place.columns}
        self.bands = {w: line.band for w, line in lines.items()} | {run.id: lines[run.wall].band for run in runs}
        self.spans = {name: keeper.keep(f"span {name}", span) for name, span in _spans(lines, runs).items()}
        self.handed: dict[str, list[Laid]] = {}
        self.carried: dict[str, Carried] = {}
        self.columned: dict[str, Columned] = {}
        self.shares: dict[tuple[str, str], Cases] = {}
        self.lost: list[Reaction] = []

    def run(self, below: dict[str, On], reactions: tuple[tuple[Reaction, ...], ...]) -> None:
        """Go from above to below."""
        on = _laid_on(self.keeper, reactions, self.bands, self.spans)
        for name, under in below.items():
            if name in self.columns:
                self._column(name, under)
            else:
                self._wall(name, under, on.get(name, []))

    def _column(self, name: str, under: On) -> None:
        stand = self.columns[name]
        typed = self.keeper.keep(f"typed {name}", typed_at(self.on_pad.get(name)))
        foot, laid = under[0] if under else None, self.handed.get(name, ())
        made = self.keeper.step(f"carried {name}", carry_column, stand, self.makers[stand.kind], typed, foot, *laid)
        self.columned[name] = made
        if foot is None:
            self.lost.append(Reaction(name, "", stand.at, made.foot))
        self._hand(name, under, made.handed)

    def _wall(self, name: str, under: On, members: list[Laid]) -> None:
        keep = self.keeper.keep
        made = self.keeper.step(
            f"carried {name}",
            carry,
            name,
            self.spans[name],
            self.weights[name],
            self.openings.get(name, ()) if name in self.lines else (),
            *members,
            MEMBERS_END,
            *self.handed.get(name, ()),
            WALLS_END,
            *[keep(f"{name} on {other}", self._how(name, other, at)) for other, at in under],
        )
        self.carried[name] = made
        if name in self.lines and not under:
            self.lost.append(Reaction(name, "", self.bands[name].start, made.total.foot))
        self._hand(name, under, made.handed)

    def _how(self, name: str, other: str, at: float) -> Under:
        """Return how a wall stands on a wall, run or column under it."""
        if other in self.columns:
            return onto_column(at, self.columns[other].half)
        return standing(self.bands[name], self.bands[other], *self.spans[other])

    def _hand(self, name: str, under: On, parts: tuple[Laid, ...]) -> None:
        for (other, _), laid in zip(under, parts, strict=True):
            self.handed.setdefault(other, []).append(laid)
            self.shares[(name, other)] = laid.sum


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
    bands: dict[str, Band],
    spans: dict[str, tuple[float, float]],
) -> dict[str, list[Laid]]:
    """Return by wall or run what the members of each layout lay on it."""
    on: dict[str, list[Laid]] = {}
    for group in reactions:
        layout = owner_of(group[0].piece) if group else ""
        for bearer, rows in keeper.step(f"bearers of {layout}", by_bearer, group).items():
            if bearer in spans:
                laid = keeper.step(f"laid {layout} {bearer}", lay, rows, bands[bearer], spans[bearer])
                on.setdefault(bearer, []).append(laid)
    return on


def stands_on(
    lines: dict[str, WallLine],
    runs: tuple[FoundationRun, ...],
    places: tuple[PadPlace, ...] = (),
    stands: tuple[Stand, ...] = (),
) -> dict[str, On]:
    """Return walls, columns and runs from above to below, each with those that take its load."""
    run_of = {run.wall: run for run in runs}
    feet = {w: line.band.bottom for w, line in lines.items()} | {stand.id: stand.foot for stand in stands}
    known = {stand.id: stand for stand in stands}
    found: dict[str, On] = {}
    for name in sorted(feet, key=lambda n: -feet[n]):
        if name in known:
            foot = under_column(known[name], stands, places, lines, runs)
            found[name] = () if foot is None else (foot,)
            continue
        run = run_of.get(name)
        found[name] = ((run.id, 0.0),) if run else _under_wall(lines[name], lines, stands)
    return found | {run.id: () for run in runs}


def _under_wall(line: WallLine, lines: dict[str, WallLine], stands: tuple[Stand, ...]) -> On:
    """Return the walls and columns that a wall stands on; none where it hangs over at an end."""
    walls, columns = walls_below(line, lines, whole=not stands), on_columns(line, stands)
    if not columns:
        covered = sum(part for _, part in walls)
        return tuple((other, 0.0) for other, _ in walls) if covered >= LEAST_COVERED * line.band.length else ()
    return (*((other, 0.0) for other, _ in walls), *((c, along) for c, along, _ in columns))


def by_bearer(reactions: tuple[Reaction, ...]) -> dict[str, tuple[Reaction, ...]]:
    """Return the reactions of one layout by the wall or run they go to."""
    found: dict[str, list[Reaction]] = {}
    for r in reactions:
        found.setdefault(r.bearer, []).append(r)
    return {bearer: tuple(rows) for bearer, rows in found.items()}


Span = tuple[float, float]
"""From where to where along its line something can bear on a wall or run, mm."""


def lay(reactions: tuple[Reaction, ...], band: Band, span: Span) -> Laid:
    """Return reactions as they lie along the line of their bearer; an edge joist lies along all of it."""
    first, last = span
    (x0, y0), (dx, dy), half = band.start, band.direction, MEMBER_SPREAD / 2.0
    lows, highs = [], []
    for r in reactions:
        if r.piece.endswith(("/rim", "/ceiling")):
            lows.append(first)
            highs.append(last)
        else:
            x, y = r.at
            at = round(((x - x0) * dx + (y - y0) * dy) * FINE) / FINE
            lows.append(at - half)
            highs.append(at + half)
    forces = np.array([r.force for r in reactions])
    return Laid(np.array(lows), np.array(highs), forces, Cases(*forces.sum(axis=0).tolist()))


MEMBERS_END, WALLS_END = "members", "walls"
"""Stand between what a wall carries and what is under it, so that a keeper sees each thing by itself."""


def carry(name: str, span: Span, own: Cases, openings: tuple[Opening, ...], *parts: Any) -> Carried:
    """Return what one wall or run carries, from members that bear on it, walls that stand on it, and its own weight.

    ``parts``: loads of members, MEMBERS_END, loads of walls, WALLS_END, how it stands on what is under it.
    """
    first, second = parts.index(MEMBERS_END), parts.index(WALLS_END)
    members, walls, below = parts[:first], parts[first + 1 : second], parts[second + 1 :]
    low, high = span
    head = HeadLoad(kept_within(laid_together(members), low, high), kept_within(laid_together(walls), low, high))
    own_laid = laid_evenly(low, high, own)
    foot = kept_within(beside_openings(laid_together((head.walls, head.members, own_laid)), openings), low, high)
    spread = Spread(low, high)
    spread.put_many(foot.low, foot.high, foot.loads)
    sums = total(laid.sum for laid in members), total(laid.sum for laid in walls)
    made = LineTotal(name, high - low, *sums, own)
    return Carried(made, spread.done(), hand_down(foot, below), head)


LEAST_COVERED = 0.95
"""A wall stands when at least this part of its length has walls under it."""


def walls_below(line: WallLine, lines: dict[str, WallLine], whole: bool = True) -> tuple[tuple[str, float], ...]:
    """Return the walls on which a wall stands, each with how much of its length lies over it, mm.

    They lie on its line, their heads at most 2 ft below its foot.  ``whole``: none when it does not stand on them alone.
    """
    b = line.band
    found: list[tuple[str, float]] = []
    for other_id, other in lines.items():
        o = other.band
        if other is line or not 0.0 <= b.bottom - o.top < 610.0:
            continue
        along_a, aside_a = off_line(b.start, o.start, o.end)
        along_b, aside_b = off_line(b.end, o.start, o.end)
        if max(abs(aside_a), abs(aside_b)) >= 150.0:
            continue
        low, high = max(min(along_a, along_b), -150.0), min(max(along_a, along_b), o.length + 150.0)
        if high - low > 1.0:
            found.append((other_id, high - low))
    if whole and sum(part for _, part in found) < LEAST_COVERED * b.length:
        return ()
    return tuple(found)
