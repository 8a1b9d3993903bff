"""Where webs meet the chords of a truss beside what its pattern says: over bearings between its ends, and where points are moved by hand.

Over a bearing inside, the bottom chord gets a point with a web up to the top of the panel it lies in; over one near an end past which the
truss runs on, an upright, and a web from its foot on to the next point of the top chord, so that all panels stay triangles.
"""

import itertools

from balken.framing.truss_outline import STEEP, Bearing, TrussError, TrussOutline, height_on, slope_on
from balken.framing.truss_webs import Pattern, Web
from balken.units import say_both
from balken.units.system import INCH

LEAST_APART = 12.0 * INCH
"""Points stand no nearer to the next ones and to the ends, mm: plates side by side would find no room (common practice, no source)."""
AT_BEND = 1.0
"""A point no farther than this from where a chord bends is at it, mm."""

CHORDS = 5.5 * INCH
"""Half of both chords together, near enough to place a web, mm."""

MovedPoint = tuple[str, int, float]
"""A point: on which chord ("top", "bottom"), its number from the left (from 1), how much farther right than its pattern has it, mm."""
Key = tuple[str, int]


def point_places(pattern: Pattern, outline: TrussOutline) -> tuple[tuple[str, int, float], ...]:
    """Return the points of a pattern that can be moved: chord, number from the left (from 1), where, mm from the left bearing's outer face."""
    if pattern.whole or pattern.all_along:
        return ()
    rows = (("top", pattern.top, outline.top), ("bottom", pattern.bottom, outline.bottom))
    return tuple(
        (chord, number, x - outline.bearings[0].low)
        for chord, points, line in rows
        for number, x in enumerate(points, start=1)
        if not any(abs(x - bend) < AT_BEND for bend, _ in line[1:-1])
        and not (chord == "bottom" and number - 1 in pattern.seated)
    )


def with_points(pattern: Pattern, outline: TrussOutline, moved: tuple[MovedPoint, ...]) -> Pattern:
    """Return a pattern with some of its points moved; raises TrussError where there are no such, or they find no room."""
    if not moved:
        return pattern
    free = {(chord, number) for chord, number, _ in point_places(pattern, outline)}
    chords = {"top": list(pattern.top), "bottom": list(pattern.bottom)}
    for chord, number, by in moved:
        if (chord, number) not in free:
            raise TrussError(f"its {chord} chord has no panel point {number} that can be moved")
        chords[chord][number - 1] += by
    for chord, number, _ in moved:
        row = [outline.start, *chords[chord], outline.end]
        gaps = [b - a for a, b in itertools.pairwise(row)][number - 1 : number + 1]
        if min(gaps) < LEAST_APART - AT_BEND:
            raise TrussError(
                f"point {number} of its {chord} chord would lie nearer than {say_both(LEAST_APART)} to the next one, or past it"
            )
    return pattern._replace(top=tuple(chords["top"]), bottom=tuple(chords["bottom"]))


# Bends and bearings between its ends -------------------------------------------------------------------


def at_bends(pattern: Pattern, outline: TrussOutline) -> Pattern:
    """Return a pattern with points, and webs up to the top of their panels, where the bottom chord bends and it has none.  Raises TrussError
    where a panel has no top to which a web could run up.
    """
    bends = [x for x, _ in outline.bottom[1:-1] if not any(abs(x - known) < AT_BEND for known in pattern.bottom)]
    if not bends or pattern.all_along:
        return pattern
    points = _Points(pattern, [x for x, _ in outline.bottom[1:-1]])
    for x in bends:
        points.below(x, "where its bottom chord bends")
    return points.made()


def on_bearings(pattern: Pattern, outline: TrussOutline) -> Pattern:
    """Return a pattern with points and webs over those bearings that do not lie under its heels.  Raises TrussError where a panel has no top to
    which a web could run up.
    """
    first, last = outline.bearings[0], outline.bearings[-1]
    seats = [b for b in outline.bearings if outline.start + AT_BEND < b.low and b.high < outline.end - AT_BEND]
    if not seats or pattern.all_along:
        return pattern
    points = _Points(pattern, [x for x, _ in outline.bottom[1:-1]])
    for bearing in seats:
        if bearing in (first, last):
            points.past_end(outline, bearing, bearing is first)
        else:
            points.inside(bearing)
    return points.made()._replace(on_walls=True)


