"""What a floor plan says of things that stand on the deck: their outlines, and the joists doubled under them."""

from balken.derived.model import Model
from balken.documents.dimensions import TEXT, reading
from balken.documents.display import Area, Item, Path, Text
from balken.documents.lettering import text_width
from balken.framing.floors import FloorPlan
from balken.framing.pieces import MemberLine
from balken.geometry.plane import Ring
from balken.model.lookup import label_of
from balken.model.naming import piece_name

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
