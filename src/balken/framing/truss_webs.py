"""Patterns of webs: where the chords of a truss are met by webs, and which webs there are.

A pattern is a table of parts of the way from a bearing to the peak; a truss under two slopes has it on both sides.
"""

import itertools
import math
from collections.abc import Callable
from typing import NamedTuple

from balken.framing.truss_outline import TrussError, TrussOutline, height_on
from balken.units.system import FOOT, INCH

ROOM_HEIGHT = 7.0 * FOOT
"""A room in the roof is as high at least (IRC R305.1)."""
MOST_PANELS = 12
LONGEST_JACK = 6.0 * FOOT
"""Longer jacks have webs (common practice, no source)."""
STEEP_LAST = 0.7
"""Tangent of the least angle between the last web and the bottom chord of one slope that hangs."""
HIGH_HEEL, HIGH_HEEL_PANEL = 15.0 * INCH, 5.0 * FOOT
"""Beside heels that are higher panels of flat-topped trusses are no longer: deep chords would leave no room to plate the web of such a heel."""
GIRDER_PANEL = 5.0 * FOOT
"""Panels of girders on which others hang are no longer (common practice, no source)."""
LEAST_STUD = 12.0 * INCH
"""Studs of valley trusses stand so far from their ends."""
ROOM_FOR_STUD = 6.0 * INCH
"""Shorter studs could not be plated at both ends."""
STUDS_APART = 10.0 * INCH
"""No stud stands nearer to that under the peak."""
FLAT_PANEL = 1.5
"""Panels under a flat top are no longer than so many times their depth: webs there lie no flatter than about 34 degrees."""


class Web(NamedTuple):
    """A web: its ends among the points of the top chord ("T", number) and of the bottom chord ("B", number), from left to right."""

    one: tuple[str, int]
    other: tuple[str, int]


class Pattern(NamedTuple):
    """Points of webs on the top and on the bottom chord (x, mm), from left to right, and the webs between them; at bearings none.

    ``stands``: whether the ends of the chords are joined by uprights over the bearings, at left and at right; ``all_along``: it stands
    on a wall all along; ``whole``: stretches of chords ("top", "bottom") that nothing but their own stiffness holds: no splice lies there.
    """

    top: tuple[float, ...]
    bottom: tuple[float, ...]
    webs: tuple[Web, ...]
    stands: tuple[bool, bool] = (False, False)
    all_along: bool = False
    whole: tuple[tuple[str, float, float], ...] = ()
    hung: tuple[float, ...] = ()
    """Places on the bottom chord where other trusses hang."""
    rested: tuple[float, ...] = ()
    """Places on the top chord where trusses of a roof over it rest."""
    seated: tuple[int, ...] = ()
    """Numbers of the points of the bottom chord that lie on something between its ends."""
    on_walls: bool = False
    """Whether that are walls, of those under its ends one or both, past which it runs on."""
    opens: bool = False
    """Whether both chords end apart at its right end, each held by what it hangs on."""
    stood: tuple[tuple[str, float], ...] = ()
    """Places between joints where someone may stand: on which chord ("top", "bottom"), where along it."""


def _peak(outline: TrussOutline) -> float:
    """Return where the top chord has its peak: it has one."""
    if len(outline.top) != 3:
        raise TrussError("this pattern needs a roof with one ridge over the truss")
    return outline.top[1][0]


class _Half(NamedTuple):
    """Half a pattern: parts of the way from bearing to peak on both chords, webs between them by their numbers; numbers one past
    the last mean the peak, and the middle of the bottom chord under it.
    """

    top: tuple[float, ...]
    bottom: tuple[float, ...]
    webs: tuple[tuple[int, int], ...]
    middle: bool
    """Whether the bottom chord has a point under the peak."""
    post: bool
    """Whether an upright stands under the peak."""


HALVES: dict[str, _Half] = {
    "king-post": _Half((), (), (), True, True),
    "queen-post": _Half((1 / 2,), (), ((0, 0),), True, True),
    "fink": _Half((1 / 2,), (2 / 3,), ((0, 0), (1, 0)), False, False),
    "fan": _Half((1 / 3, 2 / 3), (2 / 3,), ((0, 0), (1, 0), (2, 0)), False, False),
    "double-fink": _Half((1 / 3, 2 / 3), (2 / 5, 4 / 5), ((0, 0), (1, 0), (1, 1), (2, 1)), False, False),
}


