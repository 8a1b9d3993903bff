"""Rafters, hips and valleys of roofs of planes: sizes chosen, every one checked.

Rafters that lean on a ridge board are solved as those of a gable are: in pairs, whose thrust ties take; all others bear at both their
ends.  Hips, valleys and ridge beams are beams under what these bring them (``loads.roof_statics``), along their true length.
"""

from dataclasses import dataclass, replace

from msgspec.structs import replace as replace_struct

from balken.catalog.sections import JOIST_SIZES
from balken.design.layouts import PLANNING_SPACING, LayoutDesign, check_case, design_layout
from balken.design.roof_openings import frame_openings, plies_of_trimmer
from balken.design.roof_snow import surface_snow
from balken.design.surface_lines import PLATE, CarriedLines, HeldLine, carry_lines
from balken.design.surface_ties import design_ties
from balken.framing.bands import WallLine
from balken.framing.outlines import Outline
from balken.framing.roof_layout import THICK, RoofMember
from balken.framing.surface_framing import Boards, RafterHeader, SurfaceMember, deep_enough, surface_members
from balken.framing.surface_roofs import SurfacePlan, rafter_shape, surface_plan
from balken.framing.surface_ties import SurfaceTie, leaning
from balken.framing.taller_parts import Taller
from balken.geometry.plane import distance, dot, left, sub, unit
from balken.loads.area_loads import Reaction, roof_cases
from balken.loads.cases import Cases
from balken.loads.knots import rafter_pair
from balken.loads.roof_snow import RoofSnow, beside, on_rafter
from balken.loads.roof_statics import Posts, ceiling_reactions
from balken.model.records import Loads, Roof, RoofOpening
from balken.standards.checks import MemberResult
from balken.standards.demands import MemberCase
from balken.standards.standard import Standard
from balken.units import Units
from balken.units.system import INCH


@dataclass(frozen=True)
class SurfaceDesign:
    """A roof of planes framed: its members, their boards, checks by name; what its lines carry; the snow on it.

    ``walls``: all that comes to walls along them; ``headers`` of openings, ``unframed``: openings that are not framed, and why;
    ``ties`` and what was chosen for them; ``untied``: rafters that lean on a ridge board without one, ``thrust``: of the one of
    those that leans hardest, N at the worst combination.
    """

    members: tuple[SurfaceMember, ...]
    boards: Boards
    results: dict[str, MemberResult]
    carried: CarriedLines
    snow: RoofSnow
    walls: tuple[Reaction, ...]
    headers: tuple[RafterHeader, ...]
    unframed: tuple[tuple[str, str], ...]
    ties: tuple[SurfaceTie, ...]
    tied: LayoutDesign | None
    untied: tuple[str, ...]
    thrust: float

    @property
    def lines(self) -> tuple[HeldLine, ...]:
        """Its hips, valleys and ridge beams."""
        return self.carried.lines


def design_surface(
    roof: Roof,
    closed: Outline,
    bearing: float,
    lines: dict[str, WallLine],
    posts: Posts,
    taller: tuple[Taller, ...],
    openings: tuple[RoofOpening, ...],
    loads: Loads,
    units: Units,
    standard: Standard,
) -> tuple[SurfacePlan, LayoutDesign | None, SurfaceDesign | None]:
    """Lay a roof of planes and choose its members; None of them where it cannot be made."""
    plan = surface_plan(roof, closed, bearing, lines, openings)
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
    q = _load_on(plan, m, loads, snow)
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


def _load_on(plan: SurfacePlan, m: RoofMember, loads: Loads, snow: RoofSnow) -> Cases:
    """Return what lies on a m2 of a rafter's strip in plan, kN/m2; uneven snow as the even one that bends and presses it no less."""
    low, high = m.ends
    core, edge = plan.outline.core, m.edges[0]
    begins = dot(left(unit(core[edge], core[(edge + 1) % len(core)])), sub(low, core[edge])) + plan.overhangs[edge]
    lies = round(on_rafter(snow.planes[edge], snow.bands, low, high, begins), 6)
    return roof_cases(loads, plan.edges[edge].pitch, lies)


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
    carried = carry_lines(plan, members, design.size, loads, snow, posts, standard)
    if any(abs(breadth - THICK) > 1e-9 for breadth in carried.thick.values()):
        # Jacks are cut for hips and valleys as thick as they have come to be.
        members = surface_members(plan, design.spacing, carried.thick)

    def on(m: RoofMember) -> Cases:
        return _load_on(plan, m, loads, snow).scaled(1.0 / 1000.0)

    def checked(m: RoofMember, width: float) -> MemberResult:
        return standard.check_member(_case(plan, m, width, plate, loads, snow, design.size, standard))

    framed = frame_openings(plan, members, design.size, on, standard)
    members, results = framed.members, {line.key: line.result for line in carried.lines} | framed.results
    pushes, own = dict[str, Cases](), dict[str, str]()
    for one in members:
        if not one.wall:
            continue
        plies, width = 1, design.spacing + framed.wide.get(one.key, 0.0)
        if one.key in framed.wide:
            plies = plies_of_trimmer(lambda n, m=one.member, w=width: checked(m, w / n))  # type: ignore[misc]
            own[one.key] = f"{plies}-{design.size}"
        results[one.key] = checked(one.member, width / plies)
        pushes[one.key] = results[one.key].case.thrust.scaled(float(plies))  # type: ignore[union-attr]
    lean = leaning(plan, members)
    ties, tied, checks = design_ties(plan, lean, pushes, design, loads, lines, units, standard)
    untied = tuple(one.key for one in lean.untied)
    steepest = max((plan.edges[m.member.edges[0]].pitch for m in members if m.wall), default=plan.roof.pitch)
    ridge = plan.roof.ridge_size or deep_enough(design.size, 0.0, steepest)[0]
    return SurfaceDesign(
        members,
        Boards(design.size, ridge, carried.boards, own),
        results | checks,
        carried,
        snow,
        (*carried.walls, *ceiling_reactions(plan, loads, ties)),
        framed.headers,
        framed.problems,
        ties,
        tied,
        untied,
        max((standard.combinations.worst(pushes[key])[0] for key in untied), default=0.0),
    )
