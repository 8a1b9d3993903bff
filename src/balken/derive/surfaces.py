"""Roofs of planes laid and framed: those that others run onto are laid first, and framed last, when what stands on them is known."""

from typing import NamedTuple

import shapely
from msgspec.structs import replace

from balken.catalog.sections import JOIST_SIZES, section
from balken.design.dormers import DormerDesign, design_dormer
from balken.design.layouts import LayoutDesign
from balken.design.raftered_ends import FramedEnds, choose_ends, frame_ends
from balken.design.roof_trusses import TrussRoof, lay_trusses, on_carriers
from balken.design.roof_uplift import least_sides
from balken.design.surface_design import Chosen, SurfaceDesign, choose_surface, frame_surface
from balken.design.truss_demands import EVEN
from balken.framing.bands import WallLine
from balken.framing.dormers import DormerPlace
from balken.framing.joined_roofs import Above, Beneath, above, beneath, lower_first, run_under, runs_onto
from balken.framing.line_posts import BESIDE
from balken.framing.outlines import Outline
from balken.framing.raftered_ends import asked_rafters
from balken.framing.surface_roofs import SurfacePlan
from balken.framing.taller_parts import Taller, taller_parts
from balken.framing.truss_inside import inside_walls
from balken.framing.truss_parts import parts_of
from balken.loads.roof_feet import Foot
from balken.loads.roof_snow import RoofSnow
from balken.loads.roof_statics import Posts
from balken.loads.roof_wind import RoofWind, WindAt, open_below
from balken.loads.seats import UP
from balken.loads.stands import column_stands
from balken.loads.typed import points_of
from balken.memo import Memo
from balken.model.lookup import height, lowest_ground
from balken.model.records import Loads, Project, Roof
from balken.model.roof_edits import side_of
from balken.standards.known import STANDARDS

Lines = dict[str, WallLine]
Outlines = dict[str, Outline]


class LaidSurface(NamedTuple):
    """A roof of planes: its plan, what was chosen for its rafters, its members, or its trusses; None where there are none.

    Trusses that cannot be say why, and rafters stand in their place.  ``ends``: hip ends with rafters beside its trusses; those are its
    ``framing`` then.
    """

    plan: SurfacePlan
    design: LayoutDesign | None
    framing: SurfaceDesign | None
    snow: RoofSnow
    trusses: TrussRoof | None = None
    ends: FramedEnds | None = None


class Surfaces(NamedTuple):
    """All roofs of planes, and the dormers on them, by their ids."""

    roofs: dict[str, LaidSurface]
    dormers: dict[str, DormerDesign]


