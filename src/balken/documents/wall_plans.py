"""The sheets of wall plans: the walls of each storey with their names and build-ups, openings, and strings of dimensions outside."""

from collections.abc import Sequence

import shapely
from msgspec.structs import replace

from balken.derived.model import Model
from balken.documents.dimensions import TEXT, reading
from balken.documents.display import Area, Drawing, Item, Text
from balken.documents.lettering import text_width
from balken.documents.paper import SCALES, Paper, flowed_sheets, with_caption
from balken.documents.plan import PlanOf, plan, storey_walls
from balken.documents.sheet import Sheet, papers
from balken.framing.bands import WallLine
from balken.geometry.plane import Point, Ring, add, turn
from balken.model.buildups import display_name
from balken.model.lookup import by_id, label_of
from balken.model.records import Level

WALLS = PlanOf("Wall plan", frozenset({"grid", "outline", "walls"}))
ALONG = (0.5, 0.36, 0.64, 0.24, 0.76, 0.14, 0.86)
"""Where along a wall its name may stand, the first that is clear of openings."""
SIZE = 0.9 * TEXT
LEAST = 1.15
"""A wall so many times as long as its name has one."""


def storeys(model: Model) -> list[Level]:
    """Return the levels on which walls stand, the lowest first."""
    levels = [v for v in model.project.levels if v.role in ("floor", "slab") and storey_walls(model, v.id)]
    return sorted(levels, key=lambda v: v.height)


def wall_plan(model: Model, level: Level, scale: float, alone: bool) -> Drawing:
    """Draw the walls of a storey to be built from; ``alone``: there is no other storey."""
    title = WALLS.title if alone else f"{level.name}, wall plan"
    drawn = plan(model, replace(WALLS, title=title, storey=level.id), scale)
    return replace(drawn, items=(*drawn.items, *wall_names(model, storey_walls(model, level.id), scale, drawn.items)))


def wall_names(model: Model, walls: list[str], scale: float, drawn: Sequence[Item]) -> list[Item]:
    """Return the name of each wall beside its inner face, as lists and elevations call it, with its build-up where there is room; clear of
    the texts that are drawn already.
    """
    buildups = by_id(model.project.buildups)
    texts = [_ground(one.at, one.text, one.size, one.angle) for one in drawn if isinstance(one, Text)]
    taken = shapely.union_all([shapely.Polygon(ring) for ring in texts])
    items: list[Item] = []
    for wall in walls:
        line = model.lines[wall]
        name = label_of(model.project, wall)
        made = display_name(buildups[line.wall.buildup], model.project.units)
        size = SIZE * scale
        for text in (f"{name}:  {made}", name):
            free = _clear(model, line, text_width(text, size) / 2.0 + 0.5 * size)
            rows = (_written(line, at, text, size) for at in free)
            found = next((row for row in rows if not taken.intersects(shapely.Polygon(row[0].rings[0]))), None)
            if found is not None:
                items += found
                break
    return items


def _clear(model: Model, line: WallLine, half: float) -> list[float]:
    """Return where along a wall the middle of a text may stand, beside no opening; nowhere on one that is too short."""
    long = line.band.length
    if 2.0 * half * LEAST > long:
        return []
    spans = [(o.offset, o.offset + o.width) for o in model.project.openings if o.wall == line.wall.id]
    places = (min(max(part * long, LEAST * half), long - LEAST * half) for part in ALONG)
    return [at for at in places if all(at + half < low or at - half > high for low, high in spans)]


def _ground(at: Point, text: str, size: float, angle: float) -> Ring:
    """Return the ground of a text."""
    wide, high = text_width(text, size) / 2.0 + 0.2 * size, 0.7 * size
    return tuple(add(at, turn(p, angle)) for p in ((-wide, -high), (wide, -high), (wide, high), (-wide, high)))


def _written(line: WallLine, at: float, text: str, size: float) -> tuple[Area, Text]:
    """Return a text inside a wall, along it, to be read from below or from the right, on a ground of its own."""
    b = line.band
    angle = reading(b.direction)[0]
    place = add(b.at(at, line.thickness), b.inward, size)
    return (
        Area((_ground(place, text, size, angle),), "sheet", "", "walls"),
        Text(place, text, size, angle=angle, pen="note", layer="walls", ref=line.wall.id),
    )


def wall_sheets(model: Model) -> list[Sheet]:
    """Lay the wall plans out at the greatest scale at which each fits a sheet."""
    levels, room = storeys(model), Paper(*papers(model.project.units)[0]).room
    if not levels:
        return []
    drawings: list[Drawing] = []
    for scale in SCALES[model.project.units]:
        drawings = [wall_plan(model, level, scale, len(levels) == 1) for level in levels]
        sizes = [with_caption(d) for d in drawings]
        if all(wide <= room.wide and high <= room.high for wide, high in sizes):
            break
    numbered = [(str(n), drawing) for n, drawing in enumerate(drawings, 1)]
    return flowed_sheets(model, numbered, "walls", lambda shown: _title([drawings[i] for i in shown]))


def _title(shown: list[Drawing]) -> str:
    return shown[0].title if len(shown) == 1 else "Wall plans"
