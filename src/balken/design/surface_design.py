"""Rafters, hips and valleys of roofs of planes: sizes chosen, every one checked.

Rafters that lean on a ridge board are solved as those of a gable are: in pairs, whose thrust ties take; all others bear at both their
ends.  Hips, valleys and ridge beams are beams under what these bring them (``loads.roof_statics``), along their true length.
"""

import math
from dataclasses import dataclass, replace
from typing import NamedTuple

from msgspec.structs import replace as replace_struct

from balken.catalog.sections import JOIST_SIZES, RIDGE_BEAMS, TIE_SIZES, section
from balken.design.layouts import PLANNING_SPACING, LayoutDesign, check_case, design_layout
from balken.design.roof_snow import surface_snow
from balken.framing.bands import WallLine
from balken.framing.outlines import Outline
from balken.framing.roof_layout import THICK, RoofMember, line_runs
from balken.framing.surface_framing import Boards, SurfaceMember, deep_enough, line_drop, surface_members
from balken.framing.surface_roofs import SurfacePlan, rafter_shape, surface_plan
from balken.framing.surface_ties import Leaning, SurfaceTie, leaning, surface_ties
from balken.framing.taller_parts import Taller
from balken.geometry.plane import distance, dot, left, off_line, sub, unit
from balken.loads.area_loads import Reaction, ceiling_cases, roof_cases
from balken.loads.cases import Cases, total
from balken.loads.knots import rafter_pair
from balken.loads.roof_snow import RoofSnow, beside, on_rafter
from balken.loads.roof_statics import POST, LineLoad, Posts, Settled, ceiling_reactions, settle, spread
from balken.model.records import Loads, Roof
from balken.standards.checks import MemberResult
from balken.standards.demands import GirderCase, Limit, MemberCase
from balken.standards.standard import Standard
from balken.units import Units
from balken.units.system import INCH

PLATE = 3.5 * INCH
"""Bearing of a hip or valley on the plates at its foot; of one in its hanger at its head half of that, mm."""
CR = 1.25
"""More than plies made side by side may carry beyond what their sides tell (NDS 4.3.9: 1.15)."""
APART = 1.0
"""What lies on a line over less than this is left out of its check, mm."""
MOST = Limit(180.0, "IRC R301.7")
ALL_LOAD = Limit(120.0, "NDS 3.5.2")


class HeldLine(NamedTuple):
    """A hip, valley or ridge beam: its board, its checks, what comes to its lower and its upper end at most, N."""

    key: str
    size: str
    result: MemberResult
    foot: float
    head: float


@dataclass(frozen=True)
class SurfaceDesign:
    """A roof of planes framed: its members, their boards, checks by name; ``lines``: its hips, valleys and ridge beams; ``thrust``: of
    the untied rafter that leans hardest, N at the worst combination.

    ``names``: of the boards along the surface's lines, by their numbers; ``walls``: what rafters bring to walls; ``settled``: what comes down at the ends of lines; ``undersides``: how high those lie over
    each post that holds one, mm; ``snow``: on it, ``heaps``: what of it lies in drifts, N; ``ties`` and what was chosen for them; ``untied``: rafters that lean on a ridge board without one.
    """

    members: tuple[SurfaceMember, ...]
    boards: Boards
    results: dict[str, MemberResult]
    lines: tuple[HeldLine, ...]
    thrust: float
    names: dict[int, str]
    walls: tuple[Reaction, ...]
    settled: Settled
    undersides: dict[str, float]
    snow: RoofSnow
    heaps: Cases
    ties: tuple[SurfaceTie, ...]
    tied: LayoutDesign | None
    untied: tuple[str, ...]


