"""Hip ends of a roof under trusses that are framed with rafters: designed as a roof of planes whose hips the truss at that end holds up; what
they, and the ceiling joists there, bring to that truss.
"""

from collections.abc import Mapping, Sequence
from functools import reduce

from msgspec import field
from msgspec.structs import replace

from balken.catalog.sections import JOIST_SIZES, TIE_SIZES, section
from balken.design.jack_ends import both_jacks
from balken.design.layouts import Case, LayoutDesign, design_layout
from balken.design.surface_design import Chosen, SurfaceDesign, frame_surface, hardest_cases
from balken.design.surface_lines import CarriedLines
from balken.framing.bands import WallLine
from balken.framing.joist_lines import HANGER
from balken.framing.raftered_ends import (
    TRUSS,
    EndJoist,
    RafteredEnd,
    end_joists,
    end_plan,
    rafter_height,
    raftered_ends,
    truss_at,
)
from balken.framing.surface_members import surface_members
from balken.framing.surface_roofs import SurfacePlan
from balken.geometry.plane import Point
from balken.loads.area_loads import Reaction, ceiling_cases, line_reactions
from balken.loads.cases import Cases, total
from balken.loads.roof_hung import RoofHung
from balken.loads.roof_settling import Settled
from balken.loads.roof_statics import Posts
from balken.loads.roof_wind import RoofWind
from balken.model.kinds.member_edit import TRUSS as OF_TRUSSES
from balken.model.naming import piece_name
from balken.model.records import Loads, MemberEdit
from balken.standards.checks import MemberResult
from balken.standards.demands import MemberCase
from balken.standards.standard import Standard
from balken.units import Units
from balken.value import Value


class OnTruss(Value, frozen=True):
    """What comes to the truss at a hip end: where in plan, N by case; whether it hangs on its bottom chord, else it rests on its top."""

    at: Point
    force: Cases
    hangs: bool


class ChosenEnds(Value, frozen=True):
    """A roof under trusses with hip ends that rafters carry: its plan, whose trusses are as high as those lie; the ends, each with the rafters
    chosen for it.
    """

    plan: SurfacePlan
    ends: tuple[tuple[RafteredEnd, Chosen], ...]
    design: LayoutDesign


class CeilingJoists(Value, frozen=True):
    """The ceiling joists of a hip end: as laid, what was chosen for them, how far in of its wall their truss stands, mm."""

    joists: tuple[EndJoist, ...]
    tied: LayoutDesign
    deep: float
    results: Mapping[str, MemberResult] = field(default_factory=dict)


class FramedEnds(Value, frozen=True):
    """Hip ends framed: all their rafters, hips and ceilings as of one roof; what comes to trusses."""

    framing: SurfaceDesign
    ceilings: tuple[CeilingJoists, ...]
    on_trusses: tuple[OnTruss, ...]


def choose_ends(
    chosen: Chosen, loads: Loads, lines: dict[str, WallLine], units: Units, standard: Standard, least: str = ""
) -> ChosenEnds | None:
    """Choose the rafters of a roof's hip ends, alike at both and of a section no less than ``least``; None where it has none, or they cannot
    be (``raftered_ends`` says why).
    """
    plan, (ends, _) = chosen.plan, raftered_ends(chosen.plan)
    typed = plan.roof.rafters
    if chosen.design is not None and chosen.design.size_auto:
        typed = replace(typed, size=None)  # that was chosen for rafters all over the roof
    parts = [end_plan(plan, end) for end in ends]
    made = [hardest_cases(part, chosen.plate, chosen.snow, loads, lines, standard, chosen.wind) for part in parts]
    makers = [cases for _, cases in made if cases is not None]
    if not makers:
        return None

    def cases_for(size: str, spacing: float) -> list[Case]:
        return [case for make in makers for case in make(size, spacing)]

    sizes = tuple(size for size in JOIST_SIZES if not least or section(size).depth >= section(least).depth)
    design = design_layout(typed, sizes, units, cases_for, standard)
    rafters = replace(typed, size=design.size)
    whole = replace(plan, roof=replace(plan.roof, rafters=rafters))
    heel = plan.roof.trusses
    if heel.heel is None:
        heel = replace(heel, heel=rafter_height(whole))
    at = tuple(truss_at(plan, end) for end in ends)
    whole = replace(whole, roof=replace(whole.roof, trusses=heel), ends_at=at)
    rows = []
    for end, part in zip(ends, parts, strict=True):
        sized = replace(part, roof=replace(part.roof, rafters=rafters))
        members = surface_members(sized, design.spacing)
        rows.append((end, Chosen(sized, members, design, chosen.plate, chosen.snow, chosen.wind)))
    return ChosenEnds(whole, tuple(rows), design)


