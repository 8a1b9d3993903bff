"""Arcs and circles as polygons near enough for drawing and counting."""

import math

from balken.geometry.plane import Point, Ring

FLAT = 1.0
"""Greatest distance between an arc and its chords, mm."""


def arc(start: Point, end: Point, rise: float, flat: float = FLAT) -> list[Point]:
    """Return points of the arc from start to end that rises by ``rise`` at its middle, mm.

    It rises to the right of start-end: outward, on a ring that turns anticlockwise.  With no rise, the two ends.  ``flat``: the
    greatest distance between the arc and its chords, mm.
    """
    chord = math.dist(start, end)
    if abs(rise) < FLAT or chord < FLAT:
        return [start, end]
    half = 2.0 * math.atan(2.0 * rise / chord)  # half of the angle the arc turns through
    radius = chord / (2.0 * math.sin(half))
    ux, uy = (end[0] - start[0]) / chord, (end[1] - start[1]) / chord
    middle = (start[0] + end[0]) / 2.0, (start[1] + end[1]) / 2.0
    away = rise - radius  # from the chord's middle to the arc's centre, to the right
    centre = middle[0] + uy * away, middle[1] - ux * away
    count = _pieces(abs(radius), 2.0 * abs(half), flat)
    found = [start]
    for i in range(1, count):
        turn = half * (2.0 * i / count - 1.0)
        along, out = radius * math.sin(turn), radius * math.cos(turn)
        found.append((centre[0] + ux * along + uy * out, centre[1] + uy * along - ux * out))
    return [*found, end]


def circle(centre: Point, radius: float) -> Ring:
    """Return a circle as a ring, anticlockwise."""
    count = max(_pieces(radius, 2.0 * math.pi), 12)
    turns = (2.0 * math.pi * i / count for i in range(count))
    return tuple((centre[0] + radius * math.cos(t), centre[1] + radius * math.sin(t)) for t in turns)


def _pieces(radius: float, angle: float, flat: float = FLAT) -> int:
    """Return into how many chords an arc is cut so that each keeps within so much of it."""
    step = 2.0 * math.acos(max(1.0 - flat / max(radius, flat), 0.0))
    return max(2, math.ceil(angle / step))
