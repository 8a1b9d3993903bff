"""Framing elevations: one wall seen from outside, its framing alone, with strings, levels and marks."""

import itertools
from collections.abc import Mapping

from balken.derived.model import Model
from balken.documents.dimensions import dimension_string, level_marks
from balken.documents.display import Area, Circle, Drawing, Item, Path, Strokes, Text, placed
from balken.documents.hatch import hatch
from balken.documents.lettering import text_width
from balken.documents.paper import bound
from balken.documents.schedule import by_number
from balken.documents.sheet import MARGIN, Sheet, on_paper, papers, scale_text
from balken.documents.style import used_fill
from balken.framing.bands import WallLine
from balken.framing.pieces import Piece, cut_length
from balken.framing.roles import ROLES
from balken.framing.studs import UPRIGHTS, Stick
from balken.geometry.plane import Point, Ring, meet, off_line, unit
from balken.model.buildups import display_name
from balken.model.lookup import axis_positions, grid_point, listed, wall_label
from balken.model.naming import axis_name
from balken.standards.checks import used_text
from balken.units import Units, format_inches, format_length
from balken.value import Value

SCALES = {Units.IMPERIAL: (24.0, 32.0, 48.0, 64.0, 96.0), Units.METRIC: (20.0, 25.0, 50.0, 100.0)}
"""Scales of framing, largest first."""


class Marked(Value, frozen=True):
    """Members of a wall that are alike: their mark, role, section, length to saw and how many."""

    mark: str
    role: str
    section: str
    length: float
    count: int


def framed_walls(model: Model, wall_ids: tuple[str, ...] = ()) -> tuple[str, ...]:
    """Return the walls with framing among those named (all when none is), in their order in the project."""
    wanted = set(wall_ids)
    return tuple(w for w in model.lines if w in model.framed and (not wanted or w in wanted))


def marks_in(model: Model, wall_id: str) -> tuple[Marked, ...]:
    """Return the list of the marks of a wall."""
    groups: dict[tuple[str, str, str], list[Piece]] = {}
    for piece in model.framed[wall_id].pieces:
        groups.setdefault((piece.role, model.marks[piece.key], piece.section), []).append(piece)
    order = list(ROLES)
    rows = sorted(groups, key=lambda k: (order.index(k[0]), by_number(k[1])))
    units = model.project.units
    return tuple(
        Marked(
            mark,
            role,
            size,
            round(cut_length(groups[(role, mark, size)][0].length, units), 3),
            len(groups[(role, mark, size)]),
        )
        for role, mark, size in rows
    )


def framing_elevation(
    model: Model, wall_id: str, scale: float, used: bool = False, list_below: bool = False, lists: bool = True
) -> Drawing:
    """Draw the framing of a wall from outside, to be read at 1:``scale``; x runs to the viewer's right.

    ``list_below``: the list of marks stands under the drawing instead of beside it; ``lists``: there is one.
    Raises KeyError for a wall without framing.
    """
    framed, line = model.framed[wall_id], model.lines[wall_id]
    units = model.project.units
    listed = marks_in(model, wall_id)
    flip = _flipped(line)
    items: list[Item] = []
    for stick, piece in zip(framed.wall.sticks, framed.pieces, strict=True):
        result = model.results.get(piece.key)
        fill = used_fill(result.used) if used and result else ROLES[stick.role].fill
        pen = "by hand" if piece.key in model.hand_edited else "outline"
        items.append(Area((_seen(stick.ring, line, flip),), fill, pen, "walls", piece.key))
    items += _openings(model, line, flip, scale)
    items += _mark_texts(framed.wall.sticks, framed.pieces, model.marks, line, flip, scale)
    spans = line_span(framed.wall.sticks)
    items += _ground(model, line, spans, flip, scale)
    items += _axes(model, line, spans, flip, scale)
    items += _strings(model, line, spans, flip, scale)
    items += _levels(model, line, spans, flip, units, scale)
    if lists:
        items += _list(listed, items, units, scale, list_below)
    title = f"{wall_label(model.project, wall_id)}, framing from outside"
    return Drawing(title, scale, tuple(items))


def line_span(sticks: tuple[Stick, ...]) -> tuple[float, float]:
    """Return from where to where the bottom plates run."""
    xs = [x for stick in sticks if stick.role == "bottom plate" for x, _ in stick.ring]
    return (min(xs), max(xs)) if xs else (0.0, 1.0)


def _flipped(line: WallLine) -> bool:
    """Seen from outside, the wall runs to the right when its outside is on its right."""
    return line.wall.outside == "left"


def _x(x: float, line: WallLine, flip: bool) -> float:
    return line.band.length - x if flip else x


