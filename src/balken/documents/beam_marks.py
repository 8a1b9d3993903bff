"""Beams on a plan: the middle line, the seats, mark and section beside each; openings in floors."""

from balken.derived.model import Model
from balken.design.hangers import Hung
from balken.documents.dimensions import TEXT, reading
from balken.documents.display import Area, Item, Path, Text
from balken.documents.joist_marks import HANGER
from balken.documents.lettering import text_width
from balken.framing.beams import BeamLine
from balken.framing.floors import FloorPlan
from balken.geometry.plane import distance
from balken.model.naming import beam_name, owner_of
from balken.standards.checks import used_text


def beam_marks(model: Model, beams: list[str], scale: float, notes: bool, used: bool) -> list[Item]:
    """Return the middle line of each beam, its seats, its mark and section beside it."""
    items: list[Item] = []
    for name in beams:
        made, key = model.path.beams[name], beam_name(name)
        line = made.line
        items.append(Path((line.start, line.end), "axis", "floors", name))
        for seat in made.seats:
            half = max(seat.bearing, 60.0) / 2.0
            x, y = line.at(seat.along)
            (dx, dy), wide = line.direction, line.breadth / 2.0 + 20.0
            ring = tuple(
                (x + dx * a * half - dy * b * wide, y + dy * a * half + dx * b * wide)
                for a, b in ((-1, -1), (1, -1), (1, 1), (-1, 1))
            )
            items.append(Path(ring, "thin", "floors", name, closed=True))
        items += [item for one in model.hangers if owner_of(one.member) == name for item in _hung(line, one, scale)]
        if notes:
            how_far = f", used {used_text(made.design.used)}" if used and made.design.made else ""
            items += _beside(line, f"{model.marks[key]}  {made.design.section.name}{how_far}", scale, name)
    return items


def _hung(line: BeamLine, one: Hung, scale: float) -> list[Item]:
    """Return the sign of a hanger at a beam's end, as those of joists: a bar across it with both ends turned along it."""
    (dx, dy), r, wide = line.direction, HANGER * scale, line.breadth / 2.0 + HANGER * scale
    (x, y), way = one.at[:2], 1.0 if distance(one.at[:2], line.start) < line.length / 2.0 else -1.0
    corners = ((way * r, -wide), (0.0, -wide), (0.0, wide), (way * r, wide))
    return [
        Path(tuple((x + dx * a - dy * b, y + dy * a + dx * b) for a, b in corners), "outline", "floors", one.member)
    ]


def _beside(line: BeamLine, note: str, scale: float, ref: str) -> list[Item]:
    """Return a note beside the first third of a beam, on a ground of its own."""
    angle, size = reading(line.direction)[0], TEXT * scale
    x, y = line.at(line.length / 3.0)
    way = (0.0, 1.0) if angle == 0.0 else (-1.0, 0.0)
    off = line.breadth / 2.0 + 1.3 * size
    at = (x + way[0] * off, y + way[1] * off)
    along, aside = text_width(note, size) / 2.0 + size * 0.4, size * 0.8
    dx, dy = (along, aside) if angle == 0.0 else (aside, along)
    ring = ((at[0] - dx, at[1] - dy), (at[0] + dx, at[1] - dy), (at[0] + dx, at[1] + dy), (at[0] - dx, at[1] + dy))
    return [
        Area((ring,), "sheet", "", "floors", ref),
        Text(at, note, size, angle=angle, pen="text", layer="floors", bold=True, ref=ref),
    ]


def opening_items(plan: FloorPlan) -> list[Item]:
    """Return the openings of a floor: an outline and its diagonals, as holes are drawn (ISO 7519)."""
    items: list[Item] = []
    for hole in plan.holes:
        a, b, c, d = (plan.frame.back(s, t) for s, t in hole.ring)
        items.append(Path(hole.left_out(plan.frame), "outline", "floors", hole.opening, closed=True))
        if hole.drawn:  # two diagonals of what it leaves out
            ring, half = hole.drawn, len(hole.drawn) // 2
            quarter = max(len(ring) // 4, 1)
            a, c, b, d = ring[0], ring[half], ring[quarter], ring[(quarter + half) % len(ring)]
        items += [Path((a, c), "thin", "floors", hole.opening), Path((b, d), "thin", "floors", hole.opening)]
    return items
