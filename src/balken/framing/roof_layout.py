"""Rafters, hips, valleys and ridges under a roof surface: where they run, how long they are, how their ends are cut.

Each plane's rafters run square to its eave from place to place along it; what an end meets makes a common rafter, a jack of a
hip or valley, or a cripple jack.  Lengths are those of the top edge: theoretical from the bearing line to the line it meets,
then less half of what it is nailed to, more by the overhang, to the long point of its cheek (any framing square's tables).
"""

import itertools
import math
from collections.abc import Callable, Iterator, Sequence
from functools import lru_cache
from typing import NamedTuple

from balken.framing.rafter_stations import THICK, RafterSpacing, stations
from balken.geometry.plane import Point, add, chords, cross, distance, dot, left, meet, sub, to_segment, unit
from balken.geometry.roof_edges import Place, RoofEdge
from balken.geometry.roof_surface import RoofFace, RoofLine, RoofSurface
from balken.units.system import INCH

TAIL = "tail"
"""What the foot of a rafter meets whose tail ends, beyond its wall, at that of a valley."""
AT_END = 0.5 * INCH
"""A rafter whose upper end lies no farther than this from a line meets it, mm."""
AT_TOP = 1.0
"""What ends no farther than this from where lines meet ends there, mm."""
SHORTEST = 2.0 * INCH
"""Nobody nails in a rafter shorter than this."""
LETTERS = {
    "common rafter": "R", "hip jack": "HJ", "valley jack": "VJ", "cripple jack": "CJ", "laid jack": "LJ", "hip": "HR", "valley": "VR", "ridge": "RG"
}  # fmt: skip


class RoofMember(NamedTuple):
    """A member under a roof: its role, the theoretical line of its top edge, the edges whose planes it belongs to.

    ``theoretical``: from the bearing line, or the valley it stands on, to the line it meets; ``length``: of its top edge to the
    long point, tail included, mm.  ``slope``: from level, degrees; ``bevel``: of the saw for the plumb cut, 0 where it is
    square; ``top_edge``: of that cut across the top edge, from square.
    """

    role: str
    start: Place
    end: Place
    edges: tuple[int, ...]
    theoretical: float
    length: float
    slope: float
    bevel: float
    top_edge: float
    foot: "Cut"
    head: "Cut"
    over: float = 0.0
    """How far in plan its tail runs on beyond the bearing line."""
    past: float = 0.0
    """How far in plan it runs on past the wall at its head."""

    @property
    def ends(self) -> tuple[Point, Point]:
        """The ends of that line in plan."""
        return self.start[:2], self.end[:2]

    @property
    def at_eave(self) -> bool:
        """Whether its foot bears on the wall under an eave."""
        return self.foot.kind in ("", TAIL)

    @property
    def on_beam(self) -> bool:
        """Whether its head lies on a ridge beam under it, which takes nothing off its length."""
        return self.head.kind == "ridge" and self.head.half == 0.0

    @property
    def laid(self) -> bool:
        """Whether its foot stands on a roof below."""
        return self.foot.kind == "laid"


class Cut(NamedTuple):
    """An end of a member: the angle in plan between it and what it meets, degrees; half the thickness of that, mm; what it is,
    and a line in plan along its middle.
    """

    between: float
    half: float
    kind: str = ""
    along: tuple[Point, Point] | None = None
    point: float | None = None
    """Where two hips meet it is cut on both sides: by how much its long point, between its faces, ends before their middles meet."""

    @property
    def bevel(self) -> float:
        """The bevel of the saw: 0 where it meets square."""
        return 90.0 - self.between

    @property
    def shorter(self) -> float:
        """By how much its middle ends before the middle of what it meets, in plan, mm."""
        return self.half / math.sin(math.radians(self.between)) if self.half > 0.0 else 0.0

    def longer(self, thick: float) -> float:
        """By how much its long point lies beyond its middle, in plan, mm."""
        return thick / 2.0 / math.tan(math.radians(self.between)) if self.between < 89.999 else 0.0

    def past(self, thick: float) -> float:
        """By how much its long point lies beyond the line it meets, in plan, mm; below 0 before it."""
        return self.longer(thick) - self.shorter if self.point is None else -self.point


SQUARE = Cut(90.0, 0.0)


