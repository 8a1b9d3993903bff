"""What is selected, sorted by kinds with their counts: a region takes many kinds at once, and an edit is for one of them."""

from collections.abc import Iterable
from typing import NamedTuple

from balken.derived.model import Model
from balken.framing.roles import ROLES
from balken.model.lookup import by_id, find
from balken.model.naming import grid_and_axis
from balken.model.records import KIND_OF, Pad, Project


class Selected(NamedTuple):
    """Things of one kind: what one and several of them are called, their names."""

    noun: str
    plural: str
    refs: tuple[str, ...]

    @property
    def counted(self) -> str:
        """How many: 8 columns."""
        return f"{len(self.refs)} {self.plural if len(self.refs) > 1 else self.noun}"


def owners_of_pads(model: Model, refs: Iterable[str]) -> tuple[str, ...]:
    """Return things with pads in place of their concrete and piers, which have no size of their own."""
    pads = by_id(model.project.pads)
    found: dict[str, None] = {}
    for ref in refs:
        piece = model.piece(ref)
        found[piece.owner if piece is not None and piece.owner in pads else ref] = None
    return tuple(found)


def kinds_of(project: Project, model: Model, refs: Iterable[str]) -> list[Selected]:
    """Return what is selected by kinds, in the order in which they are met."""
    rows: dict[tuple[str, str], dict[str, None]] = {}
    for ref in owners_of_pads(model, refs):
        record = find(project, ref)
        if record is not None:
            kind = KIND_OF[type(record)]
            words = ("pad", "pads") if isinstance(record, Pad) else (kind.noun, kind.plural)
        elif (piece := model.piece(ref)) is not None:
            words = (piece.role, f"{piece.role}s" if not piece.role.endswith("s") else piece.role)
            words = (ROLES[piece.role].noun, words[1]) if piece.role in ROLES else words
        elif grid_and_axis(ref)[1]:
            words = ("axis", "axes")
        else:
            continue
        rows.setdefault(words, {})[ref] = None
    return [Selected(noun, plural, tuple(found)) for (noun, plural), found in rows.items()]


def named(kinds: Iterable[Selected]) -> str:
    """Return all kinds in words: 3 walls, 8 columns."""
    return ", ".join(kind.counted for kind in kinds)
