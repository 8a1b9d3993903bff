"""Purlins under the rafters of a roof of planes: beams along its eaves that hold rafters between their feet and their heads.

A purlin lies square to its rafters, its upper edge against their undersides, so far in of the bearing line as the roof says.  It holds those that it
meets between ``FIRST`` and ``LAST`` of their run: nearer to an end it would lift them off that.  Posts hold it, at its ends
and between; where it is longer than the stock it is spliced over posts alone.

One that is let into its rafters lies higher by so much, in a notch in the underside of each.  It holds whole rafters from eave to ridge alone: not
jacks, nor what openings cut.
"""

import itertools
import math
from collections.abc import Iterable, Mapping, Sequence

from msgspec.structs import replace

from balken.catalog.sections import section, wood_of
from balken.framing.bands import WallLine
from balken.framing.line_posts import POST, posts_between
from balken.framing.pieces import EVEN, MadeOf, Piece
from balken.framing.rafter_stations import THICK
from balken.framing.roof_layout import RoofMember
from balken.framing.roof_openings import RoofHole, in_plane
from balken.framing.surface_members import Boards, SurfaceMember
from balken.framing.surface_roofs import SurfacePlan, surface_gables
from balken.framing.surface_ties import over_gable
from balken.geometry.notched import notched
from balken.geometry.plane import Point, add, chords, cross, distance, dot, left, off_line, unit
from balken.geometry.prism import Prism
from balken.geometry.roof_edges import Place, runs_up
from balken.geometry.roof_surface import RoofFace, RoofLine
from balken.geometry.solids import Solid
from balken.model.naming import Places, piece_name, place_at
from balken.units.system import INCH
from balken.value import Value

FIRST, LAST = 0.3, 0.7
"""Under even load a beam over two spans lifts at the far end of one that is less than 0.45 of the other; that is 0.31 of both."""
FEWEST = 3
"""A purlin holds no fewer rafters."""
GAP = 1.6
"""Rafters farther apart than so many spacings are held by two purlins."""
PAST = 1.5 * INCH
"""A purlin ends so far beyond the middle of its last rafter."""
INSET = 2.75 * INCH
"""The posts under its ends stand so far in from these."""
BELOW = 1000.0
"""A notch for a purlin is cut from so far below the rafter, mm."""
BESIDE = 8.0 * INCH
"""How near a hip or valley as thick as any may cut a rafter."""
TOUCH = 0.5
"""What lies no farther apart in height touches, mm."""
LINING = 1.0 * INCH
"""Room for what lines a gable wall inside."""
SORT = "plane-purlin"


class Purlin(Value, frozen=True):
    """A purlin, or a piece of one between posts: its name, the edge under whose plane it lies, how far in of that, from where to where
    along it its wood is, and where the posts under its ends stand; over which stretch it holds what lies on the plane, mm.
    """

    key: str
    edge: int
    inward: float
    wood: tuple[float, float]
    ends: tuple[float, float]
    holds: tuple[float, float]


def props(
    plan: SurfacePlan,
    members: Sequence[SurfaceMember],
    laid: Sequence[Purlin],
    spacing: float,
    lines: dict[str, WallLine],
) -> dict[RoofMember, float]:
    """Return how far in of their feet rafters are held by a purlin, or beside its end by the wall that they stand over where that runs up
    to them, mm in plan.
    """
    found, up = dict[RoofMember, float](), surface_gables(plan, lines)[0] if laid else {}
    for one in laid:
        low, high = one.wood[0] - GAP * spacing, one.wood[1] + GAP * spacing
        found |= {
            m: one.inward
            for m in (x.member for x in members if x.wall and x.member.edges[0] == one.edge)
            if _met(plan, m, one.inward)
            and not _cut(plan, m)
            and (one.wood[0] < (s := _along(plan, m)) < one.wood[1] or (low < s < high and over_gable(plan, m) in up))
        }
    return found


def _met(plan: SurfacePlan, m: RoofMember, at: float) -> bool:
    """Whether a purlin meets a rafter that is whole from its plate on where it may."""
    run = math.dist(m.start[:2], m.end[:2])
    if plan.roof.purlins_in > 0.0 and (m.role != "common rafter" or m.head.between < 89.9 or _beside_hip(plan, m)):
        return False
    return m.foot.kind == "" and m.head.kind in ("ridge", "hip", "wall") and FIRST * run <= at <= LAST * run


