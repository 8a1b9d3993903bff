"""Typical sections: one at every different condition of the foundations, keyed on the plan; the schedule of footings."""

import shapely

from balken.derived.marks import footing_marks
from balken.derived.model import Model
from balken.design.footings import RunFooting
from balken.documents.cross_section import cut_view, fill_of, joined
from balken.documents.dimensions import TEXT, dimension_string
from balken.documents.display import Area, Drawing, Item, Path, Strokes, Text
from balken.documents.hatch import hatch
from balken.documents.pad_sizes import pad_size
from balken.documents.paper_table import PaperTable
from balken.documents.section_bars import bar_items
from balken.documents.section_keys import Keyed
from balken.framing.foundations import FoundationRun
from balken.framing.pieces import Piece
from balken.geometry.plane import Ring, bounds
from balken.model.naming import wall_of
from balken.model.records import CutLine
from balken.standards.checks import used_text
from balken.units import Units, format_inches, format_length
from balken.value import Value

REACH = 1000.0
"""How far a typical section reaches out and in from the wall, mm."""


class _Frame(Value, frozen=True):
    """Where a typical section is cut and how much of it is shown, mm: x from its outer end, y is height."""

    run: FoundationRun
    result: RunFooting
    along: float
    scale: float
    units: Units

    @property
    def wide(self) -> float:
        """Thickness of the wall."""
        near, far = self.run.faces
        return far - near

    @property
    def half(self) -> float:
        """Half of what is widest: footing or wall."""
        return max(self.result.width, self.wide) / 2.0

    @property
    def centre(self) -> float:
        """The middle of the wall, along the drawing."""
        return self.half + REACH

    @property
    def long(self) -> float:
        """How wide the drawing is."""
        return 2.0 * self.centre

    @property
    def foot(self) -> float:
        """Height of the top of the footing."""
        return self.run.band.bottom - self.run.drop_at(self.along)

    @property
    def depth(self) -> float:
        """Thickness of the footing; 0 for a thickened edge."""
        return self.result.depth if self.run.footing else 0.0

    @property
    def low(self) -> float:
        """Lower edge of the drawing."""
        return self.foot - self.depth - 350.0

    @property
    def high(self) -> float:
        """Upper edge of the drawing."""
        return self.run.band.top + 700.0

    def cut(self) -> CutLine:
        """Return the line of the cut on plan."""
        near, far = self.run.faces
        middle = (near + far) / 2.0
        ends = (self.run.band.at(self.along, middle + side * self.centre) for side in (-1.0, 1.0))
        return CutLine(start=next(ends), end=next(ends))


def typical_section(model: Model, keyed: Keyed, scale: float) -> Drawing:
    """Draw one typical section, clipped to the foundation and the foot of the storey, to be read at 1:``scale``."""
    run = next(r for r in model.runs if r.id == keyed.run)
    frame = _Frame(run, model.footings[run.id], keyed.along, scale, model.project.units)
    items = [*_ground(model, frame), *_cut_pieces(model, frame)]
    items += _break(frame.long, frame.low, frame.high, scale)
    items += bar_items(model, run, frame.centre, frame.foot, wall_of(run.id))
    items += _dimensions(frame)
    items += _notes(model, frame)
    return Drawing(f"Section {keyed.letter}", scale, tuple(items))


def _ground(model: Model, frame: _Frame) -> list[Item]:
    """Return the ground outside, as far as the wall."""
    b = frame.run.band
    if model.ground is None or not b.outside:
        return []
    z = model.ground.height(b.at(frame.along, frame.run.faces[0]))
    if not frame.low < z < frame.high:
        return []
    face, under = frame.centre - frame.wide / 2.0, z - 5.0 * frame.scale
    ring: Ring = ((0.0, under), (face, under), (face, z), (0.0, z))
    return [
        Strokes(hatch((ring,), "earth", frame.scale), "earth", "ground"),
        Path(((0.0, z), (face, z)), "ground", "ground"),
    ]


def _cut_pieces(model: Model, frame: _Frame) -> list[Item]:
    """Return what is cut, clipped to the drawing."""
    window, view = shapely.box(0.0, frame.low, frame.long, frame.high), cut_view(frame.cut())
    items: list[Item] = []
    shown = [(p, p.solid.cut(view)) for group in model.foundations for p in group]
    for piece, sections in joined(shown):
        for rings in sections:
            if len(rings[0]) < 3:
                continue
            x0, y0, x1, y1 = bounds(rings[0])
            if x1 < 0.0 or x0 > frame.long or y1 < frame.low or y0 > frame.high:
                continue
            shape = shapely.Polygon(rings[0], rings[1:]).buffer(0.0).intersection(window)
            for part in getattr(shape, "geoms", [shape]):
                if isinstance(part, shapely.Polygon) and part.area >= 1.0:
                    items += _cut_piece(piece, part, frame.scale)
    return items


def _cut_piece(piece: Piece, part: shapely.Polygon, scale: float) -> list[Item]:
    drawn: tuple[Ring, ...] = (tuple(part.exterior.coords[:-1]), *(tuple(h.coords[:-1]) for h in part.interiors))
    fill = fill_of(piece)
    pen = "cut" if fill == "concrete" or piece.section else "thin"
    items: list[Item] = [Area(drawn, fill, pen, "foundations", piece.key)]
    if fill in ("concrete", "masonry"):
        items.append(Strokes(hatch(drawn, fill, scale), "hatch", "foundations", piece.key))
    return items


