"""Wood structural panels of floor decks: how far they span and how they are nailed (IRC 2018, Tables R503.2.1.1(1) and
R602.3(1), from memory).
"""

from balken.standards.demands import DeckPanel
from balken.units.system import INCH

SPANS = "IRC Table R503.2.1.1(1)"
NAILS = "IRC Table R602.3(1)"
_EIGHT = '8d common, 6" apart at edges of panels, 12" between'
# Least thickness, greatest span (in), how it is stamped, nails.
_ROWS: tuple[tuple[float, float, str, str], ...] = (
    (1.09, 48.0, "48 oc", '10d common, 6" apart at edges of panels, 12" between'),
    (0.87, 32.0, "32 oc", _EIGHT),
    (0.71, 24.0, "48/24 or 24 oc", _EIGHT),
    (0.59, 20.0, "40/20 or 20 oc", _EIGHT),
    (0.43, 16.0, "24/16 or 32/16", '6d common, 6" apart at edges of panels, 12" between'),
)


def deck_panel(thickness: float) -> DeckPanel | None:
    """Return what a panel so thick (mm) spans and how it is nailed; None for one too thin to be a deck."""
    for least, span, rating, nails in _ROWS:
        if thickness >= least * INCH - 0.2:
            return DeckPanel(span * INCH, rating, nails, f"{SPANS}, {NAILS}")
    return None
