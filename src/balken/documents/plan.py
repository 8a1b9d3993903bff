"""Plans: grid, walls, foundations, floor framing, roof framing, drawn from the model."""

import itertools
import math
from dataclasses import dataclass
from functools import lru_cache

import shapely

from balken.derive import Model
from balken.documents.dimensions import TEXT, dimension_string
from balken.documents.display import Area, Circle, Drawing, Item, Layer, Path, Strokes, Text
from balken.documents.hatch import hatch
from balken.documents.lettering import text_width
from balken.documents.marks import footing_marks, pad_size
from balken.documents.slope_marks import slope_marks
from balken.documents.style import used_fill
from balken.documents.wall_strings import clear_of, no_strings, outside_strings
from balken.framing.bands import WallLine
from balken.framing.foundations import FoundationRun, anchor_bolts, run_of
from balken.framing.frames import Frame
from balken.framing.pieces import STUD_ROLES, Piece
from balken.geometry.plane import Point, Ring, add, bounds, distance, turn, unit
from balken.geometry.prism import TOP, View, section, silhouette
from balken.model.lookup import axis_positions, by_id, grid_point, shown_grids
from balken.model.materials import material
from balken.model.records import CutLine, Grid, Opening
from balken.remembered import remembered
from balken.units import Units, format_area_load, format_inches, format_length, format_line_load

PART_LAYERS: dict[str, Layer] = {
    "strip footing": "foundations",
    "foundation wall": "foundations",
    "pad footing": "foundations",
    "pier": "foundations",
    "slab": "foundations",
    "slab edge": "foundations",
    "insulation": "foundations",
    "subbase": "foundations",
    "blinding": "foundations",
    "sill plate": "foundations",
    "rim board": "floors",
    "joist": "floors",
    "floor deck": "floors",
    "wall layer": "walls",
    "rafter": "roof",
    "ridge board": "roof",
    "ceiling tie": "roof",
    "roof deck": "roof",
    **dict.fromkeys(STUD_ROLES, "walls"),
    "column": "walls",
}
CUT_ABOVE_FLOOR = 1200.0
"""Height of the plan cut above a wall's foot, mm (ISO 7519 practice: through doors and windows)."""


@dataclass(frozen=True, slots=True)
class PlanOf:
    """What a plan shows: parts in full, parts below as hidden lines, storey of walls (a level id or "")."""

    title: str
    parts: frozenset[str]
    below: frozenset[str] = frozenset()
    storey: str = ""
    dimensions: bool = True
    notes: bool = True
    used: bool = False


def plan(model: Model, what: PlanOf, scale: float) -> Drawing:
    """Draw a plan to be read at 1:``scale``."""
    items: list[Item] = []
    strings = no_strings(model)
    if what.dimensions and "outline" in what.parts:
        strings = outside_strings(model, tuple(storey_walls(model, what.storey)), scale)
    if "references" in what.parts:
        items += _references(model)
    if "grid" in what.parts:
        for grid in shown_grids(model.project.grids, what.storey):
            clear = clear_of(grid, strings)
            items += grid_items(grid, model.project.units, scale, what.dimensions, clear)
    if "foundations" in what.parts:
        items += _foundations(model, scale, what)
    if "foundations" in what.below:
        items += _hidden(model, ("foundation wall", "pier"))
    if "floors" in what.parts:
        items += _floor(model, scale, what)
    if "walls" in what.parts:
        items += _walls(model, scale, what.storey)
    if "walls" in what.below:
        items += _hidden(model, ("wall layer",), what.storey)
    if "roof" in what.parts:
        items += _roof(model, scale, what)
    if "ground" in what.parts:
        items += spot_items(model, scale)
    items += strings.items
    if what.used and "foundations" in what.parts:
        items += _line_loads(model, scale)
    return Drawing(what.title, scale, tuple(items))


# Grid ------------------------------------------------------------------------------------------


GRID_FIRST, GRID_NEXT, BUBBLE_CLEAR = 9.0, 9.0, 4.0
"""Paper mm that the chain keeps from the first axes, the overall dimension from it, bubbles from both."""


