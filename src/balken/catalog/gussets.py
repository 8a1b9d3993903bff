"""Gussets of plywood for the joints of trusses built on site: sizes as they are cut, strengths and price from a made-up list that ships with
Balken.
"""

from functools import cache

from balken.catalog.truss_plates import PlateSize, Steel, rows_of
from balken.units.system import INCH, POUND_FORCE

THICK = 15.0 / 32.0 * INCH
"""Thickness of each, mm."""
WIDTHS = (3.25, 5.25, 7.0, 9.0, 11.0, 14.0, 18.0, 24.0)
LENGTHS = (8.0, 10.0, 12.0, 15.0, 18.0, 24.0, 30.0, 36.0)
"""As they are cut from panels, in."""
FOOT2 = (12.0 * INCH) ** 2


def _row(what: str) -> list[float]:
    cells = next(cells for name, *cells in rows_of("truss-gussets.csv") if name == what)
    return [float(cell) for cell in cells if cell]


@cache
def gusset_sizes() -> tuple[PlateSize, ...]:
    """Return all sizes, the smallest first; prices without nails."""
    (dollars,) = _row("price")
    found = [
        PlateSize(w * INCH, long * INCH, round(w * long * INCH**2 / FOOT2 * dollars, 2))
        for w in WIDTHS
        for long in LENGTHS
        if w <= long
    ]
    return tuple(sorted(found, key=lambda one: (one.area, one.length)))


@cache
def panel() -> Steel:
    """Return the strengths of a pair, N a mm of the line it is cut along."""
    pull, shear = ([v * POUND_FORCE / INCH for v in _row(what)] for what in ("pull", "shear"))
    return Steel(*pull, *shear)
