"""Openings in roofs of planes framed: rafters cut, headers between doubled trimmers, plies chosen by what they carry.

A header carries half of the tails below it, or of those above it (all of these where they lean on a ridge board), and hands it
to the trimmers; a trimmer is checked as a rafter under its own strip and what its headers bring (``design.rafter_loads``).
"""

from typing import NamedTuple

from msgspec.structs import replace

from balken.catalog.joists import MADE
from balken.catalog.sections import section
from balken.design.rafter_loads import OnRafters
from balken.framing.pieces import MadeOf
from balken.framing.rafter_stations import THICK
from balken.framing.roof_layout import RoofMember
from balken.framing.roof_openings import LONG, RoofHole, in_plane, rafters_beside, tails
from balken.framing.surface_edits import edits_by_name, line_made
from balken.framing.surface_framing import RafterHeader
from balken.framing.surface_members import AS_OTHERS, SurfaceMember
from balken.framing.surface_roofs import SurfacePlan
from balken.geometry.plane import Point, distance
from balken.loads.cases import Cases, total
from balken.loads.roof_feet import Pressed, leaning_pressure
from balken.model.kinds.member_edit import MemberEdit, Sort
from balken.model.naming import header_place, piece_name
from balken.standards.checks import MemberResult
from balken.standards.demands import GirderCase, Limit
from balken.standards.standard import Standard
from balken.units.system import INCH
from balken.value import Value

SORT: Sort = "roof-header"
MOST = 3
"""Plies of headers and trimmers at most."""
SEAT = 1.5 * INCH
FLAT = 16.0 * INCH
SAGS = Limit(240.0, "IRC R301.7"), Limit(180.0, "NDS 3.5.2")


class Framed(Value, frozen=True):
    """Members with openings framed: ``brought``: what headers bring to each trimmer, by name; ``problems``: (opening, why it is not
    framed).
    """

    members: tuple[SurfaceMember, ...]
    headers: tuple[RafterHeader, ...]
    brought: dict[str, list[Pressed]]
    results: dict[str, MemberResult]
    problems: tuple[tuple[str, str], ...]
    made: dict[str, MadeOf]
    """Of what headers are that are changed by hand."""
    lost: tuple[tuple[MemberEdit, str], ...] = ()
    """Hand edits of headers that are not there, each with the name of the nearest."""


class Cut(NamedTuple):
    """An opening whose rafters are cut: where its trimmers stand along the edge, which they are; of each rafter cut what it was, the
    names of what is left of it below and above.
    """

    hole: RoofHole
    at: tuple[float, float]
    trimmers: tuple[SurfaceMember, SurfaceMember]
    were: tuple[SurfaceMember, ...]

    def parts(self, core: tuple[Point, ...], thick: float) -> list[tuple[int, SurfaceMember]]:
        """Return what is left below (0) and above (1), headers ``thick`` mm."""
        return [
            (end, SurfaceMember(piece_name(one.key, "ab"[end]), part, one.wall))
            for one in self.were
            for end, part in enumerate(tails(one.member, self.hole, core, thick))
            if part is not None
        ]


def frame_openings(
    plan: SurfacePlan,
    members: tuple[SurfaceMember, ...],
    size: str,
    on: OnRafters,
    standard: Standard,
    edits: tuple[MemberEdit, ...] = (),
) -> Framed:
    """Cut rafters for the openings of a roof, lay headers between the whole ones beside, choose the plies of those that are not changed by
    hand.
    """
    found, cuts, problems = _cut(plan, members)
    names = [piece_name(plan.roof.id, SORT, header_place(cut.hole.opening, end)) for cut in cuts for end in (0, 1)]
    by_name, lost = edits_by_name(edits, SORT, names, plan.roof.id)
    made = dict[str, MadeOf]()
    core, headers = plan.outline.core, list[RafterHeader]()
    brought, results = dict[str, list[Pressed]](), dict[str, MemberResult]()
    standing = on.standing([one for one in found.values() if one.wall]) if cuts else {}
    for cut in cuts:
        span, hole = cut.at[1] - cut.at[0], cut.hole
        runs = _runs(plan, hole, [one.member for one in cut.trimmers])
        beside = [one.member for one in (*cut.trimmers, *cut.were)]
        thick = THICK
        for end, run in enumerate(runs):
            line = _heaviest(hole, end, beside, core, on).scaled(run / 1000.0)
            points = _points(plan, cut, end, standing)
            key = piece_name(plan.roof.id, SORT, header_place(hole.opening, end))
            header, result = _header(plan, hole, key, end, span, line, points, size, standard)
            if key in by_name:
                made[key] = line_made(by_name[key], header.size)
                header, result = _header(plan, hole, key, end, span, line, points, size, standard, made[key])
            results[header.key] = result
            headers.append(replace(header, between=cut.at, trimmers=(cut.trimmers[0].key, cut.trimmers[1].key)))
            thick = max(thick, section(header.size).breadth)
            for k, one in enumerate(cut.trimmers):
                parts = [force.scaled(s / span if k else 1.0 - s / span) for s, force in points]
                force = total((line.scaled(span / 2.0), *parts))
                brought.setdefault(one.key, []).append(Pressed(_along(plan, hole, end, one.member), force))
        for _, one in cut.parts(core, thick):
            if one.key in found:
                found[one.key] = one
    return Framed(tuple(found.values()), tuple(headers), brought, results, tuple(problems), made, lost)