def grid_items(
    grid: Grid, units: Units, scale: float, dimensions: bool = True, clear: tuple[float, float] = (0.0, 0.0)
) -> list[Item]:
    """Return axes with bubbles, the chain between axes and the overall dimension.

    ``clear``: how far other strings reach below and to the left of the first axes, mm; the grid's stand beyond.
    """
    xs, ys = axis_positions(grid.x_axes), axis_positions(grid.y_axes)
    if not xs or not ys:
        return []
    if grid.kind == "radial":
        return _radial_items(grid, units, scale, dimensions)
    radius = 4.5 * scale
    chains = [max(grid.chain_at, reach + (GRID_NEXT if reach else GRID_FIRST) * scale) for reach in clear]
    overalls = [max(grid.overall_at, chain + GRID_NEXT * scale) for chain in chains]
    pasts = [grid.run_past, grid.run_past]
    if dimensions:
        pasts = [max(grid.run_past, overall + BUBBLE_CLEAR * scale) for overall in overalls]
    after = grid.run_past if grid.bubbles != "start" else grid.run_past / 3.0
    before = [past if grid.bubbles != "end" else past / 3.0 for past in pasts]
    items: list[Item] = []
    for axis, x in zip(grid.x_axes, xs, strict=True):
        ends = ((x, ys[0] - before[0]), (x, ys[-1] + after))
        items += _axis(grid, f"{grid.id}/{axis.id}", axis.label, ends, radius, scale)
    for axis, y in zip(grid.y_axes, ys, strict=True):
        ends = ((xs[0] - before[1], y), (xs[-1] + after, y))
        items += _axis(grid, f"{grid.id}/{axis.id}", axis.label, ends, radius, scale)
    if dimensions:
        right, up = turn((1.0, 0.0), grid.angle), turn((0.0, 1.0), grid.angle)
        start = grid_point(grid, 0.0, ys[0])
        side = grid_point(grid, xs[0], 0.0)
        for i, (axes, origin, way, sign) in enumerate(((xs, start, right, -1.0), (ys, side, up, 1.0))):
            rows = [(axes, chains[i])] if len(axes) > 1 else []
            if len(axes) > 2:
                rows.append(([axes[0], axes[-1]], overalls[i]))
            for stations, at in rows:
                items += dimension_string(stations, origin, way, sign * at, units, scale, "set out", 0.0, grid.id)
    return items


ARC_STEPS = 48


def arc_points(grid: Grid, radius: float, low: float, high: float) -> Ring:
    """Return points along an arc of a radial grid from one angle to another (degrees of the grid)."""
    steps = max(2, round(ARC_STEPS * abs(high - low) / 180.0))
    return tuple(grid_point(grid, low + (high - low) * k / steps, radius) for k in range(steps + 1))


def _radial_items(grid: Grid, units: Units, scale: float, dimensions: bool) -> list[Item]:
    rays, arcs = axis_positions(grid.x_axes), axis_positions(grid.y_axes)
    past, radius = grid.run_past, 4.5 * scale
    inner = max(arcs[0] - past / 3.0, 0.0)
    items: list[Item] = []
    for axis, angle in zip(grid.x_axes, rays, strict=True):
        ends = (grid_point(grid, angle, inner), grid_point(grid, angle, arcs[-1] + past))
        items += _line_axis(grid, f"{grid.id}/{axis.id}", axis.label, ends, radius, scale, "end")
    for axis, r in zip(grid.y_axes, arcs, strict=True):
        # Run past the first and last ray by the same length as the rays run past the arcs.
        spare = min(math.degrees(past / max(r, 1.0)), 12.0)
        points = arc_points(grid, r, rays[0] - spare, rays[-1] + spare)
        ref = f"{grid.id}/{axis.id}"
        items.append(Path(points, "axis", "set out", ref))
        for end, before in ((points[0], points[1]), (points[-1], points[-2])):
            first = end is points[0]
            if grid.bubbles == "both" or (grid.bubbles == "start") == first:
                items += _bubble(add(end, unit(before, end), radius), axis.label, radius, scale, ref)
    if dimensions and len(arcs) > 1:
        way = unit(grid.origin, grid_point(grid, rays[0], 1000.0))
        items += dimension_string(arcs, grid.origin, way, -grid.chain_at, units, scale, "set out", 0.0, grid.id)
    for (a, b), gap in zip(itertools.pairwise(rays), grid.x_axes[1:], strict=True):
        if dimensions:
            at = grid_point(grid, (a + b) / 2.0, arcs[-1] + 0.5 * past)
            items.append(Text(at, f"{gap.gap:g}\u00b0", TEXT * scale, pen="note", layer="set out", ref=grid.id))
    return items


