"""Trusses under a roof of planes: where they stand, what they fill, how wide a strip of roof and of ceiling each carries.

They stand square to two eaves opposite one another, under one ridge, or to the one eave of a single slope; over a gable wall stands a
frame that the wall carries all along.  Toward a hip end their tops become flat under its plane (``truss_hips.py`` lays what hangs
on the last of them).  A roof with wings is laid in parts (``truss_parts.py``), each of them a rectangle.  What other roofs have (open
sides) is told, and stays framed with rafters.
"""

import itertools
import math
from typing import NamedTuple

from balken.framing.frames import Frame
from balken.framing.surface_roofs import SurfacePlan
from balken.framing.truss_heels import BUTT, wedge_of
from balken.framing.truss_outline import BOTTOM_PANEL, TOP_PANEL, Bearing, TailEnd, TrussError, TrussOutline
from balken.geometry.plane import Point, dot, left, sub, unit
from balken.model.kinds.roof import RafterSetOut
from balken.model.kinds.trusses import Trusses
from balken.units import say_both
from balken.units.system import FOOT, INCH
from balken.value import Value

SQUARE = 0.01
"""Ends of a roof are square to its eaves where the cosine between them is no more."""
BOARD = 1.5 * INCH
"""Thickness of each ply of a truss, mm."""
SEAT = 3.5 * INCH
"""What a hanger holds of a bottom chord, along it, mm."""
LEAST_TAIL = 50.0
"""Shorter tails beside a valley are left out, mm."""
BESIDE = 10.0
"""So far beside a valley tails end, mm."""
LEAST_GAP = 6.0 * INCH
"""The last truss stands no closer to the end frame, mm (it is left out)."""
SET_BACK = 8.0 * FOOT
"""A hip girder stands so far from the end at most, where nothing is typed (common practice, no source)."""
LEAST_SET_BACK = 3.0 * FOOT
LEAST_SLOPE, LEAST_RAISED = 12.0 * INCH, 24.0 * INCH
"""The slopes of a stepped ceiling, and what lies level between them, are no shorter in plan, mm."""
FLAT_LEAST = 1.0 * FOOT
"""Flat tops are no shorter: near the ridge they lie a little below the hip's plane instead, and are packed up, mm."""


class Over(Value, frozen=True):
    """What of an eave's plane lies over a truss beside where another part of the roof runs on over it: how far its top chord runs out
    there, how far in the plane is covered, mm; how much of it in plan is seen, and how much covered, mm2.
    """

    tail: float
    covered: float
    seen: float
    bare: float


class TrussPlace(Value, frozen=True):
    """A truss in a roof: of which make; its line in plan, s of ``frame`` from ``start``, at ``t``; walls under both ends ("": it hangs).

    ``roof``, ``ceiling``: the strips it carries, mm along t; ``gable``: the wall that carries it all along, or ""; ``areas``: of roof
    and ceiling in plan that it carries, mm2, where those are no strips; ``edge``: the plane over it where it is one alone (-1: the row's);
    ``lift``: how far over the roof's bearings it begins, mm; ``sides``: what lies over it at both eaves, where that is not its strip.
    """

    make: str
    frame: Frame
    start: float
    t: float
    walls: tuple[str, str]
    roof: tuple[float, float]
    ceiling: tuple[float, float]
    gable: str = ""
    areas: tuple[float, float] | None = None
    edge: int = -1
    lift: float = 0.0
    sides: tuple[Over, Over] | None = None
    inner: tuple[tuple[float, float, str], ...] = ()
    """Inside walls that it bears on, too: from where to where along it, mm, which."""

    def at(self, x: float) -> Point:
        """Return a place along it in plan."""
        return self.frame.back(self.start + x, self.t)


class HipEnd(NamedTuple):
    """A hip end: the number of its edge, whether it is the first along t, its pitch and overhang, how far in of it the hip girder's face
    stands, mm.
    """

    edge: int
    first: bool
    pitch: float
    over: float
    set_back: float


