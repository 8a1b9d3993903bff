"""Stud walls: where studs, plates, headers and sills lie, then the solids.

All are laid out in the plane of the wall: x along the set-out line from its start, z above its foot.
"""

import math
from bisect import bisect_left, insort
from collections.abc import Callable
from typing import Literal, NamedTuple

from balken.catalog.sections import section
from balken.framing.bands import WallLine
from balken.framing.joints import EndJoint, Joints
from balken.framing.pieces import EVEN, Piece, split_run
from balken.framing.roles import Role
from balken.framing.walls import BESIDE, GableTop
from balken.geometry.plane import Point, Ring
from balken.geometry.prism import UP, Prism, Vec
from balken.model.buildups import stud_size
from balken.model.naming import MemberPlace, Places, piece_name, place_at
from balken.model.records import Opening
from balken.remembered import remembered
from balken.units.system import INCH
from balken.value import Value

T = 1.5 * INCH
"""Thickness of studs and plates, mm."""
LEAST_CRIPPLE = 1.5 * INCH
"""Nobody nails in a cripple shorter than this."""
PLATE_OFFSET = 24.0 * INCH
"""Joints of the two top plates lie at least this far apart, IRC R602.3.2."""
UPRIGHTS = frozenset({"stud", "king stud", "jack stud", "post stud", "cripple"})
TRIMMED = frozenset({"header", "rough sill", "bottom plate", "top plate", "ribbon"})
"""What is cut from the lumber of headers and plates."""


class Trimming(Value, frozen=True):
    """What frames one opening: header size, jack and king studs at each side."""

    header: str
    jacks: int = 1
    kings: int = 1


class PostUnder(NamedTuple):
    """A built-up post under what stands on the wall: under what, its middle along the wall, its studs."""

    source: str
    at: float
    plies: int


class WallTrouble(Value, frozen=True):
    """Something that cannot be framed: what is in the way, and where along the wall."""

    kind: Literal["no room for header", "no room for studs"]
    opening: str
    at: float
    short: float


class Stick(Value, frozen=True):
    """One piece of a stud wall: its outline in (x, z), its section, the length of the board, its opening."""

    role: Role
    place: str
    ring: Ring
    size: str
    length: float
    opening: str = ""

    def key(self, wall: str) -> str:
        """Return the key of its piece in a wall."""
        return piece_name(wall, self.role.replace(" ", "-"), self.place)


class StudWall(Value, frozen=True):
    """A wall's framing and what could not be framed; ``module`` are the centres of the common studs."""

    wall: str
    sticks: tuple[Stick, ...]
    troubles: tuple[WallTrouble, ...]
    module: tuple[float, ...]


def clear_height(line: WallLine, gable: GableTop | None) -> float:
    """Return the height of the tallest stud between its plates, mm."""
    tall = line.band.top - line.band.bottom
    if gable is not None:
        tall = max(tall, gable.height(gable.highest, False) - line.band.bottom)
    return max(tall - 3.0 * T, T)


class _Top:
    """The line of the wall's head: level, or raking under a gable."""

    def __init__(self, line: WallLine, gable: GableTop | None, a: float, b: float) -> None:
        self.flat = line.band.top - line.band.bottom
        self.gable = gable
        self.bottom = line.band.bottom
        self.pockets = () if gable is None else tuple((p, q, z - self.bottom) for p, q, z, _ in gable.pockets)
        self.breaks = () if gable is None else tuple(x for x in gable.breaks if a < x < b)
        self.steps = () if gable is None else tuple(x for x in gable.steps if a < x < b)

    def head(self, x: float) -> float:
        """Height of the top of the plates."""
        if self.gable is None:
            return self.flat
        return max(self.gable.underside(x) - self.bottom, 4.0 * T)

    def sloped(self, x: float) -> float:
        """How much longer the top plates are than the wall below them."""
        return 1.0 if self.gable is None else math.hypot(1.0, self.gable.slope(x)[0])

    def plate(self, x: float) -> float:
        """Thickness of one top plate measured plumb."""
        return T * self.sloped(x)

    def under(self, x: float) -> float:
        """Height of the underside of the top plates."""
        return self.head(x) - 2.0 * self.plate(x)

    def lid(self, left: float, right: float) -> float:
        """Return how high what stands between two places may reach under what runs through the wall's top."""
        return min((z for p, q, z in self.pockets if p < right - 0.5 and left < q - 0.5), default=math.inf)

    def parted(self, layer: int) -> list[tuple[float, float]]:
        """Return where the lower (0) or upper (1) top plates are parted by what runs through them."""
        rows = []
        for p, q, z in self.pockets:
            middle = (p + q) / 2.0
            highest = max(self.head(x) for x in (p, middle, q))
            if z < highest - (1 - layer) * self.plate(middle) - 0.5:
                rows.append((p, q))
        return rows

    def strip(self, a: float, b: float, top: float, deep: float) -> Ring:
        """Return the outline between x a and b, from ``top`` to ``top + deep`` below the head."""
        first, last = (
            self.head(x + off if any(abs(x - s) < BESIDE for s in self.steps) else x)
            for x, off in ((a, 2.0 * BESIDE), (b, -2.0 * BESIDE))
        )
        return ((a, first - top - deep), (b, last - top - deep), (b, last - top), (a, first - top))