def _dimensions(frame: _Frame) -> list[Item]:
    """Return the strings: width and depth of the footing, thickness of the wall."""
    scale, units, width = frame.scale, frame.units, frame.result.width
    items: list[Item] = []
    across, up = (1.0, 0.0), (0.0, 1.0)
    if frame.run.footing:
        c, under = frame.centre - frame.run.footing_off(width), frame.foot - frame.depth
        at = (0.0, under - 6.0 * scale)
        items += dimension_string([c - width / 2.0, c + width / 2.0], at, across, 0.0, units, scale, "notes", -2.0)
        at = (frame.centre + frame.half + 7.0 * scale, 0.0)
        heights = [under, frame.foot, frame.run.band.top]
        items += dimension_string(heights, at, up, 0.0, units, scale, "notes", 2.0)
    faces = [frame.centre - frame.wide / 2.0, frame.centre + frame.wide / 2.0]
    at = (0.0, frame.high + 4.0 * scale)
    return [*items, *dimension_string(faces, at, across, 0.0, units, scale, "notes", 2.0)]


def _notes(model: Model, frame: _Frame) -> list[Item]:
    """Return what the section is made of, below it."""
    run, result, units = frame.run, frame.result, frame.units
    f = run.foundation
    of = "" if f.made_of == "concrete" else f" of {f.made_of}"
    notes = [f"{footing_marks(model)[run.id]}   wall {format_inches(f.thickness, units)}{of}"]
    if run.footing:
        notes[0] += f", footing {format_inches(result.width, units)} x {format_inches(result.depth, units)}"
    notes += [f"#{v.number} {v.use} @ {format_inches(v.spacing, units)}" for v in result.design.bars]
    earth = model.earth_walls.get(run.id)
    if earth is not None and earth.reinforced:
        notes += [f"wall: #{v.number} {v.use} @ {format_inches(v.spacing, units)}" for v in earth.bars]
    scale = frame.scale
    return [
        Text((0.0, frame.low - (16.0 + 4.2 * i) * scale), note, TEXT * 0.9 * scale, "left", pen="note")
        for i, note in enumerate(notes)
    ]


def _break(long: float, low: float, high: float, scale: float) -> list[Item]:
    """Return the broken edges of the picture: thin zigzag lines at both sides and above."""
    items: list[Item] = []
    tooth = 1.4 * scale
    y = (low + high) / 2.0
    for x in (0.0, long):
        zig: Ring = (
            (x, low),
            (x, y - 2 * tooth),
            (x - tooth, y - tooth),
            (x + tooth, y + tooth),
            (x, y + 2 * tooth),
            (x, high),
        )
        items.append(Path(zig, "fine"))
    x = long / 2.0
    top: Ring = (
        (0.0, high),
        (x - 2 * tooth, high),
        (x - tooth, high + tooth),
        (x + tooth, high - tooth),
        (x + 2 * tooth, high),
        (long, high),
    )
    items.append(Path(top, "fine"))
    return items


def schedule_rows(model: Model) -> list[tuple[str, ...]]:
    """Return the schedule of footings: mark, kind, width, thickness, bars, count, soil used."""
    units, marks = model.project.units, footing_marks(model)
    rows: dict[str, list[str]] = {}
    counts: dict[str, float] = {}
    for run in model.runs:
        result, mark = model.footings[run.id], marks[run.id]
        bars = (
            "; ".join(f"#{v.number} {v.use} @ {format_inches(v.spacing, units)}" for v in result.design.bars) or "plain"
        )
        kind = "strip" if run.footing else "thickened edge"
        rows.setdefault(
            mark, [mark, kind, format_inches(result.width, units), format_inches(result.depth, units), bars, "", ""]
        )
        counts[mark] = counts.get(mark, 0.0) + run.length
        rows[mark][5] = format_length(counts[mark], units)
        rows[mark][6] = max(rows[mark][6], used_text(result.soil_used), key=_figure)
    for place in model.pad_places:
        if place.pad.id not in model.pads:
            continue
        made, mark = model.pads[place.pad.id].design, marks[place.pad.id]
        shown = made.bars if model.pads[place.pad.id].combined else made.bars[:1]
        bars = "; ".join(f"{v.count} #{v.number} {v.use}" for v in shown) or "plain"
        rows.setdefault(
            mark,
            [
                mark,
                "pad",
                pad_size(made, units).rpartition(" x ")[0],
                format_inches(made.thickness, units),
                bars,
                "",
                "",
            ],
        )
        counts[mark] = counts.get(mark, 0.0) + 1
        rows[mark][5] = f"{counts[mark]:.0f}"
        rows[mark][6] = max(rows[mark][6], used_text(made.soil.used), key=_figure)
    return [tuple(row) for row in rows.values()]


def _figure(used: str) -> float:
    return float(used.removeprefix("over ").rstrip("%") or 0.0)


SCHEDULE_HEADINGS = ("Mark", "Kind", "Width", "Thickness", "Bars", "Length or no.", "Soil used")


def schedule(model: Model) -> PaperTable:
    """Return the schedule of footings and pads."""
    return PaperTable("Schedule of footings", SCHEDULE_HEADINGS, schedule_rows(model))
