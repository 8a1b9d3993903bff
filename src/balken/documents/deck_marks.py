"""What a floor plan says of things that stand on the deck: their outlines, and the joists doubled under them."""

from balken.derived.model import Model
from balken.documents.dimensions import TEXT, reading
from balken.documents.display import Area, Item, Layer, Path, Text
from balken.documents.lettering import text_width
from balken.framing.floors import FloorPlan
from balken.framing.pieces import MemberLine
from balken.geometry.plane import Ring
from balken.loads.typed import ring_of
from balken.model.lookup import label_of
from balken.model.naming import piece_name
from balken.model.records import FloorLoad, TrussLoad
from balken.units import format_force

AT = 0.24
"""Where along a joist the text stands."""


def deck_items(model: Model, plan: FloorPlan, scale: float) -> list[Item]:
    """Return the outlines of what stands on a floor's joists, and what those are made of that are not as the layout."""
    floor = plan.floor.id
    items: list[Item] = []
    for upper, lower in model.path.shares:
        if lower != floor:
            continue
        if upper in model.lines:
            line = model.lines[upper]
            b, (near, far) = line.band, line.core
            corners = (b.at(0.0, near), b.at(b.length, near), b.at(b.length, far), b.at(0.0, far))
            items.append(Path(corners, "above", "floors", upper, closed=True))
    for group in doubled(model, plan):
        items += _note(model, plan, group, scale)
    return items


def load_items(model: Model, plan: FloorPlan, scale: float) -> list[Item]:
    """Return the loads typed on a floor."""
    mine = [load for load in model.project.floor_loads if load.floor == plan.floor.id]
    return [item for load in mine for item in _typed(model, load, scale)]


def weight_items(model: Model, roof: str, scale: float) -> list[Item]:
    """Return the weights hung from the trusses of a roof."""
    mine = [load for load in model.project.truss_loads if load.roof == roof]
    return [item for load in mine for item in _typed(model, load, scale, "roof")]


def _typed(model: Model, load: FloorLoad | TrussLoad, scale: float, layer: Layer = "floors") -> list[Item]:
    """Return where a typed load lies: its outline, a cross for a point, and how much it is."""
    units, ring = model.units, ring_of(load, model.project.grids)
    x, y = (sum(p[i] for p in ring) / 4.0 for i in (0, 1))
    r = 1.4 * scale
    items: list[Item] = [Path(ring, "above", layer, load.id, closed=True)]
    if max(load.width, load.depth) < 2.0 * r:
        items += [Path(((x - r, y - r), (x + r, y + r)), "outline", layer, load.id),
                  Path(((x - r, y + r), (x + r, y - r)), "outline", layer, load.id)]  # fmt: skip
    parts = [f"{letter} {format_force(v, units)}" for letter, v in (("D", load.dead), ("L", load.live)) if v > 0.0]
    text, size = "  ".join([load.name, *parts] if load.name else parts), TEXT * scale
    wide, at = text_width(text, size) / 2.0 + 0.3 * size, (x, y + max(load.depth / 2.0, r) + size)
    ground = ((at[0] - wide, at[1] - 0.7 * size), (at[0] + wide, at[1] - 0.7 * size), (at[0] + wide, at[1] + 0.7 * size),
              (at[0] - wide, at[1] + 0.7 * size))  # fmt: skip
    items += [Area((ground,), "sheet", "", layer), Text(at, text, size, pen="text", layer=layer, ref=load.id)]
    return items


Group = tuple[str, tuple[MemberLine, ...]]
"""Joists side by side of one section that is not that of their layout."""


def doubled(model: Model, plan: FloorPlan) -> list[Group]:
    """Return the joists that are not as their layout, those side by side together."""
    size = model.designs[(plan.floor.id, "joists")].size
    rows: list[tuple[int, float, str, MemberLine]] = []
    for line in plan.lines:
        piece = model.piece(piece_name(plan.floor.id, "joist", line.place))
        rows.append((round(line.low), line.t, piece.section if piece is not None else size, line))
    rows.sort(key=lambda row: (row[0], row[1]))
    found: list[tuple[str, list[MemberLine]]] = []
    before: tuple[int, str] | None = None
    for low, _, made, line in rows:
        if made != size:
            if before == (low, made):
                found[-1][1].append(line)
            else:
                found.append((made, [line]))
        before = (low, made)
    return [(made, tuple(lines)) for made, lines in found]


def _note(model: Model, plan: FloorPlan, group: Group, scale: float) -> list[Item]:
    made, lines = group
    middle = lines[len(lines) // 2]
    mark = model.marks.get(piece_name(plan.floor.id, "joist", middle.place), "")
    text, size = f"{mark}  {len(lines)} x {made}".strip(), TEXT * scale
    under = _under(model, plan, lines)
    if under and text_width(f"{text} under {under}", size) < 0.45 * (middle.high - middle.low):
        text = f"{text} under {under}"
    s = middle.low + AT * (middle.high - middle.low)
    x, y = plan.frame.back(s, middle.t)
    angle = reading(plan.frame.s)[0]
    along, aside = text_width(text, size) / 2.0 + 0.4 * size, 0.9 * size
    dx, dy = (along, aside) if angle == 0.0 else (aside, along)
    ring: Ring = ((x - dx, y - dy), (x + dx, y - dy), (x + dx, y + dy), (x - dx, y + dy))
    name = piece_name(plan.floor.id, "joist", middle.place)
    return [
        Area((ring,), "sheet", "", "floors"),
        Text((x, y), text, size, angle=angle, pen="text", layer="floors", ref=name),
    ]


def _under(model: Model, plan: FloorPlan, lines: tuple[MemberLine, ...]) -> str:
    """Return what these joists are doubled for, when it is one thing."""
    on = model.path.decks.get(plan.floor.id)
    if on is None:
        return ""
    names = [piece_name(plan.floor.id, "joist", line.place) for line in lines]
    sources = {row.source for name in names for row in on.joists.get(name, ())}
    return label_of(model.project, sources.pop()) if len(sources) == 1 else ""