def stud_wall(
    line: WallLine,
    joints: Joints,
    openings: tuple[Opening, ...],
    gable: GableTop | None,
    spacing: float,
    trims: dict[str, Trimming],
    stock: float,
    ribbons: tuple[float, ...] = (),
    posts: tuple[PostUnder, ...] = (),
) -> StudWall:
    """Frame a wall with a core of studs; ``trims`` by opening id, ``ribbons`` heights of floors let in.

    ``posts``: built-up posts under columns that stand on it.

    Raises ValueError for a core of something else.
    """
    size = stud_size(line.buildup)
    if size is None:
        raise ValueError("the core of the wall is not made of studs")
    a, b = joints.spans[line.band.core[0]]
    top = _Top(line, gable, a, b)
    made = _Framer(line, joints, openings, spacing, trims, stock, size, (a, b), top)
    return made.run(ribbons, posts)


class _Framer:
    """One wall in the making."""

    def __init__(
        self,
        line: WallLine,
        joints: Joints,
        openings: tuple[Opening, ...],
        spacing: float,
        trims: dict[str, Trimming],
        stock: float,
        size: str,
        span: tuple[float, float],
        top: _Top,
    ) -> None:
        self.line, self.joints, self.stock, self.size, self.top = line, joints, stock, size, top
        self.openings = tuple(sorted(openings, key=lambda o: (o.offset, o.sill)))
        self.spacing, self.trims = spacing, trims
        self.a, self.b = span
        self.sticks: list[Stick] = []
        self.troubles: list[WallTrouble] = []
        self.taken: list[tuple[float, float]] = []
        self.places = Places()
        self.opening = ""

    def run(self, ribbons: tuple[float, ...], posts: tuple[PostUnder, ...]) -> StudWall:
        self._bottom_plates()
        self._top_plates()
        module = self._module()
        for opening in self.openings:
            self.opening = opening.id
            self._sides(opening)
        self.opening = ""
        for post in posts:
            self._post(post)
        self._ends()
        for x in self.top.steps:
            for side in (-T / 2.0, T / 2.0):
                self._stud(x + side, place_at("step", x - self.a + side))
        for tee in self.joints.tees:
            for x in (tee.at - tee.width / 2.0, tee.at + tee.width / 2.0):
                self._stud(x, place_at(f"tee {tee.wall}", x - tee.at + tee.width))
        for x in module:
            self._stud(x)
        for opening in self.openings:
            self.opening = opening.id
            self._across(opening, module)
        self.opening = ""
        for z in ribbons:
            self._ribbon(z)
        return StudWall(self.line.wall.id, tuple(self.sticks), tuple(self.troubles), tuple(module))

    # Pieces ------------------------------------------------------------------------------------

    def _add(self, role: Role, ring: Ring, length: float, at: MemberPlace, size: str = "") -> None:
        place = self.places.text(role, at)
        self.sticks.append(Stick(role, place, ring, size or self.size, length, self.opening))

    def _from_end(self, x: float) -> MemberPlace:
        """Return a place counted from the end of the wall that studs are counted from."""
        if self.line.wall.framing.count_from == "start":
            return place_at("start", x - self.a)
        return place_at("end", self.b - x)

    def _upright(
        self, role: Role, x: float, low: float, high: Callable[[float], float], at: MemberPlace | None = None
    ) -> None:
        """Add a stud about x from a level foot to the line ``high``; its place counts from the wall's end, or is ``at``."""
        left, right = x - T / 2.0, x + T / 2.0
        lid = self.top.lid(left, right)
        off = BESIDE if self.top.steps else 0.0  # beside a step, not on it
        across = [x for x in self.top.steps if left + off < x < right - off]
        if across:  # what cannot but stand under a step ends below its lower side
            lid = min(lid, *(high(x) for s in across for x in (left + off, s, s + off, right - off)))
        points = [(left, low), (right, low), (right, min(high(right - off), lid))]
        points += [(x, min(high(x), lid)) for x in reversed(self.top.breaks) if left < x < right]
        points.append((left, min(high(left + off), lid)))
        self._add(role, tuple(points), max([z for _, z in points]) - low, at or self._from_end(x))

    def _free(self, left: float, right: float) -> bool:
        inside = left > self.a - 0.5 and right < self.b + 0.5
        if not inside:
            return False
        # Those that stand already are kept in order, each T wide: only the first one not left of here can be in the way.
        i = bisect_left(self.taken, (left - T + 0.5, 0.0))
        return i == len(self.taken) or self.taken[i][0] >= right - 0.5

    def _stud(self, x: float, at: MemberPlace | None = None) -> bool:
        """Add a full-height stud unless something stands there."""
        left, right = x - T / 2.0, x + T / 2.0
        if not self._free(left, right) or self.top.under((left + right) / 2.0) < 2.0 * T:
            return False
        for o in self.openings:
            if left < o.offset + o.width - 0.5 and right > o.offset + 0.5:
                return False
        insort(self.taken, (left, right))
        self._upright("stud", x, T, self.top.under, at)
        return True

    # Plates ------------------------------------------------------------------------------------

    def _bottom_plates(self) -> None:
        doors = [(o.offset, o.offset + o.width) for o in self.openings if o.sill <= 0.0]
        for p, q in _without((self.a, self.b), doors):
            for u, v in split_run(q - p, self.stock):
                ring = ((p + u, 0.0), (p + v, 0.0), (p + v, T), (p + u, T))
                self._add("bottom plate", ring, v - u, place_at("start", p + u - self.a))

    def _top_plates(self) -> None:
        top = self.top
        tall = [(o.offset, o.offset + o.width) for o in self.openings if o.sill + o.height > top.flat - 2.0 * T]
        for layer, (p, q) in enumerate(((self.a, self.b), self._lapped())):
            holes = list(tall) if top.gable is None else top.parted(layer)
            if layer == 1 and top.gable is None:
                holes += [
                    (t.at - t.width / 2.0, t.at + t.width / 2.0)
                    for t in self.joints.tees
                    if abs(t.top - self.line.band.top) < 1.0
                ]
            breaks = [p, *top.breaks, q]
            for i in range(len(breaks) - 1):
                middle = (breaks[i] + breaks[i + 1]) / 2.0
                plate, sloped = top.plate(middle), top.sloped(middle)
                for u0, v0 in _without((breaks[i], breaks[i + 1]), holes):
                    for u, v in _courses(v0 - u0, self.stock / sloped, layer == 1):
                        ring = top.strip(u0 + u, u0 + v, (1 - layer) * plate, plate)
                        at = place_at(f"start{layer}", u0 + u - self.a)
                        self._add("top plate", ring, (v - u) * sloped, at)

    def _lapped(self) -> tuple[float, float]:
        """Return where the upper top plate runs: it laps over the walls it meets, and they over it."""
        if self.top.gable is not None:
            return self.a, self.b
        ends = []
        for sign, joint in zip((1.0, -1.0), self.joints.ends, strict=True):
            same = abs(joint.top - self.line.band.top) < 1.0
            ends.append(sign * self._lap(joint) if same else 0.0)
        return self.a + ends[0], self.b + ends[1]

    @staticmethod
    def _lap(joint: EndJoint) -> float:
        """Return by how much the upper plate is held back (below zero: runs on over the other wall)."""
        return {"through": joint.width, "butt": -joint.width, "tee": -joint.width}.get(joint.kind, 0.0)

    def _ribbon(self, z: float) -> None:
        for p, q in _without((self.a, self.b), self._holes(z)):
            for u, v in split_run(q - p, self.stock):
                deep = section("1x4").depth
                ring = ((p + u, z - deep), (p + v, z - deep), (p + v, z), (p + u, z))
                self._add("ribbon", ring, v - u, place_at("start", p + u - self.a), "1x4")

    def _holes(self, z: float) -> list[tuple[float, float]]:
        return [(o.offset, o.offset + o.width) for o in self.openings if o.sill < z < o.sill + o.height]

    # Studs -------------------------------------------------------------------------------------

    def _module(self) -> list[float]:
        """Return the centres of common studs, on centre from the end counted from."""
        found: list[float] = []
        forward = self.line.wall.framing.count_from == "start"
        k = 1
        while True:
            x = self.a + k * self.spacing if forward else self.b - k * self.spacing
            if not self.a + T < x < self.b - T:
                return found
            found.append(x)
            k += 1

    def _ends(self) -> None:
        self._stud(self.a + T / 2.0, place_at("start", T / 2.0))
        self._stud(self.b - T / 2.0, place_at("end", T / 2.0))
        ends = zip(self.joints.ends, (self.a, self.b), (1.0, -1.0), ("start", "end"), strict=True)
        for joint, end, sign, name in ends:
            if joint.kind == "through":
                # Backing for the lining of this wall, half of it behind the wall that butts.
                self._stud(end + sign * joint.width, place_at(name, joint.width))

    def _sides(self, o: Opening) -> None:
        trim = self.trims.get(o.id, Trimming("2-2x4"))
        low, high = o.offset, o.offset + o.width
        foot = T
        head = o.sill + o.height
        for side, sign, name in ((low, -1.0, f"{o.id}<"), (high, 1.0, f"{o.id}>")):
            for k in range(trim.jacks):
                x = side + sign * (k + 0.5) * T
                if not self._free(x - T / 2.0, x + T / 2.0):
                    self.troubles.append(WallTrouble("no room for studs", o.id, side, T))
                    continue
                insort(self.taken, (x - T / 2.0, x + T / 2.0))
                self._upright("jack stud", x, foot, lambda _: head, place_at(name, k * T))
            for k in range(trim.kings):
                x = side + sign * (trim.jacks + k + 0.5) * T
                if self._free(x - T / 2.0, x + T / 2.0):
                    insort(self.taken, (x - T / 2.0, x + T / 2.0))
                    self._upright("king stud", x, T, self.top.under, place_at(name, k * T))
                elif not self._shares(x):
                    self.troubles.append(WallTrouble("no room for studs", o.id, side, T))

    def _post(self, post: PostUnder) -> None:
        """Put studs side by side under a column, moved along only as far as the end of the wall asks for."""
        first = min(max(post.at - post.plies * T / 2.0, self.a), self.b - post.plies * T)
        for k in range(post.plies):
            x = first + (k + 0.5) * T
            if not self._free(x - T / 2.0, x + T / 2.0):
                self.troubles.append(WallTrouble("no room for studs", post.source, post.at, T))
                continue
            insort(self.taken, (x - T / 2.0, x + T / 2.0))
            self._upright("post stud", x, T, self.top.under, place_at(post.source, k * T))

    def _shares(self, x: float) -> bool:
        """Tell whether a king or jack of the next opening stands just there and serves both."""
        return any(abs((p + q) / 2.0 - x) < 0.5 * T for p, q in self.taken)

    def _across(self, o: Opening, module: list[float]) -> None:
        trim = self.trims.get(o.id, Trimming("2-2x4"))
        low, high = o.offset, o.offset + o.width
        reach = trim.jacks * T
        deep = section(trim.header).depth
        bottom = o.sill + o.height
        top = bottom + deep
        a, b = low - reach, high + reach
        room = min(self.top.under(a), self.top.under(b)) - top
        self._add("header", ((a, bottom), (b, bottom), (b, top), (a, top)), b - a, place_at(o.id, 0.0), trim.header)
        if room < -0.5:
            self.troubles.append(WallTrouble("no room for header", o.id, (low + high) / 2.0, -room))
        inside = [x for x in module if a - 0.5 < x - T / 2.0 and x + T / 2.0 < b + 0.5]
        for x in inside:
            if self.top.under(x) - top >= LEAST_CRIPPLE:
                self._upright("cripple", x, top, self.top.under, place_at(f"{o.id}^", self._from_end(x).at))
        if o.sill > 0.0:
            self._sill(o, module)

    def _sill(self, o: Opening, module: list[float]) -> None:
        low, high = o.offset, o.offset + o.width
        z = o.sill - T
        if z < T:
            return
        self._add("rough sill", ((low, z), (high, z), (high, o.sill), (low, o.sill)), high - low, place_at(o.id, 0.0))
        if z - T < LEAST_CRIPPLE:
            return
        ends = [low + T / 2.0, high - T / 2.0]
        between = [x for x in module if low + 1.5 * T < x < high - 1.5 * T]
        rows = [(x, place_at(f"{o.id}_", self._from_end(x).at)) for x in between]
        for x, at in [(ends[0], place_at(f"{o.id}_<", 0.0)), *rows, (ends[1], place_at(f"{o.id}_>", 0.0))]:
            self._upright("cripple", x, T, lambda _: z, at)


