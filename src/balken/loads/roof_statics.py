"""Roofs of planes solved: what rafters hand to walls and to hips, valleys and ridge beams, and these to what holds their ends.

A rafter bears half at its foot (wall or valley) and half at its head (hip, ridge beam or wall), its overhang at its foot; against
a ridge board it leans on the one opposite and all of it comes to its foot (IRC R802.3: such a board carries nothing).

Hips, valleys and ridge beams are beams between what holds their ends: walls of the outline, or posts.  What comes to an end that
nothing holds goes down again along the hips and valleys that lead down from it, as lines that lean on one another bring it, so
that all of it arrives at walls.  The ring that this takes is not designed: such ends are told (``Unheld``).

Feet and ends that come down on a roof below press on its rafters (``Spread.onto``); what stands on a rafter goes to its two ends by
the lever, or, where that leans on a ridge board, to its own foot and that of the one opposite as three hinges have it.
"""

import itertools
import math
from collections.abc import Iterator, Mapping
from typing import NamedTuple

import shapely

from balken.framing.roof_layout import line_runs
from balken.framing.surface_roofs import STEP, SurfacePlan
from balken.framing.surface_ties import SurfaceTie
from balken.geometry.plane import Point, add, chords, distance, dot, left, off_line, sub, to_segment, unit
from balken.geometry.roof_surface import Place, RoofFace, RoofLine
from balken.loads.area_loads import Reaction, ceiling_cases, line_reactions, roof_cases
from balken.loads.cases import Cases
from balken.loads.roof_feet import LAID, NOTHING, Foot, UnderRoofs, covered_on, lower_at, planes_at, stands_on
from balken.loads.roof_snow import PlaneSnow, RoofSnow, heaped
from balken.model.naming import piece_name
from balken.model.records import Loads
from balken.value import Value

NEAR = 2.0
"""What lies closer than this lies at one place, mm."""
POST = 150.0
"""A post holds an end no farther than this from its middle, mm."""
BESIDE = 60.0
"""A post holds a line in between no farther than this from its middle, mm."""
CARRIES = ("hip", "valley")

Posts = tuple[tuple[str, Point], ...]
"""What stands free under a roof: its id and its middle in plan."""


class Patch(NamedTuple):
    """What lies on a line: from where to where along it in plan from its lower end, mm; how much at both ends, N a mm."""

    start: float
    end: float
    first: Cases
    last: Cases

    @property
    def force(self) -> Cases:
        """All of it, N."""
        return self.first.plus(self.last).scaled((self.end - self.start) / 2.0)


class LineLoad(Value, frozen=True):
    """A hip, valley or ridge beam: its ends (the lower one first), what lies on it, where posts hold it between its ends."""

    line: RoofLine
    low: Place
    high: Place
    patches: tuple[Patch, ...]
    between: tuple[tuple[str, float], ...]

    @property
    def run(self) -> float:
        """In plan, mm."""
        return distance(self.low[:2], self.high[:2])


class Spread(Value, frozen=True):
    """A roof's load spread: on walls as reactions, and on each line that carries (by the number of its first in the surface)."""

    walls: tuple[Reaction, ...]
    lines: dict[int, LineLoad]
    heaps: Cases
    """What lies in drifts and slides, and is no part of even snow, N."""
    onto: tuple[Foot, ...] = ()
    """What jacks bring down on roofs below."""


class Unheld(Value, frozen=True):
    """An end of lines that nothing holds: where, what comes there, N by case, the lines (by their numbers) that end there."""

    at: Place
    force: Cases
    lines: tuple[int, ...]


class Settled(Value, frozen=True):
    """Where ends of lines come down: on walls and posts, at places; and those that nothing holds."""

    points: tuple[Reaction, ...]
    unheld: tuple[Unheld, ...]
    onto: tuple[Foot, ...] = ()


