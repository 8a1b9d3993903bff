"""Deriving: from a project to all that follows from it, part by part.

Each step is remembered with the objects it read; when they are the same objects as last time, its
result is taken again.  A step that gives an equal result keeps the old object, so that what reads
it is not made again either.
"""

from dataclasses import dataclass, field
from functools import cached_property, partial
from typing import NamedTuple

from msgspec.structs import replace

from balken.design.checks import MemberResult
from balken.design.earth_runs import (
    Against,
    against_earth,
    design_earth_wall,
    floors_over,
    lightest,
    pushed_along,
    sideways_of,
)
from balken.design.earth_walls import EarthWall
from balken.design.footings import PadResult, RunFooting, design_run
from balken.design.headers import design_headers
from balken.design.joists import check_joists, design_floor
from balken.design.layouts import LayoutDesign
from balken.design.pads import design_pads, loads_on_pads, strips_of
from balken.design.posts import PostDesign, design_posts, typed_on_columns
from balken.design.rafters import check_roof, design_roof
from balken.design.stud_walls import FramedWall, StudDesign, WallDesign, checked_sticks, design_studs, lay_studs
from balken.findings.context import Context
from balken.findings.finding import Finding
from balken.findings.rules import all_findings
from balken.framing.bands import WallLine, wall_lines
from balken.framing.blocking import blocking_pieces
from balken.framing.columns import column_heights, column_pieces
from balken.framing.fitting import fitted_lines, heads_under_floors, heads_under_roof, ribbons
from balken.framing.floors import FloorPlan, at_height, floor_pieces, in_reach
from balken.framing.foundations import (
    FoundationRun,
    foundation_pieces,
    foundation_runs,
)
from balken.framing.ground import Ground, ground_of
from balken.framing.ground_works import by_owner, in_the_ground, let_in
from balken.framing.joints import Joints, join
from balken.framing.outlines import Outline, OutlineError, outline
from balken.framing.pads import PadPlace, pad_places
from balken.framing.pieces import Bearer, Piece
from balken.framing.roles import MEMBER_ROLES, Role
from balken.framing.roofs import RoofPlan, gable_tops, is_gable_outline, roof_pieces
from balken.framing.slabs import SlabPlan, seat_solids, slab_plan
from balken.framing.studs import StudWall
from balken.framing.walls import GableTop, layer_profiles, wall_pieces
from balken.loads.cases import Cases, total
from balken.loads.path import (
    LoadPath,
    Reaction,
    applied_area_loads,
    floor_reactions,
    load_path,
    own_weight,
    roof_reactions,
    weigh,
)
from balken.memo import Memo
from balken.model.buildups import stud_size
from balken.model.lookup import height
from balken.model.naming import column_name, kind_of, owner_of, run_of
from balken.model.records import Floor, Level, Loads, Opening, Project, Roof, Slab
from balken.model.sections import section


