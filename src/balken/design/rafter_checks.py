"""Rafters of roofs of planes as cases to be checked, of each of their plies, by what lies on them, stands on them and holds them."""

import math
from collections.abc import Callable, Container, Mapping, Sequence

from balken.catalog.sections import section
from balken.design.roof_openings import made_of, plied
from balken.framing.joist_lines import HANGER
from balken.framing.past_heads import head_seat, lies_on
from balken.framing.pieces import MadeOf
from balken.framing.purlins import notch_depth
from balken.framing.rafter_stations import THICK
from balken.framing.ridge_seats import seats_between
from balken.framing.roof_layout import RoofMember
from balken.framing.surface_members import AS_OTHERS, SurfaceMember
from balken.framing.surface_roofs import SurfacePlan, seat_at
from balken.framing.surface_ties import HIGHEST, tied_at
from balken.geometry.plane import distance
from balken.loads.area_loads import ceiling_cases
from balken.loads.cases import Cases
from balken.loads.knots import rafter_pair
from balken.loads.roof_feet import Pressed, Pressing, pressed_as_even
from balken.loads.roof_wind import Lifting, PartsWind, WindAt
from balken.model.records import Loads
from balken.standards.checks import MemberResult
from balken.standards.demands import MemberCase, with_wood
from balken.standards.standard import Standard
from balken.units.system import INCH
from balken.value import Value

NO_CEILING = Cases()


def hardest_of(
    members: Sequence[RoofMember],
    loads: dict[RoofMember, Cases],
    held: Mapping[RoofMember, float],
    notched: Container[RoofMember],
) -> list[RoofMember]:
    """Return of each slope the rafter that is bent most, and the longest one, of those from an eave and of those from a valley, those over
    purlins apart, and those that one is let into.
    """
    found: dict[tuple[float, bool, bool, bool, int], tuple[float, RoofMember]] = {}
    for m in members:
        for which, much in enumerate((m.theoretical, m.theoretical**2 * loads[m].all)):
            key = (round(m.slope, 3), m.at_eave, m in held, m in notched, which)
            if key not in found or much > found[key][0]:
                found[key] = (much, m)
    return list(dict.fromkeys(m for _, m in found.values()))


def rafter_case(
    plan: SurfacePlan,
    m: RoofMember,
    width: float,
    plate: float,
    q: Cases,
    size: str,
    standard: Standard,
    more: Pressing | None = None,
    plies: int = 1,
    ceiling: Cases = NO_CEILING,
    prop: float = 0.0,
    let_in: float = 0.0,
    ice: float = 0.0,
    wind: PartsWind | None = None,
) -> MemberCase:
    """Return the case of a rafter, of each of its plies; ``q``: what lies on it, kN/m2 of plan, ``more``: what stands on it;
    ``ceiling``: what a raised tie carries, kN/m2; ``prop``: how far in of its foot a purlin holds it, ``let_in``: how deep one is let into
    it, mm; ``ice``: what of that may lie on its overhang, kN/m2; ``wind``: on parts of the roof, None where it is not looked at.
    """
    roof, run, width = plan.roof, distance(m.start[:2], m.end[:2]), width / plies
    pitch, at_eave = plan.edges[m.edges[0]].pitch, m.at_eave
    seat = max(seat_at(roof, pitch, section(size).depth), 0.0) if at_eave else 0.0
    seat = plate if plan.tapered else seat
    over = max(m.over if at_eave else 0.0, m.past)  # past the wall at its head it is bent as a tail is
    whole = q.scaled((run + over) * width / 1000.0)
    leans = roof.ridge_made == "board" and m.head.kind == "ridge"
    pair = rafter_pair(run, run * pitch, over, whole, whole) if leans and over < run else None
    bears = whole if leans else q.scaled((run / 2.0 + over + over**2 / (2.0 * run)) * width / 1000.0)
    thrust = pair.thrust if pair is not None else Cases()
    at = min(tied_at(plan, m), HIGHEST) if pair is not None else 0.0
    if at > 0.0:
        # Half a strip of ceiling hangs on each rafter, where the tie passes it; moments about the ridge give what that pulls.
        hung = ceiling.scaled(run * width / 1000.0)
        even = pressed_as_even([Pressed(at * run, hung)], run)
        q = Cases(*(round(v, 6) for v in q.plus(even.scaled(1000.0 / width))))
        thrust, bears = thrust.plus(hung.scaled(at / pitch)), bears.plus(hung)
    if more is not None:
        thrust, bears = thrust.plus(more.thrust.scaled(1.0 / plies)), bears.plus(more.foot.scaled(1.0 / plies))
        q = Cases(*(round(v, 6) for v in q.plus(more.even.scaled(1000.0 / plies / width))))
    # Above a purlin it leans on its ridge as a shorter rafter would (IRC Table R802.5.2, note d, from memory).
    thrust = thrust.scaled((1.0 - prop / run) / (1.0 - at))
    bearing, deepest = min(seat, plate) or 1.5 * INCH, seat
    if m.head.kind == "wall" or (m.head.kind == "ridge" and roof.ridge_made == "beam"):
        bearing = min(bearing, HANGER)  # what its hanger's seat bears is checked as what comes to its foot
    if m.on_beam:  # what it bears on there is checked as what comes to its foot
        least, most = seats_between(plan, m.edges[0])
        bearing, deepest = min(bearing, least), max(seat, most)
    bearing, deepest = _on_wall(plan, m, size, bearing, deepest)
    notch = deepest * pitch / (1.0 + pitch**2) ** 0.5
    clear = max(run - THICK / 2.0 - (plate if at_eave else THICK / 2.0), 1.0)
    return MemberCase(
        "rafter", size, roof.rafters.species, roof.rafters.grade, round(clear, 3), round(width, 3), q,
        standard.rafter_limit(pitch), round(bearing, 3), pitch, round(over, 3), round(notch, 3),
        thrust=rounded(thrust), bears=rounded(bears) if at_eave else Cases(), tied_at=round(at, 6),
        propped=round(prop - plate, 3) if prop else 0.0, prop_breadth=THICK if prop else 0.0, let_in=let_in,
        ice=round(ice, 6) if over > 0.0 else 0.0, lifts=lifts_at(wind, pitch, clear, width, standard),
    )  # fmt: skip