def _howe(panels: int) -> _Half:
    """Return uprights at every point, webs that fall toward the middle."""
    parts = tuple(k / panels for k in range(1, panels))
    webs = [row for k in range(panels - 1) for row in ((k, k), (k, k + 1))]
    return _Half(parts, parts, tuple(webs), True, True)


def mirrored(half: _Half, outline: TrussOutline) -> Pattern:
    """Return a half pattern on both sides of the peak."""
    peak = _peak(outline)
    low, high = outline.start, outline.end

    def points(parts: tuple[float, ...], middle: bool) -> tuple[float, ...]:
        left = [low + part * (peak - low) for part in parts]
        right = [high - part * (high - peak) for part in reversed(parts)]
        return (*left, *([peak] if middle else []), *right)

    n, m = len(half.top), len(half.bottom)
    tops, bottoms = 2 * n + 1, 2 * m + (1 if half.middle else 0)
    webs = []
    for t, b in half.webs:
        webs.append(Web(("T", t), ("B", b)))
        webs.append(Web(("T", tops - 1 - t), ("B", bottoms - 1 - b)))
    if half.post:
        webs.append(Web(("T", n), ("B", m)))
    ordered = tuple(dict.fromkeys(webs))
    return Pattern(points(half.top, True), points(half.bottom, half.middle), ordered)


def _panels(long: float, most: float, least: int) -> int:
    """Return into how many panels a length is cut."""
    number = max(math.ceil(long / most - 1e-9), least)
    if number > MOST_PANELS:
        raise TrussError("it is too long: no pattern of webs is made of so many panels")
    return number


def _zigzag(panels: int) -> _Half:
    """Return webs that go up and down from the first joint of the top chord to the foot of an upright under the peak: between chords that
    both slope they stand steep.
    """
    top = tuple(k / (panels + 1) for k in range(1, panels + 1))
    bottom = tuple(k / panels for k in range(1, panels))
    webs = [(k, k) for k in range(panels)] + [(k + 1, k) for k in range(panels - 1)]
    return _Half(top, bottom, tuple(webs), True, True)


def scissors(outline: TrussOutline) -> Pattern:
    """Return a pattern between slopes above and below, with as many panels as its chords need."""
    peak = _peak(outline)
    half = max(peak - outline.start, outline.end - peak)
    return mirrored(_zigzag(max(_panels(half, outline.panels[1], 2), _panels(half, outline.panels[0], 3) - 1)), outline)


def howe(outline: TrussOutline) -> Pattern:
    """Return a Howe pattern with as many panels as its chords need."""
    peak = _peak(outline)
    return mirrored(_howe(_panels(max(peak - outline.start, outline.end - peak), min(outline.panels), 2)), outline)


def one_sloped(outline: TrussOutline, least: int = 2) -> Pattern:
    """Return uprights and webs that fall toward the tall end, where an upright stands over the bearing; ``least``: panels."""
    count = _panels(outline.span, min(outline.panels), least)
    points = tuple(outline.start + outline.span * k / count for k in range(1, count))
    webs = [Web(("T", k), ("B", k)) for k in range(count - 1)]
    # The last one falls to the foot of the upright over the bearing, which is the next point of the bottom chord.
    webs += [Web(("T", k), ("B", k + 1)) for k in range(count - 1)]
    return Pattern(points, points, tuple(webs), (False, True))


def parallel(outline: TrussOutline) -> Pattern:
    """Return uprights and webs that fall toward the middle from both ends; uprights stand over both bearings."""
    deep = height_on(outline.top, outline.start) - height_on(outline.bottom, outline.start)
    count = _panels(outline.span, min(max(1.5 * deep, 2.0 * FOOT), *outline.panels), 2)
    count += count % 2
    points = tuple(outline.start + outline.span * k / count for k in range(1, count))
    webs = [Web(("T", k), ("B", k)) for k in range(count - 1)]
    # Numbers -1 and count - 1 are the points over the bearings.
    half = count // 2
    webs += [Web(("T", k - 1), ("B", k)) for k in range(half)]
    webs += [Web(("T", k), ("B", k - 1)) for k in range(half, count)]
    return Pattern(points, points, tuple(webs), (True, True))


