"""Whether the pressure typed for wind on walls is no less than what the speed typed for wind brings."""

import math
from collections.abc import Iterable

from balken.derived.finding import Finding, Fix
from balken.derived.model import Model
from balken.model.lookup import lowest_ground, wall_label
from balken.units import Units, format_area_load, format_speed
from balken.units.system import FOOT, PSF

LOWEST = 6.0 * FOOT
"""Studs of lower walls carry so little that they are passed over."""
STEP = {Units.IMPERIAL: PSF, Units.METRIC: 0.05}
"""To what pressures are rounded up, kN/m2."""


def wind_on_walls(c: Model) -> Iterable[Finding]:
    """Tell where studs and headers are checked under less wind than its speed brings beside the corners of the walls they are in."""
    loads = c.project.loads
    walls = [
        line
        for line in c.lines.values()
        if line.wall.role == "outside" and line.wall.id in c.framed and _tall(c, line.wall.id) >= LOWEST
    ]
    if loads.wind_speed <= 0.0 or not walls:
        return
    height, rows = _roof_height(c), []
    for line in walls:
        tall = _tall(c, line.wall.id)
        # A stud's strip counts as wide as a third of its height at least (ASCE 7-16, 26.2).
        made = c.standard.wall_wind(loads, height, tall * tall / 3.0)
        if made is not None and made[1] > loads.wind * 1.001:
            rows.append((made[1], made[0], line))
    if not rows:
        return
    corner, inner, line = max(rows, key=lambda row: row[0])
    units, step = c.units, STEP[c.units]
    asked = math.ceil(corner / step - 1e-6) * step
    yield Finding(
        "wind on walls",
        "walls",
        f"Wind on walls: {format_area_load(loads.wind, units)} typed, {format_speed(loads.wind_speed, units)} brings {format_area_load(corner, units)}",
        f"In exposure {loads.wind_exposure}, on studs of {wall_label(c.project, line.wall.id)} beside its corners, {format_area_load(inner, units)} elsewhere (IRC Table R301.2(2); ASCE 7-16, "
        "Figure 30.3-1). Take as much for all walls, or correct the speed.",
        (line.wall.id,),
        (*line.band.at(line.band.length / 2.0, 0.0), line.band.bottom),
        fix=Fix(f"Take {format_area_load(asked, units)} on walls", "set_loads", (), (("wind", asked),)),
    )


def _tall(c: Model, wall: str) -> float:
    band = c.lines[wall].band
    return band.top - band.bottom


def _roof_height(c: Model) -> float:
    """Return how high the highest roof lies in the mean over the lowest ground, or the highest wall where there is none, mm."""
    tops = [plan.mean_height for plan in c.roofs]
    tops += [plan.mean_height for plan in c.surfaces if not plan.problem]
    tops = tops or [line.band.top for line in c.lines.values()]
    return max(tops) - lowest_ground(c.project)


WIND_RULES = (wind_on_walls,)
