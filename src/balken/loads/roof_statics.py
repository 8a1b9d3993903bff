"""Roofs of planes solved: what rafters hand to walls and to hips, valleys and ridge beams, and these to what holds their ends.

A rafter bears half at its foot (wall or valley) and half at its head (hip, ridge beam or wall), its overhang at its foot, and where it
is a common one more by the lever, which comes off its head (lines are chosen without that: an overhang may lie bare); against a ridge board it leans on the one opposite and all of it comes to its foot (IRC R802.3: such a board carries nothing).

Hips, valleys and ridge beams are beams between what holds their ends: walls of the outline, or posts.  What comes to an end that
nothing holds goes down again along the hips and valleys that lead down from it, as lines that lean on one another bring it, so
that all of it arrives at walls (``roof_settling``).  The ring that this takes is not designed: such ends are told.

Feet and ends that come down on a roof below press on its rafters (``Spread.onto``); what stands on a rafter goes to its two ends by
the lever, or, where that leans on a ridge board, to its own foot and that of the one opposite as three hinges have it.

Rafters over a purlin bear on it as one piece over two spans does; what such a one would hand to a ridge board comes to its foot.
"""

from collections.abc import Iterator, Mapping, Sequence

from balken.framing.line_posts import posts_between
from balken.framing.purlins import Purlin
from balken.framing.roof_layout import line_runs
from balken.framing.surface_roofs import STEP, SurfacePlan
from balken.framing.surface_ties import SurfaceTie
from balken.geometry.plane import Point, distance, dot, sub, to_segment, unit
from balken.geometry.roof_edges import Place
from balken.geometry.roof_surface import RoofLine
from balken.loads.area_loads import Reaction, ceiling_cases, line_reactions, roof_cases
from balken.loads.cases import Cases
from balken.loads.propped import POINT, Propped
from balken.loads.roof_feet import LAID, NOTHING, Foot, UnderRoofs, covered_on, leaning_part, lower_at, planes_at
from balken.loads.roof_sides import NEAR, Patch, Side, Strip
from balken.loads.roof_snow import PlaneSnow, RoofSnow, heaped
from balken.model.naming import piece_name
from balken.model.records import Loads
from balken.value import Value

CARRIES = ("hip", "valley")
NOTHING_UP: Mapping[int, float] = {}

Posts = tuple[tuple[str, Point], ...]
"""What stands free under a roof: its id and its middle in plan."""


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
    """A roof's load spread: on walls as reactions, and on each line that carries (by the number of its first in the surface, of purlins
    by those after it).
    """

    walls: tuple[Reaction, ...]
    lines: dict[int, LineLoad]
    heaps: Cases
    """What lies in drifts and slides, and is no part of even snow, N."""
    onto: tuple[Foot, ...] = ()
    """What jacks bring down on roofs below."""


def spread(
    plan: SurfacePlan,
    loads: Loads,
    snow: RoofSnow,
    posts: Posts,
    over: UnderRoofs = NOTHING,
    most: bool = False,
    laid: Sequence[Purlin] = (),
    up: Mapping[int, float] = NOTHING_UP,
) -> Spread:
    """Lay a roof's load on what its rafters bear on; ``over``: what lies over it, ``most``: with the most snow that may lie on each
    plane, all over it; ``laid``: its purlins; ``up``: what wind lifts of planes, by their edges, kN/m2 of plan at strength level.
    """
    kinds = CARRIES if plan.roof.ridge_made == "board" else (*CARRIES, "ridge")
    runs = {run.numbers[0]: run for run in line_runs(plan.surface) if run.line.kind in kinds}
    carrying = {i: first for first, run in runs.items() for i in run.numbers}
    propped = Propped(plan, laid, len(plan.surface.lines))
    lines = {first: run.line for first, run in runs.items()} | propped.lines
    key = piece_name(plan.roof.id, "plane")
    brought = _Brought(plan, key, lines, propped, most)
    for face in plan.surface.faces:
        lies, side = snow.planes[face.edge], Side(plan, face)
        q, cuts = roof_cases(loads, face.pitch, lies.most if most else lies.laid), propped.cuts(face.edge)
        q = q._replace(wind=-up[face.edge]) if face.edge in up else q
        for strip in side.strips(STEP if snow.bands or cuts else 0.0, over.covered, cuts):
            ends = side.held(strip, 0, carrying), side.held(strip, 1, carrying)
            brought.strip(side, strip, ends, q, lies, snow, over)
    brought.walls += _beyond(plan, loads, snow, key)
    for bears, at, force in _from_feet(plan, over, carrying, propped):
        brought.point(bears, at, force)
    made = {i: _loaded(lines[i], rows, posts) for i, rows in brought.patches.items()}
    return Spread(tuple(brought.walls), made, brought.heaps, tuple(brought.onto))


