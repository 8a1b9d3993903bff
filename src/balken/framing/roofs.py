"""Gable roofs: where rafters, ridge and ceiling ties lie (the plan), then the solids."""

import itertools
import math
from collections.abc import Mapping

import shapely
from msgspec.structs import replace

from balken.catalog.section_record import Section
from balken.catalog.sections import RIDGE_SIZES, section
from balken.framing.bands import WallLine
from balken.framing.frames import Frame, edge_angle, tributary
from balken.framing.joist_lines import apart
from balken.framing.outlines import Outline
from balken.framing.pieces import NOTHING_EDITED, MadeOf, MemberLine, Piece, Snag, split_run
from balken.framing.rafters import RafterShape, deepest_seat
from balken.framing.walls import GableTop, gable_under
from balken.geometry.plane import Ring, meet
from balken.geometry.prism import Prism, box
from balken.model.naming import Places, oldest, piece_name, place_at
from balken.model.records import Roof
from balken.model.spread import positions
from balken.units.system import INCH
from balken.value import Value

RIDGE = 1.5 * INCH
"""Thickness of the ridge board."""
LEAST_GAP = 3.0 * INCH
"""Rafters closer than this to the end rafter are left out."""
WANTED_SEAT = 3.5 * INCH


class RafterStation(Value, frozen=True):
    """One pair of rafters at t along the ridge, and the width of roof it carries.

    ``named``: where its layout has it, from the roof's end; ``which``: of several there.  ``tied``: the width of roof and
    ceiling its tie takes, 0 where it has none; ``beside``: so much further off stands its tie, mm.
    """

    t: float
    width: float
    end: bool
    named: float
    which: int = 0
    tied: float = 0.0
    beside: float = 0.0


class SideWall(Value, frozen=True):
    """A wall on one side of a roof, and from where to where it runs along that side, mm."""

    wall: str
    low: float
    high: float


Side = tuple[SideWall, ...]
"""The walls of one side in line with one another, in their order along it."""


class RoofPlan(Value, frozen=True):
    """Where the members of a gable roof lie, in a frame with s across the ridge and t along it.

    ``low``/``high``: s of the eave walls' outer core faces; ``eaves`` and ``gables``: the walls of the sides
    in the same order. ``gable_strips``: ceiling area (mm2) each gable carries itself.
    """

    roof: Roof
    frame: Frame
    outline: Outline
    low: float
    high: float
    t_low: float
    t_high: float
    eaves: tuple[Side, Side]
    gables: tuple[Side, Side]
    bearing: float
    plate: float
    spacing: float
    stations: tuple[RafterStation, ...]
    ties: tuple[MemberLine, ...]
    gable_strips: tuple[float, float]
    snags: tuple[Snag, ...] = ()

    def eave_at(self, side: int, t: float) -> str:
        """Return the eave wall on which a rafter at t stands."""
        return wall_at(self.eaves[side], t)

    @property
    def eave_walls(self) -> tuple[str, ...]:
        """All walls on which rafters stand."""
        return tuple(part.wall for side in self.eaves for part in side)

    @property
    def gable_walls(self) -> tuple[str, ...]:
        """All walls that run up under the rafters."""
        return tuple(part.wall for side in self.gables for part in side)

    def rafter_place(self, station: RafterStation, side: int) -> str:
        """Return the place of a rafter of a station on a side (0 or 1) as part of its name."""
        place = place_at(oldest([part.wall for part in self.eaves[side]]), station.named)
        return replace(place, which=station.which).text if station.which else place.text

    @property
    def mean_height(self) -> float:
        """How high it lies in the mean, as wind counts it, mm."""
        return self.bearing + self.half * self.roof.pitch / 2.0

    @property
    def half(self) -> float:
        """Run from the outer core face to the middle of the ridge, mm."""
        return (self.high - self.low) / 2.0

    @property
    def clear(self) -> float:
        """Horizontal span of a rafter from the inner edge of the plate to the ridge board, mm."""
        return self.half - RIDGE / 2.0 - self.plate

    @property
    def tie_clear(self) -> float:
        """Greatest clear span of a tie, mm."""
        return max((tie.clear for tie in self.ties), default=0.0)

    def shape(self, depth: float, longer: float = 0.0) -> RafterShape:
        """Return a rafter of that depth seen from the side; its tail cut so much longer along the slope, mm."""
        return RafterShape(
            self.half - RIDGE / 2.0,
            max(self.roof.overhang + longer / math.hypot(1.0, self.roof.pitch), 0.0),
            self.roof.pitch,
            depth,
            deepest_seat(depth, self.roof.pitch, min(self.plate, WANTED_SEAT)),
        )