def _bubble(centre: Point, label: str, radius: float, scale: float, ref: str) -> list[Item]:
    size = min(3.2 * scale, 1.3 * radius * 3.2 * scale / max(text_width(label, 3.2 * scale, True), 1.0))
    return [
        Circle(centre, radius, "bubble", "sheet", "set out", ref),
        Text(centre, label, size, pen="text", layer="set out", ref=ref, bold=True),
    ]


def _line_axis(
    grid: Grid, ref: str, label: str, ends: tuple[Point, Point], radius: float, scale: float, bubbles: str
) -> list[Item]:
    """Return a straight axis between two plan points with bubbles beyond its ends."""
    a, b = ends
    way = unit(a, b)
    items: list[Item] = [Path((a, b), "axis", "set out", ref)]
    for end, sign, shown in ((a, -1.0, bubbles != "end"), (b, 1.0, bubbles != "start")):
        if shown:
            items += _bubble(add(end, way, sign * radius), label, radius, scale, ref)
    return items


def _axis(grid: Grid, ref: str, label: str, ends: tuple[Point, Point], radius: float, scale: float) -> list[Item]:
    placed = (grid_point(grid, *ends[0]), grid_point(grid, *ends[1]))
    return _line_axis(grid, ref, label, placed, radius, scale, grid.bubbles)


# Walls -----------------------------------------------------------------------------------------


STOREY_REACH = 1200.0
"""A wall whose foot is nearer than this to a floor belongs to that floor's storey, mm."""


def stands_on(model: Model, bottom: float, level_id: str, storey: str) -> bool:
    """Whether something with its foot there belongs to a storey: hung on its level, or near it and on no other floor."""
    levels = by_id(model.project.levels)
    if level_id == storey:
        return True
    if storey not in levels or levels[storey].role not in ("floor", "slab"):
        return False
    floors = [v for v in model.project.levels if v.role in ("floor", "slab")]
    if level_id in {v.id for v in floors}:
        return False
    nearest = min(floors, key=lambda v: abs(v.height - bottom))
    return nearest.id == storey and abs(nearest.height - bottom) < STOREY_REACH


def storey_walls(model: Model, storey: str) -> list[str]:
    """Return the ids of the walls of the storey standing on a level (all when it is empty)."""
    return [
        w
        for w, line in model.lines.items()
        if not storey or stands_on(model, line.band.bottom, line.wall.foot.level, storey)
    ]


def _walls(model: Model, scale: float, storey: str) -> list[Item]:
    items: list[Item] = []
    chosen = storey_walls(model, storey)
    for wall_id in chosen:
        items += _wall(model.layers[wall_id], model.lines[wall_id], scale)
    for opening in model.project.openings:
        if opening.wall in chosen:
            items += _opening(model.lines[opening.wall], opening)
    items += _columns(model, storey)
    return items


@remembered(2_000)
def _wall(layers: tuple[Piece, ...], line: WallLine, scale: float) -> list[Item]:
    height = line.band.top - line.band.bottom
    above = CUT_ABOVE_FLOOR if height > CUT_ABOVE_FLOOR else 0.5 * height
    view = View((0.0, 0.0, line.band.bottom + above), TOP.right, TOP.up)
    items: list[Item] = []
    for piece in layers:
        kind = material(piece.material).fill
        core = kind in ("studs", "masonry", "concrete")
        for rings in section(piece.solid, view):
            items.append(Area(rings, kind, "outline" if core else "fine", "walls", line.wall.id))
            if kind in ("masonry", "concrete"):
                items.append(Strokes(hatch(rings, kind, scale), "hatch", "walls", line.wall.id))
    return items


