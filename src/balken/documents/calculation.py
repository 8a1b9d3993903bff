"""Calculation sheets: inputs, loads with their paths, formulas, results; of footings, pads and walls here, of lumber in
``member_calculation``."""

from balken.derived.model import Model
from balken.design.not_checked import NOT_CHECKED
from balken.documents.calculation_lines import Kind, Line, case_texts, check_lines
from balken.documents.display import Area, Item, Path, Text, placed
from balken.documents.lettering import text_width
from balken.documents.load_tree import Branch, flat, pad_tree, run_tree
from balken.documents.member_calculation import layout_ids, member_calculation
from balken.documents.pad_sizes import pad_size
from balken.documents.sheet import Sheet
from balken.documents.style import FILLS, used_fill
from balken.loads.beam_law import NONE_MORE
from balken.model.lookup import numbers, wall_label
from balken.model.naming import owner_of, parts_of_run, run_of
from balken.standards.checks import used_text
from balken.standards.earth_pressure import how_it_presses
from balken.standards.ground import EarthWall, FootingDesign
from balken.standards.measures import working
from balken.units import (
    Units,
    format_area_load,
    format_inches,
    format_length,
    format_stress,
)


def can_calculate(model: Model, ref: str) -> bool:
    """Whether a thing selected (run, piece of one, pad) has a calculation."""
    if _run_id(model, ref) is not None or owner_of(ref) in model.pads:
        return True
    p = model.project
    if (
        ref in model.framed
        or owner_of(ref) in model.posts
        or owner_of(ref) in model.girders
        or any(ref == owner for owner, _ in model.designs)
    ):
        return True
    return any(o.id == ref and o.wall in model.framed for o in p.openings)


def all_calculations(model: Model) -> tuple[str, ...]:
    """Return everything that has a calculation: floors, roofs, walls, columns, foundation runs, pads."""
    return (*layout_ids(model), *model.footings, *model.pads)


def _run_id(model: Model, ref: str) -> str | None:
    key = run_of(ref)
    return key if key in model.footings else None


def calculation(model: Model, ref: str) -> tuple[Line, ...]:
    """Return the calculation of a floor, roof, wall, opening, run (or a piece of one) or pad; raises KeyError for none."""
    run_id = _run_id(model, ref)
    if run_id is not None:
        return _run_lines(model, run_id)
    lumber = member_calculation(model, ref)
    if lumber is not None:
        return lumber
    return _pad_lines(model, owner_of(ref))


def _run_lines(model: Model, run_id: str) -> tuple[Line, ...]:
    p, units = model.project, model.project.units
    _, wall = parts_of_run(run_id)
    run = next(r for r in model.runs if r.id == run_id)
    result = model.footings[run_id]
    lines = [
        Line("title", f"{run.foundation.name}: footing and wall under {wall_label(p, wall)}"),
        *_inputs(model, result.design),
        Line("heading", "Loads and where they come from (service, all cases)"),
        *_tree(run_tree(model, run_id), units),
        Line(
            "text",
            f"Worst stretch {format_length(max(result.at - run.span[0], 0.0), units)} along the wall, spread at 45\u00b0 "
            f"by the wall:",
            case_texts(result.line, units, True),
        ),
        *_some_spans("of that", case_texts(result.more, units, True)),
        *_design_lines(result.design, units),
    ]
    wall_design = model.earth_walls.get(run_id)
    if wall_design is not None:
        lines += _earth_lines(model, wall_design)
    return tuple(lines)


def _pad_lines(model: Model, pad_id: str) -> tuple[Line, ...]:
    holder = next((p.pad.id for p in model.pad_places if p.pad.joined == pad_id), pad_id)
    result = model.pads[holder]
    units = model.project.units
    title = f"Pad {numbers(model.project.pads)[pad_id]}"
    if result.combined:
        other = next(p.pad.joined for p in model.pad_places if p.pad.id == holder)
        title = (
            f"Combined footing of pads {numbers(model.project.pads)[holder]} and {numbers(model.project.pads)[other]}"
        )
    more = model.path.extremes.get(pad_id, NONE_MORE).more
    lines = [
        Line("title", title),
        *_inputs(model, result.design),
        Line("heading", "Loads and where they come from (service)"),
        *_tree(pad_tree(model, pad_id), units),
        *_some_spans("and", case_texts(more, units)),
        *_design_lines(result.design, units),
    ]
    return tuple(lines)


