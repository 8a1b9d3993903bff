"""The sheets of the foundations: plan with keyed sections and schedule; all walls from outside."""

import itertools

from balken.derived.model import Model
from balken.documents.display import Drawing, Item
from balken.documents.flow import Room, flowed
from balken.documents.foundation_elevation import foundation_elevation
from balken.documents.foundation_sections import schedule, typical_section
from balken.documents.paper import CAPTION, GAP, SCALES, Paper, finished, size_of, with_caption, with_title
from balken.documents.paper_table import PaperTable
from balken.documents.plan import PlanOf, plan
from balken.documents.quantity_lists import ground_tables
from balken.documents.section_keys import keyed_sections
from balken.documents.sheet import Sheet, papers
from balken.units import Units

_WIDEST = 0.66
"""Part of the sheet's width that the plan may take."""
_DETAIL = {Units.IMPERIAL: 24.0, Units.METRIC: 25.0}


def foundation_sheets(model: Model) -> list[Sheet]:
    """Return the plan with schedule and typical sections, then the other sections and all walls from outside.

    The walls stand at the greatest scale at which the largest of them fits a sheet.  Without foundations there are none.
    """
    if not (model.runs or model.pads or model.slabs):
        return []
    paper = Paper(*papers(model.project.units)[0])
    r, table = paper.room, schedule(model).size
    drawing = _plan(model, r, table)
    wide, high = size_of(drawing)
    below = r.top - high - CAPTION - GAP
    rooms = itertools.chain(
        (
            Room(0, r.left + wide + GAP, r.top, r.wide - wide - GAP, r.high),
            Room(0, r.left + table[0] + GAP, below, wide - table[0] - GAP, r.high - (r.top - below)),
        ),
        paper.empty_sheets(1),
    )
    sections = [typical_section(model, key, _DETAIL[model.project.units]) for key in keyed_sections(model)]
    walls = _walls(model, r)
    places = flowed([with_caption(d) for d in sections], rooms, GAP)
    last = places[-1][0] if places else 0
    # Walls share a sheet with the sections that found no room beside the plan, below them.
    used = min((at[1] for sheet, at in places if sheet == last), default=r.top) - GAP
    start = (Room(last, r.left, used, r.wide, used - r.top + r.high),) if last else ()
    lists = [part for table in ground_tables(model) for part in table.parts(r.high)]
    sizes = [*(with_caption(d) for d in walls), *(part.size for part in lists)]
    places += flowed(sizes, itertools.chain(start, paper.empty_sheets(last + 1)), GAP)
    on_sheets: dict[int, _Placed] = {0: []}
    every: list[Drawing | PaperTable] = [*sections, *walls, *lists]
    for drawn, (sheet, at) in zip(every, places, strict=True):
        on_sheets.setdefault(sheet, []).append((drawn, at))
    first = _first(model, paper, drawing, on_sheets.pop(0), (r.left, below))
    of_walls = {id(d) for d in walls}
    return [first, *(_other(paper, mine, of_walls) for mine in on_sheets.values())]


_Placed = list[tuple[Drawing | PaperTable, tuple[float, float]]]


def _plan(model: Model, room: Room, table: tuple[float, float]) -> Drawing:
    """Return the foundation plan with its section keys at the greatest scale that leaves room for the rest."""
    what = PlanOf("Foundation plan", frozenset({"grid", "foundations"}), frozenset({"walls"}), keyed=True)
    for scale in SCALES[model.project.units]:
        drawing = plan(model, what, scale)
        wide, high = size_of(drawing)
        if wide <= _WIDEST * room.wide and high + CAPTION + GAP + table[1] <= room.high:
            break
    return drawing


def _walls(model: Model, room: Room) -> list[Drawing]:
    drawings: list[Drawing] = []
    for scale in SCALES[model.project.units]:
        drawings = [foundation_elevation(model, run.id, scale) for run in model.runs]
        if all(w <= room.wide and h <= room.high for w, h in map(with_caption, drawings)):
            break
    return drawings


def _first(model: Model, paper: Paper, plan_: Drawing, mine: _Placed, under: tuple[float, float]) -> Sheet:
    foot = under[1] + GAP
    items = [*with_title(plan_, 1, (under[0], foot)), *schedule(model).items(under), *_drawn(mine, 2)]
    title = "Foundation plan, sections and schedule"
    return finished(paper, title, "foundations", items, (plan_, *_drawings(mine)))


def _drawn(mine: _Placed, first: int) -> list[Item]:
    """Return drawings with their titles, numbered from ``first``, and tables, where they stand on a sheet."""
    items: list[Item] = []
    for drawing, (x, y) in mine:
        if isinstance(drawing, PaperTable):
            items += drawing.items((x, y + drawing.size[1]))
        else:
            items += with_title(drawing, first, (x, y))
            first += 1
    return items


def _drawings(mine: _Placed) -> list[Drawing]:
    return [d for d, _ in mine if isinstance(d, Drawing)]


def _other(paper: Paper, mine: _Placed, walls: set[int]) -> Sheet:
    drawings = _drawings(mine)
    of_walls = [id(d) in walls for d in drawings]
    title = "Foundation sections and elevations"
    if not drawings:
        title = "Quantities and bar list"
    elif all(of_walls):
        title = "Foundation elevations"
    elif not any(of_walls):
        title = "Foundation sections"
    if drawings and len(drawings) < len(mine):
        title += ", quantities"
    kind = "elevations" if any(of_walls) else "foundations"
    return finished(paper, title, kind, _drawn(mine, 1), tuple(drawings))