def design_surface(
    roof: Roof,
    closed: Outline,
    bearing: float,
    lines: dict[str, WallLine],
    posts: Posts,
    taller: tuple[Taller, ...],
    loads: Loads,
    units: Units,
    standard: Standard,
) -> tuple[SurfacePlan, LayoutDesign | None, SurfaceDesign | None]:
    """Lay a roof of planes and choose its members; None of them where it cannot be made."""
    plan = surface_plan(roof, closed, bearing, lines)
    if plan.problem:
        return plan, None, None
    plate = min((line.core[1] - line.core[0] for w, line in lines.items() if w in closed.walls), default=PLATE)
    spacing = roof.rafters.spacing or PLANNING_SPACING
    planned = surface_members(plan, spacing)
    snow = surface_snow(plan, taller, loads, standard)
    longest = _longest(planned, snow)

    def governing(size: str, apart: float) -> MemberCase:
        cases = [_case(plan, m, apart, plate, loads, snow, size, standard) for m in longest]
        return max(cases, key=lambda case: check_case(standard, case).used)

    if not longest:
        return plan, None, None
    design = design_layout(roof.rafters, JOIST_SIZES, units, governing, standard)
    sized = replace_struct(roof, rafters=replace_struct(roof.rafters, size=design.size))
    plan = replace(plan, roof=sized)
    members = planned if abs(design.spacing - spacing) < 1e-9 else surface_members(plan, design.spacing)
    return plan, design, _designed(plan, members, design, plate, posts, loads, snow, lines, units, standard)


def _longest(members: tuple[SurfaceMember, ...], snow: RoofSnow) -> list[RoofMember]:
    """Return of each slope the rafter with the longest run from an eave, and from a valley; all on which snow may drift."""
    found: dict[tuple[float, bool, str], RoofMember] = {}
    for one in members:
        m = one.member
        if one.wall:
            drifts = snow.bands and beside(snow.bands, m.start[:2]) + beside(snow.bands, m.end[:2]) > 0.0
            key = (round(m.slope, 3), m.at_eave, one.key if drifts else "")
            if key not in found or m.theoretical > found[key].theoretical:
                found[key] = m
    return list(found.values())


def _case(
    plan: SurfacePlan,
    m: RoofMember,
    width: float,
    plate: float,
    loads: Loads,
    snow: RoofSnow,
    size: str,
    standard: Standard,
) -> MemberCase:
    """Return the case of one rafter."""
    roof, run = plan.roof, distance(m.start[:2], m.end[:2])
    pitch = plan.edges[m.edges[0]].pitch
    shape = rafter_shape(replace_struct(roof, rafters=replace_struct(roof.rafters, size=size)), run, pitch)
    at_eave = m.at_eave
    over = m.over if at_eave else 0.0
    low, high = m.ends
    core, edge = plan.outline.core, m.edges[0]
    begins = dot(left(unit(core[edge], core[(edge + 1) % len(core)])), sub(low, core[edge])) + plan.overhangs[edge]
    q = roof_cases(loads, pitch, round(on_rafter(snow.planes[edge], snow.bands, low, high, begins), 6))
    whole = q.scaled((run + over) * width / 1000.0)
    leans = roof.ridge_made == "board" and m.head.kind == "ridge"
    pair = rafter_pair(run, run * pitch, over, whole, whole) if leans and over < run else None
    bears = whole if leans else q.scaled((run / 2.0 + over + over**2 / (2.0 * run)) * width / 1000.0)
    notch = shape.seat * pitch / (1.0 + pitch**2) ** 0.5 if at_eave else 0.0
    clear = max(run - THICK / 2.0 - (plate if at_eave else THICK / 2.0), 1.0)
    return MemberCase(
        "rafter", size, roof.rafters.species, roof.rafters.grade, round(clear, 3), round(width, 3), q,
        standard.rafter_limit(pitch), round(shape.seat if at_eave else 1.5 * INCH, 3), pitch, round(over, 3), round(notch, 3),
        thrust=_rounded(pair.thrust) if pair is not None else Cases(), bears=_rounded(bears) if at_eave else Cases(),
    )  # fmt: skip


def _rounded(cases: Cases) -> Cases:
    return Cases(*(round(v, 3) for v in cases))


