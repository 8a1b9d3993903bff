"""Deriving: from a project to all that follows from it, part by part.

Each step is remembered with the objects it read; when they are the same objects as last time, its
result is taken again.  A step that gives an equal result keeps the old object, so that what reads
it is not made again either.
"""

from collections.abc import Callable
from dataclasses import dataclass, field
from typing import Any, TypeVar

from msgspec.structs import replace

from balken.design.checks import MemberResult
from balken.design.earth_walls import EarthWall, design_earth_walls, floors_over
from balken.design.footings import PadResult, RunFooting, design_pad, design_run, design_two
from balken.design.layouts import LayoutDesign, design_layout
from balken.design.members import (
    CEILING_LIMIT,
    JOIST_LIMIT,
    MemberCase,
    check_member,
    rafter_limit,
)
from balken.design.stud_walls import FramedWall, design_studs, framed_wall, lay_studs
from balken.findings.context import Context
from balken.findings.finding import Finding
from balken.findings.rules import all_findings
from balken.framing.bands import Joints, WallLine, join, wall_lines
from balken.framing.columns import column_pieces
from balken.framing.fitting import fitted_lines, heads_under_floors, heads_under_roof, ribbons
from balken.framing.floors import FloorPlan, at_height, floor_pieces, floor_plan, in_reach
from balken.framing.foundations import (
    FoundationRun,
    foundation_pieces,
    foundation_runs,
    run_of,
)
from balken.framing.ground import Ground, ground_of
from balken.framing.ground_works import by_owner, in_the_ground
from balken.framing.outlines import Outline, OutlineError, outline
from balken.framing.pads import PadPlace, carried, pad_places, pier_solid
from balken.framing.pieces import MEMBER_ROLES, Bearer, Piece
from balken.framing.roofs import RoofPlan, gable_top, is_gable_outline, roof_pieces, roof_plan
from balken.framing.slabs import SlabPlan, seat_solids, slab_plan
from balken.framing.walls import GableTop, wall_pieces
from balken.geometry.plane import distance
from balken.geometry.prism import volume
from balken.loads.cases import Cases, total
from balken.loads.path import (
    LineTotal,
    LoadPath,
    Reaction,
    applied_area_loads,
    ceiling_cases,
    floor_cases,
    floor_reactions,
    load_path,
    own_weight,
    roof_cases,
    roof_reactions,
    thrust,
    weigh,
)
from balken.model.buildups import stud_size
from balken.model.lookup import height
from balken.model.materials import weight
from balken.model.records import Concrete, Floor, Level, Loads, Opening, Project, Roof, Slab
from balken.model.sections import JOIST_SIZES, TIE_SIZES, section
from balken.units import Units
from balken.units.system import INCH

T = TypeVar("T")
PLANNING_SPACING = 16.0 * INCH
"""Spacing at which a layout is laid to learn its spans before its own is chosen."""


@dataclass
class Memo:
    """Results of the steps of the last derivation, each with what it read."""

    kept: dict[str, tuple[tuple[Any, ...], Any]] = field(default_factory=dict)
    made: list[str] = field(default_factory=list)
    """Names of the steps that the last derivation ran anew."""

    def step(self, name: str, make: Callable[..., T], *read: Any) -> T:
        """Return ``make(*read)``, or the last result when every object read is the same."""
        known = self.kept.get(name)
        if known is not None and len(known[0]) == len(read):
            for a, b in zip(known[0], read, strict=True):
                if a is not b:
                    break
            else:
                return known[1]  # type: ignore[no-any-return]
        self.made.append(name)
        result = make(*read)
        if known is not None and type(known[1]) is type(result) and known[1] == result:
            result = known[1]
        self.kept[name] = (read, result)
        return result

    def keep(self, name: str, value: T) -> T:
        """Return the object kept under this name when it equals ``value``, so that it is recognised."""
        known = self.kept.get(name)
        if known is not None and known[1] == value:
            return known[1]  # type: ignore[no-any-return]
        self.kept[name] = ((), value)
        return value


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
    pieces: dict[str, Piece]
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
    groups: tuple[tuple[Piece, ...], ...]
    """The pieces as they were made together; a group that an edit does not touch stays the same object."""
    layers: dict[str, tuple[Piece, ...]]
    """The layers of each wall, by its id."""

    def members(self) -> list[Piece]:
        """Return the lumber."""
        return [p for p in self.pieces.values() if p.role in MEMBER_ROLES]


