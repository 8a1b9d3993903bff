"""Where typed loads lie that are drawn by two opposite corners."""

from typing import Any

from balken.geometry.plane import Point
from balken.model.records import Project
from balken.model.ties import tie

POINT = 50.0
"""A load with no longer sides lies in a point, mm."""


def between(project: Project, start: Point, end: Point) -> dict[str, Any]:
    """Return place, width and depth of a load between two opposite corners; both in one place for a point."""
    low = (min(start[0], end[0]), min(start[1], end[1]))
    width, depth = (round(abs(a - b), 3) for a, b in zip(start, end, strict=True))
    return {
        "place": tie(project, low),
        "width": width if width > POINT else 0.0,
        "depth": depth if depth > POINT else 0.0,
    }
