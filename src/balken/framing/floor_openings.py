"""How openings in floors are framed: headers at both ends of the joists cut, trimmers at both sides (IRC R502.10)."""

from collections.abc import Callable
from typing import NamedTuple

from balken.framing.frames import Frame
from balken.framing.pieces import Snag
from balken.geometry.plane import Ring, add, area, turn
from balken.model.naming import piece_name
from balken.model.places import locate
from balken.model.records import FloorOpening, Grid
from balken.units.system import FOOT, INCH

BOARD = 1.5 * INCH
MOST_PLIES = 3
"""Of a joist or trimmer, side by side."""
SINGLE = 4.0 * FOOT
"""Headers up to this long, and their trimmers, are single; longer ones are doubled (IRC R502.10)."""
ASKEW = 20.0
"""An opening is framed where its corners lie on sides along and across the joists, to this, mm."""
FILLS = 0.55
"""An opening is framed as the rectangle along the joists about it where it fills so much of that."""
NEAR = 6.0 * INCH
"""Openings are framed apart where this is left between their headers and trimmers, mm."""


class Hole(NamedTuple):
    """An opening in the frame of a floor: s from and to along its joists, t across them, mm; boards in headers and trimmers,
    and how thick one is."""

    opening: str
    floor: str
    s0: float
    s1: float
    t0: float
    t1: float
    plies: int
    board: float = BOARD
    drawn: Ring = ()
    """Its own outline in plan where that is no rectangle along the joists; what is left of the framed one is filled in."""

    @property
    def thick(self) -> float:
        """Thickness of headers and trimmers, mm."""
        return self.plies * self.board

    @property
    def trimmers(self) -> tuple[float, float]:
        """Middles of the trimmers, across the joists."""
        return self.t0 - self.thick / 2.0, self.t1 + self.thick / 2.0

    def header(self, end: int) -> str:
        """Return the name of the header at its low (0) or high (1) end along the joists."""
        return piece_name(self.floor, "header", f"{self.opening}+{end}")

    def header_at(self, end: int) -> float:
        """Return the middle of a header along the joists."""
        return self.s0 - self.thick / 2.0 if end == 0 else self.s1 + self.thick / 2.0

    @property
    def ring(self) -> Ring:
        """Its outline in the floor's frame."""
        return ((self.s0, self.t0), (self.s1, self.t0), (self.s1, self.t1), (self.s0, self.t1))

    def left_out(self, frame: Frame) -> Ring:
        """Return what it leaves out of the deck, in plan."""
        return self.drawn or tuple(frame.back(s, t) for s, t in self.ring)

    @property
    def infill(self) -> float:
        """Area between what is framed and what is left out, mm2."""
        return (self.s1 - self.s0) * (self.t1 - self.t0) - abs(area(self.drawn)) if self.drawn else 0.0


Corners = tuple[str, Ring]
"""An opening's id and its corners in plan."""


def corners_of(openings: tuple[FloorOpening, ...], floor: str, grids: tuple[Grid, ...]) -> tuple[Corners, ...]:
    """Return the openings of a floor; raises KeyError where an axis is gone."""
    found = []
    for o in openings:
        if floor in o.floors and o.corners:
            found.append((o.id, tuple(locate(c, grids) for c in o.corners)))
        elif floor in o.floors:
            at, (ux, uy) = locate(o.place, grids), turn((1.0, 0.0), o.angle)
            far = add(at, (ux, uy), o.width)
            up = (-uy, ux)
            found.append((o.id, (at, far, add(far, up, o.depth), add(at, up, o.depth))))
    return tuple(found)