def top_edge(bevel: float, slope: float) -> float:
    """Return the angle of a plumb cut with a bevel across the top edge of a member in slope, degrees: tan = tan bevel cos slope."""
    return math.degrees(math.atan(math.tan(math.radians(bevel)) * math.cos(math.radians(slope))))


Thick = Callable[[RoofLine], float]


class Beside(NamedTuple):
    """A line beside a plane, as rafters there ask for it: its kind, ends in plan, way, how long and half how thick it is, mm; itself."""

    kind: str
    along: tuple[Point, Point]
    way: Point
    long: float
    half: float
    line: RoofLine

    def apart(self, at: Place) -> float:
        """Return how far a place lies from it in plan."""
        ((ax, ay), _), (wx, wy) = self.along, self.way
        x, y = at[0] - ax, at[1] - ay
        s = min(max(x * wx + y * wy, 0.0), self.long)
        return math.hypot(x - wx * s, y - wy * s)

    def against(self, way: Point) -> Cut:
        """Return the cut of a member along ``way`` against it."""
        return Cut(max(_angle(way, self.way), 1.0), self.half, self.kind, self.along)


Eave = tuple[Point, Point]
"""Its ends in plan: two corners of the outline that follow one another."""


def beside_planes(surface: RoofSurface, thick: Thick) -> dict[int, tuple[Beside, ...]]:
    """Return the lines beside each plane, by its edge."""
    found: dict[int, list[Beside]] = {}
    for line in surface.lines:
        along = _plan(line)
        half = thick(line) / 2.0 if line.kind in ("ridge", "hip", "valley", "wall") else 0.0
        made = Beside(line.kind, along, unit(*along), distance(*along), half, line)
        for edge in {*line.edges}:
            found.setdefault(edge, []).append(made)
    return {edge: tuple(rows) for edge, rows in found.items()}


def usual(line: RoofLine) -> float:
    """Return the thickness of one board for any ridge, hip and valley; nothing where rafters end at a wall."""
    return 0.0 if line.kind == "wall" else THICK


def roof_members(
    surface: RoofSurface,
    outline: Sequence[Point],
    edges: Sequence[RoofEdge],
    overhangs: Sequence[float],
    how: RafterSpacing,
    thick: Thick = usual,
) -> tuple[RoofMember, ...]:
    """Return the members of a roof; ``how``: its rafters are set out; ``thick``: each ridge, hip and valley is, mm."""
    found: list[RoofMember] = []
    for run in line_runs(surface):
        made = _of_line(run.line, surface, outline, overhangs, thick)
        if made is not None:
            found.append(made._replace(edges=run.edges))
    beside = beside_planes(surface, thick)
    taken: dict[tuple[int, ...], list[int]] = {}
    stand = stations(surface, outline, edges, how)
    for face in surface.faces:
        for one in _rafters(face, beside.get(face.edge, ()), outline, edges, overhangs, stand[face.edge]):
            # Where planes of one slope meet in a point or side by side, a rafter there is one, the longer, not one of each.
            way = unit(*one.ends)
            at = tuple(round(v) for v in (dot(left(way), one.start[:2]), 1e3 * way[0], 1e3 * way[1]))
            there = next((k for k in taken.setdefault(at, []) if _shared(found[k], one, way) > AT_TOP), None)
            if there is None:
                taken[at].append(len(found))
                found.append(one)
            elif found[there].theoretical < one.theoretical - AT_TOP:
                found[there] = one
    return tuple(found)


def _shared(a: RoofMember, b: RoofMember, way: Point) -> float:
    """Return over how much of their way two rafters in line lie beside one another, mm in plan."""
    (a0, a1), (b0, b1) = (sorted(dot(way, p) for p in one.ends) for one in (a, b))
    return min(a1, b1) - max(a0, b0)


class LineRun(NamedTuple):
    """Ridges, hips and valleys as they are built: one from end to end, of all planes beside it; ``numbers``: of its lines in the surface."""

    line: RoofLine
    edges: tuple[int, ...]
    numbers: tuple[int, ...]