@remembered(2_000)
def _opening(line: WallLine, o: Opening) -> list[Item]:
    b, (near, far) = line.band, line.core
    low, high = o.offset, o.offset + o.width
    items: list[Item] = []
    if o.kind == "window":
        for depth in (near, (near + far) / 2.0, far):
            items.append(Path((b.at(low, depth), b.at(high, depth)), "thin", "walls", o.id))
    elif o.kind == "door":
        hinge, leaf = b.at(low, far), b.at(low, far + o.width)
        arc = tuple(add(hinge, turn_between(b.direction, b.inward, k / 12.0), o.width) for k in range(13))
        items.append(Path((hinge, leaf), "outline", "walls", o.id))
        items.append(Path(arc, "fine", "walls", o.id))
    jambs = (b.at(low, 0.0), b.at(high, 0.0), b.at(high, line.thickness), b.at(low, line.thickness))
    items.append(Path(jambs, "fine", "walls", o.id, closed=True))
    return items


def turn_between(a: Point, b: Point, part: float) -> Point:
    """Return the unit direction a quarter circle from ``a`` toward ``b``, ``part`` of the way."""
    cos, sin = math.cos(part * math.pi / 2.0), math.sin(part * math.pi / 2.0)
    return (a[0] * cos + b[0] * sin, a[1] * cos + b[1] * sin)


def _columns(model: Model, storey: str) -> list[Item]:
    items: list[Item] = []
    for piece in model.pieces.values():
        if piece.role == "column" and (not storey or stands_on(model, piece.start[2], piece.level, storey)):
            rings = _plan_ring(piece)
            kind = material(piece.material).fill
            items.append(Area(rings, kind, "cut", "walls", piece.owner))
            if len(rings[0]) == 4 and kind == "timber":
                a, b, c, d = rings[0]
                items.append(Strokes(((a, c), (b, d)), "fine", "walls", piece.owner))
    return items


def spot_items(model: Model, scale: float) -> list[Item]:
    """Return the spot heights of the ground: a cross and the height beside it."""
    items: list[Item] = []
    arm = 1.6 * scale
    for spot in model.project.spots:
        x, y = spot.x, spot.y
        for dx, dy in ((arm, arm), (arm, -arm)):
            items.append(Path(((x - dx, y - dy), (x + dx, y + dy)), "ground", "set out", spot.id))
        text = format_length(spot.height, model.project.units)
        at = (x + 2.4 * scale, y)
        items.append(Text(at, text, TEXT * scale, "left", pen="note", layer="set out", ref=spot.id))
    return items


def _references(model: Model) -> list[Item]:
    """Return the outlines of slabs and roofs of the architect's file."""
    return [Path(r.ring, "reference", "set out", r.id, closed=True) for r in model.project.references]


# Foundations -----------------------------------------------------------------------------------


def _plan_ring(piece: Piece) -> tuple[Ring, ...]:
    return silhouette(piece.solid, TOP)[0]


FOOTING_ROLES = ("strip footing", "pad footing", "slab edge")


def _foundations(model: Model, scale: float, what: PlanOf) -> list[Item]:
    items: list[Item] = []
    for piece in model.pieces.values():
        if piece.role == "slab":
            rings = _plan_ring(piece)
            items.append(Area(rings, "slab", "fine", "foundations", piece.owner))
    footings = [p for p in model.pieces.values() if p.role in FOOTING_ROLES]
    for piece in footings:
        fill = used_fill(_footing_used(model, piece)) if what.used else "concrete light"
        items.append(Area(_plan_ring(piece), fill, "", "foundations", piece.key))
    for rings in _union(footings):
        for ring in rings:
            items.append(Path(ring, "hidden", "foundations", "", closed=True))
    walls = [p for p in model.pieces.values() if p.role in ("foundation wall", "pier")]
    for piece in walls:
        rings, fill = _plan_ring(piece), material(piece.material).fill
        items.append(Area(rings, fill, "", "foundations", piece.key))
        items.append(Strokes(hatch(rings, fill, scale), "hatch", "foundations", piece.key))
    for rings in _union(walls):
        for ring in rings:
            items.append(Path(ring, "cut", "foundations", "", closed=True))
    items += step_marks(model, scale)
    items += slope_marks(model, scale)
    items += _recess_marks(model)
    items += _bolts(model, scale)
    if what.notes and not what.used:
        items += _foundation_notes(model, scale)
    return items


