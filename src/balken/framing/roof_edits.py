"""Hand edits laid over a gable roof: pairs of rafters moved, taken out, doubled; ties taken out, doubled; tails cut.

A rafter stands with the one across the ridge: what moves, takes out or doubles one of them does so to the pair.  The roof a
pair carried goes to those beside it; a pair without a tie is said, for nothing holds its thrust.
"""

import itertools
from collections.abc import Mapping

from msgspec.structs import replace
from msgspec.structs import replace as other

from balken.catalog.sections import section
from balken.framing.bands import WallLine
from balken.framing.frames import tributary
from balken.framing.hand_edits import (
    LEAST_APART,
    Edited,
    Matched,
    beside,
    laid_beside,
    made_longer,
    made_of,
    match,
    named,
    with_patches,
)
from balken.framing.pieces import MadeOf, MemberLine, Snag
from balken.framing.roofs import RafterStation, RoofPlan, with_stations
from balken.model.kinds.member_edit import MemberEdit
from balken.model.naming import piece_name


def edited_roof(
    plan: RoofPlan, edits: tuple[MemberEdit, ...], sizes: tuple[str, str], lines: dict[str, WallLine]
) -> Edited[RoofPlan]:
    """Lay the hand edits of a roof over its plan; ``sizes``: of its rafters and ties, ``lines``: the walls it reads."""
    owner = plan.roof.id
    if not edits:
        return Edited(plan, {}, frozenset(), ())
    pairs = {plan.rafter_place(station, side): station for station in plan.stations for side in (0, 1)}
    rafters = match((e for e in edits if e.sort == "rafter"), list(pairs))
    by_pair: dict[RafterStation, list[MemberEdit]] = {}
    for place, edit in rafters.by_place.items():
        by_pair.setdefault(pairs[place], []).append(edit)
    snags: list[Snag] = []
    stations = _stations(plan, by_pair, sizes[0], snags)
    after = plan if stations == plan.stations else with_stations(plan, stations, lines)
    made = _rafters_made(after, rafters, sizes[0])
    ties = match((e for e in edits if e.sort == "tie"), [tie.place for tie in after.ties])
    after, of_ties = _with_ties(after, ties, sizes[1], snags)
    made |= of_ties
    lost = (*named(owner, "rafter", rafters), *named(owner, "tie", ties))
    return Edited(replace(after, snags=tuple(snags)), made, frozenset(made), lost)


def _snag(plan: RoofPlan, t: float, text: str, kind: str = "hand edit") -> Snag:
    return Snag(kind, text, plan.roof.id, (*plan.frame.back(plan.low, t), plan.bearing))


def _stations(
    plan: RoofPlan, by_pair: Mapping[RafterStation, list[MemberEdit]], size: str, snags: list[Snag]
) -> tuple[RafterStation, ...]:
    """Return the pairs as they stand after the edits, each with the width of roof it then carries."""
    kept: list[tuple[RafterStation, int, str]] = []
    for station in plan.stations:
        edits = by_pair.get(station, [])
        out = any(e.removed for e in edits)
        moved = next((e.moved for e in edits if e.moved), 0.0)
        if station.end and (out or moved):
            snags.append(_snag(plan, station.t, "the rafters over a gable stay where they are"))
            out, moved = False, 0.0
        if any(e.moved and e.moved != moved for e in edits):
            snags.append(_snag(plan, station.t, "the two rafters of a pair are moved by different distances"))
        if out:
            continue
        more = max((e.more for e in edits), default=0)
        own = next((made_of(e, size).sized(size) for e in edits if e.more), size)
        kept.append((replace(station, t=station.t + moved), more, own))
    ordered = sorted(kept, key=lambda row: row[0].t)
    apart = min((b[0].t - a[0].t for a, b in itertools.pairwise(ordered)), default=LEAST_APART)
    same = [row[0].named for row in ordered] == [row[0].named for row in kept]
    if not same or apart < LEAST_APART - 1e-6:
        snags.append(_snag(plan, kept[0][0].t, "rafters cannot be moved past the next ones"))
        back = {station.named: station.t for station in plan.stations}
        kept = [(replace(station, t=back[station.named]), more, own) for station, more, own in kept]
    widths = tributary([station.t for station, _, _ in kept], plan.t_low, plan.t_high)
    found: list[RafterStation] = []
    for (station, more, own), width in zip(kept, widths, strict=True):
        thick = section(own).breadth
        inward = -1.0 if station.t + more * thick > plan.t_high else 1.0
        first = replace(station, width=width / (more + 1), tied=0.0 if station.end else width, beside=more * thick)
        found.append(first)
        found += [replace(first, t=first.t + k * inward * thick, which=k, tied=0.0) for k in range(1, more + 1)]
    return tuple(found)


def _rafters_made(plan: RoofPlan, found: Matched, size: str) -> dict[str, MadeOf]:
    made: dict[str, MadeOf] = {}
    for station in plan.stations:
        for side in (0, 1):
            first = plan.rafter_place(replace(station, which=0), side)
            edit = found.by_place.get(first)
            if edit is not None:
                name = piece_name(plan.roof.id, "rafter", plan.rafter_place(station, side))
                made[name] = other(made_of(edit, size), longer=edit.longer)
    return made


# Ties -----------------------------------------------------------------------------------------------


def _with_ties(plan: RoofPlan, found: Matched, size: str, snags: list[Snag]) -> tuple[RoofPlan, dict[str, MadeOf]]:
    """Return the plan with its edited ties, and what they are made of."""
    ties, strips, made = list(plan.ties), list(plan.gable_strips), dict[str, MadeOf]()
    for place, edit in found.by_place.items():
        tie = next(tie for tie in ties if tie.place == place)
        own = made_of(edit, size)
        if edit.removed:
            ties.remove(tie)
            _hand_on(plan, ties, strips, tie)
            snags.append(_snag(plan, tie.t, "a pair of rafters has no tie", "no tie"))
            continue
        if edit.longer:
            ties[ties.index(tie)] = tie = _longer(plan, tie, edit.longer, snags)
        for alike in (tie.place, *laid_beside(ties, tie, edit.more, section(own.sized(size)).breadth)):
            made[piece_name(plan.roof.id, "tie", alike)] = own
    return replace(plan, ties=tuple(ties), gable_strips=(strips[0], strips[1])), made


def _hand_on(plan: RoofPlan, ties: list[MemberLine], strips: list[float], gone: MemberLine) -> None:
    """Give the ceiling a tie carried to those beside it, half to each side, or to the gable there."""
    for side in (-1, 1):
        covered = beside(ties, gone.t, gone.load_low, gone.load_high, side)
        for a, b, i in covered:
            ties[i] = with_patches(ties[i], (a, b, gone.width / 2.0))
        bare = gone.load_high - gone.load_low - sum(b - a for a, b, _ in covered)
        strips[0 if side < 0 else 1] += max(bare, 0.0) * gone.width / 2.0


def _longer(plan: RoofPlan, tie: MemberLine, by: float, snags: list[Snag]) -> MemberLine:
    longer = made_longer(tie, by)
    if longer.bearings[1] <= 0.0:
        snags.append(_snag(plan, tie.t, "a tie is cut too short to bear at its end", "no bearing"))
    return longer
