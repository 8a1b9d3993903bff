"""The foundations on plans: footings dashed under walls, steps, slopes, bolts, marks, loads."""

import itertools

from balken.catalog.materials import material
from balken.derived.bolted import bolted_plates
from balken.derived.marks import footing_marks
from balken.derived.model import Model
from balken.design.footings import RunFooting
from balken.documents.dimensions import TEXT, reading
from balken.documents.display import Area, Item, Layer, Path, Strokes, Text
from balken.documents.foundation_notes import notes_of
from balken.documents.hatch import hatch
from balken.documents.lettering import text_width
from balken.documents.section_keys import section_keys
from balken.documents.slope_marks import slope_marks
from balken.documents.style import used_fill
from balken.framing.foundations import FoundationRun
from balken.framing.pieces import Piece
from balken.framing.roles import FOOTING_ROLES
from balken.framing.sill_plates import anchor_bolts
from balken.geometry.edges import joined_outlines
from balken.geometry.plane import Ring
from balken.model.naming import footing_of, piece_name, run_of, step_name
from balken.remembered import remembered, together
from balken.standards.checks import used_text
from balken.units import Units, format_length, format_line_load


def plan_ring(piece: Piece) -> tuple[Ring, ...]:
    """Return the outline of a piece seen from above, with its holes."""
    return piece.solid.plan


def foundation_items(model: Model, scale: float, used: bool, notes: bool, keyed: bool = False) -> list[Item]:
    """Return footings, foundation walls, steps, slopes, pockets and bolts.

    ``used``: filled by how far the soil is used; ``keyed``: with the marks of the typical sections.
    """
    items: list[Item] = []
    for piece in model.of_foundations("slab"):
        items.append(Area(plan_ring(piece), "slab", "fine", "foundations", piece.owner))
    footings = model.of_foundations(*FOOTING_ROLES)
    for piece in footings:
        fill = used_fill(_footing_used(model, piece)) if used else "concrete light"
        items.append(Area(plan_ring(piece), fill, "", "foundations", piece.key))
    items += as_one_outline([plan_ring(p)[0] for p in footings], "hidden", "foundations")
    walls = model.of_foundations("foundation wall", "pier")
    for piece in walls:
        rings, fill = plan_ring(piece), material(piece.material).fill
        items.append(Area(rings, fill, "", "foundations", piece.key))
        items.append(Strokes(hatch(rings, fill, scale), "hatch", "foundations", piece.key))
    items += as_one_outline([plan_ring(p)[0] for p in walls], "cut", "foundations")
    for piece in model.of_foundations("wall lining"):
        items.append(Area(plan_ring(piece), "", "fine", "foundations", piece.owner))
    designs = together(*(model.footings[run.id] for run in model.runs))
    steps = step_marks(model.runs, designs, model.project.units, scale)
    items += steps
    items += slope_marks(model, scale)
    items += _recess_marks(model)
    items += _bolts(model, scale)
    keys = section_keys(model, scale) if keyed else []
    items += keys
    if notes and not used:
        items += _foundation_notes(model, designs, [*steps, *keys] if keys else steps, scale)
    return items


def _footing_used(model: Model, piece: Piece) -> float:
    run, pad = model.footings.get(run_of(piece.key)), model.pads.get(piece.owner)
    return run.used if run is not None else pad.used if pad is not None else 0.0


@remembered(64)
def step_marks(
    runs: tuple[FoundationRun, ...], designs: tuple[RunFooting, ...], units: Units, scale: float
) -> list[Item]:
    """Return the steps of the footings: a line across with a barb down the fall, the drop beside it.

    Steps too near one another for a figure each share one.
    """
    items: list[Item] = []
    for run, result in zip(runs, designs, strict=True):
        middle = sum(run.faces) / 2.0 - run.footing_off(result.width)
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
            angle, text = reading(b.direction)[0], _step_text([drop for _, drop, _ in group], units)
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
    return step_name(run.foundation.id, found[0]) if found else run.foundation.id


def _bolts(model: Model, scale: float) -> list[Item]:
    """Return the anchor bolts of the sill plates as small crosses."""
    return [_bolts_of(run, model.project.stock_length, scale, *bolted_plates(model, run)) for run in model.runs]


@remembered(2_000)
def _bolts_of(
    run: FoundationRun, stock: float, scale: float, plates: tuple[tuple[float, float], ...], depth: float | None
) -> Item:
    strokes = []
    b, arm = run.sill, 0.8 * scale
    middle = sum(b.layers[0]) / 2.0 if depth is None else depth
    for along in anchor_bolts(run, stock, plates):
        for da, db in ((arm, arm), (arm, -arm)):
            strokes.append((b.at(along - da, middle - db), b.at(along + da, middle + db)))
    return Strokes(tuple(strokes), "thin", "foundations", piece_name(run.id, "sill", 0))


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


def as_one_outline(rings: list[Ring], pen: str, layer: Layer) -> list[Item]:
    """Return outlines that touch as one, so that no joints show."""
    return [Path(line, pen, layer, "", closed=closed) for line, closed in joined_outlines(rings)]


def _foundation_notes(model: Model, designs: tuple[RunFooting, ...], drawn: list[Item], scale: float) -> list[Item]:
    """Return marks, sizes and heights of footings, pads and slabs, clear of the marks of steps and sections."""
    marks = footing_marks(model)
    places = together(*(place for place in model.pad_places if place.pad.id in model.pads))
    pads = together(*(model.pads[place.pad.id].design for place in places))
    names = together(*(marks[run.id] for run in model.runs), *(marks[place.pad.id] for place in places))
    return notes_of(model.runs, designs, places, pads, model.slabs, names, drawn, model.project.units, scale)


def line_load_items(model: Model, scale: float) -> list[Item]:
    """Return the worst line load on each footing and how far the soil is used; short where there is little room."""
    items: list[Item] = []
    units = model.project.units
    size = TEXT * scale
    for run in model.runs:
        result, b = model.footings[run.id], run.band
        used = used_text(result.soil_used)
        text = f"{format_line_load(result.load, units)}, soil used {used}"
        if text_width(text, size, True) > 0.9 * run.length:
            text = used
        half = (result.width - run.foundation.thickness) / 2.0
        part = 0.27 if text_width(text, size, True) < 0.45 * run.length else 0.5
        at = b.at(run.span[0] + part * run.length, run.faces[1] + half + 3.2 * scale)
        angle = reading(b.direction)[0]
        items.append(Text(at, text, size, angle=angle, layer="foundations", ref=footing_of(run.id), bold=True))
    for place in model.pad_places:
        if place.pad.id not in model.pads:
            continue
        made = model.pads[place.pad.id].design
        x, y = place.centre
        at = (x + made.width / 2.0 + 1.6 * scale, y)
        text = f"soil used {used_text(made.soil.used)}"
        items.append(Text(at, text, size, "left", layer="foundations", ref=place.pad.id, bold=True))
    return items
