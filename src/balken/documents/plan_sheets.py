"""The sheets of plans: foundations, the floors of each level, the roofs, the cross-section, and the schedule of beams."""

from msgspec.structs import replace

from balken.derived.model import Model
from balken.documents.beam_schedule import beam_schedule
from balken.documents.cross_section import cross_section, effective_cut
from balken.documents.display import Drawing, Item
from balken.documents.fitting_schedule import fitting_schedule
from balken.documents.floor_details import detail_keys
from balken.documents.flow import flowed
from balken.documents.general_notes import general_notes
from balken.documents.joist_schedule import hanger_schedule, joist_schedule
from balken.documents.paper import GAP, SCALES, Paper, finished, with_caption, with_title
from balken.documents.paper_table import PaperTable
from balken.documents.plan import PlanOf, cut_line_items, plan, shown_floors
from balken.documents.roof_cuts import roof_cuts
from balken.documents.roof_schedule import roof_schedule
from balken.documents.sheet import Sheet, papers
from balken.documents.slab_schedule import slab_schedule
from balken.documents.truss_schedule import truss_schedule

FOUNDATIONS = PlanOf("Foundation plan", frozenset({"grid", "foundations"}), strings=False)
FLOORS = PlanOf("Floor framing plan", frozenset({"grid", "floors"}), frozenset({"bearings"}))
ROOF = PlanOf("Roof framing plan", frozenset({"grid", "roof"}), frozenset({"walls"}))


SECTIONS = ("Cross", "Section")
"""How titles of sections begin."""


def framing_plans(model: Model) -> list[PlanOf]:
    """Return the plans of a project: one of the floors of each level, named after it where there are several."""
    levels = [v for v in model.project.levels if any(f.floor.level == v.id for f in model.floors)]
    shown: list[PlanOf] = []
    seen: set[str] = set()
    for level in sorted(levels, key=lambda v: v.height):
        floors = {made.floor.id for made in shown_floors(model, level.id)}
        if floors - seen:
            shown.append(replace(FLOORS, title=f"{level.name} framing plan", storey=level.id))
            seen |= floors
    if len(shown) < 2:
        shown = [replace(what, title=FLOORS.title) for what in shown] or [FLOORS]
    return [FOUNDATIONS, *shown, ROOF]


def _keyed(model: Model, what: PlanOf, drawing: Drawing) -> Drawing:
    """Return a floor plan with the keys of the typical details that are cut on it."""
    if "floors" not in what.parts:
        return drawing
    levels = {plan.floor.level for plan in shown_floors(model, what.storey)}
    keys = [item for level in sorted(levels) for item in detail_keys(model, level, drawing.scale)]
    return replace(drawing, items=(*drawing.items, *keys))


def plan_drawings(model: Model, scale: float) -> list[Drawing]:
    """Return the plans and the cross-section at a scale; the first plan shows where the section is cut."""
    drawings = [_keyed(model, what, plan(model, what, scale)) for what in framing_plans(model)]
    if any(model.groups):
        cut = effective_cut(model)
        drawings[0] = replace(drawings[0], items=(*drawings[0].items, *cut_line_items(model, cut, scale)))
        drawings.append(cross_section(model, cut, scale, title="Cross-section S-S"))
        for letter, roof, through in roof_cuts(model):
            k = next(i for i, d in enumerate(drawings) if d.title == ROOF.title)
            marks = cut_line_items(model, through, scale, letter)
            drawings[k] = replace(drawings[k], items=(*drawings[k].items, *marks))
            drawings.append(cross_section(model, through, scale, title=f"Section {letter}-{letter} through {roof}"))
    return [d for d in drawings if d.items]


def schedules(model: Model) -> list[PaperTable]:
    """Return the schedules that stand beside the plans: general notes, beams, floor framing, hangers, caps and bases, roofs, trusses; those with rows."""
    made = (
        general_notes(model),
        beam_schedule(model),
        joist_schedule(model),
        slab_schedule(model),
        hanger_schedule(model),
        fitting_schedule(model),
        roof_schedule(model),
        truss_schedule(model),
    )
    return [table for table in made if table.rows]


def plan_sheets(model: Model) -> list[Sheet]:
    """Lay them out at the greatest scale at which each fits a sheet and two share one on the average."""
    paper = Paper(*papers(model.project.units)[0])
    room, tables = paper.room, schedules(model)
    for scale in SCALES[model.project.units]:
        drawings = plan_drawings(model, scale)
        sizes = [with_caption(d) for d in drawings]
        sizes += [part.size for table in tables for part in table.parts(room.high)] if drawings else []
        places = flowed(sizes, paper.empty_sheets(0), GAP) if sizes else []
        fits = all(wide <= room.wide and high <= room.high for wide, high in sizes)
        if fits and len({sheet for sheet, _ in places}) <= max(1, (len(drawings) + 1) // 2) + (len(tables) > 1):
            break
    first = model.project.sheet
    if not drawings:
        return [finished(paper, first.title, "plans", [], ())]
    laid = [part for table in tables for part in table.parts(room.high)]
    sheets: list[Sheet] = []
    for number in sorted({sheet for sheet, _ in places}):
        mine = [i for i, (sheet, _) in enumerate(places) if sheet == number]
        at = _spread([places[i][1] for i in mine], [sizes[i] for i in mine], paper)
        items: list[Item] = []
        for i, (x, y) in zip(mine, at, strict=True):
            table = laid[i - len(drawings)] if i >= len(drawings) else None
            items += table.items((x, y + sizes[i][1])) if table else with_title(drawings[i], i + 1, (x, y))
        told = [laid[i - len(drawings)].title for i in mine if i >= len(drawings)]
        mine = [i for i in mine if i < len(drawings)]
        title = "Framing plans" if sheets else first.title
        if sheets and any(drawings[i].title.startswith(SECTIONS) for i in mine):
            cuts = sum(drawings[i].title.startswith(SECTIONS) for i in mine)
            said = "cross-sections" if cuts > 1 else "cross-section"
            title = f"Framing plans and {said}" if cuts < len(mine) else said.capitalize()
        if sheets and told:
            said = "schedules" if len(told) > 1 else told[0].lower()
            title = f"{title} and {said}" if mine else said.capitalize()
        sheets.append(finished(paper, title, "plans", items, tuple(drawings[i] for i in mine)))
    return sheets


def _spread(
    corners: list[tuple[float, float]], sizes: list[tuple[float, float]], paper: Paper
) -> list[tuple[float, float]]:
    """Return where drawings laid in rows from the upper left stand when the room left over is shared out between them."""
    room = paper.room
    rows: dict[float, list[int]] = {}
    for i, ((_, y), (_, high)) in enumerate(zip(corners, sizes, strict=True)):
        rows.setdefault(round(y + high, 3), []).append(i)
    tall = sum(max(sizes[i][1] for i in row) for row in rows.values())
    gap_h = (room.high - tall) / (len(rows) + 1)
    found = list(corners)
    top = room.top
    for _, row in sorted(rows.items(), reverse=True):
        top -= gap_h
        deep = max(sizes[i][1] for i in row)
        gap_w = (room.wide - sum(sizes[i][0] for i in row)) / (len(row) + 1)
        x = room.left + gap_w
        for i in row:
            found[i] = (x, top - deep)  # their captions stand in one line
            x += sizes[i][0] + gap_w
        top -= deep
    return found
