"""Roofs of planes solved: what rafters hand to walls and to hips, valleys and ridge beams, and these to what holds their ends.

A rafter bears half at its foot (wall or valley) and half at its head (hip, ridge beam or wall), its overhang at its foot; against
a ridge board it leans on the one opposite and all of it comes to its foot (IRC R802.3: such a board carries nothing).

Hips, valleys and ridge beams are beams between what holds their ends: walls of the outline, or posts.  What comes to an end that
nothing holds goes down again along the hips and valleys that lead down from it, as lines that lean on one another bring it, so
that all of it arrives at walls (``roof_settling``).  The ring that this takes is not designed: such ends are told.

Feet and ends that come down on a roof below press on its rafters (``Spread.onto``); what stands on a rafter goes to its two ends by
the lever, or, where that leans on a ridge board, to its own foot and that of the one opposite as three hinges have it.
"""

from collections.abc import Iterator, Mapping

from balken.framing.roof_layout import line_runs
from balken.framing.surface_roofs import STEP, SurfacePlan
from balken.framing.surface_ties import SurfaceTie
from balken.geometry.plane import Point, distance, dot, off_line, sub, to_segment, unit
from balken.geometry.roof_surface import Place, RoofLine
from balken.loads.area_loads import Reaction, ceiling_cases, line_reactions, roof_cases
from balken.loads.cases import Cases
from balken.loads.roof_feet import LAID, NOTHING, Foot, UnderRoofs, covered_on, leaning_part, lower_at, planes_at
from balken.loads.roof_sides import NEAR, Patch, Side
from balken.loads.roof_snow import PlaneSnow, RoofSnow, heaped
from balken.model.naming import piece_name
from balken.model.records import Loads
from balken.value import Value

POST = 150.0
"""A post holds an end no farther than this from its middle, mm."""
BESIDE = 60.0
"""A post holds a line in between no farther than this from its middle, mm."""
CARRIES = ("hip", "valley")

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
    """A roof's load spread: on walls as reactions, and on each line that carries (by the number of its first in the surface)."""

    walls: tuple[Reaction, ...]
    lines: dict[int, LineLoad]
    heaps: Cases
    """What lies in drifts and slides, and is no part of even snow, N."""
    onto: tuple[Foot, ...] = ()
    """What jacks bring down on roofs below."""


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
        q, side = roof_cases(loads, face.pitch, lies.most if most else lies.laid), Side(plan, face)
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
    sides = {face.edge: Side(plan, face) for face in plan.surface.faces} if over.feet else {}
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
    sides: "Mapping[int, Side]", side: "Side", foot: Foot, carrying: Mapping[int, int]
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
    pitch, on, at = over
    part = x * leaning_part(high - low, side.pitch, pitch)
    yield own, side.bears(s, low, own), foot.force.scaled(1.0 - part)
    yield on, at, foot.force.scaled(part)


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
