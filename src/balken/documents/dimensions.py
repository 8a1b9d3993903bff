"""Dimension strings (ISO 129-1: line, oblique strokes, figure above the line) and level marks."""

import itertools
import math
from collections.abc import Sequence
from functools import lru_cache

from balken.documents.display import Area, Item, Layer, Path, Strokes, Text
from balken.documents.lettering import text_width
from balken.geometry.plane import Point, add, left
from balken.units import Units, format_length

TEXT = 2.5
"""Height of capitals of dimension figures, paper mm (ISO 3098)."""
LEVEL = TEXT + 0.9
"""From one level of figures to the next, paper mm."""
LEVELS = 5
"""Figures that find no room on the highest of these levels stand there over one another."""


def dimension_string(
    stations: list[float],
    origin: Point,
    direction: Point,
    offset: float,
    units: Units,
    scale: float,
    layer: Layer = "notes",
    witness: float = 4.0,
    ref: str = "",
    labels: tuple[str, ...] = (),
    crossed: Sequence[float] = (),
) -> list[Item]:
    """Return a chain of dimensions along ``direction``, ``offset`` mm to its left.

    Stations (mm from ``origin``) nearer than 1 mm are one.  ``witness``: how far (paper mm) the
    extension lines reach back toward the thing measured.  A figure too wide for its bay stands
    raised above it, clear of the others. ``labels``: figures to write instead of the lengths ("" = the length); ``crossed``: where
    axes cross the string: no figure stands on one where its bay has room beside it.
    """
    kept = _kept(stations)
    if len(kept) < 2:
        return []
    crossings = tuple(crossed)
    return list(_string(tuple(kept), origin, direction, offset, units, scale, layer, witness, ref, labels, crossings))


def _kept(stations: Sequence[float]) -> list[float]:
    kept: list[float] = []
    for s in sorted(stations):
        if not kept or s - kept[-1] > 1.0:
            kept.append(s)
    return kept


@lru_cache(maxsize=4096)
def _string(
    kept: tuple[float, ...],
    origin: Point,
    direction: Point,
    offset: float,
    units: Units,
    scale: float,
    layer: Layer,
    witness: float,
    ref: str,
    labels: tuple[str, ...],
    crossed: tuple[float, ...],
) -> tuple[Item, ...]:
    """Return the string's items; remembered, as most strings stay where they are from edit to edit."""
    aside = left(direction)
    outward = 1.0 if offset >= 0.0 else -1.0
    base = add(origin, aside, offset)
    angle, flipped = reading(direction)
    up = -1.0 if flipped else 1.0
    rows = [(add(base, direction, kept[0]), add(base, direction, kept[-1]))]
    ticks = []
    stroke = 1.1 * scale
    for s in kept:
        p = add(base, direction, s)
        slope = (direction[0] + aside[0], direction[1] + aside[1])
        ticks.append((add(p, slope, -stroke), add(p, slope, stroke)))
        back = add(p, aside, -outward * witness * scale)
        rows.append((back, add(p, aside, outward * 1.5 * scale)))
    items: list[Item] = [Strokes(tuple(rows), "dimension", layer, ref), Strokes(tuple(ticks), "tick", layer, ref)]
    figures, wides, levels = _figures(kept, units, scale, labels)
    for i, (a, b) in enumerate(itertools.pairwise(kept)):
        figure, wide = figures[i], wides[i]
        lift = (TEXT * 0.5 + 0.9 + LEVEL * levels[i]) * scale * up
        middle = beside((a, b), wide, crossed) if levels[i] == 0 else (a + b) / 2.0
        at = add(add(base, direction, middle), aside, lift)
        half = (wide / 2.0, TEXT * 0.6 * scale)
        backing = tuple(
            add(add(at, direction, sx * half[0]), aside, sy * half[1])
            for sx, sy in ((-1, -1), (1, -1), (1, 1), (-1, 1))
        )
        items.append(Area((backing,), "sheet", "", layer))
        items.append(
            Text(
                at,
                figure,
                TEXT * scale,
                angle=angle,
                pen="note",
                layer=layer,
                ref=ref,
            )
        )
    return tuple(items)


