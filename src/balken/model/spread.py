"""Where members stand across a width: on centre from a side, from the middle, or with both ends alike."""

import math

from balken.model.kinds.choice import Start


def positions(width: float, spacing: float, edge: float, least: float, start: Start = "one side") -> list[float]:
    """Return members' centres across a width, on centre from where they start, none nearer than ``least`` to the edge members.

    From a side the first is at ``spacing`` from it, so that panels laid from there end on members; from the middle one is in
    the middle; with both ends alike as few as keep the end bays, too, within the spacing.  ``edge``: thickness of the edge
    member, mm.
    """
    if start == "both ends alike":
        count = math.ceil(width / spacing - 1e-9) - 1
        first = (width - (count - 1) * spacing) / 2.0
        return [first + k * spacing for k in range(count)]
    if start == "the middle":
        side = int((width / 2.0 - edge - least) // spacing)
        return [width / 2.0 + k * spacing for k in range(-side, side + 1)] if width / 2.0 >= edge + least else []
    found = [k * spacing for k in range(1, int((width - edge - least) // spacing) + 1)]
    return [width - at for at in reversed(found)] if start == "the other side" else found
