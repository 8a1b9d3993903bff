"""Floors designed: joists laid to learn their spans, size and spacing chosen, every joist checked."""

from collections.abc import Callable, Mapping

from msgspec.structs import replace

from balken.catalog.joists import TRIED
from balken.catalog.sections import section
from balken.design.layouts import PLANNING_SPACING, Case, LayoutDesign, Way, design_layout
from balken.design.running_joists import can_run, running_case
from balken.framing.floor_openings import Corners
from balken.framing.floors import FloorPlan, floor_plan
from balken.framing.frames import edge_angle
from balken.framing.outlines import Outline
from balken.framing.pieces import NOTHING_EDITED, Bearer, MadeOf, MemberLine
from balken.loads.area_loads import floor_cases
from balken.model.naming import piece_name
from balken.model.records import Floor, Loads
from balken.standards.checks import MemberResult
from balken.standards.demands import GirderCase, MemberCase, with_wood
from balken.standards.standard import Standard
from balken.units import Units
from balken.units.system import FOOT, INCH


def joist_case(
    floor: Floor, clear: float, width: float, bearing: float, loads: Loads, size: str, standard: Standard
) -> MemberCase:
    """Return the case of one floor joist."""
    return MemberCase(
        "joist",
        size,
        floor.joists.species,
        floor.joists.grade,
        round(clear, 3),
        round(width, 3),
        floor_cases(loads, floor),
        standard.joist_limit,
        round(max(bearing, 1.0), 3),
        outdoors=floor.outdoors,
    )


def design_floor(
    floor: Floor,
    closed: Outline,
    level: float,
    bearers: tuple[Bearer, ...],
    loads: Loads,
    units: Units,
    standard: Standard,
    openings: tuple[Corners, ...] = (),
    stock: float = 20.0 * FOOT,
    own: tuple[str, ...] = (),
) -> tuple[FloorPlan, LayoutDesign]:
    """Lay a floor's joists at a planning spacing, choose their size and spacing, and lay them so.

    ``own``: I-joists of the project's list, among which they are chosen.  Where the way with the least timber is asked for both are laid, and that is taken in which joists all bear, work, and
    are the least in volume.
    """
    given = (floor, closed, level, bearers, loads, units, standard, openings, stock, own)
    if floor.direction is not None or floor.way != "least timber":
        return _designed(*given)
    base = edge_angle(closed.core)
    made = [_designed(*given, angle) for angle in (base, base + 90.0)]
    ways = tuple(
        Way(plan.frame.angle % 180.0, _timber(plan, design), design.works and not plan.snags) for plan, design in made
    )
    best = min((0, 1), key=lambda i: (not ways[i].works, ways[i].volume))
    plan, design = made[best]
    return plan, replace(design, ways=(ways[best], ways[1 - best]))


def _timber(plan: FloorPlan, design: LayoutDesign) -> float:
    """Return the volume of a floor's joists, mm3."""
    return section(design.size).area * sum(line.high - line.low for line in plan.lines)


def _designed(
    floor: Floor,
    closed: Outline,
    level: float,
    bearers: tuple[Bearer, ...],
    loads: Loads,
    units: Units,
    standard: Standard,
    openings: tuple[Corners, ...],
    stock: float,
    own: tuple[str, ...],
    turned: float | None = None,
) -> tuple[FloorPlan, LayoutDesign]:
    """Lay and design the joists, one way where that is told."""
    trial = floor_plan(floor, closed, level, bearers, floor.joists.spacing or PLANNING_SPACING, openings, stock, turned)
    bearing = min(trial.least_bearing, 3.0 * INCH) or INCH
    running = _kinds(trial)

    def simple(size: str, spacing: float) -> MemberCase:
        return joist_case(floor, _simple_clear(trial) or 1.0, spacing, bearing, loads, size, standard)

    def runs(line: MemberLine) -> Callable[[str, float], GirderCase]:
        return lambda size, spacing: running_case(floor, line, spacing, loads, size, standard)

    makers: list[Callable[[str, float], Case]]
    makers = [*([simple] if _simple_clear(trial) or not running else []), *(runs(line) for line in running)]
    tried = own if own and floor.joists.made_of == "I-joist" else TRIED[floor.joists.made_of]
    design = design_layout(
        floor.joists, tried, units, lambda size, spacing: [make(size, spacing) for make in makers], standard
    )
    if abs(design.spacing - trial.spacing) < 1e-6:
        return trial, design
    return floor_plan(floor, closed, level, bearers, design.spacing, openings, stock, turned), design


def _simple_clear(plan: FloorPlan) -> float:
    """Return the greatest clear span of joists that do not run on, 0 where there are none."""
    return max((line.clear for line in plan.lines if not can_run(line)), default=0.0)


def _kinds(plan: FloorPlan) -> list[MemberLine]:
    """Return the joists that run on, one of those alike."""
    found: dict[tuple[float, ...], MemberLine] = {}
    for line in plan.lines:
        if can_run(line):
            marks = (line.low, line.high, *(x for _, at, bearing in line.stops for x in (at, bearing)))
            found.setdefault(tuple(round(x - line.low, 1) for x in marks), line)
    return list(found.values())


def check_joists(
    plan: FloorPlan, size: str, loads: Loads, standard: Standard, made: Mapping[str, MadeOf] = NOTHING_EDITED
) -> dict[str, MemberResult]:
    """Check every joist with its own span, width and bearing; those alike once.

    ``made``: what single joists are made of that are not as the layout, by name.
    """
    found: dict[str, MemberResult] = {}
    known: dict[tuple[float, float, float], MemberResult] = {}
    for line in plan.lines:
        name = piece_name(plan.floor.id, "joist", line.place)
        bearing = min([b for b, s in zip(line.bearings, line.supports, strict=True) if s], default=1.0)
        # By the layout's spacing at least; what a hand edit gave it or took from it counts as it is.
        width = line.width if line.edited else max(line.width, plan.spacing)
        alike = round(max(line.clear, 1.0), 3), round(width, 3), round(bearing, 3)
        if can_run(line):
            own = made.get(name)
            found[name] = standard.check_running(
                running_case(plan.floor, line, plan.spacing, loads, size, standard, own)
            )
            continue
        if name in made:
            case = joist_case(plan.floor, *alike, loads, made[name].sized(size), standard)
            found[name] = standard.check_member(with_wood(case, made[name]))
            continue
        if alike not in known:
            known[alike] = standard.check_member(joist_case(plan.floor, *alike, loads, size, standard))
        found[name] = known[alike]
    return found