def _footing_used(model: Model, piece: Piece) -> float:
    run, pad = model.footings.get(run_of(piece.key)), model.pads.get(piece.owner)
    return run.used if run is not None else pad.used if pad is not None else 0.0


def step_marks(model: Model, scale: float) -> list[Item]:
    """Return the steps of the footings: a line across with a barb down the fall, the drop beside it.

    Steps too near one another for a figure each share one.
    """
    items: list[Item] = []
    units = model.project.units
    for run in model.runs:
        result = model.footings[run.id]
        middle = sum(run.faces) / 2.0 - run.foundation.footing_offset
        half = result.width / 2.0 + 2.0 * scale
        b = run.band
        groups: list[list[tuple[float, float, str]]] = []
        for low, high in itertools.pairwise(run.segments):
            at, drop = low.high, high.drop - low.drop
            ref = step_ref(run, at)
            p, q = b.at(at, middle - half), b.at(at, middle + half)
            items.append(Path((p, q), "outline", "foundations", ref))
            way = 1.0 if drop > 0 else -1.0
            for along in (-2.0, 2.0):
                tip = b.at(at + along * scale, middle - half)
                items.append(Path((p, tip), "fine", "foundations", ref))
            tip = b.at(at + way * 4.0 * scale, middle - half)
            items.append(
                Path((tip, b.at(at + way * 2.4 * scale, middle - half - 0.8 * scale)), "fine", "foundations", ref)
            )
            items.append(Path((p, tip), "fine", "foundations", ref))
            if groups and at - groups[-1][-1][0] < STEP_FIGURE * scale:
                groups[-1].append((at, drop, ref))
            else:
                groups.append([(at, drop, ref)])
        for group in groups:
            angle, text = _text_angle(b.direction), _step_text([drop for _, drop, _ in group], units)
            # The figure keeps clear of the walls at the run's ends.
            wide = text_width(text, TEXT * scale) / 2.0 + run.foundation.thickness
            at = min(max((group[0][0] + group[-1][0]) / 2.0, run.span[0] + wide), run.span[1] - wide)
            out = b.at(at, middle - half - 2.6 * scale)
            items.append(
                Text(out, text, TEXT * scale, angle=angle, pen="note", layer="foundations", ref=group[0][2], bold=True)
            )
    return items


STEP_FIGURE = 15.0
"""Length of paper that the figure of a step takes, mm."""


def _step_text(drops: list[float], units: Units) -> str:
    figures = [format_length(abs(drop), units) for drop in drops]
    if len(figures) == 1:
        return f"step {figures[0]}"
    if len(set(figures)) == 1:
        return f"{len(figures)} steps of {figures[0]}"
    return f"steps {', '.join(figures)}"


def step_ref(run: FoundationRun, at: float) -> str:
    """Return how the step at a place of a run is referred to: foundation/step/number."""
    steps = run.foundation.steps
    found = [i for i, s in enumerate(steps) if s.wall == run.wall and abs(s.at - at) < 0.5]
    return f"{run.foundation.id}/step/{found[0]}" if found else run.foundation.id


def _bolts(model: Model, scale: float) -> list[Item]:
    """Return the anchor bolts of the sill plates as small crosses."""
    return [_bolts_of(run, model.project.stock_length, scale) for run in model.runs]


@remembered(2_000)
def _bolts_of(run: FoundationRun, stock: float, scale: float) -> Item:
    strokes = []
    b, arm = run.sill, 0.8 * scale
    middle = sum(b.layers[0]) / 2.0
    for along in anchor_bolts(run, stock):
        for da, db in ((arm, arm), (arm, -arm)):
            strokes.append((b.at(along - da, middle - db), b.at(along + da, middle + db)))
    return Strokes(tuple(strokes), "thin", "foundations", f"{run.id}/sill/0")