def _inputs(model: Model, design: FootingDesign) -> list[Line]:
    p, units, case = model.project, model.project.units, design.case
    steel = f", bars {format_stress(case.fy, units)}" if case.fy is not None and design.reinforced else ", no bars"
    return [
        Line("heading", "Inputs"),
        Line("text", "Bearing value of the soil (IRC Table R401.4.1 or typed)", format_area_load(case.bearing, units)),
        Line("text", "Concrete", f"f'c {format_stress(case.fc, units)}{steel}"),
        Line("text", "Wall or column on it", format_inches(case.size, units)),
        Line("text", "Frost depth", format_length(p.loads.frost_depth, units)),
        Line("text", "Load off the footing's middle", format_inches(abs(case.off(design.width)), units)),
    ]


def _some_spans(how: str, loads: str) -> list[Line]:
    """Return what comes only when live load lies on some spans of what stands on a footing."""
    return [Line("text", f"{how}, with live load on some spans only", loads, 1)] if loads else []


def _tree(tree: Branch, units: Units) -> list[Line]:
    return [
        Line("text", branch.label, case_texts(branch.load, units) if branch.load.all else "", depth)
        for depth, branch in flat(tree)
    ]


def _design_lines(design: FootingDesign, units: Units) -> list[Line]:
    what = "reinforced" if design.reinforced else "plain"
    lines = [
        Line("heading", "Footing: service loads on the soil, factored loads (ACI 318-19, 5.3.1) on the concrete"),
        *(line for check in design.checks for line in check_lines(check, units)),
        Line(
            "result",
            f"{pad_size(design, units) if design.case.kind == 'pad' else format_inches(design.width, units) + ' wide'}, "
            f"{format_inches(design.thickness, units)} thick, {what} concrete",
            f"used {used_text(design.used)}",
        ),
    ]
    for bars in design.bars:
        hooks = ", hooked" if bars.hooked else ""
        lines.append(Line("result", f"#{bars.number} {bars.use} at {format_inches(bars.spacing, units)}{hooks}"))
    return lines


def _earth_lines(model: Model, wall: EarthWall) -> list[Line]:
    units, soil, case, f = model.project.units, model.project.soil, wall.case, wall.forces
    water = "none" if soil.water_below is None else f"{format_length(soil.water_below, units)} below ground"
    greatest = working(
        "greatest pressure {}, resultant {}", (max(wall.pressing.p), "pressure"), (wall.pressing.total, "line force")
    )
    acting = working(
        "reactions: top {}, base {}; moment {}, {} above the base, tension on the " + wall.face,
        (f.top, "line force"),
        (f.base, "line force"),
        (f.moment, "line moment"),
        (f.at, "length"),
    )
    lines = [
        Line("heading", "Wall against earth and water, along each unit of wall"),
        Line("text", "Earth outside above the base", format_length(case.fill, units)),
        Line(
            "text",
            "Height from base to floor" if case.held else "Height, free at the top",
            format_length(case.span, units),
        ),
        Line("text", "Ground water", water),
        Line("text", "Load on the ground beside it", format_area_load(soil.surcharge, units)),
        Line("formula", how_it_presses(soil, case.held).shown(units), indent=1),
        Line("formula", greatest.shown(units), indent=1),
        Line("formula", acting.shown(units), indent=1),
    ]
    if wall.waiting:
        lines.append(Line("text", "Its top is not held yet: lay the floor that holds it."))
    lines += [
        *(line for check in wall.checks for line in check_lines(check, units)),
        Line("result", f"{_how_built(wall)}", f"used {used_text(wall.used)}"),
    ]
    lines += [Line("result", f"#{b.number} {b.use} at {format_inches(b.spacing, units)}") for b in wall.bars]
    lines.append(Line("text", "Without calculation", wall.prescriptive))
    return lines


