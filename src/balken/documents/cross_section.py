"""The cross-section along the cut line: cut solids with hatching, what is seen beyond, levels, ground."""

import itertools
import math
from functools import lru_cache

import shapely

from balken.catalog.materials import MATERIALS
from balken.derived.model import Model
from balken.design.stud_walls import FramedWall
from balken.documents.dimensions import TEXT, dimension_string, level_marks
from balken.documents.display import Area, Circle, Drawing, Item, Path, Strokes, Text
from balken.documents.hatch import hatch
from balken.framing.pieces import Piece
from balken.framing.references import reference_solid
from balken.framing.roles import ROLES
from balken.geometry.plane import Point, Ring, bounds, distance, meet
from balken.geometry.prism import View
from balken.model.lookup import axis_positions, grid_point, ground, listed
from balken.model.naming import axis_name, slopes_with
from balken.model.records import CutLine
from balken.remembered import remembered

_FILL = {"timber": "timber", "wood sheathing": "sheathing"}


@lru_cache(maxsize=64)
def cut_view(cut: CutLine) -> View:
    """Return the picture plane of a cut, seen to the left of start-end.

    x runs so that the drawing reads the right way round for that viewer.
    """
    length = distance(cut.start, cut.end)
    d = ((cut.end[0] - cut.start[0]) / length, (cut.end[1] - cut.start[1]) / length)
    # Looking left of start->end, the viewer's right hand points along start->end.
    return View((cut.start[0], cut.start[1], 0.0), (d[0], d[1], 0.0), (0.0, 0.0, 1.0))


def effective_cut(model: Model) -> CutLine:
    """Return the project's cut line, or one across the middle of what there is, off the members' module."""
    if model.project.cut is not None:
        return model.project.cut
    points: list[Point] = [p for line in model.lines.values() for p in (line.band.start, line.band.end)]
    for grid in model.project.grids:
        xs, ys = axis_positions(grid.x_axes), axis_positions(grid.y_axes)
        if xs and ys:
            points += [grid_point(grid, x, y) for x in (xs[0], xs[-1]) for y in (ys[0], ys[-1])]
    x0, y0, x1, y1 = bounds(points) if points else (0.0, 0.0, 6000.0, 6000.0)
    x = x0 + 0.42 * (x1 - x0)
    return CutLine(start=(x, y0 - 1200.0), end=(x, y1 + 1200.0))


def fill_of(piece: Piece) -> str:
    """Return the fill of a cut piece."""
    if piece.material in _FILL:
        return _FILL[piece.material]
    found = MATERIALS.get(piece.material)
    return found.fill if found else "timber"


def cross_section(
    model: Model,
    cut: CutLine,
    scale: float,
    marks: bool = True,
    dimensions: bool = True,
    title: str = "Cross-section",
    until: float = math.inf,
) -> Drawing:
    """Draw the section to be read at 1:``scale``; x runs along the cut from its start, y is height.

    Members that lie wholly farther along the cut than ``until`` are left out, for views that do not show them.
    """
    view = cut_view(cut)
    items: list[Item] = []
    x0, x1 = 0.0, distance(cut.start, cut.end)
    earth = _earth(model, cut, view, x0, x1, scale)
    items += earth[:1]
    items += _beyond(model, view, until)
    cut_items, walls = _cut(model, view, scale, until)
    items += earth[1:]
    items += cut_items
    items += _references(model, view, x1)
    if marks:
        levels = [(v.id, v.name, v.height) for v in listed(model.project.levels)]
        items += level_marks(levels, x0, x1, model.project.units, scale)
    if marks and cut_items:
        items += _axes(model, cut, scale, cut_items)
    if dimensions and walls:
        left, _, right, _ = bounds([p for ring in walls for p in ring])
        lowest = min(p[1] for item in cut_items if isinstance(item, Area) for p in item.rings[0])
        base = lowest - 8.0 * scale
        items += dimension_string(
            [left, right], (0.0, base), (1.0, 0.0), 0.0, model.project.units, scale, "notes", -1.5
        )
        heights = sorted({v.height for v in listed(model.project.levels) if v.role != "ground"})
        items += dimension_string(heights, (x0, 0.0), (0.0, 1.0), 3.0 * scale, model.project.units, scale, "notes", 0.0)
    if not cut_items and not earth:
        items.append(Text((x1 / 2.0, 0.0), "Nothing lies under the cut line", TEXT * scale, pen="note"))
    return Drawing(title, scale, tuple(items))


