"""The members under a roof of planes as solids: rafters with their cheeks, hips dropped so that their edges meet the planes, valleys,
ridge boards.

What stands on plates is cut out for its bird's mouth: rafters, jacks among them, hips and valleys.
"""

import math
from collections.abc import Callable, Sequence
from functools import lru_cache
from typing import NamedTuple

from msgspec.structs import replace

from balken.catalog.section_record import Section
from balken.catalog.sections import section, wood_of
from balken.framing.laid_valleys import on_boards, valley_boards
from balken.framing.line_levels import is_backed, line_drop, planes_beside
from balken.framing.past_heads import head_level, lies_on
from balken.framing.pieces import Piece, split_run
from balken.framing.ridge_seats import bears_on, past_hips, under_edges
from balken.framing.roof_layout import SQUARE, Cut, RoofMember
from balken.framing.surface_members import AS_OTHERS, LEDGER, SORTS, Boards, SurfaceMember
from balken.framing.surface_roofs import SurfacePlan, rafter_shape
from balken.framing.tails import shorter, tail_cut, with_tail
from balken.framing.wall_ledgers import as_lines
from balken.geometry.leaning import Leaning
from balken.geometry.notched import FAR, notched
from balken.geometry.plane import (
    Point,
    Ring,
    add,
    area,
    clipped,
    cross,
    distance,
    dot,
    left,
    meet,
    off_line,
    sub,
    to_segment,
    unit,
)
from balken.geometry.prism import Prism, box
from balken.geometry.seated import Seated, bevelled, on_head, seated
from balken.geometry.trimmed import Trimmed, trimmed
from balken.model.naming import piece_name
from balken.remembered import remembered
from balken.value import Value

Cuttable = Prism | Leaning | Seated | Trimmed
TOUCH = 1.0
"""A rafter that ends no farther than this from a ridge ends at it, mm."""
ASLANT = 0.02
"""Lines that turn by less than this run on in one another, rad."""


class Strip(NamedTuple):
    """A ridge, hip or valley in plan: half as wide as it is; the ends of its middle, its tail left out, and how far these are apart, mm."""

    member: RoofMember
    half: float
    box: tuple[float, float, float, float]
    ends: tuple[Point, Point]
    long: float
    seat: tuple[float, float] | None = None
    """Of a beam under the rafters: half as thick as it is, and how high its upper face lies, mm; in plan it takes nothing off them."""


def _strip_of(m: RoofMember, half: float, out: float, seat: tuple[float, float] | None = None) -> Strip:
    return Strip(m, half, _box(m.ends, out), m.ends, distance(*m.ends), seat)


def surface_solids(
    plan: SurfacePlan, members: tuple[SurfaceMember, ...], boards: Boards, stock: float
) -> tuple[Piece, ...]:
    """Return the members as pieces; ridge boards in lengths of ``stock`` (mm), beams in one."""
    below = under_edges(plan)
    lines = tuple(
        _strip(plan, one.member, section(boards.lines.get(one.key, boards.ridge)), below)
        for one in members
        if not one.wall
    )
    lines += tuple(_strip_of(m, half, LEDGER) for m, half in as_lines(plan, members))
    lines += tuple(_strip_of(m, 0.0, LEDGER) for m in _faces_of_trusses(plan))
    beside = _beside_planes(lines)
    made = (_piece(plan, x, boards, beside.get(x.member.edges[0], ()) if x.wall else lines) for x in members)
    found = [*(piece for piece in made if piece is not None), *valley_boards(plan, boards.rafter)]
    if plan.roof.ridge_beams:
        return tuple(found)
    return tuple(
        part for piece in found for part in (_in_lengths(piece, stock) if piece.role == "ridge board" else (piece,))
    )


def _faces_of_trusses(plan: SurfacePlan) -> list[RoofMember]:
    """Return the faces of trusses at hip ends with rafters as lines, before which these end."""
    found, n = list[RoofMember](), len(plan.outline.core)
    for at in plan.ends_at:
        first, peak, last = ((*p, 0.0) for p in at.face)
        for start, edge in ((first, at.edge - 1), (last, at.edge + 1)):
            long = distance(start[:2], peak[:2])
            found.append(RoofMember("ledger", start, peak, (edge % n,), long, long, 0.0, 0.0, 0.0, SQUARE, SQUARE))
    return found