@dataclass(frozen=True)
class Model:
    """Everything derived from one project."""

    project: Project
    lines: dict[str, WallLine]
    joints: dict[str, Joints]
    gables: dict[str, GableTop]
    runs: tuple[FoundationRun, ...]
    outlines: dict[str, Outline]
    floors: tuple[FloorPlan, ...]
    roofs: tuple[RoofPlan, ...]
    designs: dict[tuple[str, str], LayoutDesign]
    results: dict[str, MemberResult]
    path: LoadPath
    footings: dict[str, RunFooting]
    framed: dict[str, FramedWall]
    ground: Ground | None
    soil: Cases
    findings: tuple[Finding, ...]
    pads: dict[str, PadResult]
    pad_places: tuple[PadPlace, ...]
    slabs: tuple[SlabPlan, ...]
    earth_walls: dict[str, EarthWall]
    foundations: tuple[tuple[Piece, ...], ...]
    """Footings, foundation walls with their plates, pads and slabs, as they were made together.

    Such a group stays the same object when an edit does not touch it; so do the next three kinds.
    """
    layouts: tuple[tuple[Piece, ...], ...]
    """The pieces of each floor and roof."""
    layers: dict[str, tuple[Piece, ...]]
    """The layers of each wall, by its id; its studs stand in ``framed``."""
    columns: tuple[Piece, ...]
    posts: dict[str, PostDesign]
    """What each column is made of and how far it is used, by its id."""

    @property
    def groups(self) -> tuple[tuple[Piece, ...], ...]:
        """All pieces as they were made together, but for the sticks of framed walls."""
        return (*self.foundations, *self.layouts, *self.layers.values(), self.columns)

    @cached_property
    def pieces(self) -> dict[str, Piece]:
        """Every piece by its key; for it the sticks of all walls are placed, so what shows few pieces asks for those."""
        return self._but_sticks | {piece.key: piece for f in self.framed.values() for piece in f.pieces}

    @cached_property
    def _but_sticks(self) -> dict[str, Piece]:
        return {piece.key: piece for group in self.groups for piece in group}

    def piece(self, key: str) -> Piece | None:
        """Return one piece by its key, if there is one."""
        wall = self.framed.get(owner_of(key))
        if wall is not None:
            for piece in wall.pieces:
                if piece.key == key:
                    return piece
        return self._but_sticks.get(key)

    def of_foundations(self, *roles: Role) -> list[Piece]:
        """Return the pieces of foundations that have one of these roles."""
        return [piece for group in self.foundations for piece in group if piece.role in roles]

    def of_layouts(self, *roles: Role) -> list[Piece]:
        """Return the pieces of floors and roofs that have one of these roles."""
        return [piece for group in self.layouts for piece in group if piece.role in roles]

    def members(self) -> list[Piece]:
        """Return the lumber."""
        return [p for p in self.pieces.values() if p.role in MEMBER_ROLES]


def derive(project: Project, memo: Memo | None = None) -> Model:
    """Derive a project; with a memo from last time only what changed is made again."""
    memo = memo if memo is not None else Memo()
    memo.begin()
    # What lies above the ground does not look at the soil.
    p, loads = project, memo.keep("loads", replace(project.loads, soil_bearing=1.0, frost_depth=0.0))
    lines = memo.step("lines", wall_lines, p.walls, p.buildups, p.grids, p.levels)
    lines = memo.keep("all lines", {w: memo.keep(f"line of {w}", line) for w, line in lines.items()})
    runs = memo.step("runs", foundation_runs, p.foundations, lines, p.levels)
    runs = memo.keep("all runs", tuple(memo.keep(f"run of {run.id}", run) for run in runs))
    bearers = memo.step("bearers", _bearers, runs, lines, p.floors, p.levels)
    closed, troubles = _outlines(memo, p, lines)
    made = Layouts(lines)
    _lay_floors(memo, p, loads, bearers, closed, made)
    _lay_roofs(memo, p, loads, closed, made)
    lines = made.lines
    walls = _built(memo, p, made)
    works = _ground_works(memo, p, runs, lines, closed)
    path = _carried(memo, p, loads, made, walls, works)
    framed = _all_framed(memo, p, lines, made.gables, walls, path)
    under = _designed(memo, p, works, path, made, lines)
    foundations = (*under.grounds, *works.concrete.values())
    groups = tuple(made.groups)
    results, worst = _checked(memo, loads, made)
    for wall in framed.values():
        results.update(wall.results)
    results.update({column_name(c): post.result for c, post in works.posts.items() if post.result is not None})
    context = Context(
        p,
        lines,
        runs,
        tuple(made.floors),
        tuple(made.roofs),
        made.designs,
        under.footings,
        (*foundations, *groups),
        worst,
        _longest((*foundations, *groups, *walls.layers.values(), works.columns), framed, memo),
        troubles,
        framed,
        made.gables,
        path,
        works.earth,
        under.pads,
        works.places,
        works.slabs,
        under.earth_walls,
        works.posts,
    )
    memo.finish()
    footings = [piece for group in under.grounds for piece in group if piece.role in ("strip footing", "pad footing")]
    return Model(
        p,
        lines,
        walls.joints,
        made.gables,
        runs,
        closed,
        tuple(made.floors),
        tuple(made.roofs),
        made.designs,
        results,
        path,
        under.footings,
        framed,
        works.earth,
        path.arrived.plus(total(own_weight(f) for f in footings)),
        all_findings(context),
        under.pads,
        works.places,
        works.slabs,
        under.earth_walls,
        foundations,
        groups,
        walls.layers,
        works.columns,
        works.posts,
    )


