"""Sections by name: nominal lumber sizes, dressed (American Softwood Lumber Standard PS 20, dry), and joists that are made."""

import re
from functools import lru_cache

from msgspec.structs import replace

from balken.catalog.joists import GRADES, MADE, TRIED
from balken.catalog.own_joists import own_section
from balken.catalog.section_record import Section
from balken.units.system import INCH

_THICKNESS = {2: 1.5, 3: 2.5, 4: 3.5}
_DEPTH = {4: 3.5, 6: 5.5, 8: 7.25, 10: 9.25, 12: 11.25, 14: 13.25}


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
SECTIONS.update({f"1x{d}": Section(f"1x{d}", (1, d), 0.75 * INCH, _DEPTH[d] * INCH) for d in (4, 6, 8, 10, 12)})
BOARDS = frozenset({"1x4", "1x6", "1x8", "1x10", "1x12"})
"""Boards that are let in or nailed on; they are no joists, rafters, headers or ties."""
JOIST_SIZES = TRIED["sawn"]
"""Sizes tried for rafters left to auto, in rising order."""
TIE_SIZES = ("2x4", "2x6", "2x8", "2x10", "2x12")
HEADER_DEPTHS = (4, 6, 8, 10, 12)
"""Nominal depths tried for headers left to auto, in rising order."""
HEADER_SIZES = tuple(f"{n}-2x{d}" for d in HEADER_DEPTHS for n in (2, 3))
RIDGE_SIZES = ("2x6", "2x8", "2x10", "2x12", "2x14")
RIDGE_BEAMS = ("2-2x10", "2-2x12", "3-2x12", "LVL 2-1.75x11.875", "LVL 2-1.75x14", "LVL 3-1.75x16")
"""Hips, valleys and ridge beams where no single board is enough, in rising order."""


_CARRIED: dict[str, Section] = {}
"""Entries of project files that measure otherwise than those above; a name never changes its meaning."""


def carry_section(name: str, breadth: float, depth: float) -> str:
    """Make known a section of a name as a project has it (mm), and return the name under which it is known.

    Raises KeyError where there is none of that name.
    """
    base = sawn_section(name)
    own = f"{base.name} of {breadth:.6g} x {depth:.6g} mm"
    _CARRIED.setdefault(_key(own), replace(base, name=own, breadth=breadth, depth=depth))
    return own


def _key(name: str) -> str:
    return re.sub(r"\s+", "", name.lower().replace("\u00d7", "x"))


_MADE = {_key(name): made for name, made in MADE.items()}


@lru_cache(maxsize=500)
def section(name: str) -> Section:
    """Return the section of a name such as 2x10, LVL 1.75x11.875 or PRI-40 11.875.

    Raises KeyError with the sizes of lumber there are.
    """
    key = _key(name)
    return _MADE[key] if key in _MADE else own_section(name) or sawn_section(name)


def carrying_section(name: str) -> Section:
    """Return the section of what carries: there are no design values of boards.

    Raises KeyError for a board and, as ``section`` does, for what is not known.
    """
    made = section(name)
    if made.kind == "sawn" and made.nominal[0] < 2:
        raise KeyError(f"{made.name} is a board and carries nothing; type such as 2x8.")
    return made


def lumber_section(name: str) -> Section:
    """Return the section of sawn lumber that carries; raises KeyError for boards and for what is no lumber."""
    return carrying_section(sawn_section(name).name)


def side_by_side(name: str, plies: int) -> str:
    """Return the name of so many boards side by side of a section that is one; of one that is several its own."""
    one = section(name)
    if plies == 1 or one.plies > 1:
        return name
    if one.kind in ("laminated veneer", "rim board"):
        return name.replace(" ", f" {plies}-", 1)
    return f"{plies}-{name}"


def one_ply(name: str) -> str:
    """Return the name of one of the boards of a section of several side by side."""
    one = section(name)
    if one.plies == 1:
        return name
    return name.replace(f" {one.plies}-", " ", 1) if " " in name else name.partition("-")[2]


def rim_of(size: str) -> str:
    """Return of what board the rim of joists is: their own lumber, or a rim board as deep as they are."""
    joist = section(size)
    return size if joist.kind == "sawn" else f"LSL 1.5x{joist.depth / INCH:g}"


def framed_of(size: str) -> str:
    """Return of what headers and trimmers of openings among joists are: their own lumber; veneer lumber among I-joists."""
    joist = section(size)
    return size if joist.kind != "I-joist" else f"LVL 1.75x{joist.depth / INCH:g}"


def wood_of(name: str, species: str, grade: str) -> tuple[str, str]:
    """Return (species, grade) by which lists call a section's wood; ``species``, ``grade``: of what is sawn."""
    return GRADES.get(section(name).kind, (species, grade))


def made_text(name: str, species: str, grade: str) -> str:
    """Return what a member is made of, in words: '2x10 DF-L No. 2', or the name alone of what is not sawn."""
    return f"{name} {species} {grade}" if section(name).kind == "sawn" else name


@lru_cache(maxsize=500)
def sawn_section(name: str) -> Section:
    """Return the section of sawn lumber, such as 2x10; raises KeyError with the names there are."""
    key = _key(name)
    if key in _CARRIED:
        return _CARRIED[key]
    if key not in SECTIONS:
        plies, dash, board = key.partition("-")
        one = _CARRIED.get(board) or SECTIONS.get(board)
        if dash and one is not None and one.plies == 1 and plies in ("2", "3", "4"):
            return replace(one, name=f"{plies}-{one.name}", breadth=int(plies) * one.breadth, plies=int(plies))
        raise KeyError(f"There is no lumber size '{name}'; sizes are {', '.join(SECTIONS)}.")
    return SECTIONS[key]