def wall_at(side: Side, along: float) -> str:
    """Return the wall of a side at a place along it; the first or last one beyond their ends."""
    return next((part.wall for part in side[:-1] if along <= part.high), side[-1].wall)


def is_gable_outline(outline: Outline) -> bool:
    """Tell whether the outline is a rectangle; a side may be of several walls in line."""
    shape = shapely.Polygon(outline.core)
    return bool(abs(shape.area / shapely.minimum_rotated_rectangle(shape).area - 1.0) < 1e-3)


def roof_plan(roof: Roof, outline: Outline, bearing: float, lines: dict[str, WallLine], spacing: float) -> RoofPlan:
    """Lay rafters and ties over a rectangular outline; ``bearing`` is the top of the plate."""
    longer = edge_angle(outline.core)
    ridge = longer if roof.ridge is None else roof.ridge
    frame = Frame(ridge - 90.0)
    ring = frame.ring(outline.core)
    low, high = min(p[0] for p in ring), max(p[0] for p in ring)
    t_low, t_high = min(p[1] for p in ring), max(p[1] for p in ring)
    by_side: dict[str, list[SideWall]] = {name: [] for name in ("low", "high", "near", "far")}
    for i, wall in enumerate(outline.walls):
        (s0, t0), (s1, t1) = ring[i], ring[(i + 1) % len(ring)]
        if abs(s1 - s0) < abs(t1 - t0):
            name = "low" if (s0 + s1) / 2.0 < (low + high) / 2.0 else "high"
            by_side[name].append(SideWall(wall, min(t0, t1), max(t0, t1)))
        else:
            name = "near" if (t0 + t1) / 2.0 < (t_low + t_high) / 2.0 else "far"
            by_side[name].append(SideWall(wall, min(s0, s1), max(s0, s1)))
    sides = {name: tuple(sorted(parts, key=lambda part: part.low)) for name, parts in by_side.items()}
    eaves = (sides["low"], sides["high"])
    gables = (sides["near"], sides["far"])
    plate = min(lines[part.wall].core[1] - lines[part.wall].core[0] for side in eaves for part in side)
    thick = section(roof.rafters.size or "2x8").breadth
    inner = positions(t_high - t_low, spacing, thick, LEAST_GAP)
    centres = [t_low + thick / 2.0, *(t_low + o for o in inner), t_high - thick / 2.0]
    widths = tributary(centres, t_low, t_high)
    last = len(centres) - 1
    stations = tuple(
        RafterStation(t, w, k in (0, last), t - t_low, tied=0.0 if k in (0, last) else w)
        for k, (t, w) in enumerate(zip(centres, widths, strict=True))
    )
    bare = RoofPlan(
        roof,
        frame,
        outline,
        low,
        high,
        t_low,
        t_high,
        eaves,
        gables,
        bearing,
        plate,
        spacing,
        (),
        (),
        (0.0, 0.0),
    )
    return with_stations(bare, stations, lines)


def with_stations(plan: RoofPlan, stations: tuple[RafterStation, ...], lines: dict[str, WallLine]) -> RoofPlan:
    """Return a plan with its rafters at these stations, and ties beside them; ``lines``: the walls it reads."""
    across, tied = plan.high - plan.low, [s for s in stations if s.tied > 0.0]
    gables = _gable_strips(plan, stations, tied)
    strips = (gables[0] * across, gables[1] * across)
    return replace(plan, stations=stations, ties=_ties(plan, tied, lines), gable_strips=strips)