class TrussRow(NamedTuple):
    """Trusses under a roof: s of ``frame`` runs from the outer face of the first eave's wall (at ``start``) to the other's.

    ``eaves``: numbers of both edges; ``walls``: under them; ``wide``: from outer face to outer face, ``along``: t of both ends,
    ``spacing`` of trusses, mm; ``hips``: its ends that are hips.
    """

    frame: Frame
    start: float
    wide: float
    eaves: tuple[int, int]
    walls: tuple[str, str]
    along: tuple[float, float]
    places: tuple[TrussPlace, ...]
    spacing: float
    hips: tuple[HipEnd, ...] = ()

    def inward(self, hip: HipEnd, t: float) -> float:
        """Return how far in of a hip end a place along the eaves lies, mm."""
        return t - self.along[0] if hip.first else self.along[1] - t


def why_not(plan: SurfacePlan) -> str:
    """Return why trusses cannot stand under a roof; "" where they can."""
    if plan.problem:
        return plan.problem
    eaves = [k for k, edge in enumerate(plan.edges) if edge.kind == "eave"]
    core = plan.outline.core
    if len(core) != 4:
        return "trusses are laid over rectangles; where its walls step back it stays framed with rafters"
    single = len(plan.surface.faces) == 1 and len(eaves) == 1
    ways = [unit(core[k], core[(k + 1) % 4]) for k in range(4)]
    if abs(dot(ways[0], ways[2])) < 1.0 - SQUARE or abs(dot(ways[1], ways[3])) < 1.0 - SQUARE:
        return "its eaves do not run alongside one another"
    if abs(dot(ways[0], ways[1])) > SQUARE:
        return "its ends are not square to its eaves"
    if single and at_wall(plan, (eaves[0] + 2) % 4) and "wall" in {plan.edges[(eaves[0] + k) % 4].kind for k in (1, 3)}:
        return "its ends stand against taller walls, too: make those gables"
    if not single and (len(plan.surface.faces) != len(eaves) or not main_eaves(plan)):
        return "trusses are laid under one slope, or between two eaves opposite one another under one ridge, with gables or hips at its ends"
    if not plan.roof.trusses.level and len(eaves) > 2:
        return "at its hip ends bottom chords that rise would meet no level ones: make them level, or the ends gables"
    return _set_backs(plan) if not single else ""


def at_wall(plan: SurfacePlan, side: int) -> bool:
    """Whether trusses hang on a ledger on a taller wall along a side: at the high side of a single slope that stands against it."""
    return plan.edges[side].kind == "wall" and is_single(plan)


CLEAR = 0.5 * INCH
"""Bottom chords below the plates, and boards on them, end so far short of the lining of walls (common practice, no source)."""


def why_not_so(plan: SurfacePlan) -> str:
    """Return why trusses cannot be joined by gussets, or their heels stand out past the walls, under a roof; "" where they can, or are not to."""
    trusses = plan.roof.trusses
    eaves = [k for k, edge in enumerate(plan.edges) if edge.kind == "eave"]
    alone = len(plan.edges) == 4 and len(eaves) <= 2 and all(edge.kind != "roof" for edge in plan.edges)
    if trusses.past > 0.0:
        if not alone:
            return "heels past the walls are made along eaves between two gables: set them over the walls, or its ends to gables"
        if not trusses.level:
            return "heels past the walls are made with level bottom chords"
        short = min(plan.overhangs[k] for k in eaves)
        if short < trusses.past - 1.0:
            return f"its heels stand {say_both(trusses.past)} past the walls, and its overhang is {say_both(short)}: make that longer"
    if trusses.drop > 0.0 and (not alone or is_single(plan)):
        return "trusses bear on their top chords between two eaves alike, with gables at their ends: let bottom chords lie on the plates"
    if trusses.joined == "gussets" and not alone:
        return "gussets are made for trusses that stand alone between two gables: girders and what hangs on them have plates"
    return ""


