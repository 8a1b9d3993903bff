"""Where the boards on one line across a floor begin and end: butted, lapped or running on over bearings, past the last one."""

import itertools
from typing import NamedTuple

from msgspec.structs import replace

from balken.framing.pieces import MemberLine
from balken.model.kinds.floor import Over
from balken.units.system import INCH

SHORTEST_PIECE = 3.0 * INCH
"""Nobody nails in a joist shorter than this."""
LAP = 3.0 * INCH
"""Joists that lap over a bearing do so by this at least (IRC R502.6.1)."""
AT_EDGE = 60.0
"""A bearer that begins no farther than this from the edge of a floor is that edge's, mm."""
SAME = 1e-6
Patch = tuple[float, float, float, float]
"""A piece of floor between s low and high and between t low and high (a rectangle or its equal)."""
Stop = tuple[float, float, str]
"""What a joist meets along its line: from, to, bearer ("" for none)."""


class End(NamedTuple):
    """One end of a line across a floor: what joists hang on there ("" for nothing), how far behind the edge they end, mm;
    whether they may reach past the last bearing there.
    """

    hung: str
    thick: float
    past: bool = False


class Running(NamedTuple):
    """What joists do over bearings: how they meet there, the longest there is, how much of one lies in a hanger, mm; the
    bearers at whose faces they hang.
    """

    over: Over
    longest: float
    hanger: float
    hangs: frozenset[str]


def cut(
    t: float, patches: list[Patch], low: float, high: float, crossed: list[Stop], ends: tuple[End, End], how: Running
) -> tuple[list[MemberLine], list[Patch]]:
    """Return the joists on one stretch of a line, from edge to edge, and the floor beside pieces too short to be nailed in."""
    stops, past = _stops(low, high, crossed, ends, how)
    found: list[MemberLine] = []
    short: list[Patch] = []
    for i, j in _boards(stops, past, low, high, how):
        at_edge = i == 0, j == len(stops) - 1
        line = _board(t, stops[i : j + 1], at_edge, (low, high), ends, how)
        beside = [(max(p, line.load_low), min(q, line.load_high), t0, t1) for p, q, t0, t1 in patches]
        if line.high - line.low < SHORTEST_PIECE:
            short += [patch for patch in beside if patch[1] - patch[0] > SAME]
            continue
        found.append(_carrying(line, _merged([(p, q, t1 - t0) for p, q, t0, t1 in beside])))
    return found, short


def _stops(
    low: float, high: float, crossed: list[Stop], ends: tuple[End, End], how: Running
) -> tuple[list[Stop], tuple[bool, bool]]:
    """Return what joists meet from edge to edge, and at which ends they reach past the last of it."""
    inside = [c for c in crossed if c[1] > low + 1.0 and c[0] < high - 1.0]
    first = next((c for c in inside if c[0] <= low + AT_EDGE), None)
    last = next((c for c in reversed(inside) if c[1] >= high - AT_EDGE), None)
    middle = [c for c in inside if c is not first and c is not last]
    past = (ends[0].past and first is None, ends[1].past and last is None)
    if len(middle) + (not past[0]) + (not past[1]) < 2:  # with nothing behind it a joist does not reach past a bearing
        past = (False, False)
    edges: list[Stop] = [
        first or (low, low + (ends[0].thick + how.hanger if ends[0].hung else 0.0), ends[0].hung),
        last or (high - (ends[1].thick + how.hanger if ends[1].hung else 0.0), high, ends[1].hung),
    ]
    return [*([] if past[0] else edges[:1]), *middle, *([] if past[1] else edges[1:])], past


def _boards(stops: list[Stop], past: tuple[bool, bool], low: float, high: float, how: Running) -> list[tuple[int, int]]:
    """Return from which stop to which each board runs; those that run on are as few as the stock allows."""
    last = len(stops) - 1
    if how.over != "continuous":
        return list(itertools.pairwise(range(last + 1)))
    found, i = [], 0
    while i < last:
        j = i + 1
        while j < last and stops[j][2] and stops[j][2] not in how.hangs:
            start = low if i == 0 else _middle(stops[i])
            end = high if j + 1 == last else _middle(stops[j + 1])
            if end - start > how.longest + SAME:
                break
            j += 1
        found.append((i, j))
        i = j
    return found


def _middle(stop: Stop) -> float:
    return (stop[0] + stop[1]) / 2.0


def _board(
    t: float,
    stops: list[Stop],
    at_edge: tuple[bool, bool],
    edges: tuple[float, float],
    ends: tuple[End, End],
    how: Running,
) -> MemberLine:
    """Return one board over the stops it runs over, with nothing on it yet."""
    a, b = stops[0], stops[-1]
    loads = [edges[0] if at_edge[0] else _middle(a), edges[1] if at_edge[1] else _middle(b)]
    start = edges[0] + ends[0].thick if at_edge[0] else loads[0] - _lap(a, how)
    end = edges[1] - ends[1].thick if at_edge[1] else loads[1] + _lap(b, how)
    if a[2] in how.hangs and not (at_edge[0] and ends[0].thick):
        start, a = a[1], (a[1], a[1] + how.hanger, a[2])
    if b[2] in how.hangs and not (at_edge[1] and ends[1].thick):
        end, b = b[0], (b[0] - how.hanger, b[0], b[2])
    feet = (max(start, a[0]) if a[2] else start, min(end, b[1]) if b[2] else end)
    bears = (max(0.0, a[1] - feet[0]), max(0.0, feet[1] - b[0]))
    inner = tuple((name, (p + q) / 2.0, q - p) for p, q, name in stops[1:-1])
    faces = [a[1] if a[2] else start, *(x for p, q, _ in stops[1:-1] for x in (p, q)), b[0] if b[2] else end]
    clear = max(q - p for p, q in zip(faces[::2], faces[1::2], strict=True))
    centres = (feet[0] + bears[0] / 2.0, feet[1] - bears[1] / 2.0)
    return MemberLine("", t, 0.0, start, end, loads[0], loads[1], (a[2], b[2]), centres, bears, clear, (), False, inner)


def _lap(stop: Stop, how: Running) -> float:
    """Return how far a joist runs past the middle of a bearing where it laps with the next: over all of it, 3 in together at least."""
    return max((stop[1] - stop[0]) / 2.0, LAP / 2.0) if how.over == "lapped" and stop[2] not in how.hangs else 0.0


def _carrying(line: MemberLine, own: tuple[tuple[float, float, float], ...]) -> MemberLine:
    """Return a board with the floor it carries."""
    width = max((w for _, _, w in _stacked(own)), default=0.0)
    whole = len(own) == 1 and own[0][:2] == (line.load_low, line.load_high)
    return replace(line, width=width, patches=() if whole else own)


def _merged(patches: list[tuple[float, float, float]]) -> tuple[tuple[float, float, float], ...]:
    """Return patches of some length; those over the same stretch are one, as wide as both."""
    wide: dict[tuple[float, float], float] = {}
    for low, high, width in patches:
        if high - low > 1e-6:
            key = (round(low, 6), round(high, 6))
            wide[key] = wide.get(key, 0.0) + width
    return tuple((low, high, round(width, 6)) for (low, high), width in wide.items())


def _stacked(patches: tuple[tuple[float, float, float], ...]) -> list[tuple[float, float, float]]:
    """Return the patches cut at one another's ends, widths added where they lie side by side."""
    marks = sorted({x for low, high, _ in patches for x in (low, high)})
    return [
        (a, b, sum(w for low, high, w in patches if low <= a + 1e-6 and high >= b - 1e-6))
        for a, b in itertools.pairwise(marks)
    ]
