"""Wall heads fitted to what is above them, and floors let into walls that run past them."""

from msgspec.structs import replace

from balken.framing.bands import WallLine
from balken.framing.roofs import RoofPlan, gable_top
from balken.framing.walls import GableTop
from balken.model.lookup import by_id
from balken.model.records import Floor, Level, Project

LEAST_HEIGHT = 300.0
"""A wall is never cut lower than this, mm; it then keeps its own head."""


def heads_under_floors(project: Project, depths: dict[str, float]) -> dict[str, float]:
    """Return the heights of heads fitted to floors: underside of the joists; ``depths`` of joists by floor id."""
    floors, levels = by_id(project.floors), by_id(project.levels)
    found = {}
    for wall in project.walls:
        floor = floors.get(wall.head_under)
        if floor is not None:
            found[wall.id] = levels[floor.level].height - floor.deck - depths.get(floor.id, 0.0)
    return found


def fitted_lines(lines: dict[str, WallLine], heads: dict[str, float]) -> dict[str, WallLine]:
    """Return wall lines with their heads at these heights; the same object when there are none."""
    if not heads:
        return lines
    return {
        w: replace(line, band=replace(line.band, top=heads[w]))
        if w in heads and heads[w] - line.band.bottom > LEAST_HEIGHT
        else line
        for w, line in lines.items()
    }


def heads_under_roof(
    project: Project, plan: RoofPlan, lines: dict[str, WallLine], depth: float
) -> tuple[dict[str, float], dict[str, GableTop]]:
    """Return level heads of walls along the ridge, and raking heads of the others, fitted under rafters."""
    low: dict[str, float] = {}
    raking: dict[str, GableTop] = {}
    shape = plan.shape(depth)
    for wall in project.walls:
        if wall.head_under != plan.roof.id or wall.id in plan.gable_walls:
            continue
        line = lines[wall.id]
        way = abs(line.band.direction[0] * plan.frame.s[0] + line.band.direction[1] * plan.frame.s[1])
        if way < 0.02:
            across = [plan.frame.to(line.band.at(0.0, d))[0] for d in line.core]
            low[wall.id] = plan.bearing + min(shape.under(min(s - plan.low, plan.high - s)) for s in across)
        else:
            raking[wall.id] = gable_top(plan, line, depth)
            low[wall.id] = plan.bearing
    return low, raking


def ribbons(line: WallLine, floors: tuple[Floor, ...], levels: tuple[Level, ...]) -> tuple[float, ...]:
    """Return the heights of the decks' undersides that a balloon-framed wall carries between foot and head."""
    if not line.wall.framing.balloon:
        return ()
    known = by_id(levels)
    found = []
    for floor in floors:
        z = known[floor.level].height - floor.deck
        if line.wall.id in floor.walls and line.band.bottom + LEAST_HEIGHT < z < line.band.top - LEAST_HEIGHT:
            found.append(z)
    return tuple(found)
