"""Rafters, hips and valleys of roofs of planes: sizes chosen, every one checked.

Rafters that lean on a ridge board are solved as those of a gable are: in pairs, whose thrust ties take; all others bear at both their
ends, and where purlins lie under them on these, too.  Hips, valleys, ridge beams and purlins are beams under what these bring them
(``loads.roof_statics``), along their true length.
"""

import math
from collections.abc import Callable, Container, Mapping, Sequence
from typing import NamedTuple

from msgspec.structs import replace

from balken.catalog.sections import JOIST_SIZES, section
from balken.design.collar_nails import NO_COLLARS, HeldCollars, held_collars
from balken.design.hip_rings import PlateRing, design_ring
from balken.design.jack_ends import NO_JACKS, JackEnds, jack_ends
from balken.design.layouts import PLANNING_SPACING, CasesFor, LayoutDesign, design_layout
from balken.design.lookouts import GableLookouts, gable_lookouts
from balken.design.rafter_checks import RafterChecks, checked_rafters, hardest_of, more_lifted, on_parts, rafter_case
from balken.design.rafter_loads import OnRafters
from balken.design.roof_openings import Framed, frame_openings
from balken.design.roof_snow import surface_snow
from balken.design.struts import HeldStrut, on_struts
from balken.design.surface_lines import PLATE, CarriedLines, HeldLine, carry_lines
from balken.design.surface_ties import design_ties
from balken.framing.bands import WallLine
from balken.framing.collar_ties import collar_ties
from balken.framing.dormers import DormerPlace, with_dormers, with_trimmers
from balken.framing.hand_edits import Edited
from balken.framing.joined_roofs import Above, run_under, without_tails
from balken.framing.outlines import Outline
from balken.framing.past_heads import with_past
from balken.framing.pieces import MadeOf, Piece, Snag
from balken.framing.purlins import Purlin, crossing, in_pieces, lies_on, props, purlins
from balken.framing.rafter_stations import THICK
from balken.framing.roof_layout import RoofMember, rafters_at
from balken.framing.struts import Strut, laid_struts
from balken.framing.surface_edits import EditedSurface, edited_surface, line_edits, line_made
from balken.framing.surface_framing import RafterHeader
from balken.framing.surface_members import AS_OTHERS, Boards, SurfaceMember, deep_enough, surface_members, thickness
from balken.framing.surface_roofs import SurfacePlan, surface_plan
from balken.framing.surface_ties import SurfaceTie, leaning
from balken.framing.taller_parts import Taller
from balken.framing.tapered import level_members
from balken.framing.wall_ledgers import WallLedger, ledgers
from balken.geometry.plane import Ring
from balken.geometry.roof_joins import LowerPlane
from balken.loads.area_loads import Reaction, ceiling_cases
from balken.loads.cases import Cases, total
from balken.loads.roof_feet import Foot, Pressing, UnderRoofs
from balken.loads.roof_hung import Rafters, RoofHung, hung_in_roof
from balken.loads.roof_snow import RoofSnow
from balken.loads.roof_statics import Posts, ceiling_reactions
from balken.loads.roof_wind import PartsWind, WindAt
from balken.model.records import Loads, MemberEdit, Roof, RoofOpening
from balken.standards.checks import MemberResult
from balken.standards.demands import GirderCase, MemberCase
from balken.standards.standard import Standard
from balken.units import Units
from balken.value import Value


