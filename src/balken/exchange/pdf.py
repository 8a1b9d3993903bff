"""A sheet as vector PDF with embedded fonts."""

from collections.abc import Iterable
from pathlib import Path

from balken.documents.display import Area, Circle, Item, Strokes, Text
from balken.documents.display import Path as Line
from balken.documents.lettering import CAP_HEIGHT, font_path
from balken.documents.sheet import Sheet
from balken.documents.style import FILLS, PENS
from balken.exchange.replacing import replacing
from balken.geometry.plane import bounds

_PT = 72.0 / 25.4


def write_pdf(sheets: Iterable[Sheet], path: Path | str, title: str = "") -> None:
    """Write sheets, one a page, true to scale; raises FileError."""
    from reportlab.pdfbase import pdfmetrics
    from reportlab.pdfbase.ttfonts import TTFont
    from reportlab.pdfgen.canvas import Canvas

    for name, bold in (("Balken", False), ("BalkenBold", True)):
        if name not in pdfmetrics.getRegisteredFontNames():
            pdfmetrics.registerFont(TTFont(name, str(font_path(bold))))
    with replacing(path) as scratch:
        canvas = Canvas(str(scratch), invariant=1)
        canvas.setTitle(title)
        canvas.setCreator("Balken")
        for sheet in sheets:
            canvas.setPageSize((sheet.width * _PT, sheet.height * _PT))
            canvas.scale(_PT, _PT)
            canvas.setLineJoin(1)
            canvas.setLineCap(1)
            for item in sheet.items:
                _draw(canvas, item)
            canvas.showPage()
        canvas.save()


SMALLEST_DASHED = 1.5
"""What a dashed pen outlines is drawn through where it is smaller than so many dashes: they would not show its shape."""


def _pen(canvas, name: str, points=()) -> None:  # type: ignore[no-untyped-def]
    pen = PENS[name]
    canvas.setStrokeColor(pen.colour)
    canvas.setLineWidth(pen.width)
    dashes = list(pen.dashes)
    if dashes and points:
        x0, y0, x1, y1 = bounds(points)
        if max(x1 - x0, y1 - y0) < SMALLEST_DASHED * sum(dashes):
            dashes = []
    canvas.setDash(dashes)


def _trace(path, ring, closed: bool) -> None:  # type: ignore[no-untyped-def]
    path.moveTo(*ring[0])
    for point in ring[1:]:
        path.lineTo(*point)
    if closed:
        path.close()


def _draw(canvas, item: Item) -> None:  # type: ignore[no-untyped-def]
    if isinstance(item, Text):
        canvas.saveState()
        canvas.setFillColor(PENS[item.pen].colour)
        canvas.setFont("BalkenBold" if item.bold else "Balken", item.size / CAP_HEIGHT)
        canvas.translate(*item.at)
        canvas.rotate(item.angle)
        draw = {"left": canvas.drawString, "center": canvas.drawCentredString, "right": canvas.drawRightString}
        draw[item.anchor](0.0, -item.size / 2.0, item.text)
        canvas.restoreState()
    elif isinstance(item, Circle):
        _pen(canvas, item.pen)
        if item.fill:
            canvas.setFillColor(FILLS[item.fill])
        canvas.circle(*item.centre, item.radius, stroke=1, fill=1 if item.fill else 0)
    elif isinstance(item, Strokes):
        if item.segments:
            _pen(canvas, item.pen)
            canvas.lines([(*a, *b) for a, b in item.segments])
    elif isinstance(item, Area):
        path = canvas.beginPath()
        for ring in item.rings:
            _trace(path, ring, True)
        canvas.setFillColor(FILLS[item.fill])
        if item.pen:
            _pen(canvas, item.pen)
        canvas.drawPath(path, stroke=1 if item.pen else 0, fill=1, fillMode=0)
    elif isinstance(item, Line):
        _pen(canvas, item.pen, item.points)
        path = canvas.beginPath()
        _trace(path, item.points, item.closed)
        canvas.drawPath(path, stroke=1, fill=0)