@dataclass
class Layouts:
    """Floors and roofs as they are laid, one after another; each fits the walls under it to itself."""

    lines: dict[str, WallLine]
    designs: dict[tuple[str, str], LayoutDesign] = field(default_factory=dict)
    floors: list[FloorPlan] = field(default_factory=list)
    roofs: list[RoofPlan] = field(default_factory=list)
    gables: dict[str, GableTop] = field(default_factory=dict)
    groups: list[tuple[Piece, ...]] = field(default_factory=list)
    reactions: list[tuple[Reaction, ...]] = field(default_factory=list)


class Built(NamedTuple):
    """Walls above the foundations: how they meet, their openings, their layers, each by the wall's id."""

    joints: dict[str, Joints]
    openings: dict[str, tuple[Opening, ...]]
    layers: dict[str, tuple[Piece, ...]]


class Works(NamedTuple):
    """What stands in the ground, before footings have sizes."""

    runs: tuple[FoundationRun, ...]
    slabs: tuple[SlabPlan, ...]
    concrete: dict[str, tuple[Piece, ...]]
    columns: tuple[Piece, ...]
    posts: dict[str, PostDesign]
    places: tuple[PadPlace, ...]
    on_pads: dict[str, Cases]
    earth: Ground | None


class Under(NamedTuple):
    """What was designed in the ground, and the pieces of footings, pads and slabs by their owners."""

    footings: dict[str, RunFooting]
    pads: dict[str, PadResult]
    earth_walls: dict[str, EarthWall]
    grounds: tuple[tuple[Piece, ...], ...]


def _lay_floors(
    memo: Memo, p: Project, loads: Loads, bearers: tuple[Bearer, ...], closed: dict[str, Outline], made: Layouts
) -> None:
    """Lay joists, choose their size, and fit the walls under them."""
    for floor in p.floors:
        if floor.id not in closed:
            continue
        level = height_of(p, floor.level)
        around = memo.keep(f"outline {floor.id}", closed[floor.id])
        usable = memo.keep(f"bearers {floor.id}", in_reach(at_height(bearers, level - floor.deck), around))
        known = (floor, around, memo.keep(f"level {floor.id}", level), usable)
        plan, design = memo.step(f"plan {floor.id}", design_floor, *known, loads, p.steps)
        made.designs[(floor.id, "joists")] = design
        made.floors.append(plan)
        made.groups.append(memo.step(f"pieces {floor.id}", floor_pieces, plan, design.size, level, p.stock_length))
        made.reactions.append(memo.step(f"reactions {floor.id}", floor_reactions, plan, loads))
    depths = {f.floor.id: section(made.designs[(f.floor.id, "joists")].size).depth for f in made.floors}
    heads = memo.keep("heads under floors", heads_under_floors(p, depths))
    made.lines = memo.step("fitted lines", fitted_lines, made.lines, heads)


