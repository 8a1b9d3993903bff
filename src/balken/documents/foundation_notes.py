"""What is written on foundation plans beside footings, pads and slabs, each where nothing else stands."""

import math

import shapely

from balken.design.footings import RunFooting
from balken.documents.dimensions import TEXT, reading
from balken.documents.display import Circle, Item, Path, Text
from balken.documents.lettering import text_width
from balken.documents.pad_sizes import pad_size
from balken.framing.foundations import FoundationRun
from balken.framing.pads import PadPlace, square
from balken.framing.slabs import SlabPlan
from balken.geometry.plane import Point, Ring, bounds
from balken.model.naming import wall_of
from balken.remembered import remembered
from balken.standards.ground import FootingDesign
from balken.units import Units, format_inches, format_length

Box = tuple[float, float, float, float]
PLACES = (0.27, 0.73, 0.5, 0.38, 0.62, 0.18, 0.82)
"""Where along a stretch a note may stand, the best first: off the middle, where sections are marked."""
SPOTS = ((0.5, 0.62), (0.5, 0.38), (0.5, 0.76), (0.5, 0.24), (0.36, 0.62), (0.64, 0.38), (0.5, 0.5))
"""Where in a slab's bounds its name may stand: off the middle lines, where walls and axes seldom run."""


@remembered(64)
def notes_of(
    runs: tuple[FoundationRun, ...],
    designs: tuple[RunFooting, ...],
    places: tuple[PadPlace, ...],
    pads: tuple[FootingDesign, ...],
    slabs: tuple[SlabPlan, ...],
    marks: tuple[str, ...],
    drawn: list[Item],
    units: Units,
    scale: float,
) -> list[Item]:
    """Return the notes; ``marks``: of the runs and then of the pads; clear of the figures and marks ``drawn`` already."""
    taken = [_footprint(run) for run in runs]
    taken += [_taken(item) for item in drawn if isinstance(item, Text | Circle | Path)]
    taken += [
        bounds(square(place.centre, made.width, place.pad.angle)) for place, made in zip(places, pads, strict=True)
    ]
    items: list[Item] = []
    for run, design, mark in zip(runs, designs, marks, strict=False):
        items += _of_run(run, design, mark, units, scale, taken)
    for slab in slabs:
        items += _of_slab(slab, units, scale, taken)
    for place, made, mark in zip(places, pads, marks[len(runs) :], strict=True):
        items += _of_pad(place, made, mark, units, scale, taken)
    return items


def _footprint(run: FoundationRun) -> Box:
    b, (near, far), (low, high) = run.band, run.faces, run.span
    return bounds([b.at(s, t) for s in (low, high) for t in (near, far)])


def _taken(item: Text | Circle | Path) -> Box:
    """Return the bounds of something drawn already."""
    if isinstance(item, Text):
        return _box(item.at, text_width(item.text, item.size, item.bold), item.size, item.angle)
    if isinstance(item, Circle):
        (x, y), r = item.centre, item.radius
        return x - r, y - r, x + r, y + r
    return bounds(item.points)


def _clear(box: Box, taken: list[Box]) -> bool:
    x0, y0, x1, y1 = box
    return all(x1 <= a or x0 >= c or y1 <= b or y0 >= d for a, b, c, d in taken)


def _of_run(
    run: FoundationRun, result: RunFooting, mark: str, units: Units, scale: float, taken: list[Box]
) -> list[Item]:
    """Return mark and sizes inside the longest stretch of a run, and the height of the footing's top in each."""
    size, b = TEXT * scale, run.band
    angle = reading(b.direction)[0]
    inside = run.faces[1] + max(result.width - run.foundation.thickness, 0.0) / 2.0 + 3.2 * scale
    wall = format_inches(run.foundation.thickness, units)
    wall += "" if run.foundation.made_of == "concrete" else " block"
    note = f"{wall} on {format_inches(result.width, units)} x {format_inches(result.depth, units)}"
    if not run.footing:
        note = f"{wall} thickened edge"
    longest = max(run.segments, key=lambda s: s.high - s.low)
    items: list[Item] = []
    for segment in run.segments:
        top = f"top {format_length(b.bottom - segment.drop, units)}"
        texts = [f"{mark}  {note}, {top}", f"{mark}  {note}", f"{mark}  {top}", mark] if segment is longest else [top]
        made = (_beside(run, segment.low, segment.high, text, angle, inside, size, taken) for text in texts)
        found = next((text for text in made if text is not None), None)
        if found is None and segment is longest:
            at = b.at(segment.low + PLACES[0] * (segment.high - segment.low), inside)
            found = Text(at, mark, size, angle=angle, pen="note", layer="foundations", ref=wall_of(run.id))
        if found is not None:
            taken.append(_box(found.at, text_width(found.text, size) + 2.0 * size, size, angle))
            items.append(found)
    return items