def spread(
    plan: SurfacePlan, loads: Loads, snow: RoofSnow, posts: Posts, over: UnderRoofs = NOTHING, most: bool = False
) -> Spread:
    """Lay a roof's load on what its rafters bear on; ``over``: what lies over it, ``most``: with the most snow that may lie on each
    plane, all over it.
    """
    kinds = CARRIES if plan.roof.ridge_made == "board" else (*CARRIES, "ridge")
    runs = {run.numbers[0]: run for run in line_runs(plan.surface) if run.line.kind in kinds}
    carrying = {i: first for first, run in runs.items() for i in run.numbers}
    patches: dict[int, list[Patch]] = {first: [] for first in runs}
    walls: list[Reaction] = []
    onto: list[Foot] = []
    key, every = piece_name(plan.roof.id, "plane"), Cases()
    for face in plan.surface.faces:
        lies = snow.planes[face.edge]
        q, side = roof_cases(loads, face.pitch, lies.most if most else lies.laid), _Side(plan, face)
        for strip in side.strips(STEP if snow.bands else 0.0, over.covered):
            foot, head = side.held(strip, 0, carrying), side.held(strip, 1, carrying)
            part = 0.5 if foot is not None and head is not None else 1.0
            heap, far = heaped(snow.bands, *side.middle(strip))
            heaps = (heap * (1.0 - far), heap * far) if part < 1.0 else (heap, heap)
            bare, middle = covered_on(over.covered, *side.middle(strip))
            bares = (bare * (1.0 - middle), bare * middle) if part < 1.0 else (bare, bare)
            for end, on in ((0, foot), (1, head)):
                if on is None and (end == 1 or head is not None):
                    continue  # nothing there; where nothing is at either end, all comes to the wall under the eave
                wide = (strip.last - strip.first) / 1000.0
                more = Cases(snow=max(heaps[end] - _over(lies, strip.long, part), 0.0) * wide)
                every = every.plus(more)
                more = more.plus(Cases(roof_live=-q.roof_live * bares[end] * wide, snow=-q.snow * bares[end] * wide))
                if isinstance(on, int):
                    ends = _ends(runs[on].line)
                    patches[on].append(side.patch(strip, end, ends, q.scaled(part / 1000.0)))
                    patches[on] += side.heap(strip, end, ends, more)
                else:
                    brought = list(side.onto(strip, end, on, q.scaled(part / 1000.0), key))
                    if any(more):
                        brought += side.onto(strip, end, on, more.scaled(1.0 / strip.area), key)
                    if on == LAID:
                        onto += [Foot(lower_at(plan, r.at), r.at, r.force) for r in brought]
                    else:
                        walls += brought
    walls += _beyond(plan, loads, snow, key)
    sides = {face.edge: _Side(plan, face) for face in plan.surface.faces} if over.feet else {}
    for pressing, edge in zip(over.feet, planes_at(plan, [foot.at for foot in over.feet]), strict=True):
        for bears, at, force in _from_foot(sides, sides[edge], pressing, carrying):
            if isinstance(bears, int):
                patches[bears].append(_point_patch(_ends(runs[bears].line), at, force))
            elif bears == LAID:
                onto.append(Foot(lower_at(plan, at), at, force))
            else:
                walls.append(Reaction(key, bears, at, force))
    lines = {i: _loaded(runs[i].line, rows, posts) for i, rows in patches.items()}
    return Spread(tuple(walls), lines, every, tuple(onto))


POINT = 50.0
"""What comes to a line at a place lies on so much of it, mm."""


def _point_patch(on: tuple[Place, Place], at: Point, force: Cases) -> Patch:
    """Return what comes to a line at a place, as a short patch within it."""
    long = distance(on[0][:2], on[1][:2])
    half = min(POINT, long) / 2.0
    u = min(max(dot(unit(on[0][:2], on[1][:2]), sub(at, on[0][:2])), half), long - half)
    q = force.scaled(0.5 / half)
    return Patch(u - half, u + half, q, q)


