"""Nominal lumber sizes and what they measure dressed (American Softwood Lumber Standard PS 20, dry)."""

import re
from dataclasses import dataclass, replace
from functools import lru_cache
from typing import Literal

from balken.units.system import INCH

_THICKNESS = {2: 1.5, 3: 2.5, 4: 3.5}
_DEPTH = {4: 3.5, 6: 5.5, 8: 7.25, 10: 9.25, 12: 11.25, 14: 13.25}


SectionKind = Literal["sawn", "laminated veneer", "glulam"]


@dataclass(frozen=True, slots=True)
class Section:
    """A rectangular section: name, nominal inches, dressed breadth and depth in mm.

    ``plies``: of how many boards it is built up side by side; ``nominal`` is that of one board.  ``kind``: what it
    is made of, by which its factors go.
    """

    name: str
    nominal: tuple[int, int]
    breadth: float
    depth: float
    plies: int = 1
    kind: SectionKind = "sawn"

    @property
    def area(self) -> float:
        """Area, mm2."""
        return self.breadth * self.depth

    @property
    def modulus(self) -> float:
        """Section modulus about the strong axis, mm3."""
        return self.breadth * self.depth**2 / 6.0

    @property
    def weak_modulus(self) -> float:
        """Section modulus about the weak axis, mm3; boards side by side act each by itself."""
        return self.plies * self.depth * (self.breadth / self.plies) ** 2 / 6.0

    @property
    def inertia(self) -> float:
        """Second moment of area about the strong axis, mm4."""
        return self.breadth * self.depth**3 / 12.0


SECTIONS: dict[str, Section] = {
    f"{t}x{d}": Section(f"{t}x{d}", (t, d), tb * INCH, dd * INCH)
    for t, tb in _THICKNESS.items()
    for d, dd in _DEPTH.items()
}
SECTIONS.update(
    {
        f"{n}-2x{d}": Section(f"{n}-2x{d}", (2, d), n * _THICKNESS[2] * INCH, dd * INCH, n)
        for n in (2, 3, 4)
        for d, dd in _DEPTH.items()
    }
)
SECTIONS["1x4"] = Section("1x4", (1, 4), 0.75 * INCH, 3.5 * INCH)
BOARDS = frozenset({"1x4"})
"""Boards that are let in or nailed on; they are no joists, rafters, headers or ties."""
JOIST_SIZES = ("2x6", "2x8", "2x10", "2x12")
"""Sizes tried for joists and rafters left to auto, in rising order."""
TIE_SIZES = ("2x4", "2x6", "2x8", "2x10", "2x12")
HEADER_DEPTHS = (4, 6, 8, 10, 12)
"""Nominal depths tried for headers left to auto, in rising order."""
HEADER_SIZES = tuple(f"{n}-2x{d}" for d in HEADER_DEPTHS for n in (2, 3))
RIDGE_SIZES = ("2x6", "2x8", "2x10", "2x12", "2x14")


_CARRIED: dict[str, Section] = {}
"""Entries of project files that measure otherwise than those above; a name never changes its meaning."""


def carry_section(name: str, breadth: float, depth: float) -> str:
    """Make known a section of a name as a project has it (mm), and return the name under which it is known.

    Raises KeyError where there is none of that name.
    """
    base = section(name)
    own = f"{base.name} of {breadth:.6g} x {depth:.6g} mm"
    _CARRIED.setdefault(_key(own), replace(base, name=own, breadth=breadth, depth=depth))
    return own


def _key(name: str) -> str:
    return re.sub(r"\s+", "", name.lower().replace("\u00d7", "x"))


@lru_cache(maxsize=500)
def section(name: str) -> Section:
    """Return the section of a name such as 2x10; raises KeyError with the names there are."""
    key = _key(name)
    if key in _CARRIED:
        return _CARRIED[key]
    if key not in SECTIONS:
        plies, dash, board = key.partition("-")
        if dash and board in _CARRIED and plies in ("2", "3", "4"):
            one = _CARRIED[board]
            return replace(one, name=f"{plies}-{one.name}", breadth=int(plies) * one.breadth, plies=int(plies))
        raise KeyError(f"There is no lumber size '{name}'; sizes are {', '.join(SECTIONS)}.")
    return SECTIONS[key]