def main_eaves(plan: SurfacePlan) -> tuple[int, int] | None:
    """Return both eaves between which trusses span: those that meet at the ridge."""
    faces = {face.edge for face in plan.surface.faces}
    ridges = [line for line in plan.surface.lines if line.kind == "ridge" and set(line.edges) <= faces]
    pairs = {(min(line.edges), max(line.edges)) for line in ridges}
    if not pairs and len(faces) == 4:  # a pyramid: it has a point alone
        core = plan.outline.core
        pairs = {(0, 2) if math.dist(core[0], core[1]) >= math.dist(core[1], core[2]) else (1, 3)}
    if len(pairs) != 1:
        return None
    one, other = pairs.pop()
    if other - one != 2:
        return None
    return (one, other) if plan.surface.faces[0].edge != other else (other, one)


def _set_backs(plan: SurfacePlan) -> str:
    """Return what is wrong with where hip girders would stand, "" where nothing is."""
    pair = main_eaves(plan)
    assert pair is not None
    for k, edge in enumerate(plan.edges):
        if edge.kind != "eave" or k in pair:
            continue
        back, far = set_back(plan, k), _hip_run(plan, pair, edge.pitch)
        if back > far - FLAT_LEAST or back < LEAST_SET_BACK:
            return (
                f"its hip end is {say_both(far)} deep in plan: a hip girder stands {say_both(LEAST_SET_BACK)} from the end at least, "
                f"and {say_both(FLAT_LEAST)} short of the ridge at most. Type another set-back, or make that end a gable"
            )
    return ""


def _hip_run(plan: SurfacePlan, pair: tuple[int, int], pitch: float) -> float:
    """Return how far in of a hip end its plane reaches the ridge, mm in plan."""
    core, (p0, p1) = plan.outline.core, (plan.edges[k].pitch for k in pair)
    across = abs(dot(left(unit(core[pair[0]], core[(pair[0] + 1) % 4])), sub(core[pair[1]], core[pair[0]])))
    return across * p0 * p1 / (p0 + p1) / pitch


def set_back(plan: SurfacePlan, edge: int) -> float:
    """Return how far in of a hip end its girder stands: as typed, else 8 ft at most, by whole spacings, well short of the ridge."""
    trusses, pair = plan.roof.trusses, main_eaves(plan)
    if trusses.set_back is not None:
        return trusses.set_back
    assert pair is not None
    spacing = trusses.spacing or 24.0 * INCH
    most = min(SET_BACK, 0.7 * _hip_run(plan, pair, plan.edges[edge].pitch)) + 1.0
    return max(math.floor(most / spacing) * spacing, min(LEAST_SET_BACK, most))


