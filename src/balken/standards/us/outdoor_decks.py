"""Decks outdoors: boards and ledgers by the tables of IRC 2018, R507, written down from memory."""

from balken.standards.demands import DeckPanel, GuardRules, Ledger
from balken.units.system import FOOT, INCH, POUND_FORCE, PSF

BOARDS, LEDGERS, TIES = "IRC Table R507.7", "IRC Table R507.9.1.3(1)", "IRC R507.9.2"
# Joist span at most, ft: spacing of 1/2 in bolts with 1/2 in of sheathing between, in.
_BOLTS = ((6.0, 36.0), (8.0, 36.0), (10.0, 34.0), (12.0, 29.0), (14.0, 24.0), (16.0, 21.0), (18.0, 19.0))
COVERED = 50.0 * PSF
"""The table is for 40 psf of live and 10 psf of dead load together."""
TENSION = "two ties of 1,500 lb from joists to the floor inside, or four of 750 lb, against pulling off sideways"


GUARDS = GuardRules(
    200.0 * POUND_FORCE, "IRC Table R301.5", 36.0 * INCH, "IRC R312.1.2", 30.0 * INCH, "IRC R312.1.1"
)  # fmt: skip
"""Of decks, porches and balconies."""


def boards(thickness: float) -> DeckPanel | None:
    """Return how far boards so thick (mm) span, laid square to the joists; None for thinner ones than there are."""
    if thickness >= 1.45 * INCH:
        return DeckPanel(24.0 * INCH, "2 in boards", "two 10d or 3 in screws in each joist", BOARDS)
    if thickness >= 0.95 * INCH:
        return DeckPanel(16.0 * INCH, "5/4 boards", "two 8d or 2 1/2 in screws in each joist", BOARDS)
    return None


def ledger(span: float, load: float) -> Ledger:
    """Return how a ledger is fastened that joists of a clear span (mm) hang on, under an area load (kN/m2) in all."""
    if load > COVERED + 1e-6:
        return Ledger(0.0, f"{LEDGERS} holds for 50 psf in all; more lies on it", LEDGERS, TENSION, TIES)
    for longest, apart in _BOLTS:
        if span <= longest * FOOT + 1.0:
            said = f'1/2 in bolts every {apart:.0f}", staggered, through the band joist'
            return Ledger(apart * INCH, said, LEDGERS, TENSION, TIES)
    return Ledger(0.0, f"{LEDGERS} ends at joists of 18 ft", LEDGERS, TENSION, TIES)
