"""Headers over openings: built-up size from the load over the opening, jack studs from bearing, king studs.

The header is a simple span between its jacks under the line load at the head of the wall.
"""

import math
from dataclasses import dataclass

from balken.design.checks import MemberResult
from balken.design.columns import ColumnCase, check_column
from balken.design.members import MemberCase, check_member
from balken.design.values import reference_values
from balken.loads.cases import Cases, worst
from balken.model.records import Framing
from balken.model.sections import HEADER_DEPTHS, section

HEADER_LIMIT = 360.0
"""Live-load deflection of headers and girders, IRC R301.7 (L/360 under a floor)."""
MOST_JACKS = 5
MOST_KINGS = 4


@dataclass(frozen=True, slots=True)
class HeaderDesign:
    """Header, jacks and kings of one opening, and how far each is used."""

    opening: str
    size: str
    auto: bool
    jacks: int
    kings: int
    header: MemberResult
    jack: MemberResult
    king: MemberResult

    @property
    def used(self) -> float:
        """The greatest of the three."""
        return max(self.header.used, self.jack.used, self.king.used)


def header_sizes(core: float) -> tuple[str, ...]:
    """Return the built-up headers that fit into a wall core of that thickness (mm), shallowest first."""
    plies = max(1, min(int((core + 0.5) // section("2x4").breadth), 3))
    return tuple(f"{n}-2x{d}" if n > 1 else f"2x{d}" for d in HEADER_DEPTHS for n in range(min(2, plies), plies + 1))


def design_header(
    opening: str,
    typed: str | None,
    width: float,
    line: Cases,
    framing: Framing,
    sizes: tuple[str, ...],
    stud: tuple[str, float, float, float],
) -> HeaderDesign:
    """Choose the smallest header that works (or take the typed one), then jacks and kings.

    ``width``: of the opening, mm. ``line``: load on the header by case, N/mm. ``stud``: size, full
    height, height of the jacks (mm), wind pressure (kN/m2).
    """
    size, full, jack_height, pressure = stud
    species, grade = framing.header_species, framing.header_grade
    tried = sizes if typed is None else (typed,)
    jacks = 1
    for name in tried:
        jacks = _jacks(name, width, line, framing)
        case = MemberCase(
            "header", name, species, grade, width, 1000.0, line, HEADER_LIMIT, jacks * section(size).breadth
        )
        result = check_member(case)
        if result.used <= 1.0:
            break
    reaction = line.scaled((width / 2.0 + jacks * section(size).breadth) / jacks)
    jack = check_column(
        ColumnCase("jack stud", size, framing.species, framing.grade, jack_height, 0.0, reaction, plate=species)
    )
    kings = 1
    while True:
        name = size if kings == 1 else f"{kings}-{size}"
        case_k = ColumnCase(
            "king stud",
            name,
            framing.species,
            framing.grade,
            full,
            width / 2.0 + (framing.spacing or 406.4) / 2.0,
            line.scaled((framing.spacing or 406.4) / 2.0),
            pressure,
            species,
        )
        king = check_column(case_k)
        if king.used <= 1.0 or kings >= MOST_KINGS or f"{kings + 1}-{size}" not in _BUILT_UP:
            break
        kings += 1
    return HeaderDesign(opening, result.case.size, typed is None, jacks, kings, result, jack, king)


_BUILT_UP = frozenset(f"{n}-2x{d}" for n in (2, 3, 4) for d in (4, 6, 8, 10, 12, 14))


def _jacks(header: str, width: float, line: Cases, framing: Framing) -> int:
    """Return the number of jack studs each side that keeps Fc perp under the header (NDS 3.10.2)."""
    lumber = section(header)
    values = reference_values(framing.header_species, framing.header_grade, lumber)
    reaction = worst(line)[0] * width / 2.0
    need = reaction / (values.fc_perp * lumber.breadth)
    return max(1, min(math.ceil(need / section("2x4").breadth - 1e-6), MOST_JACKS))