class RafterHeader(Value, frozen=True):
    """A header of an opening in a roof: its name, section, which opening, of which edge's plane; below it (0) or above (1); from
    where to where along the edge its trimmers stand, which those are; how far in of the eave its face to the opening lies, mm.
    """

    key: str
    size: str
    opening: str
    edge: int
    end: int
    between: tuple[float, float]
    trimmers: tuple[str, str]
    inward: float


def header_pieces(plan: SurfacePlan, headers: tuple[RafterHeader, ...], boards: Boards) -> tuple[Piece, ...]:
    """Return headers as solids: plumb, their edges in the slope of their plane."""
    roof, core, pieces = plan.roof, plan.outline.core, []
    for header in headers:
        a, b = core[header.edge], core[(header.edge + 1) % len(core)]
        way, pitch, lumber = unit(a, b), plan.edges[header.edge].pitch, section(header.size)
        inward = left(way)
        halves = [section(boards.own.get(key, boards.rafter)).breadth / 2.0 for key in header.trimmers]
        s = header.between[0] + halves[0], header.between[1] - halves[1]
        t = header.inward - lumber.breadth * (1 - header.end), header.inward + lumber.breadth * header.end
        ring = tuple(
            add(add(a, way, x), inward, y) for x, y in ((s[0], t[0]), (s[1], t[0]), (s[1], t[1]), (s[0], t[1]))
        )
        pitch = 0.0 if plan.tapered else pitch  # under tapered strips it lies level as its rafters do
        plumb = lumber.depth * math.hypot(1.0, pitch)
        level = plan.level(header.edge) - plan.tapered
        solid = Leaning(ring, (*a, level - plumb), (inward[0] * pitch, inward[1] * pitch), plumb)
        middle, z = sum(t) / 2.0, level + pitch * sum(t) / 2.0
        ends, wood = [(*add(add(a, way, x), inward, middle), z) for x in s], boards.wood.get(header.key, AS_OTHERS)
        pieces.append(
            Piece(
                header.key, "rafter header", roof.id, roof.bearing.level, solid, "timber", ends[0], ends[1], s[1] - s[0],
                header.size, *wood_of(header.size, wood.species or roof.rafters.species, wood.grade or roof.rafters.grade),
            )
        )  # fmt: skip
    return tuple(pieces)


def _in_lengths(piece: Piece, stock: float) -> tuple[Piece, ...]:
    """Return a ridge board in lengths of stock: nothing hangs on where they meet, since rafters lean on one another."""
    if piece.length <= stock:
        return (piece,)
    (x0, y0, z), (x1, y1, _) = piece.start, piece.end
    way, lumber = unit((x0, y0), (x1, y1)), section(piece.section)
    runs, found = split_run(piece.length, stock), []
    whole = piece.solid.whole if isinstance(piece.solid, Trimmed) else piece.solid
    low = min(corner[2] for corner in whole.corners())
    first = dot(way, (x0, y0))
    begin = min(dot(way, corner[:2]) for corner in whole.corners()) - first
    for k, (a, b) in enumerate(runs):
        ends = [add((x0, y0), way, begin + s) for s in (a, b)]
        board = box((*ends[0], low), (*ends[1], low), (-way[1], way[0], 0.0), lumber.breadth, lumber.depth)
        cut_off = piece.solid if isinstance(piece.solid, Trimmed) else None
        solid = board if cut_off is None else trimmed(board, cut_off.normal, cut_off.least)
        if solid is None:
            continue
        key = piece.key if k == 0 else piece_name(piece.key, f"{k}")
        found.append(replace(piece, key=key, solid=solid, start=(*ends[0], z), end=(*ends[1], z), length=b - a))
    return tuple(found)


