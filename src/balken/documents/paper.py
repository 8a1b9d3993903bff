"""Paper, scales and captions: what all sheets of several drawings share; everything in paper mm."""

import itertools
from collections.abc import Callable, Iterator, Sequence

from msgspec.structs import replace

from balken.derived.model import Model
from balken.documents.display import Drawing, Item, placed
from balken.documents.flow import Room, flowed
from balken.documents.sheet import AS_NOTED, BLOCK, MARGIN, Sheet, caption, frame, on_paper, papers, titled
from balken.units import Units
from balken.value import Value

GAP = 10.0
CAPTION = 14.0
"""Height kept under a drawing for its title."""
SCALES = {Units.IMPERIAL: (48.0, 64.0, 96.0, 128.0, 192.0, 384.0), Units.METRIC: (50.0, 100.0, 200.0, 500.0)}
"""Scales of plans, sections and elevations, largest first."""


class Paper(Value, frozen=True):
    """A sheet's size and the part inside its frame above the title block, mm."""

    name: str
    width: float
    height: float

    @property
    def room(self) -> Room:
        return Room(
            0,
            MARGIN + 5.0,
            self.height - MARGIN - 6.0,
            self.width - 2.0 * MARGIN - 10.0,
            self.height - 2.0 * MARGIN - BLOCK - 12.0,
        )

    def empty_sheets(self, first: int) -> Iterator[Room]:
        """Return the room of one empty sheet after another."""
        r = self.room
        return (Room(number, r.left, r.top, r.wide, r.high) for number in itertools.count(first))


def size_of(drawing: Drawing) -> tuple[float, float]:
    """Return the width and height of a drawing at its scale."""
    x0, y0, x1, y1 = drawing.box()
    return (x1 - x0) / drawing.scale, (y1 - y0) / drawing.scale


def with_caption(drawing: Drawing) -> tuple[float, float]:
    """Return its width, and its height with the caption under it."""
    wide, high = size_of(drawing)
    return wide, high + CAPTION


def with_title(drawing: Drawing, number: int | str, at: tuple[float, float]) -> list[Item]:
    """Return a drawing on paper with its number and title under it, the lower left corner of both at ``at``."""
    x0, y0, _, _ = drawing.box()
    foot = (at[0], at[1] + CAPTION)
    items = [on_paper(item) for item in placed(drawing.items, 1.0 / drawing.scale, (x0, y0), foot)]
    return [*items, *caption(at[0], foot[1] - 5.0, str(number), drawing.title, drawing.scale, size_of(drawing)[0])]


def finished(paper: Paper, title: str, kind: str, items: list[Item], drawings: tuple[Drawing, ...]) -> Sheet:
    """Return a sheet of drawings; it gets its number, frame and title block where it is bound."""
    scales = {d.scale for d in drawings}
    scale = scales.pop() if len(scales) == 1 else AS_NOTED
    return Sheet(paper.name, paper.width, paper.height, scale, tuple(items), drawings, "", title, kind)


def bound(model: Model, made: Sheet, number: str) -> Sheet:
    """Return a sheet with its number, frame and title block."""
    border = frame(titled(model, number, made.title), made.width, made.height, made.scale, made.name)
    return replace(made, items=(*border, *made.items), number=number)


def number_of(first: str, place: int) -> str:
    """Return the number of a sheet by its place in the set, from 0: S-1, S-2, ... where the first is S-1; A, A-2, ... where it is A."""
    if not place or not first:
        return first or str(place + 1)
    name = first.rstrip("0123456789")
    digits = first[len(name) :]
    return f"{name}{int(digits) + place:0{len(digits)}d}" if digits else f"{first}-{place + 1}"


def flowed_sheets(
    model: Model,
    drawings: Sequence[tuple[str, Drawing]],
    kind: str,
    title: Callable[[list[int]], str],
) -> list[Sheet]:
    """Lay drawings out in rows on as many sheets as it takes, ``title``: of a sheet, by which stand on it."""
    if not drawings:
        return []
    paper = Paper(*papers(model.project.units)[0])
    places = flowed([with_caption(d) for _, d in drawings], paper.empty_sheets(0), 2.0 * GAP)
    sheets = []
    for number in sorted({sheet for sheet, _ in places}):
        mine = [(i, at) for i, (sheet, at) in enumerate(places) if sheet == number]
        items: list[Item] = []
        for i, at in mine:
            items += with_title(drawings[i][1], drawings[i][0], at)
        shown = tuple(drawings[i][1] for i, _ in mine)
        sheets.append(finished(paper, title([i for i, _ in mine]), kind, items, shown))
    return sheets
