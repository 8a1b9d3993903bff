"""Area loads laid on members: what joists, rafters, ties and edge strips hand to their bearings; weights."""

import itertools
import math
from collections.abc import Callable, Mapping

from balken.catalog.materials import weight
from balken.catalog.sections import section
from balken.framing.floors import FloorPlan, floor_area
from balken.framing.pieces import MemberLine, Piece
from balken.framing.roofs import RoofPlan
from balken.framing.surface_roofs import SurfacePlan, covered_areas
from balken.geometry.plane import Point
from balken.geometry.plane import area as area_of
from balken.loads.cases import Cases, total
from balken.loads.joist_statics import shares
from balken.loads.knots import rafter_pair
from balken.loads.roof_snow import RoofSnow, snowed
from balken.model.naming import piece_name
from balken.model.records import Floor, Loads
from balken.value import Value

NO_SNOW: Mapping[str, RoofSnow] = {}
TAKEN = "slab 8 in"
"""What a slab is taken as before its thickness is chosen."""


class Reaction(Value, frozen=True):
    """What one member (or strip) hands to one bearer: newtons by case, at a plan point.

    ``through``: what stands on the deck over it and brings this, "" for the layout's own load.
    """

    piece: str
    bearer: str
    at: Point
    force: Cases
    through: str = ""


def floor_cases(loads: Loads, floor: Floor) -> Cases:
    """Return a floor's area load by case, kN/m2: its own where it has one; snow, as much as on the ground, lies on one outdoors.

    A slab weighs what it does beside that; one whose thickness is not chosen yet is taken as 8 in.
    """
    dead = loads.floor_dead if floor.dead is None else floor.dead
    if floor.is_slab:
        dead += weight("concrete") * section(floor.joists.size or TAKEN).depth / 1000.0
    live = loads.floor_live if floor.live is None else floor.live
    return Cases(dead=dead, live=live, snow=loads.ground_snow if floor.outdoors else 0.0)


def roof_cases(loads: Loads, pitch: float, snow: float | None = None) -> Cases:
    """Return a roof's load by case per m2 of plan, kN/m2.

    Dead load lies on the slope and is brought to plan; where no ``snow`` is given that on the ground is taken, as the span
    tables of IRC R802.4.1 do.
    """
    lies = loads.ground_snow if snow is None else snow
    return Cases(dead=loads.roof_dead * (1.0 + pitch**2) ** 0.5, roof_live=loads.roof_live, snow=lies)


def ceiling_cases(loads: Loads) -> Cases:
    """Return the ceiling's area load by case, kN/m2."""
    return Cases(dead=loads.ceiling_dead, live=loads.attic_live)


def line_reactions(
    key: str, line: MemberLine, area_load: Cases, place: Callable[[float, float], Point]
) -> list[Reaction]:
    """Return what a joist or tie hands to all it lies on; ``place``: of (s, t) in plan."""
    areas = shares(line, [(low, high, (high - low) * width) for low, high, width in line.loaded])
    return [
        Reaction(key, support, place(centre, line.t), area_load.scaled(part / 1000.0))
        for (support, centre, _), part in zip(line.stops, areas, strict=True)
    ]


def floor_reactions(plan: FloorPlan, loads: Loads) -> tuple[Reaction, ...]:
    """Return what the joists and edge joists of a floor hand down; kN/m2 x mm2 / 1000 = N."""
    q = floor_cases(loads, plan.floor)
    found: list[Reaction] = []
    for bearer, at, area in plan.tributary:
        found.append(Reaction(piece_name(plan.floor.id, "slab"), bearer, at, q.scaled(area / 1000.0)))
    if found:
        return tuple(found)
    for line in plan.lines:
        found += line_reactions(piece_name(plan.floor.id, "joist", line.place), line, q, plan.frame.back)
    for strip in plan.edges:
        found.append(Reaction(piece_name(plan.floor.id, "rim"), strip.bearer, strip.at, q.scaled(strip.area / 1000.0)))
    return tuple(found)


def floor_beyond(plan: FloorPlan, loads: Loads) -> tuple[Reaction, ...]:
    """Return what comes to the bearings of joists that run on beyond their full load, when loads that come and go lie on some
    spans only: on a line, what each span by itself lifts there (superposition).
    """
    return _on_some_spans(plan, loads, lambda part: -min(part, 0.0))


def floor_short(plan: FloorPlan, loads: Loads) -> tuple[Reaction, ...]:
    """Return what of the full load is missing at the bearings of joists that run on, below zero, when only those spans are
    loaded that lift them there.
    """
    return _on_some_spans(plan, loads, lambda part: -max(part, 0.0))


def _on_some_spans(plan: FloorPlan, loads: Loads, counts: Callable[[float], float]) -> tuple[Reaction, ...]:
    q = floor_cases(loads, plan.floor)._replace(dead=0.0)
    found: list[Reaction] = []
    for line in () if plan.tributary else plan.lines:
        if line.simple:
            continue
        areas = [0.0] * len(line.stops)
        for low, high, width in _by_spans(line):
            for k, part in enumerate(shares(line, [(low, high, (high - low) * width)])):
                areas[k] += counts(part)
        name = piece_name(plan.floor.id, "joist", line.place)
        for (bearer, at, _), area in zip(line.stops, areas, strict=True):
            if bearer and abs(area) > 1.0 and any(q):
                found.append(Reaction(name, bearer, plan.frame.back(at, line.t), q.scaled(area / 1000.0)))
    return tuple(found)