def _beside_hip(plan: SurfacePlan, m: RoofMember) -> bool:
    """Whether a rafter ends so near to that of a hip or valley that its head or its tail may be cut for that."""
    if m.head.kind == "hip":
        return True
    lines = (line for line in plan.surface.lines if line.kind in ("hip", "valley"))
    ends = [at[:2] for line in lines for at in (line.start, line.end)]
    return any(distance(m.end[:2], at) < BESIDE or distance(m.start[:2], at) < m.over + BESIDE for at in ends)


def _cut(plan: SurfacePlan, m: RoofMember) -> bool:
    """Whether an opening cuts a rafter."""
    s, holes = _along(plan, m), (hole for hole in plan.holes if hole.edge == m.edges[0] and not hole.problem)
    return any(hole.along[0] < s < hole.along[1] for hole in holes)


def _along(plan: SurfacePlan, m: RoofMember) -> float:
    """Return where along its edge a rafter stands, mm."""
    return in_plane(plan.outline.core, m.edges[0], [m.start[:2]])[0][0]


def purlins(plan: SurfacePlan, members: Sequence[SurfaceMember], spacing: float) -> tuple[Purlin, ...]:
    """Lay purlins under the rafters of a roof, each from gable to gable, hip to hip, or opening to opening."""
    at, names, found = plan.roof.purlins_at, Places(), list[Purlin]()
    if at <= 0.0:
        return ()
    held = [one.member for one in members if one.wall and _met(plan, one.member, at)]
    for face in plan.surface.faces:
        stations = sorted(_along(plan, m) for m in held if m.edges[0] == face.edge)
        if len(stations) < FEWEST:
            continue
        reach = _between_walls(plan, face)
        inner = [s for s in stations if reach[0] < s < reach[1]]
        for run in _runs(plan, inner, spacing, [h for h in plan.holes if h.edge == face.edge]):
            found += _laid(plan, face.edge, run, _free(plan, members, face.edge, run, reach), spacing, names)
    return tuple(found)


def _runs(plan: SurfacePlan, stations: list[float], spacing: float, holes: list[RoofHole]) -> list[list[float]]:
    """Return rafters beside one another without a gap, and without an opening in the purlin's way between them."""
    at, let_in = plan.roof.purlins_at, plan.roof.purlins_in > 0.0
    across = [h.along for h in holes if not h.problem and (let_in or h.inward[0] - POST < at < h.inward[1] + POST)]
    runs: list[list[float]] = []
    for s in stations:
        open_ = runs and any(low < s and high > runs[-1][-1] for low, high in across)
        if runs and s - runs[-1][-1] <= GAP * spacing and not open_:
            runs[-1].append(s)
        else:
            runs.append([s])
    return [run for run in runs if len(run) >= FEWEST]


def _free(
    plan: SurfacePlan, members: Sequence[SurfaceMember], edge: int, run: list[float], reach: tuple[float, float]
) -> tuple[float, float]:
    """Return how far along its edge a purlin under a run of rafters may reach: one that is let in not under others."""
    if plan.roof.purlins_in <= 0.0:
        return reach
    rest = [
        s
        for x in members
        if x.wall and x.member.edges[0] == edge
        if reach[0] < (s := _along(plan, x.member)) < reach[1]
    ]
    low = -math.inf if any(s < run[0] - 1.0 for s in rest) else reach[0]
    return low, math.inf if any(s > run[-1] + 1.0 for s in rest) else reach[1]


def _laid(
    plan: SurfacePlan, edge: int, run: list[float], reach: tuple[float, float], spacing: float, names: Places
) -> list[Purlin]:
    """Return the purlin under rafters beside one another; none where it would be too short for two posts."""
    low, high = run[0] - PAST, run[-1] + PAST
    if run[0] - reach[0] <= GAP * spacing:
        low = reach[0]
    if reach[1] - run[-1] <= GAP * spacing:
        high = reach[1]
    if high - low < 4.0 * INSET:
        return []
    place = names.text(SORT, place_at(plan.outline.walls[edge], low))
    holds = max(run[0] - spacing / 2.0, reach[0]), min(run[-1] + spacing / 2.0, reach[1])
    key = piece_name(plan.roof.id, SORT, place)
    return [Purlin(key, edge, plan.roof.purlins_at, (low, high), (low + INSET, high - INSET), holds)]