def holes_in(
    floor: str,
    corners: tuple[Corners, ...],
    frame: Frame,
    ring: Ring,
    level: float,
    crossed: Callable[[float], list[tuple[float, float, str]]],
    board: float = BOARD,
) -> tuple[tuple[Hole, ...], tuple[Snag, ...]]:
    """Return the openings as they lie in a floor's frame, and what cannot be framed.

    ``ring``: the floor's outline there; ``crossed``: what carries joists on a line across it, s from and to; ``board``:
    thickness of one board of headers and trimmers.
    """
    holes: list[Hole] = []
    snags: list[Snag] = []
    low, high = min(s for s, _ in ring), max(s for s, _ in ring)
    t_low, t_high = min(t for _, t in ring), max(t for _, t in ring)
    for name, points in corners:
        there = [frame.to(p) for p in points]
        s0, s1 = min(s for s, _ in there), max(s for s, _ in there)
        t0, t1 = min(t for _, t in there), max(t for _, t in there)
        at = (*points[0], level)
        askew = any(min(abs(s - s0), abs(s - s1)) > ASKEW or min(abs(t - t0), abs(t - t1)) > ASKEW for s, t in there)
        if askew and abs(area(points)) < FILLS * (s1 - s0) * (t1 - t0):
            text = "an opening that stands askew to the joists, or leaves much of a rectangle along them, is not framed"
            snags.append(Snag("opening", text, floor, at))
            continue
        plies = 1 if t1 - t0 <= SINGLE + 1.0 else 2
        hole = Hole(name, floor, s0, s1, t0, t1, plies, board, tuple(points) if askew else ())
        room = 2.0 * BOARD
        if s0 < low + room or s1 > high - room or t0 < t_low + hole.thick + room or t1 > t_high - hole.thick - room:
            snags.append(Snag("opening", "an opening reaches the edge of the floor and is not framed", floor, at))
            continue
        over = [(a, b) for t in (t0, (t0 + t1) / 2.0, t1) for a, b, _ in crossed(t)]
        if any(a < s1 + hole.thick and b > s0 - hole.thick for a, b in over):
            text = "an opening lies over a wall or beam that carries the floor and is not framed"
            snags.append(Snag("opening", text, floor, at))
            continue
        if any(_meets(hole, other) for other in holes):
            snags.append(
                Snag("opening", "two openings lie so near to one another that neither can be framed", floor, at)
            )
            continue
        if any(_lean(hole, other, crossed) for other in holes):
            text = "two openings are staggered so that each would hang on the other; neither bearing nor trimmer is between them"
            snags.append(Snag("opening", text, floor, at))
            continue
        holes.append(hole)
    return tuple(holes), tuple(snags)


def _meets(a: Hole, b: Hole) -> bool:
    off = a.thick + b.thick + NEAR
    return a.s0 < b.s1 + off and b.s0 < a.s1 + off and a.t0 < b.t1 + off and b.t0 < a.t1 + off


def _lean(a: Hole, b: Hole, crossed: Callable[[float], list[tuple[float, float, str]]]) -> bool:
    """Tell whether each of two openings cuts a trimmer of the other, with nothing that bears between them."""
    if not any(b.t0 < t < b.t1 for t in a.trimmers) or not any(a.t0 < t < a.t1 for t in b.trimmers):
        return False
    low, high = (a.s1, b.s0) if a.s1 < b.s0 else (b.s1, a.s0)
    middle = (max(a.t0, b.t0) + min(a.t1, b.t1)) / 2.0
    return not any(x > low and y < high for x, y, _ in crossed(middle))


def with_trimmers(stations: list[float], holes: tuple[Hole, ...], grow: bool = True) -> list[float]:
    """Return the places of joists with the trimmers of openings, and without those that stand in their way.

    Joists beside a trimmer leave it the room it may come to need: it grows away from the opening, where it can ``grow``.
    """
    found = list(stations)
    trimmers: list[float] = []
    for hole in holes:
        for t, face, way in zip(hole.trimmers, (hole.t0, hole.t1), (-1.0, 1.0), strict=True):
            room = hole.thick / 2.0 + BOARD / 2.0 + 1.0
            plies = MOST_PLIES if grow else 0
            clear = face + way * (plies * hole.board + max(BOARD, hole.board) / 2.0 + 1.0)
            found = [clear if 0.0 < (x - t) * way < (clear - t) * way else x for x in found if abs(x - t) >= room]
            trimmers = [*(x for x in trimmers if abs(x - t) >= room), t]
    return sorted({*found, *trimmers})