def _from_foot(
    sides: "Mapping[int, _Side]", side: "_Side", foot: Foot, carrying: Mapping[int, int]
) -> Iterator[tuple[int | str, Point, Cases]]:
    """Yield where what stands on a plane goes: along the rafter there to what holds its foot and its head."""
    s, t = side.local((*foot.at, 0.0))
    low, high, s = side.chord(s, t)
    x = min(max(t - low, 0.0), high - low)
    own, held = side.held_at(s, low, carrying), side.held_at(s, high, carrying)
    if held is not None and own is not None:
        part = x / (high - low)
        yield own, side.bears(s, low, own), foot.force.scaled(1.0 - part)
        yield held, side.bears(s, high, held), foot.force.scaled(part)
        return
    if held is not None:
        yield held, side.bears(s, high, held), foot.force
        return
    own = side.wall if own is None else own
    over = _opposite(sides, side, s, high, carrying)
    if over is None:
        yield own, side.bears(s, low, own), foot.force
        return
    run, on, at = over
    part = x / (high - low + run)
    yield own, side.bears(s, low, own), foot.force.scaled(1.0 - part)
    yield on, at, foot.force.scaled(part)


def _opposite(
    sides: "Mapping[int, _Side]", side: "_Side", s: float, high: float, carrying: Mapping[int, int]
) -> tuple[float, int | str, Point] | None:
    """Return of the rafter on which one leans at a ridge board: its run, what holds its foot, where."""
    at = side.back(s, high)
    for _, line in side.lines:
        if line.kind == "ridge" and to_segment(at, line.start[:2], line.end[:2]) < NEAR:
            other = next((sides[e] for e in line.edges if e != side.edge and e in sides), None)
            if other is None:
                return None
            u, t = other.local((*at, 0.0))
            low, top, u = other.chord(u, t)
            on = other.held_at(u, low, carrying)
            on = other.wall if on is None else on
            return top - low, on, other.bears(u, low, on)
    return None


def _over(lies: PlaneSnow, long: float, part: float) -> float:
    """Return by how much snow laid evenly on a rafter ``long`` mm is more than the balanced that drifts lie on, kN/m2 times mm."""
    return (lies.laid - lies.balanced) * long * part


def unframed(plan: SurfacePlan, loads: Loads, snow: RoofSnow) -> tuple[Reaction, ...]:
    """Return the load of a roof without rafters, and of the ceiling under it, at the walls under its eaves."""
    key = piece_name(plan.roof.id, "plane")
    roof = [
        Reaction(key, wall, at, _on_plane(plan, loads, snow, edge).scaled(size / 1000.0))
        for wall, at, size, edge in plan.shares
    ]
    return (*roof, *ceiling_reactions(plan, loads, ()))


def ceiling_reactions(plan: SurfacePlan, loads: Loads, ties: tuple[SurfaceTie, ...]) -> tuple[Reaction, ...]:
    """Return what the ceiling under a roof brings: ties their strips to all they lie on, the rest comes to the walls about it."""
    q, key = ceiling_cases(loads), piece_name(plan.roof.id, "ceiling")
    whole = sum(size for _, _, size, _ in plan.inside)
    on_ties = sum((high - low) * width for tie in ties for low, high, width in tie.line.loaded)
    # Ties closer than their spacing carry no more than there is.
    own = q.scaled(min(whole / on_ties, 1.0)) if on_ties > 0.0 else q
    found = [r for tie in ties for r in line_reactions(tie.key, tie.line, own, tie.frame.back)]
    rest = max(whole - on_ties, 0.0) / whole if whole else 0.0
    return (*found, *(Reaction(key, wall, at, q.scaled(size * rest / 1000.0)) for wall, at, size, _ in plan.inside))


def _loaded(line: RoofLine, rows: list[Patch], posts: Posts) -> LineLoad:
    low, high = _ends(line)
    long, found = distance(low[:2], high[:2]), []
    for post, at in posts:
        along, aside = off_line(at, low[:2], high[:2])
        if abs(aside) <= BESIDE and POST < along < long - POST:
            found.append((post, along))
    return LineLoad(line, low, high, tuple(rows), tuple(sorted(found, key=lambda row: row[1])))


def _ends(line: RoofLine) -> tuple[Place, Place]:
    low, high = sorted((line.start, line.end), key=lambda p: p[2])
    return (line.start, line.end) if line.kind == "ridge" else (low, high)


def _on_plane(plan: SurfacePlan, loads: Loads, snow: RoofSnow, edge: int) -> Cases:
    return roof_cases(loads, plan.edges[edge].pitch, snow.planes[edge].laid)