def lay_surfaces(memo: Memo, p: Project, loads: Loads, outlines: Outlines, lines: Lines) -> Surfaces:
    """Lay every roof of planes with its dormers and frame it."""
    roofs = {r.id: r for r in p.roofs if r.shape == "planes" and r.id in outlines}
    if not roofs:
        return Surfaces({}, {})
    bearings = {r: memo.keep(f"bearing {r}", height(roofs[r].bearing, p.levels)) for r in roofs}
    onto = runs_onto(tuple(roofs.values()), outlines, bearings)
    order, circle = lower_first(tuple(roofs), onto)
    chosen, bare = dict[str, Chosen](), dict[str, SurfacePlan]()
    for r in order:
        taller = beside_taller(memo, p, loads, outlines, roofs[r])
        below = () if r in circle else tuple(bare[on] for on in onto.get(r, ()))
        lower = [memo.step(f"beneath {r} {plan.roof.id}", beneath, plan) for plan in below]
        chosen[r] = _choose(memo, p, loads, outlines, lines, roofs[r], bearings[r], taller, lower)
        # What stands on a roof looks at its planes, not at its openings; as high as trusses carry it, where these can be.
        bare[r] = memo.keep(f"bare {r}", replace(chosen[r].plan, holes=(), trussed=_heel_known(memo, chosen[r].plan)))
    standard = STANDARDS[p.standard]
    dormers = {
        d.id: memo.step(
            f"dormer {d.id}",
            design_dormer,
            d,
            bare[d.roof],
            loads,
            p.steps,
            standard,
            wind_at(memo, p, outlines, d.roof),
        )
        for d in p.dormers
        if d.roof in chosen
    }
    made: dict[str, LaidSurface] = {}
    for r in reversed(order):
        upper = [u for u in roofs if r in onto.get(u, ()) and u not in circle]
        over = [memo.step(f"above {r} {u}", above, chosen[u].plan) for u in upper]
        feet = [foot for u in upper for foot in _brought(made[u]) if foot.roof == r]
        mine = [d for d in dormers.values() if d.place.dormer.roof == r and d.framing is not None]
        over += [d.over for d in mine]
        feet += [foot for d in mine for foot in d.feet]
        places = memo.keep(f"dormers of {r}", tuple(d.place for d in mine))
        trusses = None
        if roofs[r].framed == "trusses":
            upon = Upon(over, tuple(feet), bool(mine))
            (own, made_ends), trusses = _under_trusses(memo, p, loads, outlines, lines, chosen[r], upon)
            if trusses[1].problem and ((bare[r].trussed and over) or chosen[r].plan.trussed):
                return _with_rafters(memo, p, loads, outlines, lines, r, trusses[1])
            if not trusses[1].problem:
                framing = (
                    memo.step(f"ends on trusses {r}", on_carriers, made_ends, trusses[1])
                    if made_ends is not None
                    else None
                )
                made[r] = LaidSurface(trusses[0], own.design, framing, chosen[r].snow, trusses[1], made_ends)
                continue
        plan, framing = _frame(memo, p, loads, outlines, lines, chosen[r], bearings[r], over, tuple(feet), places)
        made[r] = LaidSurface(plan, chosen[r].design, framing, chosen[r].snow, trusses[1] if trusses else None)
    return Surfaces(made, dormers)


def _brought(upper: LaidSurface) -> tuple[Foot, ...]:
    """Return what a roof brings down on others."""
    rafters, trusses = upper.framing, upper.trusses
    return (*(rafters.carried.onto if rafters is not None else ()), *(trusses.onto if trusses is not None else ()))


def _heel_known(memo: Memo, plan: SurfacePlan) -> bool:
    """Whether a roof is to lie on trusses of a typed heel, so that it is known how high before they are designed."""
    if plan.roof.framed != "trusses" or plan.roof.trusses.heel is None:
        return False
    return not memo.step(f"parts {plan.roof.id}", parts_of, plan)[1]


def _with_rafters(
    memo: Memo, p: Project, loads: Loads, outlines: Outlines, lines: Lines, roof: str, why: TrussRoof
) -> Surfaces:
    """Lay every roof again, one on rafters whose trusses cannot be: what runs on over it lies at another height then."""
    roofs = tuple(replace(r, framed="rafters") if r.id == roof else r for r in p.roofs)
    made = lay_surfaces(memo, replace(p, roofs=roofs), loads, outlines, lines)
    return made._replace(roofs=made.roofs | {roof: made.roofs[roof]._replace(trusses=why)})


class Upon(NamedTuple):
    """What stands on a roof: roofs that run on over it, the feet of these, whether dormers do."""

    over: list[Above | None]
    feet: tuple[Foot, ...]
    dormers: bool


Ends = tuple[Chosen, FramedEnds | None]
"""A roof as its trusses are laid: as high as the rafters of its hip ends; those ends framed, None where it has none."""


def _under_trusses(
    memo: Memo, p: Project, loads: Loads, outlines: Outlines, lines: Lines, chosen: Chosen, upon: Upon
) -> tuple[Ends, tuple[SurfacePlan, TrussRoof]]:
    """Lay a roof's trusses, and hip ends with rafters beside them: where trusses as high as these lie do not work, with deeper ones where
    that is left open.
    """

    def lay(least: str) -> tuple[Ends, tuple[SurfacePlan, TrussRoof]]:
        ends = _ends(memo, p, loads, outlines, lines, chosen, least)
        return ends, _trussed(memo, p, loads, outlines, lines, *ends, upon, least)

    first = best = lay("")
    design = first[0][0].design
    if design is None or not design.size_auto:
        return first
    deeper = [size for size in JOIST_SIZES if section(size).depth > section(design.size).depth]
    for size in deeper:
        made, used = best[1][1], best[1][1].used
        if not made.problem and used <= 1.0 + EVEN:
            break
        tried = lay(size)
        if not tried[1][1].problem and (made.problem or tried[1][1].used < used):
            best = tried
    return best