class SurfaceDesign(Value, frozen=True):
    """A roof of planes framed: its members, their boards, checks by name; what its lines carry; hand edits of single rafters, and
    what of those could not be done; the snow on it.

    ``walls``: all that comes to walls along them; ``headers`` of openings, ``unframed``: openings that are not framed, and why;
    ``ties`` and what was chosen for them; ``untied``: rafters that lean on a ridge board without one, ``thrust``: of the one of
    those that leans hardest, N at the worst combination.  ``widths``: how wide a strip of roof each rafter carries, mm; ``lookouts`` over
    its gables; ``purlins``: pieces of such; ``ring``: of plates, where hips keep one another in balance; ``collars``: its collar ties as they lie; ``ledgers`` on walls, and all that is ``hung`` on these, on ridge beams, headers and trimmers.
    """

    members: tuple[SurfaceMember, ...]
    boards: Boards
    results: dict[str, MemberResult]
    carried: CarriedLines
    edited: Edited[SurfacePlan]
    snags: tuple[Snag, ...]
    snow: RoofSnow
    walls: tuple[Reaction, ...]
    headers: tuple[RafterHeader, ...]
    unframed: tuple[tuple[str, str], ...]
    ties: tuple[SurfaceTie, ...]
    tied: LayoutDesign | None
    untied: tuple[str, ...]
    thrust: float
    widths: dict[str, float]
    lookouts: GableLookouts
    purlins: tuple[Purlin, ...] = ()
    ring: PlateRing | None = None
    collars: tuple[Piece, ...] = ()
    collared: HeldCollars = NO_COLLARS
    """The nails of those."""
    ledgers: tuple[WallLedger, ...] = ()
    hung: tuple[RoofHung, ...] = ()
    jacks: JackEnds = NO_JACKS
    """How its jacks end at hips and valleys; those that hang are among what is ``hung``."""
    struts: tuple[HeldStrut, ...] = ()
    """Under its purlins, where those stand on such."""

    def heavier(self, spacing: float) -> dict[str, float]:
        """Return for each wall how many times a strip ``spacing`` wide the rafter on it carries that carries most."""
        found: dict[str, float] = {}
        for one in self.members:
            if one.wall and one.member.at_eave:
                times = self.widths[one.key] / spacing
                found[one.wall] = max(times, found.get(one.wall, 1.0))
        return found

    @property
    def lines(self) -> tuple[HeldLine, ...]:
        """Its hips, valleys, ridge beams and purlins."""
        return self.carried.lines


class Chosen(Value, frozen=True):
    """A roof of planes laid, the section and spacing of its rafters chosen, its members not yet framed; ``design`` None: it has none."""

    plan: SurfacePlan
    members: tuple[SurfaceMember, ...]
    design: LayoutDesign | None
    plate: float
    snow: RoofSnow
    wind: PartsWind | None = None
    """On parts of it; None where that is not looked at."""


Onto = tuple[tuple[Ring, tuple[LowerPlane, ...]], ...]
"""Outlines and planes of roofs that a roof runs on onto."""


def choose_surface(
    roof: Roof,
    closed: Outline,
    bearing: float,
    lines: dict[str, WallLine],
    taller: tuple[Taller, ...],
    openings: tuple[RoofOpening, ...],
    loads: Loads,
    units: Units,
    standard: Standard,
    onto: Onto = (),
    at: WindAt | None = None,
    thick: float = 0.0,
    size_alone: bool = False,
) -> Chosen:
    """Lay a roof of planes and choose section and spacing of its rafters, by what lies on it alone: those that carry more, under
    another roof or beside an opening, get more plies.  ``thick``: of walls that are none of the project's, mm; ``size_alone``: nothing but what is chosen is
    asked for; ``at``: where wind blows on it, None where that is not looked at.
    """
    plan = surface_plan(roof, closed, bearing, lines, openings, onto, thick)
    if plan.problem:
        return Chosen(plan, (), None, PLATE, surface_snow(plan, taller, loads, standard))
    plate = min((line.core[1] - line.core[0] for w, line in lines.items() if w in closed.walls), default=thick or PLATE)
    snow = surface_snow(plan, taller, loads, standard)
    wind = on_parts(plan.mean_height, at, standard)
    planned, cases_for = hardest_cases(plan, plate, snow, loads, lines, standard, wind)
    if cases_for is None:
        return Chosen(plan, (), None, plate, snow, wind)
    design = design_layout(roof.rafters, JOIST_SIZES, units, cases_for, standard)
    sized = replace(roof, rafters=replace(roof.rafters, size=design.size))
    sized_plan = replace(plan, roof=sized)
    if size_alone:
        return Chosen(sized_plan, planned, design, plate, snow, wind)
    if plan.laid_on and sized_plan.plate_to_top != plan.plate_to_top:
        # Its planes lie by the depth of its rafters, and so does where they come down.
        sized_plan = surface_plan(sized, closed, bearing, lines, openings, onto, thick)
    same = (
        abs(design.spacing - (roof.rafters.spacing or PLANNING_SPACING)) < 1e-9 and sized_plan.surface is plan.surface
    )
    members = planned if same else surface_members(sized_plan, design.spacing)
    return Chosen(sized_plan, members, design, plate, snow, wind)