def _seen(ring: Ring, line: WallLine, flip: bool) -> Ring:
    z = line.band.bottom
    return tuple((_x(x, line, flip), y + z) for x, y in ring)


def _openings(model: Model, line: WallLine, flip: bool, scale: float) -> list[Item]:
    items: list[Item] = []
    units = model.project.units
    for o in model.project.openings:
        if o.wall != line.wall.id:
            continue
        a, b = sorted((_x(o.offset, line, flip), _x(o.offset + o.width, line, flip)))
        low, high = line.band.bottom + o.sill, line.band.bottom + o.sill + o.height
        corners: Ring = ((a, low), (b, low), (b, high), (a, high))
        items.append(Path(corners, "hidden", "walls", o.id, closed=True))
        for p, q in ((corners[0], corners[2]), (corners[1], corners[3])):
            items.append(Path((p, q), "fine", "walls", o.id))
        size = 2.2 * scale
        x, y = (a + b) / 2.0, (low + high) / 2.0
        measures = f"{format_length(o.width, units)} x {format_length(o.height, units)}"
        wide = text_width(measures, size)
        if wide < 0.96 * (b - a):
            items += _backed((x, y + 0.9 * size), o.kind, size, o.id)
            items += _backed((x, y - 0.9 * size), measures, size, o.id)
        elif text_width(o.kind, size) < 0.96 * (b - a):
            items += _backed((x, y), o.kind, size, o.id)
    return items


def _backed(at: Point, text: str, size: float, ref: str = "") -> list[Item]:
    wide, tall = text_width(text, size) / 2.0 + 0.3 * size, 0.8 * size
    x, y = at
    ring: Ring = ((x - wide, y - tall), (x + wide, y - tall), (x + wide, y + tall), (x - wide, y + tall))
    return [Area((ring,), "sheet", "", "walls", ref), Text(at, text, size, pen="note", layer="walls", ref=ref)]


def _mark_texts(
    sticks: tuple[Stick, ...],
    pieces: tuple[Piece, ...],
    by_key: Mapping[str, str],
    line: WallLine,
    flip: bool,
    scale: float,
) -> list[Item]:
    """Return the marks: on lying members, and beside standing ones where there is room."""
    items: list[Item] = []
    size = 1.8 * scale
    standing = [
        (min(p[0] for p in _seen(s.ring, line, flip)), max(p[0] for p in _seen(s.ring, line, flip)))
        for s in sticks
        if s.role in UPRIGHTS
    ]
    for stick, piece in zip(sticks, pieces, strict=True):
        ring = _seen(stick.ring, line, flip)
        x0, x1 = min(p[0] for p in ring), max(p[0] for p in ring)
        z0, z1 = min(p[1] for p in ring), max(p[1] for p in ring)
        mark = by_key[piece.key]
        wide = text_width(mark, size)
        if stick.role in UPRIGHTS:
            if z1 - z0 < 1.4 * wide:
                continue
            side = next(
                (
                    x
                    for x in (x1 + 0.9 * size, x0 - 0.9 * size)
                    if not any(a < x + 1.3 * size and b > x - 1.3 * size for a, b in standing if (a, b) != (x0, x1))
                ),
                None,
            )
            if side is not None:
                part = {"stud": 0.62, "king stud": 0.3, "jack stud": 0.45}.get(stick.role, 0.5)
                at = (side, z0 + part * (z1 - z0))
                items.append(Text(at, mark, size, angle=90.0, pen="note", layer="walls", ref=piece.key))
        elif x1 - x0 > wide and (stick.role == "header" or z1 - z0 >= 0.9 * size):
            at = ((x0 + x1) / 2.0, (z0 + z1) / 2.0)
            text = f"{mark}  {stick.size}" if stick.role == "header" else mark
            if text_width(text, size) > x1 - x0:
                text = mark
            items.append(Text(at, text, size, pen="text", layer="walls", ref=piece.key, bold=stick.role == "header"))
    return items


