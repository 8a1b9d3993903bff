"""Lookouts of overhangs over gables: their section and spacing chosen, what they bring to the gable's wall and lift at their inner ends.

Each is a beam from the rafter inside over the end rafter to the edge of the deck.  Between both the deck spans from rafter to rafter, so
that nothing there holds a lookout down but its nails: what lies on the overhang comes to the gable's wall, and more by the lever.
"""

from collections.abc import Sequence

import numpy as np

from balken.catalog.sections import section
from balken.catalog.straps import MADE_UP
from balken.design.load_duration import normal_duration
from balken.framing.bands import WallLine
from balken.framing.gable_ladders import Rake
from balken.framing.lookouts import LEFT, Bin, LookoutRow, carried, lookout_name, lookout_row, reaching
from balken.framing.rafter_stations import THICK
from balken.framing.surface_members import SurfaceMember
from balken.framing.surface_roofs import SurfacePlan, eave, surface_gables
from balken.geometry.plane import Point, add, chords, dot, sub
from balken.geometry.roof_surface import RoofFace
from balken.loads.area_loads import Reaction, roof_cases
from balken.loads.beam_law import NONE_MORE
from balken.loads.cases import Cases
from balken.loads.roof_snow import RoofSnow, beside
from balken.loads.roof_wind import RoofWind
from balken.model.naming import piece_name
from balken.model.records import Loads
from balken.standards.checks import GirderResult, MemberResult
from balken.standards.demands import GirderCase, HeelNails, Limit
from balken.standards.standard import Standard
from balken.units.system import INCH
from balken.value import Value

TRIED = tuple(
    (size, apart * INCH)
    for size, apart in (
        ("2x4", 24), ("2x4", 16), ("2x6", 24), ("2x4", 12), ("2x6", 16), ("2x8", 24), ("2x6", 12), ("2x8", 16), ("2x8", 12),
    )
)  # fmt: skip
"""Sections and spacings up the slope, by how much wood they take."""
HALF = 0.5
"""Of the snow that lies where it does no harm while all lies beyond the gable (ASCE 7-16, 7.5); of roof live load there lies none."""
SEAT = 1.5 * INCH
PLACES = 9
"""Drifts are looked for at so many places across and up an overhang."""
MOST, ALL_LOAD = Limit(180.0, "IRC R301.7"), Limit(120.0, "NDS 3.5.2")
NO_WALL = "no wall below runs up to its end rafter"
NO_RAFTERS = "no two rafters stand beside it from eave to ridge"
SHALLOW = "its end rafter is too shallow to let lookouts in: deeper rafters"
LIFTED = "they would lift the rafter they run back to, and no tie of the list holds that down: rafters farther apart, or less overhang"
TOO_MUCH = "no lookouts up to 2x8 @ 12 in hold it, or their nails find no room: less overhang"


class TailBoard(Value, frozen=True):
    """The tail over a frame of trusses: its check; what lifts its upper end, N, what ties that down ("": nothing lifts it)."""

    result: MemberResult
    lifts: float
    tie: str


class Lookouts(Value, frozen=True):
    """Lookouts of a row: how far up the slope they stand apart, mm; their check, how they are nailed to the inner rafter; what each
    carries of the deck.  ``lifted``: what they lift that rafter by, at its foot, more than lies on it, N; ``tie``: what holds that (under
    trusses nothing: what hangs on their bottom chords does);
    ``tail``: of those over a frame of trusses that of its tail.
    """

    row: LookoutRow
    apart: float
    result: MemberResult
    nails: HeelNails
    bins: tuple[Bin, ...]
    lifted: float = 0.0
    tie: str = ""
    tail: TailBoard | None = None


class GableLookouts(Value, frozen=True):
    """The lookouts of a roof; ``problems``: gables whose overhang has none, by their numbers, and why; ``reactions``: what comes to gable walls
    for it, and what less to those under the eaves; ``beyond``: how much of that the walls under the eaves carry after all where what comes
    and goes lies inside alone.
    """

    rows: tuple[Lookouts, ...] = ()
    problems: tuple[tuple[int, str], ...] = ()
    reactions: tuple[Reaction, ...] = ()
    results: dict[str, MemberResult] = {}  # noqa: RUF012 (never written on)
    beyond: tuple[Reaction, ...] = ()

    @property
    def instead(self) -> frozenset[tuple[int, int]]:
        """The edges and gables where they take the place of a ladder's blocks."""
        return frozenset((made.row.edge, made.row.gable) for made in self.rows)