def hardest_cases(
    plan: SurfacePlan,
    plate: float,
    snow: RoofSnow,
    loads: Loads,
    lines: dict[str, WallLine],
    standard: Standard,
    wind: PartsWind | None = None,
) -> tuple[tuple[SurfaceMember, ...], CasesFor | None]:
    """Lay the rafters of a roof at a planning spacing; return what makes the cases of those of which one governs, None where there are none;
    ``plate``: how wide the plates below are, mm; ``wind``: on parts of the roof.
    """
    roof = plan.roof
    spacing = roof.rafters.spacing or PLANNING_SPACING
    planned = surface_members(plan, spacing)
    rafters = [one.member for one in planned if one.wall]
    under = purlins(plan, planned, spacing)
    held = props(plan, planned, under, spacing, lines)
    into = crossing(plan, planned, under) if roof.purlins_in > 0.0 else {}
    notched = {one.member for one in planned if one.key in into}
    lies = OnRafters(plan, loads, snow).bare(rafters, held)
    hardest = hardest_of(rafters, lies, held, notched)

    def cases_for(size: str, apart: float) -> list[MemberCase]:
        ceiling = ceiling_cases(loads)
        return [
            rafter_case(
                plan, m, apart, plate, lies[m], size, standard, ceiling=ceiling, prop=held.get(m, 0.0),
                let_in=roof.purlins_in if m in notched else 0.0, ice=standard.ice_at_eaves(loads), wind=wind,
            )
            for m in hardest
        ]  # fmt: skip

    return planned, cases_for if hardest else None


def frame_surface(
    chosen: Chosen,
    uppers: tuple[Above, ...],
    feet: tuple[Foot, ...],
    posts: Posts,
    edits: tuple[MemberEdit, ...],
    loads: Loads,
    lines: dict[str, WallLine],
    units: Units,
    standard: Standard,
    dormers: tuple[DormerPlace, ...] = (),
    stock: float = math.inf,
) -> tuple[SurfacePlan, SurfaceDesign | None]:
    """Frame a roof of planes whose rafters are chosen; ``uppers``: roofs that run on onto it, ``feet``: what those and ``dormers`` bring
    down; ``stock``: how long lumber comes, mm.
    """
    plan = with_dormers(run_under(chosen.plan, uppers), dormers)
    if chosen.design is None:
        return plan, None
    over = UnderRoofs(feet, plan.covered)
    members = chosen.members
    if plan is not chosen.plan:  # the same planes, some with shorter overhangs
        cut = without_tails(plan, [one.member for one in members])
        members = tuple(replace(one, member=m) for one, m in zip(members, cut, strict=True))
    made = replace(chosen, plan=plan, members=members)
    return plan, _designed(made, chosen.design, over, posts, edits, loads, lines, units, standard, dormers, stock)


def _under(
    plan: SurfacePlan,
    members: tuple[SurfaceMember, ...],
    spacing: float,
    lines: dict[str, WallLine],
    posts: Posts,
    stock: float,
) -> tuple[tuple[Strut, ...], Posts, tuple[Purlin, ...]]:
    """Return struts under purlins, these among the posts that hold lines, and purlins in pieces."""
    struts, laid = laid_struts(plan, purlins(plan, members, spacing), members, lines)
    held_by = (*posts, *((one.key, one.at) for one in struts))
    return struts, held_by, in_pieces(plan, laid, held_by, stock)


def _loose(
    loose: Sequence[SurfaceMember], pushes: Mapping[str, Cases], standard: Standard
) -> tuple[tuple[str, ...], float]:
    """Return the rafters that nothing ties, and how hard they push at most."""
    return tuple(one.key for one in loose), _hardest_push([pushes[one.key] for one in loose], standard)


def _of_lines(carried: CarriedLines, struts: Sequence[HeldStrut]) -> dict[str, MemberResult]:
    """Return the checks of lines and of the struts under purlins."""
    return {line.key: line.result for line in carried.lines} | {one.strut.key: one.result for one in struts}


class _Lined(NamedTuple):
    """Of what ridges are that carry nothing; hips, valleys and ridges by their names; what of these is made by hand; how thick they are, by
    their kind and edges, mm.
    """

    ridge: str
    boards: dict[str, str]
    own: dict[str, MadeOf]
    thick: dict[tuple[str, frozenset[int]], float]


def _lined(
    plan: SurfacePlan,
    members: tuple[SurfaceMember, ...],
    carried: CarriedLines,
    edits: Mapping[str, MemberEdit],
    size: str,
) -> _Lined:
    ridge = _ridge_board(plan, members, size)
    # Boards of ridges on which rafters lean carry nothing.
    bare = {key: line_made(edit, ridge) for key, edit in edits.items() if key not in carried.boards}
    boards = carried.boards | {key: wood.size for key, wood in bare.items() if wood.size}
    return _Lined(ridge, boards, {**carried.own, **bare}, carried.thick | _thick(members, bare))