def derive(project: Project, memo: Memo | None = None) -> Model:
    """Derive a project; with a memo from last time only what changed is made again."""
    memo = memo if memo is not None else Memo()
    memo.made.clear()
    # What lies above the ground does not look at the soil.
    p, loads = project, memo.keep("loads", replace(project.loads, soil_bearing=1.0, frost_depth=0.0))
    lines = memo.step("lines", wall_lines, p.walls, p.buildups, p.grids, p.levels)
    lines = memo.keep("all lines", {w: memo.keep(f"line of {w}", line) for w, line in lines.items()})
    runs = memo.step("runs", foundation_runs, p.foundations, lines, p.levels)
    runs = memo.keep("all runs", tuple(memo.keep(f"run of {run.id}", run) for run in runs))
    bearers = memo.step("bearers", _bearers, runs, lines, p.floors, p.levels)
    closed, troubles = _outlines(memo, p, lines)

    designs: dict[tuple[str, str], LayoutDesign] = {}
    floors: list[FloorPlan] = []
    groups: list[tuple[Piece, ...]] = []
    reactions: list[tuple[Reaction, ...]] = []
    for floor in p.floors:
        if floor.id not in closed:
            continue
        level = height_of(p, floor.level)
        around = memo.keep(f"outline {floor.id}", closed[floor.id])
        usable = memo.keep(f"bearers {floor.id}", in_reach(at_height(bearers, level - floor.deck), around))
        known = (floor, around, memo.keep(f"level {floor.id}", level), usable)
        plan, design = memo.step(f"plan {floor.id}", _floor, *known, loads, p.steps)
        designs[(floor.id, "joists")] = design
        floors.append(plan)
        groups.append(memo.step(f"pieces {floor.id}", floor_pieces, plan, design.size, level, p.stock_length))
        reactions.append(memo.step(f"reactions {floor.id}", floor_reactions, plan, loads))
    depths = {f.floor.id: section(designs[(f.floor.id, "joists")].size).depth for f in floors}
    heads = memo.keep("heads under floors", heads_under_floors(p, depths))
    lines = memo.step("fitted lines", fitted_lines, lines, heads)
    roofs: list[RoofPlan] = []
    gables: dict[str, GableTop] = {}
    for roof in p.roofs:
        if roof.id not in closed:
            continue
        bearing = memo.keep(f"bearing {roof.id}", height(roof.bearing, p.levels))
        near = memo.keep(f"walls {roof.id}", _walls_of(roof, lines))
        plan_r, rafters, ties = memo.step(
            f"plan {roof.id}",
            _roof,
            roof,
            memo.keep(f"outline {roof.id}", closed[roof.id]),
            bearing,
            near,
            loads,
            p.steps,
        )
        designs[(roof.id, "rafters")], designs[(roof.id, "ties")] = rafters, ties
        roofs.append(plan_r)
        groups.append(memo.step(f"pieces {roof.id}", roof_pieces, plan_r, rafters.size, ties.size, p.stock_length))
        reactions.append(memo.step(f"reactions {roof.id}", roof_reactions, plan_r, loads))
        gables.update(memo.step(f"gables {roof.id}", _gables, plan_r, near, rafters.size))
        under = memo.keep(f"heads under {roof.id}", heads_under_roof(p, plan_r, lines, section(rafters.size).depth))
        gables.update(under[1])
        lines = memo.step(f"lines under {roof.id}", fitted_lines, lines, memo.keep(f"low {roof.id}", under[0]))

    joints = memo.step("wall joints", _joints, lines)
    by_wall = _openings_by_wall(p.openings, memo)
    walls = {
        w: memo.step(
            f"wall {w}",
            wall_pieces,
            line,
            memo.keep(f"joints {w}", joints[w]),
            by_wall.get(w, ()),
            memo.keep(f"gable {w}", gables.get(w)),
        )
        for w, line in lines.items()
    }
    slabs = memo.keep(
        "slab plans",
        tuple(slab_plan(v, closed[v.id], height_of(p, v.level), runs, lines) for v in p.slabs if v.id in closed),
    )
    seats = memo.keep("seats", seat_solids(slabs))
    recesses = {run.id: memo.keep(f"recesses {run.id}", run.recesses_among(p.recesses)) for run in runs}
    concrete = {
        run.id: memo.step(f"run {run.id}", foundation_pieces, run, p.stock_length, recesses[run.id], seats)
        for run in runs
    }
    columns = memo.step("columns", column_pieces, p.columns, p.grids, p.levels)
    places = memo.step("pads", pad_places, p.pads, p.columns, p.grids, p.levels)
    on_pads = memo.step("on pads", _on_pads, places, columns)
    plans = memo.keep("floors", tuple(floors)), memo.keep("roofs", tuple(roofs))
    path = memo.step(
        "load path",
        load_path,
        memo,
        memo.keep("reactions", tuple(reactions)),
        memo.keep("area loads", applied_area_loads(*plans, loads)),
        lines,
        memo.keep("wall weights", {w: memo.step(f"weight {w}", weigh, made) for w, made in walls.items()}),
        runs,
        memo.keep("run weights", {r: memo.step(f"weight {r}", weigh, made) for r, made in concrete.items()}),
        memo.keep("openings by wall", by_wall),
        on_pads,
    )
    framed = {
        w: _framed(memo, p, line, joints[w], by_wall.get(w, ()), gables.get(w), path.walls[w])
        for w, line in lines.items()
        if stud_size(line.buildup) is not None
    }
    earth = memo.step("ground", ground_of, p.spots, p.levels)
    soil_bearing = memo.keep("soil bearing", p.loads.soil_bearing)
    results_f = {
        run.id: memo.step(
            f"footing {run.id}",
            design_run,
            run,
            memo.keep(f"along {run.id}", path.along[run.id]),
            soil_bearing,
            p.concrete,
            p.steps,
        )
        for run in runs
    }
    friction = memo.keep("friction", p.soil.base_friction)
    results_p = memo.step("pad designs", _pads, places, on_pads, columns, soil_bearing, p.concrete, p.steps, friction)
    sizes = memo.keep("sizes", {run_id: (f.width, f.depth) for run_id, f in results_f.items()})
    pad_sizes = memo.keep(
        "pad sizes",
        {v: (r.design.width, r.design.thickness, r.design.length, r.before) for v, r in results_p.items()},
    )
    below = memo.step(
        "in the ground", in_the_ground, runs, sizes, memo.keep("concrete", concrete), places, pad_sizes, slabs, lines
    )
    grounds = memo.step("ground groups", by_owner, below)
    grounds = tuple(memo.keep(f"ground of {run_of(group[0].key)}", group) for group in grounds)
    footings = tuple(piece for piece in below if piece.role in ("strip footing", "pad footing"))
    earth_walls = memo.step(
        "earth walls",
        design_earth_walls,
        runs,
        memo.keep("along", path.along),
        slabs,
        earth,
        p.soil,
        p.concrete,
        memo.keep("held", floors_over(runs, plans[0])),
        sizes,
        p.masonry,
    )

    made = (*grounds, *concrete.values(), *groups, *walls.values(), *(f.pieces for f in framed.values()), columns)
    pieces = {piece.key: piece for group in made for piece in group}
    results: dict[str, MemberResult] = {}
    worst: dict[tuple[str, str], tuple[str, ...]] = {}
    for plan in floors:
        sizes_ = memo.keep(f"joists {plan.floor.id}", designs[(plan.floor.id, "joists")].size)
        made_f = memo.step(f"results {plan.floor.id}", _floor_results, plan, sizes_, loads)
        worst |= memo.step(f"worst {plan.floor.id}", _worst, made_f)
        results |= made_f
    for plan_r in roofs:
        chosen = tuple(designs[(plan_r.roof.id, part)].size for part in ("rafters", "ties"))
        chosen = memo.keep(f"rafters {plan_r.roof.id}", chosen)
        made_r = memo.step(f"results {plan_r.roof.id}", _roof_results, plan_r, chosen, loads)
        worst |= memo.step(f"worst {plan_r.roof.id}", _worst, made_r)
        results |= made_r
    for wall in framed.values():
        results.update(wall.results)
    context = Context(
        p,
        lines,
        runs,
        tuple(floors),
        tuple(roofs),
        designs,
        results_f,
        pieces,
        worst,
        _longest(made, memo),
        troubles,
        framed,
        gables,
        path,
        earth,
        results_p,
        places,
        slabs,
        earth_walls,
    )
    soil = path.arrived.plus(total(own_weight(f) for f in footings))
    return Model(
        p,
        lines,
        joints,
        gables,
        runs,
        closed,
        tuple(floors),
        tuple(roofs),
        pieces,
        designs,
        results,
        path,
        results_f,
        framed,
        earth,
        soil,
        all_findings(context),
        results_p,
        places,
        slabs,
        earth_walls,
        made,
        walls,
    )


