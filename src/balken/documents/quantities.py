"""Quantities of the ground works: concrete by element, formwork, excavation, bars with their laps, bolts."""

import math
from typing import Any

import shapely

from balken.catalog.bars import BARS
from balken.catalog.blocks import BONDS, CELL, Bond, block_of, cells
from balken.derived.bolted import bolted_plates
from balken.derived.model import Model
from balken.design.girders import passing
from balken.documents.slab_schedule import bars_of
from balken.framing.blockwork import Blockwork, blockwork
from balken.framing.foundations import FoundationRun
from balken.framing.linings import notches
from balken.framing.pieces import Piece
from balken.framing.roles import CONCRETE_ROLES, DUG_ROLES, FOOTING_ROLES, Role
from balken.framing.sill_plates import anchor_bolts
from balken.geometry.boxes import area_and_middle, as_boxes, less
from balken.geometry.edges import edges, shared_length
from balken.geometry.plane import Point, Ring, area, bounds, near_pairs
from balken.model.lookup import wall_label
from balken.model.naming import footing_of, run_of, wall_of
from balken.model.records import Recess
from balken.remembered import remembered
from balken.standards.ground import BarSet
from balken.units.system import FOOT
from balken.value import Value

ROOM = 300.0
"""Working room beside footings and walls in the ground, mm (common practice, no source)."""
MITRE = 5.0
"""How many times the room a sharp corner of a pit can reach out."""
HOOK = 16.0
"""A standard hook of 90 degrees reaches so many diameters out: 12 beyond the bend, its radius of 3, the bar (ACI 318-19, 25.3.1), as
``BarSet.cut_length`` counts it.
"""
BAR_STOCK = 20.0 * FOOT
"""Bars come this long (common practice, no source)."""


class ConcreteRow(Value, frozen=True):
    """Concrete of one kind of element: pieces, m3, and m2 of formwork on its upright faces."""

    role: str
    count: int
    volume: float
    formwork: float


class LiningRow(Value, frozen=True):
    """Insulation of one thickness on foundation walls: mm, m2, and how often it is notched round a beam."""

    thickness: float
    area: float
    notches: int


class BarRow(Value, frozen=True):
    """Bars alike: where, size, number, length cut (mm, hooks and laps included), mass of all (kg); how many ends are hooked, how far a
    hook's leg reaches and what lies between hooks, from outside to outside; how far they lap where they are spliced, mm.
    """

    where: str
    use: str
    size: str
    count: int
    length: float
    mass: float
    ref: str
    hooks: int = 0
    leg: float = 0.0
    straight: float = 0.0
    lap: float = 0.0


class BlockRow(Value, frozen=True):
    """Blocks of one thickness: whole, half and cut ones, the most courses of a wall, m3 of grout."""

    name: str
    whole: int
    half: int
    cut: int
    courses: int
    grout: float


class Quantities(Value, frozen=True):
    """All of them: m3 of excavation, number of anchor bolts."""

    concrete: tuple[ConcreteRow, ...]
    bars: tuple[BarRow, ...]
    excavation: float
    bolts: int
    blocks: tuple[BlockRow, ...] = ()
    linings: tuple[LiningRow, ...] = ()

    @property
    def volume(self) -> float:
        """All concrete, m3."""
        return sum(row.volume for row in self.concrete)

    @property
    def steel(self) -> float:
        """All bars, kg."""
        return sum(row.mass for row in self.bars)


def quantities(model: Model) -> Quantities:
    """Return the quantities of a model's ground works."""
    every = (*model.of_foundations(*CONCRETE_ROLES), *model.of_layouts("floor slab"))
    pieces = [p for p in every if p.material == "concrete"]
    faces = _free_faces(pieces)
    rows = []
    for role in CONCRETE_ROLES:
        group = [p for p in pieces if p.role == role]
        if group:
            area = sum(faces[p.key] for p in group) * 1e-6 if role != "blinding" else 0.0
            rows.append(ConcreteRow(role, len(group), sum(p.volume for p in group) * 1e-9, area))
    stock = model.project.stock_length
    bolts = sum(len(anchor_bolts(run, stock, bolted_plates(model, run)[0])) for run in model.runs)
    return Quantities(
        tuple(rows),
        tuple(bar_rows(model)),
        _excavation(model),
        bolts,
        tuple(block_rows(model)),
        tuple(lining_rows(model)),
    )


def lining_rows(model: Model) -> list[LiningRow]:
    """Return the insulation inside foundation walls by thickness, less its notches, and how many those are."""
    thick = {f.id: f.lining for f in model.project.foundations}
    areas: dict[float, float] = {}
    for piece in model.of_foundations("wall lining"):
        t = thick[piece.owner]
        areas[t] = areas.get(t, 0.0) + piece.volume / t * 1e-6
    beams = tuple(map(passing, model.path.beams.values()))
    counts: dict[float, int] = {}
    for run in model.runs:
        if run.foundation.lining > 0.0 and run.band.outside:
            t = run.foundation.lining
            counts[t] = counts.get(t, 0) + len(notches(run, beams))
    return [LiningRow(t, area, counts.get(t, 0)) for t, area in sorted(areas.items())]


