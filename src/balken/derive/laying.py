"""Floors and roofs: outlines, joists, rafters and ties laid and sized, and the walls under them fitted."""

from collections.abc import Iterable
from typing import Any, NamedTuple

from msgspec.structs import replace

from balken.catalog.own_joists import in_order
from balken.catalog.sections import section
from balken.derive.surfaces import LaidSurface, beside_taller, lay_surfaces, walls_of, wind_at
from balken.derive.trussed_roofs import roof_truss_pieces
from balken.design.dormers import DormerDesign
from balken.design.joists import design_floor
from balken.design.layouts import LayoutDesign
from balken.design.lookouts import GableLookouts, Lookouts
from balken.design.raised_slabs import design_raised_slab
from balken.design.roof_design import design_roof
from balken.design.roof_snow import gable_snow
from balken.design.roof_trusses import TrussRoof
from balken.design.surface_design import SurfaceDesign
from balken.design.truss_ledgers import OnLedger, on_ledgers
from balken.framing.against_walls import on_faces
from balken.framing.bands import WallLine
from balken.framing.beams import BeamLine, beam_lines
from balken.framing.dormer_walls import DormerWalls, wall_pieces
from balken.framing.dormers import DormerPlace
from balken.framing.drawn_outlines import drawn_outline, with_arcs
from balken.framing.eaves import eave_pieces
from balken.framing.fitting import fitted_lines, heads_under_floors, heads_under_roof, ribbons
from balken.framing.floor_openings import corners_of
from balken.framing.floors import FloorPlan, at_height, in_reach
from balken.framing.foundations import FoundationRun
from balken.framing.gable_ladders import ladder_pieces
from balken.framing.hand_edits import Edited, both_edited, edited_floor
from balken.framing.lookouts import LookoutRow, let_in, lookout_pieces, soffited
from balken.framing.outlines import Outline, OutlineError, outline
from balken.framing.past_edges import pushed
from balken.framing.pieces import Bearer, Piece
from balken.framing.purlins import Purlin, let_into, purlin_pieces
from balken.framing.raftered_ends import joist_pieces
from balken.framing.ridge_ends import RidgeEnd, let_through, ridge_ends
from balken.framing.roof_beams import beam_sides
from balken.framing.roof_decks import surface_pieces
from balken.framing.roof_edits import edited_roof
from balken.framing.roofs import RoofPlan, gable_tops, is_gable_outline, roof_pieces
from balken.framing.stairs import Flight
from balken.framing.struts import strut_pieces
from balken.framing.surface_framing import header_pieces, surface_solids
from balken.framing.surface_members import Boards, SurfaceMember
from balken.framing.surface_roofs import SurfacePlan, surface_gables
from balken.framing.surface_ties import tie_pieces
from balken.framing.taller_parts import Taller
from balken.framing.tapered import strip_pieces
from balken.framing.wall_ledgers import ledger_pieces
from balken.framing.walls import GableTop
from balken.geometry.plane import Point
from balken.loads.area_loads import (
    Reaction,
    floor_beyond,
    floor_reactions,
    onto_headers,
    roof_reactions,
)
from balken.loads.decks import Deck
from balken.loads.guards import guards_on
from balken.loads.path import NO_PLACES, AtPlaces
from balken.loads.roof_snow import RoofSnow, snowed
from balken.loads.roof_statics import unframed
from balken.loads.roof_wind import WindAt
from balken.loads.stairs import infill_on, stairs_on
from balken.loads.typed import typed_on
from balken.memo import Memo
from balken.model.kinds.floor import PastEdge, SideArc
from balken.model.lookup import by_id, height, locate
from balken.model.records import Floor, Level, Loads, Project, Roof, Slab
from balken.standards.known import STANDARDS

Lines = dict[str, WallLine]
JOIST_FLAT, SLAB_FLAT = 12.0, 3.0
"""How far the chords of an outline's arcs may lie off them, mm: rim boards are short straight ones, a slab is cast round."""
NEAR_LEVEL = 900.0
"""Walls that begin or end no farther than this from a deck may bound a floor, mm."""


class Closed(NamedTuple):
    """Outlines of floors, roofs and slabs by their ids, and (id, what is wrong) of those that do not close."""

    outlines: dict[str, Outline]
    troubles: tuple[tuple[str, str], ...]
    sides: Lines = {}  # noqa: RUF012 (never written on)
    """Beams that are sides of roofs, as lines of walls."""