def _how_built(wall: EarthWall) -> str:
    if wall.case.made_of == "concrete":
        return "Reinforced wall" if wall.reinforced else "Plain concrete wall"
    return f"Wall of {wall.case.made_of}, {'bars in grouted cells' if wall.reinforced else 'no bars'}"


# Pages ------------------------------------------------------------------------------------------------

PAGE_W, PAGE_H, EDGE = 210.0, 297.0, 16.0
_SIZES: dict[Kind, tuple[float, float]] = {
    "title": (3.6, 9.0),
    "heading": (2.5, 6.4),
    "text": (2.0, 4.3),
    "formula": (1.8, 3.9),
    "check": (2.0, 4.6),
    "result": (2.1, 4.8),
    "drawing": (2.0, 4.3),
}
"""Height of capitals and of the line, mm."""


def calculation_pages(model: Model, ref: str) -> list[Sheet]:
    """Lay a calculation out on A4 or letter pages; raises KeyError when there is none.

    Each ends with what was not checked.
    """
    lines = (*calculation(model, ref), Line("heading", "Not checked"), *(Line("text", t) for t in NOT_CHECKED))
    imperial = model.project.units is Units.IMPERIAL
    width, height = (215.9, 279.4) if imperial else (PAGE_W, PAGE_H)
    pages: list[list[Item]] = []
    y = 0.0
    for line in lines:
        size, tall = _SIZES[line.kind]
        if line.drawn is not None:
            tall = line.drawn.height + 2.0 * size
        if not pages or y - tall < EDGE + 8.0:
            pages.append([Area((((0.0, 0.0), (width, 0.0), (width, height), (0.0, height)),), "paper")])
            y = height - EDGE - 6.0
        y -= tall
        pages[-1] += _placed(line, y, size, width, ref)
    sheets = []
    for number, items in enumerate(pages, 1):
        foot = f"{model.project.name}    {model.project.sheet.date}    calculation, page {number} of {len(pages)}"
        items.append(Path(((EDGE, EDGE + 4.0), (width - EDGE, EDGE + 4.0)), "thin"))
        items.append(Text((EDGE, EDGE), foot, 1.8, "left", pen="note"))
        sheets.append(Sheet("A4" if not imperial else "letter", width, height, 1.0, tuple(items), ()))
    return sheets


def _placed(line: Line, y: float, size: float, width: float, ref: str) -> list[Item]:
    left, right = EDGE + 4.0 * line.indent, width - EDGE
    if line.drawn is not None:
        return placed(line.drawn.items, 1.0, (0.0, 0.0), (left, y + line.drawn.height + size))
    bold = line.kind in ("title", "heading", "result")
    items: list[Item] = []
    room = (
        right
        - left
        - (text_width(line.right, size) + 4.0 if line.right else 0.0)
        - (26.0 if line.used is not None else 0.0)
    )
    items.append(
        Text(
            (left, y),
            _fit(line.text, size, room, bold),
            size,
            "left",
            bold=bold,
            pen="note" if line.kind == "formula" else "text",
            ref=ref,
        )
    )
    if line.kind == "heading":
        items.append(Path(((EDGE, y - 2.2), (right, y - 2.2)), "thin"))
    end = right
    if line.used is not None:
        full, tall = 16.0, 2.2
        items += _bar(right - 26.0 + 2.0, y, full, tall, line.used)
        items.append(Text((right, y), used_text(line.used), size, "right", bold=True))
        end = right - 27.0
    if line.right:
        items.append(Text((end, y), line.right, size, "right", bold=line.kind == "result"))
    return items


def _bar(x: float, y: float, full: float, tall: float, used: float) -> list[Item]:
    def box(w: float) -> tuple[tuple[float, float], ...]:
        return ((x, y - tall / 2), (x + w, y - tall / 2), (x + w, y + tall / 2), (x, y + tall / 2))

    fill = used_fill(used)
    assert fill in FILLS
    return [Area((box(full),), "beyond", "fine"), Area((box(max(min(used, 1.1), 0.01) * full),), fill, "")]


def _fit(text: str, size: float, room: float, bold: bool) -> str:
    if text_width(text, size, bold) <= room:
        return text
    while len(text) > 4 and text_width(text + "...", size, bold) > room:
        text = text[:-1]
    return text + "..."