def _lay_roofs(memo: Memo, p: Project, loads: Loads, closed: dict[str, Outline], made: Layouts) -> None:
    """Lay rafters and ties, choose their sizes, run gable walls up and fit the others under them."""
    for roof in p.roofs:
        if roof.id not in closed:
            continue
        bearing = memo.keep(f"bearing {roof.id}", height(roof.bearing, p.levels))
        near = memo.keep(f"walls {roof.id}", _walls_of(roof, made.lines))
        plan_r, rafters, ties = memo.step(
            f"plan {roof.id}",
            design_roof,
            roof,
            memo.keep(f"outline {roof.id}", closed[roof.id]),
            bearing,
            near,
            loads,
            p.steps,
        )
        made.designs[(roof.id, "rafters")], made.designs[(roof.id, "ties")] = rafters, ties
        made.roofs.append(plan_r)
        made.groups.append(memo.step(f"pieces {roof.id}", roof_pieces, plan_r, rafters.size, ties.size, p.stock_length))
        made.reactions.append(memo.step(f"reactions {roof.id}", roof_reactions, plan_r, loads))
        made.gables.update(memo.step(f"gables {roof.id}", gable_tops, plan_r, near, rafters.size))
        under = memo.keep(
            f"heads under {roof.id}", heads_under_roof(p, plan_r, made.lines, section(rafters.size).depth)
        )
        made.gables.update(under[1])
        made.lines = memo.step(
            f"lines under {roof.id}", fitted_lines, made.lines, memo.keep(f"low {roof.id}", under[0])
        )


def _built(memo: Memo, p: Project, made: Layouts) -> Built:
    """Build the layers of walls."""
    joints = memo.step("wall joints", _joints, made.lines)
    by_wall = _openings_by_wall(p.openings, memo)
    walls = {
        w: memo.step(
            f"wall {w}",
            wall_pieces,
            line,
            memo.keep(f"joints {w}", joints[w]),
            memo.step(
                f"profiles {w}",
                layer_profiles,
                memo.keep(f"{w} by itself", line.by_itself()),
                memo.keep(f"joints {w}", joints[w]),
                by_wall.get(w, ()),
                memo.keep(f"gable {w}", made.gables.get(w)),
            ),
        )
        for w, line in made.lines.items()
    }
    return Built(joints, by_wall, walls)


def _ground_works(
    memo: Memo,
    p: Project,
    runs: tuple[FoundationRun, ...],
    lines: dict[str, WallLine],
    closed: dict[str, Outline],
) -> Works:
    """Build foundation walls, slabs, columns and piers."""
    slabs = memo.keep(
        "slab plans",
        tuple(slab_plan(v, closed[v.id], height_of(p, v.level), runs, lines) for v in p.slabs if v.id in closed),
    )
    seats = memo.keep("seats", seat_solids(slabs))
    recesses = {run.id: memo.keep(f"recesses {run.id}", run.recesses_among(p.recesses)) for run in runs}
    walls_below = {
        run.id: memo.step(f"run {run.id}", foundation_pieces, run, p.stock_length, recesses[run.id], seats)
        for run in runs
    }
    more = memo.step("let in", let_in, runs, memo.keep("walls in the ground", walls_below), seats)
    concrete = walls_below | {r: memo.keep(f"all of {r}", (*walls_below[r], *pieces)) for r, pieces in more.items()}
    places = memo.step("pads", pad_places, p.pads, p.columns, p.grids, p.levels)
    posts = memo.step(
        "posts", design_posts, p.columns, _tall(memo, p), memo.step("on columns", typed_on_columns, places)
    )
    shapes = memo.keep("post shapes", {c: post.shape for c, post in posts.items()})
    columns = memo.step("columns", column_pieces, p.columns, p.grids, p.levels, shapes)
    on_pads = memo.step(
        "on pads", loads_on_pads, places, memo.keep("post weights", {c: v.own for c, v in posts.items()})
    )
    earth = memo.step("ground", ground_of, p.spots, p.levels)
    return Works(runs, slabs, concrete, columns, posts, places, on_pads, earth)


def _tall(memo: Memo, p: Project) -> dict[str, float]:
    """Return how tall each column is, mm."""
    heights = {c.id: column_heights(c, p.levels) for c in p.columns}
    return memo.keep("tall", {c: top - bottom for c, (bottom, top) in heights.items()})


