"""Drawings of different sizes laid in rows, from room to room and sheet to sheet."""

from collections.abc import Iterable, Sequence

from balken.geometry.plane import Point
from balken.value import Value


class Room(Value, frozen=True):
    """A free rectangle on a sheet, paper mm; ``sheet``: the number of the sheet, from 0."""

    sheet: int
    left: float
    top: float
    wide: float
    high: float


def flowed(sizes: Sequence[tuple[float, float]], rooms: Iterable[Room], gap: float) -> list[tuple[int, Point]]:
    """Return for each size (width, height) in order the sheet it goes on and its lower left corner.

    Rows fill a room from its top; what finds no place in one goes on to the next.  What is larger than an empty room
    stands in it all the same.  ``rooms`` must not end before all are placed.  Raises StopIteration when they do.
    """
    found: list[tuple[int, Point]] = []
    source = iter(rooms)
    room = next(source)
    x, y, deep, empty = 0.0, 0.0, 0.0, True
    for wide, high in sizes:
        while True:
            if x > 0.0 and x + wide > room.wide:
                x, y, deep = 0.0, y + deep + gap, 0.0
            if (y + high <= room.high and wide <= room.wide) or (empty and room.sheet > 0):
                break
            room = next(source)
            x, y, deep, empty = 0.0, 0.0, 0.0, True
        found.append((room.sheet, (room.left + x, room.top - y - high)))
        x += wide + gap
        deep = max(deep, high)
        empty = False
    return found
