"""A sheet: border, title block, captions of drawings; everything in paper mm."""

import msgspec
from msgspec.structs import replace

from balken.derived.model import Model
from balken.design.not_checked import SHORT
from balken.documents.display import Area, Circle, Drawing, Item, Path, Text
from balken.documents.lettering import text_width
from balken.documents.plan import summary_note
from balken.geometry.plane import Ring
from balken.units import Units
from balken.value import Value

MARGIN = 12.0
AS_NOTED = 0.0
"""The scale of a sheet whose drawings have scales of their own."""
BLOCK = 30.0
"""Height of the title block strip, mm."""
_PAPERS = {
    Units.IMPERIAL: (("24 x 36 in", 914.4, 609.6), ("11 x 17 in", 431.8, 279.4)),
    Units.METRIC: (("A1", 841.0, 594.0), ("A3", 420.0, 297.0)),
}
UNSCALED = 1.0
"""The scale of what is drawn in paper mm: no scale of its own."""
_SCALE_TEXT = {
    UNSCALED: "not to scale",
    48.0: '1/4" = 1\'-0"',
    64.0: '3/16" = 1\'-0"',
    96.0: '1/8" = 1\'-0"',
    128.0: '3/32" = 1\'-0"',
    192.0: '1/16" = 1\'-0"',
    384.0: '1/32" = 1\'-0"',
    24.0: '1/2" = 1\'-0"',
    16.0: '3/4" = 1\'-0"',
    12.0: '1" = 1\'-0"',
    32.0: '3/8" = 1\'-0"',
}


class Sheet(Value, frozen=True):
    """A finished sheet: items in mm from its lower left corner."""

    name: str
    width: float
    height: float
    scale: float
    items: tuple[Item, ...]
    drawings: tuple[Drawing, ...]
    number: str = ""
    title: str = ""
    kind: str = ""


def scale_text(scale: float) -> str:
    """Return how a scale is written: 1/4" = 1'-0" or 1:50."""
    if scale == AS_NOTED:
        return "as noted"
    return _SCALE_TEXT.get(scale, f"1:{scale:g}")


def caption(x: float, y: float, number: str, title: str, scale: float, width: float) -> list[Item]:
    """Return number, title and scale under a drawing that is ``width`` mm wide."""
    after = x + max(9.0, text_width(number, 4.5, bold=True) + 3.0)
    return [
        Text((x, y), number, 4.5, "left", bold=True),
        Text((after, y), title, 4.0, "left", bold=True),
        Text((after, y - 6.0), scale_text(scale), 2.5, "left", pen="note"),
        Path(((x, y - 3.5), (x + max(width * 0.5, 40.0), y - 3.5)), "outline"),
    ]


def titled(model: Model, number: str, title: str) -> Model:
    """Return the model with another number and title for the title block."""
    project = msgspec.structs.replace(
        model.project, sheet=msgspec.structs.replace(model.project.sheet, number=number, title=title)
    )
    return replace(model, project=project)


def on_paper(item: Item) -> Item:
    """The backing of figures and bubbles is the colour of the sheet they lie on: white when printed."""
    if isinstance(item, Area | Circle) and item.fill == "sheet":
        return msgspec.structs.replace(item, fill="paper")
    return item


def _rectangle(x0: float, y0: float, x1: float, y1: float) -> Ring:
    return ((x0, y0), (x1, y0), (x1, y1), (x0, y1))


def papers(units: Units) -> tuple[tuple[str, float, float], ...]:
    """Return the sheets in use, largest first: name, width, height in mm."""
    return _PAPERS[units]


def frame(model: Model, width: float, height: float, scale: float, paper: str) -> list[Item]:
    """Return border and title block; small papers leave the design loads out."""
    p, info = model.project, model.project.sheet
    m = MARGIN
    items: list[Item] = [
        Area((_rectangle(0.0, 0.0, width, height),), "paper"),
        Path(_rectangle(m, m, width - m, height - m), "border", closed=True),
        Path(((m, m + BLOCK), (width - m, m + BLOCK)), "border"),
        Text((m, m - 3.2), SHORT, 1.8, "left", pen="note"),
    ]
    inner = width - 2 * m
    right = (
        (inner - 150.0, inner - 60.0, (("Drawn by", info.drawn_by, 2.5), ("Date", info.date, 2.5))),
        (inner - 60.0, inner, (("Sheet number", info.number, 6.0), ("Paper", paper, 2.2))),
    )
    name = (("Project", p.name, 4.5), ("Place", info.place, 2.5))
    title = (("Sheet", info.title, 4.0), ("Scale", scale_text(scale), 2.5))
    loads = (("Design loads", summary_note(model), 2.2), ("Standards", STANDARDS, 2.2))
    cells: tuple[tuple[float, float, tuple[tuple[str, str, float], ...]], ...]
    if inner < 600.0:
        half = (inner - 150.0) / 2.0
        cells = ((0.0, half, name), (half, inner - 150.0, title), *right)
    else:
        cells = ((0.0, 150.0, name), (150.0, 300.0, title), (300.0, inner - 150.0, loads), *right)
    for a, b, lines in cells:
        if a > 0.0:
            items.append(Path(((m + a, m), (m + a, m + BLOCK)), "outline"))
        y = m + BLOCK - 4.5
        for label, value, size in lines:
            items.append(Text((m + a + 3.0, y), label, 1.7, "left", pen="note"))
            y -= 1.6 + size
            for part in wrapped(value, size, b - a - 6.0):
                items.append(Text((m + a + 3.0, y), part, size, "left", bold=size > 3.0))
                y -= 1.5 * size
            y -= 1.0
    return items


STANDARDS = "NDS 2018 (allowable stress design), ACI 318-19, IRC 2018, ASCE 7-16 2.4.1 combinations."


def wrapped(text: str, size: float, width: float) -> list[str]:
    """Return a text in lines no longer than a width, paper mm."""
    lines: list[str] = []
    for word in text.split():
        if lines and text_width(f"{lines[-1]} {word}", size) <= width:
            lines[-1] += f" {word}"
        else:
            lines.append(word)
    return lines
