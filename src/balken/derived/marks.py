"""Marks: J3, H1, F2, W4.  Given out from the finished frame, alike for alike; what nobody changes keeps its mark.

Lumber is alike when it is of one role, section, species and grade and cut to one length, with cheeks that are alike or the other hand; a footing when it is as wide,
as thick and has the same bars.  Walls, slabs and decks have each its own.
"""

import math
from collections.abc import Iterable, Mapping
from typing import TYPE_CHECKING, Any

from balken.catalog.sections import section
from balken.design.stud_walls import FramedWall
from balken.framing.pieces import Piece, cut_length
from balken.framing.roles import ROLES
from balken.framing.studs import TRIMMED
from balken.geometry.trimmed import leaning_of
from balken.model.lookup import numbers
from balken.remembered import remembered
from balken.units import Units

if TYPE_CHECKING:
    from balken.derived.model import Model

Alike = tuple[Any, ...]
"""What those that share a mark have in common; it begins with the role and sorts."""


def marks(model: "Model") -> Mapping[str, str]:
    """Return the mark of each member, column, wall, opening, run and pad by its name or id."""
    units = model.project.units
    rows: list[tuple[str, Alike]] = []
    for group in model.groups:
        rows += _of_pieces(group, units)
    for wall in model.framed.values():
        rows += _of_sticks(wall, units)
    edited = model.hand_edited
    if edited:
        rows = [(name, (*alike, "by hand") if name in edited else alike) for name, alike in rows]
    found = _given_out(rows)
    found |= {name: f"{found[name]}{BY_HAND}" for name in edited if name in found}
    for letter, records in ((WALL, model.project.walls), (OPENING, model.project.openings)):
        found |= {name: f"{letter}{number}" for name, number in numbers(records).items()}
    found |= footing_marks(model)
    return found


WALL, OPENING = "W", "O"
BY_HAND = "*"
"""Stands behind the mark of what has a hand edit."""


def footing_marks(model: "Model") -> dict[str, str]:
    """Return the mark of each run's footing (by the run) and each pad (by its id), in the order of the project."""
    strips = [(r, (round(f.width), round(f.depth), f.design.bars)) for r, f in model.footings.items()]
    pads = [
        (v, (round(r.design.width), round(r.design.length), round(r.design.thickness), r.design.bars))
        for v, r in model.pads.items()
    ]
    found: dict[str, str] = {}
    for role, made in (("strip footing", strips), ("pad footing", pads)):
        kinds: dict[object, str] = {}
        for name, kind in made:
            kinds.setdefault(kind, f"{ROLES[role].mark}{len(kinds) + 1}")
            found[name] = kinds[kind]
    return found


def _given_out(rows: Iterable[tuple[str, Alike]]) -> dict[str, str]:
    """Number what is alike within each role: by section, the longest first."""
    groups: dict[Alike, list[str]] = {}
    for name, alike in rows:
        groups.setdefault(alike, []).append(name)
    count: dict[str, int] = {}
    found: dict[str, str] = {}
    for alike in sorted(groups):
        role = alike[0]
        count[role] = count.get(role, 0) + 1
        found.update(dict.fromkeys(groups[alike], f"{ROLES[role].mark}{count[role]}"))
    return found


OUT = 2e5
"""What is cut out of rafters is told apart in steps of so much, less than two notches take, mm3."""


@remembered(4_000)
def _of_pieces(group: tuple[Piece, ...], units: Units) -> tuple[tuple[str, Alike], ...]:
    found: list[tuple[str, Alike]] = []
    for i, piece in enumerate(group):
        row = ROLES[piece.role]
        if row.lumber or row.post or row.beam:
            made_of = (piece.section, piece.material, piece.species, piece.grade)
            leans = leaning_of(piece.solid)
            cheeks = min(leans.hands) if leans is not None else ()
            cut = _cut_out(piece) if piece.role == "rafter" else ()
            found.append((piece.key, (piece.role, *made_of, -round(cut_length(piece.length, units), 3), cheeks, *cut)))
        else:
            found.append((piece.key, (piece.role, piece.owner, piece.wall, f"{i:04d}")))
    return tuple(found)


def _cut_out(piece: Piece) -> tuple[int, int]:
    """Return how many corners a rafter has and about how much is cut out of it: those alike but for a bird's mouth or notches are of other
    kinds.
    """
    lumber = section(piece.section)
    lost = lumber.breadth * lumber.depth * piece.length - piece.volume
    return len(piece.solid.corners()), math.floor(lost / OUT + 0.137)


@remembered(4_000)
def _of_sticks(framed: FramedWall, units: Units) -> tuple[tuple[str, Alike], ...]:
    wall = framed.line.wall
    f = wall.framing
    found: list[tuple[str, Alike]] = []
    for stick in framed.wall.sticks:
        trimmed = stick.role in TRIMMED
        lumber = (f.header_species, f.header_grade) if trimmed else (f.species, f.grade)
        alike = (stick.role, stick.size, "timber", *lumber, -round(cut_length(stick.length, units), 3))
        found.append((stick.key(wall.id), alike))
    return tuple(found)