def gable_lookouts(
    plan: SurfacePlan,
    members: Sequence[SurfaceMember],
    boards: tuple[str, str],
    loads: Loads,
    snow: RoofSnow,
    lines: dict[str, WallLine],
    standard: Standard,
) -> GableLookouts:
    """Return lookouts where overhangs over gables reach too far for a ladder; ``boards``: the sections of the roof's rafters and of their
    ceiling ties ("" where it has none).
    """
    far = reaching(plan)
    if not far:
        return GableLookouts()
    tops, _ = surface_gables(plan, lines)
    rows, problems = list[Lookouts](), dict[int, str]()
    for rake in far:
        why = "" if plan.outline.walls[rake.gable] in tops else NO_WALL
        made = None if why else _chosen(plan, rake, members, boards, loads, snow, standard)
        if isinstance(made, Lookouts):
            rows.append(made)
        else:
            problems[rake.gable] = made or why
    # Both halves of a gable have them, or none.
    rows = [made for made in rows if made.row.gable not in problems]
    brought = [_reactions(plan, made, loads, snow) for made in rows]
    return GableLookouts(
        tuple(rows),
        tuple(problems.items()),
        tuple(r for found, _ in brought for r in found),
        {lookout_name(plan.roof.id, made.row, k): made.result for made in rows for k in range(len(made.row.places))},
        tuple(r for _, beyond in brought for r in beyond),
    )


def _chosen(
    plan: SurfacePlan,
    rake: Rake,
    members: Sequence[SurfaceMember],
    boards: tuple[str, str],
    loads: Loads,
    snow: RoofSnow,
    standard: Standard,
) -> Lookouts | str:
    """Return the first lookouts that work, or why none do."""
    rafter, tie_size = boards
    q, why = laid_most(plan, rake, loads, snow), SHALLOW
    for size, apart in TRIED:
        if section(size).depth > section(rafter).depth - LEFT:
            continue
        row = lookout_row(plan, rake, members, size, apart, tie_size)
        if row is None:
            return NO_RAFTERS
        bins = tuple(carried(plan, row))
        lifted = lifted_by(plan, row, bins, q)
        tie = next((tie.name for tie in MADE_UP if tie.up >= lifted), "") if lifted > 0.0 else ""
        if lifted > 0.0 and not tie:
            return LIFTED
        made, nails = held(plan, row, bins, q, plan.roof.rafters.species, standard)
        if made.used <= 1.0 and nails.fits:
            return Lookouts(row, apart, made.result, nails, bins, lifted, tie)
        why = TOO_MUCH
    return why


def held(
    plan: SurfacePlan, row: LookoutRow, bins: tuple[Bin, ...], q: Cases, inside: str, standard: Standard
) -> tuple[GirderResult, HeelNails]:
    """Return the checks of the lookout of a row that carries most, and its nails through what it runs back to (``inside``: its species)."""
    made = checked(plan, row, q.scaled(max(b.wide for b in bins) / 1000.0), standard)
    lifts = normal_duration(q.scaled(max(b.area for b in bins) * row.lever / 1000.0), NONE_MORE, standard)[0]
    species = (plan.roof.rafters.species, inside)
    return made, standard.end_nails(species, THICK, section(row.size).depth, lifts)


def laid_most(plan: SurfacePlan, rake: Rake, loads: Loads, snow: RoofSnow) -> Cases:
    """Return the most that lies on an overhang over a gable: with snow that slides or drifts there, kN/m2."""
    lies = snow.planes[rake.edge]
    most = max(lies.most, lies.balanced + _drifted(plan, rake, snow))
    return roof_cases(loads, plan.edges[rake.edge].pitch, most)