def truss_row(plan: SurfacePlan, spacing: float, plies: int, girder_plies: int = 2) -> TrussRow:
    """Lay trusses under a roof for which ``why_not`` has nothing to say; ``spacing`` in mm, ``plies`` of common and hip girder trusses.

    Its places are those square to the eaves, from the first end to the last.
    """
    core = plan.outline.core
    single = is_single(plan)
    one, other = (plan.surface.faces[0].edge, (plan.surface.faces[0].edge + 2) % 4) if single else _pair(plan)
    a, b = core[one], core[(one + 1) % 4]
    inward = left(unit(a, b))
    frame = Frame(round(math.degrees(math.atan2(inward[1], inward[0])), 9))
    start, wide = frame.to(a)[0], abs(dot(inward, sub(core[other], a))) - (BOARD if at_wall(plan, other) else 0.0)
    low, high = sorted((frame.to(a)[1], frame.to(b)[1]))
    ends: list[int] = []
    for first in (True, False):
        near = low if first else high
        middles = {
            k: (frame.to(core[k])[1] + frame.to(core[(k + 1) % 4])[1]) / 2.0 for k in range(4) if k not in (one, other)
        }
        ends.append(min(middles, key=lambda k: abs(middles[k] - near)))
    walls = plan.outline.walls
    kinds = [plan.edges[k].kind for k in ends]
    hips = tuple(
        HipEnd(k, first, plan.edges[k].pitch, plan.overhangs[k], set_back(plan, k))
        for k, first, kind in zip(ends, (True, False), kinds, strict=True)
        if kind == "eave"
    )
    # Where the first and last one stand with their outer faces, and how thick they are.
    gables = [walls[k] if kind == "gable" else "" for k, kind in zip(ends, kinds, strict=True)]
    girders = ("eave", "roof")
    thicks = [BOARD * (girder_plies if kind in girders else 1 if kind == "gable" else plies) for kind in kinds]
    faces = [low, high]
    for hip in hips:
        faces[0 if hip.first else 1] += hip.set_back if hip.first else -hip.set_back
    # At an open side they stand clear of the lower edge of the deck that runs on there, square to its slope.
    back = [BESIDE if kind == "gable" and not walls[k] else 0.0 for k, kind in zip(ends, kinds, strict=True)]
    ts = _stations(
        (faces[0] + back[0], faces[1] - back[1]), (thicks[0], thicks[1]), spacing, plan.roof.set_out, bool(hips)
    )
    cuts = [(x + y) / 2.0 for x, y in itertools.pairwise(ts)]
    over = [0.0 if kind == "eave" else plan.overhangs[k] for k, kind in zip(ends, kinds, strict=True)]
    roofs = list(itertools.pairwise([faces[0] - over[0], *cuts, faces[1] + over[1]]))
    ceilings = list(itertools.pairwise([faces[0], *cuts, faces[1]]))
    row = TrussRow(frame, start, wide, (one, other), (walls[one], walls[other]), (low, high), (), spacing, hips)
    places = []
    for k, (t, roof, ceiling) in enumerate(zip(ts, roofs, ceilings, strict=True)):
        end = 0 if k == 0 else 1 if k == len(ts) - 1 else None
        gable = gables[end] if end is not None else ""
        ends_at = "" if end is None else {"eave": "girder", "roof": "carrier"}.get(kinds[end], "")
        make = "gable" if gable else ends_at or _make(plan, row, t, plies)
        places.append(TrussPlace(make, frame, start, t, row.walls, roof, ceiling, gable))
    return row._replace(places=tuple(places))


def _pair(plan: SurfacePlan) -> tuple[int, int]:
    pair = main_eaves(plan)
    assert pair is not None
    return pair


def _make(plan: SurfacePlan, row: TrussRow, t: float, plies: int) -> str:
    flat = flat_at(plan, row, t, BOARD * plies)
    return "common" if flat is None else "flat"


def flat_at(plan: SurfacePlan, row: TrussRow, t: float, thick: float) -> tuple[float, float] | None:
    """Return between which places along a truss its top is flat, under the plane of a hip end; None where it has a peak.

    It lies as high as that plane over its face toward the end, so that no edge of it stands in the deck; near the ridge a little lower,
    so that it is long enough to be made.
    """
    p0, p1 = slopes_of(plan, row)
    high = min((hip.pitch * (row.inward(hip, t) - thick / 2.0) for hip in row.hips), default=math.inf)
    rate = 1.0 / p0 + 1.0 / p1
    if high * rate >= row.wide:
        return None
    high = min(high, (row.wide - FLAT_LEAST) / rate)
    return high / p0, row.wide - high / p1


def _stations(
    faces: tuple[float, float], thicks: tuple[float, float], spacing: float, set_out: RafterSetOut, from_first: bool
) -> list[float]:
    """Return where trusses stand: one at each end, its outer face at ``faces``, the others at a spacing from the first end, the last, or
    from the middle; ``from_first``: counted from where the one at that end stands, not from its face.
    """
    if set_out == "end":
        back = _stations((-faces[1], -faces[0]), thicks[::-1], spacing, "corner", from_first)
        return [-t for t in reversed(back)]
    (low, high), first, last = faces, faces[0] + thicks[0] / 2.0, faces[1] - thicks[1] / 2.0
    if set_out == "middle":
        count = max(math.ceil((high - low) / spacing - 1e-9) - 1, 0)
        begin = (low + high) / 2.0 - spacing * (count - 1) / 2.0
    else:
        begin = (first if from_first else low) + spacing
        count = math.ceil((high - begin) / spacing - 1e-9)
    between = [begin + k * spacing for k in range(max(count, 0))]
    return [first, *(t for t in between if first + LEAST_GAP <= t <= last - LEAST_GAP), last]


