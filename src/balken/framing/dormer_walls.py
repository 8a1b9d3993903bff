"""The walls of dormers: cheeks that stand on the trimmers below and follow the slope of the deck, and a face with its window.

Cheeks and sections of the face are seen from their side: t in of the eave, z up; the face from the front: s along the eave, z up.
"""

import math
from collections.abc import Iterator
from typing import NamedTuple

from balken.catalog.sections import section
from balken.framing.dormers import FRONT, LEFT, RIGHT, DormerPlace, deck_at, in_plan, wall_name
from balken.framing.pieces import Piece
from balken.framing.rafter_stations import THICK
from balken.framing.surface_roofs import SurfacePlan, rafter_shape
from balken.geometry.plane import Ring, area, clipped, left, unit
from balken.geometry.prism import Prism
from balken.model.naming import piece_name
from balken.units.system import INCH

APART = 16.0 * INCH
"""From stud to stud."""
SHORTEST = 50.0
"""Nobody nails in a stud shorter than this, mm."""
PLATES = 2.0 * THICK
ROUGH = 20.0
"""A window's jacks and kings keep this far from the corner studs of a face, mm."""


BOARD = 0.5 * INCH
"""Sheathing of its walls, mm thick."""


class Stick(NamedTuple):
    """A board or panel of a wall: its role, solid, section ("" for panels); how long it is cut, mm."""

    role: str
    solid: Prism
    size: str
    length: float


class Window(NamedTuple):
    """A rough opening in a face: from where to where along the edge, sill and head, mm."""

    s: tuple[float, float]
    z: tuple[float, float]


class DormerWall(NamedTuple):
    """A wall of a dormer: which of its sides, its boards, and stretches of it for its weight: middle (s, t) and area, mm2."""

    side: int
    sticks: tuple[Stick, ...]
    parts: tuple[tuple[float, float, float], ...]


class DormerWalls(NamedTuple):
    """The walls of a dormer; its window, None where it has none; ``problem``: why one asked for finds no room."""

    walls: tuple[DormerWall, ...]
    window: Window | None
    problem: str = ""


def dormer_walls(place: DormerPlace, host: SurfacePlan, plan: SurfacePlan, header: str) -> DormerWalls:
    """Frame the walls of a dormer; ``plan``: of its own roof, ``header``: the section over its window."""
    seen = Seen(place, host, plan)
    window, problem = seen.window(header)
    return DormerWalls((seen.face(window, header), seen.cheek(RIGHT), seen.cheek(LEFT)), window, problem)


def window_of(place: DormerPlace, host: SurfacePlan, plan: SurfacePlan, header: str) -> tuple[Window | None, str]:
    """Return the window in the face of a dormer, or why it finds no room."""
    return Seen(place, host, plan).window(header)


def wall_pieces(place: DormerPlace, host: SurfacePlan, walls: DormerWalls) -> tuple[Piece, ...]:
    """Return the boards of a dormer's walls as pieces."""
    found, lumber = [], place.dormer.rafters
    for wall in walls.walls:
        for k, stick in enumerate(wall.sticks):
            low, high = stick.solid.extent
            middle = tuple((a + b) / 2.0 for a, b in zip(low, high, strict=True))
            ends = ((middle[0], middle[1], low[2]), (middle[0], middle[1], high[2]))
            key = piece_name(place.dormer.id, "dormer-wall", wall_name(place.dormer.id, wall.side), f"{k}")
            found.append(
                Piece(
                    key, stick.role, place.dormer.id, host.roof.bearing.level, stick.solid, "timber" if stick.size else "wood sheathing", *ends, stick.length, stick.size,
                    lumber.species, lumber.grade,
                )
            )  # fmt: skip
    return tuple(found)