def _framed(
    memo: Memo,
    p: Project,
    line: WallLine,
    joints: Joints,
    openings: tuple[Opening, ...],
    gable: GableTop | None,
    carried: LineTotal,
) -> FramedWall:
    """Design and lay the studs of one wall; what only its load changes is not laid again."""
    w = line.wall.id
    line, gable = memo.keep(f"line {w}", line), memo.keep(f"gable {w}", gable)
    made = memo.step(
        f"studs {w}",
        design_studs,
        line,
        openings,
        gable,
        memo.keep(f"head {w}", carried.head_line),
        memo.keep(f"own {w}", carried.own_line),
        memo.keep("wind", p.loads.wind),
        p.steps,
    )
    laid = memo.step(
        f"framing {w}",
        lay_studs,
        line,
        memo.keep(f"joints {w}", joints),
        openings,
        gable,
        memo.keep(f"choice {w}", made.choice),
        memo.keep("stock", p.stock_length),
        memo.keep(f"ribbons {w}", ribbons(line, p.floors, p.levels)),
    )
    return memo.step(f"framed {w}", framed_wall, made, laid)


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
            return "a gable roof needs four walls that close a rectangle"
        return made
    except OutlineError as error:
        return str(error)


def _on_pads(places: tuple[PadPlace, ...], columns: tuple[Piece, ...]) -> dict[str, Cases]:
    """Return what each pad carries on its top: columns and pier by their weight, and what was typed, N."""
    by_owner = {piece.owner: piece for piece in columns}
    found = {}
    for place in places:
        pad, pier = place.pad, pier_solid(place)
        parts = [Cases(dead=pad.dead, live=pad.live, snow=pad.snow)]
        parts += [own_weight(by_owner[c]) for c in place.columns if c in by_owner]
        if pier is not None:
            parts.append(Cases(dead=weight("concrete") * volume(pier.prism) * 1e-6))
        found[pad.id] = total(parts)
    return found