def _beside(
    run: FoundationRun,
    low: float,
    high: float,
    text: str,
    angle: float,
    inside: float,
    size: float,
    taken: list[Box],
) -> Text | None:
    """Return a text where it stands clear beside a stretch of a run; None where there is no such place."""
    wide = text_width(text, size)
    if wide > 0.6 * (high - low):
        return None
    # Off the ends, where other footings stand, as far as there is room.
    off = wide / 2.0 + min(run.foundation.thickness + size, (high - low - wide) / 2.0)
    for part in PLACES:
        along = low + min(max(part * (high - low), off), high - low - off)
        at = run.band.at(along, inside)
        if _clear(_box(at, wide, size, angle), taken):
            ref = wall_of(run.id)
            return Text(at, text, size, angle=angle, pen="note", layer="foundations", ref=ref)
    return None


def _box(middle: Point, wide: float, size: float, angle: float) -> Box:
    """Return the bounds of a text about its middle."""
    c, s = abs(math.cos(math.radians(angle))), abs(math.sin(math.radians(angle)))
    x, y = (c * wide + s * size) / 2.0, (s * wide + c * size) / 2.0
    return (middle[0] - x, middle[1] - y, middle[0] + x, middle[1] + y)


def _of_pad(
    place: PadPlace, made: FootingDesign, mark: str, units: Units, scale: float, taken: list[Box]
) -> list[Item]:
    """Return mark, size and height of a pad to its right, or where else it is free: left, above, below; or its mark alone."""
    size, (x, y), half = TEXT * scale, place.centre, made.width / 2.0
    whole = (f"{mark}  {pad_size(made, units)}", f"top {format_length(place.top, units)}")
    first: list[Item] | None = None
    for texts in (whole, (mark,)):
        wide = [text_width(text, size) for text in texts]
        off, longest = half + 1.6 * scale, max(wide)
        for left, middle in (
            (x + off, y),
            (x - off - longest, y),
            (x - longest / 2.0, y + half + 2.4 * size),
            (x - longest / 2.0, y - half - 2.4 * size),
        ):
            up = 0.9 * (len(texts) - 1)
            at = [(left, middle + (up - 1.8 * i) * size) for i in range(len(texts))]
            boxes = [_box((a + w / 2.0, b), w, size, 0.0) for (a, b), w in zip(at, wide, strict=True)]
            items: list[Item] = [
                Text(spot, text, size, "left", pen="note", layer="foundations", ref=place.pad.id)
                for spot, text in zip(at, texts, strict=True)
            ]
            first = first or items
            if all(_clear(box, taken) for box in boxes):
                taken += boxes
                return items
    return first or []


def _of_slab(slab: SlabPlan, units: Units, scale: float, taken: list[Box]) -> list[Item]:
    below = f"{format_inches(slab.slab.thickness, units)}, top {format_length(slab.top, units)}"
    first: list[Item] | None = None
    size = TEXT * scale
    for x, y in _spots(slab.ring):
        made: list[Item] = []
        boxes: list[Box] = []
        for i, text in enumerate((slab.slab.name, below)):
            at = (x, y + (0.9 - 1.8 * i) * size)
            boxes.append(_box(at, text_width(text, size, i == 0), size, 0.0))
            made.append(Text(at, text, size, pen="note", layer="foundations", ref=slab.slab.id, bold=i == 0))
        first = first or made
        if all(_clear(box, taken) for box in boxes):
            taken += boxes
            return made
    return first or []


def _spots(ring: Ring) -> list[Point]:
    """Return places inside an outline, the best first."""
    x0, y0, x1, y1 = bounds(ring)
    shape = shapely.Polygon(ring)
    spots = [(x0 + a * (x1 - x0), y0 + b * (y1 - y0)) for a, b in SPOTS]
    inside = [spot for spot in spots if shape.contains(shapely.Point(spot))]
    return inside or [shape.representative_point().coords[0]]