def _carried(memo: Memo, p: Project, loads: Loads, made: Layouts, walls: Built, works: Works) -> LoadPath:
    """Carry every load down to the footings."""
    plans = memo.keep("floors", tuple(made.floors)), memo.keep("roofs", tuple(made.roofs))
    return memo.step(
        "load path",
        partial(load_path, memo),
        memo.keep("reactions", tuple(made.reactions)),
        memo.keep("area loads", applied_area_loads(*plans, loads)),
        made.lines,
        memo.keep("wall weights", {w: memo.step(f"weight {w}", weigh, made) for w, made in walls.layers.items()}),
        works.runs,
        memo.keep("run weights", {r: memo.step(f"weight {r}", weigh, made) for r, made in works.concrete.items()}),
        memo.keep("openings by wall", walls.openings),
        works.on_pads,
    )


def _pressed(memo: Memo, p: Project, works: Works, made: Layouts) -> dict[str, Against]:
    """Return by run how walls stand against earth; block the floors that take the push of walls along their joists."""
    runs, slabs = works.runs, works.slabs
    decks = memo.keep("decks", {plan.floor.id: height_of(p, plan.floor.level) for plan in made.floors})
    held = memo.step("held", floors_over, runs, memo.keep("floors", tuple(made.floors)), decks)
    against = memo.step("against earth", against_earth, runs, slabs, works.earth, held)
    for plan in made.floors:
        name, deck = plan.floor.id, decks[plan.floor.id]
        pushed = memo.keep(f"pushed {name}", pushed_along(runs, plan, deck, against))
        size = memo.keep(f"joists {name}", made.designs[(name, "joists")].size)
        blocks = memo.step(f"blocking {name}", blocking_pieces, plan, size, memo.keep(f"level {name}", deck), pushed)
        made.groups.append(blocks)
    return {r: memo.keep(f"against {r}", a) for r, a in against.items()}


def _designed(memo: Memo, p: Project, works: Works, path: LoadPath, made: Layouts, lines: dict[str, WallLine]) -> Under:
    """Design footings, pads and walls against earth, and give the concrete in the ground its shape."""
    runs, slabs, places = works.runs, works.slabs, works.places
    soil_bearing = memo.keep("soil bearing", p.loads.soil_bearing)
    against = _pressed(memo, p, works, made)
    results_f = {
        run.id: memo.step(
            f"footing {run.id}",
            design_run,
            memo.keep(f"{run.id} by itself", run.by_itself()),
            memo.keep(f"along {run.id}", path.along[run.id]),
            soil_bearing,
            p.concrete,
            p.steps,
            memo.keep(f"sideways {run.id}", sideways_of(against.get(run.id), p.soil, lightest(path.along[run.id]))),
        )
        for run in runs
    }
    friction = memo.keep("friction", p.soil.base_friction)
    results_p = memo.step(
        "pad designs",
        design_pads,
        places,
        works.on_pads,
        works.columns,
        soil_bearing,
        p.concrete,
        p.steps,
        friction,
        memo.keep("strips", strips_of(runs, results_f) if any(place.pad.with_strip for place in places) else ()),
    )
    sizes = memo.keep("sizes", {run_id: (f.width, f.depth) for run_id, f in results_f.items()})
    pad_sizes = memo.keep(
        "pad sizes",
        {v: (r.design.width, r.design.thickness, r.design.length, r.before) for v, r in results_p.items()},
    )
    below = memo.step(
        "in the ground",
        in_the_ground,
        runs,
        sizes,
        memo.keep("concrete", works.concrete),
        places,
        pad_sizes,
        slabs,
        lines,
    )
    grounds = memo.step("ground groups", by_owner, below)
    grounds = tuple(memo.keep(f"ground of {run_of(group[0].key)}", group) for group in grounds)
    earth_walls = {
        run.id: memo.step(
            f"earth wall {run.id}",
            design_earth_wall,
            memo.keep(f"{run.id} by itself", run.by_itself()),
            against[run.id],
            memo.keep(f"along {run.id}", path.along[run.id]),
            p.soil,
            p.concrete,
            memo.keep(f"size {run.id}", sizes[run.id]),
            p.masonry,
        )
        for run in runs
        if run.id in against
    }
    return Under(results_f, results_p, earth_walls, grounds)