def _recess_marks(model: Model) -> list[Item]:
    items: list[Item] = []
    runs = {run.id: run for run in model.runs}
    for r in model.project.recesses:
        run = runs.get(f"{r.foundation}/{r.wall}")
        if run is not None:
            near, far = run.faces
            low = far - r.depth if r.kind == "pocket" else near
            b = run.band
            ring = (
                b.at(r.offset, low),
                b.at(r.offset + r.width, low),
                b.at(r.offset + r.width, far),
                b.at(r.offset, far),
            )
            items.append(Area((ring,), "sheet", "outline", "foundations", r.id))
    return items


def _union(pieces: list[Piece]) -> list[tuple[Ring, ...]]:
    """Return the outlines of touching pieces as one, so that no joints show."""
    return list(_as_one(tuple(_plan_ring(p)[0] for p in pieces)))


@lru_cache(maxsize=64)
def _as_one(rings: tuple[Ring, ...]) -> tuple[tuple[Ring, ...], ...]:
    whole = shapely.union_all(shapely.buffer([shapely.Polygon(ring) for ring in rings], 0.05, join_style="mitre"))
    parts = whole.geoms if isinstance(whole, shapely.MultiPolygon) else [whole]
    return tuple(
        (tuple(p.exterior.coords[:-1]), *(tuple(h.coords[:-1]) for h in p.interiors))
        for p in parts
        if isinstance(p, shapely.Polygon) and not p.is_empty
    )


def _foundation_notes(model: Model, scale: float) -> list[Item]:
    items: list[Item] = []
    units, marks = model.project.units, footing_marks(model)
    size = TEXT * scale
    for run in model.runs:
        result = model.footings[run.id]
        b = run.band
        angle = _text_angle(b.direction)
        inside = run.faces[1] + (result.width - run.foundation.thickness) / 2.0 + 3.2 * scale
        wall = format_inches(run.foundation.thickness, units)
        wall += "" if run.foundation.made_of == "concrete" else " block"
        note = f"{marks[run.id]}  {wall} on {format_inches(result.width, units)} x {format_inches(result.depth, units)}"
        if not run.footing:
            note = f"{wall} thickened edge"
        if text_width(note, size) > 0.42 * run.length:
            note = marks[run.id]
        at = b.at(run.span[0] + 0.27 * run.length, inside)
        items.append(Text(at, note, size, angle=angle, pen="note", layer="foundations", ref=f"{run.id}/wall"))
    for place in model.pad_places:
        if place.pad.id not in model.pads:
            continue
        made = model.pads[place.pad.id].design
        x, y = place.centre
        lines = (
            f"{marks[place.pad.id]}  {pad_size(made, units)}",
            f"top {format_length(place.top, units)}",
        )
        for i, text in enumerate(lines):
            at = (x + made.width / 2.0 + 1.6 * scale, y + (0.9 - 1.8 * i) * size)
            items.append(Text(at, text, size, "left", pen="note", layer="foundations", ref=place.pad.id))
    for slab in model.slabs:
        x, y = _clear_spot(slab.ring, scale)
        below = f"{format_inches(slab.slab.thickness, units)}, top {format_length(slab.top, units)}"
        for i, text in enumerate((slab.slab.name, below)):
            at = (x, y + (0.9 - 1.8 * i) * size)
            items.append(Text(at, text, size, pen="note", layer="foundations", ref=slab.slab.id, bold=i == 0))
    return items


def _clear_spot(ring: Ring, scale: float) -> Point:
    """Return a place inside an outline off its middle lines, where walls and axes seldom run."""
    x0, y0, x1, y1 = bounds(ring)
    x, y = x0 + 0.5 * (x1 - x0), y0 + 0.68 * (y1 - y0)
    if shapely.Polygon(ring).contains(shapely.Point(x, y)):
        return (x, y)
    x, y = shapely.Polygon(ring).representative_point().coords[0]
    return (x, y)


