"""Elevations of foundation walls from outside: steps, footings, ground and frost line, recesses, strings, levels."""

import shapely

from balken.catalog.materials import material
from balken.derived.model import Model
from balken.documents.dimensions import TEXT, dimension_string, level_marks
from balken.documents.display import Area, Drawing, Item, Path, Strokes, Text, placed
from balken.documents.hatch import hatch
from balken.documents.lettering import text_width
from balken.documents.quantities import blocks_of
from balken.framing.blockwork import Blockwork, CutKind
from balken.framing.foundations import FoundationRun
from balken.geometry.plane import Point, Ring, off_line
from balken.geometry.solids import Solid
from balken.model.lookup import listed, wall_label
from balken.model.naming import footing_of, numbered_part, owner_of, run_of, wall_of
from balken.units import format_inches, format_length, format_line_load


def foundation_runs_of(model: Model, refs: tuple[str, ...]) -> tuple[str, ...]:
    """Return the runs among things selected (runs, walls, foundations, pieces); all when none is."""
    wanted = set(refs) | {run_of(r) for r in refs} | {owner_of(r) for r in refs if numbered_part(r) is not None}
    chosen = tuple(r.id for r in model.runs if {r.id, r.wall, r.foundation.id} & wanted)
    return chosen or tuple(r.id for r in model.runs)


def foundation_elevation(model: Model, run_id: str, scale: float) -> Drawing:
    """Draw one foundation wall seen from outside, to be read at 1:``scale``; raises StopIteration for no run."""
    run = next(r for r in model.runs if r.id == run_id)
    flip = model.lines[run.wall].wall.outside == "left"
    units = model.project.units
    items: list[Item] = list(_ground(model, run, flip, scale))
    mine = [p for group in model.foundations for p in group if run_of(p.key) == run_id]
    footing = [_seen(run, p.solid, flip) for p in mine if p.role == "strip footing"]
    for ring in _as_one(footing):
        items.append(Area((ring,), "concrete light", "outline", "foundations", footing_of(run_id)))
    for piece in mine:
        if piece.role not in ("foundation wall", "sill plate"):
            continue
        xs = (
            [_x(run, p, flip) for p in piece.solid.plan[0]]
            if piece.role != "sill plate"
            else [_x(run, (p[0], p[1]), flip) for p in (piece.start, piece.end)]
        )
        low, high = piece.solid.heights if piece.role != "sill plate" else (run.sill.bottom, run.sill.top)
        ring = ((min(xs), low), (max(xs), low), (max(xs), high), (min(xs), high))
        fill = "timber" if piece.role == "sill plate" else material(piece.material).fill
        items.append(Area((ring,), fill, "outline", "foundations", piece.key))
        if piece.material == "concrete" and piece.role == "foundation wall":
            items.append(Strokes(hatch((ring,), "concrete seen", scale), "hatch", "foundations", piece.key))
    if run.foundation.made_of != "concrete":
        items += _blocks(model, run, flip)
    items += _recesses(model, run, flip, scale)
    items += _frost(model, run, flip, scale)
    items += _loads(model, run, flip, scale)
    items += _strings(model, run, flip, scale)
    x1 = max(_flip(run, s, flip) for s in run.span)
    low = run.lowest - model.footings[run_id].depth
    shown = [v for v in listed(model.project.levels) if low - 300.0 <= v.height <= run.band.top + 900.0]
    levels = [(v.id, v.name, v.height) for v in shown]
    items += level_marks(levels, x1 + 3.0 * scale, x1 + 6.0 * scale, units, scale)
    return Drawing(f"Foundation under {wall_label(model.project, run.wall)}, from outside", scale, tuple(items))


def _seen(run: FoundationRun, solid: Solid, flip: bool) -> shapely.Geometry:
    """Return what is seen of a solid from outside, along the wall and upright."""
    return shapely.MultiPoint([(_x(run, (x, y), flip), z) for x, y, z in solid.corners()]).convex_hull


def _as_one(shapes: list[shapely.Geometry]) -> list[Ring]:
    """Return the outlines of shapes that touch as one."""
    whole = shapely.union_all([s.buffer(0.05, join_style="mitre") for s in shapes])
    return [tuple(p.exterior.coords[:-1]) for p in getattr(whole, "geoms", [whole]) if not p.is_empty]


