"""Plans: grid, walls, foundations, floor framing, roof framing, drawn from the model."""

import itertools
import math

import msgspec
import shapely

from balken.catalog.materials import material
from balken.catalog.sections import made_text
from balken.derived.model import Model
from balken.documents.beam_marks import beam_marks, opening_items
from balken.documents.deck_marks import deck_items, load_items
from balken.documents.dimensions import TEXT, reading
from balken.documents.display import Area, Drawing, Item, Layer, Path, Strokes, Text
from balken.documents.foundation_plan import as_one_outline, foundation_items, line_load_items, plan_ring
from balken.documents.foundation_strings import foundation_strings
from balken.documents.grid_plan import grid_items
from balken.documents.hatch import hatch
from balken.documents.joist_marks import hanger_items, joist_mark_items, main_mark
from balken.documents.lettering import text_width
from balken.documents.load_plan import load_path_items
from balken.documents.roof_marks import surface_items
from balken.documents.side_strings import clear_of
from balken.documents.slab_schedule import slab_bar_text
from balken.documents.stair_marks import flight_items
from balken.documents.style import used_fill
from balken.documents.wall_strings import no_strings, outside_strings
from balken.framing.bands import WallLine
from balken.framing.floors import FloorPlan
from balken.framing.frames import Frame
from balken.framing.pieces import Piece
from balken.framing.roles import ROLES
from balken.geometry.plane import Point, Ring, add, distance, rings_of
from balken.geometry.prism import TOP, View
from balken.model.lookup import by_id, shown_grids
from balken.model.naming import layer_of, run_of
from balken.model.records import CutLine, Loads, Opening
from balken.remembered import remembered
from balken.standards.checks import used_text
from balken.units import format_area_load, format_inches, format_length
from balken.value import Value

STEP_MARKS = 7.0
"""Paper mm that the marks of steps take outside foundation walls."""
CUT_ABOVE_FLOOR = 1200.0
"""Height of the plan cut above a wall's foot, mm (ISO 7519 practice: through doors and windows)."""


class PlanOf(Value, frozen=True):
    """What a plan shows: parts in full, parts below as hidden lines, storey of walls (a level id or "").

    ``used``: members and footings by how far they are used; ``keyed``: with the marks of typical sections;
    ``strings``: dimensions round the foundations, beside those of the grid.
    """

    title: str
    parts: frozenset[str]
    below: frozenset[str] = frozenset()
    storey: str = ""
    dimensions: bool = True
    notes: bool = True
    used: bool = False
    keyed: bool = False
    strings: bool = True


def plan(model: Model, what: PlanOf, scale: float) -> Drawing:
    """Draw a plan to be read at 1:``scale``."""
    items: list[Item] = []
    strings = no_strings(model)
    if what.dimensions and "outline" in what.parts:
        strings = outside_strings(model, tuple(storey_walls(model, what.storey)), scale)
    elif what.dimensions and "foundations" in what.parts and model.runs and not what.strings:
        strings = no_strings(model, STEP_MARKS * scale)
    elif what.dimensions and "foundations" in what.parts and model.runs:
        p = model.project
        strings = foundation_strings(model.runs, model.pad_places, p.grids, p.strings, p.units, scale, what.keyed)
    if "references" in what.parts:
        items += _references(model)
    if "grid" in what.parts:
        for grid in shown_grids(model.project.grids, what.storey):
            clear = clear_of(grid, strings)
            items += grid_items(grid, model.project.units, scale, what.dimensions, clear)
    if "foundations" in what.parts:
        items += foundation_items(model, scale, what.used, what.notes, what.keyed)
    if "foundations" in what.below:
        below = [plan_ring(p)[0] for p in model.of_foundations("foundation wall", "pier")]
        items += as_one_outline(below, "hidden", "foundations")
    if "bearings" in what.below:
        items += as_one_outline(_bearings(model, what.storey), "hidden", "foundations")
    if "floors" in what.parts:
        items += _floor(model, scale, what)
    if "load path" in what.parts:
        items += load_path_items(model, shown_floors(model, what.storey), scale)
    if "walls" in what.parts:
        items += _walls(model, scale, what.storey)
    if "walls" in what.below:
        walls = storey_walls(model, what.storey)
        items += as_one_outline([ring for w in walls for ring in _outline_of(model, w)], "hidden", "walls")
    if "roof" in what.parts:
        items += _roof(model, scale, what)
    if "ground" in what.parts:
        items += spot_items(model, scale)
    items += strings.items
    if what.used and "foundations" in what.parts:
        items += line_load_items(model, scale)
    return Drawing(what.title, scale, tuple(items))


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
    for _, pieces in itertools.groupby(layers, key=lambda piece: layer_of(piece.key)):
        group = tuple(pieces)
        kind = material(group[0].material).fill
        core = kind in ("studs", "masonry", "concrete")
        for rings in _as_one([rings for piece in group for rings in piece.solid.cut(view)]):
            items.append(Area(rings, kind, "outline" if core else "fine", "walls", line.wall.id))
            if kind in ("masonry", "concrete"):
                items.append(Strokes(hatch(rings, kind, scale), "hatch", "walls", line.wall.id))
    return items


