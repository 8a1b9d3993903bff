"""Marks of joists and headers on a floor plan, and the signs of hangers."""

from collections import Counter

from balken.derived.model import Model
from balken.design.hangers import Hung
from balken.documents.deck_marks import doubled
from balken.documents.dimensions import TEXT, reading
from balken.documents.display import Area, Item, Path, Text
from balken.documents.lettering import text_width
from balken.framing.floors import FloorPlan
from balken.framing.pieces import MemberLine
from balken.geometry.plane import Point, Ring
from balken.model.naming import piece_name

HANGER = 1.1
"""Half the width of a hanger's sign, paper mm."""


def mark_of(model: Model, plan: FloorPlan, line: MemberLine) -> str:
    """Return the mark of a joist."""
    return model.marks.get(piece_name(plan.floor.id, "joist", line.place), "")


def main_mark(model: Model, plan: FloorPlan, low: int) -> str:
    """Return the mark of most joists that begin at a place along them, mm."""
    found = Counter(mark_of(model, plan, line) for line in plan.lines if round(line.low) == low)
    return found.most_common(1)[0][0] if found else ""


def joist_mark_items(model: Model, plan: FloorPlan, said: dict[int, str], scale: float) -> list[Item]:
    """Return the marks of joists that are not as most beside them, once for those side by side, and of headers.

    ``said``: the marks that stand beside the spans already, by where their joists begin.
    """
    noted = {line.place for _, lines in doubled(model, plan) for line in lines}
    items: list[Item] = []
    before: dict[int, str] = {}
    for line in sorted(plan.lines, key=lambda one: one.t):
        low, mark = round(line.low), mark_of(model, plan, line)
        if mark and mark != said.get(low) and mark != before.get(low) and line.place not in noted:
            at = plan.frame.back((line.low + line.high) / 2.0, line.t)
            name = piece_name(plan.floor.id, "joist", line.place)
            items += _label(at, plan.frame.s, mark, scale, name)
        before[low] = mark
    for hole in plan.holes:
        for end in (0, 1):
            at = plan.frame.back(hole.header_at(end), (hole.t0 + hole.t1) / 2.0)
            if mark := model.marks.get(hole.header(end), ""):
                items += _label(at, plan.frame.t, mark, scale, hole.header(end))
    return items


def hanger_items(model: Model, plan: FloorPlan, scale: float) -> list[Item]:
    """Return the signs of a floor's hangers: a short bar across the joist with both ends turned along it."""
    return [
        item for one in model.hangers if one.member.startswith(f"{plan.floor.id}/") for item in _sign(plan, one, scale)
    ]


def _sign(plan: FloorPlan, one: Hung, scale: float) -> list[Item]:
    (s, t), r = plan.frame.to(one.at[:2]), HANGER * scale
    if one.member.startswith(f"{plan.floor.id}/header"):
        hole = next(h for h in plan.holes if one.member in (h.header(0), h.header(1)))
        way = 1.0 if t < (hole.t0 + hole.t1) / 2.0 else -1.0
        corners = ((s - r, t + way * r), (s - r, t), (s + r, t), (s + r, t + way * r))
    else:
        line = next((x for x in plan.lines if piece_name(plan.floor.id, "joist", x.place) == one.member), None)
        way = 1.0 if line is None or s < (line.low + line.high) / 2.0 else -1.0
        corners = ((s + way * r, t - r), (s, t - r), (s, t + r), (s + way * r, t + r))
    return [Path(tuple(plan.frame.back(*c) for c in corners), "outline", "floors", one.member)]


def _label(at: Point, way: Point, text: str, scale: float, ref: str) -> list[Item]:
    """Return a short text along a member, on a ground of its own."""
    angle, size = reading(way)[0], TEXT * scale * 0.9
    along, aside = text_width(text, size) / 2.0 + size * 0.3, size * 0.7
    dx, dy = (along, aside) if angle == 0.0 else (aside, along)
    x, y = at
    ring: Ring = ((x - dx, y - dy), (x + dx, y - dy), (x + dx, y + dy), (x - dx, y + dy))
    return [
        Area((ring,), "sheet", "", "floors", ref),
        Text(at, text, size, angle=angle, pen="text", layer="floors", ref=ref),
    ]
