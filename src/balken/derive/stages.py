"""The stages of the derivation, each with what it reads; a kind more that lies or stands somewhere is a row here."""

from functools import partial

import msgspec

from balken.derive.beams import beam_bearers, laid_beams, made_beams
from balken.derive.checking import check_all
from balken.derive.decked import decked
from balken.derive.engine import Stage
from balken.derive.free_standing import MAKERS, as_made
from balken.derive.hanging import fittings, hangers
from balken.derive.in_ground import Runs, Works, design_ground, ground_works, pressed
from balken.derive.joist_blocks import joist_blocks
from balken.derive.laying import Laid, Lines, bearers, lay_all, outlines
from balken.derive.stairs import flights, stairs
from balken.derive.wall_ledgers import held_ledgers
from balken.derive.walling import Built, build, frame
from balken.design.roof_uplift import Blown, Reach, Uplift, ends_of, roof_uplift
from balken.framing.bands import wall_lines
from balken.framing.foundations import foundation_runs
from balken.framing.pieces import Bearer
from balken.loads.area_loads import applied_area_loads, surface_loads, weigh
from balken.loads.beam_law import typed_along
from balken.loads.cases import total
from balken.loads.path import Beams, LoadPath, load_path
from balken.memo import Memo
from balken.model.lookup import lowest_ground
from balken.model.records import Loads, Project
from balken.standards.known import STANDARDS
from balken.standards.standard import Standard


def _standard(memo: Memo, p: Project) -> Standard:
    return STANDARDS[p.standard]


def _loads(memo: Memo, p: Project) -> Loads:
    """What lies above the ground does not look at the soil."""
    return memo.keep("loads", msgspec.structs.replace(p.loads, soil_bearing=1.0, frost_depth=0.0))


def _lines(memo: Memo, p: Project) -> Lines:
    lines = memo.step("lines", wall_lines, p.walls, p.buildups, p.grids, p.levels)
    return memo.keep("all lines", {w: memo.keep(f"line of {w}", line) for w, line in lines.items()})


def _runs(memo: Memo, p: Project, lines: Lines) -> Runs:
    runs = memo.step("runs", foundation_runs, p.foundations, lines, p.levels)
    return memo.keep("all runs", tuple(memo.keep(f"run of {run.id}", run) for run in runs))


def _bearers(memo: Memo, p: Project, runs: Runs, lines: Lines) -> tuple[Bearer, ...]:
    """What joists may bear on: foundations, walls, beams."""
    found = memo.step("bearers", bearers, runs, lines, p.floors, p.levels)
    return memo.keep("all bearers", (*found, *beam_bearers(memo, p)))


def _path(
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
        memo.keep(
            "area loads",
            total(
                (
                    applied_area_loads(*plans, loads, laid.snow),
                    surface_loads(laid.surfaces, laid.snow, loads),
                    *(framing.carried.heaps for framing in laid.planes.values()),
                    *(trusses.heaps for trusses in laid.trusses.values()),
                    *(trusses.weights for trusses in laid.trusses.values()),
                    *(dormer.weight for dormer in laid.dormers.values()),
                    *(d.typed_sum for d in laid.decks),
                    *map(typed_along, beams.lines),
                )
            ),
        ),
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
        memo.keep("beyond", laid.beyond),
        memo.keep("ends of roofs", laid.ends),
    )


def _reach(laid: Laid) -> dict[tuple[str, str], Reach]:
    """Return by roof and wall how roofs reach past it."""
    found: dict[tuple[str, str], Reach] = {}
    for plan in laid.surfaces:
        framing = laid.planes.get(plan.roof.id)
        times = framing.heavier(laid.designs[(plan.roof.id, "rafters")].spacing) if framing is not None else {}
        for wall, over, deep in zip(plan.outline.walls, plan.overhangs, plan.deep, strict=True):
            known = found.get((plan.roof.id, wall), Reach(0.0))
            found[(plan.roof.id, wall)] = Reach(max(known.past, over), times.get(wall, 1.0), deep)
    return found


def _uplift(
    memo: Memo, p: Project, loads: Loads, standard: Standard, laid: Laid, built: Built, path: LoadPath
) -> Uplift:
    """What wind lifts at the bearings of roofs, followed down."""
    roofs = [Blown(plan.roof, plan.outline, plan.mean_height, ends_of(plan), (plan.roof.pitch,)) for plan in laid.roofs]
    # What lifts at a dormer does so at the rafters it stands on.
    roofs += [
        Blown(s.roof, s.outline, s.mean_height, ends_of(s), s.pitches)
        for s in laid.surfaces
        if not s.problem and s.roof.id not in laid.dormers
    ]
    spacings = {
        roof.id: laid.designs[(roof.id, "rafters")].spacing
        for roof in (one.roof for one in roofs)
        if (roof.id, "rafters") in laid.designs
    }
    spacings |= {roof: made.row.spacing for roof, made in laid.trusses.items() if made.row is not None}
    lowest = lowest_ground(p)
    return memo.step(
        "uplift", roof_uplift, memo.keep("roofs that lift", tuple(roofs)), memo.keep("their spacings", spacings),
        memo.keep("how they reach", _reach(laid)), path,
        laid.lines, lowest, loads, standard, memo.keep("beams of roofs", laid.sides),
        memo.keep("openings by wall", built.openings),
    )  # fmt: skip


STAGES: tuple[Stage, ...] = (
    Stage("standard", ("project",), _standard),
    Stage("loads", ("project",), _loads),
    Stage("drawn lines", ("project",), _lines),
    Stage("runs", ("project", "drawn lines"), _runs),
    Stage("bearers", ("project", "runs", "drawn lines"), _bearers),
    Stage("closed", ("project", "drawn lines"), outlines),
    Stage("flights", ("project", "closed"), flights),
    Stage("laid", ("project", "loads", "bearers", "closed", "drawn lines", "flights"), lay_all),
    Stage("stairs", ("project", "loads", "laid", "flights"), stairs),
    Stage("built", ("project", "laid"), build),
    Stage("beams", ("project", "laid"), laid_beams),
    Stage("works", ("project", "runs", "laid", "closed", "beams"), ground_works),
    Stage("path", ("loads", "standard", "laid", "built", "works", "beams"), _path),
    Stage("uplift", ("project", "loads", "standard", "laid", "built", "path"), _uplift),
    Stage("girders", ("project", "beams", "path"), made_beams),
    Stage("standing", ("project", "path"), as_made),
    Stage("floors", ("project", "loads", "laid", "path"), decked),
    Stage("hangers", ("project", "loads", "laid", "path", "floors"), hangers),
    Stage("fittings", ("project", "path"), fittings),
    Stage("framed", ("project", "runs", "laid", "built", "path"), frame),
    Stage("ledgers", ("project", "laid", "built", "framed"), held_ledgers),
    Stage("pressed", ("project", "works", "laid", "floors"), pressed),
    Stage("under", ("project", "works", "path", "pressed", "laid", "standing"), design_ground),
    Stage("checked", ("loads", "standard", "laid", "floors", "framed", "standing", "path"), check_all),
    Stage("joist blocks", ("project", "laid", "floors", "path", "checked", "standard"), joist_blocks),
)
"""In their order: each reads the project and what those before it gave."""