class _Points:
    """Points of a pattern by keys of their own, and the webs between them; ``bends``: where those of the bottom chord stay."""

    def __init__(self, pattern: Pattern, bends: list[float]) -> None:
        self.pattern, self.bends = pattern, bends
        self.at: dict[Key, float] = {("T", k): x for k, x in enumerate(pattern.top)}
        self.at |= {("B", k): x for k, x in enumerate(pattern.bottom)}
        self.webs: list[tuple[Key, Key]] = [(web.one, web.other) for web in pattern.webs]
        self.seated: list[Key] = []

    def order(self, chord: str) -> list[Key]:
        """Return the points of a chord ("T", "B") from left to right."""
        return sorted((key for key in self.at if key[0] == chord), key=lambda key: self.at[key])

    def inside(self, bearing: Bearing) -> None:
        """Seat the truss on a bearing between its ends."""
        self.seated.append(self.below(bearing.middle, "over an inside bearing"))

    def below(self, x: float, what: str) -> Key:
        """Return a point of the bottom chord at a place: one near by is moved there, else one more gets a web up to the top of its panel."""
        near = self._near("B", x)
        if near is not None and not any(abs(self.at[near] - bend) < AT_BEND for bend in self.bends):
            self.at[near] = x
            return near
        before = [key for key in self.order("B") if self.at[key] < x][-1:]
        after = [key for key in self.order("B") if self.at[key] > x][:1]
        tops = [set(self._tops_of(key)) for key in (*before, *after)]
        over = set.intersection(*tops) if tops else set()
        if not over:
            raise TrussError(
                f"{what}, {say_both(x)} along it, this pattern of webs has no point to which a web could run up: choose another"
            )
        # At an end the panel's top is the outermost of those.
        outer = (lambda key: self.at[key]) if not before else (lambda key: -self.at[key])
        key = self._put("B", x)
        self.webs.append((min(over, key=outer), key))
        return key

    def past_end(self, outline: TrussOutline, bearing: Bearing, left: bool) -> None:
        """Seat the truss on its outermost bearing, past which it runs on.

        The web from there on stands steep enough beside the top chord to be plated, as that of a raised heel does.
        """
        x, near = bearing.middle, self._near("B", bearing.middle)
        foot = near if near is not None else self._put("B", x)
        self.at[foot] = x
        self.seated.append(foot)
        head = self._near("T", x)
        made = head is None
        head = head if head is not None else self._put("T", x)
        self._join(head, foot)
        if not made:
            return
        way = 1.0 if left else -1.0
        beyond = [key for key in self.order("T") if way * (self.at[key] - x) > 0.0]
        gap, pitch = (
            height_on(outline.top, x) - height_on(outline.bottom, x) - CHORDS,
            abs(slope_on(outline.top, x + way)),
        )
        reach = max(gap * (1.0 - pitch * STEEP) / (STEEP * (1.0 + pitch**2)), LEAST_APART)
        following = beyond[0 if left else -1] if beyond else None
        if following is None or reach < 0.7 * abs(self.at[following] - x):
            following = self._put("T", x + way * reach)
        self._join(following, foot)

    def _tops_of(self, key: Key) -> list[Key]:
        return [
            a if b == key else b for a, b in self.webs if key in (a, b) and (a[0], b[0]) in (("T", "B"), ("B", "T"))
        ]

    def _near(self, chord: str, x: float) -> Key | None:
        near = [key for key in self.order(chord) if abs(self.at[key] - x) < LEAST_APART]
        return min(near, key=lambda key: abs(self.at[key] - x), default=None)

    def _put(self, chord: str, x: float) -> Key:
        key = chord, 1000 + len(self.at)
        self.at[key] = x
        return key

    def _join(self, head: Key, foot: Key) -> None:
        if (head, foot) not in self.webs and (foot, head) not in self.webs:
            self.webs.append((head, foot))

    def made(self) -> Pattern:
        """Return the pattern they make."""
        tops, bottoms = self.order("T"), self.order("B")
        numbers: dict[Key, Key] = {key: (key[0], k) for row in (tops, bottoms) for k, key in enumerate(row)}
        past = {"T": (len(self.pattern.top), len(tops)), "B": (len(self.pattern.bottom), len(bottoms))}

        def named(key: Key) -> Key:
            if key in numbers:
                return numbers[key]
            before, after = past[key[0]]  # the ends of the chords: -1, and one past the last
            return (key[0], after) if key[1] == before else key

        return self.pattern._replace(
            top=tuple(self.at[key] for key in tops),
            bottom=tuple(self.at[key] for key in bottoms),
            webs=tuple(Web(named(a), named(b)) for a, b in self.webs),
            seated=tuple(sorted(numbers[key][1] for key in self.seated)),
        )
