"""Roofs designed: rafters and ceiling ties laid, size and spacing chosen, every one checked."""

from collections.abc import Mapping

from msgspec.structs import replace

from balken.catalog.sections import JOIST_SIZES, TIE_SIZES, section
from balken.design.layouts import PLANNING_SPACING, LayoutDesign, design_layout
from balken.design.rafter_checks import lifts_at, on_parts
from balken.framing.bands import WallLine
from balken.framing.outlines import Outline
from balken.framing.pieces import NOTHING_EDITED, MadeOf
from balken.framing.roofs import RoofPlan, roof_plan
from balken.loads.area_loads import ceiling_cases, roof_cases, thrust
from balken.loads.cases import Cases
from balken.loads.roof_wind import PartsWind, WindAt
from balken.model.naming import piece_name
from balken.model.records import Loads, Roof
from balken.standards.checks import MemberResult
from balken.standards.demands import MemberCase, with_wood
from balken.standards.standard import Standard
from balken.units import Units
from balken.units.system import INCH


def rafter_case(
    plan: RoofPlan,
    width: float,
    loads: Loads,
    size: str,
    standard: Standard,
    ice: float = 0.0,
    wind: PartsWind | None = None,
) -> MemberCase:
    """Return the case of one rafter; ``ice``: what may lie on its overhang, kN/m2; ``wind``: on parts of the roof."""
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
        standard.rafter_limit(roof.pitch),
        round(shape.seat, 3),
        roof.pitch,
        roof.overhang,
        round(notch, 3),
        thrust=rounded(thrust(plan, loads, width)),
        # All of it goes to the eave: the ridge board carries none (loads/path).
        bears=rounded(roof_cases(loads, roof.pitch).scaled((plan.half + roof.overhang) * width / 1000.0)),
        ice=round(ice, 6) if roof.overhang > 0.0 else 0.0,
        lifts=lifts_at(wind, roof.pitch, plan.clear, width, standard),
    )


def rounded(cases: Cases) -> Cases:
    """Return cases to a thousandth of a newton, so that what only moves stays equal."""
    return Cases(*(round(v, 3) for v in cases))


def tie_case(
    plan: RoofPlan,
    clear: float,
    width: float,
    bearing: float,
    loads: Loads,
    size: str,
    tension: Cases,
    standard: Standard,
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
        standard.tie_limit,
        round(max(bearing, 1.0), 3),
        tension=tension,
    )


def design_roof(
    roof: Roof,
    closed: Outline,
    bearing: float,
    lines: dict[str, WallLine],
    loads: Loads,
    units: Units,
    standard: Standard,
    ice: float = 0.0,
    at: WindAt | None = None,
) -> tuple[RoofPlan, LayoutDesign, LayoutDesign]:
    """Lay a roof at a planning spacing, choose its rafters, lay them so, and choose the ties beside them; ``loads``: with the snow that
    lies on it, ``ice``: along its eaves, kN/m2; ``at``: where wind blows on it, None where that is not looked at.
    """
    trial = roof_plan(roof, closed, bearing, lines, roof.rafters.spacing or PLANNING_SPACING)
    wind = on_parts(trial.mean_height, at, standard)
    rafters = design_layout(
        roof.rafters,
        JOIST_SIZES,
        units,
        lambda size, spacing: (rafter_case(trial, spacing, loads, size, standard, ice, wind),),
        standard,
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
        lambda size, spacing: (tie_case(plan, plan.tie_clear or 1.0, spacing, least, loads, size, tension, standard),),
        standard,
    )
    return plan, rafters, ties


def check_roof(
    plan: RoofPlan,
    sizes: tuple[str, str],
    loads: Loads,
    standard: Standard,
    made: Mapping[str, MadeOf] = NOTHING_EDITED,
    ice: float = 0.0,
    at: WindAt | None = None,
) -> dict[str, MemberResult]:
    """Check every rafter and tie with its own span, width and bearing; those alike once.

    ``made``: what single ones are made of that are not as the layout, by name; ``ice``: along eaves, kN/m2; ``at``: where wind blows on it.
    """
    wind = on_parts(plan.mean_height, at, standard)
    found: dict[str, MemberResult] = {}
    by_width: dict[float, MemberResult] = {}
    for station in plan.stations:
        width = round(station.width, 3)
        if width not in by_width:
            by_width[width] = standard.check_member(rafter_case(plan, width, loads, sizes[0], standard, ice, wind))
        for side in (0, 1):
            name = piece_name(plan.roof.id, "rafter", plan.rafter_place(station, side))
            own = made.get(name)
            found[name] = (
                by_width[width]
                if own is None
                else standard.check_member(
                    with_wood(rafter_case(plan, width, loads, own.sized(sizes[0]), standard, ice, wind), own)
                )
            )
    tension = thrust(plan, loads)
    known: dict[tuple[float, float, float], MemberResult] = {}
    for tie in plan.ties:
        alike = round(max(tie.clear, 1.0), 3), round(tie.width, 3), round(min(tie.bearings), 3)
        if alike not in known:
            known[alike] = standard.check_member(tie_case(plan, *alike, loads, sizes[1], tension, standard))
        name = piece_name(plan.roof.id, "tie", tie.place)
        found[name] = known[alike]
        if name in made:
            case = tie_case(plan, *alike, loads, made[name].sized(sizes[1]), tension, standard)
            found[name] = standard.check_member(with_wood(case, made[name]))
    return found