class _Brought:
    """What a roof brings to walls, lines and roofs below, as it is gathered; ``key``: the name of what brings it to walls; ``most``: for
    choosing boards, so that what purlins may have to carry is laid on them whole.
    """

    def __init__(
        self, plan: SurfacePlan, key: str, lines: Mapping[int, RoofLine], propped: Propped, most: bool
    ) -> None:
        self.plan, self.key, self.lines, self.propped, self.most = plan, key, lines, propped, most
        self.patches: dict[int, list[Patch]] = {number: [] for number in lines}
        self.walls: list[Reaction] = []
        self.onto: list[Foot] = []
        self.heaps = Cases()

    def strip(
        self,
        side: Side,
        strip: Strip,
        ends: tuple[int | str | None, int | str | None],
        q: Cases,
        lies: PlaneSnow,
        snow: RoofSnow,
        over: UnderRoofs,
    ) -> None:
        """Bring a strip of a plane to what holds its ``ends``, and to a purlin between."""
        foot, head = ends
        prop = self.propped.over(side.edge, strip, foot, head is not None)
        if prop is not None:
            prop = prop.with_past(side.past(strip, foot), self.most)
        part = 0.5 if foot is not None and head is not None else 1.0
        parts, aside = ((prop.foot, prop.head) if prop else (part, part)), Cases()
        if prop is None and part < 1.0:
            lifts = side.lifts(strip, foot, head)
            parts = 0.5 + lifts, 0.5 if self.most else 0.5 - lifts
        heap, far = heaped(snow.bands, *side.middle(strip))
        heaps = (heap * (1.0 - far), heap * far) if part < 1.0 else (heap, heap)
        bare, middle = covered_on(over.covered, *side.middle(strip))
        bares = (bare * (1.0 - middle), bare * middle) if part < 1.0 else (bare, bare)
        wide = (strip.last - strip.first) / 1000.0
        for end, on in ((0, foot), (1, head)):
            if on is None and (end == 1 or head is not None):
                continue  # nothing there; where nothing is at either end, all comes to the wall under the eave
            more = Cases(snow=max(heaps[end] - _over(lies, strip.long, part), 0.0) * wide)
            self.heaps = self.heaps.plus(more)
            less = Cases(roof_live=-q.roof_live * bares[end] * wide, snow=-q.snow * bares[end] * wide)
            if prop is not None:
                # What lies on a part of the strip goes by the lever of where its middle lies.
                onto, off = prop.lever(far), prop.lever(middle)
                aside = aside.plus(more if self.most else more.scaled(onto).plus(less.scaled(off)))
                more, less = more.scaled(1.0 - onto), less.scaled(1.0 - off)
            self.end(side, strip, end, on, q.scaled(parts[end] / 1000.0), more.plus(less))
        if prop is not None:
            even = q.scaled(strip.area * prop.middle / 1000.0)
            self.patches[prop.number].append(self.propped.patch(prop.number, strip, even.plus(aside)))

    def end(self, side: Side, strip: Strip, end: int, on: int | str | None, q: Cases, more: Cases) -> None:
        """Bring to what holds an end of a strip (0: its foot) what lies on it evenly, N a mm2 of plan, and ``more``, N."""
        if isinstance(on, int):
            ends = _ends(self.lines[on])
            self.patches[on].append(side.patch(strip, end, ends, q))
            self.patches[on] += side.heap(strip, end, ends, more)
            return
        brought = list(side.onto(strip, end, on, q, self.key))
        if any(more):
            brought += side.onto(strip, end, on, more.scaled(1.0 / strip.area), self.key)
        if on == LAID:
            self.onto += [Foot(lower_at(self.plan, r.at), r.at, r.force) for r in brought]
        else:
            self.walls += brought

    def point(self, on: int | str, at: Point, force: Cases) -> None:
        """Bring what comes down in one place."""
        if isinstance(on, int):
            self.patches[on].append(_point_patch(_ends(self.lines[on]), at, force))
        elif on == LAID:
            self.onto.append(Foot(lower_at(self.plan, at), at, force))
        else:
            self.walls.append(Reaction(self.key, on, at, force))


