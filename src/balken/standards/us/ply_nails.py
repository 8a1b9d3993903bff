"""How the plies of a beam are nailed together: by ANSI/AWC NDS 2018, 12.3, where they are loaded from one side, else by rule.

16d common nails, single shear, wood to wood, side and main member one ply each: the least of the yield modes of
Table 12.3.1A with KD = 2.2 (diameters up to 0.17 in), times p/(10 D) where a ply is thinner than ten diameters
(Table 12N, note 3).  Dowel bearing 16,600 G^1.84 (12.3.3), Fyb 90,000 psi (Table I1).  From memory.
"""

import math
from functools import lru_cache

from balken.standards.demands import HeelNails, LedgerNails, PlyNails
from balken.standards.us.dowels import across_a_gap, single_shear
from balken.units.system import INCH, PSI

DIAMETER = 0.162 * INCH
LENGTH = 3.5 * INCH
STEEL = 90_000.0 * PSI
GRAVITY = {"DF-L": 0.50, "Southern Pine": 0.55, "Hem-Fir": 0.43, "S-P-F": 0.42}
"""Specific gravity by species (NDS Table 12.3.3A); veneer lumber is taken as Douglas fir."""
CLOSEST, FARTHEST = 4.0 * INCH, 12.0 * INCH
DEEP = 11.0 * INCH
"""From this depth on three rows have room, else two."""
BY_RULE = '20d common, 32" apart at top and bottom, staggered, each ply'


def nail_value(species: str, ply: float) -> float:
    """Return Z of one nail between two plies so thick (mm), N, before load duration."""
    fe, d = 16_600.0 * GRAVITY.get(species, 0.50) ** 1.84 * PSI, DIAMETER
    main = min(LENGTH - ply, max(ply, 10.0 * d))
    return single_shear(d, ply, main, fe, fe, STEEL) * min(ply / (10.0 * d), 1.0)


def handed_on(sides: tuple[float, float], plies: int) -> float:
    """Return the greatest load that goes from a ply to the next, N/mm, with these on both outer faces, shared alike."""
    whole = sum(sides)
    return max((abs(sides[0] - k * whole / plies) for k in range(1, plies)), default=0.0)


def ply_nails(species: str, plies: int, ply: float, depth: float, sides: tuple[float, float]) -> PlyNails | None:
    """Return how plies are nailed under loads on their outer faces (N/mm at normal duration); None for a single one."""
    if plies < 2:
        return None
    flow = handed_on(sides, plies)
    if flow < 0.01:
        return PlyNails(BY_RULE, "IRC Table R602.3(1)", 0.0, True)
    value, rows = nail_value(species, ply), 3 if depth >= DEEP else 2
    spacing = min(math.floor(rows * value / flow / INCH + 1e-9) * INCH, FARTHEST)
    text = f'{rows} rows of 16d common, {spacing / INCH:.0f}" apart, from both faces of each ply'
    if spacing < CLOSEST:
        text = "nails would stand too close: bolts, or a section in one piece"
    return PlyNails(text, "NDS 12.3", flow, spacing >= CLOSEST)


TOE_NAILED = 0.83
"""Of a nail's value that is left where it is driven aslant through the end of a board (NDS 12.5.2.3)."""
LEAST_TOE = 3
"""IRC Table R602.3(1): rafters to hips and valleys."""
SHALLOW = 7.5 * INCH
"""Ends no deeper take two such nails from each side, deeper ones three (common practice, no source)."""


@lru_cache(maxsize=200)
def toe_nail_value(species: tuple[str, str], thin: float) -> float:
    """Return what one nail driven so holds, N, before load duration."""
    side = LENGTH / 3.0
    into = min(LENGTH * math.cos(math.radians(30.0)) - side, thin / math.cos(math.radians(30.0)))
    fes, fem = (16_600.0 * GRAVITY.get(wood, min(GRAVITY.values())) ** 1.84 * PSI for wood in species)
    return TOE_NAILED * single_shear(DIAMETER, side, into, fes, fem, STEEL) * min(into / (10.0 * DIAMETER), 1.0)


def toe_nails(species: tuple[str, str], plies: int, depth: float, thin: float, force: float) -> HeelNails:
    """Return the nails driven aslant, at 30 degrees and from a third of their length off its end, through the end of a board of so many plies,
    ``depth`` mm deep, into the side of another, ``thin`` mm thick, that hold a force across both, N at normal duration (NDS 12.1.6.3).
    """
    value = toe_nail_value(species, thin)
    number = max(math.ceil(force / value - 1e-9), LEAST_TOE)
    room = (4 if depth <= SHALLOW else 6) * plies
    return HeelNails(f"{number} 16d common toe nails", "NDS 12.3, 12.5.2.3", force, value, number, number <= room)


MOST_AT_HEEL = 24
"""So many nails find room where boards cross at a heel, driven from both sides (common practice, no source)."""


