"""What came from the architect's file only to be shown, as solids."""

from balken.geometry.prism import Prism, upright
from balken.model.records import Reference

THINNEST = 1.0
"""An outline without height is shown this thick, mm."""


def reference_solid(reference: Reference) -> Prism:
    """Return the outline extruded from its lowest to its highest height."""
    return upright(reference.ring, reference.bottom, max(reference.top - reference.bottom, THINNEST))