def block_rows(model: Model) -> list[BlockRow]:
    """Return the blocks of the foundation walls by thickness, with the grout that fills their cells."""
    rows: dict[str, list[float]] = {}
    for run in model.runs:
        f = run.foundation
        if f.made_of == "concrete":
            continue
        made = blocks_of(model, run)
        wall = model.earth_walls.get(run.id)
        for thickness in made.thicknesses:
            block = block_of(thickness)
            assert block is not None
            mine = [b for b in made.blocks if b.thickness == thickness]
            face = sum((b.high - b.low) * (b.top - b.bottom) for b in mine)
            filled = 1.0 if f.made_of == "grouted block" else CELL / wall.bars[0].spacing if wall and wall.bars else 0.0
            row = rows.setdefault(block.name, [0.0] * 5)
            for i, kind in enumerate(("whole", "half", "cut")):
                row[i] += made.count(kind, thickness)  # type: ignore[arg-type]
            row[3] = max(row[3], len({b.course for b in mine}))
            row[4] += face * thickness * cells(block) * min(filled, 1.0) * 1e-9
    return [BlockRow(name, round(w), round(h), round(c), round(n), g) for name, (w, h, c, n, g) in sorted(rows.items())]


def blocks_of(model: Model, run: FoundationRun) -> Blockwork:
    """Return the blocks of a run's wall, one by one."""
    return _laid(run, BONDS[model.project.steps], *run.recesses_among(model.project.recesses))


@remembered(2_000)
def _laid(run: FoundationRun, bond: Bond, *recesses: Recess) -> Blockwork:
    return blockwork(run, recesses, bond)


def _heights(piece: Piece) -> tuple[float, float]:
    """Return the heights of a piece's underside (its mean, where it slopes) and top."""
    solid = piece.solid
    low, top = solid.heights
    return (low if solid.stands_upright else top - piece.volume / area(_plan(piece)[0])), top


def _plan(piece: Piece) -> tuple[Ring, ...]:
    """Return the outline of a piece in plan."""
    return piece.solid.plan


def _free_faces(pieces: list[Piece]) -> dict[str, float]:
    """Return the area of the upright faces of each piece that touch no other concrete, mm2, by its key."""
    # The sloping parts of footings are cast in their trench; only their two sides are formed.
    faces = {p.key: 2.0 * p.volume / p.solid.swept().depth for p in pieces if not p.solid.stands_upright}
    pieces = [p for p in pieces if p.solid.stands_upright]
    faces |= {p.key: _sides(p) for p in pieces}
    heights = [_heights(p) for p in pieces]
    for i, j in near_pairs([_box(p, 0.0) for p in pieces], 1.0, heights):
        tall = min(heights[i][1], heights[j][1]) - max(heights[i][0], heights[j][0])
        shared = _beside(pieces[i], pieces[j]) * tall
        faces[pieces[i].key] -= shared
        faces[pieces[j].key] -= shared
    return {key: max(area, 0.0) for key, area in faces.items()}


@remembered(8_000)
def _sides(piece: Piece) -> float:
    low, high = piece.solid.heights
    return sum([edge[4] for edge in edges(piece.solid.plan)]) * (high - low)


@remembered(8_000)
def _box(piece: Piece, room: float) -> tuple[float, float, float, float]:
    """Return a box that holds a piece in plan with room beside it."""
    ring = _plan(piece)[0]
    x0, y0, x1, y1 = bounds(ring)
    square = not room or ((known := as_boxes(ring)) is not None and known[0] == 0.0)
    wide = room if square else MITRE * room
    return x0 - wide, y0 - wide, x1 + wide, y1 + wide


@remembered(16_000)
def _beside(a: Piece, b: Piece) -> float:
    """Return along what length the upright faces of two pieces touch, mm."""
    return shared_length(a.solid.plan, b.solid.plan)


def _excavation(model: Model) -> float:
    """Return the earth dug out for what lies in the ground, working room included, straight-sided, m3.

    Where pits overlap, the deeper one has been dug first.
    """
    if model.ground is None:
        return 0.0
    pits: list[tuple[float, Piece, float]] = []
    for piece in model.of_foundations(*DUG_ROLES):
        room = ROOM if piece.role in FOOTING_ROLES else 0.0
        pits.append((_heights(piece)[0], piece, room))
    pits.sort(key=lambda row: row[0])
    deeper: dict[int, list[int]] = {}
    for i, j in near_pairs([_box(piece, room) for _, piece, room in pits], 0.0):
        deeper.setdefault(j, []).append(i)
    dug = 0.0
    for k, (bottom, piece, room) in enumerate(pits):
        area, centre = _fresh(piece, room, *(x for i in deeper.get(k, ()) for x in pits[i][1:]))
        if area > 0.0:
            dug += area * max(model.ground.height(centre) - bottom, 0.0)
    return dug * 1e-9