END_GRAIN = 0.67
"""Of a nail's value that is left in end grain (NDS 12.5.2.2)."""
LEAST_IN_END = 1.0 * INCH
"""Of a board's depth each nail into its end takes at least (common practice, no source)."""


def end_nails(species: tuple[str, str], thin: float, depth: float, force: float) -> HeelNails:
    """Return the nails through a board (``thin`` mm) into the end of another, ``depth`` mm deep, that hold a force across it, N at normal duration."""
    value = END_GRAIN * min(nail_value(wood, thin) for wood in species)
    count, room = max(math.ceil(force / value - 1e-9), 2), math.floor(depth / LEAST_IN_END + 1e-9)
    return HeelNails(f"{count} 16d common nails into its end", "NDS 12.3, 12.5.2.2", force, value, count, count <= room)


def heel_nails(species: tuple[str, str], thin: float, force: float) -> HeelNails:
    """Return the nails between two boards that hold a force along one of them, N at normal duration; ``thin``: the thinner, mm.

    A nail through both is clinched or held by less of its length: its value is cut by p/(10 D) (Table 12N, note 3).
    """
    value = min(nail_value(wood, thin) for wood in species)
    count = max(math.ceil(force / value - 1e-9), 3)
    text = f"{count} 16d common nails at each"
    if count > MOST_AT_HEEL:
        text = f"{count} 16d common nails at each would find no room: closer rafters, a ridge beam, or bolts"
    return HeelNails(text, "NDS 12.3", force, value, count, count <= MOST_AT_HEEL)


PER_NAIL = 15.0 * DIAMETER * 5.0 * DIAMETER
"""Of a lap that each nail takes up: apart along the grain and across it in wood that is not prebored (NDS commentary, Table C12.1.6.6)."""


def lap_nails(species: str, thin: float, wide: float, force: float) -> HeelNails:
    """Return the nails where two plates so thin and wide lap at a corner that hold a pull along one of them, N at normal duration."""
    value, room = nail_value(species, thin), math.floor(wide**2 / PER_NAIL + 1e-9)
    count = max(math.ceil(force / value - 1e-9), 2)
    text = f"{count} 16d common nails in each lap at its corners, as many on each side of a splice"
    return HeelNails(text, "NDS 12.3", force, value, count, count <= room)


def collar_nails(species: tuple[str, str], thin: float, lap: float, force: float) -> HeelNails:
    """Return the nails of a collar tie at each of its rafters that hold a pull along it, N at normal duration, three at least (IRC Table
    R602.3(1): three 10d); ``thin``: the thinner of them, mm, ``lap``: over how much they lie side by side, mm2.
    """
    value, room = min(nail_value(wood, thin) for wood in species), math.floor(lap / PER_NAIL + 1e-9)
    count = max(math.ceil(force / value - 1e-9), 3)
    return HeelNails(f"{count} 16d common nails at each end", "NDS 12.3", force, value, count, count <= room)


def block_nails(species: str, thin: float, depth: float, long: float, force: float) -> HeelNails:
    """Return the nails of a block beside a board as deep, both so thin, that bring a force into it across the grain, N at normal duration."""
    value, room = nail_value(species, thin), math.floor(depth * long / PER_NAIL + 1e-9)
    count = max(math.ceil(force / value - 1e-9), 4)
    return HeelNails(f"{count} 16d common nails each, staggered", "NDS 12.3", force, value, count, count <= room)


LEAST_INTO = 6.0 * DIAMETER
"""A nail that reaches less into what holds it counts for nothing (NDS 12.1.6.4)."""
FROM_EDGE, ALONG_STUD = 5.0 * DIAMETER, 15.0 * DIAMETER
"""How far nails stay from the edges of a ledger, and apart along the grain of a stud, in wood that is not prebored (NDS commentary, Table
C12.1.6.6, from memory; of edges the double)."""
COLUMNS = 2
"""Of nails side by side in a stud, staggered."""


def ledger_nails(
    species: tuple[str, str], thin: float, gap: float, main: float, room: float, force: float
) -> LedgerNails:
    """Return the nails through a ledger and sheathing into a stud that hold a force across the ledger, N at normal duration; ``room``: over
    how much height both lie behind one another, mm.
    """
    into = min(LENGTH - thin - gap, main)
    fes, fem = (16_600.0 * GRAVITY.get(wood, min(GRAVITY.values())) ** 1.84 * PSI for wood in species)
    value = 0.0
    if into >= LEAST_INTO:
        value = across_a_gap(DIAMETER, thin, into, gap, fes, fem, STEEL) * min(into / (10.0 * DIAMETER), 1.0)
    rows = math.floor((room - 2.0 * FROM_EDGE) / ALONG_STUD + 1e-9) + 1 if room >= 2.0 * FROM_EDGE else 0
    number = max(math.ceil(force / value - 1e-9), 2) if value > 0.0 else 0
    holds = COLUMNS * rows
    text = f"{number} 16d common nails" if 0 < number <= holds else "no nails that find room"
    return LedgerNails(text, "NDS 12.3, AWC TR 12", force, value, number, holds)
