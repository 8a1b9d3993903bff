"""What trusses bring to what they bear on, and where."""

import numpy as np
from numpy.typing import NDArray

from balken.design.trusses import TrussDesign, solve
from balken.framing.surface_roofs import SurfacePlan
from balken.framing.truss_layout import TrussPlace, TrussRow
from balken.geometry.plane import Point
from balken.loads.cases import COUNT, Cases
from balken.loads.truss_loads import TrussLoads


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
    solved = design.solved if on == design.job.loads else solve(design.frame, on, design.e)[1]
    return at_bearings(design, solved.reactions[0, :, 1, :COUNT])


def at_bearings(design: TrussDesign, on_joints: NDArray[np.float64]) -> list[tuple[float, Cases]]:
    """Return what comes to each bearing of a truss (x, N by case) of what comes to its joints (joints, cases)."""
    names = list(design.frame.joints)
    return [(design.frame.joints[name][0], Cases(*on_joints[names.index(name)].tolist())) for name in design.frame.held]
