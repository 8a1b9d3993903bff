"""Collar ties: across pairs of rafters in the upper third, against what would part them at the ridge (IRC R802.3.1)."""

import math
from collections.abc import Sequence
from typing import NamedTuple

from balken.catalog.sections import section
from balken.framing.frames import Frame
from balken.framing.hand_edits import made_of
from balken.framing.pieces import MadeOf, Piece, Snag
from balken.framing.roof_layout import line_runs
from balken.framing.surface_edits import edits_by_name
from balken.framing.surface_framing import RafterHeader
from balken.framing.surface_members import AS_OTHERS, Boards, SurfaceMember
from balken.framing.surface_roofs import SurfacePlan
from balken.framing.surface_ties import leaning, off_openings, sides_off
from balken.geometry.plane import Point, Ring, distance, dot, to_segment, unit
from balken.geometry.prism import Prism
from balken.geometry.roof_surface import RoofLine
from balken.model.kinds.member_edit import MemberEdit, Sort
from balken.model.naming import piece_name, place_of_whole
from balken.units.system import FOOT, INCH

SORT: Sort = "plane-collar"
SIZE = "2x4"
FARTHEST = 4.0 * FOOT
"""Collar ties stand no farther apart (IRC R802.3.1)."""
THIRD = 1.0 / 3.0
AT_HIP = 6.0 * INCH
"""Pairs no farther from the top of a hip have none: that stands in its place, mm."""
AIR = 10.0
"""Their top corners stay this far below the deck, plumb, mm."""


Pair = tuple[SurfaceMember, SurfaceMember]
"""Two rafters that lean on one another at a ridge board."""


class Row(NamedTuple):
    """The pairs of two walls, each with how far along the ridge it stands, mm; the numbers of those across which a collar tie is to lie."""

    pairs: tuple[tuple[float, Pair], ...]
    kept: tuple[int, ...]


class CollarTies(NamedTuple):
    """Collar ties as they lie: which pairs each holds, and which part of those; pairs too far from any; of what those are that are changed by
    hand; edits without one, each with the name of the nearest; what could not be done.
    """

    pieces: tuple[Piece, ...]
    holds: dict[str, tuple[tuple[Pair, float], ...]]
    loose: tuple[Pair, ...]
    made: dict[str, MadeOf]
    lost: tuple[tuple[MemberEdit, str], ...] = ()
    snags: tuple[Snag, ...] = ()


def collar_ties(
    plan: SurfacePlan,
    members: tuple[SurfaceMember, ...],
    headers: tuple[RafterHeader, ...],
    boards: Boards,
    spacing: float,
    edits: tuple[MemberEdit, ...] = (),
) -> CollarTies:
    """Return the collar ties of a roof: on every pair but those at the top of a hip, or on as few as stand no farther than 4 ft apart; ``spacing``: of rafters, mm;
    ``edits``: of single ones by hand.
    """
    clear, ridges = off_openings(plan, headers), [x.line for x in line_runs(plan.surface) if x.line.kind == "ridge"]
    rows = _rows(plan, members, spacing)
    pairs = {_name(plan, *pair): pair for row in rows for pair in (row.pairs[i][1] for i in row.kept)}
    by_name, lost = edits_by_name(edits, SORT, pairs, plan.roof.id)
    found, made, snags = list[Piece](), dict[str, MadeOf](), list[Snag]()
    for name, (one, other) in pairs.items():
        edit = by_name.get(name)
        if edit is not None and edit.removed:
            continue
        own = made_of(edit, SIZE) if edit is not None else AS_OTHERS
        # They lie on the side toward the middle of their ridge: the last ones stay inside what bounds the roof there.
        near = _middle(ridges, one.member.end[:2])
        piece = _tie(plan, name, one, other, boards, near, clear, own)
        if edit is not None:
            made[name] = own
            if piece is None:
                at = (*one.member.end[:2], plan.bearing + one.member.end[2])
                snags.append(Snag("hand edit", "a collar tie as deep finds no room below the ridge", plan.roof.id, at))
                piece = _tie(plan, name, one, other, boards, near, clear, AS_OTHERS)
        if piece is not None:
            found.append(piece)
    holds, loose = _held(plan, rows, {piece.key for piece in found})
    return CollarTies(tuple(found), holds, loose, made, lost, tuple(snags))


def _held(
    plan: SurfacePlan, rows: Sequence[Row], there: set[str]
) -> tuple[dict[str, tuple[tuple[Pair, float], ...]], tuple[Pair, ...]]:
    """Return which pairs each collar tie holds: those nearest to it, half of those between two alike; and those that none stands near."""
    holds, loose = dict[str, list[tuple[Pair, float]]](), list[Pair]()
    for row in rows:
        ties = [(row.pairs[i][0], name) for i in row.kept if (name := _name(plan, *row.pairs[i][1])) in there]
        for at, pair in row.pairs:
            least = min((abs(x - at) for x, _ in ties), default=math.inf)
            if least > FARTHEST / 2.0 + AIR:
                loose.append(pair)
                continue
            near = [name for x, name in ties if abs(x - at) < least + AIR]
            for name in near:
                holds.setdefault(name, []).append((pair, 1.0 / len(near)))
    return {name: tuple(pairs) for name, pairs in holds.items()}, tuple(loose)


