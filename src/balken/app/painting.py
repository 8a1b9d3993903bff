"""Painting a display list with QPainter: prepared once, drawn at any zoom."""

import math
from functools import lru_cache

import numpy as np
from msgspec import Struct
from PySide6.QtCore import QPointF, QRect, QRectF, Qt
from PySide6.QtGui import (
    QColor,
    QFont,
    QFontMetrics,
    QFontMetricsF,
    QPainter,
    QPainterPath,
    QPen,
    QStaticText,
    QTransform,
)

from balken.documents.display import Area, Circle, Item, Path, Strokes, Text, text_corners
from balken.documents.lettering import CAP_HEIGHT, FAMILY
from balken.documents.style import FILLS, MUTED, PENS, SELECTED, SHEET
from balken.geometry.plane import Point, bounds, to_segment
from balken.model.naming import owner_of

PIXELS_PER_PAPER_MM = 3.2
SMALLEST_TEXT = 4.0
"""Capitals lower than this many pixels are left out: nobody can read them."""
STROKES_FROM = 0.012
"""Hatching is left out below this zoom (pixels a mm)."""


DASHED_FROM = 14.0
"""What is smaller on the screen (pixels) than a few dashes is drawn through: dashes would not show its shape."""
DIMENSION_PENS = ("dimension", "tick")


class Prepared(Struct):
    """An item with its bounds, and its Qt path once it comes into view; the same item keeps its own between edits."""

    item: Item
    box: tuple[float, float, float, float]
    layer: str = ""
    ref: str = ""
    lettering: bool = False
    """Whether it stays readable over everything: figures, and what lies behind them."""
    dashed_size: float = math.inf
    """The larger side of what a dashed pen outlines, mm; endless for all else."""
    _path: QPainterPath | None = None

    def __post_init__(self) -> None:
        item = self.item
        self.layer, self.ref = item.layer, item.ref
        self.lettering = isinstance(item, Text) or (isinstance(item, (Area, Circle)) and item.fill == "sheet")
        if item.pen and PENS[item.pen].dashes:
            x0, y0, x1, y1 = self.box
            self.dashed_size = max(x1 - x0, y1 - y0)

    @property
    def path(self) -> QPainterPath:
        """Its outline or strokes; none for texts."""
        if self._path is None:
            self._path = _path_of(self.item)
        return self._path


def prepare(items: tuple[Item, ...] | list[Item]) -> list[Prepared]:
    """Return items ready to be painted."""
    if len(_kept) > 12_000:
        _kept.clear()
    found = []
    for item in items:
        known = _kept.get(id(item))
        if known is None:
            known = _kept[id(item)] = (item, _prepared(item))
        found.append(known[1])
    return found


_kept: dict[int, tuple[Item, Prepared]] = {}
"""By the identity of an item: it, held so that no other one can come to have it, and what all equal to it share."""


@lru_cache(maxsize=8_192)
def _prepared(item: Item) -> Prepared:
    if isinstance(item, Path):
        return Prepared(item, bounds(item.points))
    if isinstance(item, Area):
        return Prepared(item, bounds(item.rings[0]))
    if isinstance(item, Circle):
        (x, y), r = item.centre, item.radius
        return Prepared(item, (x - r, y - r, x + r, y + r))
    if isinstance(item, Strokes):
        points = [p for s in item.segments for p in s]
        return Prepared(item, bounds(points) if points else (0.0, 0.0, 0.0, 0.0))
    return Prepared(item, bounds(text_corners(item)))


def _path_of(item: Item) -> QPainterPath:
    path = QPainterPath()
    if isinstance(item, Path):
        _trace(path, item.points, item.closed)
    elif isinstance(item, Area):
        for ring in item.rings:
            _trace(path, ring, True)
    elif isinstance(item, Circle):
        path.addEllipse(QPointF(*item.centre), item.radius, item.radius)
    elif isinstance(item, Strokes):
        for (x0, y0), (x1, y1) in item.segments:
            path.moveTo(x0, y0)
            path.lineTo(x1, y1)
    return path


def _trace(path: QPainterPath, ring: tuple[Point, ...], closed: bool) -> None:
    path.moveTo(*ring[0])
    for point in ring[1:]:
        path.lineTo(*point)
    if closed:
        path.closeSubpath()


