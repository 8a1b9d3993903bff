"""Patterns of webs as small drawings, to be told apart at a glance."""

from functools import cache

from balken.documents.display import Diagram, Path
from balken.framing.truss_outline import height_on, ridged
from balken.framing.truss_webs import PATTERNS

SPAN, HEEL, TIP, SEAT = 8400.0, 150.0, 500.0, 140.0
PITCH = {"room": 1.0}
"""As steep as a pattern wants to be, where that is steeper than most are."""
BELOW = {"scissors": 0.25}


@cache
def pattern_diagram(name: str, width: float = 17.0) -> Diagram:
    """Return a truss of a pattern as lines, ``width`` mm wide."""
    outline = ridged(SPAN, PITCH.get(name, 0.5), HEEL, TIP, SEAT, BELOW.get(name, 0.0))
    pattern, lines = PATTERNS[name](outline), {"T": outline.top, "B": outline.bottom}
    points = {
        (chord, k): (x, height_on(lines[chord], x))
        for chord, xs in (("T", pattern.top), ("B", pattern.bottom))
        for k, x in enumerate(xs)
    }
    rows = [(outline.top, "outline"), (outline.bottom, "outline")]
    rows += [((points[web.one], points[web.other]), "thin") for web in pattern.webs]
    left, top = outline.top[0][0], max(y for _, y in outline.top)
    low = min(y for _, y in (*outline.top, *outline.bottom))
    scale = (outline.top[-1][0] - left) / width
    items = tuple(
        Path(tuple(((x - left) / scale, (y - top) / scale) for x, y in line), pen, "roof") for line, pen in rows
    )
    return Diagram(items, width, (top - low) / scale, f"{name} pattern")
