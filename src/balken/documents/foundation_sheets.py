"""The sheets of the foundations: plan with keyed sections and schedule; all walls from outside."""

import itertools
from collections.abc import Iterator
from dataclasses import dataclass

from balken.derive import Model
from balken.documents.display import Drawing, Item, placed
from balken.documents.flow import Room, flowed
from balken.documents.foundation_elevation import foundation_elevation
from balken.documents.foundation_sections import schedule_items, schedule_size, typical_section
from balken.documents.plan import PlanOf, plan
from balken.documents.section_keys import keyed_sections
from balken.documents.sheet import AS_NOTED, BLOCK, MARGIN, Sheet, caption, frame, on_paper, papers, titled
from balken.units import Units

_GAP = 10.0
_CAPTION = 14.0
"""Height kept under a drawing for its title, paper mm."""
_WIDEST = 0.66
"""Part of the sheet's width that the plan may take."""
_DETAIL = {Units.IMPERIAL: 24.0, Units.METRIC: 25.0}
_SCALES = {Units.IMPERIAL: (48.0, 64.0, 96.0, 128.0, 192.0, 384.0), Units.METRIC: (50.0, 100.0, 200.0, 500.0)}


@dataclass(frozen=True, slots=True)
class _Paper:
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


def foundation_sheets(model: Model) -> list[Sheet]:
    """Return the plan with schedule and typical sections, then the other sections and all walls from outside.

    The walls stand at the greatest scale at which the largest of them fits a sheet.
    """
    paper = _Paper(*papers(model.project.units)[0])
    r, table = paper.room, schedule_size(model)
    drawing = _plan(model, r, table)
    wide, high = _size(drawing)
    below = r.top - high - _CAPTION - _GAP
    rooms = itertools.chain(
        (
            Room(0, r.left + wide + _GAP, r.top, r.wide - wide - _GAP, r.high),
            Room(0, r.left + table[0] + _GAP, below, wide - table[0] - _GAP, r.high - (r.top - below)),
        ),
        paper.empty_sheets(1),
    )
    sections = [typical_section(model, key, _DETAIL[model.project.units]) for key in keyed_sections(model)]
    walls = _walls(model, r)
    places = flowed([_with_caption(d) for d in sections], rooms, _GAP)
    last = places[-1][0] if places else 0
    # Walls share a sheet with the sections that found no room beside the plan, below them.
    used = min((at[1] for sheet, at in places if sheet == last), default=r.top) - _GAP
    start = (Room(last, r.left, used, r.wide, used - r.top + r.high),) if last else ()
    places += flowed([_with_caption(d) for d in walls], itertools.chain(start, paper.empty_sheets(last + 1)), _GAP)
    on_sheets: dict[int, _Placed] = {0: []}
    for drawn, (sheet, at) in zip([*sections, *walls], places, strict=True):
        on_sheets.setdefault(sheet, []).append((drawn, at))
    first = _first(model, paper, drawing, on_sheets.pop(0), (r.left, below))
    of_walls = {id(d) for d in walls}
    return [first, *(_other(model, paper, sheet, mine, of_walls) for sheet, mine in on_sheets.items())]


_Placed = list[tuple[Drawing, tuple[float, float]]]


def _plan(model: Model, room: Room, table: tuple[float, float]) -> Drawing:
    """Return the foundation plan with its section keys at the greatest scale that leaves room for the rest."""
    what = PlanOf("Foundation plan", frozenset({"grid", "foundations"}), frozenset({"walls"}), keyed=True)
    for scale in _SCALES[model.project.units]:
        drawing = plan(model, what, scale)
        wide, high = _size(drawing)
        if wide <= _WIDEST * room.wide and high + _CAPTION + _GAP + table[1] <= room.high:
            break
    return drawing


def _walls(model: Model, room: Room) -> list[Drawing]:
    drawings: list[Drawing] = []
    for scale in _SCALES[model.project.units]:
        drawings = [foundation_elevation(model, run.id, scale) for run in model.runs]
        if all(w <= room.wide and h <= room.high for w, h in map(_with_caption, drawings)):
            break
    return drawings


def _first(model: Model, paper: _Paper, plan_: Drawing, mine: _Placed, under: tuple[float, float]) -> Sheet:
    foot = under[1] + _GAP
    items = [*_drawn(plan_, 1, (under[0], foot)), *schedule_items(model, (under[0], under[1] - 8.0))]
    for n, (drawing, at) in enumerate(mine, 2):
        items += _drawn(drawing, n, at)
    number, title = f"{model.project.sheet.number}.F", "Foundation plan, sections and schedule"
    return _sheet(model, paper, number, title, "foundations", items, (plan_, *(d for d, _ in mine)))


def _other(model: Model, paper: _Paper, sheet: int, mine: _Placed, walls: set[int]) -> Sheet:
    items = [item for n, (d, at) in enumerate(mine, 1) for item in _drawn(d, n, at)]
    of_walls = [id(d) in walls for d, _ in mine]
    title = "Foundation sections and elevations"
    if all(of_walls):
        title = "Foundation elevations"
    elif not any(of_walls):
        title = "Foundation sections"
    number, kind = f"{model.project.sheet.number}.F{sheet + 1}", "elevations" if any(of_walls) else "foundations"
    return _sheet(model, paper, number, title, kind, items, tuple(d for d, _ in mine))


def _size(drawing: Drawing) -> tuple[float, float]:
    x0, y0, x1, y1 = drawing.box()
    return (x1 - x0) / drawing.scale, (y1 - y0) / drawing.scale


def _with_caption(drawing: Drawing) -> tuple[float, float]:
    wide, high = _size(drawing)
    return wide, high + _CAPTION


def _drawn(drawing: Drawing, number: int, at: tuple[float, float]) -> list[Item]:
    """Return a drawing on paper with its number and title under it, the lower left corner of both at ``at``."""
    x0, y0, _, _ = drawing.box()
    foot = (at[0], at[1] + _CAPTION)
    items = [on_paper(item) for item in placed(drawing.items, 1.0 / drawing.scale, (x0, y0), foot)]
    return [*items, *caption(at[0], foot[1] - 5.0, str(number), drawing.title, drawing.scale, _size(drawing)[0])]


def _sheet(
    model: Model,
    paper: _Paper,
    number: str,
    title: str,
    kind: str,
    items: list[Item],
    drawings: tuple[Drawing, ...],
) -> Sheet:
    scales = {d.scale for d in drawings}
    scale = scales.pop() if len(scales) == 1 else AS_NOTED
    border = frame(titled(model, number, title), paper.width, paper.height, scale, paper.name)
    return Sheet(paper.name, paper.width, paper.height, scale, (*border, *items), drawings, number, title, kind)