def _drifted(plan: SurfacePlan, rake: Rake, snow: RoofSnow) -> float:
    """Return the most that drifts and slides lay anywhere on an overhang beside balanced snow, kN/m2."""
    corner, way, inward = eave(plan, rake.edge)
    far = max(dot(inward, sub(p[:2], corner)) for face in plan.whole.faces if face.edge == rake.edge for p in face.ring)
    across = np.linspace(rake.wall, rake.fly, PLACES)[:, None, None]
    up = np.linspace(-plan.overhangs[rake.edge], far, PLACES)[None, :, None]
    return float(beside(snow.bands, np.array(corner) + across * np.array(way) + up * np.array(inward)).max())


def lifted_by(plan: SurfacePlan, row: LookoutRow, bins: tuple[Bin, ...], q: Cases) -> float:
    """Return by how much lookouts lift the rafter they run back to, at its foot, while little lies on that, N."""
    face = next(face for face in plan.surface.faces if face.edge == row.edge)
    inside = row.strip * _run(plan, face, row.face)
    beyond = sum(b.area for b in bins) * row.lever
    snow = (q.dead + q.snow) * beyond - (q.dead + HALF * q.snow) * inside
    live = (q.dead + q.roof_live) * beyond - q.dead * inside
    return max(snow, live, 0.0) / 1000.0


def _run(plan: SurfacePlan, face: RoofFace, s: float) -> float:
    """Return how long a plane is in plan at a place along its eave, mm."""
    corner, way, inward = eave(plan, face.edge)
    return sum(high - low for low, high in chords((tuple(p[:2] for p in face.ring),), add(corner, way, s), inward))


def checked(plan: SurfacePlan, row: LookoutRow, line: Cases, standard: Standard) -> GirderResult:
    """Return the checks of a lookout under what lies on a mm of it beyond the gable, N/mm."""
    wood, long = plan.roof.rafters, row.back + row.over
    patch = (round(row.back + THICK / 2.0, 3), round(long, 3), line, line)
    case = GirderCase(
        "beam", row.size, wood.species, wood.grade, round(long, 3), (0.0, round(row.back, 3)), (SEAT, SEAT), (patch,), (), 0.0, True, False,
        MOST, ALL_LOAD,
    )  # fmt: skip
    return standard.check_girder(case)


def _reactions(
    plan: SurfacePlan, made: Lookouts, loads: Loads, snow: RoofSnow
) -> tuple[list[Reaction], list[Reaction]]:
    """Return what each lookout brings to the gable's wall, and by how much less comes to the wall under the eave: what lies beyond the
    gable was taken to come down there, and what lifts the inner rafter takes from its foot.  Then how much of the latter may stay away.
    """
    row, outline = made.row, plan.outline
    corner, way, inward = eave(plan, row.edge)

    def at(s: float, t: float) -> Point:
        return add(add(corner, way, s), inward, t)

    q = roof_cases(loads, plan.edges[row.edge].pitch, snow.planes[row.edge].laid)
    key, found, beyond = piece_name(plan.roof.id, "plane"), list[Reaction](), list[Reaction]()
    wall, deep = outline.walls[row.edge], plan.deep[row.edge]
    for t, part in zip(row.places, made.bins, strict=True):
        lies = q.scaled(part.area / 1000.0)
        more = lies.scaled(row.lever)
        found += [
            Reaction(piece_name(plan.roof.id, "lookout"), outline.walls[row.gable], at(row.wall, t), lies.plus(more)),
            Reaction(key, wall, at(row.wall, deep), lies.scaled(-1.0)),
            Reaction(key, wall, at(row.face, deep), more.scaled(-1.0)),
        ]
        beyond.append(Reaction(key, wall, at(row.face, deep), more._replace(dead=0.0)))
    return found, beyond


def under_wind(
    plan: SurfacePlan, made: Lookouts, loads: Loads, wind: RoofWind, standard: Standard
) -> tuple[float, str, float]:
    """Return how far wind uses lookouts, the tie of each to the gable's wall ("" where none of the list holds), and what lifts it there, N."""
    pitch = plan.edges[made.row.edge].pitch
    q = roof_cases(loads, pitch, 0.0)._replace(roof_live=0.0, wind=-standard.overhang_wind(wind, pitch))
    result = checked(plan, made.row, q.scaled(max(b.wide for b in made.bins) / 1000.0), standard)
    lifts = max(-result.extremes[1][1], 0.0)
    tie = next((row.name for row in MADE_UP if row.up >= lifts), "")
    return result.used, tie, lifts