def _thick(members: Sequence[SurfaceMember], made: Mapping[str, MadeOf]) -> dict[tuple[str, frozenset[int]], float]:
    """Return how thick boards made by hand are, by their kind and edges, mm."""
    rows = ((x.member, made[x.key].size) for x in members if x.key in made)
    return {(m.role, frozenset(m.edges)): section(size).breadth for m, size in rows if size}


def _ridge_board(plan: SurfacePlan, members: tuple[SurfaceMember, ...], rafter: str) -> str:
    """Return the typed ridge board, else one as deep as the rafters' plumb cut."""
    steepest = max((plan.edges[m.member.edges[0]].pitch for m in members if m.wall), default=plan.roof.pitch)
    return plan.roof.ridge_size or deep_enough(rafter, 0.0, steepest)[0]


def _checks(
    on: OnRafters,
    plate: float,
    carries: Sequence[SurfaceMember],
    pressed: Mapping[str, Pressing],
    under: Sequence[Purlin],
    edited: EditedSurface,
    design: LayoutDesign,
    lines: dict[str, WallLine],
    standard: Standard,
    wind: PartsWind | None,
) -> RafterChecks:
    """Return what checks the rafters of a roof; ``pressed``: what stands on them, ``under``: purlins."""
    even = _evenly_on(on.plan, carries, pressed, edited.made, design.size)
    held = props(on.plan, even, under, design.spacing, lines)
    lies = on.bare([one.member for one in carries], held)
    width = {one.key: edited.wide.get(one.key, design.spacing) for one in carries}
    into = crossing(on.plan, carries, under)
    return RafterChecks(
        on.plan, plate, edited.made, width, lies, pressed, held, into, design.size, on.loads, standard, wind
    )


def _with_hung(
    made: SurfaceDesign, on: OnRafters, check: RafterChecks, framed: Framed, standard: Standard
) -> SurfaceDesign:
    """Return a roof framed with its ledgers on walls, all that hangs in it, and how its jacks end."""
    carries, size = [one for one in framed.members if one.wall], made.boards.rafter
    own = made.boards.lines | made.boards.own
    found, standing = ledgers(on.plan, carries, size), on.standing(carries)
    standing |= {key: [*standing.get(key, []), *more] for key, more in framed.brought.items()}
    rafters = Rafters(on.plan, carries, check.lies, check.widths, standing, lambda key: own.get(key, size))
    brought = {key: _ends(made.case) for key, made in framed.results.items() if isinstance(made.case, GirderCase)}
    jacks = jack_ends(rafters, framed.members, made.boards.wood, standard)
    hung = (*hung_in_roof(rafters, found, framed.members, framed.headers, brought), *jacks.hung)
    return replace(made, ledgers=found, hung=hung, jacks=jacks)


def _ends(case: GirderCase) -> tuple[Cases, Cases]:
    """Return what a header brings to both its ends, N: half of what lies evenly on it, points by the lever."""
    even = total(p.scaled((high - low) / 4.0) for low, high, a, b in case.patches for p in (a, b))
    first = total(force.scaled(1.0 - x / case.length) for x, force in case.points)
    last = total(force.scaled(x / case.length) for x, force in case.points)
    return even.plus(first), even.plus(last)


def _least_plies(pressed: Mapping[str, Pressing], framed: Framed) -> dict[str, int]:
    """Return which rafters may be of plies, and of how many at least: trimmers are doubled."""
    return dict.fromkeys(pressed, 1) | dict.fromkeys(framed.brought, 2)


def _hardest_push(pushes: Sequence[Cases], standard: Standard) -> float:
    return max((standard.combinations.worst(push)[0] for push in pushes), default=0.0)


def _evenly_on(
    plan: SurfacePlan,
    carries: Sequence[SurfaceMember],
    pressed: Container[str],
    made: Mapping[str, MadeOf],
    size: str,
) -> list[SurfaceMember]:
    """Return the rafters that purlins may hold.  What stands on one is no even load on two spans: such a one is checked as if nothing held it
    between, as is one too shallow to reach down to the purlin; ``size``: of the others.
    """
    return [
        one
        for one in carries
        if one.key not in pressed and lies_on(plan, size, made.get(one.key, AS_OTHERS).sized(size))
    ]


