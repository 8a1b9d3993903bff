"""Toothed plates for the joints of trusses: a made-up list that ships with Balken, sizes with prices and strengths."""

import csv
from functools import cache
from importlib.resources import files
from typing import NamedTuple

from balken.units.system import INCH, POUND_FORCE, PSI

GAUGE = 0.036 * INCH
"""Thickness of plates of 20 gauge, mm."""


class PlateSize(NamedTuple):
    """A plate: width and length, mm (the teeth's slots run along its length); its price, dollars."""

    width: float
    length: float
    price: float

    @property
    def area(self) -> float:
        """Its area, mm2."""
        return self.width * self.length


class Teeth(NamedTuple):
    """What teeth hold, N/mm2 of one plate's area: force along (A) or across (E) the plate, then along or across the grain."""

    aa: float
    ae: float
    ea: float
    ee: float


class Steel(NamedTuple):
    """What a pair of plates holds, N a mm of the line it is cut along: pulled and sheared along and across its length."""

    pull_along: float
    pull_across: float
    shear_along: float
    shear_across: float


@cache
def sizes() -> tuple[PlateSize, ...]:
    """Return all sizes, the smallest first."""
    rows = rows_of("truss-plates.csv")[1:]
    found = [PlateSize(float(w) * INCH, float(long) * INCH, float(price)) for w, long, price in rows]
    return tuple(sorted(found, key=lambda one: (one.area, one.length)))


@cache
def teeth(species: str) -> Teeth:
    """Return what teeth hold in a species; raises KeyError for one without values."""
    for name, *cells in rows_of("truss-plate-values.csv"):
        if name == species:
            return Teeth(*(float(cell) * PSI for cell in cells))
    raise KeyError(f"truss plates have no strength in {species}; take DF-L, Southern Pine, Hem-Fir or S-P-F.")


@cache
def steel() -> Steel:
    """Return the strengths of the steel."""
    rows = {
        name: [float(cell) * POUND_FORCE / INCH for cell in cells if cell]
        for name, *cells in rows_of("truss-plate-values.csv")
        if name in ("pull", "shear")
    }
    return Steel(*rows["pull"], *rows["shear"])


def rows_of(name: str) -> list[list[str]]:
    """Return the rows of a list that ships with Balken, its comments left out."""
    text = files("balken").joinpath("assets", name).read_text(encoding="utf-8")
    return list(csv.reader(line for line in text.splitlines() if line.strip() and not line.startswith("#")))