class Laid(NamedTuple):
    """Layouts laid: plans, designs by (id, field), reactions, pieces of roofs; the walls as they fit under them."""

    floors: tuple[FloorPlan, ...] = ()
    roofs: tuple[RoofPlan, ...] = ()
    surfaces: tuple[SurfacePlan, ...] = ()
    planes: dict[str, SurfaceDesign] = {}  # noqa: RUF012
    """The members of roofs of planes, by their ids."""
    designs: dict[tuple[str, str], LayoutDesign] = {}  # noqa: RUF012 (never written on)
    groups: tuple[tuple[Piece, ...], ...] = ()
    reactions: tuple[tuple[Reaction, ...], ...] = ()
    gables: dict[str, tuple[GableTop, ...]] = {}  # noqa: RUF012
    """What each roof that ends over a wall makes of its top."""
    raked: frozenset[str] = frozenset()
    """Walls that are fitted under a roof."""
    lines: Lines = {}  # noqa: RUF012
    edited: dict[str, Edited[Any]] = {}  # noqa: RUF012
    """Hand edits by the layout they are in."""
    decks: tuple[Deck, ...] = ()
    beyond: tuple[tuple[Reaction, ...], ...] = ()
    """Of each floor, what loads on some spans of its joists bring beyond its reactions; of each roof of planes, what its lookouts do."""
    snow: dict[str, RoofSnow] = {}  # noqa: RUF012
    """Snow on roofs, by their ids."""
    winds: dict[str, WindAt | None] = {}  # noqa: RUF012
    """Where wind blows on gable roofs of the older kind."""
    trusses: dict[str, TrussRoof] = {}  # noqa: RUF012
    """Trusses of roofs, by their ids; of those that cannot have them, why."""
    on_ledgers: dict[str, OnLedger] = {}  # noqa: RUF012
    """What hangs on ledgers on taller walls, by roofs."""
    dormers: dict[str, DormerDesign] = {}  # noqa: RUF012
    """Dormers by their ids; their roofs are among ``surfaces`` and ``planes``, too."""
    sides: Lines = {}  # noqa: RUF012
    """Beams that are sides of roofs, as lines of walls."""
    ends: AtPlaces = NO_PLACES
    """What ends of hips, valleys, ridge beams and girder trusses bring down."""


def outlines(memo: Memo, p: Project, lines: Lines) -> Closed:
    """Close the outlines of floors, roofs and slabs."""
    closed: dict[str, Outline] = {}
    troubles: list[tuple[str, str]] = []
    sides: Lines = {}
    layouts: tuple[Floor | Roof | Slab, ...] = (*p.floors, *p.roofs, *p.slabs)
    for layout in layouts:
        if isinstance(layout, Floor) and layout.corners:
            found = _drawn(memo, p, lines, layout)
        else:
            own = memo.keep(f"walls round {layout.id}", {w: lines[w] for w in layout.walls if w in lines})
            if isinstance(layout, Roof) and len(own) < len(layout.walls):
                beams = _beams_of(memo, p, layout)
                mine = memo.step(f"beams round {layout.id}", beam_sides, layout.walls, own, beams)
                sides |= mine
                own = memo.keep(f"sides of {layout.id}", own | mine)
            found = memo.step(f"closed {layout.id}", _closed, layout, own)
        if isinstance(found, Outline):
            closed[layout.id] = memo.keep(f"outline {layout.id}", found)
        else:
            troubles.append((layout.id, found))
    return Closed(closed, tuple(troubles), sides)


def _beams_of(memo: Memo, p: Project, roof: Roof) -> tuple[BeamLine, ...]:
    """Return the beams among the sides of a roof where they lie."""
    beams = memo.keep(f"beams of {roof.id}", tuple(beam for beam in p.beams if beam.id in roof.walls))
    return memo.step(
        f"beam lines of {roof.id}", beam_lines, beams, p.grids, p.levels, p.floors, memo.keep("no depths", {})
    )


def _drawn(memo: Memo, p: Project, lines: Lines, floor: Floor) -> Outline | str:
    """Close the outline of a floor drawn by its corners, on the walls and beside the other floors of its level."""
    at = by_id(p.levels)[floor.level].height
    near = {
        w: line
        for w, line in lines.items()
        if line.wall.role != "divides" and min(abs(line.band.top - at), abs(line.band.bottom - at)) < NEAR_LEVEL
    }
    corners = memo.keep(f"corners of {floor.id}", tuple(locate(c, p.grids) for c in floor.corners))
    others = tuple(
        tuple(locate(c, p.grids) for c in f.corners)
        for f in p.floors
        if f.id != floor.id and f.corners and f.level == floor.level
    )
    return memo.step(
        f"closed {floor.id}",
        _drawn_of,
        corners,
        memo.keep(f"walls about {floor.id}", near),
        memo.keep(f"floors beside {floor.id}", others),
        floor.past,
        floor.arcs,
        SLAB_FLAT if floor.is_slab else JOIST_FLAT,
    )


