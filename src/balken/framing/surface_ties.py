"""Ceiling ties under roofs of planes: between the feet of two rafters that lean on one another at a ridge board.

They lie beside their rafters on the plates under both eaves, and on inside bearing walls as high as those; or, raised, are nailed to
the sides of the rafters and carry the ceiling between those.
"""

import bisect
import itertools
import math
from collections.abc import Mapping
from typing import NamedTuple

from balken.catalog.sections import section
from balken.framing.bands import WallLine
from balken.framing.frames import Frame
from balken.framing.pieces import NOTHING_EDITED, MadeOf, MemberLine, Piece
from balken.framing.roof_layout import RoofMember
from balken.framing.roofs import inner_bearings, tie_profile
from balken.framing.surface_framing import RafterHeader
from balken.framing.surface_members import AS_OTHERS, Boards, SurfaceMember
from balken.framing.surface_roofs import SurfacePlan
from balken.geometry.plane import Point, distance, dot, off_line, sub, to_segment, unit
from balken.geometry.prism import Prism
from balken.geometry.roof_edges import runs_up
from balken.model.naming import Places, oldest, piece_name, place_at
from balken.units.system import INCH

MEET = 5.0
"""Rafters whose heads lie no farther apart meet, mm."""
NEIGHBOUR = 12.0 * INCH
"""Rafters no farther apart may stand where the tie of one would lie, mm."""
AT_FOOT = 6.0 * INCH
"""So near to its foot a valley takes the place of a tie, mm."""
AT_GABLE = 3.0 * INCH
"""A pair no farther than this from a gable stands over it; its plates hold that pair's feet (common practice, no source)."""
SAME_PLATES = 1.0
"""Rafters whose plates lie farther apart in height have no tie between their feet, mm."""
SAME_HEIGHT = 2.0 * INCH
"""Inside walls whose heads lie no farther from the plates' carry ties, mm."""


class SurfaceTie(NamedTuple):
    """A tie: its name, the two rafters it holds, its line in its frame (s from the first of them to the other)."""

    key: str
    rafters: tuple[str, str]
    frame: Frame
    line: MemberLine
    raised: float = 0.0
    """How high its underside lies over the plates, mm."""


class Leaning(NamedTuple):
    """Rafters that lean on a ridge board: pairs whose feet both stand on plates, those over gables, and those no tie can hold."""

    pairs: tuple[tuple[SurfaceMember, SurfaceMember], ...]
    over_gables: tuple[SurfaceMember, ...]
    untied: tuple[SurfaceMember, ...]


CORNER = 10.0
"""So much of a raised tie's ends is left plumb, mm."""
HIGHEST = 0.75
"""A tie higher than this part of the rise is none (it would be a collar tie)."""


def tied_at(plan: SurfacePlan, m: RoofMember) -> float:
    """Return at which part of its rise a rafter's tie meets it: HC / HR of IRC R802.4.1 and R802.5.2."""
    rise = distance(*m.ends) * plan.edges[m.edges[0]].pitch
    return plan.roof.tie_raise / rise if rise > 0.0 else 0.0


def in_the_air(plan: SurfacePlan, members: tuple[SurfaceMember, ...]) -> tuple[SurfaceMember, ...]:
    """Return rafters whose heads end at a step between planes, over nothing."""
    steps = [x for x in plan.surface.lines if x.kind == "rake" and -1 in x.edges]
    return tuple(
        one
        for one in members
        if one.wall and any(to_segment(one.member.end[:2], x.start[:2], x.end[:2]) < MEET for x in steps)
    )


