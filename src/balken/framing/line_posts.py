"""Which posts hold a line of a roof: its ends, and places between."""

from collections.abc import Sequence

from balken.geometry.plane import Point, distance, off_line

POST = 150.0
"""A post holds an end no farther than this from its middle, mm."""
BESIDE = 60.0
"""A post holds a line in between no farther than this from its middle, mm."""


def posts_between(start: Point, end: Point, posts: Sequence[tuple[str, Point]]) -> tuple[tuple[str, float], ...]:
    """Return the posts that hold a line between its ends and how far along it they stand, mm; of two side by side one holds it."""
    found, long = [], distance(start, end)
    for post, at in posts:
        along, aside = off_line(at, start, end)
        if abs(aside) <= BESIDE and POST < along < long - POST:
            found.append((post, along))
    kept: list[tuple[str, float]] = []
    for post, along in sorted(found, key=lambda row: row[1]):
        if not kept or along - kept[-1][1] > POST:
            kept.append((post, along))
    return tuple(kept)
