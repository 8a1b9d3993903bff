"""Deriving: from a project to all that follows from it, stage by stage.

Each step is remembered with the objects it read; when they are the same objects as last time, its result is taken
again.  A step that gives an equal result keeps the old object, so that what reads it is not made again either.
"""

from dataclasses import replace
from functools import partial

import msgspec

from balken.derive.beams import beam_bearers, laid_beams, made_beams
from balken.derive.checking import check_all, longest
from balken.derive.decked import decked
from balken.derive.free_standing import MAKERS, as_made
from balken.derive.in_ground import Works, design_ground, ground_works, pressed
from balken.derive.laying import Laid, bearers, lay_all, outlines
from balken.derive.walling import Built, build, frame
from balken.derived.model import Model
from balken.findings.frame_rules import all_findings
from balken.framing.bands import wall_lines
from balken.framing.foundations import foundation_runs
from balken.loads.area_loads import applied_area_loads, own_weight, weigh
from balken.loads.cases import total
from balken.loads.path import Beams, LoadPath, load_path
from balken.memo import Memo
from balken.model.records import Loads, Project
from balken.standards.known import STANDARDS
from balken.standards.standard import Standard


def derive(project: Project, memo: Memo | None = None) -> Model:
    """Derive a project; with a memo from last time only what changed is made again."""
    memo = memo if memo is not None else Memo()
    memo.begin()
    model = _derived(project, memo)
    memo.finish()
    return replace(model, findings=all_findings(model))


def _derived(p: Project, memo: Memo) -> Model:
    # What lies above the ground does not look at the soil.
    loads = memo.keep("loads", msgspec.structs.replace(p.loads, soil_bearing=1.0, frost_depth=0.0))
    lines = memo.step("lines", wall_lines, p.walls, p.buildups, p.grids, p.levels)
    lines = memo.keep("all lines", {w: memo.keep(f"line of {w}", line) for w, line in lines.items()})
    runs = memo.step("runs", foundation_runs, p.foundations, lines, p.levels)
    runs = memo.keep("all runs", tuple(memo.keep(f"run of {run.id}", run) for run in runs))
    on = memo.step("bearers", bearers, runs, lines, p.floors, p.levels)
    on = memo.keep("all bearers", (*on, *beam_bearers(memo, p)))
    closed = outlines(memo, p, lines)
    laid = lay_all(memo, p, loads, on, closed, lines)
    built = build(memo, p, laid.lines, laid.gables)
    works = ground_works(memo, p, runs, laid.lines, closed.outlines)
    beams = laid_beams(memo, p, laid)
    path = _carried(memo, loads, STANDARDS[p.standard], laid, built, works, beams)
    girders = made_beams(memo, beams.lines, path)
    standing, posts = as_made(memo, p, path)
    floors = decked(memo, p, loads, laid, path)
    framed = frame(memo, p, laid.lines, built, path)
    against, blocking = pressed(memo, p, works, laid)
    under = design_ground(memo, p, works, path, against, laid.lines, standing)
    checked = check_all(memo, loads, STANDARDS[p.standard], laid, floors.loaded, framed, posts, path)
    foundations, layouts = (
        (*under.grounds, *works.concrete.values()),
        (*floors.groups, *laid.groups, *blocking, girders),
    )
    footings = [piece for group in under.grounds for piece in group if piece.role in ("strip footing", "pad footing")]
    return Model(
        project=p,
        lines=laid.lines,
        joints=built.joints,
        gables=laid.gables,
        runs=runs,
        outlines=closed.outlines,
        troubles=closed.troubles,
        floors=laid.floors,
        roofs=laid.roofs,
        slabs=works.slabs,
        ground=works.earth,
        pad_places=works.places,
        path=path,
        soil=path.arrived.plus(total(own_weight(piece) for piece in footings)),
        designs=laid.designs,
        framed=framed,
        footings=under.footings,
        pads=under.pads,
        earth_walls=under.earth_walls,
        posts=posts,
        loaded=floors.loaded,
        results=checked.results,
        worst_pieces=checked.worst,
        longest=longest(memo, (*foundations, *layouts, *built.layers.values(), standing), framed),
        foundations=foundations,
        layouts=layouts,
        layers=built.layers,
        columns=standing,
        edited=laid.edited,
    )


def _carried(
    memo: Memo, loads: Loads, standard: Standard, laid: Laid, built: Built, works: Works, beams: Beams
) -> LoadPath:
    """Carry every load down to the footings."""
    plans = memo.keep("floors", laid.floors), memo.keep("roofs", laid.roofs)
    weights = {w: memo.step(f"weight {w}", weigh, made) for w, made in built.layers.items()}
    below = {r: memo.step(f"weight {r}", weigh, made) for r, made in works.concrete.items()}
    return memo.step(
        "load path",
        partial(load_path, memo),
        memo.keep("reactions", laid.reactions),
        memo.keep("area loads", applied_area_loads(*plans, loads)),
        laid.lines,
        memo.keep("wall weights", weights),
        works.runs,
        memo.keep("run weights", below),
        memo.keep("openings by wall", built.openings),
        works.on_pads,
        works.places,
        works.stands,
        MAKERS,
        memo.keep("decks stood on", laid.decks),
        standard,
        beams,
    )
