"""Typical details of floors: one at each different bearing of joists and beams, cut from the model, and their keys on plans."""

from collections.abc import Iterator

import numpy as np
import shapely
from numpy.typing import NDArray

from balken.catalog.sections import made_text, section
from balken.derived.model import Model
from balken.documents.cross_section import cut_view, fill_of
from balken.documents.dimensions import TEXT, dimension_string
from balken.documents.display import Area, Circle, Drawing, Item, Layer, Strokes, Text
from balken.documents.hatch import hatch
from balken.framing.floors import FloorPlan
from balken.framing.pieces import MemberLine, Piece
from balken.framing.roles import ROLES
from balken.geometry.plane import Point, Ring, add
from balken.loads.beam_law import Beamed, BeamSeat
from balken.model.lookup import bearer_label
from balken.model.naming import beam_name, piece_name
from balken.model.records import CutLine
from balken.remembered import remembered
from balken.units import Units, format_inches
from balken.value import Value

SIDE, BELOW, ABOVE = 620.0, 560.0, 260.0
"""How much of the house a detail shows beside a bearing, below and above it, mm."""
BEHIND = 420.0
"""What lies farther behind the cut than this is left out, mm."""
BESIDE = 12.0
"""The cut stands so far beside the member that is shown, mm."""
SCALE = {Units.IMPERIAL: 12.0, Units.METRIC: 10.0}


class Detail(Value, frozen=True):
    """A detail: its number, what it shows, where in plan, which way along the member, how high its bearing lies, the level it
    belongs to; what stands under it in words; from where to where it bears, along the member from its place, mm.
    """

    number: int
    title: str
    at: Point
    way: Point
    height: float
    level: str
    aside: float
    notes: tuple[str, ...]
    bears: tuple[float, float]


def floor_details(model: Model) -> tuple[Detail, ...]:
    """Return one detail for each different bearing, numbered in the order of floors, then beams."""
    found: dict[tuple[str, ...], Detail] = {}
    for key, made in (*_of_joists(model), *_of_beams(model)):
        if key not in found:
            found[key] = Detail(len(found) + 1, *made)
    return tuple(found.values())


_Made = tuple[str, Point, Point, float, str, float, tuple[str, ...], tuple[float, float]]