def _line_loads(model: Model, scale: float) -> list[Item]:
    """Return the worst line load on each footing and how far the soil is used; short where there is little room."""
    items: list[Item] = []
    units = model.project.units
    size = TEXT * scale
    for run in model.runs:
        result, b = model.footings[run.id], run.band
        used = f"{result.soil_used:.0%}"
        text = f"{format_line_load(result.load, units)}, soil used {used}"
        if text_width(text, size, True) > 0.9 * run.length:
            text = used
        half = (result.width - run.foundation.thickness) / 2.0
        part = 0.27 if text_width(text, size, True) < 0.45 * run.length else 0.5
        at = b.at(run.span[0] + part * run.length, run.faces[1] + half + 3.2 * scale)
        angle = _text_angle(b.direction)
        items.append(Text(at, text, size, angle=angle, layer="foundations", ref=f"{run.id}/footing", bold=True))
    for place in model.pad_places:
        if place.pad.id not in model.pads:
            continue
        made = model.pads[place.pad.id].design
        x, y = place.centre
        at = (x + made.width / 2.0 + 1.6 * scale, y)
        text = f"soil used {made.soil.used:.0%}"
        items.append(Text(at, text, size, "left", layer="foundations", ref=place.pad.id, bold=True))
    return items


def _text_angle(direction: Point) -> float:
    return 90.0 if abs(direction[1]) > abs(direction[0]) else 0.0


def _hidden(model: Model, roles: tuple[str, ...], storey: str = "") -> list[Item]:
    pieces = [
        p
        for p in model.pieces.values()
        if p.role in roles and (not storey or p.role != "wall layer" or p.level == storey)
    ]
    if not pieces:
        return []
    layer = PART_LAYERS[pieces[0].role]
    return [Path(ring, "hidden", layer, "", closed=True) for rings in _union(pieces) for ring in rings]


# Framing ---------------------------------------------------------------------------------------


def _member(model: Model, piece: Piece, what: PlanOf) -> Item:
    result = model.results.get(piece.key)
    fill = (
        used_fill(result.used) if what.used and result else "timber" if piece.role != "ceiling tie" else "timber light"
    )
    pen = f"used {fill}" if what.used and result else "timber"
    return Area(_plan_ring(piece), fill, pen, PART_LAYERS[piece.role], piece.key)


def _floor(model: Model, scale: float, what: PlanOf) -> list[Item]:
    items: list[Item] = [_member(model, p, what) for p in model.pieces.values() if p.role in ("rim board", "joist")]
    if what.notes:
        for floor_plan in model.floors:
            design = model.designs[(floor_plan.floor.id, "joists")]
            ring = floor_plan.frame.ring(floor_plan.outline.core)
            choice = floor_plan.floor.joists
            spaced = format_inches(design.spacing, model.project.units)
            used = f", used {design.result.used:.0%}" if what.used else ""
            notes = (
                f"{design.size} {choice.species} {choice.grade} @ {spaced}{used}",
                f"{design.size} @ {spaced}{used}",
                f"{design.result.used:.0%}" if what.used else design.size,
            )
            groups: dict[float, float] = {}
            for line in floor_plan.lines:
                groups.setdefault(round(line.low), line.high)
            t = sum(p[1] for p in ring) / len(ring)
            t += (max(p[1] for p in ring) - t) * 0.35
            for low, high in groups.items():
                items += _span_mark(floor_plan.frame, low, high, t, notes, scale, "floors", floor_plan.floor.id)
    return items


def _span_mark(
    frame: Frame, low: float, high: float, t: float, notes: tuple[str, ...], scale: float, layer: Layer, ref: str
) -> list[Item]:
    """Return an arrow along the span with the longest of the notes that has room beside it."""
    note = next((n for n in notes if text_width(n, TEXT * scale, True) < 0.94 * (high - low)), notes[-1])
    inset = 0.08 * (high - low)
    a, b = frame.back(low + inset, t), frame.back(high - inset, t)
    items: list[Item] = [Path((a, b), "outline", layer, ref)]
    barb = 1.6 * scale
    for tip, way in ((a, 1.0), (b, -1.0)):
        for side in (1.0, -1.0):
            back = add(add(tip, frame.s, way * 2.0 * barb), frame.t, side * 0.6 * barb)
            items.append(Path((tip, back), "outline", layer, ref))
    angle = _text_angle(frame.s)
    size = TEXT * scale
    wide = text_width(note, size)
    middle = add(frame.back((low + high) / 2.0, t), frame.t, (1.6 * size) if angle == 0.0 else (1.3 * size))
    along, aside = (wide / 2.0 + size * 0.4, size * 0.95)
    dx, dy = (along, aside) if angle == 0.0 else (aside, along)
    x, y = middle
    items.append(Area((((x - dx, y - dy), (x + dx, y - dy), (x + dx, y + dy), (x - dx, y + dy)),), "sheet", "", layer))
    items.append(Text(middle, note, size, angle=angle, pen="text", layer=layer, bold=True))
    return items