def _strip(plan: SurfacePlan, m: RoofMember, lumber: Section, below: frozenset[frozenset[int]]) -> Strip:
    thick, half = lumber.breadth, lumber.breadth / 2.0
    if m.role == "ridge" and frozenset(m.edges) in below:
        top = m.start[2] + plan.bearing + plan.plate_to_top - line_drop(plan, m, lumber)
        return _strip_of(m, 0.0, thick, (half, top))
    return _strip_of(m, half, thick + m.over)


def _beside_planes(lines: tuple[Strip, ...]) -> dict[int, tuple[Strip, ...]]:
    """Return for each plane its lines and those that end where one of them does."""
    nodes: dict[tuple[int, int], list[Strip]] = {}
    found: dict[int, list[Strip]] = {}
    for line in lines:
        for x, y in line.ends:
            nodes.setdefault((round(x), round(y)), []).append(line)
        for edge in {*line.member.edges}:
            found.setdefault(edge, []).append(line)
    for own in found.values():
        own += {
            id(other): other
            for line in own
            for x, y in line.ends
            for other in nodes[(round(x), round(y))]
            if other not in own
        }.values()
    return {edge: _same(tuple(own)) for edge, own in found.items()}


@lru_cache(maxsize=2_000)
def _same(lines: tuple[Strip, ...]) -> tuple[Strip, ...]:
    """Return lines as the object that they were last time, so that what is cut by them is remembered."""
    return lines


def _piece(plan: SurfacePlan, one: SurfaceMember, boards: Boards, lines: tuple[Strip, ...]) -> Piece | None:
    make: Callable[[SurfacePlan, RoofMember, str, tuple[Strip, ...]], Cuttable | None]
    size = boards.own.get(one.key, boards.rafter)
    if one.member.role == "ridge":
        make, size = _ridge, boards.lines.get(one.key, boards.ridge)
    elif one.member.role in SORTS:
        make, size = _line, boards.lines[one.key]
    else:
        make = _rafter
    solid = on_boards(plan, one.member, make(plan, one.member, size, lines))
    if solid is None:
        return None
    roof, m, wood = plan.roof, one.member, boards.wood.get(one.key, AS_OTHERS)
    lift = plan.bearing + plan.plate_to_top
    start, end = ((x, y, z + lift) for x, y, z in (m.start, m.end))
    long = m.length + section(size).depth * math.tan(math.radians(m.slope))
    long -= shorter(plan, m, size, line_drop(plan, m, section(size)))
    long += sum(past_hips(plan, m, section(size).breadth)) if m.role == "ridge" else 0.0
    return Piece(
        one.key, one.role, roof.id, roof.bearing.level, solid, "timber", start, end, long, size,
        *wood_of(size, wood.species or roof.rafters.species, wood.grade or roof.rafters.grade), one.wall,
    )  # fmt: skip


def _rafter(plan: SurfacePlan, m: RoofMember, size: str, lines: tuple[Strip, ...]) -> Cuttable | None:
    made, way = _to_ridge(plan, m, size, lines), unit(*m.ends)
    on = next((x for x in lines if x.seat is not None and to_segment(m.end[:2], *x.ends) < TOUCH), None)
    wall = (
        lies_on(plan, m)
        if made is not None and m.head.kind == "rake" and not plan.trussed and not plan.tapered
        else None
    )
    if made is not None and wall is not None:
        pitch, depth = plan.edges[m.edges[0]].pitch, section(size).depth
        start = dot(way, m.end[:2]) - 2.0 * plan.deep[wall]
        level = head_level(plan, wall, pitch, depth, m.end[2] + plan.bearing + plan.plate_to_top)
    elif made is None or on is None or on.seat is None or m.head.kind not in ("ridge", "hip"):
        return made
    else:
        start, level = dot(way, m.end[:2]) - on.seat[0], on.seat[1]
    if not isinstance(made, Prism):
        return on_head(made, way, start, level)
    cut = notched(made, way, [((start, -FAR), (FAR, -FAR), (FAR, level), (start, level))])
    return cut if isinstance(cut, Prism) else made


