"""Rafters, hips and valleys of roofs of planes: sizes chosen, every one checked.

Rafters are solved as those of a gable are: in pairs, whose thrust ties take, each bringing all its load to its eave (``knots``);
jacks as such ones of their own run.  Hips and valleys are checked as beams from the wall to what holds their upper end, under half
of what lies on the jacks at both their sides, along their true length: more than pairs that stand alike would leave them.
"""

import itertools
from dataclasses import dataclass, replace
from functools import lru_cache
from typing import NamedTuple

from msgspec.structs import replace as replace_struct

from balken.catalog.sections import JOIST_SIZES, section
from balken.design.layouts import PLANNING_SPACING, LayoutDesign, check_case, design_layout
from balken.framing.bands import WallLine
from balken.framing.outlines import Outline
from balken.framing.roof_layout import THICK, RoofMember
from balken.framing.surface_framing import Boards, SurfaceMember, deep_enough, surface_members
from balken.framing.surface_roofs import SurfacePlan, rafter_shape, surface_plan
from balken.geometry.plane import Point, add, chords, distance, dot, left, sub, unit
from balken.loads.area_loads import roof_cases
from balken.loads.cases import Cases
from balken.loads.knots import rafter_pair
from balken.model.records import Loads, Roof
from balken.standards.checks import MemberResult
from balken.standards.demands import GirderCase, Limit, MemberCase
from balken.standards.standard import Standard
from balken.units import Units
from balken.units.system import INCH

PLATE = 3.5 * INCH
"""Bearing of a hip or valley on the plates at its foot; of one in its hanger at its head half of that, mm."""
HEAVIER = ("2-2x10", "2-2x12", "3-2x12", "LVL 2-1.75x11.875", "LVL 2-1.75x14", "LVL 3-1.75x16")
"""Tried for hips and valleys where no single board is enough, in rising order."""
CR = 1.25
"""More than plies made side by side may carry beyond what their sides tell (NDS 4.3.9: 1.15)."""
SQUARE = 1e-3
"""A line that runs up a plane square to its eave has no jacks of it beside it."""
APART = 50.0
"""Stretches of a line shorter than this are one with their neighbour, mm."""
MOST = Limit(180.0, "IRC R301.7")
ALL_LOAD = Limit(120.0, "NDS 3.5.2")


class HeldLine(NamedTuple):
    """A hip or valley: its board, its checks, what comes to its foot and to its head at most, by what those must be held, N."""

    key: str
    size: str
    result: MemberResult
    foot: float
    head: float


@dataclass(frozen=True)
class SurfaceDesign:
    """A roof of planes framed: its members, their boards, checks by name; ``lines``: its hips and valleys; ``thrust``: of the
    rafter that leans hardest, N at the worst combination.
    """

    members: tuple[SurfaceMember, ...]
    boards: Boards
    results: dict[str, MemberResult]
    lines: tuple[HeldLine, ...]
    thrust: float


