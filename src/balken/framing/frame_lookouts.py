"""Lookouts over frames of trusses: the frame over a gable wall is set lower by their depth, so that they lie on its top chord and run from
the truss inside to the fly rafter; between them boards as deep fill up to the deck, and the lowest of these runs out as the tail.
"""

import itertools
import math
from typing import NamedTuple

from balken.catalog.sections import section
from balken.framing.gable_ladders import Rake
from balken.framing.lookouts import LookoutRow, over_plates, places_between, top_at, under_ridge
from balken.framing.pieces import Piece
from balken.framing.rafter_stations import THICK
from balken.framing.surface_roofs import SurfacePlan, eave
from balken.framing.tails import fly_cut
from balken.framing.truss_heels import butted, wedge_of
from balken.framing.truss_layout import BOARD, TrussPlace
from balken.framing.truss_outline import Bearing, TrussOutline, height_on, moved, slope_on
from balken.geometry.plane import Ring, add, dot, sub
from balken.geometry.prism import Prism, Vec
from balken.geometry.trimmed import Trimmed, trimmed
from balken.model.naming import piece_name
from balken.units.system import INCH

BACK = 0.75
"""Tails of such frames run back over them by so much of their overhang at least."""
LEAST_BACK = 12.0 * INCH


class Beside(NamedTuple):
    """The frame over a gable, the truss beside it inside, of how many plies that is."""

    frame: TrussPlace
    inner: TrussPlace
    plies: int


def lowered(outline: TrussOutline, depth: float, top: str, roof: tuple[float, float]) -> TrussOutline:
    """Return the outline of a frame set lower by a depth square to its slopes: it begins where its top chord (``top``: its section) finds
    room on its bottom chord; ``roof``: from where to where the roof over it reaches.
    """
    line = moved(outline.top, -depth)
    ends = []
    for at, sign in ((outline.start, 1.0), (outline.end, -1.0)):
        pitch = abs(slope_on(line, at + sign))
        short = butted(top, pitch) - (height_on(line, at) - height_on(outline.bottom, at))
        ends.append(at + sign * max(short, 0.0) / pitch)
    low, high = (round(x, 6) for x in ends)
    first, last = outline.bearings[0], outline.bearings[-1]
    seats = (
        Bearing(max(first.low, low), max(first.low, low) + first.high - first.low, first.level),
        Bearing(min(last.high, high) - last.high + last.low, min(last.high, high), last.level),
    )
    inside = [p for p in line[1:-1] if low < p[0] < high]
    rows = ((low, height_on(line, low)), *inside, (high, height_on(line, high)))
    return TrussOutline(
        tuple((round(x, 6), round(y, 6)) for x, y in rows),
        ((low, height_on(outline.bottom, low)), (high, height_on(outline.bottom, high))),
        seats,
        panels=outline.panels,
        # The ceiling ends at the walls, though heels stand out past them.
        covers=(roof, (first.low, last.high)),
    )


def frame_row(plan: SurfacePlan, rake: Rake, stand: Beside, begin: float, size: str, apart: float) -> LookoutRow | None:
    """Return lookouts ``apart`` mm up the slope over a frame that begins so far in of the eave, mm; None where there is no room for any."""
    edge, (corner, way, _) = rake.edge, eave(plan, rake.edge)
    inward = 1.0 if rake.fly < rake.wall else -1.0
    steep = math.hypot(1.0, plan.edges[edge].pitch)

    def along(place: TrussPlace) -> float:
        return dot(way, sub(place.at(0.0), corner))

    end, inner = along(stand.frame), along(stand.inner)
    begin = max(over_plates(plan, edge, size), begin, LEAST_BACK, BACK * plan.overhangs[edge])
    places = places_between(begin, top_at(plan, edge, rake.wall) - under_ridge(plan, edge, size, 0.0), apart / steep)
    if not places:
        return None
    return LookoutRow(
        edge, rake.gable, ("", ""), rake.wall + inward * plan.deep[rake.gable], end,
        inner - inward * stand.plies * BOARD / 2.0, rake.fly + inward * THICK / 2.0, rake.wall - inward * plan.overhangs[rake.gable],
        tuple(places), size, stand.inner.roof[1] - stand.inner.roof[0],
    )  # fmt: skip


def along_truss(plan: SurfacePlan, row: LookoutRow, stand: Beside) -> list[float]:
    """Return where along its frame each lookout of a row lies, mm."""
    corner, way, inward = eave(plan, row.edge)
    half = section(row.size).breadth / 2.0 / math.hypot(1.0, plan.edges[row.edge].pitch)
    place = stand.frame
    ends = [add(add(corner, way, row.end), inward, t + half) for t in row.places]
    return [place.frame.to(at)[0] - place.start for at in ends]