def _pads(
    places: tuple[PadPlace, ...],
    on_pads: dict[str, Cases],
    columns: tuple[Piece, ...],
    bearing: float,
    concrete: Concrete,
    units: Units,
    friction: float,
) -> dict[str, PadResult]:
    sides = {piece.owner: _side(piece) for piece in columns}
    known = {place.pad.id: place for place in places}
    in_another = carried(places)
    found = {}

    def column(place: PadPlace) -> float:
        return min((sides[c] for c in place.columns if c in sides), default=5.5 * INCH)

    for place in places:
        pad, other = place.pad, known.get(place.pad.joined)
        if pad.id in in_another:
            continue
        if other is None:
            found[pad.id] = design_pad(pad, on_pads[pad.id], bearing, concrete, units, column(place), friction)
            continue
        both = (on_pads[pad.id], on_pads[other.pad.id])
        apart, columns_ = distance(place.centre, other.centre), (column(place), column(other))
        found[pad.id] = design_two((pad, other.pad), both, apart, bearing, concrete, units, columns_, friction)
    return found


def _side(piece: Piece) -> float:
    ring = piece.solid.rings[0]
    return min(distance(ring[0], ring[1]), distance(ring[1], ring[2]))


def joist_case(floor: Floor, clear: float, width: float, bearing: float, loads: Loads, size: str) -> MemberCase:
    """Return the case of one floor joist."""
    return MemberCase(
        "joist",
        size,
        floor.joists.species,
        floor.joists.grade,
        round(clear, 3),
        round(width, 3),
        floor_cases(loads),
        JOIST_LIMIT,
        round(max(bearing, 1.0), 3),
    )