def _ends(memo: Memo, p: Project, loads: Loads, outlines: Outlines, lines: Lines, chosen: Chosen, least: str) -> Ends:
    """Frame the hip ends of a roof under trusses that are to have rafters, of a section no less; return it with its trusses as high as these."""
    roof, standard = chosen.plan.roof.id, STANDARDS[p.standard]
    if not asked_rafters(chosen.plan):
        return replace(chosen, design=None), None
    walls = memo.keep(f"walls {roof}", walls_of(chosen.plan.roof, lines))
    found = memo.step(f"ends {roof} {least}", choose_ends, chosen, loads, walls, p.steps, standard, least)
    if found is None:
        return replace(chosen, design=None), None
    bearing = chosen.plan.bearing
    framed = memo.step(
        f"framed ends {roof} {least}",
        frame_ends,
        found,
        memo.keep(f"posts {roof}", _posts_under(p, outlines[roof], bearing)),
        memo.keep(f"edits {roof}", tuple(e for e in p.member_edits if e.owner == roof)),
        loads,
        memo.keep(f"wind on {roof}", _wind_on(p, outlines, chosen.plan)),
        walls,
        p.steps,
        standard,
        memo.keep("stock", p.stock_length),
    )
    return replace(chosen, plan=found.plan, design=found.design), framed


def _trussed(
    memo: Memo,
    p: Project,
    loads: Loads,
    outlines: Outlines,
    lines: Lines,
    chosen: Chosen,
    ends: FramedEnds | None,
    upon: Upon,
    named: str,
) -> tuple[SurfacePlan, TrussRoof]:
    """Lay a roof's trusses; ``ends``: its hip ends with rafters, ``named``: by which the step goes that lays them so."""
    if upon.dormers:
        return chosen.plan, TrussRoof(problem="dormers stand on it, which trusses are not designed for")
    roof = chosen.plan.roof.id
    plan = chosen.plan
    if upon.over and plan.roof.trusses.heel is None:
        return plan, TrussRoof(
            problem="other roofs run on over it, which are laid before its trusses are designed: type the height of its heels"
        )
    if upon.over:
        plan = replace(plan, trussed=True)
        uppers = memo.keep(f"over trusses {roof}", tuple(o for o in upon.over if o is not None))
        plan = memo.step(f"run under {roof}", run_under, plan, uppers)
    wind = memo.keep(f"wind on {roof}", _wind_on(p, outlines, chosen.plan))
    return memo.step(
        f"trusses {roof} {named}",
        lay_trusses,
        plan,
        chosen.snow,
        wind,
        loads,
        memo.keep("wind on gables", p.loads.wind),
        memo.keep("stock", p.stock_length),
        p.steps,
        STANDARDS[p.standard],
        memo.keep(f"feet on trusses {roof}", upon.feet),
        memo.keep(f"weights on trusses {roof}", points_of(tuple(x for x in p.truss_loads if x.roof == roof), p.grids)),
        memo.keep(f"edits {roof}", tuple(e for e in p.member_edits if e.owner == roof)),
        memo.keep(f"inside walls {roof}", inside_walls(plan.roof, plan.bearing, lines)),
        ends.on_trusses if ends is not None else (),
    )


def _wind_on(p: Project, outlines: Outlines, plan: SurfacePlan) -> RoofWind | None:
    """Return the wind that lifts a roof, by its mean height over the lowest ground; None where none is typed."""
    if p.loads.wind_speed <= 0.0 or plan.problem:
        return None
    at = _wind_at(p, outlines, plan.roof.id)
    return STANDARDS[p.standard].roof_wind(at.loads, plan.mean_height - at.ground, at.least_side)


def wind_at(memo: Memo, p: Project, outlines: Outlines, roof: str) -> WindAt | None:
    """Return where wind blows on a roof, None where no speed is typed."""
    return memo.keep(f"wind at {roof}", _wind_at(p, outlines, roof) if p.loads.wind_speed > 0.0 else None)