def room(outline: TrussOutline) -> Pattern:
    """Return a room in the roof: uprights at its walls, a level tie over it."""
    peak = _peak(outline)
    half = min(peak - outline.start, outline.end - peak)
    floor = max(y for _, y in outline.bottom)
    chord = 12.0 * INCH  # of the floor's chord, the tie and the top chord, near enough to find a place for the room
    level = floor + chord + ROOM_HEIGHT
    rise = height_on(outline.top, peak)
    # Walls stand half way to the bearings; the tie meets the top chord 2 ft within them at least.
    walls = (outline.start + half / 2.0, outline.end - half / 2.0)
    level = max(level, *(height_on(outline.top, x) for x in (walls[0] + 2.0 * FOOT, walls[1] - 2.0 * FOOT)))
    if level > rise - 1.5 * FOOT:
        raise TrussError("no room 7 ft high fits under its peak: make it steeper or wider, or choose other webs")
    left, right = (_reaches(outline, level, side) for side in (0, 1))
    webs = (Web(("T", 0), ("B", 0)), Web(("T", 4), ("B", 1)), Web(("T", 1), ("T", 3)))
    whole = (("bottom", *walls), ("top", walls[0], left), ("top", right, walls[1]))
    return Pattern((walls[0], left, peak, right, walls[1]), walls, webs, whole=whole)


def _reaches(outline: TrussOutline, level: float, side: int) -> float:
    (x0, y0), (x1, y1), (x2, y2) = outline.top
    if side == 0:
        return x0 + (level - y0) * (x1 - x0) / (y1 - y0)
    return x2 - (level - y2) * (x2 - x1) / (y1 - y2)


def gable_end(outline: TrussOutline, spacing: float = 24.0 * INCH) -> Pattern:
    """Return studs at a spacing, from the middle to both sides; it stands on a wall all along."""
    middle = outline.top[1][0] if len(outline.top) == 3 else (outline.start + outline.end) / 2.0
    least = 10.0 * INCH
    points = [middle]
    for way in (-1.0, 1.0):
        x = middle + way * spacing
        while outline.start + 1.5 * FOOT < x < outline.end - 1.5 * FOOT:
            if height_on(outline.top, x) - height_on(outline.bottom, x) > least + 7.0 * INCH:
                points.append(x)
            x += way * spacing
    points.sort()
    webs = tuple(Web(("T", k), ("B", k)) for k in range(len(points)))
    # Under a single slope an upright closes the tall end.
    stands = tuple(
        height_on(outline.top, x) - height_on(outline.bottom, x) > 1.5 * FOOT for x in (outline.start, outline.end)
    )
    return Pattern(
        tuple(points), tuple(points), webs, (stands[0], stands[1]) if len(outline.top) == 2 else (False, False), True
    )


def valley(outline: TrussOutline) -> Pattern:
    """Return studs over each truss below that it lies on, and under its peak; none where there is no room for one."""
    peak, points = _peak(outline), list[float]()
    chords = outline.top[0][1] + 3.5 * INCH  # at its end the top chord lies on the bottom chord, of 2x4

    def clear(x: float) -> float:
        return height_on(outline.top, x) - height_on(outline.bottom, x) - chords

    for bearing in outline.bearings[1:-1]:
        x = bearing.middle
        if outline.start + LEAST_STUD < x < outline.end - LEAST_STUD and clear(x) > ROOM_FOR_STUD:
            points.append(x)
    if clear(peak) < ROOM_FOR_STUD:
        return Pattern((peak,), (), ())
    below = next((x for x in points if abs(x - peak) < 1.0), None)
    studs = sorted([peak, *(x for x in points if abs(x - peak) > STUDS_APART)])
    webs = tuple(Web(("T", k), ("B", k)) for k in range(len(studs)))
    seated = tuple(k for k, x in enumerate(studs) if x != peak or below is not None)
    return Pattern(tuple(studs), tuple(studs), webs, seated=seated)


