"""A stack of levels typed in one go: "footing -4'8, ground -1'8, floor 0, plate 8'1 1/8"; and some to begin with."""

import re
from typing import NamedTuple

import msgspec

from balken.model.errors import EditError
from balken.model.kinds.level import Level, LevelRole
from balken.model.lookup import next_id
from balken.model.records import Project
from balken.model.rules import check
from balken.units import UnitError, Units, parse_length

ROLES: tuple[tuple[str, LevelRole], ...] = (
    ("footing", "top of footing"),
    ("foundation", "top of foundation"),
    ("ground", "ground"),
    ("earth", "ground"),
    ("slab", "slab"),
    ("plate", "plate"),
    ("ridge", "ridge"),
    ("floor", "floor"),
)
"""What a word in a level's name says of its role."""

STACKS: dict[str, dict[Units, str]] = {
    "crawl space": {
        Units.IMPERIAL: 'Top of footing -4\'-8", Ground -1\'-8", Top of foundation -11 1/2", Floor 1 0, Plate 8\'-1 1/8"',
        Units.METRIC: "Top of footing -1400, Ground -500, Top of foundation -300, Floor 1 0, Plate 2450",
    },
    "basement": {
        Units.IMPERIAL: 'Top of footing -8\'-8", Basement slab -8\'-4", Ground -1\'-8", Top of foundation -11 1/2", Floor 1 0, '
        "Plate 8'-1 1/8\"",
        Units.METRIC: "Top of footing -2650, Basement slab -2550, Ground -500, Top of foundation -300, Floor 1 0, Plate 2450",
    },
    "slab on ground": {
        Units.IMPERIAL: 'Top of footing -2\'-8", Ground -8", Top of foundation 0, Slab 0, Floor 1 0, Plate 8\'-1 1/8"',
        Units.METRIC: "Top of footing -800, Ground -200, Top of foundation 0, Slab 0, Floor 1 0, Plate 2450",
    },
}
"""Sets of levels to begin with, in whole figures of either kind of units (common practice, no source)."""


class Typed(NamedTuple):
    """A level as it was typed."""

    name: str
    role: LevelRole
    height: float


def parse_stack(text: str, units: Units) -> list[Typed]:
    """Read levels, parted by commas or semicolons, each a name and a height; raises EditError."""
    found = []
    for part in re.split(r"[,;\n]", text):
        if not part.strip():
            continue
        name, height = _parted(part.strip(), units)
        role: LevelRole = next((role for word, role in ROLES if word in name.lower()), "other")
        found.append(Typed(name[0].upper() + name[1:], role, height))
    if not found:
        raise EditError("no level is typed.", "Levels", "Type such as: footing -4'8, floor 0, plate 8'1 1/8.")
    return found


def _parted(part: str, units: Units) -> tuple[str, float]:
    """Part a name from the height behind it: the longest height that can be read."""
    words = part.split()
    for k in range(1, len(words)):
        try:
            return " ".join(words[:k]), parse_length(" ".join(words[k:]).replace("\u2212", "-"), units)
        except UnitError:
            continue
    raise EditError(f"'{part}' is no name with a height behind it.", "Levels", "Type such as: ground -1'8.")


def set_stack(project: Project, text: str) -> Project:
    """Bring the levels of a project to those typed: those there by name, or alone in their role, are moved, others added; none goes.

    Raises EditError.
    """
    typed, levels = parse_stack(text, project.units), list(project.levels)
    for one in typed:
        there = [i for i, v in enumerate(levels) if v.name.strip().lower() == one.name.lower() and not v.removed]
        alike = [i for i, v in enumerate(levels) if v.role == one.role and not v.removed]
        if not there and one.role != "other" and len(alike) == 1 and sum(t.role == one.role for t in typed) == 1:
            there = alike
        if there:
            levels[there[0]] = msgspec.structs.replace(levels[there[0]], height=one.height)
            continue
        made = msgspec.structs.replace(project, levels=tuple(levels))
        levels.append(Level(id=next_id(made, Level), name=one.name, role=one.role, height=one.height))
    return check(msgspec.structs.replace(project, levels=tuple(levels)))
