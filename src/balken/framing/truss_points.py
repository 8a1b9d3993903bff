"""Panel points of a truss moved by hand: where webs meet its chords."""

import itertools

from balken.framing.truss_outline import TrussError, TrussOutline
from balken.framing.truss_webs import Pattern
from balken.units import say_both
from balken.units.system import INCH

LEAST_APART = 12.0 * INCH
"""Points moved stand no nearer to the next ones and to the ends, mm: plates side by side would find no room (common practice, no source)."""
AT_BEND = 1.0
"""A point no farther than this from where a chord bends is at it, mm."""

MovedPoint = tuple[str, int, float]
"""A point: on which chord ("top", "bottom"), its number from the left (from 1), how much farther right than its pattern has it, mm."""


def point_places(pattern: Pattern, outline: TrussOutline) -> tuple[tuple[str, int, float], ...]:
    """Return the points of a pattern that can be moved: chord, number from the left (from 1), where, mm from the left bearing's outer face."""
    if pattern.whole or pattern.all_along or pattern.seated:
        return ()
    rows = (("top", pattern.top, outline.top), ("bottom", pattern.bottom, outline.bottom))
    return tuple(
        (chord, number, x - outline.start)
        for chord, points, line in rows
        for number, x in enumerate(points, start=1)
        if not any(abs(x - bend) < AT_BEND for bend, _ in line[1:-1])
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
