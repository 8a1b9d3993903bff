"""Decks of roofs: which panels they are, whether they reach from rafter to rafter and carry the snow that lies on them at most."""

from balken.loads.roof_snow import RoofSnow
from balken.model.records import Loads, Roof
from balken.standards.demands import RoofPanel
from balken.standards.standard import Standard
from balken.units.system import INCH
from balken.value import Value

THICKNESSES = tuple(n / 32.0 * INCH for n in (12, 14, 15, 19, 23, 28))
"""In which panels come: 3/8, 7/16, 15/32, 19/32, 23/32, 7/8 in, mm."""


class RoofDeck(Value, frozen=True):
    """A roof's deck: its panel (None: too thin for one), how far apart what it lies on stands, mm, the most that lies on it, kN/m2; the least
    thickness that works, mm (0: none does).
    """

    panel: RoofPanel | None
    spacing: float
    load: float
    works_with: float

    @property
    def reaches(self) -> bool:
        """Whether it reaches from rafter to rafter."""
        return self.panel is not None and self.spacing <= self.panel.span + 0.5

    @property
    def used(self) -> float:
        """How far what it carries is used."""
        return self.load / self.panel.carries if self.panel is not None and self.panel.carries > 0.0 else 0.0

    @property
    def works(self) -> bool:
        """Whether it does both."""
        return self.reaches and self.used <= 1.0


def roof_deck(roof: Roof, spacing: float, snow: RoofSnow | None, loads: Loads, standard: Standard) -> RoofDeck:
    """Look at a roof's deck over rafters or trusses so far apart; drifts count at their peaks, beside the most snow anywhere."""
    lies = loads.ground_snow
    if snow is not None:
        lies = max((plane.most for plane in snow.planes), default=lies)
        lies += max((band.peak for band in snow.bands), default=0.0)
    load = max(lies, loads.roof_live)

    def at(thickness: float) -> RoofDeck:
        return RoofDeck(standard.roof_panel(thickness, spacing), spacing, load, 0.0)

    works = next((t for t in THICKNESSES if at(t).works), 0.0)
    return RoofDeck(standard.roof_panel(roof.deck, spacing), spacing, load, works)