def _without(run: tuple[float, float], holes: list[tuple[float, float]]) -> list[tuple[float, float]]:
    """Return what is left of a run when stretches are taken out."""
    left = [run]
    for p, q in holes:
        left = [(u, v) for a, b in left for u, v in ((a, min(b, p)), (max(a, q), b)) if v - u > 1.0]
    return left


def _courses(length: float, stock: float, upper: bool) -> list[tuple[float, float]]:
    """Cut a plate to stock; the upper one's joints lie half a stock length off the lower one's."""
    if not upper or length <= stock + EVEN:
        return split_run(length, stock)
    first = stock / 2.0
    if stock - first < PLATE_OFFSET:
        return split_run(length, stock)
    return [(0.0, first), *((u + first, v + first) for u, v in split_run(length - first, stock))]


def stud_pieces(line: WallLine, sticks: tuple[Stick, ...]) -> tuple[Piece, ...]:
    """Return sticks of a wall as solids where the wall stands."""
    band, framing = line.band, line.wall.framing
    wall_id, level, bottom = line.wall.id, line.wall.foot.level, band.bottom
    common = (framing.species, framing.grade, wall_id)
    trimmed = (framing.header_species, framing.header_grade, wall_id)
    along = (*band.direction, 0.0)
    pieces = []
    for stick in sticks:
        role, ring = stick.role, stick.ring
        origin, deep, (mx, my) = _placed(line, role, stick.size)
        dx, dy = band.direction
        xs, zs = zip(*ring, strict=True)
        x0, x1 = min(xs), max(xs)
        if role in UPRIGHTS:
            x = (x0 + x1) / 2.0
            x0 = x1 = x
            z0, z1 = bottom + min(zs), bottom + max(zs)
        else:
            z0 = bottom + min([z for x, z in ring if x < x0 + 1.0])
            z1 = bottom + min([z for x, z in ring if x > x1 - 1.0])
        pieces.append(
            Piece(
                stick.key(wall_id),
                role,
                wall_id,
                level,
                Prism(origin, along, UP, (ring,), deep),
                "timber",
                (mx + x0 * dx, my + x0 * dy, z0),
                (mx + x1 * dx, my + x1 * dy, z1),
                stick.length,
                stick.size,
                *(trimmed if role in TRIMMED else common),
            )
        )
    return tuple(pieces)


@remembered(8_000)
def _placed(line: WallLine, role: Role, size: str) -> tuple[Vec, float, Point]:
    """Return where the profiles of a kind of stick lie: their plane's origin, how deep they are, the middle in plan."""
    lumber = section(size)
    near, far = line.core
    if role == "header":
        far = near + min(lumber.breadth, far - near)
    elif role == "ribbon":
        near = far - lumber.breadth
    else:
        far = min(near + lumber.depth, far)
    at = line.band.at(0.0, far if line.wall.outside == "right" else near)
    return (*at, line.band.bottom), far - near, line.band.at(0.0, (near + far) / 2.0)
