"""Where posts under the purlins of a roof stand, as they are laid."""

from balken.design.roof_posts import Ends
from balken.design.surface_design import SurfaceDesign
from balken.framing.purlins import purlin_line, whole
from balken.framing.surface_roofs import SurfacePlan
from balken.units.system import FOOT

APART = 8.0 * FOOT
"""Posts under purlins are set this far apart at most where nobody says (common practice, no source)."""


def purlin_ends(plan: SurfacePlan, framing: SurfaceDesign) -> tuple[Ends, ...]:
    """Return the ends of a roof's purlins, pieces of one taken together."""
    lines = (purlin_line(plan, one) for one in whole(framing.purlins))
    return tuple((line.start[:2], line.end[:2], line.start[2]) for line in lines)