def beside(bay: tuple[float, float], wide: float, crossed: Sequence[float]) -> float:
    """Return where a figure so wide stands in a bay: in its middle, or as near to that as it is clear of what crosses the bay; in its
    middle where there is no such place.
    """
    a, b = bay
    middle, half = (a + b) / 2.0, wide / 2.0
    inside = [c for c in crossed if a - half < c < b + half]
    places = [middle, *(c + way * (half + 1e-6) for c in inside for way in (-1.0, 1.0))]
    free = [x for x in places if a <= x - half and x + half <= b and all(abs(x - c) >= half for c in inside)]
    return min(free, key=lambda x: abs(x - middle), default=middle)


def figure_levels(stations: Sequence[float], units: Units, scale: float) -> int:
    """Return on how many levels above the line (the first not counted) the figures of a string stand."""
    kept = tuple(_kept(stations))
    return max(_figures(kept, units, scale, ())[2], default=0) if len(kept) > 1 else 0


@lru_cache(maxsize=4096)
def _figures(
    kept: tuple[float, ...], units: Units, scale: float, labels: tuple[str, ...]
) -> tuple[list[str], list[float], list[int]]:
    """Return the figures of a string, their widths and levels: a figure wider than its bay goes where none is in its way."""
    figures, wides, levels = [], [], []
    taken: dict[int, list[tuple[float, float]]] = {level: [] for level in range(LEVELS)}
    bays = list(itertools.pairwise(kept))
    for i, (a, b) in enumerate(bays):
        figures.append((labels[i] if i < len(labels) else "") or format_length(b - a, units))
        wides.append(text_width(figures[i], TEXT * scale) + 1.0 * scale)
        levels.append(0)
        if wides[i] <= b - a:
            taken[0].append((a, b))
    for i, (a, b) in enumerate(bays):
        if wides[i] > b - a:
            low, high = (a + b - wides[i]) / 2.0, (a + b + wides[i]) / 2.0
            free = (k for k in (1, 0, *range(2, LEVELS)) if all(v <= low or u >= high for u, v in taken[k]))
            levels[i] = next(free, LEVELS - 1)
            taken[levels[i]].append((low, high))
    return figures, wides, levels


def reading(direction: Point) -> tuple[float, bool]:
    """Return the text angle readable from below or the right, and whether it was turned round."""
    angle = math.degrees(math.atan2(direction[1], direction[0]))
    if angle > 90.0 + 1e-6 or angle <= -90.0 + 1e-6:
        return (angle + 180.0) % 360.0, True
    return angle, False


def spread(wanted: list[float], gap: float) -> list[float]:
    """Return places as near as can be to ``wanted`` (rising) with at least ``gap`` between neighbours.

    Clusters of crowded values are spaced evenly about their mean (least squares).
    """
    blocks: list[tuple[float, int]] = []
    for i, value in enumerate(wanted):
        centre, count = value - i * gap, 1
        while blocks and blocks[-1][0] > centre:
            before, n = blocks.pop()
            centre, count = (before * n + centre * count) / (n + count), n + count
        blocks.append((centre, count))
    flat = [centre for centre, count in blocks for _ in range(count)]
    return [value + i * gap for i, value in enumerate(flat)]


def level_marks(
    levels: list[tuple[str, str, float]], line_from: float, line_to: float, units: Units, scale: float
) -> list[Item]:
    """Return a mark for each level (id, name, height): its line, an open triangle, name and height.

    Marks stand to the right of ``line_to``; crowded ones are spread with a bent leader.
    """
    ordered = sorted(levels, key=lambda row: row[2])
    size = 2.5 * scale
    places = spread([height for _, _, height in ordered], 2.1 * size)
    items: list[Item] = []
    reach = line_to + 6.0 * scale
    for (level_id, name, z), y in zip(ordered, places, strict=True):
        items.append(Path(((line_from, z), (line_to, z)), "level", "set out", level_id))
        if abs(y - z) > 0.5:
            items.append(Path(((line_to, z), (reach - 1.0 * scale, y)), "level", "set out", level_id))
        else:
            items.append(Path(((line_to, z), (reach, y)), "level", "set out", level_id))
        tip = (reach + 1.3 * scale, y)
        side = 1.3 * scale
        triangle = (tip, (tip[0] - side, y + 1.7 * side), (tip[0] + side, y + 1.7 * side))
        items.append(Path(((reach - 1.0 * scale, y), (reach + 3.0 * scale, y)), "level", "set out", level_id))
        items.append(Path(triangle, "level", "set out", level_id, closed=True))
        label = f"{format_length(z, units)}   {name}"
        items.append(
            Text((reach + 4.2 * scale, y + 0.9 * side), label, size * 0.92, "left", 0.0, "note", "set out", level_id)
        )
    return items