def leaning(plan: SurfacePlan, members: tuple[SurfaceMember, ...]) -> Leaning:
    """Return which rafters lean on one another."""
    against = [one for one in members if one.wall and one.member.head.kind == "ridge" and not _along(one)]
    if plan.roof.ridge_beams:
        against = []
    heads: dict[tuple[int, int], list[SurfaceMember]] = {}
    for one in against:
        x, y, _ = one.member.end
        heads.setdefault((round(x / MEET), round(y / MEET)), []).append(one)
    lower = [one for one in members if one.wall and one.member.head.kind == "header"]
    pairs, gables, untied = dict[frozenset[str], tuple[SurfaceMember, SurfaceMember]](), [], []
    for one in against:
        if one.member.foot.kind == "header":
            continue  # above an opening: its foot stands on a header, and the tie lies between those on the plates
        other = _opposite(one, heads)
        if other is not None and other.member.foot.kind == "header":
            other = next((tail for tail in lower if tail.wall == other.wall and _in_line(tail, other)), None)
        if other is not None and one.member.laid and other.member.laid:
            continue  # the boards under both are nailed to one deck
        if (
            other is None
            or not (one.member.at_eave and other.member.at_eave)
            or (_out_of_reach(plan, one, other) and not over_gable(plan, one.member))
            or abs(one.member.start[2] - other.member.start[2]) > SAME_PLATES
        ):
            untied.append(one)
        elif over_gable(plan, one.member):
            gables.append(one)
        else:
            first, second = (one, other) if one.member.edges < other.member.edges else (other, one)
            pairs[frozenset((one.key, other.key))] = (first, second)
    return Leaning(tuple(pairs.values()), tuple(gables), tuple(untied))


def _out_of_reach(plan: SurfacePlan, one: SurfaceMember, other: SurfaceMember) -> bool:
    """Whether a raised tie cannot hold a pair: near its ridge, or where an opening cuts a rafter, whose parts it would bend."""
    cut = any(m.member.head.kind == "header" for m in (one, other))
    high = max(tied_at(plan, one.member), tied_at(plan, other.member)) > HIGHEST
    return plan.roof.tie_raise > 0.0 and (cut or high)


def _in_line(a: SurfaceMember, b: SurfaceMember) -> bool:
    """Whether two tails are parts of one rafter's line."""
    return abs(off_line(a.member.start[:2], *b.member.ends)[1]) < 1.0


def _along(one: SurfaceMember) -> bool:
    """Whether a rafter runs on in its ridge, as the middle one of a hip end does: it stands against that, and leans on none."""
    along = one.member.head.along
    return along is not None and abs(dot(unit(*one.member.ends), unit(*along))) > 0.9


def _opposite(one: SurfaceMember, heads: Mapping[tuple[int, int], list[SurfaceMember]]) -> SurfaceMember | None:
    x, y, _ = one.member.end
    way = unit(*one.member.ends)
    for i, j in itertools.product((-1, 0, 1), repeat=2):
        for other in heads.get((round(x / MEET) + i, round(y / MEET) + j), ()):
            met = distance(other.member.end[:2], (x, y)) < MEET
            if met and dot(unit(*other.member.ends), way) < -0.9999:
                return other
    return None


def over_gable(plan: SurfacePlan, m: RoofMember) -> str:
    """Return over which gable beside its eave a rafter stands, "" over none."""
    core, edge = plan.outline.core, m.edges[0]
    n = len(core)
    for corner, beside in ((edge, (edge - 1) % n), ((edge + 1) % n, (edge + 1) % n)):
        if runs_up(plan.edges, edge, beside) and distance(core[corner], m.start[:2]) < AT_GABLE:
            return plan.outline.walls[beside]
    return ""