def _designed(
    plan: SurfacePlan,
    members: tuple[SurfaceMember, ...],
    design: LayoutDesign,
    plate: float,
    posts: Posts,
    loads: Loads,
    snow: RoofSnow,
    lines: dict[str, WallLine],
    units: Units,
    standard: Standard,
) -> SurfaceDesign:
    results: dict[str, MemberResult] = {}
    steepest = max((plan.edges[m.member.edges[0]].pitch for m in members if m.wall), default=plan.roof.pitch)
    ridge = plan.roof.ridge_size or deep_enough(design.size, 0.0, steepest)[0]
    laid = spread(plan, loads, snow, posts)
    heavier = any(lies.most > lies.laid for lies in snow.planes)
    worst = spread(plan, loads, snow, posts, most=True) if heavier else laid
    names = _names(plan, members)
    made = {i: _held(plan, names[i], on, worst.lines[i], design, steepest, standard) for i, on in laid.lines.items()}
    boards = {line.key: line.size for line, _ in made.values()}
    results |= {line.key: line.result for line, _ in made.values()}
    # Jacks are cut for hips and valleys as thick as they have come to be.
    wide: dict[tuple[str, frozenset[int]], float] = {
        (line.kind, frozenset(line.edges)): section(boards[names[run.numbers[0]]]).breadth
        for run in line_runs(plan.surface)
        if run.numbers[0] in made
        for line in (plan.surface.lines[n] for n in run.numbers)
    }
    if any(abs(breadth - THICK) > 1e-9 for breadth in wide.values()):
        members = surface_members(plan, design.spacing, wide)
    pushes = dict[str, Cases]()
    for one in members:
        if one.wall:
            case = _case(plan, one.member, design.spacing, plate, loads, snow, design.size, standard)
            results[one.key], pushes[one.key] = standard.check_member(case), case.thrust
    lean = leaning(plan, members)
    ties, tied, checks = _ties(plan, lean, pushes, design, loads, lines, units, standard)
    results |= checks
    untied = tuple(one.key for one in lean.untied)
    thrust = max((standard.combinations.worst(pushes[key])[0] for key in untied), default=0.0)
    walls = (*laid.walls, *ceiling_reactions(plan, loads, ties))
    settled = settle(plan, names, {i: (laid.lines[i], forces) for i, (_, forces) in made.items()}, posts)
    return SurfaceDesign(
        members, Boards(design.size, ridge, boards), results, tuple(line for line, _ in made.values()), thrust, names, walls,
        settled, _undersides(plan, laid.lines, names, members, boards, posts), snow, laid.heaps, ties, tied, untied,
    )  # fmt: skip


def _ties(
    plan: SurfacePlan,
    lean: Leaning,
    pushes: dict[str, Cases],
    design: LayoutDesign,
    loads: Loads,
    lines: dict[str, WallLine],
    units: Units,
    standard: Standard,
) -> tuple[tuple[SurfaceTie, ...], LayoutDesign | None, dict[str, MemberResult]]:
    """Lay the ties of pairs, choose their section for the worst of them, check each; each takes the greater push of its pair."""
    roof = plan.roof
    ties = surface_ties(plan, lean.pairs, design.size, roof.ties.size or TIE_SIZES[0], design.spacing, lines)
    if not ties:
        return (), None, {}
    q = ceiling_cases(loads)

    def case(tie: SurfaceTie, size: str) -> MemberCase:
        one, other = (pushes[key] for key in tie.rafters)
        tension = Cases(*(max(a, b) for a, b in zip(one, other, strict=True)))
        return MemberCase(
            "ceiling tie", size, roof.ties.species, roof.ties.grade, round(max(tie.line.clear, 1.0), 3), round(tie.line.width, 3),
            q, standard.tie_limit, round(max(min(tie.line.bearings), 1.0), 3), tension=tension,
        )  # fmt: skip

    alike = {case(tie, TIE_SIZES[0]): tie for tie in ties}
    fixed = replace_struct(roof.ties, spacing=design.spacing)  # ties lie beside rafters

    def governing(size: str, apart: float) -> MemberCase:
        return max((case(tie, size) for tie in alike.values()), key=lambda c: check_case(standard, c).used)

    tied = design_layout(fixed, TIE_SIZES, units, governing, standard)
    return ties, tied, {tie.key: standard.check_member(case(tie, tied.size)) for tie in ties}


def _names(plan: SurfacePlan, members: tuple[SurfaceMember, ...]) -> dict[int, str]:
    """Return the names of the boards along the lines of the surface, by the number of the first of each."""
    known = {
        (m.role, m.edges, *sorted((m.start, m.end))): one.key for one in members if not one.wall for m in (one.member,)
    }
    runs = (
        (run, (run.line.kind, run.edges, *sorted((run.line.start, run.line.end)))) for run in line_runs(plan.surface)
    )
    return {run.numbers[0]: known[name] for run, name in runs if name in known}