def _by_spans(line: MemberLine) -> list[tuple[float, float, float]]:
    """Return the strips of floor a joist carries, cut where it bears."""
    cuts = [-math.inf, *(at for _, at, _ in line.stops), math.inf]
    return [
        (max(low, a), min(high, b), width)
        for low, high, width in line.loaded
        for a, b in itertools.pairwise(cuts)
        if min(high, b) - max(low, a) > 1e-6
    ]


def onto_headers(plan: FloorPlan, reactions: tuple[Reaction, ...]) -> tuple[tuple[Reaction, ...], tuple[Reaction, ...]]:
    """Return what a floor hands to its bearings, and what joists cut off hand to the headers of its openings."""
    headers = plan.headers
    if not headers:
        return reactions, ()
    inside = tuple(r for r in reactions if r.bearer in headers)
    return tuple(r for r in reactions if r.bearer not in headers), inside


def roof_reactions(plan: RoofPlan, loads: Loads) -> tuple[Reaction, ...]:
    """Return what rafters, ties and the ceiling beside the gables hand down.

    Rafter pairs are knots: each brings its load to its eaves, the thrust stays in the tie.
    """
    q, c, roof = roof_cases(loads, plan.roof.pitch), ceiling_cases(loads), plan.roof
    found: list[Reaction] = []
    rise = plan.half * roof.pitch
    for station in plan.stations:
        load = q.scaled((plan.half + roof.overhang) * station.width / 1000.0)
        pair = rafter_pair(plan.half, rise, roof.overhang, load, load)
        for side, (s, brought) in enumerate(((plan.low, pair.low), (plan.high, pair.high))):
            wall = plan.eave_at(side, station.t)
            inward = plan.plate / 2.0 if side == 0 else -plan.plate / 2.0
            found.append(
                Reaction(
                    piece_name(roof.id, "rafter", plan.rafter_place(station, side)),
                    wall,
                    plan.frame.back(s + inward, station.t),
                    brought,
                )
            )
    for tie in plan.ties:
        found += line_reactions(piece_name(roof.id, "tie", tie.place), tie, c, plan.frame.back)
    for parts, area, t in zip(plan.gables, plan.gable_strips, (plan.t_low, plan.t_high), strict=True):
        long = sum(part.high - part.low for part in parts)
        for part in parts:
            at, share = plan.frame.back((part.low + part.high) / 2.0, t), (part.high - part.low) / long
            found.append(Reaction(piece_name(roof.id, "ceiling"), part.wall, at, c.scaled(area * share / 1000.0)))
    return tuple(found)


def surface_loads(plans: tuple[SurfacePlan, ...], snow: Mapping[str, RoofSnow], loads: Loads) -> Cases:
    """Return area loads of roofs of planes times their areas, N: by the planes themselves, and by the outline; ``snow`` by roof.

    On what lies under another roof, or a wing's, there is neither snow nor live load.
    """
    found = [
        roof_cases(loads, face.pitch, snow[plan.roof.id].planes[face.edge].laid).scaled(face.plan_area / 1000.0)
        for plan in plans
        for face in plan.whole.faces
    ]
    for plan in plans:
        for face, size in covered_areas(plan):
            q = roof_cases(loads, face.pitch, snow[plan.roof.id].planes[face.edge].laid)
            found.append(Cases(roof_live=-q.roof_live, snow=-q.snow).scaled(size / 1000.0))
        for face in plan.under:
            q = roof_cases(loads, face.pitch, 0.0)
            found.append(Cases(dead=q.dead).scaled(face.plan_area / 1000.0))
    found += [
        ceiling_cases(loads).scaled(abs(area_of(plan.outline.core)) / 1000.0) for plan in plans if not plan.problem
    ]
    return total(found)


def thrust(plan: RoofPlan, loads: Loads, width: float | None = None) -> Cases:
    """Return the tension in one tie from its pair of rafters, N by case; the widest apart unless ``width`` is given.

    Never below zero: where the overhang outweighs the rest, nothing counts on the tie being pressed.
    """
    over = plan.roof.overhang
    if width is None:
        width = max((station.tied or station.width for station in plan.stations), default=0.0)
    load = roof_cases(loads, plan.roof.pitch).scaled((plan.half + over) * width / 1000.0)
    pair = rafter_pair(plan.half, plan.half * plan.roof.pitch, over, load, load)
    return pair.thrust if over < plan.half else Cases()


def applied_area_loads(
    floors: tuple[FloorPlan, ...], roofs: tuple[RoofPlan, ...], loads: Loads, snow: Mapping[str, RoofSnow] = NO_SNOW
) -> Cases:
    """Return area loads times areas, N: worked out from outlines, not from members, to check against; ``snow`` by gable roof."""
    found = [floor_cases(loads, plan.floor).scaled(floor_area(plan) / 1000.0) for plan in floors]
    for plan in roofs:
        along, across = plan.t_high - plan.t_low, plan.high - plan.low
        roof_plan_area = (across + 2.0 * plan.roof.overhang) * along
        own = snowed(loads, snow.get(plan.roof.id))
        found.append(roof_cases(own, plan.roof.pitch).scaled(roof_plan_area / 1000.0))
        found.append(ceiling_cases(loads).scaled(across * along / 1000.0))
    return total(found)


def own_weight(piece: Piece) -> Cases:
    """Return a piece's own weight, N."""
    return Cases(dead=weight(piece.material) * piece.volume * 1e-6)


def weigh(pieces: tuple[Piece, ...]) -> Cases:
    """Return the own weight of pieces together, N; the same, to the last figure, wherever they stand."""
    return Cases(dead=round(sum(own_weight(p).dead for p in pieces), 6))