@remembered(8_000)
def _fresh(piece: Piece, room: float, *dug: Any) -> tuple[float, Point]:
    """Return the plan area of a piece's pit that the pits of others (piece, room, ...) have not dug, and its middle."""
    rings = [(_plan(other)[0], beside) for other, beside in zip(dug[::2], dug[1::2], strict=True)]
    pit, before = as_boxes(_plan(piece)[0], room), [as_boxes(ring, beside) for ring, beside in rings]
    if pit is not None and all(other is not None and other[0] == pit[0] for other in before):
        left = less(pit[1], tuple(box for other in before if other is not None for box in other[1]))
        return area_and_middle(left, pit[0])
    shape = _pit(_plan(piece)[0], room).difference(shapely.union_all([_pit(*row) for row in rings]))
    if shape.is_empty:
        return 0.0, (0.0, 0.0)
    x, y = shape.centroid.coords[0]
    return float(shape.area), (x, y)


def _pit(ring: Ring, room: float) -> shapely.Geometry:
    return shapely.Polygon(ring).buffer(room, join_style="mitre", mitre_limit=MITRE)


def bar_rows(model: Model) -> list[BarRow]:
    """Return the bars of footings, pads and walls, with laps (class B, 1.3 ld, 25.5.2.1) where bars are spliced."""
    concrete = model.project.concrete

    def lap_of(bars: BarSet) -> float:
        return model.standard.lap(BARS[bars.number].diameter, concrete.fc, concrete.fy)

    rows: list[BarRow] = []
    for run in model.runs:
        result = model.footings[run.id]
        where = f"footing under {wall_label(model.project, run.wall)}"
        if result.design.reinforced:
            for bars in result.design.bars:
                if bars.use == "across":
                    count = max(math.ceil(run.length / bars.spacing) + 1, 2)
                    rows.append(_row(where, bars, count, bars.cut_length, footing_of(run.id)))
                else:
                    count, length, lap = _spliced(bars, run.length, lap_of(bars))
                    rows.append(_row(where, bars, count, length, footing_of(run.id), lap))
        wall = model.earth_walls.get(run.id)
        if wall is not None and wall.reinforced:
            where = f"wall under {wall_label(model.project, run.wall)}"
            for bars in wall.bars:
                if bars.use == "lying":
                    count, length, lap = _spliced(bars, run.length, lap_of(bars))
                    rows.append(_row(where, bars, count, length, wall_of(run.id), lap))
                else:
                    count = max(math.ceil(run.length / bars.spacing) + 1, 2)
                    rows.append(_row(where, bars, count, bars.cut_length, wall_of(run.id)))
    for plan in model.floors:
        if plan.floor.is_slab:
            for use, number, count, long in bars_of(model, plan):
                one = BarSet(use, number, 0.0, count, long)
                n, length, lap = _spliced(one, long, lap_of(one)) if long > BAR_STOCK else (count, long, 0.0)
                rows.append(_row(plan.floor.name, one, n, length, plan.floor.id, lap))
    for i, place in enumerate(model.pad_places, 1):
        result_p = model.pads.get(place.pad.id)
        if result_p is None:
            continue
        made = result_p.design
        if result_p.combined:
            rows += [_row(f"combined footing {i}", b, b.count, b.cut_length, place.pad.id) for b in made.bars]
            continue
        for bars in made.bars[:1]:
            rows.append(_row(f"pad {i}, each way", bars, 2 * bars.count, bars.cut_length, place.pad.id))
    return rows


def _row(where: str, bars: BarSet, count: int, length: float, ref: str, lap: float = 0.0) -> BarRow:
    bar = BARS[bars.number]
    hooks = bars.hooks if bars.hooked else 0
    leg = HOOK * bar.diameter if hooks else 0.0
    mass = count * length / 1000.0 * bar.mass
    return BarRow(
        where, bars.use, bar.name, count, length, mass, ref, hooks, leg, length - hooks * leg if hooks else 0.0, lap
    )


def _spliced(bars: BarSet, run: float, lap: float) -> tuple[int, float, float]:
    """Return (bars, mean length of each, how far they lap) along a run, in stock lengths."""
    pieces = max(1, math.ceil((run - lap) / (BAR_STOCK - lap)))
    return bars.count * pieces, (run + (pieces - 1) * lap) / pieces, lap if pieces > 1 else 0.0


def role_volume(model: Model, role: Role) -> float:
    """Return the concrete of one role, m3."""
    return sum(p.volume for p in model.of_foundations(role)) * 1e-9


def run_volume(model: Model, run_id: str) -> float:
    """Return the concrete of a run's footing, m3."""
    return sum(p.volume for p in model.of_foundations("strip footing") if run_of(p.key) == run_id) * 1e-9