def _floor(
    floor: Floor, closed: Outline, level: float, bearers: tuple[Bearer, ...], loads: Loads, units: Units
) -> tuple[FloorPlan, LayoutDesign]:
    trial = floor_plan(floor, closed, level, bearers, floor.joists.spacing or PLANNING_SPACING)
    bearing = min(trial.least_bearing, 3.0 * INCH) or INCH

    def case_for(size: str, spacing: float) -> MemberCase:
        return joist_case(floor, trial.clear or 1.0, spacing, bearing, loads, size)

    design = design_layout(floor.joists, JOIST_SIZES, units, case_for)
    if abs(design.spacing - trial.spacing) < 1e-6:
        return trial, design
    return floor_plan(floor, closed, level, bearers, design.spacing), design


def rafter_case(plan: RoofPlan, width: float, loads: Loads, size: str) -> MemberCase:
    """Return the case of one rafter."""
    roof = plan.roof
    shape = plan.shape(section(size).depth)
    notch = shape.seat * roof.pitch / (1.0 + roof.pitch**2) ** 0.5
    return MemberCase(
        "rafter",
        size,
        roof.rafters.species,
        roof.rafters.grade,
        round(plan.clear, 3),
        round(width, 3),
        roof_cases(loads, roof.pitch),
        rafter_limit(roof.pitch),
        round(shape.seat, 3),
        roof.pitch,
        roof.overhang,
        round(notch, 3),
    )


def tie_case(
    plan: RoofPlan, clear: float, width: float, bearing: float, loads: Loads, size: str, tension: Cases
) -> MemberCase:
    """Return the case of one ceiling tie: ceiling load across it, the rafters' thrust along it."""
    roof = plan.roof
    return MemberCase(
        "ceiling tie",
        size,
        roof.ties.species,
        roof.ties.grade,
        round(clear, 3),
        round(width, 3),
        ceiling_cases(loads),
        CEILING_LIMIT,
        round(max(bearing, 1.0), 3),
        tension=tension,
    )


def _roof(
    roof: Roof, closed: Outline, bearing: float, lines: dict[str, WallLine], loads: Loads, units: Units
) -> tuple[RoofPlan, LayoutDesign, LayoutDesign]:
    trial = roof_plan(roof, closed, bearing, lines, roof.rafters.spacing or PLANNING_SPACING)
    rafters = design_layout(
        roof.rafters, JOIST_SIZES, units, lambda size, spacing: rafter_case(trial, spacing, loads, size)
    )
    plan = (
        trial
        if abs(rafters.spacing - trial.spacing) < 1e-6
        else roof_plan(roof, closed, bearing, lines, rafters.spacing)
    )
    fixed = replace(roof.ties, spacing=rafters.spacing)  # ties lie beside rafters
    tension = thrust(plan, loads)
    least = min((b for tie in plan.ties for b in tie.bearings), default=3.0 * INCH)
    ties = design_layout(
        fixed,
        TIE_SIZES,
        units,
        lambda size, spacing: tie_case(plan, plan.tie_clear or 1.0, spacing, least, loads, size, tension),
    )
    return plan, rafters, ties