def _to_ridge(plan: SurfacePlan, m: RoofMember, size: str, lines: tuple[Strip, ...]) -> Cuttable | None:
    """Return a rafter as it is cut by what it meets in plan, with its bird's mouth."""
    lumber = section(size)
    low, high = m.start[:2], m.end[:2]
    way = unit(low, high)
    pitch = math.tan(math.radians(m.slope))
    plain = m.role == "common rafter" and m.foot.kind == "" and m.head.between > 89.9
    ring = _outline(m, lumber.breadth, lines)
    run = distance(low, high) - m.head.half + m.past
    whole = ring is not None and abs(area(ring) - lumber.breadth * (run + m.over)) < 1.0
    shape = None
    if plain and whole and abs(pitch - plan.roof.pitch) < 1e-9 and plan.roof.tails == "plumb":
        shape = replace(rafter_shape(plan.roof, run, pitch), over=m.over)
    if shape is not None and 1.0 < shape.seat < run - 1.0 and abs(shape.depth - lumber.depth) < 0.1:
        x, y = add(low, left(way), lumber.breadth / 2.0)
        return Prism((x, y, plan.bearing + m.start[2]), (*way, 0.0), (0.0, 0.0, 1.0), (shape.profile,), lumber.breadth)
    if ring is None:
        return None
    plumb = lumber.depth * math.hypot(1.0, pitch)
    base = (*low, m.start[2] + plan.bearing + plan.plate_to_top - plan.tapered - plumb)
    whole_one = Leaning(ring, base, (way[0] * pitch, way[1] * pitch), plumb)
    if not m.at_eave:
        if m.foot.kind != "valley":
            return whole_one
        # Beside an inner corner a valley's first jack lies over the plates there.
        return with_tail(whole_one, ((0.0, 0.0, 1.0), plan.bearing + plan.edges[m.edges[0]].start))
    off = tail_cut(plan, m, size)
    made = seated(whole_one, way, dot(way, low), plan.bearing + m.start[2], off)
    return with_tail(made, off) if isinstance(made, Leaning) else made


@remembered(40_000)
def _outline(m: RoofMember, wide: float, lines: tuple[Strip, ...]) -> Ring | None:
    """Return a rafter in plan: its sides, cut by what it meets at both ends."""
    low, high = m.ends
    way = unit(low, high)
    side, half = left(way), wide / 2.0
    foot, head = _end(m.foot, low, way, -1.0, m.over), _end(m.head, high, way, 1.0, m.past)
    corners = []
    for off, (at, along) in ((-half, foot), (-half, head), (half, head), (half, foot)):
        met = meet(add(low, side, off), way, at, along)
        if met is None:
            return None
        corners.append(met)
    if min(dot(way, sub(corners[1], corners[0])), dot(way, sub(corners[2], corners[3]))) < 1.0:
        return None
    ring: Ring = tuple(corners)
    middle = add(low, way, distance(low, high) / 2.0)
    box = _box(ring)
    for line in lines:
        if _reaches(ring, box, middle, line, m.edges[0]):
            ring = _beside(ring, middle, line)
            if len(ring) < 3:
                return None  # a jack so short that the lines beside it take its whole place
            box = _box(ring)
    return ring if area(ring) > 0.0 else None


Box = tuple[float, float, float, float]


def _box(points: Sequence[Point], out: float = 0.0) -> Box:
    """Return the least and greatest x and y of places, so much farther out."""
    xs, ys = [x for x, _ in points], [y for _, y in points]
    return min(xs) - out, min(ys) - out, max(xs) + out, max(ys) + out