def _strings(model: Model, line: WallLine, span: tuple[float, float], flip: bool, scale: float) -> list[Item]:
    """Return strings for stud spacing, openings and overall length below, heights at the left."""
    units = model.project.units
    a, b = span
    z = line.band.bottom
    framed = model.framed[line.wall.id]
    module = sorted(framed.wall.module)
    openings = [o for o in model.project.openings if o.wall == line.wall.id]
    items: list[Item] = []
    away = max(model.project.strings.elevation, 9.0 * scale)
    earth = _earth_line(model, line, flip)
    lowest = min((z for _, z in earth), default=z) - z
    down = min(-line.wall.cover, lowest - (6.0 * scale if earth else 0.0)) - away

    def string(row: list[float], labels: dict[float, str]) -> None:
        nonlocal down
        pairs = sorted((_x(x, line, flip), x) for x in row)
        texts = []
        for (_, p), (_, q) in itertools.pairwise(pairs):
            texts.append(labels.get(min(p, q), ""))
        stations = [x for x, _ in pairs]
        items.extend(
            dimension_string(
                stations, (0.0, z), (1.0, 0.0), down, units, scale, "walls", 3.0, line.wall.id, tuple(texts)
            )
        )
        down -= 8.0 * scale

    if module:
        from_start = line.wall.framing.count_from == "start"
        low, high = (a, module[-1]) if from_start else (module[0], b)
        spaced = format_inches(framed.design.spacing, units)
        total = format_length(high - low, units)
        string(sorted({a, low, high, b}), {low: f"{len(module)} x {spaced} = {total}"})
    if openings:
        string(sorted({a, b, *(x for o in openings for x in (o.offset, o.offset + o.width))}), {})
    string([a, b], {})
    tops = [p[1] for s in model.framed[line.wall.id].wall.sticks for p in s.ring]
    heights = sorted({0.0, max(tops), line.band.top - z, *(h for o in openings for h in (o.sill, o.sill + o.height))})
    left = min(_x(a, line, flip), _x(b, line, flip))
    rows = [heights, [0.0, max(tops)]] if len(heights) > 2 else [heights]
    for i, row in enumerate(rows):
        at = left - away - 8.0 * i * scale
        items += dimension_string(
            [h + z for h in row], (at, 0.0), (0.0, 1.0), 0.0, units, scale, "walls", -3.0, line.wall.id
        )
    return items


GROUND_NEAR = 1500.0
"""The ground is drawn when it comes nearer than this to the wall's foot, mm."""


def _earth_line(model: Model, line: WallLine, flip: bool) -> list[Point]:
    """Return the ground along an outside wall, left to right; empty when it lies far below."""
    if model.ground is None or not line.band.outside:
        return []
    rows = sorted((_x(s, line, flip), z) for s, z in model.ground.profile(line.band.start, line.band.end))
    return rows if max(z for _, z in rows) > line.band.bottom - GROUND_NEAR else []


def _ground(model: Model, line: WallLine, span: tuple[float, float], flip: bool, scale: float) -> list[Item]:
    """Return the ground outside an outside wall where it comes near the drawing."""
    rows = _earth_line(model, line, flip)
    if not rows:
        return []
    deep = 4.0 * scale
    ring: Ring = (*((x, z - deep) for x, z in rows), *reversed(rows))
    return [Strokes(hatch((ring,), "earth", scale), "earth", "ground"), Path(tuple(rows), "ground", "ground")]


def _axes(model: Model, line: WallLine, span: tuple[float, float], flip: bool, scale: float) -> list[Item]:
    """Return the axes that cross the wall square on, with bubbles above it."""
    b = line.band
    low, high = b.bottom - 2.0 * scale, b.top + 10.0 * scale
    top = model.gables.get(line.wall.id)
    gable = top.of_core if top is not None else None
    if gable is not None:
        high = max(high, gable.height(gable.highest, False) + 8.0 * scale)
    items: list[Item] = []
    radius = 4.0 * scale
    for grid in model.project.grids:
        if grid.kind == "radial":
            continue
        for axes, along_x in ((grid.x_axes, True), (grid.y_axes, False)):
            for axis, at in zip(axes, axis_positions(axes), strict=True):
                p = grid_point(grid, at, 0.0) if along_x else grid_point(grid, 0.0, at)
                q = grid_point(grid, at, 1000.0) if along_x else grid_point(grid, 1000.0, at)
                way = unit(p, q)
                if abs(way[0] * b.direction[0] + way[1] * b.direction[1]) > 0.02:
                    continue
                met = meet(b.start, b.direction, p, way)
                if met is None:
                    continue
                along, _ = off_line(met, b.start, b.end)
                if not span[0] - 300.0 <= along <= span[1] + 300.0:
                    continue
                x, ref = _x(along, line, flip), axis_name(grid.id, axis.id)
                items.append(Path(((x, low), (x, high)), "axis", "set out", ref))
                items.append(Circle((x, high + radius), radius, "bubble", "sheet", "set out", ref))
                items.append(Text((x, high + radius), axis.label, 3.0 * scale, layer="set out", ref=ref, bold=True))
    return items


def _levels(
    model: Model, line: WallLine, span: tuple[float, float], flip: bool, units: Units, scale: float
) -> list[Item]:
    low, high = line.band.bottom, line.band.top
    rows = [
        (v.id, v.name, v.height)
        for v in listed(model.project.levels)
        if low - 20.0 <= v.height <= high + 20.0 and v.role != "ground"
    ]
    ends = sorted((_x(span[0], line, flip), _x(span[1], line, flip)))
    return level_marks(rows, ends[1] + 3.0 * scale, ends[1] + 6.0 * scale, units, scale)