def _cut(
    plan: SurfacePlan, members: tuple[SurfaceMember, ...]
) -> tuple[dict[str, SurfaceMember], list[Cut], list[tuple[str, str]]]:
    """Cut rafters for openings, headers taken as single ones; return members by name, the openings, and those not framed with why."""
    found, cuts = {one.key: one for one in members}, list[Cut]()
    problems = [(hole.opening, hole.problem) for hole in plan.holes if hole.problem]
    core = plan.outline.core
    for hole in plan.holes:
        if hole.problem:
            continue
        there = [one for one in found.values() if one.wall and one.member.edges[0] == hole.edge]
        beside = rafters_beside(hole, core, [(i, one.member) for i, one in enumerate(there)])
        if beside.problem:
            problems.append((hole.opening, beside.problem))
            continue
        one, other = (there[i] for i in beside.trimmers)
        frames = {key for earlier in cuts for key in (earlier.trimmers[0].key, earlier.trimmers[1].key)}
        if any(there[i].key in frames for i in beside.cut):
            problems.append((hole.opening, "it would cut a rafter that frames another opening"))
            continue
        if "tail rafter" in (one.member.role, other.member.role):
            problems.append((hole.opening, "beside it stands no whole rafter: another opening cuts it"))
            continue
        cut = Cut(hole, beside.at, (one, other), tuple(there[i] for i in beside.cut))
        cuts.append(cut)
        left_over = cut.parts(core, THICK)
        gone = {was.key for was in cut.were}
        found = {key: was for key, was in found.items() if key not in gone}
        found |= {part.key: part for _, part in left_over}
    return found, cuts, problems


def _points(
    plan: SurfacePlan, cut: Cut, end: int, standing: dict[str, list[Pressed]]
) -> tuple[tuple[float, Cases], ...]:
    """Return what of the loads that stand on what is left below (0) or above (1) an opening comes to its header: where along it, N."""
    core, found = plan.outline.core, list[tuple[float, Cases]]()
    for which, one in cut.parts(core, THICK):
        rows = standing.get(one.key, [])
        if which != end or not rows:
            continue
        m = one.member
        run = distance(*m.ends)
        leans = m.head.kind == "ridge" and plan.roof.ridge_made == "board"
        if leans:
            pitch = plan.edges[m.edges[0]].pitch
            force, _, _ = leaning_pressure(rows, run, pitch, pitch)
        else:
            force = total(p.force.scaled((run - p.x if end else p.x) / run) for p in rows)
        ((s, _),) = in_plane(core, cut.hole.edge, [m.start[:2]])
        found.append((round(min(max(s - cut.at[0], 0.0), cut.at[1] - cut.at[0]), 3), force))
    return tuple(found)


def _heaviest(hole: RoofHole, end: int, members: list[RoofMember], core: tuple[Point, ...], on: OnRafters) -> Cases:
    """Return the most that lies on what is below (0) or above (1) an opening of any rafter by it: snow may drift on one end alone."""
    parts = [part for m in members if (part := tails(m, hole, core, THICK)[end]) is not None]
    rows = on.bare(parts or members).values()
    return Cases(*(max(column) for column in zip(*rows, strict=True)))


def _runs(plan: SurfacePlan, hole: RoofHole, trimmers: list[RoofMember]) -> tuple[float, float]:
    """Return how much of the tails below and above a hole comes to its headers, mm in plan: half, or all of those that lean."""
    ends = [in_plane(plan.outline.core, hole.edge, [m.start[:2], m.end[:2]]) for m in trimmers]
    foot, head = min(e[0][1] for e in ends), max(e[1][1] for e in ends)
    leans = plan.roof.ridge_made == "board" and any(m.head.kind == "ridge" for m in trimmers)
    above = head - hole.inward[1]
    return (hole.inward[0] - foot) / 2.0, above if leans else above / 2.0


def _header(
    plan: SurfacePlan,
    hole: RoofHole,
    key: str,
    end: int,
    span: float,
    line: Cases,
    points: tuple[tuple[float, Cases], ...],
    size: str,
    standard: Standard,
    own: MadeOf = AS_OTHERS,
) -> tuple[RafterHeader, MemberResult]:
    roof, spans = plan.roof, round(span, 3)
    line = Cases(*(round(v, 6) for v in line))
    spots = tuple((at, Cases(*(round(v, 3) for v in force))) for at, force in points)
    usual = made_of(size, 2 if span > LONG else 1)
    for name in (own.size,) if own.size else [plied(plies, each) for plies, each in usual]:
        case = GirderCase(
            "beam", name, own.species or roof.rafters.species, own.grade or roof.rafters.grade, spans, (0.0, spans), (SEAT, SEAT),
            ((0.0, spans, line, line),), spots, FLAT, False, False, *SAGS,
        )  # fmt: skip
        result = standard.check_girder(case).result
        if result.used <= 1.0:
            break
    return RafterHeader(key, name, hole.opening, hole.edge, end, (0.0, 0.0), ("", ""), hole.inward[end]), result


def _along(plan: SurfacePlan, hole: RoofHole, end: int, m: RoofMember) -> float:
    """Return how far in plan from its foot a header meets a rafter, mm."""
    ((_, t0),) = in_plane(plan.outline.core, hole.edge, [m.start[:2]])
    return hole.inward[end] - t0


def made_of(size: str, least: int) -> tuple[tuple[int, str], ...]:
    """Return what a trimmer, or a rafter under another roof, may be made of, the cheapest first: so many plies of a section; last of
    veneer lumber as deep, where such is made.
    """
    sawn = tuple((n, size) for n in range(least, MOST + 1))
    veneer = f"LVL 1.75x{section(size).depth / INCH:g}"
    return (*sawn, (2, veneer)) if section(size).kind == "sawn" and veneer in MADE else sawn


def plied(plies: int, size: str) -> str:
    """Return the name of plies of a section."""
    if plies == 1:
        return size
    return size.replace("LVL ", f"LVL {plies}-") if size.startswith("LVL ") else f"{plies}-{size}"
