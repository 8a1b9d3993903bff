"""Hip ends of a roof under trusses that are framed with rafters: hips, commons and jacks from the end's walls up to the truss that stands
where the ridge ends, ceiling joists from its wall to the bottom chord of that truss.

Such an end is the roof's own surface cut off at the outer face of that truss; its planes go by the numbers of the roof's sides.
"""

import math
from collections.abc import Mapping, Sequence
from typing import NamedTuple

from msgspec.structs import replace

from balken.catalog.section_record import Section
from balken.catalog.sections import section
from balken.framing.frames import Frame, tributary
from balken.framing.line_levels import line_drop
from balken.framing.pieces import MemberLine, Piece
from balken.framing.rafter_stations import THICK
from balken.framing.roof_layout import RoofMember
from balken.framing.roof_openings import RoofHole
from balken.framing.roofs import tie_profile
from balken.framing.surface_members import SurfaceMember
from balken.framing.surface_roofs import SurfacePlan, TrussAt, eave, rafter_shape, shares_of
from balken.geometry.plane import Point, Ring, add, area, clipped, cross, distance, dot, left, meet, sub, unit
from balken.geometry.prism import Prism
from balken.geometry.roof_edges import Place
from balken.geometry.roof_surface import RoofFace, RoofLine, RoofSurface
from balken.model.naming import Places, piece_name, place_at
from balken.model.roof_edits import side_of
from balken.units import say_both

TRUSS = "truss at its end"
"""What holds heads of hips, and ends of ceiling joists, there."""
SQUARE = 0.01
"""Sides are square to one another where the cosine between them is no more."""
SAME = 1.0
TOUCH = 0.01
"""Corners no farther apart are one, mm."""
BESIDE_HIP = 6.0
"""Ceiling joists are this clear below hips, mm."""


class RafteredEnd(NamedTuple):
    """A hip end framed with rafters: its side, where its hips meet (x, y, height over the bearing line), how far in of its wall's outer face
    that is, mm; the way inward.
    """

    edge: int
    peak: Place
    deep: float
    inward: Point


def asked_rafters(plan: SurfacePlan) -> tuple[int, ...]:
    """Return the sides of a roof under trusses over which rafters are asked for."""
    if plan.roof.framed != "trusses":
        return ()
    sides = enumerate(zip(plan.outline.walls, plan.edges, strict=True))
    return tuple(k for k, (wall, edge) in sides if edge.kind == "eave" and side_of(plan.roof, wall).framed == "rafters")


def raftered_end(plan: SurfacePlan, edge: int) -> RafteredEnd | None:
    """Return the hip end over a side of a roof: a triangle square to the eaves of both planes beside it; None where it is none."""
    core, n = plan.outline.core, len(plan.outline.core)
    faces = [face for face in plan.surface.faces if face.edge == edge]
    if len(faces) != 1 or len(faces[0].ring) != 3:
        return None
    corner, way = core[edge], unit(core[edge], core[(edge + 1) % n])
    inward = left(way)
    peak = max(faces[0].ring, key=lambda p: p[2])
    beside = [plan.edges[k % n].kind for k in (edge - 1, edge + 1)]
    ways = unit(core[edge - 1], corner), unit(core[(edge + 1) % n], core[(edge + 2) % n])
    square = all(abs(dot(way, along)) < SQUARE for along in ways) and dot(inward, ways[1]) > 0.0 > dot(inward, ways[0])
    deep = dot(inward, sub(peak[:2], corner))
    long = min(distance(core[edge - 1], core[edge]), distance(core[(edge + 1) % n], core[(edge + 2) % n]))
    if beside != ["eave", "eave"] or not square or deep > long - SAME:
        return None
    return RafteredEnd(edge, peak, deep, inward)


def raftered_ends(plan: SurfacePlan) -> tuple[tuple[RafteredEnd, ...], str]:
    """Return the hip ends of a roof under trusses that are to have rafters; or none, and why they cannot."""
    asked = asked_rafters(plan)
    found = [raftered_end(plan, edge) for edge in asked]
    ends = tuple(end for end in found if end is not None)
    if not asked or plan.problem:
        return (), plan.problem
    if len(ends) < len(asked):
        return (), (
            "beside trusses rafters are made at hip ends, square to two eaves that meet at a ridge: frame all of it with rafters, or this plane as "
            "the roof; a wing with rafters is made as a roof of its own that runs on over this one"
        )
    if plan.roof.trusses.past > 0.0 or plan.roof.trusses.drop > 0.0 or not plan.roof.trusses.level:
        return (), "beside a hip end framed with rafters trusses bear on their bottom chords, level, over the walls"
    if plan.roof.trusses.joined == "gussets":
        return (), "gussets are made for trusses that stand alone: one that carries hips has plates"
    if plan.covered or any(edge.kind == "roof" for edge in plan.edges):
        return (), "a roof with hip ends framed with rafters runs on over no other, nor any over it"
    return ends, ""