def _as_one(found: list[tuple[Ring, ...]]) -> list[tuple[Ring, ...]]:
    """Return the outlines of a layer; where wedges (triangles) fill it up to a skew face they are drawn as one with its body."""
    if all(len(rings[0]) != 3 for rings in found):
        return found
    whole = shapely.union_all([shapely.Polygon(rings[0], rings[1:]) for rings in found], grid_size=0.001).simplify(0.01)
    return rings_of(whole)


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
    for piece in model.columns:
        if not storey or stands_on(model, piece.start[2], piece.level, storey):
            rings = plan_ring(piece)
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


def _outline_of(model: Model, wall_id: str) -> list[Ring]:
    """Return a wall in plan as a whole: from face to face and as far as any layer runs, and the tips of mitres."""
    line, joints = model.lines[wall_id], model.joints[wall_id]
    low, high = min(a for a, _ in joints.spans), max(b for _, b in joints.spans)
    at = line.band.at
    body = (at(low, 0.0), at(high, 0.0), at(high, line.thickness), at(low, line.thickness))
    return [body, *(wedge.ring for wedge in joints.wedges)]


# Framing ---------------------------------------------------------------------------------------


def _member(model: Model, piece: Piece, what: PlanOf) -> Item:
    result = model.results.get(piece.key)
    fill = used_fill(result.used) if what.used and result else ROLES[piece.role].fill
    pen = f"used {fill}" if what.used and result else ROLES[piece.role].pen
    pen = "by hand" if piece.key in model.hand_edited else pen
    return Area(plan_ring(piece), fill, pen, ROLES[piece.role].layer, piece.key)


def shown_floors(model: Model, storey: str) -> list[FloorPlan]:
    """Return the floors of a storey: on its level, or near it and on no other floor; all for none."""
    heights = {v.id: v.height for v in model.project.levels}
    return [
        made
        for made in model.floors
        if not storey or stands_on(model, heights[made.floor.level], made.floor.level, storey)
    ]


UNDER_DECK = 600.0
"""What ends lower than this under a deck does not carry it, mm."""


def _bearings(model: Model, storey: str) -> list[Ring]:
    """Return the outlines of the walls and foundation walls that the floors of a storey lie on, or may."""
    floors = shown_floors(model, storey)
    if not floors:  # before one is laid: the walls it may lie between
        return [ring for wall in storey_walls(model, storey) for ring in _outline_of(model, wall)]
    found: list[Ring] = []
    for made in floors:
        level = next(v.height for v in model.project.levels if v.id == made.floor.level)
        under = {*made.bears_on, *made.floor.walls}
        below = {
            run.id for run in model.runs if under & {run.id, run.wall} and 0.0 <= level - run.band.top < UNDER_DECK
        }
        found += [plan_ring(p)[0] for p in model.of_foundations("foundation wall") if run_of(p.key) in below]
        for wall, line in model.lines.items():
            if wall in under and 0.0 <= level - line.band.top < UNDER_DECK:
                found += _outline_of(model, wall)
    return list(dict.fromkeys(found))


