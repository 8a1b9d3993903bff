"""Wood structural panels of floor decks and roofs: how far they span and how they are nailed (IRC 2018, Tables R503.2.1.1(1) and
R602.3(1), from memory).
"""

from balken.standards.demands import DeckPanel, RoofPanel
from balken.units.system import INCH, PSF

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


# Least thickness, how it is stamped, greatest span of rafters with edges held and free (in), live load at the first (psf), nails on roofs.
_ROOFS: tuple[tuple[float, str, float, float, float, str], ...] = (
    (0.87, "60/32", 60.0, 48.0, 35.0, _EIGHT),
    (0.71, "48/24", 48.0, 36.0, 35.0, _EIGHT),
    (0.59, "40/20", 40.0, 32.0, 30.0, _EIGHT),
    (0.46, "32/16", 32.0, 28.0, 30.0, _EIGHT),
    (0.43, "24/16", 24.0, 24.0, 40.0, _EIGHT),
    (0.365, "24/0", 24.0, 20.0, 30.0, _EIGHT),
)


def roof_panel(thickness: float, spacing: float) -> RoofPanel | None:
    """Return what a panel so thick lies over rafters so far apart (mm): stamped, what snow or live load it carries there, whether its free
    edges are to be held; None for one too thin to be a roof deck.

    Closer than its greatest span it is taken to carry more as bending lets it, by the square of the span: makers' tables give more (from
    memory: 24/16 ones 100 psf at 16 in, 32/16 ones 70 at 24, 40/20 ones 130 at 24).
    """
    for least, rating, held, free, live, nails in _ROOFS:
        if thickness >= least * INCH - 0.2:
            carries = live * PSF * max(held * INCH / spacing, 1.0) ** 2 if spacing <= held * INCH + 0.5 else 0.0
            return RoofPanel(rating, held * INCH, carries, spacing > free * INCH + 0.5, nails, f"{SPANS}, {NAILS}")
    return None
