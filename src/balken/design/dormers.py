"""Dormers designed: their roof as a roof of planes that runs on onto the one below, the header over their window, what all of it
presses on the rafters below.
"""

from collections.abc import Iterator

from balken.design.layouts import LayoutDesign
from balken.design.roof_openings import FLAT, SAGS, SEAT
from balken.design.surface_design import SurfaceDesign, choose_surface, frame_surface
from balken.framing.dormer_walls import DormerWalls, dormer_walls, window_of
from balken.framing.dormers import FRONT, DormerPlace, in_plan, place_dormer, sized, wall_name
from balken.framing.gablets import UNMET, gablet_walls, place_gablet
from balken.framing.joined_roofs import Above, above, beneath
from balken.framing.roof_openings import fits_in
from balken.framing.surface_roofs import SurfacePlan
from balken.loads.cases import Cases, total
from balken.loads.roof_feet import Foot
from balken.loads.roof_snow import RoofSnow
from balken.loads.roof_wind import WindAt
from balken.model.records import Dormer, Loads
from balken.standards.checks import MemberResult
from balken.standards.demands import GirderCase
from balken.standards.standard import Standard
from balken.units import Units
from balken.value import Value

NO_LOAD = Cases()
OUTSIDE = "it does not stand within its plane: it is too high for it, or a hip, valley, ridge or edge runs through it or close by"
TOO_HIGH = "it does not die into the roof below its ridge: lower its plates, make its roof flatter or narrower, or move it down the slope"
HEADERS = ("2-2x4", "2-2x6", "2-2x8", "2-2x10")


class DormerDesign(Value, frozen=True):
    """A dormer: where it stands; its roof, its walls, the header over its window with its check; what presses on the roof below, and
    how much of that its walls weigh, N.  ``problem``: why there is none.
    """

    place: DormerPlace
    problem: str = ""
    plan: SurfacePlan | None = None
    design: LayoutDesign | None = None
    framing: SurfaceDesign | None = None
    snow: RoofSnow | None = None
    over: Above | None = None
    walls: DormerWalls | None = None
    header: str = ""
    result: MemberResult | None = None
    feet: tuple[Foot, ...] = ()
    weight: Cases = NO_LOAD


def design_dormer(
    dormer: Dormer, host: SurfacePlan, loads: Loads, units: Units, standard: Standard, at: WindAt | None = None
) -> DormerDesign:
    """Design a dormer on a roof of planes; ``at``: where wind blows on that, None where it is not looked at."""
    gablet = dormer.shape == "gablet"
    put = place_gablet if gablet else place_dormer
    place = put(dormer, host)
    below = beneath(host)
    if place.problem or place.roof is None or place.outline is None or below is None:
        return DormerDesign(place, place.problem or "the roof it stands on cannot be made")
    if place.hole is not None and fits_in(place.hole, host.surface, host.outline.core, ()).problem:
        return DormerDesign(place, OUTSIDE)
    onto = ((below.core, below.planes),)
    auto = dormer.rafters.size is None
    chosen = choose_surface(
        place.roof,
        place.outline,
        place.bearing,
        {},
        (),
        (),
        loads,
        units,
        standard,
        onto,
        at,
        place.thick,
        size_alone=auto,
    )
    design = chosen.design
    if design is not None and auto:
        # Its planes lie by the depth of its rafters; so does where its cheeks die into the roof.
        place = put(sized(dormer, design.size), host)
        if place.problem or place.roof is None or place.outline is None:
            return DormerDesign(place, place.problem)
        chosen = choose_surface(
            place.roof, place.outline, place.bearing, {}, (), (), loads, units, standard, onto, at, place.thick
        )
    plan, framing = frame_surface(chosen, (), (), (), (), loads, {}, units, standard)
    if plan.problem:
        return DormerDesign(place, UNMET if gablet else TOO_HIGH, plan)
    if framing is None:
        return DormerDesign(place, "its planes are too small for any rafters", plan)
    header, result = (HEADERS[0], None) if gablet else _header(place, host, plan, framing, standard)
    walls = gablet_walls(place, host, plan) if gablet else dormer_walls(place, host, plan, header)
    weighs = tuple(_weights(place, host, walls))
    feet = (*_feet(dormer.roof, framing), *weighs)
    return DormerDesign(
        place, walls.problem, plan, design, framing, chosen.snow, above(plan), walls, header, result, feet,
        total((Cases(), *(foot.force for foot in weighs))),
    )  # fmt: skip


def _feet(host: str, framing: SurfaceDesign) -> Iterator[Foot]:
    """Yield what a dormer's roof and ceiling bring to its walls and, by its jacks, to the roof below."""
    for r in (*framing.walls, *framing.carried.settled.points):
        yield Foot(host, r.at, r.force)
    for foot in framing.carried.onto:
        yield Foot(host, foot.at, foot.force)


def _weights(place: DormerPlace, host: SurfacePlan, walls: DormerWalls) -> Iterator[Foot]:
    """Yield what its walls weigh, stretch by stretch."""
    for wall in walls.walls:
        for s, t, size in wall.parts:
            force = Cases(dead=place.dormer.weight * size / 1000.0)
            yield Foot(place.dormer.roof, in_plan(host, place.edge, s, t), force)


def _header(
    place: DormerPlace, host: SurfacePlan, plan: SurfacePlan, framing: SurfaceDesign, standard: Standard
) -> tuple[str, MemberResult | None]:
    """Choose the header over the window by what comes to the face along it, the wall over it with it; none where there is no window."""
    d = place.dormer
    if d.window_width <= 0.0:
        return HEADERS[0], None
    front = wall_name(d.id, FRONT)
    comes = total((Cases(), *(r.force for r in framing.walls if r.bearer == front))).scaled(1.0 / d.width)
    gable = d.pitch * d.width / 2.0 if d.shape == "gable" else 0.0
    wall = Cases(dead=d.weight * gable / 1000.0)
    line = Cases(*(round(v, 6) for v in comes.plus(wall)))
    span = round(d.window_width + SEAT, 3)
    size, result = HEADERS[0], None
    for size in HEADERS:
        if window_of(place, host, plan, size)[0] is None and result is not None:
            break  # a deeper one finds no room
        case = GirderCase(
            "beam", size, d.rafters.species, d.rafters.grade, span, (0.0, span), (SEAT, SEAT), ((0.0, span, line, line),), (), FLAT,
            False, False, *SAGS,
        )  # fmt: skip
        result = standard.check_girder(case).result
        if result.used <= 1.0:
            break
    return size, result