def other_heels(plan: SurfacePlan) -> str:
    """Return why a roof's typed heels do not go with the rafters of its hip ends; "" where they do, or none are typed."""
    high, heel = rafter_height(plan), plan.roof.trusses.heel
    if heel is None or abs(heel - high) < SAME:
        return ""
    return (
        f"its hip end is framed with rafters, which lie {say_both(high)} over the plates there, and heels of {say_both(heel)} are typed: "
        "leave the height of heels open, so that they follow"
    )


def rafter_height(plan: SurfacePlan) -> float:
    """Return how high the rafters of a roof lie over its plates, at the outer faces of the walls, mm."""
    return round(rafter_shape(plan.roof, 1000.0, plan.roof.pitch).top(0.0), 3)


def end_plan(plan: SurfacePlan, end: RafteredEnd) -> SurfacePlan:
    """Return what of a roof is such an end, as a roof of its own that rafters carry; without what is made between eaves that lean on one
    another.
    """
    surface = RoofSurface(_faces(end, plan, plan.surface.faces), _lines(end, plan, plan.surface.lines))
    whole = RoofSurface(_faces(end, plan, plan.whole.faces), _lines(end, plan, plan.whole.lines))
    shares, inside = (
        tuple(s for face in of.faces for s in shares_of(face, plan.outline, plan.deep[face.edge]))
        for of in (whole, surface)
    )
    roof = replace(plan.roof, framed="rafters", purlins_at=0.0, tie_raise=0.0, ridge_made="board", collar="none")
    mine = _planes(end, plan)
    holes = tuple(
        hole
        for hole in plan.holes
        if hole.edge in mine and all(_off(end, plan, p) < end.deep for p in _corners(plan, hole))
    )
    return replace(
        plan, roof=roof, trussed=False, surface=surface, whole=whole, shares=shares, inside=inside, holes=holes,
        ring=(), ends_at=(truss_at(plan, end),),
    )  # fmt: skip


def truss_at(plan: SurfacePlan, end: RafteredEnd) -> TrussAt:
    """Return the truss at an end, in plan."""
    first, last = (
        add(plan.outline.core[k % len(plan.outline.core)], end.inward, end.deep) for k in (end.edge, end.edge + 1)
    )
    return TrussAt(end.edge, (first, end.peak[:2], last))


def _off(end: RafteredEnd, plan: SurfacePlan, at: Point) -> float:
    """Return how far in of the end's wall a place lies, mm."""
    return dot(end.inward, sub(at, plan.outline.core[end.edge]))


def _planes(end: RafteredEnd, plan: SurfacePlan) -> frozenset[int]:
    """Return the sides whose planes make the end."""
    n = len(plan.outline.core)
    return frozenset(k % n for k in (end.edge - 1, end.edge, end.edge + 1))


def _corners(plan: SurfacePlan, hole: RoofHole) -> list[Point]:
    corner, way, inward = eave(plan, hole.edge)
    return [add(add(corner, way, s), inward, t) for s in hole.along for t in hole.inward]


def _clipped(end: RafteredEnd, plan: SurfacePlan, ring: Ring) -> Ring:
    """Return what of an outline lies before the truss at the end."""
    out = (-end.inward[0], -end.inward[1])
    return clipped(ring, out, dot(out, plan.outline.core[end.edge]) - end.deep) if ring else ring


def _faces(end: RafteredEnd, plan: SurfacePlan, faces: Sequence[RoofFace]) -> tuple[RoofFace, ...]:
    """Return what of planes lies before the truss at the end."""
    found, mine = [], _planes(end, plan)
    for face in (face for face in faces if face.edge in mine):
        cut = _clipped(end, plan, tuple(p[:2] for p in face.ring))
        ring = tuple(p for k, p in enumerate(cut) if distance(p, cut[k - 1]) > TOUCH)
        if len(ring) > 2 and abs(area(ring)) > SAME:
            corner, _, inward = eave(plan, face.edge)
            start = plan.edges[face.edge].start
            places = tuple((x, y, start + face.pitch * dot(inward, sub((x, y), corner))) for x, y in ring)
            found.append(face._replace(ring=places))
    return tuple(found)