def _drawn_of(
    corners: tuple[Point, ...],
    lines: Lines,
    others: tuple[tuple[Point, ...], ...],
    past: tuple[PastEdge, ...],
    arcs: tuple[SideArc, ...],
    flat: float,
) -> Outline | str:
    try:
        if arcs:
            corners = with_arcs(corners, {bow.side: bow.rise for bow in arcs}, flat)
        return pushed(drawn_outline(corners, lines, others), lines, past)
    except OutlineError as error:
        return str(error)


def _closed(layout: Floor | Roof | Slab, lines: Lines) -> Outline | str:
    try:
        leans = (side.wall for side in layout.sides if side.kind == "wall") if isinstance(layout, Roof) else ()
        found = outline(layout.walls, lines, isinstance(layout, Slab | Roof), frozenset(leans))
    except OutlineError as error:
        return str(error)
    if isinstance(layout, Floor) and layout.past:
        try:
            return pushed(found, lines, layout.past)
        except OutlineError as error:
            return str(error)
    if isinstance(layout, Roof) and layout.shape == "gable" and not is_gable_outline(found):
        return "a gable roof needs walls that close a rectangle"
    return on_faces(found, layout, lines) if isinstance(layout, Roof) else found


def bearers(
    runs: tuple[FoundationRun, ...], lines: Lines, floors: tuple[Floor, ...], levels: tuple[Level, ...]
) -> tuple[Bearer, ...]:
    """Return what joists can bear on: sills on foundation walls, top plates and ribbons of walls."""
    found = [run.bearer for run in runs]
    for line in lines.values():
        if line.wall.role != "divides":
            b = line.band
            near, far = line.core[0] - b.set_out, line.core[1] - b.set_out
            for top in (b.top, *ribbons(line, floors, levels)):
                found.append(Bearer(line.wall.id, line.wall.id, b.start, b.end, b.direction, b.inward, near, far, top))
    return tuple(found)


def lay_all(
    memo: Memo,
    p: Project,
    loads: Loads,
    on: tuple[Bearer, ...],
    closed: Closed,
    lines: Lines,
    flights: tuple[Flight, ...],
) -> Laid:
    """Lay floors, then roofs, and fit the walls under them."""
    made = Laid(lines=lines)
    for floor in p.floors:
        if floor.id in closed.outlines:
            made = _with_floor(memo, p, loads, on, closed.outlines[floor.id], floor, made, flights)
    depths = {f.floor.id: section(made.designs[(f.floor.id, "joists")].size).depth for f in made.floors}
    heads = memo.keep("heads under floors", heads_under_floors(p, depths))
    made = made._replace(lines=memo.step("fitted lines", fitted_lines, made.lines, heads))
    # What lies on floors, and wind, is nothing to how roofs are laid.
    bare = {
        "floor_live": 0.0,
        "floor_dead": 0.0,
        "wind": 0.0,
        "wind_speed": 0.0,
        "wind_exposure": "B",
        "wind_openings": "enclosed",
    }
    on_roofs = memo.keep("loads of roofs", replace(loads, **bare))
    surfaces = lay_surfaces(memo, p, on_roofs, closed.outlines, made.lines | closed.sides)
    made = made._replace(sides=closed.sides)
    for roof in p.roofs:
        if roof.id in surfaces.roofs:
            made = _with_surface(memo, p, on_roofs, surfaces.roofs[roof.id], made)
        elif roof.id in closed.outlines:
            taller = beside_taller(memo, p, on_roofs, closed.outlines, roof)
            made = made._replace(winds={**made.winds, roof.id: wind_at(memo, p, closed.outlines, roof.id)})
            made = _with_roof(memo, p, on_roofs, closed.outlines[roof.id], roof, taller, made)
    for dormer in surfaces.dormers.values():
        made = _with_dormer(memo, p, dormer, surfaces.roofs[dormer.place.dormer.roof].plan, made)
    return made


