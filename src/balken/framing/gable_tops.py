"""The top of a wall over which several roofs end beside one another, or one that ends before the wall does."""

from collections.abc import Sequence
from typing import NamedTuple

from msgspec.structs import replace

from balken.framing.bands import WallLine
from balken.framing.walls import GableTop
from balken.units.system import INCH

TOUCH = 2.0
"""Roofs that end nearer to one another than this end there at one place, mm."""
ALONE = 12.0 * INCH
"""A wall that reaches farther than this past what ends over it is level there: its corner with another wall is shorter."""
Slope = tuple[float, float, float]


class _Part(NamedTuple):
    """A stretch of a wall under one slope: from where to where along it, mm; the height of what bears there."""

    low: float
    high: float
    slope: Slope
    floor: float
    shell: bool = False


def one_top(tops: Sequence[GableTop], line: WallLine) -> GableTop:
    """Return the top of a wall under roofs that end beside one another over it, level where none does.

    ``tops``: of each roof, in the order in which they are laid; where two end over one stretch, the later one counts alone.
    """
    kept: list[GableTop] = []
    for top in reversed(tops):
        if not any(over_one_stretch(top, x) for x in kept):
            kept.append(top)
    kept.sort(key=lambda top: min(top.eaves))
    parts: list[_Part] = []
    for top in kept:
        rows = _parts(top)
        parts += _level(line, parts[-1].high if parts else 0.0, rows[0].low, TOUCH if parts else ALONE)
        parts += rows
    parts += _level(line, parts[-1].high, line.band.length, ALONE)
    if len(parts) == len(kept[0].slopes):
        return kept[0]
    pockets = tuple(pocket for top in kept for pocket in top.pockets)
    floors, breaks = tuple(part.floor for part in parts), tuple(part.low for part in parts[1:])
    made = GableTop(
        (parts[0].low, parts[-1].high), breaks, tuple(part.slope for part in parts), min(floors), floors=floors
    )
    shells, alike = tuple(part.shell for part in parts), all(top.shell for top in kept)
    return replace(made, shell=alike, pockets=pockets, shells=() if alike or not any(shells) else shells)


def over_one_stretch(one: GableTop, other: GableTop) -> bool:
    """Whether two roofs end over one stretch of a wall."""
    return min(max(one.eaves), max(other.eaves)) - max(min(one.eaves), min(other.eaves)) > TOUCH


def _level(line: WallLine, low: float, high: float, least: float) -> list[_Part]:
    """Return the stretch between two places, level at the wall's own head; nothing where it is no longer than ``least``."""
    top = line.band.top
    return [_Part(low, high, (0.0, top, top), top)] if high - low > least else []


def _parts(top: GableTop) -> list[_Part]:
    marks = [min(top.eaves), *top.breaks, max(top.eaves)]
    floors = top.floors or (top.bearing,) * len(top.slopes)
    return [_Part(*row, top.shell) for row in zip(marks, marks[1:], top.slopes, floors, strict=False)]