def _of_joists(model: Model) -> Iterator[tuple[tuple[str, ...], _Made]]:
    for plan in model.floors:
        design, joists = model.designs[(plan.floor.id, "joists")], plan.floor.joists
        top = model.level_height(plan.floor.level) - plan.floor.deck
        lines = sorted(plan.lines, key=lambda line: line.t)
        middle = sorted(lines, key=lambda line: abs(line.t - lines[len(lines) // 2].t))
        for line in middle:
            piece = model.piece(piece_name(plan.floor.id, "joist", line.place))
            if piece is None or piece.section != design.size:
                continue
            for bearer, s, bearing in line.stops:
                if not bearer:
                    continue
                kind, notes = _joist_on(model, plan, line, bearer, s)
                made = made_text(piece.section, joists.species, joists.grade)
                said = (made, *notes, f"bears {format_inches(bearing, model.units)}")
                low = piece.solid.heights[0]
                yield (
                    (piece.section, kind, *notes),
                    (
                        f"{piece.section} {kind}", plan.frame.back(s, line.t), plan.frame.s, min(low, top), plan.floor.level,
                        section(piece.section).breadth / 2.0 + BESIDE, said, (-bearing / 2.0, bearing / 2.0),
                    ),
                )  # fmt: skip


def _joist_on(model: Model, plan: FloorPlan, line: MemberLine, bearer: str, s: float) -> tuple[str, tuple[str, ...]]:
    """Return in words on what a joist bears, and what that is made of."""
    name = piece_name(plan.floor.id, "joist", line.place)
    at = plan.frame.back(s, line.t)
    hung = next((h for h in model.hangers if h.member == name and h.on == bearer and _near(h.at[:2], at)), None)
    hangs = (f"hanger {hung.called}",) if hung is not None and hung.hanger else ()
    if bearer in plan.headers:
        header = model.piece(bearer)
        return "hung on a header", (f"header {header.section}" if header is not None else "", *hangs)
    if bearer in model.path.beams:
        made = model.path.beams[bearer]
        kind = "hung on a beam" if made.line.beam.flush else "on a beam"
        return kind, (made.design.section.name, *hangs)
    runs = {run.id: run for run in model.runs}
    if hangs:
        return "hung on a ledger", hangs
    past = (
        "past " if max(line.overhangs) > 0.0 and s in (line.centres[0], line.centres[1]) and _is_root(line, s) else ""
    )
    if bearer in runs:
        return f"{past}on a sill plate", (f"sill plate {runs[bearer].foundation.sill_size}",)
    return f"{past}on a wall", ("top plates of the wall below",)


def _near(a: Point, b: Point) -> bool:
    return abs(a[0] - b[0]) + abs(a[1] - b[1]) < 300.0


def _is_root(line: MemberLine, s: float) -> bool:
    return (s == line.centres[0] and line.overhangs[0] > 0.0) or (s == line.centres[1] and line.overhangs[1] > 0.0)


def _of_beams(model: Model) -> Iterator[tuple[tuple[str, ...], _Made]]:
    for name, made in model.path.beams.items():
        if not made.design.made:
            continue
        for seat in made.seats:
            kind, notes = _beam_on(model, made, seat)
            size = made.design.section.name
            said = (
                f"{model.marks[beam_name(name)]}  {size}",
                *notes,
                f"bears {format_inches(seat.bearing, model.units)}",
            )
            pocket = kind.startswith("in a pocket")
            piece = model.piece(beam_name(name))
            low = piece.solid.heights[0] if piece is not None else made.line.top
            aside = 0.0 if pocket else made.design.section.breadth / 2.0 + BESIDE
            yield (
                (size, kind, "" if pocket else " ".join(notes)),
                (
                    f"{size} {kind}", made.line.at(seat.along), made.line.direction, low, made.line.beam.top.level, aside, said,
                    (-seat.bearing / 2.0, seat.bearing / 2.0),
                ),
            )  # fmt: skip


def _beam_on(model: Model, made: Beamed, seat: BeamSeat) -> tuple[str, tuple[str, ...]]:
    if seat.on in model.posts:
        return "on a post", (model.posts[seat.on].shape.name,)
    if seat.on in model.path.beams:
        return "on a beam", (model.path.beams[seat.on].design.section.name,)
    if any(run.id == seat.on for run in model.runs):
        pockets = [r for run in model.runs if run.id == seat.on for r in model.project.recesses
                   if r.wall == run.wall and r.kind == "pocket"]  # fmt: skip
        return ("in a pocket" if pockets else "on a foundation wall"), (bearer_label(model.project, seat.on),)
    return "on a wall", ("built-up post in the wall",)


def draw_detail(model: Model, detail: Detail, scale: float) -> Drawing:
    """Draw a detail to be read at 1:``scale``: what is cut, and the member behind it."""
    (dx, dy), off = detail.way, detail.aside
    base = add(detail.at, (dy, -dx), off)  # it is seen to the left
    start, end = add(base, detail.way, -SIDE), add(base, detail.way, SIDE)
    view, low, high = cut_view(CutLine(start=start, end=end)), detail.height - BELOW, detail.height + 2.0 * ABOVE
    window = shapely.box(0.0, low, 2.0 * SIDE, high)
    items: list[Item] = []
    near = _pieces_near(model, detail, low, high)
    behind = sorted((p.solid.depths(view)[1], p.key, p) for p in near if -BEHIND < p.solid.depths(view)[1] < -0.5)
    for _, _, piece in behind:
        items += _shown(piece, piece.solid.outline(view), window, "beyond", scale)
    for piece in sorted(near, key=lambda p: ROLES[p.role].under):
        for rings in piece.solid.cut(view):
            items += _shown(piece, rings, window, "cut", scale)
    a, b = (SIDE + x for x in detail.bears)
    if b - a > 1.0:
        items += dimension_string([a, b], (0.0, low - 6.0 * scale), (1.0, 0.0), 0.0, model.units, scale, "notes", 2.0)
    for i, note in enumerate(detail.notes):
        items.append(Text((0.0, low - (12.0 + 4.2 * i) * scale), note, TEXT * 0.9 * scale, "left", pen="note"))
    return Drawing(detail.title[0].upper() + detail.title[1:], scale, tuple(items))


def _pieces_near(model: Model, detail: Detail, low: float, high: float) -> list[Piece]:
    (x, y), reach, found = detail.at, SIDE + BEHIND, list[Piece]()
    most, least = np.array((x + reach, y + reach, high)), np.array((x - reach, y - reach, low))
    for group in model.groups:
        if group:
            reaches = _extents(group)
            near = (reaches[:, 0] < most).all(axis=1) & (reaches[:, 1] > least).all(axis=1)
            found += [group[k] for k in np.nonzero(near)[0].tolist()]
    return found


@remembered(500)
def _extents(group: tuple[Piece, ...]) -> NDArray[np.float64]:
    """Return the least and greatest x, y, z of pieces (n, 2, 3), mm."""
    return np.array([piece.solid.extent for piece in group])


def _shown(piece: Piece, rings: tuple[Ring, ...], window: shapely.Polygon, how: str, scale: float) -> list[Item]:
    """Return what of a piece lies in the window, cut or seen behind the cut."""
    if len(rings[0]) < 3:
        return []
    shape = shapely.Polygon(rings[0], rings[1:]).buffer(0.0).intersection(window)
    layer: Layer = ROLES[piece.role].layer
    items: list[Item] = []
    for part in getattr(shape, "geoms", [shape]):
        if not isinstance(part, shapely.Polygon) or part.area < 1.0:
            continue
        drawn: tuple[Ring, ...] = (
            tuple((float(px), float(py)) for px, py in part.exterior.coords[:-1]),
            *(tuple((float(px), float(py)) for px, py in hole.coords[:-1]) for hole in part.interiors),
        )
        fill = fill_of(piece)
        if how == "beyond":
            light = "concrete light" if piece.material == "concrete" else "timber light"
            items.append(Area(drawn, "beyond" if piece.role == "wall layer" else light, "thin", layer, piece.key))
            continue
        heavy = fill in ("concrete", "masonry") or bool(piece.section)
        items.append(Area(drawn, fill, "cut" if heavy else "thin", layer, piece.key))
        if fill in ("concrete", "masonry"):
            items.append(Strokes(hatch(drawn, fill, scale), "hatch", layer, piece.key))
    return items


def detail_keys(model: Model, level: str, scale: float) -> list[Item]:
    """Return the keys of the details on the plan of a level: their numbers in circles where they are cut."""
    items: list[Item] = []
    for detail in floor_details(model):
        if detail.level == level:
            x, y = detail.at
            at = (x + 3.2 * scale, y + 3.2 * scale)
            items.append(Circle(at, 2.6 * scale, "bubble", "sheet", "floors"))
            items.append(Text(at, str(detail.number), 2.4 * scale, layer="floors", bold=True))
    return items