def _floor(model: Model, scale: float, what: PlanOf) -> list[Item]:
    floors = shown_floors(model, what.storey)
    shown = {made.floor.id for made in floors}
    boards = model.of_layouts("rim board", "joist", "floor header", "blocking", "floor slab")
    items: list[Item] = _beams(model, what, shown)
    items += [_member(model, p, what) for p in boards if p.owner in shown or not what.storey]
    items += beam_marks(model, _shown_beams(model, what, shown), scale, what.notes, what.used)
    items += [item for made in floors for item in opening_items(made)]
    items += flight_items(model, shown, scale, what.notes)
    if what.notes:
        for floor_plan in floors:
            items += deck_items(model, floor_plan, scale)
            design = model.designs[(floor_plan.floor.id, "joists")]
            if floor_plan.floor.is_slab:
                items += _slab_marks(model, floor_plan, scale, what.used)
                items += load_items(model, floor_plan, scale)
                continue
            ring = floor_plan.frame.ring(floor_plan.outline.core)
            choice = floor_plan.floor.joists
            spaced = format_inches(design.spacing, model.project.units)
            used = f", used {used_text(design.result.used)}" if what.used else ""
            made = made_text(design.size, choice.species, choice.grade)
            groups: dict[int, float] = {}
            for line in floor_plan.lines:
                if not floor_plan.headers.intersection(line.supports):  # those cut off at openings are short
                    groups.setdefault(round(line.low), line.high)
            t = sum(p[1] for p in ring) / len(ring)
            t += (max(p[1] for p in ring) - t) * 0.35
            said = {low: main_mark(model, floor_plan, low) for low in groups}
            for low, high in groups.items():
                notes = (
                    f"{said[low]}  {made} @ {spaced}{used}",
                    f"{said[low]}  {design.size} @ {spaced}{used}",
                    used_text(design.result.used) if what.used else f"{said[low]}  {design.size}",
                    used_text(design.result.used) if what.used else said[low],
                )
                items += _span_mark(floor_plan.frame, low, high, t, notes, scale, "floors", floor_plan.floor.id)
            items += load_items(model, floor_plan, scale)
            if not what.used:
                items += joist_mark_items(model, floor_plan, said, scale)
                items += hanger_items(model, floor_plan, scale)
    return items