def _beyond(plan: SurfacePlan, loads: Loads, snow: RoofSnow, key: str) -> Iterator[Reaction]:
    """Yield what lies beyond the outline, at the wall under its eave."""
    rest: dict[tuple[str, Point, int], float] = {}
    for sign, shares in ((1.0, plan.shares), (-1.0, plan.inside)):
        for wall, at, size, edge in shares:
            rest[(wall, at, edge)] = rest.get((wall, at, edge), 0.0) + sign * size
    for (wall, at, edge), size in rest.items():
        if abs(size) > 1.0:
            yield Reaction(key, wall, at, _on_plane(plan, loads, snow, edge).scaled(size / 1000.0))


class _Strip(NamedTuple):
    """What of a plane lies between two places along its eave: where, how far in its lower and its upper end are, mm."""

    first: float
    last: float
    low: tuple[float, float]
    high: tuple[float, float]

    @property
    def long(self) -> float:
        """From foot to head in plan, in the middle, mm."""
        return (sum(self.high) - sum(self.low)) / 2.0

    @property
    def area(self) -> float:
        """In plan, mm2."""
        return self.long * (self.last - self.first)


class _Side:
    """A plane, seen from its eave: s along it, t inward."""

    def __init__(self, plan: SurfacePlan, face: RoofFace) -> None:
        core = plan.outline.core
        self.plan, self.edge = plan, face.edge
        self.start, end = core[face.edge], core[(face.edge + 1) % len(core)]
        self.way, self.long = unit(self.start, end), distance(self.start, end)
        self.inward = left(self.way)
        self.ring = [self.local(p) for p in face.ring]
        self.lines = [(i, x) for i, x in enumerate(plan.surface.lines) if face.edge in x.edges]

    def local(self, p: Place) -> Point:
        """Return a place along the eave and inward of it, mm."""
        off = sub(p[:2], self.start)
        return dot(self.way, off), dot(self.inward, off)

    def back(self, s: float, t: float) -> Point:
        """Return a place in plan."""
        return add(add(self.start, self.way, s), self.inward, t)

    @property
    def wall(self) -> str:
        """The wall under its eave."""
        return self.plan.outline.walls[self.edge]

    def chord(self, s: float, t: float) -> tuple[float, float, float]:
        """Return how far in the rafter through a place of the plane begins and ends, and where along the eave it lies, mm."""
        low, high = min(u for u, _ in self.ring), max(u for u, _ in self.ring)
        s = min(max(s, low + 1.0), high - 1.0)
        rows = chords((tuple(self.ring),), (s, 0.0), (0.0, 1.0))
        a, b = min(rows, key=lambda row: max(row[0] - t, t - row[1], 0.0), default=(0.0, 1.0))
        return a, b, s

    def bears(self, s: float, t: float, on: int | str) -> Point:
        """Return where on a wall, or on a line, an end at a place presses."""
        if on == self.wall and abs(t) < NEAR:
            return self.back(min(max(s, 0.0), self.long), self.plan.deep[self.edge])
        return self.back(s, t)

    def strips(self, widest: float = 0.0, covered: tuple[tuple[Point, ...], ...] = ()) -> Iterator[_Strip]:
        """Cut the plane where its lines end, and at corners of what is ``covered``, no strip wider than ``widest`` (0: any); within each
        its ends are straight.
        """
        places = {s for s, _ in self.ring} | {self.local(p)[0] for _, x in self.lines for p in (x.start, x.end)}
        if covered:
            places |= {self.local((*p, 0.0))[0] for ring in covered for p in ring} | {
                self.local((*p, 0.0))[0] for ring in covered for p in self._met(ring)
            }
        low, high = min(s for s, _ in self.ring), max(s for s, _ in self.ring)
        cuts: list[float] = []
        for s in sorted(places):
            if low <= s <= high and (not cuts or s - cuts[-1] > 0.01):
                cuts.append(s)
        if widest > 0.0:
            counts = [max(math.ceil((b - a) / widest - 1e-9), 1) for a, b in itertools.pairwise(cuts)]
            fine = [
                a + (b - a) * k / n
                for (a, b), n in zip(itertools.pairwise(cuts), counts, strict=True)
                for k in range(n)
            ]
            cuts = [*fine, cuts[-1]]
        sides = list(zip(self.ring, (*self.ring[1:], self.ring[0]), strict=True))
        for first, last in itertools.pairwise(cuts):
            middle, met = (first + last) / 2.0, []
            for p, q in sides:
                if (p[0] < middle) != (q[0] < middle):
                    met.append(tuple(p[1] + (s - p[0]) / (q[0] - p[0]) * (q[1] - p[1]) for s in (first, last)))
            met.sort(key=sum)
            for down, up in zip(met[::2], met[1::2], strict=False):
                yield _Strip(first, last, (down[0], down[1]), (up[0], up[1]))

    def _met(self, ring: tuple[Point, ...]) -> list[Point]:
        """Return where an outline crosses the sides of the plane."""
        own = [self.back(*p) for p in self.ring]
        met = shapely.LinearRing(own).intersection(shapely.LinearRing(ring))
        return [(float(x), float(y)) for x, y in shapely.get_coordinates(met)]

    def held(self, strip: _Strip, end: int, carrying: Mapping[int, int]) -> int | str | None:
        """Return what holds the rafters of a strip at their feet (0) or heads (1): the number of a line, a wall, a roof below, nothing.

        ``carrying``: for each line that carries, the number by which it goes.
        """
        row = strip.high if end else strip.low
        return self.held_at((strip.first + strip.last) / 2.0, sum(row) / 2.0, carrying)

    def held_at(self, s: float, t: float, carrying: Mapping[int, int]) -> int | str | None:
        """Return what holds the end of a rafter at a place."""
        at = self.back(s, t)
        near = [(to_segment(at, x.start[:2], x.end[:2]), i, x) for i, x in self.lines]
        off, i, line = min(near, key=lambda one: one[0], default=(math.inf, 0, None))
        if line is None or off > NEAR:
            return None
        if i in carrying:
            return carrying[i]
        walls = self.plan.outline.walls
        if line.kind == "laid":
            return LAID
        if line.kind == "eave":
            return walls[self.edge]
        other = next((e for e in line.edges if e != self.edge and e >= 0), None)
        return walls[other] if line.kind in ("rake", "wall") and other is not None else None

    def patch(self, strip: _Strip, end: int, on: tuple[Place, Place], q: Cases) -> Patch:
        """Return what the ends of a strip lay on a line between two places; ``q``: N a mm2 of plan."""
        low, high = on
        row = strip.high if end else strip.low
        way = unit(low[:2], high[:2])
        rows = []
        for s, t, a, b in zip((strip.first, strip.last), row, strip.low, strip.high, strict=True):
            rows.append((dot(way, sub(self.back(s, t), low[:2])), b - a))
        (u0, d0), (u1, d1) = sorted(rows)
        thick = (strip.last - strip.first) / max(u1 - u0, 1e-6)
        return Patch(u0, u1, q.scaled(max(d0, 0.0) * thick), q.scaled(max(d1, 0.0) * thick))

    def middle(self, strip: _Strip) -> tuple[Point, Point]:
        """Return foot and head of a strip's middle in plan."""
        s = (strip.first + strip.last) / 2.0
        return self.back(s, sum(strip.low) / 2.0), self.back(s, sum(strip.high) / 2.0)

    def heap(self, strip: _Strip, end: int, on: tuple[Place, Place], force: Cases) -> list[Patch]:
        """Return what is heaped on a strip as its end lays it on a line."""
        even = self.patch(strip, end, on, force)
        long = max(even.end - even.start, 1e-3)
        q = force.scaled(1.0 / long)
        return [Patch(even.start, even.start + long, q, q)] if any(force) else []

    def onto(self, strip: _Strip, end: int, wall: str | None, q: Cases, key: str) -> Iterator[Reaction]:
        """Yield what the ends of a strip lay on a wall (None: that under the plane's own eave), stretch by stretch."""
        walls, row = self.plan.outline.walls, strip.high if end else strip.low
        own = wall is None or (wall == walls[self.edge] and abs(sum(row)) < NEAR)
        wide = strip.last - strip.first
        count = max(math.ceil(wide / STEP - 1e-9), 1)
        ends = strip.high[0] - strip.low[0], strip.high[1] - strip.low[1]
        for k in range(count):
            part = (k + 0.5) / count
            size = (ends[0] + (ends[1] - ends[0]) * part) * wide / count
            s = strip.first + wide * part
            at = self.back(s, row[0] + (row[1] - row[0]) * part)
            if own:
                at = self.back(min(max(s, 0.0), self.long), self.plan.deep[self.edge])
            if abs(size) > 1e-6:
                yield Reaction(key, walls[self.edge] if wall is None else wall, at, q.scaled(size))