def _list(listed: tuple[Marked, ...], items: list[Item], units: Units, scale: float, below: bool) -> list[Item]:
    """Return the list of marks beside the drawing, or under it in columns."""
    box = Drawing("", scale, tuple(items)).box()
    size = 2.2 * scale
    columns = (0.0, 10.0, 36.0, 56.0, 76.0)
    rows = _texts(listed, units)
    head = ("Mark", "Member", "Section", "Length", "No.")
    per_column = max(5, -(-len(rows) // 3)) if below else len(rows)
    x, y = (box[0], box[1] - 6.0 * scale) if below else (box[2] + 8.0 * scale, box[3] - 2.0 * scale)
    found: list[Item] = []
    for start in range(0, len(rows), per_column):
        for i, row in enumerate((head, *rows[start : start + per_column])):
            at = y - i * 1.9 * size
            for shift, text in zip(columns, row, strict=True):
                found.append(Text((x + shift * scale, at), text, size, "left", pen="note", layer="notes", bold=i == 0))
        under = y - 0.95 * size
        found.append(Path(((x, under), (x + 84.0 * scale, under)), "outline", "notes"))
        x += 96.0 * scale
    return found


def _texts(listed: tuple[Marked, ...], units: Units) -> list[tuple[str, ...]]:
    return [(m.mark, m.role, m.section, format_length(m.length, units, 4), str(m.count)) for m in listed]


def stacked(model: Model, wall_ids: tuple[str, ...], scale: float, used: bool = False, lists: bool = True) -> Drawing:
    """Return the elevations of several walls one above the other, the first on top."""
    items: list[Item] = []
    top = 0.0
    for wall_id in wall_ids:
        drawing = framing_elevation(model, wall_id, scale, used, lists=lists)
        x0, y0, _, y1 = drawing.box()
        top -= y1 - y0
        items += placed(drawing.items, 1.0, (x0, y0), (0.0, top))
        sub = made_of(model, wall_id)
        items.append(Text((0.0, top - 6.0 * scale), drawing.title, 3.5 * scale, "left", layer="notes", bold=True))
        items.append(Text((0.0, top - 11.5 * scale), sub, 2.2 * scale, "left", pen="note", layer="notes"))
        top -= 24.0 * scale
    return Drawing("Framing elevations", scale, tuple(items))


def made_of(model: Model, wall_id: str) -> str:
    """Return of what a framed wall is made: its build-up, its studs and how far they are used."""
    design = model.framed[wall_id].design
    framing = model.lines[wall_id].wall.framing
    spaced = format_inches(design.spacing, model.project.units)
    buildup = display_name(model.lines[wall_id].buildup, model.project.units)
    return f"{buildup}, {design.size} studs, {framing.species} {framing.grade} grade, @ {spaced}, used {used_text(design.result.used)}"


def elevation_sheets(model: Model, wall_ids: tuple[str, ...]) -> list[Sheet]:
    """Return one sheet a wall (all framed walls when none is named), each at the greatest scale at which it fits."""
    return [elevation_sheet(model, wall_id) for wall_id in framed_walls(model, wall_ids)]


def elevation_number(model: Model, wall_id: str) -> str:
    """Return the number of the page of a framed wall: by its place among all of them, whichever are drawn."""
    return f"W-{framed_walls(model).index(wall_id) + 1}"


def elevation_sheet(model: Model, wall_id: str) -> Sheet:
    """Return the sheet of one framed wall at the greatest scale at which it fits."""
    name, width, height = papers(model.project.units)[-1]
    free_w, free_h = width - 2.0 * MARGIN - 10.0, height - 2.0 * MARGIN - 52.0
    for scale in SCALES[model.project.units]:
        drawing = framing_elevation(model, wall_id, scale, list_below=True)
        x0, y0, x1, y1 = drawing.box()
        if (x1 - x0) / scale <= free_w and (y1 - y0) / scale <= free_h:
            break
    left = MARGIN + 5.0 + max((free_w - (x1 - x0) / scale) / 2.0, 0.0)
    low = MARGIN + 47.0 + max((free_h - (y1 - y0) / scale) / 2.0, 0.0)
    items: list[Item] = [on_paper(i) for i in placed(drawing.items, 1.0 / scale, (x0, y0), (left, low))]
    under = MARGIN + 41.0
    items.append(Text((left, under), drawing.title, 4.0, "left", bold=True))
    note = f"{scale_text(scale)}    {made_of(model, wall_id)}"
    items.append(Text((left, under - 6.0), note, 2.5, "left", pen="note"))
    page = Sheet(name, width, height, scale, tuple(items), (drawing,), title=drawing.title, kind="framing")
    return bound(model, page, elevation_number(model, wall_id))