def _gable_strips(
    plan: RoofPlan, stations: tuple[RafterStation, ...], tied: list[RafterStation]
) -> tuple[float, float]:
    """Return the widths of ceiling beyond the ties at both ends, mm."""
    if not tied:
        return (plan.t_high - plan.t_low) / 2.0, (plan.t_high - plan.t_low) / 2.0
    ends = sum(s.width for s in stations if s.end and s.t < tied[0].t)
    return ends, sum(s.width for s in stations if s.end and s.t > tied[-1].t)


def _ties(plan: RoofPlan, tied: list[RafterStation], lines: dict[str, WallLine]) -> tuple[MemberLine, ...]:
    """Ties lie beside the rafters, on the eave plates and on interior bearing walls as high as those."""
    roof, frame, plate, bearing = plan.roof, plan.frame, plan.plate, plan.bearing
    (side_low, side_high), low, high = plan.eaves, plan.low, plan.high
    thick, places = section(roof.rafters.size or "2x8").breadth, Places()
    inside = [
        line for line in lines.values() if line.wall.role == "bearing" and abs(line.band.top - bearing) < 2.0 * INCH
    ]
    tie_thick = section(roof.ties.size or "2x6").breadth
    found: list[MemberLine] = []
    for station in tied:
        t = station.t + (thick + tie_thick) / 2.0 + station.beside
        stops = [
            (low, low + plate, wall_at(side_low, t)),
            *inner_bearings(frame, inside, t, low, high),
            (high - plate, high, wall_at(side_high, t)),
        ]
        for i, (a, b) in enumerate(itertools.pairwise(stops)):
            start = low if i == 0 else (a[0] + a[1]) / 2.0
            end = high if i == len(stops) - 2 else (b[0] + b[1]) / 2.0
            bears = (a[1] - start, end - b[0])
            found.append(
                MemberLine(
                    places.text("tie", place_at(oldest([part.wall for part in side_low]), station.named, (a[2], b[2]))),
                    t,
                    station.tied,
                    start,
                    end,
                    start,
                    end,
                    (a[2], b[2]),
                    (start + bears[0] / 2.0, end - bears[1] / 2.0),
                    bears,
                    b[0] - a[1],
                )
            )
    return tuple(found)


def inner_bearings(
    frame: Frame, inside: list[WallLine], t: float, low: float, high: float
) -> list[tuple[float, float, str]]:
    """Return where a tie at t between two eaves lies on inside walls: from s, to s, the wall."""
    found: list[tuple[float, float, float, str]] = []
    for line in inside:
        band = line.band
        if abs(band.direction[0] * frame.t[0] + band.direction[1] * frame.t[1]) < 0.34:
            continue
        cuts = []
        beyond = 0.0
        for depth in line.core:
            point = meet(frame.back(0.0, t), frame.s, band.at(0.0, depth), band.direction)
            if point is None:
                break
            along = (point[0] - band.start[0]) * band.direction[0] + (point[1] - band.start[1]) * band.direction[1]
            beyond = max(beyond, -along, along - band.length)
            if beyond > 300.0:
                break
            cuts.append(frame.to(point)[0])
        if len(cuts) == 2 and low + 300.0 < min(cuts) and max(cuts) < high - 300.0:
            found.append((beyond, min(cuts), max(cuts), line.wall.id))
    return apart(found)


def ridge_section(plan: RoofPlan, depth: float) -> Section:
    """Return the typed ridge size, or the smallest at least as deep as the rafters' plumb cut (IRC R802.3)."""
    if plan.roof.ridge_size is not None:
        return section(plan.roof.ridge_size)
    need = plan.shape(depth).plumb
    for name in RIDGE_SIZES:
        if section(name).depth >= need - 0.5:
            return section(name)
    return section(RIDGE_SIZES[-1])