def _references(model: Model, view: View, long: float) -> list[Item]:
    """Return where what came from the architect's file, and is not framed, is cut."""
    items: list[Item] = []
    for reference in model.project.references:
        for rings in reference_solid(reference).cut(view):
            inside = tuple((min(max(x, 0.0), long), z) for x, z in rings[0])
            if max(x for x, _ in inside) - min(x for x, _ in inside) > 1.0:
                items.append(Path(inside, "reference", "set out", reference.id, closed=True))
    return items


Beyond = dict[tuple[object, ...], tuple[float, Area]]
"""By role and outline to whole mm, how near to the plane something comes, and what is drawn of it."""


def _beyond(model: Model, view: View, until: float) -> list[Item]:
    """Return what lies wholly behind the plane; the sticks of a framed wall are hidden by its layers."""
    seen: Beyond = {}
    for group in model.groups:
        for key, (high, area) in _beyond_of(group, view, until).items():
            known = seen.get(key)
            if known is None or high > known[0]:
                seen[key] = (high, area)
    return [area for _, area in sorted(seen.values(), key=lambda row: row[0])]


@remembered(4_000)
def _beyond_of(group: tuple[Piece, ...], view: View, until: float) -> Beyond:
    seen: Beyond = {}
    for piece, (_, high) in _shown(group, view, until):
        if high > -1.0:
            continue
        rings = piece.solid.outline(view)
        if len(rings[0]) < 3:
            continue
        key = (piece.role, tuple([(round(x), round(y)) for x, y in rings[0]]))
        known = seen.get(key)
        if known is None or high > known[0]:
            light = piece.role in ("wall layer", "roof deck", "roof plane") or fill_of(piece) == "masonry"
            fill = "beyond" if light else "timber light"
            fill = "concrete light" if piece.material == "concrete" else fill
            ref = piece.wall if piece.role == "wall layer" else piece.key
            seen[key] = (high, Area(rings, fill, "beyond", ROLES[piece.role].layer, ref))
    return seen


@remembered(4_000)
def _shown(group: tuple[Piece, ...], view: View, until: float) -> list[tuple[Piece, tuple[float, float]]]:
    """Return the pieces that are drawn; with each how far behind (below zero) or before the plane it begins and ends."""
    if until == math.inf:
        return [(piece, piece.solid.depths(view)) for piece in group]
    (px, py, _), (dx, dy, _) = view.origin, view.right
    limit = until + THICKEST + px * dx + py * dy
    return [
        (piece, piece.solid.depths(view))
        for piece in group
        if not piece.section
        or piece.start[0] * dx + piece.start[1] * dy <= limit
        or piece.end[0] * dx + piece.end[1] * dy <= limit
    ]


THICKEST = 500.0
"""No member reaches farther than this to the side of its axis, mm."""


def low_and_high(model: Model) -> tuple[float, float]:
    """Return how low and high the axes of all pieces reach, mm; (0, 0) for none."""
    found = [_low_high(group) for group in model.groups if group]
    return min([low for low, _ in found], default=0.0), max([high for _, high in found], default=0.0)


@remembered(4_000)
def _low_high(group: tuple[Piece, ...]) -> tuple[float, float]:
    zs = [z for piece in group for z in (piece.start[2], piece.end[2])]
    return min(zs), max(zs)