def frame_ends(
    chosen: ChosenEnds,
    posts: Posts,
    edits: tuple[MemberEdit, ...],
    loads: Loads,
    wind: RoofWind | None,
    lines: dict[str, WallLine],
    units: Units,
    standard: Standard,
    stock: float,
) -> FramedEnds:
    """Frame the hip ends of a roof under trusses; ``edits``: of single members by hand, ``stock``: how long lumber comes, mm."""
    mine = tuple(edit for edit in edits if edit.sort != OF_TRUSSES)
    made, ceilings, brought = list[SurfaceDesign](), list[CeilingJoists](), list[OnTruss]()
    for end, of in chosen.ends:
        held = (*posts, (TRUSS, end.peak[:2]))
        plan, framing = frame_surface(of, (), (), held, mine, loads, lines, units, standard, stock=stock)
        assert framing is not None
        ceiling, reactions = _ceiling(plan, end, framing, chosen.design.spacing, loads, units, standard)
        key = piece_name(plan.roof.id, "ceiling")
        walls = framing.walls
        if ceiling is not None:
            ceilings.append(ceiling)
            walls = tuple(r for r in walls if r.piece != key)
        every = (*walls, *reactions)
        brought += [OnTruss(r.at, r.force, True) for r in every if r.bearer == TRUSS]
        brought += [
            OnTruss(r.at, _lifted(r.force, loads, wind), False)
            for r in framing.carried.settled.points
            if r.bearer == TRUSS
        ]
        hung = _hung(plan, ceiling, reactions) if ceiling is not None else []
        made.append(_without_truss(framing, tuple(r for r in every if r.bearer != TRUSS), ceiling, hung))
    return FramedEnds(reduce(_together, made), tuple(ceilings), tuple(brought))


def _lifted(force: Cases, loads: Loads, wind: RoofWind | None) -> Cases:
    """Return what comes to a truss with what wind lifts there: on as much of the roof as lies on it, as in the end zones, overhangs, which
    help, left out.
    """
    if wind is None:
        return force
    dead = force.dead / loads.roof_dead if loads.roof_dead > 0.0 else 0.0
    area = force.roof_live / loads.roof_live if loads.roof_live > 0.0 else dead
    return force._replace(wind=-wind.end * max(area, 0.0))


def _without_truss(
    framing: SurfaceDesign, walls: tuple[Reaction, ...], ceiling: CeilingJoists | None, hung: Sequence[RoofHung]
) -> SurfaceDesign:
    """Return the framing of an end with what comes to its walls alone, and with its ceiling."""
    carried, settled = framing.carried, framing.carried.settled
    points = tuple(r for r in settled.points if r.bearer != TRUSS)
    under = {post: z for post, z in carried.undersides.items() if post != TRUSS}
    carried = replace(carried, settled=Settled(points, settled.unheld, settled.onto), undersides=under)
    results = framing.results | dict(ceiling.results) if ceiling is not None else framing.results
    tied = ceiling.tied if ceiling is not None else None
    return replace(framing, carried=carried, walls=walls, results=results, hung=(*framing.hung, *hung), tied=tied)


