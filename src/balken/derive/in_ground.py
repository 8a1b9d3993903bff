"""What stands in the ground: foundation walls, slabs, columns and pads made; footings and walls against earth designed."""

from typing import NamedTuple

from msgspec.structs import replace

from balken.derive.decked import Decked, made_joists
from balken.derive.free_standing import Standing, all_stands
from balken.derive.laying import Closed, Laid
from balken.design.earth_runs import (
    Against,
    against_earth,
    design_earth_wall,
    floors_over,
    lightest,
    pushed_along,
    sideways_of,
)
from balken.design.footings import PadResult, RunFooting, design_run
from balken.design.girders import passing
from balken.design.pad_design import design_pads, loads_on_pads, strips_of
from balken.framing.bands import WallLine
from balken.framing.blocking import blocking_pieces
from balken.framing.foundations import FoundationRun, foundation_pieces
from balken.framing.ground import Ground, ground_of
from balken.framing.ground_works import by_owner, in_the_ground, let_in, walls_of
from balken.framing.linings import linings
from balken.framing.pads import PadPlace, pad_places
from balken.framing.pieces import Piece
from balken.framing.sill_plates import sill_gaps, sill_pieces
from balken.framing.slabs import SlabPlan, seat_solids, slab_plan
from balken.framing.uprights import Upright
from balken.loads.beam_law import NONE_MORE
from balken.loads.cases import Cases
from balken.loads.path import Beams, LoadPath
from balken.loads.stands import Stand
from balken.memo import Memo
from balken.model.lookup import by_id
from balken.model.naming import run_of
from balken.model.records import Project
from balken.standards.ground import EarthWall
from balken.standards.known import STANDARDS

Lines = dict[str, WallLine]
Runs = tuple[FoundationRun, ...]


class Works(NamedTuple):
    """What stands in the ground, before footings have sizes."""

    runs: Runs
    slabs: tuple[SlabPlan, ...]
    concrete: dict[str, tuple[Piece, ...]]
    stands: tuple[Stand, ...]
    places: tuple[PadPlace, ...]
    on_pads: dict[str, Cases]
    """What was put on each pad by itself: its pier and what was typed, N."""
    earth: Ground | None


class Under(NamedTuple):
    """What was designed in the ground, and the pieces of footings, pads and slabs by their owners."""

    footings: dict[str, RunFooting]
    pads: dict[str, PadResult]
    earth_walls: dict[str, EarthWall]
    grounds: tuple[tuple[Piece, ...], ...]


def ground_works(memo: Memo, p: Project, runs: Runs, laid: Laid, outlined: Closed, beams: Beams) -> Works:
    """Build foundation walls, slabs, columns and piers."""
    lines, closed = laid.lines, outlined.outlines
    runs = _cut_sills(memo, p, runs, beams)
    plans = [slab_plan(v, closed[v.id], _height(p, v.level), runs, lines, p.grids) for v in p.slabs if v.id in closed]
    slabs = memo.keep("slab plans", tuple(plans))
    concrete = _foundation_walls(memo, p, runs, memo.keep("seats", seat_solids(slabs)))
    stands = all_stands(memo, p)
    feet = memo.keep("feet", tuple((stand.id, stand.at, stand.foot) for stand in stands))
    places = memo.step("pads", pad_places, p.pads, feet, p.grids, p.levels)
    on_pads = memo.step("on pads", loads_on_pads, places)
    earth = memo.step("ground", ground_of, p.spots, p.levels)
    return Works(runs, slabs, concrete, stands, places, on_pads, earth)


def _cut_sills(memo: Memo, p: Project, runs: Runs, beams: Beams) -> Runs:
    """Return the runs with their sill plates cut where beams lie."""
    if not beams.lines:
        return runs
    found = []
    for run in runs:
        mine = memo.keep(f"recesses {run.id}", run.recesses_among(p.recesses))
        gaps = memo.step(f"sill of {run.id}", sill_gaps, run, mine, beams.lines)
        found.append(memo.keep(f"run with sill {run.id}", replace(run, sill_gaps=gaps)) if gaps else run)
    return memo.keep("runs with sills", tuple(found))


def _foundation_walls(memo: Memo, p: Project, runs: Runs, seats: tuple[Upright, ...]) -> dict[str, tuple[Piece, ...]]:
    recesses = {run.id: memo.keep(f"recesses {run.id}", run.recesses_among(p.recesses)) for run in runs}
    walls = {}
    for run in runs:
        concrete = memo.step(f"run {run.id}", foundation_pieces, run, recesses[run.id], seats)
        plates = memo.step(f"sill plates {run.id}", sill_pieces, run, memo.keep("stock", p.stock_length))
        walls[run.id] = memo.keep(f"run and sill {run.id}", (*concrete, *plates))
    more = memo.step("let in", let_in, runs, memo.keep("walls in the ground", walls), seats)
    return walls | {r: memo.keep(f"all of {r}", (*walls[r], *pieces)) for r, pieces in more.items()}


def _height(p: Project, level: str) -> float:
    return by_id(p.levels)[level].height