def _with_floor(
    memo: Memo,
    p: Project,
    loads: Loads,
    on: tuple[Bearer, ...],
    around: Outline,
    floor: Floor,
    made: Laid,
    framed: tuple[Flight, ...],
) -> Laid:
    """Lay joists and choose their size."""
    standard = STANDARDS[p.standard]
    level = memo.keep(f"level {floor.id}", by_id(p.levels)[floor.level].height)
    usable = memo.keep(f"bearers {floor.id}", in_reach(at_height(on, level - floor.deck), around))
    openings = memo.keep(f"openings in {floor.id}", corners_of(p.floor_openings, floor.id, p.grids))
    own = in_order(joist.row for joist in p.own_joists) if p.own_joists else ()
    more = (p.concrete,) if floor.is_slab else (memo.keep("own joists", own),)
    plan, design = memo.step(
        f"plan {floor.id}",
        design_raised_slab if floor.is_slab else design_floor,
        floor,
        around,
        level,
        usable,
        loads,
        p.steps,
        standard,
        openings,
        memo.keep("stock", p.stock_length),
        *more,
    )
    edits = memo.keep(f"edits {floor.id}", tuple(e for e in p.member_edits if e.owner == floor.id))
    edited = memo.step(f"edited {floor.id}", edited_floor, plan, edits, design.size, p.stock_length)
    plan = edited.plan
    every = memo.step(f"reactions {floor.id}", floor_reactions, plan, loads)
    reactions, tails = memo.step(f"onto headers {floor.id}", onto_headers, plan, every)
    beyond = memo.step(f"beyond {floor.id}", floor_beyond, plan, loads)
    put = memo.keep(f"loads typed on {floor.id}", tuple(x for x in p.floor_loads if x.floor == floor.id))
    typed = memo.step(f"typed on {floor.id}", typed_on, put, p.grids) if put else ()
    flights = memo.keep("flights", tuple(o for o in p.floor_openings if o.kind == "stair" and o.lands != "nothing"))
    if flights:
        typed += memo.step(
            f"stairs on {floor.id}", stairs_on, floor, flights, p.floors, p.levels, p.grids, loads, framed
        )
    if floor.guard > 0.0:
        typed += memo.step(f"guards of {floor.id}", guards_on, plan)
    if any(hole.drawn for hole in plan.holes):
        typed += memo.step(f"infill of {floor.id}", infill_on, plan, loads)
    return made._replace(
        floors=(*made.floors, plan),
        designs=made.designs | {(floor.id, "joists"): design},
        reactions=(*made.reactions, reactions),
        beyond=(*made.beyond, beyond),
        edited=made.edited | {floor.id: edited},
        decks=(*made.decks, memo.step(f"deck {floor.id}", Deck, plan, level, tails, typed)),
    )


def _with_surface(memo: Memo, p: Project, loads: Loads, laid: LaidSurface, made: Laid) -> Laid:
    """Take in a roof of planes; run the walls under its gables up."""
    plan, design, framing, snow, trusses, raftered = laid
    roof, near = plan.roof, memo.keep(f"walls under {plan.roof.id}", walls_of(plan.roof, made.lines))
    pieces, stock = memo.step(f"decks {roof.id}", surface_pieces, plan), memo.keep("stock", p.stock_length)
    trussed = trusses is not None and not trusses.problem
    reactions = (
        memo.step(f"reactions {roof.id}", unframed, plan, loads, snow) if framing is None and not trussed else ()
    )
    ends = made.ends
    if trusses is not None and trussed:
        reactions = memo.keep(f"even {roof.id}", tuple(r for r in trusses.reactions if r.piece not in trusses.on_studs))
        posts = tuple(r for r in trusses.reactions if r.piece in trusses.on_studs)
        ends = AtPlaces((*ends.reactions, *posts), ends.undersides)
        rows = memo.step(f"sticks {roof.id}", roof_truss_pieces, plan, trusses, stock)
        hung = memo.step(f"on ledgers {roof.id}", on_ledgers, plan, trusses)
        pieces = (*pieces, *rows, *ledger_pieces(plan, hung.ledgers, stock))
        made = made._replace(on_ledgers=made.on_ledgers | {roof.id: hung})
    if framing is not None:
        made = made._replace(on_ledgers=made.on_ledgers | {roof.id: OnLedger(framing.ledgers, framing.hung)})
        reactions = memo.keep(f"onto walls {roof.id}", (*reactions, *framing.walls))
        down = framing.carried.settled
        ends = AtPlaces((*ends.reactions, *down.points), {**ends.undersides, **framing.carried.undersides})
        pieces = (*pieces, *_framed(memo, plan, design, framing, stock))
        for ceiling in raftered.ceilings if raftered is not None else ():
            pieces = (*pieces, *joist_pieces(plan, ceiling.joists, ceiling.tied.size, ceiling.deep))
    pieces = memo.keep(f"roof {roof.id}", pieces)
    closed = memo.step(f"eaves {roof.id}", eave_pieces, plan, pieces, framing is not None, stock)
    made_out = _lookouts_of(framing, trusses if trussed else None)
    ridges = ridge_ends(plan, framing.members, framing.boards) if framing is not None else ()
    through = memo.keep(f"through gables {roof.id}", (tuple(x.row for x in made_out.rows), ridges))
    gables = memo.step(f"gables {roof.id}", _gables, plan, near, *through)
    return made._replace(
        surfaces=(*made.surfaces, plan),
        designs=made.designs
        | ({(roof.id, "rafters"): design} if design is not None else {})
        | ({(roof.id, "ties"): framing.tied} if framing is not None and framing.tied is not None else {}),
        planes=made.planes | ({roof.id: framing} if framing is not None else {}),
        trusses=made.trusses | ({roof.id: trusses} if trusses is not None else {}),
        groups=(*made.groups, pieces, closed),
        reactions=(*made.reactions, reactions),
        beyond=(*made.beyond, made_out.beyond) if made_out.rows else made.beyond,
        ends=ends,
        snow=made.snow | {roof.id: snow},
        edited=made.edited | _edited(roof.id, framing, trusses if trussed else None),
        gables=_beside(made.gables, gables),
    )