def is_single(plan: SurfacePlan) -> bool:
    """Whether a roof is of one slope."""
    return len(plan.surface.faces) == 1


def slopes_of(plan: SurfacePlan, row: TrussRow) -> tuple[float, float]:
    """Return the pitches over both walls of a row: of a single slope its own twice."""
    one, other = row.eaves
    return plan.edges[one].pitch, plan.edges[one if is_single(plan) else other].pitch


def ridge_of(plan: SurfacePlan, row: TrussRow) -> float:
    """Return where the peak lies along a truss, mm: where both slopes meet; of a single slope past its end."""
    p0, p1 = slopes_of(plan, row)
    return math.inf if is_single(plan) else row.wide * p1 / (p0 + p1)


def overs(plan: SurfacePlan, row: TrussRow) -> tuple[float, float]:
    """Return how far top chords run out past both ends, mm: as the roof overhangs; over a ledger to the wall behind it."""
    low, high = (BOARD if at_wall(plan, k) else plan.overhangs[k] for k in row.eaves)
    return low, high


def outline_of(
    plan: SurfacePlan,
    row: TrussRow,
    place: TrussPlace,
    heel: float,
    trusses: Trusses,
    flat: tuple[float, float] | None = None,
) -> TrussOutline:
    """Return what a truss of a row fills: the roof's surface cut square to its eaves, over the ceiling; ``flat``: where its top is flat."""
    made = _outline(plan, row, place, heel, trusses, flat)
    return TrussOutline(
        made.top, made.bottom, made.bearings, made.tails, made.on_top,
        (trusses.top_panel or TOP_PANEL, trusses.bottom_panel or BOTTOM_PANEL),
    )  # fmt: skip


def _outline(
    plan: SurfacePlan,
    row: TrussRow,
    place: TrussPlace,
    heel: float,
    trusses: Trusses,
    flat: tuple[float, float] | None,
) -> TrussOutline:
    p0, p1 = slopes_of(plan, row)
    over0, over1 = overs(plan, row)
    if place.sides is not None:
        over0, over1 = (side.tail for side in place.sides)
    hung = [not wall or at_wall(plan, k) for k, wall in zip(row.eaves, place.walls, strict=True)]
    lengths = [SEAT if hangs else 2.0 * plan.deep[k] for k, hangs in zip(row.eaves, hung, strict=True)]
    inner = (Bearing(low, high) for low, high, _ in place.inner)
    bearings = (
        Bearing(0.0, lengths[0], widens=not hung[0]),
        *inner,
        Bearing(row.wide - lengths[1], row.wide, widens=not hung[1]),
    )
    if trusses.drop > 0.0 and not place.gable:
        return _dropped(plan, row, trusses, heel, bearings, (over0, over1))
    past = trusses.past
    level = ((-past, 0.0), (row.wide + (0.0 if is_single(plan) else past), 0.0))
    low, high_end = (tail_end(plan, (k,), over) for k, over in zip(row.eaves, (over0, over1), strict=True))
    if is_single(plan):
        high = row.wide + over1
        return tidy(((-over0, heel - p0 * over0), (high, heel + p0 * high)), level, bearings, (low, None))
    ridge = ridge_of(plan, row)
    top = ((-over0, heel - p0 * over0), (ridge, heel + p0 * ridge), (row.wide + over1, heel - p1 * over1))
    if flat is not None:
        high = heel + p0 * flat[0]
        return tidy((top[0], (flat[0], high), (flat[1], high), top[2]), level, bearings, (low, high_end))
    lower = trusses.bottom_pitch
    if trusses.step > 0.0:
        return tidy(top, stepped(row.wide, trusses), bearings, (low, high_end))
    if lower <= 0.0:
        return tidy(top, level, bearings, (low, high_end))
    sinks = -lower * max(lengths)
    middle = row.wide / 2.0
    return tidy(top, ((0.0, sinks), (middle, sinks + lower * middle), (row.wide, sinks)), bearings, (low, high_end))