def gable_top(plan: RoofPlan, line: WallLine, depth: float) -> GableTop:
    """Return the raking top of a gable wall under rafters of that depth."""
    shape = plan.shape(depth)
    band = line.band
    s_start = plan.frame.to(band.start)[0]
    way = band.direction[0] * plan.frame.s[0] + band.direction[1] * plan.frame.s[1]
    eave_low, eave_high = (plan.low - s_start) / way, (plan.high - s_start) / way
    return gable_under(
        (eave_low, eave_high),
        plan.bearing + shape.under(0.0),
        plan.bearing + shape.top(0.0),
        plan.roof.pitch * abs(way),
        plan.bearing,
    )


def _side_solid(plan: RoofPlan, t: float, thick: float, high_side: bool, profile: Ring) -> Prism:
    """Return a profile in (s from its eave inward, z above the plate) as a solid at t."""
    frame = plan.frame
    if high_side:
        x, y = frame.back(plan.high, t - thick / 2.0)
        u = (-frame.s[0], -frame.s[1], 0.0)
    else:
        x, y = frame.back(plan.low, t + thick / 2.0)
        u = (frame.s[0], frame.s[1], 0.0)
    return Prism((x, y, plan.bearing), u, (0.0, 0.0, 1.0), (profile,), thick)


def roof_pieces(
    plan: RoofPlan, rafter: str, tie: str, stock: float, made: Mapping[str, MadeOf] = NOTHING_EDITED
) -> tuple[Piece, ...]:
    """Return rafters, ridge board, ceiling ties and deck of a gable roof.

    ``made``: what single rafters and ties are made of that are not as the layout, by name.
    """
    shape = plan.shape(section(rafter).depth)
    pieces = _rafter_pieces(plan, rafter, made)
    pieces.extend(_ridge(plan, shape, section(rafter), stock))
    pieces.extend(_tie_pieces(plan, shape, tie, made))
    if plan.roof.deck > 0.0:
        pieces.extend(_deck(plan, shape))
    return tuple(pieces)


def _rafter_pieces(plan: RoofPlan, rafter: str, made: Mapping[str, MadeOf]) -> list[Piece]:
    roof, frame, level = plan.roof, plan.frame, plan.roof.bearing.level
    pieces: list[Piece] = []
    for station in plan.stations:
        for side in range(2):
            edge, way = (plan.low, 1.0) if side == 0 else (plan.high, -1.0)
            key = piece_name(roof.id, "rafter", plan.rafter_place(station, side))
            own = made.get(key) or MadeOf()
            lumber = section(own.sized(rafter))
            shape = plan.shape(lumber.depth, own.longer)
            profile = shape.profile
            pieces.append(
                Piece(
                    key,
                    "rafter",
                    roof.id,
                    level,
                    _side_solid(plan, station.t, lumber.breadth, side == 1, profile),
                    "timber",
                    (*frame.back(edge - way * shape.over, station.t), plan.bearing + shape.under(-shape.over)),
                    (*frame.back(edge + way * shape.run, station.t), plan.bearing + shape.under(shape.run)),
                    shape.length,
                    lumber.name,
                    own.species or roof.rafters.species,
                    own.grade or roof.rafters.grade,
                    plan.eave_at(side, station.t),
                )
            )
    return pieces


def _ridge(plan: RoofPlan, shape: RafterShape, lumber: Section, stock: float) -> list[Piece]:
    roof, frame = plan.roof, plan.frame
    board = ridge_section(plan, lumber.depth)
    low = plan.bearing + shape.top(shape.run) - board.depth
    middle = (plan.low + plan.high) / 2.0
    pieces = []
    for j, (a, b) in enumerate(split_run(plan.t_high - plan.t_low, stock)):
        start, end = (*frame.back(middle, plan.t_low + a), low), (*frame.back(middle, plan.t_low + b), low)
        side = (-frame.s[0], -frame.s[1], 0.0)
        pieces.append(
            Piece(
                piece_name(roof.id, "ridge", f"{j}"),
                "ridge board",
                roof.id,
                roof.bearing.level,
                box(start, end, side, RIDGE, board.depth),
                "timber",
                start,
                end,
                b - a,
                board.name,
                roof.rafters.species,
                roof.rafters.grade,
            )
        )
    return pieces