def surface_ties(
    plan: SurfacePlan,
    pairs: tuple[tuple[SurfaceMember, SurfaceMember], ...],
    rafter: str,
    tie: str,
    spacing: float,
    lines: dict[str, WallLine],
) -> tuple[SurfaceTie, ...]:
    """Lay a tie beside each pair of rafters; ``rafter``, ``tie``: their sections, ``spacing`` apart, mm."""
    bearing = [w for w in lines.values() if w.wall.role == "bearing"]
    aside, places, found = (section(rafter).breadth + section(tie).breadth) / 2.0, Places(), []
    for one, other in pairs:
        if plan.roof.tie_raise > 0.0:
            found.append(_raised(plan, one, other, aside, spacing, places))
            continue
        feet = one.member.start[:2], other.member.start[:2]
        way = unit(*feet)
        frame = Frame(round(math.degrees(math.atan2(way[1], way[0])), 9))
        (low, t), high = frame.to(feet[0]), frame.to(feet[1])[0]
        t += aside
        inside = [w for w in bearing if abs(w.band.top - plan.bearing - one.member.start[2]) < SAME_HEIGHT]
        near, far = (2.0 * plan.deep[m.member.edges[0]] for m in (one, other))
        stops = [
            (low, low + near, one.wall), *inner_bearings(frame, inside, t, low, high), (high - far, high, other.wall)
        ]  # fmt: skip
        along = dot(unit(*_eave(plan, one)), sub(feet[0], _eave(plan, one)[0]))
        for i, (a, b) in enumerate(itertools.pairwise(stops)):
            start = low if i == 0 else (a[0] + a[1]) / 2.0
            end = high if i == len(stops) - 2 else (b[0] + b[1]) / 2.0
            bears = (a[1] - start, end - b[0])
            place = places.text("tie", place_at(oldest([one.wall, other.wall]), along, (a[2], b[2])))
            line = MemberLine(
                place, t, spacing, start, end, start, end, (a[2], b[2]), (start + bears[0] / 2.0, end - bears[1] / 2.0), bears,
                b[0] - a[1],
            )  # fmt: skip
            found.append(SurfaceTie(piece_name(plan.roof.id, "tie", place), (one.key, other.key), frame, line))
    return tuple(found)


def _raised(
    plan: SurfacePlan, one: SurfaceMember, other: SurfaceMember, aside: float, spacing: float, places: Places
) -> SurfaceTie:
    """Lay a tie that is nailed to the sides of two rafters: it spans between the middles of its laps on them."""
    feet, roof = (one.member.start[:2], other.member.start[:2]), plan.roof
    way = unit(*feet)
    frame = Frame(round(math.degrees(math.atan2(way[1], way[0])), 9))
    (low, t), high = frame.to(feet[0]), frame.to(feet[1])[0]
    along = dot(unit(*_eave(plan, one)), sub(feet[0], _eave(plan, one)[0]))
    place = places.text("tie", place_at(oldest([one.wall, other.wall]), along, (one.wall, other.wall)))
    pitches = [plan.edges[m.member.edges[0]].pitch for m in (one, other)]
    # Its lower corners reach up to the deck; it spans between the places where its underside passes the rafters' own.
    reach, (a, b) = roof.tie_raise + CORNER - plan.plate_to_top, (roof.tie_raise / pitch for pitch in pitches)
    start, end = max(low + reach / pitches[0], low), min(high - reach / pitches[1], high)
    line = MemberLine(
        place, t + aside, spacing, start, end, low, high, (one.wall, other.wall), (low, high), (0.0, 0.0),
        max(high - b - low - a, 1.0),
    )  # fmt: skip
    return SurfaceTie(piece_name(roof.id, "tie", place), (one.key, other.key), frame, line, roof.tie_raise)


def _eave(plan: SurfacePlan, one: SurfaceMember) -> tuple[tuple[float, float], tuple[float, float]]:
    core, edge = plan.outline.core, one.member.edges[0]
    return core[edge], core[(edge + 1) % len(core)]


def off_openings(plan: SurfacePlan, headers: tuple[RafterHeader, ...]) -> dict[str, tuple[Point, ...]]:
    """Return by the trimmers of openings which ways in plan lead off those."""
    core, found = plan.outline.core, dict[str, tuple[Point, ...]]()
    for header in headers:
        x, y = unit(core[header.edge], core[(header.edge + 1) % len(core)])
        for key, way in zip(header.trimmers, ((-x, -y), (x, y)), strict=True):
            found[key] = (*found.get(key, ()), way)
    return found


def sides_off(clear: Mapping[str, tuple[Point, ...]], frame: Frame, rafters: tuple[str, ...]) -> tuple[float, ...]:
    """Return on which sides of rafters along a frame a tie may lie: t greater (1), less (-1), where no header of an opening hangs."""
    ways = {1.0 if dot(frame.t, way) > 0.0 else -1.0 for key in rafters for way in clear.get(key, ())}
    return (1.0, -1.0) if not ways else tuple(ways) if len(ways) == 1 else ()