def _lookouts_of(framing: SurfaceDesign | None, trusses: TrussRoof | None) -> GableLookouts:
    """Return the lookouts over the gables of a roof of planes."""
    if trusses is not None:
        return trusses.lookouts
    return framing.lookouts if framing is not None else GableLookouts()


def _edited(roof: str, framing: SurfaceDesign | None, trusses: TrussRoof | None) -> dict[str, Edited[Any]]:
    """Return what hand edits made of a roof of planes, by its id."""
    if trusses is not None and framing is not None:
        return {roof: both_edited(trusses.edited, framing.edited)}
    if trusses is not None:
        return {roof: trusses.edited}
    return {roof: framing.edited} if framing is not None else {}


def _framed(
    memo: Memo, plan: SurfacePlan, design: LayoutDesign | None, framing: SurfaceDesign, stock: float
) -> Iterable[Piece]:
    """Yield what a roof of planes is framed of."""
    name, boards = plan.roof.id, framing.boards
    rows = framing.lookouts
    yield from memo.step(f"members {name}", _solids, plan, framing.members, boards, stock, rows.rows, framing.purlins)
    yield from header_pieces(plan, framing.headers, boards)
    instead = memo.keep(f"instead {name}", rows.instead)
    yield from memo.step(f"ladders {name}", ladder_pieces, plan, boards.rafter, instead)
    yield from ledger_pieces(plan, framing.ledgers, stock)
    yield from framing.collars
    yield from strip_pieces(plan, framing.members, framing.headers, boards, stock)
    yield from _tied(plan, framing)


def _beside(known: dict[str, tuple[GableTop, ...]], more: dict[str, GableTop]) -> dict[str, tuple[GableTop, ...]]:
    return known | {wall: (*known.get(wall, ()), top) for wall, top in more.items()}


def _gables(
    plan: SurfacePlan, lines: dict[str, WallLine], lookouts: tuple[LookoutRow, ...], ridges: tuple[RidgeEnd, ...]
) -> dict[str, GableTop]:
    return let_through(plan, soffited(plan, surface_gables(plan, lines)[0], lookouts), lines, ridges)


def _solids(
    plan: SurfacePlan,
    members: tuple[SurfaceMember, ...],
    boards: Boards,
    stock: float,
    lookouts: tuple[Lookouts, ...],
    under: tuple[Purlin, ...] = (),
) -> tuple[Piece, ...]:
    """Return the members of a roof of planes, with the lookouts and purlins let into some."""
    rows = [made.row for made in lookouts]
    made = let_into(plan, members, under, boards, surface_solids(plan, members, boards, stock))
    return (*let_in(plan, rows, made), *lookout_pieces(plan, rows))


