"""The foundation walls of a project that stand against earth: what presses on each, and its design."""

import shapely

from balken.framing.floors import FloorPlan
from balken.framing.foundations import FoundationRun
from balken.framing.ground import Ground
from balken.framing.slabs import SlabPlan
from balken.loads.along import Diagram
from balken.loads.cases import Cases
from balken.model.kinds.foundation import NO_SILL
from balken.model.records import Concrete, Masonry, Soil
from balken.remembered import remembered, together
from balken.standards.earth_pressure import forces, pressing_on
from balken.standards.ground import EarthCase, EarthWall, Sideways
from balken.standards.standard import Standard
from balken.value import Value

SHALLOW = 300.0
"""Earth that stands less than this higher outside than inside is not looked at, mm."""


class Against(Value, frozen=True):
    """How one foundation wall stands against earth (mm): fill above its base, height, what holds it.

    ``below``: from its base down to the top of the footing.
    """

    fill: float
    span: float
    held: bool
    slab: bool
    below: float
    thickness: float
    meant_held: bool

    @property
    def waiting(self) -> bool:
        """Whether it is meant to be held by a floor that is not there yet."""
        return self.meant_held and not self.held


DEEPEST_FLOOR = 700.0
"""Sill plate, joists and deck together are no deeper: a floor higher over a wall's top does not hold it, mm."""


def floors_over(
    runs: tuple[FoundationRun, ...], floors: tuple[FloorPlan, ...], heights: dict[str, float]
) -> dict[str, bool]:
    """Return for each run whether floors at its head hold it all along; ``heights``: of the decks' tops by floor, mm.

    The floor of a storey above stands within the same walls; it holds nothing down here.  Nor does one that lies on the
    side of the earth.
    """
    return {
        run.id: _held_by(run, together(*(plan for plan in floors if _at_head(run, plan, heights[plan.floor.id]))))
        for run in runs
    }


def _at_head(run: FoundationRun, plan: FloorPlan, height: float) -> bool:
    """Tell whether a floor lies on a run's wall or ends at it, right over its head."""
    meets = run.id in plan.bears_on or run.wall in plan.outline.walls
    return meets and 0.0 < height - run.band.top <= DEEPEST_FLOOR


@remembered(2_000)
def _held_by(run: FoundationRun, plans: tuple[FloorPlan, ...]) -> bool:
    """Tell whether there is floor inside all along a run's wall; near its ends other walls stand in the way."""
    low, high = run.span
    inner = run.faces[1] + INSIDE
    points = [run.band.at(low + part * (high - low), inner) for part in PARTS]
    shapes = [shapely.Polygon(plan.outline.core).buffer(1.0) for plan in plans]
    return bool(shapes) and all(any(shape.covers(shapely.Point(p)) for shape in shapes) for p in points)


INSIDE = 50.0
"""How far inside of a wall floor is looked for, mm."""
PARTS = (0.2, 0.35, 0.5, 0.65, 0.8)


def pushed_along(
    runs: tuple[FoundationRun, ...], plan: FloorPlan, height: float, against: dict[str, Against]
) -> tuple[tuple[str, float], ...]:
    """Return the walls whose push a floor takes from the side, its joists running along them: (wall, bolt spacing)."""
    if plan.floor.is_slab:  # it is stiff in its plane, and cast against them
        return ()
    return tuple(
        (run.wall, run.foundation.bolt_spacing)
        for run in runs
        if run.id in against
        and against[run.id].held
        and run.id not in plan.bears_on
        and run.wall in plan.outline.walls
        and _at_head(run, plan, height)
    )


def against_earth(
    runs: tuple[FoundationRun, ...], slabs: tuple[SlabPlan, ...], ground: Ground | None, held: dict[str, bool]
) -> dict[str, Against]:
    """Return by id the runs with clearly more earth outside than inside."""
    found: dict[str, Against] = {}
    if ground is None:
        return found
    for run in runs:
        if run.band.outside and run.foundation.kind != "thickened edge":
            made = _of_run(run, slabs, ground, held[run.id])
            if made is not None:
                found[run.id] = made
    return found


@remembered(5_000)
def _of_run(run: FoundationRun, slabs: tuple[SlabPlan, ...], ground: Ground, held: bool) -> Against | None:
    """Return how the stretch of a run stands that has most earth against it, None where it is hardly any."""
    f, slab_tops = run.foundation, [p.top for p in slabs if run.wall in p.slab.walls and p.top < run.band.top]
    thickness = run.band.layers[run.band.core[0]][1] - run.band.layers[run.band.core[0]][0]
    worst: Against | None = None
    for s in run.segments:
        foot = run.band.bottom - s.drop
        inside = [top for top in slab_tops if top >= foot]
        if not inside and not held and f.kind != "basement" and f.inside_ground is None:
            continue  # neither slab nor floor, and nothing said: there is as much earth inside as outside
        face = run.faces[0]
        outside = max(z for _, z in ground.profile(run.band.at(s.low, face), run.band.at(s.high, face), 6))
        base = max([foot, *inside])
        if f.inside_ground is not None and not inside:
            base = max(foot, outside - f.inside_ground)
        fill, span = min(outside, run.band.top) - base, run.band.top - base
        if fill < SHALLOW or span < SHALLOW or (worst is not None and fill <= worst.fill):
            continue
        worst = Against(
            round(fill, 1), round(span, 1), held, bool(inside), round(base - foot, 1), round(thickness, 3),
            f.kind == "basement",
        )  # fmt: skip
    return worst


def sideways_of(against: Against | None, soil: Soil, light: float) -> Sideways:
    """Return what a wall brings to its footing: a free one its shear and moment, a held one nothing.

    One that waits for its floor brings nothing yet either: a finding says that it does not stand.
    """
    if against is None or against.held or against.waiting:
        return Sideways()
    f = forces(pressing_on(soil, min(against.fill, against.span), against.span, False), False, 0.0)
    # kN/m are N/mm; kN m/m times 1000 are N mm/mm.
    moment = f.moment * 1000.0 + f.base * against.below
    return Sideways(round(f.base, 4), round(moment, 2), friction=soil.base_friction, light=round(light, 3))


def design_earth_wall(
    run: FoundationRun,
    against: Against,
    diagram: Diagram,
    soil: Soil,
    concrete: Concrete,
    size: tuple[float, float],
    masonry: Masonry,
    standard: Standard,
) -> EarthWall:
    """Design one foundation wall; ``size``: width and thickness of its footing, mm."""
    line, _ = diagram.peak(500.0, standard.combinations)
    case = EarthCase(
        against.thickness,
        against.fill,
        against.span,
        against.held,
        against.slab,
        Cases(*(round(c, 2) for c in line)),
        round(lightest(diagram), 2),
        size,
        run.foundation.made_of,
        against.below,
        0.0 if run.foundation.sill_size == NO_SILL else run.foundation.bolt_spacing,
    )
    return standard.design_earth_wall(run.id, case, soil, concrete, masonry, against.waiting)


def lightest(diagram: Diagram) -> float:
    """Return the least dead load along a wall, N/mm."""
    return float(diagram.loads[:, 0].min()) / diagram.step