def _gables(plan: RoofPlan, lines: dict[str, WallLine], size: str) -> dict[str, GableTop]:
    """Return the raking tops of the gable walls; a wall that another building part shares stays as it is."""
    depth = section(size).depth
    shared = {w for w, s in zip(plan.outline.walls, plan.outline.shared, strict=True) if s}
    return {w: gable_top(plan, lines[w], depth) for w in plan.gables if w not in shared}


def _walls_of(roof: Roof, lines: dict[str, WallLine]) -> dict[str, WallLine]:
    """Return the walls a roof reads: its own, and inside bearing walls that may carry its ties."""
    return {w: line for w, line in lines.items() if w in roof.walls or line.wall.role == "bearing"}


def _joints(lines: dict[str, WallLine]) -> dict[str, Joints]:
    return join([line.band for line in lines.values()])


def _floor_results(plan: FloorPlan, size: str, loads: Loads) -> dict[str, MemberResult]:
    """Check every joist with its own span, width and bearing."""
    found: dict[str, MemberResult] = {}
    for line in plan.lines:
        bearing = min((b for b, s in zip(line.bearings, line.supports, strict=True) if s), default=1.0)
        width = max(line.width, plan.spacing)
        case = joist_case(plan.floor, max(line.clear, 1.0), width, bearing, loads, size)
        found[f"{plan.floor.id}/joist/{line.place}"] = check_member(case)
    return found


def _roof_results(plan: RoofPlan, sizes: tuple[str, str], loads: Loads) -> dict[str, MemberResult]:
    """Check every rafter and tie with its own span, width and bearing."""
    found: dict[str, MemberResult] = {}
    for station in plan.stations:
        result = check_member(rafter_case(plan, station.width, loads, sizes[0]))
        for side in "ab":
            found[f"{plan.roof.id}/rafter/{station.place}{side}"] = result
    tension = thrust(plan, loads)
    for tie in plan.ties:
        case = tie_case(plan, max(tie.clear, 1.0), tie.width, min(tie.bearings), loads, sizes[1], tension)
        found[f"{plan.roof.id}/tie/{tie.place}"] = check_member(case)
    return found


_FIELD = {"joist": "joists", "rafter": "rafters", "tie": "ties"}


def _worst(results: dict[str, MemberResult]) -> dict[tuple[str, str], tuple[str, ...]]:
    best: dict[tuple[str, str], tuple[float, str]] = {}
    for key, result in results.items():
        owner, kind, _ = key.split("/")
        known = best.get((owner, _FIELD[kind]))
        if known is None or result.used > known[0]:
            best[(owner, _FIELD[kind])] = (result.used, key)
    return {k: (key,) for k, (_, key) in best.items()}


def _longest(groups: tuple[tuple[Piece, ...], ...], memo: Memo) -> dict[str, tuple[str, float]]:
    """Return the longest member of each role, its key and length."""
    found: dict[str, tuple[str, float]] = {}
    for i, group in enumerate(groups):
        for role, (key, length) in memo.step(f"longest {i}", _longest_of, group).items():
            if length > found.get(role, ("", 0.0))[1]:
                found[role] = (key, length)
    return found


def _longest_of(pieces: tuple[Piece, ...]) -> dict[str, tuple[str, float]]:
    found: dict[str, tuple[str, float]] = {}
    for piece in pieces:
        if piece.role in MEMBER_ROLES and piece.length > found.get(piece.role, ("", 0.0))[1]:
            found[piece.role] = (piece.key, piece.length)
    return found