def _roof(model: Model, scale: float, what: PlanOf) -> list[Item]:
    pieces = [p for p in model.pieces.values() if p.role in ("ceiling tie", "rafter", "ridge board")]
    order = {"ceiling tie": 0, "rafter": 1, "ridge board": 2}
    items = [_member(model, p, what) for p in sorted(pieces, key=lambda p: order[p.role])]
    units = model.project.units
    for roof_plan in model.roofs:
        over, frame = roof_plan.roof.overhang, roof_plan.frame
        for s in (roof_plan.low - over, roof_plan.high + over):
            ends = (frame.back(s, roof_plan.t_low), frame.back(s, roof_plan.t_high))
            items.append(Path(ends, "outline", "roof", roof_plan.roof.id))
        if what.notes:
            t = roof_plan.t_low + 0.66 * (roof_plan.t_high - roof_plan.t_low)
            middle, ref = roof_plan.low + roof_plan.half, roof_plan.roof.id
            halves = (
                ("rafters", "rafters", roof_plan.low, middle),
                ("ties", "ceiling ties", middle, roof_plan.high),
            )
            for field, noun, low, high in halves:
                design = model.designs[(ref, field)]
                used = f", used {design.result.used:.0%}" if what.used else ""
                spaced = format_inches(design.spacing, units)
                notes = (
                    f"{design.size} {noun} @ {spaced}{used}",
                    f"{design.size} @ {spaced}{used}",
                    f"{design.result.used:.0%}" if what.used else design.size,
                )
                items += _span_mark(frame, low, high, t, notes, scale, "roof", ref)
    return items


def cut_line_items(cut: CutLine, scale: float) -> list[Item]:
    """Return the cut line with arrows the way the section looks."""
    a, b = cut.start, cut.end
    length = distance(a, b)
    d = ((b[0] - a[0]) / length, (b[1] - a[1]) / length)
    aside = (-d[1], d[0])
    tab = min(8.0 * scale, length / 4.0)
    items: list[Item] = [
        Path((a, add(a, d, tab)), "cut line", "notes", "cut"),
        Path((b, add(b, d, -tab)), "cut line", "notes", "cut"),
        Path((a, b), "level", "notes", "cut"),
    ]
    for end in (a, b):
        tip = add(end, aside, 5.0 * scale)
        items.append(Path((end, tip), "outline", "notes", "cut"))
        for side in (1.0, -1.0):
            barb = add(add(tip, aside, -2.0 * scale), d, side * 0.8 * scale)
            items.append(Path((tip, barb), "outline", "notes", "cut"))
        x, y = add(tip, aside, 2.5 * scale)
        r = 2.4 * scale
        items.append(Area((((x - r, y - r), (x + r, y - r), (x + r, y + r), (x - r, y + r)),), "sheet", "", "notes"))
        items.append(Text((x, y), "S", 3.2 * scale, layer="notes", ref="cut", bold=True))
    return items


def summary_note(model: Model) -> str:
    """Return the design loads in one line, for sheets."""
    loads, units = model.project.loads, model.project.units

    def load(value: float) -> str:
        return format_area_load(value, units)

    return (
        f"Floor live {load(loads.floor_live)}, dead {load(loads.floor_dead)}; "
        f"roof dead {load(loads.roof_dead)}, ground snow {load(loads.ground_snow)}; "
        f"soil {load(loads.soil_bearing)}; frost {format_length(loads.frost_depth, units)}."
    )