def _dropped(
    plan: SurfacePlan,
    row: TrussRow,
    trusses: Trusses,
    heel: float,
    bearings: tuple[Bearing, ...],
    over: tuple[float, float],
) -> TrussOutline:
    """Return what a truss fills that bears on its top chord: its bottom chord lies lower, from wall to wall, clear of both."""
    (p0, p1), ridge = slopes_of(plan, row), ridge_of(plan, row)
    top = ((-over[0], heel - p0 * over[0]), (ridge, heel + p0 * ridge), (row.wide + over[1], heel - p1 * over[1]))
    high = max(BUTT + p * (b.high - b.low) for p, b in ((p0, bearings[0]), (p1, bearings[-1])))
    if wedge_of(high) is None:
        raise TrussError(
            f"the wedges on its plates would be {say_both(high)} high, more than any board: make it less steep, or let bottom chords lie on the "
            "plates"
        )
    off = [plan.lined[k] + CLEAR for k in row.eaves]
    bottom = tuple((x, -trusses.drop) for x in (bearings[0].high + off[0], bearings[-1].low - off[1]))
    tails = [tail_end(plan, (k,), far) for k, far in zip(row.eaves, over, strict=True)]
    made = tidy(top, bottom, bearings, (tails[0], tails[1]))
    return TrussOutline(made.top, made.bottom, made.bearings, made.tails, on_top=True)


def stepped(wide: float, trusses: Trusses) -> tuple[Point, ...]:
    """Return the underside of bottom chords under a ceiling that steps up in its middle, or nearer to one wall, by slopes of 45 degrees at
    most; raises TrussError where no room is left between these.
    """
    run = max(trusses.step, LEAST_SLOPE)
    left, right = trusses.step_in, wide - (trusses.step_in if trusses.step_right is None else trusses.step_right)
    raised = (right - run) - (left + run)
    if raised < LEAST_RAISED:
        raise TrussError(
            f"between the slopes of its ceiling {say_both(max(raised, 0.0))} would be left: let it step up nearer to the walls, or less"
        )
    return (0.0, 0.0), (left, 0.0), (left + run, trusses.step), (right - run, trusses.step), (right, 0.0), (wide, 0.0)


def tail_end(plan: SurfacePlan, edges: tuple[int, ...], over: float) -> TailEnd | None:
    """Return how top chords end that overhang the eaves of edges by so much, as the roof's tails do; square at one eave alone."""
    roof = plan.roof
    if over <= 0.0 or roof.tails in ("plumb", "cut back"):
        return None  # top chords of trusses are not cut back
    if roof.tails == "level":
        low = min(plan.level(e) - plan.edges[e].pitch * plan.overhangs[e] for e in edges) - plan.bearing
        return TailEnd(round(min(low - roof.tail_plumb, 0.0), 6))
    return TailEnd() if len(edges) == 1 else None


def tidy(
    top: tuple[Point, ...],
    bottom: tuple[Point, ...],
    bearings: tuple[Bearing, ...],
    tails: tuple[TailEnd | None, TailEnd | None] = (None, None),
) -> TrussOutline:
    """Return an outline to a millionth of a mm: what only moves is the same."""

    def even(line: tuple[Point, ...]) -> tuple[Point, ...]:
        return tuple((round(x, 6), round(y, 6)) for x, y in line)

    seats = tuple(Bearing(round(b.low, 6), round(b.high, 6), b.level, b.widens) for b in bearings)
    return TrussOutline(even(top), even(bottom), seats, tails)