def _lines(end: RafteredEnd, plan: SurfacePlan, lines: Sequence[RoofLine]) -> tuple[RoofLine, ...]:
    """Return what of lines lies before the truss at the end."""
    found, mine = [], _planes(end, plan)
    for line in (line for line in lines if mine.issuperset(e for e in line.edges if e >= 0)):
        a, b = sorted((line.start, line.end), key=lambda p: _off(end, plan, p[:2]))
        near, far = _off(end, plan, a[:2]), _off(end, plan, b[:2])
        if near > end.deep - SAME:
            continue
        if far > end.deep:
            part = (end.deep - near) / (far - near)
            b = (a[0] + (b[0] - a[0]) * part, a[1] + (b[1] - a[1]) * part, a[2] + (b[2] - a[2]) * part)
        ends = (a, b) if line.start == a else (b, a)
        found.append(line._replace(start=ends[0], end=ends[1]))
    return tuple(found)


# Ceiling joists -------------------------------------------------------------------------------------


class EndJoist(NamedTuple):
    """A ceiling joist from the wall of such an end to the truss there: its name, its line in its frame (s inward)."""

    key: str
    frame: Frame
    line: MemberLine


def end_joists(
    plan: SurfacePlan,
    end: RafteredEnd,
    members: Sequence[SurfaceMember],
    sizes: tuple[str, str],
    hips: Mapping[str, str],
) -> tuple[EndJoist, ...]:
    """Lay ceiling joists beside the rafters of an end, where hips pass above them; ``sizes``: of rafters and joists, ``hips``: of those by
    their names.
    """
    wall, aside = plan.outline.walls[end.edge], (section(sizes[0]).breadth + section(sizes[1]).breadth) / 2.0
    corner, way, _ = eave(plan, end.edge)
    frame = Frame(round(math.degrees(math.atan2(end.inward[1], end.inward[0])), 9))
    long = distance(corner, plan.outline.core[(end.edge + 1) % len(plan.outline.core)])
    feet = sorted(
        dot(way, sub(one.member.start[:2], corner))
        for one in members
        if one.wall == wall and one.member.at_eave and one.member.edges[0] == end.edge
    )
    lines = [(one.member, section(hips[one.key])) for one in members if one.key in hips and one.member.role == "hip"]
    depth = section(sizes[1]).depth
    places = [
        s + aside
        for s in feet
        if all(_below(plan, m, lumber, add(corner, way, s + aside), end, depth) for m, lumber in lines)
    ]
    names, found = Places(), []
    for s, wide in zip(places, tributary(places, 0.0, long) if places else (), strict=True):
        low, t = frame.to(add(corner, way, s))
        seat, high = 2.0 * plan.deep[end.edge], low + end.deep
        text = names.text("end-joist", place_at(wall, s))
        line = MemberLine(
            text, t, wide, low, high, low, high, (wall, TRUSS), (low + seat / 2.0, high), (seat, 0.0), end.deep - seat,
        )  # fmt: skip
        found.append(EndJoist(piece_name(plan.roof.id, "end-joist", text), frame, line))
    return tuple(found)


def _below(plan: SurfacePlan, m: RoofMember, hip: Section, at: Point, end: RafteredEnd, depth: float) -> bool:
    """Whether a ceiling joist so deep at a place along the wall lies below a hip that it crosses."""
    low, way = m.start[:2], unit(*m.ends)
    across = abs(cross(end.inward, way))
    met = meet(at, end.inward, low, way)
    if met is None or across < SQUARE:
        return True
    slope = math.tan(math.radians(m.slope))
    # The hip's lower end of where both lie over one another: by the half of both their breadths.
    before = (hip.breadth + THICK) / 2.0 / across + hip.breadth / 2.0
    along = dot(way, sub(met, low)) - before
    under = (
        m.start[2] + plan.plate_to_top - line_drop(plan, m, hip) + slope * along - hip.depth * math.hypot(1.0, slope)
    )
    return under > depth + BESIDE_HIP


def joist_pieces(plan: SurfacePlan, joists: Sequence[EndJoist], size: str, deep: float) -> tuple[Piece, ...]:
    """Return ceiling joists as solids, their outer top corner cut to the roof; ``deep``: how far in of the wall's outer face their truss stands, mm."""
    roof, lumber, found = plan.roof, section(size), list[Piece]()
    pitch = {plan.outline.walls[k]: edge.pitch for k, edge in enumerate(plan.edges)}
    for one in joists:
        line, frame, z = one.line, one.frame, plan.bearing
        profile = tie_profile(0.0, deep, lumber.depth, plan.plate_to_top, (pitch[line.supports[0]], 1e6), deep + 1.0)
        x, y = frame.back(line.low, line.t + lumber.breadth / 2.0)
        found.append(
            Piece(
                one.key, "ceiling joist", roof.id, roof.bearing.level,
                Prism((x, y, z), (*frame.s, 0.0), (0.0, 0.0, 1.0), (profile,), lumber.breadth), "timber",
                (*frame.back(line.low, line.t), z), (*frame.back(line.high, line.t), z), deep, size, roof.ties.species, roof.ties.grade,
            )
        )  # fmt: skip
    return tuple(found)