def design_surface(
    roof: Roof,
    closed: Outline,
    bearing: float,
    lines: dict[str, WallLine],
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
    longest = _longest(planned)

    def governing(size: str, apart: float) -> MemberCase:
        cases = [_case(plan, m, apart, plate, loads, size, standard) for m in longest]
        return max(cases, key=lambda case: check_case(standard, case).used)

    if not longest:
        return plan, None, None
    design = design_layout(roof.rafters, JOIST_SIZES, units, governing, standard)
    sized = replace_struct(roof, rafters=replace_struct(roof.rafters, size=design.size))
    plan = replace(plan, roof=sized)
    members = planned if abs(design.spacing - spacing) < 1e-9 else surface_members(plan, design.spacing)
    return plan, design, _designed(plan, members, design, plate, loads, standard)


def _longest(members: tuple[SurfaceMember, ...]) -> list[RoofMember]:
    """Return of each slope the rafter with the longest run from an eave, and from a valley."""
    found: dict[tuple[float, bool], RoofMember] = {}
    for one in members:
        m = one.member
        if one.wall:
            key = (round(m.slope, 3), m.at_eave)
            if key not in found or m.theoretical > found[key].theoretical:
                found[key] = m
    return list(found.values())


def _case(
    plan: SurfacePlan, m: RoofMember, width: float, plate: float, loads: Loads, size: str, standard: Standard
) -> MemberCase:
    """Return the case of one rafter."""
    roof, run = plan.roof, distance(m.start[:2], m.end[:2])
    pitch = plan.edges[m.edges[0]].pitch
    shape = rafter_shape(replace_struct(roof, rafters=replace_struct(roof.rafters, size=size)), run, pitch)
    at_eave = m.at_eave
    over = m.over if at_eave else 0.0
    q = roof_cases(loads, pitch)
    whole = q.scaled((run + over) * width / 1000.0)
    leans = at_eave and m.head.kind != "wall" and over < run
    pair = rafter_pair(run, run * pitch, over, whole, whole) if leans else None
    notch = shape.seat * pitch / (1.0 + pitch**2) ** 0.5 if at_eave else 0.0
    clear = max(run - THICK / 2.0 - (plate if at_eave else THICK / 2.0), 1.0)
    return MemberCase(
        "rafter", size, roof.rafters.species, roof.rafters.grade, round(clear, 3), round(width, 3), q,
        standard.rafter_limit(pitch), round(shape.seat if at_eave else 1.5 * INCH, 3), pitch, round(over, 3), round(notch, 3),
        thrust=_rounded(pair.thrust) if pair is not None else Cases(), bears=_rounded(whole) if at_eave else Cases(),
    )  # fmt: skip


def _rounded(cases: Cases) -> Cases:
    return Cases(*(round(v, 3) for v in cases))


def _designed(
    plan: SurfacePlan,
    members: tuple[SurfaceMember, ...],
    design: LayoutDesign,
    plate: float,
    loads: Loads,
    standard: Standard,
) -> SurfaceDesign:
    results: dict[str, MemberResult] = {}
    held: list[HeldLine] = []
    steepest = max((plan.edges[m.member.edges[0]].pitch for m in members if m.wall), default=plan.roof.pitch)
    ridge = deep_enough(design.size, 0.0, steepest)[0]
    boards, thrust = dict[str, str](), 0.0
    for one in members:
        if not one.wall and one.member.role != "ridge":
            made = _held(plan, one, design, steepest, loads, standard)
            boards[one.key], results[one.key] = made.size, made.result
            held.append(made)
    # Jacks are cut for hips and valleys as thick as they have come to be.
    wide = {
        (one.member.role, frozenset(one.member.edges)): section(boards[one.key]).breadth
        for one in members
        if one.key in boards
    }
    if any(abs(breadth - THICK) > 1e-9 for breadth in wide.values()):
        members = surface_members(plan, design.spacing, wide)
    for one in members:
        if one.wall:
            case = _case(plan, one.member, design.spacing, plate, loads, design.size, standard)
            results[one.key] = standard.check_member(case)
            thrust = max(thrust, standard.combinations.worst(case.thrust)[0])
    return SurfaceDesign(
        members, Boards(design.size, plan.roof.ridge_size or ridge, boards), results, tuple(held), thrust
    )


def _held(
    plan: SurfacePlan, one: SurfaceMember, design: LayoutDesign, pitch: float, loads: Loads, standard: Standard
) -> HeldLine:
    """Choose the board of a hip or valley: the first that works of those deep enough."""
    m = one.member
    run = distance(m.start[:2], m.end[:2])
    slope = (m.end[2] - m.start[2]) / run
    tried = (
        *deep_enough(design.size, slope, pitch),
        *(n for n in HEAVIER if section(n).depth >= section(design.size).depth),
    )
    made, least = None, 0.0
    for size in tried:
        lumber = section(size)
        stiff = lumber.breadth * lumber.depth**3
        if lumber.kind == "sawn" and stiff * CR < least:
            continue  # nothing it carries grows faster with its sides than that
        found = standard.check_girder(_line_case(plan, m, size, loads, standard))
        if made is None or found.used < made[1].used:
            made = (size, found)
        if found.used <= 1.0:
            break
        if lumber.kind == "sawn":
            least = max(least, stiff * found.used)
    assert made is not None
    return HeldLine(one.key, made[0], made[1].result, made[1].extremes[0][0], made[1].extremes[-1][0])


def _line_case(plan: SurfacePlan, m: RoofMember, size: str, loads: Loads, standard: Standard) -> GirderCase:
    run, true = distance(m.start[:2], m.end[:2]), m.theoretical
    stops = _turns(plan, m, run)
    patches = []
    for a, b in itertools.pairwise(stops):
        # By its true length: what lies on a mm in plan lies on more of it.
        ends = (_beside(plan, m, (a + part * (b - a)) / run, loads).scaled(run / true) for part in (0.02, 0.98))
        first, last = map(_rounded6, ends)
        patches.append((round(a / run * true, 3), round(b / run * true, 3), first, last))
    roof = plan.roof
    return GirderCase(
        "beam", size, roof.rafters.species, roof.rafters.grade, round(true, 3), (0.0, round(true, 3)), (PLATE, PLATE / 2.0),
        tuple(patches), (), 16.0 * INCH, False, False, MOST, ALL_LOAD,
    )  # fmt: skip


def _rounded6(cases: Cases) -> Cases:
    return Cases(*(round(v, 6) for v in cases))


def _turns(plan: SurfacePlan, m: RoofMember, run: float) -> list[float]:
    """Return where along a line what lies beside it may change otherwise than evenly: its ends, and beside each corner of its
    planes, mm in plan.
    """
    low, core = m.start[:2], plan.outline.core
    way = unit(low, m.end[:2])
    found = set[float]()
    for face in plan.surface.faces:
        if face.edge not in m.edges:
            continue
        eave = unit(core[face.edge], core[(face.edge + 1) % len(core)])
        along = dot(way, eave)
        if abs(along) > SQUARE:
            found |= {dot(eave, sub((x, y), low)) / along for x, y, _ in face.ring}
    kept = [0.0]
    for s in sorted(found):
        if s - kept[-1] > APART and run - s > APART:
            kept.append(s)
    return [*kept, run]


def _beside(plan: SurfacePlan, m: RoofMember, part: float, loads: Loads) -> Cases:
    """Return half of what lies on the jacks at both sides at a place along a line, N a mm of it in plan."""
    low, high = m.start[:2], m.end[:2]
    at = add(low, unit(low, high), part * distance(low, high))
    way, core, total = unit(low, high), plan.outline.core, Cases()
    faces = {face.edge: face for face in plan.surface.faces}
    for edge in m.edges:
        if edge not in faces:
            continue
        eave = unit(core[edge], core[(edge + 1) % len(core)])
        inward = left(eave)
        long = _chord(tuple((x, y) for x, y, _ in faces[edge].ring), at, inward)
        pitch = plan.edges[edge].pitch
        total = total.plus(roof_cases(loads, pitch).scaled(long / 2.0 * abs(dot(way, eave)) / 1000.0))
    return total


@lru_cache(maxsize=4_096)
def _chord(ring: tuple[Point, ...], at: Point, way: Point) -> float:
    """Return how long the plane is across, square to its eave, beside a place on its edge."""
    rows = [(abs(min(low, high, key=abs)), high - low) for low, high in chords((ring,), at, way)]
    return min(rows)[1] if rows else 0.0