def _point_patch(on: tuple[Place, Place], at: Point, force: Cases) -> Patch:
    """Return what comes to a line at a place, as a short patch within it."""
    long = distance(on[0][:2], on[1][:2])
    half = min(POINT, long) / 2.0
    u = min(max(dot(unit(on[0][:2], on[1][:2]), sub(at, on[0][:2])), half), long - half)
    q = force.scaled(0.5 / half)
    return Patch(u - half, u + half, q, q)


def _from_feet(
    plan: SurfacePlan, over: UnderRoofs, carrying: Mapping[int, int], propped: Propped
) -> Iterator[tuple[int | str, Point, Cases]]:
    """Yield where all that stands on the planes goes."""
    sides = {face.edge: Side(plan, face) for face in plan.surface.faces} if over.feet else {}
    for pressing, edge in zip(over.feet, planes_at(plan, [foot.at for foot in over.feet]), strict=True):
        yield from _from_foot(sides, sides[edge], pressing, carrying, propped)


def _from_foot(
    sides: "Mapping[int, Side]", side: "Side", foot: Foot, carrying: Mapping[int, int], propped: Propped
) -> Iterator[tuple[int | str, Point, Cases]]:
    """Yield where what stands on a plane goes: along the rafter there to what holds its foot and its head, and a purlin between."""
    s, t = side.local((*foot.at, 0.0))
    low, high, s = side.chord(s, t)
    x = min(max(t - low, 0.0), high - low)
    own, held = side.held_at(s, low, carrying), side.held_at(s, high, carrying)
    over = propped.at(side.edge, s, own)
    if over is not None and own is not None and low < over[1] < high:
        number, at = over
        far = x / (at - low) if low + x < at else (high - low - x) / (high - at)
        end, t = (own, low) if low + x < at or held is None else (held, high)
        yield number, side.back(s, at), foot.force.scaled(far)
        yield end, side.bears(s, t, end), foot.force.scaled(1.0 - far)
        return
    if held is not None and own is not None:
        part = x / (high - low)
        yield own, side.bears(s, low, own), foot.force.scaled(1.0 - part)
        yield held, side.bears(s, high, held), foot.force.scaled(part)
        return
    if held is not None:
        yield held, side.bears(s, high, held), foot.force
        return
    own = side.wall if own is None else own
    against = _opposite(sides, side, s, high, carrying)
    if against is None:
        yield own, side.bears(s, low, own), foot.force
        return
    pitch, on, place = against
    part = x * leaning_part(high - low, side.pitch, pitch)
    yield own, side.bears(s, low, own), foot.force.scaled(1.0 - part)
    yield on, place, foot.force.scaled(part)


def _opposite(
    sides: "Mapping[int, Side]", side: "Side", s: float, high: float, carrying: Mapping[int, int]
) -> tuple[float, int | str, Point] | None:
    """Return of the rafter on which one leans at a ridge board: its pitch, what holds its foot, where."""
    at = side.back(s, high)
    for _, line in side.lines:
        if line.kind == "ridge" and to_segment(at, line.start[:2], line.end[:2]) < NEAR:
            other = next((sides[e] for e in line.edges if e != side.edge and e in sides), None)
            if other is None:
                return None
            u, t = other.local((*at, 0.0))
            low, _, u = other.chord(u, t)
            on = other.held_at(u, low, carrying)
            on = other.wall if on is None else on
            return other.pitch, on, other.bears(u, low, on)
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
    return LineLoad(line, low, high, tuple(rows), posts_between(low[:2], high[:2], posts))


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