@lru_cache(maxsize=1024)
def faint(colour: str, part: float) -> QColor:
    """Return a colour mixed with the sheet: ``part`` 0 keeps it, 1 gives the sheet."""
    a, b = QColor(colour), QColor(SHEET)
    pairs = ((a.red(), b.red()), (a.green(), b.green()), (a.blue(), b.blue()))
    return QColor(*(round(x + (y - x) * part) for x, y in pairs))


@lru_cache(maxsize=1024)
def _pen(
    name: str, dim: float, colour: str | None, pixels: float | None, width: float = 1.0, dashed: bool = True
) -> QPen:
    pen = PENS[name]
    made = QPen(faint(colour or pen.colour, dim))
    made.setCosmetic(True)
    per_mm = PIXELS_PER_PAPER_MM if pixels is None else pixels
    made.setWidthF(max(0.8 if pixels is None else 0.35, pen.width * per_mm) * width)
    made.setJoinStyle(Qt.PenJoinStyle.MiterJoin)
    if pen.dashes and dashed:
        unit = made.widthF()
        made.setDashPattern([d * per_mm * 0.8 / unit for d in pen.dashes])
    return made


def paint(
    painter: QPainter,
    prepared: list[Prepared],
    transform: QTransform,
    view: QRectF,
    bright: frozenset[str] | None = None,
    selected: frozenset[str] = frozenset(),
    pixels: float | None = None,
) -> None:
    """Paint items; ``bright``: layers shown in full (None: all), others are dimmed.

    ``view``: the visible part in model mm. ``pixels`` a paper mm: given for sheets, whose lines and
    letters are as small as on paper; None for plans, whose lines keep their width at any zoom.
    Selected items are painted again on top in vermilion.
    """
    zoom = math.hypot(transform.m11(), transform.m12())
    left, right, bottom, top = view.left(), view.right(), view.top(), view.bottom()
    brush = _Brush(painter, transform, zoom, pixels)
    on_top: list[Prepared] = []
    lettering: list[tuple[Prepared, float]] = []
    lit = None if bright is None else {*bright, "notes"}
    for made in prepared:
        x0, y0, x1, y1 = made.box
        if x1 < left or x0 > right or y1 < bottom or y0 > top:
            continue
        dim = 0.0 if lit is None or made.layer in lit else 0.68
        if made.lettering:
            lettering.append((made, dim))
            continue
        if selected and made.ref and (made.ref in selected or owner_of(made.ref) in selected):
            on_top.append(made)
        brush.draw(made, dim, None)
    for made in on_top:
        brush.draw(made, 0.0, SELECTED)
    for made, dim in lettering:
        chosen = bool(selected) and made.ref and (made.ref in selected or owner_of(made.ref) in selected)
        colour = SELECTED if chosen and isinstance(made.item, Text) else None
        if isinstance(made.item, Text):
            smallest = SMALLEST_TEXT if pixels is None else 1.2
            _text(painter, made.item, transform, zoom, 0.0 if chosen else dim, colour, smallest)
            brush.used = None
        else:
            brush.draw(made, 0.0 if chosen else dim, colour)


class _Brush:
    """Draws areas and lines; pen and fill are set only where they differ from those of the item before."""

    def __init__(self, painter: QPainter, transform: QTransform, zoom: float, pixels: float | None) -> None:
        self.painter, self.transform, self.pixels = painter, transform, pixels
        self.dashed_from = DASHED_FROM / zoom
        self.hatched = pixels is not None or zoom >= STROKES_FROM
        self.used: tuple[str, str, float, str | None, bool] | None = None
        """Pen, fill, dimming, colour, dashed or not, of the item drawn last; None: the painter was used otherwise."""

    def draw(self, made: Prepared, dim: float, colour: str | None) -> None:
        """Draw an item; ``colour`` instead of its own when it is selected."""
        item = made.item
        if not self.hatched and isinstance(item, Strokes) and item.pen not in DIMENSION_PENS:
            return
        fill = item.fill if isinstance(item, (Area, Circle)) else ""
        dashed = made.dashed_size >= self.dashed_from
        wanted = (item.pen, fill, dim, colour, dashed)
        if wanted != self.used:
            self._take(item, fill, dim, colour, dashed)
            self.used = wanted
        self.painter.drawPath(made.path)

    def _take(self, item: Item, fill: str, dim: float, colour: str | None, dashed: bool) -> None:
        painter = self.painter
        if self.used is None:
            painter.setTransform(self.transform)
        pen = item.pen or ("thin" if colour else "")
        if pen:
            painter.setPen(_pen(pen, dim, colour, self.pixels, 1.6 if colour else 1.0, dashed))
        else:
            painter.setPen(Qt.PenStyle.NoPen)
        if not fill:
            painter.setBrush(Qt.BrushStyle.NoBrush)
            return
        shade = faint(FILLS[fill], dim)
        if colour and isinstance(item, Area):
            shade = QColor(colour)
            shade.setAlpha(90)
        painter.setBrush(shade)