def _cut(model: Model, view: View, scale: float, until: float) -> tuple[list[Item], list[Ring]]:
    """Return what the plane cuts, in the order of drawing, and the outlines of walls among it."""
    met = [_sticks_met(wall, view) for wall in model.framed.values()]
    rows = [row for group in (*model.groups, *met) for row in _cut_of(group, view, scale, until)]
    rows.sort(key=lambda row: row[0])
    return [item for _, items, _ in rows for item in items], [ring for _, _, walls in rows for ring in walls]


@remembered(2_000)
def _sticks_met(wall: FramedWall, view: View) -> tuple[Piece, ...]:
    """Return the sticks of a wall that the picture plane, which stands upright, can meet."""
    b, (px, py, _), (nx, ny, _) = wall.line.band, view.origin, view.toward
    across = nx * b.direction[0] + ny * b.direction[1]
    faces = [b.at(0.0, depth) for depth in (b.layers[0][0], b.layers[-1][1])]
    away = [nx * (x - px) + ny * (y - py) for x, y in faces]
    if abs(across) < 1e-6:  # it runs along the plane
        return wall.pieces if min(away) <= 0.0 <= max(away) else ()
    places = [-x / across for x in away]
    return wall.between(min(places) - 1.0, max(places) + 1.0)


@remembered(4_000)
def _cut_of(
    group: tuple[Piece, ...], view: View, scale: float, until: float
) -> list[tuple[int, list[Item], list[Ring]]]:
    found = []
    met = [p for p, (low, high) in _shown(group, view, until) if low <= 0.0 <= high]
    for piece, cut in joined([(p, p.solid.cut(view)) for p in met]):
        items: list[Item] = []
        walls: list[Ring] = []
        for rings in cut:
            kind = fill_of(piece)
            heavy = kind in ("concrete", "masonry") or piece.section
            layer = ROLES[piece.role].layer
            ref = piece.wall if piece.role == "wall layer" else piece.key
            items.append(Area(rings, kind, "cut" if heavy else "thin", layer, ref))
            if kind in ("concrete", "masonry"):
                items.append(Strokes(hatch(rings, kind, scale), "hatch", layer, ref))
            elif piece.section and _is_end_grain(rings[0]):
                items.append(_cross(rings[0], layer, ref))
            if piece.role in ("wall layer", "foundation wall"):
                walls.append(rings[0])
        if items:
            found.append((ROLES[piece.role].under, items, walls))
    return found


Cut = tuple[tuple[Ring, ...], ...]
"""Polygons (outline, holes) of what a plane cuts."""


def joined(cuts: list[tuple[Piece, Cut]]) -> list[tuple[Piece, Cut]]:
    """Return pieces that are cut, the level and sloping parts of a footing as one."""
    sloping: dict[str, list[tuple[Piece, Cut]]] = {}
    for piece, cut in cuts:
        base, slopes = slopes_with(piece.key)
        if cut and slopes:
            sloping.setdefault(base, []).append((piece, cut))
    found = []
    for piece, cut in cuts:
        base, slopes = slopes_with(piece.key)
        if not cut or slopes:
            continue
        # footing, footing/1, ... of a run: those that touch a sloping part are drawn with it.
        for _, other in sloping.get(base, ()):
            whole = shapely.union_all([_polygon(r).buffer(0.05, join_style="mitre") for r in (*cut, *other)])
            if isinstance(whole, shapely.Polygon):
                cut = ((tuple(whole.exterior.coords[:-1]), *(tuple(h.coords[:-1]) for h in whole.interiors)),)
        found.append((piece, cut))
    return found


def _polygon(rings: tuple[Ring, ...]) -> shapely.Polygon:
    return shapely.Polygon(rings[0], rings[1:])