def _blocks(model: Model, run: FoundationRun, flip: bool) -> list[Item]:
    """Return the joints round every block; cut blocks are crossed."""
    made = blocks_of(model, run)
    joints, crosses = [], []
    for b in made.blocks:
        a, c = _flip(run, b.low, flip), _flip(run, b.high, flip)
        corners = ((a, b.bottom), (c, b.bottom), (c, b.top), (a, b.top))
        joints += [(corners[i], corners[(i + 1) % 4]) for i in range(4)]
        if b.kind == "cut":
            crosses.append((corners[0], corners[2]))
    ref = wall_of(run.id)
    items: list[Item] = [
        Strokes(tuple(joints), "fine", "foundations", ref),
        Strokes(tuple(crosses), "fine", "foundations", ref),
    ]
    return items


def _counted(made: Blockwork) -> str:
    """Return how many blocks there are: '12 courses of block: 128 whole, 5 half, 41 cut'."""
    kinds: tuple[CutKind, ...] = ("whole", "half", "cut")
    counts = [f"{sum(made.count(kind, t) for t in made.thicknesses)} {kind}" for kind in kinds]
    return f"{made.courses} courses of block: " + ", ".join(counts)


def _flip(run: FoundationRun, along: float, flip: bool) -> float:
    return run.band.length - along if flip else along


def _x(run: FoundationRun, p: Point, flip: bool) -> float:
    along, _ = off_line(p, run.band.start, run.band.end)
    return _flip(run, along, flip)


def _earth(model: Model, run: FoundationRun, flip: bool) -> list[Point]:
    if model.ground is None or not run.band.outside:
        return []
    over = 600.0
    b = run.band
    count = 24 if model.ground.sloping else 1
    low, high = run.span[0] - over, run.span[1] + over
    rows = []
    for k in range(count + 1):
        along = low + (high - low) * k / count
        rows.append((_flip(run, along, flip), model.ground.height(b.at(along, run.faces[0]))))
    return sorted(rows)


def _ground(model: Model, run: FoundationRun, flip: bool, scale: float) -> list[Item]:
    rows = _earth(model, run, flip)
    if not rows:
        return []
    deep = 4.0 * scale
    ring: Ring = (*((x, z - deep) for x, z in rows), *reversed(rows))
    return [Strokes(hatch((ring,), "earth", scale), "earth", "ground"), Path(tuple(rows), "ground", "ground")]


def _frost(model: Model, run: FoundationRun, flip: bool, scale: float) -> list[Item]:
    rows = _earth(model, run, flip)
    depth = model.project.loads.frost_depth
    if not rows or depth <= 0.0:
        return []
    line = tuple((x, z - depth) for x, z in rows)
    text = f"frost line, {format_length(depth, model.project.units)} below ground"
    size = TEXT * 0.9 * scale
    wide = text_width(text, size) + size
    x, y = (line[0][0] + line[-1][0]) / 2.0, (line[0][1] + line[-1][1]) / 2.0 + 1.8 * scale
    back: Ring = (
        (x - wide / 2.0, y - size),
        (x + wide / 2.0, y - size),
        (x + wide / 2.0, y + size),
        (x - wide / 2.0, y + size),
    )
    return [
        Path(line, "hidden", "ground"),
        Area((back,), "sheet", "", "ground"),
        Text((x, y), text, size, pen="note", layer="ground"),
    ]


def _recesses(model: Model, run: FoundationRun, flip: bool, scale: float) -> list[Item]:
    items: list[Item] = []
    for r in model.project.recesses:
        if (r.foundation, r.wall) == (run.foundation.id, run.wall):
            a, b = sorted((_flip(run, r.offset, flip), _flip(run, r.offset + r.width, flip)))
            high = run.band.top - r.top
            ring: Ring = ((a, high - r.height), (b, high - r.height), (b, high), (a, high))
            items.append(Path(ring, "hidden" if r.kind == "pocket" else "outline", "foundations", r.id, closed=True))
            items.append(
                Text(((a + b) / 2.0, high - r.height - 2.0 * scale), r.kind, 1.8 * scale, pen="note", ref=r.id)
            )
    return items


