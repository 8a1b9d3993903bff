"""Sheets laid over a plane of deck: rows from its lower edge up, long sides across the supports, joints on them and staggered.

Coordinates (s, t) in the plane, mm: s across the supports, t along them.
"""

import itertools
from collections.abc import Sequence
from typing import NamedTuple

import shapely

from balken.geometry.plane import Ring, polygons_of

SAME = 0.5
LEAST = 2500.0
"""Less of a sheet than this is no piece, mm2."""


class Sheet(NamedTuple):
    """The size of sheets, and the shortest piece that is laid where there is a choice, mm."""

    long: float
    wide: float
    least: float


class SheetPiece(NamedTuple):
    """What is laid in one place: its outline, the number of its row, how much of a sheet it takes up, mm along and across it; whether both
    of its ends lie on supports or edges; over how many bays between supports it runs.
    """

    ring: Ring
    row: int
    size: tuple[float, float]
    held: bool
    bays: int = 2


def lay_sheets(shape: shapely.Geometry, supports: Sequence[float], sheet: Sheet) -> list[SheetPiece]:
    """Return the pieces that cover a shape (a polygon with holes); joints lie on supports wherever one is within reach."""
    found: list[SheetPiece] = []
    if shape.is_empty:
        return found
    _, low, _, high = shape.bounds
    stops, row, t = sorted(supports), 0, low
    while t < high - SAME:
        top = min(t + sheet.wide, high)
        strip = shape.intersection(shapely.box(shape.bounds[0] - 1.0, t, shape.bounds[2] + 1.0, top))
        for part in sorted(polygons_of(strip), key=lambda p: p.bounds[0]):
            if part.area < LEAST:
                continue
            begin, _, end, _ = part.bounds
            cuts = _cuts(begin, end, stops, sheet, half=row % 2 == 1)
            for k, (a, b) in enumerate(itertools.pairwise(cuts)):
                on = (k == 0 or _near(a, stops)) and (k == len(cuts) - 2 or _near(b, stops))
                laid = polygons_of(part.intersection(shapely.box(a, t, b, top)))
                for piece in (half for whole in laid for half in _beside_holes(whole)):
                    if piece.area >= LEAST:
                        x0, y0, x1, y1 = piece.bounds
                        ring = tuple((float(x), float(y)) for x, y in piece.exterior.coords[:-1])
                        bays = sum(x0 - SAME <= s <= x1 + SAME for s in stops) - 1
                        found.append(SheetPiece(ring, row, (x1 - x0, y1 - y0), on, max(bays, 0)))
        t, row = top, row + 1
    return found


def _beside_holes(piece: shapely.Polygon) -> list[shapely.Polygon]:
    """Return a piece that lies all round a hole as what lies on both sides of the hole's middle: two meet there above and below it."""
    if not piece.interiors:
        return [piece]
    low, _, high, _ = piece.interiors[0].bounds
    x0, y0, x1, y1 = piece.bounds
    middle = (low + high) / 2.0
    halves = (piece.intersection(shapely.box(a, y0, b, y1)) for a, b in ((x0, middle), (middle, x1)))
    return [part for half in halves for found in polygons_of(half) for part in _beside_holes(found)]


def laid_best(shape: shapely.Geometry, supports: Sequence[float], sheet: Sheet) -> list[SheetPiece]:
    """Return sheets laid from that end from which fewer are needed: where supports are set out from, whole ones end on them."""
    one = lay_sheets(shape, supports, sheet)
    turned = shapely.transform(shape, lambda points: points * (-1.0, 1.0))
    other = lay_sheets(turned, [-s for s in supports], sheet)
    if sheets_needed(one, sheet) <= sheets_needed(other, sheet):
        return one
    return [piece._replace(ring=tuple((-s, t) for s, t in piece.ring)[::-1]) for piece in other]


def _near(at: float, stops: Sequence[float]) -> bool:
    return any(abs(at - s) < SAME for s in stops)


def _cuts(begin: float, end: float, stops: Sequence[float], sheet: Sheet, half: bool) -> list[float]:
    """Return where sheets of a row end: on the last support that they reach; every other row begins with half a sheet."""
    cuts = [begin]
    reach = sheet.long / 2.0 if half else sheet.long
    while end - cuts[-1] > reach + SAME:
        most = cuts[-1] + reach
        on = [s for s in stops if cuts[-1] + SAME < s <= most + SAME]
        cuts.append(on[-1] if on else most)
        reach = sheet.long
    # Rather two longer pieces than a last one too short.
    if len(cuts) > 1 and end - cuts[-1] < sheet.least:
        before = cuts[-2]
        on = [s for s in stops if before + sheet.least <= s + SAME and s <= end - sheet.least + SAME]
        if on:
            cuts[-1] = on[-1]
    return [*cuts, end]


def sheets_needed(pieces: Sequence[SheetPiece], sheet: Sheet) -> int:
    """Return how many sheets the pieces are cut from, offcuts used again where a piece fits the way it lies: a safe count, for pieces
    count as the rectangles about them, first fit by falling size.  What a saw takes away is left free between panels anyhow (1/8 in).
    """
    begun: list[_Begun] = []
    for long, wide in sorted((piece.size for piece in pieces), key=lambda size: (-size[1], -size[0])):
        if not any(one.takes(long, wide) for one in begun):
            begun.append(_Begun(sheet))
            begun[-1].takes(min(long, sheet.long), min(wide, sheet.wide))
    return len(begun)


class _Begun:
    """A sheet being cut: in strips along it, each with what is left of its length."""

    def __init__(self, sheet: Sheet) -> None:
        self.long, self.left = sheet.long, sheet.wide
        self.strips: list[list[float]] = []

    def takes(self, long: float, wide: float) -> bool:
        """Cut a piece from a strip that has room, or from a new one; tell whether it could be."""
        for strip in self.strips:
            if wide <= strip[0] + SAME and long <= strip[1] + SAME:
                strip[1] -= long
                return True
        if wide > self.left + SAME or long > self.long + SAME:
            return False
        self.left -= wide
        self.strips.append([wide, self.long - long])
        return True