def on_parts(height: float, at: WindAt | None, standard: Standard) -> PartsWind | None:
    """Return the wind on parts of a roof that lies so high in the mean, mm; None where that is not looked at."""
    return standard.parts_wind(at.loads, height - at.ground, at.least_side) if at is not None else None


def lifts_at(wind: PartsWind | None, pitch: float, clear: float, width: float, standard: Standard) -> Lifting:
    """Return what sucks at a rafter, by the area that one carries: as wide as a third of its span at least (ASCE 7-16, 26.2)."""
    long = clear * math.hypot(1.0, pitch)
    made = standard.rafter_wind(wind, pitch, long * max(width, long / 3.0)) if wind is not None else None
    return Lifting() if made is None else Lifting(*(round(v, 6) for v in made))


def _on_wall(plan: SurfacePlan, m: RoofMember, size: str, bearing: float, deepest: float) -> tuple[float, float]:
    """Return how long the shorter bearing of a rafter and how long its longest seat is, mm, that may lie on a wall with its head."""
    wall = lies_on(plan, m) if m.head.kind == "rake" else None
    if plan.tapered:  # level on its plates
        return min(bearing, 2.0 * plan.deep[wall] if wall is not None else bearing), 0.0
    if wall is None:
        return bearing, deepest
    at_head = head_seat(plan, wall, plan.edges[m.edges[0]].pitch, section(size).depth)
    return min(bearing, max(at_head, 1.0)), max(deepest, at_head)


class RafterChecks(Value, frozen=True):
    """Checks rafters by what lies on them (kN/m2) and stands on them, how wide a strip each carries, and where purlins hold them, mm."""

    plan: SurfacePlan
    plate: float
    made: Mapping[str, MadeOf]
    widths: Mapping[str, float]
    lies: Mapping[RoofMember, Cases]
    pressed: Mapping[str, Pressing]
    held: Mapping[RoofMember, float]
    let_in: Container[str]
    rafter: str
    loads: Loads
    standard: Standard
    wind: PartsWind | None = None

    def __call__(self, one: SurfaceMember, plies: int, size: str) -> MemberResult:
        """Check a rafter, each of its plies."""
        wood, m = self.made.get(one.key, AS_OTHERS), one.member
        notch = notch_depth(self.plan, self.rafter, wood.sized(size)) if one.key in self.let_in else 0.0
        case = rafter_case(
            self.plan, m, self.widths[one.key], self.plate, self.lies[m], wood.sized(size), self.standard,
            self.pressed.get(one.key), plies, ceiling_cases(self.loads), self.held.get(m, 0.0), notch,
            self.standard.ice_at_eaves(self.loads), self.wind,
        )  # fmt: skip
        return self.standard.check_member(with_wood(case, wood))


def checked_rafters(
    members: tuple[SurfaceMember, ...],
    check: Callable[[SurfaceMember, int, str], MemberResult],
    made: Mapping[str, MadeOf],
    doubled: Mapping[str, int],
    size: str,
) -> tuple[dict[str, MemberResult], dict[str, Cases], dict[str, str]]:
    """Return of rafters their checks (of a trimmer's each ply), with how much they lean, N, and the sections of those that are not as
    the layout, by name; ``doubled``: those that may be of plies, and of how many at least.
    """
    results, pushes, own = dict[str, MemberResult](), dict[str, Cases](), dict[str, str]()
    for one in members:
        if not one.wall:
            continue
        by_hand = made[one.key].size if one.key in made else ""
        tried = made_of(size, doubled[one.key]) if one.key in doubled and not by_hand else ((1, size),)
        for plies, each in tried:
            result = check(one, plies, each)
            if result.used <= 1.0:
                break
        if plied(plies, each) != size or by_hand:
            own[one.key] = by_hand or plied(plies, each)
        results[one.key] = result
        assert isinstance(result.case, MemberCase)
        pushes[one.key] = result.case.thrust.scaled(float(plies))
    return results, pushes, own


def more_lifted(m: RoofMember, more: Pressing | None, loads: Loads) -> float:
    """Return by how much wider a strip of its own roof would lift at a rafter's foot what does beside that: of headers and feet that
    stand on it, mm.
    """
    if more is None or loads.roof_live <= 0.0:
        return 0.0
    run = distance(*m.ends)
    own = run + m.over if m.head.kind == "ridge" and more.thrust.roof_live > 0.0 else run / 2.0 + m.over
    return more.foot.roof_live / (loads.roof_live * own) * 1000.0


def rounded(cases: Cases) -> Cases:
    return Cases(*(round(v, 3) for v in cases))
