"""Typical sections: one at every different condition of the foundations, keyed on the plan; the schedule of footings."""

import shapely

from balken.derived.model import Model
from balken.design.checks import used_text
from balken.documents.dimensions import TEXT, dimension_string
from balken.documents.display import Area, Drawing, Item, Path, Strokes, Text
from balken.documents.hatch import hatch
from balken.documents.marks import footing_marks, pad_size
from balken.documents.section import cut_view, fill_of, joined
from balken.documents.section_bars import bar_items
from balken.documents.section_keys import Keyed
from balken.geometry.plane import Ring, add, bounds
from balken.geometry.prism import section
from balken.model.naming import wall_of
from balken.model.records import CutLine
from balken.units import format_inches, format_length

REACH = 1000.0
"""How far a typical section reaches out and in from the wall, mm."""


def typical_section(model: Model, keyed: Keyed, scale: float) -> Drawing:
    """Draw one typical section, clipped to the foundation and the foot of the storey, to be read at 1:``scale``."""
    run = next(r for r in model.runs if r.id == keyed.run)
    b, units = run.band, model.project.units
    near, far = run.faces
    half = max(model.footings[run.id].width / 2.0, (far - near) / 2.0)
    middle = (near + far) / 2.0
    a = b.at(keyed.along, middle - half - REACH)
    end = b.at(keyed.along, middle + half + REACH)
    cut = CutLine(start=a, end=end)
    view = cut_view(cut)
    long = 2.0 * (half + REACH)
    foot = b.bottom - run.drop_at(keyed.along)
    depth = model.footings[run.id].depth if run.footing else 0.0
    low, high = foot - depth - 350.0, b.top + 700.0
    window = shapely.box(0.0, low, long, high)
    items: list[Item] = []
    if model.ground is not None and b.outside:
        z = model.ground.height(b.at(keyed.along, near))
        if low < z < high:
            ring: Ring = (
                (0.0, z - 5.0 * scale),
                (half + REACH - (far - near) / 2.0, z - 5.0 * scale),
                (half + REACH - (far - near) / 2.0, z),
                (0.0, z),
            )
            items.append(Strokes(hatch((ring,), "earth", scale), "earth", "ground"))
            items.append(Path(((0.0, z), (half + REACH - (far - near) / 2.0, z)), "ground", "ground"))
    shown = [(p, section(p.solid, view)) for group in model.foundations for p in group]
    for piece, sections in joined(shown):
        for rings in sections:
            if len(rings[0]) < 3:
                continue
            x0, y0, x1, y1 = bounds(rings[0])
            if x1 < 0.0 or x0 > long or y1 < low or y0 > high:
                continue
            shape = shapely.Polygon(rings[0], rings[1:]).buffer(0.0).intersection(window)
            for part in getattr(shape, "geoms", [shape]):
                if not isinstance(part, shapely.Polygon) or part.area < 1.0:
                    continue
                drawn: tuple[Ring, ...] = (
                    tuple(part.exterior.coords[:-1]),
                    *(tuple(h.coords[:-1]) for h in part.interiors),
                )
                fill = fill_of(piece)
                items.append(
                    Area(
                        drawn, fill, "cut" if fill == "concrete" or piece.section else "thin", "foundations", piece.key
                    )
                )
                if fill in ("concrete", "masonry"):
                    items.append(Strokes(hatch(drawn, fill, scale), "hatch", "foundations", piece.key))
    items += _break(long, low, high, scale)
    centre = half + REACH
    items += bar_items(model, run, centre, foot, wall_of(run.id))
    width = model.footings[run.id].width
    if run.footing:
        c = centre - run.footing_off(width)
        items += dimension_string(
            [c - width / 2.0, c + width / 2.0],
            (0.0, foot - depth - 6.0 * scale),
            (1.0, 0.0),
            0.0,
            units,
            scale,
            "notes",
            -2.0,
        )
        items += dimension_string(
            [foot - depth, foot, b.top], (centre + half + 7.0 * scale, 0.0), (0.0, 1.0), 0.0, units, scale, "notes", 2.0
        )
    items += dimension_string(
        [centre - (far - near) / 2.0, centre + (far - near) / 2.0],
        (0.0, high + 4.0 * scale),
        (1.0, 0.0),
        0.0,
        units,
        scale,
        "notes",
        2.0,
    )
    result = model.footings[run.id]
    f = run.foundation
    of = "" if f.made_of == "concrete" else f" of {f.made_of}"
    notes = [f"{footing_marks(model)[run.id]}   wall {format_inches(f.thickness, units)}{of}"]
    if run.footing:
        notes[0] += f", footing {format_inches(result.width, units)} x {format_inches(result.depth, units)}"
    notes += [f"#{v.number} {v.use} @ {format_inches(v.spacing, units)}" for v in result.design.bars]
    earth = model.earth_walls.get(run.id)
    if earth is not None and earth.reinforced:
        notes += [f"wall: #{v.number} {v.use} @ {format_inches(v.spacing, units)}" for v in earth.bars]
    for i, note in enumerate(notes):
        items.append(Text((0.0, low - (16.0 + 4.2 * i) * scale), note, TEXT * 0.9 * scale, "left", pen="note"))
    return Drawing(f"Section {keyed.letter}", scale, tuple(items))


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


def schedule_size(model: Model) -> tuple[float, float]:
    """Return how wide and high the schedule is with its title, paper mm."""
    return 200.0, 5.0 * len(schedule_rows(model)) + 16.0


def schedule_items(model: Model, at: tuple[float, float]) -> list[Item]:
    """Return the schedule as a table on paper, its top left corner at ``at``, mm."""
    columns = (0.0, 14.0, 42.0, 64.0, 86.0, 150.0, 180.0)
    rows = [SCHEDULE_HEADINGS, *schedule_rows(model)]
    items: list[Item] = [Text(add(at, (0.0, 7.0)), "Schedule of footings", 4.0, "left", bold=True)]
    for i, row in enumerate(rows):
        y = at[1] - 5.0 * i
        for shift, text in zip(columns, row, strict=True):
            items.append(Text((at[0] + shift, y), text, 2.2, "left", bold=i == 0, pen="text" if i == 0 else "note"))
        items.append(Path(((at[0], y - 2.5), (at[0] + 200.0, y - 2.5)), "outline" if i == 0 else "fine"))
    return items