def _axes(model: Model, cut: CutLine, scale: float, cut_items: list[Item]) -> list[Item]:
    """Return the grid axes that the cut crosses square on, with bubbles above what is cut."""
    length = distance(cut.start, cut.end)
    d = ((cut.end[0] - cut.start[0]) / length, (cut.end[1] - cut.start[1]) / length)
    ys = [p[1] for item in cut_items if isinstance(item, Area) for p in item.rings[0]]
    low, high, radius = min(ys) - 4.0 * scale, max(ys) + 8.0 * scale, 4.5 * scale
    items: list[Item] = []
    for grid in model.project.grids:
        if grid.kind == "radial":
            continue  # its axes never stand square to more than one cut
        for axes, along_x in ((grid.x_axes, True), (grid.y_axes, False)):
            for axis, at in zip(axes, axis_positions(axes), strict=True):
                a = grid_point(grid, at, 0.0) if along_x else grid_point(grid, 0.0, at)
                b = grid_point(grid, at, 1000.0) if along_x else grid_point(grid, 1000.0, at)
                way = ((b[0] - a[0]) / 1000.0, (b[1] - a[1]) / 1000.0)
                point = meet(cut.start, d, a, way)
                if point is None or abs(way[0] * d[0] + way[1] * d[1]) > 0.02:
                    continue
                x = (point[0] - cut.start[0]) * d[0] + (point[1] - cut.start[1]) * d[1]
                if not 0.0 <= x <= length:
                    continue
                ref = axis_name(grid.id, axis.id)
                items.append(Path(((x, low), (x, high)), "axis", "set out", ref))
                items.append(Circle((x, high + radius), radius, "bubble", "sheet", "set out", ref))
                items.append(Text((x, high + radius), axis.label, 3.2 * scale, layer="set out", ref=ref, bold=True))
    return items


def _is_end_grain(ring: Ring) -> bool:
    x0, y0, x1, y1 = bounds(ring)
    return len(ring) == 4 and max(x1 - x0, y1 - y0) < 400.0


def _cross(ring: Ring, layer: object, ref: str) -> Strokes:
    """Two diagonals: the drafting sign for timber cut across."""
    a, b, c, d = ring
    return Strokes(((a, c), (b, d)), "fine", layer, ref)  # type: ignore[arg-type]


def _earth(model: Model, cut: CutLine, view: View, x0: float, x1: float, scale: float) -> list[Item]:
    """Return the ground outside the foundation walls: a hatched strip under a heavy line."""
    if model.ground is None:
        return []
    level = ground(model.project.levels)
    ref = level.id if level is not None else ""
    line = model.ground.profile(cut.start, cut.end)
    low, high, deep = min(z for _, z in line), max(z for _, z in line), 5.0 * scale
    held = [box for group in model.groups for box in _holds_earth(group, view)]
    stops = [(left, right) for left, bottom, right, top in held if bottom < high and top > low - deep]
    inner = (min(s[0] for s in stops), max(s[1] for s in stops)) if stops else None
    spans = [(x0, inner[0]), (inner[1], x1)] if inner else [(x0, x1)]
    items: list[Item] = []
    for a, b in spans:
        if b - a < 1.0:
            continue
        xs = [a, *(x for x, _ in line if a < x < b), b]
        top_line = [(x, _between(line, x)) for x in xs]
        ring: tuple[Point, ...] = (*((x, z - deep) for x, z in top_line), *reversed(top_line))
        items.append(Strokes(hatch((ring,), "earth", scale), "earth", "ground", ref))
        items.append(Path(tuple(top_line), "ground", "ground", ref))
    return items


@remembered(4_000)
def _holds_earth(group: tuple[Piece, ...], view: View) -> list[tuple[float, float, float, float]]:
    """Return the boxes of what the plane cuts of foundation walls and footings, before which the ground stops."""
    pieces = [p for p in group if p.role in ("foundation wall", "strip footing")]
    return [bounds(rings[0]) for piece in pieces for rings in piece.solid.cut(view)]


def _between(line: list[tuple[float, float]], x: float) -> float:
    """Return the height of a line of (x, z) at x."""
    for (a, za), (b, zb) in itertools.pairwise(line):
        if a <= x <= b and b > a:
            return za + (zb - za) * (x - a) / (b - a)
    return line[0][1] if x < line[0][0] else line[-1][1]