def _slab_marks(model: Model, plan: FloorPlan, scale: float, used: bool) -> list[Item]:
    """Return the arrow of a slab's span in its widest field, with its thickness and bars; both ways where it carries so."""
    slab, size = model.raised[plan.floor.id], model.designs[(plan.floor.id, "joists")].size
    line = max(
        plan.lines, key=lambda one: (one.high - one.low, -abs(one.t - plan.frame.to(_middle(plan))[1])), default=None
    )
    if line is None:
        return []
    stops = [at for _, at, _ in line.stops]
    low, high = max(itertools.pairwise(stops), key=lambda pair: pair[1] - pair[0], default=(line.low, line.high))
    both = plan.floor.carries == "both ways"
    most = f", used {used_text(slab.results[slab.worst].used)}" if used and slab.results else ""
    bars = "" if both else f", {slab_bar_text(slab.bars, model.units)}"
    notes = (f"{size}{bars}{most}", f"{size}{most}", size)
    t = sorted(one.t for one in plan.lines)[len(plan.lines) // 2]
    items = _span_mark(plan.frame, low, high, t, notes, scale, "floors", plan.floor.id)
    if both:
        ts = [p[1] for p in plan.frame.ring(plan.outline.core)]
        turned = Frame(plan.frame.angle + 90.0)
        a, b = (
            turned.to(plan.frame.back((low + high) / 2.0, min(ts))),
            turned.to(plan.frame.back((low + high) / 2.0, max(ts))),
        )
        items += _span_mark(
            turned, min(a[0], b[0]), max(a[0], b[0]), a[1], ("carries both ways", ""), scale, "floors", plan.floor.id
        )
    return items


def _middle(plan: FloorPlan) -> Point:
    ring = plan.outline.core
    return sum(p[0] for p in ring) / len(ring), sum(p[1] for p in ring) / len(ring)


def _shown_beams(model: Model, what: PlanOf, shown: set[str]) -> list[str]:
    """Return the beams of a plan: those that carry its floors, and others of its storey; all for none."""
    levels = by_id(model.project.levels)
    return [
        name
        for name, made in model.path.beams.items()
        if not what.storey
        or (
            made.line.beam.floor in shown
            if made.line.beam.floor
            else stands_on(model, levels[made.line.beam.top.level].height, made.line.beam.top.level, what.storey)
        )
    ]


def _beams(model: Model, what: PlanOf, shown: set[str]) -> list[Item]:
    """Return beams as they lie, those under the joists of a floor below those."""
    wanted = set(_shown_beams(model, what, shown))
    return [
        msgspec.structs.replace(_member(model, piece, what), ref=piece.owner)
        for piece in model.of_layouts("beam")
        if piece.owner in wanted
    ]


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
    angle = reading(frame.s)[0]
    size = TEXT * scale
    wide = text_width(note, size)
    middle = add(frame.back((low + high) / 2.0, t), frame.t, (1.6 * size) if angle == 0.0 else (1.3 * size))
    along, aside = (wide / 2.0 + size * 0.4, size * 0.95)
    dx, dy = (along, aside) if angle == 0.0 else (aside, along)
    x, y = middle
    items.append(Area((((x - dx, y - dy), (x + dx, y - dy), (x + dx, y + dy), (x - dx, y + dy)),), "sheet", "", layer))
    items.append(Text(middle, note, size, angle=angle, pen="text", layer=layer, bold=True))
    return items


ROOF_ORDER = {
    "ceiling tie": 0,
    "ceiling joist": 0,
    "truss bottom chord": 0,
    "truss top chord": 1,
    "ladder block": 0,
    "lookout": 0,
    "frame packing": 0,
    "tail board": 1,
    "fly rafter": 1,
    "purlin": 0,
    "strut": 0,
    "rafter": 1,
    "rafter header": 1,
    "hip rafter": 2,
    "valley rafter": 2,
    "ridge board": 3,
}
"""What of roofs a plan shows, what is drawn later lying over what was drawn before."""


def _roof(model: Model, scale: float, what: PlanOf) -> list[Item]:
    pieces = model.of_layouts(*ROOF_ORDER)
    items = [_member(model, p, what) for p in sorted(pieces, key=lambda p: ROOF_ORDER[p.role])]
    units = model.project.units
    items += [item for plan in model.surfaces for item in surface_items(model, plan, scale, what.notes)]
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
                used = f", used {used_text(design.result.used)}" if what.used else ""
                spaced = format_inches(design.spacing, units)
                notes = (
                    f"{design.size} {noun} @ {spaced}{used}",
                    f"{design.size} @ {spaced}{used}",
                    used_text(design.result.used) if what.used else design.size,
                )
                items += _span_mark(frame, low, high, t, notes, scale, "roof", ref)
    return items


CUT_BEYOND = 3.0
"""Paper mm that the mark of the cut stands outside the building at most, nearer than dimension strings."""


def _shown_ends(model: Model, cut: CutLine, scale: float) -> tuple[Point, Point]:
    """Return where the cut line is drawn from and to: no farther beyond the building than its marks need."""
    around = no_strings(model, CUT_BEYOND * scale)
    a, b = around.frame.to(cut.start), around.frame.to(cut.end)
    low, high = 0.0, 1.0
    for axis in (0, 1):
        if around.reach is None or abs(b[axis] - a[axis]) < 1e-6:
            continue
        ends = sorted((around.reach[axis + i] - a[axis]) / (b[axis] - a[axis]) for i in (0, 2))
        low, high = max(low, ends[0]), min(high, ends[1])
    if high - low < 0.2:
        return cut.start, cut.end
    (x0, y0), (x1, y1) = cut.start, cut.end
    first, last = ((x0 + part * (x1 - x0), y0 + part * (y1 - y0)) for part in (low, high))
    return first, last


def cut_line_items(model: Model, cut: CutLine, scale: float, letter: str = "S") -> list[Item]:
    """Return the cut line with arrows the way the section looks, and its letter."""
    a, b = _shown_ends(model, cut, scale)
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
        items.append(Text((x, y), letter, 3.2 * scale, layer="notes", ref="cut", bold=True))
    return items


def _roof_snow(loads: Loads) -> str:
    """Return how snow on roofs follows from that on the ground."""
    if loads.snow_by == "ground":
        return " taken as roof snow"
    factors = f"Ce {loads.snow_exposure:g}, Ct {loads.snow_thermal:g}, Is {loads.snow_importance:g}"
    more = f"{', slippery' if loads.snow_slippery else ''}{', ice at eaves' if loads.snow_ice else ''}"
    return f", on roofs by ASCE 7-16 ch. 7 ({factors}{more})"


def summary_note(model: Model) -> str:
    """Return the design loads in one line, for sheets."""
    loads, units = model.project.loads, model.project.units

    def load(value: float) -> str:
        return format_area_load(value, units)

    return (
        f"Floor live {load(loads.floor_live)}, dead {load(loads.floor_dead)}; "
        f"roof dead {load(loads.roof_dead)}, ground snow {load(loads.ground_snow)}{_roof_snow(loads)}; "
        f"soil {load(loads.soil_bearing)}; frost {format_length(loads.frost_depth, units)}."
    )
