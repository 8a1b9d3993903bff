"""What trusses bring to what they bear on, and where."""

from msgspec.structs import replace as replace_struct

from balken.design.trusses import TrussDesign, solve
from balken.framing.surface_roofs import SurfacePlan
from balken.framing.truss_layout import TrussPlace, TrussRow
from balken.geometry.plane import Point
from balken.loads.cases import Cases
from balken.loads.truss_loads import Hung, TrussLoads


def on_wall(plan: SurfacePlan, row: TrussRow, place: TrussPlace, x: float) -> Point:
    """Return where a truss bears, in plan: in the middle of the wall's core."""
    if not place.gable:
        return place.at(x)
    k = plan.outline.walls.index(place.gable)
    first = abs(place.t - row.along[0]) < abs(place.t - row.along[1])
    t = row.along[0] + plan.deep[k] if first else row.along[1] - plan.deep[k]
    return row.frame.back(row.start + min(max(x, 0.0), row.wide), t)


def bearing_forces(design: TrussDesign, on: TrussLoads) -> list[tuple[float, Cases]]:
    """Return what comes to each bearing of a truss (x, N by case): as it is solved for this load."""
    _, solved = solve(design.frame, on, design.e)
    names = list(design.frame.joints)
    return [
        (
            design.frame.joints[name][0],
            Cases(*(float(v) for v in solved.reactions[0, names.index(name), 1, : len(Cases._fields)])),
        )
        for name in design.frame.held
    ]


def calm(hung: tuple[Hung, ...]) -> tuple[Hung, ...]:
    """Return what hangs or rests without what wind lifts."""
    return tuple(replace_struct(h, force=h.force._replace(wind=0.0)) for h in hung)