class Seen:
    """A dormer on its roof, as its walls see both."""

    def __init__(self, place: DormerPlace, host: SurfacePlan, plan: SurfacePlan) -> None:
        self.place, self.host, self.plan = place, host, plan
        self.dormer, self.thick = place.dormer, place.thick
        core, edge = host.outline.core, place.edge
        way = unit(core[edge], core[(edge + 1) % len(core)])
        inward = left(way)
        self.way, self.inward = (way[0], way[1], 0.0), (inward[0], inward[1], 0.0)
        self.rise = host.edges[edge].pitch
        self.falls = self.dormer.pitch if self.dormer.shape == "lean-to" else 0.0
        self.sole = THICK * math.hypot(1.0, self.rise)
        shape = rafter_shape(plan.roof, 1000.0, self.dormer.pitch)
        self.tails = shape.seat * self.dormer.pitch if self.dormer.overhang > 0.0 else 0.0
        """How far the tails of its rafters hang below its plates at the outside of its walls, mm."""
        self.plumb = section(plan.roof.rafters.size or "2x6").depth * math.hypot(1.0, self.dormer.pitch)

    def low(self, t: float) -> float:
        """Return the height of the deck."""
        return deck_at(self.host, self.place.edge, t)

    def top(self, t: float) -> float:
        """Return the height of a cheek's top: level on its plates, or under the rafters of a lean-to."""
        if not self.falls:
            return self.place.bearing
        return self._under(t - self.place.t[0])

    def _under(self, run: float) -> float:
        return self.plan.bearing + self.plan.plate_to_top + self.dormer.pitch * run - self.plumb

    def across(self, ring: Ring, s: float, wide: float) -> Prism:
        """Return what is seen from its side (t, z), from s on along the eave."""
        x, y = in_plan(self.host, self.place.edge, s, 0.0)
        return Prism((x, y, 0.0), self.inward, (0.0, 0.0, 1.0), (ring,), wide)

    def facing(self, ring: Ring, inner: float, thick: float) -> Prism:
        """Return what is seen from the front (s, z), so thick in front of a place in of the eave."""
        x, y = in_plan(self.host, self.place.edge, 0.0, inner)
        return Prism((x, y, 0.0), self.way, (0.0, 0.0, 1.0), (ring,), thick)

    def cheek(self, side: int) -> DormerWall:
        """Frame a cheek, behind the face."""
        start, size = self.place.t[0] + self.thick, self.dormer.studs
        end = min(start + max(self.top(start) - self.low(start), 0.0) / (self.rise - self.falls), self.place.t[1])
        s = self.place.s[0] if side == LEFT else self.place.s[1] - self.thick
        steep, made = math.hypot(1.0, self.falls), list[Stick]()
        heads = THICK * steep

        def band(first: float, last: float, on_deck: bool) -> Ring:
            line = self.low if on_deck else self.top
            return (
                (start, line(start) + first),
                (end, line(end) + first),
                (end, line(end) + last),
                (start, line(start) + last),
            )

        over_sole = (-self.rise, 1.0), self.low(0.0) + self.sole
        under_heads = (self.falls, -1.0), -(self.top(0.0) - 2.0 * heads)
        rows = [clipped(band(0.0, self.sole, True), *under_heads)]
        rows += [clipped(band(-down, heads - down, False), *over_sole) for down in (2.0 * heads, heads)]
        for ring in rows:
            if len(ring) > 2 and area(ring) > 1e3:
                ts = [t for t, _ in ring]
                slope = self.rise if ring is rows[0] else self.falls
                long = (max(ts) - min(ts)) * math.hypot(1.0, slope)
                made.append(Stick("dormer plate", self.across(ring, s, self.thick), size, long))
        t = start
        while t + THICK < end:
            a, b = t, t + THICK
            foot, head = (self.low(x) + self.sole for x in (a, b)), (self.top(x) - 2.0 * heads for x in (b, a))
            (za, zb), (zc, zd) = tuple(foot), tuple(head)
            if zc - zb > SHORTEST:
                stud: Ring = ((a, za), (b, zb), (b, zc), (a, zd))
                made.append(Stick("dormer stud", self.across(stud, s, self.thick), size, zd - za))
            t += APART
        made.append(self._panel(side))
        return DormerWall(side, tuple(made), self._stretches(s + self.thick / 2.0, start, end))

    def _panel(self, side: int) -> Stick:
        """Return the sheathing of a cheek, outside, from the face to where it dies."""
        start, last = self.place.t
        end = min(start + max(self.top(start) - self.low(start), 0.0) / (self.rise - self.falls), last)
        tails = 0.0 if self.falls else self.tails
        top, low = (start, self.top(start) - tails), (start, self.low(start))
        end -= tails / (self.rise - self.falls)
        ring: Ring = (low, (end, self.low(end)), top)
        s = self.place.s[0] - BOARD if side == LEFT else self.place.s[1]
        return Stick("dormer sheathing", self.across(ring, s, BOARD), "", end - start)

    def _face_panel(self, window: Window | None, top: float) -> Stick:
        """Return the sheathing of a face, in front, its window left out."""
        (s0, s1), front = self.place.s, self.place.t[0]
        low, top = self.low(front), top - (self.tails if self.falls else 0.0)
        ring: Ring = ((s0, low), (s1, low), (s1, top), (s0, top))
        if self.dormer.shape == "gable":
            middle = (s0 + s1) / 2.0
            peak = max(self._under(middle - s0), top)
            level = max(self._under(0.0), top)
            ring = ((s0, low), (s1, low), (s1, level), (middle, peak), (s0, level))
        rings: tuple[Ring, ...] = (ring,)
        if window is not None:
            (a, b), (sill, head) = window.s, window.z
            rings = (ring, ((a, sill), (a, head), (b, head), (b, sill)))
        x, y = in_plan(self.host, self.place.edge, 0.0, front)
        solid = Prism((x, y, 0.0), self.way, (0.0, 0.0, 1.0), rings, BOARD)
        return Stick("dormer sheathing", solid, "", s1 - s0)

    def _stretches(self, s: float, start: float, end: float, count: int = 6) -> tuple[tuple[float, float, float], ...]:
        step, found = (end - start) / count, []
        for k in range(count):
            t = start + (k + 0.5) * step
            found.append((s, t, max(self.top(t) - self.low(t), 0.0) * step))
        return tuple(found)

    def window(self, header: str) -> tuple[Window | None, str]:
        """Return the rough opening in the face; why it finds no room."""
        d, (s0, s1) = self.dormer, self.place.s
        if d.window_width <= 0.0:
            return None, ""
        head = self._plates() - PLATES - section(header).depth
        sill = head - d.window_height
        middle = (s0 + s1) / 2.0
        window = Window((middle - d.window_width / 2.0, middle + d.window_width / 2.0), (sill, head))
        room = 2.0 * THICK + 2.0 * THICK + ROUGH  # corner studs, a jack and a king
        if window.s[0] - s0 < room:
            return (
                None,
                "its window leaves no room for jacks and kings beside it: make it narrower, or the dormer wider",
            )
        if sill - THICK < self.low(self.place.t[0] + self.thick) + self.sole:
            return None, "its window reaches down into the roof: make it lower, or the dormer's plates higher"
        return window, ""

    def _plates(self) -> float:
        """Return the height of the top of the face's plates."""
        return self.place.bearing

    def face(self, window: Window | None, header: str) -> DormerWall:
        """Frame the face: plates, corner studs, studs, the window, and studs up to the rafters of a gable."""
        (s0, s1), t0, t1, size = self.place.s, self.place.t[0], self.place.t[0] + self.thick, self.dormer.studs
        top, made = self._plates(), list[Stick]()

        def level(
            role: str, a: float, b: float, z: float, tall: float, name: str = size, deep: float | None = None
        ) -> None:
            deep = self.thick if deep is None else deep
            ring: Ring = ((t1 - deep, z), (t1, z), (t1, z + tall), (t1 - deep, z + tall))
            made.append(Stick(role, self.across(ring, a, b - a), name, b - a))

        sole: Ring = (
            (t0, self.low(t0)),
            (t1, self.low(t1)),
            (t1, self.low(t1) + self.sole),
            (t0, self.low(t0) + self.sole),
        )
        made.append(Stick("dormer plate", self.across(sole, s0, s1 - s0), size, s1 - s0))
        for down in (PLATES, THICK):
            level("dormer plate", s0, s1, top - down, THICK)

        def stud(s: float, high: float, foot: float | None = None) -> None:
            low = (self.low(t0) + self.sole, self.low(t1) + self.sole) if foot is None else (foot, foot)
            if high - max(low) > SHORTEST:
                ring: Ring = ((t0, low[0]), (t1, low[1]), (t1, high), (t0, high))
                made.append(Stick("dormer stud", self.across(ring, s, THICK), size, high - min(low)))

        under = top - PLATES
        corners = [s0, s0 + THICK, s1 - 2.0 * THICK, s1 - THICK]
        kings, jacks = list[float](), list[float]()
        if window is not None:
            (a, b), (sill, head) = window.s, window.z
            jacks, kings = [a - THICK, b], [a - 2.0 * THICK, b + THICK]
            level(
                "dormer header",
                a - THICK,
                b + THICK,
                head,
                section(header).depth,
                header,
                min(section(header).breadth, self.thick),
            )
            level("dormer plate", a, b, sill - THICK, THICK)
        for s in (*corners, *kings):
            stud(s, under)
        for s in jacks:
            stud(s, window.z[1] if window is not None else under)
        for s, cripple in self._between([*corners, *kings, *jacks], window):
            stud(s, window.z[0] - THICK if cripple and window is not None else under)
        made += self._gable(top) if self.dormer.shape == "gable" else []
        made.append(self._face_panel(window, top))
        return DormerWall(FRONT, tuple(made), self._face_parts(top))

    def _between(self, taken: list[float], window: Window | None) -> Iterator[tuple[float, bool]]:
        """Yield where studs stand between those that are there, and whether below the sill."""
        s = self.place.s[0] + APART
        while s < self.place.s[1] - 2.0 * THICK:
            below = window is not None and window.s[0] <= s <= window.s[1] - THICK
            beside = window is None or not window.s[0] - THICK < s < window.s[1]
            if below or (beside and all(abs(s - other) > THICK for other in taken)):
                yield s, below
            s += APART

    def _gable(self, top: float) -> list[Stick]:
        (s0, s1), inner, made = self.place.s, self.place.t[0] + self.thick, list[Stick]()
        middle, s = (s0 + s1) / 2.0, s0 + APART
        while s < s1 - THICK:
            a, b = s, s + THICK
            ends = [self._under(min(x - s0, s1 - x)) for x in (a, b)]
            if min(ends) - top > SHORTEST and not a - THICK < middle < b + THICK:
                ring: Ring = ((a, top), (b, top), (b, ends[1]), (a, ends[0]))
                made.append(
                    Stick("dormer stud", self.facing(ring, inner, self.thick), self.dormer.studs, max(ends) - top)
                )
            s += APART
        return made

    def _face_parts(self, top: float, count: int = 6) -> tuple[tuple[float, float, float], ...]:
        """Return stretches of the face, its window and gable counted as wall."""
        (s0, s1), t = self.place.s, self.place.t[0] + self.thick / 2.0
        step, found = (s1 - s0) / count, []
        for k in range(count):
            s = s0 + (k + 0.5) * step
            gable = self.dormer.pitch * min(s - s0, s1 - s) if self.dormer.shape == "gable" else 0.0
            found.append((s, t, (max(top - self.low(t), 0.0) + gable) * step))
        return tuple(found)