def girder(outline: TrussOutline) -> Pattern:
    """Return a Howe pattern with panels short enough for what hangs between their joints."""
    peak = _peak(outline)
    return mirrored(
        _howe(_panels(max(peak - outline.start, outline.end - peak), min(GIRDER_PANEL, *outline.panels), 2)), outline
    )


def flat_topped(outline: TrussOutline) -> Pattern:
    """Return uprights at both bends and between, webs that fall toward the middle; panels no wider than they are well braced."""
    if len(outline.top) != 4:
        raise TrussError("this pattern needs a top that is flat in its middle")
    (_, (x0, y0), (x1, _), _), low, high = outline.top, outline.start, outline.end
    deep = y0 - max(y for _, y in outline.bottom)
    most = min(max(FLAT_PANEL * deep, 3.0 * FOOT), *outline.panels)
    heel = height_on(outline.top, low) - height_on(outline.bottom, low)
    slopes = min(HIGH_HEEL_PANEL if heel > HIGH_HEEL else math.inf, *outline.panels)
    rows = (
        (low, x0, _panels(x0 - low, slopes, 1)),
        (x0, x1, _panels(x1 - x0, most, 1)),
        (x1, high, _panels(high - x1, slopes, 1)),
    )
    ends = [a + (b - a) * k / n for a, b, n in rows for k in range(n)]
    points = tuple(ends[1:])
    middle = (low + high) / 2.0
    webs = [Web(("T", k), ("B", k)) for k in range(len(points))]
    for k in range(len(points) - 1):
        falls = (points[k] + points[k + 1]) / 2.0 <= middle + 1.0
        webs.append(Web(("T", k), ("B", k + 1)) if falls else Web(("T", k + 1), ("B", k)))
    return Pattern(points, points, tuple(webs))


def jack(outline: TrussOutline) -> Pattern:
    """Return no webs but the upright at its higher end, which hangs."""
    return Pattern((), (), (), (False, True))


def open_jack(outline: TrussOutline) -> Pattern:
    """Return no web at all: a jack too low at its end for an upright, both of whose chords are held there."""
    return Pattern((), (), (), opens=True)


def long_jack(outline: TrussOutline) -> Pattern:
    """Return the webs of one slope, in so many panels that the last of them falls steeply enough to be plated at the hung end."""
    for count in range(2, MOST_PANELS):
        panel = outline.span / count
        if height_on(outline.top, outline.end - panel) - height_on(outline.bottom, outline.end) >= STEEP_LAST * panel:
            return one_sloped(outline, count)
    raise TrussError("it is too flat for webs at its higher end: make the roof steeper, or its heels higher")


PATTERNS: dict[str, Callable[[TrussOutline], Pattern]] = {
    **{name: (lambda outline, half=half: mirrored(half, outline)) for name, half in HALVES.items()},  # type: ignore[misc]
    "howe": howe,
    "scissors": scissors,
    "one-sloped": one_sloped,
    "parallel": parallel,
    "room": room,
    "gable-end": gable_end,
}
"""Patterns by name."""
HIPS: dict[str, Callable[[TrussOutline], Pattern]] = {
    "flat-topped": flat_topped, "valley": valley, "girder": girder, "jack": jack, "open jack": open_jack, "long jack": long_jack
}  # fmt: skip
"""Patterns of trusses at the hip ends of a roof and over its valleys; Balken takes them where they belong."""
BY_SPAN = ("king-post", "queen-post", "fink", "fan", "double-fink", "howe")
"""Tried in order where the pattern is chosen: the first whose panels are short enough is taken."""


def chosen(outline: TrussOutline) -> str:
    """Return the pattern for an outline: of those under a ridge the first whose panels are no longer than the limits."""
    if len(outline.top) != 3:
        return "one-sloped"
    if len(outline.bottom) == 3:
        return "scissors"
    for name in BY_SPAN[:-1]:
        pattern = PATTERNS[name](outline)
        longest = [
            max(b - a for a, b in itertools.pairwise(row))
            for row in (
                (outline.start, *pattern.top, outline.end),
                (outline.start, *pattern.bottom, outline.end),
            )
        ]
        if longest[0] <= outline.panels[0] + 1.0 and longest[1] <= outline.panels[1] + 1.0:
            return name
    return "howe"