def _between_walls(plan: SurfacePlan, face: RoofFace) -> tuple[float, float]:
    """Return from where to where along its edge a plane's purlin may reach: between the inner faces of walls that close the plane."""
    core, n = plan.outline.core, len(plan.outline.core)
    a, b = core[face.edge], core[(face.edge + 1) % n]
    way = unit(a, b)
    inward, at = left(way), plan.roof.purlins_at
    begin = add(a, inward, at)
    rows = chords((tuple((x, y) for x, y, _ in face.ring),), begin, way)
    if not rows:
        return 0.0, 0.0
    low, high = max(rows, key=lambda row: row[1] - row[0])
    found = []
    for s, sign in ((low, 1.0), (high, -1.0)):
        place = add(begin, way, s)
        for k, edge in enumerate(plan.edges):
            p, q = core[k], core[(k + 1) % n]
            if (
                (edge.kind != "eave" or runs_up(plan.edges, face.edge, k))
                and k != face.edge
                and abs(off_line(place, p, q)[1]) < 1.0
            ):
                s += sign * (2.0 * plan.deep[k] + LINING) / max(abs(cross(way, unit(p, q))), 0.1)
                break
        found.append(s)
    return found[0], found[1]


def in_pieces(
    plan: SurfacePlan, laid: Iterable[Purlin], posts: Sequence[tuple[str, Point]], stock: float
) -> tuple[Purlin, ...]:
    """Return purlins in pieces no longer than the stock, as far as there are posts over which to splice them."""
    found: list[Purlin] = []
    for one in laid:
        line = purlin_line(plan, one)
        on = [one.ends[0] + along for _, along in posts_between(line.start[:2], line.end[:2], posts)]
        cuts, begin = list[float](), one.wood[0]
        for here, then in itertools.pairwise([*on, one.wood[1]]):
            if then - begin > stock + EVEN:
                cuts.append(here)
                begin = here
        marks = [None, *cuts, None]
        for k, (a, b) in enumerate(itertools.pairwise(marks)):
            wood, ends, holds = (
                (pair[0] if a is None else a, pair[1] if b is None else b) for pair in (one.wood, one.ends, one.holds)
            )
            place = place_at(plan.outline.walls[one.edge], wood[0])
            key = one.key if k == 0 else piece_name(plan.roof.id, SORT, place.text)
            found.append(Purlin(key, one.edge, one.inward, wood, ends, holds))
    return tuple(found)


def whole(pieces: Iterable[Purlin]) -> tuple[Purlin, ...]:
    """Return purlins of which some are spliced from pieces as they were laid."""
    found: list[Purlin] = []
    for one in pieces:
        if found and found[-1].edge == one.edge and found[-1].wood[1] == one.wood[0]:
            was = found.pop()
            spans = ((a[0], b[1]) for a, b in ((was.wood, one.wood), (was.ends, one.ends), (was.holds, one.holds)))
            found.append(Purlin(was.key, was.edge, was.inward, *spans))
        else:
            found.append(one)
    return tuple(found)


def purlin_line(plan: SurfacePlan, one: Purlin) -> RoofLine:
    """Return the line of a purlin between its end posts, as high as the roof's plane there over its bearing."""
    core = plan.outline.core
    a, b = core[one.edge], core[(one.edge + 1) % len(core)]
    way = unit(a, b)
    z = plan.edges[one.edge].start + plan.edges[one.edge].pitch * one.inward
    start, end = (add(add(a, way, s), left(way), one.inward) for s in one.ends)
    return RoofLine("purlin", (*start, z), (*end, z), (one.edge, one.edge))


def underside(plan: SurfacePlan, one: Purlin, size: str, rafter: str) -> float:
    """Return how high the lowest edge of a purlin lies, mm: on a post under it."""
    pitch, lumber = plan.edges[one.edge].pitch, section(size)
    steep = math.hypot(1.0, pitch)
    return _top(plan, one, rafter) - (lumber.depth + lumber.breadth / 2.0 * pitch) / steep


NO_WOOD: Mapping[str, MadeOf] = {}


def purlin_pieces(
    plan: SurfacePlan,
    made: Iterable[Purlin],
    sizes: Mapping[str, str],
    rafter: str,
    wood: Mapping[str, MadeOf] = NO_WOOD,
) -> tuple[Piece, ...]:
    """Return purlins as solids, square to their rafters; ``sizes``: by their names, ``wood``: of those made of another one."""
    return tuple(_piece(plan, one, sizes[one.key], rafter, wood.get(one.key, MadeOf())) for one in made)