def _wind_at(p: Project, outlines: Outlines, roof: str) -> WindAt:
    """Return where wind blows on a roof: with nothing else of the loads, so that these may change."""
    roofs = [r.id for r in p.roofs if r.id in outlines]
    least = least_sides([outlines[r] for r in roofs])[roofs.index(roof)]
    beams, typed = {beam.id for beam in p.beams}, p.loads
    blows = Loads(wind_speed=typed.wind_speed, wind_exposure=typed.wind_exposure, wind_openings=typed.wind_openings)
    blows = open_below(blows, any(wall in beams for wall in outlines[roof].walls))
    return WindAt(blows, lowest_ground(p), least)


def _choose(
    memo: Memo,
    p: Project,
    loads: Loads,
    outlines: Outlines,
    lines: Lines,
    roof: Roof,
    bearing: float,
    taller: tuple[Taller, ...],
    below: list[Beneath | None],
) -> Chosen:
    openings = memo.keep(f"openings of {roof.id}", tuple(o for o in p.roof_openings if o.roof == roof.id))
    onto = memo.keep(f"onto {roof.id}", tuple((b.core, b.planes) for b in below if b is not None))
    return memo.step(
        f"chosen {roof.id}",
        choose_surface,
        roof,
        outlines[roof.id],
        bearing,
        memo.keep(f"walls {roof.id}", walls_of(roof, lines)),
        taller,
        openings,
        loads,
        p.steps,
        STANDARDS[p.standard],
        onto,
        wind_at(memo, p, outlines, roof.id),
    )


def _frame(
    memo: Memo,
    p: Project,
    loads: Loads,
    outlines: Outlines,
    lines: Lines,
    chosen: Chosen,
    bearing: float,
    over: list[Above | None],
    feet: tuple[Foot, ...],
    dormers: tuple[DormerPlace, ...],
) -> tuple[SurfacePlan, SurfaceDesign | None]:
    roof = chosen.plan.roof.id
    return memo.step(
        f"planes {roof}",
        frame_surface,
        chosen,
        memo.keep(f"over {roof}", tuple(o for o in over if o is not None)),
        memo.keep(f"feet on {roof}", feet),
        memo.keep(f"posts {roof}", _posts_under(p, outlines[roof], bearing)),
        memo.keep(f"edits {roof}", tuple(e for e in p.member_edits if e.owner == roof)),
        loads,
        memo.keep(f"walls {roof}", walls_of(chosen.plan.roof, lines)),
        p.steps,
        STANDARDS[p.standard],
        dormers,
        memo.keep("stock", p.stock_length),
    )


def beside_taller(memo: Memo, p: Project, loads: Loads, outlines: Outlines, roof: Roof) -> tuple[Taller, ...]:
    """Return the taller parts that a roof stands beside, where snow drifts against such."""
    if loads.snow_by == "ground":
        return ()
    others = tuple(
        (other, outlines[other.id], height(other.bearing, p.levels))
        for other in p.roofs
        if other.id != roof.id and other.id in outlines
    )
    beside = memo.keep(f"roofs beside {roof.id}", others)
    bearing = memo.keep(f"bears {roof.id}", height(roof.bearing, p.levels))
    return memo.step(f"taller beside {roof.id}", _taller, roof, outlines[roof.id], bearing, beside)


def _taller(
    roof: Roof, around: Outline, bearing: float, beside: tuple[tuple[Roof, Outline, float], ...]
) -> tuple[Taller, ...]:
    """Return the taller parts beside a roof, but for those that it runs on over."""
    found = taller_parts(around, bearing, beside)
    return tuple(part for part in found if side_of(roof, around.walls[part.side]).kind != "roof")


def _posts_under(p: Project, around: Outline, bearing: float) -> Posts:
    """Return the posts that reach up under a roof from below what it bears on, or from there."""
    inside = shapely.Polygon(around.core).buffer(BESIDE)
    return tuple(
        (s.id, s.at)
        for s in column_stands(p.columns, p.grids, p.levels)
        if s.foot < bearing + UP < s.head and inside.covers(shapely.Point(s.at))
    )


def walls_of(roof: Roof, lines: Lines) -> Lines:
    """Return the walls a roof reads: its own, and inside bearing walls that may carry its ties."""
    return {w: line for w, line in lines.items() if w in roof.walls or line.wall.role == "bearing"}
