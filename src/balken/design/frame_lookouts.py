"""Lookouts over frames of trusses: with which of them the frame over a gable is set lower, and why it is not; what they bring to it and lift
at the truss inside.
"""

from typing import Literal, NamedTuple

from msgspec.structs import replace

from balken.catalog.sections import section
from balken.catalog.straps import MADE_UP
from balken.design.lookouts import (
    ALL_LOAD,
    HALF,
    MOST,
    SEAT,
    TOO_MUCH,
    TRIED,
    Lookouts,
    TailBoard,
    held,
    laid_most,
    lifted_by,
)
from balken.design.truss_laying import LaidPart
from balken.framing.frame_lookouts import Beside, along_truss, frame_row, lowered
from balken.framing.gable_ladders import Rake
from balken.framing.lookouts import LookoutRow, carried, reaching, top_at
from balken.framing.rafter_stations import THICK
from balken.framing.surface_roofs import SurfacePlan
from balken.framing.truss_layout import TrussPlace, is_single, outline_of, overs
from balken.framing.truss_outline import TrussError, TrussOutline
from balken.framing.truss_webs import PATTERNS
from balken.framing.trusses import Sizes, truss_frame
from balken.loads.area_loads import ceiling_cases, roof_cases
from balken.loads.cases import Cases
from balken.loads.roof_snow import RoofSnow
from balken.loads.roof_wind import RoofWind
from balken.loads.truss_loads import Band, Hung, TrussLoads, Uneven
from balken.model.records import Loads
from balken.standards.checks import GirderResult
from balken.standards.demands import GirderCase
from balken.standards.standard import Standard

NO_FRAME = "no frame stands there with a truss of two slopes beside it, whose both ends lie on walls"
LIFTED = "they would lift the truss they run back to, more than lies on it: trusses farther apart, or less overhang"
NO_ROOM = "there is no room for them between eave and peak"
TAIL = "the tails beside them are too weak, or no tie of the list holds them down: less overhang at the eaves"


class LaidSlope(NamedTuple):
    """Lookouts on one slope: which of the frame's it is (0: that of its first eave), where along the frame each lies, how far in of the eave
    the frame begins, mm; what lies on the overhang at most, kN/m2.
    """

    side: int
    made: Lookouts
    at: tuple[float, ...]
    begin: float
    most: Cases


class LoweredFrame(NamedTuple):
    """A frame set lower for lookouts: numbers of it and of the truss inside, both places; its outline."""

    number: int
    inner: int
    stand: Beside
    rows: tuple[LaidSlope, ...]
    outline: TrussOutline

    @property
    def wider(self) -> float:
        """How much wider a strip of roof it carries by what lies on the overhang, mm."""
        return max(one.made.row.lever * (one.made.row.over - THICK / 2.0) for one in self.rows)

    @property
    def lifts(self) -> bool:
        """Whether what lies beyond the gable may lift more of the roof at the truss inside than lies there."""
        return any(one.made.lifted > 0.0 for one in self.rows)

    @property
    def beyond(self) -> float:
        """How far the deck reaches out past it, mm."""
        return max(one.made.row.over - THICK / 2.0 for one in self.rows)


def frame_lookouts(
    plan: SurfacePlan, laid: list[LaidPart], loads: Loads, snow: RoofSnow, standard: Standard
) -> tuple[dict[int, LoweredFrame], dict[int, str]]:
    """Return the frames that are set lower, by their numbers, and why others are not, by the gables' sides, where overhangs reach too far for
    a ladder.
    """
    found, problems = dict[int, LoweredFrame](), dict[int, str]()
    by_gable: dict[int, list[Rake]] = {}
    for rake in reaching(plan):
        by_gable.setdefault(rake.gable, []).append(rake)
    for gable, some in by_gable.items():
        made = _over_gable(plan, some, laid, loads, snow, standard)
        if isinstance(made, str):
            problems[gable] = made
        else:
            found[made.number] = made
    return found, problems


def _over_gable(
    plan: SurfacePlan, some: list[Rake], laid: list[LaidPart], loads: Loads, snow: RoofSnow, standard: Standard
) -> LoweredFrame | str:
    """Return the frame over a gable with the first lookouts that work on both slopes, or why none do."""
    stands = _stands(plan, some[0].gable, laid)
    if stands is None or len(some) != 2:
        return NO_FRAME
    part, number, inner, stand = stands
    wood, why = plan.roof.trusses, TOO_MUCH
    top = wood.top or "2x4"
    for size, apart in TRIED:
        if section(size).depth > section(top).depth:
            continue
        try:
            outline = _lowered(part, stand.frame, section(size).depth, top)
        except TrussError as error:
            return f"its frame cannot be set lower for them: {error}"
        rows = list[LaidSlope]()
        for rake in some:
            side = next(k for k, e in enumerate(part.row.eaves) if rake.edge in part.part.sides[e])
            begin = max(outline.start if side == 0 else part.row.wide - outline.end, 0.0)
            made = _row(plan, rake, stand, begin, (size, apart), (loads, snow, standard))
            if isinstance(made, str):
                why = made
                break
            rows.append(
                LaidSlope(
                    side, made, tuple(along_truss(plan, made.row, stand)), begin, laid_most(plan, rake, loads, snow)
                )
            )
        if len(rows) == len(some):
            return LoweredFrame(number, inner, stand, tuple(rows), outline)
        if why in (LIFTED, NO_ROOM):
            return why
    return why