def frame_boards(plan: SurfacePlan, row: LookoutRow, begin: float) -> list[Piece]:
    """Return the boards on a frame under the deck: the tail up to the lowest lookout, packings from each to the next, the last up to the
    peak; and the wedge under the tail where the frame begins farther in than its wall (``begin``, mm).
    """
    on = _Slope(plan, row)
    over, lumber = plan.overhangs[row.edge], section(row.size)
    found = []
    if over > 0.0:
        found.append(on.tail(over))
    starts = [t * on.steep + lumber.breadth for t in row.places]
    if over <= 0.0:
        starts.insert(0, 0.0)
    ends = [t * on.steep for t in row.places[0 if over <= 0.0 else 1 :]]
    face = row.out - math.copysign(plan.overhangs[row.gable], row.out - row.end)
    for k, (low, high) in enumerate(itertools.zip_longest(starts, ends)):
        found.append(on.packing(k, low, high, top_at(plan, row.edge, face)))
    if begin > 0.0:
        found += on.wedge(begin)
    return found


def tail_name(roof: str, row: LookoutRow) -> str:
    """Return the name of the tail below a row of lookouts."""
    return _name(roof, "tail", row, "0")


def _name(roof: str, kind: str, row: LookoutRow, name: str) -> str:
    return piece_name(roof, kind, f"{row.edge}", f"{row.gable}", name)


class _Slope:
    """The place between a frame and the deck on one slope: u up the slope from over the outer face of the eave's wall."""

    def __init__(self, plan: SurfacePlan, row: LookoutRow) -> None:
        self.plan, self.row = plan, row
        self.pitch = plan.edges[row.edge].pitch
        self.steep = math.hypot(1.0, self.pitch)
        corner, self.way, self.inward = eave(plan, row.edge)
        self.foot = add(corner, self.way, row.end - BOARD / 2.0)
        self.level, self.lumber = plan.level(row.edge), section(row.size)
        x, y = self.inward
        self.up = (x / self.steep, y / self.steep, self.pitch / self.steep)

    def at(self, u: float, down: float = 0.0) -> Vec:
        """Return a place on the slope, so far below the deck square to it."""
        x, y = add(self.foot, self.inward, (u + down * self.pitch) / self.steep)
        return x, y, self.level + (u * self.pitch - down) / self.steep

    def board(self, low: float, high: float) -> Prism:
        """Return a board with square ends."""
        profile: Ring = ((0.0, 0.0), (BOARD, 0.0), (BOARD, high - low), (0.0, high - low))
        return Prism(self.at(low, self.lumber.depth), (*self.way, 0.0), self.up, (profile,), self.lumber.depth)

    def piece(
        self, kind: str, role: str, name: str, solid: Prism | Trimmed, ends: tuple[float, float], size: str
    ) -> Piece:
        """Return a board as a member."""
        roof = self.plan.roof
        middle = add(self.foot, self.way, BOARD / 2.0)
        start, end = ((*add(middle, self.inward, u / self.steep), self.at(u)[2]) for u in ends)
        return Piece(
            _name(roof.id, kind, self.row, name), role, roof.id, roof.bearing.level, solid, "timber",
            start, end, ends[1] - ends[0], size, roof.rafters.species, roof.rafters.grade,
        )  # fmt: skip

    def tail(self, over: float) -> Piece:
        """Return the tail: from the eave to the lowest lookout, cut as the fly rafter is."""
        first = self.row.places[0] * self.steep
        low = -over * self.steep
        solid = self.board(low - self.lumber.depth * self.pitch, first)
        x, y = self.inward
        kept = trimmed(solid, (x, y, 0.0), dot(self.inward, self.foot) - over)
        off = fly_cut(self.plan, self.row.edge, add(self.foot, self.inward, -over), self.lumber.depth)
        if off is not None and kept is not None:
            kept = trimmed(kept, *off)
        assert isinstance(kept, Prism | Trimmed)
        return self.piece("tail", "tail board", "0", kept, (low, first), self.row.size)

    def packing(self, number: int, low: float, high: float | None, peak: float) -> Piece:
        """Return what fills up to the deck from one lookout to the next; the last (``high`` None) is cut plumb under the peak."""
        if high is not None:
            return self.piece(
                "packing", "frame packing", f"{number}", self.board(low, high), (low, high), self.row.size
            )
        x, y = self.inward
        cut = trimmed(self.board(low, peak * self.steep), (-x, -y, 0.0), -dot(self.inward, self.foot) - peak)
        assert isinstance(cut, Prism | Trimmed)
        return self.piece("packing", "frame packing", f"{number}", cut, (low, peak * self.steep), self.row.size)

    def wedge(self, begin: float) -> list[Piece]:
        """Return what fills between the plates and the tail up to where the frame begins."""
        low, base = self.lumber.depth * self.steep, self.plan.bearing
        heights = [self.level + self.pitch * t - low - base for t in (0.0, begin)]
        size = wedge_of(max(heights))
        if size is None or heights[0] < 0.0:
            return []
        ring: Ring = ((0.0, 0.0), (begin, 0.0), (begin, heights[1]), (0.0, heights[0]))
        x, y = self.foot
        solid = Prism((x, y, base), (*self.inward, 0.0), (0.0, 0.0, 1.0), (ring,), BOARD)
        middle = add(self.foot, self.way, BOARD / 2.0)
        start, end = ((*add(middle, self.inward, t), base) for t in (0.0, begin))
        roof = self.plan.roof
        return [
            Piece(
                _name(roof.id, "wedge", self.row, "tail"), "truss wedge", roof.id, roof.bearing.level,
                solid, "timber", start, end, begin, size, roof.rafters.species, roof.rafters.grade,
            )
        ]  # fmt: skip