def settle(
    plan: SurfacePlan, names: Mapping[int, str], held: Mapping[int, tuple[LineLoad, tuple[Cases, ...]]], posts: Posts
) -> Settled:
    """Bring what comes to the ends of lines to walls and posts.

    ``held``: by their numbers, lines and what comes to their lower end, to each post between, to their upper end, N; ``names``:
    of their boards.
    """
    nodes = _Nodes(plan, posts)
    points: list[Reaction] = []
    for i, (on, forces) in held.items():
        nodes.put(on.low, i, forces[0])
        nodes.put(on.high, i, forces[-1])
        for (post, along), force in zip(on.between, forces[1:-1], strict=True):
            at = add(on.low[:2], unit(on.low[:2], on.high[:2]), along)
            points.append(Reaction(names[i], post, at, force))
    down = {i: on for i, (on, _) in held.items() if on.line.kind in CARRIES}
    made, unheld = nodes.settle(down, names)
    onto = tuple(Foot(lower_at(plan, r.at), r.at, r.force) for r in made if r.bearer == LAID)
    return Settled((*points, *(r for r in made if r.bearer != LAID)), unheld, onto)


class _Node(NamedTuple):
    at: Place
    brought: list[tuple[int, Cases]]


class _Nodes:
    """Where lines end."""

    def __init__(self, plan: SurfacePlan, posts: Posts) -> None:
        self.plan, self.posts = plan, posts
        self.nodes: list[_Node] = []

    def at(self, place: Place) -> _Node:
        """Return the node at a place."""
        for node in self.nodes:
            if distance(node.at[:2], place[:2]) < NEAR:
                return node
        self.nodes.append(_Node(place, []))
        return self.nodes[-1]

    def put(self, place: Place, line: int, force: Cases) -> None:
        """Bring to a node what comes there."""
        self.at(place).brought.append((line, force))

    def settle(
        self, down: Mapping[int, LineLoad], names: Mapping[int, str]
    ) -> tuple[list[Reaction], tuple[Unheld, ...]]:
        """Go from the highest to the lowest: what nothing holds goes on down along lines."""
        points: list[Reaction] = []
        unheld: list[Unheld] = []
        for node in sorted(self.nodes, key=lambda n: -n.at[2]):
            force = Cases()
            for _, part in node.brought:
                force = force.plus(part)
            bearers = self.bearers(node.at)
            if bearers:
                points += [
                    Reaction(names[i], bearer, node.at[:2], part.scaled(1.0 / len(bearers)))
                    for i, part in node.brought
                    for bearer in bearers
                ]
                continue
            here = tuple(dict.fromkeys(i for i, _ in node.brought))
            if force.all > 1.0:
                unheld.append(Unheld(node.at, force, here))
            ways = [
                on
                for i, on in down.items()
                if distance(on.high[:2], node.at[:2]) < NEAR and on.low[2] < node.at[2] - 0.01
            ]
            if not ways:
                points += [Reaction(names[i], "", node.at[:2], part) for i, part in node.brought]
                continue
            for on in ways:
                below = self.at(on.low)
                for i, part in node.brought:
                    below.brought.append((i, part.scaled(1.0 / len(ways))))
        return points, tuple(unheld)

    def bearers(self, at: Place) -> tuple[str, ...]:
        """Return what holds a node: a post, else the walls of the outline there."""
        near = [(distance(p, at[:2]), post) for post, p in self.posts]
        off, post = min(near, default=(math.inf, ""))
        if off <= POST:
            return (post,)
        if stands_on(self.plan, at):
            return (LAID,)
        core, walls = self.plan.outline.core, self.plan.outline.walls
        sides = [k for k in range(len(core)) if to_segment(at[:2], core[k], core[(k + 1) % len(core)]) < NEAR]
        return tuple(dict.fromkeys(walls[k] for k in sides))