def _with_dormer(memo: Memo, p: Project, dormer: DormerDesign, host: SurfacePlan, made: Laid) -> Laid:
    """Take in a dormer: what it brings down lies on the rafters of its roof already."""
    made = made._replace(dormers=made.dormers | {dormer.place.dormer.id: dormer})
    plan, framing, design = dormer.plan, dormer.framing, dormer.design
    if plan is None or framing is None or design is None or dormer.snow is None:
        return made
    name = plan.roof.id
    pieces = memo.step(
        f"dormer pieces {name}", dormer_pieces, dormer.place, host, plan, framing, dormer.walls, p.stock_length
    )
    return made._replace(
        surfaces=(*made.surfaces, plan),
        designs=made.designs
        | {(name, "rafters"): design}
        | ({(name, "ties"): framing.tied} if framing.tied is not None else {}),
        planes=made.planes | {name: framing},
        groups=(*made.groups, pieces),
        snow=made.snow | {name: dormer.snow},
        edited=made.edited | {name: framing.edited},
    )


def _tied(plan: SurfacePlan, framing: SurfaceDesign) -> tuple[Piece, ...]:
    """Return purlins, struts under them, and ties."""
    sizes = {one.strut.key: one.size for one in framing.struts}
    under = strut_pieces(plan, [one.strut for one in framing.struts], sizes, framing.carried.undersides)
    laid = purlin_pieces(plan, framing.purlins, framing.boards.lines, framing.boards.rafter, framing.boards.wood)
    laid = (*laid, *under)
    if framing.tied is None:
        return laid
    return (
        *laid,
        *tie_pieces(
            plan, framing.ties, framing.members, framing.headers, framing.tied.size, framing.boards, framing.edited.made
        ),
    )


def dormer_pieces(
    place: DormerPlace,
    host: SurfacePlan,
    plan: SurfacePlan,
    framing: SurfaceDesign,
    walls: DormerWalls | None,
    stock: float,
) -> tuple[Piece, ...]:
    """Return all of a dormer as pieces."""
    return (
        *surface_pieces(plan),
        *_solids(plan, framing.members, framing.boards, stock, (), framing.purlins),
        *ladder_pieces(plan, framing.boards.rafter),
        *_tied(plan, framing),
        *(wall_pieces(place, host, walls) if walls is not None else ()),
    )


def _with_roof(
    memo: Memo, p: Project, loads: Loads, around: Outline, roof: Roof, taller: tuple[Taller, ...], made: Laid
) -> Laid:
    """Lay rafters and ties, choose their sizes, run gable walls up and fit the others under them."""
    standard = STANDARDS[p.standard]
    bearing = memo.keep(f"bearing {roof.id}", height(roof.bearing, p.levels))
    snow = memo.step(f"snow {roof.id}", gable_snow, roof, around, bearing, taller, loads, standard)
    ice = standard.ice_at_eaves(loads)
    loads = memo.keep(f"loads {roof.id}", snowed(loads, snow))
    near = memo.keep(f"walls {roof.id}", walls_of(roof, made.lines))
    plan, rafters, ties = memo.step(
        f"plan {roof.id}",
        design_roof,
        roof,
        around,
        bearing,
        near,
        loads,
        p.steps,
        standard,
        ice,
        made.winds[roof.id],
    )
    edits = memo.keep(f"edits {roof.id}", tuple(e for e in p.member_edits if e.owner == roof.id))
    edited = memo.step(
        f"edited {roof.id}", edited_roof, plan, edits, memo.keep(f"sizes {roof.id}", (rafters.size, ties.size)), near
    )
    plan = edited.plan
    pieces = memo.step(f"pieces {roof.id}", roof_pieces, plan, rafters.size, ties.size, p.stock_length, edited.made)
    reactions = memo.step(f"reactions {roof.id}", roof_reactions, plan, loads)
    gables = memo.step(f"gables {roof.id}", gable_tops, plan, near, rafters.size)
    under = heads_under_roof(p, plan, made.lines, section(rafters.size).depth)
    heads, raked = memo.keep(f"heads under {roof.id}", under)
    lines = memo.step(f"lines under {roof.id}", fitted_lines, made.lines, memo.keep(f"low {roof.id}", heads))
    return made._replace(
        roofs=(*made.roofs, plan),
        designs=made.designs | {(roof.id, "rafters"): rafters, (roof.id, "ties"): ties},
        groups=(*made.groups, pieces),
        reactions=(*made.reactions, reactions),
        snow=made.snow | {roof.id: snow},
        gables=_beside(made.gables, gables) | {wall: (top,) for wall, top in raked.items()},
        raked=made.raked | set(raked),
        lines=lines,
        edited=made.edited | {roof.id: edited},
    )