def _held(
    plan: SurfacePlan, key: str, on: LineLoad, worst: LineLoad, design: LayoutDesign, pitch: float, standard: Standard
) -> tuple[HeldLine, tuple[Cases, ...]]:
    """Choose the board of a hip, valley or ridge beam: the first that works of those deep enough; and what its supports take, N."""
    slope = (on.high[2] - on.low[2]) / on.run
    tried: tuple[str, ...] = (
        *deep_enough(design.size, slope, pitch),
        *(n for n in RIDGE_BEAMS if section(n).depth >= section(design.size).depth),
    )
    if on.line.kind == "ridge" and plan.roof.ridge_size is not None:
        tried = (plan.roof.ridge_size,)
    made, least = None, 0.0
    for size in tried:
        lumber = section(size)
        stiff = lumber.breadth * lumber.depth**3
        if lumber.kind == "sawn" and stiff * CR < least:
            continue  # nothing it carries grows faster with its sides than that
        found = standard.check_girder(_line_case(plan, worst, size))
        if made is None or found.used < made[1].used:
            made = (size, found)
        if found.used <= 1.0:
            break
        if lumber.kind == "sawn":
            least = max(least, stiff * found.used)
    assert made is not None
    ends, forces = made[1].extremes, made[1].reactions
    if worst is not on:
        forces = standard.check_girder(_line_case(plan, on, made[0])).reactions
    # What its check rounds off, and patches too short for it, come to its lower end: no load is lost.
    missed = total(p.force for p in on.patches).plus(total(forces).scaled(-1.0))
    return HeldLine(key, made[0], made[1].result, ends[0][0], ends[-1][0]), (forces[0].plus(missed), *forces[1:])


def _line_case(plan: SurfacePlan, on: LineLoad, size: str) -> GirderCase:
    """Return the case of a hip, valley or ridge beam."""
    true = math.dist(on.low, on.high)
    # By its true length: what lies on a mm in plan lies on more of it.
    more = true / on.run
    patches = tuple(
        (
            round(p.start * more, 3),
            round(p.end * more, 3),
            _rounded6(p.first.scaled(1.0 / more)),
            _rounded6(p.last.scaled(1.0 / more)),
        )
        for p in on.patches
        if p.end - p.start > APART
    )
    roof = plan.roof
    between = tuple(round(along * more, 3) for _, along in on.between)
    seats = (PLATE, *(PLATE for _ in between), PLATE / 2.0)
    return GirderCase(
        "beam", size, roof.rafters.species, roof.rafters.grade, round(true, 3), (0.0, *between, round(true, 3)), seats,
        patches, (), 16.0 * INCH, False, bool(between), MOST, ALL_LOAD,
    )  # fmt: skip


def _rounded6(cases: Cases) -> Cases:
    return Cases(*(round(v, 6) for v in cases))


def _undersides(
    plan: SurfacePlan,
    lines: dict[int, LineLoad],
    names: dict[int, str],
    members: tuple[SurfaceMember, ...],
    boards: dict[str, str],
    posts: Posts,
) -> dict[str, float]:
    """Return how high the lowest of the lines that each post holds is there, mm."""
    by_key, found = {one.key: one.member for one in members}, dict[str, float]()
    for i, on in lines.items():
        lumber, m = section(boards[names[i]]), by_key[names[i]]
        slope = (on.high[2] - on.low[2]) / on.run
        drop = line_drop(plan, m, lumber.breadth) + lumber.depth * math.hypot(1.0, slope)
        for post, at in posts:
            along = off_line(at, on.low[:2], on.high[:2])[0]
            at_end = min(distance(at, on.low[:2]), distance(at, on.high[:2])) <= POST
            if at_end or any(name == post for name, _ in on.between):
                z = plan.bearing + plan.plate_to_top + on.low[2] + slope * min(max(along, 0.0), on.run) - drop
                found[post] = min(z, found.get(post, z))
    return found