def tie_pieces(
    plan: SurfacePlan,
    ties: tuple[SurfaceTie, ...],
    members: tuple[SurfaceMember, ...],
    headers: tuple[RafterHeader, ...],
    size: str,
    boards: Boards,
    made: Mapping[str, MadeOf] = NOTHING_EDITED,
) -> tuple[Piece, ...]:
    """Return ties as solids, their top corners cut to the roof where they would stand out of it; beside their rafters, however many plies
    these have, on the side where no other rafter or foot of a valley stands and, raised, no header hangs.  ``size``: of all but those of ``made``.
    """
    clear = off_openings(plan, headers) if plan.roof.tie_raise > 0.0 else {}
    by_key, roof = {one.key: one.member for one in members}, plan.roof
    pieces, along = [], dict[float, Standing]()
    lows = [
        (one.member.start[:2], 1.5 * section(boards.lines[one.key]).breadth, one.key)
        for one in members
        if one.member.role == "valley"
    ]

    def feet(frame: Frame) -> list[tuple[float, tuple[float, float, str]]]:
        places = ((frame.to(p), wide, key) for p, wide, key in lows)
        return [(s, (t, wide, key)) for (s, t), wide, key in places]

    for tie in ties:
        one, other = (by_key[key] for key in tie.rafters)
        wood = made.get(tie.key, AS_OTHERS)
        lumber = section(wood.sized(size))
        line, frame, z = tie.line, tie.frame, plan.bearing + one.start[2] + tie.raised
        start, end = (frame.to(m.start[:2])[0] for m in (one, other))
        pitches = plan.edges[one.edges[0]].pitch, plan.edges[other.edges[0]].pitch
        profile = tie_profile(
            line.low - start, line.high - start, lumber.depth, plan.plate_to_top - tie.raised, pitches, end - start
        )
        if frame.angle not in along:
            along[frame.angle] = _standing(frame, members, boards)
        sides = sides_off(clear, frame, tie.rafters) or (1.0, -1.0)
        at_ends = [row for s, row in feet(frame) if line.low - AT_FOOT < s < line.high + AT_FOOT]
        t = _free_side(tie, along[frame.angle], lumber.breadth, sides, at_ends)
        x, y = frame.back(start, t + lumber.breadth / 2.0)
        pieces.append(
            Piece(
                tie.key, "ceiling tie", roof.id, roof.bearing.level,
                Prism((x, y, z), (*frame.s, 0.0), (0.0, 0.0, 1.0), (profile,), lumber.breadth), "timber",
                (*frame.back(line.low, t), z), (*frame.back(line.high, t), z), line.high - line.low, lumber.name,
                wood.species or roof.ties.species, wood.grade or roof.ties.grade,
            )
        )  # fmt: skip
    return tuple(pieces)


Standing = list[tuple[float, float, str]]


def _standing(frame: Frame, members: tuple[SurfaceMember, ...], boards: Boards) -> Standing:
    """Return rafters that run along a frame: where (t), how wide, names; in order of t."""
    rows = []
    for one in members:
        if one.wall:
            t = frame.to(one.member.start[:2])[1]
            if abs(frame.to(one.member.end[:2])[1] - t) < 1.0:
                rows.append((t, section(boards.own.get(one.key, boards.rafter)).breadth, one.key))
    return sorted(rows)


def _free_side(tie: SurfaceTie, standing: Standing, thick: float, sides: tuple[float, ...], at_ends: Standing) -> float:
    """Return where beside its rafters the middle of a tie lies (t of its frame): before them, or behind where another rafter stands
    before them; on sides that are free of openings; ``at_ends``: what stands at its ends.
    """
    own = [row for row in standing if row[2] in tie.rafters]
    if not own:
        return tie.line.t
    middle, off = own[0][0], (max(row[1] for row in own) + thick) / 2.0
    low, high = (bisect.bisect_left(standing, (middle + side,)) for side in (-NEIGHBOUR, NEIGHBOUR))
    near = [*at_ends, *(row for row in standing[low:high] if row[2] not in tie.rafters)]
    for side in (off * x for x in sides):
        if all(abs(t - middle - side) >= (breadth + thick) / 2.0 - 1.0 for t, breadth, _ in near):
            return middle + side
    return middle + off * sides[0]