class Pressed(NamedTuple):
    """How walls stand against earth, by run, and for each floor the blocking that takes the push of its walls."""

    against: dict[str, Against]
    blocking: tuple[tuple[Piece, ...], ...]


def pressed(memo: Memo, p: Project, works: Works, laid: Laid, floors: Decked) -> Pressed:
    """Return by run how walls stand against earth, and for each floor the blocking that takes the push of its walls."""
    runs, slabs = works.runs, works.slabs
    decks = memo.keep("decks", {plan.floor.id: _height(p, plan.floor.level) for plan in laid.floors})
    held = memo.step("held", floors_over, runs, memo.keep("floors", laid.floors), decks)
    against = memo.step("against earth", against_earth, runs, slabs, works.earth, held)
    blocking = []
    for plan in laid.floors:
        name, deck = plan.floor.id, decks[plan.floor.id]
        if plan.floor.is_slab:
            continue
        pushed = memo.keep(f"pushed {name}", pushed_along(runs, plan, deck, against))
        size = memo.keep(f"joists {name}", laid.designs[(name, "joists")].size)
        level = memo.keep(f"level {name}", deck)
        made = memo.keep(f"made {name}", made_joists(laid, floors, name))
        there = memo.keep(f"blocks there {name}", floors.blocks.get(name, ()))
        blocking.append(memo.step(f"blocking {name}", blocking_pieces, plan, size, level, pushed, made, there))
    return Pressed({r: memo.keep(f"against {r}", a) for r, a in against.items()}, tuple(blocking))


def design_ground(
    memo: Memo,
    p: Project,
    works: Works,
    path: LoadPath,
    pressed: Pressed,
    laid: Laid,
    columns: Standing,
) -> Under:
    """Design footings, pads and walls against earth, and give the concrete in the ground its shape."""
    against, lines, standing = pressed.against, laid.lines, columns.pieces
    footings = _footings(memo, p, works.runs, path, against)
    pads = _pads(memo, p, works, footings, path, standing)
    sizes = memo.keep("sizes", {run_id: (f.width, f.depth) for run_id, f in footings.items()})
    pad_sizes = {v: (r.design.width, r.design.thickness, r.design.length, r.before) for v, r in pads.items()}
    below = memo.step(
        "in the ground",
        in_the_ground,
        works.runs,
        sizes,
        memo.keep("concrete", works.concrete),
        works.places,
        memo.keep("pad sizes", pad_sizes),
        works.slabs,
        lines,
    )
    grounds = memo.step("ground groups", by_owner, below)
    grounds = tuple(memo.keep(f"ground of {run_of(group[0].key)}", group) for group in grounds)
    if any(run.foundation.lining > 0.0 for run in works.runs):
        beams = memo.keep("beams through linings", tuple(map(passing, path.beams.values())))
        lined = memo.step(
            "linings", linings, works.runs, beams, works.slabs, memo.keep("walls lined", walls_of(works.concrete))
        )
        grounds = (*grounds, memo.keep("all linings", lined))
    return Under(footings, pads, _earth_walls(memo, p, works.runs, path, against, sizes), grounds)


def _footings(memo: Memo, p: Project, runs: Runs, path: LoadPath, against: dict[str, Against]) -> dict[str, RunFooting]:
    bearing = memo.keep("soil bearing", p.loads.soil_bearing)
    found = {}
    for run in runs:
        along = memo.keep(f"along {run.id}", path.along[run.id])
        itself = memo.keep(f"{run.id} by itself", run.by_itself())
        sideways = memo.keep(f"sideways {run.id}", sideways_of(against.get(run.id), p.soil, lightest(along)))
        found[run.id] = memo.step(
            f"footing {run.id}",
            design_run,
            itself,
            along,
            bearing,
            p.concrete,
            p.steps,
            sideways,
            STANDARDS[p.standard],
            memo.keep(f"more on {run.id}", _more(path, run.id)),
            memo.keep(f"beyond on {run.id}", path.beyond.get(run.id)),
        )
    return found


def _pads(
    memo: Memo,
    p: Project,
    works: Works,
    footings: dict[str, RunFooting],
    path: LoadPath,
    standing: tuple[Piece, ...],
) -> dict[str, PadResult]:
    cast_with = any(place.pad.with_strip for place in works.places)
    return memo.step(
        "pad designs",
        design_pads,
        works.places,
        memo.keep("on all pads", {pad: load.plus(_more(path, pad)) for pad, load in path.pads.items()}),
        standing,
        memo.keep("soil bearing", p.loads.soil_bearing),
        p.concrete,
        p.steps,
        memo.keep("friction", p.soil.base_friction),
        STANDARDS[p.standard],
        memo.keep("strips", strips_of(works.runs, footings) if cast_with else ()),
    )


def _more(path: LoadPath, name: str) -> Cases:
    """Return what arrangements of live load bring beyond all of it at once, N."""
    return path.extremes.get(name, NONE_MORE).more


def _earth_walls(
    memo: Memo,
    p: Project,
    runs: Runs,
    path: LoadPath,
    against: dict[str, Against],
    sizes: dict[str, tuple[float, float]],
) -> dict[str, EarthWall]:
    return {
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
            STANDARDS[p.standard],
        )
        for run in runs
        if run.id in against
    }