def _laying(
    plan: SurfacePlan, thick: Mapping[tuple[str, frozenset[int]], float]
) -> Callable[[int, float], list[RoofMember]]:
    """Return what lays the rafters of a plane at a place along its edge; ``thick``: of hips, valleys and ridges."""
    wide = thickness(plan, thick)

    def lay_at(edge: int, along: float) -> list[RoofMember]:
        laid = rafters_at(plan.surface, plan.outline.core, plan.overhangs, edge, along, wide)
        return level_members(plan, with_past(plan, without_tails(plan, laid)))

    return lay_at


def _cut_for(
    plan: SurfacePlan,
    members: tuple[SurfaceMember, ...],
    spacing: float,
    thick: Mapping[tuple[str, frozenset[int]], float],
) -> tuple[SurfaceMember, ...]:
    """Return members with their jacks cut for hips and valleys as thick as they have come to be."""
    if all(abs(breadth - THICK) <= 1e-9 for breadth in thick.values()):
        return members
    return surface_members(plan, spacing, thick)


def _designed(
    chosen: Chosen,
    design: LayoutDesign,
    over: UnderRoofs,
    posts: Posts,
    edits: tuple[MemberEdit, ...],
    loads: Loads,
    lines: dict[str, WallLine],
    units: Units,
    standard: Standard,
    dormers: tuple[DormerPlace, ...],
    stock: float,
) -> SurfaceDesign:
    plan, members, snow = chosen.plan, chosen.members, chosen.snow
    leaning_up, held_by, under = _under(plan, members, design.spacing, lines, posts, stock)
    by_line, lost = line_edits(members, edits, plan.roof.id, [one.key for one in under])
    carried = carry_lines(plan, members, design.size, loads, snow, held_by, standard, over, under, by_line, chosen.wind)
    carried, struts = on_struts(plan, leaning_up, carried, standard)
    lined = _lined(plan, members, carried, by_line, design.size)
    members = _cut_for(plan, members, design.spacing, lined.thick)
    lay_at = _laying(plan, lined.thick)
    edited = edited_surface(plan, members, edits, design.size, design.spacing, lay_at)
    on = OnRafters(plan, loads, snow, over)
    trimmed = with_trimmers(plan, edited.members, dormers, lay_at)
    framed = frame_openings(plan, trimmed, design.size, on, standard, edits)
    members, carries = framed.members, [one for one in framed.members if one.wall]
    lean = leaning(plan, members)
    pressed = on.pressings(carries, lean, framed.brought)
    check = _checks(on, chosen.plate, carries, pressed, under, edited, design, lines, standard, chosen.wind)
    rafters, pushes, own = checked_rafters(members, check, edited.made, _least_plies(pressed, framed), design.size)
    tying, tied, checks = design_ties(plan, lean, pushes, design, loads, lines, units, standard, edits)
    ties, loose = tying.ties, [*lean.untied, *(one for one in members if one.key in tying.loose)]
    boards = Boards(design.size, lined.ridge, lined.boards, own, edited.made | lined.own | framed.made)
    collars = collar_ties(plan, members, framed.headers, boards, design.spacing, edits)
    made = edited.made | tying.made | lined.own | framed.made | collars.made
    lookouts = gable_lookouts(plan, members, (design.size, tied.size if tied else ""), loads, snow, lines, standard)
    widths = {one.key: check.widths[one.key] + more_lifted(one.member, pressed.get(one.key), loads) for one in carries}
    whole = SurfaceDesign(
        members,
        boards,
        _of_lines(carried, struts) | framed.results | rafters | checks | lookouts.results,
        carried,
        Edited(plan, made, frozenset(made), (*edited.lost, *tying.lost, *framed.lost, *collars.lost, *lost)),
        (*edited.snags, *tying.snags, *carried.snags, *collars.snags),
        snow,
        (*carried.walls, *ceiling_reactions(plan, loads, ties), *lookouts.reactions),
        framed.headers,
        framed.problems,
        ties,
        tied,
        *_loose(loose, pushes, standard),
        widths,
        lookouts,
        under,
        design_ring(plan, carried, lined.ridge, design.spacing, lines, standard),
        collars.pieces,
        held_collars(plan, collars, boards, check.widths, loads, chosen.wind, standard),
        struts=struts,
    )
    return _with_hung(whole, on, check, framed, standard)