def line_runs(surface: RoofSurface) -> tuple[LineRun, ...]:
    """Return ridges, hips and valleys; a ridge that runs on where planes that are one side by side meet is one."""
    real = [(i, x) for i, x in enumerate(surface.lines) if x.kind in ("ridge", "hip", "valley")]
    at: dict[tuple[int, int], list[int]] = {}
    for i, x in real:
        for end in (x.start, x.end):
            at.setdefault((round(end[0]), round(end[1])), []).append(i)
    runs = {i: LineRun(x, x.edges, (i,)) for i, x in real}
    for node in at.values():
        one, two = (runs[node[0]], runs[node[1]]) if len(node) == 2 else (None, None)
        if one is None or two is None or one is two or one.line.kind != "ridge" or two.line.kind != "ridge":
            continue
        a, b = one.line, two.line
        if abs(cross(unit(*_plan(a)), unit(*_plan(b)))) > 1e-6:
            continue
        ends = sorted((a.start, a.end, b.start, b.end), key=lambda p: dot(unit(*_plan(a)), p[:2]))
        line = a._replace(start=ends[0], end=ends[-1])
        whole = LineRun(line, tuple(dict.fromkeys((*one.edges, *two.edges))), (*one.numbers, *two.numbers))
        runs |= dict.fromkeys(whole.numbers, whole)
    return tuple({id(run): run for run in runs.values()}.values())


def _plan(line: RoofLine) -> tuple[Point, Point]:
    return line.start[:2], line.end[:2]


def marks(members: Sequence[RoofMember]) -> tuple[str, ...]:
    """Return the marks of members: alike for those of one role, length and cuts, the longest first."""
    kinds = [(m.role, round(m.length, 1), round(m.slope, 2), round(m.bevel, 2)) for m in members]
    order: dict[str, list[tuple[str, float, float, float]]] = {}
    for kind in sorted(set(kinds), key=lambda k: (k[0], -k[1], k[2], k[3])):
        order.setdefault(kind[0], []).append(kind)
    return tuple(f"{LETTERS[kind[0]]}{order[kind[0]].index(kind) + 1}" for kind in kinds)


# Lines ----------------------------------------------------------------------------------------------


def _of_line(
    line: RoofLine, surface: RoofSurface, outline: Sequence[Point], overhangs: Sequence[float], thick: Thick
) -> RoofMember | None:
    """Return the ridge, hip or valley along a line of the surface."""
    if line.kind not in ("ridge", "hip", "valley"):
        return None
    low, high = sorted((line.start, line.end), key=lambda p: p[2])
    run, rise = distance(low[:2], high[:2]), high[2] - low[2]
    if line.kind == "ridge":
        return RoofMember(
            "ridge", line.start, line.end, line.edges, line.length, line.length, 0.0, 0.0, 0.0, SQUARE, SQUARE
        )
    slope = math.degrees(math.atan2(rise, run))
    way = unit(low[:2], high[:2])
    cut = _met_by(line, high, way, surface, thick)
    over = _tail(line, low, way, surface, outline, overhangs)
    along = math.hypot(run, rise) / run
    length = (run - cut.shorter + over) * along
    top = top_edge(cut.bevel, slope)
    return RoofMember(
        line.kind, low, high, line.edges, line.length, length, slope, cut.bevel, top, SQUARE, cut, over
    )  # fmt: skip


def _met_by(line: RoofLine, at: Place, way: Point, surface: RoofSurface, thick: Thick) -> Cut:
    """Return the cut at the upper end of a hip or valley: against the ridge there, else against the nearest hip or valley."""
    others = [
        other
        for other in surface.lines
        if other is not line
        and other.kind in ("ridge", "hip", "valley")
        and min(math.dist(at, other.start), math.dist(at, other.end)) < 1.0
    ]
    others.sort(key=lambda other: other.kind != "ridge")
    for other in others:
        between = _angle(way, unit(other.start[:2], other.end[:2]))
        if between > 1.0:
            return Cut(between, thick(other) / 2.0, other.kind, (other.start[:2], other.end[:2]))
    return SQUARE


def _angle(a: Point, b: Point) -> float:
    """Return the angle between two directions in plan, 0 to 90 degrees."""
    return math.degrees(math.atan2(abs(cross(a, b)), abs(dot(a, b))))