def _checked(
    memo: Memo, loads: Loads, made: Layouts
) -> tuple[dict[str, MemberResult], dict[tuple[str, str], tuple[str, ...]]]:
    """Check every joist, rafter and tie with its own span; return with that the most used of each layout."""
    results: dict[str, MemberResult] = {}
    worst: dict[tuple[str, str], tuple[str, ...]] = {}
    for plan in made.floors:
        sizes_ = memo.keep(f"joists {plan.floor.id}", made.designs[(plan.floor.id, "joists")].size)
        made_f = memo.step(f"results {plan.floor.id}", check_joists, plan, sizes_, loads)
        worst |= memo.step(f"worst {plan.floor.id}", _worst, made_f)
        results |= made_f
    for plan_r in made.roofs:
        chosen = tuple(made.designs[(plan_r.roof.id, part)].size for part in ("rafters", "ties"))
        chosen = memo.keep(f"rafters {plan_r.roof.id}", chosen)
        made_r = memo.step(f"results {plan_r.roof.id}", check_roof, plan_r, chosen, loads)
        worst |= memo.step(f"worst {plan_r.roof.id}", _worst, made_r)
        results |= made_r
    return results, worst


def _all_framed(
    memo: Memo, p: Project, lines: dict[str, WallLine], gables: dict[str, GableTop], walls: Built, path: LoadPath
) -> dict[str, FramedWall]:
    """Design and lay the studs of walls; what only its load or place changes is not laid again."""
    studs: dict[str, StudDesign] = {}
    wind = memo.keep("wind", p.loads.wind)
    for w, line in lines.items():
        if stud_size(line.buildup) is not None:
            studs[w] = memo.step(
                f"studs {w}",
                design_studs,
                memo.keep(f"{w} by itself", line.by_itself()),
                walls.openings.get(w, ()),
                memo.keep(f"gable {w}", gables.get(w)),
                memo.keep(f"head {w}", path.heads[w]),
                memo.keep(f"own {w}", path.walls[w].own_line),
                wind,
                p.steps,
            )
    headers = memo.together({f"headers {w}": made.openings for w, made in studs.items()}, design_headers)
    framed = {}
    for w, made in studs.items():
        both = memo.step(f"made of {w}", WallDesign, made.design, headers[f"headers {w}"])
        framed[w] = _framed(memo, p, lines[w], memo.keep(f"gable {w}", gables.get(w)), walls, both)
    return framed


def _framed(
    memo: Memo, p: Project, line: WallLine, gable: GableTop | None, walls: Built, made: WallDesign
) -> FramedWall:
    w = line.wall.id
    laid = memo.step(
        f"framing {w}",
        lay_studs,
        memo.keep(f"{w} by itself", line.by_itself()),
        memo.keep(f"joints {w}", walls.joints[w]),
        walls.openings.get(w, ()),
        gable,
        memo.keep(f"choice {w}", made.choice),
        memo.keep("stock", p.stock_length),
        memo.keep(f"ribbons {w}", ribbons(line, p.floors, p.levels)),
    )
    results = memo.step(f"sticks {w}", checked_sticks, made, laid)
    return memo.step(f"framed {w}", FramedWall, memo.keep(f"line {w}", line), made.design, made.headers, laid, results)


def height_of(project: Project, level_id: str) -> float:
    """Return a level's height, mm."""
    return next(level.height for level in project.levels if level.id == level_id)


def _openings_by_wall(openings: tuple[Opening, ...], memo: Memo) -> dict[str, tuple[Opening, ...]]:
    found: dict[str, tuple[Opening, ...]] = {}
    for opening in openings:
        found[opening.wall] = (*found.get(opening.wall, ()), opening)
    return {wall: memo.keep(f"openings {wall}", group) for wall, group in found.items()}