def _text(
    painter: QPainter,
    item: Text,
    transform: QTransform,
    zoom: float,
    dim: float,
    colour: str | None,
    smallest: float,
) -> None:
    high = item.size * zoom
    if high < smallest:
        return
    at = transform.map(QPointF(*item.at))
    pixels = max(1, round(high / CAP_HEIGHT))
    painter.setFont(_font(pixels, item.bold))
    painter.setPen(faint(colour or PENS[item.pen].colour, dim))
    text, wide, rise = _set_in_type(item.text, pixels, item.bold)
    x, y = _SHIFT[item.anchor] * wide, high / 2.0 - rise
    if item.angle:
        painter.setTransform(QTransform().translate(at.x(), at.y()).rotate(-item.angle))
        painter.drawStaticText(QPointF(x, y), text)
    else:
        painter.resetTransform()
        painter.drawStaticText(QPointF(at.x() + x, at.y() + y), text)


_SHIFT = {"left": 0.0, "center": -0.5, "right": -1.0}


@lru_cache(maxsize=256)
def _font(pixels: int, bold: bool) -> QFont:
    font = QFont(FAMILY)
    font.setPixelSize(pixels)
    if bold:
        font.setWeight(QFont.Weight.DemiBold)
    return font


@lru_cache(maxsize=4096)
def _set_in_type(text: str, pixels: int, bold: bool) -> tuple[QStaticText, float, float]:
    """Return a text with its glyphs laid out once for all, how wide it is and how high above its foot it begins."""
    font = _font(pixels, bold)
    made = QStaticText(text)
    made.setTextFormat(Qt.TextFormat.PlainText)
    made.prepare(QTransform(), font)
    metrics = QFontMetricsF(font)
    return made, float(QFontMetrics(font).horizontalAdvance(text)), metrics.ascent()


def hit(prepared: list[Prepared], point: Point, reach: float, bright: frozenset[str] | None = None) -> str:
    """Return the ref of the thing at a point ("" for none): lit layers first, then the smallest."""
    best: tuple[float, float, float, str] | None = None
    if not prepared:
        return ""
    boxes = np.array([p.box for p in prepared])
    x, y = point
    near = np.nonzero(
        (boxes[:, 0] - reach <= x)
        & (boxes[:, 2] + reach >= x)
        & (boxes[:, 1] - reach <= y)
        & (boxes[:, 3] + reach >= y)
    )[0]
    for i in near.tolist():
        item = prepared[i].item
        if not item.ref:
            continue
        size = _hit_size(item, prepared[i], point, reach)
        if size is None:
            continue
        dimmed = 0.0 if bright is None or item.layer in bright else 1.0
        key = (dimmed, size, -float(i), item.ref)
        if best is None or key < best:
            best = key
    return best[3] if best else ""


def _hit_size(item: Item, made: Prepared, point: Point, reach: float) -> float | None:
    """Return how big the thing hit is (lines count as nothing), or None when it is missed."""
    if isinstance(item, Area):
        if made.path.contains(QPointF(*point)):
            x0, y0, x1, y1 = made.box
            return (x1 - x0) * (y1 - y0)
        return None
    if isinstance(item, Circle):
        return 0.0 if math.dist(item.centre, point) <= item.radius + reach else None
    if isinstance(item, Strokes) and item.pen in DIMENSION_PENS:
        return 1.0 if any(to_segment(point, a, b) <= reach for a, b in item.segments) else None
    if isinstance(item, Path):
        ends = zip(item.points, (*item.points[1:], *item.points[:1]) if item.closed else item.points[1:], strict=False)
        return 1.0 if any(to_segment(point, a, b) <= reach for a, b in ends) else None
    return None


def write_centred(painter: QPainter, rect: QRect, text: str) -> None:
    """Write a few words in the middle of an empty view."""
    font = painter.font()
    font.setFamily(FAMILY)
    font.setPixelSize(16)
    painter.setFont(font)
    painter.setPen(QColor(MUTED))
    painter.drawText(rect, int(Qt.AlignmentFlag.AlignCenter | Qt.TextFlag.TextWordWrap), text)