def _stands(plan: SurfacePlan, gable: int, laid: list[LaidPart]) -> tuple[LaidPart, int, int, Beside] | None:
    """Return the frame over a gable's wall and the truss inside: their part, numbers and places."""
    wall = plan.outline.walls[gable]
    for part in laid:
        places = part.row.places
        for k, inner in ((0, 1), (len(places) - 1, len(places) - 2)):
            if places[k].gable != wall or not wall or is_single(part.part.plan) or len(places) < 3:
                continue
            beside = places[inner]
            if beside.make == "common" and all(_stands_free(one) and all(one.walls) for one in (places[k], beside)):
                stand = Beside(places[k], beside, plan.roof.trusses.plies)
                return part, part.first + k, part.first + inner, stand
    return None


def _stands_free(place: TrussPlace) -> bool:
    """Whether no other part of the roof covers what lies over a truss."""
    return place.sides is None or all(side.covered <= 0.0 for side in place.sides)


def _lowered(part: LaidPart, frame: TrussPlace, depth: float, top: str) -> TrussOutline:
    """Return the outline of a frame set lower; raises TrussError where none can be laid out so."""
    plan, row = part.part.plan, part.row
    whole = outline_of(plan, row, frame, plan.plate_to_top, plan.roof.trusses.over_gables)
    over = overs(plan, row)
    made = lowered(whole, depth, top, (-over[0], row.wide + over[1]))
    wood = plan.roof.trusses
    truss_frame(made, PATTERNS["gable-end"](made), Sizes(top, wood.bottom or "2x4", wood.webs or "2x4", 1))
    return made


def _row(
    plan: SurfacePlan,
    rake: Rake,
    stand: Beside,
    begin: float,
    tried: tuple[str, float],
    given: tuple[Loads, RoofSnow, Standard],
) -> Lookouts | str:
    """Return the lookouts of one slope, or why they do not work."""
    (size, apart), (loads, snow, standard) = tried, given
    q, row = laid_most(plan, rake, loads, snow), frame_row(plan, rake, stand, begin, size, apart)
    if row is None:
        return NO_ROOM
    bins = tuple(carried(plan, row))
    # What hangs on its bottom chord holds the truss inside down then.
    lifted = lifted_by(plan, row, bins, q)
    below = ceiling_cases(loads).dead * row.strip * top_at(plan, row.edge, rake.wall) / 1000.0
    if lifted > below:
        return LIFTED
    made, nails = held(plan, row, bins, q, plan.roof.trusses.species, standard)
    if made.used > 1.0 or not nails.fits:
        return TOO_MUCH
    tail = (
        _tail(plan, row, stand, q._replace(snow=max(q.snow, standard.ice_at_eaves(loads))), standard)
        if plan.overhangs[row.edge] > 0.0
        else None
    )
    if tail is not None and (tail.result.used > 1.0 or (tail.lifts > 0.0 and not tail.tie)):
        return TAIL
    return Lookouts(row, apart, made.result, nails, bins, lifted, tail=tail)


def _tail(plan: SurfacePlan, row: LookoutRow, stand: Beside, q: Cases, standard: Standard) -> TailBoard:
    """Return the tail over a frame as a beam from the lowest lookout over the wall to the eave, under all that lies on the frame's strip."""
    strip = stand.frame.roof[1] - stand.frame.roof[0] + row.lever * (row.over - THICK / 2.0)
    made = _tail_under(plan, row, q.scaled(strip / 1000.0), standard)
    # By moments about the wall, while little lies inside of it.
    wall, end = plan.overhangs[row.edge] + SEAT / 2.0, plan.overhangs[row.edge] + row.places[0]
    past, inside = wall**2 / 2.0, (end - wall) ** 2 / 2.0
    snow = (q.dead + q.snow) * past - (q.dead + HALF * q.snow) * inside
    live = (q.dead + q.roof_live) * past - q.dead * inside
    lifts = max(snow, live, 0.0) * strip / 1000.0 / (end - SEAT / 2.0 - wall)
    return TailBoard(made.result, lifts, _tie(lifts))