def _name(plan: SurfacePlan, one: SurfaceMember, other: SurfaceMember) -> str:
    """Return the name of the collar tie of a pair: by the place of one of its rafters; between trimmers of dormers it has none."""
    place = place_of_whole(one.key) or place_of_whole(other.key)
    return piece_name(one.key, "collar") if place is None else piece_name(plan.roof.id, SORT, place.text)


def _rows(plan: SurfacePlan, members: tuple[SurfaceMember, ...], spacing: float) -> list[Row]:
    """Return the pairs of rafters that lean on one another at the ridge boards of a roof."""
    roof, core = plan.roof, plan.outline.core
    if roof.ridge_beams:
        return []
    every = 1 if roof.collar == "all" else max(math.floor(FARTHEST / spacing + 1e-9), 1)
    tops = [max(x.start, x.end, key=lambda p: p[2])[:2] for x in plan.surface.lines if x.kind == "hip"]
    rows: dict[tuple[str, str], list[tuple[float, Pair]]] = {}
    for one, other in leaning(plan, members).pairs:
        heads, near = (one.member.head.kind, other.member.head.kind), one.member.end[:2]
        if heads == ("ridge", "ridge") and all(distance(near, top) > AT_HIP for top in tops):
            edge = one.member.edges[0]
            way = unit(core[edge], core[(edge + 1) % len(core)])
            rows.setdefault((one.wall, other.wall), []).append((dot(way, near), (one, other)))
    found = []
    for pairs in rows.values():
        pairs.sort(key=lambda row: row[0])
        kept = [*range(0, len(pairs), every)] if roof.collar != "none" else []
        if kept and kept[-1] != len(pairs) - 1:
            kept.append(len(pairs) - 1)
        found.append(Row(tuple(pairs), tuple(kept)))
    return found


def _middle(ridges: Sequence[RoofLine], head: Point) -> Point:
    """Return the middle of the ridge nearest to the head of a rafter."""
    line = min(ridges, key=lambda x: to_segment(head, x.start[:2], x.end[:2]))
    return (line.start[0] + line.end[0]) / 2.0, (line.start[1] + line.end[1]) / 2.0


def _tie(
    plan: SurfacePlan,
    name: str,
    one: SurfaceMember,
    other: SurfaceMember,
    boards: Boards,
    toward: Point,
    clear: dict[str, tuple[Point, ...]],
    own: MadeOf,
) -> Piece | None:
    """Lay one beside a pair: on the side toward a point, but for headers that hang on them; none where those are on both sides."""
    a, b, lumber, roof = one.member, other.member, section(own.sized(SIZE)), plan.roof
    way = unit(a.start[:2], b.start[:2])
    frame = Frame(round(math.degrees(math.atan2(way[1], way[0])), 9))
    (low, t), high = frame.to(a.start[:2]), frame.to(b.start[:2])[0]
    pitches = [math.tan(math.radians(m.slope)) for m in (a, b)]
    top = a.end[2]
    bottom = top - (top - max(a.start[2], b.start[2])) * THIRD
    if top - section(boards.ridge).depth - AIR < bottom + lumber.depth:
        return None  # the ridge board hangs down to it: straps over the ridge do
    wide = max(section(boards.own.get(x.key, boards.rafter)).breadth for x in (one, other))

    def ends(z: float) -> tuple[float, float]:
        return low + (z - a.start[2]) / pitches[0], high - (z - b.start[2]) / pitches[1]

    (b0, b1), (t0, t1) = ends(bottom + AIR), ends(bottom + lumber.depth + AIR)
    if t1 - t0 < 2.0 * lumber.depth:
        return None
    level = plan.bearing + plan.plate_to_top + bottom
    profile: Ring = ((b0 - low, 0.0), (b1 - low, 0.0), (t1 - low, lumber.depth), (t0 - low, lumber.depth))
    sides = sides_off(clear, frame, (one.key, other.key))
    if not sides:
        return None
    side = sides[0] if len(sides) == 1 or (frame.to(toward)[1] > t + 1.0) == (sides[0] > 0.0) else sides[1]
    aside = t + side * (wide + lumber.breadth) / 2.0
    x, y = frame.back(low, aside + lumber.breadth / 2.0)
    solid = Prism((x, y, level), (*frame.s, 0.0), (0.0, 0.0, 1.0), (profile,), lumber.breadth)
    ends3 = [(*frame.back(s, aside), level) for s in (b0, b1)]
    return Piece(
        name, "collar tie", roof.id, roof.bearing.level, solid, "timber", ends3[0],
        ends3[1], b1 - b0, lumber.name, own.species or roof.ties.species, own.grade or roof.ties.grade,
    )  # fmt: skip
