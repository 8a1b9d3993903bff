"""How things are called in findings."""

from collections import Counter
from collections.abc import Iterable, Sequence

from balken.derived.model import Model
from balken.model.lookup import numbers, wall_label
from balken.model.records import KIND_OF, Record


def counted(records: Iterable[Record]) -> str:
    """Return how many of each kind there are: '2 walls, 1 floor'."""
    kinds = Counter(KIND_OF[type(record)] for record in records)
    return ", ".join(f"{n} {kind.plural if n > 1 else kind.noun}" for kind, n in kinds.items())


def all_of(names: Iterable[str]) -> str:
    """Return names in a row: 'Wall 1, Wall 2 and Column 3'."""
    *first, last = names
    return f"{', '.join(first)} and {last}" if first else last


def in_one(faults: Sequence[str]) -> str:
    """Return faults as one sentence: 'A notch is too deep; it lies in the middle third.'"""
    said = "; ".join(faults)
    return f"{said[0].upper()}{said[1:]}."


def pad_label(c: Model, pad_id: str) -> str:
    """Return how a pad is called: 'Pad 3'."""
    return f"Pad {numbers(c.project.pads).get(pad_id, 0)}"


def footing_label(c: Model, thing: str) -> str:
    """Return how a pad or the footing of a run (by its id) is called."""
    run = next((r for r in c.runs if r.id == thing), None)
    return pad_label(c, thing) if run is None else f"{run.foundation.name}, {wall_label(c.project, run.wall)}"