def _bearers(
    runs: tuple[FoundationRun, ...], lines: dict[str, WallLine], floors: tuple[Floor, ...], levels: tuple[Level, ...]
) -> tuple[Bearer, ...]:
    found = [run.bearer for run in runs]
    for line in lines.values():
        if line.wall.role != "divides":
            b = line.band
            near, far = line.core[0] - b.set_out, line.core[1] - b.set_out
            for top in (b.top, *ribbons(line, floors, levels)):
                found.append(Bearer(line.wall.id, line.wall.id, b.start, b.end, b.direction, b.inward, near, far, top))
    return tuple(found)


def _outlines(
    memo: Memo, p: Project, lines: dict[str, WallLine]
) -> tuple[dict[str, Outline], tuple[tuple[str, str], ...]]:
    """Return the outlines of floors, roofs and slabs by their ids, and (id, what is wrong) of those not closed."""
    closed: dict[str, Outline] = {}
    troubles: list[tuple[str, str]] = []
    layouts: tuple[Floor | Roof | Slab, ...] = (*p.floors, *p.roofs, *p.slabs)
    for layout in layouts:
        own = memo.keep(f"walls round {layout.id}", {w: lines[w] for w in layout.walls if w in lines})
        made = memo.step(f"closed {layout.id}", _closed, layout, own)
        if isinstance(made, Outline):
            closed[layout.id] = made
        else:
            troubles.append((layout.id, made))
    return closed, tuple(troubles)


def _closed(layout: Floor | Roof | Slab, lines: dict[str, WallLine]) -> Outline | str:
    try:
        made = outline(layout.walls, lines, inner=isinstance(layout, Slab))
        if isinstance(layout, Roof) and not is_gable_outline(made):
            return "a gable roof needs walls that close a rectangle"
        return made
    except OutlineError as error:
        return str(error)


def _walls_of(roof: Roof, lines: dict[str, WallLine]) -> dict[str, WallLine]:
    """Return the walls a roof reads: its own, and inside bearing walls that may carry its ties."""
    return {w: line for w, line in lines.items() if w in roof.walls or line.wall.role == "bearing"}


def _joints(lines: dict[str, WallLine]) -> dict[str, Joints]:
    return join([line.band for line in lines.values()])


_FIELD = {"joist": "joists", "rafter": "rafters", "tie": "ties"}


def _worst(results: dict[str, MemberResult]) -> dict[tuple[str, str], tuple[str, ...]]:
    best: dict[tuple[str, str], tuple[float, str]] = {}
    for key, result in results.items():
        owner, kind = owner_of(key), kind_of(key)
        known = best.get((owner, _FIELD[kind]))
        if known is None or result.used > known[0]:
            best[(owner, _FIELD[kind])] = (result.used, key)
    return {k: (key,) for k, (_, key) in best.items()}


def _longest(
    groups: tuple[tuple[Piece, ...], ...], framed: dict[str, FramedWall], memo: Memo
) -> dict[str, tuple[str, float]]:
    """Return the longest member of each role, its key and length."""
    rows = [memo.step(f"longest {i}", _longest_of, group) for i, group in enumerate(groups)]
    rows += [memo.step(f"longest of {w}", _longest_stick, wall.wall) for w, wall in framed.items()]
    found: dict[str, tuple[str, float]] = {}
    for row in rows:
        for role, (key, length) in row.items():
            if length > found.get(role, ("", 0.0))[1]:
                found[role] = (key, length)
    return found


def _longest_of(pieces: tuple[Piece, ...]) -> dict[str, tuple[str, float]]:
    found: dict[str, tuple[str, float]] = {}
    for piece in pieces:
        if piece.role in MEMBER_ROLES and piece.length > found.get(piece.role, ("", 0.0))[1]:
            found[piece.role] = (piece.key, piece.length)
    return found


def _longest_stick(wall: StudWall) -> dict[str, tuple[str, float]]:
    found: dict[str, tuple[str, float]] = {}
    for stick in wall.sticks:
        if stick.length > found.get(stick.role, ("", 0.0))[1]:
            found[stick.role] = (stick.key(wall.wall), stick.length)
    return found