def _tail(
    line: RoofLine, low: Place, way: Point, surface: RoofSurface, outline: Sequence[Point], overhangs: Sequence[float]
) -> float:
    """Return how far in plan a hip or valley that begins at a corner of the outline runs on over it to the fascias."""
    n = len(outline)
    corner = next((k for k in range(n) if distance(outline[k], low[:2]) < 1.0), None)
    reach = []
    if corner is None:  # beside a raised eave it begins on that
        for edge in line.edges:
            p, q = outline[edge], outline[(edge + 1) % n]
            if edge >= 0 and to_segment(low[:2], p, q) < 1.0:
                reach.append(overhangs[edge] / max(abs(cross(way, unit(p, q))), 1e-6))
        return min(reach, default=0.0)
    for edge in line.edges:
        p, q = outline[edge], outline[(edge + 1) % n]
        across = abs(cross(way, unit(p, q)))
        if across > 1e-6 and corner in (edge, (edge + 1) % n):
            reach.append(overhangs[edge] / across)
    return min(reach, default=0.0)


# Rafters --------------------------------------------------------------------------------------------


def _rafters(
    face: RoofFace,
    lines: tuple[Beside, ...],
    outline: Sequence[Point],
    edges: Sequence[RoofEdge],
    overhangs: Sequence[float],
    stand: Sequence[float],
) -> tuple[RoofMember, ...]:
    """Return the rafters of one plane."""
    ends = outline[face.edge], outline[(face.edge + 1) % len(outline)]
    runs_on = any(e.kind == "roof" for e in edges)
    return _of_plane(face, lines, ends, overhangs[face.edge], tuple(stand), runs_on)


@lru_cache(maxsize=2_000)
def _of_plane(
    face: RoofFace, lines: tuple[Beside, ...], eave: Eave, over: float, stand: tuple[float, ...], runs_on: bool
) -> tuple[RoofMember, ...]:
    """Return the rafters of a plane: the same as last time where an edit has left it and what lies beside it alone."""
    first, last = eave
    way, long = unit(first, last), distance(first, last)
    inward = _inward(face, eave)
    found = [(at, made) for at in stand for made in _at(face, lines, eave, over, add(first, way, at), inward)]
    # Where it runs on over another roof, an eave beyond its wall bears no rafter.
    return tuple(made for at, made in found if not made.at_eave or -1.0 < at < long + 1.0 or not runs_on)


def _inward(face: RoofFace, eave: Eave) -> Point:
    """Return the way up a plane in plan."""
    inward = left(unit(*eave))
    if (
        dot(inward, sub(_middle([(x, y) for x, y, _ in face.ring]), eave[0])) < 0.0
    ):  # the outline turns the other way round
        inward = (-inward[0], -inward[1])
    return inward


def rafters_at(
    surface: RoofSurface,
    outline: Sequence[Point],
    overhangs: Sequence[float],
    edge: int,
    along: float,
    thick: Thick = usual,
) -> list[RoofMember]:
    """Return the rafters of the plane over an edge at a place along that, mm from its first corner."""
    face = next((face for face in surface.faces if face.edge == edge), None)
    if face is None:
        return []
    ends = outline[edge], outline[(edge + 1) % len(outline)]
    lines, foot = beside_planes(surface, thick).get(edge, ()), add(ends[0], unit(*ends), along)
    return list(_at(face, lines, ends, overhangs[edge], foot, _inward(face, ends)))


def _at(
    face: RoofFace, lines: tuple[Beside, ...], eave: Eave, over: float, foot: Point, inward: Point
) -> Iterator[RoofMember]:
    ring, slope = [(x, y) for x, y, _ in face.ring], math.degrees(math.atan(face.pitch))
    for low, high in chords((tuple(ring),), foot, inward):
        if high - low < SHORTEST:
            continue
        begin, end = _place(face, foot, inward, low), _place(face, foot, inward, high)
        tail = _tail_of(lines, eave, foot, inward, over) if low < AT_END else None
        made = _rafter(face, lines, begin, end, inward, slope, tail)
        if made is not None:
            yield made


def _middle(ring: list[Point]) -> Point:
    return sum(x for x, _ in ring) / len(ring), sum(y for _, y in ring) / len(ring)


def _place(face: RoofFace, foot: Point, inward: Point, far: float) -> Place:
    start = face.ring[0][2] - face.pitch * dot(inward, sub(face.ring[0][:2], foot))
    return (*add(foot, inward, far), start + face.pitch * far)