def _reaches(ring: Ring, box: Box, middle: Point, line: Strip, edge: int) -> bool:
    """Return whether a corner of an outline stands in a line, its tail with it, or a corner of that in the outline."""
    if line.box[0] > box[2] or line.box[2] < box[0] or line.box[1] > box[3] or line.box[3] < box[1]:
        return False
    (a, b), long = line.ends, line.long
    own = off_line(middle, a, b)[1]
    places = [off_line(p, a, b) for p in ring]
    least = -math.inf if edge in line.member.edges else -line.half  # no rafter of a plane crosses its lines
    if any(
        -line.member.over < s < long + line.half and least < off * math.copysign(1.0, own) < line.half - 0.1
        for s, off in places
    ):
        return True
    x0, y0, x1, y1 = box
    tail = add(a, unit(b, a), line.member.over)
    near = [
        end
        for end in (a, b, tail)
        if x0 - line.half < end[0] < x1 + line.half and y0 - line.half < end[1] < y1 + line.half
    ]
    if not near:
        return False
    aside = left(unit(a, b))
    return any(_within(add(end, aside, off), ring) for end in near for off in (-line.half, line.half))


def _within(p: Point, ring: Ring) -> bool:
    """Return whether a place lies well within a convex outline."""
    sides = zip(ring, (*ring[1:], ring[0]), strict=True)
    return all(cross(unit(q, r), sub(p, q)) > 0.1 for q, r in sides if distance(q, r) > 0.1)


def _beside(ring: Ring, middle: Point, line: Strip) -> Ring:
    """Return what of an outline lies on its own side of a line's face."""
    a, b = line.ends
    normal = left(unit(a, b))
    if dot(normal, sub(middle, a)) < 0.0:
        normal = (-normal[0], -normal[1])
    return clipped(ring, normal, dot(normal, a) + line.half)


def _end(cut: Cut, at: Point, way: Point, sign: float, over: float) -> tuple[Point, Point]:
    """Return a place on the face at which a member ends, and the way of that face in plan."""
    if cut.along is None or cut.between > 89.999:
        return add(at, way, sign * (over - cut.half)), left(way)
    along = unit(*cut.along)
    aside = left(along)
    toward = 1.0 if dot(aside, way) * sign < 0.0 else -1.0  # the face on the member's own side
    return add(cut.along[0], aside, toward * cut.half), along


def _line(plan: SurfacePlan, m: RoofMember, size: str, lines: tuple[Strip, ...]) -> Cuttable | None:
    """Return a hip or valley rafter, its head cut to fit between all it meets there."""
    lumber = section(size)
    low, high = m.start[:2], m.end[:2]
    way, run = unit(low, high), distance(low, high)
    pitch = (m.end[2] - m.start[2]) / run
    side, half = left(way), lumber.breadth / 2.0
    ring: Ring = tuple(
        add(add(low, way, s), side, off)
        for s, off in ((-m.over, -half), (run + half, -half), (run + half, half), (-m.over, half))
    )
    middle = add(low, way, run / 2.0)
    if m.role == "hip":
        ring = _within_eaves(plan, m, ring)
    for line in lines:
        if line.member is not m:
            ring = _mitred(ring, middle, m, line)
            if line.member.role == "ledger" and len(ring) > 2 and _reaches(ring, _box(ring), middle, line, -1):
                ring = _beside(ring, middle, line)  # a ledger on a wall right beside the one it ends at
    if len(ring) < 3 or area(ring) < 10.0 * lumber.breadth:
        return None
    plumb = lumber.depth * math.hypot(1.0, pitch)
    drop = line_drop(plan, m, lumber)
    base = (*low, m.start[2] + plan.bearing + plan.plate_to_top - drop - plumb)
    solid = Leaning(ring, base, (way[0] * pitch, way[1] * pitch), plumb)
    back, off = _plates_begin(plan, m, half), tail_cut(plan, m, size)
    made: Leaning | Seated | Trimmed = solid
    if back is not None:
        made = seated(solid, way, dot(way, low) - back, plan.bearing + m.start[2], off)
    if isinstance(made, Leaning):
        made = with_tail(made, off)
    on = next((x for x in lines if x.seat is not None and min(distance(m.end[:2], p) for p in x.ends) < TOUCH), None)
    if m.role == "hip" and on is not None and on.seat is not None and bears_on(plan, m):
        made = on_head(made, way, dot(way, high) - _over_beam(on, way, high), on.seat[1])
    return bevelled(made, way, planes_beside(plan, m)) if is_backed(plan, m, lumber) else made