def _ceiling(
    plan: SurfacePlan,
    end: RafteredEnd,
    framing: SurfaceDesign,
    spacing: float,
    loads: Loads,
    units: Units,
    standard: Standard,
) -> tuple[CeilingJoists | None, tuple[Reaction, ...]]:
    """Lay and choose the ceiling joists of an end; what they bring to its wall and its truss; None where there is room for none."""
    roof, hips = plan.roof, {line.key: line.size for line in framing.lines}
    rafter = framing.boards.rafter

    def laid(size: str) -> tuple[EndJoist, ...]:
        return end_joists(plan, end, framing.members, (rafter, size), hips)

    if not laid(roof.ties.size or TIE_SIZES[0]):
        return None, ()

    def case(joist: EndJoist, size: str) -> MemberCase:
        line, wood = joist.line, roof.ties
        return MemberCase(
            "ceiling tie", size, wood.species, wood.grade, round(line.clear, 3), round(line.width, 3), ceiling_cases(loads), standard.tie_limit,
            round(min(line.bearings[0], HANGER), 3),
        )  # fmt: skip

    def cases_for(size: str, _: float) -> list[MemberCase]:
        # Deeper ones find less room below hips: where none does, the clear span is asked for at the widest usual spacing.
        return [case(joist, size) for joist in laid(size)] or [case(max(laid(TIE_SIZES[0]), key=_wide), size)]

    beside = replace(roof.ties, spacing=spacing)  # they lie beside rafters
    tied = design_layout(beside, TIE_SIZES, units, cases_for, standard)
    joists = laid(tied.size)
    if not joists:
        return None, ()
    q = ceiling_cases(loads)
    reactions = tuple(r for one in joists for r in line_reactions(one.key, one.line, q, one.frame.back))
    results = {one.key: standard.check_member(case(one, tied.size)) for one in joists}
    return CeilingJoists(joists, tied, end.deep, results), reactions


def _wide(joist: EndJoist) -> float:
    return joist.line.width


def _hung(plan: SurfacePlan, ceiling: CeilingJoists, reactions: Sequence[Reaction]) -> list[RoofHung]:
    """Return the ends of ceiling joists at the side of their truss."""
    ends = {r.piece: r for r in reactions if r.bearer == TRUSS}
    return [
        RoofHung(one.key, TRUSS, (*ends[one.key].at, plan.bearing), ceiling.tied.size, ends[one.key].force)
        for one in ceiling.joists
    ]


def _together(a: SurfaceDesign, b: SurfaceDesign) -> SurfaceDesign:
    """Return two ends as of one roof: of what is chosen for both the ceiling of that which is used more."""
    boards = a.boards._replace(
        lines=a.boards.lines | b.boards.lines, own=a.boards.own | b.boards.own, wood=a.boards.wood | b.boards.wood
    )
    tied = max((x for x in (a.tied, b.tied) if x is not None), key=lambda x: x.result.used, default=None)
    missing = {edit.id for edit, _ in a.edited.lost} & {edit.id for edit, _ in b.edited.lost}
    lost = tuple(row for row in a.edited.lost if row[0].id in missing)
    made = {**a.edited.made, **b.edited.made}
    return replace(
        a,
        members=(*a.members, *b.members),
        boards=boards,
        results={**a.results, **b.results},
        carried=_carried(a.carried, b.carried),
        edited=replace(a.edited, made=made, names=a.edited.names | b.edited.names, lost=lost),
        snags=(*a.snags, *b.snags),
        walls=(*a.walls, *b.walls),
        headers=(*a.headers, *b.headers),
        unframed=(*a.unframed, *b.unframed),
        tied=tied,
        widths={**a.widths, **b.widths},
        hung=(*a.hung, *b.hung),
        jacks=both_jacks(a.jacks, b.jacks),
    )


def _carried(a: CarriedLines, b: CarriedLines) -> CarriedLines:
    """Return what the hips of both ends carry; those of the second go by numbers above the first's."""
    past = max(a.names, default=-1) + 1
    unheld = tuple(replace(end, lines=tuple(k + past for k in end.lines)) for end in b.settled.unheld)
    settled = Settled((*a.settled.points, *b.settled.points), (*a.settled.unheld, *unheld), ())
    return replace(
        a,
        lines=(*a.lines, *b.lines),
        names=a.names | {k + past: name for k, name in b.names.items()},
        boards=a.boards | b.boards,
        walls=(*a.walls, *b.walls),
        settled=settled,
        undersides={**a.undersides, **b.undersides},
        heaps=total((a.heaps, b.heaps)),
        thick=a.thick | b.thick,
        own={**a.own, **b.own},
        snags=(*a.snags, *b.snags),
    )