def _piece(plan: SurfacePlan, one: Purlin, size: str, rafter: str, wood: MadeOf) -> Piece:
    roof, lumber, core = plan.roof, section(size), plan.outline.core
    a, b = core[one.edge], core[(one.edge + 1) % len(core)]
    way, pitch = unit(a, b), plan.edges[one.edge].pitch
    inward, steep = left(way), math.hypot(1.0, pitch)
    top = _top(plan, one, rafter)
    # u runs down the slope, v square out of the roof, so that the wood runs along its edge.
    u = (-inward[0] / steep, -inward[1] / steep, -pitch / steep)
    v = (-inward[0] * pitch / steep, -inward[1] * pitch / steep, 1.0 / steep)
    u, v = ((-u[0], -u[1], -u[2]), v) if _turned(u, v, way) else (u, v)
    half, deep = lumber.breadth / 2.0, lumber.depth
    ring = ((-half, -deep), (half, -deep), (half, 0.0), (-half, 0.0))
    start, end = ((*add(add(a, way, s), inward, one.inward), top) for s in one.wood)
    solid = Prism(start, u, v, (ring,), one.wood[1] - one.wood[0])
    return Piece(
        one.key, "purlin", roof.id, roof.bearing.level, solid, "timber", start, end, one.wood[1] - one.wood[0], size,
        *wood_of(size, wood.species or roof.rafters.species, wood.grade or roof.rafters.grade),
    )  # fmt: skip


def _turned(u: Place, v: Place, way: Point) -> bool:
    """Whether u x v runs against a way in plan."""
    return (u[1] * v[2] - u[2] * v[1]) * way[0] + (u[2] * v[0] - u[0] * v[2]) * way[1] < 0.0


def crossing(plan: SurfacePlan, members: Sequence[SurfaceMember], laid: Iterable[Purlin]) -> dict[str, Purlin]:
    """Return the purlin that crosses a rafter, by the rafter's name: under it or let into it (``notch_depth``)."""
    found = dict[str, Purlin]()
    for one in laid:
        for x in members:
            m = x.member
            if not x.wall or m.edges[0] != one.edge or not one.wood[0] - THICK < _along(plan, m) < one.wood[1] + THICK:
                continue
            (_, begin), (_, end) = in_plane(plan.outline.core, one.edge, [p[:2] for p in m.ends])
            if begin < one.inward < end:
                found[x.key] = one
    return found


def notch_depth(plan: SurfacePlan, rafter: str, size: str) -> float:
    """Return how deep a purlin reaches into a rafter of a section, mm: as deep as it is let in, deeper into one that reaches lower than the
    others (``rafter``: their section).
    """
    return max(plan.roof.purlins_in + section(size).depth - section(rafter).depth, 0.0)


def lies_on(plan: SurfacePlan, rafter: str, size: str) -> bool:
    """Whether a rafter of a section reaches down to a purlin that the others (``rafter``: their section) lie on."""
    return section(size).depth > section(rafter).depth - plan.roof.purlins_in - TOUCH


def let_into(
    plan: SurfacePlan,
    members: Sequence[SurfaceMember],
    laid: Sequence[Purlin],
    boards: Boards,
    pieces: tuple[Piece, ...],
) -> tuple[Piece, ...]:
    """Return the members of a roof with a notch in the underside of each rafter that a purlin is let into."""
    rafter, sizes = boards.rafter, boards.lines
    own = {x.key: notch_depth(plan, rafter, boards.own.get(x.key, rafter)) for x in members if x.wall}
    through = {key: one for key, one in crossing(plan, members, laid).items() if own[key] > TOUCH}
    if not through:
        return pieces
    return tuple(
        replace(x, solid=_with_notch(plan, x.solid, one, section(sizes[one.key]).breadth, rafter))
        if (one := through.get(x.key)) is not None
        else x
        for x in pieces
    )


def _with_notch(plan: SurfacePlan, solid: Solid, one: Purlin, wide: float, rafter: str) -> Solid:
    """Return a rafter with the notch for a purlin: square to its edges, as wide as that is, down from its upper edge out of its underside."""
    core, pitch = plan.outline.core, plan.edges[one.edge].pitch
    a, b = core[one.edge], core[(one.edge + 1) % len(core)]
    inward, steep = left(unit(a, b)), math.hypot(1.0, pitch)
    s, top = dot(inward, a) + one.inward, _top(plan, one, rafter)
    up, along, half = (-pitch / steep, 1.0 / steep), (1.0 / steep, pitch / steep), wide / 2.0
    box = ((-half, -BELOW), (half, -BELOW), (half, 0.0), (-half, 0.0))
    cut = tuple((s + u * along[0] + v * up[0], top + u * along[1] + v * up[1]) for u, v in box)
    return notched(solid, inward, [cut])


def _top(plan: SurfacePlan, one: Purlin, rafter: str) -> float:
    """Return how high the middle of a purlin's upper edge lies, mm."""
    pitch = plan.edges[one.edge].pitch
    under = (section(rafter).depth - plan.roof.purlins_in) * math.hypot(1.0, pitch)
    return plan.level(one.edge) + pitch * one.inward - under