LOAD_TALL = 12.0
"""Height of the load diagram's greatest value, paper mm."""


def _loads(model: Model, run: FoundationRun, flip: bool, scale: float) -> list[Item]:
    """Return the load at the wall's foot along it, as a diagram above it, worst combination, with its peak named."""
    units = model.project.units
    diagram = model.path.along[run.id]
    values = [(x, model.standard.combinations.worst(c)[0]) for x, c in diagram.per_length()]
    peak = max(v for _, v in values)
    if peak <= 0.0:
        return []
    base = run.band.top + 9.0 * scale
    half = diagram.step / 2.0
    items: list[Item] = []
    outline: list[Point] = []
    for x, v in reversed(values) if flip else values:
        a, b = sorted((_flip(run, x - half, flip), _flip(run, x + half, flip)))
        high = base + LOAD_TALL * scale * v / peak
        items.append(Area((((a, base), (b, base), (b, high), (a, high)),), "low", "", "foundations", run.id))
        outline += [(a, high), (b, high)]
    items.append(Path(tuple(outline), "used low", "foundations", run.id))
    ends = sorted((_flip(run, run.span[0], flip), _flip(run, run.span[1], flip)))
    items.append(Path(((ends[0], base), (ends[1], base)), "thin", "foundations", run.id))
    best, value = max(values, key=lambda row: row[1])
    mean = sum(v for _, v in values) / len(values)
    text = f"load at its foot: {format_line_load(value, units)} at most, {format_line_load(mean, units)} mean"
    at = (
        min(max(_flip(run, best, flip), ends[0] + 30.0 * scale), ends[1] - 30.0 * scale),
        base + (LOAD_TALL + 2.6) * scale,
    )
    items.append(Text(at, text, TEXT * 0.9 * scale, pen="note", layer="foundations", ref=run.id))
    return items


def _strings(model: Model, run: FoundationRun, flip: bool, scale: float) -> list[Item]:
    units = model.project.units
    depth = model.footings[run.id].depth
    bottom = run.lowest - depth
    items: list[Item] = []
    down = bottom - 9.0 * scale
    stations = sorted({_flip(run, s, flip) for g in run.segments for s in (g.low, g.high)})
    if len(stations) > 2:
        items += dimension_string(stations, (0.0, down), (1.0, 0.0), 0.0, units, scale, "foundations", -3.0)
        down -= 9.0 * scale
    items += dimension_string(
        [stations[0], stations[-1]], (0.0, down), (1.0, 0.0), 0.0, units, scale, "foundations", -3.0
    )
    tops = {run.band.bottom - s.drop for s in run.segments}
    heights = sorted({run.band.top, *tops, *(t - depth for t in tops)})
    left = stations[0] - 9.0 * scale
    items += dimension_string(heights, (left, 0.0), (0.0, 1.0), 0.0, units, scale, "foundations", -3.0)
    result = model.footings[run.id]
    note = (
        f"{format_inches(run.foundation.thickness, units)} wall, footing "
        f"{format_inches(result.width, units)} x {format_inches(result.depth, units)}"
    )
    if result.design.reinforced:
        note += "".join(f", #{b.number} {b.use} @ {format_inches(b.spacing, units)}" for b in result.design.bars)
    if run.foundation.made_of != "concrete":
        note += f"; {_counted(blocks_of(model, run))}"
    middle = (stations[0] + stations[-1]) / 2.0
    items.append(
        Text((middle, run.band.top + 4.0 * scale), note, TEXT * scale, pen="note", layer="foundations", ref=run.id)
    )
    return items


def stacked_foundations(model: Model, run_ids: tuple[str, ...], scale: float) -> Drawing:
    """Return the elevations of several runs one above the other."""
    items: list[Item] = []
    top = 0.0
    for run_id in run_ids:
        drawing = foundation_elevation(model, run_id, scale)
        x0, y0, _, y1 = drawing.box()
        top -= y1 - y0
        items += placed(drawing.items, 1.0, (x0, y0), (0.0, top))
        items.append(Text((0.0, top - 6.0 * scale), drawing.title, 3.5 * scale, "left", layer="notes", bold=True))
        top -= 18.0 * scale
    return Drawing("Foundation elevations", scale, tuple(items))
