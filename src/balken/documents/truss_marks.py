"""Trusses on the roof framing plan: the mark of each beside its line, hangers where they hang on others, what holds them aside."""

import math

from balken.derived.model import Model
from balken.documents.dimensions import TEXT
from balken.documents.display import Item, Path, Text
from balken.documents.lettering import text_width
from balken.documents.truss_drawing import marked
from balken.framing.surface_roofs import SurfacePlan
from balken.framing.truss_layout import TrussPlace
from balken.geometry.plane import Point, add, distance, left, unit
from balken.model.naming import line_of, truss_number

HANGER = 1.3
"""Half the width of a hanger's sign, paper mm."""
PART, OF_HUNG = 0.09, 0.66
"""How far along a truss its mark stands, and along those that hang: clear of what is written in the middle of planes."""


def marks_by_number(model: Model, roof: str) -> dict[int, str]:
    """Return the mark of each truss of a roof."""
    by_design = {id(made): mark for mark, of, made, _ in marked(model) if of == roof}
    trusses = model.trusses[roof]
    return {number: by_design[id(make.design)] for number, make in trusses.made_at.items()}


def truss_marks(model: Model, plan: SurfacePlan, scale: float) -> list[Item]:
    """Return marks and signs of hangers; of a roof without trusses none."""
    roof = plan.roof.id
    trusses = model.trusses.get(roof)
    if trusses is None or trusses.problem:
        return []
    items: list[Item] = []
    marks = marks_by_number(model, roof)
    for number, mark in sorted(marks.items()):
        design, place = trusses.of(number), trusses.places[number]
        assert design is not None
        span = design.frame.outline.span
        size = TEXT * scale * 0.85
        wide = text_width(mark, size)
        x = PART * span if place.walls[1] else min(OF_HUNG * span, span - wide / 2.0 - 3.0 * HANGER * scale)
        if wide < 0.9 * span:
            items.append(_beside(place, max(x, wide / 2.0), mark, size, roof))
    for one in model.hangers:
        number = truss_number(one.member)
        if number >= 0 and one.member.startswith(f"{roof}/"):
            items.append(_hanger(trusses.places[number], one.at[:2], scale, roof))
    return [*items, *_braces(model, plan, scale)]


def _braces(model: Model, plan: SurfacePlan, scale: float) -> list[Item]:
    """Return the boards that hold trusses aside, dashed, each line of them with its mark: across them, and rising along webs."""
    items: list[Item] = []
    size, told = TEXT * scale * 0.7, set[str]()
    for piece in model.of_layouts("truss brace"):
        if piece.owner != plan.roof.id:
            continue
        a, b = piece.start[:2], piece.end[:2]
        items.append(Path((a, b), "hidden", "roof", piece.key))
        line = line_of(piece.key)
        if line not in told and distance(a, b) > 4.0 * size:
            told.add(line)
            low, high = sorted((a, b))
            angle = math.degrees(math.atan2(high[1] - low[1], high[0] - low[0]))
            way = unit(low, high)
            at = add(add(low, way, 0.2 * distance(a, b)), left(way), 0.75 * size)
            items.append(Text(at, model.marks[piece.key], size, angle=angle, pen="note", layer="roof", ref=piece.key))
    return items


def _beside(place: TrussPlace, x: float, mark: str, size: float, ref: str) -> Item:
    """Return a mark along a truss, beside it, to be read from below or from the right."""
    (dx, dy), aside = place.frame.s, 0.75 * size
    angle = math.degrees(math.atan2(dy, dx))
    angle = (angle + 180.0) if not -89.0 < angle <= 91.0 else angle
    up = left((math.cos(math.radians(angle)), math.sin(math.radians(angle))))
    return Text(add(place.at(x), up, aside), mark, size, angle=angle, pen="note", layer="roof", ref=ref)


def _hanger(place: TrussPlace, at: Point, scale: float, ref: str) -> Item:
    """Return the sign of a hanger: open toward the truss that hangs in it."""
    r, (s, t) = HANGER * scale, (place.frame.s, place.frame.t)
    corners = ((-r, -r), (0.0, -r), (0.0, r), (-r, r))
    return Path(tuple(add(add(at, s, u), t, v) for u, v in corners), "outline", "roof", ref)