def _over_beam(on: Strip, way: Point, at: Point) -> float:
    """Return how far before its head a hip comes to lie over a beam that runs on past the ridge's end there by half of what it is thick, mm."""
    half = on.seat[0] if on.seat is not None else 0.0
    out = unit(*(on.ends[::-1] if distance(at, on.ends[0]) < distance(at, on.ends[1]) else on.ends))
    return max(dot((-way[0], -way[1]), add(add((0.0, 0.0), out, half), left(out), k * half)) for k in (-1.0, 1.0))


def _within_eaves(plan: SurfacePlan, m: RoofMember, ring: Ring) -> Ring:
    """Return a hip in plan, its tail cut along both eaves, so that a fascia runs by."""
    core, n = plan.outline.core, len(plan.outline.core)
    for edge in m.edges:
        if edge >= 0:
            inward = left(unit(core[edge], core[(edge + 1) % n]))
            if dot(inward, sub(m.start[:2], core[edge])) < 1.0:
                ring = clipped(ring, inward, dot(inward, core[edge]) - plan.overhangs[edge])
    return ring


def _plates_begin(plan: SurfacePlan, m: RoofMember, half: float) -> float | None:
    """Return how far before its foot in plan a hip or valley, so wide to each side, meets the plates it stands on; None where it stands on
    none.
    """
    core, way, (foot, _) = plan.outline.core, unit(*m.ends), m.ends
    n = len(core)
    if m.role == "hip" and any(distance(foot, corner) < 1.0 for corner in core):
        return 0.0
    met = [k for k in range(n) if to_segment(foot, core[k], core[(k + 1) % n]) < 1.0]
    ways = [unit(core[k], core[(k + 1) % n]) for k in met]
    return max((half * abs(dot(way, w)) / max(abs(cross(way, w)), 0.1) for w in ways), default=None)


def _mitred(ring: Ring, middle: Point, m: RoofMember, line: Strip) -> Ring:
    """Return what is left of a hip or valley beside another line that ends where it does: up to the face of a ridge, up to the
    middle between two that are alike.
    """
    mine_ends, theirs = m.ends, line.ends
    for at, far in (mine_ends, mine_ends[::-1]):
        for there, beyond in (theirs, theirs[::-1]):
            if abs(at[0] - there[0]) > 1.0 or distance(at, there) > 1.0:
                continue
            mine, other = unit(at, far), unit(there, beyond)
            if abs(cross(mine, other)) < ASLANT:  # one runs on in the other
                ring = clipped(ring, mine, dot(mine, at))
                continue
            if line.member.role in ("ridge", "ledger"):
                ring = _beside(ring, middle, line)
            else:
                normal = sub(mine, other)
                ring = clipped(ring, normal, dot(normal, at))
    return ring


def _ridge(plan: SurfacePlan, m: RoofMember, size: str, lines: tuple[Strip, ...]) -> Prism | Leaning | None:
    """Return a ridge board, shorter where it runs into a longer one or a ledger; its top lies where the rafters' tops meet its faces."""
    lumber, ends = section(size), m.ends
    way, long = unit(*ends), distance(*ends)
    cut = [0.0, 0.0]
    for line in lines:
        if line.member.role != "ledger" and (line.member.role != "ridge" or distance(*line.ends) <= long):
            continue
        across = abs(cross(way, unit(*line.ends)))
        for k, at in enumerate(ends):
            if across > ASLANT and to_segment(at, *line.ends) < 1.0:
                cut[k] = line.half / across
    if long - sum(cut) < 10.0:
        return None
    past = past_hips(plan, m, lumber.breadth)
    start, end = add(ends[0], way, cut[0] - past[0]), add(ends[1], way, past[1] - cut[1])
    low = m.start[2] + plan.bearing + plan.plate_to_top - line_drop(plan, m, lumber) - lumber.depth
    return box((*start, low), (*end, low), (-way[1], way[0], 0.0), lumber.breadth, lumber.depth)