def _tie_pieces(plan: RoofPlan, shape: RafterShape, size: str, made: Mapping[str, MadeOf]) -> list[Piece]:
    roof, frame = plan.roof, plan.frame
    pieces = []
    for tie in plan.ties:
        key = piece_name(roof.id, "tie", tie.place)
        own = made.get(key) or MadeOf()
        lumber = section(own.sized(size))
        x, y = frame.back(plan.low, tie.t + lumber.breadth / 2.0)
        a, b = tie.low - plan.low, tie.high - plan.low
        profile = tie_profile(a, b, lumber.depth, shape.top(0.0), (shape.pitch, shape.pitch), plan.high - plan.low)
        pieces.append(
            Piece(
                key,
                "ceiling tie",
                roof.id,
                roof.bearing.level,
                Prism((x, y, plan.bearing), (*frame.s, 0.0), (0.0, 0.0, 1.0), (profile,), lumber.breadth),
                "timber",
                (*frame.back(tie.low, tie.t), plan.bearing),
                (*frame.back(tie.high, tie.t), plan.bearing),
                tie.high - tie.low,
                lumber.name,
                own.species or roof.ties.species,
                own.grade or roof.ties.grade,
            )
        )
    return pieces


def tie_profile(a: float, b: float, depth: float, over: float, pitches: tuple[float, float], width: float) -> Ring:
    """Return a tie from a to b with its top corners cut to the roof where they would stand out.

    ``over``: how far the roof lies above the plate over both eaves, ``width`` apart; ``pitches`` over both.
    """

    def roof_at(s: float) -> float:
        return over + min(pitches[0] * s, pitches[1] * (width - s))

    points: list[tuple[float, float]] = [(a, 0.0), (b, 0.0)]
    if roof_at(b) < depth:
        points += [(b, max(roof_at(b), 5.0)), (b - (depth - roof_at(b)) / pitches[1], depth)]
    else:
        points.append((b, depth))
    if roof_at(a) < depth:
        points += [(a + (depth - roof_at(a)) / pitches[0], depth), (a, max(roof_at(a), 5.0))]
    else:
        points.append((a, depth))
    return tuple(points)


def _deck(plan: RoofPlan, shape: RafterShape) -> list[Piece]:
    roof = plan.roof
    plumb = roof.deck * (1.0 + roof.pitch**2) ** 0.5
    peak = plan.half
    profile: Ring = (
        (-shape.over, shape.top(-shape.over)),
        (peak, shape.top(peak)),
        (peak, shape.top(peak) + plumb),
        (-shape.over, shape.top(-shape.over) + plumb),
    )
    width = plan.t_high - plan.t_low
    pieces = []
    for side in (0, 1):
        solid = _side_solid(plan, (plan.t_low + plan.t_high) / 2.0, width, side == 1, profile)
        edge = plan.low if side == 0 else plan.high
        start, end = plan.frame.back(edge, plan.t_low), plan.frame.back(edge, plan.t_high)
        pieces.append(
            Piece(
                piece_name(roof.id, "deck", "ab"[side]),
                "roof deck",
                roof.id,
                roof.bearing.level,
                solid,
                "wood sheathing",
                (*start, plan.bearing),
                (*end, plan.bearing),
                width,
            )
        )
    return pieces


def gable_tops(plan: RoofPlan, lines: dict[str, WallLine], size: str) -> dict[str, GableTop]:
    """Return the raking tops of the gable walls; a wall that another building part shares stays as it is."""
    depth = section(size).depth
    shared = {w for w, s in zip(plan.outline.walls, plan.outline.shared, strict=True) if s}
    return {w: gable_top(plan, lines[w], depth) for w in plan.gable_walls if w not in shared}