def _rafter(
    face: RoofFace,
    lines: tuple[Beside, ...],
    begin: Place,
    end: Place,
    inward: Point,
    slope: float,
    tail: "Tail | None",
) -> RoofMember | None:
    top, cut = _meets(lines, end, inward)
    bottom, foot, over = "eave", SQUARE, 0.0
    if tail is None:
        bottom, foot = _meets(lines, begin, inward)
    else:
        over = tail.over
        if tail.ends_at is not None:
            foot = tail.ends_at.against(inward)
            bottom = "eave" if over > foot.shorter else "valley"
            foot = foot._replace(kind=TAIL if bottom == "eave" else "valley")
    role, cut = "common rafter", _pointed(lines, end, inward, cut)
    if top == "hip" and cut.point is None:
        role = "hip jack" if bottom != "valley" else "cripple jack"
    elif bottom == "valley":
        role = "valley jack"
    elif bottom == "laid":
        role = "laid jack"
    run = distance(begin[:2], end[:2])
    net = run + over + cut.past(THICK) + foot.past(THICK)
    if net < SHORTEST:
        return None
    shown = cut if cut.bevel > 0.01 or bottom == "eave" else foot
    steep = math.hypot(1.0, face.pitch)
    return RoofMember(
        role, begin, end, (face.edge,), run * steep, net * steep, slope, shown.bevel, top_edge(shown.bevel, slope), foot, cut, over
    )  # fmt: skip


def _meets(lines: tuple[Beside, ...], at: Place, way: Point) -> tuple[str, Cut]:
    """Return what a rafter of a plane meets at a place, and how it is cut there."""
    near = [(off, line.kind != "ridge", k) for k, line in enumerate(lines) if (off := line.apart(at)) < AT_END]
    if not near:
        return "", SQUARE
    # Where a ridge ends among hips, it meets the ridge.
    least = min(off for off, _, _ in near)
    line = lines[min((kind, off, k) for off, kind, k in near if off < least + AT_TOP)[2]]
    return line.kind, line.against(way)


def _pointed(lines: tuple[Beside, ...], at: Place, way: Point, cut: Cut) -> Cut:
    """Return the cut of a rafter that ends where two hips meet, one on each side of it: pointed; else its cut as it is."""
    if cut.kind != "hip":
        return cut
    aside, met = left(way), dict[bool, tuple[float, float]]()
    for hip in lines:
        if hip.kind != "hip":
            continue
        top = max(hip.line.start, hip.line.end, key=lambda p: p[2])
        if distance(top[:2], at[:2]) < AT_TOP:
            low = min(hip.line.start, hip.line.end, key=lambda p: p[2])
            down = unit(top[:2], low[:2])
            across = dot(aside, down)
            if abs(across) > 1e-3:
                met[across > 0.0] = hip.half / abs(across), -dot(way, down) / abs(across)
    if len(met) < 2:
        return cut
    # Its end between both faces: before each by what that is thick, and the more so the farther aside.
    (one, by), (other, back) = met[True], met[False]
    if min(by, back) <= 0.0:
        return cut
    aside_at = min(max((other - one) / (by + back), -THICK / 2.0), THICK / 2.0)
    return cut._replace(point=max(one + aside_at * by, other - aside_at * back))


class Tail(NamedTuple):
    """How far in plan a rafter runs on beyond its wall, mm, and the valley whose tail it ends at, None where it reaches the eave."""

    over: float
    ends_at: Beside | None


def _tail_of(lines: tuple[Beside, ...], corners: Eave, foot: Point, inward: Point, over: float) -> Tail:
    """Return the tail of a rafter: beside an inner corner it ends at that of the valley."""
    best = Tail(over, None)
    for one in lines:
        if one.kind != "valley":
            continue
        low, high = sorted((one.line.start, one.line.end), key=lambda p: p[2])
        if min(distance(low[:2], corner) for corner in corners) > 1.0:
            continue
        way = unit(low[:2], high[:2])
        at = meet(foot, inward, low[:2], way)
        if at is None:
            continue
        far = -dot(inward, sub(at, foot))
        if -AT_END < far < best.over + AT_END and dot(way, sub(at, low[:2])) < AT_END:
            best = Tail(min(max(far, 0.0), best.over), one)
    return best


def lengths(lines: Sequence[RoofLine]) -> dict[str, float]:
    """Return how long all lines of each kind are together, mm."""
    rows = sorted(lines, key=lambda line: line.kind)
    return {
        kind: sum(line.length for line in group) for kind, group in itertools.groupby(rows, key=lambda line: line.kind)
    }
