"""Openings in roofs of planes framed: rafters cut, headers between doubled trimmers, plies chosen by what they carry.

A header carries half of the tails below it, or of those above it (all of these where they lean on a ridge board), and hands it
to the trimmers; a trimmer is checked as a rafter under its own strip and what its headers bring (``design.rafter_loads``).
"""

from collections.abc import Callable, Sequence
from dataclasses import dataclass

from msgspec.structs import replace

from balken.catalog.sections import section
from balken.design.rafter_loads import OnRafters
from balken.framing.roof_layout import THICK, RoofMember
from balken.framing.roof_openings import LONG, RoofHole, in_plane, rafters_beside, tails
from balken.framing.surface_framing import RafterHeader, SurfaceMember
from balken.framing.surface_roofs import SurfacePlan
from balken.geometry.plane import Point
from balken.loads.cases import Cases
from balken.loads.roof_feet import Pressed
from balken.model.naming import piece_name
from balken.standards.checks import MemberResult
from balken.standards.demands import GirderCase, Limit
from balken.standards.standard import Standard
from balken.units.system import INCH

MOST = 3
"""Plies of headers and trimmers at most."""
SEAT = 1.5 * INCH
FLAT = 16.0 * INCH
SAGS = Limit(240.0, "IRC R301.7"), Limit(180.0, "NDS 3.5.2")


@dataclass(frozen=True)
class Framed:
    """Members with openings framed: ``brought``: what headers bring to each trimmer, by name; ``wide``: by how much roof more than its
    own strip it carries so, mm; ``problems``: (opening, why it is not framed).
    """

    members: tuple[SurfaceMember, ...]
    headers: tuple[RafterHeader, ...]
    wide: dict[str, float]
    brought: dict[str, list[Pressed]]
    results: dict[str, MemberResult]
    problems: tuple[tuple[str, str], ...]


LoadsOn = Callable[[Sequence[RoofMember]], dict[RoofMember, Cases]]
"""What lies on a m2 of the strips of rafters in plan, kN/m2."""


def frame_openings(
    plan: SurfacePlan, members: tuple[SurfaceMember, ...], size: str, on: OnRafters, standard: Standard
) -> Framed:
    """Cut rafters for the openings of a roof, lay headers between the whole ones beside, choose the plies of those."""
    found, headers = list(members), list[RafterHeader]()
    wide, brought, results = dict[str, float](), dict[str, list[Pressed]](), dict[str, MemberResult]()
    problems = [(hole.opening, hole.problem) for hole in plan.holes if hole.problem]
    core = plan.outline.core
    for hole in plan.holes:
        if hole.problem:
            continue
        rows = [(i, one.member) for i, one in enumerate(found) if one.wall and one.member.edges[0] == hole.edge]
        beside = rafters_beside(hole, core, rows)
        if beside.problem:
            problems.append((hole.opening, beside.problem))
            continue
        span = beside.at[1] - beside.at[0]
        runs = _runs(plan, hole, [found[i].member for i in beside.trimmers])
        members_here = [found[i].member for i in (*beside.trimmers, *beside.cut)]
        least = 2 if span > LONG else 1
        for end, run in enumerate(runs):
            q = _heaviest(hole, end, members_here, core, on.of)
            header = _header(plan, hole, end, span, run, size, q.scaled(1.0 / 1000.0), least, standard)
            results[header[0].key] = header[1]
            keys = found[beside.trimmers[0]].key, found[beside.trimmers[1]].key
            headers.append(replace(header[0], between=beside.at, trimmers=keys))
            for i in beside.trimmers:
                key, m = found[i].key, found[i].member
                wide[key] = wide.get(key, 0.0) + _as_width(plan, hole, end, m, run * span / 2.0)
                at = _along(plan, hole, end, m)
                brought.setdefault(key, []).append(Pressed(at, q.scaled(run * span / 2000.0)))
        thick = section(headers[-1].size).breadth, section(headers[-2].size).breadth
        for i in sorted(beside.cut, reverse=True):
            one = found.pop(i)
            parts = tails(one.member, hole, core, max(thick))
            for k, part in enumerate(parts):
                if part is not None:
                    found.insert(i, SurfaceMember(piece_name(one.key, "ab"[k]), part, one.wall))
            if i < max(beside.trimmers):  # numbers behind it have moved
                more = sum(part is not None for part in parts) - 1
                beside = beside._replace(trimmers=tuple(t + more if t > i else t for t in beside.trimmers))  # type: ignore[arg-type]
    return Framed(tuple(found), tuple(headers), wide, brought, results, tuple(problems))


def _heaviest(hole: RoofHole, end: int, members: list[RoofMember], core: tuple[Point, ...], loads_on: LoadsOn) -> Cases:
    """Return the most that lies on what is below (0) or above (1) an opening of any rafter by it: snow may drift on one end alone."""
    parts = [part for m in members if (part := tails(m, hole, core, THICK)[end]) is not None]
    rows = loads_on(parts or members).values()
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
    end: int,
    span: float,
    run: float,
    size: str,
    q: Cases,
    least: int,
    standard: Standard,
) -> tuple[RafterHeader, MemberResult]:
    roof = plan.roof
    line = Cases(*(round(v * run, 6) for v in q))
    for plies in range(least, MOST + 1):
        name = size if plies == 1 else f"{plies}-{size}"
        case = GirderCase(
            "beam", name, roof.rafters.species, roof.rafters.grade, round(span, 3), (0.0, round(span, 3)), (SEAT, SEAT),
            ((0.0, round(span, 3), line, line),), (), FLAT, False, False, *SAGS,
        )  # fmt: skip
        result = standard.check_girder(case).result
        if result.used <= 1.0:
            break
    key = piece_name(roof.id, "roof-header", hole.opening, "ab"[end])
    return RafterHeader(key, name, hole.opening, hole.edge, end, (0.0, 0.0), ("", ""), hole.inward[end]), result


def _along(plan: SurfacePlan, hole: RoofHole, end: int, m: RoofMember) -> float:
    """Return how far in plan from its foot a header meets a rafter, mm."""
    ((_, t0),) = in_plane(plan.outline.core, hole.edge, [m.start[:2]])
    return hole.inward[end] - t0


def _as_width(plan: SurfacePlan, hole: RoofHole, end: int, m: RoofMember, area: float) -> float:
    """Return the width of roof whose even load bends and presses a rafter no less than what a header brings it; ``area``: of roof, mm2."""
    ((_, t0), (_, t1)) = in_plane(plan.outline.core, hole.edge, [m.start[:2], m.end[:2]])
    long, x = t1 - t0, hole.inward[end] - t0
    left, right = area * (long - x) / long, area * x / long
    return max(8.0 * left * x / long**2, 2.0 * left / long, 2.0 * right / long)


def plies_needed(check: Callable[[int], MemberResult], least: int) -> int:
    """Return the plies of a rafter, ``least`` or more: a trimmer has two; ``check``: of one of so many."""
    return next((n for n in range(least, MOST) if check(n).used <= 1.0), MOST)