def _tail_under(plan: SurfacePlan, row: LookoutRow, line: Cases, standard: Standard) -> GirderResult:
    wood, over, back = plan.roof.rafters, plan.overhangs[row.edge], row.places[0]
    case = GirderCase(
        "beam", row.size, wood.species, wood.grade, round(over + back, 3), (round(over + SEAT / 2.0, 3), round(over + back - SEAT / 2.0, 3)),
        (SEAT, SEAT), ((0.0, round(over + back, 3), line, line),), (), 0.0, True, True, MOST, ALL_LOAD,
    )  # fmt: skip
    return standard.check_girder(case)


def _tie(lifts: float) -> str:
    return next((tie.name for tie in MADE_UP if tie.up >= lifts), "") if lifts > 0.0 else ""


def tail_under_wind(
    plan: SurfacePlan, made: Lookouts, loads: Loads, wind: RoofWind, standard: Standard
) -> tuple[float, str, float]:
    """Return how far wind uses a tail over a frame, what ties it to the wall ("" where none of the list holds), what lifts it there, N."""
    pitch = plan.edges[made.row.edge].pitch
    q = roof_cases(loads, pitch, 0.0)._replace(roof_live=0.0, wind=-standard.overhang_wind(wind, pitch))
    strip = (made.row.back + THICK) / 2.0 + made.row.over
    result = _tail_under(plan, made.row, q.scaled(strip / 1000.0), standard)
    lifts = max(-result.extremes[0][1], 0.0)
    return result.used, _tie(lifts), lifts


def loads_lowered(on: TrussLoads, made: LoweredFrame, strip: float, q: tuple[Cases, Cases]) -> TrussLoads:
    """Return what lies on a frame set lower: of ``on``, which lies on its strip made ``wider``, even loads as far as the deck lies on its
    boards, the rest by lookouts; ``strip``: of roof in plan that it carries, mm, ``q``: what lies on both slopes, kN/m2 of plan.
    """
    # Beside other parts of a roof what is seen of it is laid, however wide its strip.
    part = (strip - made.beyond) / (strip + (made.wider if made.stand.frame.sides is None else 0.0))
    planes = tuple(replace(plane, q=plane.q.scaled(part)) for plane in on.planes)
    rested = [Hung(round(x, 1), force) for x, force in _points(made, q, 1.0)]
    return replace(
        on, top=on.top.scaled(part), planes=planes, over_wind=on.over_wind * part,
        rested=tuple(sorted((*on.rested, *rested), key=lambda one: one.x)),
    )  # fmt: skip


def loads_beside(
    on: TrussLoads, made: LoweredFrame, strip: float, reach: tuple[float, float], ridge: float
) -> TrussLoads:
    """Return what lies on the truss inside of a frame that is set lower: of what comes and goes also as much as lies beyond the gable alone,
    where that lifts more than lies there; ``reach``: from where to where it carries roof, ``ridge``: where its slopes meet, mm.
    """
    if not made.lifts:
        return on
    slopes = {0: (reach[0], ridge), 1: (ridge, reach[1])}
    found = list(on.uneven)
    cases: tuple[tuple[Literal["snow", "roof_live"], float, str], ...] = (
        ("snow", HALF, "ASCE 7-16, 7.5"), ("roof_live", 0.0, "a safe reading"),
    )  # fmt: skip
    for case, stays, clause in cases:
        bands = list[Band]()
        for one in made.rows:
            q, (low, high) = one.most, slopes[one.side]
            comes: float = getattr(q, case)
            lifts = (q.dead + comes) * one.made.row.lever * made.beyond / strip
            even: float = getattr(_on_plane(on, (low + high) / 2.0), case)
            bands.append(Band(low, high, stays * comes - even - lifts))
        drifts = [Band(b.low, b.high, -b.more) for b in on.lying] if case == "snow" else []
        if any(getattr(one.most, case) for one in made.rows):
            name = f"{'snow' if case == 'snow' else 'roof live load'} beyond the gable"
            found.append(Uneven(name, (*bands, *drifts), case, clause))
    return replace(on, uneven=tuple(found))


def _on_plane(on: TrussLoads, x: float) -> Cases:
    """Return what lies on the roof over a place along a truss, kN/m2."""
    return next((plane.q for plane in on.planes if plane.low <= x <= plane.high), on.top)


def lifted_inside(made: LoweredFrame, q: tuple[Cases, Cases]) -> list[tuple[float, Cases]]:
    """Return what each lookout lifts at the truss inside: where along it, mm, N by case."""
    return _points(made, q, 0.0)


def _points(made: LoweredFrame, q: tuple[Cases, Cases], whole: float) -> list[tuple[float, Cases]]:
    """Return so many times what each lookout carries, and what it brings more by its lever: where along the frame, N by case."""
    return [
        (x, q[one.side].scaled(part.area * (whole + one.made.row.lever) / 1000.0))
        for one in made.rows
        for x, part in zip(one.at, one.made.bins, strict=True)
    ]
